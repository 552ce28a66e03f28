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
        thaws_on: minutes(0.0),
        attended: false,
        before: minutes(20.0),
        busy: vec![],
        after: minutes(100.0),
        useful: ChillHours::of(12.0, 24.0, 48.0),
        asked: None,
        salted_at: None,
        keeping: Keeping::Unknown,
        thawed_at: None,
        quiet: Some(Quiet { from: time(22, 30, 0, 0), to: time(6, 30, 0, 0) }),
    }
}

fn wall(at: &ZonedDateTime) -> String {
    at.strftime("%a %H:%M").to_string()
}

#[test]
fn meals_from_now() {
    let plan = choose_cold(&ask()).unwrap();
    // 09:20 + 12 h + 1 h 40 = 23:00, when nobody eats; + 24 h = Friday 11:00, when one may; + 48 h = Saturday 11:00.
    assert_eq!(wall(&plan.meals.earliest), "Fri 11:00");
    assert_eq!(wall(&plan.meals.best), "Fri 11:00");
    assert_eq!(wall(&plan.meals.latest), "Sat 11:00");
    assert_eq!(plan.serve, plan.meals.best);
}

#[test]
fn hours_that_were_asked_for_put_the_guessed_meal_behind_them() {
    // 09:20 + 33 h + 1 h 40 = Friday 20:00, when one eats; it may then begin as late as it can.
    let plan = choose_cold(&ColdAsk { asked: Some(hours(33.0)), ..ask() }).unwrap();
    assert_eq!((wall(&plan.serve), plan.planned.in_h()), ("Fri 20:00".to_owned(), 33.0));
    // 09:20 + 60 h + 1 h 40 = Saturday 23:00, past the last useful hour: Sunday at eleven, and the latest is not before it.
    let plan = choose_cold(&ColdAsk { asked: Some(hours(60.0)), ..ask() }).unwrap();
    assert_eq!((wall(&plan.serve), plan.meals.latest >= plan.serve), ("Sun 11:00".to_owned(), true));
    // Fewer than the ideal ones ask for no earlier meal.
    let plan = choose_cold(&ColdAsk { asked: Some(hours(14.0)), ..ask() }).unwrap();
    assert_eq!(plan.serve, plan.meals.best);
    // A meal that was said stays where it is.
    let said = ColdAsk { serve_at: Some(at("2026-12-11T11:00[Europe/Vienna]")), asked: Some(hours(33.0)), ..ask() };
    assert!(matches!(choose_cold(&said), Err(ClockRefusal::HoursDoNotFit { .. })));
}

#[test]
fn a_meal_is_not_proposed_for_the_middle_of_the_night() {
    // From 21:00 the ideal rest would end at 23:00 the next day: it waits until eleven.
    let late = ColdAsk { now: at("2026-12-10T21:00[Europe/Vienna]"), ..ask() };
    assert_eq!(wall(&choose_cold(&late).unwrap().meals.best), "Sat 11:00");
}

#[test]
fn the_storage_limit_ends_it() {
    let red = at("2026-12-11T00:00[Europe/Vienna]").timestamp();
    let short = ColdAsk { keeping: Keeping::Until(StorageLimit { amber: red, red }), ..ask() };
    // The ideal would end Friday 11:00, past midnight's limit: best is the first hour at which one eats after the shortest rest
    // (23:00), and the latest meal is never before the best one; that it lies past the limit is said in red.
    let meals = choose_cold(&short).unwrap().meals;
    assert_eq!(
        (wall(&meals.earliest), wall(&meals.best), wall(&meals.latest)),
        ("Fri 11:00".into(), "Fri 11:00".into(), "Fri 11:00".into())
    );
    // A day more: out of the cold at midnight at the latest, and 100 minutes to the table.
    let red = at("2026-12-12T00:00[Europe/Vienna]").timestamp();
    let longer = ColdAsk { keeping: Keeping::Until(StorageLimit { amber: red, red }), ..ask() };
    // That is 01:40; the last hour at which one eats before it is Friday 21:30.
    assert_eq!(wall(&choose_cold(&longer).unwrap().meals.latest), "Fri 21:30");
}

#[test]
fn thawing_comes_before_the_work() {
    let frozen = ColdAsk { thaw: hours(48.0), ..ask() };
    let plan = choose_cold(&frozen).unwrap();
    assert_eq!(wall(&plan.meals.earliest), "Sun 11:00");
    let too_soon = ColdAsk { serve_at: Some(at("2026-12-12T08:00[Europe/Vienna]")), ..frozen };
    assert!(matches!(choose_cold(&too_soon), Err(ClockRefusal::MealTooSoon { .. })));
}

#[test]
fn a_dinner_within_the_limit_is_better_than_an_ideal_past_it() {
    // From 05:00: the shortest rest ends 17:20 + 1 h 40 = 19:00 the same day, the ideal Friday 07:00, so 11:00: past the limit of
    // Friday 08:00 and 1 h 40 after it. The first hour at which one eats after the shortest rest is tonight's dinner.
    let red = at("2026-12-11T08:00[Europe/Vienna]").timestamp();
    let early = ColdAsk { now: at("2026-12-10T05:00[Europe/Vienna]"), keeping: Keeping::Until(StorageLimit { amber: red, red }), ..ask() };
    assert_eq!(wall(&choose_cold(&early).unwrap().meals.best), "Thu 19:00");
}

#[test]
fn what_is_frozen_keeps_from_the_end_of_its_thawing_and_is_moved_by_day() {
    // 48 h of thawing for a dinner two weeks off: it stays frozen until it has to thaw, and nobody gets up for it.
    let frozen = ColdAsk {
        thaw: hours(48.0),
        serve_at: Some(at("2026-12-24T18:00[Europe/Vienna]")),
        keeping: Keeping::FromThaw(crate::piece::Storage { amber_days: 1, red_days: 2 }),
        ..ask()
    };
    let plan = choose_cold(&frozen).unwrap();
    let (start, thawed) = plan.thaw.unwrap();
    let zone = TimeZone::get("Europe/Vienna").unwrap();
    assert_eq!(thawed.duration_since(start).as_hours(), 48);
    assert!(start > at("2026-12-19T00:00[Europe/Vienna]").timestamp() && thawed <= plan.from);
    assert!(!frozen.quiet.unwrap().touches(start, start + SignedDuration::from_mins(1), &zone));
    assert!(plan.to <= plan.keeps.unwrap().red, "poultry: two days from the end of thawing");
    assert!(plan.meals.earliest <= plan.meals.best && plan.meals.best <= plan.meals.latest);
    // Asked in the night, it is moved in the morning.
    let night = ColdAsk { now: at("2026-12-10T03:00[Europe/Vienna]"), serve_at: None, ..frozen };
    let (start, _) = choose_cold(&night).unwrap().thaw.unwrap();
    assert!(start >= at("2026-12-10T06:30[Europe/Vienna]").timestamp());
}

#[test]
fn nothing_is_planned_for_another_century() {
    let far = ColdAsk { serve_at: Some(at("2199-12-31T18:00[Europe/Vienna]")), ..ask() };
    assert!(matches!(choose_cold(&far), Err(ClockRefusal::TooFar { .. })));
    let salted = ColdAsk {
        serve_at: Some(at("2027-01-30T18:00[Europe/Vienna]")),
        salted_at: Some(at("2026-12-09T18:00[Europe/Vienna]").timestamp()),
        before: minutes(0.0),
        ..ask()
    };
    assert!(matches!(choose_cold(&salted), Err(ClockRefusal::TooLongSalted { .. })));
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

/// Intervals say what looking at every minute says, over a clock change, for any quiet hours of ten minutes and more.
#[test]
fn quiet_hours_as_intervals_say_what_looking_at_every_minute_says() {
    let zone = TimeZone::get("Europe/Vienna").unwrap();
    let mut touched = 0;
    let mut compared = 0;
    for start in ["2026-10-24T12:00:00Z", "2026-03-28T12:00:00Z", "2026-12-10T00:00:00Z"] {
        let start: Timestamp = start.parse().unwrap();
        for (from, to) in [((22, 30), (6, 30)), ((3, 5), (3, 20)), ((0, 0), (0, 10)), ((13, 0), (14, 0)), ((6, 0), (6, 0))] {
            let quiet = Quiet { from: civil::time(from.0, from.1, 0, 0), to: civil::time(to.0, to.1, 0, 0) };
            for begins in (0..48 * 60).step_by(37) {
                for long in [0i64, 5, 20, 90, 600, 1500, 60 * 24 * 40] {
                    let a = start + SignedDuration::from_mins(begins);
                    let b = a + SignedDuration::from_mins(long);
                    let minutes = (0..long.min(2 * 1440)).map(|m| a + SignedDuration::from_mins(m));
                    let just_before = b - SignedDuration::from_secs(1);
                    let sampled = minutes.chain([just_before]).any(|at| quiet.holds(&at.to_zoned_datetime(zone.clone())));
                    assert_eq!(quiet.touches(a, b, &zone), sampled, "{from:?}–{to:?}, {a} for {long} min");
                    compared += 1;
                    touched += usize::from(sampled);
                }
            }
        }
    }
    assert!(compared > 7000 && touched > 1000 && touched < compared, "{touched} of {compared}");
}

/// Hands at the refrigerator for ten minutes, and for half an hour four hours later, when it comes out of the heat.
fn braise() -> CookedStay {
    CookedStay { lasts: [8.0, 20.0, 72.0].map(hours), busy: vec![(minutes(0.0), minutes(10.0)), (minutes(240.0), minutes(30.0))] }
}

#[test]
fn cooked_ahead_nobody_is_up_at_night_for_the_first_heat() {
    // For Saturday 19:00, 100 min of work between: after the ideal 20 h it would leave the refrigerator Friday at 21:20 and the heat at
    // 01:20. By half hours, nearest first: 20.5 … 23 h still end in the night; 23.5 h put it at 17:50 and 21:50.
    let ask = ColdAsk { serve_at: Some(at("2026-12-12T19:00[Europe/Vienna]")), ..ask() };
    let plan = choose_both(&ask, Some(&braise())).unwrap();
    assert_eq!(plan.cooked.in_h(), 23.5);
    let to = plan.to.to_zoned_datetime(ask.now.time_zone().clone());
    assert_eq!(wall(&to), "Fri 17:50");
    // Without a night it is the ideal.
    let plan = choose_both(&ColdAsk { quiet: None, ..ask.clone() }, Some(&braise())).unwrap();
    assert_eq!(plan.cooked.in_h(), 20.0);
    // And without a second heat nothing is chosen but what was chosen before.
    assert_eq!(choose_both(&ask, None), choose_cold(&ask));
}

#[test]
fn cooked_ahead_the_salt_has_its_hours_before() {
    // For Friday 19:00: it is salted from 09:20 on and wants 12 h, until Thursday 21:20. What is left until Friday 17:20 is 20 h, but
    // that would be out of the heat at 01:20; awake it is again from 06:30 on, and 10.5 h begin at 06:50.
    let ask = ColdAsk { serve_at: Some(at("2026-12-11T19:00[Europe/Vienna]")), ..ask() };
    let plan = choose_both(&ask, Some(&braise())).unwrap();
    assert_eq!((plan.cooked.in_h(), plan.planned.in_h() >= 12.0), (10.5, true));
    // Where no stay leaves it those, the shortest leaves it most: 19 h for both until Friday 06:00 are 8 and 11.
    let soon = ColdAsk { serve_at: Some(at("2026-12-11T06:00[Europe/Vienna]")), ..ask.clone() };
    let plan = choose_both(&soon, Some(&braise())).unwrap();
    assert_eq!((plan.cooked.in_h(), plan.planned.in_h()), (8.0, 11.0));
    // And where not even the shortest stay fits, the soonest meal is that of the shortest: 09:20 + 8 h + 100 min = 19:00.
    let today = ColdAsk { serve_at: Some(at("2026-12-10T18:00[Europe/Vienna]")), ..ask };
    let Err(ClockRefusal::MealTooSoon { possible, .. }) = choose_both(&today, Some(&braise())) else { panic!("it does not fit") };
    assert_eq!(wall(&possible), "Thu 19:00");
}
