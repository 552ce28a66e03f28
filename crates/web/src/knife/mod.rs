//! The Knife station of a piece: where to cut or pierce, how deep, with which tool, how long it takes.

mod avoid;
mod form;
mod hands;
mod own_tool;
mod planned;
mod print;
mod view;
mod words;

pub use hands::{HandsKnife, begin, go_on, hold, missing, send_back, slipped};
pub use own_tool::add_tool;
pub use print::{sheet_pdf, strips_pdf};

use crate::auth::SignedIn;
use crate::compute::compute;
use crate::draw::{FacePicture, FaceSize, Ground, draw_face};
use crate::error::WebError;
use crate::kit::Shelf;
use crate::piece::{InSight, Opened, event, new_plan, open, open_in_sight};
use crate::shell::{Partial, Rail, Station, render, which};
use crate::state::AppState;
use askama::Template;
use axum::extract::{Form, Path, Query, State};
use axum::http::{HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Redirect, Response};
use form::KnifeForm;
use own_tool::ToolForm;
use planned::Planned;
use rauchkeller_contract::plan_doc;
use rauchkeller_core::method::StepKind;
use rauchkeller_core::run::What;
use rauchkeller_store::{Revised, Revision};
use serde::Deserialize;
use view::{KnifeView, LastTime};

#[derive(Template)]
#[template(path = "knife/page.html")]
struct KnifePage {
    rail: Rail,
    view: KnifeView,
    tool: ToolForm,
    tool_slip: Option<String>,
    said: Option<&'static str>,
}

#[derive(Template)]
#[template(path = "knife/knife.html")]
struct KnifeFragment {
    view: KnifeView,
}

/// The piece that the knife is wanted for next: the first whose skin is not opened yet; else the Cellar.
pub async fn next(State(state): State<AppState>, cook: SignedIn) -> Result<Response, WebError> {
    let InSight { pieces, more, .. } = open_in_sight(&state, &cook).await?;
    let waits = |kinds: &[StepKind]| -> Vec<_> {
        let left = |p: &&Opened| p.rows(&p.stand(&cook.now(&state))).iter().any(|r| kinds.contains(&r.task.kind) && !r.over);
        pieces.iter().filter(left).map(|p| &p.piece).collect()
    };
    let waiting = [
        waits(&[StepKind::Score, StepKind::Pierce, StepKind::Groove]),
        waits(&[StepKind::Salt]),
        pieces.iter().map(|p| &p.piece).collect(),
    ];
    let waiting = waiting.into_iter().find(|list| !list.is_empty()).unwrap_or_default();
    which(&STATION, &cook, &cook.now(&state), &waiting, more)
}

const STATION: Station = Station {
    hook: "knife",
    page: "knife",
    which: "The knife for which piece?",
    none: "Nothing waits for the knife",
    says: "A piece comes here once it is planned: how deep, how far apart, with which tool.",
};

/// Plans the piece with the words of the form, at the cook's own pace where it is known.
async fn planned(state: &AppState, cook: &SignedIn, opened: &Opened, form: KnifeForm, shelf: &Shelf) -> Result<Planned, WebError> {
    let (piece, tools) = (opened.clone(), shelf.clone());
    let planned = compute(move || Planned::of(&piece, form, &tools)).await?;
    let tool = planned.plan.as_ref().and_then(|p| p.skin.as_ref()).map(|s| s.ask.tool.id.to_string());
    let runs = match tool {
        Some(tool) => cook.kitchen(state).paces(&tool).await?,
        None => vec![],
    };
    compute(move || planned.at_own_pace(&runs)).await
}

/// What the last eaten piece of this cut taught, if its skin stayed chewy anywhere.
async fn last_time(state: &AppState, cook: &SignedIn, opened: &Opened) -> Result<Option<LastTime>, WebError> {
    let last = cook.kitchen(state).last_patches(&opened.piece.cut, opened.piece.id).await?;
    Ok(last.map(|(name, patches)| LastTime { name, patches }).filter(|l| l.patches != 0))
}

async fn view_of(state: &AppState, cook: &SignedIn, opened: &Opened, form: KnifeForm) -> Result<KnifeView, WebError> {
    let shelf = Shelf::with_tools(state, cook).await?;
    let planned = planned(state, cook, opened, form, &shelf).await?;
    let last = last_time(state, cook, opened).await?;
    let opened = opened.clone();
    compute(move || KnifeView::of(&opened, planned, &shelf, last.as_ref())).await
}

fn page_of(cook: &SignedIn, view: KnifeView, said: Option<&'static str>) -> KnifePage {
    KnifePage { rail: Rail::at("knife", cook), view, tool: ToolForm::fresh(), tool_slip: None, said }
}

/// The station; its state is in the address.
pub async fn page(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path(id): Path<String>,
    Query(form): Query<KnifeForm>,
) -> Result<Response, WebError> {
    let opened = open(&state, &cook, &id).await?;
    let form = form.after_the_hand();
    let address = form.address(&id);
    let view = view_of(&state, &cook, &opened, form).await?;
    if !partial.0 {
        return render(&page_of(&cook, view, None));
    }
    let mut response = render(&KnifeFragment { view })?;
    if let Ok(address) = HeaderValue::from_str(&address) {
        response.headers_mut().insert("HX-Replace-Url", address);
    }
    Ok(response)
}

/// The form with the version of the piece that the cook saw.
#[derive(Debug, Default, Deserialize)]
pub struct KeepForm {
    #[serde(default)]
    version: i32,
    #[serde(flatten)]
    form: KnifeForm,
}

/// Keeps it with the piece: the plan is made anew, all or nothing.
pub async fn keep(
    State(state): State<AppState>,
    cook: SignedIn,
    Path(id): Path<String>,
    Form(KeepForm { version, form }): Form<KeepForm>,
) -> Result<Response, WebError> {
    let opened = open(&state, &cook, &id).await?;
    let shelf = Shelf::with_tools(&state, &cook).await?;
    let planned = planned(&state, &cook, &opened, form.clone(), &shelf).await?;
    let begun = opened.knife_or_salt_was_on_it();
    let refuse = async |status: StatusCode, said| {
        let view = view_of(&state, &cook, &opened, form.clone()).await?;
        Ok((status, render(&page_of(&cook, view, said))?).into_response())
    };
    if begun {
        return refuse(StatusCode::CONFLICT, Some("The knife or the salt was on it already: what was done stands, and nothing was kept."))
            .await;
    }
    let (Some(plan), true) = (&planned.plan, planned.slips.is_empty()) else {
        return refuse(StatusCode::UNPROCESSABLE_ENTITY, Some("Nothing was kept: see what is marked.")).await;
    };
    let now = state.now();
    let revised = event(now, now, What::PlanRevised { over: 0, version: 0 });
    let new = new_plan(&planned.request, &plan_doc(plan));
    let revision = Revision { plan: &new, name: None, facts: &[], event: &revised, cook: Some(cook.0.id) };
    match cook.kitchen(&state).revise(opened.piece.id, version, revision).await? {
        Revised::Done => Ok(Redirect::to(&format!("/pieces/{id}")).into_response()),
        // The same form sent twice is kept once.
        Revised::Changed if stands_so(&state, &cook, &id, &planned).await? => Ok(Redirect::to(&format!("/pieces/{id}")).into_response()),
        Revised::Changed => {
            let said =
                "Somebody changed this piece meanwhile; here it is as it stands, with your words. Look again, and keep it once more.";
            refuse(StatusCode::CONFLICT, Some(said)).await
        }
    }
}

/// Whether the piece already stands just as it was to be kept.
async fn stands_so(state: &AppState, cook: &SignedIn, id: &str, planned: &Planned) -> Result<bool, WebError> {
    let stored: serde_json::Value = serde_json::from_str(&open(state, cook, id).await?.piece.request)?;
    Ok(rauchkeller_contract::as_said(&stored) == planned.request)
}

/// The face as a sheet, one millimetre to the millimetre.
pub async fn sheet(
    State(state): State<AppState>,
    cook: SignedIn,
    Path(id): Path<String>,
    Query(form): Query<KnifeForm>,
) -> Result<Response, WebError> {
    let opened = open(&state, &cook, &id).await?;
    let shelf = Shelf::with_tools(&state, &cook).await?;
    let meat_side = form.side == "meat";
    let planned = planned(&state, &cook, &opened, form, &shelf).await?;
    let Some(skin) = planned.plan.as_ref().and_then(|p| p.skin.as_ref()) else {
        return Ok(StatusCode::UNPROCESSABLE_ENTITY.into_response());
    };
    let work = &skin.work;
    let (strokes, other_side, holes) = work.seen_from(meat_side);
    let ground = if meat_side { Ground::Meat } else { Ground::Skin };
    let zones: &[_] = if meat_side { &[] } else { &work.zones };
    let picture = FacePicture::of(&work.laid, ground, FaceSize::OneToOne, &opened.piece.name);
    let svg = draw_face(&FacePicture { strokes, other_side, holes, zones, ..picture });
    let headers = [(header::CONTENT_TYPE, "image/svg+xml"), (header::CONTENT_DISPOSITION, "attachment; filename=\"face.svg\"")];
    Ok((headers, svg).into_response())
}
