//! Own salts and mixes, bowls, tubs, devices and their readings.

use sea_orm_migration::prelude::*;

/// What the Salt station keeps.
#[derive(DeriveMigrationName)]
pub struct Migration;

/// A name is its household's own while it is not taken out: `alive` is null for what was removed, and a unique key
/// does not count nulls.
const UP: &[&str] = &[
    "CREATE TABLE IF NOT EXISTS kit_salts (
        id BINARY(16) NOT NULL PRIMARY KEY,
        household_id BINARY(16) NOT NULL,
        form_key VARCHAR(64) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
        name VARCHAR(60) NOT NULL,
        g_per_tsp DOUBLE NOT NULL,
        spread_g DOUBLE NULL,
        uncertainty_g DOUBLE NULL,
        purity DOUBLE NOT NULL,
        potassium DOUBLE NOT NULL,
        pinch_g DOUBLE NULL,
        weighings VARCHAR(600) NOT NULL,
        created_at DATETIME(6) NOT NULL,
        deleted_at DATETIME(6) NULL,
        alive TINYINT AS (IF(deleted_at IS NULL, 1, NULL)) PERSISTENT,
        UNIQUE KEY kit_salts_form_key (household_id, form_key),
        UNIQUE KEY kit_salts_name (household_id, name, alive),
        CONSTRAINT kit_salts_household FOREIGN KEY (household_id) REFERENCES households (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    "CREATE TABLE IF NOT EXISTS kit_mixes (
        id BINARY(16) NOT NULL PRIMARY KEY,
        household_id BINARY(16) NOT NULL,
        form_key VARCHAR(64) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
        name VARCHAR(60) NOT NULL,
        recipe TEXT NOT NULL,
        parts TEXT NOT NULL,
        made_for_g DOUBLE NULL,
        salt_g_per_100g DOUBLE NOT NULL,
        created_at DATETIME(6) NOT NULL,
        deleted_at DATETIME(6) NULL,
        alive TINYINT AS (IF(deleted_at IS NULL, 1, NULL)) PERSISTENT,
        UNIQUE KEY kit_mixes_form_key (household_id, form_key),
        UNIQUE KEY kit_mixes_name (household_id, name, alive),
        CONSTRAINT kit_mixes_household FOREIGN KEY (household_id) REFERENCES households (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    "CREATE TABLE IF NOT EXISTS bowls (
        id BINARY(16) NOT NULL PRIMARY KEY,
        household_id BINARY(16) NOT NULL,
        piece_id BINARY(16) NOT NULL,
        position INT NOT NULL,
        face VARCHAR(24) NOT NULL,
        name VARCHAR(80) NOT NULL,
        target_g DOUBLE NOT NULL,
        tare_g DOUBLE NULL,
        weighed_g DOUBLE NULL,
        weighed_at DATETIME(6) NULL,
        used_at DATETIME(6) NULL,
        UNIQUE KEY bowls_order (piece_id, position),
        KEY bowls_household (household_id),
        CONSTRAINT bowls_piece FOREIGN KEY (piece_id) REFERENCES pieces (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    "CREATE TABLE IF NOT EXISTS by_eye (
        piece_id BINARY(16) NOT NULL PRIMARY KEY,
        household_id BINARY(16) NOT NULL,
        tub_before_g DOUBLE NULL,
        tub_after_g DOUBLE NULL,
        mix_left_g DOUBLE NULL,
        version INT NOT NULL,
        noted_at DATETIME(6) NOT NULL,
        KEY by_eye_household (household_id, noted_at),
        CONSTRAINT by_eye_piece FOREIGN KEY (piece_id) REFERENCES pieces (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    "CREATE TABLE IF NOT EXISTS devices (
        id BINARY(16) NOT NULL PRIMARY KEY,
        household_id BINARY(16) NOT NULL,
        kind VARCHAR(24) NOT NULL,
        name VARCHAR(60) NOT NULL,
        token_hash CHAR(64) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
        step_g DOUBLE NOT NULL,
        capacity_g DOUBLE NOT NULL,
        created_at DATETIME(6) NOT NULL,
        deleted_at DATETIME(6) NULL,
        UNIQUE KEY devices_token (token_hash),
        KEY devices_household (household_id),
        CONSTRAINT devices_household FOREIGN KEY (household_id) REFERENCES households (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    "CREATE TABLE IF NOT EXISTS readings (
        device_id BINARY(16) NOT NULL,
        seq BIGINT NOT NULL,
        household_id BINARY(16) NOT NULL,
        at DATETIME(6) NOT NULL,
        received_at DATETIME(6) NOT NULL,
        mass_g DOUBLE NOT NULL,
        PRIMARY KEY (device_id, seq),
        KEY readings_latest (household_id, received_at),
        CONSTRAINT readings_device FOREIGN KEY (device_id) REFERENCES devices (id)
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
        for table in ["readings", "devices", "by_eye", "bowls", "kit_mixes", "kit_salts"] {
            manager.get_connection().execute_unprepared(&format!("DROP TABLE IF EXISTS {table}")).await?;
        }
        Ok(())
    }
}
