//! What has to feel immediate: a whole plan, and 72 hours of salt travel. Run: `cargo bench -p rauchkeller-core`.

use criterion::{BenchmarkId, Criterion, criterion_group, criterion_main};
use rauchkeller_core::piece::Cut;
use rauchkeller_core::plan::{PlanRequest, make_plan};
use rauchkeller_core::salt::travel::{Layer, Salting, Tissue, Travel, Uptake};
use rauchkeller_core::skin::{Lattice, Outline, Pattern, ScoreAsk, pierce_outline, score};
use rauchkeller_core::units::{GramsPerDm2, GramsPerKg, celsius, grams, hours, millimetres};
use std::f64::consts::PI;
use std::hint::black_box;

fn plans(c: &mut Criterion) {
    let mut group = c.benchmark_group("plan");
    for (cut, g) in [("pork-belly", 2400.0), ("beef-rib-steak", 500.0), ("duck-whole", 2200.0), ("turkey-whole", 5200.0)] {
        let mut request = PlanRequest::new(
            Cut::find(cut).expect("a cut of the table"),
            grams(g),
            "2026-12-10T09:00[Europe/Vienna]".parse().expect("a time"),
        );
        request.serve_at = Some("2026-12-12T19:00[Europe/Vienna]".parse().expect("a time"));
        group.bench_function(cut, |b| b.iter(|| make_plan(black_box(&request)).expect("a plan")));
    }
    group.finish();
}

fn salting(uptake: Uptake) -> Salting {
    Salting { top: GramsPerDm2(0.0), bottom: GramsPerDm2(2.0), inside: GramsPerKg(0.0), uptake }
}

/// Largest error against the one-face series after `h` hours, as a share of the mean.
fn error_against_series(mm: f64, cell_mm: f64, h: f64) -> f64 {
    let lean = [Layer { tissue: Tissue::Lean, thickness: millimetres(mm) }];
    let mut travel = Travel::new(&lean, salting(Uptake::Immediate), millimetres(cell_mm));
    travel.run(hours(h), celsius(4.0));
    let profile = travel.profile();
    let (l, t, mean) = (mm / 1000.0, h * 3600.0, profile.slice().0);
    let series = |x: f64| {
        1.0 + 2.0 * (1..200).map(f64::from).map(|n| (n * PI * x / l).cos() * (-(n * PI).powi(2) * 2.5e-10 * t / (l * l)).exp()).sum::<f64>()
    };
    profile
        .cells
        .iter()
        .map(|cell| (cell.g_per_kg / mean - series(l - f64::midpoint(cell.top_mm, cell.bottom_mm) / 1000.0)).abs())
        .fold(0.0, f64::max)
}

fn travel(c: &mut Criterion) {
    let mut group = c.benchmark_group("travel 72 h");
    let layers = [
        Layer { tissue: Tissue::Skin, thickness: millimetres(2.5) },
        Layer { tissue: Tissue::Fat, thickness: millimetres(8.0) },
        Layer { tissue: Tissue::Lean, thickness: millimetres(34.5) },
    ];
    for cells in [150.0, 450.0] {
        println!(
            "lean 45 mm, {cells} cells, one face, 24 h: error against the series {:.1e} of the mean; 72 h: {:.1e}",
            error_against_series(45.0, 45.0 / cells, 24.0),
            error_against_series(45.0, 45.0 / cells, 72.0)
        );
        group.bench_with_input(BenchmarkId::new("layered 45 mm with store", cells), &cells, |b, cells| {
            b.iter(|| {
                let mut travel = Travel::new(black_box(&layers), salting(Uptake::Store), millimetres(45.0 / cells));
                travel.run(hours(72.0), celsius(4.0));
                travel.profile()
            });
        });
    }
    group.finish();
}

/// A large face, pierced thoroughly and scored closely.
fn face(c: &mut Criterion) {
    let slab = Outline::rectangle(millimetres(360.0), millimetres(280.0), millimetres(25.0)).expect("a face");
    let mut group = c.benchmark_group("face");
    for per_cm2 in [8.0, 20.0] {
        let holes = pierce_outline(&slab, Lattice::Square, per_cm2, millimetres(5.0)).expect("a density").at.len();
        group.bench_with_input(BenchmarkId::new("holes", holes), &per_cm2, |b, per_cm2| {
            b.iter(|| pierce_outline(black_box(&slab), Lattice::Square, *per_cm2, millimetres(5.0)));
        });
    }
    let ask = ScoreAsk { pattern: Pattern::Diamond, spacing: millimetres(5.0), direction: 0.0, margin: millimetres(5.0) };
    group.bench_function("diamonds 5 mm apart", |b| b.iter(|| score(black_box(&slab), ask)));
    group.finish();
}

criterion_group!(benches, plans, travel, face);
criterion_main!(benches);
