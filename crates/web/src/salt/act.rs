//! What hands do with a bowl: tare, weighed, again, used.

use super::{answer, read_grams, show};
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::live::Live;
use crate::piece::{hands_fragment, open, piece_id};
use crate::shell::Partial;
use crate::state::AppState;
use crate::words::trim;
use axum::extract::{Form, Path, Query, State};
use axum::response::Response;
use rauchkeller_core::salt::is_far_more;
use rauchkeller_core::units::grams as mass;
use rauchkeller_store::BowlId;
use serde::Deserialize;
use uuid::Uuid;

fn bowl_id(id: &str) -> Result<BowlId, WebError> {
    Uuid::parse_str(id).map(BowlId).map_err(|_| WebError::NotFound)
}

/// The empty bowl stands on the scale: from here on the scale's number counts from it.
pub async fn tare(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path((id, bowl)): Path<(String, String)>,
) -> Result<Response, WebError> {
    let kitchen = cook.kitchen(&state);
    let Some(live) = Live::of(&kitchen, state.now()).await? else {
        return show(&state, &cook, partial, &id, |view| {
            view.bowl_slip(&bowl, "", "No scale is speaking. Switch it on, or type what yours shows and press Weighed.");
        })
        .await;
    };
    if !live.is_steady() {
        return show(&state, &cook, partial, &id, |view| {
            view.bowl_slip(&bowl, "", "The scale still moves. Press Tare once it stands.");
        })
        .await;
    }
    kitchen.tare_bowl(piece_id(&id)?, bowl_id(&bowl)?, live.gross_g).await?;
    answer(&state, &cook, partial, &id).await
}

/// Grams as typed, or nothing: then what the scale shows counts.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct Weighed {
    g: String,
    /// `scale` where the page saw the target held.
    from: String,
    /// Set where the cook says once more that so much is meant.
    sure: String,
}

/// The most one bowl of salt may hold, g.
const MOST_G: f64 = 5000.0;

/// Notes what is in a bowl.
pub async fn weighed(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path((id, which)): Path<(String, String)>,
    Form(form): Form<Weighed>,
) -> Result<Response, WebError> {
    let kitchen = cook.kitchen(&state);
    let (piece, bowl) = (piece_id(&id)?, bowl_id(&which)?);
    let grams = if form.from == "scale" {
        let opened = open(&state, &cook, &id).await?;
        let known = opened.piece.bowls.iter().find(|b| b.id == bowl).ok_or(WebError::NotFound)?;
        // Said twice by two pages, or the scale moved on meanwhile: what was noted first stands.
        if known.weighed_g.is_some() {
            return answer(&state, &cook, partial, &id).await;
        }
        let live = Live::of(&kitchen, state.now()).await?;
        live.zip(known.tare_g).map(|(live, tare)| ((live.gross_g - tare) * 10.0).round() / 10.0).filter(|g| (0.0..=MOST_G).contains(g))
    } else {
        read_grams(&form.g).filter(|g| (0.0..=MOST_G).contains(g))
    };
    let Some(grams) = grams else {
        let typed: String = form.g.trim().chars().take(40).collect();
        let says = if form.from == "scale" {
            "The scale fell silent. Type what it shows and press Weighed.".to_owned()
        } else {
            format!("“{typed}” is no weight for a bowl; write grams from 0 to 5000, like 9.9.")
        };
        return show(&state, &cook, partial, &id, |view| view.bowl_slip(&which, &typed, &says)).await;
    };
    let target = open(&state, &cook, &id).await?.piece.bowls.iter().find(|b| b.id == bowl).map_or(grams, |b| b.target_g);
    if is_far_more(mass(grams), mass(target)) && form.sure.is_empty() {
        let says = format!(
            "{} g for a bowl of {} g: is the bowl’s own weight in it? If so much salt really is in the bowl, press Weighed once more.",
            trim(grams, 1),
            trim(target, 1)
        );
        return show(&state, &cook, partial, &id, |view| view.bowl_asks(&which, &trim(grams, 1), &says)).await;
    }
    if let Some(theirs) = kitchen.weigh_bowl(piece, bowl, grams, state.now()).await? {
        let says = format!(
            "Somebody noted {} g for this bowl meanwhile, and that stands. You said {} g: weigh it again if theirs is wrong.",
            trim(theirs, 1),
            trim(grams, 1)
        );
        return show(&state, &cook, partial, &id, |view| view.bowl_slip(&which, &trim(grams, 1), &says)).await;
    }
    answer(&state, &cook, partial, &id).await
}

/// Weighs a bowl again.
pub async fn again(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path((id, bowl)): Path<(String, String)>,
) -> Result<Response, WebError> {
    cook.kitchen(&state).empty_bowl(piece_id(&id)?, bowl_id(&bowl)?).await?;
    answer(&state, &cook, partial, &id).await
}

/// Where a tick came from.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct From {
    from: String,
}

/// Ticks a bowl off as used. The last one of a piece ticks its salting.
pub async fn use_up(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path((id, which)): Path<(String, String)>,
    Query(from): Query<From>,
) -> Result<Response, WebError> {
    let kitchen = cook.kitchen(&state);
    let (piece, bowl) = (piece_id(&id)?, bowl_id(&which)?);
    kitchen.use_bowl(piece, bowl, Some(state.now())).await?;
    let opened = open(&state, &cook, &id).await?;
    let last = opened.piece.bowls.iter().all(|b| b.used_at.is_some());
    if let Some(step) = opened.piece.steps.iter().find(|s| s.kind == "salt" && s.done_at.is_none()).filter(|_| last) {
        kitchen.tick(piece, step.id, state.now()).await?;
    }
    if partial.0 && from.from == "hands" {
        return hands_fragment(&state, &cook, &id, Some(&which)).await;
    }
    answer(&state, &cook, partial, &id).await
}

/// Takes that back, and the tick of the salting with it.
pub async fn unuse(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path((id, bowl)): Path<(String, String)>,
    Query(from): Query<From>,
) -> Result<Response, WebError> {
    let kitchen = cook.kitchen(&state);
    let piece = piece_id(&id)?;
    kitchen.use_bowl(piece, bowl_id(&bowl)?, None).await?;
    let opened = open(&state, &cook, &id).await?;
    if let Some(step) = opened.piece.steps.iter().find(|s| s.kind == "salt" && s.done_at.is_some()) {
        kitchen.untick(piece, step.id).await?;
    }
    if partial.0 && from.from == "hands" {
        return hands_fragment(&state, &cook, &id, None).await;
    }
    answer(&state, &cook, partial, &id).await
}
