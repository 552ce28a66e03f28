//! What is bought on a day ahead is not touched before it, and what was touched was bought.

use crate::fire::now;
use jiff::ZonedDateTime;
use rauchkeller_contract::{PlanDoc, Problems, plan_from};
use serde_json::{Value, json};

fn bought(day: &str, more: &Value) -> Result<PlanDoc, Problems> {
    let mut request =
        json!({"piece": {"cut": "pork-belly", "weight_g": 2400, "bought_on": day}, "serve_at": "2026-12-13T18:00[Europe/Vienna]"});
    for (key, value) in more.as_object().unwrap() {
        request[key] = value.clone();
    }
    plan_from(&request, &now())
}

fn begins(plan: &PlanDoc) -> ZonedDateTime {
    plan.steps.iter().map(|step| step.starts_at.parse::<ZonedDateTime>().unwrap()).min().unwrap()
}

#[test]
fn nothing_is_done_to_it_before_it_is_in_the_house() {
    // The request is of Thursday the 10th. Bought on Saturday, work begins on Saturday after noon.
    let plan = bought("2026-12-12", &json!({})).unwrap();
    assert!(begins(&plan) >= "2026-12-12T12:00[Europe/Vienna]".parse().unwrap(), "{}", begins(&plan));
    // Its days are counted from the purchase, not from today: nothing is said of keeping.
    assert!(plan.cautions.iter().all(|caution| caution.code != "bought-when"));
    let meal = plan.serve_at.parse::<ZonedDateTime>().unwrap();
    assert_eq!(meal.datetime(), "2026-12-13T18:00".parse().unwrap());
    // Bought today it may begin today.
    assert!(begins(&bought("2026-12-10", &json!({"hours": 72})).unwrap()) < "2026-12-11T00:00[Europe/Vienna]".parse().unwrap());
}

#[test]
fn too_late_a_purchase_is_refused_at_the_meal_and_an_impossible_one_at_its_day() {
    let at = |answer: Result<PlanDoc, Problems>| answer.unwrap_err().problems[0].field.clone();
    // In the house at noon, salted, warmed and roasted for an hour, it is not on the table at one.
    assert_eq!(at(bought("2026-12-13", &json!({"serve_at": "2026-12-13T13:00[Europe/Vienna]"}))), "serve_at");
    assert_eq!(at(bought("2027-03-01", &json!({"serve_at": null}))), "piece.bought_on");
    let done = json!({"done": [{"kind": "salt", "at": "2026-12-09T20:00[Europe/Vienna]"}]});
    assert_eq!(at(bought("2026-12-12", &done)), "piece.bought_on");
}

#[test]
fn a_piece_bought_cooked_or_cured_is_refused_with_its_reason() {
    for (cut, why) in [("cooked ham", "cooked already"), ("part-cooked turkey", "part-cooked"), ("smoked pork chop", "salted already")] {
        let refused = plan_from(&json!({"piece": {"cut": cut, "weight_g": 2000}}), &now()).unwrap_err();
        assert_eq!(refused.problems[0].field, "piece.cut");
        assert!(refused.problems[0].remedy.contains(why), "{cut}: {}", refused.problems[0].remedy);
    }
    // Another name is no id: a program says which cut it is.
    let refused = plan_from(&json!({"piece": {"cut": "Boston butt", "weight_g": 2000}}), &now()).unwrap_err();
    assert_eq!(refused.problems[0].remedy, "Choose one of these names.");
}
