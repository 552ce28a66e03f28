//! What is asked about a weighing, in a cook's words.

use crate::words::grams as g;
use rauchkeller_core::skin::drying::{Answer, DoubtKind};

/// What is asked.
pub fn question(kind: DoubtKind, off_g: f64, tare_g: f64) -> String {
    let off = g(off_g.abs());
    let tray = g(tare_g);
    match kind {
        DoubtKind::TrayMissing => {
            format!("{off} g less than expected, and the tray weighs {tray} g: was the piece on the scale without it?")
        }
        DoubtKind::TrayTwice => {
            format!(
                "{off} g more than expected, and the tray weighs {tray} g: was the scale tared to something else, or a second tray on it?"
            )
        }
        DoubtKind::DripPoured => format!("{off} g less than expected, more than any air takes in that time: was drip poured off?"),
        DoubtKind::Faster => format!("{off} g less than expected: was it moved nearer the fan, turned, or drip poured off?"),
        DoubtKind::Slower => format!("{off} g more than expected: was it covered, turned skin down, or moved?"),
        DoubtKind::Gained => format!("It gained weight; {off} g more than expected. Was something else on the scale?"),
        DoubtKind::OtherPiece => format!("{off} g off what this piece was said to weigh: is it this piece, on this tray?"),
    }
}

/// An answer as a button says it.
pub fn answer(answer: Answer) -> &'static str {
    match answer {
        Answer::Right => "No, it is right",
        Answer::TrayMissing => "Yes, without the tray",
        Answer::TrayTwice => "Yes, take the tray off twice",
        Answer::DripPoured => "Drip was poured off",
        Answer::Changed => "Yes, it lies differently now",
        Answer::Forget => "Leave it out",
    }
}

/// What an answer made of a weighing, for the list.
pub fn made_of(answer: Answer) -> &'static str {
    match answer {
        Answer::Right => "right, as you said",
        Answer::TrayMissing => "without the tray",
        Answer::TrayTwice => "tray taken off twice",
        Answer::DripPoured => "after drip was poured off: counts from here",
        Answer::Changed => "lies differently: counts from here",
        Answer::Forget => "left out",
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_doubt_is_asked_with_its_grams_and_can_be_answered() {
        use DoubtKind::{DripPoured, Faster, Gained, OtherPiece, Slower, TrayMissing, TrayTwice};
        for kind in [TrayMissing, TrayTwice, DripPoured, Faster, Slower, Gained, OtherPiece] {
            let asks = question(kind, -41.25, 640.0);
            assert!(asks.contains("41.2 g") && asks.ends_with('?'), "{asks}");
            assert_eq!(asks.contains("640 g"), matches!(kind, TrayMissing | TrayTwice), "{asks}");
            let words: Vec<&str> = kind.answers().iter().map(|a| answer(*a)).collect();
            assert!(words.len() >= 2 && words.iter().all(|w| !w.is_empty()));
        }
        for given in Answer::ALL {
            assert!(!made_of(given).is_empty());
        }
    }
}
