//! Seats: how many may be at one thing at once, counted by where they come from, so that one address fills its own and no others.

use crate::place::Place;
use std::collections::HashMap;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

/// How many seats there are.
#[derive(Debug, Clone, Copy)]
pub struct Many {
    /// Altogether.
    pub in_all: usize,
    /// For one address.
    pub from_one: usize,
    /// So many from one address are never refused, whatever others send.
    pub always: usize,
}

/// Seats at one thing.
#[derive(Debug, Clone)]
pub struct Seats(Many, Arc<Mutex<Counts>>);

#[derive(Debug, Default)]
struct Counts {
    all: usize,
    of: HashMap<Place, usize>,
}

/// A seat; free again when it is dropped.
#[derive(Debug)]
pub struct Seat(Seats, Place);

impl Drop for Seat {
    fn drop(&mut self) {
        let mut counts = self.0.locked();
        counts.all -= 1;
        if let Some(mine) = counts.of.get_mut(&self.1) {
            *mine -= 1;
            if *mine == 0 {
                counts.of.remove(&self.1);
            }
        }
    }
}

impl Seats {
    /// So many seats, all free.
    pub fn new(many: Many) -> Self {
        Self(many, Arc::default())
    }

    fn locked(&self) -> MutexGuard<'_, Counts> {
        self.1.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// A seat for somebody from there; `None` where theirs are taken.
    pub fn sit(&self, place: Place) -> Option<Seat> {
        let mut counts = self.locked();
        let mine = counts.of.get(&place).copied().unwrap_or_default();
        if mine >= self.0.from_one || (counts.all >= self.0.in_all && mine >= self.0.always) {
            return None;
        }
        counts.all += 1;
        *counts.of.entry(place).or_default() += 1;
        Some(Seat(self.clone(), place))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::net::IpAddr;

    const MANY: Many = Many { in_all: 1000, from_one: 100, always: 40 };

    fn place(n: u8) -> Place {
        IpAddr::from([10, 0, 0, n]).into()
    }

    #[test]
    fn one_address_fills_its_own_seats_and_no_others() {
        let seats = Seats::new(MANY);
        let greedy: Vec<Seat> = std::iter::from_fn(|| seats.sit(place(1))).collect();
        assert_eq!(greedy.len(), MANY.from_one);
        let other: Vec<Seat> = std::iter::from_fn(|| seats.sit(place(2))).collect();
        assert_eq!(other.len(), MANY.from_one);
        drop(greedy);
        assert!(seats.sit(place(1)).is_some(), "free again");
    }

    #[test]
    fn thirty_two_of_one_address_always_sit() {
        let seats = Seats::new(MANY);
        let crowd: Vec<Seat> = (10..40).flat_map(|n| std::iter::repeat_n(n, MANY.from_one)).filter_map(|n| seats.sit(place(n))).collect();
        assert!(crowd.len() >= MANY.in_all, "{} sit", crowd.len());
        let mine: Vec<Seat> = (0..32).filter_map(|_| seats.sit(place(1))).collect();
        assert_eq!(mine.len(), 32);
        drop((crowd, mine));
        let counts = seats.locked();
        assert_eq!((counts.all, counts.of.len()), (0, 0), "nothing is left of them");
    }
}
