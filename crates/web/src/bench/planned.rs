//! Plans of this minute: what was just planned for the page is not planned again to be kept, gone back to, or seen on the phone beside it.

use jiff::ZonedDateTime;
use rauchkeller_contract::{PlanDoc, Problems, plan_from};
use serde_json::Value;
use std::collections::VecDeque;
use std::sync::{Arc, LazyLock, Mutex, PoisonError};

/// So many plans are kept, the latest; one takes some 60 KB.
const MOST: usize = 64;

/// A request with the minute it was planned in: all that a plan depends on.
type Key = (String, ZonedDateTime);

/// The latest first.
type Latest = VecDeque<(Key, Arc<PlanDoc>)>;

static LATEST: LazyLock<Mutex<Latest>> = LazyLock::new(Mutex::default);

/// The plan of a request at a whole minute; the one already made, where there is one.
///
/// Cost: a millisecond and a half of planning, or next to nothing.
pub fn planned(request: &Value, minute: &ZonedDateTime) -> Result<Arc<PlanDoc>, Problems> {
    let key = (request.to_string(), minute.clone());
    let latest = || LATEST.lock().unwrap_or_else(PoisonError::into_inner);
    let known = latest().iter().find(|(of, _)| *of == key).map(|(_, plan)| plan.clone());
    if let Some(plan) = known {
        return Ok(plan);
    }
    let plan = Arc::new(plan_from(request, minute)?);
    let mut all = latest();
    if all.len() >= MOST {
        all.pop_back();
    }
    all.push_front((key, plan.clone()));
    Ok(plan)
}

/// The clock of the Bench: it plans by whole minutes, so that what is kept is what was seen.
pub fn minute(now: &ZonedDateTime) -> ZonedDateTime {
    let begun = jiff::SignedDuration::new(i64::from(now.second()), now.subsec_nanosecond());
    now.checked_sub(begun).unwrap_or_else(|_| now.clone())
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde_json::json;

    #[test]
    fn what_was_planned_before_is_what_would_be_planned_now() {
        let request = |g: f64| json!({"piece": {"cut": "pork-belly", "weight_g": g}, "serve_at": "2026-12-12T19:00[Europe/Vienna]"});
        let at = |text: &str| text.parse::<ZonedDateTime>().unwrap();
        let (one, later) = (at("2026-12-10T09:00[Europe/Vienna]"), at("2026-12-10T09:01[Europe/Vienna]"));
        for (g, now) in [(2400.0, &one), (2600.0, &one), (2400.0, &later), (2400.0, &one)] {
            assert_eq!(*planned(&request(g), now).unwrap(), plan_from(&request(g), now).unwrap(), "{g} at {now}");
        }
        assert!(planned(&json!({"piece": {"cut": "pork-belly", "weight_g": -1.0}}), &one).is_err());
    }

    #[test]
    fn the_clock_is_a_whole_minute() {
        let now: ZonedDateTime = "2026-12-10T09:00:59.9[Europe/Vienna]".parse().unwrap();
        assert_eq!(minute(&now), "2026-12-10T09:00[Europe/Vienna]".parse::<ZonedDateTime>().unwrap());
    }
}
