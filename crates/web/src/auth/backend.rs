//! What axum-login asks of us.

use axum_login::{AuthUser, AuthnBackend, UserId};
use rauchkeller_store::{Cook, CookId, Store, StoreError, verify_password};
use std::sync::LazyLock;
use uuid::Uuid;

/// A cook as axum-login sees one.
#[derive(Debug, Clone)]
pub struct User(pub Cook);

impl AuthUser for User {
    type Id = Uuid;

    fn id(&self) -> Uuid {
        self.0.id.0
    }

    /// A changed password ends every session.
    fn session_auth_hash(&self) -> &[u8] {
        self.0.password_hash.as_bytes()
    }
}

/// Address and password as typed.
pub struct Credentials {
    /// Lower case, trimmed.
    pub address: String,
    /// As typed.
    pub password: String,
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
    type Error = StoreError;

    async fn authenticate(&self, given: Credentials) -> Result<Option<User>, StoreError> {
        let cook = self.0.cook_by_address(&given.address).await?;
        let hash = cook.as_ref().map_or_else(|| NOBODY.clone(), |cook| cook.password_hash.clone());
        let matches = verify_password(given.password, hash).await;
        Ok(cook.filter(|_| matches).map(User))
    }

    async fn get_user(&self, id: &UserId<Self>) -> Result<Option<User>, StoreError> {
        Ok(self.0.cook(CookId(*id)).await?.map(User))
    }
}
