//! The Bench: a piece in, a plan out.

mod draft;
mod form;
mod numbers;
mod sentence;
mod view;

pub use form::{BenchForm, encode, slip};
pub use numbers::{CoverLine, MixLines, spoons_line};

use crate::auth::SignedIn;
use crate::compute::compute;
use crate::error::WebError;
use crate::kit::Shelf;
use crate::piece::draft_piece;
use crate::shell::{Partial, Rail, render};
use crate::state::AppState;
use crate::words::instant;
use askama::Template;
use axum::extract::{Form, Query, RawQuery, State};
use axum::http::{HeaderMap, HeaderValue, StatusCode};
use axum::response::{IntoResponse, Redirect, Response};
use uuid::Uuid;
use view::BenchView;

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
        Some("new=1") => return Ok((draft::clear(&state), Redirect::to("/bench")).into_response()),
        None | Some("") if !partial.0 => {
            if let Some(address) = draft::of(&headers, cook.0.id) {
                return Ok(Redirect::to(&address).into_response());
            }
        }
        _ => {}
    }
    if let Some(taken) = form.taken() {
        return Ok(Redirect::to(&taken.address()).into_response());
    }
    let address = form.address();
    let (now, shelf) = (cook.now(&state), Shelf::of(&state, &cook).await?);
    let view = compute(move || BenchView::of(form, &now, &shelf)).await?;
    let left = draft::keep(&state, cook.0.id, &address);
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

/// Keeps the plan of the form in the Cellar. The same form sent twice keeps one piece.
pub async fn keep(State(state): State<AppState>, cook: SignedIn, Form(form): Form<BenchForm>) -> Result<Response, WebError> {
    let now = cook.now(&state);
    let key = form.key.clone();
    let shelf = Shelf::of(&state, &cook).await?;
    let view = compute(move || BenchView::of(form, &now, &shelf)).await?;
    let usable_key = Uuid::parse_str(&key).is_ok();
    let (Some(plan), true, true) = (&view.plan, view.may_keep, usable_key) else {
        let page = BenchPage { rail: Rail::at("bench", &cook), view };
        return Ok((StatusCode::UNPROCESSABLE_ENTITY, render(&page)?).into_response());
    };
    let mut piece = draft_piece(key, &view.request, plan).into_new();
    let called = view.form.name.trim();
    if !called.is_empty() {
        piece.name = called.chars().take(120).collect();
    }
    let kitchen = cook.kitchen(&state);
    let kept = kitchen.keep(piece, state.now()).await?;
    if view.form.stands == "salted" {
        // It lies in the cold already: that step is done, at the moment the cook said.
        let cold = kitchen.piece(kept.id()).await?.steps.into_iter().find(|s| s.kind == "chill");
        if let Some(step) = cold.filter(|s| s.done_at.is_none()) {
            kitchen.tick(kept.id(), step.id, instant(&plan.fridge.from)).await?;
        }
    }
    Ok((draft::clear(&state), Redirect::to(&format!("/pieces/{}", kept.id()))).into_response())
}
