//! Long computations: off the async workers, as many at once as there are cores, and by turns: cooks first, nobody's queue
//! before another's, and nothing begun that nobody waits for.

use crate::asker::Asker;
use crate::error::WebError;
use crate::turns::{Limits, NoTurn, Turn, Turns};
use std::sync::LazyLock;

/// Computations that run at once.
static CORES: LazyLock<usize> = LazyLock::new(|| std::thread::available_parallelism().map_or(2, std::num::NonZero::get));
/// Those who may wait besides. Of one party somewhat more than 32, so that as many connections of one address are served; in a
/// lane some seconds' worth.
static TURNS: LazyLock<Turns> = LazyLock::new(|| Turns::new(Limits { at_once: *CORES, of_one: 48, in_a_lane: 200 }));

impl From<NoTurn> for WebError {
    fn from(none: NoTurn) -> Self {
        match none {
            NoTurn::Crowded => Self::Busy,
            NoTurn::Gone => Self::Gone,
        }
    }
}

/// Runs a computation when its turn comes. Its turn belongs to it, so that one whose cook has gone still counts while it runs;
/// one whose asker has gone before is not begun.
pub async fn compute<T: Send + 'static>(work: impl FnOnce() -> T + Send + 'static) -> Result<T, WebError> {
    let asker = Asker::now();
    let turn = TURNS.take(&asker).await?;
    in_its_turn(turn, asker, work).await
}

/// Runs work off the async workers while it holds its turn.
pub async fn in_its_turn<T: Send + 'static>(turn: Turn, asker: Asker, work: impl FnOnce() -> T + Send + 'static) -> Result<T, WebError> {
    let worked = tokio::task::spawn_blocking(move || {
        let done = (!asker.has_gone()).then(work);
        drop(turn);
        done
    });
    match worked.await {
        Ok(done) => done.ok_or(WebError::Gone),
        Err(error) if error.is_panic() => std::panic::resume_unwind(error.into_panic()),
        Err(_) => Err(WebError::Busy),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::place::Place;
    use std::sync::atomic::{AtomicUsize, Ordering};

    #[tokio::test(flavor = "multi_thread", worker_threads = 2)]
    async fn no_more_run_at_once_than_there_are_cores_even_when_given_up() {
        static RUNNING: AtomicUsize = AtomicUsize::new(0);
        static MOST: AtomicUsize = AtomicUsize::new(0);
        let one = |i: u64| {
            let place = Place::from(std::net::IpAddr::from([192, 0, 2, u8::try_from(i / 30).unwrap()]));
            let (asker, waits) = Asker::at(place, true);
            let asked = asker.asks(compute(move || {
                MOST.fetch_max(RUNNING.fetch_add(1, Ordering::SeqCst) + 1, Ordering::SeqCst);
                let sum: u64 = (0..200_000).map(|x| std::hint::black_box(x) * i).sum();
                RUNNING.fetch_sub(1, Ordering::SeqCst);
                sum
            }));
            async move {
                let done = asked.await;
                drop(waits);
                done
            }
        };
        let tasks: Vec<_> = (0..60u64)
            .map(|i| {
                let task = tokio::spawn(one(i));
                if i % 3 == 0 {
                    task.abort();
                }
                task
            })
            .collect();
        let mut ended = 0;
        for task in tasks {
            ended += usize::from(task.await.is_ok_and(|done| done.is_ok()));
        }
        assert!(ended >= 40, "{ended} of those not given up ended");
        assert!((1..=*CORES).contains(&MOST.load(Ordering::SeqCst)), "{} at once", MOST.load(Ordering::SeqCst));
    }

    #[tokio::test]
    async fn what_nobody_waits_for_is_not_begun() {
        static BEGUN: AtomicUsize = AtomicUsize::new(0);
        let (asker, waits) = Asker::at(Place::default(), true);
        drop(waits);
        let done = asker.asks(compute(|| BEGUN.fetch_add(1, Ordering::SeqCst))).await;
        assert!(matches!(done, Err(WebError::Gone)), "{done:?}");
        assert_eq!(BEGUN.load(Ordering::SeqCst), 0);
    }
}
