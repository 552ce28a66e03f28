//! The board as it was drawn for this moment: the laptop on the table and the phone on the wall ask for the same.

use super::view::CellarView;
use crate::piece::{Opened, Unread};
use jiff::ZonedDateTime;
use jiff::tz::TimeZone;
use rauchkeller_core::run::Standing;
use rauchkeller_store::{HouseholdId, WarmNote};
use std::collections::HashMap;
use std::sync::{Arc, LazyLock, Mutex, PoisonError};

/// One piece as the board shows it.
struct Piece {
    stood: Arc<Standing>,
    warm: Vec<WarmNote>,
}

/// What a board is drawn from: the kitchen's zone, each piece as it stood, and how warm it lay. A standing belongs to one
/// version of one piece.
struct DrawnFrom {
    zone: TimeZone,
    pieces: Vec<Piece>,
}

/// The board each kitchen saw last.
type Boards = HashMap<HouseholdId, (DrawnFrom, Arc<CellarView>)>;

static LAST: LazyLock<Mutex<Boards>> = LazyLock::new(Mutex::default);

/// So many kitchens' boards are kept; then it begins anew.
const MOST: usize = 100;

impl DrawnFrom {
    /// `None` where a piece was opened at another moment than now.
    fn of(pieces: &[Opened], now: &ZonedDateTime) -> Option<Self> {
        let stands = |opened: &Opened| Some(Piece { stood: opened.stood_at(now)?.clone(), warm: opened.piece.warm.clone() });
        Some(Self { zone: now.time_zone().clone(), pieces: pieces.iter().map(stands).collect::<Option<_>>()? })
    }

    fn is(&self, other: &Self) -> bool {
        let same = |(a, b): (&Piece, &Piece)| Arc::ptr_eq(&a.stood, &b.stood) && a.warm == b.warm;
        self.zone == other.zone && self.pieces.len() == other.pieces.len() && self.pieces.iter().zip(&other.pieces).all(same)
    }
}

/// The Cellar of a household; drawn anew where any piece stands otherwise than it did.
pub fn seen(home: HouseholdId, pieces: &[Opened], unread: &[Unread], now: &ZonedDateTime) -> Arc<CellarView> {
    let last = || LAST.lock().unwrap_or_else(PoisonError::into_inner);
    // One that cannot be read says so in words of its own, which are not kept.
    let Some(from) = DrawnFrom::of(pieces, now).filter(|from| unread.is_empty() && !from.pieces.is_empty()) else {
        return Arc::new(CellarView::of(pieces, unread, now));
    };
    if let Some((_, view)) = last().get(&home).filter(|(before, _)| before.is(&from)) {
        return view.clone();
    }
    let view = Arc::new(CellarView::of(pieces, unread, now));
    let mut all = last();
    if all.len() >= MOST {
        all.clear();
    }
    all.insert(home, (from, view.clone()));
    view
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::piece::testing::opened;
    use rauchkeller_store::NoteId;
    use uuid::Uuid;

    #[test]
    fn what_stands_otherwise_is_drawn_anew() {
        let home = HouseholdId(Uuid::now_v7());
        let now: ZonedDateTime = "2026-12-12T07:00[Europe/Vienna]".parse().unwrap();
        let salted = opened(&[("salt", "2026-12-11T13:00:00Z"), ("chill", "2026-12-11T13:05:00Z")]).at(&now);
        let one = || vec![salted.clone()];
        let first = seen(home, &one(), &[], &now);
        assert!(Arc::ptr_eq(&first, &seen(home, &one(), &[], &now)), "the same moment");
        assert!(!Arc::ptr_eq(&first, &seen(HouseholdId(Uuid::now_v7()), &one(), &[], &now)), "another kitchen has its own");
        let two = vec![salted.clone(), opened(&[]).at(&now)];
        assert!(!Arc::ptr_eq(&first, &seen(home, &two, &[], &now)), "another piece");
        let mut warm = one();
        warm[0].piece.warm = vec![WarmNote { id: NoteId(Uuid::nil()), piece: None, from: None, to: None, air_c: Some(14.0) }];
        let stopped = seen(home, &warm, &[], &now);
        assert!(stopped.stop.is_some() && first.stop.is_none(), "the refrigerator is too warm");
        let later = now.checked_add(jiff::SignedDuration::from_hours(2)).unwrap();
        assert!(!Arc::ptr_eq(&stopped, &seen(home, &[salted.at(&later)], &[], &later)), "another moment");
    }
}
