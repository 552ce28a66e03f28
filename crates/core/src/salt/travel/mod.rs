//! How salt travels: one-dimensional diffusion in tissue water through layers in series.
//!
//! `ε ∂c/∂t = ∂/∂x( ε D(x,T) ∂c/∂x )`, c = kg salt per kg tissue water, ε = kg water per kg
//! tissue; reported as grams per kilogram of tissue. Finite volumes in space, TR-BDF2 in time.

mod profile;
mod solver;
mod tissue;

pub use profile::{Cell, Profile};
pub use solver::{Grooved, Salting, Travel, Uptake};
pub use tissue::{Layer, Tissue, diffusivity};

#[cfg(test)]
mod tests;
