//! The Cellar: what is next, across all kept pieces, and the journey board.

mod view;

use crate::auth::SignedIn;
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
    let pieces = kitchen.in_the_cellar().await?.into_iter().map(|piece| Opened::of(piece, fridge)).collect::<Result<Vec<_>, _>>()?;
    let view = CellarView::of(&pieces, &cook.now(&state));
    if partial.0 { render(&CellarFragment { view }) } else { render(&CellarPage { rail: Rail::at("cellar", &cook), view }) }
}
