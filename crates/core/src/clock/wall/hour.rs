//! Hours of the day as cooks say them: `18:00`, `6.30 pm`, `half past 7`, `noon`, `evening`.

use crate::units::System;
use jiff::civil::Time;

/// Usual hours of a part of the day, by how we eat; common practice, no source.
const PARTS: [(&str, i8, i8, bool); 14] = [
    ("breakfast", 8, 0, false),
    ("morning", 8, 0, false),
    ("noon", 12, 0, true),
    ("midday", 12, 0, true),
    ("lunch", 12, 30, true),
    ("lunchtime", 12, 30, true),
    ("afternoon", 15, 0, true),
    ("tea", 17, 0, true),
    ("evening", 19, 0, true),
    ("tonight", 19, 0, true),
    ("dinner", 19, 0, true),
    ("dinnertime", 19, 0, true),
    ("supper", 19, 0, true),
    ("night", 20, 0, true),
];

/// A part of the day: its usual hour, and whether it lies after noon.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Part {
    pub usual: Time,
    pub after_noon: bool,
}

pub(super) fn part_of_day(word: &str) -> Option<Part> {
    let (_, hour, minute, after_noon) = PARTS.iter().find(|(name, ..)| *name == word)?;
    Some(Part { usual: Time::constant(*hour, *minute, 0, 0), after_noon: *after_noon })
}

/// What an hour can be: none, one, or morning and evening.
pub(super) fn read_hour(words: &[&str], part: Option<Part>, system: Option<System>) -> Vec<Time> {
    let joined = words.concat();
    if words.is_empty() {
        return part.map(|p| p.usual).into_iter().collect();
    }
    if let ["half", "past", hour] | ["half-past", hour] = words {
        return shifted(hour, 30, part, system);
    }
    match words {
        // In one country half an hour after, in another before.
        ["half", hour] => shifted(hour, 30, part, system).into_iter().chain(shifted(hour, -30, part, system)).collect(),
        ["quarter", "past", hour] | ["a", "quarter", "past", hour] => shifted(hour, 15, part, system),
        ["quarter", "to", hour] | ["a", "quarter", "to", hour] => shifted(hour, -15, part, system),
        _ => plain(&joined, part, system),
    }
}

fn shifted(hour: &str, minutes: i16, part: Option<Part>, system: Option<System>) -> Vec<Time> {
    let hours = plain(&spelled(hour), part, system.filter(|_| false));
    hours.into_iter().map(|t| t.wrapping_add(jiff::Span::new().minutes(minutes))).collect()
}

fn spelled(word: &str) -> String {
    const NAMES: [&str; 13] = ["", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"];
    NAMES.iter().position(|name| !name.is_empty() && *name == word).map_or_else(|| word.to_owned(), |n| n.to_string())
}

fn plain(text: &str, part: Option<Part>, system: Option<System>) -> Vec<Time> {
    let text = spelled(text);
    match text.as_str() {
        "noon" | "midday" => return Time::new(12, 0, 0, 0).into_iter().collect(),
        "midnight" => return Time::new(0, 0, 0, 0).into_iter().collect(),
        _ => {}
    }
    let text = text.replace("p.m.", "pm").replace("a.m.", "am").replace("p.m", "pm").replace("a.m", "am").replace("uhr", "h");
    let pm = text.strip_suffix("pm").or_else(|| text.strip_suffix('p'));
    let am = text.strip_suffix("am").or_else(|| text.strip_suffix('a'));
    let (digits, half) = match (pm, am) {
        (Some(rest), _) => (rest, Some(12)),
        (None, Some(rest)) => (rest, Some(0)),
        (None, None) => (text.trim_end_matches('h'), None),
    };
    let apart = digits.split_once([':', '.', 'h']);
    let (hour, minute) = match apart {
        Some(pair) => pair,
        // 1900
        None if digits.len() == 4 && digits.is_ascii() => digits.split_at(2),
        None => (digits, "0"),
    };
    let figures = |t: &str| !t.is_empty() && t.len() <= 2 && t.bytes().all(|b| b.is_ascii_digit());
    if !figures(hour) || !figures(minute) {
        return vec![];
    }
    let (Ok(h), Ok(min)) = (hour.parse::<i8>(), minute.parse::<i8>()) else { return vec![] };
    let at = |h: i8| Time::new(h, min, 0, 0).ok();
    if let Some(add) = half {
        return if (1..=12).contains(&h) { at(h % 12 + add).into_iter().collect() } else { vec![] };
    }
    if let Some(part) = part.filter(|_| (1..=12).contains(&h)) {
        let add = if part.after_noon { 12 } else { 0 };
        return at(h % 12 + add).into_iter().collect();
    }
    let by_the_full_day = hour.starts_with('0')
        || digits.len() == 4 && apart.is_none()
        || (apart.is_some() && (system == Some(System::Metric) || hour.len() == 2 && system.is_none()));
    if (1..=11).contains(&h) && !by_the_full_day {
        return at(h + 12).into_iter().chain(at(h)).collect();
    }
    at(h).into_iter().collect()
}
