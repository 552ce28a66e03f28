//! The Knife station: numbers and picture follow the words, a short tool is said, the sheet is true.

use crate::support::{Browser, Server, http, keep_belly, signed_up};

#[tokio::test(flavor = "multi_thread")]
async fn the_face_follows_the_words_and_a_short_tool_is_said() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.sign_up(&server).await;
    browser.go(&server.url("/bench?cut=pork-belly&weight=2.4+kg&thick=45+mm&face=300+x+220+mm")).await;
    browser.press("#keep:not(:disabled)").await;
    browser.press("#to-knife").await;
    browser.text_when("#depth", |text| text == "8").await;

    // Handbook section 5: 300 × 220 mm, 8 mm apart, margin 5: 27 strokes of 290 mm, 7,830 mm in all.
    browser
        .js("const c = document.querySelector('#c-work'); c.value = 'parallel'; c.dispatchEvent(new Event('input', {bubbles: true}))")
        .await;
    browser.retype("#c-spacing", "8 mm").await;
    let numbers = browser.text_when(".knife-numbers .faces", |text| text.contains("27 strokes")).await;
    assert!(numbers.contains("7,830 mm of cut"), "{numbers}");
    let drawn = browser.js("return document.querySelector('.face-strokes').getAttribute('d').split('M').length - 1").await;
    assert_eq!(drawn, 27);
    browser.retype("#c-direction", "across").await;
    browser.text_when(".knife-numbers .faces", |text| text.contains("37 strokes") && text.contains("7,770 mm")).await;
    browser.at("the state is in the address", |url| url.contains("direction=across") && url.contains("work=parallel")).await;
    browser.retype("#c-spacing", "8 kg").await;
    browser.text_when("#slip-spacing", |text| text.contains("kg")).await;

    // A fork ends before it is through the skin.
    browser
        .js("const c = document.querySelector('#c-work'); c.value = 'pierce'; c.dispatchEvent(new Event('input', {bubbles: true}))")
        .await;
    browser.find("#c-tool option[value=fork]").await;
    browser.js("const c = document.querySelector('#c-tool'); c.value = 'fork'; c.dispatchEvent(new Event('input', {bubbles: true}))").await;
    browser.text_when("#tool-line", |text| text.contains("too short")).await;
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn the_sheet_is_drawn_in_millimetres_and_only_for_its_kitchen() {
    let server = Server::start("serve").await;
    let cook = signed_up(&server).await;
    let piece = keep_belly(&cook, &server).await;
    let sheet = cook.get(server.url(&format!("{piece}/knife.svg?work=parallel&spacing=8+mm"))).send().await.unwrap();
    assert_eq!(sheet.headers()["content-type"], "image/svg+xml");
    let svg = sheet.text().await.unwrap();
    // One unit of the picture is one millimetre: width and viewBox agree, and the bar is 100 of them.
    let width = svg.split("width=\"").nth(1).unwrap().split("mm").next().unwrap();
    assert!(svg.contains(&format!("viewBox=\"0 0 {width} ")) && svg.contains("h100M") && svg.contains(">100 mm<"), "{}", &svg[..200]);
    let theirs = signed_up(&server).await;
    assert_eq!(theirs.get(server.url(&format!("{piece}/knife.svg"))).send().await.unwrap().status(), 404);
    assert_eq!(http().get(server.url(&format!("{piece}/knife"))).send().await.unwrap().status(), 303, "strangers meet the door");
}
