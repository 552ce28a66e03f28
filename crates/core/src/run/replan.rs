//! A kept piece planned anew: from what is asked of it now, and from all that has happened to it.

use super::plan::RunPlan;
use super::stand::Standing;
use crate::ask::{Done, PlanRequest, Refusal};
use crate::method::{Place, SaltEffect, StepKind, TOP_UP, Tick};
use crate::plan::{Plan, PlanStep, make_plan};
use crate::units::{Mass, MassIn, grams};
use crate::work::Phase;
use jiff::Timestamp;
use std::borrow::Cow;

/// Grams of its plan that a new one counts as on it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct KeptSalt {
    /// Loose sodium chloride that was to be weighed.
    pub to_weigh: Mass,
    /// Salt of its mix.
    pub mix: Mass,
    /// Salt of the mixes besides it that go on with the salt.
    pub besides: Mass,
}

/// The new plan of a kept piece.
#[derive(Debug, Clone)]
pub struct Replanned {
    /// What is left, tied to what is over; under names of its own where those are taken.
    pub plan: Plan,
    /// What is over and no task of the new plan: it stands before that, in this order.
    pub over: Vec<Over>,
}

/// A task of the plan before that is over.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Over {
    /// Its place in that plan.
    pub task: usize,
    /// For a stay in the cold that another follows: from when to when it lasted. All else stands as it was planned.
    pub lasted: Option<(Timestamp, Timestamp)>,
}

/// Grams of salt to a ten-thousandth: a sum of weighings, and no more than that.
fn weighed(g: f64) -> Mass {
    grams((g.max(0.0) * 1e4).round() / 1e4)
}

/// What has happened so far, as a request says it.
pub fn done_so_far(plan: &RunPlan, stand: &Standing, salt: KeptSalt) -> Vec<Done> {
    let mut done: Vec<Done> = Vec::new();
    for (i, task) in plan.tasks.iter().enumerate().filter(|(i, task)| stand.over[*i] && task.beside.is_none()) {
        if matches!(task.place, Place::Fire | Place::HotHold | Place::Table) || task.salts == Some(SaltEffect::On) {
            continue;
        }
        let (starts, ends) = stand.times_of(plan, i);
        // What has begun and goes on counts from its beginning.
        let at = stand.record.ticked(&task.id, task.tick).unwrap_or(if task.tick == Tick::Begins { starts } else { ends });
        done.push(Done { kind: task.kind, task: Some(task.id.clone()), at, salt: None });
    }
    // A stay that has begun is no more than begun: it is listed, and not over.
    let stay = plan.tasks.iter().find(|task| task.is_stay());
    let begun = stay.and_then(|task| stand.record.ticked(&task.id, task.tick));
    let listed = stay.is_some_and(|task| done.iter().any(|done| done.task.as_deref() == Some(&task.id)));
    done.extend(begun.filter(|_| !listed).map(|at| Done { kind: StepKind::Chill, task: None, at, salt: None }));
    let came = plan.request.as_ref().is_some_and(|r| r.done.iter().any(|d| d.kind == StepKind::Salt));
    if let Some(on) = &stand.on {
        let own = on.really.grams.unwrap_or(salt.to_weigh).in_g();
        let changed: f64 = on.really.changes.iter().map(|c| c.by.in_g()).sum();
        // What came with it stands in its own words already.
        let g = if came { changed } else { own + changed };
        if !came || g > 0.05 {
            done.push(Done { kind: StepKind::Salt, task: None, at: on.since, salt: Some(weighed(g)) });
        }
    }
    done
}

/// Plans a kept piece anew: what is asked of it, from `now` of that request on, with what has happened so far.
///
/// A mix that went on with the salt is counted with that, and asked for no more; what has an hour of its own keeps it. Tasks that are
/// over stand before those that are left.
///
/// # Errors
/// Whatever [`make_plan`] refuses of it.
pub fn replan(plan: &RunPlan, stand: &Standing, salt: KeptSalt, asked: &PlanRequest) -> Result<Replanned, Vec<Refusal>> {
    let mut ask = asked.clone();
    ask.done.extend(done_so_far(plan, stand, salt));
    if stand.on.is_some() {
        let none = grams(0.0);
        let mixed = if ask.mix.is_some() { salt.mix } else { none } + if ask.mixes.is_empty() { none } else { salt.besides };
        if let Some(on) = ask.done.iter_mut().rev().find(|done| done.kind == StepKind::Salt).filter(|_| mixed > none) {
            on.salt = Some(on.salt.unwrap_or(none) + mixed);
        }
        ask.mix = None;
        ask.mixes.retain(|mix| mix.at.is_some());
    }
    let mut new = make_plan(&ask)?;
    let over = what_is_over(plan, stand, &mut new);
    Ok(Replanned { plan: new, over })
}

fn what_is_over(plan: &RunPlan, stand: &Standing, new: &mut Plan) -> Vec<Over> {
    let over: Vec<usize> = (0..plan.tasks.len()).filter(|i| stand.over[*i]).collect();
    let taken = |id: &str| over.iter().any(|i| plan.tasks[*i].id == id);
    // Missing salt takes it out of the refrigerator: hands are washed and it goes in once more, under names of their own.
    if new.steps.iter().any(|s| s.step.id == TOP_UP) {
        rename(&mut new.steps, taken, plan.tasks.len());
    }
    let begins = new.steps.first().map_or(new.request.now.timestamp(), |step| step.starts);
    let stays_on = |id: &str| new.steps.iter().any(|step| step.step.id == id);
    let kept: Vec<Over> = over
        .iter()
        .filter(|i| !stays_on(&plan.tasks[**i].id))
        .map(|i| {
            let task = &plan.tasks[*i];
            // A stay that is followed by another one stretches no more.
            let lasted = (task.kind == StepKind::Chill).then(|| (stand.times_of(plan, *i).0.min(begins), begins));
            Over { task: *i, lasted }
        })
        .collect();
    let last = kept.iter().rev().map(|over| &plan.tasks[over.task]).find(|task| task.beside.is_none());
    let first = new.steps.iter_mut().find(|step| step.step.phase != Phase::Beside && step.step.after.is_empty());
    if let (Some(last), Some(first)) = (last, first) {
        first.step.after = vec![last.id.clone().into()];
    }
    // What has begun keeps the hour at which it was to begin.
    for step in &mut new.steps {
        let begun = |task: &&super::plan::RunTask| task.id == step.step.id && stand.record.ticked(&task.id, task.tick).is_some();
        if let Some(known) = plan.tasks.iter().find(begun) {
            step.starts = known.starts;
        }
    }
    kept
}

/// Gives new tasks whose names are taken by what is over names of their own.
fn rename(steps: &mut [PlanStep], taken: impl Fn(&str) -> bool, tasks: usize) {
    let again: Vec<(Cow<'static, str>, Cow<'static, str>)> = steps
        .iter()
        .filter(|step| taken(&step.step.id))
        .filter_map(|step| {
            let kind = step.step.kind.id();
            // One more name than there are tasks: one of them is free.
            let free = (2..=tasks + 2).map(|n| format!("{kind}-{n}")).find(|name| !taken(name))?;
            Some((step.step.id.clone(), free.into()))
        })
        .collect();
    let renamed = |id: &mut Cow<'static, str>| {
        if let Some((_, new)) = again.iter().find(|(was, _)| was == id) {
            id.clone_from(new);
        }
    };
    for step in steps {
        renamed(&mut step.step.id);
        step.step.after.iter_mut().for_each(renamed);
        step.step.beside.iter_mut().for_each(renamed);
    }
}
