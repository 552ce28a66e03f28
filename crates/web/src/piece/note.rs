//! Noting what happened.

use super::Opened;
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::state::AppState;
use jiff::Timestamp;
use rauchkeller_core::run::{Event, EventId, What};
use rauchkeller_store::{Appended, PieceId};
use uuid::Uuid;

/// Something that happened at a moment, noted now.
pub fn event(at: Timestamp, now: Timestamp, what: What) -> Event {
    Event::new(EventId(Uuid::now_v7().as_u128()), at, now, what)
}

/// Adds events to a piece. What a page makes is always new and names what it saw: what is refused is a piece that is full.
pub async fn append(state: &AppState, cook: &SignedIn, piece: PieceId, events: &[Event]) -> Result<(), WebError> {
    if events.is_empty() {
        return Ok(());
    }
    match cook.kitchen(state).append(piece, events, Some(cook.0.id), None).await? {
        Appended::Full => Err(WebError::Full),
        _ => Ok(()),
    }
}

/// Notes one thing that happened now.
pub async fn note(state: &AppState, cook: &SignedIn, opened: &Opened, what: What) -> Result<(), WebError> {
    let now = state.now();
    append(state, cook, opened.piece.id, &[event(now, now, what)]).await
}
