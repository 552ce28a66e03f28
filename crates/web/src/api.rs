//! The JSON API: the same types and the same answer as the command line.

use crate::auth::Visitor;
use crate::compute::compute;
use crate::error::{Says, in_words};
use crate::state::AppState;
use axum::Json;
use axum::body::Bytes;
use axum::extract::{Path, State};
use axum::http::{HeaderMap, StatusCode, header};
use axum::response::{IntoResponse, Response};
use jiff::tz::TimeZone;
use rauchkeller_contract::{
    PairedDoc, PairingDoc, PlanDoc, Problem, Problems, ReadingsDoc, ReceivedDoc, StandingDoc, cuts, ledger, methods, plan_from,
    read_pairing, read_readings, salts,
};
use rauchkeller_store::{Asked, Door, NewReading, Pairing, StoreError};
use serde_json::Value;
use utoipa::OpenApi;

#[derive(OpenApi)]
#[openapi(
    info(title = "Rauchkeller", description = "Dry-brining plans: grams, hours, depth, steps. Numbers carry their unit in the name."),
    paths(plan, readings, pairings, list, health, crate::api_run::standing, crate::api_run::events),
    components(schemas(PlanDoc, StandingDoc, crate::api_run::NotedDoc, ReadingsDoc, ReceivedDoc, PairingDoc, PairedDoc, Problems, Problem)),
    modifiers(&DeviceToken)
)]
struct Api;

/// How a device says who it is.
struct DeviceToken;

impl utoipa::Modify for DeviceToken {
    fn modify(&self, openapi: &mut utoipa::openapi::OpenApi) {
        use utoipa::openapi::security::{HttpAuthScheme, HttpBuilder, SecurityScheme};
        let scheme =
            HttpBuilder::new().scheme(HttpAuthScheme::Bearer).description(Some("The device’s token, shown once in the Kit.")).build();
        let components = openapi.components.get_or_insert_default();
        components.add_security_scheme("device", SecurityScheme::Http(scheme));
    }
}

/// The OpenAPI document, pretty-printed; also committed as `docs/openapi.json`.
pub fn openapi() -> String {
    let mut document = serde_json::to_value(Api::openapi()).unwrap_or_default();
    // Made from the table the reader goes by, not from a type: leaves are read leniently, as values.
    document["components"]["schemas"]["PlanRequest"] = rauchkeller_contract::request_schema();
    document["components"]["schemas"]["EventBatch"] = rauchkeller_contract::events_schema();
    serde_json::to_string_pretty(&document).unwrap_or_default() + "\n"
}

pub async fn openapi_json() -> Response {
    ([(header::CONTENT_TYPE, "application/json")], openapi()).into_response()
}

pub(crate) fn refuse(status: StatusCode, problem: Problem) -> Response {
    (status, Json(Problems { problems: vec![problem] })).into_response()
}

/// The body as JSON, or the refusal that says what is wrong with it.
#[expect(clippy::result_large_err, reason = "the refusal is the answer, as it goes out")]
pub(crate) fn read_json(headers: &HeaderMap, body: &Bytes) -> Result<Value, Response> {
    let kind = headers.get(header::CONTENT_TYPE).and_then(|v| v.to_str().ok()).unwrap_or_default();
    if !kind.split(';').next().is_some_and(|kind| kind.trim().eq_ignore_ascii_case("application/json")) {
        let said: String = kind.chars().take(60).collect();
        return Err(refuse(
            StatusCode::UNSUPPORTED_MEDIA_TYPE,
            Problem::new("content-type", said, "application/json", "Send the request as JSON."),
        ));
    }
    let text = std::str::from_utf8(body).map_err(|_| {
        refuse(
            StatusCode::BAD_REQUEST,
            Problem::new("request", "letters that are not UTF-8", "a request as JSON in UTF-8", "Save it as UTF-8."),
        )
    })?;
    rauchkeller_contract::read_request_text(text).map_err(|problem| refuse(StatusCode::BAD_REQUEST, problem))
}

/// The token of an `Authorization: Bearer` header; the scheme's name has no case (RFC 9110, 11.1).
pub(crate) fn bearer(header: &str) -> Option<&str> {
    let (scheme, token) = header.trim().split_once(' ')?;
    scheme.eq_ignore_ascii_case("bearer").then_some(token.trim())
}

/// Takes readings of a device.
///
/// A device sends its token; the same sequence number is stored once, however often it comes. One reading that cannot
/// be refuses the whole batch, with the reason.
#[utoipa::path(
    post,
    path = "/api/v1/readings",
    request_body = ReadingsDoc,
    security(("device" = [])),
    responses(
        (status = 200, body = ReceivedDoc, description = "Taken; those known already changed nothing"),
        (status = 400, body = Problems, description = "Not JSON"),
        (status = 401, body = Problems, description = "No token, or one that opens nothing"),
        (status = 413, body = Problems, description = "Larger than 64 KB"),
        (status = 415, body = Problems, description = "Not application/json"),
        (status = 422, body = Problems, description = "Out of range, with the reason; nothing was stored"),
        (status = 503, body = Problems, description = "The database is away; send it again later"),
    )
)]
pub async fn readings(State(state): State<AppState>, headers: HeaderMap, body: Bytes) -> Response {
    let token = headers.get(header::AUTHORIZATION).and_then(|v| v.to_str().ok()).and_then(bearer);
    let away = || {
        refuse(
            StatusCode::SERVICE_UNAVAILABLE,
            Problem::new("database", "away", "a database that answers", "Send the same batch again later."),
        )
    };
    // The token first: a stranger's body is not read.
    let device = match token {
        Some(token) if token.len() <= 200 => state.store.device_by_token(token.trim()).await,
        _ => Ok(None),
    };
    let device = match device {
        Ok(Some(device)) if device.kind == "scale" => device,
        Ok(_) => {
            let problem = Problem::new(
                "authorization",
                if token.is_some() { "a token that opens nothing" } else { "no token" },
                "Authorization: Bearer and the device’s token",
                "Hang the device into the Kit; its token is shown there once.",
            );
            return refuse(StatusCode::UNAUTHORIZED, problem);
        }
        Err(error) => {
            tracing::warn!(%error, "readings wait");
            return away();
        }
    };
    let value = match read_json(&headers, &body) {
        Ok(value) => value,
        Err(refused) => return refused,
    };
    let now = state.now();
    let batch: Vec<NewReading> = match read_readings(&value, device.capacity_g, now) {
        Ok(read) => read.iter().map(|r| NewReading { seq: r.seq, at: r.at, mass_g: r.mass_g }).collect(),
        Err(problems) => return (StatusCode::UNPROCESSABLE_ENTITY, Json(problems)).into_response(),
    };
    match state.store.receive(&device, &batch, now).await {
        Ok(received) => Json(ReceivedDoc { accepted: received.accepted, repeated: received.repeated }).into_response(),
        Err(error) => {
            tracing::warn!(%error, "readings wait");
            away()
        }
    }
}

/// Says how a device stands that wants to be paired, and gives it a code to show.
///
/// The device makes its own token and keeps it; whoever types the code into their Kit within ten minutes takes the device in,
/// and from then on the token opens the readings. Sending it again changes nothing; a code that is over is followed by a new one.
#[utoipa::path(
    post,
    path = "/api/v1/pairings",
    request_body = PairingDoc,
    responses(
        (status = 200, body = PairedDoc, description = "How it stands"),
        (status = 400, body = Problems, description = "Not JSON"),
        (status = 413, body = Problems, description = "Larger than 64 KB"),
        (status = 415, body = Problems, description = "Not application/json"),
        (status = 422, body = Problems, description = "One problem a field, all at once"),
        (status = 429, body = Problems, description = "Too many new codes from there; the device waits"),
        (status = 503, body = Problems, description = "The database is away"),
    )
)]
pub async fn pairings(State(state): State<AppState>, visitor: Visitor, headers: HeaderMap, body: Bytes) -> Response {
    let value = match read_json(&headers, &body) {
        Ok(value) => value,
        Err(refused) => return refused,
    };
    let device = match read_pairing(&value) {
        Ok(device) => device,
        Err(problems) => return (StatusCode::UNPROCESSABLE_ENTITY, Json(problems)).into_response(),
    };
    match pair(&state, visitor, &device).await {
        Ok(Some(stands)) => Json(stands).into_response(),
        Ok(None) => refuse(
            StatusCode::TOO_MANY_REQUESTS,
            Problem::new("token", "one more new device", "40 new codes in a quarter of an hour from one place", "Wait, then ask again."),
        ),
        Err(error) => {
            tracing::warn!(%error, "pairing waits");
            let problem = Problem::new("database", "away", "a database that answers", "Ask again later.");
            refuse(StatusCode::SERVICE_UNAVAILABLE, problem)
        }
    }
}

async fn pair(state: &AppState, visitor: Visitor, device: &PairingDoc) -> Result<Option<PairedDoc>, StoreError> {
    let now = state.now();
    let waits = |code: String, until: jiff::Timestamp| PairedDoc { paired: false, code: Some(code), until: Some(until.to_string()) };
    match state.store.pairing(&device.token, now).await? {
        Asked::Paired => return Ok(Some(PairedDoc { paired: true, code: None, until: None })),
        Asked::Waits(code, until) => return Ok(Some(waits(code, until))),
        Asked::Unknown => {}
    }
    // Only a new code counts; asking how it stands does not.
    if state.store.begin_try(&[Door::Pairing { from: visitor.place }], now).await?.is_none() {
        return Ok(None);
    }
    let about = Pairing { name: device.name.clone(), step_g: device.step_g, capacity_g: device.capacity_g };
    let (code, until) = state.store.begin_pairing(&device.token, &about, now).await?;
    Ok(Some(waits(code, until)))
}

/// Makes a plan from a request.
#[utoipa::path(
    post,
    path = "/api/v1/plan",
    request_body(content = ref("#/components/schemas/PlanRequest"), description = "A request; `rauchkeller plan --example` prints one. Only piece.cut and piece.weight_g are required."),
    responses(
        (status = 200, body = PlanDoc, description = "The plan"),
        (status = 400, body = Problems, description = "Not JSON"),
        (status = 413, body = Problems, description = "Larger than 64 KB"),
        (status = 415, body = Problems, description = "Not application/json"),
        (status = 422, body = Problems, description = "One problem a field, all at once"),
    )
)]
pub async fn plan(State(state): State<AppState>, headers: HeaderMap, body: Bytes) -> Response {
    let value = match read_json(&headers, &body) {
        Ok(value) => value,
        Err(refused) => return refused,
    };
    let now = state.now().to_zoned_datetime(TimeZone::system());
    match compute(move || plan_from(&value, &now)).await {
        Ok(Ok(plan)) => Json(plan).into_response(),
        Ok(Err(problems)) => (StatusCode::UNPROCESSABLE_ENTITY, Json(problems)).into_response(),
        Err(_) => in_words(StatusCode::SERVICE_UNAVAILABLE, Some("crowded"), Says::Json),
    }
}

/// A table of facts, each row with its source.
#[utoipa::path(
    get,
    path = "/api/v1/list/{what}",
    params(("what" = String, Path, description = "cuts, salts, methods or ledger")),
    responses((status = 200, description = "The rows"), (status = 404, body = Problems, description = "No such table"))
)]
pub async fn list(Path(what): Path<String>) -> Response {
    match what.as_str() {
        "cuts" => Json(cuts()).into_response(),
        "salts" => Json(salts()).into_response(),
        "methods" => Json(methods()).into_response(),
        "ledger" => Json(ledger()).into_response(),
        _ => {
            let said: String = what.chars().take(60).collect();
            refuse(StatusCode::NOT_FOUND, Problem::new("what", said, "cuts, salts, methods, ledger", "Ask for one of these."))
        }
    }
}

/// Whether the server and its database answer.
#[utoipa::path(get, path = "/health", responses((status = 200, description = "Both answer"), (status = 503, description = "The database is away")))]
pub async fn health(State(state): State<AppState>) -> Response {
    match state.store.ping().await {
        Ok(()) => Json(serde_json::json!({"server": "up", "database": "up"})).into_response(),
        Err(_) => (StatusCode::SERVICE_UNAVAILABLE, Json(serde_json::json!({"server": "up", "database": "away"}))).into_response(),
    }
}
