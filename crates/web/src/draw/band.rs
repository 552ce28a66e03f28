//! The hours band: shortest, ideal and longest useful on one line with the nights.

use super::{Width, n, text};
use crate::words::day_wall;
use jiff::tz::TimeZone;
use jiff::{SignedDuration, Timestamp};
use std::fmt::Write;

/// What the band shows.
#[derive(Debug, Clone)]
pub struct Band {
    /// Salted, or into the cold.
    pub from: Timestamp,
    /// Hours on the whole line.
    pub span_h: f64,
    /// Shortest, ideal, longest.
    pub marks: (f64, f64, f64),
    /// Planned.
    pub planned_h: f64,
    /// What fits before the meal.
    pub fits_h: f64,
    /// Zone for the nights.
    pub zone: TimeZone,
}

/// Draws the band; the slider lies over it.
pub fn draw_band(band: &Band, width: Width) -> String {
    let (wide, class) = match width {
        Width::Wide => (1200.0, "band-wide"),
        Width::Narrow => (358.0, "band-narrow"),
    };
    let x = |h: f64| (h / band.span_h * wide).clamp(0.0, wide);
    let mut svg = format!(
        r#"<svg class="band {class}" viewBox="0 0 {wide} 76" aria-hidden="true"><rect class="band-ground" x="0" y="18" width="{wide}" height="36"/>"#
    );
    // Nights, sampled by the quarter hour in wall time.
    let mut h = 0.0;
    while h < band.span_h {
        let wall = (band.from + SignedDuration::from_secs((h * 3600.0) as i64)).to_zoned_datetime(band.zone.clone());
        if wall.hour() >= 22 || wall.hour() < 6 {
            let _ = write!(svg, r#"<rect class="night" x="{}" y="18" width="{}" height="36"/>"#, n(x(h)), n(x(h + 0.25) - x(h)));
        }
        h += 0.25;
    }
    let _ = write!(svg, r#"<rect class="band-done" x="0" y="29" width="{}" height="14"/>"#, n(x(band.planned_h)));
    let rest = x(band.marks.2) - x(band.planned_h);
    if rest > 0.0 {
        let _ = write!(svg, r#"<rect class="band-more" x="{}" y="29" width="{}" height="14"/>"#, n(x(band.planned_h)), n(rest));
    }
    if band.fits_h < band.span_h {
        let at = x(band.fits_h);
        let _ = write!(svg, r#"<path class="band-end" d="M{} 14V58"/>"#, n(at));
        let anchor = if at > wide - 70.0 { "end" } else { "middle" };
        let _ = write!(svg, r#"<text class="label band-limit" x="{}" y="11" text-anchor="{anchor}">no more fits</text>"#, n(at));
    }
    let labels = [("shortest", band.marks.0), ("ideal", band.marks.1), ("longest useful", band.marks.2)];
    for (i, (name, hours)) in labels.into_iter().enumerate() {
        let at = x(hours);
        let _ = write!(svg, r#"<path class="band-mark" d="M{} 22V50"/>"#, n(at));
        let words = if width == Width::Wide { format!("{name} {hours:.0} h") } else { format!("{hours:.0} h") };
        let anchor = if at > wide - 60.0 {
            "end"
        } else if i == 0 && at < 50.0 {
            "start"
        } else {
            "middle"
        };
        let _ = write!(svg, r#"<text class="label cold" x="{}" y="71" text-anchor="{anchor}">{}</text>"#, n(at), text(&words));
    }
    if width == Width::Wide && x(band.marks.0) > 220.0 {
        let _ = write!(svg, r#"<text class="label" x="0" y="71">salted {}</text>"#, day_wall(band.from, &band.zone));
    }
    svg.push_str("</svg>");
    svg
}
