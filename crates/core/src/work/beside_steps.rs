//! What is done beside the row: in the cold, in the heat, at the table. None of it takes time of the row.

use super::aside::{Aside, at_the_skin, beside_at, in_the_heat};
use super::hung::{core_at, core_reaches, hung, usually_hung};
use super::recipe::Recipe;
use super::step::{Beside, Moment, Phase, Step, figure, plain_step, step};
use crate::ask::Added;
use crate::fire::{HeatSource, How, Where};
use crate::method::{Hands, Place, StepKind, plain};
use crate::units::{Temperature, TemperatureIn, Time, TimeIn, hours, minutes};
use crate::words;

/// Basted from then on, and as often (TRADE 9.13).
pub const BASTE_MIN: f64 = 30.0;

/// A glaze goes on for the last 5 to 8 K (TRADE 9.13).
const GLAZE_K: f64 = 6.5;

/// Leftovers are cold so long after serving, h (USDA FSIS), and are seen to before that.
const LEFTOVERS_H: f64 = 2.0;

/// What the heat itself asks for: wrapping and opening, a shield for skin that is done first; and what is left, into the cold.
pub(super) fn asked_by_the_heat(recipe: &Recipe) -> Vec<Aside> {
    let stages = recipe.heat.stages;
    let mut found: Vec<Aside> = Vec::new();
    for (i, stage) in stages.iter().enumerate() {
        let was = i.checked_sub(1).map(|i| stages[i].how);
        match stage.how {
            How::Wrapped if was != Some(How::Wrapped) => {
                found.push(wrap(i, "Wrap it", "Tight, two layers, the seam up: what runs stays in.", "foil"));
            }
            How::LeafWrapped if was != Some(How::LeafWrapped) => {
                found.push(wrap(i, "Wrap it in leaves", "Two layers, tied.", "leaves, and string"));
            }
            How::Covered if was != Some(How::Covered) => {
                found.push(wrap(i, "Cover it", "A lid, or foil that does not touch the meat.", "a lid, or foil"));
            }
            now if was.is_some_and(How::is_closed) && !now.is_closed() => {
                let detail = "What has gathered inside stays in the tray.";
                found.push((Beside::Stage(i), in_the_heat(StepKind::Uncover, "Open it", Moment::In(minutes(0.0)), 1.0, detail)));
            }
            _ => {}
        }
    }
    if let Some(puffs) = recipe.heat.shield {
        found.extend(at_minute(recipe, puffs.in_min()).map(|(beside, moment)| (beside, skin_job(StepKind::Shield, moment))));
    }
    found
}

/// What is left goes into the cold in time.
pub(super) fn leftovers(recipe: &Recipe) -> Aside {
    let detail = "Heated again to 74 °C (165 °F).";
    let step = Step {
        phase: Phase::Beside,
        place: Place::Table,
        hands: Hands::Clean,
        // What is kept hot begins to cool only then.
        moment: Moment::Within(recipe.kept_hot.unwrap_or(minutes(0.0)) + hours(LEFTOVERS_H)),
        detail: detail.into(),
        ..step(StepKind::Leftovers, "Leftovers into the cold", minutes(5.0))
    };
    (Beside::Carving, step)
}

/// What is not eaten yet, kept hot from the meal on.
pub(super) fn kept_hot(recipe: &Recipe) -> Option<Aside> {
    let lasts = recipe.kept_hot?;
    let skin = if recipe.cut.skin_mm > 0.0 { " Skin does not stay crisp." } else { "" };
    let step = Step {
        phase: Phase::Beside,
        place: Place::HotHold,
        hands: Hands::Clean,
        hands_on: minutes(1.0),
        needs: vec!["probe".into()],
        moment: Moment::Within(lasts),
        detail: format!("At 60 °C (140 °F) or more, with a probe in it that says so; covered, and carved as it is asked for.{skin}"),
        ..step(StepKind::Hold, "Keep the rest of it hot", lasts)
    };
    Some((Beside::Carving, step))
}

/// What a cook adds: where it was hung on the heat, else at its usual time, or so many hours into the cold.
pub(super) fn added(recipe: &Recipe, task: &Added) -> Vec<Aside> {
    let Added { kind, at, takes, .. } = *task;
    if let Some(on) = task.hung.or_else(|| usually_hung(kind)) {
        return hung(recipe, kind, &on, takes);
    }
    let all = recipe.fire.takes.in_min();
    let place = recipe.targets.first().map_or("core", |t| t.at.id());
    let reads = recipe.targets.first().map_or(Where::Core, |t| t.at).reads();
    let core = |c: Temperature| Some(figure(words::c(c), reads));
    let once = |min: f64, step: &dyn Fn(Moment) -> Step| -> Vec<Aside> {
        at_minute(recipe, min).map(|(beside, moment)| (beside, step(moment))).into_iter().collect()
    };
    let table = |kind, title: &str, min, detail: &str| {
        let step = Step {
            phase: Phase::Beside,
            place: Place::Table,
            hands: Hands::Clean,
            moment: Moment::In(minutes(0.0)),
            detail: detail.into(),
            ..step(kind, title, minutes(min))
        };
        vec![(Beside::Carving, step)]
    };
    match kind {
        StepKind::Turn => cold(kind, at, "Turn it over", 1.0, "The other side up; the rack wiped where it lay wet."),
        StepKind::Wipe => {
            cold(kind, at, "Wipe it dry", 2.0, "Beads of water and wet salt off, with a clean towel. The towel is raw: throw it away.")
        }
        StepKind::Shield => once(all / 2.0, &|moment| skin_job(kind, moment)),
        StepKind::Look => {
            let now = core_at(recipe.heat.curve, all / 2.0);
            let stage = at_minute(recipe, all / 2.0).and_then(|(beside, _)| match beside {
                Beside::Stage(i) => recipe.heat.stages.get(i),
                Beside::Thaw | Beside::Cold | Beside::Carving | Beside::Again | Beside::Row(_) => None,
            });
            let looks = match stage.map(|stage| (stage.how, stage.with)) {
                Some((How::InLiquid, _)) => "It simmers and no more; turn it over in its liquid",
                Some((_, HeatSource::Oven | HeatSource::Grill | HeatSource::Smoker)) => "Colour and drip; turn the tray round",
                _ => "Colour and drip",
            };
            let detail = format!("{looks}. The probe shows about {} °C in the {place} by now, our estimate.", words::c(now));
            once(all / 2.0, &|moment| Step { figure: core(now), ..in_the_heat(kind, "Look halfway", moment, 1.0, &detail) })
        }
        StepKind::Baste => {
            let times = (all / BASTE_MIN - 1e-6).floor().min(8.0) as usize;
            (1..=times).flat_map(|n| once(BASTE_MIN * n as f64, &|moment| skin_job(kind, moment))).collect()
        }
        StepKind::Glaze => {
            let from = recipe.targets.first().map_or(recipe.fire.pull.in_c(), |t| t.pull.in_c()) - GLAZE_K;
            let min = core_reaches(recipe.heat.curve, from, 0.0).unwrap_or(all).min((all - 2.0).max(0.0));
            let detail = "In the last 5 to 8 °C, from the half that was set aside clean: sugar burns if it goes on sooner.";
            once(min, &|moment| Step { figure: core(crate::units::celsius(from)), ..in_the_heat(kind, "Glaze it", moment, 2.0, detail) })
        }
        StepKind::Scrape => once((all - 2.0).max(0.0), &|moment| skin_job(kind, moment)),
        StepKind::SliceTest => table(
            kind,
            "One slice, and look",
            1.0,
            "From the thick end: colour, juice, salt. Too red still? Back into the heat before the rest is cut.",
        ),
        StepKind::BonesOut => table(
            kind,
            "Draw the bones",
            3.0,
            "Twist each and pull; tender meat lets go. Weigh them: the kitchen learns its own share of bone.",
        ),
        StepKind::PullApart => table(
            kind,
            "Pull it apart",
            10.0,
            "Two forks or gloved hands, while it is warm; fat, gristle and splinters of bone out, some of the drip back in.",
        ),
        kind => plain(kind).and_then(|task| Some(beside_at(task.beside?, plain_step(task)))).into_iter().collect(),
    }
}

fn wrap(stage: usize, title: &str, detail: &str, need: &'static str) -> Aside {
    let needs = vec![need.into()];
    (Beside::Stage(stage), Step { needs, ..in_the_heat(StepKind::Wrap, title, Moment::Before, 2.0, detail) })
}

fn skin_job(kind: StepKind, moment: Moment) -> Step {
    let (title, detail) = at_the_skin(kind);
    in_the_heat(kind, title, moment, 1.0, detail)
}

fn cold(kind: StepKind, at: Option<Time>, title: &str, min: f64, detail: &str) -> Vec<Aside> {
    let step = |at| Step {
        phase: Phase::Beside,
        place: Place::Refrigerator,
        moment: Moment::In(at),
        detail: detail.into(),
        ..step(kind, title, minutes(min))
    };
    at.map(|at| (Beside::Cold, step(at))).into_iter().collect()
}

/// The stage that goes on at a minute of the heat, and how far into it that is.
fn at_minute(recipe: &Recipe, min: f64) -> Option<(Beside, Moment)> {
    let mut from = 0.0;
    for (i, takes) in recipe.fire.stages.iter().enumerate() {
        let to = from + takes.in_min();
        if min < to || i + 1 == recipe.fire.stages.len() {
            // Near its end it goes by that: a stage that waits for the core ends when it ends.
            let (into, left) = ((min - from).max(0.0), (to - min).max(0.0));
            return Some((Beside::Stage(i), if into <= left { Moment::In(minutes(into)) } else { Moment::ToGo(minutes(left)) }));
        }
        from = to;
    }
    None
}
