//! The clock: counted back from the meal, never planned in the past.

mod cold;
mod layout;
mod span;
mod storage;
mod wall;

pub use cold::{ClockRefusal, ColdAsk, ColdPlan, Meals, Quiet, choose_cold};
pub use layout::{Timed, in_the_night, lay_out};
pub use span::read_span;
pub use storage::{Keeping, Keeps, keeps, thaw_time};
pub use wall::{Toward, WallError, read_day_by, read_day_said, read_wall, read_wall_by};

use crate::units::{Time, TimeIn, minutes};
use jiff::SignedDuration;

/// A kitchen time as an exact duration, to the second.
pub(crate) fn exact(time: Time) -> SignedDuration {
    SignedDuration::from_secs(time.in_s().round() as i64)
}

/// An exact duration as a kitchen time.
pub fn kitchen(duration: SignedDuration) -> Time {
    minutes(duration.as_secs_f64() / 60.0)
}
