//! What the Bench shows.

use super::form::{BenchForm, FIRST_CUT, leave_out, slip, word_of};
use crate::draw::{Band, Slice, Width, draw_band, draw_ladder, draw_slice};
use crate::words::{day_wall, grams, instant, other_system, sentence, span, trim, wall};
use jiff::ZonedDateTime;
use rauchkeller_contract::{CautionDoc, PlanDoc, plan_from};
use rauchkeller_core::method::{METHODS, Method};
use rauchkeller_core::piece::{Cut, Family, Species};
use rauchkeller_core::salt::SALTS;
use rauchkeller_core::units::{both_length, both_mass, both_temperature, celsius, grams as mass, millimetres};
use serde_json::Value;
use std::collections::BTreeMap;
use uuid::Uuid;

/// A choice in the sentence.
#[derive(Debug, Clone)]
pub struct Choice {
    pub id: &'static str,
    pub name: String,
    pub chosen: bool,
}

/// A word typed in the sentence.
#[derive(Debug, Clone, Default)]
pub struct Word {
    pub name: &'static str,
    pub label: &'static str,
    pub typed: String,
    /// What is used while nothing is typed.
    pub guess: String,
    /// The same in the other system.
    pub other: String,
    pub slip: Option<String>,
}

impl Word {
    /// Whether the kitchen guessed it.
    pub fn guessed(&self) -> bool {
        self.typed.trim().is_empty()
    }
}

/// A knot of the day.
#[derive(Debug, Clone)]
pub struct Knot {
    pub when: String,
    pub what: String,
    pub detail: String,
    pub place: &'static str,
}

/// One line of a bar.
#[derive(Debug, Clone)]
pub struct FaceLine {
    pub g: String,
    pub name: String,
    pub bare: bool,
}

/// The Bench.
#[expect(clippy::struct_excessive_bools, reason = "a template reads them one by one")]
#[derive(Debug, Clone)]
pub struct BenchView {
    pub form: BenchForm,
    pub key: String,
    pub request: Value,
    pub plan: Option<PlanDoc>,
    pub slips: BTreeMap<&'static str, String>,
    pub may_keep: bool,
    pub why_not_keep: String,
    pub cuts: Vec<(&'static str, Vec<Choice>)>,
    /// How the fat of this cut is said: an edge, a cap, or under the skin.
    pub fat_words: &'static str,
    pub methods: Vec<Choice>,
    pub salts: Vec<Choice>,
    pub stands: Vec<Choice>,
    pub words: BTreeMap<&'static str, Word>,
    pub has_face: bool,
    pub has_skin: bool,
    pub has_bone: bool,
    pub numbers: Option<Numbers>,
}

/// The numbers beside the picture, as text.
#[derive(Debug, Clone, Default)]
pub struct Numbers {
    pub slice_wide: String,
    pub slice_narrow: String,
    pub band_wide: String,
    pub band_narrow: String,
    pub grams: String,
    pub ounces: String,
    pub dose_line: String,
    pub spoons: String,
    pub each: String,
    pub faces: Vec<FaceLine>,
    pub ladder: String,
    pub sodium: String,
    pub rim: String,
    pub middle: String,
    pub slice: String,
    pub fridge_line: String,
    pub planned: String,
    pub slider: String,
    pub slider_max: String,
    pub into_cold: String,
    pub out_of_cold: String,
    pub why: String,
    pub skin_state: String,
    pub depth: String,
    pub salted_to: String,
    pub knots: Vec<Knot>,
    pub pull: String,
    pub pull_other: String,
    pub pull_line: String,
    pub fire_line: String,
    pub meals: String,
    pub worth: Option<String>,
    pub loud: Vec<CautionDoc>,
    pub quiet: Vec<CautionDoc>,
}

impl BenchView {
    /// Reads the form and plans as much of it as can be planned: a word that cannot be is marked and
    /// left out, and the rest still answers.
    pub fn of(form: BenchForm, now: &ZonedDateTime) -> Self {
        let said = form.read(now);
        let (mut request, mut slips) = (said.request, said.slips);
        let mut plan = None;
        for _ in 0..4 {
            match plan_from(&request, now) {
                Ok(made) => {
                    plan = Some(made);
                    break;
                }
                Err(problems) => {
                    for problem in &problems.problems {
                        let word = word_of(&problem.field);
                        slips.entry(word).or_insert_with(|| slip(problem));
                        leave_out(&mut request, word);
                        if word == "weight" || word == "cut" {
                            refill(&mut request);
                        }
                    }
                }
            }
        }
        let may_keep = slips.is_empty() && said.weighed && plan.is_some();
        let why_not_keep = if !slips.is_empty() {
            "Put right what is marked red; the numbers leave it out.".to_owned()
        } else if said.weighed {
            String::new()
        } else {
            "Weigh it: everything here hangs on the weight.".to_owned()
        };
        let key = if Uuid::parse_str(&form.key).is_ok() { form.key.clone() } else { Uuid::now_v7().to_string() };
        let cut = form.cut();
        let numbers = plan.as_ref().map(|plan| Numbers::of(plan, now));
        Self {
            words: words(&form, plan.as_ref(), &slips, now),
            cuts: cut_groups(cut),
            fat_words: fat_words(cut),
            methods: METHODS
                .iter()
                .filter(|m| cut.is_some_and(|c| Method::find(m.id).is_some_and(|m| m.fits(c))))
                .map(|m| Choice { id: m.id, name: m.name.into(), chosen: plan.as_ref().is_some_and(|p| p.request.method == m.id) })
                .collect(),
            salts: SALTS
                .iter()
                .map(|s| Choice { id: s.id, name: s.name.into(), chosen: plan.as_ref().is_some_and(|p| p.request.salt == s.id) })
                .collect(),
            stands: [
                ("fresh", "still to be salted"),
                ("frozen", "still frozen"),
                ("frozen", "still frozen"),
                ("salted", "salted already"),
                ("open", "unsalted, lying open in the cold"),
            ]
            .into_iter()
            .map(|(id, name)| Choice { id, name: name.into(), chosen: form.stands == id || (id == "fresh" && form.stands.is_empty()) })
            .collect(),
            has_face: cut.is_some_and(|c| !c.is_bird()),
            has_skin: cut.is_some_and(|c| c.skin_mm > 0.0),
            has_bone: cut.is_some_and(|c| c.bone_fraction > 0.0),
            form,
            key,
            request,
            plan,
            slips,
            may_keep,
            why_not_keep,
            numbers,
        }
    }

    /// A word by name; the template asks only for words that exist.
    pub fn word(&self, name: &str) -> Word {
        self.words.get(name).cloned().unwrap_or_default()
    }

    /// What is wrong with a choice.
    pub fn slip(&self, name: &str) -> Option<&String> {
        self.slips.get(name)
    }
}

/// The cuts by species, for the list.
fn cut_groups(chosen: Option<Cut>) -> Vec<(&'static str, Vec<Choice>)> {
    let species = [("Pork", Species::Pork), ("Beef", Species::Beef), ("Lamb", Species::Lamb), ("Poultry", Species::Poultry)];
    let of = |species| Cut::all().filter(move |c| c.species == species);
    let choice = |c: Cut| Choice { id: c.id, name: c.name.into(), chosen: chosen == Some(c) };
    species.into_iter().map(|(name, species)| (name, of(species).map(choice).collect())).collect()
}

fn fat_words(cut: Option<Cut>) -> &'static str {
    match cut.map(|c| c.family) {
        Some(Family::Steak) => "with a fat edge of",
        _ => "under a fat cap of",
    }
}

/// After a cut or weight that cannot be, the cut's usual weight stands in.
fn refill(request: &mut Value) {
    let piece = &mut request["piece"];
    let known = piece["cut"].as_str().and_then(Cut::find).or_else(|| Cut::find(FIRST_CUT));
    let Some(cut) = known else { return };
    piece["cut"] = cut.id.into();
    piece["weight_g"] = f64::midpoint(cut.typical_g.0, cut.typical_g.1).into();
}

fn words(
    form: &BenchForm,
    plan: Option<&PlanDoc>,
    slips: &BTreeMap<&'static str, String>,
    now: &ZonedDateTime,
) -> BTreeMap<&'static str, Word> {
    let mm = |value: f64| both_length(millimetres(value));
    let request = plan.map(|p| &p.request);
    let length = |value: Option<f64>| value.map_or_else(|| (String::new(), String::new()), |v| (mm(v).metric, mm(v).customary));
    let weight = request.map(|r| both_mass(mass(r.weight_g)));
    let (thick, thick_other) = length(request.map(|r| r.salt_thickness_mm));
    let (face, face_other) = request.map_or_else(Default::default, |r| {
        let (long, wide) = (mm(r.length_mm.round()), mm(r.width_mm.round()));
        (format!("{:.0} × {}", r.length_mm, wide.metric), format!("{} × {}", long.customary.trim_end_matches(" in"), wide.customary))
    });
    let (skin, skin_other) = length(request.map(|r| r.skin_mm));
    let (fat, fat_other) = length(request.map(|r| r.fat_mm));
    let (fatmin, fatmin_other) = length(request.map(|r| r.fat_min_mm));
    let serve = plan.map(|p| day_wall(instant(&p.serve_at), now.time_zone())).unwrap_or_default();
    let entry = |name, label, typed: &str, guess: String, other: String| Word {
        name,
        label,
        typed: typed.to_owned(),
        guess,
        other,
        slip: slips.get(name).cloned(),
    };
    let (weight, weight_other) = weight.map_or_else(Default::default, |w| (w.metric, w.customary));
    // The other system beside what was typed: metric beside pounds and inches.
    let other = |typed: &str, metric: &str, customary: String| {
        let typed_customary = ["lb", "oz", "in", "\"", "″"].iter().any(|unit| typed.contains(unit));
        if typed_customary { metric.to_owned() } else { customary }
    };
    [
        entry("weight", "weight", &form.weight, weight.clone(), other(&form.weight, &weight, weight_other)),
        entry("thick", "thickness at the thickest place", &form.thick, thick.clone(), other(&form.thick, &thick, thick_other)),
        entry("face", "length and width", &form.face, face, face_other),
        entry("skin", "thickness of the skin", &form.skin, skin.clone(), other(&form.skin, &skin, skin_other)),
        entry("fat", "thickness of the fat", &form.fat, fat.clone(), other(&form.fat, &fat, fat_other)),
        entry("fatmin", "fat at its thinnest", &form.fatmin, fatmin.clone(), other(&form.fatmin, &fatmin, fatmin_other)),
        entry(
            "bone",
            "share of bone",
            &form.bone,
            request.map(|r| format!("{} %", trim(r.bone_fraction * 100.0, 1))).unwrap_or_default(),
            String::new(),
        ),
        entry(
            "dose",
            "dose of salt",
            &form.dose,
            request.map(|r| format!("{} g/kg", trim(r.g_per_kg, 1))).unwrap_or_default(),
            String::new(),
        ),
        entry("also", "salty things that go on too", &form.also, "nothing else salty".into(), String::new()),
        entry("serve", "when it is on the table", &form.serve, serve, String::new()),
        entry("servings", "number of guests", &form.servings, request.map(|r| r.servings.to_string()).unwrap_or_default(), String::new()),
        entry("bought", "day it was bought", &form.bought, "when?".into(), String::new()),
        entry("since", "since when", &form.since, "just now".into(), String::new()),
        entry(
            "on",
            "grams of salt already on",
            &form.on,
            plan.map(|p| format!("{} g", grams(p.dose.total_g))).unwrap_or_default(),
            String::new(),
        ),
    ]
    .into_iter()
    .map(|word| (word.name, word))
    .collect()
}

impl Numbers {
    fn of(plan: &PlanDoc, now: &ZonedDateTime) -> Self {
        let slice = Slice::of(plan);
        let (fridge, request, dose) = (&plan.fridge, &plan.request, &plan.dose);
        let span_h = (fridge.longest_h * 1.2).max(fridge.planned_h * 1.05);
        let band = Band {
            from: instant(&fridge.from),
            span_h,
            marks: (fridge.shortest_h, fridge.ideal_h, fridge.longest_h),
            planned_h: fridge.planned_h,
            fits_h: fridge.fits_h,
            zone: now.time_zone().clone(),
        };
        let target = plan.fire.targets.first();
        let each = if dose.by_portion_g.len() > 1 {
            let list: Vec<String> = dose.by_portion_g.iter().map(|g| format!("{} g", grams(*g))).collect();
            let same = list.iter().all(|g| g == &list[0]);
            if same { format!("{} × {} each", list.len(), list[0]) } else { list.join(" · ") }
        } else {
            String::new()
        };
        let (loud, quiet): (Vec<_>, Vec<_>) = plan.cautions.iter().cloned().partition(|c| c.severity != "note");
        Self {
            slice_wide: draw_slice(&slice, Width::Wide),
            slice_narrow: draw_slice(&slice, Width::Narrow),
            band_wide: draw_band(&band, Width::Wide),
            band_narrow: draw_band(&band, Width::Narrow),
            grams: grams(dose.to_weigh_g),
            ounces: other_system(&grams(dose.to_weigh_g), "g"),
            dose_line: format!(
                "{} · {} g/kg of {} {}",
                request.salt_name,
                trim(request.g_per_kg, 1),
                both_mass(mass(basis_weight(request.weight_g, request.bone_fraction, &request.basis))).metric,
                request.basis
            ),
            spoons: format!("{}, level ({} g)", dose.spoons, trim(dose.spoons_g, 1)),
            each,
            faces: dose.by_face.iter().map(|f| FaceLine { g: grams(f.g), name: f.name.clone(), bare: f.g < 0.05 }).collect(),
            ladder: draw_ladder(dose),
            sodium: format!("{:.0} mg sodium a serving; WHO: under 2,000 a day, US label value 2,300", dose.sodium_mg_per_serving),
            rim: format!("{:.0}", fridge.rim_g_per_kg),
            middle: format!("{:.0}", fridge.middle_g_per_kg),
            slice: format!("{:.0}", fridge.slice_g_per_kg),
            fridge_line: format!(
                "{} °C ({}), {:.0} % humid, open on a rack",
                trim(request.fridge_c, 1),
                both_temperature(celsius(request.fridge_c)).customary,
                request.fridge_rh * 100.0
            ),
            planned: trim(fridge.planned_h, 1),
            slider: trim(fridge.planned_h, 2),
            slider_max: trim(span_h, 2),
            into_cold: day_wall(instant(&fridge.from), now.time_zone()),
            out_of_cold: day_wall(instant(&fridge.to), now.time_zone()),
            why: fridge.why.clone(),
            skin_state: fridge
                .skin_dryness
                .map_or_else(String::new, |d| format!("skin {d:.2} dry, feels {}", fridge.skin_touch.as_deref().unwrap_or_default())),
            depth: depth_line(plan),
            salted_to: format!("salted to {:.0} mm", fridge.salted_depth_mm),
            knots: knots(plan, now),
            pull: target.map(|t| format!("{:.0}", t.pull_c)).unwrap_or_default(),
            pull_other: target.map(|t| both_temperature(celsius(t.pull_c)).customary).unwrap_or_default(),
            pull_line: pull_line(plan),
            fire_line: fire_line(plan),
            meals: meals_line(plan, now),
            worth: plan.worth_measuring.first().map(|w| format!("Worth measuring: {}.", w.effect)),
            loud,
            quiet,
        }
    }
}

fn fahrenheit(air_c: Option<f64>) -> String {
    air_c.map_or_else(String::new, |c| both_temperature(celsius(c)).customary)
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
        _ => "no knife: the skin stays whole".into(),
    }
}

fn pull_line(plan: &PlanDoc) -> String {
    let targets: Vec<String> = plan
        .fire
        .targets
        .iter()
        .map(|t| {
            let place = if t.at == "core" { "core".into() } else { t.at.clone() };
            format!("{place} ends at {:.0} °C", t.finish_c)
        })
        .collect();
    let authority = plan
        .fire
        .targets
        .first()
        .map(|t| format!("FSIS: at least {} °C ({})", trim(t.authority_c, 1), both_temperature(celsius(t.authority_c)).customary))
        .unwrap_or_default();
    format!("{}. {authority}", sentence(&targets.join(", ")))
}

fn fire_line(plan: &PlanDoc) -> String {
    let fire = &plan.fire;
    let model = format!("{:.0} min in the heat ({:.0}–{:.0}, an estimate).", fire.minutes, fire.minutes_low, fire.minutes_high);
    let (Some(rule), Some(minutes)) = (&fire.trade_rule, fire.trade_minutes) else {
        return format!("{model} The trade has no rule for this cut.");
    };
    let near = if fire.trade_near_its_size == Some(true) { "" } else { "; this piece is not that size, so the model leads" };
    format!("{model} The trade’s rule: {rule} → {minutes:.0} min{near}.")
}

fn meals_line(plan: &PlanDoc, now: &ZonedDateTime) -> String {
    let at = |text: &str| wall(instant(text), now);
    format!("From now: earliest sound meal {}, best {}, latest {}.", at(&plan.meals.earliest), at(&plan.meals.best), at(&plan.meals.latest))
}

/// The day in a handful of knots: the work before, the cold, the heat, the table.
fn knots(plan: &PlanDoc, now: &ZonedDateTime) -> Vec<Knot> {
    let zone = now.time_zone();
    let mut knots = Vec::new();
    let before: Vec<_> = plan.steps.iter().take_while(|s| s.kind != "chill").filter(|s| s.kind != "thaw" && s.place == "bench").collect();
    let before: Vec<_> = if plan.steps.iter().any(|s| s.kind == "chill") {
        before
    } else {
        before.into_iter().take_while(|s| !matches!(s.kind.as_str(), "preheat" | "temper" | "brush-dry")).collect()
    };
    if let (Some(first), Some(last)) = (before.first(), before.last()) {
        let doing: Vec<&str> =
            before.iter().map(|s| s.kind.as_str()).filter(|k| matches!(*k, "dry" | "pierce" | "loosen" | "salt")).collect();
        let long = instant(&last.ends_at).duration_since(instant(&first.starts_at));
        let what = if doing.is_empty() { "wash hands".to_owned() } else { doing.join(", ") };
        knots.push(Knot {
            when: day_wall(instant(&first.starts_at), zone),
            what,
            detail: format!("{} of hands", span(long)),
            place: "bench",
        });
    }
    for step in &plan.steps {
        let (what, detail, place) = match step.kind.as_str() {
            "thaw" => ("thaw, in the cold".to_owned(), step.detail.clone(), "refrigerator"),
            "chill" => (
                if step.hands_on_min > 0.0 { "into the cold" } else { "in the cold" }.to_owned(),
                format!("open, on a rack, {} h", trim(plan.fridge.planned_h, 1)),
                "refrigerator",
            ),
            "temper" => ("out of the cold".to_owned(), "oven on".to_owned(), "bench"),
            "brush-dry" if !plan.steps.iter().any(|s| s.kind == "temper") => ("out, brush, dry".to_owned(), "oven on".to_owned(), "bench"),
            "roast" => {
                let until = step.until.as_ref().map(|u| format!(", until {u}")).unwrap_or_default();
                (step.title.replace("Into the heat at ", ""), format!("{}{until}", fahrenheit(step.air_c)), "fire")
            }
            "grill" => {
                let what = format!("{} °C from above", step.figure.as_deref().unwrap_or_default());
                (what, format!("{}, until it sounds hollow", fahrenheit(step.air_c)), "fire")
            }
            "rest" => (
                if plan.request.skin_mm > 0.0 { "rest, open" } else { "rest" }.to_owned(),
                format!("core climbs {:.0} K", plan.fire.carry_over_k),
                "table",
            ),
            "carve" => ("carve".to_owned(), format!("table {}", wall(instant(&plan.serve_at), now)), "table"),
            _ => continue,
        };
        knots.push(Knot { when: day_wall(instant(&step.starts_at), zone), what, detail, place });
    }
    knots
}

#[cfg(test)]
mod tests;
