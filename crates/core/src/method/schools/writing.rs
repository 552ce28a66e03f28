//! How a school is written down.

use super::super::kind::StepKind;
use super::super::rows::{chained, row};
use super::super::school::{Says, School, TaskRow, Wants, Words};
use crate::ask::{AirAsk, CoverAsk, FireRequest, MixUse, StageAsk};
use crate::fire::{HeatSource, HeatWord, How, Look, StageEnd};
use crate::piece::Cut;
use crate::salt::{CoverKind, read_mix};
use crate::units::{celsius, minutes};

pub(super) const TRADE: &str = "common practice";

/// A reason that holds of some cuts.
pub(super) type Reason = (fn(Cut) -> bool, &'static str);

/// A school of these cuts with these tasks, each after the one before it.
pub(super) fn school(id: &'static str, name: &'static str, why: &'static str, cuts: Vec<Cut>, tasks: Vec<TaskRow>) -> School {
    School {
        id: id.into(),
        version: 1,
        name: name.into(),
        why: why.into(),
        source: TRADE.into(),
        cuts,
        not: vec![],
        wants: Wants { crackling: false, cold_rest: true },
        own_hours: None,
        says: Says::default(),
        tasks: chained(tasks),
    }
}

impl School {
    /// For skin that crackles.
    pub(super) fn crackling(self) -> Self {
        Self { wants: Wants { crackling: true, ..self.wants }, ..self }
    }

    /// Without a rest in the cold.
    pub(super) fn same_day(self) -> Self {
        Self { wants: Wants { cold_rest: false, ..self.wants }, ..self }
    }

    /// With hours of its own.
    pub(super) fn hours(self, shortest: f64, ideal: f64, longest: f64) -> Self {
        Self { own_hours: Some((shortest, ideal, longest)), ..self }
    }

    /// What it says of the piece.
    pub(super) fn saying(self, says: Says) -> Self {
        Self { says, ..self }
    }

    /// Why it is not for the cuts it is not written for: the first reason that holds, else the last.
    pub(super) fn not_for(self, reasons: &[Reason], else_: &'static str) -> Self {
        let why = |cut: Cut| -> Words { reasons.iter().find(|(holds, _)| holds(cut)).map_or(else_, |(_, why)| why).into() };
        let not = Cut::all().filter(|cut| !self.cuts.contains(cut)).map(|cut| (cut, why(cut))).collect();
        Self { not, ..self }
    }
}

/// Cuts by their names.
pub(super) fn cuts(ids: &[&str]) -> Vec<Cut> {
    Cut::all().filter(|cut| ids.contains(&cut.id)).collect()
}

pub(super) fn bare(cut: Cut) -> bool {
    cut.skin_mm <= 0.0
}

pub(super) fn no_window(cut: Cut) -> bool {
    !cut.has_fat_window()
}

pub(super) fn is_bird(cut: Cut) -> bool {
    cut.is_bird()
}

pub(super) const NO_SKIN: &str = "no skin to crackle";
pub(super) const NO_FAT: &str = "no layer of fat under its skin for a blade to stop in";

/// Hands clean, tools out, the surface dry.
pub(super) fn first() -> Vec<TaskRow> {
    [StepKind::LayOut, StepKind::Giblets, StepKind::Dry].map(row).to_vec()
}

/// Salted, hands washed, into the cold.
pub(super) fn salted_into_the_cold() -> Vec<TaskRow> {
    [StepKind::Salt, StepKind::Wash, StepKind::Chill].map(row).to_vec()
}

/// The heat comes up beside, it stands out and is brushed off.
pub(super) fn out_of_the_cold() -> Vec<TaskRow> {
    vec![preheat(), row(StepKind::Temper), row(StepKind::BrushDry)]
}

pub(super) fn preheat() -> TaskRow {
    row(StepKind::Preheat).beside("heat")
}

/// The heat, the rest, the table.
pub(super) fn to_the_table() -> Vec<TaskRow> {
    let mut rows = vec![row(StepKind::Heat)];
    rows.extend(rested());
    rows
}

/// After the heat.
pub(super) fn rested() -> Vec<TaskRow> {
    vec![row(StepKind::Rest), row(StepKind::Hold), row(StepKind::Carve), row(StepKind::Leftovers).beside("carve")]
}

/// Parts of a row, one after the other.
pub(super) fn all(parts: impl IntoIterator<Item = Vec<TaskRow>>) -> Vec<TaskRow> {
    parts.into_iter().flatten().collect()
}

/// A stage in degrees.
pub(super) fn at(c: f64, how: How, until: StageEnd) -> StageAsk {
    StageAsk { with: None, air: AirAsk::At(celsius(c)), how, until, flip: None }
}

/// As hot as it goes.
pub(super) fn fierce(until: StageEnd) -> StageAsk {
    StageAsk { with: None, air: AirAsk::Word(HeatWord::Max), how: How::Open, until, flip: None }
}

pub(super) fn on(with: HeatSource, stage: StageAsk) -> StageAsk {
    StageAsk { with: Some(with), ..stage }
}

pub(super) fn after(min: f64) -> StageEnd {
    StageEnd::After(minutes(min))
}

pub(super) const HOLLOW: StageEnd = StageEnd::Look(Look::Hollow);

/// A heat of these stages.
pub(super) fn stages(stages: Vec<StageAsk>) -> FireRequest {
    FireRequest { stages: Some(stages), ..FireRequest::default() }
}

pub(super) fn cover(kind: CoverKind) -> CoverAsk {
    CoverAsk { kind, depth: None, left: None }
}

/// A mix of the table; one that could not be read would have no parts, which a test looks for.
pub(super) fn mix(name: &str, recipe: &str) -> Option<MixUse> {
    read_mix(name, recipe, &[]).ok().map(|mix| MixUse { mix, asked: None, bath: None })
}
