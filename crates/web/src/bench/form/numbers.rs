//! Words that say one number of the table of fields: read by their unit, and written back.

use super::piece::thick_of;
use super::{BenchForm, Slip, Slips, short};
use crate::words::trim;
use rauchkeller_core::clock::read_span;
use rauchkeller_core::piece::Cut;
use rauchkeller_core::plan::{FIELDS, Field, Unit};
use rauchkeller_core::units::{
    Expect, InputError, Length, LengthIn, MassIn, System, TemperatureIn, TimeIn, read_length, read_mass, read_temperature,
};
use serde_json::{Map, Value, json};

/// Words that say more than one number, or a number and something else: read in their own places.
const OWN_PLACE: [&str; 7] = ["weight", "thick", "face", "label", "dose", "also", "goal"];

/// The rows a word says by itself.
fn rows() -> impl Iterator<Item = &'static Field> {
    FIELDS.iter().filter(|row| !row.word.is_empty() && !OWN_PLACE.contains(&row.word))
}

impl BenchForm {
    pub(super) fn read_numbers(&self, cut: Option<Cut>, system: Option<System>, root: &mut Map<String, Value>, slips: &mut Slips) {
        for row in rows().filter(|row| self.counts(row.word, cut)) {
            let typed = self.word(row.word).trim();
            if typed.is_empty() {
                continue;
            }
            match read(row, typed, cut, system) {
                Ok(number) => put(root, row, number),
                Err(slip) => {
                    slips.insert(row.word, slip);
                }
            }
        }
    }

    /// A steak has no skin; what another cut left in the address does not count.
    fn counts(&self, word: &str, cut: Option<Cut>) -> bool {
        let is = |holds: fn(Cut) -> bool| cut.is_some_and(holds);
        match word {
            "skin" | "fatmin" => is(|c| c.skin_mm > 0.0),
            "bone" => is(|c| c.bone_fraction > 0.0),
            "depth" => self.cover != "draw" && self.counts("left", cut),
            "left" => !self.cover.is_empty() && is(|c| c.skin_mm > 0.0 || c.fat_mm > 0.0),
            _ => true,
        }
    }

    /// Writes every number of a request back into its word.
    pub(super) fn write_numbers(&mut self, said: &Value) {
        for row in rows().chain(["weight", "thick", "dose"].into_iter().filter_map(Field::of_word)) {
            let number = said.pointer(&format!("/{}", row.path.replace('.', "/"))).and_then(Value::as_f64);
            if let (Some(number), Some(word)) = (number, self.word_mut(row.word)) {
                *word = write(row.unit, number);
            }
        }
    }
}

fn put(root: &mut Map<String, Value>, row: &Field, number: f64) {
    let mut inside = row.object().split('.').filter(|part| !part.is_empty());
    let object = inside.try_fold(root, |object, part| object.entry(part).or_insert_with(|| Value::Object(Map::new())).as_object_mut());
    if let Some(object) = object {
        object.insert(row.leaf().into(), json!(number));
    }
}

/// As a cook would type it.
fn write(unit: Unit, number: f64) -> String {
    match unit {
        Unit::Share => format!("{} %", trim(number * 100.0, 1)),
        Unit::Hour => trim(number, 2),
        unit => format!("{} {}", trim(number, 2), unit.symbol()).trim().to_owned(),
    }
}

fn read(row: &Field, typed: &str, cut: Option<Cut>, system: Option<System>) -> Result<f64, Slip> {
    let bare = || typed.strip_suffix(row.unit.symbol()).unwrap_or(typed).trim().replace(',', ".").parse::<f64>().ok();
    let no_number = |like: &str| Slip::from(format!("“{}” does not say {}; write it like {like}.", short(typed), row.means));
    match row.unit {
        Unit::Millimetre => Ok(layer(typed, &usual(row, cut), system)?.in_mm()),
        Unit::Gram => Ok(read_mass(typed, &usual(row, cut).by(system))?.in_g()),
        Unit::Celsius => Ok(read_temperature(typed, &usual(row, cut).by(system))?.in_c()),
        Unit::Share => {
            let number: Option<f64> = typed.trim_end_matches('%').trim().replace(',', ".").parse().ok();
            let share = |number: f64| if typed.ends_with('%') || number > 1.5 { number / 100.0 } else { number };
            number.map(share).ok_or_else(|| no_number("30 % or 0.3"))
        }
        Unit::Hour => bare().or_else(|| read_span(typed).map(TimeIn::in_h)).ok_or_else(|| no_number("24 or 2 days")),
        Unit::Minute => bare().or_else(|| read_span(typed).map(TimeIn::in_min)).ok_or_else(|| no_number("30 min or 1 h")),
        Unit::Count => read_guests(typed),
        Unit::GramPerDm2 => bare().ok_or_else(|| no_number("1 g/dm²")),
        unit => bare().ok_or_else(|| no_number(&write(unit, row.range.1))),
    }
}

/// Where a bare number is taken to lie.
fn usual(row: &Field, cut: Option<Cut>) -> Expect {
    match row.word {
        "skin" => Expect::between(0.0, 8.0),
        "fat" | "fatmin" => Expect::between(0.0, 40.0),
        "thin" => Expect { low: 5.0, ..thick_of(cut) },
        "trimmed" => cut.map_or(Expect::between(100.0, 20_000.0), |cut| cut.one_weighs()),
        _ => Expect::between(row.range.0, row.range.1),
    }
}

/// A layer of skin or fat, or a thickness. Of thin layers a bare number is millimetres.
fn layer(typed: &str, expect: &Expect, system: Option<System>) -> Result<Length, InputError> {
    let thin = expect.high <= 40.0 && typed.trim().replace(',', ".").parse::<f64>().is_ok_and(|mm| mm <= expect.high);
    if thin { read_length(&format!("{} mm", typed.trim()), expect) } else { read_length(typed, &expect.by(system)) }
}

/// `8`, `8 people`, `for eight`, `a dozen`; `6–8` asks which.
fn read_guests(typed: &str) -> Result<f64, Slip> {
    const FEW: [&str; 13] = ["", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"];
    let text = typed.trim().to_lowercase();
    let text = text.trim_start_matches("for ").replace("a dozen", "12").replace("half a dozen", "6").replace("a couple", "2");
    let after = ["people", "persons", "person", "guests", "guest", "servings", "plates", "eaters", "of us", "adults"];
    let text = after.iter().fold(text.as_str(), |t, word| t.trim().strip_suffix(word).unwrap_or(t)).trim().to_owned();
    if let Some((few, many)) = text.split_once(['–', '-']).or_else(|| text.split_once(" to ")).or_else(|| text.split_once(" or ")) {
        let (few, many) = (few.trim(), many.trim());
        if few.parse::<u32>().is_ok() && many.parse::<u32>().is_ok() {
            return Err(Slip {
                says: format!("“{}” can be {few} or {many}; salt and sodium are counted a plate. Which is it?", short(typed)),
                choices: vec![few.to_owned(), many.to_owned()],
            });
        }
    }
    let word = FEW.iter().position(|w| !w.is_empty() && *w == text).map(|n| n as f64);
    text.replace(',', ".")
        .parse()
        .ok()
        .or(word)
        .ok_or_else(|| format!("“{}” is not a number; write a number of guests, like 8.", short(typed)).into())
}
