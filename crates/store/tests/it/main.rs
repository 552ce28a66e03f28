//! The store against a real MariaDB: `bin/test` starts one and names it in `TEST_DATABASE_URL`.

use jiff::{SignedDuration, Timestamp};
use rauchkeller_store::{HouseholdId, Kept, NewPiece, NewPlan, PieceId, SessionRow, SignUp, Store, StoreError};
use sea_orm::{ConnectionTrait, Database};
use uuid::Uuid;

mod brake;
mod chill;
mod earlier_schema;
mod events;
mod knife;
mod salt;
mod ways;

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

/// Runs a statement that no repository has, as damage or an administrator would.
async fn raw(url: &str, sql: &str) {
    Database::connect(url).await.unwrap().execute_unprepared(sql).await.unwrap();
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

fn plan_of(tasks: &[&str]) -> NewPlan {
    let steps: Vec<String> = tasks.iter().map(|task| format!(r#"{{"id":"{task}","kind":"{task}"}}"#)).collect();
    NewPlan {
        schema_no: 2,
        rules: 1,
        request: r#"{"piece":  {"cut":"pork-belly"}}"#.into(),
        plan: format!(r#"{{"schema":2,"note":"½ · °C · 🐖","steps":[{}]}}"#, steps.join(",")),
        serve_at: at("2026-12-12T18:00:00Z"),
        last_task: tasks.last().map(|task| (*task).to_owned()).unwrap_or_default(),
    }
}

fn belly(key: &str) -> NewPiece {
    let plan = plan_of(&["dry", "salt", "carve"]);
    NewPiece { form_key: key.into(), name: "Belly 2.4 kg".into(), cut: "pork-belly".into(), plan, events: vec![] }
}

#[tokio::test]
async fn a_kept_piece_comes_back_verbatim() {
    let store = fresh().await;
    let home = household(&store, "a@example.org").await;
    let kitchen = store.kitchen(home);
    let id = kitchen.keep(belly("k1"), now()).await.unwrap().id();
    let piece = kitchen.piece(id).await.unwrap();
    assert_eq!((piece.request.as_str(), piece.plan.as_str()), (belly("").plan.request.as_str(), belly("").plan.plan.as_str()));
    assert_eq!((piece.created_at, piece.plan_version, piece.rules), (now(), 1, 1));
    let versions = kitchen.plan_versions(id).await.unwrap();
    assert_eq!((versions.len(), versions[0].plan.as_str()), (1, piece.plan.as_str()));
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
    let other = store.kitchen(theirs);
    assert!(matches!(other.piece(id).await, Err(StoreError::NotFound)));
    assert!(matches!(other.append(id, &[events::ended("dry", now())], None, None).await, Err(StoreError::NotFound)));
    assert!(matches!(other.set_deleted(id, Some(now())).await, Err(StoreError::NotFound)));
    assert!(other.plan_versions(id).await.unwrap().is_empty());
    assert!(other.in_the_cellar().await.unwrap().is_empty() && other.book(10, None, "").await.unwrap().is_empty());
    assert!(store.kitchen(ours).piece(id).await.unwrap().events == 0);
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
    // A database of an earlier version, and four servers that find it at the same moment.
    let url = earlier_schema::filled().await;
    let all: Vec<_> = (0..4)
        .map(|_| {
            let url = url.clone();
            tokio::spawn(async move { Store::connect(&url).await.unwrap().migrate().await })
        })
        .collect();
    for one in all {
        one.await.unwrap().unwrap();
    }
    let store = Store::connect(&url).await.unwrap();
    let home = store.cook_by_address("crew@boathouse.example").await.unwrap().unwrap().household;
    assert_eq!(store.kitchen(home).in_the_cellar().await.unwrap().len(), 6, "migrated once");
}

#[tokio::test]
async fn a_database_that_is_away_is_said_to_be_away() {
    // Port 1 on loopback: nobody listens.
    let store = Store::connect("mysql://nobody:x@127.0.0.1:1/none").await.unwrap();
    assert!(matches!(store.ping().await, Err(StoreError::Away(_))));
    assert!(matches!(store.kitchen(HouseholdId(Uuid::nil())).in_the_cellar().await, Err(StoreError::Away(_))));
}
