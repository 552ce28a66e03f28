//! Several at once: `30 + 42 mm`, `1, 1½ and 2 in`.

use super::asks::{Expect, TwoWays};
use super::number::vulgar;
use super::{InputError, read_length};
use crate::units::Length;

/// The parts of a list, each with its unit: one said once at the end counts for all. What is no list is one part.
///
/// ```
/// use rauchkeller_core::units::each_of;
/// assert_eq!(each_of("1, 1.5 and 2 in"), ["1 in", "1.5 in", "2 in"]);
/// assert_eq!(each_of("1 and 1/2 in"), ["1 1/2 in"], "one and a half");
/// ```
pub fn each_of(typed: &str) -> Vec<String> {
    let parts = parts(typed);
    if let ([whole], Some((figure, rest))) = (parts.as_slice(), typed.trim().split_once(" and "))
        && is_figure(figure)
        && is_fraction(rest)
    {
        return vec![whole.replacen(" and ", " ", 1)];
    }
    let unit = parts.last().map_or("", |last| unit_of(last));
    parts
        .iter()
        .map(|part| if part.chars().any(is_of_a_unit) { (*part).to_owned() } else { format!("{part} {unit}").trim().to_owned() })
        .collect()
}

fn is_of_a_unit(c: char) -> bool {
    c.is_alphabetic() || matches!(c, '"' | '″' | '”' | '%')
}

/// What stands behind the figure.
fn unit_of(part: &str) -> &str {
    part.find(is_of_a_unit).map_or("", |at| part[at..].trim())
}

fn is_figure(part: &str) -> bool {
    part.starts_with(|c: char| c.is_ascii_digit() || vulgar(c).is_some())
}

/// “1 and ½” is one figure.
fn is_fraction(part: &str) -> bool {
    part.starts_with(|c| vulgar(c).is_some()) || part.split(' ').next().is_some_and(|number| number.contains('/'))
}

/// A list is joined by `+` or `;`, or by commas and “and” where every part is a figure.
fn parts(typed: &str) -> Vec<&str> {
    if typed.contains(['+', ';']) {
        return typed.split(['+', ';']).map(str::trim).collect();
    }
    let parts: Vec<&str> = typed.split(", ").flat_map(|part| part.split(" and ")).map(str::trim).collect();
    // One unit at the end, or the same at each: “5 lb, 4 oz” is one weight.
    let last = parts.last().map_or("", |last| unit_of(last));
    let own = |part: &&str| !unit_of(part).is_empty();
    let one_unit = !parts[..parts.len() - 1].iter().any(own) || parts.iter().all(|part| unit_of(part) == last);
    let list = parts.len() > 1 && parts.iter().all(|part| is_figure(part)) && !parts[1..].iter().any(|part| is_fraction(part)) && one_unit;
    if list { parts } else { vec![typed.trim()] }
}

/// Both readings of one part, with the same unit at all that have none.
pub(super) fn asked_of_all(typed: &str, parts: &[String], ways: &TwoWays) -> TwoWays {
    let with = |way: &str| {
        let unit: String = way.chars().skip_while(|c| !is_of_a_unit(*c)).collect();
        let each = |part: &String| if part.chars().any(is_of_a_unit) { part.trim().to_owned() } else { format!("{} {unit}", part.trim()) };
        parts.iter().map(each).collect::<Vec<_>>().join(" + ")
    };
    TwoWays::new(typed, with(&ways.first), with(&ways.second))
}

/// Reads one length or a list of them, as [`read_length`] reads each; what is asked about one is asked about all.
pub fn read_lengths(typed: &str, expect: &Expect) -> Result<Vec<Length>, InputError> {
    let parts = each_of(typed);
    let read = parts.iter().map(|part| read_length(part, expect)).collect::<Result<Vec<_>, _>>();
    read.map_err(|error| match error {
        InputError::TwoWays(ways) if parts.len() > 1 => InputError::TwoWays(asked_of_all(typed, &parts, &ways)),
        other => other,
    })
}
