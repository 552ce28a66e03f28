//! A plan as its run reads it: the row of tasks with their planned times, the bowls, and the piece as it was resolved.

use crate::ask::PlanRequest;
use crate::caution::out_at_most;
use crate::method::{Place, SaltEffect, StepKind, Tick};
use crate::skin::drying::Air;
use crate::units::{Mass, Share, Time};
use crate::work::Lasts;
use jiff::Timestamp;

/// A task as it was planned.
#[derive(Debug, Clone, PartialEq)]
pub struct RunTask {
    /// Its name in the plan.
    pub id: String,
    /// What is done.
    pub kind: StepKind,
    /// One line, as said across the kitchen.
    pub title: String,
    /// Where the piece is meanwhile.
    pub place: Place,
    /// Whether it is ticked when it begins or when it is over.
    pub tick: Tick,
    /// What rules its length.
    pub lasts: Lasts,
    /// The task it is done beside, where it is: then it is no place of the piece.
    pub beside: Option<String>,
    /// Planned start.
    pub starts: Timestamp,
    /// Planned end.
    pub ends: Timestamp,
    /// Minutes of hands in it.
    pub hands_on: Time,
    /// What it does to salt.
    pub salts: Option<SaltEffect>,
}

impl RunTask {
    /// Its planned length.
    pub fn takes(&self) -> jiff::SignedDuration {
        self.ends.duration_since(self.starts)
    }

    /// Whether it is the stay in the refrigerator before the heat, which takes up what is early or late.
    pub fn is_stay(&self) -> bool {
        self.lasts == Lasts::Elastic && self.place == Place::Refrigerator && self.kind != StepKind::ChillCooked
    }

    /// Whether hands touch the meat in it: laying out and washing them do not take it out of the refrigerator.
    pub fn touches(&self) -> bool {
        self.kind != StepKind::LayOut
    }
}

/// A bowl to be weighed.
#[derive(Debug, Clone, PartialEq)]
pub struct RunBowl {
    /// Its name in the plan.
    pub id: String,
    /// What a cook calls it.
    pub name: String,
    /// The salting it is for.
    pub task: String,
    /// What the scale is to show.
    pub target: Mass,
    /// Whether it holds a mix and not loose salt.
    pub mix: bool,
    /// A mix besides, which goes on by itself: its place among them, and sodium chloride in a gram of it.
    pub besides: Option<(usize, Share)>,
}

/// A kept plan.
#[derive(Debug, Clone)]
pub struct RunPlan {
    /// Which of the piece's plans this is, from 1.
    pub version: u32,
    /// The piece and its kitchen with every guess written out, as it came; `None` where it cannot be read any more.
    pub request: Option<PlanRequest>,
    /// Its tasks, in the order of the work.
    pub tasks: Vec<RunTask>,
    /// Its bowls.
    pub bowls: Vec<RunBowl>,
    /// Sodium chloride in a gram of its salt.
    pub purity: Share,
    /// Its mix: grams planned, and sodium chloride in a gram of it.
    pub mix: Option<(Mass, Share)>,
    /// Out of the refrigerator, as planned.
    pub cold_to: Timestamp,
    /// Shortest and longest useful hours of salt.
    pub hours: (Time, Time),
    /// The meal.
    pub serve_at: Timestamp,
    /// The refrigerator's air as it is known now.
    pub air: Option<Air>,
}

impl RunPlan {
    /// How long the meat may be out of the refrigerator in its kitchen, in sum.
    pub fn out_at_most(&self) -> Time {
        self.request.as_ref().map_or_else(out_at_most, |request| request.kitchen.out_at_most())
    }
}

impl RunPlan {
    /// Sodium chloride in a gram of what a bowl of it holds; `None` where nobody knows.
    pub fn share_of(&self, bowl: &RunBowl) -> Option<Share> {
        let all_over = if bowl.mix { self.mix.map(|(_, share)| share) } else { Some(self.purity) };
        bowl.besides.map(|(_, share)| share).or(all_over)
    }

    /// A task by its name.
    pub fn task(&self, id: &str) -> Option<&RunTask> {
        self.tasks.iter().find(|task| task.id == id)
    }

    /// Places in the row of tasks the piece itself goes through, by index.
    pub(super) fn row(&self) -> Vec<usize> {
        (0..self.tasks.len()).filter(|i| self.tasks[*i].beside.is_none()).collect()
    }
}
