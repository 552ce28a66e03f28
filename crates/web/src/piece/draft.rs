//! From a plan to a piece that can be kept.

use crate::words::instant;
use rauchkeller_contract::{PlanDoc, SCHEMA};
use rauchkeller_core::units::{both_mass, grams};
use rauchkeller_store::{NewBowl, NewPiece};
use serde_json::Value;

/// What the face of a bowl of mix begins with.
pub const MIX: &str = "mix-";

/// A plan about to be kept.
#[derive(Debug, Clone)]
pub struct PieceDraft(NewPiece);

impl PieceDraft {
    /// For the store.
    pub fn into_new(self) -> NewPiece {
        self.0
    }
}

/// Its cut and its weight, as long as nobody calls it anything else.
pub fn usual_name(plan: &PlanDoc) -> String {
    let portions = &plan.request.portions_g;
    let weight = match portions.as_slice() {
        [first, rest @ ..] if !rest.is_empty() && rest.iter().all(|g| (g - first).abs() < 0.5) => {
            format!("{} × {}", portions.len(), both_mass(grams(*first)).metric)
        }
        _ => both_mass(grams(plan.request.weight_g)).metric,
    };
    format!("{} {weight}", plan.request.cut_name)
}

/// Makes a piece of a plan: request and plan verbatim, its steps in order.
pub fn draft_piece(form_key: String, request: &Value, plan: &PlanDoc) -> PieceDraft {
    PieceDraft(NewPiece {
        form_key,
        name: usual_name(plan),
        cut: plan.request.cut.clone(),
        schema_no: SCHEMA,
        request: request.to_string(),
        plan: serde_json::to_string(plan).unwrap_or_default(),
        serve_at: instant(&plan.serve_at),
        bowls: bowls(plan),
        steps: plan.steps.iter().map(|s| (s.kind.clone(), s.place.clone(), instant(&s.starts_at), instant(&s.ends_at))).collect(),
    })
}

/// One bowl a face that gets salt; of a dish in portions, one a portion. A mix has bowls of its own beside them.
fn bowls(plan: &PlanDoc) -> Vec<NewBowl> {
    let dose = &plan.dose;
    let mix = dose.mix.as_ref();
    let bowl = |face: String, name: String, target_g: f64| NewBowl { face, name, target_g };
    let mut all: Vec<NewBowl> = Vec::new();
    if dose.portions.len() > 1 {
        for (i, p) in dose.portions.iter().enumerate() {
            let name = format!("portion {}, {}", i + 1, both_mass(grams(p.weight_g)).metric);
            if let Some(mix) = mix {
                let share = p.weight_g / plan.request.weight_g.max(1.0);
                all.push(bowl(format!("{MIX}portion-{}", i + 1), format!("{name}: {}", mix.name), mix.g * share));
            }
            all.push(bowl(format!("portion-{}", i + 1), name, p.scale_g));
        }
    } else {
        for f in &dose.by_face {
            if let Some(mix) = mix {
                all.push(bowl(format!("{MIX}{}", f.face), format!("{}: {}", f.name, mix.name), f.mix_g));
            }
            all.push(bowl(f.face.clone(), f.name.clone(), f.scale_g));
        }
    }
    all.retain(|bowl| bowl.target_g >= 0.05);
    all
}
