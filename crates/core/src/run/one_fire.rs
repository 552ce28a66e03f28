//! One fire for pieces that want different airs.

use crate::fire::HeatSource;
use crate::units::{Temperature, TemperatureIn};
use jiff::Timestamp;
use std::collections::BTreeMap;

/// Two airs this far apart, in kelvin, are one: both roast well enough in between (our estimate).
pub const ONE_AIR_K: f64 = 15.0;

/// A piece's stay in the fire.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct InTheFire {
    /// Which piece, by its place in the list.
    pub piece: usize,
    /// From when.
    pub from: Timestamp,
    /// Until when.
    pub to: Timestamp,
    /// The air it wants.
    pub air: Temperature,
    /// On which appliance: on different ones nothing is shared, and of pans and pots there are enough.
    pub heat: HeatSource,
}

/// Pieces in the fire at once that want airs too far apart to share.
#[derive(Debug, Clone, PartialEq)]
pub struct Clash {
    /// From when the first of them are in it together.
    pub from: Timestamp,
    /// Until when the last are.
    pub to: Timestamp,
    /// Those that want it hotter, and how hot, whole °C.
    pub hot: (Vec<usize>, i64),
    /// The others.
    pub low: (Vec<usize>, i64),
}

/// Where two pieces clash, they do where their airs are furthest apart; pieces that want the same are taken together.
///
/// Cost: stays squared, each a comparison.
pub fn clashes(stays: &[InTheFire]) -> Vec<Clash> {
    let apart = |a: &InTheFire, b: &InTheFire| (a.air.in_c() - b.air.in_c()).abs();
    let mut worst: BTreeMap<(usize, usize), (InTheFire, InTheFire)> = BTreeMap::new();
    for (n, a) in stays.iter().enumerate() {
        for b in &stays[n + 1..] {
            let shared = a.heat == b.heat && !matches!(a.heat, HeatSource::Pan | HeatSource::Pot);
            if a.piece == b.piece || !shared || a.from.max(b.from) >= a.to.min(b.to) || apart(a, b) < ONE_AIR_K {
                continue;
            }
            let pair = worst.entry((a.piece, b.piece)).or_insert((*a, *b));
            if apart(&pair.0, &pair.1) < apart(a, b) {
                *pair = (*a, *b);
            }
        }
    }
    let mut found: BTreeMap<(i64, i64), Clash> = BTreeMap::new();
    for (a, b) in worst.into_values() {
        let (hot, low) = if a.air > b.air { (a, b) } else { (b, a) };
        let airs = (hot.air.in_c().round() as i64, low.air.in_c().round() as i64);
        let (from, to) = (a.from.max(b.from), a.to.min(b.to));
        let clash = found.entry(airs).or_insert(Clash { from, to, hot: (vec![], airs.0), low: (vec![], airs.1) });
        (clash.from, clash.to) = (clash.from.min(from), clash.to.max(to));
        for (of, piece) in [(&mut clash.hot.0, hot.piece), (&mut clash.low.0, low.piece)] {
            if !of.contains(&piece) {
                of.push(piece);
            }
        }
    }
    found.into_values().collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::celsius;

    fn stay(piece: usize, from: i64, to: i64, c: f64) -> InTheFire {
        let at = |minute: i64| Timestamp::from_second(1_797_000_000 + minute * 60).unwrap();
        InTheFire { piece, from: at(from), to: at(to), air: celsius(c), heat: HeatSource::Oven }
    }

    #[test]
    fn airs_near_each_other_or_at_other_times_are_no_clash() {
        // By hand: 175 beside 163 °C are 12 K; one ends when the other begins.
        assert!(clashes(&[stay(0, 0, 60, 175.0), stay(1, 0, 60, 163.0)]).is_empty());
        assert!(clashes(&[stay(0, 0, 60, 245.0), stay(1, 60, 120, 120.0)]).is_empty());
        assert!(clashes(&[stay(0, 0, 60, 120.0), stay(0, 30, 90, 245.0)]).is_empty(), "a piece does not clash with itself");
        // An oven and charcoal are two fires; of two pans each has its own.
        let on = |heat, piece, c| InTheFire { heat, ..stay(piece, 0, 60, c) };
        assert!(clashes(&[on(HeatSource::Charcoal, 0, 245.0), on(HeatSource::Oven, 1, 120.0)]).is_empty());
        assert!(clashes(&[on(HeatSource::Pan, 0, 245.0), on(HeatSource::Pan, 1, 120.0)]).is_empty());
        assert_eq!(clashes(&[on(HeatSource::Smoker, 0, 140.0), on(HeatSource::Smoker, 1, 107.0)]).len(), 1);
    }

    #[test]
    fn of_a_pair_the_worst_is_said_and_of_many_alike_one() {
        // Two bellies low and then fierce, beside one turkey all along.
        let stays = [stay(0, 0, 60, 120.0), stay(0, 60, 80, 245.0), stay(1, 0, 60, 120.0), stay(1, 60, 90, 245.0), stay(2, 0, 200, 163.0)];
        let found = clashes(&stays);
        // By hand: 245 against 163 is 82 K, 120 against 163 is 43; fierce beside low of the other belly never meet.
        assert_eq!(found.len(), 1, "{found:?}");
        assert_eq!((&found[0].hot, &found[0].low), (&(vec![0, 1], 245), &(vec![2], 163)));
        assert_eq!((found[0].from, found[0].to), (stays[1].from, stays[3].to));
    }

    proptest::proptest! {
        #[test]
        fn every_two_too_far_apart_at_once_are_in_some_clash(
            all in proptest::collection::vec((0..6usize, 0..300i64, 1..200i64, 80.0..260.0f64), 2..14)
        ) {
            let stays: Vec<InTheFire> = all.iter().map(|(piece, from, long, c)| stay(*piece, *from, from + long, *c)).collect();
            let found = clashes(&stays);
            for (n, a) in stays.iter().enumerate() {
                for b in stays[n + 1..].iter().filter(|b| b.piece != a.piece) {
                    let at_once = a.from.max(b.from) < a.to.min(b.to);
                    if at_once && (a.air.in_c() - b.air.in_c()).abs() >= ONE_AIR_K {
                        let both = |c: &Clash| {
                            let has = |piece| c.hot.0.contains(&piece) || c.low.0.contains(&piece);
                            has(a.piece) && has(b.piece)
                        };
                        proptest::prop_assert!(found.iter().any(both));
                    }
                }
            }
        }
    }
}
