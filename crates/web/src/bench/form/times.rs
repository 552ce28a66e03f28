//! The words about time: the meal, the guests, the hours, and what is done already.

use super::{BenchForm, short};
use jiff::ZonedDateTime;
use rauchkeller_core::clock::{Toward, read_wall};
use rauchkeller_core::units::{MassIn, parse_mass};
use serde_json::{Map, Value, json};
use std::collections::BTreeMap;

impl BenchForm {
    pub(super) fn read_times(&self, now: &ZonedDateTime, root: &mut Map<String, Value>, slips: &mut BTreeMap<&'static str, String>) {
        if !self.serve.trim().is_empty() {
            match read_wall(&self.serve, now, Toward::Coming) {
                Ok(at) => {
                    root.insert("serve_at".into(), at.to_string().into());
                }
                Err(error) => {
                    slips.insert("serve", format!("{error}."));
                }
            }
        }
        for (word, typed, what) in [("servings", &self.servings, "a number of guests, like 8"), ("hours", &self.hours, "hours, like 24")] {
            let bare = typed.trim().trim_end_matches('h').trim().replace(',', ".");
            if bare.is_empty() {
                continue;
            }
            match bare.parse::<f64>() {
                Ok(number) => {
                    root.insert(word.into(), json!(number));
                }
                Err(_) => {
                    slips.insert(word, format!("“{}” is not a number; write {what}.", short(typed)));
                }
            }
        }
        self.read_done(now, root, slips);
    }

    /// A piece that comes in where it stands: salted already, or lying open in the cold.
    fn read_done(&self, now: &ZonedDateTime, root: &mut Map<String, Value>, slips: &mut BTreeMap<&'static str, String>) {
        if !matches!(self.stands.as_str(), "salted" | "open") {
            return;
        }
        let since = if self.since.trim().is_empty() { Ok(now.clone()) } else { read_wall(&self.since, now, Toward::Past) };
        let since = match since {
            Ok(since) => since.to_string(),
            Err(error) => {
                slips.insert("since", format!("{error}."));
                return;
            }
        };
        if self.stands == "open" {
            root.insert("done".into(), json!([{"kind": "chill", "at": since}]));
            return;
        }
        let mut salt = json!({"kind": "salt", "at": since});
        if !self.on.trim().is_empty() {
            match parse_mass(&self.on) {
                // A bare number in the salt's place is grams, however small.
                Ok(grams) => {
                    let bare = self.on.trim().replace(',', ".").parse::<f64>().ok();
                    salt["g"] = json!(bare.unwrap_or_else(|| grams.in_g()));
                }
                Err(error) => {
                    slips.insert("on", format!("{error}."));
                }
            }
        }
        root.insert("done".into(), json!([salt, {"kind": "chill", "at": since}]));
    }
}
