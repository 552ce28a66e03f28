//! Everything a piece's steps are written from, and the steps in the order of the work.

use super::beside_steps::{added, asked_by_the_heat, leftovers};
use super::heat_steps::to_the_table;
use super::kind::StepKind;
use super::knife_steps::knife_steps;
use super::schools::Method;
use super::step::{Beside, Hands, Lasts, Phase, Place, Step, figure, step, tied};
use crate::fire::{FinishTarget, FireAnswer, FireStage, HeatPoint, Resting};
use crate::piece::{Cut, Family, Species};
use crate::salt::{CoverKind, CoverPlan, FaceGrams};
use crate::skin::drying::FridgePlacement;
use crate::skin::{KnifeAsk, KnifeWork};
use crate::units::{Mass, MassIn, Time, minutes};
use crate::words;
use std::borrow::Cow;

/// Everything a method needs to write its steps.
#[derive(Debug, Clone)]
pub struct Recipe<'a> {
    /// The school whose steps are laid out.
    pub method: Method,
    /// The cut they are done to.
    pub cut: Cut,
    /// Of the chosen salt for each face, as the scale shows it.
    pub grams: &'a [FaceGrams],
    /// What goes on the scale.
    pub to_weigh: Mass,
    /// Name of the salt.
    pub salt: &'a str,
    /// A mix that goes on too: its name and grams.
    pub mix: Option<(&'a str, Mass)>,
    /// Knife and pick, where there is something to open.
    pub knife: Option<(&'a KnifeAsk, &'a KnifeWork)>,
    /// Hours in the cold.
    pub cold: Time,
    /// Whether it lies in the cold already, salted.
    pub already_cold: bool,
    /// How long it thaws first, if frozen.
    pub thaw: Option<Time>,
    /// Standing out, stages, rest.
    pub heat: RecipeHeat<'a>,
    /// What the fire gives.
    pub fire: &'a FireAnswer,
    /// Where each place has to arrive, and be pulled.
    pub targets: &'a [FinishTarget],
    /// How it lies in the cold.
    pub lies: FridgePlacement,
    /// Pieces in the dish.
    pub pieces: usize,
    /// Of several, what the scale shows of loose salt for each.
    pub each: &'a [Mass],
    /// Skin or fat over it: rules what is dried and wiped.
    pub surface: Surface,
    /// Whether knife or pick reach the lean.
    pub into_lean: bool,
    /// Salty things that go on too.
    pub sauces: &'a [Sauce],
    /// Salt on the skin as a tool.
    pub cover: Option<&'a CoverPlan>,
}

/// The heat as steps are written for it.
#[derive(Debug, Clone)]
pub struct RecipeHeat<'a> {
    /// Its stages.
    pub stages: &'a [FireStage],
    /// Until it is up.
    pub preheat: Time,
    /// From the refrigerator to the heat, the work on the bench included.
    pub temper: Time,
    /// Whether the cook said so.
    pub temper_said: bool,
    /// Rest after it.
    pub rest: Time,
    /// How it rests, where the cook said so.
    pub resting: Option<Resting>,
    /// Held warm after the rest, at least and at most.
    pub hold: Option<(Time, Time)>,
    /// How long it is planned to be held: so long that it may take its longest in the heat.
    pub held: Time,
    /// Its surface and core from the heat to the end of the rest.
    pub curve: &'a [HeatPoint],
    /// Since it went into the heat: when its skin is done, where that is so early that it wants a shield.
    pub shield: Option<Time>,
    /// What the cook adds: its kind, and the hours into the cold where it is done there.
    pub added: &'a [(StepKind, Option<Time>)],
}

/// Something salty and wet that goes on, or that the piece lies in.
#[derive(Debug, Clone, PartialEq)]
pub struct Sauce {
    /// What it is, with its amount.
    pub what: String,
    /// How much of it goes on.
    pub weight: Mass,
    /// Salt it brings.
    pub salt: Mass,
    /// The faces it goes over, in words.
    pub faces: String,
    /// How long the piece lies in it; `None` where it goes on.
    pub bath: Option<Time>,
}

/// What the outside of a piece is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Surface {
    /// Skin, to be crackled or rendered.
    Skin,
    /// A fat cap or edge.
    Fat,
    /// Bare lean on top.
    Lean,
}

impl Surface {
    pub(super) fn noun(self) -> &'static str {
        match self {
            Self::Skin => "skin",
            Self::Fat => "fat",
            Self::Lean => "meat",
        }
    }
}

/// Usual minutes of a step TRADE 8.2.
const LAY_OUT: f64 = 5.0;
const DRY: f64 = 3.0;
const SALT: f64 = 5.0;
/// Minutes more for each piece beside the first, drying and salting (our estimate).
const DRY_EACH_MORE: f64 = 0.5;
const SALT_EACH_MORE: f64 = 1.0;
const WASH: f64 = 2.0;
const LOOSEN: f64 = 5.0;
/// Minutes of the tasks around giblets, baths, sauces and covers (our estimate).
const GIBLETS: f64 = 2.0;
const DRAIN: f64 = 3.0;
const SEASON: f64 = 3.0;
const COVER: f64 = 5.0;
/// A draw lies on for a quarter of an hour (TRADE 4.10), a minute or three of it hands.
const DRAW: f64 = 15.0;
const DRAW_ON: f64 = 3.0;
const COVER_OFF: f64 = 3.0;

/// Writes the steps of a method in the order of the work.
pub fn lay_out_steps(recipe: &Recipe) -> Vec<Step> {
    let mut steps = Vec::with_capacity(14);
    if let Some(thaw) = recipe.thaw {
        steps.push(Step {
            phase: Phase::Thawing,
            place: Place::Refrigerator,
            hands: Hands::Clean,
            // Moving it there is a minute of hands.
            hands_on: minutes(1.0),
            figure: Some(figure(words::h(thaw), "h")),
            detail: "In its wrapping on a tray, lowest shelf, 24 h for every 4–5 lb; never on the counter.".into(),
            until: Some("no ice left in the middle".into()),
            ..step(StepKind::Thaw, "Thaw in the refrigerator", thaw)
        });
    }
    steps.extend(before_the_cold(recipe));
    steps.push(cold(recipe));
    steps.extend(to_the_table(recipe));
    // The heat comes up beside its first stage.
    let mut beside = vec![Beside::Stage(0)];
    let mut asides = asked_by_the_heat(recipe);
    asides.extend(recipe.heat.added.iter().flat_map(|(kind, at)| added(recipe, *kind, *at)));
    asides.push(leftovers());
    for (of, step) in asides {
        beside.push(of);
        steps.push(step);
    }
    tied(steps, &beside)
}

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

fn before_the_cold(recipe: &Recipe) -> Vec<Step> {
    let mix = recipe.mix.filter(|(_, g)| g.in_g() >= 0.05);
    // Where a mix brings all of the salt, it is what is weighed.
    let loose = recipe.to_weigh.in_g() >= 0.05;
    let weigh = words::g(mix.filter(|_| !loose).map_or(recipe.to_weigh, |(_, g)| g));
    let mixed = mix.map_or_else(String::new, |(name, g)| format!("{} g {name} over the same faces", words::g(g)));
    let parts = [by_portion(recipe), by_face(recipe.grams), mixed]
        .into_iter()
        .filter(|part| !part.is_empty())
        .collect::<Vec<_>>()
        .join(", ")
        .replace("together, ", "together ");
    let nothing = parts.is_empty();
    let laid = if nothing { "nothing more to weigh".to_owned() } else { parts };
    let more = (recipe.pieces.max(1) - 1) as f64;
    let kind = mix.filter(|_| !loose).map_or(recipe.salt, |(name, _)| name);
    let bare = recipe.grams.iter().any(|f| f.face.id == "skin" && f.salt.in_g() < 0.05);
    let bowl_of = |sauce: &Sauce| format!(" {} besides.", words::capital(&sauce.what));
    let besides: String = recipe.sauces.iter().map(bowl_of).chain(recipe.cover.map(cover_bowl)).collect();
    let opened = recipe.knife.map_or_else(Vec::new, |(ask, work)| knife_steps(ask, work, recipe.surface, recipe.into_lean));
    let (bowls, one_bowl, how) = if recipe.pieces > 1 {
        ("a bowl a portion", "One bowl a portion", "Salt, portion by portion")
    } else {
        ("a bowl a face", "One bowl a face", "Salt, face by face")
    };
    let mut needs: Vec<Cow<'static, str>> = ["scale", bowls, "paper towels", "rack", "tray"].map(Cow::Borrowed).to_vec();
    needs.extend(opened.iter().flat_map(|s| s.needs.clone()));
    let mut steps = vec![Step {
        hands: Hands::Clean,
        figure: Some(figure(weigh.clone(), "g")),
        needs,
        detail: if nothing {
            format!("No salt to weigh: what is on it already is enough.{besides}")
        } else {
            format!("{one_bowl} of {kind}: {laid}.{besides}")
        },
        ..step(StepKind::LayOut, "Wash hands, weigh the salt, lay out tools", minutes(LAY_OUT))
    }];
    if recipe.cut.family == Family::Bird {
        steps.push(Step {
            detail: "Look into both ends: neck, giblets and any bag come out. Keep the neck and giblets cold for the gravy.".into(),
            ..step(StepKind::Giblets, "Giblets out", minutes(GIBLETS))
        });
    }
    steps.push(Step {
        needs: vec!["paper towels".into()],
        detail: "Press, do not wipe; a second towel for what the first left. Never wash it.".into(),
        ..step(StepKind::Dry, "Dry it firmly, twice", minutes((DRY + more * DRY_EACH_MORE).ceil()))
    });
    steps.extend(opened);
    if recipe.method.loosens(recipe.cut) {
        steps.push(Step {
            detail: "Fingers between skin and breast from the neck end; do not tear it.".into(),
            ..step(StepKind::Loosen, "Loosen the breast skin", minutes(LOOSEN))
        });
    }
    let mut salting = vec![if nothing {
        "No salt goes on now: what is on it already is enough.".to_owned()
    } else {
        format!("{}. Press it on.", words::capital(&laid))
    }];
    steps.extend(recipe.sauces.iter().flat_map(sauce_tasks));
    // Under a bed it is salted at once; a draw and a crust come later, on a dry skin.
    let bed = recipe.cover.filter(|plan| plan.cover.kind == CoverKind::Bed);
    if bare && bed.is_none() {
        salting.push("The skin stays clean and dry.".into());
    }
    steps.push(Step {
        figure: Some(figure(weigh, "g")),
        needs: vec!["the weighed bowls".into()],
        detail: salting.join(" "),
        ..step(StepKind::Salt, how, minutes(SALT + more * SALT_EACH_MORE))
    });
    steps.extend(bed.map(cover_on));
    steps.push(Step {
        hands: Hands::Clean,
        detail: "Soap, before the refrigerator door is touched. Wipe the board down.".into(),
        ..step(StepKind::Wash, "Wash your hands", minutes(WASH))
    });
    steps
}

fn cold(recipe: &Recipe) -> Step {
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

/// A sauce goes on; a bath is gone into and out of again.
fn sauce_tasks(sauce: &Sauce) -> Vec<Step> {
    let bowl = || Some(figure(words::g(sauce.weight), "g"));
    let Some(bath) = sauce.bath else {
        return vec![Step {
            figure: bowl(),
            detail: format!("{} over the {}: it brings {} g of salt.", words::capital(&sauce.what), sauce.faces, words::g(sauce.salt)),
            ..step(StepKind::Season, "The sauce on", minutes(SEASON))
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
        Step {
            needs: vec!["paper towels".into()],
            detail: "Let it drip off, then dry it firmly. What it lay in is raw: throw it away, or boil it.".into(),
            ..step(StepKind::Drain, "Out of the bath, dry it", minutes(DRAIN))
        },
    ]
}

/// What is weighed out for a cover, beside the salt.
fn cover_bowl(plan: &CoverPlan) -> String {
    format!(" For {} {} g besides.", plan.cover.kind.name(), words::g(plan.cover.laid))
}

/// Salt on the skin as a tool goes on at its hour.
pub(super) fn cover_on(plan: &CoverPlan) -> Step {
    let (left, on) = (words::g(plan.cover.left), plan.on);
    let (title, detail, takes, hands_on, phase) = match plan.cover.kind {
        CoverKind::Draw => (
            format!("Salt on the {on}, to draw"),
            format!("On the dry {on}, evenly, for a quarter of an hour: beads of water stand on it when it has drawn."),
            DRAW,
            DRAW_ON,
            Phase::After,
        ),
        CoverKind::Crust => (
            format!("Bury the {on} in salt"),
            format!("Pat it flat over the dry {on}, right to the edges and not over them. It goes into the heat with it."),
            COVER,
            COVER,
            Phase::After,
        ),
        CoverKind::Bed => (
            format!("Lay it {on} down on the salt"),
            format!("Spread it in the tray and lay the piece on it, {on} down, with its weight on top. About {left} g stay behind."),
            COVER,
            COVER,
            Phase::Before,
        ),
    };
    Step {
        phase,
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

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::Cut;
    use crate::plan::{PlanRequest, make_plan};
    use crate::units::grams;

    /// Every cut's own method writes steps that hang together: hands are washed between raw meat and the
    /// refrigerator door, poultry lies lowest, skin rests open, and the piece ends on the table.
    #[test]
    fn steps_of_every_cut_keep_the_kitchens_rules() {
        for cut in Cut::all() {
            let weight = grams(f64::midpoint(cut.typical_g.0, cut.typical_g.1));
            let plan = make_plan(&PlanRequest::new(cut, weight, "2026-12-10T09:00[Europe/Vienna]".parse().unwrap())).unwrap();
            let kinds: Vec<StepKind> = plan.steps.iter().map(|s| s.step.kind).collect();
            let place = |kind| kinds.iter().position(|k| *k == kind);
            assert!(place(StepKind::Salt) < place(StepKind::Wash) && place(StepKind::Wash) < place(StepKind::Chill), "{}", cut.id);
            assert!(place(StepKind::Dry) < place(StepKind::Salt), "{}: dried before it is salted", cut.id);
            // The row ends on the table; what is left goes back into the cold after the meal.
            let row = plan.steps.iter().rfind(|s| s.step.phase != Phase::Beside).unwrap();
            assert_eq!((row.step.kind, kinds.last()), (StepKind::Carve, Some(&StepKind::Leftovers)), "{}", cut.id);
            let step = |kind| plan.steps.iter().map(|s| &s.step).find(|s| s.kind == kind);
            assert_eq!(step(StepKind::Pierce).is_some(), cut.has_fat_window(), "{}", cut.id);
            let chill = step(StepKind::Chill).unwrap();
            assert_eq!(chill.detail.contains("lowest shelf"), cut.species == Species::Poultry, "{}", cut.id);
            assert_eq!(step(StepKind::Rest).unwrap().detail.contains("Rest open"), cut.skin_mm > 0.0, "{}", cut.id);
            assert_eq!(step(StepKind::Temper).is_none(), cut.species == Species::Poultry, "{}: straight from the cold", cut.id);
            assert!(plan.steps.iter().all(|s| s.step.hands_on <= s.step.takes || s.step.kind == StepKind::Chill), "{}", cut.id);
        }
    }
}
