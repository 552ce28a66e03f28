//! Heat: targets, time, carry-over.
//!
//! ```
//! use rauchkeller_core::{fire::targets, piece::Cut, units::TemperatureIn};
//! // USDA FSIS: 73.9 °C (165 °F) for poultry, breast and thigh.
//! let turkey = targets(Cut::find("turkey-whole").unwrap());
//! assert!(turkey.len() == 2 && turkey.iter().all(|t| (t.authority.in_f() - 165.0).abs() < 0.1));
//! ```

mod again;
mod body;
mod carry;
mod conduction;
mod crisp;
mod curve;
mod ellipsoid;
mod equivalent;
mod heat_point;
mod roast;
mod source;
mod stage;
mod targets;
#[cfg(test)]
mod testing;
#[cfg(test)]
mod tests;
mod trade;

pub use again::{Again, COOLS_MIN, again_at_least, kept_cooked, usual_again};
pub use body::body;
pub use carry::CarryBand;
pub use conduction::{Body, Oven, Roast, Shape, Wetness};
pub use crisp::{Crisp, CrispAsk, PUFFS_AT_C, crisp};
pub use curve::{HeatSpell, Heating, heat_curve, in_the_heat, spells};
pub use ellipsoid::{Alike, HalfAxes, alike, half_axes};
pub use heat_point::HeatPoint;
pub use roast::{FireAnswer, FireAsk, fire_plan, fire_takes};
pub use source::{Around, FIERCE, HeatSource, HeatWord, Hottest, How, around};
pub use stage::{Cooking, FireStage, Look, Resting, StageEnd, tender_after};
pub use targets::{Ends, FinishTarget, PortionHeat, Where, each_out, staggered, stuffing_target, targets};
pub(crate) use targets::{FALLS_APART_C, RAW_BELOW_C};
pub use trade::{TradeTime, trade_time};
