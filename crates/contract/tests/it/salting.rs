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

/// The ladder follows the method.
mod by_method {
    use super::*;

    fn said(change: Value) -> Value {
        let mut request = json!({"piece": {"cut": "pork-loin-rack", "weight_g": 2000, "bone_fraction": 0.0}, "now": "2026-12-10T08:00[Europe/Vienna]",
            "serve_at": "2026-12-12T19:00[Europe/Vienna]", "method": "dry-brine"});
        if let Value::Object(change) = change {
            change.into_iter().for_each(|(name, value)| request[name] = value);
        }
        request
    }

    fn plan(change: Value) -> rauchkeller_contract::PlanDoc {
        plan_from(&said(change), &"2026-12-10T08:00[Europe/Vienna]".parse().unwrap()).unwrap_or_else(|p| panic!("{p:?}"))
    }

    fn refused(change: Value) -> Vec<String> {
        let problems = plan_from(&said(change), &"2026-12-10T08:00[Europe/Vienna]".parse().unwrap()).unwrap_err();
        problems.problems.into_iter().map(|p| p.field).collect()
    }

    #[test]
    fn a_dose_may_be_a_spoon_rule() {
        // TRADE 4.3: 1½ tsp light-flake per lb is 9.26 g/kg, so 18.52 g on 2 kg; 1 tsp dense kosher per lb 10.58.
        let flakes = plan(json!({"salt": {"kind": "light-flake-kosher", "as": "1½ tsp per lb"}}));
        assert!(
            (flakes.dose.total_g - 18.52).abs() < 0.01 && flakes.dose.spoons.contains("tbsp"),
            "{} {}",
            flakes.dose.total_g,
            flakes.dose.spoons
        );
        let dense = plan(json!({"salt": {"kind": "dense-kosher", "as": "1 tsp per lb"}}));
        assert!((dense.dose.total_g - 21.16).abs() < 0.01, "{}", dense.dose.total_g);
        // A spoon of nobody knows which salt is asked about, and so are two doses.
        assert_eq!(refused(json!({"salt": {"as": "1 tsp per lb"}})), ["salt.as"]);
        assert_eq!(refused(json!({"salt": {"kind": "fine-sea", "as": "10 g/kg", "g_per_kg": 10}})), ["salt.as"]);
        assert_eq!(refused(json!({"salt": {"as": "a handful"}})), ["salt.as"]);
    }

    #[test]
    fn a_rule_far_from_the_cooks_own_is_pointed_out() {
        let codes = |usual: f64| {
            let plan = plan(json!({"salt": {"g_per_kg": 10, "usual_g_per_kg": usual}}));
            plan.cautions.iter().any(|c| c.code == "not-your-dose")
        };
        // More than a fifth: 10 against 8.3 is 20.5 %, against 8.4 is 19 %; less goes the same way: 12.6 is 20.6 % above 10.
        assert_eq!([8.3, 8.4, 12.4, 12.6].map(codes), [true, false, false, true]);
        assert_eq!(refused(json!({"salt": {"usual_g_per_kg": 80}})), ["salt.usual_g_per_kg"]);
    }

    #[test]
    fn shares_are_the_cooks_own() {
        let plan = plan(json!({"salt": {"g_per_kg": 10, "shares": {"meat": 0.7, "cut": 0.1, "fat": 0.2}}}));
        let g: Vec<(String, f64)> = plan.dose.by_face.iter().map(|f| (f.face.clone(), f.g)).collect();
        // By hand: 20 g.
        for (face, want) in [("meat", 14.0), ("cut", 2.0), ("fat", 4.0)] {
            assert!(g.iter().any(|(id, got)| id == face && (got - want).abs() < 1e-3), "{g:?}");
        }
        assert_eq!(refused(json!({"salt": {"shares": {"meat": 0.7, "cut": 0.1}}})), ["salt.shares"]);
        assert_eq!(refused(json!({"salt": {"shares": {"meat": 0.7, "wing": 0.3}}})), ["salt.shares.wing"]);
        assert_eq!(refused(json!({"salt": {"faces": ["meat"], "shares": {"meat": 1.0}}})), ["salt.shares"]);
        assert_eq!(refused(json!({"salt": {"shares": [1, 2]}})), ["salt.shares"]);
    }

    #[test]
    fn what_is_eaten_beside_is_sodium_and_no_dose() {
        let none = plan(json!({"servings": 4}));
        let dip = plan(json!({"servings": 4, "ledger": [{"said": "4 tbsp soy sauce", "use": "beside"}]}));
        assert!((dip.dose.scale_g - none.dose.scale_g).abs() < 1e-9);
        // By hand: 64 g × 13.96 % ÷ 2.5421 = 3.515 g of sodium, 879 mg for each of four.
        assert!((dip.dose.sodium_mg_per_serving - none.dose.sodium_mg_per_serving - 878.7).abs() < 0.5);
        // In words at the end of the line it is the same.
        let words = plan(json!({"servings": 4, "ledger": [{"said": "4 tbsp soy sauce beside"}]}));
        assert_eq!(words.dose.sodium_mg_per_serving, dip.dose.sodium_mg_per_serving);
        // On the meat it takes the place of salt: 64 × 13.96 % × 0.6 = 5.36 g.
        let on = plan(json!({"servings": 4, "ledger": [{"said": "4 tbsp soy sauce"}]}));
        assert!((none.dose.scale_g - on.dose.scale_g - 5.361).abs() < 0.01);
    }

    #[test]
    fn a_salty_liquid_gives_back_what_a_plain_one_takes() {
        let braised = |ledger: Value| {
            let plan = plan(
                json!({"piece": {"cut": "pork-butt", "weight_g": 2000, "bone_fraction": 0.0}, "method": "grooved-braise", "ledger": ledger}),
            );
            (plan.dose.scale_g, plan.fridge.plate.unwrap())
        };
        let (plain_g, plain) = braised(json!([{"said": "1 l water 0% salt in the pot"}]));
        let (stock_g, stock) = braised(json!([{"said": "1 l stock in the pot"}]));
        let (brine_g, brine) = braised(json!([{"said": "1 l brine 3% salt in the pot"}]));
        assert!((plain_g - stock_g).abs() < 1e-9 && (plain_g - brine_g).abs() < 1e-9, "the dose is the meat’s");
        assert!(plain.into_liquid > stock.into_liquid && stock.into_liquid > brine.into_liquid, "{plain:?} {stock:?} {brine:?}");
        assert!(plain.rim_g_per_kg < stock.rim_g_per_kg && stock.rim_g_per_kg < brine.rim_g_per_kg);
    }

    #[test]
    fn what_nobody_knows_the_salt_of_is_a_range_with_its_effect() {
        let plan = plan(json!({"salt": {"g_per_kg": 10}, "ledger": [{"said": "20 g bought rub"}]}));
        // TRADE 4.6: a bought rub is 15 to 45 % salt: 3 to 9 g of the 20, and 11 to 17 to weigh; the middle counts.
        assert_eq!(plan.dose.ledger[0].between_g, Some((3.0, 9.0)));
        assert_eq!(plan.dose.scale_between_g, Some((11.0, 17.0)));
        assert!((plan.dose.scale_g - 14.0).abs() < 1e-6);
        let said = plan.cautions.iter().find(|c| c.code == "salt-range").unwrap();
        assert!(said.text.contains("3.0 to 9.0 g") && said.text.contains("11.0 to 17.0 g"), "{}", said.text);
    }

    #[test]
    fn a_sauce_may_go_on_one_face_and_a_line_may_be_a_bath() {
        let plan = plan(
            json!({"salt": {"g_per_kg": 10}, "ledger": [{"said": "2 tbsp soy sauce", "face": "fat"}, {"said": "100 ml soy sauce", "bath_h": 1, "face": "meat"}]}),
        );
        let step = plan.steps.iter().find(|s| s.kind == "season").unwrap();
        assert!(step.detail.contains("over the fat cap"), "{}", step.detail);
        assert_eq!((plan.dose.ledger[0].face.as_deref(), plan.dose.ledger[1].bath_h), (Some("fat"), Some(1.0)));
        assert_eq!(refused(json!({"ledger": [{"said": "2 tbsp soy sauce", "face": "wing"}]})), ["ledger[0].face"]);
        assert_eq!(refused(json!({"ledger": [{"said": "2 tbsp soy sauce", "bath_h": 9000}]})), ["ledger[0].bath_h"]);
        assert_eq!(refused(json!({"ledger": [{"said": "2 tbsp soy sauce", "use": "under"}]})), ["ledger[0].use"]);
    }
}
