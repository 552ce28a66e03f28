//! A meal in words: an hour, or from when to when it is eaten.

use super::{Toward, WallError, read_wall_by, say_moment};
use crate::units::{System, TwoWays};
use jiff::{SignedDuration, ZonedDateTime};

/// What stands between both hours.
const TILL: [&str; 5] = [" till ", " until ", " to ", "–", "-"];
/// A bare “8” after “18:00” is the eight that comes within so long.
const NEAR: SignedDuration = SignedDuration::from_hours(12);

/// Reads `Saturday 18:00`, `15:30 till 18:00` or `Sat 6–8 pm`: the meal, and until when it is eaten where a span was said.
///
/// The end is read from the meal on. A morning and an evening are asked about as everywhere, with the end kept.
///
/// ```
/// use rauchkeller_core::clock::read_meal;
/// let now = "2026-11-26T09:00[Europe/Vienna]".parse().unwrap();
/// let (ready, until) = read_meal("Saturday 15:30 till 18:00", &now, None).unwrap();
/// assert_eq!(ready.datetime(), "2026-11-28T15:30".parse().unwrap());
/// assert_eq!(until.unwrap().datetime(), "2026-11-28T18:00".parse().unwrap());
/// ```
pub fn read_meal(typed: &str, now: &ZonedDateTime, system: Option<System>) -> Result<(ZonedDateTime, Option<ZonedDateTime>), WallError> {
    let whole = read_wall_by(typed, now, Toward::Coming, system);
    let Some((from, until)) = whole.is_err().then(|| parts(typed)).flatten() else { return whole.map(|at| (at, None)) };
    let from = with_its_half(from, until);
    match read_wall_by(&from, now, Toward::Coming, system) {
        Ok(from) => Ok((from.clone(), Some(end(typed, until, &from, system)?))),
        Err(WallError::TwoWays(ways)) => {
            let with_end = |way: String| format!("{way} till {until}");
            Err(WallError::TwoWays(TwoWays::new(typed, with_end(ways.first), with_end(ways.second))))
        }
        // What is no hour with its end cut off was none.
        Err(WallError::NotATime(_)) => whole.map(|at| (at, None)),
        Err(other) => Err(other),
    }
}

/// Both hours of a span; `None` where there are not two.
fn parts(typed: &str) -> Option<(&str, &str)> {
    let lower = typed.to_ascii_lowercase();
    let (at, till) = TILL.iter().find_map(|till| Some((lower.rfind(till)?, *till)))?;
    let (from, until) = (typed[..at].trim(), typed[at + till.len()..].trim());
    (from.len() <= 80 && from.contains(|c: char| c.is_ascii_digit()) && until.contains(|c: char| c.is_ascii_digit()))
        .then_some((from, until))
}

/// “6–8 pm”: the half of the day said of the end is the beginning's, too, where it has none and lies before it.
fn with_its_half(from: &str, until: &str) -> String {
    let half = |text: &str| ["pm", "am"].into_iter().find(|half| text.to_ascii_lowercase().replace('.', "").ends_with(half));
    let figure = |text: &str| -> Option<u32> {
        text.rsplit(' ').next()?.split(|c: char| !c.is_ascii_digit()).find(|part| !part.is_empty())?.parse().ok()
    };
    let end = figure(until.trim_end_matches(|c: char| !c.is_ascii_digit()));
    match (half(from), half(until)) {
        (None, Some(said)) if figure(from) < end && figure(from).is_some_and(|hour| hour < 12) => format!("{from} {said}"),
        _ => from.to_owned(),
    }
}

/// The end, read from the meal on; of a morning and an evening the one that comes first after it.
fn end(typed: &str, until: &str, from: &ZonedDateTime, system: Option<System>) -> Result<ZonedDateTime, WallError> {
    let read = |text: &str| read_wall_by(text, from, Toward::Coming, system);
    match read(until) {
        Err(WallError::TwoWays(ways)) => {
            let near: Vec<ZonedDateTime> =
                ways.choices().iter().filter_map(|way| read(way).ok()).filter(|at| at > from && at.duration_since(from) <= NEAR).collect();
            match near.into_iter().min() {
                Some(at) => Ok(at),
                None => Err(WallError::TwoWays(TwoWays::new(
                    typed,
                    format!("{} till {}", say_moment(from.datetime(), system), ways.first),
                    format!("{} till {}", say_moment(from.datetime(), system), ways.second),
                ))),
            }
        }
        other => other,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// By hand, on Thursday the 26th of November at nine.
    #[test]
    fn a_meal_with_a_span_is_read_and_a_date_is_none() {
        let now = "2026-11-26T09:00[Europe/Vienna]".parse().unwrap();
        let us = Some(System::Customary);
        for (typed, system, ready, until) in [
            ("Saturday 18:00", None, "28T18:00", None),
            ("2026-11-28T18:00[Europe/Vienna]", None, "28T18:00", None),
            ("28 Nov 18:00", None, "28T18:00", None),
            ("15:30 till 18:00", None, "26T15:30", Some("26T18:00")),
            ("Saturday 15:30–18:00", None, "28T15:30", Some("28T18:00")),
            ("Saturday 15:30-18:00", None, "28T15:30", Some("28T18:00")),
            ("Sat 22:00 until 1:30", None, "28T22:00", Some("29T01:30")),
            ("Sat 3:30 pm till 6 pm", us, "28T15:30", Some("28T18:00")),
            ("Sat 3:30 pm till 6", us, "28T15:30", Some("28T18:00")),
            ("Saturday 6–8 pm", us, "28T18:00", Some("28T20:00")),
            ("Saturday 11 am to 2 pm", us, "28T11:00", Some("28T14:00")),
        ] {
            let (at, to) = read_meal(typed, &now, system).unwrap_or_else(|error| panic!("{typed}: {error}"));
            let on = |day: &str| format!("2026-11-{day}:00").parse::<jiff::civil::DateTime>().unwrap();
            assert_eq!(at.datetime(), on(ready), "{typed}");
            assert_eq!(to.map(|to| to.datetime()), until.map(on), "{typed}");
        }
        // Morning or evening is asked, and the end goes with either.
        let Err(WallError::TwoWays(ways)) = read_meal("Saturday 6 till 8", &now, us) else { panic!("asked") };
        assert!(ways.choices().iter().all(|way| way.ends_with("till 8") && read_meal(way, &now, us).unwrap().1.is_some()), "{ways}");
        for nonsense in ["till", "soon till late", "till 18:00", "Saturday till Sunday", "–", "18:00 till supper"] {
            assert!(read_meal(nonsense, &now, None).is_err(), "{nonsense}");
        }
    }
}
