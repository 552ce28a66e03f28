//! The household's refrigerator: how warm it is, since when it was too warm, and what follows for what lies in it.

mod act;
mod view;

pub use act::{delete, restore, set_air, since, stood_open};

use crate::auth::SignedIn;
use crate::error::WebError;
use crate::kit::form_key;
use crate::piece::open_in_sight;
use crate::shell::{Rail, render};
use crate::state::AppState;
use askama::Template;
use axum::extract::{Query, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Response};
use serde::Deserialize;
use std::collections::BTreeMap;
use uuid::Uuid;
use view::FridgeView;

#[derive(Template)]
#[template(path = "refrigerator/page.html")]
struct FridgePage {
    rail: Rail,
    view: FridgeView,
}

/// What was typed, as it was typed.
#[derive(Debug, Clone, Default, Deserialize)]
#[serde(default)]
pub struct Typed {
    /// Since when.
    pub when: String,
    /// Which while that is about.
    pub spell: String,
    /// Its air.
    pub c: String,
    /// Its humidity, carried along.
    pub rh: String,
    /// The refrigerator's version the cook saw.
    pub version: i32,
    /// For how long it stood open.
    pub long: String,
    /// Until when; empty is now.
    pub until: String,
    /// The one piece it concerns; empty is everything.
    pub which: String,
    /// Key of the form.
    pub key: String,
}

/// What a refused form leaves on the page.
#[derive(Debug, Default)]
pub(super) struct Refused {
    typed: Typed,
    slips: BTreeMap<&'static str, String>,
    said: Option<String>,
    status: StatusCode,
}

/// Just taken back, to be put in again.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct Before {
    removed: String,
}

/// The page.
pub async fn page(State(state): State<AppState>, cook: SignedIn, Query(before): Query<Before>) -> Result<Response, WebError> {
    let removed = Uuid::parse_str(&before.removed).ok().map(|id| id.to_string());
    show(&state, &cook, Refused::default(), removed).await
}

async fn show(state: &AppState, cook: &SignedIn, refused: Refused, removed: Option<String>) -> Result<Response, WebError> {
    let kitchen = cook.kitchen(state);
    let fridge = kitchen.refrigerator().await?;
    let spells = kitchen.warm_spells().await?;
    let opened = open_in_sight(state, cook).await?.pieces;
    let mut view = FridgeView::of(&fridge, &spells, &opened, &cook.now(state), cook.system());
    view.key = form_key(&refused.typed.key);
    view.removed = removed;
    let status = refused.status;
    view.with(refused);
    Ok((status, render(&FridgePage { rail: Rail::at("cellar", cook), view })?).into_response())
}
