//! # rauchkeller-contract
//!
//! The wire: what a request may say, what a plan answers, how problems are told. Plain numbers
//! with the unit in the name; to and from the typed quantities of `rauchkeller-core`.

mod catalog;
mod chill;
mod chill_doc;
mod earlier_words;
mod event_doc;
mod event_schema;
mod fire;
mod fire_doc;
mod json_lines;
mod knife;
mod knife_doc;
mod knife_written;
mod method_doc;
mod method_read;
mod mix_doc;
mod pairing;
mod plan_doc;
mod problem;
mod reader;
mod readings;
mod record_doc;
mod replanned;
mod request;
mod run_plan;
mod salting;
mod schema;
mod standing_doc;
mod tasks;
mod to_doc;
mod written_out;

pub use catalog::{CutDoc, LedgerDoc, SaltDoc, cuts, ledger, salts};
pub use chill_doc::{FridgeDoc, GoalDoc, ModelHoursDoc, PlateDoc};
pub use earlier_words::{earlier_advice, earlier_words};
pub use event_doc::{BatchRead, EVENT_KINDS, MOST_EVENTS_SENT, event_body, event_kind, event_value, read_event_body, read_events};
pub use event_schema::events_schema;
pub use fire::{appliances_of, appliances_value, finish_value, fire_of, stage_value, stages_value};
pub use fire_doc::{AgainDoc, CrispDoc, FireDoc, StageDoc, TargetDoc};
pub use json_lines::line_of;
pub use knife_doc::{GrooveSaltDoc, MeatCutsDoc, QuickerDoc, SkinDoc, SkinZoneDoc};
pub use knife_written::skin_value;
pub use method_doc::{method_value, methods};
pub use method_read::{newer_than, newer_version, read_draft, read_way};
pub use mix_doc::{MixDoc, MixOnDoc, MixPartDoc};
pub use pairing::{PairedDoc, PairingDoc, read_pairing};
pub use plan_doc::*;
pub use problem::{Problem, Problems};
pub use readings::{ReadingDoc, ReadingRead, ReadingsDoc, ReceivedDoc, read_readings};
pub use record_doc::{RECORD_RULES, read_record, record_text};
pub use replanned::replan_from;
pub use request::{EXAMPLE, read_kept, read_request, read_request_text, refused_today};
pub use run_plan::{BowlDoc, NoInstant, bowls_of, run_plan};
pub use schema::request_schema;
pub use standing_doc::{AskedDoc, DueDoc, StandingDoc, standing_doc};
pub use tasks::{tasks_of, tasks_value};
pub use to_doc::plan_doc;
pub use written_out::{as_said, guesses_of, written_out};

use rauchkeller_core::plan::make_plan;

/// The number of the stored and sent plan's shape; raised when a field changes its meaning.
pub const SCHEMA: u32 = 2;

/// Request value in, plan out: the same call behind CLI, API and pages.
pub fn plan_from(value: &serde_json::Value, now: &jiff::ZonedDateTime) -> Result<PlanDoc, Problems> {
    let request = read_request(value, now)?;
    make_plan(&request).map(|plan| plan_doc(&plan)).map_err(Problems::from)
}
