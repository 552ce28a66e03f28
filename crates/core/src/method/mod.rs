//! Methods: one school's whole sequence of steps for a piece.
//!
//! ```
//! use rauchkeller_core::{method::Method, piece::Cut};
//! // Skin over fat is dried in the open; a steak has none.
//! let of = |cut| Method::first_for(Cut::find(cut).unwrap());
//! assert!(of("pork-belly") != of("beef-rib-steak") && of("beef-rib-steak").fits(Cut::find("beef-rib-steak").unwrap()));
//! ```

mod beside_steps;
mod heat_steps;
mod kind;
mod knife_steps;
mod recipe;
mod schools;
mod step;

pub use beside_steps::{ADDED, BASTE_MIN, addable};
pub use heat_steps::BRUSH;
pub use kind::{StepKind, TOP_UP, Tick};
pub use recipe::{Recipe, RecipeHeat, Sauce, Surface, lay_out_steps};
pub use schools::{METHODS, Method, School, SkinWork};
pub use step::{Beside, Figure, Hands, Lasts, Moment, Phase, Place, SaltEffect, Step};
