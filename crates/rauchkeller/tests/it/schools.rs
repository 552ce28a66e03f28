//! Schools followed from the Bench with raw hands to the verdict, in the browser.

use crate::components::{DOWN, Hand, UP, act, middle, to};
use crate::support::{Browser, Server, eventually};
use rstest::rstest;
use serde_json::{Value, json};

/// What tells one screen of the raw hands from the next: where Done posts to, and what it says.
async fn screen(browser: &Browser) -> Value {
    let now = "const b = [...document.querySelectorAll('[data-primary]')].find((b) => !b.hidden);
        return [b?.getAttribute('hx-post') ?? '', b?.innerText ?? '', document.querySelector('.hands-title')?.innerText ?? '', document.querySelector('.hands-figure')?.innerText ?? '', b?.hasAttribute('data-leave') ?? false]";
    browser.js(now).await
}

/// Holds Done until the next screen stands there.
async fn done(browser: &Browser, was: &Value) {
    let at = middle(browser, "[data-primary]").await;
    act(browser, Hand::Mouse, vec![to(at), DOWN]).await;
    eventually("the hold counts", || async { (screen(browser).await != *was).then_some(()) }).await;
    act(browser, Hand::Mouse, vec![UP]).await;
}

/// Holds through every screen and gives their titles, one a task.
async fn followed(browser: &Browser) -> Vec<String> {
    let mut titles: Vec<String> = Vec::new();
    for _ in 0..80 {
        let now = screen(browser).await;
        if now[4] == json!(true) {
            return titles;
        }
        let title = now[2].as_str().unwrap_or_default().to_owned();
        if titles.last() != Some(&title) {
            titles.push(title);
        }
        done(browser, &now).await;
    }
    panic!("it never ends: {titles:?}");
}

/// The middle word of every question, and the verdict kept; the Book then holds it.
async fn judged(browser: &Browser, name: &str) {
    browser.find("#keep-verdict").await;
    browser
        .js("const names = new Set([...document.querySelectorAll('input[type=radio]')].map((r) => r.name));
            names.forEach((name) => { const all = [...document.querySelectorAll(`input[type=radio][name=\"${name}\"]`)]; all[Math.floor(all.length / 2)].click(); });")
        .await;
    browser.press("#keep-verdict").await;
    browser.find(".book").await;
    browser.text_when(".entry", |text| text.contains(name)).await;
}

#[rstest]
#[case::same_day_crust("cut=pork-belly&weight=2.4+kg&method=same-day-crust&name=Crusted", "Crusted", &["Salt and spice on the meat", "Foil round its sides", "Bury the skin in salt", "Into the heat at 155 °C", "Knock the crust off", "Brush it clean", "Fierce, until", "Carve"])]
#[case::acid_then_soda("cut=pork-belly&weight=2.4+kg&method=acid-soda&name=Sour", "Sour", &["Pierce the skin", "Groove the meat side", "Spiced salt", "Vinegar on the skin", "Dry the skin", "Bicarbonate", "Scatter salt", "Two skewers", "hung up", "Fill the bare spots", "Scrape"])]
#[case::weighted_bed("cut=pork-belly&weight=2.4+kg&method=weighted-bed&name=Rolled", "Rolled", &["Pull the skin flat", "skin down on the salt", "Put the weight on", "weighted", "Off the salt", "Season the inside", "Roll it up", "Tie it", "Mount it on the spit", "On the spit", "Fierce"])]
#[case::scored_fierce_low("cut=pork-belly&weight=1.2+kg&method=scored-fierce-low&name=Fierce", "Fierce", &["Score it", "Oil it", "Salt and seeds", "Into the heat", "On, open, at 165 °C", "Out of the heat"])]
#[case::duck_scored_and_glazed("cut=duck-whole&weight=2.4+kg&method=bird-scored&tasks=make+glaze,+glaze&name=Glazed", "Glazed", &["Giblets out", "Score it", "Into the refrigerator", "Make the glaze", "Glaze it", "Fierce"])]
#[case::duck_pierced_and_stuffed("cut=duck-whole&weight=2.4+kg&method=bird-pierced&tasks=stuff,+truss&name=Stuffed", "Stuffed", &["Pierce the skin", "Into the refrigerator", "Stuff it", "Truss it", "Into the heat", "Out of the heat"])]
#[case::stuffed_slits("cut=pork-butt&weight=2.5+kg&method=stuffed-slits&name=Slit", "Slit", &["Cut deep slits", "Paste into the slits", "covered", "Into the heat at 220 °C", "Covered, 160 °C", "On, open, at 200 °C"])]
#[case::boxed_leg("cut=pork-leg&weight=4+kg&method=boxed-paste&name=Boxed", "Boxed", &["Rub the wet paste in", "in its box", "Turn it over", "Out of it, wipe it off", "Into the heat", "Baste it", "Out of the heat"])]
#[case::covered_cap("cut=beef-rump-cap&weight=1.2+kg&method=fat-cap&name=Capped", "Capped", &["Score it", "Cover it", "Covered, 180 °C", "Open it", "Out of the heat"])]
#[case::grooved_braise("cut=pork-butt&weight=2.5+kg&method=grooved-braise&also=500+ml+stock+in+the+pot&name=Braised", "Braised", &["Groove the meat side", "Brown it all round", "Into its liquid", "Make the gravy"])]
#[case::braised_ahead("cut=pork-butt&weight=2.5+kg&method=braised-ahead&name=Ahead", "Ahead", &["Brown it all round", "Into its liquid", "Out of the heat, let it cool", "Into the refrigerator, cooked", "Heat it again at 150 °C", "Out of the heat, rest", "Carve"])]
#[case::spiked_loin("cut=pork-loin-rack&weight=2+kg&method=spiked-loin&name=Spiked", "Spiked", &["Spike it", "Into the pan", "Covered, 160 °C"])]
#[case::wrapped_smoke("cut=pork-butt&weight=2.9+kg&method=wrapped-smoke&name=Smoked", "Smoked", &["Score it", "Light the smoker", "Into the heat at 135 °C", "Wrap it", "Wrapped, 135 °C", "Hold it warm"])]
#[case::lattice_slab("cut=beef-short-rib-boned&weight=900+g&method=lattice-slab&name=Lattice", "Lattice", &["Cut the lattice", "The marinade over it", "in its marinade", "Out of it, wipe it off", "Over direct heat"])]
#[case::strips_by_a_spoon_rule("cut=beef-rump-cap&weight=1.2+kg&method=strips-direct&salt=light-flake-kosher&dose=1%C2%BD+tsp+per+lb&name=Strips", "Strips", &["Cut it into strips", "Salt: meat side", "Let it stand", "Over direct heat"])]
#[case::rack_on_a_spit("cut=pork-loin-rack&weight=2.2+kg&method=dry-brine&with=spit&fire=170+%C2%B0C+until+done&tasks=glaze&name=Spit", "Spit", &["Heat the spit", "On the spit", "Glaze it", "Carve"])]
#[case::short_draw("cut=pork-belly&weight=2.4+kg&method=short-draw&name=Drawn", "Drawn", &["Into the refrigerator, open", "Salt on the skin, to draw", "Blot the skin", "Brush off", "Fierce"])]
#[case::injected_turkey("cut=turkey-whole&weight=5+kg&label=sodium+240+mg+per+100+g&name=Injected", "Injected", &["Giblets out", "Loosen the breast skin", "Into the refrigerator", "Into the heat"])]
#[tokio::test(flavor = "multi_thread")]
async fn a_school_is_followed_to_the_verdict(#[case] words: &str, #[case] name: &str, #[case] titles: &[&str]) {
    let server = Server::start("serve").await;
    let browser = Browser::phone().await;
    browser.signs_up(&server, "School kitchen").await;
    let piece = browser.keeps(&server, words).await;
    browser.go(&server.url(&format!("{piece}/hands"))).await;
    browser.find("#hands").await;
    let seen = followed(&browser).await;
    let mut from = 0;
    for title in titles {
        let found = seen[from..].iter().position(|seen| seen.contains(title));
        from += found.unwrap_or_else(|| panic!("{name}: {title} does not come after the others in {seen:#?}")) + 1;
    }
    browser.go(&server.url(&format!("{piece}/verdict"))).await;
    judged(&browser, name).await;
    browser.close().await;
}

/// A braise over two days, chilled between: the Bench says both heats and both nights, the cook says the second one otherwise and wrongly,
/// and the kept piece has its hours on their days.
#[tokio::test(flavor = "multi_thread")]
async fn a_braise_over_two_days_is_heated_again() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.signs_up(&server, "Patient kitchen").await;
    let bench = "/bench?cut=pork-butt&weight=2.4+kg&method=braised-ahead&servings=8";
    browser.go(&server.url(bench)).await;
    let says = browser.text_when("#again-line", |text| text.contains("heated again")).await;
    // Straight from the cold to 74 °C, the authority's 165 °F.
    assert!(says.contains("in the refrigerator, cooked") && says.contains("74 °C (165 °F)"), "{says}");
    browser.text_when(".cautions", |text| text.contains("within two hours") && text.contains("no thicker than 5 cm")).await;
    // Its own picture under that of the first heat.
    let pictures = browser.js("return document.querySelectorAll('svg.heat-wide').length").await;
    assert_eq!(pictures, json!(2));
    // Too cool to be safe, said at its word; typed hotter, it is shorter.
    browser.go(&server.url(&format!("{bench}&second=150+°C+for+20+min"))).await;
    let slip = browser.text_when("#slip-second", |text| !text.is_empty()).await;
    assert!(slip.contains("74 to 95 °C"), "{slip}");
    let minutes = |says: &str| says.split("about ").nth(1).and_then(|rest| rest.split(' ').next()?.parse::<f64>().ok()).unwrap();
    let usual = minutes(&says);
    browser.go(&server.url(&format!("{bench}&second=95+°C+in+liquid+until+74+°C"))).await;
    browser.text_when("#slip-second", |text| text.contains("100")).await;
    browser.go(&server.url(&format!("{bench}&second=150+°C+covered+until+80+°C"))).await;
    let hotter = browser.text_when("#again-line", |text| text.contains("80 °C")).await;
    assert!(minutes(&hotter) > usual, "{hotter}: covered goes slower than in its liquid, and goes further");
    // So long as the cook says it is kept.
    browser.go(&server.url(&format!("{bench}&tasks=chilled+30+h"))).await;
    browser.text_when("#again-line", |text| text.contains("Then 30 h")).await;
    browser.press("#keep:not(:disabled)").await;
    browser.find("#piece .step").await;
    let days = browser.js("return [...document.querySelectorAll('.step')].map((s) => s.innerText.replace(/\\s+/g, ' '))").await;
    let steps: Vec<String> = serde_json::from_value(days).unwrap();
    let place = |words: &str| steps.iter().position(|step| step.contains(words)).unwrap_or_else(|| panic!("{words}: {steps:#?}"));
    let row = ["Into its liquid", "let it cool", "Into the refrigerator, cooked", "Heat it again", "Carve"].map(place);
    assert!(row.is_sorted(), "{steps:#?}");
    assert!(steps[row[2]].contains("30"), "{}", steps[row[2]]);
    browser.close().await;
}

/// The ways are compared, one is taken with a press, and what cannot be is said at its word.
#[tokio::test(flavor = "multi_thread")]
async fn a_way_is_chosen_on_the_bench() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.signs_up(&server, "Choosing kitchen").await;
    browser.go(&server.url("/bench?cut=pork-belly&weight=2.4+kg")).await;
    browser.press("#compare").await;
    browser.text_when("h1", |text| text.contains("Ways for this pork belly")).await;
    let rows = browser.js("return [...document.querySelectorAll('.way')].map((w) => w.innerText)").await;
    let rows: Vec<String> = serde_json::from_value(rows).unwrap();
    // Nine fit; each says its hours, hands, heat, grams, skin and both mouthfuls, each figure with its bar.
    assert!(rows.len() == 9 && rows.iter().all(|row| row.contains(" g\n")), "{rows:#?}");
    let figures = "return [...document.querySelectorAll('.way')].map((w) => [...w.querySelectorAll('td[data-what]')].filter((t) => t.querySelector('.way-bar')).map((t) => t.dataset.what).join())";
    let figures: Vec<String> = serde_json::from_value(browser.js(figures).await).unwrap();
    let all = "in the cold,hands,in the heat,salt,skin dry,first bite,middle";
    assert!(figures.len() == 9 && figures.iter().all(|of| of == all), "{figures:?}");
    let crust = rows.iter().find(|row| row.contains("same-day crust")).unwrap();
    assert!(crust.contains("none"), "{crust}");
    let others = browser.text_when(".not-here", |text| !text.is_empty()).await;
    assert!(others.contains("scored bird") && others.contains("it is written for birds"), "{others}");
    browser.js("[...document.querySelectorAll('.way-name a')].find((a) => a.innerText === 'same-day crust').click()").await;
    browser.find("#bench").await;
    // 5 g/kg of 2.4 kg is 12; what the crust leaves stays on the skin.
    assert_eq!(browser.text_when("#grams", |text| !text.is_empty()).await, "12.0");
    browser.text_when("section.cold-band", |text| text.contains("No rest in the cold")).await;
    // Hours belong to another way: said where they stand, and gone with a press.
    browser.go(&server.url("/bench?cut=pork-belly&weight=2.4+kg&method=same-day-crust&hours=12")).await;
    let slip = browser.text_when("#slip-hours", |text| !text.is_empty()).await;
    assert!(slip.contains("no rest in the cold"), "{slip}");
    // A way for another cut is named with its reason, and what was typed stays.
    browser.go(&server.url("/bench?cut=beef-rib-steak&weight=500+g&method=weighted-bed")).await;
    let slip = browser.text_when(".slip", |text| text.contains("no skin to crackle")).await;
    assert!(slip.contains("Weighted bed"), "{slip}");
    // What nobody knows the salt of is a range, and its effect is said.
    browser.go(&server.url("/bench?cut=pork-loin-rack&weight=2+kg&also=20+g+bought+rub")).await;
    browser.text_when(".cautions", |text| text.contains("Nobody said how salty the bought rub is")).await;
    browser.close().await;
}

/// A slip of the knife is noted while scoring: what is no longer intact is said on the piece's page.
#[tokio::test(flavor = "multi_thread")]
async fn a_slip_of_the_knife_makes_it_no_longer_intact() {
    let server = Server::start("serve").await;
    let browser = Browser::phone().await;
    browser.signs_up(&server, "Slipping kitchen").await;
    let piece = browser.keeps(&server, "cut=beef-rump-cap&weight=1.2+kg&method=fat-cap").await;
    browser.go(&server.url(&format!("{piece}/hands"))).await;
    loop {
        let now = screen(&browser).await;
        if now[2].as_str().is_some_and(|title| title.contains("Score")) {
            done(&browser, &now).await;
            break;
        }
        done(&browser, &now).await;
    }
    browser.press("[data-slipped]").await;
    browser.text_when("[data-slipped]", |text| text.contains("cook it through")).await;
    browser.go(&server.url(&piece)).await;
    let said = browser.text_when("#follows", |text| text.contains("slipped into the lean")).await;
    assert!(said.contains("63 °C (145 °F)") && said.contains("raise the finish"), "{said}");
    browser.close().await;
}
