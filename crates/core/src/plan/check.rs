//! Refusing what cannot be: every field at once, with what is allowed and what to do.

use super::model_hours::Goal;
use super::request::{PlanRequest, Portion, Refusal};
use crate::method::{Method, StepKind};
use crate::piece::{Body, MEAT_DENSITY_KG_PER_L, Measures, faces};
use crate::salt::PackLabel;
use crate::units::{Expect, GramsPerKg, Length, LengthIn, Mass, MassIn, TemperatureIn, TimeIn, both_length, grams, millimetres};
use std::borrow::Cow;

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
        let remedy = "A day carries salt about 12 mm; skin crackles from 95 % dry.";
        let (typed, allowed) = (format!("{} {unit}", goal.value()), format!("{low} to {high} {unit}"));
        refused.push(Refusal::new(field, typed.trim_end(), allowed.trim_end(), remedy));
    }
    let thick = request.portions.iter().filter_map(|p| p.thickness).chain(request.thickness).map(LengthIn::in_mm).fold(0.0, f64::max);
    let thick = if thick > 0.0 { thick } else { request.cut.thickness_mm.1 };
    if let Some(Goal::Depth(depth)) = request.goal.filter(|g| matches!(g, Goal::Depth(d) if d.in_mm() > thick)) {
        refused.push(Refusal::new(
            "goal.depth_mm",
            both_length(depth).metric,
            format!("at most the {} of the piece", both_length(millimetres(thick)).metric),
            "Right through is as deep as it goes.",
        ));
    }
    if matches!(request.goal, Some(Goal::Dryness(_))) && request.cut.skin_mm <= 0.0 {
        refused.push(Refusal::new(
            "goal.skin_dryness",
            "a dryness",
            "a depth, an evenness or the outer 5 mm",
            "This cut has no skin to dry.",
        ));
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
    let on: Option<f64> = request.done.iter().filter(|d| d.kind == StepKind::Salt).map(|d| d.salt.map(MassIn::in_g)).sum();
    let off: f64 = request.brushed_off.iter().map(|o| o.salt.in_g()).sum();
    if let Some(on) = on.filter(|on| off > on + 0.05) {
        refused.push(Refusal::new(
            "done",
            format!("{off:.1} g brushed off"),
            format!("at most the {on:.1} g that went on"),
            "Weigh what came off without its plate, or say how much went on.",
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
    let Expect { low: light, high: heavy, .. } = cut.one_weighs();
    let several = request.portions.len() > 1;
    for (i, portion) in request.portions.iter().enumerate() {
        if !(light..=heavy).contains(&portion.weight.in_g()) {
            let field = if several { Cow::Owned(format!("piece.portions[{i}].weight_g")) } else { Cow::Borrowed("piece.weight_g") };
            refused.push(Refusal::new(
                field,
                exact_mass(portion.weight),
                format!("{} to {} for one {}", exact_mass(grams(light)), exact_mass(grams(heavy)), cut.name.to_lowercase()),
                "Weigh it again, say how many pieces it is, or choose another cut.",
            ));
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
    refused.extend(shape(request));
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
    match request.solution {
        Some(PackLabel::Sodium(mg)) if !(0.0..=3000.0).contains(&mg) => refused.push(Refusal::new(
            "piece.solution",
            format!("{mg:.0} mg"),
            "0 to 3000 mg sodium per 100 g",
            "Read the sodium line of the label.",
        )),
        Some(PackLabel::UpTo(share)) if !(0.0..=0.5).contains(&share.0) => refused.push(Refusal::new(
            "piece.solution",
            format!("up to {:.0} % of a solution", share.0 * 100.0),
            "0 to 50 % of a solution",
            "Read the line beside the name on the label.",
        )),
        _ => {}
    }
    if let Some(dose) = request.dose.filter(|d| d.0 < 0.0 || !d.0.is_finite()) {
        refused.push(Refusal::new("salt.g_per_kg", format!("{} g/kg", dose.0), "0 to 39.9 g/kg", "Choose a dose; 10 is usual."));
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

/// Grams as typed, where rounding would say something else.
fn exact_mass(mass: Mass) -> String {
    let g = mass.in_g();
    if g.abs() >= 1e7 {
        return format!("{g:.3e} g");
    }
    let kg = g / 1000.0;
    if g >= 1000.0 { format!("{} kg", trimmed(kg, 3)) } else { format!("{} g", trimmed(g, 1)) }
}

fn trimmed(value: f64, places: usize) -> String {
    let text = format!("{value:.places$}");
    if text.contains('.') { text.trim_end_matches('0').trim_end_matches('.').to_owned() } else { text }
}

/// Measures that no piece of this weight can have, and layers that do not fit into each other.
fn shape(request: &PlanRequest) -> Vec<Refusal> {
    let mut refused = Vec::new();
    let cut = request.cut;
    let cubic_mm = |mass: Mass| mass.in_kg() / MEAT_DENSITY_KG_PER_L * 1e6;
    let bulk = |mass: Mass| cubic_mm(mass) * if cut.is_bird() { 1.5 } else { 1.0 };
    // The shortest way through is never longer than a ball of that weight is wide.
    let ball = |mass: Mass| (6.0 * bulk(mass) / std::f64::consts::PI).cbrt();
    for (i, portion) in request.portions.iter().enumerate() {
        let Some(thick) = portion.thickness.or(request.thickness) else { continue };
        let widest = ball(portion.weight) * 1.1;
        if portion.weight.in_g() > 0.0 && thick.in_mm() > widest && thick.in_mm() <= 250.0 {
            let field = match portion.thickness {
                Some(_) if request.portions.len() > 1 => Cow::Owned(format!("piece.portions[{i}].salt_thickness_mm")),
                _ => Cow::Borrowed("piece.salt_thickness_mm"),
            };
            refused.push(Refusal::new(
                field,
                format!("{} thick and {}", both_length(thick).metric, exact_mass(portion.weight)),
                format!("at most {:.0} mm for that weight, which is as wide as a ball of it", widest.floor()),
                "Measure the shortest way through, and weigh it again.",
            ));
        }
    }
    let whole = request.portions.first().filter(|_| request.portions.len() == 1).map(|p| request.trimmed.unwrap_or(p.weight));
    if let (Some(weight), Some(long), Some(wide)) = (whole, request.length, request.width) {
        let thick = request.thickness.unwrap_or(millimetres(cut.thickness_mm.1));
        let times = long.in_mm() * wide.in_mm() * thick.in_mm() / cubic_mm(weight).max(1.0);
        let (least, most) = if cut.is_bird() { (0.3, 12.0) } else { (0.4, 5.0) };
        if !(least..=most).contains(&times)
            && weight.in_g() > 0.0
            && (20.0..=1000.0).contains(&long.in_mm())
            && (20.0..=1000.0).contains(&wide.in_mm())
        {
            refused.push(Refusal::new(
                "piece.length_mm",
                format!("{:.0} × {:.0} mm for {}", long.in_mm(), wide.in_mm(), exact_mass(weight)),
                "a length and a width that such a weight can have",
                "Measure both sides as it lies, in millimetres, and weigh it again.",
            ));
        }
    }
    if let (Some(fat), Some(least)) = (request.fat, request.fat_min)
        && least > fat
    {
        refused.push(Refusal::new(
            "piece.fat_min_mm",
            format!("{} at its thinnest", both_length(least).metric),
            format!("at most the {} of fat elsewhere", both_length(fat).metric),
            "Measure both places again; they may have changed places.",
        ));
    }
    let fat = request.fat.map_or(cut.fat_mm, LengthIn::in_mm);
    if let Some(least) = request.fat_min.filter(|least| request.fat.is_none() && least.in_mm() > fat.max(20.0)) {
        refused.push(Refusal::new(
            "piece.fat_min_mm",
            format!("{} at its thinnest", both_length(least).metric),
            format!("at most the fat elsewhere, usually {fat:.0} mm"),
            "Say how thick the fat is elsewhere, too.",
        ));
    }
    if let Some(thin) = request.thin {
        let layers = request.skin.map_or(cut.skin_mm, LengthIn::in_mm) + if cut.skin_mm > 0.0 { fat } else { 0.0 };
        if thin.in_mm() <= layers && cut.skin_mm > 0.0 {
            refused.push(Refusal::new(
                "piece.thin_mm",
                format!("{} at the thinnest place", both_length(thin).metric),
                format!("more than the {layers:.1} mm of skin and fat over it"),
                "Measure all the way through, skin and fat too.",
            ));
        }
    }
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
    let today = request.now.date();
    if let Some(use_by) = request.use_by.filter(|day| !request.frozen && days_between(*day, today) > 60) {
        refused.push(Refusal::new(
            "piece.use_by",
            use_by.to_string(),
            "a day of these weeks, with its year",
            "That day passed months ago: read the label again, the year too.",
        ));
    }
    if let Some(bought) = request.bought_on.filter(|day| !request.frozen && days_between(*day, today) > 60) {
        refused.push(Refusal::new(
            "piece.bought_on",
            bought.to_string(),
            "a day of these weeks, with its year",
            "Nothing raw keeps that long: check the date, or say that it is frozen.",
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

/// Days from one date to a later one; below zero the other way round.
fn days_between(from: jiff::civil::Date, to: jiff::civil::Date) -> i32 {
    from.until(to).map_or(0, |span| span.get_days())
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
    if let Some(quiet) = request.kitchen.quiet.filter(|q| q.from == q.to) {
        refused.push(Refusal::new(
            "kitchen.quiet",
            format!("from {0} to {0}", quiet.from.strftime("%H:%M")),
            "two different wall times",
            "Leave it out for the usual night.",
        ));
    }
    if !(0.5..=40.0).contains(&air.h.0) {
        refused.push(Refusal::new("kitchen.fridge_h_w_m2k", air.h.0.to_string(), "0.5 to 40 W/m²K", "Still air is 4–5, a fan 8."));
    }
}

fn check_done(request: &PlanRequest, refused: &mut Vec<Refusal>) {
    let now = request.now.timestamp();
    for (i, done) in request.done.iter().enumerate() {
        let field = || format!("done[{i}]");
        if done.at > now {
            let said = format!("{} in the future", done.kind.id());
            refused.push(Refusal::new(field(), said, "a moment that has passed", "Tick it when it is done."));
        } else if now.duration_since(done.at).as_hours() > 24 * 14 {
            let said = format!("{} more than two weeks ago", done.kind.id());
            refused.push(Refusal::new(field(), said, "within the last 14 days", "Check the date."));
        }
        if done.kind > StepKind::Chill {
            refused.push(Refusal::new(
                field(),
                done.kind.id(),
                "steps up to the refrigerator",
                "Once it is on the fire, tick the steps on its own page.",
            ));
        }
        if let Some(g) = done.salt.map(MassIn::in_g).filter(|g| !(0.0..=2000.0).contains(g)) {
            refused.push(Refusal::new(field(), format!("{g} g of salt"), "0 to 2000 g", "Weigh the tub before and after."));
        }
    }
    let thawed = request.done.iter().any(|d| d.kind == StepKind::Thaw);
    if request.frozen && !thawed && request.done.iter().any(|d| d.kind > StepKind::Thaw && d.kind != StepKind::LayOut) {
        refused.push(Refusal::new(
            "piece.frozen",
            "frozen, and worked on already",
            "frozen, or thawed and worked on",
            "Say when it was thawed, or that it is not frozen any more.",
        ));
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
            exact_mass(trimmed),
            "one weight for one piece",
            "Write the trimmed weight of every portion as its weight.",
        ));
    } else if !(least.in_g()..=most.in_g() + 1e-6).contains(&trimmed.in_g()) {
        refused.push(Refusal::new(
            "piece.trimmed_weight_g",
            format!("{} after trimming", exact_mass(trimmed)),
            format!("{} to {}: what was bought less what came off", exact_mass(least), exact_mass(most)),
            "Weigh it again; the dose is on what is left.",
        ));
    }
}

fn check_salting(request: &PlanRequest, refused: &mut Vec<Refusal>) {
    let absurd = |p: &Portion| p.dose.filter(|d: &GramsPerKg| d.0 < 0.0 || !d.0.is_finite());
    if let Some((i, dose)) = request.portions.iter().enumerate().find_map(|(i, p)| Some((i, absurd(p)?))) {
        let field = format!("piece.portions[{i}].g_per_kg");
        refused.push(Refusal::new(field, format!("{} g/kg", dose.0), "0 to 39.9 g/kg", "Choose a dose; 10 is usual."));
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
