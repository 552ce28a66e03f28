//! Every school on every cut it is written for.

use super::*;
use crate::ask::{PlanRequest, Refusal};
use crate::method::methods;
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
