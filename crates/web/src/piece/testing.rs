//! Kept pieces for unit tests, made from real plans.

use super::{Opened, draft_piece};
use rauchkeller_contract::{EXAMPLE, plan_from};
use rauchkeller_store::{Piece, PieceId, Step, StepId};
use serde_json::{Value, json};
use uuid::Uuid;

/// The example belly with some steps ticked: (kind, instant).
pub fn opened(ticks: &[(&str, &str)]) -> Opened {
    kept(&serde_json::from_str(EXAMPLE).unwrap(), ticks)
}

/// A piece of a request with `now` and `serve_at` of the example, with some steps ticked.
pub fn kept_cut(cut: &str, weight_g: f64, ticks: &[(&str, &str)]) -> Opened {
    let example: Value = serde_json::from_str(EXAMPLE).unwrap();
    kept(
        &json!({"piece": {"cut": cut, "weight_g": weight_g, "bought_on": "2026-12-10"}, "now": example["now"], "serve_at": example["serve_at"]}),
        ticks,
    )
}

fn kept(request: &Value, ticks: &[(&str, &str)]) -> Opened {
    let now = "2026-12-10T09:00[Europe/Vienna]".parse().unwrap();
    let plan = plan_from(request, &now).unwrap();
    let new = draft_piece("k".into(), request, &plan).into_new();
    let steps = new
        .steps
        .into_iter()
        .zip(0..)
        .map(|((kind, place, planned_start, planned_end), position)| Step {
            id: StepId(Uuid::now_v7()),
            position,
            done_at: ticks.iter().find(|(k, _)| *k == kind).map(|(_, at)| at.parse().unwrap()),
            kind,
            place,
            planned_start,
            planned_end,
        })
        .collect();
    let piece = Piece {
        note: String::new(),
        id: PieceId(Uuid::now_v7()),
        name: new.name,
        cut: new.cut,
        schema_no: 1,
        request: new.request,
        plan: new.plan,
        version: 1,
        serve_at: new.serve_at,
        created_at: new.serve_at,
        finished_at: None,
        deleted_at: None,
        steps,
        bowls: vec![],
        by_eye: rauchkeller_store::ByEye::default(),
        rest: rauchkeller_store::Rest::default(),
        verdict: None,
    };
    Opened { piece, plan, fridge: rauchkeller_store::Refrigerator::default(), system: None }
}
