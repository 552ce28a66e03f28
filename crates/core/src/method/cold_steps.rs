//! In the refrigerator: thawing, and the rest.

use super::kind::StepKind;
use super::recipe::Recipe;
use super::step::{Hands, Lasts, Phase, Place, Step, figure, step};
use crate::piece::{Family, Species};
use crate::skin::drying::FridgePlacement;
use crate::units::{Time, minutes};
use crate::words;

pub(super) fn thaw(time: Time) -> Step {
    Step {
        phase: Phase::Thawing,
        place: Place::Refrigerator,
        hands: Hands::Clean,
        // Moving it there is a minute of hands.
        hands_on: minutes(1.0),
        figure: Some(figure(words::h(time), "h")),
        detail: "In its wrapping on a tray, lowest shelf, 24 h for every 4–5 lb; never on the counter.".into(),
        until: Some("no ice left in the middle".into()),
        ..step(StepKind::Thaw, "Thaw in the refrigerator", time)
    }
}

pub(super) fn cold(recipe: &Recipe) -> Step {
    let (shelf, up) = match recipe.cut.family {
        _ if recipe.cut.species == Species::Poultry => ("lowest shelf", if recipe.cut.is_bird() { "breast up" } else { "skin up" }),
        _ if recipe.cut.skin_mm > 0.0 => ("below anything ready to eat", "skin up"),
        Family::CapSlab | Family::Roast | Family::Rack | Family::Joint => ("below anything ready to eat", "fat up"),
        _ => ("below anything ready to eat", "air under it"),
    };
    // Putting it there is a minute of hands; what lies there already needs none.
    let (into, hands_on) = if recipe.already_cold { ("In", 0.0) } else { ("Into", 1.0) };
    let (how, lying) = match recipe.lies {
        FridgePlacement::Open => ("open", format!("Uncovered on a rack, {up}, over a tray that catches drips, {shelf}.")),
        FridgePlacement::Hung => ("hung up", format!("Hung free with air all round, over a tray that catches drips, {shelf}.")),
        FridgePlacement::Covered => ("covered", format!("Covered, {up}, on a tray that catches drips, {shelf}. Covered it does not dry.")),
        FridgePlacement::Boxed => ("in its box", format!("In a closed box or bag, turned once, {shelf}. Closed in it does not dry.")),
        FridgePlacement::Weighted => {
            ("weighted", format!("Skin down with a weight on top, on a tray that catches drips, {shelf}. Only its sides dry."))
        }
    };
    let title = format!("{into} the refrigerator, {how}");
    Step {
        phase: Phase::Cold,
        lasts: Lasts::Elastic,
        place: Place::Refrigerator,
        hands: Hands::Clean,
        hands_on: minutes(hands_on),
        figure: Some(figure(words::h(recipe.cold), "h")),
        needs: vec!["rack".into(), "tray".into()],
        detail: lying,
        ..step(StepKind::Chill, &title, recipe.cold)
    }
}
