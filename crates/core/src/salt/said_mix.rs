//! Mixes in a cook's words, without keeping them first: `herb paste (30 g salt, 60 g oil, 5 cloves garlic) on the fat after 12 h`.

use super::named::amount_of;
use crate::clock::read_span;
use crate::units::{Mass, MassIn, Time, TimeIn, grams, grams_a_unit, leading_amount};

/// A mix as it was said.
#[derive(Debug, Clone, PartialEq)]
pub struct SaidMix {
    /// What it is called.
    pub name: String,
    /// Grams of it, where they were said.
    pub asked: Option<Mass>,
    /// Its ingredients, one a line; empty where only its name was said.
    pub recipe: String,
    /// The face it goes on, in the cook's words.
    pub face: Option<String>,
    /// Hours after the first salt.
    pub at: Option<Time>,
    /// How long it lies in it.
    pub bath: Option<Time>,
}

/// Longest a line is looked at.
const LONGEST: usize = 2000;

/// The mixes that are said with their ingredients in brackets or behind a colon, and what is left of the line.
///
/// ```
/// use rauchkeller_core::salt::said_mixes;
/// let (mixes, rest) = said_mixes("30 ml soy sauce, rub (20 g salt, 10 g sugar) on the fat");
/// assert_eq!((mixes[0].name.as_str(), mixes[0].recipe.as_str(), mixes[0].face.as_deref()), ("rub", "20 g salt\n10 g sugar", Some("fat")));
/// assert_eq!(rest, "30 ml soy sauce");
/// ```
pub fn said_mixes(typed: &str) -> (Vec<SaidMix>, String) {
    let (mut found, mut rest) = (Vec::new(), Vec::new());
    let typed: String = typed.chars().take(LONGEST).collect();
    let mut text = typed.as_str();
    while let Some((before, inside, after)) = bracketed(text) {
        let (other, name) = before.rsplit_once([',', ';', '\n']).map_or(("", before), |(other, name)| (other, name));
        let end = after.find([',', ';', '\n']).unwrap_or(after.len());
        rest.push(other.trim().to_owned());
        found.push(said(&format!("{} {}", name.trim(), after[..end].trim()), inside));
        text = after[end..].trim_start_matches([',', ';', '\n']);
    }
    let colon = |part: &str| {
        part.split_once(':').filter(|(name, inside)| is_named(name) && lists_things(inside)).map(|(a, b)| (a.to_owned(), b.to_owned()))
    };
    for part in text.split([';', '\n']) {
        match colon(part) {
            Some((name, inside)) => {
                let (other, name) = name.rsplit_once(',').map_or(("", name.as_str()), |(other, name)| (other, name));
                rest.push(other.trim().to_owned());
                found.push(said(name, &inside));
            }
            None => rest.push(part.trim().to_owned()),
        }
    }
    rest.retain(|part| !part.is_empty());
    (found, rest.join("; "))
}

/// A mix that is only named, with what is said of where and when it goes on.
pub fn named_mix(line: &str) -> SaidMix {
    said(line, "")
}

/// What stands before a bracket, in it and behind it, where it lists things with their amounts.
fn bracketed(text: &str) -> Option<(&str, &str, &str)> {
    let mut from = 0;
    while let Some(open) = text[from..].find('(').map(|at| at + from) {
        let close = text[open..].find(')').map(|at| at + open)?;
        if lists_things(&text[open + 1..close]) {
            return Some((&text[..open], &text[open + 1..close], &text[close + 1..]));
        }
        from = close + 1;
    }
    None
}

/// Whether these are ingredients: every one begins with its amount.
fn lists_things(inside: &str) -> bool {
    let mut parts = ingredients(inside).peekable();
    // What a label says is so much a hundred grams.
    parts.peek().is_some()
        && !inside.contains(" per ")
        && ingredients(inside).all(|part| amount_of(&part.to_lowercase()).is_some() || part.to_lowercase().starts_with("for "))
}

fn ingredients(inside: &str) -> impl Iterator<Item = &str> {
    inside.split([',', ';', '\n']).flat_map(|part| part.split(" and ")).map(str::trim).filter(|part| !part.is_empty())
}

/// Something a mix may be called: in letters.
fn is_named(name: &str) -> bool {
    name.chars().any(char::is_alphabetic) && name.chars().count() <= 80
}

fn said(words: &str, inside: &str) -> SaidMix {
    let mut mix = SaidMix {
        name: String::new(),
        asked: None,
        recipe: ingredients(inside).collect::<Vec<_>>().join("\n"),
        face: None,
        at: None,
        bath: None,
    };
    let mut left = words.trim().to_owned();
    // From the end, each once: when it goes on, how long it lies in it, on which face.
    loop {
        let lower = left.to_lowercase();
        let taken = [" after ", " bath ", " on the ", " on "].into_iter().filter_map(|word| Some((lower.rfind(word)?, word))).max();
        let Some((at, word)) = taken else { break };
        let value = left[at + word.len()..].trim().to_owned();
        let known = match word {
            " after " if mix.at.is_none() => read_span(&value).map(|time| mix.at = Some(time)),
            " bath " if mix.bath.is_none() => read_span(&value).map(|time| mix.bath = Some(time)),
            " on the " | " on " if mix.face.is_none() && !value.is_empty() => {
                mix.face = Some(value.to_lowercase());
                Some(())
            }
            _ => None,
        };
        if known.is_none() {
            break;
        }
        left.truncate(at);
    }
    let (asked, name) = weighed(&left);
    (mix.asked, mix.name) = (asked, if name.is_empty() { "mix".to_owned() } else { name });
    mix
}

/// `38 g house rub` apart.
fn weighed(text: &str) -> (Option<Mass>, String) {
    let read = leading_amount(text.trim()).and_then(|(number, unit, rest)| Some((grams(number * grams_a_unit(&unit)?), rest)));
    match read {
        Some((mass, rest)) => (Some(mass), rest.trim().trim_start_matches("of ").to_owned()),
        None => (None, text.trim().to_owned()),
    }
}

/// A number as it is typed, to a thousandth.
fn plain(value: f64) -> String {
    let text = format!("{value:.3}");
    text.trim_end_matches('0').trim_end_matches('.').to_owned()
}

/// A mix in the words that say it again.
pub fn say_mix(mix: &SaidMix) -> String {
    let g = mix.asked.map_or_else(String::new, |g| format!("{} g ", plain(g.in_g())));
    let parts = if mix.recipe.is_empty() { String::new() } else { format!(" ({})", mix.recipe.replace('\n', ", ")) };
    let face = mix.face.as_ref().map_or_else(String::new, |face| format!(" on the {face}"));
    let at = mix.at.map_or_else(String::new, |at| format!(" after {} h", plain(at.in_h())));
    let bath = mix.bath.map_or_else(String::new, |bath| format!(" bath {} h", plain(bath.in_h())));
    format!("{g}{}{parts}{face}{at}{bath}", mix.name)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_mix_is_said_in_a_breath_and_comes_back() {
        // By hand, as a cook would say it.
        for (typed, name, g, recipe, face, at, bath, rest) in [
            (
                "herb paste (30 g salt, 60 g oil, 5 cloves garlic)",
                "herb paste",
                None,
                "30 g salt\n60 g oil\n5 cloves garlic",
                None,
                None,
                None,
                "",
            ),
            ("rub: 20 g salt, 10 g sugar", "rub", None, "20 g salt\n10 g sugar", None, None, None, ""),
            (
                "40 g rub (20 g salt, 10 g sugar) on the fat after 12 h",
                "rub",
                Some(40.0),
                "20 g salt\n10 g sugar",
                Some("fat"),
                Some(12.0),
                None,
                "",
            ),
            (
                "marinade (200 ml soy sauce and 100 ml water) bath 6 h; 1 tsp salt",
                "marinade",
                None,
                "200 ml soy sauce\n100 ml water",
                None,
                None,
                Some(6.0),
                "1 tsp salt",
            ),
            ("2 tbsp soy sauce, rub: 5 g salt, 3 g sugar", "rub", None, "5 g salt\n3 g sugar", None, None, None, "2 tbsp soy sauce"),
            ("2 tbsp soy sauce, rub (5 g salt), 1 tbsp honey", "rub", None, "5 g salt", None, None, None, "2 tbsp soy sauce; 1 tbsp honey"),
        ] {
            let (mixes, left) = said_mixes(typed);
            let [mix] = &mixes[..] else { panic!("{typed}: {mixes:?}") };
            let got = (
                mix.name.as_str(),
                mix.asked.map(MassIn::in_g),
                mix.recipe.as_str(),
                mix.face.as_deref(),
                mix.at.map(TimeIn::in_h),
                mix.bath.map(TimeIn::in_h),
            );
            assert_eq!((got, left.as_str()), ((name, g, recipe, face, at, bath), rest), "{typed}");
            assert_eq!(said_mixes(&say_mix(mix)).0, mixes, "{}", say_mix(mix));
        }
        // A bracket that explains, and a line of plain things, are no mixes.
        for plain in [
            "30 ml soy sauce (low sodium), 10 g mustard",
            "2 tbsp soy sauce, 1 tsp fish sauce",
            "rub 40 g 22% salt",
            "2 tbsp soy sauce, label: 1.2 g salt per 100 g",
            "",
        ] {
            assert!(said_mixes(plain).0.is_empty(), "{plain}");
        }
        let two = said_mixes("rub (20 g salt), paste (10 g salt, 30 g oil) after 24 h").0;
        assert_eq!((two.len(), two[1].at.map(TimeIn::in_h)), (2, Some(24.0)));
        let named = named_mix("38 g house rub on the meat after 2 h");
        assert_eq!((named.name.as_str(), named.face.as_deref(), named.at.map(TimeIn::in_h)), ("house rub", Some("meat"), Some(2.0)));
    }
}
