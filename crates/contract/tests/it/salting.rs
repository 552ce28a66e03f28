//! The salty part of the contract: own salts, mixes, covers, baths, inspection.

use super::now;
use rauchkeller_contract::{PlanDoc, Problems, plan_from};
use rstest::rstest;
use serde_json::{Value, json};

fn belly(with: &Value) -> Result<PlanDoc, Problems> {
    let mut request = json!({"piece": {"cut": "pork-belly", "weight_g": 2400}, "serve_at": "2026-12-12T19:00[Europe/Vienna]"});
    for (name, value) in with.as_object().unwrap() {
        match value.as_object().filter(|_| name == "piece") {
            Some(piece) => piece.iter().for_each(|(k, v)| request["piece"][k] = v.clone()),
            None => request[name] = value.clone(),
        }
    }
    plan_from(&request, &now())
}

#[test]
fn an_own_salt_is_weighed_by_its_sodium_chloride() {
    let own = json!({"salt": {"own": {"name": "grey jar", "g_per_tsp": 4.5, "purity": 0.9, "spread_g": 0.2, "pinch_g": 0.5}}});
    let plan = belly(&own).unwrap();
    // By hand: 18 g ÷ 0.9 = 20 g; 20 ÷ 4.5 = 4.44 tsp → 4½ tsp = 1 tbsp + 1½ tsp; 40 pinches.
    assert_eq!((plan.dose.to_weigh_g, plan.dose.scale_g, plan.dose.pinches), (18.0, 20.0, Some(40)));
    assert_eq!((plan.dose.spoons.as_str(), plan.request.salt_name.as_str()), ("1 tbsp + 1½ tsp", "grey jar"));
    let faces: f64 = plan.dose.by_face.iter().map(|f| f.scale_g).sum();
    assert!((faces - 20.0).abs() < 0.01);
}

#[test]
fn a_mix_comes_as_recipe_or_as_parts() {
    let recipe = belly(&json!({"mix": {"name": "house rub", "recipe": "32 g salt\n68 g sugar\nfor 6 kg"}})).unwrap();
    let parts = belly(&json!({"mix": {"name": "house rub", "made_for_g": 6000, "parts": [
        {"name": "salt", "g": 32, "salt_g": 32}, {"name": "sugar", "g": 68, "salt_g": 0}]}}))
    .unwrap();
    // By hand: 40 g of it bring 12.8 g; 5.2 g loose.
    for plan in [recipe, parts] {
        let mix = plan.dose.mix.unwrap();
        assert_eq!((mix.g, mix.salt_g, plan.dose.to_weigh_g), (40.0, 12.8, 5.2));
        assert_eq!(mix.parts[1].g, 27.2);
    }
}

#[test]
fn what_was_found_at_inspection_is_answered() {
    let plan = belly(&json!({"piece": {"thin_mm": 30, "trimmed_weight_g": 2200, "scored": "into-fat", "use_by": "2026-12-14",
        "solution": {"sodium_mg_per_100g": 160}, "frozen": false}}))
    .unwrap();
    let fields: Vec<&str> = plan.inspection.iter().map(|n| n.field.as_str()).collect();
    assert_eq!(fields, ["piece.thin_mm", "piece.trimmed_weight_g", "piece.scored", "piece.solution", "piece.use_by"]);
    assert!(plan.skin.unwrap().holes.is_none(), "what comes scored is not pierced");
}

#[test]
fn a_bath_names_its_hours() {
    let plan = belly(&json!({"ledger": [{"item": "soy-sauce", "g": 900, "bath_h": 12}], "salt": {"g_per_kg": 30}})).unwrap();
    let line = &plan.dose.ledger[0];
    // TRADE 4.9: about 4 g/dm² in 12 h, far less than the 126 g in the bath.
    assert!(line.bath_cap_g.is_some_and(|g| g < 60.0) && line.estimate);
}

#[rstest]
#[case(json!({"salt": {"own": {"name": "grey", "g_per_tsp": 5, "purity": 1.3}}}), "salt.own.purity", "130 %")]
#[case(json!({"salt": {"own": {"name": "pink curing salt", "g_per_tsp": 5}}}), "salt.own.name", "curing")]
#[case(json!({"salt": {"own": {"name": "x", "g_per_tsp": 5, "purity": 0.6, "potassium_share": 0.6}}}), "salt.own.potassium_share", "more than 100 %")]
#[case(json!({"salt": {"own": {"name": "x", "g_per_tsp": 50}}}), "salt.own.g_per_tsp", "50 g a teaspoon")]
#[case(json!({"salt": {"cover": {"kind": "blanket"}}}), "salt.cover.kind", "blanket")]
#[case(json!({"salt": {"cover": {"kind": "crust", "depth_mm": 90}}}), "salt.cover.depth_mm", "90 mm")]
#[case(json!({"mix": {"name": "rub", "recipe": "40 g salt\nmakes 120 g"}}), "mix.recipe", "")]
#[case(json!({"mix": {"name": "rub"}}), "mix.recipe", "nothing")]
#[case(json!({"mix": {"name": "rub", "parts": [{"name": "salt", "g": 10, "salt_g": 11}]}}), "mix.parts[0].g", "11 g of salt")]
#[case(json!({"ledger": [{"said": "-3 g soy sauce"}]}), "ledger[0].said", "-3 g")]
#[case(json!({"ledger": [{"item": "soy-sauce", "g": 30, "bath_h": 9000}]}), "ledger[0].bath_h", "9000 h")]
#[case(json!({"piece": {"weight_g": 0}}), "piece.weight_g", "")]
#[case(json!({"piece": {"weight_g": 300_000}}), "piece.weight_g", "300 kg")]
#[case(json!({"piece": {"bone_fraction": 1.2}}), "piece.bone_fraction", "1.2")]
#[case(json!({"piece": {"salt_thickness_mm": 200, "length_mm": 150}}), "piece.salt_thickness_mm", "200 mm")]
#[case(json!({"salt": {"g_per_kg": 60}}), "salt.g_per_kg", "60")]
#[case(json!({"piece": {"scored": "deeply"}}), "piece.scored", "deeply")]
#[case(json!({"piece": {"thin_mm": 90}}), "piece.thin_mm", "90 mm")]
fn what_cannot_be_is_named_at_its_field(#[case] with: Value, #[case] field: &str, #[case] typed: &str) {
    let problems = belly(&with).unwrap_err().problems;
    let found = problems.iter().find(|p| p.field == field).unwrap_or_else(|| panic!("{field} not in {problems:?}"));
    assert!(found.typed.contains(typed), "{found:?}");
    assert!(!found.allowed.is_empty() && found.remedy.ends_with('.'), "{found:?}");
}
