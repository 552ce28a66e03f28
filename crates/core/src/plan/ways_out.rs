//! Ways out of a rim that would be too salty: each computed, with what it gives.

use super::course::Course;
use super::grams::laid_on_all_faces;
use super::request::PlanRequest;
use super::resolve::Resolved;
use super::rest::cold_state;
use crate::salt::{FaceGrams, SaltOn};
use crate::units::{Mass, MassIn, Time, TimeIn, grams, hours};

/// The outer 5 mm should not hold more than this, g/kg [est], handbook section 4.
pub const RIM_AT_MOST: f64 = 40.0;

/// One way out.
#[derive(Debug, Clone, PartialEq)]
pub struct WayOut {
    /// What to do instead.
    pub what: String,
    /// What it gives.
    pub gives: String,
}

/// What the ways are computed from.
pub(super) struct Salty<'a> {
    pub request: &'a PlanRequest,
    pub with: &'a Resolved,
    /// Salt on the faces of the thickest portion.
    pub laid: &'a [FaceGrams],
    /// Grams still to be weighed, as the scale shows them.
    pub on_scale: Mass,
    pub planned: Time,
    pub rim: f64,
}

/// Fewer grams, more faces, more hours: those that bring the rim to 40 g/kg, computed by the same travel.
/// Empty where the rim is fine.
pub(super) fn ways_out(salty: &Salty) -> Vec<WayOut> {
    if salty.rim <= RIM_AT_MOST {
        return vec![];
    }
    [fewer_grams(salty), more_faces(salty), more_hours(salty)].into_iter().flatten().collect()
}

fn rim_with(salty: &Salty, laid: &[FaceGrams]) -> f64 {
    cold_state(salty.request, salty.with, laid, salty.planned, salty.planned).rim.0
}

/// Travel is linear in the grams but for a saturated surface: a few steps of the rule of three meet the rim.
fn fewer_grams(salty: &Salty) -> Option<WayOut> {
    let (mut share, mut rim) = (1.0, salty.rim);
    for _ in 0..4 {
        share *= RIM_AT_MOST / rim * 0.998;
        let less: Vec<FaceGrams> = salty.laid.iter().map(|f| FaceGrams { salt: f.salt * share, ..*f }).collect();
        rim = rim_with(salty, &less);
        if rim <= RIM_AT_MOST {
            break;
        }
    }
    let all = salty.laid.iter().fold(0.0, |sum, f| sum + f.salt.in_g());
    let portions = salty.on_scale.in_g() / all.max(1e-9);
    // What is on already cannot be weighed less.
    let off = (1.0 - share) * all * portions;
    (rim <= RIM_AT_MOST && off < salty.on_scale.in_g()).then(|| WayOut {
        what: format!("weigh {:.1} g instead of {:.1} g", salty.on_scale.in_g() - off, salty.on_scale.in_g()),
        gives: format!("rim {rim:.0} g/kg, {:.1} g/kg over all", salty.with.dose.0 * share),
    })
}

fn more_faces(salty: &Salty) -> Option<WayOut> {
    let all = salty.laid.iter().fold(grams(0.0), |sum, f| sum + f.salt);
    let spread = laid_on_all_faces(salty.with, all);
    let rim = rim_with(salty, &spread);
    let open = salty.with.method.salt_on == SaltOn::BareSkin || salty.request.faces.is_some();
    (open && rim < salty.rim * 0.98).then(|| WayOut {
        what: "salt every face, skin and fat too".into(),
        gives: format!("rim {rim:.0} g/kg; salted skin dries slower, wipe it before the heat"),
    })
}

/// Follows the same column on until the rim has come down, at most ten days.
fn more_hours(salty: &Salty) -> Option<WayOut> {
    let mut travel = Course::new(salty.request, salty.with, salty.laid, &[], hours(0.0)).travel(hours(0.0));
    let mut at = salty.planned;
    travel.run(at, salty.with.air.temperature);
    while at.in_h() < 240.0 {
        travel.run(hours(4.0), salty.with.air.temperature);
        at += hours(4.0);
        let rim = travel.profile().rim().0;
        if rim <= RIM_AT_MOST {
            let longest = super::rest::rest_hours(salty.with).longest.in_h();
            let past = if at.in_h() > longest {
                format!("; past the {longest:.0} h that are useful, mind the storage limit")
            } else {
                String::new()
            };
            return Some(WayOut {
                what: format!("{:.0} h instead of {:.0} h", at.in_h(), salty.planned.in_h()),
                gives: format!("rim {rim:.0} g/kg{past}"),
            });
        }
    }
    None
}
