//! A kept piece while it rests: how it stands at any hour, what the two schools say of it, the curve it dries along, and
//! what its refrigerator has taught.

use crate::ask::{PlanRequest, Refusal};
use crate::caution::{Caution, chill_cautions};
use crate::plan::{ActualSalt, ColdState, Course, ModelHours, chill_hours, model_hours, why_they_differ, with_course};
use crate::salt::ChillHours;
use crate::say::chill_facts;
use crate::skin::drying::{Air, DRY_ENOUGH, Doubt, Drying, Fit, Series, Touch, Weighing, fit, look_for_doubt, weighed_points};
use crate::units::{Dryness, Mass, MassIn, Time, TimeIn, grams, hours};

/// A piece in the cold, and what is asked of it.
#[derive(Debug, Clone)]
pub struct ChillingAsk<'a> {
    /// As it was planned, with the air it was planned for.
    pub request: &'a PlanRequest,
    /// What is really on it.
    pub really: &'a ActualSalt,
    /// The hour to show, in hours of salt.
    pub shown: Time,
    /// How far the curve goes, in hours of salt.
    pub until: Time,
    /// The refrigerator's air as it is known now, with the coefficient weighings gave it.
    pub air: Air,
    /// How well that coefficient is known.
    pub known: Fit,
}

/// One point of the curve.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct CurvePoint {
    /// Hours of salt.
    pub h: f64,
    /// Grams lost: the forecast now, its low and high ends (19 times of 20), and the forecast as it was planned.
    pub lost_g: [f64; 4],
    /// How dry the skin is by the forecast now.
    pub dryness: Option<Dryness>,
}

/// When the skin is dry enough, in hours of salt; `None` where it is not within a week.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct DryWhen {
    /// By the forecast now.
    pub now: Option<Time>,
    /// Where the refrigerator dries as hard as it well may.
    pub soonest: Option<Time>,
    /// Where it dries as little as it well may.
    pub latest: Option<Time>,
    /// As it was planned.
    pub planned: Option<Time>,
}

/// A piece while it rests.
#[derive(Debug, Clone)]
pub struct Chilling {
    /// How it stands at the hour shown.
    pub state: ColdState,
    /// The house's hours.
    pub house: ChillHours,
    /// The model's.
    pub model: ModelHours,
    /// Why they differ.
    pub why: String,
    /// What may go wrong if it comes out at the hour shown.
    pub cautions: Vec<Caution>,
    /// Along which it dries.
    pub curve: Vec<CurvePoint>,
    /// When its skin is dry enough; `None` without skin.
    pub dry: Option<DryWhen>,
    /// When the skin will feel like each step of the touch scale, in hours of salt.
    pub touches: Vec<(Touch, Option<Time>)>,
    /// What a wet surface loses in this air, g/dm² a day: the drying coefficient in words a cook can use.
    pub wet_loss: f64,
}

/// Two standard deviations: 19 times of 20.
const BAND: f64 = 2.0;
/// Points on the curve.
const POINTS: usize = 72;

/// Looks at a chilling piece.
///
/// Cost: one run of salt travel for the hour shown, one of a week, and four of drying: some milliseconds.
pub fn chilling(ask: &ChillingAsk) -> Result<Chilling, Vec<Refusal>> {
    let mut request = ask.request.clone();
    let planned_air = request.kitchen.fridge;
    request.kitchen.fridge = ask.air;
    let before = ask.really.open_before;
    with_course(&request, ask.really, |course, with, _| {
        let model = model_hours(&request, with, course, before);
        let house = chill_hours(with);
        let (_, drying) = course.through(if ask.until > ask.shown { ask.until } else { ask.shown });
        let state = state_at(course, &drying, ask, before);
        let (touches, dry_enough) = touches(&drying, ask.air, before);
        let at = chill_facts(with, &state, ask.shown, house, (model.wet, model.dry));
        Chilling {
            cautions: chill_cautions(&at),
            curve: curve(&drying, ask, planned_air, before),
            dry: state.dryness.map(|_| dry_when(&drying, ask, planned_air, dry_enough, before)),
            touches,
            why: why_they_differ(with, house.ideal, &model),
            wet_loss: crate::skin::drying::evaporation(ask.air, 0.997) * 86_400.0 * 10.0,
            house,
            model,
            state,
        }
    })
}

fn state_at(course: &Course, drying: &Drying, ask: &ChillingAsk, before: Time) -> ColdState {
    course.state_with(&course.travel(ask.shown), drying.at(ask.air, &[ask.shown + before])[0], ask.shown)
}

/// The air with a coefficient so many standard deviations away.
fn away(ask: &ChillingAsk, deviations: f64) -> Air {
    Air { h: ask.known.away(deviations), ..ask.air }
}

fn curve(drying: &Drying, ask: &ChillingAsk, planned: Air, before: Time) -> Vec<CurvePoint> {
    let moments: Vec<Time> = (0..=POINTS).map(|i| ask.until * (i as f64 / POINTS as f64)).collect();
    let open: Vec<Time> = moments.iter().map(|t| *t + before).collect();
    let lost = |air: Air| drying.at(air, &open);
    let (now, low, high) = (lost(ask.air), lost(away(ask, -BAND)), lost(away(ask, BAND)));
    // Nobody has read or taught the refrigerator since: the plan's air is this air.
    let old = if planned == ask.air { now.clone() } else { lost(planned) };
    let point = |i: usize| CurvePoint {
        h: moments[i].in_h(),
        lost_g: [&now, &low, &high, &old].map(|states| states[i].lost.in_g()),
        dryness: now[i].skin,
    };
    (0..moments.len()).map(point).collect()
}

/// From hours in the open to hours of salt.
fn since_salt(open: Option<Time>, before: Time) -> Option<Time> {
    open.map(|at| hours((at.in_h() - before.in_h()).max(0.0)))
}

fn dry_when(drying: &Drying, ask: &ChillingAsk, planned: Air, now: Option<Time>, before: Time) -> DryWhen {
    let at = |air: Air| if air == ask.air { now } else { since_salt(drying.dry_at(air, &[DRY_ENOUGH])[0], before) };
    DryWhen { now, soonest: at(away(ask, BAND)), latest: at(away(ask, -BAND)), planned: at(planned) }
}

/// When the skin feels like each step of the touch scale, and when it is dry enough: one run.
fn touches(drying: &Drying, air: Air, before: Time) -> (Vec<(Touch, Option<Time>)>, Option<Time>) {
    let wanted: Vec<Dryness> = Touch::ALL.iter().map(|t| t.from_dryness()).chain([DRY_ENOUGH]).collect();
    let mut at: Vec<Option<Time>> = drying.dry_at(air, &wanted).into_iter().map(|at| since_salt(at, before)).collect();
    let dry_enough = at.pop().flatten();
    (Touch::ALL.into_iter().zip(at).collect(), dry_enough)
}

/// One piece's weighings, as its refrigerator learns from them.
#[derive(Debug, Clone)]
pub struct WeighedPiece {
    /// As it was planned.
    pub request: PlanRequest,
    /// What was really on it.
    pub really: ActualSalt,
    /// Its weighings in order, since it stood in the open.
    pub weighings: Vec<Weighing>,
}

/// Its sides as they dry in the refrigerator's air, until after its last weighing.
fn drying_of(piece: &WeighedPiece, air: Air) -> Option<Drying> {
    let mut request = piece.request.clone();
    request.kitchen.fridge = air;
    let last = piece.weighings.iter().map(|w| w.at.in_h()).fold(24.0, f64::max);
    with_course(&request, &piece.really, |course, _, _| course.through(hours(last)).1).ok()
}

/// Salt laid on later weighs too: what came on or off before a weighing is taken out of it.
fn without_changes(piece: &WeighedPiece, weighing: &Weighing) -> Weighing {
    let salted = |after: Time| after + piece.really.open_before <= weighing.at;
    let changed = piece.really.changes.iter().filter(|c| salted(c.after)).fold(grams(0.0), |sum, c| sum + c.by);
    Weighing { gross: weighing.gross - changed, ..*weighing }
}

fn points_of(piece: &WeighedPiece) -> Vec<crate::skin::drying::WeighedPoint> {
    weighed_points(&piece.weighings.iter().map(|w| without_changes(piece, w)).collect::<Vec<_>>())
}

/// Fits the refrigerator's one coefficient to all its pieces. `air` is its air as known, with the usual coefficient.
pub fn fit_refrigerator(pieces: &[WeighedPiece], air: Air) -> Fit {
    let dryings: Vec<(Drying, &WeighedPiece)> = pieces.iter().filter_map(|p| Some((drying_of(p, air)?, p))).collect();
    let lost: Vec<Box<crate::skin::drying::Lost>> = dryings
        .iter()
        .map(|(drying, _)| Box::new(move |h, at: &[Time]| drying.lost(air, h, at)) as Box<crate::skin::drying::Lost>)
        .collect();
    let series: Vec<Series> =
        dryings.iter().zip(&lost).map(|((_, piece), lost)| Series { lost: lost.as_ref(), points: points_of(piece) }).collect();
    let fitted = fit(&series, air.h);
    // A coefficient no refrigerator has is nothing learned.
    if fitted.points < 2 { Fit::unweighed(air.h) } else { fitted }
}

/// Holds a new weighing against the earlier ones of its piece, and against what it was said to weigh.
pub fn doubt_about(piece: &WeighedPiece, air: Air, known: &Fit, new: &Weighing) -> Option<Doubt> {
    let drying = drying_of(&WeighedPiece { weighings: vec![*new], ..piece.clone() }, air)?;
    let lost = |h, at: &[Time]| drying.lost(air, h, at);
    let series = Series { lost: &lost, points: points_of(piece) };
    let said = piece.request.portions.iter().fold(grams(0.0), |sum, p| sum + p.weight);
    let said = piece.request.trimmed.filter(|_| piece.request.portions.len() == 1).unwrap_or(said);
    look_for_doubt(&series, known, &without_changes(piece, new), said)
}

/// The weighings as grams lost since the piece stood in the open, against the model's own start: what the curve shows.
pub fn lost_by_weighing(piece: &WeighedPiece, air: Air, h: Fit) -> Vec<(Time, Mass)> {
    let Some(drying) = drying_of(piece, air) else { return vec![] };
    let points = points_of(piece);
    let moments: Vec<Time> = points.iter().map(|p| p.at).collect();
    let model = drying.lost(air, h.h, &moments);
    let start = |stretch: usize| {
        let of: Vec<f64> = (0..points.len()).filter(|i| points[*i].stretch == stretch).map(|i| points[i].net_g + model[i]).collect();
        of.iter().sum::<f64>() / of.len().max(1) as f64
    };
    points.iter().map(|p| (p.at, grams(start(p.stretch) - p.net_g))).collect()
}
