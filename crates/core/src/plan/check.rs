//! Refusing what cannot be: every field at once, with what is allowed and what to do.

use super::model_hours::Goal;
use super::request::{PlanRequest, Refusal};
use crate::method::{Method, StepKind};
use crate::piece::{Body, Measures, faces};
use crate::units::{GramsPerKg, Length, LengthIn, MassIn, TemperatureIn, TimeIn, both_length, both_mass, grams, millimetres};

/// The goal of the model's hours, and what was brushed off.
fn rest(request: &PlanRequest) -> Vec<Refusal> {
    let mut refused = Vec::new();
    let (field, low, high, unit) = match request.goal {
        Some(Goal::Depth(_)) => ("goal.depth_mm", 1.0, 200.0, "mm"),
        Some(Goal::Evenness(_)) => ("goal.evenness", 0.05, 0.99, ""),
        Some(Goal::Rim(_)) => ("goal.rim_g_per_kg", 1.0, 200.0, "g/kg"),
        Some(Goal::Dryness(_)) => ("goal.skin_dryness", 0.05, 1.0, ""),
        None => ("", 0.0, 0.0, ""),
    };
    if let Some(goal) = request.goal.filter(|g| !(low..=high).contains(&g.value())) {
        let remedy = "A day carries salt about 12 mm; evenness 0.5 is half-even; skin crackles from 0.95 dry.";
        let (typed, allowed) = (format!("{} {unit}", goal.value()), format!("{low} to {high} {unit}"));
        refused.push(Refusal::new(field, typed.trim_end(), allowed.trim_end(), remedy));
    }
    if matches!(request.goal, Some(Goal::Dryness(_))) && request.cut.skin_mm <= 0.0 {
        refused.push(Refusal::new("goal.skin_dryness", "a dryness", "a depth, an evenness or a rim", "This cut has no skin to dry."));
    }
    let salted = request.done.iter().filter(|d| d.kind == StepKind::Salt).map(|d| d.at).min();
    if request.brushed_off.iter().any(|off| off.salt.in_g() <= 0.0 || salted.is_none_or(|salted| off.at < salted)) {
        refused.push(Refusal::new(
            "done",
            "brushed off",
            "grams above 0, after a salting",
            "Say first when salt went on, then when it came off and how much.",
        ));
    }
    refused
}

pub(super) fn check(request: &PlanRequest) -> Vec<Refusal> {
    let mut refused = Vec::new();
    let cut = request.cut;
    if request.portions.is_empty() {
        refused.push(Refusal::new("piece.portions", "none", "1 to 24 portions", "Say what it weighs."));
    }
    let (light, heavy) = (cut.typical_g.0 * 0.25, cut.typical_g.1 * 3.0);
    for portion in &request.portions {
        if !(light..=heavy).contains(&portion.weight.in_g()) {
            refused.push(Refusal::new(
                "piece.weight_g",
                both_mass(portion.weight).metric,
                format!("{} to {} for one {}", both_mass(grams(light)).metric, both_mass(grams(heavy)).metric, cut.name.to_lowercase()),
                "Weigh it again, or choose another cut.",
            ));
            break;
        }
    }
    let mut length = |field, given: Option<Length>, low: f64, high: f64, what: &str| {
        if let Some(mm) = given.map(LengthIn::in_mm)
            && !(low..=high).contains(&mm)
        {
            refused.push(Refusal::new(field, format!("{mm:.1} mm"), format!("{low} to {high} mm"), format!("Measure {what} again.")));
        }
    };
    length("piece.salt_thickness_mm", request.thickness, 8.0, 250.0, "the shortest way through at the thickest place");
    length("piece.length_mm", request.length, 20.0, 1000.0, "the long side");
    length("piece.width_mm", request.width, 20.0, 1000.0, "the short side");
    length("piece.skin_mm", request.skin, 0.0, 10.0, "the skin at the edge");
    length("piece.fat_mm", request.fat, 0.0, 60.0, "the fat at the edge");
    length("piece.fat_min_mm", request.fat_min, 0.0, 60.0, "the fat at its thinnest");
    length("piece.thin_mm", request.thin, 3.0, 250.0, "the thinnest place");
    for portion in &request.portions {
        length("piece.portions", portion.thickness, 8.0, 250.0, "each portion’s thickness");
    }
    if let (Some(thick), Some(long)) = (request.thickness, request.length)
        && thick > long
    {
        refused.push(Refusal::new(
            "piece.salt_thickness_mm",
            format!("{} thick", both_length(thick).metric),
            format!("at most its length, {}", both_length(long).metric),
            "Thickness is the shortest way through, as the piece lies in the refrigerator.",
        ));
    }
    refused.extend(rest(request));
    if let Some(bone) = request.bone.filter(|b| !(0.0..=0.6).contains(&b.0)) {
        refused.push(Refusal::new(
            "piece.bone_fraction",
            format!("{}", bone.0),
            "0 to 0.6",
            "It is the share of bone in the weight: 0.3 for a duck.",
        ));
    }
    if let Some(mg) = request.solution_sodium_mg_per_100g.filter(|mg| !(0.0..=3000.0).contains(mg)) {
        refused.push(Refusal::new(
            "piece.solution",
            format!("{mg} mg"),
            "0 to 3000 mg sodium per 100 g",
            "Read the sodium line of the label.",
        ));
    }
    if let Some(dose) = request.dose.filter(|d| d.0 < 0.0 || !d.0.is_finite()) {
        refused.push(Refusal::new("salt.g_per_kg", format!("{} g/kg", dose.0), "0 to 39.9 g/kg", "Choose a dose; 10 is the house dose."));
    }
    if let Some(method) = request.method.filter(|m| !m.fits(cut)) {
        refused.push(Refusal::new(
            "method",
            method.name,
            format!("a method written for {}", cut.name.to_lowercase()),
            "The plain dry-brine works for every cut.",
        ));
    }
    if let Some(hours) = request.hours.map(TimeIn::in_h).filter(|h| !(0.0..=240.0).contains(h)) {
        refused.push(Refusal::new("hours", format!("{hours} h"), "0 to 240 h", "Leave it open, and the clock chooses."));
    }
    if let Some(n) = request.servings.filter(|n| !(1..=200).contains(n)) {
        refused.push(Refusal::new("servings", n.to_string(), "1 to 200", "Say how many eat."));
    }
    check_dates(request, &mut refused);
    check_inspection(request, &mut refused);
    check_salting(request, &mut refused);
    check_kitchen(request, &mut refused);
    check_done(request, &mut refused);
    check_faces(request, &mut refused);
    refused
}

fn check_dates(request: &PlanRequest, refused: &mut Vec<Refusal>) {
    if let (Some(bought), Some(use_by)) = (request.bought_on, request.use_by)
        && use_by < bought
    {
        refused.push(Refusal::new(
            "piece.use_by",
            use_by.to_string(),
            format!("on or after the day it was bought, {bought}"),
            "Read the label again.",
        ));
    }
    if let Some(bought) = request.bought_on.filter(|b| *b > request.now.date()) {
        refused.push(Refusal::new(
            "piece.bought_on",
            bought.to_string(),
            format!("today, {}, or earlier", request.now.date()),
            "Plan it once it is in the house, or leave the day open.",
        ));
    }
}

fn check_kitchen(request: &PlanRequest, refused: &mut Vec<Refusal>) {
    let air = request.kitchen.fridge;
    let c = air.temperature.in_c();
    if !(-2.0..=15.0).contains(&c) {
        refused.push(Refusal::new("kitchen.fridge_c", format!("{c:.1} °C"), "−2 to 15 °C", "A refrigerator stands at 0 to 4 °C."));
    }
    if !(0.05..=0.99).contains(&air.humidity.0) {
        refused.push(Refusal::new("kitchen.fridge_rh", air.humidity.0.to_string(), "0.05 to 0.99", "50 % is 0.5."));
    }
    if !(0.5..=40.0).contains(&air.h.0) {
        refused.push(Refusal::new("kitchen.fridge_h_w_m2k", air.h.0.to_string(), "0.5 to 40 W/m²K", "Still air is 4–5, a fan 8."));
    }
}

fn check_done(request: &PlanRequest, refused: &mut Vec<Refusal>) {
    let now = request.now.timestamp();
    for done in &request.done {
        if done.at > now {
            refused.push(Refusal::new(
                "done",
                format!("{} in the future", done.kind.id()),
                "a moment that has passed",
                "Tick it when it is done.",
            ));
        } else if now.duration_since(done.at).as_hours() > 24 * 14 {
            refused.push(Refusal::new(
                "done",
                format!("{} more than two weeks ago", done.kind.id()),
                "within the last 14 days",
                "Check the date.",
            ));
        }
        if done.kind > StepKind::Chill {
            refused.push(Refusal::new(
                "done",
                done.kind.id(),
                "steps up to the refrigerator",
                "Once it is on the fire, tick the steps on its own page.",
            ));
        }
        if let Some(g) = done.salt.map(MassIn::in_g).filter(|g| !(0.0..=2000.0).contains(g)) {
            refused.push(Refusal::new("done", format!("{g} g of salt"), "0 to 2000 g", "Weigh the tub before and after."));
        }
    }
}

fn check_faces(request: &PlanRequest, refused: &mut Vec<Refusal>) {
    let Some(wanted) = &request.faces else { return };
    let measures = Measures { length: millimetres(100.0), width: millimetres(100.0) };
    let loosened = request.method.unwrap_or_else(|| Method::first_for(request.cut)).loosens(request.cut);
    let body = Body {
        weight: grams(1000.0),
        measures,
        thickness: millimetres(40.0),
        skin: millimetres(request.cut.skin_mm),
        fat: millimetres(5.0),
        shaped: None,
    };
    let known: Vec<&str> = faces(&request.cut, body, loosened).iter().map(|f| f.id).collect();
    for face in wanted.iter().filter(|f| !known.contains(&f.as_str())) {
        refused.push(Refusal::new("salt.faces", face.chars().take(40).collect::<String>(), known.join(", "), "Name faces this cut has."));
    }
    if wanted.is_empty() {
        refused.push(Refusal::new("salt.faces", "no face", known.join(", "), "Name at least one, or leave it open."));
    }
}

fn check_inspection(request: &PlanRequest, refused: &mut Vec<Refusal>) {
    let thick = request.thickness.unwrap_or(millimetres(request.cut.thickness_mm.1));
    if let Some(thin) = request.thin.filter(|thin| *thin > thick) {
        refused.push(Refusal::new(
            "piece.thin_mm",
            format!("{} at the thinnest place", both_length(thin).metric),
            format!("at most the thickness at the thickest place, {}", both_length(thick).metric),
            "Measure both places again; they may have changed places.",
        ));
    }
    let Some(trimmed) = request.trimmed else { return };
    let bought = request.portions.iter().fold(grams(0.0), |sum, p| sum + p.weight);
    let (least, most) = (bought * 0.4, bought);
    if request.portions.len() > 1 {
        refused.push(Refusal::new(
            "piece.trimmed_weight_g",
            both_mass(trimmed).metric,
            "one weight for one piece",
            "Write the trimmed weight of every portion as its weight.",
        ));
    } else if !(least.in_g()..=most.in_g() + 1e-6).contains(&trimmed.in_g()) {
        refused.push(Refusal::new(
            "piece.trimmed_weight_g",
            format!("{} after trimming", both_mass(trimmed).metric),
            format!("{} to {}: what was bought less what came off", both_mass(least).metric, both_mass(most).metric),
            "Weigh it again; the dose is on what is left.",
        ));
    }
}

fn check_salting(request: &PlanRequest, refused: &mut Vec<Refusal>) {
    if let Some(dose) = request.portions.iter().filter_map(|p| p.dose).find(|d: &GramsPerKg| d.0 < 0.0 || !d.0.is_finite()) {
        refused.push(Refusal::new("salt.g_per_kg", format!("{} g/kg", dose.0), "0 to 39.9 g/kg", "Choose a dose; 10 is the house dose."));
    }
    if let Some(asked) = request.mix.as_ref().and_then(|m| m.asked).map(MassIn::in_g).filter(|g| !(0.0..=5000.0).contains(g)) {
        refused.push(Refusal::new("mix.g", format!("{asked} g"), "0 to 5000 g", "Leave it open, and it is scaled to the piece."));
    }
    let Some(cover) = request.cover else { return };
    let has_face = request.cut.skin_mm > 0.0 || request.cut.fat_mm > 0.0;
    if !has_face {
        refused.push(Refusal::new("salt.cover", cover.kind.name(), "a cut with skin or a fat cap", "Leave it out for this cut."));
    }
    if let Some(depth) = cover.depth.map(Length::in_mm).filter(|mm| !(1.0..=30.0).contains(mm)) {
        refused.push(Refusal::new(
            "salt.cover.depth_mm",
            format!("{depth} mm of salt"),
            "1 to 30 mm; 3 to 5 is usual",
            "Leave it open for 4 mm.",
        ));
    }
    if let Some(left) = cover.left.map(|g| g.0).filter(|g| !(0.0..=10.0).contains(g)) {
        refused.push(Refusal::new(
            "salt.cover.left_g_per_dm2",
            format!("{left} g/dm²"),
            "0 to 10 g/dm²",
            "It is what stays behind after brushing: about 1 for a crust.",
        ));
    }
}
