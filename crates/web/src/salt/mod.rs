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
use crate::piece::{MIX, Opened, open};
use crate::shell::{Partial, Rail, Station, render, which};
use crate::state::AppState;
use askama::Template;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Redirect, Response};
use rauchkeller_core::salt::{self, Weighed};
use rauchkeller_core::units::{MassIn, Share, grams};
use rauchkeller_store::Bowl;
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
    let pieces = cook.kitchen(&state).in_the_cellar().await?;
    let waiting: Vec<_> = pieces.iter().filter(|p| p.steps.iter().any(|s| s.kind == "salt" && s.done_at.is_none())).collect();
    which(&STATION, &cook, &cook.now(&state), &waiting)
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
    let text = typed.trim().to_lowercase();
    let (number, unit, rest) = rauchkeller_core::units::leading_amount(&text)?;
    let each = match (unit.as_str(), rest.is_empty()) {
        ("" | "g" | "gram" | "grams", true) => 1.0,
        ("kg", true) => 1000.0,
        ("oz", true) => 28.349_523_125,
        ("lb" | "lbs", true) => 453.592_37,
        _ => return None,
    };
    Some(number * each)
}

/// Sodium chloride that really went on, where bowls or the tub were weighed. `None` while nobody has weighed.
pub fn really_on(opened: &Opened) -> Option<f64> {
    let (plan, piece) = (&opened.plan, &opened.piece);
    let (mixed, loose): (Vec<&Bowl>, Vec<&Bowl>) = piece.bowls.iter().partition(|b| b.face.starts_with(MIX));
    // Bowls count once all of them are weighed; half of them is not known.
    let all = |bowls: &[&Bowl]| -> Option<f64> { if bowls.is_empty() { None } else { bowls.iter().map(|b| b.weighed_g).sum() } };
    let mix = plan.dose.mix.as_ref();
    let weighed = Weighed {
        loose: piece.by_eye.from_tub().or_else(|| all(&loose)).map(grams),
        mix: all(&mixed).map(grams),
        mix_left: piece.by_eye.mix_left_g.map(grams),
    };
    let (mix_g, share) = mix.map_or((0.0, 0.0), |mix| (mix.g, mix.salt_g_per_100g / 100.0));
    let on = salt::really_on(weighed, grams(plan.dose.to_weigh_g), Share(plan.request.salt_purity), grams(mix_g), Share(share));
    on.map(MassIn::in_g)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::testing::opened;
    use jiff::Timestamp;
    use rauchkeller_store::BowlId;
    use uuid::Uuid;

    #[test]
    fn grams_as_cooks_type_them() {
        assert_eq!((read_grams("12.5"), read_grams("12,5 g"), read_grams("1.2 kg")), (Some(12.5), Some(12.5), Some(1200.0)));
        assert!((read_grams("1 oz").unwrap() - 28.35).abs() < 0.01);
        assert_eq!((read_grams("-3 g"), read_grams("some"), read_grams("3 g of it")), (None, None, None));
    }

    #[test]
    fn what_was_weighed_counts_and_the_tub_beats_the_bowls() {
        let mut opened = opened(&[]);
        assert_eq!(really_on(&opened), None);
        let bowl = |g| Bowl {
            id: BowlId(Uuid::nil()),
            face: "meat".into(),
            name: "meat side".into(),
            target_g: 9.0,
            tare_g: None,
            weighed_g: g,
            used_at: None::<Timestamp>,
        };
        opened.piece.bowls = vec![bowl(Some(10.0)), bowl(None)];
        assert_eq!(really_on(&opened), None, "half weighed is not known");
        opened.piece.bowls = vec![bowl(Some(10.0)), bowl(Some(8.5))];
        assert_eq!(really_on(&opened), Some(18.5));
        opened.piece.by_eye.tub_before_g = Some(800.0);
        opened.piece.by_eye.tub_after_g = Some(769.0);
        assert_eq!(really_on(&opened), Some(31.0));
        // A mix of a third salt: 3 g too much in its bowl are 1 g of salt, 6 g back are 2.
        let mix = rauchkeller_contract::MixDoc { name: "rub".into(), salt_g_per_100g: 100.0 / 3.0, g: 30.0, salt_g: 10.0, parts: vec![] };
        opened.plan.dose.mix = Some(mix);
        opened.piece.bowls.push(Bowl { face: "mix-meat".into(), ..bowl(Some(33.0)) });
        opened.piece.by_eye.mix_left_g = Some(6.0);
        assert!((really_on(&opened).unwrap() - 30.0).abs() < 1e-9);
        (opened.plan.dose.mix, opened.piece.by_eye.mix_left_g) = (None, None);
        opened.piece.bowls.pop();
        opened.plan.request.salt_purity = 0.5;
        assert_eq!(really_on(&opened), Some(15.5));
    }
}
