//! Every number can be asked why, and the reason follows the value it names.

use super::*;
use crate::ask::{CoverAsk, MixUse, PlanRequest};
use crate::salt::{LedgerLine, Salt, read_ledger_line};
use crate::units::Share;

fn reason(request: &PlanRequest, number: &str) -> Why {
    make_plan(request).unwrap().why.into_iter().find(|w| w.number == number).unwrap_or_else(|| panic!("no reason for {number}"))
}

#[test]
fn every_reason_names_its_values_their_sources_and_what_would_change_it() {
    for id in ["pork-belly", "turkey-whole", "beef-rib-steak", "lamb-leg"] {
        let cut = cut(id);
        let plan = make_plan(&PlanRequest::new(cut, grams(f64::midpoint(cut.typical_g.0, cut.typical_g.1)), now())).unwrap();
        for number in ["grams", "spoons", "faces", "mouthfuls", "hours", "sodium", "pull"] {
            let why = plan.why.iter().find(|w| w.number == number).unwrap_or_else(|| panic!("{id}: no reason for {number}"));
            assert!(!why.says.is_empty() && !why.bound_by.is_empty() && !why.would_change.is_empty(), "{id}: {why:?}");
            assert!(why.bound_by.iter().all(|b| !b.value.is_empty() && !b.source.is_empty()), "{id}: {why:?}");
        }
        assert_eq!(plan.why.iter().any(|w| w.number == "dryness"), cut.skin_mm > 0.0, "{id}");
    }
}

// Change the value a reason names, and its sentence or its values say the new one, worked out by hand.
#[rstest]
#[case("grams", |r: &mut PlanRequest| r.portions[0].weight = grams(2000.0), "7.5 g/kg × 2 kg = 15.0 g")]
#[case("grams", |r: &mut PlanRequest| r.dose = Some(GramsPerKg(9.0)), "9.0 g/kg × 2.4 kg = 21.6 g")]
// 18 g ÷ 0.97, the table's purity.
#[case("grams", |r: &mut PlanRequest| r.salt = Salt::find("clay-coarse"), "= 18.6 g")]
// 18 g of flakes at 2 g a teaspoon, three to the tablespoon.
#[case("spoons", |r: &mut PlanRequest| r.salt = Salt::find("pyramid-flakes"), "3 tbsp")]
#[case("mouthfuls", |r: &mut PlanRequest| r.hours = Some(hours(30.0)), "after 30 h")]
// Less is left than the ideal hours, and the reason says so.
#[case("hours", |r: &mut PlanRequest| r.serve_at = Some("2026-12-11T10:00[Europe/Vienna]".parse().unwrap()), "are what is left before the meal")]
// 18 g ÷ 2.5421 ÷ 4 = 1.770 g.
#[case("sodium", |r: &mut PlanRequest| r.servings = Some(4), "÷ 4 guests = 1770 mg")]
#[case("dryness", |r: &mut PlanRequest| r.skin = Some(millimetres(3.0)), "3.0 mm")]
// 2.5 + 5 − 1.5.
#[case("depth", |r: &mut PlanRequest| r.fat_min = Some(millimetres(5.0)), "− 1.5 mm = 6.0 mm")]
#[case("pull", |r: &mut PlanRequest| r.thickness = Some(millimetres(60.0)), "60 mm")]
fn the_sentence_follows_its_value(#[case] number: &str, #[case] change: fn(&mut PlanRequest), #[case] says: &str) {
    let told = |request: &PlanRequest| {
        let why = reason(request, number);
        format!("{} {}", why.says, why.bound_by.iter().map(|b| b.value.clone()).collect::<Vec<_>>().join(", "))
    };
    let mut request = belly();
    assert!(!told(&request).contains(says), "{number}: it says so already");
    change(&mut request);
    assert!(told(&request).contains(says), "{number}: {}", told(&request));
}

#[test]
fn the_value_that_moves_most_is_the_one_that_is_named() {
    // By hand on a 2.2 kg duck at 10 g/kg: 5 hundredths of bone 1.1 g; half a gram of dose on 1.54 kg 0.77 g; 5 % weight 0.77 g.
    let duck = PlanRequest::new(cut("duck-whole"), grams(2200.0), now());
    assert!(reason(&duck, "grams").would_change.contains("5 % more or less of bone is 1.1 g"), "{}", reason(&duck, "grams").would_change);
    // Where a thin coat of sauce brings more than that, its share is: 100 g soy, 8.376 g at 60 %: a fifth is 2.792 g.
    let Ok(LedgerLine::Entry(soy)) = read_ledger_line("100 g soy sauce") else { panic!("soy") };
    let sauced = PlanRequest { ledger: vec![soy], ..duck.clone() };
    assert!(reason(&sauced, "grams").would_change.contains("2.8 g"), "{}", reason(&sauced, "grams").would_change);
    // A cook who says the bone no longer reads that it is a guess.
    let source = |request: &PlanRequest| reason(request, "grams").bound_by.into_iter().find(|b| b.what == "bone").unwrap().source;
    assert!(source(&duck).contains("a guess") && source(&PlanRequest { bone: Some(Share(0.28)), ..duck }) == "as you said");
}

#[test]
fn mix_and_cover_say_why_too() {
    let mix = crate::salt::read_mix("rub", "32 g salt\n68 g sugar\nfor 6 kg", &[]).unwrap();
    let cover = CoverAsk { kind: crate::salt::CoverKind::Crust, depth: Some(millimetres(4.0)), left: None };
    let request = PlanRequest { mix: Some(MixUse { mix, asked: None, bath: None }), cover: Some(cover), ..belly() };
    // By hand: 100 g for 6 kg are 40 g for 2.4 kg; after 1 g/dm² of crust on the skin is taken off too.
    assert!(reason(&request, "mix").says.starts_with("100 g for 6 kg of meat: 40.0 g for 2.4 kg"), "{}", reason(&request, "mix").says);
    let why = reason(&request, "cover");
    // Fine sea salt: 5.6 ÷ 4.92892 = 1.14 g/mL; a millimetre more is a quarter of 4 mm.
    assert!(why.bound_by[0].value == "1.14 g/mL" && why.would_change.contains("a millimetre more"), "{why:?}");
    let said = PlanRequest { cover: Some(CoverAsk { left: Some(crate::units::GramsPerDm2(0.5)), ..cover }), ..request };
    assert_ne!(reason(&said, "cover"), why);
}
