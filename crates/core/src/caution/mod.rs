//! Cautions: what could hurt somebody, shown where the step is, with its source. Local codes prevail.

use crate::clock::Keeps;
use crate::fire::FinishTarget;
use crate::method::StepKind;
use crate::piece::{Cut, Family};
use crate::units::{Temperature, TemperatureIn, celsius};
use jiff::Timestamp;

/// How loud.
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

/// One caution.
#[derive(Debug, Clone, PartialEq)]
pub struct Caution {
    /// Stable kebab-case name.
    pub code: &'static str,
    /// How loud.
    pub severity: Severity,
    /// What to say.
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

/// What the safety rules look at.
#[derive(Debug)]
pub struct Facts<'a> {
    /// The cut.
    pub cut: Cut,
    /// Refrigerator temperature.
    pub fridge: Temperature,
    /// Finish targets.
    pub targets: &'a [FinishTarget],
    /// Storage limits, if a day is known.
    pub keeps: Option<Keeps>,
    /// When it leaves the cold.
    pub out_of_cold: Timestamp,
    /// Minutes out of the refrigerator before the heat, in sum.
    pub out_min: f64,
    /// Whether skin is pierced.
    pub pierced: bool,
    /// Whether it is still frozen.
    pub frozen: bool,
}

/// The cautions that apply (handbook section 11), loudest first.
pub fn cautions(facts: &Facts) -> Vec<Caution> {
    use Severity::{Amber, Note, Red};
    let mut said = Vec::new();
    let mut say = |code, severity, text: String, source, at| said.push(Caution::new(code, severity, text, source, at));
    let fridge = facts.fridge.in_c();
    if fridge > fridge_limit().in_c() + 0.05 {
        say(
            "fridge-too-warm",
            Red,
            format!("{fridge:.1} °C is too warm for an open rest: 4.4 °C (40 °F) at most. After 2 h above that, discard it."),
            "USDA FSIS; FDA",
            Some(StepKind::Chill),
        );
    }
    match facts.keeps {
        None => say(
            "bought-when",
            Amber,
            format!(
                "Bought when? Raw it keeps {}–{} days from then, and salting does not lengthen that.",
                facts.cut.storage.amber_days, facts.cut.storage.red_days
            ),
            "USDA FSIS FoodKeeper",
            Some(StepKind::Chill),
        ),
        Some(keeps) if facts.out_of_cold > keeps.red => say(
            "storage-limit",
            Red,
            "This plan keeps it raw past the authority’s limit. Eat sooner, or freeze it; overriding is recorded.".into(),
            "USDA FSIS FoodKeeper",
            Some(StepKind::Chill),
        ),
        Some(keeps) if facts.out_of_cold > keeps.amber => say(
            "storage-near",
            Amber,
            "Past the lower storage figure, within the upper: trust your nose, and do not stretch it further.".into(),
            "USDA FSIS FoodKeeper",
            Some(StepKind::Chill),
        ),
        Some(_) => {}
    }
    for target in facts.targets.iter().filter(|t| t.below_authority()) {
        say(
            "below-authority",
            Red,
            format!(
                "{:.0} °C is your taste; the authority says {:.1} °C ({:.0} °F) and 3 min of rest. Not for the young, old, pregnant or immune-weak.",
                target.finish.in_c(),
                target.authority.in_c(),
                target.authority.in_f()
            ),
            "USDA FSIS safe minimum internal temperature chart",
            Some(StepKind::Roast),
        );
    }
    if facts.out_min > 120.0 {
        say(
            "two-hours",
            Red,
            format!("Out of the refrigerator for {:.0} min in sum: 2 h at most (1 h above 32 °C).", facts.out_min),
            "USDA FSIS 2-hour rule",
            Some(StepKind::Temper),
        );
    }
    if facts.frozen {
        say("thaw-cold", Note, "Thaw in the refrigerator, never on the counter.".into(), "USDA FSIS", Some(StepKind::Thaw));
    }
    say("do-not-wash", Note, "Do not rinse it: that spreads germs. Pat it dry.".into(), "USDA FSIS", Some(StepKind::Dry));
    if facts.pierced {
        say(
            "count-needles",
            Note,
            "Count the needles in and out: a broken tip stays in the skin.".into(),
            "common practice",
            Some(StepKind::Pierce),
        );
        say(
            "hot-fat",
            Note,
            "Fat spits under a fierce grill: liquid stays in the tray, face stays back.".into(),
            "common practice",
            Some(StepKind::Grill),
        );
    }
    say(
        "raw-waste",
        Note,
        "Blot paper, brushed-off salt and drip are raw: bin them, wipe down.".into(),
        "USDA FSIS",
        Some(StepKind::BrushDry),
    );
    if facts.cut.family == Family::Bird {
        say("two-cores", Note, "Breast and inner thigh must both pass 73.9 °C (165 °F).".into(), "USDA FSIS", Some(StepKind::Roast));
    }
    say(
        "leftovers",
        Note,
        "Leftovers shallow and cold within 2 h of serving. Local food-safety rules prevail.".into(),
        "USDA FSIS",
        Some(StepKind::Carve),
    );
    said.sort_by_key(|c| std::cmp::Reverse(c.severity));
    said
}
