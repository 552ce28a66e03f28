//! The hours band: two schools of hours on one line with the nights, the storage limit, and the hour chosen.

use super::labels::Labels;
use super::{Width, n, text};
use crate::words::instant;
use jiff::tz::TimeZone;
use jiff::{SignedDuration, Timestamp};
use rauchkeller_contract::FridgeDoc;
use std::fmt::Write;

/// One school's hours.
#[derive(Debug, Clone)]
pub struct School {
    /// `house table`, `model, seasoned 12 mm deep`.
    pub name: String,
    /// Shortest, ideal, longest; `None` where it never comes.
    pub marks: [Option<f64>; 3],
    /// Whether the clock takes these.
    pub taken: bool,
}

/// What the band shows.
#[derive(Debug, Clone)]
pub struct Band {
    /// Salted, or into the cold.
    pub from: Timestamp,
    /// Hours on the whole line.
    pub span_h: f64,
    /// The schools, top to bottom.
    pub schools: Vec<School>,
    /// Planned, or dragged to.
    pub planned_h: f64,
    /// What fits before the meal.
    pub fits_h: f64,
    /// Amber and red storage limit.
    pub keeps_h: Option<(f64, f64)>,
    /// How much of it is past already.
    pub now_h: Option<f64>,
    /// Zone for the nights.
    pub zone: TimeZone,
}

impl Band {
    /// Of a plan's rest: house and model, and the limit of storage.
    pub fn of(fridge: &FridgeDoc, zone: &TimeZone) -> Self {
        let from = instant(&fridge.from);
        let since = |at: &String| (instant(at).duration_since(from).as_secs_f64() / 3600.0).max(0.0);
        let schools = schools(fridge);
        Self {
            from,
            span_h: span_of(&schools, fridge.planned_h),
            schools,
            planned_h: fridge.planned_h,
            fits_h: fridge.fits_h,
            keeps_h: fridge.keeps_amber.as_ref().zip(fridge.keeps_red.as_ref()).map(|(amber, red)| (since(amber), since(red))),
            now_h: None,
            zone: zone.clone(),
        }
    }
}

/// The schools of a plan. One stored before there were two shows its own alone.
fn schools(fridge: &FridgeDoc) -> Vec<School> {
    let by_model = fridge.hours_from == "model";
    let (shortest, ideal, longest) = fridge.house_h.unwrap_or((fridge.shortest_h, fridge.ideal_h, fridge.longest_h));
    let house = School { name: "usual hours".into(), marks: [Some(shortest), Some(ideal), Some(longest)], taken: !by_model };
    let model = fridge.model.as_ref().map(|model| School {
        name: format!("computed: {}", model.goal),
        marks: [model.shortest_h, model.ideal_h, model.longest_h],
        taken: by_model,
    });
    std::iter::once(house).chain(model).collect()
}

/// Height of one school's row, px.
const ROW: f64 = 40.0;
/// Where the rows begin.
const TOP: f64 = 18.0;

/// How many hours a band should show for these schools: a fifth beyond the longest, at most a week.
pub fn span_of(schools: &[School], planned_h: f64) -> f64 {
    let most = schools.iter().flat_map(|s| s.marks).flatten().fold(0.0, f64::max);
    (most * 1.2).clamp(planned_h * 1.05, 168.0_f64.max(planned_h * 1.05))
}

/// Draws the band; the slider lies over it.
pub fn draw_band(band: &Band, width: Width) -> String {
    let (wide, class) = match width {
        Width::Wide => (1200.0, "band-wide"),
        Width::Narrow => (358.0, "band-narrow"),
    };
    let x = |h: f64| (h / band.span_h * wide).clamp(0.0, wide);
    let high = ROW * band.schools.len() as f64;
    let bottom = TOP + high;
    let all = bottom + 20.0;
    let mut svg = format!(
        r#"<svg class="band {class}" viewBox="0 0 {wide} {}" aria-hidden="true"><rect class="band-ground" x="0" y="{TOP}" width="{wide}" height="{}"/>"#,
        n(all),
        n(high)
    );
    nights(&mut svg, band, &x, high);
    if let Some((amber, red)) = band.keeps_h {
        for (class, from, to) in [("band-amber", amber, red), ("band-red", red, band.span_h)] {
            if x(to) > x(from) {
                let _ = write!(
                    svg,
                    r#"<rect class="{class}" x="{}" y="{TOP}" width="{}" height="{}"/>"#,
                    n(x(from)),
                    n(x(to) - x(from)),
                    n(high)
                );
            }
        }
    }
    let at = x(band.planned_h);
    let _ = write!(svg, r#"<path class="band-planned" d="M{} {}V{}"/>"#, n(at), n(TOP - 4.0), n(bottom + 4.0));
    for (i, school) in band.schools.iter().enumerate() {
        row(&mut svg, school, TOP + ROW * i as f64, wide, &x, width);
    }
    if let Some(now) = band.now_h.filter(|h| (0.0..=band.span_h).contains(h)) {
        let _ = write!(svg, r#"<path class="band-now" d="M{} {}V{}"/>"#, n(x(now)), n(TOP), n(bottom));
        let anchor = anchor(x(now), wide, 40.0);
        let _ = write!(svg, r#"<text class="label" x="{}" y="{}" text-anchor="{anchor}">now</text>"#, n(x(now)), n(bottom + 15.0));
    }
    limits(&mut svg, band, wide, &x, bottom);
    if width == Width::Wide && band.now_h.is_none() {
        let _ = write!(
            svg,
            r#"<text class="label" x="0" y="{}">salted {}</text>"#,
            n(bottom + 15.0),
            band.from.to_zoned_datetime(band.zone.clone()).strftime("%a %H:%M")
        );
    }
    svg.push_str("</svg>");
    svg
}

fn anchor(at: f64, wide: f64, room: f64) -> &'static str {
    if at > wide - room {
        "end"
    } else if at < room {
        "start"
    } else {
        "middle"
    }
}

/// Nights, sampled by the quarter hour in wall time.
fn nights(svg: &mut String, band: &Band, x: &impl Fn(f64) -> f64, high: f64) {
    let mut h = 0.0;
    let mut since: Option<f64> = None;
    while h <= band.span_h + 0.25 {
        let wall = (band.from + SignedDuration::from_secs((h * 3600.0) as i64)).to_zoned_datetime(band.zone.clone());
        let night = h <= band.span_h && (wall.hour() >= 22 || wall.hour() < 6);
        match (night, since) {
            (true, None) => since = Some(h),
            (false, Some(from)) => {
                let _ =
                    write!(svg, r#"<rect class="night" x="{}" y="{TOP}" width="{}" height="{}"/>"#, n(x(from)), n(x(h) - x(from)), n(high));
                since = None;
            }
            _ => {}
        }
        h += 0.25;
    }
}

/// One school: a bar from its shortest to its longest, darker from its ideal back, a mark and a number at each.
fn row(svg: &mut String, school: &School, y: f64, wide: f64, x: &impl Fn(f64) -> f64, width: Width) {
    let class = if school.taken { "band-school taken" } else { "band-school" };
    let _ = write!(svg, r#"<g class="{class}">"#);
    let [shortest, ideal, longest] = school.marks;
    let bar = y + ROW - 16.0;
    let _ = write!(svg, r#"<text class="label band-name" x="4" y="{}">{}</text>"#, n(y + 15.0), text(&school.name));
    if let Some(from) = shortest {
        let to = longest.map_or(wide, x);
        let _ = write!(
            svg,
            r#"<rect class="band-more" x="{}" y="{}" width="{}" height="10"/>"#,
            n(x(from)),
            n(bar),
            n((to - x(from)).max(0.0))
        );
        if let Some(ideal) = ideal {
            let _ = write!(
                svg,
                r#"<rect class="band-done" x="{}" y="{}" width="{}" height="10"/>"#,
                n(x(from)),
                n(bar),
                n((x(ideal) - x(from)).max(0.0))
            );
        }
    }
    // Marks closer than a number is wide share their place: the ideal's number stays.
    let mut last = f64::NEG_INFINITY;
    let name_ends = 4.0 + school.name.chars().count() as f64 * 6.7;
    for (name, mark) in [("shortest", shortest), ("ideal", ideal), ("longest useful", longest)] {
        let Some(h) = mark else { continue };
        let at = x(h);
        let _ = write!(svg, r#"<path class="band-mark" d="M{} {}V{}"/>"#, n(at), n(bar - 4.0), n(bar + 13.0));
        let words = if width == Width::Wide { format!("{name} {h:.0} h") } else { format!("{h:.0} h") };
        let room = words.chars().count() as f64 * 6.6;
        let anchor = anchor(at, wide, room / 2.0 + 4.0);
        let left = match anchor {
            "end" => at - room,
            "start" => at,
            _ => at - room / 2.0,
        };
        if left > last + 6.0 && left > name_ends {
            let _ = write!(
                svg,
                r#"<text class="label band-hour" x="{}" y="{}" text-anchor="{anchor}">{}</text>"#,
                n(at),
                n(y + 15.0),
                text(&words)
            );
            last = left + room;
        }
    }
    svg.push_str("</g>");
}

fn limits(svg: &mut String, band: &Band, wide: f64, x: &impl Fn(f64) -> f64, bottom: f64) {
    let mut labels = Labels::new(wide);
    let mut said = |h: f64, words: &str| {
        if h < band.span_h {
            let at = x(h);
            let _ = write!(svg, r#"<path class="band-end" d="M{} {}V{}"/>"#, n(at), n(TOP - 4.0), n(bottom + 3.0));
            labels.put(svg, "label band-limit", words, &["middle", "end", "start"].map(|anchor| (at, 11.0, anchor)));
        }
    };
    // Both limits at one place say the harder one.
    match band.keeps_h {
        Some((_, red)) if (red - band.fits_h).abs() / band.span_h < 0.14 => {
            said(red.min(band.fits_h), if red < band.fits_h { "keeps no longer" } else { "no more fits" });
        }
        Some((_, red)) => {
            said(red, "keeps no longer");
            said(band.fits_h, "no more fits");
        }
        None => said(band.fits_h, "no more fits"),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn band(planned_h: f64, fits_h: f64) -> Band {
        let school = |name: &str, marks, taken| School { name: name.into(), marks, taken };
        Band {
            from: "2026-12-11T15:00:00Z".parse().unwrap(),
            span_h: 60.0,
            schools: vec![
                school("house table", [Some(12.0), Some(24.0), Some(48.0)], true),
                school("model, seasoned 12 mm deep", [Some(15.0), Some(30.0), None], false),
            ],
            planned_h,
            fits_h,
            keeps_h: None,
            now_h: None,
            zone: TimeZone::get("Europe/Vienna").unwrap(),
        }
    }

    #[test]
    fn marks_of_both_schools_stand_at_their_share_of_one_line() {
        // By hand: 12, 24 and 48 of 60 h on 1200 px are 240, 480 and 960; 15 and 30 are 300 and 600.
        let svg = draw_band(&band(24.0, 100.0), Width::Wide);
        for x in ["M240 ", "M480 ", "M960 ", "M300 ", "M600 "] {
            assert!(svg.contains(&format!(r#"<path class="band-mark" d="{x}"#)), "{x} not in {svg}");
        }
        // The house bar runs from 240 to 960; a model that never ends runs to the edge.
        assert!(
            svg.contains(r#"class="band-more" x="240" y="42" width="720""#)
                && svg.contains(r#"class="band-more" x="300" y="82" width="900""#)
        );
        assert!(svg.contains("house table") && svg.contains("model, seasoned 12 mm deep") && !svg.contains("no more fits"));
        assert!(svg.contains(r#"<path class="band-planned" d="M480 "#));
    }

    #[test]
    fn nights_are_shaded_in_wall_time() {
        // From 16:00 in Vienna: 22:00 is 6 h on, 06:00 is 14 h on: 120 to 280 px, and the next nights a day later each.
        let svg = draw_band(&band(24.0, 100.0), Width::Wide);
        let nights: Vec<(f64, f64)> = svg
            .split(r#"<rect class="night" x=""#)
            .skip(1)
            .map(|rest| {
                let numbers: Vec<f64> = rest.split('"').filter_map(|s| s.parse().ok()).take(3).collect();
                (numbers[0], numbers[2])
            })
            .collect();
        assert_eq!(nights.iter().map(|(x, _)| *x).collect::<Vec<_>>(), [120.0, 600.0, 1080.0]);
        assert!((nights[0].1 - 160.0).abs() < 0.1, "{nights:?}");
    }

    #[test]
    fn what_does_not_fit_or_keep_is_marked_on_both_screens() {
        for width in [Width::Wide, Width::Narrow] {
            assert!(draw_band(&band(24.0, 30.0), width).contains("no more fits"));
            let keeps = Band { keeps_h: Some((36.0, 48.0)), ..band(24.0, 100.0) };
            let svg = draw_band(&keeps, width);
            assert!(svg.contains("keeps no longer") && svg.contains(r#"class="band-amber""#) && svg.contains(r#"class="band-red""#));
        }
    }

    #[test]
    fn a_band_shows_a_fifth_beyond_the_longest_and_never_more_than_a_week() {
        // By hand: 1.2 × 48.
        assert!((span_of(&band(24.0, 30.0).schools, 24.0) - 57.6).abs() < 1e-9);
        let long = School { name: String::new(), marks: [None, None, Some(160.0)], taken: false };
        assert!((span_of(&[long], 24.0) - 168.0).abs() < 1e-9);
    }
}
