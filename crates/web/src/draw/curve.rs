//! The drying curve: what the piece loses hour by hour, as planned, as expected now with its band, and as weighed.

use super::{Width, n, text};
use jiff::tz::TimeZone;
use jiff::{SignedDuration, Timestamp};
use std::fmt::Write;

/// What the curve shows; hours count from the salting.
#[derive(Debug, Clone)]
pub struct DryingCurve {
    /// The salting.
    pub from: Timestamp,
    /// Where the line ends, h.
    pub until_h: f64,
    /// Hours, and grams lost: expected now, low, high, as planned.
    pub points: Vec<(f64, [f64; 4])>,
    /// Weighings: hours, grams lost, and whether they are still asked about.
    pub weighed: Vec<(f64, f64, bool)>,
    /// Touch checks: hours and the word.
    pub felt: Vec<(f64, String)>,
    /// From when on the skin will feel so; empty without skin.
    pub touches: Vec<(&'static str, Option<f64>)>,
    /// Dry enough.
    pub dry_h: Option<f64>,
    /// Out of the cold.
    pub out_h: f64,
    /// Now.
    pub now_h: f64,
    /// The hour looked at.
    pub shown_h: f64,
    /// Whether weighings have taught the refrigerator anything: else there is only one forecast.
    pub learned: bool,
    /// Zone of the wall times.
    pub zone: TimeZone,
}

/// Where things are, px.
struct Frame {
    wide: f64,
    top: f64,
    bottom: f64,
    span: f64,
    most: f64,
}

impl Frame {
    fn x(&self, h: f64) -> f64 {
        (h / self.span * self.wide).clamp(0.0, self.wide)
    }

    /// A lighter piece hangs lower.
    fn y(&self, g: f64) -> f64 {
        self.top + (g / self.most * (self.bottom - self.top)).clamp(-12.0, self.bottom - self.top)
    }
}

/// Draws it.
pub fn draw_curve(curve: &DryingCurve, width: Width) -> String {
    let (wide, high, class) = match width {
        Width::Wide => (1200.0, 250.0, "curve-wide"),
        Width::Narrow => (358.0, 230.0, "curve-narrow"),
    };
    let most = curve.points.iter().flat_map(|(_, g)| *g).chain(curve.weighed.iter().map(|(_, g, _)| *g)).fold(4.0, f64::max) * 1.06;
    let frame = Frame { wide, top: 40.0, bottom: high - 24.0, span: curve.until_h.max(1.0), most };
    let mut svg = format!(r#"<svg class="curve {class}" viewBox="0 0 {wide} {high}" role="img" aria-label="{}">"#, text(&said(curve)));
    ground(&mut svg, curve, &frame, width);
    touch_strip(&mut svg, curve, &frame);
    lines(&mut svg, curve, &frame, width);
    marks(&mut svg, curve, &frame, width);
    svg.push_str("</svg>");
    svg
}

/// The picture in words.
fn said(curve: &DryingCurve) -> String {
    let last = curve.points.last().map_or(0.0, |(_, g)| g[0]);
    let mut words = format!("Drying curve: {last:.0} g lost after {:.0} h", curve.until_h);
    if let Some(dry) = curve.dry_h {
        let _ = write!(words, ", skin dry enough after {dry:.0} h");
    }
    let _ = write!(words, ", weighed {} times", curve.weighed.len());
    words
}

/// Nights, wall times and lines of equal loss.
fn ground(svg: &mut String, curve: &DryingCurve, frame: &Frame, width: Width) {
    let Frame { wide, top, bottom, .. } = *frame;
    let _ = write!(svg, r#"<rect class="band-ground" x="0" y="{}" width="{wide}" height="{}"/>"#, n(top), n(bottom - top));
    let wall = |h: f64| (curve.from + SignedDuration::from_secs((h * 3600.0) as i64)).to_zoned_datetime(curve.zone.clone());
    let start = wall(0.0);
    let to_hour = (3600.0 - f64::from(i32::from(start.minute()) * 60 + i32::from(start.second()))) / 3600.0;
    // On a phone only every twelfth hour has room for its number.
    let each = if width == Width::Wide { 6 } else { 12 };
    let mut h = to_hour;
    let mut night_since = ((start.hour() >= 22) || (start.hour() < 6)).then_some(0.0);
    while h <= frame.span {
        let here = wall(h + 1e-4);
        match here.hour() {
            22 => night_since = Some(h),
            6 => {
                night(svg, frame, night_since.take(), h);
            }
            _ => {}
        }
        if here.hour() % each == 0 {
            let x = frame.x(h);
            let _ = write!(svg, r#"<path class="grid" d="M{} {}V{}"/>"#, n(x), n(top), n(bottom));
            let words = if here.hour() == 0 { here.strftime("%a").to_string() } else { here.strftime("%H").to_string() };
            if x > 14.0 && x < wide - 14.0 {
                let _ = write!(svg, r#"<text class="label" x="{}" y="{}" text-anchor="middle">{words}</text>"#, n(x), n(bottom + 17.0));
            }
        }
        h += 1.0;
    }
    night(svg, frame, night_since, frame.span);
    let step = [5.0, 10.0, 20.0, 50.0, 100.0, 200.0, 500.0].into_iter().find(|s| frame.most / s <= 4.5).unwrap_or(1000.0);
    let mut g = step;
    while g < frame.most {
        let y = frame.y(g);
        let _ = write!(svg, r#"<path class="grid" d="M0 {}H{wide}"/><text class="label" x="4" y="{}">−{g:.0} g</text>"#, n(y), n(y - 4.0));
        g += step;
    }
}

fn night(svg: &mut String, frame: &Frame, from: Option<f64>, to: f64) {
    let Some(from) = from else { return };
    let (x, w) = (frame.x(from), frame.x(to) - frame.x(from));
    let _ =
        write!(svg, r#"<rect class="night" x="{}" y="{}" width="{}" height="{}"/>"#, n(x), n(frame.top), n(w), n(frame.bottom - frame.top));
}

/// The skin along the top: what a finger will feel, paling as it dries.
fn touch_strip(svg: &mut String, curve: &DryingCurve, frame: &Frame) {
    for (i, (word, from)) in curve.touches.iter().enumerate() {
        let Some(from) = from.filter(|h| *h < frame.span) else { continue };
        let to = curve.touches[i + 1..].iter().find_map(|(_, next)| *next).map_or(frame.span, |next| next.min(frame.span));
        let (x, w) = (frame.x(from), frame.x(to) - frame.x(from));
        let _ = write!(svg, r#"<rect class="touch touch-{i}" x="{}" y="8" width="{}" height="24"/>"#, n(x), n(w));
        if w > word.len() as f64 * 7.0 + 8.0 {
            let _ = write!(svg, r#"<text class="label touch-word" x="{}" y="24" text-anchor="middle">{word}</text>"#, n(x + w / 2.0));
        }
    }
}

fn lines(svg: &mut String, curve: &DryingCurve, frame: &Frame, width: Width) {
    let path = |which: usize| {
        let mut d = String::new();
        for (i, (h, g)) in curve.points.iter().enumerate() {
            let _ = write!(d, "{}{} {}", if i == 0 { "M" } else { "L" }, n(frame.x(*h)), n(frame.y(g[which])));
        }
        d
    };
    let mut around = path(1);
    for (h, g) in curve.points.iter().rev() {
        let _ = write!(around, "L{} {}", n(frame.x(*h)), n(frame.y(g[2])));
    }
    let _ = write!(svg, r#"<path class="fan" d="{around}Z"/>"#);
    if curve.learned {
        let _ = write!(svg, r#"<path class="as-planned" d="{}"/>"#, path(3));
    }
    let _ = write!(svg, r#"<path class="expected" d="{}"/>"#, path(0));
    // Names stand where the two lines are farthest apart, off what marks now and the way out; never on one another.
    let free = |h: &f64| {
        [curve.now_h, curve.out_h, curve.dry_h.unwrap_or(-1.0), curve.shown_h].iter().all(|m| (frame.x(*h) - frame.x(*m)).abs() > 60.0)
    };
    let inside = curve.points.iter().filter(|(h, _)| frame.x(*h) > 70.0 && frame.x(*h) < frame.wide - 60.0 && free(h));
    let apart = |p: &&(f64, [f64; 4])| if curve.learned { (p.1[0] - p.1[3]).abs() } else { p.0 };
    let Some((h, g)) = inside.max_by(|a, b| apart(a).total_cmp(&apart(b))) else { return };
    let (x, now, planned) = (frame.x(*h), frame.y(g[0]), frame.y(g[3]));
    let mut name = |class: &str, y: f64, words: &str| {
        let y = y.clamp(frame.top + 14.0, frame.bottom - 5.0);
        let _ = write!(svg, r#"<text class="label {class}" x="{}" y="{}" text-anchor="middle">{words}</text>"#, n(x), n(y));
    };
    let lower = now >= planned;
    // Under the line there may be no room left, nor where "dry enough" stands: then over both lines.
    let both = curve.learned && width == Width::Wide;
    let over = now.min(planned) - if both { 27.0 } else { 10.0 };
    let under = if now + 20.0 < frame.bottom - 24.0 { now + 20.0 } else { over };
    name("expected-name", if lower { under } else { now - 10.0 }, if curve.learned { "expected now" } else { "expected" });
    if both {
        name("planned-name", if lower { planned - 10.0 } else { planned + 20.0 }, "as planned");
    }
}

fn marks(svg: &mut String, curve: &DryingCurve, frame: &Frame, width: Width) {
    let mut upright = |class: &str, h: f64, words: &str, y: f64| {
        if !(0.0..=frame.span).contains(&h) {
            return;
        }
        let x = frame.x(h);
        let _ = write!(svg, r#"<path class="{class}" d="M{} {}V{}"/>"#, n(x), n(frame.top), n(frame.bottom));
        if !words.is_empty() {
            let room = words.chars().count() as f64 * 7.2;
            let (x, anchor) = if x > frame.wide - room - 8.0 { (x - 5.0, "end") } else { (x + 5.0, "start") };
            let _ = write!(svg, r#"<text class="label {class}-name" x="{}" y="{}" text-anchor="{anchor}">{words}</text>"#, n(x), n(y));
        }
    };
    upright("band-end", curve.out_h, "out", frame.top + 13.0);
    if let Some(dry) = curve.dry_h {
        // Over whatever line is the highest beside it; where there is no room, at the foot.
        let beside = |h: &f64| (0.0..90.0).contains(&(frame.x(*h) - frame.x(dry)));
        let lines = curve.points.iter().filter(|(h, _)| beside(h)).flat_map(|(_, g)| g.map(|g| frame.y(g)));
        let over = lines.fold(frame.bottom, f64::min) - 10.0;
        upright("dry-line", dry, "dry enough", if over > frame.top + 30.0 { over } else { frame.bottom - 8.0 });
    }
    upright("band-planned", curve.shown_h, "", 0.0);
    upright("band-now", curve.now_h, if width == Width::Wide { "now" } else { "" }, frame.top + 13.0);
    for (h, word) in &curve.felt {
        let x = frame.x(*h);
        let _ = write!(
            svg,
            r#"<g class="felt"><path d="M{} 32v-20"/><text class="label" x="{}" y="7" text-anchor="middle">{}</text></g>"#,
            n(x),
            n(x),
            text(word)
        );
    }
    // A weighing is a weight with its knob.
    for (h, g, open) in &curve.weighed {
        let (x, y) = (frame.x(*h), frame.y(*g));
        let class = if *open { "weight asked" } else { "weight" };
        let _ = write!(svg, r#"<path class="{class}" d="M{} {}l4 -9h-2v-4h4v4h-2l4 9z" transform="translate(-4 4)"/>"#, n(x), n(y));
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn curve() -> DryingCurve {
        DryingCurve {
            from: "2026-12-11T15:00:00Z".parse().unwrap(),
            until_h: 40.0,
            points: (0..=20).map(|i| f64::from(i) * 2.0).map(|h| (h, [h * 2.0, h * 1.5, h * 2.5, h])).collect(),
            weighed: vec![(0.5, 1.0, false), (10.0, 21.0, false), (12.0, 90.0, true)],
            felt: vec![(9.0, "tacky".into())],
            touches: vec![("wet", Some(0.0)), ("tacky", Some(8.0)), ("dry", Some(20.0)), ("parchment", None)],
            dry_h: Some(30.0),
            out_h: 36.0,
            now_h: 12.0,
            shown_h: 12.0,
            learned: true,
            zone: TimeZone::get("Europe/Vienna").unwrap(),
        }
    }

    #[test]
    fn lines_and_weights_stand_at_their_hours() {
        let svg = draw_curve(&curve(), Width::Wide);
        // By hand: 10, 30 and 36 of 40 h on 1200 px are 300, 900 and 1080.
        assert!(svg.contains(r#"<path class="dry-line" d="M900 40V226"/>"#) && svg.contains(r#"<path class="band-end" d="M1080 "#));
        assert!(svg.contains(r#"<path class="weight" d="M300 "#));
        assert_eq!((svg.matches(r#"class="weight""#).count(), svg.matches(r#"class="weight asked""#).count()), (2, 1));
        // The skin is tacky from 8 h to 20 h, and dry to the end since parchment never comes.
        assert!(svg.contains(r#"touch-1" x="240" y="8" width="360""#) && svg.contains(r#"touch-2" x="600" y="8" width="600""#));
        assert!(!svg.contains("touch-3"));
    }

    #[test]
    fn a_lighter_piece_hangs_lower_and_before_any_weighing_there_is_one_forecast() {
        let frame = Frame { wide: 100.0, top: 10.0, bottom: 110.0, span: 10.0, most: 50.0 };
        assert!((frame.y(0.0) - 10.0).abs() < 1e-9 && (frame.y(25.0) - 60.0).abs() < 1e-9);
        let fresh = draw_curve(&DryingCurve { learned: false, weighed: vec![], ..curve() }, Width::Narrow);
        assert!(!fresh.contains("as planned") && fresh.contains("expected<") && fresh.contains("weighed 0 times"));
    }
}
