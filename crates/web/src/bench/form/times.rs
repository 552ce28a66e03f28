//! The words about time: the meal, the guests, the hours, and what is done already.

use super::{BenchForm, Slip, Slips, short};
use crate::kit::Shelf;
use jiff::ZonedDateTime;
use rauchkeller_core::clock::{Toward, read_span, read_wall_by};
use rauchkeller_core::salt::{SpoonSalt, read_salt_amount};
use rauchkeller_core::units::{MassIn, TimeIn};
use serde_json::{Map, Value, json};

impl BenchForm {
    pub(super) fn read_times(&self, now: &ZonedDateTime, shelf: &Shelf, root: &mut Map<String, Value>, slips: &mut Slips) {
        if !self.serve.trim().is_empty() {
            match read_wall_by(&self.serve, now, Toward::Coming, shelf.system) {
                Ok(at) => {
                    root.insert("serve_at".into(), at.to_string().into());
                }
                Err(error) => {
                    slips.insert("serve", error.into());
                }
            }
        }
        if let Some(guests) = Some(self.servings.trim()).filter(|t| !t.is_empty()) {
            match read_guests(guests) {
                Ok(number) => {
                    root.insert("servings".into(), json!(number));
                }
                Err(slip) => {
                    slips.insert("servings", slip);
                }
            }
        }
        if let Some(typed) = Some(self.hours.trim()).filter(|t| !t.is_empty()) {
            let bare = typed.trim_end_matches('h').trim().replace(',', ".").parse::<f64>().ok();
            match bare.or_else(|| read_span(typed).map(TimeIn::in_h)) {
                Some(hours) => {
                    root.insert("hours".into(), json!(hours));
                }
                None => {
                    slips.insert(
                        "hours",
                        format!("“{}” is no time in the refrigerator; write hours or days, like 24 or 2 days.", short(typed)).into(),
                    );
                }
            }
        }
        self.read_done(now, shelf, root, slips);
    }

    /// A piece that comes in where it stands: salted already, or lying open in the cold.
    fn read_done(&self, now: &ZonedDateTime, shelf: &Shelf, root: &mut Map<String, Value>, slips: &mut Slips) {
        if !matches!(self.stands.as_str(), "salted" | "open") {
            return;
        }
        let since = if self.since.trim().is_empty() { Ok(now.clone()) } else { read_wall_by(&self.since, now, Toward::Past, shelf.system) };
        let since = match since {
            Ok(since) => since.to_string(),
            Err(error) => {
                slips.insert("since", error.into());
                return;
            }
        };
        if self.stands == "open" {
            root.insert("done".into(), json!([{"kind": "chill", "at": since}]));
            return;
        }
        let mut salt = json!({"kind": "salt", "at": since});
        if !self.on.trim().is_empty() {
            let (spoons_of, chosen) = self.spoon(shelf);
            match read_salt_amount(&self.on, SpoonSalt::of(&spoons_of, chosen)) {
                Ok(on) => salt["g"] = json!(on.in_g()),
                Err(error) => {
                    slips.insert("on", error.into());
                }
            }
        }
        root.insert("done".into(), json!([salt, {"kind": "chill", "at": since}]));
    }
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
