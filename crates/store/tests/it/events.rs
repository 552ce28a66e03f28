//! What happened: added once, never lost, taken back and put in again, against a real MariaDB.

use super::{belly, fresh, household, now, plan_of};
use jiff::{SignedDuration, Timestamp};
use rauchkeller_core::run::{Event, EventId, Record, What, live};
use rauchkeller_core::skin::drying::Touch;
use rauchkeller_core::units::{Share, celsius, grams};
use rauchkeller_store::{Appended, HouseholdId, PieceId, Revised, Revision, Store, StoreError};
use uuid::Uuid;

pub fn event(at: Timestamp, what: What) -> Event {
    Event::new(EventId(Uuid::now_v7().as_u128()), at, now(), what)
}

pub fn ended(task: &str, at: Timestamp) -> Event {
    event(at, What::TaskEnded { task: task.into() })
}

pub fn void(of: &Event) -> Event {
    event(now(), What::Voided(of.id))
}

fn done(accepted: usize, repeated: usize) -> Appended {
    Appended::Done { accepted, repeated }
}

async fn kept() -> (Store, HouseholdId, PieceId) {
    let (_, store, home, id) = kept_at().await;
    (store, home, id)
}

/// The same with the address of its database.
async fn kept_at() -> (String, Store, HouseholdId, PieceId) {
    let url = super::empty_database().await;
    let store = Store::connect(&url).await.unwrap();
    store.migrate().await.unwrap();
    let home = household(&store, "a@example.org").await;
    let id = store.kitchen(home).keep(belly("k"), now()).await.unwrap().id();
    (url, store, home, id)
}

#[tokio::test]
async fn an_event_is_there_once_and_comes_back_as_it_was() {
    let (store, home, id) = kept().await;
    let kitchen = store.kitchen(home);
    let salt = What::SaltOn { task: Some("salt".into()), bowl: Some("meat".into()), grams: grams(9.1), purity: Some(Share(0.97)) };
    let batch = [ended("dry", now()), event(now(), salt), event(now(), What::Felt(Touch::Tacky))];
    assert_eq!(kitchen.append(id, &batch, None, None).await.unwrap(), done(3, 0));
    assert_eq!(kitchen.append(id, &batch, None, None).await.unwrap(), done(0, 3), "sent again it changes nothing");
    let piece = kitchen.piece(id).await.unwrap();
    assert_eq!((kitchen.events(id).await.unwrap().as_slice(), piece.events, piece.version), (&batch[..], 3, 2));
    // The same id with other content is refused, with what stands; and nothing of its batch is stored.
    let other = Event { what: What::Felt(Touch::Wet), ..batch[2].clone() };
    let clash = kitchen.append(id, &[ended("carve", now()), other], None, None).await.unwrap();
    assert_eq!(clash, Appended::Clash(Box::new(batch[2].clone())));
    assert_eq!((kitchen.piece(id).await.unwrap().events, kitchen.events(id).await.unwrap().len()), (3, 3));
    // As is one of another piece.
    let second = kitchen.keep(belly("k2"), now()).await.unwrap().id();
    assert!(matches!(kitchen.append(second, &batch[..1], None, None).await.unwrap(), Appended::Clash(_)));
    // Over a version that is gone nothing is added.
    assert_eq!(kitchen.append(id, &[ended("salt", now())], None, Some(1)).await.unwrap(), Appended::Changed);
    assert_eq!(kitchen.append(id, &[ended("salt", now())], None, Some(2)).await.unwrap(), done(1, 0));
    assert!(matches!(kitchen.append(PieceId(Uuid::now_v7()), &batch, None, None).await, Err(StoreError::NotFound)));
}

#[tokio::test]
async fn what_is_taken_back_names_what_was_there_before() {
    let (store, home, id) = kept().await;
    let kitchen = store.kitchen(home);
    let carve = ended("carve", now());
    let nothing = event(now(), What::Voided(EventId(7)));
    assert_eq!(kitchen.append(id, std::slice::from_ref(&nothing), None, None).await.unwrap(), Appended::NamesNothing(EventId(7)));
    // Later in its own batch is not before; earlier is.
    assert!(matches!(kitchen.append(id, &[void(&carve), carve.clone()], None, None).await.unwrap(), Appended::NamesNothing(_)));
    kitchen.append(id, std::slice::from_ref(&carve), None, None).await.unwrap();
    assert!(kitchen.piece(id).await.unwrap().finished_at.is_some(), "the last task finishes the piece");
    let back = void(&carve);
    kitchen.append(id, std::slice::from_ref(&back), None, None).await.unwrap();
    assert_eq!((kitchen.book(10, None, "").await.unwrap().len(), kitchen.in_the_cellar().await.unwrap().len()), (0, 1));
    // The void of the void puts it in again.
    kitchen.append(id, &[void(&back)], None, None).await.unwrap();
    let piece = kitchen.book(10, None, "").await.unwrap().remove(0);
    let events = kitchen.events(id).await.unwrap();
    assert_eq!((piece.finished_at, live(&events).iter().filter(|e| e.id == carve.id).count()), (Some(now()), 1));
}

/// A crowd at one piece is carried together, and each of it is answered for itself as if it had come alone.
#[tokio::test(flavor = "multi_thread", worker_threads = 4)]
async fn of_a_crowd_at_one_piece_each_is_answered_for_itself() {
    let (store, home, id) = kept().await;
    let other_home = household(&store, "b@example.org").await;
    let stood = ended("dry", now());
    store.kitchen(home).append(id, std::slice::from_ref(&stood), None, None).await.unwrap();
    let seen = store.kitchen(home).piece(id).await.unwrap().version;
    let at = |s: i64| now() + SignedDuration::from_secs(s);
    let shared = event(at(1), What::Felt(Touch::Dry));
    let clashing = Event { what: What::Felt(Touch::Wet), ..stood.clone() };
    let mut crowd: Vec<(HouseholdId, Vec<Event>, Option<i32>)> = Vec::new();
    for n in 0..40 {
        crowd.push((home, vec![event(at(n), What::Felt(Touch::Tacky)), event(at(n), What::CoreRead(celsius(50.0)))], None));
        crowd.push((home, vec![shared.clone()], None));
        crowd.push((home, vec![event(at(n), What::Felt(Touch::Wet)), clashing.clone()], None));
        crowd.push((home, vec![event(at(n), What::Voided(EventId(7)))], None));
        crowd.push((home, vec![ended("salt", at(n))], Some(seen)));
        crowd.push((other_home, vec![event(at(n), What::Felt(Touch::Dry))], None));
    }
    let sent: Vec<_> = crowd
        .into_iter()
        .map(|(home, events, seen)| {
            let store = store.clone();
            tokio::spawn(async move { store.kitchen(home).append(id, &events, None, seen).await })
        })
        .collect();
    let (mut twos, mut first, mut again, mut clashes, mut nothing, mut won, mut changed, mut strangers) = (0, 0, 0, 0, 0, 0i32, 0, 0);
    for (n, answer) in sent.into_iter().enumerate() {
        match (n % 6, answer.await.unwrap()) {
            (0, Ok(Appended::Done { accepted: 2, repeated: 0 })) => twos += 1,
            (1, Ok(Appended::Done { accepted: 1, repeated: 0 })) => first += 1,
            (1, Ok(Appended::Done { accepted: 0, repeated: 1 })) => again += 1,
            (2, Ok(Appended::Clash(with))) if with.id == stood.id => clashes += 1,
            (3, Ok(Appended::NamesNothing(EventId(7)))) => nothing += 1,
            (4, Ok(Appended::Done { accepted: 1, repeated: 0 })) => won += 1,
            (4, Ok(Appended::Changed)) => changed += 1,
            (5, Err(StoreError::NotFound)) => strangers += 1,
            (kind, other) => panic!("{kind} was answered {other:?}"),
        }
    }
    assert_eq!((twos, first, again, clashes, nothing, strangers), (40, 1, 39, 40, 40, 40));
    // Over a version that was looked at one may be the first, and no second.
    assert!(won <= 1 && won + changed == 40, "{won} and {changed}");
    let piece = store.kitchen(home).piece(id).await.unwrap();
    let events = store.kitchen(home).events(id).await.unwrap();
    assert_eq!(i32::try_from(events.len()).unwrap(), 1 + 80 + 1 + won);
    assert_eq!((piece.events, piece.version), (1 + 80 + 1 + won, seen + 40 + 1 + won));
    assert_eq!(*piece.record, Record::of(&events), "the fold that was kept is what all come to");
}

#[tokio::test]
async fn two_cooks_noting_at_once_lose_and_double_nothing() {
    let (store, home, id) = kept().await;
    let note =
        |store: Store, event: Event| tokio::spawn(async move { store.kitchen(home).append(id, &[event], None, None).await.unwrap() });
    let mut expected: Vec<EventId> = Vec::new();
    for round in 0..200i64 {
        let at = now() + SignedDuration::from_secs(round);
        // Each notes one of their own, and both send the same third.
        let (one, two) = (ended("dry", at), event(at, What::Felt(Touch::Dry)));
        let both = event(at, What::SaltOff { grams: grams(0.1), purity: None });
        let sent = [one.clone(), two.clone(), both.clone(), both.clone()].map(|e| note(store.clone(), e));
        let mut accepted = 0;
        for outcome in sent {
            let Appended::Done { accepted: new, .. } = outcome.await.unwrap() else { panic!("refused") };
            accepted += new;
        }
        assert_eq!(accepted, 3, "round {round}");
        expected.extend([one.id, two.id, both.id]);
    }
    let events = store.kitchen(home).events(id).await.unwrap();
    let mut stored: Vec<EventId> = events.iter().map(|e| e.id).collect();
    let piece = store.kitchen(home).piece(id).await.unwrap();
    assert_eq!(*piece.record, Record::of(&events), "what was folded note by note is what all of them come to");
    stored.sort_unstable();
    expected.sort_unstable();
    assert_eq!(stored, expected);
}

/// Senders with clocks that are off by seconds to days, who know it or not, send what they noted once, twice or three times, some of
/// it late, through two servers: everything is there once, at its own moment where the sender knew how far off it was.
#[tokio::test]
async fn sent_again_is_once_whatever_the_clock_and_however_late() {
    use rauchkeller_contract::read_events;
    use serde_json::json;
    let (url, one, home, id) = kept_at().await;
    let two = Store::connect(&url).await.unwrap();
    let mut dice = 7u64;
    let mut next = |n: u64| {
        // Any sequence will do: the remainders of a multiplication (Lehmer, 1951).
        dice = dice.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (dice >> 33) % n
    };
    let begun = now();
    let (mut sent, mut knew, mut late) = (0, 0, 0);
    for round in 0..60i64 {
        let off = SignedDuration::from_secs([0, 4, -25, 31, -90, 3600, -86_400, 700_000][next(8) as usize]);
        let knows = next(2) == 0;
        let happened = begun + SignedDuration::from_mins(round);
        let event_id = Uuid::now_v7();
        let said = (happened - off).to_string();
        let mut event = json!({"id": event_id.to_string(), "at": said, "what": "felt", "feel": "dry"});
        if knows {
            event["offset_ms"] = i64::try_from(off.as_millis()).unwrap().into();
        }
        let mut moment = happened;
        let mut first: Option<Timestamp> = None;
        for _ in 0..=next(3) {
            // Each time it leaves later than before, and is as late again on its way.
            moment += SignedDuration::from_secs(i64::try_from(next(100)).unwrap());
            let sent_at = moment - off;
            let arrives = moment + SignedDuration::from_secs(i64::try_from(next(90)).unwrap());
            late += usize::from(arrives.duration_since(moment).as_secs() > 30);
            let batch = read_events(&json!({"sent_at": sent_at.to_string(), "events": [event]}), arrives).unwrap();
            let store = if next(2) == 0 { &one } else { &two };
            let outcome = store.kitchen(home).append(id, &batch.events, None, None).await.unwrap();
            let Appended::Done { accepted, repeated } = outcome else { panic!("round {round}: {outcome:?}") };
            assert_eq!((accepted, repeated), if first.is_none() { (1, 0) } else { (0, 1) }, "round {round}");
            first.get_or_insert(batch.events[0].at);
            sent += 1;
        }
        let stored = one.kitchen(home).events(id).await.unwrap();
        let stored: Vec<&Event> = stored.iter().filter(|e| e.id == EventId(event_id.as_u128())).collect();
        assert_eq!((stored.len(), Some(stored[0].at)), (1, first), "round {round}: what came first stands");
        if knows {
            knew += 1;
            assert_eq!(stored[0].at, happened, "round {round}: late delivery changes nothing");
        }
    }
    assert!(sent > 90 && knew > 20 && late > 20, "{sent} sent, {knew} knew their offset, {late} late");
    // The same id with another moment of the sender's own is another event.
    let stands = one.kitchen(home).events(id).await.unwrap()[0].clone();
    let other = Event { said_at: Some(stands.as_said() + SignedDuration::from_secs(1)), ..stands.clone() };
    assert!(matches!(two.kitchen(home).append(id, &[other], None, None).await.unwrap(), Appended::Clash(_)));
}

#[tokio::test]
async fn a_piece_that_is_full_keeps_room_for_ticks_voids_and_the_verdict() {
    let (store, home, id) = kept().await;
    let kitchen = store.kitchen(home);
    let notes: Vec<Event> = (0..4900).map(|i| event(now() + SignedDuration::from_secs(i), What::Felt(Touch::Dry))).collect();
    for batch in notes.chunks(200) {
        kitchen.append(id, batch, None, None).await.unwrap();
    }
    assert_eq!(kitchen.append(id, &[event(now(), What::Felt(Touch::Wet))], None, None).await.unwrap(), Appended::Full);
    let later = now() + SignedDuration::from_hours(4);
    let tasted = What::Tasted { bad_patches: None, rim: 0, middle: 0, juice: 0, advice: "as it was".into() };
    let must = [ended("carve", later), event(later, What::Voided(notes[0].id)), event(later, tasted)];
    assert_eq!(kitchen.append(id, &must, None, None).await.unwrap(), done(3, 0));
    let piece = kitchen.piece(id).await.unwrap();
    assert_eq!((piece.events, piece.record.felt.len(), piece.finished_at), (4903, 4899, Some(later)));
    // What was folded so far is not folded from the first event again: the record is that of all of them all the same.
    assert_eq!(*piece.record, Record::of(&kitchen.events(id).await.unwrap()));
    let ticks: Vec<Event> = (0..97).map(|i| ended("dry", later + SignedDuration::from_secs(i))).collect();
    assert_eq!(kitchen.append(id, &ticks, None, None).await.unwrap(), done(97, 0));
    assert_eq!(kitchen.append(id, &[ended("salt", later)], None, None).await.unwrap(), Appended::Full, "5,000 is all there is");
}

#[tokio::test]
async fn a_fold_of_other_rules_or_of_fewer_events_is_not_read() {
    let (url, store, home, id) = kept_at().await;
    let kitchen = store.kitchen(home);
    kitchen.append(id, &[ended("dry", now())], None, None).await.unwrap();
    let right = kitchen.piece(id).await.unwrap().record;
    for spoilt in ["rules = 999, body = '{}'", "events = 7, body = '{}'", "body = 'nonsense'"] {
        super::raw(&url, &format!("UPDATE piece_folds SET {spoilt}")).await;
        assert_eq!(kitchen.piece(id).await.unwrap().record, right, "{spoilt}");
        // And it was put right meanwhile, or is when the next thing happens.
        kitchen.append(id, &[event(now() + SignedDuration::from_hours(1), What::Felt(Touch::Dry))], None, None).await.unwrap();
        let piece = kitchen.piece(id).await.unwrap();
        assert_eq!(*piece.record, Record::of(&kitchen.events(id).await.unwrap()));
        kitchen.append(id, &[void(kitchen.events(id).await.unwrap().last().unwrap())], None, None).await.unwrap();
        super::raw(&url, "DELETE FROM events WHERE kind <> 'task-ended'").await;
        super::raw(&url, "UPDATE pieces SET events = 1").await;
    }
}

#[tokio::test]
async fn other_servers_hear_of_a_change_and_strangers_of_nothing() {
    let (url, one, home, id) = kept_at().await;
    let two = Store::connect(&url).await.unwrap();
    let theirs = household(&one, "b@example.org").await;
    let of = |all: Vec<rauchkeller_store::Changes>, home| all.into_iter().filter(|c| c.household == home).map(|c| c.changes).sum::<i64>();
    let before = of(two.changes().await.unwrap(), home);
    let arrived = two.kitchen(home).arrived().await.unwrap();
    one.kitchen(home).append(id, &[ended("dry", now())], None, None).await.unwrap();
    assert_eq!(of(two.changes().await.unwrap(), home), before + 1);
    two.kitchen(home).append(id, &[ended("salt", now())], None, None).await.unwrap();
    assert_eq!(of(one.changes().await.unwrap(), home), before + 2, "each server counts its own, and all are asked");
    // What changed nothing tells nobody.
    let noted = one.kitchen(home).events(id).await.unwrap();
    one.kitchen(home).append(id, &noted, None, None).await.unwrap();
    assert_eq!(of(one.changes().await.unwrap(), home), before + 2);
    let told = two.kitchen(home).told_after(arrived).await.unwrap();
    assert_eq!(told.iter().map(|t| t.kind.as_str()).collect::<Vec<_>>(), ["task-ended", "task-ended"]);
    assert!(two.kitchen(theirs).told_after(0).await.unwrap().is_empty() && of(one.changes().await.unwrap(), theirs) == 0);
}

#[tokio::test]
async fn a_plan_is_revised_and_taken_back_and_what_happened_stays() {
    let (store, home, id) = kept().await;
    let kitchen = store.kitchen(home);
    kitchen.append(id, &[ended("dry", now())], None, None).await.unwrap();
    let before = kitchen.piece(id).await.unwrap();
    let new = plan_of(&["dry", "score", "salt", "serve"]);
    let revised = event(now(), What::PlanRevised { over: 0, version: 0 });
    let revise = async |seen: i32, event: &Event| {
        let revision = Revision { plan: &new, name: Some("Belly 2.6 kg"), facts: &[], event, cook: None };
        kitchen.revise(id, seen, revision).await.unwrap()
    };
    assert_eq!(revise(before.version - 1, &revised).await, Revised::Changed, "made over a version that is gone");
    assert_eq!(kitchen.piece(id).await.unwrap(), before, "and nothing is half changed");
    assert_eq!(revise(before.version, &revised).await, Revised::Done);
    assert_eq!(revise(before.version, &revised).await, Revised::Done, "the same form again is kept once");
    let (piece, events) = (kitchen.piece(id).await.unwrap(), kitchen.events(id).await.unwrap());
    assert_eq!((piece.plan_version, piece.plan.as_str(), piece.name.as_str()), (2, new.plan.as_str(), "Belly 2.6 kg"));
    assert_eq!((events.len(), events[0].what.clone()), (2, What::TaskEnded { task: "dry".into() }));
    assert_eq!(events.last().unwrap().what, What::PlanRevised { over: 1, version: 2 });
    // The new last task finishes it, not the old one.
    kitchen.append(id, &[ended("carve", now())], None, None).await.unwrap();
    assert!(kitchen.piece(id).await.unwrap().finished_at.is_none());
    // Taken back, the earlier plan stands; both versions are kept.
    kitchen.append(id, &[void(events.last().unwrap())], None, None).await.unwrap();
    let back = kitchen.piece(id).await.unwrap();
    assert_eq!((back.plan_version, back.plan, back.serve_at), (1, before.plan, before.serve_at));
    assert_eq!(kitchen.plan_versions(id).await.unwrap().len(), 2);
    let theirs = store.kitchen(household(&store, "b@example.org").await);
    let theirs_over = Revision { plan: &new, name: None, facts: &[], event: &revised, cook: None };
    assert!(matches!(theirs.revise(id, back.version, theirs_over).await, Err(StoreError::NotFound)));
}

#[tokio::test]
async fn weighings_and_tubs_are_found_while_they_count() {
    let (store, home, id) = kept().await;
    let kitchen = store.kitchen(home);
    let theirs = store.kitchen(household(&store, "b@example.org").await);
    let weighed =
        What::Weighed { gross: grams(3058.1), tare: grams(640.0), fineness: grams(0.1), tray: None, from_scale: true, doubt: None };
    let weighed = event(now(), weighed);
    let tub = |after: f64| event(now(), What::TubWeighed { before: Some(grams(812.0)), after: Some(grams(after)), mix_left: None });
    let (first, second) = (tub(781.0), tub(790.0));
    let before = kitchen.taught().await.unwrap();
    kitchen.append(id, &[weighed.clone(), first.clone()], None, None).await.unwrap();
    assert_ne!(kitchen.taught().await.unwrap(), before);
    kitchen.append(id, &[void(&first), second], None, None).await.unwrap();
    assert_eq!(kitchen.weighed_pieces().await.unwrap().iter().map(|p| p.id).collect::<Vec<_>>(), [id]);
    let tubs = kitchen.tubs(5).await.unwrap();
    assert_eq!((tubs.len(), tubs[0].1), (1, 22.0), "what was taken back does not count");
    let known = kitchen.taught().await.unwrap();
    kitchen.append(id, &[void(&weighed)], None, None).await.unwrap();
    assert!(kitchen.weighed_pieces().await.unwrap().is_empty() && kitchen.taught().await.unwrap() != known);
    assert!(theirs.weighed_pieces().await.unwrap().is_empty() && theirs.tubs(5).await.unwrap().is_empty());
}

#[tokio::test]
async fn a_new_piece_is_never_lost_behind_many_others() {
    let store = fresh().await;
    let home = household(&store, "a@example.org").await;
    let kitchen = store.kitchen(home);
    // Seventy pieces with earlier meals, as somebody leaves who never ticks anything.
    for i in 0..70 {
        let old = rauchkeller_store::NewPiece { name: format!("old {i}"), ..belly(&format!("k{i}")) };
        kitchen.keep(old, now() + SignedDuration::from_secs(i)).await.unwrap();
    }
    let mut new = belly("new");
    new.plan.serve_at = super::at("2027-01-12T18:00:00Z");
    let id = kitchen.keep(new, now() + SignedDuration::from_hours(1)).await.unwrap().id();
    let cellar = kitchen.in_the_cellar().await.unwrap();
    assert_eq!((cellar.len(), cellar.last().unwrap().id), (71, id), "by their meals, and the last one too");
    // In sight are the meals to come, however many of before were never ticked; and it is said how many there are in all.
    let (seen, all) = kitchen.in_sight(super::at("2027-01-10T08:00:00Z")).await.unwrap();
    assert!(seen.iter().any(|p| p.id == id) && seen.len() == 60 && all == 71, "{} of {all}", seen.len());
    assert_eq!(kitchen.on_a_list(0).await.unwrap().len(), 71);
    assert!(kitchen.on_a_list(1).await.unwrap().is_empty() && kitchen.on_a_list(u64::MAX).await.unwrap().is_empty());
}
