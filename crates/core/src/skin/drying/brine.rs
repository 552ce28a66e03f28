//! Salt in water, as far as it holds water back.

use crate::numeric::interpolate;

/// Molar mass of sodium chloride, kg/mol (IUPAC).
const SALT_KG_PER_MOL: f64 = 0.058_443;
/// Saturated brine at 4 °C, mol/kg water: 357 g/kg ÷ 58.44 (from memory).
pub(super) const SATURATED_MOLAL: f64 = 6.1;
/// Water activity over it (TRADE 6.7: about 0.757 at 4 °C).
pub(super) const SATURATED_ACTIVITY: f64 = 0.757;

/// Water activity of a sodium chloride solution, 0 to 6.1 mol/kg; saturated above.
///
/// `ln a_w = −ν·m·M_w·φ(m)` with ν = 2 and osmotic coefficients φ at 25 °C (value from memory: Robinson & Stokes,
/// Electrolyte Solutions, 2nd ed. 1959, appendix 8.10), which change by less than two per cent down to 4 °C.
pub fn brine_activity(molal: f64) -> f64 {
    const OSMOTIC: [(f64, f64); 9] = [
        (0.0, 1.0),
        (0.1, 0.9324),
        (0.5, 0.9209),
        (1.0, 0.9355),
        (2.0, 0.9833),
        (3.0, 1.0453),
        (4.0, 1.1158),
        (5.0, 1.1916),
        (6.0, 1.2706),
    ];
    const WATER: f64 = crate::psychrometrics::WATER_KG_PER_MOL;
    if molal >= SATURATED_MOLAL {
        return SATURATED_ACTIVITY;
    }
    (-2.0 * molal * WATER * interpolate(&OSMOTIC, molal)).exp()
}

/// Water that keeps so much salt dissolved at a molality, kg for kg.
pub(super) fn water_of(salt: f64, molal: f64) -> f64 {
    salt / (SALT_KG_PER_MOL * molal)
}

/// Molality of so much salt in so much water, kg for kg.
#[cfg(test)]
pub(super) fn molality(salt: f64, water: f64) -> f64 {
    salt / (SALT_KG_PER_MOL * water)
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    // Value from memory: water activities at 25 °C, Robinson & Stokes 1959 appendix 8.3.
    #[rstest]
    #[case(1.0, 0.9669)]
    #[case(2.0, 0.9316)]
    #[case(4.0, 0.8515)]
    #[case(6.0, 0.7598)]
    fn follows_the_table(#[case] molal: f64, #[case] want: f64) {
        assert!((brine_activity(molal) - want).abs() < 5e-4, "{}", brine_activity(molal));
    }

    #[test]
    fn saturated_brine_has_its_water_activity() {
        // TRADE 6.7: saturated brine ≈ 0.757 at 4 °C.
        assert!((brine_activity(9.0) - 0.757).abs() < 1e-12);
        assert!((brine_activity(6.0999) - 0.757).abs() < 3e-3, "no step where the solution saturates");
    }

    proptest::proptest! {
        #[test]
        fn more_salt_holds_water_harder(molal in 0.0..6.0f64, more in 0.001..1.0f64) {
            proptest::prop_assert!(brine_activity(molal + more) < brine_activity(molal) + 1e-12);
            proptest::prop_assert!(brine_activity(molal) <= 1.0 && brine_activity(molal) >= SATURATED_ACTIVITY - 3e-3);
        }
    }
}
