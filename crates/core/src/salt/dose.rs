//! How many grams.

use crate::units::{GramsPerKg, Mass, MassIn, Share, grams};

/// The outer 5 mm should not hold more than this, g/kg TRADE 4.12.
pub const RIM_AT_MOST: f64 = 40.0;

/// What the scale shows of so much sodium chloride, in a salt of which that is `purity` (0–1): more, where the salt is not all
/// of it.
pub fn on_the_scale(sodium_chloride: Mass, purity: f64) -> Mass {
    sodium_chloride / purity.max(0.01)
}

/// What the dose is counted on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum Basis {
    /// Weight without bone: weight × (1 − bone fraction).
    #[default]
    Edible,
    /// The weight as it lies on the scale.
    Whole,
}

impl Basis {
    /// Their names on the wire.
    pub const NAMES: [&str; 2] = ["edible", "whole"];

    /// By its stable name.
    pub fn find(name: &str) -> Option<Self> {
        [Self::Edible, Self::Whole].into_iter().find(|basis| basis.id() == name)
    }

    /// Its name on the wire: `edible` or `whole`.
    pub const fn id(self) -> &'static str {
        Self::NAMES[self as usize]
    }
}

/// The grams of one piece.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Dose {
    /// dose × basis weight, as sodium chloride.
    pub total: Mass,
    /// What is in already: sauces, solution, salt put on earlier.
    pub from_ledger: Mass,
    /// What goes on the scale; never below zero.
    pub to_weigh: Mass,
}

impl Dose {
    /// Balances the target against what is in already.
    pub fn balance(total: Mass, from_ledger: Mass) -> Self {
        Self { total, from_ledger, to_weigh: grams((total.in_g() - from_ledger.in_g()).max(0.0)) }
    }

    /// Salt in it, all in all: the target, or what is in already where that is more.
    pub fn in_all(&self) -> Mass {
        if self.is_over_full() { self.from_ledger } else { self.total }
    }

    /// Whether the ledger alone brings more than the target.
    pub fn is_over_full(&self) -> bool {
        self.from_ledger > self.total
    }
}

/// The words for a dose; TRADE 4.1.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum DoseLevel {
    /// Up to 18 g/kg: a dose for eating.
    Usual,
    /// Above 18: warn.
    High,
    /// From 40 up: refused.
    Refused,
}

/// Judges a dose by the trade's limits.
pub fn dose_level(dose: GramsPerKg) -> DoseLevel {
    if dose.0 >= 40.0 {
        DoseLevel::Refused
    } else if dose.0 > 18.0 {
        DoseLevel::High
    } else {
        DoseLevel::Usual
    }
}

/// Weight the dose is counted on. `bone` is the share of bone, 0–0.6.
pub fn basis_weight(weight: Mass, bone: Share, basis: Basis) -> Mass {
    match basis {
        Basis::Edible => weight * (1.0 - bone.0),
        Basis::Whole => weight,
    }
}

/// total = dose × basis weight (TRADE 4.2).
///
/// ```
/// use rauchkeller_core::{salt::total_salt, units::{grams, GramsPerKg, MassIn}};
/// // 10 g/kg of 2.4 kg is 24 g.
/// assert!((total_salt(GramsPerKg(10.0), grams(2400.0)).in_g() - 24.0).abs() < 1e-9);
/// ```
pub fn total_salt(dose: GramsPerKg, basis: Mass) -> Mass {
    grams(dose.0 * basis.in_kg())
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::salt::Salt;
    use rstest::rstest;

    // Worked numbers of the trade, TRADE 4.4.
    #[rstest]
    #[case("light-flake-kosher", 1.5, 453.59237, 9.26)]
    #[case("dense-kosher", 1.0, 453.59237, 10.58)]
    #[case("light-flake-kosher", 6.0, 4.0 * 453.59237, 9.26)] // 2 tbsp on 4 lb
    fn spoon_rules_come_to_their_dose(#[case] salt: &str, #[case] teaspoons: f64, #[case] g: f64, #[case] dose: f64) {
        let on = Salt::find(salt).unwrap().g_per_tsp * teaspoons;
        assert!((on / g * 1000.0 - dose).abs() < 0.005, "{}", on / g * 1000.0);
    }

    #[test]
    fn four_tablespoons_of_a_fifteen_gram_salt_on_three_kilograms() {
        // Worked number of the trade, TRADE 4.4: 4 tbsp of a 15 g/tbsp salt on 3 kg = 20.0 g/kg.
        let fifteen = Salt::own("a fifteen-gram salt", 15.0 / 3.0, 1.0, 0.0, None, None).unwrap();
        assert!((fifteen.g_per_tsp * 3.0 * 4.0 / 3.0 - 20.0).abs() < 1e-9);
    }

    #[test]
    fn bone_counts_only_on_the_edible_basis() {
        // By hand: 2.2 kg duck, 0.30 bone: 1.54 kg edible, 15.4 g at 10 g/kg.
        let duck = grams(2200.0);
        assert!((total_salt(GramsPerKg(10.0), basis_weight(duck, Share(0.3), Basis::Edible)).in_g() - 15.4).abs() < 1e-9);
        assert!((total_salt(GramsPerKg(10.0), basis_weight(duck, Share(0.3), Basis::Whole)).in_g() - 22.0).abs() < 1e-9);
    }

    #[test]
    fn the_ledger_is_taken_off_and_never_below_zero() {
        let dose = Dose::balance(grams(18.0), grams(4.2));
        assert!((dose.to_weigh.in_g() - 13.8).abs() < 1e-9 && !dose.is_over_full());
        let over = Dose::balance(grams(18.0), grams(20.0));
        assert!(over.to_weigh.in_g() == 0.0 && over.is_over_full());
    }

    #[test]
    fn limits_of_the_dose() {
        assert_eq!(dose_level(GramsPerKg(18.0)), DoseLevel::Usual);
        assert_eq!(dose_level(GramsPerKg(18.1)), DoseLevel::High);
        assert_eq!(dose_level(GramsPerKg(40.0)), DoseLevel::Refused);
    }
}
