//! Cautions: what could hurt somebody, shown where the step is, with its source. Local codes prevail.
//!
//! ```
//! use rauchkeller_core::{caution::{out_at_most_at, too_warm}, units::{TimeIn, celsius}};
//! // USDA FSIS: at most 4.4 °C (40 °F); two hours out of the refrigerator, one above 32 °C (90 °F).
//! assert!(!too_warm(celsius(4.4)) && too_warm(celsius(5.0)));
//! assert_eq!((out_at_most_at(celsius(21.0)).in_h(), out_at_most_at(celsius(34.0)).in_h()), (2.0, 1.0));
//! ```

mod chill;
mod crisp;
mod doneness;
mod dose;
mod fire;
mod knife;
mod measures;
mod of_a_task;
mod warm;

pub use chill::{ChillFacts, chill_cautions, salted_last, skin_covered};
pub use crisp::{CrispFacts, crisp_caution};
pub use doneness::{DoneFacts, Doneness, Growing, done_cautions};
pub use dose::{DoseFacts, dose_cautions, mineral_cautions, name_cautions, pulled_dose};
pub use fire::{FireFacts, fierce_under_the_crust, fire_cautions};
pub use knife::{KnifeFacts, NotIntact, Work, knife_cautions};
pub use measures::{falls_short, lengthened, measures_disagree, night_work, odd_thickness, overshoot, passed_already, where_did_it_lie};
pub use of_a_task::{is_known_caution, task_caution, task_caution_codes};
pub use warm::{Warm, WarmSpell, out_stop, warm_between, warm_stop};

use crate::clock::StorageLimit;
use crate::method::StepKind;
use crate::piece::Cut;
use crate::units::{Temperature, TemperatureIn, Time, TimeIn, celsius, hours};
use jiff::Timestamp;

/// How loud a caution is said.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Severity {
    /// One line at the step.
    Note,
    /// Look twice.
    Amber,
    /// The plan refuses to call it fine.
    Red,
}

impl Severity {
    /// Stable name.
    pub fn id(self) -> &'static str {
        match self {
            Self::Note => "note",
            Self::Amber => "amber",
            Self::Red => "red",
        }
    }
}

/// One thing that could hurt somebody or spoil the piece.
#[derive(Debug, Clone, PartialEq)]
pub struct Caution {
    /// Stable kebab-case name.
    pub code: &'static str,
    /// How loud it is said.
    pub severity: Severity,
    /// The sentence a cook reads, whole.
    pub text: String,
    /// Who says so.
    pub source: &'static str,
    /// The step it belongs to, if to one.
    pub at: Option<StepKind>,
}

impl Caution {
    pub(crate) fn new(code: &'static str, severity: Severity, text: impl Into<String>, source: &'static str, at: Option<StepKind>) -> Self {
        Self { code, severity, text: text.into(), source, at }
    }
}

/// FSIS and FDA: at or below 40 °F.
pub fn fridge_limit() -> Temperature {
    celsius(40.0 / 9.0)
}

/// Whether a refrigerator is too warm for raw meat: above 4.4 °C, as the rule is written in Celsius; 40 °F itself, which is
/// 4.44 °C, is still allowed.
pub fn too_warm(fridge: Temperature) -> bool {
    let c = fridge.in_c();
    c > 4.4 + 1e-9 && (c - fridge_limit().in_c()).abs() > 1e-3
}

/// Raw meat may be out of the refrigerator, or above 4.4 °C in it, for so long in sum (USDA FSIS 2-hour rule).
pub fn out_at_most() -> Time {
    hours(2.0)
}

/// The same in a room of known temperature: one hour above 32 °C (90 °F).
pub fn out_at_most_at(room: Temperature) -> Time {
    if room.in_c() > 32.0 { hours(1.0) } else { out_at_most() }
}

/// What the safety rules look at.
#[derive(Debug)]
pub struct Facts<'a> {
    /// The cut.
    pub cut: Cut,
    /// Refrigerator temperature.
    pub fridge: Temperature,
    /// Storage limits, if a day is known.
    pub keeps: Option<StorageLimit>,
    /// When it leaves the cold.
    pub out_of_cold: Timestamp,
    /// Minutes out of the refrigerator before the heat, in sum.
    pub out_min: f64,
    /// The most that may be in this kitchen.
    pub out_at_most: Time,
    /// Steps still to do.
    pub to_do: &'a [StepKind],
}

/// The cautions that apply, loudest first.
pub fn cautions(facts: &Facts) -> Vec<Caution> {
    let mut said = keeping(facts);
    said.extend(heat(facts));
    said.extend(at_the_bench(facts));
    said.sort_by_key(|c| std::cmp::Reverse(c.severity));
    said
}

/// A warm refrigerator, for as long as it is.
pub fn warm_refrigerator(fridge: Temperature) -> Option<Caution> {
    let text = format!(
        "{} °C is too warm for raw meat: at most 4.4 °C (40 °F). Throw away what has been above that for more than 2 h.",
        crate::words::c_over(fridge)
    );
    too_warm(fridge).then(|| Caution::new("fridge-too-warm", Severity::Red, text, "USDA FSIS; FDA", Some(StepKind::Chill)))
}

/// The refrigerator and how long it keeps.
fn keeping(facts: &Facts) -> Vec<Caution> {
    use Severity::{Amber, Red};
    const KEEPER: &str = "USDA FSIS FoodKeeper";
    let cold = Some(StepKind::Chill);
    let mut said = Vec::new();
    said.extend(warm_refrigerator(facts.fridge));
    let days = facts.cut.storage;
    said.extend(match facts.keeps {
        None => {
            let text = format!(
                "On what day was it bought? Raw, it keeps {}–{} days from then, and salt does not make that longer.",
                days.amber_days, days.red_days
            );
            Some(Caution::new("bought-when", Amber, text, KEEPER, cold))
        }
        Some(keeps) if facts.out_of_cold > keeps.red => {
            let text =
                "This plan keeps it raw past the authority’s limit. Eat sooner, or freeze it. If you keep it anyway, the plan will say so.";
            Some(Caution::new("storage-limit", Red, text, KEEPER, cold))
        }
        Some(keeps) if facts.out_of_cold > keeps.amber => {
            let text = "Past the lower of the two storage limits and within the upper: cook it on time, and not if it smells off.";
            Some(Caution::new("storage-near", Amber, text, KEEPER, cold))
        }
        Some(_) => None,
    });
    said
}

impl Facts<'_> {
    /// The step at which the core is watched.
    fn at_the_heat(&self) -> StepKind {
        [StepKind::Roast, StepKind::Sear].into_iter().find(|kind| self.to_do.contains(kind)).unwrap_or(StepKind::Roast)
    }
}

/// Time out of the refrigerator, and the two cores of a bird.
fn heat(facts: &Facts) -> Vec<Caution> {
    use Severity::{Note, Red};
    let mut said = Vec::new();
    let step = Some(facts.at_the_heat());
    if facts.out_min > facts.out_at_most.in_min() {
        let most = crate::words::span(facts.out_at_most);
        let text = format!("Out of the refrigerator for {:.0} min in sum: {most} at most (2 h, and 1 h above 32 °C).", facts.out_min);
        said.push(Caution::new("two-hours", Red, text, "USDA FSIS 2-hour rule", Some(StepKind::Temper)));
    }
    if facts.cut.has_legs() {
        let text = "Breast and inner thigh must both pass 73.9 °C (165 °F).";
        said.push(Caution::new("two-cores", Note, text, "USDA FSIS", step));
    }
    said
}

/// What belongs to single steps, as long as they are still to do.
fn at_the_bench(facts: &Facts) -> Vec<Caution> {
    const FSIS: &str = "USDA FSIS";
    const TRADE: &str = "common practice";
    let thaw = if facts.to_do.contains(&StepKind::ChangeWater) {
        "Under cold water only in a tight bag, the water changed every 30 minutes, and cooked at once: never on the counter."
    } else {
        "Thaw in the refrigerator, never on the counter."
    };
    let notes: [(&'static str, &str, &'static str, StepKind); 6] = [
        ("thaw-cold", thaw, FSIS, StepKind::Thaw),
        ("do-not-wash", "Do not rinse it: that spreads germs. Pat it dry.", FSIS, StepKind::Dry),
        ("count-needles", "Count the needles before and after: a broken tip stays in the skin.", TRADE, StepKind::Pierce),
        ("hot-fat", "Fat spits under a fierce grill: leave the liquid in the tray and keep your face back.", TRADE, StepKind::Grill),
        ("raw-waste", "Paper towels, brushed-off salt and drip are raw: throw them away and wipe down.", FSIS, StepKind::BrushDry),
        (
            "leftovers",
            "Put leftovers into shallow dishes and into the refrigerator within 2 h of serving, or of being kept hot. Local food-safety rules come first.",
            FSIS,
            StepKind::Leftovers,
        ),
    ];
    let said = notes.into_iter().filter(|(.., step)| facts.to_do.contains(step));
    said.map(|(code, text, source, step)| Caution::new(code, Severity::Note, text, source, Some(step))).collect()
}

#[cfg(test)]
mod tests;
