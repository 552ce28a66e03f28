//! Tasks and bowls of a piece as pages list them: planned, noted, to come.

use super::Opened;
use jiff::Timestamp;
use rauchkeller_core::run::{RunTask, Standing};
use rauchkeller_core::salt::on_the_scale;
use rauchkeller_core::units::{MassIn, Share, grams};

/// A task with its times as they were or will be.
#[derive(Debug, Clone)]
pub struct Row<'a> {
    /// As planned.
    pub task: &'a RunTask,
    /// When it began, or will.
    pub starts: Timestamp,
    /// When it was over, or will be.
    pub ends: Timestamp,
    /// When it was ticked.
    pub done_at: Option<Timestamp>,
    /// Whether it is over, ticked or passed by.
    pub over: bool,
}

/// A bowl as it stands.
#[derive(Debug, Clone, PartialEq)]
pub struct Bowl {
    /// Its name in the plan.
    pub id: String,
    /// What a cook calls it.
    pub name: String,
    /// The salting it is for.
    pub task: String,
    /// What the scale is to show.
    pub target_g: f64,
    /// Whether it holds a mix.
    pub mix: bool,
    /// Sodium chloride in a gram of what it holds, where that is known.
    pub share: Option<Share>,
    /// What the scale showed with the empty bowl on it, and which scale.
    pub tare: Option<(f64, Option<u128>)>,
    /// What was weighed into it.
    pub weighed_g: Option<f64>,
    /// When it was used up.
    pub used_at: Option<Timestamp>,
}

impl Opened {
    /// Its tasks, in the order of the plan.
    pub fn rows(&self, stand: &Standing) -> Vec<Row<'_>> {
        let row = |(i, task): (usize, &'_ RunTask)| {
            let (starts, ends) = stand.times_of(&self.run, i);
            (starts, ends, stand.record.ticked(&task.id, task.tick), stand.over[i])
        };
        self.run
            .tasks
            .iter()
            .enumerate()
            .map(|(i, task)| {
                let (starts, ends, done_at, over) = row((i, task));
                Row { task, starts, ends, done_at, over }
            })
            .collect()
    }

    /// Its bowls, in the order of the plan.
    pub fn bowls(&self) -> Vec<Bowl> {
        let record = self.record();
        let bowl = |of: &rauchkeller_core::run::RunBowl| {
            let state = record.bowls.get(&of.id).cloned().unwrap_or_default();
            Bowl {
                id: of.id.clone(),
                name: of.name.clone(),
                task: of.task.clone(),
                target_g: of.target.in_g(),
                mix: of.mix,
                share: self.run.share_of(of),
                tare: state.tare.map(|(g, scale)| (g.in_g(), scale)),
                weighed_g: state.weighed.map(MassIn::in_g),
                used_at: state.used.map(|(at, _)| at),
            }
        };
        self.run.bowls.iter().map(bowl).collect()
    }

    /// What the scale shows of all that went on by the gram.
    pub fn on_scale_g(&self) -> Option<f64> {
        let on = self.stood.on.as_ref()?;
        let changed = on.really.changes.iter().fold(grams(0.0), |sum, c| sum + c.by);
        let own = on.really.grams.unwrap_or_else(|| grams(self.plan.dose.to_weigh_g));
        Some(on_the_scale(own + changed, self.plan.request.salt_purity).in_g())
    }
}

#[cfg(test)]
mod tests {
    use crate::piece::testing::opened;
    use jiff::{Timestamp, ZonedDateTime};

    #[test]
    fn what_is_done_stands_at_its_hour_and_the_rest_at_its_own() {
        let now: ZonedDateTime = "2026-12-11T15:00[Europe/Vienna]".parse().unwrap();
        let opened = opened(&[("salt", "2026-12-11T13:00:00Z")]);
        let stand = opened.stand(&now);
        let rows = opened.rows(&stand);
        assert_eq!(rows.len(), opened.run.tasks.len());
        let salt = rows.iter().find(|row| row.task.id == "salt").unwrap();
        let noted: Timestamp = "2026-12-11T13:00:00Z".parse().unwrap();
        assert_eq!((salt.done_at, salt.ends, salt.over), (Some(noted), noted, true));
        // What comes after the salt comes after it on the clock, too.
        let after: Vec<_> = rows.iter().filter(|row| !row.over).collect();
        assert!(!after.is_empty() && after.iter().all(|row| row.done_at.is_none() && row.ends >= noted));
        assert!(after.windows(2).all(|pair| pair[0].starts <= pair[1].starts), "in the order of the plan");
    }

    #[test]
    fn what_lies_on_it_is_said_as_the_scale_showed_it() {
        assert_eq!(opened(&[]).on_scale_g(), None, "nothing is on it");
        let salted = opened(&[("salt", "2026-12-11T13:00:00Z")]);
        let on = salted.on_scale_g().unwrap();
        // By hand: the sodium chloride that was to be weighed, over the salt's share of it.
        let want = salted.plan.dose.to_weigh_g / salted.plan.request.salt_purity;
        assert!((on - want).abs() < 1e-9, "{on} is not {want}");
    }
}
