//! What the tests of this room share.

use super::{Oven, Roast};
use crate::units::{TemperatureIn, Time, TimeIn, hours, minutes};

/// When the core reaches `target`, °C: between the two steps around it, in a straight line.
pub fn until(mut roast: Roast, oven: Oven, target: f64) -> Time {
    let (mut before, mut after) = ((0.0, roast.core().in_c()), (0.0, roast.core().in_c()));
    roast.run(oven, hours(200.0), |at, core| {
        (before, after) = (after, (at.in_min(), core.in_c()));
        core.in_c() < target
    });
    minutes(before.0 + (after.0 - before.0) * (target - before.1) / (after.1 - before.1))
}
