//! Pairing a device with a kitchen: the device sends a token it made itself and gets a short code; whoever types the code
//! into their Kit takes the device in. From then on the token opens the readings API.

use crate::problem::{Problem, Problems};
use crate::reader::Reader;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::ToSchema;

/// A device that wants to be paired. Sending it again, as often as one likes, says how it stands.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct PairingDoc {
    /// A secret the device made: 40 to 200 letters and figures, at least 160 bits nobody can guess.
    #[schema(min_length = 40, max_length = 200, pattern = "^[A-Za-z0-9_-]+$")]
    pub token: String,
    /// What it calls itself, 1 to 60 letters.
    #[schema(min_length = 1, max_length = 60)]
    pub name: String,
    /// The smallest step it shows, g: 0.01 to 5.
    #[schema(minimum = 0.01, maximum = 5.0)]
    pub step_g: f64,
    /// The most it bears, g: 100 to 50000.
    #[schema(minimum = 100.0, maximum = 50000.0)]
    pub capacity_g: f64,
}

/// How it stands.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct PairedDoc {
    /// Whether it hangs in a kitchen.
    pub paired: bool,
    /// The code to show until then; null once it is paired.
    pub code: Option<String>,
    /// Until when the code opens, RFC 3339; null once it is paired.
    pub until: Option<String>,
}

/// Reads a device's request, collecting every problem.
pub fn read_pairing(value: &Value) -> Result<PairingDoc, Problems> {
    let mut problems = Vec::new();
    let mut root = Reader::root(value, &mut problems);
    let token = root.text("token", "40 to 200 letters and figures", &mut problems).unwrap_or_default().to_owned();
    if !(40..=200).contains(&token.len()) || !token.bytes().all(|b| b.is_ascii_alphanumeric() || b"_-".contains(&b)) {
        let said = format!("{} characters", token.chars().count());
        problems.push(Problem::new("token", said, "40 to 200 letters and figures", "Make a long random one, and keep it in the device."));
    }
    let name = root.text("name", "1 to 60 letters", &mut problems).unwrap_or_default().trim().to_owned();
    if !(1..=60).contains(&name.chars().count()) {
        problems.push(Problem::new("name", format!("{} characters", name.chars().count()), "1 to 60 letters", "Name it like bench scale."));
    }
    let mut within = |field: &'static str, low: f64, high: f64| {
        let allowed = format!("{low} to {high} g");
        let read = root.number(field, &allowed, &mut problems).unwrap_or(-1.0);
        if !(low..=high).contains(&read) {
            problems.push(Problem::new(field, format!("{read} g"), allowed, "Its data sheet says it."));
        }
        read
    };
    let (step_g, capacity_g) = (within("step_g", 0.01, 5.0), within("capacity_g", 100.0, 50_000.0));
    root.finish(&mut problems);
    if problems.is_empty() { Ok(PairingDoc { token, name, step_g, capacity_g }) } else { Err(crate::problem::one_a_field(problems)) }
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde_json::json;

    #[test]
    fn a_device_says_who_it_is_or_hears_what_is_missing() {
        let whole = json!({"token": "a".repeat(64), "name": "bench scale", "step_g": 0.1, "capacity_g": 5000});
        assert_eq!(read_pairing(&whole).unwrap().name, "bench scale");
        let fields = |value: Value| read_pairing(&value).unwrap_err().problems.into_iter().map(|p| p.field).collect::<Vec<_>>();
        assert_eq!(fields(json!({})), ["token", "name", "step_g", "capacity_g"]);
        assert_eq!(fields(json!({"token": "short", "name": "x", "step_g": 0.1, "capacity_g": 5000})), ["token"]);
        assert_eq!(fields(json!({"token": "a".repeat(64), "name": "x", "step_g": 90, "capacity_g": 5000, "kind": 3})), ["step_g", "kind"]);
    }
}
