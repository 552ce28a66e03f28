//! Own ways against a real MariaDB: versions, two cooks at once, names, other households.

use super::{fresh, household, now};
use rauchkeller_store::{Added, CookId, KitWay, Kitchen, NewWay, Store, StoreError, WayId, WayKept};

const FIRST: NewWay<'static> = NewWay { name: "Sunday belly", way: "own-sunday-belly", document: "{\"id\":\"own-sunday-belly\"}" };

async fn cook(store: &Store, address: &str) -> CookId {
    store.cook_by_address(address).await.unwrap().unwrap().id
}

async fn hung(kitchen: &Kitchen<'_>, cook: CookId) -> WayId {
    let Added::Created(id) = kitchen.add_way("k1", FIRST, cook, now()).await.unwrap() else { panic!("new") };
    id
}

#[tokio::test]
async fn a_way_is_kept_over_the_version_that_was_seen_and_over_no_other() {
    let store = fresh().await;
    let kitchen = store.kitchen(household(&store, "a@example.org").await);
    let cook = cook(&store, "a@example.org").await;
    let id = hung(&kitchen, cook).await;
    assert_eq!(kitchen.add_way("k1", FIRST, cook, now()).await.unwrap(), Added::AlreadyExists(id), "the same form");
    let first = KitWay { id, name: FIRST.name.into(), way: FIRST.way.into(), version: 1, document: FIRST.document.into() };
    assert_eq!(kitchen.ways().await.unwrap(), [first]);
    // Two cooks keep over the same version: one of them is second, and changes nothing.
    let [a, b] = ["{\"a\":1}", "{\"b\":1}"].map(|document| NewWay { document, ..FIRST });
    let (one, two) = tokio::join!(kitchen.keep_way(id, 1, a, cook, now()), kitchen.keep_way(id, 1, b, cook, now()));
    let mut outcomes = [one.unwrap(), two.unwrap()];
    outcomes.sort_by_key(|kept| *kept == WayKept::Changed);
    assert_eq!(outcomes, [WayKept::Version(2), WayKept::Changed]);
    let versions = kitchen.way_versions(id).await.unwrap();
    assert_eq!(versions.iter().map(|kept| kept.version).collect::<Vec<_>>(), [2, 1]);
    assert_eq!((versions[1].document.as_str(), versions[1].cook), (FIRST.document, Some(cook)));
    assert_eq!(kitchen.ways().await.unwrap()[0].document, versions[0].document);
}

#[tokio::test]
async fn names_are_taken_ids_for_good() {
    let store = fresh().await;
    let kitchen = store.kitchen(household(&store, "a@example.org").await);
    let cook = cook(&store, "a@example.org").await;
    let id = hung(&kitchen, cook).await;
    let other = NewWay { name: "Weekday belly", way: "own-weekday-belly", document: "{}" };
    let Added::Created(second) = kitchen.add_way("k2", other, cook, now()).await.unwrap() else { panic!("new") };
    assert_eq!(kitchen.add_way("k3", NewWay { way: "own-x", ..FIRST }, cook, now()).await.unwrap(), Added::NameTaken);
    assert_eq!(kitchen.keep_way(second, 1, NewWay { name: "sunday BELLY", ..other }, cook, now()).await.unwrap(), WayKept::NameTaken);
    assert_eq!(kitchen.way_versions(second).await.unwrap().len(), 1, "nothing of it was kept");
    kitchen.set_way_deleted(id, Some(now())).await.unwrap();
    // Taken out its name is free, its id is not: kept pieces are called by it.
    assert_eq!(kitchen.add_way("k4", FIRST, cook, now()).await.unwrap(), Added::NameTaken);
    assert!(kitchen.knows_way(FIRST.way).await.unwrap() && !kitchen.knows_way("own-x").await.unwrap());
    assert_eq!(kitchen.keep_way(id, 1, FIRST, cook, now()).await.unwrap(), WayKept::Changed, "taken out meanwhile");
    kitchen.set_way_deleted(id, None).await.unwrap();
    assert_eq!(kitchen.keep_way(id, 1, FIRST, cook, now()).await.unwrap(), WayKept::Version(2));
}

#[tokio::test]
async fn no_other_household_reaches_it() {
    let store = fresh().await;
    let kitchen = store.kitchen(household(&store, "a@example.org").await);
    let cook_a = cook(&store, "a@example.org").await;
    let id = hung(&kitchen, cook_a).await;
    let other = store.kitchen(household(&store, "b@example.org").await);
    let cook_b = cook(&store, "b@example.org").await;
    assert!(other.ways().await.unwrap().is_empty() && other.way_versions(id).await.unwrap().is_empty());
    assert!(!other.knows_way(FIRST.way).await.unwrap());
    assert_eq!(other.keep_way(id, 1, FIRST, cook_b, now()).await.unwrap(), WayKept::Changed);
    assert!(matches!(other.set_way_deleted(id, Some(now())).await, Err(StoreError::NotFound)));
    assert_eq!(kitchen.ways().await.unwrap()[0].version, 1);
    // The same id and name are free there.
    assert!(matches!(other.add_way("k1", FIRST, cook_b, now()).await.unwrap(), Added::Created(_)));
}
