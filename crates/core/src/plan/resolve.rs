//! Filling in what the cook left open, and refusing what cannot be.

use super::request::{PlanRequest, Refusal};
use crate::method::{Method, StepKind};
use crate::piece::{Body, Face, Measures, estimated_face, faces};
use crate::salt::{Basis, DoseLevel, SaltKind, dose_level};
use crate::skin::drying::Air;
use crate::units::{GramsPerKg, Length, LengthIn, Mass, MassIn, Share, TemperatureIn, TimeIn, both_length, both_mass, grams, millimetres};

/// A request with every open place filled; what was filled is named in `guessed`.
#[derive(Debug, Clone)]
pub struct Resolved {
    /// All portions together.
    pub weight: Mass,
    /// The heaviest portion: time follows it.
    pub largest: Mass,
    /// The thickest portion's salt thickness.
    pub thickness: Length,
    /// Face of the whole dish, or of one piece.
    pub measures: Measures,
    /// Skin.
    pub skin: Length,
    /// Fat.
    pub fat: Length,
    /// Fat at its thinnest.
    pub fat_min: Length,
    /// Share of bone.
    pub bone: Share,
    /// The school.
    pub method: Method,
    /// The salt.
    pub salt: SaltKind,
    /// The dose.
    pub dose: GramsPerKg,
    /// Its basis.
    pub basis: Basis,
    /// Guests.
    pub servings: u32,
    /// The refrigerator's air.
    pub air: Air,
    /// The faces, all portions together.
    pub faces: Vec<Face>,
    /// Fields filled in, as paths of the contract.
    pub guessed: Vec<&'static str>,
}

impl Resolved {
    /// Lean under skin and fat (at least 5 mm, so that there is something to salt).
    pub fn lean(&self) -> Length {
        let lean = self.thickness - self.skin - self.fat;
        if lean.in_mm() < 5.0 { millimetres(5.0) } else { lean }
    }
}

/// Fills a request, collecting every refusal at once.
pub(super) fn resolve(request: &PlanRequest) -> Result<Resolved, Vec<Refusal>> {
    let mut refused = check(request);
    let cut = request.cut;
    let mut guessed = Vec::new();
    let mut or = |field: &'static str, given: Option<Length>, usual: f64| {
        given.unwrap_or_else(|| {
            guessed.push(field);
            millimetres(usual)
        })
    };
    let own: Vec<Length> = request.portions.iter().filter_map(|p| p.thickness).collect();
    let thickest_own = own.iter().copied().fold(None, |most: Option<Length>, t| Some(most.map_or(t, |m| if t > m { t } else { m })));
    let thickness = or("piece.salt_thickness_mm", request.thickness.or(thickest_own), cut.thickness_mm.1);
    let skin = if cut.skin_mm > 0.0 { or("piece.skin_mm", request.skin, cut.skin_mm) } else { millimetres(0.0) };
    let fat = or("piece.fat_mm", request.fat, cut.fat_mm);
    let fat_min =
        request.fat_min.unwrap_or_else(|| if cut.skin_mm > 0.0 { or("piece.fat_min_mm", None, (fat.in_mm() - 1.0).max(0.0)) } else { fat });
    let bone = request.bone.unwrap_or_else(|| {
        guessed.push("piece.bone_fraction");
        Share(cut.bone_fraction)
    });
    if cut.skin_mm > 0.0 && (skin + fat).in_mm() > thickness.in_mm() - 5.0 {
        refused.push(Refusal::new(
            "piece.fat_mm",
            format!("{} of skin and {} of fat", both_length(skin).metric, both_length(fat).metric),
            format!("at least 5 mm less than the {} of thickness together", both_length(thickness).metric),
            "Measure skin and fat at the edge of the cut, and the thickness at the thickest place.",
        ));
    }
    let method = request.method.or_else(|| {
        guessed.push("method");
        Some(Method::first_for(cut))
    });
    let salt = request.salt.or_else(|| {
        guessed.push("salt.kind");
        SaltKind::find("fine-sea")
    });
    let (Some(method), Some(salt)) = (method, salt) else {
        refused.push(Refusal::new("method", "none", "a school of the table", "Choose a method."));
        return Err(refused);
    };
    let dose = request.dose.unwrap_or_else(|| {
        guessed.push("salt.g_per_kg");
        GramsPerKg(cut.dose_g_per_kg)
    });
    if let DoseLevel::Refused = dose_level(dose) {
        refused.push(Refusal::new(
            "salt.g_per_kg",
            format!("{:.1} g/kg", dose.0),
            "0 to 39.9 g/kg; 7.5 to 12.5 is usual",
            "Choose a dose you could eat; 10 g of salt per kilogram is the house dose.",
        ));
    }
    let weight = request.portions.iter().fold(grams(0.0), |sum, p| sum + p.weight);
    let largest = request.portions.iter().fold(grams(0.0), |most, p| if p.weight > most { p.weight } else { most });
    let measures =
        estimated_face(&cut, if request.portions.len() == 1 { weight } else { largest }, thickness, request.length, request.width);
    if request.length.is_none() && cut.aspect > 1.0 {
        guessed.push("piece.length_mm");
    }
    if request.width.is_none() && cut.aspect > 1.0 {
        guessed.push("piece.width_mm");
    }
    if !refused.is_empty() {
        return Err(refused);
    }
    let found = faces_of_all(request, measures, thickness, (skin, fat), method);
    Ok(Resolved {
        weight,
        largest,
        thickness,
        measures,
        skin,
        fat,
        fat_min,
        bone,
        method,
        salt,
        dose,
        basis: request.basis.unwrap_or_default(),
        servings: request.servings.unwrap_or_else(|| {
            guessed.push("servings");
            (weight.in_g() / cut.serving_g).round().max(1.0) as u32
        }),
        air: request.kitchen.fridge,
        faces: found,
        guessed,
    })
}

/// Faces of all portions added up: each portion's areas follow from its own weight and thickness.
fn faces_of_all(request: &PlanRequest, measures: Measures, thickness: Length, (skin, fat): (Length, Length), method: Method) -> Vec<Face> {
    let loosened = method.loosens(request.cut);
    let mut all: Vec<Face> = Vec::new();
    for portion in &request.portions {
        let thick = portion.thickness.unwrap_or(thickness);
        let face = if request.portions.len() == 1 {
            measures
        } else {
            estimated_face(&request.cut, portion.weight, thick, request.length, request.width)
        };
        let body = Body { weight: portion.weight, measures: face, thickness: thick, skin, fat };
        for (i, face) in faces(&request.cut, body, loosened).into_iter().enumerate() {
            match all.get_mut(i) {
                Some(sum) => sum.area += face.area,
                None => all.push(face),
            }
        }
    }
    all
}

fn check(request: &PlanRequest) -> Vec<Refusal> {
    let mut refused = Vec::new();
    let cut = request.cut;
    if request.portions.is_empty() {
        refused.push(Refusal::new("piece.portions", "none", "1 to 24 portions", "Say what it weighs."));
    }
    let (light, heavy) = (cut.typical_g.0 * 0.25, cut.typical_g.1 * 3.0);
    for portion in &request.portions {
        if !(light..=heavy).contains(&portion.weight.in_g()) {
            refused.push(Refusal::new(
                "piece.weight_g",
                both_mass(portion.weight).metric,
                format!("{} to {} for one {}", both_mass(grams(light)).metric, both_mass(grams(heavy)).metric, cut.name.to_lowercase()),
                "Weigh it again, or choose another cut.",
            ));
            break;
        }
    }
    let mut length = |field, given: Option<Length>, low: f64, high: f64, what: &str| {
        if let Some(mm) = given.map(LengthIn::in_mm)
            && !(low..=high).contains(&mm)
        {
            refused.push(Refusal::new(field, format!("{mm:.1} mm"), format!("{low} to {high} mm"), format!("Measure {what} again.")));
        }
    };
    length("piece.salt_thickness_mm", request.thickness, 8.0, 250.0, "the shortest way through at the thickest place");
    length("piece.length_mm", request.length, 20.0, 1000.0, "the long side");
    length("piece.width_mm", request.width, 20.0, 1000.0, "the short side");
    length("piece.skin_mm", request.skin, 0.0, 10.0, "the skin at the edge");
    length("piece.fat_mm", request.fat, 0.0, 60.0, "the fat at the edge");
    length("piece.fat_min_mm", request.fat_min, 0.0, 60.0, "the fat at its thinnest");
    for portion in &request.portions {
        length("piece.portions", portion.thickness, 8.0, 250.0, "each portion’s thickness");
    }
    if let (Some(thick), Some(long)) = (request.thickness, request.length)
        && thick > long
    {
        refused.push(Refusal::new(
            "piece.salt_thickness_mm",
            format!("{} thick", both_length(thick).metric),
            format!("at most its length, {}", both_length(long).metric),
            "Thickness is the shortest way through, as the piece lies in the refrigerator.",
        ));
    }
    if let Some(bone) = request.bone.filter(|b| !(0.0..=0.6).contains(&b.0)) {
        refused.push(Refusal::new(
            "piece.bone_fraction",
            format!("{}", bone.0),
            "0 to 0.6",
            "It is the share of bone in the weight: 0.3 for a duck.",
        ));
    }
    if let Some(mg) = request.solution_sodium_mg_per_100g.filter(|mg| !(0.0..=3000.0).contains(mg)) {
        refused.push(Refusal::new(
            "piece.solution",
            format!("{mg} mg"),
            "0 to 3000 mg sodium per 100 g",
            "Read the sodium line of the label.",
        ));
    }
    if let Some(dose) = request.dose.filter(|d| d.0 < 0.0 || !d.0.is_finite()) {
        refused.push(Refusal::new("salt.g_per_kg", format!("{} g/kg", dose.0), "0 to 39.9 g/kg", "Choose a dose; 10 is the house dose."));
    }
    if let Some(method) = request.method.filter(|m| !m.fits(cut)) {
        refused.push(Refusal::new(
            "method",
            method.name,
            format!("a method written for {}", cut.name.to_lowercase()),
            "The plain dry-brine works for every cut.",
        ));
    }
    if let Some(hours) = request.hours.map(TimeIn::in_h).filter(|h| !(0.0..=240.0).contains(h)) {
        refused.push(Refusal::new("hours", format!("{hours} h"), "0 to 240 h", "Leave it open, and the clock chooses."));
    }
    if let Some(n) = request.servings.filter(|n| !(1..=200).contains(n)) {
        refused.push(Refusal::new("servings", n.to_string(), "1 to 200", "Say how many eat."));
    }
    if let (Some(bought), Some(use_by)) = (request.bought_on, request.use_by)
        && use_by < bought
    {
        refused.push(Refusal::new(
            "piece.use_by",
            use_by.to_string(),
            format!("on or after the day it was bought, {bought}"),
            "Read the label again.",
        ));
    }
    if let Some(bought) = request.bought_on.filter(|b| *b > request.now.date()) {
        refused.push(Refusal::new(
            "piece.bought_on",
            bought.to_string(),
            format!("today, {}, or earlier", request.now.date()),
            "Plan it once it is in the house, or leave the day open.",
        ));
    }
    check_kitchen(request, &mut refused);
    check_done(request, &mut refused);
    check_faces(request, &mut refused);
    refused
}

fn check_kitchen(request: &PlanRequest, refused: &mut Vec<Refusal>) {
    let air = request.kitchen.fridge;
    let c = air.temperature.in_c();
    if !(-2.0..=15.0).contains(&c) {
        refused.push(Refusal::new("kitchen.fridge_c", format!("{c:.1} °C"), "−2 to 15 °C", "A refrigerator stands at 0 to 4 °C."));
    }
    if !(0.05..=0.99).contains(&air.humidity.0) {
        refused.push(Refusal::new("kitchen.fridge_rh", air.humidity.0.to_string(), "0.05 to 0.99", "50 % is 0.5."));
    }
    if !(0.5..=40.0).contains(&air.h.0) {
        refused.push(Refusal::new("kitchen.fridge_h_w_m2k", air.h.0.to_string(), "0.5 to 40 W/m²K", "Still air is 4–5, a fan 8."));
    }
}

fn check_done(request: &PlanRequest, refused: &mut Vec<Refusal>) {
    let now = request.now.timestamp();
    for done in &request.done {
        if done.at > now {
            refused.push(Refusal::new(
                "done",
                format!("{} in the future", done.kind.id()),
                "a moment that has passed",
                "Tick it when it is done.",
            ));
        } else if now.duration_since(done.at).as_hours() > 24 * 14 {
            refused.push(Refusal::new(
                "done",
                format!("{} more than two weeks ago", done.kind.id()),
                "within the last 14 days",
                "Check the date.",
            ));
        }
        if done.kind > StepKind::Chill {
            refused.push(Refusal::new(
                "done",
                done.kind.id(),
                "steps up to the refrigerator",
                "Once it is on the fire, tick the steps on its own page.",
            ));
        }
        if let Some(g) = done.salt.map(MassIn::in_g).filter(|g| !(0.0..=2000.0).contains(g)) {
            refused.push(Refusal::new("done", format!("{g} g of salt"), "0 to 2000 g", "Weigh the tub before and after."));
        }
    }
}

fn check_faces(request: &PlanRequest, refused: &mut Vec<Refusal>) {
    let Some(wanted) = &request.faces else { return };
    let measures = Measures { length: millimetres(100.0), width: millimetres(100.0) };
    let loosened = request.method.unwrap_or_else(|| Method::first_for(request.cut)).loosens(request.cut);
    let body = Body {
        weight: grams(1000.0),
        measures,
        thickness: millimetres(40.0),
        skin: millimetres(request.cut.skin_mm),
        fat: millimetres(5.0),
    };
    let known: Vec<&str> = faces(&request.cut, body, loosened).iter().map(|f| f.id).collect();
    for face in wanted.iter().filter(|f| !known.contains(&f.as_str())) {
        refused.push(Refusal::new("salt.faces", face.chars().take(40).collect::<String>(), known.join(", "), "Name faces this cut has."));
    }
    if wanted.is_empty() {
        refused.push(Refusal::new("salt.faces", "no face", known.join(", "), "Name at least one, or leave it open."));
    }
}
