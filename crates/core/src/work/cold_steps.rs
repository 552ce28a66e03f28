//! In the refrigerator: thawing, and the rest.

use super::aside::Aside;
use super::recipe::Recipe;
use super::step::{Beside, Lasts, Moment, Phase, Step, figure, step};
use crate::ask::Thawing;
use crate::method::{Hands, Place, StepKind};
use crate::piece::{Family, Species};
use crate::skin::drying::FridgePlacement;
use crate::units::{Time, TimeIn, minutes};
use crate::words;

/// Water round a frozen piece is changed so often, min (USDA FSIS).
const CHANGED_MIN: f64 = 30.0;

/// Fresh cold water while it thaws in it.
pub(super) fn water_changes(thaw: Time, thawing: Thawing) -> Vec<Aside> {
    let changes = if thawing == Thawing::Water { ((thaw.in_min() - 1e-6) / CHANGED_MIN).floor() as usize } else { 0 };
    let change = |n: usize| Step {
        phase: Phase::Beside,
        place: Place::Water,
        moment: Moment::In(minutes(CHANGED_MIN * n as f64)),
        hands: Hands::Clean,
        detail: "Cold from the tap, until it covers the bag; what was in it is raw if the bag leaks.".into(),
        ..step(StepKind::ChangeWater, "Change the water", minutes(2.0))
    };
    (1..=changes).map(|n| (Beside::Thaw, change(n))).collect()
}

pub(super) fn thaw(time: Time, thawing: Thawing) -> Step {
    let usual = in_the_refrigerator(time);
    match thawing {
        Thawing::Refrigerator => usual,
        Thawing::Water => Step {
            title: "Thaw in cold water".into(),
            place: Place::Water,
            figure: Some(figure(format!("{:.0}", time.in_min()), "min")),
            needs: vec!["a tight bag".into(), "a bowl or a clean sink".into()],
            detail: "In a tight bag, under cold water: 30 minutes a pound, the water changed every 30. Then it is cooked at once.".into(),
            ..usual
        },
        Thawing::Salted => Step {
            title: "Thaw until its outside is soft".into(),
            until: Some("a finger goes in, and what is packed inside comes out".into()),
            detail: format!("{} The rest of it thaws under the salt, an estimate.", usual.detail),
            ..usual
        },
    }
}

fn in_the_refrigerator(time: Time) -> Step {
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
    let thaws_on = recipe.thaws_on.map_or_else(String::new, |rest| {
        format!(" It thaws on for about {}: no ice left in the middle before it comes out.", words::span(rest))
    });
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
        detail: format!("{lying}{thaws_on}"),
        ..step(StepKind::Chill, &title, recipe.cold)
    }
}
