//! Passwords: argon2id.

use argon2::Argon2;
use argon2::password_hash::phc::PasswordHash;
use argon2::password_hash::{PasswordHasher, PasswordVerifier};

/// Hashes a password (argon2id, the crate's default parameters) into a PHC string; `None` where the system has no random bits.
///
/// Takes 19 MB and tens of milliseconds: never on an async worker, and few at once.
pub fn hash_password(password: &str) -> Option<String> {
    Argon2::default().hash_password(password.as_bytes()).map(|hash| hash.to_string()).ok()
}

/// Checks a password against a PHC string; costs as much as hashing. An unknown cook is checked against a dummy by the caller,
/// so that the answer takes as long as for a known one.
pub fn verify_password(password: &str, hash: &str) -> bool {
    PasswordHash::new(hash).is_ok_and(|parsed| Argon2::default().verify_password(password.as_bytes(), &parsed).is_ok())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_password_matches_only_itself() {
        let hash = hash_password("smoke and ash").unwrap();
        assert!(hash.starts_with("$argon2id$"));
        assert!(verify_password("smoke and ash", &hash));
        assert!(!verify_password("smoke and asH", &hash));
        assert!(!verify_password("x", "not a hash"));
    }
}
