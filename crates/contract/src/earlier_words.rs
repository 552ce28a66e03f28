//! Words of plans that an earlier version kept: sources pointed to papers that the reader does not have.

use serde_json::Value;

/// Classes of sources as they were written, and what is said instead.
const CLASSES: [(&str, &str); 6] = [
    ("[mem/est]", "our estimate"),
    ("[trade]", "common practice"),
    ("[est]", "our estimate"),
    ("[mem]", "from memory"),
    ("[pub]", ""),
    ("handbook depth guard", "common practice"),
];

/// One text of a kept plan without those marks; others stay to the letter.
fn in_plain_words(text: &str) -> Option<String> {
    let lower = text.to_lowercase();
    let marked = CLASSES.iter().any(|(mark, _)| text.contains(mark)) || (lower.contains("handbook") && !text.contains("ASHRAE"));
    if !marked {
        return None;
    }
    // A source that was nothing but a pointer becomes its class.
    if lower.starts_with("handbook") {
        let class = CLASSES.iter().find(|(mark, _)| text.contains(mark)).map_or("common practice", |(_, words)| *words);
        return Some(if class.is_empty() { "common practice" } else { class }.to_owned());
    }
    let mut plain = text.to_owned();
    for (mark, words) in CLASSES {
        let said = if words.is_empty() { String::new() } else { format!("({words})") };
        plain = plain.replace(mark, &said);
    }
    // “house table by thickness, handbook section 4 (common practice)”
    while let Some(at) = plain.to_lowercase().find("handbook section") {
        let end = plain[at..].find(['(', ',', ';', ')']).map_or(plain.len(), |end| at + end);
        plain.replace_range(at..end, "");
    }
    Some(plain.replace(" ,", ",").replace("  ", " ").replace(", (", " (").trim().trim_end_matches([',', ';']).to_owned())
}

/// Rewrites the marks in a kept plan, wherever they stand; what is stored stays verbatim.
pub fn earlier_words(plan: &mut Value) {
    match plan {
        Value::String(text) => {
            if let Some(plain) = in_plain_words(text) {
                *text = plain;
            }
        }
        Value::Array(items) => items.iter_mut().for_each(earlier_words),
        Value::Object(fields) => fields.values_mut().for_each(earlier_words),
        _ => {}
    }
}

/// A verdict's advice as an earlier version wrote it, with the dryness in per cent.
pub fn earlier_advice(kept: &str) -> String {
    let in_per_cent = || {
        let (before, rest) = kept.split_once(" went in only ")?;
        let (dry, _) = rest.split_once(" dry: give it more hours in the open, 0.95 is the aim.")?;
        let dry: f64 = dry.parse().ok()?;
        Some(format!("{before} went into the heat only {:.0} % dry: give it more hours in the open; 95 % is enough.", dry * 100.0))
    };
    in_per_cent().unwrap_or_else(|| kept.to_owned())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn advice_of_an_earlier_version_speaks_in_per_cent() {
        let kept = "2 of 9 fields stayed chewy, and the skin went in only 0.43 dry: give it more hours in the open, 0.95 is the aim.";
        let shown =
            "2 of 9 fields stayed chewy, and the skin went into the heat only 43 % dry: give it more hours in the open; 95 % is enough.";
        assert_eq!(earlier_advice(kept), shown);
        assert_eq!(earlier_advice("Nothing to change."), "Nothing to change.");
    }

    #[test]
    fn marks_become_words_and_titles_stay() {
        for (kept, shown) in [
            ("handbook section 4 [mem/est]", "our estimate"),
            ("handbook section 7, the open-air way [trade]", "common practice"),
            ("handbook section 11", "common practice"),
            ("the label, less natural sodium [mem]", "the label, less natural sodium (from memory)"),
            ("house table by thickness, handbook section 4 [trade]", "house table by thickness (common practice)"),
            ("USDA FoodData Central, “Salt, table”: 1 tsp 6 g [pub]", "USDA FoodData Central, “Salt, table”: 1 tsp 6 g"),
        ] {
            assert_eq!(in_plain_words(kept).as_deref(), Some(shown));
        }
        assert_eq!(in_plain_words("ASHRAE Handbook—Fundamentals (2017)"), None);
        assert_eq!(in_plain_words("plain words"), None);
    }
}
