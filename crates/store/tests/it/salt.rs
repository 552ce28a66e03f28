//! Kit, devices and readings against a real MariaDB.

use super::{at, fresh, household, now};
use jiff::SignedDuration;
use rauchkeller_core::fire::HeatSource;
use rauchkeller_core::units::celsius;
use rauchkeller_store::{
    Added, Device, DeviceId, HouseholdId, KitMix, KitSalt, MixId, NewReading, Received, SaltId, Store, StoreError, token_hash,
};
use uuid::Uuid;

fn new_id<T: std::fmt::Debug>(added: Added<T>) -> T {
    match added {
        Added::Created(id) => id,
        other => panic!("{other:?}"),
    }
}

fn salt(name: &str) -> KitSalt {
    KitSalt {
        id: SaltId(Uuid::nil()),
        name: name.into(),
        g_per_tsp: 5.3,
        spread_g: Some(0.26),
        uncertainty_g: Some(0.06),
        purity: 0.97,
        potassium: 0.0,
        pinch_g: Some(0.4),
        weighings: "53 54 52".into(),
        created_at: now(),
        deleted_at: None,
    }
}

fn mix(name: &str) -> KitMix {
    KitMix {
        id: MixId(Uuid::nil()),
        name: name.into(),
        recipe: "32 g salt\n68 g sugar".into(),
        parts: r#"[{"name":"salt","g":32,"salt_g":32}]"#.into(),
        made_for_g: None,
        salt_g_per_100g: 32.0,
        created_at: now(),
        deleted_at: None,
    }
}

#[tokio::test]
async fn a_salt_hangs_once_under_its_name_and_can_be_put_back() {
    let store = fresh().await;
    let kitchen = store.kitchen(household(&store, "a@example.org").await);
    let Added::Created(id) = kitchen.add_salt("k1", &salt("grey jar"), now()).await.unwrap() else { panic!("new") };
    assert_eq!(kitchen.add_salt("k1", &salt("grey jar"), now()).await.unwrap(), Added::AlreadyExists(id));
    assert_eq!(kitchen.add_salt("k2", &salt("Grey Jar"), now()).await.unwrap(), Added::NameTaken, "whatever the case");
    assert_eq!(kitchen.salts().await.unwrap(), [KitSalt { id, ..salt("grey jar") }]);
    // Taken out, its name is free; given away, the old one cannot come back under it.
    kitchen.set_salt_deleted(id, Some(now())).await.unwrap();
    assert!(kitchen.salts().await.unwrap().is_empty());
    let Added::Created(second) = kitchen.add_salt("k3", &salt("grey jar"), now()).await.unwrap() else { panic!("free again") };
    assert!(matches!(kitchen.set_salt_deleted(id, None).await, Err(StoreError::Conflict)));
    kitchen.set_salt_deleted(second, Some(now())).await.unwrap();
    kitchen.set_salt_deleted(id, None).await.unwrap();
    assert_eq!(kitchen.salts().await.unwrap()[0].id, id);
}

#[tokio::test]
async fn mixes_hang_the_same_way() {
    let store = fresh().await;
    let kitchen = store.kitchen(household(&store, "a@example.org").await);
    let Added::Created(id) = kitchen.add_mix("k1", &mix("house rub"), now()).await.unwrap() else { panic!("new") };
    assert_eq!(kitchen.add_mix("k1", &mix("house rub"), now()).await.unwrap(), Added::AlreadyExists(id));
    assert_eq!(kitchen.add_mix("k2", &mix("house rub"), now()).await.unwrap(), Added::NameTaken);
    assert_eq!(kitchen.mixes().await.unwrap()[0].recipe, mix("").recipe);
    kitchen.set_mix_deleted(id, Some(now())).await.unwrap();
    kitchen.set_mix_deleted(id, None).await.unwrap();
    assert_eq!(kitchen.mixes().await.unwrap().len(), 1);
}

/// What is remembered of a Kit is remembered by its number: whatever another server hangs up or takes out raises it.
#[tokio::test]
async fn whatever_changes_in_a_kit_raises_its_number_and_no_others() {
    let url = super::empty_database().await;
    let (one, two) = (Store::connect(&url).await.unwrap(), Store::connect(&url).await.unwrap());
    one.migrate().await.unwrap();
    let (home, other) = (household(&one, "a@example.org").await, household(&one, "b@example.org").await);
    let number = |of: &'static str| {
        let two = &two;
        async move { two.cook_by_address(of).await.unwrap().unwrap().kit_version }
    };
    let kitchen = one.kitchen(home);
    let salt_id = new_id(kitchen.add_salt("k1", &salt("grey jar"), now()).await.unwrap());
    assert_eq!(number("a@example.org").await, 1);
    kitchen.add_salt("k1", &salt("grey jar"), now()).await.unwrap();
    kitchen.add_salt("k2", &salt("grey jar"), now()).await.unwrap();
    assert_eq!(number("a@example.org").await, 1, "nothing was hung up");
    let mix_id = new_id(kitchen.add_mix("k1", &mix("house rub"), now()).await.unwrap());
    assert_eq!(number("a@example.org").await, 2);
    let oven = Some(celsius(230.0));
    kitchen.set_appliance(HeatSource::Oven, oven, now()).await.unwrap();
    assert_eq!(number("a@example.org").await, 3);
    kitchen.set_appliance(HeatSource::Oven, None, now()).await.unwrap();
    assert_eq!(number("a@example.org").await, 4);
    for (out, raised) in [(Some(now()), 6), (None, 8)] {
        kitchen.set_salt_deleted(salt_id, out).await.unwrap();
        kitchen.set_mix_deleted(mix_id, out).await.unwrap();
        assert_eq!(number("a@example.org").await, raised);
    }
    one.kitchen(other).set_salt_deleted(salt_id, Some(now())).await.unwrap_err();
    assert_eq!(number("a@example.org").await, 8, "nobody else reaches it");
}

#[tokio::test]
async fn nobody_reaches_into_another_kit() {
    let store = fresh().await;
    let mine = store.kitchen(household(&store, "a@example.org").await);
    let theirs = store.kitchen(household(&store, "b@example.org").await);
    let Added::Created(salt_id) = mine.add_salt("k1", &salt("grey jar"), now()).await.unwrap() else { panic!("new") };
    let Added::Created(mix_id) = mine.add_mix("k1", &mix("rub"), now()).await.unwrap() else { panic!("new") };
    let scale = new_id(mine.add_scale("scale-1", "bench scale", 0.1, 5000.0, token_hash("t"), now()).await.unwrap());
    assert!(
        theirs.salts().await.unwrap().is_empty() && theirs.mixes().await.unwrap().is_empty() && theirs.devices().await.unwrap().is_empty()
    );
    assert!(matches!(theirs.set_salt_deleted(salt_id, Some(now())).await, Err(StoreError::NotFound)));
    assert!(matches!(theirs.set_mix_deleted(mix_id, Some(now())).await, Err(StoreError::NotFound)));
    assert!(matches!(theirs.remove_device(scale, now()).await, Err(StoreError::NotFound)));
    // And the same name may hang in both kitchens.
    assert!(matches!(theirs.add_salt("k1", &salt("grey jar"), now()).await.unwrap(), Added::Created(_)));
}

async fn scale(store: &Store, home: HouseholdId, token: &str) -> Device {
    new_id(store.kitchen(home).add_scale("scale-1", "bench scale", 0.1, 5000.0, token_hash(token), now()).await.unwrap());
    store.device_by_token(token).await.unwrap().unwrap()
}

fn reading(seq: i64, mass_g: f64) -> NewReading {
    NewReading { seq, at: now() + SignedDuration::from_millis(seq * 250), mass_g }
}

#[tokio::test]
async fn a_reading_is_stored_once_however_often_it_comes() {
    let store = fresh().await;
    let home = household(&store, "a@example.org").await;
    let device = scale(&store, home, "secret").await;
    let batch = [reading(1, 0.0), reading(2, 4.2), reading(2, 99.0)];
    assert_eq!(store.receive(&device, &batch, now()).await.unwrap(), Received { accepted: 2, repeated: 1 });
    let again = [reading(2, 50.0), reading(3, 8.1)];
    assert_eq!(store.receive(&device, &again, now()).await.unwrap(), Received { accepted: 1, repeated: 1 });
    let live = store.kitchen(home).live_scale(now(), SignedDuration::from_secs(4)).await.unwrap().unwrap();
    let seen: Vec<(i64, f64)> = live.readings.iter().map(|r| (r.seq, r.mass_g)).collect();
    assert_eq!(seen, [(1, 0.0), (2, 4.2), (3, 8.1)], "what came first stands");
    assert_eq!(live.device.step_g, 0.1);
}

#[tokio::test]
async fn a_scale_that_was_reset_counts_from_one_again_and_is_heard() {
    let store = fresh().await;
    let home = household(&store, "a@example.org").await;
    let device = scale(&store, home, "secret").await;
    store.receive(&device, &[reading(1, 0.0), reading(2, 4.2), reading(3, 8.1)], now()).await.unwrap();
    let later = |seq: i64, mass_g: f64| NewReading { at: now() + SignedDuration::from_secs(60 + seq), ..reading(seq, mass_g) };
    let anew = [later(1, 150.0), later(2, 161.5)];
    assert_eq!(store.receive(&device, &anew, now()).await.unwrap(), Received { accepted: 2, repeated: 0 });
    assert_eq!(store.receive(&device, &anew, now()).await.unwrap(), Received { accepted: 0, repeated: 2 }, "sent again");
    let live = store.kitchen(home).live_scale(now(), SignedDuration::from_secs(4)).await.unwrap().unwrap();
    assert_eq!(live.readings.iter().map(|r| r.mass_g).collect::<Vec<_>>(), [0.0, 4.2, 8.1, 150.0, 161.5]);
}

#[tokio::test]
async fn the_same_form_hangs_one_scale() {
    let store = fresh().await;
    let home = household(&store, "a@example.org").await;
    let device = scale(&store, home, "secret").await;
    let again = store.kitchen(home).add_scale("scale-1", "bench scale", 0.1, 5000.0, token_hash("other"), now()).await.unwrap();
    assert_eq!(again, Added::AlreadyExists(device.id));
    assert_eq!(store.kitchen(home).devices().await.unwrap().len(), 1);
    assert!(store.device_by_token("other").await.unwrap().is_none());
}

#[tokio::test]
async fn the_same_batch_sent_at_once_by_many_is_stored_once() {
    let store = fresh().await;
    let device = scale(&store, household(&store, "a@example.org").await, "secret").await;
    let sends = (0..8).map(|_| {
        let (store, device) = (store.clone(), device.clone());
        tokio::spawn(async move {
            let batch: Vec<NewReading> = (0..50).map(|i| reading(i, 1.0)).collect();
            store.receive(&device, &batch, now()).await.unwrap().accepted
        })
    });
    let mut accepted = 0;
    for send in sends.collect::<Vec<_>>() {
        accepted += send.await.unwrap();
    }
    assert_eq!(accepted, 50);
}

#[tokio::test]
async fn a_token_opens_only_its_own_and_not_after_it_was_taken_out() {
    let store = fresh().await;
    let home = household(&store, "a@example.org").await;
    let device = scale(&store, home, "secret").await;
    assert!(store.device_by_token("secret ").await.unwrap().is_none() && store.device_by_token("SECRET").await.unwrap().is_none());
    assert_eq!(device.household, home);
    store.receive(&device, &[reading(1, 5.0)], now()).await.unwrap();
    let other = household(&store, "b@example.org").await;
    assert!(store.kitchen(other).live_scale(now(), SignedDuration::from_secs(4)).await.unwrap().is_none(), "not in another kitchen");
    // Silent, and gone.
    let later = now() + SignedDuration::from_secs(10);
    assert!(store.kitchen(home).live_scale(later, SignedDuration::from_secs(4)).await.unwrap().is_none());
    store.kitchen(home).remove_device(device.id, now()).await.unwrap();
    assert!(store.device_by_token("secret").await.unwrap().is_none());
    assert!(store.kitchen(home).live_scale(now(), SignedDuration::from_secs(4)).await.unwrap().is_none());
    assert!(matches!(store.kitchen(home).remove_device(DeviceId(Uuid::now_v7()), now()).await, Err(StoreError::NotFound)));
    assert_eq!(store.drop_readings_before(at("2026-12-11T08:00:00Z")).await.unwrap(), 1);
}
