//! A record as it is stored, so that a piece's standing goes on from where it stood and not from its first event.
//!
//! A short form of a [`Record`], for the program alone: ids as 32 hexadecimal digits, moments in microseconds since 1970, masses
//! in grams. What it cannot hold it does not read: then all is folded from the events, which are what counts.

#![expect(clippy::type_complexity, reason = "a short form for the program alone: tuples are what is written")]
#![expect(clippy::option_option, reason = "outside: whether it can be read; inside: whether it was said")]

use jiff::Timestamp;
use rauchkeller_core::caution::WarmSpell;
use rauchkeller_core::method::Place;
use rauchkeller_core::run::{
    BowlState, Change, EventId, Fact, KnifeHand, Record, Salted, TaskState, Tasted, Ticked, Tub, Weighed, WeighingDoubt,
};
use rauchkeller_core::skin::drying::Touch;
use rauchkeller_core::units::{Mass, MassIn, Share, TemperatureIn, TimeIn, celsius, grams, minutes};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// The number of the rules by which events become a record, and of this form of it: another number, and all is folded anew.
pub const RECORD_RULES: u32 = 1;

type Id = String;
type Micros = i64;
type At<T> = (Id, Micros, T);

#[derive(Serialize, Deserialize)]
struct Doc {
    first: Option<Micros>,
    last: Option<(Micros, Id)>,
    tasks: BTreeMap<String, (Option<Micros>, Option<Micros>, Option<Id>)>,
    ticks: Vec<At<(String, bool)>>,
    bowls: BTreeMap<String, Bowl>,
    bowl_values: BTreeMap<String, Vec<At<f64>>>,
    salted: Vec<At<(String, String, f64, Option<f64>)>>,
    changes: Vec<At<(char, f64, Option<f64>)>>,
    tub: Option<(Id, Option<f64>, Option<f64>, Option<f64>)>,
    weighed: Vec<At<Scale>>,
    felt: Vec<At<String>>,
    knife: Vec<At<(String, Hand)>>,
    moved: Vec<At<String>>,
    warm: Vec<(Option<Micros>, Option<Micros>, Option<f64>)>,
    answers: BTreeMap<String, String>,
    tasted: Option<At<(Option<u16>, i8, i8, i8, String)>>,
    first_tasted: Option<Micros>,
    revised: Option<At<u32>>,
}

#[derive(Serialize, Deserialize)]
struct Bowl {
    tare: Option<(f64, Option<Id>)>,
    weighed: Option<f64>,
    used: Option<(Micros, f64)>,
}

#[derive(Serialize, Deserialize)]
struct Scale {
    gross: f64,
    tare: f64,
    fineness: f64,
    tray: Option<Id>,
    spoke: bool,
    doubt: Option<(String, f64)>,
    answer: Option<String>,
}

#[derive(Serialize, Deserialize)]
enum Hand {
    Begin(String, f64, Option<u32>),
    Hold,
    GoOn,
    Back(f64),
    Missing,
    Slipped,
    Stop,
    GoOnAgain,
}

fn hex(id: u128) -> Id {
    format!("{id:032x}")
}

fn micros(at: Timestamp) -> Micros {
    at.as_microsecond()
}

/// To the millionth, as events are stored: what is read again is then the same number.
fn millionth(of: f64) -> f64 {
    (of * 1e6).round() / 1e6
}

fn g(mass: Mass) -> f64 {
    millionth(mass.in_g())
}

fn share(of: Option<Share>) -> Option<f64> {
    of.map(|share| share.0)
}

fn write_fact<T, W>(fact: &Fact<T>, write: impl Fn(&T) -> W) -> At<W> {
    (hex(fact.id.0), micros(fact.at), write(&fact.says))
}

fn write_hand(hand: &KnifeHand) -> Hand {
    match hand {
        KnifeHand::Begin { tool, amount, picks } => Hand::Begin(tool.clone(), *amount, *picks),
        KnifeHand::Hold => Hand::Hold,
        KnifeHand::GoOn => Hand::GoOn,
        KnifeHand::Back(by) => Hand::Back(millionth(by.in_s())),
        KnifeHand::Missing => Hand::Missing,
        KnifeHand::Slipped => Hand::Slipped,
        KnifeHand::Stop => Hand::Stop,
        KnifeHand::GoOnAgain => Hand::GoOnAgain,
    }
}

/// Writes a record.
pub fn record_text(record: &Record) -> String {
    let facts_of_change = |change: &Change| match change {
        Change::On(mass, purity) => ('+', g(*mass), share(*purity)),
        Change::Off(mass, purity) => ('-', g(*mass), share(*purity)),
        Change::Really(mass, purity) => ('=', g(*mass), share(*purity)),
    };
    let bowl = |bowl: &BowlState| Bowl {
        tare: bowl.tare.map(|(mass, scale)| (g(mass), scale.map(hex))),
        weighed: bowl.weighed.map(g),
        used: bowl.used.map(|(at, mass)| (micros(at), g(mass))),
    };
    let scale = |w: &Weighed| Scale {
        gross: g(w.gross),
        tare: g(w.tare),
        fineness: g(w.fineness),
        tray: w.tray.map(hex),
        spoke: w.from_scale,
        doubt: w.doubt.as_ref().map(|doubt| (doubt.kind.clone(), g(doubt.off))),
        answer: w.answer.clone(),
    };
    let doc = Doc {
        first: record.first.map(micros),
        last: record.last.map(|(at, id)| (micros(at), hex(id.0))),
        tasks: record.tasks.iter().map(|(task, s)| (task.clone(), (s.began.map(micros), s.ended.map(micros), s.by.map(hex)))).collect(),
        ticks: record.ticks.iter().map(|fact| write_fact(fact, |t| (t.task.clone(), t.began))).collect(),
        bowls: record.bowls.iter().map(|(name, state)| (name.clone(), bowl(state))).collect(),
        bowl_values: record
            .bowl_values
            .iter()
            .map(|(name, all)| (name.clone(), all.iter().map(|f| write_fact(f, |m| g(*m))).collect()))
            .collect(),
        salted: record.salted.iter().map(|f| write_fact(f, |s| (s.task.clone(), s.bowl.clone(), g(s.grams), share(s.purity)))).collect(),
        changes: record.changes.iter().map(|f| write_fact(f, facts_of_change)).collect(),
        tub: record.tub.map(|tub| (hex(tub.id.0), tub.before.map(g), tub.after.map(g), tub.mix_left.map(g))),
        weighed: record.weighed.iter().map(|f| write_fact(f, scale)).collect(),
        felt: record.felt.iter().map(|f| write_fact(f, |touch| touch.word().to_owned())).collect(),
        knife: record.knife.iter().map(|f| write_fact(f, |(task, hand)| (task.clone(), write_hand(hand)))).collect(),
        moved: record.moved.iter().map(|f| write_fact(f, |place| place.id().to_owned())).collect(),
        warm: record.warm.iter().map(|w| (w.from.map(micros), w.to.map(micros), w.air.map(|air| millionth(air.in_c())))).collect(),
        answers: record.answers.iter().map(|(question, how)| (question.clone(), how.clone())).collect(),
        tasted: record.tasted.as_ref().map(|f| write_fact(f, |t| (t.bad_patches, t.rim, t.middle, t.juice, t.advice.clone()))),
        first_tasted: record.first_tasted.map(micros),
        revised: record.revised.as_ref().map(|f| write_fact(f, |version| *version)),
    };
    serde_json::to_string(&doc).unwrap_or_default()
}

fn read_id(id: &str) -> Option<u128> {
    u128::from_str_radix(id, 16).ok()
}

fn read_ids(id: Option<&Id>) -> Option<Option<u128>> {
    id.map_or(Some(None), |id| read_id(id).map(Some))
}

fn read_at(at: Micros) -> Option<Timestamp> {
    Timestamp::from_microsecond(at).ok()
}

fn read_maybe(at: Option<Micros>) -> Option<Option<Timestamp>> {
    at.map_or(Some(None), |at| read_at(at).map(Some))
}

fn read_facts<W, T>(all: Vec<At<W>>, read: impl Fn(W) -> Option<T>) -> Option<Vec<Fact<T>>> {
    all.into_iter().map(|(id, at, says)| Some(Fact { id: EventId(read_id(&id)?), at: read_at(at)?, says: read(says)? })).collect()
}

fn read_hand(hand: Hand) -> KnifeHand {
    match hand {
        Hand::Begin(tool, amount, picks) => KnifeHand::Begin { tool, amount, picks },
        Hand::Hold => KnifeHand::Hold,
        Hand::GoOn => KnifeHand::GoOn,
        Hand::Back(by_s) => KnifeHand::Back(minutes(by_s / 60.0)),
        Hand::Missing => KnifeHand::Missing,
        Hand::Slipped => KnifeHand::Slipped,
        Hand::Stop => KnifeHand::Stop,
        Hand::GoOnAgain => KnifeHand::GoOnAgain,
    }
}

/// Reads a record; `None` where the text is none of this form.
pub fn read_record(text: &str) -> Option<Record> {
    let doc: Doc = serde_json::from_str(text).ok()?;
    let bowl = |bowl: Bowl| {
        Some(BowlState {
            tare: match bowl.tare {
                Some((mass, scale)) => Some((grams(mass), read_ids(scale.as_ref())?)),
                None => None,
            },
            weighed: bowl.weighed.map(grams),
            used: match bowl.used {
                Some((at, mass)) => Some((read_at(at)?, grams(mass))),
                None => None,
            },
        })
    };
    let scale = |s: Scale| {
        Some(Weighed {
            gross: grams(s.gross),
            tare: grams(s.tare),
            fineness: grams(s.fineness),
            tray: read_ids(s.tray.as_ref())?,
            from_scale: s.spoke,
            doubt: s.doubt.map(|(kind, off)| WeighingDoubt { kind, off: grams(off) }),
            answer: s.answer,
        })
    };
    let task = |(task, (began, ended, by)): (String, (Option<Micros>, Option<Micros>, Option<Id>))| {
        Some((task, TaskState { began: read_maybe(began)?, ended: read_maybe(ended)?, by: read_ids(by.as_ref())? }))
    };
    let change = |(kind, mass, purity): (char, f64, Option<f64>)| {
        let (mass, purity) = (grams(mass), purity.map(Share));
        match kind {
            '+' => Some(Change::On(mass, purity)),
            '-' => Some(Change::Off(mass, purity)),
            '=' => Some(Change::Really(mass, purity)),
            _ => None,
        }
    };
    let tasted = |(bad_patches, rim, middle, juice, advice)| Some(Tasted { bad_patches, rim, middle, juice, advice });
    Some(Record {
        first: read_maybe(doc.first)?,
        last: match doc.last {
            Some((at, id)) => Some((read_at(at)?, EventId(read_id(&id)?))),
            None => None,
        },
        tasks: doc.tasks.into_iter().map(task).collect::<Option<_>>()?,
        ticks: read_facts(doc.ticks, |(task, began)| Some(Ticked { task, began }))?,
        bowls: doc.bowls.into_iter().map(|(name, state)| Some((name, bowl(state)?))).collect::<Option<_>>()?,
        bowl_values: doc
            .bowl_values
            .into_iter()
            .map(|(name, all)| Some((name, read_facts(all, |mass| Some(grams(mass)))?)))
            .collect::<Option<_>>()?,
        salted: read_facts(doc.salted, |(task, bowl, mass, purity)| {
            Some(Salted { task, bowl, grams: grams(mass), purity: purity.map(Share) })
        })?,
        changes: read_facts(doc.changes, change)?,
        tub: match doc.tub {
            Some((id, before, after, mix_left)) => {
                Some(Tub { id: EventId(read_id(&id)?), before: before.map(grams), after: after.map(grams), mix_left: mix_left.map(grams) })
            }
            None => None,
        },
        weighed: read_facts(doc.weighed, scale)?,
        felt: read_facts(doc.felt, |word| Touch::find(&word))?,
        knife: read_facts(doc.knife, |(task, hand)| Some((task, read_hand(hand))))?,
        moved: read_facts(doc.moved, |place| Place::find(&place))?,
        warm: doc
            .warm
            .into_iter()
            .map(|(from, to, air)| Some(WarmSpell { from: read_maybe(from)?, to: read_maybe(to)?, air: air.map(celsius) }))
            .collect::<Option<_>>()?,
        answers: doc.answers.into_iter().collect(),
        tasted: read_facts(doc.tasted.into_iter().collect(), tasted)?.pop(),
        first_tasted: read_maybe(doc.first_tasted)?,
        revised: read_facts(doc.revised.into_iter().collect(), Some)?.pop(),
    })
}
