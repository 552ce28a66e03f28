//! The outline of a face as it lies on the board. Coordinates are millimetres, x along the piece, y across.

use crate::refusing::{Refused, says_its_parts};
use crate::units::{Area, Length, LengthIn, square_decimetres};
use geo::{Area as _, BoundingRect, Buffer, Coord, LineString, MultiPolygon, Polygon, Rotate};

/// Why an outline is none.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum OutlineError {
    /// A side below or beyond any face.
    Side(f64),
    /// A corner rounder than half the shorter side.
    Corner(f64, f64),
    /// A narrow end wider than the wide one.
    Narrow(f64, f64),
    /// Fewer than three corners, or a line that crosses itself.
    NoFace,
}

impl OutlineError {
    /// What was typed, what is allowed, what to do.
    pub fn refused(&self) -> Refused {
        match self {
            Self::Side(mm) => Refused::new(format!("a side of {mm:.1} mm"), "10 to 1000 mm", "Measure the face again."),
            Self::Corner(mm, most) => Refused::new(
                format!("corners rounded by {mm:.1} mm"),
                format!("at most half the shorter side, {most:.1} mm"),
                "Measure the rounding at a corner again.",
            ),
            Self::Narrow(mm, wide) => Refused::new(
                format!("a narrow end of {mm:.1} mm"),
                format!("at most the {wide:.1} mm of the wide one"),
                "Turn the piece round, or measure again.",
            ),
            Self::NoFace => Refused::new("points that enclose no face", "three corners at least", "Name them in order round it."),
        }
    }
}
says_its_parts!(OutlineError);

/// A face's outline, with what is to be left alone (ties, skewers, bone ends) as holes in it.
#[derive(Debug, Clone, PartialEq)]
pub struct Outline {
    face: MultiPolygon<f64>,
}

/// Chords of a quarter circle: the area is within 0.08 % of the round one (2π²/3n² with n = 96).
const CHORDS: usize = 24;

fn side(length: Length) -> Result<f64, OutlineError> {
    let mm = length.in_mm();
    if (10.0..=1000.0).contains(&mm) { Ok(mm) } else { Err(OutlineError::Side(mm)) }
}

impl Outline {
    fn of(points: Vec<Coord<f64>>) -> Self {
        Self { face: MultiPolygon::new(vec![Polygon::new(LineString::new(points), vec![])]) }
    }

    /// A slab: a rectangle, its corners rounded by `corner` (0 for square ones).
    pub fn rectangle(length: Length, width: Length, corner: Length) -> Result<Self, OutlineError> {
        let (long, wide) = (side(length)?, side(width)?);
        let (r, most) = (corner.in_mm(), long.min(wide) / 2.0);
        if !(0.0..=most + 1e-9).contains(&r) {
            return Err(OutlineError::Corner(r, most));
        }
        if r <= 0.0 {
            return Ok(Self::of(vec![
                Coord { x: 0.0, y: 0.0 },
                Coord { x: long, y: 0.0 },
                Coord { x: long, y: wide },
                Coord { x: 0.0, y: wide },
            ]));
        }
        // Quarter by quarter, against the clock from the lower right corner.
        let corners = [(long - r, r, -90.0_f64), (long - r, wide - r, 0.0), (r, wide - r, 90.0), (r, r, 180.0)];
        let points = corners.iter().flat_map(|&(cx, cy, from)| {
            (0..=CHORDS).map(move |i| {
                let angle = (from + 90.0 * i as f64 / CHORDS as f64).to_radians();
                Coord { x: cx + r * angle.cos(), y: cy + r * angle.sin() }
            })
        });
        Ok(Self::of(points.collect()))
    }

    /// A slab that narrows from one end to the other, evenly to both sides.
    pub fn tapered(length: Length, width: Length, narrow: Length) -> Result<Self, OutlineError> {
        let (long, wide, narrow) = (side(length)?, side(width)?, side(narrow)?);
        if narrow > wide {
            return Err(OutlineError::Narrow(narrow, wide));
        }
        let off = (wide - narrow) / 2.0;
        Ok(Self::of(vec![
            Coord { x: 0.0, y: 0.0 },
            Coord { x: long, y: off },
            Coord { x: long, y: off + narrow },
            Coord { x: 0.0, y: wide },
        ]))
    }

    /// The breast of a bird from above: round at the neck, pointed at the tail. Half an ellipse of 2/5 of the length,
    /// and a parabola of 3/5 (our estimate).
    pub fn breast(length: Length, width: Length) -> Result<Self, OutlineError> {
        let (long, wide) = (side(length)?, side(width)?);
        let (neck, half) = (long * 0.4, wide / 2.0);
        let mut points = Vec::with_capacity(4 * CHORDS);
        for i in 0..=2 * CHORDS {
            let angle = (90.0 + 180.0 * i as f64 / (2 * CHORDS) as f64).to_radians();
            points.push(Coord { x: neck + neck * angle.cos(), y: half + half * angle.sin() });
        }
        for i in 1..2 * CHORDS {
            let share = i as f64 / CHORDS as f64 - 1.0;
            points.push(Coord { x: neck + long * 0.6 * (1.0 - share * share), y: half + half * share });
        }
        Ok(Self::of(points))
    }

    /// Any outline, by its corners in order round it; 3 to 200 of them.
    pub fn polygon(corners_mm: &[(f64, f64)]) -> Result<Self, OutlineError> {
        let fine = (3..=200).contains(&corners_mm.len()) && corners_mm.iter().all(|(x, y)| x.is_finite() && y.is_finite());
        if !fine || crosses_itself(corners_mm) {
            return Err(OutlineError::NoFace);
        }
        let outline = Self::of(corners_mm.iter().map(|&(x, y)| Coord { x, y }).collect());
        if outline.face.unsigned_area() < 1.0 { Err(OutlineError::NoFace) } else { Ok(outline) }
    }

    /// Several parts lying side by side, by their corners: strips, halves.
    pub(super) fn parts(parts: Vec<Vec<(f64, f64)>>) -> Self {
        let part =
            |corners: Vec<(f64, f64)>| Polygon::new(LineString::new(corners.into_iter().map(|(x, y)| Coord { x, y }).collect()), vec![]);
        Self { face: MultiPolygon::new(parts.into_iter().map(part).collect()) }
    }

    /// What of it lies between two ends along the piece, mm from its left.
    #[must_use]
    pub fn between(&self, from: f64, to: f64) -> Self {
        use geo::BooleanOps;
        self.bounds().map_or_else(|| self.clone(), |bounds| Self { face: self.face.intersection(&band(bounds, from, to)) })
    }

    /// The same face without a band across it that the knife keeps out of: a string, a skewer.
    #[must_use]
    pub fn without_band(&self, at: f64, wide: Length) -> Self {
        use geo::BooleanOps;
        let half = wide.in_mm() / 2.0;
        self.bounds().map_or_else(|| self.clone(), |bounds| Self { face: self.face.difference(&band(bounds, at - half, at + half)) })
    }

    /// The same face without a round zone that the knife keeps out of: a tie, a skewer, a bone end.
    #[must_use]
    pub fn avoiding(&self, at: (f64, f64), radius: Length) -> Self {
        self.avoiding_row(&[at], radius)
    }

    /// The same face without a row of round zones of one size: the bone ends of a rack.
    #[must_use]
    pub fn avoiding_row(&self, row: &[(f64, f64)], radius: Length) -> Self {
        use geo::BooleanOps;
        let r = radius.in_mm();
        // Zones that lie apart are cut out at one go.
        if row.windows(2).all(|pair| (pair[1].0 - pair[0].0).hypot(pair[1].1 - pair[0].1) > 2.0 * r) {
            return Self { face: self.face.difference(&MultiPolygon::new(row.iter().map(|at| zone(*at, r)).collect())) };
        }
        row.iter().fold(self.clone(), |face, at| face.avoiding(*at, radius))
    }

    /// The face less a margin along its edges and round what it avoids; empty where nothing is left.
    #[must_use]
    pub fn inset(&self, margin: Length) -> Self {
        let mm = margin.in_mm();
        if mm <= 0.0 {
            return self.clone();
        }
        match self.face.0.as_slice() {
            [one] if one.interiors().is_empty() => convex_inset(one.exterior(), mm),
            _ => None,
        }
        .unwrap_or_else(|| Self { face: self.face.buffer(-mm) })
    }

    /// Its area, by the shoelace formula.
    pub fn area(&self) -> Area {
        square_decimetres(self.face.unsigned_area() / 1e4)
    }

    /// Length of its edges, those round what it avoids included.
    pub fn edge(&self) -> Length {
        let rings = self.rings();
        let sides = rings.iter().flat_map(|ring| ring.windows(2)).map(|s| (s[1].0 - s[0].0).hypot(s[1].1 - s[0].1));
        crate::units::millimetres(sides.sum())
    }

    /// Left, lower, right and upper end; `None` where nothing is left.
    pub fn bounds(&self) -> Option<(f64, f64, f64, f64)> {
        self.face.bounding_rect().map(|r| (r.min().x, r.min().y, r.max().x, r.max().y))
    }

    /// Rings for drawing: outlines first, each followed by its holes, as (x, y) in millimetres.
    pub fn rings(&self) -> Vec<Vec<(f64, f64)>> {
        let ring = |line: &LineString<f64>| line.coords().map(|c| (c.x, c.y)).collect();
        self.face.iter().flat_map(|p| std::iter::once(p.exterior()).chain(p.interiors())).map(ring).collect()
    }

    /// Turned about the origin, against the clock.
    pub(super) fn turned(&self, degrees: f64) -> Self {
        Self { face: self.face.rotate_around_point(degrees, geo::Point::new(0.0, 0.0)) }
    }

    /// Where a level line at `y` lies on the face: spans from left to right, longer than `shortest`, mm. One clip.
    pub(super) fn level_spans(&self, y: f64, shortest: f64) -> Vec<(f64, f64)> {
        use geo::{BooleanOps, Line, MultiLineString};
        let Some((left, _, right, _)) = self.bounds() else { return vec![] };
        let line = Line::new(Coord { x: left - 1.0, y }, Coord { x: right + 1.0, y });
        let clipped = self.face.clip(&MultiLineString::new(vec![LineString::from(line)]), false);
        let mut spans: Vec<(f64, f64)> = clipped
            .iter()
            .filter_map(|piece| Some((piece.coords().next()?.x, piece.coords().last()?.x)))
            .map(|(a, b)| (a.min(b), a.max(b)))
            .filter(|(a, b)| b - a > shortest)
            .collect();
        spans.sort_by(|a, b| a.0.total_cmp(&b.0));
        // The library may cut a line where it passes a corner; it is one span all the same.
        spans.dedup_by(|next, before| {
            let joined = next.0 - before.1 < shortest;
            if joined {
                before.1 = before.1.max(next.1);
            }
            joined
        });
        spans
    }

    /// Where a level line lies on the face, for holes: the sides it crosses in pairs (even-odd rule). Cost: the corners.
    pub(super) fn row(&self, y: f64) -> Vec<(f64, f64)> {
        let mut crossings: Vec<f64> = Vec::with_capacity(4);
        for line in self.face.iter().flat_map(|p| std::iter::once(p.exterior()).chain(p.interiors())) {
            for side in line.lines() {
                let (a, b) = (side.start, side.end);
                if (a.y > y) != (b.y > y) {
                    crossings.push(a.x + (y - a.y) / (b.y - a.y) * (b.x - a.x));
                }
            }
        }
        crossings.sort_by(f64::total_cmp);
        crossings.chunks_exact(2).map(|pair| (pair[0], pair[1])).collect()
    }

    /// The face itself, as the geometry library has it.
    #[cfg(test)]
    pub(super) fn face(&self) -> &MultiPolygon<f64> {
        &self.face
    }
}

/// Chords lie inside their circle by no more than this, mm.
const SAGITTA: f64 = 0.02;

/// A round zone, in chords.
fn zone((x, y): (f64, f64), r: f64) -> Polygon<f64> {
    let chords = (std::f64::consts::PI / (1.0 - SAGITTA / r.max(2.0 * SAGITTA)).acos()).ceil().max(12.0) as usize;
    let round = (0..chords).map(|i| {
        let angle = std::f64::consts::TAU * i as f64 / chords as f64;
        Coord { x: x + r * angle.cos(), y: y + r * angle.sin() }
    });
    Polygon::new(LineString::new(round.collect()), vec![])
}

/// A convex face less a margin: what lies far enough inside of every side, side by side cut off (Sutherland and Hodgman). `None`
/// where the face is not convex or not drawn against the clock. Cost: the corners, where every side is left; else corners squared.
fn convex_inset(ring: &LineString<f64>, mm: f64) -> Option<Outline> {
    let sides: Vec<(Coord<f64>, Coord<f64>)> =
        ring.lines().map(|l| (l.start, l.end - l.start)).filter(|(_, d)| d.x != 0.0 || d.y != 0.0).collect();
    let turn = |a: Coord<f64>, b: Coord<f64>| a.x * b.y - a.y * b.x;
    if (0..sides.len()).any(|i| turn(sides[i].1, sides[(i + 1) % sides.len()].1) < -1e-9) {
        return None;
    }
    if let Some(corners) = moved_in(&sides, mm) {
        return Some(Outline::of(corners));
    }
    let mut left: Vec<Coord<f64>> = sides.iter().map(|(start, _)| *start).collect();
    let mut cut = Vec::with_capacity(left.len() + 1);
    for (start, along) in &sides {
        let long = along.x.hypot(along.y);
        // How far inside of this side's line, less the margin.
        let inside = |p: Coord<f64>| turn(*along, p - *start) / long - mm;
        cut.clear();
        for (i, &to) in left.iter().enumerate() {
            let from = left[(i + left.len() - 1) % left.len()];
            let (a, b) = (inside(from), inside(to));
            if (a < 0.0) != (b < 0.0) {
                cut.push(from + (to - from) * (a / (a - b)));
            }
            if b >= 0.0 {
                cut.push(to);
            }
        }
        std::mem::swap(&mut left, &mut cut);
    }
    let outline = Outline::of(left);
    Some(if outline.face.unsigned_area() < 1e-9 { Outline { face: MultiPolygon::new(vec![]) } } else { outline })
}

/// The corners where neighbouring sides meet, each moved in; `None` where a side would vanish, which one may if it is short.
///
/// A convex face whose moved sides all keep their direction is just what lies inside of all of them.
fn moved_in(sides: &[(Coord<f64>, Coord<f64>)], mm: f64) -> Option<Vec<Coord<f64>>> {
    let turn = |a: Coord<f64>, b: Coord<f64>| a.x * b.y - a.y * b.x;
    let moved = |(start, along): &(Coord<f64>, Coord<f64>)| {
        let long = along.x.hypot(along.y);
        *start + Coord { x: -along.y, y: along.x } * (mm / long)
    };
    let corner = |i: usize| {
        let (before, after) = (&sides[(i + sides.len() - 1) % sides.len()], &sides[i]);
        let (a, b) = (moved(before), moved(after));
        let meets = turn(before.1, after.1);
        // Nearly straight on: the moved corner is where both sides have it.
        let straight = meets <= 1e-9 * before.1.x.hypot(before.1.y) * after.1.x.hypot(after.1.y);
        if straight { b } else { a + before.1 * (turn(b - a, after.1) / meets) }
    };
    let corners: Vec<Coord<f64>> = (0..sides.len()).map(corner).collect();
    let keeps = |i: usize| {
        let now = corners[(i + 1) % corners.len()] - corners[i];
        now.x * sides[i].1.x + now.y * sides[i].1.y > 0.0
    };
    (sides.len() > 2 && (0..corners.len()).all(keeps)).then_some(corners)
}

/// A band across a face, a little longer than it.
fn band((_, low, _, high): (f64, f64, f64, f64), from: f64, to: f64) -> Polygon<f64> {
    let (low, high) = (low - 1.0, high + 1.0);
    Polygon::new(
        LineString::new(vec![Coord { x: from, y: low }, Coord { x: to, y: low }, Coord { x: to, y: high }, Coord { x: from, y: high }]),
        vec![],
    )
}

/// Whether two sides that are no neighbours meet.
fn crosses_itself(corners: &[(f64, f64)]) -> bool {
    let n = corners.len();
    let turn = |a: (f64, f64), b: (f64, f64), c: (f64, f64)| (b.0 - a.0) * (c.1 - a.1) - (b.1 - a.1) * (c.0 - a.0);
    let meet = |a, b, c, d| turn(a, b, c) * turn(a, b, d) < 0.0 && turn(c, d, a) * turn(c, d, b) < 0.0;
    (0..n)
        .any(|i| (i + 2..n).filter(|j| (j + 1) % n != i).any(|j| meet(corners[i], corners[(i + 1) % n], corners[j], corners[(j + 1) % n])))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::{AreaIn, millimetres};

    fn mm(value: f64) -> Length {
        millimetres(value)
    }

    #[test]
    fn a_regular_face_less_a_margin_is_a_smaller_one() {
        // Closed form: n·tan(π/n)·(a − m)² for n sides whose middles lie a from the centre.
        for n in [3, 4, 7, 64, 180] {
            let at = |i: usize| std::f64::consts::TAU * i as f64 / n as f64;
            let corners: Vec<(f64, f64)> = (0..n).map(|i| (120.0 * at(i).cos(), 120.0 * at(i).sin())).collect();
            let face = Outline::polygon(&corners).unwrap();
            let half = std::f64::consts::PI / n as f64;
            for m in [0.5, 5.0, 20.0, 58.0] {
                let want = n as f64 * half.tan() * (120.0 * half.cos() - m).powi(2) / 1e4;
                let found = face.inset(mm(m)).area().in_dm2();
                assert!((found - want).abs() < 1e-9, "{n} sides, {m} mm: {found} is not {want}");
            }
        }
    }

    #[test]
    fn a_short_side_that_vanishes_leaves_the_others() {
        // By hand: a 100 mm square with one corner cut off by 4 mm; 20 mm further in the cut no longer reaches.
        let cut = Outline::polygon(&[(0.0, 0.0), (96.0, 0.0), (100.0, 4.0), (100.0, 100.0), (0.0, 100.0)]).unwrap();
        assert!((cut.inset(mm(20.0)).area().in_dm2() - 0.36).abs() < 1e-9);
        // 1 mm in it still does: of 98 mm a corner is left out whose legs are 4 − 2 + √2.
        let legs = 2.0 + std::f64::consts::SQRT_2;
        assert!((cut.inset(mm(1.0)).area().in_dm2() * 1e4 - (98.0 * 98.0 - legs * legs / 2.0)).abs() < 1e-6);
    }

    #[test]
    fn areas_have_their_closed_forms() {
        let dm2 = |outline: Outline| outline.area().in_dm2();
        assert!((dm2(Outline::rectangle(mm(300.0), mm(220.0), mm(0.0)).unwrap()) - 6.6).abs() < 1e-12);
        // A rectangle less its corners: a·b − (4 − π)·r², chords within 0.08 % of the circle.
        let round = dm2(Outline::rectangle(mm(300.0), mm(220.0), mm(30.0)).unwrap());
        let closed = 6.6 - (4.0 - std::f64::consts::PI) * 0.09;
        assert!((round - closed).abs() < 0.0008 * std::f64::consts::PI * 0.09, "{round} against {closed}");
        // A trapezium: (220 + 140)/2 × 300.
        assert!((dm2(Outline::tapered(mm(300.0), mm(220.0), mm(140.0)).unwrap()) - 5.4).abs() < 1e-12);
        // Half an ellipse π/4·w·a with a = 0.4·l, and a parabola 2/3·w·0.6·l.
        let breast = dm2(Outline::breast(mm(200.0), mm(150.0)).unwrap());
        let closed = (std::f64::consts::FRAC_PI_4 * 150.0 * 80.0 + 2.0 / 3.0 * 150.0 * 120.0) / 1e4;
        assert!((breast / closed - 1.0).abs() < 2e-3, "{breast} against {closed}");
    }

    #[test]
    fn the_margin_and_what_is_avoided_are_taken_off() {
        let slab = Outline::rectangle(mm(300.0), mm(220.0), mm(0.0)).unwrap();
        assert!((slab.inset(mm(5.0)).area().in_dm2() - 2.9 * 2.1).abs() < 1e-6);
        let tied = slab.avoiding((150.0, 110.0), mm(20.0));
        assert!((tied.area().in_dm2() - (6.6 - std::f64::consts::PI * 0.04)).abs() < 1e-3 && tied.rings().len() == 2);
        // The margin goes round the zone as well.
        let inset = tied.inset(mm(5.0)).area().in_dm2();
        assert!((inset - (2.9 * 2.1 - std::f64::consts::PI * 0.0625)).abs() < 1e-3, "{inset}");
        assert!(slab.inset(mm(120.0)).bounds().is_none(), "nothing is left");
    }

    #[test]
    fn a_convex_face_is_inset_as_the_geometry_library_does_it() {
        let faces = [
            Outline::rectangle(mm(300.0), mm(220.0), mm(0.0)),
            Outline::rectangle(mm(300.0), mm(220.0), mm(30.0)),
            Outline::tapered(mm(300.0), mm(220.0), mm(140.0)),
            Outline::breast(mm(200.0), mm(150.0)),
        ];
        for face in faces.map(Result::unwrap) {
            for margin in [2.0, 5.0, 35.0, 74.0] {
                let own = convex_inset(face.face.0[0].exterior(), margin).unwrap();
                let library = face.face.buffer(-margin);
                assert!((own.face.unsigned_area() - library.unsigned_area()).abs() < 0.5, "{margin}: {}", library.unsigned_area());
                let (own, library) = (own.bounds(), Outline { face: library }.bounds());
                let near = |a: f64, b: f64| (a - b).abs() < 0.05;
                assert!(own.zip(library).is_none_or(|(a, b)| near(a.0, b.0) && near(a.1, b.1) && near(a.2, b.2) && near(a.3, b.3)));
                assert_eq!(own.is_some(), library.is_some(), "{margin}");
            }
        }
        let dented = Outline::polygon(&[(0.0, 0.0), (100.0, 0.0), (60.0, 40.0), (100.0, 100.0), (0.0, 100.0)]).unwrap();
        assert!(convex_inset(dented.face.0[0].exterior(), 5.0).is_none() && dented.inset(mm(5.0)).bounds().is_some());
    }

    #[test]
    fn bands_and_thirds_are_cut_off_and_the_edge_is_measured() {
        let slab = Outline::rectangle(mm(300.0), mm(220.0), mm(0.0)).unwrap();
        // By hand: 2 × (300 + 220); a third of 6.6 dm²; a string of 8 mm takes 8 × 220 mm².
        assert!((slab.edge().in_mm() - 1040.0).abs() < 1e-9);
        assert!((slab.between(100.0, 200.0).area().in_dm2() - 2.2).abs() < 1e-9);
        let tied = slab.without_band(150.0, mm(8.0));
        assert!((tied.area().in_dm2() - (6.6 - 0.176)).abs() < 1e-9 && tied.rings().len() == 2, "two parts are left");
        // A row for holes is the same span that the library's clip gives.
        let breast = Outline::breast(mm(200.0), mm(150.0)).unwrap().avoiding((80.0, 70.0), mm(15.0));
        for y in [11.3, 40.7, 70.1, 99.9, 131.0] {
            let (rows, spans) = (breast.row(y), breast.level_spans(y, 1e-3));
            assert_eq!(rows.len(), spans.len(), "{y}");
            assert!(rows.iter().zip(&spans).all(|(a, b)| (a.0 - b.0).abs() < 1e-6 && (a.1 - b.1).abs() < 1e-6), "{y}: {rows:?} {spans:?}");
        }
    }

    #[test]
    fn what_is_no_face_is_refused() {
        assert_eq!(Outline::rectangle(mm(5.0), mm(220.0), mm(0.0)), Err(OutlineError::Side(5.0)));
        assert_eq!(Outline::rectangle(mm(300.0), mm(220.0), mm(111.0)), Err(OutlineError::Corner(111.0, 110.0)));
        assert!(matches!(Outline::tapered(mm(300.0), mm(100.0), mm(220.0)), Err(OutlineError::Narrow(..))));
        assert_eq!(Outline::polygon(&[(0.0, 0.0), (10.0, 10.0)]), Err(OutlineError::NoFace));
        assert_eq!(Outline::polygon(&[(0.0, 0.0), (100.0, 100.0), (100.0, 0.0), (0.0, 100.0)]), Err(OutlineError::NoFace), "a bow tie");
        assert!(Outline::polygon(&[(0.0, 0.0), (100.0, 0.0), (60.0, 40.0), (100.0, 100.0), (0.0, 100.0)]).is_ok(), "concave is fine");
    }
}
