//! The refrigerator rest of a plan, on the wire.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// The rest in the cold.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct FridgeDoc {
    /// Out of the refrigerator before the heat, in sum.
    #[serde(default)]
    pub out_min: f64,
    /// Shortest sound rest.
    pub shortest_h: f64,
    /// Ideal.
    pub ideal_h: f64,
    /// Longest useful.
    pub longest_h: f64,
    /// What is planned.
    pub planned_h: f64,
    /// The most that fits before the meal.
    pub fits_h: f64,
    /// Into the cold, or salted.
    pub from: String,
    /// Out of it.
    pub to: String,
    /// Lowest ÷ mean of the lean, 0–1.
    pub evenness: f64,
    /// How far it is seasoned.
    pub salted_depth_mm: f64,
    /// Outer 5 mm.
    pub rim_g_per_kg: f64,
    /// Least salted place.
    pub middle_g_per_kg: f64,
    /// Whole slice.
    pub slice_g_per_kg: f64,
    /// 0 fresh, 0.95 dry enough; null without skin.
    pub skin_dryness: Option<f64>,
    /// Wet, tacky, dry or parchment; null without skin.
    pub skin_touch: Option<String>,
    /// (lower edge of the layer in mm from the top, g/kg in it), top to bottom.
    pub salt_profile: Vec<(f64, f64)>,
    /// Dry salt still waiting on top and bottom, g/dm².
    pub waiting_g_per_dm2: (f64, f64),
    /// How it lies: `open`, `hung`, `covered`, `boxed` or `weighted`.
    #[serde(default)]
    pub lies: String,
    /// Hours it stands open in all, those before the salt among them.
    #[serde(default)]
    pub open_h: f64,
    /// Storage limit, amber: from here the authority's lower figure is passed; null where the day bought is unknown.
    #[serde(default)]
    pub keeps_amber: Option<String>,
    /// Red: past the upper figure.
    #[serde(default)]
    pub keeps_red: Option<String>,
    /// Whose hours the clock took: `house` or `model`.
    #[serde(default)]
    pub hours_from: String,
    /// The house's own shortest, ideal and longest hours, whoever's the clock took.
    #[serde(default)]
    pub house_h: Option<(f64, f64, f64)>,
    /// Grams of water lost over all open sides by then; an estimate.
    #[serde(default)]
    pub lost_g: f64,
    /// Hours in which dry salt still lies on it; null where none is laid on.
    #[serde(default)]
    pub wet_h: Option<f64>,
    /// Salt in what is eaten, after tempering, heat and rest; an estimate. Null in plans stored before it was reckoned.
    #[serde(default)]
    pub plate: Option<PlateDoc>,
    /// The second school of hours. Null in plans stored before it was reckoned.
    #[serde(default)]
    pub model: Option<ModelHoursDoc>,
    /// Why these hours.
    pub why: String,
}

/// Three mouthfuls on the plate.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct PlateDoc {
    /// Outer 5 mm.
    pub rim_g_per_kg: f64,
    /// Least salted place.
    pub middle_g_per_kg: f64,
    /// Whole slice.
    pub slice_g_per_kg: f64,
    /// Lowest ÷ mean of the lean, 0–1.
    pub evenness: f64,
    /// Share of its salt that went into a liquid it was cooked in, 0–1.
    #[serde(default)]
    pub into_liquid: f64,
}

/// Hours by the model, to a goal.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct ModelHoursDoc {
    /// The goal as a cook says it.
    pub goal: String,
    /// The salt is in, and skin that must crackle 0.7 dry; null if not within a week.
    pub shortest_h: Option<f64>,
    /// The goal is reached, and skin that must crackle 0.95 dry; null if not within a week.
    pub ideal_h: Option<f64>,
    /// Even to 0.8; null if not within a week.
    pub longest_h: Option<f64>,
    /// Each thing one could rest for.
    pub goals: Vec<GoalDoc>,
    /// Why it differs from the house.
    #[serde(default)]
    pub differs: String,
}

/// When one thing is reached.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct GoalDoc {
    /// `depth`, `evenness`, `rim` or `dryness`.
    pub kind: String,
    /// Its number: mm, a share, g/kg.
    pub value: f64,
    /// As a cook says it.
    pub words: String,
    /// After so many hours of salt; null if not within a week.
    pub at_h: Option<f64>,
}
