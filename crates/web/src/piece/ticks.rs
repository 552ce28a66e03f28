//! Ticks and their undo: now, or at the hour that was typed.

use super::hands::hands_fragment;
use super::page::{show, wrong_hour};
use super::{Opened, append, event, open, tapped};
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::shell::Partial;
use crate::state::AppState;
use crate::words::full_stop;
use axum::extract::{Path, Query, State};
use axum::response::{IntoResponse, Redirect, Response};
use jiff::{SignedDuration, Timestamp, ZonedDateTime};
use rauchkeller_core::clock::{Toward, WallError, read_wall_by};
use rauchkeller_core::method::{SaltEffect, StepKind, Tick};
use rauchkeller_core::run::{Event, EventId, KnifeHand, RunTask, Stretch, What};
use rauchkeller_core::units::{System, grams};
use serde::Deserialize;

/// Where a tick came from.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct From {
    /// `hands` for the raw-hands view.
    from: String,
}

/// Where a task of knife or pick was begun with raw hands, its stretch of work ends or goes on with the tick.
fn move_run(opened: &Opened, task: &str, hand: KnifeHand) -> Option<What> {
    let stretch = Stretch::of(opened.record(), task)?;
    let wanted = match hand {
        KnifeHand::Stop => stretch.stopped.is_none(),
        _ => stretch.stopped.is_some(),
    };
    wanted.then(|| What::KnifeRun { task: task.to_owned(), hand })
}

/// The salt of every bowl of a salting that nobody ticked off, as weighed or as planned: what went on is written down when it
/// does, so that no later plan changes it.
pub fn rest_of_the_salt(opened: &Opened, task: &str) -> Vec<What> {
    let left = opened.bowls().into_iter().filter(|bowl| bowl.task == task && bowl.used_at.is_none());
    left.map(|bowl| What::SaltOn {
        task: Some(task.to_owned()),
        purity: bowl.share,
        grams: grams(bowl.weighed_g.unwrap_or(bowl.target_g)),
        bowl: Some(bowl.id),
    })
    .collect()
}

/// What the button of a task says: of a stay not that it is done, but that it is in or out.
pub fn done_word(of: &RunTask) -> &'static str {
    use StepKind::{Chill, ChillCooked, Cool, Drain, HeatAgain, Hold, Marinate, Rest, Roast, Temper, Thaw};
    match (of.kind, of.tick) {
        (Chill | Marinate | ChillCooked, Tick::Begins) => "It is in",
        (Temper | Rest | Cool, Tick::Begins) | (Drain, _) => "It is out",
        (Roast | HeatAgain, Tick::Begins) => "It is in the heat",
        (Hold, Tick::Begins) => "It is held warm",
        (Thaw, Tick::Ends) => "It is thawed",
        _ => "Done",
    }
}

/// Ticks a task: with everything that is known only then.
pub async fn tick(state: &AppState, cook: &SignedIn, opened: &Opened, task: &str, at: Timestamp) -> Result<(), WebError> {
    let of = opened.run.task(task).ok_or(WebError::NotFound)?;
    if opened.record().ticked(task, of.tick).is_some() {
        // Ticked by somebody else meanwhile: once is enough.
        return Ok(());
    }
    let name = of.id.clone();
    let mut all = vec![if of.tick == Tick::Begins { What::TaskBegan { task: name } } else { What::TaskEnded { task: name } }];
    if of.salts == Some(SaltEffect::On) {
        all.splice(0..0, rest_of_the_salt(opened, task));
    }
    all.extend(move_run(opened, task, KnifeHand::Stop));
    let now = state.now();
    let events: Vec<Event> = all.into_iter().map(|what| event(at, now, what)).collect();
    append(state, cook, opened.piece.id, &events).await
}

/// The ticks of a task, and the salt that was written down by them.
pub fn noted_with(opened: &Opened, task: &str) -> Vec<EventId> {
    let record = opened.record();
    let at = record.task(task).ended;
    let by_it = record.salted.iter().filter(|fact| fact.says.task == task && Some(fact.at) == at).map(|fact| fact.id);
    record.said(task).into_iter().chain(by_it).collect()
}

/// The ticks of tasks from before a moment, and the salt that was written down by them.
pub fn noted_before(opened: &Opened, tasks: &[String], later: Timestamp) -> Vec<EventId> {
    let record = opened.record();
    let ticks = record.ticks.iter().filter(|fact| tasks.contains(&fact.says.task) && fact.at < later).map(|fact| fact.id);
    let salted = record.salted.iter().filter(|fact| tasks.contains(&fact.says.task) && fact.at < later).map(|fact| fact.id);
    ticks.chain(salted).collect()
}

/// Takes a tick back, with the salt that was written down by it.
pub async fn untick(state: &AppState, cook: &SignedIn, opened: &Opened, task: &str) -> Result<(), WebError> {
    opened.run.task(task).ok_or(WebError::NotFound)?;
    let mut all: Vec<What> = noted_with(opened, task).into_iter().map(What::Voided).collect();
    if !all.is_empty() {
        all.extend(move_run(opened, task, KnifeHand::GoOnAgain));
    }
    let now = state.now();
    let events: Vec<Event> = all.into_iter().map(|what| event(now, now, what)).collect();
    append(state, cook, opened.piece.id, &events).await
}

/// When it was done, as typed; empty is now. A tick without a form says nothing at all.
fn when_of(body: &str) -> String {
    form_urlencoded::parse(body.as_bytes()).find(|(name, _)| name == "when").map(|(_, when)| when.into_owned()).unwrap_or_default()
}

/// So far ahead a tick may lie: clocks differ.
const AHEAD: SignedDuration = SignedDuration::from_mins(5);
/// So far back one may be noted.
const BACK: SignedDuration = SignedDuration::from_hours(14 * 24);

/// The moment that was typed.
fn moment(typed: &str, now: &ZonedDateTime, system: Option<System>) -> Result<Timestamp, String> {
    if typed.trim().is_empty() || typed.trim().eq_ignore_ascii_case("now") {
        return Ok(now.timestamp());
    }
    let short: String = typed.trim().chars().take(40).collect();
    let read = read_wall_by(typed, now, Toward::Past, system).map_err(|error| match error {
        WallError::NotATime(_) | WallError::NotADay(_) => {
            format!("“{short}” is not a time this kitchen can read; say when it was done, like 14:10 or yesterday 20:00.")
        }
        other => full_stop(&other),
    });
    let at = read?.timestamp();
    if at > now.timestamp() + AHEAD {
        return Err(format!("“{short}” is still to come; say when it was done, like 14:10 or yesterday 20:00."));
    }
    if now.timestamp().duration_since(at) > BACK {
        return Err(format!("“{short}” is more than two weeks ago; say when it was done, like 14:10 or yesterday 20:00."));
    }
    Ok(at)
}

/// Ticks a task: now, or at the hour that was typed. One that is ticked already gets the new hour.
pub async fn done(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path((id, task)): Path<(String, String)>,
    Query(from): Query<From>,
    body: String,
) -> Result<Response, WebError> {
    let when = when_of(&body);
    let mut opened = open(&state, &cook, &id).await?;
    let now = cook.now(&state);
    let then = tapped(now.timestamp()).to_zoned_datetime(now.time_zone().clone());
    let at = match moment(&when, &then, cook.system()) {
        Ok(at) => at,
        Err(slip) => return wrong_hour(&state, &cook, partial, Box::new(opened), &task, when, slip).await,
    };
    if !when.trim().is_empty() {
        untick(&state, &cook, &opened, &task).await?;
        opened = open(&state, &cook, &id).await?;
    }
    tick(&state, &cook, &opened, &task, at).await?;
    answer(&state, &cook, partial, &id, &from, Some(&task)).await
}

/// Takes a tick back.
pub async fn undone(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path((id, task)): Path<(String, String)>,
    Query(from): Query<From>,
) -> Result<Response, WebError> {
    let opened = open(&state, &cook, &id).await?;
    untick(&state, &cook, &opened, &task).await?;
    answer(&state, &cook, partial, &id, &from, None).await
}

async fn answer(
    state: &AppState,
    cook: &SignedIn,
    partial: Partial,
    id: &str,
    from: &From,
    just_done: Option<&str>,
) -> Result<Response, WebError> {
    match (partial.0, from.from.as_str()) {
        (true, "hands") => hands_fragment(state, cook, id, just_done).await,
        (true, _) => show(state, cook, partial, id).await,
        (false, "hands") => Ok(Redirect::to(&format!("/pieces/{id}/hands")).into_response()),
        (false, _) => Ok(Redirect::to(&format!("/pieces/{id}")).into_response()),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::testing::opened;
    use rauchkeller_core::units::MassIn;

    #[test]
    fn an_hour_is_read_as_a_cook_says_it_and_refused_in_her_words() {
        let now: ZonedDateTime = "2026-12-11T15:00[Europe/Vienna]".parse().unwrap();
        let at = |typed: &str| moment(typed, &now, None);
        for typed in ["", "  ", "now", "NOW"] {
            assert_eq!(at(typed), Ok(now.timestamp()), "{typed:?}");
        }
        // By hand: Vienna is an hour ahead in winter.
        assert_eq!(at("14:10"), Ok("2026-12-11T13:10:00Z".parse().unwrap()));
        assert_eq!(at("yesterday 20:00"), Ok("2026-12-10T19:00:00Z".parse().unwrap()));
        for (typed, says) in
            [("soon", "is not a time"), ("31 Oct 2026 12:00", "more than two weeks ago"), ("tomorrow 10:00", "still to come")]
        {
            let slip = at(typed).expect_err(typed);
            assert!(slip.contains(&format!("“{typed}”")) && slip.contains(says) && slip.contains("14:10"), "{slip}");
        }
        let long = at(&"x".repeat(4000)).unwrap_err();
        assert!(long.chars().count() < 400, "what was typed is said short");
    }

    #[test]
    fn a_tick_without_a_form_says_no_hour() {
        assert_eq!((when_of(""), when_of("other=1"), when_of("when=14%3A10&x=y")), (String::new(), String::new(), "14:10".to_owned()));
    }

    #[test]
    fn salting_writes_down_every_bowl_that_nobody_ticked_off_once() {
        let piece = opened(&[]);
        let all = rest_of_the_salt(&piece, "salt");
        let sum = |all: &[What]| all.iter().map(|what| if let What::SaltOn { grams, .. } = what { grams.in_g() } else { 0.0 }).sum::<f64>();
        let wanted: f64 = piece.bowls().iter().map(|bowl| bowl.target_g).sum();
        assert!(all.len() == piece.bowls().len() && (sum(&all) - wanted).abs() < 1e-9);
        // One bowl was used before: only the others are written down.
        let piece = piece.with("2026-12-11T12:55:00Z", all[0].clone());
        let left = rest_of_the_salt(&piece, "salt");
        assert!(left.len() == all.len() - 1 && (sum(&left) + sum(&all[..1]) - wanted).abs() < 1e-9);
        assert!(rest_of_the_salt(&piece, "wash").is_empty());
    }

    #[test]
    fn what_a_tick_wrote_down_goes_with_it() {
        let at = "2026-12-11T13:00:00Z";
        let piece = opened(&[]);
        let salted = rest_of_the_salt(&piece, "salt").into_iter().fold(piece, |so_far, what| so_far.with(at, what));
        let salted = salted.with(at, What::TaskEnded { task: "salt".into() });
        let noted = noted_with(&salted, "salt");
        assert_eq!(noted.len(), salted.bowls().len() + 1, "every bowl and the tick");
        let back = noted.into_iter().fold(salted, |so_far, id| so_far.with("2026-12-11T13:01:00Z", What::Voided(id)));
        assert!(back.bowls().iter().all(|bowl| bowl.used_at.is_none()) && !back.begun(0));
        assert!(back.on_scale_g().is_none(), "nothing is on it again");
    }
}
