//! From a plan to a piece that can be kept.

use crate::words::instant;
use rauchkeller_contract::{PlanDoc, SCHEMA, written_out};
use rauchkeller_core::plan::RULES;
use rauchkeller_core::run::Event;
use rauchkeller_core::units::{Both, System, both_mass, grams};
use rauchkeller_store::{NewPiece, NewPlan};
use serde_json::Value;

/// A plan about to be kept.
#[derive(Debug, Clone)]
pub struct PieceDraft(NewPiece);

impl PieceDraft {
    /// For the store.
    pub fn into_new(self) -> NewPiece {
        self.0
    }

    /// With what has happened to it already.
    #[must_use]
    pub fn with_events(mut self, events: Vec<Event>) -> Self {
        self.0.events = events;
        self
    }
}

/// Its cut and its weight in the household's units, as long as nobody calls it anything else.
pub fn usual_name(plan: &PlanDoc, system: Option<System>) -> String {
    let own = |both: Both| if system == Some(System::Customary) { both.customary } else { both.metric };
    let portions = &plan.request.portions_g;
    let weight = match portions.as_slice() {
        [first, rest @ ..] if !rest.is_empty() && rest.iter().all(|g| (g - first).abs() < 0.5) => {
            format!("{} × {}", portions.len(), own(both_mass(grams(*first))))
        }
        _ => own(both_mass(grams(plan.request.weight_g))),
    };
    format!("{} {weight}", plan.request.cut_name)
}

/// Whether a piece is called what pieces are called that nobody named, in whatever units.
pub fn is_usual_name(name: &str, plan: &PlanDoc) -> bool {
    [None, Some(System::Customary)].into_iter().any(|system| usual_name(plan, system) == name)
}

/// What is stored of a plan: the request with every guess written out, and the plan verbatim.
pub fn new_plan(request: &Value, plan: &PlanDoc) -> NewPlan {
    let mut full = written_out(request, plan);
    full["guessed"] = rauchkeller_contract::guesses_of(request, plan).into();
    NewPlan {
        schema_no: SCHEMA,
        rules: RULES,
        request: full.to_string(),
        plan: serde_json::to_string(plan).unwrap_or_default(),
        serve_at: instant(&plan.serve_at),
        last_task: plan.steps.iter().rfind(|s| s.beside.is_none()).map(rauchkeller_contract::StepDoc::task_id).unwrap_or_default(),
    }
}

/// Makes a piece of a plan.
pub fn draft_piece(form_key: String, request: &Value, plan: &PlanDoc) -> PieceDraft {
    let (name, cut) = (usual_name(plan, None), plan.request.cut.clone());
    PieceDraft(NewPiece { form_key, name, cut, plan: new_plan(request, plan), events: vec![] })
}
