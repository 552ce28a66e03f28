//! The door: a request goes through the rooms in order and comes out as a plan.

mod answer;
mod check;
mod grams;
mod inspection;
mod make;
mod request;
mod resolve;
mod rest;
mod skin;
mod ways_out;
mod why;
mod worth;

#[cfg(test)]
mod tests;

pub use answer::{
    ColdState, CoverPlan, DosePlan, FirePlan, FridgePlan, GrooveSalt, LedgerLineDone, MixPlan, Plan, PlanStep, PortionPlan, SkinPlan,
};
pub use inspection::InspectionNote;
pub use make::{make_plan, state_after};
pub use request::{BoughtScoring, CoverAsk, Done, Kitchen, MixUse, PlanRequest, Portion, Refusal, SkinAsk};
pub use resolve::{FilledPortion, Resolved};
pub use ways_out::{RIM_AT_MOST, WayOut};
pub use why::{Bound, Why};
pub use worth::WorthMeasuring;
