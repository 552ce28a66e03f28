//! Own mixes: a rub, paste or marinade from its ingredients, its salt, and how much of it a piece takes.

use super::curing::{CuringName, curing_name};
use super::ledger_line::read_label;
use super::named::{Helping, Salty, Unweighed, amount_of, helping, named};
use super::salts::Salt;
use crate::skin::drying::FridgePlacement;
use crate::units::{Area, AreaIn, Mass, MassIn, grams, grams_a_unit, leading_amount};

/// One ingredient of a mix.
#[derive(Debug, Clone, PartialEq)]
pub struct MixPart {
    /// As the cook calls it.
    pub name: String,
    /// Its weight in the recipe.
    pub weight: Mass,
    /// Sodium chloride in it.
    pub salt: Mass,
    /// Whether its salt is known; of what is not known the middle of what such things hold counts.
    pub known: bool,
}

impl MixPart {
    /// Share of its salt that ends in the meat: that of a sauce of the table, as where the sauce goes on alone; else all of it.
    pub fn uptake(&self) -> f64 {
        let named = named(&self.name.to_lowercase(), "g", &[]);
        named.item.filter(|item| item.salt_g_per_100g > 0.0).map_or(1.0, |item| item.uptake)
    }
}

/// A rub, paste or marinade.
#[derive(Debug, Clone, PartialEq)]
pub struct Mix {
    /// What the household calls it.
    pub name: String,
    /// Its ingredients.
    pub parts: Vec<MixPart>,
    /// How much meat the recipe says it is for.
    pub made_for: Option<Mass>,
}

/// Why a recipe is none. Each sentence names the line and what to do.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum MixError {
    /// No name.
    #[error("a mix without a name; write one of 1 to 60 letters, like Sunday rub")]
    Name,
    /// No line, or too many.
    #[error("{0} ingredients; between 1 and 40 are allowed, one a line")]
    HowMany(usize),
    /// A line without an amount.
    #[error("“{0}” has no amount; write it like 40 g fine sea salt, 2 tbsp paprika or 3 cloves garlic")]
    NoAmount(String),
    /// An amount no kitchen weighs.
    #[error("“{0}” is not a sensible amount; above 0 and up to 20 kg is allowed")]
    Amount(String),
    /// A spoon of something whose weight nobody knows.
    #[error("how heavy is that spoon of “{0}”? Weigh it and write grams")]
    SpoonOf(String),
    /// A little of something salty.
    #[error("how much is that of “{0}”? It is salty: weigh it and write grams, or say tsp or tbsp")]
    HowMuch(String),
    /// Less salty than usual, and nobody says by how much.
    #[error("how salty is “{0}”? Add what its label says, like 8% salt")]
    LessSalty(String),
    /// A spoon of a salt that may weigh half as much as another of that name.
    #[error("“{0}” or “{1}”? The one weighs nearly twice the other: write which, or grams")]
    Which(String, String),
    /// A unit that is none.
    #[error("“{0}” is not a unit for this; write g, kg, oz, lb, ml, tsp, tbsp, cup, cloves, whole fruit or %")]
    Unit(String),
    /// Curing salt in it.
    #[error("“{0}” carries nitrite and is dosed differently: it can poison at these amounts. Take plain salt")]
    Curing(String),
    /// Percentages that are not a whole.
    #[error("the parts add up to {0:.1} %, not 100 %; put one right, or write grams")]
    Percent(f64),
    /// Percentages and weights in one recipe.
    #[error("some parts are in %, others by weight; write all of them one way")]
    MixedUnits,
    /// A stated yield that the parts do not give.
    #[error("the parts weigh {parts:.0} g together, but it says it makes {said:.0} g; a part is missing or mistyped")]
    Yield {
        /// What the parts weigh, g.
        parts: f64,
        /// What the recipe says, g.
        said: f64,
    },
    /// A stated share of salt that the parts do not give.
    #[error("the parts hold {parts:.1} % salt, but it says {said:.1} %; a part is missing or mistyped")]
    SaltShare {
        /// From the parts, %.
        parts: f64,
        /// Salt as stated, % by weight.
        said: f64,
    },
}

impl Mix {
    /// Weight of the recipe as written.
    pub fn weight(&self) -> Mass {
        self.parts.iter().fold(grams(0.0), |sum, part| sum + part.weight)
    }

    /// Grams of sodium chloride in a gram of it, 0–1.
    pub fn salt_share(&self) -> f64 {
        let salt = self.parts.iter().fold(0.0, |sum, part| sum + part.salt.in_g());
        salt / self.weight().in_g().max(1e-9)
    }

    /// Grams of sodium chloride that a gram of it brings into the meat, 0–1: of its sauces only what they leave there.
    pub fn brings_share(&self) -> f64 {
        let salt = self.parts.iter().fold(0.0, |sum, part| sum + part.salt.in_g() * part.uptake());
        salt / self.weight().in_g().max(1e-9)
    }

    /// Ingredients whose salt nobody knows.
    pub fn unknown(&self) -> Vec<&str> {
        self.parts.iter().filter(|part| !part.known).map(|part| part.name.as_str()).collect()
    }
}

/// Reads a recipe: one ingredient a line (or between semicolons), in grams, pounds, spoons, cloves, or all of them in
/// percent. `for 2 kg` says how much meat it is for, `makes 120 g` and `22% salt` on lines of their own are checked
/// against the parts (2 % of the yield, one point of salt). `own` are the household's salts, known by their names.
///
/// Every problem is collected.
pub fn read_mix(name: &str, text: &str, own: &[Salt]) -> Result<Mix, Vec<MixError>> {
    let mut problems = Vec::new();
    if name.trim().is_empty() || name.trim().chars().count() > 60 {
        problems.push(MixError::Name);
    }
    let lines: Vec<&str> = text.split(['\n', ';']).map(str::trim).filter(|line| !line.is_empty()).collect();
    let (mut parts, mut percents) = (Vec::new(), 0);
    let (mut made_for, mut yields, mut says_salt) = (None, None, None);
    // In a recipe that is all in percent, `40% salt` is an ingredient and no claim about the whole.
    let in_percent = lines.iter().filter(|line| leading_amount(line).is_some_and(|(_, unit, _)| unit == "%")).count() > 1;
    for line in lines.iter().take(60) {
        let lower = line.to_lowercase();
        if let Some(mass) = lower.strip_prefix("for ").and_then(whole_mass) {
            made_for = Some(mass);
        } else if let Some(mass) = lower.strip_prefix("makes ").and_then(whole_mass) {
            yields = Some(mass);
        } else if let Some(share) = only_salt_share(&lower).filter(|_| !in_percent) {
            says_salt = Some(share);
        } else {
            match read_part(line, own) {
                Ok((part, percent)) => {
                    percents += usize::from(percent);
                    parts.push(part);
                }
                Err(error) => problems.push(error),
            }
        }
    }
    if !(1..=40).contains(&parts.len()) && problems.is_empty() {
        problems.push(MixError::HowMany(parts.len()));
    }
    let mix = Mix { name: name.trim().to_owned(), parts, made_for };
    if problems.is_empty() {
        problems.extend(adds_up(&mix, percents, yields, says_salt));
    }
    if problems.is_empty() { Ok(mix) } else { Err(problems) }
}

/// What does not add up.
fn adds_up(mix: &Mix, percents: usize, yields: Option<Mass>, says_salt: Option<f64>) -> Vec<MixError> {
    let weight = mix.weight().in_g();
    let mut problems = Vec::new();
    if percents > 0 && percents < mix.parts.len() {
        problems.push(MixError::MixedUnits);
    } else if percents > 0 && (weight - 100.0).abs() > 0.5 {
        problems.push(MixError::Percent(weight));
    } else if let Some(said) = yields.map(MassIn::in_g).filter(|said| percents == 0 && (said - weight).abs() > (0.02 * said).max(1.0)) {
        problems.push(MixError::Yield { parts: weight, said });
    }
    let share = mix.salt_share() * 100.0;
    if let Some(said) = says_salt.filter(|said| (said - share).abs() > 1.0) {
        problems.push(MixError::SaltShare { parts: share, said });
    }
    problems
}

fn whole_mass(text: &str) -> Option<Mass> {
    let (number, unit, _) = leading_amount(text)?;
    grams_a_unit(&unit).map(|g| grams(number * g)).filter(|mass| mass.in_g() > 0.0)
}

/// `22% salt` alone on its line, without a kind of salt: a claim about the whole mix.
fn only_salt_share(lower: &str) -> Option<f64> {
    let (number, unit, rest) = leading_amount(lower)?;
    (unit == "%" && matches!(rest.trim(), "salt" | "salt in all")).then_some(number)
}

/// Reads one ingredient; true where its amount is in percent.
fn read_part(line: &str, own: &[Salt]) -> Result<(MixPart, bool), MixError> {
    let short = || line.chars().take(60).collect::<String>();
    let lower = line.to_lowercase();
    if curing_name(&lower) == CuringName::Curing {
        return Err(MixError::Curing(short()));
    }
    let Some((number, unit, rest)) = amount_of(&lower) else {
        let negative = lower.starts_with(['-', '−']);
        return Err(if negative { MixError::Amount(short()) } else { MixError::NoAmount(short()) });
    };
    let label = read_label(&rest);
    let called = if label.is_some() { without_label(&rest) } else { rest.clone() };
    let Helping { named, name, g } = helping((number, &unit, &called), own, None).map_err(|why| match why {
        Unweighed::Unit(unit) => MixError::Unit(unit),
        Unweighed::Spoon(what) => MixError::SpoonOf(what),
        Unweighed::Little(what) => MixError::HowMuch(what),
        Unweighed::Which([dense, flake]) => MixError::Which(dense, flake),
    })?;
    if !(g > 0.0 && g <= 20_000.0) {
        return Err(MixError::Amount(short()));
    }
    let (per_100g, known) = match (label, named.salt) {
        (Some(label), _) => (label, true),
        (None, Salty::Holds(salt)) => (salt, true),
        // Nobody knows: the middle of what such things hold counts, as where it goes on alone.
        (None, Salty::Between(low, high)) => (f64::midpoint(low, high), false),
        (None, Salty::Less) => return Err(MixError::LessSalty(name)),
    };
    let salt = grams(g * (per_100g / 100.0).clamp(0.0, 1.0));
    let name = if rest.is_empty() && name.is_empty() {
        short()
    } else if label.is_some() {
        rest
    } else {
        name
    };
    Ok((MixPart { name, weight: grams(g), salt, known }, unit == "%"))
}

/// What stands before a label.
fn without_label(rest: &str) -> String {
    let words = rest.split_whitespace().take_while(|word| !word.contains('%') && !word.starts_with(|c: char| c.is_ascii_digit()));
    words.filter(|word| *word != "sodium").collect::<Vec<_>>().join(" ")
}

/// How much of a mix a piece takes, and the loose salt that goes with it.
#[derive(Debug, Clone, PartialEq)]
pub struct ScaledMix {
    /// Mix that goes on the piece.
    pub used: Mass,
    /// Sodium chloride it brings.
    pub brings: Mass,
    /// What is still missing as loose salt; never below zero.
    pub loose: Mass,
    /// The ingredients for just this much.
    pub parts: Vec<(String, Mass)>,
}

/// Scales a mix so that mix plus loose salt meets what is `missing` of the dose (sodium chloride).
///
/// `asked` beats everything; else the recipe's own rate (`made_for` against the `basis` weight) rules, but never more
/// than the dose bears; a recipe without a rate fills the dose alone, as far as the piece `carries` it. Mix that holds no salt takes its
/// rate, or none.
pub fn scale_mix(mix: &Mix, missing: Mass, basis: Mass, asked: Option<Mass>, carries: Mass) -> ScaledMix {
    let alone = asked.is_none() && mix.made_for.is_none();
    let all = scaled(mix, mix.brings_share(), missing, basis, asked);
    if alone && all.used > carries { scaled(mix, mix.brings_share(), missing, basis, Some(carries)) } else { all }
}

/// So much of a mix a piece carries at most: 40 ml lie on a square decimetre of paste or marinade (common practice 15–40; counted as
/// grams).
pub fn carries_at_most(area: Area) -> Mass {
    grams(CARRIES * area.in_dm2())
}

/// g/dm².
const CARRIES: f64 = 40.0;

/// So much of a bath a piece wants round it at least: 15 ml a square decimetre in a bag or a box it just fits, 40 in a tray (common
/// practice, TRADE 4.18; counted as grams).
pub fn bath_at_least(area: Area, lies: FridgePlacement) -> Mass {
    let each = if lies == FridgePlacement::Boxed { IN_A_BAG } else { CARRIES };
    grams(each * area.in_dm2())
}

/// g/dm².
const IN_A_BAG: f64 = 15.0;

/// The same for a bath, from which all of its salt could go in: never more of it than would bring what is missing.
pub fn scale_bath(mix: &Mix, missing: Mass, basis: Mass, asked: Option<Mass>) -> ScaledMix {
    scaled(mix, mix.salt_share(), missing, basis, asked)
}

fn scaled(mix: &Mix, share: f64, missing: Mass, basis: Mass, asked: Option<Mass>) -> ScaledMix {
    let most = if share > 1e-6 { missing.in_g() / share } else { f64::INFINITY };
    let rate = mix.made_for.map(|made_for| mix.weight().in_g() * (basis / made_for).value);
    let used = match (asked, rate) {
        (Some(asked), _) => asked.in_g(),
        (None, Some(rate)) => rate.min(most),
        (None, None) if most.is_finite() => most,
        (None, None) => 0.0,
    };
    let times = used / mix.weight().in_g().max(1e-9);
    ScaledMix {
        used: grams(used),
        brings: grams(used * share),
        loose: grams((missing.in_g() - used * share).max(0.0)),
        parts: mix.parts.iter().map(|part| (part.name.clone(), part.weight * times)).collect(),
    }
}

#[cfg(test)]
mod tests;
