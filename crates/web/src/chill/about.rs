//! Moments as a forecast says them: to the half hour, with their day in words.

use jiff::{Timestamp, ZonedDateTime};

/// A wall time to the half hour, with its day in words where it is near: `16:00 today`, `02:30 tomorrow`, `Sat 16:00`.
pub(super) fn about(at: Timestamp, now: &ZonedDateTime) -> String {
    match half_hour(at, now) {
        (clock, Ok(near)) => format!("{clock} {near}"),
        (clock, Err(day)) => format!("{day} {clock}"),
    }
}

/// Two such moments; the day is said once where it is the same.
pub(super) fn between(soon: Timestamp, late: Timestamp, now: &ZonedDateTime) -> String {
    match (half_hour(soon, now), half_hour(late, now)) {
        ((soon, Ok(day)), (late, Ok(same))) if day == same => format!("between {soon} and {late} {day}"),
        ((soon, Err(day)), (late, Err(same))) if day == same => format!("{day} between {soon} and {late}"),
        _ => format!("between {} and {}", about(soon, now), about(late, now)),
    }
}

/// The clock to the half hour, and today or tomorrow, or else the day's name.
fn half_hour(at: Timestamp, now: &ZonedDateTime) -> (String, Result<&'static str, String>) {
    let half = 1800;
    let rounded = (at.as_second() + half / 2).div_euclid(half) * half;
    let at = Timestamp::from_second(rounded).unwrap_or(at).to_zoned_datetime(now.time_zone().clone());
    let day = match at.date() {
        day if day == now.date() => Ok("today"),
        day if now.date().tomorrow().is_ok_and(|tomorrow| tomorrow == day) => Ok("tomorrow"),
        _ => Err(at.strftime("%a").to_string()),
    };
    (at.strftime("%H:%M").to_string(), day)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn at(text: &str) -> Timestamp {
        text.parse().unwrap()
    }

    fn now() -> ZonedDateTime {
        "2026-12-12T07:00[Europe/Vienna]".parse().unwrap()
    }

    #[test]
    fn times_to_the_half_hour_with_their_day() {
        let about = |text: &str| about(at(text), &now());
        assert_eq!(about("2026-12-12T15:10:00Z"), "16:00 today");
        assert_eq!(about("2026-12-12T15:20:00Z"), "16:30 today");
        assert_eq!(about("2026-12-13T15:00:00Z"), "16:00 tomorrow");
        assert_eq!(about("2026-12-15T15:00:00Z"), "Tue 16:00");
    }

    #[test]
    fn the_day_is_said_once() {
        let between = |soon: &str, late: &str| between(at(soon), at(late), &now());
        assert_eq!(between("2026-12-12T13:05:00Z", "2026-12-12T16:50:00Z"), "between 14:00 and 18:00 today");
        assert_eq!(between("2026-12-12T13:05:00Z", "2026-12-13T01:00:00Z"), "between 14:00 today and 02:00 tomorrow");
        assert_eq!(between("2026-12-18T13:00:00Z", "2026-12-18T17:00:00Z"), "Fri between 14:00 and 18:00");
    }
}
