//! What cannot be of a heat as it was said, each at its path, in a cook's words.

use super::heat::{FinishAsk, FinishStyle, StageAsk};
use super::refusal::Refusal;
use super::request::PlanRequest;
use crate::fire::{HeatSource, StageEnd, again_at_least};
use crate::units::{TemperatureIn, TimeIn};
use crate::words::plain;

/// Most stages of one heat.
pub const MOST_STAGES: usize = 12;

/// Longest a stage may be, and a hold.
const LONGEST_STAGE_H: f64 = 24.0;

const LONGEST_HOLD_H: f64 = 12.0;

/// No heat is cooler, °C: below it meat stays for hours between 10 and 54 °C, where bacteria grow (our estimate; USDA FSIS Appendix A
/// counts those hours). What is held warm is no stage.
pub(crate) const COOLEST_AIR: f64 = 50.0;

/// Longest all stages may be together, as far as their minutes are said.
const LONGEST_HEAT_H: f64 = 48.0;

/// Turned more often than this nobody does, min.
const FASTEST_FLIP: f64 = 0.5;

/// Nor so many times in one stage.
const MOST_TURNS: f64 = 240.0;

/// Nor in all stages together.
const MOST_TURNS_IN_ALL: f64 = 480.0;

/// Everything of the heat that cannot be, each at its path.
pub(crate) fn refuse_fire(request: &PlanRequest) -> Vec<Refusal> {
    let fire = &request.fire;
    let mut found = Vec::new();
    if let Some((least, most)) = fire.hold
        && !(0.0 <= least.in_h() && least <= most && most.in_h() <= LONGEST_HOLD_H)
    {
        let typed = format!("{} to {} h", plain(least.in_h()), plain(most.in_h()));
        found.push(Refusal::new(
            "fire.hold_h",
            typed,
            format!("from 0 to {LONGEST_HOLD_H:.0} h, the shorter first"),
            "Say how long it may wait warm, like 0 to 2 h.",
        ));
    }
    found.extend(refuse_stages(request));
    found.extend(refuse_finish(request));
    found.extend(refuse_again(request));
    found
}

/// Heated again it goes to the authority's temperature by a probe, and nothing less ends that.
fn refuse_again(request: &PlanRequest) -> Vec<Refusal> {
    let Some(ask) = request.fire.again else { return vec![] };
    let stage = ask.whole(HeatSource::Oven, request.kitchen.heat);
    let (air, most) = (stage.air.in_c(), request.kitchen.heat.limit(stage.with).in_c());
    let mut found = Vec::new();
    if !(COOLEST_AGAIN..=most).contains(&air) {
        found.push(Refusal::new(
            "fire.again.air_c",
            format!("{} °C", plain(air)),
            format!("{COOLEST_AGAIN:.0} to {most:.0} °C for {} {}", article(stage.with), stage.with.id()),
            "Say how warm the air is; cooler it is on its way for too long.",
        ));
    }
    let least = again_at_least().in_c();
    let typed = match stage.until {
        StageEnd::Finish => None,
        StageEnd::Core(core) if (least - 0.05..=HOTTEST_AGAIN).contains(&core.in_c()) => None,
        StageEnd::Core(core) => Some(format!("{} °C in the middle", plain(core.in_c()))),
        StageEnd::After(time) => Some(format!("{} min", plain(time.in_min()))),
        StageEnd::Look(look) => Some(look.words().to_owned()),
    };
    found.extend(typed.map(|typed| {
        let allowed = format!("74 to {HOTTEST_AGAIN:.0} °C in the middle, by a probe");
        let remedy = "What was cooked and chilled is heated again to 74 °C (165 °F) all through: say core_c, or \"core\": \"finish\".";
        Refusal::new("fire.again.until", typed, allowed, remedy)
    }));
    found
}

/// Cooler air heats nothing again that is safe to eat in the end, °C (our estimate).
const COOLEST_AGAIN: f64 = 100.0;
/// Hotter than this the middle of wet meat hardly comes, °C (our estimate).
const HOTTEST_AGAIN: f64 = 95.0;

fn refuse_stages(request: &PlanRequest) -> Vec<Refusal> {
    let Some(stages) = &request.fire.stages else { return vec![] };
    let (with, kitchen) = (request.fire.with.unwrap_or_default(), request.kitchen.heat);
    let mut found = Vec::new();
    if stages.is_empty() || stages.len() > MOST_STAGES {
        let typed = if stages.is_empty() { "no stage".to_owned() } else { format!("{} stages", stages.len()) };
        return vec![Refusal::new(
            "fire.stages",
            typed,
            format!("1 to {MOST_STAGES} stages"),
            "Leave the stages out for the method's own heat.",
        )];
    }
    for (i, ask) in stages.iter().enumerate() {
        let at = |field: &str| format!("fire.stages[{i}].{field}");
        let stage = ask.whole(with, kitchen);
        let (air, most) = (stage.air.in_c(), kitchen.limit(stage.with).in_c());
        if !(COOLEST_AIR..=most).contains(&air) {
            let own = if kitchen.said(stage.with).is_some() { ", as hot as yours gets" } else { "" };
            let allowed = format!("{COOLEST_AIR:.0} to {most:.0} °C for {} {}{own}", article(stage.with), stage.with.id());
            found.push(Refusal::new(
                at("air_c"),
                format!("{} °C", plain(air)),
                allowed,
                "Say how warm the air is, or low, medium, high or max. Cooler air keeps meat warm for what grows in it.",
            ));
        }
        let range = match stage.until {
            StageEnd::After(time) => (time.in_min(), 0.0, LONGEST_STAGE_H * 60.0, "minutes", "min"),
            StageEnd::Core(core) => (core.in_c(), 30.0, 99.0, "core_c", "°C in the core"),
            StageEnd::Finish | StageEnd::Look(_) => (50.0, 0.0, 99.0, "", ""),
        };
        let (typed, low, high, field, unit) = range;
        if !(low..=high).contains(&typed) {
            let typed = format!("{} {unit}", plain(typed));
            found.push(Refusal::new(
                at(&format!("until.{field}")),
                typed,
                format!("{low:.0} to {high:.0} {unit}"),
                "Say minutes, a core, or { \"core\": \"finish\" }.",
            ));
        }
        if let Some(flip) = ask.flip {
            if !(FASTEST_FLIP..=LONGEST_STAGE_H * 60.0).contains(&flip.in_min()) {
                let typed = if flip.in_min() > 0.0 {
                    format!("turned {} times a minute", plain(1.0 / flip.in_min()))
                } else {
                    format!("turned every {} min", plain(flip.in_min()))
                };
                found.push(Refusal::new(at("flip_min"), typed, "once in half a minute at most", "Turning every 1 to 5 minutes is usual."));
            } else if let StageEnd::After(time) = stage.until
                && time.in_min() / flip.in_min() > MOST_TURNS
            {
                let turns = (time.in_min() / flip.in_min()).floor();
                let typed = format!("turned {turns:.0} times in {} min", plain(time.in_min()));
                found.push(Refusal::new(
                    at("flip_min"),
                    typed,
                    format!("at most {MOST_TURNS:.0} turns in a stage"),
                    "Turn it less often, or for a shorter stage.",
                ));
            }
        }
    }
    let turns = |ask: &StageAsk| match (ask.until, ask.flip) {
        (StageEnd::After(time), Some(flip)) => time.in_min() / flip.in_min().max(FASTEST_FLIP),
        _ => 0.0,
    };
    let turned: f64 = stages.iter().map(turns).sum();
    if turned > MOST_TURNS_IN_ALL && found.is_empty() {
        let typed = format!("turned {turned:.0} times in all");
        found.push(Refusal::new("fire.stages", typed, format!("at most {MOST_TURNS_IN_ALL:.0} turns in all"), "Turn it less often."));
    }
    let said_h: f64 = stages.iter().map(|ask| if let StageEnd::After(time) = ask.until { time.in_h() } else { 0.0 }).sum();
    if said_h > LONGEST_HEAT_H {
        found.push(Refusal::new(
            "fire.stages",
            format!("{} h in the heat", plain(said_h)),
            format!("at most {LONGEST_HEAT_H:.0} h in all stages together"),
            "Say shorter stages.",
        ));
    }
    let waits: Vec<usize> = stages.iter().enumerate().filter(|(_, s)| s.until == StageEnd::Finish).map(|(i, _)| i).collect();
    for i in waits.iter().skip(1) {
        let typed = format!("waits for the finish, as stage {} does", waits[0] + 1);
        found.push(Refusal::new(
            format!("fire.stages[{i}].until"),
            typed,
            "one stage at most",
            "Give the other one minutes or a core of its own.",
        ));
    }
    found
}

fn article(source: HeatSource) -> &'static str {
    match source {
        HeatSource::Oven => "an",
        HeatSource::Charcoal => "glowing",
        _ => "a",
    }
}

fn refuse_finish(request: &PlanRequest) -> Vec<Refusal> {
    let fire = &request.fire;
    let Some(finish) = fire.finish else { return vec![] };
    let at = |field: &str| format!("fire.finish{field}");
    let own_pull = fire.stages.as_ref().and_then(|stages| stages.last()).is_some_and(|last| matches!(last.until, StageEnd::Core(_)));
    let mut found = Vec::new();
    if own_pull {
        found.push(Refusal::new(
            at(""),
            "a pull and a finish",
            "one of them",
            "With a core in the last stage the finish follows; say either the pull or the finish.",
        ));
    }
    match finish {
        FinishAsk::Style(style) if style.core(request.cut).is_none() => {
            let fits: Vec<&str> = FinishStyle::ALL.iter().filter(|s| s.core(request.cut).is_some()).map(|s| s.id()).collect();
            found.push(Refusal::new(at(".style"), style.id(), fits.join(", "), format!("{} is not cooked so.", request.cut.name)));
        }
        FinishAsk::Core(core) if !(40.0..=97.0).contains(&core.in_c()) => {
            found.push(Refusal::new(
                at(".core_c"),
                format!("{} °C", plain(core.in_c())),
                "40 to 97 °C",
                "Say where the core is to end after the rest.",
            ));
        }
        FinishAsk::Core(core) => {
            // Where every stage is colder than the finish, no time will do.
            let (with, kitchen) = (fire.with.unwrap_or_default(), request.kitchen.heat);
            let hottest =
                fire.stages.iter().flatten().map(|ask| ask.whole(with, kitchen).around().fire.air.in_c()).fold(f64::NEG_INFINITY, f64::max);
            if fire.stages.as_ref().is_some_and(|stages| !stages.is_empty()) && core.in_c() >= hottest {
                let allowed = format!("below the {} °C that surround it", plain(hottest));
                found.push(Refusal::new(
                    at(".core_c"),
                    format!("{} °C", plain(core.in_c())),
                    allowed,
                    "Raise a stage, or lower the finish.",
                ));
            }
        }
        FinishAsk::Style(_) => {}
    }
    found
}
