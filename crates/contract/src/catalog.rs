//! The tables of facts, as JSON: each row with its source.

use rauchkeller_core::method::Method;
use rauchkeller_core::piece::Cut;
use rauchkeller_core::salt::{LEDGER_ITEMS, SALTS};
use serde::Serialize;
use utoipa::ToSchema;

/// One cut.
#[derive(Debug, Serialize, ToSchema)]
pub struct CutDoc {
    id: &'static str,
    name: &'static str,
    typical_g: (f64, f64),
    salt_thickness_mm: (f64, f64, f64),
    skin_mm: f64,
    fat_mm: f64,
    bone_fraction: f64,
    g_per_kg: f64,
    method: String,
    storage_days: (i64, i64),
    source: &'static str,
}

/// One salt.
#[derive(Debug, Serialize, ToSchema)]
pub struct SaltDoc {
    id: &'static str,
    name: &'static str,
    g_per_tsp: f64,
    purity: f64,
    source: &'static str,
}

/// One salty thing.
#[derive(Debug, Serialize, ToSchema)]
pub struct LedgerDoc {
    id: &'static str,
    name: &'static str,
    salt_g_per_100g: f64,
    uptake: f64,
    source: &'static str,
}

/// Every cut.
pub fn cuts() -> Vec<CutDoc> {
    Cut::all()
        .map(|c| CutDoc {
            id: c.id,
            name: c.name,
            typical_g: c.typical_g,
            salt_thickness_mm: c.thickness_mm,
            skin_mm: c.skin_mm,
            fat_mm: c.fat_mm,
            bone_fraction: c.bone_fraction,
            g_per_kg: c.dose_g_per_kg,
            method: Method::first_for(c).id.to_string(),
            storage_days: (c.storage.amber_days, c.storage.red_days),
            source: c.source,
        })
        .collect()
}

/// Every salt.
pub fn salts() -> Vec<SaltDoc> {
    SALTS.iter().map(|s| SaltDoc { id: &s.id, name: &s.name, g_per_tsp: s.g_per_tsp, purity: s.purity, source: &s.source }).collect()
}

/// Every salty thing.
pub fn ledger() -> Vec<LedgerDoc> {
    LEDGER_ITEMS
        .iter()
        .map(|i| LedgerDoc { id: i.id, name: i.name, salt_g_per_100g: i.salt_g_per_100g, uptake: i.uptake, source: i.source })
        .collect()
}
