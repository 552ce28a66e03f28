//! Schools that go by their heat: braised, smoked, over direct heat; and the two that turn the order of salt and cold round.
//! Source: TRADE 7, 9.

use super::super::kind::StepKind;
use super::super::rows::row;
use super::super::school::{Says, School};
use super::writing::{
    after, all, at, cuts, first, is_bird, on, out_of_the_cold, preheat, rested, salted_into_the_cold, school, stages, to_the_table,
};
use crate::ask::{FinishAsk, FireRequest, SkinAsk, StageAsk};
use crate::fire::{HeatSource, How, Look, StageEnd};
use crate::piece::Cut;
use crate::skin::{CoverWork, MeatSide, Pattern};
use crate::units::{celsius, hours, millimetres, minutes};

pub(super) fn grooved_braise() -> School {
    let tasks = all([
        first(),
        vec![row(StepKind::Groove)],
        salted_into_the_cold(),
        out_of_the_cold(),
        vec![
            row(StepKind::Heat).titled("Brown it all round"),
            row(StepKind::MakeBrine).titled("Make the liquid").beside("chill"),
            row(StepKind::Heat),
        ],
        vec![row(StepKind::Gravy).beside("carve")],
        rested(),
    ]);
    let why = "grooves take the salt in deeper; browned first, then simmered in liquid until a fork meets no resistance";
    let sear = StageAsk { flip: Some(minutes(3.0)), ..on(HeatSource::Pan, at(220.0, How::Direct, after(12.0))) };
    let braise = at(160.0, How::InLiquid, StageEnd::Look(Look::Tender));
    let meat = Some(MeatSide::Grooves { spacing: millimetres(30.0), depth: millimetres(6.0) });
    let knife = Some(SkinAsk { cover: Some(CoverWork::Whole), meat, ..SkinAsk::default() });
    let joints = ["pork-butt", "pork-picnic", "lamb-shoulder", "beef-round-roast", "beef-short-rib", "beef-short-rib-boned"];
    school("grooved-braise", "grooved, browned, braised", why, cuts(&joints), tasks)
        .saying(Says { knife, fire: stages(vec![sear, on(HeatSource::Oven, braise)]), ..Says::default() })
        .not_for(
            &[(is_bird, "a bird falls apart in liquid before its legs are tender")],
            "it is tender without a braise, and dry after one",
        )
}

/// Cooked a day ahead: the liquid and its fat part overnight, and nobody waits for a fork while guests sit (common practice; the cold
/// and the second heat: USDA FSIS, leftovers).
pub(super) fn braised_ahead() -> School {
    let tasks = all([
        first(),
        salted_into_the_cold(),
        out_of_the_cold(),
        vec![
            row(StepKind::Heat).titled("Brown it all round"),
            row(StepKind::MakeBrine).titled("Make the liquid").beside("chill"),
            row(StepKind::Heat),
            row(StepKind::Cool),
            row(StepKind::ChillCooked),
            row(StepKind::HeatAgain),
            row(StepKind::Gravy).beside("carve"),
        ],
        rested(),
    ]);
    let why = "braised a day ahead and chilled: the fat lifts off, the meat slices cleanly, and on the day it is only heated again";
    let sear = StageAsk { flip: Some(minutes(3.0)), ..on(HeatSource::Pan, at(220.0, How::Direct, after(12.0))) };
    let braise = on(HeatSource::Oven, at(160.0, How::InLiquid, StageEnd::Look(Look::Tender)));
    let again = on(HeatSource::Oven, at(150.0, How::InLiquid, StageEnd::Finish));
    let fire = FireRequest { again: Some(again), ..stages(vec![sear, braise]) };
    let joints = ["pork-butt", "pork-picnic", "lamb-shoulder", "beef-round-roast", "beef-short-rib", "beef-short-rib-boned"];
    school("braised-ahead", "braised a day ahead", why, cuts(&joints), tasks)
        .hours(4.0, 12.0, 24.0)
        .saying(Says { fire, ..Says::default() })
        .not_for(
            &[(is_bird, "a bird falls apart in liquid before its legs are tender")],
            "it is tender without a braise, and dry after one",
        )
}

pub(super) fn strips_direct() -> School {
    let tasks = all([
        first(),
        vec![row(StepKind::Strips), row(StepKind::Salt), row(StepKind::Wash), row(StepKind::Temper), row(StepKind::BrushDry), preheat()],
        to_the_table(),
    ]);
    let why = "strips along the grain cook evenly over coals and are carved across it; salted while the coals come up";
    let direct = StageAsk { flip: Some(minutes(4.0)), ..at(215.0, How::Direct, StageEnd::Finish) };
    let fire = FireRequest { with: Some(HeatSource::Charcoal), temper: Some(minutes(50.0)), ..stages(vec![direct]) };
    school("strips-direct", "strips over direct heat", why, cuts(&["beef-rump-cap", "beef-rump-cap-strips", "pork-rump-cap"]), tasks)
        .same_day()
        .saying(Says { fire, ..Says::default() })
        .not_for(
            &[(is_bird, "a bird is not cut into strips"), (|cut| cut.skin_mm > 0.0, "skin burns over direct heat before it puffs")],
            "it has no fat cap to run over the strips, or is thin enough as it is",
        )
}

pub(super) fn wrapped_smoke() -> School {
    let tasks = all([first(), vec![row(StepKind::Score)], salted_into_the_cold(), out_of_the_cold(), to_the_table()]);
    let why = "two hours open in the smoke for colour, then wrapped until it pulls apart, then held hot: tender, never crisp";
    let score = CoverWork::Score { pattern: Pattern::Crosshatch, spacing: millimetres(25.0), direction: 0.0 };
    let fire = FireRequest {
        with: Some(HeatSource::Smoker),
        finish: Some(FinishAsk::Core(celsius(94.0))),
        hold: Some((hours(0.0), hours(4.0))),
        ..stages(vec![at(135.0, How::Open, after(120.0)), at(135.0, How::Wrapped, StageEnd::Finish)])
    };
    let knife = Some(SkinAsk { cover: Some(score), ..SkinAsk::default() });
    school("wrapped-smoke", "wrapped slow smoke", why, cuts(&["pork-butt", "pork-picnic", "lamb-shoulder"]), tasks)
        .saying(Says { knife, fire, ..Says::default() })
        .not_for(&[(is_bird, "a bird is dry long before it would pull apart")], "it has too little fat and sinew to pull apart")
}

pub(super) fn no_cold_rest() -> School {
    let tasks = all([
        first(),
        vec![preheat(), row(StepKind::Temper), row(StepKind::Loosen), row(StepKind::Salt), row(StepKind::Wash)],
        to_the_table(),
    ]);
    let why = "salted and straight on to the heat: seasoned outside only, and better than waiting half the time it would take";
    school("no-cold-rest", "salted just before the heat", why, Cut::all().collect(), tasks).same_day()
}

pub(super) fn salt_after_cold() -> School {
    let tasks = all([
        first(),
        vec![
            row(StepKind::Loosen),
            row(StepKind::Wash),
            row(StepKind::Chill).titled("Into the refrigerator, unsalted"),
            preheat(),
            row(StepKind::Temper),
            row(StepKind::Salt),
        ],
        to_the_table(),
    ]);
    let why = "the surface dries in the cold first and browns fast; salt goes on at the last moment and stays outside";
    school("salt-after-cold", "salted after a dry rest", why, Cut::all().collect(), tasks).crackling()
}
