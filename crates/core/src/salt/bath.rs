//! A bath gives no more salt than diffusion lets in.

use crate::units::{Area, AreaIn, Mass, Time, TimeIn, grams};

/// Salt diffusivity of lean at 4 °C, m²/s (TRADE 4.11: literature 2–3·10⁻¹⁰, from memory).
const LEAN_DIFFUSIVITY: f64 = 2.5e-10;
/// kg water per kg lean (TRADE 4.11).
const LEAN_WATER: f64 = 0.74;
/// Density of lean, kg/m³ (TRADE 9.1).
const LEAN_DENSITY: f64 = 1060.0;

/// The most salt that can enter from a bath: area × 2·c_s·√(D·t/π), the uptake of a half-space from a surface
/// held at c_s (Crank, *The Mathematics of Diffusion*, 2nd ed. 1975, eq. 3.15; TRADE 4.11).
///
/// `salt_share` is grams of salt a gram of bath (0–1); the tissue's water at the surface takes the bath's strength,
/// so that c_s = share × 0.74 × 1060 kg/m³. Valid at refrigerator temperature and until the middle is reached.
///
/// ```
/// use rauchkeller_core::{salt::bath_uptake_at_most, units::{hours, square_decimetres, MassIn}};
/// // TRADE 4.9: soy sauce, 12 h: about 4 g/dm².
/// let most = bath_uptake_at_most(0.1396, square_decimetres(1.0), hours(12.0));
/// assert!((most.in_g() - 4.0).abs() < 0.1);
/// ```
pub fn bath_uptake_at_most(salt_share: f64, area: Area, time: Time) -> Mass {
    let surface = salt_share.clamp(0.0, 1.0) * LEAN_WATER * LEAN_DENSITY;
    let depth = (LEAN_DIFFUSIVITY * time.in_s().max(0.0) / std::f64::consts::PI).sqrt();
    grams(2.0 * surface * depth * area.in_dm2() / 100.0 * 1000.0)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::{MassIn, hours, square_decimetres};

    #[test]
    fn the_half_space_has_its_closed_form() {
        // By hand: c_s 0.1396 × 0.74 × 1060 = 109.50 kg/m³; √(2.5e-10 × 43200/π) = 1.8541 mm; 2 × both = 0.40606 kg/m².
        let most = bath_uptake_at_most(0.1396, square_decimetres(1.0), hours(12.0)).in_g();
        assert!((most - 4.0606).abs() < 1e-3, "{most}");
    }

    #[test]
    fn four_times_the_hours_give_twice_the_salt() {
        let at = |h: f64| bath_uptake_at_most(0.1, square_decimetres(3.0), hours(h)).in_g();
        assert!((at(8.0) / at(2.0) - 2.0).abs() < 1e-12 && at(0.0) == 0.0);
    }
}
