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

mod cold;
mod layout;
mod span;
mod storage;
mod wall;

pub use cold::{ClockRefusal, ColdAsk, ColdPlan, Meals, Quiet, choose_cold};
pub use layout::{Timed, in_the_night, lay_out};
pub use span::read_span;
pub use storage::{Keeping, StorageLimit, keeps, thaw_time};
pub use wall::{Toward, WallError, read_day_by, read_day_said, read_wall, read_wall_by};

use crate::units::{Time, TimeIn, minutes};
use jiff::SignedDuration;

/// A kitchen time as an exact duration, to the second.
pub fn exact(time: Time) -> SignedDuration {
    SignedDuration::from_secs(time.in_s().round() as i64)
}

/// An exact duration as a kitchen time.
pub fn kitchen(duration: SignedDuration) -> Time {
    minutes(duration.as_secs_f64() / 60.0)
}
