//! Passwords: argon2id, in a blocking thread, two at a time.

use argon2::Argon2;
use argon2::password_hash::phc::PasswordHash;
use argon2::password_hash::{PasswordHasher, PasswordVerifier};
use std::sync::{Arc, LazyLock};
use tokio::sync::Semaphore;

/// Each hash takes 19 MB and tens of milliseconds: more than two at once would starve the rest.
const AT_ONCE: usize = 2;
/// So many may wait for their turn, about a second; who comes then is asked to try again.
const QUEUE: usize = 24;

static GATE: LazyLock<Arc<Semaphore>> = LazyLock::new(|| Arc::new(Semaphore::new(AT_ONCE)));
static QUEUED: LazyLock<Arc<Semaphore>> = LazyLock::new(|| Arc::new(Semaphore::new(AT_ONCE + QUEUE)));

/// Too many passwords are being looked at: nothing was tried.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
#[error("too many people at the door at once")]
pub struct Crowded;

/// Runs one piece of hashing when its turn comes. The permits belong to the work, not to the request: a request that is
/// given up leaves no hash running beside the next two.
async fn in_turn<T: Send + 'static>(work: impl FnOnce() -> T + Send + 'static) -> Result<T, Crowded> {
    let queued = QUEUED.clone().try_acquire_owned().map_err(|_| Crowded)?;
    let turn = GATE.clone().acquire_owned().await.map_err(|_| Crowded)?;
    let worked = tokio::task::spawn_blocking(move || {
        let done = work();
        drop((turn, queued));
        done
    });
    worked.await.map_err(|_| Crowded)
}

/// Hashes a password (argon2id, the crate's default parameters) into a PHC string.
pub async fn hash_password(password: String) -> Result<String, Crowded> {
    in_turn(move || Argon2::default().hash_password(password.as_bytes()).map(|hash| hash.to_string())).await?.map_err(|_| Crowded)
}

/// Checks a password against a PHC string. An unknown cook is checked against a dummy by the caller,
/// so that the answer takes as long as for a known one.
pub async fn verify_password(password: String, hash: String) -> Result<bool, Crowded> {
    in_turn(move || PasswordHash::new(&hash).is_ok_and(|parsed| Argon2::default().verify_password(password.as_bytes(), &parsed).is_ok()))
        .await
}

#[cfg(test)]
mod tests {
    use super::*;

    #[tokio::test]
    async fn a_password_matches_only_itself() {
        let hash = hash_password("smoke and ash".into()).await.unwrap();
        assert!(hash.starts_with("$argon2id$"));
        assert!(verify_password("smoke and ash".into(), hash.clone()).await.unwrap());
        assert!(!verify_password("smoke and asH".into(), hash).await.unwrap());
        assert!(!verify_password("x".into(), "not a hash".into()).await.unwrap());
    }

    #[tokio::test]
    async fn requests_given_up_leave_no_hashes_running_and_a_crowd_is_refused() {
        use std::sync::atomic::{AtomicUsize, Ordering};
        static RUNNING: AtomicUsize = AtomicUsize::new(0);
        static MOST: AtomicUsize = AtomicUsize::new(0);
        let work = || {
            MOST.fetch_max(RUNNING.fetch_add(1, Ordering::SeqCst) + 1, Ordering::SeqCst);
            let hash = Argon2::default().hash_password(b"smoke and ash").is_ok();
            RUNNING.fetch_sub(1, Ordering::SeqCst);
            hash
        };
        // A flood whose senders hang up at once: every second one is given up as soon as it has begun.
        let (mut refused, mut tasks) = (0, Vec::new());
        for i in 0..120 {
            let task = tokio::spawn(in_turn(work));
            tokio::task::yield_now().await;
            if i % 2 == 0 { task.abort() } else { tasks.push(task) }
        }
        for task in tasks {
            refused += usize::from(task.await.unwrap().is_err());
        }
        assert!(MOST.load(Ordering::SeqCst) <= AT_ONCE, "{} hashes at once", MOST.load(Ordering::SeqCst));
        assert!(refused > 0, "a queue without an end");
        // Afterwards the door is open again.
        assert_eq!(in_turn(|| 7).await, Ok(7));
    }
}
