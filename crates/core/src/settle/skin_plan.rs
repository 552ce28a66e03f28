//! The work of knife and pick on a piece, as it was settled.

use crate::skin::{KnifeAsk, KnifeWork, QuickerWay, quicker_ways};
use crate::units::{GramsPerKg, Length, Share, Time};

/// The work of knife and pick.
#[derive(Debug, Clone)]
pub struct SkinPlan {
    /// What was computed with.
    pub ask: KnifeAsk,
    /// What it comes to.
    pub work: KnifeWork,
    /// Why no depth is safe anywhere; `None` where one is.
    pub refused: Option<String>,
    /// Minutes on the bench in all, this work among them.
    pub out: Time,
    /// Quicker ways, where the work is long or the two hours are full.
    pub quicker: Vec<QuickerWay>,
    /// What grooves do to the salt; an estimate.
    pub grooves: Option<GrooveSalt>,
}

impl SkinPlan {
    /// Adds what only the whole plan knows: the time out of the cold in sum, and what grooves do to the salt.
    pub(crate) fn look_over(&mut self, out: Time, at_most: Time, grooves: Option<GrooveSalt>) {
        self.out = out;
        self.quicker = quicker_ways(&self.ask, &self.work, at_most - (out - self.work.takes()));
        self.grooves = grooves;
    }

    /// Holes all over the cover.
    pub fn pierces(&self) -> bool {
        self.work.scoring.is_none() && self.work.holes.is_some()
    }
}

/// What grooves do to the salt after the planned hours; an estimate.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct GrooveSalt {
    /// Share of the side's salt that lodges in them.
    pub share: Share,
    /// The least salted place with them.
    pub middle: GramsPerKg,
    /// And without.
    pub middle_without: GramsPerKg,
    /// How far it is seasoned with them.
    pub depth: Length,
    /// And without.
    pub depth_without: Length,
}
