//! What is asked.

use super::heat::FireRequest;
use super::hours::{Goal, HoursFrom};
use super::kitchen::Kitchen;
use super::knife::SkinAsk;
use super::piece::{BoughtScoring, BrushedOff, Done, Portion, Thawing};
use super::salt::{CoverAsk, FaceMix, MixUse};
use super::task::TaskAsk;
use crate::method::Method;
use crate::piece::Cut;
use crate::salt::{Basis, CoverKind, LedgerEntry, PackLabel, SaidFaces, Salt};
use crate::skin::drying::FridgePlacement;
use crate::units::{GramsPerKg, Length, Mass, Share, Temperature, Time, grams};
use jiff::ZonedDateTime;
use jiff::civil::Date;

/// Everything a cook may say; only cut, portions and `now` are needed.
#[derive(Debug, Clone)]
pub struct PlanRequest {
    /// The cut.
    pub cut: Cut,
    /// One weight a portion, at least one.
    pub portions: Vec<Portion>,
    /// Weight after trimming: the dose is on what is left.
    pub trimmed: Option<Mass>,
    /// Thickness at the thinnest place, where the piece is uneven.
    pub thin: Option<Length>,
    /// Scoring it was bought with.
    pub scored: Option<BoughtScoring>,
    /// Salt thickness: the shortest way through at the thickest place.
    pub thickness: Option<Length>,
    /// Long side of the face.
    pub length: Option<Length>,
    /// Short side.
    pub width: Option<Length>,
    /// Skin.
    pub skin: Option<Length>,
    /// Fat under it, usual place.
    pub fat: Option<Length>,
    /// Fat at its thinnest.
    pub fat_min: Option<Length>,
    /// Share of bone in the weight.
    pub bone: Option<Share>,
    /// What the label of an injected piece says.
    pub solution: Option<PackLabel>,
    /// Still frozen.
    pub frozen: bool,
    /// How it thaws then; `None` in the refrigerator.
    pub thaw: Option<Thawing>,
    /// Day bought.
    pub bought_on: Option<Date>,
    /// The label's use-by.
    pub use_by: Option<Date>,
    /// The school.
    pub method: Option<Method>,
    /// The salt.
    pub salt: Option<Salt>,
    /// The dose.
    pub dose: Option<GramsPerKg>,
    /// The cook's own usual dose for such a piece, where her book knows one.
    pub usual_dose: Option<GramsPerKg>,
    /// What the dose is counted on.
    pub basis: Option<Basis>,
    /// Faces to salt, by id; `None` as the method says.
    pub faces: Option<Vec<String>>,
    /// Each face's share of the salt, by id; together 1.
    pub shares: Option<Vec<(String, f64)>>,
    /// Salty things that go on too.
    pub ledger: Vec<LedgerEntry>,
    /// A mix of the household's own.
    pub mix: Option<MixUse>,
    /// More of them, each with its face and hour.
    pub mixes: Vec<FaceMix>,
    /// A crust, bed or draw on the skin.
    pub cover: Option<CoverAsk>,
    /// Knife and pick; `None` as the method says.
    pub skin_work: Option<SkinAsk>,
    /// What the middle reads before the heat, where it was measured.
    pub start: Option<Temperature>,
    /// The heat, where the cook said something of it.
    pub fire: FireRequest,
    /// Tasks of the cook's own.
    pub tasks: Vec<TaskAsk>,
    /// Refrigerator hours; `None` lets the clock choose.
    pub hours: Option<Time>,
    /// The moment from which is planned.
    pub now: ZonedDateTime,
    /// What is done already.
    pub done: Vec<Done>,
    /// Salt that was brushed off again.
    pub brushed_off: Vec<BrushedOff>,
    /// How it lies in the refrigerator; `None` as the method says.
    pub lies: Option<FridgePlacement>,
    /// What the model's hours are to reach; `None` takes the cut's.
    pub goal: Option<Goal>,
    /// Whose hours the clock takes.
    pub hours_from: HoursFrom,
    /// The meal; `None` takes the best from now.
    pub serve_at: Option<ZonedDateTime>,
    /// The last of it is eaten, up to six hours later; `None` is one hour.
    pub serve_until: Option<ZonedDateTime>,
    /// Guests.
    pub servings: Option<u32>,
    /// The kitchen.
    pub kitchen: Kitchen,
}

impl PlanRequest {
    /// The smallest request: a cut, a weight and the moment.
    pub fn new(cut: Cut, weight: Mass, now: ZonedDateTime) -> Self {
        Self {
            cut,
            portions: vec![Portion { weight, thickness: None, dose: None }],
            trimmed: None,
            thin: None,
            scored: None,
            thickness: None,
            length: None,
            width: None,
            skin: None,
            fat: None,
            fat_min: None,
            bone: None,
            solution: None,
            frozen: false,
            thaw: None,
            bought_on: None,
            use_by: None,
            method: None,
            salt: None,
            dose: None,
            usual_dose: None,
            basis: None,
            faces: None,
            shares: None,
            ledger: vec![],
            mix: None,
            mixes: vec![],
            cover: None,
            skin_work: None,
            start: None,
            fire: FireRequest::default(),
            tasks: vec![],
            hours: None,
            now,
            done: vec![],
            brushed_off: vec![],
            lies: None,
            goal: None,
            hours_from: HoursFrom::House,
            serve_at: None,
            serve_until: None,
            servings: None,
            kitchen: Kitchen::default(),
        }
    }
}

impl PlanRequest {
    /// The school it is done by: the one that was chosen, else the first for its cut.
    pub fn the_method(&self) -> Method {
        self.method.clone().unwrap_or_else(|| Method::first_for(self.cut))
    }

    /// A single piece weighs what is left of it after trimming.
    pub fn trimmed_weight(&self, portion: &Portion) -> Mass {
        if self.portions.len() == 1 { self.trimmed.unwrap_or(portion.weight) } else { portion.weight }
    }

    /// How thick a portion is: its own, else the dish's, else as one of its weight usually is.
    pub fn thick_of(&self, portion: &Portion) -> Length {
        portion.thickness.or(self.thickness).unwrap_or_else(|| self.cut.usual_thickness(self.trimmed_weight(portion)))
    }

    /// How thick the dish was said to be, else as its heaviest portion usually is.
    pub fn thick(&self) -> Length {
        let heaviest = self.portions.iter().map(|p| self.trimmed_weight(p)).fold(grams(0.0), |m, w| if w > m { w } else { m });
        self.thickness.unwrap_or_else(|| self.cut.usual_thickness(heaviest))
    }

    /// What was said of where its salt goes: by the cook, else by the method.
    pub fn said_faces(&self) -> SaidFaces<'_> {
        SaidFaces { only: self.faces.as_deref(), shares: self.shares.as_deref() }
    }

    /// How it lies in the cold: as was said, else as the method has it, else open.
    pub fn lying(&self) -> FridgePlacement {
        // On a bed of salt it lies on its skin, with the weight on top.
        let bed = self.cover.is_some_and(|cover| cover.kind == CoverKind::Bed).then_some(FridgePlacement::Weighted);
        self.lies.or(bed).or_else(|| self.the_method().lies()).unwrap_or_default()
    }
}
