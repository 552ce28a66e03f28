//! A column in a stirred liquid: salt goes whichever way the liquid and the meat's own water differ, and none is lost.

use super::super::tissue::clock_rate;
use super::{GAMMA, Inflow, LONGEST_STEP, SHORTEST_STEP, Travel};
use crate::units::{GramsPerKg, Temperature, Time, TimeIn};

/// A stirred liquid round a piece.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Bath {
    /// kg of water for each m² of the column's top face.
    water: f64,
    /// kg of salt in it.
    salt: f64,
}

impl Bath {
    /// Liquid round a column: so many times its own weight, so many grams of salt in a kilogram of its water.
    pub fn round(column: &Travel, times: f64, salt: GramsPerKg) -> Self {
        let tissue: f64 = column.work.capacity.iter().zip(&column.water).map(|(capacity, water)| capacity / water).sum();
        let water = (tissue * times).max(1e-9);
        Self { water, salt: water * salt.0.max(0.0) / 1000.0 }
    }

    /// Salt in a kilogram of its water.
    pub fn holds(&self) -> GramsPerKg {
        GramsPerKg(self.salt / self.water * 1000.0)
    }

    /// kg of salt for each m² of the column's top face.
    pub fn total(&self) -> f64 {
        self.salt
    }
}

impl Travel {
    /// Lets time pass in a stirred liquid, which is everywhere as salty as it is on the whole. Salt that still lies dry on the piece
    /// dissolves into it. The ends are held at the liquid's concentration for a step, then it takes or gives what went through them.
    pub fn soak(&mut self, duration: Time, at: Temperature, bath: &mut Bath) {
        if self.c.is_empty() {
            return;
        }
        for end in 0..2 {
            bath.salt += std::mem::take(&mut self.store[end]) + std::mem::take(&mut self.lodged[end].0);
        }
        // Salt may leave from anywhere there is some.
        let n = self.c.len();
        self.work.reach(n, n, 0);
        self.settled = 0.0;
        let (end, rate) = (duration.in_s().max(0.0), clock_rate(at));
        while end - self.settled > 1e-6 {
            let wanted = (self.settled * self.pace.0).clamp(SHORTEST_STEP, LONGEST_STEP);
            let rung = SHORTEST_STEP * 2f64.powf((wanted / SHORTEST_STEP).log2().floor());
            let step = rung.min(end - self.settled);
            self.soak_step(step, rate, bath);
            self.settled += step;
        }
    }

    fn soak_step(&mut self, dt: f64, rate: f64, bath: &mut Bath) {
        let last = self.c.len() - 1;
        let outside = bath.salt / bath.water;
        self.advance(dt, rate, &Inflow { source: [0.0; 2], saturated: [true; 2], saturated_c: [outside; 2], from_grooves: [0.0; 2] });
        for (end, cell) in [(0, 0), (1, last)] {
            let flux = |c: f64| self.work.ends[end] * rate * (outside - c);
            // Weights of TR-BDF2's three fluxes over the step (they add up to dt).
            let (outer, inner) = (dt / (2.0 * (2.0 - GAMMA)), dt * GAMMA / 2.0);
            bath.salt -= outer * (flux(self.c[cell]) + flux(self.work.stage[cell])) + inner * flux(self.work.next[cell]);
        }
        bath.salt = bath.salt.max(0.0);
        std::mem::swap(&mut self.c, &mut self.work.next);
    }

    /// Through one temperature after the other in the same liquid: temperature only stretches the clock.
    pub fn soak_through(&mut self, spells: impl Iterator<Item = (Time, Temperature)>, bath: &mut Bath) {
        let stretched: f64 = spells.map(|(time, at)| time.in_s() * clock_rate(at)).sum();
        self.soak(crate::units::hours(stretched / 3600.0), crate::units::celsius(4.0), bath);
    }
}

#[cfg(test)]
mod tests {
    use super::super::super::{Layer, Metric, Salting, Tissue, Uptake};
    use super::*;
    use crate::units::{GramsPerDm2, celsius, hours, millimetres};

    fn column(mm: f64, inside: f64, metric: Metric) -> Travel {
        let layers = [Layer { tissue: Tissue::Lean, thickness: millimetres(mm) }];
        let none = GramsPerDm2(0.0);
        Travel::shaped(
            &layers,
            Salting { top: none, bottom: none, inside: GramsPerKg(inside), uptake: Uptake::Store },
            millimetres(0.1),
            metric,
        )
    }

    /// Share exchanged by a sheet of half-thickness l with a stirred bath of α times its own water: Crank 1975, eq. 4.37, roots of
    /// tan q = −α·q.
    fn crank(fo: f64, alpha: f64) -> f64 {
        let mut sum = 0.0;
        for n in (1..200).map(f64::from) {
            // One root in each ((n − ½)π, nπ).
            let (mut low, mut high) = ((n - 0.5) * std::f64::consts::PI + 1e-9, n * std::f64::consts::PI);
            for _ in 0..100 {
                let q = f64::midpoint(low, high);
                if q.tan() + alpha * q > 0.0 { high = q } else { low = q }
            }
            let q = f64::midpoint(low, high);
            sum += 2.0 * alpha * (1.0 + alpha) / (1.0 + alpha + alpha * alpha * q * q) * (-q * q * fo).exp();
        }
        1.0 - sum
    }

    #[test]
    fn a_sheet_in_a_stirred_bath_of_limited_size_follows_crank() {
        // D of lean at 4 °C 2.5·10⁻¹⁰ m²/s (TRADE 4.11); 40 mm thick, so l = 20 mm.
        let mut compared = 0;
        for times in [0.37, 0.74, 2.2] {
            // The bath's water in meat's water, 0.74 kg/kg.
            let alpha = times / 0.74;
            for fo in [0.01, 0.05, 0.2, 0.6] {
                let mut meat = column(40.0, 10.0, Metric::Plane);
                let mut bath = Bath::round(&meat, times, GramsPerKg(0.0));
                let before = meat.total();
                meat.soak(hours(fo * 0.02f64.powi(2) / 2.5e-10 / 3600.0), celsius(4.0), &mut bath);
                let left = 1.0 - meat.total() / before;
                // At rest both hold the same: the share that has left in the end is α/(1 + α).
                let want = crank(fo, alpha) * alpha / (1.0 + alpha);
                assert!((left / want - 1.0).abs() < 0.02, "{times} times, Fo {fo}: {left} is not {want}");
                assert!((meat.total() + bath.total() - before).abs() < 1e-9 * before.max(1.0), "none is lost");
                compared += 1;
            }
        }
        assert_eq!(compared, 12);
    }

    #[test]
    fn a_salty_liquid_salts_and_an_equal_one_does_nothing() {
        let round = Metric::Plane;
        // 10 g/kg of meat are 13.5 g in a kilogram of its water.
        let soaked = |salt: f64| {
            let mut meat = column(60.0, 10.0, round);
            let mut bath = Bath::round(&meat, 1.0, GramsPerKg(salt));
            let before = meat.total();
            meat.soak(hours(4.0), celsius(90.0), &mut bath);
            (meat.total() / before - 1.0, bath.holds().0)
        };
        assert!(soaked(13.513_513_5).0.abs() < 1e-6);
        assert!(soaked(40.0).0 > 0.05 && soaked(0.0).0 < -0.05 && soaked(0.0).1 > 0.5);
    }
}
