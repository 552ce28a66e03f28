//! The salt that is on a piece: since when, how much at first, what changed.

use super::plan::{RunBowl, RunPlan};
use super::record::{Change, Fact, Record, between};
use crate::method::{SaltEffect, StepKind};
use crate::plan::{ActualMix, ActualSalt, SaltChange};
use crate::salt::{self, Weighed};
use crate::units::{Mass, MassIn, Share, Time, grams};
use jiff::Timestamp;

/// The salt on a piece.
#[derive(Debug, Clone)]
pub struct OnIt {
    /// Since when it is salted: the first of all salt.
    pub since: Timestamp,
    /// Since when the salting was over.
    pub salted: Timestamp,
    /// In the terms the course of the rest is reckoned in.
    pub really: ActualSalt,
    /// Notes of salt that came off though so much was not there.
    pub(super) more_off: Vec<Fact<Change>>,
}

impl OnIt {
    /// Of what was noted; `None` while nothing is on it.
    pub fn of(plan: &RunPlan, record: &Record) -> Option<Self> {
        let came: Vec<(Timestamp, Option<Mass>)> =
            plan.request.iter().flat_map(|r| &r.done).filter(|d| d.kind == StepKind::Salt).map(|d| (d.at, d.salt)).collect();
        let mut saltings = saltings(plan, record);
        let since = came.iter().map(|(at, _)| *at).chain(saltings.iter().map(|s| s.began)).min()?;
        let mut over = since;
        let mut really =
            ActualSalt { open_before: open_before(plan, record, since), mixes: mixes(plan, record, since), ..ActualSalt::default() };
        if came.is_empty() {
            let first = saltings.remove(0);
            over = first.over;
            really.grams = first.salt;
        } else {
            really.grams = Some(grams(0.0));
        }
        // A top-up is a change at its hour: the clock of the salt runs since the first.
        let mut changes: Vec<(Timestamp, Change)> =
            saltings.iter().map(|s| (s.began, Change::On(s.salt.unwrap_or(s.planned), Some(Share(1.0))))).collect();
        let mut more_off = Vec::new();
        // What lay on it beside what is weighed: as it came, and as weighed or planned.
        let planned = || plan.bowls.iter().filter(|b| !b.mix).fold(grams(0.0), |sum, b| sum + b.target * plan.purity.0);
        let on = came.iter().fold(grams(0.0), |sum, (_, g)| sum + g.unwrap_or(grams(0.0)));
        let mut total = on + if came.is_empty() { really.grams.unwrap_or_else(planned) } else { grams(0.0) };
        let noted: Vec<(Timestamp, Change, Option<Fact<Change>>)> = changes
            .drain(..)
            .map(|(at, change)| (at, change, None))
            .chain(record.changes.iter().map(|fact| (fact.at, fact.says, Some(*fact))))
            .collect();
        let mut noted = noted;
        noted.sort_by_key(|(at, _, fact)| (*at, fact.map(|f| f.id)));
        let unknown = came.iter().any(|(_, g)| g.is_none());
        for (at, change, fact) in noted {
            let pure = |g: Mass, purity: Option<Share>| g * purity.unwrap_or(plan.purity).0;
            let by = match change {
                Change::On(g, purity) => pure(g, purity),
                Change::Off(g, purity) => {
                    let off = pure(g, purity);
                    // Nobody knows how much came with it where nobody weighed it.
                    if off.in_g() > total.in_g() + 0.05 && !unknown {
                        more_off.extend(fact);
                    }
                    -off
                }
                Change::Really(g, purity) => pure(g, purity) - total,
            };
            // Nobody brushes off more than there is, where anybody knows how much that was.
            let by = if by < -total && !unknown { -total } else { by };
            total += by;
            if total.in_g() < 0.0 {
                total = grams(0.0);
            }
            if by.in_g().abs() > 1e-9 {
                // What is put right while it was salted counts from the first grain.
                let after = if at <= over { crate::units::hours(0.0) } else { between(since, at) };
                really.changes.push(SaltChange::all_over(after, by));
            }
        }
        Some(Self { since, salted: over, really, more_off })
    }

    /// Hours of salt at a moment.
    pub fn hours_at(&self, at: Timestamp) -> Time {
        between(self.since, at)
    }
}

/// One salting of the plan as it was done.
struct Salting {
    began: Timestamp,
    over: Timestamp,
    /// Sodium chloride that went on, where it is known.
    salt: Option<Mass>,
    /// Sodium chloride it was to be.
    planned: Mass,
}

/// The saltings that were begun, the first first.
fn saltings(plan: &RunPlan, record: &Record) -> Vec<Salting> {
    let mut tasks: Vec<&str> = plan.tasks.iter().filter(|t| t.salts == Some(SaltEffect::On)).map(|t| t.id.as_str()).collect();
    // What went on for a task that a later plan no longer has is on it all the same. A mix besides counts by itself.
    let besides = |bowl: &str| plan.bowls.iter().any(|b| b.id == bowl && b.besides.is_some());
    for fact in record.salted.iter().filter(|fact| !besides(&fact.says.bowl)) {
        if !tasks.contains(&fact.says.task.as_str()) {
            tasks.push(&fact.says.task);
        }
    }
    let mut found: Vec<Salting> = tasks.into_iter().filter_map(|task| salting(plan, record, task)).collect();
    found.sort_by_key(|s| s.began);
    found
}

fn salting(plan: &RunPlan, record: &Record, task: &str) -> Option<Salting> {
    let on: Vec<_> = record.salted.iter().filter(|fact| fact.says.task == task).collect();
    let state = record.task(task);
    let began = on.iter().map(|fact| fact.at).chain(state.began).chain(state.ended).min()?;
    let over = on.iter().map(|fact| fact.at).chain(state.ended).max().unwrap_or(began);
    let bowls: Vec<_> = plan.bowls.iter().filter(|b| b.task == task).collect();
    let is_mix = |id: &str| plan.bowls.iter().any(|b| b.id == id && b.mix) || id.starts_with(MIX);
    let planned = bowls.iter().filter(|b| !b.mix).fold(grams(0.0), |sum, b| sum + b.target * plan.purity.0);
    // Each bowl that went on counts; once the salting is over, so do those nobody ticked off, as weighed or as planned.
    let on = &on;
    let left = |mix: bool| {
        bowls.iter().filter(move |b| b.mix == mix && state.ended.is_some() && !on.iter().any(|fact| fact.says.bowl == b.id)).map(|b| {
            let weighed = record.bowls.get(&b.id).and_then(|state| state.weighed);
            (weighed.is_some(), weighed.unwrap_or(b.target))
        })
    };
    let laid = &|mix: bool| {
        let known = on.iter().filter(|fact| is_mix(&fact.says.bowl) == mix).map(|fact| fact.says.grams);
        let others: Vec<(bool, Mass)> = left(mix).collect();
        let any = on.iter().any(|fact| is_mix(&fact.says.bowl) == mix) || others.iter().any(|(weighed, _)| *weighed);
        any.then(|| known.chain(others.iter().map(|(_, g)| *g)).fold(grams(0.0), |sum, g| sum + g))
    };
    let tub = record.tub.filter(|_| plan.tasks.iter().find(|t| t.salts == Some(SaltEffect::On)).is_none_or(|t| t.id == task));
    // Some bowls of loose salt and the rest not yet on: what is on is what counts.
    let loose = tub.and_then(|tub| tub.taken()).or_else(|| laid(false));
    let (mix_g, mix_share) = plan.mix.unwrap_or((grams(0.0), Share(0.0)));
    let weighed = Weighed { loose, mix: laid(true).filter(|_| state.ended.is_some()), mix_left: tub.and_then(|tub| tub.mix_left) };
    Some(Salting { began, over, salt: salt::really_on(weighed, planned, plan.purity, mix_g, mix_share), planned })
}

/// The mixes besides that went on: each with what its bowl held, at its hour.
fn mixes(plan: &RunPlan, record: &Record, since: Timestamp) -> Vec<ActualMix> {
    let went_on = |bowl: &RunBowl| {
        let (which, share) = bowl.besides?;
        let noted = record.salted.iter().find(|fact| fact.says.bowl == bowl.id).map(|fact| (fact.at, fact.says.grams));
        let weighed = record.bowls.get(&bowl.id).and_then(|state| state.weighed).unwrap_or(bowl.target);
        let (at, held) = noted.or_else(|| record.task(&bowl.task).ended.map(|at| (at, weighed)))?;
        Some(ActualMix { which, after: between(since, at.max(since)), brought: held * share.0 })
    };
    plan.bowls.iter().filter_map(went_on).collect()
}

/// What the name of a bowl of mix holds.
const MIX: &str = "mix-";

/// How long it lay open in the cold before salt went on.
fn open_before(plan: &RunPlan, record: &Record, salted: Timestamp) -> Time {
    let came = plan.request.iter().flat_map(|r| &r.done).filter(|d| d.kind == StepKind::Chill).map(|d| d.at);
    // Where the method salts it only after the cold, it lay there first.
    let laid = came.chain(record.task(StepKind::Chill.id()).began).min();
    laid.map_or(crate::units::hours(0.0), |laid| between(laid.min(salted), salted))
}
