//! The board: time only runs right, quiet hours are shortened, what is past is solid.

use super::*;
use std::collections::BTreeSet;

fn at(text: &str) -> Timestamp {
    text.parse().unwrap()
}

fn segment(lane: usize, from: &str, to: &str) -> Segment {
    Segment { lane, from: at(from), to: at(to), hands: lane == 0 }
}

fn board(now: &str) -> Board {
    let journey = vec![
        segment(0, "2026-12-11T15:00:00Z", "2026-12-11T15:20:00Z"),
        segment(1, "2026-12-11T15:20:00Z", "2026-12-12T15:20:00Z"),
        segment(0, "2026-12-12T15:20:00Z", "2026-12-12T15:50:00Z"),
        segment(3, "2026-12-12T15:50:00Z", "2026-12-12T17:00:00Z"),
        segment(4, "2026-12-12T17:00:00Z", "2026-12-12T17:30:00Z"),
    ];
    Board {
        now: at(now),
        from: at("2026-12-11T14:00:00Z"),
        to: at("2026-12-12T18:00:00Z"),
        pieces: vec![BoardPiece {
            name: "Belly & co".into(),
            state: "salted to 9 mm".into(),
            texture: "belly",
            journey,
            href: "/pieces/x".into(),
        }],
        clashes: vec![],
        zone: TimeZone::get("Europe/Vienna").unwrap(),
    }
}

#[test]
fn time_only_runs_right_and_stays_on_the_board() {
    let board = board("2026-12-12T10:00:00Z");
    for width in [Width::Wide, Width::Narrow] {
        let grid = Grid::of(&board, width);
        let mut last = f64::NEG_INFINITY;
        let mut moment = board.from;
        while moment <= board.to {
            let x = grid.x(moment);
            assert!(x > last && x >= grid.left - 1e-9 && x <= grid.right + 1e-9, "{moment} at {x}");
            last = x;
            moment += SignedDuration::from_mins(7);
        }
        assert!((grid.x(board.from) - grid.left).abs() < 1e-9 && (grid.x(board.to) - grid.right).abs() < 1e-9);
    }
}

/// Whenever it begins and ends, no name of an hour is cut by the edge of the board.
#[test]
fn the_name_of_an_hour_stands_on_the_board() {
    let mut seen = BTreeSet::new();
    for minutes in 0..180 {
        let later = SignedDuration::from_mins(minutes);
        let mut board = board("2026-12-12T10:00:00Z");
        (board.from, board.to) = (board.from + later, board.to + later);
        for (width, edges) in [(Width::Narrow, (0.0, 358.0)), (Width::Wide, (140.0, 1200.0))] {
            let svg = hours(&board, &Grid::of(&board, width));
            for text in svg.split(r#"<text class="tick" "#).skip(1) {
                let said = |name: &str| text.split(&format!(r#"{name}=""#)).nth(1).unwrap().split('"').next().unwrap().to_owned();
                let (x, anchor) = (said("x").parse::<f64>().unwrap(), said("text-anchor"));
                let wide = 2.0 * if text.contains("strong") { HALF_A_DAY } else { HALF_AN_HOUR } - 4.0;
                let begins = match anchor.as_str() {
                    "start" => x,
                    "end" => x - wide,
                    _ => x - wide / 2.0,
                };
                assert!(begins >= edges.0 && begins + wide <= edges.1, "{anchor} at {x}");
                seen.insert(anchor);
            }
        }
    }
    assert_eq!(seen.len(), 3, "names at both edges and between: {seen:?}");
}

#[test]
fn quiet_hours_take_less_room_than_busy_ones() {
    let board = board("2026-12-12T10:00:00Z");
    let grid = Grid::of(&board, Width::Wide);
    let hour = |from: &str| grid.x(at(from) + SignedDuration::from_hours(1)) - grid.x(at(from));
    let (night, supper) = (hour("2026-12-12T02:00:00Z"), hour("2026-12-12T16:00:00Z"));
    // Declared: quiet hours at three tenths of their length.
    assert!((night / supper - QUIET_SHARE).abs() < 0.02, "{night} and {supper}");
}

#[test]
fn past_is_solid_and_the_rest_is_pale() {
    let count = |now: &str| {
        let svg = draw_board(&board(now), Width::Wide);
        (svg.matches("strip done").count(), svg.matches("strip to-come").count())
    };
    assert_eq!(count("2026-12-11T14:30:00Z"), (0, 5));
    // In the middle of the cold: bench done, the cold in two parts, three to come.
    assert_eq!(count("2026-12-12T10:00:00Z"), (2, 4));
    assert_eq!(count("2026-12-12T17:45:00Z"), (5, 0));
}

#[test]
fn names_are_escaped_and_pieces_can_be_pressed() {
    let svg = draw_board(&board("2026-12-12T10:00:00Z"), Width::Wide);
    assert!(svg.contains("Belly &amp; co") && svg.contains(r#"href="/pieces/x""#));
    assert!(svg.contains("now, Sat 11:00"), "the plumb line says the wall time of Vienna");
}

#[test]
fn what_lies_outside_the_window_is_not_drawn() {
    let mut near = board("2026-12-11T14:30:00Z");
    near.to = at("2026-12-11T20:00:00Z");
    let svg = draw_board(&near, Width::Narrow);
    assert_eq!(svg.matches("strip ").count(), 2);
}

#[test]
fn a_clash_is_marked_in_the_fire() {
    let mut board = board("2026-12-12T10:00:00Z");
    assert!(!draw_board(&board, Width::Wide).contains(r#"class="clash""#));
    board.clashes = vec![(at("2026-12-12T16:00:00Z"), at("2026-12-12T16:30:00Z"))];
    assert!(draw_board(&board, Width::Wide).contains(r#"class="clash""#));
}
