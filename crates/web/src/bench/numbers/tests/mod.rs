//! The numbers beside the picture: each says what the plan says, in the household's units, and in the order of the day.

use super::*;
use rauchkeller_contract::plan_from;
use rstest::rstest;
use serde_json::{Value, json};

fn now() -> ZonedDateTime {
    "2026-12-10T09:00[Europe/Vienna]".parse().unwrap()
}

fn plan(piece: &Value) -> PlanDoc {
    plan_from(&json!({"piece": piece, "serve_at": "2026-12-12T19:00[Europe/Vienna]"}), &now()).unwrap()
}

fn belly() -> PlanDoc {
    plan(&json!({"cut": "pork-belly", "weight_g": 2400, "bought_on": "2026-12-10"}))
}

#[test]
fn the_day_goes_forward_from_the_bench_to_the_table() {
    for cut in ["pork-belly", "beef-rib-steak", "duck-whole", "turkey-whole", "pork-loin-rack"] {
        let weight = rauchkeller_core::piece::Cut::find(cut).map(|c| f64::midpoint(c.typical_g.0, c.typical_g.1)).unwrap();
        let plan = plan(&json!({"cut": cut, "weight_g": weight}));
        let numbers = Numbers::of(&plan, &now(), &Shelf::default());
        let places: Vec<&str> = numbers.knots.iter().map(|knot| knot.place).collect();
        assert_eq!((places.first(), places.last()), (Some(&"bench"), Some(&"table")), "{cut}: {places:?}");
        let fire = places.iter().position(|place| *place == "fire").expect("a fire");
        let cold = places.iter().position(|place| *place == "refrigerator").expect("a stay in the cold");
        assert!(cold < fire, "{cut}: {places:?}");
        assert!(numbers.knots.last().unwrap().detail.ends_with("19:00"), "{cut}: the meal is where it was asked for");
    }
}

#[test]
fn what_stands_large_is_what_the_plan_weighs() {
    let plan = belly();
    let numbers = Numbers::of(&plan, &now(), &Shelf::default());
    assert_eq!(numbers.grams, grams(plan.dose.scale_g));
    assert_eq!(numbers.rim, format!("{:.0}", plan.fridge.rim_g_per_kg));
    // What lies on the faces is all of it, to what rounding each line may take.
    let on_faces: f64 = numbers.faces.iter().map(|face| face.g.parse::<f64>().unwrap()).sum();
    assert!((on_faces - plan.dose.scale_g).abs() <= 0.1 * numbers.faces.len() as f64, "{on_faces} of {}", plan.dose.scale_g);
    assert!(numbers.weighs && numbers.lays && numbers.each.is_empty(), "one piece has no portions");
}

#[test]
fn four_alike_are_said_once_and_those_that_differ_one_by_one() {
    let steaks = |weights: [i32; 4]| {
        let portions: Vec<Value> = weights.iter().map(|g| json!({"weight_g": g})).collect();
        Numbers::of(
            &plan(&json!({"cut": "beef-rib-steak", "weight_g": weights.iter().sum::<i32>(), "portions": portions})),
            &now(),
            &Shelf::default(),
        )
    };
    let alike = steaks([400; 4]);
    assert!(alike.each.starts_with("4 × ") && alike.each.ends_with(" g each"), "{}", alike.each);
    let differ = steaks([300, 350, 400, 450]);
    assert_eq!(differ.each.split(" · ").count(), 4, "{}", differ.each);
}

/// By hand: °F = 1.8 °C + 32; the authority's 62.8 °C are 145 °F.
#[rstest]
#[case(None, "°C")]
#[case(Some(System::Customary), "°F")]
fn the_pull_is_in_the_households_degrees(#[case] system: Option<System>, #[case] unit: &str) {
    let plan = belly();
    let numbers = Numbers::of(&plan, &now(), &Shelf { system, ..Shelf::default() });
    assert!(numbers.pull_unit.starts_with(unit), "{}", numbers.pull_unit);
    let c: f64 = plan.fire.targets[0].pull_c;
    let want = if unit == "°F" { c * 1.8 + 32.0 } else { c };
    assert!((numbers.pull.parse::<f64>().unwrap() - want).abs() <= 1.0, "{} is not {want}", numbers.pull);
    assert!(numbers.pull_line.contains("62.8 °C") && numbers.pull_line.contains("145 °F"), "{}", numbers.pull_line);
}

#[test]
fn the_rule_of_the_trade_stands_beside_the_model_or_is_missed_in_words() {
    let mut seen = [0, 0];
    for cut in rauchkeller_core::piece::Cut::all() {
        let plan = plan(&json!({"cut": cut.id, "weight_g": f64::midpoint(cut.typical_g.0, cut.typical_g.1)}));
        let line = Numbers::of(&plan, &now(), &Shelf::default()).fire_line;
        assert!(line.contains("our estimate"), "{}: {line}", cut.id);
        let rule = plan.fire.trade_minutes.is_some();
        assert_eq!(rule, line.contains("A common rule: "), "{}: {line}", cut.id);
        assert_eq!(!rule, line.contains("no common rule"), "{}: {line}", cut.id);
        seen[usize::from(rule)] += 1;
    }
    assert!(seen.iter().all(|count| *count > 0), "both were seen: {seen:?}");
}

#[test]
fn loud_cautions_stand_apart_from_notes_and_none_is_lost() {
    let plan = plan(&json!({"cut": "pork-belly", "weight_g": 2400}));
    let numbers = Numbers::of(&plan, &now(), &Shelf::default());
    assert_eq!(numbers.loud.len() + numbers.quiet.len(), plan.cautions.len());
    assert!(numbers.loud.iter().any(|c| c.code == "bought-when") && numbers.quiet.iter().all(|c| c.severity == "note"));
}

#[test]
fn too_late_offers_ways_that_the_sentence_can_say() {
    let request = json!({"piece": {"cut": "beef-rib-steak", "weight_g": 500}, "serve_at": "2026-12-10T14:00[Europe/Vienna]"});
    let plan = plan_from(&request, &now()).unwrap();
    let late = Numbers::of(&plan, &now(), &Shelf::default()).late.expect("five hours are too few");
    let taken: Vec<Vec<&str>> = late.ways.iter().map(|way| way.take.iter().map(|(word, _)| *word).collect()).collect();
    assert_eq!(taken, [vec!["dose"], vec!["method", "dose"], vec!["serve"], vec!["serve"]]);
    // Salted just before the heat it is not too late any more, and the grams are those that were offered.
    let way = plan.too_late.as_ref().unwrap().ways[1].clone();
    let mut before = request.clone();
    before["method"] = way.method.clone().into();
    before["salt"] = json!({"g_per_kg": way.g_per_kg});
    let before = plan_from(&before, &now()).unwrap();
    assert!(before.too_late.is_none() && (before.dose.scale_g - way.scale_g).abs() < 0.11, "{} {}", before.dose.scale_g, way.scale_g);
    assert!(!late.has_skin(), "a steak has none");
    let us = Numbers::of(&plan, &now(), &Shelf { system: Some(System::Customary), ..Shelf::default() }).late.unwrap();
    assert!(us.ways.iter().all(|way| way.depth.contains("in")) && late.ways.iter().all(|way| way.depth.contains("mm")));
}

#[test]
fn what_is_salted_after_the_cold_is_salty_on_the_plate() {
    let request = json!({"piece": {"cut": "beef-rib-steak", "weight_g": 500}, "method": "salt-after-cold", "serve_at": "2026-12-11T19:00[Europe/Vienna]"});
    let of = |request: &serde_json::Value| {
        let plan = plan_from(request, &now()).unwrap();
        (Numbers::of(&plan, &now(), &Shelf::default()), plan)
    };
    let (numbers, plan) = of(&request);
    let plate = plan.fridge.plate.unwrap();
    assert_eq!((numbers.bites_where, numbers.rim), (" on the plate", format!("{:.0}", plate.rim_g_per_kg)));
    assert!(plate.rim_g_per_kg > 5.0, "{}", plate.rim_g_per_kg);
    let mut before = request;
    before["method"] = "dry-brine".into();
    assert_eq!(of(&before).0.bites_where, "");
}

#[test]
fn goals_beyond_a_week_are_said_so() {
    let humid = json!({"piece": {"cut": "pork-belly", "weight_g": 2400}, "kitchen": {"fridge_rh": 0.95},
        "serve_at": "2026-12-12T19:00[Europe/Vienna]"});
    let numbers = Numbers::of(&plan_from(&humid, &now()).unwrap(), &now(), &Shelf::default());
    assert!(numbers.goals.iter().any(|(at, _)| at == "more than a week"), "{:?}", numbers.goals);
    assert!(numbers.goals.iter().all(|(at, words)| !at.is_empty() && !words.is_empty()));
}

#[test]
fn spoons_say_how_far_they_are_from_the_scale() {
    let dose = belly().dose;
    let line = spoons_line(&dose);
    let off = dose.spoons_g - dose.scale_g;
    match (off.abs() >= 0.05, off > 0.0) {
        (false, _) => assert!(!line.contains("over") && !line.contains("under"), "{line}"),
        (true, over) => assert!(line.contains(if over { " over" } else { " under" }), "{line}"),
    }
    // By hand: a level spoon is read to a quarter of a teaspoon, so they are never further apart than an eighth of one.
    assert!(off.abs() <= dose.g_per_tsp / 8.0 + 1e-6, "{off}");
}
