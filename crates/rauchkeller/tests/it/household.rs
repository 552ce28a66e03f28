//! A household: two cooks by an invitation that opens once, a scale paired by its code, names, notes, and what was taken out.

use crate::salt::Scale;
use crate::support::{Browser, Server, eventually, keep_belly, signed_up};
use serde_json::json;
use uuid::Uuid;

#[tokio::test]
async fn a_second_cook_comes_in_once_and_shares_the_kitchen() {
    let server = Server::start("serve").await;
    let first = Browser::laptop().await;
    first.signs_up(&server, "Two cooks").await;
    first.go(&server.url("/bench?weight=2.4+kg")).await;
    first.press("#keep:not(:disabled)").await;
    let piece = first.find("#piece").await;
    drop(piece);
    first.go(&server.url("/household")).await;
    first.press("#invite").await;
    let link = first.text_when("#link", |text| text.contains("/join/")).await;
    let second = Browser::phone().await;
    second.go(&link).await;
    second.text_when("h1", |text| text == "Join Two cooks").await;
    // Wrong input first: said at each field, what was typed kept.
    second.retype("[name=name]", "Ida").await;
    second.retype("[name=password]", "short").await;
    second.press(".door-card .button").await;
    second.text_when("#w-address", |text| text.contains('@')).await;
    second.text_when("#w-password", |text| text.contains("these are 5")).await;
    assert_eq!(second.js("return document.querySelector('[name=name]').value").await, json!("Ida"));
    second.retype("[name=address]", &format!("{}@example.org", Uuid::now_v7().simple())).await;
    second.retype("[name=password]", "smoke ladle birch umbrella").await;
    second.press(".door-card .button").await;
    second.text_when("#cellar", |text| text.contains("Pork belly 2.4 kg")).await;
    first.go(&server.url("/household")).await;
    first.text_when("#cooks", |text| text.contains("Ida") && text.contains("(you)")).await;
    // The link opens nothing any more.
    let third = Browser::laptop().await;
    third.go(&link).await;
    third.text_when("h1", |text| text == "This link opens nothing").await;
    for browser in [first, second, third] {
        browser.close().await;
    }
}

#[tokio::test]
async fn an_invitation_taken_back_or_used_by_two_at_once_lets_in_one_at_most() {
    let server = Server::start("serve").await;
    let client = signed_up(&server).await;
    let page = client.post(server.url("/household/invitations")).send().await.unwrap().text().await.unwrap();
    let link = server.url(page.split("id=\"link\">").nth(1).unwrap().split('<').next().unwrap());
    let back = page.split("/household/invitations/").nth(1).unwrap().split('/').next().unwrap();
    let join = |link: String| async move {
        let form =
            json!({"name": "Ida", "address": format!("{}@example.org", Uuid::now_v7().simple()), "password": "smoke ladle birch umbrella"});
        crate::support::http().post(link).form(&form).send().await.unwrap().status().as_u16()
    };
    let mut both = [join(link.clone()).await, join(link).await];
    both.sort_unstable();
    assert_eq!(both, [303, 410]);
    // Used up: nothing to take back; and a stranger's is not here.
    let gone = client.post(server.url(&format!("/household/invitations/{back}/take-back"))).send().await.unwrap();
    assert_eq!(gone.status(), 404);
    let page = client.post(server.url("/household/invitations")).send().await.unwrap().text().await.unwrap();
    let link = server.url(page.split("id=\"link\">").nth(1).unwrap().split('<').next().unwrap());
    let back = page.split("/household/invitations/").nth(1).unwrap().split('/').next().unwrap().to_owned();
    let stranger = signed_up(&server).await;
    let foreign = stranger.post(server.url(&format!("/household/invitations/{back}/take-back"))).send().await.unwrap();
    assert_eq!(foreign.status(), 404);
    client.post(server.url(&format!("/household/invitations/{back}/take-back"))).send().await.unwrap();
    assert_eq!(join(link).await, 410);
}

#[tokio::test]
async fn a_scale_is_paired_by_its_code_in_a_fresh_household() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.signs_up(&server, "Scale kitchen").await;
    let scale = Scale::unpaired(&server);
    // The code stands on the scale's own page.
    browser.go(&scale.page()).await;
    let code = browser.text_when("#code", |text| text.len() == 7 && text.as_bytes()[3] == b' ').await;
    browser.go(&server.url("/kit")).await;
    for (wrong, says) in [("bench", "no code"), ("AAA AAA", "No scale shows")] {
        browser.retype("#k-code", wrong).await;
        browser.press("#pair-scale").await;
        browser.text_when("#slip-code", |text| text.contains(says)).await;
        assert_eq!(browser.js("return document.querySelector('#k-code').value").await, json!(wrong));
    }
    browser.retype("#k-code", &code.to_lowercase()).await;
    browser.press("#pair-scale").await;
    browser.text_when("#scales", |text| text.contains("simulated scale")).await;
    eventually("the scale knows its kitchen", || async { scale.state().await["paired"].as_bool()?.then_some(()) }).await;
    // It speaks: at the Salt station its figure stands.
    browser.go(&server.url("/bench?weight=2.4+kg")).await;
    browser.press("#keep:not(:disabled)").await;
    browser.press("#to-salt").await;
    scale.hand("put?g=180").await;
    browser.text_when("#weigh .scale-line", |text| text.contains("shows 180")).await;
    // The same code opens nothing twice.
    let other = signed_up(&server).await;
    let again = other.post(server.url("/kit/scales/pair")).form(&json!({"code": code})).send().await.unwrap();
    assert_eq!(again.status(), 422);
    // Taken out of the Kit it waits to be paired anew, with another code.
    browser.go(&server.url("/kit")).await;
    browser.press("#scales .hung form button").await;
    let fresh = eventually("a new code", || async { scale.state().await["code"].as_str().map(str::to_owned) }).await;
    assert_ne!(fresh, code);
    browser.close().await;
}

#[tokio::test]
async fn a_piece_has_a_name_and_notes_and_what_was_taken_out_comes_back() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.signs_up(&server, "Names").await;
    for _ in 0..2 {
        browser.go(&server.url("/bench?weight=2.4+kg")).await;
        browser.press("#keep:not(:disabled)").await;
        browser.find("#piece").await;
    }
    browser.retype("#p-name", "Belly for Saturday").await;
    browser.find("#p-note").await.send_keys("From the corner butcher, skin uneven.").await.unwrap();
    browser.press("#write-down").await;
    browser.text_when(".piece-name", |text| text.contains("Belly for Saturday")).await;
    browser.go(&server.url("/cellar")).await;
    let cellar = browser.text_when("#cellar", |text| text.contains("Belly for Saturday")).await;
    // The same warning of both is said once, with both names.
    let watch = cellar.split("Watch").nth(1).unwrap();
    assert_eq!(watch.matches("On what day was it bought?").count(), 1, "{watch}");
    assert!(watch.contains("Belly for Saturday") && watch.contains("Pork belly 2.4 kg"), "{watch}");
    // Two wait: the Salt asks which.
    browser.go(&server.url("/salt")).await;
    browser.text_when("#which", |text| text.contains("Salt for which piece?") && text.contains("Belly for Saturday")).await;
    browser.press(".which-list a").await;
    browser.find("#salt-station").await;
    // Taken out, listed, put back.
    browser.go(&server.url("/cellar")).await;
    let piece = browser.js("return [...document.querySelectorAll('.journey')].find((a) => a.getAttribute('aria-label').includes('Saturday')).getAttribute('href')").await;
    browser.go(&server.url(piece.as_str().unwrap())).await;
    browser.press(".remove button").await;
    browser.find(".taken-out").await;
    browser.go(&server.url("/taken-out")).await;
    browser.press(".taken-list button[aria-label='Put Belly for Saturday back']").await;
    browser.find("#piece").await;
    browser.go(&server.url("/taken-out")).await;
    browser.text_when("main", |text| text.contains("Nothing was taken out")).await;
    browser.close().await;
}

#[tokio::test]
async fn two_names_at_once_are_a_conflict_and_none_is_lost() {
    let server = Server::start("serve").await;
    let client = signed_up(&server).await;
    let piece = keep_belly(&client, &server).await;
    let call = |name: &'static str, version: i32| {
        let (client, url) = (client.clone(), server.url(&format!("{piece}/name")));
        async move { client.post(url).form(&json!({"name": name, "note": "mine", "version": version.to_string()})).send().await.unwrap() }
    };
    let version = i32::try_from(server.count("SELECT version AS n FROM pieces").await).unwrap();
    assert_eq!(call("Ida's", version).await.status(), 303);
    let late = call("Ole's", version).await;
    assert_eq!(late.status(), 409);
    let page = late.text().await.unwrap();
    assert!(page.contains(">Ole&#39;s</textarea>"), "what was typed stands there");
    assert_eq!(server.count("SELECT COUNT(*) AS n FROM pieces WHERE name = 'Ida''s'").await, 1);
    assert_eq!(call("", version + 1).await.status(), 422);
    assert_eq!(call("x", version + 1).await.status(), 303);
}

#[tokio::test]
async fn the_zone_of_the_kitchen_can_be_put_right() {
    let server = Server::start("serve").await;
    let client = signed_up(&server).await;
    let post = |units: &'static str, zone: &'static str| {
        let (client, url) = (client.clone(), server.url("/household"));
        async move { client.post(url).form(&json!({"units": units, "zone": zone})).send().await.unwrap() }
    };
    let wrong = post("us", "Atlantis").await;
    assert_eq!(wrong.status(), 422);
    assert!(wrong.text().await.unwrap().contains("“Atlantis” is not a time zone"));
    assert_eq!(server.count("SELECT COUNT(*) AS n FROM households WHERE units IS NULL AND time_zone = 'UTC'").await, 1, "neither is set");
    assert_eq!(post("us", "America/New York").await.status(), 200);
    assert_eq!(server.count("SELECT COUNT(*) AS n FROM households WHERE units = 'us' AND time_zone = 'America/New_York'").await, 1);
    // Quiet hours are the household's own; a slip sets nothing, two empty fields are none, and fields that are not there change nothing.
    let night = |from: &'static str, to: &'static str| {
        let (client, url) = (client.clone(), server.url("/household"));
        let form = json!({"zone": "America/New York", "quiet_from": from, "quiet_to": to});
        async move { client.post(url).form(&form).send().await.unwrap() }
    };
    let slip = night("late", "06:30").await;
    assert_eq!(slip.status(), 422);
    assert!(slip.text().await.unwrap().contains("“late” is no hour of the night"));
    assert_eq!(night("07:00", "07:00").await.status(), 422);
    assert_eq!(server.count("SELECT COUNT(*) AS n FROM households WHERE quiet IS NULL").await, 1);
    assert_eq!(night("21:15", "8:00 am").await.status(), 200);
    assert_eq!(server.count("SELECT COUNT(*) AS n FROM households WHERE quiet = '21:15-08:00' AND units = 'us'").await, 1);
    assert_eq!(post("us", "America/New York").await.status(), 200);
    assert_eq!(server.count("SELECT COUNT(*) AS n FROM households WHERE quiet = '21:15-08:00'").await, 1);
    let said = client.get(server.url("/account")).send().await.unwrap().text().await.unwrap();
    let said =
        if said.contains("quiet_from") { said } else { client.get(server.url("/household")).send().await.unwrap().text().await.unwrap() };
    assert!(said.contains("name=\"quiet_from\" value=\"21:15\""));
    assert_eq!(night("", " ").await.status(), 200);
    assert_eq!(server.count("SELECT COUNT(*) AS n FROM households WHERE quiet = '00:00-00:00'").await, 1);
    // Pounds, inches and °F stand first from now on.
    let bench = client.get(server.url("/bench?cut=beef-rib-steak&weight=12")).send().await.unwrap().text().await.unwrap();
    let pull = bench.split("id=\"pull\">").nth(1).and_then(|rest| rest.split('<').next()).unwrap();
    assert!(pull.ends_with(" °F"), "the pull is said in °F: {pull}");
    assert!(bench.contains("145 °F (62.8 °C)"), "and so are sentences");
}

#[tokio::test]
async fn a_bowl_of_six_hundred_grams_is_asked_about_and_enter_goes_on() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.signs_up(&server, "Bowls").await;
    browser.go(&server.url("/bench?cut=duck-whole&weight=2.2+kg")).await;
    browser.press("#keep:not(:disabled)").await;
    browser.press("#to-salt").await;
    // Every bowl says its spoons.
    browser.text_when("#bowl-1", |text| text.contains("tsp") || text.contains("tbsp")).await;
    browser.retype("#bowl-1 .said", "600").await;
    browser.find("#bowl-1 .said").await.send_keys("\u{e007}").await.unwrap();
    browser.text_when("#bowl-1 .slip", |text| text.contains("bowl’s own weight")).await;
    browser.retype("#bowl-1 .said", "6").await;
    browser.find("#bowl-1 .said").await.send_keys("\u{e007}").await.unwrap();
    browser.text_when("#bowl-1", |text| text.contains("weighed") || text.contains("than planned")).await;
    eventually("the next bowl has the hands", || async {
        browser.js("return document.activeElement.closest('#bowl-2') !== null").await.as_bool()?.then_some(())
    })
    .await;
    browser.close().await;
}

#[tokio::test]
async fn examples_are_no_data_and_a_fresh_kitchen_says_what_it_lacks() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.signs_up(&server, "Fresh").await;
    // Nothing planned: the Knife speaks of the knife, not of the Cellar.
    browser.go(&server.url("/knife")).await;
    let knife = browser.text_when("#which", |text| !text.is_empty()).await;
    assert!(knife.contains("knife") || knife.contains("Knife"), "{knife}");
    assert!(!knife.contains("Cellar is empty"), "{knife}");
    // An example stands below its field, slanted and light, and the field is empty.
    browser.go(&server.url("/kit/salts/new")).await;
    let example = "const field = document.querySelector('#k-name'); const like = field.parentElement.querySelector('.like');
        const style = getComputedStyle(like);
        return [field.value + field.placeholder, like.textContent, style.fontStyle, style.fontWeight]";
    browser.find("#k-name").await;
    assert_eq!(browser.js(example).await, json!(["", "like the grey jar", "italic", "400"]));
    // Salt weighed today for a meal far off: no raw meat on the bench meanwhile.
    browser.go(&server.url("/bench?weight=2.4+kg&bought=today&serve=in+80+hours")).await;
    browser.press("#keep:not(:disabled)").await;
    browser.press(".step:first-child .tick").await;
    browser.find(".step:first-child .ticked").await;
    browser.go(&server.url("/cellar")).await;
    browser.find(".journey").await;
    let widths = browser
        .js("const svg = document.querySelector('svg.board');
             return [svg.viewBox.baseVal.width, ...[...svg.querySelectorAll('.journey .strip')].map((s) => s.width.baseVal.value)]")
        .await;
    let widths: Vec<f64> = widths.as_array().unwrap().iter().map(|w| w.as_f64().unwrap()).collect();
    // The widest strip is the refrigerator's; the first, on the bench, is a sliver beside it.
    let widest = widths[1..].iter().copied().fold(0.0, f64::max);
    assert!(widths.len() > 2 && widths[1] < widest / 4.0, "{widths:?}");
    browser.close().await;
}
