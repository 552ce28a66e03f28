//! What lies on the board: the cut and its usual measures, its layers and faces.

mod cut;
mod faces;
mod measures;
mod table;

pub use cut::{Cut, CutFacts, Family, FireShape, Species, Storage};
pub use faces::{Body, Face, FaceKind, faces};
pub use measures::{MEAT_DENSITY_KG_PER_L, Measures, Mismatch, estimated_face, estimated_weight, weight_mismatch};
