//! Salt that is in already: sauces, pastes and what the packer injected.

use crate::piece::CutFacts;
use crate::units::{Area, Mass, MassIn, Share, Time, grams};

/// Grams of sodium chloride per gram of sodium: M(NaCl) ÷ M(Na) = 58.4428 ÷ 22.98977,
/// IUPAC standard atomic weights (published).
pub const SALT_PER_SODIUM: f64 = 2.5421;

/// One row of the table of salty things.
#[derive(Debug, PartialEq)]
pub struct LedgerItem {
    /// Stable kebab-case name.
    pub id: &'static str,
    /// What a cook calls it.
    pub name: &'static str,
    /// Grams of salt in 100 g of it.
    pub salt_g_per_100g: f64,
    /// Grams a level US tablespoon (from memory); stock powder (our estimate).
    pub g_per_tbsp: f64,
    /// Share that ends in the meat (our estimate): 0.6 for a thin coat of sauce, 1 for what stays.
    pub uptake: f64,
    /// Grams of sodium in 100 g that is not table salt: soda counts for the guest, not for the dose.
    pub other_sodium_g_per_100g: f64,
    /// Where the figure comes from.
    pub source: &'static str,
}

const fn sauce(id: &'static str, name: &'static str, salt_g_per_100g: f64, g_per_tbsp: f64) -> LedgerItem {
    LedgerItem { id, name, salt_g_per_100g, g_per_tbsp, uptake: 0.6, other_sodium_g_per_100g: 0.0, source: SR }
}

const SR: &str = "USDA SR Legacy, sodium × 2.5421";

/// Salty things by kind.
pub const LEDGER_ITEMS: &[LedgerItem] = &[
    sauce("soy-sauce", "soy sauce", 13.96, 16.0),
    sauce("fish-sauce", "fish sauce", 19.96, 18.0),
    sauce("oyster-sauce", "oyster sauce", 6.95, 18.0),
    sauce("hoisin", "hoisin sauce", 4.11, 16.0),
    sauce("mustard", "mustard", 2.81, 15.0),
    sauce("barbecue-sauce", "barbecue sauce", 2.61, 17.0),
    sauce("ketchup", "ketchup", 2.31, 17.0),
    LedgerItem {
        id: "stock-powder",
        name: "stock powder",
        salt_g_per_100g: 60.0,
        g_per_tbsp: 9.0,
        uptake: 1.0,
        other_sodium_g_per_100g: 0.0,
        source: "our estimate",
    },
    LedgerItem {
        id: "stock",
        name: "stock",
        salt_g_per_100g: 0.9,
        g_per_tbsp: 15.0,
        uptake: 0.6,
        other_sodium_g_per_100g: 0.0,
        source: "USDA SR Legacy, ready to serve, from memory",
    },
    LedgerItem {
        id: "baking-soda",
        name: "baking soda",
        salt_g_per_100g: 0.0,
        g_per_tbsp: 13.8,
        uptake: 1.0,
        other_sodium_g_per_100g: 27.4,
        source: "IUPAC molar masses",
    },
    LedgerItem {
        id: "baking-powder",
        name: "baking powder",
        salt_g_per_100g: 0.0,
        g_per_tbsp: 13.8,
        uptake: 1.0,
        other_sodium_g_per_100g: 10.6,
        source: "USDA SR Legacy, 10,600 mg of sodium in 100 g",
    },
];

/// Looks an item up by its stable name.
pub fn ledger_item(id: &str) -> Option<&'static LedgerItem> {
    LEDGER_ITEMS.iter().find(|row| row.id == id)
}

impl LedgerItem {
    /// Whether it is poured, and an ounce of it may be one of a measuring cup.
    pub(super) fn is_poured(&self) -> bool {
        !matches!(self.id, "stock-powder" | "baking-soda" | "baking-powder" | "mustard")
    }

    /// This much of it, as an entry.
    pub fn used(&self, used: Mass) -> LedgerEntry {
        LedgerEntry {
            name: self.name.to_owned(),
            used,
            salt_g_per_100g: self.salt_g_per_100g,
            uptake: Share(self.uptake),
            bath: None,
            other_sodium_g_per_100g: self.other_sodium_g_per_100g,
            source: self.source,
            place: LedgerPlace::On,
            face: None,
            between: None,
        }
    }
}

/// One salty thing that goes on.
#[derive(Debug, Clone, PartialEq)]
pub struct LedgerEntry {
    /// What it is called.
    pub name: String,
    /// How much of it goes on.
    pub used: Mass,
    /// Grams of salt in 100 g of it.
    pub salt_g_per_100g: f64,
    /// Share that ends in the meat.
    pub uptake: Share,
    /// How long the piece lies in it, where it is a bath: diffusion caps what enters.
    pub bath: Option<Time>,
    /// Grams of sodium in 100 g of it that is not table salt.
    pub other_sodium_g_per_100g: f64,
    /// Where its salt comes from.
    pub source: &'static str,
    /// What becomes of it.
    pub place: LedgerPlace,
    /// The face it goes on, by id; `None` where the salt goes.
    pub face: Option<String>,
    /// Grams of salt in 100 g of it at least and at most, where nobody knows how salty it is; counted is the middle.
    pub between: Option<(f64, f64)>,
}

/// What becomes of something salty.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum LedgerPlace {
    /// It goes on the meat, or the meat lies in it raw: its salt counts to the dose.
    #[default]
    On,
    /// It is eaten beside the meat: its sodium counts, its salt does not.
    Beside,
    /// The meat is cooked in it: salt moves both ways, and what is eaten of it is eaten beside.
    Liquid,
}

impl LedgerPlace {
    /// Stable names.
    pub const NAMES: [&str; 3] = ["on", "beside", "liquid"];

    /// Its stable name.
    pub fn id(self) -> &'static str {
        Self::NAMES[self as usize]
    }

    /// By its stable name.
    pub fn find(name: &str) -> Option<Self> {
        [Self::On, Self::Beside, Self::Liquid].into_iter().zip(Self::NAMES).find(|(_, id)| *id == name).map(|(found, _)| found)
    }
}

impl LedgerEntry {
    /// Salt that it brings into the meat: grams × salt share × uptake; nothing where it is eaten beside, or is what the meat is
    /// cooked in.
    pub fn salt_brought(&self) -> Mass {
        if self.place == LedgerPlace::On { self.salt_in_it() * self.uptake.0 } else { grams(0.0) }
    }

    /// All salt in it.
    pub fn salt_in_it(&self) -> Mass {
        self.used * (self.salt_g_per_100g / 100.0)
    }

    /// Salt that it brings at least and at most, where nobody knows how salty it is.
    pub fn brings_between(&self) -> Option<(Mass, Mass)> {
        let (low, high) = self.between.filter(|_| self.place == LedgerPlace::On)?;
        let share = self.uptake.0 / 100.0;
        Some((self.used * (low * share), self.used * (high * share)))
    }

    /// Salt that it brings into a piece with that much open area: as [`salt_brought`](Self::salt_brought), and from
    /// a bath no more than diffusion allows.
    pub fn salt_brought_over(&self, open: Area) -> Mass {
        let all = self.salt_brought();
        let Some(hours) = self.bath else { return all };
        let most = super::bath_uptake_at_most(self.salt_g_per_100g / 100.0, open, hours);
        if all > most { most } else { all }
    }

    /// Sodium that it brings besides the salt of the dose: of what is no salt, and of all that is eaten beside.
    pub fn other_sodium(&self) -> Mass {
        let beside = if self.place == LedgerPlace::On { grams(0.0) } else { sodium_of_salt(self.salt_in_it()) };
        let share = if self.place == LedgerPlace::On { self.uptake.0 } else { 1.0 };
        self.used * (self.other_sodium_g_per_100g / 100.0 * share) + beside
    }
}

/// Salt inside a piece with added solution: (label − natural sodium of the cut) × 2.5421 × weight.
///
/// `label_mg_per_100g` is the sodium on the label, mg per 100 g of meat; never below zero salt.
pub fn salt_in_solution(cut: &CutFacts, weight: Mass, label_mg_per_100g: f64) -> Mass {
    let added_g_per_g = (label_mg_per_100g - cut.sodium_mg_per_100g).max(0.0) / 1000.0 / 100.0;
    grams(weight.in_g() * added_g_per_g * SALT_PER_SODIUM)
}

/// Sodium in this much salt, as a mass.
pub fn sodium_of_salt(salt: Mass) -> Mass {
    salt / SALT_PER_SODIUM
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::Cut;

    #[test]
    fn sodium_factor_is_the_ratio_of_molar_masses() {
        // IUPAC 2021: Na 22.98977, Cl 35.45 (abridged conventional 35.453).
        let (sodium, chlorine) = (22.98977, 35.453);
        assert!(((sodium + chlorine) / sodium - SALT_PER_SODIUM).abs() < 2e-4);
    }

    #[test]
    fn sauces_match_the_sodium_of_the_food_tables() {
        // USDA SR Legacy sodium, mg/100 g, from memory.
        for (id, sodium) in [
            ("soy-sauce", 5493.0),
            ("fish-sauce", 7851.0),
            ("oyster-sauce", 2733.0),
            ("hoisin", 1615.0),
            ("mustard", 1104.0),
            ("barbecue-sauce", 1027.0),
            ("ketchup", 907.0),
        ] {
            let item = ledger_item(id).unwrap();
            assert!((sodium / 1000.0 * SALT_PER_SODIUM - item.salt_g_per_100g).abs() < 0.006, "{id}");
        }
    }

    #[test]
    fn thirty_grams_of_soy_bring_two_and_a_half_of_salt() {
        // By hand: 30 × 0.1396 × 0.6 = 2.51 g.
        assert!((ledger_item("soy-sauce").unwrap().used(grams(30.0)).salt_brought().in_g() - 2.5128).abs() < 1e-9);
    }

    #[test]
    fn soda_brings_sodium_and_no_salt() {
        // IUPAC: NaHCO3 is 22.98977 + 1.008 + 12.011 + 3 × 15.999 = 84.006; sodium is 27.37 % of it.
        assert!((22.98977_f64 / 84.006 * 100.0 - 27.4).abs() < 0.05);
        let soda = ledger_item("baking-soda").unwrap().used(grams(10.0));
        assert!((soda.other_sodium().in_g() - 2.74).abs() < 1e-9 && soda.salt_brought().in_g() == 0.0);
    }

    #[test]
    fn a_bath_is_capped_by_diffusion() {
        use crate::units::{hours, square_decimetres};
        // TRADE 4.9: soy sauce, 12 h, about 4 g/dm²; 500 g of it hold 69.8 g of salt, 6 dm² take about 24.
        let bath = LedgerEntry { uptake: Share(1.0), bath: Some(hours(12.0)), ..ledger_item("soy-sauce").unwrap().used(grams(500.0)) };
        assert!((bath.salt_brought_over(square_decimetres(6.0)).in_g() - 24.0).abs() < 0.6);
        // A spoonful is no bath: it cannot give more than it has.
        let spoon = LedgerEntry { used: grams(16.0), ..bath };
        assert!((spoon.salt_brought_over(square_decimetres(6.0)).in_g() - 2.2336).abs() < 1e-9);
    }

    #[test]
    fn an_injected_bird_starts_above_zero() {
        // By hand: turkey 5 kg, label 240 mg: (240 − 70) mg/100 g × 5000 g = 8.5 g Na = 21.6 g salt.
        assert!((salt_in_solution(&Cut::find("turkey-whole").unwrap(), grams(5000.0), 240.0).in_g() - 21.608).abs() < 0.01);
        assert_eq!(salt_in_solution(&Cut::find("turkey-whole").unwrap(), grams(5000.0), 50.0).in_g(), 0.0);
    }
}
