//! The day on the Bench, in a handful of knots.

use super::numbers::{climb_words, lies};
use crate::words::{day_wall, instant, span, trim, wall};
use jiff::{Timestamp, ZonedDateTime};
use rauchkeller_contract::{PlanDoc, StepDoc};
use rauchkeller_core::fire::HeatSource;

/// A knot of the day.
#[derive(Debug, Clone)]
pub struct Knot {
    pub when: String,
    pub what: String,
    pub detail: String,
    pub place: &'static str,
}

/// Work before the cold that is worth a word.
const WORK: [&str; 9] = ["strips", "dry", "score", "pierce", "groove", "slit", "spike", "loosen", "salt"];

/// Each once, in order.
fn unique(words: Vec<&str>) -> Vec<&str> {
    let mut kept: Vec<&str> = Vec::with_capacity(words.len());
    for word in words {
        if !kept.contains(&word) {
            kept.push(word);
        }
    }
    kept
}

/// The day in a handful of knots: the work before, the cold, the heat, the table.
pub(super) fn knots(plan: &PlanDoc, now: &ZonedDateTime) -> Vec<Knot> {
    let mut knots: Vec<(Timestamp, Knot)> = Vec::new();
    let before: Vec<_> = plan.steps.iter().take_while(|s| s.kind != "chill").filter(|s| s.kind != "thaw" && s.place == "bench").collect();
    let before: Vec<_> = if plan.steps.iter().any(|s| s.kind == "chill") {
        before
    } else {
        before.into_iter().take_while(|s| !matches!(s.kind.as_str(), "preheat" | "temper" | "brush-dry")).collect()
    };
    if let (Some(first), Some(last)) = (before.first(), before.last()) {
        let doing: Vec<&str> = before.iter().map(|s| s.kind.as_str()).filter(|k| WORK.contains(k)).collect();
        let doing = unique(doing);
        let long = instant(&last.ends_at).duration_since(instant(&first.starts_at));
        let what = if doing.is_empty() { "wash hands".to_owned() } else { doing.join(", ") };
        let at = instant(&first.starts_at);
        knots.push((at, Knot { when: day_wall(at, now), what, detail: format!("{} of work", span(long)), place: "bench" }));
    }
    let stays = plan.steps.iter().filter(|s| s.kind == "chill").count();
    let long_h = |step: &StepDoc| instant(&step.ends_at).duration_since(instant(&step.starts_at)).as_secs_f64() / 3600.0;
    let on = HeatSource::find(plan.fire.stages.first().map_or("", |s| s.with.as_str())).unwrap_or_default().comes_up().to_owned();
    let late = |step: &StepDoc| stays > 0 && instant(&step.starts_at) >= instant(&plan.fridge.to) || stays == 0 && step.kind == "cover-on";
    let grams_of = |step: &StepDoc| step.figure.as_ref().map_or_else(String::new, |g| format!("{g} g"));
    for step in &plan.steps {
        let (what, detail, place) = match step.kind.as_str() {
            "thaw" => ("thaw, in the refrigerator".to_owned(), format!("{} h", step.figure.as_deref().unwrap_or_default()), "refrigerator"),
            "chill" => (
                if step.hands_on_min > 0.0 { "into the refrigerator" } else { "in the refrigerator" }.to_owned(),
                // Where it comes out in between, each stay has its own hours.
                format!("{}, {} h", lies(&plan.fridge.lies), trim(if stays > 1 { long_h(step) } else { plan.fridge.planned_h }, 1)),
                "refrigerator",
            ),
            "temper" if stays == 0 => ("let it stand".to_owned(), on.clone(), "bench"),
            "temper" => ("out of the refrigerator".to_owned(), on.clone(), "bench"),
            // What is done to it between the cold and the heat, or in the heat.
            "salt" if late(step) => ("salt".to_owned(), grams_of(step), "bench"),
            "cover-on" if late(step) => ("salt on the skin".to_owned(), grams_of(step), "bench"),
            "cover-off" if stays == 0 || instant(&step.starts_at) > instant(&plan.fridge.to) => {
                ("salt off the skin".to_owned(), String::new(), "bench")
            }
            "roll" => ("roll and tie it".to_owned(), String::new(), "bench"),
            "brush-dry" if !plan.steps.iter().any(|s| s.kind == "temper") => ("out, brush, dry".to_owned(), on.clone(), "bench"),
            "roast" | "sear" => {
                let until = step.until.as_ref().map(|u| format!(", until {u}")).unwrap_or_default();
                let air = step.air_c.map_or_else(String::new, |c| trim(c, 0));
                (format!("{air} °C"), until.trim_start_matches(", ").to_owned(), "fire")
            }
            "grill" => {
                (format!("{} °C from above", step.figure.as_deref().unwrap_or_default()), "until it sounds hollow".to_owned(), "fire")
            }
            "cool" => ("out, let it cool".to_owned(), "in shallow parts, within 2 h".to_owned(), "table"),
            "chill-cooked" => {
                ("into the refrigerator, cooked".to_owned(), format!("{} h", step.figure.as_deref().unwrap_or_default()), "refrigerator")
            }
            "heat-again" => {
                let until = step.until.as_ref().map(|until| format!("until {until}")).unwrap_or_default();
                (format!("again, {} °C", step.air_c.map_or_else(String::new, |c| trim(c, 0))), until, "fire")
            }
            "rest" if plan.fire.again.is_some() => ("rest".to_owned(), "covered".to_owned(), "table"),
            "rest" => (
                if plan.request.skin_mm > 0.0 { "rest, open" } else { "rest" }.to_owned(),
                climb_words(plan.fire.carry_over_band_k),
                "table",
            ),
            "hold" if step.beside.is_some() => ("keep the rest hot".to_owned(), "60 °C (140 °F) or more".to_owned(), "hot-hold"),
            "hold" => ("hold it warm".to_owned(), "60 °C (140 °F) or more".to_owned(), "hot-hold"),
            "carve" => ("carve".to_owned(), format!("table {}", wall(instant(&plan.serve_at), now)), "table"),
            _ => continue,
        };
        let at = instant(&step.starts_at);
        knots.push((at, Knot { when: day_wall(at, now), what, detail, place }));
    }
    knots.sort_by_key(|(at, _)| *at);
    knots.into_iter().map(|(_, knot)| knot).collect()
}
