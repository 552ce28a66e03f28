//! Refusing what cannot be: every field at once, with what is allowed and what to do.

use super::field::{Field, out_of_range};
use super::tasks::refuse_tasks;
use crate::ask::{Goal, PlanRequest, Portion, Refusal, Thawing, refuse_fire};
use crate::method::StepKind;
use crate::piece::{Body, MEAT_DENSITY_KG_PER_L, Measures, faces};
use crate::units::{Expect, LengthIn, Mass, MassIn, both_length, grams, millimetres};
use jiff::ToSpan;
use std::borrow::Cow;

/// The goal of the model's hours, and what was brushed off.
fn goal_and_salt_off(request: &PlanRequest) -> Vec<Refusal> {
    let mut refused = Vec::new();
    let thick = request.portions.iter().filter_map(|p| p.thickness).chain(request.thickness).map(LengthIn::in_mm).fold(0.0, f64::max);
    let thick = if thick > 0.0 { thick } else { request.thick().in_mm() };
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

pub(crate) fn check(request: &PlanRequest) -> Vec<Refusal> {
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
    refused.extend(out_of_range(request));
    // A portion's own thickness and dose go by the rows of the piece.
    let own = |path: &str, of: fn(&Portion) -> Option<f64>, at: fn(usize) -> String| {
        let row = Field::at(path);
        request.portions.iter().enumerate().filter_map(move |(i, portion)| row?.refuse(at(i), of(portion)?)).collect::<Vec<_>>()
    };
    refused.extend(own(
        "piece.salt_thickness_mm",
        |p| p.thickness.map(LengthIn::in_mm),
        |i| format!("piece.portions[{i}].salt_thickness_mm"),
    ));
    refused.extend(own("salt.g_per_kg", |p| p.dose.map(|d| d.0), |i| format!("piece.portions[{i}].g_per_kg")));
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
    refused.extend(goal_and_salt_off(request));
    if let Some(method) = &request.method
        && let Some(why) = method.why_not(cut)
    {
        refused.push(Refusal::new(
            "method",
            format!("{} for {}", method.name, cut.name.to_lowercase()),
            format!("a method written for it; here {why}"),
            "Choose one of those that fit this piece; the plain dry-brine works for every cut.",
        ));
    }
    check_dates(request, &mut refused);
    check_inspection(request, &mut refused);
    check_salting(request, &mut refused);
    check_kitchen(request, &mut refused);
    check_done(request, &mut refused);
    check_faces(request, &mut refused);
    refused.extend(refuse_fire(request));
    if request.fire.again.is_some() && !request.the_method().heats_again() {
        let remedy = "Leave it out, or take a way that is cooked ahead and chilled.";
        refused.push(Refusal::new("fire.again", "a second heat", "no second heat: this way heats it once", remedy));
    }
    refused.extend(refuse_tasks(request));
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
        let thick = request.thick();
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
    // What is done to it is done to something in the house; a day ahead is when it will be.
    let last = if request.done.is_empty() { today.saturating_add(60.days()) } else { today };
    if let Some(bought) = request.bought_on.filter(|b| *b > last) {
        let (allowed, remedy) = if request.done.is_empty() {
            (format!("until {last}: two months ahead"), "Plan it nearer to the day, or leave the day open.")
        } else {
            (format!("today, {today}, or earlier"), "Something was done to it already: say the day it was bought.")
        };
        refused.push(Refusal::new("piece.bought_on", bought.to_string(), allowed, remedy));
    }
}

/// Days from one date to a later one; below zero the other way round.
fn days_between(from: jiff::civil::Date, to: jiff::civil::Date) -> i32 {
    from.until(to).map_or(0, |span| span.get_days())
}

fn check_kitchen(request: &PlanRequest, refused: &mut Vec<Refusal>) {
    if let Some(quiet) = request.kitchen.quiet.filter(|q| q.from == q.to) {
        refused.push(Refusal::new(
            "kitchen.quiet",
            format!("from {0} to {0}", quiet.from.strftime("%H:%M")),
            "two different wall times",
            "Leave it out for the usual night.",
        ));
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
        if !done.kind.before_the_heat() {
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
    check_thaw(request, refused);
    let thawed = request.done.iter().any(|d| d.kind == StepKind::Thaw);
    if request.frozen && !thawed && request.done.iter().any(|d| !d.kind.while_frozen()) {
        refused.push(Refusal::new(
            "piece.frozen",
            "frozen, and worked on already",
            "frozen, or thawed and worked on",
            "Say when it was thawed, or that it is not frozen any more.",
        ));
    }
}

/// In water it thaws only where it is cooked at once, and under salt only where it lies in the cold.
fn check_thaw(request: &PlanRequest, refused: &mut Vec<Refusal>) {
    let Some(thaw) = request.thaw else { return };
    let rests = request.the_method().rests_in_the_cold();
    if !request.frozen {
        let remedy = "Say that it is frozen, or leave this out.";
        refused.push(Refusal::new("thaw", format!("{}, and not frozen", thaw.id()), "a piece that is frozen", remedy));
    } else if thaw == Thawing::Water && rests {
        let typed = "cold water before a stay in the refrigerator";
        let remedy =
            "Thawed in water it is cooked at once (USDA FSIS). Thaw it in the refrigerator, or take a way without a rest in the cold.";
        refused.push(Refusal::new("thaw", typed, "the refrigerator, before the salt or under it", remedy));
    } else if thaw == Thawing::Salted && !rests {
        let typed = "salted while it thaws, and cooked without a stay in the cold";
        refused.push(Refusal::new(
            "thaw",
            typed,
            "the refrigerator, or cold water",
            "Thaw it whole, or take a way that rests in the cold.",
        ));
    }
}

fn check_faces(request: &PlanRequest, refused: &mut Vec<Refusal>) {
    let at_ledger = request.ledger.iter().enumerate().filter_map(|(i, entry)| Some((format!("ledger[{i}].face"), entry.face.clone()?)));
    let at_mixes = request.mixes.iter().filter_map(|mix| Some((format!("mixes[{}].face", mix.said), mix.face.clone()?)));
    let at_ledger = at_ledger.chain(at_mixes);
    let at_shares = request.shares.iter().flatten().map(|(face, _)| (format!("salt.shares.{face}"), face.clone()));
    let named: Vec<(String, String)> = at_ledger.chain(at_shares).collect();
    if request.faces.is_none() && named.is_empty() {
        return;
    }
    let measures = Measures { length: millimetres(100.0), width: millimetres(100.0) };
    let loosened = request.the_method().loosens(request.cut);
    let body = Body {
        weight: grams(1000.0),
        measures,
        thickness: millimetres(40.0),
        skin: millimetres(request.cut.skin_mm),
        fat: millimetres(5.0),
        shaped: None,
    };
    let known: Vec<&str> = faces(&request.cut, body, loosened).iter().map(|f| f.id).collect();
    for (path, face) in named.iter().filter(|(_, face)| !known.contains(&face.as_str())) {
        refused.push(Refusal::new(path.clone(), face.chars().take(40).collect::<String>(), known.join(", "), "Name a face this cut has."));
    }
    if let Some(shares) = &request.shares {
        let all: f64 = shares.iter().map(|(_, share)| share).sum();
        if shares.iter().any(|(_, share)| !(0.0..=1.0).contains(share)) || (all - 1.0).abs() > 1e-3 {
            let typed = format!("shares that come to {all:.2}");
            refused.push(Refusal::new(
                "salt.shares",
                typed,
                "shares from 0 to 1 that come to 1 together",
                "What one face gets more, another gets less.",
            ));
        }
        if request.faces.is_some() {
            refused.push(Refusal::new(
                "salt.shares",
                "faces and shares",
                "one of them",
                "Leave the faces out; a share of 0 leaves one bare.",
            ));
        }
    }
    let Some(wanted) = &request.faces else { return };
    for face in wanted.iter().filter(|f| !known.contains(&f.as_str())) {
        refused.push(Refusal::new("salt.faces", face.chars().take(40).collect::<String>(), known.join(", "), "Name faces this cut has."));
    }
    if wanted.is_empty() {
        refused.push(Refusal::new("salt.faces", "no face", known.join(", "), "Name at least one, or leave it open."));
    }
}

fn check_inspection(request: &PlanRequest, refused: &mut Vec<Refusal>) {
    let thick = request.thick();
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
    let Some(cover) = request.cover else { return };
    let has_face = request.cut.skin_mm > 0.0 || request.cut.fat_mm > 0.0;
    if !has_face {
        refused.push(Refusal::new("salt.cover", cover.kind.name(), "a cut with skin or a fat cap", "Leave it out for this cut."));
    }
    if let Some(depth) = cover.depth.filter(|_| cover.kind.usual_depth_mm().is_none()) {
        let typed = format!("{} of a {}", both_length(depth).metric, cover.kind.name());
        let remedy = "It is sprinkled, not laid on by depth: leave the depth out.";
        refused.push(Refusal::new("salt.cover.depth_mm", typed, "a depth of a crust or a bed", remedy));
    }
}
