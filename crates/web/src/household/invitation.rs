//! Inviting another cook: a link that opens once, for a week.

use super::HouseholdPage;
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::shell::render;
use crate::state::AppState;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Redirect, Response};
use uuid::Uuid;

/// Makes an invitation and shows its link, this once: only the hash of what is in it is kept.
pub async fn invite(State(state): State<AppState>, cook: SignedIn) -> Result<Response, WebError> {
    let token = format!("{}{}", Uuid::new_v4().simple(), Uuid::new_v4().simple());
    let made = cook.kitchen(&state).invite(cook.0.id, &token, state.now()).await?;
    let mut page = HouseholdPage::of(&state, &cook).await?;
    if made.is_none() {
        page.wrong = Some("Twenty invitations wait already. Take one back first.".into());
        return Ok((StatusCode::CONFLICT, render(&page)?).into_response());
    }
    // Only what was said at the start is believed of where this server is reached, never what a request says of it; where nothing
    // was said, the browser puts its own address before it.
    let origin = state.settings.public_url.as_deref().unwrap_or_default();
    page.link = Some(format!("{}/join/{token}", origin.trim_end_matches('/')));
    render(&page)
}

/// Takes one back: its link opens nothing any more.
pub async fn take_back(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    let id = Uuid::parse_str(&id).map_err(|_| WebError::NotFound)?;
    cook.kitchen(&state).take_invitation_back(id, state.now()).await?;
    Ok(Redirect::to("/household#cooks").into_response())
}
