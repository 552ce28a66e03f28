//! Grams as level spoons, to the nearest quarter teaspoon, with the error said.

use super::salts::Salt;
use crate::units::{Mass, MassIn, grams};

/// A US teaspoon, mL (NIST Handbook 44, Appendix C) (published).
pub const US_TEASPOON_ML: f64 = 4.92892;

/// Level spoons of one salt.
#[derive(Debug, Clone, PartialEq)]
pub struct Spoons {
    /// Whole tablespoons (3 tsp).
    pub tablespoons: u32,
    /// Quarters of a teaspoon, 0–11.
    pub quarter_teaspoons: u32,
    /// What that spoonful really weighs.
    pub weighs: Mass,
}

/// A metric teaspoon, mL.
const METRIC_TEASPOON_ML: f64 = 5.0;

/// The nearest quarter of a US teaspoon of this salt.
pub fn in_spoons(salt: Mass, kind: &Salt) -> Spoons {
    nearest(salt, kind.g_per_tsp)
}

/// The nearest quarter of a metric teaspoon (5 mL, three to a tablespoon of 15 mL).
pub fn in_metric_spoons(salt: Mass, kind: &Salt) -> Spoons {
    nearest(salt, kind.g_per_tsp * METRIC_TEASPOON_ML / US_TEASPOON_ML)
}

/// The nearest quarter of a US teaspoon of a salt of which a level one weighs `g_per_tsp`.
pub fn spoons_of(salt: Mass, g_per_tsp: f64) -> Spoons {
    nearest(salt, g_per_tsp.max(0.01))
}

fn nearest(salt: Mass, g_per_tsp: f64) -> Spoons {
    let quarters = (salt.in_g() / g_per_tsp * 4.0).round().max(0.0) as u32;
    Spoons { tablespoons: quarters / 12, quarter_teaspoons: quarters % 12, weighs: grams(f64::from(quarters) / 4.0 * g_per_tsp) }
}

impl std::fmt::Display for Spoons {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        let part = ["", "¼", "½", "¾"][(self.quarter_teaspoons % 4) as usize];
        let whole = self.quarter_teaspoons / 4;
        let teaspoons = match (whole, part) {
            (0, "") => String::new(),
            (0, part) => format!("{part} tsp"),
            (whole, part) => format!("{whole}{part} tsp"),
        };
        match (self.tablespoons, teaspoons.as_str()) {
            (0, "") => f.write_str("less than ¼ tsp"),
            (0, tsp) => f.write_str(tsp),
            (tbsp, "") => write!(f, "{tbsp} tbsp"),
            (tbsp, tsp) => write!(f, "{tbsp} tbsp + {tsp}"),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::salt::Salt;

    #[test]
    fn twenty_four_grams_of_fine_sea_salt() {
        // TRADE 4.3: 5.6 g/tsp: 24 g = 4.29 tsp → 4¼ tsp = 1 tbsp + 1¼ tsp = 23.8 g.
        let spoons = in_spoons(grams(24.0), &Salt::find("fine-sea").unwrap());
        assert_eq!(spoons.to_string(), "1 tbsp + 1¼ tsp");
        assert!((spoons.weighs.in_g() - 23.8).abs() < 1e-9);
    }

    #[test]
    fn metric_spoons_are_a_little_larger() {
        // 100 g ÷ 5.6 g × 4.92892/5 = 17.60 metric tsp → 17½, where US teaspoons say 17.86 → 17¾.
        let salt = Salt::find("fine-sea").unwrap();
        assert_eq!(in_metric_spoons(grams(100.0), &salt).to_string(), "5 tbsp + 2½ tsp");
        assert_eq!(in_spoons(grams(100.0), &salt).to_string(), "5 tbsp + 2¾ tsp");
    }

    #[test]
    fn the_same_grams_of_flakes_take_three_times_the_spoon() {
        // 2.0 g/tsp: 24 g = 12 tsp = 4 tbsp.
        let spoons = in_spoons(grams(24.0), &Salt::find("pyramid-flakes").unwrap());
        assert_eq!(spoons.to_string(), "4 tbsp");
    }

    #[test]
    fn table_salt_tablespoon_is_the_published_eighteen_grams() {
        // USDA FoodData Central, “Salt, table”: 1 tbsp = 18 g.
        assert_eq!(in_spoons(grams(18.0), &Salt::find("fine-table").unwrap()).to_string(), "1 tbsp");
    }
}
