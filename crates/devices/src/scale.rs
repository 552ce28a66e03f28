//! A kitchen scale that behaves like one: it settles, it is noisy, its zero drifts, it rounds, it has a tare key and
//! a limit. Pure: time comes in as steps, chance from a seeded generator.

use fastrand::Rng;

/// Properties of a scale.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Make {
    /// Smallest difference it shows, g: 1 for a kitchen scale, 0.1 for a fine one.
    pub step_g: f64,
    /// The most it bears, g.
    pub capacity_g: f64,
    /// Standard deviation of the sensor's noise, in steps.
    pub noise_steps: f64,
    /// How far its zero wanders in a minute (standard deviation), in steps.
    pub drift_steps: f64,
}

impl Make {
    /// A usual household scale of that fineness: noise of a quarter step, a zero that wanders a third of a step a minute.
    pub fn usual(step_g: f64) -> Self {
        Self { step_g, capacity_g: 5000.0, noise_steps: 0.25, drift_steps: 0.33 }
    }
}

/// Time in which the shown weight follows the load, s.
const SETTLING_S: f64 = 0.25;

/// The scale with what lies on it.
#[derive(Debug, Clone)]
pub struct Scale {
    make: Make,
    rng: Rng,
    load_g: f64,
    pouring_g_per_s: f64,
    settled_g: f64,
    zero_g: f64,
    tare_g: f64,
}

impl Scale {
    /// An empty scale, just switched on: its zero is right.
    pub fn new(make: Make, seed: u64) -> Self {
        Self { make, rng: Rng::with_seed(seed), load_g: 0.0, pouring_g_per_s: 0.0, settled_g: 0.0, zero_g: 0.0, tare_g: 0.0 }
    }

    /// Its properties.
    pub fn make(&self) -> Make {
        self.make
    }

    /// Puts something on; a negative weight takes off, never below nothing.
    pub fn put(&mut self, g: f64) {
        self.load_g = (self.load_g + g).max(0.0);
    }

    /// Takes everything off and stops pouring.
    pub fn clear(&mut self) {
        self.load_g = 0.0;
        self.pouring_g_per_s = 0.0;
    }

    /// Lets salt run in from now on; 0 stops it.
    pub fn pour(&mut self, g_per_s: f64) {
        self.pouring_g_per_s = g_per_s.max(0.0);
    }

    /// What really lies on it.
    pub fn load_g(&self) -> f64 {
        self.load_g
    }

    /// Its own tare key: from now on it shows what is added.
    pub fn tare(&mut self) {
        self.tare_g = self.settled_g + self.zero_g;
    }

    /// Lets time pass.
    pub fn tick(&mut self, seconds: f64) {
        self.load_g += self.pouring_g_per_s * seconds;
        self.settled_g += (self.load_g - self.settled_g) * (1.0 - (-seconds / SETTLING_S).exp());
        // A random walk: its variance grows with time.
        let wander = self.make.drift_steps * self.make.step_g * (seconds / 60.0).sqrt();
        self.zero_g += wander * self.normal();
    }

    /// What it shows, g; `None` when it is overloaded.
    pub fn shows(&mut self) -> Option<f64> {
        let noise = self.make.noise_steps * self.make.step_g * self.normal();
        let gross = self.settled_g + self.zero_g + noise;
        if gross > self.make.capacity_g + 9.0 * self.make.step_g {
            return None;
        }
        let shown = ((gross - self.tare_g) / self.make.step_g).round() * self.make.step_g;
        // No minus zero, and no tail of binary digits.
        Some((shown * 1000.0).round() / 1000.0 + 0.0)
    }

    /// Nearly normal: twelve uniform numbers less six have mean 0 and variance 1 (central limit).
    fn normal(&mut self) -> f64 {
        (0..12).map(|_| self.rng.f64()).sum::<f64>() - 6.0
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn settled(make: Make, g: f64) -> Scale {
        let mut scale = Scale::new(make, 7);
        scale.put(g);
        scale.tick(5.0);
        scale
    }

    #[test]
    fn it_shows_whole_steps_near_the_truth() {
        for step in [1.0, 0.1] {
            let mut scale = settled(Make::usual(step), 182.34);
            for _ in 0..200 {
                let shown = scale.shows().unwrap();
                assert!((shown - 182.34).abs() <= 2.0 * step, "{shown}");
                assert!(((shown / step).round() * step - shown).abs() < 1e-6, "{shown} is no whole step of {step}");
            }
        }
    }

    #[test]
    fn noise_and_drift_have_the_size_they_are_said_to_have() {
        // 4,000 readings of a scale that hardly rounds: standard deviation of the noise within 5 % of a quarter step.
        let fine = Make { step_g: 1e-3, noise_steps: 250.0, drift_steps: 0.0, ..Make::usual(1.0) };
        let mut scale = settled(fine, 100.0);
        let shown: Vec<f64> = (0..4000).map(|_| scale.shows().unwrap()).collect();
        let mean = shown.iter().sum::<f64>() / 4000.0;
        let deviation = (shown.iter().map(|g| (g - mean).powi(2)).sum::<f64>() / 3999.0).sqrt();
        assert!((deviation - 0.25).abs() < 0.0125, "{deviation}");
        // 400 scales after four minutes: the zero has wandered twice its figure for one minute (a random walk).
        let wander = Make { noise_steps: 0.0, drift_steps: 330.0, ..fine };
        let squares: f64 = (0..400)
            .map(|seed| {
                let mut scale = Scale::new(wander, seed);
                (0..960).for_each(|_| scale.tick(0.25));
                scale.shows().unwrap().powi(2)
            })
            .sum();
        assert!(((squares / 400.0).sqrt() - 0.66).abs() < 0.08, "{}", (squares / 400.0).sqrt());
    }

    #[test]
    fn tare_pour_overload_and_lifting() {
        let quiet = Make { noise_steps: 0.0, drift_steps: 0.0, ..Make::usual(0.1) };
        let mut scale = settled(quiet, 180.0);
        scale.tare();
        assert_eq!(scale.shows(), Some(0.0));
        scale.pour(2.0);
        (0..20).for_each(|_| scale.tick(0.25));
        scale.pour(0.0);
        scale.tick(3.0);
        assert_eq!(scale.shows(), Some(10.0));
        scale.clear();
        scale.tick(3.0);
        assert_eq!(scale.shows(), Some(-180.0));
        scale.put(9000.0);
        scale.tick(3.0);
        assert_eq!(scale.shows(), None);
    }
}
