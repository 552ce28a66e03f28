//! Doors: sessions, passwords, the brake, other people's aborted requests, pieces that cannot be read, busy ports.

use crate::support::{Server, eventually, fresh_database, http, keep_belly, signed_up};
use sea_orm::{ConnectionTrait, Database, TransactionTrait};
use serde_json::json;
use std::process::{Command, Stdio};
use uuid::Uuid;

const PASSWORD: &str = "lantern gravel otter seven";

/// Signs up under a known address and gives it.
async fn with_address(server: &Server) -> (reqwest::Client, String) {
    signed_up(server).await;
    let (client, address) = (http(), format!("{}@example.org", Uuid::now_v7().simple()));
    let form = json!({"household": "Test kitchen", "name": "Cook", "address": address, "password": PASSWORD, "time_zone": "UTC"});
    assert_eq!(client.post(server.url("/sign-up")).form(&form).send().await.unwrap().status(), 303);
    (client, address)
}

async fn sign_in(server: &Server, client: &reqwest::Client, address: &str, password: &str) -> u16 {
    let form = json!({"address": address, "password": password});
    client.post(server.url("/sign-in")).form(&form).send().await.unwrap().status().as_u16()
}

async fn is_in(server: &Server, client: &reqwest::Client) -> bool {
    client.get(server.url("/cellar")).send().await.unwrap().status() == 200
}

#[tokio::test]
async fn others_cannot_lock_a_cook_out_of_her_own_browser() {
    let server = Server::start("serve").await;
    let (own, address) = with_address(&server).await;
    assert_eq!(own.post(server.url("/sign-out")).send().await.unwrap().status(), 303);
    let stranger = http();
    let mut answers = Vec::new();
    for i in 0..10 {
        answers.push(sign_in(&server, &stranger, &address, &format!("guess number {i}")).await);
    }
    assert_eq!(answers, [422, 422, 422, 422, 422, 422, 422, 422, 429, 429]);
    // Even the right word is not tried for a stranger now, but its owner's browser comes in.
    assert_eq!(sign_in(&server, &stranger, &address, PASSWORD).await, 429);
    assert_eq!(sign_in(&server, &own, &address, PASSWORD).await, 303);
    assert!(is_in(&server, &own).await && !is_in(&server, &stranger).await);
}

#[tokio::test]
async fn signing_in_over_a_planted_session_gives_it_a_new_id() {
    let server = Server::start("serve").await;
    let (_, victim) = with_address(&server).await;
    let (attacker, _) = with_address(&server).await;
    // The attacker's live session, planted into the victim's browser.
    let planted = attacker.get(server.url("/cellar")).send().await.unwrap();
    assert_eq!(planted.status(), 200);
    let cookie = {
        let form = json!({"address": victim, "password": PASSWORD});
        // The attacker's client stands for the planted cookie: it signs in as the victim would.
        let answer = attacker.post(server.url("/sign-in")).form(&form).send().await.unwrap();
        assert_eq!(answer.status(), 303);
        answer.headers().get_all("set-cookie").iter().map(|v| v.to_str().unwrap().to_owned()).collect::<Vec<_>>()
    };
    assert!(cookie.iter().any(|c| c.starts_with("rauchkeller=")), "a new session id is set: {cookie:?}");
    let sessions = server.count("SELECT COUNT(*) AS n FROM web_sessions").await;
    // Two signed-up visitors before it, the victim's first, and this one: the planted id is gone.
    assert_eq!(sessions, 4);
}

#[tokio::test]
async fn a_new_password_ends_every_other_session() {
    let server = Server::start("serve").await;
    let (laptop, address) = with_address(&server).await;
    let phone = http();
    assert_eq!(sign_in(&server, &phone, &address, PASSWORD).await, 303);
    let change = async |current: &str, new: &str| {
        let form = json!({"current": current, "password": new});
        laptop.post(server.url("/account/password")).form(&form).send().await.unwrap().status().as_u16()
    };
    assert_eq!(change("not this one at all", "birch umbrella ladle smoke").await, 422);
    assert_eq!(change(PASSWORD, "          ").await, 422, "ten blanks are no password");
    assert!(is_in(&server, &phone).await);
    assert_eq!(change(PASSWORD, "birch umbrella ladle smoke").await, 200);
    assert!(is_in(&server, &laptop).await && !is_in(&server, &phone).await);
    assert_eq!(sign_in(&server, &phone, &address, PASSWORD).await, 422);
    assert_eq!(sign_in(&server, &phone, &address, "birch umbrella ladle smoke").await, 303);
    // And without a new password.
    assert_eq!(phone.post(server.url("/account/end-others")).send().await.unwrap().status(), 200);
    assert!(is_in(&server, &phone).await && !is_in(&server, &laptop).await);
}

#[tokio::test]
async fn a_form_leads_nowhere_else() {
    let server = Server::start("serve").await;
    let client = signed_up(&server).await;
    let form = json!({"name": "grey jar", "spoon": "us-tsp", "count": "10", "weighings": "46 47 45.5", "fineness": "1", "purity": "100",
        "potassium": "0", "pinches": "", "back": "/\t/elsewhere.example", "key": Uuid::now_v7().to_string()});
    let answer = client.post(server.url("/kit/salts")).form(&form).send().await.unwrap();
    assert_eq!((answer.status().as_u16(), answer.headers()["location"].to_str().unwrap()), (303, "/kit"));
}

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

#[tokio::test]
async fn bare_words_of_the_framework_become_sentences() {
    let server = Server::start("serve").await;
    let client = signed_up(&server).await;
    let piece = keep_belly(&client, &server).await;
    for (answer, status) in [
        (client.get(server.url(&format!("{piece}/hands?at=x"))).send().await.unwrap(), 400),
        (client.get(server.url("/bench?cut=pork-belly&cut=duck-whole")).send().await.unwrap(), 400),
        (client.delete(server.url("/cellar")).send().await.unwrap(), 405),
        (client.post(server.url("/pieces")).header("content-type", "text/plain").body("x").send().await.unwrap(), 415),
    ] {
        assert_eq!(answer.status(), status);
        let text = answer.text().await.unwrap();
        assert!(text.contains("<h1>") && text.contains("To the Cellar"), "{status}: {text}");
    }
    let api = client.get(server.url("/api/v1/plan")).send().await.unwrap();
    assert_eq!(api.status(), 405);
    assert!(api.json::<serde_json::Value>().await.unwrap()["problems"][0]["do"].as_str().is_some_and(|s| !s.is_empty()));
    // The style sheet names its fonts by their hashes, and what is asked for without one is asked about again.
    let plain = client.get(server.url("/assets/hook.svg")).send().await.unwrap();
    assert_eq!(plain.headers()["cache-control"], "no-cache");
    assert!(plain.headers().contains_key("etag"));
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

/// A salted piece that two cooks quarrel over.
async fn salted_belly(client: &reqwest::Client, server: &Server) -> String {
    let key = Uuid::now_v7().to_string();
    let form = json!({"cut": "pork-belly", "weight": "2.4 kg", "thick": "45 mm", "stands": "salted", "on": "18", "key": key});
    let answer = client.post(server.url("/pieces")).form(&form).send().await.unwrap();
    assert_eq!(answer.status(), 303);
    answer.headers()["location"].to_str().unwrap().to_owned()
}

#[tokio::test(flavor = "multi_thread", worker_threads = 2)]
async fn what_two_cooks_say_at_once_of_the_salt_is_counted_once() {
    let server = Server::start("serve").await;
    let client = signed_up(&server).await;
    let say = async |piece: &str, g: &str, what: &str, n: usize| {
        let said: Vec<_> = (0..n)
            .map(|_| {
                let (client, url) = (client.clone(), server.url(&format!("{piece}/chill/salt")));
                let form = json!({"g": g, "what": what, "key": Uuid::now_v7().to_string()});
                tokio::spawn(async move { client.post(url).form(&form).send().await.unwrap().status().as_u16() })
            })
            .collect();
        let mut answers = Vec::new();
        for one in said {
            answers.push(one.await.unwrap());
        }
        answers
    };
    for _ in 0..4 {
        let piece = salted_belly(&client, &server).await;
        let on = async || {
            let standing = client.get(server.url(&format!("/api/v1{piece}/standing"))).send().await.unwrap();
            let standing: serde_json::Value = standing.json().await.unwrap();
            standing["on_g"].as_f64().unwrap()
        };
        // 18 g are on it; two cooks say at once that it is really 40: that holds, once.
        assert_eq!(say(&piece, "40", "really", 2).await, [303, 303]);
        assert!((on().await - 40.0).abs() < 0.01);
        // Four say that 15 g came off, of 40: two of them can be right, and no more.
        let mut answers = say(&piece, "15", "off", 4).await;
        answers.sort_unstable();
        assert_eq!(answers, [303, 303, 422, 422]);
        assert!((on().await - 10.0).abs() < 0.01);
    }
}

#[tokio::test]
async fn the_knife_keeps_nothing_once_the_salt_is_on() {
    let server = Server::start("serve").await;
    let client = signed_up(&server).await;
    let piece = keep_belly(&client, &server).await;
    let page = client.get(server.url(&piece)).send().await.unwrap().text().await.unwrap();
    let mut done: Vec<&str> =
        page.split("action=\"").skip(1).map(|rest| rest.split('"').next().unwrap()).filter(|a| a.ends_with("/done")).collect();
    // Each stands there twice: now, and at another time.
    done.dedup();
    // Wash, dry, pierce, salt.
    for step in done.iter().take(4) {
        assert_eq!(client.post(server.url(step)).send().await.unwrap().status(), 303);
    }
    let version = server.count("SELECT CAST(version AS SIGNED) AS n FROM pieces").await.to_string();
    let form = json!({"version": version, "work": "parallel", "spacing": "8 mm"});
    let answer = client.post(server.url(&format!("{piece}/knife"))).form(&form).send().await.unwrap();
    assert_eq!(answer.status(), 409);
    assert!(answer.text().await.unwrap().contains("was on it already"));
}

#[tokio::test]
async fn a_tool_taken_out_of_the_kit_is_missed_in_words() {
    let server = Server::start("serve").await;
    let client = signed_up(&server).await;
    let piece = keep_belly(&client, &server).await;
    let gone = format!("{piece}/knife?tool=own-{}", Uuid::now_v7());
    let page = client.get(server.url(&gone)).send().await.unwrap().text().await.unwrap();
    assert!(page.contains("no longer hangs in your Kit"));
}

#[tokio::test]
async fn a_session_in_use_goes_on() {
    let server = Server::start("serve").await;
    let (client, _) = with_address(&server).await;
    assert!(is_in(&server, &client).await);
    let database = Database::connect(&server.database).await.unwrap();
    // As if it had been used last a while ago and were to end tomorrow.
    let aged = "UPDATE web_sessions SET expires_at = UTC_TIMESTAMP() + INTERVAL 1 DAY, data = REGEXP_REPLACE(data, '\"used-on\":[0-9]+', '\"used-on\":1')";
    database.execute_unprepared(aged).await.unwrap();
    let lasting = "SELECT COUNT(*) AS n FROM web_sessions WHERE expires_at > UTC_TIMESTAMP() + INTERVAL 29 DAY";
    assert_eq!(server.count(lasting).await, 0);
    assert!(is_in(&server, &client).await);
    assert_eq!(server.count(lasting).await, 1, "its thirty days begin anew");
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
