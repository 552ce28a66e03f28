//! Curing salts by their everyday names: refused, since they can poison at these amounts; and names near one, asked about.
//!
//! Names: common practice in English and German; E 249–E 252 are the European numbers of nitrites and nitrates
//! (Regulation (EC) No 1333/2008, annex II).

/// What a name says.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum CuringName {
    /// It is a curing salt.
    Curing,
    /// It may be one: the packet has to be read.
    Near,
    /// Nothing points to one.
    Plain,
}

/// Words that mean nitrite or nitrate wherever they stand, with everything but letters and digits taken out.
const ALWAYS: [&str; 25] = [
    "nitrite",
    "nitrate",
    "nitrit",
    "nitrat",
    "saltpeter",
    "saltpetre",
    "salpeter",
    "salzpeter",
    "saltpeeter",
    "saltpetr",
    "pokelsalz",
    "poekelsalz",
    "praguepowder",
    "pragpowder",
    "praguesalt",
    "tintedcure",
    "tintedcuring",
    "curingsalt",
    "pinkcuring",
    "pinkcure",
    "kalisalpeter",
    "rotesalz",
    "roetesalz",
    "salitre",
    "salnitro",
];
/// Those that say so themselves.
const WITHOUT: [&str; 10] = [
    "nitritefree",
    "nitratefree",
    "nitritfrei",
    "nitratfrei",
    "withoutnitrite",
    "withoutnitrate",
    "ohnenitrit",
    "ohnenitrat",
    "nonitrite",
    "nonitrate",
];
/// Between a name and its number.
const NUMBER_WORDS: [&str; 6] = ["no", "nr", "number", "num", "nummer", "type"];

/// Reads a name in any spelling: capitals, blanks, hyphens, numbers apart, umlauts written out or not.
///
/// ```
/// use rauchkeller_core::salt::{CuringName, curing_name};
/// assert_eq!(curing_name("Prague powder"), CuringName::Curing);
/// assert_eq!(curing_name("pink rock salt"), CuringName::Near);
/// assert_eq!(curing_name("grey jar"), CuringName::Plain);
/// ```
pub fn curing_name(name: &str) -> CuringName {
    let folded = fold(name);
    let squashed: String = folded.chars().filter(char::is_ascii_alphanumeric).collect();
    let says_without = WITHOUT.iter().any(|word| squashed.contains(word));
    if !says_without && (ALWAYS.iter().any(|word| squashed.contains(word)) || numbered(&words(&folded))) {
        return CuringName::Curing;
    }
    let near = ["cure", "curing", "quick", "poekel", "pokel", "pekel"].iter().any(|word| squashed.contains(word))
        || (squashed.contains("pink") || squashed.contains("rosa")) && (squashed.contains("salt") || squashed.contains("salz"));
    if near || says_without { CuringName::Near } else { CuringName::Plain }
}

/// Lower case, umlauts as their base letters, accents dropped.
fn fold(name: &str) -> String {
    let mut out = String::with_capacity(name.len());
    for c in name.chars().take(400).flat_map(char::to_lowercase) {
        match c {
            'ä' | 'á' | 'à' | 'â' | 'å' => out.push('a'),
            'ö' | 'ó' | 'ò' | 'ô' | 'ø' => out.push('o'),
            'ü' | 'ú' | 'ù' | 'û' => out.push('u'),
            'é' | 'è' | 'ê' | 'ë' => out.push('e'),
            'í' | 'ì' | 'î' | 'ï' => out.push('i'),
            'ß' => out.push_str("ss"),
            '\u{300}'..='\u{36f}' => {}
            // Letters and digits of full width.
            '\u{ff01}'..='\u{ff5e}' => out.extend(char::from_u32(c as u32 - 0xfee0).map(|c| c.to_ascii_lowercase())),
            c => out.push(c),
        }
    }
    out
}

/// Words, with digits apart from letters.
fn words(folded: &str) -> Vec<String> {
    let mut found: Vec<String> = Vec::new();
    let mut last = ' ';
    for c in folded.chars() {
        if c.is_ascii_alphanumeric() {
            let joins = last.is_ascii_alphanumeric() && last.is_ascii_digit() == c.is_ascii_digit();
            match found.last_mut().filter(|_| joins) {
                Some(word) => word.push(c),
                None => found.push(c.to_string()),
            }
        }
        last = c;
    }
    found
}

/// `cure #1`, `pink salt no. 2`, `E 250`, `NPS`, `nitre`.
fn numbered(words: &[String]) -> bool {
    let word = |i: usize| words.get(i).map_or("", String::as_str);
    (0..words.len()).any(|i| {
        let after = |n: usize| {
            let skip = usize::from(NUMBER_WORDS.contains(&word(i + n)));
            matches!(word(i + n + skip), "1" | "2" | "one" | "two" | "i" | "ii" | "eins" | "zwei")
        };
        let cure = matches!(word(i), "cure" | "cures" | "curing") && after(1);
        let pink = word(i) == "pink" && word(i + 1) == "salt" && after(2) || word(i) == "pinksalt" && after(1);
        let e_number = word(i) == "e" && matches!(word(i + 1), "249" | "250" | "251" | "252");
        cure || pink || e_number || matches!(word(i), "nps" | "nitre" | "niter")
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn everyday_names_of_curing_salts_are_known_in_any_spelling() {
        for name in [
            "curing salt",
            "pink curing salt",
            "Curing-Salt",
            "CURING  SALT",
            "pink salt #1",
            "Pink Salt No. 2",
            "pink salt 1",
            "PinkSalt#1",
            "Prague powder",
            "prague powder #2",
            "Prague-Powder No 1",
            "cure #1",
            "Cure 2",
            "cure no. 1",
            "cure1",
            "tinted cure",
            "saltpeter",
            "saltpetre",
            "salt peter",
            "sodium nitrite",
            "potassium nitrate",
            "nitrite salt",
            "Pökelsalz",
            "Poekelsalz",
            "PÖKELSALZ",
            "Nitritpökelsalz",
            "Nitrit-Pökelsalz",
            "NPS",
            "Salpeter",
            "Kalisalpeter",
            "E249",
            "E 250",
            "e-251",
            "E252",
            "salt with E 250",
            "n i t r i t e",
            "Po\u{308}kelsalz",
            "ｐｏｋｅｌｓａｌｚ",
            "0.5 % Natriumnitrit",
            "Umrötesalz",
            "Rötesalz",
            "Roetesalz",
            "nitre",
            "niter",
            "salitre",
            "Salzpeter",
        ] {
            assert_eq!(curing_name(name), CuringName::Curing, "{name}");
        }
    }

    #[test]
    fn names_near_one_are_asked_about_and_others_pass() {
        for name in [
            "pink rock salt",
            "fine pink salt",
            "rosa Salz",
            "quick mix",
            "my cure",
            "Pökel-Mischung",
            "cured lemon salt",
            "nitrite-free salt",
        ] {
            assert_eq!(curing_name(name), CuringName::Near, "{name}");
        }
        for name in [
            "grey jar",
            "fine sea salt",
            "clay-mixed coarse salt",
            "celery salt",
            "smoked flakes",
            "table salt",
            "herb salt no. 1",
            "3 cups sugar",
        ] {
            assert_eq!(curing_name(name), CuringName::Plain, "{name}");
        }
    }

    proptest::proptest! {
        #[test]
        fn blanks_hyphens_and_capitals_change_nothing(which in 0usize..8, seed in 0u32..4096) {
            let name = ["pokelsalz", "nitritpoekelsalz", "praguepowder", "saltpetre", "curingsalt", "salpeter", "sodiumnitrite", "tintedcure"][which];
            let spread: String = name.chars().enumerate().flat_map(|(i, c)| {
                let c = if seed >> (i % 12) & 1 == 1 { c.to_ascii_uppercase() } else { c };
                let gap = [None, Some(' '), Some('-'), Some('_')][(seed as usize >> (i % 10)) & 3];
                [Some(c), gap].into_iter().flatten()
            }).collect();
            proptest::prop_assert_eq!(curing_name(&spread), CuringName::Curing, "{}", spread);
        }
    }
}
