//! Coming in by an invitation: a name, an address and a password, in a kitchen that stands already.

use crate::auth::{NewCook, Session, Visitor, Whose, at_the_door, enter_as, hash, wrong_with_cook};
use crate::error::WebError;
use crate::shell::render;
use crate::state::AppState;
use askama::Template;
use axum::extract::{Form, Path, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Response};
use rauchkeller_store::{Door, Joined, Newcomer};

#[derive(Template, Default)]
#[template(path = "household/join.html")]
struct JoinPage {
    token: String,
    household: String,
    by: String,
    /// Whether the link opens anything.
    open: bool,
    cook: NewCook,
    wrong_name: Option<String>,
    wrong_address: Option<String>,
    wrong_password: Option<String>,
}

impl JoinPage {
    async fn of(state: &AppState, token: &str) -> Result<Self, WebError> {
        let invited = state.store.invited(token, state.now()).await?;
        Ok(match invited {
            Some(invited) => Self { token: token.to_owned(), household: invited.household, by: invited.by, open: true, ..Self::default() },
            None => Self::default(),
        })
    }

    fn answer(&self) -> Result<Response, WebError> {
        let status = if self.open { StatusCode::OK } else { StatusCode::GONE };
        Ok((status, render(self)?).into_response())
    }
}

/// The page a link opens.
pub async fn join_page(State(state): State<AppState>, Path(token): Path<String>) -> Result<Response, WebError> {
    JoinPage::of(&state, &token).await?.answer()
}

const CROWDED: &str = "Too many people are at the door at once. Nothing was made; send it again in a moment.";

/// Comes in.
pub async fn join(
    State(state): State<AppState>,
    mut session: Session,
    visitor: Visitor,
    Path(token): Path<String>,
    Form(cook): Form<NewCook>,
) -> Result<Response, WebError> {
    let mut page = JoinPage::of(&state, &token).await?;
    if !page.open {
        return page.answer();
    }
    [page.wrong_name, page.wrong_address, page.wrong_password] = wrong_with_cook(&cook, &page.household);
    let slipped = page.wrong_name.is_some() || page.wrong_address.is_some() || page.wrong_password.is_some();
    let password = cook.password.clone();
    page.cook = NewCook { password: String::new(), ..cook };
    if slipped {
        return Ok((StatusCode::UNPROCESSABLE_ENTITY, render(&page)?).into_response());
    }
    let mut refuse = |status: StatusCode, wrong: &str| -> Result<Response, WebError> {
        page.wrong_address = Some(wrong.to_owned());
        Ok((status, render(&page)?).into_response())
    };
    let Ok(_seat) = at_the_door() else { return refuse(StatusCode::SERVICE_UNAVAILABLE, CROWDED) };
    if state.store.begin_try(&[Door::SignUp { from: visitor.place.clone() }], state.now()).await?.is_none() {
        return refuse(StatusCode::TOO_MANY_REQUESTS, "Many cooks came in from here just now. Wait a quarter of an hour, then try again.");
    }
    let Ok(password_hash) = hash(Whose::Stranger, password).await else {
        return refuse(StatusCode::SERVICE_UNAVAILABLE, CROWDED);
    };
    let new = Newcomer { name: page.cook.name.trim().into(), address: page.cook.address.trim().to_lowercase(), password_hash };
    match state.store.join(&token, new, state.now()).await? {
        Joined::In(cook) => enter_as(&state, &mut session, *cook).await,
        Joined::AddressTaken => {
            page.wrong_address = Some("This address has a kitchen already. Take another one for this kitchen.".into());
            Ok((StatusCode::CONFLICT, render(&page)?).into_response())
        }
        Joined::Full => {
            page.wrong_address = Some("Twenty cooks share this kitchen, the most it can hold.".into());
            Ok((StatusCode::CONFLICT, render(&page)?).into_response())
        }
        Joined::Closed => JoinPage::default().answer(),
    }
}
