//! Rows of a method's document: how the shipped ones are written down, and the order they give.

use super::kind::StepKind;
use super::plain::plain;
use super::school::{Effects, Shows, TaskRow, Words};
use super::task::SaltEffect;

/// A task of this kind as it usually goes.
pub(crate) fn row(kind: StepKind) -> TaskRow {
    let usual = plain(kind);
    let salt = match kind {
        StepKind::Salt | StepKind::CoverOn => Some(SaltEffect::On),
        StepKind::BrushDry | StepKind::CoverOff => Some(SaltEffect::Off),
        _ => None,
    };
    let effects = usual.map_or(Effects::default(), |task| Effects { shape: task.shape, opens_lean: task.opens_lean, ..Effects::default() });
    TaskRow {
        id: kind.id().into(),
        kind,
        after: vec![],
        beside: None,
        at_h: None,
        place: None,
        minutes: None,
        until: None,
        hands_on: None,
        hands: None,
        needs: vec![],
        title: None,
        detail: None,
        figure: None,
        effects: Effects { salt, ..effects },
        cautions: usual.map_or(&[][..], |task| task.cautions).iter().map(|code| (*code).into()).collect(),
    }
}

impl TaskRow {
    /// A task of this kind as it usually goes.
    pub fn usual(kind: StepKind) -> Self {
        row(kind)
    }

    /// Called so.
    pub(crate) fn titled(self, title: &'static str) -> Self {
        Self { title: Some(title.into()), ..self }
    }

    /// With this to know.
    pub(crate) fn saying(self, detail: &'static str) -> Self {
        Self { detail: Some(detail.into()), ..self }
    }

    /// With what it wants at hand.
    pub(super) fn needing(mut self, what: &[&'static str]) -> Self {
        self.needs.extend(what.iter().map(|need| (*need).into()));
        self
    }

    /// Showing a number of its own.
    pub(super) fn showing(self, figure: Shows) -> Self {
        Self { figure: Some(figure), ..self }
    }

    /// With a caution of its own.
    pub(super) fn warning(mut self, code: &'static str) -> Self {
        self.cautions.push(code.into());
        self
    }

    /// So many hours into the cold.
    pub(super) fn at(self, hours: f64) -> Self {
        Self { at_h: Some(hours), beside: Some(StepKind::Chill.id().into()), ..self }
    }

    /// Done beside another, in no row.
    pub(super) fn beside(self, id: &'static str) -> Self {
        Self { beside: Some(id.into()), ..self }
    }
}

/// Rows in the order they are written, each after the one before it; the second of a kind is `kind-2`.
pub(super) fn chained(mut rows: Vec<TaskRow>) -> Vec<TaskRow> {
    let mut before: Option<Words> = None;
    for i in 0..rows.len() {
        let earlier = rows[..i].iter().filter(|row| row.kind == rows[i].kind).count();
        if earlier > 0 {
            rows[i].id = format!("{}-{}", rows[i].kind.id(), earlier + 1).into();
        }
        if rows[i].beside.is_none() {
            rows[i].after = before.replace(rows[i].id.clone()).into_iter().collect();
        }
    }
    rows
}

/// The tasks of the row in an order that keeps every `after`, as they are written where that leaves it open; `None` where they go in
/// a circle. Names the first of those.
pub fn in_order(tasks: &[TaskRow]) -> Result<Vec<&TaskRow>, &TaskRow> {
    let mut left: Vec<&TaskRow> = tasks.iter().filter(|task| task.beside.is_none()).collect();
    let mut ordered: Vec<&TaskRow> = Vec::with_capacity(left.len());
    while let Some(first) = left.first().copied() {
        let ready = |task: &&TaskRow| !task.after.iter().any(|id| left.iter().any(|other| other.id == *id));
        let Some(next) = left.iter().position(ready) else { return Err(first) };
        ordered.push(left.remove(next));
    }
    Ok(ordered)
}
