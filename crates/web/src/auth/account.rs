//! The cook's own page: change the password, end other sessions.

use super::Session;
use super::backend::User;
use super::browser::{self, Visitor};
use super::extract::SignedIn;
use super::hashing::{Whose, hash, verify};
use super::pages::begin_session;
use super::password::{LENGTH, wrong_with};
use crate::error::WebError;
use crate::shell::{Rail, render};
use crate::state::AppState;
use askama::Template;
use axum::Form;
use axum::extract::State;
use axum::http::StatusCode;
use axum::response::{IntoResponse, Response};
use rauchkeller_store::{Door, StoreError};
use serde::Deserialize;

#[derive(Template)]
#[template(path = "auth/account.html")]
struct AccountPage {
    rail: Rail,
    name: String,
    address: String,
    wrong_current: Option<String>,
    wrong_new: Option<String>,
    done: Option<&'static str>,
}

impl AccountPage {
    fn of(cook: &SignedIn) -> Self {
        Self {
            rail: Rail::at("account", cook),
            name: cook.0.name.clone(),
            address: cook.0.address.clone(),
            wrong_current: None,
            wrong_new: None,
            done: None,
        }
    }
}

/// The page.
pub async fn account(cook: SignedIn) -> Result<Response, WebError> {
    render(&AccountPage::of(&cook))
}

/// Both passwords.
#[derive(Deserialize, Default)]
#[serde(default)]
pub struct PasswordForm {
    current: String,
    password: String,
}

/// Changes the password; every other session and every known browser ends with it.
pub async fn change_password(
    State(state): State<AppState>,
    cook: SignedIn,
    mut session: Session,
    visitor: Visitor,
    Form(form): Form<PasswordForm>,
) -> Result<Response, WebError> {
    let mut page = AccountPage::of(&cook);
    let home = cook.0.household_name.clone();
    page.wrong_new = wrong_with(&form.password, &[&cook.0.address, &home, &cook.0.name]);
    if page.wrong_new.is_some() || form.current.chars().count() > *LENGTH.end() {
        page.wrong_current = (form.current.chars().count() > *LENGTH.end()).then(|| "That is longer than any password here.".into());
        return Ok((StatusCode::UNPROCESSABLE_ENTITY, render(&page)?).into_response());
    }
    // Whoever sits at a browser left open may guess no more often than at the door.
    let door = Door::Stranger { address: format!("change {}", cook.0.address) };
    let crowded = || "Too many people are at the door at once. Nothing was changed; send it again in a moment.".to_owned();
    let Some(tried) = state.store.begin_try(std::slice::from_ref(&door), state.now()).await? else {
        page.wrong_current = Some("Too many wrong tries. Wait a quarter of an hour, then try again.".into());
        return Ok((StatusCode::TOO_MANY_REQUESTS, render(&page)?).into_response());
    };
    match verify(Whose::Known, form.current, cook.0.password_hash.clone()).await {
        Ok(true) => state.store.take_back(tried).await?,
        Ok(false) => {
            page.wrong_current = Some("That is not the password you sign in with. Check it, capitals too.".into());
            return Ok((StatusCode::UNPROCESSABLE_ENTITY, render(&page)?).into_response());
        }
        Err(_) => {
            state.store.take_back(tried).await?;
            page.wrong_current = Some(crowded());
            return Ok((StatusCode::SERVICE_UNAVAILABLE, render(&page)?).into_response());
        }
    }
    let Ok(hash) = hash(Whose::Known, form.password).await else {
        page.wrong_new = Some(crowded());
        return Ok((StatusCode::SERVICE_UNAVAILABLE, render(&page)?).into_response());
    };
    state.store.change_password(cook.0.id, hash).await?;
    state.store.forget_browsers(cook.0.id).await?;
    page.done = Some("The password is changed, and every other session has ended.");
    go_on(&state, &cook, &mut session, visitor, page).await
}

/// Ends every session but this one.
pub async fn end_others(
    State(state): State<AppState>,
    cook: SignedIn,
    mut session: Session,
    visitor: Visitor,
) -> Result<Response, WebError> {
    state.store.end_all_sessions(cook.0.id).await?;
    let mut page = AccountPage::of(&cook);
    page.done = Some("Every other session has ended. This one goes on.");
    go_on(&state, &cook, &mut session, visitor, page).await
}

/// Begins this browser's session anew under what the cook is bound to now.
async fn go_on(
    state: &AppState,
    cook: &SignedIn,
    session: &mut Session,
    visitor: Visitor,
    page: AccountPage,
) -> Result<Response, WebError> {
    let fresh = state.store.cook(cook.0.id).await?.ok_or(WebError::Store(StoreError::NotFound))?;
    begin_session(session, &User::from(fresh)).await?;
    let mut response = render(&page)?;
    let known = state.store.door_of(&cook.0.address, visitor.token.as_deref()).await?;
    if !matches!(known, Door::Known { .. }) {
        let token = browser::new_token();
        state.store.know_browser(cook.0.id, &token, state.now()).await?;
        browser::remember(state, &token, &mut response);
    }
    Ok(response)
}
