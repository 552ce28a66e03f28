//! What a task makes of a piece's shape: the weight stays, the way through it changes.

use super::cut::{Cut, FireShape};
use super::measures::{MEAT_DENSITY_KG_PER_L, Measures};
use crate::units::{Length, LengthIn, Mass, MassIn, millimetres};

/// A change of shape.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Reshape {
    /// A slab rolled up along its length: a cylinder, an outside inside.
    Rolled,
    /// Tied or trussed: as thick everywhere as it is in the middle.
    Tied,
    /// Two of half the thickness.
    Split,
    /// Strips along the grain, as thick as the piece at most.
    Strips,
    /// A hollow bird filled: no heat from inside.
    Stuffed,
}

impl Reshape {
    /// Every change.
    pub const ALL: [Self; 5] = [Self::Rolled, Self::Tied, Self::Split, Self::Strips, Self::Stuffed];

    /// Stable name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Rolled => "rolled",
            Self::Tied => "tied",
            Self::Split => "split",
            Self::Strips => "strips",
            Self::Stuffed => "stuffed",
        }
    }

    /// By its name.
    pub fn find(id: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|shape| shape.id() == id)
    }

    /// Whether an outside becomes an inside by it.
    pub fn turns_in(self) -> bool {
        self == Self::Rolled
    }
}

/// Strips are cut so thick (TRADE 3.1: whole 45, strips 38).
pub const STRIP_MM: f64 = 38.0;
/// A stuffed bird's conduction radius ÷ the same bird's hollow (our estimate, from TRADE 9.17: a tenth more time).
pub const STUFFED: f64 = 1.05;

/// One piece as it lies: what a change of shape starts from and gives.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Lying {
    /// Weight of one.
    pub weight: Mass,
    /// Thickness at the thickest place.
    pub thickness: Length,
    /// And halfway to the thinnest: what its volume follows.
    pub middle: Length,
    /// Length and width.
    pub measures: Measures,
    /// What the heat meets.
    pub fire: FireShape,
    /// How many there are of what was one piece.
    pub pieces: usize,
}

impl Lying {
    /// A piece of a cut before anything is done to it.
    pub fn of(cut: Cut, weight: Mass, (thickness, middle): (Length, Length), measures: Measures) -> Self {
        Self { weight, thickness, middle, measures, fire: cut.fire, pieces: 1 }
    }

    /// After one change; weight × pieces stays what it was.
    #[must_use]
    pub fn reshaped(self, by: Reshape) -> Self {
        match by {
            Reshape::Rolled => {
                // V = π r² L about its long side: the round's diameter is what is heated through.
                let litres = self.weight.in_kg() / MEAT_DENSITY_KG_PER_L;
                let long = self.measures.length.in_mm().max(1.0);
                let across = millimetres(2.0 * (litres * 1e6 / (std::f64::consts::PI * long)).sqrt());
                let measures = Measures { width: across, ..self.measures };
                Self { thickness: across, middle: across, measures, fire: FireShape::Cylinder, ..self }
            }
            Reshape::Tied => Self { thickness: self.middle, ..self },
            Reshape::Split => {
                let half = |length: Length| length / 2.0;
                Self {
                    weight: self.weight / 2.0,
                    thickness: half(self.thickness),
                    middle: half(self.middle),
                    pieces: self.pieces * 2,
                    ..self
                }
            }
            Reshape::Strips => {
                // As many as lie side by side, none thicker than the piece.
                let strips = (self.measures.width.in_mm() / STRIP_MM).round().max(1.0);
                let width = self.measures.width / strips;
                let thin = |length: Length| if width < length { width } else { length };
                let pieces = self.pieces * strips as usize;
                let measures = Measures { width, ..self.measures };
                Self {
                    weight: self.weight / strips,
                    thickness: thin(self.thickness),
                    middle: thin(self.middle),
                    measures,
                    pieces,
                    fire: FireShape::Slab,
                }
            }
            Reshape::Stuffed => match self.fire {
                FireShape::HollowBird { radius_mm, at_g } => {
                    Self { fire: FireShape::HollowBird { radius_mm: radius_mm * STUFFED, at_g }, ..self }
                }
                _ => self,
            },
        }
    }

    /// Weight of all of them together.
    pub fn in_all(&self) -> Mass {
        self.weight * self.pieces as f64
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::grams;

    fn belly() -> Lying {
        let measures = Measures { length: millimetres(267.0), width: millimetres(190.0) };
        Lying::of(Cut::find("pork-belly").unwrap(), grams(2400.0), (millimetres(45.0), millimetres(45.0)), measures)
    }

    #[test]
    fn a_roll_holds_what_the_slab_held() {
        // Closed form, by hand: 2400 g ÷ 1.055 = 2.275 L; r = √(2.275·10⁶ ÷ (π · 267)) = 52.1 mm.
        let roll = belly().reshaped(Reshape::Rolled);
        assert!((roll.thickness.in_mm() - 104.2).abs() < 0.4, "{}", roll.thickness.in_mm());
        let litres = std::f64::consts::PI * (roll.thickness.in_mm() / 2.0).powi(2) * 267.0 / 1e6;
        assert!((litres * MEAT_DENSITY_KG_PER_L - 2.4).abs() < 1e-9 && roll.fire == FireShape::Cylinder);
    }

    #[test]
    fn two_halves_and_strips_weigh_what_was_there() {
        let halves = belly().reshaped(Reshape::Split);
        assert_eq!((halves.pieces, halves.thickness.in_mm(), halves.in_all().in_g()), (2, 22.5, 2400.0));
        // 190 mm wide: five strips of 38.
        let strips = belly().reshaped(Reshape::Strips);
        assert_eq!((strips.pieces, strips.thickness.in_mm()), (5, 38.0));
        assert!((strips.in_all().in_g() - 2400.0).abs() < 1e-9);
    }

    #[test]
    fn tying_makes_it_as_thick_as_its_middle() {
        let uneven = Lying { thickness: millimetres(90.0), middle: millimetres(70.0), ..belly() };
        assert!((uneven.reshaped(Reshape::Tied).thickness.in_mm() - 70.0).abs() < 1e-9);
    }

    #[test]
    fn only_a_hollow_bird_is_stuffed() {
        let duck = Lying { fire: FireShape::HollowBird { radius_mm: 40.0, at_g: 2400.0 }, ..belly() };
        assert!(matches!(duck.reshaped(Reshape::Stuffed).fire, FireShape::HollowBird { radius_mm, .. } if (radius_mm - 42.0).abs() < 1e-9));
        assert_eq!(belly().reshaped(Reshape::Stuffed), belly());
    }
}
