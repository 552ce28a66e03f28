//! Saying how warm the refrigerator is and was.

use super::{Refused, Typed, show};
use crate::auth::SignedIn;
use crate::chill::{AirForm, learn};
use crate::error::WebError;
use crate::kit::form_key;
use crate::state::AppState;
use crate::words::{full_stop, trim};
use axum::extract::{Form, Path, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Redirect, Response};
use jiff::{SignedDuration, Timestamp, ZonedDateTime};
use rauchkeller_core::caution::too_warm;
use rauchkeller_core::clock::{Toward, read_span, read_wall};
use rauchkeller_core::units::{TimeIn, celsius};
use rauchkeller_store::{NoteId, Noting, PieceId, RefrigeratorSaved, WarmNote};
use std::collections::BTreeMap;
use uuid::Uuid;

/// Nobody looks further back than this.
const LONGEST: SignedDuration = SignedDuration::from_hours(7 * 24);

fn back() -> Response {
    Redirect::to("/refrigerator").into_response()
}

async fn refuse(state: &AppState, cook: &SignedIn, typed: Typed, slips: BTreeMap<&'static str, String>) -> Result<Response, WebError> {
    let refused = Refused { typed, slips, said: None, status: StatusCode::UNPROCESSABLE_ENTITY };
    show(state, cook, refused, None).await
}

/// A moment that has passed; empty is now.
fn moment(typed: &str, now: &ZonedDateTime) -> Result<Timestamp, String> {
    if typed.trim().is_empty() || typed.trim().eq_ignore_ascii_case("now") {
        return Ok(now.timestamp());
    }
    let at = read_wall(typed, now, Toward::Past).map_err(|error| full_stop(&error))?.timestamp();
    if at > now.timestamp() || now.timestamp().duration_since(at) > LONGEST {
        let short: String = typed.trim().chars().take(40).collect();
        return Err(format!("“{short}” is no moment of the last seven days; say when it was, like 15:00 or yesterday 20:00."));
    }
    Ok(at)
}

/// Since when it is above 4.4 °C.
pub async fn since(State(state): State<AppState>, cook: SignedIn, Form(typed): Form<Typed>) -> Result<Response, WebError> {
    let id = note_id(&typed.spell)?;
    let read = if typed.when.trim().is_empty() {
        Err("Nothing is written; say when it was still cold, like 15:00 or yesterday 20:00.".into())
    } else {
        moment(&typed.when, &cook.now(&state))
    };
    match read {
        Ok(from) => cook.kitchen(&state).warm_since(id, from).await?,
        Err(slip) => return refuse(&state, &cook, typed, BTreeMap::from([("when", slip)])).await,
    }
    Ok(back())
}

/// It stood open for a while: one piece, or everything in it.
pub async fn stood_open(State(state): State<AppState>, cook: SignedIn, Form(typed): Form<Typed>) -> Result<Response, WebError> {
    let now = cook.now(&state);
    let mut slips = BTreeMap::new();
    let long = read_span(&typed.long);
    if long.is_none() {
        let short: String = typed.long.trim().chars().take(40).collect();
        slips.insert("long", format!("“{short}” is no length of time up to a week; write it like 3 h, 90 min or 1:30."));
    }
    let until = moment(&typed.until, &now).map_err(|slip| slips.insert("until", slip));
    let piece = match typed.which.as_str() {
        "" => None,
        id => Some(Uuid::parse_str(id).map(PieceId).map_err(|_| WebError::NotFound)?),
    };
    let (Some(long), Ok(until)) = (long, until) else {
        return refuse(&state, &cook, typed, slips).await;
    };
    let from = until - SignedDuration::from_secs(long.in_s().round() as i64);
    let id = NoteId(Uuid::nil());
    let note = WarmNote { id, piece, from: Some(from), to: Some(until), air_c: None };
    match cook.kitchen(&state).note_warm(&form_key(&typed.key), note, state.now()).await? {
        Noting::Full => {
            let said = Some("Two hundred of them stand noted, the most there is room for. Take some back first.".to_owned());
            show(&state, &cook, Refused { typed, said, status: StatusCode::CONFLICT, ..Refused::default() }, None).await
        }
        _ => Ok(back()),
    }
}

/// Says its air.
pub async fn set_air(State(state): State<AppState>, cook: SignedIn, Form(typed): Form<Typed>) -> Result<Response, WebError> {
    let form = AirForm { c: typed.c.clone(), rh: typed.rh.clone(), version: typed.version };
    let (c, rh) = match form.read(cook.system()) {
        Ok(read) => read,
        Err(slips) => return refuse(&state, &cook, typed, slips).await,
    };
    match cook.kitchen(&state).set_refrigerator(typed.version, c, rh, too_warm(celsius(c)), state.now()).await? {
        RefrigeratorSaved::Saved => {
            learn(&state, &cook).await?;
            Ok(back())
        }
        RefrigeratorSaved::Conflict(theirs) => {
            let said =
                format!("Somebody said {} °C meanwhile. Your words stand below: send them again to change it.", trim(theirs.air_c, 1));
            show(&state, &cook, Refused { typed, said: Some(said), status: StatusCode::CONFLICT, ..Refused::default() }, None).await
        }
    }
}

/// Takes a while back.
pub async fn delete(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    let note = note_id(&id)?;
    cook.kitchen(&state).set_warm_deleted(note, Some(state.now())).await?;
    Ok(Redirect::to(&format!("/refrigerator?removed={note}")).into_response())
}

/// Puts it in again.
pub async fn restore(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    cook.kitchen(&state).set_warm_deleted(note_id(&id)?, None).await?;
    Ok(back())
}

fn note_id(id: &str) -> Result<NoteId, WebError> {
    Uuid::parse_str(id).map(NoteId).map_err(|_| WebError::NotFound)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn only_what_has_passed_and_not_long_ago() {
        let now: ZonedDateTime = "2026-12-11T20:00[Europe/Vienna]".parse().unwrap();
        assert_eq!(moment(" now ", &now), Ok(now.timestamp()));
        assert_eq!(moment("15:00", &now).unwrap().to_string(), "2026-12-11T14:00:00Z");
        for typed in ["2026-12-24 15:00", "2026-11-01 15:00", "long ago"] {
            assert!(moment(typed, &now).is_err(), "{typed}");
        }
    }
}
