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

#[cfg(test)]
mod tests {
    use super::*;

    fn band(planned_h: f64, fits_h: f64) -> Band {
        Band {
            from: "2026-12-11T15:00:00Z".parse().unwrap(),
            span_h: 60.0,
            marks: (12.0, 24.0, 48.0),
            planned_h,
            fits_h,
            zone: TimeZone::get("Europe/Vienna").unwrap(),
        }
    }

    #[test]
    fn marks_stand_at_their_share_of_the_line() {
        // By hand: 12, 24 and 48 of 60 h on 1200 px are 240, 480 and 960.
        let svg = draw_band(&band(24.0, 100.0), Width::Wide);
        for x in ["M240 22", "M480 22", "M960 22"] {
            assert!(svg.contains(x), "{x} not in {svg}");
        }
        assert!(svg.contains(r#"<rect class="band-done" x="0" y="29" width="480""#));
        assert!(!svg.contains("no more fits"));
    }

    #[test]
    fn nights_are_shaded_in_wall_time() {
        // From 16:00 in Vienna: 22:00 is 6 h on, 06:00 is 14 h on: 120 to 280 px, and the next night a day later.
        let svg = draw_band(&band(24.0, 100.0), Width::Wide);
        let nights: Vec<f64> =
            svg.split(r#"<rect class="night" x=""#).skip(1).map(|rest| rest.split('"').next().unwrap().parse().unwrap()).collect();
        assert_eq!((nights.first(), nights.len()), (Some(&120.0), 2 * 8 * 4 + 6 * 4));
        assert!(nights.iter().all(|x| (120.0..280.0).contains(x) || (600.0..760.0).contains(x) || *x >= 1080.0));
    }

    #[test]
    fn what_does_not_fit_is_marked_on_both_screens() {
        for width in [Width::Wide, Width::Narrow] {
            assert!(draw_band(&band(24.0, 30.0), width).contains("no more fits"));
        }
    }
}
