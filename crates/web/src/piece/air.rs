//! The refrigerator's air as it is known now.

use rauchkeller_core::skin::drying::{Air, Fit};
use rauchkeller_core::units::{HeatTransfer, RelativeHumidity, celsius};
use rauchkeller_store::Refrigerator;

/// The air of a refrigerator: typed, else as the piece was planned; with the coefficient weighings gave.
pub fn air_of(fridge: &Refrigerator, planned: Air) -> Air {
    let typed = fridge.version > 0;
    Air {
        temperature: if typed { celsius(fridge.air_c) } else { planned.temperature },
        humidity: fridge.rh.map_or(planned.humidity, RelativeHumidity),
        h: fridge.fit_h.map_or(planned.h, HeatTransfer),
    }
}

/// How well the coefficient is known.
pub fn known_of(fridge: &Refrigerator, planned: Air) -> Fit {
    match (fridge.fit_h, fridge.fit_spread) {
        (Some(h), Some(spread)) => Fit { h: HeatTransfer(h), spread, points: fridge.fit_points.unsigned_abs() as usize },
        _ => Fit::unweighed(planned.h),
    }
}
