//! No text lies over another, is cut, or sticks out of its page: every page of the demo kitchen at three widths, and plans on the Bench.
//!
//! Four fixed plans; `bin/overlaps` reads twenty random ones besides (`OVERLAP_PLANS`, `OVERLAP_SEED`).

use crate::support::{Browser, Server, from_bin_test};
use rauchkeller_core::piece::Cut;
use serde_json::{Value, json};

const LOOK: &str = include_str!("overlap.js");
const WIDTHS: [u32; 3] = [390, 768, 1280];
/// A name as nobody should give one, and as somebody will.
const LONG_NAME: &str = "Schweinebauchmitkruste-vom-hof-hinterm-hügel-für-samstagabend-und-alle-gäste";

/// A slab, birds, steaks of two thicknesses with something salty, and a joint in stages whose meal lasts.
const PLANS: [&str; 4] = [
    "cut=pork-belly&weight=2.4+kg&thick=45+mm&serve=in+2+days",
    "cut=duck-whole&weight=2+x+2.1+kg&stands=salted",
    "cut=beef-rib-steak&weight=400+g+%2B+500+g&thick=30+%2B+42+mm&serve=in+9+hours&also=2+tbsp+soy+sauce,+20+g+rub+22%25+salt",
    "cut=pork-butt&weight=9+lb&fire=smoker+250+F+until+160+F,+then+wrapped+275+F+until+203+F&tasks=no+wood,+feed+the+coals+every+45+min&serve=in+4+days",
];

/// Asks ChromeDriver's own door for a page so wide, and as high as it is long.
async fn wide(browser: &Browser, wide: u32) {
    let session = browser.client.session_id().await.unwrap().unwrap();
    let url = format!("{}/session/{session}/goog/cdp/execute", from_bin_test("WEBDRIVER_URL"));
    let size = |high: u64| json!({"cmd": "Emulation.setDeviceMetricsOverride", "params": {"width": wide, "height": high, "deviceScaleFactor": 1, "mobile": false}});
    let ask = |body: Value| {
        let (client, url) = (reqwest::Client::new(), url.clone());
        async move { assert!(client.post(url).json(&body).send().await.unwrap().status().is_success()) }
    };
    ask(size(800)).await;
    let settled = "const done = arguments[arguments.length - 1];
        document.fonts.ready.then(() => requestAnimationFrame(() => requestAnimationFrame(() => done(document.documentElement.scrollHeight))));";
    let high = browser.client.execute_async(settled, vec![]).await.unwrap().as_u64().unwrap();
    ask(size(high.clamp(800, 12_000))).await;
    let now = browser.client.execute_async(&settled.replace("document.documentElement.scrollHeight", "innerWidth"), vec![]).await.unwrap();
    assert_eq!(now.as_u64(), Some(u64::from(wide)));
}

/// Plans nobody thought of: a cut, how much of it, in either system, in a hurry or not.
fn random_plans() -> Vec<String> {
    let said = |name: &str| std::env::var(name).ok().and_then(|said| said.parse::<u64>().ok()).unwrap_or(0);
    // Knuth's linear congruential generator: the same plans for the same seed.
    let mut state = said("OVERLAP_SEED");
    let mut below = |n: u64| {
        state = state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (state >> 33) % n
    };
    let cuts: Vec<Cut> = Cut::all().collect();
    let plan = |_| {
        let cut = cuts[below(cuts.len() as u64) as usize];
        let (low, high) = cut.typical_g;
        let grams = low + (high - low) * below(1000) as f64 / 1000.0;
        let weight = if below(2) == 0 { format!("{:.2}+lb", grams / 453.592_37) } else { format!("{grams:.0}+g") };
        let more = ["", "&also=2+tbsp+soy+sauce", "&tasks=glaze,+slice+test", "&stands=salted", "&dose=22", "&finish=well+done"];
        format!("cut={}&weight={weight}&serve=in+{}+hours{}", cut.id, 8 + below(112), more[below(6) as usize])
    };
    (0..said("OVERLAP_PLANS")).map(plan).collect()
}

#[tokio::test(flavor = "multi_thread")]
async fn no_text_lies_over_another_or_is_cut() {
    let server = Server::start("demo").await;
    let browser = Browser::laptop().await;
    let mut wrong = Vec::new();
    let mut texts = 0;
    for path in ["/sign-in", "/sign-up"] {
        look(&browser, &server, path, &mut wrong, &mut texts).await;
    }
    browser.go(&server.url("/sign-in")).await;
    browser.press("#enter-demo").await;
    browser.find("#cellar").await;
    let piece = browser.js("return document.querySelector('.journey').getAttribute('href')").await.as_str().unwrap().to_owned();
    let verdict = "return fetch('/book').then((r) => r.text()).then((t) => '/' + t.match(/pieces\\/[-0-9a-f]+/)[0] + '/verdict')";
    let verdict = browser.js(verdict).await.as_str().unwrap().to_owned();
    // One piece has a name without a place to break it.
    browser.go(&server.url(&piece)).await;
    browser.find("#p-name").await;
    browser.js(&format!("const name = document.querySelector('#p-name'); name.value = '{LONG_NAME}'; name.form.requestSubmit();")).await;
    browser.text_when("main", |page| page.contains("Schweinebauch")).await;
    let station = |name: &str| format!("{piece}/{name}");
    let mut pages: Vec<String> =
        ["cellar", "book", "kit", "household", "knife", "refrigerator", "account", "taken-out", "chill", "kit/salts/new", "kit/mixes/new"]
            .map(|page| format!("/{page}"))
            .into();
    pages.extend([piece.clone(), station("salt"), station("knife"), station("chill"), station("hands"), verdict]);
    pages.extend(PLANS.map(|plan| format!("/bench?{plan}")));
    pages.extend(PLANS[..2].iter().map(|plan| format!("/bench/ways?{plan}")));
    pages.push("/kit/ways/new?from=acid-soda&bench=%2Fbench%3Fcut%3Dpork-belly%26weight%3D2.4%2Bkg".to_owned());
    pages.push("/kit/ways/take-in".to_owned());
    pages.push("/bench?weight=heavy&cut=beef-rib-steak&thick=12&serve=Saturday&label=8+%25".to_owned());
    pages.extend(random_plans().iter().map(|plan| format!("/bench?{plan}")));
    for path in &pages {
        look(&browser, &server, path, &mut wrong, &mut texts).await;
    }
    assert!(texts > 4_000, "only {texts} pieces of text were seen");
    assert!(wrong.is_empty(), "{} in {} pages:\n{}", wrong.len(), pages.len() + 2, wrong.join("\n"));
    browser.close().await;
}

async fn look(browser: &Browser, server: &Server, path: &str, wrong: &mut Vec<String>, texts: &mut u64) {
    browser.go(&server.url(path)).await;
    browser.find("main").await;
    for width in WIDTHS {
        wide(browser, width).await;
        let seen = browser.js(LOOK).await;
        let (found, rects): (Vec<String>, u64) = serde_json::from_value(seen).unwrap();
        *texts += rects;
        wrong.extend(found.into_iter().map(|what| format!("{path} at {width}: {what}")));
    }
}

/// The look itself: what lies over another, is cut or sticks out is found; what does not is not.
#[tokio::test(flavor = "multi_thread")]
async fn the_look_sees_what_is_wrong() {
    let server = Server::start("demo").await;
    let browser = Browser::laptop().await;
    browser.go(&server.url("/sign-in")).await;
    browser.find("main").await;
    let sees = async |css: &str| -> Vec<String> {
        browser.js(&format!("document.querySelector('main').replaceChildren(); {css}")).await;
        serde_json::from_value(browser.js(LOOK).await[0].clone()).unwrap()
    };
    let add = |words: &str, css: &str| {
        format!(
            "{{ const p = document.createElement('p'); p.textContent = '{words}'; Object.assign(p.style, {css}); document.querySelector('main').append(p); }}"
        )
    };
    let at = |top: u32| format!("{{position: 'absolute', top: '{top}px', left: '9px', margin: 0, lineHeight: 1}}");
    assert_eq!(sees(&(add("one", &at(300)) + &add("two", &at(340)))).await, Vec::<String>::new());
    assert!(sees(&(add("one", &at(300)) + &add("two", &at(306)))).await[0].starts_with("over one another: “one”"));
    assert!(
        sees(&add("a long text", "{width: '20px', overflow: 'hidden', whiteSpace: 'nowrap'}")).await[0].starts_with("cut: “a long text”")
    );
    assert!(
        sees(&add("far out", "{position: 'absolute', left: '1500px', top: '200px'}"))
            .await
            .iter()
            .any(|found| found.starts_with("beside the page"))
    );
    browser.close().await;
}
