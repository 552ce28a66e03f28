//! A kept piece planned anew, on the wire: its new plan, and before that what is over of the plan it had.

use crate::plan_doc::{PlanDoc, StepDoc};
use crate::problem::Problems;
use crate::request::read_request;
use crate::to_doc::{instant, plan_doc};
use jiff::ZonedDateTime;
use rauchkeller_core::run::{KeptSalt, RunPlan, Standing, replan};
use rauchkeller_core::units::grams;
use rauchkeller_core::work::Lasts;
use serde_json::Value;

/// The salt of a kept plan that a new one counts as on it.
fn kept_salt(plan: &PlanDoc) -> KeptSalt {
    let dose = &plan.dose;
    KeptSalt {
        to_weigh: grams(dose.to_weigh_g),
        mix: grams(dose.mix.as_ref().map_or(0.0, |mix| mix.salt_g)),
        besides: grams(dose.mixes.iter().filter(|mix| mix.at_h.is_none()).map(|mix| mix.salt_g).sum()),
    }
}

/// Plans a kept piece anew, from now on and with what has happened: `kept` is the plan that stands, `run` the same as its run reads it,
/// `asked` what is wanted of it now.
///
/// # Errors
/// Everything of the request that cannot be, each at its path.
pub fn replan_from(kept: &PlanDoc, (run, stand): (&RunPlan, &Standing), asked: &Value, now: &ZonedDateTime) -> Result<PlanDoc, Problems> {
    let mut ask = asked.clone();
    ask["now"] = now.to_string().into();
    let request = read_request(&ask, now)?;
    let new = replan(run, stand, kept_salt(kept), &request).map_err(Problems::from)?;
    let mut plan = plan_doc(&new.plan);
    let over = new.over.iter().filter_map(|over| {
        let step = kept.steps.get(over.task)?.clone();
        Some(match over.lasted {
            Some((from, to)) => {
                let at = |moment| instant(moment, now.time_zone());
                StepDoc { takes: Lasts::Fixed.id().into(), starts_at: at(from), ends_at: at(to), ..step }
            }
            None => step,
        })
    });
    let mut steps: Vec<StepDoc> = over.collect();
    steps.append(&mut plan.steps);
    plan.steps = steps;
    Ok(plan)
}
