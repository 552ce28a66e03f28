//! A method's document as a value: what a school says of its salt, its heat and its tasks.

use super::kind::StepKind;
use super::task::{Hands, Place, SaltEffect};
use crate::ask::{CoverAsk, FireRequest, MixUse, SkinAsk};
use crate::fire::{COOLS_MIN, FireStage, HeatSource, HeatWord, Hottest, How, Look, StageEnd, kept_cooked};
use crate::piece::{Cut, Family, Reshape, Species};
use crate::salt::{Basis, ChillHours, LedgerEntry, Salt, SaltOn};
use crate::skin::drying::FridgePlacement;
use crate::units::{GramsPerKg, Time, celsius, minutes};
use std::borrow::Cow;
use std::sync::Arc;

/// Words of a document: shipped ones stand in the table, a cook's own came with the request.
pub type Words = Cow<'static, str>;

/// One school of practice: a method's document.
#[derive(Debug, Clone, PartialEq)]
pub struct School {
    /// Stable kebab-case name.
    pub id: Words,
    /// Counts up when it changes.
    pub version: u32,
    /// What a cook calls it.
    pub name: Words,
    /// Why one would choose it.
    pub why: Words,
    /// Where it comes from.
    pub source: Words,
    /// The cuts it is written for.
    pub cuts: Vec<Cut>,
    /// Why it is not for others.
    pub not: Vec<(Cut, Words)>,
    /// What it is after.
    pub wants: Wants,
    /// Its own hours, beating the house table: shortest, ideal, longest.
    pub own_hours: Option<(f64, f64, f64)>,
    /// What it says where the cook says nothing.
    pub says: Says,
    /// Its tasks.
    pub tasks: Vec<TaskRow>,
}

/// What a method is after: its hours and warnings go by that.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Wants {
    /// Skin that crackles, where the piece has some.
    pub crackling: bool,
    /// A rest in the cold.
    pub cold_rest: bool,
}

/// What a method says of the piece, in the fields of a request.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Says {
    /// Its own salt; `None` takes the usual one.
    pub salt: Option<Salt>,
    /// What its dose is counted on.
    pub basis: Option<Basis>,
    /// Each face's share of the salt.
    pub shares: Option<Vec<(String, f64)>>,
    /// Its own dose; `None` takes the cut's.
    pub dose: Option<GramsPerKg>,
    /// Whether the skin stays bare.
    pub bare_skin: bool,
    /// The faces it salts; `None` means each by its kind.
    pub faces: Option<Vec<String>>,
    /// Salt on the skin as a tool.
    pub cover: Option<CoverAsk>,
    /// Its rub, paste or marinade.
    pub mix: Option<MixUse>,
    /// Salty things of its own, in grams for each kilogram.
    pub ledger: Vec<LedgerEntry>,
    /// Knife and pick.
    pub knife: Option<SkinAsk>,
    /// How it lies in the cold.
    pub lies: Option<FridgePlacement>,
    /// Its heat; stages that are `None` are the cut's own.
    pub fire: FireRequest,
}

/// What a task does beside taking time.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Effects {
    /// Salt goes on, or comes off.
    pub salt: Option<SaltEffect>,
    /// How it lies from then on.
    pub lies: Option<FridgePlacement>,
    /// What shape it takes.
    pub shape: Option<Reshape>,
    /// Whether the lean is opened: no longer intact.
    pub opens_lean: bool,
}

/// One task of a method's document. What is `None` goes as the kind of task usually does.
#[derive(Debug, Clone, PartialEq)]
pub struct TaskRow {
    /// Its name within the document.
    pub id: Words,
    /// What is done.
    pub kind: StepKind,
    /// The tasks it comes after.
    pub after: Vec<Words>,
    /// The task it is done beside, in no row.
    pub beside: Option<Words>,
    /// Hours into the cold at which it is done, beside that.
    pub at_h: Option<f64>,
    /// Where the piece is, for a task that is said as it stands.
    pub place: Option<Place>,
    /// Shortest, usual and longest, min.
    pub minutes: Option<[f64; 3]>,
    /// What really ends it.
    pub until: Option<Words>,
    /// Minutes of hands in it.
    pub hands_on: Option<f64>,
    /// Clean or raw.
    pub hands: Option<Hands>,
    /// Tools to have out.
    pub needs: Vec<Words>,
    /// One line, as said across the kitchen.
    pub title: Option<Words>,
    /// What a cook needs to know.
    pub detail: Option<Words>,
    /// The number it shows, where that is not the usual one of its kind.
    pub figure: Option<Shows>,
    /// What it does.
    pub effects: Effects,
    /// Cautions that belong to it, by their codes.
    pub cautions: Vec<Words>,
}

/// A number that a task of a document may show.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Shows {
    /// Grams of salt that are weighed.
    Salt,
    /// Grams of a crust, a bed, a draw.
    Cover,
    /// Grams of a mix.
    Mix,
    /// Grams of the first salty thing of its own ledger.
    Ledger,
    /// Hours in the cold.
    Hours,
    /// Its own minutes.
    Minutes,
}

impl Shows {
    /// All of them with their names.
    pub const NAMED: [(Self, &'static str); 6] = [
        (Self::Salt, "salt.g"),
        (Self::Cover, "cover.g"),
        (Self::Mix, "mix.g"),
        (Self::Ledger, "ledger.g"),
        (Self::Hours, "hours"),
        (Self::Minutes, "minutes"),
    ];

    /// Stable name.
    pub fn id(self) -> &'static str {
        Self::NAMED[self as usize].1
    }

    /// By its name.
    pub fn find(id: &str) -> Option<Self> {
        Self::NAMED.iter().find(|(_, name)| *name == id).map(|(shows, _)| *shows)
    }
}

/// How a method opens skin or fat cap.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Opens {
    /// Holes.
    Pierced,
    /// Strokes.
    Scored,
    /// Left whole.
    Whole,
}

/// A school, cheap to copy.
#[derive(Debug, Clone, PartialEq)]
pub struct Method(Arc<School>);

impl std::ops::Deref for Method {
    type Target = School;
    fn deref(&self) -> &School {
        &self.0
    }
}

impl From<School> for Method {
    /// What it is not for is in no order of its own: written out and read again it is the same method.
    fn from(mut school: School) -> Self {
        school.not.sort_by_key(|(cut, _)| cut.id);
        Self(Arc::new(school))
    }
}

impl School {
    /// Whether it is written for this cut.
    pub fn fits(&self, cut: Cut) -> bool {
        self.cuts.contains(&cut)
    }

    /// Why it is not for this cut; `None` where it is.
    pub fn why_not(&self, cut: Cut) -> Option<&str> {
        if self.fits(cut) {
            return None;
        }
        Some(self.not.iter().find(|(other, _)| *other == cut).map_or("it is written for other cuts", |(_, why)| why))
    }

    /// Its own hours, where it has some.
    pub fn chill_hours(&self) -> Option<ChillHours> {
        if !self.rests_in_the_cold() {
            return Some(ChillHours::of(0.0, 0.0, 0.0));
        }
        self.own_hours.map(|(shortest, ideal, longest)| ChillHours::of(shortest, ideal, longest))
    }

    /// Whether a task of this kind stands in it.
    pub fn has(&self, kind: StepKind) -> bool {
        self.tasks.iter().any(|task| task.kind == kind)
    }

    /// Whether the piece lies in the refrigerator in it, beside thawing.
    pub fn rests_in_the_cold(&self) -> bool {
        self.has(StepKind::Chill)
    }

    /// Whether it is the cold that dries its skin: in the open, or hung; under salt or a weight that is not what it is for.
    pub fn dries_in_the_cold(&self) -> bool {
        self.rests_in_the_cold() && matches!(self.lies(), None | Some(FridgePlacement::Open | FridgePlacement::Hung))
    }

    /// Whether it salts before a rest in the cold, leaves the lean whole and says nothing else of its own but what stays bare.
    pub(super) fn is_plain(&self) -> bool {
        let says = Says { bare_skin: self.says.bare_skin, ..Says::default() };
        self.says == says && self.rests_in_the_cold() && !self.salts_after_the_cold() && !self.opens_lean()
    }

    /// The kind of a task by its name: as every plan has it, or as this document calls it.
    pub fn kind_of(&self, task: &str) -> Option<StepKind> {
        StepKind::of_task(task).or_else(|| self.tasks.iter().find(|row| row.id == task).map(|row| row.kind))
    }

    /// How long its heat comes up, where the row of that task says so.
    pub fn comes_hot_in(&self) -> Option<Time> {
        let row = self.tasks.iter().find(|task| task.kind == StepKind::Preheat)?;
        row.minutes.map(|[_, usual, _]| minutes(usual))
    }

    /// Whether it is cooked ahead, chilled and heated again.
    pub fn heats_again(&self) -> bool {
        self.has(StepKind::HeatAgain)
    }

    /// How long it is kept in the refrigerator, cooked, where it is: shortest, ideal, longest.
    pub fn kept_cooked(&self) -> Option<[Time; 3]> {
        let row = self.tasks.iter().find(|task| task.kind == StepKind::ChillCooked).filter(|_| self.heats_again())?;
        Some(row.minutes.map_or_else(kept_cooked, |span| span.map(minutes)))
    }

    /// From the first heat to the refrigerator, where it is cooked ahead.
    pub fn cools(&self) -> Option<Time> {
        let row = self.tasks.iter().find(|task| task.kind == StepKind::Cool);
        let [_, usual, _] = row.and_then(|row| row.minutes).unwrap_or(COOLS_MIN);
        self.heats_again().then(|| minutes(if row.is_some() { usual } else { 0.0 }))
    }

    /// How it lies in the cold: as it says, or as the last task up to then leaves it.
    pub fn lies(&self) -> Option<FridgePlacement> {
        let cold = self.tasks.iter().position(|task| task.kind == StepKind::Chill)?;
        self.says.lies.or_else(|| self.tasks[..=cold].iter().rev().find_map(|task| task.effects.lies))
    }

    /// Whether its salt goes on only once the cold is over.
    pub fn salts_after_the_cold(&self) -> bool {
        let place = |kind| self.tasks.iter().position(|task| task.kind == kind);
        place(StepKind::Chill).zip(place(StepKind::Salt)).is_some_and(|(cold, salt)| salt > cold)
    }

    /// Where its salt goes.
    pub fn salt_on(&self) -> SaltOn {
        if self.says.bare_skin { SaltOn::BareSkin } else { SaltOn::AllFaces }
    }

    /// How it opens skin or fat cap.
    pub fn opens(&self) -> Opens {
        match (self.has(StepKind::Pierce), self.has(StepKind::Score)) {
            (true, _) => Opens::Pierced,
            (false, true) => Opens::Scored,
            (false, false) => Opens::Whole,
        }
    }

    /// Whether it opens the breast skin of this cut for salt: birds without a fat window.
    pub fn loosens(&self, cut: Cut) -> bool {
        cut.is_bird() && !cut.has_fat_window() && self.has(StepKind::Loosen)
    }

    /// Whether any of its tasks cuts into the lean.
    pub fn opens_lean(&self) -> bool {
        self.tasks.iter().any(|task| task.effects.opens_lean)
    }

    /// The changes of shape in it, before the salt (`true`) or only before the heat.
    pub fn shapes(&self) -> impl Iterator<Item = (bool, StepKind, Reshape)> + '_ {
        let salted = self.tasks.iter().position(|task| task.kind == StepKind::Salt).unwrap_or(usize::MAX);
        self.tasks.iter().enumerate().filter_map(move |(i, task)| Some((i < salted, task.kind, task.effects.shape?)))
    }

    /// Whether it wants the skin of this cut to crackle: a breast's is rendered from its own side and only crisps.
    pub fn crackles(&self, cut: Cut) -> bool {
        const BREAST_MM: f64 = 30.0;
        self.wants.crackling && !(cut.family == Family::SkinSlab && cut.thickness_mm.1 < BREAST_MM)
    }

    /// Its heat for this cut where it has none of its own: low until the core is there, then fierce where skin has to puff
    /// (TRADE 7).
    fn heat_of_the_cut(&self, cut: Cut) -> Vec<FireStage> {
        let core = |c| FireStage::of_a_method(celsius(c), StageEnd::Finish);
        let after = |c, min| FireStage::of_a_method(celsius(c), StageEnd::After(minutes(min)));
        let mut stages = vec![core(cut.low_c)];
        match cut.family {
            _ if !self.crackles(cut) => {}
            Family::Bird if cut.has_fat_window() => stages.push(after(230.0, 10.0)),
            _ if cut.has_fat_window() => stages.push(FireStage::of_a_method(celsius(245.0), StageEnd::Look(Look::Hollow))),
            _ => {}
        }
        stages
    }

    /// Its heat on an appliance, no hotter than that gets; `None` takes the method's own.
    ///
    /// What gets no hotter has no fierce stage. In a pan it is turned every four minutes, in a pot it simmers in its liquid
    /// (both our estimate).
    pub fn heat_on(&self, cut: Cut, with: Option<HeatSource>, kitchen: Hottest) -> Vec<FireStage> {
        if let Some(own) = &self.says.fire.stages {
            let usual = with.or(self.says.fire.with).unwrap_or_default();
            let capped = |stage: FireStage| {
                let most = kitchen.of(stage.with);
                FireStage { air: if stage.air > most { most } else { stage.air }, own: false, ..stage }
            };
            return own.iter().map(|ask| capped(ask.whole(usual, kitchen))).collect();
        }
        let with = with.or(self.says.fire.with).unwrap_or_default();
        let most = kitchen.of(with);
        let own = FireStage { with, ..FireStage::of_a_method(with.means(HeatWord::Medium, kitchen), StageEnd::Finish) };
        match with {
            HeatSource::Pan => vec![FireStage { how: How::Direct, flip: Some(minutes(4.0)), ..own }],
            HeatSource::Pot => vec![FireStage { how: How::InLiquid, ..own }],
            _ => {
                let capped = |air| if air > most { most } else { air };
                let mut stages: Vec<FireStage> =
                    self.heat_of_the_cut(cut).into_iter().map(|s| FireStage { with, air: capped(s.air), ..s }).collect();
                // What gets no hotter than it is already is no stage of its own.
                stages.dedup_by(|later, before| later.air <= before.air && later.until != StageEnd::Finish);
                stages
            }
        }
    }

    /// Rest after the heat (TRADE 9.7).
    pub fn rest(&self, cut: Cut) -> Time {
        self.says.fire.rest.unwrap_or_else(|| minutes(cut.rest_min))
    }

    /// Standing out before the heat: straight from the cold for poultry, half an hour else (TRADE 11.2).
    pub fn tempering(&self, cut: Cut) -> Time {
        if !self.has(StepKind::Temper) {
            return minutes(0.0);
        }
        minutes(if cut.species == Species::Poultry { 0.0 } else { 30.0 })
    }
}
