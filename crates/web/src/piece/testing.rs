//! Kept pieces for unit tests, made from real plans.

use super::{Opened, draft_piece, event};
use jiff::Timestamp;
use rauchkeller_contract::{EXAMPLE, plan_from};
use rauchkeller_core::method::Tick;
use rauchkeller_core::run::{Event, Record, What};
use rauchkeller_store::{Piece, PieceId, Refrigerator};
use serde_json::{Value, json};
use std::collections::HashMap;
use std::sync::atomic::{AtomicI32, Ordering};
use std::sync::{Arc, LazyLock, Mutex};
use uuid::Uuid;

/// What was noted of a piece up to a version of it.
type Noted = HashMap<(Uuid, i32), Vec<Event>>;
static NOTED: LazyLock<Mutex<Noted>> = LazyLock::new(Mutex::default);
static VERSION: AtomicI32 = AtomicI32::new(2);

/// The example belly with some tasks ticked: (task, instant).
pub fn opened(ticks: &[(&str, &str)]) -> Opened {
    kept(&serde_json::from_str(EXAMPLE).unwrap(), ticks)
}

/// A piece of a request with `now` and `serve_at` of the example, with some tasks ticked.
pub fn kept_cut(cut: &str, weight_g: f64, ticks: &[(&str, &str)]) -> Opened {
    let example: Value = serde_json::from_str(EXAMPLE).unwrap();
    kept(
        &json!({"piece": {"cut": cut, "weight_g": weight_g, "bought_on": "2026-12-10"}, "now": example["now"], "serve_at": example["serve_at"]}),
        ticks,
    )
}

/// A piece of any request, kept under the first rules, with some tasks ticked.
pub fn kept(request: &Value, ticks: &[(&str, &str)]) -> Opened {
    let now = "2026-12-10T09:00[Europe/Vienna]".parse().unwrap();
    let plan = plan_from(request, &now).unwrap();
    let new = draft_piece("k".into(), request, &plan).into_new();
    let piece = Piece {
        note: String::new(),
        id: PieceId(Uuid::now_v7()),
        name: new.name,
        cut: new.cut,
        schema_no: 2,
        rules: 1,
        request: new.plan.request,
        plan: new.plan.plan,
        version: 1,
        plan_version: 1,
        serve_at: new.plan.serve_at,
        created_at: new.plan.serve_at,
        finished_at: None,
        deleted_at: None,
        record: Arc::default(),
        events: 0,
        warm: vec![],
    };
    let opened = Opened::of(piece, Refrigerator::default(), None, &now).unwrap();
    ticks.iter().fold(opened.clone(), |so_far, (task, at)| {
        let tick = opened.run.task(task).unwrap().tick;
        let task = (*task).to_owned();
        so_far.with(at, if tick == Tick::Begins { What::TaskBegan { task } } else { What::TaskEnded { task } })
    })
}

impl Opened {
    /// The same with something more noted, and everything read again.
    pub(crate) fn with(&self, at: &str, what: What) -> Self {
        let at: Timestamp = at.parse().unwrap();
        let mut piece = self.piece.clone();
        // What was noted before stands under the version it made: a piece may go on in two ways.
        let mut all = NOTED.lock().unwrap();
        let mut events = all.get(&(piece.id.0, piece.version)).cloned().unwrap_or_default();
        events.push(event(at, at, what));
        piece.version = VERSION.fetch_add(1, Ordering::SeqCst);
        piece.events = i32::try_from(events.len()).unwrap();
        piece.record = Arc::new(Record::of(&events));
        all.insert((piece.id.0, piece.version), events);
        drop(all);
        self.again(piece)
    }

    /// The same, opened at another moment.
    pub(crate) fn at(&self, now: &jiff::ZonedDateTime) -> Self {
        Self::of(self.piece.clone(), self.fridge, None, now).unwrap()
    }

    /// Reads it again from a changed row.
    pub(crate) fn again(&self, piece: Piece) -> Self {
        let now = "2026-12-10T09:00[Europe/Vienna]".parse().unwrap();
        Self::of(piece, self.fridge, None, &now).unwrap()
    }
}
