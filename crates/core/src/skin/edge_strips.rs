//! Two strips to lay beside the piece, a tick where each line of a family meets them.

use super::outline::Outline;
use super::score::Family;

/// A side of the face.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Side {
    /// At its left end.
    Left,
    /// At its right end.
    Right,
    /// Along its near edge.
    Near,
    /// Along its far edge.
    Far,
}

impl Side {
    /// What a cook calls it.
    pub fn name(self) -> &'static str {
        match self {
            Self::Left => "left end",
            Self::Right => "right end",
            Self::Near => "near edge",
            Self::Far => "far edge",
        }
    }
}

/// One strip.
#[derive(Debug, Clone, PartialEq)]
pub struct EdgeStrip {
    /// Where it lies.
    pub side: Side,
    /// Where the corners of the face lie along it, mm: near or left one first.
    pub corners: (f64, f64),
    /// Tick of each line, in the order of the lines, mm along the same scale. Lines that run askew may meet the strip
    /// beyond the corners.
    pub ticks: Vec<f64>,
}

/// The pair of strips for one family: at both ends where it runs more along the piece, at both edges where it runs across.
///
/// A line at distance c from the origin is −x·sin d + y·cos d = c; it is met with the two sides of the face's bounding box.
pub fn edge_strips(outline: &Outline, family: Family) -> Option<[EdgeStrip; 2]> {
    let (left, low, right, high) = outline.bounds()?;
    let (sin, cos) = family.direction.to_radians().sin_cos();
    let lines = || (0..family.lines).map(|k| family.first + k as f64 * family.spacing);
    let strip = |side, corners, ticks| EdgeStrip { side, corners, ticks };
    Some(if cos.abs() >= sin.abs() {
        let at = |x: f64| lines().map(|c| (c + x * sin) / cos).collect();
        [strip(Side::Left, (low, high), at(left)), strip(Side::Right, (low, high), at(right))]
    } else {
        let at = |y: f64| lines().map(|c| (y * cos - c) / sin).collect();
        [strip(Side::Near, (left, right), at(low)), strip(Side::Far, (left, right), at(high))]
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::skin::{Pattern, ScoreAsk, score};
    use crate::units::millimetres;

    fn strips(pattern: Pattern, direction: f64, spacing: f64) -> Vec<[EdgeStrip; 2]> {
        let slab = Outline::rectangle(millimetres(300.0), millimetres(220.0), millimetres(0.0)).unwrap();
        let ask = ScoreAsk { pattern, spacing: millimetres(spacing), direction, margin: millimetres(5.0) };
        let scoring = score(&slab, ask).unwrap();
        scoring.families.iter().map(|f| edge_strips(&slab, *f).unwrap()).collect()
    }

    #[test]
    fn a_tick_a_stroke_at_both_ends() {
        // By hand: the first of 27 strokes lies 5 mm from the near edge, the eleventh 80 mm further.
        let [[left, right]] = strips(Pattern::Parallel, 0.0, 8.0).try_into().unwrap();
        assert_eq!((left.side, right.side, left.ticks.len()), (Side::Left, Side::Right, 27));
        assert!((left.ticks[0] - 5.0).abs() < 1e-6 && (left.ticks[10] - 85.0).abs() < 1e-6 && left.ticks == right.ticks);
        let [[near, far]] = strips(Pattern::Parallel, 90.0, 8.0).try_into().unwrap();
        assert_eq!((near.side, far.side, near.ticks.len()), (Side::Near, Side::Far, 37));
        assert!(near.ticks.iter().all(|t| (0.0..=300.0).contains(t)));
    }

    #[test]
    fn lines_askew_are_drawn_from_tick_to_tick() {
        // A line of direction d from the left tick to the right one rises by width × tan d; neighbours are spacing ÷ cos d apart.
        for pair in strips(Pattern::Diamond, 0.0, 10.0) {
            let rise = pair[1].ticks[3] - pair[0].ticks[3];
            assert!((rise.abs() - 300.0 * 30.0_f64.to_radians().tan()).abs() < 1e-9);
            let apart = pair[0].ticks[4] - pair[0].ticks[3];
            assert!((apart - 10.0 / 30.0_f64.to_radians().cos()).abs() < 1e-9);
        }
    }
}
