//! A plan, as it is answered.

use super::fierce_end::FierceEnd;
use super::parts::{DosePlan, FirePlan, FridgePlan};
use super::serving::Serving;
use super::too_late::TooLate;
use super::ways_out::WayOut;
use crate::ask::PlanRequest;
use crate::caution::Caution;
use crate::place::{Meals, Timed};
use crate::say::InspectionNote;
use crate::say::Why;
use crate::say::WorthMeasuring;
use crate::settle::{Resolved, SkinPlan};
use crate::units::Time;
use jiff::ZonedDateTime;

/// A step with its times.
pub type PlanStep = Timed;

/// A whole plan.
#[derive(Debug, Clone)]
pub struct Plan {
    /// What was asked.
    pub request: PlanRequest,
    /// What was computed with.
    pub resolved: Resolved,
    /// The grams.
    pub dose: DosePlan,
    /// The cold.
    pub fridge: FridgePlan,
    /// The skin.
    pub skin: Option<SkinPlan>,
    /// The steps.
    pub steps: Vec<PlanStep>,
    /// The heat.
    pub fire: FirePlan,
    /// The meal.
    pub serve_at: ZonedDateTime,
    /// How long the meal lasts, where it is a span.
    pub serving: Option<Serving>,
    /// Out of the refrigerator before the heat, in sum.
    pub out: Time,
    /// Meals from now.
    pub meals: Meals,
    /// Guesses worth measuring, the weightiest first.
    pub worth_measuring: Vec<WorthMeasuring>,
    /// What the look over the piece changed, one entry an answer.
    pub inspection: Vec<InspectionNote>,
    /// Ways out of a rim that would be too salty, best first; empty where it is not.
    pub ways_out: Vec<WayOut>,
    /// What to do instead, where it is too late for a dry-brine.
    pub too_late: Option<TooLate>,
    /// What makes skin crackle that this heat leaves tough.
    pub fierce_end: Option<FierceEnd>,
    /// Where the numbers come from.
    pub why: Vec<Why>,
    /// Cautions, loudest first.
    pub cautions: Vec<Caution>,
}
