//! The Bench: a piece in, a plan out.

mod draft;
mod form;
mod heat_lines;
mod knots;
mod lesson;
mod numbers;
mod planned;
mod sentence;
mod view;
mod ways;

pub use form::{BenchForm, encode};
pub use numbers::{CoverLine, MixLines, spoons_line};
pub use ways::{WayLine, way_line};

use crate::auth::SignedIn;
use crate::compute::compute;
use crate::error::WebError;
use crate::kit::Shelf;
use crate::piece::{Change, Written, draft_piece, event, open, usual_name, write_change};
use crate::shell::{Partial, Rail, render};
use crate::state::AppState;
use crate::words::{instant, one_line};
use askama::Template;
use axum::extract::{Form, Path, Query, RawQuery, State};
use axum::http::{HeaderMap, HeaderValue, StatusCode};
use axum::response::{IntoResponse, Redirect, Response};
use lesson::Lesson;
use planned::minute;
use rauchkeller_core::run::What;
use uuid::Uuid;
use view::BenchView;
use ways::WaysView;

#[derive(Template)]
#[template(path = "bench/page.html")]
struct BenchPage {
    rail: Rail,
    view: BenchView,
}

#[derive(Template)]
#[template(path = "bench/bench.html")]
struct BenchFragment {
    view: BenchView,
}

#[derive(Template)]
#[template(path = "bench/ways.html")]
struct WaysPage {
    rail: Rail,
    view: WaysView,
}

/// The ways to do the piece of the sentence, each with what it asks and gives.
///
/// Cost: a plan for every way that fits, a millisecond and a half each.
pub async fn ways(State(state): State<AppState>, cook: SignedIn, Query(form): Query<BenchForm>) -> Result<Response, WebError> {
    let (now, shelf) = (minute(&cook.now(&state)), Shelf::of(&state, &cook).await?);
    let address = form.address();
    match compute(move || WaysView::of(&form, &now, &shelf)).await? {
        Some(view) => Ok(render(&WaysPage { rail: Rail::at("bench", &cook), view })?.into_response()),
        // Without a cut there is nothing to compare.
        None => Ok(Redirect::to(&address).into_response()),
    }
}

/// The Bench with the state of its address; without one, with the sentence that was left lying on it.
pub async fn page(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    RawQuery(query): RawQuery,
    headers: HeaderMap,
    Query(form): Query<BenchForm>,
) -> Result<Response, WebError> {
    match query.as_deref() {
        Some("new=1") => return Ok(clean(&state)),
        None | Some("") if !partial.0 => {
            if let Some(left) = draft::of(&headers, cook.0.id) {
                let kept = cook.kitchen(&state).kept_before(&left.key).await?.is_some();
                return Ok(if kept { clean(&state) } else { Redirect::to(&left.address).into_response() });
            }
        }
        _ => {}
    }
    if let Some(taken) = form.taken() {
        return Ok(Redirect::to(&taken.address()).into_response());
    }
    let named = !form.cutname.is_empty();
    let form = form.with_its_cut();
    if named && form.cutname.is_empty() && !partial.0 {
        return Ok(Redirect::to(&form.address()).into_response());
    }
    let shelf = Shelf::of(&state, &cook).await?;
    // A kept piece that is opened here lies down with its sentence; so does one that is cooked again.
    if let Some(address) = first_words(&state, &cook, &form, &shelf).await? {
        return Ok(Redirect::to(&address).into_response());
    }
    let shelf = shelf.for_dose(&state, &cook, &form.cut, &form.dose).await?;
    let address = form.address();
    let (change, lesson) = (change_of(&state, &cook, &form).await?, lesson_of(&state, &cook, &form).await?);
    let now = minute(&cook.now(&state));
    let changes = change.is_some();
    let view = compute(move || BenchView::of(form, &now, &shelf, change.as_ref(), lesson.as_ref())).await?;
    // The sentence of a kept piece is its own: the one left lying is not touched.
    let left = if changes { None } else { Some(draft::keep(&state, cook.0.id, &view.key, &address)) };
    if !partial.0 {
        return Ok((left, render(&BenchPage { rail: Rail::at("bench", &cook), view })?).into_response());
    }
    let mut response = (left, render(&BenchFragment { view })?).into_response();
    // The address keeps the state; every keystroke replaces it, so that Back leaves the Bench.
    if let Ok(address) = HeaderValue::from_str(&address) {
        response.headers_mut().insert("HX-Replace-Url", address);
    }
    Ok(response)
}

/// The Bench with nothing on it.
fn clean(state: &AppState) -> Response {
    (draft::clear(state), Redirect::to("/bench")).into_response()
}

/// The address at which a kept or an eaten piece lies with its words, where only its id was said.
async fn first_words(state: &AppState, cook: &SignedIn, form: &BenchForm, shelf: &Shelf) -> Result<Option<String>, WebError> {
    let bare = |id: &str| !id.is_empty() && form.cut.is_empty() && form.weight.is_empty();
    if bare(&form.piece) {
        let opened = open(state, cook, &form.piece).await?;
        let over = opened.piece.version.to_string();
        let now = cook.now(state);
        let change = Change::of(opened, &now);
        let said = BenchForm::of_request(&change.said(), &now, shelf);
        // Salted, its hours are what there is until the meal.
        let hours = if change.salted { String::new() } else { said.hours.clone() };
        let words = BenchForm { piece: form.piece.clone(), over, hours, ..said };
        return Ok(Some(words.address()));
    }
    if bare(&form.again) {
        let lesson = lesson_of(state, cook, form).await?;
        let words = lesson.map(|lesson| lesson.words(&cook.now(state), shelf));
        return Ok(words.map(|words| BenchForm { again: form.again.clone(), ..words }.address()));
    }
    Ok(None)
}

/// The kept piece that is changed here.
async fn change_of(state: &AppState, cook: &SignedIn, form: &BenchForm) -> Result<Option<Change>, WebError> {
    if form.piece.is_empty() {
        return Ok(None);
    }
    let (opened, now) = (open(state, cook, &form.piece).await?, cook.now(state));
    Ok(Some(compute(move || Change::of(opened, &now)).await?))
}

/// What the verdict of the eaten piece proposes.
async fn lesson_of(state: &AppState, cook: &SignedIn, form: &BenchForm) -> Result<Option<Lesson>, WebError> {
    if form.again.is_empty() {
        return Ok(None);
    }
    let (opened, now) = (open(state, cook, &form.again).await?, cook.now(state));
    Ok(Some(compute(move || Lesson::of(&opened, &now)).await?))
}

/// Writes a change of a kept piece: a version of its plan, which can be taken back.
pub async fn change(
    State(state): State<AppState>,
    cook: SignedIn,
    Path(id): Path<String>,
    Form(form): Form<BenchForm>,
) -> Result<Response, WebError> {
    let form = BenchForm { piece: id.clone(), ..form.with_its_cut() };
    let (now, shelf) = (minute(&cook.now(&state)), Shelf::of(&state, &cook).await?);
    let Some(change) = change_of(&state, &cook, &form).await? else { return Err(WebError::NotFound) };
    let (seen, key) = (form.over.parse().unwrap_or(0), Uuid::parse_str(&form.key).ok());
    let looked = change.clone();
    let mut view = compute(move || BenchView::of(form, &now, &shelf, Some(&looked), None)).await?;
    let status = match (&view.plan, view.may_keep, key) {
        (Some(plan), true, Some(key)) => match write_change(&state, &cook, &change, &view.request, plan, (seen, key.as_u128())).await? {
            Written::Done => return Ok(Redirect::to(&format!("/pieces/{id}")).into_response()),
            Written::Changed => {
                view.changed_meanwhile(change.opened.piece.version);
                StatusCode::CONFLICT
            }
        },
        _ => StatusCode::UNPROCESSABLE_ENTITY,
    };
    Ok((status, render(&BenchPage { rail: Rail::at("bench", &cook), view })?).into_response())
}

/// Keeps the plan of the form in the Cellar. The same form sent twice keeps one piece.
pub async fn keep(State(state): State<AppState>, cook: SignedIn, Form(form): Form<BenchForm>) -> Result<Response, WebError> {
    let now = minute(&cook.now(&state));
    let (key, form) = (form.key.clone(), form.with_its_cut());
    let shelf = Shelf::of(&state, &cook).await?;
    let (system, lesson) = (shelf.system, lesson_of(&state, &cook, &form).await?);
    let view = compute(move || BenchView::of(form, &now, &shelf, None, lesson.as_ref())).await?;
    let usable_key = Uuid::parse_str(&key).is_ok();
    let (Some(plan), true, true) = (&view.plan, view.may_keep, usable_key) else {
        let page = BenchPage { rail: Rail::at("bench", &cook), view };
        return Ok((StatusCode::UNPROCESSABLE_ENTITY, render(&page)?).into_response());
    };
    let at = state.now();
    // It lies in the cold already: that task has begun, at the moment the cook said.
    let lies = view.form.stands == "salted";
    let chill = plan.steps.iter().find(|s| s.takes == "elastic").filter(|_| lies);
    let events = chill.map(|step| event(instant(&plan.fridge.from), at, What::TaskBegan { task: step.task_id() })).into_iter().collect();
    let mut piece = draft_piece(key, &view.request, plan).with_events(events).into_new();
    let called = one_line(&view.form.name);
    piece.name = if called.is_empty() { usual_name(plan, system) } else { called.chars().take(120).collect() };
    let kept = cook.kitchen(&state).keep(piece, at).await?;
    Ok((draft::clear(&state), Redirect::to(&format!("/pieces/{}", kept.id()))).into_response())
}
