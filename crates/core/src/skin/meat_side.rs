//! Cuts into the lean: shallow grooves that lodge salt deeper, and the lattice cut from both sides.

use super::outline::Outline;
use super::score::{Pattern, ScoreAsk, ScoreError, Scoring, Stroke, score};
use crate::refusing::{Refused, says_its_parts};
use crate::units::{Area, AreaIn, Length, LengthIn, Share, millimetres};

/// What is cut into the lean side.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum MeatSide {
    /// Nothing.
    Whole,
    /// Grooves both ways: 25–38 mm apart, 6 mm deep (TRADE 5.2).
    Grooves {
        /// From groove to groove.
        spacing: Length,
        /// How deep, 1–20 mm and at most half the lean.
        depth: Length,
    },
    /// Cuts from both sides that meet as openings, for very tough slabs (TRADE 5.2).
    Lattice {
        /// From cut to cut.
        spacing: Length,
        /// Beyond half the thickness, 1–2 mm, so that the cuts meet.
        beyond: Length,
    },
}

/// Cuts into the lean, computed.
#[derive(Debug, Clone, PartialEq)]
pub struct MeatCuts {
    /// On the lean side.
    pub below: Scoring,
    /// On the other side, across the first, where it is a lattice.
    pub above: Option<Scoring>,
    /// How deep, from each side.
    pub depth: Length,
    /// Height of two straight rods laid along the piece that stop the knife: thickness − depth; for a lattice.
    pub rods: Option<Length>,
    /// Where cuts from both sides meet.
    pub openings: usize,
}

/// Why the lean cannot be cut so.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum MeatError {
    /// Too close or too far apart.
    Spacing(ScoreError),
    /// Grooves nobody cuts.
    Depth(f64, f64),
    /// Cuts that would not meet, or that cut it apart.
    Beyond(f64),
}

impl MeatError {
    /// What was typed, what is allowed, what to do.
    pub fn refused(&self) -> Refused {
        match self {
            Self::Spacing(error) => error.refused(),
            Self::Depth(mm, most) => {
                Refused::new(format!("grooves {mm:.1} mm deep"), format!("between 1 and {most:.1} mm (half the lean)"), "6 mm is usual.")
            }
            Self::Beyond(mm) => {
                Refused::new(format!("{mm:.1} mm beyond the middle"), "1 to 4 mm", "First attempts come out too shallow; 1 to 2 are usual.")
            }
        }
    }
}
says_its_parts!(MeatError);

impl From<ScoreError> for MeatError {
    fn from(error: ScoreError) -> Self {
        Self::Spacing(error)
    }
}

/// Cuts into the lean side of a face. `lean` is the lean under skin and fat, `thickness` the whole piece.
pub fn cut_meat(side: MeatSide, outline: &Outline, edge: Length, lean: Length, thickness: Length) -> Result<Option<MeatCuts>, MeatError> {
    let ask = |pattern, spacing, direction| ScoreAsk { pattern, spacing, direction, margin: edge };
    match side {
        MeatSide::Whole => Ok(None),
        MeatSide::Grooves { spacing, depth } => {
            let most = (lean.in_mm() / 2.0).min(20.0);
            if !(1.0..=most).contains(&depth.in_mm()) {
                return Err(MeatError::Depth(depth.in_mm(), most));
            }
            let below = score(outline, ask(Pattern::Crosshatch, spacing, 0.0))?;
            Ok(Some(MeatCuts { below, above: None, depth, rods: None, openings: 0 }))
        }
        MeatSide::Lattice { spacing, beyond } => {
            if !(1.0..=4.0).contains(&beyond.in_mm()) {
                return Err(MeatError::Beyond(beyond.in_mm()));
            }
            let depth = thickness / 2.0 + beyond;
            let below = score(outline, ask(Pattern::Parallel, spacing, 0.0))?;
            let above = score(outline, ask(Pattern::Parallel, spacing, 90.0))?;
            let openings = below.strokes.iter().map(|s| above.strokes.iter().filter(|t| crosses(s, t)).count()).sum();
            Ok(Some(MeatCuts { below, above: Some(above), depth, rods: Some(thickness - depth), openings }))
        }
    }
}

/// Whether two strokes meet; one that ends on the other does (within a hundredth of a millimetre).
fn crosses(a: &Stroke, b: &Stroke) -> bool {
    let (ra, rb) = ((a.to.0 - a.from.0, a.to.1 - a.from.1), (b.to.0 - b.from.0, b.to.1 - b.from.1));
    let across = ra.0 * rb.1 - ra.1 * rb.0;
    if across.abs() < 1e-12 {
        return false;
    }
    let gap = (b.from.0 - a.from.0, b.from.1 - a.from.1);
    let on = |at: f64, stroke: &Stroke| {
        let slack = 0.01 / stroke.length().in_mm().max(0.01);
        (-slack..=1.0 + slack).contains(&at)
    };
    on((gap.0 * rb.1 - gap.1 * rb.0) / across, a) && on((gap.0 * ra.1 - gap.1 * ra.0) / across, b)
}

impl MeatCuts {
    /// All cuts, end to end.
    pub fn cut_length(&self) -> Length {
        self.below.cut_length + self.above.as_ref().map_or(millimetres(0.0), |above| above.cut_length)
    }

    /// Surface they open, both flanks.
    pub fn opened(&self) -> Area {
        let above = self.above.as_ref().map(|a| a.opened(self.depth));
        above.map_or_else(|| self.below.opened(self.depth), |above| self.below.opened(self.depth) + above)
    }

    /// Share of the side's salt that lodges in the cuts when it is pressed on evenly: their flanks ÷ (flanks + face) (our estimate).
    pub fn lodges(&self, face: Area) -> Share {
        let flanks = self.below.opened(self.depth).in_dm2();
        Share(flanks / (flanks + face.in_dm2()).max(1e-9))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn mm(value: f64) -> Length {
        millimetres(value)
    }

    fn slab() -> Outline {
        Outline::rectangle(mm(300.0), mm(200.0), mm(0.0)).unwrap()
    }

    #[test]
    fn grooves_open_both_flanks() {
        // By hand: margin 0, 30 mm: ⌊200/30⌋ + 1 = 7 of 300 mm and 11 of 200 mm, 4,300 mm; 6 mm deep they open
        // 2 × 6 × 4,300 = 5.16 dm²; pressed evenly 5.16 ÷ (5.16 + 6) = 46 % lodges in them.
        let grooves = MeatSide::Grooves { spacing: mm(30.0), depth: mm(6.0) };
        let cuts = cut_meat(grooves, &slab(), mm(0.0), mm(35.0), mm(45.0)).unwrap().unwrap();
        assert!((cuts.cut_length().in_mm() - 4300.0).abs() < 1e-3);
        assert!((cuts.opened().in_dm2() - 5.16).abs() < 1e-6);
        assert!((cuts.lodges(slab().area()).0 - 5.16 / 11.16).abs() < 1e-6 && cuts.rods.is_none());
    }

    #[test]
    fn cuts_from_both_sides_meet_as_openings() {
        // By hand: 40 mm thick, 1.5 beyond the middle: 21.5 mm from each side, rods of 18.5 mm. Margin 10, spacing 20:
        // ⌊180/20⌋ + 1 = 10 along, ⌊280/20⌋ + 1 = 15 across, 150 openings.
        let lattice = MeatSide::Lattice { spacing: mm(20.0), beyond: mm(1.5) };
        let cuts = cut_meat(lattice, &slab(), mm(10.0), mm(40.0), mm(40.0)).unwrap().unwrap();
        assert!((cuts.depth.in_mm() - 21.5).abs() < 1e-9 && (cuts.rods.unwrap().in_mm() - 18.5).abs() < 1e-9);
        assert_eq!(cuts.openings, 150);
        assert!(2.0 * cuts.depth > mm(40.0), "they meet");
    }

    #[test]
    fn absurd_cuts_are_named() {
        let deep = MeatSide::Grooves { spacing: mm(30.0), depth: mm(25.0) };
        let near = |a: f64, b: f64| (a - b).abs() < 1e-9;
        let refused = |side| cut_meat(side, &slab(), mm(5.0), mm(35.0), mm(45.0)).unwrap_err();
        assert!(matches!(refused(deep), MeatError::Depth(typed, most) if near(typed, 25.0) && near(most, 17.5)));
        let through = MeatSide::Lattice { spacing: mm(20.0), beyond: mm(9.0) };
        assert!(matches!(refused(through), MeatError::Beyond(typed) if near(typed, 9.0)));
        let close = MeatSide::Grooves { spacing: mm(0.2), depth: mm(6.0) };
        assert!(matches!(refused(close), MeatError::Spacing(_)));
        assert_eq!(cut_meat(MeatSide::Whole, &slab(), mm(5.0), mm(35.0), mm(45.0)), Ok(None));
    }
}
