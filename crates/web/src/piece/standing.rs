//! How a piece stands now: salt and skin after the hours it really had.

use super::Opened;
use crate::draw::Slice;
use crate::words::{instant, trim};
use jiff::{Timestamp, ZonedDateTime};
use rauchkeller_contract::read_request;
use rauchkeller_core::plan::state_after;
use rauchkeller_core::skin::drying::touch;
use rauchkeller_core::units::{LengthIn, grams, hours};

/// A piece at this moment.
#[derive(Debug, Clone)]
pub struct Standing {
    /// The slice now.
    pub slice: Slice,
    /// `salted to 9 mm, skin 0.61 dry, tacky`.
    pub words: String,
}

impl Standing {
    /// Computes it from the stored request, the ticks, and the clock.
    pub fn of(opened: &Opened, now: &ZonedDateTime) -> Self {
        let mut slice = Slice::of(&opened.plan);
        let Some(salted) = salted_at(opened) else {
            slice.profile = rauchkeller_core::salt::travel::Profile::from_points(&[]);
            slice.waiting = (0.0, 0.0);
            slice.salted_mm = 0.0;
            slice.dryness = slice.dryness.map(|_| 0.0);
            return Self { slice, words: "not salted yet".into() };
        };
        // Salt and drying are followed to the end of the cold; after it the fire takes over.
        let out = left_cold(opened).unwrap_or_else(|| instant(&opened.plan.fridge.to));
        let until = now.timestamp().min(out);
        let so_far = until.duration_since(salted).as_secs_f64().max(0.0) / 3600.0;
        let on = crate::salt::really_on(opened).map(grams);
        let stored = serde_json::from_str(&opened.piece.request).unwrap_or_default();
        let state = read_request(&stored, now).ok().and_then(|request| state_after(&request, on, hours(so_far), hours(so_far)).ok());
        let Some(state) = state else { return Self { slice, words: String::new() } };
        let dry = state.dryness.map_or_else(String::new, |d| format!(", skin {:.2} dry, feels {}", d.0, touch(d)));
        slice.salted_mm = state.salted_depth.in_mm();
        slice.waiting = (state.profile.waiting[0].0, state.profile.waiting[1].0);
        slice.dryness = state.dryness.map(|d| d.0);
        slice.profile = state.profile;
        let depth = if slice.salted_mm >= slice.thickness_mm - 0.1 {
            "right through".into()
        } else {
            format!("to {} mm", trim(slice.salted_mm, 0))
        };
        Self { words: format!("salted {depth}{dry}"), slice }
    }
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
