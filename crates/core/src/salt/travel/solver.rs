//! Finite volumes in space, TR-BDF2 in time, graded steps, mass conserved to rounding.

use super::metric::Metric;
use super::profile::{Cell, Profile};
use super::tissue::{Layer, clock_rate, diffusivity};
use crate::numeric::Tridiagonal;
use crate::units::{GramsPerDm2, GramsPerKg, LengthIn, Temperature, Time, TimeIn, celsius, millimetres};

/// Density of tissue that turns grams per area into a concentration, kg/m³ (TRADE 9.1).
pub(super) const TISSUE_DENSITY: f64 = 1060.0;
/// Time constant of first-order uptake from dry salt, s: 25 min (our estimate).
const UPTAKE_TIME_CONSTANT: f64 = 25.0 * 60.0;
/// Concentration of a saturated surface, kg salt per kg *water*, whatever the tissue: brine saturated at refrigerator
/// temperature. In lean that is 264 g/kg of tissue, in fat, which holds little water, 43.
const SATURATED: f64 = 0.357;
/// Longest step as a share of the time since the last change.
const LADDER: f64 = 0.07;
/// First step after a change, s.
const SHORTEST_STEP: f64 = 4.0;
/// γ of TR-BDF2; this value makes both stages share one matrix (Bank et al. 1985).
const GAMMA: f64 = 2.0 - std::f64::consts::SQRT_2;

/// How salt enters at a face.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Uptake {
    /// All at once, into the outermost cell: the closed forms' case.
    Immediate,
    /// Through the store of dry salt waiting at the surface.
    Store,
}

/// Salt laid on a column: grams per area on its top and bottom, and what was even inside before.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Salting {
    /// On the top face.
    pub top: GramsPerDm2,
    /// On the bottom face.
    pub bottom: GramsPerDm2,
    /// Even throughout the lean already (added solution).
    pub inside: GramsPerKg,
    /// How it enters.
    pub uptake: Uptake,
}

/// Grooves cut into an end: so much of its salt lodges in them, evenly down to their depth.
///
/// Averaged across grooves that lie side by side the diffusion equation stays as it is and their salt is a source
/// between the surface and their depth; what is uneven from groove to groove is not seen. Shown as an estimate.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Grooved {
    /// How deep.
    pub depth: crate::units::Length,
    /// Share of this end's salt.
    pub share: crate::units::Share,
}

/// A column of layers with salt travelling through it.
pub struct Travel {
    layers: Vec<Layer>,
    /// Cell width, m.
    dx: Vec<f64>,
    /// Water per tissue of each cell.
    water: Vec<f64>,
    /// Index of the layer of each cell.
    of_layer: Vec<usize>,
    /// How the way narrows.
    metric: Metric,
    /// Area of the bottom face as a share of the top's.
    areas: [f64; 2],
    /// kg salt per kg water.
    c: Vec<f64>,
    /// Dry salt waiting, kg for each m² of the top face: top, bottom.
    store: [f64; 2],
    /// Dry salt lodged in grooves of either end, kg/m², and the cells it enters with their shares.
    lodged: [(f64, Vec<(usize, f64)>); 2],
    /// Which faces were ever salted.
    salted: [bool; 2],
    /// Seconds since something last changed at once: salt laid on or taken off. Steps start short from there.
    settled: f64,
    work: Work,
}

/// What enters during one step.
struct Inflow {
    /// Through each end, kg/(m² s).
    source: [f64; 2],
    /// Which ends are held at saturation instead.
    saturated: [bool; 2],
    saturated_c: [f64; 2],
    /// Out of the grooves of each end, kg/(m² s).
    from_grooves: [f64; 2],
}

/// Buffers and conductances, kept between steps.
#[derive(Default)]
struct Work {
    /// Conductance between cell i and i + 1 at 4 °C, kg tissue/(m² s).
    between: Vec<f64>,
    /// Conductance of a half-cell at each end at 4 °C.
    ends: [f64; 2],
    capacity: Vec<f64>,
    flows: Vec<f64>,
    low: Vec<f64>,
    mid: Vec<f64>,
    up: Vec<f64>,
    stage: Vec<f64>,
    next: Vec<f64>,
    matrix: Tridiagonal,
    /// What `matrix` was factored for: α and which ends are saturated.
    factored: Option<(f64, [bool; 2])>,
}

impl Travel {
    /// Lays salt on a column. `cell` is the widest cell; layers are cut into whole cells.
    ///
    /// Layers without thickness are left out; an empty column gives an empty profile.
    pub fn new(layers: &[Layer], salting: Salting, cell: crate::units::Length) -> Self {
        Self::shaped(layers, salting, cell, Metric::Plane)
    }

    /// The same in a piece whose way narrows. In something round a layer that lies across the middle is cut there.
    pub fn shaped(layers: &[Layer], salting: Salting, cell: crate::units::Length, metric: Metric) -> Self {
        let layers = match metric {
            Metric::Round { .. } => cut_in_the_middle(layers),
            Metric::Plane | Metric::Hollow { .. } => layers.to_vec(),
        };
        let layers: Vec<Layer> = layers.iter().copied().filter(|l| l.thickness.in_mm() > 0.0).collect();
        let (mut dx, mut water, mut of_layer, mut c) = (vec![], vec![], vec![], vec![]);
        for (index, layer) in layers.iter().enumerate() {
            let cells = (layer.thickness.in_m() / cell.in_m()).ceil().clamp(2.0, 2000.0) as usize;
            let inside = if layer.tissue == super::Tissue::Lean { salting.inside.0 / 1000.0 / layer.tissue.water() } else { 0.0 };
            for _ in 0..cells {
                dx.push(layer.thickness.in_m() / cells as f64);
                water.push(layer.tissue.water());
                of_layer.push(index);
                c.push(inside);
            }
        }
        let thick: f64 = dx.iter().sum();
        let areas = [metric.area(0.0, thick), metric.area(thick, thick)];
        // g/dm² → kg/m²: ÷ 1000 · 100.
        let load = [salting.top.0 / 10.0 * areas[0], salting.bottom.0 / 10.0 * areas[1]];
        let mut travel = Self {
            work: Work::new(&layers, &dx, &water, &of_layer, metric),
            metric,
            areas,
            layers,
            dx,
            water,
            of_layer,
            c,
            store: load,
            lodged: [(0.0, vec![]), (0.0, vec![])],
            // What is even inside salts both sides.
            salted: load.map(|l| l > 0.0 || salting.inside.0 > 0.0),
            settled: 0.0,
        };
        if salting.uptake == Uptake::Immediate && !travel.c.is_empty() {
            let last = travel.c.len() - 1;
            for (end, cell) in [(0, 0), (1, last)] {
                travel.c[cell] += travel.store[end] / travel.work.capacity[cell];
                travel.store[end] = 0.0;
            }
        }
        travel
    }

    /// Grooves in an end: 0 for the top, 1 for the bottom. They end at half the column.
    #[must_use]
    pub fn grooved(mut self, end: usize, grooves: Grooved) -> Self {
        let (end, column) = (end.min(1), self.dx.iter().sum::<f64>());
        let deep = grooves.depth.in_m().clamp(0.0, column / 2.0);
        let order: Vec<usize> = if end == 0 { (0..self.dx.len()).collect() } else { (0..self.dx.len()).rev().collect() };
        let mut from = 0.0;
        let mut cells = Vec::new();
        for i in order {
            let inside = (deep - from).min(self.dx[i]);
            if inside <= 0.0 {
                break;
            }
            cells.push((i, inside / deep));
            from += self.dx[i];
        }
        let moved = if cells.is_empty() { 0.0 } else { self.store[end] * grooves.share.0.clamp(0.0, 1.0) };
        self.store[end] -= moved;
        self.lodged[end] = (moved, cells);
        self
    }

    /// Lets time pass at one temperature. Cost is linear in cells × steps; steps grow with the time since salt was
    /// last laid on or taken off, about 15 for each doubling of it: some 170 for the first day, 25 more for the next two.
    ///
    /// Each rung of the ladder is as long as the whole time before it, so a run in many short pieces costs more but
    /// gives the same to the error of a step.
    pub fn run(&mut self, duration: Time, at: Temperature) {
        if self.c.is_empty() {
            return;
        }
        let end = self.settled + duration.in_s().max(0.0);
        let rate = clock_rate(at);
        while end - self.settled > 1e-6 {
            // Doubling ladder of steps, so that the matrix is factored once a rung, not once a step.
            let wanted = (self.settled * LADDER).clamp(SHORTEST_STEP, 7200.0);
            let rung = SHORTEST_STEP * 2f64.powf((wanted / SHORTEST_STEP).log2().floor());
            let step = rung.min(end - self.settled);
            self.step(step, rate);
            self.settled += step;
        }
    }

    /// Lays more dry salt on an end: 0 for the top, 1 for the bottom.
    pub fn lay_on(&mut self, end: usize, more: GramsPerDm2) {
        let end = end.min(1);
        if more.0 > 0.0 && !self.c.is_empty() {
            self.store[end] += more.0 / 10.0 * self.areas[end];
            self.salted[end] = true;
            self.settled = 0.0;
        }
    }

    /// Brushes dry salt off an end; gives what came off, at most what still waits there. Salt lodged in grooves stays.
    pub fn brush_off(&mut self, end: usize, at_most: GramsPerDm2) -> GramsPerDm2 {
        let area = self.areas[end.min(1)];
        let store = &mut self.store[end.min(1)];
        let off = (at_most.0 / 10.0 * area).clamp(0.0, store.max(0.0));
        *store -= off;
        if off > 0.0 {
            self.settled = 0.0;
        }
        GramsPerDm2(off / area * 10.0)
    }

    /// Salt on an end and in so much of the tissue under it, dry or dissolved.
    pub fn salt_near(&self, end: usize, depth: crate::units::Length) -> GramsPerDm2 {
        let end = end.min(1);
        let (mut left, mut kg) = (depth.in_m(), self.store[end] + self.lodged[end].0);
        let n = self.c.len();
        for step in 0..n {
            let i = if end == 0 { step } else { n - 1 - step };
            if left <= 0.0 {
                break;
            }
            kg += self.c[i] * self.work.capacity[i] * (left / self.dx[i]).min(1.0);
            left -= self.dx[i];
        }
        GramsPerDm2(kg / self.areas[end] * 10.0)
    }

    /// Dry salt still waiting on the top and the bottom, grooves included.
    pub fn waiting(&self) -> [GramsPerDm2; 2] {
        [0, 1].map(|end| GramsPerDm2((self.store[end] + self.lodged[end].0) / self.areas[end] * 10.0))
    }

    /// How things stand now.
    pub fn profile(&self) -> Profile {
        let mut top = 0.0;
        let thick: f64 = self.dx.iter().sum();
        let cells = (0..self.c.len())
            .map(|i| {
                let to = top + self.dx[i];
                let cell = Cell {
                    weight: self.metric.volume(top, to, thick) * self.metric.share(f64::midpoint(top, to), thick) * 1000.0,
                    top_mm: top * 1000.0,
                    bottom_mm: (top + self.dx[i]) * 1000.0,
                    tissue: self.layers[self.of_layer[i]].tissue,
                    g_per_kg: self.c[i] * self.water[i] * 1000.0,
                };
                top += self.dx[i];
                cell
            })
            .collect();
        Profile::new(cells, self.waiting(), self.salted)
    }

    /// Salt in the column and waiting on it, kg for each m² of the top face.
    pub fn total(&self) -> f64 {
        self.inside() + self.store.iter().sum::<f64>() + self.lodged.iter().map(|(kg, _)| kg).sum::<f64>()
    }

    fn inside(&self) -> f64 {
        self.c.iter().zip(&self.work.capacity).map(|(c, m)| c * m).sum()
    }

    /// One TR-BDF2 step. At each end the salt waiting enters at the first-order rate, unless the
    /// saturated surface lets in less; should that overdraw the store, the rest enters evenly.
    fn step(&mut self, dt: f64, rate: f64) {
        let last = self.c.len() - 1;
        let saturated_c = [SATURATED; 2];
        let first_order = self.store.map(|m| m * (1.0 - (-dt / UPTAKE_TIME_CONSTANT).exp()) / dt);
        let mut saturated = [false; 2];
        for (end, cell) in [(0, 0), (1, last)] {
            let lets_in = self.work.ends[end] * rate * (saturated_c[end] - self.c[cell]);
            saturated[end] = self.store[end] > 0.0 && lets_in < first_order[end];
        }
        let mut source = first_order;
        let from_grooves = [0, 1].map(|end| self.lodged[end].0 * (1.0 - (-dt / UPTAKE_TIME_CONSTANT).exp()) / dt);
        loop {
            self.advance(dt, rate, &Inflow { source, saturated, saturated_c, from_grooves });
            // What a saturated end took in follows from its conductance over both stages.
            let mut overdrawn = false;
            let taken: [f64; 2] = std::array::from_fn(|end| {
                if !saturated[end] {
                    return source[end] * dt;
                }
                let cell = if end == 0 { 0 } else { last };
                let flux = |c: f64| self.work.ends[end] * rate * (saturated_c[end] - c);
                // Weights of TR-BDF2's three fluxes over the step (they add up to dt).
                let outer = dt / (2.0 * (2.0 - GAMMA));
                let inner = dt * GAMMA / 2.0;
                outer * (flux(self.c[cell]) + flux(self.work.stage[cell])) + inner * flux(self.work.next[cell])
            });
            for end in 0..2 {
                if saturated[end] && taken[end] > self.store[end] {
                    saturated[end] = false;
                    source[end] = self.store[end] / dt;
                    overdrawn = true;
                }
            }
            if !overdrawn {
                for (store, taken) in self.store.iter_mut().zip(taken) {
                    *store = (*store - taken).max(0.0);
                }
                for (lodged, rate) in self.lodged.iter_mut().zip(from_grooves) {
                    lodged.0 = (lodged.0 - rate * dt).max(0.0);
                }
                std::mem::swap(&mut self.c, &mut self.work.next);
                return;
            }
        }
    }

    /// Fills `work.stage` and `work.next` for one step.
    fn advance(&mut self, dt: f64, rate: f64, inflow: &Inflow) {
        let Inflow { source, saturated, saturated_c, from_grooves } = *inflow;
        let work = &mut self.work;
        let n = self.c.len();
        let alpha = dt * GAMMA / 2.0 * rate;
        if work.factored != Some((alpha, saturated)) {
            work.factor(alpha, saturated);
        }
        // Constant part of the right side at each end, per second: a source, or the saturated surface.
        let inflow: [f64; 2] = std::array::from_fn(|e| if saturated[e] { work.ends[e] * rate * saturated_c[e] } else { source[e] });
        // Stage 1, trapezoidal over γ·dt: (M + αK) c* = (M − αK) c + γ·dt·s.
        // Each flow between two cells is reckoned once: what leaves one enters the other, so none is lost.
        work.flows.clear();
        work.flows.push(if saturated[0] { -work.ends[0] * self.c[0] } else { 0.0 });
        work.flows.extend(self.c.windows(2).zip(&work.between).map(|(c, between)| between * (c[0] - c[1])));
        work.flows.push(if saturated[1] { work.ends[1] * self.c[n - 1] } else { 0.0 });
        work.stage.clear();
        let cells = self.c.iter().zip(&work.capacity).zip(work.flows.windows(2));
        work.stage.extend(cells.map(|((c, capacity), flow)| capacity * c + alpha * (flow[0] - flow[1])));
        work.stage[0] += GAMMA * dt * inflow[0];
        work.stage[n - 1] += GAMMA * dt * inflow[1];
        let grooves =
            || self.lodged.iter().zip(from_grooves).flat_map(|((_, cells), rate)| cells.iter().map(move |(i, share)| (*i, share * rate)));
        for (i, flow) in grooves() {
            work.stage[i] += GAMMA * dt * flow;
        }
        work.matrix.solve(&mut work.stage);
        // Stage 2, BDF2: (M + αK) c₁ = M (a·c* − b·c) + (1−γ)/(2−γ)·dt·s, and γ/2 = (1−γ)/(2−γ).
        let a = 1.0 / (GAMMA * (2.0 - GAMMA));
        let b = (1.0 - GAMMA).powi(2) * a;
        work.next.clear();
        let cells = self.c.iter().zip(&work.capacity).zip(&work.stage);
        work.next.extend(cells.map(|((c, capacity), stage)| capacity * (a * stage - b * c)));
        work.next[0] += GAMMA / 2.0 * dt * inflow[0];
        work.next[n - 1] += GAMMA / 2.0 * dt * inflow[1];
        for (i, flow) in grooves() {
            work.next[i] += GAMMA / 2.0 * dt * flow;
        }
        work.matrix.solve(&mut work.next);
    }
}

/// Layers with the one that lies across the middle in two, so that no cell does.
fn cut_in_the_middle(layers: &[Layer]) -> Vec<Layer> {
    let middle = layers.iter().map(|l| l.thickness.in_mm()).sum::<f64>() / 2.0;
    let mut above = 0.0;
    let mut cut = Vec::with_capacity(layers.len() + 1);
    for layer in layers {
        let mm = layer.thickness.in_mm();
        let before = middle - above;
        if before > 1e-9 && before < mm - 1e-9 {
            cut.push(Layer { thickness: millimetres(before), ..*layer });
            cut.push(Layer { thickness: millimetres(mm - before), ..*layer });
        } else {
            cut.push(*layer);
        }
        above += mm;
    }
    cut
}

impl Work {
    fn new(layers: &[Layer], dx: &[f64], water: &[f64], of_layer: &[usize], metric: Metric) -> Self {
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
            ..Self::default()
        }
    }

    fn factor(&mut self, alpha: f64, saturated: [bool; 2]) {
        let n = self.capacity.len();
        self.low.clear();
        self.mid.clear();
        self.up.clear();
        for i in 0..n {
            let before = if i > 0 { alpha * self.between[i - 1] } else { 0.0 };
            let after = if i + 1 < n { alpha * self.between[i] } else { 0.0 };
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
        self.matrix.factor(&self.low, &self.mid, &self.up);
        self.factored = Some((alpha, saturated));
    }
}
