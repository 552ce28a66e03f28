//! The readers, each kind on its own; whole kitchens of typed words stand in `tests/typed/`.

use super::*;
use crate::units::MassIn;
use rstest::rstest;

// Expected values: NIST Handbook 44 Appendix C factors (453.59237 g/lb, 28.349523125 g/oz, 25.4 mm/in).
#[rstest]
#[case("2.4 kg", 2400.0)]
#[case("2,4kg", 2400.0)]
#[case("2.4", 2400.0)]
#[case("850", 850.0)]
#[case("850 g", 850.0)]
#[case("5 lb 4 oz", 2381.3599)]
#[case("5lb4oz", 2381.3599)]
#[case("1½ lb", 680.38856)]
#[case("1 1/2 lb", 680.38856)]
#[case("1/2 lb", 226.79619)]
fn masses(#[case] typed: &str, #[case] g: f64) {
    let read = parse_mass(typed).unwrap().in_g();
    assert!((read - g).abs() < 1e-3, "{typed} read as {read}");
}

#[rstest]
#[case("45 mm", 45.0)]
#[case("45", 45.0)]
#[case("4.5 cm", 45.0)]
#[case("1½ in", 38.1)]
#[case("1 1/2\"", 38.1)]
#[case("1 ft 2 in", 355.6)]
#[case("0 mm", 0.0)]
fn lengths(#[case] typed: &str, #[case] mm: f64) {
    let read = parse_length(typed).unwrap().in_mm();
    assert!((read - mm).abs() < 1e-9, "{typed} read as {read}");
}

#[rstest]
#[case("267 × 190 mm", 267.0, 190.0)]
#[case("267x190", 267.0, 190.0)]
#[case("10½ x 7½ in", 266.7, 190.5)]
#[case("26.7 cm x 190 mm", 267.0, 190.0)]
fn faces(#[case] typed: &str, #[case] length: f64, #[case] width: f64) {
    let (l, w) = parse_face(typed).unwrap();
    assert!((l.in_mm() - length).abs() < 1e-9 && (w.in_mm() - width).abs() < 1e-9, "{typed}: {} × {}", l.in_mm(), w.in_mm());
}

#[rstest]
#[case("267")]
#[case("267 ×")]
#[case("0 × 190")]
#[case("267 kg × 190 kg")]
fn half_a_face_is_refused(#[case] typed: &str) {
    assert!(parse_face(typed).is_err(), "{typed}");
}

#[rstest]
#[case("375 F", 190.5556)]
#[case("375°F", 190.5556)]
#[case("-18 C", -18.0)]
#[case("4", 4.0)]
#[case("gas 4", 180.0)]
#[case("gas mark ½", 130.0)]
#[case("Gas 10", 260.0)]
fn temperatures(#[case] typed: &str, #[case] c: f64) {
    let read = parse_temperature(typed).unwrap().in_c();
    assert!((read - c).abs() < 1e-3, "{typed} read as {read}");
}

#[test]
fn words_too_many_are_named_for_what_they_are() {
    assert!((parse_mass("2.3 kgs").unwrap().in_g() - 2300.0).abs() < 1e-9);
    let problem = parse_mass("2.3 kg of duck").unwrap_err();
    assert_eq!(problem, InputError::Trailing { rest: "of duck".into(), kind: Kind::Mass });
    assert!(problem.to_string().contains("“of duck” cannot be read after the number"));
}

#[rstest]
#[case("")]
#[case("heavy")]
#[case("-3 kg")]
#[case("0 g")]
#[case("300 kg")]
#[case("3 inches")]
#[case("1/0 kg")]
#[case("NaN kg")]
#[case("1e400 kg")]
fn nonsense_weights_are_refused_in_words(#[case] typed: &str) {
    let problem = parse_mass(typed).unwrap_err().to_string();
    assert!(problem.contains("weight"), "{problem}");
}

#[test]
fn portions_are_counted_and_bounded() {
    assert_eq!(parse_portions("4 x 420 g").unwrap().len(), 4);
    assert_eq!(parse_portions("2.4 kg").unwrap().len(), 1);
    assert!(parse_portions("25 × 100 g").is_err());
    assert!(parse_portions("0 × 100 g").is_err());
    assert!(parse_portions("4 × ").is_err());
}

proptest::proptest! {
    #[test]
    fn no_text_makes_a_reader_panic(text in "\\PC{0,40}") {
        let _ = (parse_mass(&text), parse_length(&text), parse_temperature(&text), parse_portions(&text));
    }
}
