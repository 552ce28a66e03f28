//! One page a piece: its tasks, the raw-hands view, the verdict.

mod air;
mod asked;
mod change;
mod draft;
mod hands;
mod note;
mod page;
mod read;
mod rows;
mod standing;
mod stop;
#[cfg(test)]
pub mod testing;
mod ticks;
mod unread;
mod verdict;

pub use air::{air_of, known_of};
pub use asked::{answer_asked, asked_words};
pub use change::{Change, Difference, Written, plan_anew, take_change_back, write_change};
pub use draft::{PieceDraft, draft_piece, is_usual_name, new_plan, usual_name};
pub use hands::{hands, hands_fragment};
pub use note::{append, event, note, tapped};
pub use page::{call, page, remove, restore};
pub use rows::{Bowl, Row};
pub use standing::{Now, state_words};
pub use stop::Stop;
pub use ticks::{done, undone};
pub use unread::{Unread, record, renew};
pub use verdict::{give_verdict, run_of, verdict};

use crate::auth::SignedIn;
use crate::compute::compute;
use crate::error::WebError;
use crate::kit::Shelf;
use crate::state::AppState;
use jiff::ZonedDateTime;
use rauchkeller_contract::PlanDoc;
use rauchkeller_core::method::{Method, OWN, SaltEffect, StepKind};
use rauchkeller_core::piece::Cut;
use rauchkeller_core::run::{Record, RunPlan, Standing, stand_by};
use rauchkeller_core::units::System;
use rauchkeller_store::{Piece, PieceId, Refrigerator};
use read::{MOMENT_AT_MOST, ReadPlan};
use std::borrow::Cow;
use std::collections::HashMap;
use std::sync::Arc;
use uuid::Uuid;

/// A kept piece with its plan read, and how it stands.
#[derive(Debug, Clone)]
pub struct Opened {
    /// As stored.
    pub piece: Piece,
    /// Its plan.
    pub plan: Arc<PlanDoc>,
    /// The refrigerator it lies in, as it is known now.
    pub fridge: Refrigerator,
    /// The units its household thinks in.
    pub system: Option<System>,
    /// The plan as its run reads it.
    pub run: RunPlan,
    /// How it stood when it was opened.
    stood: Arc<Standing>,
    /// Its way as it hangs in the Kit now, where that is the household’s own.
    pub own_way: Option<Method>,
    /// What the cooks are called who noted something, where more than one did.
    cooks: Arc<HashMap<u128, String>>,
}

impl Opened {
    /// What it is, as it is called at the table: `turkey`, `pork belly`.
    pub fn noun(&self) -> String {
        let name = Cut::find(&self.plan.request.cut).map_or("piece", |cut| cut.name).to_lowercase();
        name.split(',').next().unwrap_or_default().trim_start_matches("whole ").to_owned()
    }

    /// Reads the plan of a stored piece, in the household's units; where it cannot be read, what is still known of it.
    ///
    /// Cost: one run of salt travel, and the plan's JSON where it was not read before.
    pub fn of(piece: Piece, fridge: Refrigerator, system: Option<System>, now: &ZonedDateTime) -> Result<Self, Box<Unread>> {
        let read = ReadPlan::of(&piece)?;
        Ok(Self::as_read(piece, &read, fridge, system, now))
    }

    fn as_read(piece: Piece, read: &ReadPlan, fridge: Refrigerator, system: Option<System>, now: &ZonedDateTime) -> Self {
        let run = read.run(&fridge);
        let stood = read.stand(&piece, &run, &fridge, now.timestamp());
        Self { piece, plan: read.plan.clone(), fridge, system, run, stood, own_way: None, cooks: Arc::default() }
    }

    /// How it stands.
    pub fn stand(&self, now: &ZonedDateTime) -> Cow<'_, Standing> {
        if let Some(stood) = self.stood_at(now) {
            return Cow::Borrowed(stood);
        }
        Cow::Owned(self.stand_anew(now.timestamp()))
    }

    /// How it stands at any moment, found anew.
    pub fn stand_anew(&self, at: jiff::Timestamp) -> Standing {
        stand_by(&self.run, self.piece.record.as_ref().clone(), at)
    }

    /// The standing it was opened with, where that still is the moment: the same one for all who look at the same moment.
    pub fn stood_at(&self, now: &ZonedDateTime) -> Option<&Arc<Standing>> {
        (now.timestamp().duration_since(self.stood.at).abs() <= MOMENT_AT_MOST).then_some(&self.stood)
    }

    /// What was noted of it.
    pub fn record(&self) -> &Record {
        &self.stood.record
    }

    /// Who ticked a task, by name, where several cooks share the kitchen.
    pub fn ticked_by(&self, task: &str) -> Option<&str> {
        self.cooks.get(&self.record().task(task).by?).map(String::as_str)
    }

    /// Index of the first task that is left.
    pub fn next_step(&self) -> Option<usize> {
        let left = |i: &usize| !self.stood.over[*i];
        (0..self.run.tasks.len()).find(left)
    }

    /// Whether a task is over, ticked or passed by.
    pub fn over(&self, i: usize) -> bool {
        self.stood.over.get(i).copied().unwrap_or(false)
    }

    /// Whether a task was ticked.
    pub fn begun(&self, i: usize) -> bool {
        self.run.tasks.get(i).is_some_and(|t| self.record().ticked(&t.id, t.tick).is_some())
    }

    /// Whether its salting is still to come.
    pub fn waits_for_salt(&self) -> bool {
        let salting = |(i, task): (usize, &rauchkeller_core::run::RunTask)| task.salts == Some(SaltEffect::On) && !self.stood.over[i];
        self.run.tasks.iter().enumerate().any(salting)
    }

    /// Whether knife or salt were on it: what is done to it then stands.
    pub fn knife_or_salt_was_on_it(&self) -> bool {
        let work =
            |t: &&rauchkeller_core::run::RunTask| matches!(t.kind, StepKind::Score | StepKind::Pierce | StepKind::Groove | StepKind::Salt);
        let record = self.record();
        self.stood.on.is_some() || self.run.tasks.iter().filter(work).any(|t| record.ticked(&t.id, t.tick).is_some())
    }

    /// Whether it lies salted in the refrigerator.
    pub fn chills(&self) -> bool {
        self.stood.cold.as_ref().is_some_and(|cold| !cold.left)
    }
}

/// Opens a piece of this cook's kitchen. An address that is no id is simply not here.
pub async fn open(state: &AppState, cook: &SignedIn, id: &str) -> Result<Opened, WebError> {
    let kitchen = cook.kitchen(state);
    let (mut piece, fridge) = (kitchen.piece_without_plan(piece_id(id)?).await?, cook.0.fridge);
    let (now, system) = (cook.now(state), cook.system());
    let known = ReadPlan::known(&piece);
    if known.is_none() {
        piece = kitchen.piece(piece.id).await?;
    }
    let opened = compute(move || match known {
        Some(read) => Ok(Opened::as_read(piece, &read, fridge, system, &now)),
        None => Opened::of(piece, fridge, system, &now),
    })
    .await?;
    let mut opened = opened.map_err(|unread| match unread::unread_page(cook, &cook.now(state), &unread, None) {
        Ok(page) => WebError::Said(Box::new(page)),
        Err(error) => error,
    })?;
    if opened.plan.request.method.starts_with(OWN) {
        opened.own_way = Shelf::of(state, cook).await?.own_way(&opened.plan.request.method);
    }
    // Names are asked for only where another's tick is among them.
    if opened.record().tasks.values().any(|task| task.by.is_some_and(|by| by != cook.0.id.0.as_u128())) {
        let cooks = kitchen.cooks().await?;
        opened.cooks = Arc::new(cooks.into_iter().map(|cook| (cook.id.0.as_u128(), cook.name)).collect());
    }
    Ok(opened)
}

/// The pieces on their way that are in sight.
pub struct InSight {
    /// Opened, by the meal.
    pub pieces: Vec<Opened>,
    /// Those that cannot be read.
    pub unread: Vec<Unread>,
    /// How many more there are.
    pub more: u64,
}

/// Opens the pieces on their way that are in sight, those that cannot be read apart.
pub async fn open_in_sight(state: &AppState, cook: &SignedIn) -> Result<InSight, WebError> {
    let kitchen = cook.kitchen(state);
    let ((pieces, all), fridge) = (kitchen.in_sight(state.now()).await?, cook.0.fridge);
    let more = all.saturating_sub(pieces.len() as u64);
    let (now, system) = (cook.now(state), cook.system());
    let known = |piece: Piece| (ReadPlan::known(&piece), piece);
    let mut pieces: Vec<(Option<Arc<ReadPlan>>, Piece)> = pieces.into_iter().map(known).collect();
    let unknown: Vec<PieceId> = pieces.iter().filter(|(known, _)| known.is_none()).map(|(_, piece)| piece.id).collect();
    if !unknown.is_empty() {
        for (id, version, [request, plan]) in kitchen.texts_of(&unknown).await? {
            let Some((_, piece)) = pieces.iter_mut().find(|(_, piece)| piece.id == id) else { continue };
            // Changed between the two questions: all of it is asked again.
            if piece.version == version { (piece.request, piece.plan) = (request, plan) } else { *piece = kitchen.piece(id).await? }
        }
    }
    compute(move || {
        let (mut opened, mut unread) = (Vec::new(), Vec::new());
        for (known, piece) in pieces {
            let found = match known {
                Some(read) => Ok(Opened::as_read(piece, &read, fridge, system, &now)),
                None => Opened::of(piece, fridge, system, &now),
            };
            match found {
                Ok(read) => opened.push(read),
                Err(why) => unread.push(*why),
            }
        }
        InSight { pieces: opened, unread, more }
    })
    .await
}

pub fn piece_id(id: &str) -> Result<PieceId, WebError> {
    Uuid::parse_str(id).map(PieceId).map_err(|_| WebError::NotFound)
}
