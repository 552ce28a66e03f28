//! The refrigerator rest: its air, trays, weigh-ins, touch checks, and salt laid on or brushed off midway.

use sea_orm_migration::prelude::*;

/// What the rest keeps.
#[derive(DeriveMigrationName)]
pub struct Migration;

const UP: &[&str] = &[
    // One a household; `rh` is null where nobody knows the humidity, `fit_h` until something was weighed.
    "CREATE TABLE IF NOT EXISTS refrigerators (
        household_id BINARY(16) NOT NULL PRIMARY KEY,
        air_c DOUBLE NOT NULL,
        rh DOUBLE NULL,
        fit_h DOUBLE NULL,
        fit_spread DOUBLE NULL,
        fit_points INT NOT NULL,
        version INT NOT NULL,
        changed_at DATETIME(6) NOT NULL,
        CONSTRAINT refrigerators_household FOREIGN KEY (household_id) REFERENCES households (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    "CREATE TABLE IF NOT EXISTS kit_trays (
        id BINARY(16) NOT NULL PRIMARY KEY,
        household_id BINARY(16) NOT NULL,
        form_key VARCHAR(64) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
        name VARCHAR(60) NOT NULL,
        empty_g DOUBLE NOT NULL,
        created_at DATETIME(6) NOT NULL,
        deleted_at DATETIME(6) NULL,
        alive TINYINT AS (IF(deleted_at IS NULL, 1, NULL)) PERSISTENT,
        UNIQUE KEY kit_trays_form_key (household_id, form_key),
        UNIQUE KEY kit_trays_name (household_id, name, alive),
        CONSTRAINT kit_trays_household FOREIGN KEY (household_id) REFERENCES households (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    // The tray's weight is kept as it was known then. `doubt` says what was asked, `answer` what was answered.
    "CREATE TABLE IF NOT EXISTS weigh_ins (
        id BINARY(16) NOT NULL PRIMARY KEY,
        household_id BINARY(16) NOT NULL,
        piece_id BINARY(16) NOT NULL,
        form_key VARCHAR(64) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
        tray_id BINARY(16) NULL,
        tare_g DOUBLE NOT NULL,
        gross_g DOUBLE NOT NULL,
        fineness_g DOUBLE NOT NULL,
        from_scale TINYINT(1) NOT NULL,
        at DATETIME(6) NOT NULL,
        doubt VARCHAR(24) NULL,
        off_g DOUBLE NULL,
        answer VARCHAR(24) NULL,
        deleted_at DATETIME(6) NULL,
        UNIQUE KEY weigh_ins_form_key (household_id, form_key),
        KEY weigh_ins_at (household_id, piece_id, at),
        CONSTRAINT weigh_ins_piece FOREIGN KEY (piece_id) REFERENCES pieces (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    "CREATE TABLE IF NOT EXISTS touch_checks (
        id BINARY(16) NOT NULL PRIMARY KEY,
        household_id BINARY(16) NOT NULL,
        piece_id BINARY(16) NOT NULL,
        form_key VARCHAR(64) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
        feel VARCHAR(12) NOT NULL,
        at DATETIME(6) NOT NULL,
        deleted_at DATETIME(6) NULL,
        UNIQUE KEY touch_checks_form_key (household_id, form_key),
        KEY touch_checks_at (household_id, piece_id, at),
        CONSTRAINT touch_checks_piece FOREIGN KEY (piece_id) REFERENCES pieces (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    // Sodium chloride laid on after the first salting; negative came off.
    "CREATE TABLE IF NOT EXISTS salt_changes (
        id BINARY(16) NOT NULL PRIMARY KEY,
        household_id BINARY(16) NOT NULL,
        piece_id BINARY(16) NOT NULL,
        form_key VARCHAR(64) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
        by_g DOUBLE NOT NULL,
        at DATETIME(6) NOT NULL,
        deleted_at DATETIME(6) NULL,
        UNIQUE KEY salt_changes_form_key (household_id, form_key),
        KEY salt_changes_at (household_id, piece_id, at),
        CONSTRAINT salt_changes_piece FOREIGN KEY (piece_id) REFERENCES pieces (id)
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
        for table in ["salt_changes", "touch_checks", "weigh_ins", "kit_trays", "refrigerators"] {
            manager.get_connection().execute_unprepared(&format!("DROP TABLE IF EXISTS {table}")).await?;
        }
        Ok(())
    }
}
