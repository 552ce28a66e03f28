//! Trying again after a deadlock.

use crate::error::is_retryable;
use sea_orm::DbErr;
use std::future::Future;
use std::time::{Duration, Instant};
use uuid::Uuid;

/// So long others are given way to.
const BUDGET: Duration = Duration::from_secs(2);
/// The first pause, and the longest.
const PAUSES: (Duration, Duration) = (Duration::from_millis(2), Duration::from_millis(60));
/// So many tries everybody has, however slow the database is.
const AT_LEAST: u32 = 10;

/// Runs a whole transaction until it is through: a deadlock or lock wait, or on a cluster another node's change of the same
/// rows, rolls it back, so that repeating it is safe. Between tries there is a pause that grows, by chance longer or shorter, so
/// that two do not meet again; after two seconds, and ten tries at least, the conflict is given back. Nothing else is repeated; a connection lost at
/// COMMIT may have committed.
pub(crate) async fn retrying<T, F, Fut>(mut work: F) -> Result<T, DbErr>
where
    F: FnMut() -> Fut,
    Fut: Future<Output = Result<T, DbErr>>,
{
    let begun = Instant::now();
    let (mut pause, mut tries) = (PAUSES.0, 0);
    loop {
        match work().await {
            Err(error) if is_retryable(&error) && (tries < AT_LEAST || begun.elapsed() + pause < BUDGET) => {
                tries += 1;
                // The last bits of an id are as good as chance.
                let by_chance = (Uuid::new_v4().as_u128() % 1000) as u32;
                tokio::time::sleep(pause / 2 + pause * by_chance / 1000).await;
                pause = (pause * 2).min(PAUSES.1);
            }
            outcome => return outcome,
        }
    }
}
