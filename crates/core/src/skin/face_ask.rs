//! A face as a cook says it: a shape, its measures, what is to be left alone; and the handles that change them.

use super::outline::{Outline, OutlineError};
use crate::units::{Length, LengthIn, millimetres};

/// The shape of a face as it lies on the board.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum FaceShape {
    /// A slab with square corners.
    Square,
    /// A slab with rounded corners.
    Round,
    /// A slab that narrows towards one end.
    Taper,
    /// A breast from above.
    Breast,
    /// The cap of a rack, its bones under it.
    Rack,
    /// Cut into strips along the grain, lying side by side.
    Strips,
    /// Split into two halves.
    Split,
}

impl FaceShape {
    /// Every shape.
    pub const ALL: [Self; 7] = [Self::Square, Self::Round, Self::Taper, Self::Breast, Self::Rack, Self::Strips, Self::Split];

    /// Stable kebab-case name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Square => "square",
            Self::Round => "round",
            Self::Taper => "taper",
            Self::Breast => "breast",
            Self::Rack => "rack",
            Self::Strips => "strips",
            Self::Split => "split",
        }
    }

    /// Looks a shape up by its stable name.
    pub fn find(id: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|shape| shape.id() == id)
    }
}

/// A place that knife and pick keep out of.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Avoid {
    /// A string or a skewer across the piece, so far from its left end; 8 mm are kept free (our estimate).
    Tie {
        /// From the left end, mm.
        at: f64,
    },
    /// A round place: a bone end, a hole.
    Spot {
        /// Its middle, mm from the left and from the near edge.
        at: (f64, f64),
        /// Its radius.
        radius: Length,
    },
}

/// Kept free along a string or a skewer (our estimate).
const TIE_WIDE_MM: f64 = 8.0;
/// Kept free round the end of a rib (our estimate).
const BONE_END_MM: f64 = 6.0;
/// Between strips or halves as they are laid out, mm; only for the picture.
const APART_MM: f64 = 12.0;
/// The most places that can be left alone.
pub const MOST_AVOIDED: usize = 24;

/// What a cook says of a face.
#[derive(Debug, Clone, PartialEq)]
pub struct FaceAsk {
    /// Outline of the face.
    pub shape: FaceShape,
    /// Along the piece.
    pub length: Length,
    /// Across it.
    pub width: Length,
    /// Radius of rounded corners; `None` takes a sixth of the shorter side (our estimate).
    pub corner: Option<Length>,
    /// Width of the narrow end; `None` takes seven tenths of the wide one (our estimate).
    pub narrow: Option<Length>,
    /// Bones of a rack (8 where `None`) or strips of a slab (about 40 mm wide where `None`); 2–16.
    pub parts: Option<u32>,
    /// What is left alone.
    pub avoid: Vec<Avoid>,
}

/// A measure that is changed by dragging on the picture or by arrow keys.
#[derive(Debug, Clone, PartialEq)]
pub struct Handle {
    /// The measure it changes: `long`, `wide`, `corner`, `narrow`, `tie-0`, `spot-0`.
    pub field: String,
    /// What a cook calls it.
    pub name: String,
    /// Where it lies, mm.
    pub at: (f64, f64),
    /// Whether it moves across the piece, along it, or both ways.
    pub axis: Axis,
    /// Where its measure is 0, mm along its axis.
    pub origin: f64,
    /// Change of the measure a millimetre moved.
    pub factor: f64,
    /// The measure now, mm; along the piece for one that moves both ways.
    pub value: f64,
    /// Least and most allowed.
    pub range: (f64, f64),
}

/// Which way a handle moves.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Axis {
    /// Along the piece.
    Along,
    /// Across it.
    Across,
    /// Moved along and across at once.
    Free,
}

/// A face laid out.
#[derive(Debug, Clone, PartialEq)]
pub struct LaidFace {
    /// Its outline, less what is left alone.
    pub outline: Outline,
    /// Bones under it, from near edge to far edge, mm.
    pub bones: Vec<((f64, f64), (f64, f64))>,
    /// What can be moved.
    pub handles: Vec<Handle>,
}

impl FaceAsk {
    /// A slab of these measures with square corners, nothing left alone.
    pub fn slab(length: Length, width: Length) -> Self {
        Self { shape: FaceShape::Square, length, width, corner: None, narrow: None, parts: None, avoid: vec![] }
    }

    /// Radius of its rounded corners.
    pub fn corner_or_usual(&self) -> Length {
        let shorter = if self.length < self.width { self.length } else { self.width };
        self.corner.unwrap_or(shorter / 6.0)
    }

    /// Width of its narrow end.
    pub fn narrow_or_usual(&self) -> Length {
        self.narrow.unwrap_or(self.width * 0.7)
    }

    /// Its bones or strips.
    pub fn parts_or_usual(&self) -> u32 {
        let usual = match self.shape {
            FaceShape::Rack => 8.0,
            FaceShape::Split => 2.0,
            _ => self.width.in_mm() / 40.0,
        };
        self.parts.unwrap_or_else(|| usual.round() as u32).clamp(2, 16)
    }

    /// Lays it out: outline, bones, handles.
    pub fn lay(&self) -> Result<LaidFace, OutlineError> {
        // The measures are refused here for every shape alike.
        let plain = Outline::rectangle(self.length, self.width, millimetres(0.0))?;
        let (long, wide) = (self.length.in_mm(), self.width.in_mm());
        let n = self.parts_or_usual();
        let mut bones = vec![];
        let mut outline = match self.shape {
            FaceShape::Square => plain,
            FaceShape::Round => Outline::rectangle(self.length, self.width, self.corner_or_usual())?,
            FaceShape::Taper => Outline::tapered(self.length, self.width, self.narrow_or_usual())?,
            FaceShape::Breast => Outline::breast(self.length, self.width)?,
            FaceShape::Rack => {
                let at = |i: u32| long * (f64::from(i) + 0.5) / f64::from(n);
                bones = (0..n).map(|i| ((at(i), 0.0), (at(i), wide))).collect();
                plain.avoiding_row(&(0..n).map(|i| (at(i), wide)).collect::<Vec<_>>(), millimetres(BONE_END_MM))
            }
            FaceShape::Strips => {
                let each = wide / f64::from(n);
                Outline::parts((0..n).map(|i| box_at(0.0, f64::from(i) * (each + APART_MM), long, each)).collect())
            }
            FaceShape::Split => {
                let half = long / 2.0;
                Outline::parts(vec![box_at(0.0, 0.0, half, wide), box_at(half + APART_MM, 0.0, half, wide)])
            }
        };
        for place in self.avoid.iter().take(MOST_AVOIDED) {
            outline = match *place {
                Avoid::Tie { at } => outline.without_band(at, millimetres(TIE_WIDE_MM)),
                Avoid::Spot { at, radius } => outline.avoiding(at, radius),
            };
        }
        Ok(LaidFace { outline, bones, handles: self.handles() })
    }

    fn handles(&self) -> Vec<Handle> {
        let (long, wide) = (self.length.in_mm(), self.width.in_mm());
        let n = f64::from(self.parts_or_usual());
        // What is laid apart ends further out than it measures.
        let (right, far) = match self.shape {
            FaceShape::Strips => (long, wide + (n - 1.0) * APART_MM),
            FaceShape::Split => (long + APART_MM, wide),
            _ => (long, wide),
        };
        let handle = |field: &str, name: &str, at, axis, origin, factor, value, range| Handle {
            field: field.into(),
            name: name.into(),
            at,
            axis,
            origin,
            factor,
            value,
            range,
        };
        let mut all = vec![
            handle("long", "length", (right, far / 2.0), Axis::Along, right - long, 1.0, long, (10.0, 1000.0)),
            handle("wide", "width", (right / 2.0, far), Axis::Across, far - wide, 1.0, wide, (10.0, 1000.0)),
        ];
        match self.shape {
            FaceShape::Round => {
                let (r, most) = (self.corner_or_usual().in_mm(), long.min(wide) / 2.0);
                all.push(handle("corner", "rounding of the corners", (long - r, wide), Axis::Along, long, -1.0, r, (0.0, most)));
            }
            FaceShape::Taper => {
                let narrow = self.narrow_or_usual().in_mm();
                let at = (long, f64::midpoint(wide, narrow));
                all.push(handle("narrow", "width of the narrow end", at, Axis::Across, wide / 2.0, 2.0, narrow, (10.0, wide)));
            }
            _ => {}
        }
        let (mut ties, mut spots) = (0, 0);
        for place in self.avoid.iter().take(MOST_AVOIDED) {
            all.push(match *place {
                Avoid::Tie { at } => {
                    ties += 1;
                    let (field, name) = (format!("tie-{}", ties - 1), format!("string {ties}"));
                    handle(&field, &name, (at, 0.0), Axis::Along, 0.0, 1.0, at, (0.0, right))
                }
                Avoid::Spot { at, .. } => {
                    spots += 1;
                    let (field, name) = (format!("spot-{}", spots - 1), format!("place {spots} left alone"));
                    handle(&field, &name, at, Axis::Free, 0.0, 1.0, at.0, (0.0, right))
                }
            });
        }
        all
    }
}

fn box_at(x: f64, y: f64, long: f64, wide: f64) -> Vec<(f64, f64)> {
    vec![(x, y), (x + long, y), (x + long, y + wide), (x, y + wide)]
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::AreaIn;

    fn slab(shape: FaceShape) -> FaceAsk {
        FaceAsk { shape, ..FaceAsk::slab(millimetres(300.0), millimetres(200.0)) }
    }

    #[test]
    fn strips_and_halves_keep_the_area_of_the_slab() {
        // Cutting takes nothing away: 3 × 2 dm.
        for (shape, parts) in [(FaceShape::Strips, 5), (FaceShape::Split, 2)] {
            let laid = slab(shape).lay().unwrap();
            assert!((laid.outline.area().in_dm2() - 6.0).abs() < 1e-9, "{shape:?}");
            assert_eq!(laid.outline.rings().len(), parts, "{shape:?}: 200 mm in strips of 40, or two halves");
        }
    }

    #[test]
    fn a_rack_marks_its_bones_and_leaves_their_ends_alone() {
        let laid = FaceAsk { parts: Some(6), ..slab(FaceShape::Rack) }.lay().unwrap();
        assert_eq!(laid.bones.len(), 6);
        // By hand: the middle of the first of six is at 300/12; half a circle of 6 mm is missing at each end.
        assert!((laid.bones[0].0.0 - 25.0).abs() < 1e-9);
        let closed = 6.0 - 6.0 * std::f64::consts::FRAC_PI_2 * 36.0 / 1e4;
        assert!((laid.outline.area().in_dm2() - closed).abs() < 1e-3);
    }

    #[test]
    fn every_handle_stands_where_its_measure_says() {
        let mut ask = slab(FaceShape::Taper);
        ask.avoid = vec![Avoid::Tie { at: 90.0 }, Avoid::Spot { at: (40.0, 50.0), radius: millimetres(10.0) }];
        for shape in FaceShape::ALL {
            let laid = FaceAsk { shape, ..ask.clone() }.lay().unwrap();
            for handle in &laid.handles {
                let along = if handle.axis == Axis::Across { handle.at.1 } else { handle.at.0 };
                assert!(((along - handle.origin) * handle.factor - handle.value).abs() < 1e-9, "{shape:?} {}", handle.field);
                assert!((handle.range.0..=handle.range.1).contains(&handle.value), "{shape:?} {}", handle.field);
            }
            assert!(laid.handles.iter().any(|h| h.field == "tie-0") && laid.handles.iter().any(|h| h.field == "spot-0"));
        }
    }

    #[test]
    fn absurd_measures_are_refused_for_every_shape() {
        for shape in FaceShape::ALL {
            let ask = FaceAsk { shape, ..FaceAsk::slab(millimetres(5000.0), millimetres(200.0)) };
            assert_eq!(ask.lay(), Err(OutlineError::Side(5000.0)), "{shape:?}");
            assert_eq!(FaceShape::find(shape.id()), Some(shape));
        }
    }
}
