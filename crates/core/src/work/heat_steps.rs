//! The steps from the refrigerator to the table: standing out, brushing off, each stage of the heat, the rest, carving.

use super::again_steps::rest_again;
use super::aside::{Aside, left_to_stand};
use super::recipe::{Recipe, Surface};
use super::step::{Beside, Lasts, Phase, Step, figure, step};
use crate::ask::Added;
use crate::fire::{FALLS_APART_C, FIERCE, FireStage, HeatSource, How, Look, PortionHeat, Resting, StageEnd, Where, each_out};
use crate::method::{Hands, Place, StepKind};
use crate::piece::{Family, Species};
use crate::salt::CoverKind;
use crate::units::{IntervalIn, LengthIn, TemperatureIn, Time, TimeIn, minutes};
use crate::words;

/// Brushing off and drying once more (TRADE 8.2).
pub const BRUSH: f64 = 5.0;

/// Loose salt off, the surface dry once more.
pub(super) fn brush_dry(recipe: &Recipe) -> Step {
    Step {
        phase: Phase::After,
        needs: vec!["paper towels".into(), "brush".into()],
        detail: format!("Loose salt off, the {} dry once more.", recipe.surface.noun()),
        ..step(StepKind::BrushDry, "Brush off, dry again", minutes(BRUSH))
    }
}

/// Knife and board, and to the table.
pub(super) fn carve(recipe: &Recipe) -> Step {
    Step {
        phase: Phase::After,
        place: Place::Table,
        hands: Hands::Clean,
        needs: vec!["sharp knife".into(), "clean board".into()],
        detail: format!("A clean board, not the one it was salted on.{}", at_the_cut(recipe)),
        ..step(StepKind::Carve, "Carve, and to the table", minutes(if recipe.cut.family == Family::Steak { 5.0 } else { 10.0 }))
    }
}

/// What this piece wants when it is cut (common practice).
fn at_the_cut(recipe: &Recipe) -> String {
    let cut = recipe.cut;
    let mut said = String::new();
    if cut.bone_fraction > 0.0 && matches!(cut.family, Family::Rack | Family::Roast) {
        said += " The bones come off in one piece first, then it is sliced.";
    }
    match recipe.surface {
        Surface::Skin if matches!(cut.family, Family::SkinSlab | Family::Rack | Family::Joint | Family::Roast) => {
            said += " Turn it meat side up and press the knife through the skin last: from above crackling shatters. It goes on crisping while it cools.";
        }
        _ if cut.family == Family::Joint && recipe.fire.ends.in_c() >= FALLS_APART_C => {
            said += " It falls apart rather than slices: two forks, and splinters of bone out.";
        }
        Surface::Skin if cut.species == Species::Poultry => said += " Legs off first, then each breast in one piece; across the grain.",
        _ => said += " Across the grain.",
    }
    if recipe.targets.iter().any(|target| target.at == Where::Stuffing) {
        said += " Stuffing that is still pale is not raw by its colour: 74 °C (165 °F) makes it done.";
    }
    said
}

/// What a later stage goes to that nothing has heated yet, beside the stage before.
pub(super) fn heated_meanwhile(recipe: &Recipe) -> Vec<Aside> {
    let stages = recipe.heat.stages;
    let cold = |i: &usize| stages[..*i].iter().all(|before| before.with != stages[*i].with);
    let heat = |i: usize| Step { takes: minutes(stages[i].with.preheat_min()), ..preheat(recipe, i) };
    (1..stages.len()).filter(cold).map(|i| (Beside::Stage(i), heat(i))).collect()
}

/// The heat of a stage comes up beside the other work.
pub(super) fn preheat(recipe: &Recipe, stage: usize) -> Step {
    comes_hot(recipe, recipe.heat.stages.get(stage))
}

/// The same for any stage of it.
pub(super) fn comes_hot(recipe: &Recipe, first: Option<&FireStage>) -> Step {
    let air = first.map_or(0.0, |s| s.air.in_c());
    let (title, detail) = match first.map_or(HeatSource::Oven, |s| s.with) {
        HeatSource::Oven => ("Heat the oven", "Rack in the middle, a tray with a little water under it."),
        HeatSource::Grill => ("Heat the grill", "Lid down; a tray with a little water where the fat will drip."),
        HeatSource::Charcoal => {
            ("Light the charcoal", "Until it is grey all over, then to one side: one half hot, the other without coals.")
        }
        HeatSource::Spit => ("Heat the spit", "A tray with a little water under it, where the fat will drip."),
        HeatSource::Smoker => ("Light the smoker", "Until the smoke is thin and blue; a pan of water under the rack."),
        HeatSource::Pan => ("Heat the pan", "Until a drop of water dances on it."),
        HeatSource::Pot => ("Heat the pot", "With its liquid, until it simmers."),
    };
    let asked = recipe.heat.added.iter().any(|task| task.kind == StepKind::Wood);
    let wood = match first.map(|s| s.with) {
        Some(HeatSource::Charcoal | HeatSource::Smoker) if recipe.heat.no_wood => " No wood.",
        Some(HeatSource::Charcoal) if !asked && recipe.surface != Surface::Lean => " No wood: fat that drips on coals makes smoke enough.",
        _ => "",
    };
    Step {
        phase: Phase::Beside,
        hands: Hands::Clean,
        hands_on: minutes(1.0),
        figure: Some(figure(format!("{air:.0}"), "°C")),
        heat: first.map(|s| s.with),
        detail: format!("{detail}{wood}{}", first.map_or_else(String::new, |stage| dial(recipe, stage))),
        ..step(StepKind::Preheat, title, recipe.heat.preheat)
    }
}

/// Out of the refrigerator; the `work` on the bench meanwhile, in minutes, lies within that time.
pub(super) fn standing_out(recipe: &Recipe, work: f64) -> Option<Step> {
    let heat = &recipe.heat;
    let left = left_to_stand(heat.temper, work);
    // Straight from the cold, or all of it work.
    if left < 1.0 {
        return None;
    }
    let all = if heat.temper_said { words::capital(&words::span(heat.temper)) } else { "Half an hour".to_owned() };
    let draw = recipe.cover.is_some_and(|plan| plan.cover.kind == CoverKind::Draw);
    let with = if draw { " with the draw" } else { "" };
    let (title, detail) = if recipe.method.rests_in_the_cold() && recipe.comes_out() {
        ("Out of the refrigerator", format!("{all} out{with}, so that it cooks more evenly. Others cook it straight from the cold."))
    } else {
        ("Let it stand", "On the bench while the heat comes up, so that it cooks more evenly.".to_owned())
    };
    Some(Step {
        phase: Phase::After,
        hands: Hands::Clean,
        hands_on: minutes(1.0),
        detail,
        ..step(StepKind::Temper, title, minutes(left.max(1.0)))
    })
}

/// One stage of the heat.
pub(super) fn stage_step(recipe: &Recipe, i: usize, stage: &FireStage, takes: Time) -> Step {
    let place = recipe.targets.first().map_or("core", |t| t.at.id());
    let air = stage.air.in_c();
    let core = recipe.fire.cores.get(i).copied().unwrap_or(recipe.fire.pull);
    let base = Step {
        lasts: Lasts::Until,
        phase: Phase::After,
        place: Place::Fire,
        air: Some(stage.air),
        heat: Some(stage.with),
        hands: Hands::Clean,
        hands_on: minutes(2.0),
        figure: Some(figure(format!("{air:.0}"), "°C")),
        until: Some(format!("{} °C in the {place}", words::c(core))),
        ..step(StepKind::Roast, &title(i, stage), takes)
    };
    let puffs = recipe.surface == Surface::Skin && i > 0 && stage.air.in_c() >= FIERCE && recipe.method.wants.crackling;
    if !stage.own && puffs && matches!(stage.until, StageEnd::After(_) | StageEnd::Look(Look::Hollow)) {
        return Step {
            kind: StepKind::Grill,
            id: StepKind::Grill.id().into(),
            title: "Fierce, until the skin sounds hollow".into(),
            hands_on: takes,
            until: Some(Look::Hollow.words().into()),
            detail: format!(
                "Once the {place} reads {} °C: near the top, moved about; watch the last minutes from close by. The fat is hot.{}",
                words::c(recipe.fire.core_at_stage_end),
                comes_up(recipe, i, stage) + &dial(recipe, stage)
            ),
            ..base
        };
    }
    let probe = "Probe in the thickest lean, clear of bone and fat.";
    let said = if stage.guessed { " That is a guess for your word: a thermometer beside the meat knows." } else { "" };
    let lead = match stage.until {
        StageEnd::Finish | StageEnd::Core(_) => probe.to_owned(),
        StageEnd::After(_) => format!("{}; the {place} comes to about {} °C.", words::capital(&words::span(takes)), words::c(core)),
        StageEnd::Look(_) => format!("About {}, an estimate; the {place} comes to about {} °C.", words::span(takes), words::c(core)),
    };
    let kind = match (stage.until, stage.around().away) {
        (StageEnd::Look(Look::Hollow), _) => StepKind::Grill,
        (_, Some(_)) => StepKind::Sear,
        _ => StepKind::Roast,
    };
    let fixed = matches!(stage.until, StageEnd::After(_));
    Step {
        kind,
        id: kind.id().into(),
        lasts: if fixed { Lasts::Fixed } else { Lasts::Until },
        hands_on: if kind == StepKind::Roast { base.hands_on } else { takes },
        until: match stage.until {
            StageEnd::After(_) => None,
            StageEnd::Look(look) => Some(look.words().into()),
            StageEnd::Finish | StageEnd::Core(_) => base.until.clone(),
        },
        needs: if matches!(stage.until, StageEnd::Finish | StageEnd::Core(_)) { vec!["probe".into()] } else { vec![] },
        detail: format!(
            "{lead} {air:.0} °C{}.{}{said}{}",
            surrounds(stage),
            turned(recipe, i, stage),
            comes_up(recipe, i, stage) + &dial(recipe, stage)
        ),
        ..base
    }
}

fn title(i: usize, stage: &FireStage) -> String {
    let air = stage.air.in_c();
    match (stage.how, stage.with) {
        _ if !stage.own && stage.until == StageEnd::Look(Look::Hollow) => "Fierce, until the skin sounds hollow".to_owned(),
        (How::Open | How::Direct, HeatSource::Pan) => format!("Into the pan at {air:.0} °C"),
        (How::Direct, _) => format!("Over direct heat at {air:.0} °C"),
        (How::InLiquid, _) => format!("Into its liquid, {air:.0} °C"),
        (How::Covered, _) => format!("Covered, {air:.0} °C"),
        (How::Wrapped, _) => format!("Wrapped, {air:.0} °C"),
        (How::LeafWrapped, _) => format!("Wrapped in leaves, {air:.0} °C"),
        (How::Open, HeatSource::Spit) => format!("On the spit at {air:.0} °C"),
        (How::Open, _) if i == 0 => format!("Into the heat at {air:.0} °C"),
        (How::Open, _) => format!("On, open, at {air:.0} °C"),
    }
}

/// What the temperature is of.
pub(super) fn surrounds(stage: &FireStage) -> &'static str {
    match (stage.how, stage.with) {
        (How::InLiquid, HeatSource::Pot) => " under the pot; the liquid simmers and no more",
        (How::InLiquid, _) => " round the dish; the liquid simmers and no more",
        (How::Open | How::Direct, HeatSource::Pan) => " of the metal",
        (How::Direct, _) => " at the grate",
        _ => " of air",
    }
}

/// Where its dial is to stand, where that is known to be off.
pub(super) fn dial(recipe: &Recipe, stage: &FireStage) -> String {
    let stands = recipe.heat.own.dial_for(stage.with, stage.air);
    stands.map_or_else(String::new, |at| format!(" The dial at {:.0} °C: then the air beside the meat is right.", at.in_c()))
}

/// How long it takes to get there from the stage before, where that is cooler.
fn comes_up(recipe: &Recipe, i: usize, stage: &FireStage) -> String {
    let before = i.checked_sub(1).and_then(|i| recipe.heat.stages.get(i));
    before.and_then(|before| stage.comes_up_after(before)).filter(|time| time.in_min() >= 2.0).map_or_else(String::new, |time| {
        format!(" The {} takes about {:.0} min to get there, an estimate: they are in it.", stage.with.id(), time.in_min())
    })
}

fn turned(recipe: &Recipe, i: usize, stage: &FireStage) -> String {
    let here = |task: &Added| task.hung.is_some_and(|hung| hung.stage.is_none_or(|on| on == i));
    if recipe.heat.added.iter().any(|task| task.kind == StepKind::Turn && here(task)) {
        // Its own task says when.
        return String::new();
    }
    match stage.flip {
        Some(flip) => format!(" Turn it every {}.", words::span(flip)),
        None if stage.around().away.is_some() => " Not turned: one side is all the heat sees.".to_owned(),
        None => String::new(),
    }
}

pub(super) fn rest(recipe: &Recipe) -> Step {
    if let Some(again) = recipe.heat.again {
        return rest_again(recipe, again);
    }
    let open = match recipe.heat.resting {
        Some(Resting::Open) => "open",
        Some(Resting::Tented) if recipe.cut.skin_mm > 0.0 => "tented; a cover makes steam, and steam softens skin",
        Some(Resting::Tented) => "under a loose tent of foil",
        None if recipe.cut.skin_mm > 0.0 => "open: a cover makes steam, steam softens",
        None => "loosely tented if you like",
    };
    Step {
        phase: Phase::After,
        place: Place::Table,
        hands: Hands::Clean,
        hands_on: minutes(1.0),
        figure: recipe.targets.first().map(|t| figure(words::c(t.pull), t.at.reads())),
        detail: out_of_the_heat(recipe, open),
        ..step(StepKind::Rest, "Out of the heat, rest", recipe.heat.rest)
    }
}

/// Held warm, where it has to wait.
pub(super) fn hold(recipe: &Recipe) -> Option<Step> {
    let (least, most) = recipe.heat.hold?;
    let held = recipe.heat.held;
    let skin = if recipe.cut.skin_mm > 0.0 { " Skin does not stay crisp." } else { "" };
    let most =
        if most > least { format!(" It may wait up to {} in all, should it be done sooner.", words::span(most)) } else { String::new() };
    Some(Step {
        phase: Phase::After,
        place: Place::HotHold,
        lasts: Lasts::Elastic,
        hands: Hands::Clean,
        hands_on: minutes(1.0),
        needs: vec!["probe".into()],
        detail: format!("At 60 °C (140 °F) or more, with a probe in it that says so; covered.{most}{skin}"),
        ..step(StepKind::Hold, "Hold it warm", if held.in_min() > 1.0 { held } else { minutes(1.0) })
    })
}

/// At which reading it comes out, and how far it climbs from there; of portions each by itself, where they are not done together.
fn out_of_the_heat(recipe: &Recipe, open: &str) -> String {
    let said =
        |p: &PortionHeat| format!("{:.0} mm after about {:.0} min at {} °C", p.thickness.in_mm(), p.takes.in_min(), words::c(p.pull));
    let portions = each_out(recipe.heat.portions);
    let together = portions.iter().any(|portion| portion.waits.in_min() > 0.0);
    let said = |p: &PortionHeat| if together { format!("{:.0} mm at {} °C", p.thickness.in_mm(), words::c(p.pull)) } else { said(p) };
    let each: Vec<String> = portions.iter().map(said).collect();
    let each = match (each.is_empty(), together) {
        (true, _) => String::new(),
        (false, true) => format!(" All come out together, each by its own reading: {}.", each.join(", ")),
        (false, false) => format!(" Each portion at its own reading: {}.", each.join(", ")),
    };
    format!("{}{each}", the_whole_out(recipe, open))
}

/// What says that it is done.
pub(super) fn out_when(recipe: &Recipe) -> String {
    let out: Vec<String> = recipe.targets.iter().map(|t| format!("the {} reads {} °C", t.at.id(), words::c(t.pull))).collect();
    let out = out.join(" and ");
    let fork = recipe.heat.stages.last().is_some_and(|s| s.until == StageEnd::Look(Look::Tender));
    if fork { format!("a fork meets no resistance, near where {out}") } else { out }
}

fn the_whole_out(recipe: &Recipe, open: &str) -> String {
    let out = out_when(recipe);
    if recipe.fire.overshoots.is_some() {
        let ends = words::c(recipe.fire.ends);
        let why = if recipe.heat.stages.iter().any(|s| s.own) {
            "This heat carries the core past its finish: it"
        } else {
            "It is thin for this heat: when the skin is done the core"
        };
        return format!("{why} ends near {ends} °C. Out then. Rest {open}.");
    }
    if recipe.fire.short_by.is_some() {
        let finish = recipe.targets.first().map_or(recipe.fire.ends, |t| t.finish);
        let short = words::c(recipe.fire.ends);
        return format!("So short a heat leaves the core at about {short} °C, below its finish of {} °C. Rest {open}.", words::c(finish));
    }
    let (low, high) = (recipe.fire.band.0.in_kelvin(), recipe.fire.band.1.in_kelvin());
    let ends = recipe.targets.first().map_or(recipe.fire.ends, |t| t.ends.mid);
    format!(
        "Out when {out}. Rest {open}. It climbs {low:.0} to {high:.0} °C more, to about {} °C, an estimate: leave the probe in and see that it does.",
        words::c(ends)
    )
}
