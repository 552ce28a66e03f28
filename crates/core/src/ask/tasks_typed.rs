//! Tasks in words, as cooks type them: `turn after 12 h, baste every 20 min, no drying`.

use super::task::{Hung, HungAt, TaskAsk};
use crate::clock::read_span;
use crate::method::StepKind;
use crate::units::{Expect, System, TemperatureIn, Time, TimeIn, minutes, read_temperature};
use crate::words::plain;

/// Tasks as cooks type them: `turn after 12 h, glaze, carve 0 min, no drying`.
pub fn read_tasks(typed: &str, system: Option<System>) -> Result<Vec<TaskAsk>, String> {
    typed.split([',', ';', '\n']).map(str::trim).filter(|part| !part.is_empty()).map(|part| read_task(part, system)).collect()
}

fn read_task(part: &str, system: Option<System>) -> Result<TaskAsk, String> {
    let text = part.to_lowercase();
    let (leave_out, rest) = match ["no ", "without "].iter().find_map(|word| text.strip_prefix(word)) {
        Some(rest) => (true, rest),
        None => (false, text.as_str()),
    };
    let (head, said) = said_of_it(rest);
    let digits = |at: &usize| head[at + 1..].starts_with(|c: char| c.is_ascii_digit());
    let (name, takes) = match head.match_indices(' ').map(|(at, _)| at).find(digits) {
        Some(at) => {
            let (name, time) = (&head[..at], head[at..].trim());
            let number = time.trim_end_matches("min").trim().parse::<f64>();
            let takes = number.ok().map(minutes).or_else(|| read_span(time));
            (name, Some(takes.ok_or_else(|| format!("“{time}” is no time; write it like carve 15 min"))?))
        }
        None => (head, None),
    };
    let name = name.trim().trim_end_matches(" for").trim_end_matches(" in").trim_end_matches(" it");
    let task = NAMES.iter().find(|(said, _)| *said == name).map_or_else(|| name.replace(' ', "-"), |(_, id)| (*id).to_owned());
    let Some(kind) = StepKind::of_task(&task) else {
        let known = "turn, wipe, trim, tie, stuff, oil, glaze, make glaze, gravy, baste, look, top up, open the lid, feed coals, wood, vents, water pan, read air, shield, slice test, pull apart, carve";
        return Err(format!("“{name}” is no task of a plan; {known} are some"));
    };
    let (at, hung) = hangs(kind, &said, system)?;
    Ok(TaskAsk { task, takes, leave_out, at, hung, named: None })
}

/// What leads in when and how often.
const LEADS: [(&str, Lead); 11] = [
    (" at ", Lead::At),
    (" from ", Lead::At),
    (" when ", Lead::At),
    (" after ", Lead::After),
    (" every ", Lead::Every),
    (" each ", Lead::Every),
    (" in stage ", Lead::Stage),
    (" of stage ", Lead::Stage),
    (" in the stage ", Lead::Stage),
    (" hourly", Lead::Hourly),
    (" halfway", Lead::Halfway),
];

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Lead {
    At,
    After,
    Every,
    Stage,
    Hourly,
    Halfway,
}

/// The task with its minutes, and what is said of when it is done.
fn said_of_it(text: &str) -> (&str, Vec<(Lead, &str)>) {
    let next = |from: usize| {
        let found = LEADS.iter().filter_map(|(word, lead)| Some((text[from..].find(word)? + from, *word, *lead)));
        found.min_by_key(|(at, word, _)| (*at, usize::MAX - word.len()))
    };
    let Some((first, ..)) = next(0) else { return (text, vec![]) };
    let (head, mut said, mut at) = (&text[..first], Vec::new(), first);
    while let Some((from, word, lead)) = next(at) {
        let begins = from + word.len();
        // A blank is the next word's too.
        let ends = next(begins.saturating_sub(1)).filter(|(end, ..)| *end >= begins).map_or(text.len(), |(end, ..)| end);
        said.push((lead, text[begins..ends].trim()));
        at = ends;
        if at >= text.len() {
            break;
        }
    }
    (head, said)
}

/// When it is done: so many hours into the cold, or somewhere on the heat.
fn hangs(kind: StepKind, said: &[(Lead, &str)], system: Option<System>) -> Result<(Option<Time>, Option<Hung>), String> {
    let (mut cold, mut first, mut every, mut stage) = (None, None, None, None);
    let no_time = |when: &str| format!("“{when}” is no time; write it like turn after 12 h, baste every 30 min, or look at 60 °C");
    let span = |when: &str| read_span(when).ok_or_else(|| no_time(when));
    for (lead, when) in said {
        match lead {
            Lead::Every => every = Some(span(when)?),
            Lead::Hourly => every = Some(minutes(60.0)),
            Lead::Stage => {
                let number = when.parse::<usize>().ok().filter(|n| (1..=20).contains(n));
                stage = Some(number.ok_or_else(|| format!("“stage {when}”: stages are counted 1, 2, 3"))? - 1);
            }
            // In the cold hours are counted, at the heat minutes.
            Lead::After if matches!(kind, StepKind::Turn | StepKind::Wipe) && !when.contains("min") => cold = Some(span(when)?),
            Lead::After => first = Some(HungAt::Minute(span(when)?)),
            Lead::At => first = Some(moment(when, system).ok_or_else(|| no_time(when))?),
            Lead::Halfway => {}
        }
    }
    let begins = stage.map(|_| HungAt::Begins);
    let hung = first.or(every.map(HungAt::Minute)).or(begins).map(|at| Hung { stage, at, every });
    Ok((cold, hung))
}

fn moment(when: &str, system: Option<System>) -> Option<HungAt> {
    let when = when.trim_start_matches("it ").trim_start_matches("the ").trim_end_matches(" on").trim();
    if matches!(when, "beginning" | "start" | "begin" | "begins" | "starts" | "once") {
        return Some(HungAt::Begins);
    }
    if matches!(when, "end" | "ends" | "very end") {
        return Some(HungAt::Ends);
    }
    let read = when.trim_start_matches("core ").trim_start_matches("of ").trim_start_matches("reads ");
    read_span(read).map(HungAt::Minute).or_else(|| {
        read_temperature(read, &Expect::between(1.0, 99.0).by(system)).ok().filter(|at| (1.0..=99.0).contains(&at.in_c())).map(HungAt::Core)
    })
}

/// Other words for tasks.
const NAMES: [(&str, &str); 58] = [
    ("chilled", "chill-cooked"),
    ("keep cooked", "chill-cooked"),
    ("cooling", "cool"),
    ("trussing", "tie"),
    ("truss", "tie"),
    ("tying", "tie"),
    ("trimming", "trim"),
    ("stuffing", "stuff"),
    ("scalding", "scald"),
    ("rolling", "roll"),
    ("splitting", "split"),
    ("herbs inside", "aromatics"),
    ("pepper", "season-again"),
    ("glaze made", "make-glaze"),
    ("turning", "turn"),
    ("wiping", "wipe"),
    ("glazing", "glaze"),
    ("basting", "baste"),
    ("look halfway", "look"),
    ("carving", "carve"),
    ("drying", "dry"),
    ("tempering", "temper"),
    ("standing out", "temper"),
    ("laying out", "lay-out"),
    ("slice", "slice-test"),
    ("flip", "turn"),
    ("turn over", "turn"),
    ("turn it over", "turn"),
    ("turn round", "turn"),
    ("rotate", "turn"),
    ("have a look", "look"),
    ("check", "look"),
    ("check on", "look"),
    ("mop", "baste"),
    ("spritz", "baste"),
    ("top up", "top-up-liquid"),
    ("topping up", "top-up-liquid"),
    ("top up the liquid", "top-up-liquid"),
    ("liquid", "top-up-liquid"),
    ("more liquid", "top-up-liquid"),
    ("open", "open-lid"),
    ("open the lid", "open-lid"),
    ("lid open", "open-lid"),
    ("open the door", "open-lid"),
    ("coals", "feed-coals"),
    ("more coals", "feed-coals"),
    ("feed the coals", "feed-coals"),
    ("feed the fire", "feed-coals"),
    ("wood chips", "wood"),
    ("a piece of wood", "wood"),
    ("smoke wood", "wood"),
    ("vent", "vents"),
    ("set the vents", "vents"),
    ("pan of water", "water-pan"),
    ("water", "water-pan"),
    ("real temperature", "read-air"),
    ("thermometer", "read-air"),
    ("read the air", "read-air"),
];

/// Tasks in the words that say them again.
pub fn say_tasks(tasks: &[TaskAsk]) -> String {
    let say = |ask: &TaskAsk| {
        let name = ask.task.replace('-', " ");
        let name = if StepKind::find(&ask.task).is_some() { name } else { ask.task.clone() };
        let takes = ask.takes.map_or_else(String::new, |t| format!(" {} min", plain(t.in_min())));
        let at = ask.at.map_or_else(String::new, |t| format!(" after {} h", plain(t.in_h())));
        let hung = ask.hung.as_ref().map_or_else(String::new, say_hung);
        format!("{}{name}{takes}{at}{hung}", if ask.leave_out { "no " } else { "" })
    };
    tasks.iter().map(say).collect::<Vec<_>>().join(", ")
}

fn say_hung(hung: &Hung) -> String {
    let at = match hung.at {
        HungAt::Minute(min) if hung.every == Some(min) => String::new(),
        HungAt::Minute(min) if min.in_min() <= 0.0 => " at the beginning".into(),
        HungAt::Minute(min) => format!(" at {} min", plain(min.in_min())),
        HungAt::Core(core) => format!(" at {} °C", plain(core.in_c())),
        HungAt::Begins => " at the beginning".into(),
        HungAt::Ends => " at the end".into(),
    };
    let every = hung.every.map_or_else(String::new, |every| format!(" every {} min", plain(every.in_min())));
    let stage = hung.stage.map_or_else(String::new, |stage| format!(" in stage {}", stage + 1));
    format!("{at}{every}{stage}")
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::hours;

    #[test]
    fn tasks_are_said_in_words_and_come_back_in_words() {
        let (min, h) = (|m| Some(minutes(m)), |x| Some(hours(x)));
        let ask = |task: &str, takes, leave_out, at| TaskAsk { task: task.into(), takes, leave_out, at, hung: None, named: None };
        for (typed, want) in [
            ("carve 15 min", ask("carve", min(15.0), false, None)),
            ("carving 0", ask("carve", min(0.0), false, None)),
            ("Turn after 12 h", ask("turn", None, false, h(12.0))),
            ("wipe 3 min after 6h", ask("wipe", min(3.0), false, h(6.0))),
            ("no tempering", ask("temper", None, true, None)),
            ("without look", ask("look", None, true, None)),
            ("slice test", ask("slice-test", None, false, None)),
            ("pull apart", ask("pull-apart", None, false, None)),
            ("dry-2 5 min", ask("dry-2", min(5.0), false, None)),
        ] {
            let read = read_tasks(typed, None).unwrap();
            assert_eq!(read, [want], "{typed}");
            assert_eq!(read_tasks(&say_tasks(&read), None).unwrap(), read, "{}", say_tasks(&read));
        }
        assert_eq!(read_tasks("glaze, baste; carve 5 min", None).unwrap().len(), 3);
        assert!(read_tasks("", None).unwrap().is_empty());
        for wrong in ["dance", "carve soon 5x", "turn after a while"] {
            assert!(read_tasks(wrong, None).is_err(), "{wrong}");
        }
    }

    #[test]
    fn jobs_at_the_heat_are_said_in_words_and_come_back_in_words() {
        let min = |m| HungAt::Minute(minutes(m));
        let core = |c| HungAt::Core(crate::units::celsius(c));
        for (typed, task, stage, at, every) in [
            ("look at 1 h", "look", None, min(60.0), None),
            ("look after 60 min", "look", None, min(60.0), None),
            ("baste every 20 min", "baste", None, min(20.0), Some(20.0)),
            ("baste at 60 °C", "baste", None, core(60.0), None),
            ("Baste at 140 F every 15 min", "baste", None, core(60.0), Some(15.0)),
            ("baste from 1 h on every 20 min", "baste", None, min(60.0), Some(20.0)),
            ("glaze at the end", "glaze", None, HungAt::Ends, None),
            ("top up every 45 min", "top-up-liquid", None, min(45.0), Some(45.0)),
            ("open the lid at 30 min in stage 2", "open-lid", Some(1), min(30.0), None),
            ("feed the coals every 40 min", "feed-coals", None, min(40.0), Some(40.0)),
            ("wood at the beginning", "wood", None, HungAt::Begins, None),
            ("vents in stage 2", "vents", Some(1), HungAt::Begins, None),
            ("turn every 15 min", "turn", None, min(15.0), Some(15.0)),
            ("turn after 10 min", "turn", None, min(10.0), None),
            ("look hourly", "look", None, min(60.0), Some(60.0)),
            ("scrape when it ends", "scrape", None, HungAt::Ends, None),
        ] {
            let read = read_tasks(typed, None).unwrap();
            let want = TaskAsk {
                named: None,
                task: task.into(),
                takes: None,
                leave_out: false,
                at: None,
                hung: Some(Hung { stage, at, every: every.map(minutes) }),
            };
            assert_eq!((read.len(), read[0].task.as_str()), (1, task), "{typed}");
            assert_eq!(say_tasks(&read), say_tasks(std::slice::from_ref(&want)), "{typed}");
            let again = read_tasks(&say_tasks(&read), None).unwrap();
            assert_eq!(say_tasks(&again), say_tasks(&read), "{typed}");
            let near = |a: Option<Hung>| a.map(|hung| (hung.stage, hung.every));
            assert_eq!(near(again[0].hung), near(want.hung), "{typed}");
        }
        let (none, five) = (read_tasks("no wood", None).unwrap(), read_tasks("look 5 min at 1 h", None).unwrap());
        assert!(none[0].leave_out && none[0].task == "wood" && none[0].hung.is_none());
        assert!(five[0].takes == Some(minutes(5.0)) && five[0].hung.is_some());
        for wrong in ["look at banana", "baste every", "look in stage zero", "glaze at 400 °C"] {
            assert!(read_tasks(wrong, None).is_err(), "{wrong}");
        }
    }
}
