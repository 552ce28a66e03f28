//! Small help with sentences: numbers in words are the fields' own, rounded once and in one way.

use crate::units::{GramsPerKg, Mass, MassIn, Temperature, TemperatureIn, Time, TimeIn};

/// First letter upper case.
pub(crate) fn capital(text: &str) -> String {
    let mut chars = text.chars();
    chars.next().map_or_else(String::new, |first| first.to_uppercase().collect::<String>() + chars.as_str())
}

/// What a field on the wire shows of a value: four decimals. Words round from there, so that both round alike.
pub(crate) fn field(value: f64) -> f64 {
    (value * 1e4).round() / 1e4
}

/// A number as it was typed: to a hundredth, as far as it says anything.
pub(crate) fn plain(value: f64) -> String {
    let text = format!("{value:.2}");
    text.trim_end_matches('0').trim_end_matches('.').replace('-', "−")
}

/// Grams to a tenth.
pub(crate) fn g(mass: Mass) -> String {
    format!("{:.1}", field(mass.in_g()))
}

/// Grams of what is typed in whole ones: a tenth only where there is one.
pub(crate) fn whole_g(mass: Mass) -> String {
    g(mass).trim_end_matches(".0").to_owned()
}

/// Whole degrees Celsius.
pub(crate) fn c(at: Temperature) -> String {
    format!("{:.0}", field(at.in_c()))
}

/// Degrees Celsius that are over a limit of tenths: to the next tenth up, so that they are never said to be the limit itself.
pub(crate) fn c_over(at: Temperature) -> String {
    let tenths = (field(at.in_c()) * 10.0).ceil() / 10.0;
    if tenths.fract() == 0.0 { format!("{tenths:.0}") } else { format!("{tenths:.1}") }
}

/// Hours: whole ones without a decimal, others to a tenth.
pub(crate) fn h(time: Time) -> String {
    let hours = field(time.in_h());
    if (hours - hours.round()).abs() < 0.05 { format!("{hours:.0}") } else { format!("{hours:.1}") }
}

/// A dose to a tenth.
pub(crate) fn dose(dose: GramsPerKg) -> String {
    format!("{:.1}", field(dose.0))
}

/// A span as a cook says it: `40 min`, `3 h`, `1 h 20 min`.
pub(crate) fn span(time: Time) -> String {
    let all = field(time.in_min()).round() as i64;
    match (all / 60, all % 60) {
        (0, min) => format!("{min} min"),
        (h, 0) => format!("{h} h"),
        (h, min) => format!("{h} h {min} min"),
    }
}
