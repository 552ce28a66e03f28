//! Kept plans, read once: what is stored of one version of a piece never changes, so neither does what was read of it.

use super::unread::Unread;
use jiff::{SignedDuration, Timestamp};
use rauchkeller_contract::{PlanDoc, SCHEMA, earlier_words, run_plan};
use rauchkeller_core::run::{EventId, RunPlan, Standing, stand_by};
use rauchkeller_store::{Piece, Refrigerator};
use serde_json::Value;
use std::collections::HashMap;
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::{Arc, LazyLock, Mutex, PoisonError};
use uuid::Uuid;

/// So long what was found at one moment counts for the next: nothing on a page changes within it.
const SAME_MOMENT: SignedDuration = SignedDuration::from_secs(2);

/// While somebody else finds it anew, what was found counts for so long: a hundred pages need not wait for the same piece.
pub const MOMENT_AT_MOST: SignedDuration = SignedDuration::from_secs(4);

/// So many plans are kept as they were read; then it begins anew. One takes some 60 KB.
const MOST: usize = 400;

/// Which version of which piece.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
struct Key {
    piece: Uuid,
    version: i32,
    plan_version: i32,
}

impl Key {
    fn of(piece: &Piece) -> Self {
        Self { piece: piece.id.0, version: piece.version, plan_version: piece.plan_version }
    }
}

/// A plan as it was read.
#[derive(Debug)]
pub struct ReadPlan {
    /// For showing.
    pub plan: Arc<PlanDoc>,
    /// As its run reads it, for the air it was planned with.
    run: RunPlan,
    /// How the piece stood when it was looked at last.
    stood: Mutex<Option<Stood>>,
    /// Whether somebody is finding it anew.
    finding: AtomicBool,
}

/// A standing, and what it was found from besides the plan.
#[derive(Debug, Clone)]
struct Stood {
    /// Events are only ever added: as many of them with the same last one are the same.
    events: (i32, Option<(Timestamp, EventId)>),
    fridge: Refrigerator,
    standing: Arc<Standing>,
}

static READ: LazyLock<Mutex<HashMap<Key, Arc<ReadPlan>>>> = LazyLock::new(Mutex::default);

fn locked<T>(of: &Mutex<T>) -> std::sync::MutexGuard<'_, T> {
    of.lock().unwrap_or_else(PoisonError::into_inner)
}

impl ReadPlan {
    /// This version of a piece, where it was read before.
    pub fn known(piece: &Piece) -> Option<Arc<Self>> {
        locked(&READ).get(&Key::of(piece)).cloned()
    }

    /// Of a stored piece; where it cannot be read, what is still known of it.
    ///
    /// Cost: the first time the plan's JSON, later a look into a table.
    pub fn of(piece: &Piece) -> Result<Arc<Self>, Box<Unread>> {
        let key = Key::of(piece);
        if let Some(known) = Self::known(piece) {
            return Ok(known);
        }
        if piece.schema_no > i32::try_from(SCHEMA).unwrap_or(i32::MAX) {
            let why = format!("its plan is of form {}, and this version reads forms up to {SCHEMA}", piece.schema_no);
            return Err(Box::new(Unread::of(piece, why)));
        }
        let unread = |why: serde_json::Error| Box::new(Unread::of(piece, why));
        let plan = read_kept_plan(&piece.plan).map_err(unread)?;
        let request: Value = serde_json::from_str(&piece.request).map_err(unread)?;
        let run = run_plan(&plan, &request, piece.plan_version.unsigned_abs(), |planned| planned);
        let run = run.map_err(|why| Box::new(Unread::of(piece, why)))?;
        if run.request.is_none() || run.tasks.is_empty() {
            return Err(Box::new(Unread::of(piece, "what was asked of it cannot be read")));
        }
        let read = Arc::new(Self { plan: Arc::new(plan), run, stood: Mutex::new(None), finding: AtomicBool::new(false) });
        let mut all = locked(&READ);
        if all.len() >= MOST {
            all.clear();
        }
        all.insert(key, read.clone());
        Ok(read)
    }

    /// The plan for its run, in the refrigerator's air as it is known now.
    pub fn run(&self, fridge: &Refrigerator) -> RunPlan {
        let mut run = self.run.clone();
        run.air = run.request.as_ref().map(|request| super::air_of(fridge, request.kitchen.fridge));
        run
    }

    /// How the piece stands: as it stood within the same moment, or found anew by the first who asks.
    pub fn stand(&self, piece: &Piece, run: &RunPlan, fridge: &Refrigerator, now: Timestamp) -> Arc<Standing> {
        let events = (piece.events, piece.record.last);
        let stood = locked(&self.stood).clone().filter(|stood| stood.events == events && stood.fridge == *fridge);
        if let Some(stood) = stood {
            let since = now.duration_since(stood.standing.at).abs();
            if since <= SAME_MOMENT || since <= MOMENT_AT_MOST && self.finding.swap(true, Ordering::Relaxed) {
                return stood.standing;
            }
        }
        let standing = Arc::new(stand_by(run, piece.record.as_ref().clone(), now));
        *locked(&self.stood) = Some(Stood { events, fridge: *fridge, standing: standing.clone() });
        self.finding.store(false, Ordering::Relaxed);
        standing
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
