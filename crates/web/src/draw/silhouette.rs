//! A small likeness of the whole piece, one a family, so that a cook sees at once which cut is meant.

use rauchkeller_core::piece::{Cut, Family, Species};
use std::fmt::Write;

/// Colours of the pieces themselves; they use none of the four that mean something.
const LEAN: &str = "#a2564f";
const DEEP: &str = "#8a443e";
const FAT: &str = "#ead9b4";
const SKIN: &str = "#d9ad7c";
const BONE: &str = "#f3ead6";

/// Draws a cut: a slab in its layers, a steak from above, a tied roll, a rack on its bones, a joint, a bird.
pub fn draw_silhouette(cut: Cut) -> String {
    let inside = match cut.family {
        Family::SkinSlab => slab(SKIN, cut.bone_fraction > 0.0),
        Family::CapSlab => cap(cut.bone_fraction > 0.0),
        Family::Steak => steak(cut.bone_fraction > 0.0),
        Family::Roast => roast(cut.skin_mm > 0.0, cut.bone_fraction > 0.0),
        Family::Rack => rack(cut.skin_mm > 0.0),
        Family::Joint => joint(cut),
        Family::Bird | Family::Crown => bird(cut),
        Family::FlatBird => flat_bird(),
    };
    format!(r#"<svg class="silhouette" viewBox="0 0 150 88" role="img" aria-label="{}, drawn small">{inside}</svg>"#, cut.name)
}

/// An oblique box: the covered side on top, the layers along its front.
fn slab(top: &str, ribs: bool) -> String {
    let mut svg = format!(
        r#"<path class="line" fill="{top}" d="M10 34L44 12H142L110 34Z"/><path class="line" fill="{DEEP}" d="M110 34L142 12V50L110 74Z"/><path class="line" fill="{LEAN}" d="M10 34H110V74H10Z"/><path fill="{top}" d="M10 34H110v5H10Z"/><path fill="{FAT}" d="M10 39H110v7q-25 5-50 0t-50 0Z"/><path fill="{FAT}" d="M10 57q25-5 50 0t50 0v4q-25 4-50 0t-50 0Z"/>"#
    );
    if ribs {
        for x in [24, 46, 68, 90] {
            let _ = write!(svg, r#"<ellipse class="line" fill="{BONE}" cx="{x}" cy="68" rx="7" ry="4"/>"#);
        }
    }
    svg
}

/// A slab that tapers, under its cap of fat.
fn cap(ribs: bool) -> String {
    let bones = if ribs {
        format!(r#"<path class="line" fill="{BONE}" d="M30 62h14v12H30ZM62 64h14v12H62ZM94 62h14v12H94Z"/>"#)
    } else {
        String::new()
    };
    format!(
        r#"<path class="line" fill="{LEAN}" d="M8 48Q12 26 40 22L128 30Q144 38 142 52L118 68Q60 76 20 66Q6 60 8 48Z"/><path class="line" fill="{FAT}" d="M8 48Q12 26 40 22L128 30Q144 38 142 52Q120 40 70 40Q28 38 8 48Z"/><path class="grain" d="M24 56q30 6 60 4M44 50q36 4 80 0M36 64q30 4 56 0"/>{bones}"#
    )
}

/// From above: the eye of the meat, its rim of fat, and the bone where there is one.
fn steak(bone: bool) -> String {
    let bone = if bone {
        format!(r#"<path class="line" fill="{BONE}" d="M16 70Q8 60 18 48Q30 22 64 10L72 17Q40 32 30 54Q28 66 26 72Z"/>"#)
    } else {
        String::new()
    };
    format!(
        r#"<path class="line" fill="{FAT}" d="M22 66Q10 44 34 24Q62 4 104 12Q142 20 140 46Q136 72 94 78Q48 84 22 66Z"/><path fill="{LEAN}" d="M28 62Q20 44 40 30Q64 12 102 19Q133 26 132 46Q128 65 92 70Q50 74 28 62Z"/><path class="marble" d="M50 40q14-8 26-2t24-6M62 58q12-8 24-4t22-4M92 30q8 4 16 2M44 52q8 4 14 0"/>{bone}"#
    )
}

/// A roll tied with string, its cut end to the front.
fn roast(skin: bool, bone: bool) -> String {
    let cover = if skin { SKIN } else { FAT };
    let bone = if bone { format!(r#"<circle class="line" fill="{BONE}" cx="30" cy="50" r="6"/>"#) } else { String::new() };
    let mut svg = format!(
        r#"<path class="line" fill="{DEEP}" d="M30 20H118Q142 24 142 47Q142 72 118 76H30Z"/><path fill="{cover}" d="M30 20H118Q136 22 140 38Q84 30 30 36Z"/>"#
    );
    for x in [56, 80, 104, 124] {
        let _ = write!(svg, r#"<path class="string" d="M{x} 20q13 28 0 56"/>"#);
    }
    svg + &format!(
        r#"<ellipse class="line" fill="{LEAN}" cx="30" cy="48" rx="21" ry="28"/><path class="marble" d="M18 40q8 6 14 0t10 8M20 60q8-6 18 0"/>{bone}"#
    )
}

/// A loin on its bones, their ends cleaned.
fn rack(skin: bool) -> String {
    let cover = if skin { SKIN } else { FAT };
    let mut svg = String::new();
    for x in [34, 56, 78, 100, 122] {
        let _ = write!(svg, r#"<path class="line" fill="{BONE}" d="M{x} 46Q{} 20 {} 6l7-2Q{} 22 {} 46Z"/>"#, x - 4, x - 8, x + 3, x + 8);
    }
    svg + &format!(
        r#"<path class="line" fill="{LEAN}" d="M12 60Q12 40 32 40H120Q142 42 142 60Q142 80 120 80H32Q12 80 12 60Z"/><path class="line" fill="{cover}" d="M12 60Q12 80 32 80H120Q142 80 142 60Q140 72 118 72H34Q16 72 12 60Z"/><path class="grain" d="M30 52q40 6 90 0M30 62q40 6 90 0"/>"#
    )
}

/// A leg with its shank, a shoulder without.
fn joint(cut: Cut) -> String {
    let cover = if cut.skin_mm > 0.0 { SKIN } else { FAT };
    let shank = cut.id.contains("leg") || cut.id.contains("picnic") || cut.species == Species::Lamb;
    let bone = if shank {
        format!(r#"<path class="line" fill="{BONE}" d="M118 58L138 70q7 1 6 7q-5 6-11 2L112 68Z"/>"#)
    } else if cut.bone_fraction > 0.0 {
        format!(r#"<path class="line" fill="{BONE}" d="M14 46q-8 4-6 12q8 2 12-2Z"/>"#)
    } else {
        String::new()
    };
    let score =
        if cut.skin_mm > 0.0 { r#"<path class="grain" d="M44 20l20 18M62 16l22 22M80 18l20 22M40 38l26-22M58 42l28-24"/>"# } else { "" };
    format!(
        r#"{bone}<path class="line" fill="{LEAN}" d="M12 50Q10 22 44 14Q92 6 112 36L124 58Q122 70 110 70Q88 84 50 80Q14 76 12 50Z"/><path class="line" fill="{cover}" d="M24 24Q44 10 72 12Q104 16 116 44Q92 30 62 40Q34 46 24 24Z"/>{score}"#
    )
}

/// From the side, breast up: body, drumstick, wing, and the way into the cavity.
fn bird(cut: Cut) -> String {
    // Ducks and geese are long and low, chickens round, turkeys deep in the breast.
    let (top, high) = match cut.id {
        "duck-whole" | "goose-whole" => (26, 26),
        "turkey-whole" | "turkey-crown" => (6, 40),
        _ => (14, 34),
    };
    let leg = if cut.id == "turkey-crown" {
        String::new()
    } else {
        format!(
            r#"<path class="line" fill="{SKIN}" d="M92 50Q112 44 122 58L140 66q6 2 4 8q-6 4-10 0L114 72Q92 78 84 66Q82 54 92 50Z"/><circle class="line" fill="{BONE}" cx="141" cy="71" r="4"/>"#
        )
    };
    format!(
        r#"<path class="line" fill="{SKIN}" d="M12 52Q14 {} 52 {top}Q96 {} 118 46Q126 66 104 76Q58 86 28 76Q10 68 12 52Z"/><path class="line" fill="{DEEP}" d="M106 44q14 8 8 24q-10-4-8-24Z"/><path class="line" fill="{FAT}" d="M40 58Q60 46 76 56Q70 72 48 70Q38 66 40 58Z"/><path class="grain" d="M46 62q12-4 22-2M28 48q12-14 34-{}"/>{leg}"#,
        top + 6,
        top - 2,
        high / 3
    )
}

/// From above, opened along the back: two halves of the breast, two legs.
fn flat_bird() -> String {
    format!(
        r#"<path class="line" fill="{SKIN}" d="M56 34Q34 40 22 58q-8 4-6 12q6 4 10-2Q40 66 56 62ZM94 34Q116 40 128 58q8 4 6 12q-6 4-10-2Q110 66 94 62Z"/><path class="line" fill="{SKIN}" d="M75 10Q112 8 110 40Q104 72 75 76Q46 72 40 40Q38 8 75 10Z"/><path class="grain" d="M75 12V74M58 26q-8 14 2 34M92 26q8 14-2 34"/><circle class="line" fill="{BONE}" cx="20" cy="68" r="4"/><circle class="line" fill="{BONE}" cx="130" cy="68" r="4"/>"#
    )
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::collections::HashSet;

    #[test]
    fn every_family_looks_different_and_every_cut_has_its_name() {
        let mut looks = HashSet::new();
        let mut families = HashSet::new();
        for cut in Cut::all() {
            let svg = draw_silhouette(cut);
            assert!(svg.contains(cut.name) && svg.contains("class=\"line\""), "{}", cut.id);
            let body = svg.split_once('>').unwrap().1.to_owned();
            if families.insert(format!("{:?}", cut.family)) {
                assert!(looks.insert(body), "{} looks like another family", cut.id);
            }
        }
        assert_eq!(families.len(), 9);
        let look = |id: &str| draw_silhouette(Cut::find(id).unwrap()).split_once('>').unwrap().1.to_owned();
        assert_ne!(look("duck-whole"), look("turkey-whole"));
        assert_ne!(look("pork-leg"), look("pork-butt"));
    }
}
