//! The run of a piece over the API: how it stands, and noting what happened. By session, or by a token of the Kit.

use crate::api::{bearer, read_json, refuse};
use crate::asker::Asker;
use crate::auth::{MaybeCook, SignedIn};
use crate::chill::learn_in;
use crate::compute::compute;
use crate::piece::{Opened, asked_words};
use crate::state::AppState;
use axum::Json;
use axum::body::Bytes;
use axum::extract::{Path, Query, State};
use axum::http::{HeaderMap, StatusCode, header};
use axum::response::{IntoResponse, Response};
use jiff::tz::TimeZone;
use jiff::{SignedDuration, Timestamp, ZonedDateTime};
use rauchkeller_contract::{Problem, Problems, StandingDoc, event_value, read_events, standing_doc};
use rauchkeller_core::clock::in_calendar;
use rauchkeller_core::run::What;
use rauchkeller_store::{Appended, CookId, HouseholdId, PieceId, StoreError};
use serde::{Deserialize, Serialize};
use std::borrow::Cow;
use utoipa::ToSchema;
use uuid::Uuid;

/// Whoever asks: a household, its clock, and the cook where one is signed in.
struct Caller {
    household: HouseholdId,
    zone: TimeZone,
    cook: Option<CookId>,
}

async fn caller(state: &AppState, cook: MaybeCook, headers: &HeaderMap) -> Result<Caller, Response> {
    if let Some(cook) = cook.0 {
        let zone = TimeZone::get(&cook.time_zone).unwrap_or(TimeZone::UTC);
        return Ok(Caller { household: cook.household, zone, cook: Some(cook.id) });
    }
    let token = headers.get(header::AUTHORIZATION).and_then(|v| v.to_str().ok()).and_then(bearer).filter(|t| t.len() <= 200);
    let device = match token {
        Some(token) => state.store.device_by_token(token).await.map_err(|error| away(&error))?,
        None => None,
    };
    let Some(device) = device.filter(|device| device.kind == PROGRAM) else {
        let said = if token.is_some() { "a token that opens nothing here" } else { "no token" };
        let allowed = "a signed-in cook, or Authorization: Bearer and a token of the Kit";
        return Err(refuse(
            StatusCode::UNAUTHORIZED,
            Problem::new("authorization", said, allowed, "Make a token for the program in the Kit."),
        ));
    };
    Asker::is_of(device.household);
    let zone = state.store.zone_of(device.household).await.map_err(|error| away(&error))?;
    Ok(Caller { household: device.household, zone: TimeZone::get(&zone).unwrap_or(TimeZone::UTC), cook: None })
}

/// The kind of a token that programs note with.
pub const PROGRAM: &str = "program";

fn away(error: &StoreError) -> Response {
    tracing::warn!(%error, "the run waits");
    refuse(StatusCode::SERVICE_UNAVAILABLE, Problem::new("database", "away", "a database that answers", "Send the same again later."))
}

fn not_here(id: &str) -> Response {
    let said: String = id.chars().take(60).collect();
    refuse(StatusCode::NOT_FOUND, Problem::new("piece", said, "the id of a piece of this kitchen", "Look its address up in the Cellar."))
}

/// The moment asked for.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct At {
    at: Option<String>,
}

/// How a piece stands, now or at a moment.
#[utoipa::path(
    get,
    path = "/api/v1/pieces/{id}/standing",
    params(("id" = String, Path, description = "The piece"), ("at" = Option<String>, Query, description = "An instant; now where it is left out")),
    security(("device" = [])),
    responses(
        (status = 200, body = StandingDoc, description = "How it stands"),
        (status = 401, body = Problems, description = "Nobody is signed in, and no token opens"),
        (status = 404, body = Problems, description = "No such piece in this kitchen"),
        (status = 422, body = Problems, description = "No moment"),
        (status = 503, body = Problems, description = "The database is away"),
    )
)]
pub async fn standing(
    State(state): State<AppState>,
    cook: MaybeCook,
    headers: HeaderMap,
    Path(id): Path<String>,
    Query(at): Query<At>,
) -> Response {
    let caller = match caller(&state, cook, &headers).await {
        Ok(caller) => caller,
        Err(refused) => return refused,
    };
    let said = match at.at.as_deref().filter(|text| !text.trim().is_empty()).map(read_moment) {
        None => None,
        Some(Some(moment)) => Some(moment),
        Some(None) => {
            let said: String = at.at.unwrap_or_default().chars().take(60).collect();
            let problem = Problem::new("at", said, "an instant like 2026-12-12T18:00:00Z, 2000 to 2199", "Leave it out for now.");
            return refuse(StatusCode::UNPROCESSABLE_ENTITY, problem);
        }
    };
    let Ok(uuid) = Uuid::parse_str(&id) else { return not_here(&id) };
    let kitchen = state.store.kitchen(caller.household);
    let found = async { Ok::<_, StoreError>((kitchen.piece(PieceId(uuid)).await?, kitchen.refrigerator().await?)) }.await;
    let (piece, fridge) = match found {
        Ok(found) => found,
        Err(StoreError::NotFound) => return not_here(&id),
        Err(error) => return away(&error),
    };
    let now = state.now().to_zoned_datetime(caller.zone);
    let doc = compute(move || -> Result<StandingDoc, Box<Problem>> {
        match Opened::of(piece, fridge, None, &now) {
            Ok(opened) => {
                let stand = match said {
                    // What was asked for is answered, and nothing that is remembered of another moment.
                    Some(at) => Cow::Owned(opened.stand_anew(within(&opened, at, now.timestamp())?)),
                    None => opened.stand(&now),
                };
                Ok(standing_doc(&opened.run, &stand, now.time_zone(), |asked| asked_words(asked, &opened.run)))
            }
            Err(unread) => {
                let serve = unread.serve_at.to_zoned_datetime(now.time_zone().clone()).to_string();
                Ok(StandingDoc::unreadable(now.to_string(), unread.plan_version, serve, unread.line()))
            }
        }
    });
    match doc.await {
        Ok(Ok(doc)) => Json(doc).into_response(),
        Ok(Err(problem)) => refuse(StatusCode::UNPROCESSABLE_ENTITY, *problem),
        Err(error) => error.for_a_program(),
    }
}

/// An instant as programs write it, within the calendar.
fn read_moment(text: &str) -> Option<Timestamp> {
    let text = text.trim();
    let read = text.parse::<Timestamp>().ok().or_else(|| Some(text.parse::<ZonedDateTime>().ok()?.timestamp()));
    read.filter(|at| in_calendar(*at))
}

/// So long after its plan and after now a piece's standing can be asked for.
const AFTER: SignedDuration = SignedDuration::from_hours(24 * 7);

/// A moment at which there is something to say of a piece: from the first that is known of it to a week after its plan and now.
fn within(opened: &Opened, at: Timestamp, now: Timestamp) -> Result<Timestamp, Box<Problem>> {
    let kept = opened.piece.created_at;
    let from = opened.record().first.map_or(kept, |first| first.min(kept));
    let last = opened.run.tasks.iter().map(|task| task.ends).max().unwrap_or(now).max(now);
    let to = last.checked_add(AFTER).unwrap_or(last);
    if (from..=to).contains(&at) {
        return Ok(at);
    }
    let allowed = format!("from {from} (kept, or its first note) to {to} (a week after its plan and now)");
    Err(Box::new(Problem::new("at", at.to_string(), allowed, "Leave it out for now.")))
}

/// What came of a batch.
#[derive(Debug, Serialize, ToSchema)]
pub struct NotedDoc {
    /// New.
    accepted: usize,
    /// There before, just as they were sent.
    repeated: usize,
    /// By how many seconds moments without an `offset_ms` of their own were moved, since `sent_at` was so far from `now`.
    moved_s: f64,
    /// This server's clock: less your own it is the `offset_ms` of what you note from now on.
    now: String,
}

/// Notes what happened to a piece: the whole batch, or nothing of it.
///
/// Every event carries an id of its sender's own (a UUID of version 7): sent again it changes nothing. What was noted is taken back
/// by an event that voids it. `offset_ms` is by how much this server's clock was ahead of the sender's when it was noted: with it
/// nothing changes by arriving late.
#[utoipa::path(
    post,
    path = "/api/v1/pieces/{id}/events",
    request_body(content = ref("#/components/schemas/EventBatch"), description = "{ sent_at, events: [ { id, at, offset_ms, what, … } ] }, at most 200"),
    params(("id" = String, Path, description = "The piece")),
    security(("device" = [])),
    responses(
        (status = 200, body = NotedDoc, description = "Noted"),
        (status = 400, body = Problems, description = "Not JSON"),
        (status = 401, body = Problems, description = "Nobody is signed in, and no token opens"),
        (status = 404, body = Problems, description = "No such piece in this kitchen"),
        (status = 409, description = "An event of this id is there with other content: both are shown"),
        (status = 413, body = Problems, description = "Larger than 64 KB"),
        (status = 415, body = Problems, description = "Not application/json"),
        (status = 422, body = Problems, description = "One problem a field, all at once; nothing was noted"),
        (status = 503, body = Problems, description = "The database is away; send it again later"),
    )
)]
pub async fn events(State(state): State<AppState>, cook: MaybeCook, Path(id): Path<String>, headers: HeaderMap, body: Bytes) -> Response {
    let caller = match caller(&state, cook, &headers).await {
        Ok(caller) => caller,
        Err(refused) => return refused,
    };
    let Ok(uuid) = Uuid::parse_str(&id) else { return not_here(&id) };
    let value = match read_json(&headers, &body) {
        Ok(value) => value,
        Err(refused) => return refused,
    };
    let batch = match read_events(&value, state.now()) {
        Ok(batch) => batch,
        Err(problems) => return (StatusCode::UNPROCESSABLE_ENTITY, Json(problems)).into_response(),
    };
    let kitchen = state.store.kitchen(caller.household);
    match kitchen.append(PieceId(uuid), &batch.events, caller.cook, None).await {
        Ok(Appended::Done { accepted, repeated }) => {
            let teaches = batch.events.iter().any(|e| teaches(&e.what));
            if accepted > 0 && teaches {
                let now = state.now().to_zoned_datetime(caller.zone);
                if let Err(error) = learn_in(&state, caller.household, &now).await {
                    tracing::warn!(%error, "noted, and not learned from yet");
                }
            }
            Json(NotedDoc { accepted, repeated, moved_s: batch.moved.as_secs_f64(), now: state.now().to_string() }).into_response()
        }
        Ok(Appended::Clash(stands)) => {
            let sent = batch.events.iter().find(|e| e.id == stands.id).map(event_value);
            let problem = Problem::new(
                "events",
                "an id that is there with other content",
                "a new id, or the same event",
                "Give it an id of its own.",
            );
            (StatusCode::CONFLICT, Json(serde_json::json!({"problems": [problem], "stands": event_value(&stands), "sent": sent})))
                .into_response()
        }
        Ok(Appended::NamesNothing(of)) => {
            let at = batch.events.iter().position(|e| matches!(e.what, What::Voided(id) if id == of)).unwrap_or(0);
            let said = Uuid::from_u128(of.0).to_string();
            let allowed = "an event of this piece that was noted before it, or stands earlier in its batch";
            let problem = Problem::new(format!("events[{at}].event"), said, allowed, "Send that one first.");
            refuse(StatusCode::UNPROCESSABLE_ENTITY, problem)
        }
        Ok(Appended::Full | Appended::Changed) => {
            let problem = Problem::new(
                "events",
                "more than 5000 in all",
                "at most 5000 a piece",
                "Nothing was noted; this piece is full: ticks, voids, answers and a verdict find room among the last hundred.",
            );
            refuse(StatusCode::CONFLICT, problem)
        }
        Err(StoreError::NotFound) => not_here(&id),
        Err(error) => away(&error),
    }
}

/// Whether the refrigerator learns from it: what was weighed, and the salt that was on it meanwhile.
fn teaches(what: &What) -> bool {
    use What::{ActualSalt, Answered, SaltOff, SaltOn, TubWeighed, Voided, Weighed};
    matches!(what, Weighed { .. } | Answered { .. } | SaltOn { .. } | SaltOff { .. } | ActualSalt { .. } | TubWeighed { .. } | Voided(_))
}

/// A program's name as typed.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct ProgramForm {
    program: String,
    key: String,
}

/// Makes a token a program notes with, shown this once.
pub async fn add_program(
    State(state): State<AppState>,
    cook: SignedIn,
    axum::extract::Form(form): axum::extract::Form<ProgramForm>,
) -> Result<Response, crate::error::WebError> {
    crate::kit::add_program(&state, &cook, &form.program, &form.key).await
}
