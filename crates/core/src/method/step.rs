//! Steps as types: what is done, where, with which hands, and until what.

use crate::units::{Length, LengthIn, Temperature, Time};
use std::borrow::Cow;

/// What is done.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum StepKind {
    /// In the refrigerator until no ice is left.
    Thaw,
    /// Hands washed, tools out, salt weighed.
    LayOut,
    /// Towels, firmly, twice.
    Dry,
    /// Strokes through the skin, or into the fat cap.
    Score,
    /// Holes through the skin.
    Pierce,
    /// Cuts into the lean side.
    Groove,
    /// The breast skin opened with the fingers.
    Loosen,
    /// The weighed salt goes on.
    Salt,
    /// Hands washed before the refrigerator door is touched.
    Wash,
    /// In the cold.
    Chill,
    /// The oven comes up.
    Preheat,
    /// Standing out.
    Temper,
    /// Loose salt off, dry again.
    BrushDry,
    /// The stage that waits for the core.
    Roast,
    /// The fierce stage that finishes the skin.
    Grill,
    /// Off the heat.
    Rest,
    /// Knife and board, and to the table.
    Carve,
}

impl StepKind {
    /// Every kind, in the order of the work.
    pub const ALL: [Self; 17] = [
        Self::Thaw,
        Self::LayOut,
        Self::Dry,
        Self::Score,
        Self::Pierce,
        Self::Groove,
        Self::Loosen,
        Self::Salt,
        Self::Wash,
        Self::Chill,
        Self::Preheat,
        Self::Temper,
        Self::BrushDry,
        Self::Roast,
        Self::Grill,
        Self::Rest,
        Self::Carve,
    ];

    /// Stable kebab-case name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Thaw => "thaw",
            Self::LayOut => "lay-out",
            Self::Dry => "dry",
            Self::Score => "score",
            Self::Pierce => "pierce",
            Self::Groove => "groove",
            Self::Loosen => "loosen",
            Self::Salt => "salt",
            Self::Wash => "wash",
            Self::Chill => "chill",
            Self::Preheat => "preheat",
            Self::Temper => "temper",
            Self::BrushDry => "brush-dry",
            Self::Roast => "roast",
            Self::Grill => "grill",
            Self::Rest => "rest",
            Self::Carve => "carve",
        }
    }

    /// Looks a kind up by its stable name.
    pub fn find(id: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|kind| kind.id() == id)
    }
}

/// Where the piece is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Place {
    /// On the board, out of the cold.
    Bench,
    /// In the refrigerator.
    Refrigerator,
    /// In the oven or on the grill.
    Fire,
    /// Resting, carving, eating.
    Table,
}

impl Place {
    /// Stable name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Bench => "bench",
            Self::Refrigerator => "refrigerator",
            Self::Fire => "fire",
            Self::Table => "table",
        }
    }
}

/// Whether hands have touched raw meat.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Hands {
    /// May type, open doors, reach into the tub.
    Clean,
    /// May touch nothing clean.
    Raw,
}

/// Part of the plan a step belongs to.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Phase {
    /// In the refrigerator before the work: thawing.
    Thawing,
    /// Before the cold.
    Before,
    /// The cold itself.
    Cold,
    /// After it.
    After,
    /// Beside the step that follows, ending with it: preheating.
    Beside,
}

/// The one number of a step, as it is shown across the kitchen.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Figure {
    /// Digits.
    pub value: String,
    /// Unit.
    pub unit: &'static str,
}

/// A step without times.
#[derive(Debug, Clone, PartialEq)]
pub struct Step {
    /// What is done.
    pub kind: StepKind,
    /// Part of the plan.
    pub phase: Phase,
    /// One line, as said across the kitchen.
    pub title: String,
    /// Where the piece is meanwhile.
    pub place: Place,
    /// How long it takes.
    pub takes: Time,
    /// Minutes of hands within it.
    pub hands_on: Time,
    /// Whether hands are raw in it.
    pub hands: Hands,
    /// The one number.
    pub figure: Option<Figure>,
    /// Air temperature, for a step in the heat.
    pub air: Option<Temperature>,
    /// Condition that really ends it.
    pub until: Option<String>,
    /// Tools to have out.
    pub needs: Vec<Cow<'static, str>>,
    /// The rest of what a cook needs to know.
    pub detail: String,
}

/// A raw-handed step on the bench whose hands-on time is its whole length.
pub(super) fn step(kind: StepKind, title: &str, takes: Time) -> Step {
    Step {
        kind,
        phase: Phase::Before,
        title: title.into(),
        place: Place::Bench,
        takes,
        hands_on: takes,
        hands: Hands::Raw,
        figure: None,
        air: None,
        until: None,
        needs: vec![],
        detail: String::new(),
    }
}

pub(super) fn figure(value: String, unit: &'static str) -> Figure {
    Figure { value, unit }
}

/// Millimetres cut (not rounded) to a tenth: a depth is never rounded towards the lean.
pub(super) fn one_decimal(depth: Length) -> String {
    let tenths = (depth.in_mm() * 10.0 + 1e-6).floor();
    if tenths % 10.0 == 0.0 { format!("{:.0}", tenths / 10.0) } else { format!("{:.1}", tenths / 10.0) }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::millimetres;

    #[test]
    fn a_depth_is_cut_never_rounded_towards_the_lean() {
        for (mm, text) in [(7.7, "7.7"), (8.0, "8"), (7.99, "7.9"), (6.04, "6")] {
            assert_eq!(one_decimal(millimetres(mm)), text);
        }
    }

    #[test]
    fn kinds_are_found_by_their_names_in_the_order_of_the_work() {
        assert!(StepKind::ALL.windows(2).all(|pair| pair[0] < pair[1]));
        assert!(StepKind::ALL.into_iter().all(|kind| StepKind::find(kind.id()) == Some(kind)));
        assert_eq!(StepKind::find("dance"), None);
    }
}
