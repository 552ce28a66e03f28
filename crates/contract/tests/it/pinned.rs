//! A kept piece goes by the document its method had when it was kept, whatever the shipped one of that name says by now.

use super::*;
use rauchkeller_contract::{as_said, methods, newer_version, read_kept, run_plan, written_out};
use rauchkeller_core::piece::Cut;

/// A request of every shipped method on the first of its cuts.
fn of_each() -> impl Iterator<Item = (Value, Value)> {
    methods().into_iter().filter_map(|document| {
        let cut = document["cuts"].as_array()?.first()?.as_str()?.to_owned();
        let weight = Cut::find(&cut)?.typical_g.1;
        let piece = json!({"cut": cut, "weight_g": weight, "bought_on": "2026-12-10"});
        Some((json!({"piece": piece, "method": document["id"], "serve_at": "2026-12-14T18:30[Europe/Vienna]"}), document))
    })
}

/// The same document as a shipped one may have been once: another first step, other hours.
fn as_it_was(document: &Value) -> Value {
    let mut then = document.clone();
    then["tasks"][0]["title"] = "Sharpen the knife".into();
    if then["own_hours"].is_array() {
        then["own_hours"] = json!([6.0, 18.0, 40.0]);
    }
    then
}

#[test]
fn what_is_kept_carries_its_document_and_is_planned_by_it_as_by_its_name() {
    let mut seen = 0;
    for (request, document) in of_each() {
        let plan = plan_from(&request, &now()).unwrap();
        let full = written_out(&request, &plan);
        assert_eq!(full["method_document"], document, "{}", request["method"]);
        assert_eq!(newer_version(&full), None, "{}", request["method"]);
        let mut again = request.clone();
        again["method_document"] = document;
        let pinned = plan_from(&again, &now()).unwrap();
        assert!(pinned == plan, "{} is another plan by its own document", request["method"]);
        // Written out twice it is pinned once, and said again it still is.
        assert_eq!(written_out(&full, &plan)["method_document"], full["method_document"]);
        assert_eq!(as_said(&full)["method_document"], full["method_document"]);
        seen += 1;
    }
    assert!(seen >= 20, "{seen} methods");
}

#[test]
fn a_shipped_method_that_changed_changes_no_kept_piece() {
    let mut moved = 0;
    for (request, document) in of_each() {
        let then = as_it_was(&document);
        let mut sent_whole = request.clone();
        sent_whole["method"] = then.clone();
        // What was planned then, by the document of then.
        let Ok(plan) = plan_from(&sent_whole, &now()) else { continue };
        let mut kept = written_out(&request, &plan);
        kept["method_document"] = then.clone();
        let read = read_kept(&kept, &now()).unwrap();
        assert_eq!(read.the_method().own_hours.map(|h| h.1), then["own_hours"][1].as_f64(), "{}", request["method"]);
        let stands = run_plan(&plan, &kept, 1, |air| air).unwrap();
        assert!(stands.request.unwrap().the_method() == read.the_method());
        let mut anew = request.clone();
        anew["method_document"] = then;
        assert!(plan_from(&anew, &now()).unwrap() == plan, "{} is not planned by the document of then", request["method"]);
        // Offered: by name alone it would be another plan.
        assert_eq!(newer_version(&kept), Some(1));
        moved += usize::from(plan_from(&request, &now()).unwrap() != plan);
        // Another way of the cook's choice brings its own document.
        anew["method"] = "no-cold-rest".into();
        anew["hours"] = Value::Null;
        if request["method"] != "no-cold-rest" {
            let other = plan_from(&anew, &now()).unwrap();
            assert_eq!(written_out(&anew, &other)["method_document"]["id"], "no-cold-rest");
        }
    }
    assert!(moved >= 15, "{moved} plans differ");
}

#[test]
fn a_kept_document_that_is_damaged_is_refused_at_its_path() {
    let (request, document) = of_each().next().unwrap();
    let mut damaged = request;
    damaged["method_document"] = document;
    damaged["method_document"]["tasks"][0]["task"] = "fly".into();
    let problems = plan_from(&damaged, &now()).unwrap_err().problems;
    assert!(problems.iter().all(|p| p.field.starts_with("method_document.tasks[0]")), "{problems:?}");
    // What was kept is opened all the same.
    assert!(read_kept(&damaged, &now()).is_some());
}
