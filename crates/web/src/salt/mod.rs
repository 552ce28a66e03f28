//! The Salt station of a piece: bowls weighed before hands are raw, where the grams go, and what was done by eye.

mod act;
mod by_eye;
mod view;
mod weigh;

pub use act::{again, tare, unuse, use_up, weighed};
pub use by_eye::note;
pub use weigh::scale;

use crate::auth::SignedIn;
use crate::error::WebError;
use crate::piece::{InSight, open, open_in_sight};
use crate::shell::{Partial, Rail, Station, render, which};
use crate::state::AppState;
use askama::Template;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Redirect, Response};
use rauchkeller_core::units::{grams_a_unit, leading_amount};
use view::SaltView;
pub use view::remainder;

#[derive(Template)]
#[template(path = "salt/page.html")]
struct SaltPage {
    rail: Rail,
    view: SaltView,
}

#[derive(Template)]
#[template(path = "salt/station.html")]
struct SaltStation {
    view: SaltView,
}

const STATION: Station = Station {
    hook: "salt",
    page: "salt",
    which: "Salt for which piece?",
    none: "Nothing waits for salt",
    says: "A piece comes here once it is planned: its bowls are weighed before hands are raw.",
};

/// The station without a piece: the one that waits for salt, or which of several.
pub async fn next(State(state): State<AppState>, cook: SignedIn) -> Result<Response, WebError> {
    let InSight { pieces, more, .. } = open_in_sight(&state, &cook).await?;
    let waiting: Vec<_> = pieces.iter().filter(|p| p.waits_for_salt()).map(|p| &p.piece).collect();
    which(&STATION, &cook, &cook.now(&state), &waiting, more)
}

/// The station of one piece.
pub async fn page(State(state): State<AppState>, cook: SignedIn, partial: Partial, Path(id): Path<String>) -> Result<Response, WebError> {
    show(&state, &cook, partial, &id, |_| {}).await
}

/// Shows the station; `mark` writes what was refused, with what was typed, into the view.
async fn show(
    state: &AppState,
    cook: &SignedIn,
    partial: Partial,
    id: &str,
    mark: impl FnOnce(&mut SaltView),
) -> Result<Response, WebError> {
    let opened = open(state, cook, id).await?;
    let mut view = SaltView::of(&opened, state, cook).await?;
    mark(&mut view);
    let refused = view.is_refused();
    let page = if partial.0 { render(&SaltStation { view })? } else { render(&SaltPage { rail: Rail::at("salt", cook), view })? };
    Ok(if refused { (StatusCode::UNPROCESSABLE_ENTITY, page).into_response() } else { page })
}

/// After a change: the station again for htmx, else back to its page.
async fn answer(state: &AppState, cook: &SignedIn, partial: Partial, id: &str) -> Result<Response, WebError> {
    if partial.0 { show(state, cook, partial, id, |_| {}).await } else { Ok(Redirect::to(&format!("/pieces/{id}/salt")).into_response()) }
}

/// Grams as a cook types them: bare numbers are grams, and `oz`, `lb` and `kg` are read too.
pub fn read_grams(typed: &str) -> Option<f64> {
    let (mut sum, mut rest, mut first) = (0.0, typed.trim().to_lowercase(), true);
    loop {
        let (number, unit, left) = leading_amount(&rest)?;
        // “6 lb 11 oz” is a sum; a bare number is grams, and stands alone.
        sum += number * if unit.is_empty() && first && left.trim().is_empty() { 1.0 } else { grams_a_unit(&unit)? };
        if left.trim().is_empty() {
            return Some(sum);
        }
        (rest, first) = (left.trim().to_owned(), false);
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn grams_as_cooks_type_them() {
        assert_eq!((read_grams("12.5"), read_grams("12,5 g"), read_grams("1.2 kg")), (Some(12.5), Some(12.5), Some(1200.0)));
        assert!((read_grams("1 oz").unwrap() - 28.35).abs() < 0.01);
        // By hand: 6 × 453.592 + 11 × 28.3495 = 3033.4.
        assert!((read_grams("6 lb 11 oz").unwrap() - 3033.4).abs() < 0.05 && (read_grams("3041").unwrap() - 3041.0).abs() < 1e-9);
        assert_eq!((read_grams("6 lb 11"), read_grams("6 11 oz")), (None, None));
        assert_eq!((read_grams("-3 g"), read_grams("some"), read_grams("3 g of it")), (None, None, None));
    }
}
