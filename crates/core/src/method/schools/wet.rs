//! Pastes, marinades, and what goes deep into the meat. Source: TRADE 7, 11.

use super::super::kind::StepKind;
use super::super::rows::row;
use super::super::school::{Says, School, TaskRow};
use super::writing::{after, all, at, cuts, first, is_bird, mix, on, preheat, rested, school, stages, to_the_table};
use crate::ask::{FireRequest, MixUse, SkinAsk, StageAsk};
use crate::fire::{HeatSource, How, Look, Resting, StageEnd};
use crate::skin::MeatSide;
use crate::skin::drying::FridgePlacement;
use crate::units::{hours, millimetres, minutes};

const GARLIC_PASTE: &str = "30 g fine sea salt; 40 g garlic; 40 g oil; 12 g rosemary; 8 g black pepper; for 3 kg";
const SOUR_PASTE: &str = "30 g fine sea salt; 60 g garlic; 60 g vinegar; 20 g oil; 6 g cumin; 6 g oregano; for 3 kg";
const MARINADE: &str = "150 g soy sauce; 200 g orange juice; 100 g water; 40 g brown sugar; 30 g garlic; 10 g ginger; for 2 kg";

/// What lies close round a piece has to come off before the heat.
fn wiped() -> TaskRow {
    row(StepKind::Drain)
        .titled("Out of it, wipe it off")
        .saying("What scorches comes off, above all garlic and herbs; what it lay in is raw.")
}

fn rubbed_in(title: &'static str) -> TaskRow {
    row(StepKind::Salt).titled(title).warning("raw-paste")
}

const FRESH_MEAT: [&str; 17] = [
    "pork-loin-rack",
    "pork-loin-steak",
    "pork-chop",
    "pork-rump-cap",
    "pork-butt",
    "beef-rump-cap",
    "beef-rib-roast",
    "beef-rib-roast-bone-in",
    "beef-round-roast",
    "beef-sirloin-roast",
    "beef-short-rib",
    "beef-short-rib-boned",
    "lamb-shoulder",
    "lamb-leg",
    "chicken-whole",
    "chicken-flattened",
    "turkey-flattened",
];

pub(super) fn paste() -> School {
    let tasks = all([
        first(),
        vec![
            row(StepKind::Loosen),
            rubbed_in("Rub the paste in"),
            row(StepKind::Wash),
            row(StepKind::Chill),
            preheat(),
            row(StepKind::Temper),
        ],
        to_the_table(),
    ]);
    let why = "salt, garlic and herbs go on as one: the paste is weighed, its salt counted, and it stays on";
    let says = Says { mix: mix("garlic and herb paste", GARLIC_PASTE), lies: Some(FridgePlacement::Covered), ..Says::default() };
    school("paste", "herb paste", why, cuts(&FRESH_MEAT), tasks).hours(8.0, 24.0, 48.0).saying(says).not_for(
        &[(|cut| cut.has_fat_window(), "paste keeps skin wet: it will not crackle")],
        "so thin a piece, or so large a bird, wants its salt by itself",
    )
}

pub(super) fn boxed_paste() -> School {
    let tasks = all([
        first(),
        vec![
            rubbed_in("Rub the wet paste in"),
            row(StepKind::Wash),
            row(StepKind::Chill),
            row(StepKind::Turn).at(12.0),
            preheat(),
            wiped(),
            row(StepKind::Temper),
            row(StepKind::Heat),
            row(StepKind::Baste).beside("heat"),
        ],
        rested(),
    ]);
    let why = "a sour wet paste and a day and a half in a closed box flavour pieces of leg and shoulder all round";
    let boxes = ["pork-butt", "pork-picnic", "pork-leg", "lamb-shoulder", "lamb-leg"];
    let says = Says { mix: mix("sour garlic paste", SOUR_PASTE), lies: Some(FridgePlacement::Boxed), ..Says::default() };
    school("boxed-paste", "boxed paste", why, cuts(&boxes), tasks)
        .hours(24.0, 30.0, 36.0)
        .saying(says)
        .not_for(&[(is_bird, "a day and a half in acid makes a bird mealy")], "it is written for leg and shoulder")
}

pub(super) fn marinade() -> School {
    let tasks = all([
        first(),
        vec![
            rubbed_in("The marinade over it"),
            row(StepKind::Wash),
            row(StepKind::Chill).titled("Into the refrigerator, in its marinade"),
            preheat(),
            wiped(),
            row(StepKind::Temper),
        ],
        to_the_table(),
    ]);
    let why = "flavour over the outside, and no more salt than diffusion lets in; an hour for thin pieces, two days for a roast";
    let bath = mix("soy and citrus marinade", MARINADE).map(|used| MixUse { bath: Some(hours(12.0)), ..used });
    let says = Says { mix: bath, lies: Some(FridgePlacement::Boxed), ..Says::default() };
    school("marinade", "marinade", why, cuts(&FRESH_MEAT), tasks).hours(1.0, 12.0, 48.0).saying(says).not_for(
        &[(|cut| cut.has_fat_window(), "a marinade keeps skin wet: it will not crackle")],
        "it dries out before a marinade has done anything for it",
    )
}

pub(super) fn stuffed_slits() -> School {
    let tasks = all([
        first(),
        vec![
            row(StepKind::Slit),
            rubbed_in("Paste into the slits and over it")
                .saying("Half of it into the slits, to the bottom of each; the rest over the outside."),
            row(StepKind::Wash),
            row(StepKind::Chill),
            preheat(),
            row(StepKind::Temper),
        ],
        to_the_table(),
    ]);
    let why = "slits carry paste to where no salt gets by itself; three stages brown it, make it tender and crisp what is outside";
    let fire = stages(vec![
        at(220.0, How::Open, after(20.0)),
        at(160.0, How::Covered, StageEnd::Look(Look::Tender)),
        at(200.0, How::Open, after(15.0)),
    ]);
    let says = Says { mix: mix("garlic and herb paste", GARLIC_PASTE), lies: Some(FridgePlacement::Covered), fire, ..Says::default() };
    school("stuffed-slits", "stuffed slits", why, cuts(&["pork-butt", "pork-picnic", "lamb-shoulder"]), tasks)
        .hours(12.0, 24.0, 48.0)
        .saying(says)
        .not_for(
            &[(is_bird, "slits through a bird’s skin let it tear")],
            "it is eaten pink or sliced: slits would have to be cooked through",
        )
}

pub(super) fn spiked_loin() -> School {
    let pan = |c, how, until, flip: Option<f64>| StageAsk { flip: flip.map(minutes), ..on(HeatSource::Pan, at(c, how, until)) };
    let tasks = all([
        first(),
        vec![
            row(StepKind::Spike)
                .saying("A narrow cut every 3 cm (1¼ in), a sliver of garlic rolled in pepper pushed in to the end. No longer intact."),
            row(StepKind::Salt),
            row(StepKind::Wash),
            row(StepKind::Chill),
            preheat(),
            row(StepKind::Temper),
            row(StepKind::BrushDry),
        ],
        to_the_table(),
    ]);
    let why = "garlic inside and a brown crust outside, all in one heavy pan";
    let fire = FireRequest {
        with: Some(HeatSource::Pan),
        resting: Some(Resting::Tented),
        ..stages(vec![pan(200.0, How::Direct, after(10.0), Some(2.0)), on(HeatSource::Oven, at(160.0, How::Covered, StageEnd::Finish))])
    };
    let loins = ["pork-loin-rack", "pork-rump-cap", "beef-round-roast", "beef-sirloin-roast", "lamb-leg"];
    school("spiked-loin", "spiked loin in a pan", why, cuts(&loins), tasks)
        .hours(8.0, 24.0, 48.0)
        .saying(Says { fire, ..Says::default() })
        .not_for(
            &[(is_bird, "a bird is not spiked: its skin would tear"), (|cut| cut.skin_mm > 0.0, "skin does not crisp in a covered pan")],
            "it is too thin to be spiked, or too large for a pan",
        )
}

pub(super) fn lattice_slab() -> School {
    let lattice = MeatSide::Lattice { spacing: millimetres(20.0), beyond: millimetres(1.5) };
    let tasks = all([
        first(),
        vec![
            row(StepKind::Groove),
            rubbed_in("The marinade over it"),
            row(StepKind::Wash),
            row(StepKind::Chill).titled("Into the refrigerator, in its marinade"),
            preheat(),
            wiped(),
        ],
        to_the_table(),
    ]);
    let why = "cut half through from both sides, a very tough slab chews like a tender one, and an hour of marinade gets into every cut";
    let bath = mix("soy and citrus marinade", MARINADE).map(|used| MixUse { bath: Some(hours(1.0)), ..used });
    let direct = StageAsk { flip: Some(minutes(3.0)), ..at(220.0, How::Direct, StageEnd::Finish) };
    let says = Says {
        mix: bath,
        lies: Some(FridgePlacement::Boxed),
        knife: Some(SkinAsk { cover: Some(crate::skin::CoverWork::Whole), meat: Some(lattice), ..SkinAsk::default() }),
        fire: FireRequest { with: Some(HeatSource::Charcoal), ..stages(vec![direct]) },
        ..Says::default()
    };
    school("lattice-slab", "lattice-cut slab", why, cuts(&["beef-short-rib-boned"]), tasks)
        .hours(1.0, 1.0, 12.0)
        .saying(says)
        .not_for(&[(is_bird, "a bird has no slab to cut")], "it is tender enough whole, or has bones in the knife’s way")
}
