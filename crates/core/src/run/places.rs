//! Where a piece was, is and will be. Where its tasks were ticked they say so; planned times give way on either side, so that a
//! piece is always somewhere and never in two places.

use super::ahead::Schedule;
use super::plan::RunPlan;
use super::record::Record;
use crate::ask::Thawing;
use crate::method::{Place, StepKind, Tick};
use jiff::{SignedDuration, Timestamp};

/// A while in one place.
#[derive(Debug, Clone, PartialEq)]
pub struct Leg {
    /// Index of the task in the plan.
    pub task: usize,
    /// Where the piece lies meanwhile.
    pub place: Place,
    /// From.
    pub from: Timestamp,
    /// To.
    pub to: Timestamp,
}

/// Time out of the refrigerator.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Out {
    /// In sum.
    pub sum: SignedDuration,
    /// Since when it is out now.
    pub since: Option<Timestamp>,
}

/// From here on laying out is preparing ahead, not the beginning of the work.
const AHEAD: SignedDuration = SignedDuration::from_hours(1);

/// The moments at which tasks of the row were really begun and over.
///
/// What was ticked late, after something that comes later was ticked, cannot have happened later: it counts as that.
#[derive(Debug, Clone)]
pub(super) struct Borders {
    /// One a task of the row: begun, over.
    pub(super) at: Vec<(Option<Timestamp>, Option<Timestamp>)>,
}

impl Borders {
    pub(super) fn of(plan: &RunPlan, record: &Record) -> Self {
        let row = plan.row();
        let mut at: Vec<(Option<Timestamp>, Option<Timestamp>)> = row
            .iter()
            .map(|i| {
                let task = &plan.tasks[*i];
                let state = record.task(&task.id);
                let ended = state.ended.filter(|ended| !is_ahead(plan, record, task, *ended));
                // What is ticked as it begins may have been noted as over only.
                let began = state.began.or_else(|| ended.filter(|_| task.tick == Tick::Begins));
                (began, ended.filter(|_| task.tick == Tick::Ends || state.began.is_some()))
            })
            .collect();
        let mut cap = Timestamp::MAX;
        for (began, ended) in at.iter_mut().rev() {
            for moment in [ended, began].into_iter().flatten() {
                *moment = (*moment).min(cap);
                cap = *moment;
            }
        }
        Self { at }
    }

    /// The first task of the row that is not over: none before it is, whatever was left unticked.
    pub(super) fn reached(&self) -> usize {
        let last = self.at.iter().rposition(|(began, ended)| began.is_some() || ended.is_some());
        last.map_or(0, |k| if self.at[k].1.is_some() { k + 1 } else { k })
    }
}

/// Salt weighed and tools laid out long before: the meat was not touched, and stays where it lay. Where the work followed within
/// the hour, laying out was its beginning, however early that was.
fn is_ahead(plan: &RunPlan, record: &Record, task: &super::plan::RunTask, ended: Timestamp) -> bool {
    let soon = |at: Timestamp| at >= ended && at.duration_since(ended) < AHEAD;
    let followed = |t: &super::plan::RunTask| {
        let state = record.task(&t.id);
        t.id != task.id && t.beside.is_none() && (state.began.is_some_and(soon) || state.ended.is_some_and(soon))
    };
    !task.touches() && task.starts.duration_since(ended) > AHEAD && !plan.tasks.iter().any(followed)
}

/// Where the piece came to be, and when: facts only, in the order of time.
pub(super) fn marks(plan: &RunPlan, record: &Record, borders: &Borders) -> Vec<(Timestamp, Place)> {
    let row = plan.row();
    let mut marks: Vec<(Timestamp, Place)> = Vec::new();
    for done in plan.request.iter().flat_map(|r| &r.done) {
        // Out of the water it is on the bench.
        let in_water = plan.request.as_ref().is_some_and(|r| r.thaw == Some(Thawing::Water));
        let cold = done.kind == StepKind::Chill || done.kind == StepKind::Thaw && !in_water;
        let place = if cold { Place::Refrigerator } else { Place::Bench };
        // A thaw is over at its moment; it began where it went on.
        if done.kind != StepKind::LayOut {
            marks.push((done.at, place));
        }
    }
    marks.sort_by_key(|(at, _)| *at);
    for (k, i) in row.iter().enumerate() {
        let task = &plan.tasks[*i];
        let (began, ended) = borders.at[k];
        let last = marks.last().copied();
        if let Some(began) = began {
            marks.push((began, task.place));
        } else if let Some(ended) = ended.filter(|_| task.touches() && last.is_none_or(|(_, place)| place != task.place)) {
            // The first touch: it was there for as long as that takes.
            let began = ended.checked_sub(task.takes()).unwrap_or(ended).max(last.map_or(Timestamp::MIN, |(at, _)| at));
            marks.push((began, task.place));
        }
        let next = row.get(k + 1).map(|j| &plan.tasks[*j]);
        if let Some((ended, next)) = ended.zip(next.filter(|next| next.tick == Tick::Ends && next.touches())) {
            marks.push((ended, next.place));
        }
    }
    marks.extend(record.moved.iter().map(|fact| (fact.at, fact.says)));
    marks.sort_by_key(|(at, _)| *at);
    marks
}

/// The place at a moment, and since when; `None` before anything was noted.
pub(super) fn place_at(marks: &[(Timestamp, Place)], at: Timestamp) -> Option<(Timestamp, Place)> {
    let mut found: Option<(Timestamp, Place)> = None;
    for mark in marks.iter().filter(|(from, _)| *from <= at) {
        if found.is_none_or(|(_, place)| place != mark.1) {
            found = Some(*mark);
        }
    }
    found
}

/// Time on the bench up to a moment: the sum of what the places say.
pub(super) fn out(marks: &[(Timestamp, Place)], now: Timestamp) -> Out {
    let ends = marks.iter().skip(1).map(|(at, _)| *at).chain([now]);
    let spans = marks.iter().zip(ends).filter(|((from, place), _)| *place == Place::Bench && *from <= now);
    let sum = spans.map(|((from, _), to)| to.min(now).duration_since(*from).max(SignedDuration::ZERO)).sum();
    let since = place_at(marks, now).filter(|(_, place)| *place == Place::Bench).map(|(from, _)| from);
    Out { sum, since }
}

/// The whole way of the piece, what was and what is to come. Preheating is no part of it: the piece is elsewhere.
pub(super) fn legs(plan: &RunPlan, schedule: &Schedule) -> Vec<Leg> {
    let leg = |s: &super::ahead::Span| Leg { task: s.task, place: plan.tasks[s.task].place, from: s.starts, to: s.ends };
    schedule.row.iter().map(leg).collect()
}
