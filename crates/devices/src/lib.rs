//! # rauchkeller-devices
//!
//! Small simulated stand-ins for a kitchen's devices. Each runs as a process of its own and speaks the same open
//! readings API that a real one would.

mod bench;
mod link;
mod scale;
mod sender;

pub use bench::{ScaleOptions, run_scale};
pub use link::Link;
pub use scale::{Make, Scale};
