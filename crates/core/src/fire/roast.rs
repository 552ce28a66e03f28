//! The heat of a plan: stages, minutes with their band, pull and carry-over.

use super::conduction::{Body, Oven, Roast, Shape, Wetness};
use super::targets::FinishTarget;
use crate::piece::{Cut, FireShape};
use crate::units::{
    HeatTransfer, IntervalIn, Length, Mass, MassIn, Temperature, TemperatureIn, TemperatureInterval, Time, TimeIn, celsius, hours, kelvin,
    millimetres, minutes,
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
    /// When it ends.
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
    /// How far it still climbs.
    pub carry_over: TemperatureInterval,
    /// All stages together.
    pub takes: Time,
    /// The band: model and trade agree within about a third.
    pub low: Time,
    /// Upper end of the band.
    pub high: Time,
}

/// The shape of a cut on the fire. `largest` is the heaviest single portion.
fn body(cut: Cut, largest: Mass, thickness: Length, start: Temperature) -> Body {
    match cut.fire {
        FireShape::Slab => Body { shape: Shape::Slab, radius: thickness / 2.0, start },
        FireShape::Cylinder => Body { shape: Shape::Cylinder, radius: thickness / 2.0, start },
        FireShape::Sphere => Body { shape: Shape::Sphere, radius: thickness / 2.0, start },
        FireShape::HollowBird { radius_mm, at_g } => {
            // The same shape at another size: radius grows with the cube root of the weight.
            Body { shape: Shape::Sphere, radius: millimetres(radius_mm * (largest.in_g() / at_g).cbrt()), start }
        }
    }
}

/// What comes after the led stage adds less than this to the core, K: further below, nothing need be tried.
const MOST_TO_COME: f64 = 35.0;

/// Minutes between the points at which the core-led stage is tried.
const MILESTONE: f64 = 20.0;

/// Finds the length of the core-led stage such that the core ends, after the remaining stages and
/// the rest, at the target.
///
/// Forward in milestones of 20 minutes, then false position: about eight short roasts.
pub fn fire_plan(
    cut: Cut,
    largest: Mass,
    thickness: Length,
    start: Temperature,
    stages: &[FireStage],
    rest: Time,
    target: &FinishTarget,
) -> FireAnswer {
    let fresh = Roast::new(body(cut, largest, thickness, start), Wetness::OPEN);
    let led = stages.iter().position(|s| s.until == StageEnd::Core).unwrap_or(0);
    let fixed = |stage: &FireStage| match stage.until {
        StageEnd::After(time) => time,
        StageEnd::Core => minutes(0.0),
    };
    let mut before = fresh;
    for stage in stages.iter().take(led) {
        before.run(Oven::at(stage.air), fixed(stage), |_, _| true);
    }
    let finish = target.finish.in_c();
    let led_oven = stages.get(led).map_or(Oven::board(), |s| Oven::at(s.air));
    let after = stages.get(led + 1..).unwrap_or_default();
    let outcome = |from: &Roast, led_for: Time| {
        let mut roast = from.clone();
        roast.run(led_oven, led_for, |_, _| true);
        let stage_end = roast.core();
        for stage in after {
            roast.run(Oven::at(stage.air), fixed(stage), |_, _| true);
        }
        let pull = roast.core();
        let mut peak = pull.in_c();
        // Only the peak matters: once the core falls, the rest of the rest cannot raise it.
        roast.run(Oven { h: HeatTransfer(9.0), ..Oven::board() }, rest, |_, core| {
            let climbing = core.in_c() >= peak - 1e-6;
            peak = peak.max(core.in_c());
            climbing
        });
        (stage_end, pull, celsius(peak.min(pull.in_c() + target.most_carry_over.in_kelvin())))
    };
    let mut low = 0.0;
    let mut start_of_try = before;
    // Walk forward until the outcome passes the finish, then narrow down.
    while low < hours(16.0).in_min() {
        let mut next = start_of_try.clone();
        next.run(led_oven, minutes(MILESTONE), |_, _| true);
        let near = next.core().in_c() > finish - MOST_TO_COME;
        if near && outcome(&next, minutes(0.0)).2.in_c() >= finish {
            break;
        }
        start_of_try = next;
        low += MILESTONE;
    }
    let base = low;
    // The peak grows smoothly with the length: false position (Illinois) is there in a few tries.
    let short_of = |led: f64| outcome(&start_of_try, minutes(led)).2.in_c() - finish;
    let (mut a, mut b) = (0.0, MILESTONE);
    let (mut fa, mut fb) = (short_of(a), short_of(b));
    let mut led_for = if fa >= 0.0 { 0.0 } else { MILESTONE };
    for _ in 0..6 {
        if fa >= 0.0 || fb <= 0.0 || b - a < 0.5 {
            break;
        }
        led_for = a + (b - a) * fa / (fa - fb);
        let f = short_of(led_for);
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
    // Up to the whole minute: never short of the finish.
    let led_for = led_for.ceil();
    let (core_at_stage_end, pull, peak) = outcome(&start_of_try, minutes(led_for));
    let lengths: Vec<Time> = stages.iter().enumerate().map(|(i, s)| if i == led { minutes(base + led_for) } else { fixed(s) }).collect();
    let takes: Time = lengths.iter().copied().fold(minutes(0.0), |sum, t| sum + t);
    FireAnswer {
        stages: lengths,
        core_at_stage_end,
        pull,
        carry_over: kelvin((peak.in_c() - pull.in_c()).max(0.0)),
        takes,
        low: minutes((takes.in_min() * 0.75).round()),
        high: minutes((takes.in_min() * 1.33).round()),
    }
}

/// What a piece goes through between the cold and the plate.
#[derive(Debug, Clone, Copy)]
pub struct Heating<'a> {
    /// Standing out before the heat.
    pub tempering: Time,
    /// Mean temperature when it meets the fire.
    pub start: Temperature,
    /// The stages, as `fire_plan` was asked.
    pub stages: &'a [FireStage],
    /// Rest after the heat.
    pub rest: Time,
}

/// Mean temperature of the whole piece through tempering, heat and rest, in pieces of ten minutes: what salt travels at
/// meanwhile [est: one temperature for the whole thickness].
pub fn in_the_heat(cut: Cut, largest: Mass, thickness: Length, answer: &FireAnswer, heating: &Heating) -> Vec<(Time, Temperature)> {
    const PIECE: f64 = 10.0;
    let cold = 4.0;
    let mut through = Vec::new();
    if heating.tempering.in_min() > 0.0 {
        through.push((heating.tempering, celsius(f64::midpoint(cold, heating.start.in_c()))));
    }
    let mut roast = Roast::new(body(cut, largest, thickness, heating.start), Wetness::OPEN);
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
