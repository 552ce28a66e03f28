//! What is said of a task: its minutes, its hour in the cold, where it hangs on the heat.

use crate::method::StepKind;
use crate::units::{Temperature, Time};

/// What a cook says of a task.
#[derive(Debug, Clone, PartialEq)]
pub struct TaskAsk {
    /// Its name in the plan, or its kind, which means all of that kind.
    pub task: String,
    /// How long it takes, to the minute; none is allowed.
    pub takes: Option<Time>,
    /// Whether it is left out.
    pub leave_out: bool,
    /// Hours after it went into the cold at which it is done.
    pub at: Option<Time>,
    /// Where on the heat it is done.
    pub hung: Option<Hung>,
    /// Its kind, where the method's document has a task of that name.
    pub named: Option<StepKind>,
}

impl TaskAsk {
    /// Its kind; `None` where nothing is called so.
    pub fn kind(&self) -> Option<StepKind> {
        StepKind::of_task(&self.task).or(self.named)
    }
}

/// Most tasks of the cook's own.
pub const MOST_TASKS: usize = 40;

/// When a hung job is first done.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum HungAt {
    /// So long after the stage, or the whole heat, began.
    Minute(Time),
    /// When the probe reads so much.
    Core(Temperature),
    /// As it begins.
    Begins,
    /// As it ends.
    Ends,
}

/// Where on the heat a job hangs.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Hung {
    /// On which stage, from 0; `None` on the whole heat.
    pub stage: Option<usize>,
    /// When it is first done.
    pub at: HungAt,
    /// From then on so often, as long as that lasts.
    pub every: Option<Time>,
}

/// A task that a cook adds.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Added {
    /// What is done.
    pub kind: StepKind,
    /// Hours after it went into the cold, where it is done there.
    pub at: Option<Time>,
    /// Where on the heat, where that was said.
    pub hung: Option<Hung>,
    /// How long it takes, where that was said.
    pub takes: Option<Time>,
}
