//! The demo belly's rest: a tray, weighings and a touch check, as a refrigerator a little drier than usual would give them.

use crate::demo::DemoError;
use jiff::{SignedDuration, ZonedDateTime};
use rauchkeller_contract::read_request;
use rauchkeller_core::plan::{ActualSalt, with_course};
use rauchkeller_core::run::{WeighedPiece, What, fit_refrigerator};
use rauchkeller_core::skin::drying::{Touch, Weighing};
use rauchkeller_core::units::{HeatTransfer, Time, grams, hours};
use rauchkeller_store::{Added, HouseholdId, PieceId, Store, TrayId};
use rauchkeller_web::event;
use serde_json::Value;
use uuid::Uuid;

/// What the demo's refrigerator really does, W/m²K.
const TRUE_H: f64 = 6.6;
/// Its scale's errors at the weighings, g: made up.
const ERRORS: [f64; 3] = [0.4, -0.7, 0.5];
/// Tray and rack, g.
const TRAY_G: f64 = 640.0;

/// Weighs the belly in when it goes into the cold and twice since, feels it once, and lets the refrigerator learn.
pub async fn weigh_the_belly(
    store: &Store,
    home: HouseholdId,
    belly: PieceId,
    request: &Value,
    now: &ZonedDateTime,
) -> Result<(), DemoError> {
    let kitchen = store.kitchen(home);
    let piece = kitchen.piece(belly).await?;
    let Some(salted) = piece.record.task("salt").ended else { return Ok(()) };
    let request = read_request(request, now).map_err(|p| DemoError::Request(format!("{p:?}")))?;
    let so_far = now.timestamp().duration_since(salted).as_secs_f64() / 3600.0;
    let at: Vec<Time> = [0.15, so_far * 0.5, so_far - 0.4].into_iter().filter(|h| *h > 0.0).map(hours).collect();
    let really = ActualSalt::default();
    let air = request.kitchen.fridge;
    let lost = with_course(&request, &really, |course, _, _| course.through(hours(so_far)).1.lost(air, HeatTransfer(TRUE_H), &at));
    let lost = lost.map_err(|e| DemoError::Request(format!("{e:?}")))?;
    let Added::Created(tray) = kitchen.add_tray(&Uuid::now_v7().to_string(), "black tray", TRAY_G, now.timestamp()).await? else {
        return Ok(());
    };
    let mut weighings = Vec::new();
    for ((at, lost), error) in at.iter().zip(&lost).zip(ERRORS) {
        let gross = (2418.0 + TRAY_G - lost + error).round();
        weigh(store, home, belly, (tray, gross), salted + SignedDuration::from_secs_f64(rauchkeller_core::units::TimeIn::in_s(*at)))
            .await?;
        let (tare, fineness) = (grams(TRAY_G), grams(1.0));
        weighings.push(Weighing { at: *at, gross: grams(gross), tare, fineness, answer: None, open: false });
    }
    let felt = salted + SignedDuration::from_secs_f64(so_far * 0.5 * 3600.0);
    kitchen.append(belly, &[event(felt, felt, What::Felt(Touch::Tacky))], None, None).await?;
    let fit = fit_refrigerator(&[WeighedPiece { request, really, weighings }], air);
    Ok(kitchen.set_fit(Some((fit.h.0, fit.spread)), i32::try_from(fit.points).unwrap_or(0), now.timestamp()).await?)
}

async fn weigh(
    store: &Store,
    home: HouseholdId,
    piece: PieceId,
    (tray, gross_g): (TrayId, f64),
    at: jiff::Timestamp,
) -> Result<(), DemoError> {
    let (gross, tare, fineness) = (grams(gross_g), grams(TRAY_G), grams(1.0));
    let says = What::Weighed { gross, tare, fineness, tray: Some(tray.0.as_u128()), from_scale: false, doubt: None };
    store.kitchen(home).append(piece, &[event(at, at, says)], None, None).await?;
    Ok(())
}
