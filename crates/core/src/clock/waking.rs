//! Hours whose work is done by somebody who is awake.

use super::{Quiet, kitchen};
use crate::units::{Time, hours};
use jiff::tz::TimeZone;
use jiff::{SignedDuration, Timestamp};

/// Nobody sets an alarm by the minute.
const QUARTER: SignedDuration = SignedDuration::from_mins(15);
/// No night is longer than that.
const MOST_QUARTERS: i32 = 64;

/// Hours in the cold near those that were asked for, whose work before the cold lies in waking hours: the longer first, then the
/// shorter; empty where the work lies there already. `work` is when it would begin and end.
///
/// ```
/// use rauchkeller_core::{clock::{Quiet, waking_hours}, units::{TimeIn, hours}};
/// use jiff::tz::TimeZone;
/// let at = |text: &str| text.parse().unwrap();
/// let night = Quiet::read("22:30-06:30").unwrap();
/// // By hand: 25 minutes from 00:34 on end at 22:29 if they begin two hours and a half sooner, and begin at 06:34 six hours later.
/// let found = waking_hours(hours(40.0), (at("2026-12-02T00:34Z"), at("2026-12-02T00:59Z")), night, &TimeZone::UTC, at("2026-12-01T12:00Z"));
/// assert_eq!(found.iter().map(|h| h.in_h()).collect::<Vec<_>>(), [42.5, 34.0]);
/// ```
pub fn waking_hours(asked: Time, work: (Timestamp, Timestamp), quiet: Quiet, zone: &TimeZone, now: Timestamp) -> Vec<Time> {
    let at_night = |by: SignedDuration| quiet.touches(work.0 + by, work.1 + by, zone);
    if !at_night(SignedDuration::ZERO) {
        return vec![];
    }
    let by = |quarters: i32| QUARTER * quarters;
    let sooner = (1..=MOST_QUARTERS).map(|n| by(-n)).take_while(|by| work.0 + *by >= now).find(|by| !at_night(*by));
    let later = (1..=MOST_QUARTERS).map(by).find(|by| !at_night(*by));
    let left = |by: SignedDuration| asked - kitchen(by);
    [sooner, later].into_iter().flatten().map(left).filter(|left| *left > hours(0.0)).collect()
}
