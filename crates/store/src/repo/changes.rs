//! How another server knows that something changed: a counter of each household and server, raised as the last statement of
//! whatever changes something, and asked for once a second by each server, not by each page.

use super::{CookId, HouseholdId, Kitchen};
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

/// Something noted, as other cooks of the household are told of it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Told {
    /// Where it stands in the order of arrival.
    pub arrived: i64,
    /// Kind of the event.
    pub kind: String,
    /// What its piece is called.
    pub piece: String,
    /// Who noted it.
    pub cook: Option<CookId>,
    /// What they are called.
    pub name: Option<String>,
}

/// So many are told of at once, the latest.
const TOLD: u64 = 20;

impl Kitchen<'_> {
    /// Where the order of arrival stands now.
    pub async fn arrived(&self) -> Result<i64, StoreError> {
        let sql = "SELECT COALESCE(MAX(arrived), 0) AS arrived FROM events";
        let statement = Statement::from_string(self.store.db.get_database_backend(), sql);
        let row = self.store.db.query_one_raw(statement).await?;
        Ok(row.map(|row| row.try_get("", "arrived")).transpose()?.unwrap_or_default())
    }

    /// What was noted in this household after that, the latest last.
    pub async fn told_after(&self, arrived: i64) -> Result<Vec<Told>, StoreError> {
        let sql = "SELECT e.arrived AS arrived, e.kind AS kind, e.cook_id AS cook_id, c.name AS name, p.name AS piece \
            FROM events e JOIN pieces p ON p.id = e.piece_id LEFT JOIN cooks c ON c.id = e.cook_id \
            WHERE e.arrived > ? AND e.household_id = ? ORDER BY e.arrived DESC LIMIT ?";
        let values = [arrived.into(), self.household.0.into(), TOLD.into()];
        let statement = Statement::from_sql_and_values(self.store.db.get_database_backend(), sql, values);
        let rows = self.store.db.query_all_raw(statement).await?;
        let read = |row: &sea_orm::QueryResult| -> Result<Told, DbErr> {
            Ok(Told {
                arrived: row.try_get("", "arrived")?,
                kind: row.try_get("", "kind")?,
                piece: row.try_get("", "piece")?,
                cook: row.try_get::<Option<Uuid>>("", "cook_id")?.map(CookId),
                name: row.try_get("", "name")?,
            })
        };
        let read: Result<Vec<Told>, DbErr> = rows.iter().rev().map(read).collect();
        Ok(read?)
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
