//! A cook's own spoon of a cook's own salt, from weighings; and the cook's own pinch.

use crate::units::{Mass, MassIn, grams};

/// Which spoon was levelled.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum SpoonSize {
    /// US teaspoon, 4.92892 mL.
    #[default]
    UsTeaspoon,
    /// US tablespoon, three of them.
    UsTablespoon,
    /// Metric teaspoon, 5 mL.
    MetricTeaspoon,
    /// Metric tablespoon, 15 mL.
    MetricTablespoon,
}

impl SpoonSize {
    /// Every size, as it is offered.
    pub const ALL: [Self; 4] = [Self::UsTeaspoon, Self::UsTablespoon, Self::MetricTeaspoon, Self::MetricTablespoon];

    /// Volume, mL (US: NIST Handbook 44, Appendix C; metric: 5 and 15 mL).
    pub fn millilitres(self) -> f64 {
        match self {
            Self::UsTeaspoon => super::US_TEASPOON_ML,
            Self::UsTablespoon => 3.0 * super::US_TEASPOON_ML,
            Self::MetricTeaspoon => 5.0,
            Self::MetricTablespoon => 15.0,
        }
    }

    /// Stable kebab-case name.
    pub fn id(self) -> &'static str {
        match self {
            Self::UsTeaspoon => "us-tsp",
            Self::UsTablespoon => "us-tbsp",
            Self::MetricTeaspoon => "metric-tsp",
            Self::MetricTablespoon => "metric-tbsp",
        }
    }

    /// What a cook calls it.
    pub fn name(self) -> &'static str {
        match self {
            Self::UsTeaspoon => "US teaspoon (4.93 mL)",
            Self::UsTablespoon => "US tablespoon (14.8 mL)",
            Self::MetricTeaspoon => "metric teaspoon (5 mL)",
            Self::MetricTablespoon => "metric tablespoon (15 mL)",
        }
    }

    /// Looks a size up by its stable name.
    pub fn find(id: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|size| size.id() == id)
    }
}

/// What weighing some level spoons gave, all per US teaspoon.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Calibration {
    /// Mean weight of a level US teaspoon.
    pub per_teaspoon: Mass,
    /// Standard deviation from spoon to spoon; `None` after a single weighing.
    pub spread: Option<Mass>,
    /// Standard uncertainty of the mean: spread and fineness of the scale together; `None` after a single weighing, which
    /// says nothing of the spread.
    pub uncertainty: Option<Mass>,
    /// Number of weighings.
    pub weighings: usize,
}

/// Why weighings make no spoon.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum CalibrationError {
    /// None at all, or too many.
    #[error("{0} weighings; between 1 and 40 are allowed. Weigh ten level spoons, a few times if you have the patience")]
    HowMany(usize),
    /// A count of spoons that is none.
    #[error("{0} spoons a weighing; between 1 and 50 are allowed")]
    Spoons(u32),
    /// A fineness no scale has.
    #[error("a scale that shows steps of {0} g; between 0.01 and 5 g is allowed")]
    Fineness(f64),
    /// Nothing there, or below what the scale can tell.
    #[error("{0} g cannot be told from nothing on this scale; weigh more spoons at once")]
    TooLight(f64),
    /// One is far from the others.
    #[error("{0} g is more than a quarter away from the others (about {1:.1} g): was that spoon level? Weigh it again or leave it out")]
    Outlier(f64, f64),
    /// A spoonful no salt weighs.
    #[error("{0:.1} g a teaspoon; salts weigh between 0.8 and 8 g. Check the size of the spoon and how many there were")]
    NoSalt(f64),
}

/// Spoon weight from weighings of `spoons` level spoons each, grams as read, on a scale of that fineness.
///
/// With n weighings of k spoons: mean m̄, sample standard deviation s (n − 1 below). One spoon scatters by
/// s/√k; the mean is known to √(s²/n + d²/12)/k, where d²/12 is the variance of a reading rounded to d
/// (JCGM 100:2008 “GUM”, F.2.2.1). Valid for 1–40 weighings, k 1–50, d 0.01–5 g.
///
/// ```
/// use rauchkeller_core::{salt::{calibrate, SpoonSize}, units::{grams, MassIn}};
/// let found = calibrate(&[56.0], 10, SpoonSize::UsTeaspoon, grams(1.0)).unwrap();
/// assert!((found.per_teaspoon.in_g() - 5.6).abs() < 1e-9);
/// ```
pub fn calibrate(weighings_g: &[f64], spoons: u32, size: SpoonSize, fineness: Mass) -> Result<Calibration, CalibrationError> {
    let n = weighings_g.len();
    if !(1..=40).contains(&n) {
        return Err(CalibrationError::HowMany(n));
    }
    if !(1..=50).contains(&spoons) {
        return Err(CalibrationError::Spoons(spoons));
    }
    let step = fineness.in_g();
    if !(0.01..=5.0).contains(&step) {
        return Err(CalibrationError::Fineness(step));
    }
    if let Some(light) = weighings_g.iter().find(|g| !(g.is_finite() && **g > step / 2.0)) {
        return Err(CalibrationError::TooLight(*light));
    }
    let mut sorted = weighings_g.to_vec();
    sorted.sort_by(f64::total_cmp);
    let median = f64::midpoint(sorted[(n - 1) / 2], sorted[n / 2]);
    // A coarse scale may be a whole step off without the spoon being at fault.
    if let Some(far) = sorted.iter().find(|g| (**g - median).abs() > (0.25 * median).max(step * 1.01)) {
        return Err(CalibrationError::Outlier(*far, median));
    }
    let (count, each) = (n as f64, f64::from(spoons));
    let mean = weighings_g.iter().sum::<f64>() / count;
    let variance = (n > 1).then(|| weighings_g.iter().map(|g| (g - mean).powi(2)).sum::<f64>() / (count - 1.0));
    // The spoon's size only stretches the scale of the answer.
    let to_teaspoon = super::US_TEASPOON_ML / size.millilitres();
    let per_teaspoon = mean / each * to_teaspoon;
    if !(0.8..=8.0).contains(&per_teaspoon) {
        return Err(CalibrationError::NoSalt(per_teaspoon));
    }
    let rounding = step * step / 12.0;
    Ok(Calibration {
        per_teaspoon: grams(per_teaspoon),
        spread: variance.map(|v| grams((v / each).sqrt() * to_teaspoon)),
        uncertainty: variance.map(|v| grams((v / count + rounding).sqrt() / each * to_teaspoon)),
        weighings: n,
    })
}

/// How many of the cook's own pinches a weight is, rounded; `None` below half a pinch.
pub fn in_pinches(salt: Mass, pinch: Mass) -> Option<u32> {
    let count = salt.in_g() / pinch.in_g().max(1e-6);
    (count.is_finite() && (0.5..10_000.0).contains(&count)).then(|| count.round() as u32)
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    #[test]
    fn mean_spread_and_uncertainty_have_their_closed_forms() {
        // By hand: 5.1, 5.3, 5.2 g, one spoon each on a 0.1 g scale: mean 5.2, s 0.1;
        // u = √(0.01/3 + 0.01/12) = 0.06455 (GUM 4.2.3 and F.2.2.1).
        let found = calibrate(&[5.1, 5.3, 5.2], 1, SpoonSize::UsTeaspoon, grams(0.1)).unwrap();
        assert!((found.per_teaspoon.in_g() - 5.2).abs() < 1e-12);
        assert!((found.spread.unwrap().in_g() - 0.1).abs() < 1e-9);
        assert!((found.uncertainty.unwrap().in_g() - 0.064_55).abs() < 1e-5);
    }

    #[test]
    fn ten_spoons_at_once_are_ten_times_as_fine() {
        // A 1 g scale alone: 1/√12 = 0.2887 g on one spoon, a tenth of it on ten (GUM F.2.2.1: 0.29 δx).
        let one = calibrate(&[5.0, 5.0], 1, SpoonSize::UsTeaspoon, grams(1.0)).unwrap();
        let ten = calibrate(&[53.0, 53.0], 10, SpoonSize::UsTeaspoon, grams(1.0)).unwrap();
        assert!((one.uncertainty.unwrap().in_g() - 0.288_7).abs() < 1e-4);
        // A single weighing says nothing of the spread, and so nothing of how well the spoon is known.
        let single = calibrate(&[5.0], 1, SpoonSize::UsTeaspoon, grams(1.0)).unwrap();
        assert!(single.spread.is_none() && single.uncertainty.is_none());
        assert!((ten.uncertainty.unwrap().in_g() - 0.028_87).abs() < 1e-5);
    }

    #[test]
    fn other_spoons_come_to_the_same_salt() {
        // USDA FoodData Central “Salt, table”: 1 tsp 6 g, 1 tbsp 18 g. A metric teaspoon holds 5 ÷ 4.92892 of it.
        let tablespoon = calibrate(&[18.0], 1, SpoonSize::UsTablespoon, grams(0.1)).unwrap();
        assert!((tablespoon.per_teaspoon.in_g() - 6.0).abs() < 1e-9);
        let metric = calibrate(&[6.0 * 5.0 / 4.92892], 1, SpoonSize::MetricTeaspoon, grams(0.1)).unwrap();
        assert!((metric.per_teaspoon.in_g() - 6.0).abs() < 1e-9);
    }

    #[rstest]
    #[case(&[], 10, 1.0, "0 weighings")]
    #[case(&[50.0], 0, 1.0, "0 spoons")]
    #[case(&[50.0], 10, 20.0, "steps of 20 g")]
    #[case(&[0.0], 10, 1.0, "from nothing")]
    #[case(&[-3.0], 10, 0.1, "from nothing")]
    #[case(&[5.1, 5.2, 9.0], 1, 0.1, "was that spoon level")]
    #[case(&[250.0], 10, 1.0, "a teaspoon")]
    fn weighings_that_make_no_sense_are_named(#[case] g: &[f64], #[case] spoons: u32, #[case] step: f64, #[case] says: &str) {
        let error = calibrate(g, spoons, SpoonSize::UsTeaspoon, grams(step)).unwrap_err().to_string();
        assert!(error.contains(says), "{error}");
    }

    #[test]
    fn pinches_of_the_cooks_own() {
        // By hand: 9.9 g in pinches of 0.4 g: 24.75, so 25.
        assert_eq!(in_pinches(grams(9.9), grams(0.4)), Some(25));
        assert_eq!(in_pinches(grams(0.1), grams(0.4)), None);
    }

    proptest::proptest! {
        #[test]
        fn more_spoons_never_know_less(g in 2.0..7.0f64, k in 1u32..40) {
            let fewer = calibrate(&[g * f64::from(k); 2], k, SpoonSize::UsTeaspoon, grams(1.0)).unwrap();
            let more = calibrate(&[g * f64::from(k + 1); 2], k + 1, SpoonSize::UsTeaspoon, grams(1.0)).unwrap();
            proptest::prop_assert!(more.uncertainty.unwrap() < fewer.uncertainty.unwrap());
        }
    }
}
