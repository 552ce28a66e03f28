//! What is said of mixes, and of salt on the skin as a tool.

use crate::salt::{CoverKind, Mix};
use crate::units::{GramsPerDm2, Length, Mass, Time};

/// A mix that goes on, with its amount where the cook said one.
#[derive(Debug, Clone, PartialEq)]
pub struct MixUse {
    /// The recipe.
    pub mix: Mix,
    /// Grams of it; `None` scales it to the piece.
    pub asked: Option<Mass>,
    /// How long the piece lies in it, where it is a bath: diffusion caps what enters.
    pub bath: Option<Time>,
}

/// A mix besides, on one face or at an hour of its own.
#[derive(Debug, Clone, PartialEq)]
pub struct FaceMix {
    /// The recipe.
    pub mix: Mix,
    /// Grams of it; `None` takes an equal share of what is missing with the others that nobody weighed.
    pub asked: Option<Mass>,
    /// The face it goes on, by id; `None` on all that take salt.
    pub face: Option<String>,
    /// Hours after the first salt at which it goes on; `None` with it.
    pub at: Option<Time>,
    /// Its place in the list as it was said, from 0: where it is refused.
    pub said: usize,
}

/// Most mixes besides.
pub const MOST_MIXES: usize = 4;

/// Salt on the skin as a tool.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct CoverAsk {
    /// Draw, crust or bed.
    pub kind: CoverKind,
    /// How deep; `None` as usual.
    pub depth: Option<Length>,
    /// What was found to stay behind; `None` takes the estimate.
    pub left: Option<GramsPerDm2>,
}
