//! Hours in which nobody is called.

use jiff::tz::TimeZone;
use jiff::{SignedDuration, Timestamp, ZonedDateTime, civil};

/// Hours in which nobody works, wall time; may pass midnight.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Quiet {
    /// Wall time from which nobody is to be woken.
    pub from: civil::Time,
    /// Wall time at which hands are free again.
    pub to: civil::Time,
}

impl std::fmt::Display for Quiet {
    /// `22:30-06:30`.
    fn fmt(&self, to: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(to, "{}-{}", self.from.strftime("%H:%M"), self.to.strftime("%H:%M"))
    }
}

impl Quiet {
    /// Reads what its own text says.
    pub fn read(text: &str) -> Option<Self> {
        let (from, to) = text.split_once('-')?;
        Some(Self { from: from.parse().ok()?, to: to.parse().ok()? })
    }

    /// No quiet hours at all.
    pub const NONE: Self = Self { from: civil::Time::midnight(), to: civil::Time::midnight() };

    /// Whether a moment falls into it.
    pub fn holds(self, at: &ZonedDateTime) -> bool {
        self.holds_at(at.timestamp(), at.time_zone())
    }

    pub(crate) fn holds_at(self, at: Timestamp, zone: &TimeZone) -> bool {
        let time = at.to_zoned_datetime(zone.clone()).time();
        if self.from <= self.to { time >= self.from && time < self.to } else { time >= self.from || time < self.to }
    }

    /// Whether any moment from `start` until before `end` falls into it. A few intervals are held against one, however long it is.
    pub(crate) fn touches(self, start: Timestamp, end: Timestamp, zone: &TimeZone) -> bool {
        // What takes no time is looked at just before its moment.
        let start = start.min(end.checked_sub(SignedDuration::from_secs(1)).unwrap_or(end));
        if self.from == self.to {
            return false;
        }
        // Twenty-five hours hold a whole day even where the clock goes back in it.
        if end.duration_since(start) >= SignedDuration::from_hours(25) {
            return true;
        }
        let first = start.to_zoned_datetime(zone.clone()).date();
        let days = std::iter::successors(first.yesterday().ok(), |day| day.tomorrow().ok()).take(4);
        days.filter_map(|day| self.night_of(day, zone)).any(|(from, to)| start < to && from < end)
    }

    /// The quiet hours that begin on a day. Where the clock goes over their end twice they last until the second time.
    fn night_of(self, day: civil::Date, zone: &TimeZone) -> Option<(Timestamp, Timestamp)> {
        let ends_on = if self.to < self.from { day.tomorrow().ok()? } else { day };
        let from = zone.to_ambiguous_zoned_datetime(day.to_datetime(self.from)).earlier().ok()?;
        let to = zone.to_ambiguous_zoned_datetime(ends_on.to_datetime(self.to)).later().ok()?;
        Some((from.timestamp(), to.timestamp()))
    }
}
