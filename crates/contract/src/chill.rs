//! What a request says of the refrigerator rest: how it lies, whose hours, until what, and what was done already.

use crate::problem::Problem;
use crate::reader::{Numbers, Reader};
use crate::request::read_time;
use jiff::ZonedDateTime;
use rauchkeller_core::ask::{BrushedOff, Done, HoursFrom};
use rauchkeller_core::clock::Toward;
use rauchkeller_core::method::{Method, StepKind};
use rauchkeller_core::skin::drying::FridgePlacement;
use rauchkeller_core::units::grams;

/// The rest as read.
pub(crate) struct ChillRead {
    pub(crate) done: Vec<Done>,
    pub(crate) brushed_off: Vec<BrushedOff>,
    pub(crate) lies: Option<FridgePlacement>,
    pub(crate) hours_from: HoursFrom,
}

/// Stable name of salt that came off again, among the things done.
const BRUSH_OFF: &str = "brush-off";

pub(crate) fn read_chill(
    root: &mut Reader,
    (now, method): (&ZonedDateTime, Option<&Method>),
    numbers: &mut Numbers,
    problems: &mut Vec<Problem>,
) -> ChillRead {
    let (done, brushed_off) = read_done(root, (now, method), problems);
    let names: Vec<&str> = FridgePlacement::ALL.iter().map(|l| l.id()).collect();
    let lies = root.named("lies", FridgePlacement::find, &names, problems);
    let hours_from = root.named("hours_from", HoursFrom::find, &HoursFrom::NAMES, problems).unwrap_or_default();
    read_goal(root, numbers, problems);
    ChillRead { done, brushed_off, lies, hours_from }
}

fn read_goal(root: &mut Reader, numbers: &mut Numbers, problems: &mut Vec<Problem>) {
    let mut goal = root.object("goal", problems);
    let said = goal.numbers(problems);
    goal.finish(problems);
    if let [(first, _), _, ..] = said.as_slice() {
        let typed = said.iter().map(|(row, value)| format!("{}: {value}", row.leaf())).collect::<Vec<_>>().join(", ");
        problems.push(Problem::new(first.path, typed, "one goal", "Keep the one that matters most; all of them are shown."));
    }
    numbers.extend(said.into_iter().take(1));
}

/// Every task of the longest document, and salt brushed off and laid on again.
pub(crate) const MOST_DONE: usize = 80;

fn read_done(
    root: &mut Reader,
    (now, method): (&ZonedDateTime, Option<&Method>),
    problems: &mut Vec<Problem>,
) -> (Vec<Done>, Vec<BrushedOff>) {
    let names: Vec<&str> = StepKind::ALL.iter().map(|k| k.id()).chain([BRUSH_OFF]).collect();
    let (mut done, mut brushed_off) = (Vec::new(), Vec::new());
    for mut entry in root.list("done", MOST_DONE, problems) {
        // A step of the kitchen, or salt that came off again.
        let step = |name: &str| if name == BRUSH_OFF { Some(None) } else { StepKind::find(name).map(Some) };
        // A task by its name, `salt` or `dry-2`, says its kind by itself.
        let task = entry.text("task", "the id of a task, like salt or dry-2", problems).map(str::to_owned);
        let kind = match &task {
            Some(task) if entry.get("kind").is_some() => {
                let remedy = "Leave one of them out.";
                problems.push(Problem::new(entry.field("task"), format!("{task}, and a kind"), "kind, or task", remedy));
                None
            }
            Some(task) => {
                let found = StepKind::of_task(task).or_else(|| method?.kind_of(task));
                if found.is_none() {
                    let said: String = task.chars().take(40).collect();
                    problems.push(Problem::new(entry.field("task"), said, names.join(", "), "Name a task of the plan, like salt."));
                }
                found.map(Some)
            }
            None => entry.named("kind", step, &names, problems),
        };
        let at = read_time(&mut entry, "at", now, Toward::Past, problems);
        let salt = entry.number("g", "grams of salt", problems).map(grams);
        if (kind.is_none() && task.is_none()) || at.is_none() {
            problems.push(Problem::new(entry.field("at"), "an incomplete entry", "a kind and a time", "Say what was done and when."));
        }
        if kind == Some(None) && salt.is_none() {
            problems.push(Problem::new(entry.field("g"), "nothing", "grams of salt that came off", "Weigh what came off the brush."));
        }
        entry.finish(problems);
        match (kind.zip(at), salt) {
            (Some((Some(kind), at)), salt) => done.push(Done { kind, task, at: at.timestamp(), salt }),
            (Some((None, at)), Some(salt)) => brushed_off.push(BrushedOff { at: at.timestamp(), salt }),
            _ => {}
        }
    }
    (done, brushed_off)
}
