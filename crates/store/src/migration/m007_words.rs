//! What a household says of itself, its invitations, names and notes of pieces, and scales that are paired by a code.

use sea_orm_migration::prelude::*;

/// Units, invitations, notes, pairings.
#[derive(DeriveMigrationName)]
pub struct Migration;

const UP: &[&str] = &[
    // `metric` or `us`; null until somebody said.
    "ALTER TABLE households ADD COLUMN IF NOT EXISTS units VARCHAR(8) NULL",
    "ALTER TABLE pieces ADD COLUMN IF NOT EXISTS note TEXT NULL",
    "CREATE TABLE IF NOT EXISTS invitations (
        id BINARY(16) NOT NULL PRIMARY KEY,
        household_id BINARY(16) NOT NULL,
        made_by BINARY(16) NOT NULL,
        token_hash CHAR(64) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
        made_at DATETIME(6) NOT NULL,
        until_at DATETIME(6) NOT NULL,
        used_at DATETIME(6) NULL,
        used_by BINARY(16) NULL,
        deleted_at DATETIME(6) NULL,
        UNIQUE KEY invitations_token (token_hash),
        KEY invitations_of (household_id, used_at, deleted_at),
        CONSTRAINT invitations_household FOREIGN KEY (household_id) REFERENCES households (id),
        CONSTRAINT invitations_cook FOREIGN KEY (made_by) REFERENCES cooks (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    // A device that asks to be paired: it holds the token, the kitchen types the code.
    "CREATE TABLE IF NOT EXISTS pairings (
        id BINARY(16) NOT NULL PRIMARY KEY,
        code CHAR(6) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
        token_hash CHAR(64) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
        name VARCHAR(60) NOT NULL,
        step_g DOUBLE NOT NULL,
        capacity_g DOUBLE NOT NULL,
        until_at DATETIME(6) NOT NULL,
        UNIQUE KEY pairings_code (code),
        UNIQUE KEY pairings_token (token_hash),
        KEY pairings_until (until_at)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
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
            "DROP TABLE IF EXISTS pairings",
            "DROP TABLE IF EXISTS invitations",
            "ALTER TABLE pieces DROP COLUMN IF EXISTS note",
            "ALTER TABLE households DROP COLUMN IF EXISTS units",
        ] {
            manager.get_connection().execute_unprepared(statement).await?;
        }
        Ok(())
    }
}
