//! The Cellar: what is next, across all kept pieces, and the journey board.

mod seen;
mod view;

use crate::auth::SignedIn;
use crate::compute::compute;
use crate::error::WebError;
use crate::piece::{InSight, open_in_sight};
use crate::shell::{Partial, Rail, render};
use crate::state::AppState;
use crate::words::day_wall;
use askama::Template;
use axum::extract::{Query, State};
use axum::response::Response;
use jiff::Timestamp;
use rauchkeller_store::{ON_A_LIST, PieceId};
use seen::seen;
use serde::Deserialize;
use std::sync::Arc;
use view::CellarView;

#[derive(Template)]
#[template(path = "cellar/page.html")]
struct CellarPage {
    rail: Rail,
    view: Arc<CellarView>,
    /// How many pieces more are on their way than are drawn.
    more: u64,
}

#[derive(Template)]
#[template(path = "cellar/cellar.html")]
struct CellarFragment {
    view: Arc<CellarView>,
    /// How many pieces more are on their way than are drawn.
    more: u64,
}

/// The board; asked again every minute while it is open.
pub async fn page(State(state): State<AppState>, cook: SignedIn, partial: Partial) -> Result<Response, WebError> {
    let InSight { pieces, unread, more } = open_in_sight(&state, &cook).await?;
    let now = cook.now(&state);
    let home = cook.0.household;
    let view = compute(move || seen(home, &pieces, &unread, &now)).await?;
    if partial.0 { render(&CellarFragment { view, more }) } else { render(&CellarPage { rail: Rail::at("cellar", &cook), view, more }) }
}

/// A piece on the list of all.
struct Line {
    href: String,
    name: String,
    sub: String,
}

#[derive(Template)]
#[template(path = "cellar/all.html")]
struct AllPage {
    rail: Rail,
    lines: Vec<Line>,
    earlier: Option<u64>,
    later: Option<u64>,
}

/// Which page of the list.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct Which {
    page: Option<u64>,
}

/// Every piece on its way, by name and meal: what is beyond the board's sight is found here.
pub async fn all(State(state): State<AppState>, cook: SignedIn, Query(which): Query<Which>) -> Result<Response, WebError> {
    let page = which.page.unwrap_or_default();
    let now = cook.now(&state);
    let found = cook.kitchen(&state).on_a_list(page).await?;
    let full = found.len() as u64 == ON_A_LIST;
    let line = |(id, name, at): (PieceId, String, Timestamp)| Line {
        href: format!("/pieces/{id}"),
        name,
        sub: format!("on the table {}", day_wall(at, &now)),
    };
    let lines = found.into_iter().map(line).collect();
    let page = AllPage { rail: Rail::at("cellar", &cook), lines, earlier: page.checked_sub(1), later: full.then_some(page + 1) };
    render(&page)
}
