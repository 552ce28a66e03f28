//! Passwords are looked at by turns: two at once, browsers that are known first, and of strangers one address after the other.

use crate::asker::{Asker, Party};
use crate::compute::in_its_turn;
use crate::seats::{Many, Seat, Seats};
use crate::turns::{Limits, Turns};
use std::sync::LazyLock;

/// Each hash takes 19 MB and tens of milliseconds: more than two at once would starve the rest.
static TURNS: LazyLock<Turns> = LazyLock::new(|| Turns::new(Limits { at_once: 2, of_one: 40, in_a_lane: 80 }));

/// Who may be at the door at once, from one address and altogether: as many honest ones as one address may have.
static DOOR: LazyLock<Seats> = LazyLock::new(|| Seats::new(Many { in_all: 160, from_one: 40, always: 36 }));

/// Too many passwords are being looked at: nothing was tried.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
#[error("too many people at the door at once")]
pub struct Crowded;

/// A place at the door, taken before anything is looked up; free again when it is dropped.
pub fn at_the_door() -> Result<Seat, Crowded> {
    DOOR.sit(Asker::now().place()).ok_or(Crowded)
}

/// Whose turn it is: a browser that its cook is known from goes first, as one of that address.
#[derive(Debug, Clone, Copy)]
pub enum Whose {
    /// A cook who is signed in, or known from this browser.
    Known,
    /// Anybody.
    Stranger,
}

async fn in_turn<T: Send + 'static>(whose: Whose, work: impl FnOnce() -> T + Send + 'static) -> Result<T, Crowded> {
    let asker = Asker::now();
    let party = Party::Stranger(asker.place());
    let turn = TURNS.take_as(&asker, party, matches!(whose, Whose::Known)).await.map_err(|_| Crowded)?;
    in_its_turn(turn, asker, work).await.map_err(|_| Crowded)
}

/// Hashes a new password when its turn comes.
pub async fn hash(whose: Whose, password: String) -> Result<String, Crowded> {
    in_turn(whose, move || rauchkeller_store::hash_password(&password)).await?.ok_or(Crowded)
}

/// Checks a password against a hash when its turn comes.
pub async fn verify(whose: Whose, password: String, hash: String) -> Result<bool, Crowded> {
    in_turn(whose, move || rauchkeller_store::verify_password(&password, &hash)).await
}
