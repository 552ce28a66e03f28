//! Which passwords are taken.

use zxcvbn::{Score, zxcvbn};

/// Shortest and longest password taken, in characters; beyond it hashing would only burn time.
pub const LENGTH: std::ops::RangeInclusive<usize> = 10..=200;

/// What is wrong with a new password, as a sentence; `None` for one that is taken.
///
/// Length alone is not enough: ten blanks are guessed at once. Its strength is estimated by zxcvbn (3 of 4: more than
/// 10⁸ guesses), with `known`, what anybody knows of the cook, counted as no secret. Four words that belong to no saying
/// are fine.
pub fn wrong_with(password: &str, known: &[&str]) -> Option<String> {
    let length = password.chars().count();
    if !LENGTH.contains(&length) {
        return Some(format!(
            "{} to {} characters, please; these are {length}. Four words that do not belong together are easy to keep in mind.",
            LENGTH.start(),
            LENGTH.end()
        ));
    }
    (zxcvbn(password, known).score() < Score::Three).then(|| {
        "That would be guessed too soon: no single word, name, date, row of keys or the same thing again and again. \
         Four words that do not belong together are easy to keep in mind."
            .to_owned()
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn length_alone_is_not_enough() {
        let known = ["cook@boathouse.example", "Boathouse kitchen"];
        for poor in ["          ", "aaaaaaaaaaaa", "1234567890", "qwertyuiop", "password123", "boathouse kitchen", "cook@boathouse.example"]
        {
            assert!(wrong_with(poor, &known).is_some(), "“{poor}” was taken");
        }
        for good in ["lantern gravel otter seven", "smoke ladle birch umbrella", "a long enough one", "Xq7#vT2m!pLz"] {
            assert_eq!(wrong_with(good, &known), None, "“{good}” was refused");
        }
    }

    #[test]
    fn characters_are_counted_not_bytes() {
        let long = "æøå".repeat(66);
        assert!(wrong_with(&long, &[]).is_none_or(|said| !said.contains("characters, please")), "198 characters are within 200");
        assert!(wrong_with(&"æ".repeat(201), &[]).unwrap().contains("these are 201"));
        assert!(wrong_with("short", &[]).unwrap().contains("these are 5"));
    }
}
