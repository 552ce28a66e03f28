//! Grams over the faces.

use crate::piece::{Face, FaceKind};
use crate::units::{Area, AreaIn, GramsPerDm2, Mass, MassIn, grams};

/// How the method treats the skin.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum SaltOn {
    /// Every face takes its share, the skin a small one.
    AllFaces,
    /// Skin stays bare, clean and dry; the meat and cut sides take all.
    BareSkin,
}

/// What the cook said of where it goes; nothing said, the method and the kind of face decide.
#[derive(Debug, Clone, Copy, Default)]
pub struct SaidFaces<'a> {
    /// The faces that are salted, by area and kind.
    pub only: Option<&'a [String]>,
    /// Each face's own share; together 1.
    pub shares: Option<&'a [(String, f64)]>,
}

impl<'a> SaidFaces<'a> {
    /// Only these faces.
    pub fn only(faces: &'a [String]) -> Self {
        Self { only: Some(faces), shares: None }
    }
}

/// Salt for one face.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FaceGrams {
    /// The face it lies on, with its area.
    pub face: Face,
    /// Sodium chloride on it, or of the chosen salt where it says so; 0 or more.
    pub salt: Mass,
}

impl FaceGrams {
    /// Grams per square decimetre, as the hand feels it.
    pub fn density(&self) -> GramsPerDm2 {
        let dm2 = self.face.area.in_dm2();
        GramsPerDm2(if dm2 > 0.0 { self.salt.in_g() / dm2 } else { 0.0 })
    }
}

/// Share of salt a face takes per area (our estimate): lean and cut 1, cavity 0.6, fat cap 0.25, skin 0.15.
fn pull(kind: FaceKind) -> f64 {
    match kind {
        FaceKind::Meat | FaceKind::Cut => 1.0,
        FaceKind::Cavity => 0.6,
        FaceKind::Fat => 0.25,
        FaceKind::Skin => 0.15,
    }
}

/// Share of a bird's meat that a face feeds (our estimate, from what is carved off one): its skin and cavity are not the measure of what
/// lies behind them. A breast under its skin has some of its share from inside. Of a crown what its legs would take goes to the rest in
/// proportion.
fn feeds(face: &Face, loosened: bool) -> f64 {
    match face.id {
        "breast" | "under-skin" => {
            if loosened {
                0.42
            } else {
                0.34
            }
        }
        "legs" => 0.34,
        "cavity" => {
            if loosened {
                0.10
            } else {
                0.18
            }
        }
        _ => 0.14,
    }
}

/// Area through which salt goes in freely: each face by its pull, so that skin and fat hardly count (our estimate).
pub fn open_area(faces: &[Face]) -> Area {
    faces.iter().map(|face| face.area * pull(face.kind)).sum()
}

/// Spreads grams over faces by area and kind, over a bird by the meat behind them. The grams add up exactly to what was given.
///
/// `said` names the faces the cook wants salted, or the share of each, where the method leaves it open. Where skin stays bare a bird's
/// legs are salted all the same: nothing else reaches them.
/// A piece without any open meat (a whole bird whose skin is not loosened) keeps its skin share
/// even where the method would leave the skin bare: otherwise all of it would lie in the cavity.
pub fn spread(faces: &[Face], salt: Mass, on: SaltOn, said: SaidFaces) -> Vec<FaceGrams> {
    let has_meat = faces.iter().any(|f| matches!(f.kind, FaceKind::Meat | FaceKind::Cut));
    let bird = faces.iter().any(|f| f.kind == FaceKind::Cavity);
    let loosened = faces.iter().any(|f| f.id == "under-skin");
    let takes = |face: &Face| if bird { feeds(face, loosened) } else { face.area.in_dm2() * pull(face.kind) };
    let weight = |face: &Face| {
        if let Some(shares) = said.shares {
            return shares.iter().find(|(id, _)| id == face.id).map_or(0.0, |(_, share)| *share);
        }
        if let Some(only) = said.only {
            return if only.iter().any(|id| id == face.id) { takes(face) } else { 0.0 };
        }
        let bare = on == SaltOn::BareSkin && face.kind == FaceKind::Skin && has_meat && face.id != "legs";
        if bare { 0.0 } else { takes(face) }
    };
    let all: f64 = faces.iter().map(weight).sum();
    faces
        .iter()
        .map(|face| FaceGrams { face: *face, salt: grams(if all > 0.0 { salt.in_g() * weight(face) / all } else { 0.0 }) })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::square_decimetres;

    fn slab() -> Vec<Face> {
        let face = |id, kind, dm2| Face { id, name: id, kind, area: square_decimetres(dm2) };
        vec![face("meat", FaceKind::Meat, 6.0), face("cut", FaceKind::Cut, 4.0), face("skin", FaceKind::Skin, 6.0)]
    }

    #[test]
    fn bare_skin_stays_bare_and_the_rest_goes_by_area() {
        let on = spread(&slab(), grams(20.0), SaltOn::BareSkin, SaidFaces::default());
        let g: Vec<f64> = on.iter().map(|f| f.salt.in_g()).collect();
        assert_eq!(g, [12.0, 8.0, 0.0]);
        assert_eq!(on[0].density(), on[1].density());
    }

    #[test]
    fn all_faces_take_the_shares_of_the_table() {
        // By hand: weights 6, 4, 6 × 0.15 = 0.9; 0.9 ÷ 10.9 of 10.9 g is 0.9 g.
        let on = spread(&slab(), grams(10.9), SaltOn::AllFaces, SaidFaces::default());
        assert!((on[2].salt.in_g() - 0.9).abs() < 1e-9);
    }

    #[test]
    fn the_cook_may_name_the_faces() {
        let on = spread(&slab(), grams(10.0), SaltOn::BareSkin, SaidFaces::only(&["meat".into()]));
        assert!((on[0].salt.in_g() - 10.0).abs() < 1e-9 && on[1].salt.in_g() == 0.0);
    }

    #[test]
    fn the_cook_may_say_each_share() {
        // By hand: 0.6 and 0.1 and 0.3 of 20 g.
        let shares = [("meat".to_owned(), 0.6), ("cut".to_owned(), 0.1), ("skin".to_owned(), 0.3)];
        let on = spread(&slab(), grams(20.0), SaltOn::BareSkin, SaidFaces { only: None, shares: Some(&shares) });
        let g: Vec<f64> = on.iter().map(|f| f.salt.in_g()).collect();
        assert!(g.iter().zip([12.0, 2.0, 6.0]).all(|(got, want)| (got - want).abs() < 1e-9), "{g:?}");
    }

    #[test]
    fn a_birds_legs_have_their_share_of_the_salt() {
        // Our estimate of what is carved off a bird: breast 42 %, legs 34, back and wings 14, the rest from
        // inside; under its skin a breast has 8 of its share from there.
        let face = |id, kind, dm2| Face { id, name: id, kind, area: square_decimetres(dm2) };
        let cavity = face("cavity", FaceKind::Cavity, 5.0);
        let (legs, skin) = (face("legs", FaceKind::Skin, 4.0), face("skin", FaceKind::Skin, 6.0));
        let g = |faces: &[Face], on| spread(faces, grams(50.0), on, SaidFaces::default()).iter().map(|f| f.salt.in_g()).collect::<Vec<_>>();
        let near = |got: &[f64], want: &[f64]| got.iter().zip(want).all(|(a, b)| (a - b).abs() < 1e-9);
        assert!(near(&g(&[face("breast", FaceKind::Skin, 4.0), legs, skin, cavity], SaltOn::AllFaces), &[17.0, 17.0, 7.0, 9.0]));
        // Loosened, with the skin of the back bare: 42, 34 and 10 of 86.
        let loose = g(&[face("under-skin", FaceKind::Meat, 4.0), legs, skin, cavity], SaltOn::BareSkin);
        assert!(near(&loose, &[50.0 * 42.0 / 86.0, 50.0 * 34.0 / 86.0, 0.0, 50.0 * 10.0 / 86.0]), "{loose:?}");
    }

    proptest::proptest! {
        #[test]
        fn faces_add_up(salt in 0.0..500.0f64, a in 0.1..30.0f64, b in 0.1..30.0f64, c in 0.0..30.0f64) {
            let face = |id, kind, dm2| Face { id, name: id, kind, area: square_decimetres(dm2) };
            let faces = [face("meat", FaceKind::Meat, a), face("cavity", FaceKind::Cavity, b), face("skin", FaceKind::Skin, c)];
            for on in [SaltOn::AllFaces, SaltOn::BareSkin] {
                let sum: f64 = spread(&faces, grams(salt), on, SaidFaces::default()).iter().map(|f| f.salt.in_g()).sum();
                proptest::prop_assert!((sum - salt).abs() < 1e-6);
            }
        }
    }
}
