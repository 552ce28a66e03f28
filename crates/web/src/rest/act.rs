//! Taking a note back, and putting it in again.

use super::learn::learn;
use super::{RestQuery, after};
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::piece::piece_id;
use crate::shell::Partial;
use crate::state::AppState;
use axum::extract::{Path, State};
use axum::response::Response;
use jiff::Timestamp;
use rauchkeller_store::{NoteId, WeighInId};
use uuid::Uuid;

/// Takes a weighing, a touch check or a change of salt back.
pub async fn forget(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path((id, kind, which)): Path<(String, String, String)>,
) -> Result<Response, WebError> {
    set_deleted(&state, &cook, &id, &kind, &which, Some(state.now())).await?;
    after(&state, &cook, partial, &id, RestQuery { removed: kind, id: which, ..RestQuery::default() }).await
}

/// Puts it in again.
pub async fn remember(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path((id, kind, which)): Path<(String, String, String)>,
) -> Result<Response, WebError> {
    set_deleted(&state, &cook, &id, &kind, &which, None).await?;
    after(&state, &cook, partial, &id, RestQuery::default()).await
}

async fn set_deleted(state: &AppState, cook: &SignedIn, id: &str, kind: &str, which: &str, at: Option<Timestamp>) -> Result<(), WebError> {
    let (piece, which) = (piece_id(id)?, Uuid::parse_str(which).map_err(|_| WebError::NotFound)?);
    let kitchen = cook.kitchen(state);
    match kind {
        "weighed" => kitchen.set_weigh_in_deleted(piece, WeighInId(which), at).await?,
        "felt" => kitchen.set_touch_deleted(piece, NoteId(which), at).await?,
        "salt" => kitchen.set_salt_change_deleted(piece, NoteId(which), at).await?,
        _ => return Err(WebError::NotFound),
    }
    learn(state, cook).await
}
