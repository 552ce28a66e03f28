//! How another server knows that something changed: a counter of each household and server, raised as the last statement of
//! whatever changes something, and asked for once a second by each server, not by each page.

use super::{HouseholdId, Kitchen};
use crate::connect::Store;
use crate::error::StoreError;
use jiff::Timestamp;
use sea_orm::{ConnectionTrait, DbErr, Statement};
use uuid::Uuid;

/// One counter.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Changes {
    /// Whose.
    pub household: HouseholdId,
    /// By which server.
    pub server: Uuid,
    /// How many so far.
    pub changes: i64,
}

/// Counters moved within this span are looked at, s: far longer than any transaction takes from its last statement to its end.
const LOOK_BACK_S: u32 = 30;

impl Kitchen<'_> {
    /// Raises the household's counter, as the last statement of what changed something.
    pub(super) async fn tell(&self, on: &impl ConnectionTrait) -> Result<(), DbErr> {
        let sql = "INSERT INTO household_changes (household_id, server_id, changes, changed_at) VALUES (?, ?, 1, UTC_TIMESTAMP(6)) \
            ON DUPLICATE KEY UPDATE changes = changes + 1, changed_at = UTC_TIMESTAMP(6)";
        let values = [self.household.0.into(), self.store.server.into()];
        on.execute_raw(Statement::from_sql_and_values(on.get_database_backend(), sql, values)).await?;
        Ok(())
    }
}

impl Store {
    /// Counters that moved in the last half minute, of all servers.
    pub async fn changes(&self) -> Result<Vec<Changes>, StoreError> {
        let sql = "SELECT household_id, server_id, changes FROM household_changes WHERE changed_at >= UTC_TIMESTAMP(6) - INTERVAL ? SECOND";
        let statement = Statement::from_sql_and_values(self.db.get_database_backend(), sql, [LOOK_BACK_S.into()]);
        let rows = self.db.query_all_raw(statement).await?;
        let read = |row: &sea_orm::QueryResult| -> Result<Changes, DbErr> {
            Ok(Changes {
                household: HouseholdId(row.try_get("", "household_id")?),
                server: row.try_get("", "server_id")?,
                changes: row.try_get("", "changes")?,
            })
        };
        let read: Result<Vec<Changes>, DbErr> = rows.iter().map(read).collect();
        Ok(read?)
    }

    /// Drops counters that have not moved since a moment: of servers that are gone, mostly.
    pub async fn drop_changes_before(&self, moment: Timestamp) -> Result<u64, StoreError> {
        self.delete_some("DELETE FROM household_changes WHERE changed_at < ? LIMIT 1000", moment).await
    }
}
