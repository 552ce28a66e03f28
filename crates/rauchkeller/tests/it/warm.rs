//! A refrigerator too warm, where the meat is; and plans that are not fine as they stand.

use crate::support::{Browser, Server, keep_belly, signed_up};
use serde_json::json;
use uuid::Uuid;

async fn text(client: &reqwest::Client, server: &Server, path: &str) -> String {
    let answer = client.get(server.url(path)).send().await.unwrap();
    assert_eq!(answer.status(), 200, "{path}");
    answer.text().await.unwrap()
}

async fn say(client: &reqwest::Client, server: &Server, what: &str, form: serde_json::Value) -> (u16, String) {
    let answer = client.post(server.url(&format!("/refrigerator/{what}"))).form(&form).send().await.unwrap();
    (answer.status().as_u16(), answer.text().await.unwrap())
}

#[tokio::test]
async fn fourteen_degrees_stop_every_piece_and_the_cellar() {
    let server = Server::start("serve").await;
    let client = signed_up(&server).await;
    let piece = keep_belly(&client, &server).await;
    assert!(!text(&client, &server, "/cellar").await.contains("id=\"stop\""));
    assert_eq!(say(&client, &server, "air", json!({"c": "14", "rh": "", "version": 0})).await.0, 303);
    for page in [piece.clone(), format!("{piece}/hands"), format!("{piece}/chill"), "/cellar".to_owned()] {
        let shown = text(&client, &server, &page).await;
        assert!(shown.contains("id=\"stop\"") && shown.contains("14 °C") && shown.contains("Since when?"), "{page}");
    }
    // What cannot be is said beside its field, and what was typed stays.
    let shown = text(&client, &server, "/refrigerator").await;
    let spell = shown.split("name=\"spell\" value=\"").nth(1).unwrap().split('"').next().unwrap().to_owned();
    let (status, shown) = say(&client, &server, "since", json!({"spell": spell, "when": "once upon a time"})).await;
    assert!(status == 422 && shown.contains("id=\"slip-when\"") && shown.contains("value=\"once upon a time\""), "{status}");
    let (status, shown) = say(&client, &server, "stood-open", json!({"long": "ages", "until": "later"})).await;
    assert!(status == 422 && shown.contains("“ages” is no length of time") && shown.contains("id=\"slip-until\""), "{status}");
    // Since yesterday, and cold again: who says since when has not mistyped the thermometer.
    assert_eq!(say(&client, &server, "since", json!({"spell": spell, "when": "yesterday 12:00"})).await.0, 303);
    assert_eq!(say(&client, &server, "air", json!({"c": "4", "rh": "", "version": 1})).await.0, 303);
    let shown = text(&client, &server, &piece).await;
    // It was kept a moment ago, so only that moment counts.
    assert!(shown.contains("class=\"stop amber\"") && shown.contains("are left of the 2 h"), "amber");
}

#[tokio::test]
async fn three_hours_of_one_piece_are_its_own() {
    let server = Server::start("serve").await;
    let client = signed_up(&server).await;
    let form = json!({"cut": "pork-belly", "weight": "2.4 kg", "bought": "yesterday", "key": Uuid::now_v7().to_string()});
    let kept = client.post(server.url("/pieces")).form(&form).send().await.unwrap();
    assert_eq!(kept.status(), 303);
    let belly = kept.headers()["location"].to_str().unwrap().to_owned();
    let other = keep_belly(&client, &server).await;
    let id = belly.rsplit('/').next().unwrap();
    let key = Uuid::now_v7().to_string();
    let note = json!({"long": "3 h", "until": "", "which": id, "key": key});
    assert_eq!(say(&client, &server, "stood-open", note.clone()).await.0, 303);
    assert_eq!(say(&client, &server, "stood-open", note).await.0, 303);
    assert_eq!(server.count("SELECT COUNT(*) AS n FROM warm_spells").await, 1, "sent twice, noted once");
    let shown = text(&client, &server, &belly).await;
    assert!(shown.contains("class=\"stop red\"") && shown.contains("3 h above 4.4 °C") && shown.contains("Discard it"));
    assert!(!text(&client, &server, &other).await.contains("id=\"stop\""));
    // Taken back, and put in again.
    let shown = text(&client, &server, "/refrigerator").await;
    let forget =
        shown.split("action=\"/refrigerator/").find(|part| part.contains("/delete\"")).unwrap().split('/').next().unwrap().to_owned();
    assert_eq!(say(&client, &server, &format!("{forget}/delete"), json!({})).await.0, 303);
    assert!(!text(&client, &server, &belly).await.contains("id=\"stop\""));
    assert_eq!(say(&client, &server, &format!("{forget}/restore"), json!({})).await.0, 303);
    assert!(text(&client, &server, &belly).await.contains("id=\"stop\""));
    // Nobody else's.
    let stranger = signed_up(&server).await;
    assert_eq!(say(&stranger, &server, &format!("{forget}/delete"), json!({})).await.0, 404);
}

#[tokio::test]
async fn a_plan_that_is_not_fine_is_kept_only_knowingly() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.sign_up(&server).await;
    browser.go(&server.url("/refrigerator")).await;
    browser.retype("#f-c", "14").await;
    browser.press("#say-air").await;
    browser.text_when("#fridge-c", |text| text == "14").await;
    browser.go(&server.url("/bench?cut=pork-belly&weight=2.4+kg")).await;
    browser.find("#keep:disabled").await;
    browser.press("#knowing").await;
    browser.press("#keep:not(:disabled)").await;
    let said = browser.text_when("#knowing", |text| text.contains("Kept knowingly")).await;
    assert!(said.contains("14 °C"), "{said}");
    assert_eq!(server.count("SELECT COUNT(*) AS n FROM pieces WHERE request LIKE '%knowing%fridge-too-warm%'").await, 1);
    browser.close().await;
}

#[tokio::test]
async fn the_cellar_waits_for_the_thaw_and_not_for_what_comes_after_it() {
    let server = Server::start("serve").await;
    let client = signed_up(&server).await;
    let form = json!({"cut": "turkey-whole", "weight": "12 lb", "stands": "frozen", "key": Uuid::now_v7().to_string()});
    let kept = client.post(server.url("/pieces")).form(&form).send().await.unwrap();
    assert_eq!(kept.status(), 303);
    let cellar = text(&client, &server, "/cellar").await;
    let by_hand = cellar.split("<h2>By hand</h2>").nth(1).unwrap().split("</ul>").next().unwrap();
    let first = by_hand.split("<li>").nth(1).unwrap();
    assert!(first.contains("into the refrigerator to thaw"), "{first}");
    assert!(cellar.contains("to thaw, 1 min of work"), "it is the headline’s work");
}
