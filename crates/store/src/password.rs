//! Passwords: argon2id, in a blocking thread, two at a time.

use argon2::Argon2;
use argon2::password_hash::phc::PasswordHash;
use argon2::password_hash::{PasswordHasher, PasswordVerifier};
use std::sync::LazyLock;
use tokio::sync::Semaphore;

/// Each hash takes 19 MB and tens of milliseconds: more than two at once would starve the rest.
static GATE: LazyLock<Semaphore> = LazyLock::new(|| Semaphore::new(2));

/// Hashes a password (argon2id, the crate's default parameters) into a PHC string.
pub async fn hash_password(password: String) -> Option<String> {
    let _permit = GATE.acquire().await.ok()?;
    tokio::task::spawn_blocking(move || Argon2::default().hash_password(password.as_bytes()).ok().map(|hash| hash.to_string()))
        .await
        .ok()?
}

/// Checks a password against a PHC string. An unknown cook is checked against a dummy by the caller,
/// so that the answer takes as long as for a known one.
pub async fn verify_password(password: String, hash: String) -> bool {
    let Ok(_permit) = GATE.acquire().await else { return false };
    tokio::task::spawn_blocking(move || {
        PasswordHash::new(&hash).is_ok_and(|parsed| Argon2::default().verify_password(password.as_bytes(), &parsed).is_ok())
    })
    .await
    .unwrap_or(false)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[tokio::test]
    async fn a_password_matches_only_itself() {
        let hash = hash_password("smoke and ash".into()).await.unwrap();
        assert!(hash.starts_with("$argon2id$"));
        assert!(verify_password("smoke and ash".into(), hash.clone()).await);
        assert!(!verify_password("smoke and asH".into(), hash).await);
        assert!(!verify_password("x".into(), "not a hash".into()).await);
    }
}
