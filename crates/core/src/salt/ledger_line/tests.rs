//! Lines as cooks type them.

use super::*;
use crate::units::MassIn;
use rstest::rstest;

fn entry(typed: &str) -> LedgerEntry {
    match read_ledger_line(typed) {
        Ok(LedgerLine::Entry(entry)) => entry,
        other => panic!("{typed}: {other:?}"),
    }
}

// By hand, with the g/tbsp and salt shares of TRADE 4.6: 2 × 16 × 13.96 % × 0.6 = 2.680 g and so on.
#[rstest]
#[case("2 tbsp soy sauce", 32.0, 2.680)]
#[case("1½ tbsp fish sauce", 27.0, 3.234)]
#[case("1 tsp mustard", 5.0, 0.0843)]
#[case("30 g rub 22% salt", 30.0, 6.6)]
#[case("30 g rub 22 % salt, uptake 50%", 30.0, 3.3)]
#[case("40 g paste 1.2 g salt per 100 g", 40.0, 0.48)]
// 480 mg ÷ 30 g = 16 mg/g × 2.5421 = 4.067 g salt in 100 g; 60 g × 0.6 of it: 1.464 g.
#[case("60 g glaze sodium 480 mg per 30 g", 60.0, 1.4643)]
#[case("60 g soy sauce uptake 100%", 60.0, 8.376)]
// Salt without a kind is fine table salt, 18 g a tablespoon (USDA); by hand: 100 ml ÷ 14.7868 × 16 g = 108.2 g of soy sauce.
#[case("1 tbsp salt", 18.0, 18.0)]
#[case("2 tsp dense kosher salt", 9.6, 9.6)]
#[case("10 ml clay-mixed coarse salt", 10.1442, 9.8399)]
#[case("100 ml soy sauce", 108.2047, 9.0632)]
#[case("30 g low-sodium soy sauce 8 % salt", 30.0, 1.44)]
// By hand: salts are all salt by their spoon (5.6, 5.0, 5.7, 2.0 g a teaspoon); miso 9.48 g in 100 g (USDA SR Legacy, from memory).
#[case("2 tbsp sea salt", 33.6, 33.6)]
#[case("1 tbsp coarse salt", 15.0, 15.0)]
#[case("20 g kosher salt", 20.0, 20.0)]
#[case("1 tsp pink himalayan salt", 5.7, 5.7)]
#[case("1 tbsp flaky salt", 6.0, 6.0)]
#[case("a pinch of salt", 0.4, 0.4)]
#[case("40 g miso", 40.0, 2.2752)]
// What holds none brings none, in a cook's own amounts.
#[case("250 ml red wine", 248.5331, 0.0)]
#[case("100 ml water", 100.0893, 0.0)]
#[case("2 tbsp honey", 42.0, 0.0)]
#[case("3 cloves of garlic", 9.0, 0.0)]
#[case("3 garlic cloves", 9.0, 0.0)]
#[case("two sprigs of thyme", 3.0, 0.0)]
#[case("a bunch of parsley", 50.0, 0.0)]
#[case("a little bourbon", 5.0, 0.0)]
#[case("juice of 2 lemons", 96.0, 0.0)]
#[case("2 tbsp fresh oregano", 6.0, 0.0)]
#[case("a packet of vanilla sugar", 10.0, 0.0)]
fn lines(#[case] typed: &str, #[case] used: f64, #[case] salt: f64) {
    let read = entry(typed);
    assert!((read.used.in_g() - used).abs() < 1e-3, "{typed}: {} g used", read.used.in_g());
    assert!((read.salt_brought().in_g() - salt).abs() < 1e-3, "{typed}: {} g salt", read.salt_brought().in_g());
}

#[test]
fn a_label_without_an_amount_is_the_pieces_own() {
    // 1.2 g salt per 100 g ÷ 2.5421 = 472 mg sodium; the other is said as sodium: 1,600 mg in 100 g.
    let Ok(LedgerLine::PieceLabel(mg)) = read_ledger_line("label: 1.2 g salt per 100 g") else { panic!("no label") };
    assert!(matches!(mg, PackLabel::Sodium(mg) if (mg - 472.05).abs() < 0.1));
    let Ok(LedgerLine::PieceLabel(mg)) = read_ledger_line("sodium 480 mg per 30 g") else { panic!("no label") };
    assert!(matches!(mg, PackLabel::Sodium(mg) if (mg - 1600.0).abs() < 1e-6));
}

#[rstest]
#[case("soy sauce", "no amount")]
#[case("-3 g sauce", "sensible amount")]
#[case("30 g 7", "how salty")]
#[case("30 g rub 130% salt", "more salt than there can be")]
#[case("3 barrels of soy sauce", "not a unit")]
#[case("500 g soy sauce bath", "how long")]
#[case("500 g soy sauce bath 3 years", "how long")]
#[case("9000 g soy sauce", "sensible amount")]
#[case("5 g pink curing salt", "nitrite")]
#[case("5 g Pökelsalz", "nitrite")]
#[case("2 tsp pink salt #1", "nitrite")]
#[case("30 g rub −5 % salt", "more salt than there can be")]
#[case("30 g low-sodium soy sauce", "low-sodium soy sauce")]
#[case("30 g 2 tbsp soy sauce", "30 g soy sauce or 2 tbsp soy sauce")]
#[case("1,500 g stock powder", "1.500 g stock powder or 1500 g stock powder")]
#[case("30 g rub 22% salt 1.2 g salt per 100 g", "30 g rub 22% salt or 30 g rub 1.2 g salt per 100 g")]
#[case("", "no amount")]
#[case("2 tbsp kosher salt", "2 tbsp dense kosher salt or 2 tbsp light-flake kosher salt")]
#[case("a little soy sauce", "weigh it")]
#[case("a packet of stock powder", "weigh it")]
fn nonsense_is_named(#[case] typed: &str, #[case] says: &str) {
    let problem = read_ledger_line(typed).unwrap_err().to_string();
    assert!(problem.contains(says), "{typed}: {problem}");
}

#[test]
fn what_nobody_knows_is_a_range() {
    let dust = entry("30 g moon dust");
    assert_eq!((dust.between, dust.name.as_str()), (Some((0.5, 15.0)), "moon dust"));
    // By hand: a bought rub of 15 to 45 % that stays: 20 g bring 3 to 9 g, counted 6.
    let (low, high) = entry("20 g bought rub").brings_between().unwrap();
    assert!((low.in_g() - 3.0).abs() < 1e-9 && (high.in_g() - 9.0).abs() < 1e-9);
    assert!((entry("20 g bought rub").salt_brought().in_g() - 6.0).abs() < 1e-9);
    assert_eq!(entry("20 g bought rub 22% salt").between, None);
}

#[test]
fn stock_and_what_is_eaten_beside_are_what_they_are() {
    // 500 mL of ready stock: 507 g at 0.9 %, 4.56 g of salt that is cooked in, not dosed.
    let pot = entry("500 ml stock in the pot");
    assert_eq!((pot.name.as_str(), pot.place, pot.salt_brought().in_g()), ("stock", LedgerPlace::Liquid, 0.0));
    assert!((pot.salt_in_it().in_g() - 4.565).abs() < 0.01, "{}", pot.salt_in_it().in_g());
    assert_eq!(entry("10 g stock powder").salt_g_per_100g, 60.0);
    // 2 tbsp of soy sauce at the table: 32 g, 4.467 g of salt ÷ 2.5421 is 1.757 g of sodium, and nothing on the meat.
    let dip = entry("2 tbsp soy sauce beside");
    assert_eq!((dip.place, dip.salt_brought().in_g()), (LedgerPlace::Beside, 0.0));
    assert!((dip.other_sodium().in_g() - 1.757).abs() < 0.002);
}

#[test]
fn a_bath_says_its_hours() {
    let bath = entry("500 g soy sauce bath 12 h, uptake 80%");
    assert_eq!((bath.bath, bath.uptake, bath.name.as_str()), (Some(hours(12.0)), Share(0.8), "soy sauce"));
    let labelled = entry("400 g brine bath for 90 min 8% salt");
    assert_eq!((labelled.bath, labelled.salt_g_per_100g, labelled.uptake), (Some(minutes(90.0)), 8.0, Share(1.0)));
    assert_eq!(entry("5 g soda").other_sodium_g_per_100g, 27.4);
}

#[test]
fn several_things_in_one_breath() {
    let lines = split_ledger_lines("2 tbsp soy sauce, 30 g rub 22% salt, uptake 50%; 1,5 tsp mustard,");
    assert_eq!(lines, ["2 tbsp soy sauce", "30 g rub 22% salt, uptake 50%", "1,5 tsp mustard,"]);
    assert!(split_ledger_lines(" , ").is_empty());
    assert_eq!(split_ledger_lines("2 tbsp soy sauce and 1 tbsp hoisin"), ["2 tbsp soy sauce", "1 tbsp hoisin"]);
    assert_eq!(
        split_ledger_lines("30 g salt and pepper rub 40% salt + 5 ml fish sauce"),
        ["30 g salt and pepper rub 40% salt", "5 ml fish sauce"]
    );
}

proptest::proptest! {
    #[test]
    fn no_line_makes_it_panic(text in "\\PC{0,60}") {
        let _ = read_ledger_line(&text);
    }
}
