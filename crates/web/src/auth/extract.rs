//! The extractor that is the authorisation: a handler that names it runs only for a signed-in cook.

use super::Session;
use crate::asker::Asker;
use crate::error::WebError;
use crate::state::AppState;
use axum::extract::FromRequestParts;
use axum::http::HeaderValue;
use axum::http::request::Parts;
use axum::response::{IntoResponse, Redirect, Response};
use jiff::ZonedDateTime;
use jiff::tz::TimeZone;
use rauchkeller_core::units::System;
use rauchkeller_store::{Cook, Kitchen};
use std::convert::Infallible;

/// A signed-in cook. Anybody else is sent to the door.
#[derive(Debug, Clone)]
pub struct SignedIn(pub Cook);

impl SignedIn {
    /// The rows of this cook's household, and no others.
    pub fn kitchen<'a>(&self, state: &'a AppState) -> Kitchen<'a> {
        state.store.kitchen(self.0.household)
    }

    /// The same cook looked up again: what this very request changed of home or refrigerator is seen then.
    pub async fn again(&self, state: &AppState) -> Result<Self, WebError> {
        Ok(Self(state.store.cook(self.0.id).await?.ok_or(WebError::NotFound)?))
    }

    /// The units this household thinks in; `None` until somebody said.
    pub fn system(&self) -> Option<System> {
        self.0.units.as_deref().and_then(System::find)
    }

    /// The page of the simulated scale that stands in the demo kitchen; a kitchen of its own is not shown what is none of its.
    pub fn demo_scale(&self, state: &AppState) -> Option<String> {
        state.settings.demo_scale.clone().filter(|_| state.settings.demo_cook.as_ref() == Some(&self.0.address))
    }

    /// The page of a simulated scale that can be paired here: the demo's own, or a spare one.
    pub fn simulated_scale(&self, state: &AppState) -> Option<String> {
        let settings = &state.settings;
        if settings.demo_cook.as_ref() == Some(&self.0.address) { settings.demo_scale.clone() } else { settings.spare_scale.clone() }
    }

    /// The moment in this household's zone.
    pub fn now(&self, state: &AppState) -> ZonedDateTime {
        state.now().to_zoned_datetime(TimeZone::get(&self.0.time_zone).unwrap_or(TimeZone::UTC))
    }
}

impl<S: Send + Sync> FromRequestParts<S> for SignedIn {
    type Rejection = Response;

    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, Response> {
        let session =
            Session::from_request_parts(parts, state).await.map_err(|(_, why)| WebError::Session(why.to_owned()).into_response())?;
        if let Some(user) = session.user {
            Asker::is_of(user.cook.household);
            touch(&session.session).await;
            let cook = Self(user.cook);
            Asker::thinks_in(cook.system());
            return Ok(cook);
        }
        // htmx follows a redirect inside the fragment; this header moves the whole page instead.
        let mut response = Redirect::to("/sign-in").into_response();
        if parts.headers.contains_key("HX-Request") {
            response = axum::http::StatusCode::UNAUTHORIZED.into_response();
            response.headers_mut().insert("HX-Redirect", HeaderValue::from_static("/sign-in"));
        }
        Err(response)
    }
}

/// Name of the day a session was last used, in the session.
const USED_ON: &str = "used-on";

/// Once a day a session in use is written anew, and so goes on: none ends while somebody cooks.
async fn touch(session: &axum_login::tower_sessions::Session) {
    let today = jiff::Timestamp::now().as_second() / 86_400;
    let last: Option<i64> = session.get(USED_ON).await.ok().flatten();
    if last != Some(today)
        && let Err(error) = session.insert(USED_ON, today).await
    {
        tracing::warn!(%error, "session not touched");
    }
}

/// A cook, if one is signed in.
pub struct MaybeCook(pub Option<Cook>);

impl<S: Send + Sync> FromRequestParts<S> for MaybeCook {
    type Rejection = Infallible;

    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, Infallible> {
        let session = Session::from_request_parts(parts, state).await.ok();
        let cook = session.and_then(|s| s.user).map(|u| u.cook);
        if let Some(cook) = &cook {
            Asker::is_of(cook.household);
            Asker::thinks_in(cook.units.as_deref().and_then(System::find));
        }
        Ok(Self(cook))
    }
}
