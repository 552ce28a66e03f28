//! How far the dials of a household's appliances are off.

use sea_orm_migration::prelude::*;

/// Dials.
#[derive(DeriveMigrationName)]
pub struct Migration;

#[async_trait::async_trait]
impl MigrationTrait for Migration {
    async fn up(&self, manager: &SchemaManager) -> Result<(), DbErr> {
        // A table of its own: a server that is one version older goes on reading how hot appliances get.
        let table = "CREATE TABLE IF NOT EXISTS dials (
            household_id BINARY(16) NOT NULL,
            source VARCHAR(10) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
            off_k DOUBLE NOT NULL,
            changed_at DATETIME(6) NOT NULL,
            PRIMARY KEY (household_id, source),
            CONSTRAINT dials_household FOREIGN KEY (household_id) REFERENCES households (id)
        ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4";
        manager.get_connection().execute_unprepared(table).await.map(drop)
    }

    async fn down(&self, manager: &SchemaManager) -> Result<(), DbErr> {
        manager.get_connection().execute_unprepared("DROP TABLE IF EXISTS dials").await.map(drop)
    }
}
