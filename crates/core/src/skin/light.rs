//! The light that walks over the face at the cook's own pace: the work cut into stretches of about twenty seconds.

use super::knife::KnifeWork;
use super::outline::Outline;
use super::score::Stroke;
use crate::units::{LengthIn, Time, TimeIn, minutes};

/// One stretch of the work.
#[derive(Debug, Clone, PartialEq)]
pub enum Stretch {
    /// These strokes, by their place in the order.
    Strokes(std::ops::Range<usize>),
    /// The holes of this box: left, low, right, high, mm.
    Box(f64, f64, f64, f64),
}

/// The whole walk.
#[derive(Debug, Clone, PartialEq)]
pub struct Light {
    /// Its stretches in order.
    pub stretches: Vec<Stretch>,
    /// How long the light stays on each.
    pub each: Time,
}

/// A stretch takes about so long, s (our estimate): long enough to look up once, short enough to find back.
const STRETCH_S: f64 = 20.0;
/// More stretches than this are too small to see.
const MOST: f64 = 60.0;

/// Cuts the work on the cover into stretches; `None` where there is none.
///
/// Strokes go by their length in the order of the hand; holes by boxes of equal size, back and forth from the near edge.
pub fn light(work: &KnifeWork) -> Option<Light> {
    let takes = work.cover_takes.in_s();
    let wanted = (takes / STRETCH_S).ceil().clamp(1.0, MOST);
    if let Some(scoring) = work.scoring.as_ref().filter(|s| !s.strokes.is_empty()) {
        let stretches = by_length(&scoring.strokes, wanted as usize);
        return Some(Light { each: minutes(takes / 60.0 / stretches.len() as f64), stretches });
    }
    work.holes.as_ref().filter(|h| !h.at.is_empty())?;
    let stretches = boxes(&work.laid.outline, wanted)?;
    Some(Light { each: minutes(takes / 60.0 / stretches.len() as f64), stretches })
}

fn by_length(strokes: &[Stroke], wanted: usize) -> Vec<Stretch> {
    let all: f64 = strokes.iter().map(|s| s.length().in_mm()).sum();
    let wanted = wanted.min(strokes.len()).max(1);
    let (mut stretches, mut from, mut done) = (Vec::with_capacity(wanted), 0, 0.0);
    for (i, stroke) in strokes.iter().enumerate() {
        done += stroke.length().in_mm();
        let due = all * (stretches.len() + 1) as f64 / wanted as f64;
        if done >= due - 1e-9 || i + 1 == strokes.len() {
            stretches.push(Stretch::Strokes(from..i + 1));
            from = i + 1;
        }
    }
    stretches
}

fn boxes(outline: &Outline, wanted: f64) -> Option<Vec<Stretch>> {
    let (left, low, right, high) = outline.bounds()?;
    let (long, wide) = (right - left, high - low);
    let columns = (wanted * long / wide).sqrt().round().clamp(1.0, wanted);
    let rows = (wanted / columns).floor().max(1.0);
    let (step, rise) = (long / columns, wide / rows);
    let mut all = Vec::with_capacity((columns * rows) as usize);
    for row in 0..rows as usize {
        for column in 0..columns as usize {
            // Back and forth, so that the hand never jumps across the piece.
            let column = if row % 2 == 0 { column } else { columns as usize - 1 - column };
            let (x, y) = (left + column as f64 * step, low + row as f64 * rise);
            all.push(Stretch::Box(x, y, x + step, y + rise));
        }
    }
    Some(all)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::skin::testing::belly;
    use crate::skin::{CoverWork, Lattice, Pattern, knife_work};
    use crate::units::millimetres;

    fn work(cover: CoverWork, tool: &str) -> KnifeWork {
        knife_work(&belly(cover, tool)).unwrap()
    }

    #[test]
    fn every_stroke_is_lit_once_and_the_whole_walk_takes_the_whole_time() {
        let work = work(CoverWork::Score { pattern: Pattern::Parallel, spacing: millimetres(8.0), direction: 0.0 }, "craft-knife");
        let light = light(&work).unwrap();
        let lit: Vec<usize> =
            light.stretches.iter().flat_map(|s| if let Stretch::Strokes(range) = s { range.clone() } else { 0..0 }).collect();
        assert_eq!(lit, (0..27).collect::<Vec<_>>());
        assert!((light.each.in_s() * light.stretches.len() as f64 - work.cover_takes.in_s()).abs() < 1e-6);
    }

    #[test]
    fn boxes_cover_the_face_back_and_forth() {
        let work = work(CoverWork::Pierce { lattice: Lattice::Square, per_cm2: 8.0 }, "pick");
        let light = light(&work).unwrap();
        let area: f64 = light.stretches.iter().map(|s| if let Stretch::Box(l, b, r, t) = s { (r - l) * (t - b) } else { 0.0 }).sum();
        assert!((area - 300.0 * 220.0).abs() < 1e-6, "all of the face, none of it twice");
        // The next box always touches the one before.
        for pair in light.stretches.windows(2) {
            let [Stretch::Box(l, b, r, t), Stretch::Box(l2, b2, r2, t2)] = pair else { panic!("boxes") };
            assert!(l2 <= &(r + 1e-9) && r2 >= &(l - 1e-9) && b2 <= &(t + 1e-9) && t2 >= &(b - 1e-9));
        }
        assert!(light.stretches.len() as f64 <= MOST && light.stretches.len() > 40, "half an hour with one pick");
    }
}
