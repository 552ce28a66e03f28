//! The piece as it is: with every guess in its place.

use super::settled::Settled;
use crate::method::Method;
use crate::piece::{Face, FaceKind, Lying, Measures};
use crate::salt::travel::Grooved;
use crate::salt::{Basis, Salt, basis_weight};
use crate::skin::drying::{Air, FridgePlacement};
use crate::units::{Area, GramsPerKg, Length, LengthIn, Mass, MassIn, Share, millimetres};

/// One portion with every open place filled.
#[derive(Debug, Clone)]
pub struct ResolvedPortion {
    /// Its weight, trimmed.
    pub weight: Mass,
    /// Its thickness at the thickest place.
    pub thickness: Length,
    /// Salt wanted in a kilogram of its basis.
    pub dose: GramsPerKg,
    /// Its own length and width.
    pub measures: Measures,
    /// Its own faces.
    pub faces: Vec<Face>,
    /// One piece of it as it meets the heat: rolled, tied, split, stuffed.
    pub heated: Lying,
}

/// A request with every open place filled; what was filled is named in `guessed`.
#[derive(Debug, Clone)]
pub struct Resolved {
    /// What was said of it, for whoever tells of its plan.
    pub settled: std::sync::Arc<Settled>,
    /// All portions together, trimmed.
    pub weight: Mass,
    /// The portions one by one.
    pub portions: Vec<ResolvedPortion>,
    /// The heaviest portion: time follows it.
    pub largest: Mass,
    /// The thickest portion's salt thickness.
    pub thickness: Length,
    /// Thickness at the thinnest place; the same where nobody said that it is uneven.
    pub thin: Length,
    /// Face of the whole dish, or of one piece.
    pub measures: Measures,
    /// Thickness of the skin, 0 without.
    pub skin: Length,
    /// Thickness of the fat under the skin or of the cap, 0 without.
    pub fat: Length,
    /// Fat at its thinnest.
    pub fat_min: Length,
    /// Share of bone.
    pub bone: Share,
    /// The school it is done by.
    pub method: Method,
    /// The salt that is weighed.
    pub salt: Salt,
    /// The dose, over all portions.
    pub dose: GramsPerKg,
    /// What the dose is counted on.
    pub basis: Basis,
    /// Servings that are carved, 1 to 200.
    pub servings: u32,
    /// The refrigerator's air.
    pub air: Air,
    /// How it lies there.
    pub lies: FridgePlacement,
    /// The faces, all portions together.
    pub faces: Vec<Face>,
    /// Lean that grooves or a lattice open besides the faces.
    pub opened: Area,
    /// Whether its skin is to crackle: a fierce stage puffs it at the end.
    pub crackles: bool,
    /// Grooves cut into the top and the bottom of the column.
    pub grooves: [Option<Grooved>; 2],
    /// Area and edge of the face where the cook gave its shape.
    pub shaped: Option<(Area, Length)>,
    /// Between its thickest and its thinnest place as it was measured, before anything was cut up.
    pub measured: Length,
    /// Whether it is cut into strips or split before the salt: then its pieces are slabs.
    pub in_slabs: bool,
    /// Fields filled in, as paths of the contract.
    pub guessed: Vec<&'static str>,
}

impl Resolved {
    /// Whether one piece lies there whose face nobody measured both ways.
    pub(crate) fn face_was_guessed(&self) -> bool {
        self.portions.len() == 1 && ["piece.length_mm", "piece.width_mm"].iter().any(|path| self.guessed.contains(path))
    }

    /// Lean under skin and fat (at least 5 mm, so that there is something to salt).
    pub fn lean(&self) -> Length {
        let lean = self.thickness - self.skin - self.fat;
        if lean.in_mm() < 5.0 { millimetres(5.0) } else { lean }
    }

    /// Length and mean width of the face: of a tapered slab less than its box.
    pub fn mean_measures(&self) -> Measures {
        let width = self.shaped.map_or(self.measures.width, |(area, _)| area / self.measures.length);
        Measures { width, ..self.measures }
    }

    /// So much meat without its bone.
    pub fn edible_of(&self, weight: Mass) -> Mass {
        basis_weight(weight, self.bone, Basis::Edible)
    }

    /// Between its thickest and its thinnest place: what its volume follows.
    pub fn middle(&self) -> Length {
        (self.thickness + self.thin) / 2.0
    }

    /// Which portion is the heaviest.
    pub fn heaviest_index(&self) -> usize {
        let by = |(_, a): &(usize, &ResolvedPortion), (_, b): &(usize, &ResolvedPortion)| a.weight.in_g().total_cmp(&b.weight.in_g());
        self.portions.iter().enumerate().rev().max_by(by).map_or(0, |(i, _)| i)
    }

    /// What a dose is counted on, of so much meat.
    pub fn basis_of(&self, weight: Mass) -> Mass {
        basis_weight(weight, self.bone, self.basis)
    }

    /// What the dose is counted on, all portions together.
    pub fn basis_weight(&self) -> Mass {
        self.basis_of(self.weight)
    }

    /// Which portion is the thickest; time follows it.
    pub fn thickest_index(&self) -> usize {
        // Of two alike the heavier, then the saltier: the order in which they were said does not matter.
        let key = |p: &ResolvedPortion| [p.thickness.in_mm(), p.weight.in_g(), p.dose.0];
        let by = |(_, a): &(usize, &ResolvedPortion), (_, b): &(usize, &ResolvedPortion)| {
            let pairs = key(a).into_iter().zip(key(b));
            pairs.map(|(a, b)| a.total_cmp(&b)).find(|o| o.is_ne()).unwrap_or(std::cmp::Ordering::Equal)
        };
        self.portions.iter().enumerate().rev().max_by(by).map_or(0, |(i, _)| i)
    }

    /// The thickest portion. There is always one: a request without portions is refused.
    pub fn thickest(&self) -> &ResolvedPortion {
        &self.portions[self.thickest_index()]
    }

    /// The face that a crust, a bed or a draw lies on: skin, else the fat cap.
    pub fn cover_face(&self) -> Option<&Face> {
        let of = |kind| self.faces.iter().find(|f| f.kind == kind);
        of(FaceKind::Skin).or_else(|| of(FaceKind::Fat))
    }
}
