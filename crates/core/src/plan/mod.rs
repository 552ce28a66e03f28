//! The door: a request goes through the rooms in order and comes out as a plan.

mod answer;
mod check;
mod course;
mod grams;
mod inspection;
mod make;
mod model_hours;
mod plan_cautions;
mod request;
mod rescue;
mod resolve;
mod rest;
mod rest_cautions;
mod resting;
mod skin;
mod too_late;
mod ways_out;
mod why;
mod worth;

#[cfg(test)]
mod tests;

pub use answer::{
    ColdState, CoverPlan, DosePlan, FirePlan, FridgePlan, GrooveSalt, LedgerLineDone, MixPlan, Plan, PlanStep, PlateSalt, PortionPlan,
    SkinPlan,
};
pub use course::{Course, SaltChange};
pub use inspection::InspectionNote;
pub use make::{ReallyOn, make_plan, state_after, with_course};
pub use model_hours::{Goal, GoalHours, ModelHours};
pub use request::{BoughtScoring, BrushedOff, CoverAsk, Done, HoursFrom, Kitchen, MixUse, PlanRequest, Portion, Refusal, SkinAsk};
pub use rescue::{Happened, Rescue, RescueAsk, RescueWay, rescue};
pub use resolve::{FilledPortion, Resolved, refusals};
pub use rest_cautions::{RestAt, rest_cautions};
pub use resting::{CurvePoint, DryWhen, Resting, RestingAsk, WeighedPiece, doubt_about, fit_refrigerator, lost_by_weighing, resting};
pub use too_late::{LateKind, LateWay, TooLate};
pub use ways_out::{RIM_AT_MOST, WayOut};
pub use why::{Bound, Why};
pub use worth::WorthMeasuring;
