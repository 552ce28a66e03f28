//! Connecting, and bringing the schema up to date.

use crate::error::StoreError;
use crate::migration::Migrator;
use crate::repo::{HouseholdId, Kitchen, Line};
use sea_orm::{ConnectOptions, ConnectionTrait, Database, DatabaseConnection, Statement, TransactionTrait};
use sea_orm_migration::MigratorTrait;
use std::sync::Arc;
use std::time::Duration;

/// How long a request waits for a connection: short, so that a page answers in words well within three seconds.
const PATIENCE: Duration = Duration::from_millis(1500);

/// A connection unused for so long may have died meanwhile.
const LAY_STILL: Duration = Duration::from_secs(1);

/// The database of all kitchens.
#[derive(Debug, Clone)]
pub struct Store {
    pub(crate) db: DatabaseConnection,
    /// This server's name among those on the same database, new at every start.
    pub(crate) server: uuid::Uuid,
    /// Writers of one piece stand in line here before they ask the database for its row.
    pub(crate) lines: Arc<[Line]>,
}

impl Store {
    /// Prepares a pool; connects on first use, so that a server may start before its database.
    ///
    /// A request waits a second and a half at most for one: with the database away a page answers in words.
    pub async fn connect(url: &str) -> Result<Self, StoreError> {
        let mut options = ConnectOptions::new(url);
        options
            .max_connections(16)
            .min_connections(0)
            .connect_timeout(PATIENCE)
            .acquire_timeout(PATIENCE)
            .connect_lazy(true)
            // Asked of one that lay still: of one in use the answer itself tells.
            .test_before_acquire_if_idle_for(LAY_STILL)
            .sqlx_logging(false);
        Ok(Self { db: Database::connect(options).await?, server: uuid::Uuid::now_v7(), lines: Line::all().collect() })
    }

    /// Brings the schema up to date. Several servers may start at once: one migrates, the others wait.
    pub async fn migrate(&self) -> Result<(), StoreError> {
        // The lock belongs to one connection; the transaction holds on to it meanwhile.
        let guard = self.db.begin().await?;
        let backend = guard.get_database_backend();
        let lock = Statement::from_string(backend, "SELECT GET_LOCK('rauchkeller-migrate', 60) AS got");
        let got: Option<i64> = guard.query_one_raw(lock).await?.and_then(|row| row.try_get("", "got").ok().flatten());
        if got != Some(1) {
            // Another server has been at it for a minute: the caller waits and asks again.
            return Err(StoreError::Away("the schema is being changed by another server".into()));
        }
        let done = Migrator::up(&self.db, None).await;
        guard.query_one_raw(Statement::from_string(backend, "SELECT RELEASE_LOCK('rauchkeller-migrate')")).await?;
        guard.commit().await?;
        Ok(done?)
    }

    /// The name of the last step of the schema: where it stands in `seaql_migrations`, the schema is whole.
    pub fn newest_schema() -> String {
        Migrator::migrations().last().map_or_else(String::new, |step| step.name().to_owned())
    }

    /// Brings the schema up to date as a server does that is killed after so many statements of the move of events. For tests.
    #[doc(hidden)]
    pub async fn migrate_until_killed(&self, statements: usize) -> Result<(), StoreError> {
        // Up to the move, and then so far into it.
        let before = Migrator::migrations().iter().position(|m| m.name() == "m008_run");
        let before = before.ok_or_else(|| StoreError::Away("the move of events is not among the migrations".into()))?;
        let done = Migrator::get_applied_migrations(&self.db).await.map_or(0, |applied| applied.len());
        Migrator::up(&self.db, Some(u32::try_from(before.saturating_sub(done)).unwrap_or(0))).await?;
        Ok(crate::migration::m008_run::run(&sea_orm_migration::SchemaManager::new(&self.db), statements).await?)
    }

    /// Whether the database answers.
    ///
    /// A statement and not the driver's `ping`: that one, dropped half-way, leaves its reply on the connection, and whoever
    /// gets the connection next reads it as the answer to a question of their own.
    pub async fn ping(&self) -> Result<(), StoreError> {
        let backend = self.db.get_database_backend();
        self.db.query_one_raw(Statement::from_string(backend, "SELECT 1")).await?;
        Ok(())
    }

    /// The same database by a single connection of its own: what is asked once a second waits for no page.
    pub async fn apart(&self, url: &str) -> Result<Self, StoreError> {
        let mut options = ConnectOptions::new(url);
        options
            .max_connections(1)
            .min_connections(0)
            .connect_timeout(PATIENCE)
            .acquire_timeout(PATIENCE)
            .connect_lazy(true)
            .sqlx_logging(false);
        Ok(Self { db: Database::connect(options).await?, server: self.server, lines: self.lines.clone() })
    }

    /// The rows of one household: the only door to them.
    pub fn kitchen(&self, household: HouseholdId) -> Kitchen<'_> {
        Kitchen::new(self, household)
    }
}
