//! Carry-over that may be counted on.

use crate::piece::{Cut, Family};
use crate::units::{TemperatureInterval, kelvin};

/// The climb after the heat that cooks may count on: at least this, at most that. Above it the model is not trusted.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct CarryBand {
    /// It climbs at least so far.
    pub low: TemperatureInterval,
    /// And no further than this is counted on.
    pub high: TemperatureInterval,
}

impl CarryBand {
    /// Of a cut: steaks and caps 2–4 K, roasts, racks, joints and bellies 3–7, birds at most 5 (common practice); that a bird
    /// climbs 2 K at least is our estimate.
    pub fn of(cut: Cut) -> Self {
        let (low, high) = match cut.family {
            Family::Steak | Family::CapSlab => (2.0, 4.0),
            // A breast without bone or cavity is a steak with skin.
            Family::SkinSlab if cut.thickness_mm.1 < 30.0 => (2.0, 4.0),
            Family::SkinSlab | Family::Roast | Family::Rack | Family::Joint => (3.0, 7.0),
            Family::Bird | Family::Crown | Family::FlatBird => (2.0, 5.0),
        };
        Self { low: kelvin(low), high: kelvin(high) }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::IntervalIn;

    #[test]
    fn the_bands_are_the_trades() {
        // Common practice: steaks 2–4 K, roasts and racks 3–7, birds at most 5.
        let band = |id: &str| {
            let band = CarryBand::of(Cut::find(id).unwrap());
            (band.low.in_kelvin(), band.high.in_kelvin())
        };
        assert_eq!((band("beef-rib-steak"), band("duck-breast")), ((2.0, 4.0), (2.0, 4.0)));
        assert_eq!((band("pork-loin-rack"), band("lamb-leg")), ((3.0, 7.0), (3.0, 7.0)));
        assert!(Cut::all().filter(|c| c.is_bird()).all(|c| CarryBand::of(c).high.in_kelvin() <= 5.0));
    }
}
