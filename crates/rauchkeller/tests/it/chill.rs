//! The refrigerator rest, as a cook does it: weighed in on the simulated scale, asked about a forgotten tray, hours dragged,
//! an oversalted steak rescued.

use crate::salt::{Scale, hang_scale};
use crate::support::{Browser, Server, eventually, http, keep_belly, signed_up};
use jiff::{SignedDuration, Timestamp};
use serde_json::json;

/// Ticks steps of a kept piece until its salt is on, through the page.
async fn salt_it(browser: &Browser, server: &Server, piece: &str) {
    browser.go(&server.url(piece)).await;
    eventually("the salt is ticked", || async {
        if browser.js("return document.querySelector('#to-chill') !== null").await == json!(true) {
            return Some(());
        }
        // Steps before the salt first, in their order, each answered before the next.
        browser.js("document.querySelector('.step:not(.is-done) .tick')?.click()").await;
        None
    })
    .await;
}

/// Keeps a piece of the sentence and gives its address.
async fn kept(browser: &Browser, server: &Server, sentence: &str) -> String {
    browser.go(&server.url(&format!("/bench?{sentence}"))).await;
    browser.press("#keep:not(:disabled)").await;
    let at = browser.at("a piece", |url| url.contains("/pieces/")).await;
    let path = at.split_once("/pieces/").unwrap().1;
    format!("/pieces/{}", path.split(['/', '?']).next().unwrap())
}

/// A wall time so many hours ago, with its zone.
fn hours_ago(hours: i64) -> String {
    let at = (Timestamp::now() - SignedDuration::from_hours(hours)).to_zoned_datetime(jiff::tz::TimeZone::UTC);
    at.strftime("%Y-%m-%dT%H:%M[UTC]").to_string()
}

/// The sentence of a belly that has lain salted in the cold for so many hours.
fn belly_since(hours: i64) -> String {
    let since = hours_ago(hours).replace('[', "%5B").replace(']', "%5D");
    format!("cut=pork-belly&weight=2.4+kg&thick=45+mm&skin=2.5+mm&stands=salted&since={since}&on=18+g&bought=today")
}

async fn text(browser: &Browser, css: &str) -> String {
    browser.text_when(css, |text| !text.trim().is_empty()).await
}

async fn notes(browser: &Browser) -> u64 {
    browser.js("return document.querySelectorAll('.notes-list li').length").await.as_u64().unwrap()
}

#[tokio::test]
async fn a_belly_is_weighed_in_on_the_scale_and_the_forecast_moves() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.sign_up(&server).await;
    let token = hang_scale(&browser, &server).await;
    let scale = Scale::start(&server, &token);
    // It went into the cold salted, thirty hours ago.
    let piece = kept(&browser, &server, &belly_since(30)).await;
    browser.go(&server.url(&format!("{piece}/chill"))).await;
    let planned = text(&browser, "#when").await;
    assert!(text(&browser, "#learned").await.contains("our estimate"), "nothing is learned yet");
    // A tray is met at its first weigh-in; what is wrong is said at its field and what was typed stays.
    browser.retype("#r-gross", "heavy").await;
    browser.press("#note-weight").await;
    assert!(text(&browser, "#slip-gross").await.contains("“heavy” is no weight"));
    assert_eq!(browser.js("return document.querySelector('#r-gross').value").await, json!("heavy"));
    assert!(text(&browser, "#slip-trayempty").await.contains("weigh it empty"));
    assert_eq!(notes(&browser).await, 0, "nothing half-stored");
    // The piece on its tray, on the simulated scale: one tap takes the number, one notes it.
    scale.hand("put?g=2980").await;
    browser.retype("#r-trayname", "black tray").await;
    browser.retype("#r-trayempty", "640").await;
    weigh(&browser, 2980.0).await;
    eventually("the first weighing stands", || async { (notes(&browser).await == 1).then_some(()) }).await;
    assert_eq!(browser.js("return document.querySelector('#r-gross').value").await, json!(""), "noted, so the field is free again");
    assert!(browser.text_when("#learned", |t| t.contains("estimate")).await.contains("weighed in twice"), "one weighing teaches nothing");
    // It was weighed ten hours ago, and is only noted now: taken back, and said with its hour.
    browser.press(".notes-list li:first-child button").await;
    eventually("taken back", || async { (notes(&browser).await == 0).then_some(()) }).await;
    browser.retype("#r-when", "the other day").await;
    weigh(&browser, 2980.0).await;
    assert!(!text(&browser, "#slip-when").await.is_empty(), "no such hour");
    browser.retype("#r-when", &hours_ago(10)).await;
    weigh(&browser, 2980.0).await;
    eventually("the first weighing stands again", || async { (notes(&browser).await == 1).then_some(()) }).await;
    scale.hand("put?g=-118").await;
    browser.go(&server.url(&format!("{piece}/chill"))).await;
    weigh(&browser, 2862.0).await;
    browser.text_when("#learned", |t| t.contains("learned from 2 weighings")).await;
    let moved = text(&browser, "#when").await;
    assert_ne!(moved, planned, "the forecast moved");
    assert!(browser.js("return document.querySelectorAll('#chill .curve-wide .weight').length").await == json!(2));
    assert!(text(&browser, "#chill .curve-wide .planned-name").await.contains("as planned"));
    // Felt, and taken back, and put in again.
    browser.press(".touch-key-2").await;
    eventually("felt", || async { (notes(&browser).await == 3).then_some(()) }).await;
    browser.press(".notes-list li:first-child button").await;
    eventually("taken back", || async { (notes(&browser).await == 2).then_some(()) }).await;
    browser.press("#put-back").await;
    eventually("put in again", || async { (notes(&browser).await == 3).then_some(()) }).await;
    browser.close().await;
}

/// Waits until the scale shows it, takes the number and notes it: two taps.
async fn weigh(browser: &Browser, g: f64) {
    let near = move |text: &str| text.split_whitespace().filter_map(|w| w.parse::<f64>().ok()).any(|shown| (shown - g).abs() < 3.0);
    browser.text_when("#scale-r-gross", near).await;
    browser.press("#scale-r-gross [data-take]").await;
    browser.press("#note-weight").await;
}

#[tokio::test]
async fn a_forgotten_tray_is_asked_about_before_it_counts() {
    let server = Server::start("serve").await;
    let browser = Browser::phone().await;
    browser.sign_up(&server).await;
    let piece = kept(&browser, &server, &belly_since(30)).await;
    browser.go(&server.url(&format!("{piece}/chill"))).await;
    browser.retype("#r-trayname", "black tray").await;
    browser.retype("#r-trayempty", "640 g").await;
    browser.retype("#r-gross", "3.01 kg").await;
    browser.retype("#r-when", &hours_ago(10)).await;
    browser.press("#note-weight").await;
    eventually("noted", || async { (notes(&browser).await == 1).then_some(()) }).await;
    // 2905 g with the tray would be good; the piece alone is on the scale.
    browser.retype("#r-gross", "2265").await;
    browser.press("#note-weight").await;
    let asked = browser.text_when(".question", |text| text.contains("without it?")).await;
    assert!(asked.contains("the tray weighs 640 g"), "{asked}");
    assert!(text(&browser, "#learned").await.contains("estimate"), "it does not count until it is answered");
    browser.go(&server.url("/cellar")).await;
    browser.text_when(".cellar-foot", |text| text.contains("a weighing does not fit")).await;
    browser.go(&server.url(&format!("{piece}/chill"))).await;
    browser.press(".question button[value=tray-missing]").await;
    browser.text_when("#learned", |text| text.contains("learned from 2 weighings")).await;
    browser.gone(".question").await;
    assert!(text(&browser, ".notes-list").await.contains("without the tray"));
    browser.close().await;
}

#[tokio::test]
async fn hours_are_dragged_and_slice_mouthfuls_grams_and_cautions_follow() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.sign_up(&server).await;
    let piece = kept(&browser, &server, &belly_since(2)).await;
    browser.go(&server.url(&format!("{piece}/chill"))).await;
    let early = figures(&browser).await;
    assert!(text(&browser, "#hour-cautions").await.contains("chewy patches"), "a wet skin is said");
    for (hours, keys) in [("40", 0), ("41", 2)] {
        if keys == 0 {
            let set = format!(
                "const s = document.querySelector('#scrub'); s.value = '{hours}'; s.dispatchEvent(new Event('input', {{bubbles: true}}))"
            );
            browser.js(&set).await;
        } else {
            // By keyboard too: two steps of half an hour.
            browser.client.find(fantoccini::Locator::Css("#scrub")).await.unwrap().send_keys("\u{E014}\u{E014}").await.unwrap();
        }
        browser.text_when("#shown", |text| text.contains(&format!("after {hours} h"))).await;
        browser.at("the hour", |url| url.contains(&format!("hours={hours}"))).await;
    }
    let late = figures(&browser).await;
    assert!(late[0] < early[0], "the rim gives: {late:?} after {early:?}");
    assert!(late[1] > early[1] + 20.0, "grams lost: {late:?} after {early:?}");
    browser.gone("#hour-cautions .caution.amber").await;
    // Both schools on one band, and why they differ.
    let names = "return [...document.querySelectorAll('.chosen .band-wide .band-name')].map((e) => e.textContent)";
    assert_eq!(browser.js(names).await, json!(["usual hours", "computed: seasoned 12 mm deep"]));
    assert!(text(&browser, ".why-differ").await.len() > 20);
    browser.close().await;
}

async fn figures(browser: &Browser) -> [f64; 2] {
    let number = async |css: &str| text(browser, css).await.trim().parse::<f64>().unwrap();
    [number("#rim").await, number("#lost").await]
}

#[tokio::test]
async fn an_oversalted_steak_is_rescued() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.sign_up(&server).await;
    let piece = kept(&browser, &server, "cut=beef-rib-steak&weight=500+g&thick=38+mm&bone=0+%25&bought=today").await;
    salt_it(&browser, &server, &piece).await;
    browser.go(&server.url(&format!("{piece}/chill"))).await;
    assert!(text(&browser, "#on-line").await.starts_with("5.0 g of salt on it, 5.0 g wanted"));
    // Wrong input first: said beside the field, kept, and nothing noted.
    browser.retype("#r-salt", "a lot").await;
    browser.press("#note-salt").await;
    assert!(text(&browser, "#slip-salt").await.contains("“a lot” is no weight of salt"));
    assert_eq!((browser.js("return document.querySelector('#r-salt').value").await, notes(&browser).await), (json!("a lot"), 0));
    // Twenty grams went on instead of five, just now: nearly all that is too much still lies dry on it.
    browser.retype("#r-salt", "20 g").await;
    browser.press("#note-salt").await;
    browser.text_when("#on-line", |text| text.starts_with("20.0 g of salt on it") && text.contains("40 g/kg")).await;
    let ways = text(&browser, ".ways-out").await;
    assert!(ways.contains("Brush it off and weigh what comes off: 15.0 g"), "{ways}");
    assert!(ways.contains("potatoes") && ways.contains("thin"), "{ways}");
    // What really came off is weighed, and believed.
    browser.retype("#way-off", "14.2").await;
    browser.press("#do-off").await;
    let left = browser.text_when("#on-line", |text| text.starts_with("5.8 g of salt on it")).await;
    assert!(left.contains("11.6 g/kg"), "{left}");
    browser.text_when(".notes-list", |text| text.contains("14.2 g") && text.contains("salt brushed off")).await;
    // More cannot have come off than there was.
    browser.js("document.querySelector('.really select').value = 'off'").await;
    browser.retype("#r-salt", "30").await;
    browser.press("#note-salt").await;
    assert!(text(&browser, "#slip-salt").await.contains("cannot have come off"));
    browser.close().await;
}

#[tokio::test]
async fn only_its_own_household_weighs_a_piece_and_twice_sent_is_once_noted() {
    let server = Server::start("serve").await;
    let (mine, theirs) = (signed_up(&server).await, signed_up(&server).await);
    let piece = keep_belly(&mine, &server).await;
    let page = |what: &str| server.url(&format!("{piece}/chill{what}"));
    for (what, form) in [
        ("/weighed", json!({"gross": "3000", "tray": "none"})),
        ("/felt", json!({"feel": "wet"})),
        ("/salt", json!({"what": "on", "g": "3"})),
        ("/air", json!({"c": "4", "rh": "", "version": 0})),
    ] {
        let answer = theirs.post(page(what)).form(&form).send().await.unwrap();
        assert_eq!(answer.status(), 404, "{what} of another kitchen’s piece");
        assert_eq!(http().post(page(what)).form(&form).send().await.unwrap().status(), 303, "{what}: strangers meet the door");
    }
    let key = uuid::Uuid::now_v7().to_string();
    for _ in 0..2 {
        let form = json!({"feel": "tacky", "key": key});
        assert_eq!(mine.post(page("/felt")).form(&form).send().await.unwrap().status(), 303);
    }
    assert_eq!(server.count("SELECT COUNT(*) AS n FROM events WHERE kind = 'felt'").await, 1);
    for (what, form) in [
        ("/felt", json!({"feel": "crispy"})),
        ("/weighed", json!({"gross": "-5", "tray": "none"})),
        ("/weighed", json!({"gross": "3000", "tray": "gone"})),
        ("/air", json!({"c": "40", "rh": "150", "version": 0})),
        ("/salt", json!({"what": "on", "g": "many"})),
    ] {
        assert_eq!(mine.post(page(what)).form(&form).send().await.unwrap().status(), 422, "{what} {form}");
    }
    // An air said over somebody else's is refused with theirs shown.
    assert_eq!(mine.post(page("/air")).form(&json!({"c": "3", "rh": "60", "version": 0})).send().await.unwrap().status(), 303);
    let late = mine.post(page("/air")).form(&json!({"c": "5", "rh": "", "version": 0})).send().await.unwrap();
    assert_eq!(late.status(), 409);
    assert!(late.text().await.unwrap().contains("Somebody said 3 °C, 60 % humid meanwhile"));
}
