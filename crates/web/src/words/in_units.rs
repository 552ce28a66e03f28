//! Sentences in a household's units: the program writes metric; for a kitchen of pounds and inches every weight, length and
//! temperature stands there in its own units first, with the metric beside it.

use rauchkeller_contract::PlanDoc;
use rauchkeller_core::units::{System, both_length, both_mass, both_temperature, celsius, fahrenheit_difference, grams, millimetres};
use serde_json::Value;
use std::sync::Arc;

/// The units that are rewritten. Grams stay: salt is weighed in them.
const UNITS: [&str; 5] = [WARMER, "°C", "mm", "kg", "K"];
/// A difference of temperatures, as sentences write it; plans of an earlier version wrote K.
const WARMER: &str = "°C more";

fn customary(value: f64, unit: &str) -> String {
    match unit {
        "°C" => both_temperature(celsius(value)).customary,
        "mm" => both_length(millimetres(value)).customary,
        WARMER => format!("{:.0} °F more", fahrenheit_difference(value)),
        // A difference, not a point of the scale.
        "K" => format!("{:.0} °F", fahrenheit_difference(value)),
        _ => both_mass(grams(value * 1000.0)).customary,
    }
}

/// A number as it stands in a text: its value, and where it ends.
fn number_at(text: &str) -> Option<(f64, usize)> {
    let end = text.find(|c: char| !(c.is_ascii_digit() || c == '.')).unwrap_or(text.len());
    let figure = text[..end].trim_end_matches('.');
    Some((figure.parse().ok()?, figure.len()))
}

/// A unit after a number, with or without a blank, that ends there.
fn unit_at(text: &str) -> Option<(&'static str, usize)> {
    let blank = text.chars().next().filter(|c| matches!(c, ' ' | '\u{a0}')).map_or(0, char::len_utf8);
    let unit = UNITS.into_iter().find(|unit| text[blank..].starts_with(unit))?;
    let end = blank + unit.len();
    let goes_on = text[end..].chars().next().is_some_and(|c| c.is_alphanumeric() || matches!(c, '²' | '/'));
    (!goes_on).then_some((unit, end))
}

/// A second number of a range: `165–180`, `3 to 7`, `267 × 190`.
fn second_at(text: &str) -> Option<(&'static str, f64, usize)> {
    let joint = ["–", " to ", " × ", " and "].into_iter().find(|joint| text.starts_with(joint))?;
    let (value, end) = number_at(&text[joint.len()..])?;
    Some((joint, value, joint.len() + end))
}

/// A text with its weights, lengths and temperatures in pounds, inches and °F first.
pub fn customary_first(text: &str) -> String {
    let mut out = String::with_capacity(text.len() + 24);
    let mut at = 0;
    while at < text.len() {
        let rest = &text[at..];
        let before = text[..at].chars().next_back();
        let fresh = before.is_none_or(|c| !(c.is_alphanumeric() || matches!(c, '.' | '/' | ',')));
        let found = if fresh && rest.starts_with(|c: char| c.is_ascii_digit()) { quantity(rest) } else { None };
        if let Some((written, taken)) = found {
            out.push_str(&written);
            at += taken;
        } else {
            let next = rest.chars().next().map_or(1, char::len_utf8);
            out.push_str(&rest[..next]);
            at += next;
        }
    }
    out
}

/// One quantity or range, rewritten, and how much of the text it took; what already stands in both systems is turned round.
fn quantity(rest: &str) -> Option<(String, usize)> {
    let (value, mut end) = number_at(rest)?;
    let second = second_at(&rest[end..]);
    let (written, unit_end) = match second {
        Some((joint, other, more)) if unit_at(&rest[end + more..]).is_some() => {
            let (unit, unit_end) = unit_at(&rest[end + more..])?;
            end += more;
            let first = customary(value, unit);
            let figure = if unit == WARMER { first.split_once(' ') } else { first.rsplit_once(' ') };
            let first = figure.filter(|_| unit != "kg").map_or(first.clone(), |(figure, _)| figure.to_owned());
            (format!("{first}{joint}{}", customary(other, unit)), unit_end)
        }
        _ => {
            let (unit, unit_end) = unit_at(&rest[end..])?;
            (customary(value, unit), unit_end)
        }
    };
    let metric_end = end + unit_end;
    let metric = rest[..metric_end].trim_end_matches(" more");
    // “74 °C (165 °F)” stands in both already.
    let both = rest[metric_end..].strip_prefix(" (").and_then(|tail| {
        let inside = &tail[..tail.find(')')?];
        let known = ["°F", " in", " lb", " oz"].iter().any(|unit| inside.ends_with(unit));
        known.then(|| (format!("{inside} ({metric})"), metric_end + 2 + inside.len() + 1))
    });
    Some(both.unwrap_or_else(|| (format!("{written} ({metric})"), metric_end)))
}

fn walk(value: &mut Value) {
    match value {
        Value::String(text) if UNITS.iter().any(|unit| text.contains(unit)) => *text = customary_first(text),
        Value::Array(items) => items.iter_mut().for_each(walk),
        Value::Object(fields) => fields.values_mut().for_each(walk),
        _ => {}
    }
}

/// The plan with its sentences in the household's units; numbers stay as they are. For showing only: what is stored stays
/// metric.
pub fn plan_in_units(plan: Arc<PlanDoc>, system: Option<System>) -> Arc<PlanDoc> {
    if system != Some(System::Customary) {
        return plan;
    }
    let Ok(mut value) = serde_json::to_value(&*plan) else { return plan };
    walk(&mut value);
    serde_json::from_value(value).map_or(plan, Arc::new)
}

/// A figure with its unit in the household's units, and the same in the other system: grams stay grams everywhere.
pub fn figure_in_units(figure: &str, unit: &str, system: Option<System>) -> (String, String, String) {
    let other = super::other_system(figure, unit);
    let turned = system == Some(System::Customary) && (unit == "mm" || unit.starts_with("°C"));
    match other.rsplit_once(' ').filter(|_| turned) {
        Some((customary, scale)) => {
            let rest = unit.trim_start_matches("°C").trim_start_matches("mm");
            (customary.to_owned(), format!("{scale}{rest}"), format!("{figure} {}", unit.trim_end_matches(rest)))
        }
        None => (figure.to_owned(), unit.to_owned(), other),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    // NIST Handbook 44, App. C: 25.4 mm/in, 453.592 g/lb; °F = 1.8 × °C + 32.
    #[test]
    fn quantities_are_turned_and_words_stay() {
        for (metric, us) in [
            ("Into the heat at 175 °C", "Into the heat at 347 °F (175 °C)"),
            ("at most 4.4 °C (40 °F).", "at most 40 °F (4.4 °C)."),
            ("at least 62.8 °C (145 °F) and 3 min", "at least 145 °F (62.8 °C) and 3 min"),
            ("Stop in the fat at 8 mm.", "Stop in the fat at 0.31 in (8 mm)."),
            ("165–180 °C to the core", "329–356 °F (165–180 °C) to the core"),
            ("7.5 g/kg of 2.4 kg edible", "7.5 g/kg of 5 lb 5 oz (2.4 kg) edible"),
            ("0.3 g/dm², 24 h", "0.3 g/dm², 24 h"),
            ("climbs by 3 to 7 K", "climbs by 5 to 13 °F (3 to 7 K)"),
            ("climbs 3 to 7 °C more, to about 70 °C", "climbs 5 to 13 °F more (3 to 7 °C), to about 158 °F (70 °C)"),
            ("267 × 190 mm", "10½ × 7½ in (267 × 190 mm)"),
            ("0 mm", "0 in (0 mm)"),
            ("kgs and mm", "kgs and mm"),
        ] {
            assert_eq!(customary_first(metric), us);
        }
    }

    #[test]
    fn figures_are_turned_with_their_unit() {
        let us = |figure, unit| figure_in_units(figure, unit, Some(System::Customary));
        assert_eq!(us("64", "°C core"), ("147".into(), "°F core".into(), "64 °C".into()));
        assert_eq!(us("18.0", "g"), ("18.0".into(), "g".into(), "0.63 oz".into()));
        assert_eq!(figure_in_units("64", "°C core", None), ("64".into(), "°C core".into(), "147 °F".into()));
    }

    proptest::proptest! {
        #[test]
        fn no_text_makes_it_panic_or_lose_a_word(text in "[a-z0-9 .,–°Cmkg()×²/]{0,60}") {
            let turned = customary_first(&text);
            proptest::prop_assert!(turned.len() >= text.len());
        }
    }
}
