//! Own tools and how fast hands are with them, against a real MariaDB.

use super::events::event;
use super::{belly, fresh, household, now};
use jiff::{SignedDuration, Timestamp};
use rauchkeller_core::run::{Event, KnifeHand, What};
use rauchkeller_core::units::minutes;
use rauchkeller_store::{Added, KitTool, NewPiece, StoreError, ToolId};
use uuid::Uuid;

fn tool(name: &str) -> KitTool {
    KitTool { id: ToolId(Uuid::nil()), name: name.into(), reach_mm: 7.5, stop: "fixed".into(), pins: Some(30) }
}

fn hand(at: Timestamp, hand: KnifeHand) -> Event {
    event(at, What::KnifeRun { task: "pierce".into(), hand })
}

#[tokio::test]
async fn a_tool_hangs_once_and_only_in_its_own_kit() {
    let store = fresh().await;
    let kitchen = store.kitchen(household(&store, "a@example.org").await);
    let theirs = store.kitchen(household(&store, "b@example.org").await);
    let Added::Created(id) = kitchen.add_tool("k1", &tool("pin roller"), now()).await.unwrap() else { panic!("new") };
    assert_eq!(kitchen.add_tool("k1", &tool("pin roller"), now()).await.unwrap(), Added::AlreadyExists(id));
    assert_eq!(kitchen.add_tool("k2", &tool("Pin Roller"), now()).await.unwrap(), Added::NameTaken);
    assert_eq!(kitchen.tools().await.unwrap(), [KitTool { id, ..tool("pin roller") }]);
    assert!(theirs.tools().await.unwrap().is_empty());
    assert!(matches!(theirs.set_tool_deleted(id, Some(now())).await, Err(StoreError::NotFound)));
    kitchen.set_tool_deleted(id, Some(now())).await.unwrap();
    let Added::Created(second) = kitchen.add_tool("k3", &tool("pin roller"), now()).await.unwrap() else { panic!("free again") };
    assert!(matches!(kitchen.set_tool_deleted(id, None).await, Err(StoreError::Conflict)));
    assert_ne!(second, id);
}

#[tokio::test]
async fn a_pace_is_learned_from_start_and_stop_without_the_pauses() {
    let store = fresh().await;
    let kitchen = store.kitchen(household(&store, "a@example.org").await);
    let theirs = store.kitchen(household(&store, "b@example.org").await);
    let piece = kitchen.keep(belly("k"), now()).await.unwrap().id();
    let after = |min: i64| now() + SignedDuration::from_mins(min);
    let begin = KnifeHand::Begin { tool: "pick".into(), amount: 1800.0, picks: Some(5) };
    kitchen.append(piece, &[hand(now(), begin)], None, None).await.unwrap();
    assert!(kitchen.paces("pick").await.unwrap().is_empty(), "still running");
    let back = KnifeHand::Back(minutes(0.5));
    let moves = [(4, KnifeHand::Hold), (9, KnifeHand::GoOn), (10, back), (17, KnifeHand::Stop)];
    kitchen.append(piece, &moves.map(|(min, of)| hand(after(min), of)), None, None).await.unwrap();
    // By hand: 17 minutes less 5 of pause: 1,800 presses in 12.
    assert_eq!(kitchen.paces("pick").await.unwrap(), [(1800.0, 12.0)]);
    // Not done after all: the minute in between is no work.
    let again = [(18, KnifeHand::GoOnAgain), (19, KnifeHand::Stop)];
    kitchen.append(piece, &again.map(|(min, of)| hand(after(min), of)), None, None).await.unwrap();
    assert_eq!(kitchen.paces("pick").await.unwrap(), [(1800.0, 13.0)]);
    assert!(kitchen.paces("brush").await.unwrap().is_empty() && theirs.paces("pick").await.unwrap().is_empty());
}

#[tokio::test]
async fn the_last_verdict_on_a_skin_of_that_cut_is_found() {
    let store = fresh().await;
    let kitchen = store.kitchen(household(&store, "a@example.org").await);
    let theirs = store.kitchen(household(&store, "b@example.org").await);
    let after = |h: i64| now() + SignedDuration::from_hours(h);
    let mut ids = Vec::new();
    for (i, patches) in [(1, Some(0b100)), (2, Some(0b11)), (3, None)] {
        let id = kitchen.keep(NewPiece { name: format!("belly {i}"), ..belly(&format!("k{i}")) }, now()).await.unwrap().id();
        let tasted = What::Tasted { bad_patches: patches, rim: 0, middle: 0, juice: 0, advice: String::new() };
        kitchen.append(id, &[event(after(i), tasted)], None, None).await.unwrap();
        ids.push(id);
    }
    let fresh_one = kitchen.keep(belly("k9"), now()).await.unwrap().id();
    assert_eq!(
        kitchen.last_patches("pork-belly", fresh_one).await.unwrap(),
        Some(("belly 2".into(), 0b11)),
        "the newest that says something"
    );
    assert_eq!(kitchen.last_patches("pork-belly", ids[1]).await.unwrap(), Some(("belly 1".into(), 0b100)), "not itself");
    assert_eq!(kitchen.last_patches("duck-whole", fresh_one).await.unwrap(), None);
    assert_eq!(theirs.last_patches("pork-belly", fresh_one).await.unwrap(), None);
}
