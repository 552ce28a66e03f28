//! Households, cooks, sessions, sign-in failures, pieces, steps, verdicts.

use sea_orm_migration::prelude::*;

/// First shape of the schema.
#[derive(DeriveMigrationName)]
pub struct Migration;

/// Statements in order. Keys and tokens are `utf8mb4_bin`: they compare byte by byte.
/// A plan and its request are kept verbatim as text, with the number of their shape.
const UP: &[&str] = &[
    "CREATE TABLE IF NOT EXISTS households (
        id BINARY(16) NOT NULL PRIMARY KEY,
        name VARCHAR(120) NOT NULL,
        time_zone VARCHAR(64) NOT NULL,
        created_at DATETIME(6) NOT NULL
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    "CREATE TABLE IF NOT EXISTS cooks (
        id BINARY(16) NOT NULL PRIMARY KEY,
        household_id BINARY(16) NOT NULL,
        address VARCHAR(190) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
        name VARCHAR(120) NOT NULL,
        password_hash VARCHAR(255) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
        created_at DATETIME(6) NOT NULL,
        UNIQUE KEY cooks_address (address),
        CONSTRAINT cooks_household FOREIGN KEY (household_id) REFERENCES households (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    "CREATE TABLE IF NOT EXISTS web_sessions (
        token_hash CHAR(64) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL PRIMARY KEY,
        data LONGTEXT NOT NULL,
        expires_at DATETIME(6) NOT NULL,
        KEY web_sessions_expiry (expires_at)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    "CREATE TABLE IF NOT EXISTS sign_in_failures (
        id BINARY(16) NOT NULL PRIMARY KEY,
        who VARCHAR(190) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
        at DATETIME(6) NOT NULL,
        KEY sign_in_failures_who (who, at)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    "CREATE TABLE IF NOT EXISTS pieces (
        id BINARY(16) NOT NULL PRIMARY KEY,
        household_id BINARY(16) NOT NULL,
        form_key VARCHAR(64) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
        name VARCHAR(120) NOT NULL,
        cut VARCHAR(40) NOT NULL,
        schema_no INT NOT NULL,
        request LONGTEXT NOT NULL,
        plan LONGTEXT NOT NULL,
        version INT NOT NULL,
        serve_at DATETIME(6) NOT NULL,
        created_at DATETIME(6) NOT NULL,
        finished_at DATETIME(6) NULL,
        deleted_at DATETIME(6) NULL,
        UNIQUE KEY pieces_form_key (household_id, form_key),
        KEY pieces_serve (household_id, serve_at),
        CONSTRAINT pieces_household FOREIGN KEY (household_id) REFERENCES households (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    "CREATE TABLE IF NOT EXISTS steps (
        id BINARY(16) NOT NULL PRIMARY KEY,
        household_id BINARY(16) NOT NULL,
        piece_id BINARY(16) NOT NULL,
        position INT NOT NULL,
        kind VARCHAR(24) NOT NULL,
        place VARCHAR(24) NOT NULL,
        planned_start DATETIME(6) NOT NULL,
        planned_end DATETIME(6) NOT NULL,
        done_at DATETIME(6) NULL,
        UNIQUE KEY steps_order (piece_id, position),
        KEY steps_household (household_id),
        CONSTRAINT steps_piece FOREIGN KEY (piece_id) REFERENCES pieces (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    "CREATE TABLE IF NOT EXISTS verdicts (
        piece_id BINARY(16) NOT NULL PRIMARY KEY,
        household_id BINARY(16) NOT NULL,
        bad_patches INT NULL,
        rim INT NOT NULL,
        middle INT NOT NULL,
        juice INT NOT NULL,
        advice VARCHAR(600) NOT NULL,
        version INT NOT NULL,
        given_at DATETIME(6) NOT NULL,
        KEY verdicts_household (household_id, given_at),
        CONSTRAINT verdicts_piece FOREIGN KEY (piece_id) REFERENCES pieces (id)
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
        for table in ["verdicts", "steps", "pieces", "sign_in_failures", "web_sessions", "cooks", "households"] {
            manager.get_connection().execute_unprepared(&format!("DROP TABLE IF EXISTS {table}")).await?;
        }
        Ok(())
    }
}
