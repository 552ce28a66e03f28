//! The `skin` object of a request: knife and pick over the wire.

use super::now;
use rauchkeller_contract::{PlanDoc, Problems, plan_from};
use rstest::rstest;
use serde_json::{Value, json};

fn belly(skin: &Value) -> Result<PlanDoc, Problems> {
    let request = json!({"piece": {"cut": "pork-belly", "weight_g": 3100, "length_mm": 300, "width_mm": 220, "salt_thickness_mm": 45},
        "serve_at": "2026-12-12T19:00[Europe/Vienna]", "skin": skin});
    plan_from(&request, &now())
}

#[test]
fn the_handbooks_strokes_over_the_wire() {
    let skin = belly(&json!({"work": "parallel", "spacing_mm": 8})).unwrap().skin.unwrap();
    // Handbook section 5: 27 strokes, 7,830 mm; 12.53 dm² opened at 8 mm; section 8: 39.15 min.
    assert_eq!((skin.pattern.as_str(), skin.strokes, skin.holes), ("parallel", Some(27), None));
    assert!((skin.cut_length_mm.unwrap() - 7830.0).abs() < 0.01 && (skin.minutes - 39.15).abs() < 0.01);
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
#[case(json!({"scissors": 1}), "skin.scissors")]
fn what_cannot_be_is_named(#[case] skin: Value, #[case] field: &str) {
    let problems = belly(&skin).unwrap_err().problems;
    assert!(problems.iter().any(|p| p.field == field), "{field}: {problems:?}");
}
