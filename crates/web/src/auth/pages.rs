//! The door: sign-in, sign-up, sign-out, and the demo's one press.

use super::Session;
use super::backend::{Credentials, User};
use crate::error::WebError;
use crate::shell::render;
use crate::state::AppState;
use askama::Template;
use axum::Form;
use axum::extract::State;
use axum::http::StatusCode;
use axum::response::{IntoResponse, Redirect, Response};
use jiff::tz::TimeZone;
use rauchkeller_store::{SignUp, StoreError, hash_password};
use serde::Deserialize;

#[derive(Template, Default)]
#[template(path = "auth/sign_in.html")]
struct SignInPage {
    demo: bool,
    address: String,
    wrong: Option<String>,
}

#[derive(Template, Default)]
#[template(path = "auth/sign_up.html")]
struct SignUpPage {
    household: String,
    name: String,
    address: String,
    wrong_household: Option<String>,
    wrong_name: Option<String>,
    wrong_address: Option<String>,
    wrong_password: Option<String>,
}

/// Sign-in form.
#[derive(Deserialize, Default)]
#[serde(default)]
pub struct SignInForm {
    address: String,
    password: String,
}

/// Sign-up form.
#[derive(Deserialize, Default)]
#[serde(default)]
pub struct SignUpForm {
    household: String,
    name: String,
    address: String,
    password: String,
    time_zone: String,
}

/// Longest password taken; beyond it hashing would only burn time.
const LONGEST_PASSWORD: usize = 200;

pub async fn sign_in_page(State(state): State<AppState>) -> Result<Response, WebError> {
    render(&SignInPage { demo: state.settings.demo_cook.is_some(), ..Default::default() })
}

pub async fn sign_in(State(state): State<AppState>, mut session: Session, Form(form): Form<SignInForm>) -> Result<Response, WebError> {
    let address = form.address.trim().to_lowercase();
    let refuse = |status: StatusCode, wrong: &str| -> Result<Response, WebError> {
        let page = SignInPage { demo: state.settings.demo_cook.is_some(), address: form.address.clone(), wrong: Some(wrong.to_owned()) };
        Ok((status, render(&page)?).into_response())
    };
    if address.is_empty() || address.len() > 190 || form.password.is_empty() || form.password.len() > LONGEST_PASSWORD {
        return refuse(StatusCode::UNPROCESSABLE_ENTITY, "Type the address and the password you signed up with.");
    }
    if state.store.must_wait(&address, state.now()).await? {
        return refuse(StatusCode::TOO_MANY_REQUESTS, "Too many tries for this address. Wait a quarter of an hour, then try again.");
    }
    let credentials = Credentials { address: address.clone(), password: form.password.clone() };
    match session.authenticate(credentials).await {
        Ok(Some(user)) => {
            state.store.forget_failures(&address).await?;
            enter(&mut session, &user).await
        }
        Ok(None) => {
            state.store.note_failure(&address, state.now()).await?;
            refuse(StatusCode::UNPROCESSABLE_ENTITY, "Address and password do not belong together. Check both, capitals too.")
        }
        Err(error) => Err(WebError::Session(error.to_string())),
    }
}

async fn enter(session: &mut Session, user: &User) -> Result<Response, WebError> {
    session.login(user).await.map_err(|e| WebError::Session(e.to_string()))?;
    Ok(Redirect::to("/cellar").into_response())
}

pub async fn sign_up_page() -> Result<Response, WebError> {
    render(&SignUpPage::default())
}

/// A name of 1 to 60 characters, or what to do.
fn named(text: &str, what: &str) -> Option<String> {
    let length = text.trim().chars().count();
    (!(1..=60).contains(&length)).then(|| format!("{length} characters do not work here: 1 to 60. Give {what} a name."))
}

pub async fn sign_up(State(state): State<AppState>, mut session: Session, Form(form): Form<SignUpForm>) -> Result<Response, WebError> {
    let address = form.address.trim().to_lowercase();
    let mut page = SignUpPage {
        household: form.household.clone(),
        name: form.name.clone(),
        address: form.address.clone(),
        wrong_household: named(&form.household, "the kitchen"),
        wrong_name: named(&form.name, "the cook"),
        ..Default::default()
    };
    let looks_like_one = address.split_once('@').is_some_and(|(who, host)| !who.is_empty() && host.contains('.'));
    if !looks_like_one || address.len() > 190 || address.contains(char::is_whitespace) {
        page.wrong_address = Some("An address has an @ and a dot after it, like cook@example.org. It is only used to sign in.".into());
    }
    let length = form.password.chars().count();
    if length < 10 || form.password.len() > LONGEST_PASSWORD {
        page.wrong_password =
            Some(format!("{length} characters do not work here: 10 to {LONGEST_PASSWORD}. A short sentence is easy to keep in mind."));
    }
    if page.wrong_household.is_some() || page.wrong_name.is_some() || page.wrong_address.is_some() || page.wrong_password.is_some() {
        return Ok((StatusCode::UNPROCESSABLE_ENTITY, render(&page)?).into_response());
    }
    let Some(password_hash) = hash_password(form.password).await else {
        return Err(WebError::Session("password could not be hashed".into()));
    };
    let time_zone = if TimeZone::get(&form.time_zone).is_ok() { form.time_zone } else { "UTC".into() };
    let new = SignUp { household: form.household.trim().into(), time_zone, name: form.name.trim().into(), address, password_hash };
    match state.store.sign_up(new, state.now()).await {
        Ok(cook) => enter(&mut session, &User(cook)).await,
        Err(StoreError::AddressTaken) => {
            page.wrong_address = Some("This address already has a kitchen. Sign in with it, or take another.".into());
            Ok((StatusCode::CONFLICT, render(&page)?).into_response())
        }
        Err(error) => Err(error.into()),
    }
}

pub async fn sign_out(mut session: Session) -> Result<Response, WebError> {
    session.logout().await.map_err(|e| WebError::Session(e.to_string()))?;
    Ok(Redirect::to("/sign-in").into_response())
}

/// One press enters the demo kitchen; elsewhere there is no such door.
pub async fn enter_demo(State(state): State<AppState>, mut session: Session) -> Result<Response, WebError> {
    let address = state.settings.demo_cook.clone().ok_or(WebError::NotFound)?;
    let cook = state.store.cook_by_address(&address).await?.ok_or(WebError::NotFound)?;
    enter(&mut session, &User(cook)).await
}
