//! The rooms in order.

use super::answer::{ColdState, DosePlan, FirePlan, Plan, SkinPlan};
use super::course::{Course, SaltChange};
use super::grams::{dose_plan, laid_on_thickest, total_of};
use super::inspection::{Looked, inspection};
use super::request::{BoughtScoring, PlanRequest, Refusal};
use super::resolve::{Resolved, resolve};
use super::rest::{already_on, before_clock, fridge_plan, no_time, salted_at};
use super::rest_cautions::{RestAt, rest_cautions};
use super::skin::{enters_lean, groove_salt, resolve_with_skin};
use super::ways_out::{Salty, ways_out};
use super::why::{Known, why};
use super::worth::worth_measuring;
use crate::caution::{Caution, Facts, Severity, cautions};
use crate::clock::{ClockRefusal, ColdAsk, choose_cold, keeps, lay_out, thaw_time};
use crate::fire::{FinishTarget, Heating, fire_plan, in_the_heat, targets, trade_time};
use crate::method::{Phase, Place, Recipe, Step, StepKind, lay_out_steps};
use crate::piece::{FireShape, weight_mismatch};
use crate::salt::FaceGrams;
use crate::skin::{CoverWork, DepthSays, Fit};
use crate::units::{LengthIn, Mass, MassIn, Time, TimeIn, both_mass, celsius, grams, millimetres, minutes};

/// Makes a plan, or says everything that stands in its way.
///
/// Cost: one run of salt travel and about twenty short roasts, together a few milliseconds.
pub fn make_plan(request: &PlanRequest) -> Result<Plan, Vec<Refusal>> {
    let (with, mut skin) = resolve_with_skin(request)?;
    let cut = request.cut;
    let already = already_on(request, total_of(&with));
    let dose = dose_plan(request, &with, already);
    let stages = with.method.heat(cut);
    let finish = finish_targets(request, enters_lean(skin.as_ref()));
    let Some(lead) = finish.first() else {
        return Err(vec![Refusal::new("piece.cut", cut.id, "a cut with a finish temperature", "Choose another cut.")]);
    };
    let tempering = with.method.tempering(cut);
    // Half an hour out warms the outside, not the middle: a few degrees on the mean [est].
    let start = if tempering.in_min() > 0.0 { celsius(8.0) } else { celsius(5.0) };
    let fire = fire_plan(cut, with.largest, with.thickness, start, &stages, with.method.rest(cut), lead);
    let thaw = request.frozen.then(|| thaw_time(with.largest)).filter(|_| !is_done(request, StepKind::Thaw));
    let on_scale = scale_grams(&with, &dose.by_face);
    let write = |cold: Time| {
        let recipe = Recipe {
            method: with.method,
            cut,
            grams: &on_scale,
            to_weigh: dose.on_scale,
            salt: &with.salt.name,
            mix: dose.mix.as_ref().map(|mix| (mix.name.as_str(), mix.scaled.used)),
            knife: skin.as_ref().map(|s| (&s.ask, &s.work)),
            cold,
            already_cold: lies_salted_in_the_cold(request),
            thaw,
            tempering,
            stages: &stages,
            fire: &fire,
            finish: lead.finish,
        };
        still_to_do(request, lay_out_steps(&recipe), &dose)
    };
    let draft = write(no_time());
    let sum = |phase: Phase| draft.iter().filter(|s| s.phase == phase).fold(no_time(), |sum, s| sum + s.takes);
    let kept_from = if request.frozen { request.bought_on.map(|_| request.now.date()) } else { request.bought_on };
    let keeps = keeps(cut.storage, kept_from, request.use_by, request.now.time_zone());
    let laid = laid_on_thickest(request, &with, &dose, dose.dose.to_weigh);
    let before = before_clock(request, &with, &laid, dose.dose.to_weigh, keeps);
    let ask = ColdAsk {
        now: request.now.clone(),
        serve_at: request.serve_at.clone(),
        thaw: sum(Phase::Thawing),
        before: sum(Phase::Before),
        after: sum(Phase::After),
        rest: before.rest,
        asked: request.hours,
        salted_at: salted_at(request),
        keeps,
        quiet: request.kitchen.quiet,
    };
    let cold = choose_cold(&ask).map_err(|refusal| vec![clock_refusal(request, &refusal)])?;
    let heating = Heating { tempering, start, stages: &stages, rest: with.method.rest(cut) };
    let fridge = fridge_plan(request, &with, before, &cold, &in_the_heat(cut, with.largest, with.thickness, &fire, &heating));
    let steps = lay_out(write(cold.planned), &cold, request.now.timestamp());
    let out_min: f64 =
        draft.iter().filter(|s| s.place == Place::Bench && matches!(s.phase, Phase::Before | Phase::After)).map(|s| s.takes.in_min()).sum();
    if let Some(skin) = &mut skin {
        skin.look_over(minutes(out_min), groove_salt(request, &with, &laid, skin, &fridge.state, cold.planned));
    }
    let mut said = cautions(&Facts {
        cut,
        fridge: with.air.temperature,
        targets: &finish,
        keeps,
        out_of_cold: cold.to,
        out_min,
        pierced: skin.as_ref().is_some_and(|s| s.work.holes.is_some()),
        frozen: request.frozen,
    });
    let ways =
        ways_out(&Salty { request, with: &with, laid: &laid, on_scale: dose.on_scale, planned: cold.planned, rim: fridge.state.rim.0 });
    said.extend(plan_cautions(request, &with, &dose, &fridge, skin.as_ref()));
    said.sort_by_key(|c| std::cmp::Reverse(c.severity));
    let own_hours = with.method.rest_hours().is_some();
    // Where the hours do not follow the thickness, the heat still may; a hollow bird's follows its weight.
    let asks_the_fire = own_hours && with.guessed.contains(&"piece.salt_thickness_mm") && !matches!(cut.fire, FireShape::HollowBird { .. });
    let thicker_takes = asks_the_fire.then(|| {
        let thicker = fire_plan(cut, with.largest, with.thickness + millimetres(5.0), start, &stages, with.method.rest(cut), lead);
        thicker.takes - fire.takes
    });
    let fire = FirePlan { targets: finish, trade: trade_time(cut, with.largest), answer: fire };
    let notes = inspection(&Looked { request, with: &with, dose: &dose, fridge: &fridge, keeps, thaw });
    let reasons = why(&Known { request, with: &with, dose: &dose, fridge: &fridge, skin: skin.as_ref(), fire: &fire });
    let worth = worth_measuring(&with, cold.planned, own_hours, thicker_takes);
    Ok(Plan {
        request: request.clone(),
        dose,
        skin,
        steps,
        fire,
        serve_at: cold.serve.clone(),
        meals: cold.meals.clone(),
        worth_measuring: worth,
        inspection: notes,
        ways_out: ways,
        why: reasons,
        cautions: said,
        fridge,
        with,
    })
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
    let resolved = if cuts { resolve_with_skin(request)?.0 } else { resolve(request)? };
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

/// Grams a face as the scale shows them: more than the sodium chloride, where the salt is not all of it.
fn scale_grams(with: &Resolved, by_face: &[FaceGrams]) -> Vec<FaceGrams> {
    by_face.iter().map(|f| FaceGrams { salt: f.salt / with.salt.sodium_chloride(), ..*f }).collect()
}

/// Finish targets; meat whose outside was cut into its inside goes to the authority's temperature at least.
fn finish_targets(request: &PlanRequest, enters_lean: bool) -> Vec<FinishTarget> {
    let mut finish = targets(request.cut);
    if request.scored == Some(BoughtScoring::IntoLean) || enters_lean {
        for target in finish.iter_mut().filter(|t| t.finish < t.authority) {
            target.finish = target.authority;
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
        ClockRefusal::BeyondCalendar => Refusal::new("serve_at", "that meal", "a date within this calendar", "Choose a nearer day."),
    }
}

fn plan_cautions(
    request: &PlanRequest,
    with: &Resolved,
    dose: &DosePlan,
    fridge: &super::FridgePlan,
    skin: Option<&SkinPlan>,
) -> Vec<Caution> {
    use Severity::{Amber, Note};
    const MODEL: &str = "own estimate";
    let mut said = Vec::new();
    said.extend(rest_cautions(with, &RestAt { hours: fridge.planned, rest: fridge.rest, state: &fridge.state, wet: fridge.wet }));
    if with.dose.0 > 18.0 {
        said.push(Caution::new(
            "dose-high",
            Amber,
            format!("{:.1} g/kg is saltier than cured meat; 7.5 to 12.5 is usual.", with.dose.0),
            "common practice",
            Some(StepKind::LayOut),
        ));
    }
    if dose.dose.is_over_full() {
        let over = dose.dose.from_ledger - dose.dose.total;
        said.push(Caution::new("ledger-full", Amber, over_full(request, over), MODEL, Some(StepKind::LayOut)));
    }
    if let Some(asked) = weight_mismatch(&request.cut, with.largest, with.mean_measures(), with.thickness) {
        said.push(Caution::new(
            "measures-disagree",
            Amber,
            format!(
                "Your measures say {}, the scale says {}: measure again.",
                both_mass(asked.measured).metric,
                both_mass(asked.typed).metric
            ),
            "density 1.05–1.06 kg/L",
            None,
        ));
    }
    said.extend(knife_cautions(request, skin));
    if with.salt.is_potassium_blend() {
        said.push(Caution::new(
            "potassium",
            Amber,
            format!(
                "{} holds potassium chloride: with kidney trouble or heart medicine ask a doctor first. It is dosed by its sodium chloride.",
                crate::words::capital(&with.salt.name)
            ),
            "handbook section 11",
            Some(StepKind::LayOut),
        ));
    }
    said.push(Caution::new(
        "sodium",
        Note,
        format!("About {:.0} mg sodium a serving; WHO advises under 2,000 mg a day.", dose.sodium_per_serving.in_g() * 1000.0),
        "WHO; US Daily Value 2,300 mg",
        None,
    ));
    said
}

/// What knife and pick may do wrong.
fn knife_cautions(request: &PlanRequest, skin: Option<&SkinPlan>) -> Vec<Caution> {
    use Severity::{Amber, Red};
    const GUARD: &str = "handbook depth guard";
    let mut said = Vec::new();
    let step = skin.map_or(StepKind::Pierce, |s| if s.work.scoring.is_some() { StepKind::Score } else { StepKind::Pierce });
    if let Some(skin) = skin.filter(|s| s.ask.cover != CoverWork::Whole) {
        if let Some(text) = &skin.refused {
            said.push(Caution::new("no-depth", Amber, format!("No safe depth: {text}."), GUARD, Some(step)));
        }
        let tool = &skin.ask.tool.name;
        match skin.work.fit {
            Some(Fit::TooShort(by)) => said.push(Caution::new(
                "tool-short",
                Amber,
                format!("The {tool} is {:.1} mm too short to pass the skin: take a longer one before the first cut.", by.in_mm()),
                GUARD,
                Some(step),
            )),
            Some(Fit::TooLong(by)) => said.push(Caution::new(
                "tool-long",
                Amber,
                format!("The {tool} goes {:.1} mm deeper than is safe and cannot be set: take another.", by.in_mm()),
                GUARD,
                Some(step),
            )),
            _ => {}
        }
        match skin.work.says {
            DepthSays::IntoLean(by) => said.push(Caution::new(
                "into-lean",
                Red,
                format!(
                    "That depth goes {:.1} mm into the lean where fat is thinnest: juice comes up and spoils the crackling.",
                    by.in_mm()
                ),
                GUARD,
                Some(step),
            )),
            DepthSays::InMargin(by) => said.push(Caution::new(
                "into-margin",
                Amber,
                format!("{:.1} mm deeper than is safe at the thinnest place; the lean is near.", by.in_mm()),
                GUARD,
                Some(step),
            )),
            DepthSays::TooShallow(by) => said.push(Caution::new(
                "too-shallow",
                Amber,
                format!("{:.1} mm short of passing the thickest skin.", by.in_mm()),
                GUARD,
                Some(step),
            )),
            DepthSays::Safe => {}
        }
    }
    if request.scored == Some(BoughtScoring::IntoLean) || enters_lean(skin) {
        said.push(Caution::new(
            "non-intact",
            Amber,
            "Cut into the lean: no longer intact meat. At least 63 °C (145 °F; poultry 74 °C, 165 °F) and 3 min of rest all through; rare preferences do not apply.",
            "USDA FSIS, non-intact meat",
            Some(StepKind::Roast),
        ));
    }
    said
}

/// What is over, and what to leave out for it: the saltiest thing that can still be left out.
fn over_full(request: &PlanRequest, over: Mass) -> String {
    let over_g = over.in_g();
    let saltiest = request.ledger.iter().max_by(|a, b| a.salt_brought().in_g().total_cmp(&b.salt_brought().in_g()));
    let way_out = match saltiest {
        Some(entry) if entry.salt_brought() > over => {
            let less = entry.used * (over / entry.salt_brought()).value;
            format!("leave out {:.0} g of the {}", less.in_g().ceil(), entry.name)
        }
        Some(entry) => format!("leave out the {} altogether, and more", entry.name),
        None => "nothing can be taken out again; eat it in thinner slices, with something plain".into(),
    };
    format!("What is in already is {over_g:.1} g over the target: weigh no salt, and {way_out}.")
}
