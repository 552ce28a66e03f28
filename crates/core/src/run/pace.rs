//! How fast a cook's hands are with a tool, from the stretches of work they noted.

use super::event::Event;
use super::knife::Stretch;
use super::record::Record;

/// A stretch shorter than this says nothing about a pace, s (our estimate).
const TOO_SHORT_S: f64 = 20.0;
/// Earlier stretches that a pace is learned from.
const REMEMBERED: usize = 10;

/// Earlier stretches with a tool, newest first, of several pieces' events: how much (presses, or centimetres of cut) in
/// how many minutes. Those of a few seconds are left out.
pub fn paces(pieces: &[Vec<Event>], tool: &str) -> Vec<(f64, f64)> {
    let of = |events: &Vec<Event>| {
        let record = Record::of(events);
        let mut tasks: Vec<&str> = record.knife.iter().map(|fact| fact.says.0.as_str()).collect();
        tasks.sort_unstable();
        tasks.dedup();
        tasks.into_iter().filter_map(|task| Stretch::of(&record, task)).collect::<Vec<_>>()
    };
    let ended = |s: Stretch| Some((s.stopped?, s.worked_s(s.stopped?), s));
    let mut stretches: Vec<_> = pieces.iter().flat_map(of).filter(|s| s.tool == tool).filter_map(ended).collect();
    stretches.retain(|(_, worked_s, _)| *worked_s >= TOO_SHORT_S);
    stretches.sort_by_key(|(at, ..)| std::cmp::Reverse(*at));
    stretches.into_iter().take(REMEMBERED).map(|(_, worked_s, s)| (s.amount, worked_s / 60.0)).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::run::{EventId, KnifeHand, What};
    use jiff::Timestamp;

    /// A stretch of so many presses that began at a second and took so long.
    fn stretch(id: u128, tool: &str, presses: f64, begun: i64, took: i64) -> Vec<Event> {
        let at = |second: i64| Timestamp::from_second(1_797_000_000 + second).unwrap();
        let hand = |id, second, hand| Event::new(EventId(id), at(second), at(second), What::KnifeRun { task: "pierce".into(), hand });
        let begin = KnifeHand::Begin { tool: tool.into(), amount: presses, picks: None };
        vec![hand(id, begun, begin), hand(id + 1, begun + took, KnifeHand::Stop)]
    }

    #[test]
    fn the_newest_come_first_and_those_of_seconds_or_other_tools_not_at_all() {
        let pieces = [
            stretch(10, "pick", 100.0, 0, 300),
            stretch(20, "pick", 80.0, 10_000, 120),
            stretch(30, "pick", 5.0, 20_000, 15),
            stretch(40, "knife", 50.0, 30_000, 200),
        ];
        // By hand: 80 presses in two minutes, 100 in five.
        assert_eq!(paces(&pieces, "pick"), [(80.0, 2.0), (100.0, 5.0)]);
        assert!(paces(&pieces, "skewer").is_empty());
    }

    #[test]
    fn ten_stretches_are_remembered() {
        let pieces: Vec<Vec<Event>> = (0..25).map(|i| stretch(100 + i * 2, "pick", i as f64, i as i64 * 1000, 60)).collect();
        let amounts: Vec<f64> = paces(&pieces, "pick").into_iter().map(|(amount, _)| amount).collect();
        assert_eq!(amounts, (15..25).rev().map(f64::from).collect::<Vec<_>>());
    }
}
