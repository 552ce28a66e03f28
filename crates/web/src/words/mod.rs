//! Wall times and amounts in a cook's words.

mod in_units;
mod page_units;

pub use in_units::figure_in_units;
pub use page_units::page_in_units;

use jiff::{SignedDuration, Timestamp, ZonedDateTime};
use rauchkeller_contract::FireDoc;

/// `Fri 15:30`, or `15:30` on the same day; further off than a weekday can tell, with its date.
pub fn wall(at: Timestamp, now: &ZonedDateTime) -> String {
    let there = at.to_zoned_datetime(now.time_zone().clone());
    if there.date() == now.date() { there.strftime("%H:%M").to_string() } else { day_wall(at, now) }
}

/// `Fri 15:30`, always with its day; `Wed 9 Dec 11:15` where the weekday alone would be another week's.
pub fn day_wall(at: Timestamp, now: &ZonedDateTime) -> String {
    let at = at.to_zoned_datetime(now.time_zone().clone());
    let days = now.date().until(at.date()).map_or(0, |span| span.get_days().abs());
    at.strftime(if days >= 6 { "%a %-d %b %H:%M" } else { "%a %H:%M" }).to_string()
}

/// An instant written by the contract: of a plan made now, or of a kept one, whose instants are all looked at before it is shown.
pub fn instant(text: &str) -> Timestamp {
    text.parse::<ZonedDateTime>().map(|z| z.timestamp()).or_else(|_| text.parse()).unwrap_or(Timestamp::UNIX_EPOCH)
}

/// `20 min`, `1 h 40`, `2 days 3 h`.
pub fn span(duration: SignedDuration) -> String {
    let minutes = duration.as_mins().max(0);
    match (minutes / 1440, minutes % 1440 / 60, minutes % 60) {
        (0, 0, min) => format!("{min} min"),
        (0, h, 0) => format!("{h} h"),
        (0, h, min) => format!("{h} h {min:02}"),
        (1, h, _) => format!("1 day {h} h"),
        (days, h, _) => format!("{days} days {h} h"),
    }
}

/// What the core's large number is: a reading at which it comes out, of a bird with its place, or only what the minutes make of it.
pub fn pull_word(fire: &FireDoc) -> &'static str {
    match (&fire.slow_low_c, fire.targets.as_slice()) {
        (Some(_), _) => "comes to",
        (None, [lead, _, ..]) if lead.at == "thigh" => "thigh, pull at",
        _ => "pull at",
    }
}

/// Grams with one decimal below a hundred, none above.
pub fn grams(g: f64) -> String {
    if g >= 100.0 { format!("{g:.0}") } else { format!("{g:.1}") }
}

/// The same figure in the other system, for the small print beside it: ounces, inches, °F.
pub fn other_system(figure: &str, unit: &str) -> String {
    use rauchkeller_core::units::{both_length, millimetres};
    let Ok(value) = figure.parse::<f64>() else { return String::new() };
    match unit {
        "g" => format!("{} oz", trim(value / 28.349_523_125, 2)),
        "mm" => both_length(millimetres(value)).customary,
        _ if unit.starts_with("°C") => format!("{} °F", fahrenheit(value)),
        _ => String::new(),
    }
}

/// From here on, in °C, a kitchen speaks of meat and heat, and its figures are round ones.
const ROUND_FROM_C: f64 = 45.0;

/// A figure in °C as one in °F, as exact as it was said and no more.
///
/// Whole degrees have lost what they were: 350 °F are 177 °C, and these are 350 and 351. Of the two the round one was meant. A figure
/// with decimals keeps them, so that nothing is rounded over a limit: 4.5 °C are not the 40 °F that are allowed.
pub fn fahrenheit(c: f64) -> String {
    let f = c * 1.8 + 32.0;
    if c.fract() != 0.0 {
        return trim(f, 1);
    }
    let nearest = f.round();
    let round = [nearest - 1.0, nearest + 1.0].into_iter().find(|f| f % 5.0 == 0.0 && ((f - 32.0) / 1.8).round() == c);
    format!("{:.0}", round.filter(|_| c >= ROUND_FROM_C && nearest % 5.0 != 0.0).unwrap_or(nearest))
}

/// A number with at most `places` decimals and no trailing zeros.
pub fn trim(value: f64, places: usize) -> String {
    let text = format!("{value:.places$}");
    if text.contains('.') { text.trim_end_matches('0').trim_end_matches('.').to_owned() } else { text }
}

/// Saltiness in words, −2 bland … +2 too salty.
pub const SALTINESS: [&str; 5] = ["bland", "mild", "right", "salty", "too salty"];
/// Juice in words, −2 dry … +2 running.
pub const JUICE: [&str; 5] = ["dry", "dryish", "right", "juicy", "running"];

/// The word for a step of a scale from −2 to +2.
pub fn on_scale(words: [&'static str; 5], value: i32) -> &'static str {
    words[usize::try_from(value.clamp(-2, 2) + 2).unwrap_or(2)]
}

/// A name on one line, however it was typed.
pub fn one_line(typed: &str) -> String {
    typed.split_whitespace().collect::<Vec<_>>().join(" ")
}

/// A sentence to its end: what ends in a question has its mark already.
pub fn full_stop(text: &impl std::fmt::Display) -> String {
    let text = text.to_string();
    if text.ends_with(['?', '.', '!']) { text } else { format!("{text}.") }
}

/// How salty a place is, to the gram in a kilogram.
pub fn g_per_kg(value: f64) -> String {
    if value < 0.5 { "unsalted".to_owned() } else { format!("{value:.0}") }
}

/// First letter upper case.
pub fn sentence(text: &str) -> String {
    let mut chars = text.chars();
    chars.next().map_or_else(String::new, |first| first.to_uppercase().collect::<String>() + chars.as_str())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn spans_read_like_a_kitchen_clock() {
        for (min, want) in
            [(20, "20 min"), (100, "1 h 40"), (60, "1 h"), (1440 + 125, "1 day 2 h"), (3 * 1440, "3 days 0 h"), (-5, "0 min")]
        {
            assert_eq!(span(SignedDuration::from_mins(min)), want);
        }
        assert_eq!((grams(18.04), grams(120.4)), ("18.0".into(), "120".into()));
    }

    #[test]
    fn figures_are_read_in_both_systems() {
        // NIST: 18 g ÷ 28.3495 = 0.63 oz; 64 °C is 147 °F.
        assert_eq!(
            (other_system("18.0", "g"), other_system("64", "°C core"), other_system("24", "h")),
            ("0.63 oz".into(), "147 °F".into(), String::new())
        );
    }

    #[test]
    fn scales_have_a_word_for_every_step_and_none_beyond() {
        assert_eq!([-2, 0, 2].map(|v| on_scale(SALTINESS, v)), ["bland", "right", "too salty"]);
        assert_eq!((on_scale(JUICE, -99), on_scale(JUICE, 99)), ("dry", "running"));
    }

    #[test]
    fn the_day_is_said_when_it_is_another() {
        let now: ZonedDateTime = "2026-12-10T09:00[Europe/Vienna]".parse().unwrap();
        assert_eq!(wall("2026-12-10T14:00Z".parse().unwrap(), &now), "15:00");
        assert_eq!(wall("2026-12-11T14:00Z".parse().unwrap(), &now), "Fri 15:00");
    }
}
