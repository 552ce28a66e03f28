//! The worked face of TRADE 5.3 through the door of the knife.

use super::*;
use crate::skin::testing::belly;
use crate::skin::zones::LayerMeasurement;
use crate::units::AreaIn;

fn mm(value: f64) -> Length {
    millimetres(value)
}

fn parallel(spacing: f64, direction: f64) -> CoverWork {
    CoverWork::Score { pattern: Pattern::Parallel, spacing: mm(spacing), direction }
}

fn holes(per_cm2: f64) -> CoverWork {
    CoverWork::Pierce { lattice: Lattice::Square, per_cm2 }
}

#[test]
fn strokes_their_minutes_and_what_they_open() {
    // TRADE 5.3: 27 strokes, 7,830 mm; 3 m a minute after 2 min of setting up, 4.61 min; 2 × 8 × 7,830 = 12.53 dm².
    let work = knife_work(&belly(parallel(8.0, 0.0), "craft-knife")).unwrap();
    let scoring = work.scoring.as_ref().unwrap();
    assert_eq!(scoring.strokes.len(), 27);
    assert!((work.takes().in_min() - 4.61).abs() < 1e-6 && (work.opened.in_dm2() - 12.528).abs() < 1e-5);
    assert_eq!((work.fit, work.picks, work.enters_lean()), (Some(Fit::Sets(mm(8.0))), None, false));
}

#[test]
fn one_pick_on_a_thorough_face_takes_most_of_an_hour() {
    // TRADE 5.6: 15/cm² with one pick on 6.6 dm² at 3 a second is 55 min, before margin.
    let bare = KnifeAsk { edge: mm(0.0), ..belly(holes(15.0), "pick") };
    let work = knife_work(&bare).unwrap();
    assert!((work.takes().in_min() - 55.0).abs() < 0.5, "{}", work.takes().in_min());
    // By hand: 9,900 presses at 400 a pick are 25 picks.
    assert_eq!(work.picks, Some(25));
    // At half the usual pace twice as long.
    let slow = knife_work(&KnifeAsk { own_pace: Some(90.0), ..bare.clone() }).unwrap();
    assert!((slow.takes().in_min() / work.takes().in_min() - 2.0).abs() < 1e-9);
    // TRADE 5.4: 5,270 holes at 8/cm² before margin; 5,270 ÷ 24 = 220 presses of a brush.
    let brush = knife_work(&KnifeAsk { edge: mm(0.0), ..belly(holes(8.0), "needle-brush") }).unwrap();
    assert_eq!((brush.holes_in_all, brush.presses, brush.picks), (5270, 220, None));
    // Legs beside a breast, as much skin again: twice the holes.
    let both = knife_work(&KnifeAsk { beside: Share(1.0), edge: mm(0.0), ..belly(holes(8.0), "needle-brush") }).unwrap();
    assert_eq!(both.holes_in_all, 2 * 5270);
}

#[test]
fn a_thin_end_is_pierced_instead_of_scored() {
    let spot = |fat: f64| LayerMeasurement { skin: mm(2.5), fat: mm(fat) };
    let thin = FatMap { left: spot(9.0), near: spot(9.0), far: spot(9.0), right: spot(1.0) };
    let work = knife_work(&KnifeAsk { fat: thin, ..belly(parallel(8.0, 0.0), "craft-knife") }).unwrap();
    let refused = work.zones.iter().find(|z| z.depth.is_err()).unwrap();
    let border = 300.0 * refused.span.0;
    let strokes = &work.scoring.as_ref().unwrap().strokes;
    assert!(strokes.iter().all(|s| s.from.0 <= border + 1e-6 && s.to.0 <= border + 1e-6), "no stroke beyond {border}");
    let holes = work.holes.as_ref().unwrap();
    assert!(holes.at.len() > 500 && holes.at.iter().all(|(x, _)| *x >= border), "the thin end is pierced");
    // By hand: 27 rows from 5 mm to the border.
    assert!((work.scoring.as_ref().unwrap().cut_length.in_mm() - 27.0 * (border - 5.0)).abs() < 1e-3);
}

#[test]
fn without_any_safe_depth_a_blade_gives_way_to_a_pick() {
    let thin = KnifeAsk { fat: FatMap::even(mm(2.5), mm(1.0)), ..belly(parallel(8.0, 0.0), "craft-knife") };
    let work = knife_work(&thin).unwrap();
    assert!(work.scoring.is_none() && work.guard.is_none(), "2.5 + 1 − 1.5 = 2 mm does not pass 2.5");
    assert_eq!((work.pierced_with.as_deref(), work.opened.in_dm2()), (Some("single pick"), 0.0));
    assert_eq!(work.presses, work.holes_in_all);
}

#[test]
fn a_depth_of_the_cooks_own_is_judged() {
    let says = |deep: f64| knife_work(&KnifeAsk { depth: Some(mm(deep)), ..belly(parallel(8.0, 0.0), "scalpel") }).unwrap();
    // By hand: skin 2.5, lean at 9.5, allowed 8.
    assert_eq!(says(6.0).says, DepthSays::Safe);
    assert!(matches!(says(2.0).says, DepthSays::TooShallow(by) if (by.in_mm() - 0.5).abs() < 1e-9));
    assert!(matches!(says(9.0).says, DepthSays::InMargin(by) if (by.in_mm() - 1.0).abs() < 1e-9));
    let deep = says(12.0);
    assert!(matches!(deep.says, DepthSays::IntoLean(by) if (by.in_mm() - 2.5).abs() < 1e-9) && deep.enters_lean());
    let through = KnifeAsk { depth: Some(mm(60.0)), ..belly(parallel(8.0, 0.0), "scalpel") };
    assert!(knife_work(&through).unwrap_err().to_string().starts_with("60.0 mm deep; allowed: between 0.5 mm and the 45 mm"));
    let far = knife_work(&KnifeAsk { margin: mm(9.0), ..belly(holes(8.0), "pick") }).unwrap_err();
    assert!(far.to_string().starts_with("9.0 mm kept from the lean; allowed: between 0.5 and 5 mm"), "{far}");
}

#[test]
fn grooves_and_lattices_enter_the_lean() {
    let grooved = KnifeAsk { meat: MeatSide::Grooves { spacing: mm(30.0), depth: mm(6.0) }, ..belly(holes(8.0), "needle-brush") };
    let work = knife_work(&grooved).unwrap();
    assert!(work.enters_lean() && work.meat_takes.in_min() > 2.5);
    assert!(!knife_work(&belly(holes(8.0), "needle-brush")).unwrap().enters_lean(), "skin-only piercing is not this");
}
