//! Too late for a dry-brine: what to do instead, each computed on this piece.

use super::chill::{liquid_round, through_the_heat};
use super::course::Course;
use super::parts::FridgePlan;
use crate::ask::PlanRequest;
use crate::fire::HeatSpell;
use crate::place::Meals;
use crate::salt::FaceGrams;
use crate::settle::Resolved;
use crate::settle::salted_at;
use crate::units::{Dryness, GramsPerKg, Length, LengthIn, Mass, MassIn, Time, TimeIn, grams, hours};
use crate::words;
use jiff::ZonedDateTime;

/// Where too few hours are left for the salt to go in.
#[derive(Debug, Clone, PartialEq)]
pub struct TooLate {
    /// What the hours left would do, in a sentence.
    pub says: String,
    /// What to do instead, in the order of how little it asks.
    pub ways: Vec<LateWay>,
}

/// Which way.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum LateKind {
    /// Fewer grams, laid on now.
    LessSalt,
    /// Unsalted and open until the heat, then fewer grams just before it.
    JustBefore,
    /// The same dose, and a meal with the shortest sound hours.
    Later,
    /// The same dose, and a meal with the usual hours.
    LaterStill,
}

impl LateKind {
    /// Stable kebab-case name.
    pub fn id(self) -> &'static str {
        match self {
            Self::LessSalt => "less-salt",
            Self::JustBefore => "just-before",
            Self::Later => "later",
            Self::LaterStill => "later-still",
        }
    }

    /// The method that lays the salt on so, where it takes another one.
    pub fn method(self) -> Option<&'static str> {
        (self == Self::JustBefore).then_some("salt-after-cold")
    }
}

/// One way, with what it gives on the plate. An estimate, as travel through the heat is.
#[derive(Debug, Clone, PartialEq)]
pub struct LateWay {
    /// What kind of way it is: fewer grams, salt just before the heat, a later meal.
    pub kind: LateKind,
    /// What to do.
    pub what: String,
    /// Salt to weigh, as the scale shows it.
    pub on_scale: Mass,
    /// The dose it comes to.
    pub dose: GramsPerKg,
    /// Hours of salt in the refrigerator.
    pub salted: Time,
    /// The outer mouthful on the plate.
    pub rim: GramsPerKg,
    /// How far it is seasoned on the plate.
    pub depth: Length,
    /// How dry the skin is when it leaves the refrigerator; `None` without skin.
    pub dryness: Option<Dryness>,
    /// The meal, where it is another one.
    pub serve: Option<ZonedDateTime>,
}

/// What the ways are computed from.
pub(super) struct Late<'a> {
    pub request: &'a PlanRequest,
    pub resolved: &'a Resolved,
    pub fridge: &'a FridgePlan,
    /// Salt on the thickest portion's faces, all of it.
    pub laid: &'a [FaceGrams],
    /// Of that what is not weighed any more.
    pub fixed: &'a [FaceGrams],
    /// Grams still to be weighed, as the scale shows them.
    pub on_scale: Mass,
    /// The times and temperatures from the refrigerator to the plate.
    pub heat: &'a [HeatSpell],
    /// Whether the first of them is the standing out before the heat.
    pub tempers: bool,
    pub meals: &'a Meals,
}

/// Below this many grams on the scale there is nothing to take less of.
const LEAST_G: f64 = 0.5;

/// The ways, where the hours left are fewer than the shortest useful ones and no salt is on yet.
pub(super) fn too_late(late: &Late) -> Option<TooLate> {
    let fridge = late.fridge;
    let planned = fridge.planned;
    let missing = planned.in_h() < fridge.useful.shortest.in_h() - 0.05;
    // What is salted after the cold in any case waits for no hours of salt.
    let after = late.request.the_method().salts_after_the_cold();
    if !missing || after || salted_at(late.request).is_some() || late.on_scale.in_g() < LEAST_G {
        return None;
    }
    let now = bite(late, 1.0, planned, planned);
    // What the usual dose is after the usual hours: the first bite everybody knows. Who weighs less already is not asked to weigh
    // less again.
    let usual_dose = late.request.the_method().says.dose.map_or(late.request.cut.dose_g_per_kg, |dose| dose.0);
    let times = (usual_dose / late.resolved.dose.0.max(1e-9)).max(1.0);
    let usual = bite(late, times, fridge.useful.ideal, fridge.useful.ideal);
    let as_salty = now.rim.0 <= usual.rim.0 * 1.05;
    if late.request.dose.is_some() && as_salty {
        return None;
    }
    let mut ways = Vec::new();
    if !as_salty {
        let share = share_for(late, usual.rim.0, planned, planned);
        ways.push(way(late, LateKind::LessSalt, share, planned, planned, None));
    }
    let share = share_for(late, usual.rim.0, hours(0.0), planned);
    ways.push(way(late, LateKind::JustBefore, share, hours(0.0), planned, None));
    // The meals the clock has found already; their hours are the school's own.
    let serve = late.request.serve_at.as_ref();
    let is_later = |meal: &ZonedDateTime| serve.is_none_or(|serve| meal > serve);
    if is_later(&late.meals.earliest) {
        ways.push(way(late, LateKind::Later, 1.0, fridge.useful.shortest, fridge.useful.shortest, Some(late.meals.earliest.clone())));
    }
    if is_later(&late.meals.best) && late.meals.best > late.meals.earliest {
        ways.push(way(late, LateKind::LaterStill, 1.0, fridge.useful.ideal, fridge.useful.ideal, Some(late.meals.best.clone())));
    }
    let says = format!(
        "Too late for a dry-brine: {} h are left where {} h is the least. Salted now with all of it, the salt stays in the outer {:.0} mm \
         and the first bite holds {:.0} g/kg; after {} h it would be {:.0} g/kg.",
        about(planned),
        about(fridge.useful.shortest),
        now.depth.in_mm(),
        now.rim.0,
        about(fridge.useful.ideal),
        usual.rim.0
    );
    Some(TooLate { says, ways })
}

/// Hours in a sentence: whole ones, short ones to the half.
fn about(time: Time) -> String {
    let h = time.in_h();
    if h >= 8.0 { format!("{h:.0}") } else { words::h(hours((h * 2.0).round() / 2.0)) }
}

/// A mouthful on the plate.
struct Bite {
    rim: GramsPerKg,
    depth: Length,
    dryness: Option<Dryness>,
}

/// With a share of what is weighed, after so many hours of salt at the end of so many in the open.
fn bite(late: &Late, share: f64, salted: Time, open: Time) -> Bite {
    let fixed = |id: &str| late.fixed.iter().find(|f| f.face.id == id).map_or(grams(0.0), |f| f.salt);
    let laid: Vec<FaceGrams> =
        late.laid.iter().map(|f| FaceGrams { salt: fixed(f.face.id) + (f.salt - fixed(f.face.id)) * share, ..*f }).collect();
    let before = hours((open.in_h() - salted.in_h()).max(0.0));
    let course = Course::new(late.request, late.resolved, &laid, &[], before);
    let (mut travel, drying) = course.through(salted);
    let dry = drying.at(late.resolved.air, &[open])[0].skin;
    // What is salted last stands out unsalted.
    let from = usize::from(late.tempers && salted.in_h() < 0.01);
    let _ = through_the_heat(&mut travel, late.heat.get(from..).unwrap_or_default(), liquid_round(late.request, late.resolved));
    let plate = travel.profile();
    Bite { rim: plate.rim(), depth: plate.salted_depth(), dryness: dry }
}

/// The share of what is weighed that brings the first bite to a saltiness: salt travels nearly in proportion, so a few
/// steps of the secant are enough.
fn share_for(late: &Late, rim: f64, salted: Time, open: Time) -> f64 {
    let mut share: f64 = 1.0;
    for _ in 0..3 {
        let is = bite(late, share, salted, open).rim.0;
        if is <= rim * 1.01 && share >= 0.999 || (is - rim).abs() < 0.01 * rim {
            break;
        }
        share = (share * rim / is.max(1e-6)).clamp(0.0, 1.0);
    }
    share
}

fn way(late: &Late, kind: LateKind, share: f64, salted: Time, open: Time, serve: Option<ZonedDateTime>) -> LateWay {
    let bite = bite(late, share, salted, open);
    let on_scale = late.on_scale * share;
    let off = (late.on_scale - on_scale).in_g() * late.resolved.salt.sodium_chloride();
    let dose = GramsPerKg(late.resolved.dose.0 - off / late.resolved.basis_weight().in_kg().max(1e-9));
    let g = words::g(on_scale);
    let what = match kind {
        LateKind::LessSalt => format!("Salt now, but weigh {g} g instead of {} g", words::g(late.on_scale)),
        LateKind::JustBefore => format!(
            "Leave it unsalted and open in the refrigerator, so that its surface dries; weigh {g} g and lay it on in the last three minutes before the heat"
        ),
        LateKind::Later | LateKind::LaterStill => {
            let meal = serve.as_ref().map_or_else(String::new, |at| at.strftime("%A %-d %B %H:%M").to_string());
            format!("Eat {meal}, with {} h of dry-brine", about(salted))
        }
    };
    LateWay { kind, what, on_scale, dose, salted, rim: bite.rim, depth: bite.depth, dryness: bite.dryness, serve }
}
