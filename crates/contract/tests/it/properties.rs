//! What holds of every plan, over random requests of every kind. Refusals are counted.

use crate::dice::request;
use rauchkeller_core::ask::{BoughtScoring, PlanRequest};
use rauchkeller_core::caution::Caution;
use rauchkeller_core::fire::{FireStage, HeatSource, How, Look, StageEnd, Where};
use rauchkeller_core::method::{Place, StepKind};
use rauchkeller_core::piece::{Family, Species};
use rauchkeller_core::plan::{Plan, make_plan};
use rauchkeller_core::salt::PackLabel;
use rauchkeller_core::skin::{CoverWork, DepthSays, MeatSide};
use rauchkeller_core::units::{AreaIn, IntervalIn, LengthIn, MassIn, TemperatureIn, TimeIn};
use rauchkeller_core::work::Phase;
use std::collections::{BTreeMap, BTreeSet};

const ASKED: u64 = 1700;
/// Meat, kg a litre; the solver's own tissue is within a hundredth of it.
const KG_PER_L: f64 = 1.06;

/// Every plan that could be made, with the share of requests that could.
fn plans() -> Vec<(u64, Plan)> {
    let mut made = Vec::new();
    let mut refused: BTreeMap<String, usize> = BTreeMap::new();
    for seed in 0..ASKED {
        match make_plan(&request(seed)) {
            Ok(plan) => made.push((seed, plan)),
            Err(why) => *refused.entry(why[0].field.to_string()).or_default() += 1,
        }
    }
    assert!(made.len() as f64 >= 0.6 * ASKED as f64, "only {} of {ASKED} accepted: {refused:?}", made.len());
    made
}

fn says<'a>(plan: &'a Plan, code: &str) -> Option<&'a Caution> {
    plan.cautions.iter().find(|c| c.code == code)
}

#[test]
fn what_holds_of_every_plan() {
    let mut seen: BTreeMap<&'static str, usize> = BTreeMap::new();
    let mut slices = 0;
    for (seed, plan) in plans() {
        the_meals_are_in_order(seed, &plan);
        nothing_wakes_anybody_unsaid(seed, &plan);
        slices += usize::from(the_slice_holds_its_grams(seed, &plan));
        cautions_stand_where_they_should(seed, &plan, &mut seen);
    }
    assert!(slices > 300, "only {slices} slices could be weighed");
    // A condition that never held was never tested.
    for code in [
        "fridge-too-warm",
        "below-authority",
        "not-safe",
        "bought-when",
        "storage-limit",
        "storage-near",
        "two-cores",
        "thaw-cold",
        "do-not-wash",
        "hot-fat",
        "raw-waste",
        "leftovers",
        "count-needles",
        "non-intact",
        "potassium",
        "dose-high",
        "ledger-full",
        "short-rest",
        "wet-window",
        "rim",
        "skin-wet",
        "where-lay",
        "night-work",
        "measure-odd",
        "sodium",
    ] {
        assert!(seen.get(code).is_some_and(|n| *n >= 3), "{code} stood {:?} times: {seen:?}", seen.get(code));
    }
}

fn the_meals_are_in_order(seed: u64, plan: &Plan) {
    let meals = &plan.meals;
    assert!(meals.earliest <= meals.best && meals.best <= meals.latest, "{seed}: {meals:?}");
    assert!(meals.earliest > plan.request.now, "{seed}: {} is past at {}", meals.earliest, plan.request.now);
    assert!(plan.serve_at > plan.request.now, "{seed}");
    for step in &plan.steps {
        let began = step.starts < plan.request.now.timestamp();
        let lies = matches!(step.step.kind, StepKind::Chill | StepKind::Thaw);
        assert!(!began || lies, "{seed}: {} begins at {} before {}", step.step.title, step.starts, plan.request.now);
    }
}

/// Whether a moment lies in the quiet hours, by the wall clock alone.
fn quiet_at(request: &PlanRequest, at: &jiff::ZonedDateTime) -> bool {
    let Some(quiet) = request.kitchen.quiet else { return false };
    let wall = at.time();
    if quiet.from <= quiet.to { wall >= quiet.from && wall < quiet.to } else { wall >= quiet.from || wall < quiet.to }
}

fn nothing_wakes_anybody_unsaid(seed: u64, plan: &Plan) {
    let zone = plan.request.now.time_zone();
    let wakes = plan.steps.iter().find(|s| {
        let (from, hands) = (s.starts, s.step.hands_on.in_min());
        // Every ten seconds and at the last, as long as hands are on it.
        let long = (hands * 60.0).min(s.ends.duration_since(s.starts).as_secs_f64().max(60.0)) as i64;
        hands > 0.01
            && (0..long)
                .step_by(10)
                .chain([long - 1])
                .any(|s| quiet_at(&plan.request, &(from + jiff::SignedDuration::from_secs(s)).to_zoned_datetime(zone.clone())))
    });
    let said = says(plan, "night-work").is_some();
    assert_eq!(
        wakes.is_some(),
        said,
        "{seed}: {:?} {:?}",
        wakes.map(|s| (&s.step.title, s.starts.to_zoned_datetime(zone.clone()))),
        says(plan, "night-work")
    );
    for meal in [&plan.meals.earliest, &plan.meals.best, &plan.meals.latest] {
        assert!(said || !quiet_at(&plan.request, meal) || plan.request.serve_at.is_some(), "{seed}: a meal at {meal}");
    }
}

/// The grams on the two ends of the way through, over the mass they enclose: closed forms of slab, cylinder and ball.
fn the_slice_holds_its_grams(seed: u64, plan: &Plan) -> bool {
    let request = &plan.request;
    let simple = request.portions.len() == 1
        && request.ledger.is_empty()
        && request.mix.is_none()
        && request.cover.is_none()
        && request.done.is_empty()
        && request.solution.is_none();
    if !simple {
        return false;
    }
    let density = |id: &str| plan.dose.by_face.iter().find(|f| f.face.id == id).map_or(0.0, |f| f.salt.in_g() / f.face.area.in_dm2());
    let grams = |ids: &[&str]| plan.dose.by_face.iter().filter(|f| ids.contains(&f.face.id)).map(|f| f.salt.in_g()).sum::<f64>();
    let area = |ids: &[&str]| plan.dose.by_face.iter().filter(|f| ids.contains(&f.face.id)).map(|f| f.face.area.in_dm2()).sum::<f64>();
    let cover = if plan.resolved.skin.in_mm() > 0.0 { "skin" } else { "fat" };
    let covered = plan.dose.by_face.iter().any(|f| f.face.id == cover);
    let thick = plan.resolved.thickness.in_mm() / 100.0;
    let (top, bottom) = match request.cut.family {
        Family::Steak => ("cut", "cut"),
        Family::Bird | Family::Crown | Family::FlatBird => return false,
        _ if covered => (cover, "meat"),
        _ => ("meat", "meat"),
    };
    let waiting = plan.fridge.state.profile.waiting;
    let slice = plan.fridge.state.slice.0;
    let (expected, waits) = match request.cut.family {
        Family::Steak | Family::SkinSlab | Family::CapSlab => {
            ((density(top) + density(bottom)) / (thick * KG_PER_L), (waiting[0].0 + waiting[1].0) / (thick * KG_PER_L))
        }
        Family::Roast | Family::Rack => {
            // A cylinder has two dm² of mantle for each of its radius in litres.
            let (mantle, radius) = (area(&[top]) + if top == bottom { 0.0 } else { area(&[bottom]) }, thick / 2.0);
            let on = grams(&[top]) + if top == bottom { 0.0 } else { grams(&[bottom]) };
            let share = if top == bottom { 0.5 } else { area(&[top]) / mantle };
            let waits = waiting[0].0 * share + waiting[1].0 * (1.0 - share);
            (on / mantle * 2.0 / (radius * KG_PER_L), waits * 2.0 / (radius * KG_PER_L))
        }
        _ => return false,
    };
    let holds = slice + waits;
    assert!((holds - expected).abs() < 0.02 * expected + 0.02, "{seed}: {} holds {holds} of {expected}", request.cut.id);
    true
}

/// Each caution's condition, written down once more from TRADE 11 and the plan's own numbers.
fn cautions_stand_where_they_should(seed: u64, plan: &Plan, seen: &mut BTreeMap<&'static str, usize>) {
    let request = &plan.request;
    let has = |kind: StepKind| plan.steps.iter().any(|s| s.step.kind == kind);
    let fridge_c = request.kitchen.fridge.temperature.in_c();
    let bench = plan.steps.iter().filter(|s| s.step.place == Place::Bench && matches!(s.step.phase, Phase::Before | Phase::After));
    let salted = request.done.iter().filter(|d| d.kind == StepKind::Salt).map(|d| d.at).min();
    let chilled = request.done.iter().any(|d| d.kind == StepKind::Chill);
    let lay = salted.filter(|_| !chilled).map(|at| request.now.timestamp().duration_since(at).as_secs_f64() / 60.0);
    let lay = lay.filter(|min| *min > 15.0);
    let out = bench.map(|s| s.step.takes.in_min()).sum::<f64>() + lay.unwrap_or(0.0);
    let dryness = plan.fridge.state.dryness.map(|d| d.0);
    // Skin over a window of fat is to crackle where its method wants that and lets it meet dry heat, or somebody waits until it is
    // hollow; how hot that heat is does not decide what is wanted.
    let dry = |s: &FireStage| matches!(s.how, How::Open | How::Direct) && !matches!(s.with, HeatSource::Pan | HeatSource::Pot);
    let watched = plan.fire.stages.iter().any(|s| s.until == StageEnd::Look(Look::Hollow));
    // A breast is rendered from the skin's side.
    let breast = request.cut.family == Family::SkinSlab && request.cut.thickness_mm.1 < 30.0;
    let wanted = watched || !breast && plan.resolved.method.wants.crackling && plan.fire.stages.iter().any(dry);
    let crackles = plan.resolved.skin.in_mm() > 0.0 && request.cut.fat_mm >= 3.0 && wanted && plan.resolved.method.dries_in_the_cold();
    let typed = request.portions.iter().filter_map(|p| p.thickness).chain(request.thickness).map(LengthIn::in_mm);
    let odd = typed.into_iter().any(|mm| mm < request.cut.thickness_mm.0 * 0.65 || mm > request.cut.thickness_mm.2 * 1.6);
    let edible = 1.0 - plan.resolved.bone.0;
    let eaten_kg = plan.resolved.weight.in_kg() * edible;
    let planned = plan.fridge.planned.in_h();
    let keeps = plan.fridge.keeps;
    let skin = plan.skin.as_ref();
    let cut_into_lean = request.scored == Some(BoughtScoring::IntoLean)
        || skin.is_some_and(|s| {
            matches!(s.ask.meat, MeatSide::Grooves { .. } | MeatSide::Lattice { .. })
                || s.ask.cover != CoverWork::Whole && matches!(s.work.says, DepthSays::IntoLean(_))
        })
        // Slits, spikes, an outside rolled in; done already, they are in it still.
        || plan.resolved.method.tasks.iter().any(|task| matches!(task.kind, StepKind::Slit | StepKind::Spike | StepKind::Roll));
    // Injected, by its label: more than 40 mg above the meat's own.
    let injected = matches!(request.solution, Some(PackLabel::Sodium(mg)) if mg > request.cut.sodium_mg_per_100g + 40.0);
    let low = plan.fire.targets.iter().any(|t| t.ends.low < t.authority);
    let stuffed = plan.fire.targets.iter().any(|t| t.at == Where::Stuffing);
    let eaten_pink = matches!(request.cut.species, Species::Beef | Species::Lamb) || request.cut.id == "duck-breast";
    // A probe or a fork says when it comes out, or the finish how long a stage before was made.
    let probes = |s: &FireStage| matches!(s.until, StageEnd::Finish | StageEnd::Core(_) | StageEnd::Look(Look::Tender));
    let probed = plan.fire.stages.last().is_some_and(probes) || plan.fire.stages.iter().any(|s| s.until == StageEnd::Finish);
    let a_taste = !(cut_into_lean || injected || stuffed) && (eaten_pink || request.cut.species == Species::Pork && probed);
    let wanted: Vec<(&'static str, bool)> = vec![
        // 40 °F is 4.44 °C and is allowed; above 4.4 °C otherwise is not.
        ("fridge-too-warm", fridge_c > 4.4 && (fridge_c - 40.0 / 9.0).abs() > 1e-6),
        // By the lowest end; a taste of what is eaten pink, and of pork that waits for a probe, as long as it is intact.
        ("below-authority", low && a_taste),
        ("not-safe", low && !a_taste),
        ("two-hours", out > 120.0),
        ("bought-when", !request.frozen && request.bought_on.is_none() && request.use_by.is_none()),
        ("storage-limit", keeps.is_some_and(|k| plan.fridge.to > k.red)),
        ("storage-near", keeps.is_some_and(|k| plan.fridge.to > k.amber && plan.fridge.to <= k.red)),
        ("two-cores", matches!(request.cut.family, Family::Bird | Family::FlatBird)),
        ("thaw-cold", has(StepKind::Thaw)),
        ("do-not-wash", has(StepKind::Dry)),
        ("hot-fat", has(StepKind::Grill)),
        ("raw-waste", has(StepKind::BrushDry)),
        ("leftovers", has(StepKind::Carve)),
        ("count-needles", has(StepKind::Pierce)),
        ("potassium", plan.resolved.salt.potassium > 0.0),
        ("ledger-full", (plan.dose.dose.from_ledger - plan.dose.dose.total).in_g() >= 0.05),
        ("short-rest", planned < plan.fridge.useful.shortest.in_h() - 0.01),
        ("wet-window", plan.fridge.wet.is_some_and(|wet| wet.in_h() > planned)),
        ("rim", plan.fridge.state.rim.0 > 40.0),
        ("skin-wet", crackles && dryness.is_some_and(|d| d < 0.7)),
        ("where-lay", lay.is_some()),
        ("overshoot", plan.fire.answer.overshoots.is_some_and(|k| k.in_kelvin() > 0.0)),
        ("measure-odd", odd),
        ("non-intact", cut_into_lean || injected),
        ("sodium", true),
    ];
    for (code, holds) in wanted {
        *seen.entry(code).or_default() += usize::from(holds);
        assert_eq!(says(plan, code).is_some(), holds, "{seed}: {code} of {}: {:?}", request.cut.id, says(plan, code));
    }
    let eaten = plan.dose.dose.total.in_g().max(plan.dose.dose.from_ledger.in_g()) / eaten_kg.max(1e-9);
    if (eaten - 18.0).abs() > 2.0 && request.cut.species != Species::Poultry {
        *seen.entry("dose-high").or_default() += usize::from(eaten > 18.0);
        assert_eq!(says(plan, "dose-high").is_some(), eaten > 18.0, "{seed}: {eaten} g/kg");
    }
    *seen.entry("night-work").or_default() += usize::from(says(plan, "night-work").is_some());
    // Each stands once.
    let codes: Vec<&str> = plan.cautions.iter().map(|c| c.code).collect();
    assert_eq!(codes.iter().collect::<BTreeSet<_>>().len(), codes.len(), "{seed}: {codes:?}");
}

#[test]
fn the_order_of_portions_does_not_matter() {
    let mut compared = 0;
    for seed in 0..ASKED {
        let mut asked = request(seed);
        if asked.portions.len() < 2 {
            continue;
        }
        let Ok(one) = make_plan(&asked) else { continue };
        asked.portions.reverse();
        let other = make_plan(&asked).expect("refused only because of its order");
        compared += 1;
        let near = |a: f64, b: f64, what: &str| assert!((a - b).abs() < 1e-6 + 1e-9 * a.abs(), "{seed}: {what} {a} and {b}");
        near(one.dose.dose.to_weigh.in_g(), other.dose.dose.to_weigh.in_g(), "grams");
        near(one.fridge.planned.in_h(), other.fridge.planned.in_h(), "hours");
        near(one.fire.answer.takes.in_min(), other.fire.answer.takes.in_min(), "heat");
        near(one.fridge.state.rim.0, other.fridge.state.rim.0, "rim");
        let codes = |plan: &Plan| plan.cautions.iter().map(|c| c.code).collect::<BTreeSet<_>>();
        assert_eq!(codes(&one), codes(&other), "{seed}");
    }
    assert!(compared > 80, "only {compared} dishes of several pieces");
}
