//! The door: sign-in, sign-up, sign-out, and the demo's one press.

use super::Session;
use super::backend::{BackendError, Credentials, User};
use super::browser::{self, Visitor};
use super::hashing::{Whose, at_the_door, hash};
use super::password::{LENGTH, wrong_with};
use crate::error::WebError;
use crate::household::{zone_of, zones};
use crate::shell::render;
use crate::state::AppState;
use askama::Template;
use axum::Form;
use axum::extract::State;
use axum::http::StatusCode;
use axum::response::{IntoResponse, Redirect, Response};
use axum_login::Error as AuthError;
use rauchkeller_store::{Door, SignUp, StoreError};
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
    time_zone: String,
    zones: Vec<String>,
    wrong_zone: Option<String>,
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

pub async fn sign_in_page(State(state): State<AppState>) -> Result<Response, WebError> {
    render(&SignInPage { demo: state.settings.demo_cook.is_some(), ..Default::default() })
}

const TOO_MANY: &str = "Too many wrong tries. Wait a quarter of an hour, then try again; a browser you have signed in with before is not shut out by others’ tries.";
const CROWDED: &str = "Too many people are at the door at once. Nothing was tried; send it again in a moment.";

pub async fn sign_in(
    State(state): State<AppState>,
    mut session: Session,
    visitor: Visitor,
    Form(form): Form<SignInForm>,
) -> Result<Response, WebError> {
    let address = form.address.trim().to_lowercase();
    let refuse = |status: StatusCode, wrong: &str| -> Result<Response, WebError> {
        let page = SignInPage { demo: state.settings.demo_cook.is_some(), address: form.address.clone(), wrong: Some(wrong.to_owned()) };
        Ok((status, render(&page)?).into_response())
    };
    let length = form.password.chars().count();
    if address.is_empty() || address.len() > 190 || length == 0 || length > *LENGTH.end() {
        return refuse(StatusCode::UNPROCESSABLE_ENTITY, "Type the address and the password you signed up with.");
    }
    let Ok(_seat) = at_the_door() else { return refuse(StatusCode::SERVICE_UNAVAILABLE, CROWDED) };
    let door = state.store.door_of(&address, visitor.token.as_deref()).await?;
    let doors = [door.clone(), Door::Place { from: visitor.place.clone() }];
    let Some(tried) = state.store.begin_try(&doors, state.now()).await? else {
        return refuse(StatusCode::TOO_MANY_REQUESTS, TOO_MANY);
    };
    let known = matches!(door, Door::Known { .. });
    let whose = if known { Whose::Known } else { Whose::Stranger };
    let credentials = Credentials { address: address.clone(), password: form.password.clone(), whose };
    match session.authenticate(credentials).await {
        Ok(Some(user)) => {
            state.store.take_back(tried).await?;
            state.store.forget_tries(&door).await?;
            enter(&state, &mut session, &user, !known).await
        }
        Ok(None) => {
            refuse(StatusCode::UNPROCESSABLE_ENTITY, "Email address and password do not belong together. Check both, capitals too.")
        }
        Err(AuthError::Backend(BackendError::Crowded(_))) => {
            state.store.take_back(tried).await?;
            refuse(StatusCode::SERVICE_UNAVAILABLE, CROWDED)
        }
        Err(error) => {
            state.store.take_back(tried).await?;
            Err(WebError::Session(error.to_string()))
        }
    }
}

/// Begins a session under a new id, whatever session the browser brought along, and remembers the browser.
async fn enter(state: &AppState, session: &mut Session, user: &User, new_browser: bool) -> Result<Response, WebError> {
    begin_session(session, user).await?;
    let mut response = Redirect::to("/cellar").into_response();
    if new_browser {
        let token = browser::new_token();
        state.store.know_browser(user.cook.id, &token, state.now()).await?;
        browser::remember(state, &token, &mut response);
    }
    Ok(response)
}

/// A session somebody planted, signed in or not, must not become the cook's: what was there ends, and the id is new.
pub(super) async fn begin_session(session: &mut Session, user: &User) -> Result<(), WebError> {
    let failed = |e: &dyn std::fmt::Display| WebError::Session(e.to_string());
    if session.session.id().is_some() {
        session.session.flush().await.map_err(|e| failed(&e))?;
    }
    session.session.cycle_id().await.map_err(|e| failed(&e))?;
    session.login(user).await.map_err(|e| failed(&e))
}

pub async fn sign_up_page() -> Result<Response, WebError> {
    render(&SignUpPage { zones: zones(), ..Default::default() })
}

/// A cook who comes in: what they typed.
#[derive(Debug, Clone, Deserialize, Default)]
#[serde(default)]
pub struct NewCook {
    /// What they want to be called.
    pub name: String,
    /// Sign-in address.
    pub address: String,
    /// As typed; never shown again.
    pub password: String,
}

/// What is wrong with name, address and password.
pub fn wrong_with_cook(cook: &NewCook, household: &str) -> [Option<String>; 3] {
    let address = cook.address.trim().to_lowercase();
    let looks_like_one = address.split_once('@').is_some_and(|(who, host)| !who.is_empty() && host.contains('.'));
    let hidden = || "That address holds a letter nobody can see. Type it anew, without pasting it.".to_owned();
    let wrong_address = (!looks_like_one || address.len() > 190 || address.contains(char::is_whitespace))
        .then(|| "An address has an @ and a dot after it, like cook@example.org. It is only used to sign in.".to_owned());
    let wrong_address = if address.contains(unseen) { Some(hidden()) } else { wrong_address };
    let wrong_password = wrong_with(&cook.password, &[&address, household.trim(), cook.name.trim()]);
    [named(&cook.name, "the cook"), wrong_address, wrong_password]
}

/// Begins the session of a cook who has just come in.
pub async fn enter_as(state: &AppState, session: &mut Session, cook: rauchkeller_store::Cook) -> Result<Response, WebError> {
    enter(state, session, &User::from(cook), true).await
}

/// Letters that nobody sees: two addresses that look the same must be the same.
fn unseen(letter: char) -> bool {
    let format = ['\u{ad}', '\u{61c}', '\u{180e}', '\u{feff}'];
    letter.is_control()
        || format.contains(&letter)
        || matches!(letter, '\u{200b}'..='\u{200f}' | '\u{202a}'..='\u{202e}' | '\u{2060}'..='\u{206f}')
}

/// A name of 1 to 60 characters, or what to do.
fn named(text: &str, what: &str) -> Option<String> {
    if text.contains(unseen) {
        return Some(format!("That holds a letter nobody can see. Type {what}’s name anew, without pasting it."));
    }
    let length = text.trim().chars().count();
    (!(1..=60).contains(&length)).then(|| {
        if length == 0 {
            format!("Give {what} a name.")
        } else {
            format!("Give {what} a name of at most 60 characters; this one has {length}.")
        }
    })
}

pub async fn sign_up(
    State(state): State<AppState>,
    mut session: Session,
    visitor: Visitor,
    Form(form): Form<SignUpForm>,
) -> Result<Response, WebError> {
    let address = form.address.trim().to_lowercase();
    let mut page = SignUpPage {
        household: form.household.clone(),
        name: form.name.clone(),
        address: form.address.clone(),
        time_zone: form.time_zone.clone(),
        zones: zones(),
        wrong_household: named(&form.household, "the kitchen"),
        ..Default::default()
    };
    let cook = NewCook { name: form.name.clone(), address: form.address.clone(), password: form.password.clone() };
    [page.wrong_name, page.wrong_address, page.wrong_password] = wrong_with_cook(&cook, &form.household);
    let zone = zone_of(&form.time_zone);
    let wrong = [&page.wrong_household, &page.wrong_name, &page.wrong_address, &page.wrong_password].into_iter().any(Option::is_some);
    let time_zone = match zone {
        Ok(zone) if !wrong => zone,
        zone => {
            page.wrong_zone = zone.err();
            return Ok((StatusCode::UNPROCESSABLE_ENTITY, render(&page)?).into_response());
        }
    };
    let mut refuse = |status: StatusCode, wrong: &str| -> Result<Response, WebError> {
        page.wrong_address = Some(wrong.to_owned());
        Ok((status, render(&page)?).into_response())
    };
    let Ok(_seat) = at_the_door() else { return refuse(StatusCode::SERVICE_UNAVAILABLE, CROWDED) };
    // Counted and never taken back: kitchens cost a hash and rows each.
    if state.store.begin_try(&[Door::SignUp { from: visitor.place.clone() }], state.now()).await?.is_none() {
        return refuse(
            StatusCode::TOO_MANY_REQUESTS,
            "Many kitchens were set up from here just now. Wait a quarter of an hour, then try again.",
        );
    }
    let Ok(password_hash) = hash(Whose::Stranger, form.password).await else {
        return refuse(StatusCode::SERVICE_UNAVAILABLE, CROWDED);
    };
    let new = SignUp { household: form.household.trim().into(), time_zone, name: form.name.trim().into(), address, password_hash };
    match state.store.sign_up(new, state.now()).await {
        Ok(cook) => enter(&state, &mut session, &User::from(cook), true).await,
        Err(StoreError::AddressTaken) => {
            refuse(StatusCode::CONFLICT, "This address already has a kitchen. Sign in with it, or take another.")
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
    enter(&state, &mut session, &User::from(cook), false).await
}
