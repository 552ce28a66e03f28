//! Steps as types: what is done, where, with which hands, and until what.

use crate::fire::HeatSource;
use crate::method::{Hands, Place, PlainTask, SaltEffect, StepKind, TaskRow};
use crate::units::{Length, LengthIn, Temperature, Time, TimeIn, minutes};
use std::borrow::Cow;

/// What rules how long a task takes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Lasts {
    /// As long as it takes, whenever it begins.
    Fixed,
    /// As long as is left: it takes up the slack.
    Elastic,
    /// Until its condition holds; the minutes are a forecast.
    Until,
}

impl Lasts {
    /// Stable name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Fixed => "fixed",
            Self::Elastic => "elastic",
            Self::Until => "until",
        }
    }

    /// Looks one up by its stable name.
    pub fn find(id: &str) -> Option<Self> {
        [Self::Fixed, Self::Elastic, Self::Until].into_iter().find(|lasts| lasts.id() == id)
    }
}

/// Part of the plan a step belongs to.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Phase {
    /// In the refrigerator, or in water, before the work: thawing.
    Thawing,
    /// Before the cold.
    Before,
    /// The cold itself.
    Cold,
    /// After the fire.
    After,
    /// Beside another task, taking no time of the row: preheating, basting.
    Beside,
}

/// Which task of the row another is done beside.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Beside {
    /// A stage of the heat, by its place among them.
    Stage(usize),
    /// Thawing.
    Thaw,
    /// The stay in the cold.
    Cold,
    /// Carving.
    Carving,
    /// Heating it again.
    Again,
    /// Any task of the document, by its place there.
    Row(usize),
}

/// When a task beside another is done.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Moment {
    /// So that it is over as that begins.
    Before,
    /// So long after that began.
    In(Time),
    /// So long before that ends.
    ToGo(Time),
    /// Over so long after that has ended.
    Within(Time),
}

/// The one number of a step, as it is shown across the kitchen.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Figure {
    /// The number as it is shown, without its unit.
    pub value: String,
    /// Its unit, as written after a number.
    pub unit: &'static str,
}

/// A step without times.
#[derive(Debug, Clone, PartialEq)]
pub struct Step {
    /// Which task of its plan: its kind, and a number where the kind comes again. Stays when the plan is made anew.
    pub id: Cow<'static, str>,
    /// The task of the method's document it is written from; `None` where the piece or the cook asks for it besides.
    pub row: Option<Cow<'static, str>>,
    /// What is done; what follows from that is on the kind.
    pub kind: StepKind,
    /// Tasks that come before it.
    pub after: Vec<Cow<'static, str>>,
    /// The task it is done beside, ending as that begins.
    pub beside: Option<Cow<'static, str>>,
    /// When it is done beside that.
    pub moment: Moment,
    /// What rules how long it takes.
    pub lasts: Lasts,
    /// Part of the plan.
    pub phase: Phase,
    /// One line, as said across the kitchen.
    pub title: String,
    /// Where the piece is meanwhile.
    pub place: Place,
    /// How long it takes.
    pub takes: Time,
    /// Minutes of hands within it.
    pub hands_on: Time,
    /// Whether hands are raw in it.
    pub hands: Hands,
    /// The one number.
    pub figure: Option<Figure>,
    /// Which of the mixes besides goes on in it, in their order.
    pub mix: Option<usize>,
    /// Air temperature, for a step in the heat.
    pub air: Option<Temperature>,
    /// What gives the heat, for a step that uses it.
    pub heat: Option<HeatSource>,
    /// Condition that really ends it.
    pub until: Option<String>,
    /// Tools to have out.
    pub needs: Vec<Cow<'static, str>>,
    /// The rest of what a cook needs to know.
    pub detail: String,
}

/// A raw-handed step on the bench whose hands-on time is its whole length.
pub(super) fn step(kind: StepKind, title: &str, takes: Time) -> Step {
    Step {
        id: kind.id().into(),
        row: None,
        kind,
        after: vec![],
        beside: None,
        moment: Moment::Before,
        lasts: Lasts::Fixed,
        phase: Phase::Before,
        title: title.into(),
        place: Place::Bench,
        takes,
        hands_on: takes,
        hands: Hands::Raw,
        figure: None,
        mix: None,
        air: None,
        heat: None,
        until: None,
        needs: vec![],
        detail: String::new(),
    }
}

impl Step {
    /// Whether it is a stage of the heat.
    pub fn is_stage(&self) -> bool {
        self.place == Place::Fire && self.heat.is_some() && self.phase != Phase::Beside && self.kind != StepKind::HeatAgain
    }

    /// What it does to salt.
    pub fn salts(&self) -> Option<SaltEffect> {
        match self.kind {
            StepKind::Salt => Some(SaltEffect::On),
            StepKind::BrushDry => Some(SaltEffect::Off),
            _ => None,
        }
    }

    /// What it needs of the kitchen while it lasts.
    pub fn resources(&self) -> Vec<&'static str> {
        let hands = (self.hands_on.in_s() > 0.5).then_some("hands");
        let place = match self.place {
            _ if self.heat.is_some() => self.heat.map(HeatSource::resource),
            Place::Bench => Some("board"),
            Place::Refrigerator => Some("refrigerator"),
            Place::Water => Some("water"),
            Place::Fire if self.is_stage() || self.kind == StepKind::HeatAgain => Some(HeatSource::Oven.resource()),
            Place::Fire | Place::HotHold | Place::Table => None,
        };
        hands.into_iter().chain(place).collect()
    }
}

/// The task as a step.
pub(super) fn plain_step(task: &PlainTask) -> Step {
    Step {
        hands: task.hands,
        place: task.place,
        needs: task.needs.iter().map(|need| (*need).into()).collect(),
        detail: task.detail.into(),
        ..step(task.kind, task.title, minutes(task.minutes[1]))
    }
}

/// Names the tasks and ties them: each comes after the one before it; what is done beside another stands in no row, `beside` in the
/// order of those.
///
/// A task is called as the document calls it; of several steps of one task the first. Else the second of a kind is `kind-2`, so that a
/// plan made anew finds the same tasks under the same names.
pub(super) fn tied(mut steps: Vec<Step>, beside: &[Beside], rows: &[TaskRow]) -> Vec<Step> {
    let mut seen: std::collections::HashMap<StepKind, usize> = std::collections::HashMap::new();
    let mut named: std::collections::HashSet<Cow<'static, str>> = std::collections::HashSet::new();
    for step in &mut steps {
        // What is called by its kind is counted; all other names are the document's own.
        if let Some(row) = step.row.clone().filter(|row| StepKind::of_task(row).is_none() && named.insert(row.clone())) {
            step.id = row;
            continue;
        }
        let count = seen.entry(step.kind).or_default();
        *count += 1;
        step.id = if *count == 1 { step.kind.id().into() } else { format!("{}-{count}", step.kind.id()).into() };
    }
    let stages: Vec<Cow<'static, str>> = steps.iter().filter(|s| s.is_stage()).map(|s| s.id.clone()).collect();
    let of = |kind| steps.iter().find(|s: &&Step| s.kind == kind).map(|s| s.id.clone());
    let (thaw, cold, carving) = (of(StepKind::Thaw), of(StepKind::Chill), of(StepKind::Carve));
    let again = of(StepKind::HeatAgain);
    let written: Vec<(Cow<'static, str>, Cow<'static, str>)> =
        steps.iter().filter(|s| s.phase != Phase::Beside).filter_map(|s| Some((s.row.clone()?, s.id.clone()))).collect();
    let of_row = |id: &str| written.iter().find(|(row, _)| row == id).map(|(_, step)| step.clone());
    let mut besides = beside.iter();
    let mut before: Option<Cow<'static, str>> = None;
    for step in &mut steps {
        if step.phase == Phase::Beside {
            step.beside = match besides.next().copied().unwrap_or(Beside::Stage(0)) {
                Beside::Stage(i) => stages.get(i).cloned(),
                Beside::Thaw => thaw.clone(),
                Beside::Cold => cold.clone(),
                Beside::Carving => carving.clone(),
                Beside::Again => again.clone(),
                Beside::Row(i) => rows.get(i).and_then(|row| of_row(&row.id)),
            };
            continue;
        }
        step.after = before.replace(step.id.clone()).into_iter().collect();
    }
    steps
}

pub(super) fn figure(value: String, unit: &'static str) -> Figure {
    Figure { value, unit }
}

/// Millimetres cut (not rounded) to a tenth: a depth is never rounded towards the lean.
pub(super) fn one_decimal(depth: Length) -> String {
    let tenths = (depth.in_mm() * 10.0 + 1e-6).floor();
    if tenths % 10.0 == 0.0 { format!("{:.0}", tenths / 10.0) } else { format!("{:.1}", tenths / 10.0) }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::millimetres;

    #[test]
    fn a_depth_is_cut_never_rounded_towards_the_lean() {
        for (mm, text) in [(7.7, "7.7"), (8.0, "8"), (7.99, "7.9"), (6.04, "6")] {
            assert_eq!(one_decimal(millimetres(mm)), text);
        }
    }

    #[test]
    fn a_kind_may_come_again_and_keeps_its_name() {
        use crate::units::minutes;
        let turn = || step(StepKind::Dry, "Dry", minutes(3.0));
        let beside = Step { phase: Phase::Beside, ..step(StepKind::Preheat, "Heat", minutes(20.0)) };
        let heat = Step { place: Place::Fire, heat: Some(HeatSource::Oven), ..step(StepKind::Roast, "Roast", minutes(60.0)) };
        let tasks = tied(vec![turn(), turn(), beside, heat], &[], &[]);
        let ids: Vec<&str> = tasks.iter().map(|s| s.id.as_ref()).collect();
        assert_eq!(ids, ["dry", "dry-2", "preheat", "roast"]);
        assert_eq!((tasks[1].after.as_slice(), tasks[3].after.as_slice()), (&["dry".into()][..], &["dry-2".into()][..]));
        assert_eq!((tasks[2].beside.as_deref(), tasks[2].after.len()), (Some("roast"), 0));
    }
}
