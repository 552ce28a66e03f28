//! What may go wrong with a rest of so many hours: said on the Bench for the hours planned, and while hours are dragged.

use super::answer::ColdState;
use super::resolve::Resolved;
use super::ways_out::RIM_AT_MOST;
use crate::caution::{Caution, Severity};
use crate::method::{SkinWork, StepKind};
use crate::piece::FaceKind;
use crate::salt::RestHours;
use crate::skin::drying;
use crate::units::{LengthIn, Time, TimeIn};

/// A piece after some hours.
#[derive(Debug, Clone, Copy)]
pub struct RestAt<'a> {
    /// Hours of salt.
    pub hours: Time,
    /// The school's own.
    pub rest: RestHours,
    /// How it stands then.
    pub state: &'a ColdState,
    /// How long dry salt lies on it.
    pub wet: Option<Time>,
}

/// Too short, still wet with salt, skin too wet, rim too salty.
pub fn rest_cautions(with: &Resolved, at: &RestAt) -> Vec<Caution> {
    use Severity::Amber;
    const MODEL: &str = "own estimate";
    let mut said = Vec::new();
    let hours = at.hours.in_h();
    if hours < at.rest.shortest.in_h() - 0.01 {
        let skin = at.state.dryness.map_or_else(String::new, |d| format!(", skin {:.2} dry", d.0));
        said.push(Caution::new(
            "short-rest",
            Amber,
            format!("{hours:.1} h instead of {:.0}: salted to {:.0} mm{skin}.", at.rest.ideal.in_h(), at.state.salted_depth.in_mm()),
            MODEL,
            Some(StepKind::Chill),
        ));
    }
    if let Some(wet) = at.wet.filter(|wet| *wet > at.hours) {
        said.push(Caution::new(
            "wet-window",
            Amber,
            format!(
                "Dry salt still lies on it when it comes out: it takes about {:.0} min to go in. Wait for it, or wipe it dry, before the fire.",
                wet.in_min()
            ),
            MODEL,
            Some(StepKind::Chill),
        ));
    }
    if let Some(dry) = at.state.dryness.filter(|d| d.0 < drying::DRY_AT_LEAST.0 && with.method.skin_work == SkinWork::Pierce) {
        let helps = if with.lies.open(FaceKind::Skin) > 0.0 {
            "More hours, or drier air."
        } else {
            "Closed in it does not dry at all: leave it open on a rack."
        };
        let text = format!("Skin only {:.2} dry: expect chewy patches. {helps}", dry.0);
        said.push(Caution::new("skin-wet", Amber, text, MODEL, Some(StepKind::Chill)));
    }
    if at.state.rim.0 > RIM_AT_MOST {
        said.push(Caution::new(
            "rim",
            Amber,
            format!("The outer 5 mm would hold {:.0} g/kg, more than {RIM_AT_MOST:.0}: see the ways out.", at.state.rim.0),
            MODEL,
            Some(StepKind::Salt),
        ));
    }
    said
}
