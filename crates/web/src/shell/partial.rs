//! Whether htmx asks for a fragment.

use axum::extract::FromRequestParts;
use axum::http::request::Parts;
use std::convert::Infallible;

/// True when the answer should be a fragment; a fragment goes out only when htmx said so itself.
#[derive(Debug, Clone, Copy)]
pub struct Partial(pub bool);

impl<S: Send + Sync> FromRequestParts<S> for Partial {
    type Rejection = Infallible;

    async fn from_request_parts(parts: &mut Parts, _: &S) -> Result<Self, Infallible> {
        Ok(Self(parts.headers.get("HX-Request-Type").is_some_and(|kind| kind == "partial")))
    }
}
