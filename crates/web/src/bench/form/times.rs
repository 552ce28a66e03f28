//! The words about time: the meal, and what is done already.

use super::{BenchForm, Slips};
use crate::kit::Shelf;
use jiff::ZonedDateTime;
use rauchkeller_core::clock::{Toward, read_meal, read_wall_by};
use rauchkeller_core::salt::{SpoonSalt, read_salt_amount};
use rauchkeller_core::units::MassIn;
use serde_json::{Map, Value, json};

impl BenchForm {
    pub(super) fn read_times(&self, now: &ZonedDateTime, shelf: &Shelf, root: &mut Map<String, Value>, slips: &mut Slips) {
        if !self.serve.trim().is_empty() {
            match read_meal(&self.serve, now, shelf.system) {
                Ok((at, until)) => {
                    root.insert("serve_at".into(), at.to_string().into());
                    root.extend(until.map(|until| ("serve_until".into(), until.to_string().into())));
                }
                Err(error) => {
                    slips.insert("serve", error.into());
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
