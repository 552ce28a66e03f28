//! The piece in the heat: its stages, how long each takes, where it is pulled.

use super::request::{PlanRequest, Refusal};
use super::resolve::{Resolved, ResolvedPortion};
use crate::fire::{Body, CarryBand, FinishTarget, FireAnswer, FireAsk, FireStage, Heating, body, fire_plan, in_the_heat, targets};
use crate::piece::FireShape;
use crate::units::{IntervalIn, Temperature, TemperatureIn, Time, TimeIn, celsius, millimetres};

/// The piece in the heat.
pub(super) struct Heated {
    pub stages: Vec<FireStage>,
    pub tempering: Time,
    pub rest: Time,
    start: Temperature,
    lead: FinishTarget,
    /// Each place that has to arrive, the one that leads first.
    pub finish: Vec<FinishTarget>,
    in_heat: Body,
    pub fire: FireAnswer,
}

impl Heated {
    /// The method's heat for this piece; meat that was cut into goes to the authority's temperature at least.
    pub(super) fn of(request: &PlanRequest, resolved: &Resolved, into_lean: bool) -> Result<Self, Vec<Refusal>> {
        let cut = request.cut;
        let mut finish = finish_targets(request, into_lean);
        let Some(lead) = finish.first().copied() else {
            return Err(vec![Refusal::new("piece.cut", cut.id, "a cut with a finish temperature", "Choose another cut.")]);
        };
        let (stages, tempering, rest) = (resolved.method.heat(cut), resolved.method.tempering(cut), resolved.method.rest(cut));
        // Half an hour out warms the outside, not the middle: a few degrees on the mean (our estimate).
        let start = if tempering.in_min() > 0.0 { celsius(8.0) } else { celsius(5.0) };
        let heat = |body: Body| fire_plan(&FireAsk { body, stages: &stages, rest, target: &lead, band: CarryBand::of(cut) });
        let (in_heat, fire) = slowest(resolved, |p| body(cut, p.weight, p.thickness, p.measures, start), &heat);
        pull(&mut finish, &lead, &fire);
        Ok(Self { stages, tempering, rest, start, lead, finish, in_heat, fire })
    }

    /// The air it stands in from the refrigerator to the table, and for how long.
    pub(super) fn air(&self) -> Vec<(Time, Temperature)> {
        let heating = Heating { tempering: self.tempering, stages: &self.stages, rest: self.rest };
        in_the_heat(self.in_heat, &self.fire, &heating)
    }

    /// What five millimetres more of thickness would add to the heat: asked where the thickness was guessed and rules the heat
    /// alone. Where the hours do not follow the thickness, the heat still may; a hollow bird's follows its weight.
    pub(super) fn thicker_takes(&self, request: &PlanRequest, resolved: &Resolved) -> Option<Time> {
        let own_hours = resolved.method.chill_hours().is_some();
        let guessed = resolved.guessed.contains(&"piece.salt_thickness_mm");
        let asks = own_hours && guessed && !matches!(request.cut.fire, FireShape::HollowBird { .. });
        asks.then(|| self.with_more(request, resolved))
    }

    /// What five millimetres more of thickness would add to the heat.
    fn with_more(&self, request: &PlanRequest, resolved: &Resolved) -> Time {
        let cut = request.cut;
        let heat =
            |body: Body| fire_plan(&FireAsk { body, stages: &self.stages, rest: self.rest, target: &self.lead, band: CarryBand::of(cut) });
        let more = |p: &ResolvedPortion| body(cut, p.weight, p.thickness + millimetres(5.0), p.measures, self.start);
        slowest(resolved, more, &heat).1.takes - self.fire.takes
    }
}

/// Time follows the portion that takes longest: the thickest or the heaviest, whichever that is.
fn slowest(resolved: &Resolved, shape: impl Fn(&ResolvedPortion) -> Body, heat: &impl Fn(Body) -> FireAnswer) -> (Body, FireAnswer) {
    let thickest = shape(resolved.thickest());
    let first = (thickest, heat(thickest));
    let heaviest = resolved.portions.get(resolved.heaviest_index()).map(shape).filter(|other| *other != thickest);
    match heaviest.map(|body| (body, heat(body))) {
        Some(other) if other.1.takes > first.1.takes => other,
        _ => first,
    }
}

/// Each place is pulled as far before its finish as the climb is counted on; for the authority's own temperature never
/// further than the low end of the climb.
fn pull(finish: &mut [FinishTarget], lead: &FinishTarget, fire: &FireAnswer) {
    let before = lead.finish.in_c() - fire.pull.in_c();
    for (i, target) in finish.iter_mut().enumerate() {
        target.pull = if i == 0 {
            fire.pull
        } else {
            let counted = target.finish.in_c() - before.max(0.0);
            let safe = target.authority.in_c() - fire.band.0.in_kelvin();
            celsius(if target.below_authority() { counted } else { counted.max(safe) })
        };
    }
}

/// Finish targets; meat whose outside was cut into its inside goes to the authority's temperature at least.
fn finish_targets(request: &PlanRequest, into_lean: bool) -> Vec<FinishTarget> {
    let mut finish = targets(request.cut);
    if into_lean {
        for target in finish.iter_mut().filter(|t| t.finish < t.authority) {
            (target.finish, target.pull) = (target.authority, target.authority);
        }
    }
    finish
}
