//! The ways to do the piece on the Bench: each with what it asks and gives, computed for this piece, and why others are not for it.

use super::form::BenchForm;
use super::planned::planned;
use crate::kit::Shelf;
use crate::words::{day_wall, grams, instant, plan_in_units, span};
use jiff::{SignedDuration, ZonedDateTime};
use rauchkeller_contract::PlanDoc;
use rauchkeller_core::method::{Method, methods};
use rauchkeller_core::piece::Cut;
use serde_json::Value;

/// One way that fits.
#[derive(Debug, Clone)]
pub struct Way {
    pub name: String,
    pub why: String,
    /// The Bench with this way chosen.
    pub take: String,
    pub chosen: bool,
    /// What it asks and gives; `None` where it cannot be planned as the sentence stands.
    pub line: Option<WayLine>,
    /// Why it cannot.
    pub refused: String,
}

/// What a way asks and gives.
#[derive(Debug, Clone)]
pub struct WayLine {
    /// Grams on the scale, with what they are of.
    pub grams: (String, String),
    /// Minutes of hands.
    pub hands: String,
    /// Time in the cold.
    pub cold: String,
    /// Time in the heat.
    pub heat: String,
    /// When it begins.
    pub begins: String,
    /// Skin, mouthfuls, core.
    pub gives: String,
}

/// What the page shows.
#[derive(Debug, Clone)]
pub struct WaysView {
    pub cut: String,
    /// The Bench as it was left.
    pub back: String,
    pub ways: Vec<Way>,
    /// Names of those that are for other pieces, each with the reason.
    pub others: Vec<(String, String)>,
}

impl WaysView {
    /// `None` where the sentence names no cut that is known.
    pub fn of(form: &BenchForm, now: &ZonedDateTime, shelf: &Shelf) -> Option<Self> {
        let cut = form.cut()?;
        let chosen = Method::find(&form.method).unwrap_or_else(|| Method::first_for(cut));
        let ways = Method::all_for(cut).map(|method| way(form, method, now, shelf, method.id == chosen.id)).collect();
        let others = methods().iter().filter_map(|method| Some((method.name.to_string(), method.why_not(cut)?.to_owned())));
        Some(Self { cut: cut.name.to_lowercase(), back: form.address(), ways, others: others.collect() })
    }
}

fn way(form: &BenchForm, method: &Method, now: &ZonedDateTime, shelf: &Shelf, chosen: bool) -> Way {
    // Hours of the cook's own belong to the way they were said for.
    let hours = if chosen { form.hours.clone() } else { String::new() };
    let taken = BenchForm { method: method.id.to_string(), hours, ..form.clone() };
    let request: Value = taken.read(now, shelf).request;
    let (line, refused) = match planned(&request, now) {
        Ok(plan) => (Some(line(&plan_in_units(plan, shelf.system), method, form.cut(), now)), String::new()),
        Err(problems) => (None, problems.problems.first().map(super::slip).map(|slip| slip.to_string()).unwrap_or_default()),
    };
    Way { name: method.name.to_string(), why: method.why.to_string(), take: taken.address(), chosen, line, refused }
}

fn minutes(min: f64) -> SignedDuration {
    SignedDuration::from_mins(min.round() as i64)
}

fn line(plan: &PlanDoc, method: &Method, cut: Option<Cut>, now: &ZonedDateTime) -> WayLine {
    let hands: f64 = plan.steps.iter().map(|step| step.hands_on_min).sum();
    let mix = plan.dose.mix.as_ref().filter(|mix| mix.g >= 0.5);
    let weighs = match mix {
        Some(mix) => (format!("{:.0}", mix.g), mix.name.clone()),
        None => (grams(plan.dose.scale_g), "salt".to_owned()),
    };
    let begins = plan.steps.iter().map(|step| instant(&step.starts_at)).min();
    WayLine {
        grams: weighs,
        hands: span(minutes(hands)),
        cold: if method.rests_in_the_cold() { format!("{:.0} h", plan.fridge.planned_h) } else { "none".to_owned() },
        heat: span(minutes(plan.fire.minutes)),
        begins: begins.map(|at| day_wall(at, now)).unwrap_or_default(),
        gives: gives(plan, method, cut),
    }
}

/// Skin, salt, core: what comes of it.
fn gives(plan: &PlanDoc, method: &Method, cut: Option<Cut>) -> String {
    let mut said = Vec::new();
    let skin = cut.is_some_and(Cut::has_fat_window);
    match plan.fire.skin.as_ref() {
        Some(crisp) if skin && method.wants.crackling && crisp.puffs_min.is_some() => {
            said.push("skin puffs, as far as an estimate can say".to_owned());
        }
        Some(_) if skin && method.wants.crackling => said.push("skin may stay chewy in places".to_owned()),
        Some(_) if skin => said.push("soft skin".to_owned()),
        _ => {}
    }
    if let Some(plate) = &plan.fridge.plate {
        said.push(format!("first bite {:.0} g/kg, middle {:.0}", plate.rim_g_per_kg, plate.middle_g_per_kg));
    }
    let targets: Vec<String> = plan.fire.targets.iter().map(|t| format!("{} {:.0} °C", t.at, t.finish_c)).collect();
    said.push(targets.join(", "));
    said.join("; ")
}
