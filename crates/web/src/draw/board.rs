//! The journey board: time runs right, lanes are places, each piece travels through them.

use super::{Width, n, text};
use jiff::tz::TimeZone;
use jiff::{SignedDuration, Timestamp};
use std::borrow::Cow;
use std::fmt::Write;

/// Part of a journey: one place for a while.
#[derive(Debug, Clone, PartialEq)]
pub struct Segment {
    /// Lane: 0 bench, 1 upper shelf, 2 lowest shelf, 3 fire, 4 table.
    pub lane: usize,
    /// From.
    pub from: Timestamp,
    /// To.
    pub to: Timestamp,
    /// Hands are needed in it.
    pub hands: bool,
}

/// A piece on the board.
#[derive(Debug, Clone)]
pub struct BoardPiece {
    /// Its name.
    pub name: String,
    /// What to say beside it.
    pub state: String,
    /// Texture of the strip: `belly`, `steak`, `roast`, `duck`, `turkey`.
    pub texture: &'static str,
    /// Its journey, in order of time.
    pub journey: Vec<Segment>,
    /// Where it leads when pressed.
    pub href: String,
}

/// The whole board.
#[derive(Debug, Clone)]
pub struct Board {
    /// Now.
    pub now: Timestamp,
    /// Left edge.
    pub from: Timestamp,
    /// Right edge.
    pub to: Timestamp,
    /// Pieces, by their meal.
    pub pieces: Vec<BoardPiece>,
    /// Spans in which two pieces want the fire at different heat.
    pub clashes: Vec<(Timestamp, Timestamp)>,
    /// Zone of the walls.
    pub zone: TimeZone,
}

const LANES: [(&str, &str); 5] =
    [("Bench", ""), ("Upper shelf", "beef, pork"), ("Lowest shelf", "poultry, tray below"), ("Fire", "oven, grill"), ("Table", "")];

/// Height of a row where strips are short: bench, fire, table.
const SHORT_ROW: f64 = 17.0;

/// Geometry of one drawing.
struct Grid {
    left: f64,
    right: f64,
    head: f64,
    row: f64,
    strip: f64,
    lane_top: [f64; 6],
    /// Moments and their places across, in order: straight between them.
    across: Vec<(Timestamp, f64)>,
    name_room: f64,
    /// In which row of each lane each piece lies.
    rows: Vec<[u16; 5]>,
}

/// How many pieces before each one lie in each lane, and how many in all.
fn rows(board: &Board) -> (Vec<[u16; 5]>, [u16; 5]) {
    let mut so_far = [0; 5];
    let mut rows = Vec::with_capacity(board.pieces.len());
    for piece in &board.pieces {
        rows.push(so_far);
        for (lane, count) in so_far.iter_mut().enumerate() {
            *count += u16::from(piece.journey.iter().any(|s| s.lane == lane));
        }
    }
    (rows, so_far)
}

/// On a phone a lane's name stands above its strips; on a laptop beside them.
fn name_room(width: Width) -> f64 {
    if width == Width::Wide { 0.0 } else { 12.0 }
}

/// Hours in which nothing changes place are drawn at this share of their length, beyond the first two:
/// so the crowded hours before the meal have room.
const QUIET_SHARE: f64 = 0.3;
const FULL_HOURS: f64 = 2.0;

/// Where moments stand across the board. Stretches without a change are shortened; hour ticks show it.
fn across(board: &Board, left: f64, right: f64) -> Vec<(Timestamp, f64)> {
    let mut moments: Vec<Timestamp> = board.pieces.iter().flat_map(|p| p.journey.iter().flat_map(|s| [s.from, s.to])).collect();
    moments.extend([board.from, board.now, board.to]);
    moments.retain(|m| *m >= board.from && *m <= board.to);
    moments.sort_unstable();
    moments.dedup();
    // A long gap is full length for an hour at either end.
    let mut weighed = vec![(board.from, 0.0)];
    for pair in moments.windows(2) {
        let (from, to) = (pair[0], pair[1]);
        let hours = to.duration_since(from).as_secs_f64() / 3600.0;
        let start = weighed.last().map_or(0.0, |(_, w)| *w);
        if hours > FULL_HOURS {
            let hour = SignedDuration::from_hours(1);
            weighed.push((from + hour, start + 1.0));
            weighed.push((to - hour, start + 1.0 + (hours - FULL_HOURS) * QUIET_SHARE));
            weighed.push((to, start + 2.0 + (hours - FULL_HOURS) * QUIET_SHARE));
        } else {
            weighed.push((to, start + hours));
        }
    }
    let whole = weighed.last().map_or(1.0, |(_, w)| w.max(1e-6));
    weighed.into_iter().map(|(at, w)| (at, left + w / whole * (right - left))).collect()
}

impl Grid {
    fn of(board: &Board, width: Width) -> Self {
        let (left, right, head, row, strip) = match width {
            Width::Wide => (150.0, 1190.0, 52.0, 38.0, 13.0),
            Width::Narrow => (8.0, 352.0, 48.0, 38.0, 13.0),
        };
        let (rows, all) = rows(board);
        let mut lane_top = [head; 6];
        for lane in 0..5 {
            // On the bench and at the table strips are short: half rows do.
            let high = if matches!(lane, 0 | 3 | 4) { SHORT_ROW } else { row };
            lane_top[lane + 1] = lane_top[lane]
                + f64::from(all[lane].max(1)) * high
                + if matches!(lane, 0 | 3 | 4) { 26.0 } else { 14.0 }
                + name_room(width);
        }
        Self { left, right, head, row, strip, lane_top, across: across(board, left, right), name_room: name_room(width), rows }
    }

    fn x(&self, at: Timestamp) -> f64 {
        let after = self.across.partition_point(|(moment, _)| *moment <= at);
        match (after.checked_sub(1).and_then(|i| self.across.get(i)), self.across.get(after)) {
            (Some((t0, x0)), Some((t1, x1))) => {
                let part = at.duration_since(*t0).as_secs_f64() / t1.duration_since(*t0).as_secs_f64().max(1e-9);
                x0 + (x1 - x0) * part
            }
            (Some(_), None) => self.right,
            _ => self.left,
        }
    }

    fn y(&self, piece: usize, lane: usize) -> f64 {
        let before = self.rows.get(piece).map_or(0.0, |rows| f64::from(rows[lane]));
        let (first, high) = if matches!(lane, 0 | 3 | 4) { (14.0 + self.name_room, SHORT_ROW) } else { (24.0 + self.name_room, self.row) };
        self.lane_top[lane] + first + before * high
    }

    fn bottom(&self) -> f64 {
        self.lane_top[5]
    }
}

/// Draws the board.
pub fn draw_board(board: &Board, width: Width) -> String {
    let grid = Grid::of(board, width);
    let (canvas, class) = if width == Width::Wide { (1200.0, "board-wide") } else { (358.0, "board-narrow") };
    let mut svg = String::with_capacity(8 * 1024 + board.pieces.len() * 2 * 1024);
    let _ = write!(
        svg,
        r#"<svg class="board {class}" viewBox="0 0 {canvas} {}" role="group" aria-label="Journey board: {} pieces by place and time">"#,
        n(grid.bottom() + 26.0),
        board.pieces.len()
    );
    svg += &PATTERNS.replace("tx-", width.texture());
    svg += &ground(board, &grid, canvas);
    for index in 0..board.pieces.len() {
        svg += &journey(board, &grid, index, width);
    }
    for (from, to) in &board.clashes {
        let (top, bottom) = (grid.lane_top[3] + 4.0, grid.lane_top[4] - 4.0);
        let _ = write!(
            svg,
            r#"<path class="clash" d="M{a} {top}V{bottom}M{b} {top}V{bottom}"/>"#,
            a = n(grid.x(*from)),
            b = n(grid.x(*to)),
            top = n(top),
            bottom = n(bottom)
        );
    }
    svg += &plumb_line(board, &grid);
    // Names last, so that no line runs through them.
    svg += &lane_names(&grid, width);
    svg.push_str("</svg>");
    svg
}

/// Textures of the strips: each piece is known by its own, not by a colour code.
const PATTERNS: &str = r##"<defs>
<pattern id="tx-belly" width="12" height="13" patternUnits="userSpaceOnUse" y="0"><rect width="12" height="13" fill="#c99a66"/><rect y="3" width="12" height="3" fill="#f0dfc0"/><rect y="6" width="12" height="7" fill="#b9716a"/><path d="M0 9h12" stroke="#e3bfa0" stroke-width="1"/></pattern>
<pattern id="tx-steak" width="30" height="13" patternUnits="userSpaceOnUse"><rect width="30" height="13" fill="#9b6a69"/><rect x="25" width="5" height="13" fill="#efe0c6"/><path d="M4 4q5 3 9-1M10 9q4-2 9 1" stroke="#d9b7ab" fill="none" stroke-width="1"/></pattern>
<pattern id="tx-duck" width="11" height="13" patternUnits="userSpaceOnUse"><rect width="11" height="13" fill="#dcbf86"/><path d="M0 0l11 13M11 0L0 13" stroke="#6c5326" stroke-width="1.1"/></pattern>
<pattern id="tx-turkey" width="9" height="9" patternUnits="userSpaceOnUse"><rect width="9" height="9" fill="#cbb79c"/><circle cx="3" cy="3" r="1.1" fill="#5d4a38"/><circle cx="7.5" cy="7.5" r="0.9" fill="#5d4a38"/></pattern>
<pattern id="tx-roast" width="22" height="13" patternUnits="userSpaceOnUse"><rect width="22" height="13" fill="#a8706a"/><rect width="22" height="3" fill="#efe0c6"/><path d="M16 0v13" stroke="#f6efe0" stroke-width="2.2"/><path d="M18 0v13" stroke="#5b3230" stroke-width="0.8"/></pattern>
</defs>"##;

fn ground(board: &Board, grid: &Grid, canvas: f64) -> String {
    let mut svg = String::new();
    let lane = |from: usize, to: usize, class: &str| {
        format!(
            r#"<rect class="{class}" x="0" y="{}" width="{canvas}" height="{}"/>"#,
            n(grid.lane_top[from]),
            n(grid.lane_top[to] - grid.lane_top[from])
        )
    };
    svg += &lane(1, 3, "lane-cold");
    svg += &lane(3, 4, "lane-fire");
    svg += &hours(board, grid);
    svg
}

fn lane_names(grid: &Grid, width: Width) -> String {
    let mut svg = String::new();
    for (i, (name, what)) in LANES.iter().enumerate() {
        let y = grid.lane_top[i] + if width == Width::Wide { 30.0 } else { 14.0 };
        let _ = write!(svg, r#"<text class="lane" x="{}" y="{}">{name}</text>"#, if width == Width::Wide { 12.0 } else { 8.0 }, n(y));
        if width == Width::Wide && !what.is_empty() {
            let _ = write!(svg, r#"<text class="tick" x="12" y="{}">{what}</text>"#, n(y + 17.0));
        }
    }
    svg
}

/// Half as wide as the name of an hour, and of a day, with what stands free of the edge.
const HALF_AN_HOUR: f64 = 12.0;
const HALF_A_DAY: f64 = 26.0;

/// Nights shaded, days named, hours ticked.
fn hours(board: &Board, grid: &Grid) -> String {
    let mut svg = String::new();
    let first = board.from.as_second().div_euclid(3600) * 3600 + 3600;
    let mut at = Timestamp::from_second(first).unwrap_or(board.from);
    let mut night_from: Option<Timestamp> = None;
    let is_night = |at: Timestamp| {
        let hour = at.to_zoned_datetime(board.zone.clone()).hour();
        !(6..22).contains(&hour)
    };
    if is_night(board.from) {
        night_from = Some(board.from);
    }
    let mut last_x = f64::NEG_INFINITY;
    let mut nights = String::new();
    let mut close = |from: Timestamp, to: Timestamp| {
        let _ = write!(
            nights,
            r#"<rect class="night" x="{}" y="{}" width="{}" height="{}"/>"#,
            n(grid.x(from)),
            n(grid.head),
            n(grid.x(to) - grid.x(from)),
            n(grid.bottom() - grid.head)
        );
    };
    while at < board.to {
        let wall = at.to_zoned_datetime(board.zone.clone());
        match (is_night(at), night_from) {
            (true, None) => night_from = Some(at),
            (false, Some(from)) => {
                close(from, at);
                night_from = None;
            }
            _ => {}
        }
        let hour = i64::from(wall.hour());
        // Every third hour where there is room, every hour in the crowd; midnight always.
        let x = grid.x(at);
        let midnight = hour == 0;
        let next_midnight = at + SignedDuration::from_hours(24 - hour);
        let clear = midnight || next_midnight > board.to || grid.x(next_midnight) > x + 42.0;
        if midnight || (clear && ((hour % 3 == 0 && x > last_x + 34.0) || x > last_x + 70.0)) {
            last_x = x;
            let name =
                if midnight { format!(r#"<tspan class="strong">{}</tspan>"#, wall.strftime("%a %-d")) } else { format!("{hour:02}") };
            let class = if midnight { "hour midnight" } else { "hour" };
            // At the edge it stands inside of its line, so that nothing of it is cut.
            let half = if midnight { HALF_A_DAY } else { HALF_AN_HOUR };
            let anchor = match x {
                x if x + half > grid.right => "end",
                x if x - half < grid.left => "start",
                _ => "middle",
            };
            let _ = write!(
                svg,
                r#"<path class="{class}" d="M{x} {}V{}"/><text class="tick" x="{x}" y="{}" text-anchor="{anchor}">{name}</text>"#,
                n(grid.head),
                n(grid.bottom()),
                n(grid.head - 8.0),
                x = n(x),
            );
        }
        at += SignedDuration::from_hours(1);
    }
    if let Some(from) = night_from {
        close(from, board.to);
    }
    nights + &svg
}

/// One piece: strips in its lanes, a thread between them, what is done solid, what is to come pale.
fn journey(board: &Board, grid: &Grid, index: usize, width: Width) -> String {
    let piece = &board.pieces[index];
    let mut svg =
        format!(r#"<a href="{}" class="journey" aria-label="{}">"#, text(&piece.href), text(&format!("{}: {}", piece.name, piece.state)));
    let mut last: Option<(f64, f64)> = None;
    for segment in &piece.journey {
        if segment.to < board.from || segment.from > board.to {
            last = None;
            continue;
        }
        let y = grid.y(index, segment.lane);
        let (from, to) = (grid.x(segment.from), grid.x(segment.to).max(grid.x(segment.from) + 3.0));
        let mid = y + grid.strip / 2.0;
        if let Some((x, above)) = last {
            let class = if segment.from <= board.now { "thread" } else { "thread to-come" };
            let _ = write!(svg, r#"<path class="{class}" d="M{} {}L{} {}"/>"#, n(x), n(above), n(from), n(mid));
        }
        let now = grid.x(board.now);
        // Drawn at its own origin, so that the texture starts with the strip.
        let strip = |a: f64, b: f64, class: &str| {
            format!(
                r#"<rect class="strip {class}" transform="translate({} {})" width="{}" height="{}" rx="2.5" fill="url(#{}{})"/>"#,
                n(a),
                n(y),
                n((b - a).max(1.5)),
                n(grid.strip),
                width.texture(),
                piece.texture
            )
        };
        if segment.to <= board.now {
            svg += &strip(from, to, "done");
        } else if segment.from >= board.now {
            svg += &strip(from, to, "to-come");
        } else {
            svg += &strip(from, now, "done");
            svg += &strip(now, to, "to-come");
        }
        if segment.hands {
            let x = f64::midpoint(from, to);
            let _ = write!(svg, r#"<path class="hand" d="M{a} {l}l5 -16m-1 16l5 -16"/>"#, a = n(x - 5.0), l = n(y + grid.strip + 2.0));
        }
        last = Some((to, mid));
    }
    svg += &label(board, grid, index, width);
    svg.push_str("</a>");
    svg
}

/// The name stands over the longest strip that is in view, right of now where there is room.
fn label(board: &Board, grid: &Grid, index: usize, width: Width) -> String {
    let piece = &board.pieces[index];
    let in_view = piece.journey.iter().filter(|s| s.to > board.from && s.from < board.to);
    let Some(longest) = in_view.max_by_key(|s| s.to.min(board.to).duration_since(s.from.max(board.from))) else { return String::new() };
    let y = grid.y(index, longest.lane) - 6.0;
    let (from, to) = (grid.x(longest.from), grid.x(longest.to));
    let now = grid.x(board.now);
    let state = if width == Width::Wide { format!(" {}", piece.state) } else { String::new() };
    let letter = if width == Width::Wide { 7.2 } else { 6.8 };
    // Bold letters are wider.
    let bold = letter * 1.3;
    let name = fitting(&piece.name, ((grid.right - grid.left) / bold) as usize);
    let wanted = bold * name.chars().count() as f64 + letter * state.chars().count() as f64;
    let start = if now > from && now < to { now + 10.0 } else { from + 2.0 };
    let (x, anchor) = if start + wanted > grid.right { (grid.right.min(to.max(wanted + grid.left)), "end") } else { (start, "start") };
    format!(
        r#"<text class="board-label" x="{}" y="{}" text-anchor="{anchor}"><tspan class="strong">{}</tspan>{}</text>"#,
        n(x),
        n(y),
        text(&name),
        text(&state)
    )
}

/// A name as far as there is room for it.
fn fitting(name: &str, letters: usize) -> Cow<'_, str> {
    if name.chars().count() <= letters {
        return name.into();
    }
    let kept: String = name.chars().take(letters.saturating_sub(1)).collect();
    format!("{}…", kept.trim_end()).into()
}

fn plumb_line(board: &Board, grid: &Grid) -> String {
    let x = grid.x(board.now);
    let wall = board.now.to_zoned_datetime(board.zone.clone()).strftime("%a %H:%M").to_string();
    let anchor = if x < grid.left + 60.0 {
        "start"
    } else if x > grid.right - 60.0 {
        "end"
    } else {
        "middle"
    };
    format!(
        r#"<path class="plumb" d="M{x} 22V{b}"/><path class="bob" d="M{l} {b}h12l-6 16z"/><text class="plumb-label" x="{x}" y="14" text-anchor="{anchor}">now, {wall}</text>"#,
        x = n(x),
        l = n(x - 6.0),
        b = n(grid.bottom() + 4.0),
    )
}

#[cfg(test)]
mod tests;
