//! The work: a method's tasks written out for a piece, each with its minutes, hands and tools, and what each comes after or is done
//! beside. No hour is chosen here, and nothing that was asked is known but through what was settled of it.

mod again_steps;
mod aside;
mod beside_steps;
mod cold_steps;
mod cover_steps;
mod heat_steps;
mod hung;
mod knife_steps;
mod laid_in;
mod lay_out;
mod recipe;
mod salt_steps;
mod step;

pub use beside_steps::BASTE_MIN;
pub use heat_steps::BRUSH;
pub use hung::{NeverDue, due, opens_every};
pub use lay_out::lay_out_steps;
pub use recipe::{MixLies, Recipe, RecipeHeat, Sauce, Surface};
pub use step::{Beside, Figure, Lasts, Moment, Phase, Step};
