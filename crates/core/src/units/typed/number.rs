//! Numbers as cooks write them: `2.4`, `2,4`, `1½`, `1-1/2`, `1,500`, and `two`, `half a`, `one and a half`.

/// A number that was typed; where its comma or point can mean two things, both.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Number {
    /// What it can be, the likelier first; never empty.
    pub ways: Vec<f64>,
    /// Whether it is written without point, comma or fraction.
    pub whole: bool,
    /// Its digits as typed, to join them behind a point.
    pub digits: String,
}

impl Number {
    fn sure(value: f64) -> Self {
        Self { ways: vec![value], whole: value.fract() == 0.0, digits: String::new() }
    }
}

/// Fractions of one character.
pub(super) fn vulgar(c: char) -> Option<f64> {
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

pub(super) fn skip_blanks(chars: &[char], at: &mut usize) {
    while chars.get(*at).is_some_and(|c| c.is_whitespace() || *c == '\u{a0}') {
        *at += 1;
    }
}

/// Reads a number and moves behind it.
pub(super) fn read_number(chars: &[char], at: &mut usize) -> Option<Number> {
    let whole = read_decimal(chars, at);
    if let Some(above) = &whole
        && chars.get(*at) == Some(&'/')
    {
        let mut ahead = *at + 1;
        let below = read_decimal(chars, &mut ahead)?;
        *at = ahead;
        return fraction(above, &below).map(Number::sure);
    }
    // A fraction after a whole number: 1½, 1 1/2, 1-1/2.
    let mut ahead = *at;
    skip_blanks(chars, &mut ahead);
    if whole.is_some() && chars.get(ahead) == Some(&'-') {
        ahead += 1;
    }
    if let Some(part) = chars.get(ahead).copied().and_then(vulgar) {
        *at = ahead + 1;
        return Some(Number::sure(whole.map_or(0.0, |w| w.ways[0]) + part));
    }
    let whole = whole?;
    if ahead > *at && whole.whole {
        let mut probe = ahead;
        if let Some(above) = read_decimal(chars, &mut probe)
            && chars.get(probe) == Some(&'/')
        {
            probe += 1;
            if let Some(part) = read_decimal(chars, &mut probe).and_then(|below| fraction(&above, &below)) {
                *at = probe;
                return Some(Number::sure(whole.ways[0] + part));
            }
        }
    }
    Some(whole)
}

fn fraction(above: &Number, below: &Number) -> Option<f64> {
    (below.ways[0] != 0.0).then(|| above.ways[0] / below.ways[0])
}

/// Digits with point or comma. `1,500` is one and a half or fifteen hundred; `1.500,5` and `1,500.5` are plain.
fn read_decimal(chars: &[char], at: &mut usize) -> Option<Number> {
    let start = *at;
    while chars
        .get(*at)
        .is_some_and(|c| c.is_ascii_digit() || (matches!(c, '.' | ',') && chars.get(*at + 1).is_some_and(char::is_ascii_digit)))
    {
        *at += 1;
    }
    // A point at the end of a number, as in “2. ”, is no part of it.
    let text: String = chars[start..*at].iter().collect();
    let ways = decimal_ways(&text);
    if ways.is_empty() {
        *at = start;
        return None;
    }
    Some(Number { ways, whole: !text.contains(['.', ',']), digits: text })
}

fn decimal_ways(text: &str) -> Vec<f64> {
    let text = if text.starts_with(['.', ',']) { format!("0{text}") } else { text.to_owned() };
    let marks: Vec<char> = text.chars().filter(|c| matches!(c, '.' | ',')).collect();
    let parse = |text: String| text.parse::<f64>().ok().filter(|n| n.is_finite());
    let without = |mark: char| text.replace(mark, "");
    match marks.as_slice() {
        [] => parse(text.clone()).into_iter().collect(),
        [one] => {
            let decimal = parse(text.replace(',', "."));
            let (before, after) = text.split_once(*one).unwrap_or_default();
            let thousands = after.len() == 3 && (1..=3).contains(&before.len()) && !before.starts_with('0');
            let thousand = thousands.then(|| parse(without(*one))).flatten();
            decimal.into_iter().chain(thousand).collect()
        }
        [.., last] if marks.iter().filter(|m| *m == last).count() == 1 => {
            let other = if *last == '.' { ',' } else { '.' };
            parse(without(other).replace(',', ".")).into_iter().collect()
        }
        [one, ..] if marks.iter().all(|m| m == one) && text.split(*one).skip(1).all(|part| part.len() == 3) => {
            parse(without(*one)).into_iter().collect()
        }
        _ => vec![],
    }
}

/// Words after which a numeral is a number of something measured.
const MEASURED: [&str; 100] = [
    "pound",
    "pounds",
    "lb",
    "lbs",
    "ounce",
    "ounces",
    "oz",
    "kilo",
    "kilos",
    "kilogram",
    "kilograms",
    "kg",
    "gram",
    "grams",
    "g",
    "gramm",
    "inch",
    "inches",
    "in",
    "foot",
    "feet",
    "centimetre",
    "centimetres",
    "centimeter",
    "centimeters",
    "cm",
    "millimetre",
    "millimetres",
    "millimeter",
    "millimeters",
    "mm",
    "tablespoon",
    "tablespoons",
    "tbsp",
    "teaspoon",
    "teaspoons",
    "tsp",
    "cup",
    "cups",
    "pint",
    "pints",
    "litre",
    "litres",
    "liter",
    "liters",
    "ml",
    "hour",
    "hours",
    "h",
    "day",
    "days",
    "week",
    "weeks",
    "minute",
    "minutes",
    "fl",
    "pinch",
    "pinches",
    "dash",
    "dashes",
    "handful",
    "handfuls",
    "clove",
    "cloves",
    "sprig",
    "sprigs",
    "bunch",
    "bunches",
    "leaf",
    "leaves",
    "packet",
    "packets",
    "sachet",
    "sachets",
    "slice",
    "slices",
    "stalk",
    "stalks",
    "cube",
    "cubes",
    "head",
    "heads",
    "bulb",
    "bulbs",
    "stick",
    "sticks",
    "knob",
    "splash",
    "lemon",
    "lemons",
    "lime",
    "limes",
    "orange",
    "oranges",
    "onion",
    "onions",
    "shallot",
    "shallots",
    "apple",
    "apples",
];

fn numeral(word: &str) -> Option<u32> {
    const ONES: [&str; 21] = [
        "zero",
        "one",
        "two",
        "three",
        "four",
        "five",
        "six",
        "seven",
        "eight",
        "nine",
        "ten",
        "eleven",
        "twelve",
        "thirteen",
        "fourteen",
        "fifteen",
        "sixteen",
        "seventeen",
        "eighteen",
        "nineteen",
        "twenty",
    ];
    const TENS: [(&str, u32); 5] = [("twenty", 20), ("thirty", 30), ("forty", 40), ("fifty", 50), ("sixty", 60)];
    let of = |word: &str| ONES.iter().position(|w| *w == word).and_then(|n| u32::try_from(n).ok());
    if let Some((_, tens)) = TENS.iter().find(|(name, _)| *name == word) {
        return Some(*tens);
    }
    if let Some((tens, ones)) = word.split_once('-') {
        let tens = TENS.iter().find(|(name, _)| *name == tens)?.1;
        return of(ones).filter(|n| (1..10).contains(n)).map(|n| tens + n);
    }
    of(word)
}

/// Writes numerals as figures where something measured follows: `two pounds` → `2 pounds`, `half an inch` → `1/2 inch`,
/// `one and a half lb` → `1 1/2 lb`, `a pound and a half` → `1 1/2 pound`. Other words stay as they are.
pub(crate) fn in_figures(text: &str) -> String {
    let words: Vec<&str> = text.split_whitespace().collect();
    let measured = |i: usize| words.get(i).is_none_or(|w| MEASURED.contains(&w.trim_end_matches(['.', ',', ';'])) || *w == "and");
    let mut out: Vec<String> = Vec::with_capacity(words.len());
    let mut i = 0;
    while i < words.len() {
        let rest = &words[i..];
        let part = |share: &str, skip: usize| (share.to_owned(), skip);
        let found = match rest {
            ["and", "a", "half", ..] => Some(part("1/2", 3)),
            ["and", "a", "quarter", ..] => Some(part("1/4", 3)),
            ["and", "three", "quarters", ..] => Some(part("3/4", 3)),
            _ => None,
        };
        if let Some((share, skip)) = found {
            let last = out.len();
            let figure = |at: usize| out.get(at).is_some_and(|w| w.chars().all(|c| c.is_ascii_digit()));
            // “one and a half” or “a pound and a half”.
            let joined = if last >= 1 && figure(last - 1) { Some(last - 1) } else { last.checked_sub(2).filter(|at| figure(*at)) };
            if let Some(at) = joined {
                out[at].push(' ');
                out[at].push_str(&share);
                i += skip;
                continue;
            }
        }
        let (word, skip) = match rest {
            ["half", "a" | "an", ..] | ["a", "half", ..] if measured(i + 2) => ("1/2".to_owned(), 2),
            ["half", ..] if measured(i + 1) && rest.len() > 1 => ("1/2".to_owned(), 1),
            ["quarter", "of", "a" | "an", ..] | ["a", "quarter", "of", "a" | "an", ..] => {
                ("1/4".to_owned(), if rest[0] == "a" { 4 } else { 3 })
            }
            ["a", "quarter", ..] if measured(i + 2) => ("1/4".to_owned(), 2),
            ["three", "quarters", "of", "a" | "an", ..] => ("3/4".to_owned(), 4),
            ["three-quarters", "of", "a" | "an", ..] => ("3/4".to_owned(), 3),
            ["a", "couple", "of", ..] => ("2".to_owned(), 3),
            ["a", "dozen", ..] => ("12".to_owned(), 2),
            ["dozen", ..] => ("12".to_owned(), 1),
            ["a" | "an", ..] if rest.len() > 1 && measured(i + 1) && words.get(i + 1) != Some(&"and") => ("1".to_owned(), 1),
            [word, ..] => match numeral(word).filter(|_| measured(i + 1)) {
                Some(number) => (number.to_string(), 1),
                None => ((*word).to_owned(), 1),
            },
            [] => break,
        };
        out.push(word);
        i += skip;
    }
    out.join(" ")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn numerals_become_figures_where_something_is_measured() {
        for (typed, figures) in [
            ("two pounds", "2 pounds"),
            ("one and a half lb", "1 1/2 lb"),
            ("a pound and a half", "1 1/2 pound"),
            ("half an inch", "1/2 inch"),
            ("half a cup of soy sauce", "1/2 cup of soy sauce"),
            ("three quarters of an inch", "3/4 inch"),
            ("twenty-four hours", "24 hours"),
            ("a couple of days", "2 days"),
            ("five spice", "five spice"),
            ("one duck", "one duck"),
            ("a tablespoon of salt", "1 tablespoon of salt"),
        ] {
            assert_eq!(in_figures(typed), figures);
        }
    }

    #[test]
    fn a_comma_before_three_digits_is_two_things() {
        assert_eq!(decimal_ways("1,500"), [1.5, 1500.0]);
        assert_eq!(decimal_ways("1.500,5"), [1500.5]);
        assert_eq!(decimal_ways("1,500.5"), [1500.5]);
        assert_eq!(decimal_ways("0,500"), [0.5]);
        assert_eq!(decimal_ways("1,234,567"), [1_234_567.0]);
        assert!(decimal_ways("1.2.3").is_empty());
    }
}
