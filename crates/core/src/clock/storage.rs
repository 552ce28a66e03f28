//! How long raw meat keeps, and how long it thaws.

use crate::piece::Storage;
use crate::units::{Mass, MassIn, Time, hours, minutes};
use jiff::civil::Date;
use jiff::tz::TimeZone;
use jiff::{Timestamp, ToSpan};

/// Until when a piece keeps.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct StorageLimit {
    /// End of the day on which the lower figure is reached: amber from here.
    pub amber: Timestamp,
    /// End of the day on which the upper figure is reached: red past it.
    pub red: Timestamp,
}

/// What a piece's storage limit runs from.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Keeping {
    /// Days that are known.
    Until(StorageLimit),
    /// From the end of thawing: frost stops the clock.
    FromThaw(Storage),
    /// Nobody has said when it was bought.
    Unknown,
}

impl Keeping {
    /// The limits, once it is known when it will be thawed.
    pub fn limits(self, thawed: Option<Timestamp>, zone: &TimeZone) -> Option<StorageLimit> {
        match self {
            Self::Until(keeps) => Some(keeps),
            Self::FromThaw(storage) => keeps(storage, thawed.map(|at| at.to_zoned_datetime(zone.clone()).date()), None, zone),
            Self::Unknown => None,
        }
    }
}

/// Storage limits run from the day bought or thawed, or end with the label's use-by, whichever is first; a use-by counts only
/// for what was never frozen.
///
/// Source: USDA FSIS / FoodKeeper: poultry 1–2 days; beef and pork roasts, steaks, chops 3–5 days.
/// `None` when neither day is known: unknown is asked, not assumed.
pub fn keeps(storage: Storage, from: Option<Date>, use_by: Option<Date>, zone: &TimeZone) -> Option<StorageLimit> {
    let end_of = |day: Date| day.tomorrow().ok()?.to_zoned_datetime(zone.clone()).ok().map(|end| end.timestamp());
    let counted = |days: i64| from.and_then(|day| day.checked_add(days.days()).ok()).and_then(end_of);
    let label = use_by.and_then(end_of);
    let first = |days| match (counted(days), label) {
        (Some(a), Some(b)) => Some(a.min(b)),
        (a, b) => a.or(b),
    };
    Some(StorageLimit { amber: first(storage.amber_days)?, red: first(storage.red_days)? })
}

/// Thawing in the refrigerator: 24 h for every 4–5 lb of the weight as it is frozen (USDA FSIS); 4.5 lb taken, in whole hours.
pub fn thaw_time(weight: Mass) -> Time {
    hours((weight.in_lb() / 4.5 * 24.0).ceil())
}

/// Thawing under cold water: 30 min a pound of the weight as it is frozen, to the next five minutes (USDA FSIS).
pub fn thaw_time_in_water(weight: Mass) -> Time {
    // A gram more than a pound is a pound.
    minutes((weight.in_lb() * 30.0 / 5.0 - 0.02).ceil() * 5.0)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::Cut;
    use crate::units::{TimeIn, grams};
    use jiff::civil::date;

    #[test]
    fn poultry_keeps_two_days_and_the_label_may_be_sooner() {
        let zone = TimeZone::get("Europe/Vienna").unwrap();
        let storage = Cut::find("turkey-whole").unwrap().storage;
        let end = |y, m, d| date(y, m, d).to_zoned_datetime(zone.clone()).unwrap().timestamp();
        let bought = keeps(storage, Some(date(2026, 12, 10)), None, &zone).unwrap();
        assert_eq!((bought.amber, bought.red), (end(2026, 12, 12), end(2026, 12, 13)));
        let label = keeps(storage, Some(date(2026, 12, 10)), Some(date(2026, 12, 11)), &zone).unwrap();
        assert_eq!(label.red, end(2026, 12, 12));
        assert!(keeps(storage, None, None, &zone).is_none());
    }

    #[test]
    fn a_turkey_thaws_for_days() {
        // USDA FSIS: 24 h per 4–5 lb; 9 lb ÷ 4.5 = 2 days.
        assert!((thaw_time(grams(9.0 * 453.59237)).in_h() - 48.0).abs() <= 1.0);
        // In cold water 30 min a pound: 12 lb in 6 h.
        assert!((thaw_time_in_water(grams(12.0 * 453.59237)).in_h() - 6.0).abs() < 0.1);
    }
}
