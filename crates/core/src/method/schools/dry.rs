//! Dry-brines beside those for crackling. Source: TRADE 7.

use super::super::kind::StepKind;
use super::super::rows::row;
use super::super::school::{Says, School};
use super::writing::{after, all, at, cuts, first, is_bird, out_of_the_cold, salted_into_the_cold, school, stages, to_the_table};
use crate::ask::SkinAsk;
use crate::fire::{How, StageEnd};
use crate::piece::Cut;
use crate::skin::{CoverWork, Pattern};
use crate::units::millimetres;

/// Skin over fat, on a bird.
const FAT_BIRDS: [&str; 3] = ["duck-whole", "duck-breast", "goose-whole"];

pub(super) fn dry_brine() -> School {
    let tasks = all([first(), vec![row(StepKind::Loosen)], salted_into_the_cold(), out_of_the_cold(), to_the_table()]);
    let why = "no skin work: every face takes its share, the hours follow the thickness";
    school("dry-brine", "plain dry-brine", why, Cut::all().collect(), tasks).crackling()
}

pub(super) fn fat_cap() -> School {
    let tasks = all([first(), vec![row(StepKind::Score)], salted_into_the_cold(), out_of_the_cold(), to_the_table()]);
    let why = "a crosshatch in the fat and no deeper lets it run and crisp; covered first, it stays juicy under its cap";
    let score = CoverWork::Score { pattern: Pattern::Crosshatch, spacing: millimetres(20.0), direction: 0.0 };
    let caps = ["beef-rump-cap", "pork-rump-cap", "pork-loin-rack", "beef-rib-roast", "beef-rib-roast-bone-in", "pork-butt"];
    let says = Says {
        knife: Some(SkinAsk { cover: Some(score), ..SkinAsk::default() }),
        fire: stages(vec![at(180.0, How::Covered, StageEnd::Finish), at(200.0, How::Open, after(15.0))]),
        ..Says::default()
    };
    school("fat-cap", "scored fat cap, covered then open", why, cuts(&caps), tasks).saying(says).not_for(
        &[(|cut| cut.skin_mm > 0.0, "it has skin, which wants a way of its own")],
        "its fat is too thin for the knife, or lies along an edge",
    )
}

pub(super) fn bird_scored() -> School {
    let tasks = all([first(), vec![row(StepKind::Score)], salted_into_the_cold(), out_of_the_cold(), to_the_table()]);
    let why = "cuts let the fat run fastest; going too deep lets juice up";
    let score = CoverWork::Score { pattern: Pattern::Diamond, spacing: millimetres(10.0), direction: 0.0 };
    let says = Says { knife: Some(SkinAsk { cover: Some(score), ..SkinAsk::default() }), ..Says::default() };
    school("bird-scored", "scored bird", why, cuts(&FAT_BIRDS), tasks)
        .crackling()
        .saying(says)
        .not_for(&[(is_bird, "no layer of fat under its skin for a blade to stop in")], "it is written for birds with fat under their skin")
}

pub(super) fn bird_pierced() -> School {
    let tasks = all([first(), vec![row(StepKind::Pierce)], salted_into_the_cold(), out_of_the_cold(), to_the_table()]);
    let why = "holes let the fat out and keep the look of the bird; slower than cuts, and no risk to the meat";
    school("bird-pierced", "pierced bird", why, cuts(&FAT_BIRDS), tasks)
        .crackling()
        .not_for(&[(is_bird, "no layer of fat under its skin to stop in")], "it is written for birds with fat under their skin")
}
