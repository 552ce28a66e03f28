//! Wall times as cooks say them: `Saturday 18:00`, `tomorrow 7 pm`, `yesterday 20:00`.

use jiff::civil::{Date, DateTime, Time, Weekday};
use jiff::fmt::temporal::Pieces;
use jiff::tz::TimeZone;
use jiff::{ToSpan, ZonedDateTime};

/// Which way an unfinished time points.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Toward {
    /// A meal: the next such moment.
    Coming,
    /// Something done: the last such moment.
    Past,
}

/// Why a wall time could not be read.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum WallError {
    /// Not a time at all.
    #[error("“{0}” is not a time this kitchen can read; write a day and a time, like Saturday 18:00 or tomorrow 7 pm")]
    NotATime(String),
    /// Not a day at all.
    #[error("“{0}” is not a day this kitchen can read; write today, yesterday, Thursday or 2026-12-10")]
    NotADay(String),
    /// The clock jumps over it.
    #[error("{0} does not exist: the clocks go forward over it; take a time an hour later")]
    Skipped(DateTime),
    /// The clock passes it twice.
    #[error("{0} comes twice: the clocks go back over it; take a time outside that hour, or say the offset")]
    Twice(DateTime),
    /// A zone nobody knows.
    #[error("“{0}” is not a time zone; write it like Europe/Vienna")]
    UnknownZone(String),
}

/// Reads a wall time as seen from `now`, in the zone of `now` unless another is said.
///
/// Full dates and instants (`2026-12-12T19:00[Europe/Vienna]`) are read as RFC 9557.
pub fn read_wall(typed: &str, now: &ZonedDateTime, toward: Toward) -> Result<ZonedDateTime, WallError> {
    let text = typed.trim();
    let short: String = text.chars().take(60).collect();
    if let Ok(pieces) = Pieces::parse(text)
        && let Some(time) = pieces.time()
    {
        let said = pieces.to_time_zone().map_err(|_| WallError::UnknownZone(short.clone()))?;
        let zone = said.unwrap_or_else(|| now.time_zone().clone());
        let wall = pieces.date().to_datetime(time);
        if let Some(offset) = pieces.to_numeric_offset() {
            let instant = offset.to_timestamp(wall).map_err(|_| WallError::NotATime(short))?;
            return Ok(instant.to_zoned_datetime(zone));
        }
        return at_wall(wall, &zone);
    }
    let words = text.to_lowercase().replace(',', " ").replace(" at ", " ");
    let mut day: Option<Date> = None;
    let mut hour = String::new();
    for word in words.split_whitespace() {
        if day.is_none()
            && let Some(found) = read_day(word, now.date(), toward)
        {
            day = Some(found);
        } else {
            hour.push_str(word);
        }
    }
    let time = read_hour(&hour).ok_or_else(|| WallError::NotATime(short.clone()))?;
    let zone = now.time_zone();
    if let Some(day) = day {
        let at = at_wall(day.to_datetime(time), zone)?;
        // “Saturday 18:00” said on a Saturday evening means the next one; “Saturday” that has passed, the last.
        let weekday_named = words.split_whitespace().any(|w| weekday(w).is_some());
        let week = match toward {
            Toward::Coming if at <= *now && weekday_named => 7,
            Toward::Past if at > *now && weekday_named => -7,
            _ => return Ok(at),
        };
        let day = day.checked_add(week.days()).map_err(|_| WallError::NotATime(short))?;
        return at_wall(day.to_datetime(time), zone);
    }
    let today = at_wall(now.date().to_datetime(time), zone)?;
    let moved = match toward {
        Toward::Coming if today <= *now => now.date().tomorrow(),
        Toward::Past if today > *now => now.date().yesterday(),
        _ => return Ok(today),
    };
    at_wall(moved.map_err(|_| WallError::NotATime(short))?.to_datetime(time), zone)
}

/// Reads a day as seen from `now`: `today`, `yesterday`, a weekday, or a date.
pub fn read_day_said(typed: &str, now: &ZonedDateTime, toward: Toward) -> Result<Date, WallError> {
    let word = typed.trim().to_lowercase();
    read_day(&word, now.date(), toward).ok_or_else(|| WallError::NotADay(typed.trim().chars().take(60).collect()))
}

fn at_wall(wall: DateTime, zone: &TimeZone) -> Result<ZonedDateTime, WallError> {
    let ambiguous = zone.to_ambiguous_zoned_datetime(wall);
    if ambiguous.is_ambiguous() {
        let later = ambiguous.clone().later().map(|z| z.datetime());
        return Err(if later.is_ok_and(|l| l == wall) { WallError::Twice(wall) } else { WallError::Skipped(wall) });
    }
    ambiguous.unambiguous().map_err(|_| WallError::NotATime(wall.to_string()))
}

fn weekday(word: &str) -> Option<Weekday> {
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
    if word.chars().count() < 2 {
        return None;
    }
    DAYS.iter().find(|(name, _)| *name == word || (word.len() >= 3 && name.starts_with(word))).map(|&(_, day)| day)
}

fn read_day(word: &str, today: Date, toward: Toward) -> Option<Date> {
    match word {
        "today" | "tonight" => return Some(today),
        "tomorrow" => return today.tomorrow().ok(),
        "yesterday" => return today.yesterday().ok(),
        _ => {}
    }
    if word.contains('-')
        && let Ok(date) = word.parse()
    {
        return Some(date);
    }
    if let Some(date) = day_and_month(word, today, toward) {
        return Some(date);
    }
    let day = weekday(word)?;
    let ahead = i32::from(today.weekday().until(day));
    match toward {
        Toward::Coming => today.checked_add(ahead.days()).ok(),
        Toward::Past if ahead == 0 => Some(today),
        Toward::Past => today.checked_sub((7 - ahead).days()).ok(),
    }
}

/// `12 December`, `Dec 12`, `12 dec 2026`, as labels print it. Without a year it is the nearest such day: one that a
/// label may still name after it has passed, one that a purchase cannot lie ahead of.
fn day_and_month(words: &str, today: Date, toward: Toward) -> Option<Date> {
    const MONTHS: [&str; 12] =
        ["january", "february", "march", "april", "may", "june", "july", "august", "september", "october", "november", "december"];
    let parts: Vec<&str> = words.split([' ', '.', ',', '/']).filter(|part| !part.is_empty()).collect();
    let month = |word: &str| MONTHS.iter().position(|name| word.len() >= 3 && name.starts_with(word));
    let (day, month, year) = match parts.as_slice() {
        [a, b, rest @ ..] if rest.len() <= 1 => match (month(a), month(b)) {
            (None, Some(month)) => (a, month, rest.first()),
            (Some(month), None) => (b, month, rest.first()),
            _ => return None,
        },
        _ => return None,
    };
    let (day, month): (i8, i8) = (day.parse().ok()?, i8::try_from(month).ok()? + 1);
    if let Some(year) = year {
        return Date::new(year.parse().ok()?, month, day).ok();
    }
    let this_year = Date::new(today.year(), month, day).ok()?;
    let days = (this_year - today).get_days();
    let turn = match toward {
        Toward::Coming if days < -60 => 1,
        Toward::Past if days > 0 => -1,
        _ => 0,
    };
    Date::new(today.year() + turn, month, day).ok()
}

/// `18:00`, `18.30`, `6pm`, `6:30pm`, `18`, `noon`.
fn read_hour(text: &str) -> Option<Time> {
    if text == "noon" {
        return Time::new(12, 0, 0, 0).ok();
    }
    let (digits, add) = match (text.strip_suffix("pm"), text.strip_suffix("am")) {
        (Some(rest), _) => (rest, Some(12)),
        (None, Some(rest)) => (rest, Some(0)),
        (None, None) => (text.trim_end_matches('h'), None),
    };
    let (hour, minute) = digits.split_once([':', '.']).unwrap_or((digits, "0"));
    if hour.is_empty() || hour.len() > 2 || minute.len() > 2 {
        return None;
    }
    let (hour, minute): (i8, i8) = (hour.parse().ok()?, minute.parse().ok()?);
    let hour = match add {
        Some(add) if (1..=12).contains(&hour) => hour % 12 + add,
        Some(_) => return None,
        None => hour,
    };
    Time::new(hour, minute, 0, 0).ok()
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    // The calendar itself: 10 December 2026 is a Thursday.
    #[rstest]
    #[case("Saturday 18:00", Toward::Coming, "2026-12-12T18:00")]
    #[case("sat 6pm", Toward::Coming, "2026-12-12T18:00")]
    #[case("thursday 08:00", Toward::Coming, "2026-12-17T08:00")]
    #[case("tomorrow 7:30 pm", Toward::Coming, "2026-12-11T19:30")]
    #[case("19.00", Toward::Coming, "2026-12-10T19:00")]
    #[case("08:00", Toward::Coming, "2026-12-11T08:00")]
    #[case("08:00", Toward::Past, "2026-12-10T08:00")]
    #[case("20:00", Toward::Past, "2026-12-09T20:00")]
    #[case("yesterday 20:00", Toward::Past, "2026-12-09T20:00")]
    #[case("Wednesday 20:00", Toward::Past, "2026-12-09T20:00")]
    #[case("2026-12-12 19:00", Toward::Coming, "2026-12-12T19:00")]
    #[case("2026-12-12T19:00[Europe/Vienna]", Toward::Coming, "2026-12-12T19:00")]
    #[case("2026-12-12T18:00Z", Toward::Coming, "2026-12-12T19:00")]
    #[case("sunday noon", Toward::Coming, "2026-12-13T12:00")]
    fn said(#[case] typed: &str, #[case] toward: Toward, #[case] want: &str) {
        let now: ZonedDateTime = "2026-12-10T09:00[Europe/Vienna]".parse().unwrap();
        assert_eq!(read_wall(typed, &now, toward).unwrap().datetime(), want.parse().unwrap(), "{typed}");
    }

    #[test]
    fn days() {
        let now: ZonedDateTime = "2026-12-10T09:00[Europe/Vienna]".parse().unwrap();
        let day = |typed| read_day_said(typed, &now, Toward::Past).map(|d| d.to_string());
        assert_eq!(day("Yesterday").unwrap(), "2026-12-09");
        assert_eq!(day("tuesday").unwrap(), "2026-12-08");
        assert_eq!(day("2026-12-01").unwrap(), "2026-12-01");
        assert!(day("soon").is_err());
        assert_eq!(day("8 December").unwrap(), "2026-12-08");
        assert_eq!(day("Dec 30").unwrap(), "2025-12-30", "a purchase lies behind");
        assert_eq!(day("2 nov. 2026").unwrap(), "2026-11-02");
        assert!(day("31 February").is_err() && day("December").is_err() && day("12 13").is_err());
        let coming = |typed| read_day_said(typed, &now, Toward::Coming).unwrap().to_string();
        assert_eq!(
            (coming("12 Dec"), coming("3 January"), coming("9 dec")),
            ("2026-12-12".into(), "2027-01-03".into(), "2026-12-09".into())
        );
    }

    #[test]
    fn clock_changes_are_said_not_moved() {
        // Vienna 2026: forward on 29 March at 02:00, back on 25 October at 03:00.
        let now: ZonedDateTime = "2026-03-28T09:00[Europe/Vienna]".parse().unwrap();
        assert!(matches!(read_wall("2026-03-29T02:30[Europe/Vienna]", &now, Toward::Coming), Err(WallError::Skipped(_))));
        assert!(matches!(read_wall("2026-10-25T02:30[Europe/Vienna]", &now, Toward::Coming), Err(WallError::Twice(_))));
        assert!(read_wall("2026-10-25T02:30+01:00[Europe/Vienna]", &now, Toward::Coming).is_ok());
    }

    proptest::proptest! {
        #[test]
        fn no_text_makes_it_panic(text in "\\PC{0,40}") {
            let now: ZonedDateTime = "2026-12-10T09:00[Europe/Vienna]".parse().unwrap();
            let _ = (read_wall(&text, &now, Toward::Coming), read_wall(&text, &now, Toward::Past));
        }
    }
}
