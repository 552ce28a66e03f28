//! What a request says of the refrigerator rest: how it lies, whose hours, until what, and what was done already.

use crate::problem::Problem;
use crate::reader::Reader;
use crate::request::read_time;
use jiff::ZonedDateTime;
use rauchkeller_core::clock::Toward;
use rauchkeller_core::method::StepKind;
use rauchkeller_core::plan::{BrushedOff, Done, Goal, HoursFrom};
use rauchkeller_core::skin::drying::Lies;
use rauchkeller_core::units::{Dryness, Evenness, GramsPerKg, grams, millimetres};

/// The rest as read.
pub(crate) struct RestRead {
    pub(crate) done: Vec<Done>,
    pub(crate) brushed_off: Vec<BrushedOff>,
    pub(crate) lies: Lies,
    pub(crate) goal: Option<Goal>,
    pub(crate) hours_from: HoursFrom,
}

/// Stable name of salt that came off again, among the things done.
const BRUSH_OFF: &str = "brush-off";

pub(crate) fn read_rest(root: &mut Reader, now: &ZonedDateTime, problems: &mut Vec<Problem>) -> RestRead {
    let (done, brushed_off) = read_done(root, now, problems);
    let names: Vec<&str> = Lies::ALL.iter().map(|l| l.id()).collect();
    let lies = root.named("lies", Lies::find, &names, problems).unwrap_or_default();
    let hours_from = root.named(
        "hours_from",
        |name| match name {
            "house" => Some(HoursFrom::House),
            "model" => Some(HoursFrom::Model),
            _ => None,
        },
        &["house", "model"],
        problems,
    );
    RestRead { done, brushed_off, lies, goal: read_goal(root, problems), hours_from: hours_from.unwrap_or_default() }
}

fn read_goal(root: &mut Reader, problems: &mut Vec<Problem>) -> Option<Goal> {
    let mut goal = root.object("goal", problems);
    let path = goal.field("depth_mm");
    let depth = goal.number("depth_mm", "1 to 200 mm", problems).map(|mm| Goal::Depth(millimetres(mm)));
    let even = goal.number("evenness", "0.05 to 0.99", problems).map(|x| Goal::Evenness(Evenness(x)));
    let rim = goal.number("rim_g_per_kg", "1 to 200 g/kg", problems).map(|x| Goal::Rim(GramsPerKg(x)));
    let dry = goal.number("skin_dryness", "0.05 to 1", problems).map(|x| Goal::Dryness(Dryness(x)));
    goal.finish(problems);
    let said: Vec<Goal> = [depth, even, rim, dry].into_iter().flatten().collect();
    if said.len() > 1 {
        let typed = said.iter().map(|g| g.words()).collect::<Vec<_>>().join(", ");
        problems.push(Problem::new(path, typed, "one goal", "Keep the one that matters most; all of them are shown."));
    }
    said.into_iter().next()
}

fn read_done(root: &mut Reader, now: &ZonedDateTime, problems: &mut Vec<Problem>) -> (Vec<Done>, Vec<BrushedOff>) {
    let names: Vec<&str> = StepKind::ALL.iter().map(|k| k.id()).chain([BRUSH_OFF]).collect();
    let (mut done, mut brushed_off) = (Vec::new(), Vec::new());
    for mut entry in root.list("done", 20, problems) {
        // A step of the kitchen, or salt that came off again.
        let step = |name: &str| if name == BRUSH_OFF { Some(None) } else { StepKind::find(name).map(Some) };
        let kind = entry.named("kind", step, &names, problems);
        let at = read_time(&mut entry, "at", now, Toward::Past, problems);
        let salt = entry.number("g", "grams of salt", problems).map(grams);
        if kind.is_none() || at.is_none() {
            problems.push(Problem::new(entry.field("at"), "an incomplete entry", "a kind and a time", "Say what was done and when."));
        }
        if kind == Some(None) && salt.is_none() {
            problems.push(Problem::new(entry.field("g"), "nothing", "grams of salt that came off", "Weigh what came off the brush."));
        }
        entry.finish(problems);
        match (kind.zip(at), salt) {
            (Some((Some(kind), at)), salt) => done.push(Done { kind, at: at.timestamp(), salt }),
            (Some((None, at)), Some(salt)) => brushed_off.push(BrushedOff { at: at.timestamp(), salt }),
            _ => {}
        }
    }
    (done, brushed_off)
}
