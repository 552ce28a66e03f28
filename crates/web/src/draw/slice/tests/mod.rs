//! The slice is drawn at true proportion, and its grains lie where core's salt lies.

use super::*;
use rauchkeller_contract::{EXAMPLE, plan_from};
use serde_json::{Value, json};

/// A grain is placed to a tenth of the picture's unit: it stands for what lies within half of that to every side. By the geometry; no
/// source.
const PLACED_TO: f64 = 0.05 + 1e-9;

fn plan(request: &Value) -> PlanDoc {
    plan_from(request, &"2026-12-10T09:00[Europe/Vienna]".parse().unwrap()).unwrap()
}

fn belly() -> Slice {
    Slice::of(&plan(&serde_json::from_str(EXAMPLE).unwrap()))
}

fn of(cut: &str, weight: f64) -> Slice {
    Slice::of(&plan(&json!({"piece": {"cut": cut, "weight_g": weight}})))
}

/// Points of the path with a class.
fn points(svg: &str, class: &str) -> Vec<(f64, f64)> {
    let Some(path) = svg.split(&format!(r#"class="{class}""#)).nth(1) else { return vec![] };
    let d = path.split(r#"d=""#).nth(1).unwrap().split('"').next().unwrap();
    d.split('M')
        .skip(1)
        .map(|point| {
            let mut numbers = point.trim_end_matches("h0").split(' ');
            (numbers.next().unwrap().parse().unwrap(), numbers.next().unwrap().parse().unwrap())
        })
        .collect()
}

#[test]
fn a_belly_is_drawn_at_true_proportion() {
    let slice = belly();
    for (width, most) in [(Width::Wide, 690.0), (Width::Narrow, 342.0)] {
        let frame = Frame::of(&slice, width);
        let drawn = (frame.right - frame.left) / (frame.bottom - frame.top);
        // The example: 267 × 45 mm.
        assert!((drawn - 267.0 / 45.0).abs() < 1e-9, "{drawn}");
        assert!(frame.right - frame.left <= most + 1e-9);
    }
}

#[test]
fn the_stop_stands_at_its_depth() {
    let slice = belly();
    let frame = Frame::of(&slice, Width::Wide);
    let svg = draw_slice(&slice, Width::Wide);
    // 2.5 + 7 − 1.5 = 8 mm under the skin's surface.
    let y = n(frame.top + 8.0 * frame.scale);
    assert!(svg.contains(r#"class="stop" d="M"#) && svg.contains(&format!(" {y}H")), "no stop at {y}");
    assert!(svg.contains("8 mm</tspan>"));
}

#[test]
fn every_grain_lies_inside_the_piece_whatever_the_cut() {
    for cut in Cut::all() {
        grains_lie_inside(cut.id, f64::midpoint(cut.typical_g.0, cut.typical_g.1));
    }
}

fn grains_lie_inside(cut: &str, weight: f64) {
    let slice = of(cut, weight);
    for width in [Width::Wide, Width::Narrow] {
        let frame = Frame::of(&slice, width);
        let grains = points(&draw_slice(&slice, width), "grains");
        assert!(grains.len() > 60, "{cut}: {} grains", grains.len());
        for (x, y) in grains {
            // At a steep edge half a tenth along is more than that across.
            let inside = [x - PLACED_TO, x, x + PLACED_TO].into_iter().any(|x| {
                let along = (x - frame.left) / (frame.right - frame.left);
                let (top, bottom) = frame.edges(slice.family, along.clamp(0.0, 1.0));
                (0.0..=1.0).contains(&along) && y >= top - PLACED_TO && y <= bottom + PLACED_TO
            });
            assert!(inside, "{cut}: a grain at {x}, {y} is outside");
        }
    }
}

#[test]
fn grains_are_shared_between_inside_and_waiting_by_weight() {
    let mut slice = belly();
    let (inside, _) = slice.column_load();
    // As much waits outside as has gone in: half the grains each.
    slice.waiting = (0.0, inside);
    let svg = draw_slice(&slice, Width::Wide);
    let (gone_in, waiting) = (points(&svg, "grains").len() as f64, points(&svg, "waiting").len() as f64);
    assert!((gone_in - waiting).abs() <= 1.0, "{gone_in} in, {waiting} out");
    let frame = Frame::of(&slice, Width::Wide);
    assert!(points(&svg, "waiting").iter().all(|(_, y)| *y > frame.bottom), "salt from below waits below");
}

#[test]
fn a_column_load_is_grams_by_hand() {
    // 10 g/kg through 45 mm of a 1.06 kg/L tissue: 10 × 0.045 × 1.06 × 10 = 4.77 g/dm².
    let mut slice = belly();
    slice.profile = Profile::from_points(&[(45.0, 10.0)]);
    assert!((slice.column_load().0 - 4.77).abs() < 1e-9);
}

#[test]
fn drier_skin_is_paler() {
    let light = |dryness| {
        let colour = skin_colour(dryness);
        let channel = |i: usize| u32::from_str_radix(&colour[i..i + 2], 16).unwrap();
        channel(1) + channel(3) + channel(5)
    };
    assert!(light(0.0) < light(0.5) && light(0.5) < light(1.0));
    assert_eq!(skin_colour(-1.0), skin_colour(0.0));
}

#[test]
fn an_unsalted_piece_has_no_grains_and_says_so() {
    let mut slice = belly();
    slice.profile = Profile::from_points(&[]);
    slice.waiting = (0.0, 0.0);
    slice.salted_mm = 0.0;
    let svg = draw_slice(&slice, Width::Wide);
    assert!(!svg.contains("grains") && svg.contains("salted to 0 mm"));
}

#[test]
fn drawings_carry_no_style_and_no_script() {
    for (cut, weight) in [("pork-belly", 2400.0), ("beef-rib-steak", 600.0), ("duck-whole", 2200.0), ("turkey-whole", 5200.0)] {
        let svg = draw_slice(&of(cut, weight), Width::Wide);
        assert!(!svg.contains("style=") && !svg.contains("<script") && svg.ends_with("</svg>"), "{cut}");
        assert!(svg.contains(r#"role="img""#) && svg.contains("aria-label="));
    }
}
