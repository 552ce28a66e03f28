//! The sentence of a kept piece: its request put back into words, so that it can be changed where it was said.

use super::BenchForm;
use crate::kit::Shelf;
use crate::words::trim;
use jiff::ZonedDateTime;
use rauchkeller_core::clock::{Toward, read_day_by, read_wall};
use rauchkeller_core::salt::{SaidMix, say_mix};
use rauchkeller_core::units::{grams, hours};
use serde_json::Value;

fn number(value: &Value, unit: &str) -> String {
    value.as_f64().map_or_else(String::new, |x| format!("{} {unit}", trim(x, 2)).trim().to_owned())
}

fn text(value: &Value) -> String {
    value.as_str().unwrap_or_default().to_owned()
}

/// An hour as a cook types it, with its date: `28 Nov 18:30`. Where that would mean another year, the year stands too.
fn moment(value: &Value, now: &ZonedDateTime, toward: Toward) -> String {
    let Some(at) = value.as_str().and_then(|at| at.parse::<ZonedDateTime>().ok()) else { return text(value) };
    let short = at.strftime("%-d %b %H:%M").to_string();
    let same = read_wall(&short, now, toward).is_ok_and(|read| read.timestamp() == at.timestamp());
    if same { short } else { at.strftime("%Y-%m-%d %H:%M").to_string() }
}

/// A meal, with its end where it is a span: `12 Dec 15:30 till 18:00`.
fn meal(said: &Value, now: &ZonedDateTime) -> String {
    let at = moment(&said["serve_at"], now, Toward::Coming);
    let until = said["serve_until"].as_str().and_then(|until| until.parse::<ZonedDateTime>().ok());
    until.map_or_else(|| at.clone(), |until| format!("{at} till {}", until.strftime("%H:%M")))
}

/// A day in the same way: `25 Nov`.
fn day(value: &Value, now: &ZonedDateTime, toward: Toward) -> String {
    let Some(date) = value.as_str().and_then(|day| day.parse::<jiff::civil::Date>().ok()) else { return text(value) };
    let short = date.strftime("%-d %b").to_string();
    let same = read_day_by(&short, now, toward, None).is_ok_and(|read| read == date);
    if same { short } else { date.to_string() }
}

/// Each portion's own: `400 + 350 g`, or nothing where none has its own.
fn each(portions: &[Value], field: &str, unit: &str) -> String {
    let own: Vec<String> = portions.iter().filter_map(|p| Some(trim(p[field].as_f64()?, 2))).collect();
    if own.len() == portions.len() && !own.is_empty() { format!("{} {unit}", own.join(" + ")) } else { String::new() }
}

impl BenchForm {
    /// The words that say this request. `said` holds no guesses: what nobody said stays open.
    pub fn of_request(said: &Value, now: &ZonedDateTime, shelf: &Shelf) -> Self {
        let (piece, salt) = (&said["piece"], &said["salt"]);
        let portions = piece["portions"].as_array().cloned().unwrap_or_default();
        let mut form = Self {
            cut: text(&piece["cut"]),
            scored: text(&piece["scored"]).trim_start_matches("into-").to_owned(),
            useby: day(&piece["use_by"], now, Toward::Coming),
            bought: day(&piece["bought_on"], now, Toward::Purchase),
            method: text(&said["method"]),
            salt: text(&salt["kind"]),
            cover: text(&salt["cover"]["kind"]),
            serve: meal(said, now),
            lies: text(&said["lies"]),
            by: text(&said["hours_from"]),
            goal: goal(&said["goal"]),
            ..Self::default()
        };
        form.write_numbers(said);
        form.write_heat(said);
        if !portions.is_empty() {
            form.weight = each(&portions, "weight_g", "g");
            let own = each(&portions, "salt_thickness_mm", "mm");
            form.thick = if own.is_empty() { form.thick } else { own };
            let own = each(&portions, "g_per_kg", "g/kg");
            form.dose = if own.is_empty() { form.dose } else { own };
        }
        if let (Some(long), Some(wide)) = (piece["length_mm"].as_f64(), piece["width_mm"].as_f64()) {
            form.face = format!("{} × {} mm", trim(long, 1), trim(wide, 1));
        }
        let solution = &piece["solution"];
        if let Some(mg) = solution["sodium_mg_per_100g"].as_f64() {
            form.label = format!("{} mg sodium per 100 g", trim(mg, 1));
        } else if let Some(percent) = solution["up_to_percent"].as_f64() {
            form.label = format!("up to {} % solution", trim(percent, 1));
        }
        if let Some(name) = salt["own"]["name"].as_str() {
            form.salt = shelf.salts.iter().find(|s| s.name == name).map(|s| format!("own-{}", s.id)).unwrap_or_default();
        }
        form.also = also(said);
        form.split = split(&salt["shares"]);
        if piece["frozen"].as_bool() == Some(true) {
            form.stands = match said["thaw"].as_str() {
                Some("water") => "frozen-water",
                Some("refrigerator-salted") => "frozen-salted",
                _ => "frozen",
            }
            .into();
        }
        for done in said["done"].as_array().into_iter().flatten() {
            let salting = done["kind"] == "salt";
            if salting || form.stands.is_empty() {
                form.stands = if salting { "salted" } else { "open" }.into();
                form.since = moment(&done["at"], now, Toward::Past);
            }
            if salting {
                form.on = number(&done["g"], "g");
            }
        }
        form
    }
}

/// What goes on besides, as it was said, and a mix by its name.
fn also(said: &Value) -> String {
    let line = |entry: &Value| match entry["said"].as_str() {
        Some(said) => said.to_owned(),
        None => format!("{} {}", number(&entry["g"], "g"), text(&entry["item"]).replace('-', " ")),
    };
    let mut lines: Vec<String> = said["ledger"].as_array().into_iter().flatten().map(line).collect();
    let more = said["mixes"].as_array().into_iter().flatten();
    lines.extend(said["mix"].as_object().map(|_| &said["mix"]).into_iter().chain(more).map(|mix| say_mix(&said_mix(mix))));
    lines.join(", ")
}

/// A mix of a request as it was said: with its ingredients where it hangs in no Kit.
fn said_mix(mix: &Value) -> SaidMix {
    SaidMix {
        name: text(&mix["name"]),
        asked: mix["g"].as_f64().map(grams),
        recipe: text(&mix["recipe"]),
        face: mix["face"].as_str().map(str::to_owned),
        at: mix["at_h"].as_f64().map(hours),
        bath: mix["bath_h"].as_f64().map(hours),
    }
}

/// Shares of the faces, in per cent.
fn split(shares: &Value) -> String {
    let said =
        shares.as_object().into_iter().flatten().filter_map(|(face, share)| Some(format!("{face} {} %", trim(share.as_f64()? * 100.0, 2))));
    said.collect::<Vec<_>>().join(", ")
}

fn goal(value: &Value) -> String {
    let of = |field: &str| value[field].as_f64();
    if let Some(mm) = of("depth_mm") {
        format!("{} mm", trim(mm, 1))
    } else if let Some(share) = of("evenness") {
        format!("{} % even", trim(share * 100.0, 1))
    } else if let Some(rim) = of("rim_g_per_kg") {
        format!("outer 5 mm down to {} g/kg", trim(rim, 1))
    } else if let Some(share) = of("skin_dryness") {
        format!("skin {} % dry", trim(share * 100.0, 1))
    } else {
        String::new()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde_json::json;

    fn now() -> ZonedDateTime {
        "2026-12-10T09:00[Europe/Vienna]".parse().unwrap()
    }

    /// Said, read, put back into words and read again it is the same request.
    #[test]
    fn words_say_again_what_they_said() {
        let form = |pairs: &[(&str, &str)]| -> BenchForm {
            serde_json::from_value(Value::Object(pairs.iter().map(|(k, v)| ((*k).to_owned(), json!(v))).collect())).unwrap()
        };
        let sentences = [
            form(&[("cut", "pork-belly"), ("weight", "5 lb 4 oz"), ("thick", "1¾ in"), ("dose", "0.8 %"), ("serve", "Saturday 18:00")]),
            form(&[("cut", "beef-rib-steak"), ("weight", "400 g 50 mm, 350 g 38 mm"), ("dose", "10 + 12 g/kg"), ("servings", "3")]),
            form(&[
                ("cut", "turkey-whole"),
                ("weight", "5.2 kg"),
                ("label", "up to 8 % solution"),
                ("stands", "frozen"),
                ("useby", "20 December"),
            ]),
            form(&[
                ("cut", "duck-whole"),
                ("weight", "2 × 2.1 kg"),
                (
                    "also",
                    "2 tbsp soy sauce, 1 tsp fish sauce, rub (20 g salt, 10 g sugar), 12 g paste (3 g salt, 9 g oil) on the cavity after 6 h",
                ),
                ("by", "model"),
                ("goal", "skin 95 % dry"),
            ]),
            form(&[
                ("cut", "pork-belly"),
                ("weight", "2.4 kg"),
                ("stands", "salted"),
                ("since", "07:00"),
                ("on", "12 g"),
                ("hours", "48"),
                ("lies", "covered"),
                ("room", "95 F"),
            ]),
            form(&[
                ("cut", "pork-belly"),
                ("weight", "2.4 kg"),
                ("face", "267 × 190 mm"),
                ("skin", "2.5 mm"),
                ("cover", "crust"),
                ("depth", "5 mm"),
                ("scored", "fat"),
            ]),
            form(&[
                ("cut", "pork-leg"),
                ("weight", "4.5 kg"),
                ("bone", "20 %"),
                ("trimmed", "4.3 kg"),
                ("thin", "90 mm"),
                ("bought", "yesterday"),
            ]),
            form(&[("cut", "pork-leg"), ("weight", "4.5 kg"), ("bought", "this Saturday")]),
        ];
        for sentence in sentences {
            let said = sentence.read(&now(), &Shelf::default());
            assert!(said.slips.is_empty(), "{:?}", said.slips);
            let again = BenchForm::of_request(&said.request, &now(), &Shelf::default()).read(&now(), &Shelf::default());
            assert!(again.slips.is_empty(), "{:?} {:?}", BenchForm::of_request(&said.request, &now(), &Shelf::default()), again.slips);
            near(&said.request, &again.request, "");
        }
    }

    /// The same fields; numbers to a hundredth, as they are written.
    fn near(a: &Value, b: &Value, path: &str) {
        match (a, b) {
            (Value::Object(x), Value::Object(y)) => {
                assert_eq!(x.keys().collect::<Vec<_>>(), y.keys().collect::<Vec<_>>(), "{path}");
                x.iter().for_each(|(key, value)| near(value, &y[key], &format!("{path}.{key}")));
            }
            // A list of things said in one breath is read as one again.
            (Value::Array(x), Value::Array(y)) => {
                assert_eq!(x.len(), y.len(), "{path}");
                x.iter().zip(y).for_each(|(x, y)| near(x, y, path));
            }
            (Value::Number(x), Value::Number(y)) => {
                let (x, y) = (x.as_f64().unwrap(), y.as_f64().unwrap());
                assert!((x - y).abs() <= 0.006 + 1e-4 * x.abs(), "{path}: {x} {y}");
            }
            _ => assert_eq!(a, b, "{path}"),
        }
    }
}
