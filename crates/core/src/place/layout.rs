//! Steps laid out on the calendar.

use super::ColdPlan;
use crate::clock::{Quiet, exact};
use crate::method::Place;
use crate::units::{TimeIn, minutes};
use crate::work::{Moment, Phase, Step};
use jiff::tz::TimeZone;
use jiff::{SignedDuration, Timestamp};
use std::borrow::Cow;

/// A step with its times.
#[derive(Debug, Clone, PartialEq)]
pub struct Timed {
    /// The step as the recipe has it.
    pub step: Step,
    /// When it starts.
    pub starts: Timestamp,
    /// When it ends.
    pub ends: Timestamp,
    /// The earliest it could start without spoiling the plan.
    pub earliest: Timestamp,
    /// The latest it may start and still meet the meal.
    pub latest: Timestamp,
}

/// Lays steps out around the stretch in the cold: thawing and work end where the cold begins, the rest
/// follows where it ends. A step beside others (preheating) ends where the fire begins. A thaw begins when somebody is up and
/// goes on until the work begins.
pub fn lay_out(steps: Vec<Step>, cold: &ColdPlan, now: Timestamp) -> Vec<Timed> {
    let length = |step: &Step| exact(step.takes);
    let before: SignedDuration = steps.iter().filter(|s| s.phase == Phase::Before).map(length).sum();
    // Work still to do never starts before now, even when the salt clock began in the past.
    let mut at = (cold.from - before).max(now);
    let work = at;
    let mut after = cold.to;
    // Standing out and brushing come before the fire; preheating ends there.
    let until_fire: SignedDuration = steps.iter().filter(|s| s.phase == Phase::After && s.place == Place::Bench).map(length).sum();
    let fire = cold.to + until_fire;
    let mut timed: Vec<Timed> = steps
        .into_iter()
        .map(|step| {
            let long = length(&step);
            let (starts, ends) = match (step.phase, cold.thaw) {
                (Phase::Thawing, Some((start, _))) => (start.min(work), work),
                (Phase::Thawing, None) => ((work - long).max(now), work),
                (Phase::Before, _) => (at, at + long),
                (Phase::Cold, _) => (at.max(cold.from), cold.to),
                (Phase::After, _) => (after, after + long),
                // What is done beside another is laid beside it below.
                (Phase::Beside, _) => ((fire - long).max(now), fire),
            };
            match step.phase {
                Phase::Before => at = ends,
                Phase::After => after = ends,
                Phase::Thawing | Phase::Cold | Phase::Beside => {}
            }
            let (earlier, later) = match step.phase {
                Phase::Thawing | Phase::Before => cold.slack,
                _ => (minutes(0.0), minutes(0.0)),
            };
            Timed { earliest: (starts - exact(earlier)).max(now.min(starts)), latest: starts + exact(later), starts, ends, step }
        })
        .filter(|t| t.step.takes.in_s() > 0.5 || t.step.phase != Phase::Cold)
        .collect();
    lay_beside(&mut timed, now);
    timed.sort_by_key(|t| t.starts);
    timed
}

/// Moves each task that is done beside another to its moment of that one.
fn lay_beside(timed: &mut [Timed], now: Timestamp) {
    let row: Vec<(Cow<'static, str>, Timestamp, Timestamp)> =
        timed.iter().filter(|t| t.step.phase != Phase::Beside).map(|t| (t.step.id.clone(), t.starts, t.ends)).collect();
    for task in timed.iter_mut().filter(|t| t.step.phase == Phase::Beside) {
        let long = exact(task.step.takes);
        let Some((_, from, to)) = row.iter().find(|(id, ..)| Some(id) == task.step.beside.as_ref()) else { continue };
        let starts = match task.step.moment {
            Moment::Before => (*from - long).max(now),
            Moment::In(after) => *from + exact(after),
            Moment::ToGo(left) => *to - exact(left),
            Moment::Within(after) => *to + exact(after) - long,
        };
        (task.starts, task.ends, task.earliest, task.latest) = (starts, starts + long, starts, starts);
    }
}

/// The first step whose hands fall into the night.
pub fn in_the_night<'a>(timed: &'a [Timed], quiet: Option<Quiet>, zone: &TimeZone) -> Option<&'a Timed> {
    let quiet = quiet?;
    timed.iter().filter(|t| t.step.hands_on.in_s() > 0.5).find(|t| {
        // Hands come at the start of a step; what needs them throughout is as long as they are.
        let hands = exact(t.step.hands_on).min(t.ends.duration_since(t.starts).max(SignedDuration::from_secs(60)));
        quiet.touches(t.starts, t.starts + hands, zone)
    })
}

#[cfg(test)]
mod tests;
