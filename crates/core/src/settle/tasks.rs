//! Tasks of the cook's own: what can be said of them before anything is planned.

use crate::ask::{Added, Hung, HungAt, PlanRequest, Refusal, TaskAsk};
use crate::fire::{COOLS_MIN, kept_cooked};
use crate::method::{HANGS, StepKind, addable};
use crate::units::TimeIn;
use crate::words::plain;

/// Longest a task is made.
const LONGEST: f64 = 24.0 * 60.0;

/// Longest a job may wait for its minute, min.
const LATEST: f64 = 2880.0;
/// Nothing is done more often than that, min.
pub(crate) const OFTENEST: f64 = 0.5;

pub(crate) fn at(i: usize, field: &str) -> String {
    format!("tasks[{i}].{field}")
}

/// What the cook adds.
pub(crate) fn added(request: &PlanRequest) -> Vec<Added> {
    let added = |ask: &TaskAsk| {
        let kind = ask.kind().filter(|kind| addable(*kind))?;
        Some(Added { kind, at: ask.at, hung: ask.hung, takes: ask.takes })
    };
    request.tasks.iter().filter(|ask| !ask.leave_out).filter_map(added).collect()
}

/// Whether standing out is left out.
pub(crate) fn no_tempering(request: &PlanRequest) -> bool {
    request.tasks.iter().any(|ask| ask.leave_out && ask.kind() == Some(StepKind::Temper))
}

/// Everything that cannot be said of a task, each at its path.
pub(crate) fn refuse_tasks(request: &PlanRequest) -> Vec<Refusal> {
    let asked = &request.tasks;
    asked.iter().enumerate().filter_map(|(i, ask)| refuse(request, i, ask)).collect()
}

fn refuse(request: &PlanRequest, i: usize, ask: &TaskAsk) -> Option<Refusal> {
    let at = |field: &str| if field.is_empty() { format!("tasks[{i}]") } else { format!("tasks[{i}].{field}") };
    let Some(kind) = ask.kind() else {
        let names: Vec<&str> = StepKind::ALL.iter().map(|kind| kind.id()).collect();
        let typed = format!("“{}”", ask.task.chars().take(40).collect::<String>());
        return Some(Refusal::new(at("task"), typed, names.join(", "), "Take a task of this list, or of the plan, like dry-2."));
    };
    let said = [ask.takes.is_some(), ask.leave_out, ask.at.is_some(), ask.hung.is_some()].into_iter().filter(|said| *said).count();
    if ask.leave_out && said > 1 {
        return Some(Refusal::new(
            at("leave_out"),
            "left out, and more said of it",
            "one of them",
            "Left out, it has no minutes and no hour.",
        ));
    }
    let at_once = |other: &TaskAsk| (ask.at.is_none() && ask.hung.is_none()) || (other.at, other.hung) == (ask.at, ask.hung);
    if request.tasks[..i].iter().any(|other| other.task == ask.task && at_once(other)) {
        return Some(Refusal::new(at("task"), format!("{} twice", ask.task), "each task once", "Say all of a task in one place."));
    }
    if let Some((says, remedy)) = elsewhere(kind).filter(|_| !(kind == StepKind::Temper && ask.leave_out)) {
        return Some(Refusal::new(at("task"), ask.task.clone(), says, remedy));
    }
    if kind == StepKind::Temper && request.fire.temper.is_some_and(|t| t.in_min() > 0.0) {
        return Some(Refusal::new(at("leave_out"), "left out, and its minutes said", "one of them", "Leave out fire.temper_min, or this."));
    }
    if ask.leave_out && never_left_out(kind) {
        return Some(Refusal::new(
            at("leave_out"),
            format!("{} left out", kind.id()),
            "a task that can be done without",
            "Give it fewer minutes, or 0.",
        ));
    }
    let (least, most, remedy) = match kind {
        StepKind::Cool => (10.0, COOLS_MIN[2], "From the heat to the refrigerator within two hours."),
        StepKind::ChillCooked => (60.0, kept_cooked()[2].in_min(), "Cooked it keeps three days."),
        _ => (0.0, LONGEST, "Say how many minutes it takes you."),
    };
    if let Some(takes) = ask.takes.filter(|t| !(least..=most).contains(&t.in_min())) {
        let typed = format!("{} min", plain(takes.in_min()));
        return Some(Refusal::new(at("minutes"), typed, format!("{least:.0} to {most:.0} min"), remedy));
    }
    if let Some(hung) = &ask.hung {
        return refuse_hung(request, i, ask, kind, hung);
    }
    match (in_the_cold(kind), ask.at) {
        (false, Some(h)) => {
            let typed = format!("{} after {} h in the cold", kind.id(), plain(h.in_h()));
            Some(Refusal::new(at("at_h"), typed, "turn or wipe", "What is done elsewhere has its own hour; leave at_h out."))
        }
        (true, None) if !ask.leave_out && ask.takes.is_none() => {
            let remedy = "Say when, like 12; in the heat it is at_min, at_core_c or every_min.";
            Some(Refusal::new(at("at_h"), "no hour", "hours after it went into the cold", remedy))
        }
        (true, Some(h)) if !(0.0..=336.0).contains(&h.in_h()) => {
            let typed = format!("after {} h", plain(h.in_h()));
            Some(Refusal::new(at("at_h"), typed, "0 h to as long as it lies in the cold", "Count from when it goes into the refrigerator."))
        }
        _ if said == 0 && !addable(kind) => {
            let remedy = "Say its minutes, or leave it out with \"leave_out\": true.";
            Some(Refusal::new(at(""), format!("{} and nothing of it", kind.id()), "minutes, leave_out or at_h", remedy))
        }
        _ => None,
    }
}

fn in_the_cold(kind: StepKind) -> bool {
    matches!(kind, StepKind::Turn | StepKind::Wipe)
}

/// Tasks whose length is said in a field of their own.
fn elsewhere(kind: StepKind) -> Option<(&'static str, &'static str)> {
    Some(match kind {
        StepKind::Chill => ("hours", "How long it lies in the cold is said in hours."),
        StepKind::Thaw => ("piece.frozen", "A thaw takes what the ice takes."),
        StepKind::Roast | StepKind::Grill | StepKind::Sear => ("fire.stages", "Stages of the heat are said there."),
        StepKind::Temper => ("fire.temper_min", "The time out of the refrigerator is said there."),
        StepKind::Preheat => ("fire.preheat_min", "How long the heat comes up is said there."),
        StepKind::Rest => ("fire.rest_min", "The rest is said there."),
        StepKind::Hold => ("fire.hold_h", "How long it may wait is said there."),
        StepKind::Score | StepKind::Pierce | StepKind::Groove => ("skin", "What knife and pick do is said there."),
        StepKind::Marinate | StepKind::Drain | StepKind::Season => ("ledger", "What goes on besides the salt is said there."),
        StepKind::HeatAgain => ("fire.again", "The second heat is said there."),
        StepKind::CoverOn | StepKind::CoverOff => ("salt.cover", "Salt on the skin as a tool is said there."),
        _ => return None,
    })
}

/// Without these it is another dish, or nobody is safe.
fn never_left_out(kind: StepKind) -> bool {
    matches!(
        kind,
        StepKind::Salt
            | StepKind::Wash
            | StepKind::BrushDry
            | StepKind::Uncover
            | StepKind::Wrap
            | StepKind::Carve
            | StepKind::Cool
            | StepKind::ChillCooked
    )
}

/// What can be said of a hung job before the heat is known.
pub(crate) fn refuse_hung(request: &PlanRequest, i: usize, ask: &TaskAsk, kind: StepKind, hung: &Hung) -> Option<Refusal> {
    let said = match hung.at {
        HungAt::Minute(_) => "at_min",
        HungAt::Core(_) => "at_core_c",
        HungAt::Begins | HungAt::Ends => "at",
    };
    if !HANGS.contains(&kind) {
        let names: Vec<&str> = HANGS.iter().map(|kind| kind.id()).collect();
        let typed = format!("{} at the heat", kind.id());
        return Some(Refusal::new(at(i, said), typed, names.join(", "), "These are done at the heat; leave the hour out of the others."));
    }
    if ask.leave_out {
        return Some(Refusal::new(at(i, "leave_out"), "left out, and its hour said", "one of them", "Left out, it has no hour."));
    }
    if ask.at.is_some() {
        let remedy = "Say two tasks: one in the cold with at_h, one at the heat.";
        return Some(Refusal::new(at(i, "at_h"), "an hour in the cold and one at the heat", "one of them", remedy));
    }
    if let HungAt::Minute(min) = hung.at
        && !(0.0..=LATEST).contains(&min.in_min())
    {
        let typed = format!("after {} min", plain(min.in_min()));
        return Some(Refusal::new(
            at(i, "at_min"),
            typed,
            format!("0 to {LATEST:.0} min"),
            "Count from when it goes into the heat, or the stage begins.",
        ));
    }
    if let Some(every) = hung.every.filter(|every| !(OFTENEST..=LATEST).contains(&every.in_min())) {
        let typed = format!("every {} min", plain(every.in_min()));
        return Some(Refusal::new(at(i, "every_min"), typed, format!("{OFTENEST} to {LATEST:.0} min"), "Say minutes, like 30."));
    }
    if hung.every.is_some() && hung.at == HungAt::Ends {
        let remedy = "Say from when on, or leave every_min out.";
        return Some(Refusal::new(at(i, "every_min"), "again and again after the end", "from its beginning, a minute or a core", remedy));
    }
    let stages = request.fire.stages.as_ref().map_or(usize::MAX, Vec::len);
    hung.stage.filter(|stage| *stage >= stages).map(|stage| no_stage(i, stage, stages))
}

pub(crate) fn no_stage(i: usize, stage: usize, stages: usize) -> Refusal {
    let (typed, allowed) = (stage.to_string(), format!("0 to {}", stages.saturating_sub(1)));
    Refusal::new(at(i, "stage"), typed, allowed, "Stages are counted from 0, as in fire.stages.")
}
