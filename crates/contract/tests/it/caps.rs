//! What can be asked for has a cap, and beyond it a sentence: nothing that comes from outside says how long the program works.

use crate::now;
use rauchkeller_contract::plan_from;
use serde_json::{Value, json};

fn fields(request: &Value) -> Vec<String> {
    plan_from(request, &now()).map_or_else(|refused| refused.problems.iter().map(|p| p.field.clone()).collect(), |_| vec![])
}

#[test]
fn heat_turns_and_strokes_have_a_cap_and_say_so() {
    let stage =
        |minutes: f64, flip: Value| json!({"with": "pan", "air_c": 200, "how": "direct", "until": {"minutes": minutes}, "flip_min": flip});
    let steak = |stages: Vec<Value>| json!({"piece": {"cut": "beef-rib-steak", "weight_g": 800}, "fire": {"stages": stages}});
    // Turned once a minute for four hours is a cap away from being turned twice a minute.
    assert!(!fields(&steak(vec![stage(240.0, json!(1))])).iter().any(|f| f.contains("flip")));
    assert_eq!(fields(&steak(vec![stage(240.0, json!(0.5))])), ["fire.stages[0].flip_min"]);
    // Nor so often in all stages together.
    assert_eq!(fields(&steak(vec![stage(200.0, json!(1)); 3])), ["fire.stages"]);
    let whole_day =
        |n: usize| steak((0..n).map(|_| json!({"with": "oven", "air_c": 60, "how": "open", "until": {"minutes": 1440}})).collect());
    assert!(!fields(&whole_day(2)).contains(&"fire.stages".to_owned()));
    assert_eq!(fields(&whole_day(3)), ["fire.stages"]);
    let belly = |mm: f64| {
        json!({"piece": {"cut": "pork-belly", "weight_g": 4000, "length_mm": 380, "width_mm": 240},
        "method": "scored-fierce-low", "skin": {"work": "diamond", "spacing_mm": mm}})
    };
    assert_eq!(fields(&belly(1.0)), ["skin.spacing_mm"]);
    assert_eq!(fields(&belly(3.0)), ["skin.spacing_mm"]);
    assert_eq!(fields(&belly(6.0)), Vec::<String>::new());
}

#[test]
fn a_layer_that_nobody_can_measure_is_none() {
    let piece =
        |fat: f64| json!({"piece": {"cut": "beef-rib-roast", "weight_g": 6000, "fat_mm": fat, "length_mm": 300, "salt_thickness_mm": 80}});
    let plan = |fat: f64| plan_from(&piece(fat), &now()).unwrap();
    let none = plan(0.0);
    for thin in [5e-7, 0.01, 0.0999] {
        let plan = plan(thin);
        assert_eq!((plan.request.fat_mm, &plan.dose, &plan.fridge), (0.0, &none.dose, &none.fridge), "{thin} mm");
    }
    assert!(plan(0.1).request.fat_mm > 0.0);
}
