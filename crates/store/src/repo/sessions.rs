//! Web sessions: only a hash of the token is kept.

use crate::connect::Store;
use crate::entity::web_session;
use crate::error::StoreError;
use crate::instant::Instant;
use jiff::Timestamp;
use sea_orm::sea_query::OnConflict;
use sea_orm::{ColumnTrait, EntityTrait, QueryFilter, Set, SqlErr};

/// A stored session.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SessionRow {
    /// SHA-256 of the token, hex.
    pub token_hash: String,
    /// What it holds.
    pub data: String,
    /// When it ends.
    pub expires_at: Timestamp,
}

impl SessionRow {
    fn row(self) -> web_session::ActiveModel {
        web_session::ActiveModel { token_hash: Set(self.token_hash), data: Set(self.data), expires_at: Set(self.expires_at.into()) }
    }
}

impl Store {
    /// Adds a session; `false` when the token is already taken.
    pub async fn create_session(&self, session: SessionRow) -> Result<bool, StoreError> {
        match web_session::Entity::insert(session.row()).exec_without_returning(&self.db).await {
            Ok(_) => Ok(true),
            Err(error) if matches!(error.sql_err(), Some(SqlErr::UniqueConstraintViolation(_))) => Ok(false),
            Err(error) => Err(error.into()),
        }
    }

    /// Saves a session.
    pub async fn save_session(&self, session: SessionRow) -> Result<(), StoreError> {
        let replace = OnConflict::column(web_session::Column::TokenHash)
            .update_columns([web_session::Column::Data, web_session::Column::ExpiresAt])
            .to_owned();
        web_session::Entity::insert(session.row()).on_conflict(replace).exec_without_returning(&self.db).await?;
        Ok(())
    }

    /// Loads a session that has not ended.
    pub async fn load_session(&self, token_hash: &str, now: Timestamp) -> Result<Option<SessionRow>, StoreError> {
        let found = web_session::Entity::find_by_id(token_hash.to_owned())
            .filter(web_session::Column::ExpiresAt.gt(Instant::from(now)))
            .one(&self.db)
            .await?;
        Ok(found.map(|row| SessionRow { token_hash: row.token_hash, data: row.data, expires_at: row.expires_at.timestamp() }))
    }

    /// Ends a session.
    pub async fn delete_session(&self, token_hash: &str) -> Result<(), StoreError> {
        web_session::Entity::delete_by_id(token_hash.to_owned()).exec(&self.db).await?;
        Ok(())
    }

    /// Drops the sessions that have ended.
    pub async fn drop_ended_sessions(&self, now: Timestamp) -> Result<u64, StoreError> {
        let ended = web_session::Entity::delete_many().filter(web_session::Column::ExpiresAt.lt(Instant::from(now))).exec(&self.db).await?;
        Ok(ended.rows_affected)
    }
}
