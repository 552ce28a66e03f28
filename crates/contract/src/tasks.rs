//! Tasks of the cook's own, as a request has them.

use crate::problem::Problem;
use crate::reader::Reader;
use crate::to_doc::r4;
use rauchkeller_core::plan::{MOST_TASKS, TaskAsk};
use rauchkeller_core::units::{TimeIn, hours, minutes};
use serde_json::{Value, json};

/// Reads `tasks`; whether each can be is checked with the plan.
pub(crate) fn read_tasks(root: &mut Reader, problems: &mut Vec<Problem>) -> Vec<TaskAsk> {
    root.list("tasks", MOST_TASKS, problems).into_iter().filter_map(|task| read_task(task, problems)).collect()
}

fn read_task(mut task: Reader, problems: &mut Vec<Problem>) -> Option<TaskAsk> {
    let (path, given) = (task.field("task"), task.get("task").is_some());
    let name = task.text("task", "a task of the plan, like carve or dry-2", problems).map(str::to_owned);
    if !given {
        problems.push(Problem::new(path, "nothing", "a task of the plan, like carve or dry-2", "Say which task is meant."));
    }
    let takes = task.number("minutes", "minutes, from 0 up", problems).map(minutes);
    let leave_out = task.flag("leave_out", problems);
    let at = task.number("at_h", "hours after it went into the cold", problems).map(hours);
    task.finish(problems);
    Some(TaskAsk { task: name?, takes, leave_out, at })
}

/// Tasks as a request has them.
pub fn tasks_value(tasks: &[TaskAsk]) -> Value {
    let task = |ask: &TaskAsk| {
        let mut value = json!({"task": ask.task});
        if let Some(takes) = ask.takes {
            value["minutes"] = json!(r4(takes.in_min()));
        }
        if ask.leave_out {
            value["leave_out"] = json!(true);
        }
        if let Some(at) = ask.at {
            value["at_h"] = json!(r4(at.in_h()));
        }
        value
    };
    tasks.iter().map(task).collect()
}

/// The tasks of a request, as far as they can be read.
pub fn tasks_of(request: &Value) -> Vec<TaskAsk> {
    let mut ignored = Vec::new();
    let mut root = Reader::root(request, &mut ignored);
    read_tasks(&mut root, &mut Vec::new())
}
