//! Knife and pick in the plan: what is asked of the face, and what it comes to.

use super::resolved::Resolved;
use super::skin_plan::SkinPlan;
use crate::ask::{PlanRequest, Refusal, SkinAsk};
use crate::method::Opens;
use crate::piece::{Face, Family, Measures};
use crate::refusing::Refused;
use crate::skin::{
    CoverWork, FaceAsk, FaceShape, FatMap, KnifeAsk, KnifeError, Lattice, LayerMeasurement, MARGIN_MM, MeatError, MeatSide, OutlineError,
    Pattern, SKIN_TOOLS, ScoreError, SkinTool, knife_work,
};
use crate::units::{Length, LengthIn, Share, hours, millimetres};

/// Length ÷ width of a bird's breast from above (our estimate).
const BREAST_ASPECT: f64 = 4.0 / 3.0;

/// Area of a breast's outline ÷ its box: half an ellipse over 2/5 of the length, a parabola over 3/5.
const BREAST_FILL: f64 = std::f64::consts::FRAC_PI_4 * 0.4 + 2.0 / 3.0 * 0.6;

/// The face as the cook said it, over measures from elsewhere. A bird shows its breast.
fn face_ask(request: &PlanRequest, measures: Measures, faces: &[Face]) -> FaceAsk {
    let said = request.skin_work.clone().unwrap_or_default();
    let breast = faces.iter().find(|f| matches!(f.id, "breast" | "under-skin")).filter(|_| request.cut.is_bird());
    let (shape, length, width) = match breast {
        Some(face) => {
            let long = millimetres((face.dm2() * 1e4 * BREAST_ASPECT / BREAST_FILL).sqrt());
            (FaceShape::Breast, long, long / BREAST_ASPECT)
        }
        None => (if request.cut.family == Family::Rack { FaceShape::Rack } else { FaceShape::Square }, measures.length, measures.width),
    };
    FaceAsk {
        shape: said.shape.unwrap_or(shape),
        length: said.length.unwrap_or(length),
        width: said.width.unwrap_or(width),
        corner: said.corner,
        narrow: said.narrow,
        parts: said.parts,
        avoid: said.avoid,
    }
}

/// What is asked of knife and pick on this piece; `None` where there is nothing to open and nobody asked.
fn knife_ask(request: &PlanRequest, resolved: &Resolved) -> Option<KnifeAsk> {
    let said = request.skin_work.clone();
    let covered = resolved.skin.in_mm() > 0.0;
    let scores_fat = resolved.fat.in_mm() > 0.0 && resolved.method.opens() != Opens::Whole;
    if !covered && said.is_none() && !scores_fat {
        return None;
    }
    let said = said.unwrap_or_default();
    let face = face_ask(request, resolved.measures, &resolved.faces);
    // What comes scored is open already: holes beside the cuts would only tear.
    let opens = request.scored.is_none() && (request.cut.has_fat_window() || !covered);
    let usual = match resolved.method.opens() {
        Opens::Pierced if opens => CoverWork::Pierce { lattice: Lattice::Square, per_cm2: usual_density(request) },
        Opens::Scored if opens => usual_score(request),
        _ => CoverWork::Whole,
    };
    let cover = said.cover.unwrap_or(usual);
    let area = |ids: &[&str]| resolved.faces.iter().filter(|f| ids.contains(&f.id)).map(Face::dm2).sum::<f64>();
    let (breast, legs) = (area(&["breast"]), area(&["legs"]));
    let beside = if request.cut.is_bird() && breast > 0.0 { legs / breast } else { 0.0 };
    Some(KnifeAsk {
        face,
        beside: Share(beside),
        edge: said.edge.unwrap_or(millimetres(5.0)),
        tool: said.tool.clone().unwrap_or_else(|| usual_tool(cover)),
        own_pace: said.own_pace,
        fat: fat_map(request, &said, resolved),
        margin: said.margin.unwrap_or(millimetres(MARGIN_MM)),
        depth: said.depth,
        meat: said.meat.unwrap_or(MeatSide::Whole),
        lean: resolved.lean(),
        thickness: resolved.thickness,
        cover,
    })
}

/// Holes a square centimetre: sparse on a bird, good else (our estimate).
fn usual_density(request: &PlanRequest) -> f64 {
    if request.cut.is_bird() { 4.0 } else { 8.0 }
}

/// Strokes as they are usual: a diamond on a bird, one way on a slab of skin, both ways in a fat cap (TRADE 5.2).
fn usual_score(request: &PlanRequest) -> CoverWork {
    let (pattern, mm) = match request.cut {
        cut if cut.species == crate::piece::Species::Poultry => (Pattern::Diamond, 10.0),
        cut if cut.skin_mm > 0.0 => (Pattern::Parallel, 8.0),
        _ => (Pattern::Crosshatch, 20.0),
    };
    CoverWork::Score { pattern, spacing: millimetres(mm), direction: 0.0 }
}

/// The tool that does it quickest: a brush for holes, a set blade for strokes.
fn usual_tool(cover: CoverWork) -> SkinTool {
    let wanted = if matches!(cover, CoverWork::Score { .. }) { "craft-knife" } else { "needle-brush" };
    SkinTool::find(wanted).unwrap_or_else(|| SKIN_TOOLS[0].clone())
}

/// Skin and fat at the four places; where nobody measured, the fat's thinnest is taken everywhere.
fn fat_map(request: &PlanRequest, said: &SkinAsk, resolved: &Resolved) -> FatMap {
    // A steak's fat lies along its edge; its faces are lean.
    if request.cut.family == Family::Steak {
        return FatMap::even(millimetres(0.0), millimetres(0.0));
    }
    said.fat.unwrap_or_else(|| {
        let spot = LayerMeasurement { skin: resolved.skin, fat: resolved.fat_min };
        FatMap { left: spot, near: spot, far: spot, right: spot }
    })
}

/// Knife and pick, computed; or what stands in the way, at its field.
pub(crate) fn skin_plan(request: &PlanRequest, resolved: &Resolved) -> Result<Option<SkinPlan>, Refusal> {
    let Some(ask) = knife_ask(request, resolved) else { return Ok(None) };
    let work = knife_work(&ask).map_err(|error| knife_refusal(&error))?;
    let refused = work.zones.iter().find_map(|z| z.depth.err()).filter(|_| work.guard.is_none()).map(|refused| refused.to_string());
    Ok(Some(SkinPlan { ask, work, refused, out: hours(0.0), quicker: vec![], grooves: None }))
}

fn knife_refusal(error: &KnifeError) -> Refusal {
    let field = match error {
        KnifeError::Face(OutlineError::Narrow(..)) => "skin.narrow_mm",
        KnifeError::Face(OutlineError::Corner(..)) => "skin.corner_mm",
        KnifeError::Face(_) => "skin.face",
        KnifeError::Strokes(ScoreError::Margin(_)) | KnifeError::Meat(MeatError::Spacing(ScoreError::Margin(_))) => "skin.edge_mm",
        KnifeError::Strokes(_) => "skin.spacing_mm",
        KnifeError::Holes(_) => "skin.per_cm2",
        KnifeError::Meat(MeatError::Spacing(_)) => "skin.meat.spacing_mm",
        KnifeError::Meat(MeatError::Depth(..)) => "skin.meat.depth_mm",
        KnifeError::Meat(MeatError::Beyond(_)) => "skin.meat.beyond_mm",
        KnifeError::Margin(_) => "skin.margin_mm",
        KnifeError::Depth(..) => "skin.depth_mm",
    };
    let Refused { typed, allowed, remedy } = error.refused();
    Refusal::new(field, typed, allowed, remedy)
}

/// Whether what is planned cuts into lean: blades, slits and a lattice make it non-intact, skin-only piercing does not.
pub(crate) fn enters_lean(skin: Option<&SkinPlan>) -> bool {
    skin.is_some_and(|s| s.work.enters_lean() || into_lean_by_reach(s))
}

/// Whether holes or strokes through the cover go on into the lean; grooves on the other side are another matter.
pub(crate) fn cover_enters_lean(skin: &SkinPlan) -> bool {
    let worked = skin.work.scoring.is_some() || skin.work.holes.is_some();
    worked && matches!(skin.work.says, crate::skin::DepthSays::IntoLean(_)) || into_lean_by_reach(skin)
}

/// A blade or pick that cannot be stopped and is longer than skin and fat is the cook's own care; one of fixed length goes in
/// as far as it is long, whatever the care. Where neither skin nor fat lies over the lean, any hole is one into it.
fn into_lean_by_reach(skin: &SkinPlan) -> bool {
    let to_lean = skin.ask.fat.spots().iter().map(|s| (s.skin + s.fat).in_mm()).fold(f64::INFINITY, f64::min);
    let worked = skin.work.scoring.is_some() || skin.work.holes.is_some();
    let fixed = skin.ask.tool.stop == crate::skin::Stop::Fixed;
    worked && (fixed && skin.ask.tool.reach_mm > to_lean || to_lean < 0.5)
}

/// Area and edge of a slab's face in the shape the cook gave it, what is left alone included; `None` where nobody did.
pub(crate) fn shaped(request: &PlanRequest, measures: Measures) -> Option<Result<(crate::units::Area, Length), Refusal>> {
    request.skin_work.as_ref()?.shape?;
    let ask = FaceAsk { avoid: vec![], ..face_ask(request, measures, &[]) };
    Some(ask.lay().map(|laid| (laid.outline.area(), laid.outline.edge())).map_err(|e| knife_refusal(&KnifeError::Face(e))))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::skin::Outline;
    use crate::units::AreaIn;

    #[test]
    fn a_breast_drawn_from_its_area_has_that_area() {
        let long: f64 = (2.0e4 * BREAST_ASPECT / BREAST_FILL).sqrt();
        let outline = Outline::breast(millimetres(long), millimetres(long / BREAST_ASPECT)).unwrap();
        // Chords instead of curves lose a little.
        assert!((outline.area().in_dm2() / 2.0 - 1.0).abs() < 2e-3);
    }
}
