//! Who says what, and when: TRADE 11, each figure with its published source.

use super::*;
use rstest::rstest;

fn at(text: &str) -> Timestamp {
    text.parse().unwrap()
}

struct Case {
    cut: &'static str,
    fridge_c: f64,
    keeps: Option<StorageLimit>,
    out_min: f64,
    to_do: Vec<StepKind>,
}

impl Default for Case {
    fn default() -> Self {
        let keeps = StorageLimit { amber: at("2026-12-13T23:00:00Z"), red: at("2026-12-15T23:00:00Z") };
        Self {
            cut: "pork-belly",
            fridge_c: 4.0,
            keeps: Some(keeps),
            out_min: 40.0,
            to_do: vec![StepKind::Dry, StepKind::BrushDry, StepKind::Carve],
        }
    }
}

fn said(case: &Case, out_of_cold: &str) -> Vec<Caution> {
    let cut = Cut::find(case.cut).unwrap();
    cautions(&Facts {
        cut,
        fridge: celsius(case.fridge_c),
        keeps: case.keeps,
        out_of_cold: at(out_of_cold),
        out_min: case.out_min,
        out_at_most: out_at_most(),
        to_do: &case.to_do,
    })
}

fn has(said: &[Caution], code: &str) -> Option<Severity> {
    said.iter().find(|c| c.code == code).map(|c| c.severity)
}

// FSIS and FDA: at most 40 °F = 4.44 °C.
#[rstest]
#[case(4.0, false)]
#[case(4.4, false)]
#[case(40.0 / 9.0, false)] // 40 °F itself
#[case(4.41, true)]
#[case(4.49, true)]
#[case(4.6, true)]
#[case(7.0, true)]
fn a_warm_refrigerator_is_red(#[case] c: f64, #[case] warns: bool) {
    let found = has(&said(&Case { fridge_c: c, ..Case::default() }, "2026-12-12T15:00:00Z"), "fridge-too-warm");
    assert_eq!(found, warns.then_some(Severity::Red));
}

// USDA FSIS: pork 3–5 days; amber from the lower figure, red past the upper.
#[rstest]
#[case("2026-12-12T15:00:00Z", None, None)]
#[case("2026-12-14T15:00:00Z", Some(Severity::Amber), None)]
#[case("2026-12-16T15:00:00Z", None, Some(Severity::Red))]
fn storage_turns_amber_then_red(#[case] out: &str, #[case] near: Option<Severity>, #[case] limit: Option<Severity>) {
    let said = said(&Case::default(), out);
    assert_eq!((has(&said, "storage-near"), has(&said, "storage-limit")), (near, limit));
}

#[test]
fn an_unknown_day_is_asked_not_assumed() {
    let said = said(&Case { keeps: None, ..Case::default() }, "2026-12-12T15:00:00Z");
    let asked = said.iter().find(|c| c.code == "bought-when").unwrap();
    assert!(asked.text.contains("3–5 days") && asked.source.contains("FoodKeeper"));
    let poultry = super::tests::said(&Case { keeps: None, cut: "duck-whole", ..Case::default() }, "2026-12-12T15:00:00Z");
    assert!(poultry.iter().any(|c| c.code == "bought-when" && c.text.contains("1–2 days")));
}

// FSIS 2-hour rule.
#[rstest]
#[case(119.0, None)]
#[case(121.0, Some(Severity::Red))]
fn two_hours_out_in_sum(#[case] min: f64, #[case] severity: Option<Severity>) {
    assert_eq!(has(&said(&Case { out_min: min, ..Case::default() }, "2026-12-12T15:00:00Z"), "two-hours"), severity);
}

#[test]
fn the_loudest_come_first_and_every_one_names_its_source() {
    let to_do = StepKind::ALL.to_vec();
    let case = Case { fridge_c: 8.0, keeps: None, to_do, cut: "beef-rib-steak", ..Case::default() };
    let said = said(&case, "2026-12-12T15:00:00Z");
    assert!(said.windows(2).all(|pair| pair[0].severity >= pair[1].severity));
    assert!(said.iter().all(|c| !c.source.is_empty() && c.text.ends_with('.')), "{said:#?}");
}

#[test]
fn cautions_stand_at_their_step() {
    let case = Case { to_do: StepKind::ALL.to_vec(), cut: "duck-whole", ..Case::default() };
    let said = said(&case, "2026-12-12T15:00:00Z");
    for (code, step) in [
        ("do-not-wash", StepKind::Dry),
        ("count-needles", StepKind::Pierce),
        ("hot-fat", StepKind::Grill),
        ("thaw-cold", StepKind::Thaw),
        ("two-cores", StepKind::Roast),
        ("leftovers", StepKind::Leftovers),
    ] {
        assert_eq!(said.iter().find(|c| c.code == code).and_then(|c| c.at), Some(step), "{code}");
    }
}
