//! The Cellar: what is next, across all kept pieces, and the journey board.

mod view;

use crate::auth::SignedIn;
use crate::compute::compute;
use crate::error::WebError;
use crate::piece::Opened;
use crate::shell::{Partial, Rail, render};
use crate::state::AppState;
use askama::Template;
use axum::extract::State;
use axum::response::Response;
use view::CellarView;

#[derive(Template)]
#[template(path = "cellar/page.html")]
struct CellarPage {
    rail: Rail,
    view: CellarView,
}

#[derive(Template)]
#[template(path = "cellar/cellar.html")]
struct CellarFragment {
    view: CellarView,
}

/// The board; asked again every minute while it is open.
pub async fn page(State(state): State<AppState>, cook: SignedIn, partial: Partial) -> Result<Response, WebError> {
    let kitchen = cook.kitchen(&state);
    let fridge = kitchen.refrigerator().await?;
    let (mut pieces, mut unread) = (Vec::new(), Vec::new());
    for piece in kitchen.in_the_cellar().await? {
        match Opened::of(piece, fridge) {
            Ok(opened) => pieces.push(opened.in_units(cook.system())),
            Err(why) => unread.push(*why),
        }
    }
    let now = cook.now(&state);
    let view = compute(move || CellarView::of(&pieces, &unread, &now)).await?;
    if partial.0 { render(&CellarFragment { view }) } else { render(&CellarPage { rail: Rail::at("cellar", &cook), view }) }
}
