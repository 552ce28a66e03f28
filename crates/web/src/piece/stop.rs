//! The alarm where the meat is: a refrigerator above 4.4 °C, now or for a while.

use super::Opened;
use super::journey::out_of_cold;
use super::standing::left_cold;
use jiff::{Timestamp, ZonedDateTime};
use rauchkeller_core::caution::{Caution, Severity, WarmSpell, too_warm, warm_between, warm_stop};
use rauchkeller_core::units::{celsius, minutes};

/// What stands in the way of this piece.
#[derive(Debug, Clone)]
pub struct Stop {
    /// What is said.
    pub text: String,
    /// `red` or `amber`.
    pub severity: &'static str,
    /// Who says so.
    pub source: &'static str,
    /// Whether the refrigerator is too warm now.
    pub standing: bool,
}

impl Stop {
    /// Of a piece that lies in the refrigerator, or lay there too warm; `None` while all was cold.
    pub fn of(opened: &Opened, now: &ZonedDateTime) -> Option<Self> {
        if opened.piece.finished_at.is_some() {
            return None;
        }
        let out = left_cold(opened).unwrap_or(Timestamp::MAX);
        let into = opened
            .piece
            .steps
            .iter()
            .filter_map(|s| s.done_at)
            .chain([opened.piece.created_at])
            .chain(bought(opened, now))
            .chain([now.timestamp()])
            .min()?;
        let read = |note: &rauchkeller_store::WarmNote| WarmSpell { from: note.from, to: note.to, air: note.air_c.map(celsius) };
        let mut spells: Vec<WarmSpell> = opened.piece.rest.warm.iter().map(read).collect();
        // Planned with warm air, and nobody has read the refrigerator since.
        let planned = celsius(opened.plan.request.fridge_c);
        if opened.fridge.version == 0 && too_warm(planned) {
            spells.push(WarmSpell { from: None, to: None, air: Some(planned) });
        }
        let warm = warm_between(&spells, into, out, now.timestamp())?;
        let (elsewhere, _) = out_of_cold(opened, now.timestamp());
        let Caution { text, severity, source, .. } = warm_stop(&warm, minutes(elsewhere.as_secs_f64() / 60.0));
        Some(Self { text, severity: if severity == Severity::Red { "red" } else { "amber" }, source, standing: warm.standing })
    }

    /// Whether it is a full stop.
    pub fn is_red(&self) -> bool {
        self.severity == "red"
    }
}

/// Noon of the day on which it was bought: it lay in the refrigerator before anybody planned it.
fn bought(opened: &Opened, now: &ZonedDateTime) -> Option<Timestamp> {
    let request: serde_json::Value = serde_json::from_str(&opened.piece.request).ok()?;
    let day: jiff::civil::Date = request["piece"]["bought_on"].as_str()?.parse().ok()?;
    let frozen = request["piece"]["frozen"].as_bool().unwrap_or(false);
    let noon = day.at(12, 0, 0, 0).to_zoned_datetime(now.time_zone().clone()).ok()?;
    (!frozen).then(|| noon.timestamp())
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::testing::opened;
    use rauchkeller_store::{NoteId, WarmNote};

    fn warm(from: Option<&str>, to: Option<&str>) -> WarmNote {
        let at = |text: &str| text.parse().unwrap();
        WarmNote { id: NoteId(uuid::Uuid::nil()), piece: None, from: from.map(at), to: to.map(at), air_c: Some(14.0) }
    }

    #[test]
    fn a_warm_refrigerator_stops_every_piece_in_it() {
        let now: ZonedDateTime = "2026-12-11T20:00[Europe/Vienna]".parse().unwrap();
        let mut piece = opened(&[("salt", "2026-12-11T13:00:00Z"), ("chill", "2026-12-11T13:05:00Z")]);
        assert!(Stop::of(&piece, &now).is_none());
        piece.piece.rest.warm = vec![warm(None, None)];
        let stop = Stop::of(&piece, &now).unwrap();
        assert!(stop.is_red() && stop.standing && stop.text.contains("14 °C") && stop.text.contains("Since when?"), "{}", stop.text);
        // Three hours of it: FSIS says discard.
        piece.piece.rest.warm = vec![warm(Some("2026-12-11T15:00:00Z"), Some("2026-12-11T18:00:00Z"))];
        let stop = Stop::of(&piece, &now).unwrap();
        assert!(stop.is_red() && !stop.standing && stop.text.contains("Discard it"), "{}", stop.text);
        // An hour, and the five minutes on the bench: amber, in one sum.
        piece.piece.rest.warm = vec![warm(Some("2026-12-11T15:00:00Z"), Some("2026-12-11T16:00:00Z"))];
        let stop = Stop::of(&piece, &now).unwrap();
        assert!(!stop.is_red() && stop.text.contains("out of the refrigerator"), "{}", stop.text);
        // What was before it came does not count.
        piece.piece.rest.warm = vec![warm(Some("2026-12-01T15:00:00Z"), Some("2026-12-01T18:00:00Z"))];
        assert!(Stop::of(&piece, &now).is_none());
    }
}
