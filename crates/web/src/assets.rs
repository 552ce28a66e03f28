//! Files shipped inside the binary: scripts, style, fonts.

use axum::extract::{Path, Query};
use axum::http::{HeaderMap, StatusCode, header};
use axum::response::{IntoResponse, Response};
use rust_embed::RustEmbed;
use serde::Deserialize;
use sha2::{Digest, Sha256};
use std::borrow::Cow;
use std::collections::HashMap;
use std::sync::LazyLock;

#[derive(RustEmbed)]
#[folder = "assets/"]
struct Assets;

/// A file as it is served, with its hash.
struct Shipped {
    data: Cow<'static, [u8]>,
    hash: String,
}

fn short_hash(data: &[u8]) -> String {
    hex::encode(&Sha256::digest(data)[..6])
}

/// Where the browser's part lies: one small Alpine component a file.
const COMPONENTS: &str = "components/";

/// All components as one script, each in a scope of its own, told to Alpine when it starts. Comments stay at home.
fn components() -> String {
    let mut paths: Vec<_> = Assets::iter().filter(|path| path.starts_with(COMPONENTS)).collect();
    paths.sort();
    let said = |line: &&str| !["//", "/*"].iter().any(|mark| line.trim_start().starts_with(mark));
    let script = |file: &[u8]| String::from_utf8_lossy(file).lines().filter(said).collect::<Vec<_>>().join("\n");
    let files = paths.iter().filter_map(|path| Assets::get(path)).map(|file| format!("{{\n{}\n}}\n", script(&file.data)));
    format!("\"use strict\";\ndocument.addEventListener(\"alpine:init\", () => {{\n{}}});\n", files.collect::<String>())
}

/// Every file but these two, as it stands; the components as one script; and the style sheet with the files it names by
/// their hashes, so that a browser which was told to fetch a font early finds the same one.
static SHIPPED: LazyLock<HashMap<String, Shipped>> = LazyLock::new(|| {
    let mut all = HashMap::new();
    for path in Assets::iter().filter(|path| !path.starts_with(COMPONENTS)) {
        let Some(file) = Assets::get(&path) else { continue };
        all.insert(path.to_string(), Shipped { hash: short_hash(&file.data), data: file.data });
    }
    let script = components().into_bytes();
    all.insert("components.js".to_owned(), Shipped { hash: short_hash(&script), data: Cow::Owned(script) });
    if let Some(mut style) = all.remove("app.css") {
        let mut text = String::from_utf8_lossy(&style.data).into_owned();
        for (path, file) in &all {
            for (open, close) in [("url(\"", "\")"), ("url(", ")")] {
                let plain = format!("{open}/assets/{path}{close}");
                text = text.replace(&plain, &format!("{open}/assets/{path}?v={}{close}", file.hash));
            }
        }
        style = Shipped { hash: short_hash(text.as_bytes()), data: Cow::Owned(text.into_bytes()) };
        all.insert("app.css".to_owned(), style);
    }
    all
});

/// The hash an address says.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct Version {
    v: String,
}

/// Serves a shipped file. Pages link it with its hash: so asked for it may be kept for a year, else it is asked about again.
pub async fn asset(Path(path): Path<String>, Query(version): Query<Version>, headers: HeaderMap) -> Response {
    let Some(file) = SHIPPED.get(&path) else { return StatusCode::NOT_FOUND.into_response() };
    let tag = format!("\"{}\"", file.hash);
    let keep = if version.v == file.hash { "public, max-age=31536000, immutable" } else { "no-cache" };
    let known = headers.get(header::IF_NONE_MATCH).and_then(|v| v.to_str().ok()).is_some_and(|said| said.contains(&tag));
    let kept = [(header::CACHE_CONTROL, keep.to_owned()), (header::ETAG, tag)];
    if known {
        return (StatusCode::NOT_MODIFIED, kept).into_response();
    }
    let kind = mime_guess::from_path(&path).first_or_octet_stream();
    (kept, [(header::CONTENT_TYPE, kind.as_ref().to_owned())], file.data.clone()).into_response()
}

/// Address of a shipped file with its hash, for templates.
pub fn link(path: &str) -> String {
    let hash = SHIPPED.get(path).map_or("", |file| &file.hash);
    format!("/assets/{path}?v={hash}")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_style_sheet_names_every_file_by_its_hash() {
        let style = String::from_utf8_lossy(&SHIPPED["app.css"].data).into_owned();
        let named: Vec<&str> =
            style.split("/assets/").skip(1).map(|rest| rest.split([')', '"', '\'']).next().unwrap_or_default()).collect();
        assert!(!named.is_empty());
        for name in named {
            assert_eq!(link(name.split('?').next().unwrap()), format!("/assets/{name}"), "{name}");
        }
    }
}
