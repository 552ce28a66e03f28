//! The schools as data. Source: TRADE 7.

use crate::fire::{FIERCE, FireStage, HeatSource, HeatWord, Hottest, How, StageEnd};
use crate::piece::{Cut, Family, Species};
use crate::salt::{ChillHours, SaltOn};
use crate::units::{TemperatureIn, Time, celsius, minutes};

/// What a school does to the skin before salting.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum SkinWork {
    /// Holes through the skin into the fat.
    Pierce,
    /// Nothing; on a bird without a fat window the breast skin is loosened.
    None,
}

/// One school of practice, as a row of the table.
#[derive(Debug, PartialEq)]
pub struct School {
    /// Stable kebab-case name.
    pub id: &'static str,
    /// What a cook calls it.
    pub name: &'static str,
    /// Whether it is written only for skin over a layer of fat.
    pub needs_fat_window: bool,
    /// What it does to the skin.
    pub skin_work: SkinWork,
    /// Where its salt goes.
    pub salt_on: SaltOn,
    /// Its own hours, beating the house table: shortest, ideal, longest.
    pub own_hours: Option<(f64, f64, f64)>,
    /// Why one would choose it.
    pub reason: &'static str,
    /// Where it comes from.
    pub source: &'static str,
}

/// Every school this kitchen knows.
pub const METHODS: &[School] = &[
    School {
        id: "open-air",
        name: "open-air",
        needs_fat_window: true,
        skin_work: SkinWork::Pierce,
        salt_on: SaltOn::BareSkin,
        own_hours: Some((12.0, 24.0, 48.0)),
        reason: "most even, least salt wasted, no scrubbing: holes let the fat out, bare skin dries in the cold",
        source: "common practice",
    },
    School {
        id: "dry-brine",
        name: "plain dry-brine",
        needs_fat_window: false,
        skin_work: SkinWork::None,
        salt_on: SaltOn::AllFaces,
        own_hours: None,
        reason: "no skin work: every face takes its share, the hours follow the thickness",
        source: "common practice",
    },
];

/// A school of the table, cheap to copy.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Method(&'static School);

impl std::ops::Deref for Method {
    type Target = School;
    fn deref(&self) -> &School {
        self.0
    }
}

impl Method {
    /// Looks a school up by its stable name.
    pub fn find(id: &str) -> Option<Self> {
        METHODS.iter().find(|m| m.id == id).map(Self)
    }

    /// Whether it is written for this cut.
    pub fn fits(self, cut: Cut) -> bool {
        !self.0.needs_fat_window || cut.has_fat_window()
    }

    /// The school proposed first for a cut: open-air where skin lies over fat, else the plain one.
    pub fn first_for(cut: Cut) -> Self {
        Self(if cut.has_fat_window() { &METHODS[0] } else { &METHODS[1] })
    }

    /// Its own hours, where it has some.
    pub fn chill_hours(self) -> Option<ChillHours> {
        self.0.own_hours.map(|(shortest, ideal, longest)| ChillHours::of(shortest, ideal, longest))
    }

    /// Whether it opens the breast skin of this cut for salt: birds without a fat window.
    pub fn loosens(self, cut: Cut) -> bool {
        cut.is_bird() && self.0.skin_work == SkinWork::None && !cut.has_fat_window()
    }

    /// Its heat for this cut: low until the core is there, then fierce where skin has to puff
    /// (TRADE 7).
    pub fn heat(self, cut: Cut) -> Vec<FireStage> {
        let core = |c| FireStage::of_a_method(celsius(c), StageEnd::Finish);
        let after = |c, min| FireStage::of_a_method(celsius(c), StageEnd::After(minutes(min)));
        let mut stages = vec![core(cut.low_c)];
        match cut.family {
            // A breast is rendered from the skin's side; its own heat is fierce enough.
            Family::SkinSlab if cut.thickness_mm.1 < 30.0 => {}
            Family::Bird if cut.has_fat_window() => stages.push(after(230.0, 10.0)),
            _ if cut.has_fat_window() => stages.push(after(245.0, 17.0)),
            _ => {}
        }
        stages
    }

    /// Its heat on another appliance than the oven it is written for, no hotter than that gets.
    ///
    /// What cannot puff skin has no stage for it. In a pan it is turned every four minutes, in a pot it simmers in its liquid
    /// (both our estimate).
    pub fn heat_on(self, cut: Cut, with: HeatSource, kitchen: Hottest) -> Vec<FireStage> {
        let most = kitchen.of(with);
        let own = FireStage { with, ..FireStage::of_a_method(with.means(HeatWord::Medium, kitchen), StageEnd::Finish) };
        match with {
            HeatSource::Pan => vec![FireStage { how: How::Direct, flip: Some(minutes(4.0)), ..own }],
            HeatSource::Pot => vec![FireStage { how: How::InLiquid, ..own }],
            _ => {
                let reaches = |stage: &FireStage| stage.until == StageEnd::Finish || most.in_c() >= FIERCE;
                let capped = |air| if air > most { most } else { air };
                self.heat(cut).into_iter().filter(reaches).map(|s| FireStage { with, air: capped(s.air), ..s }).collect()
            }
        }
    }

    /// Rest after the heat (TRADE 9.7).
    pub fn rest(self, cut: Cut) -> Time {
        minutes(cut.rest_min)
    }

    /// Standing out before the heat: straight from the cold for poultry, half an hour else (TRADE 11.2).
    pub fn tempering(self, cut: Cut) -> Time {
        minutes(if cut.species == Species::Poultry { 0.0 } else { 30.0 })
    }
}
