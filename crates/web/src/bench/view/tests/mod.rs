//! The Bench: a slip takes only its own word away, guesses are marked, both systems are read.

use super::*;
use rauchkeller_core::units::System;

mod ways;

fn now() -> ZonedDateTime {
    "2026-12-10T09:00[Europe/Vienna]".parse().unwrap()
}

fn form(pairs: &[(&str, &str)]) -> BenchForm {
    let object: serde_json::Map<String, Value> = pairs.iter().map(|(k, v)| ((*k).to_owned(), (*v).into())).collect();
    serde_json::from_value(Value::Object(object)).unwrap()
}

fn view(pairs: &[(&str, &str)]) -> BenchView {
    BenchView::of(form(pairs), &now(), &Shelf::default(), None, None)
}

#[test]
fn an_empty_bench_has_a_whole_plan_and_asks_for_the_weight() {
    let view = view(&[]);
    assert!(view.plan.is_some() && view.slips.is_empty());
    assert!(!view.may_keep && view.why_not_keep.contains("Weigh it"));
    assert!(view.word("weight").guessed() && view.word("thick").guessed());
}

#[test]
fn cut_weight_and_meal_are_enough_to_keep() {
    let view = view(&[("cut", "turkey-whole"), ("weight", "11 lb"), ("serve", "Saturday 18:30")]);
    assert!(view.may_keep, "{:?}", view.slips);
    let numbers = view.numbers.unwrap();
    // By hand: 11 lb = 4.99 kg; 28 % bone leaves 3.59 kg; 8 g/kg are 28.7 g.
    assert_eq!(numbers.grams, "28.7");
    // USDA FSIS: 165 °F, 73.9 °C, by the least it climbs.
    assert!(
        numbers.pull_line.contains("thigh ends at about 78 °C") || numbers.pull_line.contains("Thigh ends at about 78 °C"),
        "{}",
        numbers.pull_line
    );
    assert!(numbers.depth.contains("No knife"));
}

#[test]
fn what_is_not_safe_is_kept_only_knowingly() {
    // A chicken of 40 min at 200 °C: far below 165 °F (USDA FSIS).
    let raw = [("cut", "chicken-whole"), ("weight", "1.8 kg"), ("fire", "200 °C 40 min")];
    let stopped = view(&raw);
    assert!(stopped.slips.is_empty() && !stopped.may_keep && stopped.why_not_keep.contains("in red"), "{:?}", stopped.slips);
    // What minutes leave it at is no reading to pull it at.
    assert_eq!(stopped.numbers.as_ref().unwrap().pull_word, "comes to");
    let knowing = view(&[raw.as_slice(), &[("knowing", "yes")]].concat());
    assert!(knowing.may_keep && knowing.request["knowing"] == serde_json::json!(["not-safe"]), "{}", knowing.request);
    // A steak as somebody likes it is hers to decide, in red and without a tick.
    let pink = view(&[("cut", "beef-rib-steak"), ("weight", "450 g"), ("finish", "54 °C")]);
    assert_eq!(pink.numbers.as_ref().unwrap().pull_word, "pull at");
    assert!(pink.may_keep && pink.plan.unwrap().cautions.iter().any(|c| c.code == "below-authority" && c.severity == "red"));
}

#[test]
fn a_slip_takes_only_its_own_word_away() {
    let view = view(&[("weight", "2.4 kg"), ("thick", "45 kg"), ("dose", "60"), ("serve", "Saturday 18:30")]);
    assert_eq!(view.slips.keys().copied().collect::<Vec<_>>(), ["dose", "thick"]);
    assert!(!view.may_keep);
    // The rest is still planned: 7.5 g/kg, the cut's usual dose, of 2.4 kg.
    assert_eq!(view.numbers.unwrap().grams, "18.0");
    assert_eq!((view.form.thick.as_str(), view.form.dose.as_str()), ("45 kg", "60"));
}

#[test]
fn a_meal_too_soon_is_named_at_its_word_with_the_earliest() {
    let view = view(&[("weight", "2.4 kg"), ("serve", "today 10:00")]);
    assert!(view.slips["serve"].says.contains("is too early; the soonest is"), "{:?}", view.slips);
    assert!(view.plan.is_some(), "the best meal stands in");
    // Both can be tapped, and then stand: by a clock of twelve hours and of twenty-four.
    for system in [None, Some(System::Metric), Some(System::Customary)] {
        let shelf = Shelf { system, ..Shelf::default() };
        let view = |serve: &str| BenchView::of(form(&[("weight", "2.4 kg"), ("serve", serve)]), &now(), &shelf, None, None);
        let choices = view("today 10:00 am").slips["serve"].choices.clone();
        assert_eq!(choices.len(), 2, "{choices:?}");
        for meal in &choices {
            assert!(view(meal).slips.is_empty(), "{system:?}: {meal}: {:?}", view(meal).slips);
        }
    }
}

#[test]
fn hours_that_do_not_fit_are_named_at_the_band() {
    let view = view(&[("weight", "2.4 kg"), ("serve", "today 20:00"), ("hours", "48")]);
    let slip = &view.slips["hours"];
    assert!(slip.says.contains("before this meal"), "{slip:?}");
    // What just fits can be tapped, in quarters of an hour.
    let fits: f64 = slip.choices[0].parse().unwrap();
    assert!(fits > 0.0 && fits < 48.0 && (fits * 4.0).fract() == 0.0, "{fits}");
    assert!(self::view(&[("weight", "2.4 kg"), ("serve", "today 20:00"), ("hours", &slip.choices[0])]).slips.is_empty());
}

#[test]
fn a_weight_beyond_any_belly_still_leaves_a_plan() {
    for weight in ["300 kg", "90 kg", "1 g"] {
        let view = view(&[("weight", weight)]);
        assert!(view.slips.contains_key("weight") && view.plan.is_some(), "{weight}: {:?}", view.slips);
    }
}

#[test]
fn portions_have_their_own_grams() {
    let same = view(&[("cut", "beef-rib-steak"), ("weight", "4 × 420 g")]).numbers.unwrap();
    assert_eq!((same.grams.as_str(), same.each.as_str()), ("16.8", "4 × 4.2 g each"));
    let different = view(&[("cut", "beef-rib-steak"), ("weight", "420 g + 360 g")]).numbers.unwrap();
    assert_eq!(different.each, "4.2 g · 3.6 g");
}

#[test]
fn the_other_system_stands_beside_the_cooks_own() {
    let metric = view(&[("weight", "2.4 kg"), ("thick", "45 mm")]);
    assert_eq!((metric.word("weight").other.as_str(), metric.word("thick").other.as_str()), ("5 lb 5 oz", "1¾ in"));
    let customary = view(&[("weight", "5 lb 4 oz"), ("thick", "1¾ in")]);
    assert_eq!((customary.word("weight").other.as_str(), customary.word("thick").other.as_str()), ("2.38 kg", "44.5 mm"));
}

#[test]
fn a_salted_piece_has_nothing_left_to_weigh() {
    let view = view(&[("weight", "2.4 kg"), ("stands", "salted"), ("since", "07:00"), ("serve", "Saturday 18:30")]);
    let numbers = view.numbers.unwrap();
    assert_eq!(numbers.grams, "0.0");
    assert!(numbers.ladder.contains("18.0 g in salt already on"), "{}", numbers.ladder);
    assert_eq!((numbers.knots[0].place, numbers.knots[0].what.as_str()), ("refrigerator", "in the refrigerator"));
}

#[test]
fn weight_and_measures_check_each_other() {
    let agree = view(&[("weight", "2.4 kg"), ("thick", "45 mm"), ("face", "267 × 190 mm")]);
    assert!(!agree.numbers.unwrap().loud.iter().any(|c| c.code == "measures-disagree"));
    // By hand: 3.3 × 2.2 × 0.45 dm = 3.267 L × 1.055 = 3.45 kg, far from 2.4.
    let apart = view(&[("weight", "2.4 kg"), ("thick", "45 mm"), ("face", "33 x 22 cm")]);
    let asked = apart.numbers.unwrap().loud.into_iter().find(|c| c.code == "measures-disagree").expect("asked about");
    assert!(asked.text.contains("Your measures say 3.45 kg"), "{}", asked.text);
    assert!(view(&[("weight", "2.4 kg"), ("face", "wide")]).slips["face"].says.contains("267 × 190"));
    // Thickness above length is named.
    assert!(view(&[("weight", "2.4 kg"), ("thick", "45 mm"), ("face", "40 × 30 mm")]).slips.contains_key("thick"));
}

#[test]
fn salty_things_are_taken_off_the_scale() {
    let numbers = view(&[("weight", "2.4 kg"), ("also", "2 tbsp soy sauce, 30 g rub 22% salt")]).numbers.unwrap();
    // By hand: 18 − 32 × 13.96 % × 0.6 − 6.6 = 18 − 2.680 − 6.6 = 8.7 g.
    assert_eq!(numbers.grams, "8.7");
    let over = view(&[("weight", "2.4 kg"), ("also", "150 g rub 22% salt")]);
    let plan = over.plan.as_ref().unwrap();
    // 33 g are 15 over; 15 ÷ 33 of 150 g is 68.2 g of rub.
    let said = plan.cautions.iter().find(|c| c.code == "ledger-full").unwrap();
    assert!(said.text.contains("15.0 g over") && said.text.contains("leave out 69 g of the rub"), "{}", said.text);
    assert_eq!(over.numbers.unwrap().grams, "0.0");
}

#[test]
fn a_frozen_turkey_thaws_first() {
    let plan = view(&[("cut", "turkey-whole"), ("weight", "5 kg"), ("stands", "frozen"), ("serve", "2026-12-16 18:30")]).plan.unwrap();
    assert_eq!(plan.steps[0].kind, "thaw");
    assert!(plan.cautions.iter().any(|c| c.code == "thaw-cold"));
}

#[test]
fn only_methods_written_for_the_cut_can_be_chosen() {
    let ids = |cut| view(&[("cut", cut)]).methods.iter().map(|m| m.id.clone()).collect::<Vec<_>>();
    assert_eq!(ids("turkey-whole"), ["dry-brine", "no-cold-rest", "salt-after-cold"]);
    let belly = ids("pork-belly");
    assert_eq!(belly[..4], ["open-air", "dry-brine", "short-draw", "same-day-crust"]);
    assert!(!belly.contains(&"fat-cap".to_owned()) && belly.len() == 9, "{belly:?}");
    // What another cut left in the address is named, not obeyed.
    assert!(view(&[("cut", "turkey-whole"), ("method", "open-air"), ("weight", "5 kg")]).slips.contains_key("method"));
}

proptest::proptest! {
    #![proptest_config(proptest::prelude::ProptestConfig::with_cases(40))]
    #[test]
    fn no_sentence_makes_it_panic(weight in "\\PC{0,12}", thick in "\\PC{0,12}", serve in "\\PC{0,16}", dose in "\\PC{0,8}", hours in "-?[0-9]{0,6}", since in "\\PC{0,12}") {
        let view = view(&[("weight", &weight), ("thick", &thick), ("serve", &serve), ("dose", &dose), ("hours", &hours), ("stands", "salted"), ("since", &since)]);
        proptest::prop_assert!(view.plan.is_some() || !view.slips.is_empty());
    }
}

fn shelf() -> Shelf {
    let salt = rauchkeller_store::KitSalt {
        id: rauchkeller_store::SaltId(Uuid::nil()),
        name: "grey jar".into(),
        g_per_tsp: 4.5,
        spread_g: None,
        uncertainty_g: None,
        purity: 0.9,
        potassium: 0.0,
        pinch_g: Some(0.5),
        weighings: String::new(),
        created_at: jiff::Timestamp::UNIX_EPOCH,
        deleted_at: None,
    };
    let mix = rauchkeller_store::KitMix {
        id: rauchkeller_store::MixId(Uuid::nil()),
        name: "house rub".into(),
        recipe: String::new(),
        parts: r#"[{"name":"salt","g":32,"salt_g":32},{"name":"sugar","g":68,"salt_g":0}]"#.into(),
        made_for_g: Some(6000.0),
        salt_g_per_100g: 32.0,
        created_at: jiff::Timestamp::UNIX_EPOCH,
        deleted_at: None,
    };
    Shelf { salts: vec![salt], mixes: vec![mix], ..Shelf::default() }
}

#[test]
fn an_own_salt_and_an_own_mix_are_known_in_the_sentence() {
    let own = format!("own-{}", Uuid::nil());
    let pairs = [("weight", "2.4 kg"), ("also", "house rub"), ("salt", own.as_str()), ("serve", "Saturday 18:30")];
    let view = BenchView::of(form(&pairs), &now(), &shelf(), None, None);
    assert!(view.may_keep, "{:?}", view.slips);
    let numbers = view.numbers.as_ref().unwrap();
    // By hand: 40 g of rub for 2.4 kg bring 12.8 g; 5.2 g are missing, 5.78 g of a salt of 90 %: 12 pinches of 0.5 g.
    assert_eq!((numbers.mix.as_ref().unwrap().g.as_str(), numbers.grams.as_str()), ("40.0", "5.8"));
    assert!(numbers.spoons.contains("12 of your pinches"), "{}", numbers.spoons);
    assert!(view.salts[0].1.iter().any(|c| c.chosen && c.name == "grey jar"));
    assert!(view.salts[1].1.iter().all(|c| !c.chosen));
    // A salt that was taken out of the Kit meanwhile is said, and the plan goes on without it.
    let gone = BenchView::of(form(&pairs), &now(), &Shelf { salts: vec![], ..shelf() }, None, None);
    assert!(gone.slips["salt"].says.contains("no longer hangs") && gone.plan.is_some());
}

#[test]
fn a_dose_of_one_portion_that_cannot_be_leaves_the_rest() {
    let view = view(&[("cut", "beef-rib-steak"), ("weight", "400 g + 500 g"), ("dose", "10 + 60 g/kg")]);
    assert!(view.slips["dose"].says.contains("60") && view.plan.is_some() && !view.may_keep, "{:?}", view.slips);
}

#[test]
fn what_lies_on_the_skin_is_counted_and_shown() {
    let view = view(&[("weight", "2.4 kg"), ("cover", "crust"), ("depth", "4 mm"), ("salt", "coarse-sea"), ("left", "2 g/dm²")]);
    let numbers = view.numbers.unwrap();
    let cover = numbers.cover.unwrap();
    assert!(
        cover.what.contains("a crust 4 mm deep") && cover.left.contains("g of it stay on the skin, and are eaten with it"),
        "{cover:?}"
    );
    assert!(!numbers.ladder.contains("crust"), "what stays on the skin takes nothing from the meat");
}

#[test]
fn every_absurd_word_is_named_at_its_place_in_the_cooks_terms() {
    for (word, typed, says) in [
        ("weight", "0 kg", "1 g and 100 kg"),
        ("weight", "300 kg", "1 g and 100 kg"),
        ("weight", "40 kg", "for one pork leg"),
        ("thick", "400 mm", "8 to 250 mm"),
        ("bone", "1.2", "0 to 0.6"),
        ("dose", "60 g/kg", "0 to 39.9 g/kg"),
        ("also", "-3 g soy sauce", "between 0 and 5 kg"),
        ("also", "30 g rub 130% salt", "between 0 and 100 g in 100 g"),
        ("also", "20 g curing salt", "nitrite"),
        ("thin", "200 mm", "at most the thickness at the thickest place"),
        ("label", "quite salty", "240 mg sodium per 100 g"),
        ("trimmed", "9 kg", "what was bought less what came off"),
        ("useby", "someday", "not a day"),
    ] {
        let mut pairs = vec![("cut", "pork-leg"), ("weight", "4 kg"), ("thick", "140 mm"), ("face", "250 × 170 mm")];
        pairs.retain(|(name, _)| *name != word);
        pairs.push((word, typed));
        let view = view(&pairs);
        let slip = view.slips.get(word).unwrap_or_else(|| panic!("{word} {typed}: {:?}", view.slips));
        assert!(slip.says.contains(says), "{word} {typed}: {slip}");
        assert!(!view.may_keep && view.plan.is_some(), "{word} {typed}: the rest still answers");
    }
    // Thicker than it is long.
    let view = view(&[("weight", "2.4 kg"), ("thick", "120 mm"), ("face", "100 × 190 mm")]);
    assert!(view.slips["thick"].says.contains("at most its length"), "{:?}", view.slips);
}

#[test]
fn what_goes_on_is_read_in_a_cooks_words() {
    // A glass of wine, honey, herbs and spirits hold next to no salt (value from memory); a pinch is a third of a gram or so.
    let of = |what: &str| view(&[("cut", "lamb-leg"), ("weight", "2.2 kg"), ("also", what)]);
    let unsalty =
        of("250 ml red wine; 60 g honey; 3 cloves garlic; 2 sprigs rosemary; 1 tbsp dried oregano; 30 ml bourbon; a little olive oil");
    assert!(unsalty.slips.is_empty(), "{:?}", unsalty.slips);
    let brought = |view: &super::BenchView| view.plan.as_ref().unwrap().dose.from_ledger_g;
    assert!(brought(&unsalty) < 0.5, "{}", brought(&unsalty));
    let pinch = of("1 pinch fine sea salt");
    assert!(pinch.slips.is_empty() && (0.1..1.0).contains(&brought(&pinch)), "{:?} {}", pinch.slips, brought(&pinch));
    // Salt is salt, whatever it is called.
    let salt = of("10 g Himalayan pink salt");
    assert!((brought(&salt) - 10.0).abs() < 0.5, "{}", brought(&salt));
}

/// Hours that begin at night offer waking ones, which then begin by day; hours that begin by day offer none.
#[test]
fn hours_that_begin_at_night_offer_waking_ones() {
    // Out of the cold at about five for a meal at 18:30: forty hours before is one in the night.
    let at = |hours: &str| view(&[("weight", "2.4 kg"), ("serve", "Sunday 18:30"), ("hours", hours)]);
    let offered = at("40").waking;
    assert_eq!(offered.len(), 2, "{offered:?}");
    for hours in &offered {
        let day = at(hours);
        assert!(day.waking.is_empty() && day.slips.is_empty(), "{hours}: {:?}", day.waking);
    }
    assert!(at("24").waking.is_empty());
    // Salted already, there is nothing left to do before the cold.
    let lies = [("weight", "2.4 kg"), ("serve", "Sunday 18:30"), ("stands", "salted"), ("since", "yesterday 23:30"), ("hours", "60")];
    assert!(view(&lies).waking.is_empty());
}
