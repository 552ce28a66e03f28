//! On paper every page is a page, and a piece is a prep sheet on one side.

use crate::print::piped;
use crate::support::{Browser, Server};
use fantoccini::wd::PrintSize;

#[tokio::test]
async fn every_page_prints_on_one_side_without_menu_and_buttons() {
    let server = Server::start("demo").await;
    let browser = Browser::laptop().await;
    browser.go(&server.url("/sign-in")).await;
    browser.press("#enter-demo").await;
    browser.find("#cellar").await;
    let pieces = browser.js("return [...document.querySelectorAll('a.journey')].map((a) => a.getAttribute('href'))").await;
    let pieces: Vec<String> = pieces.as_array().unwrap().iter().map(|href| href.as_str().unwrap().to_owned()).collect();
    assert_eq!(pieces.len(), 10, "five pieces on two boards");
    let mut pages: Vec<String> = [
        "/bench?weight=2.4+kg&serve=Saturday+19:00",
        "/bench?cut=beef-rib-steak&weight=400+g+50+mm,+350+g+38+mm&serve=in+6+hours",
        "/cellar",
        "/book",
        "/kit",
        "/household",
        "/account",
        "/taken-out",
        "/refrigerator",
    ]
    .map(str::to_owned)
    .to_vec();
    pages.extend(["salt", "knife", "rest"].map(|station| format!("{}/{station}", pieces[0])));
    pages.extend(pieces[..5].iter().cloned());
    for page in &pages {
        browser.go(&server.url(page)).await;
        for size in [PrintSize::A4, PrintSize::US_LETTER] {
            let (pdf, sheets) = browser.printed(size).await;
            assert_eq!(sheets, 1, "{page}");
            let text = String::from_utf8(piped("pdftotext", &["-layout", "-"], &pdf)).unwrap();
            assert!(text.split_whitespace().count() > 8, "{page} says something: {text}");
            for menu in ["Sign out", "Keep this plan", "Raw hands", "To the work"] {
                assert!(!text.contains(menu), "{page} prints “{menu}”");
            }
        }
    }
    // The prep sheet: grams, every step with its hour.
    browser.go(&server.url(&pieces[1])).await;
    let steps = browser.js("return [...document.querySelectorAll('.step-what b')].map((b) => b.innerText)").await;
    let (pdf, _) = browser.printed(PrintSize::A4).await;
    let text = String::from_utf8(piped("pdftotext", &["-layout", "-"], &pdf)).unwrap();
    let words = |text: &str| text.split_whitespace().collect::<Vec<_>>().join(" ");
    assert!(steps.as_array().unwrap().len() > 8);
    for step in steps.as_array().unwrap() {
        assert!(words(&text).contains(&words(step.as_str().unwrap())), "no “{step}” on the sheet: {text}");
    }
    browser.close().await;
}
