//! Refrigerator hours by salt thickness: the house table.

use crate::numeric::interpolate;
use crate::units::{Length, LengthIn, Time, TimeIn, hours};

/// Shortest, ideal and longest useful rest.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ChillHours {
    /// Below this the rest is hardly worth the salt.
    pub shortest: Time,
    /// Where this school would stop.
    pub ideal: Time,
    /// Beyond this nothing is gained.
    pub longest: Time,
}

impl ChillHours {
    /// From three figures in hours.
    pub fn of(shortest: f64, ideal: f64, longest: f64) -> Self {
        Self { shortest: hours(shortest), ideal: hours(ideal), longest: hours(longest) }
    }
}

/// The house table TRADE 4.13: points with straight lines between.
///
/// It is about seasoned depth, not evenness. Constant below 20 mm and from 100 mm on.
///
/// ```
/// use rauchkeller_core::{salt::house_table, units::{millimetres, TimeIn}};
/// assert!((house_table(millimetres(45.0)).ideal.in_h() - 24.0).abs() < 1e-9);
/// ```
pub fn house_table(salt_thickness: Length) -> ChillHours {
    const MM: [f64; 5] = [20.0, 30.0, 45.0, 70.0, 100.0];
    const ROWS: [[f64; 5]; 3] = [[1.0, 8.0, 12.0, 18.0, 24.0], [10.0, 18.0, 24.0, 36.0, 48.0], [24.0, 36.0, 48.0, 72.0, 96.0]];
    let at = |row: [f64; 5]| {
        let points: Vec<(f64, f64)> = MM.into_iter().zip(row).collect();
        hours(interpolate(&points, salt_thickness.in_mm()))
    };
    ChillHours { shortest: at(ROWS[0]), ideal: at(ROWS[1]), longest: at(ROWS[2]) }
}

impl ChillHours {
    /// Ideal hours, as a plain number for sentences.
    pub fn ideal_h(&self) -> f64 {
        self.ideal.in_h()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::millimetres;
    use rstest::rstest;

    // TRADE 4.13, house table (common practice); 38 mm by straight line: 30 → 45 mm at 8/15.
    #[rstest]
    #[case(20.0, 1.0, 10.0, 24.0)]
    #[case(15.0, 1.0, 10.0, 24.0)]
    #[case(38.0, 8.0 + 4.0 * 8.0 / 15.0, 18.0 + 6.0 * 8.0 / 15.0, 36.0 + 12.0 * 8.0 / 15.0)]
    #[case(45.0, 12.0, 24.0, 48.0)]
    #[case(70.0, 18.0, 36.0, 72.0)]
    #[case(140.0, 24.0, 48.0, 96.0)]
    fn rows(#[case] mm: f64, #[case] shortest: f64, #[case] ideal: f64, #[case] longest: f64) {
        let rest = house_table(millimetres(mm));
        for (got, want) in [(rest.shortest, shortest), (rest.ideal, ideal), (rest.longest, longest)] {
            assert!((got.in_h() - want).abs() < 1e-9, "{mm} mm: {} is not {want}", got.in_h());
        }
    }
}
