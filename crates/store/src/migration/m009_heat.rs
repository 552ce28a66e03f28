//! How hot a household's own appliances get.

use sea_orm_migration::prelude::*;

/// Appliances.
#[derive(DeriveMigrationName)]
pub struct Migration;

#[async_trait::async_trait]
impl MigrationTrait for Migration {
    async fn up(&self, manager: &SchemaManager) -> Result<(), DbErr> {
        // One of a kind: its name is the contract's, like `oven`.
        let table = "CREATE TABLE IF NOT EXISTS appliances (
            household_id BINARY(16) NOT NULL,
            source VARCHAR(10) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
            max_c DOUBLE NOT NULL,
            changed_at DATETIME(6) NOT NULL,
            PRIMARY KEY (household_id, source),
            CONSTRAINT appliances_household FOREIGN KEY (household_id) REFERENCES households (id)
        ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4";
        manager.get_connection().execute_unprepared(table).await.map(drop)
    }

    async fn down(&self, manager: &SchemaManager) -> Result<(), DbErr> {
        manager.get_connection().execute_unprepared("DROP TABLE IF EXISTS appliances").await.map(drop)
    }
}
