//! Nothing that is rendered or sent points to papers the reader does not have, or wears the marks of our notes.

use crate::support::{Server, http};
use std::process::Command;

/// What must not be read anywhere; “handbook” is allowed in a publication's own title.
fn forbidden(text: &str) -> Option<String> {
    let plain = text.replace("ASHRAE Handbook", "").replace("NIST Handbook", "");
    let lower = plain.to_lowercase();
    ["handbook", "[est]", "[mem]", "[trade]", "[pub]", "[mem/est]"].iter().find(|mark| lower.contains(**mark)).map(|mark| {
        let at = lower.find(mark).unwrap_or_default();
        let from = lower.floor_char_boundary(at.saturating_sub(60));
        let to = lower.floor_char_boundary((at + 60).min(lower.len()));
        format!("{mark}: …{}…", &lower[from..to])
    })
}

#[tokio::test]
async fn no_page_and_no_answer_speaks_of_papers_nobody_has() {
    let server = Server::start("demo").await;
    let client = http();
    client.post(server.url("/demo")).header("origin", &server.base).send().await.unwrap();
    let get = |path: String| {
        let (client, url) = (client.clone(), server.url(&path));
        async move { client.get(url).send().await.unwrap().text().await.unwrap() }
    };
    let cellar = get("/cellar".into()).await;
    let book = get("/book".into()).await;
    let piece_of = |text: &str| text.split("/pieces/").nth(1).unwrap()[..36].to_owned();
    let (piece, eaten) = (piece_of(&cellar), piece_of(&book));
    let mut pages: Vec<String> = ["/cellar", "/book", "/kit", "/kit/salts/new", "/kit/mixes/new", "/household", "/account", "/refrigerator", "/knife", "/salt", "/chill", "/sign-in", "/sign-up",
        "/bench", "/bench?cut=turkey-whole&weight=12&label=8+%25", "/bench?cut=beef-round-roast&weight=2.5+kg&thick=120+mm&dose=16",
        "/bench?weight=2.4+kg&thin=30+mm&scored=lean&cover=crust&also=boathouse+rub", "/bench?cut=pork-loin-rack&weight=2.2+kg&also=2+tbsp+soy+sauce&by=model&goal=half+even",
        "/bench?weight=heavy&thick=9+kg&dose=lots&serve=someday&servings=all&bought=soon&hours=long&goal=salty&face=wide&bone=some&label=x&also=3+g+moon+dust"]
        .map(str::to_owned).to_vec();
    pages.extend(["", "/salt", "/knife", "/chill", "/hands"].map(|part| format!("/pieces/{piece}{part}")));
    pages.extend(["", "/verdict"].map(|part| format!("/pieces/{eaten}{part}")));
    pages.extend(
        ["/api/v1/openapi.json", "/api/v1/list/cuts", "/api/v1/list/salts", "/api/v1/list/methods", "/api/v1/list/ledger"]
            .map(str::to_owned),
    );
    for page in pages {
        let text = get(page.clone()).await;
        // A station may lead on to its piece.
        assert!(text.len() > 200 || ["/knife", "/salt", "/chill"].contains(&page.as_str()), "{page}: {text}");
        assert_eq!(forbidden(&text), None, "{page}");
    }
    for words in [
        vec!["list", "cuts"],
        vec!["list", "salts"],
        vec!["list", "methods"],
        vec!["list", "ledger"],
        vec!["openapi"],
        vec!["plan", "--example"],
        vec!["--help"],
    ] {
        let said = Command::new(env!("CARGO_BIN_EXE_rauchkeller")).args(&words).output().unwrap();
        let text = String::from_utf8(said.stdout).unwrap();
        assert!(text.len() > 200);
        assert_eq!(forbidden(&text), None, "{words:?}");
    }
}

#[tokio::test]
async fn a_kitchen_kept_by_an_earlier_version_shows_no_marks_either() {
    let (server, client, _) = crate::doors::earlier_kitchen().await;
    let text = client.get(server.url("/cellar")).send().await.unwrap().text().await.unwrap();
    for piece in text.split("href=\"/pieces/").skip(1).map(|rest| rest[..36].to_owned()).collect::<std::collections::BTreeSet<_>>() {
        for part in ["", "/salt", "/knife", "/chill", "/hands"] {
            let page = client.get(server.url(&format!("/pieces/{piece}{part}"))).send().await.unwrap().text().await.unwrap();
            assert_eq!(forbidden(&page), None, "/pieces/{piece}{part}");
        }
    }
}

/// Words in a template show in some state of a page, even one that no test brings about.
#[test]
fn no_template_has_marks_in_any_state() {
    let web = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../web/src");
    let (mut rooms, mut read) = (vec![web], 0);
    while let Some(room) = rooms.pop() {
        for entry in std::fs::read_dir(room).unwrap() {
            let path = entry.unwrap().path();
            if path.is_dir() {
                rooms.push(path);
            } else if path.extension().is_some_and(|kind| kind == "html") {
                read += 1;
                let found = forbidden(&std::fs::read_to_string(&path).unwrap());
                assert!(found.is_none(), "{}: {}", path.display(), found.unwrap_or_default());
            }
        }
    }
    assert!(read > 30, "{read} templates read");
}
