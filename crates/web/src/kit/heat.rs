//! How hot the household's own appliances get, and how far their dials are off.

use super::page::show_heat;
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::state::AppState;
use axum::extract::{Form, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Redirect, Response};
use rauchkeller_core::ask::read_heat;
use rauchkeller_core::fire::{HeatSource, Hottest};
use rauchkeller_core::units::{IntervalIn, System, Temperature, TemperatureIn, TemperatureInterval, kelvin};
use serde::Deserialize;

/// The form as typed.
#[derive(Debug, Clone, Default, Deserialize)]
#[serde(default)]
pub struct HeatForm {
    pub appliance: String,
    pub hottest: String,
    /// What its dial shows, and what a thermometer beside the meat reads meanwhile.
    pub dial: String,
    pub reads: String,
}

/// What a form says of one, or a sentence about what is wrong.
struct Said {
    most: Option<Temperature>,
    dial: Option<TemperatureInterval>,
}

fn read(form: &HeatForm, source: HeatSource, system: Option<System>) -> Result<Said, String> {
    let short = |typed: &str| typed.trim().chars().take(60).collect::<String>();
    let degrees = |typed: &str| match read_heat(typed, system) {
        _ if typed.is_empty() => Ok(None),
        Ok(read) => Ok(Some(read)),
        Err(slip) => {
            let or = if slip.choices.is_empty() { String::new() } else { format!(" {}?", slip.choices.join(" or ")) };
            Err(format!("{}.{or}", crate::words::sentence(slip.says.trim_end_matches(['.', '?']))))
        }
    };
    let (typed, shows, reads) = (short(&form.hottest), short(&form.dial), short(&form.reads));
    let most = degrees(&typed)?;
    if most.is_some_and(|most| most > source.hottest()) {
        return Err(format!("“{typed}” is hotter than any {} gets; up to {:.0} °C is allowed.", source.id(), source.hottest().in_c()));
    }
    let dial = match (degrees(&shows)?, degrees(&reads)?) {
        (Some(shows), Some(reads)) => Some(kelvin(shows.in_c() - reads.in_c())),
        (None, None) => None,
        _ => return Err("Say both: what the dial shows, and what a thermometer beside the meat reads meanwhile.".to_owned()),
    };
    if dial.is_some_and(|off| off.in_kelvin().abs() > Hottest::MOST_OFF_K) {
        return Err(format!(
            "“{shows}” on the dial and “{reads}” beside the meat lie further apart than any dial is off; read both again."
        ));
    }
    Ok(Said { most, dial })
}

/// Writes down how hot one gets, and how far its dial is off; nothing typed makes it as usual again.
pub async fn set_heat(State(state): State<AppState>, cook: SignedIn, Form(form): Form<HeatForm>) -> Result<Response, WebError> {
    let refuse = |says: String| {
        let (state, cook, form) = (state.clone(), cook.clone(), form.clone());
        async move { Ok::<Response, WebError>((StatusCode::UNPROCESSABLE_ENTITY, show_heat(&state, &cook, form, says).await?).into_response()) }
    };
    let Some(source) = HeatSource::find(&form.appliance) else {
        return refuse("Choose which appliance it is.".to_owned()).await;
    };
    let said = match read(&form, source, cook.system()) {
        Ok(said) => said,
        Err(says) => return refuse(says).await,
    };
    let kitchen = cook.kitchen(&state);
    // What only the dial was said of gets as hot as ever, and the other way round; nothing at all forgets both.
    let nothing = said.most.is_none() && said.dial.is_none();
    if said.most.is_some() || nothing {
        kitchen.set_appliance(source, said.most, state.now()).await?;
    }
    if said.dial.is_some() || nothing {
        kitchen.set_dial(source, said.dial, state.now()).await?;
    }
    Ok(Redirect::to("/kit#heat").into_response())
}
