//! Taking a note back, and putting it in again.

use super::learn::learn;
use super::{ChillQuery, after};
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::piece::{append, event, piece_id};
use crate::shell::Partial;
use crate::state::AppState;
use axum::extract::{Path, State};
use axum::response::Response;
use rauchkeller_core::run::{Event, EventId, What, live};
use std::collections::HashSet;
use uuid::Uuid;

/// Takes a weighing, a touch check or a change of salt back.
pub async fn delete(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path((id, kind, which)): Path<(String, String, String)>,
) -> Result<Response, WebError> {
    take_back(&state, &cook, &id, &which, true).await?;
    after(&state, &cook, partial, &id, ChillQuery { removed: kind, id: which, ..ChillQuery::default() }).await
}

/// Puts it in again.
pub async fn restore(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path((id, _, which)): Path<(String, String, String)>,
) -> Result<Response, WebError> {
    take_back(&state, &cook, &id, &which, false).await?;
    after(&state, &cook, partial, &id, ChillQuery::default()).await
}

/// Voids a note, or voids what voided it.
async fn take_back(state: &AppState, cook: &SignedIn, id: &str, which: &str, back: bool) -> Result<(), WebError> {
    let which = EventId(Uuid::parse_str(which).map_err(|_| WebError::NotFound)?.as_u128());
    let piece = piece_id(id)?;
    let events = cook.kitchen(state).events(piece).await?;
    let noted = events.iter().find(|e| e.id == which).ok_or(WebError::NotFound)?;
    if !matches!(
        noted.what,
        What::Weighed { .. } | What::Felt(_) | What::SaltOn { task: None, .. } | What::SaltOff { .. } | What::ActualSalt { .. }
    ) {
        return Err(WebError::NotFound);
    }
    let counts: HashSet<EventId> = live(&events).iter().map(|e| e.id).collect();
    if counts.contains(&which) != back {
        // Taken back already, or there already.
        return Ok(());
    }
    let of = |e: &Event| if back { e.id == which } else { matches!(e.what, What::Voided(of) if of == which) && counts.contains(&e.id) };
    let now = state.now();
    let voids: Vec<Event> = events.iter().filter(|e| of(e)).map(|e| event(now, now, What::Voided(e.id))).collect();
    append(state, cook, piece, &voids).await?;
    learn(state, cook).await
}
