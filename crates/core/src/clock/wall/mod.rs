//! Wall times as cooks say them: `Saturday 18:00`, `tonight`, `in 5 hours`, `24 Dec 18:00`, `11/28 7pm`.

mod day;
mod hour;
mod meal;

use super::read_span;
use crate::units::{System, TimeIn, TwoWays};
use day::{date_format, read_day, two_days, weekday};
use hour::{part_of_day, read_hour};
use jiff::civil::{Date, DateTime};
use jiff::fmt::temporal::Pieces;
use jiff::tz::TimeZone;
use jiff::{SignedDuration, ToSpan, ZonedDateTime};

pub use meal::read_meal;

/// Which way an unfinished time points.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Toward {
    /// A meal: the next such moment.
    Coming,
    /// Something done: the last such moment.
    Past,
    /// A purchase: as a rule done, but “this Friday” and a date that lies ahead are days on which it will be bought.
    Purchase,
}

/// Why a wall time could not be read.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum WallError {
    /// Not a time at all.
    #[error("“{0}” is not a time this kitchen can read; write a day and a time, like Saturday 18:00, tonight, in 5 hours or 24 Dec 7 pm")]
    NotATime(String),
    /// Not a day at all.
    #[error("“{0}” is not a day this kitchen can read; write today, yesterday, Thursday, 10 Dec or 2026-12-10")]
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
    /// Done, but ahead of today.
    #[error("{said} is still ahead; is it {last_year}? What has not happened yet is left open")]
    Ahead {
        /// The day, with its month.
        said: String,
        /// The same day a year before.
        last_year: String,
    },
    /// Two readings.
    #[error("{0}")]
    TwoWays(TwoWays),
}

impl WallError {
    /// What to offer: both readings, or the one that may have been meant.
    pub fn choices(&self) -> Vec<String> {
        match self {
            Self::TwoWays(ways) => ways.choices(),
            Self::Ahead { last_year, .. } if !last_year.is_empty() => vec![last_year.clone(), "not yet".to_owned()],
            _ => vec![],
        }
    }
}

/// Reads a wall time as seen from `now`, in the zone of `now` unless another is said, by a household that has not said how
/// it writes dates.
///
/// Full dates and instants (`2026-12-12T19:00[Europe/Vienna]`) are read as RFC 9557.
pub fn read_wall(typed: &str, now: &ZonedDateTime, toward: Toward) -> Result<ZonedDateTime, WallError> {
    read_wall_by(typed, now, toward, None)
}

/// Reads a wall time as [`read_wall`] does, with figures in a date as the household writes them: day first, or month first.
///
/// A bare hour from 1 to 11 and a day without an hour are two readings, and asked about.
///
/// ```
/// use rauchkeller_core::{clock::{read_wall_by, Toward}, units::System};
/// let now = "2026-11-26T09:00[America/Chicago]".parse().unwrap();
/// let at = read_wall_by("11/28 7pm", &now, Toward::Coming, Some(System::Customary)).unwrap();
/// assert_eq!(at.datetime(), "2026-11-28T19:00".parse().unwrap());
/// ```
pub fn read_wall_by(typed: &str, now: &ZonedDateTime, toward: Toward, system: Option<System>) -> Result<ZonedDateTime, WallError> {
    let text = typed.trim();
    let short: String = text.chars().take(60).collect();
    if let Some(read) = written_out(text, now, &short) {
        return read;
    }
    let words = plain(text);
    let words: Vec<&str> = words.split_whitespace().collect();
    if words.len() > 12 {
        return Err(WallError::NotATime(short));
    }
    if let Some(at) = by_span(&words, now) {
        return Ok(at);
    }
    let mut said = Said::default();
    let mut at = 0;
    while at < words.len() {
        if let Some(read) = read_day(&words[at..], now.date(), toward, system)? {
            said.weekday = said.weekday.or_else(|| weekday(words[at + read.taken.min(words.len() - at) - 1]).filter(|_| read.weekday_only));
            // A date beside its weekday leads.
            if said.day.is_none() || !read.weekday_only {
                said.dated = !read.weekday_only;
                said.day = Some(read.ways);
            }
            // “tonight” and “last night” are an hour, too.
            if words[at] == "tonight" {
                said.part = said.part.or(part_of_day("tonight"));
            }
            at += read.taken;
        } else if let Some((days, taken)) = in_days(&words[at..]) {
            said.day = now.date().checked_add(days.days()).ok().map(|d| vec![d]);
            said.dated = true;
            at += taken;
        } else if let Some(part) = part_of_day(words[at]) {
            said.part = Some(part);
            at += 1;
        } else {
            said.hour.push(words[at]);
            at += 1;
        }
    }
    said.resolve(text, now, toward, system)
        .map_err(|error| if matches!(error, WallError::NotATime(_)) { WallError::NotATime(short) } else { error })
}

/// What the words said so far.
#[derive(Default)]
struct Said<'a> {
    day: Option<Vec<Date>>,
    dated: bool,
    weekday: Option<jiff::civil::Weekday>,
    part: Option<hour::Part>,
    hour: Vec<&'a str>,
}

impl Said<'_> {
    fn resolve(self, typed: &str, now: &ZonedDateTime, toward: Toward, system: Option<System>) -> Result<ZonedDateTime, WallError> {
        let zone = now.time_zone();
        let no_time = || WallError::NotATime(String::new());
        let hours = read_hour(&self.hour, self.part, system);
        if hours.is_empty() && !self.hour.is_empty() {
            return Err(no_time());
        }
        let Some(days) = self.day else {
            let ways: Vec<DateTime> = hours.iter().map(|time| undated(now, *time, toward)).collect::<Option<_>>().ok_or_else(no_time)?;
            return one_of(typed, &ways, zone, system).ok_or_else(no_time)?;
        };
        let days = self.weekday.filter(|_| self.dated).map_or(Ok(days.clone()), |said| agree(typed, said, &days, system))?;
        // A day without an hour: lunch or dinner, or when it was done, morning or evening.
        let hours = match (hours.is_empty(), toward) {
            (false, _) => hours,
            (true, Toward::Coming) => vec![jiff::civil::time(19, 0, 0, 0), jiff::civil::time(12, 30, 0, 0)],
            (true, Toward::Past | Toward::Purchase) => vec![jiff::civil::time(20, 0, 0, 0), jiff::civil::time(8, 0, 0, 0)],
        };
        let mut ways: Vec<DateTime> = days.iter().flat_map(|day| hours.iter().map(|time| day.to_datetime(*time))).collect();
        if !self.dated && self.weekday.is_some() {
            // “Saturday 18:00” said on a Saturday evening means the next one; “Saturday” that has not come yet, the last.
            let turn = |wall: &DateTime| match toward {
                Toward::Coming if *wall <= now.datetime() => wall.checked_add(7.days()).ok(),
                Toward::Past if *wall > now.datetime() => wall.checked_sub(7.days()).ok(),
                _ => Some(*wall),
            };
            ways = ways.iter().map(turn).collect::<Option<_>>().ok_or_else(no_time)?;
        } else if ways.len() > 1 {
            // Of morning and evening of one day, only what still lies ahead, or behind.
            let holds = |wall: &&DateTime| if toward == Toward::Coming { **wall > now.datetime() } else { **wall <= now.datetime() };
            let possible: Vec<DateTime> = ways.iter().filter(holds).copied().collect();
            if !possible.is_empty() {
                ways = possible;
            }
        }
        one_of(typed, &ways, zone, system).ok_or_else(no_time)?
    }
}

/// The next or the last such hour.
fn undated(now: &ZonedDateTime, time: jiff::civil::Time, toward: Toward) -> Option<DateTime> {
    let today = now.date().to_datetime(time);
    match toward {
        Toward::Coming if today <= now.datetime() => today.checked_add(1.day()).ok(),
        Toward::Past | Toward::Purchase if today > now.datetime() => today.checked_sub(1.day()).ok(),
        _ => Some(today),
    }
}

/// A wall time so that it can be typed, and is then read in one way only: `Sat 28 Nov 2026 19:00` or `Sat Nov 28 2026 7:00 PM`.
pub fn say_moment(wall: DateTime, system: Option<System>) -> String {
    let clock = if system == Some(System::Customary) { "%-I:%M %p" } else { "%H:%M" };
    format!("{} {}", wall.strftime(date_format(system)), wall.strftime(clock))
}

/// The one moment, or both offered.
fn one_of(typed: &str, ways: &[DateTime], zone: &TimeZone, system: Option<System>) -> Option<Result<ZonedDateTime, WallError>> {
    let mut sorted = ways.to_vec();
    sorted.dedup();
    match sorted.as_slice() {
        [] => None,
        [one] => Some(at_wall(*one, zone)),
        [first, second, ..] => Some(Err(WallError::TwoWays(TwoWays::new(typed, say_moment(*first, system), say_moment(*second, system))))),
    }
}

/// A weekday beside a date has to be that date's.
fn agree(typed: &str, said: jiff::civil::Weekday, days: &[Date], system: Option<System>) -> Result<Vec<Date>, WallError> {
    let right: Vec<Date> = days.iter().filter(|day| day.weekday() == said).copied().collect();
    if !right.is_empty() {
        return Ok(right);
    }
    let Some(day) = days.first() else { return Ok(vec![]) };
    let ahead = i32::from(day.weekday().until(said));
    let shift = if ahead > 3 { ahead - 7 } else { ahead };
    let near = day.checked_add(shift.days()).unwrap_or(*day);
    Err(WallError::TwoWays(two_days(typed, &[*day, near], system)))
}

/// A date and time written out in full, or an instant.
fn written_out(text: &str, now: &ZonedDateTime, short: &str) -> Option<Result<ZonedDateTime, WallError>> {
    let pieces = Pieces::parse(text).ok()?;
    let time = pieces.time()?;
    let Ok(said) = pieces.to_time_zone() else { return Some(Err(WallError::UnknownZone(short.to_owned()))) };
    let zone = said.unwrap_or_else(|| now.time_zone().clone());
    let wall = pieces.date().to_datetime(time);
    let Some(offset) = pieces.to_numeric_offset() else { return Some(at_wall(wall, &zone)) };
    Some(offset.to_timestamp(wall).map(|instant| instant.to_zoned_datetime(zone)).map_err(|_| WallError::NotATime(short.to_owned())))
}

/// Lower case, without the small words between day and hour.
fn plain(text: &str) -> String {
    let lower = text.to_lowercase().replace([',', ';'], " ").replace("o'clock", " ").replace("o’clock", " ");
    // “7 p.m.” is one word.
    let lower = lower.replace(" p.m.", "pm").replace(" a.m.", "am").replace(" pm", "pm").replace(" am", "am");
    let words = crate::units::in_figures(&lower);
    let small = ["at", "um", "the", "in the", "@", "around", "about", "by"];
    words
        .split_whitespace()
        .filter(|word| !small.contains(word))
        .collect::<Vec<_>>()
        .join(" ")
        .replace("in evening", "evening")
        .replace("in morning", "morning")
        .replace("in afternoon", "afternoon")
}

/// `in 5 hours`, `in 90 min`, `2 h ago`, `now`.
fn by_span(words: &[&str], now: &ZonedDateTime) -> Option<ZonedDateTime> {
    let whole_minute = |by: SignedDuration| {
        let at = now.checked_add(by).ok()?;
        at.with().second(0).subsec_nanosecond(0).build().ok()
    };
    match words {
        ["now"] | ["just" | "right", "now"] => Some(now.clone()),
        ["in", rest @ ..] | [rest @ .., "from", "now"] if !rest.is_empty() => whole_minute(span_of(rest)?),
        [rest @ .., "ago"] if !rest.is_empty() => whole_minute(-span_of(rest)?),
        _ => None,
    }
}

fn span_of(words: &[&str]) -> Option<SignedDuration> {
    let text = words.join(" ");
    // A bare number here could be anything.
    if !text.contains(char::is_alphabetic) {
        return None;
    }
    Some(SignedDuration::from_secs_f64(read_span(&text)?.in_min() * 60.0))
}

/// `in 3 days`, `3 days ago`, beside an hour.
fn in_days(words: &[&str]) -> Option<(i32, usize)> {
    match words {
        ["in", n, "day" | "days", ..] => n.parse().ok().filter(|n| (1..=60).contains(n)).map(|n: i32| (n, 3)),
        [n, "day" | "days", "ago", ..] => n.parse().ok().filter(|n| (1..=400).contains(n)).map(|n: i32| (-n, 3)),
        [n, "week" | "weeks", "ago", ..] => n.parse().ok().filter(|n| (1..=60).contains(n)).map(|n: i32| (-7 * n, 3)),
        ["in", n, "week" | "weeks", ..] => n.parse().ok().filter(|n| (1..=9).contains(n)).map(|n: i32| (7 * n, 3)),
        _ => None,
    }
}

/// Reads a day as seen from `now`: `today`, `yesterday`, a weekday, or a date.
pub fn read_day_said(typed: &str, now: &ZonedDateTime, toward: Toward) -> Result<Date, WallError> {
    read_day_by(typed, now, toward, None)
}

/// Reads a day as [`read_day_said`] does, with figures as the household writes them.
pub fn read_day_by(typed: &str, now: &ZonedDateTime, toward: Toward, system: Option<System>) -> Result<Date, WallError> {
    let refused = || WallError::NotADay(typed.trim().chars().take(60).collect());
    let said = plain(typed);
    // “I buy it on Friday” lies ahead whatever the day; “bought on Friday” behind.
    let still = if toward == Toward::Purchase { day::to_buy(&said) } else { None };
    let (words, toward) = still.map_or((said.as_str(), toward), |day| (day, Toward::Coming));
    let words: Vec<&str> = words.split_whitespace().collect();
    if words.len() > 8 {
        return Err(refused());
    }
    if let Some((days, taken)) = in_days(&words)
        && taken == words.len()
    {
        return now.date().checked_add(days.days()).map_err(|_| refused());
    }
    let mut found: Option<day::DayRead> = None;
    let mut said = None;
    let mut at = 0;
    while at < words.len() {
        // “this morning” and “last night” name a day here.
        if part_of_day(words[at]).is_some() && found.is_some() {
            at += 1;
            continue;
        }
        let read = read_day(&words[at..], now.date(), toward, system)?.ok_or_else(refused)?;
        if read.weekday_only {
            said = weekday(words[at + read.taken - 1]);
        }
        at += read.taken;
        if found.as_ref().is_none_or(|before| before.weekday_only && !read.weekday_only) {
            found = Some(read);
        } else if !read.weekday_only {
            return Err(refused());
        }
    }
    let found = found.ok_or_else(refused)?;
    let days = match said.filter(|_| !found.weekday_only) {
        Some(said) => agree(typed, said, &found.ways, system)?,
        None => found.ways,
    };
    match days.as_slice() {
        [one] => Ok(*one),
        [_, _, ..] => Err(WallError::TwoWays(two_days(typed, &days, system))),
        [] => Err(refused()),
    }
}

fn at_wall(wall: DateTime, zone: &TimeZone) -> Result<ZonedDateTime, WallError> {
    let ambiguous = zone.to_ambiguous_zoned_datetime(wall);
    if ambiguous.is_ambiguous() {
        let later = ambiguous.clone().later().map(|z| z.datetime());
        return Err(if later.is_ok_and(|l| l == wall) { WallError::Twice(wall) } else { WallError::Skipped(wall) });
    }
    ambiguous.unambiguous().map_err(|_| WallError::NotATime(wall.to_string()))
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
        let ahead = read_day_said("30 Dec", &now, Toward::Past).unwrap_err();
        assert_eq!(ahead.choices(), ["30 Dec 2025", "not yet"], "a purchase lies behind; that it would be last year's is asked");
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
