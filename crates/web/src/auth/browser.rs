//! The browser a cook is known from: a cookie of its own that outlives sessions, so that others who guess at an address do
//! not shut its cook out.

use crate::place::Place;
use crate::state::AppState;
use axum::extract::FromRequestParts;
use axum::http::request::Parts;
use axum::http::{HeaderValue, header};
use axum::response::Response;
use axum_login::tower_sessions::cookie::{Cookie, SameSite, time::Duration};
use std::convert::Infallible;
use uuid::Uuid;

/// How long it is remembered; browsers keep no cookie longer.
const DAYS: i64 = 400;

/// Where a request comes from.
#[derive(Debug, Clone, Default)]
pub struct Visitor {
    /// The browser's own token, where it was signed in before.
    pub token: Option<String>,
    /// Its place on the net.
    pub place: String,
}

fn cookie_name(state: &AppState) -> &'static str {
    if state.settings.is_secure() { "__Host-rauchkeller-known" } else { "rauchkeller-known" }
}

impl FromRequestParts<AppState> for Visitor {
    type Rejection = Infallible;

    async fn from_request_parts(parts: &mut Parts, state: &AppState) -> Result<Self, Infallible> {
        let said = parts.headers.get_all(header::COOKIE).iter().filter_map(|value| value.to_str().ok());
        let token = said
            .flat_map(|text| Cookie::split_parse(text.to_owned()).collect::<Vec<_>>())
            .flatten()
            .find(|cookie| cookie.name() == cookie_name(state))
            .map(|cookie| cookie.value().to_owned());
        let place = parts.extensions.get::<Place>().copied().unwrap_or_default().to_string();
        Ok(Self { token, place })
    }
}

/// A new token for this browser.
pub fn new_token() -> String {
    format!("{}{}", Uuid::new_v4().simple(), Uuid::new_v4().simple())
}

/// Gives the browser its token.
pub fn remember(state: &AppState, token: &str, response: &mut Response) {
    let cookie = Cookie::build((cookie_name(state), token.to_owned()))
        .path("/")
        .http_only(true)
        .secure(state.settings.is_secure())
        .same_site(SameSite::Lax)
        .max_age(Duration::days(DAYS))
        .build();
    if let Ok(value) = HeaderValue::from_str(&cookie.to_string()) {
        response.headers_mut().append(header::SET_COOKIE, value);
    }
}
