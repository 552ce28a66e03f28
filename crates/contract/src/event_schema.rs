//! The shape of a batch of events, published: each kind with the fields it takes, as the reader takes them.

use crate::event_doc::{EVENT_KINDS, MOST_EVENTS_SENT};
use rauchkeller_core::skin::drying::Touch;
use serde_json::{Map, Value, json};

fn name(what: &str) -> Value {
    json!({"type": "string", "minLength": 1, "maxLength": 60, "description": what})
}

fn grams(what: &str) -> Value {
    json!({"type": "number", "minimum": 0.0, "maximum": 100_000.0, "description": format!("{what}, g")})
}

fn uuid(what: &str) -> Value {
    json!({"type": "string", "format": "uuid", "description": what})
}

fn instant(what: &str) -> Value {
    json!({"type": "string", "format": "date-time", "description": format!("{what}: an instant of the years 2000 to 2199, RFC 3339")})
}

fn taste(what: &str) -> Value {
    json!({"type": "integer", "minimum": -2, "maximum": 2, "description": what})
}

/// What a kind takes besides id, moments and kind: the fields, and which of them it needs.
fn fields(kind: &str) -> (Vec<(&'static str, Value)>, Vec<&'static str>) {
    let task = || ("task", name("The name of a task of the plan"));
    let bowl = || ("bowl", name("The name of a bowl"));
    let purity = || {
        (
            "purity",
            json!({"type": "number", "minimum": 0.05, "maximum": 1.0, "description": "Share of sodium chloride; left out, the plan’s salt"}),
        )
    };
    match kind {
        "task-began" | "task-ended" => (vec![task()], vec!["task"]),
        "bowl-tared" => {
            (vec![bowl(), ("gross_g", grams("The empty bowl on the scale")), ("scale", uuid("Which scale"))], vec!["bowl", "gross_g"])
        }
        "bowl-weighed" => (vec![bowl(), ("g", grams("What is in it")), ("scale", uuid("Which scale"))], vec!["bowl", "g"]),
        "salt-on" => (vec![task(), bowl(), ("g", grams("What went on")), purity()], vec!["g"]),
        "salt-off" => (vec![("g", grams("What came off")), purity()], vec!["g"]),
        "really-on" => (vec![("g", grams("What is on it in all")), purity()], vec!["g"]),
        "tub-weighed" => {
            let weights = [("before_g", "The tub before"), ("after_g", "The tub after"), ("mix_left_g", "Mix left in its bowl")];
            (weights.map(|(field, what)| (field, grams(what))).to_vec(), vec![])
        }
        "begin" => {
            let tool = ("tool", name("Its tool"));
            let amount = ("amount", json!({"type": "number", "description": "Presses, or centimetres of cut"}));
            let picks = ("picks", json!({"type": "integer", "minimum": 0, "maximum": 10_000, "description": "Picks laid out"}));
            (vec![task(), ("hand", json!({"type": "string", "enum": ["begin"]})), tool, amount, picks], vec!["task", "hand"])
        }
        "back" => {
            let by = ("by_s", json!({"type": "number", "minimum": 0.0, "maximum": 3600.0, "description": "How far back, s"}));
            (vec![task(), ("hand", json!({"type": "string", "enum": ["back"]})), by], vec!["task", "hand"])
        }
        "knife-run" => {
            let hands = ["hold", "go-on", "missing", "slipped", "stop", "go-on-again"];
            (vec![task(), ("hand", json!({"type": "string", "enum": hands}))], vec!["task", "hand"])
        }
        "weighed" => {
            let fields = vec![
                ("gross_g", grams("Piece, rack and tray together")),
                ("tare_g", grams("The empty tray with its rack")),
                ("fineness_g", grams("The scale’s fineness")),
                ("tray", uuid("A tray of the Kit")),
                ("from_scale", json!({"type": "boolean", "description": "Whether a scale that speaks showed it"})),
                ("doubt", name("What looked wrong with it")),
                ("off_g", json!({"type": "number", "description": "By how much, g"})),
            ];
            (fields, vec!["gross_g"])
        }
        "felt" => (vec![("feel", json!({"type": "string", "enum": Touch::ALL.map(Touch::word)}))], vec!["feel"]),
        "core-read" => {
            (vec![("core_c", json!({"type": "number", "minimum": -5.0, "maximum": 120.0, "description": "°C"}))], vec!["core_c"])
        }
        "moved" => (vec![("place", json!({"type": "string", "enum": ["bench", "refrigerator", "fire", "table"]}))], vec!["place"]),
        "refrigerator-warm" => (
            vec![
                ("since", instant("Since when")),
                ("until", instant("Until when")),
                ("air_c", json!({"type": "number", "description": "°C"})),
            ],
            vec![],
        ),
        "tasted" => {
            let fields = vec![
                (
                    "bad_patches",
                    json!({"type": "integer", "minimum": 0, "maximum": 511, "description": "Ninths of the skin that did not blister, by bits"}),
                ),
                ("rim", taste("Outside: too plain to too salty")),
                ("middle", taste("Inside: too plain to too salty")),
                ("juice", taste("Dry to juicy")),
                ("advice", json!({"type": "string", "maxLength": 600})),
            ];
            (fields, vec!["rim", "middle", "juice"])
        }
        "note" => (vec![("text", json!({"type": "string", "minLength": 1, "maxLength": 4000}))], vec!["text"]),
        "answered" => (vec![("question", name("Its key")), ("how", json!({"type": "string", "maxLength": 60}))], vec!["question"]),
        _ => (vec![("event", uuid("The event of this piece that is taken back"))], vec!["event"]),
    }
}

/// An event of a kind; hands at the knife take other fields where they begin or go back.
fn event(kind: &str, takes: &str) -> Value {
    let (own, needed) = fields(takes);
    let mut properties: Map<String, Value> = Map::new();
    properties.insert("id".into(), uuid("The sender’s own, version 7: sent again with the same content it changes nothing"));
    properties.insert("at".into(), instant("When it happened, by the sender’s clock; at most five minutes ahead and 400 days ago"));
    let offset = "By how many ms this server’s clock was ahead of the sender’s when it was noted: then nothing changes by arriving late";
    properties.insert(
        "offset_ms".into(),
        json!({"type": "integer", "minimum": -4_000_000_000_000i64, "maximum": 4_000_000_000_000i64, "description": offset}),
    );
    properties.insert("noted_at".into(), instant("When it was noted; shown only"));
    properties.insert("what".into(), json!({"const": kind}));
    properties.extend(own.into_iter().map(|(field, schema)| (field.to_owned(), schema)));
    let required: Vec<&str> = ["id", "at", "what"].into_iter().chain(needed).collect();
    json!({"type": "object", "title": kind, "additionalProperties": false, "required": required, "properties": properties})
}

/// The schema of a batch; a plan is changed on the Bench and by no event that is sent.
pub fn events_schema() -> Value {
    let sent = EVENT_KINDS.iter().filter(|kind| **kind != "plan-revised").map(|kind| (*kind, *kind));
    let at_the_knife = [("knife-run", "begin"), ("knife-run", "back")];
    let kinds: Vec<Value> = sent.chain(at_the_knife).map(|(kind, takes)| event(kind, takes)).collect();
    json!({"type": "object", "additionalProperties": false, "required": ["events"], "properties": {
        "sent_at": instant("When it was sent, by the sender’s clock: events without an offset of their own are put right by it"),
        "events": {"type": "array", "minItems": 1, "maxItems": MOST_EVENTS_SENT, "items": {"oneOf": kinds}}}})
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::read_events;

    /// Each kind with what it needs is read, without any of it refused; a field of the schema that the reader does not know would be
    /// refused, too.
    #[test]
    fn the_reader_takes_what_the_schema_says() {
        let now: jiff::Timestamp = "2026-12-11T15:00:00Z".parse().unwrap();
        let example = |schema: &Value| -> Value {
            match (schema["enum"].get(0), schema["format"].as_str(), schema["type"].as_str()) {
                (Some(first), ..) => first.clone(),
                (_, Some("uuid"), _) => "0192f0c1-0000-7000-8000-000000000009".into(),
                (_, Some("date-time"), _) => "2026-12-11T14:00:00Z".into(),
                (_, _, Some("string")) => "salt".into(),
                (_, _, Some("boolean")) => true.into(),
                _ => 1.into(),
            }
        };
        let schema = events_schema();
        let kinds = schema["properties"]["events"]["items"]["oneOf"].as_array().unwrap();
        assert_eq!(kinds.len(), EVENT_KINDS.len() - 1 + 2);
        for kind in kinds {
            let named = kind["title"].as_str().unwrap();
            let whole: Map<String, Value> = kind["properties"]
                .as_object()
                .unwrap()
                .iter()
                .map(|(field, schema)| (field.clone(), if field == "what" { named.into() } else { example(schema) }))
                .collect();
            let read = |event: &Map<String, Value>| read_events(&json!({"events": [event]}), now);
            read(&whole).unwrap_or_else(|refused| panic!("{named}: {:?}", refused.problems));
            for field in kind["required"].as_array().unwrap() {
                let field = field.as_str().unwrap();
                let mut without = whole.clone();
                without.remove(field);
                let refused = read(&without).expect_err(&format!("{named} without {field}"));
                assert!(refused.problems.iter().any(|p| p.field.starts_with("events[0].")), "{named} without {field}");
            }
        }
    }
}
