//! Tasks that are said as they stand: nothing in them is computed. Source: TRADE 2, 8.2, 11.

use super::kind::StepKind;
use super::task::{Hands, Place};
use crate::piece::Reshape;

/// A task as it usually goes.
#[derive(Debug)]
pub(crate) struct PlainTask {
    pub kind: StepKind,
    pub title: &'static str,
    /// Shortest, usual, longest, min (our estimate).
    pub minutes: [f64; 3],
    pub hands: Hands,
    pub place: Place,
    pub needs: &'static [&'static str],
    pub detail: &'static str,
    pub shape: Option<Reshape>,
    pub opens_lean: bool,
    /// Cautions that belong to it.
    pub cautions: &'static [&'static str],
    /// What it is done beside, where it stands in no row.
    pub beside: Option<Side>,
}

/// Where a job stands that takes no time of the row.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Side {
    /// While it lies in the cold.
    Cold,
    /// In the first half hour of the heat.
    Heat,
    /// While it rests.
    Rest,
}

const RAW: PlainTask = PlainTask {
    kind: StepKind::Trim,
    title: "",
    minutes: [1.0, 2.0, 5.0],
    hands: Hands::Raw,
    place: Place::Bench,
    needs: &[],
    detail: "",
    shape: None,
    opens_lean: false,
    cautions: &[],
    beside: None,
};

const PLAIN: &[PlainTask] = &[
    PlainTask {
        kind: StepKind::Unpack,
        title: "Unpack it, and let it air",
        minutes: [1.0, 2.0, 5.0],
        needs: &["scissors"],
        detail: "The wrapping and its pad are raw: into the bin. A shut-in smell goes within minutes; one that stays is a reason not to eat it.",
        cautions: &["raw-waste"],
        ..RAW
    },
    PlainTask {
        kind: StepKind::Trim,
        title: "Trim and square it",
        minutes: [10.0, 10.0, 20.0],
        needs: &["sharp knife"],
        detail: "Chine bone, silver skin, glands and flaps off; the dose is on what is left, so weigh it again. Trimmings you keep are ground meat once they are minced: 71 °C (160 °F).",
        cautions: &["trimmings"],
        ..RAW
    },
    PlainTask {
        kind: StepKind::Portion,
        title: "Cut it into portions",
        minutes: [2.0, 5.0, 10.0],
        needs: &["sharp knife"],
        detail: "Across the grain, each as thick as the next: time follows the thickest.",
        ..RAW
    },
    PlainTask {
        kind: StepKind::Strips,
        title: "Cut it into strips",
        minutes: [2.0, 5.0, 10.0],
        needs: &["sharp knife"],
        detail: "Along the grain, about 38 mm (1½ in) wide, each with its fat on one side; it is carved across the grain.",
        shape: Some(Reshape::Strips),
        ..RAW
    },
    PlainTask {
        kind: StepKind::Split,
        title: "Split it",
        minutes: [2.0, 5.0, 10.0],
        needs: &["long sharp knife"],
        detail: "Flat through the middle, two of half the thickness.",
        shape: Some(Reshape::Split),
        ..RAW
    },
    PlainTask {
        kind: StepKind::Stretch,
        title: "Pull the skin flat",
        minutes: [1.0, 3.0, 5.0],
        detail: "Lay it square and pull the skin out to its corners: folds stay wet.",
        ..RAW
    },
    PlainTask {
        kind: StepKind::Tie,
        title: "Tie it",
        minutes: [5.0, 10.0, 20.0],
        needs: &["kitchen string", "scissors"],
        detail: "Every 3 cm (1¼ in), snug and no more, so that one thickness rules.",
        shape: Some(Reshape::Tied),
        ..RAW
    },
    PlainTask {
        kind: StepKind::Scald,
        title: "Scald the skin",
        minutes: [3.0, 5.0, 10.0],
        needs: &["kettle", "rack over the sink"],
        detail: "Ladle boiling water over the skin until it draws tight, then dry it at once: only the skin is to cook.",
        cautions: &["scald"],
        ..RAW
    },
    PlainTask {
        kind: StepKind::Slit,
        title: "Cut deep slits",
        minutes: [3.0, 5.0, 10.0],
        needs: &["narrow knife"],
        detail: "Every 4 cm (1½ in), as deep as two thirds of the thickness, a finger wide inside. Count them.",
        opens_lean: true,
        ..RAW
    },
    PlainTask {
        kind: StepKind::Spike,
        title: "Spike it",
        minutes: [5.0, 10.0, 15.0],
        needs: &["narrow knife"],
        detail: "A narrow cut every 3 cm (1¼ in), a sliver pushed in to the end. No longer intact.",
        opens_lean: true,
        ..RAW
    },
    PlainTask {
        kind: StepKind::Coat,
        title: "Coat it",
        minutes: [1.0, 3.0, 5.0],
        needs: &["a brush or a spoon"],
        detail: "Mustard, yoghurt or a paste without salt, thin and all over; what is salty in it is said beside the salt.",
        cautions: &["raw-paste"],
        ..RAW
    },
    PlainTask {
        kind: StepKind::Weight,
        title: "Put the weight on",
        minutes: [1.0, 2.0, 3.0],
        needs: &["a flat tray and 2 kg on it"],
        detail: "A flat tray with about 2 kg on it, all of the skin pressed down.",
        ..RAW
    },
    PlainTask {
        kind: StepKind::Skewer,
        title: "Two skewers, and hooks",
        minutes: [2.0, 3.0, 5.0],
        needs: &["2 skewers", "2 hooks"],
        detail: "Two skewers through the meat side near one end, a hook under each, so that it hangs straight and cannot turn.",
        cautions: &["skewers", "home-made-tools", "hangs-cold"],
        ..RAW
    },
    PlainTask {
        kind: StepKind::SeasonAgain,
        title: "Season once more",
        minutes: [1.0, 3.0, 5.0],
        detail: "Pepper, seed or spice, without salt: that is weighed.",
        ..RAW
    },
    PlainTask {
        kind: StepKind::Roll,
        title: "Roll it up",
        minutes: [3.0, 5.0, 10.0],
        detail: "Tight, the skin outside all round and no flap of it inside.",
        shape: Some(Reshape::Rolled),
        opens_lean: true,
        ..RAW
    },
    PlainTask {
        kind: StepKind::Stuff,
        title: "Stuff it",
        minutes: [5.0, 10.0, 15.0],
        needs: &["a clean spoon"],
        detail: "Loosely, just before the heat; the stuffing is warm through at 74 °C (165 °F), read in its middle.",
        shape: Some(Reshape::Stuffed),
        cautions: &["stuffing"],
        ..RAW
    },
    PlainTask {
        kind: StepKind::Aromatics,
        title: "Herbs or fruit into it",
        minutes: [1.0, 2.0, 5.0],
        detail: "A handful and no more, so that hot air still goes through. They are not eaten.",
        cautions: &["aromatics"],
        ..RAW
    },
    PlainTask {
        kind: StepKind::AromaticsOut,
        title: "Herbs or fruit out of it",
        minutes: [1.0, 2.0, 3.0],
        hands: Hands::Clean,
        place: Place::Table,
        needs: &["tongs"],
        detail: "Into the bin: they have lain in raw juice.",
        ..RAW
    },
    PlainTask {
        kind: StepKind::Brush,
        title: "Brush it",
        minutes: [1.0, 2.0, 3.0],
        needs: &["brush"],
        detail: "Thinly and evenly; the brush is raw from now on.",
        ..RAW
    },
    PlainTask {
        kind: StepKind::Oil,
        title: "Oil it",
        minutes: [1.0, 1.0, 3.0],
        needs: &["oil in a small bowl"],
        detail: "A film, rubbed in; what is left in the bowl is raw.",
        ..RAW
    },
    PlainTask {
        kind: StepKind::Collar,
        title: "Foil round its sides",
        minutes: [2.0, 3.0, 5.0],
        needs: &["foil"],
        detail: "A collar as high as the meat, the skin open above it.",
        cautions: &["salt-on-foil"],
        ..RAW
    },
    PlainTask {
        kind: StepKind::Refill,
        title: "Fill the bare spots",
        minutes: [1.0, 2.0, 3.0],
        detail: "Where skin shows through, a little more of the same salt.",
        ..RAW
    },
    PlainTask {
        kind: StepKind::Mount,
        title: "Mount it on the spit, and balance",
        minutes: [3.0, 5.0, 10.0],
        needs: &["spit and forks"],
        detail: "Through the middle of its weight; turned by hand it stays where it is let go. Tighten the screws again once it is hot.",
        ..RAW
    },
    PlainTask {
        kind: StepKind::MakeBrine,
        title: "Make the liquid",
        minutes: [5.0, 10.0, 20.0],
        hands: Hands::Clean,
        detail: "Warm only what has to dissolve; cold before any meat goes in.",
        beside: Some(Side::Cold),
        ..RAW
    },
    PlainTask {
        kind: StepKind::MakeGlaze,
        title: "Make the glaze",
        minutes: [5.0, 10.0, 20.0],
        hands: Hands::Clean,
        place: Place::Fire,
        needs: &["small pan"],
        detail: "Boil it until it coats a spoon, and set half of it aside clean: a brush that has touched the meat never goes into that half. Too thick to brush, it wants a spoon of warm water.",
        beside: Some(Side::Heat),
        ..RAW
    },
    PlainTask {
        kind: StepKind::Gravy,
        title: "Make the gravy",
        minutes: [5.0, 10.0, 15.0],
        hands: Hands::Clean,
        place: Place::Table,
        needs: &["small pan"],
        detail: "Fat off, what is left brought to the boil. It holds salt from the meat: taste before any more goes in. It parts as it stands: stir it before it is poured.",
        beside: Some(Side::Rest),
        ..RAW
    },
];

/// What is usual of a task of this kind; `None` where it is computed.
pub(crate) fn plain(kind: StepKind) -> Option<&'static PlainTask> {
    PLAIN.iter().find(|task| task.kind == kind)
}

/// What a task of this kind is called where nobody says otherwise, in a few words.
pub fn usual_title(kind: StepKind) -> &'static str {
    match kind {
        StepKind::Thaw => "Thaw it",
        StepKind::LayOut => "Wash hands, weigh the salt, lay out tools",
        StepKind::Giblets => "Giblets out",
        StepKind::Dry => "Dry it firmly",
        StepKind::Score => "Score it",
        StepKind::Pierce => "Pierce the skin",
        StepKind::Groove => "Cut into the meat side",
        StepKind::Loosen => "Loosen the breast skin",
        StepKind::Marinate => "Into the bath",
        StepKind::Drain => "Out of the bath, dry it",
        StepKind::Season => "The sauce on",
        StepKind::Salt => "The salt on",
        StepKind::CoverOn => "Salt on the skin",
        StepKind::Wash => "Wash your hands",
        StepKind::Chill => "Into the refrigerator",
        StepKind::Preheat => "The heat comes up",
        StepKind::Temper => "Out of the refrigerator",
        StepKind::CoverOff => "The salt off the skin",
        StepKind::BrushDry => "Brush off, dry again",
        StepKind::Heat | StepKind::Roast | StepKind::Grill | StepKind::Sear => "Into the heat",
        StepKind::Rest => "Out of the heat, rest",
        StepKind::Hold => "Hold it warm",
        StepKind::Carve => "Carve, and to the table",
        StepKind::Turn => "Turn it",
        StepKind::Wipe => "Wipe the skin dry",
        StepKind::Wrap => "Wrap it",
        StepKind::Uncover => "Unwrap it",
        StepKind::Shield => "Shield what is done",
        StepKind::Look => "Look at it",
        StepKind::Baste => "Baste it",
        StepKind::Glaze => "Glaze it",
        StepKind::Scrape => "Scrape scorched spots off",
        StepKind::TopUpLiquid => "Fill up the liquid",
        StepKind::OpenLid => "Open it for a moment",
        StepKind::FeedCoals => "Feed the coals",
        StepKind::Wood => "Wood on",
        StepKind::Vents => "Set the vents",
        StepKind::WaterPan => "A pan of water under it",
        StepKind::ReadAir => "Read the air beside the meat",
        StepKind::LayIn => "Lay the thinner ones in",
        StepKind::ChangeWater => "Change the water",
        StepKind::SliceTest => "Taste one slice",
        StepKind::BonesOut => "Draw the bones",
        StepKind::PullApart => "Pull it apart",
        StepKind::Leftovers => "Leftovers into the cold",
        StepKind::Cool => "Out of the heat, let it cool",
        StepKind::ChillCooked => "Into the refrigerator, cooked",
        StepKind::HeatAgain => "Heat it again",
        said => plain(said).map_or("", |task| task.title),
    }
}

/// Whether a task of this kind is said as it stands: nothing in it is computed.
pub fn is_said_as_it_stands(kind: StepKind) -> bool {
    plain(kind).is_some()
}

/// The shape a task of this kind gives.
pub fn shape_of(kind: StepKind) -> Option<Reshape> {
    plain(kind)?.shape
}

/// Whether a task of this kind cuts into the lean or turns an outside in.
pub fn opens_lean_by(kind: StepKind) -> bool {
    plain(kind).is_some_and(|task| task.opens_lean)
}

/// Cautions that go with a task of this kind, by their codes.
pub fn usual_cautions(kind: StepKind) -> &'static [&'static str] {
    plain(kind).map_or(&[], |task| task.cautions)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_kind_is_called_something() {
        assert!(StepKind::ALL.into_iter().all(|kind| !usual_title(kind).is_empty()));
    }

    #[test]
    fn every_row_can_be_done() {
        for task in PLAIN {
            let [short, usual, long] = task.minutes;
            assert!(
                0.0 < short && short <= usual && usual <= long && !task.title.is_empty() && task.detail.ends_with('.'),
                "{:?}",
                task.kind
            );
            assert_eq!(PLAIN.iter().filter(|other| other.kind == task.kind).count(), 1, "{:?} stands twice", task.kind);
        }
        // TRADE 8.2: trim and tie 10–20 min, truss 5.
        let minutes = |kind| plain(kind).unwrap().minutes;
        assert_eq!((minutes(StepKind::Trim), minutes(StepKind::Tie)), ([10.0, 10.0, 20.0], [5.0, 10.0, 20.0]));
    }
}
