//! How skin dries: a water store over a fat barrier, losing water to the air.
//!
//! `J = k_m·M_w/(R·T)·p_sat(T)·(a_w − RH)`. The coefficient h is *effective*, with the surface
//! taken at air temperature: evaporation cools it, and the fit absorbs that.

use super::psychro::{GAS_CONSTANT, WATER_KG_PER_MOL, mass_transfer, saturation_pressure};
use crate::units::{Dryness, HeatTransfer, Length, LengthIn, RelativeHumidity, Temperature, TemperatureIn, Time, TimeIn};

/// Density of skin, kg/m³ (handbook section 6).
const SKIN_DENSITY: f64 = 1100.0;
/// Water in fresh skin, kg per kg.
const SKIN_WATER: f64 = 0.62;
/// Moisture of fresh skin, kg water per kg dry skin: 0.62 ÷ 0.38.
const FRESH: f64 = SKIN_WATER / (1.0 - SKIN_WATER);
/// Oswin isotherm M = A(a_w/(1−a_w))^B [est, valid about 0.05–0.9]; M at a_w 0.5 is A.
const OSWIN_A: f64 = 0.12;
const OSWIN_B: f64 = 0.45;

/// The air of a refrigerator.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Air {
    /// Air temperature.
    pub temperature: Temperature,
    /// Relative humidity, 0–1.
    pub humidity: RelativeHumidity,
    /// Effective coefficient: 4–5 still, 8 fan-cooled, 15 in front of the fan [est].
    pub h: HeatTransfer,
}

/// Water lost by a surface of this water activity, kg/(m² s). Negative when it takes water up.
pub fn evaporation(air: Air, water_activity: f64) -> f64 {
    let t = air.temperature.in_k();
    mass_transfer(air.h.0, t) * WATER_KG_PER_MOL / (GAS_CONSTANT * t)
        * saturation_pressure(air.temperature).0
        * (water_activity - air.humidity.0)
}

/// Water activity of skin at a moisture, by the Oswin isotherm turned round.
fn water_activity(moisture: f64) -> f64 {
    let ratio = (moisture.max(0.0) / OSWIN_A).powf(1.0 / OSWIN_B);
    ratio / (1.0 + ratio)
}

/// Skin dryness after a time in the open.
///
/// `thickness` of the skin over its fat barrier, 0.5–6 mm; all of it dries as one store.
/// Integrated by the classical Runge–Kutta rule in 15-minute steps.
pub fn skin_dryness(thickness: Length, open_for: Time, air: Air) -> Dryness {
    let dry_mass = thickness.in_m() * SKIN_DENSITY * (1.0 - SKIN_WATER);
    if dry_mass <= 0.0 {
        return Dryness(0.0);
    }
    let rate = |m: f64| -evaporation(air, water_activity(m)) / dry_mass;
    let mut left = open_for.in_s().max(0.0);
    let mut moisture = FRESH;
    while left > 0.0 {
        let dt = left.min(900.0);
        let k1 = rate(moisture);
        let k2 = rate(moisture + k1 * dt / 2.0);
        let k3 = rate(moisture + k2 * dt / 2.0);
        let k4 = rate(moisture + k3 * dt);
        moisture += dt / 6.0 * (k1 + 2.0 * k2 + 2.0 * k3 + k4);
        left -= dt;
    }
    Dryness((FRESH - moisture) / (FRESH - OSWIN_A))
}

/// The touch scale of four, from dryness [est].
pub fn touch(dryness: Dryness) -> &'static str {
    match dryness.0 {
        d if d < 0.25 => "wet",
        d if d < 0.6 => "tacky",
        d if d < 0.9 => "dry",
        _ => "parchment",
    }
}

/// Dry enough to crackle (handbook section 6: 0.95, 0.7 at the least).
pub const DRY_ENOUGH: Dryness = Dryness(0.95);
/// Below this, expect chewy patches.
pub const DRY_AT_LEAST: Dryness = Dryness(0.7);

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::{celsius, hours, millimetres};
    use rstest::rstest;

    fn air(h: f64, rh: f64) -> Air {
        Air { temperature: celsius(4.0), humidity: RelativeHumidity(rh), h: HeatTransfer(h) }
    }

    // Handbook section 6: g/dm² a day at 4 °C, a_w 0.997.
    #[rstest]
    #[case(4.0, 0.5, 9.43)]
    #[case(8.0, 0.5, 18.9)]
    #[case(4.0, 0.8, 3.74)]
    fn evaporation_a_day(#[case] h: f64, #[case] rh: f64, #[case] want: f64) {
        let g_per_dm2 = evaporation(air(h, rh), 0.997) * 86_400.0 * 10.0;
        assert!((g_per_dm2 - want).abs() < 0.05, "{g_per_dm2}");
    }

    // Handbook section 6: two millimetres are 0.95 dry after 26 h at 50 %, h 5, and after 65 h at 75 %, h 4.
    // The second figure is 0.95 of the way to what 75 % air can reach: by the definition (a_w 0.5) humid air
    // stops at (1.632 − 0.12·3^0.45)/(1.632 − 0.12) = 0.949 and never gets to 0.95.
    #[rstest]
    #[case(5.0, 0.5, 26.0, 1.0)]
    #[case(4.0, 0.75, 65.0, 0.949)]
    fn two_millimetres(#[case] h: f64, #[case] rh: f64, #[case] after: f64, #[case] reachable: f64) {
        let at = |t: f64| skin_dryness(millimetres(2.0), hours(t), air(h, rh)).0 / reachable;
        assert!(at(after - 0.5) < 0.95 && at(after + 0.5) > 0.95, "{} at {after} h", at(after));
        // Closed form of the isotherm: left for months, the skin ends at its equilibrium with the air.
        assert!((at(5000.0) - 1.0).abs() < 1e-3, "ends at {}", at(5000.0));
    }

    // Handbook section 6: 2.5 mm reach 0.73 and 3 mm 0.62 after 24 h at 50 %, h 5.
    #[rstest]
    #[case(2.5, 0.73)]
    #[case(3.0, 0.62)]
    fn thicker_skin(#[case] mm: f64, #[case] want: f64) {
        let got = skin_dryness(millimetres(mm), hours(24.0), air(5.0, 0.5)).0;
        assert!((got - want).abs() < 0.01, "{got}");
    }

    proptest::proptest! {
        #[test]
        fn more_humid_never_dries_faster(mm in 1.0..4.0f64, h in 1.0..96.0f64, rh in 0.2..0.9f64, more in 0.01..0.1f64) {
            let at = |rh| skin_dryness(millimetres(mm), hours(h), air(5.0, rh)).0;
            proptest::prop_assert!(at(rh + more) <= at(rh) + 1e-9);
        }
    }
}
