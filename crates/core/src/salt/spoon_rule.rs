//! Doses and amounts of salt as cooks say them: `10 g/kg`, `0.8 %`, `1½ tsp per lb`, `2 tbsp`.

use super::salts::{SALTS, Salt};
use crate::units::{GramsPerKg, Mass, TwoWays, grams, grams_a_unit, in_figures, leading_amount};

/// The salt whose spoon is meant where no other is named.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SpoonSalt<'a> {
    /// What it is called.
    pub name: &'a str,
    /// Grams a level US teaspoon.
    pub g_per_tsp: f64,
    /// Sodium chloride in a gram of it.
    pub purity: f64,
    /// Whether the cook chose it: a spoon of a salt that nobody named can weigh twice as much as another.
    pub chosen: bool,
}

impl<'a> SpoonSalt<'a> {
    /// What a teaspoon of a salt weighs, and whether the cook chose that salt.
    pub fn of(salt: &'a Salt, chosen: bool) -> Self {
        Self { name: &salt.name, g_per_tsp: salt.g_per_tsp, purity: salt.sodium_chloride(), chosen }
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

/// Words for the usual levels (TRADE 4.1, common practice).
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
/// let dose = read_dose("2 tbsp on 4 lb", SpoonSalt::of(&flakes, true)).unwrap();
/// assert!((dose.0 - 9.26).abs() < 0.005); // 2 × 8.4 g ÷ 1.81437 kg
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
    let weight = per_weight(&rest).ok_or_else(refused)?;
    // The salt stands before the weight or behind it: “1 tsp table salt per lb”, “1 tsp/lb table salt”.
    let what = format!("{} {}", weight.before, weight.behind);
    match amount(number, &unit, what.trim(), spoon).ok_or_else(refused)? {
        // A dose is sodium chloride, and a spoon holds what its salt is.
        Amount::Of(grams, purity) => Ok(GramsPerKg(grams * purity / weight.kilograms)),
        Amount::SpoonOfWhat(first, second) => {
            let each = weight.phrase.strip_prefix('/').map_or_else(|| weight.phrase.to_owned(), |each| format!("per {}", each.trim()));
            let written = |name: &str| format!("{number_words} {unit} {name} {each}");
            Err(DoseError::TwoWays(TwoWays::new(typed, written(first), written(second))))
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
        Amount::Of(g, _) => Ok(grams(g)),
        Amount::SpoonOfWhat(first, second) => {
            let number = words_of_number(&text);
            let written = |name: &str| format!("{number} {unit} {name}");
            Err(DoseError::TwoWays(TwoWays::new(typed, written(first), written(second))))
        }
    }
}

enum Amount<'a> {
    /// Grams, and sodium chloride in a gram of them.
    Of(f64, f64),
    /// A spoon that can be of either.
    SpoonOfWhat(&'a str, &'a str),
}

fn amount<'a>(number: f64, unit: &str, what: &str, spoon: SpoonSalt<'a>) -> Option<Amount<'a>> {
    let named = salt_named(what);
    // Kosher salt is two salts, one nearly twice as heavy.
    let kosher = named.is_none() && what.contains("kosher");
    if named.is_none() && !kosher && !only_salt(what) {
        return None;
    }
    let spoons = match unit {
        "tsp" | "teaspoon" | "teaspoons" => 1.0,
        "tbsp" | "tablespoon" | "tablespoons" => 3.0,
        "cup" | "cups" => 48.0,
        // Nobody doses by the pound or the kilogram of salt.
        _ => return grams_a_unit(unit).filter(|each| *each < 100.0).map(|each| Amount::Of(number * each, 1.0)),
    };
    match named {
        Some((g_per_tsp, purity)) => Some(Amount::Of(number * spoons * g_per_tsp, purity)),
        None if what.contains(spoon.name) || spoon.chosen && (!kosher || spoon.name.contains("kosher")) => {
            Some(Amount::Of(number * spoons * spoon.g_per_tsp, spoon.purity))
        }
        None if kosher => Some(Amount::SpoonOfWhat("light-flake kosher salt", "dense kosher salt")),
        None => Some(Amount::SpoonOfWhat(spoon.name, other_salt(spoon.name))),
    }
}

/// Grams a teaspoon of a salt of the table that is named, and sodium chloride in a gram of it: the whole name, or what tells it apart.
fn salt_named(what: &str) -> Option<(f64, f64)> {
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
    whole.or_else(apart).map(|salt| (salt.g_per_tsp, salt.sodium_chloride()))
}

/// Nothing but salt is spoken of.
fn only_salt(what: &str) -> bool {
    what.split_whitespace().all(|word| matches!(word.trim_matches([',', '.']), "salt" | "of" | "level" | "by" | "weight" | "the" | ""))
}

/// A salt whose spoon weighs very differently.
fn other_salt(name: &str) -> &'static str {
    if name.contains("light-flake") { "fine table salt" } else { "light-flake kosher salt" }
}

/// The weight a dose is for, and the words around it.
struct PerWeight<'a> {
    before: &'a str,
    /// As it was typed: `per 5 lb`.
    phrase: &'a str,
    behind: &'a str,
    kilograms: f64,
}

/// `per lb`, `/kg`, `a pound`, `per 2 lb`, `/100 g`.
fn per_weight(text: &str) -> Option<PerWeight<'_>> {
    const JOINTS: [&str; 8] = ["/", "per ", "for each ", "for every ", "to the ", "each ", "on ", "for "];
    // “a pound” has become “1 pound”.
    let joint = JOINTS.iter().find_map(|joint| Some((text.find(joint)?, joint.len())));
    let (at, length) = joint.or_else(|| Some((text.find(|c: char| c.is_ascii_digit())?, 0)))?;
    let after = &text[at + length..];
    let (number, unit) = leading_amount(after.trim()).map_or_else(|| (1.0, after.trim().to_owned()), |(n, unit, _)| (n, unit));
    let word = unit.split_whitespace().next().unwrap_or_default();
    let each = match word.trim_end_matches('.') {
        "kg" | "kilo" | "kilos" | "kilogram" | "kilograms" => 1.0,
        "lb" | "lbs" | "pound" | "pounds" => 0.453_592_37,
        "g" | "gram" | "grams" => 0.001,
        _ => return None,
    };
    let end = at + length + after.find(word)? + word.len();
    let (before, phrase, behind) = (text[..at].trim(), text[at..end].trim(), text[end..].trim());
    (number > 0.0).then_some(PerWeight { before, phrase, behind, kilograms: number * each })
}

/// The number as it was typed, up to its unit.
fn words_of_number(text: &str) -> String {
    let end = text.find(|c: char| c.is_alphabetic() || c == '%').unwrap_or(text.len());
    text[..end].trim().to_owned()
}
