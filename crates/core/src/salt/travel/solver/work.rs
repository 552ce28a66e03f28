//! What a step is solved with: conductances, capacities and buffers, and how far salt has come from either end.

use super::super::metric::Metric;
use super::super::tissue::{Layer, diffusivity};
use crate::numeric::Tridiagonal;
use crate::salt::travel::tissue::TISSUE_DENSITY;
use crate::units::celsius;
use std::ops::Range;

/// Buffers and conductances, kept between steps.
#[derive(Default)]
pub(super) struct Work {
    /// Conductance between cell i and i + 1 at 4 °C, kg tissue/(m² s).
    pub(super) between: Vec<f64>,
    /// Conductance of a half-cell at each end at 4 °C.
    pub(super) ends: [f64; 2],
    pub(super) capacity: Vec<f64>,
    pub(super) flows: Vec<f64>,
    pub(super) low: Vec<f64>,
    pub(super) mid: Vec<f64>,
    pub(super) up: Vec<f64>,
    pub(super) stage: Vec<f64>,
    pub(super) next: Vec<f64>,
    /// Where there is salt: from the top down and from the bottom up, or all of it once they meet. What lies between has none
    /// yet, and nothing has to be solved there.
    pub(super) regions: Vec<Region>,
}

/// A run of cells that salt has come to.
pub(super) struct Region {
    pub(super) cells: Range<usize>,
    pub(super) matrix: Tridiagonal,
    /// What `matrix` was factored for: α and which ends are saturated.
    pub(super) factored: Option<(f64, [bool; 2])>,
}

impl Region {
    pub(super) fn of(cells: Range<usize>) -> Self {
        Self { cells, matrix: Tridiagonal::default(), factored: None }
    }
}

impl Work {
    pub(super) fn new(layers: &[Layer], dx: &[f64], water: &[f64], of_layer: &[usize], metric: Metric) -> Self {
        let four = celsius(4.0);
        let thick: f64 = dx.iter().sum();
        let mut edges = vec![0.0];
        edges.extend(dx.iter().scan(0.0, |at, dx| {
            *at += dx;
            Some(*at)
        }));
        let area = |i: usize| metric.area(edges[i], thick);
        let half = |i: usize| dx[i] / 2.0 / (TISSUE_DENSITY * water[i] * diffusivity(layers[of_layer[i]].tissue, four));
        let n = dx.len();
        let ends = if n == 0 { [0.0; 2] } else { [area(0) / half(0), area(n) / half(n - 1)] };
        Self {
            between: (1..n).map(|i| area(i) / (half(i - 1) + half(i))).collect(),
            ends,
            capacity: (0..n).map(|i| TISSUE_DENSITY * water[i] * metric.volume(edges[i], edges[i + 1], thick)).collect(),
            stage: vec![0.0; n],
            next: vec![0.0; n],
            ..Self::default()
        }
    }

    /// Sets how far salt has come from either end.
    pub(super) fn reach(&mut self, n: usize, from_top: usize, from_bottom: usize) {
        self.regions.clear();
        if from_top + from_bottom >= n {
            self.regions.push(Region::of(0..n));
            return;
        }
        for cells in [0..from_top, n - from_bottom..n] {
            if !cells.is_empty() {
                self.regions.push(Region::of(cells));
            }
        }
    }

    pub(super) fn factor(&mut self, region: usize, alpha: f64, saturated: [bool; 2]) {
        let n = self.capacity.len();
        let Region { cells, matrix, factored } = &mut self.regions[region];
        if *factored == Some((alpha, saturated)) {
            return;
        }
        self.low.clear();
        self.mid.clear();
        self.up.clear();
        for i in cells.clone() {
            // Nothing passes the edge of a region.
            let before = if i > cells.start { alpha * self.between[i - 1] } else { 0.0 };
            let after = if i + 1 < cells.end { alpha * self.between[i] } else { 0.0 };
            let mut mid = self.capacity[i] + before + after;
            if i == 0 && saturated[0] {
                mid += alpha * self.ends[0];
            }
            if i + 1 == n && saturated[1] {
                mid += alpha * self.ends[1];
            }
            self.low.push(-before);
            self.mid.push(mid);
            self.up.push(-after);
        }
        matrix.factor(&self.low, &self.mid, &self.up);
        *factored = Some((alpha, saturated));
    }
}
