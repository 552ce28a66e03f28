//! The slice: the piece in cross-section at true proportion, with the salt in it.

mod inside;

use super::width::Width;
use super::{Path, n, scatter, text};
use inside::{bones, marbling, rib, shaft, string};
use rauchkeller_contract::{PlanDoc, RequestDoc};
use rauchkeller_core::piece::{Cut, Family};
use rauchkeller_core::salt::travel::Profile;
use rauchkeller_core::units::System;
use std::fmt::Write;
use std::sync::LazyLock;

/// Everything the picture shows.
#[derive(Debug, Clone)]
pub struct Slice {
    /// How it is drawn.
    pub family: Family,
    /// What is shown from left to right, mm.
    pub length_mm: f64,
    /// Share of bone.
    pub bone_fraction: f64,
    /// Skin, fat, whole thickness, mm.
    pub skin_mm: f64,
    /// Fat, mm.
    pub fat_mm: f64,
    /// From top to bottom, mm.
    pub thickness_mm: f64,
    /// Salt through the thickness.
    pub profile: Profile,
    /// Dry salt waiting on top and bottom, g/dm².
    pub waiting: (f64, f64),
    /// How dry the skin is.
    pub dryness: Option<f64>,
    /// Where knife or pick stops, mm from the top.
    pub stop_mm: Option<f64>,
    /// Distance of the holes in the skin, mm.
    pub holes_mm: Option<f64>,
    /// Whether they are strokes, cut all the way to the stop.
    pub scored: bool,
    /// Cuts into the lean side: how deep and how far apart, mm.
    pub grooves_mm: Option<(f64, f64)>,
    /// Depth of seasoned lean from the salted face, mm.
    pub salted_mm: f64,
    /// In whose units its ruler is.
    pub system: Option<System>,
}

/// Slabs are cut lengthwise, round pieces across, a bird through its breast.
fn shown_across(family: Family, request: &RequestDoc) -> f64 {
    match family {
        Family::SkinSlab | Family::CapSlab | Family::Steak => request.length_mm,
        Family::Roast | Family::Rack | Family::Joint => {
            request.width_mm.clamp(request.salt_thickness_mm * 0.9, request.salt_thickness_mm * 2.0)
        }
        Family::Bird | Family::Crown => request.salt_thickness_mm * 3.2,
        Family::FlatBird => request.salt_thickness_mm * 5.0,
    }
}

impl Slice {
    /// The slice of a plan when it leaves the cold.
    pub fn of(plan: &PlanDoc) -> Self {
        let points = plan.fridge.salt_profile.clone();
        let family = Cut::find(&plan.request.cut).map_or(Family::Steak, |cut| cut.family);
        let skin = plan.skin.as_ref();
        Self {
            family,
            length_mm: shown_across(family, &plan.request),
            bone_fraction: plan.request.bone_fraction,
            skin_mm: plan.request.skin_mm,
            fat_mm: plan.request.fat_mm,
            thickness_mm: plan.request.salt_thickness_mm,
            profile: Profile::from_points(&points),
            waiting: plan.fridge.waiting_g_per_dm2,
            dryness: plan.fridge.skin_dryness,
            stop_mm: skin.filter(|s| s.holes.is_some() || s.strokes.is_some()).and_then(|s| s.depth_max_mm),
            scored: skin.is_some_and(|s| s.strokes.is_some()),
            grooves_mm: skin.and_then(|s| s.meat.as_ref()).map(|m| (m.depth_mm, m.spacing_mm)),
            holes_mm: skin.and_then(|s| s.spacing_mm),
            salted_mm: plan.fridge.salted_depth_mm,
            system: None,
        }
    }

    /// With a ruler in a household's units.
    #[must_use]
    pub fn by(self, system: Option<System>) -> Self {
        Self { system, ..self }
    }

    /// The same piece at another moment of its rest.
    pub fn at(mut self, state: &rauchkeller_core::plan::ColdState) -> Self {
        use rauchkeller_core::units::LengthIn;
        self.salted_mm = state.salted_depth.in_mm();
        self.waiting = (state.profile.waiting[0].0, state.profile.waiting[1].0);
        self.dryness = state.dryness.map(|d| d.0);
        self.profile = state.profile.clone();
        self
    }

    /// Salt in one column, g/dm²: what has gone in, and what waits.
    fn column_load(&self) -> (f64, f64) {
        (self.profile.load().0, self.waiting.0 + self.waiting.1)
    }
}

/// Where things are on the drawing, px.
struct Frame {
    left: f64,
    top: f64,
    scale: f64,
    right: f64,
    bottom: f64,
}

impl Frame {
    fn of(slice: &Slice, width: Width) -> Self {
        let round = matches!(slice.family, Family::Roast | Family::Rack | Family::Joint);
        let (most_wide, most_high, left) = match width {
            Width::Wide => (664.0, if round { 250.0 } else { 190.0 }, 40.0),
            Width::Narrow => (342.0, if round { 190.0 } else { 150.0 }, 8.0),
        };
        let scale = (most_wide / slice.length_mm).min(most_high / slice.thickness_mm);
        let top = if slice.stop_mm.is_some() { 52.0 } else { 14.0 };
        Self { left, top, scale, right: left + slice.length_mm * scale, bottom: top + slice.thickness_mm * scale }
    }

    /// Upper and lower edge at a place along the piece (0–1): straight for a slab, rounded ends for a
    /// steak, an arch for a breast.
    fn edges(&self, family: Family, along: f64) -> (f64, f64) {
        let high = self.bottom - self.top;
        match family {
            Family::SkinSlab | Family::CapSlab => (self.top, self.bottom),
            Family::Roast | Family::Rack | Family::Joint => {
                // A superellipse: fuller than an ellipse, as a tied roast is.
                let across = (2.0 * along - 1.0).abs();
                let half = high / 2.0 * (1.0 - across.powf(2.6)).max(0.0).powf(1.0 / 2.6).max(0.16);
                let mid = f64::midpoint(self.top, self.bottom);
                (mid - half, mid + half)
            }
            Family::FlatBird => {
                let arch = (std::f64::consts::PI * along).sin().max(0.0).powf(0.35);
                (self.bottom - high * (0.25 + 0.75 * arch), self.bottom)
            }
            Family::Steak => {
                let end = (along.min(1.0 - along) / 0.07).min(1.0);
                let shrink = (1.0 - (1.0 - end).powi(2)).max(0.0).sqrt();
                let cut = high / 2.0 * (1.0 - shrink) * 0.8;
                (self.top + cut, self.bottom - cut)
            }
            Family::Bird | Family::Crown => {
                let arch = (std::f64::consts::PI * along).sin().max(0.0).powf(0.6);
                (self.bottom - high * (0.3 + 0.7 * arch), self.bottom)
            }
        }
    }

    /// A point: `along` 0–1, `depth_mm` of `thickness_mm` from the top, both at true proportion.
    fn point(&self, slice: &Slice, along: f64, depth_mm: f64) -> (f64, f64) {
        let (top, bottom) = self.edges(slice.family, along);
        (self.left + along * (self.right - self.left), top + depth_mm / slice.thickness_mm * (bottom - top))
    }
}

const STEPS: usize = 60;

/// Sine and cosine, at each step along the piece, of the two waves by which borders sway: taken once for all pictures.
static WAVES: LazyLock<[[(f64, f64); 2]; STEPS + 1]> =
    LazyLock::new(|| std::array::from_fn(|i| [19.0, 41.0].map(|waves| (waves * i as f64 / STEPS as f64).sin_cos())));

/// The border of a layer from left to right: slightly wavy inside the piece, its own edge outside.
fn border(frame: &Frame, slice: &Slice, depth: f64) -> Vec<(f64, f64)> {
    let along = |i: usize| i as f64 / STEPS as f64;
    if depth <= 0.01 || depth >= slice.thickness_mm - 0.01 {
        // The edge of a slab is one straight line.
        let step = if matches!(slice.family, Family::SkinSlab | Family::CapSlab) { STEPS } else { 1 };
        return (0..=STEPS).step_by(step).map(|i| frame.point(slice, along(i), depth)).collect();
    }
    // sin(x + d) = sin x · cos d + cos x · sin d, and the same for twice the shift.
    let [(s1, c1), (s2, c2)] = [depth.sin_cos(), (2.0 * depth).sin_cos()];
    let sway = |[long, short]: [(f64, f64); 2]| (long.0 * c1 + long.1 * s1) * 0.5 + (short.0 * c2 + short.1 * s2) * 0.3;
    WAVES.iter().enumerate().map(|(i, waves)| frame.point(slice, along(i), depth + 0.9 * sway(*waves))).collect()
}

/// A layer between two depths.
fn layer(frame: &Frame, slice: &Slice, from: f64, to: f64, fill: &str, id: &str) -> String {
    let mut path = Path::of(2 * STEPS + 2);
    path.lines(border(frame, slice, from));
    path.lines(border(frame, slice, to).into_iter().rev());
    format!(r#"<path class="{id}" d="{path}Z" fill="{fill}"/>"#)
}

/// Skin pales as it dries: from wet to dry straw.
fn skin_colour(dryness: f64) -> String {
    let mix = |wet: f64, dry: f64| (wet + (dry - wet) * dryness.clamp(0.0, 1.0)).round() as u8;
    format!("#{:02x}{:02x}{:02x}", mix(184.0, 228.0), mix(118.0, 189.0), mix(74.0, 134.0))
}

const FAT: &str = "#f3e3c3";
const LEAN: &str = "#b9635a";
const LEAN_DARK: &str = "#a4524b";

impl Slice {
    /// Whether it is drawn on less than half the width, names and all, so that numbers can stand beside it.
    pub fn leaves_room(&self) -> bool {
        let frame = Frame::of(self, Width::Wide);
        // Skin says how dry it is.
        let names = if self.skin_mm > 0.0 { 160.0 } else { 120.0 };
        frame.right < 450.0 && names_from(&frame, self) + names < NUMBERS_FROM
    }
}

/// Where the names of its layers begin, right of it; a rack's bones stick out.
fn names_from(frame: &Frame, slice: &Slice) -> f64 {
    let bones = if slice.family == Family::Rack { 0.34 * (frame.right - frame.left) } else { 0.0 };
    frame.right + bones + 14.0
}

/// Where the numbers beside a narrow slice begin, as the style sheet has their columns (1.9 : 1 of 900).
const NUMBERS_FROM: f64 = 590.0;

/// Draws the slice.
pub fn draw_slice(slice: &Slice, width: Width) -> String {
    let frame = Frame::of(slice, width);
    let (canvas_w, canvas_h) = match width {
        Width::Wide => (900.0, frame.bottom + 44.0),
        Width::Narrow => (358.0, frame.bottom + 44.0),
    };
    let name = if width == Width::Wide { "slice-wide" } else { "slice-narrow" };
    let mut svg = String::with_capacity(64 * 1024);
    let _ = write!(
        svg,
        r#"<svg id="{name}" class="slice {name}" viewBox="0 0 {} {}" role="img" aria-label="{}" data-top="{:.6}" data-scale="{:.6}" data-thickness="{:.6}">"#,
        n(canvas_w),
        n(canvas_h),
        describe(slice),
        frame.top,
        frame.scale,
        slice.thickness_mm
    );
    svg += &body(&frame, slice);
    svg += &grains(&frame, slice, width);
    svg += &skin_and_stop(&frame, slice, width);
    svg += &measures(&frame, slice, width);
    svg.push_str("</svg>");
    svg
}

fn describe(slice: &Slice) -> String {
    let dry = slice.dryness.map_or_else(String::new, |d| format!(", skin {:.0} % dry", d * 100.0));
    format!(
        "Cross-section, {:.0} mm thick: salted to {:.0} mm{dry}. Rim {:.0}, middle {:.0}, whole slice {:.0} grams per kilogram.",
        slice.thickness_mm,
        slice.salted_mm,
        slice.profile.rim_of_saltier_side(),
        slice.profile.middle().0,
        slice.profile.slice().0
    )
}

fn body(frame: &Frame, slice: &Slice) -> String {
    let mut svg = layer(frame, slice, slice.skin_mm, slice.thickness_mm, LEAN, "lean");
    match slice.family {
        Family::SkinSlab => {
            let lean = slice.thickness_mm - slice.skin_mm - slice.fat_mm;
            for (at, thick) in [(0.34, 0.07), (0.62, 0.05)] {
                let from = slice.skin_mm + slice.fat_mm + lean * at;
                svg += &layer(frame, slice, from, from + lean * thick, "#e3bfa0", "seam");
            }
            svg += &layer(frame, slice, slice.thickness_mm - lean * 0.16, slice.thickness_mm, LEAN_DARK, "lean");
        }
        Family::Bird | Family::Crown | Family::FlatBird => svg += &bones(frame),
        Family::Steak | Family::CapSlab | Family::Roast => svg += &marbling(frame, slice),
        Family::Rack => {
            svg += &marbling(frame, slice);
            svg += &rib(frame);
        }
        Family::Joint => {
            svg += &marbling(frame, slice);
            svg += &shaft(frame, slice);
        }
    }
    if slice.skin_mm > 0.0 || (slice.family != Family::Steak && slice.fat_mm > 0.2) {
        svg += &layer(frame, slice, slice.skin_mm, slice.skin_mm + slice.fat_mm, FAT, "fat");
    }
    if slice.family == Family::Roast {
        svg += &string(frame, slice);
    }
    svg
}

/// Every grain stands for the same salt; the ones that have gone in lie where core says, the rest wait outside. A phone's picture
/// has two fifths of the room, and as many of the grains.
fn grains(frame: &Frame, slice: &Slice, width: Width) -> String {
    let (inside, waiting) = slice.column_load();
    let room = if width == Width::Wide { 1.0 } else { 0.4 };
    let all = ((inside + waiting) * 260.0).clamp(0.0, 1500.0) * room;
    if all < 1.0 {
        return String::new();
    }
    let gone_in = (all * inside / (inside + waiting)).round() as usize;
    // A piece whose column leaves the skin out (loosened breast) starts its depths below skin and fat.
    let offset = (slice.thickness_mm - slice.profile.thickness_mm()).max(0.0);
    let mut path = Path::of(gone_in);
    for (i, depth) in slice.profile.grain_depths(gone_in).into_iter().enumerate() {
        let (i, across) = (i as u64, i as f64 * 0.618_033_988_75);
        let along = (across.fract() + (scatter(i) - 0.5) * 0.05).clamp(0.012, 0.988);
        path.dot(frame.point(slice, along, offset + depth));
    }
    let mut svg =
        format!(r##"<path class="grains" data-count="{gone_in}" d="{path}" stroke="#fffdf7" stroke-width="1.9" stroke-linecap="round"/>"##);
    let mut outside = Path::default();
    for (side, load) in [(0, slice.waiting.0), (1, slice.waiting.1)] {
        let count = (all * load / (inside + waiting)).round() as u64;
        for i in 0..count {
            let along = (i as f64 * 0.618_033_988_75 + 0.31).fract().clamp(0.01, 0.99);
            let (x, y) = frame.point(slice, along, if side == 0 { 0.0 } else { slice.thickness_mm });
            let off = 2.0 + 5.0 * scatter(i * 7 + side);
            outside.dot((x, if side == 0 { y - off } else { y + off }));
        }
    }
    if !outside.is_empty() {
        let _ = write!(svg, r#"<path class="waiting" d="{outside}" stroke="currentColor" stroke-width="1.8" stroke-linecap="round"/>"#);
    }
    svg
}

/// Where along the piece the tool is drawn.
fn stop_at(family: Family) -> f64 {
    match family {
        Family::SkinSlab | Family::CapSlab => 0.12,
        _ => 0.5,
    }
}

fn skin_and_stop(frame: &Frame, slice: &Slice, width: Width) -> String {
    let mut svg = String::new();
    if slice.skin_mm > 0.0 {
        svg += &layer(frame, slice, 0.0, slice.skin_mm, &skin_colour(slice.dryness.unwrap_or(0.0)), "skin");
    }
    if let Some(spacing) = slice.holes_mm {
        let mut path = Path::default();
        let count = (slice.length_mm / spacing).floor() as usize;
        let stop = slice.stop_mm.unwrap_or(slice.skin_mm);
        let deep = if slice.scored { stop } else { stop.min(slice.skin_mm + 2.0) };
        for i in 0..count {
            let along = (i as f64 + 0.5) * spacing / slice.length_mm;
            let (x, y) = frame.point(slice, along, 0.0);
            path.to((x, y - 1.0));
            path.upright(frame.point(slice, along, deep).1);
        }
        let _ = write!(svg, r##"<path class="holes" d="{path}" stroke="#3a2a1c" stroke-width="1" fill="none"/>"##);
    }
    if let Some((deep, spacing)) = slice.grooves_mm.filter(|(_, spacing)| *spacing > 0.0) {
        let mut path = Path::default();
        for i in 0..(slice.length_mm / spacing).floor() as usize {
            let along = (i as f64 + 0.5) * spacing / slice.length_mm;
            path.to(frame.point(slice, along, slice.thickness_mm));
            path.upright(frame.point(slice, along, slice.thickness_mm - deep).1);
        }
        let _ = write!(svg, r##"<path class="grooves" d="{path}" stroke="#2d0f0c" stroke-width="2" fill="none"/>"##);
    }
    if let Some(stop) = slice.stop_mm {
        let (x, top) = frame.point(slice, stop_at(slice.family), 0.0);
        let (_, y) = frame.point(slice, stop_at(slice.family), stop);
        let _ = write!(
            svg,
            r#"<path class="tool" d="M{l} {h}H{r}M{x} {h}V{y}" fill="none" stroke="currentColor" stroke-width="2"/><path class="stop" d="M{a} {y}H{b}" stroke-width="2.5"/>"#,
            l = n(x - 7.0),
            r = n(x + 7.0),
            h = n(top.min(frame.top) - 36.0),
            x = n(x),
            y = n(y),
            a = n(x - 24.0),
            b = n(x + 24.0),
        );
        let label = if width == Width::Wide { "pick or blade stops at" } else { "stops at" };
        let _ = write!(
            svg,
            r#"<text x="{}" y="{}" class="label">{label} <tspan class="strong">{} mm</tspan></text>"#,
            n(x + 16.0),
            n(top.min(frame.top) - 24.0),
            crate::words::trim(stop, 1)
        );
    }
    svg
}

/// Ruler, thickness, and on a laptop the words beside the layers.
fn measures(frame: &Frame, slice: &Slice, width: Width) -> String {
    let mut svg = String::new();
    let below = frame.bottom + if matches!(slice.family, Family::Bird | Family::Crown | Family::FlatBird) { 18.0 } else { 12.0 };
    // A mark a centimetre or half an inch, a number at every second, fifth or fourth.
    let (mark, numbered, unit) = match (slice.system, slice.length_mm > 150.0) {
        (Some(System::Customary), true) => (12.7, 4, 25.4),
        (Some(System::Customary), false) => (12.7, 2, 25.4),
        (_, true) => (10.0, 5, 1.0),
        (_, false) => (10.0, 2, 1.0),
    };
    let mut ticks = String::new();
    for i in 0..=((slice.length_mm + 0.1) / mark).floor().max(0.0) as u32 {
        let mm = f64::from(i) * mark;
        let x = frame.left + mm * frame.scale;
        let long = i % numbered == 0;
        let _ = write!(ticks, "M{} {}v{}", n(x), n(below), if long { 7 } else { 3 });
        if long {
            // On a phone the piece ends near the edge: a number there ends with it.
            let at_the_edge = width == Width::Narrow && x > frame.left + slice.length_mm * frame.scale - 8.0;
            let anchor = if at_the_edge { "end" } else { "middle" };
            let (y, number) = (n(below + 19.0), mm / unit);
            let _ = write!(svg, r#"<text x="{}" y="{y}" class="tick" text-anchor="{anchor}">{number:.0}</text>"#, n(x));
        }
    }
    let _ = write!(svg, r#"<path class="ruler" d="{ticks}" fill="none"/>"#);
    if width == Width::Narrow {
        return svg;
    }
    let (x, mid) = (frame.left - 16.0, f64::midpoint(frame.top, frame.bottom));
    let _ = write!(
        svg,
        r#"<path class="ruler" d="M{a} {t}h10M{x} {t}V{b}M{a} {b}h10" fill="none"/><text class="tick" transform="translate({} {}) rotate(-90)" text-anchor="middle">{} mm</text>"#,
        n(x - 8.0),
        n(mid),
        crate::words::trim(slice.thickness_mm, 1),
        a = n(x - 5.0),
        x = n(x),
        t = n(frame.top),
        b = n(frame.bottom),
    );
    let label_x = names_from(frame, slice);
    let mut next_free = f64::NEG_INFINITY;
    let mut label = |y: f64, words: &str, strong: &str| {
        let y = y.max(next_free);
        next_free = y + 22.0;
        let _ = write!(
            svg,
            r#"<text x="{}" y="{}" class="label">{}<tspan class="strong">{}</tspan></text>"#,
            n(label_x),
            n(y),
            text(words),
            text(strong)
        );
    };
    if slice.skin_mm > 0.0 {
        let dry = slice.dryness.map_or_else(String::new, |d| format!("{:.0} % dry", d * 100.0));
        label(frame.top + 10.0, &format!("skin {} mm · ", crate::words::trim(slice.skin_mm, 1)), &dry);
        label(frame.top + slice.skin_mm * frame.scale + 14.0, &format!("fat {} mm", crate::words::trim(slice.fat_mm, 1)), "");
    } else if slice.family != Family::Steak && slice.fat_mm > 0.2 {
        label(frame.top + 12.0, &format!("fat cap {} mm", crate::words::trim(slice.fat_mm, 1)), "");
    }
    let (from_top, to_bottom) = (frame.top + slice.salted_mm * frame.scale, frame.bottom - slice.salted_mm * frame.scale);
    let through = slice.salted_mm >= slice.thickness_mm - 0.1;
    match slice.family {
        _ if through => {
            label(mid - 6.0, "salted", "");
            label(mid + 16.0, "", "right through");
        }
        Family::SkinSlab | Family::CapSlab => label(to_bottom + 5.0, "salted to ", &format!("{:.0} mm", slice.salted_mm)),
        // On two lines: the mouthfuls stand beside it.
        Family::Steak => {
            label(from_top + 5.0, "salted to", "");
            label(from_top + 24.0, "", &format!("{:.0} mm each side", slice.salted_mm));
        }
        _ => label(mid + 5.0, "salted to ", &format!("{:.0} mm", slice.salted_mm)),
    }
    let line = |y: f64| format!(r#"<path class="depth" d="M{} {}H{}" fill="none"/>"#, n(frame.left - 8.0), n(y), n(frame.right + 8.0));
    if !through && slice.salted_mm > 0.1 {
        match slice.family {
            Family::SkinSlab | Family::CapSlab => svg += &line(to_bottom),
            Family::Steak => {
                svg += &line(from_top);
                svg += &line(to_bottom);
            }
            _ => {}
        }
    }
    svg
}

#[cfg(test)]
mod tests;
