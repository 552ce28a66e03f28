//! Filling in what the cook left open.

use super::as_method::{as_the_method_has_it, at_the_document, shapes};
use super::check::check;
use super::request::{PlanRequest, Refusal};
use super::skin::shaped;
use crate::method::Method;
use crate::piece::{Body, Cut, Face, FaceKind, Family, Lying, Measures, Reshape, estimated_face, faces};
use crate::salt::travel::Grooved;
use crate::salt::{Basis, DoseLevel, Salt, basis_weight, dose_level};
use crate::skin::drying::{Air, FridgePlacement};
use crate::units::{Area, GramsPerKg, Length, LengthIn, Mass, MassIn, Share, both_length, grams, millimetres, square_decimetres};
use std::borrow::Cow;

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
    pub(super) fn face_was_guessed(&self) -> bool {
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

/// Fills a request, collecting every refusal at once: one a field.
pub(super) fn resolve(request: &PlanRequest) -> Result<Resolved, Vec<Refusal>> {
    fill(request, check(request), true)
}

/// Fills the request of a kept piece: what is refused today is no reason not to show what was kept.
pub(super) fn resolve_kept(request: &PlanRequest) -> Result<Resolved, Vec<Refusal>> {
    fill(request, vec![], false)
}

/// Everything today's rules would refuse of a request.
pub fn refusals(request: &PlanRequest) -> Vec<Refusal> {
    resolve(&as_the_method_has_it(request)).err().map_or_else(Vec::new, |refused| at_the_document(request, refused))
}

/// A layer thinner than this is none: nobody measures it, and what is followed in it would take steps of its own size, mm.
pub const LEAST_LAYER_MM: f64 = 0.1;

fn layer(thick: Length) -> Length {
    if thick.in_mm() < LEAST_LAYER_MM { millimetres(0.0) } else { thick }
}

fn fill(request: &PlanRequest, mut refused: Vec<Refusal>, strict: bool) -> Result<Resolved, Vec<Refusal>> {
    let cut = request.cut;
    let mut guessed = Vec::new();
    let mut or = |field: &'static str, given: Option<Length>, usual: f64| {
        given.unwrap_or_else(|| {
            guessed.push(field);
            millimetres(usual)
        })
    };
    // Portions without a thickness of their own have the dish's, or the cut's usual one; time goes by the thickest of all.
    if request.thickness.is_none() && request.portions.iter().any(|p| p.thickness.is_none()) {
        or("piece.salt_thickness_mm", None, 0.0);
    }
    let thickness = request.portions.iter().map(|p| request.thick_of(p)).fold(millimetres(0.0), |m, t| if t > m { t } else { m });
    let skin = if cut.skin_mm > 0.0 { layer(or("piece.skin_mm", request.skin, cut.skin_mm)) } else { millimetres(0.0) };
    // A guess of ours gives way to what was measured: on a thin piece lies less.
    let room = (thickness.in_mm() - LEAST_LEAN_MM - skin.in_mm()).max(LEAST_LAYER_MM);
    let usual_fat = if cut.skin_mm > 0.0 { cut.fat_mm.min(room) } else { cut.fat_mm };
    let fat = layer(or("piece.fat_mm", request.fat, usual_fat));
    let usual_min = || if cut.skin_mm > 0.0 { or("piece.fat_min_mm", None, (fat.in_mm() - 1.0).max(0.0)) } else { fat };
    let fat_min = request.fat_min.map_or_else(usual_min, layer);
    let bone = request.bone.unwrap_or_else(|| {
        guessed.push("piece.bone_fraction");
        Share(cut.bone_fraction)
    });
    refused.extend(too_deep_a_cover(cut, (skin, fat), thickness));
    if request.method.is_none() {
        guessed.push("method");
    }
    let method = request.the_method();
    let salt = request.salt.clone().or_else(|| {
        guessed.push("salt.kind");
        method.says.salt.clone().or_else(|| Salt::find("fine-sea"))
    });
    let Some(salt) = salt else {
        refused.push(Refusal::new("salt.kind", "none", "one of the salts", "Choose a salt."));
        return Err(refused);
    };
    let usual_dose = usual_dose(request, &method, &mut guessed, &mut refused);
    let weight_of = |p: &super::Portion| request.trimmed_weight(p);
    let weight = request.portions.iter().fold(grams(0.0), |sum, p| sum + weight_of(p));
    let largest = request.portions.iter().map(weight_of).fold(grams(0.0), |most, w| if w > most { w } else { most });
    let thin = request.thin.unwrap_or(thickness);
    // An uneven piece is a wedge: its volume follows its middle thickness.
    let middle = (thickness + thin) / 2.0;
    let knife = request.skin_work.as_ref().filter(|_| !cut.is_bird());
    let (length, width) = (knife.and_then(|k| k.length).or(request.length), knife.and_then(|k| k.width).or(request.width));
    let measures = estimated_face(&cut, if request.portions.len() == 1 { weight } else { largest }, middle, length, width);
    for (field, said) in [("piece.length_mm", length), ("piece.width_mm", width)] {
        if said.is_none() && cut.aspect > 1.0 {
            guessed.push(field);
        }
    }
    let shaped = shaped(request, measures).filter(|_| matches!(cut.family, Family::SkinSlab | Family::CapSlab | Family::Steak));
    let shaped = shaped.transpose().unwrap_or_else(|refusal| {
        refused.push(refusal);
        None
    });
    if strict && !refused.is_empty() {
        return Err(one_a_field(refused));
    }
    let shapes = shapes(request, &method);
    let piece = ResolvedPiece { middle, measures, skin, fat, method: &method, usual_dose, shaped, shapes: &shapes };
    let basis = request.basis.or(method.says.basis).unwrap_or_default();
    let crackles = skin.in_mm() > 0.0 && cut.has_fat_window() && request.fire.puffs(cut, &method, request.kitchen.heat);
    let portions = fill_portions(request, &piece);
    // Cut into strips or split before the salt, it is thinner from then on; tied, as thick as its middle.
    let cut_up = shapes.iter().any(|(before, _)| *before);
    let thickness = if cut_up { thickest_of(&portions) } else { thickness };
    let thin = if cut_up && thin > thickness { thickness } else { thin };
    let on_all: f64 = portions.iter().map(|p| p.dose.0 * p.weight.in_kg()).sum();
    Ok(Resolved {
        weight,
        faces: add_up(&portions),
        dose: GramsPerKg(on_all / weight.in_kg().max(1e-9)),
        portions,
        largest,
        thickness,
        thin,
        measures,
        skin,
        fat,
        fat_min,
        bone,
        method,
        salt,
        basis,
        servings: request.servings.unwrap_or_else(|| {
            guessed.push("servings");
            (weight.in_g() / cut.serving_g).round().max(1.0) as u32
        }),
        air: request.kitchen.fridge,
        lies: request.lying(),
        opened: square_decimetres(0.0),
        crackles,
        grooves: [None; 2],
        shaped,
        measured: middle,
        in_slabs: in_slabs(&shapes),
        guessed,
    })
}

/// So much lean is left at least.
const LEAST_LEAN_MM: f64 = 5.0;

/// Skin and fat that leave no lean.
fn too_deep_a_cover(cut: Cut, (skin, fat): (Length, Length), thickness: Length) -> Option<Refusal> {
    let too_deep = cut.skin_mm > 0.0 && (skin + fat).in_mm() > thickness.in_mm() - LEAST_LEAN_MM + 1e-9;
    too_deep.then(|| {
        Refusal::new(
            "piece.fat_mm",
            format!("{} of skin and {} of fat", both_length(skin).metric, both_length(fat).metric),
            format!("at least 5 mm less than the {} of thickness together", both_length(thickness).metric),
            "Measure skin and fat at the edge of the cut, and the thickness at the thickest place.",
        )
    })
}

fn thickest_of(portions: &[ResolvedPortion]) -> Length {
    portions.iter().map(|p| p.thickness).fold(millimetres(0.0), |m, t| if t > m { t } else { m })
}

/// Whether it is cut up before the salt.
fn in_slabs(shapes: &[(bool, Reshape)]) -> bool {
    shapes.iter().any(|(before, by)| *before && matches!(by, Reshape::Split | Reshape::Strips))
}

/// Of several refusals of one field the first says what to do.
pub(super) fn one_a_field(refused: Vec<Refusal>) -> Vec<Refusal> {
    let mut kept: Vec<Refusal> = Vec::with_capacity(refused.len());
    for refusal in refused {
        if !kept.iter().any(|k| k.field == refusal.field) {
            kept.push(refusal);
        }
    }
    kept
}

/// The dose where a portion has none of its own; refused where nobody could eat it.
fn usual_dose(request: &PlanRequest, method: &Method, guessed: &mut Vec<&'static str>, refused: &mut Vec<Refusal>) -> GramsPerKg {
    let usual_dose = request.dose.unwrap_or_else(|| {
        if request.portions.iter().any(|p| p.dose.is_none()) {
            guessed.push("salt.g_per_kg");
        }
        method.says.dose.unwrap_or(GramsPerKg(request.cut.dose_g_per_kg))
    });
    let too_much = request.portions.iter().map(|p| p.dose.unwrap_or(usual_dose)).position(|d| dose_level(d) == DoseLevel::Refused);
    if let Some(index) = too_much {
        let own = request.portions[index].dose;
        let dose = own.unwrap_or(usual_dose);
        refused.push(Refusal::new(
            if own.is_some() { Cow::Owned(format!("piece.portions[{index}].g_per_kg")) } else { Cow::Borrowed("salt.g_per_kg") },
            format!("{:.1} g/kg", dose.0),
            "0 to 39.9 g/kg; 7.5 to 12.5 is usual",
            "Choose a dose you could eat; 10 g of salt a kilogram is usual.",
        ));
    }
    usual_dose
}

/// What portions are filled with.
struct ResolvedPiece<'a> {
    middle: Length,
    measures: Measures,
    skin: Length,
    fat: Length,
    method: &'a Method,
    usual_dose: GramsPerKg,
    shaped: Option<(Area, Length)>,
    shapes: &'a [(bool, Reshape)],
}

fn fill_portions(request: &PlanRequest, resolved: &ResolvedPiece) -> Vec<ResolvedPortion> {
    let cut = request.cut;
    let single = request.portions.len() == 1;
    let fill = |portion: &super::Portion| {
        let own = request.thick_of(portion);
        let weight = request.trimmed_weight(portion);
        let (through, face) = if single {
            (resolved.middle, resolved.measures)
        } else {
            (own, estimated_face(&cut, weight, own, request.length, request.width))
        };
        let shaped = resolved.shaped.filter(|_| single);
        let whole = Lying::of(cut, weight, (own, through), face);
        let after = |lying: Lying, salted: bool| {
            resolved.shapes.iter().filter(|(before, _)| *before == salted).fold(lying, |lying, (_, by)| lying.reshaped(*by))
        };
        let salted = after(whole, true);
        let body = Body {
            weight: salted.weight,
            measures: salted.measures,
            thickness: salted.middle,
            skin: resolved.skin,
            fat: resolved.fat,
            shaped: shaped.filter(|_| salted == whole),
        };
        let mut faces = faces(&cut, body, resolved.method.loosens(cut));
        for face in &mut faces {
            face.area *= salted.pieces as f64;
        }
        let dose = portion.dose.unwrap_or(resolved.usual_dose);
        ResolvedPortion { weight, thickness: salted.thickness, dose, measures: face, faces, heated: after(salted, false) }
    };
    request.portions.iter().map(fill).collect()
}

/// Faces of all portions added up: each portion's areas follow from its own weight and thickness.
fn add_up(portions: &[ResolvedPortion]) -> Vec<Face> {
    let mut all: Vec<Face> = Vec::new();
    for portion in portions {
        for (i, face) in portion.faces.iter().enumerate() {
            match all.get_mut(i) {
                Some(sum) => sum.area += face.area,
                None => all.push(*face),
            }
        }
    }
    all
}
