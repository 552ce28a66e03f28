//! Pouring salt into a bowl on a scale: how much is missing, when it is enough, when it is too much.

use crate::units::{Mass, MassIn, grams};

/// One reading of a scale, the bowl taken off.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Sample {
    /// Milliseconds on any clock that runs forward.
    pub at_ms: i64,
    /// Grams in the bowl.
    pub net_g: f64,
}

/// How a bowl stands against its target.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Pour {
    /// Nothing to speak of is in the bowl.
    Empty,
    /// So much is missing.
    Short(Mass),
    /// Within the tolerance, but not long enough to be sure.
    Reached,
    /// Within the tolerance for the whole holding time: it may be ticked.
    Held,
    /// So much too much.
    Over(Mass),
}

/// Whether so much is so far beyond a bowl's target that its own weight may be in it: twice the target and 20 g more (our estimate).
pub fn is_far_more(weighed: Mass, target: Mass) -> bool {
    weighed.in_g() > 2.0 * target.in_g() + 20.0
}

/// How long the target has to be held before the bowl ticks itself (our estimate).
pub const HOLD_MS: i64 = 3000;

/// How near is near enough: two steps of the scale, and never finer than 1 % of the target.
///
/// A reading is rounded to a step and two of them make a net weight, so that nearer cannot be told.
pub fn tolerance(target: Mass, fineness: Mass) -> Mass {
    grams((2.0 * fineness.in_g()).max(target.in_g() * 0.01))
}

/// Judges a pour by its latest samples, oldest first. Nothing but the last one counts for the weight; the ones of
/// the last three seconds say whether it stands still.
pub fn judge_pour(target: Mass, fineness: Mass, samples: &[Sample]) -> Pour {
    let Some(last) = samples.last() else { return Pour::Empty };
    let near = tolerance(target, fineness).in_g() + 1e-9;
    let (net, goal) = (last.net_g, target.in_g());
    if net < fineness.in_g() * 1.5 && net < goal - near {
        return Pour::Empty;
    }
    // Once it was near enough, a last digit that flickers one step further out does not count against it.
    let run = || samples.iter().rev().take_while(|s| (s.net_g - goal).abs() <= near + fineness.in_g());
    let was_near = run().any(|s| (s.net_g - goal).abs() <= near);
    if !was_near {
        return if net > goal { Pour::Over(grams(net - goal)) } else { Pour::Short(grams(goal - net)) };
    }
    let since = run().last().map_or(last.at_ms, |s| s.at_ms);
    if last.at_ms - since >= HOLD_MS { Pour::Held } else { Pour::Reached }
}

/// How long a scale has to stand still before it may be tared, ms.
const STEADY_MS: i64 = 1200;

/// Whether the scale stands still: its readings of the last 1.2 s, two at least, differ by no more than two steps.
pub fn is_steady(fineness: Mass, samples: &[Sample]) -> bool {
    let Some(last) = samples.last() else { return false };
    let recent = || samples.iter().rev().take_while(|s| last.at_ms - s.at_ms <= STEADY_MS).map(|s| s.net_g);
    let (low, high) = recent().fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), g| (low.min(g), high.max(g)));
    recent().count() >= 2 && high - low <= 2.0 * fineness.in_g() + 1e-9
}

/// Whether a whole bowl was lifted: the scale shows clearly less than the empty bowl.
pub fn is_lifted(net_g: f64, fineness: Mass) -> bool {
    net_g < -(5.0 * fineness.in_g()).max(5.0)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn samples(net: &[f64]) -> Vec<Sample> {
        net.iter().zip(0..).map(|(net_g, i)| Sample { at_ms: i * 250, net_g: *net_g }).collect()
    }

    #[test]
    fn it_fills_holds_and_runs_over() {
        let judge = |net: &[f64]| judge_pour(grams(18.0), grams(0.1), &samples(net));
        assert_eq!(judge(&[]), Pour::Empty);
        assert_eq!(judge(&[0.1]), Pour::Empty);
        let Pour::Short(missing) = judge(&[0.0, 10.0]) else { panic!("short") };
        assert!((missing.in_g() - 8.0).abs() < 1e-9);
        assert_eq!(judge(&[10.0, 18.1]), Pour::Reached);
        let Pour::Over(by) = judge(&[18.0, 21.2]) else { panic!("over") };
        assert!((by.in_g() - 3.2).abs() < 1e-9);
    }

    #[test]
    fn three_seconds_within_the_tolerance_are_held() {
        let mut poured = vec![12.0];
        poured.extend([18.0; 12]);
        // 12 samples a quarter of a second apart span 2.75 s: not yet.
        assert_eq!(judge_pour(grams(18.0), grams(0.1), &samples(&poured)), Pour::Reached);
        poured.push(17.9);
        assert_eq!(judge_pour(grams(18.0), grams(0.1), &samples(&poured)), Pour::Held);
        // The last digit flickers one step beyond the tolerance: it is held all the same.
        let flicker: Vec<f64> = (0..13).map(|i| if i % 2 == 0 { 18.2 } else { 18.3 }).collect();
        assert_eq!(judge_pour(grams(18.0), grams(0.1), &samples(&flicker)), Pour::Held);
        // But it has to have been near enough once.
        assert!(matches!(judge_pour(grams(18.0), grams(0.1), &samples(&[18.3; 13])), Pour::Over(_)));
        // A pinch more starts the count again, once it is out of the tolerance.
        poured.extend([19.0, 18.0]);
        assert_eq!(judge_pour(grams(18.0), grams(0.1), &samples(&poured)), Pour::Reached);
    }

    #[test]
    fn a_scale_that_still_moves_is_not_steady() {
        // A bowl set down: the reading climbs, then stands; the climb is forgotten after 1.2 s.
        let steady = |net: &[f64]| is_steady(grams(0.1), &samples(net));
        assert!(!steady(&[0.0, 95.0, 130.0, 147.0, 149.9]) && !steady(&[150.0]) && !steady(&[]));
        assert!(!steady(&[147.0, 149.9, 150.0, 150.0, 150.1]), "1 s after 147 g");
        assert!(steady(&[147.0, 149.9, 150.0, 150.0, 150.1, 150.0]));
    }

    #[test]
    fn a_coarse_scale_is_not_asked_for_tenths() {
        // 1 g steps: 6.4 g of target and a reading of 8 are within two steps; 9 is not.
        assert_eq!(judge_pour(grams(6.4), grams(1.0), &samples(&[8.0])), Pour::Reached);
        assert!(matches!(judge_pour(grams(6.4), grams(1.0), &samples(&[9.0])), Pour::Over(_)));
        assert!(is_lifted(-180.0, grams(1.0)) && !is_lifted(-2.0, grams(1.0)));
    }
}
