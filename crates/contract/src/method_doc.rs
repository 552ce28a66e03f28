//! A method's document on the wire: written for `list methods`, and as it is sent with a request.

use crate::fire::{finish_value, stage_value, stages_value};
use crate::knife_written::skin_value;
use crate::salting::item_of;
use crate::to_doc::r4;
use rauchkeller_core::ask::{CoverAsk, FireRequest, MixUse};
use rauchkeller_core::fire::Resting;
use rauchkeller_core::method::{Effects, Hands, SaltEffect, School, TaskRow, Words, methods as schools};
use rauchkeller_core::piece::Reshape;
use rauchkeller_core::salt::{Basis, LedgerEntry, LedgerPlace, Salt, ledger_item};
use rauchkeller_core::skin::drying::FridgePlacement;
use rauchkeller_core::units::{LengthIn, MassIn, TimeIn};
use serde_json::{Map, Value, json};

/// Every method's document.
pub fn methods() -> Vec<Value> {
    schools().iter().map(|method| method_value(method)).collect()
}

/// One document.
pub fn method_value(school: &School) -> Value {
    let says = &school.says;
    let mut value = json!({
        "schema": 1,
        "id": school.id,
        "version": school.version,
        "name": school.name,
        "why": school.why,
        "source": school.source,
        "cuts": school.cuts.iter().map(|cut| cut.id).collect::<Vec<_>>(),
        "not": school.not.iter().map(|(cut, why)| (cut.id.to_owned(), json!(why))).collect::<Map<_, _>>(),
        "wants": {"crackling": school.wants.crackling, "cold_rest": school.wants.cold_rest},
        "own_hours": school.own_hours.map(|(shortest, ideal, longest)| [shortest, ideal, longest]),
        "salt": {
            "kind": says.salt.as_ref().filter(|salt| !is_own(salt)).map(|salt| salt.id.as_ref()),
            "basis": says.basis.map(Basis::id),
            "g_per_kg": says.dose.map(|dose| dose.0),
            "shares": says.shares.as_ref().map(|shares| shares.iter().map(|(face, share)| (face.clone(), json!(share))).collect::<Map<_, _>>()),
            "skin_bare": says.bare_skin,
            "faces": says.faces,
            "cover": says.cover.map(cover_value),
        },
        "mix": says.mix.as_ref().map(mix_value),
        "ledger": says.ledger.iter().map(ledger_value).collect::<Vec<_>>(),
        "skin": says.knife.as_ref().map(skin_value),
        "lies": says.lies.map(FridgePlacement::id),
        "fire": fire_value(&says.fire),
        "tasks": school.tasks.iter().map(task_value).collect::<Vec<_>>(),
    });
    if let Some(own) = says.salt.as_ref().filter(|salt| is_own(salt)) {
        value["salt"]["own"] = own_salt_value(own);
    }
    value
}

/// Whether a salt is none of the table: it goes whole.
fn is_own(salt: &Salt) -> bool {
    Salt::find(&salt.id).is_none()
}

fn own_salt_value(salt: &Salt) -> Value {
    said([
        ("name", Some(json!(salt.name))),
        ("g_per_tsp", Some(json!(salt.g_per_tsp))),
        ("purity", Some(json!(salt.purity))),
        ("potassium_share", Some(json!(salt.potassium))),
        ("spread_g", salt.spread_g.map(|g| json!(g))),
        ("pinch_g", salt.pinch_g.map(|g| json!(g))),
    ])
}

/// What is said of an object; `null` where nothing is.
fn said(fields: impl IntoIterator<Item = (&'static str, Option<Value>)>) -> Value {
    let said: Map<String, Value> = fields.into_iter().filter_map(|(name, value)| Some((name.to_owned(), value?))).collect();
    if said.is_empty() { Value::Null } else { Value::Object(said) }
}

fn cover_value(cover: CoverAsk) -> Value {
    said([
        ("kind", Some(json!(cover.kind.id()))),
        ("depth_mm", cover.depth.map(|depth| json!(r4(depth.in_mm())))),
        ("left_g_per_dm2", cover.left.map(|left| json!(r4(left.0)))),
    ])
}

fn mix_value(used: &MixUse) -> Value {
    let part =
        |part: &rauchkeller_core::salt::MixPart| json!({"name": part.name, "g": r4(part.weight.in_g()), "salt_g": r4(part.salt.in_g())});
    said([
        ("name", Some(json!(used.mix.name))),
        ("parts", Some(used.mix.parts.iter().map(part).collect())),
        ("made_for_g", used.mix.made_for.map(|g| json!(r4(g.in_g())))),
        ("g", used.asked.map(|g| json!(r4(g.in_g())))),
        ("bath_h", used.bath.map(|bath| json!(r4(bath.in_h())))),
    ])
}

fn ledger_value(entry: &LedgerEntry) -> Value {
    let usual = entry.bath.map_or_else(|| item_of(&entry.name).and_then(ledger_item).map_or(1.0, |item| item.uptake), |_| 1.0);
    said([
        ("item", Some(json!(item_of(&entry.name)))),
        ("g_per_kg", Some(json!(r4(entry.used.in_g())))),
        ("uptake", ((entry.uptake.0 - usual).abs() > 1e-9).then(|| json!(entry.uptake.0))),
        ("bath_h", entry.bath.map(|bath| json!(r4(bath.in_h())))),
        ("face", entry.face.as_deref().map(|face| json!(face))),
        ("use", (entry.place != LedgerPlace::On).then(|| json!(entry.place.id()))),
    ])
}

fn fire_value(fire: &FireRequest) -> Value {
    let min = |time: rauchkeller_core::units::Time| json!(r4(time.in_min()));
    said([
        ("with", fire.with.map(|with| json!(with.id()))),
        ("temper_min", fire.temper.map(min)),
        ("preheat_min", fire.preheat.map(min)),
        ("stages", fire.stages.as_deref().map(stages_value)),
        ("finish", fire.finish.map(finish_value)),
        ("rest_min", fire.rest.map(min)),
        ("rest", fire.resting.map(|rest: Resting| json!(rest.id()))),
        ("again", fire.again.as_ref().map(stage_value)),
        ("hold_h", fire.hold.map(|(least, most)| json!([r4(least.in_h()), r4(most.in_h())]))),
    ])
}

fn task_value(task: &TaskRow) -> Value {
    let words = |text: &Option<Words>| text.as_deref().map(|text| json!(text));
    let mut value = said([
        ("id", Some(json!(task.id))),
        ("task", Some(json!(task.kind.id()))),
        ("after", Some(json!(task.after))),
        ("beside", task.beside.as_deref().map(|id| json!(id))),
        ("at_h", task.at_h.map(|h| json!(h))),
        ("place", task.place.map(|place| json!(place.id()))),
        ("minutes", task.minutes.map(|minutes| json!(minutes))),
        ("until", words(&task.until)),
        ("hands_on_min", task.hands_on.map(|min| json!(min))),
        ("hands", task.hands.map(|hands| json!(if hands == Hands::Clean { "clean" } else { "raw" }))),
        ("needs", (!task.needs.is_empty()).then(|| json!(task.needs))),
        ("title", words(&task.title)),
        ("detail", words(&task.detail)),
        ("figure", task.figure.map(|shows| json!(shows.id()))),
        ("cautions", (!task.cautions.is_empty()).then(|| json!(task.cautions))),
    ]);
    value["effects"] = effects_value(task.effects);
    value
}

fn effects_value(effects: Effects) -> Value {
    json!({
        "salt": effects.salt.map(|salt| if salt == SaltEffect::On { "on" } else { "off" }),
        "lies": effects.lies.map(FridgePlacement::id),
        "shape": effects.shape.map(Reshape::id),
        "opens_lean": effects.opens_lean,
    })
}
