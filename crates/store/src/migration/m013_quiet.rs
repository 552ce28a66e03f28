//! A household's quiet hours.

use sea_orm_migration::prelude::*;

/// Quiet hours.
#[derive(DeriveMigrationName)]
pub struct Migration;

#[async_trait::async_trait]
impl MigrationTrait for Migration {
    async fn up(&self, manager: &SchemaManager) -> Result<(), DbErr> {
        // `22:30-06:30`; nothing while nobody said.
        let sql = "ALTER TABLE households ADD COLUMN IF NOT EXISTS quiet VARCHAR(11) NULL";
        manager.get_connection().execute_unprepared(sql).await.map(drop)
    }

    async fn down(&self, manager: &SchemaManager) -> Result<(), DbErr> {
        manager.get_connection().execute_unprepared("ALTER TABLE households DROP COLUMN IF EXISTS quiet").await.map(drop)
    }
}
