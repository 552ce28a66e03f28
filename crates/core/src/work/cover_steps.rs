//! Sauces and baths, and salt on the skin as a tool.

use super::aside::Aside;
use super::recipe::Sauce;
use super::step::{Beside, Moment, Phase, Step, figure, step};
use crate::method::{Place, StepKind};
use crate::salt::{CoverKind, CoverPlan};
use crate::units::minutes;
use crate::words;

/// Minutes of the tasks around baths, sauces and covers (our estimate).
const DRAIN: f64 = 3.0;
const SEASON: f64 = 3.0;
const COVER: f64 = 5.0;
/// A draw lies on for a quarter of an hour (TRADE 4.10), a minute or three of it hands.
const DRAW: f64 = 15.0;
const DRAW_ON: f64 = 3.0;
const COVER_OFF: f64 = 3.0;

/// A sauce goes on; a bath is gone into and out of again.
pub(super) fn sauce_tasks(sauce: &Sauce) -> Vec<Step> {
    let bowl = || Some(figure(words::g(sauce.weight), "g"));
    let Some(bath) = sauce.bath else {
        return vec![Step {
            figure: bowl(),
            mix: sauce.mix,
            detail: format!("{} over the {}: it brings {} g of salt.", words::capital(&sauce.what), sauce.faces, words::g(sauce.salt)),
            ..step(StepKind::Season, sauce.title, minutes(SEASON))
        }];
    };
    vec![
        Step {
            place: Place::Refrigerator,
            hands_on: minutes(SEASON),
            figure: Some(figure(words::h(bath), "h")),
            needs: vec!["a dish or a bag it just fits".into()],
            detail: format!("Into {}, turned once, covered, in the refrigerator: {} g of salt go in.", sauce.what, words::g(sauce.salt)),
            ..step(StepKind::Marinate, "Into the bath", bath)
        },
        drained(),
    ]
}

/// What goes on only in the cold, at its hour.
pub(super) fn later_sauce(sauce: &Sauce) -> Option<Aside> {
    let step = Step {
        phase: Phase::Beside,
        place: Place::Refrigerator,
        moment: Moment::In(sauce.at?),
        figure: Some(figure(words::g(sauce.weight), "g")),
        mix: sauce.mix,
        detail: format!(
            "{} over the {}, back at once: it brings {} g of salt.",
            words::capital(&sauce.what),
            sauce.faces,
            words::g(sauce.salt)
        ),
        ..step(StepKind::Season, sauce.title, minutes(SEASON))
    };
    Some((Beside::Cold, step))
}

/// Out of what it lay in.
pub(super) fn drained() -> Step {
    Step {
        needs: vec!["paper towels".into()],
        detail: "Let it drip off, then dry it firmly. What it lay in is raw: throw it away, or boil it.".into(),
        ..step(StepKind::Drain, "Out of the bath, dry it", minutes(DRAIN))
    }
}

/// What is weighed out for a cover, beside the salt.
pub(super) fn cover_bowl(plan: &CoverPlan) -> String {
    format!(" For {} {} g besides.", plan.cover.kind.name(), words::g(plan.cover.laid))
}

/// Salt on the skin as a tool goes on at its hour.
pub(super) fn cover_on(plan: &CoverPlan) -> Step {
    let (left, on) = (words::g(plan.cover.left), plan.on);
    let (title, detail, takes, hands_on) = match plan.cover.kind {
        CoverKind::Draw => (
            format!("Salt on the {on}, to draw"),
            format!("On the dry {on}, evenly, for a quarter of an hour: beads of water stand on it when it has drawn."),
            DRAW,
            DRAW_ON,
        ),
        CoverKind::Crust => (
            format!("Bury the {on} in salt"),
            format!("Pat it flat over the dry {on}, right to the edges and not over them. It goes into the heat with it."),
            COVER,
            COVER,
        ),
        CoverKind::Bed => (
            format!("Lay it {on} down on the salt"),
            format!("Spread it in the tray and lay the piece on it, {on} down, with its weight on top. About {left} g stay behind."),
            COVER,
            COVER,
        ),
        CoverKind::Scatter => (
            format!("Scatter salt on the {on}"),
            format!("Coarse, thinly and evenly, not rubbed in. It stays on through the heat; about {left} g stay behind."),
            COVER_OFF,
            COVER_OFF,
        ),
    };
    Step {
        hands_on: minutes(hands_on),
        figure: Some(figure(words::g(plan.cover.laid), "g")),
        needs: vec!["the salt weighed for it".into()],
        detail,
        ..step(StepKind::CoverOn, &title, minutes(takes))
    }
}

/// And comes off again.
pub(super) fn cover_off(plan: &CoverPlan) -> Step {
    let (left, on) = (words::g(plan.cover.left), plan.on);
    let (title, detail, place) = match plan.cover.kind {
        CoverKind::Draw => (
            format!("Blot the {on}"),
            format!("Wipe the wet salt off and dry the {on}; about {left} g stay behind, our estimate."),
            Place::Bench,
        ),
        CoverKind::Crust => (
            "Knock the crust off".into(),
            format!("In one piece if it will; brush off what clings. About {left} g stay behind, our estimate."),
            Place::Fire,
        ),
        CoverKind::Scatter => (
            "Scrape the salt off".into(),
            format!("Scrape and brush the {on} clean while it is hot. About {left} g stay behind, our estimate."),
            Place::Table,
        ),
        CoverKind::Bed => {
            ("Off the salt".into(), format!("Wipe the {on} clean of it. About {left} g stay behind, our estimate."), Place::Bench)
        }
    };
    Step {
        phase: Phase::After,
        place,
        needs: vec!["paper towels".into(), "brush".into()],
        detail,
        ..step(StepKind::CoverOff, &title, minutes(COVER_OFF))
    }
}
