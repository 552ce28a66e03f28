//! The server without its database: what needs none goes on, what needs one says so in words.

use axum::body::Body;
use axum::http::{HeaderMap, Request, StatusCode, header};
use http_body_util::BodyExt;
use rauchkeller_store::Store;
use rauchkeller_web::{AppState, Settings, router};
use rstest::rstest;
use tower::ServiceExt;

struct Answer {
    status: StatusCode,
    headers: HeaderMap,
    body: String,
}

impl Answer {
    fn header(&self, name: impl header::AsHeaderName) -> &str {
        self.headers.get(name).and_then(|v| v.to_str().ok()).unwrap_or_default()
    }
}

/// Sends a request to a server whose database is at a port where nobody listens.
async fn send(request: Request<Body>) -> Answer {
    send_with(request, Settings::default()).await
}

async fn send_with(request: Request<Body>, settings: Settings) -> Answer {
    let store = Store::connect("mysql://nobody:x@127.0.0.1:1/none").await.unwrap();
    let response = router(AppState::new(store, settings)).oneshot(request).await.unwrap();
    let (parts, body) = response.into_parts();
    let bytes = body.collect().await.unwrap().to_bytes();
    Answer { status: parts.status, headers: parts.headers, body: String::from_utf8_lossy(&bytes).into_owned() }
}

fn get(path: &str) -> Request<Body> {
    Request::get(path).body(Body::empty()).unwrap()
}

fn post(path: &str, form: &str) -> Request<Body> {
    Request::post(path).header("content-type", "application/x-www-form-urlencoded").body(Body::from(form.to_owned())).unwrap()
}

#[rstest]
#[case("/sign-in", 200)]
#[case("/sign-up", 200)]
#[case("/assets/app.css", 200)]
#[case("/assets/nothing.css", 404)]
#[case("/api/v1/openapi.json", 200)]
#[case("/api/v1/list/cuts", 200)]
#[case("/api/v1/list/dragons", 404)]
#[case("/health", 503)]
#[case("/nowhere", 404)]
#[tokio::test]
async fn every_answer_carries_the_walls(#[case] path: &str, #[case] status: u16) {
    let answer = send(get(path)).await;
    assert_eq!(answer.status.as_u16(), status);
    let policy = answer.header(header::CONTENT_SECURITY_POLICY);
    assert!(policy.contains("default-src 'self'") && policy.contains("frame-ancestors 'none'") && !policy.contains("unsafe"), "{policy}");
    assert_eq!(answer.header(header::X_CONTENT_TYPE_OPTIONS), "nosniff");
    assert_eq!(answer.header(header::REFERRER_POLICY), "same-origin");
}

#[tokio::test]
async fn shipped_files_are_kept_and_pages_are_not() {
    let page = send(get("/sign-in")).await;
    let link = page.body.split('"').find(|part| part.starts_with("/assets/app.css?v=")).unwrap().to_owned();
    let style = send(get(&link)).await;
    assert!(style.header(header::CONTENT_TYPE).starts_with("text/css") && style.header(header::CACHE_CONTROL).contains("immutable"));
    // Without its hash it is asked about again, and not sent twice.
    let plain = send(get("/assets/app.css")).await;
    assert_eq!(plain.header(header::CACHE_CONTROL), "no-cache");
    assert_eq!(page.header(header::CACHE_CONTROL), "no-store");
    assert!(page.header(header::VARY).contains("HX-Request"));
    // Pages link files with their hash, so that a new file has a new address.
    assert!(page.body.contains("/assets/app.css?v=") && page.body.contains("/assets/htmx.min.js?v="));
}

#[rstest]
#[case("/bench")]
#[case("/cellar")]
#[case("/book")]
#[case("/pieces/0193a5b0-0000-7000-8000-000000000000")]
#[tokio::test]
async fn strangers_are_sent_to_the_door(#[case] path: &str) {
    let page = send(get(path)).await;
    assert_eq!((page.status.as_u16(), page.header(header::LOCATION)), (303, "/sign-in"));
    // htmx would put the door into a corner of the page: it is told to move the whole page.
    let request = Request::get(path).header("HX-Request", "true").header("HX-Request-Type", "partial").body(Body::empty()).unwrap();
    let fragment = send(request).await;
    assert_eq!((fragment.status.as_u16(), fragment.header("HX-Redirect")), (401, "/sign-in"));
}

#[rstest]
#[case("household=&name=Cook&address=a@b.example&password=long+enough+one", "the kitchen a name")]
#[case("household=Shed&name=&address=a@b.example&password=long+enough+one", "the cook a name")]
#[case("household=Shed&name=Cook&address=nobody&password=long+enough+one", "An address has an @")]
#[case("household=Shed&name=Cook&address=a+b@c.example&password=long+enough+one", "An address has an @")]
#[case("household=Shed&name=Cook&address=a@b.example&password=short", "5 characters do not work here")]
#[tokio::test]
async fn a_wrong_sign_up_is_named_and_keeps_what_was_typed(#[case] form: &str, #[case] says: &str) {
    let answer = send(post("/sign-up", form)).await;
    assert_eq!(answer.status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(answer.body.contains(says), "no “{says}” in the page");
    let kept = if form.contains("household=Shed") { "value=\"Shed\"" } else { "value=\"Cook\"" };
    assert!(answer.body.contains(kept), "what was right is still there");
    assert!(!answer.body.contains("long enough one"), "a password is never sent back");
}

#[tokio::test]
async fn all_slips_of_a_sign_up_come_at_once() {
    let answer = send(post("/sign-up", "household=&name=&address=&password=")).await;
    assert_eq!(answer.body.matches("role=\"alert\"").count(), 4);
    let long = "x".repeat(61);
    let answer = send(post("/sign-up", &format!("household={long}&name=Cook&address=a@b.example&password=long+enough+one"))).await;
    assert!(answer.body.contains("61 characters do not work here"));
}

#[tokio::test]
async fn a_right_sign_up_without_a_database_is_said_in_words() {
    let answer = send(post("/sign-up", "household=Shed&name=Cook&address=a@b.example&password=long+enough+one")).await;
    assert_eq!(answer.status, StatusCode::SERVICE_UNAVAILABLE);
    assert!(answer.body.contains("The database does not answer") && answer.header(header::RETRY_AFTER) == "3");
}

#[tokio::test]
async fn what_is_typed_is_escaped() {
    let answer = send(post("/sign-up", "household=%22%3E%3Cscript%3Ealert(1)%3C/script%3E&name=&address=x&password=x")).await;
    assert!(!answer.body.contains("<script>alert") && answer.body.contains("alert(1)"));
}

#[tokio::test]
async fn posts_from_other_sites_are_refused_in_words() {
    let mut request = post("/sign-in", "address=a@b.example&password=x");
    request.headers_mut().insert("sec-fetch-site", "cross-site".parse().unwrap());
    request.headers_mut().insert("origin", "https://elsewhere.example".parse().unwrap());
    let answer = send(request).await;
    assert_eq!(answer.status, StatusCode::FORBIDDEN);
    assert!(answer.body.contains("did not come from this site"));
    // Behind a proxy the site's own address is trusted.
    let mut own = post("/sign-up", "household=&name=&address=&password=");
    own.headers_mut().insert("origin", "https://kitchen.example".parse().unwrap());
    let settings = Settings { public_url: Some("https://kitchen.example/".into()), ..Settings::default() };
    assert_eq!(send_with(own, settings).await.status, StatusCode::UNPROCESSABLE_ENTITY);
}

#[tokio::test]
async fn a_form_beyond_all_measure_is_refused() {
    let answer = send(post("/sign-up", &format!("household={}", "x".repeat(70_000)))).await;
    assert_eq!(answer.status, StatusCode::PAYLOAD_TOO_LARGE);
}

#[tokio::test]
async fn the_demos_door_exists_only_in_the_demo() {
    assert_eq!(send(post("/demo", "")).await.status, StatusCode::NOT_FOUND);
    assert!(!send(get("/sign-in")).await.body.contains("enter-demo"));
    let settings = Settings { demo_cook: Some("crew@boathouse.example".into()), ..Settings::default() };
    assert!(send_with(get("/sign-in"), settings).await.body.contains("enter-demo"));
}

#[tokio::test]
async fn plans_need_no_database() {
    let request = Request::post("/api/v1/plan")
        .header("content-type", "application/json; charset=utf-8")
        .body(Body::from(rauchkeller_contract::EXAMPLE))
        .unwrap();
    let answer = send(request).await;
    assert_eq!(answer.status, StatusCode::OK);
    let plan: rauchkeller_contract::PlanDoc = serde_json::from_str(&answer.body).unwrap();
    // By hand: 18 g less 30 g of soy sauce × 13.96 % × 0.6.
    assert!((plan.dose.to_weigh_g - 15.487).abs() < 0.01);
}
