//! A kept piece in the cold, with what really went on it.

use super::answer::{ColdState, DosePlan};
use super::as_method::{as_the_method_has_it, does_task};
use super::chill::{already_on, no_time};
use super::course::{Course, SaltChange};
use super::grams::{dose_plan, laid_on_thickest, later_mixes, total_of};
use super::request::{PlanRequest, Refusal};
use super::resolve::{Resolved, resolve_kept};
use super::skin::kept_with_skin;
use crate::method::StepKind;
use crate::units::{Mass, Time, grams};

/// What really went on a kept piece, and when.
#[derive(Debug, Clone, Default)]
pub struct ActualSalt {
    /// Sodium chloride weighed on it beside what the request says was on already, where that is known; else as planned.
    pub grams: Option<Mass>,
    /// What was laid on or brushed off after the first salting.
    pub changes: Vec<SaltChange>,
    /// How long it lay open in the cold before the salt.
    pub open_before: Time,
    /// Mixes besides that went on; those nobody noted count as planned.
    pub mixes: Vec<ActualMix>,
}

/// A mix besides, as it went on.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ActualMix {
    /// Its place among the mixes besides.
    pub which: usize,
    /// Since the first salting.
    pub after: Time,
    /// Sodium chloride it brought.
    pub brought: Mass,
}

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
