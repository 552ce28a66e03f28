//! What a cook names and how much of it: one reader for the sentence, the ledger and the mix.
//!
//! It knows the salts, salty things and unsalty ones, and amounts in a cook's words: a pinch, a handful, three cloves, two sprigs, a
//! bunch, a little. Of several names in a line the longest that fits counts; what is salt goes before what is salty, and that before
//! what is not. A word that says more than the name does (a rub, a paste, something salted) makes it something nobody knows.

use super::ingredients::{GARLIC_CLOVE_G, ingredient, one_weighs};
use super::ledger::{LEDGER_ITEMS, LedgerItem};
use super::salts::{SALTS, Salt};
use super::things::{SALTY, Thing, UNSALTY};
use crate::units::{grams_a_unit, in_figures, leading_amount};

/// How salty a thing is.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) enum Salty {
    /// So many grams of salt in 100 g.
    Holds(f64),
    /// Nobody knows: at least and at most so many.
    Between(f64, f64),
    /// Less salty than usual, and only its label says by how much.
    Less,
}

/// What a cook named.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Named {
    /// A row of the ledger's own table.
    pub item: Option<&'static LedgerItem>,
    /// Loose salt.
    pub loose: Option<Salt>,
    /// A salt of which a spoon may weigh half as much as another's: “kosher” alone says only that it is coarse.
    pub which_flake: bool,
    /// How salty.
    pub salt: Salty,
    /// Grams a level US tablespoon, where known.
    pub g_per_tbsp: Option<f64>,
    /// Where its salt comes from.
    pub source: &'static str,
}

impl Named {
    fn of(salt: Salty, g_per_tbsp: Option<f64>, source: &'static str) -> Self {
        Self { item: None, loose: None, which_flake: false, salt, g_per_tbsp, source }
    }

    /// Whether there is no salt in it to count.
    pub fn is_unsalty(&self) -> bool {
        self.salt == Salty::Holds(0.0) && self.item.is_none()
    }

    /// Share of its salt that ends in the meat: 0.6 for a thin coat of sauce, 1 for what stays (our estimate).
    pub fn uptake(&self, words: &str) -> f64 {
        let stays = self.loose.is_some() || ["rub", "paste", "powder", "salt"].iter().any(|word| words.contains(word));
        self.item.map_or(if stays { 1.0 } else { 0.6 }, |item| item.uptake)
    }
}

const ASKED: &str = "our estimate: nobody said how salty it is";

/// Words that say that something was taken out of it; its own label says how much is left.
const LESS: [&str; 6] = ["low", "lower", "reduced", "less", "lite", "lowered"];
/// Words that say that there is none in it.
const FREE: [&str; 7] = ["unsalted", "salt free", "saltless", "no salt", "without salt", "sodium free", "no added salt"];
/// Words that say that there is more in it than its name tells.
const MORE: [&str; 21] = [
    "rub",
    "seasoning",
    "mix",
    "blend",
    "paste",
    "sauce",
    "marinade",
    "brine",
    "dressing",
    "salted",
    "salty",
    "cured",
    "pickled",
    "smoked",
    "cheese",
    "sausage",
    "bacon",
    "ham",
    "broth",
    "bouillon",
    "relish",
];

/// Finds what a line speaks of; `own` are the household's salts.
pub(super) fn named(words: &str, unit: &str, own: &[Salt]) -> Named {
    let tokens = tokens(words);
    if let Some(mine) = own.iter().find(|salt| words.contains(&salt.name.to_lowercase())) {
        return of_salt(mine);
    }
    if FREE.iter().any(|free| find(&tokens, free).is_some()) {
        return Named { salt: Salty::Holds(0.0), ..unsalty(&tokens).unwrap_or(Named::of(Salty::Holds(0.0), None, "as it says")) };
    }
    let less = tokens.windows(2).any(|pair| LESS.contains(&pair[0].as_str()) && matches!(pair[1].as_str(), "sodium" | "salt"));
    if less || tokens.iter().any(|token| matches!(token.as_str(), "lite" | "reduced")) {
        return Named { salt: Salty::Less, ..salty(&tokens, unit).map_or(Named::of(Salty::Less, None, ASKED), |(named, _)| named) };
    }
    let salty = salty(&tokens, unit);
    // “Garlic salt” is a thing of its own, and no loose salt.
    let of_its_own = salty.as_ref().is_some_and(|(_, covered)| covered.iter().any(|i| tokens[*i] == "salt"));
    if !of_its_own && let Some(found) = loose(words, &tokens) {
        return found;
    }
    if let Some((found, _)) = salty {
        return found;
    }
    unsalty(&tokens).unwrap_or_else(|| {
        let rub = tokens.iter().any(|t| matches!(t.as_str(), "rub" | "seasoning" | "spice"));
        let (low, high) = if rub { (15.0, 45.0) } else { (0.5, 15.0) };
        Named::of(Salty::Between(low, high), None, ASKED)
    })
}

/// Loose salt.
fn of_salt(salt: &Salt) -> Named {
    let holds = Salty::Holds(salt.sodium_chloride() * 100.0);
    Named { loose: Some(salt.clone()), ..Named::of(holds, Some(salt.g_per_tsp * 3.0), "the table of salts") }
}

/// A salt: one of the table by what it is called, else fine table salt.
fn loose(words: &str, tokens: &[String]) -> Option<Named> {
    if let Some(row) = SALTS.iter().find(|salt| words.contains(salt.name.as_ref()) || words.trim() == salt.name.trim_end_matches(" salt")) {
        return Some(of_salt(row));
    }
    let says = |word: &str| tokens.iter().any(|token| token == word);
    let flakes = says("flake") && (says("salt") || says("sea"));
    if !says("salt") && !flakes {
        return None;
    }
    // Salt and something else in one: nobody knows how much of which.
    let other = unsalty_match(tokens).is_some_and(|(_, span)| !span.iter().any(|i| tokens[*i] == "salt"));
    if other && !flakes {
        return Some(Named::of(Salty::Between(30.0, 95.0), None, ASKED));
    }
    let kosher = says("kosher");
    let id = match () {
        () if flakes || says("flaky") || says("pyramid") => "pyramid-flakes",
        () if says("himalayan") || says("himalaya") || says("rock") || says("pink") => "fine-rock",
        () if says("grey") || says("gray") || says("clay") => "clay-coarse",
        () if kosher && (says("light") || says("flaked")) => "light-flake-kosher",
        () if kosher => "dense-kosher",
        () if says("coarse") => "coarse-sea",
        () if says("sea") || says("ocean") => "fine-sea",
        () => "fine-table",
    };
    let which_flake = kosher && !says("light") && !says("flaked") && !says("dense");
    Some(Named { which_flake, ..of_salt(&Salt::find(id)?) })
}

/// Something salty, and which words its name covers; a word beside it that says more makes it one that nobody knows.
fn salty(tokens: &[String], unit: &str) -> Option<(Named, Vec<usize>)> {
    let plain = unsalty_match(tokens);
    let longer =
        |span: &[usize]| plain.as_ref().is_some_and(|(_, other)| span.iter().all(|i| other.contains(i)) && other.len() > span.len());
    if let Some((item, span)) = item(tokens, unit).filter(|(_, span)| !longer(span)) {
        // A rub after a sauce is a rub.
        if !tokens.iter().enumerate().any(|(i, token)| token == "rub" && !span.contains(&i)) {
            let named = Named::of(Salty::Holds(item.salt_g_per_100g), Some(item.g_per_tbsp), item.source);
            return Some((Named { item: Some(item), ..named }, span));
        }
    }
    let (thing, span) = longest(SALTY, tokens).filter(|(_, span)| !longer(span))?;
    Some((Named::of(Salty::Holds(thing.salt_g_per_100g), thing.g_per_tbsp, thing.source), span))
}

/// The row of the ledger's table a line speaks of. Stock that is measured in cups is ready to drink, stock on the scale is powder.
fn item(tokens: &[String], unit: &str) -> Option<(&'static LedgerItem, Vec<usize>)> {
    const POURED: [&str; 12] =
        ["cup", "cups", "ml", "millilitre", "millilitres", "milliliter", "milliliters", "cl", "dl", "l", "litre", "floz"];
    let says = |word: &str| tokens.iter().position(|token| token == word);
    let dry = ["powder", "cube", "granule"].iter().any(|word| says(word).is_some()) || unit.starts_with("cube");
    let row = |id: &str| LEDGER_ITEMS.iter().find(|item| item.id == id);
    if let Some(at) =
        says("broth").or(says("stock").filter(|_| POURED.contains(&unit))).or(says("bouillon").filter(|_| POURED.contains(&unit)))
        && !dry
    {
        return row("stock").map(|item| (item, vec![at]));
    }
    if let Some(at) = says("bouillon") {
        return row("stock-powder").map(|item| (item, vec![at]));
    }
    let rows = LEDGER_ITEMS.iter().filter(|item| item.id != "stock");
    rows.filter_map(|item| Some((item, find(tokens, key_word(item.id))?))).max_by_key(|(_, span)| span.len())
}

/// The word by which a row of the ledger's table is known in a sentence.
fn key_word(id: &str) -> &str {
    match id {
        "soy-sauce" => "soy",
        "fish-sauce" => "fish sauce",
        "oyster-sauce" => "oyster",
        "barbecue-sauce" => "barbecue",
        "stock-powder" => "stock",
        "baking-soda" => "soda",
        "baking-powder" => "baking powder",
        other => other,
    }
}

/// Something without salt to speak of; `None` where a word beside its name says more.
fn unsalty(tokens: &[String]) -> Option<Named> {
    let (thing, span) = unsalty_match(tokens)?;
    let more = tokens.iter().enumerate().any(|(i, token)| !span.contains(&i) && MORE.contains(&token.as_str()));
    // The table of ingredients weighs the spoon, where it has one.
    let spoon = ingredient(&tokens.join(" ")).map(|row| row.g_per_tbsp).or(thing.g_per_tbsp);
    (!more).then(|| Named::of(Salty::Holds(0.0), spoon, thing.source))
}

fn unsalty_match(tokens: &[String]) -> Option<(&'static Thing, Vec<usize>)> {
    longest(UNSALTY, tokens)
}

/// The row whose longest name stands in the line, and where.
fn longest(rows: &'static [Thing], tokens: &[String]) -> Option<(&'static Thing, Vec<usize>)> {
    let found = rows.iter().flat_map(|row| row.words.split(',').filter_map(move |name| Some((row, find(tokens, name)?))));
    found.max_by_key(|(_, span)| span.len())
}

/// Words of a line, lower case, in the singular, without their hyphens.
fn tokens(words: &str) -> Vec<String> {
    let lower = words.to_lowercase();
    let parts = lower.split(|c: char| !c.is_alphanumeric()).filter(|part| !part.is_empty());
    parts.map(singular).take(40).collect()
}

fn singular(word: &str) -> String {
    let folded: String = word
        .chars()
        .map(|c| match c {
            'é' | 'è' | 'ê' => 'e',
            'ñ' => 'n',
            'ü' => 'u',
            c => c,
        })
        .collect();
    match folded.as_str() {
        "leaves" => "leaf".to_owned(),
        "molasses" | "schnapps" | "couscous" | "hummus" | "citrus" | "asparagus" | "calvados" | "pastis" | "swiss" | "less"
        | "saltless" => folded,
        word if word.len() > 4 && word.ends_with("ies") => format!("{}y", &word[..word.len() - 3]),
        word if word.len() > 4 && word.ends_with("oes") => word[..word.len() - 2].to_owned(),
        word if word.len() > 3 && word.ends_with('s') && !word.ends_with("ss") && !word.ends_with("us") => {
            word[..word.len() - 1].to_owned()
        }
        word => word.to_owned(),
    }
}

/// Where a name stands in a line, as a row of words.
fn find(tokens: &[String], name: &str) -> Option<Vec<usize>> {
    // Of hundreds of names nearly all begin otherwise than any word of the line; a singular begins as its plural does.
    let first = name.bytes().next()?;
    if first.is_ascii() && !tokens.iter().any(|token| token.as_bytes().first() == Some(&first)) {
        return None;
    }
    let wanted: Vec<String> = name.split([' ', '-']).map(singular).collect();
    let at = tokens.windows(wanted.len()).position(|window| window == wanted)?;
    Some((at..at + wanted.len()).collect())
}

/// The amount a line begins with: number, unit, and what is left; in figures, or in a cook's words.
pub(super) fn amount_of(line: &str) -> Option<(f64, String, String)> {
    let line = line.trim();
    // “The juice of two lemons” is two lemons.
    if let Some(rest) = behind(line, &["the juice of", "juice of", "the zest of", "zest of", "juice from"]) {
        return amount_of(rest);
    }
    let (times, rest) = match () {
        () if let Some(rest) = behind(line, &["a few", "some", "a couple of", "a couple"]) => {
            let few = if line.starts_with("a c") { 2.0 } else { 3.0 };
            // “Some” of what is not counted is a little.
            let counted = unit_word(rest).is_some();
            if line.starts_with("some") && !counted {
                return Some((1.0, "little".into(), rest.to_owned()));
            }
            (few, rest)
        }
        () if let Some(rest) = behind(line, &["a little", "a bit of", "a touch of", "a hint of", "just a little"]) => {
            return Some((1.0, "little".into(), rest.to_owned()));
        }
        () if let Some(rest) = behind(line, &["half a", "half an", "half"]) => (0.5, rest),
        () if let Some(rest) = behind(line, &["a", "an"]) => (1.0, rest),
        () => (1.0, line),
    };
    if let Some((unit, what)) = unit_word(rest) {
        return Some((times, unit.to_owned(), what.to_owned()));
    }
    // “A lemon”, “half an onion”.
    if rest.len() < line.len() && one_weighs(rest).is_some() {
        return Some((times, String::new(), rest.to_owned()));
    }
    if rest.len() < line.len()
        && let Some(found) = leading_amount(&format!("{times} {rest}")).filter(|(_, unit, _)| is_spoon(unit))
    {
        return Some(found);
    }
    leading_amount(&in_figures(line))
}

fn behind<'a>(line: &'a str, starts: &[&str]) -> Option<&'a str> {
    starts.iter().find_map(|start| line.strip_prefix(start)?.strip_prefix(' ')).map(str::trim_start)
}

fn is_spoon(unit: &str) -> bool {
    is_unit(unit)
}

/// Cooks' own units, in the singular.
const UNITS: [&str; 23] = [
    "pinch", "dash", "handful", "clove", "sprig", "bunch", "leaf", "packet", "sachet", "envelope", "stick", "slice", "knob", "thumb",
    "head", "bulb", "stalk", "cube", "splash", "drizzle", "glug", "squeeze", "little",
];

/// A cook's unit at the start of a text, in the singular, and what stands behind it.
fn unit_word(text: &str) -> Option<(&'static str, &str)> {
    let end = text.find(|c: char| !c.is_alphabetic()).unwrap_or(text.len());
    let (word, rest) = text.split_at(end);
    let unit = cooks_unit(word)?;
    let rest = rest.trim_start();
    Some((unit, rest.strip_prefix("of ").unwrap_or(rest).trim()))
}

/// A cook's unit by its name, in any number.
pub(super) fn cooks_unit(word: &str) -> Option<&'static str> {
    let one = singular(word);
    let one = one.strip_suffix("es").filter(|_| matches!(one.as_str(), "pinches" | "dashes" | "bunches" | "splashes")).unwrap_or(&one);
    let one = if matches!(one, "pinche" | "dashe" | "bunche" | "splashe") { &one[..one.len() - 1] } else { one };
    UNITS.into_iter().find(|unit| *unit == one)
}

/// Grams of one of a cook's units of this (our estimates, but for garlic); `None` where that decides how salty it gets and only a
/// scale knows.
pub(super) fn weighs(unit: &str, words: &str, what: &Named) -> Option<f64> {
    let says = |word: &str| words.contains(word);
    let herb = what.g_per_tbsp.is_some_and(|g| g <= 3.5);
    let salted = !what.is_unsalty();
    Some(match unit {
        "pinch" => what.loose.as_ref().and_then(|salt| salt.pinch_g).unwrap_or(0.4),
        "dash" => 0.6,
        "handful" => match () {
            () if herb => 15.0,
            () if what.loose.is_some() => 40.0,
            () if salted => return None,
            () => 30.0,
        },
        "clove" if says("garlic") || words.is_empty() => GARLIC_CLOVE_G,
        "clove" => 0.1,
        "sprig" => 1.5,
        "bunch" => 50.0,
        "leaf" => 0.3,
        "stick" if says("butter") => 113.4,
        "stick" if says("cinnamon") => 3.0,
        "stick" | "stalk" => 20.0,
        "head" | "bulb" if says("garlic") => 40.0,
        "slice" => 5.0,
        "knob" | "thumb" => 15.0,
        "cube" if what.item.is_some_and(|item| item.id == "stock-powder") => 10.0,
        "splash" | "glug" if !salted || what.item.is_some() => 10.0,
        "drizzle" | "squeeze" if !salted || what.item.is_some() => 5.0,
        // What counts nothing may be a little; of salt and what is salty somebody has to weigh it.
        "packet" | "sachet" | "envelope" | "head" | "bulb" | "cube" if !salted => 10.0,
        "little" if !salted => 5.0,
        _ => return None,
    })
}

/// So much of something, weighed.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Helping {
    /// What it is.
    pub named: Named,
    /// As the cook calls it.
    pub name: String,
    /// How much, g.
    pub g: f64,
}

/// Why an amount could not be weighed.
#[derive(Debug, Clone, PartialEq)]
pub(super) enum Unweighed {
    /// A unit that is none.
    Unit(String),
    /// A spoon of something whose weight nobody knows.
    Spoon(String),
    /// A little of something salty: only a scale says how much.
    Little(String),
    /// A spoon of a salt that may weigh half as much as another of that name.
    Which([String; 2]),
}

/// Weighs an amount of what a cook names; a spoon of the unknown weighs `unknown_spoon` grams, where it is given.
pub(super) fn helping((number, unit, rest): (f64, &str, &str), own: &[Salt], unknown_spoon: Option<f64>) -> Result<Helping, Unweighed> {
    // “Three cloves” alone, “two lemons”, “3 garlic cloves”: what is counted is itself the thing.
    let last = rest.rsplit(' ').next().unwrap_or_default();
    let behind = cooks_unit(last).filter(|_| !is_unit(unit) && cooks_unit(unit).is_none());
    let (unit, what) = match behind {
        Some(counted) => (counted.to_owned(), format!("{unit} {}", rest.strip_suffix(last).unwrap_or_default())),
        None if is_unit(unit) => (unit.to_owned(), rest.to_owned()),
        None => match cooks_unit(unit) {
            Some("clove") if rest.is_empty() => ("clove".to_owned(), "clove".to_owned()),
            Some(counted) => (counted.to_owned(), rest.to_owned()),
            None => (unit.to_owned(), format!("{unit} {rest}")),
        },
    };
    let what = what.trim().to_owned();
    let named = named(&what, &unit, own);
    let spoon = || named.g_per_tbsp.or(unknown_spoon).ok_or_else(|| Unweighed::Spoon(what.clone()));
    if named.which_flake && is_unit(&unit) && grams_a_unit(&unit).is_none() && unit != "%" {
        let of = |kind: &str| format!("{number} {unit} {kind} kosher salt");
        return Err(Unweighed::Which([of("dense"), of("light-flake")]));
    }
    let each = match unit.as_str() {
        "%" => 1.0,
        "tbsp" | "tablespoon" | "tablespoons" => spoon()?,
        "tsp" | "teaspoon" | "teaspoons" => spoon()? / 3.0,
        "cup" | "cups" => spoon()? * 16.0,
        // By the weight of its spoon: a US tablespoon holds 14.7868 mL.
        "floz" => spoon()? * 2.0,
        "ml" | "millilitre" | "millilitres" | "milliliter" | "milliliters" => spoon()? / US_TABLESPOON_ML,
        "cl" => spoon()? / US_TABLESPOON_ML * 10.0,
        "dl" => spoon()? / US_TABLESPOON_ML * 100.0,
        "l" | "litre" | "litres" | "liter" | "liters" => spoon()? / US_TABLESPOON_ML * 1000.0,
        unit if is_unit(unit) => grams_a_unit(unit).unwrap_or(1.0),
        unit if cooks_unit(unit).is_some() => weighs(unit, &what, &named).ok_or_else(|| Unweighed::Little(what.clone()))?,
        unit => one_weighs(&what).ok_or_else(|| Unweighed::Unit(unit.to_owned()))?,
    };
    Ok(Helping { named, name: what, g: number * each })
}

/// A US tablespoon, mL.
const US_TABLESPOON_ML: f64 = 3.0 * super::spoons::US_TEASPOON_ML;

/// Whether it is a unit of weight, of spoons and cups, or a share.
fn is_unit(unit: &str) -> bool {
    const SPOONS: [&str; 23] = [
        "%",
        "tbsp",
        "tablespoon",
        "tablespoons",
        "tsp",
        "teaspoon",
        "teaspoons",
        "cup",
        "cups",
        "floz",
        "ml",
        "millilitre",
        "millilitres",
        "milliliter",
        "milliliters",
        "cl",
        "dl",
        "l",
        "litre",
        "litres",
        "liter",
        "liters",
        "t",
    ];
    SPOONS.contains(&unit) || grams_a_unit(unit).is_some()
}

/// Whether it is a unit that says how much goes on: neither a share nor a spoon of two sizes.
pub(super) fn is_amount(unit: &str) -> bool {
    is_unit(unit) && !matches!(unit, "%" | "t")
}

#[cfg(test)]
mod tests;
