//! Doors: browsers a cook is known from, ends of all other sessions, and the indexes that keep growth from being felt.

use sea_orm_migration::prelude::*;

/// What the doors keep.
#[derive(DeriveMigrationName)]
pub struct Migration;

const UP: &[&str] = &[
    // Raised when a cook ends all other sessions; sessions carry it in their hash.
    "ALTER TABLE cooks ADD COLUMN IF NOT EXISTS session_epoch INT NOT NULL DEFAULT 0",
    "CREATE TABLE IF NOT EXISTS known_browsers (
        token_hash CHAR(64) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL PRIMARY KEY,
        cook_id BINARY(16) NOT NULL,
        household_id BINARY(16) NOT NULL,
        seen_at DATETIME(6) NOT NULL,
        KEY known_browsers_cook (cook_id, seen_at),
        CONSTRAINT known_browsers_cook FOREIGN KEY (cook_id) REFERENCES cooks (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    // Tries are counted by what they come from, which is longer than an address.
    "ALTER TABLE sign_in_failures MODIFY who VARCHAR(255) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL",
    "CREATE INDEX IF NOT EXISTS sign_in_failures_at ON sign_in_failures (at)",
    "CREATE INDEX IF NOT EXISTS readings_received ON readings (received_at)",
    // A scale that was reset counts from 1 again: its readings are told apart by their moment.
    "CREATE INDEX IF NOT EXISTS readings_at ON readings (device_id, at)",
    "ALTER TABLE devices ADD COLUMN IF NOT EXISTS form_key VARCHAR(64) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NULL",
    "CREATE UNIQUE INDEX IF NOT EXISTS devices_form_key ON devices (household_id, form_key)",
    // The Cellar and the Book read what is alive and eaten or not, however much has been eaten.
    "CREATE INDEX IF NOT EXISTS pieces_standing ON pieces (household_id, deleted_at, finished_at, serve_at)",
    "CREATE INDEX IF NOT EXISTS pieces_of_cut ON pieces (household_id, cut, deleted_at, finished_at)",
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
        for statement in [
            "DROP TABLE IF EXISTS known_browsers",
            "ALTER TABLE cooks DROP COLUMN IF EXISTS session_epoch",
            "DROP INDEX IF EXISTS sign_in_failures_at ON sign_in_failures",
            "DROP INDEX IF EXISTS readings_received ON readings",
            "DROP INDEX IF EXISTS readings_at ON readings",
            "DROP INDEX IF EXISTS devices_form_key ON devices",
            "ALTER TABLE devices DROP COLUMN IF EXISTS form_key",
            "DROP INDEX IF EXISTS pieces_standing ON pieces",
            "DROP INDEX IF EXISTS pieces_of_cut ON pieces",
        ] {
            manager.get_connection().execute_unprepared(statement).await?;
        }
        Ok(())
    }
}
