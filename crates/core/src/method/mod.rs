//! Methods: one school's whole sequence of steps for a piece.
//!
//! ```
//! use rauchkeller_core::{method::Method, piece::Cut};
//! // Skin over fat is dried in the open; a steak has none.
//! let of = |cut| Method::first_for(Cut::find(cut).unwrap());
//! assert!(of("pork-belly") != of("beef-rib-steak") && of("beef-rib-steak").fits(Cut::find("beef-rib-steak").unwrap()));
//! ```

mod aside;
mod beside_steps;
mod cold_steps;
mod cover_steps;
mod heat_steps;
mod hung;
mod kind;
mod knife_steps;
mod laid_in;
mod lay_out;
mod own;
mod plain;
mod recipe;
mod rows;
mod salt_steps;
mod school;
mod schools;
mod step;

pub use beside_steps::{ADDED, BASTE_MIN, addable};
pub use heat_steps::BRUSH;
pub use hung::{HANGS, NeverDue, due, opens_every};
pub use kind::{StepKind, TOP_UP, Tick};
pub use lay_out::lay_out_steps;
pub use own::{Edit, EditRefused, OWN};
pub use plain::{is_said_as_it_stands, opens_lean_by, shape_of, usual_cautions, usual_title};
pub use recipe::{MixLies, Recipe, RecipeHeat, Sauce, Surface};
pub use rows::in_order;
pub use school::{Effects, Method, Opens, Says, School, Shows, TaskRow, Wants, Words};
pub use schools::methods;
pub use step::{Beside, Figure, Hands, Lasts, Moment, Phase, Place, SaltEffect, Step};
