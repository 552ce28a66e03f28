//! Failures as pages: in words, and never more than the cook needs.

use crate::shell::render;
use askama::Template;
use axum::http::{HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Response};
use rauchkeller_store::StoreError;

/// Why a page cannot be shown.
#[derive(Debug, thiserror::Error)]
pub enum WebError {
    /// The database or what it holds.
    #[error(transparent)]
    Store(#[from] StoreError),
    /// A template; never the cook's doing.
    #[error(transparent)]
    Template(#[from] askama::Error),
    /// A stored plan that cannot be read.
    #[error("stored plan: {0}")]
    StoredPlan(#[from] serde_json::Error),
    /// Nothing at this address.
    #[error("not here")]
    NotFound,
    /// A page for the printer; never the cook's doing.
    #[error(transparent)]
    Print(#[from] crate::print::PrintError),
    /// The session could not be read or written.
    #[error("session: {0}")]
    Session(String),
}

#[derive(Template)]
#[template(path = "shell/failure.html")]
struct Failure {
    title: &'static str,
    text: &'static str,
    retry: bool,
}

/// A page that says what is wrong and what to do. A page about the database being away asks the
/// browser to try again by itself.
pub fn failure_page(status: StatusCode) -> Response {
    let failure = match status {
        StatusCode::SERVICE_UNAVAILABLE => Failure {
            title: "The book is shut for a moment",
            text: "The database does not answer. What was ticked is safe. This page tries again by itself.",
            retry: true,
        },
        StatusCode::NOT_FOUND => Failure {
            title: "Nothing hangs here",
            text: "This piece is not in your kitchen, or the address has a slip in it.",
            retry: false,
        },
        StatusCode::PAYLOAD_TOO_LARGE => {
            Failure { title: "Too much at once", text: "What was sent is larger than this kitchen takes: 64 KB.", retry: false }
        }
        StatusCode::FORBIDDEN => Failure {
            title: "Sent from another page",
            text: "This form did not come from this site, so it was refused. Open the page again and repeat it.",
            retry: false,
        },
        StatusCode::TOO_MANY_REQUESTS => {
            Failure { title: "Slowly", text: "Too many requests in a moment. Wait a few seconds and go on.", retry: false }
        }
        _ => Failure {
            title: "That went wrong on our side",
            text: "It was noted. Nothing you typed was half-stored; go back and try again.",
            retry: false,
        },
    };
    let body = render(&failure).unwrap_or_else(|_| failure.title.into_response());
    let mut response = (status, body).into_response();
    if failure.retry {
        response.headers_mut().insert(header::RETRY_AFTER, HeaderValue::from_static("3"));
    }
    response
}

impl WebError {
    /// The status that says whose turn it is.
    pub fn status(&self) -> StatusCode {
        match self {
            Self::Store(StoreError::Away(_)) => StatusCode::SERVICE_UNAVAILABLE,
            Self::Store(StoreError::NotFound) | Self::NotFound => StatusCode::NOT_FOUND,
            Self::Store(StoreError::Conflict | StoreError::AddressTaken) => StatusCode::CONFLICT,
            _ => StatusCode::INTERNAL_SERVER_ERROR,
        }
    }
}

impl IntoResponse for WebError {
    fn into_response(self) -> Response {
        let status = self.status();
        if status.is_server_error() {
            tracing::error!(error = %self, "request failed");
        }
        failure_page(status)
    }
}
