//! Sessions in MariaDB; of the token only a hash is kept.

use crate::asker::Asker;
use axum_login::tower_sessions::cookie::time::OffsetDateTime;
use axum_login::tower_sessions::session::{Id, Record};
use axum_login::tower_sessions::session_store::{Error, Result, SessionStore};
use jiff::Timestamp;
use rauchkeller_store::{SessionRow, Store, StoreError};
use sha2::{Digest, Sha256};

/// The session table.
#[derive(Debug, Clone)]
pub struct MariaSessions(pub Store);

fn hash(id: Id) -> String {
    hex::encode(Sha256::digest(id.to_string()))
}

fn row(record: &Record) -> Result<SessionRow> {
    Ok(SessionRow {
        token_hash: hash(record.id),
        data: serde_json::to_string(&record.data).map_err(|e| Error::Encode(e.to_string()))?,
        expires_at: Timestamp::from_second(record.expiry_date.unix_timestamp()).map_err(|e| Error::Encode(e.to_string()))?,
    })
}

#[expect(clippy::needless_pass_by_value, reason = "passed to map_err")]
fn backend(error: StoreError) -> Error {
    if matches!(error, StoreError::NoRoom) {
        Asker::had_no_room();
    }
    Error::Backend(error.to_string())
}

#[async_trait::async_trait]
impl SessionStore for MariaSessions {
    async fn create(&self, record: &mut Record) -> Result<()> {
        while !self.0.create_session(row(record)?).await.map_err(backend)? {
            record.id = Id::default();
        }
        Ok(())
    }

    async fn save(&self, record: &Record) -> Result<()> {
        self.0.save_session(row(record)?).await.map_err(backend)
    }

    async fn load(&self, id: &Id) -> Result<Option<Record>> {
        let Some(found) = self.0.load_session(&hash(*id), Timestamp::now()).await.map_err(backend)? else { return Ok(None) };
        Ok(Some(Record {
            id: *id,
            data: serde_json::from_str(&found.data).map_err(|e| Error::Decode(e.to_string()))?,
            expiry_date: OffsetDateTime::from_unix_timestamp(found.expires_at.as_second()).map_err(|e| Error::Decode(e.to_string()))?,
        }))
    }

    async fn delete(&self, id: &Id) -> Result<()> {
        self.0.delete_session(&hash(*id)).await.map_err(backend)
    }
}
