//! A kept piece changed: planned anew from its sentence and from what has happened, what that changes, and taking it back.

use super::draft::new_plan;
use super::ticks::rest_of_the_salt;
use super::{Opened, append, event, is_usual_name, open, usual_name};
use crate::auth::SignedIn;
use crate::compute::compute;
use crate::error::WebError;
use crate::state::AppState;
use crate::words::{day_wall, grams, instant, trim};
use axum::extract::{Path, State};
use axum::response::{IntoResponse, Redirect, Response};
use jiff::ZonedDateTime;
use rauchkeller_contract::{PlanDoc, Problems, as_said, method_value, newer_than, newer_version, plan_from, replan_from};
use rauchkeller_core::method::OWN;
use rauchkeller_core::plan::RULES;
use rauchkeller_core::run::{self, Event, EventId, Fact, What};
use rauchkeller_core::units::TimeIn;
use rauchkeller_store::{Revised, Revision};
use serde_json::Value;
use std::sync::Arc;

/// What a change starts from: the piece as it stands.
#[derive(Debug, Clone)]
pub struct Change {
    /// The piece.
    pub opened: Opened,
    /// Whether salt is on it.
    pub salted: bool,
    /// Hours of salt it will have as things stand.
    hours: Option<f64>,
    /// How dry its skin will be when it comes out, as things stand.
    dry: Option<f64>,
    /// Out of the refrigerator already: no plan can be made anew.
    pub out: bool,
    /// Tasks that are over or under way, with their times as they were.
    was: Vec<(String, String, Option<String>)>,
}

/// One thing that becomes another.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Difference {
    pub what: &'static str,
    pub was: String,
    pub will: String,
}

impl Change {
    /// Of an opened piece.
    pub fn of(opened: Opened, now: &ZonedDateTime) -> Self {
        let stand = opened.stand(now).into_owned();
        let zoned = |at: jiff::Timestamp| at.to_zoned_datetime(now.time_zone().clone()).to_string();
        let rows = opened.rows(&stand);
        let was = rows.iter().filter(|row| row.over || row.done_at.is_some());
        let was = was.map(|row| (row.task.id.clone(), zoned(row.starts), row.over.then(|| zoned(row.ends)))).collect();
        let hours = stand.hours_of_salt().map(TimeIn::in_h);
        let out = stand.cold.as_ref().map(|cold| run::stand_by(&opened.run, stand.record.clone(), cold.out));
        let dry = out.and_then(|then| then.state?.dryness).map(|d| d.0);
        Self { hours, dry, salted: stand.on.is_some(), out: stand.left_cold.is_some(), was, opened }
    }

    /// Since when it is salted and with how much, in words; nothing while no salt is on it.
    pub fn stands(&self, now: &ZonedDateTime) -> String {
        let stand = self.opened.stand(now);
        let Some((on, g)) = stand.on.as_ref().zip(self.on_it()) else { return String::new() };
        format!("salted since {}, {g} g on it", day_wall(on.since, now))
    }

    /// Grams that are on it, as the scale would show them; nothing while no salt is on it.
    pub fn on_it(&self) -> Option<String> {
        self.opened.on_scale_g().filter(|_| self.salted).map(grams)
    }

    /// The request it was kept with, as it was said.
    pub fn said(&self) -> Value {
        let full: Value = serde_json::from_str(&self.opened.piece.request).unwrap_or_default();
        let mut said = as_said(&full);
        // Once it is kept its meal is fixed, whoever chose it.
        said["serve_at"] = self.opened.plan.serve_at.clone().into();
        said
    }

    /// What a sentence has no words for goes on as it was kept: knife and pick, faces, what the dose counts on.
    pub fn carry(&self, request: &mut Value) {
        let said = self.said();
        if said["skin"].is_object() && request["skin"].is_null() {
            request["skin"] = said["skin"].clone();
        }
        // It is pinned to its way as that was when it was kept; another way brings its own.
        if request["method"].is_null() || request["method"] == said["method_document"]["id"] {
            request["method_document"] = said["method_document"].clone();
        }
        for field in ["basis", "faces", "shares"] {
            if !said["salt"][field].is_null() && request["salt"][field].is_null() {
                request["salt"][field] = said["salt"][field].clone();
            }
        }
        // Salted, its hours are what there is until the meal.
        if self.salted
            && let Some(root) = request.as_object_mut()
        {
            root.remove("hours");
        }
        // A mix that is on stays as much as it was.
        if self.salted
            && let Some(mix) = self.opened.plan.dose.mix.as_ref().filter(|_| request["mix"].is_object())
        {
            request["mix"]["g"] = mix.g.into();
        }
        if self.opened.piece.plan_version > 0 {
            request["now"] = self.opened.plan.request.now.clone().into();
        }
    }

    /// Plans a request anew, from now on and with what has happened.
    pub fn plan(&self, request: &Value, now: &ZonedDateTime) -> Result<PlanDoc, Problems> {
        let stand = self.opened.stand(now);
        replan_from(&self.opened.plan, (&self.opened.run, &stand), request, now)
    }

    /// A plan as it is shown: what is over at its real hours.
    pub fn as_it_was(&self, plan: Arc<PlanDoc>) -> Arc<PlanDoc> {
        let mut plan = Arc::unwrap_or_clone(plan);
        for step in &mut plan.steps {
            let id = step.task_id();
            if let Some((_, began, ended)) = self.was.iter().find(|(task, ..)| *task == id) {
                step.starts_at.clone_from(began);
                step.ends_at = ended.clone().unwrap_or_else(|| step.ends_at.clone());
            }
        }
        Arc::new(plan)
    }

    /// What a new plan changes.
    pub fn differences(&self, new: &PlanDoc, now: &ZonedDateTime) -> Vec<Difference> {
        let old = &self.opened.plan;
        let mut all = Vec::new();
        let mut compare = |what: &'static str, was: String, will: String| {
            if was != will {
                all.push(Difference { what, was, will });
            }
        };
        let day = |text: &str| day_wall(instant(text), now);
        compare("on the table", day(&old.serve_at), day(&new.serve_at));
        let until = |plan: &PlanDoc| plan.serve_until.as_deref().map_or_else(|| "at once".to_owned(), day);
        compare("eaten until", until(old), until(new));
        compare("weight", format!("{} g", grams(old.request.weight_g)), format!("{} g", grams(new.request.weight_g)));
        compare("way", old.request.method_name.clone(), new.request.method_name.clone());
        compare("guests", old.request.servings.to_string(), new.request.servings.to_string());
        compare(
            "thickness",
            format!("{} mm", trim(old.request.salt_thickness_mm, 1)),
            format!("{} mm", trim(new.request.salt_thickness_mm, 1)),
        );
        compare("dose", format!("{} g/kg", trim(old.request.g_per_kg, 1)), format!("{} g/kg", trim(new.request.g_per_kg, 1)));
        compare("salt in all", format!("{} g", grams(old.dose.total_g)), format!("{} g", grams(new.dose.total_g)));
        if self.salted {
            let missing = |g: f64| if g >= 0.5 { format!("{} g", grams(g)) } else { "none".to_owned() };
            let was = if self.opened.waits_for_salt() { old.dose.on_scale_g() } else { 0.0 };
            compare("salt still to go on", missing(was), missing(new.dose.on_scale_g()));
        } else {
            compare("salt to weigh", format!("{} g", grams(old.dose.on_scale_g())), format!("{} g", grams(new.dose.on_scale_g())));
        }
        if !self.salted {
            compare("into the refrigerator", day(&old.fridge.from), day(&new.fridge.from));
        }
        compare("out of the refrigerator", day(&old.fridge.to), day(&new.fridge.to));
        // What has begun counts as it is, and not as it was planned.
        let (was, will) = (self.hours.unwrap_or(old.fridge.planned_h), new.fridge.planned_h);
        if (was - will).abs() >= 0.1 {
            compare("hours under salt", format!("{} h", trim(was, 1)), format!("{} h", trim(will, 1)));
        }
        let dry = |share: Option<f64>| share.map_or_else(String::new, |d| format!("{:.0} % dry", d * 100.0));
        let (was, will) = (self.dry.or(old.fridge.skin_dryness), new.fridge.skin_dryness);
        if was.zip(will).is_some_and(|(was, will)| (was - will).abs() >= 0.02) {
            compare("skin then", dry(was), dry(will));
        }
        let pull = |plan: &PlanDoc| plan.fire.targets.first().map_or_else(String::new, |t| format!("{:.0} °C", t.pull_c));
        compare("pulled at", pull(old), pull(new));
        compare("in the heat", format!("{:.0} min", old.fire.minutes), format!("{:.0} min", new.fire.minutes));
        all
    }
}

/// What today's rules would make of a piece kept under earlier ones.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct ByToday {
    /// What would be otherwise; out of the refrigerator already, only what is still to come: the heat.
    pub differences: Vec<Difference>,
    /// Why it would be refused.
    pub refused: Vec<String>,
    /// What they call not safe, and its own did not.
    pub not_safe: Vec<String>,
    /// Whether it can no longer be planned anew.
    pub out: bool,
    /// The version its way has by now, where that is another one.
    pub newer_way: Option<u32>,
}

/// The way as it was kept is left behind: the one of that name counts as it is now, shipped or hung in the Kit. Where it was taken
/// out of the Kit, it goes on as it was kept.
fn by_the_newer_way(request: &mut Value, opened: &Opened) {
    let Some(root) = request.as_object_mut() else { return };
    if let Some(own) = &opened.own_way {
        root.insert("method_document".into(), method_value(own));
    } else if !opened.plan.request.method.starts_with(OWN) {
        root.remove("method_document");
    }
}

/// The version its way has by now, where that says something else than the one it was kept with.
fn newer_way(opened: &Opened) -> Option<u32> {
    let kept: Value = serde_json::from_str(&opened.piece.request).ok()?;
    opened.own_way.as_ref().map_or_else(|| newer_version(&kept), |own| newer_than(&kept, own))
}

/// What today's rules would make of a piece kept under earlier ones; nothing where they are its own.
pub fn by_todays_rules(opened: &Opened, now: &ZonedDateTime) -> Option<ByToday> {
    let newer_way = newer_way(opened);
    let earlier = opened.piece.rules < i32::try_from(RULES).unwrap_or(i32::MAX) || newer_way.is_some();
    if opened.piece.finished_at.is_some() || !earlier {
        return None;
    }
    let change = Change::of(opened.clone(), now);
    let mut request = change.said();
    // Out of the cold nothing can be planned anew: its own words are judged as they were said then.
    let then = if change.out { opened.plan.request.now.parse().ok()? } else { now.clone() };
    if !change.out {
        change.carry(&mut request);
    }
    by_the_newer_way(&mut request, opened);
    let out = change.out;
    let planned = if out { plan_from(&request, &then) } else { change.plan(&request, &then) };
    Some(match planned {
        Ok(plan) => {
            let mut differences = change.differences(&plan, &then);
            differences.retain(|d| !out || OF_THE_HEAT.contains(&d.what));
            let known = |code: &str| opened.plan.cautions.iter().any(|c| c.code == code);
            let not_safe = plan.cautions.iter().filter(|c| c.code == NOT_SAFE && !known(NOT_SAFE)).map(|c| c.text.clone());
            ByToday { differences, not_safe: not_safe.collect(), out, newer_way, ..ByToday::default() }
        }
        Err(problems) => {
            let refused = problems.problems.iter().map(rauchkeller_contract::Problem::sentence).collect();
            ByToday { refused, out, newer_way, ..ByToday::default() }
        }
    })
}

/// What of a change lies in the heat.
const OF_THE_HEAT: [&str; 2] = ["pulled at", "in the heat"];
/// The caution without which nothing is kept but knowingly.
const NOT_SAFE: &str = "not-safe";

/// What came of writing a change.
pub enum Written {
    /// It stands.
    Done,
    /// Somebody else's change came first.
    Changed,
}

/// Writes a change: the new plan over the one that stands, and with it what had to be pinned down.
pub async fn write_change(
    state: &AppState,
    cook: &SignedIn,
    change: &Change,
    request: &Value,
    plan: &PlanDoc,
    (seen, key): (i32, u128),
) -> Result<Written, WebError> {
    let now = state.now();
    let opened = &change.opened;
    // Salt that went on as planned went on in the grams of the old plan.
    let pinned = opened.run.tasks.iter().filter(|t| t.salts.is_some() && opened.record().task(&t.id).ended.is_some());
    let facts: Vec<Event> = pinned
        .flat_map(|task| {
            let at = opened.record().task(&task.id).ended.unwrap_or(now);
            rest_of_the_salt(opened, &task.id).into_iter().map(move |what| event(at, now, what)).collect::<Vec<_>>()
        })
        .collect();
    let name = is_usual_name(&opened.piece.name, &opened.plan).then(|| usual_name(plan, opened.system));
    let revised = Event::new(EventId(key), now, now, What::PlanRevised { over: 0, version: 0 });
    let new = new_plan(request, plan);
    let kitchen = cook.kitchen(state);
    let revision = Revision { plan: &new, name: name.as_deref(), facts: &facts, event: &revised, cook: Some(cook.0.id) };
    Ok(match kitchen.revise(opened.piece.id, seen, revision).await? {
        Revised::Done => Written::Done,
        Revised::Changed => Written::Changed,
    })
}

/// Takes the last change of a plan back: the one before it stands again.
pub async fn take_change_back(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    let opened = open(&state, &cook, &id).await?;
    if let Some(last) = last_change(&opened) {
        let now = state.now();
        append(&state, &cook, opened.piece.id, &[event(now, now, What::Voided(last.id))]).await?;
        // A piece that is called by its weight is called so again.
        let back = open(&state, &cook, &id).await?;
        if is_usual_name(&opened.piece.name, &opened.plan) && !is_usual_name(&opened.piece.name, &back.plan) {
            let piece = &back.piece;
            cook.kitchen(&state).call(piece.id, piece.version, &usual_name(&back.plan, opened.system), &piece.note).await?;
        }
    }
    Ok(Redirect::to(&format!("/pieces/{id}")).into_response())
}

/// The change by which the plan that stands was made; `None` for the first plan.
pub fn last_change(opened: &Opened) -> Option<Fact<u32>> {
    opened.record().revised.filter(|revised| revised.says == opened.piece.plan_version.unsigned_abs())
}

/// Plans the piece anew by today's rules, from its own words; ticks and everything noted stay.
pub async fn plan_anew(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    let opened = open(&state, &cook, &id).await?;
    let (now, seen) = (cook.now(&state), opened.piece.version);
    let planned = compute(move || {
        let change = Change::of(opened, &now);
        let mut request = change.said();
        change.carry(&mut request);
        by_the_newer_way(&mut request, &change.opened);
        let plan = change.plan(&request, &now);
        (change, request, plan)
    });
    let (change, request, plan) = planned.await?;
    if let Ok(plan) = plan {
        write_change(&state, &cook, &change, &request, &plan, (seen, uuid::Uuid::now_v7().as_u128())).await?;
    }
    Ok(Redirect::to(&format!("/pieces/{id}")).into_response())
}

#[cfg(test)]
mod tests;
