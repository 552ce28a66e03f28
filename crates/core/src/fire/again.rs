//! Cooked, chilled and heated again: how long that takes from cold, and how warm it has to come.

use super::body::body;
use super::carry::CarryBand;
use super::conduction::{Body, Shape};
use super::curve::{Heating, heat_curve};
use super::heat_point::HeatPoint;
use super::roast::{FireAsk, fire_plan};
use super::source::{HeatSource, How};
use super::stage::{FireStage, Resting, StageEnd, tender_after};
use super::targets::{Ends, FinishTarget, Where};
use crate::piece::{Cut, Lying};
use crate::units::{Length, LengthIn, Temperature, Time, TimeIn, celsius, fahrenheit, hours, millimetres, minutes};

/// What was cooked is heated again to 165 °F (73.9 °C) throughout (USDA FSIS, leftovers).
pub fn again_at_least() -> Temperature {
    fahrenheit(165.0)
}

/// Parts that are chilled are no thicker: shallow dishes of 2 in (USDA FSIS, leftovers).
pub const PARTS_MM: f64 = 50.0;
/// Out of the refrigerator, °C.
const FROM_C: f64 = 4.0;
/// Hours in the refrigerator, cooked: over night, a day, three days of the three to four that leftovers keep (USDA FSIS; the first two
/// our estimate: fat has set, and hands are free).
const KEPT_H: [f64; 3] = [8.0, 20.0, 72.0];
/// From the heat to the refrigerator, min: shortest, usual, longest within the two hours (USDA FSIS 2-hour rule; the usual our estimate).
pub const COOLS_MIN: [f64; 3] = [30.0, 60.0, 120.0];

/// How long it is kept cooked, where nobody says: shortest, ideal, longest.
pub fn kept_cooked() -> [Time; 3] {
    KEPT_H.map(hours)
}

/// The heat of the second time, where a way says none: an oven, covered, so that it dries no further (common practice).
pub fn usual_again() -> FireStage {
    FireStage { with: HeatSource::Oven, how: How::Covered, ..FireStage::of_a_method(celsius(150.0), StageEnd::Finish) }
}

/// A piece heated for the second time.
#[derive(Debug, Clone, PartialEq)]
pub struct Again {
    /// What heats it, until its middle is there.
    pub stage: FireStage,
    /// It lies in parts no thicker than this; `None` where the piece itself is no thicker.
    pub parts: Option<Length>,
    /// How long it takes, from the refrigerator.
    pub takes: Time,
    /// Lower end of the band.
    pub low: Time,
    /// Upper end.
    pub high: Time,
    /// The middle reads so much: it comes out.
    pub out_at: Temperature,
    /// Air, surface and core through it and through the rest.
    pub curve: Vec<HeatPoint>,
    /// Whether that heat never takes it there.
    pub stuck: bool,
}

impl Again {
    /// Reckons it for a piece as it lay in the first heat.
    ///
    /// The middle goes by a probe, so the climb of its rest counts for nothing. Parts are slabs: their ends and edges do not count,
    /// which errs on the long side.
    pub fn of(cut: Cut, piece: Lying, asked: FireStage, (rest, resting): (Time, Resting)) -> Self {
        let parts = (piece.thickness.in_mm() > PARTS_MM).then(|| millimetres(PARTS_MM));
        let out_at = match asked.until {
            StageEnd::Core(core) => core,
            _ => celsius(74.0),
        };
        let stage = FireStage { until: StageEnd::Core(out_at), ..asked };
        let around = stage.around();
        let body = match parts {
            Some(thick) => Body { shape: Shape::Slab, radius: thick / 2.0, start: celsius(FROM_C), fed: 1.0 },
            None => body(cut, piece, (celsius(FROM_C), around.fire.h), around.away.is_some()),
        };
        let target = FinishTarget {
            at: Where::Core,
            finish: out_at,
            authority: again_at_least(),
            authority_source: "USDA FSIS, leftovers",
            pull: out_at,
            ends: Ends::at(out_at),
        };
        let stages = [stage];
        let (band, fork) = (CarryBand::of(cut), tender_after(cut.species));
        let answer = fire_plan(&FireAsk { body, stages: &stages, rest, resting, target: &target, band, fork, skin: None });
        let curve = heat_curve(body, &answer, &Heating { stages: &stages, rest, resting });
        Self {
            stage,
            parts,
            takes: answer.takes,
            low: answer.low,
            high: answer.high,
            out_at,
            stuck: answer.stuck.is_some() || answer.takes.in_min() < 1.0,
            curve,
        }
    }

    /// From the refrigerator on, in whole minutes.
    pub fn lasts(&self) -> Time {
        minutes(self.takes.in_min().ceil())
    }
}
