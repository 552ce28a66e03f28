//! What was noted of a rest, newest first, and what is asked about it.

use super::view::RestView;
use super::words::{answer, made_of, question};
use crate::piece::{InTheCold, Opened};
use crate::words::{day_wall, grams as g};
use jiff::{Timestamp, ZonedDateTime};
use rauchkeller_core::plan::Resting;
use rauchkeller_core::skin::drying::{Answer, DoubtKind};

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

impl RestView {
    /// What was noted, and what is asked about it.
    pub(super) fn note(&mut self, opened: &Opened, cold: &InTheCold, seen: &Resting, now: &ZonedDateTime) {
        let rest = &opened.piece.rest;
        let mut notes: Vec<(Timestamp, NoteLine)> = Vec::new();
        let first = rest.weigh_ins.iter().find(|w| w.noted.at >= cold.salted && w.noted.doubt.is_none());
        for w in &rest.weigh_ins {
            let n = &w.noted;
            let net = n.gross_g - n.tare_g;
            let made = w.answer.as_deref().and_then(Answer::find).map(made_of);
            let lighter = first.filter(|f| f.id != w.id && made.is_none() && !w.is_open()).map(|f| f.noted.gross_g - f.noted.tare_g - net);
            let says = match (w.is_open(), made, lighter) {
                (true, ..) => "asked about: does not count yet".to_owned(),
                (_, Some(made), _) => made.to_owned(),
                (_, _, Some(lost)) if n.at < cold.salted => format!("before the salt, {} g against the first", g(-lost)),
                (_, _, Some(lost)) if lost >= 0.0 => format!("{} g lighter than the first", g(lost)),
                (_, _, Some(lost)) => format!("{} g heavier than the first", g(-lost)),
                _ => "the first".to_owned(),
            };
            notes.push((
                n.at,
                NoteLine { kind: "weighed", id: w.id.to_string(), when: day_wall(n.at, now), figure: format!("{} g", g(n.gross_g)), says },
            ));
            if let Some((kind, off)) = n.doubt.as_ref().filter(|_| w.is_open())
                && let Some(kind) = DoubtKind::find(kind)
            {
                self.questions.push(Question {
                    id: w.id.to_string(),
                    when: format!("{}, {} g", day_wall(n.at, now), g(n.gross_g)),
                    asks: question(kind, *off, n.tare_g),
                    answers: kind.answers().iter().map(|a| (a.id(), answer(*a))).collect(),
                });
            }
        }
        for t in &rest.touches {
            // A finger that feels something else than the model says is worth a look at the skin's thickness.
            let h = cold.hours_at(t.at);
            let expected = seen.touches.iter().rev().find(|(_, from)| from.is_some_and(|from| from <= h)).map(|(touch, _)| touch.word());
            let says = match expected {
                Some(word) if word != t.feel => format!("by touch; {word} was expected: is the skin as thick as said?"),
                Some(_) => "by touch, as expected".to_owned(),
                None => "by touch".to_owned(),
            };
            notes.push((t.at, NoteLine { kind: "felt", id: t.id.to_string(), when: day_wall(t.at, now), figure: t.feel.clone(), says }));
        }
        for c in &rest.changes {
            let purity = opened.plan.request.salt_purity;
            let says = match (c.at <= cold.salted, c.by_g < 0.0) {
                (true, false) => "more than planned went on at first",
                (true, true) => "less than planned went on at first",
                (false, true) => "salt brushed off",
                (false, false) => "salt laid on",
            };
            notes.push((
                c.at,
                NoteLine {
                    kind: "salt",
                    id: c.id.to_string(),
                    when: day_wall(c.at, now),
                    figure: format!("{} g", g(c.by_g.abs() / purity)),
                    says: says.into(),
                },
            ));
        }
        notes.sort_by_key(|(at, _)| std::cmp::Reverse(*at));
        self.notes = notes.into_iter().map(|(_, line)| line).collect();
    }
}
