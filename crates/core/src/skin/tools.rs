//! Tools for skin, each with its reach, and whether that fits the depth that is allowed.

use super::depth::DepthGuard;
use super::pierce::Tool;
use crate::units::{Length, LengthIn, millimetres};

/// One row of the table of tools.
#[derive(Debug, PartialEq)]
pub struct SkinTool {
    /// Stable kebab-case name.
    pub id: &'static str,
    /// What a cook calls it.
    pub name: &'static str,
    /// How deep it can go, mm [est].
    pub reach_mm: f64,
    /// Whether its depth can be set, so that it stops by itself.
    pub has_stop: bool,
    /// How it pierces; `None` for a blade that cuts.
    pub pins: Option<Tool>,
    /// Where the row comes from.
    pub source: &'static str,
}

const EST: &str = "handbook section 5; reach and pace [est]";

/// Tools by kind.
pub const SKIN_TOOLS: &[SkinTool] = &[
    SkinTool { id: "craft-knife", name: "craft knife with a set blade", reach_mm: 20.0, has_stop: true, pins: None, source: EST },
    SkinTool { id: "scalpel", name: "scalpel", reach_mm: 25.0, has_stop: false, pins: None, source: EST },
    SkinTool { id: "boning-knife", name: "boning knife", reach_mm: 120.0, has_stop: false, pins: None, source: EST },
    SkinTool { id: "needle-brush", name: "needle brush of 24 pins", reach_mm: 9.0, has_stop: true, pins: Some(Tool::BRUSH), source: EST },
    SkinTool { id: "pick", name: "single pick", reach_mm: 40.0, has_stop: false, pins: Some(Tool::PICK), source: EST },
    SkinTool {
        id: "fork",
        name: "fork of four tines, held steep",
        reach_mm: 2.0,
        has_stop: false,
        pins: Some(Tool { name: "fork of four tines", pins: 4, presses_per_s: 1 }),
        source: EST,
    },
];

/// How a tool's reach stands to the depth that is allowed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Fit {
    /// It passes the skin and stops in the fat by itself.
    Stops,
    /// It passes the skin; it has to be stopped at that depth by a tape or a thumb.
    NeedsMark(Length),
    /// It does not pass the skin: so much is missing.
    TooShort(Length),
}

/// Whether a tool passes the thickest skin, and what stops it before the lean.
pub fn fit(tool: &SkinTool, guard: DepthGuard) -> Fit {
    let (reach, least, most) = (tool.reach_mm, guard.at_least.in_mm(), guard.at_most.in_mm());
    if reach <= least {
        Fit::TooShort(millimetres(least - reach))
    } else if tool.has_stop || reach <= most {
        Fit::Stops
    } else {
        Fit::NeedsMark(guard.at_most)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn short_long_and_right() {
        // By hand: skin 2.5 mm to be passed, 8 mm allowed. A fork of 2 mm misses it by half a millimetre.
        let guard = DepthGuard { at_least: millimetres(2.5), at_most: millimetres(8.0) };
        let find = |id: &str| SKIN_TOOLS.iter().find(|t| t.id == id).unwrap();
        assert!(matches!(fit(find("fork"), guard), Fit::TooShort(by) if (by.in_mm() - 0.5).abs() < 1e-9));
        assert_eq!(fit(find("pick"), guard), Fit::NeedsMark(millimetres(8.0)));
        assert_eq!(fit(find("craft-knife"), guard), Fit::Stops);
        // On duck skin of 1.5 mm the fork passes and is short enough to stop by itself.
        assert_eq!(fit(find("fork"), DepthGuard { at_least: millimetres(1.5), at_most: millimetres(4.0) }), Fit::Stops);
    }
}
