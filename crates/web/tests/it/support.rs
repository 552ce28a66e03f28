//! The router on a free port with a database of its own, and visitors who send forms.

use axum::serve;
use rauchkeller_store::Store;
use rauchkeller_web::{AppState, Settings, router};
use sea_orm::{ConnectionTrait, Database, DbBackend, Statement};
use serde_json::{Value, json};
use std::net::SocketAddr;
use std::time::Duration;
use tokio::net::TcpListener;
use uuid::Uuid;

/// A server that ends with its test.
pub struct Server {
    base: String,
    /// The address of its database.
    pub database: String,
}

impl Server {
    /// Serves on a database of its own, with the whole schema.
    pub async fn start() -> Self {
        Self::with(Settings { flood_limit: Some(100), ..Settings::default() }).await
    }

    /// One that lets any number of requests through.
    pub async fn unbraked() -> Self {
        Self::with(Settings::default()).await
    }

    async fn with(settings: Settings) -> Self {
        let server = std::env::var("TEST_DATABASE_URL").expect("run through bin/test, which sets TEST_DATABASE_URL");
        let name = format!("rauchkeller_test_{}", Uuid::now_v7().simple());
        let admin = Database::connect(&server).await.unwrap();
        admin.execute_unprepared(&format!("CREATE DATABASE {name} CHARACTER SET utf8mb4")).await.unwrap();
        let database = format!("{server}/{name}");
        let store = Store::connect(&database).await.unwrap();
        store.migrate().await.unwrap();
        let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
        let base = format!("http://{}", listener.local_addr().unwrap());
        let service = router(AppState::new(store, settings)).into_make_service_with_connect_info::<SocketAddr>();
        tokio::spawn(async move { serve(listener, service).await });
        Self { base, database }
    }

    /// Address of a page.
    pub fn url(&self, path: &str) -> String {
        format!("{}{path}", self.base)
    }

    /// One number out of the database, column `n`.
    pub async fn count(&self, query: &str) -> i64 {
        let database = Database::connect(&self.database).await.unwrap();
        let row = database.query_one_raw(Statement::from_string(DbBackend::MySql, query.to_owned())).await.unwrap().unwrap();
        row.try_get("", "n").unwrap()
    }
}

/// A visitor: cookies, forms, JSON; goes nowhere by herself.
pub fn http() -> reqwest::Client {
    reqwest::Client::builder()
        .cookie_store(true)
        .redirect(reqwest::redirect::Policy::none())
        .timeout(Duration::from_secs(20))
        .build()
        .unwrap()
}

/// A cook of a new household.
pub async fn signed_up(server: &Server) -> reqwest::Client {
    let client = http();
    let form = json!({"household": "Test kitchen", "name": "Cook", "address": format!("{}@example.org", Uuid::now_v7().simple()),
        "password": "a long enough one", "time_zone": "UTC"});
    assert_eq!(client.post(server.url("/sign-up")).form(&form).send().await.unwrap().status(), 303);
    client
}

/// Keeps a piece by the words of its sentence and gives the address of its page.
pub async fn keep(client: &reqwest::Client, server: &Server, words: Value) -> String {
    let mut form = json!({"key": Uuid::now_v7().to_string()});
    form.as_object_mut().unwrap().extend(words.as_object().unwrap().clone());
    let answer = client.post(server.url("/pieces")).form(&form).send().await.unwrap();
    assert_eq!(answer.status(), 303, "keeping {form}");
    answer.headers()["location"].to_str().unwrap().to_owned()
}

/// Keeps a pork belly and gives its page.
pub async fn keep_belly(client: &reqwest::Client, server: &Server) -> String {
    keep(client, server, json!({"cut": "pork-belly", "weight": "2.4 kg", "thick": "45 mm"})).await
}

/// Status and text of a page.
pub async fn page(client: &reqwest::Client, server: &Server, path: &str) -> (u16, String) {
    let answer = client.get(server.url(path)).send().await.unwrap();
    (answer.status().as_u16(), answer.text().await.unwrap())
}

/// Sends a form and gives status and text.
pub async fn send(client: &reqwest::Client, server: &Server, path: &str, form: &Value) -> (u16, String) {
    let answer = client.post(server.url(path)).form(form).send().await.unwrap();
    (answer.status().as_u16(), answer.text().await.unwrap())
}
