//! The alarm where the meat is: a refrigerator above 4.4 °C, now or for a while.

use super::Opened;
use jiff::{SignedDuration, Timestamp, ZonedDateTime};
use rauchkeller_core::caution::{Caution, Severity, WarmSpell, out_stop, too_warm, warm_between, warm_stop};
use rauchkeller_core::clock::kitchen;
use rauchkeller_core::units::celsius;

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
    /// Whether it is about the refrigerator's air.
    pub of_air: bool,
}

impl Stop {
    /// Of a piece that lies in the refrigerator, or lay there too warm; `None` while all was cold.
    pub fn of(opened: &Opened, now: &ZonedDateTime) -> Option<Self> {
        if opened.piece.finished_at.is_some() {
            return None;
        }
        let stand = opened.stand(now);
        let out = stand.left_cold.unwrap_or(Timestamp::MAX);
        let noted = opened.run.tasks.iter().filter_map(|t| stand.record.ticked(&t.id, t.tick));
        let into = noted.chain(bought(opened, now)).chain(begins(opened, now)).min()?;
        // What is bought for a later day, or not begun, lies in no refrigerator yet.
        if into > now.timestamp() {
            return None;
        }
        let read = |note: &rauchkeller_store::WarmNote| WarmSpell { from: note.from, to: note.to, air: note.air_c.map(celsius) };
        let mut spells: Vec<WarmSpell> = opened.piece.warm.iter().map(read).chain(stand.record.warm.iter().copied()).collect();
        // Planned with warm air, and nobody has read the refrigerator since.
        let planned = celsius(opened.plan.request.fridge_c);
        if opened.fridge.version == 0 && too_warm(planned) {
            spells.push(WarmSpell { from: None, to: None, air: Some(planned) });
        }
        let Some(warm) = warm_between(&spells, into, out, now.timestamp()) else {
            let Caution { text, source, .. } = out_stop(kitchen(stand.out.sum), stand.out.since.is_some(), opened.run.out_at_most())?;
            return Some(Self { text, severity: "red", source, standing: false, of_air: false });
        };
        let Caution { text, severity, source, .. } = warm_stop(&warm, kitchen(stand.out.sum), opened.run.out_at_most());
        Some(Self {
            text,
            severity: if severity == Severity::Red { "red" } else { "amber" },
            source,
            standing: warm.standing,
            of_air: true,
        })
    }

    /// Whether it is a full stop.
    pub fn is_red(&self) -> bool {
        self.severity == "red"
    }
}

/// What nobody said the day of its purchase of, and is begun within so long, is in the house (our estimate).
const IN_THE_HOUSE: SignedDuration = SignedDuration::from_hours(24);

/// Since when it is in the house where nobody said: from when it was written down, or, where its work lies further ahead, from then.
fn begins(opened: &Opened, now: &ZonedDateTime) -> Option<Timestamp> {
    let first = opened.run.tasks.iter().map(|task| task.starts).min()?;
    let soon = first.duration_since(now.timestamp()) <= IN_THE_HOUSE;
    Some(if soon { opened.piece.created_at } else { first.max(opened.piece.created_at) })
}

/// Noon of the day on which it was bought: it lay in the refrigerator before anybody planned it.
fn bought(opened: &Opened, now: &ZonedDateTime) -> Option<Timestamp> {
    let request = opened.run.request.as_ref().filter(|request| !request.frozen)?;
    let noon = request.bought_on?.at(12, 0, 0, 0).to_zoned_datetime(now.time_zone().clone()).ok()?;
    Some(noon.timestamp())
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
        piece.piece.warm = vec![warm(None, None)];
        let stop = Stop::of(&piece, &now).unwrap();
        assert!(stop.is_red() && stop.standing && stop.text.contains("14 °C") && stop.text.contains("Since when?"), "{}", stop.text);
        // Three hours of it: FSIS says discard.
        piece.piece.warm = vec![warm(Some("2026-12-11T15:00:00Z"), Some("2026-12-11T18:00:00Z"))];
        let stop = Stop::of(&piece, &now).unwrap();
        assert!(stop.is_red() && !stop.standing && stop.text.contains("Discard it"), "{}", stop.text);
        // An hour, and the five minutes on the bench: amber, in one sum.
        piece.piece.warm = vec![warm(Some("2026-12-11T15:00:00Z"), Some("2026-12-11T16:00:00Z"))];
        let stop = Stop::of(&piece, &now).unwrap();
        assert!(!stop.is_red() && stop.text.contains("out of the refrigerator"), "{}", stop.text);
        // What is to be bought on Saturday lies in no warm refrigerator on Friday.
        let mut ahead = opened(&[]);
        ahead.piece.warm = vec![warm(None, None)];
        assert!(Stop::of(&ahead, &now).is_some(), "bought the day before");
        for task in &mut ahead.run.tasks {
            task.starts = "2026-12-13T10:00:00Z".parse().unwrap();
        }
        ahead.run.request.as_mut().unwrap().bought_on = Some("2026-12-12".parse().unwrap());
        assert!(Stop::of(&ahead, &now).is_none());
        ahead.run.request.as_mut().unwrap().bought_on = None;
        assert!(Stop::of(&ahead, &now).is_none());
        // What was before it came does not count.
        piece.piece.warm = vec![warm(Some("2026-12-01T15:00:00Z"), Some("2026-12-01T18:00:00Z"))];
        assert!(Stop::of(&piece, &now).is_none());
    }
}
