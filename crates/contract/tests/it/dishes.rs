//! Dishes of the trade and of published charts, each with the end its rule was made for: what the heat is held to.
//!
//! Split in two halves before anything is tuned: on the checked half nothing may be tuned. Times are common practice, charts USDA FSIS
//! from memory; the source stands in each row. The ratio is the model's minutes over the nearest edge of the rule's span, 1 inside.

use rauchkeller_contract::plan_from;
use serde::Deserialize;
use serde_json::Value;
use std::collections::BTreeSet;

/// A dish.
#[derive(Debug, Deserialize)]
struct Dish {
    id: String,
    half: String,
    shape: Vec<String>,
    rule: String,
    source: String,
    end: String,
    minutes: (f64, f64),
    request: Value,
    exempt: Option<String>,
}

fn dishes() -> Vec<Dish> {
    serde_json::from_str(include_str!("../trade/dishes.json")).unwrap()
}

/// The model's minutes over the nearest edge of the rule's span.
fn ratio(dish: &Dish) -> f64 {
    let plan = plan_from(&dish.request, &"2026-12-10T09:00[Europe/Vienna]".parse().unwrap());
    let min = plan.unwrap_or_else(|problems| panic!("{}: {problems:?}", dish.id)).fire.minutes;
    let (low, high) = dish.minutes;
    min / min.clamp(low, high)
}

#[test]
fn both_halves_hold_every_shape_and_every_row_its_source() {
    let dishes = dishes();
    assert!(dishes.len() >= 30, "{} dishes", dishes.len());
    assert_eq!(dishes.iter().map(|d| &d.id).collect::<BTreeSet<_>>().len(), dishes.len(), "each once");
    for half in ["tuned", "checked"] {
        for shape in ["slab", "cylinder", "joint", "bird", "pan", "covered", "stall"] {
            assert!(dishes.iter().any(|d| d.half == half && d.shape.iter().any(|s| s == shape)), "no {shape} among the {half}");
        }
    }
    let whole =
        |d: &Dish| [&d.rule, &d.source, &d.end].iter().all(|text| !text.is_empty()) && 0.0 < d.minutes.0 && d.minutes.0 <= d.minutes.1;
    assert!(dishes.iter().all(|d| whole(d) && ["tuned", "checked"].contains(&d.half.as_str())));
    assert!(dishes.iter().filter(|d| d.exempt.is_some()).count() <= 3);
}

/// Dishes that the model does not meet within a third: known, and said on the page as far as a rule stands there.
const NOT_MET: [&str; 9] = [
    "butt-6lb",
    "chop-pan-32mm",
    "goose-4.75kg",
    "loin-2.5lb",
    "pork-leg-16lb",
    "rib-bone-in-4lb",
    "braised-short-rib",
    "slow-rib-4kg",
    "steak-pan-25mm",
];

#[test]
fn what_the_model_does_not_meet_is_known() {
    let rows: Vec<(String, String, f64)> =
        dishes().iter().filter(|d| d.exempt.is_none()).map(|d| (d.id.clone(), d.half.clone(), ratio(d))).collect();
    let missed: BTreeSet<&str> = rows.iter().filter(|(.., ratio)| !(0.75..=1.33).contains(ratio)).map(|(id, ..)| id.as_str()).collect();
    assert_eq!(missed, NOT_MET.into_iter().collect(), "{rows:#?}");
}
