//! One page a piece: its steps, the raw-hands view, the verdict.

mod cold;
mod draft;
mod hands;
mod journey;
mod page;
mod standing;
mod stop;
#[cfg(test)]
pub mod testing;
mod unread;
mod verdict;

pub use cold::{InTheCold, air_of, known_of};
pub use draft::{MIX, PieceDraft, draft_piece, usual_name};
pub use hands::{hands, hands_fragment};
pub use journey::{journey, out_of_cold, tick_begins};
pub use page::{call, done, page, remove, restore, undone};
pub use standing::{Standing, words as standing_words};
pub use stop::Stop;
pub use unread::{Unread, record, renew};
pub use verdict::{give_verdict, verdict};

use crate::auth::SignedIn;
use crate::error::WebError;
use crate::state::AppState;
use crate::words::plan_in_units;
use rauchkeller_contract::{PlanDoc, earlier_words};
use rauchkeller_core::units::System;
use rauchkeller_store::{Piece, PieceId, Refrigerator, StepId};
use uuid::Uuid;

/// A kept piece with its plan read.
#[derive(Debug, Clone)]
pub struct Opened {
    /// As stored.
    pub piece: Piece,
    /// Its plan.
    pub plan: PlanDoc,
    /// The refrigerator it lies in, as it is known now.
    pub fridge: Refrigerator,
    /// The units its household thinks in.
    pub system: Option<System>,
}

impl Opened {
    /// Reads the plan of a stored piece; where it cannot be read, what is still known of it.
    pub fn of(piece: Piece, fridge: Refrigerator) -> Result<Self, Box<Unread>> {
        match read_kept_plan(&piece.plan) {
            Ok(plan) => Ok(Self { piece, plan, fridge, system: None }),
            Err(why) => Err(Box::new(Unread::of(&piece, why))),
        }
    }

    /// For showing, in the household's units.
    #[must_use]
    pub fn in_units(self, system: Option<System>) -> Self {
        Self { plan: plan_in_units(self.plan, system), system, ..self }
    }

    /// The first step still to do.
    pub fn next_step(&self) -> Option<usize> {
        self.piece.steps.iter().position(|s| s.done_at.is_none())
    }
}

/// A kept plan; only one of an earlier version wears marks that are put into words.
fn read_kept_plan(text: &str) -> Result<PlanDoc, serde_json::Error> {
    if !(text.contains("andbook") || text.contains("[est]") || text.contains("[mem]") || text.contains("[trade]")) {
        return serde_json::from_str(text);
    }
    let mut value = serde_json::from_str(text)?;
    earlier_words(&mut value);
    serde_json::from_value(value)
}

/// Opens a piece of this cook's kitchen. An address that is no id is simply not here.
pub async fn open(state: &AppState, cook: &SignedIn, id: &str) -> Result<Opened, WebError> {
    let kitchen = cook.kitchen(state);
    let (piece, fridge) = (kitchen.piece(piece_id(id)?).await?, kitchen.refrigerator().await?);
    let opened = Opened::of(piece, fridge).map(|opened| opened.in_units(cook.system()));
    opened.map_err(|unread| match unread::unread_page(cook, &cook.now(state), &unread, None) {
        Ok(page) => WebError::Said(Box::new(page)),
        Err(error) => error,
    })
}

pub fn piece_id(id: &str) -> Result<PieceId, WebError> {
    Uuid::parse_str(id).map(PieceId).map_err(|_| WebError::NotFound)
}

fn step_id(id: &str) -> Result<StepId, WebError> {
    Uuid::parse_str(id).map(StepId).map_err(|_| WebError::NotFound)
}
