//! Measures that do not go together, a heat too fierce for them, and hours at which something is amiss.

use super::{Caution, Severity};
use crate::method::StepKind;
use crate::piece::{CutFacts, Mismatch};
use crate::units::{IntervalIn, Length, LengthIn, Temperature, TemperatureInterval, Time, both_mass};
use jiff::{SignedDuration, ZonedDateTime};

/// Scale and ruler apart.
pub fn measures_disagree(apart: &Mismatch) -> Caution {
    let text =
        format!("Your measures say {}, the scale says {}: measure again.", both_mass(apart.measured).metric, both_mass(apart.typed).metric);
    Caution::new("measures-disagree", Severity::Amber, text, "density 1.05–1.06 kg/L", None)
}

/// A thickness far from what the cut has: a slip of the ruler, or another cut.
pub fn odd_thickness(cut: &CutFacts, said: impl IntoIterator<Item = Length>) -> Option<Caution> {
    let (thin, _, thick) = cut.thickness_mm;
    let odd = said.into_iter().map(LengthIn::in_mm).find(|mm| *mm < thin * 0.65 || *mm > thick * 1.6)?;
    let text = format!(
        "{odd:.0} mm is unusual for {}: {thin:.0} to {thick:.0} mm is what it has. Hours and heat go by what you said.",
        cut.name.to_lowercase()
    );
    Some(Caution::new("measure-odd", Severity::Amber, text, "common practice", None))
}

/// Done long before its skin is.
pub fn overshoot(past: TemperatureInterval) -> Caution {
    let text = format!(
        "Too long or too fierce a heat for it: it ends about {:.0} °C more than its finish. A thicker piece, or a hotter and shorter end.",
        past.in_kelvin()
    );
    Caution::new("overshoot", Severity::Amber, text, "our estimate", Some(StepKind::Roast))
}

/// Out of the heat before its core is where it was to end.
pub fn falls_short(short: TemperatureInterval, ends: Temperature) -> Caution {
    let text = format!(
        "These minutes leave the core at about {} °C, {:.0} °C less than its finish. Give a stage more, or let it wait for the core.",
        crate::words::c(ends),
        short.in_kelvin()
    );
    Caution::new("falls-short", Severity::Amber, text, "our estimate", Some(StepKind::Rest))
}

/// A stage that is over before it begins.
pub fn passed_already(stage: usize, core: Temperature) -> Caution {
    let text = format!(
        "Stage {} is over before it begins: the core is past its mark by then, at {} °C. Leave the stage out, or end it at more.",
        stage + 1,
        crate::words::c(core)
    );
    Caution::new("stage-passed", Severity::Amber, text, "our estimate", Some(StepKind::Roast))
}

/// The method's usual minutes would not have cooked this piece.
pub fn lengthened(usual: Time, ends: Temperature) -> Caution {
    let text = format!(
        "The {} that are usual here would leave this piece below the authority’s temperature: it goes on until the core ends at {} °C.",
        crate::words::span(usual),
        crate::words::c(ends)
    );
    Caution::new("longer-heat", Severity::Note, text, "our estimate", Some(StepKind::Roast))
}

/// Salted so long ago, and nobody put it into the cold.
pub fn where_did_it_lie(out: SignedDuration) -> Caution {
    let hours = out.as_secs_f64() / 3600.0;
    let severity = if hours > 2.0 { Severity::Red } else { Severity::Amber };
    let text = format!(
        "Salted {hours:.1} h ago, and nobody said that it went into the refrigerator: where did it lie? Above 4.4 °C (40 °F) for more than 2 h it is discarded. If it lay cold, say since when."
    );
    Caution::new("where-lay", severity, text, "USDA FSIS 2-hour rule", Some(StepKind::Chill))
}

/// Hands in the quiet hours.
pub fn night_work(title: &str, at: &ZonedDateTime, kind: StepKind) -> Caution {
    let text = format!("{title} at {}: that is in your quiet hours.", at.strftime("%H:%M"));
    Caution::new("night-work", Severity::Note, text, "your own quiet hours", Some(kind))
}
