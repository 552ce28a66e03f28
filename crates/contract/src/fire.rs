//! The heat as it is said: appliance, stages, finish, rest.

use crate::problem::Problem;
use crate::reader::{Numbers, Reader, typed};
use crate::to_doc::r4;
use rauchkeller_core::ask::{AirAsk, FinishAsk, FinishStyle, FireRequest, MOST_STAGES, StageAsk};
use rauchkeller_core::fire::{HeatSource, HeatWord, Hottest, How, Look, Resting, StageEnd};
use rauchkeller_core::units::{IntervalIn, TemperatureIn, Time, TimeIn, celsius, hours, kelvin, minutes};
use serde_json::{Value, json};

const UNTIL: &str = "one of minutes, core_c, core, look";
const FINISH: &str = "one of core_c, style";

/// Reads `fire`; its plain numbers go with all others.
pub(crate) fn read_fire(root: &mut Reader, numbers: &mut Numbers, problems: &mut Vec<Problem>) -> FireRequest {
    let mut fire = root.object("fire", problems);
    numbers.extend(fire.numbers(problems));
    let sources: Vec<&str> = HeatSource::ALL.iter().map(|source| source.id()).collect();
    let with = fire.named("with", HeatSource::find, &sources, problems);
    let said = fire.get("stages").is_some();
    let before = problems.len();
    let stages: Vec<StageAsk> =
        fire.list("stages", 4 * MOST_STAGES, problems).into_iter().filter_map(|s| read_stage(s, problems)).collect();
    // A stage that cannot be read is said by itself, not as a list that is too short.
    let readable = problems.len() == before;
    let finish = read_finish(&mut fire, problems);
    let resting = fire.named("rest", Resting::find, &Resting::NAMES, problems);
    let hold = read_hold(&mut fire, problems);
    let again = fire.get("again").is_some().then(|| fire.object("again", problems)).and_then(|stage| read_stage(stage, problems));
    fire.finish(problems);
    FireRequest { with, stages: (said && readable).then_some(stages), finish, resting, hold, again, ..FireRequest::default() }
}

/// Most appliances of one kitchen.
const MOST_APPLIANCES: usize = 20;

/// Reads `kitchen.heat`: the household's own appliances, each with a name, its kind and how hot it gets.
pub(crate) fn read_appliances(kitchen: &mut Reader, problems: &mut Vec<Problem>) -> Hottest {
    let sources: Vec<&str> = HeatSource::ALL.iter().map(|source| source.id()).collect();
    let (mut known, mut names): (Hottest, Vec<String>) = (Hottest::default(), Vec::new());
    for mut own in kitchen.list("heat", MOST_APPLIANCES, problems) {
        let before = problems.len();
        let id = own.text("id", "a short name, like oven-2", problems).map(str::to_owned);
        match &id {
            Some(id) if names.contains(id) => {
                let remedy = "Give each appliance a name of its own.";
                problems.push(Problem::new(own.field("id"), format!("“{id}” twice"), "names that differ", remedy));
            }
            Some(id) if id.trim().is_empty() || id.chars().count() > 40 => {
                problems.push(Problem::new(own.field("id"), typed(&json!(id)), "1 to 40 letters", "Write what you call it."));
            }
            _ => {}
        }
        names.extend(id);
        let (given, read) = (own.get("with").is_some(), problems.len());
        let with = own.named("with", HeatSource::find, &sources, problems);
        if !given && problems.len() == read {
            problems.push(Problem::new(own.field("with"), "nothing", sources.join(", "), "Say what kind of appliance it is."));
        }
        let most = own.number("max_c", "how hot it gets, in degrees Celsius", problems);
        let off = own.number("dial_off_k", "what its dial shows more than the air, in degrees", problems);
        let (path, dial, nothing) = (own.field("max_c"), own.field("dial_off_k"), most.is_none() && off.is_none());
        let read = problems.len();
        if nothing && read == before {
            problems.push(Problem::new(path.clone(), "nothing", "max_c, dial_off_k or both", "Say how hot it gets."));
        }
        own.finish(problems);
        let Some(with) = with else { continue };
        let (least, hottest) = (60.0, with.hottest().in_c());
        if let Some(most) = most {
            if (least..=hottest).contains(&most) {
                known = known.with(with, celsius(most));
            } else {
                let allowed = format!("{least:.0} to {hottest:.0} °C");
                problems.push(Problem::new(path, format!("{most} °C"), allowed, "Say how hot it gets at its hottest."));
            }
        }
        if let Some(off) = off {
            let furthest = Hottest::MOST_OFF_K;
            if (-furthest..=furthest).contains(&off) {
                known = known.with_dial(with, kelvin(off));
            } else {
                let allowed = format!("−{furthest:.0} to {furthest:.0}");
                problems.push(Problem::new(dial, off.to_string(), allowed, "Read dial and thermometer once more."));
            }
        }
    }
    known
}

/// What is known of appliances, as a request has it: one of a kind, called as its kind.
pub fn appliances_value(own: Hottest) -> Value {
    let said = |with: HeatSource| {
        let mut value = json!({"id": with.id(), "with": with.id()});
        if let Some(most) = own.said(with) {
            value["max_c"] = json!(r4(most.in_c()));
        }
        if let Some(off) = own.dial_off(with) {
            value["dial_off_k"] = json!(r4(off.in_kelvin()));
        }
        (own.said(with).is_some() || own.dial_off(with).is_some()).then_some(value)
    };
    HeatSource::ALL.into_iter().filter_map(said).collect()
}

/// The appliances of a request, as far as they can be read.
pub fn appliances_of(request: &Value) -> Hottest {
    let mut ignored = Vec::new();
    let mut root = Reader::root(request, &mut ignored);
    let mut kitchen = root.object("kitchen", &mut Vec::new());
    read_appliances(&mut kitchen, &mut Vec::new())
}

/// Stages as a request has them.
pub fn stages_value(stages: &[StageAsk]) -> Value {
    stages.iter().map(stage_value).collect()
}

/// One of them.
pub fn stage_value(stage: &StageAsk) -> Value {
    let mut value = json!({
        "air_c": match stage.air {
            AirAsk::At(air) => json!(r4(air.in_c())),
            AirAsk::Word(word) => json!(HeatWord::NAMES[word as usize]),
        },
        "how": stage.how.id(),
        "until": match stage.until {
            StageEnd::After(time) => json!({"minutes": r4(time.in_min())}),
            StageEnd::Core(core) => json!({"core_c": r4(core.in_c())}),
            StageEnd::Finish => json!({"core": "finish"}),
            StageEnd::Look(look) => json!({"look": look.id()}),
        },
    });
    if let Some(with) = stage.with {
        value["with"] = with.id().into();
    }
    if let Some(flip) = stage.flip {
        value["flip_min"] = json!(r4(flip.in_min()));
    }
    value
}

/// A finish as a request has it.
pub fn finish_value(finish: FinishAsk) -> Value {
    match finish {
        FinishAsk::Core(core) => json!({"core_c": r4(core.in_c())}),
        FinishAsk::Style(style) => json!({"style": style.id()}),
    }
}

/// The heat of a request, as far as it can be read.
pub fn fire_of(request: &Value) -> FireRequest {
    let mut ignored = Vec::new();
    let mut root = Reader::root(request, &mut ignored);
    read_fire(&mut root, &mut Numbers::new(), &mut Vec::new())
}

fn read_stage(mut stage: Reader, problems: &mut Vec<Problem>) -> Option<StageAsk> {
    let sources: Vec<&str> = HeatSource::ALL.iter().map(|source| source.id()).collect();
    let with = stage.named("with", HeatSource::find, &sources, problems);
    let air = read_air(&mut stage, problems);
    let hows: Vec<&str> = How::ALL.iter().map(|how| how.id()).collect();
    let how = stage.named("how", How::find, &hows, problems).unwrap_or_default();
    let until = read_until(&mut stage, problems);
    let flip = stage.number("flip_min", "minutes between two turns, from 0.5 up", problems).map(minutes);
    stage.finish(problems);
    Some(StageAsk { with, air: air?, how, until: until?, flip })
}

/// Degrees, or a word for them.
fn read_air(stage: &mut Reader, problems: &mut Vec<Problem>) -> Option<AirAsk> {
    let allowed = format!("degrees Celsius, or {}", HeatWord::NAMES.join(", "));
    let word = match stage.get("air_c") {
        None => {
            problems.push(Problem::new(stage.field("air_c"), "nothing", allowed, "Say how hot it is."));
            return None;
        }
        Some(value) => value.as_str().and_then(|text| HeatWord::find(text.trim())),
    };
    word.map(AirAsk::Word).or_else(|| Some(AirAsk::At(celsius(stage.number("air_c", &allowed, problems)?))))
}

fn read_until(stage: &mut Reader, problems: &mut Vec<Problem>) -> Option<StageEnd> {
    let (path, given) = (stage.field("until"), stage.get("until").is_some());
    let mut until = stage.object("until", problems);
    let before = problems.len();
    let looks: Vec<&str> = Look::ALL.iter().map(|look| look.id()).collect();
    let ends = [
        until.number("minutes", "minutes", problems).map(|min| StageEnd::After(minutes(min))),
        until.number("core_c", "degrees Celsius in the core", problems).map(|c| StageEnd::Core(celsius(c))),
        until.named("core", |word| (word == "finish").then_some(StageEnd::Finish), &["finish"], problems),
        until.named("look", Look::find, &looks, problems).map(StageEnd::Look),
    ];
    until.finish(problems);
    let found: Vec<StageEnd> = ends.into_iter().flatten().collect();
    match found.as_slice() {
        [one] => return Some(*one),
        [] if problems.len() > before => {}
        [] => {
            let said = if given { "no end" } else { "nothing" };
            problems.push(Problem::new(
                path,
                said,
                UNTIL,
                "Say what ends this stage, like { \"minutes\": 90 } or { \"core\": \"finish\" }.",
            ));
        }
        many => problems.push(Problem::new(path, format!("{} ends", many.len()), UNTIL, "Keep the one that comes first.")),
    }
    None
}

fn read_finish(fire: &mut Reader, problems: &mut Vec<Problem>) -> Option<FinishAsk> {
    let (path, given) = (fire.field("finish"), fire.get("finish").is_some());
    let mut finish = fire.object("finish", problems);
    let before = problems.len();
    let core = finish.number("core_c", "degrees Celsius in the core", problems).map(|c| FinishAsk::Core(celsius(c)));
    let styles: Vec<&str> = FinishStyle::ALL.iter().map(|style| style.id()).collect();
    let style = finish.named("style", FinishStyle::find, &styles, problems).map(FinishAsk::Style);
    finish.finish(problems);
    match (core, style) {
        (Some(_), Some(_)) => problems.push(Problem::new(path, "a core and a word", FINISH, "Keep the one that is meant.")),
        (None, None) if given && problems.len() == before => {
            problems.push(Problem::new(path, "nothing in it", FINISH, "Leave the finish out for the cut’s own."));
        }
        (core, style) => return core.or(style),
    }
    None
}

fn read_hold(fire: &mut Reader, problems: &mut Vec<Problem>) -> Option<(Time, Time)> {
    let value = fire.get("hold_h")?;
    let numbers = value.as_array().and_then(|list| list.iter().map(Value::as_f64).collect::<Option<Vec<f64>>>());
    if let Some([least, most]) = numbers.as_deref() {
        return Some((hours(*least), hours(*most)));
    }
    problems.push(Problem::new(
        fire.field("hold_h"),
        typed(value),
        "two numbers of hours, least and most",
        "Say how long it may wait, like 0 to 2 h.",
    ));
    None
}
