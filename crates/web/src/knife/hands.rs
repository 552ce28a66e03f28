//! The face with raw hands: the lit stretch moves on at the cook's own pace; a tap holds it, a tap sends it back.

use crate::auth::SignedIn;
use crate::compute::compute;
use crate::draw::{FacePicture, FaceSize, Ground, draw_face};
use crate::error::WebError;
use crate::piece::{Opened, hands_fragment, open};
use crate::state::AppState;
use axum::extract::{Path, State};
use axum::response::Response;
use jiff::{Timestamp, ZonedDateTime};
use rauchkeller_contract::read_kept;
use rauchkeller_core::plan::{Plan, SkinPlan, make_plan};
use rauchkeller_core::skin::{Light, light, own_pace};
use rauchkeller_core::units::{LengthIn, TimeIn};
use rauchkeller_store::{Hand, SkinRun};

/// What the raw-hands view shows of the knife.
pub struct HandsKnife {
    pub picture: String,
    pub stretches: usize,
    /// Seconds a stretch.
    pub each_s: String,
    /// Seconds of light so far.
    pub lit_s: String,
    pub begun: bool,
    pub held: bool,
    /// Picks laid out, to be counted back.
    pub picks_out: Option<i32>,
    /// How many of them the cook says are missing.
    pub missing: i32,
}

impl HandsKnife {
    /// Picks counted back, in words for the button.
    pub fn count(&self) -> String {
        match self.picks_out {
            None => "hold half a second".into(),
            Some(out) if self.missing == 0 => format!("all {out} picks counted back"),
            Some(out) => format!("only {} of {out} picks back", out - self.missing),
        }
    }

    /// Of the step that is next, where it is one of knife or pick; `None` else.
    pub async fn of(state: &AppState, cook: &SignedIn, opened: &Opened, kind: &str) -> Result<Option<Self>, WebError> {
        let Some((plan, light)) = work_of(state, cook, opened, kind).await? else { return Ok(None) };
        let run = cook.kitchen(state).skin_run(opened.piece.id, kind).await?;
        Ok(plan.skin.as_ref().map(|skin| Self::drawn(&plan, skin, &light, run.as_ref(), state.now(), &opened.piece.name)))
    }

    fn drawn(plan: &Plan, skin: &SkinPlan, light: &Light, run: Option<&SkinRun>, now: Timestamp, name: &str) -> Self {
        let work = &skin.work;
        let ground = if plan.with.skin.in_mm() > 0.0 { Ground::Skin } else { Ground::Fat };
        let strokes: &[_] = work.scoring.as_ref().map_or(&[], |s| &s.strokes);
        let picture = FacePicture {
            strokes,
            holes: work.holes.as_ref(),
            zones: &work.zones,
            light: Some(light),
            ..FacePicture::of(&work.laid, ground, FaceSize::Screen, name)
        };
        Self {
            picture: draw_face(&picture),
            stretches: light.stretches.len(),
            each_s: format!("{:.2}", light.each.in_s()),
            lit_s: run.map_or_else(|| "0".into(), |run| format!("{:.1}", (run.worked_s(now) - run.back_s).max(0.0))),
            begun: run.is_some_and(|r| r.stopped_at.is_none()),
            held: run.is_some_and(|r| r.held_since.is_some()),
            picks_out: run.and_then(|r| r.picks_out),
            missing: run.and_then(|r| Some(r.picks_out? - r.picks_in?)).unwrap_or(0),
        }
    }
}

/// The kept plan with its geometry, at the pace known today, and the walk of its light.
async fn work_of(state: &AppState, cook: &SignedIn, opened: &Opened, kind: &str) -> Result<Option<(Plan, Light)>, WebError> {
    if !matches!(kind, "score" | "pierce") {
        return Ok(None);
    }
    let Ok(now) = opened.plan.request.now.parse::<ZonedDateTime>() else { return Ok(None) };
    let request = serde_json::from_str(&opened.piece.request)?;
    let Some(mut ask) = read_kept(&request, &now) else { return Ok(None) };
    let tool = opened.plan.skin.as_ref().and_then(|s| s.tool_id.clone()).unwrap_or_default();
    let runs = cook.kitchen(state).paces(&tool).await?;
    let usual = ask.skin_work.as_ref().and_then(|s| s.tool.clone()).or_else(|| rauchkeller_core::skin::SkinTool::find(&tool));
    if let (Some(tool), false) = (usual, runs.is_empty()) {
        ask.skin_work.get_or_insert_default().own_pace = Some(own_pace(tool.per_min, &runs));
    }
    let planned = compute(move || {
        let plan = make_plan(&ask).ok()?;
        let walk = plan.skin.as_ref().and_then(|s| light(&s.work))?;
        Some((plan, walk))
    });
    planned.await
}

/// The step of knife or pick that is next.
fn step_kind(opened: &Opened) -> Option<String> {
    let next = opened.next_step()?;
    opened.piece.steps.get(next).map(|s| s.kind.clone()).filter(|kind| matches!(kind.as_str(), "score" | "pierce"))
}

/// The hands begin.
pub async fn begin(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    let opened = open(&state, &cook, &id).await?;
    if let Some((kind, skin)) = step_kind(&opened).zip(opened.plan.skin.as_ref()) {
        let run = SkinRun {
            tool_id: skin.tool_id.clone().unwrap_or_default(),
            amount: skin.amount,
            started_at: state.now(),
            held_since: None,
            held_s: 0.0,
            back_s: 0.0,
            stopped_at: None,
            picks_out: skin.picks.and_then(|n| i32::try_from(n).ok()),
            picks_in: None,
        };
        cook.kitchen(&state).begin_run(opened.piece.id, &kind, &run).await?;
    }
    hands_fragment(&state, &cook, &id, None).await
}

/// A tap holds the light.
pub async fn hold(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    moved(&state, &cook, &id, |_| Hand::Hold).await
}

/// A tap lets it go on.
pub async fn go_on(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    moved(&state, &cook, &id, |_| Hand::GoOn).await
}

/// A tap sends it one stretch back.
pub async fn send_back(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    moved(&state, &cook, &id, |light| Hand::Back(light.each.in_s())).await
}

/// A tap says that a pick is missing.
pub async fn missing(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    moved(&state, &cook, &id, |_| Hand::Missing).await
}

async fn moved(state: &AppState, cook: &SignedIn, id: &str, hand: impl FnOnce(&Light) -> Hand) -> Result<Response, WebError> {
    let opened = open(state, cook, id).await?;
    if let Some(kind) = step_kind(&opened)
        && let Some((_, light)) = work_of(state, cook, &opened, &kind).await?
    {
        cook.kitchen(state).move_run(opened.piece.id, &kind, hand(&light), state.now()).await?;
    }
    hands_fragment(state, cook, id, None).await
}
