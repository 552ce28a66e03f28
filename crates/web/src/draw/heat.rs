//! The heat as a picture: what surrounds the piece as steps, its surface and its core as lines, and the two finish lines.

use super::{Width, n, text};
use crate::words::{instant, wall};
use jiff::ZonedDateTime;
use rauchkeller_contract::{FireDoc, PlanDoc};
use rauchkeller_core::units::{System, TemperatureIn, fahrenheit};
use std::fmt::Write;

/// Where things are, px.
struct Frame {
    wide: f64,
    top: f64,
    bottom: f64,
    /// Minutes across, and the hottest degree.
    span: f64,
    most: f64,
}

impl Frame {
    fn x(&self, min: f64) -> f64 {
        (min / self.span * self.wide).clamp(0.0, self.wide)
    }

    fn y(&self, c: f64) -> f64 {
        self.bottom - (c / self.most).clamp(0.0, 1.0) * (self.bottom - self.top)
    }
}

/// Draws it; empty for plans of before there was a curve.
pub fn draw_heat(plan: &PlanDoc, now: &ZonedDateTime, width: Width, system: Option<System>) -> String {
    let fire = &plan.fire;
    let (Some(last), Some(target), Some(first)) = (fire.curve.last(), fire.targets.first(), fire.stages.first()) else {
        return String::new();
    };
    let (wide, high, class) = match width {
        Width::Wide => (1200.0, 240.0, "heat-wide"),
        Width::Narrow => (358.0, 230.0, "heat-narrow"),
    };
    let most = fire.curve.iter().map(|p| p[1]).fold(100.0, f64::max) * 1.08;
    let frame = Frame { wide, top: 26.0, bottom: high - 24.0, span: last[0].max(1.0), most };
    let mut svg = format!(r#"<svg class="heat {class}" viewBox="0 0 {wide} {high}" role="img" aria-label="{}">"#, text(&said(fire)));
    let _ =
        write!(svg, r#"<rect class="band-ground" x="0" y="{}" width="{wide}" height="{}"/>"#, n(frame.top), n(frame.bottom - frame.top));
    degrees(&mut svg, &frame, &[target.finish_c, target.authority_c], system);
    stages(&mut svg, fire, &frame, now, width);
    line(&mut svg, fire, &frame, 2, "surface-line");
    line(&mut svg, fire, &frame, 3, "core-line");
    finishes(&mut svg, &frame, (target.finish_c, target.authority_c));
    puffs(&mut svg, fire, &frame);
    besides(&mut svg, plan, &frame);
    let (out, pull) = (fire.stages.iter().map(|s| s.minutes).sum::<f64>(), target.pull_c);
    let (x, y) = (frame.x(out), frame.y(pull));
    // The words are about as wide as that: they end at the dot where they would leave the picture.
    let anchor = if x > wide - 110.0 || x > wide * 0.8 { ("end", x - 9.0) } else { ("start", x + 9.0) };
    let _ = write!(svg, r#"<circle class="pull-dot" cx="{}" cy="{}" r="5"/>"#, n(x), n(y));
    let _ = write!(
        svg,
        r#"<text class="label strong" x="{}" y="{}" text-anchor="{}">out at {pull:.0} °C</text>"#,
        n(anchor.1),
        n(y + 18.0),
        anchor.0
    );
    let _ = write!(svg, r#"<text class="label" x="2" y="{}">{}</text>"#, n(frame.bottom + 17.0), wall(instant(&first.starts_at), now));
    svg.push_str("</svg>");
    svg
}

/// What is done beside the heat, each at its minute: a tick on the ground, its name where there is room.
fn besides(svg: &mut String, plan: &PlanDoc, frame: &Frame) {
    let Some(from) = plan.fire.stages.first().map(|stage| instant(&stage.starts_at)) else { return };
    let mut free = 0.0;
    for step in plan.steps.iter().filter(|s| s.place == "fire" && s.beside.is_some()) {
        let x = frame.x(instant(&step.starts_at).duration_since(from).as_secs_f64() / 60.0);
        let _ = write!(svg, r#"<path class="beside-tick" d="M{} {}v-9"/>"#, n(x), n(frame.bottom));
        let (words, wide) = (step.kind.replace('-', " "), step.kind.len() as f64 * 7.5);
        if x - wide / 2.0 >= free && x + wide / 2.0 <= frame.wide {
            let _ = write!(
                svg,
                r#"<text class="label" x="{}" y="{}" text-anchor="middle">{}</text>"#,
                n(x),
                n(frame.bottom - 12.0),
                text(&words)
            );
            free = x + wide / 2.0 + 6.0;
        }
    }
}

/// The picture in words.
fn said(fire: &FireDoc) -> String {
    let mut words = String::from("The heat:");
    for stage in &fire.stages {
        let _ = write!(words, " {:.0} °C for {:.0} min, core {:.0} °C at its end;", stage.air_c, stage.minutes, stage.core_c);
    }
    if let Some(min) = fire.skin.as_ref().and_then(|skin| skin.puffs_min) {
        let _ = write!(words, " the skin puffs after {min:.0} min;");
    }
    let _ = write!(words, " after the rest {:.0} °C", fire.ends_c);
    words
}

/// The scale, without a number where a finish line has its own.
fn degrees(svg: &mut String, frame: &Frame, taken: &[f64], system: Option<System>) {
    let (own, unit): (fn(f64) -> f64, &str) = match system {
        Some(System::Customary) => (|f| fahrenheit(f).in_c(), "°F"),
        _ => (|c| c, "°C"),
    };
    let step = if unit == "°F" { 100.0 } else { 50.0 } / if frame.most > 160.0 { 1.0 } else { 2.0 };
    let mut degree = step;
    while own(degree) < frame.most {
        let c = own(degree);
        let y = frame.y(c);
        let _ = write!(svg, r#"<path class="grid" d="M0 {}H{}"/>"#, n(y), frame.wide);
        if taken.iter().all(|t| (frame.y(*t) - y).abs() > 16.0) {
            let _ = write!(svg, r#"<text class="label" x="4" y="{}">{degree:.0} {unit}</text>"#, n(y - 4.0));
        }
        degree += step;
    }
}

/// Each stage as a step of what surrounds the piece, with its end on the clock; the rest is the last.
fn stages(svg: &mut String, fire: &FireDoc, frame: &Frame, now: &ZonedDateTime, width: Width) {
    let mut d = format!("M0 {}", n(frame.bottom));
    let mut from = 0.0;
    for stage in &fire.stages {
        let to = from + stage.minutes;
        // What surrounds it, as the curve has it: a liquid is cooler than the air round its pot.
        let curve = || fire.curve.iter().filter(|p| p[0] > from + 1e-6);
        let around = curve().rfind(|p| p[0] <= to + 1e-6).or_else(|| curve().find(|p| p[0] <= to + 0.51)).map_or(stage.air_c, |p| p[1]);
        let (x, y) = (frame.x(from), frame.y(around));
        // What still comes up rises slowly to it.
        let there = stage.comes_up_min.map_or(from, |up| from + up.min(stage.minutes));
        let _ = write!(d, "H{}L{} {}H{}", n(x), n(frame.x(there)), n(y), n(frame.x(to)));
        let wide = frame.x(to) - x;
        let words = format!("{around:.0} °C");
        if wide > words.len() as f64 * 7.0 {
            let _ = write!(
                svg,
                r#"<text class="label strong" x="{}" y="{}" text-anchor="middle">{words}</text>"#,
                n(x + wide / 2.0),
                n(y - 6.0)
            );
        }
        let at = frame.x(to);
        if at > 60.0 && (width == Width::Wide || wide > 70.0) {
            // At the right edge it ends there.
            let (anchor, x) = if at > frame.wide - 40.0 { ("end", frame.wide) } else { ("middle", at) };
            let words = wall(instant(&stage.ends_at), now);
            let _ = write!(svg, r#"<text class="label" x="{}" y="{}" text-anchor="{anchor}">{words}</text>"#, n(x), n(frame.bottom + 17.0));
        }
        from = to;
    }
    let _ = write!(d, "V{}Z", n(frame.bottom));
    svg.insert_str(svg.find("<path").unwrap_or(svg.len()), &format!(r#"<path class="around" d="{d}"/>"#));
    let x = frame.x(from);
    if frame.wide - x > 40.0 {
        let _ = write!(
            svg,
            r#"<text class="label" x="{}" y="{}" text-anchor="middle">rest</text>"#,
            n(f64::midpoint(x, frame.wide)),
            n(frame.top + 14.0)
        );
    }
}

fn line(svg: &mut String, fire: &FireDoc, frame: &Frame, which: usize, class: &str) {
    let mut d = String::new();
    for (i, point) in fire.curve.iter().enumerate() {
        let _ = write!(d, "{}{} {}", if i == 0 { "M" } else { "L" }, n(frame.x(point[0])), n(frame.y(point[which])));
    }
    let _ = write!(svg, r#"<path class="{class}" d="{d}"/>"#);
}

/// The other finish line: when the skin puffs.
fn puffs(svg: &mut String, fire: &FireDoc, frame: &Frame) {
    let Some(min) = fire.skin.as_ref().and_then(|skin| skin.puffs_min) else { return };
    let x = frame.x(min);
    let (anchor, at) = if x > frame.wide / 2.0 { ("end", x - 5.0) } else { ("start", x + 5.0) };
    let _ = write!(svg, r#"<path class="puff-line" d="M{} {}V{}"/>"#, n(x), n(frame.top), n(frame.bottom));
    let _ = write!(
        svg,
        r#"<text class="label" x="{}" y="{}" text-anchor="{anchor}">skin puffs</text>"#,
        n(at),
        n(f64::midpoint(frame.top, frame.bottom))
    );
}

/// The cook's finish and the authority's, beside each other.
fn finishes(svg: &mut String, frame: &Frame, (finish, authority): (f64, f64)) {
    let apart = (frame.y(finish) - frame.y(authority)).abs() > 13.0;
    let mut draw = |c: f64, class: &str, words: &str, above: bool| {
        let y = frame.y(c);
        let _ = write!(svg, r#"<path class="{class}" d="M0 {}H{}"/>"#, n(y), frame.wide);
        let at = if above { y - 4.0 } else { y + 13.0 };
        let _ = write!(svg, r#"<text class="label" x="4" y="{}">{words}</text>"#, n(at));
    };
    draw(authority, "authority-line", &format!("authority {authority:.0} °C"), authority >= finish || apart);
    draw(finish, "finish-line", &format!("finish {finish:.0} °C"), finish > authority);
}

#[cfg(test)]
mod tests {
    use super::*;
    use rauchkeller_contract::plan_from;
    use serde_json::json;

    fn fire(fire: &serde_json::Value) -> PlanDoc {
        let now = "2026-12-12T07:00[Europe/Vienna]".parse().unwrap();
        let request =
            json!({"piece": {"cut": "pork-belly", "weight_g": 1000}, "serve_at": "2026-12-14T19:00[Europe/Vienna]", "fire": fire});
        plan_from(&request, &now).unwrap()
    }

    fn drawn(plan: &PlanDoc) -> String {
        draw_heat(plan, &"2026-12-12T07:00[Europe/Vienna]".parse().unwrap(), Width::Wide, None)
    }

    #[test]
    fn each_stage_stands_in_the_picture_and_in_its_words() {
        let fire = fire(&json!({"stages": [{"air_c": 230, "until": {"minutes": 30}}, {"air_c": 165, "until": {"look": "tender"}}]}));
        let svg = drawn(&fire);
        for says in ["230 °C for 30 min", ">230 °C<", ">165 °C<", "authority 63 °C", ">rest<", "out at"] {
            assert!(svg.contains(says), "{says} in {svg}");
        }
        assert_eq!(svg.matches("class=\"core-line\"").count(), 1);
    }

    #[test]
    fn where_it_comes_out_is_never_written_over_the_edge() {
        // From a phone's 358 across: with a long rest the dot lies at three quarters, and ten signs are wider than what is left.
        let fire = fire(&json!({"stages": [{"air_c": 180, "until": {"core": "finish"}}], "rest_min": 20}));
        let svg = draw_heat(&fire, &"2026-12-12T07:00[Europe/Vienna]".parse().unwrap(), Width::Narrow, None);
        let out = &svg[..svg.find(">out at").unwrap()];
        let x: f64 = out.rsplit("<text").next().unwrap().split("x=\"").nth(1).unwrap().split('"').next().unwrap().parse().unwrap();
        assert!(out.ends_with("text-anchor=\"end\"") || x + 100.0 < 358.0, "{out}");
    }

    #[test]
    fn what_is_done_beside_it_has_its_tick() {
        let now = "2026-12-12T07:00[Europe/Vienna]".parse().unwrap();
        let request = json!({"piece": {"cut": "pork-belly", "weight_g": 1000}, "serve_at": "2026-12-14T19:00[Europe/Vienna]", "tasks": [{"task": "glaze"}]});
        let svg = drawn(&plan_from(&request, &now).unwrap());
        assert!(svg.contains(">glaze<") && svg.matches("beside-tick").count() == 1 && svg.contains(">skin puffs<"), "{svg}");
    }

    #[test]
    fn a_liquid_is_drawn_at_its_own_temperature() {
        let fire = fire(&json!({"stages": [{"air_c": 160, "how": "in-liquid", "until": {"look": "tender"}}]}));
        assert!(drawn(&fire).contains(">96 °C<"), "{}", drawn(&fire));
    }

    #[test]
    fn a_plan_of_before_there_were_curves_draws_nothing() {
        let mut plan = fire(&json!({}));
        plan.fire.curve.clear();
        assert_eq!(drawn(&plan), "");
    }

    #[test]
    fn lines_stay_inside_the_picture() {
        let fire = fire(
            &json!({"with": "pan", "stages": [{"air_c": 220, "until": {"minutes": 8}}, {"air_c": 120, "how": "covered", "until": {"core": "finish"}}]}),
        );
        let frame = Frame { wide: 1200.0, top: 26.0, bottom: 216.0, span: fire.fire.curve.last().unwrap()[0], most: 240.0 };
        for point in &fire.fire.curve {
            let (x, y) = (frame.x(point[0]), frame.y(point[3]));
            assert!((0.0..=1200.0).contains(&x) && (26.0..=216.0).contains(&y), "{point:?}");
        }
    }
}
