//! Skin and fat: how deep, how many, how dry.
//!
//! ```
//! use rauchkeller_core::{skin::{FatWindow, depth_guard}, units::{LengthIn, millimetres}};
//! // By hand: 2.5 mm of skin on 7 mm of fat, less 1.5 mm kept from the lean.
//! let window = FatWindow { skin_min: millimetres(2.5), skin_max: millimetres(2.5), fat_min: millimetres(7.0) };
//! assert!((depth_guard(window).unwrap().at_most.in_mm() - 8.0).abs() < 1e-9);
//! ```

mod depth;
pub mod drying;
mod edge_strips;
mod face_ask;
mod knife;
mod lattice;
mod light;
mod meat_side;
mod outline;
mod score;
mod stroke_order;
#[cfg(test)]
mod testing;
mod time_out;
mod tools;
mod zones;

pub use depth::{DepthGuard, DepthRefused, FatWindow, MARGIN_MM, depth_guard, depth_guard_with};
pub use edge_strips::{EdgeStrip, Side, edge_strips};
pub use face_ask::{Avoid, Axis, FaceAsk, FaceShape, Handle, LaidFace, MOST_AVOIDED};
pub use knife::{CoverWork, DepthSays, KnifeAsk, KnifeError, KnifeWork, knife_work};
pub use lattice::{DensityError, Holes, Lattice, pierce_outline};
pub use light::{Light, Stretch, light};
pub use meat_side::{MeatCuts, MeatError, MeatSide, cut_meat};
pub use outline::{Outline, OutlineError};
pub use score::{Family, Pattern, ScoreAsk, ScoreError, Scoring, Stroke, score};
pub use stroke_order::idle_way;
pub use time_out::{QuickerWay, quicker_ways};
pub use tools::{Fit, SKIN_TOOLS, SkinTool, Stop, ToolError, Works, fit, fit_to, own_pace};
pub use zones::{DepthZone, FatMap, LayerMeasurement, depth_zones, shallowest};
