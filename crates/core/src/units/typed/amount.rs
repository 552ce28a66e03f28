//! What a line begins with: so much of something.

use super::number::{in_figures, read_number, skip_blanks};

/// The number and the unit a text begins with, and what follows: `2 tbsp soy sauce` is (2, "tbsp", "soy sauce").
///
/// Numerals count (`two tablespoons`). `None` when it does not begin with a number, or is longer than 200 characters.
pub fn leading_amount(text: &str) -> Option<(f64, String, String)> {
    if text.chars().count() > 200 {
        return None;
    }
    let chars: Vec<char> = in_figures(text.trim()).chars().collect();
    let mut at = 0;
    let number = read_number(&chars, &mut at)?.ways[0];
    skip_blanks(&chars, &mut at);
    let starts = at;
    while at < chars.len() && (chars[at].is_alphabetic() || chars[at] == '%') {
        at += 1;
    }
    let mut unit: String = chars[starts..at].iter().collect::<String>().to_lowercase();
    let mut rest: String = chars[at..].iter().collect();
    // “4 fl oz” is one unit.
    let after = rest.trim_start_matches(['.', ' ']).to_lowercase();
    if matches!(unit.as_str(), "fl" | "fluid")
        && let Some(tail) = ["ounces", "ounce", "oz"].iter().find_map(|oz| after.strip_prefix(oz))
    {
        (unit, rest) = ("floz".to_owned(), tail.to_owned());
    }
    let rest = rest.trim_start_matches(['.', ',', ' ']).trim();
    Some((number, unit, rest.strip_prefix("of ").unwrap_or(rest).to_owned()))
}
