//! The Bench over HTTP: what its words refuse, what lies on it, what is kept of it.

use crate::support::{Server, page, send, signed_up};
use serde_json::{Value, json};
use uuid::Uuid;

/// A word, what is typed, and what the sentence beside it says.
const SLIPS: [(&str, &str, &str); 16] = [
    ("weight", "heavy", "heavy"),
    ("weight", "0 kg", "0 kg"),
    ("weight", "900 kg", "900 kg"),
    ("thick", "thick", "thick"),
    ("thick", "2 m", "2000 mm"),
    ("skin", "thin as paper", "thin as paper"),
    ("fat", "-4 mm", "-4 mm"),
    ("bought", "yesterweek", "yesterweek"),
    ("dose", "lots", "lots"),
    ("dose", "90 g/kg", "90"),
    ("also", "a secret", "a secret"),
    ("serve", "when it is done", "when it is done"),
    ("servings", "a crowd", "a crowd"),
    ("room", "hot", "hot"),
    ("hours", "long", "long"),
    ("goal", "crisp", "crisp"),
];

#[tokio::test(flavor = "multi_thread")]
async fn every_word_that_cannot_be_is_said_beside_it_and_nothing_is_kept() {
    let server = Server::start().await;
    let cook = signed_up(&server).await;
    for (word, typed, says) in SLIPS {
        let mut form = json!({"cut": "pork-belly", "weight": "2.4 kg", "thick": "45 mm", "by": "model", "key": Uuid::now_v7().to_string()});
        form[word] = typed.into();
        let (status, text) = send(&cook, &server, "/pieces", &form).await;
        assert_eq!(status, 422, "{word} = {typed}");
        let slip = text.split(&format!("id=\"slip-{word}\"")).nth(1).unwrap_or_else(|| panic!("no slip at {word} = {typed}"));
        let slip = slip.split("</").next().unwrap();
        assert!(slip.contains(says), "{word} = {typed}: {slip}");
        let stays = [format!("value=\"{typed}\""), format!(">{typed}</textarea>")];
        assert!(stays.iter().any(|stays| text.contains(stays)), "{word} = {typed} stays as typed");
    }
    assert_eq!(server.count("SELECT COUNT(*) AS n FROM pieces").await, 0);
}

/// The address the Bench leads to, if it leads anywhere.
async fn leads_to(client: &reqwest::Client, server: &Server, path: &str) -> Option<String> {
    let answer = client.get(server.url(path)).send().await.unwrap();
    answer.headers().get("location").map(|to| to.to_str().unwrap().to_owned())
}

/// A cut by another name: one cut's leads there, several ask, and what is cooked is refused; nothing of it is kept.
#[tokio::test(flavor = "multi_thread")]
async fn a_cut_is_understood_by_its_other_names() {
    let server = Server::start().await;
    let cook = signed_up(&server).await;
    let to = leads_to(&cook, &server, "/bench?cutname=Schweinenacken&weight=3+kg").await.expect("a cut");
    assert!(to.contains("cut=pork-butt") && to.contains("weight=3+kg") && !to.contains("cutname"), "{to}");
    let (_, asked) = page(&cook, &server, "/bench?cutname=sirloin&weight=1+kg").await;
    for name in ["Beef strip steak", "Beef sirloin steak", "Beef sirloin roast"] {
        assert!(asked.contains(&format!("value=\"cutname={name}\"")), "{name} can be tapped");
    }
    let taken = leads_to(&cook, &server, "/bench?cutname=sirloin&weight=1+kg&take=cutname%3DBeef+sirloin+roast").await.expect("taken");
    assert_eq!(leads_to(&cook, &server, &taken).await.expect("named").matches("cut=beef-sirloin-roast").count(), 1);
    for (typed, says) in [("cooked ham", "it is cooked already"), ("dragon tail", "is no cut this kitchen knows")] {
        let form = json!({"cutname": typed, "weight": "2 kg", "key": Uuid::now_v7().to_string()});
        let (status, text) = send(&cook, &server, "/pieces", &form).await;
        assert!(status == 422 && text.contains(says) && text.contains(&format!("value=\"{typed}\"")), "{typed}");
    }
    assert_eq!(server.count("SELECT COUNT(*) AS n FROM pieces").await, 0);
}

fn key_of(html: &str) -> String {
    html.split("name=\"key\" value=\"").nth(1).unwrap()[..36].to_owned()
}

#[tokio::test(flavor = "multi_thread")]
async fn a_sentence_lies_on_the_bench_until_it_is_kept_or_started_anew() {
    let server = Server::start().await;
    let cook = signed_up(&server).await;
    let said = "/bench?cut=pork-belly&weight=2.1+kg";
    assert_eq!(leads_to(&cook, &server, "/bench").await, None);
    page(&cook, &server, said).await;
    assert_eq!(leads_to(&cook, &server, "/bench").await.as_deref(), Some(said));
    // A neighbour at the same browser would not see it: it is bound to the cook.
    assert_eq!(leads_to(&cook, &server, "/bench?new=1").await.as_deref(), Some("/bench"));
    assert_eq!(leads_to(&cook, &server, "/bench").await, None);
}

/// The answer to the last word may come after the piece was kept: it lays the sentence down again.
#[tokio::test(flavor = "multi_thread")]
async fn an_answer_that_comes_after_keep_does_not_bring_the_sentence_back() {
    let server = Server::start().await;
    let cook = signed_up(&server).await;
    let (_, html) = page(&cook, &server, "/bench?cut=pork-belly&weight=1.9+kg").await;
    let key = key_of(&html);
    let kept = send(&cook, &server, "/pieces", &json!({"cut": "pork-belly", "weight": "1.9 kg", "key": key})).await;
    assert_eq!(kept.0, 303);
    let late = format!("/bench?cut=pork-belly&weight=1.9+kg&name=Sunday&key={key}");
    assert_eq!(page(&cook, &server, &late).await.0, 200);
    assert_eq!(leads_to(&cook, &server, "/bench").await.as_deref(), Some("/bench"), "what lies there was kept");
    assert_eq!(leads_to(&cook, &server, "/bench").await, None, "and it is cleared away");
    // The same words in a new form are another piece.
    page(&cook, &server, "/bench?cut=pork-belly&weight=1.9+kg").await;
    assert!(leads_to(&cook, &server, "/bench").await.is_some());
}

#[tokio::test(flavor = "multi_thread")]
async fn no_piece_is_kept_without_a_key_and_one_by_the_same_key() {
    let server = Server::start().await;
    let cook = signed_up(&server).await;
    let words = |key: &str| json!({"cut": "duck-whole", "weight": "2.1 kg", "key": key});
    for key in ["", "nonsense"] {
        assert_eq!(send(&cook, &server, "/pieces", &words(key)).await.0, 422, "{key}");
    }
    let key = Uuid::now_v7().to_string();
    for _ in 0..2 {
        assert_eq!(send(&cook, &server, "/pieces", &words(&key)).await.0, 303);
    }
    assert_eq!(server.count("SELECT COUNT(*) AS n FROM pieces").await, 1);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_program_that_asks_for_a_part_gets_a_part_with_its_address() {
    let server = Server::start().await;
    let cook = signed_up(&server).await;
    let asked = cook.get(server.url("/bench?cut=pork-belly&weight=2+kg")).header("hx-request", "true").header("hx-request-type", "partial");
    let answer = asked.send().await.unwrap();
    assert_eq!(answer.headers()["hx-replace-url"], "/bench?cut=pork-belly&weight=2+kg");
    assert_eq!(answer.headers()["vary"], "HX-Request, HX-Request-Type");
    let part = answer.text().await.unwrap();
    assert!(part.trim_start().starts_with("<form") && !part.contains("<html"), "{}", part.chars().take(80).collect::<String>());
    let (_, whole) = page(&cook, &server, "/bench?cut=pork-belly&weight=2+kg").await;
    assert!(whole.contains("<html") && whole.contains(&part[..60]));
}

#[tokio::test(flavor = "multi_thread")]
async fn grams_on_the_bench_are_the_api_s() {
    let server = Server::start().await;
    let cook = signed_up(&server).await;
    let (_, html) = page(&cook, &server, "/bench?cut=pork-belly&weight=2.4+kg&thick=45+mm&dose=12+g%2Fkg").await;
    let shown = html.split("id=\"grams\">").nth(1).unwrap().split('<').next().unwrap();
    // 12 g/kg of 2.4 kg.
    assert_eq!(shown, "28.8");
    let request = json!({"piece": {"cut": "pork-belly", "weight_g": 2400, "salt_thickness_mm": 45}, "salt": {"g_per_kg": 12}});
    let plan: Value = cook.post(server.url("/api/v1/plan")).json(&request).send().await.unwrap().json().await.unwrap();
    assert!((plan["dose"]["to_weigh_g"].as_f64().unwrap_or_default() - 28.8).abs() < 0.05, "{plan}");
}
