//! The household's scale, if one is speaking now.

use crate::auth::SignedIn;
use crate::error::WebError;
use crate::shell::render;
use crate::state::AppState;
use askama::Template;
use axum::extract::{Query, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Response};
use jiff::{SignedDuration, Timestamp};
use rauchkeller_core::salt::{Sample, is_steady};
use rauchkeller_core::units::{Mass, grams};
use rauchkeller_store::{Kitchen, LiveScale, StoreError};
use serde::Deserialize;

/// A scale that has said nothing for so long is not speaking.
const SILENT_AFTER: SignedDuration = SignedDuration::from_secs(4);

/// What the scale shows now.
#[derive(Debug, Clone)]
pub struct Live {
    /// Which.
    pub device: u128,
    /// What the household calls it.
    pub name: String,
    /// What it shows, as text with the places it has.
    pub shows: String,
    /// The same as a number.
    pub gross_g: f64,
    /// Its fineness.
    pub fineness: Mass,
    /// Count of its last reading.
    pub seq: i64,
    readings: Vec<(i64, f64)>,
}

impl Live {
    /// The scale that spoke last, within four seconds.
    pub async fn of(kitchen: &Kitchen<'_>, now: Timestamp) -> Result<Option<Self>, StoreError> {
        Ok(kitchen.live_scale(now, SILENT_AFTER).await?.and_then(Self::read))
    }

    /// The scale a bowl was tared on; none where another speaks now.
    pub async fn of_tare(kitchen: &Kitchen<'_>, now: Timestamp, tare: Option<(f64, Option<u128>)>) -> Result<Option<Self>, StoreError> {
        let live = Self::of(kitchen, now).await?;
        Ok(live.filter(|live| tare.is_none_or(|(_, scale)| scale.is_none_or(|scale| scale == live.device))))
    }

    fn read(scale: LiveScale) -> Option<Self> {
        let last = scale.readings.last()?;
        let places = usize::from(scale.device.step_g < 1.0);
        Some(Self {
            device: scale.device.id.0.as_u128(),
            shows: format!("{:.places$}", last.mass_g),
            gross_g: last.mass_g,
            seq: last.seq,
            fineness: grams(scale.device.step_g),
            name: scale.device.name,
            readings: scale.readings.iter().map(|r| (r.at.as_millisecond(), r.mass_g)).collect(),
        })
    }

    /// Whether it stands still, so that it may be tared.
    pub fn is_steady(&self) -> bool {
        is_steady(self.fineness, &self.samples(0.0))
    }

    /// Its latest readings with the empty bowl taken off.
    pub fn samples(&self, tare_g: f64) -> Vec<Sample> {
        self.readings.iter().map(|(at_ms, g)| Sample { at_ms: *at_ms, net_g: g - tare_g }).collect()
    }
}

/// Where a reading goes when it is taken.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct Into {
    into: String,
}

#[derive(Template)]
#[template(path = "shell/scale.html")]
struct Shows {
    scale: Option<Live>,
    into: String,
}

/// One line: what the scale shows, and a button that takes it into a field. For pages that weigh something in passing.
pub async fn shows(State(state): State<AppState>, cook: SignedIn, Query(into): Query<Into>) -> Result<Response, WebError> {
    let scale = Live::of(&cook.kitchen(&state), state.now()).await?;
    let known = into.into.len() < 40 && into.into.chars().all(|c| c.is_ascii_alphanumeric() || c == '-');
    if !known {
        return Ok(StatusCode::NOT_FOUND.into_response());
    }
    render(&Shows { scale, into: into.into })
}
