//! A number of the Kit: as long as it stands, what hangs there need not be asked again.

use sea_orm_migration::prelude::*;

/// The number of a household's Kit.
#[derive(DeriveMigrationName)]
pub struct Migration;

#[async_trait::async_trait]
impl MigrationTrait for Migration {
    async fn up(&self, manager: &SchemaManager) -> Result<(), DbErr> {
        let sql = "ALTER TABLE households ADD COLUMN IF NOT EXISTS kit_version INT NOT NULL DEFAULT 0";
        manager.get_connection().execute_unprepared(sql).await?;
        Ok(())
    }

    async fn down(&self, manager: &SchemaManager) -> Result<(), DbErr> {
        manager.get_connection().execute_unprepared("ALTER TABLE households DROP COLUMN IF EXISTS kit_version").await?;
        Ok(())
    }
}
