//! What happened to a piece: one table, added to and never changed.

use super::retry::retrying;
use super::{CookId, Kitchen, PieceId};
use crate::Instant;
use crate::entity::{event, piece};
use crate::error::StoreError;
use rauchkeller_contract::{event_body, event_kind, read_event_body};
use rauchkeller_core::run::{Event, EventId, What, live};
use sea_orm::sea_query::{Expr, ExprTrait};
use sea_orm::{ColumnTrait, DatabaseTransaction, DbErr, EntityTrait, QueryFilter, QueryOrder, QuerySelect, Set, TransactionTrait};
use std::collections::{HashMap, HashSet};
use uuid::Uuid;

/// A piece keeps no more events.
pub const MOST_EVENTS: usize = 5000;

/// What appending did.
#[derive(Debug, Clone, PartialEq)]
pub enum Appended {
    /// So many are new; so many were there already, just as they are.
    Done {
        /// New.
        accepted: usize,
        /// There before.
        repeated: usize,
    },
    /// An event of this id is there with other content; nothing was added.
    Clash(Box<Event>),
    /// An event takes back one that is not of this piece, or comes later in its batch; nothing was added.
    NamesNothing(EventId),
    /// There is no room for more.
    Full,
    /// Somebody changed the piece after it was looked at: look again.
    Changed,
}

fn read(row: &event::Model) -> Option<Event> {
    let body = serde_json::from_str(&row.body).ok()?;
    let what = read_event_body(&row.kind, &body).ok()?;
    Some(Event { id: EventId(row.id.as_u128()), at: row.at.timestamp(), noted_at: row.noted_at.timestamp(), what })
}

impl Kitchen<'_> {
    /// What happened to several pieces, each in the order it arrived.
    pub(super) async fn events_of(&self, pieces: Vec<Uuid>) -> Result<HashMap<Uuid, Vec<Event>>, StoreError> {
        let rows = self.events_query().filter(event::Column::PieceId.is_in(pieces)).all(&self.store.db).await?;
        let mut found: HashMap<Uuid, Vec<Event>> = HashMap::new();
        for row in &rows {
            found.entry(row.piece_id).or_default().extend(read(row));
        }
        Ok(found)
    }

    /// The latest events of a kind that count, of all pieces, the newest first.
    pub(super) async fn latest_events(&self, kind: &str, most: u64) -> Result<Vec<(Uuid, Event)>, StoreError> {
        let rows = event::Entity::find()
            .filter(event::Column::HouseholdId.eq(self.household.0))
            .filter(event::Column::Kind.eq(kind))
            .filter(event::Column::Live.eq(true))
            .order_by_desc(event::Column::At)
            .limit(most)
            .all(&self.store.db)
            .await?;
        Ok(rows.iter().filter_map(|row| Some((row.piece_id, read(row)?))).collect())
    }

    pub(super) fn events_query(&self) -> sea_orm::Select<event::Entity> {
        let mine = event::Entity::find().filter(event::Column::HouseholdId.eq(self.household.0));
        mine.order_by(Expr::cust("arrived"), sea_orm::Order::Asc)
    }

    /// Adds events to a piece, all or none. The same event sent again changes nothing.
    ///
    /// With `seen` they are added only while the piece still has the version that was looked at: what is a difference holds only
    /// against what it was taken from.
    pub async fn append(&self, id: PieceId, events: &[Event], cook: Option<CookId>, seen: Option<i32>) -> Result<Appended, StoreError> {
        retrying(|| self.append_once(id, events, cook, seen)).await?.ok_or(StoreError::NotFound)
    }

    async fn append_once(&self, id: PieceId, events: &[Event], cook: Option<CookId>, seen: Option<i32>) -> Result<Option<Appended>, DbErr> {
        let transaction = self.store.db.begin().await?;
        // The piece's row is the lock: two cooks noting at once go one after the other.
        let Some(row) = self.locked(id, &transaction).await? else { return Ok(None) };
        let outcome = self.append_to(&row, events, cook, seen, &transaction).await?;
        if matches!(outcome, Appended::Done { .. }) {
            transaction.commit().await?;
        }
        Ok(Some(outcome))
    }

    /// Adds events to a locked piece.
    pub(super) async fn append_to(
        &self,
        row: &piece::Model,
        events: &[Event],
        cook: Option<CookId>,
        seen: Option<i32>,
        transaction: &DatabaseTransaction,
    ) -> Result<Appended, DbErr> {
        let id = PieceId(row.id);
        let ids: Vec<Uuid> = events.iter().map(|e| Uuid::from_u128(e.id.0)).collect();
        let there = self.events_query().filter(event::Column::Id.is_in(ids)).all(transaction).await?;
        let mut fresh: Vec<Event> = Vec::new();
        for new in events {
            let stored = there.iter().find(|r| r.id.as_u128() == new.id.0);
            let known =
                stored.map(|r| (r.piece_id, read(r))).or_else(|| fresh.iter().find(|f| f.id == new.id).map(|f| (row.id, Some(f.clone()))));
            match known {
                None => fresh.push(cut(new)),
                Some((piece, Some(known))) if piece == row.id && same(&known, new) => {}
                Some((_, known)) => return Ok(Appended::Clash(Box::new(known.unwrap_or_else(|| new.clone())))),
            }
        }
        let repeated = events.len() - fresh.len();
        if fresh.is_empty() {
            return Ok(Appended::Done { accepted: 0, repeated });
        }
        if seen.is_some_and(|seen| seen != row.version) {
            return Ok(Appended::Changed);
        }
        let mut all: Vec<Event> =
            self.events_query().filter(event::Column::PieceId.eq(row.id)).all(transaction).await?.iter().filter_map(read).collect();
        if all.len() + fresh.len() > MOST_EVENTS {
            return Ok(Appended::Full);
        }
        let mut before: HashSet<EventId> = all.iter().map(|e| e.id).collect();
        for new in &fresh {
            if let What::Voided(of) = new.what
                && !before.contains(&of)
            {
                return Ok(Appended::NamesNothing(of));
            }
            before.insert(new.id);
        }
        self.insert_events(id, &fresh, cook, transaction).await?;
        let accepted = fresh.len();
        let voids = fresh.iter().any(|e| matches!(e.what, What::Voided(_)));
        all.append(&mut fresh);
        if voids {
            self.mark_live(row.id, &all, transaction).await?;
        }
        self.follow(row, &all, transaction).await?;
        Ok(Appended::Done { accepted, repeated })
    }

    pub(super) async fn insert_events(
        &self,
        piece: PieceId,
        events: &[Event],
        cook: Option<CookId>,
        transaction: &DatabaseTransaction,
    ) -> Result<(), DbErr> {
        if events.is_empty() {
            return Ok(());
        }
        let rows = events.iter().map(|e| event::ActiveModel {
            household_id: Set(self.household.0),
            id: Set(Uuid::from_u128(e.id.0)),
            piece_id: Set(piece.0),
            kind: Set(event_kind(&e.what).to_owned()),
            at: Set(e.at.into()),
            noted_at: Set(e.noted_at.into()),
            cook_id: Set(cook.map(|cook| cook.0)),
            body: Set(event_body(&e.what).to_string()),
            live: Set(true),
        });
        event::Entity::insert_many(rows).exec_without_returning(transaction).await?;
        Ok(())
    }

    /// Writes down which events count, so that lists can ask for them.
    async fn mark_live(&self, piece: Uuid, all: &[Event], transaction: &DatabaseTransaction) -> Result<(), DbErr> {
        let counts: HashSet<EventId> = live(all).iter().map(|e| e.id).collect();
        for lives in [true, false] {
            let ids = all.iter().filter(|e| counts.contains(&e.id) == lives).map(|e| Uuid::from_u128(e.id.0));
            event::Entity::update_many()
                .col_expr(event::Column::Live, Expr::value(lives))
                .filter(event::Column::HouseholdId.eq(self.household.0))
                .filter(event::Column::PieceId.eq(piece))
                .filter(event::Column::Id.is_in(ids))
                .exec(transaction)
                .await?;
        }
        Ok(())
    }

    /// What lists read of a piece follows its events: its version, whether it was eaten, which of its plans stands.
    async fn follow(&self, row: &piece::Model, all: &[Event], transaction: &DatabaseTransaction) -> Result<(), DbErr> {
        let live = live(all);
        let mut plan = 1;
        let mut finished: Option<jiff::Timestamp> = None;
        for event in &live {
            match &event.what {
                What::PlanRevised { version, .. } => plan = super::kitchen::number(*version),
                What::TaskEnded { task } if row.last_task.as_ref() == Some(task) => {
                    finished.get_or_insert(event.at);
                }
                _ => {}
            }
        }
        let tasted = live.iter().find(|e| matches!(e.what, What::Tasted { .. })).map(|e| e.at);
        let update = piece::Entity::update_many()
            .col_expr(piece::Column::Version, Expr::col(piece::Column::Version).add(1))
            .col_expr(piece::Column::FinishedAt, Expr::value(finished.or(tasted).map(Instant::from)));
        update.filter(piece::Column::Id.eq(row.id)).exec(transaction).await?;
        if plan != row.plan_version {
            self.stand_by_plan(row.id, plan, transaction).await?;
        }
        Ok(())
    }
}

/// Moments as the database keeps them.
fn cut(event: &Event) -> Event {
    let micro = |at: jiff::Timestamp| Instant::from(at).timestamp();
    Event { at: micro(event.at), noted_at: micro(event.noted_at), ..event.clone() }
}

/// Whether two say the same; when it was noted is only shown.
fn same(a: &Event, b: &Event) -> bool {
    let (a, b) = (cut(a), cut(b));
    a.at == b.at && event_kind(&a.what) == event_kind(&b.what) && event_body(&a.what) == event_body(&b.what)
}
