//! A kept piece in the refrigerator: what really happened to it, in core's terms.

use super::Opened;
use super::standing::{left_cold, salted_at};
use crate::words::instant;
use jiff::{Timestamp, ZonedDateTime};
use rauchkeller_contract::read_kept;
use rauchkeller_core::clock::kitchen;
use rauchkeller_core::method::StepKind;
use rauchkeller_core::plan::{PlanRequest, ReallyOn, SaltChange, WeighedPiece};
use rauchkeller_core::skin::drying::{Air, Answer, Fit, Weighing};
use rauchkeller_core::units::{HeatTransfer, RelativeHumidity, Time, TimeIn, celsius, grams, hours};
use rauchkeller_store::{Refrigerator, WeighIn};

/// A salted piece with everything that is known of its rest.
pub struct InTheCold {
    /// As it was planned.
    pub request: PlanRequest,
    /// What is really on it, and since when things changed.
    pub really: ReallyOn,
    /// When salt went on.
    pub salted: Timestamp,
    /// When it left the cold, or is planned to.
    pub out: Timestamp,
    /// Whether it has left already.
    pub left: bool,
}

/// The air of a refrigerator as it is known now: typed, else as the piece was planned; with the coefficient weighings gave.
pub fn air_of(fridge: &Refrigerator, planned: Air) -> Air {
    let typed = fridge.version > 0;
    Air {
        temperature: if typed { celsius(fridge.air_c) } else { planned.temperature },
        humidity: fridge.rh.map_or(planned.humidity, RelativeHumidity),
        h: fridge.fit_h.map_or(planned.h, HeatTransfer),
    }
}

/// How well the coefficient is known.
pub fn known_of(fridge: &Refrigerator, planned: Air) -> Fit {
    match (fridge.fit_h, fridge.fit_spread) {
        (Some(h), Some(spread)) => Fit { h: HeatTransfer(h), spread, points: fridge.fit_points.unsigned_abs() as usize },
        _ => Fit::unweighed(planned.h),
    }
}

impl InTheCold {
    /// Of a piece that is salted; `None` while it is not, or where its request cannot be read any more.
    pub fn of(opened: &Opened, now: &ZonedDateTime) -> Option<Self> {
        let salted = salted_at(opened)?;
        let stored = serde_json::from_str(&opened.piece.request).ok()?;
        let request = read_kept(&stored, now)?;
        let laid = request.done.iter().filter(|d| d.kind == StepKind::Chill).map(|d| d.at).min();
        let open_before = laid.map_or(hours(0.0), |laid| kitchen(salted.duration_since(laid.min(salted))));
        let since = |at: Timestamp| kitchen(at.duration_since(salted).max(jiff::SignedDuration::ZERO));
        let changes = opened.piece.rest.changes.iter().map(|c| SaltChange { after: since(c.at), by: grams(c.by_g) }).collect();
        let really = ReallyOn { grams: crate::salt::really_on(opened).map(grams), changes, open_before };
        let left = left_cold(opened);
        Some(Self { request, really, salted, out: left.unwrap_or_else(|| instant(&opened.plan.fridge.to)), left: left.is_some() })
    }

    /// Hours of salt at a moment.
    pub fn hours_at(&self, at: Timestamp) -> Time {
        kitchen(at.duration_since(self.salted).max(jiff::SignedDuration::ZERO))
    }

    /// The moment after so many hours of salt.
    pub fn moment(&self, after: Time) -> Timestamp {
        self.salted + jiff::SignedDuration::from_secs(after.in_s().round() as i64)
    }

    /// How long it has stood in the open at a moment.
    pub fn open_at(&self, at: Timestamp) -> Time {
        self.hours_at(at) + self.really.open_before
    }

    /// The air now, and as it was planned for.
    pub fn air(&self, fridge: &Refrigerator) -> Air {
        air_of(fridge, self.request.kitchen.fridge)
    }

    /// A weighing in core's terms.
    pub fn weighing(&self, of: &WeighIn) -> Weighing {
        Weighing {
            at: self.open_at(of.noted.at),
            gross: grams(of.noted.gross_g),
            tare: grams(of.noted.tare_g),
            fineness: grams(of.noted.fineness_g),
            answer: of.answer.as_deref().and_then(Answer::find),
            open: of.is_open(),
        }
    }

    /// The piece with its weighings, as its refrigerator learns from them. Those before the salt and after the cold do not
    /// count: the scale then knows other things than evaporation.
    pub fn weighed(&self, weigh_ins: &[WeighIn]) -> WeighedPiece {
        let counts = |w: &&WeighIn| w.noted.at >= self.salted && (!self.left || w.noted.at <= self.out);
        WeighedPiece {
            request: self.request.clone(),
            really: self.really.clone(),
            weighings: weigh_ins.iter().filter(counts).map(|w| self.weighing(w)).collect(),
        }
    }
}
