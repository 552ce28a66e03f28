//! Skin and fat: how deep, how many, how dry.

mod depth;
pub mod drying;
mod lattice;
mod outline;
mod pierce;
pub mod psychro;
mod score;
mod tools;

pub use depth::{DepthGuard, DepthRefused, FatWindow, depth_guard};
pub use lattice::{DensityError, Holes, Lattice, pierce_outline};
pub use outline::{Outline, OutlineError};
pub use pierce::{Piercing, Tool, pierce};
pub use score::{Pattern, ScoreAsk, ScoreError, Scoring, Stroke, score};
pub use tools::{Fit, SKIN_TOOLS, SkinTool, fit};
