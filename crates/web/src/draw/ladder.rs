//! The ladder of grams: from zero to the target, filled from below by what is in already.

use super::{n, text};
use crate::words::grams;
use rauchkeller_contract::{DoseDoc, LedgerEntryDoc};
use std::fmt::Write;

/// Height beside other numbers, and where it is the instrument itself.
const HIGH: f64 = 168.0;
const TALL: f64 = 300.0;
const LEFT: f64 = 8.0;
const WIDE: f64 = 46.0;
const TOP: f64 = 16.0;

/// What is in the bowls so far, grams of sodium chloride.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Poured {
    /// In bowls that are done.
    pub weighed_g: f64,
    /// In the bowl on the scale now.
    pub pouring_g: f64,
}

/// Draws the ladder; nothing where nothing is in already, since the number says it all.
///
/// One gram is as high as any other. Over-full, the ladder ends at what is in, and the target is a red line on it.
pub fn draw_ladder(dose: &DoseDoc) -> String {
    if dose.ledger.is_empty() || dose.total_g <= 0.0 {
        return String::new();
    }
    draw(dose, None)
}

/// The ladder while salt is weighed: it fills from what is in already up to the target, and beyond it in red.
pub fn draw_live_ladder(dose: &DoseDoc, poured: Poured) -> String {
    if dose.total_g <= 0.0 { String::new() } else { draw(dose, Some(poured)) }
}

fn draw(dose: &DoseDoc, live: Option<Poured>) -> String {
    let poured = live.unwrap_or_default();
    let high_px = if live.is_some() { TALL } else { HIGH };
    let in_bowls = poured.weighed_g + poured.pouring_g;
    let whole = dose.total_g.max(dose.from_ledger_g + in_bowls);
    let y = |g: f64| TOP + high_px * (1.0 - g / whole);
    let mut svg = format!(
        r#"<svg class="ladder" viewBox="0 0 312 {}" role="img" aria-label="Ladder of grams: {} of {} g are in already">"#,
        n(TOP + high_px + 16.0),
        grams(dose.from_ledger_g + in_bowls),
        grams(dose.total_g)
    );
    // Rungs a gram apart, or as many as can be told apart.
    let every = [1.0, 2.0, 5.0, 10.0, 20.0, 50.0].into_iter().find(|step| high_px / whole * step >= 7.0).unwrap_or(100.0);
    let mut from = 0.0;
    // Height, words, small print under them.
    let mut labels: Vec<(f64, String, String)> = Vec::new();
    // What brings no salt to the meat stands on no rung.
    for (i, entry) in dose.ledger.iter().filter(|entry| entry.g >= 0.005).enumerate() {
        let to = from + entry.g;
        let _ = write!(
            svg,
            r#"<rect class="ladder-in ladder-in-{}" x="{LEFT}" y="{}" width="{WIDE}" height="{}"/>"#,
            i % 3,
            n(y(to)),
            n((y(from) - y(to)).max(0.5))
        );
        let small = small_print(entry);
        let words = format!("{} g in {}", grams(entry.g), entry.what);
        // A long name goes on the line below.
        let broken = entry.what.match_indices(' ').nth(1).filter(|_| words.chars().count() > LONG).map(|(at, _)| entry.what.split_at(at));
        labels.push(match broken {
            Some((amount, name)) => (y(f64::midpoint(from, to)), format!("{} g in {amount}", grams(entry.g)), name.trim().to_owned()),
            None => (y(f64::midpoint(from, to)), words, small),
        });
        from = to;
    }
    for (class, g, words) in [("done", poured.weighed_g, "weighed"), ("now", poured.pouring_g, "in the bowl now")] {
        if g < 0.05 {
            continue;
        }
        let to = from + g;
        // What is above the target is too much, whoever poured it.
        let (fine, over) = (to.min(dose.total_g), (to - dose.total_g.max(from)).max(0.0));
        if fine > from {
            let high = y(from) - y(fine);
            let _ = write!(svg, r#"<rect class="ladder-{class}" x="{LEFT}" y="{}" width="{WIDE}" height="{}"/>"#, n(y(fine)), n(high));
        }
        if over > 0.0 {
            let high = y(to - over) - y(to);
            let _ = write!(svg, r#"<rect class="ladder-too-much" x="{LEFT}" y="{}" width="{WIDE}" height="{}"/>"#, n(y(to)), n(high));
        }
        labels.push((y(f64::midpoint(from, to)), format!("{} g {words}", grams(g)), String::new()));
        from = to;
    }
    let missing = dose.total_g - from;
    if dose.to_weigh_g > 0.0 && missing > 0.05 {
        // Beside a bowl that is being filled: what all the others take.
        let still = if in_bowls > 0.0 { "still " } else { "" };
        let _ = write!(
            svg,
            r#"<rect class="ladder-weigh" x="{LEFT}" y="{}" width="{WIDE}" height="{}"/>"#,
            n(y(dose.total_g)),
            n(y(from) - y(dose.total_g))
        );
        labels.push((y(f64::midpoint(from, dose.total_g)), format!("{} g {still}to weigh", grams(missing)), String::new()));
    }
    let mut rungs = String::new();
    let mut g = every;
    while g < whole - 1e-9 {
        let _ = write!(rungs, "M{LEFT} {}h{WIDE}", n(y(g)));
        g += every;
    }
    let _ = write!(
        svg,
        r#"<path class="ladder-rungs" d="{rungs}"/><path class="ladder-rails" d="M{LEFT} {}V{}M{} {}V{}"/>"#,
        n(TOP - 8.0),
        n(TOP + high_px + 8.0),
        n(LEFT + WIDE),
        n(TOP - 8.0),
        n(TOP + high_px + 8.0)
    );
    let over = if dose.from_ledger_g + in_bowls > dose.total_g + 0.05 { " ladder-over" } else { "" };
    let target = y(dose.total_g);
    let _ = write!(svg, r#"<path class="ladder-target{over}" d="M2 {t}H{}"/>"#, n(LEFT + WIDE + 14.0), t = n(target));
    labels.push((target - 1.0, format!("target {} g", grams(dose.total_g)), String::new()));
    // From the bottom up, never closer than a line.
    labels.sort_by(|a, b| b.0.total_cmp(&a.0));
    let mut above = f64::INFINITY;
    for (wanted, words, small) in labels {
        let room = if small.is_empty() { 0.0 } else { 16.0 };
        let at = (wanted + 5.0 - room / 2.0).min(above - 19.0 - room).max(12.0);
        above = at;
        let x = n(LEFT + WIDE + 20.0);
        let _ = write!(svg, r#"<text class="label" x="{x}" y="{}">{}</text>"#, n(at), text(&words));
        if !small.is_empty() {
            let _ = write!(svg, r#"<text class="tick" x="{x}" y="{}">{}</text>"#, n(at + 16.0), text(&small));
        }
    }
    svg.push_str("</svg>");
    svg
}

/// Letters that fit beside the ladder.
const LONG: usize = 28;

/// What a source's grams rest on.
fn small_print(entry: &LedgerEntryDoc) -> String {
    match entry.bath_cap_g {
        Some(_) => format!("diffusion lets in {:.0} % of it, an estimate", entry.uptake * 100.0),
        None if entry.uptake < 0.999 => format!("{:.0} % of it stays, an estimate", entry.uptake * 100.0),
        None if entry.estimate => "an estimate".into(),
        None => String::new(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use rauchkeller_contract::{EXAMPLE, plan_from};
    use serde_json::{Value, json};

    fn dose(ledger: Value) -> DoseDoc {
        let mut request: Value = serde_json::from_str(EXAMPLE).unwrap();
        request["ledger"] = ledger;
        plan_from(&request, &"2026-12-10T09:00[Europe/Vienna]".parse().unwrap()).unwrap().dose
    }

    fn height(svg: &str, class: &str) -> f64 {
        let part = svg.split(&format!("class=\"{class}")).nth(1).unwrap();
        part.split("height=\"").nth(1).unwrap().split('"').next().unwrap().parse().unwrap()
    }

    #[test]
    fn a_gram_is_as_high_as_any_other() {
        // 18 g: soy sauce 30 g brings 2.513 g, 15.487 g are left; heights in that proportion, and they fill the ladder.
        let svg = draw_ladder(&dose(json!([{"said": "30 g soy sauce"}])));
        let (soy, weigh) = (height(&svg, "ladder-in"), height(&svg, "ladder-weigh"));
        assert!((soy / weigh - 2.5128 / 15.4872).abs() < 1e-3, "{soy} and {weigh}");
        assert!((soy + weigh - HIGH).abs() < 0.02);
        assert!(svg.contains("15.5 g to weigh") && svg.contains("target 18.0 g") && svg.contains("60 % of it stays, an estimate"));
    }

    #[test]
    fn over_full_shows_the_target_below_the_top() {
        let svg = draw_ladder(&dose(json!([{"said": "300 g soy sauce"}])));
        assert!(svg.contains("ladder-over") && !svg.contains("to weigh"));
    }

    #[test]
    fn the_live_ladder_fills_and_runs_over() {
        let dose = dose(json!([]));
        let half = draw_live_ladder(&dose, Poured { weighed_g: 5.0, pouring_g: 4.0 });
        // 18 g: 5 and 4 of them, and 9 are missing.
        assert!(
            (height(&half, "ladder-done") / TALL - 5.0 / 18.0).abs() < 1e-3
                && (height(&half, "ladder-now") / TALL - 4.0 / 18.0).abs() < 1e-3
        );
        assert!(half.contains("9.0 g still to weigh") && !half.contains("ladder-too-much"));
        let over = draw_live_ladder(&dose, Poured { weighed_g: 9.9, pouring_g: 11.1 });
        // 21 g in all: 3 above the target.
        assert!((height(&over, "ladder-too-much") / TALL - 3.0 / 21.0).abs() < 1e-3 && over.contains("ladder-over"));
    }

    #[test]
    fn nothing_in_already_needs_no_ladder() {
        assert!(draw_ladder(&dose(json!([]))).is_empty());
    }
}
