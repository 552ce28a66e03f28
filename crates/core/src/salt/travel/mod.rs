//! How salt travels: one-dimensional diffusion in tissue water through layers in series, in a plane, a cylinder or a sphere.
//!
//! `ε A ∂c/∂t = ∂/∂x( ε A D(x,T) ∂c/∂x )`, A the area of the [`Metric`], c = kg salt per kg tissue water, ε = kg water per kg
//! tissue; reported as grams per kilogram of tissue. Finite volumes in space, TR-BDF2 in time.

mod metric;
mod profile;
mod solver;
mod tissue;

pub use metric::Metric;
pub use profile::{Cell, Profile};
pub use solver::{Grooved, Salting, Travel, Uptake};
pub use tissue::{Layer, Tissue, diffusivity};

#[cfg(test)]
mod tests;
