//! What makes skin crackle that this heat leaves tough: a fierce end after it, reckoned on this piece.

use super::heated::Heated;
use crate::ask::{AirAsk, PlanRequest, StageAsk};
use crate::fire::{FireStage, HeatSource, How, Look, StageEnd};
use crate::piece::Species;
use crate::settle::Resolved;
use crate::units::{Dryness, Temperature, TemperatureIn, Time, TimeIn, celsius};

/// A fierce end that puffs the skin.
#[derive(Debug, Clone, PartialEq)]
pub struct FierceEnd {
    /// All stages then, as the cook would say them.
    pub stages: Vec<StageAsk>,
    /// How hot it is.
    pub air: Temperature,
    /// How long it takes.
    pub takes: Time,
    /// The reading at which it is pulled then.
    pub pull: Temperature,
    /// Whether the skin puffs in patches only.
    pub patchy: bool,
}

/// As hot as is asked of an oven for it, °C (TRADE 7.1).
const ENOUGH_C: f64 = 250.0;

/// The heat with a fierce end after it, where that makes skin puff which stays tough without; `None` where nothing helps, or nothing has to.
///
/// Cost: the heat once more.
pub(super) fn fierce_end(
    request: &PlanRequest,
    resolved: &Resolved,
    heated: &Heated,
    into_lean: bool,
    dry: Option<Dryness>,
) -> Option<FierceEnd> {
    // Poultry's skin crisps without puffing.
    let tough = resolved.crackles && request.cut.species == Species::Pork && heated.crisp.is_some_and(|skin| skin.puffs.is_none());
    if !tough || dry.is_none_or(|dry| dry.0 < LEAST) {
        return None;
    }
    let last = heated.whole.stages.last()?;
    // A pan, a pot and what is wrapped are opened into the oven for it.
    let with = match last.with {
        HeatSource::Pan | HeatSource::Pot => HeatSource::Oven,
        with => with,
    };
    let most = request.kitchen.heat.of(with);
    let air = if most.in_c() > ENOUGH_C { celsius(ENOUGH_C) } else { most };
    let end = StageAsk {
        with: (with != heated.whole.with).then_some(with),
        air: AirAsk::At(air),
        how: How::Open,
        until: StageEnd::Look(Look::Hollow),
        flip: None,
    };
    let said = |stage: &FireStage| StageAsk {
        with: (stage.with != heated.whole.with).then_some(stage.with),
        air: AirAsk::At(stage.air),
        how: stage.how,
        until: stage.until,
        flip: stage.flip,
    };
    let stages: Vec<StageAsk> = heated.whole.stages.iter().map(said).chain([end]).collect();
    let mut with_end = request.clone();
    with_end.fire.stages = Some(stages.clone());
    with_end.fire.with = with_end.fire.with.or(Some(heated.whole.with));
    // The same heat on the same body, with one stage more; the skin goes through it as it dries here.
    let mut again = Heated::of(&with_end, resolved, into_lean).ok()?;
    again.follow_skin(&with_end, resolved, dry);
    let skin = again.crisp.filter(|skin| skin.puffs.is_some())?;
    Some(FierceEnd { stages, air, takes: *again.fire.stages.last()?, pull: again.fire.pull, patchy: skin.is_patchy() })
}

/// Wetter than that no heat crackles it (TRADE 9.11).
const LEAST: f64 = 0.7;

impl FierceEnd {
    /// What is done instead, in words.
    pub fn what(&self) -> String {
        format!("add {:.0} °C at the end, until the skin sounds hollow", self.air.in_c())
    }

    /// What that gives.
    pub fn gives(&self) -> String {
        let all_over = if self.patchy { "in patches" } else { "all over" };
        let (min, pull) = (self.takes.in_min(), crate::words::c(self.pull));
        format!("it puffs {all_over} within about {min:.0} min, and the core is pulled at {pull} °C, an estimate")
    }
}
