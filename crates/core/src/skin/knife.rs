//! The door of the knife: what is asked of one face in, what it comes to out. Plan and page take the same answer.

use super::depth::DepthGuard;
use super::face_ask::{FaceAsk, LaidFace};
use super::lattice::{DensityError, Holes, Lattice, pierce_outline};
use super::meat_side::{MeatCuts, MeatError, MeatSide, cut_meat};
use super::outline::{Outline, OutlineError};
use super::score::{Pattern, ScoreAsk, ScoreError, Scoring, Stroke, score};
use super::stroke_order::without_detours;
use super::tools::{CUT_CM_PER_MIN, Fit, SkinTool, fit, fit_to};
use super::zones::{DepthZone, FatMap, depth_zones, shallowest};
use crate::refusing::{Refused, says_its_parts};
use crate::units::{Area, Length, LengthIn, Share, Time, TimeIn, millimetres, minutes, square_decimetres};
use std::borrow::Cow;

/// What is done to skin or fat cap.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum CoverWork {
    /// The skin stays whole.
    Whole,
    /// Holes through the skin.
    Pierce {
        /// How they lie.
        lattice: Lattice,
        /// Holes a square centimetre: 4 sparse, 8 good, 15 thorough (our estimate).
        per_cm2: f64,
    },
    /// Strokes with a blade.
    Score {
        /// How they lie.
        pattern: Pattern,
        /// From stroke to stroke.
        spacing: Length,
        /// Degrees against the clock from the long side.
        direction: f64,
    },
}

/// What is asked.
#[derive(Debug, Clone, PartialEq)]
pub struct KnifeAsk {
    /// The face that is worked, with what to keep out of.
    pub face: FaceAsk,
    /// Skin elsewhere that is worked the same way (legs beside a breast), as a share of this face.
    pub beside: Share,
    /// What is done to it.
    pub cover: CoverWork,
    /// Kept from its edges.
    pub edge: Length,
    /// With which tool.
    pub tool: SkinTool,
    /// Presses or centimetres a minute, where the cook's own pace is known.
    pub own_pace: Option<f64>,
    /// Skin and fat at four places.
    pub fat: FatMap,
    /// Kept from the lean, 0.5–5 mm.
    pub margin: Length,
    /// A depth the cook set; `None` takes what is allowed.
    pub depth: Option<Length>,
    /// What is cut into the other side.
    pub meat: MeatSide,
    /// Lean under skin and fat.
    pub lean: Length,
    /// The whole piece.
    pub thickness: Length,
}

/// Why it cannot be done so.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum KnifeError {
    /// The face cannot be laid out.
    Face(OutlineError),
    /// The strokes cannot be laid.
    Strokes(ScoreError),
    /// The holes cannot be laid.
    Holes(DensityError),
    /// The lean side.
    Meat(MeatError),
    /// The distance from the lean.
    Margin(f64),
    /// A depth outside what is allowed: what was asked, and the most, mm.
    Depth(f64, f64),
}

impl KnifeError {
    /// What was typed, what is allowed, what to do.
    pub fn refused(&self) -> Refused {
        match self {
            Self::Face(error) => error.refused(),
            Self::Strokes(error) => error.refused(),
            Self::Holes(error) => error.refused(),
            Self::Meat(error) => error.refused(),
            Self::Margin(mm) => Refused::new(format!("{mm:.1} mm kept from the lean"), "between 0.5 and 5 mm", "1.5 mm is usual."),
            Self::Depth(mm, most) => Refused::new(
                format!("{mm:.1} mm deep"),
                format!("between 0.5 mm and the {most:.0} mm of the piece"),
                "Leave it open, and it is as deep as skin and fat allow.",
            ),
        }
    }
}
says_its_parts!(KnifeError);

macro_rules! from_errors {
    ($($variant:ident($error:ty)),*) => {$(
        impl From<$error> for KnifeError {
            fn from(error: $error) -> Self {
                Self::$variant(error)
            }
        }
    )*};
}
from_errors!(Face(OutlineError), Strokes(ScoreError), Holes(DensityError), Meat(MeatError));

/// What a depth of the cook's own comes to.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum DepthSays {
    /// Through the skin, and stops in the fat.
    Safe,
    /// So much short of the fat where the skin is thickest.
    TooShallow(Length),
    /// Into the margin by so much, not yet into the lean.
    InMargin(Length),
    /// Into the lean by so much where skin and fat are thinnest.
    IntoLean(Length),
}

/// What it comes to.
#[derive(Debug, Clone, PartialEq)]
pub struct KnifeWork {
    /// The face laid out.
    pub laid: LaidFace,
    /// Area of the face that is worked.
    pub area: Area,
    /// Its parts, each with its depth.
    pub zones: Vec<DepthZone>,
    /// The shallowest safe depth; `None` where none is safe anywhere.
    pub guard: Option<DepthGuard>,
    /// What a depth of the cook's own comes to.
    pub says: DepthSays,
    /// Strokes, where it is scored.
    pub scoring: Option<Scoring>,
    /// Holes: all over, or where no stroke is safe.
    pub holes: Option<Holes>,
    /// Surface the strokes open on the cover.
    pub opened: Area,
    /// Cuts into the lean.
    pub meat: Option<MeatCuts>,
    /// What the tool's reach says.
    pub fit: Option<Fit>,
    /// Presses, those beside the face included.
    pub presses: u32,
    /// What makes the holes: the tool, or a pick where a blade was chosen; `None` without holes.
    pub pierced_with: Option<Cow<'static, str>>,
    /// Holes, those beside the face included.
    pub holes_in_all: u32,
    /// Minutes on the cover.
    pub cover_takes: Time,
    /// Minutes on the lean side.
    pub meat_takes: Time,
    /// Picks to have out, where they wear; count them back in.
    pub picks: Option<u32>,
}

/// Density in zones where no stroke is safe: good (our estimate).
const INSTEAD_PER_CM2: f64 = 8.0;
/// Minutes of setting up before the first stroke (our estimate).
const SETTING_UP_MIN: f64 = 2.0;

/// Minutes of strokes with their setting up; none without strokes.
fn set_up(cut_cm: f64, strokes: f64) -> f64 {
    if cut_cm > 0.0 { SETTING_UP_MIN + strokes } else { 0.0 }
}

/// Computes what knife or pick have to do on a face: where, how many, how deep, how long it takes.
///
/// Where some zones have no safe depth, strokes end at their borders and the zones are pierced instead. Cost: see [`score`]
/// and [`pierce_outline`].
pub fn knife_work(ask: &KnifeAsk) -> Result<KnifeWork, KnifeError> {
    let margin = ask.margin.in_mm();
    if !(0.5..=5.0).contains(&margin) {
        return Err(KnifeError::Margin(margin));
    }
    if !(0.0..=50.0).contains(&ask.edge.in_mm()) {
        return Err(ScoreError::Margin(ask.edge.in_mm()).into());
    }
    if let Some(mm) = ask.depth.map(LengthIn::in_mm).filter(|mm| !(0.5..=ask.thickness.in_mm()).contains(mm)) {
        return Err(KnifeError::Depth(mm, ask.thickness.in_mm()));
    }
    let laid = ask.face.lay()?;
    let zones = depth_zones(&ask.fat, ask.margin);
    let guard = shallowest(&zones);
    let (scoring, holes) = on_the_cover(ask, &laid.outline, &zones)?;
    // Where no zone is safe nothing is left of the strokes.
    let scoring = scoring.filter(|s| !s.strokes.is_empty() || holes.is_none());
    let meat = cut_meat(ask.meat, &laid.outline, ask.edge, ask.lean, ask.thickness)?;
    let opened = scoring.as_ref().map_or(0.0, |s| opened_dm2(s, &laid.outline, &zones, ask.depth));
    let times = 1.0 + ask.beside.0;
    let holes_in_all = holes.as_ref().map_or(0, |h| (h.at.len() as f64 * times).round() as u32);
    // Where strokes give way to holes, a pick makes them: nobody sets the knife for a corner.
    let pick = SkinTool::find("pick");
    let piercer = if ask.tool.pierces() { Some(&ask.tool) } else { pick.as_ref() };
    let presses = piercer.map_or(0, |tool| tool.presses(holes_in_all as usize));
    let pace = ask.own_pace.unwrap_or(ask.tool.per_min).max(1e-3);
    let press_pace = if ask.tool.pierces() { pace } else { piercer.map_or(pace, |tool| tool.per_min) };
    let cut_cm = scoring.as_ref().map_or(0.0, |s| s.cut_length.in_mm() / 10.0) * times;
    let picks = piercer.and_then(|tool| tool.wears_after).filter(|_| presses > 0).map(|wears| presses.div_ceil(wears));
    Ok(KnifeWork {
        area: laid.outline.area(),
        says: depth_says(ask, guard),
        fit: guard.map(|guard| ask.depth.map_or_else(|| fit(&ask.tool, guard), |own| fit_to(&ask.tool, guard, own))),
        presses,
        pierced_with: piercer.map(|tool| tool.name.clone()).filter(|_| holes_in_all > 0),
        holes_in_all,
        cover_takes: minutes(f64::from(presses) / press_pace + set_up(cut_cm, cut_cm / pace)),
        meat_takes: minutes(meat.as_ref().map_or(0.0, |m| {
            let cm = m.cut_length().in_mm() / 10.0;
            set_up(cm, cm / CUT_CM_PER_MIN)
        })),
        opened: square_decimetres(opened),
        laid,
        zones,
        guard,
        scoring,
        holes,
        meat,
        picks,
    })
}

impl KnifeWork {
    /// Minutes in all.
    pub fn takes(&self) -> Time {
        minutes(self.cover_takes.in_min() + self.meat_takes.in_min())
    }

    /// What is seen of one side: strokes on it, strokes of the other side that meet them, holes.
    pub fn seen_from(&self, meat_side: bool) -> (&[Stroke], &[Stroke], Option<&Holes>) {
        let cuts = self.meat.as_ref();
        let above: &[Stroke] = cuts.and_then(|c| c.above.as_ref()).map_or(&[], |a| &a.strokes);
        if meat_side {
            (cuts.map_or(&[], |c| &c.below.strokes), above, None)
        } else {
            (self.scoring.as_ref().map_or(above, |s| &s.strokes), &[], self.holes.as_ref())
        }
    }

    /// Whether lean is cut or pierced: the piece is no longer intact.
    pub fn enters_lean(&self) -> bool {
        self.meat.is_some() || matches!(self.says, DepthSays::IntoLean(_)) && (self.scoring.is_some() || self.holes.is_some())
    }
}

fn on_the_cover(ask: &KnifeAsk, outline: &Outline, zones: &[DepthZone]) -> Result<(Option<Scoring>, Option<Holes>), KnifeError> {
    match ask.cover {
        CoverWork::Whole => Ok((None, None)),
        CoverWork::Pierce { lattice, per_cm2 } => Ok((None, Some(pierce_outline(outline, lattice, per_cm2, ask.edge)?))),
        CoverWork::Score { pattern, spacing, direction } => {
            let mut scoring = score(outline, ScoreAsk { pattern, spacing, direction, margin: ask.edge })?;
            let safe = |safe: bool| zones.iter().filter(move |z| z.depth.is_ok() == safe);
            // With a depth of the cook's own every zone is cut, and the page says what that does.
            if ask.depth.is_some() || safe(false).next().is_none() {
                return Ok((Some(scoring), None));
            }
            let spans: Vec<(f64, f64)> = safe(true).map(|z| along(outline, z.span)).collect();
            let parts: Vec<Stroke> = scoring.strokes.iter().flat_map(|s| spans.iter().filter_map(|span| clipped(s, *span))).collect();
            // The hand goes one way first, then the other, each without detours.
            scoring.strokes = parts.chunk_by(is_parallel).flat_map(|way| without_detours(way.to_vec())).collect();
            scoring.cut_length = scoring.strokes.iter().fold(millimetres(0.0), |sum, s| sum + s.length());
            let unsafe_part = safe(false).map(|z| along(outline, z.span)).reduce(|a, b| (a.0.min(b.0), a.1.max(b.1)));
            let pierced = match unsafe_part.filter(|_| zones.len() == 1 || spans.len() < zones.len()) {
                Some((from, to)) if one_run(zones) => {
                    Some(pierce_outline(&outline.between(from, to), Lattice::Square, INSTEAD_PER_CM2, ask.edge)?)
                }
                _ => None,
            };
            Ok((Some(scoring), pierced))
        }
    }
}

fn is_parallel(a: &Stroke, b: &Stroke) -> bool {
    let (ra, rb) = ((a.to.0 - a.from.0, a.to.1 - a.from.1), (b.to.0 - b.from.0, b.to.1 - b.from.1));
    (ra.0 * rb.1 - ra.1 * rb.0).abs() < 1e-6 * ra.0.hypot(ra.1) * rb.0.hypot(rb.1)
}

/// Whether the zones without a safe depth lie side by side.
fn one_run(zones: &[DepthZone]) -> bool {
    zones.iter().filter(|z| z.depth.is_err()).count() == 1
}

/// A share of the length as millimetres on this face.
fn along(outline: &Outline, (from, to): (f64, f64)) -> (f64, f64) {
    let (left, _, right, _) = outline.bounds().unwrap_or_default();
    (left + (right - left) * from, left + (right - left) * to)
}

/// What of a stroke lies between two ends along the piece.
fn clipped(stroke: &Stroke, (from, to): (f64, f64)) -> Option<Stroke> {
    let ((x0, y0), (x1, y1)) = (stroke.from, stroke.to);
    let run = x1 - x0;
    let (enter, leave) = if run.abs() < 1e-12 {
        if (from..=to).contains(&x0) { (0.0, 1.0) } else { return None }
    } else {
        let (a, b) = ((from - x0) / run, (to - x0) / run);
        (a.min(b).max(0.0), a.max(b).min(1.0))
    };
    let at = |t: f64| (x0 + run * t, y0 + (y1 - y0) * t);
    (leave - enter > 1e-9).then(|| Stroke { from: at(enter), to: at(leave) })
}

/// 2 × depth × length, zone by zone, dm².
fn opened_dm2(scoring: &Scoring, outline: &Outline, zones: &[DepthZone], own: Option<Length>) -> f64 {
    let in_zone = |zone: &DepthZone| {
        let span = along(outline, zone.span);
        let mm: f64 = scoring.strokes.iter().filter_map(|s| clipped(s, span)).map(|s| s.length().in_mm()).sum();
        let deep = own.or_else(|| zone.depth.ok().map(|g| g.at_most)).map_or(0.0, LengthIn::in_mm);
        2.0 * deep * mm / 1e4
    };
    zones.iter().map(in_zone).sum()
}

fn depth_says(ask: &KnifeAsk, guard: Option<DepthGuard>) -> DepthSays {
    let Some(depth) = ask.depth else { return DepthSays::Safe };
    let spots = ask.fat.spots();
    let mm = |l: Length| l.in_mm();
    let thick_skin = spots.iter().map(|s| mm(s.skin)).fold(0.0, f64::max);
    let to_lean = spots.iter().map(|s| mm(s.skin) + mm(s.fat)).fold(f64::INFINITY, f64::min);
    let at_most = guard.map_or(to_lean - mm(ask.margin), |g| mm(g.at_most));
    let deep = mm(depth);
    if deep > to_lean + 1e-9 {
        DepthSays::IntoLean(millimetres(deep - to_lean))
    } else if deep > at_most + 1e-9 {
        DepthSays::InMargin(millimetres(deep - at_most))
    } else if deep <= thick_skin && thick_skin > 0.0 {
        DepthSays::TooShallow(millimetres(thick_skin - deep))
    } else {
        DepthSays::Safe
    }
}

#[cfg(test)]
mod tests;
