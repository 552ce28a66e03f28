//! The two finish lines: a core that is there before its skin, and a skin that is there before its core.

use super::{Caution, Severity};
use crate::fire::{Crisp, PUFFS_AT_C};
use crate::method::StepKind;
use crate::skin::drying::DRY_ENOUGH;
use crate::units::TemperatureIn;
use crate::words::span;

/// The surface is known no better than that, K (our estimate).
const UNSURE_K: f64 = 10.0;

/// What is looked at.
#[derive(Debug, Clone, Copy)]
pub struct CrispFacts {
    /// What the heat does to the skin.
    pub crisp: Crisp,
    /// Whether it is pork's, and to crackle: poultry's crisps without puffing.
    pub crackles: bool,
    /// The step at which it is watched.
    pub at: StepKind,
}

/// Says which finish line comes first, where that is not the one the heat was laid out for.
pub fn crisp_caution(facts: &CrispFacts) -> Option<Caution> {
    let Crisp { before, begins, hottest, puffs, scorches, .. } = facts.crisp;
    if !facts.crackles {
        return None;
    }
    if puffs.is_none() {
        let (hot, dry) = (hottest.in_c(), begins.unwrap_or(before).0);
        let lacks = if begins.is_some() && dry < DRY_ENOUGH.0 {
            format!("it is {:.0} % dry when the fierce heat begins, and only dry skin puffs", (dry * 100.0).max(0.0))
        } else if hot < PUFFS_AT_C {
            format!("its surface comes to {hot:.0} °C at most, and {PUFFS_AT_C:.0} °C for five minutes make it puff")
        } else {
            format!("its surface is at {PUFFS_AT_C:.0} °C for less than five minutes")
        };
        // So near, this estimate cannot tell.
        let near = dry >= DRY_ENOUGH.0 && (hot - PUFFS_AT_C).abs() < UNSURE_K;
        let (severity, text) = if near {
            let text = format!(
                "The skin may not puff all over: {lacks}, as far as an estimate can say. Go by the knock; a short, fierce heat from above at the end puffs the rest."
            );
            (Severity::Note, text)
        } else {
            let text = format!(
                "The core is there before the skin: {lacks}. Take it out at its pull all the same, let it rest, and give the skin alone a short, fierce heat from above."
            );
            (Severity::Amber, text)
        };
        return Some(Caution::new("core-first", severity, text, "our estimate", Some(facts.at)));
    }
    facts.crisp.scorches_first().then(|| {
        let text = format!(
            "The skin is there before the core: once it has puffed it stays as hot for {}. Lay foil loosely over it when it sounds hollow, or go lower first and fierce at the end.",
            span(scorches)
        );
        Caution::new("skin-first", Severity::Amber, text, "our estimate", Some(facts.at))
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::{Dryness, celsius, minutes};

    fn said(puffs: Option<f64>, after: f64, hottest: f64, crackles: bool) -> Option<(&'static str, String)> {
        let crisp = Crisp {
            before: Dryness(0.5),
            begins: (hottest >= PUFFS_AT_C).then_some(Dryness(after)),
            after: Dryness(after),
            hottest: celsius(hottest),
            puffs: puffs.map(minutes),
            scorches: minutes(puffs.map_or(0.0, |at| 100.0 - at)),
        };
        let facts = CrispFacts { crisp, crackles, at: StepKind::Grill };
        crisp_caution(&facts).map(|c| (c.code, c.text))
    }

    #[test]
    fn both_finish_lines_are_said_where_they_come_apart() {
        // TRADE 9.11: core long before crisp skin is usual; skin first means shield it.
        let (code, text) = said(None, 1.0, 112.0, true).unwrap();
        assert!(code == "core-first" && text.contains("112 °C at most"), "{text}");
        assert!(said(None, 0.96, PUFFS_AT_C + 0.5, true).unwrap().1.starts_with("The skin may not puff"), "so near nobody can tell");
        assert!(said(None, 0.8, 170.0, true).unwrap().1.contains("80 % dry"));
        assert!(said(None, 1.0, 170.0, true).unwrap().1.contains("less than five minutes"));
        let (code, text) = said(Some(20.0), 1.0, 170.0, true).unwrap();
        assert!(code == "skin-first" && text.contains("1 h 20 min"), "{text}");
        // In good time, and where nobody wants crackling, it stays quiet.
        assert_eq!((said(Some(90.0), 1.0, 170.0, true), said(None, 0.0, 96.0, false)), (None, None));
    }
}
