//! How a piece stands, as properties over every cut and method: by the set of events, never by their order; the same as the plan
//! while nothing has happened; and out of the refrigerator for just as long as its places say.

use super::dice::Dice;
use jiff::{SignedDuration, Timestamp, ZonedDateTime};
use rauchkeller_contract::{
    PlanDoc, StandingDoc, bowls_of, event_body, event_kind, plan_from, read_event_body, read_events, read_record, record_text, run_plan,
    standing_doc,
};
use rauchkeller_core::method::{Place, Tick, methods};
use rauchkeller_core::piece::Cut;
use rauchkeller_core::run::{Event, EventId, Record, RunPlan, What, stand};
use rauchkeller_core::skin::drying::Touch;
use rauchkeller_core::units::{celsius, grams};
use serde_json::{Value, json};

struct Kept {
    name: String,
    doc: PlanDoc,
    run: RunPlan,
    now: ZonedDateTime,
}

fn kept(request: &Value) -> Kept {
    let now: ZonedDateTime = "2026-12-10T09:00[Europe/Vienna]".parse().unwrap();
    let doc = plan_from(request, &now).unwrap();
    let run = run_plan(&doc, request, 1, |air| air).unwrap();
    Kept { name: request["piece"]["cut"].as_str().unwrap().to_owned(), doc, run, now }
}

/// Every cut by every method that fits it, with a sauce, a cover or a bath now and then.
fn every_piece() -> Vec<Kept> {
    let mut all = Vec::new();
    for (i, cut) in Cut::all().enumerate() {
        for method in methods().iter().filter(|m| m.fits(cut)) {
            let weight = f64::midpoint(cut.typical_g.0, cut.typical_g.1);
            let mut request = json!({"piece": {"cut": cut.id, "weight_g": weight, "bought_on": "2026-12-10"}, "method": method.id,
                "serve_at": "2026-12-13T18:00[Europe/Vienna]"});
            match i % 3 {
                0 => request["ledger"] = json!([{"item": "soy-sauce", "g": 20}]),
                1 => request["ledger"] = json!([{"item": "soy-sauce", "g": 40, "bath_h": 1}]),
                _ if cut.skin_mm > 0.0 => {
                    let kind = ["draw", "crust", "bed"][i % 9 / 3];
                    request["salt"] = json!({"cover": {"kind": kind}});
                }
                _ => {}
            }
            all.push(kept(&request));
        }
    }
    assert!(all.len() > 30, "{}", all.len());
    all
}

pub fn event(n: u64, at: Timestamp, what: What) -> Event {
    Event::new(EventId(u128::from(n) + 1), at, at, what)
}

/// A run of the piece: its tasks ticked early, late, in order or not; salt, weighings, touches, things taken back.
fn happened(piece: &Kept, dice: &mut Dice) -> Vec<Event> {
    let mut events: Vec<Event> = Vec::new();
    let upset = dice.chance(0.4);
    for task in &piece.run.tasks {
        if dice.chance(0.15) {
            continue;
        }
        let planned = if task.tick == Tick::Begins { task.starts } else { task.ends };
        let off = if upset { dice.between(-240.0, 240.0) } else { dice.between(-6.0, 6.0) };
        let at = planned + SignedDuration::from_secs((off * 60.0) as i64);
        let says =
            if task.tick == Tick::Begins { What::TaskBegan { task: task.id.clone() } } else { What::TaskEnded { task: task.id.clone() } };
        for _ in 0..if dice.chance(0.1) { 2 } else { 1 } {
            events.push(event(events.len() as u64, at, says.clone()));
        }
    }
    for bowl in bowls_of(&piece.doc) {
        let at = piece.run.tasks.iter().find(|t| t.id == bowl.task).map_or(piece.now.timestamp(), |t| t.ends);
        let g = bowl.target_g * dice.between(0.9, 1.2);
        let says = What::SaltOn { task: Some(bowl.task), bowl: Some(bowl.id), grams: grams(g), purity: None };
        events.push(event(events.len() as u64, at, says));
    }
    let mid = piece.run.cold_to - SignedDuration::from_hours(4);
    for what in [
        What::SaltOff { grams: grams(dice.between(0.1, 30.0)), purity: None },
        What::SaltOn { task: None, bowl: None, grams: grams(dice.between(0.1, 6.0)), purity: None },
        What::ActualSalt { grams: grams(dice.between(1.0, 30.0)), purity: None },
        What::Felt(Touch::Tacky),
        What::Moved(dice.of(&[Place::Bench, Place::Refrigerator])),
    ] {
        if dice.chance(0.4) {
            events.push(event(events.len() as u64, mid + SignedDuration::from_secs(dice.between(0.0, 9000.0) as i64), what));
        }
    }
    // Taken back, and some of that put in again.
    for _ in 0..3 {
        let of = events[(dice.next() % events.len() as u64) as usize].id;
        events.push(event(events.len() as u64, mid, What::Voided(of)));
    }
    events
}

fn doc(piece: &Kept, events: &[Event], at: Timestamp) -> StandingDoc {
    standing_doc(&piece.run, &stand(&piece.run, events, at), piece.now.time_zone(), |asked| asked.key.clone())
}

fn shuffled(events: &[Event], dice: &mut Dice) -> Vec<Event> {
    let mut mixed = events.to_vec();
    for i in (1..mixed.len()).rev() {
        mixed.swap(i, (dice.next() % (i as u64 + 1)) as usize);
    }
    mixed
}

#[test]
fn the_same_events_in_any_order_stand_the_same_and_sent_twice_change_nothing() {
    let mut compared = 0;
    for (seed, piece) in every_piece().iter().enumerate() {
        let dice = &mut Dice::new(seed as u64);
        let events = happened(piece, dice);
        let at = piece.run.cold_to - SignedDuration::from_mins(30);
        let known = doc(piece, &events, at);
        for _ in 0..3 {
            let mut mixed = shuffled(&events, dice);
            mixed.extend(events.iter().take(5).cloned());
            assert_eq!(doc(piece, &mixed, at), known, "{}", piece.name);
            compared += 1;
        }
    }
    assert!(compared > 90, "{compared}");
}

#[test]
fn a_void_of_a_void_restores() {
    let mut compared = 0;
    for (seed, piece) in every_piece().iter().enumerate() {
        let dice = &mut Dice::new(1000 + seed as u64);
        let mut events = happened(piece, dice);
        let at = piece.run.cold_to;
        let known = doc(piece, &events, at);
        let of = events[(dice.next() % events.len() as u64) as usize].id;
        let void = event(events.len() as u64, at, What::Voided(of));
        let back = event(events.len() as u64 + 1, at, What::Voided(void.id));
        events.push(void);
        let without = doc(piece, &events, at);
        compared += usize::from(without != known);
        events.push(back);
        assert_eq!(doc(piece, &events, at), known, "{}", piece.name);
    }
    // Taking something back shows nearly always.
    assert!(compared > 15, "{compared}");
}

#[test]
fn out_of_the_refrigerator_for_as_long_as_its_places_say() {
    let mut minutes = 0;
    for (seed, piece) in every_piece().iter().enumerate() {
        let dice = &mut Dice::new(2000 + seed as u64);
        let events = happened(piece, dice);
        let end = piece.run.serve_at;
        let before = piece.now.timestamp() - SignedDuration::from_hours(8);
        // Whole seconds: each second is in the place of its moment, until the next thing noted.
        let mut edges: Vec<Timestamp> = (0..end.duration_since(before).as_mins()).map(|i| before + SignedDuration::from_mins(i)).collect();
        edges.extend(events.iter().map(|e| e.at));
        edges.extend(piece.run.tasks.iter().flat_map(|t| events.iter().map(move |e| e.at - t.takes())));
        edges.push(end);
        edges.sort_unstable();
        edges.dedup();
        edges.retain(|at| *at <= end);
        let places = stand(&piece.run, &events, end);
        // Salt and skin say nothing of places: a plan without its request stands in the same ones, and is quick to ask.
        let bare = RunPlan { request: None, ..piece.run.clone() };
        let mut on_bench = SignedDuration::ZERO;
        for pair in edges.windows(2) {
            if stand(&bare, &events, pair[0]).place == Place::Bench {
                on_bench += pair[1].duration_since(pair[0]);
            }
        }
        assert_eq!(places.out.sum, on_bench, "{}", piece.name);
        minutes += on_bench.as_mins();
    }
    assert!(minutes > 600, "{minutes}");
}

#[test]
fn kept_and_not_touched_it_stands_as_it_was_planned() {
    let (mut rested, mut without_a_cold) = (0, 0);
    for piece in every_piece() {
        let known = doc(&piece, &[], piece.now.timestamp());
        // Two that begin in the same minute have no order.
        let in_time = |mut tasks: Vec<(String, String)>| {
            tasks.sort_by_key(|(id, at)| (at.parse::<ZonedDateTime>().unwrap().timestamp(), id.clone()));
            tasks
        };
        let planned = in_time(piece.doc.steps.iter().map(|s| (s.id.clone(), s.starts_at.clone())).collect());
        let next = in_time(known.next.iter().map(|d| (d.task.clone(), d.at.clone())).collect());
        assert_eq!(next, planned, "{}", piece.name);
        assert_eq!((known.table_at, known.out_min, known.asked.len()), (piece.doc.serve_at.clone(), 0.0, 0), "{}", piece.name);
        assert!(known.salt_since.is_none() && known.on_g.is_none() && known.since.is_none() && known.place == "refrigerator");
        // And ticked as planned it leaves the refrigerator as the plan says.
        let Some(cold) = piece.doc.steps.iter().find(|s| s.kind == "chill") else {
            without_a_cold += 1;
            continue;
        };
        rested += 1;
        let mut events = Vec::new();
        for task in &piece.run.tasks {
            let at = if task.tick == Tick::Begins { task.starts } else { task.ends };
            if at <= cold.starts_at.parse::<ZonedDateTime>().unwrap().timestamp() && task.beside.is_none() {
                let task = task.id.clone();
                let says =
                    if piece.run.task(&task).unwrap().tick == Tick::Begins { What::TaskBegan { task } } else { What::TaskEnded { task } };
                events.push(event(events.len() as u64, at, says));
            }
        }
        // The salt is counted from the moment it went into the cold there, and from the salting here: a few minutes apart.
        let then = doc(&piece, &events, piece.run.cold_to);
        let fridge = &piece.doc.fridge;
        let near = |a: f64, b: f64, by: f64| (a - b).abs() <= by * b.abs().max(1.0);
        assert!(
            near(then.skin_dryness.unwrap_or(0.0), fridge.skin_dryness.unwrap_or(0.0), 0.02),
            "{} {}: {:?} {:?}",
            piece.name,
            piece.doc.request.method,
            then.skin_dryness,
            fridge.skin_dryness
        );
        // What is salted only after that has nothing in it yet.
        if !events.iter().any(|e| matches!(&e.what, What::TaskEnded { task } if task == "salt")) {
            assert!(then.on_g.is_none() && then.salt_since.is_none(), "{}: {:?}", piece.name, then.on_g);
            continue;
        }
        assert!(
            near(then.rim_g_per_kg.unwrap(), fridge.rim_g_per_kg, 0.03),
            "{}: {:?} {}",
            piece.name,
            then.rim_g_per_kg,
            fridge.rim_g_per_kg
        );
        assert!(near(then.slice_g_per_kg.unwrap(), fridge.slice_g_per_kg, 0.03), "{}", piece.name);
        assert!(
            // A bath that covers it may bring more than the dose, which the plan says.
            near(then.on_g.unwrap(), piece.doc.dose.total_g + piece.doc.dose.over_g, 0.001),
            "{} {}: {:?} on, {} planned",
            piece.name,
            piece.doc.request.method,
            then.on_g,
            piece.doc.dose.total_g
        );
    }
    assert!(rested > 100 && without_a_cold > 30, "{rested} rested, {without_a_cold} went straight on");
}

/// A record goes on from where it stood, through the form it is stored in, and comes to what all events come to from the first one;
/// where something of before is put in or taken back it says so, and adds nothing.
#[test]
fn a_record_that_goes_on_comes_to_what_all_events_come_to() {
    let (mut went_on, mut refused, mut late) = (0, 0, 0);
    for (seed, piece) in every_piece().iter().enumerate() {
        let dice = &mut Dice::new(seed as u64);
        // As they are stored: masses to the millionth of a gram.
        let stored = |e: Event| {
            let what = read_event_body(event_kind(&e.what), &event_body(&e.what)).unwrap();
            Event { what, ..e }
        };
        let events: Vec<Event> = happened(piece, dice).into_iter().map(stored).collect();
        let mut record = Record::default();
        let mut so_far: Vec<Event> = Vec::new();
        let mut left = events.as_slice();
        while !left.is_empty() {
            let (batch, rest) = left.split_at(1 + (dice.next() as usize) % left.len().min(4));
            left = rest;
            let mut batch = batch.to_vec();
            let core_read = |at: Timestamp, id: u64| Event::new(EventId(u128::from(id) << 64 | 7), at, at, What::CoreRead(celsius(54.0)));
            // What is only shown may come late.
            let shown = record
                .last
                .filter(|_| dice.next().is_multiple_of(3))
                .map(|(at, _)| core_read(at - SignedDuration::from_mins(9), dice.next()));
            batch.extend(shown.clone());
            let batch = batch.as_slice();
            so_far.extend_from_slice(batch);
            let before = record.clone();
            if record.go_on(batch) {
                went_on += 1;
                late += usize::from(shown.is_some());
            } else {
                refused += 1;
                assert_eq!(record, before, "nothing was added");
                let takes_back = batch.iter().any(|e| matches!(e.what, What::Voided(_)));
                let counts = |e: &&Event| !matches!(e.what, What::CoreRead(_) | What::Note(_));
                let earlier = batch.iter().filter(counts).any(|e| before.last.is_some_and(|last| (e.at, e.id) <= last));
                assert!(takes_back || earlier, "it could have gone on");
                record = Record::of(&so_far);
            }
            assert_eq!(record, Record::of(&so_far), "{} after {} events", piece.name, so_far.len());
            let kept = read_record(&record_text(&record)).expect("what is written is read");
            assert_eq!(kept, record, "{}", piece.name);
            record = kept;
        }
    }
    assert!(
        went_on > 300 && refused > 100 && late > 60,
        "{went_on} went on, {late} of them with something late, {refused} were folded anew"
    );
    for junk in ["", "{}", "[]", "null", "{\"last\": 3}"] {
        assert_eq!(read_record(junk), None, "{junk}");
    }
}

#[test]
fn a_moment_noted_with_its_offset_is_the_same_however_late_it_comes() {
    let now: Timestamp = "2026-12-11T15:00:00Z".parse().unwrap();
    let happened = now - SignedDuration::from_mins(12);
    for off_s in [-86_400, -45, 0, 7, 3600] {
        let sender = |at: Timestamp| (at - SignedDuration::from_secs(off_s)).to_string();
        let event = json!({"id": "0192f0c1-0000-7000-8000-000000000001", "at": sender(happened), "offset_ms": off_s * 1000, "what": "felt", "feel": "dry"});
        for late_min in [0, 1, 50, 600] {
            let arrives = now + SignedDuration::from_mins(late_min);
            let read = read_events(&json!({"sent_at": sender(now), "events": [event.clone()]}), arrives).unwrap();
            assert_eq!((read.events[0].at, read.moved), (happened, SignedDuration::ZERO), "off by {off_s} s, {late_min} min late");
            assert_eq!(read.events[0].as_said(), happened - SignedDuration::from_secs(off_s));
        }
    }
    for junk in [json!(0.5), json!(1e13), json!(-1e13)] {
        let event =
            json!({"id": "0192f0c1-0000-7000-8000-000000000001", "at": now.to_string(), "offset_ms": junk, "what": "felt", "feel": "dry"});
        let problems = read_events(&json!({"events": [event]}), now).unwrap_err().problems;
        assert_eq!(problems[0].field, "events[0].offset_ms", "{junk}");
    }
}

#[test]
fn no_instant_from_outside_leaves_the_calendar() {
    let now: Timestamp = "2026-12-11T15:00:00Z".parse().unwrap();
    let far = ["-009999-01-02T01:59:59Z", "9999-12-30T22:00:00Z", "1999-12-31T23:59:59Z", "2200-01-01T00:00:00Z"];
    let (mut refused, mut asked) = (0, 0);
    for sent in far.iter().copied().chain(["2000-01-01T00:00:00Z", "2199-12-31T23:59:59Z", "2026-12-11T15:00:00Z"]) {
        for at in far {
            for offset in [json!(null), json!(4e12), json!(-4e12)] {
                let event =
                    json!({"id": "0192f0c1-0000-7000-8000-000000000001", "at": at, "offset_ms": offset, "what": "felt", "feel": "dry"});
                asked += 1;
                refused += usize::from(read_events(&json!({"sent_at": sent, "events": [event]}), now).is_err());
            }
        }
    }
    assert_eq!((refused, asked), (84, 84));
}

#[test]
fn a_kept_plan_with_an_instant_that_cannot_be_read_says_so() {
    let piece = &every_piece()[0];
    for broken in ["soon", "", "1969-12-31T00:00:00+00:00[UTC]", "2300-01-01T00:00:00+00:00[UTC]"] {
        let spoil: [fn(&mut PlanDoc) -> &mut String; 4] = [
            |plan| &mut plan.serve_at,
            |plan| &mut plan.fridge.to,
            |plan| &mut plan.steps.last_mut().unwrap().ends_at,
            |plan| &mut plan.steps[0].starts_at,
        ];
        for field in spoil {
            let mut plan = piece.doc.clone();
            *field(&mut plan) = broken.into();
            let refused = run_plan(&plan, &json!({"piece": {"cut": piece.name}}), 1, |air| air).map(|_| ()).unwrap_err();
            assert!(refused.to_string().contains(broken), "{refused}");
        }
    }
}

#[test]
fn a_phone_ten_minutes_off_changes_nothing_but_what_it_says() {
    let now: Timestamp = "2026-12-11T15:00:00Z".parse().unwrap();
    let batch = |off: i64| {
        let at = |min: i64| (now + SignedDuration::from_mins(min + off)).to_string();
        json!({"sent_at": at(0), "events": [
            {"id": "0192f0c1-0000-7000-8000-000000000001", "at": at(-20), "what": "task-ended", "task": "dry"},
            {"id": "0192f0c1-0000-7000-8000-000000000002", "at": at(-4), "noted_at": at(-1), "what": "salt-on", "task": "salt", "bowl": "meat", "g": 9.1}]})
    };
    let right = read_events(&batch(0), now).unwrap();
    for off in [-10, 10] {
        let wrong = read_events(&batch(off), now).unwrap();
        assert_eq!(heard(&wrong.events), heard(&right.events), "{off} min");
        assert_eq!(wrong.moved, SignedDuration::from_mins(-off), "and it is said");
    }
    // Half a minute is within what clocks differ by, and stands as it was said.
    let mut near = batch(0);
    near["sent_at"] = (now - SignedDuration::from_secs(20)).to_string().into();
    assert_eq!(read_events(&near, now).unwrap().events, right.events);
    // Without a clock of its own to compare, six minutes ahead is refused.
    let ahead = json!({"events": [{"id": "0192f0c1-0000-7000-8000-000000000003", "at": (now + SignedDuration::from_mins(6)).to_string(), "what": "felt", "feel": "dry"}]});
    assert_eq!(read_events(&ahead, now).unwrap_err().problems[0].field, "events[0].at");
}

#[test]
fn every_kind_of_event_comes_back_as_it_was_and_junk_is_refused_at_its_path() {
    use rauchkeller_contract::{EVENT_KINDS, event_value};
    let now: Timestamp = "2026-12-11T15:00:00Z".parse().unwrap();
    let more = json!({"id": "0192f0c1-0000-7000-8000-000000000001", "at": "2026-12-11T14:00:00Z", "noted_at": "2026-12-11T14:00:00Z"});
    let each = [
        json!({"what": "task-began", "task": "chill"}),
        json!({"what": "task-ended", "task": "dry-2"}),
        json!({"what": "bowl-tared", "bowl": "meat", "gross_g": 180.2, "scale": "0192f0c1-0000-7000-8000-000000000009"}),
        json!({"what": "bowl-weighed", "bowl": "meat", "g": 9.9}),
        json!({"what": "salt-on", "task": "salt", "bowl": "meat", "g": 9.9, "purity": 0.97}),
        json!({"what": "salt-off", "g": 3.0}),
        json!({"what": "really-on", "g": 17.5, "purity": 1.0}),
        json!({"what": "tub-weighed", "before_g": 812.0, "after_g": 790.0}),
        json!({"what": "knife-run", "task": "pierce", "hand": "begin", "tool": "pick", "amount": 1800.0, "picks": 5}),
        json!({"what": "weighed", "gross_g": 3058.1, "tare_g": 640.0, "fineness_g": 0.1, "from_scale": true, "doubt": "tray-missing", "off_g": -640.0}),
        json!({"what": "felt", "feel": "parchment"}),
        json!({"what": "core-read", "core_c": 49.0}),
        json!({"what": "moved", "place": "refrigerator"}),
        json!({"what": "refrigerator-warm", "since": "2026-12-11T12:00:00Z", "air_c": 14.0}),
        json!({"what": "plan-revised", "over": 1, "version": 2}),
        json!({"what": "tasted", "bad_patches": 257, "rim": 1, "middle": 0, "juice": -1, "advice": "more holes"}),
        json!({"what": "note", "text": "the butcher’s own"}),
        json!({"what": "answered", "question": "two-values:00", "how": "as-noted"}),
        json!({"what": "voided", "event": "0192f0c1-0000-7000-8000-000000000002"}),
    ];
    assert_eq!(each.len(), EVENT_KINDS.len());
    for said in &each {
        let body: Value = said.as_object().unwrap().iter().filter(|(k, _)| *k != "what").map(|(k, v)| (k.clone(), v.clone())).collect();
        let what = read_event_body(said["what"].as_str().unwrap(), &body).unwrap_or_else(|p| panic!("{said}: {p:?}"));
        let mut sent = event_value(&Event::new(EventId(uuid_of(&more)), at(&more), at(&more), what));
        for (key, value) in more.as_object().unwrap() {
            assert_eq!(&sent[key], value);
            sent.as_object_mut().unwrap().remove(key);
        }
        assert_eq!(&sent, said);
    }
    let refused = |entry: Value| {
        let mut entry = entry;
        for (key, value) in more.as_object().unwrap() {
            if entry.get(key).is_none() {
                entry[key] = value.clone();
            }
        }
        read_events(&json!({"events": [entry]}), now).unwrap_err().problems.iter().map(|p| p.field.clone()).collect::<Vec<_>>()
    };
    for (entry, field) in [
        (json!({"what": "danced"}), "events[0].what"),
        (json!({}), "events[0].what"),
        (json!({"what": "task-ended"}), "events[0].task"),
        (json!({"what": "salt-on", "g": -3}), "events[0].g"),
        (json!({"what": "salt-on", "g": "some"}), "events[0].g"),
        (json!({"what": "felt", "feel": "fine"}), "events[0].feel"),
        (json!({"what": "tub-weighed", "before_g": 700, "after_g": 800}), "events[0].after_g"),
        (json!({"what": "voided", "event": "mine"}), "events[0].event"),
        (json!({"what": "plan-revised", "over": 1, "version": 2}), "events[0].what"),
        (json!({"what": "felt", "feel": "dry", "color": "brown"}), "events[0].color"),
        (json!({"what": "felt", "feel": "dry", "id": "7"}), "events[0].id"),
        (json!({"what": "felt", "feel": "dry", "at": "noon"}), "events[0].at"),
        (json!({"what": "core-read", "core_c": 900}), "events[0].core_c"),
    ] {
        let fields = refused(entry.clone());
        assert!(fields.iter().any(|f| f == field), "{entry}: {fields:?}");
    }
    assert_eq!(read_events(&json!({}), now).unwrap_err().problems[0].field, "events");
    let many: Vec<Value> = (0..201).map(|_| json!({})).collect();
    assert_eq!(read_events(&json!({"events": many}), now).unwrap_err().problems[0].field, "events");
}

/// What counts of events: not what the sender's own clock said.
fn heard(events: &[Event]) -> Vec<Event> {
    events.iter().map(|e| Event { said_at: None, ..e.clone() }).collect()
}

fn uuid_of(value: &Value) -> u128 {
    u128::from_str_radix(&value["id"].as_str().unwrap().replace('-', ""), 16).unwrap()
}

fn at(value: &Value) -> Timestamp {
    value["at"].as_str().unwrap().parse().unwrap()
}

#[test]
fn what_came_with_too_little_salt_is_salted_since_then_and_stays_so() {
    // Ten grams went on at half past six; a belly of 2.4 kg at 7.5 g/kg wants 18.
    let request = json!({"piece": {"cut": "pork-belly", "weight_g": 2400, "bought_on": "2026-12-09"},
        "serve_at": "2026-12-12T18:00[Europe/Vienna]", "done": [{"kind": "salt", "at": "2026-12-10T06:30[Europe/Vienna]", "g": 10}]});
    let piece = kept(&request);
    let since_of = |doc: &StandingDoc| doc.salt_since.as_ref().unwrap().parse::<ZonedDateTime>().unwrap().timestamp();
    let since = "2026-12-10T05:30:00Z".parse::<Timestamp>().unwrap();
    let came = doc(&piece, &[], piece.now.timestamp());
    assert_eq!((since_of(&came), came.on_g, came.next[0].task.as_str()), (since, Some(10.0), "top-up"));
    assert!(came.in_g.unwrap() > 0.0 && came.in_g.unwrap() <= 10.0);
    // The eight that are missing go on an hour later: more is on it, and since when has not changed.
    let later = piece.now.timestamp() + SignedDuration::from_hours(1);
    let topped = doc(&piece, &[event(1, later, What::TaskEnded { task: "top-up".into() })], later + SignedDuration::from_hours(2));
    assert_eq!(since_of(&topped), since);
    assert!((topped.on_g.unwrap() - 18.0).abs() < 0.01, "{topped:?}");
    // What is weighed for it counts, not what was planned: one gram less from one of its bowls.
    let bowl = bowls_of(&piece.doc).into_iter().find(|bowl| bowl.task == "top-up").unwrap();
    let weighed = What::BowlWeighed { bowl: bowl.id, grams: grams(bowl.target_g - 1.0), scale: None };
    let less = [event(1, later - SignedDuration::from_mins(2), weighed), event(2, later, What::TaskEnded { task: "top-up".into() })];
    let less = doc(&piece, &less, later + SignedDuration::from_hours(2));
    assert!((less.on_g.unwrap() - 17.0).abs() < 0.03 && since_of(&less) == since, "{less:?}");
}
