//! Sending readings to the open readings API: in order, again until they were taken, never twice in effect.

use crate::link::Link;
use rauchkeller_contract::ReadingDoc;
use std::collections::VecDeque;
use std::sync::mpsc::{Receiver, RecvTimeoutError};
use std::time::Duration;

/// Where to and with what.
#[derive(Debug, Clone)]
pub struct Target {
    /// Address of the server, like `http://127.0.0.1:8080`.
    pub server: String,
    /// The device's tie to its kitchen.
    pub link: Link,
}

/// What is kept while the server is away; older readings are of no use.
const MOST_WAITING: usize = 1200;
/// The most in one request.
const BATCH: usize = 100;

/// Takes readings from the channel and posts them until the channel closes. A batch that was not answered is sent again
/// with its old sequence numbers: the server stores each once.
pub fn send_all(target: &Target, readings: &Receiver<ReadingDoc>) {
    let agent: ureq::Agent =
        ureq::Agent::config_builder().timeout_global(Some(Duration::from_secs(5))).http_status_as_error(false).build().into();
    let mut waiting: VecDeque<ReadingDoc> = VecDeque::new();
    loop {
        match readings.recv_timeout(Duration::from_millis(500)) {
            Ok(reading) => waiting.push_back(reading),
            Err(RecvTimeoutError::Timeout) => {}
            Err(RecvTimeoutError::Disconnected) => return,
        }
        waiting.extend(readings.try_iter());
        while waiting.len() > MOST_WAITING {
            waiting.pop_front();
        }
        // Until it is paired nobody listens; what it showed before that is nobody's.
        if !target.link.is_paired() {
            waiting.clear();
            continue;
        }
        let batch: Vec<ReadingDoc> = waiting.iter().take(BATCH).cloned().collect();
        if batch.is_empty() {
            continue;
        }
        match post(&agent, target, &batch) {
            Ok(200) => drop(waiting.drain(..batch.len())),
            // What the server will never take is said and dropped; the rest of the day is not held up by it.
            Ok(422) => {
                tracing::warn!("the server refused {} readings", batch.len());
                waiting.drain(..batch.len());
            }
            Ok(401) => {
                tracing::warn!("this device was taken out of its kitchen; it waits to be paired anew");
                target.link.forget();
            }
            Ok(status) => tracing::warn!(status, "readings wait"),
            Err(error) => tracing::warn!(%error, "the server is away; readings wait"),
        }
    }
}

fn post(agent: &ureq::Agent, target: &Target, batch: &[ReadingDoc]) -> Result<u16, ureq::Error> {
    let url = format!("{}/api/v1/readings", target.server.trim_end_matches('/'));
    let answer = agent
        .post(url)
        .header("Authorization", format!("Bearer {}", target.link.token()))
        .send_json(serde_json::json!({ "readings": batch }))?;
    Ok(answer.status().as_u16())
}
