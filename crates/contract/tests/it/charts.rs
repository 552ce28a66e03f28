//! Published roasting charts beside the model. Times from memory: USDA FSIS roasting charts; TRADE 9.3 and 9.14.

use crate::fire::planned;
use rauchkeller_contract::{PlanDoc, plan_from};
use serde_json::json;

/// A row: cut, pounds, °F, minutes at least and at most. Red meat is charted to the authority's 145 °F, birds to their own finish.
type Row = (&'static str, f64, f64, (f64, f64));

/// The plan of a row, cooked to where the chart has it.
fn charted(cut: &str, lb: f64, f: f64) -> PlanDoc {
    let mut fire = json!({"stages": [{"air_c": (f - 32.0) / 1.8, "until": {"core": "finish"}}]});
    if !matches!(cut, "turkey-whole" | "chicken-whole" | "duck-whole") {
        fire["finish"] = json!({"core_c": 62.8});
    }
    planned(cut, lb * G_A_LB, &fire)
}

fn rows() -> Vec<Row> {
    let a_lb = |cut, lb: f64, f, low: f64, high: f64| (cut, lb, f, (low * lb, high * lb));
    let mut rows: Vec<Row> = vec![
        ("turkey-whole", 10.0, 325.0, (165.0, 180.0)),
        ("turkey-whole", 13.0, 325.0, (180.0, 225.0)),
        ("turkey-whole", 16.0, 325.0, (225.0, 255.0)),
        ("chicken-whole", 3.5, 350.0, (75.0, 90.0)),
        a_lb("beef-rib-roast", 6.0, 325.0, 23.0, 25.0),
    ];
    rows.extend([12.0, 14.0, 16.0].map(|lb| a_lb("pork-leg", lb, 325.0, 22.0, 26.0)));
    rows.extend([3.0, 4.5].map(|lb| a_lb("pork-butt", lb, 350.0, 45.0, 45.0)));
    rows.extend([4.0, 5.0].map(|lb| a_lb("pork-loin-rack", lb, 350.0, 20.0, 20.0)));
    rows.extend([3.0, 4.0].map(|lb| a_lb("beef-round-roast", lb, 325.0, 30.0, 35.0)));
    rows.extend([5.0, 7.0].map(|lb| a_lb("lamb-leg", lb, 325.0, 20.0, 25.0)));
    rows
}

const G_A_LB: f64 = 453.592_37;

#[test]
fn the_model_is_within_a_third_of_published_charts() {
    let rows = rows();
    assert!(rows.len() >= 15);
    for (cut, lb, f, (low, high)) in rows {
        let plan = charted(cut, lb, f);
        let min = plan.fire.minutes;
        assert!((low / 1.5..=high * 1.34).contains(&min), "{cut} of {lb} lb: {min} min where the chart has {low} to {high}");
        // Where the chart's rule is the page's, they are not said to differ.
        assert!(plan.fire.trade_rule.is_some() && plan.fire.trade_differs.is_none(), "{cut} of {lb} lb: {:?}", plan.fire.trade_differs);
    }
}

#[test]
fn wrapped_shoulder_from_four_to_seven_pounds() {
    // TRADE 9.3, common practice: 45–60 min/lb at 135 °C to 95 °C.
    for lb in [4.0, 5.0, 6.0, 7.0] {
        let stages = json!([{"air_c": 135, "until": {"minutes": 120}}, {"air_c": 135, "how": "wrapped", "until": {"core_c": 95}}]);
        let a_lb = planned("pork-butt", lb * G_A_LB, &json!({"stages": stages})).fire.minutes / lb;
        assert!((45.0 / 1.5..=60.0 * 1.34).contains(&a_lb), "{a_lb} min/lb at {lb} lb");
    }
}

#[test]
fn where_a_chart_says_another_time_the_plan_says_why() {
    // A duck is left in until its fat has run: far beyond its finish.
    let why = |cut, lb, f| charted(cut, lb, f).fire.trade_differs.unwrap_or_default();
    assert!(why("duck-whole", 5.0, 350.0).contains("fat has run"));
    // Minutes a pound grow with the weight, time by thickness does not: a loin typed half as thick again.
    let thick = json!({"stages": [{"air_c": 177, "until": {"core": "finish"}}], "finish": {"core_c": 62.8}});
    let thick = plan_from(
        &json!({"piece": {"cut": "pork-loin-rack", "weight_g": 1134, "salt_thickness_mm": 110}, "fire": thick}),
        &"2026-12-10T09:00[Europe/Vienna]".parse().unwrap(),
    )
    .unwrap();
    assert!(thick.fire.trade_differs.as_ref().is_some_and(|why| why.contains("thickness")), "{:?}", thick.fire.trade_differs);
    let slow = planned("turkey-whole", 12.0 * G_A_LB, &json!({"stages": [{"air_c": 110, "until": {"core": "finish"}}]}));
    assert!(slow.fire.trade_differs.as_ref().unwrap().contains("another heat"), "{:?}", slow.fire.trade_differs);
}
