//! Depths and tools in a cook's words.

use crate::words::trim;
use rauchkeller_core::plan::SkinPlan;
use rauchkeller_core::skin::{CoverWork, DepthSays, Fit};
use rauchkeller_core::units::LengthIn;

/// Millimetres cut to a tenth, not rounded: a depth is never rounded towards the lean.
pub fn tenths(mm: f64) -> String {
    trim((mm * 10.0 + 1e-6).floor() / 10.0, 1)
}

/// Why just so deep; or why no depth is safe and what to do instead.
pub fn depth_line(skin: &SkinPlan) -> String {
    let (ask, work) = (&skin.ask, &skin.work);
    let spots = ask.fat.spots();
    let least = |of: fn(&rauchkeller_core::skin::LayerMeasurement) -> f64| spots.iter().map(of).fold(f64::INFINITY, f64::min);
    let (thin_skin, thin_fat) = (least(|s| s.skin.in_mm()), least(|s| s.fat.in_mm()));
    let thick_skin = spots.iter().map(|s| s.skin.in_mm()).fold(0.0, f64::max);
    let margin = trim(ask.margin.in_mm(), 1);
    let (skin_words, fat_words) = (trim(thin_skin, 1), trim(thin_fat, 1));
    match work.guard {
        _ if ask.cover == CoverWork::Whole => "Nothing is cut on this side.".into(),
        None if thick_skin > 0.0 && thin_fat < 3.0 => format!(
            "No safe depth: {skin_words} mm of skin over {fat_words} mm of fat leave nothing to stop in. Loosen the skin with your fingers instead, or prick it shallowly, just through."
        ),
        None => format!(
            "No safe depth: {skin_words} mm of skin and {fat_words} mm of fat, less {margin}, do not pass {} mm of skin. Pierce it instead, or leave it whole.",
            trim(thick_skin, 1)
        ),
        Some(_) if work.zones.len() > 1 && ask.depth.is_none() => "The shallowest of its zones; each has its own depth below.".into(),
        Some(_) if thick_skin > 0.0 => {
            format!(
                "Through {} mm of skin, and stop here: {skin_words} mm of skin and {fat_words} mm of fat at the thinnest, less {margin}.",
                trim(thick_skin, 1)
            )
        }
        Some(_) => format!("No skin: score the fat only, {fat_words} mm of it at the thinnest, less {margin}."),
    }
}

/// What a tool's reach says, and whether it fails.
pub fn tool_words(fit: Fit, name: &str) -> (String, bool) {
    match fit {
        Fit::Sets(at) => (format!("Set the {name} to {} mm.", tenths(at.in_mm())), false),
        Fit::Stops => (format!("The {name} passes the skin and stops by itself."), false),
        Fit::NeedsMark(at) => (format!("The {name} is longer than that: tape it {} mm from the tip.", tenths(at.in_mm())), false),
        Fit::Ends(at) => (format!("The {name} reaches {} mm, no deeper: take a longer one, or say that depth.", tenths(at.in_mm())), true),
        Fit::TooShort(by) => {
            (format!("The {name} is too short: it ends {} mm before the fat. Take a pick or a brush.", trim(by.in_mm(), 1)), true)
        }
        Fit::TooLong(by) => (
            format!(
                "The {name} is too long: it goes {} mm deeper than is safe and cannot be set. Take another, or put a card of that thickness under it.",
                trim(by.in_mm(), 1)
            ),
            true,
        ),
    }
}

/// What a depth of the cook's own does, and whether it is wrong.
pub fn says_line(says: DepthSays) -> Option<(bool, String)> {
    let mm = |length: rauchkeller_core::units::Length| trim(length.in_mm(), 1);
    match says {
        DepthSays::Safe => None,
        DepthSays::TooShallow(by) => Some((true, format!("{} mm short of passing the thickest skin: it will not open there.", mm(by)))),
        DepthSays::InMargin(by) => Some((false, format!("{} mm deeper than is safe at the thinnest place; the lean is near.", mm(by)))),
        DepthSays::IntoLean(by) => Some((
            true,
            format!(
                "{} mm into the lean where fat is thinnest: juice comes up and spoils the crackling, and the piece is no longer intact.",
                mm(by)
            ),
        )),
    }
}

/// A blade's tip at true size, the depth marked on it: browsers take a CSS millimetre as 96/25.4 pixels, phones only nearly.
pub fn depth_mark(mm: f64) -> String {
    let long = mm + 22.0;
    format!(
        r##"<svg class="depth-mark" width="{w}mm" height="13mm" viewBox="0 0 {w} 13" role="img" aria-label="{t} mm at true size"><path fill="#8d8a84" d="M0 6L5 2H{w}V10H7Q2 9 0 6Z"/><path fill="none" stroke="#9b1f1c" stroke-width="0.7" d="M{t} 0V12M0 11.5H{t}"/></svg>"##,
        w = trim(long, 2),
        t = trim(mm, 2)
    )
}

/// Thousands apart.
pub fn group(value: f64) -> String {
    let digits = format!("{value:.0}");
    let mut out = String::new();
    for (i, c) in digits.chars().enumerate() {
        if i > 0 && (digits.len() - i) % 3 == 0 {
            out.push(',');
        }
        out.push(c);
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn figures_are_cut_and_grouped() {
        assert_eq!((tenths(7.79), tenths(8.0), group(7830.2), group(999.0)), ("7.7".into(), "8".into(), "7,830".into(), "999".into()));
    }
}
