//! The PDFs of the station: the sheet and the edge strips.

use super::form::KnifeForm;
use super::planned;
use super::words::tenths;
use crate::auth::SignedIn;
use crate::compute::compute;
use crate::error::WebError;
use crate::kit::Shelf;
use crate::piece::{Opened, open};
use crate::print::{Paper, SheetFace, sheet, strips};
use crate::state::AppState;
use axum::extract::{Path, Query, State};
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use rauchkeller_core::plan::{Plan, SkinPlan};
use rauchkeller_core::skin::{EdgeStrip, Family, edge_strips};
use rauchkeller_core::units::LengthIn;
use serde::Deserialize;

/// Which paper.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct PaperQuery {
    paper: String,
}

async fn plan_of(state: &AppState, cook: &SignedIn, id: &str, form: KnifeForm) -> Result<(Opened, Option<Box<Plan>>), WebError> {
    let opened = open(state, cook, id).await?;
    let shelf = Shelf::with_tools(state, cook).await?;
    let plan = planned(state, cook, &opened, form, &shelf).await?.plan;
    Ok((opened, plan))
}

fn pdf(file: &str, bytes: Vec<u8>) -> Response {
    let attachment = format!("attachment; filename=\"{file}\"");
    ([(header::CONTENT_TYPE, "application/pdf".to_owned()), (header::CONTENT_DISPOSITION, attachment)], bytes).into_response()
}

fn nothing_to_print() -> Response {
    (StatusCode::UNPROCESSABLE_ENTITY, "Nothing is cut here: choose strokes or holes first.").into_response()
}

/// The face at one to one, over as many pages as it needs.
pub async fn sheet_pdf(
    State(state): State<AppState>,
    cook: SignedIn,
    Path(id): Path<String>,
    Query(form): Query<KnifeForm>,
    Query(PaperQuery { paper }): Query<PaperQuery>,
) -> Result<Response, WebError> {
    let meat_side = form.side == "meat";
    let (opened, plan) = Box::pin(plan_of(&state, &cook, &id, form)).await?;
    let Some(skin) = plan.and_then(|p| p.skin) else { return Ok(nothing_to_print()) };
    let drawn = compute(move || {
        let name = format!("{}, {}", opened.piece.name, if meat_side { "meat side" } else { "skin side" });
        let (strokes, other_side, holes) = skin.work.seen_from(meat_side);
        let depth = depth_words(&skin, meat_side);
        let face = SheetFace { name: &name, laid: &skin.work.laid, strokes, other_side, holes, depth: &depth };
        sheet(&face, Paper::find(&paper))
    });
    Ok(pdf("face.pdf", drawn.await??))
}

fn depth_words(skin: &SkinPlan, meat_side: bool) -> String {
    let depth = if meat_side { skin.work.meat.as_ref().map(|c| c.depth) } else { skin.ask.depth.or(skin.work.guard.map(|g| g.at_most)) };
    depth.map_or_else(|| "just through the skin".into(), |d| format!("{} mm deep at most", tenths(d.in_mm())))
}

/// Two edge strips a way the strokes run.
pub async fn strips_pdf(
    State(state): State<AppState>,
    cook: SignedIn,
    Path(id): Path<String>,
    Query(form): Query<KnifeForm>,
    Query(PaperQuery { paper }): Query<PaperQuery>,
) -> Result<Response, WebError> {
    let meat_side = form.side == "meat";
    let (opened, plan) = Box::pin(plan_of(&state, &cook, &id, form)).await?;
    let pairs = plan.as_ref().and_then(|p| p.skin.as_ref()).map(|skin| pairs_of(skin, meat_side)).unwrap_or_default();
    if pairs.is_empty() {
        return Ok(nothing_to_print());
    }
    Ok(pdf("edge-strips.pdf", strips(&opened.piece.name, &pairs, Paper::find(&paper))?))
}

fn pairs_of(skin: &SkinPlan, meat_side: bool) -> Vec<[EdgeStrip; 2]> {
    let work = &skin.work;
    let above = || work.meat.as_ref().and_then(|c| c.above.as_ref()).map(|a| a.families.clone()).unwrap_or_default();
    let families: Vec<Family> = if meat_side {
        work.meat.as_ref().map(|c| c.below.families.clone()).unwrap_or_default()
    } else {
        let rows = work.holes.as_ref().filter(|h| h.rows.lines > 0).map(|h| vec![h.rows]);
        work.scoring.as_ref().map(|s| s.families.clone()).or(rows).unwrap_or_else(above)
    };
    families.into_iter().filter_map(|family| edge_strips(&work.laid.outline, family)).collect()
}
