//! Tasks beside the row: what all of their writers share.

use super::step::{Beside, Moment, Phase, Step, step};
use crate::method::{Hands, Place, Side, StepKind};
use crate::units::{Time, TimeIn, hours, minutes};

/// A task that is done beside another.
pub(super) type Aside = (Beside, Step);

/// Clean hands for a minute or two at the heat.
pub(super) fn in_the_heat(kind: StepKind, title: &str, moment: Moment, min: f64, detail: &str) -> Step {
    Step { phase: Phase::Beside, place: Place::Fire, hands: Hands::Clean, moment, detail: detail.into(), ..step(kind, title, minutes(min)) }
}

/// What is done at the skin in a minute, and how: the same whoever asks for it, at whatever time.
pub(super) fn at_the_skin(kind: StepKind) -> (&'static str, &'static str) {
    match kind {
        StepKind::Baste => {
            ("Baste it", "Drip spooned over, door or lid shut again at once. Never what raw meat lay in, unless it has boiled.")
        }
        StepKind::Scrape => ("Scrape off what is black", "With the back of a knife; the rest of the skin stays as it is."),
        _ => ("Shield the skin", "Foil loosely over what is done, shiny side out; not touching salt or acid."),
    }
}

/// Half an hour into the heat, an hour into the cold, or over as it is carved.
pub(super) fn beside_at(side: Side, step: Step) -> Aside {
    let (of, moment) = match side {
        Side::Cold => (Beside::Cold, Moment::In(hours(1.0))),
        Side::Heat => (Beside::Stage(0), Moment::In(minutes(5.0))),
        Side::Rest => (Beside::Carving, Moment::Before),
    };
    (of, Step { phase: Phase::Beside, moment, ..step })
}

/// So long is what stands out beside the work of the bench.
pub(super) fn left_to_stand(temper: Time, work: f64) -> f64 {
    temper.in_min() - work
}
