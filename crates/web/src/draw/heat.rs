//! The heat as a picture: what surrounds the piece as steps, its surface and its core as lines, and the two finish lines.

use super::labels::{At, Labels};
use super::{Width, n, text};
use crate::words::{instant, wall};
use jiff::ZonedDateTime;
use rauchkeller_contract::{FireDoc, PlanDoc, StageDoc, TargetDoc};
use rauchkeller_core::fire::again_at_least;
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

/// Draws it, and the second heat of what is cooked ahead under it; empty for plans of before there was a curve.
pub fn draw_heat(plan: &PlanDoc, now: &ZonedDateTime, width: Width, system: Option<System>) -> String {
    let again = second(plan).map(|again| one_heat(&again, now, (width, "rest"), system)).unwrap_or_default();
    let after = if again.is_empty() { "rest" } else { "cools" };
    one_heat(plan, now, (width, after), system) + &again
}

/// The second heat as a plan of its own.
fn second(plan: &PlanDoc) -> Option<PlanDoc> {
    let again = plan.fire.again.as_ref()?;
    let stage = StageDoc {
        with: again.with.clone(),
        air_c: again.air_c,
        air_guessed: false,
        how: again.how.clone(),
        minutes: again.minutes,
        minutes_low: again.minutes_low,
        minutes_high: again.minutes_high,
        core_c: again.out_c,
        flip_min: None,
        dial_c: None,
        comes_up_min: None,
        starts_at: again.starts_at.clone(),
        ends_at: again.ends_at.clone(),
    };
    let target = plan.fire.targets.first()?;
    let least = again_at_least().in_c();
    let target = TargetDoc { pull_c: again.out_c, finish_c: again.out_c, authority_c: (least * 10.0).round() / 10.0, ..target.clone() };
    let fire = FireDoc {
        targets: vec![target],
        minutes: again.minutes,
        stages: vec![stage],
        ends_c: again.out_c,
        skin: None,
        again: None,
        curve: again.curve.clone(),
        ..plan.fire.clone()
    };
    Some(PlanDoc { fire, steps: vec![], ..plan.clone() })
}

/// One heat, and what follows it by itself.
fn one_heat(plan: &PlanDoc, now: &ZonedDateTime, (width, after): (Width, &str), system: Option<System>) -> String {
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
    // What matters most takes its place first; a number of the scale goes where there is room.
    let mut labels = Labels::new(wide);
    let (out, pull) = (fire.stages.iter().map(|s| s.minutes).sum::<f64>(), target.pull_c);
    let (x, y) = (frame.x(out), frame.y(pull));
    line(&mut svg, fire, &frame, 2, "surface-line");
    line(&mut svg, fire, &frame, 3, "core-line");
    let _ = write!(svg, r#"<circle class="pull-dot" cx="{}" cy="{}" r="5"/>"#, n(x), n(y));
    // The words end at the dot where they would leave the picture.
    let side = if x > wide - 110.0 || x > wide * 0.8 { ("end", x - 9.0) } else { ("start", x + 9.0) };
    let places = [18.0, -10.0, 34.0, -26.0].map(|dy| (side.1, y + dy, side.0));
    labels.put(&mut svg, "label strong", &format!("out at {pull:.0} °C"), &places);
    let begins = wall(instant(&first.starts_at), now);
    labels.put(&mut svg, "label", &begins, &[(2.0, frame.bottom + 17.0, "start")]);
    stages(&mut svg, fire, &frame, (now, width, after), &mut labels);
    finishes(&mut svg, &frame, (target.finish_c, target.authority_c), &mut labels);
    puffs(&mut svg, fire, &frame, &mut labels);
    besides(&mut svg, plan, &frame, &mut labels);
    degrees(&mut svg, &frame, system, &mut labels);
    svg.push_str("</svg>");
    svg
}

/// What is done beside the heat, each at its minute: a tick on the ground, its name where there is room.
fn besides(svg: &mut String, plan: &PlanDoc, frame: &Frame, labels: &mut Labels) {
    let Some(from) = plan.fire.stages.first().map(|stage| instant(&stage.starts_at)) else { return };
    for step in plan.steps.iter().filter(|s| s.place == "fire" && s.beside.is_some()) {
        let x = frame.x(instant(&step.starts_at).duration_since(from).as_secs_f64() / 60.0);
        let _ = write!(svg, r#"<path class="beside-tick" d="M{} {}v-9"/>"#, n(x), n(frame.bottom));
        labels.put(svg, "label", &step.kind.replace('-', " "), &[10.5, 29.0].map(|up| (x, frame.bottom - up, "middle")));
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

/// The scale, with its numbers where nothing else stands.
fn degrees(svg: &mut String, frame: &Frame, system: Option<System>, labels: &mut Labels) {
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
        labels.put(svg, "label", &format!("{degree:.0} {unit}"), &[(4.0, y - 4.0, "start")]);
        degree += step;
    }
}

/// Each stage as a step of what surrounds the piece, with its end on the clock; the rest is the last.
fn stages(svg: &mut String, fire: &FireDoc, frame: &Frame, (now, width, after): (&ZonedDateTime, Width, &str), labels: &mut Labels) {
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
            let places = [-6.0, 17.0, 34.0].map(|dy| (x + wide / 2.0, y + dy, "middle"));
            labels.put(svg, "label strong", &words, &places);
        }
        let at = frame.x(to);
        if at > 60.0 && (width == Width::Wide || wide > 70.0) {
            // At the right edge it ends there.
            let (anchor, x) = if at > frame.wide - 40.0 { ("end", frame.wide) } else { ("middle", at) };
            labels.put(svg, "label", &wall(instant(&stage.ends_at), now), &[(x, frame.bottom + 17.0, anchor)]);
        }
        from = to;
    }
    let _ = write!(d, "V{}Z", n(frame.bottom));
    svg.insert_str(svg.find("<path").unwrap_or(svg.len()), &format!(r#"<path class="around" d="{d}"/>"#));
    let x = frame.x(from);
    if frame.wide - x > 40.0 {
        labels.put(svg, "label", after, &[(f64::midpoint(x, frame.wide), frame.top + 14.0, "middle")]);
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
fn puffs(svg: &mut String, fire: &FireDoc, frame: &Frame, labels: &mut Labels) {
    let Some(min) = fire.skin.as_ref().and_then(|skin| skin.puffs_min) else { return };
    let x = frame.x(min);
    let (anchor, at) = if x > frame.wide / 2.0 { ("end", x - 5.0) } else { ("start", x + 5.0) };
    let _ = write!(svg, r#"<path class="puff-line" d="M{} {}V{}"/>"#, n(x), n(frame.top), n(frame.bottom));
    let middle = f64::midpoint(frame.top, frame.bottom);
    labels.put(svg, "label", "skin puffs", &[0.0, -20.0, 20.0, -40.0, 40.0].map(|dy| (at, middle + dy, anchor)));
}

/// The cook's finish and the authority's, beside each other.
fn finishes(svg: &mut String, frame: &Frame, (finish, authority): (f64, f64), labels: &mut Labels) {
    let apart = (frame.y(finish) - frame.y(authority)).abs() > 13.0;
    let mut draw = |c: f64, class: &str, words: &str, above: bool| {
        let y = frame.y(c);
        let _ = write!(svg, r#"<path class="{class}" d="M0 {}H{}"/>"#, n(y), frame.wide);
        let (first, second) = if above { (y - 4.0, y + 13.0) } else { (y + 13.0, y - 4.0) };
        let left = |y: f64| -> At { (4.0, y, "start") };
        let right = |y: f64| -> At { (frame.wide - 4.0, y, "end") };
        labels.put(svg, "label", words, &[left(first), left(second), right(first), right(second)]);
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
