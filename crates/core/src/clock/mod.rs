//! The clock: counted back from the meal, never planned in the past.
//!
//! ```
//! use rauchkeller_core::{clock::keeps, piece::Cut};
//! use jiff::{civil::date, tz::TimeZone};
//! // USDA FSIS FoodKeeper: raw poultry keeps one to two days from the day it was bought.
//! let duck = Cut::find("duck-whole").unwrap();
//! let limit = keeps(duck.storage, Some(date(2026, 12, 10)), None, &TimeZone::UTC).unwrap();
//! assert_eq!(limit.red, "2026-12-13T00:00Z".parse().unwrap(), "the end of the twelfth");
//! ```

mod quiet;
mod span;
mod storage;
mod waking;
mod wall;

pub use quiet::Quiet;
pub use span::read_span;
pub use storage::{Keeping, StorageLimit, keeps, thaw_time, thaw_time_in_water};
pub use waking::waking_hours;
pub use wall::{Toward, WallError, read_day_by, read_day_said, read_meal, read_wall, read_wall_by, say_moment};

use crate::units::{Time, TimeIn, minutes};
use jiff::{SignedDuration, Timestamp};

/// First and last second of the years in which kitchens cook: 2000-01-01 and 2199-12-31, UTC.
const CALENDAR: std::ops::RangeInclusive<i64> = 946_684_800..=7_258_118_399;

/// Whether an instant that came from outside lies in the years 2000 to 2199 (UTC). Only such instants are reckoned with: every
/// span of a kitchen fits beside them into what [`Timestamp`] can say, so that no sum leaves its range.
///
/// ```
/// use rauchkeller_core::clock::in_calendar;
/// assert!(in_calendar("2000-01-01T00:00Z".parse().unwrap()) && in_calendar("2199-12-31T23:59:59Z".parse().unwrap()));
/// assert!(!in_calendar("1999-12-31T23:59:59Z".parse().unwrap()) && !in_calendar("2200-01-01T00:00Z".parse().unwrap()));
/// ```
pub fn in_calendar(at: Timestamp) -> bool {
    CALENDAR.contains(&at.as_second())
}

/// A kitchen time as an exact duration, to the second.
pub fn exact(time: Time) -> SignedDuration {
    SignedDuration::from_secs(time.in_s().round() as i64)
}

/// An exact duration as a kitchen time.
pub fn kitchen(duration: SignedDuration) -> Time {
    minutes(duration.as_secs_f64() / 60.0)
}
