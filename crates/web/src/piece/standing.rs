//! How a piece stands now: salt and skin after the hours it really had.

use super::Opened;
use super::cold::InTheCold;
use crate::draw::Slice;
use crate::words::{instant, trim};
use jiff::{Timestamp, ZonedDateTime};
use rauchkeller_core::plan::{ColdState, PlanRequest, with_course};
use rauchkeller_core::skin::drying::Touch;
use rauchkeller_core::units::{LengthIn, MassIn};

/// A piece at this moment.
#[derive(Debug, Clone)]
pub struct Standing {
    /// The slice now.
    pub slice: Slice,
    /// `salted to 9 mm, skin 0.61 dry, tacky`.
    pub words: String,
    /// Water it has lost, g; `None` before the salt.
    pub lost_g: Option<f64>,
}

impl Standing {
    /// Computes it from the stored request, what was noted, the refrigerator as it is known, and the clock.
    pub fn of(opened: &Opened, now: &ZonedDateTime) -> Self {
        let slice = Slice::of(&opened.plan);
        if salted_at(opened).is_none() {
            return Self { slice: unsalted(slice), words: "not salted yet".into(), lost_g: None };
        }
        // Salt and drying are followed to the end of the cold; after it the fire takes over.
        let state = InTheCold::of(opened, now).and_then(|cold| {
            let until = now.timestamp().min(cold.out);
            let (salted, open) = (cold.hours_at(until), cold.open_at(until));
            let mut request: PlanRequest = cold.request.clone();
            request.kitchen.fridge = cold.air(&opened.fridge);
            with_course(&request, &cold.really, |course, _, _| course.state(salted, open)).ok()
        });
        let Some(state) = state else { return Self { slice, words: String::new(), lost_g: None } };
        let slice = slice.at(&state);
        Self { words: words(&state, &slice), slice, lost_g: Some(state.lost.in_g()) }
    }
}

/// The slice of a piece nobody has salted.
fn unsalted(mut slice: Slice) -> Slice {
    slice.profile = rauchkeller_core::salt::travel::Profile::from_points(&[]);
    (slice.waiting, slice.salted_mm) = ((0.0, 0.0), 0.0);
    slice.dryness = slice.dryness.map(|_| 0.0);
    slice
}

/// `salted to 9 mm, skin 0.61 dry, feels tacky, 31 g lighter`.
pub fn words(state: &ColdState, slice: &Slice) -> String {
    let dry = state.dryness.map_or_else(String::new, |d| format!(", skin {:.0} % dry, feels {}", d.0 * 100.0, Touch::of(d).feels()));
    let depth = if slice.salted_mm >= slice.thickness_mm - 0.1 {
        "right through".into()
    } else {
        format!("to {} mm", trim(state.salted_depth.in_mm(), 0))
    };
    let lost = state.lost.in_g();
    let lighter = if lost >= 1.0 { format!(", {lost:.0} g lighter") } else { String::new() };
    format!("salted {depth}{dry}{lighter}")
}

/// When salt went on: as ticked, or as said when it came to the Bench.
pub fn salted_at(opened: &Opened) -> Option<Timestamp> {
    match opened.piece.steps.iter().find(|s| s.kind == "salt") {
        Some(step) => step.done_at,
        None => Some(instant(&opened.plan.fridge.from)),
    }
}

/// When it really left the cold.
pub fn left_cold(opened: &Opened) -> Option<Timestamp> {
    let ticked = |kind: &str| opened.piece.steps.iter().find(|s| s.kind == kind).and_then(|s| s.done_at);
    ticked("temper").or_else(|| ticked("brush-dry")).or_else(|| ticked("roast"))
}
