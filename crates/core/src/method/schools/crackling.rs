//! Schools for skin that must crackle. Source: TRADE 7.

use super::super::kind::StepKind;
use super::super::rows::row;
use super::super::school::{Says, School, Shows, TaskRow};
use super::writing::{
    HOLLOW, NO_FAT, NO_SKIN, after, all, at, bare, cover, cuts, fierce, first, is_bird, no_window, on, out_of_the_cold, preheat, rested,
    salted_into_the_cold, school, stages, to_the_table,
};
use crate::ask::{FireRequest, SkinAsk};
use crate::fire::{HeatSource, How, Resting, StageEnd};
use crate::piece::Cut;
use crate::salt::{CoverKind, ledger_item};
use crate::skin::drying::FridgePlacement;
use crate::skin::{CoverWork, Lattice, MeatSide, Pattern};
use crate::units::{GramsPerKg, grams, millimetres};

/// Skin of pork over fat, on a slab.
const BELLIES: [&str; 2] = ["pork-belly", "pork-belly-rib"];
/// And on a rack or a joint.
const RINDS: [&str; 5] = ["pork-belly", "pork-belly-rib", "pork-loin-rack-skin", "pork-picnic", "pork-leg"];

fn pierced() -> Vec<TaskRow> {
    all([first(), vec![row(StepKind::Pierce)]])
}

fn dense() -> SkinAsk {
    let cover = Some(CoverWork::Pierce { lattice: Lattice::Square, per_cm2: 15.0 });
    SkinAsk { cover, ..SkinAsk::default() }
}

pub(super) fn open_air() -> School {
    let windows = Cut::all().filter(|cut| cut.has_fat_window()).collect();
    let tasks = all([pierced(), salted_into_the_cold(), out_of_the_cold(), to_the_table()]);
    let why = "most even, least salt wasted, no scrubbing: holes let the fat out, bare skin dries in the cold";
    let says = Says { bare_skin: true, ..Says::default() };
    school("open-air", "open-air", why, windows, tasks)
        .crackling()
        .hours(12.0, 24.0, 48.0)
        .saying(says)
        .not_for(&[(bare, NO_SKIN), (no_window, NO_FAT)], NO_FAT)
}

pub(super) fn short_draw() -> School {
    let draw = vec![row(StepKind::CoverOn), row(StepKind::CoverOff), row(StepKind::BrushDry)];
    let out = vec![preheat(), row(StepKind::Temper)];
    let tasks = all([pierced(), salted_into_the_cold(), out, draw, to_the_table()]);
    let why = "a quarter of an hour of salt on dry skin draws the last water out of its holes, and is blotted off";
    let says = Says { bare_skin: true, cover: Some(cover(CoverKind::Draw)), ..Says::default() };
    school("short-draw", "short draw", why, cuts(&RINDS), tasks).crackling().hours(12.0, 24.0, 48.0).saying(says).not_for(
        &[(bare, NO_SKIN), (is_bird, "a bird’s skin is too thin for salt to lie on"), (no_window, NO_FAT)],
        "its skin is too thin for salt to lie on",
    )
}

pub(super) fn same_day_crust() -> School {
    let tasks = all([
        pierced(),
        vec![
            row(StepKind::Salt).titled("Salt and spice on the meat"),
            row(StepKind::Wash),
            row(StepKind::Temper),
            row(StepKind::Collar),
            row(StepKind::CoverOn),
            preheat(),
            row(StepKind::Heat),
            row(StepKind::CoverOff),
            row(StepKind::BrushDry).titled("Brush it clean, dry the skin"),
            row(StepKind::Heat),
        ],
        rested(),
    ]);
    let why = "the skin dries under salt in the heat itself: bought in the morning, eaten in the evening";
    let fire = stages(vec![at(155.0, How::Open, after(120.0)), fierce(HOLLOW)]);
    let says = Says {
        dose: Some(GramsPerKg(5.0)),
        bare_skin: true,
        cover: Some(cover(CoverKind::Crust)),
        knife: Some(dense()),
        fire,
        ..Says::default()
    };
    school("same-day-crust", "same-day crust", why, cuts(&BELLIES), tasks).crackling().same_day().saying(says).not_for(
        &[(bare, NO_SKIN), (no_window, NO_FAT)],
        "two hours of low heat do not cook it: it is too thick, or its skin too round for a crust",
    )
}

pub(super) fn acid_soda() -> School {
    let tasks = all([
        pierced(),
        vec![
            row(StepKind::Groove),
            row(StepKind::Salt).titled("Spiced salt into the grooves"),
            row(StepKind::Brush)
                .needing(&["vinegar"])
                .titled("Vinegar on the skin")
                .saying("Two spoons of plain vinegar, thinly; wait until it has run in."),
            row(StepKind::Dry).titled("Dry the skin").saying("Acid and soda meet on wet skin and cancel: dry it first."),
            row(StepKind::Brush)
                .needing(&["baking soda"])
                .titled("Bicarbonate on the skin")
                .saying("Baking soda in a little water, brushed on thinly. It brings sodium and no salt taste.")
                .showing(Shows::Ledger),
            row(StepKind::CoverOn),
            row(StepKind::Skewer),
            row(StepKind::Wash),
            row(StepKind::Chill),
            preheat(),
            row(StepKind::Temper),
            row(StepKind::Collar),
            row(StepKind::Refill),
            row(StepKind::Heat),
            row(StepKind::CoverOff).titled("Scrape, and brush it clean"),
        ],
        rested(),
    ]);
    let why = "acid and then soda weaken the skin, so that it puffs in one steady heat; hung, it dries on every side";
    let soda = ledger_item("baking-soda").map(|item| item.used(grams(1.5)));
    let meat = Some(MeatSide::Grooves { spacing: millimetres(30.0), depth: millimetres(6.0) });
    let says = Says {
        bare_skin: true,
        cover: Some(cover(CoverKind::Scatter)),
        ledger: soda.into_iter().collect(),
        knife: Some(SkinAsk { meat, ..SkinAsk::default() }),
        lies: Some(FridgePlacement::Hung),
        fire: stages(vec![at(200.0, How::Open, after(50.0))]),
        ..Says::default()
    };
    school("acid-soda", "acid, then soda", why, cuts(&BELLIES), tasks)
        .crackling()
        .hours(12.0, 24.0, 48.0)
        .saying(says)
        .not_for(&[(bare, NO_SKIN), (no_window, NO_FAT)], "fifty minutes at 200 °C do not cook a piece so thick")
}

pub(super) fn weighted_bed() -> School {
    let tasks = all([
        first(),
        vec![
            row(StepKind::Stretch),
            row(StepKind::Pierce),
            row(StepKind::CoverOn),
            row(StepKind::Weight),
            row(StepKind::Wash),
            row(StepKind::Chill),
            preheat(),
            row(StepKind::CoverOff),
            row(StepKind::Salt).titled("Season the inside"),
            row(StepKind::Roll),
            row(StepKind::Tie),
            row(StepKind::Mount),
            row(StepKind::Heat),
        ],
        rested(),
    ]);
    let why = "a night skin down on salt draws the skin dry and flat; rolled up it crackles all round on the spit";
    let fire = FireRequest {
        with: Some(HeatSource::Spit),
        stages: Some(vec![at(170.0, How::Open, StageEnd::Finish), on(HeatSource::Spit, fierce(HOLLOW))]),
        ..FireRequest::default()
    };
    let says = Says { bare_skin: true, cover: Some(cover(CoverKind::Bed)), lies: Some(FridgePlacement::Weighted), fire, ..Says::default() };
    school("weighted-bed", "weighted bed, rolled", why, cuts(&["pork-belly"]), tasks)
        .crackling()
        .hours(8.0, 12.0, 24.0)
        .saying(says)
        .not_for(&[(bare, NO_SKIN), (no_window, NO_FAT)], "it does not roll: bones or its shape are in the way")
}

pub(super) fn scored_fierce_low() -> School {
    let tasks = all([
        first(),
        vec![
            row(StepKind::Score),
            row(StepKind::Oil),
            row(StepKind::Salt).titled("Salt and seeds into the cuts"),
            row(StepKind::Wash),
            row(StepKind::Chill),
            preheat(),
            row(StepKind::Temper),
            row(StepKind::Heat),
        ],
        rested(),
    ]);
    let why = "a fierce start puffs the skin while it is cold, a long low heat makes the meat tender; an hour is enough, a night better";
    let score = CoverWork::Score { pattern: Pattern::Parallel, spacing: millimetres(8.0), direction: 0.0 };
    let fire = FireRequest { resting: Some(Resting::Open), ..stages(vec![fierce(after(25.0)), at(165.0, How::Open, StageEnd::Finish)]) };
    let says = Says { knife: Some(SkinAsk { cover: Some(score), ..SkinAsk::default() }), fire, ..Says::default() };
    school("scored-fierce-low", "scored, fierce then low", why, cuts(&RINDS), tasks)
        .crackling()
        .hours(1.0, 12.0, 24.0)
        .saying(says)
        .not_for(
            &[(bare, NO_SKIN), (is_bird, "a bird has a way of its own with the knife"), (no_window, NO_FAT)],
            "its own heat is over before a fierce start is",
        )
}
