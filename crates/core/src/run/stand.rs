//! How a piece stands: one answer for every page, raw hands, the Cellar and the API.

use super::ahead::{Due, due, schedule};
use super::asked::{Asked, asked};
use super::chill::InTheCold;
use super::event::Event;
use super::knife::Stretch;
use super::on::OnIt;
use super::places::{Borders, Leg, Out, legs, marks, out, place_at};
use super::plan::RunPlan;
use super::record::Record;
use crate::method::{Place, StepKind};
use crate::plan::{ColdState, with_course};
use crate::units::{Mass, MassIn, Time, grams};
use jiff::{SignedDuration, Timestamp};

/// How a piece stands at a moment.
#[derive(Debug, Clone)]
pub struct Standing {
    /// The moment.
    pub at: Timestamp,
    /// What was noted, folded.
    pub record: Record,
    /// Where it is.
    pub place: Place,
    /// Since when, as far as anybody noted it.
    pub since: Option<Timestamp>,
    /// Time out of the refrigerator.
    pub out: Out,
    /// Its salt; `None` while none is on it.
    pub on: Option<OnIt>,
    /// The piece in the refrigerator, salted.
    pub cold: Option<InTheCold>,
    /// Salt and skin; `None` while it is not salted, or where its plan cannot be read.
    pub state: Option<ColdState>,
    /// Sodium chloride on and in it, all sources, and of that what has gone in.
    pub salt: Option<(Mass, Mass)>,
    /// Its whole way.
    pub legs: Vec<Leg>,
    /// What is left to do, in the order of time.
    pub next: Vec<Due>,
    /// Which tasks are over, one a task of the plan.
    pub over: Vec<bool>,
    /// When it will be on the table.
    pub table_at: Timestamp,
    /// When it really left the refrigerator for the heat.
    pub left_cold: Option<Timestamp>,
    /// Whether the knife slipped into the lean: no longer intact.
    pub slipped: bool,
    /// When its last task was over.
    pub finished: Option<Timestamp>,
    /// What is asked.
    pub asked: Vec<Asked>,
}

impl Standing {
    /// From when to when a task is, or was: as noted where that is known, as it follows from that, else as it was planned.
    pub fn times_of(&self, plan: &RunPlan, task: usize) -> (Timestamp, Timestamp) {
        let leg = self.legs.iter().find(|leg| leg.task == task).map(|leg| (leg.from, leg.to));
        let due = || self.next.iter().find(|due| due.task == task).map(|due| (due.at, due.ends));
        leg.or_else(due).unwrap_or((plan.tasks[task].starts, plan.tasks[task].ends))
    }

    /// Whether a task of this kind is over.
    pub fn is_over(&self, plan: &RunPlan, kind: StepKind) -> bool {
        plan.tasks.iter().zip(&self.over).any(|(task, over)| *over && task.kind == kind)
    }
}

/// Says how a piece stands.
///
/// `plan` is the plan that stands, `events` all that was noted, in any order. Pure: the same plan, set of events and moment
/// give the same answer.
///
/// Cost: a fold of the events, and one run of salt travel and drying where the piece is salted: about a millisecond.
pub fn stand(plan: &RunPlan, events: &[Event], now: Timestamp) -> Standing {
    stand_by(plan, Record::of(events), now)
}

/// The same of what the events come to.
pub fn stand_by(plan: &RunPlan, record: Record, now: Timestamp) -> Standing {
    let mut standing = stand_without_salt(plan, record, now);
    if let Some(cold) = &standing.cold {
        // Salt and drying are followed to the end of the cold; after it the fire takes over.
        let until = now.min(cold.out);
        let (salted, open) = (cold.hours_at(until), cold.open_at(until));
        let mut request = cold.request.clone();
        request.kitchen.fridge = plan.air.unwrap_or(request.kitchen.fridge);
        let seen = with_course(&request, &cold.really, |course, resolved, dose| {
            let (travel, drying) = course.through(salted);
            let state = course.state_with(&travel, drying.at(resolved.air, &[open])[0], salted);
            let changed = cold.really.changes.iter().fold(grams(0.0), |sum, c| sum + c.by);
            let on = dose.dose.from_ledger + cold.really.grams.unwrap_or(dose.dose.to_weigh) + changed;
            let waiting = course.waiting_in_all(&travel);
            let inside = if on > waiting { on - waiting } else { grams(0.0) };
            (state, (on, inside))
        });
        (standing.state, standing.salt) = seen.ok().unzip();
        // What lies there unsalted has none to tell of.
        standing.salt = standing.salt.filter(|_| standing.on.is_some());
    }
    standing
}

/// The same without salt and skin: what a list of many pieces needs.
pub(super) fn stand_without_salt(plan: &RunPlan, record: Record, now: Timestamp) -> Standing {
    let borders = Borders::of(plan, &record);
    let marks = marks(plan, &record, &borders);
    let schedule = schedule(plan, &borders, now);
    let on = OnIt::of(plan, &record);
    let row = plan.row();
    let left_cold = left_cold(plan, &row, &borders);
    let cold_to = schedule.row.iter().find(|s| plan.tasks[s.task].is_stay()).map_or(plan.cold_to, |s| s.ends);
    let here = place_at(&marks, now);
    let first = plan.tasks.iter().find(|t| t.beside.is_none()).map_or(Place::Refrigerator, |_| Place::Refrigerator);
    let last = row.last().map(|i| &plan.tasks[*i]);
    let over = (0..plan.tasks.len())
        .map(|i| {
            let task = &plan.tasks[i];
            let ticked = record.ticked(&task.id, task.tick).is_some();
            ticked || row.iter().take(schedule.reached).any(|over| *over == i)
        })
        .collect();
    Standing {
        at: now,
        place: here.map_or(first, |(_, place)| place),
        since: here.map(|(since, _)| since),
        out: out(&marks, now),
        cold: InTheCold::of(plan, &record, on.as_ref(), left_cold, cold_to),
        state: None,
        salt: None,
        legs: legs(plan, &schedule),
        next: due(plan, &record, &schedule, now),
        over,
        table_at: schedule.row.last().map_or(plan.serve_at, |s| s.ends),
        left_cold,
        slipped: plan.tasks.iter().any(|task| Stretch::of(&record, &task.id).is_some_and(|work| work.slipped)),
        finished: last.and_then(|task| record.ticked(&task.id, task.tick)),
        asked: asked(plan, &record, on.as_ref(), &borders),
        on,
        record,
    }
}

/// When it was taken out of the stay that stretches: the first thing noted after it.
fn left_cold(plan: &RunPlan, row: &[usize], borders: &Borders) -> Option<Timestamp> {
    let stay = row.iter().position(|i| plan.tasks[*i].is_stay())?;
    let noted = borders.at.iter().enumerate().skip(stay).find_map(|(k, (began, ended))| if k == stay { *ended } else { began.or(*ended) });
    // What is ticked when it is over began before that.
    noted.map(|at| {
        let first = borders.at.iter().enumerate().skip(stay + 1).find(|(_, (began, ended))| began.is_some() || ended.is_some());
        match first {
            Some((k, (None, Some(ended)))) if borders.at[stay].1.is_none() => {
                ended.checked_sub(plan.tasks[row[k]].takes()).unwrap_or(*ended)
            }
            _ => at,
        }
    })
}

impl Standing {
    /// By how much the meal will be late; early is negative.
    pub fn meal_late(&self, plan: &RunPlan) -> SignedDuration {
        self.table_at.duration_since(plan.serve_at)
    }

    /// Hours of salt it will have had when it leaves the refrigerator.
    pub fn hours_of_salt(&self) -> Option<Time> {
        self.cold.as_ref().map(|cold| cold.hours_at(cold.out))
    }

    /// Salt on it by the gram, all sources; nothing while it is not salted.
    pub fn on_g(&self) -> f64 {
        self.salt.map_or(0.0, |(on, _)| on.in_g())
    }
}
