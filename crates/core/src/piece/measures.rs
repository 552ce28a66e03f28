//! Weight and measures check each other.

use super::cut::{CutFacts, Family};
use crate::units::{Length, LengthIn, Mass, MassIn, grams, millimetres};

/// Density of raw meat, kg/L: the middle of 1.05–1.06 (handbook section 3 [trade]).
pub const MEAT_DENSITY_KG_PER_L: f64 = 1.055;

/// How far weight and measures may differ before the cook is asked: 15 % (handbook section 3).
const TOLERANCE: f64 = 0.15;

/// Length and width of a slab's face.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Measures {
    /// The long side.
    pub length: Length,
    /// The short side.
    pub width: Length,
}

/// Weight and measures that do not belong together.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Mismatch {
    /// What the measures weigh.
    pub measured: Mass,
    /// What was typed.
    pub typed: Mass,
}

/// Weight of a box of these measures: length × width × thickness × 1.055 kg/L.
pub fn estimated_weight(measures: Measures, thickness: Length) -> Mass {
    let litres = measures.length.in_mm() * measures.width.in_mm() * thickness.in_mm() / 1e6;
    grams(litres * MEAT_DENSITY_KG_PER_L * 1000.0)
}

/// The face of a slab of this weight and thickness, at the cut's usual proportion.
///
/// A side that is known is kept; the other follows from the weight.
pub fn estimated_face(cut: &CutFacts, weight: Mass, thickness: Length, length: Option<Length>, width: Option<Length>) -> Measures {
    let area_mm2 = weight.in_g() / (MEAT_DENSITY_KG_PER_L * thickness.in_mm().max(1.0)) * 1000.0;
    match (length, width) {
        (Some(length), Some(width)) => Measures { length, width },
        (Some(length), None) => Measures { length, width: millimetres(area_mm2 / length.in_mm().max(1.0)) },
        (None, Some(width)) => Measures { length: millimetres(area_mm2 / width.in_mm().max(1.0)), width },
        (None, None) => {
            let long = (area_mm2 * cut.aspect).sqrt();
            Measures { length: millimetres(long), width: millimetres(long / cut.aspect) }
        }
    }
}

/// Says when a typed weight and typed measures are more than 15 % apart. Birds are not boxes: never asked.
pub fn weight_mismatch(cut: &CutFacts, weight: Mass, measures: Measures, thickness: Length) -> Option<Mismatch> {
    if cut.family == Family::Bird {
        return None;
    }
    let measured = estimated_weight(measures, thickness);
    let apart = (measured / weight).value - 1.0;
    (apart.abs() > TOLERANCE).then_some(Mismatch { measured, typed: weight })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::Cut;

    #[test]
    fn the_example_belly_weighs_what_its_measures_say() {
        // Design section 4's example: 267 × 190 × 45 mm is 2.4 kg. By hand: 2.2829 L × 1.055 = 2.408 kg.
        let measures = Measures { length: millimetres(267.0), width: millimetres(190.0) };
        let belly = Cut::find("pork-belly").unwrap();
        assert!((estimated_weight(measures, millimetres(45.0)).in_g() - 2408.4).abs() < 0.5);
        assert!(weight_mismatch(&belly, grams(2400.0), measures, millimetres(45.0)).is_none());
        let asked = weight_mismatch(&belly, grams(2000.0), measures, millimetres(45.0)).unwrap();
        assert!((asked.measured.in_kg() - 2.408).abs() < 0.001);
    }

    #[test]
    fn missing_sides_follow_from_the_weight() {
        let belly = Cut::find("pork-belly").unwrap();
        for (length, width) in [(None, None), (Some(millimetres(300.0)), None), (None, Some(millimetres(150.0)))] {
            let face = estimated_face(&belly, grams(2400.0), millimetres(45.0), length, width);
            assert!((estimated_weight(face, millimetres(45.0)).in_g() - 2400.0).abs() < 1e-6);
        }
    }
}
