//! Weight and measures check each other.

use super::cut::{CutFacts, Family};
use crate::units::{Length, LengthIn, Mass, MassIn, grams, millimetres};

/// Density of raw meat, kg/L: the middle of 1.05–1.06 (TRADE 3.2).
pub const MEAT_DENSITY_KG_PER_L: f64 = 1.055;

/// How far weight and measures may differ before the cook is asked: 15 % (TRADE 3.2).
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

/// Volume of the shape ÷ volume of the box around it: a box, a cylinder lying in it, an ellipsoid in it.
fn fill(cut: &CutFacts) -> f64 {
    match cut.family {
        Family::Roast | Family::Rack => std::f64::consts::FRAC_PI_4,
        Family::Joint => std::f64::consts::FRAC_PI_6,
        _ => 1.0,
    }
}

/// Weight of a piece of these measures: length × width × thickness × the fill of its shape × 1.055 kg/L.
pub fn estimated_weight(cut: &CutFacts, measures: Measures, thickness: Length) -> Mass {
    let litres = measures.length.in_mm() * measures.width.in_mm() * thickness.in_mm() / 1e6;
    grams(litres * fill(cut) * MEAT_DENSITY_KG_PER_L * 1000.0)
}

/// Length and width of a piece of this weight and thickness, at the cut's usual proportion.
///
/// A side that is known is kept; the other follows from the weight. A cylinder is as wide as it is thick.
pub fn estimated_face(cut: &CutFacts, weight: Mass, thickness: Length, length: Option<Length>, width: Option<Length>) -> Measures {
    let area_mm2 = weight.in_g() / (MEAT_DENSITY_KG_PER_L * fill(cut) * thickness.in_mm().max(1.0)) * 1000.0;
    let round = matches!(cut.family, Family::Roast | Family::Rack);
    match (length, width.or_else(|| (round && length.is_none()).then_some(thickness))) {
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
    if matches!(cut.family, Family::Bird | Family::Crown | Family::FlatBird) {
        return None;
    }
    let measured = estimated_weight(cut, measures, thickness);
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
        assert!((estimated_weight(&belly, measures, millimetres(45.0)).in_g() - 2408.4).abs() < 0.5);
        assert!(weight_mismatch(&belly, grams(2400.0), measures, millimetres(45.0)).is_none());
        let asked = weight_mismatch(&belly, grams(2000.0), measures, millimetres(45.0)).unwrap();
        assert!((asked.measured.in_kg() - 2.408).abs() < 0.001);
    }

    #[test]
    fn a_cylinder_and_a_ball_have_their_closed_forms() {
        // By hand: π/4 · 1² dm² · 2 dm = 1.5708 L × 1.055 = 1657 g; π/6 · 1.5³ dm³ = 1.7671 L = 1864 g.
        let roast = Cut::find("beef-round-roast").unwrap();
        let measures = Measures { length: millimetres(200.0), width: millimetres(100.0) };
        assert!((estimated_weight(&roast, measures, millimetres(100.0)).in_g() - 1657.2).abs() < 0.1);
        let leg = Cut::find("pork-leg").unwrap();
        let ball = Measures { length: millimetres(150.0), width: millimetres(150.0) };
        assert!((estimated_weight(&leg, ball, millimetres(150.0)).in_g() - 1864.3).abs() < 0.1);
        // Turned round: a roast of that weight is as wide as thick, and as long as it has to be.
        let face = estimated_face(&roast, grams(1657.2), millimetres(100.0), None, None);
        assert!((face.width.in_mm() - 100.0).abs() < 1e-9 && (face.length.in_mm() - 200.0).abs() < 0.1);
    }

    #[test]
    fn missing_sides_follow_from_the_weight() {
        let belly = Cut::find("pork-belly").unwrap();
        for (length, width) in [(None, None), (Some(millimetres(300.0)), None), (None, Some(millimetres(150.0)))] {
            let face = estimated_face(&belly, grams(2400.0), millimetres(45.0), length, width);
            assert!((estimated_weight(&belly, face, millimetres(45.0)).in_g() - 2400.0).abs() < 1e-6);
        }
    }
}
