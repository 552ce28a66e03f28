//! What is said of the piece: its portions, what the butcher did to it, how it thaws, what was done already.

use crate::method::StepKind;
use crate::units::{GramsPerKg, Length, Mass};
use jiff::Timestamp;

/// One portion of a dish.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Portion {
    /// Its weight.
    pub weight: Mass,
    /// Its own thickness, if it differs.
    pub thickness: Option<Length>,
    /// Its own dose, if it differs.
    pub dose: Option<GramsPerKg>,
}

/// Cuts the butcher or a machine made into the skin or the fat cap.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum BoughtScoring {
    /// They stop in the fat.
    IntoFat,
    /// They reach the lean: the piece is no longer intact.
    IntoLean,
}

impl BoughtScoring {
    /// Stable names.
    pub const NAMES: [&str; 2] = ["into-fat", "into-lean"];

    /// By its stable name.
    pub fn find(name: &str) -> Option<Self> {
        [Self::IntoFat, Self::IntoLean].into_iter().zip(Self::NAMES).find(|(_, id)| *id == name).map(|(found, _)| found)
    }
}

/// A step already done when the plan is asked for.
#[derive(Debug, Clone, PartialEq)]
pub struct Done {
    /// What was done.
    pub kind: StepKind,
    /// Which task of that kind, where it was named; `None` means all of them.
    pub task: Option<String>,
    /// When it ended.
    pub at: Timestamp,
    /// Grams of salt, for a salting; unknown means the whole dose.
    pub salt: Option<Mass>,
}

/// Dry salt brushed off again.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct BrushedOff {
    /// The moment it came off.
    pub at: Timestamp,
    /// Sodium chloride that came off.
    pub salt: Mass,
}

/// How what is frozen thaws.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum Thawing {
    /// In the refrigerator, whole, before anything is done to it.
    #[default]
    Refrigerator,
    /// Under cold water, and cooked at once.
    Water,
    /// In the refrigerator; salted once its outside is soft, and the rest of it thaws under the salt.
    Salted,
}

impl Thawing {
    /// Stable names.
    pub const NAMES: [&str; 3] = ["refrigerator", "water", "refrigerator-salted"];

    /// Stable name.
    pub fn id(self) -> &'static str {
        Self::NAMES[self as usize]
    }

    /// By its name.
    pub fn find(id: &str) -> Option<Self> {
        [Self::Refrigerator, Self::Water, Self::Salted].into_iter().find(|way| way.id() == id)
    }
}
