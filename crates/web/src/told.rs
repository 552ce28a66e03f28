//! What somebody else did is on every open page within seconds, by name: each server asks which counters of the database moved,
//! once a second and whatever number of pages is open; pages hold a stream on which they are told.

use crate::auth::SignedIn;
use crate::error::WebError;
use crate::heart::{BEAT, Heart};
use crate::state::AppState;
use axum::extract::State;
use axum::response::sse::{Event, KeepAlive, Sse};
use axum::response::{IntoResponse, Response};
use rauchkeller_store::{HouseholdId, Kitchen, Store, Told};
use serde_json::json;
use std::collections::HashMap;
use std::convert::Infallible;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::Duration;
use tokio::sync::watch;
use uuid::Uuid;

/// How often a server asks.
const EACH: Duration = Duration::from_secs(1);
/// A stream that has nothing to say says so, lest somebody between takes it for dead.
const STILL_HERE: Duration = Duration::from_secs(15);
/// Streams of one household; a page beyond them hears of changes when it is opened anew.
const MOST: usize = 64;

/// Households that are listened for, and whether the server is closing.
#[derive(Debug, Clone)]
pub struct Bells(Arc<Inner>);

#[derive(Debug)]
struct Inner {
    rung: Mutex<HashMap<HouseholdId, watch::Sender<u64>>>,
    closing: watch::Sender<bool>,
}

impl Default for Bells {
    fn default() -> Self {
        Self(Arc::new(Inner { rung: Mutex::default(), closing: watch::Sender::new(false) }))
    }
}

impl Bells {
    fn locked(&self) -> MutexGuard<'_, HashMap<HouseholdId, watch::Sender<u64>>> {
        self.0.rung.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Listens for a household; `None` where as many listen as may.
    fn listen(&self, home: HouseholdId) -> Option<watch::Receiver<u64>> {
        let mut all = self.locked();
        all.retain(|_, bell| bell.receiver_count() > 0);
        let bell = all.entry(home).or_default();
        (bell.receiver_count() < MOST).then(|| bell.subscribe())
    }

    /// Tells whoever listens for a household.
    fn ring(&self, home: HouseholdId) {
        if let Some(bell) = self.locked().get(&home) {
            bell.send_modify(|rung| *rung += 1);
        }
    }

    /// Ends every stream: the server closes.
    pub fn close(&self) {
        self.0.closing.send_replace(true);
    }
}

/// Asks once a second which counters moved, and whether the database answers at all, until the process ends.
pub async fn watch_changes(store: Store, bells: Bells, heart: Heart) {
    let mut seen: Option<HashMap<(HouseholdId, Uuid), i64>> = None;
    let mut ticks = tokio::time::interval(EACH);
    ticks.set_missed_tick_behavior(tokio::time::MissedTickBehavior::Delay);
    loop {
        ticks.tick().await;
        // A task of its own: the question may not be dropped half-way.
        let asked = store.clone();
        let asked = tokio::spawn(async move { asked.changes().await });
        let moved = match tokio::time::timeout(BEAT, asked).await {
            Ok(Ok(Ok(moved))) => moved,
            Ok(Ok(Err(error))) => {
                tracing::debug!(%error, "which counters moved is not known");
                heart.says(!matches!(error, rauchkeller_store::StoreError::Away(_)) || seen.is_none());
                continue;
            }
            _ => {
                heart.says(seen.is_none());
                continue;
            }
        };
        heart.says(true);
        let now: HashMap<_, _> = moved.iter().map(|c| ((c.household, c.server), c.changes)).collect();
        if let Some(before) = &seen {
            for ((home, _), _) in now.iter().filter(|(of, changes)| before.get(of).is_none_or(|was| was < *changes)) {
                bells.ring(*home);
            }
        }
        seen = Some(now);
    }
}

/// What one change is told as: who, and what in a cook's words.
fn words(told: &Told) -> String {
    let who = told.name.as_deref().unwrap_or("A program of yours");
    let did = match told.kind.as_str() {
        "task-began" | "task-ended" => "ticked a step of",
        "voided" => "took something back on",
        "plan-revised" => "changed the plan of",
        "tasted" => "said how it was:",
        "weighed" | "bowl-weighed" | "bowl-tared" | "tub-weighed" => "weighed for",
        "salt-on" | "salt-off" | "really-on" => "noted the salt of",
        _ => "noted something on",
    };
    format!("{who} {did} {}.", told.piece)
}

/// The stream of one page.
struct Stream {
    state: AppState,
    cook: SignedIn,
    bell: watch::Receiver<u64>,
    closing: watch::Receiver<bool>,
    arrived: i64,
}

impl Stream {
    /// Waits for the next change; `None` when the server closes.
    async fn next(mut self) -> Option<(Result<Event, Infallible>, Self)> {
        tokio::select! {
            _ = self.closing.wait_for(|closing| *closing) => return None,
            rung = self.bell.changed() => rung.ok()?,
        }
        let kitchen: Kitchen<'_> = self.cook.kitchen(&self.state);
        let told = kitchen.told_after(self.arrived).await.unwrap_or_default();
        self.arrived = told.iter().map(|told| told.arrived).fold(self.arrived, i64::max);
        let others: Vec<String> = told.iter().filter(|told| told.cook != Some(self.cook.0.id)).map(words).collect();
        // What nobody noted as an event (a piece taken out, a new one) changes pages, too; there is just nobody to name.
        let says = others.last().cloned().unwrap_or_default();
        Some((Ok(Event::default().event("changed").data(json!({"says": says}).to_string())), self))
    }
}

/// Tells a page what changes in its household, as long as it is open.
pub async fn told(State(state): State<AppState>, cook: SignedIn) -> Result<Response, WebError> {
    let Some(bell) = state.bells.listen(cook.0.household) else {
        return Ok(axum::http::StatusCode::NO_CONTENT.into_response());
    };
    let arrived = cook.kitchen(&state).arrived().await?;
    let closing = state.bells.0.closing.subscribe();
    let stream = Stream { state, cook, bell, closing, arrived };
    let events = futures_util::stream::unfold(stream, Stream::next);
    Ok(Sse::new(events).keep_alive(KeepAlive::new().interval(STILL_HERE)).into_response())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn only_who_listens_is_told_and_a_bell_nobody_hears_is_forgotten() {
        let bells = Bells::default();
        let (ours, theirs) = (HouseholdId(Uuid::now_v7()), HouseholdId(Uuid::now_v7()));
        let mut heard = bells.listen(ours).unwrap();
        let mut other = bells.listen(theirs).unwrap();
        bells.ring(ours);
        assert!(heard.has_changed().unwrap() && !other.has_changed().unwrap());
        heard.mark_unchanged();
        other.mark_unchanged();
        drop(heard);
        let _again = bells.listen(theirs);
        assert!(!bells.locked().contains_key(&ours));
    }

    #[test]
    fn one_household_cannot_take_all_streams() {
        let bells = Bells::default();
        let home = HouseholdId(Uuid::now_v7());
        let all: Vec<_> = std::iter::from_fn(|| bells.listen(home)).collect();
        assert_eq!(all.len(), MOST);
        assert!(bells.listen(HouseholdId(Uuid::now_v7())).is_some());
    }

    #[test]
    fn a_change_is_told_by_name_in_a_cooks_words() {
        let told = |kind: &str, name: Option<&str>| Told {
            arrived: 1,
            kind: kind.into(),
            piece: "Pork belly 2.4 kg".into(),
            cook: None,
            name: name.map(str::to_owned),
        };
        assert_eq!(words(&told("task-ended", Some("Jo"))), "Jo ticked a step of Pork belly 2.4 kg.");
        assert_eq!(words(&told("weighed", None)), "A program of yours weighed for Pork belly 2.4 kg.");
        for kind in rauchkeller_contract::EVENT_KINDS.iter().filter(|kind| kind.contains('-')) {
            assert!(!words(&told(kind, Some("Jo"))).contains(*kind), "{kind} is no word of a cook");
        }
    }
}
