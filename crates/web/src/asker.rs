//! Whose request is being worked on, and whether anybody still waits for its answer.
//!
//! A request is a task of its own and runs to its end whether or not its sender stays. What it does long work for is asked here:
//! who waits, in which lane, and whether they have gone.

use crate::place::Place;
use axum::http::HeaderMap;
use rauchkeller_core::units::System;
use rauchkeller_store::HouseholdId;
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::{Arc, OnceLock};
use std::time::{Duration, Instant};
use uuid::Uuid;

tokio::task_local! {
    static ASKER: Asker;
}

/// Who asks.
#[derive(Debug, Clone, Default)]
pub struct Asker(Arc<Inner>);

#[derive(Debug, Default)]
struct Inner {
    place: Place,
    /// Whether nothing is written: then nothing is lost where it is not begun.
    only_looks: bool,
    household: OnceLock<HouseholdId>,
    system: OnceLock<System>,
    tap: Tap,
    arrived: Option<Instant>,
    tap_taken: AtomicBool,
    gone: AtomicBool,
    no_room: AtomicBool,
}

/// The tap a request was sent by: its id, and how long ago it was where it is sent again.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub struct Tap {
    /// What the page called it.
    pub id: Option<Uuid>,
    /// How long ago a finger was there, by the page's own clocks.
    pub ago: Duration,
}

/// So long a page tries to deliver what was tapped; what is older was not tapped by a finger that waits.
const OLDEST_TAP: Duration = Duration::from_hours(12);

impl Tap {
    /// What a request says of it.
    pub fn of(headers: &HeaderMap) -> Self {
        let said = |name: &str| headers.get(name).and_then(|value| value.to_str().ok());
        let ago = said("tapped-ago").and_then(|ms| ms.parse().ok()).map(Duration::from_millis);
        Self { id: said("tap-id").and_then(|id| Uuid::parse_str(id).ok()), ago: ago.filter(|ago| *ago <= OLDEST_TAP).unwrap_or_default() }
    }
}

/// Whose turn it is counted as.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Party {
    /// A household that has signed in.
    Home(HouseholdId),
    /// Somebody at a place on the net.
    Stranger(Place),
}

/// Held by whoever waits for the answer; dropped, they have gone.
#[derive(Debug)]
pub struct Waits(Arc<Inner>);

impl Drop for Waits {
    fn drop(&mut self) {
        self.0.gone.store(true, Ordering::Relaxed);
    }
}

impl Asker {
    /// Somebody at a place who waits as long as the second half is held.
    #[cfg(test)]
    pub fn at(place: Place, only_looks: bool) -> (Self, Waits) {
        Self::tapping(place, only_looks, Tap::default())
    }

    /// Somebody at a place, by a tap, who waits as long as the second half is held.
    pub fn tapping(place: Place, only_looks: bool, tap: Tap) -> (Self, Waits) {
        let inner = Arc::new(Inner { place, only_looks, tap, arrived: Some(Instant::now()), ..Inner::default() });
        (Self(inner.clone()), Waits(inner))
    }

    /// Runs a request for this asker.
    pub async fn asks<F: Future>(self, work: F) -> F::Output {
        ASKER.scope(self, work).await
    }

    /// Whose request this is; outside of any, nobody's who never goes.
    pub fn now() -> Self {
        ASKER.try_with(Clone::clone).unwrap_or_default()
    }

    /// The asker has shown whose cook they are.
    pub fn is_of(household: HouseholdId) {
        let _ = ASKER.try_with(|asker| asker.0.household.set(household));
    }

    /// The units their household thinks in.
    pub fn thinks_in(system: Option<System>) {
        let _ = ASKER.try_with(|asker| system.map(|system| asker.0.system.set(system)));
    }

    /// The units their household thinks in; `None` until somebody said.
    pub fn system(&self) -> Option<System> {
        self.0.system.get().copied()
    }

    /// The database had no room left for what this request wrote.
    pub fn had_no_room() {
        let _ = ASKER.try_with(|asker| asker.0.no_room.store(true, Ordering::Relaxed));
    }

    /// Whether the database had no room.
    pub fn found_no_room(&self) -> bool {
        self.0.no_room.load(Ordering::Relaxed)
    }

    /// The tap by which this was sent.
    pub fn tap(&self) -> Tap {
        self.0.tap
    }

    /// How long ago a finger was there: what the page says, and what passed here since its request arrived.
    pub fn tapped_ago(&self) -> Duration {
        self.0.tap.ago + self.0.arrived.map_or(Duration::ZERO, |at| at.elapsed())
    }

    /// The id of that tap, once: a request that notes in two steps gives it to the first.
    pub fn take_tap(&self) -> Option<Uuid> {
        self.0.tap.id.filter(|_| !self.0.tap_taken.swap(true, Ordering::Relaxed))
    }

    /// Where they are.
    pub fn place(&self) -> Place {
        self.0.place
    }

    /// Who is counted.
    pub fn party(&self) -> Party {
        self.0.household.get().map_or(Party::Stranger(self.0.place), |home| Party::Home(*home))
    }

    /// Whether work for them need not begin any more: nobody waits, and nothing would be written.
    pub fn has_gone(&self) -> bool {
        self.0.only_looks && self.0.gone.load(Ordering::Relaxed)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[tokio::test]
    async fn who_only_looked_and_went_wants_nothing_any_more() {
        for (only_looks, wanted) in [(true, false), (false, true)] {
            let (asker, waits) = Asker::at(Place::default(), only_looks);
            assert!(!asker.has_gone());
            drop(waits);
            assert_eq!(!asker.has_gone(), wanted, "what was to be written is written all the same");
        }
        assert!(!Asker::now().has_gone(), "outside of a request nobody can go");
    }

    #[test]
    fn a_tap_says_its_id_and_how_long_ago_it_was_and_nonsense_says_nothing() {
        let of = |id: &str, ago: &str| {
            let headers = [("tap-id", id), ("tapped-ago", ago)].map(|(name, said)| (name.parse().unwrap(), said.parse().unwrap()));
            Tap::of(&HeaderMap::from_iter(headers))
        };
        let id = "0192f0c1-0000-7000-8000-000000000001";
        assert_eq!(of(id, "1500"), Tap { id: Uuid::parse_str(id).ok(), ago: Duration::from_millis(1500) });
        for ago in ["", "-4", "soon", "99999999999999999999", "86400000"] {
            assert_eq!(of("mine", ago), Tap::default(), "{ago}");
        }
    }

    #[tokio::test]
    async fn a_stranger_is_counted_by_place_and_a_cook_by_household() {
        let (asker, _waits) = Asker::at(Place::default(), true);
        let home = HouseholdId(uuid::Uuid::now_v7());
        let (before, after) = asker
            .asks(async {
                let before = Asker::now().party();
                Asker::is_of(home);
                (before, Asker::now().party())
            })
            .await;
        assert_eq!((before, after), (Party::Stranger(Place::default()), Party::Home(home)));
    }
}
