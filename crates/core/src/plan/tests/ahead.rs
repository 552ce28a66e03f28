//! Cooked ahead, chilled and heated again. Expected hours are counted by hand.

use super::*;
use crate::ask::{AirAsk, Refusal, StageAsk, TaskAsk};
use crate::fire::{How, StageEnd};
use crate::method::StepKind::{Carve, ChillCooked, Cool, HeatAgain, Rest, Roast, Sear};
use crate::method::{School, TaskRow};
use crate::plan::refuse_document;
use crate::units::{celsius, minutes};
use jiff::tz::TimeZone;

fn braise() -> PlanRequest {
    PlanRequest {
        method: Method::find("braised-ahead"),
        serve_at: Some("2026-12-13T19:00[Europe/Vienna]".parse().unwrap()),
        bought_on: Some("2026-12-10".parse().unwrap()),
        ..PlanRequest::new(cut("pork-butt"), grams(2400.0), now())
    }
}

fn step(plan: &Plan, kind: StepKind) -> &PlanStep {
    plan.steps.iter().find(|s| s.step.kind == kind).unwrap()
}

#[test]
fn it_is_cooled_chilled_and_heated_again_before_the_table() {
    let plan = make_plan(&braise()).unwrap();
    let row: Vec<StepKind> =
        plan.steps.iter().filter(|s| s.step.beside.is_none()).map(|s| s.step.kind).skip_while(|kind| *kind != StepKind::Sear).collect();
    assert_eq!(row, [Sear, Roast, Cool, ChillCooked, HeatAgain, Rest, Carve]);
    let (again, kept) = plan.fire.again.as_ref().unwrap();
    // An hour to cool, within the two; then the way's own 20 h, since the first heat falls into the day.
    let [cool, cold, heat] = [Cool, ChillCooked, HeatAgain].map(|kind| step(&plan, kind));
    assert_eq!(cool.ends.duration_since(cool.starts), SignedDuration::from_mins(60));
    assert_eq!((kept.in_h(), cold.ends.duration_since(cold.starts)), (20.0, SignedDuration::from_hours(20)));
    assert_eq!(heat.ends.duration_since(heat.starts).as_mins() as f64, again.takes.in_min());
    // 19:00 less 10 min to carve, 20 to rest, and the second heat.
    let out = plan.serve_at.timestamp() - SignedDuration::from_mins(30);
    assert_eq!(heat.ends, out);
    // Its oven is hot when it goes in.
    let hot = plan.steps.iter().filter(|s| s.step.beside.as_deref() == Some("heat-again")).collect::<Vec<_>>();
    assert!(matches!(hot.as_slice(), [hot] if hot.step.kind == StepKind::Preheat && hot.ends == heat.starts));
    // Cooked, it is no longer out of the refrigerator raw; and the two-hour rule of what is cooked is said.
    assert!(plan.out.in_min() < 60.0, "{}", plan.out.in_min());
    assert!(plan.cautions.iter().any(|c| c.code == "cooked-ahead" && c.at == Some(ChillCooked)));
}

#[test]
fn the_cook_says_how_long_and_how_hot() {
    let said = |task: &str, min: f64| TaskAsk {
        task: task.into(),
        takes: Some(minutes(min)),
        leave_out: false,
        at: None,
        hung: None,
        named: None,
    };
    let hot = |until| StageAsk { with: None, air: AirAsk::At(celsius(180.0)), how: How::Covered, until, flip: None };
    let mut asked = braise();
    asked.tasks = vec![said("chill-cooked", 36.0 * 60.0)];
    asked.fire.again = Some(hot(StageEnd::Core(celsius(80.0))));
    let plan = make_plan(&asked).unwrap();
    let (again, kept) = plan.fire.again.as_ref().unwrap();
    assert_eq!((kept.in_h(), again.out_at.in_c(), again.stage.air.in_c()), (36.0, 80.0, 180.0));
    // What is no heating again that is safe is refused at its path.
    let paths = |request: &PlanRequest| -> Vec<String> {
        make_plan(request).err().unwrap_or_default().iter().map(|refusal: &Refusal| refusal.field.to_string()).collect()
    };
    for until in [StageEnd::After(minutes(40.0)), StageEnd::Core(celsius(60.0))] {
        let mut cool = braise();
        cool.fire.again = Some(hot(until));
        assert_eq!(paths(&cool), ["fire.again.until"]);
    }
    let once = PlanRequest { method: Method::find("dry-brine"), ..asked.clone() };
    assert!(paths(&once).contains(&"fire.again".to_owned()), "{:?}", paths(&once));
    for (task, min, path) in [("cool", 180.0, "tasks[0].minutes"), ("chill-cooked", 80.0 * 60.0, "tasks[0].minutes")] {
        let long = PlanRequest { tasks: vec![said(task, min)], ..braise() };
        assert_eq!(paths(&long), [path], "{task}");
    }
    let raw = PlanRequest { tasks: vec![TaskAsk { takes: None, leave_out: true, ..said("chill-cooked", 0.0) }], ..braise() };
    assert_eq!(paths(&raw), ["tasks[0].leave_out"]);
}

/// A document in which the second heat hangs together wrongly says so where it does.
#[test]
fn a_document_chills_what_it_heats_again() {
    let shipped = || -> School { (*Method::find("braised-ahead").unwrap()).clone() };
    assert!(refuse_document(&shipped()).is_empty());
    let without = |kind: StepKind| {
        let mut school = shipped();
        let gone = school.tasks.iter().position(|task| task.kind == kind).unwrap();
        let TaskRow { id, after, .. } = school.tasks.remove(gone);
        for task in school.tasks.iter_mut().filter(|task| task.after.contains(&id)) {
            task.after.clone_from(&after);
        }
        refuse_document(&school)
    };
    assert!(without(StepKind::Cool).is_empty(), "straight into the cold, in shallow parts");
    for kind in [StepKind::ChillCooked, StepKind::HeatAgain] {
        let found = without(kind);
        assert!(found.iter().any(|refusal| refusal.allowed.contains("heated again") || refusal.field == "fire.again"), "{found:?}");
    }
    // Heated again before it was chilled: in the wrong order.
    let mut school = shipped();
    let at = |school: &School, kind| school.tasks.iter().position(|task| task.kind == kind).unwrap();
    let (cold, heat) = (at(&school, StepKind::ChillCooked), at(&school, StepKind::HeatAgain));
    let (first, last) = (school.tasks[cold].after.clone(), school.tasks[heat].id.clone());
    school.tasks[heat].after = first;
    school.tasks[cold].after = vec![last];
    let rest = at(&school, StepKind::Rest);
    school.tasks[rest].after = vec![school.tasks[cold].id.clone()];
    let found = refuse_document(&school);
    assert!(found.iter().any(|refusal| refusal.typed.contains("too early")), "{found:?}");
    // Longer than it keeps, slower than it may cool.
    for (kind, min) in [(StepKind::Cool, 150.0), (StepKind::ChillCooked, 5000.0)] {
        let mut school = shipped();
        let row = at(&school, kind);
        school.tasks[row].minutes = Some([30.0, 60.0, min]);
        assert_eq!(refuse_document(&school).len(), 1, "{kind:?}");
    }
}

/// Whatever the meal: hands sleep in their quiet hours where any stay lets them, and what is kept cooked is kept within its hours.
#[test]
fn the_night_is_kept_where_it_can_be() {
    let quiet = braise().kitchen.quiet.unwrap();
    let (mut awake, mut planned) = (0, 0);
    for h in 30..110 {
        let serve = now() + SignedDuration::from_hours(h);
        if !(11..22).contains(&serve.hour()) {
            continue;
        }
        let Ok(plan) = make_plan(&PlanRequest { serve_at: Some(serve), ..braise() }) else { continue };
        planned += 1;
        let kept = plan.fire.again.as_ref().unwrap().1.in_h();
        assert!((8.0..=72.0).contains(&kept), "{h}: {kept}");
        let zone = TimeZone::get("Europe/Vienna").unwrap();
        let handed = |s: &&PlanStep| [StepKind::Sear, StepKind::Cool, StepKind::ChillCooked].contains(&s.step.kind);
        let night = plan.steps.iter().filter(handed).any(|s| quiet.touches(s.starts, s.starts + SignedDuration::from_mins(2), &zone));
        awake += usize::from(!night);
    }
    assert!(planned > 30 && awake == planned, "{awake} of {planned}");
}
