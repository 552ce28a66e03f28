//! Knife and pick in a request: the `skin` object.

use crate::problem::Problem;
use crate::reader::Reader;
use rauchkeller_core::ask::SkinAsk;
use rauchkeller_core::skin::{
    Avoid, CoverWork, FaceShape, FatMap, Lattice, LayerMeasurement, MOST_AVOIDED, MeatSide, Pattern, SKIN_TOOLS, SkinTool, Stop,
};
use rauchkeller_core::units::{Length, millimetres};
use serde_json::Value;

const MM: &str = "millimetres, 0 or more";

/// Reads it; `None` where nothing is said.
pub(crate) fn read_skin(root: &mut Reader, problems: &mut Vec<Problem>) -> Option<SkinAsk> {
    root.get("skin")?;
    let mut skin = root.object("skin", problems);
    let shapes: Vec<&str> = FaceShape::ALL.iter().map(|s| s.id()).collect();
    let shape = skin.named("shape", FaceShape::find, &shapes, problems);
    let mut mm = |name: &'static str| skin.number(name, MM, problems).map(millimetres);
    let (length, width) = (mm("length_mm"), mm("width_mm"));
    let (corner, narrow) = (mm("corner_mm"), mm("narrow_mm"));
    let (edge, margin, depth) = (mm("edge_mm"), mm("margin_mm"), mm("depth_mm"));
    let parts = skin.number("parts", "2 to 16 bones or strips", problems);
    if let Some(n) = parts.filter(|n| !(2.0..=16.0).contains(n)) {
        problems.push(Problem::new(skin.field("parts"), n.to_string(), "2 to 16", "Count the bones, or the strips."));
    }
    let own_pace = skin.number("own_pace_per_min", "presses or centimetres a minute, above 0", problems);
    if let Some(pace) = own_pace.filter(|pace| !(0.1..=5000.0).contains(pace)) {
        problems.push(Problem::new(
            skin.field("own_pace_per_min"),
            pace.to_string(),
            "0.1 to 5000 a minute",
            "Leave it out for the usual pace.",
        ));
    }
    let ask = SkinAsk {
        shape,
        length,
        width,
        corner,
        narrow,
        parts: parts.map(|n| n.clamp(2.0, 16.0) as u32),
        avoid: read_avoid(&mut skin, problems),
        cover: read_cover_work(&mut skin, problems),
        edge,
        tool: read_tool(&mut skin, problems),
        own_pace: own_pace.map(|pace| pace.clamp(0.1, 5000.0)),
        fat: read_fat(&mut skin, problems),
        margin,
        depth,
        meat: read_meat(&mut skin, problems),
    };
    skin.finish(problems);
    Some(ask)
}

fn read_avoid(skin: &mut Reader, problems: &mut Vec<Problem>) -> Vec<Avoid> {
    let mut avoid = Vec::new();
    for mut place in skin.list("avoid", MOST_AVOIDED, problems) {
        let tie = place.number("tie_mm", "millimetres from the left end", problems);
        let (x, y) = (place.number("x_mm", "millimetres", problems), place.number("y_mm", "millimetres", problems));
        let radius = place.number("radius_mm", "1 to 200 mm", problems).unwrap_or(10.0);
        if !(1.0..=200.0).contains(&radius) {
            problems.push(Problem::new(place.field("radius_mm"), radius.to_string(), "1 to 200 mm", "Say how far the knife keeps away."));
        }
        let fits = |mm: f64| (-1000.0..=2000.0).contains(&mm);
        match (tie, x, y) {
            (Some(at), None, None) if fits(at) => avoid.push(Avoid::Tie { at }),
            (None, Some(x), Some(y)) if fits(x) && fits(y) => {
                avoid.push(Avoid::Spot { at: (x, y), radius: millimetres(radius.clamp(1.0, 200.0)) });
            }
            _ => problems.push(Problem::new(
                place.field("tie_mm"),
                "an incomplete or far-off place",
                "tie_mm, or x_mm and y_mm on the face",
                "Measure from the left end and the near edge.",
            )),
        }
        place.finish(problems);
    }
    avoid
}

fn read_cover_work(skin: &mut Reader, problems: &mut Vec<Problem>) -> Option<CoverWork> {
    let kinds = ["whole", "pierce", "parallel", "crosshatch", "diamond"];
    let work = skin.named("work", |id| kinds.iter().find(|k| **k == id).copied(), &kinds, problems);
    let spacing = skin.number("spacing_mm", "1 to 100 mm", problems);
    let direction = skin.number("direction_deg", "-180 to 180, against the clock from the long side", problems).unwrap_or(0.0);
    if !(-180.0..=180.0).contains(&direction) {
        problems.push(Problem::new(
            skin.field("direction_deg"),
            direction.to_string(),
            "-180 to 180",
            "0 runs along the piece, 90 across.",
        ));
    }
    let per_cm2 = skin.number("per_cm2", "0.25 to 25 holes a square centimetre", problems);
    let lattices = |id: &str| match id {
        "square" => Some(Lattice::Square),
        "hexagonal" => Some(Lattice::Hexagonal),
        _ => None,
    };
    let lattice = skin.named("lattice", lattices, &["square", "hexagonal"], problems);
    let score = |pattern, usual| CoverWork::Score { pattern, spacing: millimetres(spacing.unwrap_or(usual)), direction };
    // Whoever speaks of holes means piercing.
    let work = work.or_else(|| (per_cm2.is_some() || lattice.is_some()).then_some("pierce"));
    Some(match work? {
        "whole" => CoverWork::Whole,
        "pierce" => CoverWork::Pierce { lattice: lattice.unwrap_or(Lattice::Square), per_cm2: per_cm2.unwrap_or(8.0) },
        // TRADE 5.2: belly 5–10 one way or 12–15 crosshatch, duck 8–12 in diamonds.
        "parallel" => score(Pattern::Parallel, 8.0),
        "diamond" => score(Pattern::Diamond, 10.0),
        _ => score(Pattern::Crosshatch, 13.0),
    })
}

/// A tool by its name in the table, or one of the household's own as an object.
fn read_tool(skin: &mut Reader, problems: &mut Vec<Problem>) -> Option<SkinTool> {
    if !skin.get("tool")?.is_object() {
        let names: Vec<&str> = SKIN_TOOLS.iter().map(|t| &*t.id).collect();
        return skin.named("tool", SkinTool::find, &names, problems);
    }
    let mut own = skin.object("tool", problems);
    let name = own.text("name", "a name of 1 to 60 letters", problems).unwrap_or_default();
    let reach = own.number("reach_mm", "1 to 200 mm", problems).unwrap_or(f64::NAN);
    let stops: Vec<&str> = Stop::ALL.iter().map(|s| s.id()).collect();
    let stop = own.named("stop", Stop::find, &stops, problems).unwrap_or(Stop::None);
    let pins = own.number("pins", "1 to 200, or nothing for a blade", problems);
    let wears = own.number("wears_after", "presses, 10 to 100000", problems).filter(|n| (10.0..=1e5).contains(n));
    let id = own.text("id", "a stable name", problems).unwrap_or("own").to_owned();
    let read = SkinTool::own(&id, name, reach, stop, pins);
    if let Err(error) = &read {
        let refused = error.refused();
        problems.push(Problem::new(own.field("name"), refused.typed, refused.allowed, refused.remedy));
    }
    own.finish(problems);
    read.ok().map(|tool| SkinTool { wears_after: wears.map(|n| n as u32), ..tool })
}

fn read_fat(skin: &mut Reader, problems: &mut Vec<Problem>) -> Option<FatMap> {
    skin.get("fat")?;
    let mut fat = skin.object("fat", problems);
    let mut spot = |name: &'static str| {
        let mut at = fat.object(name, problems);
        let mut measure = |field: &'static str, most: f64| {
            let mm = at.number(field, MM, problems);
            if let Some(mm) = mm.filter(|mm| !(0.0..=most).contains(mm)) {
                problems.push(Problem::new(at.field(field), format!("{mm} mm"), format!("0 to {most:.0} mm"), "Measure at the cut edge."));
            }
            mm.map(|mm| mm.clamp(0.0, most))
        };
        let (skin, fat) = (measure("skin_mm", 10.0), measure("fat_mm", 60.0));
        if skin.is_none() || fat.is_none() {
            problems.push(Problem::new(
                at.field("fat_mm"),
                "not measured",
                "skin and fat at all four places",
                "Measure all four, or leave them all out.",
            ));
        }
        at.finish(problems);
        let length = |mm: Option<f64>| -> Length { millimetres(mm.unwrap_or(0.0)) };
        LayerMeasurement { skin: length(skin), fat: length(fat) }
    };
    let map = FatMap { left: spot("left"), near: spot("near"), far: spot("far"), right: spot("right") };
    fat.finish(problems);
    Some(map)
}

fn read_meat(skin: &mut Reader, problems: &mut Vec<Problem>) -> Option<MeatSide> {
    if skin.get("meat").is_some_and(Value::is_null) {
        return None;
    }
    skin.get("meat")?;
    let mut meat = skin.object("meat", problems);
    let kinds = ["whole", "grooves", "lattice"];
    let kind = meat.named("kind", |id| kinds.iter().find(|k| **k == id).copied(), &kinds, problems);
    let spacing = meat.number("spacing_mm", "1 to 100 mm", problems).map(millimetres);
    let depth = meat.number("depth_mm", "1 to 20 mm", problems).map(millimetres);
    let beyond = meat.number("beyond_mm", "1 to 4 mm", problems).map(millimetres);
    if kind.is_none() {
        problems.push(Problem::new(meat.field("kind"), "nothing", kinds.join(", "), "Say which, or leave the meat side out."));
    }
    meat.finish(problems);
    // TRADE 5.2: grooves 25–38 both ways, 6 mm deep; a lattice goes 1–2 mm beyond the middle.
    Some(match kind? {
        "whole" => MeatSide::Whole,
        "grooves" => MeatSide::Grooves { spacing: spacing.unwrap_or(millimetres(30.0)), depth: depth.unwrap_or(millimetres(6.0)) },
        _ => MeatSide::Lattice { spacing: spacing.unwrap_or(millimetres(20.0)), beyond: beyond.unwrap_or(millimetres(1.5)) },
    })
}
