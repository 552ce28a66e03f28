//! Strokes against closed forms, and against a second geometry library on random outlines.

use super::*;
use crate::units::AreaIn;
use clipper2_rust::{ClipType, Clipper64, FillRule, Path64, Point64};
use proptest::prelude::*;

fn mm(value: f64) -> Length {
    millimetres(value)
}

fn ask(pattern: Pattern, spacing: f64, direction: f64, margin: f64) -> ScoreAsk {
    ScoreAsk { pattern, spacing: mm(spacing), direction, margin: mm(margin) }
}

fn slab() -> Outline {
    Outline::rectangle(mm(300.0), mm(220.0), mm(0.0)).unwrap()
}

#[test]
fn the_worked_face_both_ways() {
    // TRADE 5.3: 300 × 220 mm, 8 mm, margin 5: 27 strokes × 290 = 7,830 mm; 37 × 210 = 7,770 mm.
    let along = score(&slab(), ask(Pattern::Parallel, 8.0, 0.0, 5.0)).unwrap();
    assert_eq!(along.strokes.len(), 27);
    assert!((along.cut_length.in_mm() - 7830.0).abs() < 27.0 * 1e-6, "{}", along.cut_length.in_mm());
    let across = score(&slab(), ask(Pattern::Parallel, 8.0, 90.0, 5.0)).unwrap();
    assert_eq!(across.strokes.len(), 37);
    assert!((across.cut_length.in_mm() - 7770.0).abs() < 37.0 * 1e-6, "{}", across.cut_length.in_mm());
    // Crosshatch is both of them.
    let both = score(&slab(), ask(Pattern::Crosshatch, 8.0, 0.0, 5.0)).unwrap();
    assert_eq!(both.strokes.len(), 64);
    assert!((both.cut_length.in_mm() - 15_600.0).abs() < 1e-4);
}

#[test]
fn opened_area_and_the_widest_strip() {
    // By hand: 2 × 8 mm × 7,830 mm = 12.528 dm². The last of 27 strokes lies at 213 mm, 7 mm from the far edge: 8 is widest;
    // 60 mm apart it lies at 185 mm, and 35 mm are left.
    let along = score(&slab(), ask(Pattern::Parallel, 8.0, 0.0, 5.0)).unwrap();
    assert!((along.opened(mm(8.0)).in_dm2() - 12.528).abs() < 1e-6);
    assert!((along.widest_strip.in_mm() - 8.0).abs() < 1e-6);
    assert!((score(&slab(), ask(Pattern::Parallel, 60.0, 0.0, 5.0)).unwrap().widest_strip.in_mm() - 60.0).abs() < 1e-6);
    let wide = score(&slab(), ask(Pattern::Parallel, 100.0, 90.0, 45.0)).unwrap();
    // Lines at 45, 145 and 245 mm; 55 mm are left at the right, less than the spacing.
    assert_eq!((wide.strokes.len(), wide.widest_strip.in_mm().round() as i64), (3, 100));
    let one = score(&Outline::rectangle(mm(300.0), mm(60.0), mm(0.0)).unwrap(), ask(Pattern::Parallel, 50.0, 0.0, 20.0)).unwrap();
    // One line 20 mm from the near edge leaves 40 mm beyond it.
    assert_eq!((one.strokes.len(), one.widest_strip.in_mm().round() as i64), (1, 40));
}

#[test]
fn a_triangle_has_its_closed_form() {
    // Base 200, height 100, lines level every 10 mm from the base: lengths 200·(1 − k/10), k = 0 … 9.
    let triangle = Outline::polygon(&[(0.0, 0.0), (200.0, 0.0), (60.0, 100.0)]).unwrap();
    let scoring = score(&triangle, ask(Pattern::Parallel, 10.0, 0.0, 0.0)).unwrap();
    assert_eq!(scoring.strokes.len(), 10);
    for (k, stroke) in scoring.strokes.iter().enumerate() {
        let closed = 200.0 * (1.0 - k as f64 / 10.0);
        assert!((stroke.length().in_mm() - closed).abs() < 2e-6, "stroke {k}: {}", stroke.length().in_mm());
    }
}

#[test]
fn a_circle_has_its_chords() {
    // A rectangle rounded all the way is a circle of r 50; its chord at height h is 2√(r² − h²), less what 24 chords a
    // quarter lose: their sagitta r(1 − cos(90°/48)) = 0.0268 mm bounds it.
    let circle = Outline::rectangle(mm(100.0), mm(100.0), mm(50.0)).unwrap();
    let scoring = score(&circle, ask(Pattern::Parallel, 12.5, 0.0, 0.0)).unwrap();
    for stroke in scoring.strokes.iter().filter(|s| s.from.1 > 1.0 && s.from.1 < 99.0) {
        let h = stroke.from.1 - 50.0;
        let closed = 2.0 * (2500.0 - h * h).sqrt();
        let lost = closed - stroke.length().in_mm();
        let slope = 50.0 / (2500.0 - h * h).sqrt();
        assert!((-1e-6..=2.0 * 0.0268 * slope + 1e-6).contains(&lost), "at {h}: {lost}");
    }
}

#[test]
fn strokes_stop_at_a_notch_and_at_what_is_avoided() {
    // An L: 100 × 100 less its upper right 50 × 50.
    let l = Outline::polygon(&[(0.0, 0.0), (100.0, 0.0), (100.0, 50.0), (50.0, 50.0), (50.0, 100.0), (0.0, 100.0)]).unwrap();
    let lengths: Vec<f64> = score(&l, ask(Pattern::Parallel, 25.0, 0.0, 0.0))
        .unwrap()
        .strokes
        .iter()
        .map(|s| (s.length().in_mm() * 1e4).round() / 1e4)
        .collect();
    assert_eq!(lengths[..2], [100.0, 100.0]);
    assert_eq!(lengths[3..], [50.0, 50.0]);
    // A tie in the middle parts the stroke through it.
    let tied = slab().avoiding((150.0, 110.0), mm(20.0));
    let through = score(&tied, ask(Pattern::Parallel, 100.0, 0.0, 10.0)).unwrap();
    let at = |y: f64| through.strokes.iter().filter(|s| (s.from.1 - y).abs() < 1e-6).count();
    assert_eq!((at(10.0), at(110.0), at(210.0)), (1, 2, 1));
}

#[test]
fn the_hand_goes_back_and_forth() {
    let strokes = score(&slab(), ask(Pattern::Parallel, 20.0, 0.0, 5.0)).unwrap().strokes;
    for pair in strokes.windows(2) {
        let hop = (pair[1].from.0 - pair[0].to.0).hypot(pair[1].from.1 - pair[0].to.1);
        assert!((hop - 20.0).abs() < 1e-5, "the next stroke begins where this one ends: {hop}");
    }
}

#[test]
fn absurd_spacing_and_margin_are_named() {
    let said = |spacing, margin| score(&slab(), ask(Pattern::Parallel, spacing, 0.0, margin)).unwrap_err().to_string();
    assert!(said(0.0, 5.0).contains("between 1 and 100 mm") && said(8.0, 80.0).contains("between 0 and 50 mm"));
    let nothing = Outline::rectangle(mm(60.0), mm(40.0), mm(0.0)).unwrap();
    assert!(score(&nothing, ask(Pattern::Parallel, 8.0, 0.0, 25.0)).unwrap().strokes.is_empty(), "the margins meet");
}

/// Length of all lines of a family inside a polygon by another library, on its grid of 1e-6 mm.
fn by_clipper(corners: &[(f64, f64)], rows: &[f64], left: f64, right: f64) -> f64 {
    const GRID: f64 = 1e6;
    let point = |x: f64, y: f64| Point64::new((x * GRID).round() as i64, (y * GRID).round() as i64);
    let face: Path64 = corners.iter().map(|&(x, y)| point(x, y)).collect();
    let mut sum = 0.0;
    for &y in rows {
        let mut clipper = Clipper64::new();
        clipper.add_open_subject(&vec![vec![point(left - 1.0, y), point(right + 1.0, y)]]);
        clipper.add_clip(&vec![face.clone()]);
        let (mut closed, mut open) = (Vec::new(), Vec::new());
        assert!(clipper.execute(ClipType::Intersection, FillRule::EvenOdd, &mut closed, Some(&mut open)));
        for line in &open {
            sum += line.windows(2).map(|p| (p[1].x - p[0].x) as f64 / GRID).map(f64::abs).sum::<f64>();
        }
    }
    sum
}

/// A star round a centre: concave, never crossing itself.
fn star() -> impl Strategy<Value = Vec<(f64, f64)>> {
    proptest::collection::vec(20.0..140.0f64, 5..24).prop_map(|radii| {
        let n = radii.len() as f64;
        radii
            .iter()
            .zip(0..)
            .map(|(r, i)| {
                let angle = std::f64::consts::TAU * f64::from(i) / n;
                (150.0 + r * angle.cos(), 150.0 + r * angle.sin())
            })
            .collect()
    })
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(60))]

    #[test]
    fn random_outlines_agree_with_a_second_library(corners in star(), spacing in 3.0..30.0f64) {
        let outline = Outline::polygon(&corners).unwrap();
        let scoring = score(&outline, ask(Pattern::Parallel, spacing, 0.0, 0.0)).unwrap();
        let (left, low, right, high) = outline.bounds().unwrap();
        // The lines through the lowest and the highest corner only touch: both libraries are asked about the others.
        let rows: Vec<f64> = (1..200).map(|k| low + f64::from(k) * spacing).take_while(|y| *y < high - 1e-3).collect();
        let ours: f64 = scoring.strokes.iter().filter(|s| s.from.1 > low + 1e-3 && s.from.1 < high - 1e-3).map(|s| s.length().in_mm()).sum();
        let theirs = by_clipper(&corners, &rows, left, right);
        // Both work on grids near 1e-6 mm; where an edge lies almost along the lines, that grows with its cotangent.
        prop_assert!((ours - theirs).abs() < 1e-4 * (1.0 + rows.len() as f64), "{ours} against {theirs}");
    }

    #[test]
    fn every_stroke_lies_inside_the_margin(corners in star(), direction in -90.0..90.0f64, margin in 0.0..12.0f64) {
        let outline = Outline::polygon(&corners).unwrap();
        let inner = outline.inset(mm(margin));
        for stroke in score(&outline, ask(Pattern::Diamond, 9.0, direction, margin)).unwrap().strokes {
            let middle = geo::Point::new(f64::midpoint(stroke.from.0, stroke.to.0), f64::midpoint(stroke.from.1, stroke.to.1));
            prop_assert!(geo::Distance::distance(&geo::Euclidean, inner.face(), &middle) < 1e-5);
        }
    }
}
