//! Ways out of a rim that would be too salty: each computed, with what it gives.

use super::chill::rim_after;
use super::grams::on_all_faces;
use crate::ask::PlanRequest;
use crate::salt::{FaceGrams, RIM_AT_MOST, SaltOn};
use crate::settle::Resolved;
use crate::units::{Mass, MassIn, Time, TimeIn, grams, hours};
use crate::words::{g, h};

/// What a way out changes.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Instead {
    /// So much is weighed.
    Grams(Mass),
    /// So many hours in the refrigerator.
    Hours(Time),
    /// Every face is salted.
    Faces,
    /// Nothing helps all the way.
    Nothing,
}

/// One way out.
#[derive(Debug, Clone, PartialEq)]
pub struct WayOut {
    /// What is other than planned.
    pub instead: Instead,
    /// What to do instead, in words.
    pub what: String,
    /// What it gives.
    pub gives: String,
}

/// What the ways are computed from.
pub(super) struct WaysOutInput<'a> {
    pub request: &'a PlanRequest,
    pub resolved: &'a Resolved,
    /// Salt on the faces of the portion whose rim is the saltiest, all of it.
    pub laid: &'a [FaceGrams],
    /// Of that what is not weighed any more: sauces, mixes, salt that is on already.
    pub fixed: &'a [FaceGrams],
    /// Grams still to be weighed, as the scale shows them.
    pub on_scale: Mass,
    pub planned: Time,
    pub rim: f64,
}

/// Fewer grams, more faces, more hours: those that bring the rim down, computed by the same travel and with all that is on it,
/// the ledger too. Empty where the rim is fine; where nothing brings it to 40 g/kg, what comes nearest.
pub(super) fn ways_out(salty: &WaysOutInput) -> Vec<WayOut> {
    if salty.rim <= RIM_AT_MOST {
        return vec![];
    }
    let ways: Vec<WayOut> = [fewer_grams(salty), more_faces(salty), more_hours(salty)].into_iter().flatten().collect();
    if ways.is_empty() { vec![nearest(salty)] } else { ways }
}

fn rim_with(salty: &WaysOutInput, laid: &[FaceGrams]) -> f64 {
    rim_after(salty.request, salty.resolved, laid, salty.planned)
}

/// All that is on it with only a share of what is weighed.
fn with_share(salty: &WaysOutInput, share: f64) -> Vec<FaceGrams> {
    let fixed = |id: &str| salty.fixed.iter().find(|f| f.face.id == id).map_or(grams(0.0), |f| f.salt);
    let weighed = |f: &FaceGrams| f.salt - fixed(f.face.id);
    salty.laid.iter().map(|f| FaceGrams { salt: fixed(f.face.id) + weighed(f) * share, ..*f }).collect()
}

/// What is on already cannot be weighed less: the share of what is weighed that meets the rim, by halving.
fn fewer_grams(salty: &WaysOutInput) -> Option<WayOut> {
    if salty.on_scale.in_g() < 0.1 {
        return None;
    }
    let none = rim_with(salty, &with_share(salty, 0.0));
    if none > RIM_AT_MOST {
        return None;
    }
    let (mut low, mut high, mut rim) = (0.0, 1.0, none);
    for _ in 0..9 {
        let mid = f64::midpoint(low, high);
        let at = rim_with(salty, &with_share(salty, mid));
        if at <= RIM_AT_MOST { (low, rim) = (mid, at) } else { high = mid }
    }
    let on = salty.on_scale * low;
    let off = (salty.on_scale - on).in_g() * salty.resolved.salt.sodium_chloride();
    let dose = salty.resolved.dose.0 - off / salty.resolved.basis_weight().in_kg().max(1e-9);
    Some(WayOut {
        instead: Instead::Grams(on),
        what: format!("weigh {} g instead of {} g", g(on), g(salty.on_scale)),
        gives: format!("outer 5 mm {rim:.0} g/kg, {dose:.1} g/kg over all"),
    })
}

fn more_faces(salty: &WaysOutInput) -> Option<WayOut> {
    let rim = rim_with(salty, &on_all_faces(salty.resolved, salty.laid));
    let open = salty.resolved.method.salt_on() == SaltOn::BareSkin || salty.request.faces.is_some();
    (open && rim < salty.rim * 0.98).then(|| WayOut {
        instead: Instead::Faces,
        what: "salt every face, skin and fat too".into(),
        gives: format!("outer 5 mm {rim:.0} g/kg; salted skin dries slower, so wipe it before the heat"),
    })
}

/// Follows the same column on until the rim has come down, at most ten days.
fn more_hours(salty: &WaysOutInput) -> Option<WayOut> {
    let at_rest = |h: f64| rim_after(salty.request, salty.resolved, salty.laid, hours(h));
    let first = salty.planned.in_h();
    let steps: Vec<f64> = (1..40).map(|i| first + f64::from(i) * 8.0).take_while(|h| *h < 240.0).collect();
    // Once the rim has come down it stays there: halved, seven looks find the first of thirty steps.
    let found = *steps.get(steps.partition_point(|h| at_rest(*h) > RIM_AT_MOST))?;
    let longest = super::chill::chill_hours(salty.resolved).longest;
    let past = if found > longest.in_h() {
        format!("; longer than the {} h that are useful, so mind how long it keeps", h(longest))
    } else {
        String::new()
    };
    Some(WayOut {
        instead: Instead::Hours(hours(found)),
        what: format!("{} h instead of {} h", h(hours(found)), h(salty.planned)),
        gives: format!("outer 5 mm {:.0} g/kg{past}", at_rest(found)),
    })
}

/// Nothing brings it to the limit: what comes nearest, said as what it is.
fn nearest(salty: &WaysOutInput) -> WayOut {
    let none = rim_with(salty, &with_share(salty, 0.0));
    if salty.on_scale.in_g() >= 0.1 {
        return WayOut {
            instead: Instead::Nothing,
            what: format!("weigh no salt besides what is on already, instead of {} g", g(salty.on_scale)),
            gives: format!("outer 5 mm {none:.0} g/kg, still above {RIM_AT_MOST:.0}: carve the outside away, or slice it thin"),
        };
    }
    WayOut {
        instead: Instead::Nothing,
        what: "leave out sauce or rub that is not on yet, or wipe off what is".into(),
        gives: format!("outer 5 mm {none:.0} g/kg as it stands: carve the outside away, or slice it thin"),
    }
}
