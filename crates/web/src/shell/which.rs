//! A station without a piece: goes to the one that waits there, asks where several do, and says so where none does.

use super::{Rail, render};
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::words::day_wall;
use askama::Template;
use axum::response::{IntoResponse, Redirect, Response};
use jiff::ZonedDateTime;
use rauchkeller_store::Piece;

struct Line {
    href: String,
    name: String,
    sub: String,
}

#[derive(Template)]
#[template(path = "shell/which.html")]
struct WhichPage {
    rail: Rail,
    title: String,
    says: &'static str,
    lines: Vec<Line>,
    /// Pieces that were not looked at: too far away to be in sight.
    more: u64,
}

/// A station and how it speaks.
pub struct Station {
    /// Its hook on the rail.
    pub hook: &'static str,
    /// The last part of a piece's address there.
    pub page: &'static str,
    /// What stands above the pieces to choose from.
    pub which: &'static str,
    /// What stands there where none waits.
    pub none: &'static str,
    /// And what brings one here.
    pub says: &'static str,
}

/// To the piece that waits, or the choice.
pub fn which(station: &Station, cook: &SignedIn, now: &ZonedDateTime, waiting: &[&Piece], more: u64) -> Result<Response, WebError> {
    let href = |piece: &Piece| format!("/pieces/{}/{}", piece.id, station.page);
    if let [one] = waiting {
        return Ok(Redirect::to(&href(one)).into_response());
    }
    let line = |piece: &&Piece| Line {
        href: href(piece),
        name: piece.name.clone(),
        sub: format!("on the table {}", day_wall(piece.serve_at, now)),
    };
    let title = if waiting.is_empty() { station.none } else { station.which };
    render(&WhichPage {
        rail: Rail::at(station.hook, cook),
        title: title.to_owned(),
        says: station.says,
        lines: waiting.iter().map(line).collect(),
        more,
    })
}
