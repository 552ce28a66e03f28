//! The stages of the heat: those that were said, else the method's.

use crate::ask::FireRequest;
use crate::fire::{FireStage, HeatSource, Hottest, How, Look, StageEnd};
use crate::method::Method;
use crate::piece::Cut;

impl FireRequest {
    /// Whether skin is to puff: a stage is watched until it is hollow, or the method wants crackling of such a cut and some of its heat is open. How
    /// hot that is does not decide what is wanted, but what comes of it, and that is said.
    pub(super) fn puffs(&self, cut: Cut, method: &Method, kitchen: Hottest) -> bool {
        let stages = self.whole_stages(cut, method, kitchen);
        let open = |s: &FireStage| matches!(s.how, How::Open | How::Direct) && !matches!(s.with, HeatSource::Pan | HeatSource::Pot);
        let hollow = |s: &FireStage| s.until == StageEnd::Look(Look::Hollow);
        stages.iter().any(hollow) || method.crackles(cut) && stages.iter().any(open)
    }

    /// The stages that were said, else the method's on what gives the heat.
    pub(crate) fn whole_stages(&self, cut: Cut, method: &Method, kitchen: Hottest) -> Vec<FireStage> {
        match &self.stages {
            Some(stages) => stages.iter().map(|ask| ask.whole(self.with.unwrap_or_default(), kitchen)).collect(),
            None => method.heat_on(cut, self.with, kitchen),
        }
    }
}
