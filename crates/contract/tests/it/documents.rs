//! A method's document, field by field: what is written out again is what was read, and what is said takes effect or is refused.

use super::dice::Dice;
use super::now;
use rauchkeller_contract::{method_value, methods, plan_from, read_draft, read_way};
use serde_json::{Map, Value, json};
use std::collections::BTreeMap;

/// Each field that a document may say and that is thrown here.
const FIELDS: [&str; 36] = [
    "version",
    "name",
    "why",
    "source",
    "not",
    "wants.crackling",
    "own_hours",
    "salt.kind",
    "salt.own",
    "salt.basis",
    "salt.g_per_kg",
    "salt.faces",
    "salt.skin_bare",
    "salt.cover.depth_mm",
    "salt.cover.left_g_per_dm2",
    "mix",
    "mix.g",
    "ledger",
    "skin.work",
    "skin.depth_mm",
    "skin.edge_mm",
    "skin.margin_mm",
    "skin.avoid",
    "skin.tool",
    "skin.fat",
    "skin.meat",
    "lies",
    "fire.with",
    "fire.temper_min",
    "fire.stages",
    "fire.rest_min",
    "tasks.minutes",
    "tasks.title",
    "tasks.detail",
    "tasks.needs",
    "tasks.hands_on_min",
];

fn number(dice: &mut Dice, low: f64, high: f64) -> Value {
    json!((dice.between(low, high) * 10.0).round() / 10.0)
}

/// Something that a field may say.
fn something(field: &str, dice: &mut Dice, id: &str) -> Value {
    match field {
        "version" => json!(2 + dice.below(90)),
        "name" => json!(format!("our way {}", dice.below(1000))),
        "why" | "source" => json!(format!("because of {}", dice.below(1000))),
        "not" => json!({ "lamb-leg": format!("reason {}", dice.below(100)) }),
        "wants.crackling" | "salt.skin_bare" => json!(dice.chance(0.5)),
        "own_hours" => {
            let shortest = 1 + dice.below(12);
            json!([shortest, shortest + 6, shortest + 6 + dice.below(40)])
        }
        "salt.kind" => json!(["dense-kosher", "fine-table", "fine-rock"][dice.below(3)]),
        "salt.own" => json!({"name": "grey jar", "g_per_tsp": number(dice, 3.0, 6.0), "purity": 0.97, "pinch_g": 0.4, "spread_g": 0.3}),
        "salt.basis" => json!(["whole", "edible"][dice.below(2)]),
        "salt.g_per_kg" => number(dice, 4.0, 7.3),
        "salt.faces" => json!(["meat"]),
        "salt.cover.depth_mm" => number(dice, 3.0, 6.0),
        "salt.cover.left_g_per_dm2" => number(dice, 0.2, 2.0),
        "mix" => json!({"name": "house rub", "parts": [{"name": "salt", "g": 30, "salt_g": 30}, {"name": "sugar", "g": 70, "salt_g": 0}]}),
        "mix.g" => number(dice, 5.0, 20.0),
        "ledger" => {
            let mut line = json!({"item": "soy-sauce", "g_per_kg": number(dice, 0.5, 3.0)});
            match dice.below(5) {
                0 => line["uptake"] = number(dice, 0.1, 0.9),
                1 => line["bath_h"] = number(dice, 0.5, 6.0),
                2 => line["face"] = json!("meat"),
                3 => line["use"] = json!(["beside", "liquid"][dice.below(2)]),
                _ => {}
            }
            json!([line])
        }
        knife if knife.starts_with("skin.") => of_the_knife(knife, dice),
        "lies" => json!(["open", "covered", "hung", "boxed"][dice.below(4)]),
        "fire.with" => json!(["oven", "grill", "smoker"][dice.below(3)]),
        "fire.temper_min" => json!(5 * (1 + dice.below(12))),
        "fire.stages" => json!([{"air_c": 120 + 5 * dice.below(20), "how": "open", "until": {"core": "finish"}}]),
        "fire.rest_min" => json!(5 * (1 + dice.below(8))),
        "tasks.minutes" => {
            let shortest = 1 + dice.below(20);
            json!([shortest, shortest + 2, shortest + 2 + dice.below(9)])
        }
        "tasks.title" => json!(format!("Do {} {}", id, dice.below(100))),
        "tasks.detail" => json!(format!("As at home, the {}.", dice.below(100))),
        "tasks.needs" => json!([format!("thing {}", dice.below(100))]),
        _ => json!(dice.below(3)),
    }
}

/// The same of knife and pick.
fn of_the_knife(field: &str, dice: &mut Dice) -> Value {
    match field {
        "skin.work" => json!(["whole", "pierce", "parallel", "crosshatch", "diamond"][dice.below(5)]),
        "skin.depth_mm" => number(dice, 2.0, 8.0),
        "skin.edge_mm" => number(dice, 4.0, 12.0),
        "skin.margin_mm" => number(dice, 1.5, 3.0),
        "skin.avoid" => json!([{"tie_mm": number(dice, 40.0, 160.0)}, {"x_mm": 60.0, "y_mm": 50.0, "radius_mm": number(dice, 8.0, 20.0)}]),
        "skin.tool" => {
            if dice.chance(0.5) {
                json!("pick")
            } else {
                json!({"id": "own-comb", "name": "comb", "reach_mm": 9.0, "stop": "fixed", "pins": 12})
            }
        }
        "skin.fat" => {
            let spot = |dice: &mut Dice| json!({"skin_mm": 2.5, "fat_mm": (dice.between(4.0, 12.0) * 10.0).round() / 10.0});
            json!({"left": spot(dice), "near": spot(dice), "far": spot(dice), "right": spot(dice)})
        }
        "skin.meat" => match dice.below(3) {
            0 => json!({"kind": "whole"}),
            1 => json!({"kind": "grooves", "spacing_mm": number(dice, 25.0, 38.0), "depth_mm": 6.0}),
            _ => json!({"kind": "lattice", "spacing_mm": number(dice, 15.0, 30.0), "beyond_mm": 1.5}),
        },
        other => unreachable!("{other}"),
    }
}

/// Each field that a document may say, with something to say there; `i` is the task it is said of.
fn saying(dice: &mut Dice, document: &mut Value) -> &'static str {
    let field = FIELDS[dice.below(FIELDS.len())];
    saying_at(dice, document, field);
    field
}

/// The same of one field; gives the task it was said of.
fn saying_at(dice: &mut Dice, document: &mut Value, field: &str) -> usize {
    let tasks = document["tasks"].as_array().map_or(0, Vec::len);
    let i = dice.below(tasks);
    let id = document["tasks"][i]["id"].as_str().unwrap().to_owned();
    let (part, leaf) = field.split_once('.').unwrap_or((field, ""));
    let value = something(field, dice, &id);
    if field == "salt.own" {
        document["salt"]["kind"] = Value::Null;
    }
    let place = match part {
        "tasks" => &mut document["tasks"][i],
        _ if leaf.is_empty() => {
            document[part] = value;
            return i;
        }
        _ => &mut document[part],
    };
    if !place.is_object() {
        *place = Value::Object(Map::new());
    }
    match leaf.split_once('.') {
        // Of a cover there has to be one.
        Some((inner, leaf)) if place[inner].is_object() => place[inner][leaf] = value,
        Some(_) => {}
        None => place[leaf] = value,
    }
    i
}

/// Over a thousand accepted documents, each field said at least fifty times: read, written out and read again they say the same.
#[test]
fn what_is_written_out_again_is_what_was_read() {
    let shipped = methods();
    let (mut accepted, mut said) = (0, BTreeMap::<&str, usize>::new());
    for seed in 0..4_800 {
        let mut dice = Dice::new(seed);
        let mut document = shipped[dice.below(shipped.len())].clone();
        document["id"] = json!("own-thrown");
        let fields: Vec<&str> = (0..=dice.below(3)).map(|_| saying(&mut dice, &mut document)).collect();
        let Ok(method) = read_way(&document) else { continue };
        accepted += 1;
        for field in &fields {
            *said.entry(field).or_default() += 1;
        }
        let written = method_value(&method);
        assert_eq!(read_way(&written).unwrap(), method, "{fields:?}: {written}");
        assert_eq!(read_draft(&written).unwrap(), *method, "{fields:?}");
    }
    assert!(accepted > 1_000 && said.len() == 36, "{accepted} accepted, {} fields", said.len());
    assert!(said.values().all(|times| *times >= 50), "{said:?}");
}

/// A belly, and what is planned with a document of it.
fn planned(document: &Value) -> Result<Value, Vec<String>> {
    let request = json!({
        "piece": {"cut": "pork-belly", "weight_g": 2400, "salt_thickness_mm": 45, "fat_min_mm": 8, "bought_on": "2026-12-10"},
        "serve_at": "2026-12-13T18:30[Europe/Vienna]", "method": document,
    });
    match plan_from(&request, &now()) {
        Ok(plan) => Ok(serde_json::to_value(plan).unwrap()),
        Err(problems) => Err(problems.problems.into_iter().map(|problem| problem.field).collect()),
    }
}

/// What says something of other cuts, or why one would choose it, is read in the list of methods and not in a plan.
const SAID_ELSEWHERE: [&str; 3] = ["why", "source", "not"];
/// What always makes a difference where it is not refused.
const ALWAYS: [&str; 14] = [
    "version",
    "name",
    "own_hours",
    "salt.kind",
    "salt.own",
    "salt.g_per_kg",
    "salt.faces",
    "salt.cover.left_g_per_dm2",
    "salt.cover.depth_mm",
    "mix",
    "mix.g",
    "ledger",
    "skin.avoid",
    "skin.fat",
];

/// Each field of a document, said sixty times: it changes a plan or is refused. Where neither comes of it, that is what the plan had
/// without it, or of a task that this piece has not.
#[test]
fn what_a_document_says_changes_a_plan_or_is_refused() {
    let plan = |document: &Value| {
        let cut = rauchkeller_core::piece::Cut::find(document["cuts"][0].as_str().unwrap()).unwrap();
        let request = json!({
            "piece": {"cut": cut.id, "weight_g": cut.typical_g.0, "bought_on": "2026-12-10"},
            "serve_at": "2026-12-13T18:30[Europe/Vienna]", "method": document,
        });
        plan_from(&request, &now()).map(|plan| serde_json::to_value(plan).unwrap())
    };
    let shipped: Vec<(Value, Value)> = methods().into_iter().map(|document| (document.clone(), plan(&document).unwrap())).collect();
    for field in FIELDS.into_iter().filter(|field| !SAID_ELSEWHERE.contains(field)) {
        let (mut took, mut nothing) = (0, Vec::new());
        for seed in 0..5_000 {
            if took + nothing.len() == 60 {
                break;
            }
            let mut dice = Dice::new(seed);
            let (document, usual) = &shipped[dice.below(shipped.len())];
            let mut changed = document.clone();
            let i = saying_at(&mut dice, &mut changed, field);
            if changed == *document {
                continue;
            }
            match plan(&changed) {
                Ok(planned) if planned == *usual => {
                    // A task that this piece has not is no place to say anything of.
                    let kind = &document["tasks"][i]["task"];
                    let stands = |step: &Value| step["kind"] == *kind || *kind == "heat";
                    if !field.starts_with("tasks.") || usual["steps"].as_array().unwrap().iter().any(stands) {
                        nothing.push(format!("{} {}: {}", document["id"], kind, changed));
                    }
                }
                _ => took += 1,
            }
        }
        let usual = ["tasks.title", "tasks.detail", "tasks.needs"].contains(&field) || ALWAYS.contains(&field);
        let (least, allowed) = if usual { (60, 0) } else { (20, 40) };
        assert!(took >= least && nothing.len() <= allowed, "{field}: {took} took effect, and not {}: {:?}", nothing.len(), nothing.first());
    }
}

/// What a task says of itself reaches the plan, or is refused where it stands.
#[test]
fn what_a_task_says_takes_effect_or_is_refused_at_its_path() {
    let document = methods().into_iter().find(|document| document["id"] == "open-air").unwrap();
    let at = |kind: &str| document["tasks"].as_array().unwrap().iter().position(|task| task["task"] == kind).unwrap();
    let usual = planned(&document).unwrap();
    let with = |kind: &str, field: &str, value: &Value| {
        let mut changed = document.clone();
        let task = &mut changed["tasks"][at(kind)];
        match field.split_once('.') {
            Some((inner, leaf)) => task[inner][leaf] = value.clone(),
            None => task[field] = value.clone(),
        }
        planned(&changed)
    };
    // Its shortest and its longest, too.
    for minutes in [json!([2, 4, 9]), json!([3, 4, 9]), json!([2, 4, 12])] {
        let plan = with("dry", "minutes", &minutes).unwrap();
        let dry = plan["steps"].as_array().unwrap().iter().find(|step| step["id"] == "dry").unwrap();
        let detail = dry["detail"].as_str().unwrap();
        assert!(detail.ends_with(&format!("It takes {} min to {} min.", minutes[0], minutes[2])), "{detail}");
    }
    assert_ne!(with("dry", "detail", &json!("Very dry.")).unwrap(), usual);
    // What a kind does to salt, and where, follows from the kind.
    for (kind, field, value, path) in [
        ("dry", "effects.salt", json!("on"), "effects.salt"),
        ("salt", "effects.salt", json!("off"), "effects.salt"),
        ("dry", "place", json!("table"), "place"),
    ] {
        let refused = with(kind, field, &value).unwrap_err();
        assert_eq!(refused, [format!("method.tasks[{}].{path}", at(kind))]);
    }
    // Said as it is, or left open, it is taken.
    assert_eq!(with("salt", "effects.salt", &Value::Null).unwrap(), usual);
    let mut other = document.clone();
    other["version"] = json!(7);
    assert_eq!(planned(&other).unwrap()["request"]["method_version"], 7);
    other["wants"]["cold_rest"] = json!(false);
    assert_eq!(planned(&other).unwrap_err(), ["method.wants.cold_rest"]);
    other["wants"] = json!({"crackling": true});
    assert!(planned(&other).is_ok(), "where it is not said, its tasks say it");
}

/// What would spoil a way is said at the task it concerns: skin dried under a cover, fierce heat under a crust.
#[test]
fn what_would_spoil_a_way_is_said() {
    let method = |id: &str| methods().into_iter().find(|document| document["id"] == id).unwrap();
    let said = |document: &Value, code: &str| {
        let plan = planned(document).unwrap();
        let found = plan["cautions"].as_array().unwrap().iter().find(|caution| caution["code"] == code).cloned();
        found.map(|caution| caution["step"].as_str().unwrap_or_default().to_owned())
    };
    let mut open = method("open-air");
    assert_eq!(said(&open, "skin-covered"), None);
    for (lies, spoils) in [("covered", true), ("boxed", true), ("hung", false)] {
        open["lies"] = json!(lies);
        assert_eq!(said(&open, "skin-covered"), spoils.then(|| "chill".to_owned()), "{lies}");
    }
    let mut crust = method("same-day-crust");
    assert_eq!(said(&crust, "fierce-under-crust"), None);
    crust["fire"]["stages"][0]["air_c"] = json!(220);
    assert_eq!(said(&crust, "fierce-under-crust"), Some("cover-off".to_owned()));
}
