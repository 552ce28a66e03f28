//! The verdict: tapped on the drawn skin and slice, no text needed.

use super::{Opened, event, open};
use crate::auth::SignedIn;
use crate::error::WebError;
use crate::shell::{Rail, render};
use crate::state::AppState;
use crate::words::{JUICE, SALTINESS, on_scale};
use askama::Template;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Redirect, Response};
use axum_extra::extract::Form;
use jiff::ZonedDateTime;
use rauchkeller_core::piece::Cut;
use rauchkeller_core::run::{Event, Fact, Tasted, What};
use rauchkeller_core::verdict::{Run, next_time};
use rauchkeller_store::Appended;
use serde::Deserialize;
use uuid::Uuid;

/// One row of taps.
pub struct Scale {
    pub name: &'static str,
    pub question: &'static str,
    pub options: Vec<(i32, &'static str, bool)>,
}

/// The form of a verdict.
#[derive(Template)]
#[template(path = "piece/verdict.html")]
struct VerdictPage {
    rail: Rail,
    id: String,
    name: String,
    has_skin: bool,
    /// Whether its skin puffs under a fierce heat, or only gets crisp.
    crackles: bool,
    /// Whether it is a whole bird: its places have names of their own.
    bird: bool,
    fields: Vec<Field>,
    scales: Vec<Scale>,
    seen: String,
    conflict: Option<String>,
    wrong: Option<String>,
}

/// One of nine places of the skin.
struct Field {
    number: u32,
    bad: bool,
    name: &'static str,
}

/// The places of a slab, the far left one first, and of a bird that lies with its neck to the left.
const OF_A_SLAB: [&str; 9] =
    ["far left", "far side", "far right", "left end", "middle", "right end", "near left", "near side", "near right"];
const OF_A_BIRD: [&str; 9] = ["wing", "breast", "leg", "neck", "breastbone", "tail", "wing", "breast", "leg"];

/// What was tapped.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub struct VerdictForm {
    bad: Vec<u32>,
    rim: Option<i32>,
    middle: Option<i32>,
    juice: Option<i32>,
    /// The verdict the cook saw; empty for none.
    seen: String,
}

fn scale(name: &'static str, question: &'static str, words: [&'static str; 5], chosen: Option<i32>) -> Scale {
    Scale { name, question, options: words.into_iter().zip(-2..).map(|(word, value)| (value, word, chosen == Some(value))).collect() }
}

fn form_page(opened: &Opened, cook: &SignedIn, given: &VerdictForm, conflict: Option<String>, wrong: Option<String>) -> VerdictPage {
    let cut = Cut::find(&opened.piece.cut);
    let bird = cut.is_some_and(Cut::is_bird);
    VerdictPage {
        rail: Rail::at("book", cook),
        id: opened.piece.id.to_string(),
        name: opened.piece.name.clone(),
        has_skin: opened.plan.request.skin_mm > 0.0,
        crackles: cut.is_some_and(Cut::has_fat_window),
        bird,
        fields: (0..)
            .zip(if bird { OF_A_BIRD } else { OF_A_SLAB })
            .map(|(number, name)| Field { number, bad: given.bad.contains(&number), name })
            .collect(),
        scales: vec![
            scale("rim", "The outside", SALTINESS, given.rim),
            scale("middle", "The middle", SALTINESS, given.middle),
            scale("juice", "Juice", JUICE, given.juice),
        ],
        seen: given.seen.clone(),
        conflict,
        wrong,
    }
}

fn from_kept(kept: &Fact<Tasted>) -> VerdictForm {
    let says = &kept.says;
    let bits = says.bad_patches.unwrap_or(0);
    VerdictForm {
        bad: (0..9).filter(|i| bits & (1 << i) != 0).collect(),
        rim: Some(says.rim.into()),
        middle: Some(says.middle.into()),
        juice: Some(says.juice.into()),
        seen: Uuid::from_u128(kept.id.0).to_string(),
    }
}

/// Asks how it was; a verdict already given can be changed.
pub async fn verdict(State(state): State<AppState>, cook: SignedIn, Path(id): Path<String>) -> Result<Response, WebError> {
    let opened = open(&state, &cook, &id).await?;
    let given = opened.record().tasted.as_ref().map(from_kept).unwrap_or_default();
    render(&form_page(&opened, &cook, &given, None, None))
}

/// Keeps the verdict, with what to change next time.
pub async fn give_verdict(
    State(state): State<AppState>,
    cook: SignedIn,
    Path(id): Path<String>,
    Form(given): Form<VerdictForm>,
) -> Result<Response, WebError> {
    let opened = open(&state, &cook, &id).await?;
    let refuse = |wrong: &str| {
        let page = form_page(&opened, &cook, &given, None, Some(wrong.to_owned()));
        Ok((StatusCode::UNPROCESSABLE_ENTITY, render(&page)?).into_response())
    };
    let (Some(rim), Some(middle), Some(juice)) = (given.rim, given.middle, given.juice) else {
        return refuse("Tap one word in each row: outside, middle and juice. The skin may stay untouched.");
    };
    if [rim, middle, juice].iter().any(|v| !(-2..=2).contains(v)) || given.bad.iter().any(|i| *i > 8) {
        return refuse("Only the fields shown can be tapped.");
    }
    let has_skin = opened.plan.request.skin_mm > 0.0;
    let bits = given.bad.iter().fold(0i32, |bits, i| bits | (1 << i));
    let patches = has_skin.then(|| u16::try_from(bits).unwrap_or(0));
    let taste = |of: i32| i8::try_from(of).unwrap_or(0);
    let (rim, middle, juice) = (taste(rim), taste(middle), taste(juice));
    let mut opened = opened;
    for _ in 0..LOOKS {
        let stands = opened.record().tasted.clone();
        let same = |says: &Tasted| (says.bad_patches, says.rim, says.middle, says.juice) == (patches, rim, middle, juice);
        match &stands {
            Some(theirs) if Uuid::from_u128(theirs.id.0).to_string() != given.seen => {
                if same(&theirs.says) {
                    return Ok(Redirect::to("/book").into_response());
                }
                return conflict(&opened, &cook, given, theirs);
            }
            _ => {}
        }
        let tasted = rauchkeller_core::verdict::Verdict { bad_patches: patches, rim, middle, juice };
        let advice = next_time(tasted, run_of(&opened, &cook.now(&state)));
        let now = state.now();
        let mut events: Vec<Event> = stands.iter().map(|old| event(now, now, What::Voided(old.id))).collect();
        events.push(event(now, now, What::Tasted { bad_patches: patches, rim, middle, juice, advice }));
        match cook.kitchen(&state).append(opened.piece.id, &events, Some(cook.0.id), Some(opened.piece.version)).await? {
            // Somebody else noted something meanwhile: look again.
            Appended::Changed => opened = open(&state, &cook, &id).await?,
            Appended::Full => return Err(WebError::Full),
            _ => return Ok(Redirect::to("/book").into_response()),
        }
    }
    Err(WebError::Busy)
}

/// Looks at a piece so many times until nobody else changes it meanwhile.
const LOOKS: usize = 12;

/// Both verdicts, where somebody else's came first.
fn conflict(opened: &Opened, cook: &SignedIn, given: VerdictForm, theirs: &Fact<Tasted>) -> Result<Response, WebError> {
    let says = &theirs.says;
    let words = format!(
        "Somebody else has judged this piece meanwhile: outside {}, middle {}, juice {}. Yours is below; keep it again to put it in place of theirs.",
        on_scale(SALTINESS, says.rim.into()),
        on_scale(SALTINESS, says.middle.into()),
        on_scale(JUICE, says.juice.into())
    );
    let mine = VerdictForm { seen: Uuid::from_u128(theirs.id.0).to_string(), ..given };
    Ok((StatusCode::CONFLICT, render(&form_page(opened, cook, &mine, Some(words), None))?).into_response())
}

/// What the run itself recorded: the hours it really had, and the skin after them. What was never ticked
/// counts as planned.
pub fn run_of(opened: &Opened, now: &ZonedDateTime) -> Run {
    let fridge = &opened.plan.fridge;
    let stand = opened.stand(now);
    let salted = stand.on.as_ref().map(|on| on.since);
    let really = salted.zip(stand.left_cold).map(|(from, to)| to.duration_since(from).as_secs_f64() / 3600.0);
    let dryness = stand.state.as_ref().and_then(|state| state.dryness).map(|d| d.0);
    Run {
        skin_dryness: if really.is_some() { dryness } else { fridge.skin_dryness },
        hours: really.unwrap_or(fridge.planned_h),
        ideal_hours: fridge.ideal_h,
        recorded: really.is_some(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::testing::opened;

    #[test]
    fn advice_looks_at_the_run_and_not_at_the_plan() {
        let now = "2026-12-12T20:00[Europe/Vienna]".parse().unwrap();
        let planned = run_of(&opened(&[]), &now);
        let plan = opened(&[]).plan.fridge.clone();
        assert!(!planned.recorded && (planned.hours - plan.planned_h).abs() < 1e-9, "nothing ticked: as planned");
        // Salted at six in the morning and out at four in the afternoon: ten hours, whatever the plan said.
        let short = run_of(&opened(&[("salt", "2026-12-12T05:00:00Z"), ("temper", "2026-12-12T15:00:00Z")]), &now);
        assert!(short.recorded && (short.hours - 10.0).abs() < 1e-9);
        assert!(
            short.skin_dryness.unwrap() < planned.skin_dryness.unwrap() - 0.2,
            "{:?} against {:?}",
            short.skin_dryness,
            planned.skin_dryness
        );
    }
}
