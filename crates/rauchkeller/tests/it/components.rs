//! The browser's part: every component worked by mouse, by touch and from the keyboard.

use crate::support::{Browser, Server, eventually};
use fantoccini::actions::{InputSource, KeyAction, KeyActions, MouseActions, PointerAction, TouchActions};
use serde_json::json;
use std::time::Duration;

/// What a hand works with.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Hand {
    Mouse,
    Touch,
}

const HANDS: [Hand; 2] = [Hand::Mouse, Hand::Touch];
const ENTER: char = '\u{E007}';
const RIGHT: char = '\u{E014}';
const SHIFT: char = '\u{E008}';

/// The middle of an element, brought into view.
pub async fn middle(browser: &Browser, css: &str) -> (f64, f64) {
    browser.find(css).await;
    let at = browser
        .js(&format!(
            "const e = document.querySelector({css:?}); e.scrollIntoView({{block: 'center'}}); const r = e.getBoundingClientRect(); return [r.x + r.width / 2, r.y + r.height / 2]"
        ))
        .await;
    (at[0].as_f64().unwrap(), at[1].as_f64().unwrap())
}

pub async fn act(browser: &Browser, hand: Hand, actions: Vec<PointerAction>) {
    match hand {
        Hand::Mouse => {
            let all = actions.into_iter().fold(MouseActions::new("mouse".into()), InputSource::then);
            browser.client.perform_actions(all).await.unwrap();
        }
        Hand::Touch => {
            let all = actions.into_iter().fold(TouchActions::new("finger".into()), InputSource::then);
            browser.client.perform_actions(all).await.unwrap();
        }
    }
}

pub fn to((x, y): (f64, f64)) -> PointerAction {
    PointerAction::MoveTo { duration: Some(Duration::from_millis(60)), x: x.round(), y: y.round() }
}

pub const DOWN: PointerAction = PointerAction::Down { button: 0 };
pub const UP: PointerAction = PointerAction::Up { button: 0 };

/// A click, or a tap of a finger.
async fn press(browser: &Browser, hand: Hand, css: &str) {
    let at = middle(browser, css).await;
    act(browser, hand, vec![to(at), DOWN, UP]).await;
}

/// What was answered last may still move the picture and change its scale: the hand waits until it lies still.
async fn still(browser: &Browser) {
    eventually("every answer is there", || async {
        (browser.js("return document.querySelector('.htmx-request') === null").await == json!(true)).then_some(())
    })
    .await;
}

/// Down on an element, so far aside, and let go.
async fn drag(browser: &Browser, hand: Hand, css: &str, by: f64) {
    still(browser).await;
    let at = middle(browser, css).await;
    // In twelve short ways, so that answers come in between.
    let ways = (1..=12).map(|i| to((at.0 + by * f64::from(i) / 12.0, at.1)));
    act(browser, hand, [to(at), DOWN].into_iter().chain(ways).chain([UP]).collect()).await;
}

/// Keys on an element that is focused as the tab key would.
async fn keys(browser: &Browser, css: &str, pressed: &[char]) {
    browser.find(css).await;
    browser.js(&format!("document.querySelector({css:?}).focus()")).await;
    let each = |value: &char| [KeyAction::Down { value: *value }, KeyAction::Up { value: *value }];
    let all = pressed.iter().flat_map(each).fold(KeyActions::new("keys".into()), InputSource::then);
    browser.client.perform_actions(all).await.unwrap();
}

async fn value(browser: &Browser, css: &str) -> String {
    browser.js(&format!("return document.querySelector({css:?})?.value ?? ''")).await.as_str().unwrap_or_default().to_owned()
}

async fn value_becomes(browser: &Browser, css: &str, what: &str, holds: impl Fn(&str) -> bool) -> String {
    eventually(what, || async { Some(value(browser, css).await).filter(|v| holds(v)) }).await
}

/// Components that keep a timer going.
async fn timers(browser: &Browser) -> u64 {
    browser.js("return [...document.querySelectorAll('[x-data]')].filter((e) => Alpine.$data(e).timer).length").await.as_u64().unwrap_or(99)
}

/// Every element that names a component is one: none is misspelt, and none failed to begin.
pub async fn all_alive(browser: &Browser, page: &str) {
    let dead = browser
        .js("return [...document.querySelectorAll('[x-data]')].filter((e) => !e._x_dataStack || Object.keys(e._x_dataStack[0]).length === 0).map((e) => e.getAttribute('x-data'))")
        .await;
    assert_eq!(dead, json!([]), "{page}");
}

#[tokio::test(flavor = "multi_thread")]
async fn hooks_words_and_the_slider_answer_every_hand() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.sign_up(&server).await;
    // One stroke a station, and none while a word is typed.
    keys(&browser, "body", &['5']).await;
    browser.at("the book", |url| url.ends_with("/book")).await;
    for hand in HANDS {
        press(&browser, hand, ".hook[data-key='1']").await;
        browser.at("the bench", |url| url.contains("/bench")).await;
        press(&browser, hand, ".hook[data-key='4']").await;
        browser.at("the cellar", |url| url.ends_with("/cellar")).await;
    }
    let asked = server.url("/bench?cut=turkey-whole&weight=12");
    for hand in [Some(Hand::Mouse), Some(Hand::Touch), None] {
        browser.go(&asked).await;
        all_alive(&browser, "bench").await;
        assert_eq!(timers(&browser).await, 0, "no clock, no timer");
        let reading = "#slip-weight .reading";
        let offered = browser.find(reading).await.attr("data-say").await.unwrap().unwrap();
        match hand {
            Some(hand) => press(&browser, hand, reading).await,
            None => keys(&browser, reading, &[ENTER]).await,
        }
        value_becomes(&browser, "#w-weight", "the reading takes the word's place", |v| v == offered).await;
        browser.gone(reading).await;
        // Enter in a word answers, and keeps nothing.
        keys(&browser, "#w-weight", &[ENTER, '5']).await;
        assert!(browser.js("return location.pathname").await == json!("/bench"), "a key in a word is a letter");
    }
    browser.go(&server.url("/bench?cut=pork-belly&weight=2.4+kg")).await;
    for hand in [Some(Hand::Mouse), Some(Hand::Touch), None] {
        still(&browser).await;
        all_alive(&browser, "bench").await;
        match hand {
            Some(hand) => drag(&browser, hand, "#scrub", if hand == Hand::Mouse { 90.0 } else { -70.0 }).await,
            None => keys(&browser, "#scrub", &[RIGHT]).await,
        }
        let hours = value_becomes(&browser, "#w-hours", &format!("the hours follow {hand:?}"), |v| !v.is_empty()).await;
        // As a clock has them: 24.5 are 24 h 30.
        let min = (hours.parse::<f64>().unwrap() * 60.0).round() as i64;
        let planned = if min % 60 == 0 { format!("{} h", min / 60) } else { format!("{} h {:02}", min / 60, min % 60) };
        browser.text_when("#planned", |text| text.contains(&planned)).await;
        press(&browser, hand.unwrap_or(Hand::Mouse), "#hours-free").await;
        browser.gone("#hours-free").await;
        assert_eq!(value(&browser, "#w-hours").await, "", "the clock chooses again");
    }
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn handles_follow_mouse_finger_and_arrows() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.sign_up(&server).await;
    let piece = browser.keeps(&server, "cut=pork-belly&weight=2.4+kg&thick=45+mm").await;
    browser.go(&server.url(&format!("{piece}/knife?work=crosshatch&long=300+mm&wide=200+mm&avoid=string+80;+place+150+100+12"))).await;
    all_alive(&browser, "knife").await;
    let scale = || async { browser.js("return document.querySelector('svg.face').getScreenCTM().a").await.as_f64().unwrap() };
    let mm = |v: &str| v.trim_end_matches(" mm").parse::<f64>().unwrap_or(f64::NAN);
    for hand in HANDS {
        still(&browser).await;
        let (before, by) = (mm(&value(&browser, "#c-long").await), -20.0);
        drag(&browser, hand, "#handle-long", by * scale().await).await;
        // By hand: 20 mm dragged are 20 mm less.
        value_becomes(&browser, "#c-long", "the length follows", |v| (mm(v) - before - by).abs() <= 2.0).await;
    }
    // An answer on its way still moves the field, by less than a hand is asked for above.
    still(&browser).await;
    let before = mm(&value(&browser, "#c-long").await);
    keys(&browser, "#handle-long", &[RIGHT]).await;
    value_becomes(&browser, "#c-long", "an arrow is a millimetre", |v| (mm(v) - before - 1.0).abs() < 1e-9).await;
    // A place and a string have no field of their own: the server writes them into the words.
    for hand in HANDS {
        still(&browser).await;
        let words = value(&browser, "#c-avoid").await;
        let x = |words: &str| words.split("place ").nth(1).and_then(|p| p.split(' ').next()?.parse::<f64>().ok()).unwrap_or(f64::NAN);
        let was = x(&words);
        drag(&browser, hand, "#handle-spot-0", 15.0 * scale().await).await;
        let now = value_becomes(&browser, "#c-avoid", "the place follows", |v| {
            if hand == Hand::Mouse { (x(v) - was - 15.0).abs() <= 2.0 } else { x(v) >= was + 4.0 }
        })
        .await;
        assert!(now.starts_with("string 80;") && now.ends_with(" 12"), "the string and the size stay: {now}");
    }
    // The drag's own answer puts new handles on the page: strokes go to the ones that stay.
    still(&browser).await;
    keys(&browser, "#handle-tie-0", &[RIGHT, RIGHT, RIGHT]).await;
    value_becomes(&browser, "#c-avoid", "each stroke counts", |v| v.starts_with("string 83;")).await;
    browser.at("it is in the address, and nothing of the hand", |url| url.contains("string+83") && !url.contains("moved=")).await;
    browser.close().await;
}

/// Holds an element until it is another's turn, or nothing is left but to judge.
pub async fn hold(browser: &Browser, hand: Hand, css: &str, gone: &str) {
    let at = middle(browser, css).await;
    act(browser, hand, vec![to(at), DOWN]).await;
    eventually("the hold counts", || async {
        let now =
            "return [document.querySelector('.hands-title')?.innerText, document.querySelector('[data-primary][data-leave]') !== null]";
        let now = browser.js(now).await;
        (now[1] == json!(true) || now[0].as_str().is_some_and(|text| text != gone)).then_some(())
    })
    .await;
    act(browser, hand, vec![UP]).await;
}

#[tokio::test(flavor = "multi_thread")]
async fn raw_hands_hold_by_knuckle_finger_and_key() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.sign_up(&server).await;
    let piece = browser.keeps(&server, "cut=pork-belly&weight=2.4+kg&thick=45+mm").await;
    browser.go(&server.url(&format!("{piece}/hands"))).await;
    all_alive(&browser, "hands").await;
    let title = || async { browser.text_when(".hands-title", |text| !text.is_empty()).await };
    let first = title().await;
    // A short touch does nothing.
    for hand in HANDS {
        press(&browser, hand, "[data-primary]").await;
        assert_eq!(title().await, first, "{hand:?}");
    }
    hold(&browser, Hand::Mouse, "[data-primary]", &first).await;
    let second = title().await;
    hold(&browser, Hand::Mouse, "[data-undo]", &second).await;
    assert_eq!(title().await, first, "taken back");
    hold(&browser, Hand::Mouse, "[data-primary]", &first).await;
    assert_eq!(title().await, second);
    hold(&browser, Hand::Touch, "[data-primary]", &second).await;
    let third = title().await;
    // Dried, it is out of the refrigerator for certain: one clock ticks, and the undo of ten seconds.
    let clock = browser.text_when(".hands-out b", |text| text.ends_with("min")).await;
    assert!(clock.trim_end_matches(" min").parse::<u32>().is_ok_and(|minutes| minutes < 120), "{clock}");
    assert!((1..=2).contains(&timers(&browser).await));
    // Word of a change that names nobody puts no line over the undo; one that names a cook does.
    let told = |says: &str| format!("Alpine.$data(document.querySelector('.told')).anew({says:?}); return null");
    let line = "return document.querySelector('.told p').hidden";
    browser.js("Alpine.$data(document.querySelector('.told')).sent = -1e6; return null").await;
    browser.js(&told("")).await;
    assert_eq!(browser.js(line).await, json!(true), "nobody is named");
    browser.js(&told("Jo ticked a step of Pork belly.")).await;
    eventually("Jo is named", || async { (browser.js(line).await == json!(false)).then_some(()) }).await;
    // The arrow looks at the one before; nothing is ticked by it.
    for (arrow, shows) in [('\u{E012}', &second), (RIGHT, &third)] {
        keys(&browser, "body", &[arrow]).await;
        browser.text_when(".hands-title", |text| text == shows).await;
    }
    eventually("undo is gone after its ten seconds, and its timer with it", || async {
        (browser.js("return document.querySelector('[data-undo]') === null").await == json!(true)).then_some(())
    })
    .await;
    assert_eq!(timers(&browser).await, 1, "the clock alone");
    // Where the browser cannot keep the screen awake it is said, else not.
    let can = browser.js("return 'wakeLock' in navigator").await == json!(true);
    if !can {
        browser.find(".hands-wake:not([hidden])").await;
    }
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn choices_open_fields_and_enter_goes_from_bowl_to_bowl() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.sign_up(&server).await;
    let zone = browser.js("return Intl.DateTimeFormat().resolvedOptions().timeZone").await;
    browser.go(&server.url("/household")).await;
    let said = browser.js("return document.body.innerHTML").await;
    assert!(said.as_str().unwrap().contains(zone.as_str().unwrap()), "the clock of a new kitchen is the browser's");
    let piece = browser.keeps(&server, "cut=pork-belly&weight=2.4+kg&thick=45+mm").await;
    browser.go(&server.url(&format!("{piece}/salt"))).await;
    all_alive(&browser, "salt").await;
    let first = value_target(&browser, 1).await;
    browser.retype("#bowl-1 .said", &first).await;
    keys(&browser, "#bowl-1 .said", &[ENTER]).await;
    browser.text_when("#bowl-1", |text| text.contains("weighed")).await;
    eventually("the next bowl takes the hands", || async {
        (browser.js("return document.activeElement?.closest('#bowl-2') !== null && document.activeElement !== document.body").await
            == json!(true))
        .then_some(())
    })
    .await;
    // Salted, it lies in the cold: a tray not weighed yet opens its fields.
    for task in ["lay-out", "dry", "pierce", "salt", "wash", "chill"] {
        browser.js(&format!("return fetch('{piece}/steps/{task}/done', {{method: 'POST'}}).then((r) => r.status)")).await;
    }
    browser.go(&server.url(&format!("{piece}/chill"))).await;
    all_alive(&browser, "chill").await;
    assert_eq!(timers(&browser).await, 0);
    for (chosen, open) in [("none", false), ("new", true), ("none", false)] {
        browser
            .js(&format!(
                "const s = document.querySelector('#r-tray'); s.value = '{chosen}'; s.dispatchEvent(new Event('change', {{bubbles: true}}))"
            ))
            .await;
        eventually("the fields of a new tray", || async {
            (browser.js("return document.querySelector('#new-tray').hidden").await == json!(!open)).then_some(())
        })
        .await;
    }
    keys(&browser, "#r-tray", &['a']).await;
    browser.js("document.querySelector('#r-tray').dispatchEvent(new Event('change', {bubbles: true}))").await;
    // What is noted leaves its field.
    browser.retype("#r-salt", "0.5").await;
    keys(&browser, "#r-salt", &[SHIFT, ENTER]).await;
    value_becomes(&browser, "#r-salt", "the field shows what the server says", |v| v != "0.5").await;
    browser.close().await;
}

/// The grams a bowl is to hold.
async fn value_target(browser: &Browser, bowl: u32) -> String {
    browser.text_when(&format!("#bowl-{bowl} .bowl-g b"), |text| !text.is_empty()).await
}
