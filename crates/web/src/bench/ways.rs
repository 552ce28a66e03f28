//! The ways to do the piece on the Bench: each with what it asks and gives, computed for this piece, and why others are not for it.

use super::form::BenchForm;
use super::planned::planned;
use crate::kit::Shelf;
use crate::words::{day_wall, g_per_kg, grams, instant, sentence, span};
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
    /// For a meal that is said, when it begins; else when it can be on the table: without a
    /// meal every way begins now, which tells nothing apart.
    pub moment: (&'static str, String),
    /// Skin, mouthfuls, core.
    pub gives: String,
}

/// What the page shows.
#[derive(Debug, Clone)]
pub struct WaysView {
    pub cut: String,
    /// The Bench as it was left.
    pub back: String,
    /// Whether the sentence says when the meal is.
    pub meal_said: bool,
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
        Some(Self { cut: cut.name.to_lowercase(), back: form.address(), meal_said: meal_said(form), ways, others: others.collect() })
    }
}

fn meal_said(form: &BenchForm) -> bool {
    !form.serve.trim().is_empty()
}

fn way(form: &BenchForm, method: &Method, now: &ZonedDateTime, shelf: &Shelf, chosen: bool) -> Way {
    // Hours of the cook's own belong to the way they were said for.
    let hours = if chosen { form.hours.clone() } else { String::new() };
    let taken = BenchForm { method: method.id.to_string(), hours, ..form.clone() };
    let request: Value = taken.read(now, shelf).request;
    let (line, refused) = match planned(&request, now) {
        Ok(plan) => (Some(line(&plan, method, form, now)), String::new()),
        Err(problems) => (None, problems.problems.first().map(|problem| sentence(&problem.sentence())).unwrap_or_default()),
    };
    Way { name: method.name.to_string(), why: method.why.to_string(), take: taken.address(), chosen, line, refused }
}

fn minutes(min: f64) -> SignedDuration {
    SignedDuration::from_mins(min.round() as i64)
}

fn line(plan: &PlanDoc, method: &Method, form: &BenchForm, now: &ZonedDateTime) -> WayLine {
    let hands: f64 = plan.steps.iter().map(|step| step.hands_on_min).sum();
    let mix = plan.dose.mix.as_ref().filter(|mix| mix.g >= 0.5);
    let weighs = match mix {
        Some(mix) => (format!("{:.0}", mix.g), mix.name.clone()),
        None => (grams(plan.dose.scale_g), "salt".to_owned()),
    };
    let moment = if meal_said(form) {
        let begins = plan.steps.iter().map(|step| instant(&step.starts_at)).min();
        ("begins", begins.map(|at| day_wall(at, now)).unwrap_or_default())
    } else {
        ("on the table", day_wall(instant(&plan.serve_at), now))
    };
    WayLine {
        grams: weighs,
        hands: span(minutes(hands)),
        cold: if method.rests_in_the_cold() { format!("{:.0} h", plan.fridge.planned_h) } else { "none".to_owned() },
        heat: span(minutes(plan.fire.minutes)),
        moment,
        gives: gives(plan, method, form.cut()),
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
        said.push(format!("first bite {:.0} g/kg, middle {}", plate.rim_g_per_kg, g_per_kg(plate.middle_g_per_kg)));
    }
    let targets: Vec<String> = plan.fire.targets.iter().map(|t| format!("{} {:.0} °C", t.at, t.finish_c)).collect();
    said.push(targets.join(", "));
    said.join("; ")
}

#[cfg(test)]
mod tests {
    use super::*;

    /// A meal said is met by every way, so they differ in when they begin; with none said all
    /// begin now and differ in when they can be eaten: the one with no cold rest is first.
    #[test]
    fn a_way_says_the_moment_that_tells_it_from_the_others() {
        let now: ZonedDateTime = "2026-12-10T08:00[Europe/Vienna]".parse().unwrap();
        let moments = |serve: &str| -> Vec<(&'static str, String)> {
            let form = BenchForm { cut: "turkey-whole".into(), weight: "5.4 kg".into(), serve: serve.into(), ..BenchForm::default() };
            let view = WaysView::of(&form, &now, &Shelf::default()).unwrap();
            view.ways.into_iter().filter_map(|way| way.line).map(|line| line.moment).collect()
        };
        for (serve, label) in [("", "on the table"), ("2026-12-12T18:00", "begins")] {
            let said = moments(serve);
            assert!(said.len() >= 3 && said.iter().all(|(word, _)| *word == label), "{said:?}");
            assert!(said.iter().any(|(_, at)| *at != said[0].1), "they differ: {said:?}");
        }
    }
}
