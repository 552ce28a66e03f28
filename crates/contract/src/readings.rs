//! The open readings API: what any device may send.

use crate::problem::{Problem, Problems};
use crate::reader::{Reader, typed};
use jiff::{SignedDuration, Timestamp};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::ToSchema;

/// One reading of a scale.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct ReadingDoc {
    /// The device's own count, rising; a number that was sent before changes nothing.
    pub seq: i64,
    /// The device's clock, RFC 3339 or RFC 9557.
    pub at: String,
    /// What the scale shows, grams; negative where more was lifted than was there at its tare.
    pub mass_g: f64,
}

/// A batch of readings.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct ReadingsDoc {
    /// 1 to 200 of them.
    pub readings: Vec<ReadingDoc>,
}

/// What was taken.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct ReceivedDoc {
    /// Stored now.
    pub accepted: usize,
    /// Known by their sequence number already; nothing was changed.
    pub repeated: usize,
}

/// A reading that was read.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ReadingRead {
    /// The device's count.
    pub seq: i64,
    /// Its clock.
    pub at: Timestamp,
    /// Grams.
    pub mass_g: f64,
}

/// The most readings in one batch.
const MOST: usize = 200;

/// Reads a batch, collecting every problem; one that cannot be refuses the whole batch.
///
/// `capacity_g` is the most the device bears; its clock may run ten minutes ahead and thirty days behind `now`.
pub fn read_readings(value: &Value, capacity_g: f64, now: Timestamp) -> Result<Vec<ReadingRead>, Problems> {
    let mut problems = Vec::new();
    let mut root = Reader::root(value, &mut problems);
    let list = root.list("readings", MOST, &mut problems);
    if list.is_empty() && problems.is_empty() {
        problems.push(Problem::new("readings", "none", format!("1 to {MOST} readings"), "Send at least one."));
    }
    let mut read = Vec::with_capacity(list.len());
    for mut entry in list {
        let seq = read_seq(&mut entry, &mut problems);
        let at = read_clock(&mut entry, now, &mut problems);
        let mass = entry.number("mass_g", "grams", &mut problems);
        if mass.is_none() && !problems.iter().any(|p| p.field == entry.field("mass_g")) {
            problems.push(Problem::new(entry.field("mass_g"), "nothing", "a number", "Every reading has seq, at and mass_g."));
        }
        if let Some(g) = mass.filter(|g| !(-capacity_g..=capacity_g * 1.1).contains(g)) {
            problems.push(Problem::new(
                entry.field("mass_g"),
                format!("{g} g"),
                format!("{} to {} g, what this device bears", -capacity_g, capacity_g * 1.1),
                "A scale beyond its limit shows nothing; send nothing then.",
            ));
        }
        entry.finish(&mut problems);
        if let (Some(seq), Some(at), Some(mass_g)) = (seq, at, mass) {
            read.push(ReadingRead { seq, at, mass_g });
        }
    }
    root.finish(&mut problems);
    if problems.is_empty() { Ok(read) } else { Err(Problems { problems: problems.into_iter().take(20).collect() }) }
}

/// A count that devices may start at their clock's milliseconds: far beyond what other numbers may be.
fn read_seq(entry: &mut Reader, problems: &mut Vec<Problem>) -> Option<i64> {
    let value = entry.get("seq");
    let seq = value.and_then(Value::as_i64).filter(|seq| *seq >= 0);
    if seq.is_none() {
        let said = value.map_or_else(|| "nothing".to_owned(), typed);
        problems.push(Problem::new(entry.field("seq"), said, "a whole number from 0", "Count readings up, one by one."));
    }
    seq
}

fn read_clock(entry: &mut Reader, now: Timestamp, problems: &mut Vec<Problem>) -> Option<Timestamp> {
    const ALLOWED: &str = "an instant like 2026-12-10T08:00:00Z";
    let before = problems.len();
    let Some(text) = entry.text("at", ALLOWED, problems) else {
        if problems.len() == before {
            problems.push(Problem::new(entry.field("at"), "nothing", ALLOWED, "Every reading has seq, at and mass_g."));
        }
        return None;
    };
    let said = typed(&Value::String(text.to_owned()));
    let Ok(at) = text.trim().parse::<Timestamp>() else {
        problems.push(Problem::new(entry.field("at"), said, ALLOWED, "Write it in RFC 3339."));
        return None;
    };
    let ahead = at.duration_since(now);
    if ahead > SignedDuration::from_mins(10) || ahead < SignedDuration::from_hours(-24 * 30) {
        problems.push(Problem::new(entry.field("at"), said, "at most ten minutes ahead and thirty days ago", "Set the device’s clock."));
        return None;
    }
    Some(at)
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;
    use serde_json::json;

    fn now() -> Timestamp {
        "2026-12-10T08:00:00Z".parse().unwrap()
    }

    #[test]
    fn a_batch_is_read() {
        let batch = json!({"readings": [{"seq": 7, "at": "2026-12-10T07:59:59.5Z", "mass_g": 182.3}, {"seq": 1_795_610_460_366_i64, "at": "2026-12-10T08:00:00Z", "mass_g": -0.1}]});
        let read = read_readings(&batch, 5000.0, now()).unwrap();
        assert_eq!((read.len(), read[0].seq, read[1].mass_g), (2, 7, -0.1));
    }

    #[rstest]
    #[case(json!({"readings": []}), "readings")]
    #[case(json!({"readings": "many"}), "readings")]
    #[case(json!([]), "request")]
    #[case(json!({"readings": [{"seq": 1, "at": "2026-12-10T08:00:00Z", "mass_g": 9000}]}), "readings[0].mass_g")]
    #[case(json!({"readings": [{"seq": 1, "at": "2026-12-10T08:00:00Z", "mass_g": -9000}]}), "readings[0].mass_g")]
    #[case(json!({"readings": [{"seq": 1, "at": "2026-12-10T08:00:00Z"}]}), "readings[0].mass_g")]
    #[case(json!({"readings": [{"at": "2026-12-10T08:00:00Z", "mass_g": 1}]}), "readings[0].seq")]
    #[case(json!({"readings": [{"seq": 1.5, "at": "2026-12-10T08:00:00Z", "mass_g": 1}]}), "readings[0].seq")]
    #[case(json!({"readings": [{"seq": -1, "at": "2026-12-10T08:00:00Z", "mass_g": 1}]}), "readings[0].seq")]
    #[case(json!({"readings": [{"seq": 1, "at": "yesterday", "mass_g": 1}]}), "readings[0].at")]
    #[case(json!({"readings": [{"seq": 1, "at": "2027-12-10T08:00:00Z", "mass_g": 1}]}), "readings[0].at")]
    #[case(json!({"readings": [{"seq": 1, "at": "2025-12-10T08:00:00Z", "mass_g": 1}]}), "readings[0].at")]
    #[case(json!({"readings": [{"seq": 1, "at": "2026-12-10T08:00:00Z", "mass_g": 1, "colour": "red"}]}), "readings[0].colour")]
    fn what_cannot_be_is_named(#[case] batch: Value, #[case] field: &str) {
        let problems = read_readings(&batch, 5000.0, now()).unwrap_err().problems;
        assert!(problems.iter().any(|p| p.field == field), "{field} not in {problems:?}");
    }
}
