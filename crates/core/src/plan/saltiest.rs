//! The portion whose rim is the saltiest, and the ways out of it.

use super::chill::rim_after;
use super::grams::{laid_on, laid_on_thickest};
use super::parts::DosePlan;
use super::ways_out::{WayOut, WaysOutInput, ways_out};
use crate::ask::PlanRequest;
use crate::place::ColdPlan;
use crate::salt::FaceGrams;
use crate::say::Planned;
use crate::settle::Resolved;
use crate::units::{Time, grams};

/// A portion whose outer mouthful is saltier than that of the thickest one.
pub(super) struct Saltiest {
    resolved: Resolved,
    laid: Vec<FaceGrams>,
    fixed: Vec<FaceGrams>,
    /// Salt in its outer 5 mm, g/kg.
    pub rim: f64,
}

/// `None` where no other portion is saltier than the thickest.
pub(super) fn saltiest(request: &PlanRequest, resolved: &Resolved, dose: &DosePlan, cold: &ColdPlan, rim: f64) -> Option<Saltiest> {
    let thickest = resolved.thickest_index();
    let densest = |i: usize| {
        let laid = laid_on(request, resolved, dose, dose.dose.to_weigh, i);
        laid.iter().map(|f| f.density().0).fold(0.0, f64::max)
    };
    let (index, most) = (0..resolved.portions.len()).map(|i| (i, densest(i))).max_by(|a, b| a.1.total_cmp(&b.1))?;
    if index == thickest || most <= densest(thickest) * 1.01 {
        return None;
    }
    let portion = resolved.portions.get(index)?.clone();
    let own = Resolved { thickness: portion.thickness, thin: portion.thickness, portions: vec![portion], ..resolved.clone() };
    let laid = laid_on(request, resolved, dose, dose.dose.to_weigh, index);
    let fixed = laid_on(request, resolved, dose, grams(0.0), index);
    let its = rim_after(request, &own, &laid, cold.planned);
    (its > rim).then_some(Saltiest { resolved: own, laid, fixed, rim: its })
}

/// Ways out of a rim too salty, of the portion where it is the saltiest.
pub(super) fn ways(
    (request, plan): (&PlanRequest, &Planned),
    laid: &[FaceGrams],
    saltiest: Option<&Saltiest>,
    planned: Time,
) -> Vec<WayOut> {
    let resolved = plan.resolved;
    let fixed = laid_on_thickest(request, resolved, plan.dose, grams(0.0));
    let (rim, on_scale) = (plan.fridge.state.rim.0, plan.dose.on_scale);
    match saltiest {
        None => ways_out(&WaysOutInput { request, resolved, laid, fixed: &fixed, on_scale, planned, rim }),
        Some(own) => {
            ways_out(&WaysOutInput { request, resolved: &own.resolved, laid: &own.laid, fixed: &own.fixed, on_scale, planned, rim })
        }
    }
}
