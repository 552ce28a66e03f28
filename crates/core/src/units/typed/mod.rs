//! Kitchen input as cooks type it: `2.4 kg`, `5 lb 4 oz`, `2 lb 3`, `two pounds`, `1½ in`, `375 F`, `gas 4`.
//!
//! What can be meant in two ways is not guessed: [`InputError::TwoWays`] names both.

mod amount;
mod asks;
mod lists;
mod number;
mod portions;
mod terms;

pub use amount::leading_amount;
pub use asks::{Expect, System, TwoWays};
pub use lists::{each_of, read_lengths};
pub(crate) use number::in_figures;
pub use portions::{TypedPortion, parse_portions, read_portions};

use super::quantity::{Length, LengthIn, Mass, Temperature, TemperatureIn, celsius, fahrenheit, grams, millimetres};
use terms::{Term, Way, choose, range, terms};

/// What was being read; rules the words of an error.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Kind {
    /// A weight.
    Mass,
    /// A thickness or a length.
    Length,
    /// An oven, refrigerator or core temperature.
    Temperature,
}

impl Kind {
    fn noun(self) -> &'static str {
        match self {
            Self::Mass => "weight",
            Self::Length => "length",
            Self::Temperature => "temperature",
        }
    }

    /// How to write it, for the second half of an error sentence.
    pub fn examples(self) -> &'static str {
        match self {
            Self::Mass => "2.4 kg, 850 g, 5 lb 4 oz",
            Self::Length => "45 mm, 4.5 cm, 1½ in",
            Self::Temperature => "175 C, 350 F, gas 4",
        }
    }
}

/// Why a typed quantity could not be read. Each sentence says what was typed and what to type.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum InputError {
    /// Nothing but blanks.
    #[error("nothing is typed; write a {} like {}", .0.noun(), .0.examples())]
    Empty(Kind),
    /// No number at the place where one should be.
    #[error("“{typed}” has no number where one is expected; write a {} like {}", .kind.noun(), .kind.examples())]
    NoNumber {
        /// What the cook typed.
        typed: String,
        /// What was being read.
        kind: Kind,
    },
    /// Words after what could be read.
    #[error("“{rest}” cannot be read after the number and its unit; write only the {}, like {}", .kind.noun(), .kind.examples())]
    Trailing {
        /// The words too many.
        rest: String,
        /// What was being read.
        kind: Kind,
    },
    /// A unit that is not of this kind.
    #[error("“{unit}” is not a unit of {}; write it like {}", .kind.noun(), .kind.examples())]
    UnknownUnit {
        /// The word after the number.
        unit: String,
        /// What was being read.
        kind: Kind,
    },
    /// Zero, negative or beyond any kitchen.
    #[error("“{typed}” is not a sensible {}; between {low} and {high} is allowed", .kind.noun())]
    OutOfRange {
        /// What the cook typed.
        typed: String,
        /// What was being read.
        kind: Kind,
        /// The smallest value allowed, as text.
        low: &'static str,
        /// The largest value allowed, as text.
        high: &'static str,
    },
    /// More portions than a kitchen takes at once.
    #[error("“{0}” is not a sensible number of portions; between 1 and 24 are allowed")]
    Portions(String),
    /// Two readings.
    #[error("{0}")]
    TwoWays(TwoWays),
}

impl InputError {
    /// Both readings, where there are two.
    pub fn choices(&self) -> Vec<String> {
        if let Self::TwoWays(ways) = self { ways.choices() } else { vec![] }
    }
}

const POUND: f64 = 453.59237;
const OUNCE: f64 = 28.349_523_125;

/// Grams in a unit of weight as cooks write it, singular or plural: `g`, `kg`, `oz`, `lb`; `None` for what is no weight.
///
/// ```
/// use rauchkeller_core::units::grams_a_unit;
/// // NIST Handbook 44, Appendix C.
/// assert_eq!((grams_a_unit("pounds"), grams_a_unit("kg"), grams_a_unit("tbsp")), (Some(453.592_37), Some(1000.0), None));
/// ```
pub fn grams_a_unit(unit: &str) -> Option<f64> {
    mass_unit(unit).map(|(grams, _)| grams)
}

/// Grams of a unit of weight, and how it is written.
fn mass_unit(unit: &str) -> Option<(f64, &'static str)> {
    Some(match unit {
        "g" | "gr" | "gram" | "grams" | "gramm" | "gms" => (1.0, "g"),
        "kg" | "kgs" | "kilo" | "kilos" | "kilogram" | "kilograms" => (1000.0, "kg"),
        "lb" | "lbs" | "pound" | "pounds" | "#" => (POUND, "lb"),
        "oz" | "ozs" | "ounce" | "ounces" => (OUNCE, "oz"),
        _ => return None,
    })
}

/// Reads a weight: terms of number and unit, added up. A bare number is kilograms up to 30, grams above.
///
/// Valid range 1 g to 100 kg.
///
/// ```
/// use rauchkeller_core::units::{parse_mass, MassIn};
/// assert!((parse_mass("5 lb 4 oz").unwrap().in_g() - 2381.36).abs() < 0.01); // 5.25 × 453.592 g
/// ```
pub fn parse_mass(typed: &str) -> Result<Mass, InputError> {
    let bare = typed.trim().replace(',', ".").parse::<f64>().ok();
    if let Some(number) = bare.filter(|_| typed.trim().len() < 6) {
        return read_mass(&format!("{number} {}", if number <= 30.0 { "kg" } else { "g" }), &Expect::between(1.0, 100_000.0));
    }
    read_mass(typed, &Expect::between(1.0, 100_000.0))
}

/// Reads a weight of which is known about how much it may be, grams.
///
/// A bare number takes the unit that makes sense; a bare number after pounds is ounces, three digits after kilograms are
/// grams; where two units make sense both are offered. Valid range 1 g to 100 kg.
///
/// ```
/// use rauchkeller_core::units::{read_mass, Expect, MassIn, System};
/// let turkey = Expect::between(2_000.0, 15_000.0);
/// assert!(read_mass("12", &turkey).is_err(), "12 kg or 12 lb");
/// assert_eq!(read_mass("12", &turkey.by(Some(System::Metric))).unwrap().in_g(), 12_000.0);
/// ```
pub fn read_mass(typed: &str, expect: &Expect) -> Result<Mass, InputError> {
    let kind = Kind::Mass;
    if let Some(two) = range(typed) {
        return Err(InputError::TwoWays(two));
    }
    let found = terms(typed, kind)?;
    let ways = mass_ways(&found, expect)?;
    choose(typed, kind, ways, expect, (1.0, 100_000.0, "1 g", "100 kg")).map(grams)
}

fn mass_ways(found: &[Term], expect: &Expect) -> Result<Vec<Way>, InputError> {
    let kind = Kind::Mass;
    let mut sums = vec![Way { value: 0.0, words: String::new() }];
    let mut before: Option<&str> = None;
    for (i, term) in found.iter().enumerate() {
        let known = mass_unit(&term.unit);
        if known.is_none() && !term.unit.is_empty() {
            return Err(InputError::UnknownUnit { unit: term.unit.clone(), kind });
        }
        let own: Vec<Way> = match (known, before) {
            (Some((each, unit)), _) => numbers(term, each, unit),
            // Alone: whatever makes sense.
            (None, None) if found.len() == 1 => {
                let metric = [(1000.0, "kg"), (1.0, "g")];
                let customary = [(POUND, "lb"), (OUNCE, "oz")];
                let of = |units: &[(f64, &str)]| -> Vec<Way> { units.iter().flat_map(|(each, unit)| numbers(term, *each, unit)).collect() };
                match expect.system {
                    Some(System::Metric) => alone(of(&metric), &of(&customary), expect),
                    Some(System::Customary) => alone(of(&customary), &of(&metric), expect),
                    None => of(&[metric[0], customary[0], metric[1], customary[1]]),
                }
            }
            (None, Some("lb")) => {
                let ounces = numbers(term, OUNCE, "oz");
                let usual = term.number.ways[0] < 16.0 && !term.number.digits.starts_with('0');
                if usual { ounces } else { behind_a_point(&found[i - 1], term, POUND, "lb").into_iter().chain(ounces).collect() }
            }
            (None, Some("kg")) => {
                let whole_grams = numbers(term, 1.0, "g");
                let three = term.number.whole && term.number.digits.len() == 3;
                if three { whole_grams } else { behind_a_point(&found[i - 1], term, 1000.0, "kg").into_iter().chain(whole_grams).collect() }
            }
            (None, _) => {
                return Err(InputError::Trailing { rest: term.number.digits.clone(), kind });
            }
        };
        sums = sums
            .iter()
            .flat_map(|sum| {
                own.iter().map(move |way| Way {
                    value: sum.value + way.value,
                    // A point replaces what stands before it.
                    words: if way.words.starts_with('=') {
                        way.words[1..].to_owned()
                    } else {
                        format!("{} {}", sum.words, way.words).trim().to_owned()
                    },
                })
            })
            .take(16)
            .collect();
        before = known.map(|(_, unit)| unit).or(Some("done"));
    }
    Ok(sums)
}

/// A bare number in the household's own units; in the others only where it makes no sense in them.
///
/// What is likely and not certain is asked about: the usual unit that misses what makes sense by little, like “20” of a belly that is
/// 20 oz but hardly 20 lb; and the other system's unit, unless all of the household's own are absurd.
fn alone(own: Vec<Way>, other: &[Way], expect: &Expect) -> Vec<Way> {
    let sensible = |ways: &[Way]| ways.iter().filter(|way| expect.holds(way.value)).cloned().collect::<Vec<_>>();
    let (ours, theirs) = (sensible(&own), sensible(other));
    // How many times too much or too little.
    let misses = |way: &Way| (way.value / expect.high).max(expect.low / way.value.max(1e-9));
    let asked = |way: &Way| Way { value: expect.high, words: way.words.clone() };
    let nearest = own.iter().min_by(|a, b| misses(a).total_cmp(&misses(b)));
    match (ours.as_slice(), own.first(), nearest) {
        ([one], Some(usual), _) if usual.value > expect.high && misses(usual) < NEARLY => vec![asked(usual), one.clone()],
        ([], _, Some(nearest)) if !theirs.is_empty() && misses(nearest) < ABSURD => vec![theirs[0].clone(), asked(nearest)],
        ([], ..) if !theirs.is_empty() => theirs,
        _ => own,
    }
}

/// So many times too much may still be meant, and so many times never is (our estimates).
const NEARLY: f64 = 2.0;
const ABSURD: f64 = 10.0;

/// `5 lb 4` as 5.4 lb: what the digits add, written whole.
fn behind_a_point(before: &Term, term: &Term, each: f64, unit: &str) -> Option<Way> {
    (before.number.whole && term.number.whole && !term.number.digits.is_empty()).then(|| {
        let part: f64 = format!("0.{}", term.number.digits).parse().unwrap_or_default();
        Way { value: part * each, words: format!("={}.{} {unit}", before.number.digits, term.number.digits) }
    })
}

/// Every reading of a term's number in one unit.
fn numbers(term: &Term, each: f64, unit: &str) -> Vec<Way> {
    term.number.ways.iter().map(|n| Way { value: n * each, words: format!("{} {unit}", figure(*n)) }).collect()
}

fn figure(value: f64) -> String {
    let text = format!("{value:.4}");
    text.trim_end_matches('0').trim_end_matches('.').to_owned()
}

fn length_unit(unit: &str) -> Option<(f64, &'static str)> {
    Some(match unit {
        "mm" | "millimetre" | "millimeter" | "millimetres" | "millimeters" => (1.0, "mm"),
        "cm" | "centimetre" | "centimeter" | "centimetres" | "centimeters" => (10.0, "cm"),
        "m" | "metre" | "meter" | "metres" | "meters" => (1000.0, "m"),
        "in" | "inch" | "inches" | "\"" | "″" | "”" | "''" | "zoll" => (25.4, "in"),
        "ft" | "foot" | "feet" | "'" | "′" => (304.8, "ft"),
        _ => return None,
    })
}

/// Reads a length: terms of number and unit, added up. A bare number is millimetres.
///
/// Valid range 0 to 2 m; zero is allowed (no fat is a measure too).
pub fn parse_length(typed: &str) -> Result<Length, InputError> {
    let bare = typed.trim().replace(',', ".").parse::<f64>().is_ok();
    read_length(&if bare { format!("{} mm", typed.trim()) } else { typed.to_owned() }, &Expect::between(0.0, 2000.0))
}

/// Reads a length of which is known about how much it may be, mm.
///
/// A bare number takes the unit that makes sense; where two do, both are offered. Valid range 0 to 2 m.
///
/// ```
/// use rauchkeller_core::units::{read_length, Expect, LengthIn};
/// let thick = Expect::between(10.0, 200.0);
/// assert_eq!(read_length("45", &thick).unwrap().in_mm(), 45.0);
/// assert!(read_length("2", &thick).is_err(), "2 cm or 2 in");
/// ```
pub fn read_length(typed: &str, expect: &Expect) -> Result<Length, InputError> {
    let kind = Kind::Length;
    if let Some(two) = range(typed) {
        return Err(InputError::TwoWays(two));
    }
    let found = terms(typed, kind)?;
    let mut sums = vec![Way { value: 0.0, words: String::new() }];
    let mut before = None;
    for term in &found {
        let known = length_unit(&term.unit);
        if known.is_none() && !term.unit.is_empty() {
            return Err(InputError::UnknownUnit { unit: term.unit.clone(), kind });
        }
        let own: Vec<Way> = match (known, before) {
            (Some((each, unit)), _) => numbers(term, each, unit),
            (None, None) if found.len() == 1 => {
                let fraction = !term.number.whole && term.number.digits.is_empty();
                let of = |units: &[(f64, &str)]| -> Vec<Way> { units.iter().flat_map(|(each, unit)| numbers(term, *each, unit)).collect() };
                let all = match expect.system {
                    // Nobody writes a vulgar fraction of a centimetre.
                    _ if fraction => of(&[(25.4, "in")]),
                    Some(System::Metric) => alone(of(&[(1.0, "mm"), (10.0, "cm")]), &of(&[(25.4, "in")]), expect),
                    Some(System::Customary) => alone(of(&[(25.4, "in"), (1.0, "mm")]), &of(&[(10.0, "cm")]), expect),
                    None => of(&[(1.0, "mm"), (10.0, "cm"), (25.4, "in")]),
                };
                // Nothing is nothing in every unit.
                if term.number.ways == [0.0] { all.into_iter().take(1).collect() } else { all }
            }
            (None, Some("ft")) => numbers(term, 25.4, "in"),
            (None, _) => return Err(InputError::Trailing { rest: term.number.digits.clone(), kind }),
        };
        sums = sums
            .iter()
            .flat_map(|sum| {
                own.iter()
                    .map(move |way| Way { value: sum.value + way.value, words: format!("{} {}", sum.words, way.words).trim().to_owned() })
            })
            .take(16)
            .collect();
        before = known.map(|(_, unit)| unit).or(Some("done"));
    }
    choose(typed, kind, sums, expect, (0.0, 2000.0, "0 mm", "2 m")).map(millimetres)
}

/// Reads the two sides of a face: `267 × 190 mm`, `10½ x 7½ in`, `10 by 7 inches`. A unit said once counts for both.
///
/// Valid range as for a length, and neither side zero.
///
/// ```
/// use rauchkeller_core::units::{parse_face, LengthIn};
/// let (length, width) = parse_face("26.7 × 19 cm").unwrap();
/// assert!((length.in_mm() - 267.0).abs() < 1e-9 && (width.in_mm() - 190.0).abs() < 1e-9);
/// ```
pub fn parse_face(typed: &str) -> Result<(Length, Length), InputError> {
    read_face(typed, &Expect { system: Some(System::Metric), low: 0.0, high: 2000.0 })
}

/// Reads the two sides of a face of which is known about how long they may be, mm.
pub fn read_face(typed: &str, expect: &Expect) -> Result<(Length, Length), InputError> {
    let kind = Kind::Length;
    let short = || typed.trim().chars().take(40).collect::<String>();
    let no_number = || InputError::NoNumber { typed: short(), kind };
    let lower = terms::plain(typed).replace(" by ", " x ");
    let (first, second) = lower.split_once(['×', 'x', '*']).ok_or_else(no_number)?;
    let unit: String = second.trim().chars().skip_while(|c| !c.is_alphabetic() && !matches!(c, '"' | '″' | '”')).collect();
    let bare = |text: &str| !text.chars().any(|c| c.is_alphabetic() || matches!(c, '"' | '″' | '”'));
    let sides = |unit: &str| -> Result<(Length, Length), InputError> {
        let with = |side: &str| if bare(side) { format!("{} {unit}", side.trim()) } else { side.to_owned() };
        Ok((read_length(&with(first), expect)?, read_length(&with(second), expect)?))
    };
    let (length, width) = if unit.is_empty() && bare(first) {
        // One unit for both; which one, the lengths say.
        let units: &[&str] = match expect.system {
            Some(System::Metric) => &["mm", "cm"],
            Some(System::Customary) => &["in", "mm"],
            None => &["mm", "cm", "in"],
        };
        let read: Vec<(&str, (Length, Length))> = units.iter().filter_map(|unit| Some((*unit, sides(unit).ok()?))).collect();
        let sensible: Vec<_> = read.iter().filter(|(_, (l, w))| expect.holds(l.in_mm()) && expect.holds(w.in_mm())).collect();
        let words = |unit: &str| format!("{} × {} {unit}", first.trim(), second.trim());
        match (sensible.as_slice(), read.first()) {
            ([one], _) => one.1,
            // Any length goes: millimetres, as a ruler in the kitchen has them.
            ([one, ..], _) if expect.low <= 0.0 => one.1,
            ([a, b, ..], _) => return Err(InputError::TwoWays(TwoWays::new(typed, words(a.0), words(b.0)))),
            ([], Some((_, as_it_stands))) => *as_it_stands,
            ([], None) => return Err(no_number()),
        }
    } else {
        sides(&unit)?
    };
    if length.in_mm() <= 0.0 || width.in_mm() <= 0.0 {
        return Err(InputError::OutOfRange { typed: short(), kind, low: "1 mm", high: "2 m" });
    }
    Ok((length, width))
}

/// Reads a temperature: Celsius unless `F` or `gas` says otherwise. Valid range −40 to 400 °C.
///
/// ```
/// use rauchkeller_core::units::{parse_temperature, TemperatureIn};
/// assert_eq!(parse_temperature("gas 4").unwrap().in_c().round(), 180.0);
/// ```
pub fn parse_temperature(typed: &str) -> Result<Temperature, InputError> {
    read_temperature(typed, &Expect { system: Some(System::Metric), low: -40.0, high: 400.0 })
}

/// Reads a temperature of which is known about how much it may be, °C: a bare number takes the scale that makes sense,
/// first the household's own; where it has none and both make sense, both are offered.
///
/// ```
/// use rauchkeller_core::units::{read_temperature, Expect, TemperatureIn};
/// let fridge = Expect::between(-2.0, 15.0);
/// assert!((read_temperature("38", &fridge).unwrap().in_c() - 3.33).abs() < 0.01);
/// assert_eq!(read_temperature("4", &fridge).unwrap().in_c(), 4.0);
/// ```
pub fn read_temperature(typed: &str, expect: &Expect) -> Result<Temperature, InputError> {
    let kind = Kind::Temperature;
    let short = || typed.trim().chars().take(40).collect::<String>();
    let lower = terms::plain(typed).replace("degrees", "°").replace("degree", "°").replace("deg.", "°").replace("deg", "°");
    let lower = lower.trim();
    if let Some(mark) = lower.strip_prefix("gas").map(|rest| rest.trim().trim_start_matches("mark").trim()) {
        let found = terms(mark, kind)?;
        let number = found.first().map_or(0.0, |term| term.number.ways[0]);
        return gas_mark(number).ok_or_else(|| InputError::OutOfRange { typed: short(), kind, low: "gas ¼", high: "gas 10" });
    }
    let (negative, rest) = match lower.strip_prefix(['-', '−']).or_else(|| lower.strip_prefix("minus ")) {
        Some(rest) => (true, rest),
        None => (false, lower),
    };
    let read = terms(&rest.replace("° ", "°"), kind)?;
    let [term] = read.as_slice() else {
        return Err(InputError::NoNumber { typed: short(), kind });
    };
    let signed: Vec<f64> = term.number.ways.iter().map(|n| if negative { -n } else { *n }).collect();
    let of = |scale: &str| -> Vec<Way> {
        let c = |n: &f64| if scale == "F" { fahrenheit(*n).in_c() } else { *n };
        signed.iter().map(|n| Way { value: c(n), words: format!("{} {scale}", figure(*n)) }).collect()
    };
    let ways = match term.unit.trim_start_matches('°').trim() {
        "c" | "celsius" | "centigrade" => of("C"),
        "f" | "fahrenheit" => of("F"),
        "" => {
            let sensible = |ways: &[Way]| ways.iter().any(|way| expect.holds(way.value));
            let (c, f) = (of("C"), of("F"));
            match expect.system {
                Some(System::Metric) if sensible(&c) => c,
                Some(System::Customary) if sensible(&f) => f,
                _ => c.into_iter().chain(f).collect(),
            }
        }
        _ => return Err(InputError::UnknownUnit { unit: term.unit.clone(), kind }),
    };
    choose(typed, kind, ways, expect, (-40.0, 400.0, "−40 °C", "400 °C")).map(celsius)
}

/// The nominal oven temperature of a gas mark; never used to convert back. Common practice: `docs/TRADE.md`, T9.4.
///
/// Marks between two rows of the table are refused (`None`), as the dial has none.
pub fn gas_mark(mark: f64) -> Option<Temperature> {
    /// mark, °C.
    const MARKS: [(f64, f64); 12] = [
        (0.25, 110.0),
        (0.5, 130.0),
        (1.0, 140.0),
        (2.0, 150.0),
        (3.0, 170.0),
        (4.0, 180.0),
        (5.0, 190.0),
        (6.0, 200.0),
        (7.0, 220.0),
        (8.0, 230.0),
        (9.0, 240.0),
        (10.0, 260.0),
    ];
    MARKS.iter().find(|(m, _)| (m - mark).abs() < 1e-9).map(|&(_, c)| celsius(c))
}

#[cfg(test)]
mod tests;
