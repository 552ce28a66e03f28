//! Finite volumes in space, TR-BDF2 in time, graded steps, mass conserved to rounding.

mod soak;

mod work;

pub use soak::Bath;

use super::metric::Metric;
use super::profile::{Cell, Profile};
use super::tissue::{Layer, clock_rate};
use crate::units::{GramsPerDm2, GramsPerKg, LengthIn, Temperature, Time, TimeIn, celsius, hours, millimetres};
use std::ops::Range;
use work::{Region, Work};

/// Time constant of first-order uptake from dry salt, s: 25 min (our estimate).
const UPTAKE_TIME_CONSTANT: f64 = 25.0 * 60.0;

/// Concentration of a saturated surface, kg salt per kg *water*, whatever the tissue: brine saturated at refrigerator
/// temperature. In lean that is 264 g/kg of tissue, in fat, which holds little water, 43.
const SATURATED: f64 = 0.357;

/// Longest step as a share of the time since the last change.
const LADDER: f64 = 0.09;

/// First step after a change, s.
const SHORTEST_STEP: f64 = 8.0;

/// kg salt per kg water below which a cell counts as one that no salt has come to: beyond it nothing is solved.
const NONE_YET: f64 = 1e-12;

/// So many cells at either end are solved from the first step on.
const FIRST_REACH: usize = 16;

/// Longest step, s.
const LONGEST_STEP: f64 = 7_200.0;

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
    /// How deep the cuts go into the lean.
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
    /// Area of the bottom face as a share of the top's.
    areas: [f64; 2],
    /// How much each cell counts in a slice, mm.
    weights: Vec<f64>,
    /// kg salt per kg water.
    c: Vec<f64>,
    /// Dry salt waiting, kg for each m² of the top face: top, bottom.
    store: [f64; 2],
    /// Dry salt lodged in grooves of either end, kg/m², and the cells it enters with their shares.
    lodged: [(f64, Vec<(usize, f64)>); 2],
    /// Which faces were ever salted.
    salted: [bool; 2],
    /// Longest step as a share of the time since the last change, and in s.
    pace: (f64, f64),
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
        let mut top = 0.0;
        let weight = |dx: &f64| {
            let (from, to) = (top, top + dx);
            top = to;
            metric.volume(from, to, thick) * metric.share(f64::midpoint(from, to), thick) * 1000.0
        };
        let weights = dx.iter().map(weight).collect();
        // g/dm² → kg/m²: ÷ 1000 · 100.
        let load = [salting.top.0 / 10.0 * areas[0], salting.bottom.0 / 10.0 * areas[1]];
        let mut travel = Self {
            work: Work::new(&layers, &dx, &water, &of_layer, metric),
            areas,
            weights,
            layers,
            dx,
            water,
            of_layer,
            c,
            store: load,
            lodged: [(0.0, vec![]), (0.0, vec![])],
            // What is even inside salts both sides.
            salted: load.map(|l| l > 0.0 || salting.inside.0 > 0.0),
            pace: (LADDER, LONGEST_STEP),
            settled: 0.0,
        };
        let n = travel.c.len();
        let first = if salting.inside.0 > 0.0 { n } else { FIRST_REACH };
        travel.work.reach(n, first.min(n), first.min(n));
        if salting.uptake == Uptake::Immediate && !travel.c.is_empty() {
            let last = travel.c.len() - 1;
            for (end, cell) in [(0, 0), (1, last)] {
                travel.c[cell] += travel.store[end] / travel.work.capacity[cell];
                travel.store[end] = 0.0;
            }
        }
        travel
    }

    /// With longer steps, which are off by about a thousandth: enough to know the hour at which something is reached.
    #[must_use]
    pub fn striding(mut self) -> Self {
        self.pace = (1.7 * LADDER, 4.0 * LONGEST_STEP);
        self
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
            // Cuts that lie so and so far apart hold as much in each litre they open, however the way narrows.
            cells.push((i, self.weights[i] * inside / self.dx[i]));
            from += self.dx[i];
        }
        let all: f64 = cells.iter().map(|(_, share)| share).sum();
        for (_, share) in &mut cells {
            *share /= all.max(1e-12);
        }
        let moved = if cells.is_empty() { 0.0 } else { self.store[end] * grooves.share.0.clamp(0.0, 1.0) };
        self.store[end] -= moved;
        let n = self.c.len();
        let reach = |end: usize, deep: usize| if self.lodged[end].1.is_empty() { deep } else { deep.max(self.lodged[end].1.len()) };
        let deep = FIRST_REACH.max(cells.len()).min(n);
        let other = reach(1 - end, FIRST_REACH.min(n));
        let whole = self.work.regions.iter().any(|r| r.cells.len() == n);
        if !whole {
            let [top, bottom] = if end == 0 { [deep, other] } else { [other, deep] };
            self.work.reach(n, top, bottom);
        }
        self.lodged[end] = (moved, cells);
        self
    }

    /// Lets time pass at one temperature. Cost is linear in steps × cells that salt has come to; steps grow with the time since
    /// salt was last laid on or taken off, about 8 for each doubling of it.
    ///
    /// Each rung of the ladder is as long as the whole time before it, so a run in many short pieces costs more but
    /// gives the same to the error of a step.
    pub fn run(&mut self, duration: Time, at: Temperature) {
        self.run_while(duration, at, |_, _| true);
    }

    /// The same, shown after each of its steps with the time passed, until `each` has seen enough.
    pub fn run_while(&mut self, duration: Time, at: Temperature, mut each: impl FnMut(Time, &Self) -> bool) {
        if self.c.is_empty() {
            return;
        }
        let begun = self.settled;
        let end = begun + duration.in_s().max(0.0);
        let rate = clock_rate(at);
        while end - self.settled > 1e-6 {
            // Doubling ladder of steps, so that the matrix is factored once a rung, not once a step.
            let wanted = (self.settled * self.pace.0).clamp(SHORTEST_STEP, self.pace.1);
            let rung = SHORTEST_STEP * 2f64.powf((wanted / SHORTEST_STEP).log2().floor());
            let step = rung.min(end - self.settled);
            self.step(step, rate);
            self.settled += step;
            if !each(hours((self.settled - begun) / 3600.0), self) {
                return;
            }
        }
    }

    /// Lets time pass through one temperature after the other. Temperature only stretches the clock, so that where no dry salt
    /// waits whose uptake has a clock of its own, the spells are one: as long at 4 °C as all of them together let it travel.
    pub fn run_through(&mut self, spells: &[(Time, Temperature)]) {
        let dry = self.store.iter().chain(self.lodged.iter().map(|(kg, _)| kg)).any(|kg| *kg > 1e-12);
        if dry {
            for (time, at) in spells {
                self.run(*time, *at);
            }
        } else {
            let stretched: f64 = spells.iter().map(|(time, at)| time.in_s() * clock_rate(*at)).sum();
            self.run(hours(stretched / 3600.0), celsius(4.0));
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
        let cells = (0..self.c.len())
            .map(|i| {
                let to = top + self.dx[i];
                let cell = Cell {
                    weight: self.weights[i],
                    top_mm: top * 1000.0,
                    bottom_mm: to * 1000.0,
                    tissue: self.layers[self.of_layer[i]].tissue,
                    g_per_kg: self.c[i] * self.water[i] * 1000.0,
                };
                top = to;
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

    /// Fills `work.stage` and `work.next` for one step, wherever salt comes in it.
    fn advance(&mut self, dt: f64, rate: f64, inflow: &Inflow) {
        loop {
            for region in 0..self.work.regions.len() {
                self.advance_region(region, dt, rate, inflow);
            }
            // Salt that came to the edge of a region may want to go beyond: then that step is made anew with more cells.
            let n = self.c.len();
            let next = &self.work.next;
            let beyond = |r: &Range<usize>| {
                [(r.start > 0, r.start), (r.end < n, r.end - 1)].into_iter().any(|(inner, i)| inner && next[i].abs() > NONE_YET)
            };
            if !self.work.regions.iter().any(|r| beyond(&r.cells)) {
                return;
            }
            let grown = |cells: &Range<usize>| cells.len() + cells.len() / 2 + 4;
            let reach =
                self.work.regions.iter().map(|r| if beyond(&r.cells) { grown(&r.cells) } else { r.cells.len() }).collect::<Vec<_>>();
            let from_top = self.work.regions.first().filter(|r| r.cells.start == 0).map_or(0, |_| reach[0]);
            let from_bottom = self.work.regions.last().filter(|r| r.cells.end == n).map_or(0, |_| reach[reach.len() - 1]);
            self.work.reach(n, from_top, from_bottom);
        }
    }

    fn advance_region(&mut self, region: usize, dt: f64, rate: f64, inflow: &Inflow) {
        let Inflow { source, saturated, saturated_c, from_grooves } = *inflow;
        let work = &mut self.work;
        let n = self.c.len();
        let alpha = dt * GAMMA / 2.0 * rate;
        work.factor(region, alpha, saturated);
        let Region { cells, matrix, .. } = &work.regions[region];
        let (from, to) = (cells.start, cells.end);
        // Constant part of the right side at each end, per second: a source, or the saturated surface.
        let inflow: [f64; 2] = std::array::from_fn(|e| if saturated[e] { work.ends[e] * rate * saturated_c[e] } else { source[e] });
        // Stage 1, trapezoidal over γ·dt: (M + αK) c* = (M − αK) c + γ·dt·s.
        // Each flow between two cells is reckoned once: what leaves one enters the other, so none is lost.
        let c = &self.c[from..to];
        work.flows.clear();
        work.flows.push(if from == 0 && saturated[0] { -work.ends[0] * c[0] } else { 0.0 });
        work.flows.extend(c.windows(2).zip(&work.between[from..]).map(|(c, between)| between * (c[0] - c[1])));
        work.flows.push(if to == n && saturated[1] { work.ends[1] * c[c.len() - 1] } else { 0.0 });
        let stage = &mut work.stage[from..to];
        let capacity = &work.capacity[from..to];
        for (((stage, c), capacity), flow) in stage.iter_mut().zip(c).zip(capacity).zip(work.flows.windows(2)) {
            *stage = capacity * c + alpha * (flow[0] - flow[1]);
        }
        let add = |right: &mut [f64], share: f64| {
            if from == 0 {
                right[0] += share * inflow[0];
            }
            if to == n {
                right[to - from - 1] += share * inflow[1];
            }
            for ((_, cells), rate) in self.lodged.iter().zip(from_grooves).filter(|(_, rate)| *rate > 0.0) {
                for (i, part) in cells.iter().filter(|(i, _)| (from..to).contains(i)) {
                    right[i - from] += share * part * rate;
                }
            }
        };
        add(stage, GAMMA * dt);
        matrix.solve(stage);
        // Stage 2, BDF2: (M + αK) c₁ = M (a·c* − b·c) + (1−γ)/(2−γ)·dt·s, and γ/2 = (1−γ)/(2−γ).
        let a = 1.0 / (GAMMA * (2.0 - GAMMA));
        let b = (1.0 - GAMMA).powi(2) * a;
        let next = &mut work.next[from..to];
        for (((next, c), capacity), stage) in next.iter_mut().zip(c).zip(capacity).zip(&*stage) {
            *next = capacity * (a * stage - b * c);
        }
        add(next, GAMMA / 2.0 * dt);
        matrix.solve(next);
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
