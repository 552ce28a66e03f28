//! The JSON API and what guards it.

use crate::support::{Server, http, keep_belly, signed_up};
use rauchkeller_contract::{EXAMPLE, PlanDoc, plan_from};
use serde_json::{Value, json};

#[tokio::test(flavor = "multi_thread")]
async fn the_api_answers_what_the_core_answers() {
    let server = Server::start().await;
    let request: Value = serde_json::from_str(EXAMPLE).unwrap();
    let answer = http().post(server.url("/api/v1/plan")).json(&request).send().await.unwrap();
    assert_eq!(answer.status(), 200);
    let now = "2026-12-10T09:00[Europe/Vienna]".parse().unwrap();
    assert_eq!(answer.json::<PlanDoc>().await.unwrap(), plan_from(&request, &now).unwrap());
}

#[tokio::test(flavor = "multi_thread")]
async fn refusals_have_their_own_status() {
    let server = Server::start().await;
    let post = |kind: &'static str, body: Vec<u8>| http().post(server.url("/api/v1/plan")).header("content-type", kind).body(body).send();
    assert_eq!(post("application/json", b"{".to_vec()).await.unwrap().status(), 400);
    assert_eq!(post("text/plain", b"{}".to_vec()).await.unwrap().status(), 415);
    assert_eq!(post("application/json", vec![b' '; 1_000_000]).await.unwrap().status(), 413);
    let wrong = post("application/json", br#"{"piece": {"cut": "pork-belly", "weight_g": 0}}"#.to_vec()).await.unwrap();
    assert_eq!(wrong.status(), 422);
    let problems: Value = wrong.json().await.unwrap();
    assert_eq!(problems["problems"][0]["field"], "piece.weight_g");
    assert!(problems["problems"][0]["do"].as_str().unwrap().len() > 5);
}

/// 200 junk bodies; every one is the sender's mistake, and none is ours.
#[tokio::test(flavor = "multi_thread")]
async fn two_hundred_junk_bodies_give_only_client_errors() {
    let server = Server::start().await;
    let client = http();
    let leaves = [
        "1e400",
        "-1e308",
        "1e308",
        "NaN",
        "Infinity",
        "null",
        "true",
        "[]",
        "{}",
        "\"\"",
        "\"heavy\"",
        "-0",
        "0",
        "99999999999999999999",
        "\"2020-01-01T00:00[UTC]\"",
        "\"9999-12-31T23:59[UTC]\"",
        "[[[[[[]]]]]]",
        "\"\\u0000\"",
        "\"🐖🐖🐖\"",
        "-2400",
    ];
    let fields = ["weight_g", "salt_thickness_mm", "cut", "bought_on", "portions"];
    let mut bodies: Vec<Vec<u8>> = Vec::new();
    for leaf in leaves {
        for field in fields {
            let cut = if field == "cut" { leaf.to_owned() } else { "\"pork-belly\"".to_owned() };
            let weight = if field == "weight_g" { leaf } else { "-5" };
            bodies.push(format!(r#"{{"piece": {{"cut": {cut}, "weight_g": {weight}, "{field}": {leaf}}}}}"#).into_bytes());
        }
        for top in ["serve_at", "hours", "salt", "done"] {
            bodies.push(format!(r#"{{"piece": {{"cut": "pork-belly", "weight_g": -1}}, "{top}": {leaf}}}"#).into_bytes());
        }
    }
    bodies.extend([vec![], b"null".to_vec(), vec![0xff; 64], vec![b'['; 20_000], vec![b'a'; 1_000_000]]);
    bodies.extend((0..15u8).map(|i| vec![i, b'{', 0xc3, i]));
    assert!(bodies.len() >= 200);
    for body in bodies {
        let shown = String::from_utf8_lossy(&body).chars().take(120).collect::<String>();
        let status =
            client.post(server.url("/api/v1/plan")).header("content-type", "application/json").body(body).send().await.unwrap().status();
        assert!(status.is_client_error(), "{status} for {shown}");
    }
    let past = json!({"piece": {"cut": "pork-belly", "weight_g": 2400}, "serve_at": "2020-01-01T12:00[UTC]"});
    assert_eq!(client.post(server.url("/api/v1/plan")).json(&past).send().await.unwrap().status(), 422);
    assert_eq!(
        client
            .post(server.url("/api/v1/plan"))
            .json(&json!({"piece": {"cut": "pork-belly", "weight_g": 2400}}))
            .send()
            .await
            .unwrap()
            .status(),
        200
    );
}

#[tokio::test(flavor = "multi_thread")]
async fn strangers_cross_sites_and_inline_script_stay_out() {
    let server = Server::start().await;
    let cook = signed_up(&server).await;
    let piece = keep_belly(&cook, &server).await;
    // A stranger is sent to the door; another household does not see the piece.
    let stranger = http().get(server.url(&piece)).send().await.unwrap();
    assert_eq!((stranger.status().as_u16(), stranger.headers()["location"].to_str().unwrap()), (303, "/sign-in"));
    let neighbour = signed_up(&server).await;
    assert_eq!(neighbour.get(server.url(&piece)).send().await.unwrap().status(), 404);
    assert_eq!(neighbour.post(server.url(&format!("{piece}/remove"))).send().await.unwrap().status(), 404);
    // A post from another site is refused although the cookie is there.
    let crossed = cook
        .post(server.url(&format!("{piece}/remove")))
        .header("sec-fetch-site", "cross-site")
        .header("origin", "https://elsewhere.example")
        .send()
        .await
        .unwrap();
    assert_eq!(crossed.status(), 403);
    let page = cook.get(server.url(&piece)).send().await.unwrap();
    assert_eq!(page.status(), 200);
    let policy = page.headers()["content-security-policy"].to_str().unwrap().to_owned();
    assert!(policy.contains("script-src 'self'") && !policy.contains("unsafe"));
    let body = page.text().await.unwrap();
    assert!(!body.contains("Put it back") && !body.contains(" style=") && !body.contains("<script>"));
}

#[tokio::test(flavor = "multi_thread")]
async fn the_same_form_twice_keeps_one_piece_and_bad_forms_keep_what_was_typed() {
    let server = Server::start().await;
    let cook = signed_up(&server).await;
    let form = json!({"cut": "duck-whole", "weight": "2 × 2.1 kg", "key": uuid::Uuid::now_v7().to_string()});
    let mut places = Vec::new();
    for _ in 0..3 {
        let answer = cook.post(server.url("/pieces")).form(&form).send().await.unwrap();
        places.push(answer.headers()["location"].to_str().unwrap().to_owned());
    }
    places.dedup();
    assert_eq!(places.len(), 1);
    let wrong = cook
        .post(server.url("/pieces"))
        .form(&json!({"cut": "duck-whole", "weight": "two ducks", "key": uuid::Uuid::now_v7().to_string()}))
        .send()
        .await
        .unwrap();
    assert_eq!(wrong.status(), 422);
    let body = wrong.text().await.unwrap();
    assert!(body.contains(r#"value="two ducks""#) && body.contains("role=\"alert\""));
    for path in ["/pieces/not-an-id", "/pieces/00000000-0000-0000-0000-000000000000", "/nowhere"] {
        assert_eq!(cook.get(server.url(path)).send().await.unwrap().status(), 404, "{path}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn guessing_a_password_is_braked() {
    let server = Server::start().await;
    signed_up(&server).await;
    let guess = json!({"address": "nobody@example.org", "password": "guess guess guess"});
    let mut last = 0;
    for _ in 0..9 {
        last = http().post(server.url("/sign-in")).form(&guess).send().await.unwrap().status().as_u16();
    }
    assert_eq!(last, 429);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_flood_from_one_address_is_held_back_in_words() {
    let server = Server::start().await;
    let client = http();
    // Bursts of 500 pass; far more at once does not.
    let mut statuses = Vec::new();
    for _ in 0..12 {
        let burst: Vec<_> = (0..100).map(|_| tokio::spawn(client.get(server.url("/api/v1/list/nothing")).send())).collect();
        for answer in burst {
            statuses.push(answer.await.unwrap().unwrap().status().as_u16());
        }
    }
    assert_eq!(statuses[0], 404);
    assert!(statuses.contains(&429), "1,200 requests at once all passed");
}

#[test]
fn the_committed_openapi_document_is_the_served_one() {
    let committed = include_str!("../../../../docs/openapi.json");
    assert_eq!(committed, rauchkeller_web::openapi(), "cargo run -p rauchkeller -- openapi > docs/openapi.json");
    let document: Value = serde_json::from_str(committed).unwrap();
    assert!(document["paths"]["/api/v1/plan"]["post"]["responses"]["422"].is_object());
}
