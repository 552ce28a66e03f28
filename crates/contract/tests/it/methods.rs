//! A method's document: read back it plans as by its name, and what is wrong with it is refused where it stands.

use jiff::ZonedDateTime;
use rauchkeller_contract::{PlanDoc, methods, plan_from};
use rstest::rstest;
use serde_json::{Value, json};

fn now() -> ZonedDateTime {
    "2026-12-10T08:00[Europe/Vienna]".parse().unwrap()
}

fn asked(cut: &str, g: f64, method: Value) -> Value {
    let mut request =
        json!({"piece": {"cut": cut, "weight_g": g, "bought_on": "2026-12-10"}, "serve_at": "2026-12-12T19:00[Europe/Vienna]"});
    request["method"] = method;
    request
}

fn document(id: &str) -> Value {
    methods().into_iter().find(|doc| doc["id"] == id).unwrap()
}

/// Usual weights of a cut, g.
fn weight(cut: &str) -> f64 {
    let cuts = serde_json::to_value(rauchkeller_contract::cuts()).unwrap();
    let row = cuts.as_array().unwrap().iter().find(|row| row["id"] == cut).unwrap().clone();
    f64::midpoint(row["typical_g"][0].as_f64().unwrap(), row["typical_g"][1].as_f64().unwrap())
}

#[test]
fn the_schools_of_the_trade_are_there_as_documents() {
    let ids: Vec<String> = methods().iter().map(|doc| doc["id"].as_str().unwrap().to_owned()).collect();
    for id in [
        "dry-brine",
        "open-air",
        "short-draw",
        "same-day-crust",
        "acid-soda",
        "weighted-bed",
        "scored-fierce-low",
        "fat-cap",
        "bird-scored",
        "bird-pierced",
        "paste",
        "boxed-paste",
        "marinade",
        "stuffed-slits",
        "spiked-loin",
        "lattice-slab",
        "grooved-braise",
        "strips-direct",
        "wrapped-smoke",
        "no-cold-rest",
        "salt-after-cold",
    ] {
        assert!(ids.iter().any(|known| known == id), "{id}");
    }
    let cuts = serde_json::to_value(rauchkeller_contract::cuts()).unwrap();
    for doc in methods() {
        assert!(doc["why"].as_str().unwrap().len() > 20 && doc["source"] == "common practice" && doc["schema"] == 1, "{}", doc["id"]);
        // Of every cut it says that it fits, or why it does not.
        for cut in cuts.as_array().unwrap() {
            let fits = doc["cuts"].as_array().unwrap().contains(&cut["id"]);
            let why = doc["not"].get(cut["id"].as_str().unwrap());
            assert_eq!(why.is_none(), fits, "{} {}", doc["id"], cut["id"]);
        }
        // A mix of the table is one that can be read.
        assert!(doc["mix"].is_null() || doc["mix"]["parts"].as_array().unwrap().len() > 3, "{}", doc["id"]);
    }
}

#[test]
fn a_document_plans_as_its_name_does() {
    let mut compared = 0;
    for doc in methods() {
        for cut in doc["cuts"].as_array().unwrap() {
            let cut = cut.as_str().unwrap();
            let plan = |method: Value| -> PlanDoc {
                plan_from(&asked(cut, weight(cut), method), &now()).unwrap_or_else(|p| panic!("{cut}: {p:?}"))
            };
            assert_eq!(
                serde_json::to_value(plan(doc.clone())).unwrap(),
                serde_json::to_value(plan(doc["id"].clone())).unwrap(),
                "{} {cut}",
                doc["id"]
            );
            compared += 1;
        }
    }
    assert!(compared > 120, "{compared}");
}

fn problems(method: Value) -> Vec<(String, String)> {
    let refused = plan_from(&asked("pork-belly", 2400.0, method), &now()).unwrap_err();
    refused.problems.into_iter().map(|p| (p.field.clone(), p.sentence())).collect()
}

/// The short draw with one thing changed.
fn damaged(change: impl FnOnce(&mut Value)) -> Vec<(String, String)> {
    let mut doc = document("short-draw");
    change(&mut doc);
    problems(doc)
}

fn at(doc: &Value, id: &str) -> usize {
    doc["tasks"].as_array().unwrap().iter().position(|task| task["id"] == id).unwrap()
}

fn set(doc: &mut Value, id: &str, field: &str, value: Value) -> usize {
    let i = at(doc, id);
    doc["tasks"][i][field] = value;
    i
}

#[rstest]
// An unknown task, a circle, two ends, negative minutes: each where it stands.
#[case::unknown_task("cover-on", "task", json!("dance"), "tasks[#].task")]
#[case::unknown_field("cover-on", "grams", json!(3), "tasks[#].grams")]
#[case::after_nothing("cover-on", "after", json!(["no-such"]), "tasks[#].after[0]")]
#[case::after_itself("cover-on", "after", json!(["cover-on"]), "tasks[#].after[0]")]
#[case::circle("dry", "after", json!(["salt"]), "tasks[#].after")]
#[case::negative("cover-on", "minutes", json!([-2, 3, 10]), "tasks[#].minutes")]
#[case::falling("cover-on", "minutes", json!([10, 3, 2]), "tasks[#].minutes")]
#[case::a_week("cover-on", "minutes", json!([1, 2, 10000]), "tasks[#].minutes")]
#[case::too_many_hands("cover-on", "hands_on_min", json!(-1), "tasks[#].hands_on_min")]
#[case::words_for_minutes("cover-on", "minutes", json!("three"), "tasks[#].minutes")]
#[case::no_name("cover-on", "id", json!("Cover On!"), "tasks[#].id")]
#[case::twice("cover-off", "id", json!("cover-on"), "tasks[#].id")]
#[case::unknown_shape("cover-on", "effects", json!({"shape": "plaited"}), "tasks[#].effects.shape")]
#[case::unknown_caution("cover-on", "cautions", json!(["dragons"]), "tasks[#].cautions[0]")]
#[case::beside_and_after("cover-on", "beside", json!("heat"), "tasks[#].beside")]
#[case::salt_beside("salt", "beside", json!("chill"), "tasks[#].beside")]
#[case::not_turned("cover-on", "at_h", json!(12), "tasks[#].at_h")]
fn a_damaged_task_is_refused_where_it_stands(#[case] id: &str, #[case] field: &str, #[case] value: Value, #[case] path: &str) {
    let mut doc = document("short-draw");
    let i = set(&mut doc, id, field, value);
    let said = problems(doc);
    let path = format!("method.{}", path.replace('#', &i.to_string()));
    let found = said.iter().find(|(field, _)| *field == path || field.starts_with(&path));
    assert!(found.is_some(), "{path} not in {said:#?}");
    assert!(found.unwrap().1.contains("cannot be:"), "{said:?}");
}

#[test]
fn what_hangs_together_wrongly_is_refused_too() {
    let fields = |said: &[(String, String)]| said.iter().map(|(field, _)| field.clone()).collect::<Vec<_>>();
    // Two ends: nothing comes after the washing of hands any more.
    let said = damaged(|doc| {
        let salted = doc["tasks"][at(doc, "salt")]["id"].clone();
        set(doc, "chill", "after", json!([salted]));
    });
    assert!(said.len() == 1 && said[0].1.contains("nothing comes after wash"), "{said:?}");
    // A cover that never comes off, one that is none, and one nobody lays on.
    let said = damaged(|doc| {
        let i = at(doc, "cover-off");
        doc["tasks"].as_array_mut().unwrap().remove(i);
        set(doc, "brush-dry", "after", json!(["cover-on"]));
    });
    assert!(said.len() == 1 && said[0].1.contains("never comes off"), "{said:?}");
    assert!(fields(&damaged(|doc| doc["salt"]["cover"] = Value::Null))[0].starts_with("method.tasks["));
    let said = damaged(|doc| {
        for id in ["cover-on", "cover-off"] {
            set(doc, id, "task", json!("brush"));
        }
    });
    // What is brushed on lays no salt on either, whatever the task said of it before.
    // And a brush is not called a cover.
    let both = |i: usize| ["id", "effects.salt"].map(|field| format!("method.tasks[{i}].{field}"));
    let want: Vec<String> = std::iter::once("method.salt.cover".to_owned()).chain(both(9)).chain(both(10)).collect();
    assert_eq!(fields(&said), want);
    // 300 tasks, none, no heat.
    let said = damaged(|doc| doc["tasks"] = (0..300).map(|i| json!({"id": format!("t-{i}"), "task": "dry"})).collect());
    assert!(fields(&said) == ["method.tasks"] && said[0].1.contains("300 tasks"), "{said:?}");
    assert_eq!(fields(&damaged(|doc| doc["tasks"] = json!([]))), ["method.tasks"]);
    let said = damaged(|doc| doc["tasks"] = json!([{"task": "dry"}, {"task": "salt"}]));
    assert!(fields(&said).contains(&"method.tasks".to_owned()), "{said:?}");
    // Its numbers go by those of a request.
    assert_eq!(fields(&damaged(|doc| doc["salt"]["g_per_kg"] = json!(55))), ["method.salt.g_per_kg"]);
    assert_eq!(fields(&damaged(|doc| doc["own_hours"] = json!([48, 24, 12]))), ["method.own_hours"]);
    assert_eq!(fields(&damaged(|doc| doc["own_hours"] = json!("a day"))), ["method.own_hours"]);
    assert_eq!(fields(&damaged(|doc| doc["cuts"] = json!(["dragon-tail"])))[0], "method.cuts[0]");
    assert_eq!(fields(&damaged(|doc| doc["schema"] = json!(7))), ["method.schema"]);
    assert_eq!(fields(&damaged(|doc| doc["colour"] = json!("red"))), ["method.colour"]);
    let hot = damaged(|doc| doc["fire"] = json!({"stages": [{"air_c": 900, "how": "open", "until": {"minutes": 10}}]}));
    assert_eq!(fields(&hot), ["method.fire.stages[0].air_c"]);
    let deep = damaged(|doc| doc["skin"] = json!({"meat": {"kind": "grooves", "depth_mm": 19}}));
    assert_eq!(fields(&deep), ["method.skin.meat.depth_mm"]);
    // Of several, all are said at once.
    let both = damaged(|doc| {
        doc["id"] = json!("Short Draw");
        set(doc, "cover-on", "minutes", json!([-1, 2, 3]));
        doc["why"] = json!("");
    });
    assert_eq!(both.len(), 3, "{both:?}");
}

#[test]
fn a_method_for_other_cuts_says_why() {
    let refused = plan_from(&asked("beef-rib-steak", 500.0, json!("short-draw")), &now()).unwrap_err();
    assert_eq!(refused.problems[0].field, "method");
    assert!(refused.problems[0].sentence().contains("no skin to crackle"), "{}", refused.problems[0].sentence());
    assert!(plan_from(&asked("pork-belly", 2400.0, json!(7)), &now()).is_err());
    assert!(plan_from(&asked("pork-belly", 2400.0, json!("no-such-way")), &now()).is_err());
}

#[test]
fn a_cooks_own_document_is_followed() {
    // A loin salted twice as long as usual, oiled, turned over once; written with no more than it needs.
    let own = json!({
        "schema": 1, "id": "our-sunday-loin", "name": "our Sunday loin", "why": "the way it was done at home", "source": "family",
        "cuts": ["pork-loin-rack"], "wants": {"cold_rest": true}, "own_hours": [24, 48, 72],
        "salt": {"kind": "dense-kosher", "as": "1 tsp per lb", "basis": "whole", "shares": {"meat": 0.6, "cut": 0.2, "fat": 0.2}},
        "fire": {"stages": [{"air_c": 150, "how": "open", "until": {"core": "finish"}}]},
        "tasks": [
            {"task": "lay-out"}, {"task": "dry", "minutes": 6}, {"task": "salt"}, {"task": "wash"}, {"task": "chill"},
            {"id": "turn-it", "task": "turn", "beside": "chill", "at_h": 20},
            {"id": "sauce", "task": "brush", "beside": "chill", "title": "Make the horseradish"},
            {"id": "oil-it", "task": "oil", "title": "Lard all over", "detail": "A spoonful, warm.", "needs": ["lard"]},
            {"task": "heat"}, {"task": "rest"}, {"task": "carve"}
        ]
    });
    let plan = plan_from(&asked("pork-loin-rack", 2000.0, own.clone()), &now()).unwrap();
    let row: Vec<&str> = plan.steps.iter().filter(|s| s.beside.is_none()).map(|s| s.id.as_str()).collect();
    // Each under the name it was given.
    assert_eq!(row, ["lay-out", "dry", "salt", "wash", "chill", "oil-it", "roast", "rest", "carve"]);
    // TRADE 4.3: 1 tsp dense kosher per lb is 10.58 g/kg; of the whole 2 kg 21.16 g, six tenths of them on the meat.
    assert!((plan.dose.total_g - 21.16).abs() < 0.01 && plan.request.method == "our-sunday-loin" && plan.request.salt == "dense-kosher");
    let meat = plan.dose.by_face.iter().find(|f| f.face == "meat").unwrap();
    assert!((meat.g - 12.70).abs() < 0.01, "{}", meat.g);
    let step = |id: &str| plan.steps.iter().find(|s| s.id == id).unwrap();
    assert_eq!((step("oil-it").title.as_str(), step("oil-it").detail.as_str()), ("Lard all over", "A spoonful, warm."));
    let long = |id: &str| {
        let at = |text: &str| text.parse::<ZonedDateTime>().unwrap().timestamp();
        at(&step(id).ends_at).duration_since(at(&step(id).starts_at)).as_mins()
    };
    assert_eq!((step("sauce").beside.as_deref(), step("sauce").title.as_str()), (Some("chill"), "Make the horseradish"));
    assert_eq!((long("dry"), step("turn-it").beside.as_deref()), (6, Some("chill")));
    assert_eq!(plan.fridge.house_h, Some((24.0, 48.0, 72.0)));
    // By that name it is made longer, left out, and done already.
    let with = |field: &str, value: Value| {
        let mut request = asked("pork-loin-rack", 2000.0, own.clone());
        request[field] = value;
        plan_from(&request, &now())
    };
    let longer = with("tasks", json!([{"task": "oil-it", "minutes": 9}])).unwrap();
    let oil = longer.steps.iter().find(|s| s.id == "oil-it").unwrap();
    assert_eq!(oil.hands_on_min, 9.0);
    let without = with("tasks", json!([{"task": "oil-it", "leave_out": true}])).unwrap();
    assert!(without.steps.iter().all(|s| s.kind != "oil"));
    assert_eq!(with("tasks", json!([{"task": "lard-it", "minutes": 9}])).unwrap_err().problems[0].field, "tasks[0].task");
    let done = with("done", json!([{"task": "turn-it", "at": "2026-12-10T08:00[Europe/Vienna]"}])).unwrap();
    assert!(done.steps.iter().all(|s| s.id != "turn-it"));
    assert!(with("done", json!([{"task": "lard-it", "at": "2026-12-10T08:00[Europe/Vienna]"}])).is_err());
}

/// A name that stands for another kind of task would be taken for that; two rounds of the same knife are one.
#[test]
fn a_task_is_called_what_it_is_or_by_a_name_of_its_own() {
    let named = |id: &str| {
        let mut document = document("open-air");
        let at = at(&document, "dry");
        let was = document["tasks"][at]["id"].clone();
        document["tasks"][at]["id"] = json!(id);
        for task in document["tasks"].as_array_mut().unwrap() {
            for after in task["after"].as_array_mut().into_iter().flatten() {
                if *after == was {
                    *after = json!(id);
                }
            }
        }
        let index = document["tasks"].as_array().unwrap().iter().position(|task| task["id"] == id).unwrap();
        (plan_from(&asked("pork-belly", 2400.0, document), &now()), index)
    };
    let (refused, index) = named("salt-7");
    assert_eq!(refused.unwrap_err().problems[0].field, format!("method.tasks[{index}].id"));
    let (plan, _) = named("press-it");
    let plan = plan.unwrap();
    let step = plan.steps.iter().find(|s| s.id == "press-it").unwrap();
    assert_eq!(step.kind, "dry");
    assert!(plan.steps.iter().any(|s| s.after.contains(&"press-it".to_owned())));
}

/// A job may stand beside any task of the row, and goes with that from its beginning on.
#[test]
fn a_job_stands_beside_any_task() {
    for beside in ["salt", "rest", "chill", "dry"] {
        let mut document = document("dry-brine");
        let tasks = document["tasks"].as_array_mut().unwrap();
        tasks.push(json!({"id": "crush-pepper", "task": "oil", "beside": beside, "title": "Crush the pepper"}));
        let plan = plan_from(&asked("beef-rib-roast", 2400.0, document), &now()).unwrap();
        let step = |id: &str| plan.steps.iter().find(|s| s.id == id).unwrap();
        // While it rests jobs are over as it is carved.
        let (with, ends) = if beside == "rest" { ("carve", true) } else { (beside, false) };
        assert_eq!(step("crush-pepper").beside.as_deref(), Some(with));
        let (starts, its) = (&step("crush-pepper").starts_at, step(with));
        match beside {
            "salt" | "dry" => assert_eq!(*starts, its.starts_at),
            _ if ends => assert_eq!(step("crush-pepper").ends_at, its.starts_at),
            _ => assert!(*starts > its.starts_at),
        }
    }
}

/// A line of a document's ledger says all that a request's may say: uptake, bath, face and what becomes of it.
#[test]
fn a_documents_ledger_says_what_a_requests_does() {
    let line = |more: &Value| {
        let mut document = document("dry-brine");
        document["ledger"] = json!([{"item": "soy-sauce", "g_per_kg": 20}]);
        for (field, value) in more.as_object().unwrap() {
            document["ledger"][0][field] = value.clone();
        }
        let asked = asked("beef-rib-roast", 2000.0, document);
        plan_from(&asked, &now()).map_err(|problems| problems.problems[0].field.clone())
    };
    // By hand: 40 g of soy sauce with 13.96 g of salt in 100 g of it, of which six tenths go in, or a quarter, or none of what is eaten
    // beside.
    let salt = |plan: &rauchkeller_contract::PlanDoc| plan.dose.from_ledger_g;
    let near = |a: f64, b: f64| (a - b).abs() < 0.01;
    assert!(near(salt(&line(&json!({})).unwrap()), 40.0 * 0.1396 * 0.6));
    assert!(near(salt(&line(&json!({"uptake": 0.25})).unwrap()), 40.0 * 0.1396 * 0.25));
    assert!(near(salt(&line(&json!({"use": "beside"})).unwrap()), 0.0));
    assert!(line(&json!({"bath_h": 2})).unwrap().steps.iter().any(|s| s.kind == "marinate"));
    let on_the_meat = line(&json!({"face": "meat"})).unwrap();
    assert!(serde_json::to_string(&on_the_meat).unwrap() != serde_json::to_string(&line(&json!({})).unwrap()).unwrap());
    for (more, path) in [(json!({"uptake": 2}), "uptake"), (json!({"use": "under"}), "use"), (json!({"bath_h": 900}), "bath_h")] {
        assert_eq!(line(&more).unwrap_err(), format!("method.ledger[0].{path}"));
    }
}
