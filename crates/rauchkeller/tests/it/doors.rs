//! Doors of the running server: its port, an earlier kitchen, pieces that cannot be read, storms and half requests.

use crate::support::{Server, eventually, fresh_database, http, signed_up};
use sea_orm::{ConnectionTrait, Database, TransactionTrait};
use serde_json::json;
use std::process::{Command, Stdio};
use uuid::Uuid;

#[tokio::test]
async fn serve_takes_no_other_port_than_the_one_it_was_given() {
    let server = Server::start("serve").await;
    let busy = server.base.trim_start_matches("http://").to_owned();
    let second = Command::new(env!("CARGO_BIN_EXE_rauchkeller"))
        .args(["serve", "--listen", &busy])
        .env("DATABASE_URL", fresh_database().await)
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .output()
        .unwrap();
    let said = String::from_utf8_lossy(&second.stderr);
    assert!(!second.status.success() && said.contains("is busy"), "{said}");
}

/// A database as an earlier version left it.
pub async fn earlier_database() -> String {
    let url = fresh_database().await;
    let database = Database::connect(&url).await.unwrap();
    let one = database.begin().await.unwrap();
    one.execute_unprepared("SET FOREIGN_KEY_CHECKS = 0").await.unwrap();
    for statement in include_str!("../../../store/tests/fixtures/kitchen_of_schema_4.sql").lines() {
        one.execute_unprepared(statement).await.unwrap();
    }
    one.commit().await.unwrap();
    url
}

/// The kitchen of the fixture, with one press to enter it.
pub async fn earlier_kitchen() -> (Server, reqwest::Client, String) {
    let url = earlier_database().await;
    // A storm is no cook's flood.
    let server = Server::with("demo", &url, &["--flood-limit", "0"]);
    let client = http();
    assert_eq!(client.post(server.url("/demo")).send().await.unwrap().status(), 303);
    (server, client, url)
}

/// Addresses of the pieces a page links to.
pub async fn pieces_on(server: &Server, client: &reqwest::Client, page: &str) -> Vec<String> {
    let text = client.get(server.url(page)).send().await.unwrap().text().await.unwrap();
    let mut found: Vec<String> =
        text.split("href=\"/pieces/").skip(1).filter_map(|rest| Some(format!("/pieces/{}", rest.get(..36)?))).collect();
    found.sort();
    found.dedup();
    found
}

#[tokio::test]
async fn every_page_of_an_earlier_kitchen_opens_and_its_pieces_are_eaten_and_judged() {
    let (server, client, _) = earlier_kitchen().await;
    let status = async |path: &str| client.get(server.url(path)).send().await.unwrap().status().as_u16();
    for page in ["/cellar", "/bench", "/book", "/kit", "/account"] {
        assert_eq!(status(page).await, 200, "{page}");
    }
    let mut pieces = pieces_on(&server, &client, "/cellar").await;
    pieces.extend(pieces_on(&server, &client, "/book").await);
    pieces.sort();
    pieces.dedup();
    assert_eq!(pieces.len(), 10);
    for piece in &pieces {
        for page in ["", "/hands", "/knife", "/salt", "/chill", "/verdict", "/knife.svg", "/knife.pdf", "/record.json"] {
            let got = status(&format!("{piece}{page}")).await;
            assert!(got == 200 || (got == 422 && page.starts_with("/knife.")), "{piece}{page}: {got}");
        }
    }
    // One of them goes on to the table, step by step as its page offers them, and is judged.
    let piece = pieces_on(&server, &client, "/cellar").await.remove(0);
    for _ in 0..20 {
        let page = client.get(server.url(&piece)).send().await.unwrap().text().await.unwrap();
        let Some(next) = page.split("action=\"").skip(1).map(|rest| rest.split('"').next().unwrap()).find(|a| a.ends_with("/done")) else {
            break;
        };
        assert_eq!(client.post(server.url(next)).send().await.unwrap().status(), 303);
    }
    let form = json!({"rim": "1", "middle": "0", "juice": "0", "version": "0"});
    assert_eq!(client.post(server.url(&format!("{piece}/verdict"))).form(&form).send().await.unwrap().status(), 303);
    assert!(pieces_on(&server, &client, "/book").await.contains(&piece));
}

#[tokio::test]
async fn a_plan_that_cannot_be_read_is_one_line_and_the_kitchen_goes_on() {
    let (server, client, url) = earlier_kitchen().await;
    // Where several rest, the first of those to choose from.
    let rests = pieces_on(&server, &client, "/chill").await.remove(0);
    let mut pieces = pieces_on(&server, &client, "/cellar").await;
    pieces.retain(|piece| !rests.starts_with(piece));
    let database = Database::connect(&url).await.unwrap();
    let hex = pieces[0].trim_start_matches("/pieces/").replace('-', "");
    database
        .execute_unprepared(&format!("UPDATE pieces SET plan = JSON_REMOVE(plan, '$.dose'), version = version + 1 WHERE id = 0x{hex}"))
        .await
        .unwrap();
    let text = async |path: &str| {
        let answer = client.get(server.url(path)).send().await.unwrap();
        (answer.status().as_u16(), answer.text().await.unwrap())
    };
    let (status, cellar) = text("/cellar").await;
    assert!(status == 200 && cellar.contains("cannot be read any more"), "{status}");
    assert!(pieces_on(&server, &client, "/cellar").await.contains(&pieces[0]), "it is still there to be opened");
    let (status, page) = text(&pieces[0]).await;
    assert!(status == 200 && page.contains("Plan it anew"), "{status}");
    assert_eq!(text("/book").await.0, 200);
    // Another piece is weighed as ever.
    let belly = server.count("SELECT COUNT(*) AS n FROM events WHERE kind = 'weighed'").await;
    let form = json!({"gross": "3001", "tray": "", "key": Uuid::now_v7().to_string()});
    let answer = client.post(server.url(&format!("{rests}/chill/weighed"))).form(&form).send().await.unwrap();
    assert!(answer.status() == 303 || answer.status() == 422, "{}", answer.status());
    assert!(server.count("SELECT COUNT(*) AS n FROM events WHERE kind = 'weighed'").await >= belly);
    // The way out: its own words make a new plan, and the ticks stay.
    let ticked = format!("SELECT COUNT(*) AS n FROM events WHERE piece_id = 0x{hex} AND kind LIKE 'task-%' AND live");
    let before = server.count(&ticked).await;
    let renewed = client.post(server.url(&format!("{}/renew", pieces[0]))).send().await.unwrap();
    assert_eq!(renewed.status(), 303, "{}", renewed.text().await.unwrap());
    assert_eq!(server.count(&ticked).await, before);
    let (status, page) = text(&pieces[0]).await;
    assert!(status == 200 && !page.contains("cannot be read any more"), "{status}");
}

/// What a newer version of the program wrote beside this one: a kind of event, a plan, a way. Each is said in words, nothing of it is
/// lost, and the kitchen goes on.
#[tokio::test]
async fn what_a_newer_version_wrote_is_served_in_words() {
    let url = fresh_database().await;
    let server = Server::on("demo", &url);
    let client = http();
    eventually("the demo stands", || async {
        let entered = client.post(server.url("/demo")).send().await.ok()?;
        (entered.status() == 303).then_some(())
    })
    .await;
    let text = async |path: &str| {
        let answer = client.get(server.url(path)).send().await.unwrap();
        (answer.status().as_u16(), answer.text().await.unwrap())
    };
    let pieces = pieces_on(&server, &client, "/cellar").await;
    let hex = |piece: &str| piece.trim_start_matches("/pieces/").replace('-', "");
    let database = Database::connect(&url).await.unwrap();
    // An event of a kind that is not known here.
    let (noted, newer) = (hex(&pieces[0]), hex(&pieces[1]));
    let columns = "household_id, id, piece_id, kind, at, noted_at, body, live";
    let id = Uuid::now_v7().simple().to_string();
    let event = format!(
        "INSERT INTO events ({columns}) SELECT household_id, 0x{id}, id, 'probe-hummed', NOW(6), NOW(6), '{{\"hertz\":440}}', 1 FROM pieces WHERE id = 0x{noted}"
    );
    database.execute_unprepared(&event).await.unwrap();
    database
        .execute_unprepared(&format!("UPDATE pieces SET events = events + 1, version = version + 1 WHERE id = 0x{noted}"))
        .await
        .unwrap();
    let (status, page) = text(&pieces[0]).await;
    assert!(status == 200 && page.contains("newer-notes") && page.contains("probe hummed"), "{status}");
    let (status, record) = text(&format!("{}/record.json", pieces[0])).await;
    assert!(status == 200 && record.contains("probe-hummed") && record.contains("440"), "{status}: it is given out as it was written");
    for path in ["/hands", "/chill", "/salt", "/verdict"] {
        assert_eq!(text(&format!("{}{path}", pieces[0])).await.0, 200, "{path}");
    }
    // A plan of a newer form, with a method document that has a task nobody here knows.
    let plan = format!(
        "UPDATE pieces SET plan = JSON_SET(plan, '$.schema', 9, '$.new_field', 'x'), schema_no = 9, rules = 900, version = version + 1, \
        request = JSON_SET(request, '$.method_document.tasks[0].task', 'enchant') WHERE id = 0x{newer}"
    );
    database.execute_unprepared(&plan).await.unwrap();
    let (status, cellar) = text("/cellar").await;
    assert!(status == 200 && cellar.contains("kept by a newer version of this kitchen"), "{status}");
    let (status, page) = text(&pieces[1]).await;
    assert!(status == 200 && page.contains("A newer version of this kitchen kept this plan"), "{status}");
    assert!(text(&format!("{}/record.json", pieces[1])).await.1.contains("enchant"));
    // One of a form that is known, whose document has a task that is not: it goes on by that document, and by no other.
    let known = hex(&pieces[2]);
    let document = format!(
        "UPDATE pieces SET request = JSON_SET(request, '$.method_document.tasks[0].task', 'enchant'), version = version + 1 WHERE id = 0x{known}"
    );
    database.execute_unprepared(&document).await.unwrap();
    for path in ["", "/hands", "/chill", "/salt"] {
        let (status, page) = text(&format!("{}{path}", pieces[2])).await;
        assert!(status == 200 && !page.contains("cannot be read"), "{path}: {status}");
    }
    // A way in the Kit that says more than is known here.
    let way = "UPDATE kit_ways SET document = JSON_SET(document, '$.schema', 2, '$.tasks[0].task', 'enchant')";
    database.execute_unprepared(way).await.unwrap();
    database.execute_unprepared("UPDATE households SET kit_version = kit_version + 1").await.unwrap();
    for path in ["/kit", "/bench", "/bench/ways?cut=pork-belly&weight=2.4+kg", "/cellar", "/book"] {
        assert_eq!(text(path).await.0, 200, "{path}");
    }
    let kit = text("/kit").await.1;
    assert!(kit.contains("boathouse belly") && kit.contains("today’s rules refuse it"), "it says why it cannot be planned with");
}

/// A storm of requests given up half-way, on every route, while others work: no wrong answer.
#[tokio::test(flavor = "multi_thread", worker_threads = 2)]
async fn a_storm_of_aborted_requests_gives_nobody_a_wrong_answer() {
    let (server, client, _) = earlier_kitchen().await;
    let pieces = pieces_on(&server, &client, "/cellar").await;
    let mut routes: Vec<String> = [
        "/health",
        "/",
        "/sign-in",
        "/sign-up",
        "/bench",
        "/cellar",
        "/book",
        "/kit",
        "/account",
        "/scale",
        "/salt",
        "/chill",
        "/knife",
        "/api/v1/list/cuts",
    ]
    .map(str::to_owned)
    .to_vec();
    for page in ["", "/hands", "/knife", "/salt", "/chill", "/salt/scale"] {
        routes.push(format!("{}{page}", pieces[0]));
    }
    let mut storm = Vec::new();
    for n in 0..2_000u64 {
        let (aborts, url) = (client.clone(), server.url(&routes[n as usize % routes.len()]));
        let request = tokio::spawn(async move { aborts.get(url).send().await.map(|a| a.status()) });
        for _ in 0..(n % 23) {
            tokio::task::yield_now().await;
        }
        storm.push(request);
        if storm.len() >= 24 {
            storm.drain(..).for_each(|request| request.abort());
            for path in ["/health", "/cellar", "/kit", "/book"] {
                let answer = client.get(server.url(path)).send().await.unwrap();
                assert_eq!(answer.status(), 200, "{path} after {n} requests");
                let text = answer.text().await.unwrap();
                let says = match path {
                    "/health" => "\"up\"",
                    "/cellar" => "Pork belly 2.4 kg",
                    "/kit" => "grey jar",
                    _ => "Whole turkey 4.8 kg",
                };
                assert!(text.contains(says), "{path} after {n} requests");
            }
        }
    }
    storm.drain(..).for_each(|request| request.abort());
    eventually("the pool is whole", || async { (client.get(server.url("/health")).send().await.ok()?.status() == 200).then_some(()) })
        .await;
}

#[tokio::test]
async fn a_request_that_is_never_finished_is_let_go() {
    use tokio::io::{AsyncReadExt, AsyncWriteExt};
    let server = Server::start("serve").await;
    signed_up(&server).await;
    let at = server.base.trim_start_matches("http://").to_owned();
    for half in [
        "GET /cellar HTTP/1.1\r\nHost: x\r\n",
        "POST /sign-in HTTP/1.1\r\nHost: x\r\nContent-Type: application/x-www-form-urlencoded\r\nContent-Length: 500\r\n\r\naddress=",
    ] {
        let mut socket = tokio::net::TcpStream::connect(&at).await.unwrap();
        socket.write_all(half.as_bytes()).await.unwrap();
        // It answers or hangs up of its own accord; neither keeps the connection.
        let mut answer = Vec::new();
        let ended = tokio::time::timeout(std::time::Duration::from_mins(1), socket.read_to_end(&mut answer)).await;
        assert!(ended.is_ok(), "still open after a minute: {half}");
    }
}
