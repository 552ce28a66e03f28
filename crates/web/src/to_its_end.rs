//! A request runs to its end, whether or not its sender waits for the answer.
//!
//! The database driver must not be dropped in the middle of an exchange: the connection would go back to its pool one reply
//! late, and the next cook would read it. So every request is a task of its own; a sender that goes away leaves the task
//! alone, and so does the time limit.

use crate::error::{Says, in_words};
use axum::extract::{Request, State};
use axum::http::StatusCode;
use axum::middleware::Next;
use axum::response::Response;
use std::sync::Arc;
use std::time::Duration;
use tokio::sync::Semaphore;

/// How long a sender waits at most.
const PATIENCE: Duration = Duration::from_secs(10);

/// Requests at work at once, those given up included.
#[derive(Debug, Clone)]
pub struct AtWork(Arc<Semaphore>);

impl Default for AtWork {
    /// Far more than two cores serve in ten seconds; beyond it answers would come too late anyway.
    fn default() -> Self {
        Self(Arc::new(Semaphore::new(1024)))
    }
}

/// Runs what follows in a task of its own.
pub async fn to_its_end(State(at_work): State<AtWork>, request: Request, next: Next) -> Response {
    let says = Says::to(request.uri().path());
    let Ok(place) = at_work.0.try_acquire_owned() else {
        return in_words(StatusCode::SERVICE_UNAVAILABLE, Some("crowded"), says);
    };
    let running = tokio::spawn(async move {
        let response = next.run(request).await;
        drop(place);
        response
    });
    match tokio::time::timeout(PATIENCE, running).await {
        Ok(Ok(response)) => response,
        Ok(Err(error)) => {
            tracing::error!(%error, "request failed");
            in_words(StatusCode::INTERNAL_SERVER_ERROR, None, says)
        }
        Err(_) => in_words(StatusCode::SERVICE_UNAVAILABLE, Some("slow"), says),
    }
}
