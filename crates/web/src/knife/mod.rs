//! The Knife station of a piece: where to cut or pierce, how deep, with which tool, how long it takes.

mod form;
mod view;

use crate::auth::SignedIn;
use crate::draw::{FaceSize, draw_face};
use crate::error::WebError;
use crate::piece::open;
use crate::shell::{Partial, Rail, render};
use crate::state::AppState;
use askama::Template;
use axum::extract::{Path, Query, State};
use axum::http::{HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Response};
use form::KnifeForm;
use view::KnifeView;

#[derive(Template)]
#[template(path = "knife/page.html")]
struct KnifePage {
    rail: Rail,
    view: KnifeView,
}

#[derive(Template)]
#[template(path = "knife/knife.html")]
struct KnifeFragment {
    view: KnifeView,
}

/// The station; its state is in the address.
pub async fn page(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path(id): Path<String>,
    Query(form): Query<KnifeForm>,
) -> Result<Response, WebError> {
    let opened = open(&state, &cook, &id).await?;
    let address = form.address(&id);
    let view = KnifeView::of(&opened, form);
    if !partial.0 {
        return render(&KnifePage { rail: Rail::at("cellar", &cook), view });
    }
    let mut response = render(&KnifeFragment { view })?;
    if let Ok(address) = HeaderValue::from_str(&address) {
        response.headers_mut().insert("HX-Replace-Url", address);
    }
    Ok(response)
}

/// The same face as a sheet, one millimetre to the millimetre.
pub async fn sheet(
    State(state): State<AppState>,
    cook: SignedIn,
    Path(id): Path<String>,
    Query(form): Query<KnifeForm>,
) -> Result<Response, WebError> {
    let opened = open(&state, &cook, &id).await?;
    let Some(cut) = form.cut(&opened.plan) else { return Ok(StatusCode::UNPROCESSABLE_ENTITY.into_response()) };
    let svg = draw_face(&cut.outline, &cut.work(), FaceSize::OneToOne, &opened.piece.name);
    let headers = [(header::CONTENT_TYPE, "image/svg+xml"), (header::CONTENT_DISPOSITION, "attachment; filename=\"face.svg\"")];
    Ok((headers, svg).into_response())
}
