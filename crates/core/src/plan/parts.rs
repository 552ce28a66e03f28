//! The parts of a plan: grams, cold, skin, heat.

use crate::ask::Goal;
use crate::caution::Growing;
use crate::clock::StorageLimit;
use crate::fire::{Again, Crisp, FinishTarget, FireAnswer, FireStage, HeatPoint, HeatSource, PortionHeat, Resting, TradeTime};
use crate::salt::travel::Profile;
use crate::salt::{ChillHours, CoverPlan, Dose, FaceGrams, ScaledMix, Spoons};
use crate::units::{Dryness, Evenness, GramsPerKg, Length, Mass, Share, Time};
use jiff::Timestamp;

/// The grams.
#[derive(Debug, Clone)]
pub struct DosePlan {
    /// Target, ledger, remainder, as sodium chloride.
    pub dose: Dose,
    /// What the scale shows of the chosen salt: the remainder ÷ its share of sodium chloride.
    pub on_scale: Mass,
    /// What it would show at least and at most, where nobody knows how salty something is; counted is the middle.
    pub scale_between: Option<(Mass, Mass)>,
    /// That in US spoons of the chosen salt.
    pub spoons: Spoons,
    /// And in metric ones.
    pub metric_spoons: Spoons,
    /// And in the cook's own pinches, where they were weighed.
    pub pinches: Option<u32>,
    /// Where it goes, as sodium chloride.
    pub by_face: Vec<FaceGrams>,
    /// The portions, in the order of the request.
    pub by_portion: Vec<PortionPlan>,
    /// What the ledger holds.
    pub ledger: Vec<LedgerLineDone>,
    /// Sodium a serving.
    pub sodium_per_serving: Mass,
    /// The household's own mix, scaled.
    pub mix: Option<MixPlan>,
    /// Mixes besides, each with its face and hour.
    pub mixes: Vec<MixOn>,
    /// Salt on the skin as a tool.
    pub cover: Option<CoverPlan>,
}

/// One portion's own numbers.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct PortionPlan {
    /// Its weight.
    pub weight: Mass,
    /// Its thickness.
    pub thickness: Length,
    /// Its dose.
    pub dose: GramsPerKg,
    /// Sodium chloride still to go on it.
    pub salt: Mass,
}

/// A mix scaled to the piece.
#[derive(Debug, Clone, PartialEq)]
pub struct MixPlan {
    /// What the household calls it.
    pub name: String,
    /// Grams of sodium chloride in a gram of it.
    pub share: f64,
    /// How much of it, and of what.
    pub scaled: ScaledMix,
    /// How long the piece lies in it; `None` where it goes on.
    pub bath: Option<Time>,
    /// Grams of it a face: it goes where the loose salt goes.
    pub by_face: Vec<FaceGrams>,
    /// Sodium chloride in a gram of it, 0–1, whether it goes in or not.
    pub holds: f64,
    /// What a piece of this size carries of it at most.
    pub carries: Mass,
}

/// A mix besides, with its face and its hour.
#[derive(Debug, Clone, PartialEq)]
pub struct MixOn {
    /// What it is called.
    pub name: String,
    /// How much of it, and of what.
    pub scaled: ScaledMix,
    /// The face it goes on, by id; `None` on all that take salt.
    pub face: Option<String>,
    /// Hours after the first salt; `None` with it.
    pub at: Option<Time>,
    /// Sodium chloride in a gram of it, 0–1.
    pub holds: f64,
    /// What its faces carry of it at most.
    pub carries: Mass,
}

/// Who brings the salt of a ledger's line.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum LedgerFrom {
    /// A sauce, a mix: it goes on with the salt.
    Ingredient,
    /// The packer injected it.
    Packer,
    /// It lies on the meat already.
    AlreadyOn,
}

/// One source of salt that is in already.
#[derive(Debug, Clone, PartialEq)]
pub struct LedgerLineDone {
    /// Who brings it.
    pub from: LedgerFrom,
    /// What it is, with its amount.
    pub what: String,
    /// Salt it brings.
    pub salt: Mass,
    /// Share that ends in the meat.
    pub uptake: Share,
    /// Whether it is an estimate rather than weighed.
    pub estimate: bool,
    /// How long the piece lies in it, where it is a bath.
    pub bath: Option<Time>,
    /// What diffusion let in, where it held a bath back.
    pub bath_cap: Option<Mass>,
    /// The face it goes on, where it was said.
    pub face: Option<String>,
    /// Salt it brings at least and at most, where nobody knows how salty it is.
    pub between: Option<(Mass, Mass)>,
    /// Where the figure comes from.
    pub source: &'static str,
}

/// Salt and skin at one moment of the rest.
#[derive(Debug, Clone)]
pub struct ColdState {
    /// Salt through the thickness.
    pub profile: Profile,
    /// Its evenness.
    pub evenness: Evenness,
    /// How far it is seasoned.
    pub salted_depth: Length,
    /// Outer mouthful.
    pub rim: GramsPerKg,
    /// Least salted mouthful.
    pub middle: GramsPerKg,
    /// Whole-slice mouthful.
    pub slice: GramsPerKg,
    /// How dry the skin is; `None` without skin.
    pub dryness: Option<Dryness>,
    /// Water lost over all open sides.
    pub lost: Mass,
}

/// Salt in what is eaten: travel went on through tempering, heat and rest. An estimate.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct PlateSalt {
    /// Outer mouthful.
    pub rim: GramsPerKg,
    /// Least salted mouthful.
    pub middle: GramsPerKg,
    /// Whole-slice mouthful.
    pub slice: GramsPerKg,
    /// Its evenness.
    pub evenness: Evenness,
    /// Share of its salt that went into a liquid it was cooked in; none where there is no such.
    pub into_liquid: Share,
}

/// The rest in the cold.
#[derive(Debug, Clone)]
pub struct FridgePlan {
    /// Shortest, ideal, longest useful, of the school the clock took.
    pub useful: ChillHours,
    /// The house's own.
    pub house: ChillHours,
    /// Hours of salt until it leaves the cold.
    pub planned: Time,
    /// The longest that fits before the meal.
    pub fits: Time,
    /// Into the cold, or salted.
    pub from: Timestamp,
    /// Out of it.
    pub to: Timestamp,
    /// The piece when it comes out.
    pub state: ColdState,
    /// Hours after the salting in which dry salt still lies on it; `None` where none is laid on.
    pub wet: Option<Time>,
    /// The same salt on the plate, after tempering, heat and rest; an estimate.
    pub plate: PlateSalt,
    /// The second school of hours.
    pub model: ModelHours,
    /// Why the two schools differ.
    pub differs: String,
    /// How long it stands open in all.
    pub open: Time,
    /// Until when it keeps, where that is known.
    pub keeps: Option<StorageLimit>,
    /// Why these hours.
    pub why: String,
}

/// The heat.
#[derive(Debug, Clone)]
pub struct FirePlan {
    /// Where each place has to arrive.
    pub targets: Vec<FinishTarget>,
    /// What the model says.
    pub answer: FireAnswer,
    /// What the trade says, where it says something.
    pub trade: Option<TradeTime>,
    /// What gives the heat.
    pub with: HeatSource,
    /// Its stages; their lengths and cores are the answer's.
    pub stages: Vec<FireStage>,
    /// Air, surface and core from the heat to the end of the rest.
    pub curve: Vec<HeatPoint>,
    /// What the heat does to the skin; `None` without.
    pub crisp: Option<Crisp>,
    /// How long it is at temperatures at which something grows.
    pub growing: Growing,
    /// From the refrigerator to the heat.
    pub temper: Time,
    /// Until the heat is up.
    pub preheat: Time,
    /// Rest after it.
    pub rest: Time,
    /// How it rests.
    pub resting: Resting,
    /// Held warm after the rest, at least and at most.
    pub hold: Option<(Time, Time)>,
    /// How long of that is planned.
    pub held: Time,
    /// Whether the rule of the trade is the later one and the plan goes by it.
    pub by_rule: bool,
    /// What the method's longest stage usually takes, where that would not have cooked this piece.
    pub lengthened: Option<Time>,
    /// Each portion's own minutes and pull, in the order in which they were said; empty for one.
    pub portions: Vec<PortionHeat>,
    /// Cooked ahead: how it is heated again, and how long it lies in the cold before that.
    pub again: Option<(Again, Time)>,
}

/// When one goal is reached.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct GoalHours {
    /// What is to be reached.
    pub goal: Goal,
    /// After so many hours of salt; `None` if not within a week.
    pub at: Option<Time>,
}

/// Hours by the model.
#[derive(Debug, Clone, PartialEq)]
pub struct ModelHours {
    /// What was asked for.
    pub goal: Goal,
    /// The salt is in, and skin that must crackle is 0.7 dry; `None` if not within a week.
    pub shortest: Option<Time>,
    /// The goal is reached, and skin that must crackle is 0.95 dry.
    pub ideal: Option<Time>,
    /// Even to 0.8: longer changes nothing that could be tasted (our estimate).
    pub longest: Option<Time>,
    /// Each thing one could rest for, with its hour.
    pub goals: Vec<GoalHours>,
    /// How long dry salt lies on it: a steak must not meet the fire before that. `None` where none is laid on.
    pub wet: Option<Time>,
    /// When its skin is dry enough to crackle, 0.95; `None` if not within a week, or without skin.
    pub dry: Option<Time>,
}

/// Salt laid on or brushed off after the first salting.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SaltChange {
    /// Since the first salting.
    pub after: Time,
    /// Sodium chloride over the whole dish; negative came off.
    pub by: Mass,
    /// The one face it went on, by its id; none: on all as the first.
    pub face: Option<&'static str>,
}

impl SaltChange {
    /// Laid on or brushed off all that is salted.
    pub fn all_over(after: Time, by: Mass) -> Self {
        Self { after, by, face: None }
    }
}

/// What really went on a kept piece, and when.
#[derive(Debug, Clone, Default)]
pub struct ActualSalt {
    /// Sodium chloride weighed on it beside what the request says was on already, where that is known; else as planned.
    pub grams: Option<Mass>,
    /// What was laid on or brushed off after the first salting.
    pub changes: Vec<SaltChange>,
    /// How long it lay open in the cold before the salt.
    pub open_before: Time,
    /// Mixes besides that went on; those nobody noted count as planned.
    pub mixes: Vec<ActualMix>,
}

/// A mix besides, as it went on.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ActualMix {
    /// Its place among the mixes besides.
    pub which: usize,
    /// Since the first salting.
    pub after: Time,
    /// Sodium chloride it brought.
    pub brought: Mass,
}
