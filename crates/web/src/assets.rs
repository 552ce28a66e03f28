//! Files shipped inside the binary: script, style, fonts.

use axum::extract::Path;
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use rust_embed::RustEmbed;

#[derive(RustEmbed)]
#[folder = "assets/"]
struct Assets;

/// Serves a shipped file. Pages link it with its hash, so that it may be kept for a year.
pub async fn asset(Path(path): Path<String>) -> Response {
    let Some(file) = Assets::get(&path) else { return StatusCode::NOT_FOUND.into_response() };
    let kind = mime_guess::from_path(&path).first_or_octet_stream();
    let headers =
        [(header::CONTENT_TYPE, kind.as_ref().to_owned()), (header::CACHE_CONTROL, "public, max-age=31536000, immutable".to_owned())];
    (headers, file.data).into_response()
}

/// Address of a shipped file with its hash, for templates.
pub fn link(path: &str) -> String {
    use std::fmt::Write;
    let mut hash = String::new();
    if let Some(file) = Assets::get(path) {
        for byte in &file.metadata.sha256_hash()[..6] {
            let _ = write!(hash, "{byte:02x}");
        }
    }
    format!("/assets/{path}?v={hash}")
}
