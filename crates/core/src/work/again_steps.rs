//! Cooked ahead: out of the heat, into the cold, and heated again.

use super::aside::Aside;
use super::heat_steps::{comes_hot, dial, out_when, surrounds};
use super::recipe::Recipe;
use super::step::{Beside, Lasts, Phase, Step, figure, step};
use crate::fire::{Again, COOLS_MIN, How};
use crate::method::{Hands, Place, StepKind};
use crate::units::{LengthIn, TemperatureIn, minutes};
use crate::words;

/// Out of the first heat: cool enough for the refrigerator, and shallow.
pub(super) fn cool(recipe: &Recipe) -> Step {
    let wet = recipe.heat.stages.iter().any(|stage| stage.how == How::InLiquid);
    let liquid = if wet { " Its liquid into another dish, as shallow." } else { "" };
    let parts = recipe.heat.again.and_then(|again| again.parts).map_or_else(
        || "Side by side in a shallow dish.".to_owned(),
        |thick| format!("Cut it into parts no thicker than {:.0} cm (2 in), side by side in shallow dishes.", thick.in_mm() / 10.0),
    );
    let [.., longest] = COOLS_MIN;
    Step {
        phase: Phase::After,
        place: Place::Table,
        hands: Hands::Clean,
        hands_on: minutes(10.0),
        figure: recipe.targets.first().map(|t| figure(words::c(t.pull), t.at.reads())),
        needs: vec!["shallow dishes".into(), "probe".into()],
        detail: format!(
            "Out when {}. {parts}{liquid} Within {} of the heat it is in the refrigerator.",
            out_when(recipe),
            words::span(minutes(longest))
        ),
        ..step(StepKind::Cool, "Out of the heat, let it cool", minutes(COOLS_MIN[1]))
    }
}

/// In the refrigerator, cooked.
pub(super) fn chill_cooked(recipe: &Recipe) -> Step {
    Step {
        phase: Phase::After,
        lasts: Lasts::Elastic,
        place: Place::Refrigerator,
        hands: Hands::Clean,
        hands_on: minutes(2.0),
        figure: Some(figure(words::h(recipe.kept), "h")),
        detail: "Above anything raw, covered once it is cold. Cooked it keeps three days. Fat that has set lifts off before it is heated."
            .into(),
        ..step(StepKind::ChillCooked, "Into the refrigerator, cooked", recipe.kept)
    }
}

/// Into the heat for the second time.
pub(super) fn heat_again(recipe: &Recipe) -> Option<Step> {
    let Again { stage, takes, out_at, .. } = recipe.heat.again?;
    let air = stage.air.in_c();
    let lies = match stage.how {
        How::InLiquid => "its own liquid round it",
        How::Covered => "covered, a little of its liquid over it",
        _ => "a little of its liquid over it",
    };
    Some(Step {
        phase: Phase::After,
        lasts: Lasts::Until,
        place: Place::Fire,
        air: Some(stage.air),
        heat: Some(stage.with),
        hands: Hands::Clean,
        hands_on: minutes(5.0),
        figure: Some(figure(format!("{air:.0}"), "°C")),
        until: Some(format!("{} °C in its middle", words::c(*out_at))),
        needs: vec!["probe".into()],
        detail: format!("Straight from the refrigerator, the fat off, {lies}. {air:.0} °C{}.{}", surrounds(stage), dial(recipe, stage)),
        ..step(StepKind::HeatAgain, &format!("Heat it again at {air:.0} °C"), *takes)
    })
}

/// The heat for it comes up beside its time in the refrigerator.
pub(super) fn hot_again(recipe: &Recipe) -> Option<Aside> {
    let stage = &recipe.heat.again?.stage;
    Some((Beside::Again, Step { takes: minutes(stage.with.preheat_min()), ..comes_hot(recipe, Some(stage)) }))
}

/// Out of the second heat.
pub(super) fn rest_again(recipe: &Recipe, again: &Again) -> Step {
    let at = words::c(again.out_at);
    Step {
        phase: Phase::After,
        place: Place::Table,
        hands: Hands::Clean,
        hands_on: minutes(1.0),
        figure: Some(figure(at.clone(), "°C core")),
        detail: format!("Out when the middle of the thickest part reads {at} °C. It rests where it is, covered."),
        ..step(StepKind::Rest, "Out of the heat, rest", recipe.heat.rest)
    }
}
