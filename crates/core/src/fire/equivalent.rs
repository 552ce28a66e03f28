//! Ends and edges: a cylinder or a slab of finite length as a body of one dimension whose middle warms as fast.
//!
//! The middle of such a body is the product of what a cylinder and a wall would be (Incropera & DeWitt, section 5.7), each by the first
//! term of its series. A body of the same half thickness whose layers grow with a higher power of the distance from its middle comes
//! there at the same time.

use super::conduction::CONDUCTIVITY;
use crate::units::HeatTransfer;

/// How a middle warms under one film: what is left to the air is the product of `lag·e^(−decay·αt)`, each no more than 1.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Warms(Vec<Term>);

/// The first term of a series.
#[derive(Debug, Clone, Copy, PartialEq)]
struct Term {
    /// 1/m².
    decay: f64,
    /// 1 and more.
    lag: f64,
}

/// What is left to the air when two bodies are held to be equally fast: a roast in the oven has come so far.
const LEFT: f64 = 0.4;
/// No body needs a higher power.
const MOST_POWER: f64 = 6.0;

impl Warms {
    /// A body of this half thickness, m, whose layers grow with a power: 0 a layer between two faces, 1 an endless round, 2 a ball.
    pub(super) fn of(power: f64, half: f64, film: HeatTransfer) -> Self {
        let zeta2 = slowest_mode(power, film.0 * half / CONDUCTIVITY);
        // C₁ = ∫y·x^p dx / ∫y²·x^p dx, by Simpson's rule.
        let (mut once, mut twice) = (0.0, 0.0);
        for i in 0..=SIMPSON {
            let x = f64::from(i) / f64::from(SIMPSON);
            let times = if i == 0 || i == SIMPSON { 1.0 } else { f64::from(2 + 2 * (i % 2)) };
            let (y, layer) = (mode_at(power, zeta2 * x * x).0, times * x.powf(power));
            once += layer * y;
            twice += layer * y * y;
        }
        Self(vec![Term { decay: zeta2 / (half * half), lag: once / twice }])
    }

    /// Cut off by another: a round by its two ends, a wall by its edges.
    pub(super) fn and(mut self, other: Self) -> Self {
        self.0.extend(other.0);
        self
    }

    /// What is left to the air after α × time, m².
    fn left(&self, at: f64) -> f64 {
        self.0.iter().map(|term| (term.lag * (-term.decay * at).exp()).min(1.0)).product()
    }

    /// α × the time until no more than [`LEFT`] is left, m².
    fn time(&self) -> f64 {
        // No later than the fastest of them alone.
        let alone = |term: &Term| (term.lag / LEFT).ln() / term.decay;
        let (mut low, mut high) = (0.0, self.0.iter().map(alone).fold(f64::INFINITY, f64::min));
        for _ in 0..20 {
            let mid = f64::midpoint(low, high);
            if self.left(mid) > LEFT { low = mid } else { high = mid }
        }
        high
    }

    /// The power of the body of this half thickness that is as fast.
    pub(super) fn power(&self, half: f64, film: HeatTransfer) -> f64 {
        // The time falls as the power grows; its inverse is nearly straight.
        let wanted = self.time();
        root((0.0, MOST_POWER), 4e-4, |power| 1.0 / Self::of(power, half, film).time() - 1.0 / wanted)
    }
}

/// Points of Simpson's rule less one; even.
const SIMPSON: u32 = 16;

/// y and x·dy/dx of `y'' + p/x·y' + ζ²y = 0` with y(0) = 1, by ζ²x²: the power series Σ (−ζ²x²/4)^k / (k! (ν+1)…(ν+k)), ν = (p−1)/2.
fn mode_at(power: f64, zeta2_x2: f64) -> (f64, f64) {
    let nu = (power - 1.0) / 2.0;
    let (mut term, mut y, mut slope) = (1.0, 1.0, 0.0);
    for k in 1..60 {
        let k = f64::from(k);
        term *= -zeta2_x2 / 4.0 / (k * (nu + k));
        y += term;
        slope += 2.0 * k * term;
        if term.abs() < 1e-12 {
            break;
        }
    }
    (y, slope)
}

/// ζ² of the slowest mode of a body whose layers grow with this power, at a Biot number h·R/k: the first root of `y' + Bi·y = 0` at the
/// surface (for powers 0, 1, 2 the wall, cylinder and sphere of Incropera & DeWitt, table 5.1).
fn slowest_mode(power: f64, biot: f64) -> f64 {
    // The first zero of y lies below this (from Rayleigh's bound).
    root((0.0, (power + 1.0) * (power + 5.0) / 2.0), 1e-9, |zeta2| {
        let (y, slope) = mode_at(power, zeta2);
        -(slope + biot * y)
    })
}

/// Where a rising function passes zero between two ends, to within `near`: false position (Illinois). One end, where it does not.
fn root((mut low, mut high): (f64, f64), near: f64, f: impl Fn(f64) -> f64) -> f64 {
    let (mut below, mut above) = (f(low), f(high));
    if below >= 0.0 || above <= 0.0 {
        return if below >= 0.0 { low } else { high };
    }
    let mut last = 0i8;
    for _ in 0..60 {
        if high - low <= near {
            break;
        }
        let at = low - below * (high - low) / (above - below);
        let value = f(at);
        // The same end twice: the other one weighs half.
        if value < 0.0 {
            if low + near > at {
                return at;
            }
            (low, below) = (at, value);
            above *= if last == -1 { 0.5 } else { 1.0 };
            last = -1;
        } else {
            if at + near > high {
                return at;
            }
            (high, above) = (at, value);
            below *= if last == 1 { 0.5 } else { 1.0 };
            last = 1;
        }
    }
    f64::midpoint(low, high)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::fire::{Body, Oven, Roast, Shape, Wetness};
    use crate::units::{TemperatureIn, celsius, millimetres, minutes};

    #[test]
    fn slowest_modes_are_those_of_the_table() {
        // Incropera & DeWitt, table 5.1: ζ₁ of wall, cylinder and sphere.
        for (biot, zetas) in
            [(0.1, [0.3111, 0.4417, 0.5423]), (1.0, [0.8603, 1.2558, std::f64::consts::FRAC_PI_2]), (10.0, [1.4289, 2.1795, 2.8363])]
        {
            for (power, zeta) in [0.0, 1.0, 2.0].into_iter().zip(zetas) {
                let got = slowest_mode(power, biot).sqrt();
                assert!((got - zeta).abs() < 2e-4, "power {power}, Bi {biot}: {got} is not {zeta}");
            }
        }
    }

    #[test]
    fn first_terms_are_those_of_the_table() {
        // Incropera & DeWitt, table 5.1: C₁ of wall, cylinder and sphere.
        for (biot, terms) in [(0.1, [1.0161, 1.0246, 1.0298]), (1.0, [1.1191, 1.2071, 1.2732]), (10.0, [1.2620, 1.5677, 1.9249])] {
            for (power, first) in [0.0, 1.0, 2.0].into_iter().zip(terms) {
                let got = Warms::of(power, 0.05, HeatTransfer(biot * CONDUCTIVITY / 0.05)).0[0].lag;
                assert!((got - first).abs() < 1e-3, "power {power}, Bi {biot}: {got} is not {first}");
            }
        }
    }

    #[test]
    fn wall_round_and_ball_are_themselves() {
        let film = HeatTransfer(25.0);
        for (power, half) in [(0.0, 0.03), (1.0, 0.05), (2.0, 0.06)] {
            let got = Warms::of(power, half, film).power(half, film);
            assert!((got - power).abs() < 0.01, "{got} is not {power}");
        }
    }

    /// Distance left to the air in the middle of a dry body after each five minutes, by the body's own equation.
    fn left(shape: Shape, radius_m: f64, film: HeatTransfer) -> Vec<f64> {
        let body = Body { shape, radius: millimetres(radius_m * 1000.0), start: celsius(0.0), fed: 1.0 };
        let mut roast = Roast::new(body, Wetness::NONE);
        let hot = Oven { h: film, ..Oven::at(celsius(90.0)) };
        let each = |_: i32| {
            roast.run(hot, minutes(5.0), |_, _| true);
            1.0 - roast.core().in_c() / 90.0
        };
        (0..120).map(each).collect()
    }

    /// When it has come to so much, in steps of five minutes.
    fn at(left: &[f64], much: f64) -> f64 {
        let i = left.iter().position(|x| *x <= much).unwrap();
        let before = if i > 0 { left[i - 1] } else { 1.0 };
        5.0 * (i as f64 + (before - much) / (before - left[i]))
    }

    #[test]
    fn ends_and_edges_count_as_the_product_of_both_says() {
        // Incropera & DeWitt, section 5.7: the middle of a finite cylinder is the product of cylinder and wall, that of a box of three
        // walls, all the time. Compared is when the middle has gone half and two thirds of its way, as a roast does: within 6 %.
        let mut compared = 0;
        let mut compare = |parts: &[Vec<f64>], whole: &[f64], what: &str| {
            let product: Vec<f64> = (0..120).map(|i| parts.iter().map(|part| part[i]).product()).collect();
            for much in [0.5, 0.35] {
                let (got, want) = (at(whole, much), at(&product, much));
                assert!((got / want - 1.0).abs() < 0.06, "{what}: {got} min is not {want}");
                compared += 1;
            }
        };
        for film in [15.0, 25.0, 60.0].map(HeatTransfer) {
            for (radius, half) in [(0.05, 0.07), (0.05, 0.11), (0.06, 0.2), (0.04, 0.05)] {
                let power = Warms::of(1.0, radius, film).and(Warms::of(0.0, half, film)).power(radius, film);
                let parts = [left(Shape::Cylinder, radius, film), left(Shape::Slab, half, film)];
                compare(&parts, &left(Shape::Grown { power }, radius, film), &format!("R {radius}, half {half}, {film:?}"));
            }
            for [a, b, c] in [[0.0225, 0.095, 0.133], [0.024, 0.05, 0.07], [0.019, 0.05, 0.08]] {
                let [x, y, z] = [a, b, c].map(|half| Warms::of(0.0, half, film));
                let power = x.and(y).and(z).power(a, film);
                let parts = [a, b, c].map(|half| left(Shape::Slab, half, film));
                compare(&parts, &left(Shape::Grown { power }, a, film), &format!("{a} {b} {c}, {film:?}"));
            }
        }
        assert_eq!(compared, 42);
    }
}
