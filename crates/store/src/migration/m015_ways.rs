//! Ways of a household's own: copies of methods, with every version that was kept.

use sea_orm_migration::prelude::*;

/// Own ways.
#[derive(DeriveMigrationName)]
pub struct Migration;

/// An id belongs to its way for good: kept pieces are called by it after the way was taken out.
const TABLES: [&str; 2] = [
    "CREATE TABLE IF NOT EXISTS kit_ways (
        id BINARY(16) NOT NULL PRIMARY KEY,
        household_id BINARY(16) NOT NULL,
        form_key VARCHAR(64) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
        name VARCHAR(60) NOT NULL,
        way VARCHAR(60) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
        version INT NOT NULL,
        document LONGTEXT NOT NULL,
        created_at DATETIME(6) NOT NULL,
        deleted_at DATETIME(6) NULL,
        alive TINYINT AS (IF(deleted_at IS NULL, 1, NULL)) PERSISTENT,
        UNIQUE KEY kit_ways_form_key (household_id, form_key),
        UNIQUE KEY kit_ways_name (household_id, name, alive),
        UNIQUE KEY kit_ways_way (household_id, way),
        CONSTRAINT kit_ways_household FOREIGN KEY (household_id) REFERENCES households (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    "CREATE TABLE IF NOT EXISTS kit_way_versions (
        way_id BINARY(16) NOT NULL,
        version INT NOT NULL,
        household_id BINARY(16) NOT NULL,
        name VARCHAR(60) NOT NULL,
        document LONGTEXT NOT NULL,
        cook_id BINARY(16) NULL,
        kept_at DATETIME(6) NOT NULL,
        PRIMARY KEY (way_id, version),
        CONSTRAINT kit_way_versions_way FOREIGN KEY (way_id) REFERENCES kit_ways (id),
        CONSTRAINT kit_way_versions_household FOREIGN KEY (household_id) REFERENCES households (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
];

#[async_trait::async_trait]
impl MigrationTrait for Migration {
    async fn up(&self, manager: &SchemaManager) -> Result<(), DbErr> {
        for table in TABLES {
            manager.get_connection().execute_unprepared(table).await?;
        }
        Ok(())
    }

    async fn down(&self, manager: &SchemaManager) -> Result<(), DbErr> {
        for table in ["kit_way_versions", "kit_ways"] {
            manager.get_connection().execute_unprepared(&format!("DROP TABLE IF EXISTS {table}")).await?;
        }
        Ok(())
    }
}
