//! Starting the server and a browser, and waiting for conditions.

use fantoccini::elements::Element;
use fantoccini::wd::{PrintConfiguration, PrintSize};
use fantoccini::{Client, ClientBuilder, Locator};
use hyper_util::client::legacy::connect::HttpConnector;
use sea_orm::{ConnectionTrait, Database};
use serde_json::{Value, json};
use std::future::Future;
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};
use uuid::Uuid;

/// How long a condition may take to come true before a test gives up.
pub const PATIENCE: Duration = Duration::from_mins(1);

/// Polls until `check` gives something; `None` when patience ends.
async fn eventually_or<T, F, Fut>(mut check: F) -> Option<T>
where
    F: FnMut() -> Fut,
    Fut: Future<Output = Option<T>>,
{
    let started = Instant::now();
    loop {
        let found = check().await;
        if found.is_some() || started.elapsed() > PATIENCE {
            return found;
        }
        tokio::time::sleep(Duration::from_millis(40)).await;
    }
}

/// Polls until `check` gives something, and fails with `what` it was about when patience ends.
pub async fn eventually<T, F, Fut>(what: &str, check: F) -> T
where
    F: FnMut() -> Fut,
    Fut: Future<Output = Option<T>>,
{
    eventually_or(check).await.unwrap_or_else(|| panic!("never came true: {what}"))
}

/// An environment variable that `bin/test` sets.
pub fn from_bin_test(name: &str) -> String {
    std::env::var(name).unwrap_or_else(|_| panic!("run through bin/test, which sets {name}"))
}

/// A database of its own on the test server.
pub async fn fresh_database() -> String {
    let server = from_bin_test("TEST_DATABASE_URL");
    let name = format!("rauchkeller_test_{}", Uuid::now_v7().simple());
    let admin = Database::connect(&server).await.unwrap();
    admin.execute_unprepared(&format!("CREATE DATABASE {name} CHARACTER SET utf8mb4")).await.unwrap();
    format!("{server}/{name}")
}

/// The real binary, serving on a free port.
pub struct Server {
    /// Like `http://127.0.0.1:40123`.
    pub base: String,
    /// The address of its database.
    pub database: String,
    child: Child,
}

/// The program under test; `RAUCHKELLER_BIN` names another build of it, to see which tests an earlier one fails, and
/// `RAUCHKELLER_SCHEMA` the last migration of that one.
fn binary() -> std::ffi::OsString {
    std::env::var_os("RAUCHKELLER_BIN").unwrap_or_else(|| env!("CARGO_BIN_EXE_rauchkeller").into())
}

impl Server {
    /// Starts `serve` or `demo` on a database of its own.
    pub async fn start(command: &str) -> Self {
        Self::on(command, &fresh_database().await)
    }

    /// Starts it on a given database.
    pub fn on(command: &str, database: &str) -> Self {
        Self::with(command, database, &[])
    }

    /// Starts it with more words.
    pub fn with(command: &str, database: &str, words: &[&str]) -> Self {
        Self::listening(command, database, "127.0.0.1:0", words)
    }

    /// Starts it again where it was, after it was killed.
    pub fn again(&self) -> Self {
        Self::listening("serve", &self.database, self.base.trim_start_matches("http://"), &["--flood-limit", "0"])
    }

    fn listening(command: &str, database: &str, at: &str, words: &[&str]) -> Self {
        use std::io::{BufRead, BufReader};
        let mut child = Command::new(binary())
            .args([command, "--listen", at])
            .args(words)
            .env("DATABASE_URL", database)
            .stdout(Stdio::piped())
            .spawn()
            .unwrap();
        let mut line = String::new();
        BufReader::new(child.stdout.take().unwrap()).read_line(&mut line).unwrap();
        let base = line.split_whitespace().last().expect("the server says its address").trim_end_matches('/').to_owned();
        Self { base, database: database.to_owned(), child }
    }

    /// One number out of the database, column `n`.
    pub async fn count(&self, query: &str) -> i64 {
        use sea_orm::{DbBackend, Statement};
        let database = Database::connect(&self.database).await.unwrap();
        let row = database.query_one_raw(Statement::from_string(DbBackend::MySql, query.to_owned())).await.unwrap().unwrap();
        row.try_get("", "n").unwrap()
    }

    /// Address of a page.
    pub fn url(&self, path: &str) -> String {
        format!("{}{path}", self.base)
    }

    /// kill -9.
    pub fn kill(&mut self) {
        self.child.kill().unwrap();
        self.child.wait().unwrap();
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

/// A visitor without a browser: cookies, forms, JSON.
pub fn http() -> reqwest::Client {
    reqwest::Client::builder()
        .cookie_store(true)
        .redirect(reqwest::redirect::Policy::none())
        .timeout(Duration::from_secs(20))
        .build()
        .unwrap()
}

/// Signs up a new household over HTTP; waits until the schema is there.
pub async fn signed_up(server: &Server) -> reqwest::Client {
    let client = http();
    eventually("sign-up works", || async {
        // A new address a try: an answer that came too late may have signed up all the same.
        let form = json!({"household": "Test kitchen", "name": "Cook", "address": format!("{}@example.org", Uuid::now_v7().simple()), "password": "a long enough one", "time_zone": "UTC"});
        let answer = client.post(server.url("/sign-up")).form(&form).send().await.ok()?;
        (answer.status() == 303).then_some(())
    })
    .await;
    let last = std::env::var("RAUCHKELLER_SCHEMA").unwrap_or_else(|_| rauchkeller_store::Store::newest_schema());
    let last = format!("SELECT COUNT(*) AS n FROM seaql_migrations WHERE version = '{last}'");
    eventually("the schema is whole", || async { (server.count(&last).await == 1).then_some(()) }).await;
    client
}

/// Keeps a pork belly and gives its page.
pub async fn keep_belly(client: &reqwest::Client, server: &Server) -> String {
    let form = json!({"cut": "pork-belly", "weight": "2.4 kg", "thick": "45 mm", "key": Uuid::now_v7().to_string()});
    let answer = client.post(server.url("/pieces")).form(&form).send().await.unwrap();
    assert_eq!(answer.status(), 303, "keeping a piece");
    answer.headers()["location"].to_str().unwrap().to_owned()
}

/// A browser with one window.
pub struct Browser {
    /// The WebDriver client.
    pub client: Client,
}

impl Browser {
    /// A laptop, 1280 × 800.
    pub async fn laptop() -> Self {
        Self::open(1280, 800, false).await
    }

    /// A phone, 390 × 844.
    pub async fn phone() -> Self {
        Self::open(390, 844, true).await
    }

    /// A laptop whose browser runs no scripts.
    pub async fn without_scripts() -> Self {
        Self::with(1280, 800, false, json!({"profile.managed_default_content_settings.javascript": 2})).await
    }

    async fn open(width: u32, height: u32, touch: bool) -> Self {
        Self::with(width, height, touch, json!({})).await
    }

    async fn with(width: u32, height: u32, touch: bool, preferences: Value) -> Self {
        let profile = std::env::temp_dir().join(format!("rk-chromium-{}", Uuid::now_v7().simple()));
        let mut options = json!({"args": [
            "--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
            "--disable-component-update", "--disable-sync", "--disable-dev-shm-usage", format!("--window-size={width},{height}"),
            format!("--user-data-dir={}", profile.display())
        ]});
        options["prefs"] = preferences;
        if touch {
            options["mobileEmulation"] = json!({"deviceMetrics": {"width": width, "height": height, "pixelRatio": 1, "touch": true}});
        }
        let mut capabilities = serde_json::Map::new();
        capabilities.insert("goog:chromeOptions".into(), options);
        let client = ClientBuilder::new(HttpConnector::new())
            .capabilities(capabilities)
            .connect(&from_bin_test("WEBDRIVER_URL"))
            .await
            .expect("ChromeDriver answers");
        Self { client }
    }

    /// Goes somewhere.
    pub async fn go(&self, url: &str) {
        self.client.goto(url).await.unwrap();
    }

    /// Waits for an element.
    pub async fn find(&self, css: &str) -> Element {
        match self.client.wait().at_most(PATIENCE).for_element(Locator::Css(css)).await {
            Ok(element) => element,
            Err(error) => {
                let at = self.client.current_url().await.map(|url| url.to_string()).unwrap_or_default();
                let shown = self.js("return document.body.innerText.slice(0, 600)").await;
                panic!("no {css} at {at}: {error}\n{shown}")
            }
        }
    }

    /// Waits for an element and scrolls to it, so that nothing that sticks to the screen's edge lies over it.
    async fn scrolled_to(&self, css: &str) -> Element {
        let element = self.find(css).await;
        let shown = vec![serde_json::to_value(&element).unwrap()];
        self.client.execute("arguments[0].scrollIntoView({block: 'center'})", shown).await.unwrap();
        element
    }

    /// Presses something.
    pub async fn press(&self, css: &str) {
        self.scrolled_to(css).await.click().await.unwrap_or_else(|e| panic!("cannot press {css}: {e}"));
    }

    /// Runs a script and gives what it returns.
    pub async fn js(&self, script: &str) -> Value {
        self.client.execute(script, vec![]).await.unwrap()
    }

    /// Replaces what is typed in a field, key by key as a cook would.
    pub async fn retype(&self, css: &str, text: &str) {
        let field = self.scrolled_to(css).await;
        field.click().await.unwrap();
        self.client.execute("arguments[0].select()", vec![serde_json::to_value(&field).unwrap()]).await.unwrap();
        field.send_keys(text).await.unwrap();
    }

    /// Waits until an element says something that satisfies a condition, and gives it; fails with what it said last.
    pub async fn text_when(&self, css: &str, condition: impl Fn(&str) -> bool) -> String {
        let last = std::sync::Mutex::new(String::new());
        let script = format!("const e = document.querySelector({css:?}); return e === null ? null : e.innerText ?? e.textContent");
        let found = eventually_or(|| async {
            let text = self.js(&script).await;
            let text = text.as_str()?.to_owned();
            last.lock().unwrap().clone_from(&text);
            condition(&text).then_some(text)
        })
        .await;
        found.unwrap_or_else(|| panic!("{css} never said what was waited for; last: “{}”", last.lock().unwrap()))
    }

    /// Signs up a household of its own through the door.
    pub async fn signs_up(&self, server: &Server, kitchen: &str) {
        // The schema is migrated beside the first requests.
        signed_up(server).await;
        self.go(&server.url("/sign-up")).await;
        self.retype("[name=household]", kitchen).await;
        self.retype("[name=name]", "Cook").await;
        self.retype("[name=address]", &format!("{}@example.org", Uuid::now_v7().simple())).await;
        self.retype("[name=password]", "lantern gravel otter seven").await;
        // Without scripts nobody fills in the browser's.
        self.retype("[name=time_zone]", "UTC").await;
        self.press(".door-card .button").await;
        self.find("#cellar").await;
    }

    /// The page as it is printed, and on how many sheets, by poppler.
    pub async fn printed(&self, size: PrintSize) -> (Vec<u8>, u32) {
        let pdf = self.client.print(PrintConfiguration::builder().size(size).background(true).build().unwrap()).await.unwrap();
        let said = crate::print::piped("pdfinfo", &["-"], &pdf);
        let said = String::from_utf8_lossy(&said).into_owned();
        let pages = said.lines().find_map(|line| line.strip_prefix("Pages:")).expect("pdfinfo counts pages");
        (pdf, pages.trim().parse().unwrap())
    }

    /// Waits until no element matches.
    pub async fn gone(&self, css: &str) {
        eventually(&format!("{css} is gone"), || async {
            self.js(&format!("return document.querySelector({css:?}) === null")).await.as_bool().filter(|gone| *gone)
        })
        .await;
    }

    /// Waits until the address satisfies a condition.
    pub async fn at(&self, what: &str, condition: impl Fn(&str) -> bool) -> String {
        eventually(&format!("address: {what}"), || async {
            let url = self.client.current_url().await.ok()?.to_string();
            condition(&url).then_some(url)
        })
        .await
    }

    /// Sets up a kitchen through the page.
    pub async fn sign_up(&self, server: &Server) {
        // The schema is migrated beside the first requests.
        signed_up(server).await;
        self.go(&server.url("/sign-up")).await;
        for (name, text) in [("household", "Boat shed"), ("name", "Cook"), ("password", "a long enough one")] {
            self.find(&format!("input[name={name}]")).await.send_keys(text).await.unwrap();
        }
        let address = format!("{}@example.org", Uuid::now_v7().simple());
        self.find("input[name=address]").await.send_keys(&address).await.unwrap();
        self.press("form.stack button").await;
        self.find("#cellar").await;
    }

    /// Keeps a piece of the sentence in the browser's own kitchen and gives the path of its page.
    pub async fn keeps(&self, server: &Server, sentence: &str) -> String {
        self.go(&server.url(&format!("/bench?{sentence}"))).await;
        self.press("#keep:not(:disabled)").await;
        self.find("#piece").await;
        let url = self.at("the piece", |url| url.contains("/pieces/")).await;
        url[server.base.len()..].to_owned()
    }

    /// Closes the browser.
    pub async fn close(self) {
        self.client.close().await.unwrap();
    }
}
