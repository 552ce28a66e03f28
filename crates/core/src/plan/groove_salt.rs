//! What grooves do to the salt.

use super::chill::cold_state;
use super::parts::ColdState;
use crate::ask::PlanRequest;
use crate::salt::FaceGrams;
use crate::settle::{GrooveSalt, Resolved, SkinPlan};
use crate::units::{Time, hours};

/// What grooves change after the planned hours, against the same piece left whole.
pub(crate) fn groove_salt(
    request: &PlanRequest,
    resolved: &Resolved,
    laid: &[FaceGrams],
    skin: &SkinPlan,
    state: &ColdState,
    planned: Time,
) -> Option<GrooveSalt> {
    let cuts = skin.work.meat.as_ref()?;
    let whole = Resolved { grooves: [None; 2], ..resolved.clone() };
    let without = cold_state(request, &whole, laid, planned, hours(0.0));
    Some(GrooveSalt {
        share: cuts.lodges(skin.work.area),
        middle: state.middle,
        middle_without: without.middle,
        depth: state.salted_depth,
        depth_without: without.salted_depth,
    })
}
