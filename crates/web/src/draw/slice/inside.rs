//! What is inside a slice besides salt: fat, bones, string.

use super::{FAT, Frame, STEPS, Slice};
use crate::draw::{n, scatter};
use rauchkeller_core::piece::Family;
use std::fmt::Write;

/// The string of a tied roast, seen at its cut: round the outside, with its knot on top.
pub(super) fn string(frame: &Frame, slice: &Slice) -> String {
    let mut path = String::new();
    for (depth, order) in [(0.0, 1), (slice.thickness_mm, -1)] {
        for i in 0..=STEPS {
            let along = if order > 0 { i as f64 } else { (STEPS - i) as f64 } / STEPS as f64;
            let (x, y) = frame.point(slice, along, depth);
            let _ = write!(path, "{}{} {}", if path.is_empty() { 'M' } else { 'L' }, n(x), n(y));
        }
    }
    let x = f64::midpoint(frame.left, frame.right);
    format!(
        r##"<path d="{path}Z" fill="none" stroke="#f4ecd9" stroke-width="3"/><path d="{path}Z" fill="none" stroke="#8a7350" stroke-width="1" stroke-dasharray="5 3"/><path d="M{} {y}l-9 -7m9 7l9 -7" stroke="#8a7350" stroke-width="2" fill="none"/>"##,
        n(x),
        y = n(frame.top),
    )
}

/// The rib of a rack: a curved bone along the underside, its end cleaned and standing out.
pub(super) fn rib(frame: &Frame) -> String {
    let (wide, high) = (frame.right - frame.left, frame.bottom - frame.top);
    let (x0, y0) = (frame.left + wide * 0.12, frame.bottom - high * 0.12);
    let (x1, y1) = (frame.right + wide * 0.30, frame.top + high * 0.52);
    let bend = format!("M{} {}Q{} {} {} {}", n(x0), n(y0), n(frame.right - wide * 0.12), n(frame.bottom + high * 0.02), n(x1), n(y1));
    let thick = n((high * 0.11).clamp(6.0, 16.0));
    format!(
        r##"<path d="{bend}" fill="none" stroke="#a99878" stroke-width="{thick}" stroke-linecap="round"/><path d="{bend}" fill="none" stroke="#efe5d0" stroke-width="{}" stroke-linecap="round"/>"##,
        n((high * 0.11).clamp(6.0, 16.0) - 2.4)
    )
}

/// The bone through a joint, cut across: its ring and its marrow, as large as its share.
pub(super) fn shaft(frame: &Frame, slice: &Slice) -> String {
    if slice.bone_fraction <= 0.0 {
        return String::new();
    }
    let (x, y) = frame.point(slice, 0.56, slice.thickness_mm * 0.6);
    let radius = slice.thickness_mm * frame.scale / 2.0 * slice.bone_fraction.sqrt() * 0.75;
    format!(
        r##"<circle cx="{x}" cy="{y}" r="{}" fill="#efe5d0" stroke="#a99878" stroke-width="1.5"/><circle cx="{x}" cy="{y}" r="{}" fill="#c98f86"/>"##,
        n(radius),
        n(radius * 0.5),
        x = n(x),
        y = n(y)
    )
}

/// Threads of fat in a steak, and its fat edge at one end.
pub(super) fn marbling(frame: &Frame, slice: &Slice) -> String {
    let mut path = String::new();
    for i in 0..26u64 {
        let along = 0.08 + 0.84 * scatter(i * 3 + 1);
        let depth = slice.thickness_mm * (0.1 + 0.8 * scatter(i * 3 + 2));
        let (x, y) = frame.point(slice, along, depth);
        let long = 8.0 + 22.0 * scatter(i * 3 + 3);
        let _ = write!(
            path,
            "M{} {}q{} {} {} {}",
            n(x),
            n(y),
            n(long / 2.0),
            n(-5.0 + 10.0 * scatter(i + 90)),
            n(long),
            n(-3.0 + 6.0 * scatter(i + 190))
        );
    }
    let mut svg = format!(r##"<path d="{path}" fill="none" stroke="#e6c9b4" stroke-width="1.6" stroke-linecap="round"/>"##);
    if slice.family == Family::Steak && slice.fat_mm > 0.2 {
        // The fat edge follows the outline of the end it lies on.
        let reach = (slice.fat_mm / slice.length_mm).min(0.3);
        let point = |along: f64, depth: f64| {
            let (x, y) = frame.point(slice, along, depth);
            format!("{} {}", n(x), n(y))
        };
        let steps = 8u32;
        let part = |i: u32| reach * f64::from(i) / f64::from(steps);
        let over: Vec<String> = (0..=steps).map(|i| point(part(i), 0.0)).collect();
        let under: Vec<String> = (0..=steps).rev().map(|i| point(part(i), slice.thickness_mm)).collect();
        let inner = point(reach * 0.72, slice.thickness_mm / 2.0);
        let _ = write!(svg, r#"<path class="fat" d="M{}Q{} {}L{}Z" fill="{FAT}"/>"#, over.join("L"), inner, under[0], under[1..].join("L"));
    }
    svg
}

/// Breastbone and ribs under a bird's breast, and the cavity below them.
pub(super) fn bones(frame: &Frame) -> String {
    let mut svg = String::new();
    let wide = frame.right - frame.left;
    let _ = write!(
        svg,
        r##"<rect x="{}" y="{}" width="{}" height="9" rx="4" fill="#e9e0cf" stroke="#b9ab93" stroke-width="1"/>"##,
        n(frame.left + 4.0),
        n(frame.bottom),
        n(wide - 8.0)
    );
    for i in 0..9 {
        let x = frame.left + wide * (0.08 + 0.105 * f64::from(i));
        let _ = write!(svg, r##"<ellipse cx="{}" cy="{}" rx="5" ry="3.4" fill="#cfc2aa"/>"##, n(x), n(frame.bottom + 4.5));
    }
    svg
}
