//! Every school on every cut it is written for.

use super::*;
use crate::ask::{PlanRequest, Refusal};
use crate::method::methods;
use crate::piece::Species;
use crate::units::{MassIn, TimeIn};
use crate::work::Phase;

fn asked(method: &Method, cut: Cut, grams_each: f64) -> PlanRequest {
    let mut request = PlanRequest::new(cut, grams(grams_each), "2026-12-10T08:00[Europe/Vienna]".parse().unwrap());
    request.method = Some(method.clone());
    request.serve_at = Some("2026-12-14T19:00[Europe/Vienna]".parse().unwrap());
    request
}

#[test]
fn every_school_plans_every_cut_it_is_written_for() {
    let (mut planned, mut refused): (usize, Vec<(String, Vec<Refusal>)>) = (0, vec![]);
    for method in methods() {
        for cut in Cut::all().filter(|cut| method.fits(*cut)) {
            for share in [0.0, 0.5, 1.0] {
                let g = cut.typical_g.0 + share * (cut.typical_g.1 - cut.typical_g.0);
                match make_plan(&asked(method, cut, g)) {
                    Ok(plan) => {
                        planned += 1;
                        holds_together(method, cut, &plan);
                    }
                    Err(why) => refused.push((format!("{} {} {g}", method.id, cut.id), why)),
                }
            }
        }
    }
    assert!(refused.is_empty(), "{refused:#?}");
    assert!(planned > 3 * 100, "{planned}");
}

fn holds_together(method: &Method, cut: Cut, plan: &Plan) {
    let who = format!("{} {}", method.id, cut.id);
    // Grams add up.
    let by_face: f64 = plan.dose.by_face.iter().map(|f| f.salt.in_g()).sum();
    assert!((by_face - plan.dose.dose.to_weigh.in_g()).abs() < 1e-6, "{who}");
    let all = plan.dose.dose.from_ledger + plan.dose.dose.to_weigh;
    assert!(all.in_g() >= plan.dose.dose.total.in_g() - 0.06, "{who}");
    // Shapes keep the weight.
    for portion in &plan.resolved.portions {
        assert!((portion.heated.in_all().in_g() - portion.weight.in_g()).abs() < 1e-6, "{who}");
    }
    // The row goes on without a gap from its first task to the table.
    let mut row: Vec<&PlanStep> = plan.steps.iter().filter(|s| s.step.phase != Phase::Beside).collect();
    row.sort_by_key(|s| (s.starts, s.ends));
    for pair in row.windows(2) {
        assert_eq!(pair[0].ends, pair[1].starts, "{who}: {} then {}", pair[0].step.id, pair[1].step.id);
    }
    assert_eq!(row.last().map(|s| s.ends), Some(plan.serve_at.timestamp()), "{who}");
    assert!(plan.steps.iter().all(|s| !s.step.title.is_empty() && s.step.takes.in_min() >= 0.0), "{who}");
}

/// Every cut's own method writes steps that hang together: hands are washed between raw meat and the
/// refrigerator door, poultry lies lowest, skin rests open, and the piece ends on the table.
#[test]
fn steps_of_every_cut_keep_the_kitchens_rules() {
    for cut in Cut::all() {
        let weight = grams(f64::midpoint(cut.typical_g.0, cut.typical_g.1));
        let plan = make_plan(&PlanRequest::new(cut, weight, "2026-12-10T09:00[Europe/Vienna]".parse().unwrap())).unwrap();
        let kinds: Vec<StepKind> = plan.steps.iter().map(|s| s.step.kind).collect();
        let place = |kind| kinds.iter().position(|k| *k == kind);
        assert!(place(StepKind::Salt) < place(StepKind::Wash) && place(StepKind::Wash) < place(StepKind::Chill), "{}", cut.id);
        assert!(place(StepKind::Dry) < place(StepKind::Salt), "{}: dried before it is salted", cut.id);
        // The row ends on the table; what is left goes back into the cold after the meal.
        let row = plan.steps.iter().rfind(|s| s.step.phase != Phase::Beside).unwrap();
        assert_eq!((row.step.kind, kinds.last()), (StepKind::Carve, Some(&StepKind::Leftovers)), "{}", cut.id);
        let step = |kind| plan.steps.iter().map(|s| &s.step).find(|s| s.kind == kind);
        assert_eq!(step(StepKind::Pierce).is_some(), cut.has_fat_window(), "{}", cut.id);
        let chill = step(StepKind::Chill).unwrap();
        assert_eq!(chill.detail.contains("lowest shelf"), cut.species == Species::Poultry, "{}", cut.id);
        assert_eq!(step(StepKind::Rest).unwrap().detail.contains("Rest open"), cut.skin_mm > 0.0, "{}", cut.id);
        assert_eq!(step(StepKind::Temper).is_none(), cut.species == Species::Poultry, "{}: straight from the cold", cut.id);
        assert!(plan.steps.iter().all(|s| s.step.hands_on <= s.step.takes || s.step.kind == StepKind::Chill), "{}", cut.id);
    }
}
