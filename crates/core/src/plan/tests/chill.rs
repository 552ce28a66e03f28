//! The refrigerator rest: changes midway, the second school's hours, what is left on the plate, and rescue.

use super::*;
use crate::ask::{BrushedOff, Done, Goal, HoursFrom, PlanRequest};
use crate::plan::{ActualSalt, SaltChange, with_course};
use crate::run::{
    ChillingAsk, Happened, RescueAsk, RescueWay, WeighedPiece, chilling, doubt_about, fit_refrigerator, lost_by_weighing, rescue,
};
use crate::skin::drying::{Air, DoubtKind, FridgePlacement, Weighing};
use crate::units::{AreaIn, Dryness, Evenness, HeatTransfer, RelativeHumidity, Share, Time, celsius};
use rstest::rstest;

fn steak(mm: f64) -> PlanRequest {
    let mut request =
        PlanRequest::new(Cut::find("beef-rib-steak").unwrap(), grams(500.0), "2026-12-10T09:00[Europe/Vienna]".parse().unwrap());
    (request.thickness, request.bone) = (Some(millimetres(mm)), Some(Share(0.0)));
    request
}

fn state(request: &PlanRequest, changes: &[(f64, f64)], on: f64, h: f64) -> ColdState {
    let changes = changes.iter().map(|(at, by)| SaltChange::all_over(hours(*at), grams(*by))).collect();
    let really = ActualSalt { grams: Some(grams(on)), changes, open_before: hours(0.0), mixes: vec![] };
    with_course(request, &really, |course, _, _| course.state(hours(h), hours(h))).unwrap()
}

/// All salt in and on a column, g/dm².
fn in_and_on(state: &ColdState) -> f64 {
    state.profile.load().0 + state.profile.waiting[0].0 + state.profile.waiting[1].0
}

#[test]
fn salt_added_or_brushed_off_midway_is_counted_to_the_gram() {
    let piece = steak(38.0);
    // Ten grams more after six hours, on top of five: as much in and on it as with fifteen from the start.
    let (later, once) = (state(&piece, &[(6.0, 10.0)], 5.0, 30.0), state(&piece, &[], 15.0, 30.0));
    assert!((in_and_on(&later) / in_and_on(&once) - 1.0).abs() < 1e-9);
    assert!(later.middle.0 < once.middle.0, "what came later is less far");
    // Brushed off at once it might never have been there.
    let (brushed, never) = (state(&piece, &[(0.001, -10.0)], 15.0, 24.0), state(&piece, &[], 5.0, 24.0));
    assert!((in_and_on(&brushed) / in_and_on(&never) - 1.0).abs() < 1e-9);
    assert!((brushed.rim.0 - never.rim.0).abs() < 0.01 * never.rim.0);
    // The scale is believed: twelve of fifteen grams after ten hours cannot all have waited, so they never went in.
    let late = state(&piece, &[(10.0, -12.0)], 15.0, 24.0);
    let three = state(&piece, &[], 3.0, 24.0);
    assert!((in_and_on(&late) / in_and_on(&three) - 1.0).abs() < 1e-6, "{} is not {}", in_and_on(&late), in_and_on(&three));
}

#[test]
fn what_was_done_before_the_plan_is_asked_for_counts_in_its_hours() {
    let mut request = steak(38.0);
    let at = |text: &str| text.parse::<jiff::Timestamp>().unwrap();
    request.done = vec![
        Done { kind: StepKind::Salt, task: None, at: at("2026-12-10T02:00:00Z"), salt: Some(grams(4.0)) },
        Done { kind: StepKind::Salt, task: None, at: at("2026-12-10T05:00:00Z"), salt: Some(grams(3.0)) },
    ];
    request.brushed_off = vec![BrushedOff { at: at("2026-12-10T05:10:00Z"), salt: grams(2.0) }];
    let plan = make_plan(&request).unwrap();
    // 5 g wanted, 4 + 3 − 2 on: nothing more to weigh.
    assert!((plan.dose.dose.from_ledger.in_g() - 5.0).abs() < 1e-9 && plan.dose.dose.to_weigh.in_g() < 0.05);
    // All of it is in the slice: 5 g over both cut faces and the edge, so that the column holds its faces' part.
    let on_faces: f64 = plan.dose.by_face.iter().map(|f| f.face.area.in_dm2()).sum();
    assert!(on_faces > 0.0 && plan.fridge.state.slice.0 > 5.0, "{}", plan.fridge.state.slice.0);
}

// TRADE 4.11: hours to evenness 0.5 and 0.8 with both faces salted and no wait at the surface; the wait of 25 min
// and the saturated surface add up to an hour.
#[rstest]
#[case(20.0, 0.5, 15.4)]
#[case(20.0, 0.8, 25.9)]
#[case(25.0, 0.5, 24.1)]
#[case(25.0, 0.8, 40.5)]
#[case(38.0, 0.5, 55.7)]
#[case(38.0, 0.8, 93.5)]
#[case(50.0, 0.5, 96.4)]
#[case(50.0, 0.8, 162.0)]
fn the_models_hours_are_the_tables(#[case] mm: f64, #[case] evenness: f64, #[case] want: f64) {
    let mut request = steak(mm);
    request.goal = Some(Goal::Evenness(Evenness(evenness)));
    let model = make_plan(&request).unwrap().fridge.model;
    let at = model.ideal.unwrap().in_h();
    assert!(at > want - 0.1 && at < want + 1.2, "{mm} mm: {at} h is not {want}");
}

#[test]
fn the_two_schools_differ_and_say_why() {
    let mut request = steak(38.0);
    request.goal = Some(Goal::Evenness(Evenness(0.5)));
    let house = make_plan(&request).unwrap().fridge;
    // Usual hours at 38 mm by straight line: 21.2 h ideal; the model needs 55.7 (TRADE 4.13).
    assert!((house.useful.ideal.in_h() - 21.2).abs() < 0.01);
    assert!(house.why.contains("Usually 21.2 h, computed 56.1 h") && house.why.contains("even middle"), "{}", house.why);
    request.hours_from = HoursFrom::Model;
    let model = make_plan(&request).unwrap().fridge;
    assert!((model.useful.ideal.in_h() - 56.0).abs() < 1.0 && model.planned.in_h() > 50.0, "{}", model.planned.in_h());
    // A goal that is never met within a week leaves the house table standing.
    let mut thick = steak(120.0);
    thick.portions[0].weight = grams(1500.0);
    (thick.goal, thick.hours_from) = (Some(Goal::Evenness(Evenness(0.9))), HoursFrom::Model);
    let never = make_plan(&thick).unwrap().fridge;
    assert!(never.model.ideal.is_none() && (never.useful.ideal.in_h() - 48.0).abs() < 1e-9 && never.why.contains("A week is not enough"));
}

#[test]
fn skin_that_must_crackle_keeps_the_model_waiting() {
    let mut request = belly();
    request.skin = Some(millimetres(2.0));
    request.goal = Some(Goal::Depth(millimetres(3.0)));
    let model = make_plan(&request).unwrap().fridge.model;
    // TRADE 6.6: 26 h until two millimetres are 0.95 dry; three millimetres of depth are there long before.
    assert!((model.ideal.unwrap().in_h() - 26.0).abs() < 0.5, "{:?}", model.ideal);
    assert!(model.shortest.unwrap() < model.ideal.unwrap());
    request.goal = Some(Goal::Dryness(Dryness(0.5)));
    let half = make_plan(&request).unwrap().fridge.model;
    assert!(half.goals.iter().any(|g| g.goal == Goal::Dryness(Dryness(0.5)) && g.at.unwrap() < hours(15.0)));
    for lies in [FridgePlacement::Covered, FridgePlacement::Boxed] {
        request.lies = Some(lies);
        let plan = make_plan(&request).unwrap();
        assert!(plan.cautions.iter().any(|c| c.code == "skin-wet" && c.text.contains("leave it open")));
        let closed = plan.fridge;
        assert!(closed.model.ideal.is_none() && closed.state.dryness.unwrap().0.abs() < 1e-12 && closed.state.lost.in_g().abs() < 1e-9);
    }
}

#[test]
fn the_wet_window_is_four_and_a_half_time_constants() {
    // Closed form: first order with 25 min until a hundredth is left: 25·ln 100 = 115 min; little salt, far from saturated.
    let mut light = steak(38.0);
    light.dose = Some(GramsPerKg(2.0));
    assert!((make_plan(&light).unwrap().fridge.wet.unwrap().in_min() - 115.1).abs() < 2.0);
    // More salt than the surface takes up waits longer.
    let mut heavy = steak(38.0);
    heavy.dose = Some(GramsPerKg(30.0));
    assert!(make_plan(&heavy).unwrap().fridge.wet.unwrap().in_min() > 130.0);
    // And a steak that would meet the fire before it says so.
    let mut soon = steak(38.0);
    soon.serve_at = Some("2026-12-10T11:30[Europe/Vienna]".parse().unwrap());
    assert!(make_plan(&soon).unwrap().cautions.iter().any(|c| c.code == "wet-window"));
}

#[test]
fn travel_goes_on_until_the_plate() {
    let fridge = make_plan(&belly()).unwrap().fridge;
    assert!(fridge.plate.evenness > fridge.state.evenness || fridge.plate.middle.0 > fridge.state.middle.0);
    assert!(fridge.plate.rim.0 < fridge.state.rim.0, "the rim gives to the middle");
    // Nothing is lost or won: the slice is the same, but for the last of what waited.
    assert!((fridge.plate.slice.0 / fridge.state.slice.0 - 1.0).abs() < 1e-3);
}

fn rescued(request: &PlanRequest, on: f64, salted: f64, left: f64) -> crate::run::Rescue {
    let really = ActualSalt { grams: Some(grams(on)), ..ActualSalt::default() };
    rescue(request, &RescueAsk { really, salted: hours(salted), left: hours(left), at_most: Some(hours(60.0)) }).unwrap()
}

fn way<'a>(ways: &'a [RescueWay], id: &str) -> &'a RescueWay {
    ways.iter().find(|w| w.id == id).unwrap_or_else(|| panic!("no {id} in {ways:?}"))
}

#[test]
fn too_much_salt_minutes_ago_is_brushed_off_to_the_gram() {
    // 500 g at 10 g/kg want 5 g; 20 are on. So much saturates the surface: closed form (Crank 1975, as in TRADE 4.11)
    // 2·c_s·√(D·t/π) with 264 g/kg × 1.06 kg/L and ten minutes is 1.22 g/dm² in, a little less for the first minute's start.
    let out = rescued(&steak(38.0), 20.0, 10.0 / 60.0, 20.0);
    assert!((out.on.in_g() - 20.0).abs() < 1e-9 && (out.wanted.in_g() - 5.0).abs() < 1e-9 && (out.dose.0 - 40.0).abs() < 1e-9);
    let cut = make_plan(&steak(38.0)).unwrap().dose.by_face.into_iter().find(|f| f.face.id == "cut").unwrap();
    let gone_in = 1.22 / (4.0 * cut.density().0) * 20.0;
    assert!(
        (20.0 - out.waiting.in_g()) / gone_in > 0.85 && (20.0 - out.waiting.in_g()) / gone_in < 1.02,
        "{} of {gone_in}",
        out.waiting.in_g()
    );
    let brush = way(&out.ways, "brush-off");
    assert!((brush.grams.unwrap().in_g() - 15.0).abs() < 1e-9 && brush.gives.starts_with("10.0 g/kg left"));
    // Half an hour later not all of what is too much can be brushed off.
    let later = rescued(&steak(38.0), 20.0, 0.9, 20.0);
    let brush = way(&later.ways, "brush-off");
    assert!(later.waiting.in_g() < 15.0 && (brush.grams.unwrap().in_g() - later.waiting.in_g()).abs() < 1e-9);
    assert!(brush.gives.contains("the rest is in already"));
    // After five minutes with 10 g on, all that is too much still lies dry on it.
    let soon = rescued(&steak(38.0), 10.0, 5.0 / 60.0, 20.0);
    assert!((way(&soon.ways, "brush-off").grams.unwrap().in_g() - 5.0).abs() < 1e-9);
    assert!(way(&soon.ways, "brush-off").gives.starts_with("10.0 g/kg left"));
}

#[test]
fn too_much_salt_hours_ago_is_waited_for_trimmed_and_eaten_with_plain_things() {
    let out = rescued(&steak(38.0), 12.0, 8.0, 10.0);
    assert!(out.ways.iter().all(|w| w.id != "brush-off"), "nothing waits after eight hours");
    assert!(way(&out.ways, "longer").gives.contains("the whole slice stays at"));
    assert!(out.ways.iter().any(|w| w.id == "trim-rim"));
    // By hand: 12 g on 500 g for one serving (500 g ÷ 350 g rounds to 1) with 250 g of plain sides: 12 ÷ 0.75 = 16.0.
    let servings = make_plan(&steak(38.0)).unwrap().resolved.servings;
    let want = 12.0 / f64::from(servings) / (0.5 / f64::from(servings) + 0.25);
    assert!(way(&out.ways, "unsalted-sides").gives.starts_with(&format!("{want:.1} g/kg")), "{:?}", out.ways);
}

#[test]
fn too_little_salt_is_laid_on_or_left_for_the_table() {
    let out = rescued(&steak(38.0), 2.0, 3.0, 20.0);
    let add = way(&out.ways, "add");
    assert!((add.grams.unwrap().in_g() - 3.0).abs() < 1e-9, "5 wanted, 2 on");
    assert!(out.ways.iter().any(|w| w.id == "at-table"));
    // Shortly before the heat there is only the table; and close enough is left alone.
    assert!(rescued(&steak(38.0), 2.0, 20.0, 0.5).ways.iter().all(|w| w.id == "at-table"));
    assert!(rescued(&steak(38.0), 5.2, 2.0, 20.0).ways.is_empty());
}

proptest::proptest! {
    #![proptest_config(proptest::prelude::ProptestConfig::with_cases(24))]

    #[test]
    fn a_piece_left_longer_is_drier_lighter_and_never_less_salted(h in 1.0..60.0f64, more in 0.5..24.0f64, rh in 0.3..0.75f64, mm in 30.0..60.0f64) {
        let mut request = belly();
        request.thickness = Some(millimetres(mm));
        request.kitchen.fridge.humidity = RelativeHumidity(rh);
        request.kitchen.fridge.h = HeatTransfer(5.0);
        let at = |h: f64| state(&request, &[], 18.0, h);
        let (sooner, later) = (at(h), at(h + more));
        proptest::prop_assert!(later.lost.in_g() >= sooner.lost.in_g() - 1e-6);
        proptest::prop_assert!(later.dryness.unwrap().0 >= sooner.dryness.unwrap().0 - 1e-6);
        proptest::prop_assert!(later.slice.0 >= sooner.slice.0 - 1e-6 && later.middle.0 >= sooner.middle.0 - 1e-6);
    }

    #[test]
    fn a_colder_refrigerator_never_salts_deeper_and_a_damper_never_dries_more(c in 0.0..5.0f64, warmer in 0.2..4.0f64, rh in 0.2..0.8f64, damper in 0.01..0.15f64) {
        let at = |c: f64, rh: f64| {
            let mut request = belly();
            (request.kitchen.fridge.temperature, request.kitchen.fridge.humidity) = (celsius(c), RelativeHumidity(rh));
            state(&request, &[], 18.0, 24.0)
        };
        proptest::prop_assert!(at(c, rh).middle.0 <= at(c + warmer, rh).middle.0 + 1e-9);
        proptest::prop_assert!(at(c, rh + damper).lost.in_g() <= at(c, rh).lost.in_g() + 1e-6);
    }
}

#[test]
fn salt_lies_open_before_it_counts() {
    let request = belly();
    let dry = |before: Time| {
        let really = ActualSalt { grams: Some(grams(18.0)), changes: vec![], open_before: before, mixes: vec![] };
        with_course(&request, &really, |course, _, _| course.state(hours(12.0), hours(12.0) + before)).unwrap()
    };
    // Lying open twelve hours before the salt dries the skin as twelve hours more would, and salts it no further.
    let (fresh, waited, longer) = (dry(hours(0.0)), dry(hours(12.0)), state(&request, &[], 18.0, 24.0));
    assert!((waited.dryness.unwrap().0 - longer.dryness.unwrap().0).abs() < 1e-3);
    assert!((waited.rim.0 - fresh.rim.0).abs() < 1e-9);
}

/// A belly weighed on a tray of 640 g in a refrigerator that dries harder than usual.
fn weighed(h: f64, at: &[f64]) -> WeighedPiece {
    let request = belly();
    let really = ActualSalt { grams: Some(grams(18.0)), ..ActualSalt::default() };
    let drying = with_course(&request, &really, |course, _, _| course.through(hours(48.0)).1).unwrap();
    let moments: Vec<Time> = at.iter().map(|h| hours(*h)).collect();
    let lost = drying.lost(request.kitchen.fridge, HeatTransfer(h), &moments);
    let weighing = |(at, lost): (&Time, &f64)| Weighing {
        at: *at,
        gross: grams(2418.0 + 640.0 - lost),
        tare: grams(640.0),
        fineness: grams(1.0),
        answer: None,
        open: false,
    };
    WeighedPiece { weighings: moments.iter().zip(&lost).map(weighing).collect(), request, really }
}

#[test]
fn a_refrigerator_that_dries_harder_moves_the_forecast() {
    let piece = weighed(8.0, &[0.5, 8.0, 16.0]);
    let air = piece.request.kitchen.fridge;
    let known = fit_refrigerator(std::slice::from_ref(&piece), air);
    // Round trip: what was put in comes out, within what the belief beforehand pulls.
    assert!((known.h.0 / 8.0 - 1.0).abs() < 0.02 && known.points == 3 && known.spread < 0.05, "{known:?}");
    let ask = ChillingAsk {
        request: &piece.request,
        really: &piece.really,
        shown: hours(16.0),
        until: hours(48.0),
        air: Air { h: known.h, ..air },
        known,
    };
    let seen = chilling(&ask).unwrap();
    let dry = seen.dry.unwrap();
    assert!(dry.soonest.unwrap() <= dry.now.unwrap() && dry.now.unwrap() <= dry.latest.unwrap() && dry.now.unwrap() < dry.planned.unwrap());
    let last = seen.curve.last().unwrap();
    assert!(last.h > 47.9 && last.lost_g[1] <= last.lost_g[0] && last.lost_g[0] <= last.lost_g[2] && last.lost_g[3] < last.lost_g[0]);
    // Points lie on the curve that was fitted to them.
    for (at, lost) in lost_by_weighing(&piece, air, known) {
        let near = seen.curve.iter().min_by(|a, b| (a.h - at.in_h()).abs().total_cmp(&(b.h - at.in_h()).abs())).unwrap();
        assert!((near.lost_g[0] - lost.in_g()).abs() < 5.0, "{} h: {} is not {}", at.in_h(), lost.in_g(), near.lost_g[0]);
    }
    assert_eq!(seen.touches.len(), 4);
    assert!(seen.touches.windows(2).all(|pair| pair[0].1 <= pair[1].1), "wet comes before tacky before dry");
}

#[test]
fn a_forgotten_tray_is_asked_about_and_salt_laid_on_later_is_not() {
    let mut piece = weighed(5.0, &[0.5, 8.0, 16.0]);
    let air = piece.request.kitchen.fridge;
    let new = piece.weighings.pop().unwrap();
    let known = fit_refrigerator(std::slice::from_ref(&piece), air);
    assert!(doubt_about(&piece, air, &known, &new).is_none(), "a good one is not asked about");
    let forgotten = Weighing { gross: new.gross - grams(640.0), ..new };
    assert_eq!(doubt_about(&piece, air, &known, &forgotten).map(|d| d.kind), Some(DoubtKind::TrayMissing));
    // Sixty grams of salt laid on after ten hours weigh, and are known to.
    piece.really.changes = vec![SaltChange::all_over(hours(10.0), grams(60.0))];
    let heavier = Weighing { gross: new.gross + grams(60.0), ..new };
    assert_eq!(doubt_about(&piece, air, &known, &heavier), None);
}

#[test]
fn a_bird_is_salted_from_its_skin_and_from_its_cavity() {
    let duck = PlanRequest::new(cut("duck-whole"), grams(2200.0), now());
    let plan = make_plan(&duck).unwrap();
    let profile = &plan.fridge.state.profile;
    let rim = |from: f64, to: f64| profile.mean_between(from, to);
    let thick = profile.thickness_mm();
    // Both ends hold more than the middle; what lies under the breast's skin and fat comes slowly.
    assert!(rim(0.0, 3.0) > 0.5 && rim(thick - 5.0, thick) > rim(thick / 2.0 - 1.0, thick / 2.0 + 1.0));
    assert_eq!(profile.salted, [true, true]);
    // A loosened turkey's breast is salted under its skin, where no air comes.
    let turkey = PlanRequest::new(cut("turkey-whole"), grams(5200.0), now());
    let really = ActualSalt::default();
    let sides = with_course(&turkey, &really, |course, resolved, _| {
        assert!(resolved.faces.iter().any(|f| f.id == "under-skin"));
        course.through(hours(12.0)).1.sides.len() + 1 == resolved.faces.len()
    });
    assert!(sides.unwrap(), "the side under the skin does not dry");
}

#[test]
fn looking_in_on_a_course_does_not_change_it() {
    let request = steak(38.0);
    let changes = vec![SaltChange::all_over(hours(3.0), grams(2.0)), SaltChange::all_over(hours(3.2), grams(-1.0))];
    let really = ActualSalt { grams: Some(grams(5.0)), changes, open_before: hours(0.0), mixes: vec![] };
    with_course(&request, &really, |course, _, _| {
        let straight = course.travel(hours(30.0)).profile();
        let mut seen = Vec::new();
        course.follow(hours(30.0), 0.06, |at, travel| {
            seen.push((at.in_h(), travel.profile()));
            true
        });
        assert!(seen.len() > 20 && seen.is_sorted_by(|a, b| a.0 < b.0), "{}", seen.len());
        let (at, followed) = seen.last().unwrap();
        assert!((at - 30.0).abs() < 1e-9);
        // The same grams to the last, on a column cut half as finely: the mouthfuls agree within two per cent.
        assert!((followed.load().0 / straight.load().0 - 1.0).abs() < 1e-6);
        assert!((followed.rim().0 / straight.rim().0 - 1.0).abs() < 0.02 && (followed.slice().0 / straight.slice().0 - 1.0).abs() < 1e-6);
    })
    .unwrap();
}

#[test]
fn drying_hours_scale_with_the_thickness_of_the_skin() {
    // TRADE 6.6: drying hours scale with skin thickness. Twice as thick takes twice as long.
    let dry = |mm: f64| {
        let mut request = belly();
        request.skin = Some(millimetres(mm));
        let goals = make_plan(&request).unwrap().fridge.model.goals;
        goals.iter().find(|g| g.goal.id() == "dryness").unwrap().at.unwrap().in_h()
    };
    assert!((dry(3.0) / dry(1.5) - 2.0).abs() < 0.03, "{} and {}", dry(3.0), dry(1.5));
}

#[test]
fn what_really_went_on_a_piece_that_came_salted_is_not_counted_twice() {
    let mut request = steak(38.0);
    let salted = "2026-12-10T02:00:00Z".parse().unwrap();
    request.done = vec![Done { kind: StepKind::Salt, task: None, at: salted, salt: Some(grams(5.0)) }];
    let ask = RescueAsk { really: ActualSalt::default(), salted: hours(6.0), left: hours(10.0), at_most: None };
    let found = rescue(&request, &ask).unwrap();
    assert!((found.on.in_g() - 5.0).abs() < 1e-9 && found.brought.in_g().abs() < 1e-9);
    // Twelve were really laid on, not five: seven more, and never more off than there is.
    let change = |what, g| found.change(what, grams(g)).map(MassIn::in_g);
    assert!((change(Happened::Really, 12.0).unwrap() - 7.0).abs() < 1e-9);
    assert_eq!(
        (change(Happened::CameOff, 2.0), change(Happened::WentOn, 2.0), change(Happened::CameOff, 6.0)),
        (Some(-2.0), Some(2.0), None)
    );
}
