//! The piece unfolded into its faces at true proportion: where the salt goes, grain by grain.

use super::outline::Outline;
use super::width::Width;
use super::{n, scatter, text};
use crate::words::{grams, trim};
use rauchkeller_contract::{FaceDoc, PlanDoc};
use rauchkeller_core::piece::{Cut, Family};
use std::fmt::Write;

/// Room for the drawing, px.
fn room(width: Width) -> (f64, f64, &'static str) {
    match width {
        Width::Wide => (620.0, 270.0, "wide"),
        Width::Narrow => (360.0, 230.0, "narrow"),
    }
}

/// A part of the net: one face may lie in several parts, of which one carries its label.
struct Part {
    face: &'static str,
    outline: Outline,
    /// Whether the label stands here; a part too small for it is named below the net.
    labelled: bool,
}

fn part(face: &'static str, outline: Outline, labelled: bool) -> Part {
    Part { face, outline, labelled }
}

/// Draws the faces of a plan with the grams that go on each. Of equal portions one is drawn; where portions differ,
/// nothing: each is its own piece then.
pub fn draw_unfolded(plan: &PlanDoc, width: Width) -> String {
    let portions = &plan.dose.portions;
    let Some(first) = portions.first().filter(|_| portions.len() > 1) else { return draw(plan, "", width) };
    let equal = portions.iter().all(|p| (p.weight_g - first.weight_g).abs() < 0.5 && (p.g - first.g).abs() < 0.05);
    if !equal {
        return String::new();
    }
    let mut one = plan.clone();
    for face in &mut one.dose.by_face {
        let share = 1.0 / portions.len() as f64;
        (face.g, face.scale_g, face.mix_g, face.area_dm2) =
            (face.g * share, face.scale_g * share, face.mix_g * share, face.area_dm2 * share);
    }
    draw(&one, &format!("one of {}, ", portions.len()), width)
}

fn draw(plan: &PlanDoc, which: &str, width: Width) -> String {
    let (room_x, room_y, class) = room(width);
    let Some(cut) = Cut::find(&plan.request.cut) else { return String::new() };
    let parts = net(cut, plan);
    if parts.is_empty() {
        return String::new();
    }
    let (left, top, right, bottom) = parts
        .iter()
        .map(|p| p.outline.bounds())
        .fold((f64::MAX, f64::MAX, f64::MIN, f64::MIN), |a, b| (a.0.min(b.0), a.1.min(b.1), a.2.max(b.2), a.3.max(b.3)));
    let px = (room_x / (right - left)).min(room_y / (bottom - top));
    let (wide, high) = ((right - left) * px, (bottom - top) * px);
    let at = |(x, y): (f64, f64)| ((x - left) * px + (room_x - wide) / 2.0, (y - top) * px + 4.0);
    let mut svg =
        format!(r#"<svg class="unfolded unfolded-{class}" viewBox="0 0 {room_x} HIGH" role="img" aria-label="{}">"#, text(&spoken(plan)));
    let each = grain(plan);
    let mut below: Vec<String> = Vec::new();
    for part in &parts {
        let Some(face) = plan.dose.by_face.iter().find(|f| f.face == part.face) else { continue };
        let points: Vec<String> = part.outline.0.iter().map(|p| at(*p)).map(|(x, y)| format!("{} {}", n(x), n(y))).collect();
        let _ = write!(svg, r#"<path class="face-{}{}" d="M{}Z"/>"#, face.kind, bare(face), points.join("L"));
        let share = part.outline.area_mm2() / parts.iter().filter(|p| p.face == part.face).map(|p| p.outline.area_mm2()).sum::<f64>();
        svg.push_str(&grains(&part.outline, (salt_on(face) * share / each).round() as usize, &at));
        if !part.labelled {
            continue;
        }
        let (l, t, r, b) = part.outline.bounds();
        let (mid, y) = at((f64::midpoint(l, r), f64::midpoint(t, b)));
        if (r - l) * px > 96.0 && (b - t) * px > 66.0 {
            svg.push_str(&label(face, mix_name(plan), mid, y));
        } else {
            below.push(one_line(face, mix_name(plan)));
        }
    }
    // What found no room on its face is named under the net: on one line where there is room for that.
    let lines = if width == Width::Wide { vec![below.join(" · ")] } else { below };
    let mut y = high + 8.0;
    for line in lines.iter().filter(|line| !line.is_empty()) {
        y += 19.0;
        let _ = write!(svg, r#"<text class="label" x="{}" y="{}" text-anchor="middle">{}</text>"#, n(room_x / 2.0), n(y), text(line));
    }
    y += 19.0;
    let _ = write!(
        svg,
        r#"<text class="tick" x="{}" y="{}" text-anchor="middle">{which}unfolded, to scale; a grain is {} g</text></svg>"#,
        n(room_x / 2.0),
        n(y),
        trim(each, 2)
    );
    svg.replacen("HIGH", &n(y + 8.0).to_string(), 1)
}

fn bare(face: &FaceDoc) -> &'static str {
    if face.is_bare() { " face-bare" } else { "" }
}

/// The one number of a face, and what stands under its name.
fn on_face(face: &FaceDoc, mix: &str) -> (String, String) {
    match (face.scale_g >= 0.05, face.mix_g >= 0.05) {
        (false, false) => ("bare".into(), "clean and dry".into()),
        (true, false) => (format!("{} g", grams(face.scale_g)), format!("{} g/dm²", trim(face.g_per_dm2, 1))),
        (false, true) => (format!("{} g", grams(face.mix_g)), mix.to_owned()),
        (true, true) => (format!("{} g", grams(face.scale_g)), format!("+ {} g {mix}", grams(face.mix_g))),
    }
}

fn one_line(face: &FaceDoc, mix: &str) -> String {
    if face.is_bare() {
        return format!("{}: kept bare", face.name);
    }
    let (figure, under) = on_face(face, mix);
    format!("{}: {figure}, {under}", face.name)
}

fn mix_name(plan: &PlanDoc) -> &str {
    plan.dose.mix.as_ref().map_or("mix", |mix| mix.name.as_str())
}

fn spoken(plan: &PlanDoc) -> String {
    format!("The faces: {}", plan.dose.by_face.iter().map(|f| one_line(f, mix_name(plan))).collect::<Vec<_>>().join("; "))
}

/// Salt on a face as the scale would show it, what the mix brings with it included.
fn salt_on(face: &FaceDoc) -> f64 {
    (face.g_per_dm2 * face.area_dm2).max(face.scale_g)
}

/// Grams first, the name and what is under it, on a ground that keeps the grains away from the letters.
fn label(face: &FaceDoc, mix: &str, x: f64, y: f64) -> String {
    let (figure, under) = on_face(face, mix);
    let half = (face.name.chars().count().max(under.chars().count()) as f64 * 3.9).max(figure.chars().count() as f64 * 7.5) + 8.0;
    format!(
        r#"<rect class="face-ground" x="{}" y="{}" width="{}" height="66"/><text class="face-g" x="{x}" y="{}" text-anchor="middle">{figure}</text><text class="tick" x="{x}" y="{}" text-anchor="middle">{}</text><text class="tick" x="{x}" y="{}" text-anchor="middle">{}</text>"#,
        n(x - half),
        n(y - 35.0),
        n(2.0 * half),
        n(y - 9.0),
        n(y + 9.0),
        text(&face.name),
        n(y + 25.0),
        text(&under),
        x = n(x),
    )
}

/// Grams a grain stands for: few enough grains to draw, many enough to see.
fn grain(plan: &PlanDoc) -> f64 {
    let all: f64 = plan.dose.by_face.iter().map(salt_on).sum();
    [0.05, 0.1, 0.2, 0.5, 1.0].into_iter().find(|g| all / g <= 420.0).unwrap_or(2.0)
}

/// Salt strewn evenly over an outline, as one path of dots.
fn grains(outline: &Outline, count: usize, at: &impl Fn((f64, f64)) -> (f64, f64)) -> String {
    let (l, t, r, b) = outline.bounds();
    let (mut d, mut found) = (String::new(), 0);
    for i in 0..(count * 12) as u64 {
        if found == count {
            break;
        }
        // A low-discrepancy sequence (the plastic number’s), shaken a little: even, but not a grid.
        let u = (0.5 + 0.754_877_666 * i as f64 + 0.02 * scatter(i)).fract();
        let v = (0.5 + 0.569_840_291 * i as f64 + 0.02 * scatter(i + 7919)).fract();
        let (x, y) = (l + (r - l) * u, t + (b - t) * v);
        if outline.holds(x, y) {
            let (px, py) = at((x, y));
            let _ = write!(d, "M{} {}h0", n(px), n(py));
            found += 1;
        }
    }
    if d.is_empty() { String::new() } else { format!(r#"<path class="grains" d="{d}"/>"#) }
}

/// The net of a family, mm.
fn net(cut: Cut, plan: &PlanDoc) -> Vec<Part> {
    let (long, wide, thick) = (plan.request.length_mm, plan.request.width_mm, plan.request.salt_thickness_mm);
    let dm2 = |id: &str| plan.dose.by_face.iter().find(|f| f.face == id).map_or(0.0, |f| f.area_dm2);
    let has = |id: &str| plan.dose.by_face.iter().any(|f| f.face == id);
    let cover = if has("skin") { "skin" } else { "fat" };
    match cut.family {
        Family::SkinSlab | Family::CapSlab => slab(long, wide, thick, cover),
        Family::Steak => {
            let (a, b) = (Outline::rectangle(0.0, 0.0, long, wide), Outline::rectangle(long + 12.0, 0.0, long, wide));
            let edge = Outline::rectangle(0.0, wide + 14.0, 2.0 * (long + wide), thick);
            vec![part("cut", a, true), part("cut", b, false), part("edge", edge, true)]
        }
        Family::Roast | Family::Rack => {
            // The mantle rolled out, the cap in its middle, the two ends beside it.
            let round = std::f64::consts::PI * thick;
            let end = thick / 2.0;
            let third = if has(cover) { round / 3.0 } else { 0.0 };
            let side = (round - third) / 2.0;
            let x = thick + 10.0;
            let mut parts = vec![
                part("cut", Outline::ellipse((end, long / 2.0), end, end), true),
                part("meat", Outline::rectangle(x, 0.0, side, long), true),
                part("meat", Outline::rectangle(x + side + third, 0.0, side, long), false),
                part("cut", Outline::ellipse((x + round + 10.0 + end, long / 2.0), end, end), false),
            ];
            if third > 0.0 {
                parts.push(part(if cover == "skin" { "skin" } else { "fat" }, Outline::rectangle(x + side, 0.0, third, long), true));
            }
            parts
        }
        Family::Joint => {
            const HAM: [(f64, f64); 7] = [(0.0, 3.0), (2.0, 0.0), (7.0, 0.0), (11.0, 2.4), (15.0, 3.4), (14.0, 6.0), (4.0, 8.0)];
            let mut parts = Vec::new();
            let mut x = 0.0;
            for id in ["meat", cover, "cut"] {
                if dm2(id) <= 0.0 {
                    continue;
                }
                let id = match id {
                    "meat" => "meat",
                    "skin" => "skin",
                    "fat" => "fat",
                    _ => "cut",
                };
                let outline = if id == "cut" {
                    let r = (dm2(id) * 1e4 / std::f64::consts::PI).sqrt();
                    Outline::ellipse((x + r, r), r, r)
                } else {
                    Outline::of_area(&HAM, dm2(id), x, 0.0)
                };
                x = outline.bounds().2 + 14.0;
                parts.push(part(id, outline, true));
            }
            parts
        }
        Family::Bird | Family::Crown | Family::FlatBird => bird(&dm2, has("under-skin")),
    }
}

/// Meat side in the middle, the four cut sides folded out, the covered side beside it.
fn slab(long: f64, wide: f64, thick: f64, cover: &str) -> Vec<Part> {
    vec![
        part("meat", Outline::rectangle(thick, thick, long, wide), true),
        part("cut", Outline::rectangle(thick, thick + wide, long, thick), true),
        part("cut", Outline::rectangle(thick, 0.0, long, thick), false),
        part("cut", Outline::rectangle(0.0, thick, thick, wide), false),
        part("cut", Outline::rectangle(thick + long, thick, thick, wide), false),
        part(if cover == "skin" { "skin" } else { "fat" }, Outline::rectangle(2.0 * thick + long, thick, long, wide), true),
    ]
}

/// Breast, legs, back with wings, and the cavity turned out, each as large as its area.
fn bird(dm2: &impl Fn(&str) -> f64, loosened: bool) -> Vec<Part> {
    const BREAST: [(f64, f64); 8] = [(5.0, 0.0), (9.0, 1.0), (10.0, 5.0), (8.0, 10.0), (5.0, 12.5), (2.0, 10.0), (0.0, 5.0), (1.0, 1.0)];
    const LEG: [(f64, f64); 9] =
        [(1.0, 0.0), (6.0, 0.0), (7.5, 4.0), (5.4, 9.0), (4.6, 14.0), (5.4, 17.0), (3.0, 17.4), (2.6, 12.0), (0.0, 5.0)];
    const BACK: [(f64, f64); 12] = [
        (5.0, 0.0),
        (11.0, 0.0),
        (13.0, 2.2),
        (18.0, 3.0),
        (17.0, 6.0),
        (12.5, 6.6),
        (11.6, 13.0),
        (8.0, 15.0),
        (4.4, 13.0),
        (3.5, 6.6),
        (-1.0, 6.0),
        (-2.0, 3.0),
    ];
    let breast = if loosened { "under-skin" } else { "breast" };
    let mut parts = Vec::new();
    let first = Outline::of_area(&BREAST, dm2(breast), 0.0, 0.0);
    let x = first.bounds().2 + 16.0;
    parts.push(part(breast, first, true));
    // A crown has none.
    let x = if dm2("legs") > 0.0 {
        let leg = Outline::of_area(&LEG, dm2("legs") / 2.0, x, 0.0);
        let x = leg.bounds().2 + 10.0;
        parts.push(part("legs", leg, true));
        let mirrored: Vec<(f64, f64)> = LEG.iter().rev().map(|(px, py)| (7.5 - px, *py)).collect();
        let leg = Outline::of_area(&mirrored, dm2("legs") / 2.0, x, 0.0);
        let x = leg.bounds().2 + 16.0;
        parts.push(part("legs", leg, false));
        x
    } else {
        x
    };
    let back = Outline::of_area(&BACK, dm2("skin"), x, 0.0);
    let x = back.bounds().2 + 16.0;
    parts.push(part("skin", back, true));
    // The cavity is an open tube: an oval half as wide again as it is high would lie in it.
    let r = (dm2("cavity") * 1e4 / std::f64::consts::PI / 1.4).sqrt();
    parts.push(part("cavity", Outline::ellipse((x + r, r * 1.4), r, r * 1.4), true));
    parts
}

#[cfg(test)]
mod tests {
    use super::*;
    use rauchkeller_contract::plan_from;
    use serde_json::json;

    fn plan(id: &str) -> PlanDoc {
        let cut = Cut::find(id).unwrap();
        let request = json!({"piece": {"cut": id, "weight_g": f64::midpoint(cut.typical_g.0, cut.typical_g.1)}});
        plan_from(&request, &"2026-12-10T09:00[Europe/Vienna]".parse().unwrap()).unwrap()
    }

    #[test]
    fn the_net_of_every_cut_has_the_areas_of_its_faces() {
        for cut in Cut::all() {
            let plan = plan(cut.id);
            let parts = net(cut, &plan);
            for face in &plan.dose.by_face {
                let drawn: f64 = parts.iter().filter(|p| p.face == face.face).map(|p| p.outline.area_mm2() / 1e4).sum();
                assert!((drawn / face.area_dm2 - 1.0).abs() < 0.01, "{} {}: {drawn} of {}", cut.id, face.face, face.area_dm2);
            }
        }
    }

    #[test]
    fn as_many_grains_as_grams() {
        for id in ["pork-belly", "duck-whole", "beef-rib-steak", "lamb-leg"] {
            let plan = plan(id);
            let svg = draw_unfolded(&plan, Width::Wide);
            let drawn = svg.matches("h0").count() as f64 * grain(&plan);
            assert!((drawn - plan.dose.scale_g).abs() < 6.0 * grain(&plan), "{id}: {drawn} of {}", plan.dose.scale_g);
        }
    }

    #[test]
    fn a_mix_is_shown_where_it_goes() {
        let request =
            json!({"piece": {"cut": "pork-belly", "weight_g": 2400}, "mix": {"name": "rub", "recipe": "32 g salt\n68 g sugar\nfor 6 kg"}});
        let plan = plan_from(&request, &"2026-12-10T09:00[Europe/Vienna]".parse().unwrap()).unwrap();
        let mixed: f64 = plan.dose.by_face.iter().map(|f| f.mix_g).sum();
        assert!((mixed - 40.0).abs() < 1e-3 && draw_unfolded(&plan, Width::Wide).contains("g rub"));
    }

    #[test]
    fn a_bare_face_says_so() {
        let svg = draw_unfolded(&plan("pork-belly"), Width::Wide);
        assert!(svg.contains("face-bare") && svg.contains("skin: kept bare"));
    }
}
