//! Everything a piece's steps are written from.

use crate::ask::{Added, Thawing};
use crate::fire::{Again, FinishTarget, FireAnswer, FireStage, HeatPoint, Hottest, PortionHeat, Resting};
use crate::method::Method;
use crate::piece::Cut;
use crate::salt::{CoverPlan, FaceGrams};
use crate::skin::drying::FridgePlacement;
use crate::skin::{KnifeAsk, KnifeWork};
use crate::units::{Mass, Time, TimeIn};

/// Everything a method needs to write its steps.
#[derive(Debug, Clone)]
pub struct Recipe<'a> {
    /// The school whose steps are laid out.
    pub method: &'a Method,
    /// The cut they are done to.
    pub cut: Cut,
    /// Of the chosen salt for each face, as the scale shows it.
    pub grams: &'a [FaceGrams],
    /// What goes on the scale.
    pub to_weigh: Mass,
    /// Name of the salt.
    pub salt: &'a str,
    /// A mix that goes on too: its name and grams.
    pub mix: Option<(&'a str, Mass)>,
    /// Where that mix is.
    pub mix_lies: MixLies,
    /// Knife and pick, where there is something to open.
    pub knife: Option<(&'a KnifeAsk, &'a KnifeWork)>,
    /// Hours in the cold.
    pub cold: Time,
    /// The hours there that the cook asked for.
    pub hours_asked: Option<Time>,
    /// How long it is kept there, cooked, where it is heated again.
    pub kept: Time,
    /// How long it still waits there, where the method has no stay of its own.
    pub waits: Time,
    /// Whether it lies in the cold already, salted.
    pub already_cold: bool,
    /// How long it thaws first, if frozen.
    pub thaw: Option<Time>,
    /// How it thaws.
    pub thawing: Thawing,
    /// How much of the thaw still goes on in the cold, under the salt.
    pub thaws_on: Option<Time>,
    /// Standing out, stages, rest.
    pub heat: RecipeHeat<'a>,
    /// How long what waits is kept hot from the meal on.
    pub kept_hot: Option<Time>,
    /// What the fire gives.
    pub fire: &'a FireAnswer,
    /// Where each place has to arrive, and be pulled.
    pub targets: &'a [FinishTarget],
    /// How it lies in the cold.
    pub lies: FridgePlacement,
    /// Pieces in the dish.
    pub pieces: usize,
    /// Of several, what the scale shows of loose salt for each.
    pub each: &'a [Mass],
    /// Skin or fat over it: rules what is dried and wiped.
    pub surface: Surface,
    /// Whether knife or pick reach the lean.
    pub into_lean: bool,
    /// Salty things that go on too.
    pub sauces: &'a [Sauce],
    /// Salt on the skin as a tool.
    pub cover: Option<&'a CoverPlan>,
}

impl Recipe<'_> {
    /// Whether it lies in the refrigerator for a while before: with no hours there is nothing to come out of.
    pub(super) fn comes_out(&self) -> bool {
        self.hours_asked.is_none_or(|hours| hours.in_min() > 0.5)
    }
}

/// Where a mix is while it works.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum MixLies {
    /// On the faces, the skin left clean; or there is none.
    On,
    /// On the skin too.
    OnSkinToo,
    /// The piece lies in it.
    Round,
}

/// The heat as steps are written for it.
#[derive(Debug, Clone)]
pub struct RecipeHeat<'a> {
    /// Its stages.
    pub stages: &'a [FireStage],
    /// Until it is up.
    pub preheat: Time,
    /// From the refrigerator to the heat, the work on the bench included.
    pub temper: Time,
    /// Whether the cook said so.
    pub temper_said: bool,
    /// Rest after it.
    pub rest: Time,
    /// How it rests, where the cook said so.
    pub resting: Option<Resting>,
    /// Held warm after the rest, at least and at most.
    pub hold: Option<(Time, Time)>,
    /// How long it is planned to be held: so long that it may take its longest in the heat.
    pub held: Time,
    /// Its surface and core from the heat to the end of the rest.
    pub curve: &'a [HeatPoint],
    /// Since it went into the heat: when its skin is done, where that is so early that it wants a shield.
    pub shield: Option<Time>,
    /// Each portion's own minutes and pull; empty for one.
    pub portions: &'a [PortionHeat],
    /// What the cook adds.
    pub added: &'a [Added],
    /// What the household knows of its appliances.
    pub own: Hottest,
    /// Whether there is to be smoke of no wood.
    pub no_wood: bool,
    /// Cooked ahead: how it is heated again.
    pub again: Option<&'a Again>,
}

/// Something salty and wet that goes on, or that the piece lies in.
#[derive(Debug, Clone, PartialEq)]
pub struct Sauce {
    /// What it is, with its amount.
    pub what: String,
    /// How much of it goes on.
    pub weight: Mass,
    /// Salt it brings.
    pub salt: Mass,
    /// The faces it goes over, in words.
    pub faces: String,
    /// How long the piece lies in it; `None` where it goes on.
    pub bath: Option<Time>,
    /// So long into the cold it goes on; `None` with the salt.
    pub at: Option<Time>,
    /// What its task is called.
    pub title: &'static str,
    /// Whether the cook brought it; what is the method's own has a task of its own.
    pub own: bool,
    /// Which of the mixes besides it is, in their order; none: a sauce.
    pub mix: Option<usize>,
}

impl Sauce {
    /// Whether a task is written for it: what the cook brings, and what a piece lies in. The rest of a method's own has a task of its own
    /// in the document.
    pub(super) fn has_a_task_for_itself(&self) -> bool {
        self.own || self.bath.is_some()
    }
}

/// What the outside of a piece is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Surface {
    /// Skin, to be crackled or rendered.
    Skin,
    /// A fat cap or edge.
    Fat,
    /// Bare lean on top.
    Lean,
}

impl Surface {
    pub(super) fn noun(self) -> &'static str {
        match self {
            Self::Skin => "skin",
            Self::Fat => "fat",
            Self::Lean => "meat",
        }
    }
}
