//! A kitchen as an earlier version left it: the made-up one of the demo, dumped with schema 4 and the plans of that day.
//! This and every later schema must open it, go on with it and judge it.

use super::events::{ended, event};
use super::*;
use rauchkeller_core::run::{Change, What};
use rauchkeller_core::units::MassIn;
use sea_orm::{DbBackend, Statement};

/// One statement a line.
const KITCHEN: &str = include_str!("../fixtures/kitchen_of_schema_4.sql");

/// Address of a database filled as it was then, not migrated yet.
pub async fn filled() -> String {
    let url = empty_database().await;
    let database = Database::connect(&url).await.unwrap();
    let one = sea_orm::TransactionTrait::begin(&database).await.unwrap();
    one.execute_unprepared("SET FOREIGN_KEY_CHECKS = 0").await.unwrap();
    for statement in KITCHEN.lines() {
        one.execute_unprepared(statement).await.unwrap();
    }
    one.execute_unprepared("SET FOREIGN_KEY_CHECKS = 1").await.unwrap();
    one.commit().await.unwrap();
    url
}

/// The same, migrated.
pub async fn as_it_was() -> (Store, HouseholdId) {
    let store = Store::connect(&filled().await).await.unwrap();
    store.migrate().await.unwrap();
    let home = store.cook_by_address("crew@boathouse.example").await.unwrap().unwrap().household;
    (store, home)
}

#[tokio::test]
async fn every_row_is_there_and_its_pieces_go_on_and_are_judged() {
    let (store, home) = as_it_was().await;
    let kitchen = store.kitchen(home);
    let cellar = kitchen.in_the_cellar().await.unwrap();
    let eaten = kitchen.book(100, None, "").await.unwrap();
    // As they were kept then: six on their way, four eaten.
    assert_eq!((cellar.len(), eaten.len()), (6, 4));
    let record = |piece: &rauchkeller_store::Piece| piece.record.as_ref().clone();
    let belly = cellar.iter().find(|p| p.name == "Pork belly 2.4 kg").unwrap();
    let of_belly = record(belly);
    assert_eq!((of_belly.weighed.len(), of_belly.felt.len(), of_belly.changes.len()), (3, 1, 1));
    assert!(matches!(of_belly.changes[0].says, Change::On(..) | Change::Off(..)), "a difference stays a difference");
    let ducks = cellar.iter().find(|p| p.name.starts_with("Whole duck 2")).unwrap();
    assert!(record(ducks).tub.and_then(|tub| tub.taken()).is_some_and(|taken| (taken.in_g() - 32.0).abs() < 1e-9));
    let steaks = cellar.iter().find(|p| p.name.starts_with("Beef rib steak 4")).unwrap();
    assert_eq!(record(steaks).bowls.values().filter_map(|b| b.weighed).map(MassIn::in_g).collect::<Vec<_>>(), [4.3]);
    assert_eq!((kitchen.trays().await.unwrap().len(), kitchen.tools().await.unwrap().len()), (1, 1));
    assert_eq!((kitchen.salts().await.unwrap().len(), kitchen.mixes().await.unwrap().len()), (1, 2));
    assert_eq!(kitchen.refrigerator().await.unwrap().air_c, 3.5);
    assert_eq!(kitchen.judged_doses(60).await.unwrap().len(), 4);
    assert!(eaten.iter().all(|p| record(p).tasted.is_some_and(|t| !t.says.advice.is_empty()) && p.finished_at.is_some()));
    // Plans of then keep their words, and say that no numbered rules made them.
    assert!(cellar.iter().chain(&eaten).all(|p| (p.rules, p.plan_version) == (0, 1)));
    // Each has got the document of its method, marked as added, and is read by it.
    let kept: serde_json::Value = serde_json::from_str(&belly.request).unwrap();
    let plan: serde_json::Value = serde_json::from_str(&belly.plan).unwrap();
    assert_eq!((&kept["method_document"]["id"], &kept["method_document_added"]), (&plan["request"]["method"], &true.into()));
    let then = "2026-12-10T09:00[Europe/Vienna]".parse().unwrap();
    let method = rauchkeller_contract::read_kept(&kept, &then).unwrap().method.unwrap();
    assert_eq!(serde_json::json!(method.id), plan["request"]["method"]);
    // It goes on to the table, and is judged.
    let tasted = What::Tasted { bad_patches: Some(1), rim: 1, middle: 0, juice: 1, advice: "more holes".into() };
    let on = [ended("carve", now()), event(now(), tasted)];
    kitchen.append(belly.id, &on, None, None).await.unwrap();
    let judged = kitchen.piece(belly.id).await.unwrap();
    assert!(judged.finished_at.is_some() && record(&judged).tasted.unwrap().says.rim == 1);
    assert_eq!((judged.plan, judged.request), (belly.plan.clone(), belly.request.clone()), "kept verbatim");
}

/// Every tick, bowl, note and verdict of then, counted in the tables they lay in, is there as an event; and a server killed in the
/// middle of it goes on where it stopped.
#[tokio::test]
async fn killed_in_the_middle_it_starts_again_and_nothing_is_there_twice() {
    let whole = as_it_was().await.0;
    let counted = counts(&whole).await;
    assert!(counted.iter().all(|(_, n)| *n > 0), "{counted:?}");
    let url = filled().await;
    let store = Store::connect(&url).await.unwrap();
    // Killed after any of the statements that move what happened: what was done so far is met again.
    let mut left = Vec::new();
    for statements in 0..=40 {
        store.migrate_until_killed(statements).await.unwrap();
        left.push(old_tables(&url).await);
    }
    // It really was killed in the middle: all there at first, fewer and fewer, none at last.
    assert!(left[0] >= 6 && left[40] == 0 && left.iter().any(|n| (1..6).contains(n)), "{left:?}");
    store.migrate().await.unwrap();
    assert_eq!(counts(&store).await, counted);
}

/// How many of the tables of before are still there.
async fn old_tables(url: &str) -> i64 {
    let sql = "SELECT COUNT(*) AS n FROM information_schema.tables WHERE table_schema = DATABASE() \
        AND table_name IN ('steps', 'bowls', 'by_eye', 'weigh_ins', 'touch_checks', 'salt_changes', 'skin_runs', 'verdicts')";
    let database = Database::connect(url).await.unwrap();
    let row = database.query_one_raw(Statement::from_string(DbBackend::MySql, sql)).await.unwrap().unwrap();
    row.try_get("", "n").unwrap()
}

async fn counts(store: &Store) -> Vec<(String, i64)> {
    let home = store.cook_by_address("crew@boathouse.example").await.unwrap().unwrap().household;
    let kitchen = store.kitchen(home);
    let mut pieces = kitchen.in_the_cellar().await.unwrap();
    pieces.extend(kitchen.book(100, None, "").await.unwrap());
    let mut kinds: std::collections::BTreeMap<String, i64> = std::collections::BTreeMap::new();
    for piece in &pieces {
        for event in kitchen.events(piece.id).await.unwrap() {
            *kinds.entry(rauchkeller_contract::event_kind(&event.what).to_owned()).or_default() += 1;
        }
    }
    kinds.into_iter().collect()
}
