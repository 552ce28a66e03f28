//! Ways of working as requests, said on the Bench: put into the sentence's words they are the same plan, and the page says what it must.

use super::*;
use crate::bench::BenchFragment;
use askama::Template;
use rauchkeller_contract::plan_from;

/// The files that the contract's own test reads.
fn ways() -> Vec<(String, Value)> {
    let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/../contract/tests/ways");
    let files = std::fs::read_dir(folder).unwrap().map(|file| file.unwrap().path());
    let mut all: Vec<(String, Value)> = files
        .map(|path| {
            (
                path.file_stem().unwrap().to_string_lossy().into_owned(),
                serde_json::from_str(&std::fs::read_to_string(&path).unwrap()).unwrap(),
            )
        })
        .collect();
    all.sort_by(|a, b| a.0.cmp(&b.0));
    all
}

#[test]
fn a_way_said_in_the_sentence_is_the_same_plan_and_stands_on_the_page() {
    let (mut same, mut read) = (0, 0);
    for (name, way) in ways() {
        let request = &way["request"];
        // A document of the cook's own has no word.
        if request["method"].is_object() {
            continue;
        }
        let form = BenchForm::of_request(request, &now(), &Shelf::default());
        let view = BenchView::of(form, &now(), &Shelf::default(), None, None);
        assert!(view.slips.is_empty(), "{name}: {:?}", view.slips);
        let (said, sent) = (view.plan.clone().unwrap(), plan_from(request, &now()).unwrap());
        // To what a word is rounded to.
        let near = |a: f64, b: f64| (a - b).abs() <= 0.004 * a.abs().max(b.abs()).max(1.0);
        let row = |plan: &PlanDoc| plan.steps.iter().map(|s| s.id.clone()).collect::<Vec<_>>();
        assert!(near(said.dose.to_weigh_g, sent.dose.to_weigh_g), "{name}: {} g and {} g", said.dose.to_weigh_g, sent.dose.to_weigh_g);
        assert!(near(said.dose.total_g, sent.dose.total_g) && near(said.fridge.planned_h, sent.fridge.planned_h), "{name}");
        assert!((said.fire.minutes - sent.fire.minutes).abs() <= 1.0, "{name}: {} min and {} min", said.fire.minutes, sent.fire.minutes);
        assert_eq!(row(&said), row(&sent), "{name}");
        same += 1;
        let page = BenchFragment { view }.render().unwrap().replace("&#39;", "'").replace("&#34;", "\"").replace("&quot;", "\"");
        for words in way["page"].as_array().into_iter().flatten().filter_map(Value::as_str) {
            assert!(page.contains(words), "{name}: the Bench does not say “{words}”");
            read += 1;
        }
        let quiet = way["quiet"].as_str();
        assert!(quiet.is_none_or(|quiet| !page.contains(quiet)), "{name}: the Bench says “{}”", way["quiet"]);
    }
    assert!(same >= 20 && read >= 8, "{same} ways, {read} words");
}
