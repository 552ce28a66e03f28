//! The second school of hours: until the model says that something is reached.

use super::course::{Course, OnTheSides};
use super::parts::{GoalHours, ModelHours};
use crate::ask::{Goal, PlanRequest};
use crate::settle::Resolved;
use crate::skin::drying::{DRY_AT_LEAST, DRY_ENOUGH};
use crate::units::{Evenness, GramsPerKg, LengthIn, Time, TimeIn, hours, millimetres};
use crate::words::h;

/// So far is looked.
const A_WEEK: f64 = 168.0;

/// Evenness from which on more hours are not tasted (our estimate).
const EVEN: f64 = 0.8;

/// Share of the salt laid on below which none is said to wait (our estimate).
const WAITS_NO_MORE: f64 = 0.01;

/// When the model reaches each goal. One run of at most a week; the hours looked at grow by six in a hundred, with straight
/// lines between.
pub(crate) fn model_hours(request: &PlanRequest, resolved: &Resolved, course: &Course, open_before: Time) -> ModelHours {
    let goal = request.goal.unwrap_or_else(|| Goal::usual(resolved.thickness));
    let crackles = resolved.crackles;
    let mut goals = vec![Goal::Depth(millimetres(12.0)), Goal::Evenness(Evenness(0.5)), Goal::Rim(GramsPerKg(20.0))];
    if resolved.skin.in_mm() > 0.0 {
        goals.push(Goal::Dryness(DRY_ENOUGH));
    }
    match goals.iter_mut().find(|g| g.id() == goal.id()) {
        Some(same) => *same = goal,
        None => goals.push(goal),
    }
    let asked: Vec<Goal> = goals.iter().copied().chain([Goal::Evenness(Evenness(EVEN))]).collect();
    let Reached { at: mut found, wet, seen } = reach(course, resolved, &asked);
    let wanted = match goals.iter().find(|g| matches!(g, Goal::Dryness(_))) {
        Some(Goal::Dryness(own)) => vec![DRY_AT_LEAST, DRY_ENOUGH, *own],
        _ => vec![],
    };
    let dry: Vec<Option<Time>> = course.drying(&seen).dry_at(resolved.air, &wanted);
    // Counted from the salting, as all hours here.
    let dry: Vec<Option<Time>> = dry.into_iter().map(|at| Some(hours((at?.in_h() - open_before.in_h()).max(0.0)))).collect();
    for (goal, at) in asked.iter().zip(&mut found) {
        if matches!(goal, Goal::Dryness(_)) {
            *at = dry.get(2).copied().flatten();
        }
    }
    let longest = found.pop().flatten();
    let goals: Vec<GoalHours> = goals.into_iter().zip(found).map(|(goal, at)| GoalHours { goal, at }).collect();
    let reached = goals.iter().find(|g| g.goal == goal).and_then(|g| g.at);
    let later = |a: Option<Time>, b: Option<Time>| Some(if a? > b? { a? } else { b? });
    let with_skin = |at: Option<Time>, dry: Option<Time>| if crackles { later(at, dry) } else { at };
    let ideal = with_skin(reached, dry.get(1).copied().flatten());
    let shortest = with_skin(Some(wet.unwrap_or(hours(0.0))), dry.first().copied().flatten());
    // A goal that comes sooner than the salt is in waits for it; one that comes later than even stretches it.
    let ideal = ideal.map(|at| shortest.filter(|s| *s > at).unwrap_or(at));
    let longest = match (longest, ideal) {
        (Some(long), Some(ideal)) if ideal > long => Some(ideal),
        (long, _) => long,
    };
    ModelHours { goal, shortest, ideal, longest, goals, wet, dry: dry.get(1).copied().flatten() }
}

/// What one run through a week at most has shown.
struct Reached {
    at: Vec<Option<Time>>,
    wet: Option<Time>,
    seen: Vec<OnTheSides>,
}

/// The first hour at which each goal is met; dryness is not looked at here.
fn reach(course: &Course, resolved: &Resolved, goals: &[Goal]) -> Reached {
    let mut found: Vec<Option<Time>> = vec![None; goals.len()];
    let mut before: Vec<Option<(f64, f64)>> = vec![None; goals.len()];
    let through = resolved.lean().in_mm();
    let (mut wet, mut seen, mut waited): (_, _, Option<(f64, f64)>) = (None, Vec::new(), None);
    course.follow(hours(A_WEEK), 0.06, |at, travel| {
        seen.push(course.on_the_sides(at, travel));
        if let Some(waits) = course.waits(travel).map(|w| w.max(1e-12)) {
            // Until less than a hundredth of what was laid on waits: it fades by the same share each hour.
            if wet.is_none() && waits < WAITS_NO_MORE && at > course.last_change() {
                wet = Some(match waited {
                    Some((h0, w0)) if w0 > WAITS_NO_MORE => hours(h0 + (at.in_h() - h0) * (w0 / WAITS_NO_MORE).ln() / (w0 / waits).ln()),
                    _ => at,
                });
            }
            waited = Some((at.in_h(), waits));
        }
        let profile = travel.profile();
        let mean = profile.lean_mean();
        for ((goal, found), before) in goals.iter().zip(&mut found).zip(&mut before) {
            // How far beyond the goal, so that all are read alike: reached from 0 on.
            let beyond = match goal {
                // Whoever asks for more than there is wants it all the way through.
                Goal::Depth(depth) => profile.salted_depth().in_mm() - depth.in_mm().min(through - 0.1),
                Goal::Evenness(wanted) => profile.evenness().0 - wanted.0,
                Goal::Rim(wanted) => wanted.0 - profile.rim().0,
                Goal::Dryness(_) => continue,
            };
            // While nothing is in, nothing is reached; a rim falls only once the salt is in.
            let counts = mean > 1e-9 && (goal.id() != "rim" || wet.is_some());
            if found.is_none() && counts && beyond >= 0.0 {
                let h = at.in_h();
                *found = Some(hours(match *before {
                    Some((h0, b0)) if b0 < 0.0 => h0 + (h - h0) * -b0 / (beyond - b0),
                    _ => h,
                }));
            }
            *before = counts.then_some((at.in_h(), beyond));
        }
        found.iter().zip(goals).any(|(f, g)| f.is_none() && !matches!(g, Goal::Dryness(_)))
    });
    Reached { at: found, wet, seen }
}

/// Why the two schools differ, in a sentence.
pub(crate) fn why_they_differ(resolved: &Resolved, house: Time, model: &ModelHours) -> String {
    let Some(ideal) = model.ideal else {
        return format!(
            "A week is not enough: {} is more than {:.0} mm lets through. The usual hours stop at seasoned edges.",
            model.goal.words(),
            resolved.thickness.in_mm()
        );
    };
    let (house_h, ideal_h) = (h(house), h(ideal));
    let (house, ideal) = (house.in_h(), ideal.in_h());
    let reason = match model.goal {
        Goal::Evenness(_) => {
            "the usual ones are about a seasoned outside, the computed ones here about an even middle, and that takes four times as long at twice the thickness"
        }
        Goal::Depth(_) => {
            "the usual ones go by thickness alone, the computed ones by how far the salt has come, from the sides that carry it and at this temperature"
        }
        Goal::Rim(_) => "the usual ones do not look at the outer 5 mm, the computed ones wait until it has become milder",
        Goal::Dryness(_) => "the usual ones are for usual skin in a usual refrigerator, the computed ones for this skin in this air",
    };
    if (house - ideal).abs() < 0.1 * house {
        format!("Usual and computed hours are about the same: {house_h} h and {ideal_h} h.")
    } else {
        format!("Usually {house_h} h, computed {ideal_h} h: {reason}.")
    }
}
