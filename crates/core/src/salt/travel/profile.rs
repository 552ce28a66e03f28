//! Reading a profile: evenness, salted depth, the three mouthfuls.

use super::Tissue;
use crate::units::{Evenness, GramsPerDm2, GramsPerKg, Length, millimetres};

/// One cell of a profile.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Cell {
    /// Distance of its upper edge from the top of the piece, mm.
    pub top_mm: f64,
    /// Distance of its lower edge, mm.
    pub bottom_mm: f64,
    /// What it is made of.
    pub tissue: Tissue,
    /// Grams of salt per kilogram of tissue.
    pub g_per_kg: f64,
    /// How much it counts in a slice: its width in a slab, its volume in something round, mm.
    pub weight: f64,
}

impl Cell {
    fn width(&self) -> f64 {
        self.bottom_mm - self.top_mm
    }
}

/// Salt through the thickness at one moment.
#[derive(Debug, Clone, PartialEq)]
pub struct Profile {
    /// From the top of the piece down.
    pub cells: Vec<Cell>,
    /// Dry salt still waiting on the top and bottom face.
    pub waiting: [GramsPerDm2; 2],
    /// Which of them were salted at all.
    pub salted: [bool; 2],
}

/// Depth of the first mouthful, mm (TRADE 1.2: mean of the outer 5 mm).
const RIM_MM: f64 = 5.0;

impl Profile {
    pub(super) fn new(cells: Vec<Cell>, waiting: [GramsPerDm2; 2], salted: [bool; 2]) -> Self {
        Self { cells, waiting, salted }
    }

    /// Thickness of the piece, mm.
    pub fn thickness_mm(&self) -> f64 {
        self.cells.last().map_or(0.0, |c| c.bottom_mm)
    }

    /// Lowest concentration in the lean ÷ mean of the lean; 0 while nothing has gone in.
    pub fn evenness(&self) -> Evenness {
        let mean = self.lean_mean();
        let least = self.lean().map(|c| c.g_per_kg).fold(f64::INFINITY, f64::min);
        Evenness(if mean > 1e-12 { (least / mean).clamp(0.0, 1.0) } else { 0.0 })
    }

    /// From the salted faces inwards, as far as the concentration is at least half the lean's mean.
    ///
    /// The deeper of the two when both faces are salted; the whole thickness when it never falls below.
    pub fn salted_depth(&self) -> Length {
        let mean = self.lean_mean();
        if mean <= 1e-12 {
            return millimetres(0.0);
        }
        let from_top = || self.depth_along(self.cells.iter().map(|c| (f64::midpoint(c.top_mm, c.bottom_mm), c.g_per_kg, c.tissue)), mean);
        let thickness = self.thickness_mm();
        let from_bottom = || {
            let cells = self.cells.iter().rev();
            self.depth_along(cells.map(|c| (thickness - f64::midpoint(c.top_mm, c.bottom_mm), c.g_per_kg, c.tissue)), mean)
        };
        let mut deepest: f64 = 0.0;
        if self.salted[0] {
            deepest = deepest.max(from_top());
        }
        if self.salted[1] {
            deepest = deepest.max(from_bottom());
        }
        millimetres(deepest)
    }

    fn depth_along(&self, cells: impl Iterator<Item = (f64, f64, Tissue)>, mean: f64) -> f64 {
        let half = mean / 2.0;
        let mut before: Option<(f64, f64)> = None;
        for (x, c, tissue) in cells {
            // Skin and fat hold little; what is asked is how far the lean is seasoned.
            if tissue != Tissue::Lean {
                continue;
            }
            if c < half {
                return before.map_or(0.0, |(x0, c0)| x0 + (x - x0) * (c0 - half) / (c0 - c));
            }
            before = Some((x, c));
        }
        if before.is_some() { self.thickness_mm() } else { 0.0 }
    }

    /// Mean of the outer 5 mm of the saltiest salted face.
    pub fn rim(&self) -> GramsPerKg {
        let thickness = self.thickness_mm();
        let depth = RIM_MM.min(thickness);
        let mut rim: f64 = 0.0;
        if self.salted[0] {
            rim = rim.max(self.mean_between(0.0, depth));
        }
        if self.salted[1] {
            rim = rim.max(self.mean_between(thickness - depth, thickness));
        }
        GramsPerKg(rim)
    }

    /// The same with one end left out: what a bed or a crust leaves in skin is its crackling’s salt, no mouthful of meat.
    #[must_use]
    pub fn without_end(mut self, end: usize) -> Self {
        self.salted[end] = false;
        self
    }

    /// Outer 5 mm of the saltier side, g/kg, for a profile that no longer knows which side was salted.
    pub fn rim_of_saltier_side(&self) -> f64 {
        let thickness = self.thickness_mm();
        let depth = RIM_MM.min(thickness);
        self.mean_between(0.0, depth).max(self.mean_between(thickness - depth, thickness))
    }

    /// The least salted place of the lean.
    pub fn middle(&self) -> GramsPerKg {
        let least = self.lean().map(|c| c.g_per_kg).fold(f64::INFINITY, f64::min);
        GramsPerKg(if least.is_finite() { least.max(0.0) } else { 0.0 })
    }

    /// Mean through the whole slice.
    pub fn slice(&self) -> GramsPerKg {
        GramsPerKg(self.mean_between(0.0, self.thickness_mm()))
    }

    /// Salt that has gone into a column of one square decimetre: mean × thickness × the solver's tissue density.
    pub fn load(&self) -> GramsPerDm2 {
        // 1 dm² × 1 mm is 0.01 L.
        GramsPerDm2(self.slice().0 * self.thickness_mm() * 0.01 * super::tissue::TISSUE_DENSITY / 1000.0)
    }

    /// Mean of the lean.
    pub fn lean_mean(&self) -> f64 {
        let (salt, weight) = self.lean().fold((0.0, 0.0), |(s, w), c| (s + c.g_per_kg * c.weight, w + c.weight));
        if weight > 0.0 { salt / weight } else { 0.0 }
    }

    /// Mean between two depths from the top, mm.
    pub fn mean_between(&self, from_mm: f64, to_mm: f64) -> f64 {
        let (mut salt, mut weight) = (0.0, 0.0);
        for cell in &self.cells {
            if cell.bottom_mm <= from_mm || cell.top_mm >= to_mm {
                continue;
            }
            let whole = cell.top_mm >= from_mm && cell.bottom_mm <= to_mm;
            let within = if whole { 1.0 } else { (cell.bottom_mm.min(to_mm) - cell.top_mm.max(from_mm)) / cell.width().max(1e-12) };
            salt += cell.g_per_kg * cell.weight * within;
            weight += cell.weight * within;
        }
        if weight > 0.0 { salt / weight } else { 0.0 }
    }

    /// A profile read back from `(lower edge mm, g/kg)` pairs, as the contract writes it.
    ///
    /// Tissues and what waits outside are not in the pairs; only depths of grains and means make sense.
    pub fn from_points(points: &[(f64, f64)]) -> Self {
        let mut top_mm = 0.0;
        let cells = points.iter().map(|&(bottom_mm, g_per_kg)| {
            let cell = Cell { top_mm, bottom_mm, tissue: Tissue::Lean, g_per_kg, weight: bottom_mm - top_mm };
            top_mm = bottom_mm;
            cell
        });
        Self::new(cells.collect(), [GramsPerDm2(0.0); 2], [false; 2])
    }

    /// Depths (mm from the top) of `n` equal grains of the salt that has gone in, evenly through
    /// its distribution: grain i sits where (i + ½)/n of the salt lies above it.
    pub fn grain_depths(&self, n: usize) -> Vec<f64> {
        let total: f64 = self.cells.iter().map(|c| c.g_per_kg.max(0.0) * c.width()).sum();
        if total <= 0.0 {
            return vec![];
        }
        let mut depths = Vec::with_capacity(n);
        let (mut above, mut cells) = (0.0, self.cells.iter());
        let mut cell = cells.next();
        for i in 0..n {
            let wanted = (i as f64 + 0.5) / n as f64 * total;
            while let Some(here) = cell {
                let holds = here.g_per_kg.max(0.0) * here.width();
                if above + holds >= wanted && holds > 0.0 {
                    depths.push(here.top_mm + (wanted - above) / holds * here.width());
                    break;
                }
                above += holds;
                cell = cells.next();
            }
        }
        depths
    }

    fn lean(&self) -> impl Iterator<Item = &Cell> {
        self.cells.iter().filter(|c| c.tissue == Tissue::Lean)
    }
}
