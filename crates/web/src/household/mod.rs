//! The household: its units and clock, who cooks here, who is invited, and what was taken out.

mod invitation;
mod join;
mod taken_out;

pub use invitation::{invite, take_back};
pub use join::{join, join_page};
pub use taken_out::page as taken_out;

use crate::auth::SignedIn;
use crate::bench::BenchForm;
use crate::error::WebError;
use crate::shell::{Rail, render};
use crate::state::AppState;
use crate::words::day_wall;
use askama::Template;
use axum::extract::{Form, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Redirect, Response};
use jiff::tz::TimeZone;
use rauchkeller_core::units::System;
use rauchkeller_store::INVITATION_DAYS;
use serde::Deserialize;

/// A cook of the household, as text.
struct Fellow {
    name: String,
    since: String,
    you: bool,
}

/// An invitation that waits, as text.
struct Waiting {
    id: String,
    until: String,
}

#[derive(Template)]
#[template(path = "household/page.html")]
struct HouseholdPage {
    rail: Rail,
    name: String,
    units: &'static str,
    zone: String,
    zones: Vec<String>,
    clock: String,
    cooks: Vec<Fellow>,
    waiting: Vec<Waiting>,
    days: i64,
    /// A link that was just made, shown this once.
    link: Option<String>,
    wrong: Option<String>,
    wrong_zone: Option<String>,
    done: Option<&'static str>,
}

impl HouseholdPage {
    async fn of(state: &AppState, cook: &SignedIn) -> Result<Self, WebError> {
        let (kitchen, now) = (cook.kitchen(state), cook.now(state));
        let day = |at| day_wall(at, &now);
        let cooks = kitchen.cooks().await?;
        let waiting = kitchen.invitations(now.timestamp()).await?;
        Ok(Self {
            rail: Rail::at("account", cook),
            name: cook.0.household_name.clone(),
            units: cook.system().map_or("", System::id),
            zone: cook.0.time_zone.clone(),
            zones: jiff::tz::db().available().map(|name| name.to_string()).filter(|name| name.contains('/') || name == "UTC").collect(),
            clock: now.strftime("%A, %H:%M").to_string(),
            cooks: cooks.into_iter().map(|c| Fellow { you: c.id == cook.0.id, since: day(c.since), name: c.name }).collect(),
            waiting: waiting.into_iter().map(|i| Waiting { id: i.id.to_string(), until: day(i.until) }).collect(),
            days: INVITATION_DAYS,
            link: None,
            wrong: None,
            wrong_zone: None,
            done: None,
        })
    }
}

/// The page.
pub async fn page(State(state): State<AppState>, cook: SignedIn) -> Result<Response, WebError> {
    render(&HouseholdPage::of(&state, &cook).await?)
}

/// Units chosen where they were first met, with the sentence of the Bench they were met in.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct UnitsForm {
    units: String,
    #[serde(flatten)]
    bench: BenchForm,
}

/// Notes the units and goes back to the Bench as it was.
pub async fn set_units(State(state): State<AppState>, cook: SignedIn, Form(form): Form<UnitsForm>) -> Result<Response, WebError> {
    let Some(system) = System::find(&form.units) else { return Err(WebError::NotFound) };
    cook.kitchen(&state).set_home(Some(system.id()), None).await?;
    Ok(Redirect::to(&form.bench.address()).into_response())
}

/// Units and clock, as said on the household's page.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct KitchenForm {
    units: String,
    zone: String,
}

/// Sets both, or neither.
pub async fn set_kitchen(State(state): State<AppState>, cook: SignedIn, Form(form): Form<KitchenForm>) -> Result<Response, WebError> {
    let zone = form.zone.trim().replace(' ', "_");
    let known = TimeZone::get(&zone).is_ok() && !zone.is_empty();
    if known {
        let units = System::find(&form.units).map(System::id);
        cook.kitchen(&state).set_home(units, Some(&zone)).await?;
    }
    let fresh = SignedIn(state.store.cook(cook.0.id).await?.ok_or(WebError::NotFound)?);
    let mut page = HouseholdPage::of(&state, &fresh).await?;
    if known {
        page.done = Some("Noted. Wall times and numbers go by it from now on.");
        return render(&page);
    }
    let said: String = form.zone.trim().chars().take(40).collect();
    page.wrong_zone = Some(format!("“{said}” is not a time zone; write it like Europe/Vienna or America/Chicago."));
    page.zone = form.zone;
    Ok((StatusCode::UNPROCESSABLE_ENTITY, render(&page)?).into_response())
}
