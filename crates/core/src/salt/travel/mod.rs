//! How salt travels: one-dimensional diffusion in tissue water through layers in series, in a plane, a cylinder or a sphere.
//!
//! `ε A ∂c/∂t = ∂/∂x( ε A D(x,T) ∂c/∂x )`, A the area of the [`Metric`], c = kg salt per kg tissue water, ε = kg water per kg
//! tissue; reported as grams per kilogram of tissue. Finite volumes in space, TR-BDF2 in time.
//!
//! ```
//! use rauchkeller_core::salt::travel::{Layer, Salting, Tissue, Travel, Uptake};
//! use rauchkeller_core::units::{GramsPerDm2, GramsPerKg, celsius, hours, millimetres};
//! let lean = [Layer { tissue: Tissue::Lean, thickness: millimetres(25.0) }];
//! let salting = Salting { top: GramsPerDm2(2.0), bottom: GramsPerDm2(2.0), inside: GramsPerKg(0.0), uptake: Uptake::Immediate };
//! let mut steak = Travel::new(&lean, salting, millimetres(0.5));
//! let before = steak.profile().slice().0;
//! steak.run(hours(168.0), celsius(4.0));
//! // Crank 1975, eq. 2.17: half the dose on each face of 25 mm is even within a thousandth after a week; no salt is lost on the way.
//! let after = steak.profile();
//! assert!((after.slice().0 / before - 1.0).abs() < 1e-9 && (after.middle().0 / after.slice().0 - 1.0).abs() < 1e-3);
//! ```

mod metric;
mod profile;
mod solver;
mod tissue;

pub use metric::Metric;
pub use profile::{Cell, Profile};
pub use solver::{Bath, Grooved, Salting, Travel, Uptake};
pub use tissue::{Layer, Tissue, diffusivity};

#[cfg(test)]
mod tests;
