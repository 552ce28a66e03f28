//! What hands do with a bowl: tare, weighed, again, used.

use super::{answer, read_grams, show};
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::live::Live;
use crate::piece::{Bowl, Opened, append, event, hands_fragment, note, open, tapped};
use crate::shell::Partial;
use crate::state::AppState;
use crate::words::trim;
use axum::extract::{Form, Path, Query, State};
use axum::response::Response;
use rauchkeller_core::run::{Event, What, live};
use rauchkeller_core::salt::is_far_more;
use rauchkeller_core::units::grams as mass;
use rauchkeller_store::Appended;
use serde::Deserialize;

fn bowl_of(opened: &Opened, id: &str) -> Result<Bowl, WebError> {
    opened.bowls().into_iter().find(|bowl| bowl.id == id).ok_or(WebError::NotFound)
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
    let opened = open(&state, &cook, &id).await?;
    let known = bowl_of(&opened, &bowl)?;
    note(&state, &cook, &opened, What::BowlTared { bowl: known.id, gross: mass(live.gross_g), scale: Some(live.device) }).await?;
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
    let opened = open(&state, &cook, &id).await?;
    let bowl = bowl_of(&opened, &which)?;
    let mut scale = None;
    let grams = if form.from == "scale" {
        // Said twice by two pages, or the scale moved on meanwhile: what was noted first stands.
        if bowl.weighed_g.is_some() {
            return answer(&state, &cook, partial, &id).await;
        }
        // A tare belongs to its scale: another one that speaks now shows something else.
        let live = Live::of_tare(&kitchen, state.now(), bowl.tare).await?;
        scale = live.as_ref().map(|live| live.device);
        live.zip(bowl.tare).map(|(live, (tare, _))| ((live.gross_g - tare) * 10.0).round() / 10.0).filter(|g| (0.0..=MOST_G).contains(g))
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
    let target = bowl.target_g;
    if is_far_more(mass(grams), mass(target)) && form.sure.is_empty() {
        let says = format!(
            "{} g for a bowl of {} g: is the bowl’s own weight in it? If so much salt really is in the bowl, press Weighed once more.",
            trim(grams, 1),
            trim(target, 1)
        );
        return show(&state, &cook, partial, &id, |view| view.bowl_asks(&which, &trim(grams, 1), &says)).await;
    }
    if let Some(theirs) = weigh(&state, &cook, &id, &which, grams, scale).await? {
        let says = format!(
            "Somebody noted {} g for this bowl meanwhile, and that stands. You said {} g: weigh it again if theirs is wrong.",
            trim(theirs, 1),
            trim(grams, 1)
        );
        return show(&state, &cook, partial, &id, |view| view.bowl_slip(&which, &trim(grams, 1), &says)).await;
    }
    answer(&state, &cook, partial, &id).await
}

/// Looks at a piece so many times until nobody else changes it meanwhile.
const LOOKS: usize = 12;

/// Notes what was weighed into a bowl that is not weighed yet; gives what another cook noted first, where it differs.
async fn weigh(state: &AppState, cook: &SignedIn, id: &str, which: &str, g: f64, scale: Option<u128>) -> Result<Option<f64>, WebError> {
    for _ in 0..LOOKS {
        let opened = open(state, cook, id).await?;
        if let Some(stands) = bowl_of(&opened, which)?.weighed_g {
            return Ok(Some(stands).filter(|stands| (stands - g).abs() > 1e-9));
        }
        let now = state.now();
        let weighed = event(now, now, What::BowlWeighed { bowl: which.to_owned(), grams: mass(g), scale });
        match cook.kitchen(state).append(opened.piece.id, &[weighed], Some(cook.0.id), Some(opened.piece.version)).await? {
            Appended::Changed => {}
            Appended::Full => return Err(WebError::Full),
            _ => return Ok(None),
        }
    }
    Err(WebError::Busy)
}

/// Weighs a bowl again.
pub async fn again(
    State(state): State<AppState>,
    cook: SignedIn,
    partial: Partial,
    Path((id, bowl)): Path<(String, String)>,
) -> Result<Response, WebError> {
    let opened = open(&state, &cook, &id).await?;
    let known = bowl_of(&opened, &bowl)?.id;
    let of = |e: &&&Event| match &e.what {
        What::BowlTared { bowl, .. } | What::BowlWeighed { bowl, .. } => *bowl == known,
        _ => false,
    };
    let events = cook.kitchen(&state).events(opened.piece.id).await?;
    let (now, counts) = (state.now(), live(&events));
    let voids: Vec<Event> = counts.iter().filter(of).map(|e| event(now, now, What::Voided(e.id))).collect();
    append(&state, &cook, opened.piece.id, &voids).await?;
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
    let opened = open(&state, &cook, &id).await?;
    let bowl = bowl_of(&opened, &which)?;
    if bowl.used_at.is_none() {
        let (at, now) = (tapped(state.now()), state.now());
        let purity = bowl.share;
        let grams = mass(bowl.weighed_g.unwrap_or(bowl.target_g));
        let mut events = vec![event(at, now, What::SaltOn { task: Some(bowl.task.clone()), bowl: Some(bowl.id.clone()), grams, purity })];
        // The last one of a salting ticks it.
        let left = opened.bowls().into_iter().any(|b| b.task == bowl.task && b.id != bowl.id && b.used_at.is_none());
        if !left && opened.record().task(&bowl.task).ended.is_none() {
            events.push(event(at, now, What::TaskEnded { task: bowl.task }));
        }
        append(&state, &cook, opened.piece.id, &events).await?;
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
    let opened = open(&state, &cook, &id).await?;
    let known = bowl_of(&opened, &bowl)?;
    let of = |e: &&&Event| match &e.what {
        What::SaltOn { task: Some(task), bowl: Some(bowl), .. } => *task == known.task && *bowl == known.id,
        What::TaskEnded { task } => *task == known.task,
        _ => false,
    };
    let events = cook.kitchen(&state).events(opened.piece.id).await?;
    let (now, counts) = (state.now(), live(&events));
    let voids: Vec<Event> = counts.iter().filter(of).map(|e| event(now, now, What::Voided(e.id))).collect();
    append(&state, &cook, opened.piece.id, &voids).await?;
    if partial.0 && from.from == "hands" {
        return hands_fragment(&state, &cook, &id, None).await;
    }
    answer(&state, &cook, partial, &id).await
}
