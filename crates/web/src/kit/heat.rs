//! How hot the household's own appliances get.

use super::page::show_heat;
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::state::AppState;
use axum::extract::{Form, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Redirect, Response};
use rauchkeller_core::fire::HeatSource;
use rauchkeller_core::plan::read_heat;
use rauchkeller_core::units::TemperatureIn;
use serde::Deserialize;

/// The form as typed.
#[derive(Debug, Clone, Default, Deserialize)]
#[serde(default)]
pub struct HeatForm {
    pub appliance: String,
    pub hottest: String,
}

/// Writes down how hot one gets; nothing typed makes it as usual again.
pub async fn set_heat(State(state): State<AppState>, cook: SignedIn, Form(form): Form<HeatForm>) -> Result<Response, WebError> {
    let typed: String = form.hottest.trim().chars().take(60).collect();
    let refuse = |says: String| {
        let (state, cook, form) = (state.clone(), cook.clone(), form.clone());
        async move { Ok::<Response, WebError>((StatusCode::UNPROCESSABLE_ENTITY, show_heat(&state, &cook, form, says).await?).into_response()) }
    };
    let Some(source) = HeatSource::find(&form.appliance) else {
        return refuse("Choose which appliance it is.".to_owned()).await;
    };
    let most = match read_heat(&typed) {
        _ if typed.is_empty() => None,
        Ok(most) if most > source.hottest() => {
            let says = format!("“{typed}” is hotter than any {} gets; up to {:.0} °C is allowed.", source.id(), source.hottest().in_c());
            return refuse(says).await;
        }
        Ok(most) => Some(most),
        Err(slip) => {
            let or = if slip.choices.is_empty() { String::new() } else { format!(" {}?", slip.choices.join(" or ")) };
            return refuse(format!("{}.{or}", crate::words::sentence(slip.says.trim_end_matches(['.', '?'])))).await;
        }
    };
    cook.kitchen(&state).set_appliance(source, most, state.now()).await?;
    Ok(Redirect::to("/kit#heat").into_response())
}
