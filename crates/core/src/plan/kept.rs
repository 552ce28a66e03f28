//! A kept piece in the cold, with what really went on it.

use super::course::Course;
use super::grams::{dose_plan, laid_on_thickest, later_mixes, total_of};
use super::parts::{ActualSalt, ColdState, DosePlan};
use crate::ask::{PlanRequest, Refusal};
use crate::method::StepKind;
use crate::settle::Resolved;
use crate::settle::kept_with_skin;
use crate::settle::resolve_kept;
use crate::settle::{already_on, no_time};
use crate::settle::{as_the_method_has_it, does_task};
use crate::units::{Mass, Time, grams};

/// A kept piece through its rest, whatever the calendar says: `read` gets its course and the air it lies in.
///
/// One door for every question about a piece that lies in the cold: how it stands, what it will be, what would help.
pub fn with_course<T>(
    request: &PlanRequest,
    really: &ActualSalt,
    read: impl FnOnce(&Course, &Resolved, &DosePlan) -> T,
) -> Result<T, Vec<Refusal>> {
    let whole = as_the_method_has_it(request);
    let request = &*whole;
    // Only cuts into lean change how salt travels; holes need not be counted for that.
    let filled = [StepKind::Slit, StepKind::Spike].into_iter().any(|kind| does_task(request, &request.the_method(), kind));
    let cuts = filled || request.skin_work.as_ref().is_some_and(|s| s.meat.is_some());
    let resolved = if cuts { kept_with_skin(request)?.0 } else { resolve_kept(request)? };
    let already = already_on(request, total_of(&resolved));
    let dose = dose_plan(request, &resolved, already).with_mixes(&really.mixes);
    let changed = really.changes.iter().fold(grams(0.0), |sum, c| sum + c.by);
    let weighed = really.grams.unwrap_or(dose.dose.to_weigh) + changed;
    // Nobody brushes off more than there is.
    let laid = laid_on_thickest(request, &resolved, &dose, if weighed > -already { weighed } else { -already });
    let mut changes = super::chill::changes(request, grams(0.0));
    changes.extend(really.changes.iter().copied());
    changes.extend(later_mixes(&resolved, &dose));
    let course = Course::new(request, &resolved, &laid, &changes, really.open_before);
    Ok(read(&course, &resolved, &dose))
}

/// How a salted piece stands after some hours in the cold, whatever the calendar says.
///
/// `salted` counts from the salting, `open` from the moment the skin stood in the open cold. `on` is the sodium
/// chloride that was really weighed on, where that is known; else what was planned.
pub fn state_after(request: &PlanRequest, on: Option<Mass>, salted: Time, open: Time) -> Result<ColdState, Vec<Refusal>> {
    let really = ActualSalt { grams: on, open_before: if open > salted { open - salted } else { no_time() }, ..ActualSalt::default() };
    with_course(request, &really, |course, _, _| course.state(salted, open))
}
