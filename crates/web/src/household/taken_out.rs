//! What was taken out, and the way back.

use crate::auth::SignedIn;
use crate::error::WebError;
use crate::shell::{Rail, render};
use crate::state::AppState;
use crate::words::day_wall;
use askama::Template;
use axum::extract::State;
use axum::response::Response;

struct Line {
    name: String,
    from: &'static str,
    at: String,
    back: String,
}

#[derive(Template)]
#[template(path = "household/taken_out.html")]
struct TakenOutPage {
    rail: Rail,
    lines: Vec<Line>,
}

/// The list, the last taken out first.
pub async fn page(State(state): State<AppState>, cook: SignedIn) -> Result<Response, WebError> {
    let now = cook.now(&state);
    let lines = cook.kitchen(&state).taken_out().await?.into_iter().map(|thing| {
        let (from, back) = match thing.kind {
            "pieces" => ("the Cellar or the Book", format!("/pieces/{}/restore", thing.id)),
            kind => ("the Kit", format!("/kit/{kind}/{}/restore", thing.id)),
        };
        Line { name: thing.name, from, at: day_wall(thing.at, &now), back }
    });
    render(&TakenOutPage { rail: Rail::at("account", &cook), lines: lines.collect() })
}
