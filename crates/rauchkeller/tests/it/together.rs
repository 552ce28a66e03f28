//! Two cooks, two servers, and a tap that does not get through: nothing vanishes, and everybody sees it.

use crate::run::{ago, event, note, standing};
use crate::support::{Browser, Server, eventually, keep_belly, signed_up};
use jiff::Timestamp;
use serde_json::{Value, json};
use uuid::Uuid;

/// When a task was noted as over, by the piece's record.
async fn ended(client: &reqwest::Client, server: &Server, piece: &str, task: &str) -> Vec<Timestamp> {
    let record: Value = client.get(server.url(&format!("{piece}/record.json"))).send().await.unwrap().json().await.unwrap();
    let events = record["events"].as_array().unwrap();
    let of = |e: &&Value| e["what"] == "task-ended" && e["task"] == task;
    events.iter().filter(of).map(|e| e["at"].as_str().unwrap().parse().unwrap()).collect()
}

/// A browser in the kitchen of a cook who came by HTTP.
async fn enters(browser: &Browser, server: &Server, client: &reqwest::Client) {
    let page = client.post(server.url("/household/invitations")).send().await.unwrap().text().await.unwrap();
    let link = page.split("id=\"link\">").nth(1).unwrap().split('<').next().unwrap().to_owned();
    let path = link.find("/join/").map_or(link.as_str(), |at| &link[at..]);
    browser.go(&server.url(path)).await;
    browser.retype("[name=name]", "Jo").await;
    browser.retype("[name=address]", &format!("{}@example.org", Uuid::now_v7().simple())).await;
    browser.retype("[name=password]", "lantern gravel otter seven").await;
    browser.press(".door-card .button").await;
    browser.find("#cellar").await;
}

/// Holds Done until what comes of it is there.
async fn holds(browser: &Browser, until: &str) {
    browser.find("[data-done]").await;
    browser.js("document.querySelector('[data-done]').dispatchEvent(new PointerEvent('pointerdown', {bubbles: true}))").await;
    browser.find(until).await;
    browser.js("window.dispatchEvent(new PointerEvent('pointerup'))").await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_tap_under_which_the_server_stops_is_said_kept_and_noted_once_at_its_own_moment() {
    let mut server = Server::start("serve").await;
    let cook = signed_up(&server).await;
    let piece = keep_belly(&cook, &server).await;
    let browser = Browser::phone().await;
    enters(&browser, &server, &cook).await;
    browser.go(&server.url(&format!("{piece}/hands"))).await;
    let first = browser.text_when(".hands-title", |text| !text.is_empty()).await;
    server.kill();
    let tapped = Timestamp::now();
    holds(&browser, ".unsent").await;
    let said = browser.text_when(".unsent", |text| !text.is_empty()).await;
    assert!(said.contains("Not delivered") && said.contains("kept here"), "{said}");
    // Turning the page does not get through either, and is said too; the step that was tapped still stands there.
    browser.press("[data-next]").await;
    eventually("both are said", || async {
        browser.js("return document.querySelectorAll('.unsent').length").await.as_u64().filter(|n| *n == 2)
    })
    .await;
    assert_eq!(browser.text_when(".hands-title", |text| !text.is_empty()).await, first);
    // It was tapped before there was a server again, however long that one takes to answer.
    let by_then = Timestamp::now();
    let server = server.again();
    let at = eventually("the tap is in", || async {
        let noted = ended(&cook, &server, &piece, "lay-out").await;
        noted.first().copied()
    })
    .await;
    assert!(tapped <= at && at <= by_then, "noted at {at}, tapped between {tapped} and {by_then}");
    browser.gone(".unsent").await;
    browser.text_when(".hands-title", |text| text != first).await;
    assert_eq!(ended(&cook, &server, &piece, "lay-out").await.len(), 1, "and once");
    // What is sent again because its answer was lost is known by its tap: noted once, even where it was taken back meanwhile.
    let tap = Uuid::now_v7().to_string();
    let posted = async |what: &str, tap: &str, ago: &str| {
        let sent = cook.post(server.url(&format!("{piece}/steps/dry/{what}"))).header("tap-id", tap).header("tapped-ago", ago);
        assert_eq!(sent.send().await.unwrap().status(), 303);
    };
    posted("done", &tap, "0").await;
    posted("undone", &Uuid::now_v7().to_string(), "0").await;
    posted("done", &tap, "4000").await;
    assert_eq!(ended(&cook, &server, &piece, "dry").await.len(), 1);
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_form_that_leads_away_waits_for_the_server_with_all_that_was_typed() {
    let mut server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.sign_up(&server).await;
    let piece = browser.keeps(&server, "weight=2.4+kg").await;
    browser.retype("#p-name", "Belly for Saturday").await;
    server.kill();
    browser.press("#write-down").await;
    browser.text_when(".unsent", |text| text.contains("Not delivered")).await;
    let server = server.again();
    browser.text_when(".piece-name", |text| text.contains("Belly for Saturday")).await;
    assert!(browser.at("its page", |url| url.contains("/pieces/")).await.contains(&piece));
    drop(server);
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn what_one_cook_ticks_on_one_server_is_on_anothers_page_on_another_by_name() {
    let one = Server::start("serve").await;
    let two = Server::on("serve", &one.database);
    let cook = signed_up(&one).await;
    let piece = keep_belly(&cook, &one).await;
    let (jo, laptop) = (Browser::phone().await, Browser::laptop().await);
    enters(&jo, &two, &cook).await;
    enters(&laptop, &one, &cook).await;
    laptop.go(&one.url(&piece)).await;
    laptop.find("#piece").await;
    jo.go(&two.url(&format!("{piece}/hands"))).await;
    holds(&jo, "[data-undo]").await;
    jo.find("[data-undo]").await;
    let ticked = laptop.text_when(".tick.ticked", |text| text.contains("done")).await;
    assert!(ticked.contains("Jo"), "whose tick it is: {ticked}");
    let line = laptop.text_when(".told p", |text| !text.is_empty()).await;
    assert!(line.contains("Jo ticked a step of Pork belly"), "{line}");
    // What is being typed is not taken away: a line says so, and shows it when asked to.
    laptop.retype("#p-note", "thin at one end").await;
    jo.press("[data-next]").await;
    jo.gone("[data-undo]").await;
    holds(&jo, "[data-undo]").await;
    laptop.find(".told button:not([hidden])").await;
    assert_eq!(laptop.js("return document.querySelector('#p-note').value").await, "thin at one end");
    assert_eq!(laptop.js("return document.querySelectorAll('.tick.ticked').length").await, 1);
    // So it is in the Cellar, and of what a program notes.
    laptop.go(&one.url("/cellar")).await;
    laptop.find("#cellar").await;
    let felt = event(&ago(0), json!({"what": "note", "text": "skin thin at one corner"}));
    assert_eq!(note(&cook, &one, &piece, &[felt]).await.0, 200);
    laptop.text_when(".told p", |text| text.contains("noted something on")).await;
    // A hidden page listens to nothing; seen again it looks what happened meanwhile.
    let seen = |hidden: bool| {
        format!(
            "Object.defineProperty(document, 'hidden', {{ value: {hidden}, configurable: true }});
            document.dispatchEvent(new Event('visibilitychange'));
            return Alpine.$data(document.querySelector('.told')).stream === null;"
        )
    };
    assert_eq!(laptop.js(&seen(true)).await, true, "its stream is closed");
    let second = keep_belly(&cook, &one).await;
    assert_eq!(laptop.js(&seen(false)).await, false, "it listens again");
    laptop.find(&format!("#cellar a[href^='{second}']")).await;
    jo.close().await;
    laptop.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn two_moments_of_one_task_are_asked_about_and_the_earlier_counts_until_then() {
    let server = Server::start("serve").await;
    let cook = signed_up(&server).await;
    let piece = keep_belly(&cook, &server).await;
    // The later note comes first: an earlier one may not replace it without a word.
    for minutes in [10, 40] {
        assert_eq!(note(&cook, &server, &piece, &[event(&ago(minutes), json!({"what": "task-ended", "task": "lay-out"}))]).await.0, 200);
    }
    let asked = standing(&cook, &server, &piece).await["asked"].clone();
    let question = asked.as_array().unwrap().iter().find(|a| a["code"] == "two-moments").unwrap_or_else(|| panic!("{asked}")).clone();
    assert!(question["says"].as_str().unwrap().contains("was noted twice"), "{question}");
    let page = cook.get(server.url(&piece)).send().await.unwrap().text().await.unwrap();
    assert!(page.contains("It was the later one"), "both are offered");
    let answer = cook.post(server.url(&format!("{piece}/asked"))).form(&json!({"question": question["question"], "how": "back"}));
    assert!(answer.send().await.unwrap().status().is_redirection());
    assert_eq!(standing(&cook, &server, &piece).await["asked"], json!([]), "answered, it is asked no more");
    let record: Value = cook.get(server.url(&format!("{piece}/record.json"))).send().await.unwrap().json().await.unwrap();
    let voids: Vec<&Value> = record["events"].as_array().unwrap().iter().filter(|e| e["what"] == "voided").collect();
    assert_eq!(voids.len(), 1, "the earlier one was taken back");
    // Two who note the same moment a minute apart are not asked.
    for seconds in ["5", "4"] {
        let minutes = seconds.parse().unwrap();
        note(&cook, &server, &piece, &[event(&ago(minutes), json!({"what": "task-ended", "task": "dry"}))]).await;
    }
    assert!(!standing(&cook, &server, &piece).await["asked"].as_array().unwrap().iter().any(|a| a["code"] == "two-moments"));
}

#[tokio::test(flavor = "multi_thread")]
async fn the_clock_of_safety_does_not_go_by_a_clock_that_was_moved() {
    let server = Server::start("serve").await;
    let cook = signed_up(&server).await;
    let piece = keep_belly(&cook, &server).await;
    let out = [event(&ago(30), json!({"what": "task-ended", "task": "dry"})), event(&ago(30), json!({"what": "moved", "place": "bench"}))];
    assert_eq!(note(&cook, &server, &piece, &out).await.0, 200);
    let browser = Browser::phone().await;
    enters(&browser, &server, &cook).await;
    browser.go(&server.url(&format!("{piece}/hands"))).await;
    let minutes = || async { browser.js("return Number(document.querySelector('.hands-out').dataset.minutes)").await.as_u64().unwrap() };
    eventually("it counts", || async { (minutes().await >= 30).then_some(()) }).await;
    let before = minutes().await;
    // The device's clock goes back by two hours under the page: the time out does not, and it is said.
    browser.js("const real = Date.now; Date.now = () => real() - 7200000").await;
    browser.text_when(".hands-jump", |text| text.contains("clock was moved")).await;
    assert!(minutes().await >= before);
    browser.close().await;
}
