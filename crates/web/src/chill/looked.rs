//! What was reckoned of a piece in the cold, kept for the moment it was reckoned at: phone, laptop and the one on the wall ask at once.

use super::rescue::rescue;
use crate::piece::{Opened, air_of, known_of};
use jiff::ZonedDateTime;
use rauchkeller_core::run::{Chilling, ChillingAsk, InTheCold, Rescue, Standing, chilling, lost_by_weighing};
use rauchkeller_core::units::{Mass, Time, TimeIn, hours};
use std::collections::HashMap;
use std::sync::{Arc, LazyLock, Mutex, PoisonError};
use uuid::Uuid;

/// A piece in the cold at one hour.
#[derive(Debug)]
pub struct Looked {
    /// The hour looked at, of salt.
    pub shown: Time,
    /// As far as its curve goes.
    pub until: Time,
    /// What core reckons of it.
    pub seen: Chilling,
    /// Its weighings, as grams lost.
    pub lost: Vec<(Time, Mass)>,
    /// What is on it and what helps.
    pub rescue: Option<Rescue>,
}

/// Of which standing, at which hour.
#[derive(Debug)]
struct Kept {
    stood: Arc<Standing>,
    asked: Option<u64>,
    looked: Arc<Looked>,
}

static LAST: LazyLock<Mutex<HashMap<Uuid, Kept>>> = LazyLock::new(Mutex::default);

/// So many pieces are kept as they were looked at; then it begins anew.
const MOST: usize = 200;

impl Looked {
    /// Looks at it at the hour asked for, else now; `span` hours at least are shown. `None` where its plan cannot be read.
    ///
    /// Cost: some milliseconds of salt and water; within the same moment a look into a table.
    pub fn at(opened: &Opened, cold: &InTheCold, asked: Option<f64>, span: f64, now: &ZonedDateTime) -> Option<Arc<Self>> {
        let hour = asked.map(f64::to_bits);
        let last = || LAST.lock().unwrap_or_else(PoisonError::into_inner);
        let stood = opened.stood_at(now);
        if let (Some(stood), Some(kept)) = (stood, last().get(&opened.piece.id.0))
            && Arc::ptr_eq(&kept.stood, stood)
            && kept.asked == hour
        {
            return Some(kept.looked.clone());
        }
        let looked = Arc::new(Self::reckoned(opened, cold, asked, span, now)?);
        if let Some(stood) = stood {
            let mut all = last();
            if all.len() >= MOST {
                all.clear();
            }
            all.insert(opened.piece.id.0, Kept { stood: stood.clone(), asked: hour, looked: looked.clone() });
        }
        Some(looked)
    }

    fn reckoned(opened: &Opened, cold: &InTheCold, asked: Option<f64>, span: f64, now: &ZonedDateTime) -> Option<Self> {
        let shown = asked.map_or_else(|| cold.hours_at(now.timestamp().min(cold.out)), hours);
        let out = cold.hours_at(cold.out);
        // As far as the longest, the way out, or wherever the cook dragged to.
        let until = hours(span.max(out.in_h() * 1.05).max(shown.in_h()).max(12.0));
        let air = air_of(&opened.fridge, cold.request.kitchen.fridge);
        let known = known_of(&opened.fridge, air);
        let ask = ChillingAsk { request: &cold.request, really: &cold.really, shown, until, air, known };
        let seen = chilling(&ask).ok()?;
        let weighed = cold.weighed_all(opened.record());
        let lost = if weighed.weighings.is_empty() { vec![] } else { lost_by_weighing(&weighed, air, known) };
        Some(Self { shown, until, seen, lost, rescue: rescue(opened, cold, now) })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::testing::opened;

    #[test]
    fn the_same_moment_is_reckoned_once_and_another_hour_or_moment_anew() {
        let opened = opened(&[("salt", "2026-12-11T13:00:00Z"), ("chill", "2026-12-11T13:05:00Z")]);
        let now: ZonedDateTime = "2026-12-12T07:00[Europe/Vienna]".parse().unwrap();
        let at = |opened: &Opened, asked, now: &ZonedDateTime| {
            let cold = opened.stand(now).cold.clone().unwrap();
            Looked::at(opened, &cold, asked, 48.0, now).unwrap()
        };
        let opened = opened.at(&now);
        let first = at(&opened, None, &now);
        assert!(Arc::ptr_eq(&first, &at(&opened, None, &now)), "the same moment");
        let later = at(&opened, Some(40.0), &now);
        assert!(later.shown > first.shown && later.seen.state.lost > first.seen.state.lost, "the hour asked for");
        let next = now.checked_add(jiff::SignedDuration::from_hours(5)).unwrap();
        let next = at(&opened.at(&next), None, &next);
        assert!((next.shown.in_h() - first.shown.in_h() - 5.0).abs() < 1e-9, "another moment");
    }
}
