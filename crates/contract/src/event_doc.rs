//! Events on the wire and as they are stored: one flat object each, `what` names the kind.

use crate::problem::Problem;
use crate::reader::{Reader, typed};
use jiff::{SignedDuration, Timestamp};
use rauchkeller_core::clock::in_calendar;
use rauchkeller_core::method::Place;
use rauchkeller_core::run::{Event, EventId, KnifeHand, WeighingDoubt, What};
use rauchkeller_core::skin::drying::Touch;
use rauchkeller_core::units::{Mass, MassIn, Share, TemperatureIn, TimeIn, celsius, grams, minutes};
use serde_json::{Map, Value, json};
use uuid::Uuid;

/// Kinds of events.
pub const EVENT_KINDS: [&str; 19] = [
    "task-began",
    "task-ended",
    "bowl-tared",
    "bowl-weighed",
    "salt-on",
    "salt-off",
    "really-on",
    "tub-weighed",
    "knife-run",
    "weighed",
    "felt",
    "core-read",
    "moved",
    "refrigerator-warm",
    "plan-revised",
    "tasted",
    "note",
    "answered",
    "voided",
];

/// The stable name of what happened.
pub fn event_kind(what: &What) -> &'static str {
    match what {
        What::TaskBegan { .. } => "task-began",
        What::TaskEnded { .. } => "task-ended",
        What::BowlTared { .. } => "bowl-tared",
        What::BowlWeighed { .. } => "bowl-weighed",
        What::SaltOn { .. } => "salt-on",
        What::SaltOff { .. } => "salt-off",
        What::ActualSalt { .. } => "really-on",
        What::TubWeighed { .. } => "tub-weighed",
        What::KnifeRun { .. } => "knife-run",
        What::Weighed { .. } => "weighed",
        What::Felt(_) => "felt",
        What::CoreRead(_) => "core-read",
        What::Moved(_) => "moved",
        What::RefrigeratorWarm { .. } => "refrigerator-warm",
        What::PlanRevised { .. } => "plan-revised",
        What::Tasted { .. } => "tasted",
        What::Note(_) => "note",
        What::Answered { .. } => "answered",
        What::Voided(_) => "voided",
    }
}

fn uuid(id: u128) -> Value {
    Uuid::from_u128(id).to_string().into()
}

/// What an event says beside its id and moment, as it is stored: nothing that is not said stands in it.
pub fn event_body(what: &What) -> Value {
    let mut body = Map::new();
    let mut put = |name: &str, value: Value| {
        if !value.is_null() {
            body.insert(name.to_owned(), value);
        }
    };
    let g = |mass: Mass| json!((mass.in_g() * 1e6).round() / 1e6);
    let maybe = |mass: Option<Mass>| mass.map_or(Value::Null, g);
    match what {
        What::TaskBegan { task } | What::TaskEnded { task } => put("task", task.as_str().into()),
        What::BowlTared { bowl, gross, scale } => {
            put("bowl", bowl.as_str().into());
            put("gross_g", g(*gross));
            put("scale", scale.map_or(Value::Null, uuid));
        }
        What::BowlWeighed { bowl, grams, scale } => {
            put("bowl", bowl.as_str().into());
            put("g", g(*grams));
            put("scale", scale.map_or(Value::Null, uuid));
        }
        What::SaltOn { task, bowl, grams, purity } => {
            put("task", task.as_deref().map_or(Value::Null, Into::into));
            put("bowl", bowl.as_deref().map_or(Value::Null, Into::into));
            put("g", g(*grams));
            put("purity", purity.map_or(Value::Null, |p| json!(p.0)));
        }
        What::SaltOff { grams, purity } | What::ActualSalt { grams, purity } => {
            put("g", g(*grams));
            put("purity", purity.map_or(Value::Null, |p| json!(p.0)));
        }
        What::TubWeighed { before, after, mix_left } => {
            put("before_g", maybe(*before));
            put("after_g", maybe(*after));
            put("mix_left_g", maybe(*mix_left));
        }
        What::KnifeRun { task, hand } => {
            put("task", task.as_str().into());
            let name = match hand {
                KnifeHand::Begin { tool, amount, picks } => {
                    put("tool", tool.as_str().into());
                    put("amount", json!(amount));
                    put("picks", picks.map_or(Value::Null, Into::into));
                    "begin"
                }
                KnifeHand::Back(by) => {
                    put("by_s", json!(by.in_s()));
                    "back"
                }
                KnifeHand::Hold => "hold",
                KnifeHand::GoOn => "go-on",
                KnifeHand::Missing => "missing",
                KnifeHand::Slipped => "slipped",
                KnifeHand::Stop => "stop",
                KnifeHand::GoOnAgain => "go-on-again",
            };
            put("hand", name.into());
        }
        What::Weighed { gross, tare, fineness, tray, from_scale, doubt } => {
            put("gross_g", g(*gross));
            put("tare_g", g(*tare));
            put("fineness_g", g(*fineness));
            put("tray", tray.map_or(Value::Null, uuid));
            put("from_scale", (*from_scale).then_some(true).map_or(Value::Null, Into::into));
            if let Some(doubt) = doubt {
                put("doubt", doubt.kind.as_str().into());
                put("off_g", g(doubt.off));
            }
        }
        What::Felt(touch) => put("feel", touch.word().into()),
        What::CoreRead(core) => put("core_c", json!(core.in_c())),
        What::Moved(place) => put("place", place.id().into()),
        What::RefrigeratorWarm { since, until, air } => {
            put("since", since.map_or(Value::Null, |at| at.to_string().into()));
            put("until", until.map_or(Value::Null, |at| at.to_string().into()));
            put("air_c", air.map_or(Value::Null, |air| json!(air.in_c())));
        }
        What::PlanRevised { over, version } => {
            put("over", json!(over));
            put("version", json!(version));
        }
        What::Tasted { bad_patches, rim, middle, juice, advice } => {
            put("advice", if advice.is_empty() { Value::Null } else { advice.as_str().into() });
            put("bad_patches", bad_patches.map_or(Value::Null, Into::into));
            put("rim", json!(rim));
            put("middle", json!(middle));
            put("juice", json!(juice));
        }
        What::Note(text) => put("text", text.as_str().into()),
        What::Answered { question, how } => {
            put("question", question.as_str().into());
            put("how", how.as_str().into());
        }
        What::Voided(id) => put("event", uuid(id.0)),
    }
    Value::Object(body)
}

/// The whole event as it is sent.
pub fn event_value(event: &Event) -> Value {
    let mut value = event_body(&event.what);
    value["id"] = uuid(event.id.0);
    value["at"] = event.at.to_string().into();
    if let Some(said) = event.said_at {
        value["said_at"] = said.to_string().into();
    }
    value["noted_at"] = event.noted_at.to_string().into();
    value["what"] = event_kind(&event.what).into();
    value
}

/// Reads what a stored event says.
pub fn read_event_body(kind: &str, body: &Value) -> Result<What, Vec<Problem>> {
    let mut value = body.clone();
    value["what"] = kind.into();
    let mut problems = Vec::new();
    let mut reader = Reader::root(&value, &mut problems);
    let what = read_what(&mut reader, &mut problems);
    match what {
        Some(what) if problems.is_empty() => Ok(what),
        _ => Err(problems),
    }
}

const MOST_G: f64 = 60_000.0;

fn mass(from: &mut Reader, name: &'static str, problems: &mut Vec<Problem>) -> Option<Mass> {
    let g = from.number(name, "grams, 0 to 60000", problems)?;
    if (0.0..=MOST_G).contains(&g) {
        return Some(grams(g));
    }
    problems.push(Problem::new(from.field(name), format!("{g} g"), "grams, 0 to 60000", "Weigh it again."));
    None
}

/// A field that has to be there.
fn wanted<T>(found: Option<T>, from: &Reader, name: &'static str, allowed: &str, problems: &mut Vec<Problem>) -> Option<T> {
    if found.is_none() && !problems.iter().any(|p| p.field == from.field(name)) {
        problems.push(Problem::new(from.field(name), "nothing", allowed, "Say it, or leave the event out."));
    }
    found
}

fn name(from: &mut Reader, field: &'static str, problems: &mut Vec<Problem>) -> Option<String> {
    let text = from.text(field, "a name of 1 to 60 letters", problems)?;
    if (1..=60).contains(&text.chars().count()) {
        return Some(text.to_owned());
    }
    problems.push(Problem::new(from.field(field), typed(&text.into()), "a name of 1 to 60 letters", "Take the name the plan gives it."));
    None
}

fn id(from: &mut Reader, field: &'static str, problems: &mut Vec<Problem>) -> Option<u128> {
    let text = from.text(field, "a UUID", problems)?;
    let read = Uuid::parse_str(text).ok().map(|id| id.as_u128());
    if read.is_none() {
        problems.push(Problem::new(from.field(field), typed(&text.into()), "a UUID", "Send the id as it was given."));
    }
    read
}

/// A moment with its offset or in UTC.
fn moment(from: &mut Reader, field: &'static str, problems: &mut Vec<Problem>) -> Option<Timestamp> {
    let text = from.text(field, "an instant like 2026-12-12T18:00:00Z", problems)?;
    let read = text.trim().parse::<Timestamp>().ok().or_else(|| text.trim().parse::<jiff::ZonedDateTime>().ok().map(|at| at.timestamp()));
    let micro = read.and_then(|at| at.round(jiff::Unit::Microsecond).ok());
    let Some(at) = micro else {
        let allowed = "an instant like 2026-12-12T18:00:00Z";
        problems.push(Problem::new(from.field(field), typed(&text.into()), allowed, "Write it with Z or an offset."));
        return None;
    };
    if !in_calendar(at) {
        problems.push(Problem::new(from.field(field), typed(&text.into()), "a year from 2000 to 2199", "Check the date."));
        return None;
    }
    Some(at)
}

fn whole(from: &mut Reader, field: &'static str, range: (f64, f64), problems: &mut Vec<Problem>) -> Option<i64> {
    let n = from.number(field, "a whole number", problems)?;
    if n.fract() == 0.0 && (range.0..=range.1).contains(&n) {
        return Some(n as i64);
    }
    let allowed = format!("a whole number from {} to {}", range.0, range.1);
    problems.push(Problem::new(from.field(field), n.to_string(), allowed, "Count again."));
    None
}

fn read_what(from: &mut Reader, problems: &mut Vec<Problem>) -> Option<What> {
    let kind = from.named("what", |name| EVENT_KINDS.iter().find(|k| **k == name).copied(), &EVENT_KINDS, problems);
    let kind = wanted(kind, from, "what", &EVENT_KINDS.join(", "), problems)?;
    let purity = |from: &mut Reader, problems: &mut Vec<Problem>| {
        let share = from.number("purity", "0.05 to 1, the share of sodium chloride", problems)?;
        if !(0.05..=1.0).contains(&share) {
            problems.push(Problem::new(from.field("purity"), share.to_string(), "0.05 to 1", "Leave it out for the plan's salt."));
        }
        Some(Share(share))
    };
    match kind {
        "task-began" | "task-ended" => {
            let task = name(from, "task", problems);
            let task = wanted(task, from, "task", "the name of a task of the plan", problems);
            task.map(|task| if kind == "task-began" { What::TaskBegan { task } } else { What::TaskEnded { task } })
        }
        "bowl-tared" => {
            let (bowl, gross, scale) = (name(from, "bowl", problems), mass(from, "gross_g", problems), id(from, "scale", problems));
            let bowl = wanted(bowl, from, "bowl", "the name of a bowl", problems);
            wanted(gross, from, "gross_g", "grams", problems).zip(bowl).map(|(gross, bowl)| What::BowlTared { bowl, gross, scale })
        }
        "bowl-weighed" => {
            let (bowl, g, scale) = (name(from, "bowl", problems), mass(from, "g", problems), id(from, "scale", problems));
            let bowl = wanted(bowl, from, "bowl", "the name of a bowl", problems);
            wanted(g, from, "g", "grams", problems).zip(bowl).map(|(grams, bowl)| What::BowlWeighed { bowl, grams, scale })
        }
        "salt-on" => {
            let (task, bowl, g) = (name(from, "task", problems), name(from, "bowl", problems), mass(from, "g", problems));
            let purity = purity(from, problems);
            wanted(g, from, "g", "grams", problems).map(|grams| What::SaltOn { task, bowl, grams, purity })
        }
        "salt-off" | "really-on" => {
            let (g, purity) = (mass(from, "g", problems), purity(from, problems));
            let off = kind == "salt-off";
            wanted(g, from, "g", "grams", problems)
                .map(|grams| if off { What::SaltOff { grams, purity } } else { What::ActualSalt { grams, purity } })
        }
        "tub-weighed" => {
            let before = mass(from, "before_g", problems);
            let (after, mix_left) = (mass(from, "after_g", problems), mass(from, "mix_left_g", problems));
            if let Some((before, after)) = before.zip(after).filter(|(before, after)| after > before) {
                let said = format!("{} g after, {} g before", after.in_g(), before.in_g());
                problems.push(Problem::new(from.field("after_g"), said, "no more than before", "Weigh the tub again."));
            }
            Some(What::TubWeighed { before, after, mix_left })
        }
        _ => read_what_else(kind, from, problems),
    }
}

/// What has nothing to do with tasks and salt.
fn read_what_else(kind: &str, from: &mut Reader, problems: &mut Vec<Problem>) -> Option<What> {
    match kind {
        "knife-run" => {
            let task = name(from, "task", problems);
            let hand = read_hand(from, problems);
            wanted(task, from, "task", "the name of a task of the plan", problems)
                .zip(hand)
                .map(|(task, hand)| What::KnifeRun { task, hand })
        }
        "weighed" => {
            let (gross, tare) = (mass(from, "gross_g", problems), mass(from, "tare_g", problems).unwrap_or(grams(0.0)));
            let fineness = mass(from, "fineness_g", problems).unwrap_or(grams(1.0));
            let (tray, from_scale) = (id(from, "tray", problems), from.flag("from_scale", problems));
            let kind = name(from, "doubt", problems);
            let off = from.number("off_g", "grams", problems).map(grams);
            let doubt = kind.zip(off).map(|(kind, off)| WeighingDoubt { kind, off });
            wanted(gross, from, "gross_g", "grams", problems).map(|gross| What::Weighed { gross, tare, fineness, tray, from_scale, doubt })
        }
        "felt" => {
            let words = Touch::ALL.map(Touch::word);
            let touch = from.named("feel", Touch::find, &words, problems);
            wanted(touch, from, "feel", &words.join(", "), problems).map(What::Felt)
        }
        "core-read" => {
            let c = from.number("core_c", "−5 to 120 °C", problems);
            if let Some(c) = c.filter(|c| !(-5.0..=120.0).contains(c)) {
                problems.push(Problem::new(from.field("core_c"), format!("{c} °C"), "−5 to 120 °C", "Read the probe again."));
            }
            wanted(c, from, "core_c", "−5 to 120 °C", problems).map(|c| What::CoreRead(celsius(c)))
        }
        "moved" => {
            let places = ["bench", "refrigerator", "fire", "table"];
            let place = from.named("place", Place::find, &places, problems);
            wanted(place, from, "place", &places.join(", "), problems).map(What::Moved)
        }
        "refrigerator-warm" => {
            let (since, until) = (moment(from, "since", problems), moment(from, "until", problems));
            let air = from.number("air_c", "°C", problems).map(celsius);
            Some(What::RefrigeratorWarm { since, until, air })
        }
        "plan-revised" => {
            let (over, version) = (whole(from, "over", (1.0, 1e6), problems), whole(from, "version", (1.0, 1e6), problems));
            over.zip(version).map(|(over, version)| What::PlanRevised { over: over as u32, version: version as u32 })
        }
        "tasted" => {
            let bad = whole(from, "bad_patches", (0.0, 511.0), problems).map(|n| n as u16);
            let mut taste = |field: &'static str| whole(from, field, (-2.0, 2.0), problems).map(|n| n as i8);
            let (rim, middle, juice) = (taste("rim"), taste("middle"), taste("juice"));
            let all = rim.zip(middle).zip(juice);
            let advice: String = from.text("advice", "words", problems).unwrap_or_default().chars().take(600).collect();
            wanted(all, from, "rim", "rim, middle and juice, each −2 to 2", problems).map(|((rim, middle), juice)| What::Tasted {
                bad_patches: bad,
                rim,
                middle,
                juice,
                advice,
            })
        }
        "note" => {
            let text =
                from.text("text", "1 to 4000 letters", problems).map(str::to_owned).filter(|t| (1..=4000).contains(&t.chars().count()));
            wanted(text, from, "text", "1 to 4000 letters", problems).map(What::Note)
        }
        "answered" => {
            let question = name(from, "question", problems);
            let how = from.text("how", "an answer", problems).map(|how| how.chars().take(60).collect());
            wanted(question, from, "question", "the key of a question", problems)
                .map(|question| What::Answered { question, how: how.unwrap_or_default() })
        }
        _ => {
            let event = id(from, "event", problems);
            wanted(event, from, "event", "the id of an event of this piece", problems).map(|id| What::Voided(EventId(id)))
        }
    }
}

fn read_hand(from: &mut Reader, problems: &mut Vec<Problem>) -> Option<KnifeHand> {
    const HANDS: [&str; 8] = ["begin", "hold", "go-on", "back", "missing", "slipped", "stop", "go-on-again"];
    let hand = from.named("hand", |name| HANDS.iter().find(|h| **h == name).copied(), &HANDS, problems);
    let hand = wanted(hand, from, "hand", &HANDS.join(", "), problems)?;
    Some(match hand {
        "begin" => {
            let tool = name(from, "tool", problems).unwrap_or_default();
            let amount = from.number("amount", "presses, or centimetres of cut", problems).unwrap_or(0.0);
            let picks = whole(from, "picks", (0.0, 10_000.0), problems).map(|n| n as u32);
            KnifeHand::Begin { tool, amount, picks }
        }
        "hold" => KnifeHand::Hold,
        "go-on" => KnifeHand::GoOn,
        "back" => KnifeHand::Back(minutes(from.number("by_s", "seconds, 0 to 3600", problems).unwrap_or(0.0).clamp(0.0, 3600.0) / 60.0)),
        "missing" => KnifeHand::Missing,
        "slipped" => KnifeHand::Slipped,
        "stop" => KnifeHand::Stop,
        _ => KnifeHand::GoOnAgain,
    })
}

/// Events of one batch as sent: `{"sent_at": …, "events": […]}`.
#[derive(Debug, Clone)]
pub struct BatchRead {
    /// When the sender sent it, by its own clock.
    pub sent_at: Option<Timestamp>,
    /// By how much moments without an offset of their own were moved.
    pub moved: SignedDuration,
    /// What it holds, by the server's clock; what the sender's own said stands beside it.
    pub events: Vec<Event>,
}

/// A batch holds no more.
pub const MOST_EVENTS_SENT: usize = 200;
/// Beyond this the sender's clock is wrong, and its moments are put right by it.
const CLOCK_OFF: SignedDuration = SignedDuration::from_secs(30);
/// So far ahead a moment may lie: clocks differ.
const AHEAD: SignedDuration = SignedDuration::from_mins(5);
/// So far back one may lie.
const BACK: SignedDuration = SignedDuration::from_hours(24 * 400);
/// So far off a clock may be, ms: some hundred years.
const MOST_OFF_MS: f64 = 4e12;

/// Reads a batch, every problem at once. `now` is the server's clock.
///
/// An event says with `offset_ms` by how much the server's clock was ahead of its sender's when it was noted: then it does not
/// matter how late it arrives. Without it the moment of sending tells: where that differs from now by more than half a minute,
/// the moments are moved by the difference, and what is late on its way counts as later; [`BatchRead::moved`] says so.
pub fn read_events(value: &Value, now: Timestamp) -> Result<BatchRead, crate::Problems> {
    let mut problems = Vec::new();
    let mut root = Reader::root(value, &mut problems);
    let sent_at = moment(&mut root, "sent_at", &mut problems);
    let off = sent_at.map_or(SignedDuration::ZERO, |sent| now.duration_since(sent));
    let off = if off.abs() > CLOCK_OFF { off } else { SignedDuration::ZERO };
    let mut moved = SignedDuration::ZERO;
    let mut events = Vec::new();
    if root.get("events").is_none() {
        problems.push(Problem::new("events", "nothing", "a list of 1 to 200 events", "Send what happened."));
    }
    for mut entry in root.list("events", MOST_EVENTS_SENT, &mut problems) {
        let event_id = id(&mut entry, "id", &mut problems);
        let event_id = wanted(event_id, &entry, "id", "a UUID, version 7, of the sender's own", &mut problems);
        let own = offset(&mut entry, &mut problems);
        if own.is_none() {
            moved = off;
        }
        let right = |said: Timestamp| said.checked_add(own.unwrap_or(off)).ok().filter(|at| in_calendar(*at));
        let said = moment(&mut entry, "at", &mut problems);
        let said = wanted(said, &entry, "at", "an instant like 2026-12-12T18:00:00Z", &mut problems);
        let at = said.and_then(right);
        if said.is_some() {
            let says = at.map_or_else(|| "beyond the calendar".to_owned(), |at| at.to_string());
            if at.is_none_or(|at| at.duration_since(now) > AHEAD) {
                let remedy = "Look at the clock, and note it when it has happened.";
                problems.push(Problem::new(entry.field("at"), says, "no more than 5 minutes ahead", remedy));
            } else if at.is_some_and(|at| now.duration_since(at) > BACK) {
                problems.push(Problem::new(entry.field("at"), says, "within the last 400 days", "Check the date."));
            }
        }
        let noted_at = moment(&mut entry, "noted_at", &mut problems).and_then(right).map_or(now, |at| at.min(now));
        let what = read_what(&mut entry, &mut problems);
        if matches!(what, Some(What::PlanRevised { .. })) {
            let remedy = "Change a plan on the Bench, where its hours are looked at.";
            problems.push(Problem::new(entry.field("what"), "plan-revised", "anything else", remedy));
        }
        entry.finish(&mut problems);
        events.extend(
            event_id
                .zip(at)
                .zip(what)
                .map(|((id, at), what)| Event { said_at: said.filter(|said| *said != at), ..Event::new(EventId(id), at, noted_at, what) }),
        );
    }
    root.finish(&mut problems);
    if problems.is_empty() { Ok(BatchRead { sent_at, moved, events }) } else { Err(crate::problem::one_a_field(problems)) }
}

/// By how much the server's clock was ahead of the sender's, as the sender knew it.
fn offset(from: &mut Reader, problems: &mut Vec<Problem>) -> Option<SignedDuration> {
    const ALLOWED: &str = "whole milliseconds by which this server's clock was ahead of yours, −4·10¹² to 4·10¹²";
    let ms = from.number("offset_ms", ALLOWED, problems)?;
    if ms.fract() == 0.0 && ms.abs() <= MOST_OFF_MS {
        return Some(SignedDuration::from_millis(ms as i64));
    }
    problems.push(Problem::new(from.field("offset_ms"), ms.to_string(), ALLOWED, "Every answer of this server says its `now`."));
    None
}
