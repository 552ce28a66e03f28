//! A kept plan as its run reads it.

use crate::mix_doc::MixOnDoc;
use crate::plan_doc::{PlanDoc, StepDoc};
use crate::request::read_kept;
use crate::written_out;
use jiff::{Timestamp, ZonedDateTime};
use rauchkeller_core::ask::PlanRequest;
use rauchkeller_core::clock::in_calendar;
use rauchkeller_core::method::{Place, SaltEffect, StepKind, TOP_UP, Tick};
use rauchkeller_core::plan::bath_follows_the_cold;
use rauchkeller_core::run::{RunBowl, RunPlan, RunTask};
use rauchkeller_core::skin::drying::Air;
use rauchkeller_core::units::{Share, both_mass, grams, hours, minutes};
use rauchkeller_core::work::Lasts;
use serde_json::Value;

/// A bowl to be weighed for a plan.
#[derive(Debug, Clone, PartialEq)]
pub struct BowlDoc {
    /// Its name: the face or the portion; `mix-…` for a mix, `top-up.…` for what makes up for missing grams.
    pub id: String,
    /// What a cook calls it.
    pub name: String,
    /// The salting it is for.
    pub task: String,
    /// What the scale is to show.
    pub target_g: f64,
    /// Whether it holds a mix.
    pub mix: bool,
    /// A mix besides: its place among them, and sodium chloride in a gram of it.
    pub besides: Option<(usize, f64)>,
}

/// One bowl a face that gets salt; of a dish in portions, one a portion. A mix has bowls of its own beside them,
/// each mix besides a bowl by itself.
pub fn bowls_of(plan: &PlanDoc) -> Vec<BowlDoc> {
    let dose = &plan.dose;
    let mix = dose.mix.as_ref();
    let salting = plan.steps.iter().map(StepDoc::task_id).rfind(|id| StepKind::of_task(id) == Some(StepKind::Salt));
    let task = salting.unwrap_or_else(|| "salt".to_owned());
    let before = if task == TOP_UP { format!("{TOP_UP}.") } else { String::new() };
    let bowl = |id: String, name: String, target_g: f64, mix: bool| {
        let marked = if mix { "mix-" } else { "" };
        BowlDoc { id: format!("{before}{marked}{id}"), name, task: task.clone(), target_g, mix, besides: None }
    };
    let mut all = Vec::new();
    // What it lies in is one bowl for all of it.
    if let Some(bath) = mix.filter(|mix| mix.bath_h.is_some()) {
        all.push(bowl("bath".into(), bath.name.clone(), bath.g, true));
    }
    let mix = mix.filter(|mix| mix.bath_h.is_none());
    if dose.portions.len() > 1 {
        for (i, p) in dose.portions.iter().enumerate() {
            let name = format!("portion {}, {}", i + 1, both_mass(grams(p.weight_g)).metric);
            if let Some(mix) = mix {
                let share = p.weight_g / plan.request.weight_g.max(1.0);
                all.push(bowl(format!("portion-{}", i + 1), format!("{name}: {}", mix.name), mix.g * share, true));
            }
            all.push(bowl(format!("portion-{}", i + 1), name, p.scale_g, false));
        }
    } else {
        for f in &dose.by_face {
            if let Some(mix) = mix {
                all.push(bowl(f.face.clone(), format!("{}: {}", f.name, mix.name), f.mix_g, true));
            }
            all.push(bowl(f.face.clone(), f.name.clone(), f.on_scale_g(), false));
        }
    }
    if before.is_empty() {
        all.extend(dose.mixes.iter().enumerate().filter_map(|(i, mix)| mix_besides(plan, i, mix)));
    }
    all.retain(|bowl| bowl.target_g >= 0.05);
    all
}

/// The bowl of a mix besides.
fn mix_besides(plan: &PlanDoc, which: usize, mix: &MixOnDoc) -> Option<BowlDoc> {
    let face = mix.face.as_deref().and_then(|id| plan.dose.by_face.iter().find(|face| face.face == id));
    let name = face.map_or_else(|| mix.name.clone(), |face| format!("{}: {}", face.name, mix.name));
    let besides = Some((which, mix.salt_g / mix.g.max(1e-9)));
    Some(BowlDoc { id: format!("mix-besides-{}", which + 1), name, task: mix.task.clone()?, target_g: mix.g, mix: true, besides })
}

impl StepDoc {
    /// The task's name; plans kept before tasks had names have each kind once.
    pub fn task_id(&self) -> String {
        if self.id.is_empty() { self.kind.clone() } else { self.id.clone() }
    }
}

/// An instant of a kept plan that cannot be read: what stands there instead.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("“{0}” stands where a moment should")]
pub struct NoInstant(pub String);

impl NoInstant {
    fn of(text: &str) -> Self {
        Self(text.chars().take(60).collect())
    }
}

/// An instant as plans write them, in the years 2000 to 2199.
fn instant(text: &str) -> Result<Timestamp, NoInstant> {
    let at = text.parse::<ZonedDateTime>().map_err(|_| NoInstant::of(text))?.timestamp();
    if in_calendar(at) { Ok(at) } else { Err(NoInstant::of(text)) }
}

/// Every instant a page shows of a plan can be read.
fn all_instants(plan: &PlanDoc) -> Result<(), NoInstant> {
    let fridge = &plan.fridge;
    let steps = plan.steps.iter().flat_map(|step| [&step.starts_at, &step.ends_at]);
    let stages = plan.fire.stages.iter().flat_map(|stage| [&stage.starts_at, &stage.ends_at]);
    let keeps = fridge.keeps_red.iter().chain(&fridge.keeps_amber);
    let all = steps.chain(stages).chain(keeps).chain([&plan.serve_at, &fridge.from, &fridge.to]);
    all.map(String::as_str).try_for_each(|text| instant(text).map(drop))
}

fn task(step: &StepDoc) -> Result<RunTask, NoInstant> {
    let id = step.task_id();
    let kind = StepKind::of_task(&id).or_else(|| StepKind::find(&step.kind)).unwrap_or(StepKind::Dry);
    let lasts = Lasts::find(&step.takes).unwrap_or(match kind {
        StepKind::Chill => Lasts::Elastic,
        StepKind::Roast | StepKind::Grill => Lasts::Until,
        _ => Lasts::Fixed,
    });
    Ok(RunTask {
        title: step.title.clone(),
        place: Place::find(&step.place).unwrap_or(Place::Bench),
        tick: match step.tick.as_str() {
            "begins" => Tick::Begins,
            "ends" => Tick::Ends,
            _ => kind.tick(),
        },
        lasts,
        beside: step.beside.clone().or_else(|| (kind == StepKind::Preheat).then(|| StepKind::Roast.id().to_owned())),
        starts: instant(&step.starts_at)?,
        ends: instant(&step.ends_at)?,
        hands_on: minutes(step.hands_on_min),
        salts: match kind {
            StepKind::Salt => Some(SaltEffect::On),
            StepKind::BrushDry => Some(SaltEffect::Off),
            _ => None,
        },
        id,
        kind,
    })
}

/// A bath that lasts as long as the cold lasts as long as was planned.
fn bathed_as_planned(request: PlanRequest, planned_h: f64) -> PlanRequest {
    let hours = if bath_follows_the_cold(&request) { request.hours.or(Some(hours(planned_h))) } else { request.hours };
    PlanRequest { hours, ..request }
}

/// A kept plan, its request as it was kept, and the refrigerator's air as it is known now. Refused where an instant of it cannot
/// be read: nothing is followed from a moment that nobody said.
pub fn run_plan(plan: &PlanDoc, request: &Value, version: u32, air: impl FnOnce(Air) -> Air) -> Result<RunPlan, NoInstant> {
    all_instants(plan)?;
    let fridge = &plan.fridge;
    let now = plan.request.now.parse::<ZonedDateTime>().ok();
    let read = now.and_then(|now| read_kept(&written_out(request, plan), &now)).map(|request| bathed_as_planned(request, fridge.planned_h));
    Ok(RunPlan {
        version,
        air: read.as_ref().map(|request| air(request.kitchen.fridge)),
        request: read,
        tasks: plan.steps.iter().map(task).collect::<Result<_, _>>()?,
        bowls: bowls_of(plan)
            .into_iter()
            .map(|b| RunBowl {
                id: b.id,
                name: b.name,
                task: b.task,
                target: grams(b.target_g),
                mix: b.mix,
                besides: b.besides.map(|(which, share)| (which, Share(share))),
            })
            .collect(),
        purity: Share(plan.request.salt_purity),
        // What a gram of it brings into the meat: of a bath most stays in the liquid.
        mix: plan.dose.mix.as_ref().filter(|mix| mix.g > 0.0).map(|mix| (grams(mix.g), Share(mix.salt_g / mix.g))),
        cold_to: instant(&fridge.to)?,
        hours: (hours(fridge.shortest_h), hours(fridge.longest_h)),
        serve_at: instant(&plan.serve_at)?,
    })
}
