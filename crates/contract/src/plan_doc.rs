//! The plan as it is sent and stored. Instants are RFC 9557 with their zone.

use crate::chill_doc::FridgeDoc;
use crate::fire_doc::FireDoc;
use crate::knife_doc::SkinDoc;
use crate::mix_doc::{MixDoc, MixOnDoc};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// A whole plan.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct PlanDoc {
    /// Shape number, so that old plans stay readable.
    pub schema: u32,
    /// What was computed with, guesses named.
    pub request: RequestDoc,
    /// The grams.
    pub dose: DoseDoc,
    /// The rest in the cold.
    pub fridge: FridgeDoc,
    /// The skin work; null without skin.
    pub skin: Option<SkinDoc>,
    /// What to do, in order.
    pub steps: Vec<StepDoc>,
    /// The heat.
    pub fire: FireDoc,
    /// The meal.
    pub serve_at: String,
    /// The last of it is eaten, where the meal is a span.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub serve_until: Option<String>,
    /// What becomes of it meanwhile: `on-the-table`, `kept-hot` or `cold`.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub waits_as: Option<String>,
    /// Meals from now.
    pub meals: MealsDoc,
    /// Guesses worth measuring, the weightiest first.
    pub worth_measuring: Vec<WorthDoc>,
    /// What the look over the piece changed.
    #[serde(default)]
    pub inspection: Vec<InspectionDoc>,
    /// Ways out of a rim that would be too salty; empty where it is not.
    #[serde(default)]
    pub ways_out: Vec<WayOutDoc>,
    /// What to do instead, where too few hours are left for a dry-brine; null where there are enough.
    #[serde(default)]
    pub too_late: Option<TooLateDoc>,
    /// What makes skin crackle that this heat leaves tough; null where it crackles, or nothing does.
    #[serde(default)]
    pub fierce_end: Option<FierceEndDoc>,
    /// Where the numbers come from.
    #[serde(default)]
    pub why: Vec<WhyDoc>,
    /// What could hurt somebody, loudest first.
    pub cautions: Vec<CautionDoc>,
}

/// One answer of the inspection.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct InspectionDoc {
    /// Path of the field.
    pub field: String,
    /// What it changed.
    pub says: String,
}

/// One way out.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct WayOutDoc {
    /// What to do instead.
    pub what: String,
    /// What it gives.
    pub gives: String,
}

/// A fierce end after this heat, that makes its skin crackle.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct FierceEndDoc {
    /// What to do, in words.
    pub what: String,
    /// What it gives.
    pub gives: String,
    /// How hot it is.
    pub air_c: f64,
    /// How long it takes; an estimate.
    pub minutes: f64,
    /// At what reading it is pulled then.
    pub pull_c: f64,
    /// All stages of the heat then, as `fire.stages` takes them.
    pub stages: serde_json::Value,
}

/// Too late for a dry-brine.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct TooLateDoc {
    /// What the hours left would do.
    pub says: String,
    /// What to do instead.
    pub ways: Vec<LateWayDoc>,
}

/// One way, with what it gives on the plate; an estimate.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct LateWayDoc {
    /// `less-salt`, `just-before`, `later` or `later-still`.
    pub kind: String,
    /// What to do.
    pub what: String,
    /// Salt to weigh, as the scale shows it.
    pub scale_g: f64,
    /// The dose it comes to.
    pub g_per_kg: f64,
    /// Hours of salt in the refrigerator.
    pub salted_h: f64,
    /// The outer 5 mm on the plate.
    pub rim_g_per_kg: f64,
    /// How far it is seasoned on the plate.
    pub depth_mm: f64,
    /// How dry the skin leaves the refrigerator, 0 to 1; null without skin.
    pub skin_dryness: Option<f64>,
    /// The meal, where it is another one.
    pub serve_at: Option<String>,
    /// The method that does it, where it is another one.
    pub method: Option<String>,
}

/// Where one number comes from.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct WhyDoc {
    /// Stable name of the number: `grams`, `spoons`, `faces`, `ladder`, `mouthfuls`, `hours`, `sodium`, `depth`, `dryness`, `pull`, `mix`, `cover`.
    pub number: String,
    /// The sum as a cook would say it.
    pub says: String,
    /// The values that bound it.
    pub bound_by: Vec<BoundDoc>,
    /// The one that would change it most.
    pub would_change: String,
}

/// One value that bounds an answer.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct BoundDoc {
    /// What it is.
    pub what: String,
    /// Its value, with its unit.
    pub value: String,
    /// Its source class.
    pub source: String,
}

/// A request with every open place filled.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct RequestDoc {
    /// Stable name of the cut.
    pub cut: String,
    /// What a cook calls it.
    pub cut_name: String,
    /// All portions together.
    pub weight_g: f64,
    /// Weight of each portion.
    pub portions_g: Vec<f64>,
    /// Thickness at the thinnest place; null where it counts as even.
    #[serde(default)]
    pub thin_mm: Option<f64>,
    /// Salt thickness.
    pub salt_thickness_mm: f64,
    /// Long side of the face.
    pub length_mm: f64,
    /// Short side.
    pub width_mm: f64,
    /// Skin; 0 for none.
    pub skin_mm: f64,
    /// Fat; 0 for none.
    pub fat_mm: f64,
    /// Fat at its thinnest.
    pub fat_min_mm: f64,
    /// Share of bone.
    pub bone_fraction: f64,
    /// Stable name of the method.
    pub method: String,
    /// What a cook calls it.
    pub method_name: String,
    /// The version of its document; 0 in plans stored before it was said.
    #[serde(default)]
    pub method_version: u32,
    /// Stable name of the salt.
    pub salt: String,
    /// What a cook calls it.
    pub salt_name: String,
    /// Grams of sodium chloride in a gram of it.
    #[serde(default = "whole")]
    pub salt_purity: f64,
    /// The dose.
    pub g_per_kg: f64,
    /// `edible` or `whole`.
    pub basis: String,
    /// Guests.
    pub servings: u32,
    /// The moment planned from.
    pub now: String,
    /// Refrigerator temperature.
    pub fridge_c: f64,
    /// Refrigerator humidity, 0–1.
    pub fridge_rh: f64,
    /// Refrigerator coefficient.
    pub fridge_h_w_m2k: f64,
    /// Fields that were guessed, as paths of the request.
    pub guessed: Vec<String>,
    /// Every number that was computed with though nobody need say it, by its path in the request. Empty in plans of before.
    #[serde(default)]
    pub taken: BTreeMap<String, f64>,
}

/// The grams.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct DoseDoc {
    /// dose × basis weight.
    pub total_g: f64,
    /// In already.
    pub from_ledger_g: f64,
    /// Sodium chloride still to go on: total less what is in already, never below zero.
    pub to_weigh_g: f64,
    /// What the scale shows of the chosen salt for that: more, where it is not all sodium chloride.
    #[serde(default)]
    pub scale_g: f64,
    /// The same in level spoons.
    pub spoons: String,
    /// What those spoons weigh.
    pub spoons_g: f64,
    /// In metric spoons of 5 and 15 mL.
    #[serde(default)]
    pub metric_spoons: String,
    /// Grams a level US teaspoon of the chosen salt; 0 in plans of before it was written.
    #[serde(default)]
    pub g_per_tsp: f64,
    /// In the cook's own pinches; null where they were never weighed.
    #[serde(default)]
    pub pinches: Option<u32>,
    /// Where it goes; adds up to `to_weigh_g`.
    pub by_face: Vec<FaceDoc>,
    /// Grams a portion; adds up to `to_weigh_g`.
    pub by_portion_g: Vec<f64>,
    /// The portions one by one.
    #[serde(default)]
    pub portions: Vec<PortionDoc>,
    /// The household's own mix, scaled to the piece.
    #[serde(default)]
    pub mix: Option<MixDoc>,
    /// Mixes besides, each with its face and its hour.
    #[serde(default)]
    pub mixes: Vec<MixOnDoc>,
    /// Salt on the skin as a tool: crust, bed or draw.
    #[serde(default)]
    pub cover: Option<CoverDoc>,
    /// What is in already, by source.
    pub ledger: Vec<LedgerEntryDoc>,
    /// What the scale shows at least and at most, where nobody knows how salty something is; counted is the middle.
    #[serde(default)]
    pub scale_between_g: Option<(f64, f64)>,
    /// Sodium a serving.
    pub sodium_mg_per_serving: f64,
    /// By how much what is in already is over the target.
    #[serde(default)]
    pub over_g: f64,
    /// The dose on what is eaten, whatever it was counted on.
    #[serde(default)]
    pub eaten_g_per_kg: f64,
}

impl DoseDoc {
    /// What the scale shows; plans stored before it was written knew only pure salts.
    pub fn on_scale_g(&self) -> f64 {
        if self.scale_g > 0.0 { self.scale_g } else { self.to_weigh_g }
    }
}

impl FaceDoc {
    /// Whether nothing goes on it.
    pub fn is_bare(&self) -> bool {
        self.g < 0.05 && self.mix_g < 0.05
    }

    /// What the scale shows for this face; plans stored before it was written knew only pure salts.
    pub fn on_scale_g(&self) -> f64 {
        if self.scale_g > 0.0 { self.scale_g } else { self.g }
    }
}

/// Salt for one face.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct FaceDoc {
    /// Stable name.
    pub face: String,
    /// What a cook calls it.
    pub name: String,
    /// Its area.
    pub area_dm2: f64,
    /// Its grams of sodium chloride.
    pub g: f64,
    /// What the scale shows for it.
    #[serde(default)]
    pub scale_g: f64,
    /// Grams of sodium chloride a square decimetre, mix and loose salt together.
    #[serde(default)]
    pub g_per_dm2: f64,
    /// Grams of the household's own mix that go on it.
    #[serde(default)]
    pub mix_g: f64,
    /// `skin`, `fat`, `meat`, `cut` or `cavity`.
    #[serde(default)]
    pub kind: String,
}

/// One portion.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct PortionDoc {
    /// Its weight.
    pub weight_g: f64,
    /// Its thickness.
    pub salt_thickness_mm: f64,
    /// Its dose.
    pub g_per_kg: f64,
    /// Its grams of sodium chloride.
    pub g: f64,
    /// What the scale shows for it.
    pub scale_g: f64,
    /// Its own minutes in the heat; null for a dish of one, and in plans stored before they were reckoned.
    #[serde(default)]
    pub fire_min: Option<f64>,
    /// It goes in so many minutes after the one that takes longest, so that all come out together; null where they go in together.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub in_after_min: Option<f64>,
    /// Its own pull.
    #[serde(default)]
    pub pull_c: Option<f64>,
    /// Between what and what it ends after the rest: at least, about, at most.
    #[serde(default)]
    pub ends_c: Option<[f64; 3]>,
}

/// Salt on the skin.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct CoverDoc {
    /// `draw`, `crust` or `bed`.
    pub kind: String,
    /// What a cook calls it.
    pub name: String,
    /// The face it lies on.
    pub on: String,
    /// Its area.
    pub area_dm2: f64,
    /// How deep; null for a draw.
    pub depth_mm: Option<f64>,
    /// What to weigh out for it.
    pub g: f64,
    /// The same in level US spoons.
    pub spoons: String,
    /// What stays behind, counted in the ladder.
    pub left_g: f64,
    /// Whether that is an estimate.
    pub left_is_estimate: bool,
}

/// One source of salt that is in already.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct LedgerEntryDoc {
    /// What it is.
    pub what: String,
    /// Salt it brings.
    pub g: f64,
    /// Share that ends in the meat.
    #[serde(default = "whole")]
    pub uptake: f64,
    /// Whether it is an estimate rather than weighed.
    #[serde(default)]
    pub estimate: bool,
    /// How long the piece lies in it, where it is a bath.
    #[serde(default)]
    pub bath_h: Option<f64>,
    /// What diffusion let in, where it held a bath back.
    #[serde(default)]
    pub bath_cap_g: Option<f64>,
    /// Salt it brings at least and at most, where nobody knows how salty it is.
    #[serde(default)]
    pub between_g: Option<(f64, f64)>,
    /// The face it goes on, where it was said.
    #[serde(default)]
    pub face: Option<String>,
    /// Where the figure comes from.
    #[serde(default)]
    pub source: String,
}

/// Plans stored before the share was written counted all of it.
fn whole() -> f64 {
    1.0
}

/// One step.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct StepDoc {
    /// Which task of its plan; stays when the plan is made anew.
    #[serde(default)]
    pub id: String,
    /// Stable name of the kind.
    pub kind: String,
    /// One line.
    pub title: String,
    /// `bench`, `refrigerator`, `fire` or `table`.
    pub place: String,
    /// Start.
    pub starts_at: String,
    /// End.
    pub ends_at: String,
    /// Earliest start that keeps the plan sound.
    pub earliest: String,
    /// Latest.
    pub latest: String,
    /// Air temperature, for a step in the heat.
    pub air_c: Option<f64>,
    /// Condition that really ends it.
    pub until: Option<String>,
    /// Minutes of hands.
    pub hands_on_min: f64,
    /// `clean` or `raw`.
    pub hands: String,
    /// Tools to have out.
    pub needs: Vec<String>,
    /// The rest of it.
    pub detail: String,
    /// Tasks that come before it.
    #[serde(default)]
    pub after: Vec<String>,
    /// The task it is done beside, ending as that begins.
    #[serde(default)]
    pub beside: Option<String>,
    /// `begins` or `ends`: when it is ticked.
    #[serde(default)]
    pub tick: String,
    /// `fixed`, `elastic` or `until`: what rules how long it takes.
    #[serde(default)]
    pub takes: String,
    /// What it needs of the kitchen while it lasts: `hands`, `board`, `refrigerator`, `heat:oven`.
    #[serde(default)]
    pub resources: Vec<String>,
    /// `on` or `off`, where it does something to salt.
    #[serde(default)]
    pub salts: Option<String>,
    /// The one number: digits.
    pub figure: Option<String>,
    /// Its unit.
    pub figure_unit: Option<String>,
}

/// Meals from now.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct MealsDoc {
    /// With the shortest sound rest.
    pub earliest: String,
    /// With the ideal rest, in waking hours.
    pub best: String,
    /// With the longest useful rest, or at the storage limit.
    pub latest: String,
}

/// A guess worth measuring.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct WorthDoc {
    /// Path of the field.
    pub field: String,
    /// What hangs on it.
    pub effect: String,
}

/// A caution.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct CautionDoc {
    /// Stable name.
    pub code: String,
    /// `note`, `amber` or `red`.
    pub severity: String,
    /// What to say.
    pub text: String,
    /// Who says so.
    pub source: String,
    /// Kind of the step it belongs to.
    pub step: Option<String>,
}
