//! The shape of a request, published: JSON Schema as OpenAPI 3.1 has it, made from the tables the reader goes by.

use crate::chill::MOST_DONE;
use rauchkeller_core::ask::{BoughtScoring, FinishStyle, HoursFrom, MOST_MIXES, MOST_STAGES, MOST_TASKS, Thawing};
use rauchkeller_core::fire::{HeatSource, HeatWord, How, Look, Resting};
use rauchkeller_core::method::{StepKind, methods};
use rauchkeller_core::piece::Cut;
use rauchkeller_core::plan::{FIELDS, Field, Unit};
use rauchkeller_core::salt::{Basis, CoverKind, LEDGER_ITEMS, LedgerPlace, SALTS};
use rauchkeller_core::skin::drying::FridgePlacement;
use serde_json::{Map, Value, json};

fn one_of<'a>(what: &str, names: impl IntoIterator<Item = &'a str>) -> Value {
    json!({"type": ["string", "null"], "enum": names.into_iter().map(Value::from).chain([Value::Null]).collect::<Vec<_>>(), "description": what})
}

fn text(what: &str) -> Value {
    json!({"type": ["string", "null"], "description": what})
}

fn number(row: &Field) -> Value {
    let kind = if row.unit == Unit::Count { "integer" } else { "number" };
    json!({"type": [kind, "null"], "minimum": row.range.0, "maximum": row.range.1, "description": format!("{}; {}", row.means, row.allowed())})
}

/// The numbers that stand directly in an object, and what else does.
fn object(path: &str, what: &str, others: Value) -> Value {
    let mut fields: Map<String, Value> =
        FIELDS.iter().filter(|row| row.object() == path).map(|row| (row.leaf().to_owned(), number(row))).collect();
    if let Value::Object(others) = others {
        fields.extend(others);
    }
    json!({"type": ["object", "null"], "additionalProperties": false, "description": what, "properties": fields})
}

/// An object that needs one of these fields, where it is said at all.
fn with_one_of<const N: usize>(fields: [&str; N], mut object: Value) -> Value {
    let needs = fields.iter().map(|field| json!({"required": [field]})).chain([json!({"type": "null"})]);
    object["anyOf"] = needs.collect::<Vec<_>>().into();
    object
}

fn list(what: &str, most: usize, entry: Value) -> Value {
    let mut list = json!({"type": ["array", "null"], "maxItems": most, "description": what});
    list["items"] = entry;
    list
}

/// The heat.
fn fire() -> Value {
    let sources = || HeatSource::ALL.iter().map(|source| source.id());
    let only = |name: &str, value: Value| json!({"type": "object", "additionalProperties": false, "required": [name], "properties": {name: value}});
    let degrees = || json!({"type": "number", "description": "°C in the core."});
    let words = |names: Vec<&str>| json!({"type": "string", "enum": names});
    let stage = json!({"type": "object", "additionalProperties": false, "required": ["air_c", "until"], "properties": {
        "with": one_of("On something else than the rest of the heat.", sources()),
        "air_c": {"anyOf": [{"type": "number", "minimum": 30.0, "maximum": 400.0}, words(HeatWord::NAMES.to_vec())],
            "description": "Degrees Celsius of air, metal or spit, or a word; a word is a guess."},
        "how": one_of("How the piece lies in it.", How::ALL.iter().map(|how| how.id())),
        "until": {"description": "What ends it: one of these.", "oneOf": [
            only("minutes", json!({"type": "number", "minimum": 0.0, "maximum": 1440.0})), only("core_c", degrees()), only("core", words(vec!["finish"])),
            only("look", words(Look::ALL.iter().map(|look| look.id()).collect()))]},
        "flip_min": {"type": ["number", "null"], "minimum": 0.5, "description": "Minutes between two turns, over direct heat."}}});
    object(
        "fire",
        "The heat; stages said here take the place of the method’s.",
        json!({
        "with": one_of("What gives the heat.", sources()),
        "stages": list("Stages, in order; one at most waits for the finish.", MOST_STAGES, stage.clone()),
        "again": {"description": "Cooked ahead and chilled: what heats it again, to 74 °C in the middle at least.", "anyOf": [{"type": "null"}, stage]},
        "finish": {"description": "Where it is to end, the rest included: one of these, or null for the cut’s own.", "oneOf": [
            {"type": "null"}, only("core_c", degrees()), only("style", words(FinishStyle::ALL.iter().map(|style| style.id()).collect()))]},
        "rest": one_of("How it rests.", Resting::NAMES),
        "hold_h": list("Held warm, hours at least and at most.", 2, json!({"type": "number", "minimum": 0.0, "maximum": 12.0}))}),
    )
}

/// A request: every field, what it means and what is allowed. Only `piece.cut` and `piece.weight_g` are required.
pub fn request_schema() -> Value {
    let row = |path: &str| Field::at(path).map_or(Value::Null, number);
    let portion = json!({"type": "object", "additionalProperties": false, "required": ["weight_g"], "properties": {
        "weight_g": row("piece.weight_g"), "salt_thickness_mm": row("piece.salt_thickness_mm"), "g_per_kg": row("salt.g_per_kg")}});
    let done = json!({"type": "object", "additionalProperties": false, "required": ["at"], "properties": {
        "kind": one_of("What was done; this or `task`.", StepKind::ALL.iter().map(|k| k.id()).chain(["brush-off"])),
        "task": text("Or which task of the plan, like `salt` or `dry-2`."),
        "at": text("When it ended."),
        "g": {"type": ["number", "null"], "description": "Grams of salt that went on, or came off."}}});
    let ledger = json!({"type": "object", "description": "A salty thing by its item and grams, or as it was said.", "properties": {
        "item": one_of("What it is.", LEDGER_ITEMS.iter().map(|i| i.id)),
        "g": {"type": ["number", "null"], "minimum": 0.0, "maximum": 5000.0, "description": "Grams of it."},
        "uptake": {"type": ["number", "null"], "minimum": 0.0, "maximum": 1.0, "description": "The share of its salt that ends in the meat; null takes the table’s."},
        "said": text("Or the line as a cook writes it: `2 tbsp soy sauce`."),
        "bath_h": {"type": ["number", "null"], "minimum": 0.1, "maximum": 336.0, "description": "Hours the piece lies in it."},
        "face": text("The face it goes on alone, like `meat`."),
        "use": one_of("What becomes of it: on the meat, eaten beside, or the liquid it is cooked in.", LedgerPlace::NAMES)}});
    let mut piece = object(
        "piece",
        "The piece.",
        json!({
        "cut": {"type": "string", "enum": Cut::all().map(|c| c.id).collect::<Vec<_>>(), "description": "Which cut."},
        "scored": one_of("Scoring it was bought with, and how deep.", BoughtScoring::NAMES),
        "solution": object("piece.solution", "What the label of an injected piece says.", json!({})),
        "frozen": {"type": ["boolean", "null"], "description": "Whether it is frozen still."},
        "bought_on": text("The day it was bought."), "use_by": text("The last day on its label."),
        "portions": list("Several portions, each by itself; they add up to weight_g.", 24, portion)}),
    );
    piece["required"] = json!(["cut", "weight_g"]);
    piece["type"] = json!("object");
    let mut whole = object(
        "",
        "What a cook says of a piece; everything left out or null goes as method and cut have it.",
        json!({
        "piece": piece,
        "method": {"description": "The way it is done: its name, or a whole document as `list methods` prints them.", "oneOf": [
            one_of("Its name.", methods().iter().map(|m| m.id.as_ref())), {"type": "object", "description": "A method’s document."}]},
        "method_document": {"type": ["object", "null"], "description": "Of a kept piece: the document of its method as it was then; it counts for the method of that id."},
        "salt": object("salt", "Which salt, how much of it, where.", json!({
            "kind": one_of("Which salt.", SALTS.iter().map(|s| s.id.as_ref())),
            "own": {"type": ["object", "null"], "description": "Or one of the household’s own: name, g_per_tsp, purity, potassium_share, spread_g, pinch_g."},
            "basis": one_of("What the dose is counted on.", Basis::NAMES),
            "as": text("Or the dose as a rule: `1½ tsp per lb` of the salt chosen."),
            "usual_g_per_kg": {"type": ["number", "null"], "minimum": 0.5, "maximum": 39.9, "description": "What the cook usually takes for such a piece: more than a fifth apart is pointed out."},
            "shares": {"type": ["object", "null"], "additionalProperties": {"type": "number", "minimum": 0.0, "maximum": 1.0}, "description": "Each face’s share by its id; together 1."},
            "faces": list("The faces to salt.", 12, json!({"type": "string"})),
            "cover": object("salt.cover", "Salt on the skin as a tool.", json!({"kind": one_of("Which.", CoverKind::ALL.iter().map(|k| k.id()))}))})),
        "ledger": list("Salty things that go on besides.", 30, ledger),
        "mix": with_one_of(["recipe", "parts"], object("mix", "A mix of the household’s own: its recipe, or its parts.", json!({
            "name": text("What it is called."), "recipe": text("One ingredient a line."), "parts": {"description": "Or its parts as weighed."},
            "made_for_g": {"type": ["number", "null"], "description": "For how much meat it was written."},
            "bath_h": {"type": ["number", "null"], "minimum": 0.1, "maximum": 336.0, "description": "Hours the piece lies in it."}}))),
        "mixes": list("More mixes, each with its face and its hour; the first without either is `mix`.", MOST_MIXES, with_one_of(["recipe", "parts"], json!({
            "type": "object", "additionalProperties": false, "properties": {
                "name": text("What it is called."), "recipe": text("One ingredient a line."),
                "parts": {"description": "Or its parts as weighed."},
                "made_for_g": {"type": ["number", "null"], "description": "For how much meat it was written."},
                "g": {"type": ["number", "null"], "minimum": 0.0, "maximum": 20000.0, "description": "Grams of it; null takes an equal share of what is missing."},
                "bath_h": {"type": ["number", "null"], "minimum": 0.1, "maximum": 336.0, "description": "Hours the piece lies in it: of the one without face and hour."},
                "face": text("The face it goes on, by its id."),
                "at_h": {"type": ["number", "null"], "minimum": 0.0, "maximum": 336.0, "description": "Hours after the first salt."}}}))),
        "skin": {"type": ["object", "null"], "description": "Knife and pick: shape, measures, work, tool; as the Knife’s page sends it."},
        "fire": fire(),
        "tasks": list("Tasks of the cook’s own: added, longer, shorter, left out.", MOST_TASKS, json!({
            "type": "object", "additionalProperties": false, "required": ["task"], "properties": {
                "task": {"type": "string", "description": "Its name in the plan, like dry-2, or its kind, which means all of that kind."},
                "minutes": {"type": ["number", "null"], "minimum": 0.0, "maximum": 1440.0, "description": "How long it takes."},
                "leave_out": {"type": ["boolean", "null"], "description": "Whether it is left out."},
                "at_h": {"type": ["number", "null"], "minimum": 0.0, "maximum": 336.0, "description": "Hours after it went into the cold: adds turning or wiping there."},
                "stage": {"type": ["integer", "null"], "minimum": 0, "maximum": 99, "description": "On which stage of the heat, counted from 0; null on the whole of it."},
                "at_min": {"type": ["number", "null"], "minimum": 0.0, "maximum": 2880.0, "description": "So many minutes after that began. One of at_min, at_core_c and at."},
                "at_core_c": {"type": ["number", "null"], "minimum": 1.0, "maximum": 99.0, "description": "When the core reads so much."},
                "at": one_of("As it begins, or as it ends.", ["begins", "ends"]),
                "every_min": {"type": ["number", "null"], "minimum": 0.5, "maximum": 2880.0, "description": "From then on so often."}}})),
        "thaw": one_of("How what is frozen thaws: in the refrigerator; under cold water, then cooked at once; or salted once its outside is soft.", Thawing::NAMES),
        "goal": object("goal", "What computed hours are to reach: one of these.", json!({})),
        "hours_from": one_of("Whose hours the clock takes.", HoursFrom::NAMES),
        "lies": one_of("How it lies in the refrigerator.", FridgePlacement::ALL.iter().map(|l| l.id())),
        "now": text("The moment planned from, with its zone."), "serve_at": text("When it is on the table; null asks for the best."),
        "serve_until": text("When the last of it is eaten, up to six hours later; null is at once."),
        "done": list("What is done already.", MOST_DONE, done),
        "knowing": list("Cautions a cook has read and goes on in spite of.", 10, json!({"type": "string"})),
        "kitchen": object("kitchen", "The kitchen it happens in.", json!({
            "heat": list("The household’s own appliances: its hottest is what “max” means.", 20, json!({
                "type": "object", "additionalProperties": false, "required": ["id", "with"], "properties": {
                    "id": text("What it is called, like oven-2."),
                    "with": one_of("What kind it is.", HeatSource::ALL.iter().map(|source| source.id())),
                    "max_c": {"type": ["number", "null"], "minimum": 60.0, "maximum": 400.0, "description": "How hot it gets."},
                    "dial_off_k": {"type": ["number", "null"], "minimum": -80.0, "maximum": 80.0, "description": "What its dial shows more than a thermometer beside the meat."}}})),
            "quiet": list("From when to when nobody wants to be called.", 2, json!({"type": "string"}))}))}),
    );
    whole["required"] = json!(["piece"]);
    whole["type"] = json!("object");
    whole
}
