//! Too late for a dry-brine: a way that is taken must give what it said. Each is planned anew in its own words.

use super::*;
use crate::ask::{Done, PlanRequest};
use crate::plan::too_late::LateKind;

/// Supper in six hours and a half.
fn tonight(id: &str, kg: f64) -> PlanRequest {
    PlanRequest {
        serve_at: Some("2026-12-10T15:30[Europe/Vienna]".parse().unwrap()),
        bought_on: Some("2026-12-10".parse().unwrap()),
        ..PlanRequest::new(cut(id), grams(kg * 1000.0), now())
    }
}

fn close(is: f64, want: f64, share: f64, of: &str) {
    assert!((is - want).abs() <= share * want.abs(), "{of}: {is} instead of {want}");
}

#[rstest]
#[case("beef-rib-steak", 0.45)]
#[case("pork-loin-rack", 1.8)]
#[case("pork-belly", 2.4)]
#[case("beef-rib-roast", 3.0)]
fn what_a_way_says_it_does(#[case] id: &str, #[case] kg: f64) {
    let late = tonight(id, kg);
    let plan = make_plan(&late).unwrap();
    let answer = plan.too_late.as_ref().expect("too late");
    let usual = make_plan(&PlanRequest { serve_at: Some(plan.meals.best.clone()), ..late.clone() }).unwrap();
    let mut kinds = 0;
    for way in &answer.ways {
        kinds += 1;
        match way.kind {
            LateKind::LessSalt => {
                let taken = make_plan(&PlanRequest { dose: Some(way.dose), ..late.clone() }).unwrap();
                close(taken.dose.on_scale.in_g(), way.on_scale.in_g(), 0.01, "grams");
                close(taken.fridge.plate.rim.0, way.rim.0, 0.02, "first bite");
                // Fewer grams bring the first bite to the usual one.
                assert!(way.on_scale < plan.dose.on_scale && taken.fridge.plate.rim.0 < plan.fridge.plate.rim.0);
                close(way.rim.0, usual.fridge.plate.rim.0, 0.06, "the usual bite");
                // What was taken is taken: nobody is asked to weigh less once more.
                assert!(taken.too_late.is_none(), "{:?}", taken.too_late.map(|late| late.says));
            }
            LateKind::Later | LateKind::LaterStill => {
                let serve = way.serve.clone().unwrap();
                let taken = make_plan(&PlanRequest { serve_at: Some(serve), ..late.clone() }).unwrap();
                assert!(taken.too_late.is_none(), "{:?} is still too late", way.kind);
                assert!(taken.fridge.planned.in_h() >= way.salted.in_h() - 0.3);
                close(taken.dose.on_scale.in_g(), way.on_scale.in_g(), 1e-9, "grams");
                // With just its hours it is just its first bite.
                let just = make_plan(&PlanRequest { hours: Some(way.salted), ..taken.request }).unwrap();
                close(just.fridge.plate.rim.0, way.rim.0, 0.02, "first bite later");
            }
            LateKind::JustBefore => {
                assert!(way.salted.in_h() == 0.0 && way.serve.is_none() && way.on_scale <= plan.dose.on_scale);
                // No saltier than usual, and minutes carry salt less far than the hours of the last way do.
                assert!(way.rim.0 <= usual.fridge.plate.rim.0 * 1.06, "{} g/kg", way.rim.0);
                assert!(way.depth < answer.ways.last().unwrap().depth, "{} mm", way.depth.in_mm());
                let method = Method::find(way.kind.method().unwrap()).unwrap();
                let taken = make_plan(&PlanRequest { dose: Some(way.dose), method: Some(method), ..late.clone() }).unwrap();
                assert!(taken.too_late.is_none());
                close(taken.dose.on_scale.in_g(), way.on_scale.in_g(), 0.01, "grams just before");
                // The other method salts and heats in its own way: a belly's differs by a twelfth.
                close(taken.fridge.plate.rim.0, way.rim.0, 0.1, "first bite just before");
            }
        }
    }
    assert!(kinds >= 3, "{kinds} ways");
}

#[test]
fn there_is_no_too_late_with_time_or_with_salt_on_it() {
    assert!(make_plan(&belly()).unwrap().too_late.is_none());
    let mut salted = tonight("pork-loin-rack", 1.8);
    salted.done = vec![Done { kind: StepKind::Salt, task: None, at: "2026-12-10T07:00:00Z".parse().unwrap(), salt: None }];
    assert!(make_plan(&salted).unwrap().too_late.is_none());
}

#[test]
fn where_the_night_moves_the_hours_the_hour_it_would_go_in_is_said() {
    // Meals from eleven to nine, an hour apart: the same ideal rest begins by day for some of them and by night for others.
    let steak =
        PlanRequest { bought_on: Some("2026-12-10".parse().unwrap()), ..PlanRequest::new(cut("beef-rib-steak"), grams(500.0), now()) };
    let at = |meal: &str| make_plan(&PlanRequest { serve_at: Some(meal.parse().unwrap()), ..steak.clone() }).unwrap();
    let mut moved = 0;
    for hour in 11..22 {
        let plan = at(&format!("2026-12-13T{hour}:00[Europe/Vienna]"));
        let (why, goes_in) = (&plan.fridge.why, plan.fridge.planned.in_h());
        let by_night = why.contains("it would go in at");
        // Said where, and only where, the hours are not the ideal ones.
        assert_eq!(by_night, (goes_in - plan.fridge.useful.ideal.in_h()).abs() > 0.01, "{hour}: {why}");
        moved += usize::from(by_night);
    }
    assert!((1..11).contains(&moved), "{moved} of 11 hours");
}
