//! The refrigerator rest of a piece: salt going in, water coming out, weighed and felt, and put right where it went wrong.

mod about;
mod act;
mod air;
mod here;
mod learn;
mod looked;
mod noted;
mod rescue;
mod view;
mod weigh;
mod words;

pub use act::{delete, restore};
pub use air::{AirForm, set_air};
pub use learn::{learn, learn_in};
pub use rescue::change;
pub use weigh::{answer, touch, weigh_in};

use crate::auth::SignedIn;
use crate::compute::compute;
use crate::error::WebError;
use crate::kit::form_key;
use crate::live::Live;
use crate::piece::{InSight, open, open_in_sight};
use crate::shell::{Partial, Rail, Station, render, which};
use crate::state::AppState;
use askama::Template;
use axum::extract::{Path, Query, State};
use axum::http::{HeaderValue, StatusCode};
use axum::response::{IntoResponse, Redirect, Response};
use rescue::RescueForm;
use serde::Deserialize;
use std::collections::BTreeMap;
use view::ChillView;
use weigh::WeighForm;

/// What the address says: the hour looked at, and a rescue asked for.
#[derive(Debug, Clone, Default, Deserialize)]
#[serde(default)]
pub struct ChillQuery {
    /// Hours of salt.
    hours: String,
    /// What is really on it, as typed.
    on: String,
    /// Just taken back, to be put in again: kind and id.
    removed: String,
    id: String,
}

#[derive(Template)]
#[template(path = "chill/page.html")]
struct ChillPage {
    rail: Rail,
    view: ChillView,
}

#[derive(Template)]
#[template(path = "chill/chill.html")]
struct ChillFragment {
    view: ChillView,
}

/// What a refused form leaves on the page: what was typed, and what is wrong with it, by field.
#[derive(Debug, Clone, Default)]
pub struct Refused {
    weigh: Option<WeighForm>,
    rescue: Option<RescueForm>,
    air: Option<air::AirForm>,
    slips: BTreeMap<&'static str, String>,
    /// Said above everything.
    said: Option<String>,
    conflict: bool,
}

/// The rest without a piece: the first that lies salted in the cold; else the Cellar.
pub async fn next(State(state): State<AppState>, cook: SignedIn) -> Result<Response, WebError> {
    let InSight { pieces, more, .. } = open_in_sight(&state, &cook).await?;
    let chilling: Vec<_> = pieces.iter().filter(|p| p.chills()).map(|p| &p.piece).collect();
    let waiting = if chilling.is_empty() { pieces.iter().map(|p| &p.piece).collect() } else { chilling };
    which(&STATION, &cook, &cook.now(&state), &waiting, more)
}

const STATION: Station = Station {
    hook: "cellar",
    page: "chill",
    which: "Which piece in the refrigerator?",
    none: "Nothing is in the refrigerator",
    says: "A piece comes here once it is salted: weigh it in, feel its skin, see when it is ready.",
};

/// The rest of one piece; the hour looked at is in the address.
pub async fn page(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path(id): Path<String>,
    Query(query): Query<ChillQuery>,
) -> Result<Response, WebError> {
    show(&state, &cook, partial, &id, query, Refused::default()).await
}

async fn show(
    state: &AppState,
    cook: &SignedIn,
    partial: Partial,
    id: &str,
    query: ChillQuery,
    refused: Refused,
) -> Result<Response, WebError> {
    let opened = open(state, cook, id).await?;
    let kitchen = cook.kitchen(state);
    let trays = kitchen.trays().await?;
    let live = Live::of(&kitchen, state.now()).await?;
    let status = match (refused.slips.is_empty() && refused.said.is_none(), refused.conflict) {
        (true, _) => StatusCode::OK,
        (false, true) => StatusCode::CONFLICT,
        (false, false) => StatusCode::UNPROCESSABLE_ENTITY,
    };
    let now = cook.now(state);
    let mut view = compute(move || {
        let mut view = ChillView::of(&opened, &query, &now);
        view.weigh_with(&opened, &trays, live.as_ref(), refused);
        view
    })
    .await?;
    view.demo_scale = cook.demo_scale(state);
    view.key = form_key("");
    if !partial.0 {
        return Ok((status, render(&ChillPage { rail: Rail::at("cellar", cook), view })?).into_response());
    }
    let address = view.address.clone();
    let mut response = (status, render(&ChillFragment { view })?).into_response();
    if let Ok(address) = HeaderValue::from_str(&address) {
        response.headers_mut().insert("HX-Replace-Url", address);
    }
    Ok(response)
}

/// After a change: the fragment again for htmx, else back to the page.
async fn after(state: &AppState, cook: &SignedIn, partial: Partial, id: &str, query: ChillQuery) -> Result<Response, WebError> {
    if partial.0 {
        // A weighing has taught the refrigerator something meanwhile.
        return show(state, &cook.again(state).await?, partial, id, query, Refused::default()).await;
    }
    let undo = if query.removed.is_empty() { String::new() } else { format!("?removed={}&id={}", query.removed, query.id) };
    Ok(Redirect::to(&format!("/pieces/{id}/chill{undo}")).into_response())
}
