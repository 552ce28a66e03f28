//! A cook at the chill page of one piece: whatever is noted there goes one way.

use super::learn::learn;
use super::{ChillQuery, Refused, after, show};
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::kit::form_key;
use crate::piece::{Opened, event, open};
use crate::shell::Partial;
use crate::state::AppState;
use axum::response::Response;
use jiff::Timestamp;
use rauchkeller_core::run::{Event, EventId, What};
use rauchkeller_store::Appended;
use std::collections::BTreeMap;
use uuid::Uuid;

/// Looks at a piece so many times until nobody else changes it meanwhile.
const LOOKS: usize = 12;

/// Something that was said of a piece.
pub(super) struct Noted {
    pub what: What,
    /// The moment it holds from.
    pub at: Timestamp,
    /// What was noted earlier and no longer counts, because this puts it right.
    pub instead: Option<EventId>,
}

impl From<(What, Timestamp)> for Noted {
    fn from((what, at): (What, Timestamp)) -> Self {
        Self { what, at, instead: None }
    }
}

/// What was said; else what is wrong with it.
pub(super) type Said = Result<Noted, Refused>;

/// Who stands at which piece, and the hour looked at.
pub(super) struct Here {
    pub state: AppState,
    pub cook: SignedIn,
    pub partial: Partial,
    pub id: String,
    pub query: ChillQuery,
}

impl Here {
    /// Notes what `read` makes of the piece as it stands, under the key of its form: the same form sent again notes nothing
    /// new. What is said is held against what is on the piece, so where another cook's note came first it is read again.
    pub async fn note<F, Fut>(&self, key: &str, read: F) -> Result<Response, WebError>
    where
        F: Fn(Opened) -> Fut,
        Fut: Future<Output = Result<Said, WebError>>,
    {
        let id = EventId(Uuid::parse_str(&form_key(key)).unwrap_or_else(|_| Uuid::now_v7()).as_u128());
        for _ in 0..LOOKS {
            let opened = open(&self.state, &self.cook, &self.id).await?;
            // Sent before: it stands as it was noted then, whatever is different in it now.
            if self.cook.kitchen(&self.state).has_event(opened.piece.id, id).await? {
                return self.done().await;
            }
            let (piece, seen) = (opened.piece.id, opened.piece.version);
            let Noted { what, at, instead } = match read(opened).await? {
                Ok(said) => said,
                Err(refused) => return self.refuse(refused).await,
            };
            let now = self.state.now();
            let mut events = vec![Event::new(id, kept(at), now, what)];
            events.extend(instead.map(|earlier| event(now, now, What::Voided(earlier))));
            match self.cook.kitchen(&self.state).append(piece, &events, Some(self.cook.0.id), Some(seen)).await? {
                Appended::Full => return self.refuse(Refused::said("This piece is full of notes; more are not kept.")).await,
                Appended::Changed => {}
                _ => {
                    learn(&self.state, &self.cook).await?;
                    return self.done().await;
                }
            }
        }
        Err(WebError::Busy)
    }

    /// The page again with what was typed and what is wrong with it.
    pub async fn refuse(&self, refused: Refused) -> Result<Response, WebError> {
        show(&self.state, &self.cook, self.partial, &self.id, self.query.clone(), refused).await
    }

    /// The page with what was noted.
    pub async fn done(&self) -> Result<Response, WebError> {
        after(&self.state, &self.cook, self.partial, &self.id, self.query.clone()).await
    }
}

impl Refused {
    /// Refused as a whole, in a sentence above everything.
    pub(super) fn said(sentence: impl Into<String>) -> Self {
        Self { said: Some(sentence.into()), ..Self::default() }
    }

    /// Refused for one field.
    pub(super) fn at(field: &'static str, slip: impl Into<String>) -> Self {
        Self { slips: BTreeMap::from([(field, slip.into())]), ..Self::default() }
    }
}

/// Whole microseconds, as the database keeps them.
fn kept(at: Timestamp) -> Timestamp {
    at.round(jiff::Unit::Microsecond).unwrap_or(at)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_moment_is_kept_as_the_database_keeps_it() {
        let at: Timestamp = "2026-12-11T08:00:00.123456789Z".parse().unwrap();
        assert_eq!(kept(at).to_string(), "2026-12-11T08:00:00.123457Z");
        assert_eq!(kept(kept(at)), kept(at));
    }

    #[test]
    fn a_refusal_says_one_thing_in_one_place() {
        let (whole, one) = (Refused::said("full"), Refused::at("salt", "no weight"));
        assert_eq!((whole.said.as_deref(), whole.slips.len()), (Some("full"), 0));
        assert_eq!((one.said, one.slips.get("salt").map(String::as_str)), (None, Some("no weight")));
    }
}
