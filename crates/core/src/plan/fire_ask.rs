//! What the cook says of the heat, checked and made whole: appliance, stages, finish, standing out, rest.

use super::hung_ask::at_the_stages;
use crate::ask::{FinishAsk, FinishStyle, PlanRequest};
use crate::fire::{Body, CarryBand, FinishTarget, FireAsk, FireStage, HeatSource, Look, Resting, StageEnd, tender_after, usual_again};
use crate::method::Method;
use crate::piece::Cut;
use crate::settle::no_tempering;
use crate::units::{HeatTransfer, Length, Temperature, Time, TimeIn, celsius, hours, minutes};
use crate::work::BRUSH;

/// Skin, and the fat under it, where there is skin.
pub(super) type Skin = Option<(Length, Length)>;

/// The heat made whole.
#[derive(Debug, Clone, PartialEq)]
pub(crate) struct FireWhole {
    pub with: HeatSource,
    pub stages: Vec<FireStage>,
    pub temper: Time,
    pub preheat: Time,
    pub rest: Time,
    pub resting: Resting,
    pub hold: Option<(Time, Time)>,
    /// Cooked ahead: how long it cools from the heat on, before it is chilled.
    pub cools: Option<Time>,
    /// What heats it again then.
    pub again: Option<FireStage>,
    /// The finish that was said; `None` leaves the cut's.
    pub finish: Option<Temperature>,
    /// Whether the cook pulls at a core of her own, and the finish follows.
    own_pull: bool,
    /// Whether it is to be tender, which a fork says.
    tender: bool,
    /// Whether the method's own stages go by minutes and by what is seen alone.
    fixed: bool,
    /// The usual minutes of a stage of the method that would not have cooked this piece.
    pub lengthened: Option<Time>,
}

impl FireWhole {
    /// The method's heat with what was said of it.
    pub fn of(request: &PlanRequest, method: &Method) -> Self {
        let (cut, said, own) = (request.cut, &request.fire, &method.says.fire);
        let with = said.with.or(own.with).unwrap_or_default();
        let mut stages = said.whole_stages(cut, method, request.kitchen.heat);
        at_the_stages(request, &mut stages);
        // A finish of the method belongs to its own stages.
        let wanted = said.finish.or(own.finish.filter(|_| said.stages.is_none()));
        let tender = matches!(wanted, Some(FinishAsk::Style(FinishStyle::Tender)));
        if tender {
            // The core does not say when a fork meets no resistance; time at heat does.
            stages.iter_mut().filter(|s| s.until == StageEnd::Finish).for_each(|s| s.until = StageEnd::Look(Look::Tender));
        }
        let finish = wanted.and_then(|finish| match finish {
            FinishAsk::Core(core) => Some(core),
            FinishAsk::Style(style) => style.core(cut),
        });
        let first = stages.first().map_or(with, |stage| stage.with);
        Self {
            own_pull: !tender && matches!(stages.last(), Some(FireStage { until: StageEnd::Core(_), .. })),
            temper: said.temper.unwrap_or_else(|| usual_temper(request, method)),
            fixed: said.stages.is_none()
                && own.stages.is_some()
                && !stages.iter().any(|s| matches!(s.until, StageEnd::Finish | StageEnd::Core(_))),
            preheat: said.preheat.or(own.preheat).or(method.comes_hot_in()).unwrap_or_else(|| minutes(first.preheat_min())),
            rest: said.rest.unwrap_or_else(|| method.rest(cut)),
            resting: said.resting.or(own.resting).unwrap_or_default(),
            hold: said.hold.or(own.hold).filter(|(_, most)| most.in_min() > 0.0),
            cools: method.cools(),
            again: method
                .heats_again()
                .then(|| said.again.or(own.again).map_or_else(usual_again, |ask| ask.whole(HeatSource::Oven, request.kitchen.heat))),
            with,
            stages,
            finish,
            tender,
            lengthened: None,
        }
    }

    /// Whether the finish is what comes of the stages: of a pull of the cook's own, or of a fork.
    pub fn finish_follows(&self) -> bool {
        self.own_pull
            || self.fixed && self.finish.is_none()
            || (self.finish.is_none() || self.tender) && self.stages.iter().any(|s| s.until == StageEnd::Look(Look::Tender))
    }

    /// Whether it is pulled at a core of the cook's own, and nothing else is waited for.
    pub fn pull_is_own(&self) -> bool {
        self.own_pull
    }

    /// Lets a method's own minutes that leave the core below the authority's temperature go on until it is done: its longest stage
    /// waits for the core. Whether there was one to change.
    pub fn wait_for_the_core(&mut self) -> bool {
        let long = |stage: &FireStage| if let StageEnd::After(time) = stage.until { time.in_min() } else { 0.0 };
        let longest = self.stages.iter_mut().filter(|_| self.fixed).max_by(|a, b| long(a).total_cmp(&long(b)));
        let Some(stage) = longest.filter(|stage| long(stage) > 0.0) else { return false };
        self.lengthened = Some(minutes(long(stage)));
        stage.until = StageEnd::Finish;
        self.fixed = false;
        true
    }

    /// How long of the time before the heat it only stands.
    pub fn stands(&self) -> Time {
        minutes((self.temper.in_min() - BRUSH).max(0.0))
    }

    /// The film of the stage that does most: the one the core decides, else the last.
    pub fn film(&self) -> HeatTransfer {
        let waits = self.stages.iter().find(|s| !matches!(s.until, StageEnd::After(_)));
        waits.or(self.stages.last()).map_or(HeatTransfer(25.0), |stage| stage.around().fire.h)
    }

    /// Whether it lies on what heats it in some stage.
    pub fn on_one_side(&self) -> bool {
        self.stages.iter().any(|stage| stage.around().away.is_some())
    }

    /// How long, and how, it goes on by itself after the heat: its rest, or its cooling where it is chilled then.
    pub fn after_the_heat(&self) -> (Time, Resting) {
        self.cools.map_or((self.rest, self.resting), |cools| (cools, Resting::Open))
    }

    /// What is asked of the heat for a body.
    pub fn ask<'a>(&'a self, body: Body, target: &'a FinishTarget, (cut, skin): (Cut, Skin)) -> FireAsk<'a> {
        FireAsk {
            body,
            stages: &self.stages,
            rest: self.after_the_heat().0,
            resting: self.after_the_heat().1,
            target,
            band: CarryBand::of(cut),
            fork: tender_after(cut.species),
            skin,
        }
    }
}

/// From the refrigerator to the heat, where nobody says: what the method lets it stand out, and brushing off.
fn usual_temper(request: &PlanRequest, method: &Method) -> Time {
    if let Some(own) = method.says.fire.temper.filter(|_| !no_tempering(request)) {
        return own;
    }
    let stands = if no_tempering(request) { minutes(0.0) } else { method.tempering(request.cut) };
    if stands.in_min() > 0.0 { stands + minutes(BRUSH) } else { stands }
}

/// How warm it is throughout when it goes into the heat, after so long in the kitchen: measured, or reckoned from 4 °C.
pub(super) fn start_of(request: &PlanRequest, temper: Time) -> Temperature {
    if let Some(measured) = request.start {
        return measured;
    }
    // Half an hour out warms the outside, not the middle: a few degrees on the mean (our estimate). Longer, as far again, towards
    // the kitchen's own 22 °C.
    match temper.in_min() {
        0.0 => celsius(5.0),
        min if min <= 30.0 => celsius(5.0 + min / 10.0),
        min => celsius(22.0 - 14.0 * (-(min - 30.0) / hours(3.0).in_min()).exp()),
    }
}
