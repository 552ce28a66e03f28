//! The order of strokes: the hand goes on where it is nearest.

use super::score::Stroke;

/// Way of the hand between strokes, mm.
pub fn idle_way(strokes: &[Stroke]) -> f64 {
    strokes.windows(2).map(|pair| apart(pair[0].to, pair[1].from)).sum()
}

fn apart(a: (f64, f64), b: (f64, f64)) -> f64 {
    (a.0 - b.0).hypot(a.1 - b.1)
}

/// The same strokes, some turned round, in an order that is never a longer way than the one given.
///
/// The nearest end of what is left comes next; where that ends up longer than row by row, row by row stays.
/// Cost: the square of their number, which is a few hundred at most; beyond 2,000 they stay as they are.
pub(super) fn without_detours(rows: Vec<Stroke>) -> Vec<Stroke> {
    if rows.len() < 3 || rows.len() > 2000 {
        return rows;
    }
    let mut left = rows.clone();
    let mut ordered = vec![left.remove(0)];
    while !left.is_empty() {
        let here = ordered[ordered.len() - 1].to;
        let nearest = left.iter().enumerate().flat_map(|(i, s)| [(i, false, apart(here, s.from)), (i, true, apart(here, s.to))]);
        let Some((i, turned, _)) = nearest.min_by(|a, b| a.2.total_cmp(&b.2)) else { break };
        let next = left.remove(i);
        ordered.push(if turned { Stroke { from: next.to, to: next.from } } else { next });
    }
    if idle_way(&ordered) < idle_way(&rows) - 1e-9 { ordered } else { rows }
}

/// One way of strokes after the other: the second is begun at whichever end, and cut in whichever direction, is the shorter way.
pub(super) fn one_after_the_other(mut first: Vec<Stroke>, second: Vec<Stroke>) -> Vec<Stroke> {
    let Some(here) = first.last().map(|s| s.to) else { return second };
    let back: Vec<Stroke> = second.iter().rev().copied().collect();
    let turned = |strokes: &[Stroke]| -> Vec<Stroke> { strokes.iter().map(|s| Stroke { from: s.to, to: s.from }).collect() };
    let ways = [turned(&second), turned(&back), back, second];
    let way = |strokes: &Vec<Stroke>| strokes.first().map_or(0.0, |s| apart(here, s.from)) + idle_way(strokes);
    if let Some(shortest) = ways.into_iter().min_by(|a, b| way(a).total_cmp(&way(b))) {
        first.extend(shortest);
    }
    first
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::skin::{Outline, Pattern, ScoreAsk, score};
    use crate::units::{LengthIn, millimetres};
    use proptest::prelude::*;

    #[test]
    fn back_and_forth_needs_no_more_than_the_spacings() {
        // Closed form: 27 strokes 8 mm apart on a rectangle: 26 steps of 8 mm.
        let slab = Outline::rectangle(millimetres(300.0), millimetres(220.0), millimetres(0.0)).unwrap();
        let ask = ScoreAsk { pattern: Pattern::Parallel, spacing: millimetres(8.0), direction: 0.0, margin: millimetres(5.0) };
        assert!((idle_way(&score(&slab, ask).unwrap().strokes) - 208.0).abs() < 1e-3);
    }

    #[test]
    fn the_second_way_begins_where_the_first_ends() {
        // By hand: 27 rows back and forth end at the far right; the 37 columns are then begun at the right, 8 mm at most away.
        let slab = Outline::rectangle(millimetres(300.0), millimetres(220.0), millimetres(0.0)).unwrap();
        let ask = ScoreAsk { pattern: Pattern::Crosshatch, spacing: millimetres(8.0), direction: 0.0, margin: millimetres(5.0) };
        let strokes = score(&slab, ask).unwrap().strokes;
        let jump = apart(strokes[26].to, strokes[27].from);
        assert!(jump < 8.0, "{jump}");
    }

    #[test]
    fn a_tie_in_the_middle_is_not_jumped_on_every_row() {
        // Row by row the hand crosses the string 27 times; side by side once.
        let tied =
            Outline::rectangle(millimetres(300.0), millimetres(220.0), millimetres(0.0)).unwrap().without_band(150.0, millimetres(40.0));
        let ask = ScoreAsk { pattern: Pattern::Parallel, spacing: millimetres(8.0), direction: 0.0, margin: millimetres(5.0) };
        let strokes = score(&tied, ask).unwrap().strokes;
        assert_eq!(strokes.len(), 54);
        // Two sides of 26 steps of 8 mm and one way across, at most the length of the piece.
        assert!(idle_way(&strokes) < 2.0 * 208.0 + 300.0, "{}", idle_way(&strokes));
    }

    proptest! {
        #[test]
        fn no_stroke_is_lost_and_no_way_is_longer(ends in prop::collection::vec(((0.0..300.0f64, 0.0..200.0f64), (0.0..300.0f64, 0.0..200.0f64)), 0..40)) {
            let rows: Vec<Stroke> = ends.into_iter().map(|(from, to)| Stroke { from, to }).collect();
            let ordered = without_detours(rows.clone());
            let lengths = |strokes: &[Stroke]| { let mut l: Vec<f64> = strokes.iter().map(|s| s.length().in_mm()).collect(); l.sort_by(f64::total_cmp); l };
            prop_assert_eq!(lengths(&rows).len(), lengths(&ordered).len());
            for (a, b) in lengths(&rows).iter().zip(lengths(&ordered)) { prop_assert!((a - b).abs() < 1e-9); }
            prop_assert!(idle_way(&ordered) <= idle_way(&rows) + 1e-9);
        }
    }
}
