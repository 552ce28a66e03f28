//! One run of a piece: what happened becomes events, plans get versions, and the seven tables it lay in are emptied into them.
//!
//! Every statement can be repeated: a server that was killed half-way starts again where it stopped. Event ids come from the rows
//! they were, so that none is there twice.

use sea_orm_migration::prelude::*;

/// Events and versions of plans.
#[derive(DeriveMigrationName)]
pub struct Migration;

const TABLES: &[&str] = &[
    "CREATE TABLE IF NOT EXISTS events (
        household_id BINARY(16) NOT NULL,
        id BINARY(16) NOT NULL,
        arrived BIGINT NOT NULL AUTO_INCREMENT,
        piece_id BINARY(16) NOT NULL,
        kind VARCHAR(24) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
        at DATETIME(6) NOT NULL,
        noted_at DATETIME(6) NOT NULL,
        cook_id BINARY(16) NULL,
        body TEXT NOT NULL,
        live TINYINT(1) NOT NULL,
        PRIMARY KEY (household_id, id),
        UNIQUE KEY events_arrived (arrived),
        KEY events_of (piece_id),
        KEY events_kind (household_id, kind, live, at),
        CONSTRAINT events_piece FOREIGN KEY (piece_id) REFERENCES pieces (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    "CREATE TABLE IF NOT EXISTS plan_versions (
        piece_id BINARY(16) NOT NULL,
        version INT NOT NULL,
        household_id BINARY(16) NOT NULL,
        schema_no INT NOT NULL,
        rules INT NOT NULL,
        request LONGTEXT NOT NULL,
        plan LONGTEXT NOT NULL,
        serve_at DATETIME(6) NOT NULL,
        made_at DATETIME(6) NOT NULL,
        PRIMARY KEY (piece_id, version),
        KEY plan_versions_of (household_id),
        CONSTRAINT plan_versions_piece FOREIGN KEY (piece_id) REFERENCES pieces (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    "ALTER TABLE pieces ADD COLUMN IF NOT EXISTS plan_version INT NOT NULL DEFAULT 1",
    // Plans of before rules had numbers are of rules 0.
    "ALTER TABLE pieces ADD COLUMN IF NOT EXISTS rules INT NOT NULL DEFAULT 0",
    "ALTER TABLE pieces ADD COLUMN IF NOT EXISTS last_task VARCHAR(60) NULL",
    "INSERT IGNORE INTO plan_versions (piece_id, version, household_id, schema_no, rules, request, plan, serve_at, made_at)
        SELECT id, 1, household_id, schema_no, 0, request, plan, serve_at, created_at FROM pieces WHERE plan_version = 1 AND rules = 0",
];

/// An id beside another: its last byte changed, so that one row can become several events.
fn beside(id: &str, n: u8) -> String {
    format!("UNHEX(CONCAT(LEFT(HEX({id}), 30), LPAD(HEX(CONV(RIGHT(HEX({id}), 2), 16, 10) ^ {n}), 2, '0')))")
}

const INTO: &str = "INSERT IGNORE INTO events (household_id, id, piece_id, kind, at, noted_at, body, live)";

/// What each old table becomes, one statement after the other.
#[expect(clippy::too_many_lines, reason = "one list of statements, read from top to bottom")]
fn moves() -> Vec<(&'static str, Vec<String>)> {
    let taken_back = |table: &str, n: u8| {
        let void = beside("id", n);
        format!(
            "{INTO} SELECT household_id, {void}, piece_id, 'voided', deleted_at, deleted_at, JSON_OBJECT('event', LOWER(HEX(id))), 1
             FROM {table} WHERE deleted_at IS NOT NULL"
        )
    };
    let bowls = |n: u8, kind: &str, at: &str, body: &str, only: &str| {
        format!(
            "{INTO} SELECT b.household_id, {}, b.piece_id, '{kind}', {at}, {at}, {body}, 1
             FROM bowls b JOIN pieces p ON p.id = b.piece_id WHERE {only}",
            beside("b.id", n)
        )
    };
    let weighed_at = "COALESCE(b.weighed_at, b.used_at, p.created_at)";
    // Each kind of knife work has four numbers of its own beside the piece's.
    let number = "(CASE r.step_kind WHEN 'score' THEN 16 WHEN 'pierce' THEN 32 ELSE 48 END)";
    let run_id = |n: u8| {
        format!("UNHEX(CONCAT(LEFT(HEX(r.piece_id), 30), LPAD(HEX(CONV(RIGHT(HEX(r.piece_id), 2), 16, 10) ^ ({number} + {n})), 2, '0')))")
    };
    let hands = |n: u8, at: &str, body: &str, only: &str| {
        format!("{INTO} SELECT r.household_id, {}, r.piece_id, 'knife-run', {at}, {at}, {body}, 1 FROM skin_runs r WHERE {only}", run_id(n))
    };
    let hand = |name: &str| format!("JSON_OBJECT('task', r.step_kind, 'hand', '{name}')");
    let missing = "COALESCE(r.picks_out - r.picks_in, 0)";
    let late = "COALESCE(r.stopped_at, r.held_since, r.started_at)";
    vec![
        (
            "steps",
            vec![
                format!(
                    "{INTO} SELECT household_id, id, piece_id, IF(kind IN ('chill', 'temper', 'roast', 'rest'), 'task-began', 'task-ended'),
                     done_at, done_at, JSON_OBJECT('task', kind), 1 FROM steps WHERE done_at IS NOT NULL"
                ),
                "UPDATE pieces p SET p.last_task = (SELECT s.kind FROM steps s WHERE s.piece_id = p.id ORDER BY s.position DESC LIMIT 1)
                 WHERE p.last_task IS NULL"
                    .into(),
            ],
        ),
        (
            "bowls",
            vec![
                bowls(1, "bowl-tared", weighed_at, "JSON_OBJECT('bowl', b.face, 'gross_g', b.tare_g)", "b.tare_g IS NOT NULL"),
                bowls(2, "bowl-weighed", weighed_at, "JSON_OBJECT('bowl', b.face, 'g', b.weighed_g)", "b.weighed_g IS NOT NULL"),
                bowls(
                    3,
                    "salt-on",
                    "b.used_at",
                    "JSON_OBJECT('task', 'salt', 'bowl', b.face, 'g', COALESCE(b.weighed_g, b.target_g))",
                    "b.used_at IS NOT NULL",
                ),
            ],
        ),
        (
            "by_eye",
            vec![format!(
                "{INTO} SELECT household_id, {}, piece_id, 'tub-weighed', noted_at, noted_at,
                 JSON_OBJECT('before_g', tub_before_g, 'after_g', tub_after_g, 'mix_left_g', mix_left_g), 1 FROM by_eye",
                beside("piece_id", 7)
            )],
        ),
        (
            "weigh_ins",
            vec![
                format!(
                    "{INTO} SELECT household_id, id, piece_id, 'weighed', at, at, JSON_MERGE_PATCH(JSON_OBJECT('gross_g', gross_g, 'tare_g',
                     tare_g, 'fineness_g', fineness_g, 'tray', LOWER(HEX(tray_id)), 'doubt', doubt, 'off_g', off_g),
                     IF(from_scale, '{{\"from_scale\": true}}', '{{}}')), deleted_at IS NULL FROM weigh_ins"
                ),
                format!(
                    "{INTO} SELECT household_id, {}, piece_id, 'answered', at, at, JSON_OBJECT('question', LOWER(HEX(id)), 'how', answer), 1
                     FROM weigh_ins WHERE answer IS NOT NULL",
                    beside("id", 1)
                ),
                taken_back("weigh_ins", 2),
            ],
        ),
        (
            "touch_checks",
            vec![
                format!(
                    "{INTO} SELECT household_id, id, piece_id, 'felt', at, at, JSON_OBJECT('feel', feel), deleted_at IS NULL FROM touch_checks"
                ),
                taken_back("touch_checks", 2),
            ],
        ),
        (
            // Differences stay differences.
            "salt_changes",
            vec![
                format!(
                    "{INTO} SELECT household_id, id, piece_id, IF(by_g < 0, 'salt-off', 'salt-on'), at, at,
                     JSON_OBJECT('g', ABS(by_g), 'purity', 1), deleted_at IS NULL FROM salt_changes"
                ),
                taken_back("salt_changes", 2),
            ],
        ),
        (
            "skin_runs",
            vec![
                hands(
                    0,
                    "r.started_at",
                    "JSON_OBJECT('task', r.step_kind, 'hand', 'begin', 'tool', r.tool_id, 'amount', r.amount, 'picks', r.picks_out)",
                    "1 = 1",
                ),
                // All pauses of before as one.
                hands(1, "r.started_at", &hand("hold"), "r.held_s > 0"),
                hands(2, "r.started_at + INTERVAL ROUND(r.held_s * 1000000) MICROSECOND", &hand("go-on"), "r.held_s > 0"),
                hands(3, late, "JSON_OBJECT('task', r.step_kind, 'hand', 'back', 'by_s', r.back_s)", "r.back_s > 0"),
                hands(4, late, &hand("missing"), &format!("{missing} >= 1")),
                hands(5, late, &hand("missing"), &format!("{missing} >= 2")),
                hands(6, late, &hand("missing"), &format!("{missing} >= 3")),
                hands(7, "r.held_since", &hand("hold"), "r.held_since IS NOT NULL"),
                hands(8, "r.stopped_at", &hand("stop"), "r.stopped_at IS NOT NULL"),
            ],
        ),
        (
            "verdicts",
            vec![format!(
                "{INTO} SELECT household_id, {}, piece_id, 'tasted', given_at, given_at, JSON_OBJECT('bad_patches', bad_patches, 'rim', rim,
                 'middle', middle, 'juice', juice, 'advice', advice), 1 FROM verdicts",
                beside("piece_id", 8)
            )],
        ),
    ]
}

/// Runs the first `most` of its statements, or all of them.
pub(crate) async fn run(manager: &SchemaManager<'_>, most: usize) -> Result<(), DbErr> {
    let connection = manager.get_connection();
    let mut left = most;
    let mut one = |statement: String| {
        let runs = left > 0;
        left = left.saturating_sub(1);
        async move { if runs { connection.execute_unprepared(&statement).await.map(|_| ()) } else { Ok(()) } }
    };
    for statement in TABLES {
        one((*statement).to_owned()).await?;
    }
    // A table that is gone was moved before the server was killed; a table goes only once all of it has moved.
    for (table, statements) in moves() {
        if !manager.has_table(table).await? {
            continue;
        }
        for statement in statements {
            one(statement).await?;
        }
        one(format!("DROP TABLE IF EXISTS {table}")).await?;
    }
    Ok(())
}

#[async_trait::async_trait]
impl MigrationTrait for Migration {
    async fn up(&self, manager: &SchemaManager) -> Result<(), DbErr> {
        run(manager, usize::MAX).await
    }

    async fn down(&self, _: &SchemaManager) -> Result<(), DbErr> {
        // Events hold more than the tables they came from: there is no way back but a copy of before.
        Err(DbErr::Migration("what happened is kept as events now; put the copy of before back instead".into()))
    }
}
