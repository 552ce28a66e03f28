//! The station over real plans.

use super::*;
use crate::piece::testing::{kept, kept_cut, opened};
use serde_json::json;

fn of(opened: &Opened, pairs: &[(&str, &str)]) -> KnifeView {
    let object: serde_json::Map<String, Value> = pairs.iter().map(|(k, v)| ((*k).to_owned(), (*v).into())).collect();
    let form = serde_json::from_value(Value::Object(object)).unwrap();
    let shelf = Shelf::default();
    KnifeView::of(opened, Planned::of(opened, form, &shelf), &shelf, None)
}

fn figure(view: &KnifeView, what: &str) -> String {
    view.counts.iter().find(|(_, w)| w.starts_with(what)).map(|(figure, _)| figure.clone()).unwrap_or_default()
}

#[test]
fn a_belly_is_pierced_unless_said_otherwise() {
    let view = of(&opened(&[]), &[]);
    assert!(view.pierces && view.depth == "8" && view.picture.contains("face-holes"), "{}", view.depth);
    assert!(view.tool_line.contains("Set the needle brush") && !view.tool_fails && view.closed.is_none());
    let fork = of(&opened(&[]), &[("tool", "fork")]);
    assert!(fork.tool_fails && fork.tool_line.contains("too short"), "{}", fork.tool_line);
}

#[test]
fn strokes_follow_the_words_and_slips_keep_the_rest() {
    // The example belly, 267 × 190 mm: margin 5, 8 mm apart: ⌊180/8⌋ + 1 = 23 strokes of 257 mm, 5,911 mm; the last lies
    // at 181 mm, 9 mm from the far edge.
    let view = of(&opened(&[]), &[("work", "parallel"), ("spacing", "8 mm")]);
    assert_eq!(
        (figure(&view, "strokes"), figure(&view, "of cut"), figure(&view, "the widest")),
        ("23".into(), "5,911 mm".into(), "9 mm".into())
    );
    let slip = of(&opened(&[]), &[("work", "parallel"), ("spacing", "8 kg"), ("direction", "north"), ("edge", "90 mm")]);
    assert_eq!(slip.slips.keys().copied().collect::<Vec<_>>(), ["direction", "edge", "spacing"]);
    assert!(!slip.picture.is_empty(), "the usual stands in");
}

#[test]
fn what_the_method_cuts_into_the_meat_side_stands_in_the_sentence() {
    let piece = json!({"cut": "pork-belly", "weight_g": 2000, "bought_on": "2026-12-10"});
    let belly = kept(
        &json!({"piece": piece, "method": "acid-soda", "serve_at": "2026-12-12T18:00", "now": "2026-12-10T09:00[Europe/Vienna]"}),
        &[],
    );
    let view = of(&belly, &[]);
    assert!(view.form.meat == "grooves" && view.form.meat_spacing == "30 mm", "{}", view.form.meat);
    assert!(view.meats.iter().any(|m| m.id == "grooves" && m.chosen) && !view.meat_lines.is_empty());
    // Left whole by the cook, it is whole.
    let whole = of(&belly, &[("meat", "whole"), ("work", "pierce")]);
    assert!(whole.meats.iter().any(|m| m.id == "whole" && m.chosen) && whole.meat_lines.is_empty(), "{:?}", whole.meat_lines);
}

#[test]
fn a_tool_is_set_to_the_depth_that_was_said() {
    let six = of(&opened(&[]), &[("work", "pierce"), ("deep", "6 mm")]);
    assert!(six.depth == "6" && six.tool_line == "Set the needle brush of 24 pins to 6 mm.", "{} {}", six.depth, six.tool_line);
    let deep = of(&opened(&[]), &[("work", "pierce"), ("deep", "20 mm")]);
    assert!(deep.tool_fails && deep.tool_line.contains("reaches 9 mm"), "{}", deep.tool_line);
}

#[test]
fn long_work_names_its_ways_out_and_picks_are_counted() {
    // 267 × 190 mm at 15/cm², 2.58 mm apart: 103 × 74 = 7,622 presses of one pick at three a second: 42 min, 20 picks of 400.
    let many = of(&opened(&[]), &[("density", "15"), ("tool", "pick"), ("edge", "0")]);
    assert!(!many.quicker.is_empty(), "{:?} {:?} {:?}", many.counts, many.slips, many.obstacle);
    assert!(many.quicker.iter().any(|(_, what)| what.contains("two halves")) && many.quicker.iter().any(|(_, w)| w.contains("brush")));
    assert_eq!(many.picks, Some(20));
    assert!(many.out_line.contains("of 120 at most"), "{}", many.out_line);
}

#[test]
fn every_cut_has_its_own_face_and_choices() {
    let duck = of(&kept_cut("duck-whole", 2200.0, &[]), &[]);
    assert!(duck.shapes.iter().any(|s| s.id == "breast" && s.chosen) && duck.counts.iter().any(|(_, w)| w.contains("breast and legs")));
    let cap = of(&kept_cut("beef-rump-cap", 1200.0, &[]), &[]);
    assert!(cap.scores && cap.depth_line.contains("No skin"), "{}", cap.depth_line);
    // Thinnest fat less 1.5 mm, by hand; a boning knife is longer and has to be marked there.
    let fat = kept_cut("beef-rump-cap", 1200.0, &[]).plan.request.fat_min_mm;
    assert_eq!(cap.depth, trim(fat - 1.5, 1));
    let knife = of(&kept_cut("beef-rump-cap", 1200.0, &[]), &[("work", "crosshatch"), ("tool", "boning-knife")]);
    assert!(knife.tool_line.contains("tape it"), "{}", knife.tool_line);
    let rack = of(&kept_cut("pork-loin-rack", 2200.0, &[]), &[]);
    assert!(rack.picture.contains("face-bones") && rack.parts_word == "bones");
    let turkey = of(&kept_cut("turkey-whole", 5200.0, &[]), &[("work", "pierce")]);
    assert!(turkey.works.iter().all(|w| w.id != "parallel") && turkey.depth_line.contains("Loosen the skin"), "{}", turkey.depth_line);
    let steak = of(&kept_cut("beef-rib-steak", 500.0, &[]), &[("meat", "grooves"), ("side", "meat")]);
    assert!(steak.picture.contains("face-strokes") && steak.meat_lines.iter().any(|l| l.contains("63 °C")), "{:?}", steak.meat_lines);
}

#[test]
fn thin_ends_own_depths_and_what_was_done_are_said() {
    let thin = of(&opened(&[]), &[("work", "parallel"), ("fat_left", "9"), ("fat_near", "9"), ("fat_far", "9"), ("fat_right", "1")]);
    assert!(thin.zones.len() > 1 && thin.zones.last().unwrap().contains("pierced instead") && thin.picture.contains("pierce here"));
    let deep = of(&opened(&[]), &[("work", "parallel"), ("deep", "12 mm")]);
    assert!(deep.says.as_ref().unwrap().0 && deep.says.unwrap().1.contains("into the lean"));
    let done = of(&opened(&[("pierce", "2026-12-11T15:50:00Z")]), &[]);
    assert!(done.closed.unwrap().contains("for looking"));
}

#[test]
fn where_nothing_is_safe_a_pick_takes_over_and_the_places_are_shown() {
    let thin = of(&opened(&[]), &[("work", "parallel"), ("fat_left", "1"), ("fat_near", "1"), ("fat_far", "1"), ("fat_right", "1")]);
    assert!(thin.depth.is_empty() && thin.depth_line.contains("No safe depth") && thin.four_open());
    assert!(figure(&thin, "strokes").is_empty() && thin.counts.iter().any(|(_, w)| w.contains("single pick instead")), "{:?}", thin.counts);
    let slip = of(&opened(&[]), &[("keep", "0.1")]);
    assert!(slip.four_open() && slip.slips["keep"].contains("0.5 and 5 mm"), "{:?}", slip.slips);
}

#[test]
fn a_string_is_added_to_what_is_left_alone() {
    let view = of(&opened(&[]), &[("avoid", "place 40 50 12")]);
    // What is there stays, the new one lies in the middle of 267 mm.
    let added = view.add_string.split("avoid=").nth(1).unwrap().split('&').next().unwrap();
    assert_eq!(added, "place+40+50+12%3B+string+134");
    assert!(view.picture.contains("data-field=\"spot-0\""));
}
