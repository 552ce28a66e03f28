//! Holes over any outline: a lattice centred in its cells, and the largest gap it leaves.

use super::outline::Outline;
use super::score::Family;
use crate::refusing::{Refused, says_its_parts};
use crate::units::{Length, LengthIn, millimetres};

/// How the holes lie.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Lattice {
    /// In rows and columns.
    Square,
    /// Every second row moved by half a step: the same holes leave smaller gaps.
    Hexagonal,
}

impl Lattice {
    /// Distance between neighbours at a density: s = 1/√n on a square lattice, √(2/(√3·n)) on a hexagonal one.
    pub fn spacing(self, per_cm2: f64) -> Length {
        let cm = match self {
            Self::Square => 1.0 / per_cm2.sqrt(),
            Self::Hexagonal => (2.0 / (3.0_f64.sqrt() * per_cm2)).sqrt(),
        };
        millimetres(cm * 10.0)
    }

    /// Radius of the biggest circle without a hole, away from edges: s/√2 and s/√3 (TRADE 5.4).
    pub fn interior_gap(self, spacing: Length) -> Length {
        match self {
            Self::Square => spacing / std::f64::consts::SQRT_2,
            Self::Hexagonal => spacing / 3.0_f64.sqrt(),
        }
    }
}

/// Holes over a face.
#[derive(Debug, Clone, PartialEq)]
pub struct Holes {
    /// The lattice they lie in.
    pub lattice: Lattice,
    /// Distance between neighbours.
    pub spacing: Length,
    /// Every hole, mm, row by row.
    pub at: Vec<(f64, f64)>,
    /// Radius of the biggest circle inside the face without a hole, found on this very face.
    pub largest_gap: Length,
    /// Where the widest gap is, mm across and along.
    pub gap_at: (f64, f64),
    /// The rows, for the edge strips.
    pub rows: Family,
}

/// Why nothing can be pierced.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct DensityError(pub f64);

impl DensityError {
    /// What was typed, what is allowed, what to do.
    pub fn refused(&self) -> Refused {
        let typed = format!("{} holes a square centimetre", self.0);
        Refused::new(typed, "between 0.25 and 25", "4 are sparse, 8 good, 15 thorough.")
    }
}
says_its_parts!(DensityError);

/// A lattice of holes over an outline less its margin, centred in its cells.
///
/// `per_cm2` 0.25–25. Cost: the outline's corners twice a row; the gap is looked for along the edge only, since inside it is the lattice's own.
pub fn pierce_outline(outline: &Outline, lattice: Lattice, per_cm2: f64, margin: Length) -> Result<Holes, DensityError> {
    if !(0.25..=25.0).contains(&per_cm2) {
        return Err(DensityError(per_cm2));
    }
    let inner = outline.inset(margin);
    let spacing = lattice.spacing(per_cm2);
    let s = spacing.in_mm();
    let Some((left, low, right, high)) = inner.bounds() else {
        let rows = Family { direction: 0.0, first: 0.0, spacing: s, lines: 0 };
        return Ok(Holes { lattice, spacing, at: vec![], largest_gap: millimetres(0.0), gap_at: (0.0, 0.0), rows });
    };
    let rise = if lattice == Lattice::Square { s } else { s * 3.0_f64.sqrt() / 2.0 };
    // Whole rows and columns, centred, so that both ends look alike.
    let rows = ((high - low) / rise).round().max(1.0) as usize;
    let first_y = f64::midpoint(low, high) - (rows - 1) as f64 * rise / 2.0;
    let columns = ((right - left) / s).round().max(1.0) as usize;
    let first_x = f64::midpoint(left, right) - (columns - 1) as f64 * s / 2.0;
    let mut at = Vec::with_capacity(rows * (columns + 1));
    let mut edge = Vec::new();
    let level = |row: usize| first_y + row as f64 * rise;
    let (mut below, mut spans): (Vec<(f64, f64)>, _) = (vec![], inner.row(level(0)));
    for row in 0..rows {
        let y = level(row);
        let shift = if lattice == Lattice::Hexagonal && row % 2 == 1 { s / 2.0 } else { 0.0 };
        let back = usize::from(shift > 0.0);
        let from = at.len();
        let start = first_x - shift;
        for (a, b) in &spans {
            let column = |x: f64| ((x - start) / s).clamp(-1.0, (columns + back) as f64);
            let (from, to) = (column(*a).ceil().max(0.0) as usize, column(*b).floor());
            let to = if to < 0.0 { 0 } else { (to as usize + 1).min(columns + back) };
            at.extend((from..to).map(|column| (start + column as f64 * s, y)));
        }
        // Deep inside, where the spans of this row and its neighbours reach a whole step further, the gap is the lattice's own.
        let above = inner.row(level(row + 1));
        let deep = |x: f64| [&spans, &below, &above].iter().all(|row| row.iter().any(|(a, b)| x - 2.0 * s >= *a && x + 2.0 * s <= *b));
        edge.extend(at[from..].iter().filter(|(x, _)| !deep(*x)));
        below = std::mem::replace(&mut spans, above);
    }
    // One hole of the inside stands for all of them.
    let inside = at.get(at.len() / 2).copied();
    edge.extend(inside);
    let (largest_gap, gap_at) = largest_gap(&inner, lattice, &at, &edge, s);
    let rows = Family { direction: 0.0, first: first_y, spacing: rise, lines: rows };
    Ok(Holes { lattice, spacing, at, largest_gap: millimetres(largest_gap), gap_at, rows })
}

/// Holes by cells of the spacing's size, so that a neighbour is found without looking at all of them.
struct Buckets<'a> {
    holes: &'a [(f64, f64)],
    /// Holes in the order of their cells, and where each cell's begin.
    order: Vec<u32>,
    begins: Vec<u32>,
    left: f64,
    low: f64,
    columns: i64,
    rows: i64,
    size: f64,
}

impl<'a> Buckets<'a> {
    fn of(holes: &'a [(f64, f64)], size: f64) -> Self {
        let least = |of: fn(&(f64, f64)) -> f64| holes.iter().map(of).fold(f64::INFINITY, f64::min);
        let most = |of: fn(&(f64, f64)) -> f64| holes.iter().map(of).fold(f64::NEG_INFINITY, f64::max);
        let (left, low) = (least(|h| h.0), least(|h| h.1));
        let cells = |span: f64| ((span / size).floor() as i64 + 1).clamp(1, 4000);
        let (columns, rows) = (cells(most(|h| h.0) - left), cells(most(|h| h.1) - low));
        let mut buckets =
            Self { holes, order: vec![0; holes.len()], begins: vec![0; (columns * rows) as usize + 1], left, low, columns, rows, size };
        let cell = |hole: &(f64, f64)| {
            let column = (((hole.0 - left) / size) as i64).clamp(0, columns - 1);
            let row = (((hole.1 - low) / size) as i64).clamp(0, rows - 1);
            (row * columns + column) as usize
        };
        // Counting sort: how many a cell, where each begins, then every hole in its place.
        for hole in holes {
            buckets.begins[cell(hole) + 1] += 1;
        }
        for i in 1..buckets.begins.len() {
            buckets.begins[i] += buckets.begins[i - 1];
        }
        let mut next = buckets.begins.clone();
        for (i, hole) in holes.iter().enumerate() {
            let at = &mut next[cell(hole)];
            buckets.order[*at as usize] = i as u32;
            *at += 1;
        }
        buckets
    }

    fn in_cell(&self, column: i64, row: i64) -> impl Iterator<Item = &'a (f64, f64)> + '_ {
        let inside = (0..self.columns).contains(&column) && (0..self.rows).contains(&row);
        let range = if inside {
            let cell = (row * self.columns + column) as usize;
            self.begins[cell] as usize..self.begins[cell + 1] as usize
        } else {
            0..0
        };
        let holes = self.holes;
        self.order[range].iter().map(move |i| &holes[*i as usize])
    }

    /// Distance to the nearest hole, looking outwards ring by ring; or to any that is no further away than `enough`.
    fn nearest(&self, x: f64, y: f64, enough: f64) -> f64 {
        let (cx, cy) = (((x - self.left) / self.size).floor() as i64, ((y - self.low) / self.size).floor() as i64);
        let (mut best, mut nearest) = (f64::INFINITY, f64::INFINITY);
        for ring in 0..64_i64 {
            // Whatever lies in this ring is at least (ring − 1) cells away.
            if (ring - 1) as f64 * self.size > best {
                break;
            }
            for dx in -ring..=ring {
                // Only its rim: whole columns at both sides, else the two ends.
                let apart = if dx.abs() == ring { 1 } else { 2 * ring };
                for dy in (-ring..=ring).step_by(apart.max(1) as usize) {
                    for hole in self.in_cell(cx + dx, cy + dy) {
                        let (along, across) = (hole.0 - x, hole.1 - y);
                        nearest = nearest.min(along * along + across * across);
                    }
                    if nearest <= enough * enough {
                        return nearest.sqrt();
                    }
                }
            }
            best = nearest.sqrt();
        }
        best
    }
}

/// The biggest circle without a hole whose middle lies on the face: its middle is a corner between cells, or on the edge.
fn largest_gap(inner: &Outline, lattice: Lattice, holes: &[(f64, f64)], edge: &[(f64, f64)], s: f64) -> (f64, (f64, f64)) {
    if holes.is_empty() {
        return (0.0, (0.0, 0.0));
    }
    let buckets = Buckets::of(holes, s);
    let mut worst = (0.0, holes[0]);
    let mut look = |x: f64, y: f64| {
        // Most places have a hole nearer than the worst gap so far, and need look no further.
        let gap = buckets.nearest(x, y, worst.0);
        if gap > worst.0 && gap.is_finite() {
            worst = (gap, (x, y));
        }
    };
    // Deep points: the corners of each hole's cell, a square or a hexagon.
    let third = s / 3.0_f64.sqrt();
    let half = s / 2.0;
    let corners: &[(f64, &[f64])] = match lattice {
        Lattice::Square => &[(half, &[-half, half]), (-half, &[-half, half])],
        Lattice::Hexagonal => &[(third, &[0.0]), (-third, &[0.0]), (third / 2.0, &[-half, half]), (-third / 2.0, &[-half, half])],
    };
    // Holes come row by row: the face is cut once at each height that the corners of a row's cells have.
    for row in edge.chunk_by(|a, b| a.1 == b.1) {
        for (height, asides) in corners {
            let y = row[0].1 + height;
            let spans = inner.row(y);
            let mut last = f64::NEG_INFINITY;
            for x in row.iter().flat_map(|(x, _)| asides.iter().map(move |aside| x + aside)) {
                // Neighbours share a corner.
                if x - last > 1e-6 * s && spans.iter().any(|(a, b)| *a < x && x < *b) {
                    last = x;
                    look(x, y);
                }
            }
        }
    }
    // Along every edge in steps of a quarter of the spacing.
    for ring in inner.rings() {
        for pair in ring.windows(2) {
            let ((x1, y1), (x2, y2)) = (pair[0], pair[1]);
            let steps = ((x2 - x1).hypot(y2 - y1) / (s / 4.0)).ceil().max(1.0) as usize;
            for i in 0..=steps {
                let share = i as f64 / steps as f64;
                look(x1 + (x2 - x1) * share, y1 + (y2 - y1) * share);
            }
        }
    }
    worst
}

#[cfg(test)]
mod tests {
    use super::*;

    fn slab(long: f64, wide: f64) -> Outline {
        Outline::rectangle(millimetres(long), millimetres(wide), millimetres(0.0)).unwrap()
    }

    fn none() -> Length {
        millimetres(0.0)
    }

    #[test]
    fn the_worked_face() {
        // TRADE 5.4: 660 cm² × 8 = 5,280 nominal, 85 × 62 = 5,270 on a square lattice, before margin.
        let holes = pierce_outline(&slab(300.0, 220.0), Lattice::Square, 8.0, none()).unwrap();
        assert_eq!(holes.at.len(), 5270);
    }

    #[test]
    fn density_is_within_one_per_cent_on_large_faces() {
        for lattice in [Lattice::Square, Lattice::Hexagonal] {
            for per_cm2 in [4.0, 8.0, 15.0] {
                let holes = pierce_outline(&slab(420.0, 310.0), lattice, per_cm2, none()).unwrap().at.len() as f64;
                let nominal = 42.0 * 31.0 * per_cm2;
                assert!((holes / nominal - 1.0).abs() < 0.01, "{lattice:?} {per_cm2}: {holes} of {nominal}");
            }
        }
    }

    #[test]
    fn the_gap_inside_has_its_closed_form() {
        // s/√2 on a square lattice that fills its face in whole cells: 10 mm of 1/cm² on 200 × 100 mm.
        let square = pierce_outline(&slab(200.0, 100.0), Lattice::Square, 1.0, none()).unwrap();
        assert_eq!(square.at.len(), 200);
        assert!((square.largest_gap.in_mm() - 10.0 / std::f64::consts::SQRT_2).abs() < 1e-9, "{}", square.largest_gap.in_mm());
        // s/√3 between three neighbours of a hexagonal one: the nearest hole of such a deep point.
        let hex = pierce_outline(&slab(200.0, 150.0), Lattice::Hexagonal, 1.0, none()).unwrap();
        let s = hex.spacing.in_mm();
        let buckets = Buckets::of(&hex.at, s);
        let inside = |(x, y): &&(f64, f64)| (40.0..160.0).contains(x) && (40.0..110.0).contains(y);
        let deepest = hex.at.iter().filter(inside).map(|&(x, y)| buckets.nearest(x, y + s / 3.0_f64.sqrt(), 0.0)).fold(0.0, f64::max);
        assert!((deepest - hex.lattice.interior_gap(hex.spacing).in_mm()).abs() < 1e-9, "{deepest}");
    }

    #[test]
    fn a_tie_is_kept_out_and_its_edge_is_pierced_like_any_other() {
        // A zone of r 25 mm kept free: from its middle the nearest hole is at least 25 mm away, and the middle is not face.
        let tied = slab(300.0, 220.0).avoiding((100.0, 110.0), millimetres(25.0));
        let holes = pierce_outline(&tied, Lattice::Square, 8.0, none()).unwrap();
        assert!(holes.at.iter().all(|(x, y)| (x - 100.0).hypot(y - 110.0) >= 24.9));
        assert!(holes.at.len() < 5270 && holes.largest_gap.in_mm() < 5.0, "the edge of the zone is pierced like any edge");
    }

    #[test]
    fn absurd_densities_are_named() {
        assert!(pierce_outline(&slab(300.0, 220.0), Lattice::Square, 100.0, none()).unwrap_err().to_string().contains("8 good"));
    }
}
