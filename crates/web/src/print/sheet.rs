//! The face as a sheet to look at beside the piece, over as many pages as it needs.

use super::{BOLD, FAINT, FINE, FOOT_MM, MARGIN_MM, Paper, PrintError, document};
use rauchkeller_core::skin::{Holes, LaidFace, Stroke};

/// What is drawn.
pub struct SheetFace<'a> {
    /// What it is called.
    pub name: &'a str,
    /// Outline and bones.
    pub laid: &'a LaidFace,
    /// Strokes.
    pub strokes: &'a [Stroke],
    /// Strokes of the other side, dashed.
    pub other_side: &'a [Stroke],
    /// Holes.
    pub holes: Option<&'a Holes>,
    /// How deep, in words.
    pub depth: &'a str,
}

/// Neighbouring pages share so much, mm.
const OVERLAP_MM: f64 = 10.0;
/// Room round the face, mm.
const ROOM_MM: f64 = 3.0;

/// How the sheet lies on paper.
#[derive(Debug, Clone, Copy, PartialEq)]
struct Tiling {
    /// Paper as it is turned, mm.
    paper: (f64, f64),
    /// What one page can show, mm.
    shows: (f64, f64),
    columns: usize,
    rows: usize,
}

/// Pages needed for a length, each showing so much and sharing the overlap with the next.
fn pages(length: f64, shows: f64) -> usize {
    if length <= shows { 1 } else { ((length - OVERLAP_MM) / (shows - OVERLAP_MM)).ceil() as usize }
}

/// Upright or on its side, whichever needs fewer pages.
fn tiling(long: f64, wide: f64, paper: Paper) -> Tiling {
    let upright = paper.upright();
    let of = |(w, h): (f64, f64)| {
        let shows = (w - 2.0 * MARGIN_MM, h - 2.0 * MARGIN_MM - FOOT_MM);
        Tiling { paper: (w, h), shows, columns: pages(long, shows.0), rows: pages(wide, shows.1) }
    };
    let (a, b) = (of((upright.1, upright.0)), of(upright));
    if a.columns * a.rows <= b.columns * b.rows { a } else { b }
}

/// A PDF of the face at one to one.
pub fn sheet(face: &SheetFace, paper: Paper) -> Result<Vec<u8>, PrintError> {
    let (left, low, right, high) = face.laid.outline.bounds().unwrap_or_default();
    let (long, wide) = (right - left + 2.0 * ROOM_MM, high - low + 2.0 * ROOM_MM);
    let tiling = tiling(long, wide, paper);
    let count = tiling.columns * tiling.rows;
    let (shows, step) = (tiling.shows, (tiling.shows.0 - OVERLAP_MM, tiling.shows.1 - OVERLAP_MM));
    document(face.name, tiling.paper, count, |pen, index| {
        let (column, row) = (index % tiling.columns, index / tiling.columns);
        // Upper left corner of what this page shows, in the sheet's own millimetres.
        let from = (column as f64 * step.0, row as f64 * step.1);
        let at = |(x, y): (f64, f64)| (x - left + ROOM_MM - from.0 + MARGIN_MM, high - y + ROOM_MM - from.1 + MARGIN_MM);
        let view = (MARGIN_MM, MARGIN_MM, MARGIN_MM + shows.0, MARGIN_MM + shows.1);
        pen.inside(view, |pen| {
            for ring in face.laid.outline.rings() {
                let points: Vec<(f64, f64)> = ring.iter().map(|p| at(*p)).collect();
                pen.ring(&points, BOLD);
            }
            pen.lines(face.laid.bones.iter().map(|(a, b)| (at(*a), at(*b))), FAINT);
            pen.lines(face.strokes.iter().map(|s| (at(s.from), at(s.to))), FINE);
            pen.lines(face.other_side.iter().map(|s| (at(s.from), at(s.to))), FAINT);
            if let Some(holes) = face.holes {
                let shown = |(x, y): &(f64, f64)| (view.0 - 1.0..view.2 + 1.0).contains(x) && (view.1 - 1.0..view.3 + 1.0).contains(y);
                pen.dots(holes.at.iter().map(|p| at(*p)).filter(shown), 0.25);
            }
        });
        // Crosses lie on the same places of the sheet on both pages that share them.
        let mut crosses = Vec::new();
        for share in [0.25, 0.75] {
            let (x, y) = (MARGIN_MM + shows.0 * share, MARGIN_MM + shows.1 * share);
            let half = OVERLAP_MM / 2.0;
            if column > 0 {
                crosses.push((MARGIN_MM + half, y));
            }
            if column + 1 < tiling.columns {
                crosses.push((view.2 - half, y));
            }
            if row > 0 {
                crosses.push((x, MARGIN_MM + half));
            }
            if row + 1 < tiling.rows {
                crosses.push((x, view.3 - half));
            }
        }
        pen.lines(crosses.iter().flat_map(|&(x, y)| [((x - 3.0, y), (x + 3.0, y)), ((x, y - 3.0), (x, y + 3.0))]), FINE);
        let place = if count > 1 {
            format!(" Page {} of {count}: row {}, column {}; lay cross on cross.", index + 1, row + 1, column + 1)
        } else {
            String::new()
        };
        pen.check_bar(
            (MARGIN_MM, tiling.paper.1 - MARGIN_MM - 8.0),
            &format!("{}, {}. To look at: ink does not touch meat.{place}", face.name, face.depth),
        );
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_face_takes_as_few_pages_as_it_can() {
        // By hand: on its side A4 shows 277 × 170 mm; 300 + 6 mm need two columns, 220 + 6 two rows; upright 190 × 257: two by one.
        let belly = tiling(306.0, 226.0, Paper::A4);
        assert_eq!((belly.columns, belly.rows, belly.paper), (2, 1, (210.0, 297.0)));
        let small = tiling(200.0, 150.0, Paper::Letter);
        assert_eq!((small.columns, small.rows), (1, 1));
        // Pages share 10 mm: two of 190 show 370 mm, three 550.
        assert_eq!([pages(190.0, 190.0), pages(370.0, 190.0), pages(370.1, 190.0)], [1, 2, 3]);
    }
}
