//! What was noted of a rest, newest first, and what is asked about it.

use super::view::ChillView;
use super::words::{answer, made_of, question};
use crate::piece::Opened;
use crate::words::{day_wall, grams as g};
use jiff::{Timestamp, ZonedDateTime};
use rauchkeller_core::run::{Change, Chilling, EventId, InTheCold};
use rauchkeller_core::skin::drying::{Answer, DoubtKind};
use rauchkeller_core::units::MassIn;
use uuid::Uuid;

/// One note of the rest, to be taken back.
pub struct NoteLine {
    pub kind: &'static str,
    pub id: String,
    pub when: String,
    pub figure: String,
    pub says: String,
}

/// Something asked about a weighing.
pub struct Question {
    pub id: String,
    pub when: String,
    pub asks: String,
    pub answers: Vec<(&'static str, &'static str)>,
}

impl ChillView {
    /// What was noted, and what is asked about it.
    pub(super) fn note(&mut self, opened: &Opened, cold: &InTheCold, seen: &Chilling, now: &ZonedDateTime) {
        let record = opened.record();
        let id = |id: EventId| Uuid::from_u128(id.0).to_string();
        let mut notes: Vec<(Timestamp, NoteLine)> = Vec::new();
        let first = record.weighed.iter().find(|w| w.at >= cold.salted && w.says.doubt.is_none());
        for w in &record.weighed {
            let n = &w.says;
            let net = (n.gross - n.tare).in_g();
            let made = n.answer.as_deref().and_then(Answer::find).map(made_of);
            let lighter =
                first.filter(|f| f.id != w.id && made.is_none() && !n.is_open()).map(|f| (f.says.gross - f.says.tare).in_g() - net);
            let says = match (n.is_open(), made, lighter) {
                (true, ..) => "asked about: does not count yet".to_owned(),
                (_, Some(made), _) => made.to_owned(),
                (_, _, Some(lost)) if w.at < cold.salted => format!("before the salt, {} g against the first", g(-lost)),
                (_, _, Some(lost)) if lost >= 0.0 => format!("{} g lighter than the first", g(lost)),
                (_, _, Some(lost)) => format!("{} g heavier than the first", g(-lost)),
                _ => "the first".to_owned(),
            };
            let figure = format!("{} g", g(n.gross.in_g()));
            if let Some(doubt) = n.doubt.as_ref().filter(|_| n.is_open())
                && let Some(kind) = DoubtKind::find(&doubt.kind)
            {
                self.questions.push(Question {
                    id: id(w.id),
                    when: format!("{}, {figure}", day_wall(w.at, now)),
                    asks: question(kind, doubt.off.in_g(), n.tare.in_g()),
                    answers: kind.answers().iter().map(|a| (a.id(), answer(*a))).collect(),
                });
            }
            notes.push((w.at, NoteLine { kind: "weighed", id: id(w.id), when: day_wall(w.at, now), figure, says }));
        }
        for t in &record.felt {
            // A finger that feels something else than the model says is worth a look at the skin's thickness.
            let h = cold.hours_at(t.at);
            let expected = seen.touches.iter().rev().find(|(_, from)| from.is_some_and(|from| from <= h)).map(|(touch, _)| *touch);
            let says = match expected {
                Some(touch) if touch != t.says => format!("by touch; {} was expected: is the skin as thick as said?", touch.word()),
                Some(_) => "by touch, as expected".to_owned(),
                None => "by touch".to_owned(),
            };
            notes.push((t.at, NoteLine { kind: "felt", id: id(t.id), when: day_wall(t.at, now), figure: t.says.word().to_owned(), says }));
        }
        for c in &record.changes {
            let first = c.at <= cold.salted;
            let (by, says) = match c.says {
                Change::On(by, _) if first => (by, "more than planned went on at first"),
                Change::Off(by, _) if first => (by, "less than planned went on at first"),
                Change::On(by, _) => (by, "salt laid on"),
                Change::Off(by, _) => (by, "salt brushed off"),
                Change::Really(all, _) => (all, "really on it, in all"),
            };
            let figure = format!("{} g", g(by.in_g()));
            notes.push((c.at, NoteLine { kind: "salt", id: id(c.id), when: day_wall(c.at, now), figure, says: says.into() }));
        }
        notes.sort_by_key(|(at, _)| std::cmp::Reverse(*at));
        self.notes = notes.into_iter().map(|(_, line)| line).collect();
    }
}
