//! The clock against the trade's worked example and the calendar's own traps.

use super::super::{ClockRefusal, ColdAsk, choose_cold, lay_out};
use crate::clock::Quiet;
use crate::method::{Hands, Place, StepKind};
use crate::salt::ChillHours;
use crate::units::{Time, TimeIn, hours, minutes};
use crate::work::{Lasts, Phase, Step};
use jiff::ZonedDateTime;
use jiff::civil::time;

fn step(kind: StepKind, phase: Phase, place: Place, min: f64) -> Step {
    Step {
        row: None,
        id: kind.id().into(),
        kind,
        after: vec![],
        beside: None,
        moment: crate::work::Moment::Before,
        lasts: Lasts::Fixed,
        phase,
        place,
        title: String::new(),
        takes: minutes(min),
        hands_on: minutes(min),
        hands: Hands::Clean,
        figure: None,
        mix: None,
        air: None,
        heat: None,
        until: None,
        needs: vec![],
        detail: String::new(),
    }
}

fn at(text: &str) -> ZonedDateTime {
    text.parse().unwrap()
}

fn ask(now: &str, serve: Option<&str>, after_min: f64, asked: Option<f64>) -> ColdAsk {
    ColdAsk {
        now: at(now),
        serve_at: serve.map(at),
        thaw: minutes(0.0),
        thaws_on: minutes(0.0),
        attended: false,
        before: minutes(20.0),
        busy: vec![],
        after: minutes(after_min),
        useful: ChillHours::of(12.0, 24.0, 48.0),
        asked: asked.map(hours),
        salted_at: None,
        keeping: crate::clock::Keeping::Unknown,
        thawed_at: None,
        quiet: Some(Quiet { from: time(22, 30, 0, 0), to: time(6, 30, 0, 0) }),
    }
}

#[test]
fn the_worked_rack_of_the_trade() {
    // TRADE 8.1: meal 18:30, carve 10, rest 20 → out of the heat 18:00; 95 min → in 16:25;
    // preheat 20 → 16:05; 30 min out → leaves the refrigerator 15:55; 24 h → goes in the day before at 15:55.
    let after = 30.0 + 95.0 + 20.0 + 10.0;
    let cold = choose_cold(&ask("2026-12-10T09:00[Europe/Vienna]", Some("2026-12-12T18:30[Europe/Vienna]"), after, Some(24.0))).unwrap();
    let steps = vec![
        step(StepKind::Salt, Phase::Before, Place::Bench, 20.0),
        step(StepKind::Chill, Phase::Cold, Place::Refrigerator, 24.0 * 60.0),
        step(StepKind::Preheat, Phase::Beside, Place::Bench, 20.0),
        step(StepKind::Temper, Phase::After, Place::Bench, 30.0),
        step(StepKind::Roast, Phase::After, Place::Fire, 95.0),
        step(StepKind::Rest, Phase::After, Place::Table, 20.0),
        step(StepKind::Carve, Phase::After, Place::Table, 10.0),
    ];
    let laid = lay_out(steps, &cold, at("2026-12-10T09:00[Europe/Vienna]").timestamp());
    let wall = |kind, end: bool| {
        let timed = laid.iter().find(|t| t.step.kind == kind).unwrap();
        let moment = if end { timed.ends } else { timed.starts };
        moment.to_zoned_datetime(cold.serve.time_zone().clone()).strftime("%d %H:%M").to_string()
    };
    assert_eq!(wall(StepKind::Roast, true), "12 18:00");
    assert_eq!(wall(StepKind::Roast, false), "12 16:25");
    assert_eq!(wall(StepKind::Preheat, false), "12 16:05");
    assert_eq!(wall(StepKind::Temper, false), "12 15:55");
    assert_eq!(wall(StepKind::Chill, false), "11 15:55");
    assert_eq!(wall(StepKind::Carve, true), "12 18:30");
}

#[test]
fn a_clock_change_moves_wall_times_not_hours_of_salt() {
    // Vienna falls back on 25 October 2026 at 03:00: a day with 25 hours.
    let cold = choose_cold(&ask("2026-10-23T09:00[Europe/Vienna]", Some("2026-10-25T18:00[Europe/Vienna]"), 120.0, Some(24.0))).unwrap();
    assert!((cold.planned.in_h() - 24.0).abs() < 1e-9);
    let into = cold.from.to_zoned_datetime(cold.serve.time_zone().clone());
    assert_eq!(into.strftime("%d %H:%M").to_string(), "24 17:00");
}

#[test]
fn hands_on_work_is_moved_out_of_the_night() {
    // 24 h before 03:00 is 03:00: the rest stretches until the work is done while awake.
    let cold = choose_cold(&ask("2026-12-10T09:00[Europe/Vienna]", Some("2026-12-12T04:00[Europe/Vienna]"), 60.0, None)).unwrap();
    let into = cold.from.to_zoned_datetime(cold.serve.time_zone().clone());
    assert!(into.hour() < 23 && into.hour() >= 6, "{into}");
    assert!(cold.planned.in_h() >= 12.0 && cold.planned.in_h() <= 48.0);
}

#[test]
fn what_is_left_is_planned_and_what_is_impossible_is_refused() {
    let short = choose_cold(&ask("2026-12-12T09:00[Europe/Vienna]", Some("2026-12-12T18:00[Europe/Vienna]"), 120.0, None)).unwrap();
    // By hand: 9 h until the meal − 2 h after − 20 min before = 6 h 40.
    assert!((short.planned.in_h() - 6.0 - 40.0 / 60.0).abs() < 1e-9);
    let refused = choose_cold(&ask("2026-12-12T09:00[Europe/Vienna]", Some("2026-12-12T10:00[Europe/Vienna]"), 120.0, None)).unwrap_err();
    let ClockRefusal::MealTooSoon { possible, eaten, sound } = refused else { panic!("{refused:?}") };
    assert_eq!(possible.strftime("%H:%M").to_string(), "11:20");
    assert_eq!(eaten.strftime("%H:%M").to_string(), "11:30", "the next quarter, at which one eats");
    // now + 20 min + 12 h + 2 h = 23:20, rounded up to the quarter: nobody is asked to dinner then, but the next day at eleven.
    assert_eq!(sound.strftime("%d %H:%M").to_string(), "13 11:00");
    let too_long = choose_cold(&ask("2026-12-12T09:00[Europe/Vienna]", Some("2026-12-12T18:00[Europe/Vienna]"), 120.0, Some(24.0)));
    assert!(matches!(too_long, Err(ClockRefusal::HoursDoNotFit { .. })));
}

#[test]
fn salted_hours_ago_counts_from_then() {
    let mut ask = ask("2026-12-12T09:00[Europe/Vienna]", Some("2026-12-12T18:00[Europe/Vienna]"), 120.0, None);
    ask.salted_at = Some(at("2026-12-11T20:00[Europe/Vienna]").timestamp());
    let cold = choose_cold(&ask).unwrap();
    assert!((cold.planned.in_h() - 20.0).abs() < 1e-9);
}

proptest::proptest! {
    #[test]
    fn never_in_the_past_and_never_after_the_meal(serve_in in 0i64..400, after in 10.0..600.0f64, before in 5.0..90.0f64, asked in proptest::option::of(0.0..60.0f64)) {
        let mut ask = ask("2026-03-27T09:00[Europe/Vienna]", None, after, asked);
        ask.before = minutes(before.round());
        ask.after = minutes(after.round());
        ask.serve_at = Some(ask.now.checked_add(jiff::SignedDuration::from_hours(serve_in)).unwrap());
        if let Ok(cold) = choose_cold(&ask) {
            let start = cold.from.duration_since(ask.now.timestamp()).as_secs_f64() - ask.before.in_s();
            proptest::prop_assert!(start > -1.0);
            let end: Time = ask.after;
            proptest::prop_assert!((cold.serve.timestamp().duration_since(cold.to).as_secs_f64() - end.in_s()).abs() < 1.0);
        }
    }
}
