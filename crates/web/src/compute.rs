//! Long computations: off the async workers, as many at once as there are cores, and no endless queue before them.

use crate::error::WebError;
use std::sync::{Arc, LazyLock};
use tokio::sync::Semaphore;

/// Computations that run at once: one is left free for answering.
static CORES: LazyLock<usize> = LazyLock::new(|| std::thread::available_parallelism().map_or(2, std::num::NonZero::get));
static GATE: LazyLock<Arc<Semaphore>> = LazyLock::new(|| Arc::new(Semaphore::new(*CORES)));
/// Those that may wait besides: some seconds' worth.
static QUEUE: LazyLock<Arc<Semaphore>> = LazyLock::new(|| Arc::new(Semaphore::new(*CORES + 200)));

/// Runs a computation when its turn comes. Its permit belongs to it, so that one whose cook has gone still counts while it runs.
pub async fn compute<T: Send + 'static>(work: impl FnOnce() -> T + Send + 'static) -> Result<T, WebError> {
    let queued = QUEUE.clone().try_acquire_owned().map_err(|_| WebError::Busy)?;
    let turn = GATE.clone().acquire_owned().await.map_err(|_| WebError::Busy)?;
    let worked = tokio::task::spawn_blocking(move || {
        let done = work();
        drop((turn, queued));
        done
    });
    match worked.await {
        Ok(done) => Ok(done),
        Err(error) if error.is_panic() => std::panic::resume_unwind(error.into_panic()),
        Err(_) => Err(WebError::Busy),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::sync::atomic::{AtomicUsize, Ordering};

    #[tokio::test(flavor = "multi_thread", worker_threads = 2)]
    async fn no_more_run_at_once_than_there_are_cores_even_when_given_up() {
        static RUNNING: AtomicUsize = AtomicUsize::new(0);
        static MOST: AtomicUsize = AtomicUsize::new(0);
        let tasks: Vec<_> = (0..60u64)
            .map(|i| {
                let task = tokio::spawn(compute(move || {
                    MOST.fetch_max(RUNNING.fetch_add(1, Ordering::SeqCst) + 1, Ordering::SeqCst);
                    let sum: u64 = (0..200_000).map(|x| std::hint::black_box(x) * i).sum();
                    RUNNING.fetch_sub(1, Ordering::SeqCst);
                    sum
                }));
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
}
