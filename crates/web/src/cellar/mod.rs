//! The Cellar: what is next, across all kept pieces, and the journey board.

mod seen;
mod view;

use crate::auth::SignedIn;
use crate::compute::compute;
use crate::error::WebError;
use crate::piece::open_all;
use crate::shell::{Partial, Rail, render};
use crate::state::AppState;
use askama::Template;
use axum::extract::State;
use axum::response::Response;
use seen::seen;
use std::sync::Arc;
use view::CellarView;

#[derive(Template)]
#[template(path = "cellar/page.html")]
struct CellarPage {
    rail: Rail,
    view: Arc<CellarView>,
}

#[derive(Template)]
#[template(path = "cellar/cellar.html")]
struct CellarFragment {
    view: Arc<CellarView>,
}

/// The board; asked again every minute while it is open.
pub async fn page(State(state): State<AppState>, cook: SignedIn, partial: Partial) -> Result<Response, WebError> {
    let (pieces, unread) = open_all(&state, &cook).await?;
    let now = cook.now(&state);
    let home = cook.0.household;
    let view = compute(move || seen(home, &pieces, &unread, &now)).await?;
    if partial.0 { render(&CellarFragment { view }) } else { render(&CellarPage { rail: Rail::at("cellar", &cook), view }) }
}
