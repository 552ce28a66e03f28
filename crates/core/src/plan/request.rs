//! What is asked.

use super::fire_ask::FireRequest;
use super::model_hours::Goal;
use super::tasks_ask::TaskAsk;
use crate::caution::{out_at_most, out_at_most_at};
use crate::clock::Quiet;
use crate::fire::Hottest;
use crate::method::{Method, StepKind, Thawing};
use crate::piece::Cut;
use crate::salt::{Basis, CoverKind, LedgerEntry, Mix, PackLabel, SaidFaces, Salt};
use crate::skin::drying::{Air, FridgePlacement};
use crate::skin::{Avoid, CoverWork, FaceShape, FatMap, MeatSide, SkinTool};
use crate::units::{GramsPerDm2, GramsPerKg, HeatTransfer, Length, Mass, RelativeHumidity, Share, Temperature, Time, celsius, grams};
use jiff::civil::{Date, time};
use jiff::{Timestamp, ZonedDateTime};
use std::borrow::Cow;

/// One portion of a dish.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Portion {
    /// Its weight.
    pub weight: Mass,
    /// Its own thickness, if it differs.
    pub thickness: Option<Length>,
    /// Its own dose, if it differs.
    pub dose: Option<GramsPerKg>,
}

/// Cuts the butcher or a machine made into the skin or the fat cap.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum BoughtScoring {
    /// They stop in the fat.
    IntoFat,
    /// They reach the lean: the piece is no longer intact.
    IntoLean,
}

impl BoughtScoring {
    /// Stable names.
    pub const NAMES: [&str; 2] = ["into-fat", "into-lean"];

    /// By its stable name.
    pub fn find(name: &str) -> Option<Self> {
        [Self::IntoFat, Self::IntoLean].into_iter().zip(Self::NAMES).find(|(_, id)| *id == name).map(|(found, _)| found)
    }
}

/// A mix that goes on, with its amount where the cook said one.
#[derive(Debug, Clone, PartialEq)]
pub struct MixUse {
    /// The recipe.
    pub mix: Mix,
    /// Grams of it; `None` scales it to the piece.
    pub asked: Option<Mass>,
    /// How long the piece lies in it, where it is a bath: diffusion caps what enters.
    pub bath: Option<Time>,
}

/// A mix besides, on one face or at an hour of its own.
#[derive(Debug, Clone, PartialEq)]
pub struct FaceMix {
    /// The recipe.
    pub mix: Mix,
    /// Grams of it; `None` takes an equal share of what is missing with the others that nobody weighed.
    pub asked: Option<Mass>,
    /// The face it goes on, by id; `None` on all that take salt.
    pub face: Option<String>,
    /// Hours after the first salt at which it goes on; `None` with it.
    pub at: Option<Time>,
    /// Its place in the list as it was said, from 0: where it is refused.
    pub said: usize,
}

/// Most mixes besides.
pub const MOST_MIXES: usize = 4;

/// What is to be done with knife and pick; what is `None` goes as the method and the cut have it.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct SkinAsk {
    /// The shape of the face.
    pub shape: Option<FaceShape>,
    /// Along the face; of a slab its length, of a bird its breast's.
    pub length: Option<Length>,
    /// Across it.
    pub width: Option<Length>,
    /// Radius of rounded corners.
    pub corner: Option<Length>,
    /// Width of the narrow end.
    pub narrow: Option<Length>,
    /// Bones or strips.
    pub parts: Option<u32>,
    /// What knife and pick keep out of.
    pub avoid: Vec<Avoid>,
    /// What is done to skin or fat cap.
    pub cover: Option<CoverWork>,
    /// Kept from the edges; 5 mm as usual.
    pub edge: Option<Length>,
    /// The tool.
    pub tool: Option<SkinTool>,
    /// The cook's own pace with it: presses or centimetres a minute.
    pub own_pace: Option<f64>,
    /// Skin and fat at four places.
    pub fat: Option<FatMap>,
    /// Kept from the lean; 1.5 mm as usual.
    pub margin: Option<Length>,
    /// A depth of the cook's own.
    pub depth: Option<Length>,
    /// What is cut into the lean side.
    pub meat: Option<MeatSide>,
}

/// Salt on the skin as a tool.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct CoverAsk {
    /// Draw, crust or bed.
    pub kind: CoverKind,
    /// How deep; `None` as usual.
    pub depth: Option<Length>,
    /// What was found to stay behind; `None` takes the estimate.
    pub left: Option<GramsPerDm2>,
}

/// A step already done when the plan is asked for.
#[derive(Debug, Clone, PartialEq)]
pub struct Done {
    /// What was done.
    pub kind: StepKind,
    /// Which task of that kind, where it was named; `None` means all of them.
    pub task: Option<String>,
    /// When it ended.
    pub at: Timestamp,
    /// Grams of salt, for a salting; unknown means the whole dose.
    pub salt: Option<Mass>,
}

/// Dry salt brushed off again.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct BrushedOff {
    /// The moment it came off.
    pub at: Timestamp,
    /// Sodium chloride that came off.
    pub salt: Mass,
}

/// Which school says how many hours.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum HoursFrom {
    /// The method's own hours, else the house table.
    #[default]
    House,
    /// The model, to the goal.
    Model,
}

impl HoursFrom {
    /// Stable names.
    pub const NAMES: [&str; 2] = ["house", "model"];

    /// By its stable name.
    pub fn find(name: &str) -> Option<Self> {
        [Self::House, Self::Model].into_iter().zip(Self::NAMES).find(|(_, id)| *id == name).map(|(found, _)| found)
    }
}

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

/// One thing in a request that cannot be: said at its field, with what is allowed and what to do.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("{field}: {typed} is not possible; allowed: {allowed}. {remedy}")]
pub struct Refusal {
    /// Path of the field, as in the contract.
    pub field: Cow<'static, str>,
    /// What was typed.
    pub typed: String,
    /// What is allowed.
    pub allowed: String,
    /// What to do.
    pub remedy: String,
    /// What would do at its field: for a button. Empty where nothing is offered.
    pub offers: Vec<Offer>,
}

/// What would do instead of what was typed.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Offer {
    /// Another meal.
    Meal(ZonedDateTime),
    /// So many quarters of an hour.
    QuarterHours(u32),
}

/// How it begins what the soonest meal is: then what was typed is too early.
pub const THE_SOONEST: &str = "the soonest is ";

impl Refusal {
    pub(crate) fn new(
        field: impl Into<Cow<'static, str>>,
        typed: impl Into<String>,
        allowed: impl Into<String>,
        remedy: impl Into<String>,
    ) -> Self {
        Self { field: field.into(), typed: typed.into(), allowed: allowed.into(), remedy: remedy.into(), offers: vec![] }
    }

    /// With what would do instead.
    pub(crate) fn or(self, offers: Vec<Offer>) -> Self {
        Self { offers, ..self }
    }
}
