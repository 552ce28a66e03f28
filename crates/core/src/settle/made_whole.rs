//! The piece made whole: its guesses filled in, and what knife and pick open.

use super::as_method::{as_the_method_has_it, does_task};
use super::resolve::{resolve, resolve_kept};
use super::resolved::Resolved;
use super::skin::skin_plan;
use super::skin_plan::SkinPlan;
use crate::ask::{PlanRequest, Refusal};
use crate::method::StepKind;
use crate::piece::{Face, FaceKind};
use crate::salt::travel::Grooved;
use crate::units::{AreaIn, Length, LengthIn, Share, millimetres, square_decimetres};

/// Fills a request and computes knife and pick, since grooves change how salt travels.
pub(crate) fn resolve_with_skin(request: &PlanRequest) -> Result<(Resolved, Option<SkinPlan>), Vec<Refusal>> {
    finish(request, resolve(request)?)
}

/// The same for a kept piece, whatever today's rules refuse.
pub(crate) fn kept_with_skin(request: &PlanRequest) -> Result<(Resolved, Option<SkinPlan>), Vec<Refusal>> {
    finish(request, resolve_kept(request)?)
}

/// Knife and pick of a kept piece, as they were kept; `None` where there is nothing to open, or its measures cannot be read.
///
/// Nothing else is planned anew.
pub fn kept_skin(request: &PlanRequest) -> Option<SkinPlan> {
    kept_with_skin(&as_the_method_has_it(request)).ok()?.1
}

fn finish(request: &PlanRequest, mut resolved: Resolved) -> Result<(Resolved, Option<SkinPlan>), Vec<Refusal>> {
    let skin = skin_plan(request, &resolved).map_err(|refusal| vec![refusal])?;
    if let Some((skin, cuts)) = skin.as_ref().and_then(|s| Some((s, s.work.meat.as_ref()?))) {
        let grooved = Grooved { depth: cuts.depth, share: cuts.lodges(skin.work.area) };
        resolved.grooves = [cuts.above.as_ref().map(|_| grooved), Some(grooved)];
        // Both flanks of every cut: 2 × depth × length.
        resolved.opened = 2.0 * cuts.depth * cuts.cut_length();
    }
    if let Some(deep) = deep_cuts(request, &resolved) {
        let face: f64 = resolved.faces.iter().filter(|f| f.kind == FaceKind::Meat).map(Face::dm2).sum();
        let opened = square_decimetres(face / deep.apart_dm2 * 2.0 * deep.depth.in_mm() / 100.0 * deep.wide.in_mm() / 100.0);
        resolved.opened += opened;
        // What is pushed in lies on their flanks: as much of the salt as they are of all the lean it goes on.
        let share = Share(opened.in_dm2() / (opened.in_dm2() + face).max(1e-9));
        resolved.grooves[1] = Some(Grooved { depth: deep.depth, share });
    }
    Ok((resolved, skin))
}

/// Deep cuts into the lean that are filled with what is salted.
struct DeepCuts {
    /// One for so much of the face.
    apart_dm2: f64,
    depth: Length,
    wide: Length,
}

/// Slits every 40 mm, two thirds deep and 20 mm wide (our estimate, as the task says). A spike closes over its sliver, which holds no salt.
fn deep_cuts(request: &PlanRequest, resolved: &Resolved) -> Option<DeepCuts> {
    let does = |kind: StepKind| does_task(request, &resolved.method, kind);
    let lean = resolved.lean();
    does(StepKind::Slit).then(|| DeepCuts { apart_dm2: 0.16, depth: lean * (2.0 / 3.0), wide: millimetres(20.0) })
}
