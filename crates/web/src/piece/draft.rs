//! From a plan to a piece that can be kept.

use crate::words::instant;
use rauchkeller_contract::{PlanDoc, SCHEMA};
use rauchkeller_core::units::{both_mass, grams};
use rauchkeller_store::{NewBowl, NewPiece};
use serde_json::Value;

/// A plan about to be kept.
#[derive(Debug, Clone)]
pub struct PieceDraft(NewPiece);

impl PieceDraft {
    /// For the store.
    pub fn into_new(self) -> NewPiece {
        self.0
    }
}

/// Makes a piece of a plan: request and plan verbatim, its steps in order.
pub fn draft_piece(form_key: String, request: &Value, plan: &PlanDoc) -> PieceDraft {
    let portions = &plan.request.portions_g;
    let weight = match portions.as_slice() {
        [first, rest @ ..] if !rest.is_empty() && rest.iter().all(|g| (g - first).abs() < 0.5) => {
            format!("{} × {}", portions.len(), both_mass(grams(*first)).metric)
        }
        _ => both_mass(grams(plan.request.weight_g)).metric,
    };
    PieceDraft(NewPiece {
        form_key,
        name: format!("{} {weight}", plan.request.cut_name),
        cut: plan.request.cut.clone(),
        schema_no: SCHEMA,
        request: request.to_string(),
        plan: serde_json::to_string(plan).unwrap_or_default(),
        serve_at: instant(&plan.serve_at),
        bowls: bowls(plan),
        steps: plan.steps.iter().map(|s| (s.kind.clone(), s.place.clone(), instant(&s.starts_at), instant(&s.ends_at))).collect(),
    })
}

/// One bowl a face that gets salt; of a dish in portions, one a portion.
fn bowls(plan: &PlanDoc) -> Vec<NewBowl> {
    let some = |bowl: &NewBowl| bowl.target_g >= 0.05;
    if plan.dose.portions.len() > 1 {
        let portion = |(i, p): (usize, &rauchkeller_contract::PortionDoc)| NewBowl {
            face: format!("portion-{}", i + 1),
            name: format!("portion {}, {}", i + 1, both_mass(grams(p.weight_g)).metric),
            target_g: p.scale_g,
        };
        return plan.dose.portions.iter().enumerate().map(portion).filter(some).collect();
    }
    let face = |f: &rauchkeller_contract::FaceDoc| NewBowl { face: f.face.clone(), name: f.name.clone(), target_g: f.scale_g };
    plan.dose.by_face.iter().map(face).filter(some).collect()
}
