//! A salted piece in the refrigerator: what really happened to it, in the terms its rest is reckoned in.

use super::on::OnIt;
use super::plan::RunPlan;
use super::record::{Fact, Record, Weighed};
use crate::ask::PlanRequest;
use crate::method::StepKind;
use crate::plan::ActualSalt;
use crate::run::WeighedPiece;
use crate::skin::drying::{Answer, Weighing};
use crate::units::{Time, TimeIn, grams};
use jiff::{SignedDuration, Timestamp};

/// So long salt and skin are followed at most: the moment that is asked for comes from outside.
const FOLLOWED: SignedDuration = SignedDuration::from_hours(24 * 62);

/// A salted piece with everything that is known of its rest.
#[derive(Debug, Clone)]
pub struct InTheCold {
    /// As it was planned.
    pub request: PlanRequest,
    /// What is really on it, and since when things changed.
    pub really: ActualSalt,
    /// When salt went on.
    pub salted: Timestamp,
    /// When it left the cold, or is to.
    pub out: Timestamp,
    /// Whether it has left already.
    pub left: bool,
}

impl InTheCold {
    pub(super) fn of(plan: &RunPlan, record: &Record, on: Option<&OnIt>, left: Option<Timestamp>, out: Timestamp) -> Option<Self> {
        let request = plan.request.clone()?;
        let Some(on) = on else { return Self::unsalted(request, record, left, out) };
        Some(Self { request, really: on.really.clone(), salted: on.since, out: left.unwrap_or(out), left: left.is_some() })
    }

    /// A piece whose method salts it only after the cold lies there bare, and dries.
    fn unsalted(request: PlanRequest, record: &Record, left: Option<Timestamp>, out: Timestamp) -> Option<Self> {
        if !request.the_method().salts_after_the_cold() {
            return None;
        }
        let laid = record.task(StepKind::Chill.id()).began?;
        let really = ActualSalt { grams: Some(grams(0.0)), ..ActualSalt::default() };
        let request = PlanRequest { ledger: vec![], mix: None, ..request };
        Some(Self { request, really, salted: laid, out: left.unwrap_or(out), left: left.is_some() })
    }

    /// Hours of salt at a moment, at most as many as are followed: two months, three times as long as anything may lie.
    pub fn hours_at(&self, at: Timestamp) -> Time {
        let most = self.salted.checked_add(FOLLOWED).unwrap_or(Timestamp::MAX);
        super::record::between(self.salted, at.min(most))
    }

    /// The moment after so many hours of salt.
    pub fn moment(&self, after: Time) -> Timestamp {
        self.salted.saturating_add(SignedDuration::from_secs(after.in_s().round() as i64)).unwrap_or(self.salted)
    }

    /// How long it has stood in the open at a moment.
    pub fn open_at(&self, at: Timestamp) -> Time {
        self.hours_at(at) + self.really.open_before
    }

    /// A weighing in the terms of drying.
    pub fn weighing(&self, of: &Fact<Weighed>) -> Weighing {
        let says = &of.says;
        Weighing {
            at: self.open_at(of.at),
            gross: says.gross,
            tare: says.tare,
            fineness: says.fineness,
            answer: says.answer.as_deref().and_then(Answer::find),
            open: says.is_open(),
        }
    }

    /// The piece with its weighings, as its refrigerator learns from them. Those before the salt and after the cold do not
    /// count: the scale then knows other things than evaporation.
    pub fn weighed<'a>(&self, weighed: impl IntoIterator<Item = &'a Fact<Weighed>>) -> WeighedPiece {
        let counts = |w: &&Fact<Weighed>| w.at >= self.salted && (!self.left || w.at <= self.out);
        WeighedPiece {
            request: self.request.clone(),
            really: self.really.clone(),
            weighings: weighed.into_iter().filter(counts).map(|w| self.weighing(w)).collect(),
        }
    }

    /// All weighings of a record.
    pub fn weighed_all(&self, record: &Record) -> WeighedPiece {
        self.weighed(&record.weighed)
    }
}
