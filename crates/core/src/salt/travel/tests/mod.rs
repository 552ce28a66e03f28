//! Travel against the closed forms of Crank, The Mathematics of Diffusion, 2nd ed. 1975, and the
//! tables of TRADE 4.11, which follow from them.

use super::*;
use crate::units::{GramsPerDm2, GramsPerKg, LengthIn, Share, celsius, hours, millimetres};
use proptest::prelude::*;
use rstest::rstest;
use std::f64::consts::PI;

const D: f64 = 2.5e-10;

fn lean(mm: f64, top: f64, bottom: f64, uptake: Uptake) -> Travel {
    let salting = Salting { top: GramsPerDm2(top), bottom: GramsPerDm2(bottom), inside: GramsPerKg(0.0), uptake };
    Travel::new(&[Layer { tissue: Tissue::Lean, thickness: millimetres(mm) }], salting, millimetres(0.1))
}

/// c(x)/mean with the dose on one face at x = 0 (Crank 1975, eq. 2.17 by reflection).
fn one_face(x: f64, l: f64, t: f64) -> f64 {
    1.0 + 2.0 * (1..400).map(f64::from).map(|n| (n * PI * x / l).cos() * (-(n * PI).powi(2) * D * t / (l * l)).exp()).sum::<f64>()
}

/// c(x)/mean with half the dose on each face: the one-face form of half the thickness.
fn both_faces(x: f64, l: f64, t: f64) -> f64 {
    one_face(x, l / 2.0, t)
}

type Series = fn(f64, f64, f64) -> f64;

#[rstest]
fn profile_matches_the_series(#[values(20.0, 25.0, 38.0, 50.0, 100.0)] mm: f64, #[values(12.0, 24.0, 48.0, 72.0, 168.0)] h: f64) {
    let (l, t) = (mm / 1000.0, h * 3600.0);
    for (top, bottom, series) in [(2.0, 2.0, both_faces as Series), (2.0, 0.0, one_face as Series)] {
        let mut travel = lean(mm, top, bottom, Uptake::Immediate);
        travel.run(hours(h), celsius(4.0));
        let profile = travel.profile();
        let mean = profile.slice().0;
        for cell in &profile.cells {
            let x = f64::midpoint(cell.top_mm, cell.bottom_mm) / 1000.0;
            let off = (cell.g_per_kg / mean - series(x, l, t)).abs();
            assert!(off < 0.002, "{mm} mm, {h} h, at {x} m: off by {off}");
        }
    }
}

// TRADE 4.11, two faces: evenness at 24, 48, 72 h; salted depth and rim ÷ slice at 24 h.
#[rstest]
#[case(20.0, [0.763, 0.972, 0.997], 20.0, 1.15)]
#[case(25.0, [0.497, 0.869, 0.967], 12.1, 1.39)]
#[case(38.0, [0.071, 0.404, 0.662], 11.5, 2.10)]
#[case(50.0, [0.004, 0.115, 0.314], 12.5, 2.77)]
#[case(100.0, [0.0, 0.0, 0.0], 14.7, 5.53)]
fn two_face_table(#[case] mm: f64, #[case] evenness: [f64; 3], #[case] depth: f64, #[case] rim: f64) {
    let mut travel = lean(mm, 1.0, 1.0, Uptake::Immediate);
    for (day, want) in evenness.into_iter().enumerate() {
        travel.run(hours(24.0), celsius(4.0));
        let profile = travel.profile();
        assert!((profile.evenness().0 - want).abs() < 0.002, "{mm} mm day {day}: {}", profile.evenness().0);
        if day == 0 {
            assert!((profile.salted_depth().in_mm() - depth).abs() < 0.1, "depth {}", profile.salted_depth().in_mm());
            assert!((profile.rim().0 / profile.slice().0 - rim).abs() < 0.006, "rim {}", profile.rim().0 / profile.slice().0);
        }
    }
}

// TRADE 4.11, one face: evenness at 24, 48, 72, 168 h.
#[rstest]
#[case(20.0, [0.047, 0.339, 0.599, 0.952])]
#[case(25.0, [0.004, 0.115, 0.314, 0.816])]
#[case(45.0, [0.0, 0.0, 0.003, 0.145])]
fn one_face_table(#[case] mm: f64, #[case] evenness: [f64; 4]) {
    for (h, want) in [24.0, 48.0, 72.0, 168.0].into_iter().zip(evenness) {
        let mut travel = lean(mm, 1.0, 0.0, Uptake::Immediate);
        travel.run(hours(h), celsius(4.0));
        assert!((travel.profile().evenness().0 - want).abs() < 0.002, "{mm} mm {h} h: {}", travel.profile().evenness().0);
    }
}

#[test]
fn rim_of_a_belly_salted_from_below() {
    // TRADE 4.11: lean 34.5 mm, one face: rim ÷ mean 4.95, 3.82, 2.82 at 12, 24, 48 h.
    for (h, want) in [(12.0, 4.95), (24.0, 3.82), (48.0, 2.82)] {
        let mut travel = lean(34.5, 0.0, 2.0, Uptake::Immediate);
        travel.run(hours(h), celsius(4.0));
        let profile = travel.profile();
        assert!((profile.rim().0 / profile.slice().0 - want).abs() < 0.01, "{h} h: {}", profile.rim().0 / profile.slice().0);
    }
}

#[test]
fn hours_to_an_evenness() {
    // TRADE 4.11, last column: 25 mm, both faces: 24.1 h to 0.5, 40.5 h to 0.8; one face four times.
    for (faces, factor) in [(1.0, 1.0), (0.0, 4.0)] {
        for (h, want) in [(24.1, 0.5), (40.5, 0.8)] {
            let mut travel = lean(25.0, 1.0, faces, Uptake::Immediate);
            travel.run(hours(h * factor), celsius(4.0));
            assert!((travel.profile().evenness().0 - want).abs() < 0.003);
        }
    }
}

#[rstest]
#[case(25.4, 1.0)]
#[case(50.8, 0.98)]
#[case(76.2, 0.91)]
#[case(101.6, 0.80)]
fn seven_days_an_inch(#[case] mm: f64, #[case] want: f64) {
    // TRADE 4.14: curing practice of 7 days per inch, both faces (common practice).
    let mut travel = lean(mm, 1.0, 1.0, Uptake::Immediate);
    travel.run(hours(7.0 * 24.0 * mm / 25.4), celsius(4.0));
    assert!((travel.profile().evenness().0 - want).abs() < 0.006, "{}", travel.profile().evenness().0);
}

#[test]
fn uptake_from_a_constant_surface_follows_crank() {
    // A store so large that the surface stays saturated: Crank 1975 eq. 4.18, fractions at Dt/l².
    let l: f64 = 0.01;
    for (fo, want) in [(0.01, 0.11284), (0.05, 0.25231), (0.2, 0.50409), (0.5, 0.76395), (1.0, 0.93126)] {
        let mut travel = lean(2.0 * l * 1000.0, 1e6, 1e6, Uptake::Store);
        travel.run(hours(fo * l * l / D / 3600.0), celsius(4.0));
        let fraction = travel.profile().slice().0 / (357.0 * 0.74);
        assert!((fraction - want).abs() < 0.002, "Dt/l² = {fo}: {fraction} is not {want}");
    }
}

/// Roots of J₀ (Abramowitz & Stegun, table 9.5), the first eight.
const J0: [f64; 8] = [
    2.404825557695773,
    5.520078110286311,
    8.653727912911013,
    11.791534439014281,
    14.930917708487787,
    18.071063967910924,
    21.211_636_629_879_26,
    24.352471530749302,
];

/// Uptake of a cylinder, and of a sphere, from a surface held saturated: Crank 1975, eq. 5.23 and eq. 6.20 (series), fractions of
/// what they hold in the end.
#[rstest]
fn round_pieces_take_up_salt_as_cranks_series_say(#[values(0.005, 0.02, 0.05, 0.1, 0.2, 0.4)] fo: f64) {
    let r: f64 = 0.02;
    let cylinder = |fo: f64| {
        // Early times need more terms than eight: the short-time form of eq. 5.25 there.
        if fo < 0.02 {
            4.0 * (fo / PI).sqrt() - fo - fo.powf(1.5) / (3.0 * PI.sqrt())
        } else {
            1.0 - J0.iter().map(|a| 4.0 / (a * a) * (-a * a * fo).exp()).sum::<f64>()
        }
    };
    let sphere = |fo: f64| 1.0 - 6.0 / (PI * PI) * (1..200).map(f64::from).map(|n| (-n * n * PI * PI * fo).exp() / (n * n)).sum::<f64>();
    for (power, want) in [(1.0, cylinder(fo)), (2.0, sphere(fo))] {
        let salting = Salting { top: GramsPerDm2(1e6), bottom: GramsPerDm2(1e6), inside: GramsPerKg(0.0), uptake: Uptake::Store };
        let layer = [Layer { tissue: Tissue::Lean, thickness: millimetres(2.0 * r * 1000.0) }];
        let mut travel = Travel::shaped(&layer, salting, millimetres(0.1), Metric::Round { power, shares: [0.5; 2] });
        travel.run(hours(fo * r * r / D / 3600.0), celsius(4.0));
        let fraction = travel.profile().slice().0 / (357.0 * 0.74);
        assert!((fraction - want).abs() < 0.002, "power {power}, Dt/r² = {fo}: {fraction} is not {want}");
    }
}

#[test]
fn a_hollow_sphere_holds_what_its_two_sides_were_given_and_ends_even() {
    // By hand: outer radius 100 mm, wall 50: (100³ − 50³)/3 = 291,667 mm³ for each steradian; 2 g/dm² outside are 200 mg, 1 inside
    // is 25 mg: 225 mg ÷ (0.291667 dm³ × 1.06) = 0.7278 g/kg.
    let salting = Salting { top: GramsPerDm2(2.0), bottom: GramsPerDm2(1.0), inside: GramsPerKg(0.0), uptake: Uptake::Store };
    let layer = [Layer { tissue: Tissue::Lean, thickness: millimetres(50.0) }];
    let mut travel = Travel::shaped(&layer, salting, millimetres(0.2), Metric::Hollow { inner: millimetres(50.0) });
    assert!((travel.waiting()[1].0 - 1.0).abs() < 1e-12 && (travel.waiting()[0].0 - 2.0).abs() < 1e-12);
    travel.run(hours(24.0 * 120.0), celsius(22.0));
    let profile = travel.profile();
    let want = 22.5 / (2.91667 * 1.06);
    assert!((profile.slice().0 - want).abs() < 1e-3 * want, "{} is not {want}", profile.slice().0);
    assert!(profile.evenness().0 > 0.99);
}

#[test]
fn fat_lets_in_what_its_water_holds() {
    // Saturated brine is 357 g/kg water; fat is 12 % water: at most 43 g/kg of it, however much lies on it. In a day a thick cap
    // takes in about 0.4 g/dm², in two 0.6 (√t: Crank 1975, eq. 3.15: 2·c·√(Dt/π)).
    let salting = Salting { top: GramsPerDm2(20.0), bottom: GramsPerDm2(0.0), inside: GramsPerKg(0.0), uptake: Uptake::Store };
    for (h, want) in [(24.0, 0.44), (48.0, 0.62)] {
        let layers =
            [Layer { tissue: Tissue::Fat, thickness: millimetres(15.0) }, Layer { tissue: Tissue::Lean, thickness: millimetres(30.0) }];
        let mut travel = Travel::new(&layers, salting, millimetres(0.1));
        travel.run(hours(h), celsius(4.0));
        let profile = travel.profile();
        assert!(profile.cells.iter().filter(|c| c.tissue == Tissue::Fat).all(|c| c.g_per_kg <= 0.12 * 357.0 + 1e-9));
        // By hand: 2 × 357 × 0.12 × 1.06 × √(D/30 · t/π): 0.4351 g/dm² in 24 h, 0.6153 in 48.
        let taken = 20.0 - travel.waiting()[0].0;
        assert!((taken - want).abs() < 0.03, "{h} h: {taken} g/dm²");
    }
}

#[test]
fn the_first_order_store_empties_by_its_time_constant() {
    // Closed form: a little salt waits as m₀·e^(−t/25 min) while the surface is far from saturated.
    let mut travel = lean(40.0, 0.02, 0.0, Uptake::Store);
    travel.run(hours(25.0 / 60.0), celsius(4.0));
    let left = travel.profile().waiting[0].0 / 0.02;
    assert!((left - (-1.0f64).exp()).abs() < 1e-3, "{left}");
}

#[test]
fn layers_reach_one_concentration_in_their_water() {
    // Closed form: at equilibrium c is equal everywhere, so tissue shows ε·c: 0.62 : 0.12 : 0.74.
    let layers = [
        Layer { tissue: Tissue::Skin, thickness: millimetres(1.0) },
        Layer { tissue: Tissue::Fat, thickness: millimetres(1.0) },
        Layer { tissue: Tissue::Lean, thickness: millimetres(4.0) },
    ];
    let salting = Salting { top: GramsPerDm2(0.0), bottom: GramsPerDm2(1.0), inside: GramsPerKg(0.0), uptake: Uptake::Immediate };
    let mut travel = Travel::new(&layers, salting, millimetres(0.1));
    travel.run(hours(24.0 * 60.0), celsius(4.0));
    let cells = travel.profile().cells;
    let water = cells.last().unwrap().g_per_kg / 0.74;
    for cell in &cells {
        assert!((cell.g_per_kg / cell.tissue.water() / water - 1.0).abs() < 0.01);
    }
}

#[test]
fn colder_is_a_slower_clock() {
    // Closed form of the Arrhenius law: 25 kJ/mol between 4 and 22 °C is a factor of exp(3006.8 × 0.00022004).
    let factor = diffusivity(Tissue::Lean, celsius(22.0)) / diffusivity(Tissue::Lean, celsius(4.0));
    let want = (25_000.0 / 8.314_462_618 * (1.0 / 277.15 - 1.0 / 295.15_f64)).exp();
    assert!((factor - want).abs() < 1e-9 && factor > 1.9 && factor < 2.0);
    // Immediate uptake at 22 °C for t equals 4 °C for t × factor.
    let (mut warm, mut cold) = (lean(30.0, 1.0, 1.0, Uptake::Immediate), lean(30.0, 1.0, 1.0, Uptake::Immediate));
    warm.run(hours(10.0), celsius(22.0));
    cold.run(hours(10.0 * factor), celsius(4.0));
    assert!((warm.profile().evenness().0 - cold.profile().evenness().0).abs() < 1e-3);
}

#[test]
fn spells_of_heat_are_one_stretch_of_the_clock() {
    // Arrhenius with 25 kJ/mol by hand: at 60 °C the clock runs exp(25000/8.314462618 · (1/277.15 − 1/333.15)) = 6.1944 times as
    // fast, at 20 °C 1.8078 times; the series then has 24 + 1.5·1.8078 + 2·6.1944 = 39.10 hours at 4 °C.
    let (mm, l) = (50.0, 0.05);
    let mut travel = lean(mm, 0.0, 3.0, Uptake::Immediate);
    travel.run(hours(24.0), celsius(4.0));
    let spells = [(hours(1.5), celsius(20.0)), (hours(1.0), celsius(60.0)), (hours(1.0), celsius(60.0))];
    travel.run_through(&spells);
    let profile = travel.profile();
    let mean = profile.slice().0;
    for cell in &profile.cells {
        let x = l - f64::midpoint(cell.top_mm, cell.bottom_mm) / 1000.0;
        assert!((cell.g_per_kg / mean - one_face(x, l, 39.1005 * 3600.0)).abs() < 2e-3, "{x}");
    }
    // Where salt still waits each spell has its own hours: the same as one after the other.
    let (mut one, mut other) = (lean(mm, 0.0, 3.0, Uptake::Store), lean(mm, 0.0, 3.0, Uptake::Store));
    one.run_through(&spells);
    for (time, at) in spells {
        other.run(time, at);
    }
    assert_eq!(one.profile(), other.profile());
}

#[test]
fn a_column_holds_what_was_laid_on_it() {
    // 10 g/kg through 45 mm of a 1.06 kg/L tissue, by hand: 10 × 0.45 L × 1.06 = 4.77 g/dm².
    assert!((Profile::from_points(&[(45.0, 10.0)]).load().0 - 4.77).abs() < 1e-9);
    // And whatever was laid on is inside or waits: 2.5 g/dm² in all.
    let mut travel = lean(40.0, 1.0, 1.5, Uptake::Store);
    for _ in 0..4 {
        travel.run(hours(0.5), celsius(4.0));
        let profile = travel.profile();
        assert!((profile.load().0 + profile.waiting[0].0 + profile.waiting[1].0 - 2.5).abs() < 1e-9);
    }
}

#[test]
fn grains_lie_where_the_salt_lies() {
    let mut travel = lean(40.0, 2.0, 0.0, Uptake::Store);
    travel.run(hours(24.0), celsius(4.0));
    let profile = travel.profile();
    let grains = profile.grain_depths(1000);
    let in_top = grains.iter().filter(|d| **d < 5.0).count() as f64 / 1000.0;
    let share = profile.mean_between(0.0, 5.0) * 5.0 / (profile.slice().0 * 40.0);
    assert!((in_top - share).abs() <= 0.001, "{in_top} of the grains, {share} of the salt");
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]

    #[test]
    fn mass_is_conserved(mm in 15.0..120.0f64, skin in 0.0..4.0f64, fat in 0.0..15.0f64, top in 0.0..8.0f64, bottom in 0.0..8.0f64, h in 0.1..96.0f64, c in -1.0..30.0f64) {
        let layers = [
            Layer { tissue: Tissue::Skin, thickness: millimetres(skin) },
            Layer { tissue: Tissue::Fat, thickness: millimetres(fat) },
            Layer { tissue: Tissue::Lean, thickness: millimetres(mm) },
        ];
        let salting = Salting { top: GramsPerDm2(top), bottom: GramsPerDm2(bottom), inside: GramsPerKg(3.0), uptake: Uptake::Store };
        let mut travel = Travel::new(&layers, salting, millimetres(0.5));
        let before = travel.total();
        travel.run(hours(h), celsius(c));
        prop_assert!((travel.total() - before).abs() <= 1e-9 * before.max(1e-3));
        prop_assert!(travel.profile().cells.iter().all(|cell| cell.g_per_kg > -1e-6));
    }

    #[test]
    fn more_hours_never_less_salt_inside(mm in 15.0..100.0f64, top in 0.1..6.0f64, h in 0.5..72.0f64, more in 0.1..24.0f64) {
        let inside = |h: f64| { let mut t = lean(mm, top, 0.0, Uptake::Store); t.run(hours(h), celsius(4.0)); (t.profile().slice().0, t.profile().middle().0) };
        let (sooner, later) = (inside(h), inside(h + more));
        prop_assert!(later.0 >= sooner.0 - 1e-9 && later.1 >= sooner.1 - 1e-9);
    }

    #[test]
    fn colder_never_travels_faster(c in -1.0..12.0f64, warmer in 0.5..10.0f64, h in 4.0..72.0f64) {
        let depth = |c: f64| { let mut t = lean(60.0, 1.0, 0.0, Uptake::Store); t.run(hours(h), celsius(c)); t.profile().evenness().0 };
        prop_assert!(depth(c) <= depth(c + warmer) + 1e-9);
    }
}

/// Salt pressed into grooves is a source down to their depth: it is kept to the last gram, and with all of it lodged evenly
/// through the whole column there is nothing left to travel.
#[test]
fn grooves_lodge_salt_deeper_and_lose_none() {
    let lean = [Layer { tissue: Tissue::Lean, thickness: millimetres(30.0) }];
    let salting = Salting { top: GramsPerDm2(0.0), bottom: GramsPerDm2(2.0), inside: GramsPerKg(0.0), uptake: Uptake::Store };
    let run = |grooves: Option<Grooved>| {
        let travel = Travel::new(&lean, salting, millimetres(0.2));
        let mut travel = grooves.into_iter().fold(travel, |t, g| t.grooved(1, g));
        let before = travel.total();
        travel.run(hours(24.0), celsius(4.0));
        assert!((travel.total() / before - 1.0).abs() < 1e-9, "mass is kept");
        travel.profile()
    };
    let whole = run(None);
    let grooved = run(Some(Grooved { depth: millimetres(6.0), share: Share(0.46) }));
    assert!(grooved.middle().0 > whole.middle().0 && grooved.salted_depth() > whole.salted_depth());
    assert!((grooved.slice().0 - whole.slice().0).abs() < 0.02 * whole.slice().0, "the same salt in the end");
    // Closed form: both ends grooved to the middle with all of their salt is an even column from the start.
    let both = Salting { top: GramsPerDm2(1.0), bottom: GramsPerDm2(1.0), ..salting };
    let all = Grooved { depth: millimetres(15.0), share: Share(1.0) };
    let mut even = Travel::new(&lean, both, millimetres(0.2)).grooved(0, all).grooved(1, all);
    even.run(hours(12.0), celsius(4.0));
    let profile = even.profile();
    // 2 g over 1 dm² × 30 mm × 1.06 kg/L: 6.289 g/kg everywhere, all but e^(−12 h/25 min) of it.
    assert!(profile.cells.iter().all(|c| (c.g_per_kg - 2.0 / (0.3 * 1.06)).abs() < 1e-6), "{:?}", profile.cells[0]);
}
