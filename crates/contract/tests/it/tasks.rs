//! The plan as tasks: every one under its own name, in the order of the work, what is salty or lies on the skin at its hour.

use super::now;
use rauchkeller_contract::{PlanDoc, StepDoc, plan_from};
use serde_json::{Value, json};

fn of(piece: &Value, more: &Value) -> PlanDoc {
    let mut request = more.clone();
    request["piece"] = piece.clone();
    plan_from(&request, &now()).unwrap()
}

fn task<'a>(plan: &'a PlanDoc, id: &str) -> &'a StepDoc {
    plan.steps.iter().find(|s| s.id == id).unwrap_or_else(|| panic!("no {id} in {:?}", ids(plan)))
}

fn ids(plan: &PlanDoc) -> Vec<&str> {
    plan.steps.iter().filter(|s| s.beside.is_none()).map(|s| s.id.as_str()).collect()
}

#[test]
fn what_is_in_the_ledger_has_its_own_task() {
    let belly = json!({"cut": "pork-belly", "weight_g": 2400});
    let coat = of(&belly, &json!({"ledger": [{"said": "2 tbsp soy sauce"}]}));
    assert_eq!(ids(&coat)[..6], ["lay-out", "dry", "pierce", "season", "salt", "wash"]);
    // 2 × 16 g of sauce, 13.96 % salt, 60 % of it stays: 2.7 g.
    let season = task(&coat, "season");
    assert!(
        season.detail.contains("32 g soy sauce") && season.detail.contains("2.7 g") && season.figure.as_deref() == Some("32.0"),
        "{season:?}"
    );
    assert!(task(&coat, "lay-out").detail.contains("32 g soy sauce besides"));
    // A bath is gone into, in the refrigerator, and out of again before the salt.
    let bath = of(&belly, &json!({"ledger": [{"item": "soy-sauce", "g": 100, "bath_h": 2}]}));
    assert_eq!(ids(&bath)[2..7], ["pierce", "marinate", "drain", "salt", "wash"]);
    let into = task(&bath, "marinate");
    assert_eq!((into.place.as_str(), into.tick.as_str(), into.figure.as_deref()), ("refrigerator", "begins", Some("2")));
    assert!(task(&bath, "drain").detail.contains("raw"));
}

#[test]
fn what_lies_on_the_skin_goes_on_and_comes_off_at_its_hour() {
    let cover = |kind: &str| of(&json!({"cut": "pork-belly", "weight_g": 2400}), &json!({"salt": {"cover": {"kind": kind}}}));
    let between = |plan: &PlanDoc, first: &str, then: &str, after: &str| {
        let ids = ids(plan);
        let at = |id: &str| ids.iter().position(|i| *i == id).unwrap_or_else(|| panic!("no {id} in {ids:?}"));
        assert!(at(first) < at(then) && at(then) < at(after), "{ids:?}");
    };
    let minutes = |step: &StepDoc| {
        let at = |text: &str| text.parse::<jiff::ZonedDateTime>().unwrap();
        at(&step.ends_at).duration_since(&at(&step.starts_at)).as_mins()
    };
    // TRADE 4.10: a draw is a quarter of an hour on the skin after the cold; a crust comes off before the fierce end; a bed lies
    // under it through the cold.
    let draw = cover("draw");
    between(&draw, "chill", "cover-on", "cover-off");
    between(&draw, "cover-off", "brush-dry", "roast");
    assert_eq!(minutes(task(&draw, "cover-on")), 15);
    let crust = cover("crust");
    between(&crust, "brush-dry", "cover-on", "roast");
    between(&crust, "roast", "cover-off", "grill");
    let bed = cover("bed");
    between(&bed, "salt", "cover-on", "wash");
    between(&bed, "chill", "cover-off", "roast");
    for plan in [&draw, &crust, &bed] {
        let grams = plan.dose.cover.as_ref().unwrap().g;
        assert!((task(plan, "cover-on").figure.as_ref().unwrap().parse::<f64>().unwrap() - grams).abs() <= 0.5, "{grams}");
        assert!(task(plan, "lay-out").detail.contains("besides"), "it is weighed with the salt");
    }
    // The draw lies within the half hour out, and nothing of it is said while salting.
    let plain = of(&json!({"cut": "pork-belly", "weight_g": 2400}), &json!({}));
    assert!((draw.fridge.out_min - plain.fridge.out_min).abs() < 0.5, "{} and {}", draw.fridge.out_min, plain.fridge.out_min);
    assert!(!task(&draw, "salt").detail.contains("draw") && task(&draw, "salt").detail.contains("clean and dry"));
}

#[test]
fn a_birds_giblets_come_out_first() {
    let duck = of(&json!({"cut": "duck-whole", "weight_g": 2200}), &json!({}));
    assert_eq!(ids(&duck)[..3], ["lay-out", "giblets", "dry"]);
    let breast = of(&json!({"cut": "duck-breast", "weight_g": 350}), &json!({}));
    assert!(!ids(&breast).contains(&"giblets"));
}

#[test]
fn done_is_a_kind_or_a_task_and_all_it_comes_after() {
    let done = |entry: Value| plan_from(&json!({"piece": {"cut": "turkey-whole", "weight_g": 5000}, "done": [entry]}), &now());
    let at = "2026-12-10T08:00[Europe/Vienna]";
    for entry in [json!({"kind": "dry", "at": at}), json!({"task": "dry", "at": at})] {
        assert_eq!(done(entry).unwrap().steps[0].id, "loosen", "all before it is done too");
    }
    // Too little salt: what is missing is a task of its own, and hands are washed after it.
    let little = done(json!({"task": "salt", "at": at, "g": 10})).unwrap();
    assert_eq!(ids(&little)[..3], ["top-up", "wash", "chill"]);
    assert!(little.steps[0].after.is_empty() && little.steps[1].after == ["top-up"]);
    for (entry, field) in [
        (json!({"task": "dance", "at": at}), "done[0].task"),
        (json!({"task": "salt", "kind": "salt", "at": at}), "done[0].task"),
        (json!({"task": "roast", "at": at}), "done[0]"),
    ] {
        let refused = done(entry).unwrap_err();
        assert!(refused.problems.iter().any(|p| p.field == field), "{refused:?}");
    }
}

#[test]
fn every_cuts_tasks_have_their_own_names_and_hang_in_one_row() {
    let mut plans = 0;
    for cut in rauchkeller_core::piece::Cut::all() {
        let weight = f64::midpoint(cut.typical_g.0, cut.typical_g.1);
        let plan = of(&json!({"cut": cut.id, "weight_g": weight}), &json!({"ledger": [{"said": "1 tbsp soy sauce"}]}));
        let mut names: Vec<&str> = plan.steps.iter().map(|s| s.id.as_str()).collect();
        names.sort_unstable();
        names.dedup();
        assert_eq!(names.len(), plan.steps.len(), "{}", cut.id);
        let row: Vec<&StepDoc> = plan.steps.iter().filter(|s| s.beside.is_none()).collect();
        assert!(row[0].after.is_empty() && row.windows(2).all(|pair| pair[1].after == [pair[0].id.clone()]), "{}", cut.id);
        // Preheating is no place of the piece: it stands beside what the heat begins with.
        let preheat = task(&plan, "preheat");
        assert_eq!(preheat.beside.as_deref(), plan.steps.iter().find(|s| s.place == "fire").map(|s| s.id.as_str()), "{}", cut.id);
        plans += 1;
    }
    assert!(plans > 20);
}
