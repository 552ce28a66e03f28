//! Doors: sessions, passwords, the brake, forms that lead elsewhere, two cooks at one piece.

use crate::support::{Server, http, keep_belly, signed_up};
use sea_orm::{ConnectionTrait, Database};
use serde_json::json;
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
    let server = Server::start().await;
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
    let server = Server::start().await;
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
    let server = Server::start().await;
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
    let server = Server::start().await;
    let client = signed_up(&server).await;
    let form = json!({"name": "grey jar", "spoon": "us-tsp", "count": "10", "weighings": "46 47 45.5", "fineness": "1", "purity": "100",
        "potassium": "0", "pinches": "", "back": "/\t/elsewhere.example", "key": Uuid::now_v7().to_string()});
    let answer = client.post(server.url("/kit/salts")).form(&form).send().await.unwrap();
    assert_eq!((answer.status().as_u16(), answer.headers()["location"].to_str().unwrap()), (303, "/kit"));
}

#[tokio::test]
async fn bare_words_of_the_framework_become_sentences() {
    let server = Server::start().await;
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
    let server = Server::start().await;
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
    let server = Server::start().await;
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
    let server = Server::start().await;
    let client = signed_up(&server).await;
    let piece = keep_belly(&client, &server).await;
    let gone = format!("{piece}/knife?tool=own-{}", Uuid::now_v7());
    let page = client.get(server.url(&gone)).send().await.unwrap().text().await.unwrap();
    assert!(page.contains("no longer hangs in your Kit"));
}

#[tokio::test]
async fn a_session_in_use_goes_on() {
    let server = Server::start().await;
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
