//! The rows of a method written out for a piece: each kind of task by the one who knows it, in the document's order.

use super::again_steps::{chill_cooked, cool, heat_again, hot_again};
use super::aside::{Aside, beside_at};
use super::beside_steps::{added, asked_by_the_heat, kept_hot, leftovers};
use super::cold_steps::{cold, thaw, water_changes};
use super::cover_steps::{cover_off, cover_on, later_sauce, sauce_tasks};
use super::heat_steps::{brush_dry, carve, heated_meanwhile, hold, preheat, rest, stage_step, standing_out};
use super::knife_steps::knife_steps;
use super::laid_in::later_in;
use super::recipe::Recipe;
use super::salt_steps::{dry, giblets, lay_out, loosen, salt, wash};
use super::step::{Beside, Lasts, Moment, Phase, Step, figure, plain_step, tied};
use crate::ask::Added;
use crate::method::{Place, PlainTask, Shows, Side, StepKind, TaskRow, Words, in_order, plain, row};
use crate::piece::Family;
use crate::salt::CoverKind;
use crate::units::{MassIn, TimeIn, hours, minutes};
use crate::words;

/// Writes the steps of a method in the order of its document, with what the piece and the cook ask for besides.
pub fn lay_out_steps(recipe: &Recipe) -> Vec<Step> {
    let rows = rows_for(recipe);
    let last_before = rows.iter().position(|row| row.kind == StepKind::Chill);
    let last_before = last_before.or_else(|| rows.iter().position(after_any_cold)).unwrap_or(rows.len());
    let mut writer = Writer {
        recipe,
        stage: 0,
        heats: rows.iter().filter(|row| row.kind == StepKind::Heat).count(),
        knives: rows.iter().map(|row| row.kind).filter(|kind| is_knife(*kind)).collect(),
        opened: false,
        sauced: false,
    };
    let mut parts: Vec<(usize, Vec<Step>)> = Vec::with_capacity(rows.len());
    for (i, row) in rows.iter().enumerate() {
        let phase = if i < last_before { Phase::Before } else { Phase::After };
        // Stages of the cook's own are called what they are.
        let own = row.kind == StepKind::Heat && recipe.heat.stages.iter().any(|stage| stage.own);
        let plain_row = own.then(|| TaskRow { title: None, detail: None, ..row.clone() });
        let written =
            writer.write(row).into_iter().map(|step| shown(recipe, row, as_said(plain_row.as_ref().unwrap_or(row), step, phase))).collect();
        parts.push((i, written));
    }
    let mut steps: Vec<(Option<Beside>, Step)> = Vec::with_capacity(rows.len() + 4);
    steps.extend(recipe.thaw.map(|time| (None, thaw(time, recipe.thawing))));
    // What stands out for the rest of its time stands out less for the work that lies within it.
    let work: f64 = parts
        .iter()
        .filter(|(i, _)| *i >= last_before)
        .flat_map(|(_, steps)| steps)
        .filter(|s| on_the_bench(s))
        .map(|s| s.takes.in_min())
        .sum();
    let asides = beside_all(recipe);
    // All that the plan uses lies ready from the beginning.
    let row = parts.iter().flat_map(|(_, steps)| steps);
    let tools: Vec<Words> = row.chain(asides.iter().map(|(_, step)| step)).flat_map(|step| step.needs.clone()).collect();
    for (i, written) in parts {
        match rows[i].kind {
            StepKind::LayOut => steps.push((None, as_said(&rows[i], lay_out(recipe, &tools), Phase::Before))),
            StepKind::Temper => steps.extend(standing_out(recipe, work).map(|step| (None, as_said(&rows[i], step, Phase::After)))),
            _ => steps.extend(written.into_iter().map(|step| (None, step))),
        }
        if rows[i].kind == StepKind::Preheat || rows[i].kind == StepKind::Chill && !rows.iter().any(|row| row.kind == StepKind::Preheat) {
            let step = preheat(recipe, 0);
            let said = Some(&rows[i]).filter(|row| row.kind == StepKind::Preheat);
            steps.push((Some(Beside::Stage(0)), said.map_or(step.clone(), |row| as_said(&until_hot(recipe, row), step, Phase::Beside))));
        }
    }
    steps.extend(asides.into_iter().map(|(of, step)| (Some(of), step)));
    let beside: Vec<Beside> = steps.iter().filter_map(|(of, _)| *of).collect();
    tied(steps.into_iter().map(|(_, step)| step).collect(), &beside, &recipe.method.tasks)
}

/// How long it comes up is said of the heat; what its row says counts with that.
fn until_hot(recipe: &Recipe, row: &TaskRow) -> TaskRow {
    let usual = recipe.heat.preheat.in_min();
    let minutes = row.minutes.filter(|[shortest, _, longest]| (*shortest..=*longest).contains(&usual));
    TaskRow { minutes: minutes.map(|[shortest, _, longest]| [shortest, usual, longest]), ..row.clone() }
}

/// What is done beside the row.
fn beside_all(recipe: &Recipe) -> Vec<Aside> {
    let mut asides = recipe.thaw.map_or_else(Vec::new, |time| water_changes(time, recipe.thawing));
    asides.extend(heated_meanwhile(recipe));
    asides.extend(hot_again(recipe));
    asides.extend(asked_by_the_heat(recipe));
    asides.extend(later_in(recipe));
    asides.extend(recipe.sauces.iter().filter_map(later_sauce));
    asides.extend(beside_the_row(recipe));
    asides.extend(recipe.heat.added.iter().flat_map(|task| added(recipe, task)));
    asides.extend(kept_hot(recipe));
    let left = recipe.method.tasks.iter().find(|task| task.kind == StepKind::Leftovers);
    let (of, step) = leftovers(recipe);
    asides.push((of, left.map_or(step.clone(), |row| as_said(row, step, Phase::Beside))));
    asides
}

fn on_the_bench(step: &Step) -> bool {
    step.place == Place::Bench && step.phase == Phase::After
}

fn is_knife(kind: StepKind) -> bool {
    matches!(kind, StepKind::Score | StepKind::Pierce | StepKind::Groove)
}

/// Where nothing rests in the cold, the way to the heat begins with this.
fn after_any_cold(row: &TaskRow) -> bool {
    matches!(row.kind, StepKind::Temper | StepKind::BrushDry | StepKind::Heat)
}

/// What has to wait for so long waits in the refrigerator, min (our estimate).
const WAITS: f64 = 10.0;

/// The rows of the document in their order, with those put in that this piece or this cook needs besides.
fn rows_for(recipe: &Recipe) -> Vec<TaskRow> {
    let ordered = in_order(&recipe.method.tasks).unwrap_or_default();
    let mut rows: Vec<TaskRow> = ordered.into_iter().filter(|task| fits(recipe, task)).cloned().collect();
    if let Some(heat) = recipe.method.tasks.iter().find(|task| task.kind == StepKind::Preheat) {
        // It takes no time of the row, and is written before what stands out or is brushed.
        let at = rows.iter().position(after_any_cold).unwrap_or(rows.len());
        rows.insert(at, heat.clone());
    }
    if recipe.waits.in_min() >= WAITS && !rows.iter().any(|row| row.kind == StepKind::Chill) {
        let at = rows.iter().position(|row| row.kind == StepKind::Preheat || after_any_cold(row)).unwrap_or(rows.len());
        let why = "It is salted, and the heat is not yet due: raw meat waits in the refrigerator.";
        rows.insert(at, row(StepKind::Chill).titled("Into the refrigerator until then").saying(why));
    }
    let missing = |rows: &[TaskRow], kinds: &[StepKind]| !rows.iter().any(|row| kinds.contains(&row.kind));
    if recipe.knife.is_some() && missing(&rows, &[StepKind::Score, StepKind::Pierce, StepKind::Groove]) {
        put_in(&mut rows, StepKind::Score);
    }
    if recipe.sauces.iter().any(|sauce| sauce.has_a_task_for_itself() && sauce.at.is_none())
        && missing(&rows, &[StepKind::Season, StepKind::Marinate])
    {
        put_in(&mut rows, StepKind::Season);
    }
    if recipe.to_weigh.in_g() >= 0.05 && missing(&rows, &[StepKind::Salt]) {
        put_in(&mut rows, StepKind::Salt);
    }
    if let Some(plan) = recipe.cover.filter(|_| missing(&rows, &[StepKind::CoverOn])) {
        put_cover_in(&mut rows, plan.cover.kind);
    }
    if recipe.heat.hold.is_some() && missing(&rows, &[StepKind::Hold]) {
        let rest = rows.iter().position(|row| row.kind == StepKind::Rest);
        rows.insert(rest.map_or(rows.len(), |at| at + 1), row(StepKind::Hold));
    }
    if recipe.heat.temper_said && recipe.heat.temper.in_min() > 0.0 && missing(&rows, &[StepKind::Temper]) {
        put_in(&mut rows, StepKind::Temper);
    }
    // A bird is trussed once it is scored, salted and filled.
    let trussed = |task: &&Added| task.kind == StepKind::Tie && recipe.cut.is_bird();
    for Added { kind, .. } in recipe.heat.added.iter().filter(|task| !trussed(task)) {
        if plain(*kind).is_some_and(|task| task.beside.is_none()) && missing(&rows, &[*kind]) {
            put_in(&mut rows, *kind);
        }
    }
    if recipe.heat.added.iter().any(|task| trussed(&task)) && missing(&rows, &[StepKind::Tie]) {
        put_before_the_heat(&mut rows, StepKind::Tie);
    }
    if rows.iter().any(|row| row.kind == StepKind::Aromatics) && missing(&rows, &[StepKind::AromaticsOut]) {
        let carve = rows.iter().position(|row| row.kind == StepKind::Carve).unwrap_or(rows.len());
        rows.insert(carve, row(StepKind::AromaticsOut));
    }
    rows
}

/// What is not done to this piece: nothing is packed inside a joint, and strips are not cut again.
fn fits(recipe: &Recipe, task: &TaskRow) -> bool {
    match task.kind {
        StepKind::Giblets => recipe.cut.family == Family::Bird,
        StepKind::Loosen => recipe.method.loosens(recipe.cut),
        StepKind::Strips => !recipe.cut.is_in_strips(),
        StepKind::CoverOn | StepKind::CoverOff | StepKind::Refill => recipe.cover.is_some(),
        _ => true,
    }
}

/// A task the method has no place for goes where it usually does.
fn put_in(rows: &mut Vec<TaskRow>, kind: StepKind) {
    let at = rows.iter().position(|row| row.kind.usual_place() > kind.usual_place()).unwrap_or(rows.len());
    rows.insert(at, row(kind));
}

/// After all that is done to it on the board.
fn put_before_the_heat(rows: &mut Vec<TaskRow>, kind: StepKind) {
    let last = |row: &TaskRow| {
        row.kind.usual_place() > StepKind::Aromatics.usual_place() && row.kind.usual_place() >= StepKind::Brush.usual_place()
    };
    let heat = rows.iter().position(|row| row.kind == StepKind::Heat).unwrap_or(rows.len());
    let at = rows[..heat].iter().position(last).unwrap_or(heat);
    rows.insert(at, row(kind));
}

/// A cover of the cook's own: a bed under the cold, a draw before the brushing, a crust through the first stage, a scatter through all.
fn put_cover_in(rows: &mut Vec<TaskRow>, kind: CoverKind) {
    let at = |rows: &[TaskRow], kind| rows.iter().position(|row| row.kind == kind);
    let heat = at(rows, StepKind::Heat).unwrap_or(rows.len());
    let brushed = at(rows, StepKind::BrushDry).unwrap_or(heat);
    match kind {
        CoverKind::Bed => {
            rows.insert(brushed, row(StepKind::CoverOff));
            let salted = at(rows, StepKind::Salt).map_or(0, |at| at + 1);
            rows.insert(salted, row(StepKind::CoverOn));
        }
        CoverKind::Draw => {
            rows.insert(brushed, row(StepKind::CoverOff));
            rows.insert(brushed, row(StepKind::CoverOn));
        }
        CoverKind::Crust => {
            // It comes off once the first stage is over; with a single one, as it comes out.
            rows.insert(heat + 1, row(StepKind::CoverOff));
            if !rows[heat + 1..].iter().any(|row| row.kind == StepKind::Heat) {
                rows.insert(heat + 2, row(StepKind::Heat));
            }
            rows.insert(heat, row(StepKind::CoverOn));
        }
        CoverKind::Scatter => {
            let last = rows.iter().rposition(|row| row.kind == StepKind::Heat).map_or(rows.len(), |at| at + 1);
            rows.insert(last, row(StepKind::CoverOff));
            rows.insert(heat, row(StepKind::CoverOn));
        }
    }
}

/// Rows written one after the other.
struct Writer<'a> {
    recipe: &'a Recipe<'a>,
    /// Stages written so far.
    stage: usize,
    /// Rows of heat still to come, this one counted.
    heats: usize,
    /// The kinds of knife work that have a row.
    knives: Vec<StepKind>,
    opened: bool,
    sauced: bool,
}

impl Writer<'_> {
    fn write(&mut self, row: &TaskRow) -> Vec<Step> {
        let recipe = self.recipe;
        match row.kind {
            // Written once everything else is known.
            StepKind::LayOut | StepKind::Temper | StepKind::Preheat => vec![],
            StepKind::Giblets => vec![giblets()],
            StepKind::Dry => vec![dry(recipe)],
            StepKind::Score | StepKind::Pierce | StepKind::Groove => self.open(row.kind),
            StepKind::Loosen => vec![loosen()],
            StepKind::Marinate | StepKind::Season => self.sauces(),
            StepKind::Drain => vec![super::cover_steps::drained()],
            StepKind::Salt => vec![salt(recipe)],
            StepKind::CoverOn => recipe.cover.map(cover_on).into_iter().collect(),
            StepKind::CoverOff => recipe.cover.map(cover_off).into_iter().collect(),
            StepKind::Wash => vec![wash()],
            StepKind::Chill => vec![cold(recipe)],
            StepKind::BrushDry => vec![brush_dry(recipe)],
            StepKind::Heat => self.heat(),
            StepKind::Cool => vec![cool(recipe)],
            StepKind::ChillCooked => vec![chill_cooked(recipe)],
            StepKind::HeatAgain => heat_again(recipe).into_iter().collect(),
            StepKind::Rest => vec![rest(recipe)],
            StepKind::Hold => hold(recipe).into_iter().collect(),
            StepKind::Carve => vec![carve(recipe)],
            // A bird is trussed in half the time (TRADE 8.2).
            StepKind::Tie if recipe.cut.is_bird() => plain(StepKind::Tie).map(trussed).into_iter().collect(),
            kind => plain(kind).map(plain_step).into_iter().collect(),
        }
    }

    /// The work of knife and pick that stands here; at the first of it what has no row of its own, too.
    fn open(&mut self, kind: StepKind) -> Vec<Step> {
        let first = !std::mem::replace(&mut self.opened, true);
        let Recipe { knife, surface, into_lean, .. } = self.recipe;
        let all = knife.map_or_else(Vec::new, |(ask, work)| knife_steps(ask, work, *surface, *into_lean));
        let here = |step: &Step| step.kind == kind || first && !self.knives.contains(&step.kind);
        all.into_iter().filter(here).collect()
    }

    fn sauces(&mut self) -> Vec<Step> {
        if std::mem::replace(&mut self.sauced, true) {
            return vec![];
        }
        self.recipe.sauces.iter().filter(|sauce| sauce.has_a_task_for_itself() && sauce.at.is_none()).flat_map(sauce_tasks).collect()
    }

    /// One stage a row; the last row takes all that are left.
    fn heat(&mut self) -> Vec<Step> {
        let stages = self.recipe.heat.stages;
        self.heats -= 1;
        let to = if self.heats == 0 { stages.len() } else { (self.stage + 1).min(stages.len()) };
        let from = std::mem::replace(&mut self.stage, to);
        let takes = &self.recipe.fire.stages;
        (from..to).filter_map(|i| Some(stage_step(self.recipe, i, &stages[i], *takes.get(i)?))).collect()
    }
}

/// Legs together, wings against the breast.
fn trussed(tie: &PlainTask) -> Step {
    let takes = minutes(5.0);
    Step {
        title: "Truss it".into(),
        detail: "Legs together, wings against the breast, so that nothing thin sticks out.".into(),
        takes,
        hands_on: takes,
        ..plain_step(tie)
    }
}

/// The step with what its row says of it.
fn as_said(row: &TaskRow, mut step: Step, phase: Phase) -> Step {
    let computed = plain(row.kind).is_none();
    step.row = Some(row.id.clone());
    if let Some(said) = &row.detail {
        let replaces = !computed || matches!(row.kind, StepKind::Dry | StepKind::Drain);
        step.detail = if replaces { said.clone().into_owned() } else { format!("{} {said}", step.detail) };
    }
    let stage = step.is_stage();
    if let Some([shortest, _, longest]) = row.minutes.filter(|[shortest, _, longest]| shortest < longest) {
        let span = |min: f64| words::span(minutes(min));
        let takes = format!("It takes {} to {}.", span(shortest), span(longest));
        step.detail = if step.detail.is_empty() { takes } else { format!("{} {takes}", step.detail) };
    }
    if let Some([_, usual, _]) = row.minutes.filter(|_| step.phase != Phase::Cold && step.lasts == Lasts::Fixed && !stage) {
        let throughout = (step.hands_on - step.takes).in_s().abs() < 0.5;
        step.takes = minutes(usual);
        step.hands_on = if throughout || step.hands_on > step.takes { step.takes } else { step.hands_on };
    }
    step.hands_on = row.hands_on.map_or(step.hands_on, minutes);
    step.hands = row.hands.unwrap_or(step.hands);
    if let Some(place) = row.place.filter(|_| !computed) {
        step.place = place;
    }
    step.needs.extend(row.needs.iter().cloned());
    if let Some(title) = &row.title {
        step.title = title.clone().into_owned();
    }
    if let Some(until) = &row.until {
        step.until = Some(until.clone().into_owned());
    }
    if matches!(step.phase, Phase::Before | Phase::After) {
        step.phase = phase;
    }
    step
}

/// The number its row wants shown.
fn shown(recipe: &Recipe, row: &TaskRow, mut step: Step) -> Step {
    let figure = match row.figure {
        None => return step,
        Some(Shows::Salt) => Some(figure(words::g(recipe.to_weigh), "g")),
        Some(Shows::Cover) => recipe.cover.map(|plan| figure(words::g(plan.cover.laid), "g")),
        Some(Shows::Ledger) => recipe.sauces.iter().find(|sauce| !sauce.own).map(|sauce| figure(words::g(sauce.weight), "g")),
        Some(Shows::Mix) => recipe.mix.map(|(_, g)| figure(words::g(g), "g")),
        Some(Shows::Hours) => Some(figure(words::h(recipe.cold), "h")),
        Some(Shows::Minutes) => Some(figure(format!("{:.0}", step.takes.in_min()), "min")),
    };
    step.figure = figure.or(step.figure);
    step
}

/// Tasks the document has beside others.
fn beside_the_row(recipe: &Recipe) -> Vec<Aside> {
    let rows = recipe.method.tasks.iter().filter(|task| task.beside.is_some());
    rows.flat_map(|task| {
        if matches!(task.kind, StepKind::Preheat | StepKind::Leftovers) {
            return vec![];
        }
        let asides = match plain(task.kind) {
            // Where it is said beside which, that counts; else where such a job usually stands.
            Some(usual) => vec![match beside_which(recipe, task) {
                Some(Which::Side(side)) => beside_at(side, plain_step(usual)),
                Some(Which::Row(i)) => {
                    (Beside::Row(i), Step { phase: Phase::Beside, moment: Moment::In(minutes(0.0)), ..plain_step(usual) })
                }
                None => beside_at(usual.beside.unwrap_or(Side::Heat), plain_step(usual)),
            }],
            None => added(recipe, &Added { kind: task.kind, at: task.at_h.map(hours), hung: None, takes: None }),
        };
        asides.into_iter().map(|(of, step)| (of, as_said(task, step, Phase::Beside))).collect()
    })
    .collect()
}

/// What a task of the document is done beside.
enum Which {
    /// Where such jobs usually stand.
    Side(Side),
    /// Another task, from its beginning on.
    Row(usize),
}

/// Beside what a task of the document is done; the stages of a heat that comes in several rows are tasks by themselves.
fn beside_which(recipe: &Recipe, task: &TaskRow) -> Option<Which> {
    let beside = task.beside.as_ref()?;
    let rows = &recipe.method.tasks;
    let at = rows.iter().position(|other| other.id == *beside)?;
    let first = rows[..at].iter().all(|other| other.kind != StepKind::Heat);
    Some(match rows[at].kind {
        StepKind::Chill => Which::Side(Side::Cold),
        StepKind::Heat if first => Which::Side(Side::Heat),
        StepKind::Rest | StepKind::Hold | StepKind::Carve => Which::Side(Side::Rest),
        _ => Which::Row(at),
    })
}
