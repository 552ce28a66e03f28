//! Salt by the gram: a simulated scale that is poured on, a salt that is calibrated, ledger lines and mixes typed in.

use crate::support::{Browser, Server, eventually, http, signed_up};
use serde_json::{Value, json};
use std::io::{BufRead, BufReader};
use std::process::{Child, Command, Stdio};

/// The simulated scale as its own process.
pub struct Scale {
    base: String,
    child: Child,
}

impl Scale {
    pub fn start(server: &Server, token: &str) -> Self {
        Self::with(server, Some(token))
    }

    /// One that belongs to no kitchen yet: its page shows a code.
    pub fn unpaired(server: &Server) -> Self {
        Self::with(server, None)
    }

    fn with(server: &Server, token: Option<&str>) -> Self {
        let mut command = Command::new(env!("CARGO_BIN_EXE_rauchkeller"));
        command.args(["devices", "scale", "--listen", "127.0.0.1:0", "--server", &server.base]).env_remove("SCALE_TOKEN");
        if let Some(token) = token {
            command.env("SCALE_TOKEN", token);
        }
        let mut child = command.stdout(Stdio::piped()).spawn().unwrap();
        let mut line = String::new();
        BufReader::new(child.stdout.take().unwrap()).read_line(&mut line).unwrap();
        let base = line.split_whitespace().last().expect("the scale says where its page is").trim_end_matches('/').to_owned();
        Self { base, child }
    }

    /// Does what a button of its page does.
    pub async fn hand(&self, what: &str) {
        let answer = http().post(format!("{}/{what}", self.base)).send().await.unwrap();
        assert_eq!(answer.status(), 200, "{what}");
    }

    /// What its page shows, as JSON.
    pub async fn state(&self) -> Value {
        http().get(format!("{}/state", self.base)).send().await.unwrap().json::<Value>().await.unwrap()
    }

    /// Address of its page.
    pub fn page(&self) -> String {
        format!("{}/", self.base)
    }

    async fn shows(&self) -> f64 {
        self.state().await["shows_g"].as_f64().unwrap()
    }
}

impl Drop for Scale {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

/// Hangs a scale into the browser's Kit and gives its token.
pub async fn hang_scale(browser: &Browser, server: &Server) -> String {
    browser.go(&server.url("/kit")).await;
    browser.press("#scales details summary").await;
    browser.retype("#k-name", "bench scale").await;
    browser.retype("#k-fineness", "0.1").await;
    browser.press("#add-scale").await;
    browser.text_when("#token", |text| text.starts_with("rk_")).await
}

/// Keeps a piece of the sentence and goes to its Salt station.
async fn to_the_salt(browser: &Browser, server: &Server, sentence: &str) {
    browser.go(&server.url(&format!("/bench?{sentence}"))).await;
    browser.press("#keep:not(:disabled)").await;
    browser.press("#to-salt").await;
    browser.find("#salt-station").await;
}

fn number(text: &str) -> f64 {
    text.trim().parse().unwrap_or_else(|_| panic!("“{text}” is no number"))
}

/// Height of a part of the ladder, 0 where it is not drawn.
async fn rung(browser: &Browser, class: &str) -> f64 {
    let script =
        format!("const e = document.querySelector('#weigh svg .{class}'); return e === null ? 0 : Number(e.getAttribute('height'))");
    browser.js(&script).await.as_f64().unwrap()
}

/// Adds or spoons back what the page says, as a cook would, each time once the scale stands, until the bowl ticks itself.
async fn pour_right(browser: &Browser, scale: &Scale, bowl: usize) {
    let weighed = format!("return document.querySelector('#bowl-{bowl} .bowl-name').innerText.includes('weighed')");
    for _ in 0..12 {
        eventually("the scale stands, or the bowl is done", || async {
            let stands = browser.js("return document.querySelector('#tare:not(:disabled)') !== null").await == json!(true);
            (stands || browser.js(&weighed).await == json!(true)).then_some(())
        })
        .await;
        if browser.js(&weighed).await == json!(true) {
            return;
        }
        let said = browser.js("return ['.weigh .unit', '#weigh-figure'].map((e) => document.querySelector(e).innerText)").await;
        let (what, figure) = (said[0].as_str().unwrap(), said[1].as_str().unwrap().to_owned());
        match what {
            "g too much in it" => scale.hand(&format!("put?g=-{figure}")).await,
            "g to go" => scale.hand(&format!("put?g={figure}")).await,
            // Enough: hold still.
            _ => {
                browser.text_when(&format!("#bowl-{bowl} .bowl-name"), |text| text.contains("weighed")).await;
                return;
            }
        }
        browser.text_when("#weigh-figure", |text| text != figure).await;
    }
    panic!("bowl {bowl} never came right");
}

#[tokio::test(flavor = "multi_thread")]
async fn salt_is_poured_until_the_ladder_is_full_and_too_much_is_said() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.sign_up(&server).await;
    let scale = Scale::start(&server, &hang_scale(&browser, &server).await);
    to_the_salt(&browser, &server, "cut=pork-belly&weight=2.4+kg&thick=45+mm").await;

    // The empty bowl, and Tare.
    scale.hand("put?g=180").await;
    browser.text_when("#weigh-line", |text| text.contains("Set the empty bowl (meat side")).await;
    browser.text_when(".weigh .scale-line", |text| text.contains("180.") || text.contains("179.9")).await;
    browser.press("#tare:not(:disabled)").await;
    browser.text_when("#weigh-line", |text| text.contains("Pour")).await;

    // Salt runs: the ladder fills, and what is missing is the number.
    let target = number(&browser.text_when("#bowl-1 .bowl-g b", |text| !text.is_empty()).await);
    scale.hand("put?g=4").await;
    browser.text_when("#weigh-line", |text| text.contains("are in, of")).await;
    let missing = number(&browser.text_when("#weigh-figure", |text| (number(text) - (target - 4.0)).abs() < 0.35).await);
    // What is drawn follows what is poured: measured until it stands.
    eventually("the rung in is as high as what was poured", || async {
        let (now, to_weigh) = (rung(&browser, "ladder-now").await, rung(&browser, "ladder-weigh").await);
        (now > 0.0 && ((now / (now + to_weigh)) - 4.0 / 18.0).abs() < 0.03).then_some(())
    })
    .await;

    // Too much: said, in red, by how much.
    scale.hand(&format!("put?g={}", missing + 5.0)).await;
    browser.find("#weigh.too-much").await;
    browser.text_when("#weigh-figure", |text| (number(text) - 5.0).abs() < 0.35).await;
    assert!(browser.text_when("#weigh-line", |text| text.contains("too much")).await.contains("Spoon it back"));

    // Spooned back and held: the bowl ticks itself, and the next one waits for its own.
    pour_right(&browser, &scale, 1).await;
    browser.text_when("#weigh-line", |text| text.contains("Set the empty bowl (cut sides")).await;
    let weighed = number(&browser.text_when("#bowl-1 .bowl-g b", |text| !text.is_empty()).await);
    assert!((weighed - target).abs() <= 0.3, "{weighed} of {target}");

    // The second bowl, poured in one go; then the ladder is full.
    scale.hand("lift").await;
    scale.hand("put?g=150").await;
    eventually("the scale settles", || async { ((scale.shows().await - 150.0).abs() < 0.25).then_some(()) }).await;
    browser.text_when(".weigh .scale-line", |text| text.contains("150.") || text.contains("149.9")).await;
    browser.press("#tare:not(:disabled)").await;
    browser.text_when("#weigh-line", |text| text.contains("Pour")).await;
    let second = number(&browser.text_when("#bowl-2 .bowl-g b", |text| !text.is_empty()).await);
    scale.hand(&format!("put?g={second}")).await;
    browser.text_when("#weigh-figure", |text| text != format!("{second:.1}")).await;
    pour_right(&browser, &scale, 2).await;
    browser.text_when("#weigh-line", |text| text.contains("Every bowl is weighed")).await;
    eventually("the ladder is full", || async {
        (rung(&browser, "ladder-weigh").await < 3.0 && rung(&browser, "ladder-done").await > 250.0).then_some(())
    })
    .await;

    // Used one by one; the remainder is always known, and the last one ticks the salting.
    browser.press("#bowl-1 .use").await;
    let rest = browser.text_when("#remainder", |text| text.contains("left in 1 bowl")).await;
    assert!(rest.contains(&format!("{weighed:.1} g on")), "{rest}");
    browser.press("#bowl-2 .use").await;
    browser.text_when("#remainder", |text| text.contains("All of it is on")).await;
    browser.press(".piece-head a").await;
    browser.find("#piece").await;
    let salted = browser
        .js("return [...document.querySelectorAll('.step.is-done')].some((s) => s.textContent.includes('Salt, face by face'))")
        .await;
    assert_eq!(salted, json!(true));
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn without_a_scale_the_cook_types_on_a_phone() {
    let server = Server::start("serve").await;
    let browser = Browser::phone().await;
    browser.sign_up(&server).await;
    to_the_salt(&browser, &server, "cut=pork-belly&weight=2.4+kg&thick=45+mm").await;
    browser.text_when(".weigh .scale-line", |text| text.contains("No scale is speaking")).await;
    browser.retype("#bowl-1 input[name=g]", "a handful").await;
    browser.press("#bowl-1 .weighed").await;
    let slip = browser.text_when("#bowl-1 .slip", |text| !text.is_empty()).await;
    assert!(slip.contains("“a handful”") && slip.contains("0 to 5000"), "{slip}");
    assert_eq!(browser.js("return document.querySelector('#bowl-1 input[name=g]').value").await, "a handful");
    browser.retype("#bowl-1 input[name=g]", "12.5 g").await;
    browser.press("#bowl-1 .weighed").await;
    browser.text_when("#bowl-1 .bowl-name", |text| text.contains("more than planned")).await;

    // By eye after all: the tub, a slip, and what the book learns.
    browser.retype("#k-before", "812").await;
    browser.retype("#k-after", "820").await;
    browser.press("#note-by-eye").await;
    browser.text_when("#slip-after", |text| text.contains("cannot have come back")).await;
    browser.retype("#k-after", "781").await;
    browser.press("#note-by-eye").await;
    let says = browser.text_when("#by-eye-says", |text| text.contains("went on")).await;
    // By hand: 31 g on 2.4 kg are 12.9 g/kg, 13 g over the 18 of the plan.
    assert!(says.contains("31.0 g went on, 13.0 g over") && says.contains("12.9 g/kg"), "{says}");
    browser.text_when("#hand", |text| text.contains("1.72 times the plan")).await;
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_salt_is_calibrated_and_then_weighs_by_itself() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.sign_up(&server).await;
    browser.go(&server.url("/bench?cut=pork-belly&weight=2.4+kg")).await;
    browser.press("#looked a[href*='/kit/salts/new']").await;

    // What no salt can be is named beside its field, and what was typed stays.
    browser.retype("#k-name", "grey jar").await;
    browser.retype("#k-weighings", "53 54 52").await;
    browser.text_when("#per-teaspoon", |text| text == "5.3").await;
    browser.retype("#k-purity", "130").await;
    let slip = browser.text_when("#slip-purity", |text| !text.is_empty()).await;
    assert!(slip.contains("130 % sodium chloride") && slip.contains("5 and 100 %"), "{slip}");
    browser.press("#keep-salt").await;
    browser.find("#slip-purity").await;
    let typed = browser.js("return ['#k-name', '#k-weighings', '#k-purity'].map((f) => document.querySelector(f).value)").await;
    assert_eq!(typed, json!(["grey jar", "53 54 52", "130"]));

    // A blend: half of it is salt, and ten pinches weigh 4 g.
    browser.retype("#k-purity", "50").await;
    browser.gone("#slip-purity").await;
    browser.retype("#k-potassium", "48").await;
    browser.retype("#k-pinches", "4").await;
    browser.text_when(".kit-result", |text| text.contains("A pinch of yours is 0.4 g")).await;
    browser.press("#keep-salt").await;

    // Back on the Bench with it: 18 g of sodium chloride are 36 g of it, 6.79 level teaspoons, 90 pinches.
    browser.text_when("#grams", |text| text == "36.0").await;
    let words = browser.js("return document.querySelector('.grams').innerText").await.as_str().unwrap().to_owned();
    assert!(words.contains("grey jar") && words.contains("90 of your pinches") && words.contains("2 tbsp + ¾ tsp"), "{words}");
    assert!(browser.text_when(".cautions", |text| text.contains("potassium chloride")).await.contains("doctor"));
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn ledger_items_a_mix_and_nonsense_are_typed_in() {
    let server = Server::start("serve").await;
    let browser = Browser::laptop().await;
    browser.sign_up(&server).await;

    // A recipe that does not add up is caught; put right, it hangs in the Kit.
    browser.go(&server.url("/kit/mixes/new")).await;
    browser.retype("#k-name", "house rub").await;
    browser.retype("#k-recipe", "32 g salt; 28 g paprika; makes 100 g").await;
    let slip = browser.text_when("#slip-recipe", |text| !text.is_empty()).await;
    assert!(slip.contains("weigh 60 g together") && slip.contains("100 g"), "{slip}");
    browser.retype("#k-recipe", "32 g salt; 28 g paprika; 40 g brown sugar; makes 100 g; for 6 kg").await;
    browser.text_when("#mix-salt", |text| text == "32").await;
    browser.press("#keep-mix").await;
    browser.text_when("#kit", |text| text.contains("house rub")).await;

    // Everything a cook may type, in one breath, and one thing that makes no sense.
    browser.go(&server.url("/bench?cut=pork-belly&weight=2.4+kg")).await;
    browser.retype("#w-also", "2 tbsp soy sauce, 10 g rub 22% salt, 3 g low-sodium soy sauce").await;
    let slip = browser.text_when("#slip-also", |text| !text.is_empty()).await;
    assert!(slip.contains("low-sodium soy sauce") && slip.contains("22% salt"), "{slip}");
    browser.retype("#w-also", "-3 g soy sauce").await;
    browser.text_when("#slip-also", |text| text.contains("not a sensible amount")).await;
    // By hand: soy 32 × 0.1396 × 0.6 = 2.680; rub 2.2; house rub 40 g × 0.32 = 12.8; 18 − 17.68 = 0.32 g loose.
    browser.retype("#w-also", "2 tbsp soy sauce, 10 g rub 22% salt, house rub").await;
    browser.text_when("#grams", |text| text == "0.3").await;
    assert_eq!(browser.text_when("#mix", |text| !text.is_empty()).await, "40.0");
    let ladder = browser.text_when("svg.ladder", |text| text.contains("house rub")).await;
    assert!(ladder.contains("2.7 g in 32 g soy sauce") && ladder.contains("2.2 g in 10 g rub"), "{ladder}");
    // The packer's label, said as salt and as sodium.
    browser.retype("#w-label", "sodium 480 mg per 30 g").await;
    browser.text_when(".cautions", |text| text.contains("over the target")).await;
    browser.retype("#w-label", "1.2 g salt per 100 g").await;
    browser.text_when(".found", |text| text.contains("The packer put in")).await;
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn readings_are_taken_once_and_refused_with_a_reason() {
    let server = Server::start("serve").await;
    let cook = signed_up(&server).await;
    let kit = cook.post(server.url("/kit/scales")).form(&json!({"name": "fine scale", "fineness": "0.1"})).send().await.unwrap();
    let page = kit.text().await.unwrap();
    let token = page.split("<code id=\"token\">").nth(1).unwrap().split('<').next().unwrap().to_owned();
    let now = jiff::Timestamp::now().to_string();
    let send = |token: &str, readings: Value| {
        http()
            .post(server.url("/api/v1/readings"))
            .header("authorization", format!("Bearer {token}"))
            .json(&json!({"readings": readings}))
            .send()
    };
    let first = send(&token, json!([{"seq": 1, "at": now, "mass_g": 12.5}])).await.unwrap();
    assert_eq!(first.json::<Value>().await.unwrap(), json!({"accepted": 1, "repeated": 0}));
    let again = send(&token, json!([{"seq": 1, "at": now, "mass_g": 99.0}, {"seq": 2, "at": now, "mass_g": 13.0}])).await.unwrap();
    assert_eq!(again.json::<Value>().await.unwrap(), json!({"accepted": 1, "repeated": 1}));
    // One that cannot be refuses the whole batch.
    let absurd = send(&token, json!([{"seq": 3, "at": now, "mass_g": 13.0}, {"seq": 4, "at": now, "mass_g": 90000.0}])).await.unwrap();
    assert_eq!(absurd.status(), 422);
    let problem = absurd.json::<Value>().await.unwrap()["problems"][0].clone();
    assert_eq!(problem["field"], "readings[1].mass_g");
    assert!(problem["do"].as_str().unwrap().contains("limit"), "{problem}");
    let third = send(&token, json!([{"seq": 3, "at": now, "mass_g": 13.0}])).await.unwrap();
    assert_eq!(third.json::<Value>().await.unwrap()["accepted"], 1, "nothing of the refused batch was stored");
    assert_eq!(send("rk_guess", json!([{"seq": 9, "at": now, "mass_g": 1.0}])).await.unwrap().status(), 401);
    assert_eq!(http().post(server.url("/api/v1/readings")).json(&json!({})).send().await.unwrap().status(), 401);
    // The token is shown once, and taken out it opens nothing.
    let kit = cook.get(server.url("/kit")).send().await.unwrap().text().await.unwrap();
    assert!(!kit.contains(&token) && kit.contains("fine scale"));
    let id = kit.split("/kit/scales/").nth(1).unwrap().split('/').next().unwrap();
    assert_eq!(cook.post(server.url(&format!("/kit/scales/{id}/remove"))).send().await.unwrap().status(), 303);
    assert_eq!(send(&token, json!([{"seq": 5, "at": now, "mass_g": 1.0}])).await.unwrap().status(), 401);
    // Described where programs look for it.
    let described = http().get(server.url("/api/v1/openapi.json")).send().await.unwrap().json::<Value>().await.unwrap();
    assert!(described["paths"]["/api/v1/readings"]["post"]["responses"]["422"].is_object());
    assert_eq!(described["components"]["securitySchemes"]["device"]["scheme"], "bearer");
}

#[tokio::test(flavor = "multi_thread")]
async fn nobody_weighs_into_another_kitchens_bowl() {
    let server = Server::start("serve").await;
    let mine = signed_up(&server).await;
    let piece = crate::support::keep_belly(&mine, &server).await;
    let page = mine.get(server.url(&format!("{piece}/salt"))).send().await.unwrap().text().await.unwrap();
    let bowl = page.split("/bowls/").nth(1).unwrap().split('/').next().unwrap().to_owned();
    let theirs = signed_up(&server).await;
    for (path, form) in [
        (format!("{piece}/bowls/{bowl}/weighed"), json!({"g": "3"})),
        (format!("{piece}/bowls/{bowl}/used"), json!({})),
        (format!("{piece}/bowls/{bowl}/again"), json!({})),
        (format!("{piece}/salt/by-eye"), json!({"before": "3", "after": "1"})),
    ] {
        let answer = theirs.post(server.url(&path)).form(&form).send().await.unwrap();
        assert_eq!(answer.status(), 404, "{path}");
    }
    for path in [format!("{piece}/salt"), format!("{piece}/salt/scale")] {
        assert_eq!(theirs.get(server.url(&path)).send().await.unwrap().status(), 404, "{path}");
    }
    let kept = mine.post(server.url(&format!("{piece}/bowls/{bowl}/weighed"))).form(&json!({"g": "9.9"})).send().await.unwrap();
    assert_eq!(kept.status(), 303);
}
