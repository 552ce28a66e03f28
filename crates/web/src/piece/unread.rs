//! A kept piece whose plan cannot be read any more: said in words, with ways out. The rest of the kitchen goes on.

use super::draft::new_plan;
use super::{event, piece_id};
use crate::auth::SignedIn;
use crate::compute::compute;
use crate::error::WebError;
use crate::shell::{Rail, render};
use crate::state::AppState;
use crate::words::day_wall;
use askama::Template;
use axum::extract::{Path, State};
use axum::http::header;
use axum::response::{IntoResponse, Redirect, Response};
use jiff::ZonedDateTime;
use rauchkeller_contract::{SCHEMA, as_said, event_value, plan_from};
use rauchkeller_core::plan::RULES;
use rauchkeller_core::run::What;
use rauchkeller_store::{Piece, PieceId, Revised, Revision};
use serde_json::{Value, json};

/// What is still known of it.
#[derive(Debug, Clone)]
pub struct Unread {
    /// Which.
    pub id: PieceId,
    /// Its name.
    pub name: String,
    /// Which of its plans stands.
    pub plan_version: u32,
    /// The meal.
    pub serve_at: jiff::Timestamp,
    /// Whether it was taken out of the Cellar.
    pub removed: bool,
    /// What the reader said.
    pub why: String,
    /// Whether a newer version of the program kept it.
    pub newer: bool,
}

impl Unread {
    /// Of a stored piece.
    pub fn of(piece: &Piece, why: impl std::fmt::Display) -> Self {
        let newer = piece.schema_no > i32::try_from(SCHEMA).unwrap_or(i32::MAX) || piece.rules > i32::try_from(RULES).unwrap_or(i32::MAX);
        Self {
            newer,
            id: piece.id,
            name: piece.name.clone(),
            plan_version: piece.plan_version.unsigned_abs(),
            serve_at: piece.serve_at,
            removed: piece.deleted_at.is_some(),
            why: why.to_string().chars().take(200).collect(),
        }
    }

    /// One line for a list.
    pub fn line(&self) -> String {
        let why = if self.newer { "its plan was kept by a newer version of this kitchen" } else { "its plan cannot be read any more" };
        format!("{}: {why}. Nothing of it is lost; open it to plan it anew or to take it out.", self.name)
    }
}

#[derive(Template)]
#[template(path = "piece/unread.html")]
struct UnreadPage {
    rail: Rail,
    piece: Unread,
    meal: String,
    said: Option<String>,
}

/// Its page.
pub fn unread_page(cook: &SignedIn, now: &ZonedDateTime, piece: &Unread, said: Option<String>) -> Result<Response, WebError> {
    let meal = day_wall(piece.serve_at, now);
    render(&UnreadPage { rail: Rail::at("cellar", cook), piece: piece.clone(), meal, said })
}

/// Plans it anew from its own words, as they were asked then; ticks stay.
pub async fn renew(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    let kitchen = cook.kitchen(&state);
    let piece = kitchen.piece(piece_id(&id)?).await?;
    let refuse = |said: &str| unread_page(&cook, &cook.now(&state), &Unread::of(&piece, said), Some(said.to_owned()));
    let Ok(request) = serde_json::from_str::<Value>(&piece.request).map(|full| as_said(&full)) else {
        return refuse("Its words cannot be read either. Take it out, or keep its record and plan it on the Bench.");
    };
    let then = request["now"].as_str().and_then(|at| at.parse::<ZonedDateTime>().ok()).unwrap_or_else(|| cook.now(&state));
    let asked = request.clone();
    let planned = compute(move || plan_from(&asked, &then)).await?;
    let plan = match planned {
        Ok(plan) => plan,
        Err(problems) => {
            let why = problems.problems.first().map_or_else(String::new, rauchkeller_contract::Problem::sentence);
            return refuse(&format!("Today’s rules refuse its words: {why}"));
        }
    };
    let now = state.now();
    let (revised, new) = (event(now, now, What::PlanRevised { over: 0, version: 0 }), new_plan(&request, &plan));
    let revision = Revision { plan: &new, name: None, facts: &[], event: &revised, cook: Some(cook.0.id) };
    match kitchen.revise(piece.id, piece.version, revision).await? {
        Revised::Done => Ok(Redirect::to(&format!("/pieces/{id}")).into_response()),
        Revised::Changed => refuse("Somebody changed it meanwhile. Look again, and send it once more."),
    }
}

/// What is stored of a piece, as it is.
pub async fn record(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    let kitchen = cook.kitchen(&state);
    let piece = kitchen.piece(piece_id(&id)?).await?;
    let read = |text: &str| serde_json::from_str(text).unwrap_or_else(|_| Value::String(text.to_owned()));
    let events: Vec<Value> = kitchen.events(piece.id).await?.iter().map(event_value).collect();
    // What this version has no word for is given out as it was written.
    let unknown: Vec<Value> = kitchen
        .unknown_events(piece.id)
        .await?
        .iter()
        .map(|e| json!({"what": e.kind, "at": e.at.to_string(), "body": read(&e.body)}))
        .collect();
    let record = json!({"name": piece.name, "cut": piece.cut, "serve_at": piece.serve_at.to_string(), "schema": piece.schema_no,
        "rules": piece.rules, "plan_version": piece.plan_version, "request": read(&piece.request), "plan": read(&piece.plan),
        "events": events, "unknown_events": unknown});
    let headers = [
        (header::CONTENT_TYPE, "application/json"),
        (header::CONTENT_DISPOSITION, "attachment; filename=\"piece.json\""),
        (header::CACHE_CONTROL, "no-store"),
    ];
    Ok((headers, record.to_string()).into_response())
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::Opened;
    use crate::piece::testing::opened;
    use rauchkeller_store::Refrigerator;

    #[test]
    fn a_plan_that_cannot_be_read_is_said_so_and_never_unsalted() {
        let now = "2026-12-11T15:00[Europe/Vienna]".parse().unwrap();
        let whole = opened(&[("salt", "2026-12-11T13:00:00Z")]).piece;
        for (version, plan, request) in [
            (2, String::new(), whole.request.clone()),
            (3, whole.plan[..whole.plan.len() / 2].to_owned(), whole.request.clone()),
            (4, "{}".into(), whole.request.clone()),
            (5, whole.plan.clone(), "[]".into()),
        ] {
            let piece = Piece { version, plan, request, ..whole.clone() };
            let unread = Opened::of(piece, Refrigerator::default(), None, &now).expect_err("it cannot be read");
            assert!(unread.line().starts_with(&whole.name) && unread.line().contains("Nothing of it is lost"), "{}", unread.line());
            assert!(!unread.why.is_empty() && unread.why.chars().count() <= 200 && unread.id == whole.id);
        }
        assert!(Opened::of(whole, Refrigerator::default(), None, &now).is_ok());
    }
}
