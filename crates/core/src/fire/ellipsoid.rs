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

/// A body of one dimension whose middle warms as an ellipsoid's.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Alike {
    /// Its layers grow with this power of the distance from the middle: 2 in a ball, nearly 0 in what is long and wide.
    pub power: f64,
    /// Its radius ÷ the shortest half-axis.
    pub stretch: f64,
}

/// Half-axes ÷ the shortest that the table was solved for.
const RATIOS: [f64; 6] = [1.0, 1.25, 1.5, 2.0, 3.0, 5.0];
/// Biot numbers h·L/k it was solved for, L the shortest half-axis.
const BIOTS: [f64; 4] = [1.0, 2.0, 4.0, 8.0];
/// Power and stretch, by Biot number, middle and longest half-axis. Source: solved in three dimensions by finite elements and fitted
/// over the whole course of the middle, tests/reference/ellipsoid.py.
const ALIKE: [[[(f64, f64); 6]; 6]; 4] = [
    [
        [(2.010, 1.0009), (1.984, 1.0652), (1.916, 1.0988), (1.721, 1.1119), (1.384, 1.0734), (1.119, 1.0221)],
        [(1.984, 1.0652), (1.983, 1.1468), (1.937, 1.1943), (1.767, 1.2248), (1.426, 1.1929), (1.126, 1.1328)],
        [(1.916, 1.0988), (1.937, 1.1943), (1.908, 1.2530), (1.762, 1.2983), (1.424, 1.2736), (1.099, 1.2064)],
        [(1.721, 1.1119), (1.767, 1.2248), (1.762, 1.2983), (1.648, 1.3638), (1.324, 1.3498), (0.975, 1.2715)],
        [(1.384, 1.0734), (1.426, 1.1929), (1.424, 1.2736), (1.324, 1.3498), (1.017, 1.3391), (0.659, 1.2435)],
        [(1.119, 1.0221), (1.126, 1.1328), (1.099, 1.2064), (0.975, 1.2715), (0.659, 1.2435), (0.332, 1.1401)],
    ],
    [
        [(2.008, 1.0008), (1.959, 1.0599), (1.850, 1.0837), (1.600, 1.0818), (1.276, 1.0439), (1.076, 1.0101)],
        [(1.959, 1.0599), (1.954, 1.1402), (1.874, 1.1791), (1.644, 1.1921), (1.297, 1.1547), (1.060, 1.1121)],
        [(1.850, 1.0837), (1.874, 1.1791), (1.817, 1.2295), (1.609, 1.2550), (1.254, 1.2193), (0.993, 1.1695)],
        [(1.600, 1.0818), (1.644, 1.1921), (1.609, 1.2550), (1.429, 1.2952), (1.076, 1.2613), (0.795, 1.2002)],
        [(1.276, 1.0439), (1.297, 1.1547), (1.254, 1.2193), (1.076, 1.2613), (0.737, 1.2226), (0.456, 1.1477)],
        [(1.076, 1.0101), (1.060, 1.1121), (0.993, 1.1695), (0.795, 1.2002), (0.456, 1.1477), (0.213, 1.0750)],
    ],
    [
        [(2.007, 1.0008), (1.940, 1.0563), (1.803, 1.0738), (1.527, 1.0651), (1.222, 1.0303), (1.051, 1.0040)],
        [(1.940, 1.0563), (1.931, 1.1354), (1.828, 1.1686), (1.564, 1.1719), (1.224, 1.1345), (1.019, 1.1004)],
        [(1.803, 1.0738), (1.828, 1.1686), (1.748, 1.2127), (1.504, 1.2266), (1.151, 1.1880), (0.926, 1.1477)],
        [(1.527, 1.0651), (1.564, 1.1719), (1.504, 1.2266), (1.282, 1.2509), (0.928, 1.2099), (0.689, 1.1598)],
        [(1.222, 1.0303), (1.224, 1.1345), (1.151, 1.1880), (0.928, 1.2099), (0.588, 1.1623), (0.357, 1.1027)],
        [(1.051, 1.0040), (1.019, 1.1004), (0.926, 1.1477), (0.689, 1.1598), (0.357, 1.1027), (0.165, 1.0504)],
    ],
    [
        [(2.007, 1.0008), (1.928, 1.0541), (1.775, 1.0683), (1.486, 1.0562), (1.193, 1.0236), (1.035, 1.0007)],
        [(1.928, 1.0541), (1.916, 1.1323), (1.798, 1.1620), (1.516, 1.1604), (1.184, 1.1238), (0.994, 1.0937)],
        [(1.775, 1.0683), (1.798, 1.1620), (1.704, 1.2022), (1.439, 1.2097), (1.092, 1.1708), (0.884, 1.1348)],
        [(1.486, 1.0562), (1.516, 1.1604), (1.439, 1.2097), (1.193, 1.2243), (0.844, 1.1814), (0.627, 1.1374)],
        [(1.193, 1.0236), (1.184, 1.1238), (1.092, 1.1708), (0.844, 1.1814), (0.513, 1.1323), (0.308, 1.0814)],
        [(1.035, 1.0007), (0.994, 1.0937), (0.884, 1.1348), (0.627, 1.1374), (0.308, 1.0814), (0.143, 1.0399)],
    ],
];

/// The body of one dimension whose middle warms as that of an ellipsoid with half-axes 1 : `middle` : `long` and this Biot number: film ×
/// shortest half-axis ÷ conductivity.
///
/// One number cannot do it: with the power alone, set so that both come to the same warmth at the same time, a middle is warm too early
/// (after a fierce start by up to 5 % of the way to the air) and slow at the end.
///
/// Straight lines in 1 ÷ ratio between the solved shapes, in the logarithm between the Biot numbers; a body longer than the table counts
/// as its last. Valid for ratios of 1 and more; less than 1 counts as 1.
///
/// ```
/// use rauchkeller_core::fire::alike;
/// let ball = alike(1.0, 1.0, 4.0);
/// assert!((ball.power - 2.0).abs() < 0.01 && (ball.stretch - 1.0).abs() < 0.01);
/// ```
pub fn alike(middle: f64, long: f64, biot: f64) -> Alike {
    let place = |table: &[f64], x: f64, key: fn(f64) -> f64| {
        let i = table.partition_point(|t| *t < x).clamp(1, table.len() - 1);
        let (from, to) = (key(table[i - 1]), key(table[i]));
        (i - 1, ((key(x) - from) / (to - from)).clamp(0.0, 1.0))
    };
    let reciprocal: fn(f64) -> f64 = |x| 1.0 / x;
    let between = |a: (f64, f64), b: (f64, f64), t: f64| (a.0 + (b.0 - a.0) * t, a.1 + (b.1 - a.1) * t);
    let (i, s) = place(&RATIOS, middle.max(1.0), reciprocal);
    let (j, t) = place(&RATIOS, long.max(1.0), reciprocal);
    let (k, u) = place(&BIOTS, biot, f64::ln);
    let flat = |table: &[[(f64, f64); 6]; 6]| {
        let along = |row: &[(f64, f64); 6]| between(row[j], row[j + 1], t);
        between(along(&table[i]), along(&table[i + 1]), s)
    };
    let (power, stretch) = between(flat(&ALIKE[k]), flat(&ALIKE[k + 1]), u);
    Alike { power, stretch }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::fire::{Body, Oven, Roast, Shape, Wetness};
    use crate::units::{HeatTransfer, TemperatureIn, celsius, grams};

    const K: f64 = 0.48;
    const RHO_C: f64 = 1060.0 * 3500.0;

    /// The dry body of one dimension in air 99 K above it, and the seconds of Fo 1.
    fn one_dimension(b1: f64, b2: f64, biot: f64) -> (Roast, HeatTransfer, f64) {
        let half = millimetres(60.0);
        let Alike { power, stretch } = alike(b1, b2, biot);
        let body = Body { shape: Shape::Grown { power }, radius: half * stretch, start: celsius(0.0), fed: 1.0 };
        (Roast::new(body, Wetness::NONE), HeatTransfer(biot * K / half.in_m()), RHO_C / K * half.in_m().powi(2))
    }

    /// Fo until the middle has lost so much of its distance to the air (the rest is `y`).
    fn fo_until(b1: f64, b2: f64, biot: f64, y: f64) -> f64 {
        let (roast, h, one) = one_dimension(b1, b2, biot);
        let used = crate::fire::testing::until(roast, Oven { h, ..Oven::at(celsius(99.0)) }, 99.0 * (1.0 - y));
        crate::units::TimeIn::in_s(used) / one
    }

    /// Steady air and a fierce start, shapes of the table and shapes between: nothing of it was fitted to.
    #[test]
    fn it_warms_as_the_solver_in_three_dimensions_says() {
        const RISE: f64 = 45.0;
        let mut compared = 0;
        for line in include_str!("../../tests/reference/ellipsoid.csv").lines() {
            let Some((kind @ ("held" | "fierce"), row)) = line.split_once(',') else { continue };
            let row: Vec<f64> = row.split(',').map(|x| x.parse().unwrap()).collect();
            let (mut roast, h, one) = one_dimension(row[0], row[1], row[2]);
            let mut at = 0.0;
            let mut until = |roast: &mut Roast, fo: f64, rise: f64| {
                let oven = Oven { h, ..Oven::at(celsius(rise)) };
                roast.run(oven, crate::units::minutes((fo - at) * one / 60.0), |_, _| true);
                at = fo;
            };
            if kind == "fierce" {
                until(&mut roast, 0.05, 2.0 * RISE);
            }
            for point in row[3..].chunks(2) {
                until(&mut roast, point[0], RISE);
                let got = roast.core().in_c() / RISE;
                assert!((got - point[1]).abs() < 0.02, "{line}: at Fo {} {got}", point[0]);
                compared += 1;
            }
        }
        assert_eq!(compared, 2 * 3 * 22 * 6);
    }

    #[test]
    fn the_table_is_the_one_that_was_fitted() {
        let mut rows = 0;
        for line in include_str!("../../tests/reference/ellipsoid.csv").lines() {
            let Some(("fit", row)) = line.split_once(',') else { continue };
            let row: Vec<f64> = row.split(',').map(|x| x.parse().unwrap()).collect();
            let got = alike(row[0], row[1], row[2]);
            assert!((got.power - row[3]).abs() < 1e-9 && (got.stretch - row[4]).abs() < 1e-9, "{line}: {got:?}");
            rows += 1;
        }
        assert_eq!(rows, 84);
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
                let (got, want) = (fo_until(b1, b2, biot, 0.4), ashrae(b1, b2, biot, 0.4));
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
        fn longer_bodies_are_slower(b1 in 1.0..6.0f64, b2 in 1.0..6.0f64, more in 0.0..2.0f64, biot in 1.0..8.0f64) {
            let (short, long) = (fo_until(b1, b2, biot, 0.4), fo_until(b1, b2 + more, biot, 0.4));
            proptest::prop_assert!(long >= short * 0.995, "{short} {long}");
            proptest::prop_assert!((0.0..=2.02).contains(&alike(b1, b2, biot).power));
            let other = alike(b2, b1, biot);
            proptest::prop_assert!((alike(b1, b2, biot).stretch - other.stretch).abs() < 1e-9);
        }
    }
}
