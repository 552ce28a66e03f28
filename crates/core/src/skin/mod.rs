//! Skin and fat: how deep, how many, how dry.

mod depth;
pub mod drying;
mod pierce;
pub mod psychro;
mod score;

pub use depth::{DepthGuard, DepthRefused, FatWindow, depth_guard};
pub use pierce::{Piercing, Tool, pierce};
pub use score::{Scoring, score_parallel};
