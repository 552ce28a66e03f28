//! Lines of those who write to a piece from this server.
//!
//! One after the other they meet no deadlock among themselves, and on a cluster each meets at most one of another server: the
//! patience for trying again begins when it is one's turn. Whoever's turn it is carries along what others have handed in for the
//! same piece meanwhile, in one transaction: a crowd costs a few of them, and not one each. Other servers are kept out by the
//! row itself.

use super::{Appended, CookId, HouseholdId, PieceId};
use crate::error::StoreError;
use rauchkeller_core::run::Event;
use std::sync::{Mutex, PoisonError};
use tokio::sync::oneshot;

/// So many lines: pieces that share one wait for each other now and then, which costs them nothing but that.
const LINES: usize = 256;
/// So many events are carried at once; what is more waits for the next turn.
const MOST_AT_ONCE: usize = 1000;

/// Events that one sender hands in: all of them are added, or none.
#[derive(Debug, Clone)]
pub(super) struct Delivery {
    pub events: Vec<Event>,
    pub cook: Option<CookId>,
    /// The version that was looked at, where they hold only against that one.
    pub seen: Option<i32>,
}

/// What a sender is told.
pub(super) type Answer = oneshot::Sender<Result<Appended, StoreError>>;

#[derive(Debug)]
struct HandedIn {
    household: HouseholdId,
    piece: PieceId,
    delivery: Delivery,
    answer: Answer,
}

/// One line.
#[derive(Debug, Default)]
pub(crate) struct Line {
    turn: tokio::sync::Mutex<()>,
    handed_in: Mutex<Vec<HandedIn>>,
}

impl Line {
    /// As many as there are.
    pub(crate) fn all() -> impl Iterator<Item = Self> {
        std::iter::repeat_with(Self::default).take(LINES)
    }

    /// The one of a piece.
    pub(crate) fn of(lines: &[Self], piece: PieceId) -> &Self {
        &lines[usize::try_from(piece.0.as_u128() % lines.len() as u128).unwrap_or_default()]
    }

    /// Waits for one's turn.
    pub(crate) async fn turn(&self) -> tokio::sync::MutexGuard<'_, ()> {
        self.turn.lock().await
    }

    /// Hands in what the next whose turn it is carries along; the answer comes from whoever did.
    pub(super) fn hand_in(
        &self,
        household: HouseholdId,
        piece: PieceId,
        delivery: Delivery,
    ) -> oneshot::Receiver<Result<Appended, StoreError>> {
        let (answer, told) = oneshot::channel();
        let mut all = self.handed_in.lock().unwrap_or_else(PoisonError::into_inner);
        all.push(HandedIn { household, piece, delivery, answer });
        told
    }

    /// Takes what was handed in for a piece of a household, in that order.
    pub(super) fn take(&self, household: HouseholdId, piece: PieceId) -> (Vec<Delivery>, Vec<Answer>) {
        let mut all = self.handed_in.lock().unwrap_or_else(PoisonError::into_inner);
        let mut events = 0;
        let taken = all.extract_if(.., |one| {
            let mine =
                one.household == household && one.piece == piece && (events == 0 || events + one.delivery.events.len() <= MOST_AT_ONCE);
            events += if mine { one.delivery.events.len() } else { 0 };
            mine
        });
        taken.map(|one| (one.delivery, one.answer)).unzip()
    }
}
