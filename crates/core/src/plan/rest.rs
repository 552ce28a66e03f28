//! The piece in the cold: its column, its hours, what they give, and why.

use super::answer::{ColdState, FridgePlan};
use super::request::PlanRequest;
use super::resolve::Resolved;
use crate::clock::{ColdPlan, kitchen};
use crate::method::StepKind;
use crate::piece::Family;
use crate::salt::travel::{Layer, Salting, Tissue, Travel, Uptake};
use crate::salt::{FaceGrams, RestHours, house_table};
use crate::skin::drying::skin_dryness;
use crate::units::{AreaIn, GramsPerDm2, GramsPerKg, LengthIn, Mass, MassIn, Time, TimeIn, grams, hours, millimetres};
use jiff::Timestamp;

/// The method's own hours, else the house table.
pub(super) fn rest_hours(with: &Resolved) -> RestHours {
    with.method.rest_hours().unwrap_or_else(|| house_table(with.thickness))
}

/// Layers of one column and the salt on its two ends.
fn column(request: &PlanRequest, with: &Resolved, laid: &[FaceGrams]) -> (Vec<Layer>, Salting) {
    let on = |id: &str| laid.iter().find(|f| f.face.id == id).map_or(0.0, |f| f.density().0);
    let lean = |thickness| Layer { tissue: Tissue::Lean, thickness };
    let covered = || {
        vec![Layer { tissue: Tissue::Skin, thickness: with.skin }, Layer { tissue: Tissue::Fat, thickness: with.fat }, lean(with.lean())]
    };
    let loosened = with.faces.iter().any(|f| f.id == "under-skin");
    // Skin and cap lie on top as the piece lies in the refrigerator; what is salted below meets bare lean.
    let over = if with.skin.in_mm() > 0.0 { "skin" } else { "fat" };
    // What a crust or a bed leaves behind lies in the skin.
    let residue = with.cover_face().zip(request.cover).map_or(0.0, |(face, ask)| {
        let laid = crate::salt::cover(ask.kind, face.area, ask.depth, &with.salt, ask.left);
        if face.id == over { laid.left.in_g() / face.area.in_dm2().max(1e-9) } else { 0.0 }
    });
    let (layers, top, bottom) = match request.cut.family {
        Family::Steak => (vec![lean(with.thickness)], on("cut"), on("cut")),
        Family::Bird | Family::FlatBird if loosened => (vec![lean(with.lean())], on("under-skin"), on("cavity")),
        Family::Bird | Family::FlatBird => (covered(), on("breast"), on("cavity")),
        Family::SkinSlab | Family::CapSlab | Family::Roast | Family::Rack | Family::Joint if with.faces.iter().any(|f| f.id == over) => {
            (covered(), on(over) + residue, on("meat"))
        }
        _ => (vec![lean(with.thickness)], on("meat"), on("meat")),
    };
    let inside = request.solution_sodium_mg_per_100g.map_or(0.0, |mg| {
        let salt = crate::salt::salt_in_solution(&request.cut, with.weight, mg);
        salt.in_g() / with.weight.in_kg()
    });
    (layers, Salting { top: GramsPerDm2(top), bottom: GramsPerDm2(bottom), inside: GramsPerKg(inside), uptake: Uptake::Store })
}

/// What the hours give.
///
/// `laid` is all salt on the faces, put on earlier or still to be weighed.
pub(super) fn fridge_plan(request: &PlanRequest, with: &Resolved, laid: &[FaceGrams], rest: RestHours, cold: &ColdPlan) -> FridgePlan {
    FridgePlan {
        state: cold_state(request, with, laid, cold.planned, open_for(request, cold)),
        rest,
        planned: cold.planned,
        fits: cold.fits,
        from: cold.from,
        to: cold.to,
        why: why(request, with, rest, cold),
    }
}

/// The column of the thickest portion at the moment of salting.
pub(super) fn travel_of(request: &PlanRequest, with: &Resolved, laid: &[FaceGrams]) -> Travel {
    let (layers, salting) = column(request, with, laid);
    let travel = Travel::new(&layers, salting, millimetres((with.thickness.in_mm() / 150.0).clamp(0.15, 0.6)));
    let grooves = with.grooves.iter().enumerate().filter_map(|(end, grooves)| Some((end, (*grooves)?)));
    grooves.fold(travel, |travel, (end, grooves)| travel.grooved(end, grooves))
}

/// Salt after `salted` and skin after `open` in the refrigerator of the request.
pub(super) fn cold_state(request: &PlanRequest, with: &Resolved, laid: &[FaceGrams], salted: Time, open: Time) -> ColdState {
    let mut travel = travel_of(request, with, laid);
    travel.run(salted, with.air.temperature);
    let profile = travel.profile();
    ColdState {
        evenness: profile.evenness(),
        salted_depth: profile.salted_depth(),
        rim: profile.rim(),
        middle: profile.middle(),
        slice: profile.slice(),
        dryness: (with.skin.in_mm() > 0.0).then(|| skin_dryness(with.skin, open, with.air)),
        profile,
    }
}

/// How long the skin stands open in the cold: from the moment it was put there, salted or not.
fn open_for(request: &PlanRequest, cold: &ColdPlan) -> Time {
    let laid: Option<Timestamp> = request.done.iter().filter(|d| d.kind == StepKind::Chill).map(|d| d.at).min();
    let since = laid.map_or(cold.from, |laid| laid.min(cold.from));
    kitchen(cold.to.duration_since(since))
}

fn why(request: &PlanRequest, with: &Resolved, rest: RestHours, cold: &ColdPlan) -> String {
    let table = house_table(with.thickness);
    let span = |r: RestHours| format!("{:.0}–{:.0}–{:.0} h", r.shortest.in_h(), r.ideal.in_h(), r.longest.in_h());
    let basis = if with.method.rest_hours().is_some() {
        format!(
            "The {} way dries the skin for {} (shortest, ideal, longest), which beats the house table’s {} for {:.0} mm.",
            with.method.name,
            span(rest),
            span(table),
            with.thickness.in_mm()
        )
    } else {
        format!("{:.0} mm thick: the house table says {} (shortest, ideal, longest).", with.thickness.in_mm(), span(table))
    };
    let planned = cold.planned.in_h();
    let chosen = if request.done.iter().any(|d| d.kind == StepKind::Salt) {
        format!(" Salted already, so {planned:.1} h is what there will be.")
    } else if request.hours.is_some() {
        format!(" You asked for {planned:.1} h.")
    } else if planned < rest.shortest.in_h() - 0.01 {
        format!(" Only {planned:.1} h are left before the meal.")
    } else if (planned - rest.ideal_h()).abs() < 0.01 {
        format!(" {planned:.0} h fit, and the hands-on work falls into waking hours.")
    } else if cold.fits < rest.ideal {
        format!(" {planned:.1} h are what is left before the meal.")
    } else {
        format!(" {planned:.1} h keeps the hands-on work out of the night.")
    };
    basis + &chosen
}

/// Grams put on by hand before the plan was asked for; the whole dose when nobody weighed.
pub(super) fn already_on(request: &PlanRequest, total: Mass) -> Mass {
    request.done.iter().filter(|d| d.kind == StepKind::Salt).fold(grams(0.0), |sum, d| sum + d.salt.unwrap_or(total))
}

/// When the salt clock started, if it has.
pub(super) fn salted_at(request: &PlanRequest) -> Option<Timestamp> {
    request.done.iter().filter(|d| d.kind == StepKind::Salt).map(|d| d.at).min()
}

/// Time for no rest at all.
pub(super) fn no_time() -> Time {
    hours(0.0)
}
