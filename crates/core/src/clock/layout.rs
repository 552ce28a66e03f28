//! Steps laid out on the calendar.

use super::{ColdPlan, exact};
use crate::method::{Phase, Step};
use crate::units::{TimeIn, minutes};
use jiff::{SignedDuration, Timestamp};

/// A step with its times.
#[derive(Debug, Clone, PartialEq)]
pub struct Timed {
    /// The step.
    pub step: Step,
    /// When it starts.
    pub starts: Timestamp,
    /// When it ends.
    pub ends: Timestamp,
    /// The earliest it could start without spoiling the plan.
    pub earliest: Timestamp,
    /// The latest.
    pub latest: Timestamp,
}

/// Lays steps out around the stretch in the cold: thawing and work end where the cold begins, the rest
/// follows where it ends. A step beside others (preheating) ends where the fire begins.
pub fn lay_out(steps: Vec<Step>, cold: &ColdPlan, now: Timestamp) -> Vec<Timed> {
    let length = |step: &Step| exact(step.takes);
    let before: SignedDuration = steps.iter().filter(|s| matches!(s.phase, Phase::Before | Phase::Thawing)).map(length).sum();
    // Work still to do never starts before now, even when the salt clock began in the past.
    let mut at = (cold.from - before).max(now);
    let mut after = cold.to;
    // Standing out and brushing come before the fire; preheating ends there.
    let until_fire: SignedDuration =
        steps.iter().filter(|s| s.phase == Phase::After && s.place == crate::method::Place::Bench).map(length).sum();
    let fire = cold.to + until_fire;
    let mut timed: Vec<Timed> = steps
        .into_iter()
        .map(|step| {
            let long = length(&step);
            let (starts, ends) = match step.phase {
                Phase::Thawing | Phase::Before => (at, at + long),
                Phase::Cold => (at.max(cold.from), cold.to),
                Phase::After => (after, after + long),
                Phase::Beside => ((fire - long).max(now), fire),
            };
            match step.phase {
                Phase::Thawing | Phase::Before => at = ends,
                Phase::After => after = ends,
                Phase::Cold | Phase::Beside => {}
            }
            let (earlier, later) = match step.phase {
                Phase::Thawing | Phase::Before => cold.slack,
                _ => (minutes(0.0), minutes(0.0)),
            };
            Timed { earliest: (starts - exact(earlier)).max(now.min(starts)), latest: starts + exact(later), starts, ends, step }
        })
        .filter(|t| t.step.takes.in_s() > 0.5 || t.step.phase != Phase::Cold)
        .collect();
    timed.sort_by_key(|t| t.starts);
    timed
}

#[cfg(test)]
mod tests;
