//! Skin through the heat: how dry it becomes, how hot its surface gets, and when it puffs.
//!
//! The bulk of the piece is lean; its surface stays far below the air for as long as the middle is cold. Skin lies on fat, which
//! lets little heat through, and once it is dry it follows the air. So it has a balance of its own over the bulk:
//! `C·dT/dt = h(T_air − T) − J·λ − (T − T_below)/R`, `R = skin/k + fat/k_fat`, with J of the water store (all our estimate).

use super::conduction::{AIR_VAPOUR, LATENT};
use super::heat_point::HeatPoint;
use super::stage::FireStage;
use crate::psychrometrics::{GAS_CONSTANT, WATER_KG_PER_MOL, saturation_pressure};
use crate::skin::drying::{DRY_ENOUGH, DryingMaterial, WaterStore, evaporation_at};
use crate::units::{
    Dryness, HeatTransfer, Length, LengthIn, Pascal, Temperature, TemperatureIn, Time, TimeIn, celsius, millimetres, minutes,
};

/// Surface at which dry skin puffs, °C, and for how many minutes it has to be there (our estimate, tuned: what skin comes to in an oven
/// that stands at 200 °C and not in one of 175 °C; TRADE 9.11).
pub const PUFFS_AT_C: f64 = 140.0;
const PUFFS_MIN: f64 = 5.0;
/// Drier than this when the fierce heat begins, it puffs in patches; wetter, not at all (our estimate, TRADE 9.11).
const PATCHY_FROM: f64 = 0.7;
/// How freely skin gives its water in the heat, beside an open wet surface: it sets and seals as it heats, and the cold has done in a day
/// what an oven does not in an hour (our estimate, tuned to what must puff and what must not).
const HEAT_DRIES: f64 = 0.0012;
/// Between so much fat it counts as it lies, mm: thinner it lies on lean that is as cold, deeper it is molten and carries heat better
/// (our estimate).
const FAT_COUNTS: (f64, f64) = (8.0, 12.0);
/// A crust of salt takes the water itself: after two hours under it skin counts as dry enough (our estimate).
const CRUST_DRIES_MIN: f64 = 120.0;
/// Film coefficient by which steam leaves, W/m²K: that of open air, over coals and metal too (our estimate).
const OPEN_AIR: HeatTransfer = HeatTransfer(25.0);
/// Conductivity of skin that has dried and of fat, W/mK (what wet skin lets through, 0.35, it no longer does), and what a cubic metre of
/// them takes up, J/K (TRADE 9.11: from memory).
const SKIN_CONDUCTS: f64 = 0.15;
const FAT_CONDUCTS: f64 = 0.17;
const SKIN_HOLDS: f64 = 1100.0 * 3000.0;
const FAT_HOLDS: f64 = 920.0 * 2300.0;

/// Steps while water leaves it, s, and how dry it follows the air at once.
const WET_STEP: f64 = 10.0;
/// The same, s, where less than this share of its steam gets out.
const SEALED_STEP: f64 = 60.0;
const SEALED: f64 = 0.01;
const ALL_BUT_DRY: f64 = 1.05;

/// λ·M_w/R, K: how steeply vapour pressure rises, as a share, times T².
const STEAM_RISES: f64 = LATENT * WATER_KG_PER_MOL / GAS_CONSTANT;

/// What the heat does to skin; an estimate.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Crisp {
    /// How dry it goes into the heat.
    pub before: Dryness,
    /// How dry it is when the fierce heat begins: when its surface first comes to where it puffs. `None` where it never does.
    pub begins: Option<Dryness>,
    /// How dry it comes out of it.
    pub after: Dryness,
    /// The hottest its surface gets.
    pub hottest: Temperature,
    /// Since it went into the heat: when it puffs; `None` where it does not.
    pub puffs: Option<Time>,
    /// How long it stays as hot once it has puffed.
    pub scorches: Time,
}

/// Puffed skin stands as hot as that for so long without scorching, min (our estimate).
const STANDS: f64 = 25.0;

impl Crisp {
    /// Whether it puffs in patches only.
    pub fn is_patchy(&self) -> bool {
        self.puffs.is_some() && self.begins.is_some_and(|dry| dry.0 < DRY_ENOUGH.0)
    }

    /// Whether it is done so early that it would scorch.
    pub fn scorches_first(&self) -> bool {
        self.scorches.in_min() > STANDS
    }
}

/// The skin, and the heat that it goes through.
#[derive(Debug, Clone, Copy)]
pub struct CrispAsk<'a> {
    /// Skin, 0.5–6 mm.
    pub skin: Length,
    /// Fat under it.
    pub fat: Length,
    /// Radius of the piece as it meets the heat.
    pub radius: Length,
    /// How dry it goes in.
    pub before: Dryness,
    /// The stages of the heat.
    pub stages: &'a [FireStage],
    /// The length of each.
    pub takes: &'a [Time],
    /// Surface and core of the bulk.
    pub curve: &'a [HeatPoint],
    /// Whether a crust of salt lies on the skin through the first stage.
    pub crust: bool,
}

/// Follows skin through the stages of a curve. Fierce heat begins when its surface first comes to where skin puffs; how dry it is then
/// decides: 0.95 dry and as hot for five minutes it puffs, from 0.7 in patches, wetter not at all.
///
/// What lies under the fat is as warm as the bulk is that deep, on a parabola from its middle to its surface. Cost: one implicit
/// step a minute of heat.
pub fn crisp(ask: &CrispAsk) -> Crisp {
    let start = ask.curve.first().map_or(celsius(4.0), |p| p.surface);
    let fat = ask.fat.in_mm();
    let counted = millimetres(if fat > 0.0 { fat.clamp(FAT_COUNTS.0, FAT_COUNTS.1) } else { 0.0 });
    let mut skin = HotSkin::new(ask.skin, counted, ask.before, start);
    let under = (1.0 - (ask.skin + ask.fat).in_mm() / ask.radius.in_mm().max(1e-9)).max(0.0).powi(2);
    let (mut hottest, mut hot_for, mut puffs, mut scorches, mut begins) = (start, 0.0, None, 0.0, None);
    let mut ends = 0.0;
    let mut points = ask.curve.windows(2).peekable();
    for (i, (stage, takes)) in ask.stages.iter().zip(ask.takes).enumerate() {
        ends += takes.in_min();
        // Liquid keeps it as wet as it is, what is wrapped keeps its own steam, and a crust takes the water itself.
        let fire = stage.around().fire;
        let said = stage.said();
        let buried = ask.crust && i == 0;
        let open = if buried { 0.0 } else { fire.wet * HEAT_DRIES };
        while let Some(pair) = points.next_if(|pair| pair[1].after.in_min() <= ends + 1e-6) {
            let (from, to) = (pair[0].after.in_min(), pair[1].after.in_min());
            // As it comes up, the air is by so much cooler than it was said to be.
            let air = celsius(fire.air.in_c() + pair[1].air.in_c() - said.in_c());
            let steps = (to - from).ceil().max(1.0);
            let each = (to - from) / steps;
            for n in 0..steps as usize {
                let along = (n as f64 + 1.0) / steps;
                let between = |a: Temperature, b: Temperature| a.in_c() + along * (b.in_c() - a.in_c());
                let (core, outside) = (between(pair[0].core, pair[1].core), between(pair[0].surface, pair[1].surface));
                skin.stand(minutes(each), (air, fire.h), open, celsius(core + under * (outside - core)));
                hottest = if skin.surface > hottest { skin.surface } else { hottest };
                if buried {
                    let salted = DRY_ENOUGH.0 * ((from + (n as f64 + 1.0) * each) / CRUST_DRIES_MIN).min(1.0);
                    skin.store = WaterStore::dried(DryingMaterial::SKIN, ask.skin, Dryness(salted.max(skin.store.dryness().0)));
                }
                let hot = !buried && open > 0.0 && skin.surface.in_c() >= PUFFS_AT_C;
                if hot && begins.is_none() {
                    begins = Some(skin.store.dryness());
                }
                let dry = begins.is_some_and(|dry| dry.0 >= PATCHY_FROM);
                hot_for = if hot && dry { hot_for + each } else { 0.0 };
                match puffs {
                    None if hot_for >= PUFFS_MIN - 1e-9 => puffs = Some(minutes(from + (n as f64 + 1.0) * each)),
                    Some(_) if hot => scorches += each,
                    _ => {}
                }
            }
        }
    }
    Crisp { before: ask.before, begins, after: skin.store.dryness(), hottest, puffs, scorches: minutes(scorches) }
}

/// Dry skin before a stage that is to make it puff.
#[derive(Debug, Clone, Copy)]
pub struct Hollow {
    /// Skin, 0.5–6 mm.
    pub skin: Length,
    /// Fat under it.
    pub fat: Length,
    /// What it comes from; the stage itself where it is the first.
    pub from: FireStage,
    /// What is to make it puff.
    pub to: FireStage,
    /// The air when that begins.
    pub first: Temperature,
    /// How warm the piece is on the whole.
    pub under: Temperature,
}

/// Puffed in one place it is moved about until it is puffed all over, min (our estimate).
const ALL_OVER_MIN: f64 = 7.0;
/// A fierce stage is watched for no longer than that, min (TRADE 7.1: 15–20 usual, and as much again).
const WATCHED_MIN: f64 = 40.0;
/// Under hot skin it is about as warm as that at least by then, °C (our estimate).
const UNDER_C: f64 = 60.0;

/// How long dry skin takes until it sounds hollow all over, in whole minutes; `None` where this heat never makes it.
///
/// Dry skin by its closed form, minute by minute as the air comes up: `T → (h·air + T_under/R)/(h + 1/R)`, until it has been as hot as it
/// puffs for five minutes, and seven more for the rest of it.
pub fn hollow_after(ask: &Hollow) -> Option<Time> {
    let fat = ask.fat.in_mm();
    let counted = millimetres(if fat > 0.0 { fat.clamp(FAT_COUNTS.0, FAT_COUNTS.1) } else { 0.0 });
    let under = celsius(ask.under.in_c().max(UNDER_C));
    let mut skin = HotSkin::new(ask.skin, counted, Dryness(1.1), under);
    let before = ask.from.around().fire;
    if ask.from != ask.to {
        skin.surface = celsius(skin.settles(before.air, before.h, under));
    }
    let (mut air, mut hot) = (ask.first.in_c(), 0.0);
    let by = ask.to.with.comes_up_by().unwrap_or(f64::INFINITY);
    for min in 1..=WATCHED_MIN as u32 {
        air = (air + by).min(ask.to.air.in_c());
        let fire = ask.to.on_air_of(celsius(air)).around().fire;
        skin.stand(minutes(1.0), (fire.air, fire.h), 0.0, under);
        hot = if skin.surface.in_c() >= PUFFS_AT_C { hot + 1.0 } else { 0.0 };
        if hot >= PUFFS_MIN {
            return Some(minutes((f64::from(min) + ALL_OVER_MIN).min(WATCHED_MIN)));
        }
    }
    None
}

/// Skin over fat, with its water and its warmth.
#[derive(Debug, Clone, Copy)]
struct HotSkin {
    store: WaterStore,
    surface: Temperature,
    /// W/m²K through skin and fat.
    lets: f64,
    /// J/m²K in the skin and half the fat.
    holds: f64,
}

impl HotSkin {
    fn new(skin: Length, fat: Length, before: Dryness, surface: Temperature) -> Self {
        let (skin_m, fat_m) = (skin.in_m(), fat.in_m());
        Self {
            store: WaterStore::dried(DryingMaterial::SKIN, skin, before),
            surface,
            lets: 1.0 / (skin_m / SKIN_CONDUCTS + fat_m / FAT_CONDUCTS).max(1e-4),
            holds: skin_m * SKIN_HOLDS + fat_m / 2.0 * FAT_HOLDS,
        }
    }

    /// Where it comes to stand with nothing left to evaporate, °C.
    fn settles(&self, air: Temperature, h: HeatTransfer, below: Temperature) -> f64 {
        (h.0 * air.in_c() + self.lets * below.in_c()) / (h.0 + self.lets)
    }

    /// A minute or less in the heat, in short steps while water leaves it. All but dry it has none left that would cool it: then it
    /// comes to its balance by the closed form.
    fn stand(&mut self, time: Time, (air, h): (Temperature, HeatTransfer), open: f64, below: Temperature) {
        let mut left = time.in_s();
        while left > 1e-6 {
            let wet = open > 0.0 && self.store.dryness().0 < ALL_BUT_DRY;
            // What hardly dries hardly cools itself, and is followed in longer steps.
            let most = if open > SEALED { WET_STEP } else { SEALED_STEP };
            let step = if wet { most.min(left) } else { left };
            if wet {
                self.steam_off(step, (air, h), open, below);
            } else {
                let settled = self.settles(air, h, below);
                let fades = (-step * (h.0 + self.lets) / self.holds).exp();
                self.surface = celsius(settled + (self.surface.in_c() - settled) * fades);
            }
            left -= step;
        }
    }

    /// Some seconds with water in it: the temperature by an implicit step with the water activity at its beginning, then the water by
    /// one at that temperature.
    fn steam_off(&mut self, dt: f64, (air, h): (Temperature, HeatTransfer), open: f64, below: Temperature) {
        let (was, active) = (self.surface.in_c(), self.store.water_activity());
        // Its own heat, minus what comes and plus what goes. Newton's tangents, the steam's by Clausius and Clapeyron: it rises ever
        // more steeply with the temperature.
        let mut c = was;
        for _ in 0..3 {
            let surface = celsius(c);
            let pressure = saturation_pressure(surface).0;
            let steam = open * LATENT * evaporation_at(surface, OPEN_AIR, Pascal(active * pressure - AIR_VAPOUR));
            let rises = open * LATENT * evaporation_at(surface, OPEN_AIR, Pascal(active * pressure)) * STEAM_RISES / surface.in_k().powi(2);
            let over = self.holds * (c - was) - dt * (h.0 * (air.in_c() - c) - steam - self.lets * (c - below.in_c()));
            let slope = self.holds + dt * (h.0 + rises + self.lets);
            c = (c - over / slope).clamp(0.0, 199.0);
        }
        self.surface = celsius(c);
        self.store.stand_hot(minutes(dt / 60.0), self.surface, Pascal(AIR_VAPOUR), OPEN_AIR, open);
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::fire::{HeatSource, How, StageEnd};
    use crate::units::millimetres;

    #[test]
    fn hot_skin_is_as_warm_and_as_dry_as_scipy_says() {
        // SciPy's LSODA on the same two equations, by `tests/reference/hot_skin.py`: skin of 2 mm over what stands at 70 °C.
        let mut compared = 0;
        for line in include_str!("../../tests/reference/hot_skin.csv").lines().filter(|l| !l.starts_with('#')) {
            let row: Vec<f64> = line.split(',').map(|x| x.parse().unwrap()).collect();
            let [start, fat, air, h, open, min, warm, dry] = row[..] else { panic!("{line}") };
            let mut skin = HotSkin::new(millimetres(2.0), millimetres(fat), Dryness(start), celsius(15.0));
            let mut seen = vec![];
            for _ in 0..=min as usize {
                skin.stand(minutes(1.0), (celsius(air), HeatTransfer(h)), open, celsius(70.0));
                seen.push((skin.surface.in_c(), skin.store.dryness().0));
            }
            // A degree and a hundredth, or no more than a minute too soon or too late: as it dries out it warms by ten degrees in one.
            let near = [-1, 0, 1].map(|by| seen[(min as isize - 1 + by) as usize]);
            let within = |got: [f64; 3], want: f64, by: f64| {
                let (low, high) = got.into_iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(a, b), x| (a.min(x), b.max(x)));
                (low - by..=high + by).contains(&want)
            };
            assert!(within(near.map(|n| n.0), warm, 1.0) && within(near.map(|n| n.1), dry.min(ALL_BUT_DRY), 0.01), "{line}: {near:?}");
            compared += 1;
        }
        assert!(compared >= 20, "{compared}");
    }

    #[test]
    fn dry_and_settled_it_is_where_the_balance_puts_it() {
        // Closed form: with nothing left to evaporate T = (h·T_air + T_below/R)/(h + 1/R). 2 mm of skin over 8 mm of fat:
        // R = 0.002/0.15 + 0.008/0.17 = 0.0604, so at 245 °C over 70 °C it stands at (25·245 + 70/0.0604)/(25 + 16.56) = 175.3 °C.
        let mut skin = HotSkin::new(millimetres(2.0), millimetres(8.0), Dryness(1.0), celsius(15.0));
        for _ in 0..120 {
            skin.stand(minutes(1.0), (celsius(245.0), HeatTransfer(25.0)), 1.0, celsius(70.0));
        }
        assert!((skin.surface.in_c() - 175.3).abs() < 0.5, "{}", skin.surface.in_c());
    }

    /// A bulk that stands at 70 °C throughout, in such air until so many minutes.
    fn at(spells: &[(f64, f64)]) -> Vec<HeatPoint> {
        let min = spells.last().unwrap().0;
        let air = |after: f64| spells.iter().find(|(to, _)| after <= *to + 1e-9).unwrap().1;
        let point = |after: f64| HeatPoint {
            after: minutes(after),
            air: celsius(air(after)),
            core: celsius(70.0),
            surface: celsius(70.0),
            mean: celsius(70.0),
        };
        (0..=(min / 5.0) as usize).map(|i| point(i as f64 * 5.0)).collect()
    }

    fn through(how: How, air: f64, min: f64, before: f64, crust: bool) -> Crisp {
        let stage = FireStage { how, ..FireStage::of_a_method(celsius(air), StageEnd::After(minutes(min))) };
        crisp(&CrispAsk {
            skin: millimetres(2.5),
            fat: millimetres(8.0),
            radius: millimetres(25.0),
            before: Dryness(before),
            stages: &[stage],
            takes: &[minutes(min)],
            curve: &at(&[(min, stage.said().in_c())]),
            crust,
        })
    }

    #[test]
    fn what_must_puff_puffs_and_what_must_not_does_not() {
        // Common practice; the model is tuned to these rows, and the test keeps it where it was tuned.
        let dry = 0.95;
        for (air, min) in [(200.0, 50.0), (230.0, 25.0), (250.0, 25.0), (300.0, 20.0)] {
            let skin = through(How::Open, air, min, dry, false);
            assert!(skin.puffs.is_some() && !skin.is_patchy(), "{min} min of {air} °C: {skin:?}");
        }
        for (how, air, min, before) in [
            (How::Open, 175.0, 180.0, dry),
            (How::Open, 155.0, 120.0, dry),
            (How::Covered, 250.0, 60.0, dry),
            (How::Wrapped, 250.0, 60.0, dry),
            (How::InLiquid, 250.0, 60.0, dry),
            (How::Open, 250.0, 30.0, 0.0),
            (How::Open, 220.0, 45.0, 0.4),
        ] {
            let skin = through(how, air, min, before, false);
            assert_eq!(skin.puffs, None, "{how:?}, {min} min of {air} °C, {before} dry: {skin:?}");
        }
        // In between, in patches; and what the heat dries before it turns fierce counts, slowly.
        let patchy = through(How::Open, 245.0, 40.0, 0.8, false);
        assert!(patchy.is_patchy() && (0.8..0.9).contains(&patchy.begins.unwrap().0), "{patchy:?}");
        let low = through(How::Open, 165.0, 90.0, 0.8, false);
        assert!(low.puffs.is_none() && (0.83..0.95).contains(&low.after.0), "{low:?}");
    }

    #[test]
    fn fierce_first_and_low_after_it_puffs_and_so_does_what_lay_under_a_crust() {
        let of = |air: f64, min: f64| FireStage::of_a_method(celsius(air), StageEnd::After(minutes(min)));
        let two = |stages: [FireStage; 2], takes: [f64; 2], before, crust| {
            crisp(&CrispAsk {
                skin: millimetres(2.5),
                fat: millimetres(8.0),
                radius: millimetres(25.0),
                before: Dryness(before),
                stages: &stages,
                takes: &takes.map(minutes),
                curve: &at(&[(takes[0], stages[0].said().in_c()), (takes[0] + takes[1], stages[1].said().in_c())]),
                crust,
            })
        };
        assert!(two([of(240.0, 30.0), of(165.0, 60.0)], [30.0, 60.0], 0.95, false).puffs.is_some());
        let crust = two([of(155.0, 120.0), of(250.0, 20.0)], [120.0, 20.0], 0.0, true);
        assert!(crust.puffs.is_some_and(|at| at.in_min() > 120.0) && !crust.is_patchy(), "{crust:?}");
        assert_eq!(two([of(155.0, 30.0), of(250.0, 20.0)], [30.0, 20.0], 0.0, true).puffs, None, "half an hour under salt is too short");
    }

    #[test]
    fn covered_it_keeps_its_water() {
        for how in [How::Covered, How::Wrapped, How::InLiquid] {
            let skin = through(how, 250.0, 120.0, 0.97, false);
            assert!((skin.after.0 - 0.97).abs() < 1e-12 && skin.puffs.is_none(), "{how:?}: {skin:?}");
        }
        // A leaf lets a little out.
        let leaf = through(How::LeafWrapped, 110.0, 20.0, 0.2, false);
        assert!(leaf.after.0 > 0.2 && leaf.after.0 < through(How::Open, 110.0, 20.0, 0.2, false).after.0);
    }

    #[test]
    fn deeper_fat_does_not_decide() {
        let of = |fat: f64, air: f64| {
            let stage = FireStage::of_a_method(celsius(air), StageEnd::After(minutes(60.0)));
            let (skin, fat, radius) = (millimetres(2.5), millimetres(fat), millimetres(25.0));
            crisp(&CrispAsk {
                skin,
                fat,
                radius,
                before: Dryness(0.97),
                stages: &[stage],
                takes: &[minutes(60.0)],
                curve: &at(&[(60.0, air)]),
                crust: false,
            })
            .puffs
        };
        for fat in [5.0, 8.0, 15.0, 25.0] {
            assert!(of(fat, 230.0).is_some() && of(fat, 170.0).is_none(), "{fat} mm of fat");
        }
    }

    #[test]
    fn wetter_skin_never_puffs_sooner_and_a_hotter_air_never_later() {
        let puffs = |air, before| through(How::Open, air, 240.0, before, false).puffs.map_or(f64::INFINITY, TimeIn::in_min);
        let by_wetness: Vec<f64> = [0.97, 0.9, 0.75, 0.0].map(|before| puffs(245.0, before)).into();
        assert!(by_wetness.windows(2).all(|pair| pair[0] <= pair[1]) && by_wetness[2].is_finite(), "{by_wetness:?}");
        let by_air: Vec<f64> = [210.0, 235.0, 250.0, 300.0].map(|air| puffs(air, 0.97)).into();
        assert!(by_air.windows(2).all(|pair| pair[0] >= pair[1]), "{by_air:?}");
    }

    #[test]
    fn it_is_watched_as_long_as_skin_takes_and_not_by_a_figure() {
        let on = |with, air: f64, before: f64| {
            let stage = |c| FireStage { with, ..FireStage::of_a_method(celsius(c), StageEnd::Finish) };
            let (from, to) = (stage(before), stage(air));
            let first = if to.comes_up_after(&from).is_some() { before } else { air };
            let (skin, fat, under) = (millimetres(2.5), millimetres(8.0), celsius(68.0));
            hollow_after(&Hollow { skin, fat, from, to, first: celsius(first), under }).map(TimeIn::in_min)
        };
        let of = |air, before| on(HeatSource::Oven, air, before);
        // TRADE 7.1, common practice: 230 to 260 °C for 15 to 20 min after 165 to 180 °C, the oven's way up among them.
        let mut seen = 0;
        for (air, before) in [(230.0, 175.0), (245.0, 165.0), (245.0, 175.0), (260.0, 180.0)] {
            let min = of(air, before).unwrap();
            assert!((14.0..=21.0).contains(&min), "{min} min at {air} °C after {before}");
            seen += 1;
        }
        // What never puffs is never waited for; hotter is never slower, nor from a warmer oven.
        assert_eq!((of(140.0, 120.0), of(175.0, 160.0)), (None, None));
        let all: Vec<f64> = [205.0, 230.0, 260.0, 300.0].map(|air| on(HeatSource::Charcoal, air, 175.0).unwrap()).into();
        assert!(all.windows(2).all(|pair| pair[0] >= pair[1]) && all[0] > all[3], "{all:?}");
        assert!(of(245.0, 150.0) >= of(245.0, 175.0) && seen == 4);
    }
}
