//! The fifth floor: what is said of a plan that was settled and placed: its cautions, its reasons, what a look over the piece changed, and
//! what is worth measuring. It sees no request.

mod facts;
mod inspection;
mod why;
mod worth;

pub(crate) use facts::{Planned, chill_facts, done_facts, plan_cautions};
pub use inspection::InspectionNote;
pub(crate) use inspection::{InspectionInput, inspection};
pub use why::{Bound, Why};
pub(crate) use why::{WhyInput, why};
pub use worth::WorthMeasuring;
pub(crate) use worth::worth_measuring;
