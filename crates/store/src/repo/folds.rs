//! What the events of a piece come to, kept beside them: a piece with thousands of notes stands as quickly as one with three.
//!
//! A fold stands for all events of its piece as long as it counts as many as the piece does and was folded by the rules of
//! today; of any other nothing is read, and all is folded anew from the events, which are what counts.

use super::kitchen::number;
use super::{Kitchen, PieceId};
use crate::entity::{event, piece, piece_fold};
use crate::error::StoreError;
use rauchkeller_contract::{RECORD_RULES, read_record, record_text};
use rauchkeller_core::run::{Event, Record};
use sea_orm::{ColumnTrait, ConnectionTrait, DatabaseTransaction, DbErr, EntityTrait, QueryFilter, Statement};
use std::collections::HashMap;
use std::sync::Arc;
use uuid::Uuid;

impl Kitchen<'_> {
    /// Everything that was noted of a piece, in the order it arrived.
    pub async fn events(&self, id: PieceId) -> Result<Vec<Event>, StoreError> {
        let mine = self.events_query().filter(event::Column::PieceId.eq(id.0));
        Ok(mine.all(&self.store.db).await?.iter().filter_map(super::events::read).collect())
    }

    /// Whether an event of this id was noted of a piece.
    pub async fn has_event(&self, id: PieceId, event: rauchkeller_core::run::EventId) -> Result<bool, StoreError> {
        let mine = self.events_query().filter(event::Column::PieceId.eq(id.0)).filter(event::Column::Id.eq(Uuid::from_u128(event.0)));
        Ok(mine.one(&self.store.db).await?.is_some())
    }

    /// The records of pieces: by their folds, or folded anew and kept.
    pub(super) async fn records_of(&self, rows: &[piece::Model]) -> Result<HashMap<Uuid, Arc<Record>>, StoreError> {
        let folds = piece_fold::Entity::find()
            .filter(piece_fold::Column::HouseholdId.eq(self.household.0))
            .filter(piece_fold::Column::PieceId.is_in(rows.iter().filter(|row| row.events > 0).map(|row| row.id)))
            .all(&self.store.db)
            .await?;
        let mut records: HashMap<Uuid, Arc<Record>> = HashMap::new();
        let mut anew = Vec::new();
        for row in rows {
            match folds.iter().find(|fold| fold.piece_id == row.id).and_then(|fold| valid(fold, row.events)) {
                _ if row.events == 0 => drop(records.insert(row.id, Arc::default())),
                Some(record) => drop(records.insert(row.id, Arc::new(record))),
                None => anew.push(row),
            }
        }
        if anew.is_empty() {
            return Ok(records);
        }
        let mut events = self.events_of(anew.iter().map(|row| row.id).collect()).await?;
        for row in anew {
            let events = events.remove(&row.id).unwrap_or_default();
            let record = Record::of(&events);
            // Where it cannot be kept now, the next who looks folds it again.
            if let Err(error) = self.keep_fold(row.id, row.events, &record, &self.store.db).await {
                tracing::debug!(%error, "a fold was not kept");
            }
            records.insert(row.id, Arc::new(record));
        }
        Ok(records)
    }

    /// The record of a locked piece.
    pub(super) async fn record_in(&self, row: &piece::Model, transaction: &DatabaseTransaction) -> Result<Record, DbErr> {
        if row.events == 0 {
            return Ok(Record::default());
        }
        let fold = piece_fold::Entity::find_by_id(row.id).filter(piece_fold::Column::HouseholdId.eq(self.household.0));
        match fold.one(transaction).await?.and_then(|fold| valid(&fold, row.events)) {
            Some(record) => Ok(record),
            None => Ok(Record::of(&self.events_in(row.id, transaction).await?)),
        }
    }

    /// All events of a locked piece.
    pub(super) async fn events_in(&self, piece: Uuid, transaction: &DatabaseTransaction) -> Result<Vec<Event>, DbErr> {
        let mine = self.events_query().filter(event::Column::PieceId.eq(piece));
        Ok(mine.all(transaction).await?.iter().filter_map(super::events::read).collect())
    }

    /// Keeps the fold of so many events, if the piece has just as many. Never tried again by itself: a conflict has rolled back the
    /// whole transaction it stands in, and what came after would be written without what came before.
    pub(super) async fn keep_fold(&self, piece: Uuid, events: i32, record: &Record, on: &impl ConnectionTrait) -> Result<(), DbErr> {
        let sql = "INSERT INTO piece_folds (piece_id, household_id, rules, events, body) \
            SELECT id, household_id, ?, events, ? FROM pieces WHERE id = ? AND household_id = ? AND events = ? \
            ON DUPLICATE KEY UPDATE rules = VALUES(rules), events = VALUES(events), body = VALUES(body)";
        let (rules, body) = (number(RECORD_RULES), record_text(record));
        let values = [rules.into(), body.into(), piece.into(), self.household.0.into(), events.into()];
        on.execute_raw(Statement::from_sql_and_values(on.get_database_backend(), sql, values)).await?;
        Ok(())
    }
}

/// The record of a fold, where it stands for so many events and was folded by the rules of today.
fn valid(fold: &piece_fold::Model, events: i32) -> Option<Record> {
    if fold.events != events || fold.rules != number(RECORD_RULES) {
        return None;
    }
    read_record(&fold.body)
}
