//! The ways to do the piece on the Bench: what each asks and gives, computed for this piece and drawn on one scale, and why others are
//! not for it.

use super::form::BenchForm;
use super::planned::planned;
use crate::kit::{Shelf, copy_address};
use crate::words::{day_wall, g_per_kg, grams, instant, sentence, span};
use jiff::{SignedDuration, ZonedDateTime};
use rauchkeller_contract::PlanDoc;
use rauchkeller_core::method::{Method, methods};
use rauchkeller_core::piece::Cut;

/// One way that fits.
#[derive(Debug, Clone)]
pub struct Way {
    pub name: String,
    pub why: String,
    /// The Bench with this way chosen.
    pub take: String,
    /// A copy of it, to be changed.
    pub copy: String,
    pub chosen: bool,
    /// Whether it hangs in this kitchen’s Kit.
    pub own: bool,
    /// What it asks and gives; `None` where it cannot be planned as the sentence stands.
    pub line: Option<WayLine>,
    /// Its figures beside those of the others; empty where it cannot be planned.
    pub figures: Vec<Figure>,
    /// Why it cannot, every reason.
    pub refused: Vec<String>,
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
    /// Skin and core.
    pub gives: String,
    /// The same in numbers, in the order of [`COLUMNS`]; `None` where there is nothing to compare.
    amounts: [Option<f64>; COLUMNS.len()],
}

/// A figure with its bar.
#[derive(Debug, Clone, PartialEq)]
pub struct Figure {
    pub what: &'static str,
    pub says: String,
    /// How long its bar is, of 100, on the scale of all ways; `None` where the way has none of it.
    pub bar: Option<u32>,
    /// Where a line stands across it, of 100: skin that is dry enough.
    pub mark: Option<u32>,
}

/// What ways are compared by, and whether all its bars end where that of `first bite` does: both are grams in a kilogram.
const COLUMNS: [&str; 7] = ["in the cold", "hands", "in the heat", "salt", "skin dry", "first bite", "middle"];
const DRY: usize = 4;
const BITES: [usize; 2] = [5, 6];

/// What the page shows.
#[derive(Debug, Clone)]
pub struct WaysView {
    pub cut: String,
    /// The Bench as it was left.
    pub back: String,
    /// Whether the sentence says when the meal is.
    pub meal_said: bool,
    /// Heat or cover that the cook typed: every way is planned with it.
    pub typed: String,
    /// The columns that any of them has something in.
    pub columns: Vec<&'static str>,
    pub ways: Vec<Way>,
    /// Names of those that are for other pieces, each with the reason.
    pub others: Vec<(String, String)>,
}

impl WaysView {
    /// `None` where the sentence names no cut that is known.
    pub fn of(form: &BenchForm, now: &ZonedDateTime, shelf: &Shelf) -> Option<Self> {
        let cut = form.cut()?;
        let chosen = shelf.method(&form.method).unwrap_or_else(|| Method::first_for(cut));
        let mut ways: Vec<Way> = shelf.ways_for(cut).map(|method| way(form, method, now, shelf, method.id == chosen.id)).collect();
        let others = methods().iter().filter_map(|method| Some((method.name.to_string(), method.why_not(cut)?.to_owned())));
        Some(Self {
            cut: cut.name.to_lowercase(),
            back: form.address(),
            meal_said: meal_said(form),
            typed: typed(form),
            columns: drawn(&mut ways),
            ways,
            others: others.collect(),
        })
    }
}

fn meal_said(form: &BenchForm) -> bool {
    !form.serve.trim().is_empty()
}

/// What of the heat and the cover was typed, in its own words.
fn typed(form: &BenchForm) -> String {
    let words = [&form.with, &form.fire, &form.finish, &form.cover];
    words.into_iter().map(|word| word.trim()).filter(|word| !word.is_empty()).collect::<Vec<_>>().join(", ")
}

fn way(form: &BenchForm, method: &Method, now: &ZonedDateTime, shelf: &Shelf, chosen: bool) -> Way {
    // Hours of the cook's own belong to the way they were said for.
    let hours = if chosen { form.hours.clone() } else { String::new() };
    let taken = BenchForm { method: method.id.to_string(), hours, ..form.clone() };
    let (line, refused) = match planned(&taken.read(now, shelf).request, now) {
        Ok(plan) => (Some(way_line(&plan, method, form, now)), vec![]),
        Err(problems) => (None, problems.problems.iter().map(|problem| sentence(&problem.sentence())).collect()),
    };
    Way {
        name: method.name.to_string(),
        why: method.why.to_string(),
        take: taken.address(),
        copy: copy_address(&method.id, &form.address()),
        chosen,
        own: Method::is_own(&method.id),
        line,
        figures: vec![],
        refused,
    }
}

/// Draws the figures of all ways on one scale a column, and says which columns anything stands in.
fn drawn(ways: &mut [Way]) -> Vec<&'static str> {
    let amounts: Vec<[Option<f64>; COLUMNS.len()]> = ways.iter().filter_map(|way| Some(way.line.as_ref()?.amounts)).collect();
    let most = |column: usize| amounts.iter().filter_map(|of| of[column]).fold(0.0, f64::max);
    let ends: [f64; COLUMNS.len()] = std::array::from_fn(|column| match column {
        DRY => 1.0,
        column if BITES.contains(&column) => BITES.map(most).into_iter().fold(0.0, f64::max),
        column => most(column),
    });
    let stands = |column: usize| amounts.iter().any(|of| of[column].is_some());
    let shown: Vec<usize> = (0..COLUMNS.len()).filter(|column| stands(*column)).collect();
    let of_100 = |value: f64, column: usize| (value / ends[column].max(1e-9) * 100.0).round().clamp(0.0, 100.0) as u32;
    for way in ways.iter_mut() {
        let Some(line) = &way.line else { continue };
        way.figures = shown
            .iter()
            .map(|column| Figure {
                what: COLUMNS[*column],
                says: line.says(*column),
                bar: line.amounts[*column].map(|value| of_100(value, *column)),
                mark: (*column == DRY).then(|| of_100(DRY_ENOUGH, *column)),
            })
            .collect();
    }
    shown.into_iter().map(|column| COLUMNS[column]).collect()
}

/// From this dryness on skin puffs in a fierce heat (our estimate, as in the plan).
const DRY_ENOUGH: f64 = rauchkeller_core::skin::drying::DRY_ENOUGH.0;

fn minutes(min: f64) -> SignedDuration {
    SignedDuration::from_mins(min.round() as i64)
}

impl WayLine {
    /// What a column says.
    fn says(&self, column: usize) -> String {
        match column {
            0 => self.cold.clone(),
            1 => self.hands.clone(),
            2 => self.heat.clone(),
            3 => format!("{} g", self.grams.0),
            DRY => self.amounts[DRY].map_or_else(|| "–".into(), |dry| format!("{:.0} %", (dry * 100.0).floor())),
            column => self.amounts[column].map_or_else(|| "–".into(), g_per_kg),
        }
    }
}

/// What a plan asks and gives, as one of several ways.
pub fn way_line(plan: &PlanDoc, method: &Method, form: &BenchForm, now: &ZonedDateTime) -> WayLine {
    let hands: f64 = plan.steps.iter().map(|step| step.hands_on_min).sum();
    let mix = plan.dose.mix.as_ref().filter(|mix| mix.g >= 0.5);
    let (weighs, weight) = match mix {
        Some(mix) => ((format!("{:.0}", mix.g), mix.name.clone()), mix.g),
        None => ((grams(plan.dose.scale_g), "salt".to_owned()), plan.dose.scale_g),
    };
    let moment = if meal_said(form) {
        let begins = plan.steps.iter().map(|step| instant(&step.starts_at)).min();
        ("begins", begins.map(|at| day_wall(at, now)).unwrap_or_default())
    } else {
        ("on the table", day_wall(instant(&plan.serve_at), now))
    };
    let rests = method.rests_in_the_cold();
    let plate = plan.fridge.plate.as_ref();
    let bites = plate.map_or((plan.fridge.rim_g_per_kg, plan.fridge.middle_g_per_kg), |plate| (plate.rim_g_per_kg, plate.middle_g_per_kg));
    // What decides is how dry it is when the fierce heat begins: a crust dries it before that.
    let dry = plan.fire.skin.as_ref().map(|skin| skin.dryness_fierce.unwrap_or(skin.dryness_in)).or(plan.fridge.skin_dryness);
    // Heated twice it is in it for both.
    let heat = plan.fire.minutes + plan.fire.again.as_ref().map_or(0.0, |again| again.minutes);
    let cold = if rests { Some(plan.fridge.planned_h) } else { Some(0.0) };
    WayLine {
        grams: weighs,
        hands: span(minutes(hands)),
        cold: if rests { format!("{:.0} h", plan.fridge.planned_h) } else { "none".to_owned() },
        heat: span(minutes(heat)),
        moment,
        gives: gives(plan, method, form.cut()),
        amounts: [cold, Some(hands), Some(heat), Some(weight), dry, Some(bites.0), Some(bites.1)],
    }
}

/// Skin and core: what comes of it.
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
    let targets: Vec<String> = plan.fire.targets.iter().map(|t| format!("{} {:.0} °C", t.at, t.finish_c)).collect();
    said.push(targets.join(", "));
    said.extend(plan.fire.again.as_ref().map(|again| format!("then {:.0} h in the cold, cooked, and heated again", again.chilled_h)));
    sentence(&said.join("; "))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::kit::OwnWay;
    use rauchkeller_contract::method_value;
    use rauchkeller_core::method::Edit;
    use rauchkeller_core::units::GramsPerKg;
    use rauchkeller_store::{KitWay, WayId};

    fn view(cut: &str, weight: &str) -> WaysView {
        let now: ZonedDateTime = "2026-12-10T08:00[Europe/Vienna]".parse().unwrap();
        let form = BenchForm { cut: cut.into(), weight: weight.into(), ..BenchForm::default() };
        WaysView::of(&form, &now, &Shelf::default()).unwrap()
    }

    /// On one scale the longest bar of a column is whole, and bars stand to one another as their figures do.
    #[test]
    fn bars_stand_to_one_another_as_their_figures_do() {
        let view = view("pork-belly", "2.4 kg");
        assert_eq!(view.columns, COLUMNS);
        let planned: Vec<(&WayLine, &Vec<Figure>)> = view.ways.iter().filter_map(|way| Some((way.line.as_ref()?, &way.figures))).collect();
        assert!(planned.len() >= 5);
        for column in [0, 1, 2, 3] {
            let longest = planned.iter().max_by(|a, b| a.0.amounts[column].partial_cmp(&b.0.amounts[column]).unwrap()).unwrap();
            assert_eq!(longest.1[column].bar, Some(100), "{}", COLUMNS[column]);
            for (line, figures) in &planned {
                let share = line.amounts[column].unwrap() / longest.0.amounts[column].unwrap() * 100.0;
                assert!((f64::from(figures[column].bar.unwrap()) - share).abs() <= 0.5, "{}", COLUMNS[column]);
            }
        }
        // The first bite is never less salty than the middle, and both are drawn on one scale.
        assert!(planned.iter().all(|(_, figures)| figures[5].bar >= figures[6].bar));
    }

    #[test]
    fn a_steak_has_no_column_of_skin_and_a_way_that_cannot_be_says_every_reason() {
        assert!(!view("beef-rib-steak", "600 g").columns.contains(&"skin dry"));
        let now: ZonedDateTime = "2026-12-10T08:00[Europe/Vienna]".parse().unwrap();
        let form = BenchForm {
            cut: "pork-belly".into(),
            weight: "2.4 kg".into(),
            dose: "60".into(),
            fatmin: "90 mm".into(),
            ..BenchForm::default()
        };
        let view = WaysView::of(&form, &now, &Shelf::default()).unwrap();
        assert!(
            view.ways.iter().all(|way| way.line.is_none() && way.refused.len() >= 2 && way.figures.is_empty()),
            "{:?}",
            view.ways[0].refused
        );
        assert!(view.columns.is_empty());
    }

    /// An own way stands beside the schools, planned from its own document.
    #[test]
    fn an_own_way_stands_beside_the_schools() {
        let now: ZonedDateTime = "2026-12-10T08:00[Europe/Vienna]".parse().unwrap();
        let school = Method::find("open-air").unwrap().copied("own-salty", "Salty").edited(&Edit::Dose(Some(GramsPerKg(12.0)))).unwrap();
        let kept = KitWay {
            id: WayId(uuid::Uuid::nil()),
            name: "Salty".into(),
            way: "own-salty".into(),
            version: 1,
            document: method_value(&school).to_string(),
        };
        let shelf = Shelf { ways: vec![OwnWay { kept, method: Some(Method::from(school)) }], ..Shelf::default() };
        let form = BenchForm { cut: "pork-belly".into(), weight: "2 kg".into(), method: "own-salty".into(), ..BenchForm::default() };
        let view = WaysView::of(&form, &now, &shelf).unwrap();
        let own = view.ways.iter().find(|way| way.own).unwrap();
        assert!(own.chosen && view.ways.iter().filter(|way| way.chosen).count() == 1);
        // By hand: twelve grams on each of two kilograms.
        assert_eq!(own.line.as_ref().unwrap().grams.0, "24.0");
    }

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
