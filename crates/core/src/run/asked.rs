//! What the record contradicts itself in: asked, not settled by a guess. An answer is an event, too.

use super::event::EventId;
use super::on::OnIt;
use super::places::Borders;
use super::plan::RunPlan;
use super::record::{Change, Fact, Record, Ticked, key};
use crate::method::{Place, Tick};
use crate::units::{Mass, MassIn};
use jiff::{SignedDuration, Timestamp};

/// What is asked about.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum AskedCode {
    /// Tasks that take longer were all ticked within a minute: when was it really?
    WithinAMinute,
    /// Two values for one thing.
    TwoValues,
    /// Two moments for one task, by two notes of it: which one was it? Until it is answered the earlier counts.
    TwoMoments,
    /// More salt came off than was on.
    MoreOff,
    /// A task that the plan does not have.
    TaskLost,
    /// A task was noted later than what comes after it.
    OutOfOrder,
    /// Out of the heat after half of its minutes or less, or after twice of them: is it so?
    OddHeat,
    /// A weighing that does not fit the others.
    Weighing,
}

impl AskedCode {
    /// Stable name.
    pub fn id(self) -> &'static str {
        match self {
            Self::WithinAMinute => "within-a-minute",
            Self::TwoValues => "two-values",
            Self::TwoMoments => "two-moments",
            Self::MoreOff => "more-off",
            Self::TaskLost => "task-lost",
            Self::OutOfOrder => "out-of-order",
            Self::OddHeat => "odd-heat",
            Self::Weighing => "weighing",
        }
    }
}

/// A question.
#[derive(Debug, Clone, PartialEq)]
pub struct Asked {
    /// What is asked about.
    pub code: AskedCode,
    /// Its key: an answer names it.
    pub key: String,
    /// The events it is about.
    pub events: Vec<EventId>,
    /// Tasks or bowls it is about, by name.
    pub about: Vec<String>,
    /// The values that disagree, where there are some.
    pub values: Vec<Mass>,
    /// The moments that disagree, where there are some.
    pub moments: Vec<Timestamp>,
}

impl Asked {
    fn of(code: AskedCode, events: Vec<EventId>) -> Self {
        let first = events.first().map_or_else(String::new, |id| key(*id));
        // What is asked about a weighing is answered to the weighing itself.
        let key = if code == AskedCode::Weighing { first } else { format!("{}:{first}", code.id()) };
        Self { code, key, events, about: vec![], values: vec![], moments: vec![] }
    }
}

/// What a question about the salt of the whole piece names.
pub const SALT_ON_IT: &str = "salt-on-it";

const A_MINUTE: SignedDuration = SignedDuration::from_secs(60);
/// Ticked within a minute, so much work wants a word (our estimate): two hands do not do it.
const TOO_MUCH: SignedDuration = SignedDuration::from_mins(6);

/// Everything that is asked and not answered yet.
pub(super) fn asked(plan: &RunPlan, record: &Record, on: Option<&OnIt>, borders: &Borders) -> Vec<Asked> {
    let mut all: Vec<Asked> = within_a_minute(plan, record).into_iter().collect();
    all.extend(two_values(record));
    all.extend(two_moments(plan, record));
    all.extend(on.iter().flat_map(|on| &on.more_off).map(|fact| Asked::of(AskedCode::MoreOff, vec![fact.id])));
    // However many noted it, a task is asked about once.
    let mut lost: Vec<(&str, Vec<EventId>)> = Vec::new();
    for fact in record.ticks.iter().filter(|fact| plan.task(&fact.says.task).is_none()) {
        match lost.iter_mut().find(|(task, _)| *task == fact.says.task) {
            Some((_, events)) => events.push(fact.id),
            None => lost.push((&fact.says.task, vec![fact.id])),
        }
    }
    all.extend(lost.into_iter().map(|(task, events)| Asked { about: vec![task.to_owned()], ..Asked::of(AskedCode::TaskLost, events) }));
    all.extend(out_of_order(plan, record, borders));
    all.extend(odd_heat(plan, record));
    all.extend(record.weighed.iter().filter(|w| w.says.is_open()).map(|w| Asked::of(AskedCode::Weighing, vec![w.id])));
    all.retain(|asked| record.answers.get(&asked.key).is_none_or(String::is_empty));
    all
}

/// Three tasks and more ticked within a minute though they take longer.
fn within_a_minute(plan: &RunPlan, record: &Record) -> Option<Asked> {
    let ticks: Vec<&Fact<Ticked>> =
        record.ticks.iter().filter(|fact| plan.task(&fact.says.task).is_some_and(|t| t.beside.is_none())).collect();
    let groups = (0..ticks.len())
        .map(|i| ticks[i..].iter().take_while(|fact| fact.at.duration_since(ticks[i].at) <= A_MINUTE).copied().collect::<Vec<_>>());
    // Laying out ahead and washing hands are quickly ticked; the work in between is not.
    let too_much = |group: &Vec<&Fact<Ticked>>| {
        let ended = group.iter().skip(1).filter_map(|fact| plan.task(&fact.says.task)).filter(|task| task.tick == Tick::Ends);
        group.len() >= 3 && ended.map(super::plan::RunTask::takes).sum::<SignedDuration>() > TOO_MUCH
    };
    let group = groups.filter(too_much).max_by_key(Vec::len)?;
    let about = group.iter().map(|fact| fact.says.task.clone()).collect();
    Some(Asked { about, ..Asked::of(AskedCode::WithinAMinute, group.iter().map(|fact| fact.id).collect()) })
}

/// Two notes of one task further apart than two who note the same moment.
const SAME_MOMENT: SignedDuration = SignedDuration::from_mins(2);

/// A task noted as begun, or as over, at two moments more than two minutes apart: the first and the one furthest from it.
fn two_moments(plan: &RunPlan, record: &Record) -> Vec<Asked> {
    let mut all = Vec::new();
    for (i, first) in record.ticks.iter().enumerate() {
        let same = |fact: &&Fact<Ticked>| fact.says == first.says;
        if plan.task(&first.says.task).is_none() || record.ticks[..i].iter().any(|fact| fact.says == first.says) {
            continue;
        }
        if let Some(other) = record.ticks[i + 1..].iter().rfind(same).filter(|other| other.at.duration_since(first.at) > SAME_MOMENT) {
            let ask = Asked::of(AskedCode::TwoMoments, vec![first.id, other.id]);
            all.push(Asked { about: vec![first.says.task.clone()], moments: vec![first.at, other.at], ..ask });
        }
    }
    all
}

/// A bowl with two weights; two weighings, or two sums of salt, of one minute.
fn two_values(record: &Record) -> Vec<Asked> {
    let mut all = Vec::new();
    for (bowl, values) in &record.bowl_values {
        let differs = |fact: &&Fact<Mass>| (fact.says - values[0].says).in_g().abs() > 0.05;
        if let Some(other) = values.iter().find(differs) {
            let ask = Asked::of(AskedCode::TwoValues, vec![values[0].id, other.id]);
            all.push(Asked { about: vec![bowl.clone()], values: vec![values[0].says, other.says], ..ask });
        }
    }
    let soon = |a: Timestamp, b: Timestamp| b.duration_since(a) <= A_MINUTE;
    for pair in record.weighed.windows(2).filter(|pair| soon(pair[0].at, pair[1].at)) {
        let (a, b) = (pair[0].says.gross - pair[0].says.tare, pair[1].says.gross - pair[1].says.tare);
        if (a - b).in_g().abs() > 3.0 * pair[1].says.fineness.in_g().max(pair[0].says.fineness.in_g()) && pair[1].says.doubt.is_none() {
            all.push(Asked { values: vec![a, b], ..Asked::of(AskedCode::TwoValues, vec![pair[0].id, pair[1].id]) });
        }
    }
    let sums: Vec<(&Fact<Change>, Mass)> =
        record.changes.iter().filter_map(|fact| if let Change::Really(g, _) = fact.says { Some((fact, g)) } else { None }).collect();
    // However often it was put right, it is asked once: by the last two that differ.
    let differ = |pair: &&[(&Fact<Change>, Mass)]| soon(pair[0].0.at, pair[1].0.at) && (pair[0].1 - pair[1].1).in_g().abs() > 0.05;
    if let Some([(first, was), (second, is)]) = sums.windows(2).rfind(differ) {
        let about = vec![SALT_ON_IT.to_owned()];
        all.push(Asked { about, values: vec![*was, *is], ..Asked::of(AskedCode::TwoValues, vec![first.id, second.id]) });
    }
    all
}

/// So much sooner, or later, than planned no heat is over that is within a third of its forecast (our estimate).
const ODD: i32 = 2;
/// And by so much at least: a thin steak in a pan is over within minutes.
const ODD_LEAST: SignedDuration = SignedDuration::from_mins(5);

/// Into the heat and out of it, as both were noted, at an hour that can hardly be.
fn odd_heat(plan: &RunPlan, record: &Record) -> Option<Asked> {
    let row = plan.row();
    let heats = |i: &&usize| plan.tasks[**i].place == Place::Fire;
    let (first, last) = (row.iter().position(|i| heats(&i))?, row.iter().rposition(|i| heats(&i))?);
    let (into, out) = (&plan.tasks[row[first]], &plan.tasks[*row.get(last + 1)?]);
    let (began, ended) = (record.ticked(&into.id, Tick::Begins)?, record.ticked(&out.id, Tick::Begins)?);
    let planned: SignedDuration = row[first..=last].iter().map(|i| plan.tasks[*i].takes()).sum();
    let (took, apart) = (ended.duration_since(began), (ended.duration_since(began) - planned).abs());
    let odd = (took * ODD < planned || took > planned * ODD) && apart > ODD_LEAST;
    let ask = || Asked { about: vec![out.id.clone()], moments: vec![began, ended], ..Asked::of(AskedCode::OddHeat, record.said(&out.id)) };
    odd.then(ask).filter(|asked| !asked.events.is_empty())
}

/// Noted more than a minute later than something that comes after it.
fn out_of_order(plan: &RunPlan, record: &Record, borders: &Borders) -> Vec<Asked> {
    let row = plan.row();
    let late = row.iter().zip(&borders.at).filter_map(|(i, (began, ended))| {
        let task = &plan.tasks[*i];
        let noted = record.ticked(&task.id, task.tick)?;
        let counts = if task.tick == Tick::Begins { began } else { ended };
        let counts = (*counts)?;
        (noted.duration_since(counts) > A_MINUTE).then_some(task)
    });
    late.filter_map(|task| {
        let events = record.said(&task.id);
        (!events.is_empty()).then(|| Asked { about: vec![task.id.clone()], ..Asked::of(AskedCode::OutOfOrder, events) })
    })
    .collect()
}
