//! Minutes on the clock that runs out of the refrigerator, and quicker ways when it would run over.

use super::knife::{CoverWork, KnifeAsk, KnifeWork, knife_work};
use super::tools::SkinTool;
use crate::units::{LengthIn, Time, TimeIn, minutes};

/// Another way, with what it gives.
#[derive(Debug, Clone, PartialEq)]
pub struct QuickerWay {
    /// What to do instead.
    pub what: String,
    /// Minutes of it.
    pub takes: Time,
    /// Longest stretch that any of the meat is out for it.
    pub out: Time,
}

/// More than this for one step is worth another look (our estimate), min.
const LONG_STEP_MIN: f64 = 40.0;
/// Fewest holes that still do something: sparse (our estimate).
const SPARSE_PER_CM2: f64 = 4.0;

/// Quicker ways, quickest first; none where the work is short and fits into what the rest of the time out of the refrigerator
/// leaves for it.
pub fn quicker_ways(ask: &KnifeAsk, work: &KnifeWork, left: Time) -> Vec<QuickerWay> {
    let takes = work.takes().in_min();
    if takes <= LONG_STEP_MIN && takes <= left.in_min() {
        return vec![];
    }
    let mut ways = Vec::new();
    let mut offer = |what: String, other_ask: KnifeAsk| {
        if let Ok(done) = knife_work(&other_ask) {
            ways.push(QuickerWay { what, takes: done.takes(), out: done.takes() });
        }
    };
    match ask.cover {
        CoverWork::Pierce { lattice, per_cm2 } => {
            // A brush whose pins reach; the cook's own pace belongs to the cook's own tool.
            let brush = SkinTool::find("needle-brush")
                .filter(|b| b.id != ask.tool.id && work.guard.is_none_or(|g| b.reach_mm > g.at_least.in_mm()));
            if let Some(tool) = brush {
                offer(format!("with a {}", tool.name), KnifeAsk { tool, own_pace: None, ..ask.clone() });
            }
            if per_cm2 > SPARSE_PER_CM2 {
                let fewer = if per_cm2 > 8.0 { 8.0 } else { SPARSE_PER_CM2 };
                let cover = CoverWork::Pierce { lattice, per_cm2: fewer };
                offer(format!("{fewer:.0} holes a cm² instead of {per_cm2:.0}"), KnifeAsk { cover, ..ask.clone() });
            }
        }
        CoverWork::Score { pattern, spacing, direction } => {
            let wider = spacing * 1.5;
            let cover = CoverWork::Score { pattern, spacing: wider, direction };
            offer(format!("strokes {:.0} mm apart instead of {:.0}", wider.in_mm(), spacing.in_mm()), KnifeAsk { cover, ..ask.clone() });
        }
        CoverWork::Whole => {}
    }
    ways.retain(|way| way.takes.in_min() < takes - 0.5);
    ways.push(QuickerWay { what: "in two halves, the other half in the cold".into(), takes: minutes(takes), out: minutes(takes / 2.0) });
    ways.sort_by(|a, b| a.out.in_min().total_cmp(&b.out.in_min()));
    ways
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::skin::testing::belly;
    use crate::skin::{Lattice, Pattern};
    use crate::units::millimetres;

    fn ask(cover: CoverWork, tool: &str) -> KnifeAsk {
        KnifeAsk { edge: millimetres(0.0), ..belly(cover, tool) }
    }

    fn ways(ask: &KnifeAsk, other: f64) -> Vec<QuickerWay> {
        quicker_ways(ask, &knife_work(ask).unwrap(), crate::caution::out_at_most() - minutes(other))
    }

    #[test]
    fn a_brush_fewer_holes_or_two_halves() {
        // TRADE 5.6: 15/cm² with one pick is 55 min: offer a brush, fewer holes, two halves.
        let thorough = ask(CoverWork::Pierce { lattice: Lattice::Square, per_cm2: 15.0 }, "pick");
        let found = ways(&thorough, 15.0);
        // By hand: 9,900 ÷ 24 = 413 presses at one a second, 6.9 min; 5,270 ÷ 180 = 29.3 min; 55 ÷ 2 = 27.5 min out.
        let out: Vec<f64> = found.iter().map(|w| w.out.in_min()).collect();
        assert!((out[0] - 6.9).abs() < 0.1 && (out[1] - 27.5).abs() < 0.3 && (out[2] - 29.3).abs() < 0.1, "{found:?}");
        assert!(found[0].what.contains("brush") && found[1].what.contains("halves") && found[2].what.contains("8 holes"));
    }

    #[test]
    fn short_work_is_left_alone_unless_the_two_hours_are_full() {
        let brush = ask(CoverWork::Pierce { lattice: Lattice::Square, per_cm2: 8.0 }, "needle-brush");
        assert!(ways(&brush, 15.0).is_empty());
        assert!(!ways(&brush, 118.0).is_empty(), "four more minutes than two hours");
        let mut close = ask(CoverWork::Score { pattern: Pattern::Parallel, spacing: millimetres(5.0), direction: 0.0 }, "craft-knife");
        assert!(ways(&close, 15.0).is_empty(), "a practised hand is done in minutes");
        // Twenty centimetres a minute, a beginner's pace, make an hour of it.
        close.own_pace = Some(20.0);
        assert!(ways(&close, 15.0).iter().any(|w| w.what.contains("apart instead")), "an hour of strokes");
    }
}
