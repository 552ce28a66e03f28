//! What the refrigerator's page shows.

use super::{Refused, Typed};
use crate::piece::{Opened, Stop};
use crate::words::{figure_in_units, span, trim, wall};
use jiff::ZonedDateTime;
use rauchkeller_core::caution::too_warm;
use rauchkeller_core::units::{System, celsius};
use rauchkeller_store::{Refrigerator, WarmNote};
use std::collections::BTreeMap;

/// What a while above 4.4 °C means for one piece.
pub struct Follows {
    /// Pieces of which it is said, by id and name: one cause is said once.
    pub of: Vec<(String, String)>,
    pub text: String,
    pub severity: &'static str,
    pub source: &'static str,
}

/// The while that lasts.
pub struct Lasting {
    pub id: String,
    pub since: String,
}

/// One line of what was noted.
pub struct NotedWhile {
    pub id: String,
    pub when: String,
    pub says: String,
}

/// The page.
pub struct FridgeView {
    pub air: String,
    pub other: String,
    /// °C or °F.
    pub unit: String,
    pub line: String,
    pub too_warm: bool,
    pub version: i32,
    pub rh: String,
    pub open: Option<Lasting>,
    pub follows: Vec<Follows>,
    pub pieces: Vec<(String, String)>,
    pub notes: Vec<NotedWhile>,
    pub removed: Option<String>,
    pub typed: Typed,
    pub key: String,
    pub said: Option<String>,
    slips: BTreeMap<&'static str, String>,
}

impl FridgeView {
    /// From what is known.
    pub fn of(fridge: &Refrigerator, spells: &[WarmNote], pieces: &[Opened], now: &ZonedDateTime, system: Option<System>) -> Self {
        let warm = too_warm(celsius(fridge.air_c));
        let (air, unit, other) = figure_in_units(&trim(fridge.air_c, 1), "°C", system);
        let mut follows: Vec<Follows> = Vec::new();
        for (opened, stop) in pieces.iter().filter_map(|opened| Some((opened, Stop::of(opened, now)?))) {
            let of = (opened.piece.id.to_string(), opened.piece.name.clone());
            match follows.iter_mut().find(|said| said.text == stop.text) {
                Some(said) => said.of.push(of),
                None => follows.push(Follows { of: vec![of], text: stop.text, severity: stop.severity, source: stop.source }),
            }
        }
        let lasts = |note: &&WarmNote| note.piece.is_none() && note.to.is_none();
        let open = spells
            .iter()
            .find(lasts)
            .map(|note| Lasting { id: note.id.to_string(), since: note.from.map(|from| wall(from, now)).unwrap_or_default() });
        Self {
            line: match (warm, fridge.version > 0) {
                (true, _) => "Too warm for raw meat: at most 4.4 °C (40 °F).".into(),
                (false, true) => "Cold enough for raw meat.".into(),
                (false, false) => "A guess: nobody has read it yet.".into(),
            },
            other,
            unit,
            air,
            too_warm: warm,
            version: fridge.version,
            rh: fridge.rh.map(|rh| trim(rh * 100.0, 0)).unwrap_or_default(),
            open,
            follows,
            pieces: pieces.iter().map(|p| (p.piece.id.to_string(), p.piece.name.clone())).collect(),
            notes: spells.iter().take(30).map(|note| noted(note, pieces, now)).collect(),
            removed: None,
            typed: Typed::default(),
            key: String::new(),
            said: None,
            slips: BTreeMap::new(),
        }
    }

    /// With what a refused form left.
    pub fn with(&mut self, refused: Refused) {
        (self.typed, self.slips, self.said) = (refused.typed, refused.slips, refused.said);
    }

    /// What is wrong with a field; the template asks.
    pub fn slip(&self, field: &str) -> Option<&String> {
        self.slips.get(field)
    }
}

fn noted(note: &WarmNote, pieces: &[Opened], now: &ZonedDateTime) -> NotedWhile {
    let when = match (note.from, note.to) {
        (Some(from), Some(to)) => format!("{} – {}", wall(from, now), wall(to, now)),
        (Some(from), None) => format!("since {}", wall(from, now)),
        (None, Some(to)) => format!("until {}", wall(to, now)),
        (None, None) => "now".into(),
    };
    let long = match (note.from, note.to) {
        (Some(from), Some(to)) => span(to.duration_since(from)),
        (Some(from), None) => format!("{} so far", span(now.timestamp().duration_since(from))),
        _ => "nobody has said since when".into(),
    };
    let air = note.air_c.map_or_else(|| "above 4.4 °C (40 °F)".into(), |c| format!("{} °C", trim(c, 1)));
    let whom = note.piece.map(|id| pieces.iter().find(|p| p.piece.id == id).map_or("one piece", |p| p.piece.name.as_str()));
    NotedWhile { id: note.id.to_string(), when, says: format!("{long}, {air}, {}", whom.unwrap_or("everything in it")) }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::testing::opened;
    use rauchkeller_store::{NoteId, PieceId};
    use uuid::Uuid;

    fn now() -> ZonedDateTime {
        "2026-12-11T20:00[Europe/Vienna]".parse().unwrap()
    }

    fn known(air_c: f64) -> Refrigerator {
        Refrigerator { air_c, version: 1, ..Refrigerator::default() }
    }

    fn note(from: Option<&str>, to: Option<&str>, piece: Option<PieceId>) -> WarmNote {
        let at = |text: &str| text.parse().unwrap();
        WarmNote { id: NoteId(Uuid::nil()), piece, from: from.map(at), to: to.map(at), air_c: Some(9.0) }
    }

    #[test]
    fn the_air_is_said_in_the_households_degrees_and_judged_by_the_rule() {
        // USDA FSIS: at most 4.4 °C, 40 °F; by hand 7 °C are 44.6 °F.
        for (air, warm, line) in [(4.4, false, "Cold enough"), (7.0, true, "Too warm for raw meat")] {
            let view = FridgeView::of(&known(air), &[], &[], &now(), None);
            assert!(view.too_warm == warm && view.line.starts_with(line) && view.air == trim(air, 1), "{air}: {}", view.line);
        }
        let view = FridgeView::of(&known(7.0), &[], &[], &now(), Some(System::Customary));
        assert!(view.unit.starts_with("°F") && view.air.starts_with("45"), "{} {}", view.air, view.unit);
        assert!(FridgeView::of(&Refrigerator::default(), &[], &[], &now(), None).line.contains("A guess"));
    }

    #[test]
    fn what_was_warm_is_listed_with_its_length_and_what_it_means_for_each_piece() {
        let mut belly = opened(&[("salt", "2026-12-11T13:00:00Z"), ("chill", "2026-12-11T13:05:00Z")]);
        let spell = note(Some("2026-12-11T15:00:00Z"), Some("2026-12-11T18:00:00Z"), None);
        belly.piece.warm = vec![spell];
        let own = note(Some("2026-12-11T18:30:00Z"), None, Some(belly.piece.id));
        let view = FridgeView::of(&known(4.0), &[spell, own], std::slice::from_ref(&belly), &now(), None);
        // By hand: three hours are more than two.
        assert!(view.follows.len() == 1 && view.follows[0].severity == "red" && view.follows[0].text.contains("Discard"));
        assert!(view.notes[0].says.starts_with("3 h, 9 °C, everything in it"), "{}", view.notes[0].says);
        assert!(view.notes[1].says.contains("so far") && view.notes[1].says.ends_with(&belly.piece.name), "{}", view.notes[1].says);
        assert!(view.open.is_none(), "one piece's own is not the refrigerator's");
        let lasting = note(Some("2026-12-11T18:00:00Z"), None, None);
        assert_eq!(FridgeView::of(&known(9.0), &[lasting], &[], &now(), None).open.map(|open| open.since).as_deref(), Some("19:00"));
    }
}
