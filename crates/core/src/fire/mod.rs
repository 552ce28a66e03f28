//! Heat: targets, time, carry-over.

mod conduction;
mod roast;
mod targets;
mod trade;

pub use conduction::{Body, Oven, Roast, Shape, Wetness};
pub use roast::{FireAnswer, FireStage, Heating, StageEnd, fire_plan, in_the_heat};
pub use targets::{FinishTarget, Where, targets};
pub use trade::{TradeTime, trade_time};
