//! One fire for pieces that want different airs.

use crate::piece::Opened;
use jiff::ZonedDateTime;
use rauchkeller_contract::StepDoc;
use rauchkeller_core::fire::HeatSource;
use rauchkeller_core::run::{Clash, InTheFire, Leg, clashes};
use rauchkeller_core::units::celsius;

/// So many names are said; of more, how many.
const NAMED: usize = 3;

/// A clash in words: `One fire: Belly wants 245 °C, Turkey and Duck want 163 °C`.
pub fn words(clash: &Clash, pieces: &[Opened]) -> String {
    let want = |(of, air): &(Vec<usize>, i64)| {
        let mut names: Vec<&str> = of.iter().map(|i| pieces[*i].piece.name.as_str()).collect();
        names.dedup();
        format!("{} {air} °C", listed(&names))
    };
    format!("One fire: {}, {}", want(&clash.hot), want(&clash.low))
}

fn listed(names: &[&str]) -> String {
    let more = names.len().saturating_sub(NAMED);
    match names {
        [one] => format!("{one} wants"),
        [before @ .., last] if more == 0 => format!("{} and {last} want", before.join(", ")),
        _ => format!("{} and {more} more want", names[..NAMED].join(", ")),
    }
}

/// What gives a step its heat; an oven in plans of before there was a choice.
pub fn heat_of(step: &StepDoc) -> HeatSource {
    step.resources.iter().find_map(|resource| HeatSource::find(resource.strip_prefix("heat:")?)).unwrap_or_default()
}

/// The pieces that cannot share the fire.
pub fn clashes_of(pieces: &[Opened], now: &ZonedDateTime) -> Vec<Clash> {
    let stays = pieces.iter().enumerate().flat_map(|(piece, opened)| {
        let stay = |leg: &Leg| {
            let step = opened.plan.steps.get(leg.task)?;
            Some(InTheFire { piece, from: leg.from, to: leg.to, air: celsius(step.air_c?), heat: heat_of(step) })
        };
        opened.stand(now).legs.iter().filter_map(stay).collect::<Vec<_>>()
    });
    clashes(&stays.collect::<Vec<_>>())
}

#[cfg(test)]
mod tests {
    use super::super::CellarView;
    use super::*;
    use crate::piece::testing::{kept_cut, opened};

    fn now(text: &str) -> ZonedDateTime {
        text.parse().unwrap()
    }

    #[test]
    fn one_fire_for_two_temperatures_is_a_clash() {
        let pieces = [opened(&[]), kept_cut("turkey-whole", 5200.0, &[])];
        let view = CellarView::of(&pieces, &[], &now("2026-12-10T12:00[Europe/Vienna]"));
        // 175 °C beside 163 °C is one air; the belly's last minutes under 245 °C are not.
        let clash = view.watch.iter().find(|w| w.text.contains("One fire")).expect("a clash");
        assert!(clash.text.contains("245 °C") && clash.text.contains("163 °C") && clash.severity == "red", "{}", clash.text);
        assert!(view.board_wide.contains(r#"class="clash""#));
        // Two bellies want the same: no clash.
        let same = CellarView::of(&[opened(&[]), opened(&[])], &[], &now("2026-12-10T12:00[Europe/Vienna]"));
        assert!(!same.watch.iter().any(|w| w.text.contains("One fire")));
    }

    #[test]
    fn pieces_that_want_the_same_air_are_said_together() {
        let mut pieces: Vec<Opened> = (0..5).map(|_| opened(&[])).collect();
        for (i, piece) in pieces.iter_mut().enumerate() {
            piece.piece.name = format!("Belly {i}");
        }
        pieces.push(kept_cut("turkey-whole", 5200.0, &[]));
        let found = clashes_of(&pieces, &now("2026-12-10T12:00[Europe/Vienna]"));
        assert_eq!(found.len(), 1, "five bellies and one turkey are one clash");
        let words = words(&found[0], &pieces);
        assert!(words.contains("Belly 0, Belly 1, Belly 2 and 2 more want 245 °C") && words.contains(" wants 163 °C"), "{words}");
    }
}
