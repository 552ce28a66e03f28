//! An eaten piece cooked again: its sentence, with what its verdict proposes as words, each of which can be taken back.

use super::form::BenchForm;
use crate::kit::Shelf;
use crate::piece::{Opened, is_usual_name, run_of};
use crate::words::trim;
use jiff::ZonedDateTime;
use rauchkeller_contract::as_said;
use rauchkeller_core::units::GramsPerKg;
use rauchkeller_core::verdict::{Proposal, Verdict, proposals};
use serde_json::Value;

/// What one eaten piece teaches the next.
#[derive(Debug, Clone)]
pub struct Lesson {
    /// Its request, as it was said.
    said: Value,
    proposals: Vec<(Proposal, String)>,
    /// Its dose as it was planned.
    g_per_kg: f64,
    /// What it is called.
    name: String,
    /// The same, where somebody gave it that name.
    called: String,
}

/// A proposal beside its word.
#[derive(Debug, Clone)]
pub struct Proposed {
    pub was: String,
    pub will: String,
    pub because: String,
    /// Whether the sentence says it now.
    pub taken: bool,
    /// The address with it taken back, or taken.
    pub other: String,
    /// The piece it comes from.
    pub from: String,
}

impl Lesson {
    /// Of an eaten piece.
    pub fn of(opened: &Opened, now: &ZonedDateTime) -> Self {
        let full: Value = serde_json::from_str(&opened.piece.request).unwrap_or_default();
        let g_per_kg = opened.plan.request.g_per_kg;
        let proposals = opened.record().tasted.as_ref().map_or_else(Vec::new, |tasted| {
            let says = &tasted.says;
            let verdict = Verdict { bad_patches: says.bad_patches, rim: says.rim, middle: says.middle, juice: says.juice };
            proposals(verdict, run_of(opened, now), GramsPerKg(g_per_kg))
        });
        let called = if is_usual_name(&opened.piece.name, &opened.plan) { String::new() } else { opened.piece.name.clone() };
        Self { said: as_said(&full), proposals, g_per_kg, name: opened.piece.name.clone(), called }
    }

    /// What the sentence has no words for goes on as it was then: knife and pick.
    pub fn carry(&self, request: &mut Value) {
        let same_cut = self.said["piece"]["cut"] == request["piece"]["cut"];
        if same_cut && self.said["skin"].is_object() && request["skin"].is_null() {
            request["skin"] = self.said["skin"].clone();
        }
    }

    /// Its sentence for a new piece: without the days of the old one, and with what is proposed.
    pub fn words(&self, now: &ZonedDateTime, shelf: &Shelf) -> BenchForm {
        let of_then = BenchForm::of_request(&self.said, now, shelf);
        let fresh = BenchForm {
            serve: String::new(),
            bought: String::new(),
            useby: String::new(),
            stands: String::new(),
            since: String::new(),
            on: String::new(),
            hours: String::new(),
            // A name that was given is given again; one of cut and weight follows them.
            name: self.called.clone(),
            ..of_then
        };
        self.proposals.iter().fold(fresh, |form, (proposal, _)| with(&form, *proposal))
    }

    /// The proposals, beside the sentence as it stands.
    pub fn shown(&self, form: &BenchForm) -> Vec<Proposed> {
        let show = |(proposal, because): &(Proposal, String)| {
            let taken = with(form, *proposal) == *form;
            let other = if taken { self.without(form, *proposal) } else { with(form, *proposal) };
            let (was, will) = match proposal {
                Proposal::Dose(dose) => (format!("{} g/kg", trim(self.g_per_kg, 1)), format!("{} g/kg", trim(dose.0, 1))),
                Proposal::Hours(h) => ("the clock’s own choice".to_owned(), format!("{h:.0} h")),
                Proposal::DrySkin => ("the usual ones".to_owned(), "the hours until its skin is 95 % dry".to_owned()),
            };
            Proposed { was, will, because: because.clone(), taken, other: other.address(), from: self.name.clone() }
        };
        self.proposals.iter().map(show).collect()
    }

    fn without(&self, form: &BenchForm, proposal: Proposal) -> BenchForm {
        match proposal {
            Proposal::Dose(_) => BenchForm { dose: format!("{} g/kg", trim(self.g_per_kg, 1)), ..form.clone() },
            Proposal::Hours(_) => BenchForm { hours: String::new(), ..form.clone() },
            Proposal::DrySkin => BenchForm { by: String::new(), goal: String::new(), ..form.clone() },
        }
    }
}

/// The sentence with a proposal in it.
fn with(form: &BenchForm, proposal: Proposal) -> BenchForm {
    match proposal {
        Proposal::Dose(dose) => BenchForm { dose: format!("{} g/kg", trim(dose.0, 1)), ..form.clone() },
        Proposal::Hours(h) => BenchForm { hours: format!("{h:.0}"), ..form.clone() },
        Proposal::DrySkin => BenchForm { by: "model".into(), goal: "skin 95 % dry".into(), ..form.clone() },
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::testing::opened;
    use rauchkeller_core::run::What;

    fn now() -> ZonedDateTime {
        "2026-12-14T09:00[Europe/Vienna]".parse().unwrap()
    }

    fn judged(rim: i8, middle: i8) -> Lesson {
        let eaten = opened(&[("salt", "2026-12-11T13:00:00Z"), ("chill", "2026-12-11T13:05:00Z")]);
        let tasted = What::Tasted { bad_patches: Some(0), rim, middle, juice: 0, advice: String::new() };
        Lesson::of(&eaten.with("2026-12-12T19:30:00Z", tasted), &now())
    }

    #[test]
    fn salty_throughout_is_a_gram_less_the_next_time_and_can_be_taken_back() {
        let lesson = judged(2, 1);
        let shelf = Shelf::default();
        let words = lesson.words(&now(), &shelf);
        // TRADE 10.1: one gram a kilogram less.
        assert_eq!(words.dose, format!("{} g/kg", trim(lesson.g_per_kg - 1.0, 1)));
        assert!(words.serve.is_empty() && words.bought.is_empty() && words.hours.is_empty(), "the days of the old one are over");
        let shown = lesson.shown(&words);
        assert!(shown.len() == 1 && shown[0].taken && shown[0].because.contains("salty throughout"), "{shown:?}");
        assert!(shown[0].other.contains("dose=") && !shown[0].other.contains(&format!("dose={}", super::super::encode(&words.dose))));
        // Taken back it is offered again.
        let back = BenchForm { dose: shown[0].was.clone(), ..words.clone() };
        assert!(!lesson.shown(&back)[0].taken && lesson.shown(&back)[0].other == words.address());
    }

    #[test]
    fn just_right_proposes_nothing() {
        let lesson = judged(0, 0);
        let words = lesson.words(&now(), &Shelf::default());
        assert!(lesson.shown(&words).is_empty() && words.dose == BenchForm::of_request(&lesson.said, &now(), &Shelf::default()).dose);
    }
}
