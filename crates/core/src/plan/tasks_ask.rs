//! Tasks of the cook's own: added, lengthened, shortened, left out.

use super::hung_ask::wood_of_the_fire;
use crate::ask::{FaceMix, PlanRequest, Refusal, TaskAsk};
use crate::method::StepKind;
use crate::units::{Time, TimeIn};
use crate::words::plain;
use crate::work::Step;

/// Whether something is said of this step: by its own name, or by its kind, which means all of that kind.
fn names(ask: &TaskAsk, step: &Step) -> bool {
    StepKind::find(&ask.task).map_or(step.id == ask.task, |kind| kind == step.kind)
}

/// Steps as the cook wants them: without what is left out, each as long as was said.
pub(super) fn as_asked(request: &PlanRequest, mut steps: Vec<Step>) -> Vec<Step> {
    for ask in &request.tasks {
        if ask.leave_out {
            drop_step(&mut steps, ask);
        } else if let Some(takes) = ask.takes.filter(|_| ask.hung.is_none()) {
            for step in steps.iter_mut().filter(|step| names(ask, step)) {
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
        let there = nothing || steps.iter().any(|step| names(ask, step));
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
    while let Some(i) = steps.iter().position(|step| names(ask, step)) {
        let gone = steps.remove(i);
        for step in steps.iter_mut().filter(|step| step.after.contains(&gone.id)) {
            step.after.retain(|id| *id != gone.id);
            step.after.extend(gone.after.iter().cloned());
        }
        steps.retain(|step| step.beside.as_ref() != Some(&gone.id));
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
