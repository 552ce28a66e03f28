//! What grows is asked by page and by index; a piece's record is folded once; what changed is told to other servers.

use sea_orm_migration::prelude::*;

/// Folds, counters of changes, the sender's own moments, indices.
#[derive(DeriveMigrationName)]
pub struct Migration;

const UP: &[&str] = &[
    // What the sender's own clock said, where that is another moment: by it an event that is sent again is known.
    "ALTER TABLE events ADD COLUMN IF NOT EXISTS said_at DATETIME(6) NULL",
    // One word for all that teaches the refrigerator: the last of each kind, without looking at those before.
    "ALTER TABLE events ADD INDEX IF NOT EXISTS events_latest (household_id, kind, arrived)",
    "ALTER TABLE pieces ADD COLUMN IF NOT EXISTS events INT NOT NULL DEFAULT 0",
    "UPDATE pieces p JOIN (SELECT piece_id, COUNT(*) AS n FROM events GROUP BY piece_id) e ON e.piece_id = p.id
        SET p.events = e.n WHERE p.events = 0",
    // The dose beside the plan that says it: lessons need no plans read.
    "ALTER TABLE pieces ADD COLUMN IF NOT EXISTS dose_g_per_kg DOUBLE
        AS (CAST(JSON_VALUE(plan, '$.request.g_per_kg') AS DOUBLE)) PERSISTENT",
    "ALTER TABLE pieces ADD INDEX IF NOT EXISTS pieces_on_their_way (household_id, deleted_at, finished_at, serve_at)",
    "ALTER TABLE pieces ADD INDEX IF NOT EXISTS pieces_eaten (household_id, deleted_at, finished_at, name)",
    "ALTER TABLE pieces ADD INDEX IF NOT EXISTS pieces_of_a_cut (household_id, cut, deleted_at, finished_at)",
    // Stands for the first so many events of a piece, by the rules of that number; of any other it is not read.
    "CREATE TABLE IF NOT EXISTS piece_folds (
        piece_id BINARY(16) NOT NULL PRIMARY KEY,
        household_id BINARY(16) NOT NULL,
        rules INT NOT NULL,
        events INT NOT NULL,
        body LONGTEXT NOT NULL,
        KEY piece_folds_of (household_id),
        CONSTRAINT piece_folds_piece FOREIGN KEY (piece_id) REFERENCES pieces (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    // Counts what a server changed in a household; other servers ask which counters moved.
    "CREATE TABLE IF NOT EXISTS household_changes (
        household_id BINARY(16) NOT NULL,
        server_id BINARY(16) NOT NULL,
        changes BIGINT NOT NULL,
        changed_at DATETIME(6) NOT NULL,
        PRIMARY KEY (household_id, server_id),
        KEY household_changes_at (changed_at),
        CONSTRAINT household_changes_household FOREIGN KEY (household_id) REFERENCES households (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
];

const DOWN: &[&str] = &[
    "DROP TABLE IF EXISTS household_changes",
    "DROP TABLE IF EXISTS piece_folds",
    "ALTER TABLE pieces DROP INDEX IF EXISTS pieces_of_a_cut",
    "ALTER TABLE pieces DROP INDEX IF EXISTS pieces_eaten",
    "ALTER TABLE pieces DROP INDEX IF EXISTS pieces_on_their_way",
    "ALTER TABLE pieces DROP COLUMN IF EXISTS dose_g_per_kg",
    "ALTER TABLE pieces DROP COLUMN IF EXISTS events",
    "ALTER TABLE events DROP INDEX IF EXISTS events_latest",
    "ALTER TABLE events DROP COLUMN IF EXISTS said_at",
];

#[async_trait::async_trait]
impl MigrationTrait for Migration {
    async fn up(&self, manager: &SchemaManager) -> Result<(), DbErr> {
        for statement in UP {
            manager.get_connection().execute_unprepared(statement).await?;
        }
        Ok(())
    }

    async fn down(&self, manager: &SchemaManager) -> Result<(), DbErr> {
        for statement in DOWN {
            manager.get_connection().execute_unprepared(statement).await?;
        }
        Ok(())
    }
}
