//! What happened to a piece: one table, added to and never changed.

use super::line::{Answer, Delivery, Line};
use super::retry::retrying;
use super::{CookId, Kitchen, PieceId};
use crate::Instant;
use crate::entity::{event, piece};
use crate::error::{StoreError, is_away, is_retryable};
use rauchkeller_contract::{EVENT_KINDS, event_body, event_kind, read_event_body};
use rauchkeller_core::run::{Event, EventId, Record, What, live};
use sea_orm::sea_query::Expr;
use sea_orm::{ColumnTrait, DatabaseTransaction, DbErr, EntityTrait, QueryFilter, QueryOrder, QuerySelect, Set, TransactionTrait};
use std::collections::{HashMap, HashSet};
use uuid::Uuid;

/// A piece keeps no more events.
pub const MOST_EVENTS: usize = 5000;
/// The last of them are kept for what must not fail: ticks, what takes something back, answers, how it was.
const KEPT_FREE: usize = 100;

/// Whether an event finds room where others do not any more.
fn must_fit(what: &What) -> bool {
    use What::{Answered, PlanRevised, TaskBegan, TaskEnded, Tasted, Voided};
    matches!(what, TaskBegan { .. } | TaskEnded { .. } | Voided(_) | Answered { .. } | Tasted { .. } | PlanRevised { .. })
}

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

/// What a piece comes to while events are added to it.
struct Adding {
    version: i32,
    many: usize,
    /// Events of this household that are known by the ids that were handed in, and whose they are.
    there: HashMap<u128, (Uuid, Option<Event>)>,
    /// What is new, in the order it came.
    fresh: Vec<Event>,
}

pub(super) fn read(row: &event::Model) -> Option<Event> {
    let body = serde_json::from_str(&row.body).ok()?;
    let what = read_event_body(&row.kind, &body).ok()?;
    Some(Event {
        said_at: row.said_at.map(Instant::timestamp),
        by: row.cook_id.map(|cook| cook.as_u128()),
        ..Event::new(EventId(row.id.as_u128()), row.at.timestamp(), row.noted_at.timestamp(), what)
    })
}

/// Something that a newer version of the program noted, and that this one has no word for.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct UnknownEvent {
    /// What it is called.
    pub kind: String,
    /// When it happened.
    pub at: jiff::Timestamp,
    /// What was noted, as it is stored.
    pub body: String,
}

/// So many of them are listed.
const MOST_UNKNOWN: u64 = 50;

impl Kitchen<'_> {
    /// What was noted of a piece in kinds that this version does not know, the latest first.
    pub async fn unknown_events(&self, piece: PieceId) -> Result<Vec<UnknownEvent>, StoreError> {
        let rows = event::Entity::find()
            .filter(event::Column::HouseholdId.eq(self.household.0))
            .filter(event::Column::PieceId.eq(piece.0))
            .filter(event::Column::Live.eq(true))
            .filter(event::Column::Kind.is_not_in(EVENT_KINDS))
            .order_by_desc(event::Column::At)
            .limit(MOST_UNKNOWN)
            .all(&self.store.db)
            .await?;
        Ok(rows.into_iter().map(|row| UnknownEvent { kind: row.kind, at: row.at.timestamp(), body: row.body }).collect())
    }

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
        let line = Line::of(&self.store.lines, id);
        let mut told = line.hand_in(self.household, id, Delivery { events: events.to_vec(), cook, seen });
        let answer = tokio::select! {
            // Whoever has an answer carries nothing for others: they would all come one by one again.
            biased;
            answer = &mut told => answer,
            _turn = line.turn() => {
                let (deliveries, answers) = line.take(self.household, id);
                if !deliveries.is_empty() {
                    self.carry(id, &deliveries, answers).await;
                }
                told.await
            }
        };
        // Whoever had it with them went away in the middle: whether it was written only the database knows.
        answer.unwrap_or_else(|_| Err(StoreError::Away("given up while it was written".into())))
    }

    /// Adds what several handed in, and tells each what became of theirs.
    async fn carry(&self, id: PieceId, deliveries: &[Delivery], answers: Vec<Answer>) {
        // Nobody need be there any more to be told.
        match retrying(|| self.append_once(id, deliveries)).await {
            Ok(Some(outcomes)) => answers.into_iter().zip(outcomes).for_each(|(answer, outcome)| drop(answer.send(Ok(outcome)))),
            Ok(None) => answers.into_iter().for_each(|answer| drop(answer.send(Err(StoreError::NotFound)))),
            Err(error) if deliveries.len() > 1 && !is_retryable(&error) && !is_away(&error) => {
                // Something the database will not have in one of them is nothing the others should suffer from.
                for (answer, one) in answers.into_iter().zip(deliveries) {
                    let alone = retrying(|| self.append_once(id, std::slice::from_ref(one))).await;
                    let outcome =
                        alone.map_err(StoreError::from).and_then(|done| done.and_then(|mut all| all.pop()).ok_or(StoreError::NotFound));
                    drop(answer.send(outcome));
                }
            }
            Err(error) => answers.into_iter().for_each(|answer| drop(answer.send(Err(error.clone().into())))),
        }
    }

    async fn append_once(&self, id: PieceId, deliveries: &[Delivery]) -> Result<Option<Vec<Appended>>, DbErr> {
        let transaction = self.store.db.begin().await?;
        // The piece's row is the lock: two cooks noting at once go one after the other.
        let Some(row) = self.locked(id, &transaction).await? else { return Ok(None) };
        let outcomes = self.append_to(&row, deliveries, &transaction).await?;
        if outcomes.iter().any(|outcome| matches!(outcome, Appended::Done { accepted: 1.., .. })) {
            self.tell(&transaction).await?;
            transaction.commit().await?;
        }
        Ok(Some(outcomes))
    }

    /// Adds to a locked piece what was handed in, one after the other, each of them whole or not at all.
    pub(super) async fn append_to(
        &self,
        row: &piece::Model,
        deliveries: &[Delivery],
        transaction: &DatabaseTransaction,
    ) -> Result<Vec<Appended>, DbErr> {
        let ids: Vec<Uuid> = deliveries.iter().flat_map(|one| &one.events).map(|e| Uuid::from_u128(e.id.0)).collect();
        let there = self.events_query().filter(event::Column::Id.is_in(ids)).all(transaction).await?;
        let mut adding = Adding {
            version: row.version,
            many: usize::try_from(row.events).unwrap_or_default(),
            there: there.iter().map(|r| (r.id.as_u128(), (r.piece_id, read(r)))).collect(),
            fresh: Vec::new(),
        };
        let mut outcomes = Vec::with_capacity(deliveries.len());
        for one in deliveries {
            outcomes.push(self.add_one(row.id, one, &mut adding, transaction).await?);
        }
        let Adding { version, many, fresh, .. } = adding;
        if fresh.is_empty() {
            return Ok(outcomes);
        }
        let mut record = self.record_in(row, transaction).await?;
        self.insert_events(PieceId(row.id), &fresh, transaction).await?;
        if !record.go_on(&fresh) {
            // Something of before is put in, or something is taken back: all is folded anew.
            let all = self.events_in(row.id, transaction).await?;
            if all.iter().any(|e| matches!(e.what, What::Voided(_))) {
                self.mark_live(row.id, &all, transaction).await?;
            }
            record = Record::of(&all);
        }
        self.follow(row, &record, version, many, transaction).await?;
        self.keep_fold(row.id, i32::try_from(many).unwrap_or(i32::MAX), &record, transaction).await?;
        Ok(outcomes)
    }

    /// Whether what one sender handed in is added, after what others did.
    async fn add_one(
        &self,
        piece: Uuid,
        one: &Delivery,
        adding: &mut Adding,
        transaction: &DatabaseTransaction,
    ) -> Result<Appended, DbErr> {
        let mut fresh: Vec<Event> = Vec::new();
        for new in &one.events {
            let before = fresh.iter().find(|f| f.id == new.id).map(|f| (piece, Some(f.clone())));
            match before.or_else(|| adding.there.get(&new.id.0).cloned()) {
                None => fresh.push(as_kept(new, one.cook)),
                Some((of, Some(known))) if of == piece && same(&known, new) => {}
                Some((_, known)) => return Ok(Appended::Clash(Box::new(known.unwrap_or_else(|| new.clone())))),
            }
        }
        let (accepted, repeated) = (fresh.len(), one.events.len() - fresh.len());
        if accepted == 0 {
            return Ok(Appended::Done { accepted, repeated });
        }
        if one.seen.is_some_and(|seen| seen != adding.version) {
            return Ok(Appended::Changed);
        }
        let many = adding.many + accepted;
        if many > MOST_EVENTS || (many > MOST_EVENTS - KEPT_FREE && !fresh.iter().all(|e| must_fit(&e.what))) {
            return Ok(Appended::Full);
        }
        if let Some(of) = self.names_nothing(piece, &adding.fresh, &fresh, transaction).await? {
            return Ok(Appended::NamesNothing(of));
        }
        (adding.many, adding.version) = (many, adding.version + 1);
        adding.there.extend(fresh.iter().map(|e| (e.id.0, (piece, Some(e.clone())))));
        adding.fresh.append(&mut fresh);
        Ok(Appended::Done { accepted, repeated })
    }

    /// The first event that takes back one which is not of this piece, or comes later in its batch.
    async fn names_nothing(
        &self,
        piece: Uuid,
        earlier: &[Event],
        fresh: &[Event],
        transaction: &DatabaseTransaction,
    ) -> Result<Option<EventId>, DbErr> {
        let named = |e: &Event| if let What::Voided(of) = e.what { Some(of) } else { None };
        let ids: Vec<Uuid> = fresh.iter().filter_map(named).map(|of| Uuid::from_u128(of.0)).collect();
        if ids.is_empty() {
            return Ok(None);
        }
        let there = self.events_query().filter(event::Column::PieceId.eq(piece)).filter(event::Column::Id.is_in(ids));
        let stored = there.all(transaction).await?;
        let mut before: HashSet<EventId> = stored.iter().map(|row| EventId(row.id.as_u128())).chain(earlier.iter().map(|e| e.id)).collect();
        for new in fresh {
            if let Some(of) = named(new).filter(|of| !before.contains(of)) {
                return Ok(Some(of));
            }
            before.insert(new.id);
        }
        Ok(None)
    }

    pub(super) async fn insert_events(&self, piece: PieceId, events: &[Event], transaction: &DatabaseTransaction) -> Result<(), DbErr> {
        if events.is_empty() {
            return Ok(());
        }
        let rows = events.iter().map(|e| event::ActiveModel {
            household_id: Set(self.household.0),
            id: Set(Uuid::from_u128(e.id.0)),
            piece_id: Set(piece.0),
            kind: Set(event_kind(&e.what).to_owned()),
            at: Set(e.at.into()),
            said_at: Set(e.said_at.map(Into::into)),
            noted_at: Set(e.noted_at.into()),
            cook_id: Set(e.by.map(Uuid::from_u128)),
            body: Set(event_body(&e.what).to_string()),
            live: Set(true),
        });
        event::Entity::insert_many(rows).exec_without_returning(transaction).await?;
        Ok(())
    }

    /// Writes down which events count, so that lists can ask for them.
    async fn mark_live(&self, piece: Uuid, all: &[Event], transaction: &DatabaseTransaction) -> Result<(), DbErr> {
        let counts: HashSet<EventId> = live(all).iter().map(|e| e.id).collect();
        let marked: Vec<(Uuid, bool)> = event::Entity::find()
            .select_only()
            .columns([event::Column::Id, event::Column::Live])
            .filter(event::Column::HouseholdId.eq(self.household.0))
            .filter(event::Column::PieceId.eq(piece))
            .into_tuple()
            .all(transaction)
            .await?;
        for lives in [true, false] {
            let wrong = |(id, live): &&(Uuid, bool)| *live != lives && counts.contains(&EventId(id.as_u128())) == lives;
            let ids: Vec<Uuid> = marked.iter().filter(wrong).map(|(id, _)| *id).collect();
            if ids.is_empty() {
                continue;
            }
            event::Entity::update_many()
                .col_expr(event::Column::Live, Expr::value(lives))
                .filter(event::Column::HouseholdId.eq(self.household.0))
                .filter(event::Column::Id.is_in(ids))
                .exec(transaction)
                .await?;
        }
        Ok(())
    }

    /// What lists read of a piece follows its record: its version, how many were noted, whether it was eaten, which of its plans
    /// stands.
    async fn follow(
        &self,
        row: &piece::Model,
        record: &Record,
        version: i32,
        many: usize,
        transaction: &DatabaseTransaction,
    ) -> Result<(), DbErr> {
        let plan = record.revised.map_or(1, |revised| super::kitchen::number(revised.says));
        let finished = row.last_task.as_ref().and_then(|last| record.task(last).ended).or(record.first_tasted);
        let update = piece::Entity::update_many()
            .col_expr(piece::Column::Version, Expr::value(version))
            .col_expr(piece::Column::Events, Expr::value(i32::try_from(many).unwrap_or(i32::MAX)))
            .col_expr(piece::Column::FinishedAt, Expr::value(finished.map(Instant::from)));
        update.filter(piece::Column::Id.eq(row.id)).exec(transaction).await?;
        if plan != row.plan_version {
            self.stand_by_plan(row.id, plan, transaction).await?;
        }
        Ok(())
    }
}

/// An event as the database keeps it: moments in microseconds, masses as they are written, and whose note it is.
fn as_kept(event: &Event, cook: Option<CookId>) -> Event {
    let micro = |at: jiff::Timestamp| Instant::from(at).timestamp();
    let written = read_event_body(event_kind(&event.what), &event_body(&event.what));
    Event {
        at: micro(event.at),
        said_at: event.said_at.map(micro),
        noted_at: micro(event.noted_at),
        by: cook.map(|cook| cook.0.as_u128()),
        what: written.unwrap_or_else(|_| event.what.clone()),
        id: event.id,
    }
}

/// Whether two say the same, by what was said and the sender's own clock; when it was noted is only shown. An event that was
/// kept before the sender's own moment was, is known by the moment it was put right to, too.
fn same(kept: &Event, new: &Event) -> bool {
    let micro = |at: jiff::Timestamp| Instant::from(at).timestamp();
    let moment = micro(kept.as_said()) == micro(new.as_said()) || (kept.said_at.is_none() && micro(kept.at) == micro(new.at));
    moment && event_kind(&kept.what) == event_kind(&new.what) && event_body(&kept.what) == event_body(&new.what)
}
