//! Whether the database answers, asked once a second: a page that would wait for a database that has stopped is answered at once.

use std::sync::Arc;
use std::time::Duration;
use tokio::sync::watch;

/// What is known of the database.
#[derive(Debug, Clone)]
pub struct Heart(Arc<watch::Sender<bool>>);

impl Default for Heart {
    /// Beating, until somebody found otherwise.
    fn default() -> Self {
        Self(Arc::new(watch::Sender::new(true)))
    }
}

/// How long the database may take for the smallest question; far more than it takes under load, and less than anybody likes to wait.
pub const BEAT: Duration = Duration::from_millis(2500);

impl Heart {
    /// Notes whether it answered.
    pub fn says(&self, beats: bool) {
        self.0.send_if_modified(|was| std::mem::replace(was, beats) != beats);
    }

    /// Ends when the database is away; never for whoever does not need it.
    pub async fn away_for(&self, needed: bool) {
        if !needed || self.0.subscribe().wait_for(|beats| !beats).await.is_err() {
            std::future::pending::<()>().await;
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[tokio::test]
    async fn who_needs_the_database_is_told_when_it_is_away() {
        let heart = Heart::default();
        let told = |needed| {
            let heart = heart.clone();
            async move { tokio::time::timeout(Duration::ZERO, heart.away_for(needed)).await.is_ok() }
        };
        assert!(!told(true).await);
        heart.says(false);
        assert!(told(true).await && !told(false).await);
        heart.says(true);
        assert!(!told(true).await, "and no more once it is back");
    }
}
