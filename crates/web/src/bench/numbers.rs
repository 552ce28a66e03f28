//! The numbers beside the picture, as text.

use super::heat_lines::{again_line, dial_line, fire_line, heat_misses, pull_line, skin_line};
use super::knots::{Knot, knots};
use crate::draw::{Band, Slice, Width, draw_band, draw_heat, draw_ladder, draw_slice, draw_tray};
use crate::kit::Shelf;
use crate::words::{day_wall, fahrenheit, figure_in_units, g_per_kg, grams, instant, other_system, pull_word, span, trim, wall};
use jiff::{SignedDuration, ZonedDateTime};
use rauchkeller_contract::{
    CautionDoc, CoverDoc, DoseDoc, FaceDoc, FridgeDoc, InspectionDoc, LateWayDoc, MixDoc, MixOnDoc, MixPartDoc, PlanDoc, TooLateDoc,
    WayOutDoc, WhyDoc,
};
use rauchkeller_core::ask::say_stages;
use rauchkeller_core::method::Method;
use rauchkeller_core::skin::drying::FridgePlacement;
use rauchkeller_core::units::{Both, System, both_length, both_mass, grams as mass, millimetres};

/// One line of a bar.
#[derive(Debug, Clone)]
pub struct FaceLine {
    pub g: String,
    pub name: String,
    pub density: String,
    /// Grams of the mix on it; empty for none.
    pub mix: String,
    pub bare: bool,
}

impl FaceLine {
    fn of(face: &FaceDoc) -> Self {
        Self {
            g: grams(face.scale_g),
            name: face.name.clone(),
            density: format!("{} g/dm²", trim(face.g_per_dm2, 1)),
            mix: if face.mix_g >= 0.05 { grams(face.mix_g) } else { String::new() },
            bare: face.is_bare(),
        }
    }
}

/// Salt on the skin as a tool.
#[derive(Debug, Clone)]
pub struct CoverLine {
    pub g: String,
    pub what: String,
    pub spoons: String,
    pub left: String,
}

impl CoverLine {
    /// `a crust`, 4 mm deep on 5.1 dm² of skin; what stays is in the ladder.
    pub fn of(cover: &CoverDoc) -> Self {
        let deep = cover.depth_mm.map_or_else(String::new, |mm| format!(" {} mm deep", trim(mm, 1)));
        let sure = if cover.left_is_estimate { ", an estimate" } else { "" };
        Self {
            g: format!("{:.0}", cover.g),
            what: format!("for {}{deep} on {} dm² of {}", cover.name, trim(cover.area_dm2, 1), cover.on),
            spoons: cover.spoons.clone(),
            left: format!("{} g of it stay on the skin{sure}, and are eaten with it", grams(cover.left_g)),
        }
    }
}

/// A mix scaled to the piece, as text.
#[derive(Debug, Clone)]
pub struct MixLines {
    pub g: String,
    pub name: String,
    pub salt: String,
    pub share: String,
    pub parts: Vec<(String, String)>,
}

impl MixLines {
    /// Of the contract's mix.
    pub fn of(mix: &MixDoc) -> Self {
        Self::scaled(&mix.name, (mix.g, mix.salt_g, mix.salt_g_per_100g), &mix.parts)
    }

    /// Of a mix besides.
    pub fn besides(mix: &MixOnDoc) -> Self {
        Self::scaled(&mix.name, (mix.g, mix.salt_g, mix.salt_g_per_100g), &mix.parts)
    }

    /// By its grams, the salt they bring, and grams of salt in 100 g.
    fn scaled(name: &str, (g, salt_g, share): (f64, f64, f64), parts: &[MixPartDoc]) -> Self {
        let parts = parts.iter().map(|part| (grams(part.g), part.name.clone())).collect();
        Self { g: grams(g), name: name.to_owned(), salt: grams(salt_g), share: trim(share, 1), parts }
    }
}

/// Spoons in both kinds where they differ, what they weigh, and the cook's own pinches.
pub fn spoons_line(dose: &DoseDoc) -> String {
    let off = dose.spoons_g - dose.scale_g;
    let weighs = trim(dose.spoons_g, 1);
    let us = match (trim(off.abs(), 1).as_str(), off > 0.0) {
        ("0", _) => format!("{}, level ({weighs} g)", dose.spoons),
        (by, true) => format!("{}, level ({weighs} g: {by} g over)", dose.spoons),
        (by, false) => format!("{}, level ({weighs} g: {by} g under)", dose.spoons),
    };
    let metric = if dose.metric_spoons == dose.spoons { String::new() } else { format!("; metric {}", dose.metric_spoons) };
    let pinches = dose.pinches.map_or_else(String::new, |count| format!("; {count} of your pinches"));
    us + &metric + &pinches
}

/// How far the core climbs after the heat.
pub(super) fn climb_words((low, high): (f64, f64)) -> String {
    format!("core climbs {low:.0}–{high:.0} °C more")
}

/// Stages of a request in the words that say them again.
fn said_again(stages: &serde_json::Value) -> String {
    let request = serde_json::json!({"fire": {"stages": stages}});
    rauchkeller_contract::fire_of(&request).stages.map_or_else(String::new, |stages| say_stages(&stages))
}

/// Too late for a dry-brine: what to do instead, as text.
#[derive(Debug, Clone)]
pub struct Late {
    pub says: String,
    pub ways: Vec<LateLine>,
}

/// One way, and the word of the sentence that takes it.
#[derive(Debug, Clone)]
pub struct LateLine {
    pub what: String,
    pub rim: String,
    pub depth: String,
    pub dry: String,
    /// The words that take it, each with what is put there.
    pub take: Vec<(&'static str, String)>,
}

impl Late {
    fn of(late: &TooLateDoc, now: &ZonedDateTime, system: Option<System>) -> Self {
        let own = |both: Both| if system == Some(System::Customary) { both.customary } else { both.metric };
        let line = |way: &LateWayDoc| LateLine {
            what: way.what.clone(),
            rim: format!("{:.0} g/kg", way.rim_g_per_kg),
            depth: own(both_length(millimetres(way.depth_mm.round()))),
            dry: way.skin_dryness.map_or_else(String::new, |dry| format!("{:.0} %", dry * 100.0)),
            take: if let Some(at) = &way.serve_at {
                let at = instant(at).to_zoned_datetime(now.time_zone().clone());
                vec![("serve", at.strftime("%a %-d %b %Y %H:%M").to_string())]
            } else {
                let dose = ("dose", format!("{} g/kg", trim(way.g_per_kg, 1)));
                way.method.iter().map(|id| ("method", id.clone())).chain([dose]).collect()
            },
        };
        Self { says: late.says.clone(), ways: late.ways.iter().map(line).collect() }
    }

    /// Whether any way speaks of skin.
    pub fn has_skin(&self) -> bool {
        self.ways.iter().any(|way| !way.dry.is_empty())
    }
}

/// The numbers beside the picture, as text.
#[derive(Debug, Clone, Default)]
pub struct Numbers {
    /// Whether the drawn slice leaves room beside it.
    pub compact: bool,
    pub slice_wide: String,
    pub slice_narrow: String,
    pub band_wide: String,
    pub band_narrow: String,
    pub grams: String,
    pub ounces: String,
    pub dose_line: String,
    pub spoons: String,
    pub each: String,
    /// Whether any loose salt goes on the scale.
    pub weighs: bool,
    /// Whether anything goes on the faces, loose or mixed.
    pub lays: bool,
    /// The portions, drawn, where there are several.
    pub tray: String,
    pub mix: Option<MixLines>,
    pub cover: Option<CoverLine>,
    pub inspection: Vec<InspectionDoc>,
    pub ways_out: Vec<WayOutDoc>,
    /// What makes the skin crackle: what, what it gives, and the stages in words.
    pub fierce_end: Option<(String, String, String)>,
    /// What to do instead, where it is too late for a dry-brine.
    pub late: Option<Late>,
    /// Where the numbers come from, by name.
    pub reasons: Vec<WhyDoc>,
    pub faces: Vec<FaceLine>,
    pub ladder: String,
    pub sodium: String,
    /// Where the mouthfuls are told of: what is salted only after the cold is salted on the plate.
    pub bites_where: &'static str,
    pub rim: String,
    pub middle: String,
    pub slice: String,
    pub fridge_line: String,
    pub lost: String,
    /// What one could rest for, and when it is reached.
    pub goals: Vec<(String, String)>,
    /// Salt in what is eaten.
    pub plate: String,
    /// What it does in the refrigerator; empty where it does not lie there.
    pub cold_title: &'static str,
    /// Why the two schools differ.
    pub differs: String,
    pub planned: String,
    pub slider: String,
    pub slider_max: String,
    pub into_cold: String,
    pub out_of_cold: String,
    pub skin_state: String,
    pub depth: String,
    pub salted_to: String,
    pub knots: Vec<Knot>,
    pub pull_word: &'static str,
    pub pull: String,
    pub pull_unit: String,
    pub pull_other: String,
    pub pull_line: String,
    pub fire_line: String,
    /// The heat as a picture, wide and narrow.
    pub heat_wide: String,
    pub heat_narrow: String,
    /// How long, and from when to when.
    pub heat_takes: String,
    pub heat_from: String,
    pub heat_to: String,
    /// Where it ends, where that is not the finish.
    pub heat_misses: String,
    /// What the heat does to the skin.
    pub skin_line: String,
    /// Where the dial is to stand.
    pub dial_line: String,
    /// Cooked ahead: how long it is chilled, when and how long it is heated again; empty where it is heated once.
    pub again_line: String,
    pub meals: String,
    pub worth: Option<String>,
    pub loud: Vec<CautionDoc>,
    pub quiet: Vec<CautionDoc>,
}

impl Numbers {
    /// Of a plan, told at a moment.
    pub fn of(plan: &PlanDoc, now: &ZonedDateTime, shelf: &Shelf) -> Self {
        let system = shelf.system;
        let slice = Slice::of(plan).by(system);
        let (fridge, request, dose) = (&plan.fridge, &plan.request, &plan.dose);
        let band = Band::of(fridge, now.time_zone());
        let span_h = band.span_h;
        let target = plan.fire.targets.first().map_or_else(String::new, |t| format!("{:.0}", t.pull_c));
        let (pull, pull_unit, pull_other) = figure_in_units(&target, "°C", system);
        let (bites_where, bites) = bites_of(fridge);
        let (loud, quiet): (Vec<_>, Vec<_>) = plan.cautions.iter().cloned().partition(|c| c.severity != "note");
        Self {
            compact: slice.leaves_room(),
            slice_wide: draw_slice(&slice, Width::Wide),
            slice_narrow: draw_slice(&slice, Width::Narrow),
            band_wide: draw_band(&band, Width::Wide),
            band_narrow: draw_band(&band, Width::Narrow),
            grams: grams(dose.scale_g),
            ounces: other_system(&grams(dose.scale_g), "g"),
            dose_line: format!(
                "{} · {} g/kg of {} {}",
                request.salt_name,
                trim(request.g_per_kg, 1),
                both_mass(mass(basis_weight(request.weight_g, request.bone_fraction, &request.basis))).metric,
                request.basis
            ),
            spoons: spoons_line(dose),
            each: each_of(dose),
            weighs: dose.scale_g > 0.0,
            lays: dose.scale_g > 0.0 || dose.mix.as_ref().is_some_and(|mix| mix.g > 0.0 && mix.bath_h.is_none()),
            tray: draw_tray(&dose.portions, Width::Wide) + &draw_tray(&dose.portions, Width::Narrow),
            mix: dose.mix.as_ref().map(MixLines::of),
            cover: dose.cover.as_ref().map(CoverLine::of),
            inspection: plan.inspection.clone(),
            ways_out: plan.ways_out.clone(),
            fierce_end: plan.fierce_end.as_ref().map(|end| (end.what.clone(), end.gives.clone(), said_again(&end.stages))),
            late: plan.too_late.as_ref().map(|late| Late::of(late, now, system)),
            reasons: plan.why.clone(),
            faces: dose.by_face.iter().map(FaceLine::of).collect(),
            ladder: draw_ladder(dose),
            sodium: format!(
                "{:.0} mg of sodium in a serving. The WHO advises less than 2,000 mg a day; US labels count 2,300 mg as a day’s worth",
                dose.sodium_mg_per_serving
            ),
            bites_where,
            rim: format!("{:.0}", bites.0),
            middle: g_per_kg(bites.1),
            slice: format!("{:.0}", bites.2),
            fridge_line: format!(
                "{} °C ({}), {:.0} % humid",
                trim(request.fridge_c, 1),
                format_args!("{} °F", fahrenheit(request.fridge_c)),
                request.fridge_rh * 100.0
            ),
            lost: format!("{:.0} g lighter", fridge.lost_g),
            goals: goals(fridge),
            differs: fridge.model.as_ref().map(|m| m.differs.clone()).unwrap_or_default(),
            plate: fridge.plate.as_ref().map_or_else(String::new, |plate| {
                let liquid = (plate.into_liquid * 100.0).round();
                let liquid = if liquid >= 1.0 { format!("; {liquid:.0}\u{a0}% of its salt goes into the liquid") } else { String::new() };
                format!(
                    "on the plate, our estimate: outer 5 mm {:.0}, middle {}, whole slice {:.0} g/kg{liquid}",
                    plate.rim_g_per_kg,
                    g_per_kg(plate.middle_g_per_kg),
                    plate.slice_g_per_kg
                )
            }),
            cold_title: cold_title(plan, shelf.method(&plan.request.method).as_ref()),
            planned: trim(fridge.planned_h, 1),
            slider: trim(fridge.planned_h, 2),
            slider_max: trim(span_h, 2),
            into_cold: day_wall(instant(&fridge.from), now),
            out_of_cold: day_wall(instant(&fridge.to), now),
            skin_state: fridge.skin_dryness.map_or_else(String::new, |d| {
                format!("skin {:.0} % dry, feels {}", d * 100.0, feels(fridge.skin_touch.as_deref().unwrap_or_default()))
            }),
            depth: depth_line(plan),
            salted_to: format!("seasoned to {:.0} mm", fridge.salted_depth_mm),
            knots: knots(plan, now),
            pull_word: pull_word(&plan.fire),
            pull,
            pull_unit,
            pull_other,
            pull_line: pull_line(plan),
            fire_line: fire_line(plan),
            heat_wide: draw_heat(plan, now, Width::Wide, system),
            heat_narrow: draw_heat(plan, now, Width::Narrow, system),
            heat_takes: span(SignedDuration::from_mins(plan.fire.minutes.round() as i64)),
            heat_from: plan.fire.stages.first().map(|s| day_wall(instant(&s.starts_at), now)).unwrap_or_default(),
            heat_to: plan.fire.stages.last().map(|s| wall(instant(&s.ends_at), now)).unwrap_or_default(),
            heat_misses: heat_misses(plan),
            skin_line: skin_line(plan, now),
            dial_line: dial_line(plan),
            again_line: again_line(plan, now),
            meals: meals_line(plan, now),
            worth: plan.worth_measuring.first().map(|w| format!("Worth measuring: {}.", w.effect)),
            loud,
            quiet,
        }
    }
}

impl Numbers {
    /// Whether the days of its knots are said with their dates.
    pub fn is_dated(&self) -> bool {
        self.knots.iter().any(|knot| knot.when.split_whitespace().count() > 2)
    }

    /// The reason of a number; the template asks for those that every plan has, or checks.
    pub fn reason(&self, number: &str) -> Option<&WhyDoc> {
        self.reasons.iter().find(|why| why.number == number)
    }
}

/// A word of the touch scale after “feels”.
fn feels(touch: &str) -> &str {
    if touch == "parchment" { "like parchment" } else { touch }
}

/// How it lies, in words.
pub(super) fn lies(id: &str) -> &'static str {
    FridgePlacement::find(id).unwrap_or_default().words()
}

/// The grams of each portion, where there are several.
fn each_of(dose: &DoseDoc) -> String {
    let list: Vec<String> = dose.portions.iter().map(|p| format!("{} g", grams(p.scale_g))).collect();
    match list.as_slice() {
        [] | [_] => String::new(),
        [first, others @ ..] if others.iter().all(|g| g == first) => format!("{} × {first} each", list.len()),
        _ => list.join(" · "),
    }
}

/// Where the mouthfuls are told of, and how salty they are: outer, least salted, whole slice.
fn bites_of(fridge: &FridgeDoc) -> (&'static str, (f64, f64, f64)) {
    let in_the_cold = (fridge.rim_g_per_kg, fridge.middle_g_per_kg, fridge.slice_g_per_kg);
    let plate = fridge.plate.as_ref().map(|p| (p.rim_g_per_kg, p.middle_g_per_kg, p.slice_g_per_kg));
    let salted_there = plate.filter(|plate| in_the_cold.2 < 0.05 && plate.2 > 0.05);
    salted_there.map_or(("", in_the_cold), |plate| (" on the plate", plate))
}

/// What the rest in the cold is, by the method's own way.
fn cold_title(plan: &PlanDoc, method: Option<&Method>) -> &'static str {
    let after = method.is_some_and(|method| method.salts_after_the_cold());
    match plan.dose.mix.as_ref() {
        // Hours may be dragged to none, and back again; a method without any has nothing to drag.
        _ if method.is_some_and(|method| !method.rests_in_the_cold()) => "",
        _ if plan.dose.cover.as_ref().is_some_and(|cover| cover.kind == "bed") => "On its bed of salt, in the refrigerator",
        _ if after => "A rest unsalted, in the refrigerator",
        Some(mix) if mix.bath_h.is_some() => "In its marinade, in the refrigerator",
        _ => "Dry-brine, in the refrigerator",
    }
}

/// Each goal of the model with its hours.
fn goals(fridge: &FridgeDoc) -> Vec<(String, String)> {
    let goals = fridge.model.as_ref().map_or(&[][..], |m| &m.goals);
    let at = |h: Option<f64>| match h {
        None => "more than a week".to_owned(),
        Some(h) if h < 0.5 => "already".to_owned(),
        Some(h) => format!("{h:.0} h"),
    };
    let wet =
        fridge.wet_h.map(|h| (span(jiff::SignedDuration::from_mins((h * 60.0) as i64)), "until the salt on it has gone in".to_owned()));
    wet.into_iter().chain(goals.iter().map(|goal| (at(goal.at_h), goal.words.clone()))).collect()
}

fn basis_weight(weight_g: f64, bone: f64, basis: &str) -> f64 {
    rauchkeller_core::units::MassIn::in_g(rauchkeller_core::salt::basis_weight(
        mass(weight_g),
        rauchkeller_core::units::Share(bone),
        if basis == "whole" { rauchkeller_core::salt::Basis::Whole } else { rauchkeller_core::salt::Basis::Edible },
    ))
}

fn depth_line(plan: &PlanDoc) -> String {
    let Some(skin) = &plan.skin else { return String::new() };
    match (skin.holes, skin.depth_max_mm, &skin.depth_refused) {
        (Some(holes), Some(stop), _) => {
            let both = both_length(millimetres(stop));
            format!(
                "{holes} holes, {} presses of a {}; it stops {} ({}) under the surface, largest gap {} mm",
                skin.presses.unwrap_or_default(),
                skin.tool.as_deref().unwrap_or("pick"),
                both.metric,
                both.customary,
                trim(skin.largest_gap_mm.unwrap_or_default(), 1)
            )
        }
        (Some(_), None, Some(why)) => why.clone(),
        (None, Some(stop), _) if skin.strokes.is_some() => {
            let both = both_length(millimetres(stop));
            format!("{} strokes; the knife stops {} ({}) under the surface", skin.strokes.unwrap_or_default(), both.metric, both.customary)
        }
        _ => "No knife: the skin stays whole".into(),
    }
}

fn meals_line(plan: &PlanDoc, now: &ZonedDateTime) -> String {
    let at = |text: &str| wall(instant(text), now);
    format!(
        "From now: the earliest meal with hours enough is {}, the best {}, the latest {}.",
        at(&plan.meals.earliest),
        at(&plan.meals.best),
        at(&plan.meals.latest)
    )
}

#[cfg(test)]
mod tests;
