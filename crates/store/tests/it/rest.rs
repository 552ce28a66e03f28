//! The refrigerator, its trays, and what is noted of a rest, against a real MariaDB.

use super::{belly, fresh, household, now};
use jiff::SignedDuration;
use rauchkeller_store::{Added, NewWeighIn, Noting, PieceId, Refrigerator, RefrigeratorSaved, StoreError, TrayId, WarmNote, WeighInId};
use uuid::Uuid;

fn weighing(gross_g: f64, min: i64) -> NewWeighIn {
    NewWeighIn {
        tray: None,
        tare_g: 640.0,
        gross_g,
        fineness_g: 0.1,
        from_scale: true,
        at: now() + SignedDuration::from_mins(min),
        doubt: None,
    }
}

#[tokio::test]
async fn a_refrigerator_is_the_usual_one_until_somebody_says_otherwise() {
    let store = fresh().await;
    let kitchen = store.kitchen(household(&store, "a@example.org").await);
    let theirs = store.kitchen(household(&store, "b@example.org").await);
    assert_eq!(kitchen.refrigerator().await.unwrap(), Refrigerator::default());
    // What is learned needs no air to be said, and stands when it is.
    kitchen.set_fit(Some((6.6, 0.04)), 3, now()).await.unwrap();
    assert_eq!(kitchen.set_refrigerator(0, 3.5, Some(0.62), false, now()).await.unwrap(), RefrigeratorSaved::Saved);
    let stands = Refrigerator { air_c: 3.5, rh: Some(0.62), fit_h: Some(6.6), fit_spread: Some(0.04), fit_points: 3, version: 1 };
    assert_eq!(kitchen.refrigerator().await.unwrap(), stands);
    // Over somebody else's change nothing is written; the same words again are no quarrel.
    assert_eq!(kitchen.set_refrigerator(0, 5.0, None, true, now()).await.unwrap(), RefrigeratorSaved::Theirs(stands));
    assert_eq!(kitchen.set_refrigerator(0, 3.5, Some(0.62), false, now()).await.unwrap(), RefrigeratorSaved::Saved);
    assert_eq!(kitchen.refrigerator().await.unwrap(), stands);
    kitchen.set_fit(None, 0, now()).await.unwrap();
    assert_eq!(kitchen.refrigerator().await.unwrap().fit_h, None);
    assert_eq!(theirs.refrigerator().await.unwrap(), Refrigerator::default(), "another kitchen’s stays its own");
}

#[tokio::test]
async fn a_tray_hangs_once_and_only_in_its_own_kit() {
    let store = fresh().await;
    let kitchen = store.kitchen(household(&store, "a@example.org").await);
    let theirs = store.kitchen(household(&store, "b@example.org").await);
    let Added::New(id) = kitchen.add_tray("k1", "black tray", 640.0, now()).await.unwrap() else { panic!("new") };
    assert_eq!(kitchen.add_tray("k1", "black tray", 640.0, now()).await.unwrap(), Added::Before(id));
    assert_eq!(kitchen.add_tray("k2", "Black Tray", 700.0, now()).await.unwrap(), Added::NameTaken);
    assert_eq!(kitchen.trays().await.unwrap().len(), 1);
    assert!(theirs.trays().await.unwrap().is_empty());
    assert!(matches!(theirs.set_tray_deleted(id, Some(now())).await, Err(StoreError::NotFound)));
    kitchen.set_tray_deleted(id, Some(now())).await.unwrap();
    assert!(matches!(kitchen.add_tray("k3", "black tray", 650.0, now()).await.unwrap(), Added::New(_)));
    assert!(matches!(kitchen.set_tray_deleted(id, None).await, Err(StoreError::Conflict)));
}

#[tokio::test]
async fn what_is_noted_of_a_rest_comes_back_in_order_and_can_be_taken_back() {
    let store = fresh().await;
    let kitchen = store.kitchen(household(&store, "a@example.org").await);
    let theirs = store.kitchen(household(&store, "b@example.org").await);
    let piece = kitchen.keep(belly("k"), now()).await.unwrap().id();
    let asked = NewWeighIn { doubt: Some(("tray-missing".into(), -640.5)), ..weighing(2200.3, 600) };
    let Noting::New(second) = kitchen.weigh_in(piece, "w2", &asked).await.unwrap() else { panic!("new") };
    let Noting::New(first) = kitchen.weigh_in(piece, "w1", &weighing(3058.1, 10)).await.unwrap() else { panic!("new") };
    assert_eq!(kitchen.weigh_in(piece, "w1", &weighing(1.0, 0)).await.unwrap(), Noting::Before(first), "twice sent is once noted");
    kitchen.touch(piece, "t", "tacky", now()).await.unwrap();
    let Noting::New(change) = kitchen.change_salt(piece, "c", kitchen.piece(piece).await.unwrap().version, -4.25, now()).await.unwrap()
    else {
        panic!("new")
    };
    let rest = kitchen.piece(piece).await.unwrap().rest;
    assert_eq!(rest.weigh_ins.iter().map(|w| w.id).collect::<Vec<_>>(), [first, second], "by their time, not as they came");
    assert_eq!((rest.weigh_ins[0].noted.clone(), rest.weigh_ins[1].noted.clone()), (weighing(3058.1, 10), asked));
    assert!(rest.weigh_ins[1].is_open() && !rest.weigh_ins[0].is_open());
    assert_eq!((rest.touches[0].feel.as_str(), rest.changes[0].by_g), ("tacky", -4.25));
    // Answered, asked again, taken back, put in again.
    kitchen.answer_weigh_in(piece, second, Some("tray-missing")).await.unwrap();
    assert!(!kitchen.piece(piece).await.unwrap().rest.weigh_ins[1].is_open());
    kitchen.answer_weigh_in(piece, second, None).await.unwrap();
    assert!(kitchen.piece(piece).await.unwrap().rest.weigh_ins[1].is_open());
    kitchen.set_weigh_in_deleted(piece, second, Some(now())).await.unwrap();
    kitchen.set_salt_change_deleted(piece, change, Some(now())).await.unwrap();
    let rest = kitchen.piece(piece).await.unwrap().rest;
    assert_eq!((rest.weigh_ins.len(), rest.changes.len()), (1, 0));
    kitchen.set_weigh_in_deleted(piece, second, None).await.unwrap();
    assert_eq!(kitchen.piece(piece).await.unwrap().rest.weigh_ins.len(), 2);
    assert_eq!(kitchen.weighed_pieces().await.unwrap().iter().map(|p| p.id).collect::<Vec<_>>(), [piece]);
    // Nobody else weighs, answers or takes back.
    assert!(matches!(theirs.weigh_in(piece, "x", &weighing(1.0, 1)).await, Err(StoreError::NotFound)));
    assert!(matches!(theirs.touch(piece, "x", "wet", now()).await, Err(StoreError::NotFound)));
    assert!(matches!(theirs.change_salt(piece, "x", 1, 1.0, now()).await, Err(StoreError::NotFound)));
    assert!(matches!(theirs.answer_weigh_in(piece, first, Some("right")).await, Err(StoreError::NotFound)));
    assert!(matches!(theirs.set_weigh_in_deleted(piece, first, Some(now())).await, Err(StoreError::NotFound)));
    assert!(theirs.weighed_pieces().await.unwrap().is_empty());
    // Nor is there anything to note about a piece that is not here.
    let nowhere = PieceId(Uuid::now_v7());
    assert!(matches!(kitchen.weigh_in(nowhere, "y", &weighing(1.0, 1)).await, Err(StoreError::NotFound)));
    assert!(matches!(kitchen.answer_weigh_in(piece, WeighInId(Uuid::now_v7()), None).await, Err(StoreError::NotFound)));
}

#[tokio::test]
async fn a_weighing_remembers_what_its_tray_weighed_then() {
    let store = fresh().await;
    let kitchen = store.kitchen(household(&store, "a@example.org").await);
    let piece = kitchen.keep(belly("k"), now()).await.unwrap().id();
    let Added::New(tray) = kitchen.add_tray("k1", "black tray", 640.0, now()).await.unwrap() else { panic!("new") };
    kitchen.weigh_in(piece, "w", &NewWeighIn { tray: Some(tray), ..weighing(3000.0, 1) }).await.unwrap();
    kitchen.set_tray_deleted(tray, Some(now())).await.unwrap();
    let noted = kitchen.piece(piece).await.unwrap().rest.weigh_ins[0].noted.clone();
    assert_eq!((noted.tray, noted.tare_g), (Some(TrayId(tray.0)), 640.0));
}

#[tokio::test]
async fn a_warm_refrigerator_is_noted_until_it_is_cold_again() {
    let store = fresh().await;
    let home = household(&store, "a@example.org").await;
    let (kitchen, theirs) = (store.kitchen(home), store.kitchen(household(&store, "b@example.org").await));
    let piece = kitchen.keep(belly("one"), now()).await.unwrap().id();
    let hour = |h: i64| now() + SignedDuration::from_hours(h);
    kitchen.set_refrigerator(0, 14.0, None, true, hour(1)).await.unwrap();
    let stands = kitchen.warm_spells().await.unwrap();
    assert_eq!((stands.len(), stands[0].from, stands[0].to, stands[0].air_c), (1, None, None, Some(14.0)));
    // Read once more it is the same while; since when is said of it; another kitchen reaches neither.
    kitchen.set_refrigerator(1, 9.0, None, true, hour(2)).await.unwrap();
    kitchen.warm_since(stands[0].id, hour(0)).await.unwrap();
    assert!(matches!(theirs.warm_since(stands[0].id, hour(0)).await, Err(StoreError::NotFound)));
    assert!(matches!(theirs.set_warm_deleted(stands[0].id, Some(hour(2))).await, Err(StoreError::NotFound)));
    kitchen.set_refrigerator(2, 4.0, None, false, hour(3)).await.unwrap();
    let closed = kitchen.warm_spells().await.unwrap();
    assert_eq!((closed.len(), closed[0].from, closed[0].to, closed[0].air_c), (1, Some(hour(0)), Some(hour(3)), Some(9.0)));
    // One piece stood out for an hour: noted once, however often it is sent, and only with that piece.
    let note = WarmNote { piece: Some(piece), from: Some(hour(4)), to: Some(hour(5)), air_c: None, ..closed[0] };
    let Noting::New(id) = kitchen.note_warm("a key", note, hour(5)).await.unwrap() else { panic!("noted") };
    assert_eq!(kitchen.note_warm("a key", note, hour(5)).await.unwrap(), Noting::Before(id));
    assert!(matches!(theirs.note_warm("their key", note, hour(5)).await, Err(StoreError::NotFound)));
    let other = kitchen.keep(belly("two"), now()).await.unwrap().id();
    assert_eq!(kitchen.piece(piece).await.unwrap().rest.warm.len(), 2);
    assert_eq!(kitchen.piece(other).await.unwrap().rest.warm.len(), 1);
    kitchen.set_warm_deleted(id, Some(hour(6))).await.unwrap();
    assert_eq!(kitchen.piece(piece).await.unwrap().rest.warm.len(), 1);
    kitchen.set_warm_deleted(id, None).await.unwrap();
    assert_eq!(kitchen.piece(piece).await.unwrap().rest.warm.len(), 2);
}
