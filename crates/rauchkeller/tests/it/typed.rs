//! The Bench as a new cook types on it: what can be meant in two ways, days, portions, too late, and a browser without scripts.

use crate::support::{Browser, Server, eventually, http};
use serde_json::json;

#[tokio::test]
async fn a_turkey_of_twelve_is_asked_about_and_its_label_read() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.signs_up(&server, "Maple Street").await;
    browser.go(&server.url("/bench?cut=turkey-whole")).await;
    browser.retype("#w-weight", "12").await;
    let asks = browser.text_when("#slip-weight", |text| text.contains("which is it")).await;
    assert!(asks.contains("12 kg") && asks.contains("12 lb"), "{asks}");
    browser.press("#slip-weight .reading:nth-of-type(2)").await;
    browser.gone("#slip-weight").await;
    assert_eq!(browser.js("return document.querySelector('#w-weight').value").await, json!("12 lb"));
    // By hand: 12 lb are 5.443 kg, 72 % of it edible; 8 % of a brine of 3 to 6 % salt are 9.4 to 18.8 g.
    browser.retype("#w-label", "up to 8 % solution").await;
    let found = browser.text_when(".found", |text| text.contains("solution")).await;
    assert!(found.contains("14.1 g") && found.contains("9.4 to 18.8 g"), "{found}");
    // Said in pounds from now on: bare numbers are pounds, and the day after the month.
    browser.press("#asks-units [value=us]").await;
    browser.gone("#asks-units").await;
    assert_eq!(browser.js("return document.querySelector('#w-label').value").await, json!("up to 8 % solution"), "nothing is lost");
    browser.retype("#w-weight", "11").await;
    // 11 lb: 4.99 kg, 8 g/kg of 3.59 kg less what the packer put in.
    browser.text_when(".dose-line", |text| text.contains("7 lb")).await;
    browser.retype("#w-dose", "1½ tsp per lb").await;
    let spoons = browser.text_when("#slip-dose", |text| text.contains("light-flake")).await;
    assert!(spoons.contains("fine sea salt"), "{spoons}");
    browser.close().await;
}

#[tokio::test]
async fn a_day_comes_from_the_calendar_and_far_days_have_their_date() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.signs_up(&server, "Calendar kitchen").await;
    browser.go(&server.url("/bench?weight=2.4+kg")).await;
    browser.find("#w-serve").await;
    let picked = browser
        .js("const at = new Date(Date.now() + 12 * 864e5); at.setHours(19, 0, 0, 0);
             const day = new Date(at - at.getTimezoneOffset() * 6e4).toISOString().slice(0, 16);
             const pick = document.querySelector('[data-pick=w-serve]');
             pick.value = day; pick.dispatchEvent(new Event('change', {bubbles: true}));
             return [day, at.toLocaleDateString('en-GB', {day: 'numeric', month: 'short'}).replace('Sept', 'Sep')]")
        .await;
    let (day, date) = (picked[0].as_str().unwrap().replace('T', " "), picked[1].as_str().unwrap().to_owned());
    assert_eq!(browser.js("return document.querySelector('#w-serve').value").await, json!(day));
    browser.text_when(".knots li:last-child", |text| text.contains(&date)).await;
    // A day without its hour is lunch or dinner; what was not bought yet stays open.
    browser.retype("#w-serve", "Saturday").await;
    let asks = browser.text_when("#slip-serve", |text| text.contains("which is it")).await;
    assert!(asks.contains("19:00") && asks.contains("12:30"), "{asks}");
    browser.press("#slip-serve .reading:nth-of-type(1)").await;
    browser.gone("#slip-serve").await;
    for typed in ["tonight", "in 30 hours", "tomorrow 7 pm", "24 Dec 18:00"] {
        browser.retype("#w-serve", typed).await;
        // The address says it once the answer is there. Too soon may be said at night; it was read all the same.
        let slip = eventually(typed, || async {
            let answered =
                "return [new URLSearchParams(location.search).get('serve'), document.querySelector('#slip-serve')?.innerText || '']";
            let now = browser.js(answered).await;
            (now[0].as_str()? == typed).then(|| now[1].as_str().unwrap().to_owned())
        })
        .await;
        assert!(!slip.contains("not a time") && !slip.contains("which is it"), "{typed}: {slip}");
    }
    browser.close().await;
}

#[tokio::test]
async fn steaks_that_differ_are_said_in_one_line_and_too_late_has_ways() {
    let server = Server::start("serve").await;
    let browser = Browser::phone().await;
    browser.signs_up(&server, "Steak kitchen").await;
    browser.go(&server.url("/bench?cut=beef-rib-steak")).await;
    browser.retype("#w-weight", "2 × 400 g").await;
    browser.press(".each-line .reading").await;
    eventually("each is written out", || async {
        let typed = browser.js("return document.querySelector('#w-weight').value").await;
        (typed.as_str()? == "400 g 38 mm, 400 g 38 mm").then_some(())
    })
    .await;
    browser.retype("#w-weight", "400 g 50 mm, 350 g 38 mm").await;
    // 10 g/kg: 4.0 and 3.5 g.
    browser.text_when(".grams", |text| text.contains("4.0 g · 3.5 g")).await;
    browser.retype("#w-serve", "in 6 hours").await;
    let late = browser.text_when("#late", |text| text.contains("Too late for a dry-brine")).await;
    for way in ["Salt now, but weigh", "in the last three minutes before the heat", "of dry-brine"] {
        assert!(late.contains(way), "{way}: {late}");
    }
    // Each with its first bite and its depth.
    let columns = "return ['first bite', 'seasoned to'].map((of) => [...document.querySelectorAll(`#late [data-of='${of}']`)]
        .filter((cell) => /^[1-9][0-9]* (g.kg|mm)$/.test(cell.textContent)).length)";
    let told = browser.js(columns).await;
    assert!(told[0].as_u64().unwrap() >= 3 && told[0] == told[1], "{told}");
    let grams = browser.js("return Number(document.querySelector('#grams').textContent)").await.as_f64().unwrap();
    browser.press("#late [data-into=w-dose]").await;
    eventually("fewer grams", || async {
        let now = browser.js("return Number(document.querySelector('#grams').textContent)").await.as_f64()?;
        (now < grams * 0.9).then_some(())
    })
    .await;
    browser.close().await;
}

#[tokio::test]
async fn the_sentence_waits_on_the_bench_and_is_cleared_away_when_kept() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.signs_up(&server, "Draft kitchen").await;
    browser.go(&server.url("/bench")).await;
    browser.retype("#w-weight", "2.1 kg").await;
    browser.text_when(".dose-line", |text| text.contains("2.1 kg")).await;
    browser.press(".hook[href='/kit']").await;
    browser.find("#kit").await;
    browser.press(".hook[href='/bench']").await;
    browser.find("#bench").await;
    assert_eq!(browser.js("return document.querySelector('#w-weight').value").await, json!("2.1 kg"));
    browser.press("#start-anew").await;
    browser.find("#w-weight[value='']").await;
    browser.retype("#w-weight", "1.9kg").await;
    browser.retype("#w-name", "Sunday belly").await;
    browser.press("#keep:not(:disabled)").await;
    browser.text_when(".piece-name", |text| text.contains("Sunday belly")).await;
    browser.press(".hook[href='/bench']").await;
    browser.find("#w-weight[value='']").await;
    browser.close().await;
}

#[tokio::test]
async fn without_scripts_a_button_answers_and_readings_are_buttons() {
    let server = Server::start("serve").await;
    let browser = Browser::without_scripts().await;
    browser.signs_up(&server, "Plain kitchen").await;
    browser.go(&server.url("/bench?cut=turkey-whole")).await;
    browser.find("#w-weight").await.send_keys("12").await.unwrap();
    browser.press("#answer").await;
    browser.press("#slip-weight .reading:nth-of-type(1)").await;
    browser.find("#w-weight[value='12 kg']").await;
    let figure = browser.find("#grams").await.text().await.unwrap();
    // 12 kg × 72 % × 8 g/kg = 69.1 g.
    assert_eq!(figure, "69.1");
    browser.press("#keep").await;
    browser.find("#piece").await;
    browser.close().await;
}

#[tokio::test]
async fn a_reading_by_address_takes_its_word_and_leaves_no_trace() {
    let server = Server::start("serve").await;
    let client = crate::support::signed_up(&server).await;
    let answer = client.get(server.url("/bench?cut=turkey-whole&weight=12&take=weight%3D12+lb")).send().await.unwrap();
    assert_eq!((answer.status().as_u16(), answer.headers()["location"].to_str().unwrap()), (303, "/bench?cut=turkey-whole&weight=12+lb"));
    // A word that there is not is no harm, and a stranger's sentence is nobody's.
    let odd = client.get(server.url("/bench?take=nonsense%3D1")).send().await.unwrap();
    assert!(odd.status().as_u16() < 400);
    let stranger = http().get(server.url("/bench")).header("cookie", "rauchkeller-bench=x?weight=12").send().await.unwrap();
    assert_eq!(stranger.headers()["location"], "/sign-in");
}
