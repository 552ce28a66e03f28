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
use jiff::ZonedDateTime;
use jiff::civil::Time;
use jiff::tz::TimeZone;
use rauchkeller_core::ask::Kitchen;
use rauchkeller_core::clock::{Quiet, Toward, read_wall};
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
    quiet_from: String,
    quiet_to: String,
    clock: String,
    cooks: Vec<Fellow>,
    waiting: Vec<Waiting>,
    days: i64,
    /// A link that was just made, shown this once.
    link: Option<String>,
    wrong: Option<String>,
    wrong_zone: Option<String>,
    wrong_quiet: Option<String>,
    done: Option<&'static str>,
}

impl HouseholdPage {
    async fn of(state: &AppState, cook: &SignedIn) -> Result<Self, WebError> {
        let (kitchen, now) = (cook.kitchen(state), cook.now(state));
        let day = |at| day_wall(at, &now);
        let quiet = cook.0.quiet.or(Kitchen::default().quiet);
        let cooks = kitchen.cooks().await?;
        let waiting = kitchen.invitations(now.timestamp()).await?;
        Ok(Self {
            rail: Rail::at("account", cook),
            name: cook.0.household_name.clone(),
            units: cook.system().map_or("", System::id),
            zone: cook.0.time_zone.clone(),
            zones: zones(),
            quiet_from: wall(quiet, |quiet| quiet.from),
            quiet_to: wall(quiet, |quiet| quiet.to),
            clock: now.strftime("%A, %H:%M").to_string(),
            cooks: cooks.into_iter().map(|c| Fellow { you: c.id == cook.0.id, since: day(c.since), name: c.name }).collect(),
            waiting: waiting.into_iter().map(|i| Waiting { id: i.id.to_string(), until: day(i.until) }).collect(),
            days: INVITATION_DAYS,
            link: None,
            wrong: None,
            wrong_zone: None,
            wrong_quiet: None,
            done: None,
        })
    }
}

fn wall(quiet: Option<Quiet>, of: impl Fn(Quiet) -> Time) -> String {
    // None at all are two empty fields.
    quiet.filter(|quiet| quiet.from != quiet.to).map_or_else(String::new, |quiet| of(quiet).strftime("%H:%M").to_string())
}

/// Zones a kitchen can stand in, by their names.
pub(crate) fn zones() -> Vec<String> {
    jiff::tz::db().available().map(|name| name.to_string()).filter(|name| name.contains('/') || name == "UTC").collect()
}

/// The name of a zone that was typed, or what to write.
pub(crate) fn zone_of(typed: &str) -> Result<String, String> {
    let zone = typed.trim().replace(' ', "_");
    if !zone.is_empty() && TimeZone::get(&zone).is_ok() {
        return Ok(zone);
    }
    let said: String = typed.trim().chars().take(40).collect();
    Err(if said.is_empty() {
        "Say in which time zone the kitchen stands, like Europe/Vienna or America/Chicago: every hour goes by it.".to_owned()
    } else {
        format!("“{said}” is not a time zone; write it like Europe/Vienna or America/Chicago.")
    })
}

/// Quiet hours from two fields; both empty are none.
fn read_quiet(from: &str, to: &str, now: &ZonedDateTime) -> Result<Quiet, String> {
    if from.trim().is_empty() && to.trim().is_empty() {
        return Ok(Quiet::NONE);
    }
    let hour = |typed: &str| -> Result<Time, String> {
        let said: String = typed.trim().chars().take(20).collect();
        let at = read_wall(&said, now, Toward::Coming)
            .map_err(|_| format!("“{said}” is no hour of the night; write it like 22:30, or leave both empty for none."))?;
        Ok(at.time())
    };
    let quiet = Quiet { from: hour(from)?, to: hour(to)? };
    if quiet.from == quiet.to {
        return Err("From and to are the same hour; leave both empty for none.".to_owned());
    }
    Ok(quiet)
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
    cook.kitchen(&state).set_home(Some(system.id()), None, None).await?;
    Ok(Redirect::to(&form.bench.address()).into_response())
}

/// Units and clock, as said on the household's page.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct KitchenForm {
    units: String,
    zone: String,
    quiet_from: Option<String>,
    quiet_to: Option<String>,
}

/// Sets all of it, or nothing.
pub async fn set_kitchen(State(state): State<AppState>, cook: SignedIn, Form(form): Form<KitchenForm>) -> Result<Response, WebError> {
    let zone = zone_of(&form.zone);
    let said = form.quiet_from.as_deref().zip(form.quiet_to.as_deref());
    let quiet = said.map(|(from, to)| read_quiet(from, to, &cook.now(&state))).transpose();
    let known = zone.is_ok() && quiet.is_ok();
    if let (Ok(zone), Ok(quiet)) = (&zone, &quiet) {
        let units = System::find(&form.units).map(System::id);
        cook.kitchen(&state).set_home(units, Some(zone), *quiet).await?;
    }
    let fresh = SignedIn(state.store.cook(cook.0.id).await?.ok_or(WebError::NotFound)?);
    let mut page = HouseholdPage::of(&state, &fresh).await?;
    if known {
        page.done = Some("Noted. Wall times and numbers go by it from now on.");
        return render(&page);
    }
    (page.wrong_zone, page.wrong_quiet) = (zone.err(), quiet.err());
    page.zone = form.zone;
    page.quiet_from = form.quiet_from.unwrap_or(page.quiet_from);
    page.quiet_to = form.quiet_to.unwrap_or(page.quiet_to);
    Ok((StatusCode::UNPROCESSABLE_ENTITY, render(&page)?).into_response())
}
