//! Jobs that a cook hangs on the heat: what cannot be is refused, and what they do to the heat.

use crate::ask::{Hung, HungAt, PlanRequest, Refusal, TaskAsk};
use crate::fire::{FireStage, HeatPoint, HeatSource, How};
use crate::method::StepKind;
use crate::settle::{OFTENEST, added, at, no_stage};
use crate::units::{Time, TimeIn, minutes};
use crate::words;
use crate::words::plain;
use crate::work::{NeverDue, due, opens_every};

/// Refuses jobs that never come due in this heat, each at what was said of it.
pub(super) fn never_due(request: &PlanRequest, stages: &[FireStage], takes: &[Time], curve: &[HeatPoint]) -> Result<(), Vec<Refusal>> {
    let never = |(i, ask): (usize, &TaskAsk)| {
        let hung = ask.hung.as_ref().filter(|_| !ask.leave_out)?;
        if let Some(refused) = turned_by_its_core(i, ask, hung, stages) {
            return Some(refused);
        }
        Some(match due(hung, takes, curve).err()? {
            NeverDue::Stage(stages) => no_stage(i, hung.stage.unwrap_or_default(), stages),
            NeverDue::Minute(lasts) => {
                let typed = if let HungAt::Minute(min) = hung.at { format!("after {} min", plain(min.in_min())) } else { String::new() };
                let allowed = format!("0 to {:.0} min: so long it lasts", lasts.in_min());
                Refusal::new(at(i, "at_min"), typed, allowed, "Make it sooner, or the heat longer.")
            }
            NeverDue::Core(from, to) => {
                let typed = if let HungAt::Core(core) = hung.at { format!("a core of {} °C", words::c(core)) } else { String::new() };
                let allowed = format!("above {} and up to {} °C: so the core goes in it", words::c(from), words::c(to));
                Refusal::new(at(i, "at_core_c"), typed, allowed, "Take a core that it comes to in the heat.")
            }
            NeverDue::TooOften(least) => {
                let typed = format!("every {} min", hung.every.map_or_else(String::new, |every| plain(every.in_min())));
                let allowed = format!("every {:.0} min or less often here", least.in_min());
                Refusal::new(at(i, "every_min"), typed, allowed, "Opened so often it never gets hot.")
            }
        })
    };
    let refused: Vec<Refusal> = request.tasks.iter().enumerate().filter_map(never).collect();
    if refused.is_empty() { Ok(()) } else { Err(refused) }
}

/// On what heats it from one side, when it is turned decides what the core is: that cannot wait for the core.
fn turned_by_its_core(i: usize, ask: &TaskAsk, hung: &Hung, stages: &[FireStage]) -> Option<Refusal> {
    let HungAt::Core(core) = hung.at else { return None };
    let here = |(n, stage): (usize, &FireStage)| hung.stage.is_none_or(|on| on == n) && stage.around().away.is_some();
    let one_sided = ask.kind() == Some(StepKind::Turn) && stages.iter().enumerate().any(here);
    one_sided.then(|| {
        let typed = format!("turned at {} °C", words::c(core));
        Refusal::new(
            at(i, "at_core_c"),
            typed,
            "at_min or every_min over direct heat and in a pan",
            "Say after how many minutes it is turned.",
        )
    })
}

/// What the jobs of a cook do to the stages: doors that are opened again and again, and what is turned over.
pub(super) fn at_the_stages(request: &PlanRequest, stages: &mut [FireStage]) {
    let jobs = added(request);
    for (i, stage) in stages.iter_mut().enumerate() {
        let here = |hung: Option<&Hung>| hung.and_then(|hung| hung.stage).is_none_or(|on| on == i);
        let on_it = || jobs.iter().filter(|job| here(job.hung.as_ref()));
        // What is covered is opened by its own tasks, and coals are fed under what lies open over them.
        let opened: f64 = on_it().filter_map(|job| opens_every(job.kind, job.hung.as_ref())).map(|every| 1.0 / every.in_min()).sum();
        if opened > 0.0 && stage.how == How::Open {
            stage.opened = Some(minutes(1.0 / opened));
        }
        let turned = on_it().filter(|job| job.kind == StepKind::Turn).filter_map(|job| job.hung);
        let often = turned.filter_map(|hung| hung.every.or(if let HungAt::Minute(min) = hung.at { Some(min) } else { None }));
        let often = often.filter(|every| every.in_min() >= OFTENEST).reduce(|a, b| if b < a { b } else { a });
        stage.flip = stage.flip.or(often.filter(|_| stage.around().away.is_some()));
    }
}

/// Whether this says that there is to be no wood on a fire that could have some.
pub(super) fn wood_of_the_fire(request: &PlanRequest, ask: &TaskAsk) -> bool {
    let burns = |with: HeatSource| matches!(with, HeatSource::Charcoal | HeatSource::Smoker | HeatSource::Grill | HeatSource::Spit);
    let method = request.the_method();
    let of_stages = request.fire.stages.iter().chain(&method.says.fire.stages).flatten().filter_map(|stage| stage.with);
    let mut all = of_stages.chain(request.fire.with).chain(method.says.fire.with);
    ask.leave_out && ask.kind() == Some(StepKind::Wood) && all.any(burns)
}

/// Whether there is to be no wood.
pub(super) fn no_wood(request: &PlanRequest) -> bool {
    request.tasks.iter().any(|ask| ask.leave_out && ask.kind() == Some(StepKind::Wood))
}
