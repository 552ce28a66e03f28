//! A piece from Keep to the Book over HTTP, by the buttons its pages show; its plan changed, quarrelled over and taken back.

use crate::support::{Server, keep_belly, page, send, signed_up};
use jiff::{SignedDuration, Timestamp};
use serde_json::{Value, json};
use uuid::Uuid;

/// The first button of a page that goes to an address with this end.
fn button(html: &str, end: &str) -> Option<String> {
    let actions = html.split("action=\"").skip(1).map(|rest| rest.split('"').next().unwrap());
    actions.into_iter().find(|action| action.ends_with(end)).map(str::to_owned)
}

/// The task that comes next.
async fn next(cook: &reqwest::Client, server: &Server, piece: &str) -> Option<String> {
    let answer = cook.get(server.url(&format!("/api/v1{piece}/standing"))).send().await.unwrap();
    answer.json::<Value>().await.unwrap()["next"][0]["task"].as_str().map(str::to_owned)
}

#[tokio::test(flavor = "multi_thread")]
async fn a_piece_goes_to_the_book_by_its_own_buttons() {
    let server = Server::start().await;
    let cook = signed_up(&server).await;
    let piece = keep_belly(&cook, &server).await;
    let mut ticked = Vec::new();
    while let Some(task) = next(&cook, &server, &piece).await {
        let done = format!("{piece}/steps/{task}/done");
        assert!(page(&cook, &server, &piece).await.1.contains(&format!("action=\"{done}\"")), "{task} has a button");
        assert_eq!(send(&cook, &server, &done, &json!({})).await.0, 303, "{task}");
        assert!(!ticked.contains(&done), "{task} comes twice");
        ticked.push(done);
    }
    let step = |step: &str| format!("{piece}/steps/{step}/done");
    let at = |name: &str| ticked.iter().position(|t| *t == step(name)).unwrap_or_else(|| panic!("{name} in {ticked:?}"));
    assert!(at("lay-out") < at("salt") && at("salt") < at("chill") && at("chill") < at("temper"));
    // Sent again it changes nothing.
    let events = server.count("SELECT COUNT(*) AS n FROM events").await;
    assert_eq!(send(&cook, &server, &step("salt"), &json!({})).await.0, 303);
    assert_eq!(server.count("SELECT COUNT(*) AS n FROM events").await, events);
    let verdict = json!({"rim": "1", "middle": "0", "juice": "0", "version": "0"});
    assert_eq!(send(&cook, &server, &format!("{piece}/verdict"), &verdict).await.0, 303);
    assert!(page(&cook, &server, "/book").await.1.contains(&piece), "eaten and judged, it is in the Book");
    assert!(!page(&cook, &server, "/cellar").await.1.contains(&format!("href=\"{piece}\"")), "and no longer in the Cellar");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_step_is_taken_back_and_a_step_that_is_none_is_not_found() {
    let server = Server::start().await;
    let cook = signed_up(&server).await;
    let piece = keep_belly(&cook, &server).await;
    let first = format!("{piece}/steps/lay-out/done");
    assert_eq!(next(&cook, &server, &piece).await.as_deref(), Some("lay-out"));
    send(&cook, &server, &first, &json!({})).await;
    assert_eq!(next(&cook, &server, &piece).await.as_deref(), Some("dry"));
    let undone = button(&page(&cook, &server, &piece).await.1, "/lay-out/undone").expect("it can be taken back");
    assert_eq!(send(&cook, &server, &undone, &json!({})).await.0, 303);
    assert_eq!(next(&cook, &server, &piece).await.as_deref(), Some("lay-out"));
    for step in ["flambee", "salt%20", "..", "%00"] {
        let status = send(&cook, &server, &format!("{piece}/steps/{step}/done"), &json!({})).await.0;
        assert!(matches!(status, 404 | 422), "{step}: {status}");
    }
    let refused = send(&cook, &server, &first, &json!({"when": "at the crack of dawn"})).await;
    assert!(refused.0 == 422 && refused.1.contains("at the crack of dawn"), "{}", refused.0);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_plan_two_cooks_change_is_changed_once_and_taken_back_once() {
    let server = Server::start().await;
    let cook = signed_up(&server).await;
    let piece = keep_belly(&cook, &server).await;
    let id = piece.trim_start_matches("/pieces/").to_owned();
    let words = |weight: &str, over: &str| json!({"piece": id, "over": over, "cut": "pork-belly", "weight": weight, "thick": "45 mm", "key": Uuid::now_v7().to_string()});
    let plan = format!("{piece}/plan");
    let over = server.count("SELECT CAST(version AS SIGNED) AS n FROM pieces").await.to_string();
    assert_eq!(send(&cook, &server, &plan, &words("2.6 kg", &over)).await.0, 303);
    // The other had the same page before her: what she typed stays, and she sees it against the new plan.
    let (status, text) = send(&cook, &server, &plan, &words("2.2 kg", &over)).await;
    assert!(status == 409 && text.contains("value=\"2.2 kg\"") && text.contains("changed this piece meanwhile"), "{status}");
    let (status, text) = send(&cook, &server, &plan, &words("a lot", &over)).await;
    assert!(status == 422 && text.contains("value=\"a lot\""), "{status}");
    let standing = async || {
        let answer = cook.get(server.url(&format!("/api/v1{piece}/standing"))).send().await.unwrap();
        answer.json::<Value>().await.unwrap()["plan_version"].as_u64()
    };
    assert_eq!(standing().await, Some(2));
    let page_now = page(&cook, &server, &piece).await.1;
    assert!(page_now.contains("19.5"), "7.5 g/kg of 2.6 kg");
    let back = button(&page_now, "/plan/back").expect("it can be taken back");
    assert_eq!(send(&cook, &server, &back, &json!({"version": "2"})).await.0, 303);
    assert!(page(&cook, &server, &piece).await.1.contains("18.0"), "7.5 g/kg of 2.4 kg");
}

#[tokio::test(flavor = "multi_thread")]
async fn the_record_holds_what_happened_and_an_event_is_told_as_it_came() {
    let server = Server::start().await;
    let cook = signed_up(&server).await;
    let piece = keep_belly(&cook, &server).await;
    let now = Timestamp::now();
    let event = |minutes: i64, says: Value| {
        let mut event = json!({"id": Uuid::now_v7().to_string(), "at": (now - SignedDuration::from_mins(minutes)).to_string()});
        event.as_object_mut().unwrap().extend(says.as_object().unwrap().clone());
        event
    };
    let sent = json!({"sent_at": now.to_string(), "events": [
        event(30, json!({"what": "task-ended", "task": "lay-out"})),
        event(20, json!({"what": "note", "text": "skin thin at one corner"})),
    ]});
    let events = format!("/api/v1{piece}/events");
    let said: Value = cook.post(server.url(&events)).json(&sent).send().await.unwrap().json().await.unwrap();
    assert_eq!((&said["accepted"], &said["repeated"], &said["moved_s"]), (&json!(2), &json!(0), &json!(0.0)), "{said}");
    assert!(said["now"].as_str().unwrap().parse::<jiff::Timestamp>().is_ok(), "by which a sender learns how far off its clock is");
    let record = page(&cook, &server, &format!("{piece}/record.json")).await;
    let record: Value = serde_json::from_str(&record.1).unwrap();
    let text = record.to_string();
    assert!(text.contains("skin thin at one corner") && text.contains("pork-belly") && text.contains("lay-out"), "{text}");
    // Hands that hold a knife see the step and nothing to read.
    let (status, hands) = page(&cook, &server, &format!("{piece}/hands")).await;
    assert!(status == 200 && hands.matches("<h1").count() == 1, "{status}");
    for (body, status) in [("{", 400), ("[]", 422), ("{\"events\": [7]}", 422)] {
        let request = cook.post(server.url(&events)).header("content-type", "application/json").body(body);
        assert_eq!(request.send().await.unwrap().status(), status, "{body}");
    }
}
