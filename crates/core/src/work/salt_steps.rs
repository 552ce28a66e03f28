//! On the bench: tools and bowls, giblets, drying, the salt itself, clean hands.

use super::cover_steps::cover_bowl;
use super::recipe::{MixLies, Recipe};
use super::step::{Step, figure, step};
use crate::method::{Hands, StepKind};
use crate::salt::{CoverKind, FaceGrams};
use crate::skin::drying::FridgePlacement;
use crate::units::{MassIn, minutes};
use crate::words;
use std::borrow::Cow;

/// Usual minutes of a step TRADE 8.2.
const LAY_OUT: f64 = 5.0;
const DRY: f64 = 3.0;
const SALT: f64 = 5.0;
/// Minutes more for each piece beside the first, drying and salting (our estimate).
const DRY_EACH_MORE: f64 = 0.5;
const SALT_EACH_MORE: f64 = 1.0;
const WASH: f64 = 2.0;
const LOOSEN: f64 = 5.0;
/// Minutes for what was packed inside (our estimate).
const GIBLETS: f64 = 2.0;

/// `9.9 g meat side, 8.1 g cut sides`.
fn by_face(grams: &[FaceGrams]) -> String {
    let salted: Vec<String> =
        grams.iter().filter(|f| f.salt.in_g() >= 0.05).map(|f| format!("{} g {}", words::g(f.salt), f.face.name)).collect();
    salted.join(", ")
}

/// `4.0 g and 3.5 g a portion, together`; nothing for one piece.
fn by_portion(recipe: &Recipe) -> String {
    let each: Vec<String> = recipe.each.iter().filter(|g| g.in_g() >= 0.05).map(|g| format!("{} g", words::g(*g))).collect();
    match each.as_slice() {
        [] | [_] => String::new(),
        [first, rest @ ..] if rest.iter().all(|g| g == first) => format!("{first} for each of {}, together", each.len()),
        [.., last] => format!("{} and {last}, portion by portion, together", each[..each.len() - 1].join(", ")),
    }
}

/// What is weighed, in words.
pub(super) struct Weighed<'a> {
    /// The figure of it: loose salt, or a mix that brings all of it.
    grams: String,
    /// What it is called.
    what: &'a str,
    /// Where it goes, or that nothing is left to weigh.
    laid: String,
    /// Whether nothing is.
    nothing: bool,
}

impl<'a> Weighed<'a> {
    pub(super) fn of(recipe: &Recipe<'a>) -> Self {
        let mix = recipe.mix.filter(|(_, g)| g.in_g() >= 0.05);
        // Where a mix brings all of the salt, it is what is weighed.
        let loose = recipe.to_weigh.in_g() >= 0.05;
        let alone = mix.filter(|_| !loose);
        let mixed = mix.map_or_else(String::new, |(name, g)| {
            let over = if loose { " over the same faces" } else { "" };
            format!("{} g {name}{over}", words::g(g))
        });
        let parts = [by_portion(recipe), by_face(recipe.grams), mixed]
            .into_iter()
            .filter(|part| !part.is_empty())
            .collect::<Vec<_>>()
            .join(", ")
            .replace("together, ", "together ");
        let nothing = parts.is_empty();
        Self {
            grams: words::g(alone.map_or(recipe.to_weigh, |(_, g)| g)),
            what: alone.map_or(recipe.salt, |(name, _)| name),
            laid: if nothing { "nothing more to weigh".to_owned() } else { parts },
            nothing,
        }
    }
}

/// Hands clean, tools out, everything weighed; `needs` are those of the work that follows.
pub(super) fn lay_out(recipe: &Recipe, needs: &[Cow<'static, str>]) -> Step {
    let Weighed { grams, what, laid, nothing } = Weighed::of(recipe);
    let bowl_of = |sauce: &super::recipe::Sauce| format!(" {} besides.", words::capital(&sauce.what));
    let besides: String = recipe.sauces.iter().map(bowl_of).chain(recipe.cover.map(cover_bowl)).collect();
    let (bowls, one_bowl) = if recipe.mix_lies == MixLies::Round && recipe.to_weigh.in_g() < 0.05 {
        ("a bowl", "One bowl")
    } else if recipe.pieces > 1 {
        ("a bowl a portion", "One bowl a portion")
    } else {
        ("a bowl a face", "One bowl a face")
    };
    let mut tools: Vec<Cow<'static, str>> = ["scale", bowls, "paper towels", "rack", "tray"].map(Cow::Borrowed).to_vec();
    let hooks = recipe.lies == FridgePlacement::Hung && !needs.iter().any(|need| need.contains("hook"));
    // What a later task calls by another name lies there already.
    let same = ["the weighed bowls", "the salt weighed for it", "clean board"];
    for need in needs.iter().cloned().chain(hooks.then(|| "a hook".into())) {
        if !tools.contains(&need) && !same.contains(&need.as_ref()) {
            tools.push(need);
        }
    }
    Step {
        hands: Hands::Clean,
        figure: Some(figure(grams, "g")),
        needs: tools,
        detail: if nothing {
            format!("No salt to weigh: what is on it already is enough.{besides}")
        } else {
            format!("{one_bowl} of {what}: {laid}.{besides}")
        },
        ..step(StepKind::LayOut, "Wash hands, weigh the salt, lay out tools", minutes(LAY_OUT))
    }
}

/// What was packed inside a bird comes out.
pub(super) fn giblets() -> Step {
    Step {
        detail: "Look into both ends: neck, giblets and any bag come out. Keep the neck and giblets cold for the gravy.".into(),
        ..step(StepKind::Giblets, "Giblets out", minutes(GIBLETS))
    }
}

pub(super) fn dry(recipe: &Recipe) -> Step {
    let more = (recipe.pieces.max(1) - 1) as f64;
    Step {
        needs: vec!["paper towels".into()],
        detail: "Press, do not wipe; a second towel for what the first left. Never wash it.".into(),
        ..step(StepKind::Dry, "Dry it firmly, twice", minutes((DRY + more * DRY_EACH_MORE).ceil()))
    }
}

pub(super) fn loosen() -> Step {
    Step {
        detail: "Fingers between skin and breast from the neck end; do not tear it.".into(),
        ..step(StepKind::Loosen, "Loosen the breast skin", minutes(LOOSEN))
    }
}

/// The salt goes on, face by face.
pub(super) fn salt(recipe: &Recipe) -> Step {
    let Weighed { grams, laid, nothing, .. } = Weighed::of(recipe);
    let mut salting = vec![if nothing {
        "No salt goes on now: what is on it already is enough.".to_owned()
    } else {
        let how =
            if recipe.mix_lies == MixLies::Round { "Round the piece in a bag or a dish it just fits, no air in it" } else { "Press it on" };
        format!("{}. {how}.", words::capital(&laid))
    }];
    let bare = recipe.mix_lies != MixLies::OnSkinToo && recipe.grams.iter().any(|f| f.face.id == "skin" && f.salt.in_g() < 0.05);
    // Under a bed it is salted at once; a draw, a crust and a scatter come later, on a dry skin.
    let bed = recipe.cover.is_some_and(|plan| plan.cover.kind == CoverKind::Bed);
    if bare && !bed {
        salting.push("The skin stays clean and dry.".into());
    }
    let more = (recipe.pieces.max(1) - 1) as f64;
    let how = if recipe.pieces > 1 { "Salt, portion by portion" } else { "Salt, face by face" };
    Step {
        figure: Some(figure(grams, "g")),
        needs: vec!["the weighed bowls".into()],
        detail: salting.join(" "),
        ..step(StepKind::Salt, how, minutes(SALT + more * SALT_EACH_MORE))
    }
}

pub(super) fn wash() -> Step {
    Step {
        hands: Hands::Clean,
        detail: "Soap, before the refrigerator door is touched. Wipe the board down.".into(),
        ..step(StepKind::Wash, "Wash your hands", minutes(WASH))
    }
}
