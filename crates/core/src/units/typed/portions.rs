//! The weight of a whole dish: `4 × 420 g`, `2.1 kg + 2.3 kg`, `400 g 50 mm, 350 g 38 mm`.

use super::asks::{Expect, TwoWays};
use super::lists::{asked_of_all, each_of};
use super::number::in_figures;
use super::{InputError, read_length, read_mass};
use crate::units::{Length, Mass, MassIn};

/// One portion as typed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct TypedPortion {
    /// What one such portion weighs.
    pub weight: Mass,
    /// Its own thickness, where it was said beside the weight.
    pub thickness: Option<Length>,
}

/// Most portions of one dish.
const MOST: usize = 24;

/// Reads the weight of a whole dish with nothing expected of it: one weight, `4 × 420 g`, or weights joined by `+`.
///
/// Returns one mass a portion; at most 24 portions.
///
/// ```
/// use rauchkeller_core::units::parse_portions;
/// assert_eq!(parse_portions("4 × 420 g").unwrap().len(), 4);
/// assert_eq!(parse_portions("2.1 kg + 2.3 kg").unwrap().len(), 2);
/// ```
pub fn parse_portions(typed: &str) -> Result<Vec<Mass>, InputError> {
    let read = read_portions(typed, &Expect { system: Some(super::System::Metric), low: 0.0, high: 1e6 }, &Expect::between(0.0, 2000.0))?;
    Ok(read.into_iter().map(|p| p.weight).collect())
}

/// Reads the weight of a whole dish, and the thickness of each portion where it stands beside its weight.
///
/// `weight` is what one portion may weigh, `thick` how thick one may be. At most 24 portions.
///
/// ```
/// use rauchkeller_core::units::{read_portions, Expect, LengthIn};
/// let steak = (Expect::between(100.0, 1500.0), Expect::between(10.0, 80.0));
/// let read = read_portions("400 g 50 mm, 350 g 38 mm", &steak.0, &steak.1).unwrap();
/// assert_eq!(read[1].thickness.unwrap().in_mm(), 38.0);
/// assert_eq!(read_portions("four 12 oz steaks", &steak.0, &steak.1).unwrap().len(), 4);
/// ```
pub fn read_portions(typed: &str, weight: &Expect, thick: &Expect) -> Result<Vec<TypedPortion>, InputError> {
    let text = in_figures(&typed.to_lowercase().replace('\u{a0}', " "));
    let mut portions = Vec::new();
    let parts = apart(&text);
    let asked = |error| match error {
        InputError::TwoWays(ways) if parts.len() > 1 => InputError::TwoWays(asked_of_all(typed, &parts, &ways)),
        other => other,
    };
    for part in &parts {
        let (count, each) = counted(part, typed, weight)?;
        let (mass, thickness) = weight_and_thickness(&each, weight, thick).map_err(asked)?;
        portions.extend(std::iter::repeat_n(TypedPortion { weight: mass, thickness }, count));
        if portions.len() > MOST {
            return Err(InputError::Portions(typed.trim().chars().take(40).collect()));
        }
    }
    if portions.is_empty() {
        return Err(InputError::Empty(super::Kind::Mass));
    }
    Ok(portions)
}

/// Parts joined by `+`, `;`, or a comma or “and” where a new weight begins.
fn apart(text: &str) -> Vec<String> {
    // “400, 350 and 300 g”, “400 + 350”: nothing but figures, and one unit of weight or none.
    let list = each_of(text);
    let unit = |part: &String| units(part).map(str::to_owned).collect::<Vec<_>>();
    let of_one = |first: &[String]| first.is_empty() || first.len() == 1 && super::mass_unit(&first[0]).is_some();
    let plain =
        |part: &String| part.starts_with(|c: char| c.is_ascii_digit()) && !part.contains(['×', '*']) && unit(part) == unit(&list[0]);
    if list.len() > 1 && of_one(&unit(&list[0])) && list.iter().all(plain) {
        return list;
    }
    let mut parts: Vec<String> = Vec::new();
    for piece in text.split(['+', ';']) {
        let mut current = String::new();
        for bit in piece.replace(" and ", ", ").split(", ") {
            let fresh = weighs(bit) && weighs(&current) && !ounces_after_pounds(&current, bit);
            if fresh {
                parts.push(std::mem::take(&mut current));
            }
            if !current.is_empty() {
                current.push_str(", ");
            }
            current.push_str(bit);
        }
        parts.push(current);
    }
    parts
}

fn units(text: &str) -> impl Iterator<Item = &str> {
    text.split(|c: char| !c.is_alphabetic() && c != '#').filter(|word| !word.is_empty())
}

/// Whether a unit of weight stands in it.
fn weighs(text: &str) -> bool {
    units(text).any(|word| super::mass_unit(word).is_some())
}

/// `5 lb, 4 oz` is one weight.
fn ounces_after_pounds(before: &str, bit: &str) -> bool {
    let last = units(before).last().and_then(super::mass_unit).map(|(_, unit)| unit);
    let next = units(bit).next().and_then(super::mass_unit).map(|(_, unit)| unit);
    last == Some("lb") && next == Some("oz") && units(bit).count() == 1
        || last == Some("kg") && next == Some("g") && units(bit).count() == 1
}

/// How many, and of what: `4 × 420 g`, `4 at 420 g`, `4 steaks of 420 g`, `2 ducks, 2.1 kg each`, `four 12 oz steaks`.
fn counted(part: &str, typed: &str, expect: &Expect) -> Result<(usize, String), InputError> {
    let part = part.trim();
    let wrong = || InputError::Portions(part.chars().take(40).collect());
    let count = |text: &str| -> Result<usize, InputError> { figure(text).filter(|n| (1..=MOST).contains(n)).ok_or_else(wrong) };
    if let Some((number, rest)) = part.split_once(['×', '*']).or_else(|| part.split_once(" x ")).or_else(|| glued(part)) {
        return Ok((count(number)?, of_each(rest)));
    }
    let words: Vec<&str> = part.split_whitespace().collect();
    let Some(number) = words.first().and_then(|w| figure(w)).filter(|_| words.len() > 1) else {
        return Ok((1, of_each(part)));
    };
    let second_figure = words[1].chars().next().is_some_and(|c| c.is_ascii_digit() || super::number::vulgar(c).is_some());
    let noun =
        !second_figure && super::mass_unit(words[1].trim_end_matches(['.', ','])).is_none() && !words[1].starts_with(['/', '½', '¼', '¾']);
    // “four 12 oz steaks”: a number, then a weight with its unit; “2 1/2 lb” and “5 4” are no such thing.
    let mut tail = words[1..].to_vec();
    if second_figure && !words[1].contains('/') && words[1].chars().all(|c| super::number::vulgar(c).is_none()) {
        let ends_in_noun = tail.last().is_some_and(|w| w.chars().all(char::is_alphabetic) && super::mass_unit(w).is_none());
        if ends_in_noun && weighs(&tail.join(" ")) {
            tail.pop();
            return Ok((count(words[0])?, tail.join(" ")));
        }
    }
    if !noun {
        return Ok((1, of_each(part)));
    }
    // “4 steaks of 420 g”, “2 ducks, 2.1 kg each”, and “4 steaks, 1.6 kg”, which does not say of what.
    let rest = tail.iter().position(|w| w.chars().next().is_some_and(|c| c.is_ascii_digit() || super::number::vulgar(c).is_some()));
    let Some(begins) = rest else { return Ok((1, of_each(part))) };
    let between = &tail[..begins];
    let weight = tail[begins..].join(" ");
    let n = count(words[0])?;
    let each =
        between.iter().any(|w| matches!(*w, "of" | "at" | "à" | "each" | "@")) || weight.ends_with(" each") || weight.ends_with(" apiece");
    let all = between.iter().any(|w| matches!(*w, "weighing" | "together" | "total"))
        || [" together", " in all", " in total", " total", " altogether"].iter().any(|w| weight.ends_with(w));
    let weight = of_each(&weight);
    let together = || -> Result<(usize, String), InputError> {
        let sum = read_mass(weight.trim_end_matches(" together").trim_end_matches(" total"), &Expect::between(0.0, 1e6))?;
        Ok((n, format!("{} g", super::figure(sum.in_g() / number as f64))))
    };
    if each {
        return Ok((n, weight));
    }
    if all {
        return together();
    }
    let single = read_mass(&weight, expect)?;
    let share = single.in_g() / number as f64;
    match (expect.holds(single.in_g()), expect.holds(share)) {
        (false, true) => together(),
        (true, true) => {
            let written = |g: f64| {
                if g >= 1000.0 {
                    format!("{} kg", super::figure((g / 10.0).round() / 100.0))
                } else {
                    format!("{} g", super::figure(g.round()))
                }
            };
            Err(InputError::TwoWays(TwoWays::new(typed, format!("{n} × {}", written(single.in_g())), format!("{n} × {}", written(share)))))
        }
        _ => Ok((n, weight)),
    }
}

/// `4x350g`.
fn glued(part: &str) -> Option<(&str, &str)> {
    let (number, rest) = part.split_once('x')?;
    (figure(number).is_some() && rest.trim_start().starts_with(|c: char| c.is_ascii_digit())).then_some((number, rest))
}

fn figure(text: &str) -> Option<usize> {
    const FEW: [&str; 13] = ["", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"];
    let text = text.trim();
    text.parse().ok().or_else(|| FEW.iter().position(|w| !w.is_empty() && *w == text))
}

fn of_each(text: &str) -> String {
    let text = text.trim().trim_end_matches([',', '.']);
    [" each", " apiece", " a piece", " per piece"].iter().find_map(|word| text.strip_suffix(word)).unwrap_or(text).trim().to_owned()
}

/// `400 g 50 mm`, `400 g, 50 mm thick`, `400 g at 50 mm`, `14 oz 1½ in`.
fn weight_and_thickness(text: &str, weight: &Expect, thick: &Expect) -> Result<(Mass, Option<Length>), InputError> {
    let text = text.replace(" at ", " ").replace(" of ", " ");
    let words: Vec<&str> = text.split_whitespace().collect();
    // The last unit of weight ends the weight.
    let ends = words.iter().rposition(|w| units(w).last().is_some_and(|unit| super::mass_unit(unit).is_some()));
    let Some(ends) = ends.filter(|end| end + 1 < words.len()) else {
        return Ok((read_mass(&text, weight)?, None));
    };
    let mut tail = words[ends + 1..].join(" ");
    // A bare number after pounds is ounces, not a thickness.
    let inches = |t: &str| t.contains(['"', '″', '”']) || units(t).any(|unit| super::length_unit(unit).is_some());
    if !inches(&tail) {
        return Ok((read_mass(&text, weight)?, None));
    }
    let mut head = words[..=ends].join(" ");
    // “2 lb 3, 40 mm”: what stands before the thickness and has no unit belongs to the weight.
    if let Some((ounces, rest)) = tail.split_once(", ").map(|(a, b)| (a.to_owned(), b.to_owned()))
        && !inches(&ounces)
    {
        head = format!("{head} {ounces}");
        tail = rest;
    }
    let head = head.trim_end_matches(',').to_owned();
    Ok((read_mass(&head, weight)?, Some(read_length(tail.trim_start_matches(',').trim(), thick)?)))
}
