//! The faces of a piece and their areas.

use super::cut::{CutFacts, Family};
use super::measures::Measures;
use crate::units::{Area, AreaIn, Length, LengthIn, Mass, MassIn, square_decimetres};

/// What a face is made of; rules its share of the salt.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum FaceKind {
    /// Skin to be crackled or rendered.
    Skin,
    /// A fat cap or fat edge.
    Fat,
    /// Lean, opened by nature or by loosening the skin over it.
    Meat,
    /// Sawn or sliced side.
    Cut,
    /// The inside of a bird.
    Cavity,
}

impl FaceKind {
    /// Stable name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Skin => "skin",
            Self::Fat => "fat",
            Self::Meat => "meat",
            Self::Cut => "cut",
            Self::Cavity => "cavity",
        }
    }
}

/// One face of a piece.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Face {
    /// Stable name: `skin`, `fat`, `meat`, `cut`, `edge`, `breast`, `under-skin`, `legs`, `cavity`.
    pub id: &'static str,
    /// What a cook calls it.
    pub name: &'static str,
    /// What it is made of.
    pub kind: FaceKind,
    /// Its area, open or not.
    pub area: Area,
}

/// Outer area of a bird ÷ area of a sphere of its bulk (our estimate): legs, wings and folds add a quarter.
const BIRD_ROUGHNESS: f64 = 1.25;
/// Bulk of a bird including its cavity, L per kg (our estimate).
const BIRD_BULK_L_PER_KG: f64 = 1.27;
/// Cavity area ÷ outer area (our estimate).
const CAVITY_SHARE: f64 = 0.35;
/// Breast ÷ outer area (our estimate).
const BREAST_SHARE: f64 = 0.30;
/// Breast of a crown ÷ its outer area (our estimate).
const CROWN_BREAST_SHARE: f64 = 0.5;
/// Both legs ÷ outer area (our estimate).
const LEGS_SHARE: f64 = 0.28;

/// What the areas of a piece follow from.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Body {
    /// Weight of the piece.
    pub weight: Mass,
    /// Length and width.
    pub measures: Measures,
    /// Thickness from face to face.
    pub thickness: Length,
    /// Skin; 0 for none.
    pub skin: Length,
    /// Fat; 0 for none.
    pub fat: Length,
    /// Area and edge of a slab's face, where it is no rectangle of its measures.
    pub shaped: Option<(Area, Length)>,
}

/// The faces of a piece, from its family and measures.
///
/// A slab's areas are those of the box length × width × thickness. A bird's are estimates from
/// its weight: a sphere of its bulk, roughened; `loosened` opens the breast under the skin as a
/// face of its own and takes it off the skin.
pub fn faces(cut: &CutFacts, body: Body, loosened: bool) -> Vec<Face> {
    let Body { weight, measures, thickness, skin, fat, shaped } = body;
    let (flat, edge) = shaped.unwrap_or((measures.length * measures.width, 2.0 * (measures.length + measures.width)));
    let rim = edge * thickness;
    match cut.family {
        Family::SkinSlab => vec![
            Face { id: "meat", name: "meat side", kind: FaceKind::Meat, area: flat },
            Face { id: "cut", name: "cut sides", kind: FaceKind::Cut, area: rim },
            Face { id: "skin", name: "skin", kind: FaceKind::Skin, area: flat },
        ],
        Family::Steak => {
            let edge = if fat.in_mm() > 0.0 { FaceKind::Fat } else { FaceKind::Meat };
            vec![
                Face { id: "cut", name: "both cut faces", kind: FaceKind::Cut, area: 2.0 * flat },
                Face { id: "edge", name: "edge", kind: edge, area: rim },
            ]
        }
        Family::CapSlab => vec![
            Face { id: "meat", name: "meat side", kind: FaceKind::Meat, area: flat },
            Face { id: "cut", name: "cut sides", kind: FaceKind::Cut, area: rim },
            Face { id: "fat", name: "fat cap", kind: FaceKind::Fat, area: flat },
        ],
        Family::Roast | Family::Rack => {
            // A cylinder: its mantle, a third of it under the cap, and two cut ends.
            let mantle = std::f64::consts::PI * thickness * measures.length;
            let ends = std::f64::consts::FRAC_PI_2 * thickness * thickness;
            covered(mantle, ends, skin, fat)
        }
        Family::Joint => {
            // An ellipsoid: the closed form of a sphere of its volume, roughened; a sixth of it was cut.
            let dm3 = weight.in_kg() / super::MEAT_DENSITY_KG_PER_L;
            let whole = square_decimetres((36.0 * std::f64::consts::PI).cbrt() * dm3.powf(2.0 / 3.0) * JOINT_ROUGHNESS);
            covered(whole * (5.0 / 6.0), whole / 6.0, skin, fat)
        }
        Family::FlatBird => {
            let bulk_dm3 = weight.in_kg() / super::MEAT_DENSITY_KG_PER_L;
            // Flattened it has two sides of the thickness of its breast: skin above, bones below.
            let side = square_decimetres(bulk_dm3 / (FLAT_MEAN_THICKNESS * thickness.in_mm() / 100.0));
            bird_faces(side, side * FLAT_CAVITY_SHARE, loosened, true)
        }
        Family::Bird | Family::Crown => {
            let bulk_dm3 = weight.in_kg() * BIRD_BULK_L_PER_KG;
            // Area of a sphere of volume V: (36π)^⅓ · V^⅔.
            let outer = square_decimetres((36.0 * std::f64::consts::PI).cbrt() * bulk_dm3.powf(2.0 / 3.0) * BIRD_ROUGHNESS);
            bird_faces(outer, outer * CAVITY_SHARE, loosened, cut.family == Family::Bird)
        }
    }
}

/// Outer area of a joint ÷ area of a sphere of its volume (our estimate).
const JOINT_ROUGHNESS: f64 = 1.15;
/// Share of a round piece that lies under skin or cap (our estimate).
const CAP_SHARE: f64 = 1.0 / 3.0;
/// Mean thickness of a flattened bird ÷ thickness of its breast (our estimate): legs and wings are thinner.
const FLAT_MEAN_THICKNESS: f64 = 0.6;
/// Share of the underside of a flattened bird that lies open between its bones (our estimate).
const FLAT_CAVITY_SHARE: f64 = 0.6;

/// Faces of a round piece: a third of its mantle is skin or fat cap, the rest lean, and there are cut ends.
fn covered(mantle: Area, ends: Area, skin: Length, fat: Length) -> Vec<Face> {
    let cover = match (skin.in_mm() > 0.0, fat.in_mm() > 0.0) {
        (true, _) => Some(("skin", "skin", FaceKind::Skin)),
        (false, true) => Some(("fat", "fat cap", FaceKind::Fat)),
        (false, false) => None,
    };
    let bare = if cover.is_some() { mantle * (1.0 - CAP_SHARE) } else { mantle };
    let mut faces = vec![
        Face { id: "meat", name: "meat sides", kind: FaceKind::Meat, area: bare },
        Face { id: "cut", name: "cut ends", kind: FaceKind::Cut, area: ends },
    ];
    faces.extend(cover.map(|(id, name, kind)| Face { id, name, kind, area: mantle * CAP_SHARE }));
    faces
}

/// Faces of a bird: breast, legs, the rest of the skin, and the cavity. Loosening opens the breast's meat under its skin.
fn bird_faces(outer: Area, cavity: Area, loosened: bool, legged: bool) -> Vec<Face> {
    let (breast, legs) = if legged { (outer * BREAST_SHARE, outer * LEGS_SHARE) } else { (outer * CROWN_BREAST_SHARE, outer * 0.0) };
    let chest = if loosened {
        Face { id: "under-skin", name: "breast, under the skin", kind: FaceKind::Meat, area: breast }
    } else {
        Face { id: "breast", name: "breast", kind: FaceKind::Skin, area: breast }
    };
    let back = if legged { "back and wings" } else { "back and sides" };
    let mut faces = vec![chest];
    faces.extend(legged.then_some(Face { id: "legs", name: "legs", kind: FaceKind::Skin, area: legs }));
    faces.push(Face { id: "skin", name: back, kind: FaceKind::Skin, area: outer - breast - legs });
    faces.push(Face { id: "cavity", name: "cavity", kind: FaceKind::Cavity, area: cavity });
    faces
}

impl Face {
    /// The area in square decimetres.
    pub fn dm2(&self) -> f64 {
        self.area.in_dm2()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::Cut;
    use crate::units::{grams, millimetres};

    #[test]
    fn a_slab_has_the_areas_of_its_box() {
        let belly = Cut::find("pork-belly").unwrap();
        let measures = Measures { length: millimetres(300.0), width: millimetres(220.0) };
        let found = faces(
            &belly,
            Body {
                weight: grams(3000.0),
                measures,
                thickness: millimetres(45.0),
                skin: millimetres(2.5),
                fat: millimetres(8.0),
                shaped: None,
            },
            false,
        );
        // By hand: 3.0 × 2.2 dm = 6.6 dm² (the worked face of TRADE 5.3); rim 2 × 5.2 × 0.45 = 4.68 dm².
        assert!((found[0].dm2() - 6.6).abs() < 1e-9);
        assert!((found[1].dm2() - 4.68).abs() < 1e-9);
    }

    #[test]
    fn a_sphere_of_one_litre_has_the_closed_form_area() {
        // Closed form: 4.83598 dm² for 1 dm³; times the declared roughness 1.25.
        let duck = Cut::find("duck-whole").unwrap();
        let none = Measures { length: millimetres(1.0), width: millimetres(1.0) };
        let found = faces(
            &duck,
            Body {
                weight: grams(1000.0 / BIRD_BULK_L_PER_KG),
                measures: none,
                thickness: millimetres(35.0),
                skin: millimetres(2.0),
                fat: millimetres(4.0),
                shaped: None,
            },
            false,
        );
        let outer: f64 = found.iter().filter(|f| f.kind == FaceKind::Skin).map(Face::dm2).sum();
        assert!((outer - 4.83598 * 1.25).abs() < 1e-3);
        assert_eq!(found.iter().map(|f| f.id).collect::<Vec<_>>(), ["breast", "legs", "skin", "cavity"]);
    }

    #[test]
    fn a_roast_has_the_areas_of_its_cylinder() {
        // Closed form, d 1 dm, l 2 dm: mantle 2π dm², a third under the cap; two ends of π/4 dm².
        let roast = Cut::find("beef-round-roast").unwrap();
        let measures = Measures { length: millimetres(200.0), width: millimetres(100.0) };
        let body = Body {
            weight: grams(1657.0),
            measures,
            thickness: millimetres(100.0),
            skin: millimetres(0.0),
            fat: millimetres(5.0),
            shaped: None,
        };
        let areas: Vec<f64> = faces(&roast, body, false).iter().map(Face::dm2).collect();
        for (area, want) in areas.iter().zip([std::f64::consts::TAU * 2.0 / 3.0, std::f64::consts::FRAC_PI_2, std::f64::consts::TAU / 3.0])
        {
            assert!((area - want).abs() < 1e-9, "{areas:?}");
        }
    }
}
