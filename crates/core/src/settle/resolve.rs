//! Filling in what the cook left open.

use super::as_method::{as_the_method_has_it, at_the_document, shapes};
use super::check::check;
use super::resolved::{Resolved, ResolvedPortion};
use super::settled::Settled;
use super::skin::shaped;
use crate::ask::{PlanRequest, Refusal};
use crate::method::Method;
use crate::piece::{Body, Cut, Face, Family, Lying, Measures, Reshape, estimated_face, faces};
use crate::salt::{DoseLevel, Salt, dose_level};
use crate::units::{Area, GramsPerKg, Length, LengthIn, MassIn, Share, both_length, grams, millimetres, square_decimetres};
use std::borrow::Cow;

/// Fills a request, collecting every refusal at once: one a field.
pub(crate) fn resolve(request: &PlanRequest) -> Result<Resolved, Vec<Refusal>> {
    fill(request, check(request), true)
}

/// Fills the request of a kept piece: what is refused today is no reason not to show what was kept.
pub(crate) fn resolve_kept(request: &PlanRequest) -> Result<Resolved, Vec<Refusal>> {
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
    let weight_of = |p: &crate::ask::Portion| request.trimmed_weight(p);
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
        settled: std::sync::Arc::new(Settled::of(request)),
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
pub(crate) fn one_a_field(refused: Vec<Refusal>) -> Vec<Refusal> {
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
    let fill = |portion: &crate::ask::Portion| {
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
