//! The published shape of a request: it names what the reader knows, and bounds what the reader refuses.

use rauchkeller_contract::{EXAMPLE, Problem, plan_from, request_schema};
use rauchkeller_core::plan::FIELDS;
use serde_json::{Value, json};
use std::collections::BTreeSet;

fn now() -> jiff::ZonedDateTime {
    "2026-12-10T09:00[Europe/Vienna]".parse().unwrap()
}

fn problems(request: &Value) -> Vec<Problem> {
    plan_from(request, &now()).err().map(|refused| refused.problems).unwrap_or_default()
}

fn property<'a>(schema: &'a Value, path: &str) -> &'a Value {
    path.split('.').filter(|part| !part.is_empty()).fold(schema, |schema, part| &schema["properties"][part])
}

fn put(request: &mut Value, path: &str, value: Value) {
    *path.split('.').fold(request, |inner, part| &mut inner[part]) = value;
}

/// A request in which everything that has an inside is there.
fn open() -> Value {
    json!({"piece": {"cut": "pork-belly", "weight_g": 2400, "solution": {}}, "salt": {"cover": {"kind": "crust"}},
        "mix": {"name": "rub", "recipe": "100 g salt"}, "goal": {}, "kitchen": {}})
}

#[test]
fn every_object_has_the_fields_the_reader_knows_and_no_others() {
    let schema = request_schema();
    for path in ["", "piece", "piece.solution", "salt", "salt.cover", "mix", "goal", "kitchen", "fire"] {
        let mut request = open();
        let at = if path.is_empty() { "nonsense".to_owned() } else { format!("{path}.nonsense") };
        put(&mut request, &at, json!(1));
        let found = problems(&request);
        let said = found.iter().find(|p| p.field == at).unwrap_or_else(|| panic!("{at}: {found:?}"));
        let known: BTreeSet<&str> = said.allowed.split(", ").collect();
        let published: BTreeSet<&str> = property(&schema, path)["properties"].as_object().unwrap().keys().map(String::as_str).collect();
        assert_eq!(known, published, "in {path:?}");
    }
    // And of what comes in lists.
    for (list, line) in [("ledger", json!({"item": "soy-sauce", "g": 5})), ("tasks", json!({"task": "dry", "minutes": 5}))] {
        let mut request = open();
        request[list] = json!([line]);
        request[list][0]["nonsense"] = json!(1);
        let found = problems(&request);
        let at = format!("{list}[0].nonsense");
        let said = found.iter().find(|p| p.field == at).unwrap_or_else(|| panic!("{at}: {found:?}"));
        let known: BTreeSet<&str> = said.allowed.split(", ").collect();
        let published: BTreeSet<&str> =
            property(&schema, list)["items"]["properties"].as_object().unwrap().keys().map(String::as_str).collect();
        assert_eq!(known, published, "in {list}");
    }
}

#[test]
fn what_lies_beyond_the_published_bounds_is_refused_at_its_field_and_what_lies_within_is_not() {
    let schema = request_schema();
    let mut refused = 0;
    for row in FIELDS {
        let published = property(&schema, row.path);
        assert!(published["description"].as_str().is_some_and(|text| text.contains(row.means)), "{}", row.path);
        for (bound, beyond) in [("minimum", -0.5), ("maximum", 0.5)] {
            let mut request = open();
            put(&mut request, row.path, json!(published[bound].as_f64().unwrap() + beyond));
            let found = problems(&request);
            let at = found.iter().find(|p| p.field == row.path);
            // A weight goes by its cut, and half a gram lies within what this one may weigh at the least.
            assert!(at.is_some_and(|p| p.remedy.ends_with('.') && !p.allowed.is_empty()), "{} {bound}: {found:?}", row.path);
            refused += 1;
        }
    }
    assert!(refused >= 40, "{refused}");
}

#[test]
fn the_example_says_only_what_is_published() {
    fn walk(schema: &Value, said: &Value, path: &str) {
        for (name, value) in said.as_object().into_iter().flatten() {
            let inner = &schema["properties"][name];
            assert!(!inner.is_null(), "{path}.{name} is not published");
            walk(inner, value, &format!("{path}.{name}"));
        }
    }
    walk(&request_schema(), &serde_json::from_str(EXAMPLE).unwrap(), "");
}
