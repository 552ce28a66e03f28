//! A request as it comes over the wire.

use crate::chill::read_chill;
use crate::fire::{read_appliances, read_fire};
use crate::knife::read_skin;
use crate::method_read::{read_kept_method, read_method};
use crate::problem::{Problem, Problems, one_a_field};
use crate::reader::{Numbers, Reader, typed};
use crate::salting::{read_as, read_cover, read_faces, read_ledger, read_mix_use, read_mixes, read_salt, read_shares};
use crate::tasks::read_tasks;
use jiff::ZonedDateTime;
use jiff::civil::{Date, Time as WallTime};
use jiff::fmt::temporal::Pieces;
use jiff::tz::TimeZone;
use rauchkeller_core::ask::{BoughtScoring, PlanRequest, Portion, Thawing};
use rauchkeller_core::clock::{Quiet, Toward, WallError, in_calendar, read_wall};
use rauchkeller_core::fire::Hottest;
use rauchkeller_core::piece::{Cut, Named, named};
use rauchkeller_core::plan::{Field, Unit, refusals};
use rauchkeller_core::salt::Basis;
use rauchkeller_core::units::{GramsPerKg, grams, millimetres};
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

/// Reads a request text; text that is not JSON is a problem like any other, with the place where it breaks off.
pub fn read_request_text(text: &str) -> Result<Value, Problem> {
    serde_json::from_str(text).map_err(|error| {
        let lines = text.lines().count().max(1);
        let (typed, remedy) = if text.trim().is_empty() {
            ("nothing".to_owned(), "Write a request in braces.".to_owned())
        } else if error.is_eof() {
            let remedy = "Look for a bracket, a brace or a quotation mark that was opened and never closed.".to_owned();
            (format!("text that stops too early, in line {lines}"), remedy)
        } else {
            let (line, column) = (error.line(), error.column());
            let typed = format!("text that cannot be read from line {line}, letter {column} on");
            (typed, "Look there for a missing comma or quotation mark, or one too many.".to_owned())
        };
        Problem::new("request", typed, "a request as JSON", remedy)
    })
}

/// Reads a request, collecting every problem at once, one a field. `now` is used where the request says none.
pub fn read_request(value: &Value, now: &ZonedDateTime) -> Result<PlanRequest, Problems> {
    match read_all(value, now, read_method) {
        (Some(request), problems) if problems.is_empty() => Ok(request),
        (_, problems) => Err(one_a_field(problems)),
    }
}

/// Reads the request of a kept piece: what would be refused today is no reason not to open it. `None` where not even the
/// cut and the weight can be read.
pub fn read_kept(value: &Value, now: &ZonedDateTime) -> Option<PlanRequest> {
    read_all(value, now, read_kept_method).0
}

/// What today's rules would refuse of a kept piece's request, one a field.
pub fn refused_today(value: &Value, now: &ZonedDateTime) -> Vec<Problem> {
    match read_all(value, now, read_method) {
        (Some(request), mut problems) => {
            problems.extend(Problems::from(refusals(&request)).problems);
            one_a_field(problems).problems
        }
        (None, problems) => one_a_field(problems).problems,
    }
}

/// How its method is read: as it has to be, or as a kept piece has it.
type ReadMethod = fn(&mut Reader, &mut Vec<Problem>) -> Option<rauchkeller_core::method::Method>;

/// As much of a request as can be read, and every problem on the way.
fn read_all(value: &Value, now: &ZonedDateTime, read_method: ReadMethod) -> (Option<PlanRequest>, Vec<Problem>) {
    let mut problems = Vec::new();
    let mut root = Reader::root(value, &mut problems);
    let now = read_now(&mut root, now, &mut problems).unwrap_or_else(|| now.clone());
    let piece = read_piece(&mut root, &mut problems);
    let method = read_method(&mut root, &mut problems);
    let mut salt = root.object("salt", &mut problems);
    let mut numbers = salt.numbers(&mut problems);
    let kind = read_salt(&mut salt, &mut problems);
    let usual_dose = read_usual(&mut salt, &mut problems);
    let basis = salt.named("basis", Basis::find, &Basis::NAMES, &mut problems);
    let faces = read_faces(&mut salt, &mut problems);
    let shares = read_shares(&mut salt, &mut problems);
    let rule = read_as(&mut salt, kind.as_ref(), &mut problems);
    let cover = read_cover(&mut salt, &mut numbers, &mut problems);
    salt.finish(&mut problems);
    let ledger = read_ledger(&mut root, &mut problems);
    let mut mix = read_mix_use(&mut root, &mut numbers, &mut problems);
    let mixes = read_mixes(&mut root, &mut mix, &mut problems);
    let skin_work = read_skin(&mut root, &mut problems);
    numbers.extend(root.numbers(&mut problems));
    let fire = read_fire(&mut root, &mut numbers, &mut problems);
    let tasks = read_tasks(&mut root, &mut problems);
    let thaw = root.named("thaw", Thawing::find, &Thawing::NAMES, &mut problems);
    let rest = read_chill(&mut root, (&now, method.as_ref()), &mut numbers, &mut problems);
    let serve_at = read_time(&mut root, "serve_at", &now, Toward::Coming, &mut problems);
    let serve_until = read_time(&mut root, "serve_until", serve_at.as_ref().unwrap_or(&now), Toward::Coming, &mut problems);
    // Plates are whole ones: half a guest is said here, where it was typed.
    for (row, n) in numbers.iter().filter(|(row, n)| row.unit == Unit::Count && n.fract() != 0.0) {
        problems.push(Problem::new(row.path, n.to_string(), row.allowed(), row.remedy));
    }
    let (quiet, heat) = read_kitchen(&mut root, &mut numbers, &mut problems);
    read_knowing(&mut root, &mut problems);
    root.finish(&mut problems);
    let Some(piece) = piece else { return (None, problems) };
    let mut request = PlanRequest::new(piece.cut, grams(0.0), now);
    request.portions = piece.portions;
    request.scored = piece.scored;
    (request.frozen, request.thaw) = (piece.frozen, thaw);
    (request.bought_on, request.use_by) = (piece.bought_on, piece.use_by);
    request.method = method;
    request.salt = kind;
    request.usual_dose = usual_dose;
    request.basis = basis;
    (request.faces, request.shares, request.dose) = (faces, shares, rule);
    request.ledger = ledger;
    (request.mix, request.mixes) = (mix, mixes);
    request.cover = cover;
    request.skin_work = skin_work;
    request.fire = fire;
    request.tasks = tasks;
    (request.done, request.brushed_off) = (rest.done, rest.brushed_off);
    (request.lies, request.hours_from) = (rest.lies, rest.hours_from);
    (request.serve_at, request.serve_until) = (serve_at, serve_until);
    request.kitchen.heat = heat;
    request.kitchen.quiet = quiet.or(request.kitchen.quiet).filter(|quiet| *quiet != Quiet::NONE);
    for (row, number) in piece.numbers.into_iter().chain(numbers) {
        (row.put)(&mut request, number);
    }
    (Some(request), problems)
}

/// What the cook usually takes for such a piece, as her book knows it.
fn read_usual(salt: &mut Reader, problems: &mut Vec<Problem>) -> Option<GramsPerKg> {
    let usual = salt.number("usual_g_per_kg", "0.5 to 39.9 g/kg", problems)?;
    if !(0.5..40.0).contains(&usual) {
        problems.push(Problem::new(
            salt.field("usual_g_per_kg"),
            format!("{usual} g/kg"),
            "0.5 to 39.9 g/kg",
            "Leave it out where nobody knows.",
        ));
        return None;
    }
    Some(GramsPerKg(usual))
}

/// Codes of the cautions a cook goes on in spite of; they stand written with the plan and change nothing in it.
fn read_knowing(root: &mut Reader, problems: &mut Vec<Problem>) {
    let Some(value) = root.get("knowing") else { return };
    let short = |v: &Value| v.as_str().is_some_and(|code| (1..=40).contains(&code.len()));
    if !value.as_array().is_some_and(|codes| codes.len() <= 10 && codes.iter().all(short)) {
        let remedy = "Name the cautions that were read, or leave it out.";
        problems.push(Problem::new("knowing", typed(value), "a list of codes of cautions, like [\"storage-limit\"]", remedy));
    }
}

/// The moment of the request: its zone decides every wall time in it, so it has to be said.
fn read_now(root: &mut Reader, now: &ZonedDateTime, problems: &mut Vec<Problem>) -> Option<ZonedDateTime> {
    let text = root.get("now").and_then(Value::as_str).unwrap_or_default();
    if let Ok(pieces) = Pieces::parse(text.trim())
        && pieces.time_zone_annotation().is_none()
    {
        let Some(offset) = pieces.to_numeric_offset() else {
            let said = typed(&Value::String(text.to_owned()));
            let remedy = "Write its zone behind it, like 2026-12-10T09:00[Europe/Vienna].";
            problems.push(Problem::new("now", said, "a wall time with its zone", remedy));
            return None;
        };
        // An offset is its own zone: nothing here goes by where this machine stands.
        return read_time(root, "now", now, Toward::Past, problems).map(|at| at.with_time_zone(TimeZone::fixed(offset)));
    }
    read_time(root, "now", now, Toward::Past, problems)
}

/// The piece as read, before it becomes part of a request.
struct PieceRead {
    cut: Cut,
    portions: Vec<Portion>,
    scored: Option<BoughtScoring>,
    frozen: bool,
    bought_on: Option<Date>,
    use_by: Option<Date>,
    numbers: Numbers,
}

fn read_piece(root: &mut Reader, problems: &mut Vec<Problem>) -> Option<PieceRead> {
    let mut piece = root.object("piece", problems);
    let names: Vec<&str> = Cut::all().map(|c| c.id).collect();
    let before = problems.len();
    let said = piece.get("cut").and_then(Value::as_str).unwrap_or_default().to_owned();
    let cut = piece.named("cut", Cut::find, &names, problems);
    if let (None, Named::Cooked(why), Some(problem)) = (cut, named(&said), problems.last_mut()) {
        problem.remedy = format!("Take a raw piece: {why}.");
    }
    if cut.is_none() && problems.len() == before {
        problems.push(Problem::new("piece.cut", "nothing", names.join(", "), "Say which cut it is."));
    }
    let before = problems.len();
    let mut numbers = piece.numbers(problems);
    let weight = numbers.iter().find(|(row, _)| row.path == "piece.weight_g");
    let weight_refused = problems[before..].iter().any(|p| p.field == "piece.weight_g");
    if weight.is_none()
        && !weight_refused
        && let Some(row) = Field::at("piece.weight_g")
    {
        problems.push(Problem::new(row.path, "nothing", "a weight in grams, above 0", row.remedy));
    }
    let weight = weight.map(|(_, g)| *g);
    let scored = piece.named("scored", BoughtScoring::find, &BoughtScoring::NAMES, problems);
    // The packer's label: the sodium where it was read, else up to how much of a solution.
    let mut solution = piece.object("solution", problems);
    numbers.extend(solution.numbers(problems));
    solution.finish(problems);
    let frozen = piece.flag("frozen", problems);
    let bought_on = read_date(&mut piece, "bought_on", problems);
    let use_by = read_date(&mut piece, "use_by", problems);
    let portions = read_portions(&mut piece, weight, problems);
    piece.finish(problems);
    Some(PieceRead { cut: cut?, portions: portions?, scored, frozen, bought_on, use_by, numbers })
}

fn read_portions(piece: &mut Reader, weight: Option<f64>, problems: &mut Vec<Problem>) -> Option<Vec<Portion>> {
    let mut portions = Vec::new();
    for mut entry in piece.list("portions", 24, problems) {
        let weight = entry.number("weight_g", "a weight in grams, above 0", problems);
        // A portion's numbers go by the rows of the piece and its salt.
        let allowed = |path: &str| Field::at(path).map(Field::allowed).unwrap_or_default();
        let thickness = entry.number("salt_thickness_mm", &allowed("piece.salt_thickness_mm"), problems).map(millimetres);
        let dose = entry.number("g_per_kg", &allowed("salt.g_per_kg"), problems).map(GramsPerKg);
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

/// What is said of the kitchen; an empty list of quiet hours is a kitchen without any.
fn read_kitchen(root: &mut Reader, numbers: &mut Numbers, problems: &mut Vec<Problem>) -> (Option<Quiet>, Hottest) {
    let mut kitchen = root.object("kitchen", problems);
    numbers.extend(kitchen.numbers(problems));
    let said = kitchen.get("quiet");
    let quiet = said.and_then(Value::as_array).and_then(|list| match list.as_slice() {
        [from, to] => Some(Quiet { from: wall(from)?, to: wall(to)? }),
        [] => Some(Quiet::NONE),
        _ => None,
    });
    if let (Some(value), None) = (said, quiet) {
        let allowed = "two wall times, like [\"22:30\", \"06:30\"], or none";
        problems.push(Problem::new("kitchen.quiet", typed(value), allowed, "Leave it out for the usual night."));
    }
    let heat = read_appliances(&mut kitchen, problems);
    kitchen.finish(problems);
    (quiet, heat)
}

fn wall(value: &Value) -> Option<WallTime> {
    value.as_str()?.trim().parse().ok()
}

fn read_date(from: &mut Reader, name: &'static str, problems: &mut Vec<Problem>) -> Option<Date> {
    let text = from.text(name, "a date like 2026-12-10", problems)?;
    let date = text.trim().parse().ok().filter(|date: &Date| (2000..=2199).contains(&date.year()));
    if date.is_none() {
        let said = typed(&Value::String(text.to_owned()));
        problems.push(Problem::new(from.field(name), said, "a date like 2026-12-10, 2000 to 2199", "Write year, month and day."));
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
        Ok(at) if in_calendar(at.timestamp()) => Some(at),
        Ok(at) => {
            problems.push(Problem::new(from.field(name), at.year().to_string(), "a year from 2000 to 2199", "Check the date."));
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
