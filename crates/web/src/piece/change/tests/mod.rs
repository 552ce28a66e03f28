//! A kept piece changed, planned anew, and judged by today’s rules.

use super::{Change, by_todays_rules};
use crate::piece::testing::{kept, opened};
use crate::words::instant;
use jiff::ZonedDateTime;
use rauchkeller_core::run::What;
use serde_json::json;

/// A belly salted a day before it was planned, found to be heavier.
#[test]
fn missing_salt_goes_on_between_two_stays_in_the_cold() {
    let piece = opened(&[("salt", "2026-12-10T09:00:00Z"), ("chill", "2026-12-10T09:10:00Z")]);
    let now: ZonedDateTime = "2026-12-10T11:00[UTC]".parse().unwrap();
    let change = Change::of(piece, &now);
    let mut request = change.said();
    request["piece"]["weight_g"] = (request["piece"]["weight_g"].as_f64().unwrap() + 300.0).into();
    change.carry(&mut request);
    let plan = change.plan(&request, &now).unwrap();
    let at = |id: &str| plan.steps.iter().position(|s| s.id == id).unwrap_or_else(|| panic!("no {id}"));
    let order = [at("chill"), at("top-up"), at("wash-2"), at("chill-2")];
    assert!(order.is_sorted(), "{order:?}");
    // The stay that has begun lasts from when it really began until the salt is laid on.
    let (first, top_up) = (&plan.steps[at("chill")], &plan.steps[at("top-up")]);
    assert_eq!((instant(&first.starts_at), &first.ends_at), ("2026-12-10T09:10:00Z".parse().unwrap(), &top_up.starts_at));
    assert_eq!((first.takes.as_str(), plan.steps[at("chill-2")].takes.as_str()), ("fixed", "elastic"));
    assert!(plan.steps.iter().all(|s| instant(&s.starts_at) <= instant(&s.ends_at)));
    // What is shown has the hours as they were, not as they were planned.
    let shown = change.as_it_was(std::sync::Arc::new(plan.clone()));
    assert_eq!(instant(&shown.steps[at("salt")].ends_at), "2026-12-10T09:00:00Z".parse().unwrap());
}

/// A chicken that minutes leave raw, kept when nobody said so.
fn unjudged(ticks: &[(&str, &str)]) -> crate::piece::Opened {
    let stages = json!([{"air_c": 200, "until": {"minutes": 45}}]);
    let request = json!({
        "piece": {"cut": "chicken-whole", "weight_g": 1800, "bought_on": "2026-12-10"}, "fire": {"stages": stages},
        "now": "2026-12-10T09:00[UTC]", "serve_at": "2026-12-11T19:00[UTC]", "knowing": ["not-safe"],
    });
    let mut opened = kept(&request, ticks);
    std::sync::Arc::make_mut(&mut opened.plan).cautions.retain(|c| c.code != "not-safe");
    opened
}

#[test]
fn a_kept_piece_that_todays_rules_call_not_safe_says_so_also_out_of_the_cold() {
    let now: ZonedDateTime = "2026-12-10T11:00[UTC]".parse().unwrap();
    let today = by_todays_rules(&unjudged(&[]), &now).unwrap();
    assert!(!today.out && today.not_safe.len() == 1 && today.not_safe[0].contains("73.9 °C"), "{today:?}");
    // Judged so when it was kept, it is not said again.
    let mut known = unjudged(&[]);
    let plan = rauchkeller_contract::plan_from(&Change::of(known.clone(), &now).said(), &now).unwrap();
    std::sync::Arc::make_mut(&mut known.plan).cautions = plan.cautions;
    assert!(by_todays_rules(&known, &now).unwrap().not_safe.is_empty());
    // Out of the refrigerator nothing is planned anew, and it is said all the same; of the differences only the heat's.
    let ticks = [("salt", "2026-12-10T10:00:00Z"), ("chill", "2026-12-10T10:10:00Z")];
    let mut out = unjudged(&ticks).with("2026-12-11T17:00:00Z", What::TaskEnded { task: "chill".into() });
    std::sync::Arc::make_mut(&mut out.plan).cautions.retain(|c| c.code != "not-safe");
    let later: ZonedDateTime = "2026-12-11T17:10[UTC]".parse().unwrap();
    let today = by_todays_rules(&out, &later).unwrap();
    assert!(today.out && today.not_safe.len() == 1, "{today:?}");
    assert!(today.differences.iter().all(|d| ["pulled at", "in the heat"].contains(&d.what)), "{today:?}");
    // Under today's own rules there is nothing to say.
    let mut same = unjudged(&[]);
    same.piece.rules = i32::try_from(rauchkeller_core::plan::RULES).unwrap();
    assert_eq!(by_todays_rules(&same, &now), None);
}

#[test]
fn a_change_goes_by_the_way_as_it_was_kept_and_the_newer_one_is_offered() {
    let now: ZonedDateTime = "2026-12-10T11:00[UTC]".parse().unwrap();
    let mut piece = opened(&[]);
    piece.piece.rules = i32::try_from(rauchkeller_core::plan::RULES).unwrap();
    assert_eq!(by_todays_rules(&piece, &now), None, "the shipped document is the one it was kept with");
    // The document of an earlier day had another first title.
    let mut full: serde_json::Value = serde_json::from_str(&piece.piece.request).unwrap();
    full["method_document"]["tasks"][0]["title"] = "Sharpen the knife".into();
    piece.piece.request = full.to_string();
    assert_eq!(by_todays_rules(&piece, &now).unwrap().newer_way, Some(1));
    let change = Change::of(piece, &now);
    // As a form sends it: words of the sentence, and no document.
    let mut request = change.said();
    request["method_document"] = serde_json::Value::Null;
    request["servings"] = 5.into();
    change.carry(&mut request);
    let titles = |request| change.plan(request, &now).unwrap().steps.iter().map(|s| s.title.clone()).collect::<Vec<_>>();
    assert!(titles(&request).iter().any(|title| title == "Sharpen the knife"));
    // Another way of the cook's choice is the shipped one.
    let mut other = change.said();
    other["method_document"] = serde_json::Value::Null;
    other["method"] = "dry-brine".into();
    change.carry(&mut other);
    assert!(other["method_document"].is_null() && !titles(&other).iter().any(|title| title == "Sharpen the knife"));
}
