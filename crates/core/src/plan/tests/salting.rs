//! Grams of whole plans: portions, mixes, blends, baths, covers, what was found at inspection, and ways out.

use super::*;
use crate::ask::{BoughtScoring, CoverAsk, MixUse, PlanRequest, Portion};
use crate::piece::Family;
use crate::salt::{CoverKind, LedgerLine, PackLabel, RIM_AT_MOST, Salt, read_ledger_line, read_mix};
use crate::units::{GramsPerDm2, Share};

fn entry(typed: &str) -> crate::salt::LedgerEntry {
    match read_ledger_line(typed) {
        Ok(LedgerLine::Entry(entry)) => entry,
        other => panic!("{typed}: {other:?}"),
    }
}

fn to_weigh(request: &PlanRequest) -> f64 {
    make_plan(request).unwrap().dose.dose.to_weigh.in_g()
}

#[test]
fn portions_may_differ_in_weight_thickness_and_dose() {
    let mut request = PlanRequest::new(cut("beef-rib-steak"), grams(900.0), now());
    let portion = |g, mm, dose: Option<f64>| Portion { weight: grams(g), thickness: Some(millimetres(mm)), dose: dose.map(GramsPerKg) };
    request.portions = vec![portion(400.0, 30.0, None), portion(500.0, 42.0, Some(12.0))];
    let plan = make_plan(&request).unwrap();
    // By hand: 10 × 0.4 + 12 × 0.5 = 4 + 6 g.
    let each: Vec<f64> = plan.dose.by_portion.iter().map(|p| p.salt.in_g()).collect();
    assert!((each[0] - 4.0).abs() < 1e-9 && (each[1] - 6.0).abs() < 1e-9, "{each:?}");
    // Time by the thickest: the house table at 42 mm, between 18 h at 30 and 24 h at 45: 22.8 h.
    assert!((plan.fridge.useful.ideal.in_h() - 22.8).abs() < 1e-9);
    assert!((plan.resolved.thickness.in_mm() - 42.0).abs() < 1e-9);
}

#[test]
fn a_sauce_is_shared_and_a_portion_never_goes_below_zero() {
    let mut request = PlanRequest::new(cut("beef-rib-steak"), grams(800.0), now());
    let portion = |dose| Portion { weight: grams(400.0), thickness: None, dose: Some(GramsPerKg(dose)) };
    request.portions = vec![portion(1.0), portion(12.0)];
    request.ledger = vec![entry("4 g rub 100% salt")];
    let plan = make_plan(&request).unwrap();
    // By hand: 0.4 + 4.8 = 5.2 g, less 4: 1.2 g to weigh, all of it on the second, since 2 g of rub are over the first's 0.4.
    assert!(plan.dose.by_portion[0].salt.in_g() == 0.0 && (plan.dose.by_portion[1].salt.in_g() - 1.2).abs() < 1e-9);
}

#[test]
fn the_dose_is_on_what_is_left_after_trimming() {
    let request = PlanRequest { trimmed: Some(grams(2000.0)), ..belly() };
    let plan = make_plan(&request).unwrap();
    // By hand: 7.5 g/kg × 2.0 kg = 15 g; 0.4 kg × 7.5 = 3 g less than bought.
    assert!((plan.dose.dose.to_weigh.in_g() - 15.0).abs() < 1e-9);
    let note = plan.inspection.iter().find(|n| n.field == "piece.trimmed_weight_g").unwrap();
    assert!(note.says.contains("3.0 g of salt less"), "{}", note.says);
}

#[test]
fn a_potassium_blend_doses_by_its_sodium_chloride_and_carries_the_note() {
    let blend = Salt::own("half salt", 5.0, 0.5, 0.48, None, Some(0.5)).unwrap();
    let plan = make_plan(&PlanRequest { salt: Some(blend), ..belly() }).unwrap();
    // By hand: 18 g of sodium chloride are 36 g of a salt that is half of it; 36 ÷ 0.5 = 72 pinches.
    assert!((plan.dose.dose.to_weigh.in_g() - 18.0).abs() < 1e-9 && (plan.dose.on_scale.in_g() - 36.0).abs() < 1e-9);
    assert_eq!(plan.dose.pinches, Some(72));
    assert!(plan.cautions.iter().any(|c| c.code == "potassium" && c.text.contains("Half salt")));
    let layout = plan.steps.iter().find(|s| s.step.kind == StepKind::LayOut).unwrap();
    assert_eq!(layout.step.figure.as_ref().unwrap().value, "36.0");
}

#[test]
fn a_mix_and_loose_salt_meet_the_dose() {
    let mix = read_mix("house rub", "32 g salt\n68 g sugar\nfor 6 kg", &[]).unwrap();
    let request = PlanRequest { mix: Some(MixUse { mix, asked: None, bath: None }), ledger: vec![entry("30 g soy sauce")], ..belly() };
    let plan = make_plan(&request).unwrap();
    // By hand: 100 g for 6 kg are 40 g for 2.4 kg, 12.8 g of salt; soy 2.5128; 18 − 15.3128 = 2.6872 g loose.
    let mixed = plan.dose.mix.as_ref().unwrap();
    assert!((mixed.scaled.used.in_g() - 40.0).abs() < 1e-9 && (plan.dose.dose.to_weigh.in_g() - 2.6872).abs() < 1e-9);
}

#[test]
fn a_mix_that_brings_all_of_the_salt_is_what_the_steps_weigh() {
    // By hand: 18 g at 50 % are 36 g of a rub that says no amount of meat.
    let mix = read_mix("house rub", "50 g salt\n50 g sugar", &[]).unwrap();
    let plan = make_plan(&PlanRequest { mix: Some(MixUse { mix, asked: None, bath: None }), ..belly() }).unwrap();
    for kind in [StepKind::LayOut, StepKind::Salt] {
        let step = &plan.steps.iter().find(|s| s.step.kind == kind).unwrap().step;
        assert_eq!(step.figure.as_ref().unwrap().value, "36.0");
        assert!(step.detail.contains("36.0 g house rub"), "{}", step.detail);
    }
}

#[test]
fn an_injected_bird_starts_above_zero_and_weighs_exactly_that_less() {
    let plain = PlanRequest::new(cut("turkey-whole"), grams(5000.0), now());
    let injected = PlanRequest { solution: Some(PackLabel::Sodium(240.0)), ..plain.clone() };
    let plan = make_plan(&injected).unwrap();
    // By hand, on the 72 % of the bird that is eaten: (240 − 70) mg/100 g × 5 kg × 0.72 × 2.5421 = 15.558 g.
    assert!((plan.dose.dose.from_ledger.in_g() - 15.558).abs() < 1e-3);
    assert!((to_weigh(&plain) - to_weigh(&injected) - 15.558).abs() < 1e-3);
    assert!(plan.inspection.iter().any(|n| n.field == "piece.solution" && n.says.contains("15.6 g")));
    // Over-full: nothing is weighed, and it says so.
    let over = PlanRequest { solution: Some(PackLabel::Sodium(600.0)), ..plain };
    let plan = make_plan(&over).unwrap();
    assert!(plan.dose.dose.to_weigh.in_g() == 0.0 && plan.cautions.iter().any(|c| c.code == "ledger-full"));
}

#[test]
fn a_bath_is_held_back_by_diffusion() {
    let request = PlanRequest { ledger: vec![entry("2000 g soy sauce bath 12 h")], dose: Some(GramsPerKg(30.0)), ..belly() };
    let line = &make_plan(&request).unwrap().dose.ledger[0];
    // 279 g of salt in it; the open faces of a 2.4 kg belly take about 4.06 g/dm² each (closed form in `bath`).
    let open = crate::salt::open_area(&make_plan(&request).unwrap().resolved.faces);
    assert!((line.salt.in_g() / crate::units::AreaIn::in_dm2(open) - 4.06).abs() < 0.01);
    assert!(line.bath_cap.is_some() && line.uptake.0 < 0.3);
}

#[test]
fn a_crust_is_mostly_thrown_away_and_its_rest_is_counted() {
    let cover = CoverAsk { kind: CoverKind::Crust, depth: Some(millimetres(4.0)), left: None };
    let request = PlanRequest {
        cover: Some(cover),
        salt: Salt::find("coarse-sea"),
        length: Some(millimetres(300.0)),
        width: Some(millimetres(200.0)),
        ..belly()
    };
    let plan = make_plan(&request).unwrap();
    // By hand: 6 dm² × 40 mL/dm² × 5.0/4.92892 g/mL = 243.5 g; 1 g/dm² stays: 6 g, on the skin.
    let laid = &plan.dose.cover.as_ref().unwrap().cover;
    assert!((laid.laid.in_g() - 243.46).abs() < 0.01 && (laid.left.in_g() - 6.0).abs() < 1e-9);
    assert!((plan.dose.dose.to_weigh.in_g() - 18.0).abs() < 1e-9);
    // Its salt is the skin's own: the meat has its 18 g all the same, and the guests have both. 24 g ÷ 2.5421 among them.
    let sodium = plan.dose.sodium_per_serving.in_g() * f64::from(plan.resolved.servings);
    assert!((sodium - 24.0 / 2.5421).abs() < 1e-3, "{sodium}");
    let found = PlanRequest { cover: Some(CoverAsk { left: Some(GramsPerDm2(2.0)), ..cover }), ..request };
    let found = make_plan(&found).unwrap().dose;
    assert!((found.dose.to_weigh.in_g() - 18.0).abs() < 1e-9 && (found.cover.unwrap().cover.left.in_g() - 12.0).abs() < 1e-9);
}

#[test]
fn bought_in_scoring_changes_the_plan() {
    let plan = |scored| make_plan(&PlanRequest { scored, ..belly() }).unwrap();
    let whole = plan(None);
    assert!(whole.steps.iter().any(|s| s.step.kind == StepKind::Pierce));
    let fat = plan(Some(BoughtScoring::IntoFat));
    assert!(fat.steps.iter().all(|s| s.step.kind != StepKind::Pierce) && fat.inspection.iter().any(|n| n.field == "piece.scored"));
    // Into the lean it is not intact, and a rare finish no longer applies: duck breast 57–60 goes to 73.9 °C.
    let duck = PlanRequest { scored: Some(BoughtScoring::IntoLean), ..PlanRequest::new(cut("duck-breast"), grams(350.0), now()) };
    let duck = make_plan(&duck).unwrap();
    assert!((duck.fire.targets[0].finish.in_c() - 73.9).abs() < 0.1);
    assert!(duck.cautions.iter().any(|c| c.code == "non-intact"));
}

#[test]
fn an_uneven_piece_is_told_what_its_thin_end_gets() {
    let request = PlanRequest { thickness: Some(millimetres(45.0)), thin: Some(millimetres(30.0)), ..belly() };
    let plan = make_plan(&request).unwrap();
    let says = &plan.inspection.iter().find(|n| n.field == "piece.thin_mm").unwrap().says;
    // By hand: heat by the square, 1 − (30/45)² = 56 %; its volume is that of 37.5 mm.
    assert!(says.contains("56 % sooner"), "{says}");
    let area = plan.resolved.measures.length * plan.resolved.measures.width * millimetres(37.5);
    assert!((crate::units::grams(area.value * 1055.0 * 1000.0).in_g() - 2400.0).abs() < 0.5);
    let even = PlanRequest { thin: Some(millimetres(43.0)), ..request };
    assert!(make_plan(&even).unwrap().inspection[0].says.starts_with("Even enough"));
}

#[test]
fn a_salty_rim_has_computed_ways_out() {
    let request = PlanRequest {
        thickness: Some(millimetres(120.0)),
        dose: Some(GramsPerKg(15.0)),
        hours: Some(hours(24.0)),
        ..PlanRequest::new(cut("beef-round-roast"), grams(2500.0), now())
    };
    let request = PlanRequest { serve_at: Some("2026-12-14T19:00[Europe/Vienna]".parse().unwrap()), ..request };
    let plan = make_plan(&request).unwrap();
    assert!(plan.fridge.state.rim.0 > RIM_AT_MOST, "{}", plan.fridge.state.rim.0);
    assert!(plan.cautions.iter().any(|c| c.code == "rim"));
    // The fewer grams it names really bring the rim down, by a plan of its own.
    let fewer = plan.ways_out.iter().find_map(|w| if let Instead::Grams(g) = w.instead { Some(g.in_g()) } else { None });
    let dose = 15.0 * fewer.unwrap() / plan.dose.on_scale.in_g();
    let less = make_plan(&PlanRequest { dose: Some(GramsPerKg(dose)), ..request.clone() }).unwrap();
    assert!(less.fridge.state.rim.0 <= RIM_AT_MOST + 0.3 && less.fridge.state.rim.0 > RIM_AT_MOST - 2.0, "{}", less.fridge.state.rim.0);
    // And so do the hours it names.
    let more = plan.ways_out.iter().find_map(|w| if let Instead::Hours(h) = w.instead { Some(h) } else { None });
    let longer = PlanRequest { serve_at: Some("2026-12-24T19:00[Europe/Vienna]".parse().unwrap()), hours: more, ..request };
    assert!(longer.hours.is_some_and(|h| h > hours(24.0)));
    assert!(make_plan(&longer).unwrap().fridge.state.rim.0 <= RIM_AT_MOST + 0.1);
    assert!(make_plan(&belly()).unwrap().ways_out.is_empty());
}

#[rstest]
#[case("piece.thin_mm", |r: &mut PlanRequest| r.thin = Some(millimetres(80.0)))]
#[case("piece.trimmed_weight_g", |r: &mut PlanRequest| r.trimmed = Some(grams(2500.0)))]
#[case("piece.trimmed_weight_g", |r: &mut PlanRequest| r.trimmed = Some(grams(500.0)))]
#[case("salt.cover.depth_mm", |r: &mut PlanRequest| r.cover = Some(CoverAsk { kind: CoverKind::Crust, depth: Some(millimetres(90.0)), left: None }))]
#[case("salt.cover.left_g_per_dm2", |r: &mut PlanRequest| r.cover = Some(CoverAsk { kind: CoverKind::Bed, depth: None, left: Some(GramsPerDm2(50.0)) }))]
#[case("piece.portions[0].g_per_kg", |r: &mut PlanRequest| r.portions[0].dose = Some(GramsPerKg(60.0)))]
#[case("piece.weight_g", |r: &mut PlanRequest| r.portions[0].weight = grams(300_000.0))]
#[case("piece.weight_g", |r: &mut PlanRequest| r.portions[0].weight = grams(0.0))]
#[case("piece.bone_fraction", |r: &mut PlanRequest| r.bone = Some(Share(1.2)))]
fn what_cannot_be_is_refused_at_its_field(#[case] field: &str, #[case] change: fn(&mut PlanRequest)) {
    let mut request = belly();
    change(&mut request);
    let refused = make_plan(&request).unwrap_err();
    assert!(refused.iter().any(|r| r.field == field), "{field}: {refused:?}");
}

#[test]
fn a_cover_needs_skin_or_fat() {
    let cover = Some(CoverAsk { kind: CoverKind::Draw, depth: None, left: None });
    for cut in Cut::all() {
        let refused =
            make_plan(&PlanRequest { cover, ..PlanRequest::new(cut, grams(f64::midpoint(cut.typical_g.0, cut.typical_g.1)), now()) });
        assert_eq!(refused.is_err(), cut.skin_mm <= 0.0 && cut.fat_mm <= 0.0, "{}", cut.id);
        assert!(cut.family != Family::Bird || refused.is_ok());
    }
}

fn any_salting() -> impl Strategy<Value = PlanRequest> {
    let numbers = (0..Cut::all().count(), 0.0..1.0f64, 0.0..30.0f64, 0.0..80.0f64, 0.3..1.0f64, any::<bool>(), 0..4usize, 1..4usize);
    numbers.prop_map(|(index, weight, dose, sauce, purity, mixed, covered, count)| {
        let cut = Cut::all().nth(index).unwrap();
        let g = cut.typical_g.0 + (cut.typical_g.1 - cut.typical_g.0) * weight;
        let mut request = PlanRequest::new(cut, grams(g), now());
        request.portions =
            (0..count).map(|i| Portion { weight: grams(g), thickness: None, dose: (i == 1).then_some(GramsPerKg(dose / 2.0)) }).collect();
        request.dose = Some(GramsPerKg(dose));
        request.salt = Salt::own("own", 4.0, purity, 0.0, None, None).ok();
        request.ledger = vec![entry(&format!("{:.1} g soy sauce", sauce + 0.1)), entry("300 g fish sauce bath 3 h")];
        request.mix =
            mixed.then(|| MixUse { mix: read_mix("rub", "30 g salt\n70 g sugar\nfor 4 kg", &[]).unwrap(), asked: None, bath: None });
        let kind = CoverKind::ALL.get(covered).copied().filter(|_| cut.skin_mm > 0.0 || cut.fat_mm > 0.0);
        request.cover = kind.map(|kind| CoverAsk { kind, depth: None, left: None });
        request.method = (covered % 2 == 0).then(|| Method::find("dry-brine")).flatten();
        request
    })
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(80))]

    #[test]
    fn faces_portions_and_ladder_add_up_over_all_cuts_and_methods(request in any_salting()) {
        // What goes on may be more than a plan takes; that is refused as a typed dose is, and nothing else is.
        let plan = match make_plan(&request) {
            Err(refused) => {
                prop_assert!(refused.iter().all(|r| r.field == "ledger" || r.field == "mix.g"), "{refused:?}");
                return Err(TestCaseError::reject("too salty"));
            }
            Ok(plan) => plan,
        };
        let dose = &plan.dose;
        let (total, brought, weigh) = (dose.dose.total.in_g(), dose.dose.from_ledger.in_g(), dose.dose.to_weigh.in_g());
        let ladder: f64 = dose.ledger.iter().map(|l| l.salt.in_g()).sum();
        let faces: f64 = dose.by_face.iter().map(|f| f.salt.in_g()).sum();
        let portions: f64 = dose.by_portion.iter().map(|p| p.salt.in_g()).sum();
        prop_assert!((ladder - brought).abs() < 1e-6);
        prop_assert!((faces - weigh).abs() < 0.1 && (portions - weigh).abs() < 0.1, "{faces} {portions} {weigh}");
        if brought <= total + 0.05 {
            prop_assert!((brought + weigh - total).abs() < 0.1, "{brought} + {weigh} is not {total}");
        } else {
            prop_assert!(weigh == 0.0 && plan.cautions.iter().any(|c| c.code == "ledger-full"));
        }
        prop_assert!((dose.on_scale.in_g() * plan.resolved.salt.purity - weigh).abs() < 1e-6);
    }
}
