//! Sentences in a household's units: the program writes metric; for a kitchen of pounds and inches every weight, length and
//! temperature stands there in its own units first, with the metric beside it.

use rauchkeller_core::units::{System, both_length, both_mass, fahrenheit_difference, grams, millimetres};

/// The units that are rewritten. Grams stay: salt is weighed in them.
const UNITS: [&str; 6] = ["°C", "min/kg", "mm", "cm", "kg", "K"];

/// What a figure with its unit stands for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Kind {
    /// A point of the scale.
    Temperature,
    /// So many degrees from one point to another.
    Difference,
    Length,
    Mass,
    /// Minutes for each kilogram or pound.
    Rate,
}

impl Kind {
    /// By its unit and the words round it; plans of an earlier version wrote a difference in K.
    fn of(unit: &str, before: &str, after: &str) -> Self {
        let from_to =
            || BEFORE_A_DIFFERENCE.iter().any(|words| before.ends_with(words)) || AFTER.iter().any(|word| after.starts_with(word));
        match unit {
            "K" => Self::Difference,
            "°C" if from_to() => Self::Difference,
            "°C" => Self::Temperature,
            "min/kg" => Self::Rate,
            "mm" | "cm" => Self::Length,
            _ => Self::Mass,
        }
    }

    fn customary(self, value: f64, unit: &str) -> String {
        match self {
            Self::Temperature => format!("{} °F", super::fahrenheit(value)),
            Self::Difference => format!("{:.0} °F", fahrenheit_difference(value)),
            Self::Length => both_length(millimetres(if unit == "cm" { value * 10.0 } else { value })).customary,
            Self::Rate => format!("{:.0} min/lb", value * 0.453_592_37),
            Self::Mass => both_mass(grams(value * 1000.0)).customary,
        }
    }
}

/// Words that stand before a difference, and behind one.
const BEFORE_A_DIFFERENCE: [&str; 4] = ["the last ", "off by ", "climbs ", "climbs by "];
const AFTER: [&str; 6] = [" more", " less", " above it", " below it", " an hour", " apart"];

/// A number as it stands in a text: its value, and where it ends.
fn number_at(text: &str) -> Option<(f64, usize)> {
    let end = text.find(|c: char| !(c.is_ascii_digit() || matches!(c, '.' | ','))).unwrap_or(text.len());
    // Thousands in groups: “7,830 mm”. Any other comma ends the figure.
    let group = |at: usize| text.get(at + 1..at + 4).is_some_and(|group| group.bytes().all(|b| b.is_ascii_digit()));
    let comma = text[..end].char_indices().find(|(at, c)| *c == ',' && !group(*at)).map_or(end, |(at, _)| at);
    let figure = text[..comma].trim_end_matches('.');
    Some((figure.replace(',', "").parse().ok()?, figure.len()))
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

/// A text with its weights, lengths and temperatures in pounds, inches and °F first, the metric behind them in brackets.
pub fn customary_first(text: &str) -> String {
    rewritten(text, true)
}

/// The same without the metric, where there is no room for both.
pub fn customary_alone(text: &str) -> String {
    rewritten(text, false)
}

fn rewritten(text: &str, both: bool) -> String {
    let mut out = String::with_capacity(text.len() + 24);
    let mut at = 0;
    while at < text.len() {
        let rest = &text[at..];
        let before = text[..at].chars().next_back();
        let fresh = before.is_none_or(|c| !(c.is_alphanumeric() || matches!(c, '.' | '/' | ',')));
        let found = if fresh && rest.starts_with(|c: char| c.is_ascii_digit()) && !is_quoted(&text[..at]) {
            quantity(&text[..at], rest, both)
        } else {
            None
        };
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

/// Whether what comes stands in quotation marks: it is typed so, or was.
pub(super) fn is_quoted(before: &str) -> bool {
    before.rfind('“').is_some_and(|open| !before[open..].contains('”'))
}

/// One quantity or range, rewritten, and how much of the text it took; what already stands in both systems is turned round.
fn quantity(before: &str, rest: &str, both: bool) -> Option<(String, usize)> {
    let (value, mut end) = number_at(rest)?;
    let second = second_at(&rest[end..]).filter(|(_, _, more)| unit_at(&rest[end + more..]).is_some());
    end += second.map_or(0, |(.., more)| more);
    let (unit, unit_end) = unit_at(&rest[end..])?;
    let metric_end = end + unit_end;
    let metric = &rest[..metric_end];
    if is_the_other_of(before) {
        return Some((metric.to_owned(), metric_end));
    }
    let kind = Kind::of(unit, before, &rest[metric_end..]);
    let written = match second {
        Some((joint, other, _)) => {
            let first = kind.customary(value, unit);
            let figure = first.rsplit_once(' ').filter(|_| kind != Kind::Mass).map_or(first.as_str(), |(figure, _)| figure);
            format!("{figure}{joint}{}", kind.customary(other, unit))
        }
        None => kind.customary(value, unit),
    };
    // “74 °C (165 °F)” stands in both already.
    let known = rest[metric_end..].strip_prefix(" (").and_then(|tail| {
        let inside = &tail[..tail.find(')')?];
        let known = CUSTOMARY.iter().any(|unit| inside.ends_with(unit));
        known.then(|| (inside.to_owned(), metric_end + 2 + inside.len() + 1))
    });
    let (written, taken) = known.unwrap_or((written, metric_end));
    Some((if both { format!("{written} ({metric})") } else { written }, taken))
}

/// How a quantity in the other system ends.
const CUSTOMARY: [&str; 5] = ["°F", " in", " lb", "/lb", " oz"];

/// Whether what comes stands in brackets behind the same in the other system: “145 °F (63 °C)”.
fn is_the_other_of(before: &str) -> bool {
    let inside = before.strip_suffix('(').map(str::trim_end);
    inside.is_some_and(|own| CUSTOMARY.iter().any(|unit| own.ends_with(unit)) || own.ends_with(" more") && own.contains("°F"))
}

/// A figure with its unit in the household's units, and the same in the other system: grams stay grams everywhere.
pub fn figure_in_units(figure: &str, unit: &str, system: Option<System>) -> (String, String, String) {
    let other = super::other_system(figure, unit);
    let turned = system == Some(System::Customary) && (unit.starts_with("mm") || unit.starts_with("°C"));
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
            ("7,830 mm of cut, 2, 3 and 24,5 kg", "308¼ in (7,830 mm) of cut, 2, 3 and 24,5 kg"),
            ("44–55 min/kg (20–25 min/lb) at 163 °C", "20–25 min/lb (44–55 min/kg) at 325 °F (163 °C)"),
            ("4.5 °C, 62.8 °C", "40.1 °F (4.5 °C), 145 °F (62.8 °C)"),
            // Typed in round °F, shown in them: 350, 130 and 165 °F are 176.7, 54.4 and 73.9 °C.
            ("177 °C until 54 °C or 74 °C", "350 °F (177 °C) until 130 °F (54 °C) or 165 °F (74 °C)"),
            ("at most 4 °C; 55 °C", "at most 39 °F (4 °C); 131 °F (55 °C)"),
            ("60 min/kg covered", "27 min/lb (60 min/kg) covered"),
            ("a 3 cm strip", "a 1⅛ in (3 cm) strip"),
            ("Into the heat at 175 °C", "Into the heat at 347 °F (175 °C)"),
            ("at most 4.4 °C (40 °F).", "at most 40 °F (4.4 °C)."),
            ("at least 62.8 °C (145 °F) and 3 min", "at least 145 °F (62.8 °C) and 3 min"),
            ("Stop in the fat at 8 mm.", "Stop in the fat at 0.31 in (8 mm)."),
            ("165–180 °C to the core", "329–356 °F (165–180 °C) to the core"),
            ("7.5 g/kg of 2.4 kg edible", "7.5 g/kg of 5 lb 5 oz (2.4 kg) edible"),
            ("0.3 g/dm², 24 h", "0.3 g/dm², 24 h"),
            ("climbs by 3 to 7 K", "climbs by 5 to 13 °F (3 to 7 K)"),
            ("climbs 3 to 7 °C more, to about 70 °C", "climbs 5 to 13 °F (3 to 7 °C) more, to about 158 °F (70 °C)"),
            // Nine to fourteen degrees, and no point of the scale.
            ("In the last 5 to 8 °C, from the half", "In the last 9 to 14 °F (5 to 8 °C), from the half"),
            ("dials are off by 10 to 30 °C. Set", "dials are off by 18 to 54 °F (10 to 30 °C). Set"),
            ("4 °C less than its finish", "7 °F (4 °C) less than its finish"),
            ("from 145 °F (63 °C) on", "from 145 °F (63 °C) on"),
            ("10½ × 7½ in (267 × 190 mm)", "10½ × 7½ in (267 × 190 mm)"),
            ("267 × 190 mm", "10½ × 7½ in (267 × 190 mm)"),
            ("0 mm", "0 in (0 mm)"),
            ("kgs and mm", "kgs and mm"),
            ("“72 kg” is more than 45 kg; write “12 kg”.", "“72 kg” is more than 99 lb 3 oz (45 kg); write “12 kg”."),
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
