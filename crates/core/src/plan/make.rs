//! A plan made: the request settled, the work drafted and placed, the heat and the cold reckoned, and what is to be said of it all.

use super::answer::{Plan, PlanStep};
use super::chill::{before_clock, fridge_plan, salted_late, unsalted};
use super::course::Course;
use super::fierce_end::fierce_end;
use super::grams::{dose_plan, laid_on_thickest, later_mixes, total_of};
use super::groove_salt::groove_salt;
use super::heated::Heated;
use super::hours_asked::{hours_in_the_cold, in_the_house_from, thaws};
use super::parts::{DosePlan, SaltChange};
use super::saltiest::{saltiest, ways};
use super::serving::Serving;
use super::tasks_ask::too_late_in_the_cold;
use super::too_late::{Late, TooLate, too_late};
use super::written::Writing;
use crate::ask::{MixUse, PlanRequest, Refusal};
use crate::caution::{Caution, DoneFacts, Facts, cautions, done_cautions};
use crate::fire::HeatSpell;
use crate::method::{Place, StepKind};
use crate::place::{ColdPlan, Meals, lay_out};
use crate::salt::{DoseLevel, FaceGrams, dose_level};
use crate::say::worth_measuring;
use crate::say::{InspectionInput, inspection};
use crate::say::{Planned, done_facts, plan_cautions};
use crate::say::{WhyInput, why};
use crate::settle::Resolved;
use crate::settle::not_intact;
use crate::settle::resolve_with_skin;
use crate::settle::{already_on, no_time, salted_at};
use crate::settle::{as_the_method_has_it, at_the_document, bath_follows_the_cold};
use crate::units::{GramsPerKg, MassIn, Time, TimeIn, grams, minutes};
use crate::words;
use crate::work::{Phase, Step};

/// Makes a plan, or says everything that stands in its way.
///
/// Cost: one run of salt travel and about twenty short roasts, together a millisecond or two.
pub fn make_plan(request: &PlanRequest) -> Result<Plan, Vec<Refusal>> {
    let whole = as_the_method_has_it(request);
    let again = bath_follows_the_cold(request);
    planned(&whole, again).map_err(|refused| at_the_document(request, refused))
}

/// Plans a request made whole; a bath that lasts as long as the cold is planned again for the hours that were chosen.
fn planned(request: &PlanRequest, bath_follows: bool) -> Result<Plan, Vec<Refusal>> {
    // What lies there, and what goes on it.
    let (resolved, mut skin) = resolve_with_skin(request)?;
    let dose = dosed(request, &resolved)?;
    let resolved = Resolved { dose: reached(&resolved, &dose), ..resolved };
    let laid = laid_on_thickest(request, &resolved, &dose, dose.dose.to_weigh);
    let not_intact = not_intact(request, &resolved.method, skin.as_ref());
    let mut heated = Heated::of(request, &resolved, not_intact.is_some())?;
    let serving = Serving::of(request, &heated, not_intact.is_none())?;
    let thaw = thaws(request);
    // The hours: a draft says how long the work takes, the clock how long that leaves, and the steps are written for it.
    let kept = resolved.method.kept_cooked().map_or_else(no_time, |[_, ideal, _]| ideal);
    let writing = Writing { request, resolved: &resolved, dose: &dose, heated: &heated, thaw, serving: serving.as_ref(), kept };
    writing.refuse_unknown_tasks(skin.as_ref())?;
    let draft = writing.draft(skin.as_ref());
    // What is salted only after the cold lies there unsalted.
    let late_salt = salted_late(&resolved, &draft).filter(|_| salted_at(request).is_none());
    let in_the_cold = if late_salt.is_some() { unsalted(&laid) } else { laid.clone() };
    let later = if late_salt.is_some() { vec![] } else { later_mixes(&resolved, &dose) };
    let before = before_clock(request, &resolved, &in_the_cold, (dose.dose.to_weigh, &later));
    let cold = hours_in_the_cold(request, &draft, before.useful)?;
    if let Some(again) = bath_for(request, cold.planned).filter(|_| bath_follows) {
        return planned(&again, false);
    }
    too_late_in_the_cold(request, cold.planned)?;
    // How it stands when it comes out, and on the plate.
    let heat = heated.air(late_salt.is_none(), (cold.cooked, resolved.air.temperature));
    let late_course = late_salt.map(|bench| (salted_after(request, &resolved, &laid, cold.planned), bench));
    let mut fridge = fridge_plan(request, &resolved, before, &cold, (late_course, &heat));
    // A bath lays no dry salt.
    let bathed = request.mix.as_ref().is_some_and(|mix| mix.bath.is_some()) && dose.dose.to_weigh.in_g() < 0.05;
    fridge.wet = fridge.wet.filter(|_| !bathed);
    let saltiest = saltiest(request, &resolved, &dose, &cold, fridge.state.rim.0);
    fridge.state.rim.0 = saltiest.as_ref().map_or(fridge.state.rim.0, |portion| portion.rim);
    heated.follow_skin(request, &resolved, fridge.state.dryness);
    let kept = cold.cooked;
    let writing = Writing { request, resolved: &resolved, dose: &dose, heated: &heated, thaw, serving: serving.as_ref(), kept };
    let waits = waits(request, &resolved, &cold);
    let steps = lay_out(writing.steps(skin.as_ref(), (cold.planned, waits)), &cold, in_the_house_from(request).timestamp());
    let out = out_of_the_refrigerator(&resolved, &draft, &steps, waits);
    if let Some(skin) = &mut skin {
        let grooves = groove_salt(request, &resolved, &laid, skin, &fridge.state, cold.planned);
        skin.look_over(out, request.kitchen.out_at_most(), grooves);
    }
    // What has to be said of it.
    let planned = Planned {
        resolved: &resolved,
        dose: &dose,
        fridge: &fridge,
        skin: skin.as_ref(),
        heat: &heated,
        steps: &steps,
        not_intact,
        late_salt,
        serving: serving.as_ref(),
    };
    let done = done_facts(&planned, out);
    let (growing, cautions) = (done.growing(), everything_said(&planned, &done, &cold, out));
    let ways_out = ways((request, &planned), &laid, saltiest.as_ref(), cold.planned);
    let too_late = late((request, &planned), &laid, &heat, heated.whole.stands().in_min() > 0.0, &cold.meals)
        .filter(|_| late_salt.is_none() && resolved.method.rests_in_the_cold());
    let fierce_end = fierce_end(request, &resolved, &heated, not_intact.is_some(), fridge.state.dryness);
    let own_hours = resolved.method.chill_hours().is_some();
    let worth_measuring = worth_measuring(request.cut, &resolved, cold.planned, own_hours, heated.thicker_takes(request, &resolved));
    let fire = heated.into_fire(growing, cold.cooked);
    let inspection = inspection(&InspectionInput { resolved: &resolved, fridge: &fridge, keeps: cold.keeps, thaw });
    let why = why(&WhyInput { resolved: &resolved, dose: &dose, fridge: &fridge, skin: skin.as_ref(), fire: &fire });
    let (request, serve_at, meals) = (request.clone(), cold.serve, cold.meals);
    Ok(Plan {
        request,
        resolved,
        dose,
        fridge,
        skin,
        steps,
        fire,
        serve_at,
        serving,
        out,
        meals,
        worth_measuring,
        inspection,
        ways_out,
        too_late,
        fierce_end,
        why,
        cautions,
    })
}

/// The dose the total comes to: a marinade alone may bring less than was wanted.
fn reached(resolved: &Resolved, dose: &DosePlan) -> GramsPerKg {
    let whole = total_of(resolved);
    if dose.dose.total < whole && whole.in_g() > 0.0 {
        GramsPerKg(resolved.dose.0 * (dose.dose.total / whole).value)
    } else {
        resolved.dose
    }
}

/// The piece with all its weighed salt laid on only after so long in the cold; what a bed leaves has gone in meanwhile.
fn salted_after<'a>(request: &'a PlanRequest, resolved: &'a Resolved, laid: &[FaceGrams], cold: Time) -> Course<'a> {
    let on_one = laid.iter().fold(grams(0.0), |sum, face| sum + face.salt);
    let share = resolved.basis_of(resolved.thickest().weight) / resolved.basis_weight();
    let all = SaltChange::all_over(cold, on_one / share.value.max(1e-9));
    Course::new(request, resolved, laid, &[all], no_time())
}

/// The same with its bath as long as the cold; `None` where it is that already.
fn bath_for(request: &PlanRequest, cold: Time) -> Option<PlanRequest> {
    let mix = request.mix.as_ref()?;
    let bath = mix.bath?;
    let differs = (bath - cold).in_min().abs() > 1.0 && cold.in_min() > 1.0;
    differs.then(|| PlanRequest { mix: Some(MixUse { bath: Some(cold), ..mix.clone() }), ..request.clone() })
}

/// The grams; refused where what goes on brings more than anybody could eat.
fn dosed(request: &PlanRequest, resolved: &Resolved) -> Result<DosePlan, Vec<Refusal>> {
    let dose = dose_plan(request, resolved, already_on(request, total_of(resolved)));
    too_salty(request, resolved, &dose)?;
    Ok(dose)
}

/// How long it still waits salted until the work goes on, where the method has no stay in the cold: somewhere it has to lie.
fn waits(request: &PlanRequest, resolved: &Resolved, cold: &ColdPlan) -> Time {
    let waits = salted_at(request).is_some() && !resolved.method.rests_in_the_cold();
    let left = cold.to.duration_since(request.now.timestamp()).as_secs_f64() / 60.0;
    minutes(if waits { left.max(0.0) } else { 0.0 })
}

/// Time out of the refrigerator in sum: the work on the bench, the time since the salt where nobody chilled it, and what it waits
/// without a task that lays it into the cold.
fn out_of_the_refrigerator(resolved: &Resolved, draft: &[Step], steps: &[PlanStep], waits: Time) -> Time {
    let cold = steps.iter().any(|task| task.step.phase == Phase::Cold);
    let waits = if cold { 0.0 } else { waits.in_min() };
    let bench = |s: &&Step| s.place == Place::Bench && matches!(s.phase, Phase::Before | Phase::After);
    let unchilled = resolved.settled.out_since_salted().map_or(0.0, |out| out.as_secs_f64() / 60.0);
    minutes(draft.iter().filter(bench).map(|s| s.takes.in_min()).sum::<f64>() + unchilled + waits)
}

/// All cautions, loudest first.
fn everything_said(planned: &Planned, done: &DoneFacts, cold: &ColdPlan, out: Time) -> Vec<Caution> {
    let to_do: Vec<StepKind> = planned.steps.iter().map(|s| s.step.kind).collect();
    let mut said = cautions(&Facts {
        cut: planned.resolved.settled.cut,
        fridge: planned.resolved.air.temperature,
        keeps: cold.keeps,
        out_of_cold: cold.to,
        out_min: out.in_min(),
        out_at_most: planned.resolved.settled.kitchen.out_at_most(),
        to_do: &to_do,
    });
    said.extend(done_cautions(done));
    said.extend(plan_cautions(planned));
    // What belongs to a task that this plan has not stands for itself.
    for caution in &mut said {
        caution.at = caution.at.filter(|kind| to_do.contains(kind));
    }
    said.sort_by_key(|c| std::cmp::Reverse(c.severity));
    said
}

/// What to do instead, where too few hours are left for a dry-brine.
fn late(
    (request, plan): (&PlanRequest, &Planned),
    laid: &[FaceGrams],
    heat: &[HeatSpell],
    tempers: bool,
    meals: &Meals,
) -> Option<TooLate> {
    let fixed = laid_on_thickest(request, plan.resolved, plan.dose, grams(0.0));
    let (resolved, fridge, on_scale) = (plan.resolved, plan.fridge, plan.dose.on_scale);
    too_late(&Late { request, resolved, fridge, laid, fixed: &fixed, on_scale, heat, tempers, meals })
}

/// Sauces and mixes that bring more than anybody could eat are refused as a typed dose is.
fn too_salty(request: &PlanRequest, resolved: &Resolved, dose: &DosePlan) -> Result<(), Vec<Refusal>> {
    let mixed = dose.mix.as_ref().map_or(grams(0.0), |m| m.scaled.brings);
    let mixed = dose.mixes.iter().fold(mixed, |sum, mix| sum + mix.scaled.brings);
    let brought = dose.ledger.iter().take(request.ledger.len()).fold(mixed, |sum, line| sum + line.salt);
    let per_kg = GramsPerKg(brought.in_g() / resolved.edible_of(resolved.weight).in_kg().max(1e-9));
    if dose_level(per_kg) != DoseLevel::Refused {
        return Ok(());
    }
    let field = if request.ledger.is_empty() { "mix.g" } else { "ledger" };
    let typed = format!("{} g of salt from what goes on, {:.0} g/kg", words::g(brought), per_kg.0);
    Err(vec![Refusal::new(
        field,
        typed,
        "less than 40 g/kg; 7.5 to 12.5 is usual",
        "Take less of it, or say how little of it stays on the meat.",
    )])
}
