//! A rub, paste or marinade by its ingredients: its salt, and whether it adds up.

use super::{Shelf, back, form_key};
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::shell::{Partial, Rail, render};
use crate::state::AppState;
use crate::words::{sentence, trim};
use askama::Template;
use axum::extract::{Form, Query, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Redirect, Response};
use jiff::Timestamp;
use rauchkeller_core::salt::{Mix, MixError, read_mix};
use rauchkeller_core::units::{MassIn, System, both_mass};
use rauchkeller_store::{Added, KitMix, MixId};
use serde::Deserialize;
use serde_json::json;
use uuid::Uuid;

/// The form as typed.
#[derive(Debug, Clone, Default, Deserialize)]
#[serde(default)]
pub struct MixForm {
    pub name: String,
    pub recipe: String,
    pub back: String,
    pub key: String,
}

/// One ingredient as it was read.
pub struct PartLine {
    pub name: String,
    pub g: String,
    pub salt: String,
    pub known: bool,
}

/// What the page shows.
#[derive(Default)]
pub struct MixView {
    pub form: MixForm,
    pub name_slip: Option<String>,
    pub recipe_slips: Vec<String>,
    pub salt: String,
    pub whole: String,
    pub parts: Vec<PartLine>,
    pub made_for: String,
    pub unknown: String,
    /// How much meat it is for, as an example in the household’s units.
    pub like_for: &'static str,
}

#[derive(Template)]
#[template(path = "kit/mix_page.html")]
struct MixPage {
    rail: Rail,
    view: MixView,
}

#[derive(Template)]
#[template(path = "kit/mix.html")]
struct MixFragment {
    view: MixView,
}

impl MixView {
    fn of(mut form: MixForm, shelf: &Shelf, asked: bool) -> (Self, Option<Mix>) {
        form.key = form_key(&form.key);
        let read = read_mix(&form.name, &form.recipe, &shelf.core_salts());
        let like_for = if shelf.system == Some(System::Customary) { "for 9 lb" } else { "for 4 kg" };
        let mut view = Self { form, like_for, ..Self::default() };
        for error in read.as_ref().err().into_iter().flatten() {
            let words = format!("{}.", sentence(&error.to_string()));
            match error {
                // Nothing typed yet is not yet wrong.
                MixError::Name if asked || !view.form.name.trim().is_empty() => view.name_slip = Some(words),
                MixError::HowMany(0) if !asked && view.form.recipe.trim().is_empty() => {}
                MixError::Name => {}
                _ => view.recipe_slips.push(words),
            }
        }
        // The salt is shown while the mix still waits for its name.
        let shown = read.as_ref().ok().cloned().or_else(|| read_mix("a mix", &view.form.recipe, &shelf.core_salts()).ok());
        if let Some(mix) = &shown {
            view.salt = trim(mix.salt_share() * 100.0, 1);
            view.whole = both_mass(mix.weight()).metric;
            view.made_for = mix.made_for.map(|m| both_mass(m).metric).unwrap_or_default();
            view.unknown = mix.unknown().join(", ");
            let line = |p: &rauchkeller_core::salt::MixPart| PartLine {
                name: p.name.clone(),
                g: trim(p.weight.in_g(), 1),
                salt: trim(p.salt.in_g(), 1),
                known: p.known,
            };
            view.parts = mix.parts.iter().map(line).collect();
        }
        (view, read.ok())
    }
}

/// The form, answering while it is filled.
pub async fn mix_page(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Query(form): Query<MixForm>,
) -> Result<Response, WebError> {
    let (view, _) = MixView::of(form, &Shelf::of(&state, &cook).await?, false);
    if partial.0 { render(&MixFragment { view }) } else { render(&MixPage { rail: Rail::at("kit", &cook), view }) }
}

/// Hangs the mix into the Kit.
pub async fn add_mix(State(state): State<AppState>, cook: SignedIn, Form(form): Form<MixForm>) -> Result<Response, WebError> {
    let (mut view, mix) = MixView::of(form, &Shelf::of(&state, &cook).await?, true);
    if let Some(mix) = mix {
        let parts: Vec<_> = mix.parts.iter().map(|p| json!({"name": p.name, "g": p.weight.in_g(), "salt_g": p.salt.in_g()})).collect();
        let row = KitMix {
            id: MixId(Uuid::nil()),
            name: mix.name.clone(),
            recipe: view.form.recipe.chars().take(4000).collect(),
            parts: json!(parts).to_string(),
            made_for_g: mix.made_for.map(MassIn::in_g),
            salt_g_per_100g: mix.salt_share() * 100.0,
            created_at: Timestamp::UNIX_EPOCH,
            deleted_at: None,
        };
        match cook.kitchen(&state).add_mix(&view.form.key, &row, state.now()).await? {
            Added::Created(_) | Added::AlreadyExists(_) => return Ok(Redirect::to(&back(&view.form.back)).into_response()),
            Added::NameTaken => {
                let words = "A mix of that name hangs in your Kit already. Choose another name, or take the old one out first.";
                view.name_slip = Some(words.into());
            }
            Added::Full => view.name_slip = Some("Your Kit holds a hundred mixes, the most it can. Take one out first.".into()),
        }
    }
    Ok((StatusCode::UNPROCESSABLE_ENTITY, render(&MixPage { rail: Rail::at("kit", &cook), view })?).into_response())
}
