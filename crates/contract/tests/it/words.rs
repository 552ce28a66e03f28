//! One plan says one number: every figure in its words is one of its fields, rounded as the words round.

use crate::dice::request;
use rauchkeller_contract::{PlanDoc, plan_doc};
use rauchkeller_core::piece::weight_mismatch;
use rauchkeller_core::plan::{Plan, make_plan};
use rauchkeller_core::salt::house_table;
use rauchkeller_core::units::{MassIn, TimeIn};
use serde_json::Value;
use std::collections::{BTreeMap, BTreeSet};

const ASKED: u64 = 2400;
const WANTED: usize = 2000;

/// Units that words carry, longest first, and what fields of that unit end in.
const UNITS: [(&str, &[&str]); 8] = [
    ("g/kg", &["g_per_kg"]),
    ("g/dm²", &["g_per_dm2"]),
    ("°C", &["_c"]),
    ("mm", &["_mm"]),
    ("min", &["_min", "minutes", "minutes_low", "minutes_high"]),
    ("kg", &["_kg"]),
    ("g", &["_g"]),
    ("h", &["_h"]),
];

/// Figures that are the same in every plan: limits of authorities and rules of the house, with where they stand.
const STANDING: [(&str, &[&str]); 7] = [
    // USDA: 4.4 °C, 63 and 74 °C; 73.9 °C for both cores; 32 °C of the 2-hour rule.
    // What grows does so from 10 to 54 °C.
    // Held warm: 60 °C. Skin puffs at 140 °C; a glaze goes on for the last 5 to 8 °C.
    // Skin dries under a crust at 150 to 160 °C.
    ("°C", &["4.4", "62.8", "63", "73.9", "74", "32", "60", "140", "8", "10", "54", "160"]),
    // The two hours; one above 32 °C; a day's thawing for every 4–5 lb; four and six of the middle.
    ("h", &["2", "1", "24", "4", "6"]),
    // Three minutes of rest at 62.8 °C.
    ("min", &["3"]),
    ("g/kg", &["7.5", "12.5", "40", "15", "18"]),
    // The outer mouthful; strips.
    ("mm", &["5", "38"]),
    ("g", &[]),
    // What weighs a piece down.
    ("kg", &["2"]),
];

/// Every number of a document under the unit its name ends in.
fn fields(name: &str, value: &Value, found: &mut BTreeMap<&'static str, Vec<f64>>) {
    match value {
        Value::Object(all) => all.iter().for_each(|(name, value)| fields(name, value, found)),
        Value::Array(all) => all.iter().for_each(|value| fields(name, value, found)),
        Value::Number(n) => {
            let unit = UNITS.iter().find(|(_, ends)| ends.iter().any(|end| name.ends_with(end) || end.strip_prefix('_') == Some(name)));
            if let (Some((unit, _)), Some(n)) = (unit, n.as_f64()) {
                found.entry(unit).or_default().push(n);
            }
        }
        _ => {}
    }
}

/// Every text a cook reads in it, with where it stands.
fn texts(doc: &PlanDoc) -> Vec<(String, String)> {
    let mut all: Vec<(String, String)> = Vec::new();
    for step in &doc.steps {
        all.push((format!("step {}", step.kind), step.title.clone()));
        all.push((format!("step {}", step.kind), step.detail.clone()));
        all.extend(step.until.clone().map(|until| (format!("step {} until", step.kind), until)));
    }
    all.extend(doc.cautions.iter().map(|c| (format!("caution {}", c.code), c.text.clone())));
    all.extend(doc.inspection.iter().map(|n| (format!("inspection {}", n.field), n.says.clone())));
    all.extend(doc.why.iter().map(|w| (format!("why {}", w.number), w.says.clone())));
    all.push(("hours".to_owned(), doc.fridge.why.clone()));
    all.extend(doc.fridge.model.iter().map(|m| ("differs".to_owned(), m.differs.clone())));
    all.extend(doc.skin.iter().filter_map(|s| s.depth_refused.clone()).map(|said| ("refused depth".to_owned(), said)));
    all
}

/// Whether a number in words is a field's: rounded as it was written, the field itself being known to four decimals.
fn says(field: f64, number: &str, places: i32) -> bool {
    number.parse::<f64>().is_ok_and(|said| (said - field).abs() <= 0.5 * 10f64.powi(-places) + 1e-4)
}

/// What the reasons work out in front of the cook from the plan's own numbers, worked out once more.
fn derived(plan: &Plan, doc: &PlanDoc, held: &mut BTreeMap<&'static str, Vec<f64>>) {
    let weights = [plan.resolved.basis_weight().in_g(), doc.request.weight_g];
    let recipe = plan.request.mix.as_ref().map(|use_of| &use_of.mix);
    let made_for = recipe.and_then(|mix| mix.made_for).map(MassIn::in_g);
    let whole = recipe.map(|mix| mix.parts.iter().map(|part| part.weight.in_g()).sum::<f64>());
    let on_bench: Vec<f64> = weights.into_iter().chain(made_for).chain(whole).collect();
    held.entry("kg").or_default().extend(on_bench.iter().map(|g| g / 1000.0));
    held.entry("g").or_default().extend(on_bench);
    // What length, width and thickness come to.
    let apart = weight_mismatch(&plan.request.cut, plan.resolved.largest, plan.resolved.mean_measures(), plan.resolved.middle());
    held.entry("g").or_default().extend(apart.map(|apart| apart.measured.in_g()));
    // Sodium of what is not salt, and what the soda of a method weighs.
    held.entry("g").or_default().push(plan.request.ledger.iter().map(|entry| entry.other_sodium().in_g()).sum());
    // Spoons come to a little more or less than the scale.
    held.entry("g").or_default().push((doc.dose.scale_g - doc.dose.spoons_g).abs());
    held.entry("g/dm²").or_default().extend(doc.dose.cover.iter().map(|cover| cover.g / cover.area_dm2));
    let goals = doc.fridge.model.iter().flat_map(|model| &model.goals);
    held.entry("mm").or_default().extend(goals.filter(|goal| goal.kind == "depth").map(|goal| goal.value));
    // The house table at this thickness, where a method's own hours beat it.
    let table = house_table(plan.resolved.thickness);
    held.entry("h").or_default().extend([table.shortest, table.ideal, table.longest].map(TimeIn::in_h));
    let shown = doc.steps.iter().filter(|s| s.figure_unit.as_deref() == Some("h"));
    held.entry("h").or_default().extend(shown.filter_map(|s| s.figure.as_ref()?.parse::<f64>().ok()));
    // What the core is to show at a look halfway, or when a glaze goes on.
    let shown = doc.steps.iter().filter(|s| s.figure_unit.as_deref().is_some_and(|unit| unit.starts_with("°C")));
    held.entry("°C").or_default().extend(shown.filter_map(|s| s.figure.as_ref()?.parse::<f64>().ok()));
    // What the core climbs: a difference, said as “3 to 7 °C more”.
    held.entry("°C").or_default().extend([doc.fire.carry_over_band_k.0, doc.fire.carry_over_band_k.1]);
    held.entry("°C").or_default().extend(doc.fire.overshoots_k.into_iter().chain(doc.fire.short_by_k));
    // Where a probe has to be, that it reaches the authority's least by the low end of its climb.
    let leave_in = doc.fire.targets.iter().map(|t| (t.authority_c - doc.fire.carry_over_band_k.0).ceil());
    held.entry("°C").or_default().extend(leave_in);
    // The same grams an area on a thinner place.
    let thin = doc.request.thin_mm.map(|thin| doc.fridge.slice_g_per_kg * doc.request.salt_thickness_mm / thin);
    held.entry("g/kg").or_default().extend(thin);
}

/// Spans of hours and minutes as minutes: `1 h 12 min` is 72.
fn in_minutes(text: &str) -> String {
    let mut words: Vec<String> = text.split(' ').map(str::to_owned).collect();
    let mut i = 0;
    while i + 3 < words.len() {
        if words[i + 1] == "h"
            && words[i + 3].starts_with("min")
            && let (Ok(h), Ok(min)) = (words[i].parse::<u32>(), words[i + 2].parse::<u32>())
        {
            words.splice(i..i + 3, [(60 * h + min).to_string()]);
        }
        i += 1;
    }
    words.join(" ")
}

#[test]
fn spans_are_read_as_minutes() {
    assert_eq!(in_minutes("About 4 h 12 min, or 2 h; every 5 min."), "About 252 min, or 2 h; every 5 min.");
}

/// Numbers with a unit behind them.
fn figures(text: &str) -> Vec<(String, &'static str)> {
    let mut found = Vec::new();
    let chars: Vec<(usize, char)> = text.char_indices().collect();
    let mut i = 0;
    while i < chars.len() {
        let begins = chars[i].1.is_ascii_digit() && (i == 0 || !chars[i - 1].1.is_ascii_alphanumeric() && chars[i - 1].1 != '.');
        if !begins {
            i += 1;
            continue;
        }
        let from = i;
        while i < chars.len()
            && (chars[i].1.is_ascii_digit() || chars[i].1 == '.' && chars.get(i + 1).is_some_and(|c| c.1.is_ascii_digit()))
        {
            i += 1;
        }
        let number = &text[chars[from].0..chars.get(i).map_or(text.len(), |c| c.0)];
        let behind = text[chars.get(i).map_or(text.len(), |c| c.0)..].trim_start_matches(['\u{a0}', ' ']);
        let unit = UNITS
            .iter()
            .map(|(unit, _)| *unit)
            .find(|unit| behind.strip_prefix(unit).is_some_and(|rest| !rest.starts_with(|c: char| c.is_alphanumeric() || c == '/')));
        found.extend(unit.map(|unit| (number.to_owned(), unit)));
    }
    found
}

#[test]
fn figures_are_read_with_their_units() {
    let read = figures("Weigh 12.5 g (4.4 °C, 7.5 g/kg) for 24 h; 3 gammons, A4 g, 2 hours, 18 min.");
    let want = [("12.5", "g"), ("4.4", "°C"), ("7.5", "g/kg"), ("24", "h"), ("18", "min")];
    assert_eq!(read.iter().map(|(n, u)| (n.as_str(), *u)).collect::<Vec<_>>(), want);
}

#[test]
fn what_the_words_say_is_what_the_fields_hold() {
    let (mut plans, mut compared) = (0, 0);
    let mut strangers: BTreeMap<String, (usize, String)> = BTreeMap::new();
    for seed in 0..ASKED {
        let Ok(plan) = make_plan(&request(seed)) else { continue };
        let doc = plan_doc(&plan);
        let mut held = BTreeMap::new();
        fields("", &serde_json::to_value(&doc).unwrap(), &mut held);
        // What the cut's row of the table says, and the time since what was done.
        held.entry("mm").or_default().extend([plan.request.cut.thickness_mm.0, plan.request.cut.thickness_mm.2]);
        let since = plan.request.done.iter().map(|d| plan.request.now.timestamp().duration_since(d.at).as_secs_f64() / 3600.0);
        held.entry("h").or_default().extend(since);
        // Leaving out so much of one thing brings it back to the target; in whole grams, rather more than less.
        let over = (plan.dose.dose.from_ledger - plan.dose.dose.total).in_g();
        let leave = |used: f64, brings: f64| (used * over / brings.max(1e-9)).ceil();
        let left_out = plan.request.ledger.iter().map(|entry| leave(entry.used.in_g(), entry.salt_brought().in_g()));
        let of_mix = plan.dose.mix.as_ref().map(|mix| leave(1.0, mix.share));
        held.entry("g").or_default().extend(left_out.chain(of_mix));
        derived(&plan, &doc, &mut held);
        // Whole hours of a span are minutes in their field.
        let whole: Vec<f64> = held.get("min").into_iter().flatten().map(|min| min / 60.0).filter(|h| h.fract() == 0.0).collect();
        held.entry("h").or_default().extend(whole);
        plans += 1;
        // What the cook typed is quoted as it was typed.
        let typed: BTreeSet<&str> = doc.dose.ledger.iter().map(|l| l.what.as_str()).collect();
        for (place, mut text) in texts(&doc) {
            for quoted in &typed {
                text = text.replace(quoted, "…");
            }
            for (number, unit) in figures(&in_minutes(&text)) {
                compared += 1;
                let places = number.split_once('.').map_or(0, |(_, after)| i32::try_from(after.len()).unwrap_or(9));
                // A depth is cut off, never rounded towards the lean.
                let cut_off = |n: f64| format!("{:.1}", (n * 10.0).floor() / 10.0);
                let deep = unit == "mm" && held.get(unit).is_some_and(|all| all.iter().any(|n| cut_off(*n) == number));
                let held = deep || held.get(unit).is_some_and(|all| all.iter().any(|n| says(*n, &number, places)));
                let standing = STANDING.iter().any(|(of, all)| *of == unit && all.contains(&number.as_str()));
                if !held && !standing {
                    let entry = strangers.entry(format!("{place}: {unit}")).or_insert((0, format!("{seed}: {number} {unit} in “{text}”")));
                    entry.0 += 1;
                }
            }
        }
    }
    assert!(plans >= WANTED && compared > 10 * plans, "{plans} plans, {compared} figures");
    assert!(strangers.is_empty(), "{strangers:#?}");
}
