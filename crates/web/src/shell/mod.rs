//! What surrounds every station: the rail, rendering, home.

mod partial;
mod which;

pub use partial::Partial;
pub use which::{Station, which};

use crate::asker::Asker;
use crate::auth::{MaybeCook, SignedIn};
use crate::error::{WebError, failure_page};
use crate::words::page_in_units;
use askama::Template;
use axum::http::{StatusCode, header};
use axum::response::{Html, IntoResponse, Redirect, Response};

/// The rail above every page.
#[derive(Debug, Clone)]
pub struct Rail {
    /// Which hook is lit: `bench`, `cellar`, `book`, or none.
    pub here: &'static str,
    /// Whose kitchen.
    pub kitchen: String,
}

impl Rail {
    /// The rail of a signed-in cook.
    pub fn at(here: &'static str, cook: &SignedIn) -> Self {
        Self { here, kitchen: cook.0.household_name.clone() }
    }
}

/// Address of a shipped file; askama calls it from templates.
pub fn asset(path: &str) -> String {
    crate::assets::link(path)
}

/// Room for the largest pages, bytes: one that grows as it is written is copied again and again.
const PAGE: usize = 96 * 1024;

/// Renders a template as a page that no cache keeps and that differs for htmx.
pub fn render(template: &impl Template) -> Result<Response, WebError> {
    let headers = [(header::CACHE_CONTROL, "no-store"), (header::VARY, "HX-Request, HX-Request-Type")];
    let mut page = String::with_capacity(PAGE);
    template.render_into(&mut page)?;
    Ok((headers, Html(page_in_units(&page, Asker::now().system()))).into_response())
}

/// The Cellar is home; strangers meet the door.
pub async fn home(MaybeCook(cook): MaybeCook) -> Redirect {
    Redirect::to(if cook.is_some() { "/cellar" } else { "/sign-in" })
}

/// Nothing at this address.
pub async fn not_found() -> Response {
    failure_page(StatusCode::NOT_FOUND)
}
