//! A request as it comes over the wire.

use crate::knife::read_skin;
use crate::problem::{Problem, Problems};
use crate::reader::{Reader, typed};
use crate::rest::read_rest;
use crate::salting::{read_cover, read_faces, read_ledger, read_mix_use, read_salt};
use jiff::ZonedDateTime;
use jiff::civil::{Date, Time as WallTime};
use rauchkeller_core::clock::{Quiet, Toward, WallError, read_wall};
use rauchkeller_core::method::{METHODS, Method};
use rauchkeller_core::piece::Cut;
use rauchkeller_core::plan::{BoughtScoring, Kitchen, PlanRequest, Portion};
use rauchkeller_core::salt::Basis;
use rauchkeller_core::units::{GramsPerKg, HeatTransfer, RelativeHumidity, Share, celsius, grams, hours, millimetres};
use serde_json::Value;

/// A request to start from: `rauchkeller plan --example` prints it.
pub const EXAMPLE: &str = r#"{
  "piece": {
    "cut": "pork-belly", "weight_g": 2400, "salt_thickness_mm": 45, "length_mm": 267, "width_mm": 190,
    "skin_mm": 2.5, "fat_mm": 8, "fat_min_mm": 7, "bone_fraction": 0.0,
    "solution": null, "frozen": false, "bought_on": "2026-12-10", "use_by": null, "portions": null
  },
  "method": "open-air",
  "salt": { "kind": "fine-sea", "g_per_kg": 7.5, "basis": "edible", "faces": null },
  "ledger": [ { "item": "soy-sauce", "g": 30 } ],
  "hours": null, "hours_from": "house", "goal": null, "lies": "open",
  "now": "2026-12-10T09:00[Europe/Vienna]",
  "done": [],
  "serve_at": "2026-12-12T19:00[Europe/Vienna]",
  "servings": 8,
  "kitchen": { "fridge_c": 4, "fridge_rh": 0.5, "fridge_h_w_m2k": 5, "quiet": ["22:30", "06:30"] }
}
"#;

/// Reads a request text; not being JSON at all is the caller's own error.
pub fn read_request_text(text: &str) -> Result<Value, serde_json::Error> {
    serde_json::from_str(text)
}

/// Reads a request, collecting every problem at once. `now` is used where the request says none.
pub fn read_request(value: &Value, now: &ZonedDateTime) -> Result<PlanRequest, Problems> {
    let mut problems = Vec::new();
    let mut root = Reader::root(value, &mut problems);
    let now = read_time(&mut root, "now", now, Toward::Past, &mut problems).unwrap_or_else(|| now.clone());
    let piece = read_piece(&mut root, &mut problems);
    let method_names: Vec<&str> = METHODS.iter().map(|m| m.id).collect();
    let method = root.named("method", Method::find, &method_names, &mut problems);
    let mut salt = root.object("salt", &mut problems);
    let kind = read_salt(&mut salt, &mut problems);
    let dose = salt.number("g_per_kg", "0 to 39.9 g/kg", &mut problems).map(GramsPerKg);
    let basis = salt.named(
        "basis",
        |name| match name {
            "edible" => Some(Basis::Edible),
            "whole" => Some(Basis::Whole),
            _ => None,
        },
        &["edible", "whole"],
        &mut problems,
    );
    let faces = read_faces(&mut salt, &mut problems);
    let cover = read_cover(&mut salt, &mut problems);
    salt.finish(&mut problems);
    let ledger = read_ledger(&mut root, &mut problems);
    let mix = read_mix_use(&mut root, &mut problems);
    let skin_work = read_skin(&mut root, &mut problems);
    let hours_asked = root.number("hours", "0 to 240 h", &mut problems).map(hours);
    let rest = read_rest(&mut root, &now, &mut problems);
    let serve_at = read_time(&mut root, "serve_at", &now, Toward::Coming, &mut problems);
    let servings = root.number("servings", "1 to 200", &mut problems).map(|n| n.clamp(0.0, 1e6) as u32);
    let kitchen = read_kitchen(&mut root, &mut problems);
    root.finish(&mut problems);
    let Some((cut, mut request)) = piece.map(|(cut, portions)| {
        let mut request = PlanRequest::new(cut, grams(0.0), now.clone());
        request.portions = portions.portions;
        request.thickness = portions.thickness;
        request.trimmed = portions.trimmed;
        request.thin = portions.thin;
        request.scored = portions.scored;
        request.length = portions.length;
        request.width = portions.width;
        request.skin = portions.skin;
        request.fat = portions.fat;
        request.fat_min = portions.fat_min;
        request.bone = portions.bone;
        request.solution_sodium_mg_per_100g = portions.solution;
        request.frozen = portions.frozen;
        request.bought_on = portions.bought_on;
        request.use_by = portions.use_by;
        (cut, request)
    }) else {
        return Err(Problems { problems });
    };
    request.cut = cut;
    request.method = method;
    request.salt = kind;
    request.dose = dose;
    request.basis = basis;
    request.faces = faces;
    request.ledger = ledger;
    request.mix = mix;
    request.cover = cover;
    request.skin_work = skin_work;
    request.hours = hours_asked;
    (request.done, request.brushed_off) = (rest.done, rest.brushed_off);
    (request.lies, request.goal, request.hours_from) = (rest.lies, rest.goal, rest.hours_from);
    request.serve_at = serve_at;
    request.servings = servings;
    request.kitchen = kitchen;
    if problems.is_empty() { Ok(request) } else { Err(Problems { problems }) }
}

/// The piece as read, before it becomes part of a request.
struct PieceRead {
    portions: Vec<Portion>,
    trimmed: Option<rauchkeller_core::units::Mass>,
    thin: Option<rauchkeller_core::units::Length>,
    scored: Option<BoughtScoring>,
    thickness: Option<rauchkeller_core::units::Length>,
    length: Option<rauchkeller_core::units::Length>,
    width: Option<rauchkeller_core::units::Length>,
    skin: Option<rauchkeller_core::units::Length>,
    fat: Option<rauchkeller_core::units::Length>,
    fat_min: Option<rauchkeller_core::units::Length>,
    bone: Option<Share>,
    solution: Option<f64>,
    frozen: bool,
    bought_on: Option<Date>,
    use_by: Option<Date>,
}

fn read_piece(root: &mut Reader, problems: &mut Vec<Problem>) -> Option<(Cut, PieceRead)> {
    let mut piece = root.object("piece", problems);
    let names: Vec<&str> = Cut::all().map(|c| c.id).collect();
    let before = problems.len();
    let cut = piece.named("cut", Cut::find, &names, problems);
    if cut.is_none() && problems.len() == before {
        problems.push(Problem::new("piece.cut", "nothing", names.join(", "), "Say which cut it is."));
    }
    let before = problems.len();
    let weight = piece.number("weight_g", "a weight in grams, above 0", problems);
    if weight.is_none() && problems.len() == before {
        problems.push(Problem::new(
            "piece.weight_g",
            "nothing",
            "a weight in grams, above 0",
            "Weigh it; without a weight there are no grams.",
        ));
    }
    let mut length = |name: &'static str| piece.number(name, "millimetres, 0 or more", problems).map(millimetres);
    let (thickness, thin) = (length("salt_thickness_mm"), length("thin_mm"));
    let (long, short) = (length("length_mm"), length("width_mm"));
    let (skin, fat, fat_min) = (length("skin_mm"), length("fat_mm"), length("fat_min_mm"));
    let trimmed = piece.number("trimmed_weight_g", "a weight in grams, above 0", problems).map(grams);
    let scored = piece.named(
        "scored",
        |name| match name {
            "into-fat" => Some(BoughtScoring::IntoFat),
            "into-lean" => Some(BoughtScoring::IntoLean),
            _ => None,
        },
        &["into-fat", "into-lean"],
        problems,
    );
    let bone = piece.number("bone_fraction", "0 to 0.6", problems).map(Share);
    let mut solution = piece.object("solution", problems);
    let sodium = solution.number("sodium_mg_per_100g", "0 to 3000 mg of sodium per 100 g", problems);
    solution.finish(problems);
    let frozen = piece.flag("frozen", problems);
    let bought_on = read_date(&mut piece, "bought_on", problems);
    let use_by = read_date(&mut piece, "use_by", problems);
    let portions = read_portions(&mut piece, weight, problems);
    piece.finish(problems);
    Some((
        cut?,
        PieceRead {
            portions: portions?,
            trimmed,
            thin,
            scored,
            thickness,
            length: long,
            width: short,
            skin,
            fat,
            fat_min,
            bone,
            solution: sodium,
            frozen,
            bought_on,
            use_by,
        },
    ))
}

fn read_portions(piece: &mut Reader, weight: Option<f64>, problems: &mut Vec<Problem>) -> Option<Vec<Portion>> {
    let mut portions = Vec::new();
    for mut entry in piece.list("portions", 24, problems) {
        let weight = entry.number("weight_g", "a weight in grams, above 0", problems);
        let thickness = entry.number("salt_thickness_mm", "millimetres", problems).map(millimetres);
        let dose = entry.number("g_per_kg", "0 to 39.9 g/kg", problems).map(GramsPerKg);
        if weight.is_none() {
            problems.push(Problem::new(entry.field("weight_g"), "nothing", "a weight in grams, above 0", "Every portion has its weight."));
        }
        entry.finish(problems);
        portions.extend(weight.map(|g| Portion { weight: grams(g), thickness, dose }));
    }
    let weight = weight?;
    if portions.is_empty() {
        return Some(vec![Portion { weight: grams(weight), thickness: None, dose: None }]);
    }
    let sum: f64 = portions.iter().map(|p| rauchkeller_core::units::MassIn::in_g(p.weight)).sum();
    if (sum - weight).abs() > 0.01 * weight.abs().max(1.0) {
        problems.push(Problem::new(
            "piece.portions",
            format!("{sum:.0} g in portions, {weight:.0} g in all"),
            "portions that add up to weight_g within 1 %",
            "Weigh them again, or leave the portions out.",
        ));
    }
    Some(portions)
}

fn read_kitchen(root: &mut Reader, problems: &mut Vec<Problem>) -> Kitchen {
    let mut kitchen = Kitchen::default();
    let mut read = root.object("kitchen", problems);
    if let Some(c) = read.number("fridge_c", "−2 to 15 °C", problems) {
        kitchen.fridge.temperature = celsius(c);
    }
    if let Some(rh) = read.number("fridge_rh", "0.05 to 0.99", problems) {
        kitchen.fridge.humidity = RelativeHumidity(rh);
    }
    if let Some(h) = read.number("fridge_h_w_m2k", "0.5 to 40 W/m²K", problems) {
        kitchen.fridge.h = HeatTransfer(h);
    }
    if let Some(value) = read.get("quiet") {
        let span = value.as_array().and_then(|list| match list.as_slice() {
            [from, to] => Some(Quiet { from: wall(from)?, to: wall(to)? }),
            _ => None,
        });
        if span.is_none() {
            problems.push(Problem::new(
                "kitchen.quiet",
                typed(value),
                "two wall times, like [\"22:30\", \"06:30\"]",
                "Leave it out for the usual night.",
            ));
        }
        kitchen.quiet = span.or(kitchen.quiet);
    }
    read.finish(problems);
    kitchen
}

fn wall(value: &Value) -> Option<WallTime> {
    value.as_str()?.trim().parse().ok()
}

fn read_date(from: &mut Reader, name: &'static str, problems: &mut Vec<Problem>) -> Option<Date> {
    let text = from.text(name, "a date like 2026-12-10", problems)?;
    let date = text.trim().parse().ok();
    if date.is_none() {
        let said = typed(&Value::String(text.to_owned()));
        problems.push(Problem::new(from.field(name), said, "a date like 2026-12-10", "Write year, month and day."));
    }
    date
}

pub(crate) fn read_time(
    from: &mut Reader,
    name: &'static str,
    now: &ZonedDateTime,
    toward: Toward,
    problems: &mut Vec<Problem>,
) -> Option<ZonedDateTime> {
    let text = from.text(name, "a time like 2026-12-12T19:00[Europe/Vienna]", problems)?;
    match read_wall(text, now, toward) {
        Ok(at) if (2000..=2200).contains(&at.year()) => Some(at),
        Ok(at) => {
            problems.push(Problem::new(from.field(name), at.year().to_string(), "a year from 2000 to 2200", "Check the date."));
            None
        }
        Err(error) => {
            let remedy = match &error {
                WallError::NotATime(_) => "Write a time like 2026-12-12T19:00[Europe/Vienna].".to_owned(),
                other => format!("{other}."),
            };
            let said = typed(&Value::String(text.to_owned()));
            problems.push(Problem::new(from.field(name), said, "a wall time that exists, with its zone", remedy));
            None
        }
    }
}
