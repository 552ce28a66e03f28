//! The page of a piece: how it stands, its steps, its name.

use super::asked::{Question, questions};
use super::change::{ByToday, by_todays_rules, last_change};
use super::hands::missing_picks;
use super::ticks::done_word;
use super::{Now, Opened, Stop, open, piece_id};
use crate::auth::SignedIn;
use crate::compute::compute;
use crate::draw::{Width, draw_heat, draw_slice};
use crate::error::WebError;
use crate::shell::{Partial, Rail, render};
use crate::state::AppState;
use crate::words::{day_wall, figure_in_units, grams, instant, one_line, other_system, pull_word, sentence, span, trim, wall};
use askama::Template;
use axum::extract::{Form, Path, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Redirect, Response};
use jiff::{SignedDuration, ZonedDateTime};
use rauchkeller_contract::CautionDoc;
use rauchkeller_core::method::StepKind;
use rauchkeller_core::run::{RunTask, Standing};
use rauchkeller_core::units::TimeIn;
use rauchkeller_store::{StoreError, UnknownEvent};
use serde::Deserialize;

/// One line of the list.
pub struct StepLine {
    pub id: String,
    pub when: String,
    pub title: String,
    pub figure: String,
    pub other: String,
    pub detail: String,
    pub needs: String,
    pub until: String,
    pub done: Option<String>,
    pub next: bool,
    pub late: Option<String>,
    pub raw: bool,
    pub place: String,
    pub cautions: Vec<CautionDoc>,
    /// What is typed as another hour, and what is wrong with it.
    pub typed: String,
    pub slip: Option<String>,
    /// What its button says.
    pub done_word: &'static str,
}

/// The page.
#[expect(clippy::struct_excessive_bools, reason = "a template reads them one by one")]
pub struct PieceView {
    pub id: String,
    pub name: String,
    /// What the cooks wrote down about it.
    pub note: String,
    pub note_rows: usize,
    /// The version this page shows, to be sent back with a change.
    pub version: i32,
    pub wrong_name: Option<String>,
    pub headline: String,
    pub sub: String,
    pub standing: String,
    pub slice_wide: String,
    /// The heat as planned; empty for plans of before it was drawn.
    pub heat_wide: String,
    pub heat_narrow: String,
    pub slice_narrow: String,
    pub grams: String,
    pub ounces: String,
    pub grams_line: String,
    /// Whether its salt still waits to be weighed.
    pub to_salt: bool,
    /// Whether knife or pick have anything to do.
    pub to_knife: bool,
    pub steps: Vec<StepLine>,
    pub removed: bool,
    pub finished: bool,
    /// Whether it has been carved: how it was can be said, though leftovers wait.
    pub eaten: bool,
    pub judged: bool,
    pub pull_word: &'static str,
    pub pull: String,
    pub pull_other: String,
    pub loud: Vec<CautionDoc>,
    /// A refrigerator too warm.
    pub stop: Option<Stop>,
    /// What the plan that stands changed, to be taken back.
    pub changed: Option<String>,
    /// What a newer version of the program noted, and this one cannot count.
    pub newer_notes: Vec<String>,
    /// What today's rules would change.
    pub today: Option<ByToday>,
    /// What contradicts itself in the notes.
    pub asked: Vec<Question>,
    /// How what was noted moves the rest.
    pub follows: Vec<String>,
    /// What was over before its time, while what follows stands where it was planned.
    pub early: Option<String>,
    /// Whether its plan can still be changed.
    pub may_change: bool,
    /// What it was kept in spite of.
    pub knowing: Vec<String>,
    /// Picks not counted back.
    pub lost: Option<String>,
}

#[derive(Template)]
#[template(path = "piece/page.html")]
struct PiecePage {
    rail: Rail,
    view: PieceView,
}

#[derive(Template)]
#[template(path = "piece/piece.html")]
struct PieceFragment {
    view: PieceView,
}

/// What a slip of the knife into the lean means for the heat.
fn slipped(opened: &Opened, stand: &Standing) -> Option<String> {
    let lead = opened.plan.fire.targets.first().filter(|_| stand.slipped)?;
    let least = if lead.authority_c > 70.0 { "74 °C (165 °F)" } else { "63 °C (145 °F) and 3 min of rest" };
    let low = if lead.finish_c < lead.authority_c - 0.5 {
        format!(" Its plan ends at {} °C: raise the finish on the Bench.", trim(lead.finish_c, 0))
    } else {
        String::new()
    };
    Some(format!("The knife slipped into the lean: no longer intact meat, at least {least} all through (USDA FSIS).{low}"))
}

/// How what was noted, early or late, moves what is left, in sentences; nothing while all is as planned.
/// What waits so long may as well be done sooner.
const WORTH_A_CHANGE: SignedDuration = SignedDuration::from_hours(1);

/// What was over well before its time, where the next task still stands at its planned hour: a change can move the rest.
fn early(opened: &Opened, stand: &Standing, now: &ZonedDateTime) -> Option<String> {
    if stand.left_cold.is_some() || stand.finished.is_some() {
        return None;
    }
    let row: Vec<(usize, &RunTask)> = opened.run.tasks.iter().enumerate().filter(|(_, task)| task.beside.is_none()).collect();
    let (_, last) = row.iter().rev().find(|(i, _)| stand.over.get(*i) == Some(&true))?;
    let (_, next) = row.iter().find(|(i, _)| stand.over.get(*i) == Some(&false))?;
    let over = stand.record.task(&last.id).ended?;
    let (gained, waits) = (last.ends.duration_since(over), next.starts.duration_since(now.timestamp()));
    let begun = stand.record.task(&next.id).began.is_some();
    (gained >= WORTH_A_CHANGE && waits >= WORTH_A_CHANGE && !begun).then(|| {
        format!("‘{}’ was over {} before its time, and what follows waits until {}.", last.title, span(gained), day_wall(next.starts, now))
    })
}

fn follows(opened: &Opened, stand: &Standing, now: &ZonedDateTime) -> Vec<String> {
    let mut said = Vec::new();
    said.extend(slipped(opened, stand));
    let late = stand.meal_late(&opened.run);
    let noted = !stand.record.tasks.is_empty();
    if noted && stand.finished.is_none() && late.as_mins().abs() >= 5 {
        let (by, how) = (span(late.abs()), if late.is_positive() { "later" } else { "earlier" });
        said.push(format!("The rest follows: on the table {}, {by} {how} than planned.", day_wall(stand.table_at, now)));
    }
    let hours = stand.hours_of_salt().filter(|_| stand.left_cold.is_none()).map(TimeIn::in_h);
    let (shortest, longest) = (opened.run.hours.0.in_h(), opened.run.hours.1.in_h());
    if let Some(hours) = hours {
        let planned = opened.plan.fridge.planned_h;
        let other = (hours - planned).abs() >= 0.5;
        if other && hours < shortest - 0.25 {
            said.push(format!("It cannot make up for that: only {} h of salt are left before it comes out, and {} h are the least. Eat later, or change the plan.", trim(hours, 1), trim(shortest, 1)));
        } else if other && hours > longest + 0.25 {
            said.push(format!(
                "It will have {} h of salt by then, more than the {} h that are of use. Eat sooner, or change the plan.",
                trim(hours, 1),
                trim(longest, 1)
            ));
        } else if other {
            said.push(format!("It has {} h of salt when it comes out, instead of {} h.", trim(hours, 1), trim(planned, 1)));
        }
    }
    said
}

/// When the plan that stands was changed.
fn changed(opened: &Opened, now: &ZonedDateTime) -> Option<String> {
    last_change(opened).map(|event| day_wall(event.at, now))
}

/// What today's rules would make of it.
fn today(opened: &Opened, now: &ZonedDateTime) -> Option<ByToday> {
    by_todays_rules(opened, now).filter(|today| {
        !today.differences.is_empty() || !today.refused.is_empty() || !today.not_safe.is_empty() || today.newer_way.is_some()
    })
}

/// What the cook kept it in spite of, as its cautions say it.
fn knowing(opened: &Opened) -> Vec<String> {
    let request: serde_json::Value = serde_json::from_str(&opened.piece.request).unwrap_or_default();
    let codes = request["knowing"].as_array().cloned().unwrap_or_default();
    let said =
        |code: &serde_json::Value| opened.plan.cautions.iter().find(|c| Some(c.code.as_str()) == code.as_str()).map(|c| c.text.clone());
    codes.iter().filter_map(said).collect()
}

impl PieceView {
    fn of(opened: &Opened, now: &ZonedDateTime) -> Self {
        let stand = opened.stand(now);
        let next = opened.next_step();
        let standing = Now::of(opened, now);
        let plan = &opened.plan;
        let rows = opened.rows(&stand);
        let steps = rows
            .iter()
            .zip(&plan.steps)
            .enumerate()
            .map(|(i, (row, step))| {
                let due = now.timestamp().duration_since(row.starts);
                let (figure, other) = step.figure.as_ref().map_or_else(Default::default, |f| {
                    let metric = step.figure_unit.as_deref().unwrap_or_default();
                    let (figure, unit, other) = figure_in_units(f, metric, opened.system);
                    // What the title says already is not said again.
                    if step.title.contains(&format!("{f} {metric}")) { Default::default() } else { (format!("{figure} {unit}"), other) }
                });
                // A stay in the refrigerator is as long as it was or will be, whatever was planned.
                let (figure, other) = if row.task.kind == StepKind::Chill {
                    (format!("{} h", trim(row.ends.duration_since(row.starts).as_secs_f64() / 3600.0, 1)), String::new())
                } else {
                    (figure, other)
                };
                StepLine {
                    id: row.task.id.clone(),
                    when: day_wall(row.starts, now),
                    title: step.title.clone(),
                    figure,
                    other,
                    detail: step.detail.clone(),
                    needs: step.needs.join(", "),
                    until: step.until.clone().unwrap_or_default(),
                    done: row.done_at.map(|at| {
                        let by = opened.ticked_by(&row.task.id).map_or_else(String::new, |name| format!(", {name}"));
                        wall(at, now) + &by
                    }),
                    next: next == Some(i),
                    late: (row.done_at.is_none() && next == Some(i) && due.as_mins() > 5).then(|| format!("due {} ago", span(due))),
                    raw: step.hands == "raw",
                    place: step.place.clone(),
                    cautions: plan.cautions.iter().filter(|c| c.step.as_deref() == Some(step.kind.as_str())).cloned().collect(),
                    typed: String::new(),
                    slip: None,
                    done_word: done_word(row.task),
                }
            })
            .collect::<Vec<_>>();
        let headline = match next.and_then(|i| Some((rows.get(i)?, plan.steps.get(i)?))) {
            Some((row, step)) if row.starts <= now.timestamp() => format!("Now: {}", lower(&step.title)),
            Some((row, step)) => format!("{}: {}", wall(row.starts, now), lower(&step.title)),
            None => "On the table".into(),
        };
        let target = plan.fire.targets.first().map_or_else(String::new, |t| format!("{:.0}", t.pull_c));
        let (pull, pull_unit, pull_other) = figure_in_units(&target, "°C", opened.system);
        Self {
            id: opened.piece.id.to_string(),
            name: opened.piece.name.clone(),
            note: opened.piece.note.clone(),
            note_rows: opened.piece.note.lines().count().clamp(2, 12),
            version: opened.piece.version,
            wrong_name: None,
            sub: format!("on the table {}", day_wall(instant(&plan.serve_at), now)),
            headline,
            standing: sentence(&standing.words),
            slice_wide: draw_slice(&standing.slice, Width::Wide),
            heat_wide: draw_heat(&opened.plan, now, Width::Wide, opened.system),
            heat_narrow: draw_heat(&opened.plan, now, Width::Narrow, opened.system),
            slice_narrow: draw_slice(&standing.slice, Width::Narrow),
            grams: grams(on_the_meat(opened)),
            ounces: other_system(&grams(on_the_meat(opened)), "g"),
            grams_line: on_line(opened).unwrap_or_else(|| {
                plan.dose
                    .by_face
                    .iter()
                    .filter(|f| f.g >= 0.05)
                    .map(|f| format!("{} g {}", grams(f.on_scale_g()), f.name))
                    .collect::<Vec<_>>()
                    .join(" · ")
            }),
            to_salt: opened.waits_for_salt(),
            to_knife: plan.skin.is_some(),
            removed: opened.piece.deleted_at.is_some(),
            finished: next.is_none() || opened.piece.finished_at.is_some(),
            eaten: stand.is_over(&opened.run, StepKind::Carve),
            judged: stand.record.tasted.is_some(),
            pull_word: pull_word(&plan.fire),
            pull: format!("{pull} {pull_unit}"),
            pull_other,
            loud: plan.cautions.iter().filter(|c| c.severity != "note" && c.step.is_none()).cloned().collect(),
            stop: Stop::of(opened, now),
            changed: changed(opened, now),
            newer_notes: vec![],
            today: today(opened, now),
            asked: questions(opened, &stand.asked),
            follows: follows(opened, &stand, now),
            early: early(opened, &stand, now),
            may_change: stand.left_cold.is_none() && stand.finished.is_none(),
            knowing: knowing(opened),
            steps,
            lost: None,
        }
    }
}

/// What is on it and what is still to go on, where it is salted; nothing before, and where all went on as planned.
fn on_line(opened: &Opened) -> Option<String> {
    let on = opened.on_scale_g()?;
    let missing = opened.plan.dose.on_scale_g();
    if opened.waits_for_salt() && missing >= 0.5 && opened.plan.dose.from_ledger_g > 0.05 {
        return Some(format!("on it; {} g still to go on", grams(missing)));
    }
    let planned: f64 = opened.plan.dose.by_face.iter().map(rauchkeller_contract::FaceDoc::on_scale_g).sum();
    ((on - planned).abs() >= 0.15).then(|| "on it, by what was noted".to_owned())
}

/// The grams of this piece's salt: what is weighed for it, or, where all of it was on when it came, that.
fn on_the_meat(opened: &Opened) -> f64 {
    if let Some(on) = opened.on_scale_g() {
        return on;
    }
    let dose = &opened.plan.dose;
    if dose.to_weigh_g > 0.0 { dose.on_scale_g() } else { dose.from_ledger_g }
}

/// First letter lower case, to follow a colon.
pub(super) fn lower(text: &str) -> String {
    let mut chars = text.chars();
    chars.next().map_or_else(String::new, |first| first.to_lowercase().collect::<String>() + chars.as_str())
}

/// The page of a piece.
pub async fn page(State(state): State<AppState>, cook: SignedIn, partial: Partial, Path(id): Path<String>) -> Result<Response, WebError> {
    show(&state, &cook, partial, &id).await
}

/// Something a newer version noted: `heard, Fri 17:10`.
fn newer_note(event: &UnknownEvent, now: &ZonedDateTime) -> String {
    let kind: String = event.kind.chars().take(40).collect();
    format!("{}, {}", kind.replace('-', " "), day_wall(event.at, now))
}

/// The page or its fragment, as it stands now.
pub async fn show(state: &AppState, cook: &SignedIn, partial: Partial, id: &str) -> Result<Response, WebError> {
    let opened = open(state, cook, id).await?;
    let (piece, lost) = (opened.piece.id, missing_picks(&opened));
    let now = cook.now(state);
    let mut view = compute(move || PieceView::of(&opened, &now)).await?;
    view.lost = lost;
    view.newer_notes = cook.kitchen(state).unknown_events(piece).await?.iter().map(|event| newer_note(event, &cook.now(state))).collect();
    if partial.0 { render(&PieceFragment { view }) } else { render(&PiecePage { rail: Rail::at("cellar", cook), view }) }
}

/// The page with an hour that cannot be, beside its task.
pub async fn wrong_hour(
    state: &AppState,
    cook: &SignedIn,
    partial: Partial,
    opened: Box<Opened>,
    task: &str,
    typed: String,
    slip: String,
) -> Result<Response, WebError> {
    let (now, lost) = (cook.now(state), missing_picks(&opened));
    let mut view = compute(move || PieceView::of(&opened, &now)).await?;
    view.lost = lost;
    if let Some(step) = view.steps.iter_mut().find(|s| s.id == task) {
        (step.typed, step.slip) = (typed, Some(slip));
    }
    let page = if partial.0 { render(&PieceFragment { view })? } else { render(&PiecePage { rail: Rail::at("cellar", cook), view })? };
    Ok((StatusCode::UNPROCESSABLE_ENTITY, page).into_response())
}

/// A name and notes as typed.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct CallForm {
    version: i32,
    name: String,
    note: String,
}

/// Gives the piece its name and notes.
pub async fn call(
    State(state): State<AppState>,
    cook: SignedIn,
    Path(id): Path<String>,
    Form(form): Form<CallForm>,
) -> Result<Response, WebError> {
    let (name, note) = (one_line(&form.name), form.note.trim());
    let letters = name.chars().count();
    let (status, slip) = if !(1..=120).contains(&letters) {
        (StatusCode::UNPROCESSABLE_ENTITY, format!("A name of {letters} letters does not fit the board: 1 to 120 are allowed."))
    } else if note.chars().count() > 4000 {
        (StatusCode::UNPROCESSABLE_ENTITY, format!("{} letters of notes are more than fit: 4000 at most.", note.chars().count()))
    } else {
        match cook.kitchen(&state).call(piece_id(&id)?, form.version, &name, note).await {
            Ok(()) => return Ok(Redirect::to(&format!("/pieces/{id}#called")).into_response()),
            Err(StoreError::Conflict) => (
                StatusCode::CONFLICT,
                "This piece was changed meanwhile, here or by another cook. What you typed still stands below; write it down once more."
                    .to_owned(),
            ),
            Err(error) => return Err(error.into()),
        }
    };
    let opened = open(&state, &cook, &id).await?;
    let lost = missing_picks(&opened);
    let now = cook.now(&state);
    let mut view = compute(move || PieceView::of(&opened, &now)).await?;
    (view.lost, view.wrong_name, view.name, view.note) = (lost, Some(slip), form.name, form.note);
    let page = render(&PiecePage { rail: Rail::at("cellar", &cook), view })?;
    Ok((status, page).into_response())
}

/// Takes a piece out of the Cellar; its page offers to put it back.
pub async fn remove(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    cook.kitchen(&state).set_deleted(piece_id(&id)?, Some(state.now())).await?;
    Ok(Redirect::to(&format!("/pieces/{id}")).into_response())
}

/// Puts it back.
pub async fn restore(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    cook.kitchen(&state).set_deleted(piece_id(&id)?, None).await?;
    Ok(Redirect::to(&format!("/pieces/{id}")).into_response())
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::testing::opened;

    /// The example belly, its work on the bench on the 11th, its meal on the 12th.
    #[test]
    fn what_is_over_early_offers_a_change_and_what_goes_on_as_planned_does_not() {
        let first = |opened: &Opened| opened.run.tasks.iter().filter(|task| task.beside.is_none()).map(|task| task.starts).min().unwrap();
        let plan = opened(&[]);
        let begins = first(&plan);
        let at = |hours: i64| begins + SignedDuration::from_hours(hours);
        let said = |ticked: i64| {
            let noted = opened(&[("lay-out", &at(ticked).to_string())]);
            let now = at(ticked).to_zoned_datetime(jiff::tz::TimeZone::UTC);
            early(&noted, &noted.stand(&now), &now)
        };
        let five = said(-5).expect("five hours before its time");
        assert!(five.contains("was over 5 h") && five.contains("what follows waits"), "{five}");
        assert_eq!(said(0), None, "at its hour");
        // Nothing is done: nothing is early.
        let now = at(-5).to_zoned_datetime(jiff::tz::TimeZone::UTC);
        assert_eq!(early(&plan, &plan.stand(&now), &now), None);
    }
}
