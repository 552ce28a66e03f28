//! The store against a real MariaDB: `bin/test` starts one and names it in `TEST_DATABASE_URL`.

use jiff::{SignedDuration, Timestamp};
use rauchkeller_store::{HouseholdId, Kept, NewPiece, PieceId, SessionRow, SignUp, Store, StoreError, Verdict, VerdictSaved};
use sea_orm::{ConnectionTrait, Database};
use uuid::Uuid;

mod brake;
mod earlier_schema;
mod knife;
mod rest;
mod salt;

/// A database of its own for one test.
async fn fresh() -> Store {
    let store = Store::connect(&empty_database().await).await.unwrap();
    store.migrate().await.unwrap();
    store
}

/// Address of a database with nothing in it.
async fn empty_database() -> String {
    let server = std::env::var("TEST_DATABASE_URL").expect("run through bin/test, which starts MariaDB and sets TEST_DATABASE_URL");
    let name = format!("rauchkeller_test_{}", Uuid::now_v7().simple());
    let admin = Database::connect(&server).await.unwrap();
    admin.execute_unprepared(&format!("CREATE DATABASE {name} CHARACTER SET utf8mb4")).await.unwrap();
    format!("{server}/{name}")
}

fn at(text: &str) -> Timestamp {
    text.parse().unwrap()
}

fn now() -> Timestamp {
    at("2026-12-10T08:00:00.123456Z")
}

async fn household(store: &Store, address: &str) -> HouseholdId {
    let sign_up = SignUp {
        household: "Boathouse kitchen".into(),
        time_zone: "Europe/Vienna".into(),
        name: "Cook".into(),
        address: address.into(),
        password_hash: "$argon2id$x".into(),
    };
    store.sign_up(sign_up, now()).await.unwrap().household
}

fn belly(key: &str) -> NewPiece {
    NewPiece {
        form_key: key.into(),
        name: "Belly 2.4 kg".into(),
        cut: "pork-belly".into(),
        schema_no: 1,
        request: r#"{"piece":  {"cut":"pork-belly"}}"#.into(),
        plan: r#"{"schema":1,"note":"½ · °C · 🐖"}"#.into(),
        serve_at: at("2026-12-12T18:00:00Z"),
        bowls: vec![],
        steps: ["dry", "salt", "carve"].map(|kind| (kind.into(), "bench".into(), now(), now() + SignedDuration::from_mins(5))).to_vec(),
    }
}

#[tokio::test]
async fn a_kept_piece_comes_back_verbatim() {
    let store = fresh().await;
    let home = household(&store, "a@example.org").await;
    let kitchen = store.kitchen(home);
    let id = kitchen.keep(belly("k1"), now()).await.unwrap().id();
    let piece = kitchen.piece(id).await.unwrap();
    assert_eq!((piece.request.as_str(), piece.plan.as_str()), (belly("").request.as_str(), belly("").plan.as_str()));
    assert_eq!(piece.created_at, now());
    assert_eq!(piece.steps.iter().map(|s| s.kind.as_str()).collect::<Vec<_>>(), ["dry", "salt", "carve"]);
}

#[tokio::test]
async fn the_same_form_keeps_one_piece_even_at_once() {
    let store = fresh().await;
    let home = household(&store, "a@example.org").await;
    let tasks: Vec<_> = (0..8)
        .map(|_| {
            let store = store.clone();
            tokio::spawn(async move { store.kitchen(home).keep(belly("same"), now()).await.unwrap() })
        })
        .collect();
    let mut new = 0;
    let mut ids = Vec::new();
    for task in tasks {
        let kept = task.await.unwrap();
        new += usize::from(matches!(kept, Kept::New(_)));
        ids.push(kept.id());
    }
    ids.dedup();
    assert_eq!((new, ids.len()), (1, 1));
    assert_eq!(store.kitchen(home).in_the_cellar().await.unwrap().len(), 1);
}

#[tokio::test]
async fn nobody_sees_into_another_household() {
    let store = fresh().await;
    let (ours, theirs) = (household(&store, "a@example.org").await, household(&store, "b@example.org").await);
    let id = store.kitchen(ours).keep(belly("k"), now()).await.unwrap().id();
    let step = store.kitchen(ours).piece(id).await.unwrap().steps[0].id;
    let other = store.kitchen(theirs);
    assert!(matches!(other.piece(id).await, Err(StoreError::NotFound)));
    assert!(matches!(other.tick(id, step, now()).await, Err(StoreError::NotFound)));
    assert!(matches!(other.set_deleted(id, Some(now())).await, Err(StoreError::NotFound)));
    assert!(matches!(other.give_verdict(id, verdict(0, 1)).await, Err(StoreError::NotFound)));
    assert!(other.in_the_cellar().await.unwrap().is_empty() && other.book(10, None, "").await.unwrap().is_empty());
    assert!(store.kitchen(ours).piece(id).await.unwrap().steps[0].done_at.is_none());
}

#[tokio::test]
async fn ticks_keep_their_first_moment_and_can_be_taken_back() {
    let store = fresh().await;
    let home = household(&store, "a@example.org").await;
    let kitchen = store.kitchen(home);
    let id = kitchen.keep(belly("k"), now()).await.unwrap().id();
    let steps = kitchen.piece(id).await.unwrap().steps;
    let later = now() + SignedDuration::from_mins(3);
    kitchen.tick(id, steps[0].id, now()).await.unwrap();
    kitchen.tick(id, steps[0].id, later).await.unwrap();
    let piece = kitchen.piece(id).await.unwrap();
    assert_eq!((piece.steps[0].done_at, piece.version), (Some(now()), 2));
    kitchen.untick(id, steps[0].id).await.unwrap();
    assert_eq!(kitchen.piece(id).await.unwrap().steps[0].done_at, None);
    // The last step finishes the piece, and taking it back opens it again.
    kitchen.tick(id, steps[2].id, later).await.unwrap();
    assert_eq!(kitchen.book(10, None, "").await.unwrap()[0].finished_at, Some(later));
    kitchen.untick(id, steps[2].id).await.unwrap();
    assert_eq!((kitchen.book(10, None, "").await.unwrap().len(), kitchen.in_the_cellar().await.unwrap().len()), (0, 1));
}

#[tokio::test]
async fn many_hands_ticking_at_once_lose_nothing() {
    let store = fresh().await;
    let home = household(&store, "a@example.org").await;
    let mut new = belly("k");
    new.steps = (0..12).map(|i| (format!("s{i}"), "bench".into(), now(), now())).collect();
    let id = store.kitchen(home).keep(new, now()).await.unwrap().id();
    let steps = store.kitchen(home).piece(id).await.unwrap().steps;
    let tasks: Vec<_> = steps
        .iter()
        .map(|s| s.id)
        .map(|step| {
            let store = store.clone();
            tokio::spawn(async move { store.kitchen(home).tick(id, step, now()).await })
        })
        .collect();
    for task in tasks {
        task.await.unwrap().unwrap();
    }
    let piece = store.kitchen(home).piece(id).await.unwrap();
    assert!(piece.steps.iter().all(|s| s.done_at.is_some()));
    assert_eq!(piece.version, 13);
}

fn verdict(version: i32, rim: i32) -> Verdict {
    Verdict { bad_patches: Some(0b1_0000_0001), rim, middle: 0, juice: 1, advice: "more holes".into(), version, given_at: now() }
}

#[tokio::test]
async fn an_edit_over_somebody_elses_is_refused_and_shows_theirs() {
    let store = fresh().await;
    let home = household(&store, "a@example.org").await;
    let kitchen = store.kitchen(home);
    let id = kitchen.keep(belly("k"), now()).await.unwrap().id();
    assert_eq!(kitchen.give_verdict(id, verdict(0, 1)).await.unwrap(), VerdictSaved::Saved);
    // The same form sent again changes nothing and is no conflict.
    assert_eq!(kitchen.give_verdict(id, verdict(0, 1)).await.unwrap(), VerdictSaved::Saved);
    assert_eq!(kitchen.piece(id).await.unwrap().verdict.unwrap().version, 1);
    let VerdictSaved::Theirs(theirs) = kitchen.give_verdict(id, verdict(0, -2)).await.unwrap() else { panic!("overwritten") };
    assert_eq!(theirs.rim, 1);
    assert_eq!(kitchen.give_verdict(id, verdict(1, -2)).await.unwrap(), VerdictSaved::Saved);
    let kept = kitchen.piece(id).await.unwrap().verdict.unwrap();
    assert_eq!((kept.rim, kept.version, kept.bad_patches), (-2, 2, Some(0b1_0000_0001)));
}

#[tokio::test]
async fn taking_out_can_be_undone() {
    let store = fresh().await;
    let home = household(&store, "a@example.org").await;
    let kitchen = store.kitchen(home);
    let id = kitchen.keep(belly("k"), now()).await.unwrap().id();
    kitchen.set_deleted(id, Some(now())).await.unwrap();
    assert!(kitchen.in_the_cellar().await.unwrap().is_empty());
    kitchen.set_deleted(id, None).await.unwrap();
    assert_eq!(kitchen.in_the_cellar().await.unwrap().len(), 1);
    assert!(matches!(kitchen.set_deleted(PieceId(Uuid::now_v7()), None).await, Err(StoreError::NotFound)));
}

#[tokio::test]
async fn sessions_end() {
    let store = fresh().await;
    let session = |hash: &str, hours| SessionRow {
        token_hash: hash.repeat(64),
        data: "{}".into(),
        expires_at: now() + SignedDuration::from_hours(hours),
    };
    assert!(store.create_session(session("a", 1)).await.unwrap());
    assert!(!store.create_session(session("a", 1)).await.unwrap(), "a token is given once");
    store.save_session(session("a", 3)).await.unwrap();
    let in_two_hours = now() + SignedDuration::from_hours(2);
    assert!(store.load_session(&"a".repeat(64), in_two_hours).await.unwrap().is_some());
    assert!(store.load_session(&"a".repeat(64), now() + SignedDuration::from_hours(4)).await.unwrap().is_none());
    assert_eq!(store.drop_ended_sessions(now() + SignedDuration::from_hours(4)).await.unwrap(), 1);
}

#[tokio::test]
async fn migrations_may_be_started_by_several_servers_at_once() {
    let store = fresh().await;
    let all: Vec<_> = (0..4)
        .map(|_| {
            let store = store.clone();
            tokio::spawn(async move { store.migrate().await })
        })
        .collect();
    for one in all {
        one.await.unwrap().unwrap();
    }
    store.ping().await.unwrap();
}

#[tokio::test]
async fn a_database_that_is_away_is_said_to_be_away() {
    // Port 1 on loopback: nobody listens.
    let store = Store::connect("mysql://nobody:x@127.0.0.1:1/none").await.unwrap();
    assert!(matches!(store.ping().await, Err(StoreError::Away(_))));
    assert!(matches!(store.kitchen(HouseholdId(Uuid::nil())).in_the_cellar().await, Err(StoreError::Away(_))));
}
