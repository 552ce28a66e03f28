//! Reads a method of a request: its name, or a whole document.

use crate::fire::read_fire;
use crate::knife::read_skin;
use crate::problem::Problem;
use crate::reader::{Numbers, Reader, typed};
use crate::salting::{read_as, read_cover, read_faces, read_ledger_per_kg, read_mix_use, read_salt, read_shares};
use rauchkeller_core::ask::{FireRequest, PlanRequest, Refusal};
use rauchkeller_core::method::{Effects, Hands, Method, Place, SaltEffect, Says, School, Shows, StepKind, TaskRow, Wants, Words, methods};
use rauchkeller_core::piece::{Cut, Reshape};
use rauchkeller_core::plan::{MOST_TASK_ROWS, refuse_document};
use rauchkeller_core::salt::Basis;
use rauchkeller_core::skin::drying::FridgePlacement;
use rauchkeller_core::units::grams;
use serde_json::Value;

/// The method that was said; `None` where none was, or where it cannot be used. What a kept piece has as its `method_document` counts
/// for the name it was kept by, whatever the shipped one of that name says by now.
pub(crate) fn read_method(root: &mut Reader, problems: &mut Vec<Problem>) -> Option<Method> {
    let kept = root.get("method_document").filter(|kept| !kept.is_null());
    let said = root.get("method").filter(|said| !said.is_null());
    if let Some(document) = said.filter(|said| said.is_object()) {
        return read_document("method", document, problems);
    }
    if let Some(document) = kept.filter(|kept| said.is_none_or(|said| kept["id"] == *said)) {
        return read_document("method_document", document, problems);
    }
    let names: Vec<&str> = methods().iter().map(|method| method.id.as_ref()).collect();
    root.named("method", Method::find, &names, problems)
}

/// The method of a piece that was kept: what would be refused of its document today, or what only a newer version knows of it, is no
/// reason to go by another method.
pub(crate) fn read_kept_method(root: &mut Reader, problems: &mut Vec<Problem>) -> Option<Method> {
    let document = [("method", root.get("method")), ("method_document", root.get("method_document"))]
        .into_iter()
        .find_map(|(at, document)| Some((at, document.filter(|document| document.is_object())?)));
    let read = read_method(root, problems);
    let as_it_stands = |(at, document): (&'static str, &Value)| {
        let school = read_school(at, document, &mut Vec::new());
        (!school.id.is_empty() && !school.tasks.is_empty()).then(|| Method::from(school))
    };
    read.or_else(|| as_it_stands(document?))
}

/// Reads a document by itself, as a kitchen keeps it, or takes it in.
///
/// # Errors
/// Every problem, each at its path within the document.
pub fn read_way(document: &Value) -> Result<Method, Vec<Problem>> {
    if !document.is_object() {
        return Err(vec![Problem::new(
            "",
            typed(document),
            "a whole document, in braces",
            "Take in the file of one way, as it was given out.",
        )]);
    }
    let mut problems = Vec::new();
    let read = read_document("method", document, &mut problems);
    let within = |problem: Problem| {
        let field = problem.field.strip_prefix("method.").unwrap_or(&problem.field).to_owned();
        Problem { field, ..problem }
    };
    read.ok_or_else(|| problems.into_iter().map(within).collect())
}

/// The same of a way that is being changed: what is written is read, whether or not it hangs together yet.
pub fn read_draft(document: &Value) -> Option<School> {
    let mut problems = Vec::new();
    let school = read_school("method", document, &mut problems);
    (document.is_object() && problems.is_empty()).then_some(school)
}

/// A whole document, checked like a request: every problem at its path, all at once.
fn read_document(at: &'static str, document: &Value, problems: &mut Vec<Problem>) -> Option<Method> {
    let before = problems.len();
    let school = read_school(at, document, problems);
    let wrong = |refusal: Refusal| Problem::new(format!("{at}.{}", refusal.field), refusal.typed, refusal.allowed, refusal.remedy);
    problems.extend(refuse_document(&school).into_iter().map(wrong));
    (problems.len() == before).then(|| Method::from(school))
}

/// What a document says, as far as it can be read.
fn read_school(at: &'static str, document: &Value, problems: &mut Vec<Problem>) -> School {
    let mut doc = Reader::under(at, document, problems);
    if let Some(schema) = doc.number("schema", "1", problems).filter(|schema| (schema - 1.0).abs() > 1e-9) {
        problems.push(Problem::new(doc.field("schema"), schema.to_string(), "1", "This kitchen reads the first schema of documents."));
    }
    let id = words(&mut doc, "id", problems);
    let version = doc.number("version", "1 and up", problems).unwrap_or(1.0);
    if !(0.0..=1e6).contains(&version) || version.fract() != 0.0 {
        problems.push(Problem::new(
            doc.field("version"),
            version.to_string(),
            "a whole number, 1 and up",
            "Count it up when the document changes.",
        ));
    }
    let (name, why, source) = (words(&mut doc, "name", problems), words(&mut doc, "why", problems), words(&mut doc, "source", problems));
    let cuts = read_cuts(&mut doc, problems);
    let not = read_not(&mut doc, problems);
    let mut wants = doc.object("wants", problems);
    let wanted = Wants { crackling: wants.flag("crackling", problems), cold_rest: wants.flag("cold_rest", problems) };
    wants.finish(problems);
    let own_hours = read_three(&mut doc, "own_hours", "shortest, ideal, longest hours, like [12, 24, 48]", problems);
    let says = read_says(&mut doc, cuts.first().copied(), problems);
    let tasks = read_tasks(&mut doc, problems);
    // Where nobody says whether it wants a rest in the cold, its tasks do.
    let unsaid = document["wants"].get("cold_rest").is_none();
    let wanted = if unsaid { Wants { cold_rest: tasks.iter().any(|task| task.kind == StepKind::Chill), ..wanted } } else { wanted };
    doc.finish(problems);
    let own_hours = own_hours.map(|[shortest, ideal, longest]| (shortest, ideal, longest));
    School { id, version: version.clamp(0.0, 1e6) as u32, name, why, source, cuts, not, wants: wanted, own_hours, says, tasks }
}

/// The version of the shipped method, where that says something else than the document a request was kept with; `None` where they say
/// the same, where nothing is pinned, or where no method of that id is shipped. A document that cannot be read says something else.
pub fn newer_version(kept: &Value) -> Option<u32> {
    newer_than(kept, &Method::find(kept.get("method_document")?["id"].as_str()?)?)
}

/// The same beside a document of that id as it is now: a way of the household's own.
pub fn newer_than(kept: &Value, now: &Method) -> Option<u32> {
    let document = kept.get("method_document").filter(|document| document.is_object() && document["id"] == *now.id)?;
    let then = read_document("method_document", document, &mut Vec::new());
    then.is_none_or(|then| then != *now).then_some(now.version)
}

fn words(from: &mut Reader, name: &'static str, problems: &mut Vec<Problem>) -> Words {
    from.text(name, "a short text", problems).unwrap_or_default().to_owned().into()
}

fn some_words(from: &mut Reader, name: &'static str, problems: &mut Vec<Problem>) -> Option<Words> {
    from.text(name, "a short text, or null", problems).map(|text| text.to_owned().into())
}

fn read_cuts(doc: &mut Reader, problems: &mut Vec<Problem>) -> Vec<Cut> {
    let Some(value) = doc.get("cuts") else { return vec![] };
    let Some(list) = value.as_array().filter(|list| list.len() <= 200) else {
        problems.push(Problem::new(doc.field("cuts"), typed(value), "a list of cuts", "Name them, like [\"pork-belly\"]."));
        return vec![];
    };
    let mut cuts = Vec::new();
    for (i, said) in list.iter().enumerate() {
        let cut = said.as_str().and_then(Cut::find);
        if cut.is_none() {
            let remedy = "`rauchkeller list cuts` prints them.";
            problems.push(Problem::new(format!("{}[{i}]", doc.field("cuts")), typed(said), "a cut of the table", remedy));
        }
        cuts.extend(cut);
    }
    cuts
}

fn read_not(doc: &mut Reader, problems: &mut Vec<Problem>) -> Vec<(Cut, Words)> {
    let Some(value) = doc.get("not") else { return vec![] };
    let Some(fields) = value.as_object() else {
        problems.push(Problem::new(
            doc.field("not"),
            typed(value),
            "cuts with the reason",
            "Write it like { \"beef-rib-steak\": \"no skin\" }.",
        ));
        return vec![];
    };
    let mut not = Vec::new();
    for (id, why) in fields.iter().take(200) {
        let shown: String = id.chars().take(60).collect();
        match (Cut::find(id), why.as_str()) {
            (Some(cut), Some(why)) => not.push((cut, Words::from(why.to_owned()))),
            (None, _) => {
                let remedy = "`rauchkeller list cuts` prints them.";
                problems.push(Problem::new(format!("method.not.{shown}"), shown.clone(), "a cut of the table", remedy));
            }
            (_, None) => problems.push(Problem::new(format!("method.not.{shown}"), typed(why), "a reason", "Write it in quotes.")),
        }
    }
    not
}

/// Three numbers, or one that stands for all three.
fn read_three(from: &mut Reader, name: &'static str, allowed: &str, problems: &mut Vec<Problem>) -> Option<[f64; 3]> {
    let value = from.get(name)?;
    let numbers = match value {
        Value::Number(one) => one.as_f64().map(|one| vec![one; 3]),
        Value::Array(list) => list.iter().map(Value::as_f64).collect(),
        _ => None,
    };
    let three = numbers.filter(|numbers| numbers.iter().all(|n| n.is_finite() && n.abs() < 1e9)).and_then(|n| <[f64; 3]>::try_from(n).ok());
    if three.is_none() {
        problems.push(Problem::new(from.field(name), typed(value), allowed, "Write three plain numbers."));
    }
    three
}

/// The fields of a request that a document says itself.
fn read_says(doc: &mut Reader, cut: Option<Cut>, problems: &mut Vec<Problem>) -> Says {
    let mut numbers = Numbers::new();
    let mut salt = doc.object("salt", problems);
    numbers.extend(salt.numbers(problems));
    let bare_skin = salt.flag("skin_bare", problems);
    let kind = read_salt(&mut salt, problems);
    let basis = salt.named("basis", Basis::find, &Basis::NAMES, problems);
    let rule = read_as(&mut salt, kind.as_ref(), problems);
    let shares = read_shares(&mut salt, problems);
    let faces = read_faces(&mut salt, problems);
    let cover = read_cover(&mut salt, &mut numbers, problems);
    salt.finish(problems);
    let mix = read_mix_use(doc, &mut numbers, problems);
    let ledger = read_ledger_per_kg(doc, problems);
    let knife = read_skin(doc, problems);
    let names: Vec<&str> = FridgePlacement::ALL.iter().map(|lies| lies.id()).collect();
    let lies = doc.named("lies", FridgePlacement::find, &names, problems);
    let fire = read_fire(doc, &mut numbers, problems);
    // Its numbers go by the rows of a request, written into one of its own.
    let mut request = PlanRequest::new(cut.unwrap_or_else(any_cut), grams(1000.0), any_day());
    (request.cover, request.mix, request.fire) = (cover, mix, FireRequest::clone(&fire));
    for (row, number) in numbers {
        if let Some(refusal) = row.refuse(format!("method.{}", row.path), number) {
            problems.push(Problem::new(refusal.field.into_owned(), refusal.typed, refusal.allowed, refusal.remedy));
        }
        (row.put)(&mut request, number);
    }
    let dose = request.dose.or(rule);
    Says {
        salt: kind,
        basis,
        shares,
        dose,
        bare_skin,
        faces,
        cover: request.cover,
        mix: request.mix,
        ledger,
        knife,
        lies,
        fire: request.fire,
    }
}

fn any_cut() -> Cut {
    Cut::all().next().expect("the table of cuts has rows")
}

fn any_day() -> jiff::ZonedDateTime {
    jiff::Timestamp::UNIX_EPOCH.to_zoned_datetime(jiff::tz::TimeZone::UTC)
}

fn read_tasks(doc: &mut Reader, problems: &mut Vec<Problem>) -> Vec<TaskRow> {
    let count = doc.get("tasks").and_then(Value::as_array).map_or(0, Vec::len);
    if count > MOST_TASK_ROWS {
        let typed = format!("{count} tasks");
        problems.push(Problem::new(
            doc.field("tasks"),
            typed,
            format!("1 to {MOST_TASK_ROWS} tasks"),
            "Write down the work, from the board to the table.",
        ));
        return vec![];
    }
    let mut tasks: Vec<TaskRow> = Vec::new();
    for task in doc.list("tasks", MOST_TASK_ROWS, problems) {
        let before = tasks.iter().rfind(|task| task.beside.is_none()).map(|task| task.id.clone());
        tasks.extend(read_task(task, before, problems));
    }
    tasks
}

fn read_task(mut task: Reader, before: Option<Words>, problems: &mut Vec<Problem>) -> Option<TaskRow> {
    let given = task.get("task").is_some();
    let kinds: Vec<&str> = StepKind::ALL.iter().map(|kind| kind.id()).collect();
    let kind = task.named("task", StepKind::find, &kinds, problems);
    if !given {
        problems.push(Problem::new(task.field("task"), "nothing", kinds.join(", "), "Say what is done."));
    }
    let usual = kind.map(TaskRow::usual);
    let id = some_words(&mut task, "id", problems).or_else(|| Some(kind?.id().into()));
    let beside = some_words(&mut task, "beside", problems);
    // Left out, it comes after the task written before it.
    let after = match read_list(&mut task, "after", problems) {
        Some(after) => after,
        None if beside.is_none() => before.into_iter().collect(),
        None => vec![],
    };
    let place = task.named("place", Place::find, &Place::ALL.map(Place::id), problems);
    let minutes = read_three(&mut task, "minutes", "shortest, usual, longest minutes, like [2, 3, 10]", problems);
    let hands = |word: &str| match word {
        "clean" => Some(Hands::Clean),
        "raw" => Some(Hands::Raw),
        _ => None,
    };
    let hands = task.named("hands", hands, &["clean", "raw"], problems);
    let hands_on = task.number("hands_on_min", "minutes, from 0 up", problems);
    let at_h = task.number("at_h", "hours after it went into the cold", problems);
    let needs = read_list(&mut task, "needs", problems).unwrap_or_default();
    let (title, detail, until) =
        (some_words(&mut task, "title", problems), some_words(&mut task, "detail", problems), some_words(&mut task, "until", problems));
    let figure = task.named("figure", Shows::find, &Shows::NAMED.map(|(_, name)| name), problems);
    let effects = read_effects(&mut task, usual.as_ref().map(|usual| usual.effects).unwrap_or_default(), problems);
    let cautions = read_list(&mut task, "cautions", problems);
    task.finish(problems);
    let usual = usual?;
    Some(TaskRow {
        id: id?,
        kind: usual.kind,
        after,
        beside,
        at_h,
        place,
        minutes,
        until,
        hands_on,
        hands,
        needs,
        title,
        detail,
        figure,
        effects,
        cautions: cautions.unwrap_or(usual.cautions),
    })
}

fn read_list(task: &mut Reader, name: &'static str, problems: &mut Vec<Problem>) -> Option<Vec<Words>> {
    let value = task.get(name)?;
    let list = value.as_array().filter(|list| list.len() <= 30);
    let names = list.and_then(|list| list.iter().map(|item| item.as_str().map(|text| Words::from(text.to_owned()))).collect());
    if names.is_none() {
        problems.push(Problem::new(task.field(name), typed(value), "a list of at most 30 texts", "Write it like [\"chill\"]."));
    }
    names
}

fn read_effects(task: &mut Reader, usual: Effects, problems: &mut Vec<Problem>) -> Effects {
    if task.get("effects").is_none() {
        return usual;
    }
    let mut effects = task.object("effects", problems);
    let salt = |word: &str| match word {
        "on" => Some(SaltEffect::On),
        "off" => Some(SaltEffect::Off),
        _ => None,
    };
    let lies: Vec<&str> = FridgePlacement::ALL.iter().map(|lies| lies.id()).collect();
    let shapes: Vec<&str> = Reshape::ALL.iter().map(|shape| shape.id()).collect();
    let read = Effects {
        // What a kind does to salt it does, said or not.
        salt: effects.named("salt", salt, &["on", "off"], problems).or(usual.salt),
        lies: effects.named("lies", FridgePlacement::find, &lies, problems),
        shape: effects.named("shape", Reshape::find, &shapes, problems),
        opens_lean: effects.flag("opens_lean", problems),
    };
    effects.finish(problems);
    read
}
