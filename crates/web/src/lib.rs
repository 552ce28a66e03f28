//! # rauchkeller-web
//!
//! The server: one module a station, each with its routes, view model and template beside each
//! other. Handlers parse, call `core` through the contract, call the store, and render.

mod api;
mod api_run;
mod arrive;
mod asker;
mod assets;
mod auth;
mod bench;
mod book;
mod cellar;
mod chill;
mod compute;
mod draw;
mod error;
mod heart;
mod household;
mod kit;
mod knife;
mod live;
mod piece;
mod place;
mod print;
mod refrigerator;
mod routes;
mod salt;
mod seats;
mod shell;
mod state;
mod to_its_end;
mod told;
mod turns;
mod words;

pub use api::openapi;
pub use heart::{BEAT, Heart};
pub use kit::new_token;
pub use piece::{Opened, PieceDraft, draft_piece, event};
pub use routes::router;
pub use state::{AppState, Settings};
pub use told::{Bells, watch_changes};
