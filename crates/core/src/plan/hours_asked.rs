//! What the clock is asked, and what it refuses.

use crate::ask::{Offer, PlanRequest, Refusal, THE_SOONEST, Thawing};
use crate::clock::{Keeping, exact, keeps, thaw_time, thaw_time_in_water};
use crate::method::StepKind;
use crate::place::{ClockRefusal, ColdAsk, ColdPlan, CookedStay, choose_both};
use crate::salt::ChillHours;
use crate::settle::{is_done, no_time, salted_at};
use crate::units::{Mass, Time, TimeIn, grams, hours, minutes};
use crate::words;
use crate::work::{Phase, Step};
use jiff::{SignedDuration, ZonedDateTime};

/// Chooses the hours in the cold for the work of a draft; refused where none fit, or where it would lie open for weeks.
pub(super) fn hours_in_the_cold(request: &PlanRequest, draft: &[Step], useful: ChillHours) -> Result<ColdPlan, Vec<Refusal>> {
    if let Some(asked) = request.hours.filter(|h| h.in_h() > 0.0 && !request.the_method().rests_in_the_cold()) {
        let typed = words::span(asked);
        let remedy = "Leave the hours out, or take a method that rests in the cold.";
        return Err(vec![Refusal::new("hours", typed, "no hours: this method has no rest in the cold", remedy)]);
    }
    let ask = cold_ask(request, draft, useful);
    let cold = choose_both(&ask, cooked_stay(request, draft).as_ref()).map_err(|refusal| vec![clock_refusal(request, &refusal)])?;
    lies_too_long(request, &cold)?;
    still_frozen(request, &cold)?;
    Ok(cold)
}

/// How long it thaws, where that is still to come.
pub(super) fn thaws(request: &PlanRequest) -> Option<Time> {
    let whole = whole_thaw(request).filter(|_| !is_done(request, StepKind::Thaw))?;
    Some(whole - thaws_on(request).unwrap_or_else(no_time))
}

/// How long what is frozen thaws in all.
fn whole_thaw(request: &PlanRequest) -> Option<Time> {
    let by = if request.thaw == Some(Thawing::Water) { thaw_time_in_water } else { thaw_time };
    request.frozen.then(|| by(as_frozen(request)))
}

/// Thawed for so much of its time the outside is soft enough to be salted; a bird wants to be opened, too (our estimate: heat goes in as
/// the root of the time, so that after a third of it ice is left only deeper than six tenths of the way, and salt follows slower than
/// the thaw).
const SOFT: f64 = 1.0 / 3.0;
const OPENS: f64 = 0.5;

/// What of the thaw goes on in the cold, under the salt; `None` where it is thawed before.
pub(super) fn thaws_on(request: &PlanRequest) -> Option<Time> {
    let soft = if request.cut.is_bird() { OPENS } else { SOFT };
    let rest = |whole: Time| hours((whole.in_h() * (1.0 - soft)).floor());
    whole_thaw(request).filter(|_| request.thaw == Some(Thawing::Salted)).map(rest)
}

/// Refuses hours after which it would still be frozen in the middle.
fn still_frozen(request: &PlanRequest, cold: &ColdPlan) -> Result<(), Vec<Refusal>> {
    let Some(rest) = thaws_on(request).filter(|rest| cold.planned.in_min() < rest.in_min() - 1.0) else { return Ok(()) };
    let typed = format!("salted while it thaws, {:.0} h before the heat", cold.planned.in_h());
    let allowed = format!("{:.0} h under salt at least: so long its middle still thaws", rest.in_h());
    Err(vec![Refusal::new("thaw", typed, allowed, "Eat later, or take a piece that is not frozen.")])
}

/// From noon of the day on which it will be bought it is in the house (our estimate); what is there already, from now.
pub(super) fn in_the_house_from(request: &PlanRequest) -> ZonedDateTime {
    let ahead = request.bought_on.filter(|bought| *bought > request.now.date());
    let noon = ahead.and_then(|bought| request.now.time_zone().to_ambiguous_zoned_datetime(bought.at(12, 0, 0, 0)).later().ok());
    noon.unwrap_or_else(|| request.now.clone())
}

/// What is known before the hours are chosen.
fn cold_ask(request: &PlanRequest, draft: &[Step], useful: ChillHours) -> ColdAsk {
    let sum = |phase: Phase| draft.iter().filter(|s| s.phase == phase).fold(no_time(), |sum, s| sum + s.takes);
    ColdAsk {
        now: in_the_house_from(request),
        serve_at: request.serve_at.clone(),
        thaw: sum(Phase::Thawing),
        thaws_on: thaws_on(request).unwrap_or_else(no_time),
        attended: request.thaw == Some(Thawing::Water),
        before: sum(Phase::Before),
        busy: busy(draft),
        after: draft.iter().filter(|s| s.phase == Phase::After && s.kind != StepKind::ChillCooked).fold(no_time(), |sum, s| sum + s.takes),
        useful,
        asked: request.hours,
        salted_at: salted_at(request).or_else(|| laid_unsalted(request)),
        keeping: keeping(request),
        thawed_at: request
            .done
            .iter()
            .filter(|d| d.kind == StepKind::Thaw)
            .map(|d| d.at)
            .max()
            .map(|at| at + exact(thaws_on(request).unwrap_or_else(no_time))),
        quiet: request.kitchen.quiet,
    }
}

/// Since when it lies in the cold, where the method salts it only afterwards.
fn laid_unsalted(request: &PlanRequest) -> Option<jiff::Timestamp> {
    let method = request.the_method();
    let laid = request.done.iter().filter(|d| d.kind == StepKind::Chill).map(|d| d.at).min();
    laid.filter(|_| method.salts_after_the_cold())
}

/// Cooked ahead: the stay between two heats, as the way has it or as long as the cook said.
fn cooked_stay(request: &PlanRequest, draft: &[Step]) -> Option<CookedStay> {
    let kept = request.the_method().kept_cooked()?;
    let stays = draft.iter().find(|s| s.kind == StepKind::ChillCooked)?;
    let asked = request.tasks.iter().find(|ask| ask.kind() == Some(StepKind::ChillCooked)).and_then(|ask| ask.takes);
    let before = draft.iter().filter(|s| s.phase == Phase::After).take_while(|s| s.id != stays.id).chain([stays]);
    Some(CookedStay { lasts: asked.map_or(kept, |asked| [asked; 3]), busy: hands_in(before) })
}

/// When hands are wanted in the work before the cold: from its start on, and for how long. A bath takes none while it lasts.
fn busy(draft: &[Step]) -> Vec<(Time, Time)> {
    hands_in(draft.iter().filter(|s| s.phase == Phase::Before))
}

/// The same of any steps, one after the other.
fn hands_in<'a>(steps: impl Iterator<Item = &'a Step>) -> Vec<(Time, Time)> {
    let mut at = no_time();
    let mut spans: Vec<(Time, Time)> = Vec::new();
    for step in steps {
        match spans.last_mut() {
            Some((from, long)) if (*from + *long - at).in_s().abs() < 1.0 => *long += step.hands_on,
            _ => spans.push((at, step.hands_on)),
        }
        at += step.takes;
    }
    spans
}

/// The heaviest piece as it is frozen, before anything is trimmed.
fn as_frozen(request: &PlanRequest) -> Mass {
    request.portions.iter().map(|p| p.weight).fold(grams(0.0), |most, w| if w > most { w } else { most })
}

/// What its storage limit runs from.
fn keeping(request: &PlanRequest) -> Keeping {
    let storage = request.cut.storage;
    if request.frozen || is_done(request, StepKind::Thaw) {
        return Keeping::FromThaw(storage);
    }
    keeps(storage, request.bought_on, request.use_by, request.now.time_zone()).map_or(Keeping::Unknown, Keeping::Until)
}

/// Nothing raw lies open in the cold for weeks.
fn lies_too_long(request: &PlanRequest, cold: &ColdPlan) -> Result<(), Vec<Refusal>> {
    let laid = request.done.iter().filter(|d| d.kind == StepKind::Chill).map(|d| d.at).min();
    let days = laid.map_or(0.0, |laid| cold.to.duration_since(laid).as_secs_f64() / 86_400.0);
    if days <= MOST_DAYS_OPEN {
        return Ok(());
    }
    Err(vec![Refusal::new(
        "serve_at",
        cold.serve.strftime("%A %-d %B %H:%M").to_string(),
        format!("within {MOST_DAYS_OPEN:.0} days of the day it was laid into the refrigerator"),
        "Eat sooner, or freeze it.",
    )])
}

/// Two weeks beyond the longest storage limit.
const MOST_DAYS_OPEN: f64 = 19.0;

/// A meal that is eaten so soon after it could stand on the table is eaten at once.
const AT_ONCE: SignedDuration = SignedDuration::from_mins(15);

/// Hours that just fit, in quarters: nobody sets an alarm by the minute. None where not even one fits.
fn in_quarters(fits: Time) -> Vec<Offer> {
    let quarters = (fits.in_min() / 15.0).floor().max(0.0) as u32;
    if quarters > 0 { vec![Offer::QuarterHours(quarters)] } else { vec![] }
}

/// The soonest meal at an hour at which one eats, and the soonest with a sound dry-brine where that is another.
fn soonest(possible: &ZonedDateTime, eaten: &ZonedDateTime, sound: &ZonedDateTime) -> String {
    let wall = |at: &ZonedDateTime| at.strftime("%A %H:%M").to_string();
    let at_once = eaten.duration_since(possible) <= AT_ONCE;
    let first = if at_once { possible } else { eaten };
    let with_salt =
        if first == sound { ", with a sound dry-brine".to_owned() } else { format!(", or {} with a sound dry-brine", wall(sound)) };
    let done = if at_once { String::new() } else { format!("; done it could be by {}", wall(possible)) };
    format!("{}{with_salt}{done}", wall(first))
}

/// The same as meals to take: one where they are one.
fn meals_offered(possible: &ZonedDateTime, eaten: &ZonedDateTime, sound: &ZonedDateTime) -> Vec<Offer> {
    let first = if eaten.duration_since(possible) > AT_ONCE { eaten } else { possible };
    let mut meals = vec![first, sound];
    meals.dedup();
    meals.into_iter().cloned().map(Offer::Meal).collect()
}

fn clock_refusal(request: &PlanRequest, refusal: &ClockRefusal) -> Refusal {
    match refusal {
        ClockRefusal::MealTooSoon { possible, eaten, sound } => Refusal::new(
            "serve_at",
            request.serve_at.as_ref().map_or_else(|| "that meal".into(), |at| at.strftime("%A %-d %B %H:%M").to_string()),
            // Nobody is asked to dinner at midnight; who eats then anyway is told from when on it can be.
            format!("{THE_SOONEST}{}", soonest(possible, eaten, sound)),
            "Eat later, or leave the meal open and take the best.",
        )
        .or(meals_offered(possible, eaten, sound)),
        ClockRefusal::HoursDoNotFit { fits } => Refusal::new(
            "hours",
            request.hours.map_or_else(String::new, words::span),
            format!("at most {} before this meal", words::span(minutes(fits.in_min().floor()))),
            "Eat later, or take fewer hours.",
        )
        .or(in_quarters(*fits)),
        ClockRefusal::AlreadyLonger { already } => Refusal::new(
            "hours",
            request.hours.map_or_else(String::new, words::span),
            format!("{}: so long it is salted already", words::span(*already)),
            "Leave the hours open.",
        ),
        ClockRefusal::TooFar { last } => Refusal::new(
            "serve_at",
            request.serve_at.as_ref().map_or_else(|| "that meal".into(), |at| at.strftime("%-d %B %Y").to_string()),
            format!("until {}: two months ahead", last.strftime("%-d %B %Y")),
            "Plan it nearer to the day.",
        ),
        ClockRefusal::TooLongSalted { last } => Refusal::new(
            "serve_at",
            request.serve_at.as_ref().map_or_else(|| "that meal".into(), |at| at.strftime("%A %-d %B %H:%M").to_string()),
            format!("until {}: it is salted already", last.strftime("%A %-d %B")),
            "Eat sooner, or freeze it.",
        ),
        ClockRefusal::BeyondCalendar => Refusal::new("serve_at", "that meal", "a date within this calendar", "Choose a nearer day."),
    }
}
