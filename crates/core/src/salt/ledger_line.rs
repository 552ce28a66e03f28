//! Salty things as cooks type them: `2 tbsp soy sauce`, `30 g rub 22% salt`, `label: 1.2 g salt per 100 g`.

use super::curing::{CuringName, curing_name};
use super::ledger::{LedgerEntry, LedgerItem, LedgerPlace, SALT_PER_SODIUM};
use super::named::{Helping, Salty, Unweighed, amount_of, cooks_unit, helping, is_amount};
use super::pack_label::{PackLabel, PackLabelError, read_pack_label};
use crate::units::{Share, Time, TimeIn, TwoWays, grams, hours, in_figures, leading_amount, minutes};

/// What a line says.
#[derive(Debug, Clone, PartialEq)]
pub enum LedgerLine {
    /// Something that goes on.
    Entry(LedgerEntry),
    /// The packer's label of the piece itself.
    PieceLabel(PackLabel),
}

/// Why a line makes no sense. Each sentence says what was typed and what to type.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum LedgerLineError {
    /// No amount.
    #[error("“{0}” has no amount; write how much goes on, like 2 tbsp soy sauce or 30 g rub 22% salt")]
    NoAmount(String),
    /// An amount below or beyond any kitchen's.
    #[error("“{0}” is not a sensible amount; between 0 and 5 kg is allowed")]
    Amount(String),
    /// An amount in a unit that is none.
    #[error("“{0}” is not a unit for this; write g, kg, oz, lb, tsp, tbsp, or pinch, clove, sprig, bunch, handful")]
    Unit(String),
    /// More salt than there can be in it.
    #[error("“{0}” holds more salt than there can be; between 0 and 100 g in 100 g is allowed")]
    TooSalty(String),
    /// A little of something salty, or a packet of it.
    #[error("how much is that of “{0}”? It is salty: weigh it and write grams, or say tsp or tbsp")]
    HowMuch(String),
    /// Something whose salt nobody knows.
    #[error("how salty is “{0}”? Add what its label says, like 22% salt, 1.2 g salt per 100 g or sodium 480 mg per 30 g")]
    Unknown(String),
    /// A bath without its hours.
    #[error("how long does it lie in “{0}”? Write it like 500 g soy sauce bath 12 h; 5 minutes to 14 days are allowed")]
    BathTime(String),
    /// One amount in two ways.
    #[error("{0}")]
    TwoWays(TwoWays),
    /// Curing salt.
    #[error("“{0}” carries nitrite and is dosed differently: it can poison at these amounts. Take plain salt")]
    Curing(String),
    /// A label of the piece that makes no sense.
    #[error("{0}")]
    Label(PackLabelError),
}

impl LedgerLineError {
    /// Both readings, where there are two.
    pub fn choices(&self) -> Vec<String> {
        match self {
            Self::TwoWays(ways) => ways.choices(),
            Self::Label(error) => error.choices(),
            _ => vec![],
        }
    }
}

/// Reads one line. An amount with a known name takes the table's salt; a label on the line beats it; a
/// label without an amount is the packer's label of the piece itself. `uptake 40%` changes the share
/// that ends in the meat (0.6 for a thin coat, 1 for a rub that stays, our estimate).
///
/// ```
/// use rauchkeller_core::{salt::{read_ledger_line, LedgerLine}, units::MassIn};
/// let LedgerLine::Entry(rub) = read_ledger_line("30 g rub 22% salt").unwrap() else { panic!() };
/// assert!((rub.salt_brought().in_g() - 6.6).abs() < 1e-9);
/// ```
pub fn read_ledger_line(typed: &str) -> Result<LedgerLine, LedgerLineError> {
    let short = || typed.trim().chars().take(60).collect::<String>();
    let lower = amount_first(&in_figures(&big_spoon(typed.trim()).to_lowercase()));
    if curing_name(&lower) == CuringName::Curing {
        return Err(LedgerLineError::Curing(short()));
    }
    two_readings(&lower)?;
    let (before_uptake, uptake) = read_uptake(&lower);
    let (before_uptake, bath) = read_bath(&before_uptake, &short())?;
    let (before_uptake, place) = read_place(&before_uptake);
    let label = read_label(&before_uptake);
    if let Some(per_100g) = label
        && !(0.0..=100.0).contains(&per_100g)
    {
        return Err(LedgerLineError::TooSalty(short()));
    }
    let starts_with_label = before_uptake.starts_with("label") || before_uptake.starts_with("sodium") || before_uptake.starts_with("salt");
    if starts_with_label {
        return match read_pack_label(&lower) {
            Ok(Some(label)) => Ok(LedgerLine::PieceLabel(label)),
            Ok(None) => Err(LedgerLineError::NoAmount(short())),
            Err(error) => Err(LedgerLineError::Label(error)),
        };
    }
    let Some((number, unit, rest)) = amount_of(&before_uptake) else {
        let negative = before_uptake.starts_with(['-', '−']);
        return Err(if negative { LedgerLineError::Amount(short()) } else { LedgerLineError::NoAmount(short()) });
    };
    if unit == "t" {
        return Err(LedgerLineError::TwoWays(TwoWays::new(&short(), format!("{number} tsp {rest}"), format!("{number} tbsp {rest}"))));
    }
    // What its label says is no part of its name.
    let called = if rest.is_empty() { String::new() } else { name_of(&rest) };
    let Helping { named, name, g } = helping((number, &unit, &called), &[], Some(UNKNOWN_SPOON_G)).map_err(|why| match why {
        Unweighed::Unit(unit) => LedgerLineError::Unit(unit),
        Unweighed::Spoon(what) | Unweighed::Little(what) => LedgerLineError::HowMuch(what),
        Unweighed::Which([dense, flake]) => LedgerLineError::TwoWays(TwoWays::new(&short(), dense, flake)),
    })?;
    // Less salty than usual: its own label says by how much.
    if named.salt == Salty::Less && label.is_none() {
        return Err(LedgerLineError::Unknown(name.chars().take(40).collect()));
    }
    if named.item.is_some_and(LedgerItem::is_poured) && matches!(unit.as_str(), "oz" | "ounce" | "ounces") {
        // An ounce of what is poured: of a measuring cup, or of a scale.
        let weight = (number * 28.349_523_125).round();
        return Err(LedgerLineError::TwoWays(TwoWays::new(&short(), format!("{number} fl oz {rest}"), format!("{weight} g {rest}"))));
    }
    if !(g > 0.0 && g <= 5000.0) {
        return Err(LedgerLineError::Amount(short()));
    }
    let (salt_g_per_100g, source, between) = match (label, named.salt) {
        (Some(label), _) => (label, "its label", None),
        (None, Salty::Holds(salt)) => (salt, named.source, None),
        // Nobody knows: between the least and the most of its kind, and the middle counts.
        (None, Salty::Between(low, high)) => (f64::midpoint(low, high), named.source, Some((low, high))),
        (None, Salty::Less) => (0.0, named.source, None),
    };
    if between.is_some() && !rest.chars().any(char::is_alphabetic) {
        return Err(LedgerLineError::Unknown(short()));
    }
    // In a bath all of it could enter, and diffusion rules how much does.
    let usual = if bath.is_some() { 1.0 } else { named.uptake(&name) };
    let uptake = Share(uptake.unwrap_or(usual));
    let other_sodium_g_per_100g = named.item.map_or(0.0, |item| item.other_sodium_g_per_100g);
    let name = match (named.item, named.loose) {
        (Some(item), _) => item.name.to_owned(),
        (None, Some(salt)) => salt.name.into_owned(),
        (None, None) => name,
    };
    Ok(LedgerLine::Entry(LedgerEntry {
        name,
        used: grams(g),
        salt_g_per_100g,
        uptake,
        bath,
        other_sodium_g_per_100g,
        source,
        place,
        face: None,
        between,
    }))
}

/// A tablespoon of what nobody knows, g (our estimate).
const UNKNOWN_SPOON_G: f64 = 15.0;

/// Words behind a line that say what becomes of it.
const PLACES: [(&str, LedgerPlace); 8] = [
    ("at the table", LedgerPlace::Beside),
    ("to dip", LedgerPlace::Beside),
    ("beside", LedgerPlace::Beside),
    ("on the side", LedgerPlace::Beside),
    ("in the pot", LedgerPlace::Liquid),
    ("to braise in", LedgerPlace::Liquid),
    ("for the braise", LedgerPlace::Liquid),
    ("round it", LedgerPlace::Liquid),
];

/// `beside`, `in the pot`: taken off the line.
fn read_place(line: &str) -> (String, LedgerPlace) {
    let found = PLACES.iter().find(|(words, _)| line.ends_with(words) || line.contains(&format!("{words},")));
    found.map_or_else(
        || (line.to_owned(), LedgerPlace::On),
        |(words, place)| (line.replace(words, "").trim().trim_end_matches(',').trim().to_owned(), *place),
    )
}

/// A capital T is a tablespoon, as recipes write it.
fn big_spoon(line: &str) -> String {
    let words: Vec<&str> = line.split_whitespace().collect();
    let figure = |word: &str| word.chars().all(|c| c.is_ascii_digit() || matches!(c, '.' | ',' | '/' | '½' | '¼' | '¾'));
    let word = |i: usize| match words[i].strip_suffix('T') {
        Some("") if i > 0 && figure(words[i - 1]) => "tbsp".to_owned(),
        Some(number) if !number.is_empty() && figure(number) => format!("{number} tbsp"),
        _ => words[i].to_owned(),
    };
    (0..words.len()).map(word).collect::<Vec<_>>().join(" ")
}

/// `soy sauce, 2 tbsp` and `soy sauce 2 tbsp` as `2 tbsp soy sauce`.
fn amount_first(line: &str) -> String {
    if line.starts_with(|c: char| c.is_ascii_digit()) || leading_amount(line).is_some() || line.starts_with(['-', '−']) {
        return line.to_owned();
    }
    let label = ["label", "sodium", "salt "].iter().any(|word| line.starts_with(word));
    let begins = line
        .char_indices()
        .find(|(at, c)| (c.is_ascii_digit() || "½¼¾".contains(*c)) && line[..*at].ends_with([' ', ',']))
        .map(|(at, _)| at);
    let Some(at) = begins.filter(|_| !label) else { return line.to_owned() };
    let (thing, amount) = line.split_at(at);
    let thing = thing.trim().trim_end_matches([',', ':', '–', '-']).trim();
    match leading_amount(amount) {
        Some((_, unit, rest)) if is_amount(&unit) => {
            let head = amount[..amount.len() - rest.len()].trim();
            format!("{head} {thing} {rest}").trim().to_owned()
        }
        _ => line.to_owned(),
    }
}

/// One amount read two ways is a problem that names both: `30 g 2 tbsp soy sauce`, `1,500 g stock`, a label said twice.
fn two_readings(line: &str) -> Result<(), LedgerLineError> {
    let Some((_, _, rest)) = leading_amount(line) else { return Ok(()) };
    let two = |first: String, second: String| Err(LedgerLineError::TwoWays(TwoWays::new(line, first, second)));
    let first: String = line.split_whitespace().next().unwrap_or_default().chars().take(20).collect();
    // A comma before just three digits: a thousand, or a decimal.
    let digits = first.trim_end_matches(char::is_alphabetic);
    if let Some((whole, part)) = digits.split_once(',')
        && part.len() == 3
        && !whole.starts_with('0')
        && [whole, part].iter().all(|s| !s.is_empty() && s.chars().all(|c| c.is_ascii_digit()))
    {
        let tail = &line[digits.len()..];
        return two(format!("{whole}.{part}{tail}"), format!("{whole}{part}{tail}"));
    }
    if let Some((_, unit, thing)) = leading_amount(&rest)
        && is_amount(&unit)
    {
        let head = line.trim_end_matches(rest.as_str()).trim();
        return two(format!("{head} {thing}").trim().to_owned(), rest);
    }
    let per = line.split_once('%').and_then(|_| read_percent(line)).zip(read_per(line)).filter(|(a, b)| (a - b).abs() > 0.05 * a.max(*b));
    match per {
        Some((percent, per_100g)) => {
            let named = name_of(&rest);
            let head: String = line.split_whitespace().take(2).collect::<Vec<_>>().join(" ");
            two(format!("{head} {named} {percent}% salt"), format!("{head} {named} {per_100g:.1} g salt per 100 g"))
        }
        None => Ok(()),
    }
}

/// `uptake 40%` or `40% uptake`, taken off the line.
fn read_uptake(line: &str) -> (String, Option<f64>) {
    let Some((before, after)) = line.split_once("uptake") else { return (line.to_owned(), None) };
    let after = after.trim();
    let percent = leading_amount(after).filter(|(_, unit, _)| unit.starts_with('%'));
    match percent {
        Some((number, _, _)) if (0.0..=100.0).contains(&number) => (before.trim().trim_end_matches(',').to_owned(), Some(number / 100.0)),
        _ => (line.to_owned(), None),
    }
}

/// `bath 12 h`, taken off the line: how long the piece lies in it.
fn read_bath(line: &str, short: &str) -> Result<(String, Option<Time>), LedgerLineError> {
    let Some((before, after)) = line.split_once("bath") else { return Ok((line.to_owned(), None)) };
    let after = after.trim().trim_start_matches("of ").trim_start_matches("for ").trim();
    let refused = || LedgerLineError::BathTime(short.to_owned());
    let (number, unit, rest) = leading_amount(after).ok_or_else(refused)?;
    let time = match unit.as_str() {
        "h" | "hour" | "hours" => hours(number),
        "min" | "minutes" => minutes(number),
        "day" | "days" => hours(number * 24.0),
        _ => return Err(refused()),
    };
    if !(5.0..=14.0 * 24.0 * 60.0).contains(&time.in_min()) {
        return Err(refused());
    }
    Ok((format!("{} {rest}", before.trim()).trim().to_owned(), Some(time)))
}

/// Grams of salt in 100 g, from what a label says: `22% salt`, `1.2 g salt per 100 g`, `sodium 480 mg per 30 g`.
pub(super) fn read_label(line: &str) -> Option<f64> {
    if line.contains('%') {
        return read_percent(line);
    }
    read_per(line)
}

/// The number before the per cent sign; below zero where a minus stands before it.
fn read_percent(line: &str) -> Option<f64> {
    let (before, _) = line.split_once('%')?;
    let before = before.trim_end();
    let number = before.rsplit(|c: char| !(c.is_ascii_digit() || matches!(c, '.' | ','))).next()?;
    let minus = before[..before.len() - number.len()].trim_end().ends_with(['-', '−', '–']);
    let share: f64 = number.replace(',', ".").parse().ok()?;
    Some(if minus { -share } else { share })
}

/// Grams of salt in 100 g, from salt or sodium per so much.
fn read_per(line: &str) -> Option<f64> {
    let per = |after: &str| leading_amount(after).filter(|(n, unit, _)| unit == "g" && *n > 0.0).map(|(n, _, _)| n);
    if let Some((_, after)) = line.split_once("sodium") {
        let (mg, unit, rest) = leading_amount(after.trim_start_matches([':', ' ']))?;
        let mg = match unit.as_str() {
            "mg" => mg,
            "g" => mg * 1000.0,
            _ => return None,
        };
        let serving = per(rest.trim_start().strip_prefix("per")?.trim())?;
        return Some(mg / 1000.0 * SALT_PER_SODIUM / serving * 100.0);
    }
    let (before, after) = line.split_once("salt per")?;
    let words: Vec<&str> = before.split_whitespace().collect();
    let said = words.get(words.len().checked_sub(2)?..)?.join(" ");
    let (g, unit, _) = leading_amount(&said)?;
    let serving = per(after.trim())?;
    (unit == "g").then_some(g / serving * 100.0)
}

/// What is left of the line as a name.
fn name_of(rest: &str) -> String {
    let name: Vec<&str> = rest
        .split_whitespace()
        .take_while(|w| !w.contains('%') && !w.starts_with(|c: char| c.is_ascii_digit()) && !matches!(*w, "sodium" | "label:" | "label"))
        .collect();
    if name.is_empty() { "something salty".into() } else { name.join(" ") }
}

/// Semicolons where one thing ends and the next begins: a comma and a blank, or “and”, “plus”, “+” and “&” before an amount.
fn apart(typed: &str) -> String {
    let mut text = typed.replace(", ", ";");
    for joint in [" and ", " plus ", " + ", " & "] {
        let parts: Vec<&str> = text.split(joint).collect();
        let joined: Vec<String> = parts
            .iter()
            .enumerate()
            .map(|(i, part)| {
                let begins =
                    i > 0 && amount_of(&part.to_lowercase()).is_some_and(|(_, unit, _)| is_amount(&unit) || cooks_unit(&unit).is_some());
                if i == 0 {
                    (*part).to_owned()
                } else if begins {
                    format!(";{part}")
                } else {
                    format!("{joint}{part}")
                }
            })
            .collect();
        text = joined.concat();
    }
    text
}

/// Splits several things in one breath: at semicolons, and at commas followed by a blank. A share said
/// after a comma (`, uptake 40%`) stays with its thing.
pub fn split_ledger_lines(typed: &str) -> Vec<String> {
    let mut lines: Vec<String> = Vec::new();
    for part in apart(typed).split(';').map(str::trim).filter(|part| !part.is_empty()) {
        match lines.last_mut() {
            Some(last) if part.to_lowercase().starts_with("uptake") => {
                last.push_str(", ");
                last.push_str(part);
            }
            _ => lines.push(part.to_owned()),
        }
    }
    lines
}

#[cfg(test)]
mod tests;
