//! A meal that lasts: what is not eaten at once stands on the table, is kept hot, or is cold by then.

use super::heated::Heated;
use crate::ask::{PlanRequest, Refusal};
use crate::caution::{Caution, Severity};
use crate::clock::exact;
use crate::fire::FinishTarget;
use crate::method::StepKind;
use crate::units::{TemperatureIn, Time, TimeIn, minutes};
use crate::words;
use jiff::ZonedDateTime;

/// What becomes of what is not eaten at once.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum WaitsAs {
    /// It stands on the table: no longer than the two hours of the leftovers' clock.
    OnTheTable,
    /// It is kept at 60 °C or more until the last of it is eaten.
    KeptHot,
    /// It goes into the refrigerator within the two hours and is eaten cold.
    Cold,
}

impl WaitsAs {
    /// Stable names.
    pub const ALL: [(Self, &str); 3] = [(Self::OnTheTable, "on-the-table"), (Self::KeptHot, "kept-hot"), (Self::Cold, "cold")];

    /// Its stable name.
    pub fn id(self) -> &'static str {
        Self::ALL.into_iter().find(|(waits, _)| *waits == self).map_or("", |(_, id)| id)
    }
}

/// A meal with a span: from when it is ready until the last of it is eaten.
#[derive(Debug, Clone, PartialEq)]
pub struct Serving {
    /// The last of it is eaten.
    pub until: ZonedDateTime,
    /// From the meal until then.
    pub lasts: Time,
    /// What becomes of it meanwhile.
    pub waits_as: WaitsAs,
}

/// Longest a meal may last, h.
const LONGEST_MEAL_H: f64 = 6.0;
/// Kept warm means so warm, and what is less done goes on cooking there (USDA FSIS: 140 °F).
const HOT_C: f64 = 60.0;

impl Serving {
    /// How the meal of a request lasts; `None` where it is one hour and not a span.
    ///
    /// Up to two hours (one in a hot kitchen) it may stand (USDA FSIS, two-hour rule). Longer, what is done through is kept hot; what is
    /// pink would go on cooking there and is eaten cold. Refused where neither is sound.
    pub(super) fn of(request: &PlanRequest, heated: &Heated, intact: bool) -> Result<Option<Self>, Vec<Refusal>> {
        let Some(until) = &request.serve_until else { return Ok(None) };
        let typed = until.strftime("%A %-d %B %H:%M").to_string();
        let refused = |allowed: String, remedy: &'static str| Err(vec![Refusal::new("serve_until", typed.clone(), allowed, remedy)]);
        let Some(from) = &request.serve_at else {
            return refused("a span of a meal that is said".to_owned(), "Say when it is ready as well, like “18:00 till 20:00”.");
        };
        let lasts = minutes(until.duration_since(from).as_secs_f64() / 60.0);
        if lasts.in_min() < 1.0 || lasts.in_h() > LONGEST_MEAL_H {
            let last = from.saturating_add(jiff::SignedDuration::from_hours(LONGEST_MEAL_H as i64));
            return refused(
                format!("after {} and until {} at the latest", from.strftime("%H:%M"), last.strftime("%A %H:%M")),
                "Say a nearer end, or leave it out.",
            );
        }
        let table = request.kitchen.out_at_most();
        let serving = |waits_as| Ok(Some(Self { until: until.clone(), lasts, waits_as }));
        if lasts <= table {
            return serving(WaitsAs::OnTheTable);
        }
        let reaches = heated.finish.iter().all(|target| !target.below_authority());
        let done = |target: &FinishTarget| target.ends.mid.in_c() >= HOT_C;
        if reaches && heated.finish.iter().all(done) {
            return serving(WaitsAs::KeptHot);
        }
        if reaches || intact && request.cut.is_eaten_pink() {
            return serving(WaitsAs::Cold);
        }
        let last = from.saturating_add(exact(table));
        refused(
            format!(
                "until {} at the latest: less done than the authority says, it is neither kept hot nor eaten cold",
                last.strftime("%H:%M")
            ),
            "Eat it within that time, or leave it in until it is done.",
        )
    }

    /// So long it is kept hot from the meal on; none where it is not.
    pub(super) fn kept_hot(&self) -> Option<Time> {
        (self.waits_as == WaitsAs::KeptHot).then_some(self.lasts)
    }

    /// What it says of itself.
    pub(crate) fn caution(&self, from: &ZonedDateTime, out_at_most: Time) -> Caution {
        let until = self.until.strftime("%H:%M");
        let by = from.saturating_add(exact(out_at_most)).strftime("%H:%M").to_string();
        let (text, at) = match self.waits_as {
            WaitsAs::OnTheTable => {
                (format!("Eaten until {until}: the time on the table counts. What is left is cold by {by}."), StepKind::Leftovers)
            }
            WaitsAs::KeptHot => (
                format!(
                    "Eaten until {until}: {} are too long to stand on the table, {} at most. The time counts anew from when it is hot no longer.",
                    words::span(self.lasts),
                    words::span(out_at_most)
                ),
                StepKind::Hold,
            ),
            WaitsAs::Cold => (
                format!(
                    "Eaten until {until}: kept hot it would go on cooking. What is not eaten by {by} is in the refrigerator by then, in slices and shallow, and whoever comes later eats it cold."
                ),
                StepKind::Leftovers,
            ),
        };
        Caution::new("eaten-over", Severity::Amber, text, "USDA FSIS 2-hour rule", Some(at))
    }
}
