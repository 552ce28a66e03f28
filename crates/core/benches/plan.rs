//! What has to feel immediate: a whole plan, and 72 hours of salt travel. Run: `cargo bench -p rauchkeller-core`.

use criterion::{BenchmarkId, Criterion, criterion_group, criterion_main};
use rauchkeller_core::ask::{AirAsk, FireRequest, PlanRequest, Portion, SkinAsk, StageAsk};
use rauchkeller_core::clock::Quiet;
use rauchkeller_core::fire::{HeatSource, How, StageEnd};
use rauchkeller_core::method::{Method, School, StepKind, TaskRow, methods};
use rauchkeller_core::piece::Cut;
use rauchkeller_core::plan::{MOST_TASK_ROWS, make_plan, refuse_document};
use rauchkeller_core::salt::travel::{Cell, Layer, Salting, Tissue, Travel, Uptake};
use rauchkeller_core::skin::{Avoid, CoverWork, Lattice, Outline, Pattern, ScoreAsk, pierce_outline, score};
use rauchkeller_core::units::{GramsPerDm2, GramsPerKg, celsius, grams, hours, millimetres, minutes};
use std::f64::consts::PI;
use std::hint::black_box;

/// Every cut of the table at its typical weight, sixty hours before the meal.
fn plans(c: &mut Criterion) {
    let mut group = c.benchmark_group("plan");
    group.sample_size(20).measurement_time(std::time::Duration::from_secs(1)).warm_up_time(std::time::Duration::from_millis(300));
    for cut in Cut::all() {
        let typical = f64::midpoint(cut.typical_g.0, cut.typical_g.1);
        let mut request = PlanRequest::new(cut, grams(typical), "2026-12-10T07:00[Europe/Vienna]".parse().expect("a time"));
        request.serve_at = Some("2026-12-12T19:00[Europe/Vienna]".parse().expect("a time"));
        group.bench_function(cut.id, |b| b.iter(|| make_plan(black_box(&request)).expect("a plan")));
    }
    group.finish();
}

/// Every cut by every method that fits it. None is to take 2.5 ms; what takes more than 1.5 ms is named in the note of the day.
fn ways(c: &mut Criterion) {
    let mut group = c.benchmark_group("way");
    group.sample_size(10).measurement_time(std::time::Duration::from_millis(200)).warm_up_time(std::time::Duration::from_millis(50));
    for cut in Cut::all() {
        let typical = f64::midpoint(cut.typical_g.0, cut.typical_g.1);
        for method in methods().iter().filter(|method| method.fits(cut)) {
            let mut request = PlanRequest::new(cut, grams(typical), "2026-12-10T07:00[Europe/Vienna]".parse().expect("a time"));
            request.serve_at = Some("2026-12-13T19:00[Europe/Vienna]".parse().expect("a time"));
            request.method = Some(method.clone());
            group.bench_function(BenchmarkId::new(cut.id, &method.id), |b| b.iter(|| make_plan(black_box(&request)).expect("a plan")));
        }
    }
    group.finish();
}

/// A document at its caps: sixty tasks, each as long as it may be said to be, and a night of all the day but a minute.
fn longest_document() -> PlanRequest {
    let mut school: School = (*Method::find("open-air").expect("a method")).clone();
    school.id = "own-long".into();
    school.own_hours = Some((0.0, 168.0, 336.0));
    let salt = school.tasks.iter().position(|task| task.kind == StepKind::Salt).expect("a salting");
    let more = MOST_TASK_ROWS - school.tasks.len();
    let mut before = school.tasks[salt].after.clone();
    for i in 0..more {
        let id = format!("dry-{}", i + 10);
        let row = TaskRow { id: id.clone().into(), after: before, minutes: Some([1.0, 60.0, 1440.0]), ..TaskRow::usual(StepKind::Dry) };
        before = vec![id.into()];
        school.tasks.insert(salt + i, row);
    }
    school.tasks[salt + more].after = before;
    assert!(school.tasks.len() == MOST_TASK_ROWS && refuse_document(&school).is_empty(), "{:?}", refuse_document(&school));
    let mut request = PlanRequest::new(
        Cut::find("pork-belly").expect("a cut"),
        grams(4000.0),
        "2026-12-01T07:00[Europe/Vienna]".parse().expect("a time"),
    );
    request.serve_at = Some("2026-12-20T19:00[Europe/Vienna]".parse().expect("a time"));
    request.method = Some(school.into());
    let minute = |h, m| jiff::civil::time(h, m, 0, 0);
    request.kitchen.quiet = Some(Quiet { from: minute(12, 1), to: minute(12, 0) });
    request
}

fn salting(uptake: Uptake) -> Salting {
    Salting { top: GramsPerDm2(0.0), bottom: GramsPerDm2(2.0), inside: GramsPerKg(0.0), uptake }
}

/// Largest error of a lean 45 mm column against the one-face series after `h` hours, as a share of the mean.
fn error_against_series(cells: usize, h: f64) -> f64 {
    let (mm, l, t) = (45.0, 0.045, h * 3600.0);
    let lean = [Layer { tissue: Tissue::Lean, thickness: millimetres(mm) }];
    let mut travel = Travel::new(&lean, salting(Uptake::Immediate), millimetres(mm / cells as f64));
    travel.run(hours(h), celsius(4.0));
    let profile = travel.profile();
    let mean = profile.slice().0;
    let series = |x: f64| {
        1.0 + 2.0 * (1..200).map(f64::from).map(|n| (n * PI * x / l).cos() * (-(n * PI).powi(2) * 2.5e-10 * t / (l * l)).exp()).sum::<f64>()
    };
    let off = |cell: &Cell| (cell.g_per_kg / mean - series(l - f64::midpoint(cell.top_mm, cell.bottom_mm) / 1000.0)).abs();
    profile.cells.iter().map(off).fold(0.0, f64::max)
}

/// A belly: its layers, with the salt waiting on the meat side.
fn layered() -> [Layer; 3] {
    [(Tissue::Skin, 2.5), (Tissue::Fat, 8.0), (Tissue::Lean, 34.5)].map(|(tissue, mm)| Layer { tissue, thickness: millimetres(mm) })
}

/// Largest error of the layered column after 72 h against the vectors of `reference/solver_race.py`: the same equation on a
/// grid nine times as fine, to tolerances of 1e-10. As a share of the mean.
fn error_against_fine_grid(cells: usize) -> f64 {
    let mut travel = Travel::new(&layered(), salting(Uptake::Store), millimetres(45.0 / cells as f64));
    travel.run(hours(72.0), celsius(4.0));
    let profile = travel.profile();
    let mean = profile.slice().0;
    let fine = include_str!("../tests/reference/solver_race.csv").lines().filter(|l| !l.starts_with('#'));
    let fine: Vec<(f64, f64)> =
        fine.map(|l| l.split_once(',').expect("depth, g/kg")).map(|(x, c)| (x.parse().expect("mm"), c.parse().expect("g/kg"))).collect();
    let off = |(cell, (x, want)): (&Cell, &(f64, f64))| {
        assert!((f64::midpoint(cell.top_mm, cell.bottom_mm) - x).abs() < 1e-6, "the vectors are for 450 cells");
        (cell.g_per_kg - want).abs() / mean
    };
    profile.cells.iter().zip(&fine).map(off).fold(0.0, f64::max)
}

fn travel(c: &mut Criterion) {
    let mut group = c.benchmark_group("travel 72 h");
    println!("layered 45 mm with store, 450 cells, 72 h: error {:.1e} of the mean", error_against_fine_grid(450));
    for cells in [150, 450] {
        let (day, three) = (error_against_series(cells, 24.0), error_against_series(cells, 72.0));
        println!(
            "lean 45 mm, {cells} cells, one face, all at once: error against the series {day:.1e} of the mean at 24 h, {three:.1e} at 72 h"
        );
        group.bench_with_input(BenchmarkId::new("layered 45 mm with store", cells), &cells, |b, cells| {
            let layers = layered();
            b.iter(|| {
                let mut travel = Travel::new(black_box(&layers), salting(Uptake::Store), millimetres(45.0 / *cells as f64));
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

/// What costs most of what anybody may ask for: each at its cap. None of them is to take 50 ms.
fn at_the_caps(c: &mut Criterion) {
    let now = || "2026-12-10T07:00[Europe/Vienna]".parse().expect("a time");
    let of = |cut: &str, g: f64| PlanRequest {
        serve_at: Some("2026-12-12T19:00[Europe/Vienna]".parse().expect("a time")),
        ..PlanRequest::new(Cut::find(cut).expect("a cut"), grams(g), now())
    };
    // The closest diamonds that are not refused, with twelve places to keep out of.
    let diamonds = |mm: f64| {
        let spot = |i: u32| Avoid::Spot { at: (30.0 + 25.0 * f64::from(i), 60.0 + 10.0 * f64::from(i % 5)), radius: millimetres(7.0) };
        let avoid: Vec<Avoid> = (0..12).map(spot).collect();
        let cover = CoverWork::Score { pattern: Pattern::Diamond, spacing: millimetres(mm), direction: 0.0 };
        PlanRequest { skin_work: Some(SkinAsk { cover: Some(cover), avoid, ..SkinAsk::default() }), ..of("pork-belly", 4000.0) }
    };
    let closest = (2..40).map(|half| f64::from(half) * 0.5).find(|mm| make_plan(&diamonds(*mm)).is_ok()).expect("some spacing");
    // As many stages of a pan as may be, turned as often as may be.
    let turned = |stages: usize| {
        let stage = StageAsk {
            with: Some(HeatSource::Pan),
            air: AirAsk::At(celsius(120.0)),
            how: How::Direct,
            until: StageEnd::After(minutes(230.0)),
            flip: Some(minutes(1.0)),
        };
        let fire = FireRequest { stages: Some(vec![stage; stages]), ..FireRequest::default() };
        PlanRequest { fire, ..of("beef-rib-steak", 900.0) }
    };
    let most = (1..=12).rev().find(|n| make_plan(&turned(*n)).is_ok()).expect("some stages");
    let leg = |i: u32| Portion {
        weight: grams(2000.0 + 150.0 * f64::from(i)),
        thickness: Some(millimetres(100.0 + 3.0 * f64::from(i))),
        dose: None,
    };
    let legs = PlanRequest { portions: (0..24).map(leg).collect(), ..of("pork-leg", 4000.0) };
    let salty = PlanRequest { dose: Some(GramsPerKg(24.0)), faces: Some(vec!["meat".into()]), ..of("pork-butt", 4500.0) };
    let mut group = c.benchmark_group("at the caps");
    group.sample_size(10).measurement_time(std::time::Duration::from_secs(2)).warm_up_time(std::time::Duration::from_millis(300));
    println!("diamonds {closest} mm apart; {most} stages turned every minute");
    let all = [
        ("close diamonds", diamonds(closest)),
        ("turned in a pan", turned(most)),
        ("24 legs of 24 thicknesses", legs),
        ("a salty rim", salty),
        ("a document of sixty tasks", longest_document()),
    ];
    for (name, request) in all {
        group.bench_function(name, |b| b.iter(|| make_plan(black_box(&request)).expect("a plan")));
    }
    group.finish();
}

criterion_group!(benches, plans, ways, travel, face, at_the_caps);
criterion_main!(benches);
