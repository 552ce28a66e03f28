//! What a stranger, a neighbour and a slip of the finger meet at every route and in every form.
//!
//! Routes are read out of the router's own source and forms out of the pages, so that a new one is tested without
//! being named here.

use crate::support::{Server, http, keep, keep_belly, page, send, signed_up};
use serde_json::{Map, Value, json};
use std::collections::BTreeSet;
use uuid::Uuid;

const ROUTES: &str = include_str!("../../src/routes.rs");

/// Routes anybody may ask: the door, what programs ask without a session, and what says that the server is up.
const OPEN: [&str; 13] = [
    "/",
    "/sign-in",
    "/sign-up",
    "/join/{token}",
    "/sign-out",
    "/demo",
    "/api/v1/plan",
    "/api/v1/readings",
    "/api/v1/pairings",
    "/api/v1/list/{what}",
    "/api/v1/openapi.json",
    "/health",
    "/assets/{*path}",
];

/// Path and method of every route.
fn routes() -> Vec<(&'static str, &'static str)> {
    let mut found = Vec::new();
    for route in ROUTES.split(".route(\"").skip(1) {
        let (path, rest) = route.split_once('"').unwrap();
        let handlers = rest.lines().next().unwrap();
        for method in ["get", "post"] {
            if handlers.contains(&format!("{method}(")) {
                found.push((path, method));
            }
        }
    }
    found
}

/// A route with its places filled: this piece, or something nobody has.
fn filled(route: &str, piece: &str) -> String {
    let mut path = route.replace("/pieces/{piece}", piece);
    for (place, with) in [("{step}", "salt"), ("{kind}", "salts"), ("{token}", "nothing")] {
        path = path.replace(place, with);
    }
    while let Some((before, rest)) = path.split_once('{') {
        path = format!("{before}{}{}", Uuid::from_u128(7), rest.split_once('}').unwrap().1);
    }
    path
}

async fn ask(client: &reqwest::Client, server: &Server, method: &str, path: &str) -> reqwest::Response {
    let url = server.url(path);
    let request = if method == "get" { client.get(url) } else { client.post(url).form(&json!({"g": "5", "version": "1"})) };
    request.send().await.unwrap()
}

#[tokio::test(flavor = "multi_thread")]
async fn a_stranger_is_sent_to_the_door_from_every_station() {
    let server = Server::start().await;
    let cook = signed_up(&server).await;
    let piece = keep_belly(&cook, &server).await;
    let mut asked = 0;
    for (route, method) in routes() {
        if OPEN.contains(&route) {
            continue;
        }
        let answer = ask(&http(), &server, method, &filled(route, &piece)).await;
        let status = answer.status().as_u16();
        if route.starts_with("/api/") {
            assert_eq!(status, 401, "{method} {route}");
        } else {
            let to = answer.headers().get("location").map(|v| v.to_str().unwrap().to_owned());
            assert_eq!((status, to.as_deref()), (303, Some("/sign-in")), "{method} {route}");
        }
        asked += 1;
    }
    assert!(asked > 75, "{asked} routes were read out of the router");
    assert_eq!(server.count("SELECT COUNT(*) AS n FROM events").await, 0);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_neighbour_finds_nothing_of_a_piece_and_changes_nothing() {
    let server = Server::start().await;
    let cook = signed_up(&server).await;
    let piece = keep_belly(&cook, &server).await;
    let neighbour = signed_up(&server).await;
    let state =
        "SELECT CAST(SUM(version + plan_version) AS SIGNED) + (SELECT COUNT(*) FROM events) AS n FROM pieces WHERE deleted_at IS NULL";
    let before = server.count(state).await;
    let mut asked = 0;
    for (route, method) in routes() {
        if !route.contains("{piece}") {
            continue;
        }
        let answer = ask(&neighbour, &server, method, &filled(route, &piece)).await;
        let status = answer.status().as_u16();
        // A form that cannot be read at all is said first; what is in the piece is never told.
        assert!(matches!(status, 400 | 404 | 415 | 422), "{method} {route}: {status}");
        let text = answer.text().await.unwrap();
        assert!(!text.contains("Pork belly") && !text.contains("2.4 kg"), "{method} {route}: {text}");
        asked += 1;
    }
    assert!(asked > 35, "{asked}");
    assert_eq!(server.count(state).await, before);
    assert_eq!(page(&cook, &server, &piece).await.0, 200);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_piece_nobody_has_is_not_found_in_words() {
    let server = Server::start().await;
    let cook = signed_up(&server).await;
    for (route, _) in routes().into_iter().filter(|(route, method)| route.contains("{piece}") && *method == "get") {
        for piece in ["/pieces/nonsense".to_owned(), format!("/pieces/{}", Uuid::from_u128(1))] {
            let (status, text) = page(&cook, &server, &filled(route, &piece)).await;
            assert_eq!(status, 404, "{route} of {piece}");
            let said = if route.starts_with("/api/") { text.contains("\"do\"") } else { text.contains("<h1>") };
            assert!(said, "{route}: {text}");
        }
    }
}

/// A form of a page: where it goes, how, and its fields as they stand.
struct FormOnPage {
    action: String,
    post: bool,
    fields: Map<String, Value>,
}

/// The value of an attribute in a tag.
fn attribute<'a>(tag: &'a str, name: &str) -> Option<&'a str> {
    tag.split_once(&format!(" {name}=\""))?.1.split_once('"').map(|(value, _)| value)
}

fn plain(text: &str) -> String {
    text.replace("&quot;", "\"").replace("&#39;", "'").replace("&lt;", "<").replace("&gt;", ">").replace("&amp;", "&")
}

/// The forms of a page.
fn forms(html: &str, at: &str) -> Vec<FormOnPage> {
    let mut found = Vec::new();
    for form in html.split("<form").skip(1) {
        let form = form.split("</form>").next().unwrap();
        let (head, body) = form.split_once('>').unwrap();
        let head = format!(" {}", head.split_whitespace().collect::<Vec<_>>().join(" "));
        let mut fields = Map::new();
        for tag in body.split('<').filter(|t| t.starts_with("input") || t.starts_with("select") || t.starts_with("textarea")) {
            let tag = tag.split('>').next().unwrap();
            if let Some(name) = attribute(tag, "name") {
                fields.insert(name.to_owned(), plain(attribute(tag, "value").unwrap_or_default()).into());
            }
        }
        let action = attribute(&head, "action").map_or_else(|| at.to_owned(), plain);
        found.push(FormOnPage { action, post: head.contains("method=\"post\""), fields });
    }
    found
}

/// What fingers, programs and enemies type.
fn junk() -> Vec<String> {
    let plain = ["", "heavy", "-5", "1e309", "NaN", "0", "99999999999999999999", "🐖🐖", "' OR 1=1 --", "a\u{0}b", "25:61", "2026-02-30"];
    let mut all: Vec<String> = plain.iter().map(|one| (*one).to_owned()).collect();
    all.push("<script>alert(1)</script>".into());
    all.push("9".repeat(5_000));
    all
}

/// Every field of every form of every page, with junk in it: a page or a sentence, never a failure, never raw.
#[tokio::test(flavor = "multi_thread", worker_threads = 2)]
async fn junk_in_any_field_of_any_form_is_never_our_failure() {
    let server = Server::unbraked().await;
    let cook = signed_up(&server).await;
    let salted = json!({"cut": "pork-belly", "weight": "2.4 kg", "thick": "45 mm", "stands": "salted", "on": "18"});
    let (open, lies) = (keep_belly(&cook, &server).await, keep(&cook, &server, salted).await);
    let mut pages: Vec<String> =
        ["/bench", "/kit", "/kit/salts/new", "/kit/mixes/new", "/household", "/refrigerator", "/taken-out"].map(str::to_owned).to_vec();
    for piece in [&open, &lies] {
        pages.extend(["", "/knife", "/salt", "/chill", "/verdict"].map(|page| format!("{piece}{page}")));
    }
    // Each form once, however many pages show it.
    let (mut seen, mut all) = (BTreeSet::new(), Vec::new());
    for at in &pages {
        let (status, html) = page(&cook, &server, at).await;
        assert_eq!(status, 200, "{at}");
        for form in forms(&html, at) {
            let leaves = ["/sign-out", "/remove", "/done"].iter().any(|end| form.action.ends_with(end));
            if !leaves && seen.insert((form.action.clone(), form.fields.keys().cloned().collect::<Vec<_>>())) {
                all.push(form);
            }
        }
    }
    let values = junk();
    let (mut sent, mut refused, mut turn) = (0, 0, 0);
    for form in &all {
        for field in form.fields.keys() {
            // Each field meets five of them, and neighbours meet others.
            for value in values.iter().cycle().skip(turn).take(5) {
                let mut fields = form.fields.clone();
                fields.insert(field.clone(), value.clone().into());
                let url = server.url(&form.action);
                let request = if form.post { cook.post(url).form(&fields) } else { cook.get(url).query(&fields) };
                let answer = request.send().await.unwrap();
                let status = answer.status().as_u16();
                let shown = format!("{} with {field} = {}", form.action, value.chars().take(30).collect::<String>());
                assert!(matches!(status, 200 | 303 | 400 | 404 | 409 | 413 | 422), "{status} at {shown}");
                assert!(!answer.text().await.unwrap().contains("<script>alert"), "raw at {shown}");
                sent += 1;
                refused += usize::from(status >= 400);
            }
            turn += 5;
        }
    }
    assert!(all.len() > 20 && sent > 400 && refused > 60, "{} forms, {sent} sent, {refused} refused", all.len());
    // The kitchen stands as before.
    for at in &pages {
        // Words still lie on the Bench.
        let status = page(&cook, &server, at).await.0;
        assert_eq!(status, if at == "/bench" { 303 } else { 200 }, "{at} afterwards");
    }
}

/// Words that cannot be, where they go, and what is said of them; `{}` lies salted, `{open}` does not yet.
const SLIPS: [(&str, &str, &str, &str); 12] = [
    ("{}/chill/weighed", "gross", "heavy", "heavy"),
    ("{}/chill/weighed", "gross", "-3", "-3"),
    ("{}/chill/weighed", "gross", "9 kg", "9 kg"),
    ("{}/chill/salt", "g", "a pinch", "a pinch"),
    ("{}/chill/salt", "g", "9000", "9000"),
    ("{}/chill/air", "c", "windy", "windy"),
    ("/refrigerator/air", "c", "boiling", "boiling"),
    ("{}/chill/air", "rh", "soaked", "soaked"),
    ("/refrigerator/stood-open", "long", "ages", "ages"),
    ("/kit/scales", "fineness", "rough", "rough"),
    ("/household", "zone", "Atlantis", "Atlantis"),
    ("{open}/knife", "spacing", "wide", "wide"),
];

#[tokio::test(flavor = "multi_thread")]
async fn a_slip_is_said_with_what_was_typed_and_stores_nothing() {
    let server = Server::start().await;
    let cook = signed_up(&server).await;
    let words = json!({"cut": "pork-belly", "weight": "2.4 kg", "thick": "45 mm", "stands": "salted", "on": "18"});
    let piece = keep(&cook, &server, words).await;
    let open = keep_belly(&cook, &server).await;
    let events = server.count("SELECT COUNT(*) AS n FROM events").await;
    for (path, field, typed, says) in SLIPS {
        let path = path.replace("{}", &piece).replace("{open}", &open);
        let form = json!({"c": "4", "work": "parallel", "version": "1", field: typed, "what": "on", "name": "a name", "key": Uuid::now_v7().to_string()});
        let (status, text) = send(&cook, &server, &path, &form).await;
        assert_eq!(status, 422, "{path} {field} = {typed}: {}", text.chars().take(300).collect::<String>());
        assert!(text.contains(says), "{path} {field}: what was typed is on the page");
        assert!(text.contains("role=\"alert\""), "{path} {field}: said where it is heard");
    }
    assert_eq!(server.count("SELECT COUNT(*) AS n FROM events").await, events);
}
