//! Kitchen input as cooks type it: `2.4 kg`, `5 lb 4 oz`, `1½ in`, `375 F`, `gas 4`.

use super::quantity::{Length, LengthIn, Mass, MassIn, Temperature, TemperatureIn, celsius, fahrenheit, grams, millimetres};

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
    let kind = Kind::Mass;
    let mut total = 0.0;
    for (number, unit) in terms(typed, kind)? {
        total += number
            * match unit.as_str() {
                "" if number <= 30.0 => 1000.0,
                "g" | "gr" | "gram" | "grams" | "gramm" | "" => 1.0,
                "kg" | "kgs" | "kilo" | "kilos" | "kilogram" | "kilograms" => 1000.0,
                "lb" | "lbs" | "pound" | "pounds" | "#" => 453.59237,
                "oz" | "ounce" | "ounces" => 28.349523125,
                _ => return Err(InputError::UnknownUnit { unit, kind }),
            };
    }
    let mass = grams(total);
    within(typed, kind, mass.in_g(), 1.0, 100_000.0, ("1 g", "100 kg"))?;
    Ok(mass)
}

/// Reads a length: terms of number and unit, added up. A bare number is millimetres.
///
/// Valid range 0 to 2 m; zero is allowed (no fat is a measure too).
pub fn parse_length(typed: &str) -> Result<Length, InputError> {
    let kind = Kind::Length;
    let mut total = 0.0;
    for (number, unit) in terms(typed, kind)? {
        total += number
            * match unit.as_str() {
                "mm" | "millimetre" | "millimeter" | "millimetres" | "millimeters" | "" => 1.0,
                "cm" | "centimetre" | "centimeter" | "centimetres" | "centimeters" => 10.0,
                "m" => 1000.0,
                "in" | "inch" | "inches" | "\"" | "″" | "”" => 25.4,
                "ft" | "foot" | "feet" => 304.8,
                _ => return Err(InputError::UnknownUnit { unit, kind }),
            };
    }
    let length = millimetres(total);
    within(typed, kind, length.in_mm(), 0.0, 2000.0, ("0 mm", "2 m"))?;
    Ok(length)
}

/// Reads the two sides of a face: `267 × 190 mm`, `10½ x 7½ in`. A unit said once counts for both.
///
/// Valid range as for a length, and neither side zero.
///
/// ```
/// use rauchkeller_core::units::{parse_face, LengthIn};
/// let (length, width) = parse_face("26.7 × 19 cm").unwrap();
/// assert!((length.in_mm() - 267.0).abs() < 1e-9 && (width.in_mm() - 190.0).abs() < 1e-9);
/// ```
pub fn parse_face(typed: &str) -> Result<(Length, Length), InputError> {
    let kind = Kind::Length;
    let no_number = || InputError::NoNumber { typed: typed.trim().chars().take(40).collect(), kind };
    let lower = typed.to_lowercase();
    let (first, second) = lower.split_once(['×', 'x', '*']).ok_or_else(no_number)?;
    let width = parse_length(second)?;
    let unit: String = second.trim().chars().skip_while(|c| !c.is_alphabetic() && *c != '"' && *c != '″').collect();
    let bare = first.trim().chars().all(|c| c.is_ascii_digit() || matches!(c, '.' | ',' | '/' | ' ') || vulgar(c).is_some());
    let length = parse_length(&if bare { format!("{first} {unit}") } else { first.to_owned() })?;
    if length.in_mm() <= 0.0 || width.in_mm() <= 0.0 {
        return Err(InputError::OutOfRange { typed: typed.trim().into(), kind, low: "1 mm", high: "2 m" });
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
    let kind = Kind::Temperature;
    let lower = typed.trim().to_lowercase();
    let temperature = if let Some(mark) = lower.strip_prefix("gas").map(|rest| rest.trim().trim_start_matches("mark").trim()) {
        let (number, _) = terms(mark, kind)?.into_iter().next().ok_or(InputError::Empty(kind))?;
        gas_mark(number).ok_or_else(|| InputError::OutOfRange { typed: typed.trim().into(), kind, low: "gas ¼", high: "gas 10" })?
    } else {
        let (negative, rest) = match lower.strip_prefix(['-', '−']) {
            Some(rest) => (true, rest),
            None => (false, lower.as_str()),
        };
        let read = terms(rest, kind)?;
        let [(number, unit)] = read.as_slice() else {
            return Err(InputError::NoNumber { typed: typed.trim().into(), kind });
        };
        let number = if negative { -number } else { *number };
        match unit.trim_start_matches('°').trim() {
            "" | "c" | "celsius" => celsius(number),
            "f" | "fahrenheit" => fahrenheit(number),
            _ => return Err(InputError::UnknownUnit { unit: unit.clone(), kind }),
        }
    };
    within(typed, kind, temperature.in_c(), -40.0, 400.0, ("−40 °C", "400 °C"))?;
    Ok(temperature)
}

/// The nominal oven temperature of a gas mark [trade]; never used to convert back.
///
/// Marks between two rows of the table are refused (`None`), as the dial has none.
pub fn gas_mark(mark: f64) -> Option<Temperature> {
    /// mark, °C; source: handbook section 9 [trade].
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

/// Reads the weight of a whole dish: one weight, `4 × 420 g`, or weights joined by `+`.
///
/// Returns one mass a portion; at most 24 portions.
///
/// ```
/// use rauchkeller_core::units::parse_portions;
/// assert_eq!(parse_portions("4 × 420 g").unwrap().len(), 4);
/// assert_eq!(parse_portions("2.1 kg + 2.3 kg").unwrap().len(), 2);
/// ```
pub fn parse_portions(typed: &str) -> Result<Vec<Mass>, InputError> {
    const MOST: usize = 24;
    let mut portions = Vec::new();
    for part in typed.split('+') {
        let (count, weight) = match part.split_once(['×', '*']).or_else(|| part.split_once(" x ")) {
            Some((count, weight)) => {
                let count: usize = count.trim().parse().ok().filter(|n| (1..=MOST).contains(n)).ok_or(InputError::OutOfRange {
                    typed: part.trim().into(),
                    kind: Kind::Mass,
                    low: "1 ×",
                    high: "24 × a weight",
                })?;
                (count, weight)
            }
            None => (1, part),
        };
        let weight = parse_mass(weight)?;
        portions.extend(std::iter::repeat_n(weight, count));
    }
    if portions.len() > MOST {
        return Err(InputError::OutOfRange { typed: typed.trim().into(), kind: Kind::Mass, low: "1 portion", high: "24 portions" });
    }
    Ok(portions)
}

/// The number and the unit a text begins with, and what follows: `2 tbsp soy sauce` is (2, "tbsp", "soy sauce").
///
/// `None` when it does not begin with a number, or is longer than 200 characters.
pub fn leading_amount(text: &str) -> Option<(f64, String, String)> {
    let chars: Vec<char> = text.trim().chars().collect();
    if chars.len() > 200 {
        return None;
    }
    let mut at = 0;
    let number = read_number(&chars, &mut at).filter(|n| n.is_finite())?;
    skip_blanks(&chars, &mut at);
    let starts = at;
    while at < chars.len() && (chars[at].is_alphabetic() || chars[at] == '%') {
        at += 1;
    }
    let unit: String = chars[starts..at].iter().collect();
    let rest: String = chars[at..].iter().collect();
    let rest = rest.trim_start_matches(['.', ',', ' ']).trim();
    Some((number, unit.to_lowercase(), rest.strip_prefix("of ").unwrap_or(rest).to_owned()))
}

fn within(typed: &str, kind: Kind, value: f64, low: f64, high: f64, words: (&'static str, &'static str)) -> Result<(), InputError> {
    if value.is_finite() && value >= low && value <= high {
        return Ok(());
    }
    Err(InputError::OutOfRange { typed: typed.trim().into(), kind, low: words.0, high: words.1 })
}

/// Splits `5 lb 4 oz` into (5, "lb"), (4, "oz"). Numbers may be decimals with point or
/// comma, fractions (`1/2`, `1 1/2`) or the single-character fractions (`1½`).
fn terms(typed: &str, kind: Kind) -> Result<Vec<(f64, String)>, InputError> {
    let text = typed.trim();
    if text.is_empty() {
        return Err(InputError::Empty(kind));
    }
    let no_number = || InputError::NoNumber { typed: text.chars().take(40).collect(), kind };
    let chars: Vec<char> = text.chars().take(80).collect();
    let mut at = 0;
    let mut found = Vec::new();
    while at < chars.len() {
        let number_starts = at;
        let number = read_number(&chars, &mut at);
        let Some(number) = number.filter(|_| at > number_starts) else {
            let rest = chars[number_starts..].iter().take(40).collect();
            return Err(if found.is_empty() { no_number() } else { InputError::Trailing { rest, kind } });
        };
        skip_blanks(&chars, &mut at);
        let unit_starts = at;
        while at < chars.len() && !chars[at].is_ascii_digit() && vulgar(chars[at]).is_none() && !chars[at].is_whitespace() {
            at += 1;
        }
        let unit: String = chars[unit_starts..at].iter().collect::<String>().to_lowercase();
        found.push((number, unit.trim_end_matches('.').to_owned()));
        skip_blanks(&chars, &mut at);
    }
    Ok(found)
}

fn skip_blanks(chars: &[char], at: &mut usize) {
    while chars.get(*at).is_some_and(|c| c.is_whitespace() || *c == '\u{a0}') {
        *at += 1;
    }
}

fn read_number(chars: &[char], at: &mut usize) -> Option<f64> {
    let mut value = None;
    if let Some(whole) = read_decimal(chars, at) {
        value = Some(whole);
        if chars.get(*at) == Some(&'/') {
            *at += 1;
            let below = read_decimal(chars, at).filter(|b| *b != 0.0)?;
            return Some(whole / below);
        }
    }
    // A fraction after a whole number: 1½ or 1 1/2.
    let mut ahead = *at;
    skip_blanks(chars, &mut ahead);
    if let Some(part) = chars.get(ahead).copied().and_then(vulgar) {
        *at = ahead + 1;
        return Some(value.unwrap_or(0.0) + part);
    }
    if let (Some(whole), true) = (value, ahead > *at) {
        let mut probe = ahead;
        if let Some(above) = read_decimal(chars, &mut probe)
            && chars.get(probe) == Some(&'/')
        {
            probe += 1;
            if let Some(below) = read_decimal(chars, &mut probe).filter(|b| *b != 0.0) {
                *at = probe;
                return Some(whole + above / below);
            }
        }
    }
    value
}

fn read_decimal(chars: &[char], at: &mut usize) -> Option<f64> {
    let start = *at;
    while chars.get(*at).is_some_and(|c| c.is_ascii_digit() || *c == '.' || *c == ',') {
        *at += 1;
    }
    let text: String = chars[start..*at].iter().collect::<String>().replace(',', ".");
    let parsed = text.parse().ok();
    if parsed.is_none() {
        *at = start;
    }
    parsed
}

fn vulgar(c: char) -> Option<f64> {
    Some(match c {
        '½' => 0.5,
        '¼' => 0.25,
        '¾' => 0.75,
        '⅓' => 1.0 / 3.0,
        '⅔' => 2.0 / 3.0,
        '⅛' => 0.125,
        '⅜' => 0.375,
        '⅝' => 0.625,
        '⅞' => 0.875,
        _ => return None,
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    // Expected values: NIST Handbook 44 Appendix C factors (453.59237 g/lb, 28.349523125 g/oz, 25.4 mm/in).
    #[rstest]
    #[case("2.4 kg", 2400.0)]
    #[case("2,4kg", 2400.0)]
    #[case("2.4", 2400.0)]
    #[case("850", 850.0)]
    #[case("850 g", 850.0)]
    #[case("5 lb 4 oz", 2381.3599)]
    #[case("5lb4oz", 2381.3599)]
    #[case("1½ lb", 680.38856)]
    #[case("1 1/2 lb", 680.38856)]
    #[case("1/2 lb", 226.79619)]
    fn masses(#[case] typed: &str, #[case] g: f64) {
        let read = parse_mass(typed).unwrap().in_g();
        assert!((read - g).abs() < 1e-3, "{typed} read as {read}");
    }

    #[rstest]
    #[case("45 mm", 45.0)]
    #[case("45", 45.0)]
    #[case("4.5 cm", 45.0)]
    #[case("1½ in", 38.1)]
    #[case("1 1/2\"", 38.1)]
    #[case("1 ft 2 in", 355.6)]
    #[case("0 mm", 0.0)]
    fn lengths(#[case] typed: &str, #[case] mm: f64) {
        let read = parse_length(typed).unwrap().in_mm();
        assert!((read - mm).abs() < 1e-9, "{typed} read as {read}");
    }

    #[rstest]
    #[case("267 × 190 mm", 267.0, 190.0)]
    #[case("267x190", 267.0, 190.0)]
    #[case("10½ x 7½ in", 266.7, 190.5)]
    #[case("26.7 cm x 190 mm", 267.0, 190.0)]
    fn faces(#[case] typed: &str, #[case] length: f64, #[case] width: f64) {
        let (l, w) = parse_face(typed).unwrap();
        assert!((l.in_mm() - length).abs() < 1e-9 && (w.in_mm() - width).abs() < 1e-9, "{typed}: {} × {}", l.in_mm(), w.in_mm());
    }

    #[rstest]
    #[case("267")]
    #[case("267 ×")]
    #[case("0 × 190")]
    #[case("267 kg × 190 kg")]
    fn half_a_face_is_refused(#[case] typed: &str) {
        assert!(parse_face(typed).is_err(), "{typed}");
    }

    #[rstest]
    #[case("375 F", 190.5556)]
    #[case("375°F", 190.5556)]
    #[case("-18 C", -18.0)]
    #[case("4", 4.0)]
    #[case("gas 4", 180.0)]
    #[case("gas mark ½", 130.0)]
    #[case("Gas 10", 260.0)]
    fn temperatures(#[case] typed: &str, #[case] c: f64) {
        let read = parse_temperature(typed).unwrap().in_c();
        assert!((read - c).abs() < 1e-3, "{typed} read as {read}");
    }

    #[test]
    fn words_too_many_are_named_for_what_they_are() {
        assert!((parse_mass("2.3 kgs").unwrap().in_g() - 2300.0).abs() < 1e-9);
        let problem = parse_mass("2.3 kg of duck").unwrap_err();
        assert_eq!(problem, InputError::Trailing { rest: "of duck".into(), kind: Kind::Mass });
        assert!(problem.to_string().contains("“of duck” cannot be read after the number"));
    }

    #[rstest]
    #[case("")]
    #[case("heavy")]
    #[case("-3 kg")]
    #[case("0 g")]
    #[case("300 kg")]
    #[case("3 inches")]
    #[case("1/0 kg")]
    #[case("NaN kg")]
    #[case("1e400 kg")]
    fn nonsense_weights_are_refused_in_words(#[case] typed: &str) {
        let problem = parse_mass(typed).unwrap_err().to_string();
        assert!(problem.contains("weight"), "{problem}");
    }

    #[test]
    fn portions_are_counted_and_bounded() {
        assert_eq!(parse_portions("4 x 420 g").unwrap().len(), 4);
        assert_eq!(parse_portions("2.4 kg").unwrap().len(), 1);
        assert!(parse_portions("25 × 100 g").is_err());
        assert!(parse_portions("0 × 100 g").is_err());
        assert!(parse_portions("4 × ").is_err());
    }

    proptest::proptest! {
        #[test]
        fn no_text_makes_a_reader_panic(text in "\\PC{0,40}") {
            let _ = (parse_mass(&text), parse_length(&text), parse_temperature(&text), parse_portions(&text));
        }
    }
}
