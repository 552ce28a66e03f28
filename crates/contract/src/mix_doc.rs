//! Mixes of a plan as they are sent and stored: the one that carries the dose, and what goes on besides.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A mix scaled to the piece.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct MixDoc {
    /// What the household calls it.
    pub name: String,
    /// Grams of salt in 100 g of it.
    pub salt_g_per_100g: f64,
    /// Grams of it for this piece.
    pub g: f64,
    /// Sodium chloride it brings.
    pub salt_g: f64,
    /// Hours the piece lies in it; null where it goes on.
    #[serde(default)]
    pub bath_h: Option<f64>,
    /// What a piece of this size carries of it at most, 40 g/dm² on the faces it goes on; 0 in plans stored before it was reckoned.
    #[serde(default)]
    pub carries_g: f64,
    /// Its ingredients for just that much.
    pub parts: Vec<MixPartDoc>,
}

/// A mix besides.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct MixOnDoc {
    /// What it is called.
    pub name: String,
    /// Grams of salt in 100 g of it.
    pub salt_g_per_100g: f64,
    /// Grams of it for this piece.
    pub g: f64,
    /// Sodium chloride it brings.
    pub salt_g: f64,
    /// The face it goes on, by its id; null on all that take salt.
    pub face: Option<String>,
    /// Hours after the first salt; null with it.
    pub at_h: Option<f64>,
    /// The task with which it goes on; null where nothing of it does, and in plans stored before it had a bowl.
    #[serde(default)]
    pub task: Option<String>,
    /// What its faces carry of it at most.
    pub carries_g: f64,
    /// Its ingredients for just that much.
    pub parts: Vec<MixPartDoc>,
}

/// One ingredient.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct MixPartDoc {
    /// What it is.
    pub name: String,
    /// Its grams.
    pub g: f64,
}
