//! Bodies arrive whole before anything is done for them.
//!
//! A body has one deadline, however its pieces trickle, and whoever is still sending holds no place at work. So many may be
//! arriving at once, of one address and altogether, with so many bytes; where that is full, the one that has been at it longest
//! gives way: an honest one is through in milliseconds, and what trickles is what goes.

use crate::error::{Says, in_words};
use crate::place::Place;
use axum::body::{Body, Bytes};
use axum::extract::Request;
use axum::http::StatusCode;
use axum::response::Response;
use http_body_util::BodyExt;
use std::collections::BTreeMap;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::Duration;
use tokio::sync::oneshot;

/// Largest body a page or the API takes.
pub const LARGEST: usize = 64 * 1024;
/// So much of a larger one is still read and thrown away, so that its sender gets the answer and not a broken pipe.
const DRAINED: usize = 1024 * 1024;
/// How long a whole body may take.
const DEADLINE: Duration = Duration::from_secs(10);
/// Bodies arriving at once from one address.
const OF_ONE: usize = 64;
/// Bodies arriving at once.
const IN_ALL: usize = 1024;
/// What they may hold together, bytes.
const BYTES: usize = 16 * 1024 * 1024;

/// The bodies that are arriving, by the order in which they began.
#[derive(Debug, Clone, Default)]
pub struct Arriving(Arc<Mutex<Arrivals>>);

#[derive(Debug, Default)]
struct Arrivals {
    next: u64,
    held: usize,
    of: BTreeMap<u64, Arrival>,
}

#[derive(Debug)]
struct Arrival {
    place: Place,
    bytes: usize,
    /// Tells it to give way.
    way: oneshot::Sender<()>,
}

/// One that is arriving; forgotten when it is dropped.
#[derive(Debug)]
struct Arrives {
    all: Arriving,
    id: u64,
}

impl Drop for Arrives {
    fn drop(&mut self) {
        self.all.locked().forget(self.id);
    }
}

impl Arrivals {
    fn forget(&mut self, id: u64) -> Option<Arrival> {
        let gone = self.of.remove(&id)?;
        self.held -= gone.bytes;
        Some(gone)
    }

    /// The longest at it of those that fit gives way.
    fn make_way(&mut self, fits: impl Fn(&Arrival) -> bool) {
        let oldest = self.of.iter().find(|(_, arrival)| fits(arrival)).map(|(id, _)| *id);
        if let Some(gone) = oldest.and_then(|id| self.forget(id)) {
            let _ = gone.way.send(());
        }
    }
}

impl Arriving {
    fn locked(&self) -> MutexGuard<'_, Arrivals> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner)
    }

    fn begin(&self, place: Place) -> (Arrives, oneshot::Receiver<()>) {
        let mut all = self.locked();
        if all.of.values().filter(|arrival| arrival.place == place).count() >= OF_ONE {
            all.make_way(|arrival| arrival.place == place);
        }
        if all.of.len() >= IN_ALL {
            all.make_way(|_| true);
        }
        let (way, told) = oneshot::channel();
        let id = all.next;
        all.next += 1;
        all.of.insert(id, Arrival { place, bytes: 0, way });
        (Arrives { all: self.clone(), id }, told)
    }
}

impl Arrives {
    /// So much more of it came; others give way where the room ends. It may be the one itself.
    fn holds(&self, more: usize) {
        let mut all = self.all.locked();
        if let Some(mine) = all.of.get_mut(&self.id) {
            mine.bytes += more;
            all.held += more;
        }
        while all.held > BYTES {
            all.make_way(|arrival| arrival.bytes > 0);
        }
    }
}

/// How a body ended that did not arrive.
enum Not {
    /// Too slow, broken off, or pushed aside by others.
    InTime,
    /// Too large.
    Small,
}

async fn whole(mut body: Body, arrives: &Arrives) -> Result<Bytes, Not> {
    let (mut read, mut seen) = (Vec::new(), 0);
    while let Some(frame) = body.frame().await {
        let Ok(data) = frame.map_err(|_| Not::InTime)?.into_data() else { continue };
        seen += data.len();
        if seen > DRAINED {
            return Err(Not::Small);
        }
        if seen <= LARGEST {
            arrives.holds(data.len());
            read.extend_from_slice(&data);
        }
    }
    if seen <= LARGEST { Ok(read.into()) } else { Err(Not::Small) }
}

/// A request whose body is here, or what is said to whoever did not send it.
pub async fn arrive(arriving: &Arriving, request: Request) -> Result<Request, Response> {
    use axum::body::HttpBody;
    if request.body().is_end_stream() {
        return Ok(request);
    }
    let says = Says::to(request.uri().path());
    let (arrives, told) = arriving.begin(Place::of_request(&request));
    let (parts, body) = request.into_parts();
    let arrived = tokio::select! {
        biased;
        _ = told => Err(Not::InTime),
        read = tokio::time::timeout(DEADLINE, whole(body, &arrives)) => read.unwrap_or(Err(Not::InTime)),
    };
    drop(arrives);
    match arrived {
        Ok(bytes) => Ok(Request::from_parts(parts, Body::from(bytes))),
        Err(Not::InTime) => Err(in_words(StatusCode::REQUEST_TIMEOUT, None, says)),
        Err(Not::Small) => Err(in_words(StatusCode::PAYLOAD_TOO_LARGE, None, says)),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::net::IpAddr;

    fn place(n: u8) -> Place {
        IpAddr::from([192, 0, 2, n]).into()
    }

    #[test]
    fn of_one_address_the_longest_at_it_gives_way_and_no_others() {
        let arriving = Arriving::default();
        let (_other, mut other) = arriving.begin(place(2));
        let mut mine: Vec<_> = (0..OF_ONE).map(|_| arriving.begin(place(1))).collect();
        let (_last, mut last) = arriving.begin(place(1));
        assert!(mine[0].1.try_recv().is_ok(), "the first of them was told");
        assert!(mine[1].1.try_recv().is_err() && other.try_recv().is_err() && last.try_recv().is_err());
    }

    #[test]
    fn bytes_are_counted_and_given_back() {
        let arriving = Arriving::default();
        let (first, mut told) = arriving.begin(place(1));
        first.holds(LARGEST);
        let rest: Vec<_> = (0..BYTES / LARGEST).map(|n| arriving.begin(place(u8::try_from(3 + n % 200).unwrap()))).collect();
        for (one, _) in &rest {
            one.holds(LARGEST);
        }
        assert!(told.try_recv().is_ok(), "the oldest gave way to the last that came");
        assert!(arriving.locked().held <= BYTES);
        drop((rest, first));
        let all = arriving.locked();
        assert_eq!((all.held, all.of.len()), (0, 0));
    }
}
