//! Scoring: strokes over a face, clipped to its outline, each by itself.

use super::outline::Outline;
use super::stroke_order::{one_after_the_other, without_detours};
use crate::refusing::{Refused, says_its_parts};
use crate::units::{Area, AreaIn, GramsPerDm2, Length, LengthIn, Mass, grams, millimetres, square_decimetres};

/// How the strokes lie.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Pattern {
    /// One way.
    Parallel,
    /// Two ways, square to each other.
    Crosshatch,
    /// Two ways, 60° to each other.
    Diamond,
}

impl Pattern {
    /// Every pattern.
    pub const ALL: [Self; 3] = [Self::Parallel, Self::Crosshatch, Self::Diamond];

    /// Stable kebab-case name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Parallel => "parallel",
            Self::Crosshatch => "crosshatch",
            Self::Diamond => "diamond",
        }
    }

    /// Looks a pattern up by its stable name.
    pub fn find(id: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|pattern| pattern.id() == id)
    }

    /// Directions of its families of strokes, degrees from the chosen direction.
    fn turns(self) -> &'static [f64] {
        match self {
            Self::Parallel => &[0.0],
            Self::Crosshatch => &[0.0, 90.0],
            Self::Diamond => &[-30.0, 30.0],
        }
    }
}

/// One stroke, from where the knife enters to where it leaves, mm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Stroke {
    /// Start.
    pub from: (f64, f64),
    /// End.
    pub to: (f64, f64),
}

impl Stroke {
    /// Its length.
    pub fn length(&self) -> Length {
        millimetres((self.to.0 - self.from.0).hypot(self.to.1 - self.from.1))
    }
}

/// Strokes over a face.
#[derive(Debug, Clone, PartialEq)]
pub struct Scoring {
    /// Every stroke, in an order that wastes no moves.
    pub strokes: Vec<Stroke>,
    /// All of them, end to end.
    pub cut_length: Length,
    /// The widest strip left between two neighbours, or between a stroke and the edge.
    pub widest_strip: Length,
    /// Families of lines the strokes lie on, for the edge strips.
    pub families: Vec<Family>,
}

/// Parallel lines at one distance.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Family {
    /// Their direction, degrees against the clock from the long side.
    pub direction: f64,
    /// Where the first lies: its distance from the origin, square to the direction, mm.
    pub first: f64,
    /// From line to line, mm.
    pub spacing: f64,
    /// How many strokes lie in it.
    pub lines: usize,
}

/// What is to be cut.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ScoreAsk {
    /// How the strokes lie.
    pub pattern: Pattern,
    /// Distance between neighbours, 1–100 mm.
    pub spacing: Length,
    /// Direction of the first family, degrees against the clock from the long side.
    pub direction: f64,
    /// Kept from the edges; the first line lies on it, and it shortens the strokes. 0–50 mm.
    pub margin: Length,
}

/// Why nothing can be scored.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum ScoreError {
    /// A spacing no hand cuts.
    Spacing(f64),
    /// A margin no face has.
    Margin(f64),
    /// So many strokes, so far apart, mm: more than any hand cuts.
    Many(usize, f64),
}

impl ScoreError {
    /// What was typed, what is allowed, what to do.
    pub fn refused(&self) -> Refused {
        match self {
            Self::Spacing(mm) => {
                Refused::new(format!("strokes {mm} mm apart"), "between 1 and 100 mm", "Belly skin takes 5 to 10, a fat cap 15 to 25.")
            }
            Self::Margin(mm) => Refused::new(format!("a margin of {mm} mm"), "between 0 and 50 mm", "5 mm is usual."),
            Self::Many(strokes, mm) => Refused::new(
                format!("{strokes} strokes {mm} mm apart"),
                format!("at most {MOST_STROKES} strokes on a face"),
                "Cut them further apart; belly skin takes 5 to 10 mm.",
            ),
        }
    }
}
says_its_parts!(ScoreError);

/// So many strokes are laid over a face at most: a diamond every 5 mm over a large belly, and what is clipped one by one needs a cap.
const MOST_STROKES: usize = 170;
/// Shorter than this is a corner touched, not a stroke, mm.
const TOUCH: f64 = 1e-3;
/// A line on the edge itself is looked for this far inside, mm: above the library's grid, below what anybody asks for.
const NUDGE: f64 = 5e-7;

/// Strokes of a pattern over a face.
///
/// Each line is clipped to the outline less its margin by itself; the first lies on the margin, the others follow at the
/// spacing (TRADE 5.2). Strokes alternate in direction, so that the hand goes back and forth. Cost: one clip a
/// stroke, each in the order of the outline's corners.
pub fn score(outline: &Outline, ask: ScoreAsk) -> Result<Scoring, ScoreError> {
    let (spacing, margin) = (ask.spacing.in_mm(), ask.margin.in_mm());
    if !(1.0..=100.0).contains(&spacing) {
        return Err(ScoreError::Spacing(spacing));
    }
    if !(0.0..=50.0).contains(&margin) {
        return Err(ScoreError::Margin(margin));
    }
    let inner = outline.inset(ask.margin);
    let lines = |turn: f64| inner.turned(-(ask.direction + turn)).bounds().map_or(0, |(_, low, _, high)| rows(low, high, spacing));
    let all: usize = ask.pattern.turns().iter().map(|turn| lines(*turn)).sum();
    if all > MOST_STROKES {
        return Err(ScoreError::Many(all, spacing));
    }
    let mut scoring = Scoring { strokes: vec![], cut_length: millimetres(0.0), widest_strip: millimetres(0.0), families: vec![] };
    for turn in ask.pattern.turns() {
        let (family, strokes) = family(&inner, ask.direction + turn, spacing);
        let Some(family) = family else { continue };
        let strip = widest(outline, family);
        if strip > scoring.widest_strip {
            scoring.widest_strip = strip;
        }
        scoring.strokes = one_after_the_other(scoring.strokes, without_detours(strokes));
        scoring.families.push(family);
    }
    scoring.cut_length = scoring.strokes.iter().fold(millimetres(0.0), |sum, stroke| sum + stroke.length());
    Ok(scoring)
}

/// The widest strip a family leaves: its spacing, or what is left at either edge.
fn widest(outline: &Outline, family: Family) -> Length {
    let Some((_, low, _, high)) = outline.turned(-family.direction).bounds() else { return millimetres(0.0) };
    let last = family.first + (family.lines - 1) as f64 * family.spacing;
    let between = if family.lines > 1 { family.spacing } else { 0.0 };
    millimetres(between.max(family.first - low).max(high - last))
}

/// Parallel strokes in one direction. The face is turned so that they lie level, and they are turned back afterwards.
fn family(inner: &Outline, direction: f64, spacing: f64) -> (Option<Family>, Vec<Stroke>) {
    let level = inner.turned(-direction);
    let Some((_, low, _, high)) = level.bounds() else { return (None, vec![]) };
    let rows = rows(low, high, spacing);
    let mut strokes = Vec::new();
    for row in 0..rows {
        let y = low + row as f64 * spacing;
        // On the edge itself a line has no inside to one of its sides.
        let inside = y.clamp(low + NUDGE, (high - NUDGE).max(low + NUDGE));
        let mut pieces = level.level_spans(inside, TOUCH);
        let back = row % 2 == 1;
        if back {
            pieces.reverse();
        }
        for (a, b) in pieces {
            let (from, to) = if back { (b, a) } else { (a, b) };
            strokes.push(Stroke { from: turned((from, y), direction), to: turned((to, y), direction) });
        }
    }
    (Some(Family { direction, first: low, spacing, lines: rows }), strokes)
}

/// Lines that lie level between two heights, the first on the lower one.
fn rows(low: f64, high: f64, spacing: f64) -> usize {
    ((high - low) / spacing + 1e-9).floor() as usize + 1
}

fn turned((x, y): (f64, f64), degrees: f64) -> (f64, f64) {
    let (sin, cos) = degrees.to_radians().sin_cos();
    (x * cos - y * sin, x * sin + y * cos)
}

impl Scoring {
    /// Surface that the cuts open, both flanks: 2 × depth × length (TRADE 5.3).
    pub fn opened(&self, depth: Length) -> Area {
        square_decimetres(2.0 * depth.in_mm() * self.cut_length.in_mm() / 1e4)
    }

    /// Salt that this surface takes at a density.
    pub fn salt_held(&self, depth: Length, density: GramsPerDm2) -> Mass {
        grams(self.opened(depth).in_dm2() * density.0)
    }
}

#[cfg(test)]
mod tests;
