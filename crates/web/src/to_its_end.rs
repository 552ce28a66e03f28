//! A request runs to its end, whether or not its sender waits for the answer.
//!
//! The database driver must not be dropped in the middle of an exchange: the connection would go back to its pool one reply
//! late, and the next cook would read it. So every request is a task of its own; a sender that goes away leaves the task
//! alone, and so does the time limit. Long work that only answers is not begun any more once its sender has gone.
//!
//! A request takes its place once all of it has arrived. Places are counted by where requests come from, so that one address,
//! however much it sends, fills its own and no others.

use crate::asker::{Asker, Tap};
use crate::error::{Says, in_words};
use crate::heart::Heart;
use crate::place::Place;
use crate::seats::{Many, Seats};
use axum::extract::Request;
use axum::http::{Method, StatusCode};
use axum::middleware::Next;
use axum::response::Response;
use std::time::Duration;

/// How long a sender waits at most.
const PATIENCE: Duration = Duration::from_secs(10);
/// Requests at work, those given up included; beyond it answers would come too late anyway.
const AT_WORK: Many = Many { in_all: 1024, from_one: 128, always: 48 };

/// What the layer knows: who is at work, and whether the database answers.
#[derive(Debug, Clone)]
pub struct House {
    at_work: Seats,
    heart: Heart,
}

impl House {
    /// Nobody at work yet.
    pub fn new(heart: Heart) -> Self {
        Self { at_work: Seats::new(AT_WORK), heart }
    }
}

/// Whether nothing is lost where a request's work is not begun: it only looks, or what it opens nobody would walk through.
fn only_looks(request: &Request) -> bool {
    matches!(*request.method(), Method::GET | Method::HEAD) || ["/api/v1/plan", "/sign-in"].contains(&request.uri().path())
}

/// Whether a path is answered without the database.
fn needs_no_database(path: &str) -> bool {
    const WITHOUT: [&str; 6] = ["/assets/", "/health", "/api/v1/plan", "/api/v1/list/", "/api/v1/openapi.json", "/sign-"];
    WITHOUT.iter().any(|without| path.starts_with(without))
}

/// Runs what follows in a task of its own.
pub async fn to_its_end(house: &House, request: Request, next: Next) -> Response {
    let says = Says::to(request.uri().path());
    let Some(seat) = house.at_work.sit(Place::of_request(&request)) else {
        return in_words(StatusCode::SERVICE_UNAVAILABLE, Some("crowded"), says);
    };
    let away = house.heart.away_for(!needs_no_database(request.uri().path()));
    let (asker, waits) = Asker::tapping(Place::of_request(&request), only_looks(&request), Tap::of(request.headers()));
    let running = tokio::spawn(asker.clone().asks(async move {
        let response = next.run(request).await;
        drop(seat);
        response
    }));
    let response = tokio::select! {
        biased;
        done = running => match done {
            Ok(response) if asker.found_no_room() && response.status().is_server_error() => in_words(StatusCode::INSUFFICIENT_STORAGE, None, says),
            Ok(response) => response,
            Err(error) => {
                tracing::error!(%error, "request failed");
                in_words(StatusCode::INTERNAL_SERVER_ERROR, None, says)
            }
        },
        // Nobody is left to wait where the database has stopped answering.
        () = away => in_words(StatusCode::SERVICE_UNAVAILABLE, None, says),
        () = tokio::time::sleep(PATIENCE) => in_words(StatusCode::SERVICE_UNAVAILABLE, Some("slow"), says),
    };
    drop(waits);
    response
}
