//! What is said of the heat: its stages, its finish, standing out, rest.

use crate::fire::{FireStage, HeatSource, HeatWord, Hottest, How, Resting, StageEnd};
use crate::piece::{Cut, Family, Species};
use crate::units::{Temperature, Time, celsius};

/// A heat as it was said.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum AirAsk {
    /// Measured.
    At(Temperature),
    /// In a word: a guess, but for "max" where the household said how hot it gets.
    Word(HeatWord),
}

/// How done it is to be, in a word.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum FinishStyle {
    /// Red in the middle.
    Rare,
    /// Pink.
    Medium,
    /// As it is sliced: done, and still juicy.
    Sliced,
    /// A fork meets no resistance.
    Tender,
    /// No pink left.
    WellDone,
}

impl FinishStyle {
    /// All of them, from the rarest.
    pub const ALL: [Self; 5] = [Self::Rare, Self::Medium, Self::Sliced, Self::Tender, Self::WellDone];

    /// Stable name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Rare => "rare",
            Self::Medium => "medium",
            Self::Sliced => "sliced",
            Self::Tender => "tender",
            Self::WellDone => "well-done",
        }
    }

    /// By its name.
    pub fn find(id: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|style| style.id() == id)
    }

    /// What it is in the core of this cut (common practice, TRADE 9.6; rare, medium and well done from memory). `None` where
    /// nobody cooks it so: whole birds are never pink.
    pub fn core(self, cut: Cut) -> Option<Temperature> {
        let pink = cut.is_eaten_pink();
        let c = match (self, cut.species) {
            (Self::Rare, _) if pink => 52.0,
            (Self::Medium, _) if pink => 58.0,
            (Self::Medium, Species::Pork) => 63.0,
            (Self::Rare | Self::Medium, _) => return None,
            (Self::Sliced, Species::Pork) if cut.family == Family::SkinSlab => 72.0,
            (Self::Sliced, Species::Pork) if cut.family == Family::Joint => 68.0,
            (Self::Sliced, _) if cut.finish_c > 85.0 => 75.0,
            (Self::Sliced, _) => cut.finish_c,
            (Self::Tender, _) if cut.family == Family::SkinSlab => 88.0,
            (Self::Tender, _) => 92.0,
            (Self::WellDone, Species::Poultry) => 80.0,
            (Self::WellDone, _) => 71.0,
        };
        Some(celsius(c))
    }
}

/// Where it is to end.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum FinishAsk {
    /// At so much in the core, after the rest.
    Core(Temperature),
    /// In a word.
    Style(FinishStyle),
}

/// One stage as the cook says it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct StageAsk {
    /// On something else than the rest of the heat.
    pub with: Option<HeatSource>,
    /// How hot.
    pub air: AirAsk,
    /// How the piece lies in it.
    pub how: How,
    /// What ends it.
    pub until: StageEnd,
    /// Turned so often.
    pub flip: Option<Time>,
}

impl StageAsk {
    pub(crate) fn whole(&self, usual: HeatSource, kitchen: Hottest) -> FireStage {
        let with = self.with.unwrap_or(usual);
        let (air, guessed) = match self.air {
            AirAsk::At(air) => (air, false),
            // How far it goes is known once somebody has said so.
            AirAsk::Word(HeatWord::Max) => (kitchen.of(with), kitchen.said(with).is_none()),
            AirAsk::Word(word) => (with.means(word, kitchen), true),
        };
        FireStage { with, air, guessed, how: self.how, until: self.until, flip: self.flip, opened: None, own: true }
    }
}

/// Everything said of the heat; what is `None` goes as the method and the cut have it.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct FireRequest {
    /// What gives the heat.
    pub with: Option<HeatSource>,
    /// From the refrigerator to the heat, in all.
    pub temper: Option<Time>,
    /// Until the heat is up.
    pub preheat: Option<Time>,
    /// The stages.
    pub stages: Option<Vec<StageAsk>>,
    /// Where it is to end.
    pub finish: Option<FinishAsk>,
    /// Rest after the heat.
    pub rest: Option<Time>,
    /// How it rests.
    pub resting: Option<Resting>,
    /// Held warm at least and at most so long.
    pub hold: Option<(Time, Time)>,
    /// Cooked ahead and chilled: what heats it again.
    pub again: Option<StageAsk>,
}
