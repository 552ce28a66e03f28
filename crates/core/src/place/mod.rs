//! The work laid on the clock: how long it stays in the cold, so that hands are awake and the meal is on time, and when each task begins.

mod cold;
mod layout;

pub use cold::{ClockRefusal, ColdAsk, ColdPlan, CookedStay, Meals, choose_both, choose_cold};
pub use layout::{Timed, in_the_night, lay_out};
