//! The run of a piece: events and standing over the API, a kept piece changed and taken back, hours noted later, the next one better.

use crate::salt::Scale;
use crate::support::{Browser, Server, eventually, http, keep_belly, signed_up};
use jiff::{SignedDuration, Timestamp};
use serde_json::{Value, json};
use uuid::Uuid;

pub fn ago(minutes: i64) -> String {
    (Timestamp::now() - SignedDuration::from_mins(minutes)).to_string()
}

pub fn event(at: &str, says: Value) -> Value {
    let mut event = says;
    event["id"] = Uuid::now_v7().to_string().into();
    event["at"] = at.into();
    event
}

pub async fn note(client: &reqwest::Client, server: &Server, piece: &str, events: &[Value]) -> (u16, Value) {
    let batch = json!({"sent_at": Timestamp::now().to_string(), "events": events});
    let answer = client.post(server.url(&format!("/api/v1{piece}/events"))).json(&batch).send().await.unwrap();
    (answer.status().as_u16(), answer.json().await.unwrap())
}

pub async fn standing(client: &reqwest::Client, server: &Server, piece: &str) -> Value {
    client.get(server.url(&format!("/api/v1{piece}/standing"))).send().await.unwrap().json().await.unwrap()
}

/// Ticks a piece up to the refrigerator, over the API, so many minutes ago.
async fn salted(client: &reqwest::Client, server: &Server, piece: &str, minutes: i64) {
    let tasks = ["lay-out", "dry", "pierce", "salt", "wash"];
    let mut events: Vec<Value> = tasks
        .iter()
        .zip([30, 25, 20, 10, 6])
        .map(|(task, before)| event(&ago(minutes + before), json!({"what": "task-ended", "task": task})))
        .collect();
    events.push(event(&ago(minutes + 5), json!({"what": "task-began", "task": "chill"})));
    let (status, said) = note(client, server, piece, &events).await;
    assert_eq!((status, said["accepted"].as_u64()), (200, Some(6)), "{said}");
}

#[tokio::test(flavor = "multi_thread")]
async fn what_happened_is_noted_and_read_over_the_api() {
    let server = Server::start("serve").await;
    let client = signed_up(&server).await;
    let piece = keep_belly(&client, &server).await;
    let fresh = standing(&client, &server, &piece).await;
    assert_eq!(
        (fresh["place"].as_str(), fresh["plan_version"].as_u64(), &fresh["salt_since"]),
        (Some("refrigerator"), Some(1), &Value::Null)
    );
    assert_eq!((fresh["next"][0]["task"].as_str(), &fresh["unreadable"]), (Some("lay-out"), &Value::Null));
    salted(&client, &server, &piece, 240).await;
    let stands = standing(&client, &server, &piece).await;
    // By hand: 7.5 g/kg × 2.4 kg. On the bench from laying out to the refrigerator, 25 min.
    assert!(
        (stands["on_g"].as_f64().unwrap() - 18.0).abs() < 0.01 && (stands["out_min"].as_f64().unwrap() - 25.0).abs() < 0.01,
        "{stands}"
    );
    assert!(stands["in_g"].as_f64().unwrap() <= 18.0 && stands["lies"] == "open" && stands["place"] == "refrigerator");
    assert_eq!(stands["next"][0]["task"], "temper");

    // Sent again it changes nothing; the same id with other content is refused with both, and so is half of its batch.
    let felt = event(&ago(3), json!({"what": "felt", "feel": "tacky"}));
    for (accepted, repeated) in [(1, 0), (0, 1)] {
        let said = note(&client, &server, &piece, std::slice::from_ref(&felt)).await.1;
        assert_eq!((said["accepted"].as_u64(), said["repeated"].as_u64()), (Some(accepted), Some(repeated)), "{said}");
    }
    let mut other = felt.clone();
    other["feel"] = "dry".into();
    let (status, both) = note(&client, &server, &piece, &[event(&ago(1), json!({"what": "salt-off", "g": 3})), other]).await;
    assert_eq!((status, both["stands"]["feel"].as_str(), both["sent"]["feel"].as_str()), (409, Some("tacky"), Some("dry")), "{both}");
    assert!((standing(&client, &server, &piece).await["on_g"].as_f64().unwrap() - 18.0).abs() < 0.01);
    // More off than on is asked about, at its path nothing is refused; what names nothing is.
    let off = event(&ago(2), json!({"what": "salt-off", "g": 25}));
    assert_eq!(note(&client, &server, &piece, std::slice::from_ref(&off)).await.0, 200);
    let asked = standing(&client, &server, &piece).await;
    assert_eq!((asked["asked"][0]["code"].as_str(), asked["on_g"].as_f64()), (Some("more-off"), Some(0.0)), "{asked}");
    assert!(asked["asked"][0]["says"].as_str().unwrap().contains("More salt came off"));
    let void = event(&ago(1), json!({"what": "voided", "event": off["id"]}));
    assert_eq!(note(&client, &server, &piece, &[void]).await.0, 200);
    assert_eq!(standing(&client, &server, &piece).await["asked"], json!([]));
    let nothing = event(&ago(1), json!({"what": "voided", "event": Uuid::now_v7().to_string()}));
    let (status, said) = note(&client, &server, &piece, &[nothing]).await;
    assert_eq!((status, said["problems"][0]["field"].as_str()), (422, Some("events[0].event")), "{said}");
    let (status, said) = note(&client, &server, &piece, &[event("noon", json!({"what": "danced"}))]).await;
    assert_eq!((status, said["problems"].as_array().map(Vec::len)), (422, Some(2)), "{said}");

    // A token of the Kit opens the same, and nothing else; nobody opens another kitchen.
    let form = json!({"program": "shelf display", "key": Uuid::now_v7().to_string()});
    let page = client.post(server.url("/kit/programs")).form(&form).send().await.unwrap().text().await.unwrap();
    let token = page.split("id=\"program-token\">").nth(1).unwrap().split('<').next().unwrap().to_owned();
    let url = server.url(&format!("/api/v1{piece}/standing"));
    let with = async |token: &str, url: &str| http().get(url).bearer_auth(token).send().await.unwrap().status().as_u16();
    assert_eq!(
        (with(&token, &url).await, with("rk_wrong", &url).await, http().get(&url).send().await.unwrap().status().as_u16()),
        (200, 401, 401)
    );
    let readings = http().post(server.url("/api/v1/readings")).bearer_auth(&token).json(&json!({"readings": []})).send().await.unwrap();
    assert_eq!(readings.status(), 401, "a program is no scale");
    let theirs = signed_up(&server).await;
    assert_eq!(theirs.get(&url).send().await.unwrap().status(), 404);
    assert_eq!(note(&theirs, &server, &piece, &[felt]).await.0, 404);
    assert_eq!(client.get(server.url(&format!("/api/v1{piece}/standing?at=noon"))).send().await.unwrap().status(), 422);
    let then =
        client.get(server.url(&format!("/api/v1{piece}/standing?at={}", ago(238)))).send().await.unwrap().json::<Value>().await.unwrap();
    assert!(then["in_g"].as_f64().unwrap() < stands["in_g"].as_f64().unwrap(), "earlier less has gone in");
}

/// What a page says of a piece, as one string.
async fn says(browser: &Browser, server: &Server, path: &str) -> String {
    let url = server.url(path);
    let script = format!(
        "return fetch('{url}').then((r) => r.text()).then((t) => new DOMParser().parseFromString(t, 'text/html').body.textContent.replace(/\\s+/g, ' '))"
    );
    browser.js(&script).await.as_str().unwrap_or_default().to_owned()
}

#[tokio::test(flavor = "multi_thread")]
async fn a_salted_piece_is_changed_taken_back_and_noted_late_and_every_page_says_the_same() {
    let server = Server::start("serve").await;
    let first = Browser::laptop().await;
    first.signs_up(&server, "Two cooks").await;
    first.go(&server.url("/bench?weight=2.4+kg&thick=45+mm")).await;
    first.press("#keep:not(:disabled)").await;
    first.find("#piece").await;
    let url = first.at("the piece", |url| url.contains("/pieces/")).await;
    let piece = url[server.base.len()..].to_owned();
    first.go(&server.url("/household")).await;
    first.press("#invite").await;
    let link = first.text_when("#link", |text| text.contains("/join/")).await;
    let second = Browser::phone().await;
    second.go(&link).await;
    second.retype("[name=name]", "Ida").await;
    second.retype("[name=password]", "smoke ladle birch umbrella").await;
    second.retype("[name=address]", &format!("{}@example.org", Uuid::now_v7().simple())).await;
    second.press(".door-card .button").await;
    second.find("#cellar").await;

    // Each step is noted at its own hour, on its page; one to come is refused beside its field, and stands there still.
    let utc = |at: Timestamp| at.to_zoned_datetime(jiff::tz::TimeZone::UTC).strftime("%Y-%m-%d %H:%M").to_string();
    let wall = |minutes: i64| utc(Timestamp::now() - SignedDuration::from_mins(minutes));
    for (task, minutes) in [("lay-out", 190), ("dry", 186), ("pierce", 182), ("salt", 170), ("wash", 166)] {
        note_at(&first, &url, task, &wall(minutes)).await;
        first.text_when("#piece", |text| text.contains("done")).await;
    }
    let to_come = wall(-600);
    note_at(&first, &url, "chill", &to_come).await;
    first.text_when("#slip-chill", |text| text.contains("still to come")).await;
    assert_eq!(first.js("return document.querySelector('#when-chill').value").await, json!(to_come));
    // Two hours late: it lay on the bench till then, and the page says what that means.
    note_at(&first, &url, "chill", &wall(46)).await;
    first.text_when("#stop", |text| text.contains("ut of the refrigerator for 2 h 2")).await;
    let noted = standing_in(&first, &piece).await;
    assert!((noted["out_min"].as_f64().unwrap() - 144.0).abs() < 2.0, "{noted}");
    note_at(&first, &url, "chill", &wall(165)).await;
    first.gone("#stop").await;
    let before = standing_in(&first, &piece).await;
    assert!((before["out_min"].as_f64().unwrap() - 25.0).abs() < 2.0 && before["place"] == "refrigerator", "{before}");

    // The meal a day later and another weight: said on the Bench, with what that does to the hours already begun.
    first.go(&url).await;
    first.press("#change-plan").await;
    first.text_when("#stands-now", |text| text.contains("salted since") && text.contains("18")).await;
    first.find("#no-change").await;
    let meal: jiff::ZonedDateTime = before["table_at"].as_str().unwrap().parse().unwrap();
    let later = utc(meal.timestamp() + SignedDuration::from_hours(24));
    first.retype("#w-serve", &later).await;
    first.text_when("#differences", |text| text.contains("on the table") && text.contains("hours under salt")).await;
    first.retype("#w-weight", "2.6 kg").await;
    // By hand: 7.5 × 2.6 = 19.5 g, of which 18 are on.
    first.text_when("#differences", |text| text.contains("19.5 g") && text.contains("1.5 g")).await;
    first.press("#write-change:not(:disabled)").await;
    first.text_when("#piece", |text| text.contains("Lay on the salt that is missing")).await;
    let changed = standing_in(&first, &piece).await;
    assert_eq!((changed["plan_version"].as_u64(), changed["next"][0]["task"].as_str()), (Some(2), Some("top-up")), "{changed}");
    assert_eq!(changed["salt_since"], before["salt_since"], "the clock of the salt runs on");
    same_everywhere(&first, &server, &piece, &changed, "2.6 kg").await;

    // Meanwhile another cook ticks the same step as the first: once is enough.
    second.go(&url).await;
    second.find("[id='when-top-up']").await;
    let tick = "document.querySelector('.is-next .step-tick form button.tick').click()";
    let (one, two) = (first.js(tick), second.js(tick));
    tokio::join!(one, two);
    for browser in [&first, &second] {
        browser.text_when("#piece", |text| text.contains("undo")).await;
    }
    eventually("the missing salt is on, once", || async {
        let stands = standing_in(&second, &piece).await;
        (stands["on_g"].as_f64().is_some_and(|g| (g - 19.5).abs() < 0.01) && stands["next"][0]["task"] == "wash-2").then_some(())
    })
    .await;

    // And taken back: the plan of before, under its name, with all that was noted.
    first.go(&url).await;
    first.press("#changed button").await;
    first.text_when("#piece", |text| text.contains("2.4 kg") && !text.contains("Its plan was changed")).await;
    let back = standing_in(&first, &piece).await;
    assert_eq!((back["plan_version"].as_u64(), &back["table_at"]), (Some(1), &before["table_at"]), "{back}");
    assert!((back["on_g"].as_f64().unwrap() - 19.5).abs() < 0.01, "what went on is on: {back}");
    assert_eq!(back["asked"][0]["code"], "task-lost");
    first.text_when(".question", |text| text.contains("no such task")).await;
    first.press(".question button[value=stands]").await;
    first.gone(".question").await;
    same_everywhere(&first, &server, &piece, &back, "2.4 kg").await;
    first.close().await;
    second.close().await;
}

/// Notes a task at an hour as typed on the piece's page.
async fn note_at(browser: &Browser, url: &str, task: &str, when: &str) {
    browser.go(url).await;
    browser.find(&format!("#when-{task}")).await;
    let script = format!(
        "const field = document.querySelector('#when-{task}'); field.closest('details').open = true; field.value = '{when}'; document.querySelector('#piece').dataset.old = 1; field.form.requestSubmit()"
    );
    browser.js(&script).await;
    browser.find("#piece:not([data-old])").await;
}

async fn standing_in(browser: &Browser, piece: &str) -> Value {
    browser.js(&format!("return fetch('/api/v1{piece}/standing').then((r) => r.json())")).await
}

/// The page, raw hands, the Cellar, the rest and the Bench say the same of a piece.
async fn same_everywhere(browser: &Browser, server: &Server, piece: &str, stands: &Value, name: &str) {
    let grams = format!("{:.1}", stands["on_g"].as_f64().unwrap());
    let title = stands["next"][0]["title"].as_str().unwrap().to_owned();
    let lower = title[..1].to_lowercase() + &title[1..];
    let page = says(browser, server, piece).await;
    assert!(page.contains(&lower) && page.contains(&grams) && page.contains(name), "{grams} g, {lower}: {page}");
    let hands = says(browser, server, &format!("{piece}/hands")).await;
    assert!(hands.contains(&title) || hands.contains("Salt: "), "{title}: {hands}");
    let rest = says(browser, server, &format!("{piece}/chill")).await;
    assert!(rest.contains(&format!("{grams} g of salt on it")), "{grams}: {rest}");
    let bench = says(browser, server, &format!("/bench?piece={}", &piece[8..])).await;
    assert!(bench.contains(&format!("{grams} g on it")), "{grams}: {bench}");
    // How deep the salt is, in the same words wherever it is said.
    let words = page.split("alted ").nth(1).map(|rest| rest.split(',').next().unwrap_or_default().to_owned()).unwrap_or_default();
    let depth = words.split(" mm").next().unwrap_or_default();
    let cellar = says(browser, server, "/cellar").await;
    assert!(depth.starts_with("to ") || depth.starts_with("right"), "{words}");
    assert!(cellar.contains(&format!("salted {depth}")) && cellar.contains(name), "{depth}: {cellar}");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_verdict_of_too_salty_is_a_word_of_the_next_sentence() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.sign_up(&server).await;
    browser.go(&server.url("/bench?cut=pork-belly&weight=2.4+kg&dose=9+g/kg&also=1+tbsp+soy+sauce")).await;
    browser.press("#keep:not(:disabled)").await;
    browser.find("#piece").await;
    let url = browser.at("the piece", |url| url.contains("/pieces/")).await;
    browser.go(&format!("{url}/verdict")).await;
    browser.js("for (const [row, value] of [['rim', 2], ['middle', 1], ['juice', 0]]) document.querySelector(`[name=${row}][value='${value}']`).click()").await;
    browser.press("#keep-verdict").await;
    browser.text_when(".advice", |text| text.contains("one gram per kilogram less")).await;
    browser.press(".again").await;
    // A gram per kilogram less of what was planned, as the advice says; the days of the old one are gone.
    browser.text_when("#lesson", |text| text.contains("salty throughout") && text.contains("8 g/kg")).await;
    assert_eq!(
        browser.js("return ['dose', 'serve', 'also'].map((w) => document.querySelector(`#w-${w}`).value)").await,
        json!(["8 g/kg", "", "1 tbsp soy sauce"])
    );
    let grams = browser.text_when("#grams", |text| text.parse::<f64>().is_ok()).await.parse::<f64>().unwrap();
    // Each proposal can be taken back, and taken again.
    browser.press("#lesson .reading").await;
    browser.text_when("#lesson", |text| text.contains("would be 8 g/kg")).await;
    let more = browser.text_when("#grams", |text| text.parse::<f64>().is_ok_and(|g| g > grams + 1.0)).await.parse::<f64>().unwrap();
    // By hand: a gram per kilogram of 2.4 kg.
    assert!((more - grams - 2.4).abs() < 0.15, "{grams} and {more}");
    browser.press("#lesson .reading").await;
    browser.text_when("#lesson", |text| text.contains("stand here instead")).await;
    browser.press("#keep:not(:disabled)").await;
    browser.text_when("#piece", |text| text.contains("Pork belly")).await;
    browser.close().await;
}

/// What was ticked within a minute is asked about, and stands or is taken back.
#[tokio::test(flavor = "multi_thread")]
async fn everything_ticked_within_a_minute_is_asked_about() {
    let server = Server::start("serve").await;
    let client = signed_up(&server).await;
    let piece = keep_belly(&client, &server).await;
    for task in ["lay-out", "dry", "pierce", "salt", "wash"] {
        assert_eq!(client.post(server.url(&format!("{piece}/steps/{task}/done"))).send().await.unwrap().status(), 303);
    }
    let stands = standing(&client, &server, &piece).await;
    let asked = &stands["asked"][0];
    assert_eq!((asked["code"].as_str(), asked["events"].as_array().map(Vec::len)), (Some("within-a-minute"), Some(5)), "{stands}");
    let page = client.get(server.url(&piece)).send().await.unwrap().text().await.unwrap();
    assert!(page.contains("were ticked within a minute"));
    let answer = json!({"question": asked["question"], "how": "back"});
    assert_eq!(client.post(server.url(&format!("{piece}/asked"))).form(&answer).send().await.unwrap().status(), 303);
    let stands = standing(&client, &server, &piece).await;
    assert_eq!(
        (&stands["asked"], stands["next"][0]["task"].as_str(), &stands["on_g"]),
        (&json!([]), Some("lay-out"), &Value::Null),
        "{stands}"
    );
}

/// A tare belongs to its scale: another one that speaks meanwhile weighs nothing into it.
#[tokio::test(flavor = "multi_thread")]
async fn what_was_tared_on_one_scale_is_not_weighed_on_another() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.sign_up(&server).await;
    let first = Scale::start(&server, &crate::salt::hang_scale(&browser, &server).await);
    browser.go(&server.url("/bench?cut=pork-belly&weight=2.4+kg&thick=45+mm")).await;
    browser.press("#keep:not(:disabled)").await;
    browser.press("#to-salt").await;
    first.hand("put?g=180").await;
    browser.text_when("#weigh", |text| text.contains("180.") || text.contains("179.9")).await;
    browser.press("#tare:not(:disabled)").await;
    browser.text_when("#weigh-line", |text| text.contains("Pour")).await;
    drop(first);
    let station = browser.at("the station", |url| url.contains("/salt")).await;
    let other = Scale::start(&server, &crate::salt::hang_scale(&browser, &server).await);
    other.hand("put?g=300").await;
    browser.go(&station).await;
    browser.text_when("#weigh-line", |text| text.contains("on another scale")).await;
    // What the page might send all the same is refused, and nothing is noted.
    let piece = station[server.base.len()..].trim_end_matches("/salt").to_owned();
    let said = browser
        .js(&format!("const bowl = document.querySelector('[id^=bowl-] form[action]').getAttribute('action').split('/bowls/')[1].split('/')[0];
             return fetch('{piece}/bowls/' + bowl + '/weighed', {{method: 'POST', body: new URLSearchParams({{from: 'scale'}})}}).then((r) => r.status)"))
        .await;
    assert_eq!(said, json!(422));
    browser.close().await;
}
