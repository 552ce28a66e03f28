//! The whole job, as a cook does it on a laptop.

use crate::support::{Browser, Server, eventually};
use rauchkeller_contract::plan_from;
use rauchkeller_core::salt::travel::Profile;
use serde_json::{Value, json};

/// Grains of the drawn slice: all of them, and those within 5 mm of the salted underside.
const COUNT_GRAINS: &str = r"
    const svg = document.querySelector('#slice-wide');
    const path = svg.querySelector('.grains');
    if (!path) return [0, 0];
    const top = Number(svg.dataset.top), scale = Number(svg.dataset.scale), thick = Number(svg.dataset.thickness);
    const depths = [...path.getAttribute('d').matchAll(/M[-\d.]+ ([-\d.]+)h0/g)].map((m) => (Number(m[1]) - top) / scale);
    return [depths.length, depths.filter((d) => d >= thick - 5).length];
";

/// What core says for the same request at these hours: share of the salt within 5 mm of the underside.
fn expected_share(serve: &str, hours: f64) -> f64 {
    let now = jiff::ZonedDateTime::now().with_time_zone(jiff::tz::TimeZone::UTC);
    let request = json!({"piece": {"cut": "pork-belly", "weight_g": 2400, "salt_thickness_mm": 45}, "serve_at": serve, "hours": hours});
    let plan = plan_from(&request, &now).unwrap();
    let profile = Profile::from_points(&plan.fridge.salt_profile);
    let thick = profile.thickness_mm();
    profile.mean_between(thick - 5.0, thick) * 5.0 / (profile.slice().0 * thick)
}

async fn scrub(browser: &Browser, hours: f64) {
    let script =
        format!("const s = document.querySelector('#scrub'); s.value = {hours}; s.dispatchEvent(new Event('input', {{bubbles: true}}));");
    browser.js(&script).await;
    let shown = if hours.fract() == 0.0 { format!("{hours:.0} h") } else { format!("{hours} h") };
    browser.text_when("#planned", |text| text == shown).await;
}

#[tokio::test(flavor = "multi_thread")]
async fn from_the_bench_to_the_book() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.sign_up(&server).await;

    // A piece with one mistake in it: named at its word, nothing lost.
    browser.press("a.hook[data-key='1']").await;
    browser.find("#bench").await;
    browser.retype("#w-weight", "2.4 kg").await;
    browser.text_when("#grams", |g| g == "18.0").await;
    browser.retype("#w-thick", "45 kg").await;
    let slip = browser.text_when("#slip-thick", |text| !text.is_empty()).await;
    assert!(slip.contains("kg") && slip.contains("45 mm"), "{slip}");
    assert_eq!(browser.js("return [document.querySelector('#w-thick').value, document.querySelector('#w-weight').value, document.querySelector('#keep').disabled]").await, json!(["45 kg", "2.4 kg", true]));

    // Corrected, with a meal far enough away for any hours.
    browser.retype("#w-thick", "45 mm").await;
    browser.gone("#slip-thick").await;
    let meal = jiff::Timestamp::now().to_zoned_datetime(jiff::tz::TimeZone::UTC).checked_add(jiff::SignedDuration::from_hours(72)).unwrap();
    let serve = meal.strftime("%Y-%m-%d 18:30").to_string();
    browser.retype("#w-serve", &serve).await;
    browser
        .at("state is in the address", |url| url.contains("serve=") && url.contains("weight=2.4+kg") && url.contains("thick=45+mm"))
        .await;
    eventually("keep is allowed", || async {
        browser.js("return document.querySelector('#keep').disabled").await.as_bool().filter(|d| !d)
    })
    .await;
    assert_eq!(browser.text_when("#grams", |_| true).await, "18.0");

    // The hours are scrubbed and the drawn grains follow core: at 0, 12 and 24 h in the outer 5 mm.
    for hours in [0.0, 12.0, 24.0] {
        scrub(&browser, hours).await;
        let counted = browser.js(COUNT_GRAINS).await;
        let (all, outer) = (counted[0].as_f64().unwrap(), counted[1].as_f64().unwrap());
        if hours == 0.0 {
            assert_eq!(all, 0.0, "nothing has gone in yet");
            assert!(
                browser.js("return document.querySelector('#slice-wide .waiting') !== null").await.as_bool().unwrap(),
                "it waits outside"
            );
        } else {
            let share = expected_share(&format!("{}T18:30[UTC]", &serve[..10]), hours);
            assert!(all > 200.0);
            // a grain is drawn to a tenth of a pixel; two on the border may fall either way.
            assert!((outer - share * all).abs() <= 2.0, "{hours} h: {outer} of {all}, core says {share}");
        }
    }

    // Kept, ticked, undone.
    browser.press("#keep").await;
    browser.find("#piece").await;
    let page = browser.at("the piece's page", |url| url.contains("/pieces/")).await;
    browser.press("#step-0 .tick").await;
    browser.text_when("#step-0 .step-tick", |text| text.contains("undo")).await;
    browser.press("#step-0 .tick-undo button").await;
    browser.text_when("#step-0 .tick", |text| text == "Done").await;

    // It hangs in the Cellar.
    browser.press("a.hook[data-key='4']").await;
    browser.find("#cellar").await;
    assert!(browser.js("return document.querySelectorAll('.board-wide .journey').length").await == json!(1));
    assert!(browser.text_when("#headline", |t| !t.is_empty()).await.contains("until"));

    // The verdict, tapped; a missing tap is named and the others stay.
    browser.go(&format!("{page}/verdict")).await;
    browser.js("document.querySelectorAll('.patch input')[4].click(); document.querySelector('input[name=rim][value=\"1\"]').click(); document.querySelector('input[name=middle][value=\"0\"]').click();").await;
    browser.press("#keep-verdict").await;
    browser.text_when(".slip", |text| text.contains("Tap one word")).await;
    assert_eq!(
        browser
            .js("return [document.querySelectorAll('.patch input')[4].checked, document.querySelector('input[name=rim]:checked').value]")
            .await,
        json!([true, "1"])
    );
    browser.js("document.querySelector('input[name=juice][value=\"1\"]').click()").await;
    browser.press("#keep-verdict").await;
    browser.find(".book").await;
    let entry = browser.text_when(".entry", |text| text.contains("puffed")).await;
    assert!(entry.contains("Pork belly 2.4 kg") && entry.contains("8/9") && entry.contains("outside salty"), "{entry}");
    assert!(entry.contains("Next time"), "{entry}");
    browser.close().await;
}

/// Salty things typed one after the other: each takes its salt off the scale; nonsense is named, the rest stays.
#[tokio::test(flavor = "multi_thread")]
async fn the_ladder_fills_by_typing() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.sign_up(&server).await;
    browser.go(&server.url("/bench?weight=2.4+kg&thick=45+mm")).await;
    browser.text_when("#grams", |g| g == "18.0").await;
    // By hand: 32 g of soy sauce × 13.96 % × 0.6 = 2.68 g; 20 g of rub × 22 % = 4.4 g; the label 1.2 g in 100 g is
    // 472 mg of sodium, 60 of it natural: 412 mg × 2.5421 × 24 = 25.1 g, and the ladder is over-full.
    browser.retype("#w-also", "2 tbsp soy sauce").await;
    browser.text_when("#grams", |g| g == "15.3").await;
    browser.retype("#w-also", "2 tbsp soy sauce, 20 g rub 22% salt").await;
    browser.text_when("#grams", |g| g == "10.9").await;
    assert!(browser.text_when(".ladder", |t| t.contains("rub")).await.contains("10.9 g to weigh"));
    browser.retype("#w-also", "2 tbsp soy sauce, 3 g low-sodium soy sauce").await;
    let slip = browser.text_when("#slip-also", |t| !t.is_empty()).await;
    assert!(slip.contains("low-sodium soy sauce") && slip.contains("label"), "{slip}");
    assert_eq!(browser.text_when("#grams", |g| g == "15.3").await, "15.3", "what makes sense still counts");
    browser.retype("#w-also", "label: 1.2 g salt per 100 g").await;
    browser.text_when(".cautions", |t| t.contains("over the target")).await;
    browser.text_when("#grams", |g| g == "0.0").await;
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn one_press_enters_the_demo_and_keys_move_between_stations() {
    let server = Server::start("demo").await;
    let browser = Browser::laptop().await;
    browser.go(&server.url("/")).await;
    browser.press("#enter-demo").await;
    browser.find("#cellar").await;
    assert!(browser.js("return document.querySelectorAll('.board-wide .journey').length").await.as_u64().unwrap() >= 4);
    for (key, css) in [("5", ".book"), ("1", "#bench"), ("6", "#kit"), ("2", "#knife"), ("4", "#cellar")] {
        browser.find("body").await.send_keys(key).await.unwrap();
        browser.find(css).await;
    }
    let entries = browser.js("return fetch('/book').then((r) => r.text()).then((t) => (t.match(/class=\"entry\"/g) || []).length)").await;
    assert_eq!(entries, Value::from(12));
    browser.close().await;
}
