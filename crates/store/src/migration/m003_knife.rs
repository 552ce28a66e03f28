//! Own tools, and how long the hands took with them.

use sea_orm_migration::prelude::*;

/// What the Knife station keeps.
#[derive(DeriveMigrationName)]
pub struct Migration;

const UP: &[&str] = &[
    "CREATE TABLE IF NOT EXISTS kit_tools (
        id BINARY(16) NOT NULL PRIMARY KEY,
        household_id BINARY(16) NOT NULL,
        form_key VARCHAR(64) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
        name VARCHAR(60) NOT NULL,
        reach_mm DOUBLE NOT NULL,
        stop VARCHAR(8) NOT NULL,
        pins INT NULL,
        created_at DATETIME(6) NOT NULL,
        deleted_at DATETIME(6) NULL,
        alive TINYINT AS (IF(deleted_at IS NULL, 1, NULL)) PERSISTENT,
        UNIQUE KEY kit_tools_form_key (household_id, form_key),
        UNIQUE KEY kit_tools_name (household_id, name, alive),
        CONSTRAINT kit_tools_household FOREIGN KEY (household_id) REFERENCES households (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    // One stretch of work a step of a piece; `held_since` is null while the hands move.
    "CREATE TABLE IF NOT EXISTS skin_runs (
        piece_id BINARY(16) NOT NULL,
        step_kind VARCHAR(24) NOT NULL,
        household_id BINARY(16) NOT NULL,
        tool_id VARCHAR(64) NOT NULL,
        amount DOUBLE NOT NULL,
        started_at DATETIME(6) NOT NULL,
        held_since DATETIME(6) NULL,
        held_s DOUBLE NOT NULL,
        back_s DOUBLE NOT NULL,
        stopped_at DATETIME(6) NULL,
        picks_out INT NULL,
        picks_in INT NULL,
        PRIMARY KEY (piece_id, step_kind),
        KEY skin_runs_tool (household_id, tool_id, stopped_at),
        CONSTRAINT skin_runs_piece FOREIGN KEY (piece_id) REFERENCES pieces (id)
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
        for table in ["skin_runs", "kit_tools"] {
            manager.get_connection().execute_unprepared(&format!("DROP TABLE IF EXISTS {table}")).await?;
        }
        Ok(())
    }
}
