//! Meals from now, the storage limit, the night. Expected times are counted by hand.

use super::*;
use crate::units::minutes;
use jiff::civil::time;

fn at(text: &str) -> ZonedDateTime {
    text.parse().unwrap()
}

/// 20 minutes of work, 100 minutes after the cold, 12–24–48 h, planned at nine in the morning.
fn ask() -> ColdAsk {
    ColdAsk {
        now: at("2026-12-10T09:00[Europe/Vienna]"),
        serve_at: None,
        thaw: minutes(0.0),
        before: minutes(20.0),
        after: minutes(100.0),
        rest: RestHours::of(12.0, 24.0, 48.0),
        asked: None,
        salted_at: None,
        keeps: None,
        quiet: Some(Quiet { from: time(22, 30, 0, 0), to: time(6, 30, 0, 0) }),
    }
}

fn wall(at: &ZonedDateTime) -> String {
    at.strftime("%a %H:%M").to_string()
}

#[test]
fn meals_from_now() {
    let plan = choose_cold(&ask()).unwrap();
    // 09:20 + 12 h + 1 h 40 = 23:00; + 24 h = Friday 11:00, and at noon one eats; + 48 h = Saturday 11:00.
    assert_eq!(wall(&plan.meals.earliest), "Thu 23:00");
    assert_eq!(wall(&plan.meals.best), "Fri 12:00");
    assert_eq!(wall(&plan.meals.latest), "Sat 11:00");
    assert_eq!(plan.serve, plan.meals.best);
}

#[test]
fn a_meal_is_not_proposed_for_the_middle_of_the_night() {
    // From 21:00 the ideal rest would end at 23:00 the next day: it waits until noon.
    let late = ColdAsk { now: at("2026-12-10T21:00[Europe/Vienna]"), ..ask() };
    assert_eq!(wall(&choose_cold(&late).unwrap().meals.best), "Sat 12:00");
}

#[test]
fn the_storage_limit_ends_it() {
    let red = at("2026-12-11T00:00[Europe/Vienna]").timestamp();
    let short = ColdAsk { keeps: Some(Keeps { amber: red, red }), ..ask() };
    // Out of the cold at midnight at the latest, and 100 minutes to the table.
    assert_eq!(wall(&choose_cold(&short).unwrap().meals.latest), "Fri 01:40");
}

#[test]
fn thawing_comes_before_the_work() {
    let frozen = ColdAsk { thaw: hours(48.0), ..ask() };
    let plan = choose_cold(&frozen).unwrap();
    assert_eq!(wall(&plan.meals.earliest), "Sat 23:00");
    let too_soon = ColdAsk { serve_at: Some(at("2026-12-12T08:00[Europe/Vienna]")), ..frozen };
    assert!(matches!(choose_cold(&too_soon), Err(ClockRefusal::MealTooSoon { .. })));
}

#[test]
fn the_slack_is_what_the_rest_may_stretch() {
    let fixed = ColdAsk { serve_at: Some(at("2026-12-13T18:00[Europe/Vienna]")), asked: Some(hours(24.0)), ..ask() };
    let plan = choose_cold(&fixed).unwrap();
    assert!((plan.slack.0.in_h() - 24.0).abs() < 1e-9, "24 h earlier: 48 h are useful");
    assert!((plan.slack.1.in_h() - 12.0).abs() < 1e-9, "12 h later: 12 h are enough");
    // By hand: Sunday 18:00 − 1 h 40 − Thursday 09:20 = 79 h.
    assert!((plan.fits.in_h() - 79.0).abs() < 1e-9);
}

#[test]
fn hours_already_past_cannot_be_shortened() {
    let salted = ColdAsk {
        serve_at: Some(at("2026-12-10T19:40[Europe/Vienna]")),
        salted_at: Some(at("2026-12-09T18:00[Europe/Vienna]").timestamp()),
        before: minutes(0.0),
        asked: Some(hours(10.0)),
        ..ask()
    };
    let Err(ClockRefusal::AlreadyLonger { already }) = choose_cold(&salted) else { panic!("not refused") };
    assert!((already.in_h() - 24.0).abs() < 1e-9);
}

#[test]
fn quiet_hours_may_pass_midnight_or_not() {
    let zone = TimeZone::get("Europe/Vienna").unwrap();
    let moment = |text: &str| at(text).timestamp();
    let night = Quiet { from: time(22, 30, 0, 0), to: time(6, 30, 0, 0) };
    let nap = Quiet { from: time(13, 0, 0, 0), to: time(15, 0, 0, 0) };
    for (quiet, when, is_quiet) in [
        (night, "2026-12-10T23:00[Europe/Vienna]", true),
        (night, "2026-12-10T05:00[Europe/Vienna]", true),
        (night, "2026-12-10T06:30[Europe/Vienna]", false),
        (nap, "2026-12-10T14:00[Europe/Vienna]", true),
        (nap, "2026-12-10T15:00[Europe/Vienna]", false),
    ] {
        assert_eq!(quiet.holds_at(moment(when), &zone), is_quiet, "{when}");
    }
    assert!(night.touches(moment("2026-12-10T22:00[Europe/Vienna]"), moment("2026-12-10T22:40[Europe/Vienna]"), &zone));
    assert!(!night.touches(moment("2026-12-10T21:30[Europe/Vienna]"), moment("2026-12-10T22:30[Europe/Vienna]"), &zone));
}

#[test]
fn quarters_are_rounded_up_and_whole_ones_kept() {
    let rounded = |text: &str| round_up(at(text).timestamp());
    assert_eq!(rounded("2026-12-10T09:00:00[UTC]"), at("2026-12-10T09:00:00[UTC]").timestamp());
    assert_eq!(rounded("2026-12-10T09:00:00.5[UTC]"), at("2026-12-10T09:15:00[UTC]").timestamp());
    assert_eq!(rounded("2026-12-10T09:14:59[UTC]"), at("2026-12-10T09:15:00[UTC]").timestamp());
}
