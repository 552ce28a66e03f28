//! The Bench: a piece in, a plan out.

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
use axum::extract::{Form, Query, State};
use axum::http::{HeaderValue, StatusCode};
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

/// The Bench with the state of its address.
pub async fn page(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Query(form): Query<BenchForm>,
) -> Result<Response, WebError> {
    let address = form.address();
    let (now, shelf) = (cook.now(&state), Shelf::of(&state, &cook).await?);
    let view = compute(move || BenchView::of(form, &now, &shelf)).await?;
    if !partial.0 {
        return render(&BenchPage { rail: Rail::at("bench", &cook), view });
    }
    let mut response = render(&BenchFragment { view })?;
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
    let piece = draft_piece(key, &view.request, plan).into_new();
    let kitchen = cook.kitchen(&state);
    let kept = kitchen.keep(piece, state.now()).await?;
    if view.form.stands == "salted" {
        // It lies in the cold already: that step is done, at the moment the cook said.
        let cold = kitchen.piece(kept.id()).await?.steps.into_iter().find(|s| s.kind == "chill");
        if let Some(step) = cold.filter(|s| s.done_at.is_none()) {
            kitchen.tick(kept.id(), step.id, instant(&plan.fridge.from)).await?;
        }
    }
    Ok(Redirect::to(&format!("/pieces/{}", kept.id())).into_response())
}
