//! The page of a piece: how it stands, its steps, ticks and their undo.

use super::hands::{hands_fragment, missing_picks};
use super::{Opened, Standing, Stop, open, piece_id, step_id};
use crate::auth::SignedIn;
use crate::compute::compute;
use crate::draw::{Width, draw_slice};
use crate::error::WebError;
use crate::shell::{Partial, Rail, render};
use crate::state::AppState;
use crate::words::{day_wall, figure_in_units, grams, instant, other_system, sentence, span, wall};
use askama::Template;
use axum::extract::{Form, Path, Query, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Redirect, Response};
use jiff::ZonedDateTime;
use rauchkeller_contract::CautionDoc;
use rauchkeller_store::{Hand, StoreError};
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
    pub slice_narrow: String,
    pub grams: String,
    pub ounces: String,
    pub grams_line: String,
    /// Whether its salt still waits to be weighed.
    pub to_salt: bool,
    pub steps: Vec<StepLine>,
    pub removed: bool,
    pub finished: bool,
    pub judged: bool,
    pub pull: String,
    pub pull_other: String,
    pub loud: Vec<CautionDoc>,
    /// A refrigerator too warm.
    pub stop: Option<Stop>,
    /// What today's rules would refuse of it.
    pub refused: Vec<String>,
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

/// What today's rules would refuse of what was kept, in a sentence each: a piece on its way opens all the same.
fn refused_today(opened: &Opened) -> Vec<String> {
    let Ok(request) = serde_json::from_str(&opened.piece.request) else { return vec![] };
    let Ok(kept) = opened.plan.request.now.parse::<ZonedDateTime>() else { return vec![] };
    rauchkeller_contract::refused_today(&request, &kept).iter().map(rauchkeller_contract::Problem::sentence).collect()
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
        let next = opened.next_step();
        let standing = Standing::of(opened, now);
        let plan = &opened.plan;
        let steps = opened
            .piece
            .steps
            .iter()
            .zip(&plan.steps)
            .enumerate()
            .map(|(i, (row, step))| {
                let due = now.timestamp().duration_since(row.planned_start);
                let (figure, other) = step.figure.as_ref().map_or_else(Default::default, |f| {
                    let (figure, unit, other) = figure_in_units(f, step.figure_unit.as_deref().unwrap_or_default(), opened.system);
                    // What the title says already is not said again.
                    if step.title.contains(&format!("{figure} {unit}")) { Default::default() } else { (format!("{figure} {unit}"), other) }
                });
                StepLine {
                    id: row.id.to_string(),
                    when: day_wall(row.planned_start, now),
                    title: step.title.clone(),
                    figure,
                    other,
                    detail: step.detail.clone(),
                    needs: step.needs.join(", "),
                    until: step.until.clone().unwrap_or_default(),
                    done: row.done_at.map(|at| wall(at, now)),
                    next: next == Some(i),
                    late: (row.done_at.is_none() && next == Some(i) && due.as_mins() > 5).then(|| format!("due {} ago", span(due))),
                    raw: step.hands == "raw",
                    place: step.place.clone(),
                    cautions: plan.cautions.iter().filter(|c| c.step.as_deref() == Some(step.kind.as_str())).cloned().collect(),
                }
            })
            .collect::<Vec<_>>();
        let headline = match next.and_then(|i| Some((&opened.piece.steps[i], plan.steps.get(i)?))) {
            Some((row, step)) if row.planned_start <= now.timestamp() => format!("Now: {}", lower(&step.title)),
            Some((row, step)) => format!("{}: {}", wall(row.planned_start, now), lower(&step.title)),
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
            slice_narrow: draw_slice(&standing.slice, Width::Narrow),
            grams: grams(on_the_meat(opened)),
            ounces: other_system(&grams(on_the_meat(opened)), "g"),
            grams_line: plan
                .dose
                .by_face
                .iter()
                .filter(|f| f.g >= 0.05)
                .map(|f| format!("{} g {}", grams(f.on_scale_g()), f.name))
                .collect::<Vec<_>>()
                .join(" · "),
            to_salt: opened.piece.steps.iter().any(|s| s.kind == "salt" && s.done_at.is_none()),
            removed: opened.piece.deleted_at.is_some(),
            finished: next.is_none() || opened.piece.finished_at.is_some(),
            judged: opened.piece.verdict.is_some(),
            pull: format!("{pull} {pull_unit}"),
            pull_other,
            loud: plan.cautions.iter().filter(|c| c.severity != "note" && c.step.is_none()).cloned().collect(),
            stop: Stop::of(opened, now),
            refused: refused_today(opened),
            knowing: knowing(opened),
            steps,
            lost: None,
        }
    }
}

/// The grams of this piece's salt: what is weighed for it, or, where all of it was on when it came, that.
fn on_the_meat(opened: &Opened) -> f64 {
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

async fn show(state: &AppState, cook: &SignedIn, partial: Partial, id: &str) -> Result<Response, WebError> {
    let opened = open(state, cook, id).await?;
    let lost = missing_picks(state, cook, &opened).await?;
    let now = cook.now(state);
    let mut view = compute(move || PieceView::of(&opened, &now)).await?;
    view.lost = lost;
    if partial.0 { render(&PieceFragment { view }) } else { render(&PiecePage { rail: Rail::at("cellar", cook), view }) }
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
    let (name, note) = (form.name.trim(), form.note.trim());
    let letters = name.chars().count();
    let (status, slip) = if !(1..=120).contains(&letters) {
        (StatusCode::UNPROCESSABLE_ENTITY, format!("A name of {letters} letters does not fit the board: 1 to 120 are allowed."))
    } else if note.chars().count() > 4000 {
        (StatusCode::UNPROCESSABLE_ENTITY, format!("{} letters of notes are more than fit: 4000 at most.", note.chars().count()))
    } else {
        match cook.kitchen(&state).call(piece_id(&id)?, form.version, name, note).await {
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
    let lost = missing_picks(&state, &cook, &opened).await?;
    let now = cook.now(&state);
    let mut view = compute(move || PieceView::of(&opened, &now)).await?;
    (view.lost, view.wrong_name, view.name, view.note) = (lost, Some(slip), form.name, form.note);
    let page = render(&PiecePage { rail: Rail::at("cellar", &cook), view })?;
    Ok((status, page).into_response())
}

/// Where a tick came from.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct From {
    /// `hands` for the raw-hands view.
    from: String,
}

/// Where a step of knife or pick was begun with raw hands, its stretch of work ends or goes on with the tick.
async fn move_run(state: &AppState, cook: &SignedIn, id: &str, step: &str, hand: Hand) -> Result<(), WebError> {
    let opened = open(state, cook, id).await?;
    let row = opened.piece.steps.iter().find(|s| s.id.to_string() == step);
    let Some(kind) = row.map(|s| s.kind.as_str()).filter(|kind| matches!(*kind, "score" | "pierce")) else { return Ok(()) };
    match cook.kitchen(state).move_run(opened.piece.id, kind, hand, state.now()).await {
        // Ticked without having been begun.
        Err(StoreError::NotFound) => Ok(()),
        outcome => Ok(outcome?),
    }
}

/// Ticks a step.
pub async fn done(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path((id, step)): Path<(String, String)>,
    Query(from): Query<From>,
) -> Result<Response, WebError> {
    cook.kitchen(&state).tick(piece_id(&id)?, step_id(&step)?, state.now()).await?;
    move_run(&state, &cook, &id, &step, Hand::Stop).await?;
    answer(&state, &cook, partial, &id, &from, Some(&step)).await
}

/// Takes a tick back.
pub async fn undone(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path((id, step)): Path<(String, String)>,
    Query(from): Query<From>,
) -> Result<Response, WebError> {
    cook.kitchen(&state).untick(piece_id(&id)?, step_id(&step)?).await?;
    move_run(&state, &cook, &id, &step, Hand::GoOnAgain).await?;
    answer(&state, &cook, partial, &id, &from, None).await
}

async fn answer(
    state: &AppState,
    cook: &SignedIn,
    partial: Partial,
    id: &str,
    from: &From,
    just_done: Option<&str>,
) -> Result<Response, WebError> {
    match (partial.0, from.from.as_str()) {
        (true, "hands") => hands_fragment(state, cook, id, just_done).await,
        (true, _) => show(state, cook, partial, id).await,
        (false, "hands") => Ok(Redirect::to(&format!("/pieces/{id}/hands")).into_response()),
        (false, _) => Ok(Redirect::to(&format!("/pieces/{id}")).into_response()),
    }
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
