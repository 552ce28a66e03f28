//! What comes next: the tasks that are left, at the hours that what was noted leaves them.

use super::places::Borders;
use super::plan::{RunPlan, RunTask};
use super::record::Record;
use crate::method::Place;
use crate::work::Lasts;
use jiff::{SignedDuration, Timestamp};

/// A task of the row with its times as they were, or as they will be.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Span {
    pub(super) task: usize,
    pub(super) starts: Timestamp,
    pub(super) ends: Timestamp,
}

/// The row of tasks in time.
#[derive(Debug, Clone)]
pub(super) struct Schedule {
    /// In the order of the work.
    pub(super) row: Vec<Span>,
    /// How many of them are over.
    pub(super) reached: usize,
    /// Whether the first that is left has begun.
    pub(super) begun: bool,
}

/// A task still to do.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Due {
    /// Index of the task in the plan.
    pub task: usize,
    /// When hands are wanted.
    pub at: Timestamp,
    /// When it will be over.
    pub ends: Timestamp,
    /// By how much it is late now.
    pub late: SignedDuration,
}

/// Lays the row out in time: as noted up to where it got to, and from there on as it follows.
///
/// Work that has begun goes on task after task. The stay in the refrigerator takes up what is early or late, and ends when it
/// was planned to, and so does a hold; after it everything follows what was noted last. Nothing that is left starts before what it comes after.
pub(super) fn schedule(plan: &RunPlan, borders: &Borders, now: Timestamp) -> Schedule {
    let row = plan.row();
    let reached = borders.reached();
    let begun = borders.at.get(reached).is_some_and(|(began, _)| began.is_some());
    let mut spans = past(plan, &row, borders, reached);
    for (k, i) in row.iter().enumerate().skip(reached) {
        let task = &plan.tasks[*i];
        let before = spans.last().copied().map(|span| (span, &plan.tasks[span.task]));
        let noted = borders.at[k].0.filter(|_| k == reached);
        // What is still to be done itself cannot be over before it could begin now.
        let to_come = k > reached && !(k == reached + 1 && begun);
        let starts = noted.unwrap_or_else(|| match before {
            None => task.starts,
            Some((span, prior)) if prior.lasts == Lasts::Elastic => task.starts.max(span.starts),
            // Out of the refrigerator already, or in the heat: it goes on.
            Some((span, prior)) if prior.place != Place::Refrigerator && (prior.touches() || to_come) => after(span, to_come, now),
            Some((span, _)) => task.starts.max(after(span, to_come, now)),
        });
        let ends = if task.lasts == Lasts::Elastic { task.ends.max(starts) } else { later(starts, task.takes()) };
        spans.push(Span { task: *i, starts, ends });
    }
    Schedule { row: spans, reached, begun }
}

/// When what comes after it can start.
fn after(span: Span, to_come: bool, now: Timestamp) -> Timestamp {
    if to_come && span.starts < now { later(now, span.ends.duration_since(span.starts)) } else { span.ends }
}

/// So much later; what would lie past the end of time ends there.
fn later(at: Timestamp, by: SignedDuration) -> Timestamp {
    at.checked_add(by).unwrap_or(Timestamp::MAX)
}

/// The tasks that are over: borders that were noted stand, planned ones give way to them on either side.
fn past(plan: &RunPlan, row: &[usize], borders: &Borders, reached: usize) -> Vec<Span> {
    if reached == 0 {
        return vec![];
    }
    let mut at: Vec<Timestamp> = row[..reached].iter().map(|i| plan.tasks[*i].starts).chain([plan.tasks[row[reached - 1]].ends]).collect();
    let mut noted = vec![false; reached + 1];
    for k in 0..=reached {
        let begins = borders.at.get(k).and_then(|b| b.0);
        let over = k.checked_sub(1).and_then(|k| borders.at[k].1);
        if let Some(moment) = over.or(begins) {
            (at[k], noted[k]) = (moment, true);
        }
    }
    let mut ceiling: Option<Timestamp> = None;
    for (border, noted) in at.iter_mut().zip(&noted).rev() {
        if !noted {
            *border = ceiling.map_or(*border, |c| c.min(*border));
        }
        ceiling = Some(*border);
    }
    for k in 1..at.len() {
        at[k] = at[k].max(at[k - 1]);
    }
    row[..reached].iter().zip(at.windows(2)).map(|(task, span)| Span { task: *task, starts: span[0], ends: span[1] }).collect()
}

/// What is left to do, in the order of time: the row, and what is done beside it.
pub(super) fn due(plan: &RunPlan, record: &Record, schedule: &Schedule, now: Timestamp) -> Vec<Due> {
    let late = |at: Timestamp| now.duration_since(at).max(SignedDuration::ZERO);
    // What has begun and is ticked as it begins wants no hands any more.
    let first = schedule.reached + usize::from(schedule.begun && has_ticked(plan, record, schedule));
    let ticked = |s: &&Span| record.ticked(&plan.tasks[s.task].id, plan.tasks[s.task].tick).is_some();
    let row = schedule.row.iter().skip(first).filter(|s| !ticked(s));
    let mut due: Vec<Due> = row.map(|s| Due { task: s.task, at: s.starts, ends: s.ends, late: late(s.starts) }).collect();
    for (i, task) in plan.tasks.iter().enumerate() {
        let done = record.ticked(&task.id, task.tick).is_some() || record.task(&task.id).began.is_some();
        if let Some(at) = beside(plan, task, schedule).filter(|_| !done) {
            due.push(Due { task: i, at, ends: later(at, task.takes()), late: late(at) });
        }
    }
    due.sort_by_key(|d| d.at);
    due
}

/// When a task beside another is wanted: it moves with that one, kept from its beginning or from its end, whichever it was planned
/// nearer to. `None` where it stands in the row, and where that other one is past the moment for it.
fn beside(plan: &RunPlan, task: &RunTask, schedule: &Schedule) -> Option<Timestamp> {
    let of = task.beside.as_ref()?;
    let planned = plan.task(of)?;
    let (k, span) = schedule.row.iter().enumerate().find(|(_, s)| plan.tasks[s.task].id == *of)?;
    let (over, begun) = (k < schedule.reached, k < schedule.reached || (k == schedule.reached && schedule.begun));
    if task.ends <= planned.starts {
        return (!begun).then(|| later(span.starts, -planned.starts.duration_since(task.starts)));
    }
    if task.starts >= planned.ends {
        return Some(later(span.ends, task.starts.duration_since(planned.ends)));
    }
    let (into, left) = (task.starts.duration_since(planned.starts), planned.ends.duration_since(task.starts));
    (!over).then(|| if into <= left { later(span.starts, into) } else { later(span.ends, -left) })
}

/// Whether the task the row has got to is ticked already.
fn has_ticked(plan: &RunPlan, record: &Record, schedule: &Schedule) -> bool {
    schedule.row.get(schedule.reached).is_some_and(|s| record.ticked(&plan.tasks[s.task].id, plan.tasks[s.task].tick).is_some())
}
