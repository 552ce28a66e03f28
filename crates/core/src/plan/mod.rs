//! The door: a request goes through the rooms in order and comes out as a plan.
//!
//! ```
//! use rauchkeller_core::{ask::PlanRequest, piece::Cut, plan::make_plan, units::{GramsPerKg, MassIn, grams}};
//! let now = "2026-12-10T09:00[Europe/Vienna]".parse().unwrap();
//! let mut request = PlanRequest::new(Cut::find("beef-rib-steak").unwrap(), grams(1000.0), now);
//! (request.dose, request.bone) = (Some(GramsPerKg(10.0)), Some(rauchkeller_core::units::Share(0.0)));
//! // By hand: ten grams a kilogram of a kilogram without bone.
//! assert!((make_plan(&request).unwrap().dose.dose.to_weigh.in_g() - 10.0).abs() < 1e-9);
//! ```

mod answer;
mod chill;
mod course;
mod document;
mod fierce_end;
mod fire_ask;
mod grams;
mod groove_salt;
mod heated;
mod hours_asked;
mod hung_ask;
mod kept;
mod make;
mod model_hours;
mod parts;
mod saltiest;
mod serving;
mod tasks_ask;
mod too_late;
mod ways_out;
mod written;

#[cfg(test)]
mod tests;

/// The number of the rules plans are made by; raised with every change that gives the same request another plan.
pub const RULES: u32 = 8;

pub use answer::{Plan, PlanStep};
pub(crate) use chill::chill_hours;
pub use course::Course;
pub use document::{MOST_TASK_ROWS, refuse_document};
pub use fierce_end::FierceEnd;
pub use kept::{state_after, with_course};
pub use make::make_plan;
pub(crate) use model_hours::{model_hours, why_they_differ};
pub use parts::SaltChange;
pub use parts::{ActualMix, ActualSalt};
pub use parts::{ColdState, DosePlan, FirePlan, FridgePlan, LedgerFrom, LedgerLineDone, MixOn, MixPlan, PlateSalt, PortionPlan};
pub use parts::{GoalHours, ModelHours};
pub use serving::{Serving, WaitsAs};
pub use too_late::{LateKind, LateWay, TooLate};
pub use ways_out::{Instead, WayOut};

pub(crate) use heated::Heated;
// What stands below and above is known by this door, too.
pub use crate::say::{Bound, InspectionNote, Why, WorthMeasuring};
pub use crate::settle::{FIELDS, Field, GrooveSalt, Resolved, ResolvedPortion, SkinPlan, Unit, bath_follows_the_cold, kept_skin, refusals};
