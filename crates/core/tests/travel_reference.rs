//! Salt travel against SciPy: layered, stored, heavy and variable-temperature cases.
//! The vectors and the script that made them stand in `reference/`.

use rauchkeller_core::salt::travel::{Layer, Salting, Tissue, Travel, Uptake};
use rauchkeller_core::units::{GramsPerDm2, GramsPerKg, celsius, hours, millimetres};
use rstest::rstest;

const VECTORS: &str = include_str!("reference/travel.csv");

fn layer(tissue: Tissue, mm: f64) -> Layer {
    Layer { tissue, thickness: millimetres(mm) }
}

fn belly() -> Vec<Layer> {
    vec![layer(Tissue::Skin, 2.5), layer(Tissue::Fat, 8.0), layer(Tissue::Lean, 34.5)]
}

/// More dry salt on an end, or less, after a stretch.
type Change = (usize, usize, f64);

#[rstest]
#[case("belly", belly(), 0.0, 2.0, 0.0, &[(24.0, 4.0)], &[])]
#[case("belly-72h", belly(), 0.0, 2.0, 0.0, &[(72.0, 4.0)], &[])]
#[case("duck", vec![layer(Tissue::Skin, 2.0), layer(Tissue::Fat, 4.5), layer(Tissue::Lean, 28.5)], 0.6, 2.4, 0.0, &[(24.0, 4.0)], &[])]
#[case("steak", vec![layer(Tissue::Lean, 38.0)], 1.0, 1.0, 0.0, &[(21.0, 4.0)], &[])]
#[case("heavy-crust", vec![layer(Tissue::Lean, 30.0)], 20.0, 0.0, 0.0, &[(2.0, 4.0)], &[])]
#[case("warm-then-cold", vec![layer(Tissue::Lean, 25.0)], 1.5, 1.5, 0.0, &[(1.0, 22.0), (12.0, 2.0), (3.0, 15.0)], &[])]
#[case("one-face", vec![layer(Tissue::Lean, 34.5)], 0.0, 2.0, 0.0, &[(24.0, 4.0)], &[])]
#[case("injected", vec![layer(Tissue::Skin, 1.5), layer(Tissue::Fat, 1.0), layer(Tissue::Lean, 47.5)], 0.5, 1.0, 6.0, &[(36.0, 3.0)], &[])]
#[case("added-midway", vec![layer(Tissue::Lean, 30.0)], 0.0, 1.2, 0.0, &[(6.0, 4.0), (18.0, 4.0)], &[(0, 1, 0.9)])]
#[case("brushed-off", vec![layer(Tissue::Lean, 38.0)], 3.0, 3.0, 0.0, &[(0.5, 4.0), (20.0, 4.0)], &[(0, 0, -1.5), (0, 1, -1.5)])]
#[case("to-the-table", belly(), 0.0, 2.0, 0.0, &[(24.0, 4.0), (0.5, 12.0), (1.0, 40.0), (0.5, 65.0), (0.3, 60.0)], &[])]
fn agrees_with_scipy(
    #[case] name: &str,
    #[case] layers: Vec<Layer>,
    #[case] top: f64,
    #[case] bottom: f64,
    #[case] inside: f64,
    #[case] temperatures: &[(f64, f64)],
    #[case] changes: &[Change],
) {
    let salting = Salting { top: GramsPerDm2(top), bottom: GramsPerDm2(bottom), inside: GramsPerKg(inside), uptake: Uptake::Store };
    let mut travel = Travel::new(&layers, salting, millimetres(0.1));
    for (stretch, &(h, c)) in temperatures.iter().enumerate() {
        travel.run(hours(h), celsius(c));
        for &(_, end, more) in changes.iter().filter(|(after, ..)| *after == stretch) {
            if more > 0.0 {
                travel.lay_on(end, GramsPerDm2(more));
            } else {
                travel.brush_off(end, GramsPerDm2(-more));
            }
        }
    }
    let profile = travel.profile();
    let saltiest = profile.cells.iter().map(|c| c.g_per_kg).fold(0.0, f64::max);
    let at = |depth: f64| {
        let middles: Vec<(f64, f64)> = profile.cells.iter().map(|c| (f64::midpoint(c.top_mm, c.bottom_mm), c.g_per_kg)).collect();
        let after = middles.partition_point(|(x, _)| *x < depth).clamp(1, middles.len() - 1);
        let ((x0, y0), (x1, y1)) = (middles[after - 1], middles[after]);
        y0 + (y1 - y0) * (depth - x0) / (x1 - x0)
    };
    let mut compared = 0;
    for line in VECTORS.lines().filter(|l| l.split(',').next() == Some(name)) {
        let fields: Vec<&str> = line.split(',').collect();
        if fields[1] == "waiting" {
            for (side, want) in fields[2..].iter().enumerate() {
                let want: f64 = want.parse().unwrap();
                let load = if side == 0 { top } else { bottom };
                assert!(
                    (profile.waiting[side].0 - want).abs() <= 0.005 * load,
                    "{name} waiting: {} is not {want}",
                    profile.waiting[side].0
                );
            }
            continue;
        }
        let (depth, want): (f64, f64) = (fields[1].parse().unwrap(), fields[2].parse().unwrap());
        // Half a per cent of the saltiest place.
        assert!((at(depth) - want).abs() <= 0.005 * saltiest, "{name} at {depth} mm: {} is not {want}", at(depth));
        compared += 1;
    }
    assert!(compared >= 20, "{name}: only {compared} depths in the vectors");
}
