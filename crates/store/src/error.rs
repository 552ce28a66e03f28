//! What can go wrong between the program and its database.

use sea_orm::{DbErr, RuntimeErr};

/// A database error, sorted by what the caller can do about it.
#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    /// The database does not answer. The page says so and recovers by itself.
    #[error("the database is away: {0}")]
    Away(String),
    /// No such thing in this household.
    #[error("not in this kitchen")]
    NotFound,
    /// Somebody else's edit came first.
    #[error("changed meanwhile by somebody else")]
    Conflict,
    /// The address is taken.
    #[error("this address already has an account")]
    AddressTaken,
    /// Anything else; logged, and shown as a plain failure.
    #[error("database: {0}")]
    Other(DbErr),
}

impl From<DbErr> for StoreError {
    fn from(error: DbErr) -> Self {
        if is_away(&error) { Self::Away(error.to_string()) } else { Self::Other(error) }
    }
}

/// Whether the connection, not the statement, is at fault.
fn is_away(error: &DbErr) -> bool {
    match error {
        DbErr::ConnectionAcquire(_) | DbErr::Conn(_) => true,
        DbErr::Exec(RuntimeErr::SqlxError(inner)) | DbErr::Query(RuntimeErr::SqlxError(inner)) => {
            matches!(
                &**inner,
                sea_orm::SqlxError::Io(_)
                    | sea_orm::SqlxError::PoolTimedOut
                    | sea_orm::SqlxError::PoolClosed
                    | sea_orm::SqlxError::WorkerCrashed
                    | sea_orm::SqlxError::Tls(_)
                    | sea_orm::SqlxError::Protocol(_)
            ) || shutting_down(&error.to_string())
                || schema_is_coming(&error.to_string())
        }
        _ => false,
    }
}

/// Server-side words of a database that is going down: 1053 shutdown in progress, 1927 connection killed.
fn shutting_down(text: &str) -> bool {
    text.contains("1053") || text.contains("1927") || text.contains("shutdown in progress") || text.contains("Connection was killed")
}

/// 1146, no such table: another server, or this one, is still bringing the schema up to date.
fn schema_is_coming(text: &str) -> bool {
    text.contains("1146 (42S02)")
}

/// Whether trying the whole transaction again is safe and useful: deadlock 1213, lock wait 1205.
pub(crate) fn is_retryable(error: &DbErr) -> bool {
    let text = error.to_string();
    text.contains("1213") || text.contains("1205") || text.contains("Deadlock found") || text.contains("Lock wait timeout")
}
