//! What is asked of the rules: every cut in every way that fits it, and on one cut or another whatever else a request may say.

use rauchkeller_contract::methods;
use rauchkeller_core::method::Method;
use rauchkeller_core::piece::Cut;
use serde_json::{Value, json};

const SERVE: &str = "2026-12-13T18:30[Europe/Vienna]";

/// A cut of its usual weight, bought today.
fn piece(cut: &str) -> Value {
    let (light, heavy) = Cut::find(cut).unwrap().typical_g;
    json!({"piece": {"cut": cut, "weight_g": f64::midpoint(light, heavy).round(), "bought_on": "2026-12-10"}, "serve_at": SERVE})
}

/// A request with something more said in it: what is an object is laid over the object that stands there.
fn with(mut request: Value, more: &Value) -> Value {
    fn lay(over: &mut Value, more: &Value) {
        match (over.as_object_mut(), more.as_object()) {
            (Some(object), Some(more)) => more.iter().for_each(|(key, value)| lay(object.entry(key).or_insert(Value::Null), value)),
            _ => *over = more.clone(),
        }
    }
    lay(&mut request, more);
    request
}

/// Every request, with a name.
pub fn requests() -> Vec<(String, Value)> {
    let mut all = Vec::new();
    every_way_of_every_cut(&mut all);
    whole_documents(&mut all);
    heats(&mut all);
    said(&mut all);
    ways_and_dishes(&mut all);
    refused(&mut all);
    since_seven(&mut all);
    since_eight(&mut all);
    all
}

fn every_way_of_every_cut(all: &mut Vec<(String, Value)>) {
    for cut in Cut::all() {
        all.push((format!("{}, nothing said", cut.id), json!({"piece": {"cut": cut.id, "weight_g": cut.typical_g.0}})));
        let (fit, other): (Vec<&Method>, Vec<&Method>) = rauchkeller_core::method::methods().iter().partition(|method| method.fits(cut));
        for method in fit.into_iter().chain(other.into_iter().take(1)) {
            all.push((format!("{}, {}", cut.id, method.id), with(piece(cut.id), &json!({"method": method.id}))));
        }
    }
}

/// The shipped documents, each sent whole.
fn whole_documents(all: &mut Vec<(String, Value)>) {
    for document in methods() {
        let id = document["id"].as_str().unwrap().to_owned();
        let fits = Cut::all().find(|cut| Method::find(&id).is_some_and(|method| method.fits(*cut)));
        if let Some(cut) = fits {
            all.push((format!("the document of {id}"), with(piece(cut.id), &json!({"method": document}))));
        }
    }
}

fn heats(all: &mut Vec<(String, Value)>) {
    let finish = json!({"core": "finish"});
    let stage = |air_c: f64, how: &str, until: &Value| json!({"air_c": air_c, "how": how, "until": until});
    let fires = [
        ("oven low", "oven", json!([stage(110.0, "open", &finish)])),
        ("oven, then fierce", "oven", json!([stage(150.0, "open", &finish), stage(240.0, "open", &json!({"minutes": 15}))])),
        ("fierce, then low", "oven", json!([stage(230.0, "open", &json!({"minutes": 20})), stage(140.0, "open", &finish)])),
        ("on the grill", "grill", json!([stage(200.0, "open", &finish)])),
        ("charcoal, a core on the way", "charcoal", json!([stage(160.0, "open", &json!({"core_c": 45})), stage(260.0, "open", &finish)])),
        ("spit", "spit", json!([stage(180.0, "open", &finish)])),
        ("smoked, wrapped", "smoker", json!([stage(120.0, "open", &json!({"core_c": 70})), stage(130.0, "wrapped", &finish)])),
        ("pan", "pan", json!([stage(220.0, "open", &finish)])),
        ("pot", "pot", json!([stage(150.0, "in-liquid", &json!({"minutes": 150}))])),
        ("raw inside", "oven", json!([stage(160.0, "open", &json!({"minutes": 5}))])),
    ];
    for cut in ["pork-belly", "beef-rib-roast", "pork-butt", "beef-rib-steak", "duck-whole", "turkey-whole"] {
        for (name, with_what, stages) in &fires {
            let fire = json!({"fire": {"with": with_what, "stages": stages}});
            all.push((format!("{cut}, {name}"), with(piece(cut), &fire)));
        }
        for core in [48.0, 57.0, 66.0, 74.0, 93.0] {
            all.push((format!("{cut} to {core}"), with(piece(cut), &json!({"fire": {"finish": {"core_c": core}}}))));
        }
    }
}

/// Whatever else may be said, each by itself.
fn said(all: &mut Vec<(String, Value)>) {
    let belly = [
        (
            "in portions",
            json!({"piece": {"weight_g": 2400, "portions": [{"weight_g": 1000}, {"weight_g": 1400, "salt_thickness_mm": 55}]}}),
        ),
        ("frozen", json!({"piece": {"frozen": true}})),
        ("frozen, in cold water", json!({"piece": {"frozen": true}, "thaw": "water", "method": "no-cold-rest"})),
        ("frozen, eaten next week", json!({"piece": {"frozen": true}, "serve_at": "2026-12-18T18:30[Europe/Vienna]"})),
        ("its own measures", json!({"piece": {"length_mm": 300, "width_mm": 220, "skin_mm": 3, "fat_mm": 10, "fat_min_mm": 6}})),
        ("in a solution", json!({"piece": {"solution": {"sodium_mg_per_100g": 240}}})),
        ("to be used by", json!({"piece": {"use_by": "2026-12-12"}})),
        ("12 g/kg", json!({"salt": {"g_per_kg": 12}})),
        ("of kosher salt", json!({"salt": {"kind": "light-flake-kosher"}})),
        ("with soy sauce", json!({"ledger": [{"item": "soy-sauce", "g": 30}, {"item": "fish-sauce", "g": 15}]})),
        ("30 h", json!({"hours": 30})),
        ("2 h", json!({"hours": 2})),
        ("by the model", json!({"hours_from": "model"})),
        ("skin dry", json!({"goal": {"skin_dryness": 0.9}})),
        ("covered", json!({"lies": "covered"})),
        ("salted this morning", json!({"done": [{"task": "salt", "at": "2026-12-10T07:00:00Z"}]})),
        ("salted by hand", json!({"done": [{"task": "salt", "at": "2026-12-10T07:00:00Z", "g": 22}]})),
        ("open in the cold since yesterday", json!({"done": [{"task": "chill", "at": "2026-12-09T18:00:00Z"}]})),
        ("eaten soon", json!({"serve_at": "2026-12-10T19:00[Europe/Vienna]"})),
        ("eaten late", json!({"serve_at": "2026-12-13T23:30[Europe/Vienna]"})),
        ("eaten over two hours", json!({"serve_until": "2026-12-13T20:30[Europe/Vienna]"})),
        ("eaten over four hours", json!({"serve_until": "2026-12-13T22:30[Europe/Vienna]"})),
        ("for two", json!({"servings": 2})),
        ("a warm refrigerator", json!({"kitchen": {"fridge_c": 6}})),
        ("a damp refrigerator", json!({"kitchen": {"fridge_rh": 0.9}})),
        ("no quiet hours", json!({"kitchen": {"quiet": []}})),
        ("grooved", json!({"skin": {"work": "pierce", "per_cm2": 6, "meat": {"kind": "grooves", "spacing_mm": 30}}})),
        ("scored in diamonds", json!({"skin": {"work": "diamond", "spacing_mm": 12, "depth_mm": 6}})),
        ("left whole", json!({"skin": {"work": "whole"}})),
        ("turned in the cold", json!({"tasks": [{"task": "turn", "at_h": 12}]})),
        ("held warm", json!({"fire": {"hold_h": [1, 2]}})),
        ("rested in the open", json!({"fire": {"rest": "open", "rest_min": 15}})),
    ];
    for (name, more) in belly {
        all.push((format!("belly, {name}"), with(piece("pork-belly"), &more)));
        // What is of a slab of skin is of no bird or steak: refused, or without effect; both stand in the file.
        if !["in portions", "its own measures"].contains(&name) {
            for cut in ["turkey-whole", "beef-rib-steak", "pork-butt"] {
                all.push((format!("{cut}, {name}"), with(piece(cut), &more)));
            }
        }
    }
}

/// The requests that other tests hold against what they must come to.
fn ways_and_dishes(all: &mut Vec<(String, Value)>) {
    let folder = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("tests");
    let text = |path: &std::path::Path| std::fs::read_to_string(path).unwrap();
    let dishes: Value = serde_json::from_str(&text(&folder.join("trade/dishes.json"))).unwrap();
    for dish in dishes.as_array().unwrap() {
        all.push((format!("the dish {}", dish["id"].as_str().unwrap()), dish["request"].clone()));
    }
    let mut ways: Vec<_> = std::fs::read_dir(folder.join("ways")).unwrap().map(|entry| entry.unwrap().path()).collect();
    ways.sort();
    for way in ways {
        let name = way.file_stem().unwrap().to_str().unwrap().to_owned();
        let file: Value = serde_json::from_str(&text(&way)).unwrap();
        if file["request"].is_object() {
            all.push((name, file["request"].clone()));
        }
    }
}

fn refused(all: &mut Vec<(String, Value)>) {
    let wrong = [
        ("no cut", json!({"piece": {"cut": "unicorn"}})),
        ("no weight", json!({"piece": {"weight_g": 0}})),
        ("too heavy", json!({"piece": {"weight_g": 900_000}})),
        ("far too thick", json!({"piece": {"salt_thickness_mm": 900}})),
        ("a dose of a cure", json!({"salt": {"g_per_kg": 80}})),
        ("an unknown salt", json!({"salt": {"kind": "of the moon"}})),
        ("an unknown method", json!({"method": "by magic"})),
        ("yesterday's meal", json!({"serve_at": "2026-12-09T18:00[Europe/Vienna]"})),
        ("next year's meal", json!({"serve_at": "2027-12-09T18:00[Europe/Vienna]"})),
        ("hours that do not fit", json!({"hours": 200})),
        ("an oven too cool", json!({"fire": {"stages": [{"air_c": 30, "until": {"core": "finish"}}]}})),
        ("a core never reached", json!({"fire": {"stages": [{"air_c": 60, "until": {"core": 90}}]}})),
        ("a warm larder", json!({"kitchen": {"fridge_c": 20}})),
        ("a field nobody knows", json!({"oregano": true})),
        ("guests of nobody", json!({"servings": 0})),
        ("a hold of nothing", json!({"fire": {"hold_h": [9, 2]}})),
    ];
    for (name, more) in wrong {
        for cut in ["pork-belly", "turkey-whole"] {
            all.push((format!("{cut}, {name}"), with(piece(cut), &more)));
        }
    }
}

/// What rules 7 brought: portions that go in one after the other, fierce heat under a crust, minutes between a shortest and a longest.
fn since_seven(all: &mut Vec<(String, Value)>) {
    let dish = |thick: &[(f64, f64)]| {
        let portions: Vec<Value> = thick.iter().map(|(g, mm)| json!({"weight_g": g, "salt_thickness_mm": mm})).collect();
        json!({"piece": {"cut": "beef-rib-steak", "portions": portions}, "serve_at": SERVE})
    };
    let three = dish(&[(380.0, 25.0), (450.0, 35.0), (560.0, 45.0)]);
    let stages = |first: Value| json!({"fire": {"stages": [first, {"air_c": 250, "until": {"min": 2}}]}});
    all.push(("three steaks of three thicknesses".into(), three.clone()));
    all.push(("three steaks, low and then seared".into(), with(three.clone(), &stages(json!({"air_c": 120, "until": {"core": 48}})))));
    all.push(("three steaks, so many minutes each".into(), with(three, &stages(json!({"air_c": 200, "until": {"min": 12}})))));
    all.push((
        "two ducks of two weights".into(),
        json!({"piece": {"cut": "duck-whole", "portions": [{"weight_g": 1900}, {"weight_g": 2600}]}, "serve_at": SERVE}),
    ));
    let crust = json!({"method": "same-day-crust", "fire": {"stages": [{"air_c": 220, "until": {"min": 100}}, {"air_c": 250, "until": {"look": "hollow"}}]}});
    all.push(("a crust under fierce heat".into(), with(piece("pork-belly"), &crust)));
    let mut document = methods().into_iter().find(|document| document["id"] == "open-air").unwrap();
    document["id"] = json!("own-slow");
    document["tasks"][1]["minutes"] = json!([4, 6, 15]);
    all.push(("a document with a shortest and a longest".into(), with(piece("pork-belly"), &json!({"method": document.clone()}))));
    document["wants"]["cold_rest"] = json!(false);
    all.push(("a document that wants no cold and has some".into(), with(piece("pork-belly"), &json!({"method": document}))));
}

/// What came with the eighth rules: cooked ahead and heated again, and documents that say more.
fn since_eight(all: &mut Vec<(String, Value)>) {
    let ahead = json!({"method": "braised-ahead", "serve_at": "2026-12-13T19:00[Europe/Vienna]"});
    let braise = with(piece("pork-butt"), &ahead);
    all.push(("a braise a day ahead, for Sunday".into(), braise.clone()));
    all.push(("kept for a day and a half".into(), with(braise.clone(), &json!({"tasks": [{"task": "chill-cooked", "minutes": 2160}]}))));
    let again = |until: Value| json!({"fire": {"again": {"air_c": 180, "how": "covered", "until": until}}});
    all.push(("heated again to 80 °C".into(), with(braise.clone(), &again(json!({"core_c": 80})))));
    all.push(("heated again for some minutes".into(), with(braise.clone(), &again(json!({"minutes": 20})))));
    all.push(("heated again too soon".into(), with(braise, &json!({"serve_at": "2026-12-11T11:00[Europe/Vienna]"}))));
    all.push(("heated again what is heated once".into(), with(piece("pork-belly"), &again(json!({"core": "finish"})))));
    let mut document = methods().into_iter().find(|document| document["id"] == "dry-brine").unwrap();
    document["id"] = json!("own-oiled");
    document["ledger"] = json!([{"item": "soy-sauce", "g_per_kg": 15, "uptake": 0.4, "face": "meat"}]);
    document["tasks"].as_array_mut().unwrap().push(json!({"id": "crush-pepper", "task": "oil", "beside": "salt"}));
    all.push(("a document with a job beside the salting".into(), with(piece("beef-rib-roast"), &json!({"method": document.clone()}))));
    let named = json!({"method": document.clone(), "tasks": [{"task": "crush-pepper", "minutes": 7}]});
    all.push(("its job by its own name".into(), with(piece("beef-rib-roast"), &named)));
    document["lies"] = json!("open");
    document["tasks"].as_array_mut().unwrap().retain(|task| task["task"] != "chill");
    all.push(("a document that lies open and never does".into(), with(piece("beef-rib-roast"), &json!({"method": document}))));
    let draw = json!({"method": "short-draw", "salt": {"cover": {"kind": "draw", "depth_mm": 4}}});
    all.push(("a draw laid on by depth".into(), with(piece("pork-belly"), &draw)));
}
