//! Finish temperatures: what the authority says, and what cooks like, beside each other.

use super::{FireStage, StageEnd};
use crate::piece::{Cut, Species};
use crate::units::{Length, LengthIn, Temperature, TemperatureIn, TemperatureInterval, Time, TimeIn, celsius, fahrenheit, kelvin, minutes};

/// Where the probe sits.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Where {
    /// The thickest lean, clear of bone and fat.
    Core,
    /// The thickest part of the breast.
    Breast,
    /// The inner thigh, clear of the bone.
    Thigh,
    /// The middle of a stuffing.
    Stuffing,
}

impl Where {
    /// What a probe reads there, after the number.
    pub fn reads(self) -> &'static str {
        match self {
            Self::Core => "°C core",
            Self::Breast => "°C breast",
            Self::Thigh => "°C thigh",
            Self::Stuffing => "°C stuffing",
        }
    }

    /// Stable name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Core => "core",
            Self::Breast => "breast",
            Self::Thigh => "thigh",
            Self::Stuffing => "stuffing",
        }
    }
}

/// One place that has to arrive.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FinishTarget {
    /// The place whose core it is: breast, thigh, the middle.
    pub at: Where,
    /// Where it ends after the rest (common practice).
    pub finish: Temperature,
    /// The least the authority allows (published).
    pub authority: Temperature,
    /// Who says so.
    pub authority_source: &'static str,
    /// Out of the heat at this; the finish itself until the heat was planned.
    pub pull: Temperature,
    /// Between what and what it ends; the finish itself until the heat was planned.
    pub ends: Ends,
}

/// A middle that comes to less than this is raw, °C (our estimate: the proteins of a rare steak begin to set at about 50).
pub(crate) const RAW_BELOW_C: f64 = 45.0;

/// A joint that ends so warm is pulled rather than sliced (TRADE 9.6), °C.
pub(crate) const FALLS_APART_C: f64 = 90.0;

/// Where a place may end after the rest.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Ends {
    /// What can be counted on: safety goes by this.
    pub low: Temperature,
    /// What is expected.
    pub mid: Temperature,
    /// The most it may come to.
    pub high: Temperature,
}

impl Ends {
    /// Just there, without a band.
    pub fn at(c: Temperature) -> Self {
        Self { low: c, mid: c, high: c }
    }

    /// Pulled there, and climbing from that by so many K at least, as expected, and at most.
    pub fn after(pull: Temperature, [low, mid, high]: [TemperatureInterval; 3]) -> Self {
        Self { low: pull + low, mid: pull + mid, high: pull + high }
    }
}

impl FinishTarget {
    /// Whether the lowest it may end at lies below the authority's least. Nothing is forgiven: a probe's own error is not the
    /// meat's.
    pub fn below_authority(&self) -> bool {
        self.ends.low < self.authority
    }

    /// What it can be counted on to climb after the heat.
    pub fn climbs(&self) -> TemperatureInterval {
        kelvin(self.ends.low.in_c() - self.pull.in_c())
    }

    /// Whether it is wanted below the authority's least.
    pub fn wanted_below(&self) -> bool {
        self.finish < self.authority
    }
}

const FSIS: &str = "USDA FSIS safe minimum internal temperature chart";

/// Targets of a cut: whole cuts of beef, pork and lamb 145 °F + 3 min rest, all poultry 165 °F
/// (USDA FSIS, published); finishes are the trade's: steak 54–57, belly sliced 68–75, bird breast 74
/// and thigh 76–80 °C (TRADE 9.6). Birds have two cores, and both must pass.
pub fn targets(cut: Cut) -> Vec<FinishTarget> {
    let authority = match cut.species {
        Species::Beef | Species::Pork | Species::Lamb => fahrenheit(145.0),
        Species::Poultry => fahrenheit(165.0),
    };
    let target = |at, finish| {
        let finish = celsius(finish);
        FinishTarget { at, finish, authority, authority_source: FSIS, pull: finish, ends: Ends::at(finish) }
    };
    if cut.has_legs() {
        // The thigh wants 76–80 °C where the breast is done at 74: it is what the bird waits for.
        return vec![target(Where::Thigh, cut.finish_c + 4.0), target(Where::Breast, cut.finish_c)];
    }
    vec![target(if cut.is_bird() { Where::Breast } else { Where::Core }, cut.finish_c)]
}

/// What a bird is stuffed with: 165 °F in its own middle, climb or none (USDA FSIS, published).
pub fn stuffing_target() -> FinishTarget {
    let least = fahrenheit(165.0);
    FinishTarget { at: Where::Stuffing, finish: least, authority: least, authority_source: FSIS, pull: least, ends: Ends::at(least) }
}

/// One portion in the heat, by itself.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct PortionHeat {
    /// As thick as it is salted.
    pub thickness: Length,
    /// All stages together.
    pub takes: Time,
    /// Out of the heat at this.
    pub pull: Temperature,
    /// Between what and what it ends.
    pub ends: Ends,
    /// It goes in so long after the one that takes longest, so that both come out together; 0 with it.
    pub waits: Time,
}

/// Hands lay nothing in for less, min.
const WORTH_WAITING_MIN: f64 = 2.0;

/// Portions that go in one after the other, so that all come out together: each waits for as long as it takes less than the slowest.
///
/// Only where the first stage waits for them, and is longer than any of them waits: where minutes end it all of them have to be in
/// it, and nothing is laid in once it is over. Then they go in together, and the thin ones come out sooner.
pub fn staggered(portions: Vec<PortionHeat>, first: &FireStage, lasts: Time) -> Vec<PortionHeat> {
    let slowest = portions.iter().map(|portion| portion.takes.in_min()).fold(0.0, f64::max);
    let waits = |portion: &PortionHeat| minutes((slowest - portion.takes.in_min()).round());
    let longest = portions.iter().map(waits).fold(minutes(0.0), |most, waits| if waits > most { waits } else { most });
    if matches!(first.until, StageEnd::After(_)) || longest.in_min() < WORTH_WAITING_MIN || longest >= lasts {
        return portions;
    }
    let wait = |portion: PortionHeat| {
        let waits = waits(&portion);
        PortionHeat { waits: if waits.in_min() < WORTH_WAITING_MIN { minutes(0.0) } else { waits }, ..portion }
    };
    portions.into_iter().map(wait).collect()
}

/// Portions that are not done together, each with its own minutes and pull; nothing where they are.
pub fn each_out(portions: &[PortionHeat]) -> Vec<PortionHeat> {
    let mut each = portions.to_vec();
    each.sort_by(|a, b| a.thickness.in_mm().total_cmp(&b.thickness.in_mm()));
    let alike =
        |a: &PortionHeat, b: &PortionHeat| (a.takes.in_min() - b.takes.in_min()).abs() < 2.0 && (a.pull.in_c() - b.pull.in_c()).abs() < 1.0;
    each.dedup_by(|a, b| alike(a, b));
    if each.len() > 1 { each } else { vec![] }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::millimetres;

    /// By hand: of 20, 31 and 40 min the first waits 20 and the second 9, so that all are out after 40.
    #[test]
    fn portions_wait_for_as_long_as_they_take_less() {
        let portion = |min: f64| {
            let at = celsius(54.0);
            PortionHeat { thickness: millimetres(min), takes: minutes(min), pull: at, ends: Ends::at(at), waits: minutes(0.0) }
        };
        let dish = || [20.0, 31.0, 40.0, 39.0].map(portion).to_vec();
        let until = |until| FireStage::of_a_method(celsius(120.0), until);
        let waits =
            |first: &FireStage, lasts: f64| staggered(dish(), first, minutes(lasts)).iter().map(|p| p.waits.in_min()).collect::<Vec<_>>();
        assert_eq!(waits(&until(StageEnd::Finish), 38.0), [20.0, 9.0, 0.0, 0.0]);
        // Minutes that end the first stage, or a first stage too short to be waited in, let them go in together.
        assert_eq!(waits(&until(StageEnd::After(minutes(38.0))), 38.0), [0.0; 4]);
        assert_eq!(waits(&until(StageEnd::Finish), 20.0), [0.0; 4]);
    }

    #[test]
    fn authority_figures_are_the_published_ones() {
        // USDA FSIS chart: 145 °F (62.8 °C) beef, pork; 165 °F (73.9 °C) poultry.
        let steak = targets(Cut::find("beef-rib-steak").unwrap());
        assert!((steak[0].authority.in_c() - 62.78).abs() < 0.01 && steak[0].below_authority());
        // Preference lies beside the authority, never instead of it: a pink duck breast is said in red.
        assert!(targets(Cut::find("duck-breast").unwrap())[0].below_authority());
        let turkey = targets(Cut::find("turkey-whole").unwrap());
        assert_eq!(turkey.iter().map(|t| t.at).collect::<Vec<_>>(), [Where::Thigh, Where::Breast]);
        assert!(turkey.iter().all(|t| (t.authority.in_c() - 73.89).abs() < 0.01 && !t.below_authority()));
    }
}
