//! What the cook says of the heat, checked and made whole: appliance, stages, finish, standing out, rest.

use super::request::{PlanRequest, Refusal};
use crate::fire::{Body, CarryBand, FinishTarget, FireAsk, FireStage, HeatSource, HeatWord, How, Look, Resting, StageEnd};
use crate::method::{Method, RecipeHeat};
use crate::piece::{Cut, Family, Species};
use crate::units::{Temperature, TemperatureIn, Time, TimeIn, celsius, hours, minutes};

/// A heat as it was said.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum AirAsk {
    /// Measured.
    At(Temperature),
    /// In a word: a guess, but for "max" where the household said how hot it gets.
    Word(HeatWord),
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
        let pink = matches!(cut.species, Species::Beef | Species::Lamb) || cut.id == "duck-breast";
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
}

/// Air from which skin puffs, °C (our estimate: 150 at the surface needs some more around it).
const FIERCE: f64 = 200.0;

impl FireRequest {
    /// Whether skin is to puff in the stages that were said: one is watched until it is hollow, or is fierce and open. `None` where
    /// none were said.
    pub(super) fn puffs(&self) -> Option<bool> {
        let with = self.with.unwrap_or_default();
        let fierce = |s: FireStage| matches!(s.how, How::Open | How::Direct) && s.air.in_c() >= FIERCE;
        let puffs = |ask: &StageAsk| ask.until == StageEnd::Look(Look::Hollow) || fierce(ask.whole(with));
        Some(self.stages.as_ref()?.iter().any(puffs))
    }
}

/// The heat made whole.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct FireWhole {
    pub with: HeatSource,
    pub stages: Vec<FireStage>,
    pub temper: Time,
    pub preheat: Time,
    pub rest: Time,
    pub resting: Resting,
    pub hold: Option<(Time, Time)>,
    /// The finish that was said; `None` leaves the cut's.
    pub finish: Option<Temperature>,
    /// Whether the cook pulls at a core of her own, and the finish follows.
    own_pull: bool,
    /// Whether it is to be tender, which a fork says.
    tender: bool,
}

impl FireWhole {
    /// The method's heat with what was said of it.
    pub fn of(request: &PlanRequest, method: Method) -> Self {
        let (cut, said) = (request.cut, &request.fire);
        let with = said.with.unwrap_or_default();
        let own = said.stages.as_deref().map(|stages| stages.iter().map(|ask| ask.whole(with)).collect());
        let mut stages: Vec<FireStage> =
            own.unwrap_or_else(|| method.heat(cut).into_iter().map(|stage| FireStage { with, ..stage }).collect());
        let tender = matches!(said.finish, Some(FinishAsk::Style(FinishStyle::Tender)));
        if tender {
            // The core does not say when a fork meets no resistance; time at heat does.
            stages.iter_mut().filter(|s| s.until == StageEnd::Finish).for_each(|s| s.until = StageEnd::Look(Look::Tender));
        }
        let finish = said.finish.and_then(|finish| match finish {
            FinishAsk::Core(core) => Some(core),
            FinishAsk::Style(style) => style.core(cut),
        });
        let first = stages.first().map_or(with, |stage| stage.with);
        Self {
            own_pull: !tender && matches!(stages.last(), Some(FireStage { until: StageEnd::Core(_), .. })),
            temper: said.temper.unwrap_or_else(|| method.tempering(cut)),
            preheat: said.preheat.unwrap_or_else(|| minutes(first.preheat_min())),
            rest: said.rest.unwrap_or_else(|| method.rest(cut)),
            resting: said.resting.unwrap_or_default(),
            hold: said.hold.filter(|(_, most)| most.in_min() > 0.0),
            with,
            stages,
            finish,
            tender,
        }
    }

    /// Whether the finish is what comes of the stages: of a pull of the cook's own, or of a fork.
    pub fn finish_follows(&self) -> bool {
        self.own_pull || (self.finish.is_none() || self.tender) && self.stages.iter().any(|s| s.until == StageEnd::Look(Look::Tender))
    }

    /// What the steps are written for.
    pub fn recipe(&self, request: &PlanRequest) -> RecipeHeat<'_> {
        RecipeHeat {
            stages: &self.stages,
            preheat: self.preheat,
            temper: self.temper,
            temper_said: request.fire.temper.is_some(),
            rest: self.rest,
            resting: request.fire.resting,
            hold: self.hold,
        }
    }

    /// What is asked of the heat for a body.
    pub fn ask<'a>(&'a self, body: Body, target: &'a FinishTarget, cut: Cut) -> FireAsk<'a> {
        FireAsk { body, stages: &self.stages, rest: self.rest, resting: self.resting, target, band: CarryBand::of(cut) }
    }
}

impl StageAsk {
    fn whole(&self, usual: HeatSource) -> FireStage {
        let with = self.with.unwrap_or(usual);
        let (air, guessed) = match self.air {
            AirAsk::At(air) => (air, false),
            AirAsk::Word(word) => (with.means(word), true),
        };
        FireStage { with, air, guessed, how: self.how, until: self.until, flip: self.flip, own: true }
    }
}

/// A number as it was typed: to a hundredth, as far as it says anything.
fn plain(value: f64) -> String {
    let text = format!("{value:.2}");
    text.trim_end_matches('0').trim_end_matches('.').replace('-', "−")
}

/// Most stages of one heat.
pub const MOST_STAGES: usize = 12;
/// Longest a stage may be, and a hold.
const LONGEST_STAGE_H: f64 = 24.0;
const LONGEST_HOLD_H: f64 = 12.0;
/// Turned more often than this nobody does, min.
const FASTEST_FLIP: f64 = 0.5;

/// Everything of the heat that cannot be, each at its path.
pub(super) fn refuse_fire(request: &PlanRequest) -> Vec<Refusal> {
    let fire = &request.fire;
    let mut found = Vec::new();
    if let Some((least, most)) = fire.hold
        && !(0.0 <= least.in_h() && least <= most && most.in_h() <= LONGEST_HOLD_H)
    {
        let typed = format!("{} to {} h", plain(least.in_h()), plain(most.in_h()));
        found.push(Refusal::new(
            "fire.hold_h",
            typed,
            format!("from 0 to {LONGEST_HOLD_H:.0} h, the shorter first"),
            "Say how long it may wait warm, like [0, 2].",
        ));
    }
    found.extend(refuse_stages(request));
    found.extend(refuse_finish(request));
    found
}

fn refuse_stages(request: &PlanRequest) -> Vec<Refusal> {
    let Some(stages) = &request.fire.stages else { return vec![] };
    let with = request.fire.with.unwrap_or_default();
    let mut found = Vec::new();
    if stages.is_empty() || stages.len() > MOST_STAGES {
        let typed = if stages.is_empty() { "no stage".to_owned() } else { format!("{} stages", stages.len()) };
        return vec![Refusal::new(
            "fire.stages",
            typed,
            format!("1 to {MOST_STAGES} stages"),
            "Leave the stages out for the method's own heat.",
        )];
    }
    for (i, ask) in stages.iter().enumerate() {
        let at = |field: &str| format!("fire.stages[{i}].{field}");
        let stage = ask.whole(with);
        let (air, most) = (stage.air.in_c(), stage.with.hottest().in_c());
        if !(30.0..=most).contains(&air) {
            let allowed = format!("30 to {most:.0} °C for {} {}", article(stage.with), stage.with.id());
            found.push(Refusal::new(
                at("air_c"),
                format!("{} °C", plain(air)),
                allowed,
                "Say how warm the air is, or low, medium, high or max.",
            ));
        }
        let range = match stage.until {
            StageEnd::After(time) => (time.in_min(), 0.0, LONGEST_STAGE_H * 60.0, "minutes", "min"),
            StageEnd::Core(core) => (core.in_c(), 30.0, 99.0, "core_c", "°C in the core"),
            StageEnd::Finish | StageEnd::Look(_) => (50.0, 0.0, 99.0, "", ""),
        };
        let (typed, low, high, field, unit) = range;
        if !(low..=high).contains(&typed) {
            let typed = format!("{} {unit}", plain(typed));
            found.push(Refusal::new(
                at(&format!("until.{field}")),
                typed,
                format!("{low:.0} to {high:.0} {unit}"),
                "Say minutes, a core, or { \"core\": \"finish\" }.",
            ));
        }
        if let Some(flip) = ask.flip {
            let direct = stage.around().away.is_some();
            if !direct {
                found.push(Refusal::new(
                    at("flip_min"),
                    format!("turned every {} min", plain(flip.in_min())),
                    "a stage over direct heat or in a pan",
                    "With heat all round there is no other side; leave it out.",
                ));
            } else if !(FASTEST_FLIP..=LONGEST_STAGE_H * 60.0).contains(&flip.in_min()) {
                let typed = if flip.in_min() > 0.0 {
                    format!("turned {} times a minute", plain(1.0 / flip.in_min()))
                } else {
                    format!("turned every {} min", plain(flip.in_min()))
                };
                found.push(Refusal::new(at("flip_min"), typed, "once in half a minute at most", "Turning every 1 to 5 minutes is usual."));
            }
        }
    }
    let waits: Vec<usize> = stages.iter().enumerate().filter(|(_, s)| s.until == StageEnd::Finish).map(|(i, _)| i).collect();
    for i in waits.iter().skip(1) {
        let typed = format!("waits for the finish, as stage {} does", waits[0] + 1);
        found.push(Refusal::new(
            format!("fire.stages[{i}].until"),
            typed,
            "one stage at most",
            "Give the other one minutes or a core of its own.",
        ));
    }
    found
}

fn article(source: HeatSource) -> &'static str {
    match source {
        HeatSource::Oven => "an",
        HeatSource::Charcoal => "glowing",
        _ => "a",
    }
}

fn refuse_finish(request: &PlanRequest) -> Vec<Refusal> {
    let fire = &request.fire;
    let Some(finish) = fire.finish else { return vec![] };
    let at = |field: &str| format!("fire.finish{field}");
    let own_pull = fire.stages.as_ref().and_then(|stages| stages.last()).is_some_and(|last| matches!(last.until, StageEnd::Core(_)));
    let mut found = Vec::new();
    if own_pull {
        found.push(Refusal::new(
            at(""),
            "a pull and a finish",
            "one of them",
            "With a core in the last stage the finish follows; leave the finish out, or end the stage with { \"core\": \"finish\" }.",
        ));
    }
    match finish {
        FinishAsk::Style(style) if style.core(request.cut).is_none() => {
            let fits: Vec<&str> = FinishStyle::ALL.iter().filter(|s| s.core(request.cut).is_some()).map(|s| s.id()).collect();
            found.push(Refusal::new(at(".style"), style.id(), fits.join(", "), format!("{} is not cooked so.", request.cut.name)));
        }
        FinishAsk::Core(core) if !(40.0..=97.0).contains(&core.in_c()) => {
            found.push(Refusal::new(
                at(".core_c"),
                format!("{} °C", plain(core.in_c())),
                "40 to 97 °C",
                "Say where the core is to end after the rest.",
            ));
        }
        FinishAsk::Core(core) => {
            // Where every stage is colder than the finish, no time will do.
            let with = fire.with.unwrap_or_default();
            let hottest =
                fire.stages.iter().flatten().map(|ask| ask.whole(with).around().fire.air.in_c()).fold(f64::NEG_INFINITY, f64::max);
            if fire.stages.as_ref().is_some_and(|stages| !stages.is_empty()) && core.in_c() >= hottest {
                let allowed = format!("below the {} °C that surround it", plain(hottest));
                found.push(Refusal::new(
                    at(".core_c"),
                    format!("{} °C", plain(core.in_c())),
                    allowed,
                    "Raise a stage, or lower the finish.",
                ));
            }
        }
        FinishAsk::Style(_) => {}
    }
    found
}

/// How warm it is throughout when it goes into the heat, after so long in the kitchen: measured, or reckoned from 4 °C.
pub(super) fn start_of(request: &PlanRequest, temper: Time) -> Temperature {
    if let Some(measured) = request.start {
        return measured;
    }
    // Half an hour out warms the outside, not the middle: a few degrees on the mean (our estimate). Longer, as far again, towards
    // the kitchen's own 22 °C.
    match temper.in_min() {
        0.0 => celsius(5.0),
        min if min <= 30.0 => celsius(5.0 + min / 10.0),
        min => celsius(22.0 - 14.0 * (-(min - 30.0) / hours(3.0).in_min()).exp()),
    }
}
