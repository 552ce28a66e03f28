//! What happened to a piece, once and for all: events are added, never changed.

use crate::method::Place;
use crate::skin::drying::Touch;
use crate::units::{Mass, Share, Temperature, Time};
use jiff::Timestamp;

/// Which event: the 128 bits of the UUID (version 7) that whoever noted it gave it. Ids order what happened in one moment.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct EventId(pub u128);

/// Something that happened.
#[derive(Debug, Clone, PartialEq)]
pub struct Event {
    /// Its id, which whoever noted it gave.
    pub id: EventId,
    /// When it happened.
    pub at: Timestamp,
    /// The same as the sender's own clock said it, where that is another moment: by it a thing that is sent again is known.
    pub said_at: Option<Timestamp>,
    /// When it was noted; shown, and never reckoned with.
    pub noted_at: Timestamp,
    /// The cook who noted it, where one did: the 128 bits of their id. Shown, and never reckoned with.
    pub by: Option<u128>,
    /// What happened.
    pub what: What,
}

impl Event {
    /// Something that happened at a moment by a clock that is right, and was noted then or later by nobody in particular.
    pub fn new(id: EventId, at: Timestamp, noted_at: Timestamp, what: What) -> Self {
        Self { id, at, said_at: None, noted_at, by: None, what }
    }

    /// When it happened by the sender's own clock.
    pub fn as_said(&self) -> Timestamp {
        self.said_at.unwrap_or(self.at)
    }
}

/// What hands do with knife or pick.
#[derive(Debug, Clone, PartialEq)]
pub enum KnifeHand {
    /// They begin, with so many picks laid out.
    Begin {
        /// Stable name of the tool.
        tool: String,
        /// Presses, or centimetres of cut.
        amount: f64,
        /// Picks laid out, where they are counted.
        picks: Option<u32>,
    },
    /// They pause.
    Hold,
    /// They go on after a pause.
    GoOn,
    /// The light is sent back by so much.
    Back(Time),
    /// One pick more is missing; after the most anybody loses it counts from none again.
    Missing,
    /// The point slipped into the lean; noted once more it did not.
    Slipped,
    /// They are done.
    Stop,
    /// They were not done after all.
    GoOnAgain,
}

/// What looked wrong with a weighing when it was noted.
#[derive(Debug, Clone, PartialEq)]
pub struct WeighingDoubt {
    /// Stable name of what it looks like.
    pub kind: String,
    /// By how much it is off.
    pub off: Mass,
}

/// What an event takes back.
pub type Void = EventId;

/// What happened.
///
/// Amounts of salt are what the scale showed, with the share of sodium chloride in it beside them.
#[derive(Debug, Clone, PartialEq)]
pub enum What {
    /// A task began.
    TaskBegan {
        /// Its name in the plan.
        task: String,
    },
    /// A task is over.
    TaskEnded {
        /// Its name in the plan.
        task: String,
    },
    /// An empty bowl stood on a scale.
    BowlTared {
        /// The bowl's name in the plan.
        bowl: String,
        /// What the scale showed.
        gross: Mass,
        /// Which scale, so that no other one weighs into this tare.
        scale: Option<u128>,
    },
    /// A bowl was weighed out.
    BowlWeighed {
        /// The bowl's name in the plan.
        bowl: String,
        /// Grams in it.
        grams: Mass,
        /// The scale that showed them, where one was asked.
        scale: Option<u128>,
    },
    /// Salt went on. With a task it is that task's salt, a bowl once; without one it is more than before.
    SaltOn {
        /// The salting it belongs to.
        task: Option<String>,
        /// The bowl it came from, or the face it went on.
        bowl: Option<String>,
        /// Grams on the scale.
        grams: Mass,
        /// Sodium chloride in a gram of it; `None` is the plan's salt.
        purity: Option<Share>,
    },
    /// Dry salt came off.
    SaltOff {
        /// Grams on the scale.
        grams: Mass,
        /// Sodium chloride in a gram of it; `None` is the plan's salt.
        purity: Option<Share>,
    },
    /// So much loose salt is really on it, from this moment on, whatever was noted before.
    ActualSalt {
        /// Grams on the scale.
        grams: Mass,
        /// Sodium chloride in a gram of it; `None` is the plan's salt.
        purity: Option<Share>,
    },
    /// It was salted by eye: the tub before and after, and what came back of a mix. The latest counts.
    TubWeighed {
        /// The tub before.
        before: Option<Mass>,
        /// The tub after.
        after: Option<Mass>,
        /// Mix left in its bowl.
        mix_left: Option<Mass>,
    },
    /// Knife or pick were at work on a task.
    KnifeRun {
        /// Its name in the plan.
        task: String,
        /// What the hands did.
        hand: KnifeHand,
    },
    /// The piece was weighed with its rack and tray.
    Weighed {
        /// What the scale showed.
        gross: Mass,
        /// The empty tray with its rack; none is 0.
        tare: Mass,
        /// The scale's fineness.
        fineness: Mass,
        /// The tray of the Kit it lay on.
        tray: Option<u128>,
        /// Whether a scale that speaks showed it.
        from_scale: bool,
        /// What looked wrong with it.
        doubt: Option<WeighingDoubt>,
    },
    /// The skin was felt.
    Felt(Touch),
    /// The core was read.
    CoreRead(Temperature),
    /// It is in another place now, whatever its tasks say.
    Moved(Place),
    /// Its refrigerator was too warm.
    RefrigeratorWarm {
        /// Since when; `None` while nobody has said.
        since: Option<Timestamp>,
        /// Until when; `None` while it lasts.
        until: Option<Timestamp>,
        /// How warm, where somebody read it.
        air: Option<Temperature>,
    },
    /// The plan was made anew; `over` is the version it was made over.
    PlanRevised {
        /// The version that stood.
        over: u32,
        /// The version that stands.
        version: u32,
    },
    /// It was eaten and judged.
    Tasted {
        /// Ninths of the skin that did not blister; `None` without skin.
        bad_patches: Option<u16>,
        /// −2 … +2.
        rim: i8,
        /// −2 … +2.
        middle: i8,
        /// −2 … +2.
        juice: i8,
        /// What was advised for the next time.
        advice: String,
    },
    /// Words.
    Note(String),
    /// Something asked was answered.
    Answered {
        /// The question's key, or the event it is about.
        question: String,
        /// The answer.
        how: String,
    },
    /// Another event is taken back.
    Voided(Void),
}
