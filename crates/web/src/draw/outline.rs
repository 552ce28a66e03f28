//! Outlines of faces in millimetres: boxes, rounds, and the parts of a bird scaled to their area.

/// A closed outline, mm.
#[derive(Debug, Clone, PartialEq)]
pub struct Outline(pub Vec<(f64, f64)>);

impl Outline {
    /// A rectangle.
    pub fn rectangle(x: f64, y: f64, wide: f64, high: f64) -> Self {
        Self(vec![(x, y), (x + wide, y), (x + wide, y + high), (x, y + high)])
    }

    /// An ellipse around a centre.
    pub fn ellipse((cx, cy): (f64, f64), rx: f64, ry: f64) -> Self {
        let at = |i: u32| f64::from(i) / 48.0 * std::f64::consts::TAU;
        Self((0..48).map(|i| (cx + rx * at(i).cos(), cy + ry * at(i).sin())).collect())
    }

    /// A shape known by its corners, rounded, scaled to an area in dm² and laid with its upper left corner at a point.
    pub fn of_area(corners: &[(f64, f64)], dm2: f64, x: f64, y: f64) -> Self {
        let raw = Self(rounded(corners));
        let times = (dm2 * 1e4 / raw.area_mm2()).sqrt();
        let (left, top, ..) = raw.bounds();
        Self(raw.0.iter().map(|(px, py)| (x + (px - left) * times, y + (py - top) * times)).collect())
    }

    /// Area by the shoelace formula, mm².
    pub fn area_mm2(&self) -> f64 {
        let points = &self.0;
        let twice: f64 = (0..points.len())
            .map(|i| {
                let ((x1, y1), (x2, y2)) = (points[i], points[(i + 1) % points.len()]);
                x1 * y2 - x2 * y1
            })
            .sum();
        (twice / 2.0).abs()
    }

    /// Left, top, right, bottom.
    pub fn bounds(&self) -> (f64, f64, f64, f64) {
        self.0.iter().fold((f64::MAX, f64::MAX, f64::MIN, f64::MIN), |(l, t, r, b), (x, y)| (l.min(*x), t.min(*y), r.max(*x), b.max(*y)))
    }

    /// Whether a point lies inside (even-odd rule).
    pub fn holds(&self, x: f64, y: f64) -> bool {
        let points = &self.0;
        let mut inside = false;
        for i in 0..points.len() {
            let ((x1, y1), (x2, y2)) = (points[i], points[(i + 1) % points.len()]);
            if (y1 > y) != (y2 > y) && x < (x2 - x1) * (y - y1) / (y2 - y1) + x1 {
                inside = !inside;
            }
        }
        inside
    }
}

/// Corners cut twice (Chaikin), so that nothing grown on an animal has a point.
fn rounded(corners: &[(f64, f64)]) -> Vec<(f64, f64)> {
    let mut points = corners.to_vec();
    for _ in 0..3 {
        points = (0..points.len())
            .flat_map(|i| {
                let ((x1, y1), (x2, y2)) = (points[i], points[(i + 1) % points.len()]);
                [(0.75 * x1 + 0.25 * x2, 0.75 * y1 + 0.25 * y2), (0.25 * x1 + 0.75 * x2, 0.25 * y1 + 0.75 * y2)]
            })
            .collect();
    }
    points
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn areas_have_their_closed_forms() {
        assert!((Outline::rectangle(3.0, 4.0, 30.0, 20.0).area_mm2() - 600.0).abs() < 1e-9);
        // 48 chords of an ellipse: n/2 · sin(2π/n) · a·b, within 0.3 % of π·a·b.
        let round = Outline::ellipse((0.0, 0.0), 50.0, 20.0).area_mm2();
        assert!((round / (std::f64::consts::PI * 1000.0) - 1.0).abs() < 3e-3, "{round}");
        let scaled = Outline::of_area(&[(0.0, 0.0), (10.0, 0.0), (12.0, 9.0), (4.0, 14.0)], 2.5, 7.0, 8.0);
        assert!((scaled.area_mm2() - 25_000.0).abs() < 1e-6);
        let (left, top, ..) = scaled.bounds();
        assert!((left - 7.0).abs() < 1e-9 && (top - 8.0).abs() < 1e-9);
    }

    #[test]
    fn a_point_is_inside_or_not() {
        let square = Outline::rectangle(0.0, 0.0, 10.0, 10.0);
        assert!(square.holds(5.0, 5.0) && !square.holds(11.0, 5.0) && !square.holds(5.0, -1.0));
    }
}
