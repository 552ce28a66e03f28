//! The refrigerator and its trays, against a real MariaDB.

use super::{belly, fresh, household, now};
use jiff::SignedDuration;
use rauchkeller_core::fire::HeatSource;
use rauchkeller_core::units::celsius;
use rauchkeller_store::{Added, Noting, Refrigerator, RefrigeratorSaved, StoreError, WarmNote};

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
    assert_eq!(kitchen.set_refrigerator(0, 5.0, None, true, now()).await.unwrap(), RefrigeratorSaved::Conflict(stands));
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
    let Added::Created(id) = kitchen.add_tray("k1", "black tray", 640.0, now()).await.unwrap() else { panic!("new") };
    assert_eq!(kitchen.add_tray("k1", "black tray", 640.0, now()).await.unwrap(), Added::AlreadyExists(id));
    assert_eq!(kitchen.add_tray("k2", "Black Tray", 700.0, now()).await.unwrap(), Added::NameTaken);
    assert_eq!(kitchen.trays().await.unwrap().len(), 1);
    assert!(theirs.trays().await.unwrap().is_empty());
    assert!(matches!(theirs.set_tray_deleted(id, Some(now())).await, Err(StoreError::NotFound)));
    kitchen.set_tray_deleted(id, Some(now())).await.unwrap();
    assert!(matches!(kitchen.add_tray("k3", "black tray", 650.0, now()).await.unwrap(), Added::Created(_)));
    assert!(matches!(kitchen.set_tray_deleted(id, None).await, Err(StoreError::Conflict)));
}

#[tokio::test]
async fn a_slip_of_the_thermometer_is_taken_back_and_a_warm_hour_is_not() {
    let store = fresh().await;
    let kitchen = store.kitchen(household(&store, "a@example.org").await);
    let minute = |m: i64| now() + SignedDuration::from_mins(m);
    kitchen.set_refrigerator(0, 14.0, None, true, minute(0)).await.unwrap();
    kitchen.set_refrigerator(1, 4.0, None, false, minute(9)).await.unwrap();
    assert_eq!(kitchen.warm_spells().await.unwrap(), [], "nine minutes later it was read anew");
    kitchen.set_refrigerator(2, 9.0, None, true, minute(20)).await.unwrap();
    kitchen.set_refrigerator(3, 4.0, None, false, minute(31)).await.unwrap();
    assert_eq!(kitchen.warm_spells().await.unwrap().len(), 1, "eleven minutes are none");
    // Who has said since when has meant it.
    kitchen.set_refrigerator(4, 9.0, None, true, minute(40)).await.unwrap();
    let standing = kitchen.warm_spells().await.unwrap().into_iter().find(|note| note.to.is_none()).unwrap();
    kitchen.warm_since(standing.id, minute(35)).await.unwrap();
    kitchen.set_refrigerator(5, 4.0, None, false, minute(42)).await.unwrap();
    assert_eq!(kitchen.warm_spells().await.unwrap().len(), 2);
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
    let Noting::Created(id) = kitchen.note_warm("a key", note, hour(5)).await.unwrap() else { panic!("noted") };
    assert_eq!(kitchen.note_warm("a key", note, hour(5)).await.unwrap(), Noting::AlreadyExists(id));
    assert!(matches!(theirs.note_warm("their key", note, hour(5)).await, Err(StoreError::NotFound)));
    let other = kitchen.keep(belly("two"), now()).await.unwrap().id();
    assert_eq!(kitchen.piece(piece).await.unwrap().warm.len(), 2);
    assert_eq!(kitchen.piece(other).await.unwrap().warm.len(), 1);
    kitchen.set_warm_deleted(id, Some(hour(6))).await.unwrap();
    assert_eq!(kitchen.piece(piece).await.unwrap().warm.len(), 1);
    kitchen.set_warm_deleted(id, None).await.unwrap();
    assert_eq!(kitchen.piece(piece).await.unwrap().warm.len(), 2);
}

#[tokio::test]
async fn appliances_are_their_households_own_and_as_usual_until_somebody_says() {
    let store = fresh().await;
    let kitchen = store.kitchen(household(&store, "a@example.org").await);
    let theirs = store.kitchen(household(&store, "b@example.org").await);
    assert!(kitchen.appliances().await.unwrap().is_empty());
    kitchen.set_appliance(HeatSource::Oven, Some(celsius(220.0)), now()).await.unwrap();
    kitchen.set_appliance(HeatSource::Oven, Some(celsius(230.0)), now()).await.unwrap();
    kitchen.set_appliance(HeatSource::Smoker, Some(celsius(140.0)), now()).await.unwrap();
    let all = kitchen.appliances().await.unwrap();
    assert_eq!(all, [(HeatSource::Oven, celsius(230.0)), (HeatSource::Smoker, celsius(140.0))]);
    assert!(theirs.appliances().await.unwrap().is_empty(), "another kitchen’s stays its own");
    theirs.set_appliance(HeatSource::Oven, None, now()).await.unwrap();
    kitchen.set_appliance(HeatSource::Smoker, None, now()).await.unwrap();
    assert_eq!(kitchen.appliances().await.unwrap().len(), 1, "as usual again, and theirs took nothing from here");
}
