//! The run against plain counting: where a piece was, how long it was out, what follows, what is on it, what is asked.

use super::*;
use crate::method::{Place, SaltEffect, StepKind};
use crate::units::{MassIn, Share, grams, hours, minutes};
use crate::work::Lasts;
use jiff::{SignedDuration, Timestamp};

fn at(text: &str) -> Timestamp {
    format!("2026-12-{text}:00Z").parse().unwrap()
}

/// A row of tasks as the trade has it: worked on from 15:00 to 15:20, in the cold until 16:00 the next day, on the table at 19:00.
fn plan() -> RunPlan {
    let task = |kind: StepKind, place, from: &str, to: &str, lasts| RunTask {
        id: kind.id().into(),
        kind,
        title: kind.id().into(),
        place,
        tick: kind.tick(),
        lasts,
        beside: (kind == StepKind::Preheat).then(|| "roast".to_owned()),
        starts: at(from),
        ends: at(to),
        hands_on: minutes(2.0),
        salts: (kind == StepKind::Salt).then_some(SaltEffect::On),
    };
    let (fixed, bench, cold, fire, table) = (Lasts::Fixed, Place::Bench, Place::Refrigerator, Place::Fire, Place::Table);
    let tasks = vec![
        task(StepKind::LayOut, bench, "11T15:00", "11T15:05", fixed),
        task(StepKind::Dry, bench, "11T15:05", "11T15:08", fixed),
        task(StepKind::Salt, bench, "11T15:08", "11T15:18", fixed),
        task(StepKind::Wash, bench, "11T15:18", "11T15:20", fixed),
        task(StepKind::Chill, cold, "11T15:20", "12T16:00", Lasts::Elastic),
        task(StepKind::Preheat, bench, "12T16:10", "12T16:30", fixed),
        task(StepKind::Temper, bench, "12T16:00", "12T16:25", fixed),
        task(StepKind::BrushDry, bench, "12T16:25", "12T16:30", fixed),
        task(StepKind::Roast, fire, "12T16:30", "12T18:30", Lasts::Until),
        task(StepKind::Rest, table, "12T18:30", "12T18:50", fixed),
        task(StepKind::Carve, table, "12T18:50", "12T19:00", fixed),
    ];
    let bowl = |id: &str, g| RunBowl { id: id.into(), name: id.into(), task: "salt".into(), target: grams(g), mix: false, besides: None };
    RunPlan {
        version: 1,
        request: None,
        tasks,
        bowls: vec![bowl("meat", 9.0), bowl("cut", 6.0)],
        purity: Share(1.0),
        mix: None,
        cold_to: at("12T16:00"),
        hours: (hours(12.0), hours(48.0)),
        serve_at: at("12T19:00"),
        air: None,
    }
}

struct Notes(Vec<Event>);

impl Notes {
    fn new() -> Self {
        Self(vec![])
    }

    fn and(mut self, when: &str, what: What) -> Self {
        let id = EventId(self.0.len() as u128 + 1);
        self.0.push(Event::new(id, at(when), at(when), what));
        self
    }

    fn tick(self, when: &str, task: &str) -> Self {
        let begins = plan().task(task).unwrap().tick == crate::method::Tick::Begins;
        let task = task.to_owned();
        self.and(when, if begins { What::TaskBegan { task } } else { What::TaskEnded { task } })
    }

    fn stand(&self, when: &str) -> Standing {
        stand(&plan(), &self.0, at(when))
    }
}

fn salted() -> Notes {
    Notes::new()
        .tick("11T15:05", "lay-out")
        .tick("11T15:08", "dry")
        .tick("11T15:18", "salt")
        .tick("11T15:20", "wash")
        .tick("11T15:22", "chill")
}

fn out_min(stand: &Standing) -> i64 {
    stand.out.sum.as_mins()
}

#[test]
fn time_out_of_the_refrigerator_is_one_sum_over_both_stretches() {
    let stands = salted().tick("12T16:00", "temper").stand("12T16:10");
    // By hand: 15:05 to 15:22, and ten minutes so far.
    assert_eq!((out_min(&stands), stands.out.since, stands.place), (27, Some(at("12T16:00")), Place::Bench));
    // Brushing does not end it; the heat does.
    let roasting = salted().tick("12T16:00", "temper").tick("12T16:28", "brush-dry").tick("12T16:33", "roast");
    assert_eq!((out_min(&roasting.stand("12T16:32")), out_min(&roasting.stand("12T18:00"))), (49, 50));
    // Straight from the cold, without standing out, brushing counts from its beginning.
    let straight = salted().tick("12T16:30", "brush-dry").tick("12T16:34", "roast").stand("12T17:00");
    assert_eq!(out_min(&straight), 17 + 9);
    assert_eq!((out_min(&Notes::new().stand("12T16:10")), Notes::new().stand("12T16:10").place), (0, Place::Refrigerator));
}

/// The row with a hold of forty minutes before carving, and something to do beside the heat and after the meal.
fn held() -> RunPlan {
    let mut plan = plan();
    let task = |of: &str, kind: StepKind, place, from: &str, to: &str, beside: Option<&str>| {
        let like = plan.tasks.iter().find(|t| t.id == of).unwrap().clone();
        let lasts = if kind == StepKind::Hold { Lasts::Elastic } else { Lasts::Fixed };
        let (id, title) = (kind.id().to_owned(), kind.id().to_owned());
        let beside = beside.map(str::to_owned);
        RunTask { id, title, kind, place, tick: kind.tick(), lasts, beside, starts: at(from), ends: at(to), ..like }
    };
    let hold = task("carve", StepKind::Hold, Place::HotHold, "12T18:10", "12T18:50", None);
    let baste = task("roast", StepKind::Baste, Place::Fire, "12T17:00", "12T17:01", Some("roast"));
    let glaze = task("roast", StepKind::Glaze, Place::Fire, "12T17:40", "12T17:42", Some("roast"));
    let left = task("carve", StepKind::Leftovers, Place::Table, "12T20:55", "12T21:00", Some("carve"));
    for (id, from, to) in [("roast", "12T16:30", "12T17:50"), ("rest", "12T17:50", "12T18:10")] {
        let task = plan.tasks.iter_mut().find(|t| t.id == id).unwrap();
        (task.starts, task.ends) = (at(from), at(to));
    }
    let carve = plan.tasks.len() - 1;
    plan.tasks.insert(carve, hold);
    plan.tasks.extend([baste, glaze, left]);
    plan
}

#[test]
fn a_hold_takes_up_what_is_early_or_late_and_what_is_beside_moves_along() {
    let plan = held();
    let due = |notes: &Notes, when: &str, task: &str| {
        stand(&plan, &notes.0, at(when)).next.iter().find(|d| plan.tasks[d.task].id == task).map(|d| d.at)
    };
    let at_the_heat = |when: &str| salted().tick("12T16:00", "temper").tick(when, "roast");
    // In the heat twenty minutes late: out of it twenty minutes late, carved when it was to be, and eaten on time.
    let late = at_the_heat("12T16:50");
    assert_eq!((due(&late, "12T16:51", "rest"), due(&late, "12T16:51", "carve")), (Some(at("12T18:10")), Some(at("12T18:50"))));
    // Ten minutes early the hold is longer; an hour late it is none, and the table waits.
    assert_eq!(due(&at_the_heat("12T16:20"), "12T16:21", "carve"), Some(at("12T18:50")));
    assert_eq!(due(&at_the_heat("12T17:30"), "12T17:31", "carve"), Some(at("12T19:10")));
    // Basting counts from its beginning, a glaze from its end; leftovers from the meal.
    assert_eq!((due(&late, "12T16:51", "baste"), due(&late, "12T16:51", "glaze")), (Some(at("12T17:20")), Some(at("12T18:00"))));
    assert_eq!(due(&late, "12T16:51", "leftovers"), Some(at("12T20:55")));
    // Once it rests nothing is done at the heat any more; what was ticked is done.
    let rests = Notes(late.0.clone()).and("12T18:12", What::TaskBegan { task: "rest".into() });
    assert_eq!((due(&rests, "12T18:15", "glaze"), due(&rests, "12T18:15", "leftovers")), (None, Some(at("12T20:55"))));
    let basted = Notes(late.0.clone()).and("12T17:20", What::TaskEnded { task: "baste".into() });
    assert_eq!(due(&basted, "12T17:21", "baste"), None);
}

#[test]
fn knife_work_starts_the_clock_and_salt_weighed_ahead_does_not() {
    // The first touch without laying out: out for as long as that takes.
    let dried = Notes::new().tick("11T15:30", "dry").stand("11T15:40");
    assert_eq!((out_min(&dried), dried.out.since), (13, Some(at("11T15:27"))));
    // Weighed and laid out the day before: the meat lies where it lay.
    let ahead = Notes::new().tick("10T20:00", "lay-out");
    let stands = ahead.stand("11T09:00");
    assert_eq!((out_min(&stands), stands.place, stands.out.since), (0, Place::Refrigerator, None));
    assert_eq!(stands.next.iter().map(|d| plan().tasks[d.task].id.clone()).next().as_deref(), Some("dry"), "it is done all the same");
    // Followed by the work within the hour it was its beginning, however early.
    let early = Notes::new().tick("11T09:00", "lay-out").tick("11T09:20", "dry").stand("11T09:30");
    assert_eq!((out_min(&early), early.place), (30, Place::Bench));
}

#[test]
fn what_is_late_moves_what_follows_and_the_cold_takes_up_the_rest() {
    // Salted two hours late: in the cold later, out of it as planned.
    let late = Notes::new().tick("11T17:05", "lay-out").tick("11T17:08", "dry");
    let stands = late.stand("11T17:08");
    let due = |stands: &Standing, task: &str| stands.next.iter().find(|d| plan().tasks[d.task].id == task).map(|d| d.at);
    assert_eq!(
        (due(&stands, "salt"), due(&stands, "chill"), due(&stands, "temper")),
        (Some(at("11T17:08")), Some(at("11T17:20")), Some(at("12T16:00")))
    );
    assert_eq!(stands.meal_late(&plan()), SignedDuration::ZERO);
    // Out of it 25 min late: everything after it follows, the oven too.
    let stands = salted().tick("12T16:25", "temper").stand("12T16:26");
    assert_eq!(
        (due(&stands, "roast"), due(&stands, "preheat"), due(&stands, "carve")),
        (Some(at("12T16:55")), Some(at("12T16:35")), Some(at("12T19:15")))
    );
    assert_eq!(stands.meal_late(&plan()).as_mins(), 25);
    // Half an hour early, too.
    assert_eq!(salted().tick("12T15:30", "temper").stand("12T15:31").meal_late(&plan()).as_mins(), -30);
    // Not ticked yet and overdue, it is late, and what follows starts from now.
    let stands = salted().stand("12T16:40");
    assert_eq!((stands.next[0].late.as_mins(), due(&stands, "brush-dry"), stands.place), (40, Some(at("12T17:05")), Place::Refrigerator));
}

#[test]
fn salt_is_what_went_on_and_an_absolute_is_said_once() {
    let on = |notes: Notes| {
        let stands = notes.stand("12T10:00");
        let on = stands.on.unwrap();
        (on.really.grams.map(MassIn::in_g), on.really.changes.iter().map(|c| c.by.in_g()).sum::<f64>(), on.since)
    };
    // Ticked without weighing: as planned, which nobody knows by the gram.
    assert_eq!(on(salted()), (None, 0.0, at("11T15:18")));
    let bowl = |id: &str, g: f64| What::SaltOn { task: Some("salt".into()), bowl: Some(id.into()), grams: grams(g), purity: None };
    let weighed = || salted().and("11T15:12", bowl("meat", 9.4)).and("11T15:15", bowl("cut", 6.2)).and("11T15:16", bowl("cut", 99.0));
    let (grams_on, changed, since) = on(weighed());
    assert!((grams_on.unwrap() - 15.6).abs() < 1e-9 && changed == 0.0 && since == at("11T15:12"), "each bowl once, the first counts");
    // Really 20 g, said twice, is 20 g; and 3 g more after it are 23.
    let really = |notes: Notes, when: &str| notes.and(when, What::ActualSalt { grams: grams(20.0), purity: None });
    let twice = really(really(weighed(), "11T15:18"), "11T15:18");
    assert!((on(twice).1 - 4.4).abs() < 1e-9);
    let more = really(weighed(), "11T15:18").and("12T09:00", What::SaltOn { task: None, bowl: None, grams: grams(3.0), purity: None });
    assert!((on(more).1 - 7.4).abs() < 1e-9);
    // The tub beats the bowls.
    let tub = weighed().and("11T16:00", What::TubWeighed { before: Some(grams(800.0)), after: Some(grams(770.0)), mix_left: None });
    assert!((on(tub).0.unwrap() - 30.0).abs() < 1e-9);
    // More off than on is asked about, and leaves nothing.
    let off = weighed().and("12T09:00", What::SaltOff { grams: grams(25.0), purity: None }).stand("12T10:00");
    assert_eq!(off.asked.iter().map(|a| a.code).collect::<Vec<_>>(), [AskedCode::MoreOff]);
}

#[test]
fn what_contradicts_itself_is_asked_until_it_is_answered() {
    let codes = |notes: &Notes| notes.stand("12T10:00").asked.iter().map(|a| a.code).collect::<Vec<_>>();
    assert!(codes(&salted()).is_empty());
    let hasty = Notes::new().tick("11T15:05", "lay-out").tick("11T15:05", "dry").tick("11T15:05", "salt").tick("11T15:05", "wash");
    assert_eq!(codes(&hasty), [AskedCode::WithinAMinute]);
    let key = hasty.stand("12T10:00").asked[0].key.clone();
    assert!(codes(&hasty.and("11T15:30", What::Answered { question: key, how: "stands".into() })).is_empty());
    // Noted later than what comes after it, a task counts as done by then, and is asked about.
    let upset = salted().tick("12T16:40", "temper").tick("12T16:35", "brush-dry");
    let stands = upset.stand("12T17:00");
    assert_eq!((stands.asked[0].code, stands.left_cold), (AskedCode::OutOfOrder, Some(at("12T16:35"))));
    let lost = salted().and("12T09:00", What::TaskEnded { task: "turn".into() });
    assert_eq!(codes(&lost), [AskedCode::TaskLost]);
    // Out of a heat of 80 minutes (16:30 to 17:50) after 8, or after three hours: is it so? After 50 it may be.
    let out = |rest: &str| {
        let noted = salted().tick("12T16:00", "temper").tick("12T16:25", "brush-dry").tick("12T16:30", "roast").tick(rest, "rest");
        stand(&held(), &noted.0, at("12T20:00")).asked.iter().map(|a| a.code).collect::<Vec<_>>()
    };
    assert_eq!((out("12T16:38"), out("12T19:30")), (vec![AskedCode::OddHeat], vec![AskedCode::OddHeat]));
    assert!(out("12T17:20").is_empty() && out("12T18:40").is_empty());
    let bowl = |g| What::BowlWeighed { bowl: "meat".into(), grams: grams(g), scale: None };
    assert_eq!(codes(&salted().and("11T14:00", bowl(9.0)).and("11T14:30", bowl(11.0))), [AskedCode::TwoValues]);
    // Put right three times over, the salt is asked about once, and by the last two values.
    let really = |g| What::ActualSalt { grams: grams(g), purity: None };
    let twice = salted().and("11T15:30", really(16.0)).and("11T15:30", really(18.0)).and("11T15:30", really(16.0));
    let asked = twice.stand("12T10:00").asked.clone();
    let values: Vec<Vec<f64>> = asked.iter().map(|a| a.values.iter().map(|g| g.in_g().round()).collect()).collect();
    assert_eq!((values, asked[0].about.clone()), (vec![vec![18.0, 16.0]], vec![SALT_ON_IT.to_owned()]));
}

#[test]
fn a_stretch_of_the_knife_leaves_its_pauses_out() {
    let hand = |hand| What::KnifeRun { task: "pierce".into(), hand };
    let begin = KnifeHand::Begin { tool: "pick".into(), amount: 1800.0, picks: Some(5) };
    let mut notes = Notes::new().and("11T15:00", hand(begin)).and("11T15:04", hand(KnifeHand::Hold)).and("11T15:09", hand(KnifeHand::GoOn));
    // One missing, then four more taps go round: two, three, none, and one again.
    for _ in 0..5 {
        notes = notes.and("11T15:16", hand(KnifeHand::Missing));
    }
    let notes = notes.and("11T15:17", hand(KnifeHand::Stop));
    let stretch = Stretch::of(&Record::of(&notes.0), "pierce").unwrap();
    // By hand: 17 minutes less 5 of pause.
    assert_eq!((stretch.worked_s(at("11T16:00")), stretch.missing, stretch.picks_out), (720.0, 1, Some(5)));
    // Not done after all: the minute in between is no work.
    let again = notes.and("11T15:18", hand(KnifeHand::GoOnAgain)).and("11T15:19", hand(KnifeHand::Stop));
    assert_eq!(Stretch::of(&Record::of(&again.0), "pierce").unwrap().worked_s(at("11T16:00")), 780.0);
}

#[test]
fn a_circle_of_voids_ends() {
    let mut notes = Notes::new();
    for n in 0..3u128 {
        notes = notes.and("11T15:00", What::Voided(EventId((n + 1) % 3 + 1)));
    }
    assert!(live(&notes.0).len() <= 3);
}
