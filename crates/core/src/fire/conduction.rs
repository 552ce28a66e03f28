//! One-dimensional conduction in a slab, cylinder or sphere with a drying surface.
//!
//! k 0.48 W/mK, ρ 1060, c_p 3500 (from memory: ASHRAE Refrigeration, thermal properties of foods).
//! Surface `q = h(T_air − T_s) − w·k_m·(p_v(T_s) − p_v,air)·M/(R·T)·λ`; the wetness falls as the
//! surface dries, w = w₀·e^(−E/E₀). Start values (our estimate): h 25, w₀ 0.3, E₀ 2 kg/m², p_v,air 1.2 kPa.

use crate::numeric::Tridiagonal;
use crate::psychrometrics::{GAS_CONSTANT, WATER_KG_PER_MOL, mass_transfer, saturation_pressure};
use crate::units::{HeatTransfer, Length, LengthIn, Temperature, TemperatureIn, Time, TimeIn, celsius};

pub(super) const CONDUCTIVITY: f64 = 0.48;
const DENSITY: f64 = 1060.0;
const HEAT_CAPACITY: f64 = DENSITY * 3500.0;
/// Latent heat of water near 60 °C, J/kg (steam tables).
pub(super) const LATENT: f64 = 2.36e6;
/// Vapour pressure of kitchen and oven air, Pa (our estimate).
pub(super) const AIR_VAPOUR: f64 = 1200.0;
const SHELLS: usize = 40;
/// A step as a share of the time heat takes to the middle, and its bounds, s.
const STEP: f64 = 0.018;
const STEP_BOUNDS: (f64, f64) = (20.0, 120.0);
/// γ of TR-BDF2; this value makes both stages share one matrix (Bank et al. 1985).
const GAMMA: f64 = 2.0 - std::f64::consts::SQRT_2;

/// How area grows from the middle outwards.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Shape {
    /// Both faces of a flat piece.
    Slab,
    /// A tied roast: heat comes from all round its length.
    Cylinder,
    /// A ball: heat comes from every side.
    Sphere,
    /// Something with ends and edges: layers grow with this power of the distance from the middle, 0 or more, so that it has the
    /// surface and the slowest mode of the body it stands for (see `equivalent.rs`).
    Grown {
        /// Power of the distance from the middle by which layers grow: 0 slab, 1 cylinder, 2 sphere.
        power: f64,
    },
}

/// The piece as the heat meets it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Body {
    /// What it is heated as.
    pub shape: Shape,
    /// Radius, or half the thickness of a slab.
    pub radius: Length,
    /// Temperature throughout at the start.
    pub start: Temperature,
    /// Share of its surface that is lean, 0–1, and goes on being fed with juice from inside: skin and fat are not.
    pub fed: f64,
}

/// Surroundings of a stage.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Oven {
    /// Air temperature.
    pub air: Temperature,
    /// Heat transfer coefficient including radiation.
    pub h: HeatTransfer,
    /// How freely steam leaves the surface, 0–1: 1 in the open, 0 under a wrap.
    pub wet: f64,
    /// The film by which it leaves: the air's, over metal and coals too.
    pub steam: HeatTransfer,
    /// At least so wet the surface is, 0–1: juices come to it while meat rests.
    pub juices: f64,
}

impl Oven {
    /// An oven or covered grill at this temperature, h 25 (our estimate).
    pub fn at(air: Temperature) -> Self {
        Self { air, h: OPEN_AIR, wet: 1.0, steam: OPEN_AIR, juices: 0.0 }
    }

    /// Resting on the board: 22 °C, h 9, wet with its own juices (our estimate).
    pub fn board() -> Self {
        let still = HeatTransfer(9.0);
        Self { air: celsius(22.0), h: still, wet: 1.0, steam: still, juices: JUICES }
    }
}

impl Oven {
    /// The same where so many times as much is lost to it.
    #[must_use]
    pub fn in_a_draught(self, times: f64) -> Self {
        Self { h: HeatTransfer(self.h.0 * times), steam: HeatTransfer(self.steam.0 * times), ..self }
    }
}

/// Film of an oven or covered grill, radiation included, W/m²K (our estimate).
pub(super) const OPEN_AIR: HeatTransfer = HeatTransfer(25.0);
/// How wet a resting surface stays (our estimate, tuned to the climb that the trade sees).
const JUICES: f64 = 0.3;

/// Wetness of the surface: w₀ and E₀; wrapped or covered pieces do not evaporate.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Wetness {
    /// Share of a free water surface at the start, 0–1.
    pub start: f64,
    /// kg/m² evaporated that brings it down to 1/e, but never below its floor.
    pub fades_over: f64,
    /// What the inside goes on giving as long as it has juice to give, 0–1.
    pub floor: f64,
}

impl Wetness {
    /// A patted-dry open surface (our estimate).
    pub const OPEN: Self = Self { start: 0.3, fades_over: 2.0, floor: 0.15 };
    /// Covered or wrapped.
    pub const NONE: Self = Self { start: 0.0, fades_over: 1.0, floor: 0.0 };

    /// How wet a surface is that has lost so much of a supply, both kg/m²: the stall of a slow roast ends where the inside has no more
    /// juice to give.
    fn after(self, lost: f64, supply: f64) -> f64 {
        let fed = self.floor * (-(lost / supply.max(1e-9)).powi(SUDDEN)).exp();
        (self.start * (-lost / self.fades_over).exp()).max(fed)
    }
}

/// So much of its own weight lean gives up as juice while it cooks (our estimate: a smoked shoulder loses a third and more of its weight;
/// tuned to how long a bare butt of 3.6 kg stands).
const GIVES: f64 = 0.35;
/// How suddenly the supply ends (our estimate).
const SUDDEN: i32 = 10;

/// A face through which heat comes.
#[derive(Clone, Copy)]
struct Face {
    /// Its area (per unit length or solid angle).
    area: f64,
    /// kg/m² evaporated so far.
    evaporated: f64,
    /// Its temperature in the last step, °C: where the next search starts.
    surface: f64,
}

/// What a face does to the cell under it in one step.
#[derive(Clone, Copy, Default)]
struct Through {
    /// W/K of film and half cell.
    film: f64,
    /// W that enter whatever the cell's temperature.
    enters: f64,
}

/// A running roast: shells from the middle outwards, or layers from one face of a slab to the other.
#[derive(Clone)]
pub struct Roast {
    t: Vec<f64>,
    /// Conductance between shells, W/K (per unit length or solid angle).
    between: Vec<f64>,
    capacity: Vec<f64>,
    /// The outside, at the last shell.
    outside: Face,
    /// The other face of a slab that is heated from one side, at the first layer; else the middle lies there.
    other: Option<Face>,
    half_shell: f64,
    /// Longest step, s.
    step: f64,
    wetness: Wetness,
    /// kg of juice under a square metre of surface.
    supply: f64,
    /// The matrix of the last step, and the films and length it was factored for.
    matrix: Tridiagonal,
    factored_for: (f64, f64, f64),
}

/// So deep a surface dries to a crust that may be hotter than boiling water, m (our estimate).
const CRUST: f64 = 1.5e-3;
/// Water boils, °C.
const BOILS: f64 = 100.0;
/// Layers of a slab that is heated from one side.
const LAYERS: usize = 60;

impl Roast {
    /// Puts a body on the fire, heat all round it.
    pub fn new(body: Body, wetness: Wetness) -> Self {
        let power = match body.shape {
            Shape::Slab => 0.0,
            Shape::Cylinder => 1.0,
            Shape::Sphere => 2.0,
            Shape::Grown { power } => power,
        };
        let dr = body.radius.in_m() / SHELLS as f64;
        let edge = |i: usize| i as f64 * dr;
        let area = |r: f64| r.powf(power);
        let volume = |i: usize| (edge(i + 1).powf(power + 1.0) - edge(i).powf(power + 1.0)) / (power + 1.0);
        Self {
            t: vec![body.start.in_c(); SHELLS],
            between: (1..SHELLS).map(|i| CONDUCTIVITY * area(edge(i)) / dr).collect(),
            capacity: (0..SHELLS).map(|i| HEAT_CAPACITY * volume(i)).collect(),
            outside: Face { area: area(body.radius.in_m()), evaporated: 0.0, surface: body.start.in_c() },
            other: None,
            half_shell: dr / 2.0,
            step: (STEP * body.radius.in_m().powi(2) * HEAT_CAPACITY / CONDUCTIVITY).clamp(STEP_BOUNDS.0, STEP_BOUNDS.1),
            wetness: Wetness { floor: wetness.floor * body.fed, ..wetness },
            supply: GIVES * DENSITY * body.radius.in_m() / (power + 1.0),
            matrix: Tridiagonal::default(),
            factored_for: (0.0, 0.0, 0.0),
        }
    }

    /// A slab of both its faces, so that it can be heated from one side and turned. Another shape is turned all the time, and is
    /// heated as from all round.
    pub fn with_two_faces(body: Body, wetness: Wetness) -> Self {
        let all_round = Self::new(body, wetness);
        if body.shape != Shape::Slab {
            return all_round;
        }
        let dx = 2.0 * body.radius.in_m() / LAYERS as f64;
        Self {
            t: vec![body.start.in_c(); LAYERS],
            between: vec![CONDUCTIVITY / dx; LAYERS - 1],
            capacity: vec![HEAT_CAPACITY * dx; LAYERS],
            other: Some(all_round.outside),
            half_shell: dx / 2.0,
            // Layers that boil one after the other want shorter steps.
            step: all_round.step / 3.0,
            ..all_round
        }
    }

    /// Temperature of the middle.
    pub fn core(&self) -> Temperature {
        let middle = self.t.len() / 2;
        celsius(if self.other.is_some() { f64::midpoint(self.t[middle - 1], self.t[middle]) } else { self.t[0] })
    }

    /// Mean temperature of the whole piece.
    pub fn mean(&self) -> Temperature {
        let all: f64 = self.capacity.iter().sum();
        celsius(self.t.iter().zip(&self.capacity).map(|(t, c)| t * c).sum::<f64>() / all)
    }

    /// Temperature of the surface on the side of the heat, or away from it.
    pub fn surface(&self, away: bool) -> Temperature {
        celsius(self.other.filter(|_| away).unwrap_or(self.outside).surface)
    }

    /// Heat in it above 0 °C, J (per unit area, length or solid angle).
    pub fn heat(&self) -> f64 {
        self.t.iter().zip(&self.capacity).map(|(t, c)| t * c).sum()
    }

    /// Turns a slab over.
    pub fn flip(&mut self) {
        if let Some(other) = &mut self.other {
            std::mem::swap(other, &mut self.outside);
            self.t.reverse();
        }
    }

    /// Lets time pass with the same all round; calls `each` after every step with (elapsed, core) and stops when it says so.
    ///
    /// TR-BDF2 in steps of 20 s to two minutes, longer where the piece is thicker. What evaporates goes by the beginning of a
    /// step; together a few thousandths of the time it takes, far inside the band. Returns the time used.
    pub fn run(&mut self, oven: Oven, at_most: Time, each: impl FnMut(Time, Temperature) -> bool) -> Time {
        self.run_between(oven, oven, at_most, each)
    }

    /// The same with something else on the side away from the heat. A body that has no such side is turned all the time and meets
    /// the mean of both.
    pub fn run_between(&mut self, fire: Oven, away: Oven, at_most: Time, mut each: impl FnMut(Time, Temperature) -> bool) -> Time {
        let fire = if self.other.is_none() && fire != away { both(fire, away) } else { fire };
        let mut elapsed = 0.0;
        let cells = self.t.len();
        let (mut stage, mut flows) = (vec![0.0; cells], vec![0.0; cells + 1]);
        while at_most.in_s() - elapsed > 1e-9 {
            let dt = self.step.min(at_most.in_s() - elapsed);
            let alpha = dt * GAMMA / 2.0;
            let (outside, inside) = (self.outside, self.other);
            let out = self.through(outside, self.t[cells - 1], fire, dt);
            self.outside = out.0;
            let inn = inside.map(|face| self.through(face, self.t[0], away, dt));
            self.other = inn.map(|(face, _)| face);
            let (out, inn) = (out.1, inn.map_or(Through::default(), |(_, through)| through));
            if self.factored_for != (out.film, inn.film, dt) {
                self.factor(inn.film, out.film, alpha);
                self.factored_for = (out.film, inn.film, dt);
            }
            // Stage 1, trapezoidal over γ·dt.
            flows[0] = -inn.film * self.t[0];
            for (flow, (between, t)) in flows[1..].iter_mut().zip(self.between.iter().zip(self.t.windows(2))) {
                *flow = between * (t[0] - t[1]);
            }
            flows[cells] = out.film * self.t[cells - 1];
            for (((stage, t), capacity), flow) in stage.iter_mut().zip(&self.t).zip(&self.capacity).zip(flows.windows(2)) {
                *stage = capacity * t + alpha * (flow[0] - flow[1]);
            }
            stage[0] += GAMMA * dt * inn.enters;
            stage[cells - 1] += GAMMA * dt * out.enters;
            self.matrix.solve(&mut stage);
            // Stage 2, BDF2, with the same matrix.
            let a = 1.0 / (GAMMA * (2.0 - GAMMA));
            let b = (1.0 - GAMMA).powi(2) * a;
            for ((t, stage), capacity) in self.t.iter_mut().zip(&stage).zip(&self.capacity) {
                *t = capacity * (a * stage - b * *t);
            }
            self.t[0] += GAMMA / 2.0 * dt * inn.enters;
            self.t[cells - 1] += GAMMA / 2.0 * dt * out.enters;
            self.matrix.solve(&mut self.t);
            self.boil();
            elapsed += dt;
            if !each(crate::units::minutes(elapsed / 60.0), self.core()) {
                break;
            }
        }
        crate::units::minutes(elapsed / 60.0)
    }

    /// How long one step is.
    pub fn step(&self) -> Time {
        crate::units::minutes(self.step / 60.0)
    }

    /// Under its crust nothing is hotter than its boiling point: what would be has gone off as steam.
    fn boil(&mut self) {
        let crust = ((CRUST / (2.0 * self.half_shell)).round() as usize).max(1);
        let (from, to) = (if self.other.is_some() { crust } else { 0 }, self.t.len() - crust);
        for t in &mut self.t[from..to] {
            *t = t.min(BOILS);
        }
    }

    /// What passes a face in one step, and the face after it.
    fn through(&self, face: Face, under: f64, oven: Oven, dt: f64) -> (Face, Through) {
        // Film in series with the half shell under the surface; of the latent heat taken at the surface, the share that the shell
        // (not the film) supplies.
        let resistance = 1.0 / oven.h.0 + self.half_shell / CONDUCTIVITY;
        let film = face.area / resistance;
        let (face, latent) = self.evaporate(face, under, oven, dt);
        (face, Through { film, enters: film * oven.air.in_c() - latent / oven.h.0 / resistance * face.area })
    }

    /// The matrix of both stages of a step: the same as long as neither oven nor step changes.
    fn factor(&mut self, inside: f64, outside: f64, alpha: f64) {
        let cells = self.t.len();
        let before = |i: usize| if i > 0 { self.between[i - 1] } else { inside };
        let after = |i: usize| if i + 1 < cells { self.between[i] } else { outside };
        let low: Vec<f64> = (0..cells).map(|i| if i > 0 { -before(i) * alpha } else { 0.0 }).collect();
        let mid: Vec<f64> = (0..cells).map(|i| self.capacity[i] + (before(i) + after(i)) * alpha).collect();
        let up: Vec<f64> = (0..cells).map(|i| if i + 1 < cells { -after(i) * alpha } else { 0.0 }).collect();
        self.matrix.factor(&low, &mid, &up);
    }

    /// W/m² that evaporation takes from a face; its temperature, and what has evaporated, go on by one step.
    ///
    /// The surface follows from the balance of film, evaporation and conduction inwards: Newton's rule from where it was last.
    /// The balance falls steadily, so that the last stride says how near it is.
    fn evaporate(&self, face: Face, inside: f64, oven: Oven, dt: f64) -> (Face, f64) {
        let inwards = CONDUCTIVITY / self.half_shell;
        let mut t = face.surface.clamp(inside.min(oven.air.in_c()) - 30.0, inside.max(oven.air.in_c()));
        let mut flux = 0.0;
        for _ in 0..12 {
            let (latent, slope) = self.latent_flux(face, oven, t);
            let stride = (oven.h.0 * (oven.air.in_c() - t) - latent - inwards * (t - inside)) / (oven.h.0 + inwards + slope);
            t += stride;
            flux = latent + slope * stride;
            if stride.abs() < 0.05 {
                break;
            }
        }
        (Face { surface: t, evaporated: face.evaporated + flux / LATENT * dt, ..face }, flux)
    }

    /// W/m² carried away by evaporation at this surface temperature, and how it grows with it, W/m²K.
    fn latent_flux(&self, face: Face, oven: Oven, surface_c: f64) -> (f64, f64) {
        let wet = oven.wet * self.wetness.after(face.evaporated, self.supply).max(if self.wetness.start > 0.0 { oven.juices } else { 0.0 });
        if wet <= 0.0 {
            return (0.0, 0.0);
        }
        let film_k = f64::midpoint(surface_c, oven.air.in_c()) + 273.15;
        // The whole h carries vapour, radiation included; with its convective part alone the model runs 15 to 20 % fast. A tuned
        // model: the figures it was tuned to check nothing.
        let per_pascal = wet * mass_transfer(oven.steam.0, film_k) * WATER_KG_PER_MOL / (GAS_CONSTANT * film_k) * LATENT;
        // Past its boiling point nothing is wet any more: what leaves then is what comes there, and no more.
        let saturated = saturation_pressure(celsius(surface_c.clamp(-20.0, BOILS))).0;
        let excess = saturated - AIR_VAPOUR;
        if excess <= 0.0 {
            return (0.0, 0.0);
        }
        // Clausius and Clapeyron: dp/dT = p·λM/(RT²).
        let surface_k = surface_c + 273.15;
        let slope = if surface_c < BOILS { saturated * LATENT * WATER_KG_PER_MOL / (GAS_CONSTANT * surface_k * surface_k) } else { 0.0 };
        (per_pascal * excess, per_pascal * slope)
    }
}

/// What a piece meets that is turned all the time: half of each.
pub(super) fn both(fire: Oven, away: Oven) -> Oven {
    let h = f64::midpoint(fire.h.0, away.h.0);
    let air = (fire.h.0 * fire.air.in_c() + away.h.0 * away.air.in_c()) / (2.0 * h);
    let steam = HeatTransfer(f64::midpoint(fire.steam.0, away.steam.0));
    Oven { air: celsius(air), h: HeatTransfer(h), wet: f64::midpoint(fire.wet, away.wet), steam, juices: fire.juices.max(away.juices) }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::{hours, millimetres, minutes};

    #[test]
    fn a_dry_slab_follows_the_one_term_series() {
        // Closed form (plane wall, Incropera & DeWitt, eq. 5.40): Bi = hL/k = 1 has ζ₁ = 0.8603, C₁ = 1.1191;
        // θ₀ = C₁·exp(−ζ₁²·Fo). L = 0.48/25 m; Fo = 1.
        let l = CONDUCTIVITY / 25.0;
        let mut roast =
            Roast::new(Body { shape: Shape::Slab, radius: millimetres(l * 1000.0), start: celsius(5.0), fed: 1.0 }, Wetness::NONE);
        let seconds = l * l * HEAT_CAPACITY / CONDUCTIVITY;
        roast.run(Oven::at(celsius(105.0)), minutes(seconds / 60.0), |_, _| true);
        let theta = (105.0 - roast.core().in_c()) / 100.0;
        let series = 1.1191 * (-0.8603f64.powi(2)).exp();
        assert!((theta - series).abs() < 0.004, "{theta} is not {series}");
    }

    #[test]
    fn a_dry_sphere_follows_the_one_term_series() {
        // Incropera & DeWitt table 5.1: sphere, Bi = 1: ζ₁ = π/2 (1 − ζ cot ζ = Bi), C₁ = 4/π; Fo = 0.5.
        let r = CONDUCTIVITY / 25.0;
        let mut roast =
            Roast::new(Body { shape: Shape::Sphere, radius: millimetres(r * 1000.0), start: celsius(5.0), fed: 1.0 }, Wetness::NONE);
        roast.run(Oven::at(celsius(105.0)), minutes(0.5 * r * r * HEAT_CAPACITY / CONDUCTIVITY / 60.0), |_, _| true);
        let theta = (105.0 - roast.core().in_c()) / 100.0;
        let series = std::f64::consts::FRAC_2_PI * 2.0 * (-0.5 * std::f64::consts::FRAC_PI_2.powi(2)).exp();
        assert!((theta - series).abs() < 0.004, "{theta} is not {series}");
    }

    #[test]
    fn the_core_climbs_after_the_heat() {
        // Common practice: roasts and racks climb 3 to 7 °C. A rack of R 50 mm pulled at 60, a quarter of an hour on the board.
        let mut roast =
            Roast::new(Body { shape: Shape::Cylinder, radius: millimetres(50.0), start: celsius(5.0), fed: 1.0 }, Wetness::OPEN);
        roast.run(Oven::at(celsius(163.0)), hours(5.0), |_, core| core.in_c() < 60.0);
        let pulled = roast.core().in_c();
        roast.run(Oven::board(), minutes(15.0), |_, _| true);
        let rise = roast.core().in_c() - pulled;
        assert!((2.5..=7.0).contains(&rise), "{rise} K");
    }

    #[test]
    fn a_surface_dries_to_its_floor_until_the_inside_has_no_more_to_give() {
        // w₀ e^(−E/E₀), but never below the floor: 0.3 e^(−1) = 0.110 is less than 0.15; at 1 kg/m² 0.3 e^(−½) = 0.182.
        let wet = |lost: f64| Wetness::OPEN.after(lost, 8.0);
        assert!((wet(0.0) - 0.3).abs() < 1e-12 && (wet(1.0) - 0.182).abs() < 1e-3 && (wet(3.0) - 0.15).abs() < 5e-3);
        assert!(wet(8.0) < 0.06 && wet(16.0) < 1e-3, "{} {}", wet(8.0), wet(16.0));
        assert_eq!(Wetness::NONE.after(1.0, 8.0), 0.0);
    }

    #[test]
    fn nothing_inside_is_hotter_than_its_boiling_point() {
        for shape in [Shape::Slab, Shape::Cylinder, Shape::Sphere] {
            let body = Body { shape, radius: millimetres(20.0), start: celsius(5.0), fed: 1.0 };
            let mut roast = Roast::new(body, Wetness::NONE);
            roast.run(Oven::at(celsius(250.0)), hours(3.0), |_, _| true);
            assert!(roast.core().in_c() <= 100.0 && roast.core().in_c() > 99.0, "{shape:?}: {:?}", roast.core());
            assert!(roast.surface(false).in_c() > 120.0, "its crust is");
        }
    }
}
