//! A stretch of work with knife or pick, folded from what the hands did.

use super::event::KnifeHand;
use super::record::Record;
use crate::units::{Time, TimeIn};
use jiff::Timestamp;

/// Nobody loses more picks than this in one piece.
const MOST_MISSED: u32 = 3;

/// A stretch of work on one task.
#[derive(Debug, Clone, PartialEq)]
pub struct Stretch {
    /// Stable name of the tool.
    pub tool: String,
    /// Presses, or centimetres of cut.
    pub amount: f64,
    /// When the hands began.
    pub started: Timestamp,
    /// Since when they pause, if they do.
    pub held_since: Option<Timestamp>,
    /// Pauses before that, s.
    pub held_s: f64,
    /// How far the light was sent back, s.
    pub back_s: f64,
    /// When they were done.
    pub stopped: Option<Timestamp>,
    /// Picks laid out.
    pub picks_out: Option<u32>,
    /// Picks that are missing.
    pub missing: u32,
    /// Whether the point slipped into the lean.
    pub slipped: bool,
}

impl Stretch {
    /// The stretch on a task; `None` where the hands never began. Beginning twice keeps the first moment.
    pub fn of(record: &Record, task: &str) -> Option<Self> {
        let mut stretch: Option<Self> = None;
        for fact in record.knife.iter().filter(|fact| fact.says.0 == task) {
            match (&mut stretch, &fact.says.1) {
                (None, KnifeHand::Begin { tool, amount, picks }) => {
                    stretch = Some(Self {
                        tool: tool.clone(),
                        amount: *amount,
                        started: fact.at,
                        held_since: None,
                        held_s: 0.0,
                        back_s: 0.0,
                        stopped: None,
                        picks_out: *picks,
                        missing: 0,
                        slipped: false,
                    });
                }
                (Some(stretch), hand) => stretch.moved(hand, fact.at),
                (None, _) => {}
            }
        }
        stretch
    }

    fn moved(&mut self, hand: &KnifeHand, at: Timestamp) {
        // A pause ends with whatever the hand does next.
        let pause = self.held_since.map_or(0.0, |since| at.duration_since(since).as_secs_f64().max(0.0));
        match hand {
            KnifeHand::Begin { .. } => {}
            KnifeHand::Hold => {
                self.held_since.get_or_insert(at);
            }
            KnifeHand::GoOn => {
                self.held_since = None;
                self.held_s += pause;
            }
            KnifeHand::Back(by) => self.back_s = (self.back_s + by.in_s().clamp(0.0, 3600.0)).min(self.worked_s(at)),
            KnifeHand::Missing => {
                let most = self.picks_out.unwrap_or(0).min(MOST_MISSED);
                self.missing = if self.missing < most { self.missing + 1 } else { 0 };
            }
            KnifeHand::Slipped => self.slipped = !self.slipped,
            KnifeHand::Stop => {
                self.held_since = None;
                self.held_s += pause;
                self.stopped.get_or_insert(at);
            }
            KnifeHand::GoOnAgain => {
                // The time between done and not done was no work.
                let gone = self.stopped.map_or(0.0, |stopped| at.duration_since(stopped).as_secs_f64().max(0.0));
                self.held_s += gone;
                self.stopped = None;
                self.missing = 0;
            }
        }
    }

    /// Seconds of work until `now`, pauses left out.
    pub fn worked_s(&self, now: Timestamp) -> f64 {
        let end = self.stopped.unwrap_or(now);
        let pause = self.held_since.map_or(0.0, |since| end.duration_since(since).as_secs_f64().max(0.0));
        (end.duration_since(self.started).as_secs_f64() - self.held_s - pause).max(0.0)
    }

    /// How long the work took, where it is over.
    pub fn took(&self) -> Option<Time> {
        self.stopped.map(|stopped| crate::units::minutes(self.worked_s(stopped) / 60.0))
    }
}
