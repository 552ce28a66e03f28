//! Moist air, as far as drying and roasting need it.
//!
//! ```
//! use rauchkeller_core::{psychrometrics::saturation_pressure, units::celsius};
//! // ASHRAE Handbook, Fundamentals: 813.5 Pa at 4 °C.
//! assert!((saturation_pressure(celsius(4.0)).0 - 813.5).abs() < 0.1);
//! ```

use crate::units::{Pascal, Temperature, TemperatureIn};

/// Saturation pressure of water vapour over liquid water or ice.
///
/// Unit in: temperature −100 to 200 °C. Unit out: Pa.
/// Source: ASHRAE Handbook—Fundamentals (2017) ch. 1, eq. 5 (ice) and 6 (water) (published).
pub fn saturation_pressure(at: Temperature) -> Pascal {
    let t = at.in_k();
    let ln = if at.in_c() <= 0.01 {
        -5.6745359e3 / t + 6.3925247 - 9.677843e-3 * t + 6.2215701e-7 * t.powi(2) + 2.0747825e-9 * t.powi(3) - 9.484024e-13 * t.powi(4)
            + 4.1635019 * t.ln()
    } else {
        -5.8002206e3 / t + 1.3914993 - 4.8640239e-2 * t + 4.1764768e-5 * t.powi(2) - 1.4452093e-8 * t.powi(3) + 6.5459673 * t.ln()
    };
    Pascal(ln.exp())
}

/// Molar mass of water, kg/mol (IUPAC).
pub(crate) const WATER_KG_PER_MOL: f64 = 0.018_015_28;
/// Molar gas constant, J/(mol K) (CODATA 2018).
pub(crate) const GAS_CONSTANT: f64 = 8.314_462_618;
/// Standard pressure at sea level, Pa.
const PRESSURE: f64 = 101_325.0;
/// Specific heat of air, J/(kg K) (TRADE 6.4).
const AIR_HEAT: f64 = 1006.0;
/// Lewis number of water vapour in air (TRADE 6.4).
const LEWIS: f64 = 0.86;

/// Mass transfer coefficient from a heat transfer coefficient: `k_m = h/(ρ·c_p·Le^⅔)`, m/s,
/// with ρ = P/(287.05·T) at the film temperature.
pub(crate) fn mass_transfer(h_w_m2k: f64, film_k: f64) -> f64 {
    let density = PRESSURE / (287.05 * film_k);
    h_w_m2k / (density * AIR_HEAT * LEWIS.powf(2.0 / 3.0))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::celsius;
    use rstest::rstest;

    // TRADE 6.4.
    #[rstest]
    #[case(2.0, 705.95)]
    #[case(4.0, 813.48)]
    #[case(7.0, 1001.96)]
    #[case(10.0, 1228.0)]
    fn saturation_pressure_is_the_published_one(#[case] c: f64, #[case] pa: f64) {
        let got = saturation_pressure(celsius(c)).0;
        assert!((got / pa - 1.0).abs() < 1e-4, "{c} °C: {got}");
    }

    #[test]
    fn saturation_pressure_matches_psychrolib() {
        // psychrolib's GetSatVapPres, by `tests/reference/drying.py`, over ice and over water.
        let rows = include_str!("../tests/reference/drying.csv").lines().filter_map(|l| l.strip_prefix("p_sat,"));
        let mut compared = 0;
        for (c, pa) in rows.map(|l| l.split_once(',').unwrap()) {
            let (c, pa): (f64, f64) = (c.parse().unwrap(), pa.parse().unwrap());
            let got = saturation_pressure(celsius(c)).0;
            assert!((got / pa - 1.0).abs() < 1e-3, "{c} °C: {got} is not {pa}");
            compared += 1;
        }
        assert!(compared >= 15, "{compared}");
    }

    #[test]
    fn water_boils_at_one_atmosphere() {
        // Published: saturation pressure at 100 °C is 101.4 kPa (ASHRAE 2017 table 3: 101.42).
        assert!((saturation_pressure(celsius(100.0)).0 / 101_420.0 - 1.0).abs() < 1e-3);
    }
}
