//! Whether the inside of a piece is still as nature closed it: what was only outside has not come in.

use super::as_method::{opened_by_a_task, shapes};
use super::skin::enters_lean;
use super::skin_plan::SkinPlan;
use crate::ask::{BoughtScoring, PlanRequest};
use crate::caution::NotIntact;
use crate::method::Method;
use crate::piece::Reshape;
use crate::salt::PackLabel;

/// Sodium above the meat's own from which on a packer's label means that something was injected, mg in 100 g (our estimate): meat's
/// own differs by less.
const INJECTED_FROM: f64 = 40.0;

/// Why it is no longer intact; `None` where it is.
pub(crate) fn not_intact(request: &PlanRequest, method: &Method, skin: Option<&SkinPlan>) -> Option<NotIntact> {
    let shape = |wanted: Reshape| shapes(request, method).iter().any(|(_, shape)| *shape == wanted);
    let cut = request.scored == Some(BoughtScoring::IntoLean) || enters_lean(skin) || opened_by_a_task(request, method);
    if cut || shape(Reshape::Rolled) {
        Some(NotIntact::Cut)
    } else if injected(request) {
        Some(NotIntact::Injected)
    } else {
        // A bird's own cavity is no cut; anything else is opened to be filled.
        (shape(Reshape::Stuffed) && !request.cut.is_bird()).then_some(NotIntact::Filled)
    }
}

/// Whether the packer's label says that something was injected.
fn injected(request: &PlanRequest) -> bool {
    match request.solution {
        Some(PackLabel::UpTo(share)) => share.0 > 0.0,
        Some(PackLabel::Sodium(mg)) => mg > request.cut.sodium_mg_per_100g + INJECTED_FROM,
        None => false,
    }
}
