//! Turns at long work: so many at once, cooks who are signed in first, and in either lane one party after the other, so that
//! nobody's many requests push another's one to the back.

use crate::asker::{Asker, Party};
use std::collections::VecDeque;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use tokio::sync::oneshot;

/// Why nobody gets a turn.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum NoTurn {
    /// Too many wait already: this party's, or everybody's.
    Crowded,
    /// Nobody waits for the answer any more.
    Gone,
}

/// How many may work and wait.
#[derive(Debug, Clone, Copy)]
pub struct Limits {
    /// At work at once.
    pub at_once: usize,
    /// Of one party, waiting.
    pub of_one: usize,
    /// Waiting in one lane altogether.
    pub in_a_lane: usize,
}

/// The turns.
#[derive(Debug, Clone)]
pub struct Turns(Arc<Inner>);

#[derive(Debug)]
struct Inner {
    limits: Limits,
    state: Mutex<State>,
}

#[derive(Debug, Default)]
struct State {
    running: usize,
    /// First those who are signed in (or known), then strangers.
    lanes: [Lane; 2],
}

#[derive(Debug, Default)]
struct Lane {
    parties: VecDeque<(Party, VecDeque<Waiting>)>,
    waiting: usize,
}

#[derive(Debug)]
struct Waiting {
    asker: Asker,
    tell: oneshot::Sender<Turn>,
}

/// A turn, over when it is dropped. It belongs to the work: one whose asker has gone still counts while it runs.
#[derive(Debug)]
pub struct Turn(Option<Arc<Inner>>);

impl Drop for Turn {
    fn drop(&mut self) {
        if let Some(inner) = self.0.take() {
            inner.locked().running -= 1;
            inner.hand_out();
        }
    }
}

impl Turns {
    /// Turns with these limits.
    pub fn new(limits: Limits) -> Self {
        Self(Arc::new(Inner { limits, state: Mutex::default() }))
    }

    /// Waits for a turn. A household's goes before any stranger's.
    pub async fn take(&self, asker: &Asker) -> Result<Turn, NoTurn> {
        let party = asker.party();
        self.take_as(asker, party, matches!(party, Party::Home(_))).await
    }

    /// The same as another party, in the lane that goes first or in the other.
    pub async fn take_as(&self, asker: &Asker, party: Party, first: bool) -> Result<Turn, NoTurn> {
        let turn = {
            let mut state = self.0.locked();
            let lane = &mut state.lanes[usize::from(!first)];
            lane.drop_those_who_went();
            let mine = lane.parties.iter().find(|(of, _)| *of == party).map_or(0, |(_, waiting)| waiting.len());
            if mine >= self.0.limits.of_one || lane.waiting >= self.0.limits.in_a_lane {
                return Err(NoTurn::Crowded);
            }
            let (tell, turn) = oneshot::channel();
            lane.push(party, Waiting { asker: asker.clone(), tell });
            turn
        };
        self.0.hand_out();
        turn.await.map_err(|_| NoTurn::Gone)
    }
}

impl Inner {
    fn locked(&self) -> MutexGuard<'_, State> {
        self.state.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Gives free turns to those who wait and are still there.
    fn hand_out(self: &Arc<Self>) {
        loop {
            let next = {
                let mut state = self.locked();
                if state.running >= self.limits.at_once {
                    return;
                }
                let Some(next) = state.lanes.iter_mut().find_map(Lane::pop) else { return };
                state.running += 1;
                next
            };
            if let Err(mut unused) = next.tell.send(Turn(Some(self.clone()))) {
                // Its asker has just gone: the turn passes on without being counted.
                unused.0 = None;
                self.locked().running -= 1;
            }
        }
    }
}

impl Lane {
    fn push(&mut self, party: Party, waiting: Waiting) {
        self.waiting += 1;
        match self.parties.iter_mut().find(|(of, _)| *of == party) {
            Some((_, line)) => line.push_back(waiting),
            None => self.parties.push_back((party, VecDeque::from([waiting]))),
        }
    }

    /// The next who waits: one of each party, then again the first.
    fn pop(&mut self) -> Option<Waiting> {
        while let Some((party, mut line)) = self.parties.pop_front() {
            let next = line.pop_front();
            self.waiting -= usize::from(next.is_some());
            if !line.is_empty() {
                self.parties.push_back((party, line));
            }
            if let Some(next) = next.filter(|next| !next.asker.has_gone()) {
                return Some(next);
            }
        }
        None
    }

    /// Those who have gone make room.
    fn drop_those_who_went(&mut self) {
        for (_, line) in &mut self.parties {
            line.retain(|waiting| !waiting.asker.has_gone() && !waiting.tell.is_closed());
        }
        self.parties.retain(|(_, line)| !line.is_empty());
        self.waiting = self.parties.iter().map(|(_, line)| line.len()).sum();
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::place::Place;
    use rauchkeller_store::HouseholdId;
    use std::net::Ipv4Addr;
    use uuid::Uuid;

    const LIMITS: Limits = Limits { at_once: 1, of_one: 4, in_a_lane: 10 };

    fn stranger(n: u8) -> (Asker, crate::asker::Waits, Party) {
        let place = Place::from(std::net::IpAddr::V4(Ipv4Addr::new(192, 0, 2, n)));
        let (asker, waits) = Asker::at(place, true);
        let party = asker.party();
        (asker, waits, party)
    }

    /// Lets everything that waits be woken.
    async fn settle() {
        for _ in 0..50 {
            tokio::task::yield_now().await;
        }
    }

    #[tokio::test]
    async fn cooks_go_first_and_parties_by_turns() {
        let turns = Turns::new(LIMITS);
        let order = Arc::new(Mutex::new(Vec::new()));
        let running = turns.take(&Asker::default()).await.unwrap();
        let mut held = Vec::new();
        let home = Party::Home(HouseholdId(Uuid::now_v7()));
        let asks = [(1, None), (1, None), (1, None), (2, None), (3, Some(home))];
        let mut tasks = Vec::new();
        for (n, home) in asks {
            let (asker, waits, party) = stranger(n);
            held.push(waits);
            let (turns, order) = (turns.clone(), order.clone());
            tasks.push(tokio::spawn(async move {
                let turn = turns.take_as(&asker, home.unwrap_or(party), home.is_some()).await.unwrap();
                order.lock().unwrap().push(n);
                drop(turn);
            }));
            settle().await;
        }
        drop(running);
        for task in tasks {
            task.await.unwrap();
        }
        assert_eq!(*order.lock().unwrap(), [3, 1, 2, 1, 1], "the cook, then one of each");
    }

    #[tokio::test]
    async fn who_has_gone_gets_no_turn_and_makes_room() {
        let turns = Turns::new(LIMITS);
        let running = turns.take(&Asker::default()).await.unwrap();
        let mut tasks = Vec::new();
        for _ in 0..4 {
            let (asker, waits, _) = stranger(1);
            let turns = turns.clone();
            tasks.push((tokio::spawn(async move { turns.take(&asker).await.map(|_| ()) }), waits));
            settle().await;
        }
        let (asker, _waits, _) = stranger(1);
        assert_eq!(turns.take(&asker).await.unwrap_err(), NoTurn::Crowded, "four wait already");
        let (other, _other_waits, _) = stranger(2);
        let others = tokio::spawn({
            let turns = turns.clone();
            async move { turns.take(&other).await.map(|_| ()) }
        });
        settle().await;
        // All of the first place hang up.
        let answers: Vec<_> = tasks.into_iter().map(|(task, waits)| (task, drop(waits)).0).collect();
        drop(running);
        assert_eq!(others.await.unwrap(), Ok(()));
        for answer in answers {
            assert_eq!(answer.await.unwrap(), Err(NoTurn::Gone));
        }
        assert_eq!(turns.0.locked().running, 0, "every turn came back");
    }

    #[tokio::test]
    async fn a_turn_that_nobody_takes_passes_on() {
        let turns = Turns::new(LIMITS);
        let running = turns.take(&Asker::default()).await.unwrap();
        let given_up = tokio::spawn({
            let turns = turns.clone();
            async move { turns.take(&Asker::default()).await.map(|_| ()) }
        });
        settle().await;
        given_up.abort();
        settle().await;
        drop(running);
        assert!(turns.take(&Asker::default()).await.is_ok());
        assert_eq!(turns.0.locked().running, 0);
    }
}
