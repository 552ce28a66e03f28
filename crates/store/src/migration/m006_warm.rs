//! Whiles that the refrigerator, or one piece in it, stood too warm.

use sea_orm_migration::prelude::*;

/// Warm spells.
#[derive(DeriveMigrationName)]
pub struct Migration;

const UP: &str = "CREATE TABLE IF NOT EXISTS warm_spells (
    id BINARY(16) NOT NULL PRIMARY KEY,
    household_id BINARY(16) NOT NULL,
    piece_id BINARY(16) NULL,
    form_key VARCHAR(64) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
    from_at DATETIME(6) NULL,
    to_at DATETIME(6) NULL,
    air_c DOUBLE NULL,
    noted_at DATETIME(6) NOT NULL,
    deleted_at DATETIME(6) NULL,
    UNIQUE KEY warm_spells_form (household_id, form_key),
    KEY warm_spells_of (household_id, deleted_at, noted_at),
    CONSTRAINT warm_spells_household FOREIGN KEY (household_id) REFERENCES households (id),
    CONSTRAINT warm_spells_piece FOREIGN KEY (piece_id) REFERENCES pieces (id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4";

#[async_trait::async_trait]
impl MigrationTrait for Migration {
    async fn up(&self, manager: &SchemaManager) -> Result<(), DbErr> {
        manager.get_connection().execute_unprepared(UP).await?;
        Ok(())
    }

    async fn down(&self, manager: &SchemaManager) -> Result<(), DbErr> {
        manager.get_connection().execute_unprepared("DROP TABLE IF EXISTS warm_spells").await?;
        Ok(())
    }
}
