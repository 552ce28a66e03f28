//! Tasks of the cook's own: added, lengthened, shortened, left out.

use super::hung_ask::{refuse_hung, wood_of_the_fire};
use crate::ask::{Added, FaceMix, PlanRequest, Refusal, TaskAsk};
use crate::fire::{COOLS_MIN, kept_cooked};
use crate::method::{StepKind, addable};
use crate::units::{Time, TimeIn};
use crate::words::plain;
use crate::work::Step;

/// Longest a task is made.
const LONGEST: f64 = 24.0 * 60.0;

/// What the cook adds.
pub(super) fn added(request: &PlanRequest) -> Vec<Added> {
    let added = |ask: &TaskAsk| {
        let kind = ask.kind().filter(|kind| addable(*kind))?;
        Some(Added { kind, at: ask.at, hung: ask.hung, takes: ask.takes })
    };
    request.tasks.iter().filter(|ask| !ask.leave_out).filter_map(added).collect()
}

/// Whether standing out is left out.
pub(super) fn no_tempering(request: &PlanRequest) -> bool {
    request.tasks.iter().any(|ask| ask.leave_out && ask.kind() == Some(StepKind::Temper))
}

/// Steps as the cook wants them: without what is left out, each as long as was said.
pub(super) fn as_asked(request: &PlanRequest, mut steps: Vec<Step>) -> Vec<Step> {
    for ask in &request.tasks {
        if ask.leave_out {
            drop_step(&mut steps, ask);
        } else if let Some(takes) = ask.takes.filter(|_| ask.hung.is_none()) {
            for step in steps.iter_mut().filter(|step| ask.names(step)) {
                // Hands are in it throughout, or as long as they were.
                let throughout = (step.hands_on - step.takes).in_s().abs() < 0.5;
                step.hands_on = if throughout || step.hands_on > takes { takes } else { step.hands_on };
                step.takes = takes;
            }
        }
    }
    steps
}

/// Tasks that this plan has not: what is asked of them would change nothing.
pub(super) fn not_in_the_plan(request: &PlanRequest, steps: &[Step]) -> Result<(), Vec<Refusal>> {
    let missing = |(i, ask): (usize, &TaskAsk)| {
        let nothing = ask.kind() == Some(StepKind::Temper) || wood_of_the_fire(request, ask);
        let there = nothing || steps.iter().any(|step| ask.names(step));
        let names: Vec<&str> = steps.iter().map(|step| step.id.as_ref()).collect();
        let refusal =
            || Refusal::new(format!("tasks[{i}].task"), ask.task.clone(), names.join(", "), "This plan has no such task; take one of it.");
        (!there).then(refusal)
    };
    let refused: Vec<Refusal> = request.tasks.iter().enumerate().filter_map(missing).collect();
    if refused.is_empty() { Ok(()) } else { Err(refused) }
}

/// What came after it comes after what it came after.
fn drop_step(steps: &mut Vec<Step>, ask: &TaskAsk) {
    while let Some(i) = steps.iter().position(|step| ask.names(step)) {
        let gone = steps.remove(i);
        for step in steps.iter_mut().filter(|step| step.after.contains(&gone.id)) {
            step.after.retain(|id| *id != gone.id);
            step.after.extend(gone.after.iter().cloned());
        }
        steps.retain(|step| step.beside.as_ref() != Some(&gone.id));
    }
}

/// Everything that cannot be said of a task, each at its path.
pub(super) fn refuse_tasks(request: &PlanRequest) -> Vec<Refusal> {
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

/// What lies in the cold no longer when it is to be turned or wiped.
pub(super) fn too_late_in_the_cold(request: &PlanRequest, planned: Time) -> Result<(), Vec<Refusal>> {
    let late = |(i, ask): (usize, &TaskAsk)| {
        let at = ask.at.filter(|at| *at > planned)?;
        let (typed, allowed) =
            (format!("after {} h", plain(at.in_h())), format!("0 to {} h: so long it lies in the cold", plain(planned.in_h())));
        Some(Refusal::new(format!("tasks[{i}].at_h"), typed, allowed, "Make it sooner, or the stay longer."))
    };
    let later = |mix: &FaceMix| {
        let at = mix.at.filter(|at| *at > planned)?;
        let (typed, allowed) =
            (format!("after {} h", plain(at.in_h())), format!("0 to {} h: so long it lies in the cold", plain(planned.in_h())));
        Some(Refusal::new(format!("mixes[{}].at_h", mix.said), typed, allowed, "Put it on sooner, or make the stay longer."))
    };
    let mut refused: Vec<Refusal> = request.tasks.iter().enumerate().filter_map(late).collect();
    refused.extend(request.mixes.iter().filter_map(later));
    if refused.is_empty() { Ok(()) } else { Err(refused) }
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
