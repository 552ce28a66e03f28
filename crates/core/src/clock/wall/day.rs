//! Days as cooks say them: `tonight`, `next Saturday`, `24 Dec`, `11/28`, `the 28th`, `3 days ago`.

use super::{Toward, WallError};
use crate::units::{System, TwoWays};
use jiff::ToSpan;
use jiff::civil::{Date, Weekday};

/// A day with how surely it was meant, and how many words it took.
pub(super) struct DayRead {
    pub ways: Vec<Date>,
    pub weekday_only: bool,
    pub taken: usize,
}

impl DayRead {
    fn one(day: Date, taken: usize) -> Self {
        Self { ways: vec![day], weekday_only: false, taken }
    }
}

pub(super) fn weekday(word: &str) -> Option<Weekday> {
    const DAYS: [(&str, Weekday); 7] = [
        ("monday", Weekday::Monday),
        ("tuesday", Weekday::Tuesday),
        ("wednesday", Weekday::Wednesday),
        ("thursday", Weekday::Thursday),
        ("friday", Weekday::Friday),
        ("saturday", Weekday::Saturday),
        ("sunday", Weekday::Sunday),
    ];
    let word = word.trim_end_matches('.');
    DAYS.iter().find(|(name, _)| *name == word || (word.len() >= 3 && name.starts_with(word))).map(|&(_, day)| day)
}

fn month(word: &str) -> Option<i8> {
    const MONTHS: [&str; 12] =
        ["january", "february", "march", "april", "may", "june", "july", "august", "september", "october", "november", "december"];
    let word = word.trim_end_matches('.');
    let at = MONTHS.iter().position(|name| word.len() >= 3 && name.starts_with(word))?;
    i8::try_from(at + 1).ok()
}

/// `28`, `28.`, `28th`; never an hour like `18:00`.
fn day_of_month(word: &str) -> Option<i8> {
    let bare = ["st", "nd", "rd", "th"].iter().find_map(|end| word.strip_suffix(end)).unwrap_or(word.trim_end_matches('.'));
    bare.parse().ok().filter(|day| (1..=31).contains(day) && bare.bytes().all(|b| b.is_ascii_digit()))
}

fn ordinal(word: &str) -> bool {
    ["st", "nd", "rd", "th"]
        .iter()
        .any(|end| word.strip_suffix(end).is_some_and(|n| !n.is_empty() && n.bytes().all(|b| b.is_ascii_digit())))
}

fn year(word: &str) -> Option<i16> {
    let year: i16 = word.trim_matches('’').parse().ok().filter(|_| word.bytes().all(|b| b.is_ascii_digit()))?;
    match word.len() {
        4 => Some(year),
        2 => Some(2000 + year),
        _ => None,
    }
}

/// The day of a purchase that is still to be made: `i buy it friday`, `to be bought tomorrow`; in plain lower case.
pub(super) fn to_buy(said: &str) -> Option<&str> {
    const AHEAD: [&str; 8] =
        ["i'll buy it", "i’ll buy it", "i will buy it", "i buy it", "will be bought", "to be bought", "buying it", "buy it"];
    AHEAD.iter().find_map(|ahead| said.strip_prefix(ahead)).map(str::trim)
}

/// The day these words begin with. `Ok(None)`: they begin with something else.
pub(super) fn read_day(words: &[&str], today: Date, toward: Toward, system: Option<System>) -> Result<Option<DayRead>, WallError> {
    let fixed = |month, day, taken| Ok(near(today, month, day, toward).map(|d| DayRead::one(d, taken)));
    match words {
        [] => return Ok(None),
        ["last", "night", ..] => return Ok(today.yesterday().ok().map(|d| DayRead::one(d, 1))),
        ["today" | "tonight" | "heute", ..] | ["this", "morning" | "afternoon" | "evening" | "noon", ..] => {
            return Ok(Some(DayRead::one(today, 1)));
        }
        ["tomorrow" | "tmrw", ..] => return Ok(today.tomorrow().ok().map(|d| DayRead::one(d, 1))),
        ["yesterday", ..] => return Ok(today.yesterday().ok().map(|d| DayRead::one(d, 1))),
        ["christmas", "eve", ..] => return fixed(12, 24, 2),
        ["christmas", "day", ..] => return fixed(12, 25, 2),
        ["christmas", ..] => return fixed(12, 25, 1),
        ["boxing", "day", ..] => return fixed(12, 26, 2),
        ["new", "year's" | "year’s" | "years", "eve", ..] => return fixed(12, 31, 3),
        _ => {}
    }
    if words[0].matches('-').count() == 2
        && let Ok(date) = words[0].parse::<Date>()
    {
        return Ok(Some(DayRead::one(date, 1)));
    }
    if let Some(read) = named_month(words, today, toward)? {
        return Ok(Some(read));
    }
    if let Some(read) = in_figures(words[0], today, toward, system)? {
        return Ok(Some(read));
    }
    if ordinal(words[0])
        && let Some(day) = day_of_month(words[0])
    {
        return Ok(of_this_month(today, day, toward).map(|d| DayRead::one(d, 1)));
    }
    Ok(of_the_week(words, today, toward))
}

fn of_the_week(words: &[&str], today: Date, toward: Toward) -> Option<DayRead> {
    let (which, name, mut taken) = match words {
        [which @ ("next" | "this" | "coming" | "last" | "on"), name, ..] => (*which, *name, 2),
        [name, ..] => ("", *name, 1),
        [] => return None,
    };
    let day = weekday(name)?;
    let ahead = i32::from(today.weekday().until(day));
    let coming = today.checked_add(ahead.days()).ok()?;
    let a_week = |from: Date| from.checked_add(7.days()).ok();
    // “Saturday week”
    if words.get(taken) == Some(&"week") {
        taken += 1;
        return Some(DayRead::one(a_week(coming)?, taken));
    }
    let is_ahead = match toward {
        Toward::Coming => true,
        Toward::Past => false,
        Toward::Purchase => matches!(which, "next" | "this" | "coming"),
    };
    let ways = match (is_ahead, which) {
        // The coming one for one cook, the one after for another.
        (true, "next") if ahead == 0 => vec![a_week(coming)?],
        (true, "next") if ahead <= 3 => vec![coming, a_week(coming)?],
        (true, _) => vec![coming],
        (false, _) if ahead == 0 && which != "last" => vec![today],
        (false, _) => vec![today.checked_sub((7 - ahead % 7).days()).ok()?],
    };
    Some(DayRead { ways, weekday_only: which.is_empty() || which == "on", taken })
}

/// `24 Dec`, `Dec 24`, `24th of December 2026`.
fn named_month(words: &[&str], today: Date, toward: Toward) -> Result<Option<DayRead>, WallError> {
    let (day, named, mut taken) = match words {
        [day, "of", name, ..] if day_of_month(day).is_some() && month(name).is_some() => (day_of_month(day), month(name), 3),
        // “24 Dec” and “Dec 24”, but “Dec 18:00” is no day.
        [day, name, ..] | [name, day, ..] if day_of_month(day).is_some() && month(name).is_some() => (day_of_month(day), month(name), 2),
        _ => return Ok(None),
    };
    let (Some(day), Some(month)) = (day, named) else { return Ok(None) };
    if let Some(year) = words.get(taken).copied().and_then(year).filter(|_| words[taken].len() == 4) {
        taken += 1;
        let date = Date::new(year, month, day).map_err(|_| not_a_day(words, taken))?;
        return Ok(Some(DayRead::one(date, taken)));
    }
    let date = near(today, month, day, toward).ok_or_else(|| not_a_day(words, taken))?;
    ahead_of(today, date, toward)?;
    Ok(Some(DayRead::one(date, taken)))
}

fn not_a_day(words: &[&str], taken: usize) -> WallError {
    WallError::NotADay(words[..taken.min(words.len())].join(" "))
}

/// `11/28`, `28/11`, `28.11.`, `11/28/2026`: with a point the day comes first, else as the household writes it.
fn in_figures(word: &str, today: Date, toward: Toward, system: Option<System>) -> Result<Option<DayRead>, WallError> {
    let dotted = word.ends_with('.') && word.matches('.').count() == 2 || word.matches('.').count() == 2 && !word.contains(':');
    let dashed = word.matches('-').count() == 2;
    let mark = if word.contains('/') {
        '/'
    } else if dotted {
        '.'
    } else if dashed {
        '-'
    } else {
        return Ok(None);
    };
    let parts: Vec<&str> = word.split(mark).filter(|p| !p.is_empty()).collect();
    let (a, b, said_year) = match parts.as_slice() {
        [a, b] => (*a, *b, None),
        [a, b, y] => (*a, *b, Some(year(y).ok_or_else(|| WallError::NotADay(word.to_owned()))?)),
        _ => return Ok(None),
    };
    let (Ok(a), Ok(b)) = (a.parse::<i8>(), b.parse::<i8>()) else { return Ok(None) };
    let date = |day: i8, month: i8| match said_year {
        Some(year) => Date::new(year, month, day).ok(),
        None => near(today, month, day, toward),
    };
    let (day_first, month_first) = (date(a, b), if dotted { None } else { date(b, a) });
    let found = match (day_first, month_first, system) {
        (Some(one), None, _)
        | (None, Some(one), _)
        | (Some(one), Some(_), Some(System::Metric))
        | (Some(_), Some(one), Some(System::Customary)) => one,
        (Some(one), Some(other), None) if one == other => one,
        (Some(one), Some(other), None) => return Ok(Some(DayRead { ways: vec![one, other], weekday_only: false, taken: 1 })),
        (None, None, _) => return Err(WallError::NotADay(word.to_owned())),
    };
    if said_year.is_none() {
        ahead_of(today, found, toward)?;
    }
    Ok(Some(DayRead::one(found, 1)))
}

/// A day without a year, as near as it makes sense: a meal lies ahead, a label may name a day that has passed, and what was
/// done lies behind.
fn near(today: Date, month: i8, day: i8, toward: Toward) -> Option<Date> {
    let this_year = Date::new(today.year(), month, day).ok()?;
    let days = (this_year - today).get_days();
    let turn = match toward {
        Toward::Coming if days < -60 => 1,
        // In January, December is last month.
        Toward::Past if days > 300 => -1,
        // A purchase is the nearest such day, behind or ahead.
        Toward::Purchase if days > 182 => -1,
        Toward::Purchase if days < -182 => 1,
        _ => 0,
    };
    Date::new(today.year() + turn, month, day).ok()
}

/// What was done cannot lie ahead: said, not moved to last year without a word.
fn ahead_of(today: Date, date: Date, toward: Toward) -> Result<(), WallError> {
    if toward == Toward::Past && date > today {
        let last =
            Date::new(date.year() - 1, date.month(), date.day()).map_or_else(|_| String::new(), |d| d.strftime("%-d %b %Y").to_string());
        return Err(WallError::Ahead { said: date.strftime("%-d %B").to_string(), last_year: last });
    }
    Ok(())
}

fn of_this_month(today: Date, day: i8, toward: Toward) -> Option<Date> {
    let this = Date::new(today.year(), today.month(), day).ok();
    match toward {
        Toward::Coming if this.is_some_and(|d| d >= today) => this,
        Toward::Coming => (1..=2).find_map(|m| today.first_of_month().checked_add(m.months()).ok()?.with().day(day).build().ok()),
        Toward::Past if this.is_some_and(|d| d <= today) => this,
        Toward::Purchase if this.is_some_and(|d| (d - today).get_days() <= 14) => this,
        Toward::Past | Toward::Purchase => {
            (1..=2).find_map(|m| today.first_of_month().checked_sub(m.months()).ok()?.with().day(day).build().ok())
        }
    }
}

/// Two days to be offered, each written with its month.
pub(super) fn two_days(typed: &str, ways: &[Date], system: Option<System>) -> TwoWays {
    let written = |date: &Date| date.strftime(date_format(system)).to_string();
    TwoWays::new(typed, ways.first().map(written).unwrap_or_default(), ways.get(1).map(written).unwrap_or_default())
}

/// `Sat 28 Nov 2026` or `Sat Nov 28 2026`.
pub(super) fn date_format(system: Option<System>) -> &'static str {
    if system == Some(System::Customary) { "%a %b %-d %Y" } else { "%a %-d %b %Y" }
}
