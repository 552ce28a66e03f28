//! The heat of a plan: stages, minutes with their band, pull and carry-over.

use super::carry::CarryBand;
use super::conduction::{Body, Oven, Roast, Shape, Wetness};
use super::ellipsoid::{half_axes, power_of};
use super::targets::FinishTarget;
use crate::piece::{Cut, FireShape, Measures};
use crate::units::{
    HeatTransfer, IntervalIn, Length, LengthIn, Mass, MassIn, Temperature, TemperatureIn, TemperatureInterval, Time, TimeIn, celsius,
    hours, kelvin, millimetres, minutes,
};

/// When a stage ends.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum StageEnd {
    /// When the core is where the later stages and the rest will carry it to the finish.
    Core,
    /// After this long.
    After(Time),
}

/// One stage of heat as a method writes it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FireStage {
    /// Air temperature.
    pub air: Temperature,
    /// What ends it: the core, or a time.
    pub until: StageEnd,
}

/// What the fire gives.
#[derive(Debug, Clone, PartialEq)]
pub struct FireAnswer {
    /// Length of each stage, in order.
    pub stages: Vec<Time>,
    /// Core at the end of the stage that waits for the core.
    pub core_at_stage_end: Temperature,
    /// Core when it leaves the heat.
    pub pull: Temperature,
    /// How far it still climbs, as far as that is counted on.
    pub carry_over: TemperatureInterval,
    /// Between what and what it may climb.
    pub band: (TemperatureInterval, TemperatureInterval),
    /// By how much it ends past its finish, where no length of the stages meets it.
    pub overshoots: Option<TemperatureInterval>,
    /// All stages together.
    pub takes: Time,
    /// The band: model and trade agree within about a third.
    pub low: Time,
    /// Upper end of the band.
    pub high: Time,
}

/// One piece as it meets the heat: the shape of its cut at its own weight and thickness. `measures` are its length and width.
pub fn body(cut: Cut, weight: Mass, thickness: Length, measures: Measures, start: Temperature) -> Body {
    let half = thickness / 2.0;
    match cut.fire {
        FireShape::Slab => Body { shape: Shape::Slab, radius: half, start },
        FireShape::Cylinder => Body { shape: Shape::Cylinder, radius: half, start },
        FireShape::Ellipsoid => {
            let axes = half_axes(weight, thickness, measures);
            let [short, middle, long] = axes.0.map(LengthIn::in_mm);
            Body { shape: Shape::Ellipsoid { power: power_of(middle / short, long / short) }, radius: axes.0[0], start }
        }
        FireShape::HollowBird { radius_mm, at_g } => {
            // The same shape at another size: radius grows with the cube root of the weight.
            Body { shape: Shape::Sphere, radius: millimetres(radius_mm * (weight.in_g() / at_g).cbrt()), start }
        }
    }
}

/// What is asked of the heat.
#[derive(Debug, Clone, Copy)]
pub struct FireAsk<'a> {
    /// The piece as it meets the heat.
    pub body: Body,
    /// The stages of its method.
    pub stages: &'a [FireStage],
    /// Rest after them.
    pub rest: Time,
    /// Where it is to end.
    pub target: &'a FinishTarget,
    /// The climb that is counted on.
    pub band: CarryBand,
}

/// What comes after the led stage adds less than this to the core, K: further below, nothing need be tried.
const MOST_TO_COME: f64 = 35.0;
/// Minutes between the points at which the core-led stage is tried.
const MILESTONE: f64 = 20.0;
/// The outcome rises by at most so many times what the core rises, as far as passing over tries goes.
const LEADS: f64 = 1.2;
/// Shares of a fierce stage's usual length that a thin piece is given, the longest first that does not overshoot.
const FIERCE: [f64; 5] = [1.0, 0.75, 0.55, 0.4, 0.3];
/// Past the finish by more than this is said, K.
const MISSED: f64 = 1.0;

/// Finds the length of the core-led stage such that the core ends, after the remaining stages and the rest, at the target.
///
/// A finish at or above the authority's is met even where the climb is no more than the low end of its band. Where the
/// fierce stage alone would carry a thin piece past its finish it is made shorter, and what cannot be met is said. Forward in
/// milestones of 20 minutes, then false position: about eight short roasts.
pub fn fire_plan(ask: &FireAsk) -> FireAnswer {
    let mut tried = try_with(ask, FIERCE[0], None);
    for share in &FIERCE[1..] {
        if tried.past <= 0.25 {
            break;
        }
        // With less to come the led stage is no shorter: it goes on from where it was.
        tried = try_with(ask, *share, Some(tried.led));
    }
    let takes: Time = tried.stages.iter().copied().fold(minutes(0.0), |sum, t| sum + t);
    let overshoots = (tried.past > MISSED).then(|| kelvin(tried.past));
    // Met, it is pulled by just what is counted on before its finish.
    let to_finish = (ask.target.finish.in_c() - tried.end.pull.in_c()).max(0.0);
    FireAnswer {
        core_at_stage_end: tried.end.after_stage,
        pull: tried.end.pull,
        carry_over: kelvin(if overshoots.is_some() { tried.end.counted } else { to_finish }),
        band: (kelvin(tried.end.low), kelvin(tried.end.high)),
        overshoots,
        takes,
        low: minutes((takes.in_min() * 0.75).round()),
        high: minutes((takes.in_min() * 1.33).round()),
        stages: tried.stages,
    }
}

/// Core temperatures of one try.
#[derive(Debug, Clone, Copy)]
struct End {
    after_stage: Temperature,
    pull: Temperature,
    /// The climb counted on, and its band, K.
    counted: f64,
    low: f64,
    high: f64,
}

impl End {
    /// How far past the target it ends, K; below zero it falls short.
    fn past(&self, target: &FinishTarget) -> f64 {
        let reached = self.pull.in_c() + self.counted - target.finish.in_c();
        // Nobody is asked to trust the climb for the authority's own temperature beyond its low end.
        let safe = self.pull.in_c() + self.low - target.authority.in_c();
        if target.below_authority() { reached } else { reached.min(safe) }
    }
}

struct Try {
    stages: Vec<Time>,
    /// Minutes of the led stage, and the roast as it stands then, at or before its end.
    led: (f64, Roast),
    end: End,
    past: f64,
}

fn try_with(ask: &FireAsk, fierce: f64, from: Option<(f64, Roast)>) -> Try {
    let stages = ask.stages;
    let led = stages.iter().position(|s| s.until == StageEnd::Core).unwrap_or(0);
    let fixed = |i: usize, stage: &FireStage| match stage.until {
        // What comes after the core-led stage is the fierce one: never under three minutes, in whole ones.
        StageEnd::After(time) if i > led => minutes((time.in_min() * fierce).round().max(3.0)),
        StageEnd::After(time) => time,
        StageEnd::Core => minutes(0.0),
    };
    let start = from.unwrap_or_else(|| {
        let mut roast = Roast::new(ask.body, Wetness::OPEN);
        for (i, stage) in stages.iter().enumerate().take(led) {
            roast.run(Oven::at(stage.air), fixed(i, stage), |_, _| true);
        }
        (0.0, roast)
    });
    let led_oven = stages.get(led).map_or(Oven::board(), |s| Oven::at(s.air));
    let outcome = |from: &Roast, led_for: f64| {
        let mut roast = from.clone();
        roast.run(led_oven, minutes(led_for), |_, _| true);
        let stage_end = roast.core();
        for (i, stage) in stages.iter().enumerate().skip(led + 1) {
            roast.run(Oven::at(stage.air), fixed(i, stage), |_, _| true);
        }
        let pull = roast.core();
        let mut peak = pull.in_c();
        // Only the peak matters: once the core falls, the rest of the rest cannot raise it.
        roast.run(Oven { h: HeatTransfer(9.0), ..Oven::board() }, ask.rest, |_, core| {
            let climbing = core.in_c() >= peak - 1e-6;
            peak = peak.max(core.in_c());
            climbing
        });
        let high = (peak - pull.in_c()).clamp(0.0, ask.band.high.in_kelvin());
        End {
            after_stage: stage_end,
            pull,
            counted: high,
            low: high.min(ask.band.low.in_kelvin()),
            high: ask.band.high.in_kelvin().max(high),
        }
    };
    let past = |from: &Roast, led_for: f64| outcome(from, led_for).past(ask.target);
    let (base, from, led_for) = led_length(start, led_oven, ask.target.finish, past);
    let end = outcome(&from, led_for);
    // The clock goes by whole minutes, up: the core is what ends a stage.
    let lengths = stages.iter().enumerate().map(|(i, s)| if i == led { minutes((base + led_for).ceil()) } else { fixed(i, s) });
    Try { stages: lengths.collect(), past: end.past(ask.target), end, led: (base, from) }
}

/// The length of the core-led stage after which `past`, how far past the finish it all ends, is nothing: a milestone, the roast
/// as it stands there, and the minutes from there.
fn led_length(start: (f64, Roast), oven: Oven, finish: Temperature, past: impl Fn(&Roast, f64) -> f64) -> (f64, Roast, f64) {
    // Walk forward until the outcome passes the finish. While the core has risen by less than the outcome was short of it the
    // last time, nothing need be tried.
    let (mut base, mut from) = start;
    let (mut at, mut roast) = (base, from.clone());
    let (mut fa, mut fb) = (None, None);
    while at < hours(20.0).in_min() && fb.is_none() {
        roast.run(oven, minutes(MILESTONE), |_, _| true);
        at += MILESTONE;
        let short_of = fa.map_or(MOST_TO_COME - (finish.in_c() - from.core().in_c()), |f: f64| f);
        if short_of + (roast.core().in_c() - from.core().in_c()) * LEADS < 0.0 {
            continue;
        }
        match past(&roast, 0.0) {
            f if f >= 0.0 => fb = Some(f),
            f => (base, from, fa) = (at, roast.clone(), Some(f)),
        }
    }
    // The peak grows smoothly with the length: false position (Illinois) is there in a few tries.
    let (mut a, mut b) = (0.0, at - base);
    let (mut fa, mut fb) = (fa.unwrap_or_else(|| past(&from, a)), fb.unwrap_or_else(|| past(&from, b)));
    let mut led_for = if fa >= 0.0 { 0.0 } else { b };
    for _ in 0..10 {
        if fa >= 0.0 || fb <= 0.0 || b - a < 0.05 {
            break;
        }
        led_for = a + (b - a) * fa / (fa - fb);
        let f = past(&from, led_for);
        if f.abs() < 0.05 {
            break;
        }
        if f < 0.0 {
            (a, fa) = (led_for, f);
            fb *= 0.5;
        } else {
            (b, fb) = (led_for, f);
            fa *= 0.5;
        }
    }
    (base, from, led_for)
}

/// What a piece goes through between the cold and the plate.
#[derive(Debug, Clone, Copy)]
pub struct Heating<'a> {
    /// Standing out before the heat.
    pub tempering: Time,
    /// The stages, as `fire_plan` was asked.
    pub stages: &'a [FireStage],
    /// Rest after the heat.
    pub rest: Time,
}

/// Mean temperature of the whole piece through tempering, heat and rest, in pieces of ten minutes: what salt travels at
/// meanwhile (our estimate: one temperature for the whole thickness).
pub fn in_the_heat(body: Body, answer: &FireAnswer, heating: &Heating) -> Vec<(Time, Temperature)> {
    const PIECE: f64 = 10.0;
    let cold = 4.0;
    let mut through = Vec::new();
    if heating.tempering.in_min() > 0.0 {
        through.push((heating.tempering, celsius(f64::midpoint(cold, body.start.in_c()))));
    }
    let mut roast = Roast::new(body, Wetness::OPEN);
    let ovens = heating.stages.iter().zip(&answer.stages).map(|(stage, time)| (Oven::at(stage.air), *time));
    let rest = (Oven { h: HeatTransfer(9.0), ..Oven::board() }, heating.rest);
    for (oven, time) in ovens.chain([rest]) {
        let mut left = time.in_min();
        while left > 1e-6 {
            let piece = minutes(left.min(PIECE));
            let before = roast.mean();
            roast.run(oven, piece, |_, _| true);
            through.push((piece, celsius(f64::midpoint(before.in_c(), roast.mean().in_c()))));
            left -= PIECE;
        }
    }
    through
}
