//! Trying again after a deadlock.

use crate::error::is_retryable;
use sea_orm::DbErr;
use std::future::Future;
use std::time::{Duration, Instant};
use uuid::Uuid;

/// So long others are given way to.
const BUDGET: Duration = Duration::from_secs(2);
/// The first pause, and the longest.
const PAUSES: (Duration, Duration) = (Duration::from_millis(2), Duration::from_millis(120));

/// Runs a whole transaction until it is through: a deadlock or lock wait, or on a cluster another node's change of the same
/// rows, rolls it back, so that repeating it is safe. Between tries there is a pause that grows, by chance longer or shorter, so
/// that two do not meet again; after two seconds the conflict is given back. Nothing else is repeated; a connection lost at
/// COMMIT may have committed.
pub(crate) async fn retrying<T, F, Fut>(mut work: F) -> Result<T, DbErr>
where
    F: FnMut() -> Fut,
    Fut: Future<Output = Result<T, DbErr>>,
{
    let begun = Instant::now();
    let mut pause = PAUSES.0;
    loop {
        match work().await {
            Err(error) if is_retryable(&error) && begun.elapsed() + pause < BUDGET => {
                // The last bits of an id are as good as chance.
                let by_chance = (Uuid::new_v4().as_u128() % 1000) as u32;
                tokio::time::sleep(pause / 2 + pause * by_chance / 1000).await;
                pause = (pause * 2).min(PAUSES.1);
            }
            outcome => return outcome,
        }
    }
}
