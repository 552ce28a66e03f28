//! Doses and amounts of salt as cooks say them: `10 g/kg`, `0.8 %`, `1½ tsp per lb`, `2 tbsp`.

use super::salts::{SALTS, Salt};
use crate::units::{GramsPerKg, Mass, TwoWays, grams, in_figures, leading_amount};

/// The salt whose spoon is meant where no other is named.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SpoonSalt<'a> {
    /// What it is called.
    pub name: &'a str,
    /// Grams a level US teaspoon.
    pub g_per_tsp: f64,
    /// Whether the cook chose it: a spoon of a salt that nobody named can weigh twice as much as another.
    pub chosen: bool,
}

impl<'a> SpoonSalt<'a> {
    /// Of a salt.
    pub fn of(salt: &'a Salt, chosen: bool) -> Self {
        Self { name: &salt.name, g_per_tsp: salt.g_per_tsp, chosen }
    }
}

/// Why a dose or an amount of salt could not be read.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum DoseError {
    /// No dose.
    #[error("“{0}” is not a dose this kitchen can read; write it like 10 g/kg, 1 % or 1½ tsp per lb")]
    NotADose(String),
    /// No amount.
    #[error("“{0}” is not an amount of salt; write it like 18 g, 0.6 oz or 2 tbsp")]
    NotAnAmount(String),
    /// Two readings.
    #[error("{0}")]
    TwoWays(TwoWays),
}

impl DoseError {
    /// Both readings, where there are two.
    pub fn choices(&self) -> Vec<String> {
        if let Self::TwoWays(ways) = self { ways.choices() } else { vec![] }
    }
}

/// Words for the usual levels (`docs/TRADE.md`, T4.1; common practice).
const LEVELS: [(&str, f64); 6] =
    [("gentle", 7.5), ("house", 10.0), ("usual", 10.0), ("firm", 12.5), ("cured-tasting", 15.0), ("cured tasting", 15.0)];

/// Reads a dose; a spoon is one of the salt given, or of the one named in it.
///
/// A bare number below 3 is a per cent or grams a kilogram, and asked about; so is a spoon of a salt nobody has chosen.
///
/// ```
/// use rauchkeller_core::salt::{read_dose, Salt, SpoonSalt};
/// let flakes = Salt::find("light-flake-kosher").unwrap();
/// let dose = read_dose("1½ tsp per lb", SpoonSalt::of(&flakes, true)).unwrap();
/// assert!((dose.0 - 9.26).abs() < 0.005); // 1.5 × 2.8 g ÷ 0.45359 kg
/// ```
pub fn read_dose(typed: &str, spoon: SpoonSalt) -> Result<GramsPerKg, DoseError> {
    let short = || typed.trim().chars().take(40).collect::<String>();
    let text = in_figures(&typed.trim().to_lowercase());
    let text = text.trim_end_matches(['.', ',']).trim();
    if let Some((_, dose)) = LEVELS.iter().find(|(name, _)| text.trim_end_matches(" dose") == *name) {
        return Ok(GramsPerKg(*dose));
    }
    let refused = || DoseError::NotADose(short());
    let (number, unit, rest) = leading_amount(text).ok_or_else(refused)?;
    if !number.is_finite() {
        return Err(refused());
    }
    let number_words = words_of_number(text);
    match unit.as_str() {
        "%" | "percent" | "prozent" if only_salt(&rest) => return Ok(GramsPerKg(number * 10.0)),
        "per" if rest.starts_with("cent") => return Ok(GramsPerKg(number * 10.0)),
        "" if rest.is_empty() && (number >= 3.0 || number == 0.0) => return Ok(GramsPerKg(number)),
        "" if rest.is_empty() => {
            return Err(DoseError::TwoWays(TwoWays::new(typed, format!("{number_words} %"), format!("{number_words} g/kg"))));
        }
        _ => {}
    }
    let (what, kilograms) = per_weight(&rest).ok_or_else(refused)?;
    let salt = amount(number, &unit, what, spoon).ok_or_else(refused)?;
    match salt {
        Amount::Of(grams) => Ok(GramsPerKg(grams / kilograms)),
        Amount::SpoonOfWhat => {
            let behind = rest.trim();
            let other = other_salt(spoon.name);
            let written = |name: &str| format!("{number_words} {unit} {name} {behind}");
            Err(DoseError::TwoWays(TwoWays::new(typed, written(spoon.name), written(other))))
        }
    }
}

/// Reads an amount of salt that went on; a bare number is grams.
///
/// ```
/// use rauchkeller_core::{salt::{read_salt_amount, Salt, SpoonSalt}, units::MassIn};
/// let table = Salt::find("fine-table").unwrap();
/// assert!((read_salt_amount("2 tbsp", SpoonSalt::of(&table, true)).unwrap().in_g() - 36.0).abs() < 1e-9); // USDA: 18 g each
/// ```
pub fn read_salt_amount(typed: &str, spoon: SpoonSalt) -> Result<Mass, DoseError> {
    let refused = || DoseError::NotAnAmount(typed.trim().chars().take(40).collect());
    let text = in_figures(&typed.trim().to_lowercase());
    let (number, unit, rest) = leading_amount(&text).ok_or_else(refused)?;
    if unit.is_empty() && rest.is_empty() {
        return Ok(grams(number));
    }
    match amount(number, &unit, &rest, spoon).ok_or_else(refused)? {
        Amount::Of(g) => Ok(grams(g)),
        Amount::SpoonOfWhat => {
            let number = words_of_number(&text);
            let written = |name: &str| format!("{number} {unit} {name}");
            Err(DoseError::TwoWays(TwoWays::new(typed, written(spoon.name), written(other_salt(spoon.name)))))
        }
    }
}

enum Amount {
    Of(f64),
    SpoonOfWhat,
}

fn amount(number: f64, unit: &str, what: &str, spoon: SpoonSalt) -> Option<Amount> {
    let named = salt_named(what);
    if named.is_none() && !only_salt(what) {
        return None;
    }
    let spoons = match unit {
        "g" | "gram" | "grams" | "gr" => return Some(Amount::Of(number)),
        "oz" | "ounce" | "ounces" => return Some(Amount::Of(number * 28.349_523_125)),
        "tsp" | "teaspoon" | "teaspoons" => 1.0,
        "tbsp" | "tablespoon" | "tablespoons" => 3.0,
        "cup" | "cups" => 48.0,
        _ => return None,
    };
    match named {
        Some(g_per_tsp) => Some(Amount::Of(number * spoons * g_per_tsp)),
        None if spoon.chosen || what.contains(spoon.name) => Some(Amount::Of(number * spoons * spoon.g_per_tsp)),
        None => Some(Amount::SpoonOfWhat),
    }
}

/// Grams a teaspoon of a salt of the table that is named: the whole name, or what tells it apart.
fn salt_named(what: &str) -> Option<f64> {
    const APART: [(&str, &str); 9] = [
        ("light-flake", "light-flake-kosher"),
        ("light flake", "light-flake-kosher"),
        ("dense kosher", "dense-kosher"),
        ("table", "fine-table"),
        ("fine sea", "fine-sea"),
        ("coarse sea", "coarse-sea"),
        ("rock", "fine-rock"),
        ("pyramid", "pyramid-flakes"),
        ("clay", "clay-coarse"),
    ];
    let whole = SALTS.iter().find(|salt| what.contains(salt.name.as_ref()));
    let apart = || APART.iter().find(|(word, _)| what.contains(word)).and_then(|(_, id)| SALTS.iter().find(|s| s.id == *id));
    whole.or_else(apart).map(|salt| salt.g_per_tsp)
}

/// Nothing but salt is spoken of.
fn only_salt(what: &str) -> bool {
    what.split_whitespace().all(|word| matches!(word.trim_matches([',', '.']), "salt" | "of" | "level" | "by" | "weight" | "the" | ""))
}

/// A salt whose spoon weighs very differently.
fn other_salt(name: &str) -> &'static str {
    if name.contains("light-flake") { "fine table salt" } else { "light-flake kosher salt" }
}

/// `per lb`, `/kg`, `a pound`, `per 2 lb`: what stands before it, and the kilograms.
fn per_weight(text: &str) -> Option<(&str, f64)> {
    // “a pound” has become “1 pound”.
    let (before, after) = text
        .split_once('/')
        .or_else(|| text.split_once("per "))
        .or_else(|| text.split_once("for each "))
        .or_else(|| text.split_once("for every "))
        .or_else(|| text.split_once("to the "))
        .or_else(|| text.split_once("each "))
        .or_else(|| text.find(|c: char| c.is_ascii_digit()).map(|at| text.split_at(at)))?;
    let after = after.trim();
    let (number, unit) = leading_amount(after).map_or_else(|| (1.0, after.to_owned()), |(n, unit, _)| (n, unit));
    let each = match unit.split_whitespace().next().unwrap_or_default().trim_end_matches('.') {
        "kg" | "kilo" | "kilos" | "kilogram" | "kilograms" => 1.0,
        "lb" | "lbs" | "pound" | "pounds" => 0.453_592_37,
        _ => return None,
    };
    (number > 0.0).then_some((before.trim(), number * each))
}

/// The number as it was typed, up to its unit.
fn words_of_number(text: &str) -> String {
    let end = text.find(|c: char| c.is_alphabetic() || c == '%').unwrap_or(text.len());
    text[..end].trim().to_owned()
}
