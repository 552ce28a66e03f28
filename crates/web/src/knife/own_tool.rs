//! A tool of the household's own, hung up where it is first used.

use super::form::KnifeForm;
use super::{KnifePage, view_of};
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::piece::open;
use crate::shell::{Rail, render};
use crate::state::AppState;
use axum::extract::{Form, Path, Query, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Redirect, Response};
use rauchkeller_core::skin::{SkinTool, Stop};
use rauchkeller_core::units::{LengthIn, parse_length};
use rauchkeller_store::{Added, KitTool, ToolId};
use serde::Deserialize;
use uuid::Uuid;

/// The tool as typed, with the words of the station it came from.
#[derive(Debug, Clone, Default, Deserialize)]
#[serde(default)]
pub struct ToolForm {
    pub name: String,
    pub reach: String,
    /// `set`, `fixed` or `none`.
    pub stop: String,
    /// Pins a press; empty for a blade.
    pub pins: String,
    pub key: String,
    /// The station's address without the tool.
    pub query: String,
}

impl ToolForm {
    /// An empty form with a key of its own.
    pub fn fresh() -> Self {
        Self { key: Uuid::now_v7().to_string(), stop: Stop::Set.id().into(), ..Self::default() }
    }

    /// The tool, or what is wrong with it.
    fn read(&self) -> Result<KitTool, String> {
        let typed: String = self.reach.trim().chars().take(40).collect();
        let bare: Option<f64> = typed.replace(',', ".").parse().ok();
        let reach = bare.or_else(|| parse_length(&typed).ok().map(LengthIn::in_mm));
        let reach = reach.ok_or_else(|| format!("“{typed}” is no reach; write how deep it can go, like 8 mm."))?;
        let pins: Option<f64> = match self.pins.trim() {
            "" => None,
            typed => Some(typed.parse().map_err(|_| {
                format!(
                    "“{}” are no pins; write how many enter at one press, or leave it empty for a blade.",
                    typed.chars().take(20).collect::<String>()
                )
            })?),
        };
        let stop = Stop::find(&self.stop).unwrap_or(Stop::None);
        SkinTool::own("own", &self.name, reach, stop, pins).map_err(|error| format!("{}.", crate::words::sentence(&error.to_string())))?;
        Ok(KitTool {
            id: ToolId(Uuid::nil()),
            name: self.name.trim().to_owned(),
            reach_mm: reach,
            stop: stop.id().into(),
            pins: pins.map(|n| n as i32),
        })
    }
}

/// The station's words out of its address; what cannot be read says nothing.
fn form_of(query: &str) -> KnifeForm {
    let uri = format!("/?{query}").parse().ok();
    uri.and_then(|uri| Query::<KnifeForm>::try_from_uri(&uri).ok()).map(|Query(form)| form).unwrap_or_default()
}

/// Hangs it up and goes back to the station with it chosen.
pub async fn add_tool(
    State(state): State<AppState>,
    cook: SignedIn,
    Path(id): Path<String>,
    Form(tool): Form<ToolForm>,
) -> Result<Response, WebError> {
    let opened = open(&state, &cook, &id).await?;
    let form: KnifeForm = form_of(&tool.query);
    let slip = match tool.read() {
        Err(slip) => slip,
        Ok(read) => match cook.kitchen(&state).add_tool(&tool.key, &read, state.now()).await? {
            Added::Created(hung) | Added::AlreadyExists(hung) => {
                // A blade cannot pierce: the work follows the tool.
                let fits = read.pins.is_some() == !matches!(form.work.as_str(), "parallel" | "crosshatch" | "diamond");
                let work = match (fits, read.pins) {
                    (true, _) => form.work.clone(),
                    (false, Some(_)) => "pierce".into(),
                    (false, None) => "parallel".into(),
                };
                let chosen = KnifeForm { tool: format!("own-{hung}"), work, ..form };
                return Ok(Redirect::to(&chosen.address(&id)).into_response());
            }
            Added::NameTaken => format!("A tool called {} hangs in the Kit already; call this one something else.", read.name),
            Added::Full => "The Kit is full: take a tool out first.".into(),
        },
    };
    let view = view_of(&state, &cook, &opened, form).await?;
    let page = KnifePage { rail: Rail::at("knife", &cook), view, tool, tool_slip: Some(slip), said: None };
    Ok((StatusCode::UNPROCESSABLE_ENTITY, render(&page)?).into_response())
}

#[cfg(test)]
mod tests {
    use super::*;

    fn typed(name: &str, reach: &str, pins: &str) -> ToolForm {
        ToolForm { name: name.into(), reach: reach.into(), pins: pins.into(), stop: "fixed".into(), ..ToolForm::default() }
    }

    #[test]
    fn a_tool_is_read_or_what_is_wrong_is_said() {
        let read = typed("pin roller", "½ in", "30").read().unwrap();
        assert!((read.reach_mm - 12.7).abs() < 1e-9 && read.pins == Some(30) && read.stop == "fixed");
        assert_eq!(typed("blade", "7", "").read().unwrap().pins, None);
        for (form, says) in [
            (typed("", "7 mm", ""), "without a name"),
            (typed("spike", "deep", ""), "“deep” is no reach"),
            (typed("spike", "400 mm", ""), "between 1 and 200 mm"),
            (typed("brush", "8 mm", "lots"), "no pins"),
            (typed("brush", "8 mm", "2.5"), "between 1 and 200"),
        ] {
            let slip = form.read().unwrap_err();
            assert!(slip.contains(says), "{slip}");
        }
    }
}
