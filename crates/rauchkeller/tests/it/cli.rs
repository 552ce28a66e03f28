//! The command line.

use rauchkeller_contract::PlanDoc;
use serde_json::{Value, json};
use std::io::Write;
use std::process::{Command, Output, Stdio};

fn run(args: &[&str], input: &str) -> Output {
    let mut child = Command::new(env!("CARGO_BIN_EXE_rauchkeller"))
        .args(args)
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    // What is too long is not read to its end.
    let written = child.stdin.take().unwrap().write_all(input.as_bytes());
    assert!(written.is_ok() || written.is_err_and(|error| error.kind() == std::io::ErrorKind::BrokenPipe));
    child.wait_with_output().unwrap()
}

#[test]
fn the_example_goes_through_a_pipe_and_adds_up() {
    let example = run(&["plan", "--example"], "");
    assert!(example.status.success());
    let output = run(&["plan", "-"], &String::from_utf8(example.stdout).unwrap());
    assert!(output.status.success());
    let plan: PlanDoc = serde_json::from_slice(&output.stdout).unwrap();
    let faces: f64 = plan.dose.by_face.iter().map(|f| f.g).sum();
    assert!((faces - plan.dose.to_weigh_g).abs() < 0.1);
    assert_eq!(plan.steps.iter().find(|s| s.kind == "carve").unwrap().ends_at, plan.serve_at);
}

#[test]
fn every_problem_is_printed_and_the_exit_is_two() {
    let output = run(&["plan", "-"], r#"{"piece": {"cut": "dragon", "weight_g": -1}, "colour": "red"}"#);
    assert_eq!(output.status.code(), Some(2));
    let problems: Value = serde_json::from_slice(&output.stdout).unwrap();
    let fields: Vec<&str> = problems["problems"].as_array().unwrap().iter().map(|p| p["field"].as_str().unwrap()).collect();
    assert!(fields.contains(&"piece.cut") && fields.contains(&"colour"), "{fields:?}");
    for (args, input) in [(vec!["plan", "-"], "not json"), (vec!["plan", "/nowhere/at/all.json"], "")] {
        assert_eq!(run(&args, input).status.code(), Some(2));
    }
}

#[test]
fn every_table_is_listed_with_its_sources() {
    for table in ["cuts", "salts", "methods", "ledger"] {
        let rows: Value = serde_json::from_slice(&run(&["list", table], "").stdout).unwrap();
        let rows = rows.as_array().unwrap();
        assert!(rows.len() >= 2 && rows.iter().all(|row| row["source"].as_str().is_some_and(|s| !s.is_empty())), "{table}");
    }
}

#[test]
fn a_listed_method_can_be_planned_by_its_whole_document() {
    let listed: Value = serde_json::from_slice(&run(&["list", "methods"], "").stdout).unwrap();
    let draw = listed.as_array().unwrap().iter().find(|doc| doc["id"] == "short-draw").unwrap();
    let request = |method: &Value| {
        json!({"piece": {"cut": "pork-belly", "weight_g": 2000, "bought_on": "2026-12-10"}, "method": method, "now": "2026-12-10T09:00[Europe/Vienna]",
            "serve_at": "2026-12-12T19:00[Europe/Vienna]"})
        .to_string()
    };
    let (whole, by_name) = (run(&["plan", "-"], &request(draw)), run(&["plan", "-"], &request(&draw["id"])));
    assert!(whole.status.success() && whole.stdout == by_name.stdout);
    // As large as a book it is refused as a whole, in a sentence.
    let mut heavy = draw.clone();
    heavy["why"] = "long ".repeat(200_000).into();
    let refused = run(&["plan", "-"], &request(&heavy));
    let said = String::from_utf8_lossy(&refused.stderr).into_owned();
    assert!(refused.status.code() == Some(2) && said.starts_with("request: more than 64 KB") && said.lines().count() == 1, "{said}");
}
