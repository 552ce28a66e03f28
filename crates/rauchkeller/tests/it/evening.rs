//! An evening at 390 px with the space bar only.

use crate::support::{Browser, Server, eventually};
use fantoccini::actions::{InputSource, KeyAction, KeyActions};

async fn keys(browser: &Browser, actions: impl IntoIterator<Item = KeyAction>) {
    let keys = actions.into_iter().fold(KeyActions::new("keys".into()), InputSource::then);
    browser.client.perform_actions(keys).await.unwrap();
}

/// A short press of the space bar.
async fn tap(browser: &Browser) {
    keys(browser, [KeyAction::Down { value: ' ' }, KeyAction::Up { value: ' ' }]).await;
}

/// Holds the space bar until the button says something else, as a hand does, however slow the machine.
async fn hold_until(browser: &Browser, what: &str) {
    keys(browser, [KeyAction::Down { value: ' ' }]).await;
    primary_becomes(browser, what).await;
    keys(browser, [KeyAction::Up { value: ' ' }]).await;
}

async fn primary(browser: &Browser) -> String {
    browser
        .js("return [...document.querySelectorAll('[data-primary]')].find((b) => !b.hidden)?.innerText.split('\\n')[0] ?? ''")
        .await
        .as_str()
        .unwrap_or_default()
        .to_owned()
}

async fn primary_becomes(browser: &Browser, what: &str) {
    eventually(&format!("the button says {what}"), || async { (primary(browser).await == what).then_some(()) }).await;
}

#[tokio::test(flavor = "multi_thread")]
async fn the_space_bar_carries_a_piece_to_the_table() {
    let server = Server::start("serve").await;
    let browser = Browser::phone().await;
    browser.sign_up(&server).await;
    let key = browser_piece(&browser, &server).await;
    browser.go(&server.url(&format!("{key}/hands"))).await;
    browser.find("#hands").await;

    // The number is the largest thing, nothing is below 20 px, and all of it fits the screen.
    let sizes = browser
        .js("const px = (css) => parseFloat(getComputedStyle(document.querySelector(css)).fontSize);
             const all = [...document.querySelectorAll('#hands *')].filter((e) => e.innerText && !e.hidden && e.children.length === 0).map((e) => parseFloat(getComputedStyle(e).fontSize));
             return [px('.hands-figure output'), px('.hands-title'), Math.min(...all), document.documentElement.scrollHeight <= innerHeight + 1, innerWidth]")
        .await;
    assert!(sizes[0].as_f64().unwrap() >= 72.0 && sizes[1].as_f64().unwrap() >= 28.0 && sizes[2].as_f64().unwrap() >= 20.0, "{sizes}");
    assert_eq!((sizes[3].as_bool(), sizes[4].as_u64()), (Some(true), Some(390)), "{sizes}");

    // A tap does nothing; half a second ticks; Undo, small and elsewhere than Done, takes it back.
    primary_becomes(&browser, "Done").await;
    tap(&browser).await;
    assert_eq!(primary(&browser).await, "Done");
    hold_on(&browser).await;
    let places = browser
        .js("const box = (css) => document.querySelector(css).getBoundingClientRect(); const [undo, done] = [box('[data-undo]'), box('.hands-done')];
             return [undo.bottom < done.top, undo.width * undo.height * 3 < done.width * done.height]")
        .await;
    assert_eq!((places[0].as_bool(), places[1].as_bool()), (Some(true), Some(true)), "{places}");
    // Held again for the next task, Done undoes nothing.
    hold_on(&browser).await;
    assert_eq!(ticked(&browser, &server, &key).await, 2);
    for left in [1, 0] {
        browser.js("document.querySelector('#hands').dataset.old = 1").await;
        if left == 0 {
            // It names what was done last; the one before is taken back where it stands.
            browser
                .js("fetch(location.pathname.replace('/hands', '/steps/lay-out/undone'), {method: 'POST'}).then(() => location.reload())")
                .await;
        } else {
            keys(&browser, [KeyAction::Down { value: BACKSPACE }]).await;
        }
        browser.find("#hands:not([data-old])").await;
        keys(&browser, [KeyAction::Up { value: BACKSPACE }]).await;
        eventually("it is taken back", || async { (ticked(&browser, &server, &key).await == left).then_some(()) }).await;
    }

    // The whole evening: hold by hold. Salting takes a hold a bowl, and the last one ticks the step.
    let steps = total(&browser, &server, &key).await;
    let bowls =
        browser.js(&format!("return fetch('{key}/salt').then((r) => r.text()).then((t) => t.split('id=\"bowl-').length - 1)")).await;
    let bowls = usize::try_from(bowls.as_i64().unwrap()).unwrap();
    assert_eq!(bowls, 2, "meat side and cut sides");
    let salt = 3;
    for hold in 1..steps + bowls {
        hold_on(&browser).await;
        let done = if hold <= salt { hold } else { (hold + 1 - bowls).max(salt) };
        assert_eq!(ticked(&browser, &server, &key).await, done, "after hold {hold}");
        if done == PIERCE {
            // With the brush in hand the light is begun, and then there is a Done.
            primary_becomes(&browser, "Begin").await;
            hold_until(&browser, "Done").await;
            browser.find("[data-stretch='0'].lit").await;
        }
        let wanted: &[&str] = if done == steps { &["How was it?"] } else { &["Done", "It is in", "It is out", "It is in the heat"] };
        eventually(&format!("the button says one of {wanted:?}"), || async {
            wanted.contains(&primary(&browser).await.as_str()).then_some(())
        })
        .await;
    }
    keys(&browser, [KeyAction::Down { value: ' ' }]).await;
    browser.find("#keep-verdict").await;
    browser.close().await;
}

/// Place of the piercing among the steps.
const PIERCE: usize = 2;

/// Undo goes by itself after ten seconds; what was done stays done.
#[tokio::test(flavor = "multi_thread")]
async fn undo_lasts_ten_seconds() {
    let server = Server::start("serve").await;
    let browser = Browser::phone().await;
    browser.sign_up(&server).await;
    let key = browser_piece(&browser, &server).await;
    browser.go(&server.url(&format!("{key}/hands"))).await;
    primary_becomes(&browser, "Done").await;
    hold_on(&browser).await;
    browser.find("[data-undo]").await;
    eventually("undo is gone", || async { browser.js("return !document.querySelector('[data-undo]')").await.as_bool()?.then_some(()) })
        .await;
    assert_eq!(ticked(&browser, &server, &key).await, 1);
    browser.close().await;
}

/// The key that holds Undo.
const BACKSPACE: char = '\u{e003}';

/// What the next hold does: the task, and which bowl of it.
async fn shown(browser: &Browser) -> String {
    let next = "const b = document.querySelector('[data-primary]'); return b ? b.getAttribute('hx-post') ?? b.dataset.leave : ''";
    browser.js(next).await.as_str().unwrap_or_default().to_owned()
}

/// Holds the space bar until another page has come. One that came by itself (another of this kitchen ticked something) is held again.
async fn hold_on(browser: &Browser) {
    let before = shown(browser).await;
    eventually("a hold goes on to what is next", || async {
        browser.js("document.querySelector('#hands').dataset.old = 1").await;
        keys(browser, [KeyAction::Down { value: ' ' }]).await;
        browser.find("#hands:not([data-old])").await;
        keys(browser, [KeyAction::Up { value: ' ' }]).await;
        (shown(browser).await != before).then_some(())
    })
    .await;
}

/// Nothing of any step is cut off, with the standing clock running, on a phone and on a laptop.
#[tokio::test(flavor = "multi_thread")]
async fn every_step_fits_its_screen() {
    let server = Server::start("serve").await;
    for browser in [Browser::phone().await, Browser::laptop().await] {
        browser.sign_up(&server).await;
        for cut in ["cut=duck-whole&weight=2.3+kg", "cut=turkey-whole&weight=5.2+kg", "cut=pork-belly&weight=2.4+kg"] {
            let piece = browser.keeps(&server, cut).await;
            // Laid out: the clock out of the cold stands on the screen too.
            browser.press("#step-0 .tick").await;
            browser.text_when("#step-0 .step-tick", |text| text.contains("undo")).await;
            for step in 0..total(&browser, &server, &piece).await {
                browser.go(&server.url(&format!("{piece}/hands?at={step}"))).await;
                browser.find("#hands").await;
                let cut_off = browser
                    .js("const body = document.querySelector('.hands-body');
                         const low = document.querySelector('#hands footer').getBoundingClientRect().bottom;
                         return [Math.max(body.scrollHeight - body.clientHeight, 0), Math.max(low - innerHeight, 0), innerWidth, innerHeight]")
                    .await;
                assert!(cut_off[0].as_f64().unwrap() <= 1.0 && cut_off[1].as_f64().unwrap() <= 1.0, "{cut}, step {step}: {cut_off} px");
            }
        }
        browser.close().await;
    }
}

/// Keeps a belly in the browser's own kitchen.
async fn browser_piece(browser: &Browser, server: &Server) -> String {
    browser.keeps(server, "cut=pork-belly&weight=2.4+kg&thick=45+mm").await
}

async fn count(browser: &Browser, server: &Server, piece: &str, class: &str) -> usize {
    let script = format!(
        "return fetch('{}').then((r) => r.text()).then((t) => new DOMParser().parseFromString(t, 'text/html').querySelectorAll('{class}').length)",
        server.url(piece)
    );
    usize::try_from(browser.js(&script).await.as_u64().unwrap()).unwrap()
}

async fn ticked(browser: &Browser, server: &Server, piece: &str) -> usize {
    count(browser, server, piece, ".step.is-done").await
}

async fn total(browser: &Browser, server: &Server, piece: &str) -> usize {
    count(browser, server, piece, ".step").await
}

/// Three steaks of three thicknesses, by raw hands: the thinner ones are laid in later, each at its own step, and one rest follows
/// for all.
#[tokio::test(flavor = "multi_thread")]
async fn three_steaks_of_three_thicknesses_are_ready_together() {
    let server = Server::start("serve").await;
    let browser = Browser::phone().await;
    browser.sign_up(&server).await;
    let key = browser.keeps(&server, "cut=beef-rib-steak&weight=380+g+25+mm,+450+g+35+mm,+560+g+45+mm&fire=180+°C+until+done").await;
    browser.go(&server.url(&format!("{key}/hands"))).await;
    browser.find("#hands").await;
    let steps = total(&browser, &server, &key).await;
    let mut seen: Vec<String> = Vec::new();
    // Hold by hold until all of it is done; a salting takes a hold for each steak.
    for _ in 0..steps + 12 {
        let title = browser.text_when(".hands-title", |text| !text.is_empty()).await;
        if seen.last() != Some(&title) {
            seen.push(title);
        }
        if ticked(&browser, &server, &key).await == steps {
            break;
        }
        hold_on(&browser).await;
    }
    assert_eq!(ticked(&browser, &server, &key).await, steps, "{seen:?}");
    let place = |words: &str| seen.iter().position(|title| title.contains(words)).unwrap_or_else(|| panic!("{words} in {seen:?}"));
    let (heat, middle, thin, rest) = (place("Into the heat"), place("of 35 mm in"), place("of 25 mm in"), place("Out of the heat"));
    assert!(heat < middle && middle < thin && thin < rest, "{seen:?}");
    browser.close().await;
}
