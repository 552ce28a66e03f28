//! Methods: one school's whole sequence of steps for a piece.

mod knife_steps;
mod schools;
mod step;

pub use schools::{METHODS, Method, School, SkinWork};
pub use step::{Figure, Hands, Phase, Place, Recipe, Step, StepKind, Surface, lay_out_steps};
