//! How a piece stands, on the wire.

use crate::to_doc::r4;
use jiff::tz::TimeZone;
use rauchkeller_core::method::Place;
use rauchkeller_core::run::{Asked, RunPlan, Standing};
use rauchkeller_core::units::MassIn;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// How a piece stands at a moment. What needs salt on it is null while there is none.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct StandingDoc {
    /// The moment.
    pub at: String,
    /// Which of its plans stands, from 1.
    pub plan_version: u32,
    /// `bench`, `refrigerator`, `fire` or `table`.
    pub place: String,
    /// Since when, as noted; null before anything was.
    pub since: Option<String>,
    /// How it lies, where it lies in the refrigerator.
    pub lies: Option<String>,
    /// Minutes out of the refrigerator, in sum.
    pub out_min: f64,
    /// Since when it is salted.
    pub salt_since: Option<String>,
    /// Sodium chloride on and in it.
    pub on_g: Option<f64>,
    /// Of that what has gone in.
    pub in_g: Option<f64>,
    /// The outer 5 mm.
    pub rim_g_per_kg: Option<f64>,
    /// The least salted place.
    pub middle_g_per_kg: Option<f64>,
    /// The whole slice.
    pub slice_g_per_kg: Option<f64>,
    /// How dry its skin is, 0 to 1; null without skin.
    pub skin_dryness: Option<f64>,
    /// Whether the knife slipped into the lean: no longer intact, and cooked through.
    #[serde(default)]
    pub slipped: bool,
    /// When it will be on the table.
    pub table_at: String,
    /// What is left to do, in the order of time.
    pub next: Vec<DueDoc>,
    /// What contradicts itself, and waits for an answer.
    pub asked: Vec<AskedDoc>,
    /// Why it cannot be read; null where it can.
    pub unreadable: Option<String>,
}

/// A task still to do.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct DueDoc {
    /// Its name in the plan.
    pub task: String,
    /// One line.
    pub title: String,
    /// When hands are wanted.
    pub at: String,
    /// By how many minutes it is late now.
    pub late_min: f64,
}

/// A question.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct AskedDoc {
    /// What is asked about: `within-a-minute`, `two-values`, `more-off`, `two-moments`, `task-lost`, `out-of-order`, `odd-heat` or `weighing`.
    pub code: String,
    /// Its key: an `answered` event names it as its `question`.
    pub question: String,
    /// The events it is about.
    pub events: Vec<String>,
    /// In words.
    pub says: String,
}

impl StandingDoc {
    /// Of a piece whose plan cannot be read.
    pub fn unreadable(at: String, plan_version: u32, serve_at: String, why: String) -> Self {
        Self {
            at,
            plan_version,
            place: Place::Refrigerator.id().into(),
            since: None,
            lies: None,
            out_min: 0.0,
            salt_since: None,
            on_g: None,
            in_g: None,
            rim_g_per_kg: None,
            middle_g_per_kg: None,
            slice_g_per_kg: None,
            skin_dryness: None,
            slipped: false,
            table_at: serve_at,
            next: vec![],
            asked: vec![],
            unreadable: Some(why),
        }
    }
}

/// Writes how a piece stands; `says` puts a question into words.
pub fn standing_doc(plan: &RunPlan, stand: &Standing, zone: &TimeZone, says: impl Fn(&Asked) -> String) -> StandingDoc {
    let instant = |at: jiff::Timestamp| at.to_zoned_datetime(zone.clone()).to_string();
    let state = stand.state.as_ref();
    let lies = plan.request.as_ref().filter(|_| stand.place == Place::Refrigerator).map(|r| r.lying().id().to_owned());
    let due = |due: &rauchkeller_core::run::Due| DueDoc {
        task: plan.tasks[due.task].id.clone(),
        title: plan.tasks[due.task].title.clone(),
        at: instant(due.at),
        late_min: r4(due.late.as_secs_f64() / 60.0),
    };
    let asked = |asked: &Asked| AskedDoc {
        code: asked.code.id().into(),
        question: asked.key.clone(),
        events: asked.events.iter().map(|id| Uuid::from_u128(id.0).to_string()).collect(),
        says: says(asked),
    };
    StandingDoc {
        at: instant(stand.at),
        plan_version: plan.version,
        place: stand.place.id().into(),
        since: stand.since.map(instant),
        lies,
        out_min: r4(stand.out.sum.as_secs_f64() / 60.0),
        salt_since: stand.on.as_ref().map(|on| instant(on.since)),
        on_g: stand.salt.map(|(on, _)| r4(on.in_g())),
        in_g: stand.salt.map(|(_, inside)| r4(inside.in_g())),
        rim_g_per_kg: state.map(|s| r4(s.rim.0)),
        middle_g_per_kg: state.map(|s| r4(s.middle.0)),
        slice_g_per_kg: state.map(|s| r4(s.slice.0)),
        skin_dryness: state.and_then(|s| s.dryness).map(|d| r4(d.0)),
        slipped: stand.slipped,
        table_at: instant(stand.table_at),
        next: stand.next.iter().map(due).collect(),
        asked: stand.asked.iter().map(asked).collect(),
        unreadable: None,
    }
}
