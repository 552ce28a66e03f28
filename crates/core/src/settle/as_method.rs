//! What the method says where the cook says nothing: the request made whole by its document.

use super::tasks::added;
use crate::ask::{PlanRequest, Refusal, SkinAsk};
use crate::method::{Method, StepKind, opens_lean_by, shape_of};
use crate::piece::Reshape;
use crate::salt::LedgerEntry;
use crate::units::{MassIn, Time, grams, hours};
use std::borrow::Cow;

/// The request with what its method says of cover, knife, mix and sauces; what the cook says of them stands.
///
/// Dose, heat and how it lies are looked up where they are used, since a guess has to stay a guess.
pub(crate) fn as_the_method_has_it(request: &PlanRequest) -> Cow<'_, PlanRequest> {
    let method = request.the_method();
    let says = &method.says;
    let nothing = says.cover.is_none()
        && says.knife.is_none()
        && says.mix.is_none()
        && says.ledger.is_empty()
        && says.faces.is_none()
        && says.shares.is_none()
        && request.tasks.iter().all(|ask| ask.kind().is_some());
    if nothing || !method.fits(request.cut) {
        return Cow::Borrowed(request);
    }
    let mut whole = request.clone();
    for ask in &mut whole.tasks {
        ask.named = method.kind_of(&ask.task);
    }
    whole.cover = request.cover.or(says.cover);
    whole.skin_work = knife(request, &method);
    whole.shares = request.shares.clone().or_else(|| says.shares.clone().filter(|_| request.faces.is_none()));
    whole.faces = request.faces.clone().or_else(|| says.faces.clone().filter(|_| request.shares.is_none()));
    // A mix of the cook's own is a bath where the method's is one.
    let bathes = says.mix.as_ref().and_then(|own| own.bath);
    let bath = |said: Option<Time>| said.or_else(|| bathes.map(|usual| bath_time(request, &method, usual)));
    whole.mix = request.mix.clone().or_else(|| says.mix.clone().map(|own| crate::ask::MixUse { bath: None, ..own }));
    whole.mix = whole.mix.map(|mix| crate::ask::MixUse { bath: bath(mix.bath), ..mix });
    let kilograms = request.portions.iter().map(|p| p.weight.in_kg()).sum::<f64>();
    let there = |own: &&LedgerEntry| !request.ledger.iter().any(|entry| entry.name == own.name);
    let brought = says.ledger.iter().filter(there).map(|own| LedgerEntry { used: grams(own.used.in_g() * kilograms), ..own.clone() });
    whole.ledger.extend(brought);
    Cow::Owned(whole)
}

/// What the cook said of knife and pick, over the method's own.
fn knife(request: &PlanRequest, method: &Method) -> Option<SkinAsk> {
    let Some(own) = method.says.knife.clone() else { return request.skin_work.clone() };
    let Some(said) = request.skin_work.clone() else {
        // What was bought scored, or has nothing to open, is not opened again.
        return Some(SkinAsk { cover: own.cover.filter(|_| request.scored.is_none()), ..own });
    };
    Some(SkinAsk { cover: said.cover.or(own.cover), meat: said.meat.or(own.meat), depth: said.depth.or(own.depth), ..said })
}

/// As long as it lies in the cold: the hours that were asked for, else the method's ideal.
fn bath_time(request: &PlanRequest, method: &Method, usual: Time) -> Time {
    request.hours.or(method.chill_hours().map(|own| own.ideal)).filter(|time| *time > hours(0.0)).unwrap_or(usual)
}

/// Whether its bath lasts as long as the cold does, and so follows the hours that are chosen.
pub fn bath_follows_the_cold(request: &PlanRequest) -> bool {
    request.mix.as_ref().is_none_or(|mix| mix.bath.is_none())
        && request.the_method().says.mix.as_ref().is_some_and(|mix| mix.bath.is_some())
}

/// The changes of shape, each with whether it comes before the salt: the method's and the cook's own, less what is left out.
pub(crate) fn shapes(request: &PlanRequest, method: &Method) -> Vec<(bool, Reshape)> {
    let left_out = |kind: StepKind| request.tasks.iter().any(|ask| ask.leave_out && ask.kind() == Some(kind));
    let mut found: Vec<(bool, Reshape)> =
        method.shapes().filter(|(_, kind, _)| !left_out(*kind)).map(|(before, _, shape)| (before, shape)).collect();
    let own = added(request).into_iter().map(|task| task.kind).filter(|kind| !method.has(*kind));
    let before = |kind: StepKind| kind.usual_place() < StepKind::Salt.usual_place() && !(kind == StepKind::Tie && request.cut.is_bird());
    found.extend(own.filter_map(|kind| Some((before(kind), shape_of(kind)?))));
    // What is in strips already is not cut again.
    found.retain(|(_, shape)| *shape != Reshape::Strips || !request.cut.is_in_strips());
    found
}

/// Whether a task of this kind is done: the method's and not left out, or the cook's own.
pub(crate) fn does_task(request: &PlanRequest, method: &Method, kind: StepKind) -> bool {
    let left_out = request.tasks.iter().any(|ask| ask.leave_out && ask.kind() == Some(kind));
    !left_out && (method.has(kind) || added(request).iter().any(|own| own.kind == kind))
}

/// Whether a task opens the lean, or turns an outside in.
pub(crate) fn opened_by_a_task(request: &PlanRequest, method: &Method) -> bool {
    let left_out = |kind: StepKind| request.tasks.iter().any(|ask| ask.leave_out && ask.kind() == Some(kind));
    let own = added(request).into_iter().any(|task| opens_lean_by(task.kind));
    own || method.tasks.iter().any(|task| task.effects.opens_lean && !left_out(task.kind))
}

/// Refusals at the fields of the document that brought them, where a cook sent a whole one.
pub(crate) fn at_the_document(request: &PlanRequest, refused: Vec<Refusal>) -> Vec<Refusal> {
    let method = request.the_method();
    if Method::find(&method.id).is_some_and(|shipped| shipped == method) {
        return refused;
    }
    let from_it = |field: &str| {
        let of = |root: &str| field.strip_prefix(root).is_some_and(|rest| rest.is_empty() || rest.starts_with(['.', '[']));
        of("mix") && request.mix.is_none()
            || of("skin") && request.skin_work.is_none()
            || of("salt.cover") && request.cover.is_none()
            || of("salt.g_per_kg") && request.dose.is_none()
            || of("fire.finish") && request.fire.finish.is_none()
            || of("fire.stages") && request.fire.stages.is_none()
            || of("fire.again") && request.fire.again.is_none()
            || of("ledger") && request.ledger.is_empty()
            || (of("salt.faces") || of("salt.shares")) && request.faces.is_none() && request.shares.is_none()
    };
    let moved = |refusal: Refusal| {
        if from_it(&refusal.field) { Refusal { field: format!("method.{}", refusal.field).into(), ..refusal } } else { refusal }
    };
    refused.into_iter().map(moved).collect()
}
