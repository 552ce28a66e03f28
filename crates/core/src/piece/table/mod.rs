//! The table of cuts. Source of every row: TRADE 3.1 for weights, measures, bone and dose; 9.6 and 9.7 for
//! temperatures and rest; 6.2 (USDA FSIS) for storage; 4.7 (from memory) for sodium. Air temperatures and servings are
//! our estimate. The cook can overrule every one of them.

mod beef;
mod lamb;
mod pork;
mod poultry;

use super::cut::{CutFacts, Storage};

pub(super) const POULTRY: Storage = Storage { amber_days: 1, red_days: 2 };
pub(super) const RED_MEAT: Storage = Storage { amber_days: 3, red_days: 5 };
pub(super) const SECTION_3: &str = "common practice and our estimates; storage: USDA FSIS FoodKeeper";
/// Sodium of lamb and goose is not in the table: that of pork and duck stands in.
pub(super) const STAND_IN: &str = "common practice and our estimates; storage: USDA FSIS FoodKeeper; its sodium is a related meat’s";

/// Every cut this kitchen knows, by species; pork first, as the belly is the Bench's first guess.
pub(super) const TABLE: [&[CutFacts]; 4] = [pork::CUTS, beef::CUTS, lamb::CUTS, poultry::CUTS];
