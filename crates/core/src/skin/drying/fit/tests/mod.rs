//! The fit against weighings made by SciPy with a known coefficient, and the questions it asks.

use super::*;
use crate::piece::FaceKind;
use crate::skin::drying::{Air, Drying, FridgePlacement, Side};
use crate::units::{RelativeHumidity, celsius, hours, millimetres, square_decimetres};
use rstest::rstest;

const VECTORS: &str = include_str!("../../../../../tests/reference/drying.csv");

/// (hours, grams lost) of 6.6 dm² of 2 mm skin at 4 °C, 50 %, h 5, by SciPy (`tests/reference/drying.py`).
fn belly() -> Vec<(f64, f64)> {
    let rows = VECTORS.lines().filter_map(|l| l.strip_prefix("belly,"));
    rows.map(|l| l.split_once(',').unwrap()).map(|(h, g)| (h.parse().unwrap(), g.parse().unwrap())).collect()
}

fn air() -> Air {
    Air { temperature: celsius(4.0), humidity: RelativeHumidity(0.5), h: HeatTransfer(5.0) }
}

fn skin() -> Drying {
    let side = Side { kind: FaceKind::Skin, area: square_decimetres(6.6), layer: millimetres(2.0), salt: vec![], on_salt: false };
    Drying { sides: vec![side], lies: FridgePlacement::Open }
}

fn lost(h: HeatTransfer, at: &[Time]) -> Vec<f64> {
    skin().lost(air(), h, at)
}

/// Normal noise by the sum of twelve even draws of a fixed linear congruential generator (Knuth's constants).
struct Noise(u64);

impl Noise {
    fn next(&mut self) -> f64 {
        let mut even = || {
            self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
            (self.0 >> 11) as f64 / (1u64 << 53) as f64
        };
        (0..12).map(|_| even()).sum::<f64>() - 6.0
    }
}

fn series<'a>(points: Vec<WeighedPoint>) -> Series<'a> {
    Series { lost: &lost, points }
}

fn point(h: f64, net_g: f64) -> WeighedPoint {
    WeighedPoint { at: hours(h), net_g, sigma_g: 1.0, stretch: 0 }
}

/// Of 200 fixed seeds, how many give h within a tenth of 5.
fn recovered(rows: &[(f64, f64)]) -> usize {
    (0..200)
        .filter(|seed| {
            let mut noise = Noise(*seed);
            let points = rows.iter().map(|(h, g)| point(*h, 2400.0 - g + noise.next())).collect();
            // From a belief that is wrong by more than half.
            let h = fit(&[series(points)], HeatTransfer(3.0)).h.0;
            (h / 5.0 - 1.0).abs() <= 0.10
        })
        .count()
}

#[test]
fn noisy_weighings_of_a_known_belly_give_its_coefficient_back() {
    let rows = belly();
    assert_eq!(rows.iter().map(|(h, _)| *h).collect::<Vec<_>>(), [0.0, 8.0, 16.0, 24.0]);
    // TRADE 6.8: weighed at 8, 16 and 24 h on a 1 g scale, about 2 % at 50 %; its weight when it went in is known.
    let with_start = recovered(&rows);
    assert!(with_start >= 190, "{with_start} of 200 within a tenth");
}

#[test]
fn the_band_is_as_wide_as_the_scale_makes_it() {
    let rows = belly();
    let points: Vec<_> = rows.iter().map(|(h, g)| point(*h, 2400.0 - g)).collect();
    let exact = fit(&[series(points)], HeatTransfer(3.0));
    // Exact weighings: within what the belief beforehand pulls, which is a tenth of the band.
    assert!((exact.h.0 / 5.0 - 1.0).abs() < 0.01, "{}", exact.h.0);
    // TRADE 6.8: about 2 %.
    assert!(exact.spread > 0.008 && exact.spread < 0.03, "{}", exact.spread);
    // Nothing weighed, nothing learned.
    let nothing = fit(&[series(vec![point(3.0, 2390.0)])], HeatTransfer(3.0));
    assert!((nothing.h.0 - 3.0).abs() < 1e-6 && (nothing.spread - 0.7).abs() < 1e-6);
}

#[test]
fn all_pieces_of_a_refrigerator_teach_it() {
    let rows = belly();
    let half: Vec<_> = rows[..2].iter().map(|(h, g)| point(*h, 2400.0 - g)).collect();
    let other: Vec<_> = rows[1..].iter().map(|(h, g)| point(*h, 1810.0 - g)).collect();
    let (one, both) = (fit(&[series(half.clone())], HeatTransfer(5.0)), fit(&[series(half), series(other)], HeatTransfer(5.0)));
    assert!(both.spread < one.spread && both.points == 5, "{} and {}", both.spread, one.spread);
}

#[test]
fn drip_poured_off_starts_a_new_stretch() {
    let weighing =
        |h: f64, g: f64, answer| Weighing { at: hours(h), gross: grams(g), tare: grams(600.0), fineness: grams(1.0), answer, open: false };
    let points = weighed_points(&[
        weighing(0.0, 3000.0, None),
        weighing(8.0, 2970.0, None),
        weighing(9.0, 2900.0, Some(Answer::DripPoured)),
        weighing(10.0, 2200.0, Some(Answer::TrayMissing)),
        weighing(11.0, 1.0, Some(Answer::Forget)),
        Weighing { open: true, ..weighing(12.0, 5.0, None) },
    ]);
    let read: Vec<_> = points.iter().map(|p| (p.net_g, p.stretch)).collect();
    assert_eq!(read, [(2400.0, 0), (2370.0, 0), (2300.0, 1), (2200.0, 1)]);
}

/// A weighing after 24 h on a tray of 640 g, beside good ones at 0, 8 and 16 h; off by so many grams.
fn asked(off: f64) -> Option<Doubt> {
    let rows = belly();
    let before: Vec<_> = rows[..3].iter().map(|(h, g)| point(*h, 2400.0 - g)).collect();
    let known = fit(&[series(before.clone())], HeatTransfer(5.0));
    let gross = grams(2400.0 - rows[3].1 + 640.0 + off);
    let new = Weighing { at: hours(24.0), gross, tare: grams(640.0), fineness: grams(1.0), answer: None, open: false };
    look_for_doubt(&series(before), &known, &new, grams(2400.0))
}

#[rstest]
#[case(0.0, None)]
#[case(2.5, None)]
#[case(-3.0, None)]
#[case(-640.0, Some(DoubtKind::TrayMissing))]
#[case(-652.0, Some(DoubtKind::TrayMissing))]
#[case(640.0, Some(DoubtKind::TrayTwice))]
#[case(-140.0, Some(DoubtKind::DripPoured))]
#[case(-30.0, Some(DoubtKind::Faster))]
#[case(20.0, Some(DoubtKind::Slower))]
#[case(60.0, Some(DoubtKind::Gained))]
fn a_weighing_that_does_not_fit_is_asked_about(#[case] off: f64, #[case] want: Option<DoubtKind>) {
    let got = asked(off);
    assert_eq!(got.map(|d| d.kind), want, "{got:?}");
    if let Some(doubt) = got {
        assert!((doubt.off.in_g() - off).abs() < 4.0, "{}", doubt.off.in_g());
        assert!(doubt.kind.answers().contains(&Answer::Right) && doubt.kind.answers().contains(&Answer::Forget));
    }
}

#[rstest]
#[case(2400.0, 0.0, None)]
#[case(2330.0, 0.0, None)]
#[case(1760.0, 640.0, Some(DoubtKind::TrayMissing))]
#[case(3040.0, 640.0, Some(DoubtKind::TrayTwice))]
#[case(900.0, 640.0, Some(DoubtKind::OtherPiece))]
fn the_first_weighing_is_held_against_what_it_was_said_to_weigh(#[case] net: f64, #[case] tare: f64, #[case] want: Option<DoubtKind>) {
    let new = Weighing { at: hours(1.0), gross: grams(net + tare), tare: grams(tare), fineness: grams(1.0), answer: None, open: false };
    let known = Fit::unweighed(HeatTransfer(5.0));
    assert_eq!(look_for_doubt(&series(vec![]), &known, &new, grams(2400.0)).map(|d| d.kind), want);
}

#[test]
fn the_model_meets_the_same_losses_as_scipy() {
    for (h, g) in belly() {
        let ours = lost(HeatTransfer(5.0), &[hours(h)])[0];
        assert!((ours - g).abs() <= 0.001 * g.max(1.0), "{h} h: {ours} is not {g}");
    }
}

proptest::proptest! {
    #![proptest_config(proptest::prelude::ProptestConfig::with_cases(40))]

    /// Whatever is weighed, the answer is a coefficient some refrigerator could have, with a band no wider than before.
    #[test]
    fn any_weighings_give_a_coefficient(rows in proptest::collection::vec((0.0..90.0f64, 1.0..20_000.0f64, 0usize..3), 0..9)) {
        let mut rows = rows;
        rows.sort_by(|a, b| a.0.total_cmp(&b.0));
        let points = rows.iter().map(|(h, g, stretch)| WeighedPoint { stretch: *stretch, ..point(*h, *g) }).collect();
        let fit = fit(&[series(points)], HeatTransfer(5.0));
        proptest::prop_assert!(fit.h.0.is_finite() && fit.h.0 >= 0.049 && fit.h.0 <= 60.1, "{fit:?}");
        proptest::prop_assert!(fit.spread > 0.0 && fit.spread <= 0.7 + 1e-9);
        proptest::prop_assert!(fit.away(-2.0).0 < fit.h.0 && fit.h.0 < fit.away(2.0).0);
    }

    /// What a scale of one gram may err is never asked about.
    #[test]
    fn noise_is_never_asked_about(off in -3.0..3.0f64) {
        proptest::prop_assert!(asked(off).is_none());
    }
}

#[test]
fn every_doubt_and_every_answer_has_its_name() {
    use DoubtKind::{DripPoured, Faster, Gained, OtherPiece, Slower, TrayMissing, TrayTwice};
    for kind in [TrayMissing, TrayTwice, DripPoured, Faster, Slower, Gained, OtherPiece] {
        assert_eq!(DoubtKind::find(kind.id()), Some(kind));
    }
    for answer in Answer::ALL {
        assert_eq!(Answer::find(answer.id()), Some(answer));
    }
    assert!(DoubtKind::find("tired").is_none() && Answer::find("perhaps").is_none());
}

#[test]
fn nothing_on_the_tray_is_no_tray_forgotten() {
    // The piece alone, without a tray: being light by some grams is never called a forgotten tray.
    let rows = belly();
    let before: Vec<_> = rows[..3].iter().map(|(h, g)| point(*h, 2400.0 - g)).collect();
    let known = fit(&[series(before.clone())], HeatTransfer(5.0));
    let new = Weighing { at: hours(24.0), gross: grams(1700.0), tare: grams(0.0), fineness: grams(1.0), answer: None, open: false };
    assert_eq!(look_for_doubt(&series(before), &known, &new, grams(2400.0)).map(|d| d.kind), Some(DoubtKind::DripPoured));
}

#[test]
fn a_fine_scale_asks_about_no_drop_on_the_rack() {
    // Half an hour after the last weighing, on a scale of 0.1 g: five grams are handling, forty are not.
    let rows = belly();
    let before: Vec<_> = rows[..3].iter().map(|(h, g)| point(*h, 2400.0 - g)).collect();
    let known = fit(&[series(before.clone())], HeatTransfer(5.0));
    let asked = |off: f64| {
        let gross = grams(2400.0 - lost(HeatTransfer(5.0), &[hours(16.5)])[0] + off);
        let new = Weighing { at: hours(16.5), gross, tare: grams(0.0), fineness: grams(0.1), answer: None, open: false };
        look_for_doubt(&series(before.clone()), &known, &new, grams(2400.0))
    };
    assert_eq!((asked(-5.0), asked(5.0)), (None, None));
    assert!(asked(-40.0).is_some() && asked(40.0).is_some());
}
