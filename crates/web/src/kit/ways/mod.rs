//! Ways of one's own: copied from a school, changed row by row on their strip, tried on the piece of the Bench, kept with their versions.

mod draft;
mod strip;
mod take_in;

pub use take_in::{give_out, take_in, take_in_page};

use super::{Shelf, form_key};
use crate::auth::SignedIn;
use crate::bench::encode;
use crate::compute::compute;
use crate::error::WebError;
use crate::shell::{Partial, Rail, render};
use crate::state::AppState;
use crate::words::{day_wall, sentence};
use askama::Template;
use axum::extract::{Form, Path, Query, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Redirect, Response};
use draft::{Draft, Fields};
use rauchkeller_core::method::{Method, OWN, School};
use rauchkeller_store::{Added, NewWay, WayId, WayKept};
use serde::Deserialize;
use strip::WayView;
use uuid::Uuid;

#[derive(Template)]
#[template(path = "kit/way_page.html")]
struct WayPage {
    rail: Rail,
    view: WayView,
}

#[derive(Template)]
#[template(path = "kit/way.html")]
struct WayFragment {
    view: WayView,
}

/// From which method a new way is copied, and the Bench it is tried on.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct From {
    from: String,
    bench: String,
}

/// What an error says, as a sentence.
fn sentence_of(error: &impl std::fmt::Display) -> String {
    let said = sentence(&error.to_string());
    if said.ends_with(['.', '?']) { said } else { format!("{said}.") }
}

/// A copy of a method, to be changed; nothing is kept by it.
pub async fn copy(State(state): State<AppState>, cook: SignedIn, Query(asked): Query<From>) -> Result<Response, WebError> {
    let shelf = Shelf::of(&state, &cook).await?;
    let method = shelf.method(&asked.from).ok_or(WebError::NotFound)?;
    let name = free_name(&method, &shelf);
    let school = method.copied(format!("{OWN}new"), name);
    let fields = Fields::from_iter([("bench".to_owned(), asked.bench)]);
    show(&state, &cook, shelf, Draft::of(school, cook.system()), fields, Vec::new()).await
}

/// `our open-air`, or the next number of it where that hangs already.
fn free_name(method: &School, shelf: &Shelf) -> String {
    let bare = method.name.strip_prefix("our ").unwrap_or(&method.name);
    let taken = |name: &str| shelf.ways.iter().any(|way| way.kept.name.eq_ignore_ascii_case(name));
    let numbered = (2..).map(|n| format!("our {bare} {n}"));
    std::iter::once(format!("our {bare}")).chain(numbered).find(|name| !taken(name)).unwrap_or_default()
}

/// A way of the Kit, to be changed.
pub async fn page(
    State(state): State<AppState>,
    cook: SignedIn,
    Path(id): Path<String>,
    Query(asked): Query<From>,
) -> Result<Response, WebError> {
    let shelf = Shelf::of(&state, &cook).await?;
    let way = shelf.ways.iter().find(|way| way.kept.id.to_string() == id).ok_or(WebError::NotFound)?;
    let document = serde_json::from_str(&way.kept.document).unwrap_or_default();
    let school = rauchkeller_contract::read_draft(&document).ok_or(WebError::NotFound)?;
    let now = cook.now(&state);
    let kept = cook.kitchen(&state).way_versions(way.kept.id).await?;
    let versions = kept.into_iter().map(|kept| (kept.version, day_wall(kept.kept_at, &now))).collect();
    let seen = way.kept.version.to_string();
    let fields = Fields::from_iter([("bench".to_owned(), asked.bench), ("id".to_owned(), id), ("seen".to_owned(), seen)]);
    show(&state, &cook, shelf, Draft::of(school, cook.system()), fields, versions).await
}

async fn show(
    state: &AppState,
    cook: &SignedIn,
    shelf: Shelf,
    draft: Draft,
    fields: Fields,
    versions: Vec<(i32, String)>,
) -> Result<Response, WebError> {
    let now = cook.now(state);
    let mut view = compute(move || WayView::of(&draft, &fields, &now, &shelf)).await?;
    view.versions = versions;
    render(&WayPage { rail: Rail::at("kit", cook), view })
}

/// One change of a way that is on the page: nothing is kept by it.
pub async fn change(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Form(fields): Form<Fields>,
) -> Result<Response, WebError> {
    let (shelf, now) = (Shelf::of(&state, &cook).await?, cook.now(&state));
    let read = compute(move || Draft::read(&fields, &shelf).map(|draft| WayView::of(&draft, &fields, &now, &shelf))).await?;
    let view = read.ok_or(WebError::NotFound)?;
    if partial.0 { render(&WayFragment { view }) } else { render(&WayPage { rail: Rail::at("kit", &cook), view }) }
}

/// Hangs a way into the Kit.
pub async fn add(State(state): State<AppState>, cook: SignedIn, Form(fields): Form<Fields>) -> Result<Response, WebError> {
    keep(&state, &cook, None, fields).await
}

/// Keeps a way anew, over the version this cook saw.
pub async fn keep_anew(
    State(state): State<AppState>,
    cook: SignedIn,
    Path(id): Path<String>,
    Form(fields): Form<Fields>,
) -> Result<Response, WebError> {
    let id = Uuid::parse_str(&id).map_err(|_| WebError::NotFound)?;
    keep(&state, &cook, Some(WayId(id)), fields).await
}

async fn keep(state: &AppState, cook: &SignedIn, over: Option<WayId>, fields: Fields) -> Result<Response, WebError> {
    let (shelf, now) = (Shelf::of(state, cook).await?, cook.now(state));
    // Pressing Keep presses nothing else.
    let fields = fields.into_iter().filter(|(name, _)| name != "do").collect::<Fields>();
    let read = compute(move || {
        let draft = Draft::read(&fields, &shelf)?;
        let view = WayView::of(&draft, &fields, &now, &shelf);
        Some((draft, view))
    });
    let (draft, mut view) = read.await?.ok_or(WebError::NotFound)?;
    let mut status = StatusCode::UNPROCESSABLE_ENTITY;
    if view.sound {
        let kitchen = cook.kitchen(state);
        let name = draft.school.name.trim().to_owned();
        if let Some(id) = over {
            let seen = view.seen;
            let school = School { version: seen.unsigned_abs() + 1, ..draft.school };
            let document = rauchkeller_contract::method_value(&school).to_string();
            let new = NewWay { name: &name, way: &school.id, document: &document };
            match kitchen.keep_way(id, seen, new, cook.0.id, state.now()).await? {
                WayKept::Version(_) => return Ok(Redirect::to(&on_the_bench(&view.bench, &school.id)).into_response()),
                WayKept::NameTaken => view.name_slip = Some(NAME_TAKEN.into()),
                WayKept::Changed => {
                    status = StatusCode::CONFLICT;
                    view.says.push(strip::Said {
                        severity: "red".into(),
                        text: "Another cook of this kitchen kept this way meanwhile, or took it out. Nothing of yours is kept yet, and nothing of theirs is lost: \
                               open it anew and see what they changed, or keep yours beside it under another name."
                            .into(),
                    });
                    view.id.clear();
                    view.key = form_key("");
                }
            }
        } else {
            let way = free_id(&kitchen, &name).await?;
            let school = School { id: way.into(), version: 1, ..draft.school };
            let document = rauchkeller_contract::method_value(&school).to_string();
            let new = NewWay { name: &name, way: &school.id, document: &document };
            match kitchen.add_way(&view.key, new, cook.0.id, state.now()).await? {
                Added::Created(_) => return Ok(Redirect::to(&on_the_bench(&view.bench, &school.id)).into_response()),
                Added::AlreadyExists(_) => return Ok(Redirect::to("/kit#ways").into_response()),
                Added::NameTaken => view.name_slip = Some(NAME_TAKEN.into()),
                Added::Full => view.name_slip = Some("Your Kit holds a hundred ways, the most it can. Take one out first.".into()),
            }
        }
    }
    Ok((status, render(&WayPage { rail: Rail::at("kit", cook), view })?).into_response())
}

const NAME_TAKEN: &str = "A way of that name hangs in your Kit already. Choose another name, or take the old one out first.";

/// The Bench with this way in its sentence.
fn on_the_bench(bench: &str, way: &str) -> String {
    let bench = crate::bench::BenchForm::at(bench);
    crate::bench::BenchForm { method: way.to_owned(), ..bench }.address()
}

/// `own-sunday-belly`: the name in small letters, with a number where that id was ever given here.
async fn free_id(kitchen: &rauchkeller_store::Kitchen<'_>, name: &str) -> Result<String, WebError> {
    let slug = slug(name);
    for n in 1..=MOST_ALIKE {
        let id = if n == 1 { format!("{OWN}{slug}") } else { format!("{OWN}{slug}-{n}") };
        if Method::is_own(&id) && !kitchen.knows_way(&id).await? {
            return Ok(id);
        }
    }
    Ok(format!("{OWN}{}", Uuid::now_v7()))
}

/// So many ways may be called alike before an id is drawn.
const MOST_ALIKE: u32 = 20;

/// Small letters and figures with single hyphens; `way` where nothing of the name is left.
fn slug(name: &str) -> String {
    let plain: String = name.to_lowercase().chars().map(|c| if c.is_ascii_alphanumeric() { c } else { ' ' }).collect();
    let slug: String = plain.split_whitespace().collect::<Vec<_>>().join("-").chars().take(40).collect();
    let slug = slug.trim_matches('-');
    if slug.is_empty() { "way".to_owned() } else { slug.to_owned() }
}

/// The address of a copy of a method, tried on a Bench.
pub fn copy_address(method: &str, bench: &str) -> String {
    format!("/kit/ways/new?from={}&bench={}", encode(method), encode(bench))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn ids_are_made_of_names() {
        for (name, id) in [("Sunday belly", "sunday-belly"), ("  Omas  Ente, 2! ", "omas-ente-2"), ("жар", "way"), ("-", "way")] {
            assert_eq!(slug(name), id);
            assert!(Method::is_own(&format!("{OWN}{id}")));
        }
        assert!(slug(&"long ".repeat(40)).len() <= 40);
    }

    #[test]
    fn a_copy_is_called_by_a_name_that_is_free() {
        let method = Method::find("open-air").unwrap();
        assert_eq!(free_name(&method, &Shelf::default()), "our open-air");
        assert_eq!(free_name(&method.copied("own-x", "our open-air"), &Shelf::default()), "our open-air");
    }
}
