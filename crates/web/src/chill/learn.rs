//! What the refrigerator learns: one drying coefficient from all its weighings, fitted anew whenever one changes.

use crate::auth::SignedIn;
use crate::compute::compute;
use crate::error::WebError;
use crate::piece::Opened;
use crate::state::AppState;
use jiff::ZonedDateTime;
use rauchkeller_core::run::{WeighedPiece, fit_refrigerator};
use rauchkeller_core::skin::drying::Air;
use rauchkeller_core::units::HeatTransfer;
use rauchkeller_store::{HouseholdId, Refrigerator};

/// Still air, before anything was weighed (TRADE 6.5).
pub const USUAL: HeatTransfer = HeatTransfer(5.0);

/// Fits the refrigerator to its latest pieces and keeps what comes of it.
///
/// Whoever keeps a fit looks once more afterwards: where another cook weighed meanwhile it is fitted anew, so that the last
/// fit kept has seen everything.
pub async fn learn(state: &AppState, cook: &SignedIn) -> Result<(), WebError> {
    learn_in(state, cook.0.household, &cook.now(state)).await
}

/// The same for a household.
pub async fn learn_in(state: &AppState, home: HouseholdId, now: &ZonedDateTime) -> Result<(), WebError> {
    for _ in 0..8 {
        let before = state.store.kitchen(home).taught().await?;
        learn_once(state, home, now.clone()).await?;
        if state.store.kitchen(home).taught().await? == before {
            break;
        }
    }
    Ok(())
}

async fn learn_once(state: &AppState, home: HouseholdId, now: ZonedDateTime) -> Result<(), WebError> {
    let kitchen = state.store.kitchen(home);
    let fridge = kitchen.refrigerator().await?;
    let stored = kitchen.weighed_pieces().await?;
    let read = move || {
        // A piece whose plan cannot be read teaches nothing, and keeps nobody from learning.
        let opened = stored.into_iter().filter_map(|piece| Opened::of(piece, fridge, None, &now).ok());
        let weighed = |opened: Opened| {
            let stand = opened.stand(&now);
            stand.cold.as_ref().map(|cold| cold.weighed_all(&stand.record))
        };
        opened.filter_map(weighed).collect()
    };
    let pieces: Vec<WeighedPiece> = compute(read).await?;
    let Some(planned) = pieces.first().map(|p| p.request.kitchen.fridge) else {
        if fridge.fit_h.is_none() && fridge.fit_points == 0 {
            return Ok(());
        }
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
