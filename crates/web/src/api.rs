//! The JSON API: the same types and the same answer as the command line.

use crate::state::AppState;
use axum::Json;
use axum::body::Body;
use axum::extract::{Path, State};
use axum::http::{HeaderMap, StatusCode, header};
use axum::response::{IntoResponse, Response};
use http_body_util::BodyExt;
use jiff::tz::TimeZone;
use rauchkeller_contract::{PlanDoc, Problem, Problems, cuts, ledger, methods, plan_from, salts};
use serde_json::Value;
use utoipa::OpenApi;

#[derive(OpenApi)]
#[openapi(
    info(title = "Rauchkeller", description = "Dry-brining plans: grams, hours, depth, steps. Numbers carry their unit in the name."),
    paths(plan, list, health),
    components(schemas(PlanDoc, Problems, Problem))
)]
struct Api;

/// The OpenAPI document, pretty-printed; also committed as `docs/openapi.json`.
pub fn openapi() -> String {
    Api::openapi().to_pretty_json().unwrap_or_default() + "\n"
}

pub async fn openapi_json() -> Response {
    ([(header::CONTENT_TYPE, "application/json")], openapi()).into_response()
}

fn refuse(status: StatusCode, problem: Problem) -> Response {
    (status, Json(Problems { problems: vec![problem] })).into_response()
}

/// Largest body that is looked at.
const LARGEST: usize = 64 * 1024;
/// What is still read (and thrown away) of a larger one, so that its sender gets the answer and not a broken pipe.
const DRAINED: usize = 8 * 1024 * 1024;

/// The whole body, or `None` where it is too large or breaks off.
async fn read_whole(mut body: Body) -> Option<Vec<u8>> {
    let (mut read, mut seen) = (Vec::new(), 0);
    while let Some(frame) = body.frame().await {
        let Ok(data) = frame.ok()?.into_data() else { continue };
        seen += data.len();
        if seen > DRAINED {
            return None;
        }
        if seen <= LARGEST {
            read.extend_from_slice(&data);
        }
    }
    (seen <= LARGEST).then_some(read)
}

/// Makes a plan from a request.
#[utoipa::path(
    post,
    path = "/api/v1/plan",
    request_body(content = Value, description = "A request; `rauchkeller plan --example` prints one. Only piece.cut and piece.weight_g are required."),
    responses(
        (status = 200, body = PlanDoc, description = "The plan"),
        (status = 400, body = Problems, description = "Not JSON"),
        (status = 413, body = Problems, description = "Larger than 64 KB"),
        (status = 415, body = Problems, description = "Not application/json"),
        (status = 422, body = Problems, description = "One problem a field, all at once"),
    )
)]
pub async fn plan(State(state): State<AppState>, headers: HeaderMap, body: Body) -> Response {
    let kind = headers.get(header::CONTENT_TYPE).and_then(|v| v.to_str().ok()).unwrap_or_default();
    if !kind.split(';').next().is_some_and(|kind| kind.trim().eq_ignore_ascii_case("application/json")) {
        let said: String = kind.chars().take(60).collect();
        return refuse(
            StatusCode::UNSUPPORTED_MEDIA_TYPE,
            Problem::new("content-type", said, "application/json", "Send the request as JSON."),
        );
    }
    let Some(body) = read_whole(body).await else {
        return refuse(
            StatusCode::PAYLOAD_TOO_LARGE,
            Problem::new("body", "more than 64 KB", "at most 64 KB", "Send one request at a time."),
        );
    };
    let value: Value = match serde_json::from_slice(&body) {
        Ok(value) => value,
        Err(error) => {
            return refuse(
                StatusCode::BAD_REQUEST,
                Problem::new("body", error.to_string(), "JSON", "Compare it with `rauchkeller plan --example`."),
            );
        }
    };
    let now = state.now().to_zoned_datetime(TimeZone::system());
    let answer = tokio::task::spawn_blocking(move || plan_from(&value, &now)).await;
    match answer {
        Ok(Ok(plan)) => Json(plan).into_response(),
        Ok(Err(problems)) => (StatusCode::UNPROCESSABLE_ENTITY, Json(problems)).into_response(),
        Err(error) => {
            tracing::error!(%error, "plan failed");
            refuse(
                StatusCode::INTERNAL_SERVER_ERROR,
                Problem::new("request", "this request", "any request", "It failed on our side and was noted. Try again."),
            )
        }
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
