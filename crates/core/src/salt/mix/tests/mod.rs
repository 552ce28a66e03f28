//! Recipes by hand.

use super::*;
use rstest::rstest;

fn rub() -> Mix {
    read_mix("house rub", "32 g fine sea salt\n40 g brown sugar; 28 g paprika\nfor 5 kg", &[]).unwrap()
}

#[test]
fn a_rub_has_the_salt_of_its_parts() {
    let mix = rub();
    assert!((mix.weight().in_g() - 100.0).abs() < 1e-9 && (mix.salt_share() - 0.32).abs() < 1e-12);
    assert_eq!(mix.made_for, Some(grams(5000.0)));
}

#[test]
fn thirty_eight_grams_of_rub_and_six_of_salt() {
    // By hand: 1.9 kg of a rub made for 5 kg is 38 g, with 12.16 g of salt; a dose of 18.16 g leaves 6 g loose.
    let scaled = scale_mix(&rub(), grams(18.16), grams(1900.0), None, plenty());
    assert!((scaled.used.in_g() - 38.0).abs() < 1e-9 && (scaled.loose.in_g() - 6.0).abs() < 1e-9);
    assert!((scaled.brings.in_g() - 12.16).abs() < 1e-9);
    let sugar = scaled.parts.iter().find(|(name, _)| name == "brown sugar").unwrap().1;
    assert!((sugar.in_g() - 15.2).abs() < 1e-9);
}

#[test]
fn a_salty_recipe_is_held_to_the_dose_unless_asked() {
    // Made for so little meat that it would oversalt: 10 g missing at 32 % are 31.25 g of rub, and no loose salt.
    let scaled = scale_mix(&rub(), grams(10.0), grams(40_000.0), None, plenty());
    assert!((scaled.used.in_g() - 31.25).abs() < 1e-9 && scaled.loose.in_g() < 1e-9);
    let asked = scale_mix(&rub(), grams(10.0), grams(1900.0), Some(grams(50.0)), plenty());
    assert!((asked.brings.in_g() - 16.0).abs() < 1e-9 && asked.loose.in_g() == 0.0);
}

// By hand with the table's spoon weights: 2 tbsp × 6.8; 3 × 3 g; soy 16 g/tbsp at 13.96 %; fine table 6 g/tsp; 1 cup = 16 tbsp.
#[rstest]
#[case("2 tbsp paprika", 13.6, 0.0)]
#[case("3 cloves garlic", 9.0, 0.0)]
#[case("3 cloves of garlic", 9.0, 0.0)]
#[case("1 tbsp soy sauce", 16.0, 2.2336)]
#[case("1 tsp fine table salt", 6.0, 6.0)]
#[case("2 tsp salt", 12.0, 12.0)]
#[case("1 cup oil", 216.0, 0.0)]
#[case("10 g celery salt 60% salt", 10.0, 6.0)]
#[case("1 oz light-flake kosher salt", 28.3495, 28.3495)]
#[case("100 g clay-mixed coarse salt", 100.0, 97.0)]
#[case("50 g stock powder", 50.0, 30.0)]
// USDA SR Legacy, from memory: miso 3,728 mg of sodium in 100 g.
#[case("100 g miso", 100.0, 9.48)]
#[case("1 tbsp mustard powder", 6.3, 0.0)]
#[case("a handful of parsley", 15.0, 0.0)]
#[case("2 sprigs rosemary", 3.0, 0.0)]
#[case("50 ml bourbon", 47.3395, 0.0)]
#[case("3 tbsp sea salt", 50.4, 50.4)]
fn parts(#[case] line: &str, #[case] g: f64, #[case] salt: f64) {
    let mix = read_mix("m", line, &[]).unwrap();
    assert!((mix.parts[0].weight.in_g() - g).abs() < 1e-3, "{line}: {:?}", mix.parts[0]);
    assert!((mix.parts[0].salt.in_g() - salt).abs() < 1e-3, "{line}: {:?}", mix.parts[0]);
    assert!(mix.parts[0].known);
}

#[test]
fn what_nobody_knows_is_counted_in_the_middle_and_named() {
    let mix = read_mix("m", "20 g salt\n80 g plum paste", &[]).unwrap();
    assert_eq!(mix.unknown(), ["plum paste"]);
    // 0.5 to 15 g in 100 g (our estimate), 7.75 in the middle: 20 + 6.2 g of 100.
    assert!((mix.salt_share() - 0.262).abs() < 1e-12);
}

#[test]
fn percentages_make_a_whole() {
    let mix = read_mix("m", "40% fine sea salt\n35% sugar\n25% pepper", &[]).unwrap();
    assert!((mix.salt_share() - 0.4).abs() < 1e-12);
    // Plain salt among percentages is an ingredient, not a claim about the whole.
    let plain = read_mix("m", "40% salt\n60% sugar", &[]).unwrap();
    assert!((plain.salt_share() - 0.4).abs() < 1e-12 && plain.parts.len() == 2);
}

#[rstest]
#[case("40% fine sea salt\n35% sugar", "75.0 %")]
#[case("40% fine sea salt\n35 g sugar", "all of them one way")]
#[case("40 g salt\n40 g sugar\nmakes 120 g", "weigh 80 g together")]
#[case("40 g salt\n60 g sugar\n22% salt", "hold 40.0 % salt")]
#[case("salt and pepper", "no amount")]
#[case("-3 g salt", "sensible amount")]
#[case("0 g salt", "sensible amount")]
#[case("2 tbsp moon dust", "Weigh it and write grams")]
#[case("2 buckets salt", "not a unit")]
#[case("2 tbsp kosher salt", "nearly twice the other")]
#[case("30 g low-sodium soy sauce", "what its label says")]
#[case("a little fish sauce", "weigh it")]
#[case("20 g curing salt", "nitrite")]
#[case("", "0 ingredients")]
fn recipes_that_do_not_add_up_are_caught(#[case] text: &str, #[case] says: &str) {
    let problems = read_mix("m", text, &[]).unwrap_err();
    let all: Vec<String> = problems.iter().map(ToString::to_string).collect();
    assert!(all.join("; ").contains(says), "{all:?}");
}

#[test]
fn every_problem_is_named_at_once() {
    assert_eq!(read_mix("", "salt\n2 tbsp moon dust", &[]).unwrap_err().len(), 3);
}

proptest::proptest! {
    #[test]
    fn mix_and_loose_salt_meet_the_dose(missing in 0.0..200.0f64, kg in 0.1..12.0f64, salt in 1.0..99.0f64) {
        let text = format!("{salt} g salt\n{} g sugar\nfor 3 kg", 100.0 - salt);
        let scaled = scale_mix(&read_mix("m", &text, &[]).unwrap(), grams(missing), grams(kg * 1000.0), None, plenty());
        proptest::prop_assert!((scaled.brings.in_g() + scaled.loose.in_g() - missing).abs() < 1e-6);
        let parts: f64 = scaled.parts.iter().map(|(_, g)| g.in_g()).sum();
        proptest::prop_assert!((parts - scaled.used.in_g()).abs() < 1e-6);
    }

    #[test]
    fn no_recipe_makes_it_panic(text in "\\PC{0,80}") {
        let _ = read_mix("m", &text, &[]);
    }
}

#[test]
fn what_is_poured_and_whole_fruit_have_a_weight() {
    let mix = read_mix("citrus", "200 ml soy sauce; 2 oranges, juiced; 1 cup water; 3 limes; 1 dl oil; for 2 kg", &[]).unwrap();
    // By hand: 200 ÷ 14.7868 × 16 = 216.4; 2 × 86; 16 × 14.8; 3 × 44; 100 ÷ 14.7868 × 13.5 = 91.3.
    let g: Vec<f64> = mix.parts.iter().map(|part| part.weight.in_g()).collect();
    for (got, want) in g.iter().zip([216.41, 172.0, 236.8, 132.0, 91.30]) {
        assert!((got - want).abs() < 0.01, "{g:?}");
    }
    // All its salt is the soy sauce's: 13.96 %.
    assert!((mix.salt_share() * mix.weight().in_g() - 216.41 * 0.1396).abs() < 0.01 && mix.unknown().is_empty());
}

/// A piece that carries whatever is asked of it.
fn plenty() -> Mass {
    grams(1e6)
}

#[test]
fn a_paste_all_but_without_salt_is_carried_no_further_than_it_lies() {
    // Common practice: 15 to 40 ml lie on a square decimetre. 0.5 % of salt would want 4 kg for 20 g; 15 dm² carry 600 g.
    let paste = read_mix("paste", "995 g yoghurt; 5 g fine sea salt", &[]).unwrap();
    let scaled = scale_mix(&paste, grams(20.0), grams(3000.0), None, carries_at_most(crate::units::square_decimetres(15.0)));
    assert!((scaled.used.in_g() - 600.0).abs() < 1e-9, "{}", scaled.used.in_g());
    assert!((scaled.brings.in_g() + scaled.loose.in_g() - 20.0).abs() < 1e-9 && scaled.loose.in_g() > 15.0);
    // What the cook says herself is not cut.
    assert!((scale_mix(&paste, grams(20.0), grams(3000.0), Some(grams(900.0)), grams(600.0)).used.in_g() - 900.0).abs() < 1e-9);
}
