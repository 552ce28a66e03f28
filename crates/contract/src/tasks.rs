//! Tasks of the cook's own, as a request has them.

use crate::problem::Problem;
use crate::reader::Reader;
use crate::to_doc::r4;
use rauchkeller_core::ask::{Hung, HungAt, MOST_TASKS, TaskAsk};
use rauchkeller_core::units::{TemperatureIn, TimeIn, celsius, hours, minutes};
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
    let hung = read_hung(&mut task, problems);
    task.finish(problems);
    Some(TaskAsk { task: name?, takes, leave_out, at, hung, named: None })
}

/// Where on the heat it is done: one of a minute, a core, its beginning or its end, and how often from then on.
fn read_hung(task: &mut Reader, problems: &mut Vec<Problem>) -> Option<Hung> {
    let stage = task.number("stage", "a stage, from 0, as in fire.stages", problems);
    let stage = stage.and_then(|stage| {
        let whole = stage.fract() == 0.0 && (0.0..100.0).contains(&stage);
        if !whole {
            let allowed = "a whole number from 0 up";
            problems.push(Problem::new(task.field("stage"), stage.to_string(), allowed, "Stages are counted from 0, as in fire.stages."));
        }
        whole.then_some(stage as usize)
    });
    let minute =
        task.number("at_min", "minutes after it, or the stage, began", problems).map(|min| ("at_min", HungAt::Minute(minutes(min))));
    let core = task.number("at_core_c", "what the core reads, in degrees Celsius", problems);
    let core = core.and_then(|c| {
        let sensible = (1.0..=99.0).contains(&c);
        if !sensible {
            problems.push(Problem::new(task.field("at_core_c"), format!("{c} °C"), "1 to 99 °C", "Say what the probe reads by then."));
        }
        sensible.then(|| ("at_core_c", HungAt::Core(celsius(c))))
    });
    let edges = |id: &str| [("begins", HungAt::Begins), ("ends", HungAt::Ends)].into_iter().find(|(name, _)| *name == id).map(|(_, at)| at);
    let edge = task.named("at", edges, &["begins", "ends"], problems).map(|at| ("at", at));
    let every = task.number("every_min", "minutes", problems).map(minutes);
    let said: Vec<(&str, HungAt)> = [minute, core, edge].into_iter().flatten().collect();
    for (field, _) in said.iter().skip(1) {
        let remedy = "Say only one of at_min, at_core_c and at.";
        problems.push(Problem::new(task.field(field), "said besides another", "one of them", remedy));
    }
    let begins = stage.map(|_| HungAt::Begins);
    let at = said.first().map(|(_, at)| *at).or(every.map(HungAt::Minute)).or(begins)?;
    Some(Hung { stage, at, every })
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
        if let Some(hung) = &ask.hung {
            write_hung(&mut value, hung);
        }
        value
    };
    tasks.iter().map(task).collect()
}

fn write_hung(value: &mut Value, hung: &Hung) {
    if let Some(stage) = hung.stage {
        value["stage"] = json!(stage);
    }
    match hung.at {
        HungAt::Minute(min) => value["at_min"] = json!(r4(min.in_min())),
        HungAt::Core(core) => value["at_core_c"] = json!(r4(core.in_c())),
        HungAt::Begins => value["at"] = json!("begins"),
        HungAt::Ends => value["at"] = json!("ends"),
    }
    if let Some(every) = hung.every {
        value["every_min"] = json!(r4(every.in_min()));
    }
}

/// The tasks of a request, as far as they can be read.
pub fn tasks_of(request: &Value) -> Vec<TaskAsk> {
    let mut ignored = Vec::new();
    let mut root = Reader::root(request, &mut ignored);
    read_tasks(&mut root, &mut Vec::new())
}
