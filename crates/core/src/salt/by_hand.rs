//! What hands really did: grams weighed against the plan, salt that came back, and a hand's habit.

use crate::units::{GramsPerKg, Mass, MassIn, Share, grams};

/// What was weighed of one piece's salt; each part may be unknown.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Weighed {
    /// Loose salt that went on, by tub or bowls, as the scale shows it.
    pub loose: Option<Mass>,
    /// Mix weighed into its bowls.
    pub mix: Option<Mass>,
    /// Mix that came back.
    pub mix_left: Option<Mass>,
}

/// Sodium chloride that went on besides what the plan's ledger already holds; `None` while nothing was weighed.
///
/// loose × purity (or what was planned), plus the mix beyond its plan less what came back, each × its share of salt;
/// never below zero. `planned` is the plan's sodium chloride to weigh, `planned_mix` its grams of mix.
pub fn really_on(weighed: Weighed, planned: Mass, purity: Share, planned_mix: Mass, mix_share: Share) -> Option<Mass> {
    if weighed == Weighed::default() {
        return None;
    }
    let loose = weighed.loose.map_or(planned, |g| g * purity.0);
    let mix_off = weighed.mix.map_or(grams(0.0), |g| g - planned_mix) - weighed.mix_left.unwrap_or(grams(0.0));
    let on = loose + mix_off * mix_share.0;
    Some(grams(on.in_g().max(0.0)))
}

/// The dose that was reached: planned dose × (what was in already + loose salt × purity) ÷ target. `None` without a target.
pub fn dose_reached(planned: GramsPerKg, target: Mass, in_already: Mass, loose: Mass, purity: Share) -> Option<GramsPerKg> {
    (target.in_g() > 0.0).then(|| GramsPerKg(planned.0 * ((in_already + loose * purity.0) / target).value))
}

/// How a hand that salts by eye stands to its plans: times the plan.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Hand {
    /// Mean over the pieces.
    pub mean: f64,
    /// Lightest and heaviest.
    pub range: (f64, f64),
    /// Number of pieces.
    pub pieces: usize,
}

/// The habit of a hand from (planned, really taken) on its pieces; plans below half a gram say nothing. `None` without any.
pub fn hand(pieces: impl IntoIterator<Item = (Mass, Mass)>) -> Option<Hand> {
    let times: Vec<f64> =
        pieces.into_iter().filter(|(planned, _)| planned.in_g() > 0.5).map(|(planned, on)| (on / planned).value).collect();
    let (low, high) = times.iter().fold((f64::INFINITY, 0.0_f64), |(low, high), t| (low.min(*t), high.max(*t)));
    (!times.is_empty()).then(|| Hand { mean: times.iter().sum::<f64>() / times.len() as f64, range: (low, high), pieces: times.len() })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn loose_salt_mix_and_what_came_back() {
        let on = |weighed| really_on(weighed, grams(15.0), Share(0.5), grams(30.0), Share(0.4)).map(MassIn::in_g);
        assert_eq!(on(Weighed::default()), None);
        // By hand: 20 g of a half salt are 10; 5 g too much of a 40 % mix are 2; 10 g of it back are 4.
        let some = |g| Some(grams(g));
        assert!((on(Weighed { loose: some(20.0), ..Weighed::default() }).unwrap() - 10.0).abs() < 1e-9);
        assert!((on(Weighed { loose: some(20.0), mix: some(35.0), mix_left: some(10.0) }).unwrap() - 8.0).abs() < 1e-9);
        assert!((on(Weighed { mix_left: some(10.0), ..Weighed::default() }).unwrap() - 11.0).abs() < 1e-9);
        assert_eq!(on(Weighed { mix_left: some(500.0), ..Weighed::default() }), Some(0.0));
    }

    #[test]
    fn thirty_one_grams_on_a_plan_of_eighteen() {
        // By hand: 7.5 g/kg × 31 ÷ 18 = 12.917 g/kg.
        let dose = dose_reached(GramsPerKg(7.5), grams(18.0), grams(0.0), grams(31.0), Share(1.0)).unwrap();
        assert!((dose.0 - 12.9167).abs() < 1e-4);
        assert_eq!(dose_reached(GramsPerKg(0.0), grams(0.0), grams(0.0), grams(3.0), Share(1.0)), None);
    }

    #[test]
    fn a_hands_habit() {
        // By hand: 1.2 and 1.6 times: 1.4 in the mean; a plan of nothing says nothing.
        let found = hand([(grams(10.0), grams(12.0)), (grams(20.0), grams(32.0)), (grams(0.0), grams(9.0))]).unwrap();
        assert!((found.mean - 1.4).abs() < 1e-9 && found.pieces == 2);
        assert!((found.range.0 - 1.2).abs() < 1e-9 && (found.range.1 - 1.6).abs() < 1e-9);
        assert_eq!(hand([]), None);
    }
}
