//! What lies on the board: the cut and its usual measures, its layers and faces.
//!
//! ```
//! use rauchkeller_core::{piece::{Cut, Measures, weight_mismatch}, units::{grams, millimetres}};
//! let belly = Cut::find("pork-belly").unwrap();
//! let box_of = |long| Measures { length: millimetres(long), width: millimetres(200.0) };
//! // By hand: 290 × 200 × 40 mm are 2.3 L, 2.4 kg of meat; twice as long is no slip of the scale.
//! assert!(weight_mismatch(&belly, grams(2400.0), box_of(290.0), millimetres(40.0)).is_none());
//! assert!(weight_mismatch(&belly, grams(2400.0), box_of(580.0), millimetres(40.0)).is_some());
//! ```

mod cut;
mod faces;
mod measures;
mod names;
mod reshape;
mod table;

pub use cut::{Cut, CutFacts, Family, FireShape, Species, Storage};
pub use faces::{Body, Face, FaceKind, faces};
pub use measures::{MEAT_DENSITY_KG_PER_L, Measures, Mismatch, estimated_face, estimated_weight, weight_mismatch};
pub use names::{Named, named};
pub use reshape::{Lying, Reshape, STRIP_MM, STUFFED};
