//! A way of one's own, as a cook makes one: copied, broken, mended, kept, planned with, changed; and a file of one taken in.

use crate::support::{Browser, Server};
use serde_json::Value;

const BELLY: &str = "cut=pork-belly&weight=2.4+kg&thick=45+mm&fatmin=8+mm";

/// Presses a button of the strip and waits for what comes of it.
async fn pressed(browser: &Browser, css: &str, until: &str) {
    browser.js(&format!("document.querySelector('{css}').click()")).await;
    browser.find(until).await;
}

/// Types into a field as a hand does: what is tried is what was typed when it is left.
async fn typed(browser: &Browser, css: &str, text: &str) {
    let set = format!(
        "const f = document.querySelector('{css}'); f.value = {}; f.dispatchEvent(new Event('change', {{bubbles: true}}))",
        serde_json::to_string(text).unwrap()
    );
    browser.js(&set).await;
}

async fn copies_the_crust(browser: &Browser, server: &Server) {
    browser.go(&server.url(&format!("/bench/ways?{BELLY}"))).await;
    browser.find(".ways-table").await;
    let copy = "return [...document.querySelectorAll('.way')].find((w) => w.innerText.startsWith('same-day crust')).querySelector('.way-copy').getAttribute('href')";
    let copy = browser.js(copy).await.as_str().unwrap().to_owned();
    browser.go(&server.url(&copy)).await;
    browser.find("#way-form").await;
}

/// Whether nothing of the page sticks out at its side.
async fn fits(browser: &Browser) -> bool {
    browser.js("return document.documentElement.scrollWidth <= innerWidth").await.as_bool().unwrap()
}

#[tokio::test(flavor = "multi_thread")]
async fn a_school_is_copied_broken_mended_kept_and_planned_with() {
    let server = Server::start("serve").await;
    for (browser, kitchen) in [(Browser::laptop().await, "Wide kitchen"), (Browser::phone().await, "Narrow kitchen")] {
        browser.signs_up(&server, kitchen).await;
        copies_the_crust(&browser, &server).await;
        assert!(fits(&browser).await);
        // A crust that never comes off: said where it goes on, and it cannot be kept.
        pressed(&browser, "#out-cover-off", "#row-cover-on .caution.red").await;
        let why = browser.text_when("#row-cover-on .caution", |text| text.contains("never comes off")).await;
        // In a cook's words: no path, no id of a task.
        assert!(!why.contains("tasks[") && !why.contains("cover-o"), "{why}");
        browser.find("#keep-way:disabled").await;
        // Mended: it comes off after the first stage, and what it gives is planned again.
        browser.js("document.querySelector('#k-add').value = 'cover-off'; document.querySelector('#k-after').value = 'heat'").await;
        pressed(&browser, "#add-row", "#row-cover-off").await;
        browser.find("#keep-way:not(:disabled)").await;
        // Left out, the heat can be put in again; until then its lack is said in words.
        browser.js("document.querySelector('#out-heat-2').click()").await;
        browser.gone("#row-heat-2").await;
        pressed(&browser, "#out-heat", ".way-says.red").await;
        let lacks = browser.text_when(".way-right", |text| text.contains("No heat")).await;
        assert!(!lacks.contains('{'), "{lacks}");
        for after in ["cover-on", "brush-dry"] {
            browser
                .js(&format!("document.querySelector('#k-add').value = 'heat'; document.querySelector('#k-after').value = '{after}'"))
                .await;
            let heat = if after == "cover-on" { "#row-heat" } else { "#row-heat-2" };
            pressed(&browser, "#add-row", heat).await;
        }
        browser.find("#keep-way:not(:disabled)").await;
        // Fierce heat under it is said at the task that comes too late.
        typed(&browser, "#k-heat", "220 °C 2 h, then 250 °C until puffed").await;
        browser.text_when("#row-cover-off .caution", |text| text.contains("150 to 160 °C")).await;
        typed(&browser, "#k-heat", "155 °C 2 h, then 250 °C until puffed").await;
        browser.gone("#row-cover-off .caution").await;
        // What cannot be read stays as it was typed, with a sentence.
        typed(&browser, "#k-dose", "a lot").await;
        browser.text_when("#slip-dose", |text| text.contains("a lot")).await;
        typed(&browser, "#k-dose", "6 g/kg").await;
        browser.gone("#slip-dose").await;
        typed(&browser, "#k-name", "Sunday crust").await;
        browser.find("[name=document][value*='Sunday crust']").await;
        browser.press("#keep-way:not(:disabled)").await;
        // It lies on the Bench, and stands beside the schools.
        let on_the_bench = browser.at("the Bench", |url| url.contains("method=own-sunday-crust")).await;
        browser.find("#keep:not(:disabled)").await;
        let grams = browser.js("return document.querySelector('[name=method]').selectedOptions[0].textContent").await;
        assert_eq!(grams.as_str().map(str::trim), Some("Sunday crust"));
        browser.go(&on_the_bench.replace("/bench?", "/bench/ways?")).await;
        let ways = browser.js("return [...document.querySelectorAll('.way')].map((w) => [w.querySelector('.way-name').innerText, w.querySelectorAll('.way-bar').length])").await;
        let ways: Vec<(String, u64)> = serde_json::from_value(ways).unwrap();
        assert!(ways.len() >= 5 && ways.iter().all(|(_, bars)| *bars == ways[0].1), "{ways:?}");
        assert!(ways.iter().any(|(name, _)| name.contains("Sunday crust") && name.contains("on the Bench now")), "{ways:?}");
        assert!(fits(&browser).await);
        // Kept by it; then it is changed in the Kit.
        browser.go(&on_the_bench).await;
        browser.press("#keep:not(:disabled)").await;
        browser.find("#piece").await;
        let piece = browser.at("the piece", |url| url.contains("/pieces/")).await;
        let before = kept(&browser).await;
        assert!(before.to_string().contains("14.4 g"), "by hand, six grams on each of 2.4 kg: {before}");
        browser.go(&server.url("/kit")).await;
        browser.press("#ways strong a").await;
        browser.find("#way-form").await;
        typed(&browser, "#k-dose", "9 g/kg").await;
        browser.find("[name=document][value*='\"g_per_kg\":9']").await;
        typed(&browser, "#title-rest", "Let it be").await;
        browser.find("[name=document][value*='Let it be']").await;
        browser.press("#keep-way:not(:disabled)").await;
        browser.at("the Bench", |url| url.contains("/bench?")).await;
        // The piece is as it was, and offers the newer one; taken, it goes by that.
        browser.go(&piece).await;
        assert_eq!(kept(&browser).await, before);
        browser.text_when("#today summary", |text| text.contains("newer version, 2")).await;
        browser.js("document.querySelector('#today').open = true").await;
        browser.press("#plan-anew").await;
        browser.text_when("#piece", |text| text.contains("Let it be")).await;
        // Taken out of the Kit, its piece stays.
        browser.go(&server.url("/kit")).await;
        browser.press("#ways form button").await;
        browser.find(".undo-line").await;
        browser.go(&piece).await;
        browser.text_when("#piece", |text| text.contains("Let it be")).await;
        assert!(browser.js("return !document.querySelector('#today')").await.as_bool().unwrap());
        browser.close().await;
    }
}

/// The steps of the piece on the page, as they are called, with what is weighed.
async fn kept(browser: &Browser) -> Value {
    browser.find("#piece .step").await;
    browser.js("return [...document.querySelectorAll('.step')].map((step) => step.innerText.replace(/\\s+/g, ' '))").await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_file_is_given_out_and_taken_in_and_a_damaged_one_is_refused_by_its_lines() {
    let server = Server::start("serve").await;
    let browser = Browser::phone().await;
    browser.sign_up(&server).await;
    copies_the_crust(&browser, &server).await;
    typed(&browser, "#k-name", "Given away").await;
    browser.find("[name=document][value*='Given away']").await;
    browser.press("#keep-way:not(:disabled)").await;
    browser.at("the Bench", |url| url.contains("method=own-given-away")).await;
    browser.go(&server.url("/kit")).await;
    browser.find("#ways").await;
    let file = browser.js("return fetch(document.querySelector('#ways a[href$=\"way.json\"]').href).then((r) => r.text())").await;
    let file = file.as_str().unwrap().to_owned();
    // A damaged one: each line by its number, and nothing of it is kept.
    let damaged = file.replace("\"task\": \"wash\"", "\"task\": \"sing\"").replace("\"schema\": 1", "\"schema\": 7");
    let line = |text: &str, holds: &str| text.lines().position(|line| line.contains(holds)).unwrap() + 1;
    browser.go(&server.url("/kit/ways/take-in")).await;
    browser.js(&format!("document.querySelector('#k-text').value = {}", serde_json::to_string(&damaged).unwrap())).await;
    browser.press("#read-file").await;
    let wrong = browser.text_when("#wrong-lines", |text| text.contains("Line")).await;
    for holds in ["\"sing\"", "\"schema\": 7"] {
        assert!(wrong.contains(&format!("Line {}.", line(&damaged, holds))), "{holds}: {wrong}");
    }
    assert_eq!(
        browser.js("return document.querySelector('#k-text').value.includes('sing')").await.as_bool(),
        Some(true),
        "what was pasted stays"
    );
    assert_eq!(server.count("SELECT COUNT(*) AS n FROM kit_ways").await, 1);
    // The sound one lies on its strip under another name, and is kept as one's own.
    browser.js(&format!("document.querySelector('#k-text').value = {}", serde_json::to_string(&file).unwrap())).await;
    browser.press("#read-file").await;
    browser.find("#way-form").await;
    // Its name is taken here.
    browser.press("#keep-way:not(:disabled)").await;
    browser.text_when("#slip-name", |text| text.contains("hangs in your Kit already")).await;
    typed(&browser, "#k-name", "Taken in").await;
    browser.find("[name=document][value*='Taken in']").await;
    browser.press("#keep-way:not(:disabled)").await;
    browser.at("the Bench", |url| url.contains("method=own-taken-in")).await;
    assert_eq!(server.count("SELECT COUNT(*) AS n FROM kit_ways").await, 2);
    browser.close().await;
}
