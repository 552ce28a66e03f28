//! Two strips to lay beside the piece in a sleeve, a tick a stroke.

use super::{BOLD, FAINT, FINE, MARGIN_MM, Paper, Pen, PrintError, document};
use rauchkeller_core::skin::EdgeStrip;

/// Height of a strip, mm: it fits a narrow sleeve.
const STRIP_MM: f64 = 28.0;
/// A strip longer than the paper goes on, sharing so much, mm.
const SHARED_MM: f64 = 20.0;

/// One part of a strip: where along the edge it begins, and what it is called.
struct Part<'a> {
    strip: &'a EdgeStrip,
    from: f64,
    words: String,
}

/// Parts on a page.
const A_PAGE: usize = 3;
/// The most parts of one strip; a piece is a metre at most.
const MOST_PARTS: usize = 8;

/// A PDF of the strips of every family, on paper lying on its side.
pub fn strips(name: &str, pairs: &[[EdgeStrip; 2]], paper: Paper) -> Result<Vec<u8>, PrintError> {
    let (tall, wide) = paper.upright();
    let shows = wide - 2.0 * MARGIN_MM;
    let way = |family: usize| if pairs.len() > 1 { format!(", strokes of way {}", family + 1) } else { String::new() };
    let both = pairs.iter().enumerate().flat_map(|(family, pair)| pair.iter().map(move |strip| (family, strip)));
    let parts: Vec<Part> = both.flat_map(|(family, strip)| parts_of(strip, shows, &way(family))).collect();
    let pages: Vec<&[Part]> = parts.chunks(A_PAGE).collect();
    document(name, (wide, tall), pages.len(), |pen, index| {
        for (i, part) in pages.get(index).copied().unwrap_or_default().iter().enumerate() {
            draw(pen, part, (MARGIN_MM + 8.0 + i as f64 * (STRIP_MM + 24.0), shows));
        }
        let page = if pages.len() > 1 { format!(" Page {} of {}.", index + 1, pages.len()) } else { String::new() };
        let words =
            format!("{name}. Into a sleeve, beside the piece: ink does not touch meat. From tick to the tick of the same number.{page}");
        pen.check_bar((MARGIN_MM, tall - MARGIN_MM - 8.0), &words);
    })
}

/// A strip longer than the paper in parts that share a little.
fn parts_of<'a>(strip: &'a EdgeStrip, shows: f64, way: &str) -> Vec<Part<'a>> {
    let ends = || strip.ticks.iter().copied().chain([strip.corners.0, strip.corners.1]);
    let (first, last) = (ends().fold(f64::INFINITY, f64::min) - 6.0, ends().fold(f64::NEG_INFINITY, f64::max) + 6.0);
    let count = if last - first <= shows { 1 } else { ((last - first - SHARED_MM) / (shows - SHARED_MM)).ceil() as usize }.min(MOST_PARTS);
    let words = |i: usize| {
        let part = if count > 1 { format!(", part {} of {count}", i + 1) } else { String::new() };
        format!("{}{way}{part}: this edge against the piece", strip.side.name())
    };
    (0..count).map(|i| Part { strip, from: first + i as f64 * (shows - SHARED_MM), words: words(i) }).collect()
}

fn draw(pen: &mut Pen, part: &Part, (top, shows): (f64, f64)) {
    let strip = part.strip;
    let (left, right) = (MARGIN_MM, MARGIN_MM + shows);
    let at = |along: f64| along - part.from + MARGIN_MM;
    let shown = |x: &f64| (left - 1e-6..=right + 1e-6).contains(x);
    // The edge that is laid against the piece is bold; the others are cut along.
    pen.lines([((left, top), (right, top))].into_iter(), BOLD);
    pen.lines(
        [((left, top + STRIP_MM), (right, top + STRIP_MM)), ((left, top), (left, top + STRIP_MM)), ((right, top), (right, top + STRIP_MM))]
            .into_iter(),
        FAINT,
    );
    pen.text((left, top - 2.5), 3.4, &part.words);
    let ticks: Vec<(usize, f64)> = strip.ticks.iter().enumerate().map(|(i, t)| (i + 1, at(*t))).filter(|(_, x)| shown(x)).collect();
    pen.lines(ticks.iter().map(|&(i, x)| ((x, top), (x, top + if i % 5 == 0 || i == 1 { 13.0 } else { 9.0 }))), FINE);
    for (i, x) in ticks.iter().filter(|(i, _)| i % 5 == 0 || *i == 1) {
        pen.text((x - 1.2, top + 17.0), 3.2, &i.to_string());
    }
    for (corner, words) in [(strip.corners.0, "corner"), (strip.corners.1, "corner")] {
        let x = at(corner);
        if shown(&x) {
            pen.ring(&[(x, top), (x - 1.8, top + 20.0), (x + 1.8, top + 20.0)], FINE);
            pen.text((x - 4.5, top + 25.0), 3.2, words);
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use rauchkeller_core::skin::Side;

    #[test]
    fn a_long_strip_goes_on_and_shares_a_little() {
        let strip = |last: f64| EdgeStrip { side: Side::Left, corners: (0.0, last), ticks: vec![5.0, last - 5.0] };
        // By hand: 277 mm of paper show 220 + 12 mm at once; 288 + 12 take two parts, the second 257 mm further on.
        assert_eq!(parts_of(&strip(220.0), 277.0, "").len(), 1);
        let long = strip(288.0);
        let parts = parts_of(&long, 277.0, "");
        assert_eq!((parts.len(), parts[0].from, parts[1].from), (2, -6.0, 251.0));
        assert!(parts[1].words.starts_with("left end, part 2 of 2"));
    }
}
