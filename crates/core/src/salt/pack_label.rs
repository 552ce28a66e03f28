//! What the packer's label of a piece says: sodium, salt, or “up to 8 % of a solution”.

use super::ledger::{SALT_PER_SODIUM, salt_in_solution};
use crate::piece::CutFacts;
use crate::units::{Mass, Share, TwoWays, grams_a_unit, in_figures, leading_amount};

/// Salt in a packer's brine, least and most, kg/kg: our estimate, `docs/TRADE.md` T4.7.
const BRINE: (f64, f64) = (0.03, 0.06);

/// The label of a piece that was pumped or injected.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum PackLabel {
    /// Sodium, mg per 100 g of meat: 0 to 3000.
    Sodium(f64),
    /// Up to so much of a solution, as a share of the weight: 0 to 0.5.
    UpTo(Share),
}

impl PackLabel {
    /// Salt that the packer put in, even throughout: of the label's sodium what is above the meat's own; of a solution the
    /// middle of [`Self::band`].
    pub fn salt_inside(self, cut: &CutFacts, edible: Mass) -> Mass {
        match self {
            Self::Sodium(mg) => salt_in_solution(cut, edible, mg),
            Self::UpTo(share) => edible * (share.0 * f64::midpoint(BRINE.0, BRINE.1)),
        }
    }

    /// The least and the most it can be; the same twice where the sodium was read.
    pub fn band(self, cut: &CutFacts, edible: Mass) -> (Mass, Mass) {
        match self {
            Self::Sodium(_) => (self.salt_inside(cut, edible), self.salt_inside(cut, edible)),
            Self::UpTo(share) => (edible * (share.0 * BRINE.0), edible * (share.0 * BRINE.1)),
        }
    }
}

/// Why a label could not be read.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum PackLabelError {
    /// No label.
    #[error(
        "“{0}” is not what a label says; write it like up to 8 % solution, 240 mg sodium per 100 g, 270 mg per 4 oz or 0.8 g salt per 100 g"
    )]
    NotALabel(String),
    /// More than there can be.
    #[error(
        "“{0}” is more than there can be in meat; up to 50 % of a solution, 3000 mg sodium or 7.6 g salt in 100 g are allowed. Read the label again"
    )]
    TooMuch(String),
    /// Two readings.
    #[error("{0}")]
    TwoWays(TwoWays),
}

impl PackLabelError {
    /// Both readings, where there are two.
    pub fn choices(&self) -> Vec<String> {
        if let Self::TwoWays(ways) = self { ways.choices() } else { vec![] }
    }
}

/// Reads a label; `None` where it says that nothing was added.
///
/// A per cent alone, and sodium or salt without “per”, can mean two things and are asked about.
///
/// ```
/// use rauchkeller_core::{salt::{read_pack_label, PackLabel}, units::Share};
/// assert_eq!(read_pack_label("contains up to 8 % of a solution"), Ok(Some(PackLabel::UpTo(Share(0.08)))));
/// assert_eq!(read_pack_label("sodium 480 mg per 100 g"), Ok(Some(PackLabel::Sodium(480.0))));
/// ```
pub fn read_pack_label(typed: &str) -> Result<Option<PackLabel>, PackLabelError> {
    let short = || typed.trim().chars().take(40).collect::<String>();
    let lower = in_figures(&typed.trim().to_lowercase()).replace("per cent", "%").replace("percent", "%");
    let text = lower.trim_start_matches("label").trim_start_matches([':', ' ']).trim().to_owned();
    if matches!(text.as_str(), "none" | "nothing" | "no" | "nothing added" | "no added solution" | "not injected" | "no solution") {
        return Ok(None);
    }
    let checked = |label: PackLabel| match label {
        PackLabel::Sodium(mg) if !(0.0..=3000.0).contains(&mg) => Err(PackLabelError::TooMuch(short())),
        PackLabel::UpTo(share) if !(0.0..=0.5).contains(&share.0) => Err(PackLabelError::TooMuch(short())),
        label => Ok(Some(label)),
    };
    let speaks_of = |words: &[&str]| words.iter().any(|word| text.contains(word));
    if let Some(percent) = before_percent(&text) {
        if speaks_of(&["solution", "brine", "broth", "up to", "water", "inject", "pumped", "enhanced", "marinade", "retained"]) {
            return checked(PackLabel::UpTo(Share(percent / 100.0)));
        }
        if speaks_of(&["salt"]) {
            return checked(PackLabel::Sodium(percent * 1000.0 / SALT_PER_SODIUM));
        }
        let n = figure(percent);
        return Err(PackLabelError::TwoWays(TwoWays::new(typed, format!("up to {n} % solution"), format!("{n} g salt per 100 g"))));
    }
    let (mass, per) = text.split_once("per ").or_else(|| text.split_once('/')).map_or((text.as_str(), None), |(a, b)| (a, Some(b)));
    let refused = || PackLabelError::NotALabel(short());
    let (number, unit) = first_amount(mass).ok_or_else(refused)?;
    let salt = mass.contains("salt");
    let mg = match unit.as_str() {
        "mg" => number,
        "g" => number * 1000.0,
        // A bare number is milligrams of sodium, as labels print it.
        "" if !salt && number >= 30.0 => number,
        _ => return Err(refused()),
    };
    let sodium = if salt { mg / SALT_PER_SODIUM } else { mg };
    if let Some(serving) = per {
        let serving = serving_g(serving).ok_or_else(refused)?;
        return checked(PackLabel::Sodium(sodium / serving * 100.0));
    }
    let what = if salt { "salt" } else { "sodium" };
    let unit = if unit.is_empty() { "mg" } else { &unit };
    let written = |per: &str| format!("{} {unit} {what} per {per}", figure(number));
    Err(PackLabelError::TwoWays(TwoWays::new(typed, written("100 g"), written("4 oz (112 g)"))))
}

fn figure(value: f64) -> String {
    format!("{value:.3}").trim_end_matches('0').trim_end_matches('.').to_owned()
}

fn before_percent(text: &str) -> Option<f64> {
    let (before, _) = text.split_once('%')?;
    let before = before.trim_end();
    let number = before.rsplit(|c: char| !(c.is_ascii_digit() || matches!(c, '.' | ','))).next()?;
    number.replace(',', ".").parse().ok().filter(|n: &f64| n.is_finite())
}

fn first_amount(text: &str) -> Option<(f64, String)> {
    let at = text.find(|c: char| c.is_ascii_digit())?;
    let minus = text[..at].trim_end().ends_with(['-', '−']);
    let (number, unit, _) = leading_amount(&text[at..])?;
    let unit = if matches!(unit.as_str(), "sodium" | "salt" | "na") { String::new() } else { unit };
    (!minus).then_some((number, unit))
}

/// Grams of `100 g`, `4 oz (112 g)`, `serving (112 g)`, `4 oz`.
fn serving_g(text: &str) -> Option<f64> {
    let inside = text.split_once('(').map(|(_, rest)| rest.trim_end_matches(')'));
    let read = |text: &str| {
        let at = text.find(|c: char| c.is_ascii_digit())?;
        let (number, unit, _) = leading_amount(&text[at..])?;
        Some(number * grams_a_unit(&unit)?).filter(|g| *g > 0.0)
    };
    inside.and_then(read).or_else(|| read(text))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::Cut;
    use crate::units::{MassIn, grams};

    #[test]
    fn up_to_eight_per_cent_is_a_range() {
        // By hand: 8 % of 5 kg is 400 g of brine; at 3 to 6 % salt that is 12 to 24 g, in the middle 18.
        let turkey = Cut::find("turkey-whole").unwrap();
        let label = PackLabel::UpTo(Share(0.08));
        let (low, high) = label.band(&turkey, grams(5000.0));
        assert!((low.in_g() - 12.0).abs() < 1e-9 && (high.in_g() - 24.0).abs() < 1e-9);
        assert!((label.salt_inside(&turkey, grams(5000.0)).in_g() - 18.0).abs() < 1e-9);
        // A label that was read has no band.
        let read = PackLabel::Sodium(240.0).band(&turkey, grams(5000.0));
        assert!((read.0.in_g() - 21.608).abs() < 0.01 && read.0 == read.1);
    }
}
