//! Lamb.

use super::{RED_MEAT, STAND_IN};
use crate::piece::cut::{CutFacts, Family, FireShape, Species};

pub(super) const CUTS: &[CutFacts] = &[
    CutFacts {
        id: "lamb-shoulder",
        name: "Lamb shoulder",
        species: Species::Lamb,
        family: Family::Joint,
        typical_g: (1500.0, 3000.0),
        thickness_mm: (60.0, 90.0, 120.0),
        skin_mm: 0.0,
        fat_mm: 5.0,
        bone_fraction: 0.25,
        aspect: 1.4,
        dose_g_per_kg: 10.0,
        fire: FireShape::Ellipsoid,
        low_c: 160.0,
        finish_c: 92.0,
        rest_min: 20.0,
        storage: RED_MEAT,
        sodium_mg_per_100g: 60.0,
        serving_g: 350.0,
        source: STAND_IN,
    },
    CutFacts {
        id: "lamb-leg",
        name: "Lamb leg",
        species: Species::Lamb,
        family: Family::Joint,
        typical_g: (1500.0, 3000.0),
        thickness_mm: (60.0, 90.0, 120.0),
        skin_mm: 0.0,
        fat_mm: 5.0,
        bone_fraction: 0.2,
        aspect: 1.5,
        dose_g_per_kg: 10.0,
        fire: FireShape::Ellipsoid,
        low_c: 163.0,
        finish_c: 60.0,
        rest_min: 20.0,
        storage: RED_MEAT,
        sodium_mg_per_100g: 60.0,
        serving_g: 320.0,
        source: STAND_IN,
    },
];
