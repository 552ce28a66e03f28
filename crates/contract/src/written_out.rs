//! A request with every guess written out: what was computed with, so that no later table changes a kept plan.

use crate::method_doc::method_value;
use crate::plan_doc::{PlanDoc, RequestDoc};
use rauchkeller_core::method::Method;
use rauchkeller_core::plan::{FIELDS, Field, Unit};
use serde_json::{Map, Value, json};
use std::collections::BTreeMap;

/// Fields that are guessed where nobody says them: path, and what the plan took.
fn taken(of: &RequestDoc) -> Vec<(&str, Value)> {
    let numbers = if of.taken.is_empty() { taken_before(of) } else { of.taken.clone() };
    let mut taken: Vec<(&str, Value)> =
        FIELDS.iter().filter_map(|row| Some((row.path, whole_if_it_is(row, *numbers.get(row.path)?)))).collect();
    taken.push(("method", json!(of.method)));
    taken.push(("salt.basis", json!(of.basis)));
    taken
}

/// Counts are written as whole numbers.
fn whole_if_it_is(row: &Field, number: f64) -> Value {
    if row.unit == Unit::Count { json!(number as u64) } else { json!(number) }
}

/// Plans of before `taken` have the same numbers in fields of their own, named as in the request.
fn taken_before(of: &RequestDoc) -> BTreeMap<String, f64> {
    let doc = json!(of);
    // Of several portions no face was taken, and of a piece without layers no thinnest fat.
    let counts = |row: &&Field| match row.leaf() {
        "length_mm" | "width_mm" => of.portions_g.len() == 1 && of.guessed.iter().any(|path| path == row.path),
        "fat_min_mm" => of.skin_mm > 0.0 || of.fat_mm > 0.0,
        "weight_g" | "thin_mm" => false,
        _ => true,
    };
    FIELDS.iter().filter(counts).filter_map(|row| Some((row.path.to_owned(), doc.get(row.leaf())?.as_f64()?))).collect()
}

/// The value at a path; `None` where nothing, or null, stands there.
fn at<'a>(value: &'a Value, path: &str) -> Option<&'a Value> {
    path.split('.').try_fold(value, |value, part| value.get(part)).filter(|value| !value.is_null())
}

fn put(value: &mut Value, path: &str, new: Value) {
    let mut inner = value;
    for part in path.split('.') {
        if !inner.is_object() {
            *inner = Value::Object(Map::new());
        }
        let Some(object) = inner.as_object_mut() else { return };
        inner = object.entry(part).or_insert(Value::Null);
    }
    *inner = new;
}

/// The request with what the plan took in every place that was left open.
///
/// A portion's own thickness or dose says more than one for all, so where portions have theirs the common one stays open.
pub fn written_out(request: &Value, plan: &PlanDoc) -> Value {
    let mut full = request.clone();
    let portions = at(request, "piece.portions").and_then(Value::as_array).cloned().unwrap_or_default();
    let own = |field: &str| portions.iter().any(|p| p.get(field).is_some_and(|v| !v.is_null()));
    for (path, value) in taken(&plan.request) {
        let open = at(request, path).is_none();
        let by_portion = match path {
            "piece.salt_thickness_mm" => own("salt_thickness_mm"),
            "salt.g_per_kg" => own("g_per_kg"),
            _ => false,
        };
        if open && !by_portion {
            put(&mut full, path, value);
        }
    }
    if at(request, "salt.kind").is_none() && at(request, "salt.own").is_none() {
        put(&mut full, "salt.kind", json!(plan.request.salt));
    }
    if at(request, "serve_at").is_none() {
        put(&mut full, "serve_at", json!(plan.serve_at));
    }
    put(&mut full, "now", json!(plan.request.now));
    pin(&mut full, &plan.request.method);
    full
}

/// Puts the whole document of its method beside its name, unless it is there: what a shipped method says tomorrow changes no kept piece.
fn pin(full: &mut Value, id: &str) {
    if full["method"].is_object() || full["method_document"]["id"] == id {
        return;
    }
    if let Some(method) = Method::find(id) {
        put(full, "method_document", method_value(&method));
    }
}

/// Paths that were guesses: what stands in the full request and nobody said.
pub fn guesses_of(request: &Value, plan: &PlanDoc) -> Vec<String> {
    let open = taken(&plan.request).into_iter().map(|(path, _)| path).filter(|path| at(request, path).is_none());
    let mut guesses: Vec<String> = open.map(str::to_owned).collect();
    if at(request, "salt.kind").is_none() && at(request, "salt.own").is_none() {
        guesses.push("salt.kind".into());
    }
    if at(request, "serve_at").is_none() {
        guesses.push("serve_at".into());
    }
    guesses
}

/// The request as it was said: without the guesses that were written out with it, which are named under `guessed`.
pub fn as_said(full: &Value) -> Value {
    let mut said = full.clone();
    let guesses: Vec<String> =
        said["guessed"].as_array().into_iter().flatten().filter_map(|path| path.as_str().map(str::to_owned)).collect();
    for path in guesses {
        let (inside, name) = path.rsplit_once('.').unwrap_or(("", &path));
        let object = if inside.is_empty() { Some(&mut said) } else { said.pointer_mut(&format!("/{}", inside.replace('.', "/"))) };
        if let Some(object) = object.and_then(Value::as_object_mut) {
            object.remove(name);
        }
    }
    if let Some(root) = said.as_object_mut() {
        root.remove("guessed");
        // What is kept anew is pinned by itself, and no longer by what was added to it later.
        root.remove("method_document_added");
    }
    said
}
