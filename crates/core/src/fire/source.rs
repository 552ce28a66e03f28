//! What a piece is heated in, how it lies in it, and what that does to its surface.

use super::conduction::{Oven, both};
use crate::units::{HeatTransfer, IntervalIn, Temperature, TemperatureIn, TemperatureInterval, celsius};

/// What gives the heat.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum HeatSource {
    /// An oven.
    #[default]
    Oven,
    /// A grill with a lid, or the top element of an oven.
    Grill,
    /// Charcoal.
    Charcoal,
    /// A spit before or over the heat.
    Spit,
    /// A smoker.
    Smoker,
    /// A pan; its temperature is the metal's.
    Pan,
    /// A pot on the stove or in the oven.
    Pot,
}

/// A word for a heat that nobody measured.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum HeatWord {
    /// Gentle.
    Low,
    /// As most things are roasted.
    Medium,
    /// Fierce.
    High,
    /// As far as it goes.
    Max,
}

impl HeatWord {
    /// Every word, as it is written.
    pub const NAMES: [&str; 4] = ["low", "medium", "high", "max"];

    /// By its name.
    pub fn find(name: &str) -> Option<Self> {
        [Self::Low, Self::Medium, Self::High, Self::Max].into_iter().zip(Self::NAMES).find(|(_, id)| *id == name).map(|(word, _)| word)
    }
}

impl HeatSource {
    /// All of them, as they are offered.
    pub const ALL: [Self; 7] = [Self::Oven, Self::Grill, Self::Charcoal, Self::Spit, Self::Smoker, Self::Pan, Self::Pot];

    /// Stable name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Oven => "oven",
            Self::Grill => "grill",
            Self::Charcoal => "charcoal",
            Self::Spit => "spit",
            Self::Smoker => "smoker",
            Self::Pan => "pan",
            Self::Pot => "pot",
        }
    }

    /// By its name.
    pub fn find(id: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|source| source.id() == id)
    }

    /// How hot it gets, °C, where the household has not said (our estimate).
    pub fn usual_max(self) -> Temperature {
        celsius(match self {
            Self::Grill | Self::Charcoal => 300.0,
            Self::Smoker => 150.0,
            Self::Oven | Self::Spit | Self::Pan | Self::Pot => 250.0,
        })
    }

    /// Hotter than this nobody's gets: past it the number is a slip, °C.
    pub fn hottest(self) -> Temperature {
        celsius(match self {
            Self::Grill | Self::Charcoal | Self::Spit => 400.0,
            Self::Smoker => 200.0,
            Self::Oven | Self::Pan | Self::Pot => 320.0,
        })
    }

    /// What a word means on it (our estimate: guesses, and said to be); a household's own goes no further than it can.
    pub fn means(self, word: HeatWord, kitchen: Hottest) -> Temperature {
        let [low, medium, high] = match self {
            Self::Oven => [120.0, 175.0, 230.0],
            Self::Grill | Self::Charcoal => [120.0, 180.0, 230.0],
            Self::Spit => [140.0, 175.0, 220.0],
            Self::Smoker => [107.0, 121.0, 135.0],
            Self::Pan => [140.0, 180.0, 220.0],
            Self::Pot => [90.0, 130.0, 160.0],
        };
        let most = kitchen.of(self);
        let said = match word {
            HeatWord::Low => celsius(low),
            HeatWord::Medium => celsius(medium),
            HeatWord::High => celsius(high),
            HeatWord::Max => most,
        };
        if said > most { most } else { said }
    }

    /// What it takes up in the kitchen while it is in use.
    pub fn resource(self) -> &'static str {
        match self {
            Self::Oven => "heat:oven",
            Self::Grill => "heat:grill",
            Self::Charcoal => "heat:charcoal",
            Self::Spit => "heat:spit",
            Self::Smoker => "heat:smoker",
            Self::Pan => "heat:pan",
            Self::Pot => "heat:pot",
        }
    }

    /// What a cook does to it first, in two words.
    pub fn comes_up(self) -> &'static str {
        match self {
            Self::Oven => "oven on",
            Self::Grill => "grill on",
            Self::Charcoal => "light the charcoal",
            Self::Spit => "heat the spit",
            Self::Smoker => "light the smoker",
            Self::Pan => "pan on",
            Self::Pot => "pot on",
        }
    }

    /// Minutes until it is hot: an oven 20, charcoal 35 (TRADE 8.2); a pan 5 (our estimate).
    pub fn preheat_min(self) -> f64 {
        match self {
            Self::Charcoal => 35.0,
            Self::Pan => 5.0,
            Self::Pot => 10.0,
            Self::Oven | Self::Grill | Self::Spit | Self::Smoker => 20.0,
        }
    }
}

impl HeatSource {
    /// How fast it comes up between two stages, K a minute (our estimate: an oven takes ten minutes and more from 155 to 250 °C); `None`
    /// where the piece is moved to what is hot already, or what heats it follows at once.
    pub fn comes_up_by(self) -> Option<f64> {
        match self {
            Self::Oven => Some(8.0),
            Self::Grill => Some(15.0),
            Self::Smoker => Some(4.0),
            Self::Charcoal | Self::Spit | Self::Pan | Self::Pot => None,
        }
    }
}

/// Air from which skin puffs, °C (our estimate: 150 at the surface needs some more around it).
pub const FIERCE: f64 = 200.0;

/// What a household knows of its own appliances: how hot they get, and how far their dials are off.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Hottest {
    most: [Option<Temperature>; HeatSource::ALL.len()],
    dials: [Option<TemperatureInterval>; HeatSource::ALL.len()],
}

impl Hottest {
    /// Further off no dial is, K (our estimate: it is a slip, or a thermometer elsewhere).
    pub const MOST_OFF_K: f64 = 80.0;

    /// How hot this one gets: as the household said, else as is usual.
    pub fn of(self, source: HeatSource) -> Temperature {
        self.said(source).unwrap_or_else(|| source.usual_max())
    }

    /// As the household said.
    pub fn said(self, source: HeatSource) -> Option<Temperature> {
        self.most[source as usize]
    }

    /// Nothing hotter can be asked of it.
    pub fn limit(self, source: HeatSource) -> Temperature {
        self.said(source).unwrap_or_else(|| source.hottest())
    }

    /// How much more its dial shows than a thermometer beside the meat, where somebody has read both.
    pub fn dial_off(self, source: HeatSource) -> Option<TemperatureInterval> {
        self.dials[source as usize]
    }

    /// With a dial that was read beside a thermometer.
    #[must_use]
    pub fn with_dial(mut self, source: HeatSource, off: TemperatureInterval) -> Self {
        self.dials[source as usize] = Some(off);
        self
    }

    /// Where its dial is to stand for so much air; `None` where nobody knows that it is off.
    pub fn dial_for(self, source: HeatSource, air: Temperature) -> Option<Temperature> {
        self.dial_off(source).filter(|off| off.in_kelvin().abs() >= 1.0).map(|off| air + off)
    }

    /// With one said anew, whatever was known of it.
    #[must_use]
    pub fn instead(mut self, source: HeatSource, most: Temperature) -> Self {
        self.most[source as usize] = Some(most);
        self
    }

    /// With one more: of two of a kind the hotter counts.
    #[must_use]
    pub fn with(mut self, source: HeatSource, most: Temperature) -> Self {
        let slot = &mut self.most[source as usize];
        *slot = slot.filter(|had| *had > most).or(Some(most));
        self
    }
}

/// How the piece lies in the heat.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum How {
    /// Open, heat all round.
    #[default]
    Open,
    /// Under a lid or foil, dry.
    Covered,
    /// Wrapped tightly.
    Wrapped,
    /// Wrapped in leaves, which let a little steam out.
    LeafWrapped,
    /// In a liquid.
    InLiquid,
    /// On the heat itself: from one side.
    Direct,
}

impl How {
    /// All of them, as they are offered.
    pub const ALL: [Self; 6] = [Self::Open, Self::Covered, Self::Wrapped, Self::LeafWrapped, Self::InLiquid, Self::Direct];

    /// Stable name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Open => "open",
            Self::Covered => "covered",
            Self::Wrapped => "wrapped",
            Self::LeafWrapped => "leaf-wrapped",
            Self::InLiquid => "in-liquid",
            Self::Direct => "direct",
        }
    }

    /// Whether something is put round it that has to come off again.
    pub fn is_closed(self) -> bool {
        matches!(self, Self::Covered | Self::Wrapped | Self::LeafWrapped)
    }

    /// What a cook says of it.
    pub fn words(self) -> &'static str {
        match self {
            Self::Open => "open",
            Self::Covered => "covered",
            Self::Wrapped => "wrapped",
            Self::LeafWrapped => "wrapped in leaves",
            Self::InLiquid => "in its liquid",
            Self::Direct => "over direct heat",
        }
    }

    /// By its name.
    pub fn find(id: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|how| how.id() == id)
    }
}

/// A pan always heats from one side.
pub fn how_in(source: HeatSource, how: How) -> How {
    if source == HeatSource::Pan && how == How::Open { How::Direct } else { how }
}

/// What surrounds a piece: what lies on its fire side, and what on the other where that differs.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Around {
    /// On the side the heat comes from; all round where there is no other.
    pub fire: Oven,
    /// On the side that lies away from it.
    pub away: Option<Oven>,
}

/// Liquid that simmers, °C (our estimate): hotter air only boils it away.
const SIMMER: f64 = 96.0;
/// Steam under a lid or a foil, as long as anything in it is wet, °C.
const STEAM: f64 = 100.0;

/// What a stage of heat surrounds the piece with.
///
/// All our estimate (TRADE 9.9), as no appliance is measured: h 25 W/m²K in air, radiation included; 200 from a liquid, at its own
/// temperature; metal under a piece 300; over coals 60 from below and gas at two thirds of their heat above it, half of each on a spit, which turns. Under a lid or a foil
/// stands steam, and the lid, warmer than that by half of what the oven is, adds its radiation. Steam leaves an open surface freely by the
/// air's film, a leaf a quarter, a wrap, a lid and a liquid not at all.
pub fn around(source: HeatSource, how: How, air: Temperature) -> Around {
    let open = Oven::at(air);
    let all_round = |fire: Oven| Around { fire, away: None };
    match how_in(source, how) {
        How::Open if source == HeatSource::Smoker => all_round(Oven { h: SMOKE, steam: SMOKE, ..open }),
        How::Open => all_round(open),
        How::Covered => all_round(under(air, LID)),
        How::Wrapped => all_round(under(air, FOIL)),
        How::LeafWrapped => all_round(Oven { wet: 0.25, ..open }),
        How::InLiquid => all_round(Oven { air: celsius(air.in_c().min(SIMMER)), h: HeatTransfer(200.0), wet: 0.0, ..open }),
        How::Direct if source == HeatSource::Pan => Around {
            fire: Oven { h: METAL, ..open },
            away: Some(Oven { air: celsius(40.0), h: HeatTransfer(9.0), steam: HeatTransfer(9.0), ..open }),
        },
        How::Direct if source == HeatSource::Spit => {
            let Around { fire, away } = around(HeatSource::Charcoal, how, air);
            all_round(both(fire, away.unwrap_or(fire)))
        }
        How::Direct => {
            let above = celsius(22.0 + (air.in_c() - 22.0) * 2.0 / 3.0);
            let gas = HeatTransfer(20.0);
            Around { fire: Oven { h: HeatTransfer(60.0), ..open }, away: Some(Oven { air: above, h: gas, steam: gas, ..open }) }
        }
    }
}

/// Of a smoker's slow air, W/m²K (our estimate: it hardly moves, and no wall of it glows).
const SMOKE: HeatTransfer = HeatTransfer(20.0);
/// From metal into what lies on it, W/m²K (our estimate, tuned to a steak).
const METAL: HeatTransfer = HeatTransfer(300.0);
/// Films of steam and of a lid's radiation, W/m²K (our estimate, tuned to the covered and the wrapped rule): a foil lies closer.
const LID: (f64, f64) = (10.0, 8.0);
const FOIL: (f64, f64) = (10.0, 25.0);

/// Under a lid or a foil: steam, and the radiation of what is halfway between it and the oven.
fn under(air: Temperature, (steam, radiates): (f64, f64)) -> Oven {
    let inside = air.in_c().min(STEAM);
    let lid = f64::midpoint(inside, air.in_c());
    let h = steam + radiates;
    Oven { air: celsius((steam * inside + radiates * lid) / h), h: HeatTransfer(h), wet: 0.0, ..Oven::at(air) }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_find_what_they_name() {
        assert!(HeatSource::ALL.iter().all(|source| HeatSource::find(source.id()) == Some(*source)));
        assert!(How::ALL.iter().all(|how| How::find(how.id()) == Some(*how)));
        assert_eq!((HeatSource::find("Oven"), How::find(""), HeatWord::find("warm")), (None, None, None));
    }

    #[test]
    fn words_rise_and_stay_below_what_is_possible() {
        for source in HeatSource::ALL {
            let heat: Vec<f64> =
                HeatWord::NAMES.iter().map(|name| source.means(HeatWord::find(name).unwrap(), Hottest::default()).in_c()).collect();
            assert!(heat.windows(2).all(|pair| pair[0] < pair[1]), "{source:?}: {heat:?}");
            assert!(heat[3] <= source.hottest().in_c());
        }
        // TRADE 8.2, common practice: charcoal 35 min, an oven 20.
        assert_eq!((HeatSource::Charcoal.preheat_min(), HeatSource::Oven.preheat_min()), (35.0, 20.0));
    }

    #[test]
    fn an_appliance_goes_as_far_as_its_household_says() {
        let own = Hottest::default().with(HeatSource::Oven, celsius(230.0)).with(HeatSource::Oven, celsius(200.0));
        let oven = |word| HeatSource::Oven.means(word, own).in_c();
        assert_eq!((oven(HeatWord::Max), oven(HeatWord::High), oven(HeatWord::Medium)), (230.0, 230.0, 175.0));
        assert_eq!((own.limit(HeatSource::Oven).in_c(), own.limit(HeatSource::Pan).in_c()), (230.0, 320.0));
        let weak = Hottest::default().with(HeatSource::Oven, celsius(150.0));
        assert_eq!(HeatSource::Oven.means(HeatWord::High, weak).in_c(), 150.0);
        assert_eq!(own.said(HeatSource::Grill), None);
        // A dial that shows 15 K too much stands at 195 for 180 °C of air.
        let off = own.with_dial(HeatSource::Oven, crate::units::kelvin(15.0));
        assert!((off.dial_for(HeatSource::Oven, celsius(180.0)).unwrap().in_c() - 195.0).abs() < 1e-9);
        assert_eq!((own.dial_for(HeatSource::Oven, celsius(180.0)), off.dial_for(HeatSource::Grill, celsius(180.0))), (None, None));
        assert!(HeatSource::ALL.iter().all(|s| s.resource().ends_with(s.id())));
    }

    #[test]
    fn what_lets_no_steam_out_lets_none_out() {
        let wet = |how| around(HeatSource::Oven, how, celsius(160.0)).fire.wet;
        assert_eq!([How::Covered, How::Wrapped, How::InLiquid].map(wet), [0.0; 3]);
        assert!(wet(How::LeafWrapped) > 0.0 && wet(How::LeafWrapped) < wet(How::Open));
        // A braise in an oven of 160 °C does not boil hotter than water.
        assert!(around(HeatSource::Pot, How::InLiquid, celsius(160.0)).fire.air.in_c() < 100.0);
        assert!((around(HeatSource::Pot, How::InLiquid, celsius(65.0)).fire.air.in_c() - 65.0).abs() < 1e-9);
        // A pan is direct even where nobody says so; an oven is not.
        assert!(
            around(HeatSource::Pan, How::Open, celsius(200.0)).away.is_some()
                && around(HeatSource::Oven, How::Open, celsius(200.0)).away.is_none()
        );
    }
}
