//! Tools for skin, each with its reach, and whether that fits the depth that is allowed.

use super::depth::DepthGuard;
use crate::refusing::{Refused, says_its_parts};
use crate::units::{Length, LengthIn, millimetres};
use std::borrow::Cow;

/// What keeps a tool from going deeper.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Stop {
    /// Its depth can be set: a dial, a collar.
    Set,
    /// It goes in as far as it is long, and no further.
    Fixed,
    /// Nothing: it has to be marked.
    None,
}

impl Stop {
    /// Every way.
    pub const ALL: [Self; 3] = [Self::Set, Self::Fixed, Self::None];

    /// Stable name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Set => "set",
            Self::Fixed => "fixed",
            Self::None => "none",
        }
    }

    /// Looks one up by its stable name.
    pub fn find(id: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|stop| stop.id() == id)
    }
}

/// How a tool works.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Works {
    /// It cuts.
    Cuts,
    /// It pierces, with so many pins at one press.
    Pierces(u32),
}

/// A tool for skin.
#[derive(Debug, Clone, PartialEq)]
pub struct SkinTool {
    /// Stable kebab-case name.
    pub id: Cow<'static, str>,
    /// What a cook calls it.
    pub name: Cow<'static, str>,
    /// How deep it can go, mm.
    pub reach_mm: f64,
    /// What stops it.
    pub stop: Stop,
    /// How it works.
    pub works: Works,
    /// Usual pace: presses a minute, or centimetres of cut a minute.
    pub per_min: f64,
    /// Presses until it is blunt and changed, for wooden picks.
    pub wears_after: Option<u32>,
    /// Where its figures come from.
    pub source: Cow<'static, str>,
}

const EST: &str = "our estimate";
/// Centimetres of cut a minute: a practised hand draws about three metres (our estimate).
pub(super) const CUT_CM_PER_MIN: f64 = 300.0;

const fn tool(
    names: (&'static str, &'static str),
    reach_mm: f64,
    stop: Stop,
    works: Works,
    per_min: f64,
    wears_after: Option<u32>,
) -> SkinTool {
    let (id, name) = (Cow::Borrowed(names.0), Cow::Borrowed(names.1));
    SkinTool { id, name, reach_mm, stop, works, per_min, wears_after, source: Cow::Borrowed(EST) }
}

/// Tools by kind. A pick makes three holes a second (TRADE 5.5); a wooden one is blunt after 400 (our estimate).
pub static SKIN_TOOLS: [SkinTool; 7] = [
    tool(("craft-knife", "craft knife with a set blade"), 20.0, Stop::Set, Works::Cuts, CUT_CM_PER_MIN, None),
    tool(("scalpel", "scalpel"), 25.0, Stop::None, Works::Cuts, CUT_CM_PER_MIN, None),
    tool(("boning-knife", "boning knife"), 120.0, Stop::None, Works::Cuts, CUT_CM_PER_MIN, None),
    tool(("needle-brush", "needle brush of 24 pins"), 9.0, Stop::Set, Works::Pierces(24), 60.0, None),
    tool(("pick", "single pick"), 40.0, Stop::None, Works::Pierces(1), 180.0, Some(400)),
    tool(("fork", "fork of four tines, held steep"), 2.0, Stop::Fixed, Works::Pierces(4), 60.0, None),
    tool(("knife-tip", "tip of a small knife"), 60.0, Stop::None, Works::Pierces(1), 120.0, None),
];

/// Why a tool of the household's own cannot be.
#[derive(Debug, Clone, PartialEq)]
pub enum ToolError {
    /// No name, or too long a one.
    Name,
    /// A reach no hand tool for skin has.
    Reach(f64),
    /// Pins no tool has.
    Pins(f64),
}

impl ToolError {
    /// What was typed, what is allowed, what to do.
    pub fn refused(&self) -> Refused {
        match self {
            Self::Name => Refused::new("a tool without a name", "a name of 1 to 60 letters", "Call it what you call it in the kitchen."),
            Self::Reach(mm) => {
                Refused::new(format!("a reach of {mm} mm"), "between 1 and 200 mm", "Measure from the tip to where it stops.")
            }
            Self::Pins(n) => Refused::new(format!("{n} pins"), "between 1 and 200", "Count those that enter at one press."),
        }
    }
}
says_its_parts!(ToolError);

impl SkinTool {
    /// Looks a tool of the table up by its stable name.
    pub fn find(id: &str) -> Option<Self> {
        SKIN_TOOLS.iter().find(|tool| tool.id == id).cloned()
    }

    /// A tool of the household's own. `pins` is `None` for a blade; the pace is the usual one of its kind.
    pub fn own(id: &str, name: &str, reach_mm: f64, stop: Stop, pins: Option<f64>) -> Result<Self, ToolError> {
        let name = name.trim();
        if name.is_empty() || name.chars().count() > 60 {
            return Err(ToolError::Name);
        }
        if !(1.0..=200.0).contains(&reach_mm) {
            return Err(ToolError::Reach(reach_mm));
        }
        let works = match pins {
            None => Works::Cuts,
            Some(n) if (1.0..=200.0).contains(&n) && n.fract() == 0.0 => Works::Pierces(n as u32),
            Some(n) => return Err(ToolError::Pins(n)),
        };
        let per_min = match works {
            Works::Cuts => CUT_CM_PER_MIN,
            Works::Pierces(1) => 180.0,
            Works::Pierces(_) => 60.0,
        };
        let source = Cow::Borrowed("as you measured it; its pace our estimate");
        Ok(Self { id: Cow::Owned(id.into()), name: Cow::Owned(name.into()), reach_mm, stop, works, per_min, wears_after: None, source })
    }

    /// Whether it pierces.
    pub fn pierces(&self) -> bool {
        matches!(self.works, Works::Pierces(_))
    }

    /// Presses for so many holes; none for a blade.
    pub fn presses(&self, holes: usize) -> u32 {
        match self.works {
            Works::Cuts => 0,
            Works::Pierces(pins) => (holes as u32).div_ceil(pins.max(1)),
        }
    }
}

/// How a tool's reach stands to the depth that is allowed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Fit {
    /// It can be set to this depth.
    Sets(Length),
    /// It passes the skin and stops in the fat by itself.
    Stops,
    /// It passes the skin; it has to be stopped at that depth by a tape or a thumb.
    NeedsMark(Length),
    /// It does not pass the skin: so much is missing.
    TooShort(Length),
    /// It goes so much deeper than is safe, and cannot be set.
    TooLong(Length),
    /// It passes the skin and ends here, before the depth that the cook said.
    Ends(Length),
}

/// Whether a tool passes the thickest skin, and what stops it before the lean.
pub fn fit(tool: &SkinTool, guard: DepthGuard) -> Fit {
    let (reach, least, most) = (tool.reach_mm, guard.at_least.in_mm(), guard.at_most.in_mm());
    if reach <= least {
        return Fit::TooShort(millimetres(least - reach));
    }
    match tool.stop {
        _ if reach <= most => Fit::Stops,
        Stop::Set => Fit::Sets(guard.at_most),
        Stop::None => Fit::NeedsMark(guard.at_most),
        Stop::Fixed => Fit::TooLong(millimetres(reach - most)),
    }
}

/// Pace of a hand: the usual one, drawn towards what was measured.
///
/// `runs` are (amount, minutes) of earlier work with the same tool: presses, or centimetres of cut. The usual pace counts
/// as five minutes of watching (our estimate), so one run of twenty minutes decides four fifths of it. Runs without time are skipped, and
/// so are those no hand does: more than ten times the usual pace is a Done pressed early, less than a thirtieth one forgotten (our estimate);
/// a beginner draws twenty centimetres a minute where a practised hand draws three metres.
pub fn own_pace(usual_per_min: f64, runs: &[(f64, f64)]) -> f64 {
    const USUAL_COUNTS_MIN: f64 = 5.0;
    let of_a_hand = |pace: f64| (usual_per_min / 30.0..=usual_per_min * 10.0).contains(&pace);
    let sound = runs.iter().filter(|(amount, minutes)| *amount > 0.0 && *minutes > 0.0 && of_a_hand(amount / minutes));
    let (amount, minutes) = sound.fold((usual_per_min * USUAL_COUNTS_MIN, USUAL_COUNTS_MIN), |(a, m), run| (a + run.0, m + run.1));
    amount / minutes
}

/// The same for a depth of the cook's own: that is what a tool is set to or marked at, not what would be safe.
pub fn fit_to(tool: &SkinTool, guard: DepthGuard, own: Length) -> Fit {
    let safe = fit(tool, guard);
    match (safe, tool.stop) {
        (Fit::TooShort(_) | Fit::TooLong(_), _) => safe,
        _ if tool.reach_mm < own.in_mm() => Fit::Ends(millimetres(tool.reach_mm)),
        (_, Stop::Set) => Fit::Sets(own),
        (_, Stop::None) => Fit::NeedsMark(own),
        (_, Stop::Fixed) => safe,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn guard(least: f64, most: f64) -> DepthGuard {
        DepthGuard { at_least: millimetres(least), at_most: millimetres(most) }
    }

    fn find(id: &str) -> SkinTool {
        SkinTool::find(id).unwrap()
    }

    #[test]
    fn short_long_and_right() {
        // By hand: skin 2.5 mm to be passed, 8 mm allowed. A fork of 2 mm misses it by half a millimetre.
        let belly = guard(2.5, 8.0);
        assert!(matches!(fit(&find("fork"), belly), Fit::TooShort(by) if (by.in_mm() - 0.5).abs() < 1e-9));
        assert_eq!(fit(&find("pick"), belly), Fit::NeedsMark(millimetres(8.0)));
        assert_eq!(fit(&find("craft-knife"), belly), Fit::Sets(millimetres(8.0)));
        // On duck skin of 1.5 mm the fork passes and is short enough to stop by itself.
        assert_eq!(fit(&find("fork"), guard(1.5, 4.0)), Fit::Stops);
        // Fixed pins of 12 mm go 4 mm too deep where 8 are allowed.
        let roller = SkinTool::own("own-1", "pin roller", 12.0, Stop::Fixed, Some(30.0)).unwrap();
        assert!(matches!(fit(&roller, belly), Fit::TooLong(by) if (by.in_mm() - 4.0).abs() < 1e-9));
    }

    #[test]
    fn a_depth_of_ones_own_is_what_a_tool_is_set_to() {
        // A brush of 9 mm, 8 mm allowed: set to the 6 that were said; 20 mm are beyond what it can do.
        let (belly, brush) = (guard(2.5, 8.0), find("needle-brush"));
        assert_eq!(fit_to(&brush, belly, millimetres(6.0)), Fit::Sets(millimetres(6.0)));
        assert_eq!(fit_to(&brush, belly, millimetres(20.0)), Fit::Ends(millimetres(9.0)));
        assert_eq!(fit_to(&find("pick"), belly, millimetres(10.0)), Fit::NeedsMark(millimetres(10.0)));
        // What cannot be set stays too long for what is safe, whatever was said.
        let roller = SkinTool::own("own-1", "pin roller", 12.0, Stop::Fixed, Some(30.0)).unwrap();
        assert!(matches!(fit_to(&roller, belly, millimetres(11.0)), Fit::TooLong(by) if (by.in_mm() - 4.0).abs() < 1e-9));
    }

    #[test]
    fn presses_are_holes_by_pins() {
        // By hand: 5,270 ÷ 24 = 219.6 → 220.
        assert_eq!((find("needle-brush").presses(5270), find("pick").presses(5270), find("scalpel").presses(5270)), (220, 5270, 0));
    }

    #[test]
    fn own_tools_are_checked() {
        assert_eq!(SkinTool::own("x", " ", 5.0, Stop::Set, None), Err(ToolError::Name));
        assert_eq!(SkinTool::own("x", "spike", 0.5, Stop::Set, None), Err(ToolError::Reach(0.5)));
        assert_eq!(SkinTool::own("x", "brush", 8.0, Stop::Set, Some(2.5)), Err(ToolError::Pins(2.5)));
        assert!(SKIN_TOOLS.iter().all(|t| t.per_min > 0.0 && SkinTool::find(&t.id).as_ref() == Some(t)));
    }

    #[test]
    fn the_pace_is_drawn_towards_what_was_measured() {
        // By hand: 180 a minute as usual count 5 min, 15 min at 100: (900 + 1500) ÷ 20 = 120.
        assert!((own_pace(180.0, &[(1500.0, 15.0)]) - 120.0).abs() < 1e-9);
        assert!((own_pace(180.0, &[]) - 180.0).abs() < 1e-12);
        // 2,400 presses in half a minute, or in ten hours, say nothing about 180 a minute; 60 and 700 a minute still do.
        assert!((own_pace(180.0, &[(2400.0, 0.5), (2400.0, 600.0)]) - 180.0).abs() < 1e-12);
        assert!((own_pace(180.0, &[(300.0, 5.0)]) - 120.0).abs() < 1e-9 && (own_pace(180.0, &[(3500.0, 5.0)]) - 440.0).abs() < 1e-9);
        // A beginner's 20 cm a minute teaches, where 300 are usual: by hand (1500 + 600) ÷ 35 = 60.
        assert!((own_pace(300.0, &[(600.0, 30.0)]) - 60.0).abs() < 1e-9);
        assert!((own_pace(20.0, &[(50.0, 0.0), (0.0, 3.0)]) - 20.0).abs() < 1e-12, "runs without amount or time say nothing");
    }
}
