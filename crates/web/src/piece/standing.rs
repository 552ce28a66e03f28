//! How a piece stands now, as picture and words.

use super::Opened;
use crate::draw::Slice;
use crate::words::trim;
use jiff::ZonedDateTime;
use rauchkeller_core::plan::ColdState;
use rauchkeller_core::skin::drying::Touch;
use rauchkeller_core::units::{LengthIn, MassIn};

/// A piece at this moment.
#[derive(Debug, Clone)]
pub struct Now {
    /// The slice now.
    pub slice: Slice,
    /// `salted to 9 mm, skin 61 % dry, feels tacky`.
    pub words: String,
    /// Water it has lost, g; `None` before the salt.
    pub lost_g: Option<f64>,
}

impl Now {
    /// Draws and says how it stands.
    pub fn of(opened: &Opened, now: &ZonedDateTime) -> Self {
        let slice = Slice::of(&opened.plan).by(opened.system);
        let stand = opened.stand(now);
        match &stand.state {
            None if stand.on.is_some() => Self { slice, words: "how salty it is cannot be worked out".into(), lost_g: None },
            None => Self { slice: unsalted(slice), words: "not salted yet".into(), lost_g: None },
            Some(state) => {
                let slice = slice.at(state);
                Self { words: state_words(state, &slice), slice, lost_g: Some(state.lost.in_g()) }
            }
        }
    }
}

/// The slice of a piece nobody has salted.
fn unsalted(mut slice: Slice) -> Slice {
    slice.profile = rauchkeller_core::salt::travel::Profile::from_points(&[]);
    (slice.waiting, slice.salted_mm) = ((0.0, 0.0), 0.0);
    slice.dryness = slice.dryness.map(|_| 0.0);
    slice
}

/// `salted to 9 mm, skin 61 % dry, feels tacky, 31 g lighter`.
pub fn state_words(state: &ColdState, slice: &Slice) -> String {
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
