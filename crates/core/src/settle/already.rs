//! What is done already when the plan is asked for.

use crate::ask::PlanRequest;
use crate::method::StepKind;
use crate::units::{Mass, MassIn, Time, grams, hours};
use jiff::Timestamp;

/// Grams put on by hand before the plan was asked for, less what was brushed off; the whole dose when nobody weighed.
pub(crate) fn already_on(request: &PlanRequest, total: Mass) -> Mass {
    let on = request.done.iter().filter(|d| d.kind == StepKind::Salt).fold(grams(0.0), |sum, d| sum + d.salt.unwrap_or(total));
    let left = request.brushed_off.iter().fold(on, |sum, off| sum - off.salt);
    if left.in_g() > 0.0 { left } else { grams(0.0) }
}

/// When the salt clock started, if it has.
pub(crate) fn salted_at(request: &PlanRequest) -> Option<Timestamp> {
    request.done.iter().filter(|d| d.kind == StepKind::Salt).map(|d| d.at).min()
}

/// Time for no rest at all.
pub(crate) fn no_time() -> Time {
    hours(0.0)
}

/// Whether a kind of task was said to be done.
pub(crate) fn is_done(request: &PlanRequest, kind: StepKind) -> bool {
    request.done.iter().any(|d| d.kind == kind)
}

pub(crate) fn lies_salted_in_the_cold(request: &PlanRequest) -> bool {
    let salted = salted_at(request);
    salted.is_some() && request.done.iter().any(|d| d.kind == StepKind::Chill && Some(d.at) >= salted)
}
