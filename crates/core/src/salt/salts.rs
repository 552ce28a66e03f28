//! The salts by kind, and a household's own. By weight they salt alike; by the spoon they differ threefold.

use super::curing::{CuringName, curing_name};
use crate::refusing::{Refused, says_its_parts};
use std::borrow::Cow;

/// One salt: a row of the table, or one that a household has weighed itself.
#[derive(Debug, Clone, PartialEq)]
pub struct Salt {
    /// Stable kebab-case name; `own` for a household's.
    pub id: Cow<'static, str>,
    /// What a cook calls it.
    pub name: Cow<'static, str>,
    /// Grams per level US teaspoon (4.92892 mL).
    pub g_per_tsp: f64,
    /// Share of sodium chloride, 0–1.
    pub purity: f64,
    /// Share of potassium chloride, 0–1: it is not counted as salt.
    pub potassium: f64,
    /// Standard deviation from spoon to spoon, g; known only of a salt that was weighed.
    pub spread_g: Option<f64>,
    /// One pinch of the cook's own fingers, g.
    pub pinch_g: Option<f64>,
    /// Where the spoon weight comes from.
    pub source: Cow<'static, str>,
}

const fn row(id: &'static str, name: &'static str, g_per_tsp: f64, purity: f64, source: &'static str) -> Salt {
    Salt {
        id: Cow::Borrowed(id),
        name: Cow::Borrowed(name),
        g_per_tsp,
        purity,
        potassium: 0.0,
        spread_g: None,
        pinch_g: None,
        source: Cow::Borrowed(source),
    }
}

const MEM: &str = "common practice";
const USDA: &str = "USDA FoodData Central, “Salt, table”: 1 tsp 6 g, 1 tbsp 18 g";

/// Every salt this kitchen knows by kind.
pub static SALTS: [Salt; 8] = [
    row("fine-table", "fine table salt", 6.0, 1.0, USDA),
    row("fine-sea", "fine sea salt", 5.6, 1.0, MEM),
    row("fine-rock", "fine rock salt", 5.7, 1.0, MEM),
    row("dense-kosher", "dense kosher salt", 4.8, 1.0, MEM),
    row("coarse-sea", "coarse sea salt", 5.0, 1.0, MEM),
    row("clay-coarse", "clay-mixed coarse salt", 5.0, 0.97, MEM),
    row("light-flake-kosher", "light-flake kosher salt", 2.8, 1.0, MEM),
    row("pyramid-flakes", "pyramid flakes", 2.0, 1.0, MEM),
];

/// Why a salt cannot be used. Each sentence says what was typed, what is allowed and what to do.
#[derive(Debug, Clone, PartialEq)]
pub enum SaltError {
    /// No name, or an endless one.
    Name,
    /// Curing salt.
    Curing(String),
    /// More or less sodium chloride than there can be.
    Purity(f64),
    /// Sodium and potassium together more than all of it.
    Blend(f64, f64),
    /// A spoon no salt fills.
    Spoon(f64),
    /// A pinch no hand holds.
    Pinch(f64),
}

impl SaltError {
    /// What was typed, what is allowed, what to do.
    pub fn refused(&self) -> Refused {
        match self {
            Self::Name => Refused::new("a salt without a name", "a name of 1 to 60 letters", "Call it what you call it, like grey jar."),
            Self::Curing(name) => Refused::new(
                format!("“{name}” sounds like curing salt"),
                "plain salt only",
                "Curing salt carries nitrite and is dosed differently: it can poison at these amounts. Take plain salt.",
            ),
            Self::Purity(percent) => Refused::new(format!("{percent:.0} % sodium chloride"), "between 5 and 100 %", "The label says it."),
            Self::Blend(sodium, potassium) => Refused::new(
                format!("{sodium:.0} % sodium chloride and {potassium:.0} % potassium chloride are more than 100 % together"),
                "100 % together at most",
                "Read the label again.",
            ),
            Self::Spoon(g) => Refused::new(format!("{g} g a teaspoon"), "between 0.8 and 8 g", "Weigh ten level spoons."),
            Self::Pinch(g) => Refused::new(format!("a pinch of {g} g"), "between 0.05 and 5 g", "Weigh ten pinches."),
        }
    }
}
says_its_parts!(SaltError);

impl Salt {
    /// Looks a salt of the table up by its stable name.
    pub fn find(id: &str) -> Option<Self> {
        SALTS.iter().find(|row| row.id == id).cloned()
    }

    /// A household's own salt, weighed on its own scale.
    ///
    /// `g_per_tsp` 0.8–8 g a level US teaspoon; `purity` and `potassium` are shares of sodium and potassium chloride,
    /// 0.05–1 and 0–1, together at most 1; `pinch_g` 0.05–5 g.
    pub fn own(
        name: &str,
        g_per_tsp: f64,
        purity: f64,
        potassium: f64,
        spread_g: Option<f64>,
        pinch_g: Option<f64>,
    ) -> Result<Self, SaltError> {
        let name = name.trim();
        if name.is_empty() || name.chars().count() > 60 {
            return Err(SaltError::Name);
        }
        if curing_name(name) == CuringName::Curing {
            return Err(SaltError::Curing(name.to_owned()));
        }
        Self::as_weighed(name, g_per_tsp, purity, potassium, spread_g, pinch_g)
    }

    /// The same whatever its name: for a salt that a kept piece was planned with before its name was refused.
    pub fn as_weighed(
        name: &str,
        g_per_tsp: f64,
        purity: f64,
        potassium: f64,
        spread_g: Option<f64>,
        pinch_g: Option<f64>,
    ) -> Result<Self, SaltError> {
        if !(0.05..=1.0).contains(&purity) {
            return Err(SaltError::Purity(purity * 100.0));
        }
        if !(0.0..=1.0).contains(&potassium) || purity + potassium > 1.0 + 1e-9 {
            return Err(SaltError::Blend(purity * 100.0, potassium * 100.0));
        }
        if !(0.8..=8.0).contains(&g_per_tsp) {
            return Err(SaltError::Spoon(g_per_tsp));
        }
        if let Some(pinch) = pinch_g.filter(|g| !(0.05..=5.0).contains(g)) {
            return Err(SaltError::Pinch(pinch));
        }
        Ok(Self {
            id: "own".into(),
            name: name.trim().to_owned().into(),
            g_per_tsp,
            purity,
            potassium,
            spread_g,
            pinch_g,
            source: "weighed in this kitchen".into(),
        })
    }

    /// Grams of sodium chloride in a gram of it.
    pub fn sodium_chloride(&self) -> f64 {
        self.purity
    }

    /// Whether potassium chloride stands in for a part of it: a health note belongs beside it.
    pub fn is_potassium_blend(&self) -> bool {
        self.potassium > 0.005
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    #[test]
    fn a_blend_is_half_salt() {
        let blend = Salt::own("half and half", 5.5, 0.5, 0.48, None, Some(0.4)).unwrap();
        assert!(blend.is_potassium_blend() && blend.sodium_chloride() == 0.5);
        assert!(!Salt::find("fine-sea").unwrap().is_potassium_blend());
    }

    #[rstest]
    #[case("", 5.0, 1.0, 0.0, None, "without a name")]
    #[case("pink curing salt", 5.0, 1.0, 0.0, None, "nitrite")]
    #[case("grey", 5.0, 1.3, 0.0, None, "130 % sodium chloride; allowed: between 5 and 100 %")]
    #[case("grey", 5.0, 0.7, 0.5, None, "more than 100 % together")]
    #[case("grey", 50.0, 1.0, 0.0, None, "50 g a teaspoon")]
    #[case("grey", 5.0, 1.0, 0.0, Some(40.0), "pinch of 40 g")]
    fn what_is_no_salt_is_named(
        #[case] name: &str,
        #[case] tsp: f64,
        #[case] purity: f64,
        #[case] potassium: f64,
        #[case] pinch: Option<f64>,
        #[case] says: &str,
    ) {
        let error = Salt::own(name, tsp, purity, potassium, None, pinch).unwrap_err().to_string();
        assert!(error.contains(says), "{error}");
    }
}
