//! Jobs hung on the heat, and thawing: in water, and under salt.

use crate::fire::now;
use jiff::{Timestamp, ZonedDateTime};
use rauchkeller_contract::{PlanDoc, Problems, StepDoc, plan_from};
use rstest::rstest;
use serde_json::{Value, json};

fn with(more: &Value) -> Result<PlanDoc, Problems> {
    let mut request = json!({"serve_at": "2026-12-12T19:00[Europe/Vienna]"});
    for (key, value) in more.as_object().unwrap() {
        request[key] = value.clone();
    }
    plan_from(&request, &now())
}

fn instant(text: &str) -> Timestamp {
    text.parse::<ZonedDateTime>().unwrap().timestamp()
}

fn all<'a>(plan: &'a PlanDoc, kind: &str) -> Vec<&'a StepDoc> {
    plan.steps.iter().filter(|s| s.kind == kind).collect()
}

/// Minutes into the heat at which each task of a kind begins.
fn into(plan: &PlanDoc, kind: &str) -> Vec<f64> {
    let heat = plan.steps.iter().find(|s| s.place == "fire" && s.beside.is_none()).unwrap();
    all(plan, kind).iter().map(|s| instant(&s.starts_at).duration_since(instant(&heat.starts_at)).as_secs_f64() / 60.0).collect()
}

/// Ninety minutes at 160 °C, then 20 at 200.
fn roast(tasks: &Value) -> Result<PlanDoc, Problems> {
    let stages = json!([{"air_c": 160, "until": {"minutes": 90}}, {"air_c": 200, "until": {"minutes": 20}}]);
    with(&json!({"piece": {"cut": "beef-rib-roast", "weight_g": 2500}, "fire": {"stages": stages}, "tasks": tasks}))
}

#[test]
fn a_job_is_done_when_it_was_said() {
    // By hand: 90 and 20 minutes, so 110 in all.
    for (task, kind, want) in [
        (json!({"task": "look", "at_min": 60}), "look", vec![60.0]),
        (json!({"task": "look", "stage": 1, "at_min": 15}), "look", vec![105.0]),
        (json!({"task": "baste", "every_min": 40}), "baste", vec![40.0, 80.0]),
        (json!({"task": "baste", "at_min": 60, "every_min": 15}), "baste", vec![60.0, 75.0, 90.0, 105.0]),
        (json!({"task": "baste", "stage": 0, "every_min": 30}), "baste", vec![30.0, 60.0]),
        (json!({"task": "top-up-liquid", "every_min": 45}), "top-up-liquid", vec![45.0, 90.0]),
        (json!({"task": "open-lid", "at_min": 30}), "open-lid", vec![30.0]),
        (json!({"task": "feed-coals"}), "feed-coals", vec![45.0, 90.0]),
        (json!({"task": "wood"}), "wood", vec![0.0]),
        (json!({"task": "vents", "stage": 1}), "vents", vec![90.0]),
        (json!({"task": "water-pan", "at": "begins"}), "water-pan", vec![0.0]),
        (json!({"task": "scrape", "at": "ends"}), "scrape", vec![110.0]),
        (json!({"task": "read-air"}), "read-air", vec![10.0]),
        (json!({"task": "turn", "every_min": 50}), "turn", vec![50.0, 100.0]),
    ] {
        let plan = roast(&json!([task])).unwrap_or_else(|refused| panic!("{task}: {refused:?}"));
        assert_eq!(into(&plan, kind), want, "{task}");
        let step = all(&plan, kind)[0];
        assert!(step.beside.is_some() && step.hands == "clean" && !step.detail.is_empty(), "{task}: {step:?}");
    }
    // Two of a kind at their own hours, each as long as was said.
    let plan = roast(&json!([{"task": "look", "at_min": 30, "minutes": 5}, {"task": "look", "at_min": 60}])).unwrap();
    let long: Vec<i64> =
        all(&plan, "look").iter().map(|s| instant(&s.ends_at).duration_since(instant(&s.starts_at)).as_secs() / 60).collect();
    assert_eq!((into(&plan, "look"), long), (vec![30.0, 60.0], vec![5, 1]));
}

#[test]
fn at_a_core_it_is_done_when_the_curve_is_there() {
    let plan = roast(&json!([{"task": "baste", "at_core_c": 40}])).unwrap();
    let min = into(&plan, "baste")[0];
    let after = plan.fire.curve.iter().position(|p| p[0] >= min).unwrap();
    let (a, b) = (plan.fire.curve[after - 1], plan.fire.curve[after]);
    let core = a[3] + (b[3] - a[3]) * (min - a[0]) / (b[0] - a[0]);
    assert!((core - 40.0).abs() < 0.6, "{core} °C in the core after {min} min");
    let step = all(&plan, "baste")[0];
    assert!(step.detail.starts_with("When the core reads 40 °C") && step.figure.as_deref().unwrap().starts_with("40"), "{step:?}");
}

#[rstest]
#[case(json!({"task": "look", "at_min": 200}), "tasks[0].at_min")]
#[case(json!({"task": "look", "at_min": -5}), "tasks[0].at_min")]
#[case(json!({"task": "look", "stage": 0, "at_min": 95}), "tasks[0].at_min")]
#[case(json!({"task": "look", "at_core_c": 90}), "tasks[0].at_core_c")]
#[case(json!({"task": "look", "at_core_c": 3}), "tasks[0].at_core_c")]
#[case(json!({"task": "look", "at_core_c": 300}), "tasks[0].at_core_c")]
#[case(json!({"task": "look", "stage": 2, "at_min": 5}), "tasks[0].stage")]
#[case(json!({"task": "look", "stage": 0.5, "at_min": 5}), "tasks[0].stage")]
#[case(json!({"task": "look", "at": "sometimes"}), "tasks[0].at")]
#[case(json!({"task": "look", "at_min": 5, "at": "ends"}), "tasks[0].at")]
#[case(json!({"task": "look", "at_min": 5, "at_core_c": 40}), "tasks[0].at_core_c")]
#[case(json!({"task": "baste", "every_min": 0}), "tasks[0].every_min")]
#[case(json!({"task": "baste", "at": "begins", "every_min": 2}), "tasks[0].every_min")]
#[case(json!({"task": "baste", "at": "ends", "every_min": 5}), "tasks[0].every_min")]
#[case(json!({"task": "carve", "at_min": 5}), "tasks[0].at_min")]
#[case(json!({"task": "turn", "at_h": 5, "every_min": 10}), "tasks[0].at_h")]
#[case(json!({"task": "look", "leave_out": true, "at_min": 5}), "tasks[0].leave_out")]
#[case(json!({"task": "wood", "leave_out": true}), "tasks[0].task")]
fn what_never_comes_due_is_refused_at_its_path(#[case] task: Value, #[case] path: &str) {
    let refused = roast(&json!([task])).unwrap_err();
    assert_eq!(refused.problems.iter().map(|p| p.field.as_str()).collect::<Vec<_>>(), [path], "{refused:?}");
}

#[test]
fn a_door_that_is_opened_often_costs_minutes_and_a_turn_only_where_one_side_sees_the_heat() {
    let minutes = |on: &str, air: f64, tasks: Value, flip: Value| {
        let stages = json!([{"with": on, "air_c": air, "until": {"core": "finish"}, "flip_min": flip}]);
        let request = json!({"piece": {"cut": "pork-loin-steak", "weight_g": 300, "salt_thickness_mm": 35}, "fire": {"stages": stages}, "tasks": tasks});
        with(&request).unwrap_or_else(|refused| panic!("{request}: {refused:?}")).fire.minutes
    };
    let none = Value::Null;
    let oven = |every: f64| minutes("oven", 170.0, json!([{"task": "baste", "every_min": every}]), none.clone());
    let shut = minutes("oven", 170.0, json!([]), none.clone());
    assert!(oven(12.0) > oven(30.0) && oven(30.0) > shut, "{} {} {shut}", oven(12.0), oven(30.0));
    // What a task says of turning is what a stage says of it.
    let turned = json!([{"task": "turn", "every_min": 4}]);
    assert_eq!(minutes("pan", 180.0, turned.clone(), none.clone()), minutes("pan", 180.0, json!([]), json!(4)));
    assert!(minutes("pan", 180.0, turned, none.clone()) < minutes("pan", 180.0, json!([]), none.clone()));
    // In a pan the core cannot say when: that is what the turn decides.
    let stages = json!([{"with": "pan", "air_c": 180, "until": {"core": "finish"}}]);
    let piece = json!({"cut": "pork-loin-steak", "weight_g": 300});
    let refused = with(&json!({"piece": piece, "fire": {"stages": stages}, "tasks": [{"task": "turn", "at_core_c": 40}]})).unwrap_err();
    assert_eq!(refused.problems[0].field, "tasks[0].at_core_c");
}

#[test]
fn wood_or_none() {
    let lit = |tasks: Value| {
        let piece = json!({"cut": "beef-rump-cap", "weight_g": 1200});
        let plan = with(&json!({"piece": piece, "fire": {"with": "charcoal"}, "tasks": tasks})).unwrap();
        (all(&plan, "preheat")[0].detail.clone(), all(&plan, "wood").len())
    };
    // TRADE 9.23, common practice: fat that drips on coals makes smoke enough.
    assert!(lit(json!([])).0.contains("No wood: fat that drips on coals makes smoke enough"));
    let (detail, wood) = lit(json!([{"task": "wood"}]));
    assert!(!detail.contains("No wood") && wood == 1, "{detail}");
    let (detail, wood) = lit(json!([{"task": "wood", "leave_out": true}]));
    assert!(detail.ends_with("No wood.") && wood == 0, "{detail}");
}

#[test]
fn in_cold_water_it_thaws_with_its_changes_and_is_cooked_at_once() {
    // USDA FSIS: 30 min a pound, changed every 30 min: 3 lb in 90 min, with fresh water after 30 and 60.
    let piece = json!({"cut": "beef-rump-cap", "weight_g": 1360.777, "frozen": true});
    let plan = with(&json!({"piece": piece, "method": "no-cold-rest", "thaw": "water"})).unwrap();
    let thaw = all(&plan, "thaw")[0];
    let (from, to) = (instant(&thaw.starts_at), instant(&thaw.ends_at));
    assert_eq!((to.duration_since(from).as_mins(), thaw.place.as_str()), (90, "water"));
    let changes: Vec<i64> = all(&plan, "change-water").iter().map(|s| instant(&s.starts_at).duration_since(from).as_mins()).collect();
    assert_eq!(changes, [30, 60]);
    // The work follows at once, and the water is not time out of the refrigerator.
    let next = plan.steps.iter().find(|s| s.beside.is_none() && s.kind != "thaw").unwrap();
    assert_eq!(instant(&next.starts_at), to);
    let dry = with(&json!({"piece": {"cut": "beef-rump-cap", "weight_g": 1360.777}, "method": "no-cold-rest"})).unwrap();
    assert_eq!(plan.fridge.out_min, dry.fridge.out_min);
    assert!(plan.cautions.iter().any(|c| c.code == "thaw-cold" && c.text.contains("every 30 minutes")));
    // Anywhere else it is refused at its field, the refrigerator offered.
    for (piece, method, thaw) in [
        (json!({"cut": "beef-rump-cap", "weight_g": 1200, "frozen": true}), "dry-brine", "water"),
        (json!({"cut": "beef-rump-cap", "weight_g": 1200}), "no-cold-rest", "water"),
        (json!({"cut": "beef-rump-cap", "weight_g": 1200, "frozen": true}), "no-cold-rest", "refrigerator-salted"),
        (json!({"cut": "beef-rump-cap", "weight_g": 1200, "frozen": true}), "dry-brine", "on the counter"),
    ] {
        let refused = with(&json!({"piece": piece, "method": method, "thaw": thaw})).unwrap_err();
        assert_eq!(refused.problems[0].field, "thaw", "{refused:?}");
        assert!(thaw != "water" || piece["frozen"].is_null() || refused.problems[0].allowed.contains("refrigerator"), "{refused:?}");
    }
}

#[test]
fn salted_while_it_thaws_it_is_thawed_before_it_comes_out() {
    // USDA FSIS: 24 h for every 4–5 lb; at 4.5 lb 12 lb take 64 h. Half of it before the salt, half under it (our estimate).
    let turkey = |thaw: &str, serve: &str| {
        let piece = json!({"cut": "turkey-whole", "weight_g": 5443.1, "frozen": true});
        with(&json!({"piece": piece, "thaw": thaw, "serve_at": serve}))
    };
    let late = "2026-12-17T19:00[Europe/Vienna]";
    let plan = turkey("refrigerator-salted", late).unwrap();
    let [thaw, chill] = ["thaw", "chill"].map(|kind| all(&plan, kind)[0].clone());
    let soft = instant(&thaw.ends_at).duration_since(instant(&thaw.starts_at)).as_secs_f64() / 3600.0;
    assert!((soft - 32.0).abs() < 1.1, "{soft} h before the salt");
    assert!(plan.fridge.planned_h >= 31.9 && chill.detail.contains("thaws on"), "{} h, {}", plan.fridge.planned_h, chill.detail);
    let thawed_first = turkey("refrigerator", late).unwrap();
    let begins = |plan: &PlanDoc| instant(&all(plan, "thaw")[0].starts_at);
    let out = |plan: &PlanDoc| instant(&all(plan, "chill")[0].ends_at);
    let whole = |plan: &PlanDoc| out(plan).duration_since(begins(plan)).as_secs_f64() / 3600.0;
    assert!(whole(&plan) >= 63.9 && whole(&thawed_first) > 63.9, "{} {}", whole(&plan), whole(&thawed_first));
    // Its skin dries only once it is thawed.
    let fresh =
        with(&json!({"piece": {"cut": "turkey-whole", "weight_g": 5443.1}, "hours": plan.fridge.planned_h, "serve_at": late})).unwrap();
    assert!(plan.fridge.skin_dryness.unwrap() < fresh.fridge.skin_dryness.unwrap());
    // Too soon, and its middle would still be frozen.
    let refused = turkey("refrigerator-salted", "2026-12-12T12:00[Europe/Vienna]").unwrap_err();
    assert!(refused.problems.iter().all(|p| p.field == "thaw" || p.field == "serve_at"), "{refused:?}");
}
