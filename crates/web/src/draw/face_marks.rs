//! What lies on a face besides its strokes: holes, zones, patches of last time, light, ruler, handles.

use super::face::{Frame, Ground, Size};
use super::{n, text};
use crate::words::trim;
use rauchkeller_core::skin::{Axis, DepthZone, Handle, Holes, Lattice, Light, Stretch};
use rauchkeller_core::units::LengthIn;
use std::fmt::Write;

/// Twenty thousand holes are one pattern, not twenty thousand nodes: a cell repeated, clipped to the face. The largest gap is marked.
pub(super) fn lattice(holes: &Holes, frame: Frame, ground: Ground) -> String {
    let Some(first) = holes.at.first() else { return String::new() };
    let s = holes.spacing.in_mm();
    let (x, y) = frame.at(*first);
    let (high, second) = match holes.lattice {
        Lattice::Square => (s, String::new()),
        Lattice::Hexagonal => {
            let rise = s * 3.0_f64.sqrt() / 2.0;
            (2.0 * rise, format!(r#"<circle cx="{0}" cy="{1}" r="0.45"/>"#, n(s), n(rise + rise / 2.0)))
        }
    };
    // The cell is laid so that its first hole falls on the first hole of the lattice.
    let (dx, dy) = (s / 2.0, high / 4.0);
    let dot = format!(r#"<circle cx="{0}" cy="{1}" r="0.45"/>"#, n(dx), n(dy));
    let wrapped = if second.is_empty() { String::new() } else { second.replace(&format!("cx=\"{}\"", n(s)), "cx=\"0\"") + &second };
    let (gx, gy) = frame.at(holes.gap_at);
    let (ends, low) = holes
        .at
        .iter()
        .fold(((f64::MAX, f64::MIN), (f64::MAX, f64::MIN)), |((l, r), (b, t)), (x, y)| ((l.min(*x), r.max(*x)), (b.min(*y), t.max(*y))));
    let (bx, by) = frame.at((ends.0 - s / 2.0, low.1 + s / 2.0));
    let ink = if ground == Ground::Meat { "#3d0f0c" } else { "#4a1a10" };
    format!(
        r##"<defs><pattern id="face-holes" patternUnits="userSpaceOnUse" x="{}" y="{}" width="{}" height="{}"><g fill="{ink}">{dot}{wrapped}</g></pattern></defs><g clip-path="url(#face-clip)"><rect x="{}" y="{}" width="{}" height="{}" fill="url(#face-holes)"/></g><circle class="face-gap" cx="{}" cy="{}" r="{}" fill="none" stroke="#9b1f1c" stroke-width="0.7"/>"##,
        n6(x - dx),
        n6(y - dy),
        n6(s),
        n6(high),
        n(bx),
        n(by),
        n(ends.1 - ends.0 + s),
        n(low.1 - low.0 + s),
        n(gx),
        n(gy),
        n(holes.largest_gap.in_mm())
    )
}

/// Six decimals: over eighty holes two would walk off by half a millimetre.
fn n6(value: f64) -> String {
    trim(value, 6)
}

/// Borders between zones, and the depth of each; nothing where one depth rules.
pub(super) fn zone_lines(zones: &[DepthZone], frame: Frame) -> String {
    if zones.len() < 2 {
        return String::new();
    }
    let (left, low, right, high) = frame.bounds;
    let mut svg = String::new();
    for zone in zones {
        let from = left + (right - left) * zone.span.0;
        let (x, y) = frame.at((from, high));
        let words = match zone.depth {
            Ok(guard) => format!("{} mm deep", trim((guard.at_most.in_mm() * 10.0 + 1e-6).floor() / 10.0, 1)),
            Err(_) => "pierce here".into(),
        };
        if zone.span.0 > 0.0 {
            let _ = write!(
                svg,
                r##"<path class="face-zone" fill="none" stroke="#9b1f1c" stroke-width="0.8" stroke-dasharray="4 2" d="M{} {}v{}"/>"##,
                n(x),
                n(y - 3.0),
                n(high - low + 6.0)
            );
        }
        let _ = write!(svg, r#"<text class="face-depth" x="{}" y="{}" font-size="10">{words}</text>"#, n(x + 3.0), n(y - 4.0));
    }
    svg
}

/// The nine fields of a verdict, hatched where the skin stayed chewy.
pub(super) fn patches(bits: i32, frame: Frame) -> String {
    if bits == 0 {
        return String::new();
    }
    let (left, low, right, high) = frame.bounds;
    let (wide, tall) = ((right - left) / 3.0, (high - low) / 3.0);
    let mut svg = String::from(
        r##"<defs><pattern id="face-hatch" patternUnits="userSpaceOnUse" width="5" height="5" patternTransform="rotate(45)"><path d="M0 0V5" stroke="#7a1512" stroke-width="1.4" stroke-opacity="0.5"/></pattern></defs><g clip-path="url(#face-clip)">"##,
    );
    for field in (0..9).filter(|i| bits & (1 << i) != 0) {
        // The verdict's first field is the far left one.
        let (column, row) = (f64::from(field % 3), f64::from(field / 3));
        let (x, y) = frame.at((left + column * wide, high - row * tall));
        let _ = write!(
            svg,
            r#"<rect class="face-patch" x="{}" y="{}" width="{}" height="{}" fill="url(#face-hatch)"/>"#,
            n(x),
            n(y),
            n(wide),
            n(tall)
        );
    }
    svg + "</g>"
}

/// Boxes of holes that the light walks over.
pub(super) fn light_boxes(light: &Light, frame: Frame) -> String {
    let mut svg = String::from(r#"<g clip-path="url(#face-clip)">"#);
    for (i, stretch) in light.stretches.iter().enumerate() {
        let Stretch::Box(left, low, right, high) = *stretch else { continue };
        let (x, y) = frame.at((left, high));
        let _ = write!(
            svg,
            r#"<rect class="face-stretch" data-stretch="{i}" x="{}" y="{}" width="{}" height="{}" fill="transparent"/>"#,
            n(x),
            n(y),
            n(right - left),
            n(high - low)
        );
    }
    svg + "</g>"
}

/// On the screen a ruler along two sides, a tick a centimetre; on the sheet a bar to check the printer by.
pub(super) fn ruler(frame: Frame, tall: f64, size: Size) -> String {
    let (left, low, right, high) = frame.bounds;
    let (x, bottom) = frame.at((left, low));
    if size == Size::OneToOne {
        // A bar of whole centimetres, the face's own width and no more.
        let bar = ((right - left) / 10.0).floor().min(10.0) * 10.0;
        let y = tall - 6.0;
        return format!(
            r##"<path class="face-ruler" fill="none" stroke="#4a3220" stroke-width="0.6" d="M{0} {1}h{bar}M{0} {2}v3M{3} {2}v3"/><text class="face-mm" x="{4}" y="{5}" font-size="6" font-family="sans-serif" fill="#4a3220">{bar} mm</text>"##,
            n(x),
            n(y),
            n(y - 1.5),
            n(x + bar),
            n(x + bar + 2.0),
            n(y + 2.0)
        );
    }
    let mut d = String::new();
    let mut words = String::new();
    for cm in 0..=((right - left) / 10.0).floor() as u32 {
        let long = if cm % 5 == 0 { 4.0 } else { 2.0 };
        let _ = write!(d, "M{} {}v{long}", n(x + f64::from(cm) * 10.0), n(bottom + 2.5));
        if cm % 10 == 0 {
            let _ = write!(
                words,
                r#"<text class="face-mm" x="{}" y="{}" font-size="9" text-anchor="middle">{}</text>"#,
                n(x + f64::from(cm) * 10.0),
                n(bottom + 15.0),
                cm * 10
            );
        }
    }
    for cm in 0..=((high - low) / 10.0).floor() as u32 {
        let long = if cm % 5 == 0 { 4.0 } else { 2.0 };
        let _ = write!(d, "M{} {}h-{long}", n(x - 2.5), n(bottom - f64::from(cm) * 10.0));
    }
    format!(r#"<path class="face-ruler" fill="none" d="{d}"/>{words}"#)
}

/// What can be dragged: a slider each, worked by pointer and by arrow keys.
pub(super) fn handles(handles: &[Handle], frame: Frame) -> String {
    let mut svg = String::new();
    // On a large face the grips grow with it, so that a finger still finds them.
    let scale = n(((frame.bounds.2 - frame.bounds.0) / 300.0).max(1.0));
    for handle in handles {
        let (x, y) = frame.at(handle.at);
        let axis = match handle.axis {
            Axis::Along => "x",
            Axis::Across => "y",
            Axis::Free => "xy",
        };
        let arrow = match handle.axis {
            Axis::Along => "M-6 0l3-3v6zM6 0l-3-3v6z",
            Axis::Across => "M0-6l-3 3h6zM0 6l-3-3h6z",
            Axis::Free => "M-6 0l3-3v6zM6 0l-3-3v6zM0-6l-3 3h6zM0 6l-3-3h6z",
        };
        let value = trim(handle.value, 1);
        let _ = write!(
            svg,
            r#"<g class="handle" id="handle-{field}" role="slider" tabindex="0" data-field="{field}" data-axis="{axis}" data-origin="{}" data-factor="{}" data-x0="{}" data-y0="{}" data-scale="{scale}" transform="translate({} {}) scale({scale})" aria-label="{}" aria-valuenow="{value}" aria-valuemin="{}" aria-valuemax="{}" aria-valuetext="{value} mm"{}><circle class="handle-reach" r="11"/><circle class="handle-grip" r="7.5"/><path class="handle-way" d="{arrow}"/></g>"#,
            trim(handle.origin, 3),
            trim(handle.factor, 3),
            n(frame.x0),
            n(frame.y0),
            n(x),
            n(y),
            text(&handle.name),
            trim(handle.range.0, 1),
            trim(handle.range.1, 1),
            if handle.axis == Axis::Free { format!(r#" data-across="{}""#, trim(handle.at.1, 1)) } else { String::new() },
            field = text(&handle.field),
        );
    }
    svg
}
