//! The brake on guessing, the browsers a cook is known from, and what stays whole when requests are given up.

use super::*;
use rauchkeller_store::Door;

fn stranger() -> Door {
    Door::Stranger { address: "a@example.org".into() }
}

async fn tries(store: &Store, doors: &[Door], n: usize, when: Timestamp) -> usize {
    let mut made = 0;
    for _ in 0..n {
        made += usize::from(store.begin_try(doors, when).await.unwrap().is_some());
    }
    made
}

#[tokio::test]
async fn strangers_are_braked_and_the_cooks_own_browser_is_not() {
    let store = fresh().await;
    household(&store, "a@example.org").await;
    let cook = store.cook_by_address("a@example.org").await.unwrap().unwrap();
    store.know_browser(cook.id, "the cook's own", now()).await.unwrap();
    assert_eq!(tries(&store, &[stranger()], 20, now()).await, 8, "eight wrong tries, then the brake");
    let own = store.door_of("a@example.org", Some("the cook's own")).await.unwrap();
    assert!(matches!(own, Door::Known { .. }));
    assert!(store.begin_try(std::slice::from_ref(&own), now()).await.unwrap().is_some(), "its owner's browser is not shut out");
    // A browser known from one address is a stranger at another, and so is a made-up token.
    household(&store, "b@example.org").await;
    for (address, token) in [("b@example.org", Some("the cook's own")), ("a@example.org", Some("made up")), ("a@example.org", None)] {
        assert!(matches!(store.door_of(address, token).await.unwrap(), Door::Stranger { .. }), "{address} {token:?}");
    }
    // A quarter of an hour later all is forgiven; a right try is taken back at once.
    let later = now() + SignedDuration::from_mins(16);
    for _ in 0..20 {
        let tried = store.begin_try(&[stranger()], later).await.unwrap().expect("not braked");
        store.take_back(tried).await.unwrap();
    }
}

#[tokio::test]
async fn a_hundred_tries_at_once_are_no_more_than_one_after_the_other() {
    let store = fresh().await;
    let tasks: Vec<_> = (0..128)
        .map(|_| {
            let store = store.clone();
            // With so many waiting for a connection some get none: those were not tried either.
            tokio::spawn(async move { store.begin_try(&[stranger()], now()).await.is_ok_and(|t| t.is_some()) })
        })
        .collect();
    let mut made = 0;
    for task in tasks {
        made += usize::from(task.await.unwrap());
    }
    assert!(made <= 8, "{made} of 128 were let through");
}

#[tokio::test]
async fn one_guess_at_each_of_many_addresses_adds_up_where_it_comes_from() {
    let store = fresh().await;
    let mut made = 0;
    for i in 0..60 {
        let doors = [Door::Stranger { address: format!("cook{i}@example.org") }, Door::Place { from: "192.0.2.7".into() }];
        made += usize::from(store.begin_try(&doors, now()).await.unwrap().is_some());
    }
    assert_eq!(made, 40);
    let elsewhere = [stranger(), Door::Place { from: "192.0.2.8".into() }];
    assert!(store.begin_try(&elsewhere, now()).await.unwrap().is_some());
}

#[tokio::test]
async fn old_tries_and_readings_go_some_at_a_time() {
    let store = fresh().await;
    for i in 0..30 {
        let door = Door::Stranger { address: format!("cook{i}@example.org") };
        assert!(store.begin_try(&[door], now()).await.unwrap().is_some());
    }
    let tomorrow = now() + SignedDuration::from_hours(25);
    assert_eq!(store.drop_tries_before(now()).await.unwrap(), 0);
    assert_eq!(store.drop_tries_before(tomorrow).await.unwrap(), 30);
}

/// The driver leaves a reply on the wire when it is dropped in the middle of a ping or of preparing a statement; the next
/// one on that connection reads it. Health is asked by many and given up by many: nobody may be answered wrong for it.
#[tokio::test(flavor = "multi_thread", worker_threads = 2)]
async fn health_given_up_half_way_puts_no_connection_out_of_step() {
    let store = fresh().await;
    let home = household(&store, "a@example.org").await;
    store.kitchen(home).keep(belly("k"), now()).await.unwrap();
    for round in 0..400u64 {
        let asking = store.clone();
        let task = tokio::spawn(async move { asking.ping().await });
        // Given up at ever another point of the exchange.
        for _ in 0..(round % 12) {
            tokio::task::yield_now().await;
        }
        task.abort();
        if round % 4 == 0 {
            let cook = store.cook_by_address("a@example.org").await.unwrap().expect("the cook is there");
            assert_eq!(cook.name, "Cook");
            assert_eq!(store.kitchen(home).in_the_cellar().await.unwrap()[0].name, "Belly 2.4 kg");
        }
    }
}

#[tokio::test]
async fn an_address_is_taken_once() {
    let store = fresh().await;
    household(&store, "a@example.org").await;
    let again = SignUp {
        household: "x".into(),
        time_zone: "UTC".into(),
        name: "y".into(),
        address: "a@example.org".into(),
        password_hash: "z".into(),
    };
    assert!(matches!(store.sign_up(again, now()).await, Err(StoreError::AddressTaken)));
    assert_eq!(store.cook_by_address("a@example.org").await.unwrap().unwrap().household_name, "Boathouse kitchen");
    assert!(store.cook_by_address("A@example.org").await.unwrap().is_none(), "keys compare byte by byte");
}

#[tokio::test]
async fn a_new_password_raises_what_sessions_are_bound_to() {
    let store = fresh().await;
    household(&store, "a@example.org").await;
    let cook = store.cook_by_address("a@example.org").await.unwrap().unwrap();
    store.change_password(cook.id, "$argon2id$new".into()).await.unwrap();
    store.end_all_sessions(cook.id).await.unwrap();
    let after = store.cook(cook.id).await.unwrap().unwrap();
    assert_eq!((after.password_hash.as_str(), after.session_epoch), ("$argon2id$new", cook.session_epoch + 2));
}
