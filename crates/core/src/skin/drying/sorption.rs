//! The isotherm and the brine's share as curves read off a table: a whole week of a salted side asks for them thousands of times.
//!
//! What tissue holds is told as *fullness*: its moisture as a multiple of that at a water activity of 0.5. By Oswin's isotherm
//! `a_w/(1 − a_w) = fullness^(1/B)`, the same for every tissue here, so one table does for all.

use super::brine::{SATURATED_ACTIVITY, SATURATED_MOLAL, brine_activity, water_of};
use std::sync::LazyLock;

/// Exponent B of Oswin's isotherm, of skin (TRADE 6.6); lean and fat are taken to follow it (our estimate).
pub(super) const OSWIN_POWER: f64 = 0.45;

/// Fuller than this nothing fresh is: water activity 0.9996.
const FULLEST: f64 = 32.0;
const NODES: usize = 1024;

/// A smooth function on evenly spaced nodes, with its slope; cubic between them.
struct Curve {
    from: f64,
    step: f64,
    /// Value, and slope times the step.
    nodes: Vec<(f64, f64)>,
}

impl Curve {
    fn of(from: f64, to: f64, f: impl Fn(f64) -> f64) -> Self {
        let step = (to - from) / (NODES - 1) as f64;
        let values: Vec<f64> = (0..NODES).map(|i| f(from + i as f64 * step)).collect();
        // Second order everywhere, at the ends too.
        let slope = |i: usize| match i {
            0 => 2.0 * values[1] - 1.5 * values[0] - 0.5 * values[2],
            i if i == NODES - 1 => 1.5 * values[i] - 2.0 * values[i - 1] + 0.5 * values[i - 2],
            i => (values[i + 1] - values[i - 1]) / 2.0,
        };
        Self { from, step, nodes: (0..NODES).map(|i| (values[i], slope(i))).collect() }
    }

    /// Value and slope, at the nearest end outside the table.
    fn at(&self, x: f64) -> (f64, f64) {
        let along = ((x - self.from) / self.step).clamp(0.0, (NODES - 1) as f64);
        let i = (along as usize).min(NODES - 2);
        let t = along - i as f64;
        let ((y0, d0), (y1, d1)) = (self.nodes[i], self.nodes[i + 1]);
        // Hermite's cubic through both values with both slopes.
        let rise = y1 - y0;
        let (b, c) = (3.0 * rise - 2.0 * d0 - d1, d0 + d1 - 2.0 * rise);
        (y0 + t * (d0 + t * (b + t * c)), (d0 + t * (2.0 * b + t * 3.0 * c)) / self.step)
    }
}

fn exact_activity(fullness: f64) -> f64 {
    let ratio = fullness.max(0.0).powf(1.0 / OSWIN_POWER);
    ratio / (1.0 + ratio)
}

/// Fullness of tissue in equilibrium with a water activity below 1.
pub(super) fn fullness_at(activity: f64) -> f64 {
    (activity / (1.0 - activity)).powf(OSWIN_POWER)
}

/// How steeply water activity rises with fullness, by Oswin's isotherm: `r^(1−B)·(1 − a_w)²/B` with `r = a_w/(1 − a_w)`; for
/// activities from 0.3 up, below which it hardly changes. An upper bound: a square root stands for the power.
pub(super) fn isotherm_slope(activity: f64) -> f64 {
    let a = activity.clamp(0.3, 0.999);
    let ratio = a / (1.0 - a);
    // r^0.55 ≤ √r·r^0.05, and r^0.05 ≤ 1.42 up to r = 999.
    ratio.sqrt() * (1.0 - a) * (1.0 - a) / OSWIN_POWER * if ratio > 1.0 { 1.42 } else { 1.0 }
}

static ACTIVITY: LazyLock<Curve> = LazyLock::new(|| Curve::of(0.0, FULLEST, exact_activity));

/// The same, and how steeply it rises with fullness.
pub(super) fn activity_and_slope(fullness: f64) -> (f64, f64) {
    if fullness > FULLEST { (exact_activity(fullness), 0.0) } else { ACTIVITY.at(fullness) }
}

/// Water activity of tissue so full.
pub(super) fn activity_of(fullness: f64) -> f64 {
    if fullness > FULLEST { exact_activity(fullness) } else { ACTIVITY.at(fullness).0 }
}

/// Where brine over dry salt and tissue agree.
static SATURATED: LazyLock<f64> = LazyLock::new(|| fullness_at(SATURATED_ACTIVITY));

/// Fullness of tissue beside saturated brine.
pub(super) fn saturated_fullness() -> f64 {
    *SATURATED
}

/// kg of water that a kg of salt holds beside tissue so full.
static BRINE: LazyLock<Curve> = LazyLock::new(|| {
    Curve::of(*SATURATED, FULLEST, |fullness| {
        let wanted = exact_activity(fullness);
        // Stronger brine has the lower activity: halved until nothing is left to halve.
        let (mut weak, mut strong) = (1e-6, SATURATED_MOLAL);
        for _ in 0..60 {
            let middle = f64::midpoint(weak, strong);
            if brine_activity(middle) > wanted { weak = middle } else { strong = middle }
        }
        water_of(1.0, f64::midpoint(weak, strong))
    })
});

/// Fullness of tissue that shares its water with salt: `a·fullness + salt·brine(fullness) = moisture`, where `a` is the moisture
/// at an activity of 0.5 and all is per kg of dry tissue. Newton's rule from `near`; the sum is convex and rises, so that it
/// closes in from above.
pub(super) fn shared_fullness(a: f64, salt: f64, moisture: f64, near: f64) -> f64 {
    let mut fullness = near.clamp(*SATURATED, FULLEST);
    for _ in 0..24 {
        let (brine, slope) = BRINE.at(fullness);
        let step = (a * fullness + salt * brine - moisture) / (a + salt * slope);
        fullness = (fullness - step).clamp(*SATURATED, FULLEST);
        // What is left is the square of the last step, nearly.
        if step.abs() < 1e-5 * fullness {
            break;
        }
    }
    fullness
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::skin::drying::brine::molality;

    #[test]
    fn the_tables_say_what_the_formulas_say() {
        // Closed form: a_w/(1 − a_w) = fullness^(1/B).
        for i in 0..4000 {
            let fullness = f64::from(i) * 0.008;
            // The first nodes’ curve is too sharp for a cubic: drier than any air.
            let off = if fullness < 0.1 { 1e-4 } else { 2e-5 };
            assert!((activity_of(fullness) - exact_activity(fullness)).abs() < off, "at {fullness}");
        }
        assert!((exact_activity(1.0) - 0.5).abs() < 1e-12 && (activity_of(40.0) - exact_activity(40.0)).abs() < 1e-12);
        // Put back: the brine of that much water has the tissue's activity.
        for i in 0..3000 {
            let fullness = *SATURATED + f64::from(i) * 0.01;
            let water = BRINE.at(fullness).0;
            let (brine, tissue) = (brine_activity(molality(1.0, water)), exact_activity(fullness));
            // Where the table of osmotic coefficients ends its curve has a corner.
            let off = if tissue < 0.775 { 5e-4 } else { 5e-5 };
            assert!((brine - tissue).abs() < off, "at {fullness}: {brine} and {tissue}");
        }
    }

    #[test]
    fn the_slope_is_never_told_flatter_than_it_is() {
        // Against differences of the closed form itself; below 0.3 it is steepest at 0.22, by a hundredth more than at 0.3.
        let by_differences = |a: f64| 2e-6 / (fullness_at(a + 1e-6) - fullness_at(a - 1e-6));
        for i in 5..998 {
            let a = f64::from(i) / 1000.0;
            let (slope, told) = (by_differences(a), isotherm_slope(a));
            assert!(told > 0.9 * slope && (a < 0.3 || told < 1.8 * slope), "at {a}: {told} for {slope}");
        }
    }

    proptest::proptest! {
        /// Whatever there is of each, tissue and brine add up to the moisture.
        #[test]
        fn nothing_of_the_water_is_lost(salt in 0.0..0.4f64, fullness in 1.7..31.0f64, near in 1.7..31.0f64) {
            let moisture = 0.12 * fullness + salt * BRINE.at(fullness).0;
            proptest::prop_assert!((shared_fullness(0.12, salt, moisture, near) / fullness - 1.0).abs() < 1e-6);
        }
    }
}
