//! Spans as cooks say them: `3 h`, `90 min`, `1 h 30`, `1:30`, `half an hour`, `2 days`.

use crate::units::{Time, in_figures, minutes};

/// Reads a span above 0 and up to a week; a bare number is hours.
///
/// ```
/// use rauchkeller_core::{clock::read_span, units::TimeIn};
/// assert_eq!(read_span("1 h 30").unwrap().in_min(), 90.0);
/// assert!(read_span("a while").is_none());
/// ```
pub fn read_span(typed: &str) -> Option<Time> {
    if typed.chars().count() > 40 {
        return None;
    }
    let text = in_figures(&typed.trim().to_lowercase()).replace(',', ".").replace(" and ", " ");
    let text = vulgar_apart(&text);
    let sum = match text.split_once(':') {
        Some((h, min)) => {
            let (h, min): (u32, u32) = (h.trim().parse().ok()?, min.trim().parse().ok().filter(|min| *min < 60)?);
            f64::from(h) * 60.0 + f64::from(min)
        }
        None => worded(&text)?,
    };
    (sum > 0.0 && sum <= 7.0 * 24.0 * 60.0).then(|| minutes(sum))
}

/// `1½ h` as `1 1/2 h`.
fn vulgar_apart(text: &str) -> String {
    let text =
        ["½", "¼", "¾"].iter().zip(["1/2", "1/4", "3/4"]).fold(text.to_owned(), |t, (one, long)| t.replace(one, &format!(" {long}")));
    text.trim().to_owned()
}

/// Numbers with their units, in minutes; the bare number after hours is minutes.
fn worded(text: &str) -> Option<f64> {
    let (mut sum, mut after_hours, mut any) = (0.0, false, false);
    let mut rest = text.trim();
    while !rest.is_empty() {
        let end = rest.find(|c: char| !(c.is_ascii_digit() || c == '.')).unwrap_or(rest.len());
        let mut number: f64 = rest[..end].parse().ok()?;
        rest = rest[end..].trim_start();
        // “1 1/2 h”
        if let Some((share, tail)) = [("1/2", 0.5), ("1/4", 0.25), ("3/4", 0.75)].iter().find_map(|(t, x)| Some((x, rest.strip_prefix(t)?)))
        {
            number += share;
            rest = tail.trim_start();
        } else if let Some(tail) = rest.strip_prefix('/') {
            let end = tail.find(|c: char| !c.is_ascii_digit()).unwrap_or(tail.len());
            number /= tail[..end].parse::<f64>().ok().filter(|n| *n > 0.0)?;
            rest = tail[end..].trim_start();
        }
        let end = rest.find(|c: char| !c.is_alphabetic()).unwrap_or(rest.len());
        let each = match &rest[..end] {
            "h" | "hr" | "hrs" | "hour" | "hours" | "std" => 60.0,
            "min" | "mins" | "minute" | "minutes" | "m" => 1.0,
            "d" | "day" | "days" => 24.0 * 60.0,
            "" if after_hours => 1.0,
            "" if !any => 60.0,
            _ => return None,
        };
        (after_hours, any) = (each > 1.0, true);
        sum += number * each;
        rest = rest[end..].trim_start();
    }
    any.then_some(sum)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::TimeIn;

    #[test]
    fn as_cooks_say_it() {
        for (typed, min) in [
            ("3 h", 180.0),
            ("90 min", 90.0),
            ("1 h 30 min", 90.0),
            ("1h30", 90.0),
            ("1:30", 90.0),
            ("3", 180.0),
            ("2,5 hours", 150.0),
            ("1½ h", 90.0),
            ("half an hour", 30.0),
            ("an hour and a half", 90.0),
            ("2 days", 2880.0),
            ("a day", 1440.0),
        ] {
            assert_eq!(read_span(typed).map(TimeIn::in_min), Some(min), "{typed}");
        }
        for typed in ["", "a while", "0", "-3 h", "200 h", "1:75", "3 h 4 h x", "3 stone", "1.2.3 h", "9e99 h"] {
            assert_eq!(read_span(typed), None, "{typed}");
        }
    }
}
