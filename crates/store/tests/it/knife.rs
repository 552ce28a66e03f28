//! Own tools, stretches of work and planning anew, against a real MariaDB.

use super::{at, belly, fresh, household, now};
use jiff::SignedDuration;
use rauchkeller_store::{Added, Hand, KitTool, NewBowl, NewPiece, Replanned, SkinRun, StoreError, ToolId, Verdict};
use uuid::Uuid;

fn tool(name: &str) -> KitTool {
    KitTool { id: ToolId(Uuid::nil()), name: name.into(), reach_mm: 7.5, stop: "fixed".into(), pins: Some(30) }
}

fn run(amount: f64, picks: Option<i32>) -> SkinRun {
    SkinRun {
        tool_id: "pick".into(),
        amount,
        started_at: now(),
        held_since: None,
        held_s: 0.0,
        back_s: 0.0,
        stopped_at: None,
        picks_out: picks,
        picks_in: None,
    }
}

#[tokio::test]
async fn a_tool_hangs_once_and_only_in_its_own_kit() {
    let store = fresh().await;
    let kitchen = store.kitchen(household(&store, "a@example.org").await);
    let theirs = store.kitchen(household(&store, "b@example.org").await);
    let Added::New(id) = kitchen.add_tool("k1", &tool("pin roller"), now()).await.unwrap() else { panic!("new") };
    assert_eq!(kitchen.add_tool("k1", &tool("pin roller"), now()).await.unwrap(), Added::Before(id));
    assert_eq!(kitchen.add_tool("k2", &tool("Pin Roller"), now()).await.unwrap(), Added::NameTaken);
    assert_eq!(kitchen.tools().await.unwrap(), [KitTool { id, ..tool("pin roller") }]);
    assert!(theirs.tools().await.unwrap().is_empty());
    assert!(matches!(theirs.set_tool_deleted(id, Some(now())).await, Err(StoreError::NotFound)));
    kitchen.set_tool_deleted(id, Some(now())).await.unwrap();
    let Added::New(second) = kitchen.add_tool("k3", &tool("pin roller"), now()).await.unwrap() else { panic!("free again") };
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
    kitchen.begin_run(piece, "pierce", &run(1800.0, Some(5))).await.unwrap();
    // A second start keeps the first.
    kitchen.begin_run(piece, "pierce", &SkinRun { started_at: after(3), ..run(1.0, None) }).await.unwrap();
    assert!(kitchen.paces("pick").await.unwrap().is_empty(), "still running");
    kitchen.move_run(piece, "pierce", Hand::Hold, after(4)).await.unwrap();
    let held = kitchen.skin_run(piece, "pierce").await.unwrap().unwrap();
    assert_eq!((held.held_since, held.worked_s(after(9))), (Some(after(4)), 240.0), "held: the clock of the work stands");
    kitchen.move_run(piece, "pierce", Hand::GoOn, after(9)).await.unwrap();
    kitchen.move_run(piece, "pierce", Hand::Back(30.0), after(10)).await.unwrap();
    // One missing, then three more taps go round: none, and one again.
    for _ in 0..5 {
        kitchen.move_run(piece, "pierce", Hand::Missing, after(16)).await.unwrap();
    }
    kitchen.move_run(piece, "pierce", Hand::Stop, after(17)).await.unwrap();
    let done = kitchen.skin_run(piece, "pierce").await.unwrap().unwrap();
    assert_eq!((done.picks_out, done.picks_in, done.back_s), (Some(5), Some(4), 30.0));
    // By hand: 17 minutes less 5 of pause: 1,800 presses in 12.
    assert_eq!(kitchen.paces("pick").await.unwrap(), [(1800.0, 12.0)]);
    // Not done after all: the minute in between is no work.
    kitchen.move_run(piece, "pierce", Hand::GoOnAgain, after(18)).await.unwrap();
    kitchen.move_run(piece, "pierce", Hand::Stop, after(19)).await.unwrap();
    assert_eq!(kitchen.paces("pick").await.unwrap(), [(1800.0, 13.0)]);
    assert!(theirs.paces("pick").await.unwrap().is_empty());
    assert!(matches!(theirs.move_run(piece, "pierce", Hand::Hold, now()).await, Err(StoreError::NotFound)));
    assert!(matches!(theirs.begin_run(piece, "score", &run(1.0, None)).await, Err(StoreError::NotFound)));
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
        let verdict = Verdict { bad_patches: patches, rim: 0, middle: 0, juice: 0, advice: String::new(), version: 0, given_at: after(i) };
        kitchen.give_verdict(id, verdict).await.unwrap();
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

fn planned(kinds: &[&str], meat_g: f64) -> NewPiece {
    let bowl = |face: &str, target_g| NewBowl { face: face.into(), name: face.into(), target_g };
    NewPiece {
        request: r#"{"skin":{"work":"parallel"}}"#.into(),
        plan: r#"{"schema":1,"new":true}"#.into(),
        serve_at: at("2026-12-12T19:00:00Z"),
        steps: kinds.iter().map(|kind| ((*kind).into(), "bench".into(), now(), now() + SignedDuration::from_mins(9))).collect(),
        bowls: vec![bowl("meat", meat_g), bowl("cut", 7.0)],
        ..belly("p")
    }
}

#[tokio::test]
async fn planning_anew_keeps_ticks_ids_and_weighed_bowls() {
    let store = fresh().await;
    let kitchen = store.kitchen(household(&store, "a@example.org").await);
    let theirs = store.kitchen(household(&store, "b@example.org").await);
    let id = kitchen.keep(planned(&["dry", "pierce", "salt", "carve"], 9.0), now()).await.unwrap().id();
    let before = kitchen.piece(id).await.unwrap();
    kitchen.tick(id, before.steps[0].id, now()).await.unwrap();
    kitchen.weigh_bowl(id, before.bowls[1].id, 7.1, now()).await.unwrap();
    let seen = kitchen.piece(id).await.unwrap().version;
    let new = planned(&["dry", "score", "groove", "salt", "carve"], 8.5);
    assert!(matches!(theirs.replan(id, seen, &new).await, Err(StoreError::NotFound)));
    assert_eq!(kitchen.replan(id, seen - 1, &new).await.unwrap(), Replanned::Changed);
    assert_eq!(kitchen.replan(id, seen, &new).await.unwrap(), Replanned::Done);
    let piece = kitchen.piece(id).await.unwrap();
    assert_eq!(piece.steps.iter().map(|s| s.kind.as_str()).collect::<Vec<_>>(), ["dry", "score", "groove", "salt", "carve"]);
    assert_eq!((piece.steps[0].id, piece.steps[0].done_at), (before.steps[0].id, Some(now())), "the tick stays");
    assert_eq!(piece.steps[3].id, before.steps[2].id, "salt is still the same step");
    assert_eq!((piece.request, piece.plan, piece.version), (new.request.clone(), new.plan.clone(), seen + 1));
    assert_eq!(piece.serve_at, new.serve_at);
    assert_eq!((piece.bowls[0].target_g, piece.bowls[1].target_g), (8.5, 7.0), "what is weighed stays");
    // What is done cannot be planned away, and nothing is half changed.
    let score = piece.steps[1].id;
    kitchen.tick(id, score, now()).await.unwrap();
    let stands = kitchen.piece(id).await.unwrap();
    let away = planned(&["dry", "pierce", "salt", "carve"], 9.0);
    assert_eq!(kitchen.replan(id, stands.version, &away).await.unwrap(), Replanned::DoneAlready);
    assert_eq!(kitchen.piece(id).await.unwrap(), stands);
}
