//! Terms of number and unit, added up: `5 lb 4 oz`, `2 lb 3`, `1 kg 200`; every reading that makes sense.

use super::asks::{Expect, TwoWays};
use super::number::{Number, in_figures, read_number, skip_blanks, vulgar};
use super::{InputError, Kind};

/// One number with what stands behind it, lower case; empty where nothing does.
pub(super) struct Term {
    pub number: Number,
    pub unit: String,
}

/// One reading: its value, and how to write it so that it can only be read that way.
#[derive(Debug, Clone)]
pub(super) struct Way {
    pub value: f64,
    pub words: String,
}

/// Words of no weight before an amount, and after it.
const BEFORE: [&str; 10] = ["about ", "approximately ", "approx. ", "approx ", "circa ", "ca. ", "ca ", "roughly ", "around ", "nearly "];
const AFTER: [&str; 14] = [
    " thick",
    " deep",
    " long",
    " wide",
    " high",
    " through",
    " across",
    " tall",
    " net",
    " in all",
    " altogether",
    " in total",
    " each",
    " or so",
];

/// Lower case, without words that change nothing, numerals as figures.
pub(super) fn plain(typed: &str) -> String {
    let mut text = typed.trim().to_lowercase().replace('\u{a0}', " ");
    for word in BEFORE {
        if let Some(rest) = text.strip_prefix(word) {
            text = rest.to_owned();
        }
    }
    text = text.trim_start_matches(['~', '≈']).trim().to_owned();
    for word in AFTER {
        if let Some(rest) = text.strip_suffix(word) {
            text = rest.to_owned();
        }
    }
    in_figures(&text)
}

/// Splits `5 lb 4 oz` into (5, "lb"), (4, "oz"); “and”, “&” and a comma between terms are taken as blanks.
pub(super) fn terms(typed: &str, kind: Kind) -> Result<Vec<Term>, InputError> {
    let text = plain(typed);
    if text.is_empty() {
        return Err(InputError::Empty(kind));
    }
    let no_number = || InputError::NoNumber { typed: typed.trim().chars().take(40).collect(), kind };
    let chars: Vec<char> = text.chars().take(80).collect();
    let mut at = 0;
    let mut found: Vec<Term> = Vec::new();
    while at < chars.len() {
        let number_starts = at;
        let Some(number) = read_number(&chars, &mut at).filter(|_| at > number_starts) else {
            let rest = chars[number_starts..].iter().take(40).collect();
            return Err(if found.is_empty() { no_number() } else { InputError::Trailing { rest, kind } });
        };
        skip_blanks(&chars, &mut at);
        // “2-lb”: a hyphen before a unit.
        if chars.get(at) == Some(&'-') && chars.get(at + 1).is_some_and(|c| c.is_alphabetic()) {
            at += 1;
        }
        let unit_starts = at;
        while at < chars.len()
            && !chars[at].is_ascii_digit()
            && vulgar(chars[at]).is_none()
            && !chars[at].is_whitespace()
            && chars[at] != ','
        {
            at += 1;
        }
        let unit: String = chars[unit_starts..at].iter().collect();
        found.push(Term { number, unit: unit.trim_end_matches('.').to_owned() });
        skip_joint(&chars, &mut at);
    }
    Ok(found)
}

fn skip_joint(chars: &[char], at: &mut usize) {
    skip_blanks(chars, at);
    for joint in ["and ", "& ", ", ", ","] {
        let joint: Vec<char> = joint.chars().collect();
        if chars[*at..].starts_with(&joint) && chars.len() > *at + joint.len() {
            *at += joint.len();
            skip_blanks(chars, at);
            return;
        }
    }
}

/// A range is two readings: `2–3 kg`, `2 to 3 lb`.
pub(super) fn range(typed: &str) -> Option<TwoWays> {
    let text = plain(typed).replace(" to ", "–");
    let (low, high) = text.split_once(['–', '-'])?;
    let (low, high) = (low.trim(), high.trim());
    let unit: String =
        high.chars().skip_while(|c| c.is_ascii_digit() || matches!(c, '.' | ',' | ' ' | '/') || vulgar(*c).is_some()).collect();
    let figure = |t: &str| !t.is_empty() && t.chars().all(|c| c.is_ascii_digit() || matches!(c, '.' | ',' | '/') || vulgar(c).is_some());
    let bare_high = high.strip_suffix(unit.as_str()).unwrap_or(high).trim();
    let bare_low = low.strip_suffix(unit.as_str()).unwrap_or(low).trim();
    // “1-1/2” is one and a half.
    if !figure(bare_low) || !figure(bare_high) || bare_high.contains('/') || bare_high.chars().next().is_some_and(|c| vulgar(c).is_some()) {
        return None;
    }
    let written = |n: &str| format!("{n} {unit}").trim().to_owned();
    Some(TwoWays::new(typed, written(bare_low), written(bare_high)))
}

/// The readings that make sense here: one, or both offered, or the sentence that says what would.
pub(super) fn choose(
    typed: &str,
    kind: Kind,
    ways: Vec<Way>,
    expect: &Expect,
    hard: (f64, f64, &'static str, &'static str),
) -> Result<f64, InputError> {
    let (low, high, low_words, high_words) = hard;
    let possible: Vec<Way> = ways.into_iter().filter(|way| way.value.is_finite() && way.value >= low && way.value <= high).collect();
    let mut sensible: Vec<Way> = Vec::new();
    for way in possible.iter().filter(|way| expect.holds(way.value)) {
        if !sensible.iter().any(|w| (w.value - way.value).abs() <= 1e-6 * w.value.abs().max(1e-3)) {
            sensible.push(way.clone());
        }
    }
    match (sensible.as_slice(), possible.first()) {
        ([one], _) => Ok(one.value),
        ([first, second, ..], _) => Err(InputError::TwoWays(TwoWays::new(typed, first.words.clone(), second.words.clone()))),
        // Nothing makes sense, but it can be: taken as it stands, and asked about where it is checked.
        ([], Some(likeliest)) => Ok(likeliest.value),
        ([], None) => {
            Err(InputError::OutOfRange { typed: typed.trim().chars().take(40).collect(), kind, low: low_words, high: high_words })
        }
    }
}
