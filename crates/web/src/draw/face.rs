//! The face from above at true proportion: its outline, its cuts or holes, a ruler. The same drawing serves the screen
//! and the sheet that is printed at one to one.

use super::{n, text};
use rauchkeller_core::skin::{Holes, Lattice, Outline, Stroke};
use rauchkeller_core::units::LengthIn;
use std::fmt::Write;

/// What is done to the skin.
pub enum Work<'a> {
    /// Strokes, in the order of the hand.
    Strokes(&'a [Stroke]),
    /// Holes.
    Holes(&'a Holes),
}

/// How large it is drawn.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Size {
    /// As wide as its place on the screen.
    Screen,
    /// One millimetre is one millimetre.
    OneToOne,
}

/// Room round the face for ruler and edge, mm.
const EDGE: f64 = 12.0;

/// Draws a face; y points away from the cook, as it lies on the board.
pub fn draw_face(outline: &Outline, work: &Work, size: Size, name: &str) -> String {
    let Some((left, low, right, high)) = outline.bounds() else { return String::new() };
    let (wide, tall) = (right - left + 2.0 * EDGE, high - low + 2.0 * EDGE + 10.0);
    let at = |(x, y): (f64, f64)| (x - left + EDGE, high - y + EDGE);
    let sized = match size {
        Size::Screen => String::new(),
        Size::OneToOne => format!(r#" xmlns="http://www.w3.org/2000/svg" width="{}mm" height="{}mm""#, n(wide), n(tall)),
    };
    let mut svg = format!(r#"<svg class="face"{sized} viewBox="0 0 {} {}" role="img" aria-label="{}">"#, n(wide), n(tall), text(name));
    let ring = |points: &[(f64, f64)]| {
        let mut d = String::new();
        for (i, point) in points.iter().enumerate() {
            let (x, y) = at(*point);
            let _ = write!(d, "{}{} {}", if i == 0 { "M" } else { "L" }, n(x), n(y));
        }
        d + "Z"
    };
    let d: String = outline.rings().iter().map(|points| ring(points)).collect();
    let _ = write!(svg, r##"<path class="face-outline" fill="#dcb587" fill-rule="evenodd" stroke="#4a3220" stroke-width="0.7" d="{d}"/>"##);
    match work {
        Work::Strokes(strokes) => {
            let mut d = String::new();
            for stroke in *strokes {
                let ((x1, y1), (x2, y2)) = (at(stroke.from), at(stroke.to));
                let _ = write!(d, "M{} {}L{} {}", n(x1), n(y1), n(x2), n(y2));
            }
            let _ = write!(svg, r##"<path class="face-strokes" fill="none" stroke="#5a1f12" stroke-width="0.8" d="{d}"/>"##);
        }
        Work::Holes(holes) => svg.push_str(&lattice(holes, &d, &at)),
    }
    // A bar of whole centimetres, the face's own width and no more.
    let bar = ((right - left) / 10.0).floor().min(10.0) * 10.0;
    let y = tall - 6.0;
    let _ = write!(
        svg,
        r##"<path class="face-ruler" fill="none" stroke="#4a3220" stroke-width="0.6" d="M{EDGE} {0}h{bar}M{EDGE} {1}v3M{2} {1}v3"/>"##,
        n(y),
        n(y - 1.5),
        n(EDGE + bar)
    );
    let _ = write!(
        svg,
        r##"<text class="face-mm" x="{}" y="{}" font-size="6" font-family="sans-serif" fill="#4a3220">{bar} mm</text></svg>"##,
        n(EDGE + bar + 2.0),
        n(y + 2.0)
    );
    svg
}

/// Twenty thousand holes are one pattern, not twenty thousand nodes: a cell repeated, clipped to the face. The largest gap is marked.
fn lattice(holes: &Holes, clip: &str, at: &impl Fn((f64, f64)) -> (f64, f64)) -> String {
    let Some(first) = holes.at.first() else { return String::new() };
    let s = holes.spacing.in_mm();
    let (x, y) = at(*first);
    let (high, second) = match holes.lattice {
        Lattice::Square => (s, String::new()),
        Lattice::Hexagonal => {
            let rise = s * 3.0_f64.sqrt() / 2.0;
            (2.0 * rise, format!(r#"<circle cx="{0}" cy="{1}" r="0.45"/>"#, n(s), n(rise + rise / 2.0)))
        }
    };
    // The cell is laid so that its first hole falls on the first hole of the lattice.
    let (dx, dy) = (s / 2.0, high / 4.0);
    let dot = format!(r#"<circle cx="{0}" cy="{1}" r="0.45"/>"#, n(dx), n(dy));
    let wrapped = if second.is_empty() { String::new() } else { second.replace(&format!("cx=\"{}\"", n(s)), "cx=\"0\"") + &second };
    let (gx, gy) = at(holes.gap_at);
    format!(
        r##"<defs><clipPath id="face-clip"><path clip-rule="evenodd" d="{clip}"/></clipPath><pattern id="face-holes" patternUnits="userSpaceOnUse" x="{}" y="{}" width="{}" height="{}"><g fill="#4a1a10">{dot}{wrapped}</g></pattern></defs><rect width="100%" height="100%" fill="url(#face-holes)" clip-path="url(#face-clip)"/><circle class="face-gap" cx="{}" cy="{}" r="{}" fill="none" stroke="#9b1f1c" stroke-width="0.7"/>"##,
        n6(x - dx),
        n6(y - dy),
        n6(s),
        n6(high),
        n(gx),
        n(gy),
        n(holes.largest_gap.in_mm())
    )
}

/// Six decimals: over eighty holes two would walk off by half a millimetre.
fn n6(value: f64) -> String {
    crate::words::trim(value, 6)
}

#[cfg(test)]
mod tests {
    use super::*;
    use rauchkeller_core::skin::{Pattern, ScoreAsk, pierce_outline, score};
    use rauchkeller_core::units::millimetres;

    fn slab() -> Outline {
        Outline::rectangle(millimetres(300.0), millimetres(220.0), millimetres(0.0)).unwrap()
    }

    #[test]
    fn every_stroke_is_drawn_and_the_sheet_is_true() {
        let ask = ScoreAsk { pattern: Pattern::Parallel, spacing: millimetres(8.0), direction: 0.0, margin: millimetres(5.0) };
        let strokes = score(&slab(), ask).unwrap().strokes;
        let svg = draw_face(&slab(), &Work::Strokes(&strokes), Size::OneToOne, "belly");
        let drawn = svg.split("face-strokes").nth(1).unwrap().split("d=\"").nth(1).unwrap().split('"').next().unwrap();
        assert_eq!(drawn.matches('M').count(), 27);
        // 300 + 2 × 12 mm wide, and one unit of the picture is one millimetre.
        assert!(svg.contains("width=\"324mm\"") && svg.contains("viewBox=\"0 0 324 "));
        assert!(svg.contains("h100M") && svg.contains(">100 mm<"));
    }

    #[test]
    fn twenty_thousand_holes_stay_a_small_picture() {
        let holes = pierce_outline(&slab(), Lattice::Hexagonal, 25.0, millimetres(0.0)).unwrap();
        assert!(holes.at.len() > 16_000);
        let svg = draw_face(&slab(), &Work::Holes(&holes), Size::Screen, "belly");
        assert!(svg.len() < 3000 && svg.contains("url(#face-holes)"), "{}", svg.len());
    }
}
