//! What axum-login asks of us.

use super::hashing::{Crowded, Whose, verify};
use axum_login::{AuthUser, AuthnBackend, UserId};
use rauchkeller_store::{Cook, CookId, Store, StoreError};
use std::sync::LazyLock;
use uuid::Uuid;

/// A cook as axum-login sees one.
#[derive(Debug, Clone)]
pub struct User {
    /// Who.
    pub cook: Cook,
    /// What a session has to agree with.
    bound_to: Vec<u8>,
}

impl From<Cook> for User {
    /// A session is bound to the password and to the cook's own count of ended sessions.
    fn from(cook: Cook) -> Self {
        let mut bound_to = cook.password_hash.clone().into_bytes();
        if cook.session_epoch > 0 {
            bound_to.extend(format!("#{}", cook.session_epoch).into_bytes());
        }
        Self { cook, bound_to }
    }
}

impl AuthUser for User {
    type Id = Uuid;

    fn id(&self) -> Uuid {
        self.cook.id.0
    }

    /// A changed password ends every session, and so does asking for it.
    fn session_auth_hash(&self) -> &[u8] {
        &self.bound_to
    }
}

/// Address and password as typed.
pub struct Credentials {
    /// Lower case, trimmed.
    pub address: String,
    /// As typed.
    pub password: String,
    /// Whose turn at the hash it is.
    pub whose: Whose,
}

/// Why nothing could be looked up.
#[derive(Debug, thiserror::Error)]
pub enum BackendError {
    /// The database.
    #[error(transparent)]
    Store(#[from] StoreError),
    /// Too many at once.
    #[error(transparent)]
    Crowded(#[from] Crowded),
}

/// Cooks in the store.
#[derive(Debug, Clone)]
pub struct Backend(pub Store);

/// A hash nobody knows the password of: checking an unknown address takes as long as a known one.
static NOBODY: LazyLock<String> =
    LazyLock::new(|| "$argon2id$v=19$m=19456,t=2,p=1$c29tZXNhbHRzb21lc2FsdA$6m5CPwEXcYpNE3kCsVtDdVBfDvSTn5rFkOHwA6FzVwA".to_owned());

impl AuthnBackend for Backend {
    type User = User;
    type Credentials = Credentials;
    type Error = BackendError;

    async fn authenticate(&self, given: Credentials) -> Result<Option<User>, BackendError> {
        let cook = self.0.cook_by_address(&given.address).await?;
        let hash = cook.as_ref().map_or_else(|| NOBODY.clone(), |cook| cook.password_hash.clone());
        let matches = verify(given.whose, given.password, hash).await?;
        Ok(cook.filter(|_| matches).map(User::from))
    }

    async fn get_user(&self, id: &UserId<Self>) -> Result<Option<User>, BackendError> {
        Ok(self.0.cook(CookId(*id)).await?.map(User::from))
    }
}
