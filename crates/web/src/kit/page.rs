//! What hangs in the Kit, and taking it out.

use super::Shelf;
use super::heat::HeatForm;
use super::scales::ScaleForm;
use super::shelf::OwnWay;
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::live::Live;
use crate::piece::air_of;
use crate::shell::{Rail, render};
use crate::state::AppState;
use crate::words::{figure_in_units, trim};
use askama::Template;
use axum::extract::{Path, Query, State};
use axum::response::{IntoResponse, Redirect, Response};
use jiff::Timestamp;
use rauchkeller_core::ask::Kitchen;
use rauchkeller_core::fire::HeatSource;
use rauchkeller_core::skin::drying::evaporation;
use rauchkeller_core::units::{IntervalIn, TemperatureIn};
use rauchkeller_store::{DeviceId, KitTool, MixId, Refrigerator, SaltId, ToolId, TrayId, WayId};
use serde::Deserialize;
use uuid::Uuid;

/// One thing on its hook.
pub struct Hung {
    pub id: String,
    pub name: String,
    pub figure: String,
    pub unit: &'static str,
    pub detail: String,
}

/// One thing that gives heat.
pub struct HeatRow {
    pub id: &'static str,
    pub figure: String,
    /// `°C` or `°F`.
    pub unit: String,
    /// Whether somebody said how hot it gets.
    pub said: bool,
    /// By how much its dial is off, in words; empty where nobody knows.
    pub dial: String,
}

/// The page.
pub struct KitView {
    pub salts: Vec<Hung>,
    pub mixes: Vec<Hung>,
    pub ways: Vec<Hung>,
    pub scales: Vec<Hung>,
    /// Tokens that programs note with.
    pub programs: Vec<Hung>,
    /// Shown once, right after it was made.
    pub program_token: Option<String>,
    pub program: String,
    pub program_slip: Option<String>,
    pub tools: Vec<Hung>,
    pub trays: Vec<Hung>,
    /// What gives heat: its kind, what it is called, how hot it gets, and whether somebody said so.
    pub heat: Vec<HeatRow>,
    /// How hot one gets, as typed, and what is wrong with it.
    pub heat_form: HeatForm,
    pub heat_slip: Option<String>,
    /// The refrigerator in a line, and what weighing taught of it.
    pub fridge: String,
    /// Shown once, right after a scale was hung up.
    pub token: Option<String>,
    pub slip: Option<String>,
    pub form: ScaleForm,
    /// The page of a simulated scale that stands here: the demo's own, or a spare one that waits to be paired.
    pub demo_scale: Option<String>,
    /// A code as typed, and what is wrong with it.
    pub code: String,
    pub code_slip: Option<String>,
    /// What was just taken out, to be put back: kind and id.
    pub removed: Option<(String, String)>,
    /// It could not be put back.
    pub taken: bool,
}

#[derive(Template)]
#[template(path = "kit/page.html")]
struct KitPage {
    rail: Rail,
    view: KitView,
}

/// What happened just before.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct Before {
    removed: String,
    id: String,
    taken: bool,
}

/// The Kit.
pub async fn page(State(state): State<AppState>, cook: SignedIn, Query(before): Query<Before>) -> Result<Response, WebError> {
    let mut view = view(&state, &cook).await?;
    view.taken = before.taken;
    view.removed = Uuid::parse_str(&before.id)
        .ok()
        .filter(|_| matches!(before.removed.as_str(), "salts" | "mixes" | "tools" | "trays" | "ways"))
        .map(|id| (before.removed, id.to_string()));
    render(&KitPage { rail: Rail::at("kit", &cook), view })
}

/// The Kit with a fresh token or a refused scale.
pub(super) async fn show(
    state: &AppState,
    cook: &SignedIn,
    token: Option<String>,
    slip: Option<String>,
    form: Option<ScaleForm>,
) -> Result<Response, WebError> {
    let mut view = view(state, cook).await?;
    (view.token, view.slip, view.form) = (token, slip, form.unwrap_or_default());
    render(&KitPage { rail: Rail::at("kit", cook), view })
}

/// The Kit with a heat that cannot be.
pub(super) async fn show_heat(state: &AppState, cook: &SignedIn, form: HeatForm, slip: String) -> Result<Response, WebError> {
    let mut view = view(state, cook).await?;
    (view.heat_form, view.heat_slip) = (form, Some(slip));
    render(&KitPage { rail: Rail::at("kit", cook), view })
}

/// The Kit with a code that no scale shows.
pub(super) async fn show_pairing(state: &AppState, cook: &SignedIn, code: String, slip: String) -> Result<Response, WebError> {
    let mut view = view(state, cook).await?;
    (view.code, view.code_slip) = (code, Some(slip));
    render(&KitPage { rail: Rail::at("kit", cook), view })
}

/// The Kit with a fresh token of a program, or what is wrong with its name.
pub(super) async fn show_program(
    state: &AppState,
    cook: &SignedIn,
    name: String,
    slip: Option<String>,
    token: Option<String>,
) -> Result<Response, WebError> {
    let mut view = view(state, cook).await?;
    (view.program, view.program_slip, view.program_token) = (name, slip, token);
    render(&KitPage { rail: Rail::at("kit", cook), view })
}

/// By how much a dial is off, in both systems.
fn dial_words(off_k: f64) -> String {
    let way = if off_k >= 0.0 { "too high" } else { "too low" };
    format!("its dial shows {:.0} °C ({:.0} °F) {way}", off_k.abs(), off_k.abs() * 1.8)
}

async fn view(state: &AppState, cook: &SignedIn) -> Result<KitView, WebError> {
    let shelf = Shelf::of(state, cook).await?;
    let kitchen = cook.kitchen(state);
    let live = Live::of(&kitchen, state.now()).await?;
    let salts = shelf.salts.iter().map(|s| Hung {
        id: s.id.to_string(),
        name: s.name.clone(),
        figure: trim(s.g_per_tsp, 2),
        unit: "g a teaspoon",
        detail: salt_detail(s),
    });
    let mixes = shelf.mixes.iter().map(|m| Hung {
        id: m.id.to_string(),
        name: m.name.clone(),
        figure: trim(m.salt_g_per_100g, 1),
        unit: "% salt",
        detail: m.recipe.lines().map(str::trim).filter(|l| !l.is_empty()).collect::<Vec<_>>().join(", "),
    });
    let (scales, programs): (Vec<_>, Vec<_>) = kitchen.devices().await?.into_iter().partition(|d| d.kind == "scale");
    let programs = programs.into_iter().map(|d| Hung {
        id: d.id.to_string(),
        figure: String::new(),
        unit: "",
        detail: "may read how pieces stand, and note what happens to them".into(),
        name: d.name,
    });
    let scales = scales.into_iter().map(|d| Hung {
        id: d.id.to_string(),
        figure: trim(d.step_g, 2),
        unit: "g steps",
        detail: match &live {
            Some(live) if live.name == d.name => format!("shows {} g now", live.shows),
            _ => "silent".into(),
        },
        name: d.name,
    });
    let tools = kitchen.tools().await?.into_iter().map(|t| Hung {
        id: t.id.to_string(),
        figure: trim(t.reach_mm, 1),
        unit: "mm deep",
        detail: tool_detail(&t),
        name: t.name,
    });
    let trays = kitchen.trays().await?.into_iter().map(|t| Hung {
        id: t.id.to_string(),
        figure: trim(t.empty_g, 1),
        unit: "g empty",
        detail: "with its rack".into(),
        name: t.name,
    });
    let heat = HeatSource::ALL.map(|source| {
        let (figure, unit, _) = figure_in_units(&format!("{:.0}", shelf.heat.of(source).in_c()), "°C", shelf.system);
        let dial = shelf.heat.dial_off(source).map_or_else(String::new, |off| dial_words(off.in_kelvin()));
        HeatRow { id: source.id(), figure, unit, said: shelf.heat.said(source).is_some(), dial }
    });
    Ok(KitView {
        heat: heat.into(),
        heat_form: HeatForm::default(),
        heat_slip: None,
        trays: trays.collect(),
        fridge: fridge_line(&shelf.fridge),
        tools: tools.collect(),
        salts: salts.collect(),
        mixes: mixes.collect(),
        ways: shelf.ways.iter().map(way_row).collect(),
        scales: scales.collect(),
        programs: programs.collect(),
        program_token: None,
        program: String::new(),
        program_slip: None,
        token: None,
        slip: None,
        form: ScaleForm { key: super::form_key(""), ..ScaleForm::default() },
        demo_scale: cook.simulated_scale(state),
        code: String::new(),
        code_slip: None,
        removed: None,
        taken: false,
    })
}

/// A way on its hook: what is read of its document, or that it can be read no more.
fn way_row(way: &OwnWay) -> Hung {
    let detail = way.method.as_ref().map_or_else(
        || "today’s rules refuse it: open it, and put right what is said in red".to_owned(),
        |method| {
            let cuts: Vec<String> = method.cuts.iter().take(3).map(|cut| cut.name.to_lowercase()).collect();
            let more = method.cuts.len().saturating_sub(cuts.len());
            let more = if more > 0 { format!(" and {more} more") } else { String::new() };
            format!("{}; for {}{more}", method.source, cuts.join(", "))
        },
    );
    let tasks = way.method.as_ref().map_or_else(|| "?".into(), |method| method.tasks.len().to_string());
    Hung { id: way.kept.id.to_string(), name: way.kept.name.clone(), figure: tasks, unit: "tasks", detail }
}

fn salt_detail(salt: &rauchkeller_store::KitSalt) -> String {
    let mut parts = vec![format!("{} % sodium chloride", trim(salt.purity * 100.0, 1))];
    if salt.potassium > 0.005 {
        parts.push(format!("{} % potassium chloride", trim(salt.potassium * 100.0, 1)));
    }
    parts.extend(salt.uncertainty_g.map(|g| format!("known to ± {} g", trim(g, 2))));
    parts.extend(salt.pinch_g.map(|g| format!("a pinch is {} g", trim(g, 2))));
    parts.join(", ")
}

/// `4 °C, 50 % humid; learned from 6 weighings, ± 8 %`.
fn fridge_line(fridge: &Refrigerator) -> String {
    let air = format!("{} °C", trim(fridge.air_c, 1));
    let humid = fridge.rh.map_or_else(|| "humidity unknown".to_owned(), |rh| format!("{:.0} % humid", rh * 100.0));
    let a_day = format!(
        "a wet surface in it loses about {:.0} g a square decimetre a day",
        evaporation(air_of(fridge, Kitchen::default().fridge), 0.997) * 86_400.0 * 10.0
    );
    let learned = match fridge.fit_spread.filter(|_| fridge.fit_h.is_some()) {
        Some(spread) => format!("{a_day}, give or take {:.0} %: learned from {} weighings", spread * 200.0, fridge.fit_points),
        None => format!("{a_day}, our estimate until something was weighed in it"),
    };
    format!("{air}, {humid}; {learned}.")
}

fn tool_detail(tool: &KitTool) -> String {
    let pins = match tool.pins {
        None => "a blade".to_owned(),
        Some(1) => "one pin".into(),
        Some(n) => format!("{n} pins a press"),
    };
    let stop = match tool.stop.as_str() {
        "set" => "its depth can be set",
        "fixed" => "stops by its own length",
        _ => "tape marks its depth",
    };
    format!("{pins}, {stop}")
}

/// Takes something out of the Kit.
pub async fn remove(State(state): State<AppState>, cook: SignedIn, Path((kind, id)): Path<(String, String)>) -> Result<Response, WebError> {
    set_deleted(&state, &cook, &kind, &id, Some(state.now())).await?;
    Ok(Redirect::to(&format!("/kit?removed={kind}&id={id}")).into_response())
}

/// Puts it back.
pub async fn restore(
    State(state): State<AppState>,
    cook: SignedIn,
    Path((kind, id)): Path<(String, String)>,
) -> Result<Response, WebError> {
    match set_deleted(&state, &cook, &kind, &id, None).await {
        // Its name was given away meanwhile.
        Err(WebError::Store(rauchkeller_store::StoreError::Conflict)) => Ok(Redirect::to("/kit?taken=true").into_response()),
        outcome => outcome.map(|()| Redirect::to("/kit").into_response()),
    }
}

async fn set_deleted(state: &AppState, cook: &SignedIn, kind: &str, id: &str, at: Option<Timestamp>) -> Result<(), WebError> {
    let id = Uuid::parse_str(id).map_err(|_| WebError::NotFound)?;
    let kitchen = cook.kitchen(state);
    match (kind, at) {
        ("salts", at) => kitchen.set_salt_deleted(SaltId(id), at).await?,
        ("mixes", at) => kitchen.set_mix_deleted(MixId(id), at).await?,
        ("tools", at) => kitchen.set_tool_deleted(ToolId(id), at).await?,
        ("trays", at) => kitchen.set_tray_deleted(TrayId(id), at).await?,
        ("ways", at) => kitchen.set_way_deleted(WayId(id), at).await?,
        ("scales" | "programs", Some(at)) => kitchen.remove_device(DeviceId(id), at).await?,
        _ => return Err(WebError::NotFound),
    }
    Ok(())
}
