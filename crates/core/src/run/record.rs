//! What the events of a piece come to: each thing that happened once, whoever noted it how often.

use super::event::{Event, EventId, KnifeHand, WeighingDoubt, What};
use crate::caution::WarmSpell;
use crate::method::Place;
use crate::skin::drying::Touch;
use crate::units::{Mass, Share, Time};
use jiff::Timestamp;
use std::collections::{BTreeMap, HashMap, HashSet};

/// A moment and the event that says it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Fact<T> {
    /// Which event.
    pub id: EventId,
    /// The moment it was so.
    pub at: Timestamp,
    /// What it says.
    pub says: T,
}

/// What was noted of one task.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct TaskState {
    /// When it began, as noted.
    pub began: Option<Timestamp>,
    /// When it was over, as noted.
    pub ended: Option<Timestamp>,
    /// The cook whose note counts, the later of the two: the 128 bits of their id.
    pub by: Option<u128>,
}

/// What was noted of one bowl.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct BowlState {
    /// What the scale showed with the empty bowl on it, and which scale: the latest.
    pub tare: Option<(Mass, Option<u128>)>,
    /// What was weighed into it: the first.
    pub weighed: Option<Mass>,
    /// When it went on: the first; and how much.
    pub used: Option<(Timestamp, Mass)>,
}

/// The tub and the mix, as last noted.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Tub {
    /// The note.
    pub id: EventId,
    /// The tub before.
    pub before: Option<Mass>,
    /// The tub after.
    pub after: Option<Mass>,
    /// Mix left in its bowl.
    pub mix_left: Option<Mass>,
}

impl Tub {
    /// Grams that left the tub.
    pub fn taken(&self) -> Option<Mass> {
        Some(self.before? - self.after?)
    }
}

/// A weighing of the chilling piece.
#[derive(Debug, Clone, PartialEq)]
pub struct Weighed {
    /// What the scale showed.
    pub gross: Mass,
    /// The empty tray with its rack.
    pub tare: Mass,
    /// The scale's fineness.
    pub fineness: Mass,
    /// The tray of the Kit.
    pub tray: Option<u128>,
    /// Whether a scale that speaks showed it.
    pub from_scale: bool,
    /// What looked wrong with it.
    pub doubt: Option<WeighingDoubt>,
    /// What was answered.
    pub answer: Option<String>,
}

impl Weighed {
    /// Asked about, and not answered yet.
    pub fn is_open(&self) -> bool {
        self.doubt.is_some() && self.answer.is_none()
    }
}

/// A verdict as it was given.
#[derive(Debug, Clone, PartialEq)]
pub struct Tasted {
    /// Ninths of the skin that did not blister, by bits; `None` without skin.
    pub bad_patches: Option<u16>,
    /// −2 … +2.
    pub rim: i8,
    /// −2 … +2.
    pub middle: i8,
    /// −2 … +2.
    pub juice: i8,
    /// What was advised.
    pub advice: String,
}

/// Salt that went on with its salting.
#[derive(Debug, Clone, PartialEq)]
pub struct Salted {
    /// The salting.
    pub task: String,
    /// The bowl; empty where none was named.
    pub bowl: String,
    /// Grams on the scale.
    pub grams: Mass,
    /// Sodium chloride in a gram of it; `None` is the plan's salt.
    pub purity: Option<Share>,
}

/// A change of the salt outside its salting.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Change {
    /// More went on.
    On(Mass, Option<Share>),
    /// Some came off.
    Off(Mass, Option<Share>),
    /// So much is on it in all.
    Really(Mass, Option<Share>),
}

/// Everything the live events of one piece say, each list in the order of time.
///
/// A record can go on from where it stood: what happened after everything in it is added by [`Record::go_on`], as if all had
/// been folded from the first event.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Record {
    /// Tasks, by name.
    pub tasks: HashMap<String, TaskState>,
    /// Bowls, by name.
    pub bowls: BTreeMap<String, BowlState>,
    /// Salt of a salting, each bowl once.
    pub salted: Vec<Fact<Salted>>,
    /// Changes outside it.
    pub changes: Vec<Fact<Change>>,
    /// The tub.
    pub tub: Option<Tub>,
    /// Weighings.
    pub weighed: Vec<Fact<Weighed>>,
    /// Touch checks.
    pub felt: Vec<Fact<Touch>>,
    /// Hands at knife or pick: task and what they did.
    pub knife: Vec<Fact<(String, KnifeHand)>>,
    /// Moves outside the tasks.
    pub moved: Vec<Fact<Place>>,
    /// Whiles its refrigerator was too warm.
    pub warm: Vec<WarmSpell>,
    /// Answers, by question; the latest counts.
    pub answers: HashMap<String, String>,
    /// The verdict, as last given.
    pub tasted: Option<Fact<Tasted>>,
    /// The plan that stands, as last revised, and the event that made it so.
    pub revised: Option<Fact<u32>>,
    /// When a verdict was first given.
    pub first_tasted: Option<Timestamp>,
    /// Values noted for one bowl, in order, so that two can be asked about.
    pub bowl_values: BTreeMap<String, Vec<Fact<Mass>>>,
    /// Every tick as it was noted.
    pub ticks: Vec<Fact<Ticked>>,
    /// When the first thing in it happened.
    pub first: Option<Timestamp>,
    /// The last of the events that are in it, by moment and id.
    pub last: Option<(Timestamp, EventId)>,
}

/// A task ticked.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Ticked {
    /// Its name.
    pub task: String,
    /// Whether it was noted as begun, and not as over.
    pub began: bool,
}

/// The events that count, sorted by moment and id: those that are not taken back, or whose taking back was taken back.
pub fn live(events: &[Event]) -> Vec<&Event> {
    let mut voids: HashMap<EventId, Vec<EventId>> = HashMap::new();
    let mut known: HashSet<EventId> = HashSet::new();
    let mut all: Vec<&Event> = events.iter().filter(|e| known.insert(e.id)).collect();
    for event in &all {
        if let What::Voided(of) = event.what {
            voids.entry(of).or_default().push(event.id);
        }
    }
    let mut counts: HashMap<EventId, bool> = HashMap::new();
    for event in &all {
        count(event.id, &voids, &mut counts);
    }
    all.retain(|e| counts.get(&e.id).copied().unwrap_or(true));
    all.sort_by_key(|e| (e.at, e.id));
    all
}

/// Whether an event counts. Voids name only what was there before them, so the walk ends; a circle, which nothing can store,
/// counts for nothing rather than walking for ever.
fn count(id: EventId, voids: &HashMap<EventId, Vec<EventId>>, counts: &mut HashMap<EventId, bool>) -> bool {
    let mut stack = vec![id];
    while let Some(top) = stack.last().copied() {
        if counts.contains_key(&top) {
            stack.pop();
            continue;
        }
        let by: &[EventId] = voids.get(&top).map_or(&[], Vec::as_slice);
        let open = by.iter().copied().find(|v| !counts.contains_key(v));
        match open {
            Some(next) if !stack.contains(&next) => stack.push(next),
            _ => {
                let counted = !by.iter().any(|v| counts.get(v).copied().unwrap_or(false));
                counts.insert(top, counted);
                stack.pop();
            }
        }
    }
    counts.get(&id).copied().unwrap_or(true)
}

impl Record {
    /// Folds the events.
    pub fn of(events: &[Event]) -> Self {
        let mut record = Self::default();
        record.add_all(&live(events));
        record
    }

    /// Goes on with what happened after everything that is in it; `false` where it cannot, and then nothing was added: something
    /// that counts happened before its last event, or one is taken back. Then all is folded anew.
    pub fn go_on(&mut self, events: &[Event]) -> bool {
        let before = |e: &Event| self.last.is_some_and(|last| (e.at, e.id) <= last);
        if events.iter().any(|e| matches!(e.what, What::Voided(_)) || (before(e) && !only_shown(&e.what))) {
            return false;
        }
        self.add_all(&live(events));
        true
    }

    /// Ids of all events that say a task is over or begun.
    pub fn said(&self, task: &str) -> Vec<EventId> {
        self.ticks.iter().filter(|fact| fact.says.task == task).map(|fact| fact.id).collect()
    }

    /// Adds events that count, in their order.
    fn add_all(&mut self, events: &[&Event]) {
        for event in events {
            self.add(event);
        }
        for weighed in &mut self.weighed {
            weighed.says.answer = self.answers.get(&key(weighed.id)).filter(|how| !how.is_empty()).cloned();
        }
    }

    fn add(&mut self, event: &Event) {
        let (id, at) = (event.id, event.at);
        self.first = Some(self.first.map_or(at, |first| first.min(at)));
        self.last = self.last.max(Some((at, id)));
        match &event.what {
            What::TaskBegan { task } => self.tick(task, true, event),
            What::TaskEnded { task } => self.tick(task, false, event),
            What::BowlTared { bowl, gross, scale } => self.bowl(bowl).tare = Some((*gross, *scale)),
            What::BowlWeighed { bowl, grams, .. } => {
                self.bowl_values.entry(bowl.clone()).or_default().push(Fact { id, at, says: *grams });
                self.bowl(bowl).weighed.get_or_insert(*grams);
            }
            What::SaltOn { task: Some(task), bowl, grams, purity } => {
                let bowl = bowl.clone().unwrap_or_default();
                if !self.salted.iter().any(|s| s.says.task == *task && s.says.bowl == bowl) {
                    self.bowl(&bowl).used = Some((at, *grams));
                    self.salted.push(Fact { id, at, says: Salted { task: task.clone(), bowl, grams: *grams, purity: *purity } });
                }
            }
            What::SaltOn { task: None, grams, purity, .. } => self.change(id, at, Change::On(*grams, *purity)),
            What::SaltOff { grams, purity } => self.change(id, at, Change::Off(*grams, *purity)),
            What::ActualSalt { grams, purity } => self.change(id, at, Change::Really(*grams, *purity)),
            What::TubWeighed { before, after, mix_left } => {
                self.tub = Some(Tub { id, before: *before, after: *after, mix_left: *mix_left });
            }
            What::KnifeRun { task, hand } => self.knife.push(Fact { id, at, says: (task.clone(), hand.clone()) }),
            What::Weighed { gross, tare, fineness, tray, from_scale, doubt } => {
                let (tray, from_scale, doubt) = (*tray, *from_scale, doubt.clone());
                let says = Weighed { gross: *gross, tare: *tare, fineness: *fineness, tray, from_scale, doubt, answer: None };
                self.weighed.push(Fact { id, at, says });
            }
            What::Felt(touch) => self.felt.push(Fact { id, at, says: *touch }),
            What::Moved(place) => self.moved.push(Fact { id, at, says: *place }),
            What::RefrigeratorWarm { since, until, air } => self.warm.push(WarmSpell { from: *since, to: *until, air: *air }),
            What::PlanRevised { version, .. } => self.revised = Some(Fact { id, at, says: *version }),
            What::Tasted { bad_patches, rim, middle, juice, advice } => {
                let says = Tasted { bad_patches: *bad_patches, rim: *rim, middle: *middle, juice: *juice, advice: advice.clone() };
                self.first_tasted.get_or_insert(at);
                self.tasted = Some(Fact { id, at, says });
            }
            What::Answered { question, how } => drop(self.answers.insert(question.clone(), how.clone())),
            // See [`only_shown`].
            What::CoreRead(_) | What::Note(_) | What::Voided(_) => {}
        }
    }

    /// The earliest counts.
    fn tick(&mut self, task: &str, began: bool, event: &Event) {
        let state = self.tasks.entry(task.to_owned()).or_default();
        let noted = if began { &mut state.began } else { &mut state.ended };
        if noted.is_none() {
            *noted = Some(event.at);
            state.by = event.by;
        }
        self.ticks.push(Fact { id: event.id, at: event.at, says: Ticked { task: task.to_owned(), began } });
    }

    fn bowl(&mut self, id: &str) -> &mut BowlState {
        self.bowls.entry(id.to_owned()).or_default()
    }

    fn change(&mut self, id: EventId, at: Timestamp, says: Change) {
        self.changes.push(Fact { id, at, says });
    }

    /// What was noted of a task.
    pub fn task(&self, id: &str) -> TaskState {
        self.tasks.get(id).copied().unwrap_or_default()
    }

    /// The moment by which a task counts as ticked: begun for those ticked as they begin, else over.
    pub fn ticked(&self, id: &str, tick: crate::method::Tick) -> Option<Timestamp> {
        let state = self.task(id);
        match tick {
            crate::method::Tick::Begins => state.began.or(state.ended),
            crate::method::Tick::Ends => state.ended,
        }
    }
}

/// Whether an event is read where all are listed, and nothing else of a record depends on it or on its place among others.
fn only_shown(what: &What) -> bool {
    matches!(what, What::CoreRead(_) | What::Note(_))
}

/// An event as a question names it.
pub(super) fn key(id: EventId) -> String {
    format!("{:032x}", id.0)
}

/// A length of time, none where it would run backwards.
pub(super) fn between(from: Timestamp, to: Timestamp) -> Time {
    crate::clock::kitchen(to.duration_since(from).max(jiff::SignedDuration::ZERO))
}
