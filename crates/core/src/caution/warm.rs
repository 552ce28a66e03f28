//! A refrigerator that stood above 4.4 °C with raw meat in it: since when, how long, and what follows.
//!
//! Source: USDA FSIS, “Refrigeration and food safety”: raw meat above 40 °F for more than two hours is discarded. Time out
//! of the refrigerator is time above it, too, so both go into one sum.

use super::{Caution, Severity};
use crate::method::StepKind;
use crate::units::{Temperature, Time, TimeIn, minutes};
use crate::words;
use jiff::Timestamp;

/// A while above 4.4 °C.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct WarmSpell {
    /// Since when; `None` while nobody has said.
    pub from: Option<Timestamp>,
    /// Until when; `None` while it lasts.
    pub to: Option<Timestamp>,
    /// How warm, where somebody read it.
    pub air: Option<Temperature>,
}

/// What the spells come to for one piece.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Warm {
    /// Time above 4.4 °C, as far as it is known; spells that overlap count once.
    pub known: Time,
    /// A spell whose beginning nobody has said.
    pub unknown: bool,
    /// It lasts.
    pub standing: bool,
    /// The warmest that was read.
    pub air: Option<Temperature>,
}

/// Adds up the spells of a piece that lies in the refrigerator from `into` to `out`; `until` is now. `None` where none
/// touches it.
pub fn warm_between(spells: &[WarmSpell], into: Timestamp, out: Timestamp, until: Timestamp) -> Option<Warm> {
    let end = out.min(until);
    let clip = |s: &WarmSpell| (s.from.map(|from| from.max(into)), s.to.unwrap_or(end).min(end));
    // One without a beginning touches it if it ended, or has not ended, while the piece was in.
    let touches = |s: &&WarmSpell| match clip(s) {
        (Some(from), to) => from < to || (s.to.is_none() && from <= end),
        (None, to) => to > into || s.to.is_none() && end >= into,
    };
    let mine: Vec<&WarmSpell> = spells.iter().filter(touches).collect();
    if mine.is_empty() {
        return None;
    }
    let mut spans: Vec<(Timestamp, Timestamp)> = mine.iter().filter_map(|s| clip(s).0.map(|from| (from, clip(s).1))).collect();
    spans.sort_unstable();
    let (mut known, mut reached) = (0.0, Timestamp::MIN);
    for (from, to) in spans {
        let from = from.max(reached);
        if to > from {
            known += to.duration_since(from).as_secs_f64() / 60.0;
            reached = to;
        }
    }
    Some(Warm {
        known: minutes(known),
        unknown: mine.iter().any(|s| s.from.is_none()),
        standing: until <= out && mine.iter().any(|s| s.to.is_none()),
        air: mine
            .iter()
            .filter_map(|s| s.air)
            .fold(None, |most, air| Some(most.map_or(air, |m: Temperature| if air > m { air } else { m }))),
    })
}

/// What is said of it; `elsewhere` is the time it was out of the refrigerator besides. Red while it lasts, while nobody
/// knows since when, and past the most in all.
pub fn warm_stop(warm: &Warm, elsewhere: Time, at_most: Time) -> Caution {
    let limit = at_most.in_min();
    let most = words::span(at_most);
    let sum = warm.known.in_min() + elsewhere.in_min();
    let span = |min: f64| words::span(minutes(min));
    let air = warm.air.map_or_else(|| "above 4.4 °C (40 °F)".to_owned(), |air| format!("{} °C", words::c_over(air)));
    let besides =
        if elsewhere.in_min() >= 1.0 { format!(" and {} out of the refrigerator", span(elsewhere.in_min())) } else { String::new() };
    let (severity, text) = if sum > limit {
        let text = format!(
            "{} above 4.4 °C (40 °F){besides}: more than the {most} raw meat may have in all. Discard it; cooking does not make it safe again.",
            span(warm.known.in_min())
        );
        (Severity::Red, text)
    } else if warm.unknown {
        let now = if warm.standing { " Move it into a colder place now." } else { "" };
        let text = format!(
            "The refrigerator {} {air}: 4.4 °C (40 °F) at most for raw meat. Since when? Past {most} above it in all, raw meat is discarded.{now}",
            if warm.standing { "stands at" } else { "stood at" },
        );
        (Severity::Red, text)
    } else {
        let so_far = format!("{} above 4.4 °C (40 °F){besides}", span(warm.known.in_min()));
        let left = span((limit - sum).max(0.0));
        if warm.standing {
            let text =
                format!("The refrigerator stands at {air}: {so_far}, {most} in all at most, {left} left. Move it into a colder place now.");
            (Severity::Red, text)
        } else {
            (Severity::Amber, format!("It had {so_far}: {left} are left of the {most} raw meat may have in all."))
        }
    };
    Caution::new("fridge-too-warm", severity, text, "USDA FSIS", Some(StepKind::Chill))
}

/// A piece that was out of the refrigerator for longer than raw meat may be, by what was noted. `still` says that nobody noted yet
/// that it went back.
pub fn out_stop(out: Time, still: bool, at_most: Time) -> Option<Caution> {
    let most = words::span(at_most);
    (out > at_most).then(|| {
        let span = words::span(out);
        let text = if still {
            format!("By what was noted it has been out of the refrigerator for {span}: {most} are the most raw meat may have. If it went in, note when; else discard it.")
        } else {
            format!("Out of the refrigerator for {span} in sum: more than the {most} raw meat may have. Discard it; cooking does not make it safe again.")
        };
        Caution::new("two-hours", Severity::Red, text, "USDA FSIS 2-hour rule", None)
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::caution::out_at_most;
    use crate::units::celsius;

    #[test]
    fn two_hours_out_are_the_most() {
        // USDA FSIS, the 2-hour rule.
        assert!(out_stop(minutes(120.0), true, out_at_most()).is_none());
        let still = out_stop(minutes(144.0), true, out_at_most()).unwrap();
        assert!(still.severity == Severity::Red && still.text.contains("note when"), "{}", still.text);
        assert!(out_stop(minutes(144.0), false, out_at_most()).unwrap().text.contains("Discard it"));
    }

    fn at(minutes: i64) -> Timestamp {
        Timestamp::UNIX_EPOCH + jiff::SignedDuration::from_mins(minutes)
    }

    fn spell(from: Option<i64>, to: Option<i64>) -> WarmSpell {
        WarmSpell { from: from.map(at), to: to.map(at), air: Some(celsius(14.0)) }
    }

    // USDA FSIS: above 40 °F for more than two hours is discarded; time out of the refrigerator is the same time.
    #[test]
    fn three_hours_are_past_saving() {
        let warm = warm_between(&[spell(Some(100), Some(280))], at(0), at(2000), at(500)).unwrap();
        assert!((warm.known.in_min() - 180.0).abs() < 1e-9 && !warm.standing && !warm.unknown);
        let said = warm_stop(&warm, minutes(0.0), out_at_most());
        assert!(said.severity == Severity::Red && said.text.contains("3 h above") && said.text.contains("Discard it"), "{}", said.text);
    }

    #[test]
    fn one_sum_with_the_time_out() {
        let warm = warm_between(&[spell(Some(100), Some(190))], at(0), at(2000), at(500)).unwrap();
        assert_eq!(warm_stop(&warm, minutes(30.0), out_at_most()).severity, Severity::Amber, "90 + 30 min are two hours, not more");
        assert!(warm_stop(&warm, minutes(31.0), out_at_most()).text.contains("Discard it"));
        assert!(
            warm_stop(&warm, minutes(20.0), out_at_most()).text.contains("10 min are left"),
            "{}",
            warm_stop(&warm, minutes(20.0), out_at_most()).text
        );
    }

    #[test]
    fn spells_that_overlap_count_once_and_only_while_it_lay_there() {
        let spells = [spell(Some(100), Some(160)), spell(Some(130), Some(190)), spell(Some(-500), Some(10)), spell(Some(300), None)];
        let warm = warm_between(&spells, at(0), at(1000), at(320)).unwrap();
        assert!((warm.known.in_min() - (90.0 + 10.0 + 20.0)).abs() < 1e-9 && warm.standing);
        // After it left the cold nothing is added, and nothing stands.
        let left = warm_between(&spells, at(0), at(150), at(900)).unwrap();
        assert!((left.known.in_min() - 60.0).abs() < 1e-9 && !left.standing);
        assert_eq!(warm_between(&spells[..2], at(200), at(900), at(400)), None, "over before it came");
        assert_eq!(warm_between(&spells[3..], at(0), at(250), at(900)), None, "began after it left");
    }

    #[test]
    fn nobody_knows_since_when() {
        let standing = warm_between(&[spell(None, None)], at(0), at(900), at(100)).unwrap();
        let said = warm_stop(&standing, minutes(0.0), out_at_most());
        assert!(
            said.severity == Severity::Red && said.text.contains("stands at 14 °C") && said.text.contains("Since when?"),
            "{}",
            said.text
        );
        let over = warm_between(&[spell(None, Some(50))], at(0), at(900), at(100)).unwrap();
        assert!(warm_stop(&over, minutes(0.0), out_at_most()).severity == Severity::Red && over.unknown && !over.standing);
        assert_eq!(warm_between(&[spell(None, Some(50))], at(60), at(900), at(100)), None);
    }
}
