//! How long in the cold: the stretch that takes up the slack.

use super::storage::Keeps;
use super::{exact, kitchen};
use crate::salt::RestHours;
use crate::units::{Time, TimeIn, hours};
use jiff::civil;
use jiff::tz::TimeZone;
use jiff::{SignedDuration, Timestamp, ZonedDateTime};

/// Hours in which nobody works, wall time; may pass midnight.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Quiet {
    /// Bed time.
    pub from: civil::Time,
    /// Up again.
    pub to: civil::Time,
}

impl Quiet {
    /// Whether a moment falls into it.
    pub fn holds(self, at: &ZonedDateTime) -> bool {
        self.holds_at(at.timestamp(), at.time_zone())
    }

    fn holds_at(self, at: Timestamp, zone: &TimeZone) -> bool {
        let time = at.to_zoned_datetime(zone.clone()).time();
        if self.from <= self.to { time >= self.from && time < self.to } else { time >= self.from || time < self.to }
    }

    /// Whether any moment from `start` to `end` falls into it; sampled every five minutes.
    fn touches(self, start: Timestamp, end: Timestamp, zone: &TimeZone) -> bool {
        let mut at = start;
        while at < end {
            if self.holds_at(at, zone) {
                return true;
            }
            at += SignedDuration::from_mins(5);
        }
        self.holds_at(end - SignedDuration::from_secs(1), zone)
    }
}

/// What is known before the hours are chosen.
#[derive(Debug, Clone)]
pub struct ColdAsk {
    /// The moment from which is planned.
    pub now: ZonedDateTime,
    /// The meal, if it is fixed.
    pub serve_at: Option<ZonedDateTime>,
    /// Thawing before the work.
    pub thaw: Time,
    /// Work before the cold that is still to do.
    pub before: Time,
    /// Work after it, until the table.
    pub after: Time,
    /// Shortest, ideal, longest useful.
    pub rest: RestHours,
    /// Hours the cook asked for.
    pub asked: Option<Time>,
    /// When it was salted, if it already is.
    pub salted_at: Option<Timestamp>,
    /// Storage limit, if known.
    pub keeps: Option<Keeps>,
    /// Night.
    pub quiet: Option<Quiet>,
}

/// Meals that can be had from now on.
#[derive(Debug, Clone, PartialEq)]
pub struct Meals {
    /// With the shortest sound rest.
    pub earliest: ZonedDateTime,
    /// With the ideal rest or a little more, at an hour at which one eats.
    pub best: ZonedDateTime,
    /// With the longest useful rest, or at the storage limit.
    pub latest: ZonedDateTime,
}

/// The stretch in the cold, and what hangs on it.
#[derive(Debug, Clone, PartialEq)]
pub struct ColdPlan {
    /// Into the cold (or: salted, when that is past).
    pub from: Timestamp,
    /// Out of it.
    pub to: Timestamp,
    /// The meal.
    pub serve: ZonedDateTime,
    /// Hours of salt until it leaves the cold.
    pub planned: Time,
    /// How much earlier the work before could start, and how much later.
    pub slack: (Time, Time),
    /// The longest rest that still fits before the meal.
    pub fits: Time,
    /// Meals from now.
    pub meals: Meals,
}

/// Why no plan can be made.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum ClockRefusal {
    /// The meal is too near, or past.
    #[error("the work and the heat alone reach past that meal")]
    MealTooSoon {
        /// The earliest moment food can stand on the table, without any rest in the cold.
        possible: ZonedDateTime,
        /// The earliest meal with a sound rest.
        sound: ZonedDateTime,
    },
    /// More hours asked than are left.
    #[error("these hours do not fit before the meal")]
    HoursDoNotFit {
        /// What fits.
        fits: Time,
    },
    /// Fewer hours asked than it has already been salted.
    #[error("it has already been salted for longer")]
    AlreadyLonger {
        /// How long, at the moment of leaving the cold.
        already: Time,
    },
    /// Beyond the calendar.
    #[error("that is beyond the calendar")]
    BeyondCalendar,
}

/// Chooses the hours in the cold.
///
/// The meal fixes when it leaves the cold; the rest stretches between shortest and longest useful so
/// that the work before falls when the cook is awake, as near the ideal as may be. When less is left
/// than the shortest, what is left is planned and the caller warns. Nothing starts before `now`.
pub fn choose_cold(ask: &ColdAsk) -> Result<ColdPlan, ClockRefusal> {
    let zone = ask.now.time_zone().clone();
    let now = ask.now.timestamp();
    let (thaw, before, after) = (exact(ask.thaw), exact(ask.before), exact(ask.after));
    let ready = now + thaw + before;
    let meals = meals(ask, ready)?;
    let serve = ask.serve_at.clone().unwrap_or_else(|| meals.best.clone());
    let to = serve.timestamp() - after;
    if to < ready {
        let possible = (ready + after).to_zoned_datetime(zone);
        return Err(ClockRefusal::MealTooSoon { possible, sound: meals.earliest });
    }
    if let Some(salted) = ask.salted_at {
        let planned = kitchen(to - salted);
        if let Some(asked) = ask.asked
            && (asked.in_h() - planned.in_h()).abs() > 0.26
        {
            return Err(if asked > planned {
                ClockRefusal::HoursDoNotFit { fits: planned }
            } else {
                ClockRefusal::AlreadyLonger { already: planned }
            });
        }
        return Ok(ColdPlan { from: salted, to, serve, planned, slack: (hours(0.0), hours(0.0)), fits: planned, meals });
    }
    let fits = kitchen(to - ready);
    let planned = match ask.asked {
        Some(asked) if asked > fits => return Err(ClockRefusal::HoursDoNotFit { fits }),
        Some(asked) => asked,
        None => stretch(ask, to, fits, &zone),
    };
    let longest = if ask.rest.longest < fits { ask.rest.longest } else { fits };
    let more = (longest.in_h() - planned.in_h()).max(0.0);
    let less = (planned.in_h() - ask.rest.shortest.in_h()).max(0.0);
    Ok(ColdPlan { from: to - exact(planned), to, serve, planned, slack: (hours(more), hours(less)), fits, meals })
}

/// The rest nearest the ideal whose work before is not in the night.
fn stretch(ask: &ColdAsk, to: Timestamp, fits: Time, zone: &TimeZone) -> Time {
    let cap = |h: f64| h.min(fits.in_h());
    let ideal = cap(ask.rest.ideal.in_h());
    let Some(quiet) = ask.quiet else { return hours(ideal) };
    let (shortest, longest) = (cap(ask.rest.shortest.in_h()), cap(ask.rest.longest.in_h()));
    let awake = |h: f64| {
        let end = to - exact(hours(h));
        !quiet.touches(end - exact(ask.before), end, zone)
    };
    let quarter = 0.25;
    let most = ((longest - shortest) / quarter).ceil().max(0.0) as usize + 1;
    (0..=most)
        .flat_map(|i| {
            let away = i as f64 * quarter;
            [ideal + away, ideal - away]
        })
        .find(|h| *h >= shortest - 1e-9 && *h <= longest + 1e-9 && awake(*h))
        .map_or(hours(ideal), hours)
}

fn meals(ask: &ColdAsk, ready: Timestamp) -> Result<Meals, ClockRefusal> {
    let zone = ask.now.time_zone().clone();
    let after = exact(ask.after);
    let rest_from = ask.salted_at.unwrap_or(ready);
    let beyond = |_| ClockRefusal::BeyondCalendar;
    let meal = |rest: Time| -> Result<Timestamp, ClockRefusal> {
        let out = rest_from.checked_add(exact(rest)).map_err(beyond)?;
        out.max(ready).checked_add(after).map_err(beyond)
    };
    let earliest = meal(ask.rest.shortest)?;
    // Unsalted pieces may start later: only the storage limit ends that.
    let stored = ask.keeps.map(|k| k.red.checked_add(after).map_err(beyond)).transpose()?;
    let useful = meal(ask.rest.longest)?;
    let latest = match (stored, ask.salted_at) {
        (Some(stored), Some(_)) => stored.min(useful),
        (Some(stored), None) => stored,
        (None, _) => useful,
    };
    let best = waking(ask, meal(ask.rest.ideal)?, latest, &zone);
    let zoned = |at: Timestamp| at.to_zoned_datetime(zone.clone());
    Ok(Meals { earliest: zoned(round_up(earliest)), best: zoned(best), latest: zoned(latest) })
}

/// Hours at which a meal is proposed, wall time [est]: from noon to half past eight.
const EATING: (i8, i8) = (12, 20);

/// The first quarter hour from `from` on at which one eats and no work falls into the night; the
/// first waking one where `latest` comes before that.
fn waking(ask: &ColdAsk, from: Timestamp, latest: Timestamp, zone: &TimeZone) -> Timestamp {
    let first = round_up(from);
    let Some(quiet) = ask.quiet else { return first };
    let mut awake = None;
    let mut at = first;
    for _ in 0..192 {
        if at > latest {
            break;
        }
        if !quiet.touches(at - exact(ask.after), at, zone) {
            let hour = at.to_zoned_datetime(zone.clone()).hour();
            if (EATING.0..=EATING.1).contains(&hour) {
                return at;
            }
            awake = awake.or(Some(at));
        }
        at += SignedDuration::from_mins(15);
    }
    awake.unwrap_or(first)
}

/// Up to the next quarter hour.
fn round_up(at: Timestamp) -> Timestamp {
    let quarter = 15 * 60;
    let over = at.as_second().rem_euclid(quarter);
    let whole = at - SignedDuration::from_secs(over) - SignedDuration::from_nanos(i64::from(at.subsec_nanosecond()));
    if over == 0 && at.subsec_nanosecond() == 0 { at } else { whole + SignedDuration::from_secs(quarter) }
}

#[cfg(test)]
mod tests;
