//! The same answers: `tests/rules/rules-N.json` holds what the rules of that number say to a few hundred requests, as a digest of each
//! field of the answer and, of some, the whole of it. Who changes a rule raises the number and writes a new file; what only moves code
//! changes neither.
//!
//! A new file is written by `cargo test -p rauchkeller-contract --test it -- --ignored rules::write_the_file`, which never overwrites
//! one. `checksums` names every file there is, so that what was said once stays said.

use rauchkeller_contract::plan_from;
use rauchkeller_core::plan::RULES;
use serde_json::{Map, Value, json};
use sha2::{Digest, Sha256};
use std::collections::BTreeMap;
use std::fmt::Write;
use std::path::{Path, PathBuf};

#[path = "rules_asked.rs"]
mod asked;

/// So many answers at least stand whole in a file.
const WHOLE: usize = 30;

fn folder() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/rules")
}

fn digest(bytes: &[u8]) -> String {
    Sha256::digest(bytes).iter().fold(String::new(), |mut hex, byte| {
        let _ = write!(hex, "{byte:02x}");
        hex
    })
}

/// Enough to tell answers apart, and short enough to read.
fn short(value: &Value) -> String {
    digest(value.to_string().as_bytes())[..16].to_owned()
}

/// What the rules of today answer: the plan, or what is refused.
fn answer(request: &Value) -> Result<Map<String, Value>, Value> {
    match plan_from(request, &super::now()) {
        Ok(plan) => Ok(serde_json::to_value(plan).unwrap().as_object().unwrap().clone()),
        Err(problems) => Err(json!(problems.problems.iter().map(|p| (p.field.clone(), p.sentence())).collect::<Vec<_>>())),
    }
}

/// A digest of each field of an answer, by its name.
fn digests(answer: &Result<Map<String, Value>, Value>) -> BTreeMap<String, String> {
    match answer {
        Ok(plan) => plan.iter().map(|(field, value)| (field.clone(), short(value))).collect(),
        Err(problems) => BTreeMap::from([("refused".to_owned(), short(problems))]),
    }
}

fn read(path: &Path) -> Value {
    serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap()
}

fn file_of(number: u32) -> PathBuf {
    folder().join(format!("rules-{number}.json"))
}

#[test]
fn every_request_is_answered_as_the_file_of_these_rules_says() {
    let path = file_of(RULES);
    assert!(path.exists(), "the rules are {RULES}, and no file says what they answer: write {}", path.display());
    let file = read(&path);
    let (mut plans, mut refused, mut other) = (0, 0, String::new());
    for said in file["answers"].as_array().unwrap() {
        let is = answer(&said["request"]);
        *(if is.is_ok() { &mut plans } else { &mut refused }) += 1;
        let was: BTreeMap<String, String> = serde_json::from_value(said["digests"].clone()).unwrap();
        let now = digests(&is);
        let mut fields: Vec<&String> = was.keys().chain(now.keys()).filter(|field| was.get(*field) != now.get(*field)).collect();
        fields.sort_unstable();
        fields.dedup();
        if !fields.is_empty() {
            let _ = writeln!(other, "{}: {fields:?}", said["name"]);
        }
        if let (Some(whole), Ok(now)) = (said.get("whole"), &is) {
            // Read as the file is: a number read may lie a hair beside the one that was written.
            let as_read = |value: &Value| serde_json::from_str::<Value>(&value.to_string()).unwrap();
            for (field, value) in now.iter().filter(|(field, value)| whole[field.as_str()] != as_read(value)) {
                let _ = writeln!(other, "  {field} is {value}\n  and was {}", whole[field.as_str()]);
            }
        }
    }
    let whole = file["answers"].as_array().unwrap().iter().filter(|said| said.get("whole").is_some() || said.get("says").is_some());
    assert!(whole.count() >= WHOLE);
    assert!(plans + refused >= 300 && plans >= 250 && refused >= 30, "{plans} plans and {refused} refusals");
    assert!(other.is_empty(), "the rules are still {RULES}, and these are answered otherwise:\n{other}");
}

#[test]
fn what_was_said_once_stays_said() {
    let listed: BTreeMap<String, String> = std::fs::read_to_string(folder().join("checksums"))
        .unwrap()
        .lines()
        .filter_map(|line| line.split_once("  ").map(|(sum, name)| (name.to_owned(), sum.to_owned())))
        .collect();
    let mut numbers = Vec::new();
    for entry in std::fs::read_dir(folder()).unwrap() {
        let path = entry.unwrap().path();
        let name = path.file_name().unwrap().to_str().unwrap().to_owned();
        if let Some(number) = name.strip_prefix("rules-").and_then(|rest| rest.strip_suffix(".json")) {
            numbers.push(number.parse::<u32>().unwrap());
            assert_eq!(listed.get(&name), Some(&digest(&std::fs::read(&path).unwrap())), "{name} is not what it was");
        }
    }
    assert_eq!(listed.len(), numbers.len(), "a file is gone");
    numbers.sort_unstable();
    assert_eq!(numbers.last(), Some(&RULES), "the newest file is of other rules");
    // A number that changes nothing is no number of its own.
    for pair in numbers.windows(2) {
        let of = |number: u32| -> BTreeMap<String, Value> {
            let file = read(&file_of(number));
            file["answers"].as_array().unwrap().iter().map(|a| (a["request"].to_string(), a["digests"].clone())).collect()
        };
        let (before, after) = (of(pair[0]), of(pair[1]));
        let same = before.iter().all(|(request, digests)| after.get(request).is_none_or(|now| now == digests));
        assert!(!same, "rules {} and {} answer alike", pair[0], pair[1]);
    }
}

/// Each shipped document, by name and version.
fn documents() -> BTreeMap<String, String> {
    rauchkeller_contract::methods().iter().map(|d| (format!("{} {}", d["id"].as_str().unwrap(), d["version"]), short(d))).collect()
}

#[test]
fn a_document_that_changes_has_a_new_version() {
    let text = std::fs::read_to_string(folder().join("documents")).unwrap();
    let listed: BTreeMap<&str, &str> = text.lines().filter_map(|line| line.split_once("  ")).map(|(digest, of)| (of, digest)).collect();
    assert!(listed.len() >= 20);
    for (of, digest) in documents() {
        assert_eq!(listed.get(of.as_str()), Some(&digest.as_str()), "{of} says something else: raise its version and list it");
    }
}

#[test]
#[ignore = "writes the file of new rules"]
fn write_the_file() {
    let path = file_of(RULES);
    assert!(!path.exists(), "{} is there already: raise the number of the rules first", path.display());
    let mut lines = Vec::new();
    let asked = asked::requests();
    // Every nineteenth or so: thirty of them whole, and a few more.
    let every = asked.len() / (WHOLE + 1);
    for (i, (name, request)) in asked.into_iter().enumerate() {
        let is = answer(&request);
        let mut said = json!({"name": name, "request": request, "digests": digests(&is)});
        if i % every == 0 {
            match is {
                Ok(plan) => said["whole"] = Value::Object(plan),
                Err(problems) => said["says"] = problems,
            }
        }
        lines.push(said.to_string());
    }
    let text = format!("{{\"rules\": {RULES}, \"answers\": [\n{}\n]}}\n", lines.join(",\n"));
    std::fs::write(&path, &text).unwrap();
    let sums = folder().join("checksums");
    let mut all = std::fs::read_to_string(&sums).unwrap_or_default();
    let _ = writeln!(all, "{}  rules-{RULES}.json", digest(text.as_bytes()));
    std::fs::write(sums, all).unwrap();
    let list = folder().join("documents");
    let mut listed = std::fs::read_to_string(&list).unwrap_or_default();
    for (of, digest) in documents() {
        if !listed.lines().any(|line| line.ends_with(&format!("  {of}"))) {
            let _ = writeln!(listed, "{digest}  {of}");
        }
    }
    std::fs::write(list, listed).unwrap();
}
