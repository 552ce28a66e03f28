//! The door: a request goes through the rooms in order and comes out as a plan.

mod answer;
mod make;
mod request;
mod resolve;
mod rest;
mod worth;

#[cfg(test)]
mod tests;

pub use answer::{ColdState, DosePlan, FirePlan, FridgePlan, LedgerLineDone, Plan, PlanStep, SkinPlan};
pub use make::{make_plan, state_after};
pub use request::{Done, Kitchen, PlanRequest, Portion, Refusal};
pub use resolve::Resolved;
pub use worth::WorthMeasuring;
