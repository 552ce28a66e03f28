//! What is drawn: the piece from the heat to the end of its rest, and the warmth its salt travels at meanwhile.

use super::conduction::Body;
use super::heat_point::HeatPoint;
use super::roast::FireAnswer;
use super::source::How;
use super::stage::{Cooking, FireStage, Resting};
use crate::units::{Temperature, TemperatureIn, Time, TimeIn, celsius, minutes};

/// What a piece goes through from the heat to the plate.
#[derive(Debug, Clone, Copy)]
pub struct Heating<'a> {
    /// The stages, as `fire_plan` was asked.
    pub stages: &'a [FireStage],
    /// Rest after the heat.
    pub rest: Time,
    /// How it rests.
    pub resting: Resting,
}

/// Longest time between two points of the heat, min.
const PIECE: f64 = 10.0;

/// The piece from the heat to the end of its rest, in pieces of ten minutes at most; the first point is when it goes in.
pub fn heat_curve(body: Body, answer: &FireAnswer, heating: &Heating) -> Vec<HeatPoint> {
    let mut cooking = Cooking::new(body, heating.stages);
    let point = |cooking: &Cooking, after: f64, air| HeatPoint {
        after: minutes(after),
        air,
        core: cooking.roast.core(),
        surface: cooking.roast.surface(false),
        mean: cooking.roast.mean(),
    };
    let mut points = vec![point(&cooking, 0.0, heating.stages.first().map_or(body.start, FireStage::said))];
    let mut now = 0.0;
    for ((stage, time), run) in heating.stages.iter().zip(&answer.stages).zip(&answer.runs) {
        let pace = if time.in_min() > 0.0 { run.in_min() / time.in_min() } else { 1.0 };
        // A short stage is looked at four times; a piece that is turned between two turns.
        let often = PIECE.min((time.in_min() / 4.0).max(1.0));
        let piece = stage.flip.map_or(often, |flip| flip.in_min().max(often));
        let mut left = time.in_min();
        while left > 1e-6 {
            let before = cooking.air_at_first(stage);
            cooking.pass(stage, minutes(left.min(piece) * pace), |_, _, _| false);
            let after = cooking.air_at_first(stage);
            now += left.min(piece);
            left -= piece;
            let air = stage.on_air_of(celsius(f64::midpoint(before.in_c(), after.in_c()))).said();
            points.push(point(&cooking, now, air));
        }
    }
    // A thin piece is at its hottest within minutes.
    let board = heating.resting.around().in_a_draught(answer.draught);
    let (mut left, mut peaked) = (heating.rest.in_min(), false);
    let often = PIECE.min((left / 4.0).max(1.0));
    while left > 1e-6 {
        // One point is the peak itself.
        let mut peak = cooking.roast.core().in_c();
        let used = cooking.roast.run(board, minutes(left.min(often)), |_, core| {
            let climbs = core.in_c() >= peak - 1e-6;
            peak = peak.max(core.in_c());
            climbs || peaked
        });
        peaked = used.in_min() < left.min(often) - 1e-6 || peaked;
        now += used.in_min();
        left -= used.in_min();
        points.push(point(&cooking, now, board.air));
    }
    points
}

/// A while of one temperature between refrigerator and plate.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct HeatSpell {
    /// How long.
    pub takes: Time,
    /// Of the whole piece.
    pub mean: Temperature,
    /// Whether it lies in a liquid meanwhile.
    pub soaks: bool,
}

/// Mean temperature of the whole piece through tempering, heat and rest: what salt travels at meanwhile (our estimate: one
/// temperature for the whole thickness), and where it lies in a liquid.
pub fn in_the_heat(body: Body, answer: &FireAnswer, stages: &[FireStage], curve: &[HeatPoint], tempering: Time) -> Vec<HeatSpell> {
    const COLD: f64 = 4.0;
    let dry = |takes, mean| HeatSpell { takes, mean, soaks: false };
    let out = (tempering.in_min() > 0.0).then(|| dry(tempering, celsius(f64::midpoint(COLD, body.start.in_c()))));
    let soaks = |at: f64| {
        let mut ends = 0.0;
        stages.iter().zip(&answer.stages).any(|(stage, takes)| {
            let from = ends;
            ends += takes.in_min();
            stage.how == How::InLiquid && at > from && at < ends
        })
    };
    let middle = |pair: &[HeatPoint]| f64::midpoint(pair[0].after.in_min(), pair[1].after.in_min());
    let wet = curve.windows(2).map(|pair| soaks(middle(pair)));
    out.into_iter().chain(spells(curve).into_iter().zip(wet).map(|(spell, soaks)| HeatSpell { soaks, ..spell })).collect()
}

/// The whiles between the points of a curve, dry.
pub fn spells(curve: &[HeatPoint]) -> Vec<HeatSpell> {
    let spell = |pair: &[HeatPoint]| {
        let mean = celsius(f64::midpoint(pair[0].mean.in_c(), pair[1].mean.in_c()));
        HeatSpell { takes: pair[1].after - pair[0].after, mean, soaks: false }
    };
    curve.windows(2).map(spell).collect()
}
