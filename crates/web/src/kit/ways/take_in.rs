//! A way as a file: given out, and taken in, where every line that is wrong is named.

use super::draft::{Draft, Fields, LONGEST};
use super::{Shelf, WayPage};
use crate::auth::SignedIn;
use crate::compute::compute;
use crate::error::WebError;
use crate::shell::{Rail, render};
use crate::state::AppState;
use crate::words::sentence;
use askama::Template;
use axum::extract::{Form, Path, State};
use axum::http::{HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Response};
use rauchkeller_contract::{line_of, read_way};
use rauchkeller_core::method::{Method, OWN, School};
use serde::Deserialize;
use serde_json::Value;

/// A file as it was pasted or chosen.
#[derive(Debug, Clone, Default, Deserialize)]
#[serde(default)]
pub struct TakenIn {
    text: String,
}

#[derive(Template)]
#[template(path = "kit/take_in.html")]
struct TakeInPage {
    rail: Rail,
    text: String,
    /// What is wrong, each with its line.
    wrong: Vec<(usize, String)>,
}

/// Most lines that are named at once.
const MOST_NAMED: usize = 20;

/// Where a file is taken in.
pub async fn take_in_page(cook: SignedIn) -> Result<Response, WebError> {
    render(&TakeInPage { rail: Rail::at("kit", &cook), text: String::new(), wrong: vec![] })
}

/// Reads a file: a sound one lies on its strip, to be looked over and kept; of a damaged one nothing is kept.
pub async fn take_in(State(state): State<AppState>, cook: SignedIn, Form(taken): Form<TakenIn>) -> Result<Response, WebError> {
    let text = taken.text;
    match read_file(&text) {
        Ok(method) => {
            let (shelf, now) = (Shelf::of(&state, &cook).await?, cook.now(&state));
            // It is this kitchen's own from now on, under an id of its own.
            let school = School { id: format!("{OWN}new").into(), ..School::clone(&method) };
            let draft = Draft::of(school, cook.system());
            let view = compute(move || super::WayView::of(&draft, &Fields::new(), &now, &shelf)).await?;
            render(&WayPage { rail: Rail::at("kit", &cook), view })
        }
        Err(wrong) => {
            let page = TakeInPage { rail: Rail::at("kit", &cook), text, wrong };
            Ok((StatusCode::UNPROCESSABLE_ENTITY, render(&page)?).into_response())
        }
    }
}

/// A document from its text; what is wrong with it, each with the line on which it stands.
fn read_file(text: &str) -> Result<Method, Vec<(usize, String)>> {
    if text.trim().is_empty() {
        return Err(vec![(1, "Nothing is there. Choose the file of a way, or paste its text.".into())]);
    }
    if text.len() > LONGEST {
        return Err(vec![(1, format!("It is {} kB long; a way is 36 kB at most.", text.len() / 1000))]);
    }
    let document: Value = serde_json::from_str(text).map_err(|error| {
        let says = format!(
            "This is no JSON from column {} on: {}.",
            error.column(),
            error.to_string().split(" at line").next().unwrap_or("it breaks off")
        );
        vec![(error.line().max(1), says)]
    })?;
    let method = read_way(&document).map_err(|problems| {
        let named = problems.iter().map(|problem| (line_of(text, &problem.field), sentence(&problem.sentence())));
        let mut wrong: Vec<(usize, String)> = named.collect();
        wrong.sort();
        wrong.dedup();
        wrong.truncate(MOST_NAMED);
        wrong
    })?;
    if Method::is_own(&method.id) {
        return Ok(method);
    }
    let says = format!("“{}” is the id of a method of this kitchen. One of your own begins with {OWN}, like own-sunday-belly.", method.id);
    Err(vec![(line_of(text, "id"), says)])
}

/// The file of a way that hangs in the Kit.
pub async fn give_out(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    let shelf = Shelf::of(&state, &cook).await?;
    let way = shelf.ways.iter().find(|way| way.kept.id.to_string() == id).ok_or(WebError::NotFound)?;
    let document: Value = serde_json::from_str(&way.kept.document).unwrap_or_default();
    let text = serde_json::to_string_pretty(&document).unwrap_or_default() + "\n";
    let name = format!("attachment; filename=\"{}.json\"", way.kept.way);
    let mut response = ([(header::CONTENT_TYPE, "application/json")], text).into_response();
    if let Ok(name) = HeaderValue::from_str(&name) {
        response.headers_mut().insert(header::CONTENT_DISPOSITION, name);
    }
    Ok(response)
}

#[cfg(test)]
mod tests {
    use super::*;
    use rauchkeller_contract::method_value;

    fn file() -> String {
        let ours = Method::find("open-air").unwrap().copied("own-sunday", "Sunday belly");
        serde_json::to_string_pretty(&method_value(&ours)).unwrap()
    }

    #[test]
    fn what_is_given_out_is_taken_in() {
        let read = read_file(&file()).unwrap();
        assert_eq!((read.id.as_ref(), read.name.as_ref()), ("own-sunday", "Sunday belly"));
    }

    /// Each thing that is wrong is named with the line on which it stands.
    #[test]
    fn a_damaged_file_is_refused_line_by_line() {
        let line = |text: &str, holds: &str| text.lines().position(|line| line.contains(holds)).unwrap() + 1;
        let damaged = file().replace("\"task\": \"salt\"", "\"task\": \"sugar\"").replace("\"version\": 1", "\"version\": \"one\"");
        let wrong = read_file(&damaged).unwrap_err();
        let lines: Vec<usize> = wrong.iter().map(|(line, _)| *line).collect();
        assert!(lines.contains(&line(&damaged, "sugar")) && lines.contains(&line(&damaged, "\"one\"")), "{wrong:?}");
        let broken = file().replacen(',', "", 3);
        assert_eq!(read_file(&broken).unwrap_err().len(), 1);
        let ours = file().replace("own-sunday", "open-air");
        assert_eq!(read_file(&ours).unwrap_err()[0].0, line(&ours, "\"id\": \"open-air\""));
        assert_eq!(read_file("  ").unwrap_err()[0].0, 1);
        assert_eq!(read_file("[]").unwrap_err().len(), 1);
    }
}
