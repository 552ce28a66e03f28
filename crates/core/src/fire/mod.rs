//! Heat: targets, time, carry-over.

mod carry;
mod conduction;
mod ellipsoid;
mod roast;
mod targets;
mod trade;

pub use carry::CarryBand;
pub use conduction::{Body, Oven, Roast, Shape, Wetness};
pub use ellipsoid::{HalfAxes, half_axes, power_of};
pub use roast::{FireAnswer, FireAsk, FireStage, Heating, StageEnd, body, fire_plan, in_the_heat};
pub use targets::{FinishTarget, Where, targets};
pub use trade::{TradeTime, trade_time};
