//! The refrigerator rest on the wire: how it lies, whose hours, until what, and what came off again.

use super::now;
use proptest::prelude::*;
use rauchkeller_contract::{EXAMPLE, Problems, plan_from};
use serde_json::{Value, json};

fn request(change: impl FnOnce(&mut Value)) -> Value {
    let mut value: Value = serde_json::from_str(EXAMPLE).unwrap();
    change(&mut value);
    value
}

fn problem_of(problems: &Problems, field: &str) -> bool {
    problems.problems.iter().any(|p| p.field.starts_with(field))
}

#[test]
fn both_schools_come_back_with_each_goal_and_the_plate() {
    let plan = plan_from(&request(|r| r["goal"] = json!({"depth_mm": 10})), &now()).unwrap();
    let fridge = &plan.fridge;
    let model = fridge.model.as_ref().unwrap();
    assert_eq!((model.goal.as_str(), fridge.lies.as_str(), fridge.hours_from.as_str()), ("seasoned 10 mm deep", "open", "house"));
    // TRADE 7.1 and 6.6: the open-air school's own hours, and 0.95 dry for 2.5 mm after a little more than 26 × 2.5/2 h.
    assert_eq!(fridge.house_h, Some((12.0, 24.0, 48.0)));
    let kinds: Vec<&str> = model.goals.iter().map(|g| g.kind.as_str()).collect();
    assert_eq!(kinds, ["depth", "evenness", "rim", "dryness"]);
    let dry = model.goals[3].at_h.unwrap();
    assert!((dry - 32.5).abs() < 1.0, "{dry}");
    assert!(fridge.lost_g > 0.0 && fridge.wet_h.unwrap() > 1.5 && fridge.plate.as_ref().unwrap().slice_g_per_kg > 0.0);
    assert!(fridge.keeps_red.as_ref().unwrap() > fridge.keeps_amber.as_ref().unwrap());
}

#[test]
fn the_models_hours_can_be_taken() {
    let by = |from: &str| plan_from(&request(|r| r["hours_from"] = from.into()), &now()).unwrap().fridge;
    let (house, model) = (by("house"), by("model"));
    // Skin that must crackle takes the hours it needs to be dry, within what the house allows.
    let dry = model.model.as_ref().unwrap().goals.iter().find(|g| g.kind == "dryness").unwrap().at_h.unwrap();
    assert!(house.ideal_h >= dry && house.ideal_h < dry + 1.0 && house.ideal_h <= 48.0, "{} for {dry}", house.ideal_h);
    assert!((model.ideal_h - model.model.as_ref().unwrap().ideal_h.unwrap()).abs() < 1e-9);
    assert_eq!(model.house_h, house.house_h);
}

#[test]
fn covered_skin_stays_wet_and_says_so() {
    let fridge = plan_from(&request(|r| r["lies"] = "covered".into()), &now()).unwrap().fridge;
    assert_eq!((fridge.skin_dryness, fridge.lost_g, fridge.lies.as_str()), (Some(0.0), 0.0, "covered"));
    assert!(fridge.model.unwrap().ideal_h.is_none(), "skin that must crackle never gets there");
}

#[test]
fn what_came_off_again_is_counted() {
    let done = json!([
        {"kind": "salt", "at": "2026-12-10T08:00[Europe/Vienna]", "g": 30},
        {"kind": "brush-off", "at": "2026-12-10T08:10[Europe/Vienna]", "g": 12}
    ]);
    let plan = plan_from(&request(|r| (r["done"], r["ledger"]) = (done, json!([]))), &now()).unwrap();
    // 7.5 g/kg × 2.4 kg = 18 g wanted; 30 − 12 are on.
    assert!((plan.dose.from_ledger_g - 18.0).abs() < 1e-9 && plan.dose.to_weigh_g < 0.05);
}

#[test]
fn what_cannot_be_is_named_at_its_field() {
    for (change, field) in [
        (json!({"lies": "sideways"}), "lies"),
        (json!({"hours_from": "neighbour"}), "hours_from"),
        (json!({"goal": {"depth_mm": 900}}), "goal.depth_mm"),
        (json!({"goal": {"depth_mm": 9, "evenness": 0.5}}), "goal"),
        (json!({"goal": {"taste": 3}}), "goal.taste"),
        (json!({"done": [{"kind": "brush-off", "at": "2026-12-10T08:10[Europe/Vienna]"}]}), "done"),
        (json!({"done": [{"kind": "brush-off", "at": "2026-12-10T08:10[Europe/Vienna]", "g": 3}]}), "done"),
    ] {
        let request = request(|r| change.as_object().unwrap().iter().for_each(|(k, v)| r[k] = v.clone()));
        let problems = plan_from(&request, &now()).unwrap_err();
        assert!(problem_of(&problems, field), "{change}: {problems:?}");
    }
    // A cut without skin has none to dry.
    let steak = json!({"piece": {"cut": "beef-rib-steak", "weight_g": 500}, "goal": {"skin_dryness": 0.9}});
    assert!(problem_of(&plan_from(&steak, &now()).unwrap_err(), "goal.skin_dryness"));
}

#[test]
fn a_plan_stored_before_there_was_a_model_stays_readable() {
    let mut stored = serde_json::to_value(plan_from(&request(|_| ()), &now()).unwrap()).unwrap();
    let fridge = stored["fridge"].as_object_mut().unwrap();
    for new in ["lies", "open_h", "lost_g", "wet_h", "plate", "model", "keeps_amber", "keeps_red", "hours_from", "house_h"] {
        assert!(fridge.remove(new).is_some(), "{new}");
    }
    let plan: rauchkeller_contract::PlanDoc = serde_json::from_value(stored).unwrap();
    assert!(plan.fridge.model.is_none() && plan.fridge.lost_g.abs() < 1e-12);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(96))]

    /// Whatever numbers come: a plan with finite figures, or problems at fields; never a panic.
    #[test]
    fn any_numbers_give_a_plan_or_problems(
        (which, value) in (0usize..4, prop_oneof![-1e3..1e3f64, Just(0.0), Just(1e9), Just(-1e-9)]),
        lies in prop_oneof![Just("open"), Just("hung"), Just("covered"), Just("boxed"), Just("weighted")],
        (c, rh, h) in (-5.0..20.0f64, 0.0..1.2f64, 0.0..50.0f64),
        (on, off, hours) in (0.0..80.0f64, -5.0..90.0f64, 0i64..40),
        model in any::<bool>(),
    ) {
        let field = ["depth_mm", "evenness", "rim_g_per_kg", "skin_dryness"][which];
        let salted = now().checked_sub(jiff::SignedDuration::from_hours(hours)).unwrap().to_string();
        let request = request(|r| {
            r["goal"] = json!({ field: value });
            r["lies"] = lies.into();
            r["hours_from"] = if model { "model" } else { "house" }.into();
            r["kitchen"] = json!({"fridge_c": c, "fridge_rh": rh, "fridge_h_w_m2k": h});
            r["done"] = json!([{"kind": "salt", "at": salted, "g": on}, {"kind": "brush-off", "at": now().to_string(), "g": off}]);
        });
        match plan_from(&request, &now()) {
            Ok(plan) => {
                let fridge = &plan.fridge;
                let figures = [fridge.lost_g, fridge.open_h, fridge.rim_g_per_kg, fridge.middle_g_per_kg, fridge.slice_g_per_kg, fridge.ideal_h];
                prop_assert!(figures.iter().all(|x| x.is_finite()), "{figures:?}");
                prop_assert!(fridge.shortest_h <= fridge.ideal_h + 1e-9 && fridge.ideal_h <= fridge.longest_h + 1e-9);
                prop_assert!(fridge.skin_dryness.unwrap() <= 1.1);
            }
            Err(problems) => prop_assert!(!problems.problems.is_empty()),
        }
    }
}
