//! Strangers who want the kitchen for themselves: each beside a cook who is answered, throughout and right after.

use crate::run::{ago, event, note};
use crate::support::{Server, eventually, http, keep_belly, signed_up};
use serde_json::{Value, json};
use std::net::SocketAddr;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, AtomicUsize, Ordering};
use std::time::Duration;
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::net::{TcpSocket, TcpStream};
use tokio::task::JoinHandle;

/// A connection from a place of one's own on this machine: 127.0.1.1 and up.
async fn from_place(server: &Server, place: u8) -> std::io::Result<TcpStream> {
    let to: SocketAddr = server.base.trim_start_matches("http://").parse().unwrap();
    let socket = TcpSocket::new_v4()?;
    socket.bind(SocketAddr::from(([127, 0, 1, place], 0)))?;
    socket.connect(to).await
}

/// A cook who goes on cooking until told to stop: every page is answered with what was asked for.
fn honest(
    server: &Server,
    cook: &reqwest::Client,
    paths: &[String],
    stop: &Arc<AtomicBool>,
    so_far: &Arc<AtomicUsize>,
) -> JoinHandle<usize> {
    let (cook, stop, so_far) = (cook.clone(), stop.clone(), so_far.clone());
    let urls: Vec<String> = paths.iter().map(|path| server.url(path)).collect();
    tokio::spawn(async move {
        let mut answered = 0;
        // As fast as a cook may ask for long, and no faster: the guard against floods is not what is tried here.
        let mut pace = tokio::time::interval(Duration::from_millis(80));
        loop {
            pace.tick().await;
            for url in &urls {
                let answer = cook.get(url).timeout(Duration::from_secs(9)).send().await.unwrap_or_else(|error| panic!("{url}: {error}"));
                assert_eq!(answer.status(), 200, "{url} beside strangers, after {answered} answers");
                answered += 1;
                so_far.store(answered, Ordering::SeqCst);
            }
            if stop.load(Ordering::SeqCst) {
                return answered;
            }
        }
    })
}

async fn kitchen() -> (Server, reqwest::Client, Vec<String>) {
    let server = Server::start("serve").await;
    let cook = signed_up(&server).await;
    let piece = keep_belly(&cook, &server).await;
    (server, cook, vec!["/cellar".into(), "/bench?cut=duck-whole&weight=2.4+kg".into(), piece, "/health".into(), "/sign-in".into()])
}

/// Attacks while a cook cooks, and lets the cook go on for a round more after it.
async fn beside<F: Future<Output = ()>>(server: &Server, cook: &reqwest::Client, paths: &[String], mut attack: impl FnMut() -> F) {
    let (stop, so_far) = (Arc::new(AtomicBool::new(false)), Arc::new(AtomicUsize::new(0)));
    let cooking = honest(server, cook, paths, &stop, &so_far);
    // Again and again, until the cook has had her pages twice.
    while so_far.load(Ordering::SeqCst) < 2 * paths.len() && !cooking.is_finished() {
        attack().await;
    }
    stop.store(true, Ordering::SeqCst);
    let answered = cooking.await.unwrap();
    assert!(answered >= 2 * paths.len(), "{answered} pages answered");
    // From the first moment after.
    honest(server, cook, paths, &stop, &so_far).await.unwrap();
}

#[tokio::test(flavor = "multi_thread")]
async fn bodies_that_trickle_take_nobodys_place() {
    let (server, cook, paths) = kitchen().await;
    beside(&server, &cook, &paths, || async {
        // Twelve hundred from four places, each with a body that never comes: one byte, and then nothing.
        let mut open = Vec::new();
        for i in 0..1200u32 {
            let Ok(mut stream) = from_place(&server, 1 + (i % 4) as u8).await else { continue };
            let head = "POST /api/v1/plan HTTP/1.1\r\nhost: kitchen\r\ncontent-type: application/json\r\ncontent-length: 60000\r\n\r\n{";
            if stream.write_all(head.as_bytes()).await.is_ok() {
                open.push(stream);
            }
        }
        assert!(open.len() > 1000, "{} are open", open.len());
        // They go on trickling until all of them were let go: by the deadline, or to make way for the next.
        let mut let_go = 0;
        for mut stream in open {
            let mut answer = Vec::new();
            let ended = tokio::time::timeout(Duration::from_secs(40), stream.read_to_end(&mut answer)).await;
            assert!(ended.is_ok(), "held for longer than any deadline");
            let_go += usize::from(answer.starts_with(b"HTTP/1.1 408") || answer.starts_with(b"HTTP/1.1 429") || answer.is_empty());
        }
        assert!(let_go > 1000, "{let_go} were let go");
    })
    .await;
}

/// Asks for a plan again and again over so many connections from one place, at most so often each, until told to stop; counts the
/// answers while it goes on, and gives how many connections were served to the end.
async fn asks_for_plans(server: &Server, place: u8, many: usize, most: usize, body: &Value, going: &Going) -> usize {
    let mut hands = Vec::new();
    for _ in 0..many {
        let (url, body, going) = (server.url("/api/v1/plan"), body.clone(), going.clone());
        let stranger = reqwest::Client::builder().local_address(std::net::IpAddr::from([127, 0, 1, place])).build().unwrap();
        hands.push(tokio::spawn(async move {
            for _ in 0..most {
                if going.stop.load(Ordering::SeqCst) {
                    break;
                }
                let Ok(answer) = stranger.post(&url).json(&body).send().await else { return false };
                if answer.status() != 200 || answer.bytes().await.is_err() {
                    return false;
                }
                going.answered.fetch_add(1, Ordering::SeqCst);
            }
            true
        }));
    }
    let mut served = 0;
    for hand in hands {
        served += usize::from(hand.await.unwrap());
    }
    served
}

/// How many answers came back so far, and whether it is enough.
#[derive(Clone, Default)]
struct Going {
    answered: Arc<AtomicUsize>,
    stop: Arc<AtomicBool>,
}

fn posted(path: &str, kind: &str, body: &str) -> String {
    format!("POST {path} HTTP/1.1\r\nhost: kitchen\r\ncontent-type: {kind}\r\ncontent-length: {}\r\n\r\n{body}", body.len())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_layer_of_a_micron_costs_nobody_anything() {
    let (server, cook, paths) = kitchen().await;
    // At one moment: plans of two minutes are not the same.
    let body = json!({"now": "2026-12-10T09:00[Europe/Vienna]",
        "piece": {"cut": "beef-rib-roast", "weight_g": 6000, "fat_mm": 5e-7, "length_mm": 300, "salt_thickness_mm": 80}, "hours": 48, "hours_from": "model", "kitchen": {"fridge_h_w_m2k": 40, "fridge_rh": 0.95}});
    // A micron is no layer: the same plan as without.
    let mut without = body.clone();
    without["piece"]["fat_mm"] = 0.into();
    let plan =
        async |body: &Value| -> Value { http().post(server.url("/api/v1/plan")).json(body).send().await.unwrap().json().await.unwrap() };
    let (thin, none) = (plan(&body).await, plan(&without).await);
    assert_eq!((&thin["dose"], &thin["fridge"]), (&none["dose"], &none["fridge"]));
    beside(&server, &cook, &paths, || async {
        let going = Going::default();
        asks_for_plans(&server, 1, 8, 6, &body, &going).await;
        let answered = going.answered.load(Ordering::SeqCst);
        assert!(answered >= 40, "{answered} plans answered");
    })
    .await;
}

#[tokio::test(flavor = "multi_thread")]
async fn no_moment_far_away_is_followed() {
    let (server, cook, paths) = kitchen().await;
    let piece = paths[2].clone();
    assert_eq!(note(&cook, &server, &piece, &[event(&ago(60), json!({"what": "task-ended", "task": "salt"}))]).await.0, 200);
    let at = |at: &str| server.url(&format!("/api/v1{piece}/standing?at={at}"));
    for far in [
        "2050-01-01T00:00:00Z",
        "2199-12-31T00:00:00Z",
        "9000-01-01T00:00:00Z",
        "9999-12-30T22:00:00Z",
        "-009999-01-01T00:00:00Z",
        "1990-01-01T00:00:00Z",
    ] {
        let answer = cook.get(at(far)).send().await.unwrap();
        assert_eq!(answer.status(), 422, "{far}");
        let problem: Value = answer.json().await.unwrap();
        assert_eq!(problem["problems"][0]["field"], "at");
    }
    for (minutes, status) in [(30, 200), (-60 * 24 * 3, 200), (60 * 24, 422)] {
        assert_eq!(cook.get(at(&ago(minutes))).send().await.unwrap().status(), status, "{minutes} minutes ago");
    }
    // A sender whose clock stands in another age is told so, and nothing falls over.
    let mut far =
        json!({"sent_at": "9999-12-01T00:00:00Z", "events": [event("-009999-06-01T00:00:00Z", json!({"what": "felt", "feel": "dry"}))]});
    let events = server.url(&format!("/api/v1{piece}/events"));
    assert_eq!(cook.post(&events).json(&far).send().await.unwrap().status(), 422);
    far["sent_at"] = "2199-12-01T00:00:00Z".into();
    far["events"][0]["at"] = "2000-01-01T00:00:00Z".into();
    assert_eq!(cook.post(&events).json(&far).send().await.unwrap().status(), 422);
    beside(&server, &cook, &paths, || async {
        for _ in 0..40 {
            assert_eq!(cook.get(at("2199-12-31T00:00:00Z")).send().await.unwrap().status(), 422);
        }
    })
    .await;
}

#[tokio::test(flavor = "multi_thread")]
async fn strangers_plans_stand_behind_a_cooks_pages() {
    let (server, cook, _) = kitchen().await;
    // One of the dearer plans a stranger can ask for: many portions, none like another, their hours by the model.
    let portions: Vec<Value> = (0..7).map(|i| json!({"weight_g": 300 + 10 * i, "salt_thickness_mm": 20.0 + 2.3 * f64::from(i)})).collect();
    let body = json!({"piece": {"cut": "duck-breast", "weight_g": 2310, "portions": portions}, "hours_from": "model"});
    // So many plans are answered while a cook waits for a dozen pages beside so many strangers: counted, not timed.
    let meanwhile = async |strangers: usize| {
        let going = Going::default();
        let so_far = || going.answered.load(Ordering::SeqCst);
        let cooking = async {
            eventually("they are at it", || async { (so_far() >= strangers).then_some(()) }).await;
            let before = so_far();
            for page in 0..12 {
                let url = server.url(&format!("/bench?cut=duck-whole&weight={}+g", 2400 + 20 * strangers + page));
                let bench = cook.get(url).timeout(Duration::from_secs(9)).send().await.unwrap();
                assert_eq!(bench.status(), 200);
            }
            going.stop.store(true, Ordering::SeqCst);
            so_far() - before
        };
        let (served, meanwhile) = tokio::join!(asks_for_plans(&server, 1, strangers, 4000, &body, &going), cooking);
        assert_eq!(served, strangers, "no connection of one place was turned away");
        meanwhile
    };
    let (two, many) = (meanwhile(2).await, meanwhile(44).await);
    eprintln!("{two} plans beside two strangers, {many} beside forty-four");
    // Whoever stands in one line with them waits for forty-four instead of two.
    assert!(many <= 5 * two, "{two} beside two strangers and {many} beside forty-four");
}

#[tokio::test(flavor = "multi_thread")]
async fn sign_ins_given_up_by_the_thousand_keep_nobody_out() {
    let server = Server::start("serve").await;
    let guest = http();
    eventually("the schema is there", || async { (http().get(server.url("/health")).send().await.ok()?.status() == 200).then_some(()) })
        .await;
    let address = format!("{}@example.org", uuid::Uuid::now_v7().simple());
    let form =
        json!({"household": "Test kitchen", "name": "Cook", "address": address, "password": "a long enough one", "time_zone": "UTC"});
    eventually("sign-up works", || async {
        (guest.post(server.url("/sign-up")).form(&form).send().await.ok()?.status() == 303).then_some(())
    })
    .await;
    let sign_in = json!({"address": address, "password": "a long enough one"});
    let sent = Arc::new(AtomicUsize::new(0));
    // Twenty places, each sending one sign-in after the other and hanging up at once.
    let attack: Vec<JoinHandle<()>> = (1..=20u8)
        .map(|place| {
            let (sent, base) = (sent.clone(), server.base.clone());
            let request =
                posted("/sign-in", "application/x-www-form-urlencoded", "address=somebody%40example.org&password=lantern+gravel+otter");
            tokio::spawn(async move {
                let to: SocketAddr = base.trim_start_matches("http://").parse().unwrap();
                for _ in 0..400 {
                    let socket = TcpSocket::new_v4().unwrap();
                    socket.bind(SocketAddr::from(([127, 0, 1, place], 0))).unwrap();
                    if let Ok(mut stream) = socket.connect(to).await {
                        sent.fetch_add(usize::from(stream.write_all(request.as_bytes()).await.is_ok()), Ordering::SeqCst);
                    }
                    tokio::task::yield_now().await;
                }
            })
        })
        .collect();
    eventually("thousands were given up", || async { (sent.load(Ordering::SeqCst) >= 4000).then_some(()) }).await;
    // The cook comes in again and again meanwhile, from the browser she is known from.
    for round in 0..6 {
        let answer = guest.post(server.url("/sign-in")).form(&sign_in).timeout(Duration::from_secs(9)).send().await.unwrap();
        assert_eq!(answer.status(), 303, "round {round}");
    }
    for hand in attack {
        hand.await.unwrap();
    }
    assert_eq!(guest.post(server.url("/sign-in")).form(&sign_in).send().await.unwrap().status(), 303, "and right after");
}
