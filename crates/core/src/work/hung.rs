//! Jobs hung on the heat: at a minute, at a core temperature, every so often, as it begins or ends.

use super::aside::{Aside, at_the_skin, in_the_heat};
use super::recipe::Recipe;
use super::step::{Beside, Moment, Step, figure};
use crate::ask::{Hung, HungAt};
use crate::fire::{HeatPoint, HeatSource, How};
use crate::method::StepKind;
use crate::units::{Temperature, TemperatureIn, Time, TimeIn, celsius, minutes};
use crate::words;

/// Why a job never comes due.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum NeverDue {
    /// There are only so many stages.
    Stage(usize),
    /// It is over by then: what it hangs on lasts so long.
    Minute(Time),
    /// The core goes from the first to the second while that lasts.
    Core(Temperature, Temperature),
    /// It would be done more often than anybody does; so far apart it may be.
    TooOften(Time),
}

/// A job is done at most so many times.
const MOST_TIMES: f64 = 24.0;

/// An end is met to that, min.
const NEAR: f64 = 0.5;

/// A charge of charcoal, and the liquid in a tray, want looking after so often, min (our estimate).
const LASTS: f64 = 45.0;

/// A dial has settled by then, min (our estimate).
const SETTLED: f64 = 10.0;

/// When a job is usually done that nobody hung anywhere; `None` where it has its own place, or none.
pub(super) fn usually_hung(kind: StepKind) -> Option<Hung> {
    let hung = |at, every| Some(Hung { stage: None, at, every });
    let after = |min: f64| HungAt::Minute(minutes(min));
    match kind {
        StepKind::TopUpLiquid | StepKind::FeedCoals => hung(after(LASTS), Some(minutes(LASTS))),
        StepKind::Wood | StepKind::Vents | StepKind::WaterPan => hung(HungAt::Begins, None),
        StepKind::ReadAir | StepKind::OpenLid => hung(after(SETTLED), None),
        _ => None,
    }
}

/// How often a job of this kind opens a door or a lid.
pub fn opens_every(kind: StepKind, hung: Option<&Hung>) -> Option<Time> {
    use StepKind::{Baste, FeedCoals, Look, OpenLid, TopUpLiquid, Turn, Wood};
    let opens = matches!(kind, Baste | FeedCoals | Look | OpenLid | TopUpLiquid | Turn | Wood);
    let usual = || if kind == Baste { Some(minutes(super::BASTE_MIN)) } else { usually_hung(kind)?.every };
    opens.then(|| hung.map_or_else(usual, |hung| hung.every)).flatten()
}

/// From when to when what it hangs on lasts, min since it went into the heat.
fn span(hung: &Hung, stages: &[Time]) -> Option<(f64, f64)> {
    let ends = |n: usize| stages[..n].iter().map(|time| time.in_min()).sum::<f64>();
    match hung.stage {
        None => Some((0.0, ends(stages.len()))),
        Some(i) => (i < stages.len()).then(|| (ends(i), ends(i + 1))),
    }
}

/// When a job is done, minutes since it went into the heat; stages by their lengths.
///
/// # Errors
/// Where it never comes due.
pub fn due(hung: &Hung, stages: &[Time], curve: &[HeatPoint]) -> Result<Vec<f64>, NeverDue> {
    let (from, to) = span(hung, stages).ok_or(NeverDue::Stage(stages.len()))?;
    let first = match hung.at {
        HungAt::Begins => from,
        HungAt::Ends => to,
        HungAt::Minute(after) if from + after.in_min() <= to + NEAR => (from + after.in_min()).min(to),
        HungAt::Minute(_) => return Err(NeverDue::Minute(minutes(to - from))),
        HungAt::Core(core) => {
            let (begins, ends) = (core_at(curve, from), core_at(curve, to));
            let reached = core_reaches(curve, core.in_c(), from).filter(|min| begins < core && *min <= to + NEAR);
            reached.ok_or(NeverDue::Core(begins, ends))?.min(to)
        }
    };
    let Some(every) = hung.every else { return Ok(vec![first]) };
    // What is over in a moment is not done once more.
    let times = ((to - NEAR - first) / every.in_min().max(1e-9)).ceil().max(1.0);
    if times > MOST_TIMES {
        return Err(NeverDue::TooOften(minutes(((to - first) / MOST_TIMES).ceil())));
    }
    Ok((0..times as usize).map(|n| first + n as f64 * every.in_min()).collect())
}

/// The job as the steps beside the heat that it comes to; none where it never comes due.
pub(super) fn hung(recipe: &Recipe, kind: StepKind, hung: &Hung, takes: Option<Time>) -> Vec<Aside> {
    let stages = &recipe.fire.stages[..];
    let due = due(hung, stages, recipe.heat.curve).unwrap_or_default();
    let write = |(n, min): (usize, f64)| {
        let (i, moment) = moment(hung, n, min, stages)?;
        let mut step = job(recipe, kind, i, min);
        step.moment = moment;
        if let (HungAt::Core(core), 0, Some(target)) = (hung.at, n, recipe.targets.first()) {
            step.figure = Some(figure(words::c(core), target.at.reads()));
            step.detail = format!("When the {} reads {} °C. {}", target.at.id(), words::c(core), step.detail);
        }
        if let Some(takes) = takes {
            (step.takes, step.hands_on) = (takes, takes);
        }
        Some((Beside::Stage(i), step))
    };
    due.into_iter().enumerate().filter_map(write).collect()
}

/// The stage that goes on then, and the moment of it.
fn moment(hung: &Hung, n: usize, min: f64, stages: &[Time]) -> Option<(usize, Moment)> {
    let (i, into, left) = if let Some(i) = hung.stage {
        let (from, to) = span(hung, stages)?;
        (i, min - from, to - min)
    } else {
        let mut from = 0.0;
        let ends = hung.at == HungAt::Ends;
        stages.iter().enumerate().find_map(|(i, time)| {
            let to = from + time.in_min();
            let here = (!ends && min < to - 1e-9) || i + 1 == stages.len();
            let found = here.then_some((i, min - from, to - min));
            from = to;
            found
        })?
    };
    // Near its end it goes by that: a stage that waits for the core ends when it ends.
    let by_the_end = hung.at == HungAt::Ends && n == 0 || into > left && !matches!(hung.at, HungAt::Begins);
    let at = if by_the_end { Moment::ToGo(minutes(left.max(0.0))) } else { Moment::In(minutes(into.max(0.0))) };
    Some((i, at))
}

/// What is done, in words; `stage` is the one that goes on then, `min` how long it has been in the heat.
fn job(recipe: &Recipe, kind: StepKind, stage: usize, min: f64) -> Step {
    let on = recipe.heat.stages.get(stage);
    let with = on.map_or(HeatSource::Oven, |stage| stage.with);
    let lid = if with == HeatSource::Oven { "door" } else { "lid" };
    let (title, takes, detail): (&str, f64, String) = match kind {
        StepKind::Turn => match on.map(|stage| (stage.how, stage.with)) {
            Some((How::Direct, _) | (_, HeatSource::Pan)) => {
                ("Turn it over", 1.0, "The other side down, with tongs: a fork lets juice out.".into())
            }
            Some((How::InLiquid, _)) => ("Turn it over", 1.0, "The dry side down into the liquid.".into()),
            _ => ("Turn it round", 1.0, format!("Back to front, the {lid} shut again at once: most are hotter at one side.")),
        },
        StepKind::Look => {
            let place = recipe.targets.first().map_or("core", |t| t.at.id());
            let core = words::c(core_at(recipe.heat.curve, min));
            ("Look at it", 1.0, format!("Colour and drip. The probe shows about {core} °C in the {place} by now, our estimate."))
        }
        StepKind::Glaze => (
            "Glaze it",
            2.0,
            "From the half that was set aside clean. Sugar burns: the last 5 to 8 °C before the pull are soon enough.".into(),
        ),
        StepKind::Baste | StepKind::Shield | StepKind::Scrape => {
            let (title, detail) = at_the_skin(kind);
            (title, 1.0, detail.into())
        }
        StepKind::TopUpLiquid => (
            "Top up the liquid",
            1.0,
            "Hot, beside the piece and not over it, a finger deep again: a dry tray burns, and cold liquid stops the heat.".into(),
        ),
        StepKind::OpenLid => (
            "Open it for a moment",
            1.0,
            format!("Stand back and lift the {lid} away from you: steam comes first, and flames where fat has gathered."),
        ),
        StepKind::FeedCoals => (
            "Feed the coals",
            2.0,
            "Lit beforehand until they are grey, 20 minutes in a starter; laid to the side, not under what drips.".into(),
        ),
        StepKind::Wood => {
            ("Wood on", 1.0, "A dry, untreated piece as big as a fist. Where fat drips on coals that makes smoke enough.".into())
        }
        StepKind::Vents => {
            ("Set the vents", 1.0, "The lower one rules the heat, the upper one stays open. A shut vent ends flames, and smokes.".into())
        }
        StepKind::WaterPan => {
            ("Water into the pan under it", 1.0, "Hot, two fingers deep: it catches the fat and keeps the air moist.".into())
        }
        _ => (
            "Read the air beside the meat",
            1.0,
            "A thermometer a hand from the piece, clear of the walls: dials and lids are off by 10 to 30 °C. Set the heat by it.".into(),
        ),
    };
    let mut step = in_the_heat(kind, title, Moment::In(minutes(min)), takes, &detail);
    step.figure = match kind {
        StepKind::Look => recipe.targets.first().map(|t| figure(words::c(core_at(recipe.heat.curve, min)), t.at.reads())),
        StepKind::ReadAir => on.map(|stage| figure(format!("{:.0}", stage.air.in_c()), "°C")),
        _ => None,
    };
    step.needs = match kind {
        StepKind::FeedCoals => vec!["charcoal".into(), "starter".into()],
        StepKind::Wood => vec!["wood".into()],
        StepKind::ReadAir => vec!["a second thermometer".into()],
        StepKind::Turn => vec!["tongs".into()],
        _ => vec![],
    };
    step
}

/// The core so many minutes into the heat.
pub(super) fn core_at(curve: &[HeatPoint], min: f64) -> Temperature {
    let points: Vec<(f64, f64)> = curve.iter().map(|p| (p.after.in_min(), p.core.in_c())).collect();
    celsius(crate::numeric::interpolate(&points, min))
}

/// The minute after `from` at which the core comes to a temperature.
pub(super) fn core_reaches(curve: &[HeatPoint], c: f64, from: f64) -> Option<f64> {
    let pair = curve.windows(2).find(|pair| pair[1].after.in_min() > from && pair[1].core.in_c() >= c)?;
    let [(before, cold), (after, warm)] = [0, 1].map(|i| (pair[i].after.in_min(), pair[i].core.in_c()));
    Some(before + (after - before) * ((c - cold) / (warm - cold).max(1e-9)).clamp(0.0, 1.0))
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Half an hour, then an hour; the core rises by a degree a minute, from 5 °C.
    fn heat() -> (Vec<Time>, Vec<HeatPoint>) {
        let point = |min: f64| {
            let [air, core] = [180.0, 5.0 + min].map(celsius);
            HeatPoint { after: minutes(min), air, core, surface: core, mean: core }
        };
        (vec![minutes(30.0), minutes(60.0)], (0..=10).map(|i| point(f64::from(i) * 10.0)).collect())
    }

    #[test]
    fn a_job_comes_due_when_it_was_said() {
        // By hand: stages of 30 and 60 minutes, the core at 5 °C and a minute later a degree more.
        let (stages, curve) = heat();
        let due = |stage, at, every: Option<f64>| due(&Hung { stage, at, every: every.map(minutes) }, &stages, &curve);
        let min = |m| HungAt::Minute(minutes(m));
        let core = |c| HungAt::Core(celsius(c));
        for (stage, at, every, want) in [
            (None, min(40.0), None, vec![40.0]),
            (Some(1), min(40.0), None, vec![70.0]),
            (None, min(30.0), Some(30.0), vec![30.0, 60.0]),
            (Some(1), HungAt::Begins, Some(20.0), vec![30.0, 50.0, 70.0]),
            (Some(0), HungAt::Ends, None, vec![30.0]),
            (None, HungAt::Ends, None, vec![90.0]),
            (None, core(45.0), None, vec![40.0]),
            (None, core(65.0), Some(15.0), vec![60.0, 75.0]),
            (Some(1), core(35.0 + 1.0), None, vec![31.0]),
        ] {
            let got = due(stage, at, every).unwrap();
            let near = got.iter().zip(&want).all(|(a, b)| (a - b).abs() < 1e-9) && got.len() == want.len();
            assert!(near, "{stage:?} {at:?} {every:?}: {got:?}, want {want:?}");
        }
        // Never: no such stage, over by then, a core not reached or passed before, more often than anybody does.
        assert_eq!(due(Some(2), HungAt::Begins, None), Err(NeverDue::Stage(2)));
        assert_eq!(due(Some(0), min(31.0), None), Err(NeverDue::Minute(minutes(30.0))));
        assert_eq!(due(None, core(96.0), None), Err(NeverDue::Core(celsius(5.0), celsius(95.0))));
        assert_eq!(due(Some(1), core(30.0), None), Err(NeverDue::Core(celsius(35.0), celsius(95.0))));
        assert_eq!(due(None, HungAt::Begins, Some(2.0)), Err(NeverDue::TooOften(minutes(4.0))));
    }
}
