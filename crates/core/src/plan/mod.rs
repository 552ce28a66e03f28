//! The door: a request goes through the rooms in order and comes out as a plan.
//!
//! ```
//! use rauchkeller_core::{piece::Cut, plan::{PlanRequest, make_plan}, units::{GramsPerKg, MassIn, grams}};
//! let now = "2026-12-10T09:00[Europe/Vienna]".parse().unwrap();
//! let mut request = PlanRequest::new(Cut::find("beef-rib-steak").unwrap(), grams(1000.0), now);
//! (request.dose, request.bone) = (Some(GramsPerKg(10.0)), Some(rauchkeller_core::units::Share(0.0)));
//! // By hand: ten grams a kilogram of a kilogram without bone.
//! assert!((make_plan(&request).unwrap().dose.dose.to_weigh.in_g() - 10.0).abs() < 1e-9);
//! ```

mod answer;
mod as_method;
mod check;
mod chill;
mod course;
mod document;
mod facts;
mod field;
mod fierce_end;
mod fire_ask;
mod fire_refuse;
mod fire_typed;
mod grams;
mod heated;
mod hours_asked;
mod hung_ask;
mod inspection;
mod intact;
mod kept;
mod make;
mod model_hours;
mod request;
mod resolve;
mod saltiest;
mod serving;
mod skin;
mod tasks_ask;
mod tasks_typed;
mod too_late;
mod ways_out;
mod why;
mod worth;
mod written;

#[cfg(test)]
mod tests;

/// The number of the rules plans are made by; raised with every change that gives the same request another plan.
pub const RULES: u32 = 6;

pub use answer::{
    ColdState, DosePlan, FirePlan, FridgePlan, GrooveSalt, LedgerFrom, LedgerLineDone, MixOn, MixPlan, Plan, PlanStep, PlateSalt,
    PortionPlan, SkinPlan,
};
pub use as_method::bath_follows_the_cold;
pub(crate) use chill::chill_hours;
pub use course::{Course, SaltChange};
pub use document::{MOST_TASK_ROWS, refuse_document};
pub(crate) use facts::chill_facts;
pub use field::{FIELDS, Field, Unit};
pub use fierce_end::FierceEnd;
pub use fire_ask::{AirAsk, FinishAsk, FinishStyle, FireRequest, StageAsk};
pub use fire_refuse::MOST_STAGES;
pub use fire_typed::{HeatSlip, read_finish, read_heat, read_stages, say_finish, say_stages};
pub use inspection::InspectionNote;
pub use kept::{ActualMix, ActualSalt, state_after, with_course};
pub use make::make_plan;
pub use model_hours::{Goal, GoalHours, ModelHours};
pub(crate) use model_hours::{model_hours, why_they_differ};
pub use request::{
    BoughtScoring, BrushedOff, CoverAsk, Done, FaceMix, HoursFrom, Kitchen, MOST_MIXES, MixUse, Offer, PlanRequest, Portion, Refusal,
    SkinAsk, THE_SOONEST, usual_fridge,
};
pub use resolve::{Resolved, ResolvedPortion, refusals};
pub use serving::{Serving, WaitsAs};
pub use skin::kept_skin;
pub use tasks_ask::{MOST_TASKS, TaskAsk};
pub use tasks_typed::{read_tasks, say_tasks};
pub use too_late::{LateKind, LateWay, TooLate};
pub use ways_out::{Instead, WayOut};
pub use why::{Bound, Why};
pub use worth::WorthMeasuring;
