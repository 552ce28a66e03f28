//! The `skin` object of a request: knife and pick over the wire.

use super::now;
use proptest::prelude::*;
use rauchkeller_contract::{PlanDoc, Problems, plan_from};
use rstest::rstest;
use serde_json::{Value, json};

fn belly(skin: &Value) -> Result<PlanDoc, Problems> {
    let request = json!({"piece": {"cut": "pork-belly", "weight_g": 3100, "length_mm": 300, "width_mm": 220, "salt_thickness_mm": 45},
        "serve_at": "2026-12-12T19:00[Europe/Vienna]", "skin": skin});
    plan_from(&request, &now())
}

#[test]
fn the_worked_strokes_over_the_wire() {
    let skin = belly(&json!({"work": "parallel", "spacing_mm": 8})).unwrap().skin.unwrap();
    // TRADE 5.3: 27 strokes, 7,830 mm; 12.53 dm² opened at 8 mm; three metres a minute and two minutes to set up: 4.61 min.
    assert_eq!((skin.pattern.as_str(), skin.strokes, skin.holes), ("parallel", Some(27), None));
    assert!((skin.cut_length_mm.unwrap() - 7830.0).abs() < 0.01 && (skin.minutes - 4.61).abs() < 0.01);
    assert!((skin.opened_dm2.unwrap() - 12.528).abs() < 1e-3 && (skin.amount - 783.0).abs() < 0.01);
    let across = belly(&json!({"work": "parallel", "spacing_mm": 8, "direction_deg": 90})).unwrap().skin.unwrap();
    assert_eq!(across.strokes, Some(37));
    let holes = belly(&json!({"work": "pierce", "edge_mm": 0, "tool": "pick"})).unwrap().skin.unwrap();
    assert_eq!((holes.holes, holes.presses, holes.pattern.as_str()), (Some(5270), Some(5270), "lattice"));
    assert!(holes.picks.is_some() && holes.tool_id.as_deref() == Some("pick"));
}

#[test]
fn own_tools_zones_and_grooves_are_read() {
    let skin = json!({
        "shape": "taper", "narrow_mm": 110, "work": "crosshatch", "spacing_mm": 13, "avoid": [{"tie_mm": 150}, {"x_mm": 40, "y_mm": 110, "radius_mm": 12}],
        "tool": {"name": "short blade", "reach_mm": 6, "stop": "fixed"}, "margin_mm": 2,
        "fat": {"left": {"skin_mm": 2.5, "fat_mm": 9}, "near": {"skin_mm": 2.5, "fat_mm": 9}, "far": {"skin_mm": 2.5, "fat_mm": 9}, "right": {"skin_mm": 2.5, "fat_mm": 1}},
        "meat": {"kind": "grooves"}
    });
    let skin = belly(&skin).unwrap().skin.unwrap();
    assert_eq!(skin.tool.as_deref(), Some("short blade"));
    // By hand: 9 + 2.5 − 2 = 9.5 mm at the left; the right end is pierced.
    assert_eq!(skin.zones[0].depth_mm, Some(9.5));
    assert!(skin.zones.last().unwrap().depth_mm.is_none() && skin.holes.unwrap() > 0 && skin.strokes.unwrap() > 0);
    let meat = skin.meat.unwrap();
    assert_eq!((meat.kind.as_str(), meat.depth_mm, meat.rods_mm), ("grooves", 6.0, None));
    assert!(skin.groove_salt.unwrap().share > 0.2);
    // 4.95 dm² of taper, less a string of 8 mm and a round of 12 mm.
    assert!(skin.area_dm2 < 4.95 && skin.area_dm2 > 4.6, "{}", skin.area_dm2);
}

#[rstest]
#[case(json!({"work": "zigzag"}), "skin.work")]
#[case(json!({"shape": "star"}), "skin.shape")]
#[case(json!({"work": "parallel", "spacing_mm": 0.2}), "skin.spacing_mm")]
#[case(json!({"work": "pierce", "per_cm2": 400}), "skin.per_cm2")]
#[case(json!({"edge_mm": 90, "work": "pierce"}), "skin.edge_mm")]
#[case(json!({"tool": {"name": "", "reach_mm": 5}}), "skin.tool.name")]
#[case(json!({"tool": "chainsaw"}), "skin.tool")]
#[case(json!({"direction_deg": 900}), "skin.direction_deg")]
#[case(json!({"parts": 99}), "skin.parts")]
#[case(json!({"own_pace_per_min": 0}), "skin.own_pace_per_min")]
#[case(json!({"avoid": [{"x_mm": 5}]}), "skin.avoid[0].tie_mm")]
#[case(json!({"fat": {"left": {"skin_mm": 2, "fat_mm": 5}}}), "skin.fat.near.fat_mm")]
#[case(json!({"meat": {"kind": "holes"}}), "skin.meat.kind")]
#[case(json!({"meat": {"kind": "grooves", "depth_mm": 40}}), "skin.meat.depth_mm")]
#[case(json!({"narrow_mm": 900, "length_mm": 9000}), "skin.face")]
#[case(json!({"shape": "taper", "narrow_mm": 900}), "skin.narrow_mm")]
#[case(json!({"shape": "round", "corner_mm": 150}), "skin.corner_mm")]
#[case(json!({"scissors": 1}), "skin.scissors")]
fn what_cannot_be_is_named(#[case] skin: Value, #[case] field: &str) {
    let problems = belly(&skin).unwrap_err().problems;
    assert!(problems.iter().any(|p| p.field == field), "{field}: {problems:?}");
}

fn some<T: std::fmt::Debug + Clone + 'static>(values: &'static [T]) -> impl Strategy<Value = T> {
    prop::sample::select(values)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]

    /// Whatever numbers come in: a plan whose figures are finite, or problems; never a panic, and never a stroke off the piece.
    #[test]
    fn any_numbers_give_a_face_or_problems(
        shape in some(&["square", "round", "taper", "breast", "rack", "strips", "split"]),
        work in some(&["whole", "pierce", "parallel", "crosshatch", "diamond"]),
        meat in some(&["whole", "grooves", "lattice"]),
        tool in some(&["craft-knife", "scalpel", "needle-brush", "pick", "fork", "knife-tip"]),
        (length, width) in (5.0..700.0f64, 5.0..700.0f64),
        (narrow, corner) in (-5.0..400.0f64, -5.0..200.0f64),
        (spacing, edge, direction) in (0.5..120.0f64, 0.0..60.0f64, -200.0..200.0f64),
        (per_cm2, deep, margin) in (0.1..30.0f64, prop::option::of(0.1..60.0f64), 0.2..6.0f64),
        fats in prop::array::uniform4((0.0..11.0f64, 0.0..20.0f64)),
        (tie, x, y, radius) in (-50.0..800.0f64, -50.0..800.0f64, -50.0..800.0f64, 0.5..250.0f64),
        parts in 1..20u32,
    ) {
        let spot = |i: usize| json!({"skin_mm": fats[i].0, "fat_mm": fats[i].1});
        let skin = json!({
            "shape": shape, "length_mm": length, "width_mm": width, "narrow_mm": narrow, "corner_mm": corner, "parts": parts, "work": work,
            "spacing_mm": spacing, "edge_mm": edge, "direction_deg": direction, "per_cm2": per_cm2, "depth_mm": deep, "margin_mm": margin, "tool": tool,
            "fat": {"left": spot(0), "near": spot(1), "far": spot(2), "right": spot(3)}, "meat": {"kind": meat, "spacing_mm": spacing.max(10.0)},
            "avoid": [{"tie_mm": tie}, {"x_mm": x, "y_mm": y, "radius_mm": radius}]
        });
        match belly(&skin) {
            Err(problems) => prop_assert!(!problems.problems.is_empty()),
            Ok(plan) => {
                let skin = plan.skin.unwrap();
                let most_mm2 = (length + 12.0) * width;
                let figures = [skin.area_dm2, skin.minutes, skin.amount, skin.cut_length_mm.unwrap_or(0.0), skin.opened_dm2.unwrap_or(0.0), skin.largest_gap_mm.unwrap_or(0.0)];
                prop_assert!(figures.iter().all(|f| f.is_finite() && *f >= 0.0), "{figures:?}");
                prop_assert!(skin.area_dm2 * 1e4 <= most_mm2 + 1.0, "no more face than the piece has");
                // Lines a spacing apart cover the face once a way, and at the edges once more each.
                let ways = if work == "parallel" { 1.0 } else { 2.0 };
                let longest = length.hypot(width) + 200.0;
                prop_assert!(skin.cut_length_mm.unwrap_or(0.0) <= ways * (most_mm2 / spacing + 2.0 * longest), "{:?}", skin.cut_length_mm);
            }
        }
    }
}
