//! A method's document checked like a request: everything that cannot be, each at its path, in a cook's words.

use crate::ask::{PlanRequest, Refusal, refuse_fire};
use crate::caution::is_known_caution;
use crate::fire::{COOLS_MIN, kept_cooked};
use crate::method::{SaltEffect, School, StepKind, TaskRow, addable, in_order, is_said_as_it_stands, usual_title};
use crate::salt::{DoseLevel, dose_level};
use crate::units::{TimeIn, grams, hours};
use crate::words::plain;
use std::borrow::Cow;

/// Most tasks of one document.
pub const MOST_TASK_ROWS: usize = 60;
/// Longest a task of one takes, min.
const LONGEST_MIN: f64 = 24.0 * 60.0;
/// Longest a text of one is, in letters.
const LONGEST_WORDS: usize = 600;

/// Everything of a document that cannot be; paths are those within it.
pub fn refuse_document(school: &School) -> Vec<Refusal> {
    let mut found = names(school);
    found.extend(cuts(school));
    // Without tasks nothing else of it hangs together.
    if (1..=MOST_TASK_ROWS).contains(&school.tasks.len()) {
        found.extend(cold(school));
        found.extend(says(school));
    }
    found.extend(rows(&school.tasks));
    found
}

/// `short-draw`: small letters, figures and single hyphens.
fn is_id(id: &str) -> bool {
    let part = |part: &str| !part.is_empty() && part.chars().all(|c| c.is_ascii_lowercase() || c.is_ascii_digit());
    id.len() <= 60 && id.split('-').all(part)
}

fn short(text: &str) -> String {
    let mut cut: String = text.chars().take(40).collect();
    if cut.len() < text.len() {
        cut.push('…');
    }
    if cut.is_empty() { "nothing".to_owned() } else { cut }
}

fn words(at: String, text: &str, most: usize) -> Option<Refusal> {
    let bad = text.trim().is_empty() || text.chars().count() > most || text.chars().any(char::is_control);
    bad.then(|| Refusal::new(at, short(text), format!("1 to {most} letters"), "Say it in a few words."))
}

fn names(school: &School) -> Vec<Refusal> {
    let mut found = Vec::new();
    if !is_id(&school.id) {
        found.push(Refusal::new("id", short(&school.id), "small letters, figures and hyphens, like short-draw", "Give it a short name."));
    }
    if school.version == 0 {
        found.push(Refusal::new("version", "0", "1 and up", "Count it up when the document changes."));
    }
    found.extend(words("name".into(), &school.name, 60));
    found.extend(words("why".into(), &school.why, LONGEST_WORDS));
    found.extend(words("source".into(), &school.source, 120));
    found
}

fn cuts(school: &School) -> Vec<Refusal> {
    let mut found = Vec::new();
    if school.cuts.is_empty() {
        found.push(Refusal::new("cuts", "no cut", "at least one cut", "Say what it is written for."));
    }
    for (cut, why) in &school.not {
        if school.cuts.contains(cut) {
            let typed = format!("{} in both lists", cut.id);
            found.push(Refusal::new(format!("not.{}", cut.id), typed, "a cut that it is not for", "Take it out of one of them."));
        }
        found.extend(words(format!("not.{}", cut.id), why, LONGEST_WORDS));
    }
    found
}

/// Hours and wishes of a cold that there is, or is not.
fn cold(school: &School) -> Vec<Refusal> {
    let mut found = Vec::new();
    let rests = school.rests_in_the_cold();
    if let Some((shortest, ideal, longest)) = school.own_hours {
        let typed = format!("{} / {} / {} h", plain(shortest), plain(ideal), plain(longest));
        if !(0.0 <= shortest && shortest <= ideal && ideal <= longest && longest <= 336.0) {
            let remedy = "Shortest, ideal, longest useful, in that order.";
            found.push(Refusal::new("own_hours", typed, "three numbers from 0 to 336 h, rising", remedy));
        } else if !rests {
            found.push(Refusal::new(
                "own_hours",
                typed,
                "no hours without a rest in the cold",
                "Add a stay in the refrigerator, or leave the hours out.",
            ));
        }
    }
    if let Some(lies) = school.says.lies.filter(|_| !rests) {
        let remedy = "Add a stay in the refrigerator, or leave it out.";
        found.push(Refusal::new("lies", lies.id(), "nothing, without a rest in the cold", remedy));
    }
    if school.wants.cold_rest != rests {
        let (typed, allowed, remedy) = if rests {
            ("no cold rest, and a task of it", "true, where it has a task chill", "Say that it wants one, or leave the task out.")
        } else {
            ("a cold rest, and no task of it", "a task chill", "Add a task chill, or say that it wants none.")
        };
        found.push(Refusal::new("wants.cold_rest", typed, allowed, remedy));
    }
    found
}

fn says(school: &School) -> Vec<Refusal> {
    let mut found = Vec::new();
    if let Some(dose) = school.says.dose.filter(|dose| dose_level(*dose) == DoseLevel::Refused) {
        let typed = format!("{} g/kg", plain(dose.0));
        found.push(Refusal::new("salt.g_per_kg", typed, "0 to 39.9 g/kg; 7.5 to 12.5 is usual", "Choose a dose you could eat."));
    }
    match (school.says.cover.is_some(), school.has(StepKind::CoverOn)) {
        (true, false) => {
            found.push(Refusal::new(
                "salt.cover",
                "a cover nobody lays on",
                "a cover with a task cover-on",
                "Add the task, or leave the cover out.",
            ));
        }
        (false, true) => {
            let i = school.tasks.iter().position(|task| task.kind == StepKind::CoverOn).unwrap_or_default();
            let remedy = "Say in salt.cover what it is: a draw, a crust, a bed or a scatter.";
            found.push(Refusal::new(format!("tasks[{i}].task"), "a cover of nothing", "cover-on with salt.cover said", remedy));
        }
        _ => {}
    }
    // The heat is checked as a request's is; of the cuts the first stands for all.
    if let Some(cut) = school.cuts.first() {
        let any_day = jiff::Timestamp::UNIX_EPOCH.to_zoned_datetime(jiff::tz::TimeZone::UTC);
        let request = PlanRequest { fire: school.says.fire.clone(), ..PlanRequest::new(*cut, grams(1000.0), any_day) };
        found.extend(refuse_fire(&request));
    }
    if school.says.fire.again.is_some() && !school.heats_again() {
        let remedy = "Add the tasks chill-cooked and heat-again, or leave it out.";
        found.push(Refusal::new("fire.again", "a second heat", "a task heat-again", remedy));
    }
    if let Some(bath) = school.says.mix.as_ref().and_then(|mix| mix.bath).filter(|bath| !(hours(0.1)..=hours(336.0)).contains(bath)) {
        let typed = format!("{} h", plain(crate::units::TimeIn::in_h(bath)));
        found.push(Refusal::new("mix.bath_h", typed, "0.1 to 336 h", "Say how long it lies in it."));
    }
    found
}

fn rows(tasks: &[TaskRow]) -> Vec<Refusal> {
    if tasks.is_empty() || tasks.len() > MOST_TASK_ROWS {
        let typed = if tasks.is_empty() { "no task".to_owned() } else { format!("{} tasks", tasks.len()) };
        return vec![Refusal::new(
            "tasks",
            typed,
            format!("1 to {MOST_TASK_ROWS} tasks"),
            "Write down the work, from the board to the table.",
        )];
    }
    let mut found: Vec<Refusal> = tasks.iter().enumerate().flat_map(|(i, _)| one_row(tasks, i)).collect();
    // What hangs together wrongly is looked for once every name is sound.
    if found.is_empty() {
        found.extend(together(tasks));
    }
    found
}

/// One task by itself.
fn one_row(tasks: &[TaskRow], i: usize) -> Vec<Refusal> {
    let task = &tasks[i];
    let at = |field: &str| format!("tasks[{i}].{field}");
    let mut found = Vec::new();
    if !is_id(&task.id) {
        found.push(Refusal::new(at("id"), short(&task.id), "small letters, figures and hyphens, like draw-on", "Give it a short name."));
    } else if tasks[..i].iter().any(|other| other.id == task.id) {
        found.push(Refusal::new(
            at("id"),
            format!("{} twice", task.id),
            "names that differ",
            "Call one of them something else, like dry-2.",
        ));
    }
    // `dry-2` is a dry; by any other name it would be taken for what it is not.
    if StepKind::of_task(&task.id).is_some_and(|kind| kind != task.kind) {
        let allowed = format!("a name of its own, or {}", task.kind.id());
        found.push(Refusal::new(at("id"), task.id.to_string(), allowed, "That is the name of another kind of task; call it otherwise."));
    }
    if task.beside.is_some() && !beside_another(task.kind) {
        let remedy = "It is part of the row: leave beside out, and say what it comes after.";
        found.push(Refusal::new(
            at("beside"),
            format!("{} beside another task", task.kind.id()),
            "a job beside the row, like baste or gravy",
            remedy,
        ));
    }
    found.extend(of_its_kind(task, at));
    let known = |id: &Cow<'static, str>| tasks.iter().any(|other| other.id == *id);
    for (n, id) in task.after.iter().enumerate() {
        if *id == task.id {
            found.push(Refusal::new(
                format!("tasks[{i}].after[{n}]"),
                format!("{id} after itself"),
                "another task",
                "Say what comes before it.",
            ));
        } else if !known(id) {
            found.push(Refusal::new(
                format!("tasks[{i}].after[{n}]"),
                short(id),
                "the id of a task of this document",
                "Name a task, or add it.",
            ));
        }
    }
    if let Some(id) = &task.beside {
        if !known(id) || *id == task.id {
            found.push(Refusal::new(
                at("beside"),
                short(id),
                "the id of another task of this document",
                "Name the task it is done beside.",
            ));
        } else if !task.after.is_empty() {
            found.push(Refusal::new(
                at("beside"),
                "beside one and after another",
                "one of them",
                "What is done beside stands in no row; leave after out.",
            ));
        }
    }
    found.extend(how_long(task, at));
    match (matches!(task.kind, StepKind::Turn | StepKind::Wipe), task.at_h) {
        (true, None) => found.push(Refusal::new(at("at_h"), "no hour", "hours after it went into the cold", "Say when, like 12.")),
        (true, Some(h)) if !(0.0..=336.0).contains(&h) => {
            found.push(Refusal::new(at("at_h"), format!("after {} h", plain(h)), "0 to 336 h", "Count from when it goes into the cold."));
        }
        (false, Some(h)) => {
            let typed = format!("{} after {} h", task.kind.id(), plain(h));
            found.push(Refusal::new(at("at_h"), typed, "turn or wipe", "What is done elsewhere has its own hour; leave at_h out."));
        }
        _ => {}
    }
    for (field, text) in [("title", &task.title), ("detail", &task.detail), ("until", &task.until)] {
        found.extend(text.as_ref().and_then(|text| words(at(field), text, LONGEST_WORDS)));
    }
    found.extend(task.needs.iter().enumerate().filter_map(|(n, need)| words(format!("tasks[{i}].needs[{n}]"), need, 60)));
    for (n, code) in task.cautions.iter().enumerate().filter(|(_, code)| !is_known_caution(code)) {
        found.push(Refusal::new(
            format!("tasks[{i}].cautions[{n}]"),
            short(code),
            crate::caution::task_caution_codes().join(", "),
            "Take one of these, or say it in the detail.",
        ));
    }
    found
}

/// Its minutes, and those of hands in it.
fn how_long(task: &TaskRow, at: impl Fn(&str) -> String) -> Vec<Refusal> {
    let mut found = Vec::new();
    if let Some([short, usual, long]) = task.minutes {
        let typed = format!("{} / {} / {} min", plain(short), plain(usual), plain(long));
        let most = longest_of(task.kind);
        if !(0.0 <= short && short <= usual && usual <= long && long <= most) {
            let allowed = format!("three numbers from 0 to {most:.0} min, rising");
            let remedy = match task.kind {
                StepKind::Cool => "From the heat to the refrigerator within two hours.",
                StepKind::ChillCooked => "Cooked it keeps three days; shortest, usual, longest, in that order.",
                _ => "Shortest, usual, longest, in that order.",
            };
            found.push(Refusal::new(at("minutes"), typed, allowed, remedy));
        }
    }
    let longest = task.minutes.map_or(longest_of(task.kind), |[_, _, long]| long);
    if let Some(hands) = task.hands_on.filter(|hands| !(0.0..=longest.max(0.0)).contains(hands)) {
        let allowed = format!("0 to {} min, no more than it takes", plain(longest.max(0.0)));
        found.push(Refusal::new(at("hands_on_min"), format!("{} min", plain(hands)), allowed, "Say how long hands are in it."));
    }
    found
}

/// Longest a task of this kind may be said to take, min: cooked meat cools within two hours and keeps three days (USDA FSIS).
fn longest_of(kind: StepKind) -> f64 {
    match kind {
        StepKind::Cool => COOLS_MIN[2],
        StepKind::ChillCooked => kept_cooked()[2].in_min(),
        _ => LONGEST_MIN,
    }
}

/// What follows from the kind of a task and is said otherwise.
fn of_its_kind(task: &TaskRow, at: impl Fn(&str) -> String) -> Vec<Refusal> {
    let mut found = Vec::new();
    let usual = TaskRow::usual(task.kind);
    if task.effects.salt != usual.effects.salt {
        let said = |salt: Option<SaltEffect>| match salt {
            Some(SaltEffect::On) => "on",
            Some(SaltEffect::Off) => "off",
            None => "nothing",
        };
        let (typed, allowed) = (format!("{} at {}", said(task.effects.salt), task.kind.id()), said(usual.effects.salt));
        let remedy = "Salt goes on with salt and cover-on, and off with cover-off and brush-dry: take one of those tasks.";
        found.push(Refusal::new(at("effects.salt"), typed, allowed, remedy));
    }
    if let Some(place) = task.place.filter(|_| !is_said_as_it_stands(task.kind)) {
        let typed = format!("{} at {}", place.id(), task.kind.id());
        let remedy = "Where that is done follows from what it is; leave place out.";
        found.push(Refusal::new(at("place"), typed, "no place for this task", remedy));
    }
    found
}

/// Whether a task of this kind can be done beside another: the heat coming up, what is left, and what a cook may add.
fn beside_another(kind: StepKind) -> bool {
    matches!(kind, StepKind::Preheat | StepKind::Leftovers) || addable(kind)
}

/// Kinds that come once at most.
const ONCE: [StepKind; 13] = [
    StepKind::Score,
    StepKind::Pierce,
    StepKind::Groove,
    StepKind::Chill,
    StepKind::Salt,
    StepKind::Temper,
    StepKind::Rest,
    StepKind::Hold,
    StepKind::Carve,
    StepKind::Preheat,
    StepKind::Cool,
    StepKind::ChillCooked,
    StepKind::HeatAgain,
];

/// Cooked ahead: what is chilled is heated again, in that order, between the heat and the rest.
fn ahead(ordered: &[&TaskRow], index: &impl Fn(&str) -> usize) -> Vec<Refusal> {
    let place = |kind: StepKind| ordered.iter().position(|task| task.kind == kind);
    let heat = ordered.iter().rposition(|task| task.kind == StepKind::Heat);
    let mut found = Vec::new();
    for (kind, wants) in [
        (StepKind::Cool, StepKind::ChillCooked),
        (StepKind::ChillCooked, StepKind::HeatAgain),
        (StepKind::HeatAgain, StepKind::ChillCooked),
    ] {
        if let (Some(at), None) = (place(kind), place(wants)) {
            let typed = format!("“{}” without “{}”", usual_title(kind), usual_title(wants));
            let allowed = "both, cooked, chilled and heated again";
            found.push(Refusal::new(format!("tasks[{}]", index(&ordered[at].id)), typed, allowed, "Add the other, or leave this one out."));
        }
    }
    let order = [StepKind::Cool, StepKind::ChillCooked, StepKind::HeatAgain, StepKind::Rest, StepKind::Hold, StepKind::Carve];
    let there: Vec<usize> = order.into_iter().filter_map(place).collect();
    if place(StepKind::ChillCooked).is_some() && found.is_empty() {
        let mut before = heat;
        for at in there {
            if before.is_some_and(|before| at < before) {
                let typed = format!("“{}” too early", usual_title(ordered[at].kind));
                let allowed = "the heat, cooling, the cold, the second heat, the rest, in that order";
                let path = format!("tasks[{}].after", index(&ordered[at].id));
                found.push(Refusal::new(path, typed, allowed, "Put it behind what comes before it."));
                break;
            }
            before = Some(at);
        }
    }
    found
}

/// Circles, ends, and tasks in an order nobody could work in.
fn together(tasks: &[TaskRow]) -> Vec<Refusal> {
    let index = |id: &str| tasks.iter().position(|task| task.id == id).unwrap_or_default();
    let ordered = match in_order(tasks) {
        Ok(ordered) => ordered,
        Err(first) => {
            let at = format!("tasks[{}].after", index(&first.id));
            let typed = format!("{} comes after a task that comes after it", first.id);
            return vec![Refusal::new(at, typed, "an order without a circle", "Take one of them out of after.")];
        }
    };
    let mut found = Vec::new();
    let ends: Vec<&&TaskRow> = ordered.iter().filter(|task| !ordered.iter().any(|other| other.after.contains(&task.id))).collect();
    for end in ends.iter().rev().skip(1) {
        let typed = format!("nothing comes after {}", end.id);
        let allowed = format!("one end, here {}", ends.last().map_or("", |last| &last.id));
        found.push(Refusal::new(format!("tasks[{}]", index(&end.id)), typed, allowed, "Name it in the after of what comes next."));
    }
    let place = |kind: StepKind| ordered.iter().position(|task| task.kind == kind);
    let last = |kind: StepKind| ordered.iter().rposition(|task| task.kind == kind);
    for kind in ONCE {
        for again in tasks.iter().filter(|task| task.kind == kind).skip(1) {
            let typed = format!("“{}” twice", usual_title(kind));
            found.push(Refusal::new(
                format!("tasks[{}].task", index(&again.id)),
                typed,
                "once",
                "Give the other stay or round a kind of its own.",
            ));
        }
    }
    let Some(heat) = place(StepKind::Heat) else {
        found.push(Refusal::new("tasks", "no heat", "a task that takes it into the heat", "Add one where it goes in."));
        return found;
    };
    found.extend(ahead(&ordered, &index));
    for kind in [StepKind::Chill, StepKind::Salt, StepKind::Temper, StepKind::LayOut] {
        if let Some(late) = place(kind).filter(|at| *at > heat) {
            let typed = format!("“{}” after the heat", usual_title(kind));
            let at = format!("tasks[{}].after", index(&ordered[late].id));
            found.push(Refusal::new(at, typed, "before the heat", "Put it before it goes into the heat."));
        }
    }
    for kind in [StepKind::Roast, StepKind::Grill, StepKind::Sear] {
        if let Some(stage) = tasks.iter().position(|task| task.kind == kind) {
            let remedy = "Stages are said in fire.stages; one task heat stands for all, or one each.";
            found.push(Refusal::new(format!("tasks[{stage}].task"), kind.id(), "heat", remedy));
        }
    }
    if let Some(on) = place(StepKind::CoverOn).filter(|on| last(StepKind::CoverOff).is_none_or(|off| off < *on)) {
        let typed = "salt that goes on and never comes off";
        let at = format!("tasks[{}]", index(&ordered[on].id));
        found.push(Refusal::new(at, typed, "salt on the skin that is taken off again later", "Add the task that takes it off."));
    }
    found
}
