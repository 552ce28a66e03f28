//! Trying again after a deadlock.

use crate::error::is_retryable;
use sea_orm::DbErr;
use std::future::Future;

/// Runs a whole transaction up to three times: a deadlock or lock wait rolls it back, so that
/// repeating it is safe. Nothing else is repeated; a connection lost at COMMIT may have committed.
pub(crate) async fn retrying<T, F, Fut>(mut work: F) -> Result<T, DbErr>
where
    F: FnMut() -> Fut,
    Fut: Future<Output = Result<T, DbErr>>,
{
    let mut left = 2;
    loop {
        match work().await {
            Err(error) if left > 0 && is_retryable(&error) => left -= 1,
            outcome => return outcome,
        }
    }
}
