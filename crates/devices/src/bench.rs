//! The simulated scale as a process: it reads four times a second, sends what it shows, and has a little page of its
//! own on loopback to put a bowl on it, pour, tare and lift.

use crate::link::Link;
use crate::scale::{Make, Scale};
use crate::sender::{Target, send_all};
use axum::Router;
use axum::extract::{Query, State};
use axum::http::{HeaderValue, StatusCode, header};
use axum::response::{Html, IntoResponse, Response};
use axum::routing::{get, post};
use jiff::Timestamp;
use rauchkeller_contract::{PairingDoc, ReadingDoc};
use serde::{Deserialize, Serialize};
use std::net::SocketAddr;
use std::path::PathBuf;
use std::sync::mpsc::Sender;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::Duration;

/// How to run a simulated scale.
#[derive(Debug, Clone)]
pub struct ScaleOptions {
    /// The server that gets its readings.
    pub server: String,
    /// The device's token there; without one it shows a code and waits to be paired.
    pub token: Option<String>,
    /// Where it keeps the token of its kitchen.
    pub memory: Option<PathBuf>,
    /// Where its own page listens.
    pub listen: SocketAddr,
    /// Its fineness, g.
    pub step_g: f64,
    /// Seed of its noise.
    pub seed: u64,
}

/// What it calls itself when it is paired.
const NAME: &str = "simulated scale";
/// The most it bears, g.
const CAPACITY_G: f64 = 5000.0;
/// Readings a second.
const RATE: u32 = 4;

#[derive(Clone)]
struct Shared(Arc<Mutex<Scale>>, Link);

impl Shared {
    /// The scale; a thread that died holding it left it whole, since every change is a single assignment.
    fn scale(&self) -> MutexGuard<'_, Scale> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner)
    }
}

/// Runs until the process ends. Prints the address of its page.
pub async fn run_scale(options: ScaleOptions) -> std::io::Result<()> {
    let make = Make::usual(options.step_g);
    // The token is the link's own.
    let about = PairingDoc { token: String::new(), name: NAME.into(), step_g: make.step_g, capacity_g: CAPACITY_G };
    let link = Link::new(options.token, options.memory, about);
    let shared = Shared(Arc::new(Mutex::new(Scale::new(make, options.seed))), link.clone());
    let listener = tokio::net::TcpListener::bind(options.listen).await?;
    println!("Simulated scale: http://{}/", listener.local_addr()?);
    let (sender, readings) = std::sync::mpsc::channel();
    let (asking, server) = (link.clone(), options.server.clone());
    std::thread::spawn(move || asking.pair_with(&server));
    let target = Target { server: options.server, link };
    std::thread::spawn(move || send_all(&target, &readings));
    tokio::spawn(read_on(shared.clone(), sender));
    axum::serve(listener, page(shared)).await
}

/// Reads four times a second. Sequence numbers start at the clock's milliseconds, so that they go on rising when the
/// process is started again.
async fn read_on(shared: Shared, sender: Sender<ReadingDoc>) {
    let mut seq = Timestamp::now().as_millisecond();
    let mut clock = tokio::time::interval(Duration::from_secs(1) / RATE);
    clock.set_missed_tick_behavior(tokio::time::MissedTickBehavior::Delay);
    let mut last = std::time::Instant::now();
    let mut said = None;
    loop {
        clock.tick().await;
        let passed = last.elapsed().as_secs_f64();
        last = std::time::Instant::now();
        let shown = {
            let mut scale = shared.scale();
            scale.tick(passed.min(2.0));
            scale.shows()
        };
        // An overloaded scale shows nothing that could be sent.
        let Some(mass_g) = shown else { continue };
        // What did not change is said once a second: enough to know that the scale is there and stands still.
        let quiet = said.is_some_and(|(g, at): (f64, std::time::Instant)| g == mass_g && at.elapsed() < Duration::from_millis(950));
        if quiet {
            continue;
        }
        said = Some((mass_g, last));
        seq += 1;
        if sender.send(ReadingDoc { seq, at: Timestamp::now().to_string(), mass_g }).is_err() {
            return;
        }
    }
}

#[derive(Debug, Deserialize)]
struct Amount {
    g: f64,
}

#[derive(Debug, Serialize)]
struct Shown {
    shows_g: Option<f64>,
    step_g: f64,
    /// Whether a kitchen hears it.
    paired: bool,
    /// What to type in the Kit until then.
    code: Option<String>,
}

/// What the page's buttons do.
fn page(shared: Shared) -> Router {
    Router::new()
        .route("/", get(|| async { document() }))
        .route("/scale.js", get(|| async { ([(header::CONTENT_TYPE, "text/javascript")], include_str!("bench/scale.js")) }))
        .route("/scale.css", get(|| async { ([(header::CONTENT_TYPE, "text/css")], include_str!("bench/scale.css")) }))
        .route("/state", get(state))
        .route(
            "/put",
            post(|State(s): State<Shared>, Query(a): Query<Amount>| async move { within(a.g, -5000.0, 9000.0, |g| s.scale().put(g)) }),
        )
        .route(
            "/pour",
            post(|State(s): State<Shared>, Query(a): Query<Amount>| async move { within(a.g, 0.0, 100.0, |g| s.scale().pour(g)) }),
        )
        .route("/tare", post(|State(s): State<Shared>| async move { s.scale().tare() }))
        .route("/forget", post(|State(s): State<Shared>| async move { s.1.forget() }))
        .route("/lift", post(|State(s): State<Shared>| async move { s.scale().clear() }))
        .layer(axum::middleware::from_fn(same_site))
        .with_state(shared)
}

/// Another site's page must not pour salt here.
async fn same_site(request: axum::extract::Request, next: axum::middleware::Next) -> Response {
    let foreign = request.headers().get("sec-fetch-site").is_some_and(|site| site != "same-origin" && site != "none");
    if foreign && request.method() != axum::http::Method::GET {
        return StatusCode::FORBIDDEN.into_response();
    }
    next.run(request).await
}

fn within(value: f64, low: f64, high: f64, act: impl FnOnce(f64)) -> Response {
    if !(low..=high).contains(&value) {
        return (StatusCode::UNPROCESSABLE_ENTITY, format!("{value} g is not possible; between {low} and {high} g is allowed"))
            .into_response();
    }
    act(value);
    StatusCode::OK.into_response()
}

async fn state(State(shared): State<Shared>) -> axum::Json<Shown> {
    let mut scale = shared.scale();
    axum::Json(Shown { shows_g: scale.shows(), step_g: scale.make().step_g, paired: shared.1.is_paired(), code: shared.1.code() })
}

fn document() -> Response {
    let policy = HeaderValue::from_static("default-src 'self'; frame-ancestors 'none'; base-uri 'none'");
    ([(header::CONTENT_SECURITY_POLICY, policy)], Html(include_str!("bench/scale.html"))).into_response()
}
