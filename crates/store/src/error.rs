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
    /// Others changed the same all the while, and the patience for trying again is over. Nothing was written.
    #[error("changed by others all the while")]
    Contended,
    /// The database has no room left. Nothing was written.
    #[error("the database has no room left")]
    NoRoom,
    /// The address is taken.
    #[error("this address already has an account")]
    AddressTaken,
    /// Anything else; logged, and shown as a plain failure.
    #[error("database: {0}")]
    Other(DbErr),
}

impl From<DbErr> for StoreError {
    fn from(error: DbErr) -> Self {
        match number_of(&error) {
            _ if is_away(&error) => Self::Away(error.to_string()),
            Some(number) if RETRYABLE.contains(&number) => Self::Contended,
            Some(number) if NO_ROOM.contains(&number) => Self::NoRoom,
            _ => Self::Other(error),
        }
    }
}

/// Whether the connection, not the statement, is at fault.
pub(crate) fn is_away(error: &DbErr) -> bool {
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
            ) || number_of(error).is_some_and(|number| GOING_DOWN.contains(&number) || SCHEMA_IS_COMING.contains(&number))
        }
        _ => false,
    }
}

/// Shutdown in progress, connection killed; on a cluster: the node has left it, or is being brought up to date.
const GOING_DOWN: [u16; 4] = [1053, 1927, 1047, 1290];
/// No such table, no such column: another server, or this one, is still bringing the schema up to date.
const SCHEMA_IS_COMING: [u16; 2] = [1146, 1054];
/// Deadlock, lock wait timeout; a cluster says of two nodes that changed the same row that it is a deadlock, too, or that the
/// transaction was changed under it.
const RETRYABLE: [u16; 3] = [1213, 1205, 1020];
/// Disk full, table full, error while writing, temporary file not written.
const NO_ROOM: [u16; 4] = [1021, 1114, 1026, 3];

/// MariaDB's own number of an error.
fn number_of(error: &DbErr) -> Option<u16> {
    let (DbErr::Exec(RuntimeErr::SqlxError(inner))
    | DbErr::Query(RuntimeErr::SqlxError(inner))
    | DbErr::Conn(RuntimeErr::SqlxError(inner))) = error
    else {
        return None;
    };
    let said = inner.as_database_error()?;
    said.try_downcast_ref::<sea_orm::sqlx::mysql::MySqlDatabaseError>().map(sea_orm::sqlx::mysql::MySqlDatabaseError::number)
}

/// Whether trying the whole transaction again is safe and useful.
pub(crate) fn is_retryable(error: &DbErr) -> bool {
    number_of(error).is_some_and(|number| RETRYABLE.contains(&number))
}
