//! What salt travels through.

use crate::units::{Length, Temperature, TemperatureIn};

/// Density of tissue that turns grams per area into a concentration, kg/m³ (TRADE 9.1).
pub(super) const TISSUE_DENSITY: f64 = 1060.0;

/// A tissue with its water and diffusivity.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Tissue {
    /// Skin: slow.
    Skin,
    /// Fat: almost a wall.
    Fat,
    /// Lean meat.
    Lean,
}

impl Tissue {
    /// ε, kg water per kg tissue (TRADE 4.11).
    pub fn water(self) -> f64 {
        match self {
            Self::Lean => 0.74,
            Self::Skin => 0.62,
            Self::Fat => 0.12,
        }
    }

    /// Diffusivity ÷ that of lean (our estimate).
    fn relative_diffusivity(self) -> f64 {
        match self {
            Self::Lean => 1.0,
            Self::Skin => 1.0 / 5.0,
            Self::Fat => 1.0 / 30.0,
        }
    }
}

/// Diffusivity of sodium chloride, m²/s, at a temperature between −2 and 100 °C.
///
/// Lean 2.5·10⁻¹⁰ m²/s at 4 °C (literature for pork and beef at 2–7 °C about 2–3·10⁻¹⁰, from memory);
/// one activation energy of 25 kJ/mol for all layers (our estimate):
/// `D(T) = D₄ · exp(−Eₐ/R · (1/T − 1/277.15))`.
pub fn diffusivity(tissue: Tissue, at: Temperature) -> f64 {
    const LEAN_AT_4C: f64 = 2.5e-10;
    LEAN_AT_4C * tissue.relative_diffusivity() * clock_rate(at)
}

/// How much faster everything travels than at 4 °C; temperature only stretches the clock.
pub(super) fn clock_rate(at: Temperature) -> f64 {
    const ACTIVATION_J_PER_MOL: f64 = 25_000.0;
    const GAS_CONSTANT: f64 = 8.314_462_618;
    (-ACTIVATION_J_PER_MOL / GAS_CONSTANT * (1.0 / at.in_k() - 1.0 / 277.15)).exp()
}

/// One layer of a piece, from the top as it lies.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Layer {
    /// What salt travels through.
    pub tissue: Tissue,
    /// How thick it is; a layer of 0 is left out.
    pub thickness: Length,
}
