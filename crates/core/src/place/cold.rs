//! How long in the cold: the stretch that takes up the slack.

use crate::clock::{Keeping, Quiet, StorageLimit, exact, kitchen};
use crate::salt::ChillHours;
use crate::units::{Time, TimeIn, hours};
use jiff::tz::TimeZone;
use jiff::{SignedDuration, Timestamp, ZonedDateTime, civil};

/// What is known before the hours are chosen.
#[derive(Debug, Clone)]
pub struct ColdAsk {
    /// The moment from which is planned.
    pub now: ZonedDateTime,
    /// The meal, if it is fixed.
    pub serve_at: Option<ZonedDateTime>,
    /// Thawing before the work.
    pub thaw: Time,
    /// What of the thaw goes on after the work, in the cold.
    pub thaws_on: Time,
    /// Whether hands are wanted as it thaws: then the work follows at once.
    pub attended: bool,
    /// Work before the cold that is still to do.
    pub before: Time,
    /// When hands are wanted in it: from its start on, and for how long. Empty means throughout.
    pub busy: Vec<(Time, Time)>,
    /// Work after it, until the table.
    pub after: Time,
    /// Shortest, ideal, longest useful.
    pub useful: ChillHours,
    /// Hours the cook asked for.
    pub asked: Option<Time>,
    /// When it was salted, if it already is.
    pub salted_at: Option<Timestamp>,
    /// What its storage limit runs from.
    pub keeping: Keeping,
    /// When it was thawed, if it was frozen and is thawed already.
    pub thawed_at: Option<Timestamp>,
    /// Hours in which no hands are wanted; `None` where any hour does.
    pub quiet: Option<Quiet>,
}

/// Meals that can be had from now on.
#[derive(Debug, Clone, PartialEq)]
pub struct Meals {
    /// With the shortest sound rest, at an hour at which one eats.
    pub earliest: ZonedDateTime,
    /// With the ideal rest or a little more, at an hour at which one eats.
    pub best: ZonedDateTime,
    /// With the longest useful rest, or at the storage limit: the last hour at which one eats before that.
    pub latest: ZonedDateTime,
}

/// The stretch in the cold, and what hangs on it.
#[derive(Debug, Clone, PartialEq)]
pub struct ColdPlan {
    /// Into the cold (or: salted, when that is past).
    pub from: Timestamp,
    /// Out of the refrigerator.
    pub to: Timestamp,
    /// When it is on the table, in the kitchen’s zone.
    pub serve: ZonedDateTime,
    /// Hours of salt until it leaves the cold.
    pub planned: Time,
    /// How much earlier the work before could start, and how much later.
    pub slack: (Time, Time),
    /// The longest rest that still fits before the meal.
    pub fits: Time,
    /// Meals from now.
    pub meals: Meals,
    /// Into the refrigerator to thaw, and thawed; `None` for what is not frozen any more.
    pub thaw: Option<(Timestamp, Timestamp)>,
    /// Until when it keeps, where that is known.
    pub keeps: Option<StorageLimit>,
    /// Cooked ahead: how long it then lies in the cold until it is heated again; 0 where it is eaten from the heat.
    pub cooked: Time,
}

/// A stay in the refrigerator, cooked, between two heats.
#[derive(Debug, Clone)]
pub struct CookedStay {
    /// How long: shortest, ideal, longest.
    pub lasts: [Time; 3],
    /// When hands are wanted between the refrigerator and that stay: from the one on, and for how long.
    pub busy: Vec<(Time, Time)>,
}

/// Half an hour: nobody plans a night in the refrigerator to the minute.
const COOKED_STEP_H: f64 = 0.5;

/// Chooses the hours in the cold before the heat and, cooked ahead, those between two heats; `after` of the ask is the work after the
/// cold without that stay.
///
/// The stay nearest its ideal under which hands sleep while they may, and under which the first hours in the cold are no fewer than
/// the shortest useful ones; where no stay does both, the one that does the second, and where none does that, the shortest. Each stay is tried as a plan of its own: at most
/// 130 of them.
pub fn choose_both(ask: &ColdAsk, stay: Option<&CookedStay>) -> Result<ColdPlan, ClockRefusal> {
    let Some(stay) = stay else { return choose_cold(ask) };
    let [shortest, ideal, longest] = stay.lasts.map(TimeIn::in_h);
    let zone = ask.now.time_zone().clone();
    let most = ((longest - shortest) / COOKED_STEP_H).ceil().max(0.0) as usize + 1;
    let mut candidates: Vec<f64> = (0..=most)
        .flat_map(|i| [ideal + i as f64 * COOKED_STEP_H, ideal - i as f64 * COOKED_STEP_H])
        .filter(|h| *h >= shortest - 1e-9 && *h <= longest + 1e-9)
        .collect();
    candidates.dedup();
    let with = |h: f64| {
        let cold = choose_cold(&ColdAsk { after: ask.after + hours(h), ..ask.clone() })?;
        Ok(ColdPlan { cooked: hours(h), ..cold })
    };
    let awake = |cold: &ColdPlan| {
        let night = |(from, long): &(Time, Time)| {
            ask.quiet.is_some_and(|quiet| quiet.touches(cold.to + exact(*from), cold.to + exact(*from + *long), &zone))
        };
        !stay.busy.iter().any(night)
    };
    let enough = |cold: &ColdPlan| ask.salted_at.is_some() || cold.planned.in_h() >= ask.useful.shortest.in_h() - 1e-9;
    let (mut sound, mut any, mut refused) = (None, None, None);
    for h in candidates {
        match with(h) {
            Ok(cold) if awake(&cold) && enough(&cold) => return Ok(cold),
            Ok(cold) if enough(&cold) => {
                sound.get_or_insert(cold);
            }
            Ok(cold) => any = any.filter(|other: &ColdPlan| other.cooked < cold.cooked).or(Some(cold)),
            // What the shortest refuses is refused.
            Err(refusal) => refused = Some((h, refusal)).filter(|(h, _)| refused.as_ref().is_none_or(|(least, _)| h < least)).or(refused),
        }
    }
    sound.or(any).ok_or_else(|| refused.map_or(ClockRefusal::BeyondCalendar, |(_, refusal)| refusal))
}

/// Why no plan can be made.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum ClockRefusal {
    /// The meal is too near, or past.
    #[error("the work and the heat alone reach past that meal")]
    MealTooSoon {
        /// The earliest moment food can stand on the table, without any rest in the cold.
        possible: ZonedDateTime,
        /// The first hour from then on at which one eats.
        eaten: ZonedDateTime,
        /// The earliest meal with a sound rest, at an hour at which one eats.
        sound: ZonedDateTime,
    },
    /// More hours asked than are left.
    #[error("these hours do not fit before the meal")]
    HoursDoNotFit {
        /// Hours in the cold that fit before the meal.
        fits: Time,
    },
    /// Fewer hours asked than it has already been salted.
    #[error("it has already been salted for longer")]
    AlreadyLonger {
        /// How long, at the moment of leaving the cold.
        already: Time,
    },
    /// Further ahead than anything raw is planned for.
    #[error("that is too far ahead")]
    TooFar {
        /// The last meal that is planned from now.
        last: ZonedDateTime,
    },
    /// Salted, or lying open in the cold, for longer than anything is.
    #[error("it would lie salted for too long")]
    TooLongSalted {
        /// The last meal from its salting on.
        last: ZonedDateTime,
    },
    /// Beyond the calendar.
    #[error("that is beyond the calendar")]
    BeyondCalendar,
}

/// So far ahead a meal is planned, days: two months, well beyond any storage limit, and a frozen bird bought early.
const AHEAD_DAYS: i64 = 62;
/// So long anything may lie salted or open in the cold, days: two weeks beyond the longest storage limit.
const LYING_DAYS: i64 = 19;

/// Chooses the hours in the cold.
///
/// The meal fixes when it leaves the cold; the rest stretches between shortest and longest useful so
/// that the work before falls when the cook is awake, as near the ideal as may be. When less is left
/// than the shortest, what is left is planned and the caller warns. Nothing starts before `now`. What is frozen goes into the
/// refrigerator as late as it may, in waking hours: until then the frost keeps it.
pub fn choose_cold(ask: &ColdAsk) -> Result<ColdPlan, ClockRefusal> {
    let zone = ask.now.time_zone().clone();
    let now = ask.now.timestamp();
    let (thaw, before, after) = (exact(ask.thaw), exact(ask.before), exact(ask.after));
    // Somebody has to move what is frozen: not in the night.
    let moved = if thaw.is_zero() { now } else { awake_from(ask.quiet, now, &zone) };
    let ready = moved + thaw + before;
    let (mut proposed, sound) = meals(ask, ready)?;
    let serve = match (&ask.serve_at, ask.asked.filter(|_| ask.salted_at.is_none())) {
        (Some(at), _) => at.clone(),
        // Hours that were asked for put a meal that nobody has said behind them.
        (None, Some(asked)) => {
            let at = meal_after(ask, ready, asked)?.max(proposed.best.timestamp());
            let own = ColdAsk { serve_at: Some(at.to_zoned_datetime(zone.clone())), ..ask.clone() };
            proposed = meals(&own, ready)?.0;
            at.to_zoned_datetime(zone.clone())
        }
        (None, None) => proposed.best.clone(),
    };
    let last = now.checked_add(SignedDuration::from_hours(24 * AHEAD_DAYS)).map_err(|_| ClockRefusal::BeyondCalendar)?;
    if serve.timestamp() > last {
        return Err(ClockRefusal::TooFar { last: last.to_zoned_datetime(zone) });
    }
    let to = serve.timestamp() - after;
    if to < ready {
        let possible = ready + after;
        let eaten = first_eating(ask, round_up(possible)).unwrap_or(possible).to_zoned_datetime(zone.clone());
        let sound = if proposed.earliest > sound { proposed.earliest } else { sound };
        return Err(ClockRefusal::MealTooSoon { possible: possible.to_zoned_datetime(zone), eaten, sound });
    }
    if let Some(salted) = ask.salted_at {
        let longest = SignedDuration::from_hours(24 * LYING_DAYS);
        if to.duration_since(salted) > longest {
            return Err(ClockRefusal::TooLongSalted { last: (salted + longest + after).to_zoned_datetime(zone) });
        }
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
        let keeps = ask.keeping.limits(ask.thawed_at, &zone);
        let none = hours(0.0);
        return Ok(ColdPlan {
            from: salted,
            to,
            serve,
            planned,
            slack: (none, none),
            fits: planned,
            meals: proposed,
            thaw: None,
            keeps,
            cooked: none,
        });
    }
    let fits = kitchen(to - ready);
    let thaw_before = |start: Timestamp| thaw_span(ask, start - before - thaw, &zone);
    let keeps_from =
        |start: Timestamp| ask.keeping.limits(ask.thawed_at.or(thaw_before(start).map(|span| span.1 + exact(ask.thaws_on))), &zone);
    let planned = match ask.asked {
        Some(asked) if asked > fits => return Err(ClockRefusal::HoursDoNotFit { fits }),
        Some(asked) => asked,
        None => stretch(ask, to, fits, &zone, |start| keeps_from(start).is_none_or(|keeps| to <= keeps.red)),
    };
    let longest = if ask.useful.longest < fits { ask.useful.longest } else { fits };
    let more = (longest.in_h() - planned.in_h()).max(0.0);
    let less = (planned.in_h() - ask.useful.shortest.in_h()).max(0.0);
    let from = to - exact(planned);
    let slack = (hours(more), hours(less));
    Ok(ColdPlan {
        thaw: thaw_before(from),
        keeps: keeps_from(from),
        from,
        to,
        serve,
        planned,
        slack,
        fits,
        meals: proposed,
        cooked: hours(0.0),
    })
}

/// When it goes into the refrigerator to thaw, at the latest at `by`, and when it is thawed; `None` where nothing is frozen.
fn thaw_span(ask: &ColdAsk, by: Timestamp, zone: &TimeZone) -> Option<(Timestamp, Timestamp)> {
    let thaw = exact(ask.thaw);
    if thaw.is_zero() {
        return None;
    }
    let now = ask.now.timestamp();
    let first = awake_from(ask.quiet, now, zone);
    let start = if ask.attended { by.max(now) } else { awake_before(ask.quiet, by, zone).max(first) };
    Some((start, start + thaw))
}

/// A minute of hands is enough to move a piece.
const MOVE_MIN: i64 = 5;

/// The first moment from here on at which somebody is up.
fn awake_from(quiet: Option<Quiet>, from: Timestamp, zone: &TimeZone) -> Timestamp {
    let Some(quiet) = quiet else { return from };
    let step = SignedDuration::from_mins(MOVE_MIN);
    (0..288).map(|i| from + step * i).find(|at| !quiet.touches(*at, *at + step, zone)).unwrap_or(from)
}

/// The last moment before this one at which somebody is up.
fn awake_before(quiet: Option<Quiet>, by: Timestamp, zone: &TimeZone) -> Timestamp {
    let Some(quiet) = quiet else { return by };
    let step = SignedDuration::from_mins(MOVE_MIN);
    (0..288).map(|i| by - step * i).find(|at| !quiet.touches(*at, *at + step, zone)).unwrap_or(by)
}

/// The rest nearest the ideal whose work before is not in the night, and which ends while the piece keeps.
fn stretch(ask: &ColdAsk, to: Timestamp, fits: Time, zone: &TimeZone, keeps: impl Fn(Timestamp) -> bool) -> Time {
    let cap = |h: f64| h.min(fits.in_h());
    let ideal = cap(ask.useful.ideal.in_h());
    let (shortest, longest) = (cap(ask.useful.shortest.in_h()), cap(ask.useful.longest.in_h()));
    let awake = |h: f64| {
        let end = to - exact(hours(h));
        let Some(quiet) = ask.quiet else { return true };
        let start = end - exact(ask.before);
        let night = |(from, long): &(Time, Time)| quiet.touches(start + exact(*from), start + exact(*from + *long), zone);
        if ask.busy.is_empty() { !quiet.touches(start, end, zone) } else { !ask.busy.iter().any(night) }
    };
    let kept = |h: f64| keeps(to - exact(hours(h)));
    let quarter = 0.25;
    let most = ((longest - shortest) / quarter).ceil().max(0.0) as usize + 1;
    let candidates = || {
        (0..=most)
            .flat_map(|i| [ideal + i as f64 * quarter, ideal - i as f64 * quarter])
            .filter(|h| *h >= shortest - 1e-9 && *h <= longest + 1e-9)
    };
    let sound = candidates().find(|h| awake(*h) && kept(*h)).or_else(|| candidates().find(|h| kept(*h)));
    sound.or_else(|| candidates().find(|h| awake(*h))).map_or(hours(ideal), hours)
}

/// Hours at which a meal is proposed, wall time: from eleven to half past nine (our estimate of when one eats).
const EATING: (civil::Time, civil::Time) = (civil::time(11, 0, 0, 0), civil::time(21, 30, 0, 0));

const QUARTER: SignedDuration = SignedDuration::from_mins(15);

/// Whether one eats at a moment.
fn eats(ask: &ColdAsk, at: Timestamp) -> bool {
    let at = at.to_zoned_datetime(ask.now.time_zone().clone());
    (EATING.0..=EATING.1).contains(&at.time()) && !ask.quiet.is_some_and(|quiet| quiet.holds(&at))
}

/// The first quarter hour from a moment on at which one eats.
fn first_eating(ask: &ColdAsk, from: Timestamp) -> Option<Timestamp> {
    (0..=96).map(|i| from + QUARTER * i).find(|at| eats(ask, *at))
}

/// The first hour at which one eats after a rest of so many hours that can begin at `ready`.
fn meal_after(ask: &ColdAsk, ready: Timestamp, rest: Time) -> Result<Timestamp, ClockRefusal> {
    let beyond = |_| ClockRefusal::BeyondCalendar;
    let out = ready.checked_add(exact(rest)).map_err(beyond)?;
    let done = round_up(out.checked_add(exact(ask.after)).map_err(beyond)?);
    Ok(first_eating(ask, done).unwrap_or(done))
}

/// Meals from now, earliest ≤ best ≤ latest.
///
/// Besides them the moment of the shortest sound rest itself. All three are hours at which one eats. Best is the first of them at
/// or after the ideal rest and within the storage limit, else the first such after the shortest one. Nothing else changes that
/// order; what lies past a limit is said elsewhere, in red.
fn meals(ask: &ColdAsk, ready: Timestamp) -> Result<(Meals, ZonedDateTime), ClockRefusal> {
    let zone = ask.now.time_zone().clone();
    let after = exact(ask.after);
    let rest_from = ask.salted_at.unwrap_or(ready);
    let beyond = |_| ClockRefusal::BeyondCalendar;
    let meal = |rest: Time| -> Result<Timestamp, ClockRefusal> {
        let out = rest_from.checked_add(exact(rest)).map_err(beyond)?;
        out.max(ready).checked_add(after).map_err(beyond)
    };
    let sound = round_up(meal(ask.useful.shortest)?);
    // What is frozen keeps until it is taken out of the frost.
    let frozen = !ask.thaw.in_min().eq(&0.0);
    let limits = ask.keeping.limits(ask.thawed_at, &zone).filter(|_| !frozen);
    let stored = limits.map(|keeps| keeps.red.checked_add(after).map_err(beyond)).transpose()?;
    let eats = |at: &Timestamp| eats(ask, *at);
    let eating = |from: Timestamp| first_eating(ask, from);
    let earliest = eating(sound).unwrap_or(sound);
    let ideal = round_up(meal(ask.useful.ideal)?);
    let within = |at: &Timestamp| stored.is_none_or(|stored| *at <= stored);
    let best = eating(ideal).filter(within).unwrap_or(earliest);
    // Unsalted pieces may start later: only the storage limit ends that.
    let useful = meal(ask.useful.longest)?;
    let wanted = ask.serve_at.as_ref().map_or(useful, |at| useful.max(at.timestamp()));
    let latest = match (stored, ask.salted_at) {
        (Some(stored), Some(_)) => stored.min(wanted),
        (Some(stored), None) => stored,
        (None, _) if frozen => ask.now.timestamp() + SignedDuration::from_hours(24 * AHEAD_DAYS),
        (None, _) => wanted,
    };
    // The last hour at which one eats before that; the cook's own hour stands as it was said.
    let own = ask.serve_at.as_ref().map(ZonedDateTime::timestamp).filter(|at| *at <= latest);
    let last = (0..=96).map(|i| round_up(latest) - QUARTER * i).find(|at| *at <= latest && eats(at));
    let latest = last.unwrap_or(best).max(best).max(own.unwrap_or(best));
    let zoned = |at: Timestamp| at.to_zoned_datetime(zone.clone());
    Ok((Meals { earliest: zoned(earliest), best: zoned(best), latest: zoned(latest) }, zoned(sound)))
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
