//! Portions of a dish in one tray, each at its own size, with its grams.

use super::width::Width;
use super::{n, text};
use crate::words::{grams, trim};
use rauchkeller_contract::PortionDoc;
use std::fmt::Write;

const GAP: f64 = 14.0;
/// Depth of the drawing of a portion on the page, mm: what its length is reckoned from.
const DENSITY_G_PER_MM3: f64 = 1.055e-3;

/// Draws portions side by side; nothing for a single piece. Height is thickness, length follows from the weight at a
/// common breadth, all to one scale.
pub fn draw_tray(portions: &[PortionDoc], width: Width) -> String {
    if portions.len() < 2 {
        return String::new();
    }
    let (room, class) = if width == Width::Wide { (620.0, "wide") } else { (360.0, "narrow") };
    let breadth = 110.0;
    let size: Vec<(f64, f64)> =
        portions.iter().map(|p| (p.weight_g / (p.salt_thickness_mm.max(1.0) * breadth * DENSITY_G_PER_MM3), p.salt_thickness_mm)).collect();
    let across: f64 = size.iter().map(|(long, _)| long).sum();
    let thickest = size.iter().fold(1.0, |most: f64, (_, thick)| most.max(*thick));
    let px = ((room - 24.0 - GAP * portions.len() as f64) / across).min(90.0 / thickest);
    let floor = 34.0 + thickest * px;
    let mut svg = format!(
        r#"<svg class="tray tray-{class}" viewBox="0 0 {room} {}" role="img" aria-label="{}">"#,
        n(floor + 44.0),
        text(&spoken(portions))
    );
    let mut x = 12.0;
    for (portion, (long, thick)) in portions.iter().zip(size) {
        let (w, h) = (long * px, thick * px);
        let mid = x + w / 2.0;
        let _ = write!(
            svg,
            r#"<rect class="face-cut" x="{}" y="{}" width="{}" height="{}" rx="5"/><text class="face-g" x="{mid}" y="{}" text-anchor="middle">{} g</text><text class="tick" x="{mid}" y="{}" text-anchor="middle">{} g</text><text class="tick" x="{mid}" y="{}" text-anchor="middle">{} mm</text>"#,
            n(x),
            n(floor - h),
            n(w),
            n(h),
            n(floor - h - 8.0),
            grams(portion.scale_g),
            n(floor + 24.0),
            trim(portion.weight_g, 0),
            n(floor + 39.0),
            trim(portion.salt_thickness_mm, 0),
            mid = n(mid),
        );
        x += w + GAP;
    }
    let _ = write!(svg, r#"<path class="tray-line" d="M4 {f}H{}M4 {f}v-10M{} {f}v-10"/></svg>"#, n(x), n(x), f = n(floor + 4.0));
    svg
}

fn spoken(portions: &[PortionDoc]) -> String {
    let each: Vec<String> = portions.iter().map(|p| format!("{} g of salt on {} g", grams(p.scale_g), trim(p.weight_g, 0))).collect();
    format!("Portions: {}", each.join(", "))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn portion(weight_g: f64, salt_thickness_mm: f64) -> PortionDoc {
        PortionDoc {
            weight_g,
            salt_thickness_mm,
            g_per_kg: 10.0,
            g: weight_g / 100.0,
            scale_g: weight_g / 100.0,
            fire_min: None,
            in_after_min: None,
            pull_c: None,
            ends_c: None,
        }
    }

    #[test]
    fn the_drawn_sizes_keep_their_proportion() {
        let svg = draw_tray(&[portion(400.0, 30.0), portion(500.0, 45.0)], Width::Wide);
        let read = |name: &str| -> Vec<f64> { svg.split(name).skip(1).map(|p| p.split('"').next().unwrap().parse().unwrap()).collect() };
        let (wide, high) = (read(" width=\""), read(" height=\""));
        // Area is weight: 400 g and 500 g at one breadth; thickness 2 to 3.
        assert!((wide[0] * high[0] / (wide[1] * high[1]) - 0.8).abs() < 1e-3 && (high[0] / high[1] - 2.0 / 3.0).abs() < 1e-3);
        assert!(draw_tray(&[portion(400.0, 30.0)], Width::Wide).is_empty());
    }
}
