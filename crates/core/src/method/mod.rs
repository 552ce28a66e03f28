//! Methods: one school's whole sequence of tasks, as a document says it.
//!
//! ```
//! use rauchkeller_core::{method::Method, piece::Cut};
//! // Skin over fat is dried in the open; a steak has none.
//! let of = |cut| Method::first_for(Cut::find(cut).unwrap());
//! assert!(of("pork-belly") != of("beef-rib-steak") && of("beef-rib-steak").fits(Cut::find("beef-rib-steak").unwrap()));
//! ```

mod added;
mod kind;
mod own;
mod plain;
mod rows;
mod school;
mod schools;
mod task;

pub use added::{ADDED, HANGS, addable};
pub use kind::{StepKind, TOP_UP, Tick};
pub use own::{Edit, EditRefused, OWN};
pub(crate) use plain::{PlainTask, Side, plain};
pub use plain::{is_said_as_it_stands, opens_lean_by, shape_of, usual_cautions, usual_title};
pub use rows::in_order;
pub(crate) use rows::row;
pub use school::{Effects, Method, Opens, Says, School, Shows, TaskRow, Wants, Words};
pub use schools::methods;
pub use task::{Hands, Place, SaltEffect};
