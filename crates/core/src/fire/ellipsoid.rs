//! Joints in three dimensions: an ellipsoid of the piece's measures whose volume is its weight's, warmed like a body of one
//! dimension whose area goes with a power of the distance from its middle.

use crate::piece::{MEAT_DENSITY_KG_PER_L, Measures};
use crate::units::{Length, LengthIn, Mass, MassIn, millimetres};

/// Half-axes of an ellipsoid, the shortest first.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct HalfAxes(pub [Length; 3]);

/// The ellipsoid of a piece: its thickness stands; length and width keep their proportion and are stretched or shrunk alike, so
/// that its volume is the weight's (1.055 kg/L). Thickness above 0; a side of 0 counts as 1 mm.
pub fn half_axes(weight: Mass, thickness: Length, measures: Measures) -> HalfAxes {
    let cubic_mm = weight.in_kg() / MEAT_DENSITY_KG_PER_L * 1e6;
    let (length, width) = (measures.length.in_mm().max(1.0), measures.width.in_mm().max(1.0));
    // V = π/6 · length · width · thickness.
    let face = cubic_mm * 6.0 / (std::f64::consts::PI * thickness.in_mm().max(1.0));
    let stretch = (face / (length * width)).sqrt();
    let mut half = [thickness.in_mm() / 2.0, length * stretch / 2.0, width * stretch / 2.0];
    half.sort_by(f64::total_cmp);
    HalfAxes(half.map(|mm| millimetres(mm.max(0.5))))
}

/// Half-axes ÷ the shortest that the table was solved for.
const RATIOS: [f64; 6] = [1.0, 1.25, 1.5, 2.0, 3.0, 5.0];
/// Biot numbers h·L/k it was solved for, L the shortest half-axis.
const BIOTS: [f64; 4] = [1.0, 2.0, 4.0, 8.0];
/// The power, by Biot number, middle and longest half-axis. Source: solved in three dimensions by finite elements,
/// tests/reference/ellipsoid.py.
const POWERS: [[[f64; 6]; 6]; 4] = [
    [
        [2.006, 1.735, 1.559, 1.346, 1.156, 1.053],
        [1.735, 1.467, 1.293, 1.083, 0.893, 0.786],
        [1.559, 1.293, 1.121, 0.913, 0.724, 0.615],
        [1.346, 1.083, 0.913, 0.709, 0.521, 0.408],
        [1.156, 0.893, 0.724, 0.521, 0.333, 0.218],
        [1.053, 0.786, 0.615, 0.408, 0.218, 0.105],
    ],
    [
        [2.005, 1.701, 1.510, 1.294, 1.124, 1.042],
        [1.701, 1.402, 1.215, 1.001, 0.828, 0.743],
        [1.510, 1.215, 1.030, 0.818, 0.644, 0.556],
        [1.294, 1.001, 0.818, 0.607, 0.433, 0.343],
        [1.124, 0.828, 0.644, 0.433, 0.258, 0.167],
        [1.042, 0.743, 0.556, 0.343, 0.167, 0.079],
    ],
    [
        [2.003, 1.672, 1.473, 1.260, 1.106, 1.035],
        [1.672, 1.346, 1.151, 0.939, 0.781, 0.708],
        [1.473, 1.151, 0.957, 0.746, 0.587, 0.512],
        [1.260, 0.939, 0.746, 0.536, 0.376, 0.300],
        [1.106, 0.781, 0.587, 0.376, 0.215, 0.139],
        [1.035, 0.708, 0.512, 0.300, 0.139, 0.067],
    ],
    [
        [2.002, 1.651, 1.448, 1.240, 1.095, 1.031],
        [1.651, 1.306, 1.106, 0.897, 0.750, 0.684],
        [1.448, 1.106, 0.908, 0.700, 0.551, 0.483],
        [1.240, 0.897, 0.700, 0.493, 0.342, 0.274],
        [1.095, 0.750, 0.551, 0.342, 0.191, 0.124],
        [1.031, 0.684, 0.483, 0.274, 0.124, 0.060],
    ],
];
/// Biot number of a joint in the oven: h 25 W/m²K over 75 mm of lean. The power hardly follows it.
const USUAL_BIOT: f64 = 4.0;

/// The power of the one-dimensional body whose middle warms as that of an ellipsoid with half-axes 1 : `middle` : `long`, in an
/// oven. 2 for a ball; 0 for a slab, which an ellipsoid longer than five times its thickness counts nearly as.
///
/// Straight lines in 1 ÷ ratio between the solved shapes; a body longer than the table counts as its last. Valid for ratios of 1
/// and more; less than 1 counts as 1.
///
/// ```
/// use rauchkeller_core::fire::power_of;
/// assert!((power_of(1.0, 1.0) - 2.0).abs() < 0.01);
/// ```
pub fn power_of(middle: f64, long: f64) -> f64 {
    power_at(middle, long, USUAL_BIOT)
}

/// The same for another film, by its Biot number: film × half thickness ÷ conductivity.
pub fn power_at(middle: f64, long: f64, biot: f64) -> f64 {
    let place = |table: &[f64], x: f64, key: fn(f64) -> f64| {
        let i = table.partition_point(|t| *t < x).clamp(1, table.len() - 1);
        let (from, to) = (key(table[i - 1]), key(table[i]));
        (i - 1, ((key(x) - from) / (to - from)).clamp(0.0, 1.0))
    };
    let reciprocal: fn(f64) -> f64 = |x| 1.0 / x;
    let (i, s) = place(&RATIOS, middle.max(1.0), reciprocal);
    let (j, t) = place(&RATIOS, long.max(1.0), reciprocal);
    let (k, u) = place(&BIOTS, biot, f64::ln);
    let flat = |k: usize| {
        let p = &POWERS[k];
        let near = p[i][j] + (p[i][j + 1] - p[i][j]) * t;
        let far = p[i + 1][j] + (p[i + 1][j + 1] - p[i + 1][j]) * t;
        near + (far - near) * s
    };
    flat(k) + (flat(k + 1) - flat(k)) * u
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::fire::{Body, Oven, Roast, Shape, Wetness};
    use crate::units::{HeatTransfer, celsius, grams};

    const K: f64 = 0.48;
    const RHO_C: f64 = 1060.0 * 3500.0;

    /// Hours until the middle of a dry one-dimensional body has lost so much of its distance to the air (the rest is `y`).
    fn one_dimension(power: f64, biot: f64, y: f64) -> f64 {
        let radius = millimetres(60.0);
        let h = HeatTransfer(biot * K / radius.in_m());
        let roast = Roast::new(Body { shape: Shape::Grown { power }, radius, start: celsius(0.0), fed: 1.0 }, Wetness::NONE);
        let used = crate::fire::testing::until(roast, Oven { h, ..Oven::at(celsius(99.0)) }, 99.0 * (1.0 - y));
        crate::units::TimeIn::in_s(used) * K / RHO_C / radius.in_m().powi(2)
    }

    #[test]
    fn it_warms_as_the_solver_in_three_dimensions_says() {
        let mut compared = 0;
        for line in include_str!("../../tests/reference/ellipsoid.csv").lines().filter(|l| !l.starts_with('#')) {
            let row: Vec<f64> = line.split(',').map(|x| x.parse().unwrap()).collect();
            let got = one_dimension(power_at(row[0], row[1], row[2]), row[2], 0.4);
            assert!((got / row[3] - 1.0).abs() < 0.01, "{line}: Fo {got}");
            compared += 1;
        }
        assert_eq!(compared, 84);
    }

    /// ASHRAE Handbook—Refrigeration (2018), “Cooling and freezing times of foods”: equivalent heat transfer dimensionality of
    /// an ellipsoid (Lin et al. 1996), from memory. Gives Fo at which the middle is at `y`.
    fn ashrae(b1: f64, b2: f64, biot: f64, y: f64) -> f64 {
        let e0 = 1.5 * (b1 + b2 + b1 * b1 * (1.0 + b2) + b2 * b2 * (1.0 + b1)) / (b1 * b2 * (b1 + b2 + 1.0))
            - ((b1 - b2).powi(2)).powf(0.4) / 15.0;
        let f = |b: f64| 1.0 / (b * b) + 0.01 * (b - b * b / 6.0).exp();
        let e_inf = 0.75 + 1.01 * f(b1) + 1.24 * f(b2);
        let e = (biot.powf(4.0 / 3.0) + 1.85) / (biot.powf(4.0 / 3.0) / e_inf + 1.85 / e0);
        // First root of ω cot ω + Bi − 1 = 0, between 0 and π.
        let (mut low, mut high) = (1e-6, std::f64::consts::PI - 1e-9);
        for _ in 0..200 {
            let mid = f64::midpoint(low, high);
            if mid / mid.tan() + biot - 1.0 > 0.0 { low = mid } else { high = mid }
        }
        let j_inf = 1.271 + 0.305 * (0.172 * b1 - 0.115 * b1 * b1).exp() + 0.425 * (0.09 * b2 - 0.128 * b2 * b2).exp();
        let lambda = 1.2;
        let j = (biot.powf(1.35) + 1.0 / lambda) / (biot.powf(1.35) / j_inf + 1.0 / lambda);
        3.0 * (j / y).ln() / (low * low * e)
    }

    #[test]
    fn single_dry_stages_agree_with_ashraes_equivalent_dimensionality() {
        let mut compared = 0;
        for (b1, b2) in [(1.0, 1.0), (1.0, 1.3), (1.15, 1.5), (1.3, 1.7), (1.5, 2.0), (1.25, 2.5), (2.0, 3.0)] {
            for biot in [1.5, 2.5, 4.0, 5.0] {
                let (got, want) = (one_dimension(power_of(b1, b2), biot, 0.4), ashrae(b1, b2, biot, 0.4));
                assert!((got / want - 1.0).abs() < 0.10, "1 : {b1} : {b2}, Bi {biot}: Fo {got} is not {want}");
                compared += 1;
            }
        }
        assert_eq!(compared, 28);
    }

    #[test]
    fn the_ellipsoid_weighs_what_the_piece_weighs() {
        for (g, mm, long, wide) in [(4500.0, 150.0, 260.0, 200.0), (2000.0, 150.0, 180.0, 140.0), (7000.0, 90.0, 400.0, 210.0)] {
            let measures = Measures { length: millimetres(long), width: millimetres(wide) };
            let HalfAxes([a, b, c]) = half_axes(grams(g), millimetres(mm), measures);
            let litres = 4.0 / 3.0 * std::f64::consts::PI * a.in_mm() * b.in_mm() * c.in_mm() / 1e6;
            assert!((litres * MEAT_DENSITY_KG_PER_L * 1000.0 - g).abs() < 1e-6 && a <= b && b <= c);
        }
    }

    proptest::proptest! {
        #[test]
        fn longer_bodies_are_more_like_slabs(b1 in 1.0..6.0f64, b2 in 1.0..6.0f64, more in 0.0..2.0f64) {
            let (short, long) = (power_of(b1, b2), power_of(b1, b2 + more));
            proptest::prop_assert!(long <= short + 1e-9 && (0.0..=2.01).contains(&short), "{short} {long}");
            proptest::prop_assert!((power_of(b1, b2) - power_of(b2, b1)).abs() < 1e-9);
        }
    }
}
