//! What is said of the kitchen.

use crate::caution::{out_at_most, out_at_most_at};
use crate::clock::Quiet;
use crate::fire::Hottest;
use crate::skin::drying::Air;
use crate::units::{HeatTransfer, RelativeHumidity, Temperature, Time, celsius};
use jiff::civil::time;

/// The air of a refrigerator that nobody has read: 4 °C, 50 % humid, h 5 still air (our estimate).
pub fn usual_fridge() -> Air {
    Air { temperature: celsius(4.0), humidity: RelativeHumidity(0.5), h: HeatTransfer(5.0) }
}

/// The kitchen it happens in.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Kitchen {
    /// Air of the refrigerator.
    pub fridge: Air,
    /// Night.
    pub quiet: Option<Quiet>,
    /// Temperature of the room, where somebody said it.
    pub room: Option<Temperature>,
    /// How hot its own appliances get.
    pub heat: Hottest,
}

impl Kitchen {
    /// How long raw meat may be out of the refrigerator here, in sum.
    pub fn out_at_most(&self) -> Time {
        self.room.map_or_else(out_at_most, out_at_most_at)
    }
}

impl Default for Kitchen {
    /// The usual refrigerator; quiet from 22:30 to 06:30.
    fn default() -> Self {
        Self {
            fridge: usual_fridge(),
            quiet: Some(Quiet { from: time(22, 30, 0, 0), to: time(6, 30, 0, 0) }),
            room: None,
            heat: Hottest::default(),
        }
    }
}
