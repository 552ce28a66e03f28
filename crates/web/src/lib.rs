//! # rauchkeller-web
//!
//! The server: one module a station, each with its routes, view model and template beside each
//! other. Handlers parse, call `core` through the contract, call the store, and render.

mod api;
mod assets;
mod auth;
mod bench;
mod book;
mod cellar;
mod compute;
mod draw;
mod error;
mod household;
mod kit;
mod knife;
mod live;
mod piece;
mod print;
mod refrigerator;
mod rest;
mod routes;
mod salt;
mod shell;
mod state;
mod to_its_end;
mod words;

pub use api::openapi;
pub use kit::new_token;
pub use piece::{PieceDraft, draft_piece, tick_begins};
pub use routes::router;
pub use state::{AppState, Settings};
