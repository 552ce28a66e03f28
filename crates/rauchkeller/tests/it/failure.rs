//! Nothing is lost: the server killed, the database stopped, killed and started again.

use crate::doors::{earlier_database, pieces_on};
use crate::run::{ago, event, note};
use crate::support::{Server, eventually, fresh_database, http, keep_belly, signed_up};
use sea_orm::{ConnectionTrait, Database, DatabaseConnection, DbBackend, Statement, TransactionTrait};
use serde_json::{Value, json};
use std::collections::BTreeMap;
use std::fs;
use std::path::PathBuf;
use std::process::{Child, Command, Stdio};
use uuid::Uuid;

/// A MariaDB of its own that a test may kill.
struct OwnMariaDb {
    home: PathBuf,
    port: u16,
    child: Option<Child>,
}

impl OwnMariaDb {
    fn start() -> Self {
        let home = std::env::temp_dir().join(format!("rk-own-{}", &Uuid::new_v4().simple().to_string()[..8]));
        fs::create_dir_all(&home).unwrap();
        let user = String::from_utf8(Command::new("id").arg("-un").output().unwrap().stdout).unwrap();
        // One that starts clears its temporary directory of what looks like temporary tables: each has its own.
        let installed = Command::new("mariadb-install-db")
            .env("TMPDIR", &home)
            .args([
                "--no-defaults",
                "--auth-root-authentication-method=normal",
                "--skip-test-db",
                &format!("--user={}", user.trim()),
                &format!("--datadir={}/data", home.display()),
            ])
            .output()
            .unwrap();
        assert!(installed.status.success(), "{}", String::from_utf8_lossy(&installed.stderr));
        let init = "CREATE DATABASE IF NOT EXISTS rauchkeller CHARACTER SET utf8mb4;\nCREATE OR REPLACE USER 'rk'@'127.0.0.1' IDENTIFIED BY 'rk';\nGRANT ALL ON rauchkeller.* TO 'rk'@'127.0.0.1';\n";
        fs::write(home.join("init.sql"), init).unwrap();
        let port = std::net::TcpListener::bind("127.0.0.1:0").unwrap().local_addr().unwrap().port();
        let mut own = Self { home, port, child: None };
        own.up(user.trim());
        own
    }

    fn up(&mut self, user: &str) {
        let home = self.home.display().to_string();
        let child = Command::new("mariadbd")
            .env("TMPDIR", &home)
            .args([
                "--no-defaults",
                "--bind-address=127.0.0.1",
                "--skip-name-resolve",
                "--innodb-buffer-pool-size=32M",
                "--performance-schema=OFF",
                "--default-time-zone=+00:00",
            ])
            .args([
                format!("--user={user}"),
                format!("--datadir={home}/data"),
                format!("--port={}", self.port),
                format!("--socket={home}/s"),
                format!("--pid-file={home}/pid"),
                format!("--init-file={home}/init.sql"),
            ])
            .stdout(Stdio::null())
            .stderr(Stdio::null())
            .spawn()
            .unwrap();
        self.child = Some(child);
    }

    async fn listening(&self) {
        eventually("the database listens", || async { tokio::net::TcpStream::connect(("127.0.0.1", self.port)).await.ok().map(|_| ()) })
            .await;
    }

    /// kill -9.
    fn kill(&mut self) {
        if let Some(mut child) = self.child.take() {
            child.kill().unwrap();
            child.wait().unwrap();
        }
    }

    fn url(&self) -> String {
        format!("mysql://rk:rk@127.0.0.1:{}/rauchkeller", self.port)
    }
}

impl Drop for OwnMariaDb {
    fn drop(&mut self) {
        self.kill();
        let _ = fs::remove_dir_all(&self.home);
    }
}

fn me() -> String {
    String::from_utf8(Command::new("id").arg("-un").output().unwrap().stdout).unwrap().trim().to_owned()
}

#[tokio::test(flavor = "multi_thread")]
async fn with_the_database_away_pages_say_so_and_recover_by_themselves() {
    let mut database = OwnMariaDb::start();
    database.listening().await;
    let server = Server::on("serve", &database.url());
    let cook = signed_up(&server).await;
    let piece = keep_belly(&cook, &server).await;
    database.kill();
    for path in ["/cellar", "/bench", "/book", piece.as_str(), "/"] {
        // A pool left at its defaults would keep the visitor waiting past this client's patience.
        let answer = cook.get(server.url(path)).send().await.unwrap();
        assert_eq!(answer.status(), 503, "{path}");
        assert!(answer.text().await.unwrap().contains("database does not answer"), "{path} in words");
    }
    // What needs no database goes on.
    assert_eq!(http().get(server.url("/sign-up")).send().await.unwrap().status(), 200);
    assert_eq!(http().get(server.url("/health")).send().await.unwrap().status(), 503);
    database.up(&me());
    database.listening().await;
    eventually("pages are back, the same session still signed in", || async {
        let answer = cook.get(server.url(&piece)).send().await.ok()?;
        (answer.status() == 200).then_some(())
    })
    .await;
    assert_eq!(cook.get(server.url("/cellar")).send().await.unwrap().status(), 200);
}

/// Step ids of a piece's page, and how many are done.
async fn steps(cook: &reqwest::Client, server: &Server, piece: &str) -> (Vec<String>, usize) {
    let page = cook.get(server.url(piece)).send().await.unwrap().text().await.unwrap();
    let ids = page.split("/steps/").skip(1).filter_map(|rest| rest.split('/').next().map(str::to_owned)).collect::<Vec<_>>();
    let mut unique = ids.clone();
    unique.dedup();
    (unique, page.matches("is-done").count())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_server_killed_in_the_middle_loses_no_tick_that_was_answered() {
    let database = fresh_database().await;
    let mut server = Server::on("serve", &database);
    let cook = signed_up(&server).await;
    let mut kept = Vec::new();
    for _ in 0..4 {
        kept.push(keep_belly(&cook, &server).await);
    }
    // Four pieces are ticked at once; the server is killed as soon as some ticks were answered.
    let answered = std::sync::Arc::new(std::sync::Mutex::new(Vec::<(String, String)>::new()));
    let mut hands = Vec::new();
    for piece in &kept {
        let (ids, _) = steps(&cook, &server, piece).await;
        let (cook, base, piece, answered) = (cook.clone(), server.base.clone(), piece.clone(), answered.clone());
        hands.push(tokio::spawn(async move {
            for id in ids {
                match cook.post(format!("{base}{piece}/steps/{id}/done")).send().await {
                    Ok(answer) if answer.status() == 303 => answered.lock().unwrap().push((piece.clone(), id)),
                    _ => return,
                }
            }
        }));
    }
    eventually("some ticks are answered", || async { (answered.lock().unwrap().len() >= 7).then_some(()) }).await;
    server.kill();
    for hand in hands {
        hand.await.unwrap();
    }
    // Another server on the same database: the same session, every answered tick.
    let again = Server::on("serve", &database);
    let login = cook;
    for piece in &kept {
        let page = eventually("the page is back", || async {
            let answer = login.get(again.url(piece)).send().await.ok()?;
            (answer.status() == 200).then_some(answer.text().await.ok()?)
        })
        .await;
        for (_, id) in answered.lock().unwrap().iter().filter(|(of, _)| of == piece) {
            assert!(page.contains(&format!("/steps/{id}/undone")), "tick of {id} was answered and is lost");
        }
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn a_database_killed_under_the_server_loses_no_tick_that_was_answered() {
    let mut database = OwnMariaDb::start();
    database.listening().await;
    let server = Server::on("serve", &database.url());
    let cook = signed_up(&server).await;
    let piece = keep_belly(&cook, &server).await;
    let (ids, before) = steps(&cook, &server, &piece).await;
    assert_eq!(before, 0);
    for id in &ids[..3] {
        assert_eq!(cook.post(server.url(&format!("{piece}/steps/{id}/done"))).send().await.unwrap().status(), 303);
    }
    database.kill();
    assert_eq!(cook.post(server.url(&format!("{piece}/steps/{}/done", ids[3]))).send().await.unwrap().status(), 503);
    database.up(&me());
    database.listening().await;
    let done = eventually("the server is back without a restart", || async {
        let answer = cook.get(server.url(&piece)).send().await.ok()?;
        (answer.status() == 200).then_some(answer.text().await.ok()?.matches("is-done").count())
    })
    .await;
    assert_eq!(done, 3);
}

/// Notes one event after another at four pieces, until no answer comes; the ids that were answered, by piece.
async fn noting(cook: &reqwest::Client, base: &str, pieces: &[String], enough: usize, stop: impl AsyncFnOnce()) -> Vec<(String, String)> {
    let answered = std::sync::Arc::new(std::sync::Mutex::new(Vec::new()));
    let mut hands = Vec::new();
    for piece in pieces {
        let (cook, url, piece, answered) = (cook.clone(), format!("{base}/api/v1{piece}/events"), piece.clone(), answered.clone());
        hands.push(tokio::spawn(async move {
            for minutes in (1..=200).rev() {
                let feel = if minutes % 2 == 0 { "tacky" } else { "dry" };
                let felt = event(&ago(minutes), json!({"what": "felt", "feel": feel}));
                let id = felt["id"].as_str().unwrap().to_owned();
                match cook.post(&url).json(&json!({"events": [felt]})).send().await {
                    Ok(answer) if answer.status() == 200 => answered.lock().unwrap().push((piece.clone(), id)),
                    _ => return,
                }
            }
        }));
    }
    eventually("some are answered", || async { (answered.lock().unwrap().len() >= enough).then_some(()) }).await;
    stop().await;
    for hand in hands {
        hand.await.unwrap();
    }
    std::sync::Arc::into_inner(answered).unwrap().into_inner().unwrap()
}

/// What is noted of a piece, as it can be taken away.
async fn record(cook: &reqwest::Client, server: &Server, piece: &str) -> Option<Value> {
    let answer = cook.get(server.url(&format!("{piece}/record.json"))).send().await.ok()?;
    if answer.status() == 200 { answer.json().await.ok() } else { None }
}

async fn all_there(cook: &reqwest::Client, server: &Server, pieces: &[String], answered: &[(String, String)]) {
    for piece in pieces {
        let record = eventually("the record is back", || record(cook, server, piece)).await;
        let noted = record["events"].as_array().unwrap();
        for (_, id) in answered.iter().filter(|(of, _)| of == piece) {
            assert_eq!(noted.iter().filter(|e| e["id"] == id.as_str()).count(), 1, "{id} was answered");
        }
        // And it goes on.
        assert_eq!(note(cook, server, piece, &[event(&ago(0), json!({"what": "felt", "feel": "dry"}))]).await.0, 200);
    }
}

/// How often each is killed: once, or as `KILLS` says (`bin/kills` for sixty).
fn kills() -> usize {
    std::env::var("KILLS").ok().and_then(|n| n.parse().ok()).unwrap_or(1)
}

#[tokio::test(flavor = "multi_thread")]
async fn a_server_killed_while_programs_note_loses_no_event_that_was_answered() {
    let database = fresh_database().await;
    let mut server = Server::with("serve", &database, &["--flood-limit", "0"]);
    let cook = signed_up(&server).await;
    let mut kept = Vec::new();
    for _ in 0..4 {
        kept.push(keep_belly(&cook, &server).await);
    }
    let base = server.base.clone();
    let mut all = 0;
    for _ in 0..kills() {
        let answered = noting(&cook, &base, &kept, 40, async || server.kill()).await;
        assert!((40..800).contains(&answered.len()), "{} answered", answered.len());
        server = server.again();
        all_there(&cook, &server, &kept, &answered).await;
        all += answered.len();
    }
    println!("{} kills of the server, {all} notes answered, none lost, none doubled", kills());
}

#[tokio::test(flavor = "multi_thread")]
async fn a_database_killed_while_programs_note_loses_no_event_that_was_answered() {
    let mut database = OwnMariaDb::start();
    database.listening().await;
    let server = Server::with("serve", &database.url(), &["--flood-limit", "0"]);
    let cook = signed_up(&server).await;
    let mut kept = Vec::new();
    for _ in 0..4 {
        kept.push(keep_belly(&cook, &server).await);
    }
    let mut all = 0;
    for _ in 0..kills() {
        let answered = noting(&cook, &server.base, &kept, 40, async || database.kill()).await;
        assert!((40..800).contains(&answered.len()), "{} answered", answered.len());
        database.up(&me());
        database.listening().await;
        all_there(&cook, &server, &kept, &answered).await;
        all += answered.len();
    }
    println!("{} kills of the database, {all} notes answered, none lost, none doubled", kills());
}

/// The records of all pieces of the earlier kitchen, once its server has moved them.
async fn records(server: &Server) -> BTreeMap<String, Value> {
    let cook = http();
    eventually("the kitchen opens", || async { (cook.post(server.url("/demo")).send().await.ok()?.status() == 303).then_some(()) }).await;
    let mut pieces = pieces_on(server, &cook, "/cellar").await;
    pieces.extend(pieces_on(server, &cook, "/book").await);
    let mut all = BTreeMap::new();
    for piece in pieces {
        all.insert(piece.clone(), record(&cook, server, &piece).await.unwrap());
    }
    all
}

/// Whether a connection to this database waits for a table. Asked by SHOW: read as a table, the same list once took the whole
/// server with it while connections came and went.
async fn waits_for_a_lock(database: &DatabaseConnection, name: &str) -> bool {
    let rows = database.query_all_raw(Statement::from_string(DbBackend::MySql, "SHOW FULL PROCESSLIST".to_owned())).await.unwrap();
    rows.iter().any(|row| {
        let text = |column: &str| row.try_get::<Option<String>>("", column).ok().flatten().unwrap_or_default();
        text("db") == name && text("State").starts_with("Waiting for table metadata lock")
    })
}

#[tokio::test(flavor = "multi_thread")]
async fn a_server_killed_while_it_moves_an_earlier_kitchen_goes_on_where_it_stopped() {
    let whole = records(&Server::on("demo", &earlier_database().await)).await;
    let events: usize = whole.values().map(|r| r["events"].as_array().unwrap().len()).sum();
    assert!(whole.len() == 10 && events > 80, "{} pieces, {events} events", whole.len());
    let url = earlier_database().await;
    let database = Database::connect(&url).await.unwrap();
    // Held up at one table after another, and killed there.
    for table in ["bowls", "steps", "weigh_ins", "salt_changes", "verdicts"] {
        let one = database.begin().await.unwrap();
        one.execute_unprepared(&format!("LOCK TABLES {table} WRITE")).await.unwrap();
        let mut server = Server::on("serve", &url);
        let name = url.rsplit('/').next().unwrap();
        eventually(&format!("it waits for {table}"), || async { waits_for_a_lock(&database, name).await.then_some(()) }).await;
        server.kill();
        one.execute_unprepared("UNLOCK TABLES").await.unwrap();
        one.commit().await.unwrap();
    }
    assert_eq!(records(&Server::on("demo", &url)).await, whole);
}
