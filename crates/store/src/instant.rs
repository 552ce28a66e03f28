//! Instants: microseconds in `datetime(6)` columns, UTC.

use jiff::Timestamp;
use sea_orm::DeriveValueType;
use time::{OffsetDateTime, PrimitiveDateTime};

/// A moment as the database keeps it. MariaDB's own `timestamp` ends in 2038; this does not.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, DeriveValueType)]
pub struct Instant(pub PrimitiveDateTime);

impl From<Timestamp> for Instant {
    /// Cut to microseconds, the column's own step.
    fn from(at: Timestamp) -> Self {
        let nanos = i128::from(at.as_microsecond()) * 1000;
        let utc = OffsetDateTime::from_unix_timestamp_nanos(nanos).unwrap_or(OffsetDateTime::UNIX_EPOCH);
        Self(PrimitiveDateTime::new(utc.date(), utc.time()))
    }
}

impl Instant {
    /// Back to jiff.
    pub fn timestamp(self) -> Timestamp {
        let micros = self.0.assume_utc().unix_timestamp_nanos() / 1000;
        i64::try_from(micros).ok().and_then(|m| Timestamp::from_microsecond(m).ok()).unwrap_or(Timestamp::UNIX_EPOCH)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn instants_survive_to_the_microsecond_and_past_2038() {
        for text in ["2026-12-10T08:00:00.123456Z", "2040-01-01T00:00:00Z", "1999-12-31T23:59:59.999999Z"] {
            let at: Timestamp = text.parse().unwrap();
            assert_eq!(Instant::from(at).timestamp(), at);
        }
    }
}
