//! Stages of heat: what each surrounds the piece with, what ends it, and a piece going through them.

use super::conduction::{Body, Oven, Roast, Wetness};
use super::crisp::{Hollow, hollow_after};
use super::source::{Around, FIERCE, HeatSource, How, around};
use crate::piece::Species;
use crate::units::{HeatTransfer, Length, Temperature, TemperatureIn, Time, TimeIn, celsius, minutes};

/// What a stage is watched for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Look {
    /// Skin puffed all over and hollow to the knock.
    Hollow,
    /// Browned.
    Browned,
    /// A fork meets no resistance.
    Tender,
}

impl Look {
    /// All of them, as they are offered.
    pub const ALL: [Self; 3] = [Self::Hollow, Self::Browned, Self::Tender];

    /// Stable name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Hollow => "hollow",
            Self::Browned => "browned",
            Self::Tender => "tender",
        }
    }

    /// By its name.
    pub fn find(id: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|look| look.id() == id)
    }

    /// What a cook sees or feels then.
    pub fn words(self) -> &'static str {
        match self {
            Self::Hollow => "puffed all over and hollow to the knock",
            Self::Browned => "well browned",
            Self::Tender => "a fork meets no resistance",
        }
    }

    /// How long that usually takes, min, where the core does not say (our estimate).
    fn usual(self) -> f64 {
        match self {
            Self::Hollow | Self::Tender => 20.0,
            Self::Browned => 8.0,
        }
    }
}

/// When a stage ends.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum StageEnd {
    /// When the core is where the later stages and the rest will carry it to the finish.
    Finish,
    /// After this long.
    After(Time),
    /// At a core temperature of the cook's own.
    Core(Temperature),
    /// When it looks or feels as it should.
    Look(Look),
}

impl StageEnd {
    /// Whether a probe or a fork says when it is over, and not a clock or an eye.
    pub fn is_probed(self) -> bool {
        matches!(self, Self::Finish | Self::Core(_) | Self::Look(Look::Tender))
    }
}

/// What opening a door or a lid costs: 60 K for about five minutes, until the air is up again (our estimate, TRADE 9.12).
const LOST_K_MIN: f64 = 300.0;

/// One stage of heat.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FireStage {
    /// What gives the heat.
    pub with: HeatSource,
    /// Temperature of the air, of a pan's metal, of a spit's heat.
    pub air: Temperature,
    /// Whether that is a guess for a word.
    pub guessed: bool,
    /// How the piece lies in it.
    pub how: How,
    /// What ends it.
    pub until: StageEnd,
    /// Turned over so often; `None` not at all.
    pub flip: Option<Time>,
    /// Its door or lid is opened so often; `None` stays shut.
    pub opened: Option<Time>,
    /// Whether the cook said it: then its minutes are never changed.
    pub own: bool,
}

impl FireStage {
    /// A method's stage in an oven, open.
    pub fn of_a_method(air: Temperature, until: StageEnd) -> Self {
        Self { with: HeatSource::Oven, air, guessed: false, how: How::Open, until, flip: None, opened: None, own: false }
    }

    /// The air, metal or liquid it was said to surround the piece with, as long as nobody opens a door.
    pub fn said(&self) -> Temperature {
        around(self.with, self.how, self.air).fire.air
    }

    /// The same on air that is still coming up.
    #[must_use]
    pub fn on_air_of(self, air: Temperature) -> Self {
        Self { air, ..self }
    }

    /// How long it comes up to this stage from that before, where that is on the same appliance and cooler.
    pub fn comes_up_after(&self, before: &Self) -> Option<Time> {
        let by = self.with.comes_up_by().filter(|_| self.with == before.with && self.around().away.is_none())?;
        let rises = self.air.in_c() - before.air.in_c();
        (rises > 0.0).then(|| minutes(rises / by))
    }

    /// What it surrounds the piece with.
    pub fn around(&self) -> Around {
        let shuts = matches!(self.with, HeatSource::Oven | HeatSource::Grill | HeatSource::Smoker);
        let lost = self.opened.filter(|_| shuts).map_or(0.0, |every| LOST_K_MIN / every.in_min().max(1.0));
        // Never below the kitchen it is opened to.
        around(self.with, self.how, celsius((self.air.in_c() - lost).max(self.air.in_c().min(22.0))))
    }
}

/// How it rests after the heat.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum Resting {
    /// In the open.
    #[default]
    Open,
    /// Under a loose tent of foil: half as much is lost to the room (our estimate), and the surface softens.
    Tented,
}

impl Resting {
    /// Stable names.
    pub const NAMES: [&str; 2] = ["open", "tented"];

    /// Stable name.
    pub fn id(self) -> &'static str {
        Self::NAMES[self as usize]
    }

    /// By its name.
    pub fn find(id: &str) -> Option<Self> {
        [Self::Open, Self::Tented].into_iter().find(|rest| rest.id() == id)
    }

    /// What surrounds it then.
    pub fn around(self) -> Oven {
        match self {
            Self::Open => Oven::board(),
            Self::Tented => Oven { h: HeatTransfer(4.5), wet: 0.0, juices: 0.0, ..Oven::board() },
        }
    }
}

/// Longest a stage is followed that waits for a core.
const LONGEST: f64 = 24.0 * 60.0;
/// Fork-tender: so many minutes at 90 °C in the middle, twice as fast for each 8 K more; beef, which is older and ties its threads
/// closer, takes twice as long (our estimate, TRADE 9.8).
const TENDER_MIN: f64 = 60.0;
const TENDER_BEEF_MIN: f64 = 120.0;

/// Minutes at 90 °C in the middle until a fork meets no resistance.
pub fn tender_after(species: Species) -> Time {
    minutes(if species == Species::Beef { TENDER_BEEF_MIN } else { TENDER_MIN })
}

const TENDER_AT: f64 = 90.0;
const TENDER_DOUBLES: f64 = 8.0;

/// A piece going through its stages.
#[derive(Clone)]
pub struct Cooking {
    /// How warm it is where.
    pub roast: Roast,
    /// Minutes at 90 °C that its middle has had, or their equivalent.
    pub tender: f64,
    /// How many of them it wants until a fork meets no resistance.
    pub fork: Time,
    /// Skin and fat over it: what a stage waits for that is to sound hollow.
    pub skin: Option<(Length, Length)>,
    /// What heats it now, and how warm that has come to be.
    now: Option<FireStage>,
}

impl Cooking {
    /// Before its first stage; as tender as most meat wants to be.
    pub fn new(body: Body, stages: &[FireStage]) -> Self {
        let one_sided = stages.iter().any(|stage| stage.around().away.is_some());
        let roast = if one_sided { Roast::with_two_faces(body, Wetness::OPEN) } else { Roast::new(body, Wetness::OPEN) };
        Self { roast, tender: 0.0, fork: minutes(TENDER_MIN), skin: None, now: None }
    }

    /// The air a stage still has, °C, when it begins: what the stage before has left of it.
    pub fn air_at_first(&self, stage: &FireStage) -> Temperature {
        let coming = self.now.filter(|now| stage.comes_up_after(now).is_some());
        coming.map_or(stage.air, |now| now.air)
    }

    /// Lets it go through a stage for so long at most, turned when its time comes, until `enough` has seen the minutes passed, the
    /// core in °C and the minutes of tenderness. Gives how long it was.
    pub fn pass(&mut self, stage: &FireStage, at_most: Time, mut enough: impl FnMut(f64, f64, f64) -> bool) -> Time {
        // What takes no time was never gone into.
        if at_most.in_min() <= 1e-6 {
            return minutes(0.0);
        }
        let first = self.air_at_first(stage);
        let (mut spent, mut done) = (0.0, false);
        if let Some(by) = stage.with.comes_up_by().filter(|_| first < stage.air) {
            // Its way up step by step, each at the middle of what the air comes to in it; the same steps wherever it goes to, so that
            // more heat is never less by a step's error.
            let mut air = first.in_c();
            while air < stage.air.in_c() - 1e-9 && spent < at_most.in_min() - 1e-6 && !done {
                let step = self.roast.step().in_min().min(at_most.in_min() - spent);
                let on = stage.on_air_of(celsius((air + by * step / 2.0).min(stage.air.in_c())));
                let used = self.steadily(&on, minutes(step), |min, core, tender| {
                    done = enough(spent + min, core, tender);
                    done
                });
                air += by * used.in_min();
                spent += used.in_min();
                self.now = Some(stage.on_air_of(celsius(air.min(stage.air.in_c()))));
            }
        } else {
            self.now = Some(*stage);
        }
        if done || spent >= at_most.in_min() - 1e-6 {
            return minutes(spent);
        }
        self.now = Some(*stage);
        let left = minutes(at_most.in_min() - spent);
        let used = self.steadily(stage, left, |min, core, tender| enough(spent + min, core, tender));
        minutes(spent) + used
    }

    /// The same while the air stays as it is.
    fn steadily(&mut self, stage: &FireStage, at_most: Time, mut enough: impl FnMut(f64, f64, f64) -> bool) -> Time {
        let Self { roast, tender, .. } = self;
        let Around { fire, away } = stage.around();
        let (all, mut passed, mut done) = (at_most.in_min(), 0.0, false);
        while all - passed > 1e-6 && !done {
            // With heat all round a turn changes its colour, not its core.
            let turns = stage.flip.filter(|_| away.is_some());
            let piece = turns.map_or(all, |flip| flip.in_min().max(0.5)).min(all - passed);
            let mut last = 0.0;
            let used = roast.run_between(fire, away.unwrap_or(fire), minutes(piece), |elapsed, core| {
                *tender += (elapsed.in_min() - last) * ((core.in_c() - TENDER_AT) / TENDER_DOUBLES).exp2();
                last = elapsed.in_min();
                done = enough(passed + last, core.in_c(), *tender);
                !done
            });
            passed += used.in_min();
            if !done && turns.is_some() && all - passed > 1e-6 {
                roast.flip();
            }
        }
        minutes(passed)
    }

    /// Takes it through a stage to its end, what is only usual cut to a share; `None` where the end does not come within a day.
    /// A stage that waits for the finish has no end of its own and takes no time here.
    pub fn through(&mut self, stage: &FireStage, share: f64) -> Option<Time> {
        let never = |_, _, _| false;
        match stage.until {
            StageEnd::Finish => Some(minutes(0.0)),
            // Only what is fierce is cut short: a low stage of a method is as long as it says.
            StageEnd::After(time) if stage.own || stage.air.in_c() < FIERCE => Some(self.pass(stage, time, never)),
            StageEnd::After(time) => Some(self.pass(stage, shortened(time.in_min(), share), never)),
            StageEnd::Core(at) => self.wait(stage, |core, _| core - at.in_c()),
            StageEnd::Look(Look::Tender) => {
                let fork = self.fork.in_min();
                self.wait(stage, |_, tender| tender - fork)
            }
            StageEnd::Look(look) => {
                let hollow = self.skin.filter(|_| look == Look::Hollow).and_then(|(skin, fat)| {
                    let before = self.now.map_or(*stage, |now| now);
                    let core = self.roast.mean();
                    hollow_after(&Hollow { skin, fat, from: before, to: *stage, first: self.air_at_first(stage), under: core })
                });
                Some(self.pass(stage, shortened(hollow.map_or(look.usual(), TimeIn::in_min), share), never))
            }
        }
    }

    /// Until `past` is no longer below zero, to the second: the step that passed it is taken back and gone in part.
    fn wait(&mut self, stage: &FireStage, past: impl Fn(f64, f64) -> f64) -> Option<Time> {
        let begins = past(self.roast.core().in_c(), self.tender);
        if begins >= 0.0 {
            return Some(minutes(0.0));
        }
        let from = self.clone();
        let (mut before, mut after) = ((0.0, begins), None);
        self.pass(stage, minutes(LONGEST), |min, core, tender| {
            let now = past(core, tender);
            if now < 0.0 {
                before = (min, now);
            } else {
                after = Some((min, now));
            }
            after.is_some()
        });
        let (min, now) = after?;
        let took = minutes(before.0 + (min - before.0) * before.1 / (before.1 - now));
        *self = from;
        self.pass(stage, took, |_, _, _| false);
        Some(took)
    }
}

/// Whole minutes, and never under three: what is only usual, cut to a share of it.
fn shortened(min: f64, share: f64) -> Time {
    minutes(if share < 1.0 { (min * share).round().max(3.0).min(min) } else { min })
}
