//! Several mixes, each with its face and its hour; baths that cover; what is stuffed, spiked and split.

use crate::fire::now;
use crate::run::event;
use jiff::SignedDuration;
use rauchkeller_contract::{PlanDoc, Problems, bowls_of, plan_from, run_plan};
use rauchkeller_core::plan::with_course;
use rauchkeller_core::run::{OnIt, RunPlan, What, stand};
use rauchkeller_core::units::{MassIn, TimeIn, grams, hours};
use rstest::rstest;
use serde_json::{Value, json};

fn with(more: &Value) -> Result<PlanDoc, Problems> {
    let mut request = json!({"serve_at": "2026-12-12T19:00[Europe/Vienna]"});
    for (key, value) in more.as_object().unwrap() {
        request[key] = value.clone();
    }
    plan_from(&request, &now())
}

/// 2 kg without bone, at 10 g/kg: 20 g.
fn rack() -> Value {
    json!({"cut": "pork-loin-rack", "weight_g": 2000, "bone_fraction": 0})
}

/// A document's tasks, each named as its kind.
fn rows(kinds: &[&str]) -> Vec<Value> {
    kinds.iter().map(|task| json!({"id": task, "task": task})).collect()
}

#[test]
fn two_mixes_have_each_their_face_and_their_hour() {
    // By hand: 40 g of a rub that is half salt bring 20 × ½; 30 g of a paste that is a tenth salt bring 3 on the fat after 12 h.
    let mixes = json!([
        {"name": "rub", "recipe": "20 g fine sea salt\n20 g sugar", "g": 20},
        {"name": "paste", "recipe": "10 g fine sea salt\n90 g oil", "g": 30, "face": "fat", "at_h": 12}
    ]);
    let plan = with(&json!({"piece": rack(), "mixes": mixes})).unwrap();
    let (rub, paste) = (plan.dose.mix.as_ref().unwrap(), &plan.dose.mixes[0]);
    assert!((rub.salt_g - 10.0).abs() < 1e-6 && (paste.salt_g - 3.0).abs() < 1e-6, "{rub:?} {paste:?}");
    assert!((plan.dose.total_g - 20.0).abs() < 1e-6 && (plan.dose.to_weigh_g - 7.0).abs() < 1e-6, "{}", plan.dose.to_weigh_g);
    assert_eq!((paste.face.as_deref(), paste.at_h), (Some("fat"), Some(12.0)));
    // Twelve hours into the cold, beside it.
    let step = plan.steps.iter().find(|s| s.kind == "season").unwrap();
    let at = |text: &str| text.parse::<jiff::ZonedDateTime>().unwrap().timestamp();
    let chill = plan.steps.iter().find(|s| s.kind == "chill").unwrap();
    assert_eq!(at(&step.starts_at).duration_since(at(&chill.starts_at)).as_hours(), 12);
    assert!(step.detail.contains("30.0 g paste over the fat"), "{}", step.detail);
    // Its salt lies on that face and nowhere else, so that more of it is on the fat than without.
    let without = with(&json!({"piece": rack(), "mixes": [mixes[0]]})).unwrap();
    assert!(plan.dose.to_weigh_g < without.dose.to_weigh_g && without.dose.mixes.is_empty());
    // Where nobody says how much, each takes an equal share of what is missing: 10 g of salt each.
    let open = json!([{"name": "a", "recipe": "50 g fine sea salt\n50 g sugar"}, {"name": "b", "recipe": "25 g fine sea salt\n75 g sugar", "face": "meat"}]);
    let shared = with(&json!({"piece": rack(), "mixes": open})).unwrap();
    assert!((shared.dose.mix.as_ref().unwrap().salt_g - 10.0).abs() < 1e-6 && (shared.dose.mixes[0].salt_g - 10.0).abs() < 1e-6);
    assert!((shared.dose.mixes[0].g - 40.0).abs() < 1e-6 && shared.dose.to_weigh_g < 1e-6);
}

#[rstest]
#[case(json!([{"name": "a", "recipe": "5 g salt", "face": "ear"}]), "mixes[0].face")]
#[case(json!([{"name": "a", "recipe": "5 g salt"}, {"name": "b", "recipe": "5 g salt", "face": "ear"}]), "mixes[1].face")]
#[case(json!([{"name": "a", "recipe": "5 g salt", "at_h": 400}]), "mixes[0].at_h")]
#[case(json!([{"name": "a", "recipe": "5 g salt", "at_h": 300}]), "mixes[0].at_h")]
#[case(json!([{"name": "a", "recipe": "5 g salt", "g": -3}]), "mixes[0].g")]
#[case(json!([{"name": "a", "recipe": "5 g salt", "face": "fat", "bath_h": 3}]), "mixes[0].bath_h")]
#[case(json!([{"name": "a", "recipe": "5 wagons of salt"}]), "mixes[0].recipe")]
#[case(json!([{"name": "a", "recipe": "5 g saltpetre"}]), "mixes[0].recipe")]
#[case(json!([{"name": "a"}]), "mixes[0].recipe")]
#[case(json!([{"name": "a", "recipe": "5 g salt", "who": "me"}]), "mixes[0].who")]
#[case(json!("rub"), "mixes")]
fn mixes_that_cannot_be_are_refused_at_their_path(#[case] mixes: Value, #[case] path: &str) {
    let refused = with(&json!({"piece": rack(), "mixes": mixes})).unwrap_err();
    assert_eq!(refused.problems.iter().map(|p| p.field.as_str()).collect::<Vec<_>>(), [path], "{refused:?}");
}

#[test]
fn a_bath_covers_the_piece_and_brings_no_more_than_goes_in() {
    // Soy sauce alone, 13.96 %: 20 g of salt would be 143 g of it, which covers nothing. TRADE 4.18: 40 g/dm² in a tray, 15 in a bag.
    let lies = |lies: &str| {
        let mix = json!({"name": "soy", "recipe": "100 g soy sauce", "bath_h": 6});
        with(&json!({"piece": rack(), "mix": mix, "lies": lies, "hours": 6})).unwrap()
    };
    let area = |plan: &PlanDoc| plan.dose.by_face.iter().map(|f| f.area_dm2).sum::<f64>();
    let (tray, bag) = (lies("covered"), lies("boxed"));
    let g = |plan: &PlanDoc| plan.dose.mix.as_ref().unwrap().g;
    assert!((g(&tray) / (40.0 * area(&tray)) - 1.0).abs() < 0.01 && g(&tray) > 143.3 * 1.5, "{} g on {} dm²", g(&tray), area(&tray));
    assert!((g(&bag) / (15.0 * area(&bag)).max(143.27) - 1.0).abs() < 0.01, "{} g", g(&bag));
    // TRADE 4.9: soy sauce lets in about 4 g/dm² in 12 h, and the root of half the time of that in 6: 2.8 on open lean.
    let brings = tray.dose.mix.as_ref().unwrap().salt_g;
    assert!(brings <= 2.9 * area(&tray) && brings > 0.0, "{brings}");
}

#[test]
fn salt_in_slits_is_even_a_spike_brings_none_and_halves_are_slabs() {
    let middle_of = |plan: &PlanDoc| plan.fridge.salt_profile.iter().map(|p| p.1).fold(0.0f64, f64::max);
    // Deep in it, where the way is narrow, nothing is saltier than on the outside (40 g/kg is where that is warned of).
    let slits = with(&json!({"piece": {"cut": "pork-butt", "weight_g": 2500}, "method": "stuffed-slits"})).unwrap();
    let deep = slits.fridge.salt_profile.iter().filter(|p| (60.0..95.0).contains(&p.0)).map(|p| p.1);
    let (least, most) = deep.fold((f64::INFINITY, 0.0f64), |(a, b), c| (a.min(c), b.max(c)));
    assert!(most < 1.3 * least && most < 12.0 && middle_of(&slits) < 40.0, "{least} to {most} g/kg in the slits");
    // Unsalted garlic carries no salt inwards: seasoned as deep as the same piece is whole.
    let spiked = with(&json!({"piece": rack(), "method": "spiked-loin"})).unwrap();
    let whole = with(&json!({"piece": rack(), "method": "dry-brine", "hours": spiked.fridge.planned_h})).unwrap();
    assert!(
        (spiked.fridge.salted_depth_mm - whole.fridge.salted_depth_mm).abs() < 4.0,
        "{} and {}",
        spiked.fridge.salted_depth_mm,
        whole.fridge.salted_depth_mm
    );
    // Split before the salt, a slice holds what its two faces were given: at 45 mm and 1.06 kg/L.
    let method = json!({"schema": 1, "id": "own", "version": 1, "name": "own", "why": "halves", "source": "common practice", "cuts": ["beef-round-roast"],
        "tasks": rows(&["lay-out", "dry", "split", "salt", "wash", "chill", "heat", "rest", "carve"])});
    let halves = with(&json!({"piece": {"cut": "beef-round-roast", "weight_g": 1500}, "method": method})).unwrap();
    let per_dm2 = |face: &str| halves.dose.by_face.iter().find(|f| f.face == face).unwrap().g_per_dm2;
    let through = (per_dm2("meat") + per_dm2("fat")) / (halves.request.salt_thickness_mm / 100.0 * 1.06);
    assert!((halves.fridge.slice_g_per_kg / through - 1.0).abs() < 0.12, "{} and by hand {through}", halves.fridge.slice_g_per_kg);
    // Its measures are those it was bought with.
    assert!(halves.cautions.iter().all(|c| c.code != "measures-disagree"));
}

#[test]
fn what_is_done_to_it_stands_where_it_is_done_and_is_said_of_what_it_is() {
    let detail = |plan: &PlanDoc, id: &str| plan.steps.iter().find(|s| s.id == id).unwrap().detail.clone();
    // A bird is trussed once it is salted and filled.
    let tasks = json!([{"task": "tie"}, {"task": "stuff"}]);
    let bird = with(&json!({"piece": {"cut": "duck-whole", "weight_g": 2400}, "tasks": tasks})).unwrap();
    let row: Vec<&str> = bird.steps.iter().filter(|s| s.beside.is_none()).map(|s| s.kind.as_str()).collect();
    let place = |kind: &str| row.iter().position(|k| *k == kind).unwrap();
    assert!(place("stuff") < place("tie") && place("salt") < place("tie") && place("tie") < place("roast"), "{row:?}");
    // Knife work of two kinds stands at its own rows.
    let method = json!({"schema": 1, "id": "own", "version": 1, "name": "own", "why": "grooves last", "source": "common practice", "cuts": ["pork-belly"],
        "tasks": rows(&["lay-out", "dry", "pierce", "salt", "groove", "wash", "chill", "heat", "rest", "carve"])});
    let skin = json!({"meat": {"kind": "grooves", "spacing_mm": 30, "depth_mm": 6}});
    if let Ok(belly) = with(&json!({"piece": {"cut": "pork-belly", "weight_g": 2000}, "method": method, "skin": skin})) {
        let row: Vec<&str> = belly.steps.iter().filter(|s| s.beside.is_none()).map(|s| s.kind.as_str()).collect();
        let place = |kind: &str| row.iter().position(|k| *k == kind).unwrap();
        assert!(place("pierce") < place("salt") && place("salt") < place("groove"), "{row:?}");
    } else {
        panic!("grooves after the salt are a way of working");
    }
    // A paste all over is no clean and dry skin, and what goes on goes over all that takes salt.
    let paste = json!({"name": "paste", "recipe": "30 g fine sea salt\n70 g oil"});
    let rubbed = with(&json!({"piece": {"cut": "pork-leg", "weight_g": 3000}, "method": "dry-brine", "mix": paste})).unwrap();
    assert!(!detail(&rubbed, "salt").contains("stays clean and dry"), "{}", detail(&rubbed, "salt"));
    let sauced = with(&json!({"piece": {"cut": "turkey-whole", "weight_g": 5000}, "ledger": [{"item": "soy-sauce", "g": 400}]})).unwrap();
    let season = detail(&sauced, "season");
    assert!(season.contains("cavity") && season.matches(',').count() >= 1, "{season}");
    // Basted, with a paste on it, what is left of that is raw.
    let basted = with(&json!({"piece": rack(), "method": "paste", "tasks": [{"task": "baste"}]})).unwrap();
    assert!(basted.cautions.iter().any(|c| c.code == "raw-baste" && c.text.contains("left of a paste")));
    // Pulled, it bears more.
    let pulled = with(&json!({"piece": {"cut": "pork-butt", "weight_g": 3000, "bone_fraction": 0}, "method": "wrapped-smoke"})).unwrap();
    let says = pulled.cautions.iter().find(|c| c.code == "pulled-dose").unwrap();
    assert!(says.text.contains("30.0 g that went on") && says.text.contains("15 to 18 g/kg"), "{}", says.text);
}

/// The rack with 20 g of a rub that is half salt, and 30 g of a paste of 3 g of salt on its fat after 12 h, as it is kept.
fn kept_with_a_paste() -> (PlanDoc, RunPlan) {
    let mixes = json!([
        {"name": "rub", "recipe": "20 g fine sea salt\n20 g sugar", "g": 20},
        {"name": "paste", "recipe": "10 g fine sea salt\n90 g oil", "g": 30, "face": "fat", "at_h": 12}
    ]);
    let mut request = json!({"serve_at": "2026-12-12T19:00[Europe/Vienna]", "piece": rack(), "mixes": mixes});
    let plan = plan_from(&request, &now()).unwrap();
    request["now"] = plan.request.now.clone().into();
    let run = run_plan(&plan, &request, 1, |air| air).unwrap();
    (plan, run)
}

#[test]
fn a_mix_besides_is_weighed_into_a_bowl_of_its_own() {
    let (plan, run) = kept_with_a_paste();
    let bowl = run.bowls.iter().find(|bowl| bowl.besides.is_some()).unwrap();
    assert_eq!((bowl.name.as_str(), bowl.target.in_g(), bowl.task.as_str()), ("fat cap: paste", 30.0, "season"));
    assert!((run.share_of(bowl).unwrap().0 - 0.1).abs() < 1e-9, "a tenth of it is salt");
    assert_eq!(run.bowls.iter().filter(|bowl| bowl.besides.is_some()).count(), plan.dose.mixes.len());
    // Kept before it had a bowl, it has none.
    let mut older = plan.clone();
    older.dose.mixes[0].task = None;
    assert!(bowls_of(&older).iter().all(|bowl| bowl.besides.is_none()));
}

#[test]
fn a_mix_besides_goes_in_from_its_own_hour_on_its_own_face() {
    let (plan, run) = kept_with_a_paste();
    let paste = run.bowls.iter().find(|bowl| bowl.besides.is_some()).unwrap();
    let salted = run.task("salt").unwrap().ends;
    let later = salted + SignedDuration::from_hours(12);
    let noted = |g: f64| {
        let salt = What::TaskEnded { task: "salt".into() };
        let on = What::SaltOn { task: Some(paste.task.clone()), bowl: Some(paste.id.clone()), grams: grams(g), purity: None };
        let events = [event(1, salted, salt), event(2, later, on)];
        OnIt::of(&run, &stand(&run, &events, later).record).unwrap()
    };
    // By hand: 36 g of it bring 3.6. It is no change of the salt that was weighed, and its clock starts with that.
    let on = noted(36.0);
    assert!((on.really.mixes[0].brought.in_g() - 3.6).abs() < 1e-9 && (on.really.mixes[0].after.in_h() - 12.0).abs() < 1e-9);
    assert!(on.really.changes.is_empty() && on.since == salted);
    let waits = |g: f64, h: f64| {
        let (request, really) = (run.request.as_ref().unwrap(), noted(g).really);
        with_course(request, &really, |course, _, _| course.state(hours(h), hours(h)).profile.waiting.map(|w| w.0)).unwrap()
    };
    // Before its hour nothing of it is there.
    // At its hour all of it lies on the fat, 3.6 g over the area of that face, and nothing on the meat side; fat takes it in slowly.
    let dm2 = plan.dose.by_face.iter().find(|face| face.face == "fat").unwrap().area_dm2;
    let more = |h: f64| [0, 1].map(|end| waits(36.0, h)[end] - waits(0.0, h)[end]);
    assert!(more(11.9).iter().all(|more| more.abs() < 1e-9), "{:?}", more(11.9));
    let [fat, meat] = more(12.01);
    assert!((fat - 3.6 / dm2).abs() < 0.03 * fat && meat.abs() < 1e-9, "{fat} is not {}; {meat}", 3.6 / dm2);
    let [fat, meat] = more(20.0);
    assert!(fat > 0.5 * 3.6 / dm2 && fat < 3.6 / dm2 && meat.abs() < 1e-9, "{fat} {meat}");
}
