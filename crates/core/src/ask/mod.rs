//! The first floor: what was said, with its fields and its refusals. Knows units and words, and does no kitchen sums.

mod heat;
mod heat_refused;
mod heat_typed;
mod hours;
mod kitchen;
mod knife;
mod piece;
mod refusal;
mod request;
mod salt;
mod task;
mod tasks_typed;

pub use heat::{AirAsk, FinishAsk, FinishStyle, FireRequest, StageAsk};
pub use heat_refused::MOST_STAGES;
pub(crate) use heat_refused::refuse_fire;
pub use heat_typed::{HeatSlip, read_finish, read_heat, read_stages, say_finish, say_stages, say_stages_in};
pub use hours::{Goal, HoursFrom};
pub use kitchen::{Kitchen, usual_fridge};
pub use knife::SkinAsk;
pub use piece::{BoughtScoring, BrushedOff, Done, Portion, Thawing};
pub use refusal::{Offer, Refusal, THE_SOONEST};
pub use request::PlanRequest;
pub use salt::{CoverAsk, FaceMix, MOST_MIXES, MixUse};
pub use task::{Added, Hung, HungAt, MOST_TASKS, TaskAsk};
pub use tasks_typed::{read_tasks, say_tasks};
