//! axe-core finds nothing on any main view, laptop and phone, light and dark.

use crate::support::{Browser, Server, from_bin_test};
use serde_json::{Value, json};

const AXE: &str = include_str!("../vendor/axe.min.js");

async fn violations(browser: &Browser) -> Value {
    browser.client.execute(AXE, vec![]).await.unwrap();
    let script = "const done = arguments[arguments.length - 1];
        axe.run(document, {runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']}).then((r) => done(r.violations.map((v) =>
            ({id: v.id, help: v.help, nodes: v.nodes.slice(0, 3).map((n) => n.html.slice(0, 160) + ' — ' + (n.failureSummary || '').slice(0, 240))}))));";
    browser.client.execute_async(script, vec![]).await.unwrap()
}

/// Asks the browser for the dark theme, through ChromeDriver's own door.
async fn dark(browser: &Browser) {
    let session = browser.client.session_id().await.unwrap().unwrap();
    let body = json!({"cmd": "Emulation.setEmulatedMedia", "params": {"features": [{"name": "prefers-color-scheme", "value": "dark"}]}});
    let url = format!("{}/session/{session}/goog/cdp/execute", from_bin_test("WEBDRIVER_URL"));
    assert!(reqwest::Client::new().post(url).json(&body).send().await.unwrap().status().is_success());
}

async fn all_views(browser: &Browser, server: &Server) {
    browser.go(&server.url("/sign-in")).await;
    browser.find("#enter-demo").await;
    assert_eq!(violations(browser).await, json!([]), "sign-in");
    browser.go(&server.url("/sign-up")).await;
    assert_eq!(violations(browser).await, json!([]), "sign-up");
    browser.go(&server.url("/sign-in")).await;
    browser.press("#enter-demo").await;
    browser.find("#cellar").await;
    let piece = browser.js("return document.querySelector('.journey').getAttribute('href')").await.as_str().unwrap().to_owned();
    let eaten = browser
        .js("return fetch('/book').then((r) => r.text()).then((t) => t.match(/pieces\\/[-0-9a-f]+/)[0])")
        .await
        .as_str()
        .unwrap()
        .to_owned();
    // Where the Knife's hook leads: the slab whose skin is still whole.
    let slab = browser.js("return fetch('/knife').then(async (r) => r.redirected ? new URL(r.url).pathname : (await r.text()).match(/\\/pieces\\/[-0-9a-f]+\\/knife/)[0])").await.as_str().unwrap().to_owned();
    // And where the rest leads: the piece that dries.
    let drying = browser.js("return fetch('/chill').then(async (r) => r.redirected ? new URL(r.url).pathname : (await r.text()).match(/\\/pieces\\/[-0-9a-f]+\\/chill/)[0])").await.as_str().unwrap().to_owned();
    let views = [
        ("cellar", "/cellar".to_owned()),
        ("bench", "/bench?weight=2.4+kg".to_owned()),
        ("bench with a slip", "/bench?weight=heavy&cut=beef-rib-steak".to_owned()),
        ("bench, duck", "/bench?cut=duck-whole&weight=2+x+2.1+kg&stands=salted".to_owned()),
        ("bench, ladder", "/bench?cut=pork-loin-rack&weight=2.2+kg&also=2+tbsp+soy+sauce".to_owned()),
        ("bench, looked over", "/bench?weight=2.4+kg&thin=30+mm&scored=lean&cover=crust&also=boathouse+rub".to_owned()),
        ("bench, portions", "/bench?cut=beef-rib-steak&weight=400+g+%2B+500+g&thick=30+%2B+42+mm".to_owned()),
        ("bench, ways out", "/bench?cut=beef-round-roast&weight=2.5+kg&thick=120+mm&dose=16".to_owned()),
        ("bench, two readings", "/bench?cut=turkey-whole&weight=12&serve=Saturday&label=8+%25".to_owned()),
        ("bench, too late", "/bench?cut=beef-rib-steak&weight=400+g+50+mm,+350+g+38+mm&serve=in+6+hours".to_owned()),
        ("bench, no cold rest", "/bench?cut=pork-belly&weight=2.4+kg&method=same-day-crust".to_owned()),
        ("bench, marinade", "/bench?cut=pork-loin-rack&weight=2+kg&method=marinade&split=meat+70".to_owned()),
        ("ways", "/bench/ways?cut=pork-belly&weight=2.4+kg".to_owned()),
        ("household", "/household".to_owned()),
        ("taken out", "/taken-out".to_owned()),
        ("which piece", "/chill".to_owned()),
        ("piece", piece.clone()),
        ("salt", format!("{piece}/salt")),
        ("knife", format!("{piece}/knife?work=diamond&spacing=8+kg")),
        (
            "knife, everything",
            format!(
                "{slab}?shape=taper&work=crosshatch&fat_left=9&fat_near=7&fat_far=7&fat_right=1&meat=grooves&avoid=string+150%3B+place+60+60+14&deep=20"
            ),
        ),
        ("knife, meat side", format!("{slab}?meat=lattice&side=meat&tool=fork&work=pierce&density=15&zoom=2")),
        ("rest", drying.clone()),
        ("rest, another hour", format!("{drying}?hours=40")),
        ("rest, before the salt", slab.replace("/knife", "/chill")),
        ("kit", "/kit".to_owned()),
        ("weigh a salt", "/kit/salts/new?name=grey&weighings=53+54&purity=130".to_owned()),
        ("write down a mix", "/kit/mixes/new?name=rub&recipe=40+g+salt%0A30+g+plum+paste".to_owned()),
        ("a way of one’s own", "/kit/ways/new?from=acid-soda&bench=%2Fbench%3Fcut%3Dpork-belly%26weight%3D2.4%2Bkg".to_owned()),
        ("take a way in", "/kit/ways/take-in".to_owned()),
        ("raw hands", format!("{piece}/hands")),
        ("verdict", format!("/{eaten}/verdict")),
        ("book", "/book".to_owned()),
        ("not found", "/nowhere".to_owned()),
    ];
    let mut all = Vec::new();
    for (name, path) in views {
        browser.go(&server.url(&path)).await;
        browser.find("main").await;
        let found = violations(browser).await;
        if found != json!([]) {
            all.push(format!("{name}: {found:#}"));
        }
        let overflow = browser.js("return document.documentElement.scrollWidth - innerWidth").await.as_i64().unwrap();
        assert!(overflow <= 0, "{name} is {overflow} px wider than the screen");
    }
    assert!(all.is_empty(), "{}", all.join("\n"));
}

#[tokio::test(flavor = "multi_thread")]
async fn laptop_light() {
    let server = Server::start("demo").await;
    let browser = Browser::laptop().await;
    all_views(&browser, &server).await;
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn phone_dark() {
    let server = Server::start("demo").await;
    let browser = Browser::phone().await;
    dark(&browser).await;
    all_views(&browser, &server).await;
    browser.close().await;
}
