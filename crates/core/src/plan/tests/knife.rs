//! Pattern and depth in the plan: steps, minutes, salt, cautions, areas.

use super::*;
use crate::ask::{PlanRequest, SkinAsk};
use crate::skin::{CoverWork, FaceShape, FatMap, Lattice, LayerMeasurement, MeatSide, Pattern, SkinTool};
use crate::units::AreaIn;

fn with(ask: SkinAsk) -> PlanRequest {
    PlanRequest { skin_work: Some(ask), ..belly() }
}

fn face_300_by_220() -> SkinAsk {
    SkinAsk { length: Some(millimetres(300.0)), width: Some(millimetres(220.0)), ..SkinAsk::default() }
}

fn score_8() -> CoverWork {
    CoverWork::Score { pattern: Pattern::Parallel, spacing: millimetres(8.0), direction: 0.0 }
}

fn grooves() -> MeatSide {
    MeatSide::Grooves { spacing: millimetres(30.0), depth: millimetres(6.0) }
}

fn step(plan: &Plan, kind: StepKind) -> Option<&crate::work::Step> {
    plan.steps.iter().map(|s| &s.step).find(|s| s.kind == kind)
}

#[test]
fn scoring_takes_the_place_of_piercing_with_its_own_minutes() {
    let plan = make_plan(&with(SkinAsk { cover: Some(score_8()), ..face_300_by_220() })).unwrap();
    assert!(step(&plan, StepKind::Pierce).is_none());
    let score = step(&plan, StepKind::Score).unwrap();
    // By hand: 27 strokes, 783 cm at 3 m a minute are 2.61 min, and 2 for setting up: 5 whole minutes.
    assert!((score.takes.in_min() - 5.0).abs() < 1e-9);
    assert!(
        score.detail.contains("27 strokes, 783 cm") && score.detail.contains("Set the craft knife with a set blade to 8 mm"),
        "{}",
        score.detail
    );
    assert!(score.needs.iter().any(|n| n.contains("craft knife")));
    let lay_out = step(&plan, StepKind::LayOut).unwrap();
    assert!(lay_out.needs.iter().any(|n| n.contains("craft knife")), "laid out while hands are clean");
    // A plan counts back from the meal: longer work starts earlier, the meal stays.
    let brush = make_plan(&with(face_300_by_220())).unwrap();
    assert_eq!(plan.serve_at, brush.serve_at);
    assert!(!plan.cautions.iter().any(|c| c.code == "non-intact"), "strokes that stop in the fat leave it intact");
}

#[test]
fn a_pick_lays_out_its_picks_and_offers_quicker_ways() {
    let cover = Some(CoverWork::Pierce { lattice: Lattice::Square, per_cm2: 15.0 });
    let plan = make_plan(&with(SkinAsk { cover, tool: SkinTool::find("pick"), ..face_300_by_220() })).unwrap();
    let skin = plan.skin.as_ref().unwrap();
    assert!(skin.quicker.iter().any(|w| w.what.contains("brush")) && skin.quicker.iter().any(|w| w.what.contains("halves")));
    let pierce = step(&plan, StepKind::Pierce).unwrap();
    assert!(pierce.detail.contains("picks out") && pierce.detail.contains("Tape the single pick 8 mm from the tip"), "{}", pierce.detail);
}

#[test]
fn grooves_enter_the_lean_and_shorten_the_way_in() {
    let plan = make_plan(&with(SkinAsk { meat: Some(grooves()), ..face_300_by_220() })).unwrap();
    assert!(step(&plan, StepKind::Groove).unwrap().detail.contains("both ways, 6 mm deep"));
    assert!(plan.cautions.iter().any(|c| c.code == "non-intact"));
    let salt = plan.skin.as_ref().unwrap().grooves.unwrap();
    assert!(salt.depth > salt.depth_without && salt.middle.0 >= salt.middle_without.0, "{salt:?}");
    let whole = make_plan(&with(face_300_by_220())).unwrap();
    assert!(plan.fridge.state.salted_depth > whole.fridge.state.salted_depth);
    assert!((plan.dose.dose.to_weigh - whole.dose.dose.to_weigh).in_g().abs() < 1e-9, "the same grams");
    // A beef cap eaten at 56 °C is finished at the authority's 62.8 °C once its lean is cut.
    let cap = PlanRequest {
        skin_work: Some(SkinAsk { meat: Some(grooves()), ..SkinAsk::default() }),
        ..PlanRequest::new(cut("beef-rump-cap"), grams(1300.0), now())
    };
    let plan = make_plan(&cap).unwrap();
    assert!((plan.fire.targets[0].finish.in_c() - 62.8).abs() < 0.1, "{}", plan.fire.targets[0].finish.in_c());
}

#[test]
fn a_lattice_says_the_height_of_its_rods() {
    let lattice = Some(MeatSide::Lattice { spacing: millimetres(20.0), beyond: millimetres(1.5) });
    let request = PlanRequest {
        thickness: Some(millimetres(36.0)),
        skin_work: Some(SkinAsk { meat: lattice, ..SkinAsk::default() }),
        ..PlanRequest::new(cut("beef-short-rib"), grams(900.0), now())
    };
    // By hand: 36/2 + 1.5 = 19.5 mm from each side, rods of 16.5 mm.
    let plan = make_plan(&request).unwrap();
    let detail = &step(&plan, StepKind::Groove).unwrap().detail;
    assert!(detail.contains("19.5 mm deep") && detail.contains("16.5 mm high"), "{detail}");
}

#[test]
fn a_tapered_face_has_less_area_and_so_less_salt_on_it() {
    let taper = SkinAsk { shape: Some(FaceShape::Taper), narrow: Some(millimetres(110.0)), ..face_300_by_220() };
    let plan = make_plan(&with(taper)).unwrap();
    // By hand: (220 + 110) / 2 × 300 = 4.95 dm².
    let meat = plan.dose.by_face.iter().find(|f| f.face.id == "meat").unwrap();
    assert!((meat.face.area.in_dm2() - 4.95).abs() < 1e-9);
    assert!((plan.resolved.mean_measures().width.in_mm() - 165.0).abs() < 1e-9);
}

#[test]
fn a_thin_end_and_a_depth_into_the_lean_are_said() {
    let spot = |fat: f64| LayerMeasurement { skin: millimetres(2.5), fat: millimetres(fat) };
    let thin = FatMap { left: spot(9.0), near: spot(9.0), far: spot(9.0), right: spot(1.0) };
    let plan = make_plan(&with(SkinAsk { cover: Some(score_8()), fat: Some(thin), ..face_300_by_220() })).unwrap();
    assert!(step(&plan, StepKind::Score).unwrap().detail.contains("pierced, not cut, as far as 300 mm"));
    let deep = make_plan(&with(SkinAsk { cover: Some(score_8()), depth: Some(millimetres(12.0)), ..face_300_by_220() })).unwrap();
    assert!(deep.cautions.iter().any(|c| c.code == "into-lean" && c.severity == crate::caution::Severity::Red));
    assert!(deep.cautions.iter().any(|c| c.code == "non-intact"));
    let fork = make_plan(&with(SkinAsk { tool: SkinTool::find("fork"), ..face_300_by_220() })).unwrap();
    assert!(fork.cautions.iter().any(|c| c.code == "tool-short"));
}

#[test]
fn what_cannot_be_cut_is_refused_at_its_field() {
    let field = |ask: SkinAsk| make_plan(&with(ask)).unwrap_err()[0].field.to_string();
    let score = |spacing| Some(CoverWork::Score { pattern: Pattern::Parallel, spacing: millimetres(spacing), direction: 0.0 });
    assert_eq!(field(SkinAsk { cover: score(0.1), ..SkinAsk::default() }), "skin.spacing_mm");
    assert_eq!(field(SkinAsk { edge: Some(millimetres(80.0)), cover: score(8.0), ..SkinAsk::default() }), "skin.edge_mm");
    assert_eq!(field(SkinAsk { margin: Some(millimetres(8.0)), ..SkinAsk::default() }), "skin.margin_mm");
    assert_eq!(field(SkinAsk { length: Some(millimetres(4000.0)), ..SkinAsk::default() }), "skin.face");
    let deep = MeatSide::Grooves { spacing: millimetres(30.0), depth: millimetres(30.0) };
    assert_eq!(field(SkinAsk { meat: Some(deep), ..SkinAsk::default() }), "skin.meat.depth_mm");
}
