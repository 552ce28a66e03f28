//! Noting what happened.

use super::Opened;
use crate::asker::Asker;
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::state::AppState;
use jiff::Timestamp;
use rauchkeller_core::run::{Event, EventId, What};
use rauchkeller_store::{Appended, PieceId, StoreError};
use uuid::Uuid;

/// Something that happened at a moment, noted now.
pub fn event(at: Timestamp, now: Timestamp, what: What) -> Event {
    Event::new(EventId(Uuid::now_v7().as_u128()), at, now, what)
}

/// The moment of the tap that is being answered: now, or earlier where the page could not deliver it then.
pub fn tapped(now: Timestamp) -> Timestamp {
    now.checked_sub(Asker::now().tapped_ago()).unwrap_or(now)
}

/// Adds events to a piece. What a page makes is always new and names what it saw: what is refused is a piece that is full. A tap
/// that is sent again because its answer was lost is known by the id the page gave it, and notes nothing twice.
pub async fn append(state: &AppState, cook: &SignedIn, piece: PieceId, events: &[Event]) -> Result<(), WebError> {
    let (kitchen, asker) = (cook.kitchen(state), Asker::now());
    let mut events = events.to_vec();
    let Some(first) = events.first_mut() else { return Ok(()) };
    if let Some(id) = asker.take_tap().map(|id| EventId(id.as_u128())) {
        if !asker.tap().ago.is_zero() && kitchen.has_event(piece, id).await? {
            return Ok(());
        }
        first.id = id;
    }
    match kitchen.append(piece, &events, Some(cook.0.id), None).await? {
        Appended::Full => Err(WebError::Full),
        Appended::Done { .. } => Ok(()),
        // What a page makes is its own and names what is there: somebody else's id was sent along.
        Appended::Clash(_) | Appended::NamesNothing(_) | Appended::Changed => Err(WebError::Store(StoreError::Conflict)),
    }
}

/// Notes one thing that happened now.
pub async fn note(state: &AppState, cook: &SignedIn, opened: &Opened, what: What) -> Result<(), WebError> {
    let now = state.now();
    append(state, cook, opened.piece.id, &[event(tapped(now), now, what)]).await
}
