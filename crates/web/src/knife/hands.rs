//! The face with raw hands: the lit stretch moves on at the cook's own pace; a tap holds it, a tap sends it back.

use crate::auth::SignedIn;
use crate::compute::compute;
use crate::draw::{FacePicture, FaceSize, Ground, draw_face};
use crate::error::WebError;
use crate::piece::{Opened, hands_fragment, note, open};
use crate::state::AppState;
use axum::extract::{Path, State};
use axum::response::Response;
use jiff::Timestamp;
use rauchkeller_contract::PlanDoc;
use rauchkeller_core::method::StepKind;
use rauchkeller_core::plan::{SkinPlan, kept_skin};
use rauchkeller_core::run::{KnifeHand, RunTask, Stretch, What};
use rauchkeller_core::skin::{Light, light, own_pace};
use rauchkeller_core::units::TimeIn;

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
    pub picks_out: Option<u32>,
    /// How many of them the cook says are missing.
    pub missing: u32,
    /// Whether the point slipped into the lean; `None` for picks, which do not.
    pub slipped: Option<bool>,
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
    pub async fn of(state: &AppState, cook: &SignedIn, opened: &Opened, task: &RunTask) -> Result<Option<Self>, WebError> {
        let Some((skin, light)) = work_of(state, cook, opened, task.kind).await? else { return Ok(None) };
        let run = Stretch::of(opened.record(), &task.id);
        Ok(Some(Self::drawn(&opened.plan, &skin, &light, run.as_ref(), state.now(), &opened.piece.name)))
    }

    fn drawn(plan: &PlanDoc, skin: &SkinPlan, light: &Light, run: Option<&Stretch>, now: Timestamp, name: &str) -> Self {
        let work = &skin.work;
        let ground = if plan.request.skin_mm > 0.0 { Ground::Skin } else { Ground::Fat };
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
            begun: run.is_some_and(|r| r.stopped.is_none()),
            held: run.is_some_and(|r| r.held_since.is_some()),
            picks_out: run.and_then(|r| r.picks_out),
            missing: run.map_or(0, |r| r.missing),
            slipped: work.scoring.as_ref().map(|_| run.is_some_and(|r| r.slipped)),
        }
    }
}

/// What is cut or pierced, as it was kept, at the pace known today; and the walk of its light.
async fn work_of(state: &AppState, cook: &SignedIn, opened: &Opened, kind: StepKind) -> Result<Option<(SkinPlan, Light)>, WebError> {
    if !matches!(kind, StepKind::Score | StepKind::Pierce) {
        return Ok(None);
    }
    let Some(mut ask) = opened.run.request.clone() else { return Ok(None) };
    let tool = opened.plan.skin.as_ref().and_then(|s| s.tool_id.clone()).unwrap_or_default();
    let runs = cook.kitchen(state).paces(&tool).await?;
    let usual = ask.skin_work.as_ref().and_then(|s| s.tool.clone()).or_else(|| rauchkeller_core::skin::SkinTool::find(&tool));
    if let (Some(tool), false) = (usual, runs.is_empty()) {
        ask.skin_work.get_or_insert_default().own_pace = Some(own_pace(tool.per_min, &runs));
    }
    let drawn = compute(move || {
        let skin = kept_skin(&ask)?;
        let walk = light(&skin.work)?;
        Some((skin, walk))
    });
    drawn.await
}

/// The task of knife or pick that is next.
fn next_task(opened: &Opened) -> Option<&RunTask> {
    let next = opened.run.tasks.get(opened.next_step()?)?;
    matches!(next.kind, StepKind::Score | StepKind::Pierce).then_some(next)
}

/// The hands begin.
pub async fn begin(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    let opened = open(&state, &cook, &id).await?;
    if let Some((task, skin)) = next_task(&opened).zip(opened.plan.skin.as_ref())
        && Stretch::of(opened.record(), &task.id).is_none()
    {
        let tool = skin.tool_id.clone().unwrap_or_default();
        let hand = KnifeHand::Begin { tool, amount: skin.amount, picks: skin.picks };
        note(&state, &cook, &opened, What::KnifeRun { task: task.id.clone(), hand }).await?;
    }
    hands_fragment(&state, &cook, &id, None).await
}

/// A tap holds the light.
pub async fn hold(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    moved(&state, &cook, &id, |_| KnifeHand::Hold).await
}

/// A tap lets it go on.
pub async fn go_on(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    moved(&state, &cook, &id, |_| KnifeHand::GoOn).await
}

/// A tap sends it one stretch back.
pub async fn send_back(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    moved(&state, &cook, &id, |light| KnifeHand::Back(light.each)).await
}

/// A tap says that a pick is missing.
pub async fn missing(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    moved(&state, &cook, &id, |_| KnifeHand::Missing).await
}

/// A tap says that the point slipped into the lean; another that it did not.
pub async fn slipped(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    moved(&state, &cook, &id, |_| KnifeHand::Slipped).await
}

async fn moved(state: &AppState, cook: &SignedIn, id: &str, hand: impl FnOnce(&Light) -> KnifeHand) -> Result<Response, WebError> {
    let opened = open(state, cook, id).await?;
    if let Some(task) = next_task(&opened)
        && let Some(run) = Stretch::of(opened.record(), &task.id).filter(|run| run.stopped.is_none())
        && let Some((_, light)) = work_of(state, cook, &opened, task.kind).await?
    {
        let hand = hand(&light);
        // Held twice is held once, and what runs goes on already.
        let says_nothing = match hand {
            KnifeHand::Hold => run.held_since.is_some(),
            KnifeHand::GoOn => run.held_since.is_none(),
            KnifeHand::Missing => run.picks_out.is_none(),
            _ => false,
        };
        if !says_nothing {
            note(state, cook, &opened, What::KnifeRun { task: task.id.clone(), hand }).await?;
        }
    }
    hands_fragment(state, cook, id, None).await
}
