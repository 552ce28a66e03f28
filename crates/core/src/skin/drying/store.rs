//! One side's store of water: filled when fresh, emptied by the air, held back by salt.

use super::brine::{SATURATED_ACTIVITY, SATURATED_MOLAL, water_of};
use super::sorption::{activity_and_slope, activity_of, isotherm_slope, saturated_fullness, shared_fullness};
use super::{Air, evaporation, evaporation_at};
use crate::psychrometrics::saturation_pressure;
use crate::units::{Dryness, GramsPerDm2, HeatTransfer, Length, LengthIn, Pascal, Temperature, Time, TimeIn};

/// No store is shallower, mm.
const SHALLOWEST_MM: f64 = 0.5;
/// So near to the air's humidity a store's water activity counts as the same: a millionth moves its dryness by about as much.
const AT_REST: f64 = 1e-6;
/// So many steps any stay is followed in. The thinnest store there is, half a
/// millimetre of fat, needs some hundreds until it is as dry as the air; two months in steps of two hours are 744.
const MOST_STEPS: usize = 4096;

/// Diffusivity of water in cold skin, m²/s: as that of salt, a fifth of lean's (our estimate).
const WATER_IN_SKIN: f64 = 5e-11;

/// What a side's store is made of.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct DryingMaterial {
    /// kg/m³.
    density: f64,
    /// kg water per kg when fresh.
    water: f64,
    /// A of Oswin's isotherm M = A(a_w/(1−a_w))^B: the moisture at a_w 0.5. B is the same for all (see `sorption`).
    half: f64,
    /// How deep the store reaches, where it is not the thickness of the layer, mm.
    deepest_mm: f64,
}

impl DryingMaterial {
    /// Skin, 1100 kg/m³, 0.62 water (TRADE 6.6); all of it dries as one store over its barrier of fat.
    pub const SKIN: Self = Self { density: 1100.0, water: 0.62, half: 0.12, deepest_mm: 6.0 };
    /// Bare lean: its outer 3 mm dry, what lies deeper follows too slowly to count (our estimate); isotherm as of skin (our estimate).
    pub const LEAN: Self = Self { density: 1060.0, water: 0.74, half: 0.12, deepest_mm: 3.0 };
    /// Bare fat: little water, in its outer 2 mm (our estimate).
    pub const FAT: Self = Self { density: 920.0, water: 0.12, half: 0.01, deepest_mm: 2.0 };

    /// Moisture when fresh, kg water per kg dry.
    fn fresh(self) -> f64 {
        self.water / (1.0 - self.water)
    }

    /// How deep its store reaches in a layer so thick: to its end, but no less than half a millimetre, since under a film what
    /// lies below it gives its water, too (our estimate). Nothing where there is no layer.
    pub fn depth(self, layer: Length) -> Length {
        let mm = layer.in_mm();
        crate::units::millimetres(if mm > 0.0 { mm.clamp(SHALLOWEST_MM, self.deepest_mm) } else { 0.0 })
    }
}

/// The water of one side, per area.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct WaterStore {
    stuff: DryingMaterial,
    /// kg dry per m².
    dry: f64,
    /// kg water per kg dry.
    moisture: f64,
    /// kg salt per m² in or on it.
    salt: f64,
}

impl WaterStore {
    /// A fresh side over a layer of this thickness.
    pub fn fresh(stuff: DryingMaterial, layer: Length) -> Self {
        let dry = stuff.depth(layer).in_m() * stuff.density * (1.0 - stuff.water);
        Self { stuff, dry, moisture: stuff.fresh(), salt: 0.0 }
    }

    /// A bare side as dry as that.
    pub fn dried(stuff: DryingMaterial, layer: Length, dryness: Dryness) -> Self {
        let fresh = Self::fresh(stuff, layer);
        Self { moisture: (stuff.fresh() - dryness.0 * (stuff.fresh() - stuff.half)).max(0.0), ..fresh }
    }

    /// Water activity of a bare side.
    pub fn water_activity(&self) -> f64 {
        activity_of(self.moisture / self.stuff.half)
    }

    /// Lets a bare side stand in the heat for a minute or so, its surface at this temperature: `J = open·k_m·M_w/(R·T)·(a_w·p_sat(T)
    /// − p_v)` with the air's vapour pressure `p_v`, to which hot air does not add. One implicit step (backward Euler), as a hot
    /// surface follows the air in seconds.
    pub fn stand_hot(&mut self, time: Time, surface: Temperature, vapour: Pascal, h: HeatTransfer, open: f64) {
        if self.dry <= 0.0 || open <= 0.0 {
            return;
        }
        let pressure = saturation_pressure(surface);
        let humid = vapour.0 / pressure.0;
        let pull = time.in_s() * open * evaporation_at(surface, h, pressure) / self.dry;
        let (half, from) = (self.stuff.half, self.moisture);
        // What is left of the moisture after the step rises with what is guessed: Newton's steps from what there was, halved where one
        // would leave the bounds, until a step is as small as a millionth of what fresh skin holds.
        let (mut low, mut high, mut m) = (0.0, (from + pull).max(half), from);
        for _ in 0..40 {
            let (activity, slope) = activity_and_slope(m / half);
            let over = m - from + pull * (activity - humid);
            *if over > 0.0 { &mut high } else { &mut low } = m;
            let to = m - over / (1.0 + pull * slope / half);
            let to = if to > low && to < high { to } else { f64::midpoint(low, high) };
            let stepped = (to - m).abs();
            m = to;
            if stepped < 1e-6 {
                break;
            }
        }
        self.moisture = m;
    }

    /// Says how much salt lies on or in it.
    pub fn salted(&mut self, salt: GramsPerDm2) {
        self.salt = salt.0.max(0.0) / 10.0;
    }

    /// How dry it is: 0 fresh, 1 in equilibrium with air of 50 %; below 0 where salt has drawn water from the air.
    pub fn dryness(&self) -> Dryness {
        let fresh = self.stuff.fresh();
        Dryness((fresh - self.moisture) / (fresh - self.stuff.half))
    }

    /// Water lost since it was fresh; negative where it has taken some up.
    pub fn lost(&self) -> GramsPerDm2 {
        GramsPerDm2(self.dry * (self.stuff.fresh() - self.moisture) * 10.0)
    }

    /// Lets it lie on dry salt, which takes its water until it is as dry as saturated brine leaves it (a_w 0.753): the slowest term of
    /// diffusion through a layer that gives at one face, `e^(−π²Dt/4d²)`, d the depth of the store. Valid while there is dry salt enough:
    /// a bed of 4 mm takes three times the water of 5 mm of skin.
    pub fn lie_on_salt(&mut self, time: Time) {
        let depth = self.dry / (self.stuff.density * (1.0 - self.stuff.water));
        let held = self.stuff.half * saturated_fullness();
        if depth > 0.0 && self.moisture > held {
            let rate = std::f64::consts::PI.powi(2) * WATER_IN_SKIN / (4.0 * depth * depth);
            self.moisture = held + (self.moisture - held) * (-rate * time.in_s().max(0.0)).exp();
        }
    }

    /// Lets it stand in the air, `open` of its area free (0–1). Classical Runge–Kutta in steps of at most two hours, shorter
    /// where a thin store follows the air faster than that; it ends where the store is as dry as the air makes it.
    pub fn stand(&mut self, time: Time, air: Air, open: f64) {
        if self.dry <= 0.0 || open <= 0.0 {
            return;
        }
        // Water lost per unit of water activity, for each kg dry.
        let pull = open * (evaporation(air, 1.0) - evaporation(air, 0.0)) / self.dry;
        let humid = air.humidity.0;
        // Where the last search ended the next begins.
        let mut near = self.moisture / self.stuff.half;
        let (mut left, mut m) = (time.in_s().max(0.0), self.moisture);
        for _ in 0..MOST_STEPS {
            if left <= 1e-6 {
                break;
            }
            let mut rate = |m: f64| -pull * (self.activity(m, &mut near) - humid);
            let k1 = rate(m);
            // As dry as this air makes it: a thin store gets there in minutes and stays for days.
            if k1.abs() <= pull * AT_REST {
                break;
            }
            // In half the time in which it would follow the air its water activity comes half the way at most, so that it is
            // never steeper than there; salt only makes it flatter.
            let now = humid - k1 / pull.max(f64::MIN_POSITIVE);
            let follows = pull * isotherm_slope(now.min(f64::midpoint(now, humid))) / self.stuff.half;
            let steps = (left * (2.0 * follows).clamp(1.0 / 7200.0, 1.0)).ceil().max(1.0);
            let dt = left / steps;
            let k2 = rate(m + k1 * dt / 2.0);
            let k3 = rate(m + k2 * dt / 2.0);
            let k4 = rate(m + k3 * dt);
            m += dt / 6.0 * (k1 + 2.0 * k2 + 2.0 * k3 + k4);
            left -= dt;
        }
        self.moisture = m;
    }

    /// Water activity at a moisture. Tissue and brine share one water activity, and each holds the water it would hold
    /// alone at it (the mixing rule of Zdanovskii, Stokes and Robinson); where brine would be saturated, salt falls out.
    fn activity(&self, moisture: f64, near: &mut f64) -> f64 {
        let alone = moisture.max(0.0) / self.stuff.half;
        if self.salt <= 1e-9 || alone <= saturated_fullness() {
            return activity_of(alone);
        }
        if moisture <= self.stuff.half * saturated_fullness() + water_of(self.salt, SATURATED_MOLAL) / self.dry {
            return SATURATED_ACTIVITY;
        }
        // More water than saturated brine binds: tissue and brine share it.
        *near = shared_fullness(self.stuff.half, self.salt / self.dry, moisture, *near);
        activity_of(*near)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::{HeatTransfer, RelativeHumidity, celsius, hours, millimetres};

    fn air(rh: f64) -> Air {
        Air { temperature: celsius(4.0), humidity: RelativeHumidity(rh), h: HeatTransfer(5.0) }
    }

    fn skin(salt: f64) -> WaterStore {
        let mut store = WaterStore::fresh(DryingMaterial::SKIN, millimetres(2.0));
        store.salted(GramsPerDm2(salt));
        store
    }

    /// By hand: two millimetres lose to dry salt with a time constant of 4d²/π²D = 9.0 h; after that, of the way from 1.632 to
    /// 0.12·(0.753/0.247)^0.45 = 0.198 kg/kg (Oswin, at the activity of saturated brine: CRC Handbook, from memory), 1 − 1/e is done.
    #[test]
    fn skin_on_dry_salt_comes_to_what_brine_leaves_it() {
        let after = |h: f64| {
            let mut store = skin(0.0);
            store.lie_on_salt(hours(h));
            store.dryness().0
        };
        let all = (1.632 - 0.198) / (1.632 - 0.12);
        let tau = 4.0 * 4e-6 / (std::f64::consts::PI.powi(2) * 5e-11) / 3600.0;
        assert!((tau - 9.0).abs() < 0.05 && after(0.0).abs() < 1e-9);
        assert!((after(tau) - all * (1.0 - (-1f64).exp())).abs() < 0.004, "{}", after(tau));
        assert!((after(500.0) - all).abs() < 0.004, "{}", after(500.0));
    }

    #[test]
    fn no_water_leaves_a_covered_skin_and_none_comes_from_nowhere() {
        let mut covered = WaterStore::dried(DryingMaterial::SKIN, millimetres(2.0), Dryness(0.4));
        let before = covered;
        covered.stand_hot(hours(1.0), celsius(150.0), Pascal(1200.0), HeatTransfer(25.0), 0.0);
        assert_eq!(covered, before);
        // Bone dry it has nothing more to lose: all of the water of 2 mm skin is 2.2 kg/m² times 0.62, 13.6 g/dm².
        let mut open = before;
        for _ in 0..240 {
            open.stand_hot(crate::units::minutes(1.0), celsius(180.0), Pascal(1200.0), HeatTransfer(25.0), 1.0);
        }
        assert!(open.lost().0 < 13.64 + 1e-6 && open.lost().0 > 12.5, "{}", open.lost().0);
    }

    #[test]
    fn salt_on_the_skin_slows_drying_and_above_76_per_cent_takes_water_up() {
        // TRADE 6.7: salt slows drying, and above about 76 % humidity it takes water up.
        let after = |salt: f64, rh: f64, h: f64| {
            let mut store = skin(salt);
            store.stand(hours(h), air(rh), 1.0);
            store.lost().0
        };
        for rh in [0.4, 0.6, 0.7] {
            assert!(after(3.0, rh, 12.0) < after(0.0, rh, 12.0), "slower at {rh}");
        }
        // A crust of salt: its brine at 0.757 gains below 0.8 and loses at 0.7.
        assert!(after(8.0, 0.82, 24.0) < 0.0, "takes water up: {}", after(8.0, 0.82, 24.0));
        assert!(after(8.0, 0.70, 24.0) > 0.0);
        assert!(after(0.0, 0.82, 24.0) > 0.0, "bare skin still dries there");
    }

    #[test]
    fn salted_skin_ends_where_tissue_and_brine_both_agree_with_the_air() {
        // Closed form at 85 % humidity: M = A(0.85/0.15)^B + S/(0.058443·m·dry) with a_w(m) = 0.85: m = 4.034 by the table.
        let mut store = skin(2.0);
        store.stand(hours(3000.0), air(0.85), 1.0);
        let dry = 0.002 * 1100.0 * 0.38;
        let want = 0.12 * (0.85f64 / 0.15).powf(0.45) + 0.2 / (0.058_443 * 4.034 * dry);
        assert!((store.moisture / want - 1.0).abs() < 2e-3, "{} is not {want}", store.moisture);
        // And in dry air the salt has fallen out: the skin ends where unsalted skin does.
        let mut dry_air = skin(2.0);
        dry_air.stand(hours(3000.0), air(0.5), 1.0);
        assert!((dry_air.moisture / 0.12 - 1.0).abs() < 1e-3, "{}", dry_air.moisture);
    }

    #[test]
    fn lean_and_fat_have_stores_of_their_own() {
        // By hand: 3 mm of lean hold 0.003·1060·0.74 = 23.5 g/dm² of water, 2 mm of fat 0.002·920·0.12 = 2.2.
        for (stuff, holds) in [(DryingMaterial::LEAN, 23.5), (DryingMaterial::FAT, 2.2)] {
            let mut store = WaterStore::fresh(stuff, millimetres(30.0));
            store.stand(hours(4000.0), air(0.05), 1.0);
            assert!(store.lost().0 < holds && store.lost().0 > holds * 0.9, "{} of {holds}", store.lost().0);
        }
    }

    proptest::proptest! {
        #[test]
        fn more_salt_never_dries_faster(mm in 1.0..4.0f64, salt in 0.0..6.0f64, more in 0.1..4.0f64, rh in 0.2..0.95f64, h in 1.0..72.0f64) {
            let lost = |salt: f64| {
                let mut store = WaterStore::fresh(DryingMaterial::SKIN, millimetres(mm));
                store.salted(GramsPerDm2(salt));
                store.stand(hours(h), air(rh), 1.0);
                store.lost().0
            };
            proptest::prop_assert!(lost(salt + more) <= lost(salt) + 1e-3, "{} > {}", lost(salt + more), lost(salt));
        }

        #[test]
        fn salted_or_not_more_humid_never_dries_faster(salt in 0.0..6.0f64, rh in 0.1..0.9f64, more in 0.01..0.09f64, h in 1.0..72.0f64) {
            let lost = |rh: f64| { let mut store = skin(salt); store.stand(hours(h), air(rh), 1.0); store.lost().0 };
            proptest::prop_assert!(lost(rh + more) <= lost(rh) + 1e-6);
        }
    }
}
