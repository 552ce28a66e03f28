//! The rooms in order.

use super::answer::{ColdState, DosePlan, FirePlan, LedgerLineDone, Plan};
use super::course::{Course, SaltChange};
use super::grams::{dose_plan, laid_on, laid_on_thickest, total_of};
use super::inspection::{Looked, inspection};
use super::plan_cautions::{Planned, out_since_salted, plan_cautions};
use super::request::{BoughtScoring, PlanRequest, Refusal};
use super::resolve::{FilledPortion, Resolved, resolve_kept};
use super::rest::{already_on, before_clock, cold_state, fridge_plan, no_time, salted_at};
use super::skin::{enters_lean, groove_salt, kept_with_skin, resolve_with_skin};
use super::too_late::{Late, TooLate, too_late};
use super::ways_out::{Salty, WayOut, ways_out};
use super::why::{Known, why};
use super::worth::worth_measuring;
use crate::caution::{Caution, Facts, cautions};
use crate::clock::{ClockRefusal, ColdAsk, ColdPlan, Keeping, Meals, choose_cold, keeps, lay_out, thaw_time};
use crate::fire::{
    Body, CarryBand, FinishTarget, FireAnswer, FireAsk, FireStage, Heating, body, fire_plan, in_the_heat, targets, trade_time,
};
use crate::method::{Phase, Place, Recipe, Step, StepKind, Surface, lay_out_steps};
use crate::piece::{Cut, Family, FireShape};
use crate::salt::{DoseLevel, FaceGrams, LedgerEntry, dose_level};
use crate::units::{
    GramsPerKg, IntervalIn, LengthIn, Mass, MassIn, Temperature, TemperatureIn, Time, TimeIn, celsius, grams, millimetres, minutes,
};
use crate::words;

/// Makes a plan, or says everything that stands in its way.
///
/// Cost: one run of salt travel and about twenty short roasts, together a few milliseconds.
pub fn make_plan(request: &PlanRequest) -> Result<Plan, Vec<Refusal>> {
    let (with, mut skin) = resolve_with_skin(request)?;
    let cut = request.cut;
    let already = already_on(request, total_of(&with));
    let dose = dose_plan(request, &with, already);
    too_salty(request, &with, &dose)?;
    let into_lean = request.scored == Some(BoughtScoring::IntoLean) || enters_lean(skin.as_ref());
    let heated = heated(request, &with, into_lean)?;
    let Heated { stages, tempering, rest, finish, in_heat, fire, .. } = &heated;
    let thaw = request.frozen.then(|| thaw_time(as_frozen(request))).filter(|_| !is_done(request, StepKind::Thaw));
    let on_scale = scale_grams(&with, &dose.by_face);
    let (sauces, each) = (sauces(request, &with, &dose), each_on_scale(&with, &dose));
    let write = |cold: Time| {
        let recipe = Recipe {
            method: with.method,
            cut,
            grams: &on_scale,
            to_weigh: dose.on_scale,
            salt: &with.salt.name,
            mix: dose.mix.as_ref().map(|mix| (mix.name.as_str(), mix.scaled.used)),
            knife: skin.as_ref().map(|s| (&s.ask, &s.work)),
            into_lean,
            cold,
            already_cold: lies_salted_in_the_cold(request),
            thaw,
            tempering: *tempering,
            stages,
            fire,
            targets: finish,
            lies: with.lies,
            pieces: with.portions.len(),
            each: &each,
            surface: surface(&with, cut),
            sauces: &sauces,
            cover: dose.cover.as_ref(),
        };
        still_to_do(request, lay_out_steps(&recipe), &dose)
    };
    let draft = write(no_time());
    let sum = |phase: Phase| draft.iter().filter(|s| s.phase == phase).fold(no_time(), |sum, s| sum + s.takes);
    let laid = laid_on_thickest(request, &with, &dose, dose.dose.to_weigh);
    let before = before_clock(request, &with, &laid, dose.dose.to_weigh);
    let ask = ColdAsk {
        now: request.now.clone(),
        serve_at: request.serve_at.clone(),
        thaw: sum(Phase::Thawing),
        before: sum(Phase::Before),
        after: sum(Phase::After),
        rest: before.rest,
        asked: request.hours,
        salted_at: salted_at(request),
        keeping: keeping(request),
        thawed_at: request.done.iter().filter(|d| d.kind == StepKind::Thaw).map(|d| d.at).max(),
        quiet: request.kitchen.quiet,
    };
    let cold = choose_cold(&ask).map_err(|refusal| vec![clock_refusal(request, &refusal)])?;
    lies_too_long(request, &cold)?;
    let heating = Heating { tempering: *tempering, stages, rest: *rest };
    let heat = in_the_heat(*in_heat, fire, &heating);
    let mut fridge = fridge_plan(request, &with, before, &cold, &heat);
    let saltiest = saltiest(request, &with, &dose, &cold, fridge.state.rim.0);
    if let Some(saltiest) = &saltiest {
        fridge.state.rim.0 = saltiest.rim;
    }
    let steps = lay_out(write(cold.planned), &cold, request.now.timestamp());
    let bench = |s: &&Step| s.place == Place::Bench && matches!(s.phase, Phase::Before | Phase::After);
    let unchilled = out_since_salted(request).map_or(0.0, |out| out.as_secs_f64() / 60.0);
    let out_min: f64 = draft.iter().filter(bench).map(|s| s.takes.in_min()).sum::<f64>() + unchilled;
    if let Some(skin) = &mut skin {
        skin.look_over(minutes(out_min), groove_salt(request, &with, &laid, skin, &fridge.state, cold.planned));
    }
    let planned = Planned { request, with: &with, dose: &dose, fridge: &fridge, skin: skin.as_ref(), fire, steps: &steps };
    let said = everything_said(&planned, finish, &cold, out_min);
    let ways = ways(&planned, &laid, saltiest.as_ref(), cold.planned);
    let late = late(&planned, &laid, &heat, tempering.in_min() > 0.0, &cold.meals);
    let own_hours = with.method.rest_hours().is_some();
    // Where the hours do not follow the thickness, the heat still may; a hollow bird's follows its weight.
    let asks_the_fire = own_hours && with.guessed.contains(&"piece.salt_thickness_mm") && !matches!(cut.fire, FireShape::HollowBird { .. });
    let thicker_takes = asks_the_fire.then(|| heated.with_more(request, &with));
    let trade = trade_time(cut, with.largest, with.thickness);
    let fire = FirePlan { targets: finish.clone(), trade, answer: fire.clone() };
    let notes = inspection(&Looked { request, with: &with, fridge: &fridge, keeps: cold.keeps, thaw });
    let reasons = why(&Known { request, with: &with, dose: &dose, fridge: &fridge, skin: skin.as_ref(), fire: &fire });
    let worth = worth_measuring(&with, cold.planned, own_hours, thicker_takes);
    Ok(Plan {
        request: request.clone(),
        dose,
        skin,
        steps,
        fire,
        serve_at: cold.serve.clone(),
        out: minutes(out_min),
        meals: cold.meals.clone(),
        worth_measuring: worth,
        inspection: notes,
        ways_out: ways,
        too_late: late,
        why: reasons,
        cautions: said,
        fridge,
        with,
    })
}

/// All cautions, loudest first.
fn everything_said(planned: &Planned, targets: &[FinishTarget], cold: &ColdPlan, out_min: f64) -> Vec<Caution> {
    let to_do: Vec<StepKind> = planned.steps.iter().map(|s| s.step.kind).collect();
    let mut said = cautions(&Facts {
        cut: planned.request.cut,
        fridge: planned.with.air.temperature,
        targets,
        keeps: cold.keeps,
        out_of_cold: cold.to,
        out_min,
        to_do: &to_do,
    });
    said.extend(plan_cautions(planned));
    said.sort_by_key(|c| std::cmp::Reverse(c.severity));
    said
}

/// Ways out of a rim too salty, of the portion where it is the saltiest.
fn ways(plan: &Planned, laid: &[FaceGrams], saltiest: Option<&Saltiest>, planned: Time) -> Vec<WayOut> {
    let (request, with) = (plan.request, plan.with);
    let fixed = laid_on_thickest(request, with, plan.dose, grams(0.0));
    let (rim, on_scale) = (plan.fridge.state.rim.0, plan.dose.on_scale);
    match saltiest {
        None => ways_out(&Salty { request, with, laid, fixed: &fixed, on_scale, planned, rim }),
        Some(own) => ways_out(&Salty { request, with: &own.with, laid: &own.laid, fixed: &own.fixed, on_scale, planned, rim }),
    }
}

/// What to do instead, where too few hours are left for a dry-brine.
fn late(plan: &Planned, laid: &[FaceGrams], heat: &[(Time, Temperature)], tempers: bool, meals: &Meals) -> Option<TooLate> {
    let fixed = laid_on_thickest(plan.request, plan.with, plan.dose, grams(0.0));
    let (request, with, fridge, on_scale) = (plan.request, plan.with, plan.fridge, plan.dose.on_scale);
    too_late(&Late { request, with, fridge, laid, fixed: &fixed, on_scale, heat, tempers, meals })
}

/// The piece in the heat.
struct Heated {
    stages: Vec<FireStage>,
    tempering: Time,
    rest: Time,
    start: Temperature,
    lead: FinishTarget,
    finish: Vec<FinishTarget>,
    in_heat: Body,
    fire: FireAnswer,
}

fn heated(request: &PlanRequest, with: &Resolved, into_lean: bool) -> Result<Heated, Vec<Refusal>> {
    let cut = request.cut;
    let mut finish = finish_targets(request, into_lean);
    let Some(lead) = finish.first().copied() else {
        return Err(vec![Refusal::new("piece.cut", cut.id, "a cut with a finish temperature", "Choose another cut.")]);
    };
    let (stages, tempering, rest) = (with.method.heat(cut), with.method.tempering(cut), with.method.rest(cut));
    // Half an hour out warms the outside, not the middle: a few degrees on the mean (our estimate).
    let start = if tempering.in_min() > 0.0 { celsius(8.0) } else { celsius(5.0) };
    let heat = |body: Body| fire_plan(&FireAsk { body, stages: &stages, rest, target: &lead, band: CarryBand::of(cut) });
    let (in_heat, fire) = slowest(with, |p| body(cut, p.weight, p.thickness, p.measures, start), &heat);
    pull(&mut finish, &lead, &fire);
    Ok(Heated { stages, tempering, rest, start, lead, finish, in_heat, fire })
}

impl Heated {
    /// What five millimetres more of thickness would add to the heat.
    fn with_more(&self, request: &PlanRequest, with: &Resolved) -> Time {
        let cut = request.cut;
        let heat =
            |body: Body| fire_plan(&FireAsk { body, stages: &self.stages, rest: self.rest, target: &self.lead, band: CarryBand::of(cut) });
        let more = |p: &FilledPortion| body(cut, p.weight, p.thickness + millimetres(5.0), p.measures, self.start);
        slowest(with, more, &heat).1.takes - self.fire.takes
    }
}

/// Time follows the portion that takes longest: the thickest or the heaviest, whichever that is.
fn slowest(with: &Resolved, shape: impl Fn(&FilledPortion) -> Body, heat: &impl Fn(Body) -> FireAnswer) -> (Body, FireAnswer) {
    let thickest = shape(with.thickest());
    let first = (thickest, heat(thickest));
    let heaviest = with.portions.get(with.heaviest_index()).map(shape).filter(|other| *other != thickest);
    match heaviest.map(|body| (body, heat(body))) {
        Some(other) if other.1.takes > first.1.takes => other,
        _ => first,
    }
}

/// Each place is pulled as far before its finish as the climb is counted on; for the authority's own temperature never
/// further than the low end of the climb.
fn pull(finish: &mut [FinishTarget], lead: &FinishTarget, fire: &FireAnswer) {
    let before = lead.finish.in_c() - fire.pull.in_c();
    for (i, target) in finish.iter_mut().enumerate() {
        target.pull = if i == 0 {
            fire.pull
        } else {
            let counted = target.finish.in_c() - before.max(0.0);
            let safe = target.authority.in_c() - fire.band.0.in_kelvin();
            celsius(if target.below_authority() { counted } else { counted.max(safe) })
        };
    }
}

/// The heaviest piece as it is frozen, before anything is trimmed.
fn as_frozen(request: &PlanRequest) -> Mass {
    request.portions.iter().map(|p| p.weight).fold(grams(0.0), |most, w| if w > most { w } else { most })
}

/// What its storage limit runs from.
fn keeping(request: &PlanRequest) -> Keeping {
    let storage = request.cut.storage;
    if request.frozen {
        return Keeping::FromThaw(storage);
    }
    keeps(storage, request.bought_on, request.use_by, request.now.time_zone()).map_or(Keeping::Unknown, Keeping::Until)
}

fn surface(with: &Resolved, cut: Cut) -> Surface {
    if with.skin.in_mm() > 0.0 {
        Surface::Skin
    } else if with.fat.in_mm() > 0.0 && cut.family != Family::Steak {
        Surface::Fat
    } else {
        Surface::Lean
    }
}

/// One sentence for each salty thing that goes on besides salt and mix.
fn sauces(request: &PlanRequest, with: &Resolved, dose: &DosePlan) -> Vec<String> {
    let salted: Vec<&str> = dose.by_face.iter().filter(|f| f.salt.in_g() > 0.0).map(|f| f.face.name).collect();
    let faces = if salted.is_empty() { with.faces.first().map_or("meat", |f| f.name).to_owned() } else { salted.join(", ") };
    let line = |(entry, line): (&LedgerEntry, &LedgerLineDone)| match entry.bath {
        Some(time) => format!(
            "It lies in {} for {} h, turned once, and is dried after it: {} g of salt go in.",
            line.what,
            words::h(time),
            words::g(line.salt)
        ),
        None => format!("Over the {faces}, too: {}, which bring {} g of salt.", line.what, words::g(line.salt)),
    };
    request.ledger.iter().zip(&dose.ledger).map(line).collect()
}

/// Sauces and mixes that bring more than anybody could eat are refused as a typed dose is.
fn too_salty(request: &PlanRequest, with: &Resolved, dose: &DosePlan) -> Result<(), Vec<Refusal>> {
    let mixed = dose.mix.as_ref().map_or(grams(0.0), |m| m.scaled.brings);
    let brought = dose.ledger.iter().take(request.ledger.len()).fold(mixed, |sum, line| sum + line.salt);
    let per_kg = GramsPerKg(brought.in_g() / with.edible_of(with.weight).in_kg().max(1e-9));
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

/// Nothing raw lies open in the cold for weeks.
fn lies_too_long(request: &PlanRequest, cold: &ColdPlan) -> Result<(), Vec<Refusal>> {
    let laid = request.done.iter().filter(|d| d.kind == StepKind::Chill).map(|d| d.at).min();
    let days = laid.map_or(0.0, |laid| cold.to.duration_since(laid).as_secs_f64() / 86_400.0);
    if days <= MOST_DAYS_OPEN {
        return Ok(());
    }
    Err(vec![Refusal::new(
        "serve_at",
        cold.serve.strftime("%A %-d %B %H:%M").to_string(),
        format!("within {MOST_DAYS_OPEN:.0} days of the day it was laid into the refrigerator"),
        "Eat sooner, or freeze it.",
    )])
}

/// Two weeks beyond the longest storage limit.
const MOST_DAYS_OPEN: f64 = 19.0;

/// A portion whose outer mouthful is saltier than that of the thickest one.
struct Saltiest {
    with: Resolved,
    laid: Vec<FaceGrams>,
    fixed: Vec<FaceGrams>,
    rim: f64,
}

fn saltiest(request: &PlanRequest, with: &Resolved, dose: &DosePlan, cold: &ColdPlan, rim: f64) -> Option<Saltiest> {
    let thickest = with.thickest_index();
    let densest = |i: usize| {
        let laid = laid_on(request, with, dose, dose.dose.to_weigh, i);
        laid.iter().map(|f| f.density().0).fold(0.0, f64::max)
    };
    let (index, most) = (0..with.portions.len()).map(|i| (i, densest(i))).max_by(|a, b| a.1.total_cmp(&b.1))?;
    if index == thickest || most <= densest(thickest) * 1.01 {
        return None;
    }
    let portion = with.portions.get(index)?.clone();
    let own = Resolved { thickness: portion.thickness, thin: portion.thickness, portions: vec![portion], ..with.clone() };
    let laid = laid_on(request, with, dose, dose.dose.to_weigh, index);
    let fixed = laid_on(request, with, dose, grams(0.0), index);
    let its = cold_state(request, &own, &laid, cold.planned, cold.planned).rim.0;
    (its > rim).then_some(Saltiest { with: own, laid, fixed, rim: its })
}

/// What really went on a kept piece, and when.
#[derive(Debug, Clone, Default)]
pub struct ReallyOn {
    /// Sodium chloride weighed on it beside what the request says was on already, where that is known; else as planned.
    pub grams: Option<Mass>,
    /// What was laid on or brushed off after the first salting.
    pub changes: Vec<SaltChange>,
    /// How long it lay open in the cold before the salt.
    pub open_before: Time,
}

/// A kept piece through its rest, whatever the calendar says: `with` gets its course and the air it lies in.
///
/// One door for every question about a piece that lies in the cold: how it stands, what it will be, what would help.
pub fn with_course<T>(
    request: &PlanRequest,
    really: &ReallyOn,
    with: impl FnOnce(&Course, &Resolved, &DosePlan) -> T,
) -> Result<T, Vec<Refusal>> {
    // Only cuts into lean change how salt travels; holes need not be counted for that.
    let cuts = request.skin_work.as_ref().is_some_and(|s| s.meat.is_some());
    let resolved = if cuts { kept_with_skin(request)?.0 } else { resolve_kept(request)? };
    let already = already_on(request, total_of(&resolved));
    let dose = dose_plan(request, &resolved, already);
    let changed = really.changes.iter().fold(grams(0.0), |sum, c| sum + c.by);
    let weighed = really.grams.unwrap_or(dose.dose.to_weigh) + changed;
    // Nobody brushes off more than there is.
    let laid = laid_on_thickest(request, &resolved, &dose, if weighed > -already { weighed } else { -already });
    let mut changes = super::rest::changes(request, grams(0.0));
    changes.extend(really.changes.iter().copied());
    let course = Course::new(request, &resolved, &laid, &changes, really.open_before);
    Ok(with(&course, &resolved, &dose))
}

/// How a salted piece stands after some hours in the cold, whatever the calendar says.
///
/// `salted` counts from the salting, `open` from the moment the skin stood in the open cold. `on` is the sodium
/// chloride that was really weighed on, where that is known; else what was planned.
pub fn state_after(request: &PlanRequest, on: Option<Mass>, salted: Time, open: Time) -> Result<ColdState, Vec<Refusal>> {
    let really = ReallyOn { grams: on, changes: vec![], open_before: if open > salted { open - salted } else { no_time() } };
    with_course(request, &really, |course, _, _| course.state(salted, open))
}

/// Grams a portion as the scale shows them.
fn each_on_scale(with: &Resolved, dose: &DosePlan) -> Vec<Mass> {
    dose.by_portion.iter().map(|p| p.salt / with.salt.sodium_chloride()).collect()
}

/// Grams a face as the scale shows them: more than the sodium chloride, where the salt is not all of it.
fn scale_grams(with: &Resolved, by_face: &[FaceGrams]) -> Vec<FaceGrams> {
    by_face.iter().map(|f| FaceGrams { salt: f.salt / with.salt.sodium_chloride(), ..*f }).collect()
}

/// Finish targets; meat whose outside was cut into its inside goes to the authority's temperature at least.
fn finish_targets(request: &PlanRequest, into_lean: bool) -> Vec<FinishTarget> {
    let mut finish = targets(request.cut);
    if into_lean {
        for target in finish.iter_mut().filter(|t| t.finish < t.authority) {
            (target.finish, target.pull) = (target.authority, target.authority);
        }
    }
    finish
}

fn is_done(request: &PlanRequest, kind: StepKind) -> bool {
    request.done.iter().any(|d| d.kind == kind)
}

fn lies_salted_in_the_cold(request: &PlanRequest) -> bool {
    let salted = salted_at(request);
    salted.is_some() && request.done.iter().any(|d| d.kind == StepKind::Chill && Some(d.at) >= salted)
}

/// Drops the steps that are done, and puts a top-up in their place where grams are missing.
fn still_to_do(request: &PlanRequest, steps: Vec<Step>, dose: &DosePlan) -> Vec<Step> {
    let salted = is_done(request, StepKind::Salt);
    let chilled_salted = lies_salted_in_the_cold(request);
    let last = request.done.iter().filter(|d| d.kind != StepKind::Chill).map(|d| d.kind).max();
    let top_up = salted && dose.dose.to_weigh.in_g() >= 0.5;
    steps
        .into_iter()
        .filter(|s| match s.phase {
            Phase::Before if s.kind == StepKind::Salt && top_up => true,
            Phase::Before if s.kind == StepKind::Wash => !chilled_salted || top_up,
            Phase::Before | Phase::Thawing => last.is_none_or(|last| s.kind > last),
            _ => true,
        })
        .collect()
}

fn clock_refusal(request: &PlanRequest, refusal: &ClockRefusal) -> Refusal {
    let wall = |at: &jiff::ZonedDateTime| at.strftime("%A %H:%M").to_string();
    match refusal {
        ClockRefusal::MealTooSoon { possible, sound } => Refusal::new(
            "serve_at",
            request.serve_at.as_ref().map_or_else(|| "that meal".into(), |at| at.strftime("%A %-d %B %H:%M").to_string()),
            format!("{} at the earliest, {} with a sound rest", wall(possible), wall(sound)),
            "Eat later, or leave the meal open and take the best.",
        ),
        ClockRefusal::HoursDoNotFit { fits } => Refusal::new(
            "hours",
            request.hours.map_or_else(String::new, |h| format!("{:.1} h", h.in_h())),
            format!("at most {:.1} h before this meal", (fits.in_h() * 10.0).floor() / 10.0),
            "Eat later, or take fewer hours.",
        ),
        ClockRefusal::AlreadyLonger { already } => Refusal::new(
            "hours",
            request.hours.map_or_else(String::new, |h| format!("{:.1} h", h.in_h())),
            format!("{:.1} h: it is salted already", already.in_h()),
            "Leave the hours open.",
        ),
        ClockRefusal::TooFar { last } => Refusal::new(
            "serve_at",
            request.serve_at.as_ref().map_or_else(|| "that meal".into(), |at| at.strftime("%-d %B %Y").to_string()),
            format!("until {}: two months ahead", last.strftime("%-d %B %Y")),
            "Plan it nearer to the day.",
        ),
        ClockRefusal::TooLongSalted { last } => Refusal::new(
            "serve_at",
            request.serve_at.as_ref().map_or_else(|| "that meal".into(), |at| at.strftime("%A %-d %B %H:%M").to_string()),
            format!("until {}: it is salted already", last.strftime("%A %-d %B")),
            "Eat sooner, or freeze it.",
        ),
        ClockRefusal::BeyondCalendar => Refusal::new("serve_at", "that meal", "a date within this calendar", "Choose a nearer day."),
    }
}
