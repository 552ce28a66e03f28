//! The Kit over HTTP: what is hung up, sent twice, refused, taken out and put back.

use crate::support::{Server, http, signed_up};
use serde_json::{Value, json};
use uuid::Uuid;

struct Kit {
    server: Server,
    cook: reqwest::Client,
}

impl Kit {
    async fn open() -> Self {
        let server = Server::start().await;
        let cook = signed_up(&server).await;
        Self { server, cook }
    }

    async fn send(&self, path: &str, form: Value) -> (u16, String) {
        let answer = self.cook.post(self.server.url(path)).form(&form).send().await.unwrap();
        (answer.status().as_u16(), answer.text().await.unwrap())
    }

    async fn page(&self) -> String {
        self.cook.get(self.server.url("/kit")).send().await.unwrap().text().await.unwrap()
    }
}

fn salt(name: &str, key: &str) -> Value {
    json!({"name": name, "spoon": "us-tsp", "count": "10", "weighings": "53 54 52", "fineness": "1", "purity": "97", "potassium": "0", "key": key})
}

#[tokio::test(flavor = "multi_thread")]
async fn a_salt_sent_twice_hangs_once_and_comes_back_when_it_was_taken_out() {
    let kit = Kit::open().await;
    let key = Uuid::now_v7().to_string();
    for _ in 0..2 {
        assert_eq!(kit.send("/kit/salts", salt("grey jar", &key)).await.0, 303);
    }
    assert_eq!(kit.page().await.matches("grey jar").count(), 1);
    let (status, page) = kit.send("/kit/salts", salt("Grey jar", &Uuid::now_v7().to_string())).await;
    assert_eq!(status, 422);
    assert!(page.contains("hangs in your Kit already") && page.contains("value=\"Grey jar\""), "what was typed stays");

    let id = kit.page().await.split("/kit/salts/").find_map(|p| Uuid::parse_str(p.get(..36)?).ok()).unwrap();
    assert_eq!(kit.send(&format!("/kit/salts/{id}/remove"), json!({})).await.0, 303);
    assert!(!kit.page().await.contains("grey jar"));
    let undo = kit.cook.get(kit.server.url(&format!("/kit?removed=salts&id={id}"))).send().await.unwrap().text().await.unwrap();
    assert!(undo.contains(&format!("/kit/salts/{id}/restore")));
    // Its name was given away meanwhile: it cannot come back, and that is said, not a failure.
    assert_eq!(kit.send("/kit/salts", salt("grey jar", &Uuid::now_v7().to_string())).await.0, 303);
    let answer = kit.cook.post(kit.server.url(&format!("/kit/salts/{id}/restore"))).send().await.unwrap();
    assert_eq!((answer.status().as_u16(), answer.headers()["location"].to_str().unwrap()), (303, "/kit?taken=true"));
    let said = kit.cook.get(kit.server.url("/kit?taken=true")).send().await.unwrap().text().await.unwrap();
    assert!(said.contains("another one hangs under its name"));
}

#[tokio::test(flavor = "multi_thread")]
async fn absurd_things_are_named_and_nothing_is_stored() {
    let kit = Kit::open().await;
    let mut purity = salt("grey jar", "");
    purity["purity"] = "130".into();
    let mut curing = salt("pink curing salt", "");
    curing["weighings"] = "53, 54".into();
    let mut heavy = salt("lead", "");
    heavy["weighings"] = "530".into();
    for (form, says) in [(purity, "130 % sodium chloride"), (curing, "nitrite"), (heavy, "g a teaspoon"), (json!({}), "without a name")] {
        let (status, page) = kit.send("/kit/salts", form).await;
        assert_eq!(status, 422, "{says}");
        assert!(page.contains(says), "{says}");
    }
    for (recipe, says) in [("40% salt\n35% sugar", "75.0 %"), ("salt", "no amount"), ("", "0 ingredients"), ("20 g curing salt", "nitrite")]
    {
        let (status, page) = kit.send("/kit/mixes", json!({"name": "rub", "recipe": recipe})).await;
        assert_eq!(status, 422, "{says}");
        assert!(page.contains(says), "{says}");
    }
    for (form, says) in
        [(json!({"name": "", "fineness": "1"}), "needs a name"), (json!({"name": "scale", "fineness": "fine"}), "is no fineness")]
    {
        let (status, page) = kit.send("/kit/scales", form).await;
        assert_eq!(status, 422, "{says}");
        assert!(page.contains(says) && !page.contains("id=\"token\""), "{says}");
    }
    let page = kit.page().await;
    assert!(page.contains("None of your own yet") && page.contains("None yet."), "nothing hangs there");
    for path in [
        "/kit/salts/nonsense/remove".to_owned(),
        format!("/kit/knives/{}/remove", Uuid::now_v7()),
        format!("/kit/mixes/{}/remove", Uuid::now_v7()),
    ] {
        assert_eq!(kit.send(&path, json!({})).await.0, 404, "{path}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn a_mix_named_in_the_sentence_is_scaled_and_stays_in_the_kept_plan() {
    let kit = Kit::open().await;
    let recipe = "32 g salt\n68 g brown sugar\nfor 6 kg";
    assert_eq!(kit.send("/kit/mixes", json!({"name": "house rub", "recipe": recipe})).await.0, 303);
    let form = json!({"cut": "pork-belly", "weight": "2.4 kg", "also": "house rub", "key": Uuid::now_v7().to_string()});
    let answer = kit.cook.post(kit.server.url("/pieces")).form(&form).send().await.unwrap();
    assert_eq!(answer.status(), 303);
    let piece = answer.headers()["location"].to_str().unwrap().to_owned();
    // Taken out of the Kit, it is still in the plan that was kept with it: 40 g, of which 12.8 g are salt.
    let id = kit.page().await.split("/kit/mixes/").find_map(|p| Uuid::parse_str(p.get(..36)?).ok()).unwrap();
    assert_eq!(kit.send(&format!("/kit/mixes/{id}/remove"), json!({})).await.0, 303);
    let salt = kit.cook.get(kit.server.url(&format!("{piece}/salt"))).send().await.unwrap().text().await.unwrap();
    assert!(salt.contains("40.0 g of house rub") && salt.contains("12.8 g of salt") && salt.contains("meat side: house rub"));
    // More of it back than there was is no note.
    let (status, page) = kit.send(&format!("{piece}/salt/by-eye"), json!({"mixleft": "55"})).await;
    assert_eq!(status, 422);
    assert!(page.contains("cannot be left of 40.0 g"));
    assert_eq!(kit.send(&format!("{piece}/salt/by-eye"), json!({"mixleft": "5"})).await.0, 303);
    let salt = kit.cook.get(kit.server.url(&format!("{piece}/salt"))).send().await.unwrap().text().await.unwrap();
    assert!(salt.contains("5.0 g of house rub came back, 1.6 g of salt in it"));
}

#[tokio::test(flavor = "multi_thread")]
async fn strangers_meet_the_door() {
    let server = Server::start().await;
    signed_up(&server).await;
    for path in ["/kit", "/kit/salts/new", "/kit/mixes/new", "/salt", "/scale?into=k-weighings"] {
        let answer = http().get(server.url(path)).send().await.unwrap();
        assert_eq!((answer.status().as_u16(), answer.headers()["location"].to_str().unwrap()), (303, "/sign-in"), "{path}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn how_hot_the_own_oven_gets_rules_the_bench() {
    let kit = Kit::open().await;
    let bench =
        || async { kit.cook.get(kit.server.url("/bench?cut=pork-belly&weight=1.2+kg")).send().await.unwrap().text().await.unwrap() };
    assert!(bench().await.contains("then 245 °C until hollow"), "the method's own heat");
    assert_eq!(kit.send("/kit/heat", json!({"appliance": "oven", "hottest": "220 °C"})).await.0, 303);
    assert!(kit.page().await.contains("as you said"));
    assert!(bench().await.contains("then 220 °C until hollow"), "no hotter than it gets");
    // Dial and thermometer read side by side: from then on each stage says where the dial is to stand.
    let read = |dial: &'static str, reads: &'static str| json!({"appliance": "oven", "hottest": "", "dial": dial, "reads": reads});
    for (dial, reads, says) in [("180 °C", "", "Say both"), ("250 °C", "100 °C", "further apart"), ("hot", "165 °C", "hot")] {
        let (status, page) = kit.send("/kit/heat", read(dial, reads)).await;
        assert!(status == 422 && page.contains(says) && page.contains(&format!("value=\"{dial}\"")), "{dial}: {status}");
    }
    assert_eq!(kit.send("/kit/heat", read("180 °C", "165 °C")).await.0, 303);
    let page = kit.page().await;
    assert!(page.contains("15 °C (27 °F) too high") && page.contains("as you said"), "the hottest stands as it was");
    assert!(bench().await.contains("then at 235 °C for 220 °C of air"), "220 of air are 235 on this dial");
    // What cannot be is said beside the field, with what was typed.
    for (appliance, hottest, says) in
        [("oven", "900 °C", "900"), ("oven", "warm", "warm"), ("oven", "230", "230"), ("kiln", "230 °C", "Choose")]
    {
        let (status, page) = kit.send("/kit/heat", json!({"appliance": appliance, "hottest": hottest})).await;
        assert!(status == 422 && page.contains(says) && page.contains(&format!("value=\"{hottest}\"")), "{hottest}: {status}");
    }
    // Hotter than a smoker ever gets, not than an oven.
    assert_eq!(kit.send("/kit/heat", json!({"appliance": "smoker", "hottest": "300 °C"})).await.0, 422);
    assert_eq!(kit.send("/kit/heat", json!({"appliance": "oven", "hottest": ""})).await.0, 303);
    let page = kit.page().await;
    assert!(!page.contains("as you said") && !page.contains("too high") && bench().await.contains("then 245 °C until hollow"));
}

#[tokio::test(flavor = "multi_thread")]
async fn what_cannot_be_of_heat_and_tasks_is_said_at_its_own_word() {
    let kit = Kit::open().await;
    assert_eq!(kit.send("/kit/heat", json!({"appliance": "grill", "hottest": "280 °C"})).await.0, 303);
    let slip = |words: &'static str, id: &'static str| {
        let url = kit.server.url(&format!("/bench?cut=pork-belly&weight=1.2+kg&{words}"));
        let cook = &kit.cook;
        async move {
            let page = cook.get(url).send().await.unwrap().text().await.unwrap();
            let at = page.find(&format!("id=\"slip-{id}\"")).unwrap_or_else(|| panic!("a slip at {id} of {words}"));
            // The rest is still planned.
            assert!(page.contains("id=\"pull\""), "{words}");
            page[at..].split("</p>").next().unwrap().to_lowercase()
        }
    };
    // Hotter than any smoker, though not than an oven: behind another appliance of the Kit in the request.
    assert!(slip("with=smoker&hottest=300+C", "hottest").await.contains("300 °c"));
    let said = slip("tasks=no+carve", "tasks").await;
    assert!(said.contains("carve"), "{said}");
    assert!(slip("tasks=turn+after+300+h", "tasks").await.contains("300 h"));
    assert!(slip("tasks=no+giblets", "tasks").await.contains("giblets"));
}
