//! Methods: one school's whole sequence of steps for a piece.

mod knife_steps;
mod recipe;
mod schools;
mod step;

pub use recipe::{Recipe, Surface, lay_out_steps};
pub use schools::{METHODS, Method, School, SkinWork};
pub use step::{Figure, Hands, Phase, Place, Step, StepKind};
