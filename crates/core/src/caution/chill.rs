//! What may go wrong with so many hours of dry-brine: said on the Bench for the hours planned, and while hours are dragged.

use super::{Caution, Severity};
use crate::method::StepKind;
use crate::salt::{ChillHours, RIM_AT_MOST};
use crate::skin::drying;
use crate::units::{Dryness, GramsPerKg, Length, LengthIn, Time, TimeIn};
use crate::words::h;

/// A piece after some hours in the cold.
#[derive(Debug, Clone, Copy)]
pub struct ChillFacts {
    /// Hours of salt.
    pub hours: Time,
    /// The school's own.
    pub useful: ChillHours,
    /// How deep it is seasoned then.
    pub seasoned: Length,
    /// How dry its skin is; `None` without skin.
    pub dryness: Option<Dryness>,
    /// Salt in its outer 5 mm.
    pub rim: GramsPerKg,
    /// How long dry salt lies on it.
    pub wet: Option<Time>,
    /// When its skin is dry enough to crackle.
    pub dry: Option<Time>,
    /// Whether its skin is to crackle.
    pub crackles: bool,
    /// Whether its skin lies open to the air.
    pub skin_open: bool,
}

/// Too short, still wet with salt, skin too wet, rim too salty.
pub fn chill_cautions(at: &ChillFacts) -> Vec<Caution> {
    use Severity::Amber;
    const MODEL: &str = "our estimate";
    let mut said = Vec::new();
    let hours = h(at.hours);
    if at.hours.in_h() < at.useful.shortest.in_h() - 0.01 {
        let skin = at.dryness.map_or_else(String::new, |d| format!(", skin {:.0} % dry", d.0 * 100.0));
        said.push(Caution::new(
            "short-rest",
            Amber,
            format!("{hours} h of dry-brine instead of {} h: seasoned to {:.0} mm{skin}.", h(at.useful.ideal), at.seasoned.in_mm()),
            MODEL,
            Some(StepKind::Chill),
        ));
    }
    if let Some(wet) = at.wet.filter(|wet| *wet > at.hours) {
        said.push(Caution::new(
            "wet-window",
            Amber,
            format!(
                "Salt still lies on it when it comes out: it takes about {} h to go in. Wait for it, or wipe it dry, before the fire.",
                h(wet)
            ),
            MODEL,
            Some(StepKind::Chill),
        ));
    }
    said.extend(at.dryness.filter(|_| at.crackles).and_then(|dryness| skin(at, dryness)));
    if at.rim.0 > RIM_AT_MOST {
        said.push(Caution::new(
            "rim",
            Amber,
            format!("The outer 5 mm would hold {:.0} g/kg, more than the {RIM_AT_MOST:.0} anybody likes: see what helps.", at.rim.0),
            MODEL,
            Some(StepKind::Salt),
        ));
    }
    said
}

/// Salt that goes on only just before a fierce heat: at once, or long enough before; in between it sweats.
pub fn salted_last(before_the_heat: Time) -> Option<Caution> {
    let min = before_the_heat.in_min();
    if min <= AT_ONCE_MIN {
        let text = "Salt draws water from its fifth minute on: straight on to the heat, while the surface is dry.".to_owned();
        return Some(Caution::new("salt-last", Severity::Note, text, "common practice", Some(StepKind::Salt)));
    }
    (min < DRAWN_BACK_MIN).then(|| {
        let text = "Salted so shortly before the heat it stands in its own water: wait until that has gone in again, three quarters of an hour, or wipe it dry.";
        Caution::new("salt-sweats", Severity::Amber, text.to_owned(), "common practice", Some(StepKind::Salt))
    })
}

/// Up to so many minutes after it salt draws nothing yet, and after so many it has gone in again (common practice, from memory).
const AT_ONCE_MIN: f64 = 5.0;
const DRAWN_BACK_MIN: f64 = 40.0;

/// Salted skin that is to crackle and lies covered in the cold: whatever its hours, it goes into the heat wet.
pub fn skin_covered() -> Caution {
    let text = "Covered, salted skin does not dry: its water stays under the cover, and it will not puff. Let it lie open on a rack, or let a crust dry it in the heat.";
    Caution::new("skin-covered", Severity::Amber, text, "common practice", Some(StepKind::Chill))
}

/// Skin that is to crackle and is not dry enough: said at its number, with what would change it.
fn skin(at: &ChillFacts, dryness: Dryness) -> Option<Caution> {
    let helps = match at.dry {
        _ if !at.skin_open => "Covered, it does not dry at all: leave it open on a rack.".to_owned(),
        Some(dry) if dry > at.hours => format!("{} h would do it; so would drier air or a place in front of the fan.", h(dry)),
        _ => "In this air a week is not enough: it needs drier air or a place in front of the fan.".to_owned(),
    };
    let cold = Some(StepKind::Chill);
    if dryness.0 < drying::DRY_AT_LEAST.0 {
        let text = format!("Skin only {:.0} % dry: expect chewy patches. {helps}", dryness.0 * 100.0);
        return Some(Caution::new("skin-wet", Severity::Amber, text, "our estimate", cold));
    }
    // Within a hundredth nobody could tell.
    (dryness.0 < drying::DRY_ENOUGH.0 - 0.01).then(|| {
        let text =
            format!("Skin {:.0} % dry when it comes out; {:.0} % is dry enough. {helps}", dryness.0 * 100.0, drying::DRY_ENOUGH.0 * 100.0);
        Caution::new("skin-damp", Severity::Note, text, "our estimate", cold)
    })
}
