//! Failures as pages: in words, and never more than the cook needs.

use crate::shell::render;
use askama::Template;
use axum::http::{HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Response};
use rauchkeller_contract::{Problem, Problems};
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
    /// What a piece was asked with cannot be read.
    #[error("stored request: {0}")]
    StoredRequest(#[from] serde_json::Error),
    /// Said already, in a page of its own.
    #[error("said in a page of its own")]
    Said(Box<Response>),
    /// Nothing at this address.
    #[error("not here")]
    NotFound,
    /// A page for the printer; never the cook's doing.
    #[error(transparent)]
    Print(#[from] crate::print::PrintError),
    /// A piece holds no more notes.
    #[error("this piece is full of notes")]
    Full,
    /// More is asked than can be computed just now.
    #[error("too many computations at once")]
    Busy,
    /// Nobody waits for the answer any more.
    #[error("whoever asked has gone")]
    Gone,
    /// The session could not be read or written.
    #[error("session: {0}")]
    Session(String),
}

#[derive(Template)]
#[template(path = "shell/failure.html")]
struct Failure {
    title: &'static str,
    /// For programs.
    allowed: &'static str,
    text: &'static str,
    retry: bool,
}

/// What a page does by itself and a program has to.
const AWAY: &str = "The database does not answer. What was ticked is safe. This page tries again by itself.";
const AWAY_FOR_PROGRAMS: &str = "The database does not answer. What was answered is safe; send the same again later.";

/// Who is answered: a cook with a page, a program with problems in JSON.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Says {
    /// A page.
    Page,
    /// JSON.
    Json,
}

impl Says {
    /// Who asks at this path.
    pub fn to(path: &str) -> Self {
        if path.starts_with("/api/") || path == "/health" { Self::Json } else { Self::Page }
    }
}

/// A refusal in words, as a page or as problems. `why` tells apart what shares a status: `crowded`, `slow`, `full`.
pub fn in_words(status: StatusCode, why: Option<&str>, says: Says) -> Response {
    let failure = failure(status, why);
    let mut response = match says {
        Says::Page => {
            let body = render(&failure).unwrap_or_else(|_| failure.title.into_response());
            (status, body).into_response()
        }
        Says::Json => {
            let text = if failure.text == AWAY { AWAY_FOR_PROGRAMS } else { failure.text };
            let problem = Problem::new("request", failure.title, failure.allowed, text);
            (status, axum::Json(Problems { problems: vec![problem] })).into_response()
        }
    };
    if failure.retry {
        response.headers_mut().insert(header::RETRY_AFTER, HeaderValue::from_static("3"));
    }
    response
}

/// A page that says what is wrong and what to do. A page about the database being away asks the
/// browser to try again by itself.
pub fn failure_page(status: StatusCode) -> Response {
    in_words(status, None, Says::Page)
}

fn failure(status: StatusCode, why: Option<&str>) -> Failure {
    let says = |title, allowed, text| Failure { title, allowed, text, retry: false };
    match (status, why) {
        (StatusCode::SERVICE_UNAVAILABLE, Some("crowded")) => Failure {
            title: "Too many at the bench",
            allowed: "fewer requests at once",
            text: "More is asked than can be worked out just now. Nothing was changed; send it again in a moment.",
            retry: true,
        },
        (StatusCode::SERVICE_UNAVAILABLE, Some("contended")) => Failure {
            title: "Many hands at once",
            allowed: "one change at a time",
            text: "This was being changed by others all the while, and nothing of yours was written. Send it again.",
            retry: true,
        },
        (StatusCode::SERVICE_UNAVAILABLE, Some("slow")) => Failure {
            title: "That took too long",
            allowed: "an answer within ten seconds",
            text: "The answer did not come within ten seconds. What was sent may have been kept: look before you send it again.",
            retry: true,
        },
        (StatusCode::SERVICE_UNAVAILABLE, _) => {
            Failure { title: "The book is shut for a moment", allowed: "a database that answers", text: AWAY, retry: true }
        }
        (StatusCode::INSUFFICIENT_STORAGE, _) => says(
            "The book is full",
            "a database with room",
            "The database has no room left, so nothing was written. Whoever keeps this server has to make room on its disk; then send it again.",
        ),
        (StatusCode::CONFLICT, Some("full")) => says(
            "No more notes on this piece",
            "at most 5000 notes a piece",
            "This piece has as many notes as it can hold. Ticks, what takes something back, and how it was still go in; nothing else was noted.",
        ),

        (StatusCode::BAD_REQUEST, _) => says(
            "That could not be read",
            "each field once, numbers where numbers belong",
            "Something in the address or the form cannot be read: a field that stands twice, or a word where a number belongs. Go back and send it from the page.",
        ),
        (StatusCode::NOT_FOUND, _) => {
            says("Nothing hangs here", "an address of this kitchen", "This piece is not in your kitchen, or the address has a slip in it.")
        }
        (StatusCode::METHOD_NOT_ALLOWED, _) => says(
            "Not in that way",
            "another method at this address",
            "This address is there, but it is not asked like that. Go back and use the page’s own buttons.",
        ),
        (StatusCode::REQUEST_TIMEOUT, _) => says(
            "It stopped half-way",
            "a request that arrives whole",
            "What was sent broke off half-way, and nothing of it was kept. Send it again.",
        ),
        (StatusCode::PAYLOAD_TOO_LARGE, _) => {
            says("Too much at once", "at most 64 KB", "What was sent is larger than this kitchen takes: 64 KB.")
        }
        (StatusCode::UNSUPPORTED_MEDIA_TYPE, _) => says(
            "Not in that form",
            "a form of this site; JSON at the API",
            "What was sent is not a form of this site. Go back and send it from the page.",
        ),
        (StatusCode::UNPROCESSABLE_ENTITY, _) => says(
            "That could not be read",
            "the fields of the page",
            "A field of the form is missing, or holds something that cannot be read. Go back and send it from the page.",
        ),
        (StatusCode::FORBIDDEN, _) => says(
            "Sent from another page",
            "a form of this site",
            "This form did not come from this site, so it was refused. Open the page again and repeat it.",
        ),
        (StatusCode::TOO_MANY_REQUESTS, _) => {
            says("Slowly", "fewer requests a second", "Too many requests in a moment. Wait a few seconds and go on.")
        }
        _ => says("That went wrong on our side", "any request", "It was noted. Nothing you typed was half-stored; go back and try again."),
    }
}

impl WebError {
    /// The status that says whose turn it is.
    pub fn status(&self) -> StatusCode {
        match self {
            Self::Store(StoreError::Away(_) | StoreError::Contended) | Self::Busy | Self::Gone => StatusCode::SERVICE_UNAVAILABLE,
            Self::Store(StoreError::NoRoom) => StatusCode::INSUFFICIENT_STORAGE,
            Self::Store(StoreError::NotFound) | Self::NotFound => StatusCode::NOT_FOUND,
            Self::Store(StoreError::Conflict | StoreError::AddressTaken) | Self::Full => StatusCode::CONFLICT,
            _ => StatusCode::INTERNAL_SERVER_ERROR,
        }
    }
}

impl IntoResponse for WebError {
    fn into_response(self) -> Response {
        self.said_to(Says::Page)
    }
}

impl WebError {
    /// The same said to a program.
    pub fn for_a_program(self) -> Response {
        self.said_to(Says::Json)
    }

    fn said_to(self, says: Says) -> Response {
        if let Self::Said(page) = self {
            return *page;
        }
        let status = self.status();
        if status.is_server_error() && !matches!(self, Self::Gone) {
            tracing::error!(error = %self, "request failed");
        }
        let why = match self {
            Self::Busy | Self::Gone => Some("crowded"),
            Self::Full => Some("full"),
            Self::Store(StoreError::Contended) => Some("contended"),
            _ => None,
        };
        in_words(status, why, says)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    async fn body(response: Response) -> String {
        let bytes = axum::body::to_bytes(response.into_body(), 1 << 20).await.unwrap();
        String::from_utf8(bytes.to_vec()).unwrap()
    }

    /// Every status that a layer or a handler answers with.
    const REFUSED: [u16; 12] = [400, 403, 404, 405, 408, 413, 415, 422, 429, 500, 503, 507];

    #[tokio::test]
    async fn every_refusal_has_words_for_a_cook_and_for_a_program() {
        let mut titles = Vec::new();
        for code in REFUSED {
            let status = StatusCode::from_u16(code).unwrap();
            let page = in_words(status, None, Says::Page);
            assert_eq!(page.status(), status);
            let page = body(page).await;
            let said = in_words(status, None, Says::Json);
            assert_eq!((said.status(), said.headers()[header::CONTENT_TYPE].to_str().unwrap()), (status, "application/json"));
            let json: serde_json::Value = serde_json::from_str(&body(said).await).unwrap();
            let problem = &json["problems"][0];
            let (typed, allowed) = (problem["typed"].as_str().unwrap(), problem["allowed"].as_str().unwrap());
            assert!(page.contains("<h1") && page.contains(typed) && !allowed.is_empty(), "{code}: {json}");
            assert!(!page.contains("panic") && !page.contains("sqlx"), "nothing of the house shows");
            titles.push(typed.to_owned());
        }
        titles.sort_unstable();
        titles.dedup();
        // What cannot be read is said alike of a form and of an address.
        assert_eq!(titles.len(), REFUSED.len() - 1, "each says its own: {titles:?}");
    }

    #[tokio::test]
    async fn a_program_is_not_told_that_its_page_tries_again() {
        let said = |says| async move { body(in_words(StatusCode::SERVICE_UNAVAILABLE, None, says)).await };
        assert!(said(Says::Page).await.contains("tries again by itself"));
        let json = said(Says::Json).await;
        assert!(json.contains("send the same again later") && !json.contains("page"), "{json}");
    }

    #[test]
    fn what_passes_by_itself_asks_to_be_tried_again() {
        let again = |status, why| in_words(status, why, Says::Page).headers().contains_key(header::RETRY_AFTER);
        for why in [None, Some("crowded"), Some("slow"), Some("contended")] {
            assert!(again(StatusCode::SERVICE_UNAVAILABLE, why), "{why:?}");
        }
        assert!(!again(StatusCode::NOT_FOUND, None) && !again(StatusCode::INTERNAL_SERVER_ERROR, None));
    }

    #[test]
    fn a_cooks_slip_is_never_the_servers_fault() {
        let code = |error: WebError| error.status().as_u16();
        assert_eq!(code(WebError::Store(StoreError::NotFound)), 404);
        assert_eq!(code(WebError::Store(StoreError::Conflict)), 409);
        assert_eq!(code(WebError::Store(StoreError::AddressTaken)), 409);
        assert_eq!(code(WebError::Store(StoreError::Away("gone".into()))), 503);
        assert_eq!((code(WebError::Busy), code(WebError::NotFound), code(WebError::Full)), (503, 404, 409));
        assert_eq!((code(WebError::Store(StoreError::Contended)), code(WebError::Store(StoreError::NoRoom))), (503, 507));
        assert!(Says::to("/api/v1/plan") == Says::Json && Says::to("/health") == Says::Json && Says::to("/bench") == Says::Page);
    }
}
