//! The Knife station: numbers and picture follow words and handles, a short tool is said, own tools and paces are kept,
//! the plan follows, and raw hands have their light.

use crate::support::{Browser, Server, eventually, http, keep_belly, signed_up};
use fantoccini::actions::{InputSource, MouseActions, PointerAction};
use serde_json::json;
use std::time::Duration;
use uuid::Uuid;

const FACE: &str = "/bench?cut=pork-belly&weight=3.1+kg&thick=45+mm&face=300+x+220+mm";

/// A belly of TRADE 5.3, opened at its Knife.
async fn at_the_knife(server: &Server, browser: &Browser) {
    browser.sign_up(server).await;
    browser.go(&server.url(FACE)).await;
    browser.press("#keep:not(:disabled)").await;
    browser.press("#to-knife").await;
    browser.text_when("#depth", |text| text == "8").await;
}

async fn choose(browser: &Browser, field: &str, value: &str) {
    browser.find(&format!("#c-{field} option[value='{value}']")).await;
    browser
        .js(&format!(
            "const c = document.querySelector('#c-{field}'); c.value = '{value}'; c.dispatchEvent(new Event('input', {{bubbles: true}}))"
        ))
        .await;
}

#[tokio::test(flavor = "multi_thread")]
async fn the_face_follows_the_words_and_a_short_tool_is_said() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    at_the_knife(&server, &browser).await;

    // TRADE 5.3: 300 × 220 mm, 8 mm apart, margin 5: 27 strokes of 290 mm, 7,830 mm in all.
    choose(&browser, "work", "parallel").await;
    browser.find("#c-spacing").await;
    browser.retype("#c-spacing", "8 mm").await;
    let numbers = browser.text_when("#counts", |text| text.contains("27 strokes")).await;
    assert!(numbers.contains("7,830 mm of cut"), "{numbers}");
    let drawn = browser.js("return document.querySelector('.face-strokes').getAttribute('d').split('M').length - 1").await;
    assert_eq!(drawn, 27);
    browser.retype("#c-direction", "across").await;
    browser.text_when("#counts", |text| text.contains("37 strokes") && text.contains("7,770 mm")).await;
    browser.at("the state is in the address", |url| url.contains("direction=across") && url.contains("work=parallel")).await;
    browser.retype("#c-spacing", "8 kg").await;
    browser.text_when("#slip-spacing", |text| text.contains("kg")).await;
    browser.retype("#c-spacing", "10 mm").await;
    browser.text_when("#counts", |text| text.contains("30 strokes")).await;
    // The sheet behind the link is the same face: downloaded, in millimetres, with as many strokes.
    let sheet = browser
        .js("const a = document.querySelector('#sheet'); return fetch(a.href).then((r) => r.text()).then((t) => [a.hasAttribute('download'), t.split('face-strokes')[1].split(' d=\"')[1].split('\"')[0].split('M').length - 1, t.includes('width=\"328mm\"')])")
        .await;
    assert_eq!(sheet, json!([true, 30, true]));

    // A fork ends before it is through the skin.
    choose(&browser, "work", "pierce").await;
    choose(&browser, "tool", "fork").await;
    browser.text_when("#tool-line", |text| text.contains("too short")).await;
    // Deeper than the fat: red, and said before the first cut.
    browser.retype("#c-deep", "12 mm").await;
    browser.text_when("#depth-says", |text| text.contains("2.5 mm into the lean")).await;
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_handle_is_dragged_and_moved_by_keys() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    at_the_knife(&server, &browser).await;
    choose(&browser, "work", "parallel").await;
    browser.text_when("#counts", |text| text.contains("6.6 dm²") && text.contains("27 strokes")).await;

    // By keys: two centimetres narrower, 200 mm: ⌊190/8⌋ + 1 = 24 strokes, 6 dm².
    let wide = browser.find("#handle-wide").await;
    browser.js("document.querySelector('#handle-wide').focus()").await;
    wide.send_keys("\u{E008}\u{E015}\u{E015}\u{E008}").await.unwrap();
    browser.text_when("#counts", |text| text.contains("24 strokes") && text.contains("6 dm²")).await;

    // By pointer: the right end goes left; numbers, field and picture follow while it moves.
    let spot = browser.js("const h = document.querySelector('#handle-long'); h.scrollIntoView({block: 'center'}); const r = h.getBoundingClientRect(); const s = document.querySelector('svg.face').getScreenCTM().a; return [r.x + r.width / 2, r.y + r.height / 2, s]").await;
    let (x, y, scale) = (spot[0].as_f64().unwrap(), spot[1].as_f64().unwrap(), spot[2].as_f64().unwrap());
    let to = |x: f64| PointerAction::MoveTo { duration: Some(Duration::from_millis(60)), x: x.round(), y: y.round() };
    let drag = MouseActions::new("mouse".into())
        .then(to(x))
        .then(PointerAction::Down { button: 0 })
        .then(to(x - 20.0 * scale))
        .then(to(x - 60.0 * scale))
        .then(PointerAction::Up { button: 0 });
    browser.client.perform_actions(drag).await.unwrap();
    let long = eventually("the length follows the hand", || async {
        let value = browser.js("return document.querySelector('#c-long').value").await;
        let mm: f64 = value.as_str()?.trim_end_matches(" mm").parse().ok()?;
        (mm < 250.0).then_some(mm)
    })
    .await;
    assert!((long - 240.0).abs() <= 2.0, "300 mm less 60 dragged: {long}");
    let cut = format!("{} strokes", 24);
    browser.text_when("#counts", |text| text.contains(&cut) && text.contains(&format!("{} dm²", long * 2.0 / 100.0))).await;
    browser.at("the measure is in the address", |url| url.contains("long=")).await;

    // A string left alone is added, and its handle moves it.
    browser.press("#add-string").await;
    browser.find("#handle-tie-0").await;
    browser.js("document.querySelector('#handle-tie-0').focus()").await;
    browser.find("#handle-tie-0").await.send_keys("\u{E012}").await.unwrap();
    eventually("the string moves by a millimetre", || async {
        let value = browser.js("return document.querySelector('#c-avoid').value").await;
        (value.as_str()? == format!("string {:.0}", (long / 2.0).round() - 1.0)).then_some(())
    })
    .await;
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_kept_changes_the_steps_and_raw_hands_have_a_light() {
    let server = Server::start("serve").await;
    let browser = Browser::phone().await;
    at_the_knife(&server, &browser).await;
    choose(&browser, "tool", "pick").await;
    browser.text_when("#counts", |text| text.contains("picks laid out")).await;
    browser.press("#keep-knife").await;
    let steps = browser.text_when("#piece", |text| text.contains("single pick")).await;
    assert!(steps.contains("13 picks out, 13 counted back in"), "{steps}");
    let piece = browser.at("the piece", |url| url.contains("/pieces/")).await;

    // Tick what comes before, then begin.
    browser.go(&format!("{piece}/hands")).await;
    for title in ["Dry it", "Pierce"] {
        hold(&browser, "[data-done]").await;
        browser.text_when(".hands-title", |text| text.contains(title)).await;
    }
    hold(&browser, "[data-begin]").await;
    browser.find("[data-stretch='0'].lit").await;
    // A knuckle taps; the view is swapped under it, and the next tap is aimed at the new one.
    let tap = |css: &'static str| {
        let browser = &browser;
        async move {
            browser.js(&format!("document.querySelector('#hands').dataset.old = 1; document.querySelector('{css}').click()")).await;
            browser.find("#hands:not([data-old])").await;
        }
    };
    tap("[data-light-hold]").await;
    browser.text_when(".hands-stretch", |text| text.starts_with("held")).await;
    tap("[data-light-hold]").await;
    browser.text_when(".hands-stretch", |text| text.starts_with("at")).await;
    tap("[data-light-back]").await;
    browser.find("[data-stretch='0'].lit").await;
    // One pick does not come back: it is said until it is found.
    tap("[data-missing]").await;
    browser.text_when("[data-done]", |text| text.contains("only")).await;
    hold(&browser, "[data-done]").await;
    browser.text_when(".hands-caution", |text| text.contains("1 pick is missing")).await;
    browser.go(&piece).await;
    browser.text_when("#lost-picks", |text| text.contains("find it")).await;
    browser.close().await;
}

/// Presses for half a second, as a knuckle does.
async fn hold(browser: &Browser, css: &str) {
    let css = format!("{css}:not([hidden])");
    browser.find(&css).await;
    browser.js(&format!("document.querySelector(\"{css}\").dispatchEvent(new PointerEvent('pointerdown', {{bubbles: true}}))")).await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_tool_is_hung_up_where_it_is_first_used() {
    let server = Server::start("serve").await;
    let cook = signed_up(&server).await;
    let piece = keep_belly(&cook, &server).await;
    let add = |name: &str, reach: &str| {
        let form =
            json!({"name": name, "reach": reach, "pins": "30", "stop": "fixed", "key": Uuid::now_v7().to_string(), "query": "density=15"});
        cook.post(server.url(&format!("{piece}/knife/tools"))).form(&form).send()
    };
    let refused = add("pin roller", "far").await.unwrap();
    assert_eq!(refused.status(), 422);
    let page = refused.text().await.unwrap();
    assert!(page.contains("“far” is no reach") && page.contains("value=\"pin roller\""), "what was typed stays");
    let hung = add("pin roller", "12 mm").await.unwrap();
    assert_eq!(hung.status(), 303);
    let station = hung.headers()["location"].to_str().unwrap().to_owned();
    assert!(station.contains("tool=own-") && station.contains("density=15"), "{station}");
    let page = cook.get(server.url(&station)).send().await.unwrap().text().await.unwrap();
    // By hand: 12 mm of pins where 8 are safe.
    assert!(page.contains("pin roller, ours") && page.contains("goes 4 mm deeper than is safe"));
    assert_eq!(add("Pin roller", "9 mm").await.unwrap().status(), 422, "the name is taken");
    let kit = cook.get(server.url("/kit")).send().await.unwrap().text().await.unwrap();
    assert!(kit.contains("pin roller") && kit.contains("30 pins a press"));
    // Kept with the piece it stays with it; another kitchen sees neither.
    let theirs = signed_up(&server).await;
    assert_eq!(theirs.get(server.url(&station)).send().await.unwrap().status(), 404);
}

#[tokio::test(flavor = "multi_thread")]
async fn keeping_is_all_or_nothing_and_never_over_somebody_elses() {
    let server = Server::start("serve").await;
    let cook = signed_up(&server).await;
    let piece = keep_belly(&cook, &server).await;
    let keep = |form: serde_json::Value| {
        let url = server.url(&format!("{piece}/knife"));
        let cook = &cook;
        async move { cook.post(url).form(&form).send().await.unwrap() }
    };
    let steps = || async { cook.get(server.url(&piece)).send().await.unwrap().text().await.unwrap() };
    let before = steps().await;
    let slip = keep(json!({"version": "1", "work": "parallel", "spacing": "8 kg"})).await;
    assert_eq!(slip.status(), 422);
    assert!(slip.text().await.unwrap().contains("value=\"8 kg\""), "what was typed stays");
    assert_eq!(steps().await, before, "nothing half-stored");
    assert_eq!(keep(json!({"version": "7", "work": "parallel"})).await.status(), 409, "another version was seen");
    assert_eq!(keep(json!({"version": "1", "work": "parallel", "spacing": "8 mm", "meat": "grooves"})).await.status(), 303);
    let again = keep(json!({"version": "1", "work": "parallel", "spacing": "8 mm", "meat": "grooves"})).await;
    assert_eq!(again.status(), 303, "the same form twice is kept once");
    let after = steps().await;
    assert!(
        after.contains("Score it") && after.contains("Groove the meat side") && after.contains("no longer intact"),
        "steps and cautions follow"
    );
    // The station opens where it was left.
    let station = cook.get(server.url(&format!("{piece}/knife"))).send().await.unwrap().text().await.unwrap();
    assert!(station.contains("id=\"kept\"") && station.contains("value=\"8 mm\""));
    assert_eq!(keep(json!({"version": "1", "work": "pierce"})).await.status(), 409, "the version went on");
}

#[tokio::test(flavor = "multi_thread")]
async fn the_sheet_is_drawn_in_millimetres_and_only_for_its_kitchen() {
    let server = Server::start("serve").await;
    let cook = signed_up(&server).await;
    let piece = keep_belly(&cook, &server).await;
    let sheet = cook.get(server.url(&format!("{piece}/knife.svg?work=parallel&spacing=8+mm"))).send().await.unwrap();
    assert_eq!(sheet.headers()["content-type"], "image/svg+xml");
    assert!(sheet.headers()["content-disposition"].to_str().unwrap().contains("face.svg"));
    let svg = sheet.text().await.unwrap();
    // One unit of the picture is one millimetre: width and viewBox agree, and the bar is 100 of them.
    let width = svg.split("width=\"").nth(1).unwrap().split("mm").next().unwrap();
    assert!(svg.contains(&format!("viewBox=\"0 0 {width} ")) && svg.contains("h100M") && svg.contains(">100 mm<"), "{}", &svg[..200]);
    let theirs = signed_up(&server).await;
    for file in ["knife.svg", "knife.pdf", "knife-strips.pdf", "knife"] {
        assert_eq!(theirs.get(server.url(&format!("{piece}/{file}"))).send().await.unwrap().status(), 404, "{file}");
        assert_eq!(http().get(server.url(&format!("{piece}/{file}"))).send().await.unwrap().status(), 303, "strangers meet the door");
    }
}
