//! Scoring: parallel strokes over a rectangular face.

use crate::piece::Measures;
use crate::units::{Length, LengthIn, millimetres};

/// A set of strokes.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Scoring {
    /// Number of strokes.
    pub strokes: u32,
    /// All of them, end to end.
    pub cut_length: Length,
}

/// Parallel strokes along the long side; the first lies on the margin, which also shortens them.
///
/// strokes = ⌊(W − 2m)/s⌋ + 1, each L − 2m long (handbook section 5).
pub fn score_parallel(face: Measures, spacing: Length, margin: Length) -> Scoring {
    let across = face.width.in_mm() - 2.0 * margin.in_mm();
    let along = face.length.in_mm() - 2.0 * margin.in_mm();
    if across < 0.0 || along <= 0.0 || spacing.in_mm() <= 0.0 {
        return Scoring { strokes: 0, cut_length: millimetres(0.0) };
    }
    let strokes = (across / spacing.in_mm() + 1e-9).floor() + 1.0;
    Scoring { strokes: strokes as u32, cut_length: millimetres(strokes * along) }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_handbooks_face_both_ways() {
        // Handbook section 5: 300 × 220 mm, 8 mm, margin 5: 27 strokes × 290 = 7,830 mm; 37 × 210 = 7,770 mm.
        let face = Measures { length: millimetres(300.0), width: millimetres(220.0) };
        let long = score_parallel(face, millimetres(8.0), millimetres(5.0));
        assert_eq!((long.strokes, long.cut_length.in_mm().round()), (27, 7830.0));
        let turned = Measures { length: face.width, width: face.length };
        let short = score_parallel(turned, millimetres(8.0), millimetres(5.0));
        assert_eq!((short.strokes, short.cut_length.in_mm().round()), (37, 7770.0));
    }

    #[test]
    fn a_face_smaller_than_its_margins_has_no_strokes() {
        let sliver = Measures { length: millimetres(100.0), width: millimetres(8.0) };
        assert_eq!(score_parallel(sliver, millimetres(8.0), millimetres(5.0)).strokes, 0);
    }
}
