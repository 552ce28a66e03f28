//! Piercing: a cell-centred lattice of holes.

use crate::piece::Measures;
use crate::units::{Length, LengthIn, Time, millimetres, minutes};

/// What makes the holes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Tool {
    /// What a cook calls it.
    pub name: &'static str,
    /// Pins that enter at one press.
    pub pins: u32,
    /// Presses a second at an easy pace [est].
    pub presses_per_s: u32,
}

impl Tool {
    /// One pick, three holes a second (handbook section 5).
    pub const PICK: Self = Self { name: "single pick", pins: 1, presses_per_s: 3 };
    /// A needle brush of 24 pins, one press a second [est].
    pub const BRUSH: Self = Self { name: "needle brush of 24 pins", pins: 24, presses_per_s: 1 };
}

/// Holes over a face.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Piercing {
    /// Distance between neighbours on the square lattice.
    pub spacing: Length,
    /// Number of holes.
    pub holes: u32,
    /// Presses of the tool.
    pub presses: u32,
    /// Radius of the biggest circle without a hole: s/√2 on a square lattice.
    pub largest_gap: Length,
    /// Time at an easy pace.
    pub takes: Time,
}

/// A square lattice of `per_cm2` holes (4 sparse, 8 good, 15 thorough [est]) centred in its cells.
///
/// Whole rows and columns: round(L/s) × round(W/s) with s = 1/√density.
pub fn pierce(face: Measures, per_cm2: f64, tool: Tool) -> Piercing {
    let spacing = 10.0 / per_cm2.sqrt();
    let along = (face.length.in_mm() / spacing).round().max(1.0);
    let across = (face.width.in_mm() / spacing).round().max(1.0);
    let holes = along * across;
    let presses = (holes / f64::from(tool.pins)).ceil();
    Piercing {
        spacing: millimetres(spacing),
        holes: holes as u32,
        presses: presses as u32,
        largest_gap: millimetres(spacing / std::f64::consts::SQRT_2),
        takes: minutes(presses / f64::from(tool.presses_per_s) / 60.0),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::TimeIn;

    fn belly() -> Measures {
        Measures { length: millimetres(300.0), width: millimetres(220.0) }
    }

    #[test]
    fn the_handbooks_face() {
        // Handbook section 5: 660 cm² × 8 = 5,280 nominal, 85 × 62 = 5,270 on a square lattice.
        let piercing = pierce(belly(), 8.0, Tool::PICK);
        assert_eq!(piercing.holes, 5270);
        // Closed form s/√2 with s = 10/√8 mm: exactly 2.5 mm.
        assert!((piercing.largest_gap.in_mm() - 2.5).abs() < 1e-9);
    }

    #[test]
    fn one_pick_on_a_thorough_face_takes_most_of_an_hour() {
        // Handbook section 5: 15/cm² with one pick on 6.6 dm² at 3 a second is 55 min.
        assert!((pierce(belly(), 15.0, Tool::PICK).takes.in_min() - 55.0).abs() < 0.5);
    }

    #[test]
    fn presses_are_holes_by_pins() {
        // By hand: 5,270 ÷ 24 = 219.6 → 220.
        assert_eq!(pierce(belly(), 8.0, Tool::BRUSH).presses, 220);
    }
}
