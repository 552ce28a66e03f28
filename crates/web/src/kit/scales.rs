//! Scales: a name and a token. The token is shown once; only its hash is kept.

use super::page::{show, show_pairing};
use super::{form_key, number};
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::state::AppState;
use axum::extract::{Form, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Redirect, Response};
use rauchkeller_store::{Added, CodeTyped, Door, token_hash};
use serde::Deserialize;
use uuid::Uuid;

/// The form as typed.
#[derive(Debug, Clone, Default, Deserialize)]
#[serde(default)]
pub struct ScaleForm {
    pub name: String,
    pub fineness: String,
    /// Key of this form, so that sending it twice hangs one scale.
    pub key: String,
}

/// A token nobody can guess: 244 random bits.
pub fn new_token() -> String {
    format!("rk_{}{}", Uuid::new_v4().simple(), Uuid::new_v4().simple())
}

/// A code as typed.
#[derive(Debug, Clone, Default, Deserialize)]
#[serde(default)]
pub struct CodeForm {
    pub code: String,
}

/// Takes the scale that shows this code into the Kit.
pub async fn pair_scale(State(state): State<AppState>, cook: SignedIn, Form(form): Form<CodeForm>) -> Result<Response, WebError> {
    let typed: String = form.code.trim().chars().take(20).collect();
    let refuse = |status: StatusCode, says: String| {
        let (state, cook, typed) = (state.clone(), cook.clone(), typed.clone());
        async move {
            let page = show_pairing(&state, &cook, typed, says).await?;
            Ok::<Response, WebError>((status, page).into_response())
        }
    };
    let letters = typed.chars().filter(char::is_ascii_alphanumeric).count();
    if letters != 6 {
        let says = format!("“{typed}” is no code: it has six letters and figures, like K7M 4Q2. It stands on the scale’s own page.");
        return refuse(StatusCode::UNPROCESSABLE_ENTITY, says).await;
    }
    let Some(tried) = state.store.begin_try(&[Door::Code { cook: cook.0.id }], state.now()).await? else {
        let says = "Too many codes that no scale shows. Wait a quarter of an hour, then try again.".to_owned();
        return refuse(StatusCode::TOO_MANY_REQUESTS, says).await;
    };
    match cook.kitchen(&state).type_code(&typed, state.now()).await? {
        CodeTyped::Paired(..) => {
            state.store.take_back(tried).await?;
            Ok(Redirect::to("/kit#scales").into_response())
        }
        CodeTyped::Unknown => {
            let says =
                format!("No scale shows “{typed}” just now. A code is good for ten minutes; look at the scale’s page for the newest one.");
            refuse(StatusCode::UNPROCESSABLE_ENTITY, says).await
        }
        CodeTyped::Full => {
            let says = "Your Kit holds twenty scales, the most it can. Take one out first.".to_owned();
            refuse(StatusCode::CONFLICT, says).await
        }
    }
}

/// The most a kitchen scale bears, g.
const CAPACITY_G: f64 = 5000.0;

/// Hangs a scale into the Kit and shows its token, this once.
pub async fn add_scale(State(state): State<AppState>, cook: SignedIn, Form(form): Form<ScaleForm>) -> Result<Response, WebError> {
    let name = form.name.trim();
    let fineness = number(&form.fineness, "g").filter(|g| (0.01..=5.0).contains(g));
    let slip = if name.is_empty() || name.chars().count() > 60 {
        Some("A scale needs a name of 1 to 60 letters, like bench scale.".to_owned())
    } else if fineness.is_none() {
        let typed: String = form.fineness.trim().chars().take(40).collect();
        Some(format!("“{typed}” is no fineness; between 0.01 and 5 g is allowed. Write the smallest step it shows, like 1 or 0.1 g."))
    } else {
        None
    };
    let (Some(step), None) = (fineness, &slip) else {
        let page = show(&state, &cook, None, slip, Some(form)).await?;
        return Ok((StatusCode::UNPROCESSABLE_ENTITY, page).into_response());
    };
    let token = new_token();
    let kitchen = cook.kitchen(&state);
    let slip = match kitchen.add_scale(&form_key(&form.key), name, step, CAPACITY_G, token_hash(&token), state.now()).await? {
        Added::Created(_) => return show(&state, &cook, Some(token), None, None).await,
        Added::AlreadyExists(_) => {
            "This scale hangs here already, and its token was shown then. If nobody wrote it down, take the scale out and hang it up anew."
        }
        Added::Full => "Your Kit holds twenty scales, the most it can. Take one out first.",
        Added::NameTaken => "That did not work; send it once more.",
    };
    Ok((StatusCode::CONFLICT, show(&state, &cook, None, Some(slip.to_owned()), Some(form)).await?).into_response())
}

/// Gives a program a token to note with, shown this once.
pub async fn add_program(state: &AppState, cook: &SignedIn, name: &str, key: &str) -> Result<Response, WebError> {
    let name = name.trim();
    let refuse = async |status: StatusCode, says: String| {
        let page = super::page::show_program(state, cook, name.to_owned(), Some(says), None).await?;
        Ok::<Response, WebError>((status, page).into_response())
    };
    if name.is_empty() || name.chars().count() > 60 {
        let says = "A token needs a name of 1 to 60 letters, so that you know later what it is for.".to_owned();
        return refuse(StatusCode::UNPROCESSABLE_ENTITY, says).await;
    }
    let token = new_token();
    match cook.kitchen(state).add_program(&form_key(key), name, token_hash(&token), state.now()).await? {
        Added::Created(_) => super::page::show_program(state, cook, String::new(), None, Some(token)).await,
        Added::AlreadyExists(_) => {
            let says = "This token was made already, and shown then. If nobody wrote it down, take it out and make a new one.".to_owned();
            refuse(StatusCode::CONFLICT, says).await
        }
        Added::Full | Added::NameTaken => {
            refuse(StatusCode::CONFLICT, "Your Kit holds twenty scales and tokens, the most it can. Take one out first.".to_owned()).await
        }
    }
}
