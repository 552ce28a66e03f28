//! What the refrigerator learns: one drying coefficient from all its weighings, fitted anew whenever one changes.

use crate::auth::SignedIn;
use crate::compute::compute;
use crate::error::WebError;
use crate::piece::{InTheCold, Opened};
use crate::state::AppState;
use rauchkeller_core::plan::{WeighedPiece, fit_refrigerator};
use rauchkeller_core::skin::drying::Air;
use rauchkeller_core::units::HeatTransfer;
use rauchkeller_store::Refrigerator;

/// Still air, before anything was weighed (TRADE 6.5).
pub const USUAL: HeatTransfer = HeatTransfer(5.0);

/// Fits the refrigerator to its latest pieces and keeps what comes of it.
///
/// Whoever keeps a fit looks once more afterwards: where another cook weighed meanwhile it is fitted anew, so that the last
/// fit kept has seen everything.
pub async fn learn(state: &AppState, cook: &SignedIn) -> Result<(), WebError> {
    for _ in 0..8 {
        let before = cook.kitchen(state).taught().await?;
        learn_once(state, cook).await?;
        if cook.kitchen(state).taught().await? == before {
            break;
        }
    }
    Ok(())
}

async fn learn_once(state: &AppState, cook: &SignedIn) -> Result<(), WebError> {
    let kitchen = cook.kitchen(state);
    let fridge = kitchen.refrigerator().await?;
    let now = cook.now(state);
    let mut pieces: Vec<WeighedPiece> = Vec::new();
    for piece in kitchen.weighed_pieces().await? {
        // A piece whose plan cannot be read teaches nothing, and keeps nobody from learning.
        let Ok(opened) = Opened::of(piece, fridge) else { continue };
        if let Some(cold) = InTheCold::of(&opened, &now) {
            pieces.push(cold.weighed(&opened.piece.rest.weigh_ins));
        }
    }
    let Some(planned) = pieces.first().map(|p| p.request.kitchen.fridge) else {
        return Ok(kitchen.set_fit(None, 0, state.now()).await?);
    };
    // Four evaluations a round of all pieces: tens of milliseconds, off the threads that answer others.
    let air = unweighed(&fridge, planned);
    let fitted = Some(compute(move || fit_refrigerator(&pieces, air)).await?).filter(|fit| fit.points > 0);
    let points = fitted.map_or(0, |fit| i32::try_from(fit.points).unwrap_or(i32::MAX));
    Ok(kitchen.set_fit(fitted.map(|fit| (fit.h.0, fit.spread)), points, state.now()).await?)
}

/// The refrigerator's air with the usual coefficient: what is believed beforehand.
pub fn unweighed(fridge: &Refrigerator, planned: Air) -> Air {
    let as_known = crate::piece::air_of(&Refrigerator { fit_h: None, ..*fridge }, planned);
    Air { h: USUAL, ..as_known }
}
