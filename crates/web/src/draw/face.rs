//! The face from above at true proportion: outline, cuts or holes, zones, ruler, handles. The same drawing serves the
//! screen and the sheet that is printed at one to one.

use super::face_marks::{handles, lattice, light_boxes, patches, ruler, zone_lines};
use super::{n, text};
use rauchkeller_core::skin::{DepthZone, Handle, Holes, LaidFace, Light, Stretch, Stroke};
use std::fmt::Write;

/// How large it is drawn.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Size {
    /// As wide as its place on the screen.
    Screen,
    /// One millimetre is one millimetre.
    OneToOne,
}

/// What the face is made of, for its colour.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Ground {
    /// Skin.
    Skin,
    /// A cap of fat.
    Fat,
    /// The lean side.
    Meat,
}

/// Everything a face can show.
pub struct FacePicture<'a> {
    /// Outline and bones.
    pub laid: &'a LaidFace,
    /// Its colour.
    pub ground: Ground,
    /// Strokes in the order of the hand.
    pub strokes: &'a [Stroke],
    /// Strokes from the other side, where cuts meet.
    pub other_side: &'a [Stroke],
    /// Holes.
    pub holes: Option<&'a Holes>,
    /// Parts with a depth of their own; drawn where there are several.
    pub zones: &'a [DepthZone],
    /// What can be dragged.
    pub handles: &'a [Handle],
    /// The nine fields that stayed chewy last time, as bits.
    pub patches: i32,
    /// The walk of the light, for raw hands.
    pub light: Option<&'a Light>,
    /// Whether the way of the hand between strokes is drawn.
    pub way: bool,
    /// How large.
    pub size: Size,
    /// What it is.
    pub name: &'a str,
}

impl<'a> FacePicture<'a> {
    /// Only an outline.
    pub fn of(laid: &'a LaidFace, ground: Ground, size: Size, name: &'a str) -> Self {
        Self {
            laid,
            ground,
            strokes: &[],
            other_side: &[],
            holes: None,
            zones: &[],
            handles: &[],
            patches: 0,
            light: None,
            way: false,
            size,
            name,
        }
    }
}

/// Room round the face for ruler and edge, mm.
const EDGE: f64 = 14.0;

/// From millimetres of the face to millimetres of the picture: y points away from the cook, as it lies on the board.
#[derive(Debug, Clone, Copy)]
pub(super) struct Frame {
    /// Picture x of the face's x = 0.
    pub x0: f64,
    /// Picture y of the face's y = 0.
    pub y0: f64,
    /// Left, low, right and high end of the face.
    pub bounds: (f64, f64, f64, f64),
}

impl Frame {
    pub fn at(&self, (x, y): (f64, f64)) -> (f64, f64) {
        (self.x0 + x, self.y0 - y)
    }
}

/// Draws a face.
pub fn draw_face(picture: &FacePicture) -> String {
    let outline = &picture.laid.outline;
    let Some(bounds) = outline.bounds() else { return String::new() };
    let (left, low, right, high) = bounds;
    let frame = Frame { x0: EDGE - left, y0: high + EDGE, bounds };
    let (wide, tall) = (right - left + 2.0 * EDGE, high - low + 2.0 * EDGE + 9.0);
    let sized = match picture.size {
        Size::Screen => String::new(),
        Size::OneToOne => format!(r#" xmlns="http://www.w3.org/2000/svg" width="{}mm" height="{}mm""#, n(wide), n(tall)),
    };
    // With handles in it the picture is a group of controls, else one image.
    let role = if picture.handles.is_empty() { "img" } else { "group" };
    let mut svg =
        format!(r#"<svg class="face"{sized} viewBox="0 0 {} {}" role="{role}" aria-label="{}">"#, n(wide), n(tall), text(picture.name));
    let d: String = outline.rings().iter().map(|points| ring(points, frame)).collect();
    let _ = write!(
        svg,
        r##"<defs><clipPath id="face-clip"><path clip-rule="evenodd" d="{d}"/></clipPath></defs><path class="face-outline" fill="{}" fill-rule="evenodd" stroke="#4a3220" stroke-width="0.7" d="{d}"/>"##,
        match picture.ground {
            Ground::Skin => "#dcb587",
            Ground::Fat => "#eadbb9",
            Ground::Meat => "#b0665d",
        }
    );
    svg.push_str(&bones(picture, frame));
    svg.push_str(&patches(picture.patches, frame));
    if let Some(light) = picture.light {
        svg.push_str(&light_boxes(light, frame));
    }
    if let Some(holes) = picture.holes {
        svg.push_str(&lattice(holes, frame, picture.ground));
    }
    svg.push_str(&strokes(picture, frame));
    svg.push_str(&zone_lines(picture.zones, frame));
    svg.push_str(&ruler(frame, tall, picture.size));
    svg.push_str(&handles(picture.handles, frame));
    svg + "</svg>"
}

fn ring(points: &[(f64, f64)], frame: Frame) -> String {
    let mut d = String::new();
    for (i, point) in points.iter().enumerate() {
        let (x, y) = frame.at(*point);
        let _ = write!(d, "{}{} {}", if i == 0 { "M" } else { "L" }, n(x), n(y));
    }
    d + "Z"
}

fn bones(picture: &FacePicture, frame: Frame) -> String {
    if picture.laid.bones.is_empty() {
        return String::new();
    }
    let lines = path(picture.laid.bones.iter().map(|(a, b)| (frame.at(*a), frame.at(*b))));
    format!(
        r##"<path class="face-bones" fill="none" stroke="#b59a6d" stroke-width="7" stroke-opacity="0.38" stroke-linecap="round" d="{lines}"/>"##
    )
}

fn path(lines: impl Iterator<Item = ((f64, f64), (f64, f64))>) -> String {
    let mut d = String::new();
    for ((x1, y1), (x2, y2)) in lines {
        let _ = write!(d, "M{} {}L{} {}", n(x1), n(y1), n(x2), n(y2));
    }
    d
}

fn strokes(picture: &FacePicture, frame: Frame) -> String {
    let ink = if picture.ground == Ground::Meat { "#3d0f0c" } else { "#5a1f12" };
    let of = |strokes: &[Stroke]| path(strokes.iter().map(|s| (frame.at(s.from), frame.at(s.to))));
    let mut svg = String::new();
    if !picture.other_side.is_empty() {
        let d = of(picture.other_side);
        let _ = write!(svg, r#"<path class="face-other" fill="none" stroke="{ink}" stroke-width="0.7" stroke-dasharray="3 2.4" d="{d}"/>"#);
    }
    let Some((first, last)) = picture.strokes.first().zip(picture.strokes.last()) else { return svg };
    if let Some(light) = picture.light {
        // Stretch by stretch, so that the light can walk.
        for (i, stretch) in light.stretches.iter().enumerate() {
            let Stretch::Strokes(range) = stretch else { continue };
            let d = of(picture.strokes.get(range.clone()).unwrap_or_default());
            let _ = write!(svg, r#"<path class="face-stretch" data-stretch="{i}" fill="none" stroke="{ink}" stroke-width="1.2" d="{d}"/>"#);
        }
        return svg;
    }
    if picture.way && picture.strokes.len() < 400 {
        let d = path(picture.strokes.windows(2).map(|pair| (frame.at(pair[0].to), frame.at(pair[1].from))));
        let _ =
            write!(svg, r##"<path class="face-way" fill="none" stroke="#8a6a3c" stroke-width="0.5" stroke-dasharray="1.2 1.6" d="{d}"/>"##);
    }
    let _ = write!(svg, r#"<path class="face-strokes" fill="none" stroke="{ink}" stroke-width="0.8" d="{}"/>"#, of(picture.strokes));
    if picture.way {
        // Where the hand begins, which way it goes, and where it ends.
        let ((x1, y1), (x2, y2)) = (frame.at(first.from), frame.at(first.to));
        let long = (x2 - x1).hypot(y2 - y1).max(1e-9);
        let (ux, uy) = ((x2 - x1) / long, (y2 - y1) / long);
        let tip = (x1 + ux * 9.0, y1 + uy * 9.0);
        let (ex, ey) = frame.at(last.to);
        let _ = write!(
            svg,
            r##"<g class="face-begin" fill="#5a1f12"><circle cx="{}" cy="{}" r="2.2"/><path d="M{} {}L{} {}L{} {}Z"/></g><circle class="face-end" cx="{}" cy="{}" r="2" fill="none" stroke="#5a1f12" stroke-width="0.8"/>"##,
            n(x1),
            n(y1),
            n(tip.0),
            n(tip.1),
            n(tip.0 - ux * 4.5 - uy * 2.4),
            n(tip.1 - uy * 4.5 + ux * 2.4),
            n(tip.0 - ux * 4.5 + uy * 2.4),
            n(tip.1 - uy * 4.5 - ux * 2.4),
            n(ex),
            n(ey)
        );
    }
    svg
}

#[cfg(test)]
mod tests {
    use super::*;
    use rauchkeller_core::skin::{FaceAsk, FaceShape, Lattice, Pattern, ScoreAsk, pierce_outline, score};
    use rauchkeller_core::units::millimetres;

    fn laid(shape: FaceShape) -> LaidFace {
        FaceAsk { shape, ..FaceAsk::slab(millimetres(300.0), millimetres(220.0)) }.lay().unwrap()
    }

    #[test]
    fn every_stroke_is_drawn_and_the_sheet_is_true() {
        let laid = laid(FaceShape::Square);
        let ask = ScoreAsk { pattern: Pattern::Parallel, spacing: millimetres(8.0), direction: 0.0, margin: millimetres(5.0) };
        let scoring = score(&laid.outline, ask).unwrap();
        let picture = FacePicture { strokes: &scoring.strokes, way: true, ..FacePicture::of(&laid, Ground::Skin, Size::OneToOne, "belly") };
        let svg = draw_face(&picture);
        let drawn = svg.split("face-strokes").nth(1).unwrap().split("d=\"").nth(1).unwrap().split('"').next().unwrap();
        assert_eq!(drawn.matches('M').count(), 27);
        // 300 + 2 × 14 mm wide, and one unit of the picture is one millimetre.
        assert!(svg.contains("width=\"328mm\"") && svg.contains("viewBox=\"0 0 328 ") && svg.contains("role=\"img\""));
        assert!(svg.contains("h100M") && svg.contains(">100 mm<"));
    }

    #[test]
    fn twenty_thousand_holes_stay_a_small_picture() {
        let laid = laid(FaceShape::Square);
        let holes = pierce_outline(&laid.outline, Lattice::Hexagonal, 25.0, millimetres(0.0)).unwrap();
        assert!(holes.at.len() > 16_000);
        let svg = draw_face(&FacePicture { holes: Some(&holes), ..FacePicture::of(&laid, Ground::Skin, Size::Screen, "belly") });
        assert!(svg.len() < 6000 && svg.contains("url(#face-holes)"), "{}", svg.len());
    }

    #[test]
    fn handles_are_sliders_and_bones_and_bad_patches_are_drawn() {
        let laid = laid(FaceShape::Rack);
        let picture =
            FacePicture { handles: &laid.handles, patches: 0b1_0000_0001, ..FacePicture::of(&laid, Ground::Fat, Size::Screen, "rack") };
        let svg = draw_face(&picture);
        assert_eq!(svg.matches("role=\"slider\"").count(), laid.handles.len());
        assert!(svg.contains("role=\"group\"") && svg.contains("face-bones") && svg.contains("data-field=\"long\""));
        assert_eq!(svg.matches("class=\"face-patch\"").count(), 2);
    }
}
