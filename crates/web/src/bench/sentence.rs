//! The words of the sentence: what was typed, what is guessed, the other system, what is wrong.

use super::form::{BenchForm, Slip, Slips};
use crate::kit::Shelf;
use crate::words::{day_wall, grams, instant, trim};
use jiff::ZonedDateTime;
use rauchkeller_contract::{AgainDoc, PlanDoc};
use rauchkeller_core::ask::{AirAsk, StageAsk, say_stages};
use rauchkeller_core::fire::{FireStage, HeatSource, Hottest, How, StageEnd};
use rauchkeller_core::piece::Cut;
use rauchkeller_core::plan::Field;
use rauchkeller_core::units::{Both, System, TemperatureIn, both_length, both_mass, celsius, grams as mass, millimetres};
use std::collections::BTreeMap;

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
    pub slip: Option<Slip>,
    /// `date` or `datetime-local` where the browser's own calendar stands beside it; else empty.
    pub picks: &'static str,
}

impl Word {
    /// Whether the kitchen guessed it.
    pub fn guessed(&self) -> bool {
        self.typed.trim().is_empty()
    }

    /// Whether whole lists are said in it: stages, jobs, what goes on.
    pub fn is_long(&self) -> bool {
        matches!(self.name, "fire" | "tasks" | "also")
    }
}

/// Every word of the sentence with what stands there while nothing is typed, in the household's units first.
pub fn words(form: &BenchForm, plan: Option<&PlanDoc>, slips: &Slips, now: &ZonedDateTime, shelf: &Shelf) -> BTreeMap<&'static str, Word> {
    let system = shelf.system;
    let own = |both: Both| if system == Some(System::Customary) { (both.customary, both.metric) } else { (both.metric, both.customary) };
    let mm = |value: f64| own(both_length(millimetres(value)));
    let request = plan.map(|p| &p.request);
    let length = |value: Option<f64>| value.map_or_else(Default::default, mm);
    let (weight, weight_other) = request.map_or_else(Default::default, |r| own(both_mass(mass(r.weight_g))));
    let (thick, thick_other) = length(request.map(|r| r.salt_thickness_mm));
    let face = request.map(|r| (both_length(millimetres(r.length_mm.round())), both_length(millimetres(r.width_mm.round()))));
    let (face, face_other) = face.map_or_else(Default::default, |(long, wide)| {
        let metric = format!("{} × {}", long.metric.trim_end_matches(" mm"), wide.metric);
        let customary = format!("{} × {}", long.customary.trim_end_matches(" in"), wide.customary);
        own(Both { metric, customary })
    });
    let (skin, skin_other) = length(request.map(|r| r.skin_mm));
    let (fat, fat_other) = length(request.map(|r| r.fat_mm));
    let (fatmin, fatmin_other) = length(request.map(|r| r.fat_min_mm));
    let thin = length(request.map(|r| r.thin_mm.unwrap_or(r.salt_thickness_mm))).0;
    let trimmed = weight.clone();
    let cover = plan.and_then(|p| p.dose.cover.as_ref());
    let depth = cover.and_then(|c| c.depth_mm).map(|d| mm(d).0).unwrap_or_default();
    let left = cover.map(|c| format!("{} g/dm²", trim(c.left_g / c.area_dm2.max(1e-9), 1))).unwrap_or_default();
    let (thick, dose) = portion_guesses(plan, thick);
    let serve = plan.map(|p| day_wall(instant(&p.serve_at), now)).unwrap_or_default();
    let entry = |name: &'static str, label: &'static str, typed: &str, guess: String, other: String| Word {
        name,
        // A number is called what its row says.
        label: if label.is_empty() { Field::of_word(name).map_or("", |row| row.means) } else { label },
        typed: typed.to_owned(),
        guess,
        other,
        slip: slips.get(name).cloned(),
        picks: match name {
            "serve" | "since" => "datetime-local",
            "bought" | "useby" => "date",
            _ => "",
        },
    };
    // Beside what was typed stands the other system: metric beside pounds and inches, and the other way round.
    let other = |typed: &str, guess: &str, beside: String| {
        let customary = ["lb", "oz", "in", "\"", "″", "pound", "ounce"].iter().any(|unit| typed.to_lowercase().contains(unit));
        let metric = ["kg", "g", "mm", "cm", "kilo"].iter().any(|unit| typed.to_lowercase().contains(unit)) && !customary;
        let guess_is_customary = system == Some(System::Customary);
        if (customary && !guess_is_customary) || (metric && guess_is_customary) { guess.to_owned() } else { beside }
    };
    [
        entry("weight", "weight", &form.weight, weight.clone(), other(&form.weight, &weight, weight_other)),
        entry("thick", "", &form.thick, thick.clone(), other(&form.thick, &thick, thick_other)),
        entry("cutname", "another name of the cut", &form.cutname, "or its other name".into(), String::new()),
        entry("face", "length and width", &form.face, face, face_other),
        entry("skin", "", &form.skin, skin.clone(), other(&form.skin, &skin, skin_other)),
        entry("fat", "", &form.fat, fat.clone(), other(&form.fat, &fat, fat_other)),
        entry("fatmin", "", &form.fatmin, fatmin.clone(), other(&form.fatmin, &fatmin, fatmin_other)),
        entry(
            "bone",
            "",
            &form.bone,
            request.map(|r| format!("{} %", trim(r.bone_fraction * 100.0, 1))).unwrap_or_default(),
            String::new(),
        ),
        entry("dose", "", &form.dose, dose, String::new()),
        entry("thin", "", &form.thin, thin, String::new()),
        entry("label", "sodium or salt on the label", &form.label, "no added solution".into(), String::new()),
        entry("trimmed", "", &form.trimmed, trimmed, String::new()),
        entry("useby", "use-by date", &form.useby, "none".into(), String::new()),
        entry("depth", "", &form.depth, depth, String::new()),
        entry("left", "", &form.left, left, String::new()),
        entry("also", "salty things that go on too", &form.also, "nothing else salty".into(), String::new()),
        entry("split", "each face’s share of the salt", &form.split, "by area and kind".into(), String::new()),
        entry("serve", "when it is on the table", &form.serve, serve, String::new()),
        entry("servings", "", &form.servings, request.map(|r| r.servings.to_string()).unwrap_or_default(), String::new()),
        entry("room", "", &form.room, "room temperature".into(), String::new()),
        entry("bought", "day it was bought", &form.bought, "on what day?".into(), String::new()),
        entry(
            "goal",
            "what the computed hours are to reach",
            &form.goal,
            plan.and_then(|p| p.fridge.model.as_ref()).map(|m| m.goal.clone()).unwrap_or_default(),
            String::new(),
        ),
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
    .chain(heat_words(form, plan, shelf, entry))
    .map(|word| (word.name, word))
    .collect()
}

/// The words about the heat and its tasks.
fn heat_words(
    form: &BenchForm,
    plan: Option<&PlanDoc>,
    shelf: &Shelf,
    entry: impl Fn(&'static str, &'static str, &str, String, String) -> Word,
) -> Vec<Word> {
    vec![
        entry("hottest", "how hot that gets", &form.hottest, plan.map(hottest_guess).unwrap_or_default(), String::new()),
        entry("fire", "stages of the heat", &form.fire, plan.map(|plan| usual_heat(plan, shelf)).unwrap_or_default(), String::new()),
        entry("finish", "where the core is to end", &form.finish, finish_guess(plan), String::new()),
        entry("temper", "", &form.temper, plan.map_or_else(String::new, |p| spans(p.fire.temper_min)), String::new()),
        entry("preheat", "", &form.preheat, step_minutes(plan, "preheat"), String::new()),
        entry(
            "start",
            "",
            &form.start,
            plan.and_then(|p| p.fire.curve.first()).map(|p| format!("{:.0} °C", p[3])).unwrap_or_default(),
            String::new(),
        ),
        entry("rest", "", &form.rest, step_minutes(plan, "rest"), String::new()),
        entry("hold", "how long it may wait warm", &form.hold, "not at all".into(), String::new()),
        entry("second", "what heats it again", &form.second, plan.map(second_heat).unwrap_or_default(), String::new()),
        entry("tasks", "tasks of your own", &form.tasks, "as usual".into(), String::new()),
    ]
}

/// The second heat of the plan, in words; nothing where it is heated once.
fn second_heat(plan: &PlanDoc) -> String {
    let said = |again: &AgainDoc| {
        let with = HeatSource::find(&again.with).filter(|with| *with != HeatSource::Oven);
        let (air, how) = (AirAsk::At(celsius(again.air_c)), How::find(&again.how).unwrap_or_default());
        say_stages(&[StageAsk { with, air, how, until: StageEnd::Core(celsius(again.out_c)), flip: None }])
    };
    plan.fire.again.as_ref().map(said).unwrap_or_default()
}

/// The method's own stages for this cut on this appliance, in words.
fn usual_heat(plan: &PlanDoc, shelf: &Shelf) -> String {
    let of = shelf.method(&plan.request.method).zip(Cut::find(&plan.request.cut));
    let air = |i: usize, stage: &FireStage| AirAsk::At(plan.fire.stages.get(i).map_or(stage.air, |s| celsius(s.air_c)));
    let ask = |(i, s): (usize, &FireStage)| StageAsk { with: None, air: air(i, s), how: how_said(s), until: s.until, flip: s.flip };
    of.map(|(method, cut)| method.heat_on(cut, Some(heat_of(plan)), Hottest::default()))
        .map(|stages| say_stages(&stages.iter().enumerate().map(ask).collect::<Vec<_>>()))
        .unwrap_or_default()
}

/// A pan is direct without saying so.
fn how_said(stage: &FireStage) -> How {
    if stage.with == HeatSource::Pan { How::Open } else { stage.how }
}

fn heat_of(plan: &PlanDoc) -> HeatSource {
    HeatSource::find(&plan.fire.with).unwrap_or_default()
}

/// How hot what gives the heat gets.
fn hottest_guess(plan: &PlanDoc) -> String {
    let most = if plan.fire.max_c > 0.0 { plan.fire.max_c } else { heat_of(plan).usual_max().in_c() };
    format!("{most:.0} °C")
}

fn finish_guess(plan: Option<&PlanDoc>) -> String {
    plan.and_then(|p| p.fire.asked()).map(|t| format!("{:.0} °C", t.finish_c)).unwrap_or_default()
}

fn spans(min: f64) -> String {
    crate::words::span(jiff::SignedDuration::from_mins(min.round() as i64))
}

/// How long a task of the plan takes; nothing where it has none.
fn step_minutes(plan: Option<&PlanDoc>, kind: &str) -> String {
    let step = plan.and_then(|p| p.steps.iter().find(|s| s.kind == kind));
    step.map_or_else(|| "0 min".to_owned(), |s| crate::words::span(instant(&s.ends_at).duration_since(instant(&s.starts_at))))
}

/// Thickness and dose as guesses: where portions differ, one value each, joined as they are typed.
fn portion_guesses(plan: Option<&PlanDoc>, thick: String) -> (String, String) {
    let Some(plan) = plan else { return (thick, String::new()) };
    let differ = |of: fn(&rauchkeller_contract::PortionDoc) -> f64| {
        let values: Vec<f64> = plan.dose.portions.iter().map(of).collect();
        values
            .windows(2)
            .any(|pair| (pair[0] - pair[1]).abs() > 1e-6)
            .then(|| values.iter().map(|v| trim(*v, 1)).collect::<Vec<_>>().join(" + "))
    };
    let dose = differ(|p| p.g_per_kg).unwrap_or_else(|| trim(plan.request.g_per_kg, 1));
    (differ(|p| p.salt_thickness_mm).map_or(thick, |each| format!("{each} mm")), format!("{dose} g/kg"))
}
