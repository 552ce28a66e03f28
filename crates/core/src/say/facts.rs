//! What a plan lets the cautions look at.

use crate::ask::TaskAsk;
use crate::caution::{
    Caution, ChillFacts, CrispFacts, DoneFacts, DoseFacts, FireFacts, KnifeFacts, NotIntact, Work, chill_cautions, crisp_caution,
    dose_cautions, falls_short, fierce_under_the_crust, fire_cautions, knife_cautions, lengthened, measures_disagree, mineral_cautions,
    name_cautions, night_work, odd_thickness, overshoot, passed_already, pulled_dose, salted_last, skin_covered, task_caution,
    where_did_it_lie,
};
use crate::fire::{FALLS_APART_C, HeatSource};
use crate::method::{StepKind, usual_cautions};
use crate::piece::{FaceKind, Family, Species, weight_mismatch};
use crate::place::in_the_night;
use crate::plan::{ColdState, DosePlan, FridgePlan, Heated, PlanStep, Serving};
use crate::salt::{ChillHours, CoverKind};
use crate::settle::{Resolved, Settled, SkinPlan};
use crate::skin::CoverWork;
use crate::skin::drying::FridgePlacement;
use crate::units::{GramsPerKg, LengthIn, Mass, MassIn, Temperature, TemperatureIn, Time};

/// A plan as far as it is made when its cautions are asked for.
pub(crate) struct Planned<'a> {
    pub resolved: &'a Resolved,
    pub dose: &'a DosePlan,
    pub fridge: &'a FridgePlan,
    pub skin: Option<&'a SkinPlan>,
    pub heat: &'a Heated,
    pub steps: &'a [PlanStep],
    /// Why it is no longer intact; `None` where it is.
    pub not_intact: Option<NotIntact>,
    /// How long before the heat it is salted, where that is after the cold or without one.
    pub late_salt: Option<Time>,
    /// How long the meal lasts, where it is a span.
    pub serving: Option<&'a Serving>,
}

/// From so much air on a surface has to brown at once (our estimate).
const BROWNS_C: f64 = 180.0;

/// What may go wrong with this plan: its hours, its dose, its measures, its knife, its salt, its clock.
pub(crate) fn plan_cautions(plan: &Planned) -> Vec<Caution> {
    let Planned { resolved, fridge, .. } = *plan;
    let said_of_it = &*resolved.settled;
    let dose = dose_facts(plan);
    let measured = weight_mismatch(&said_of_it.cut, resolved.largest, resolved.mean_measures(), resolved.measured);
    let thickness = said_of_it.portions.iter().filter_map(|p| p.thickness).chain(said_of_it.thickness);
    let mut said = chill_cautions(&chill_facts(resolved, &fridge.state, fridge.planned, fridge.useful, (fridge.wet, fridge.model.dry)));
    said.extend(dose_cautions(&dose));
    said.extend(measured.filter(|_| said_of_it.portions.len() == 1).as_ref().map(measures_disagree));
    said.extend(odd_thickness(&said_of_it.cut, thickness));
    said.extend(knife_cautions(&knife_facts(plan)));
    said.extend(name_cautions(&dose));
    said.extend(said_of_it.out_since_salted().map(where_did_it_lie));
    said.extend(night(plan));
    said.extend(plan.heat.fire.overshoots.map(overshoot));
    said.extend(plan.heat.fire.short_by.map(|short| falls_short(short, plan.heat.fire.ends)));
    let passed = plan.heat.fire.passed.and_then(|i| Some((i, *plan.heat.fire.cores.get(i)?)));
    said.extend(passed.map(|(stage, core)| passed_already(stage, core)));
    said.extend(of_its_tasks(plan));
    // A surface that has to brown at once.
    let fierce = plan.heat.whole.stages.first().is_some_and(|stage| stage.air.in_c() >= BROWNS_C);
    said.extend(plan.late_salt.filter(|_| fierce && plan.dose.dose.to_weigh.in_g() > 0.05).and_then(salted_last));
    said.extend(plan.heat.whole.lengthened.map(|usual| lengthened(usual, plan.heat.fire.ends)));
    said.extend(fire_cautions(&fire_facts(plan, &names(said_of_it))));
    said.extend(dries_covered(plan).then(skin_covered));
    said.extend(hottest_under_the_crust(plan).and_then(fierce_under_the_crust));
    said.extend(crisp_facts(plan).as_ref().and_then(crisp_caution));
    said.extend(mineral_cautions(&dose));
    said.extend(pulled(plan));
    let span = plan.serving.zip(said_of_it.serve_at.as_ref());
    said.extend(span.map(|(serving, from)| serving.caution(from, said_of_it.kitchen.out_at_most())));
    said
}

/// Pulled apart, a joint is salted once more: what went on outside is all the middle has.
fn pulled(plan: &Planned) -> Option<Caution> {
    let pulls = plan.steps.iter().any(|s| s.step.kind == StepKind::PullApart);
    let falls_apart = plan.resolved.settled.cut.family == Family::Joint && plan.heat.fire.ends.in_c() >= FALLS_APART_C;
    (pulls || falls_apart).then(|| pulled_dose(plan.dose.dose.in_all()))
}

/// A piece after some hours in the cold; how long dry salt lies on it, and when its skin is dry.
pub fn chill_facts(
    resolved: &Resolved,
    state: &ColdState,
    hours: Time,
    useful: ChillHours,
    (wet, dry): (Option<Time>, Option<Time>),
) -> ChillFacts {
    ChillFacts {
        hours,
        useful,
        seasoned: state.salted_depth,
        dryness: state.dryness,
        rim: state.rim,
        wet,
        dry,
        crackles: resolved.crackles && resolved.method.dries_in_the_cold(),
        skin_open: resolved.lies.open(FaceKind::Skin) > 0.0,
    }
}

/// Whether skin that is to crackle lies covered in the cold, and nothing dries it afterwards.
fn dries_covered(plan: &Planned) -> bool {
    let covered = matches!(plan.resolved.lies, FridgePlacement::Covered | FridgePlacement::Boxed);
    let cold = plan.steps.iter().any(|s| s.step.kind == StepKind::Chill);
    covered && cold && plan.resolved.crackles && plan.resolved.skin.in_mm() > 0.0 && plan.resolved.settled.cover.is_none()
}

/// The hottest stage between the laying on of a crust and its coming off.
fn hottest_under_the_crust(plan: &Planned) -> Option<Temperature> {
    plan.resolved.settled.cover.filter(|cover| cover.kind == CoverKind::Crust)?;
    let stages = plan.steps.iter().filter(|s| s.step.is_stage());
    let at = |kind: StepKind| plan.steps.iter().position(|s| s.step.kind == kind);
    let off = at(StepKind::CoverOff);
    // One that lies there already only comes off.
    let on = at(StepKind::CoverOn).or(off.map(|_| 0))?;
    let off = off.unwrap_or(usize::MAX);
    let under = |task: &&PlanStep| plan.steps.iter().position(|s| s.step.id == task.step.id).is_some_and(|at| (on..off).contains(&at));
    let hottest = stages.zip(&plan.heat.whole.stages).filter(|(task, _)| under(task)).map(|(_, stage)| stage.air);
    hottest.max_by(|a, b| a.in_c().total_cmp(&b.in_c()))
}

fn dose_facts<'a>(plan: &Planned<'a>) -> DoseFacts<'a> {
    let Planned { resolved, dose, .. } = *plan;
    let said_of_it = &*resolved.settled;
    let mixes = || said_of_it.mix.iter().map(|used| &used.mix).chain(said_of_it.mixes.iter().map(|used| &used.mix));
    let parts = mixes().flat_map(|mix| mix.parts.iter().map(|part| part.name.as_str()).chain([mix.name.as_str()]));
    // What is asked about is the mix that a face carries least of.
    let mut carried: Vec<(&str, f64, (Mass, Mass))> = dose
        .mix
        .iter()
        .filter(|mix| mix.bath.is_none())
        .map(|mix| (mix.name.as_str(), mix.share, (mix.scaled.used, mix.carries)))
        .chain(dose.mixes.iter().map(|mix| (mix.name.as_str(), mix.holds, (mix.scaled.used, mix.carries))))
        .collect();
    carried.sort_by(|a, b| ((b.2.0 / b.2.1).value).total_cmp(&((a.2.0 / a.2.1).value)));
    let fullest = carried.first().copied();
    DoseFacts {
        eaten: GramsPerKg(dose.dose.in_all().in_g() / resolved.edible_of(resolved.weight).in_kg().max(1e-9)),
        dose: &dose.dose,
        ledger: &said_of_it.ledger,
        mix: fullest.map(|(name, share, _)| (name, share)).or(dose.mix.as_ref().map(|mix| (mix.name.as_str(), mix.share))),
        carries: fullest.map(|(.., carries)| carries),
        bathed: said_of_it.mix.as_ref().is_some_and(|mix| mix.bath.is_some()),
        salt: &resolved.salt,
        names: parts.chain(said_of_it.ledger.iter().map(|entry| entry.name.as_str())).collect(),
        unknown: mixes().flat_map(|mix| mix.unknown()).collect(),
        sodium_per_serving: dose.sodium_per_serving,
        between: dose
            .ledger
            .iter()
            .zip(&said_of_it.ledger)
            .filter_map(|(line, entry)| Some((entry.name.as_str(), line.between?.0, line.between?.1)))
            .collect(),
        weigh_between: dose.scale_between,
        habit: said_of_it.usual_dose.zip(said_of_it.dose),
    }
}

fn knife_facts<'a>(plan: &Planned<'a>) -> KnifeFacts<'a> {
    let Planned { resolved, skin, .. } = *plan;
    let said_of_it = &*resolved.settled;
    let work =
        |skin: &'a SkinPlan| Work { refused: skin.refused.as_deref(), tool: &skin.ask.tool.name, fit: skin.work.fit, says: skin.work.says };
    KnifeFacts {
        step: if skin.is_some_and(|s| s.work.scoring.is_some()) { StepKind::Score } else { StepKind::Pierce },
        work: skin.filter(|s| s.ask.cover != CoverWork::Whole).map(work),
        not_intact: plan.not_intact,
        species: said_of_it.cut.species,
    }
}

fn fire_facts<'a>(plan: &Planned<'a>, names: &'a [String]) -> FireFacts<'a> {
    let (whole, said_of_it) = (&plan.heat.whole, &*plan.resolved.settled);
    let does = |kind| plan.steps.iter().any(|s| s.step.kind == kind);
    FireFacts {
        stages: &whole.stages,
        species: said_of_it.cut.species,
        drips: plan.resolved.skin.in_mm() > 0.0 || plan.resolved.fat.in_mm() > 0.0,
        temper: whole.temper,
        hold: whole.hold.map(|(_, most)| most),
        marinated: said_of_it.ledger.iter().any(|entry| entry.bath.is_some()) || said_of_it.mix.is_some() || !said_of_it.mixes.is_empty(),
        basted: [StepKind::Baste, StepKind::Glaze].into_iter().find(|kind| does(*kind)),
        portions: &plan.heat.portions,
        names,
    }
}

/// The heat as it is judged; `out` is how long it was out of the refrigerator before.
pub(crate) fn done_facts<'a>(plan: &Planned<'a>, out: Time) -> DoneFacts<'a> {
    let Planned { resolved, heat, .. } = *plan;
    let said_of_it = &*resolved.settled;
    let watched = [StepKind::Roast, StepKind::Sear].into_iter().find(|kind| plan.steps.iter().any(|s| s.step.kind == *kind));
    DoneFacts {
        cut: said_of_it.cut,
        intact: plan.not_intact.is_none(),
        targets: &heat.finish,
        slow: heat.fire.slow,
        curve: &heat.curve,
        heat: heat.fire.takes,
        out,
        smoked: heat.whole.stages.iter().any(|stage| stage.with == HeatSource::Smoker),
        held: heat.whole.hold.is_some(),
        measured: said_of_it.start,
        step: watched.unwrap_or(StepKind::Roast),
    }
}

/// What goes on, in lower case.
fn names(said_of_it: &Settled) -> Vec<String> {
    let mixes = said_of_it.mix.iter().map(|used| &used.mix).chain(said_of_it.mixes.iter().map(|used| &used.mix));
    let parts = mixes.flat_map(|mix| mix.parts.iter().map(|part| part.name.to_lowercase()));
    said_of_it.ledger.iter().map(|entry| entry.name.to_lowercase()).chain(parts).collect()
}

fn crisp_facts(plan: &Planned) -> Option<CrispFacts> {
    let kinds = [StepKind::Grill, StepKind::Roast, StepKind::Sear];
    let at = kinds.into_iter().find(|kind| plan.steps.iter().any(|s| s.step.kind == *kind))?;
    Some(CrispFacts { crisp: plan.heat.crisp?, crackles: plan.resolved.crackles && plan.resolved.settled.cut.species == Species::Pork, at })
}

/// What belongs to the tasks as such: the document's, and the cook's own.
fn of_its_tasks(plan: &Planned) -> Vec<Caution> {
    let stands = |kind: StepKind| plan.steps.iter().any(|s| s.step.kind == kind);
    let rows = plan.resolved.method.tasks.iter().flat_map(|task| task.cautions.iter().map(|code| (code.as_ref(), task.kind)));
    let own = plan
        .resolved
        .settled
        .tasks
        .iter()
        .filter_map(TaskAsk::kind)
        .flat_map(|kind| usual_cautions(kind).iter().map(move |code| (*code, kind)));
    let mut said: Vec<Caution> = Vec::new();
    let hung = (plan.resolved.lies == FridgePlacement::Hung).then_some(("hangs-cold", StepKind::Chill));
    let bathed = plan.resolved.settled.mix.as_ref().is_some_and(|mix| mix.bath.is_some())
        || plan.resolved.settled.ledger.iter().any(|entry| entry.bath.is_some());
    let frozen = (plan.resolved.settled.frozen && bathed).then_some(("freeze-in-marinade", StepKind::Thaw));
    let ahead = plan.resolved.method.heats_again().then_some(("cooked-ahead", StepKind::ChillCooked));
    for (code, kind) in rows.chain(own).chain(hung).chain(frozen).chain(ahead).filter(|(_, kind)| stands(*kind)) {
        if !said.iter().any(|caution| caution.code == code) {
            said.extend(task_caution(code, kind));
        }
    }
    said
}

/// Hands at night.
fn night(plan: &Planned) -> Option<Caution> {
    let zone = plan.resolved.settled.now.time_zone();
    let night = in_the_night(plan.steps, plan.resolved.settled.kitchen.quiet, zone)?;
    Some(night_work(&night.step.title, &night.starts.to_zoned_datetime(zone.clone()), night.step.kind))
}
