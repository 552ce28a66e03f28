//! Whiles above 4.4 °C: of the whole refrigerator, or of one piece that stood out of it.

use super::hooks::is_duplicate;
use super::retry::retrying;
use super::weighed::Noting;
use super::{Kitchen, NoteId, PieceId};
use crate::Instant;
use crate::entity::{piece, warm_spell};
use crate::error::StoreError;
use jiff::{SignedDuration, Timestamp};
use sea_orm::sea_query::{Expr, ExprTrait};
use sea_orm::{ColumnTrait, ConnectionTrait, DbErr, EntityTrait, PaginatorTrait, QueryFilter, QueryOrder, QuerySelect, Set};
use uuid::Uuid;

/// A while above 4.4 °C.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct WarmNote {
    /// Which.
    pub id: NoteId,
    /// The one piece it concerns; `None` for everything in the refrigerator.
    pub piece: Option<PieceId>,
    /// Since when; `None` while nobody has said.
    pub from: Option<Timestamp>,
    /// Until when; `None` while it lasts.
    pub to: Option<Timestamp>,
    /// How warm, where somebody read it.
    pub air_c: Option<f64>,
}

/// A household looks after no more of them; the latest count.
const MOST: u64 = 200;

/// A glass of water in a refrigerator takes longer than that to cool by a degree (our estimate).
const A_SLIP: SignedDuration = SignedDuration::from_mins(10);

impl Kitchen<'_> {
    /// The latest whiles that stand noted, newest first.
    pub async fn warm_spells(&self) -> Result<Vec<WarmNote>, StoreError> {
        let rows = warm_spell::Entity::find()
            .filter(warm_spell::Column::HouseholdId.eq(self.household.0))
            .filter(warm_spell::Column::DeletedAt.is_null())
            .order_by_desc(warm_spell::Column::NotedAt)
            .limit(MOST);
        Ok(rows.all(&self.store.db).await?.iter().map(read).collect())
    }

    /// Notes one; the same form key never notes two. A piece of another kitchen is not here.
    pub async fn note_warm(&self, form_key: &str, note: WarmNote, now: Timestamp) -> Result<Noting<NoteId>, StoreError> {
        let mine = || warm_spell::Entity::find().filter(warm_spell::Column::HouseholdId.eq(self.household.0));
        let before = || async { mine().filter(warm_spell::Column::FormKey.eq(form_key)).one(&self.store.db).await };
        if let Some(piece) = note.piece {
            let found = piece::Entity::find_by_id(piece.0).filter(piece::Column::HouseholdId.eq(self.household.0));
            found.one(&self.store.db).await?.ok_or(StoreError::NotFound)?;
        }
        if let Some(row) = before().await? {
            return Ok(Noting::AlreadyExists(NoteId(row.id)));
        }
        if mine().filter(warm_spell::Column::DeletedAt.is_null()).count(&self.store.db).await? >= MOST {
            return Ok(Noting::Full);
        }
        let id = NoteId(Uuid::now_v7());
        let row = || self.warm_row(form_key, WarmNote { id, ..note }, now);
        match retrying(|| warm_spell::Entity::insert(row()).exec_without_returning(&self.store.db)).await {
            Ok(_) => Ok(Noting::Created(id)),
            Err(error) if is_duplicate(&error) => {
                Ok(before().await?.map_or(Noting::Created(id), |row| Noting::AlreadyExists(NoteId(row.id))))
            }
            Err(error) => Err(error.into()),
        }
    }

    /// Says since when one lasts.
    pub async fn warm_since(&self, id: NoteId, from: Timestamp) -> Result<(), StoreError> {
        let update = || {
            warm_spell::Entity::update_many()
                .col_expr(warm_spell::Column::FromAt, Expr::value(Instant::from(from)))
                .filter(warm_spell::Column::HouseholdId.eq(self.household.0))
                .filter(warm_spell::Column::Id.eq(id.0))
                .filter(warm_spell::Column::DeletedAt.is_null())
        };
        self.one_of_mine(id).await?;
        retrying(|| update().exec(&self.store.db)).await?;
        Ok(())
    }

    /// Takes one back, or puts it in again.
    pub async fn set_warm_deleted(&self, id: NoteId, at: Option<Timestamp>) -> Result<(), StoreError> {
        let update = || {
            warm_spell::Entity::update_many()
                .col_expr(warm_spell::Column::DeletedAt, Expr::value(at.map(Instant::from)))
                .filter(warm_spell::Column::HouseholdId.eq(self.household.0))
                .filter(warm_spell::Column::Id.eq(id.0))
        };
        self.one_of_mine(id).await?;
        retrying(|| update().exec(&self.store.db)).await?;
        Ok(())
    }

    async fn one_of_mine(&self, id: NoteId) -> Result<(), StoreError> {
        let mine = warm_spell::Entity::find_by_id(id.0).filter(warm_spell::Column::HouseholdId.eq(self.household.0));
        mine.one(&self.store.db).await?.map(|_| ()).ok_or(StoreError::NotFound)
    }

    /// The refrigerator's air was read: too warm opens a while that lasts, cold again closes it, and takes it back where it was read only
    /// minutes before.
    pub(super) async fn air_was_read<C: ConnectionTrait>(&self, db: &C, too_warm: bool, air_c: f64, at: Timestamp) -> Result<(), DbErr> {
        let lasting = || {
            warm_spell::Column::HouseholdId
                .eq(self.household.0)
                .and(warm_spell::Column::PieceId.is_null())
                .and(warm_spell::Column::ToAt.is_null())
                .and(warm_spell::Column::DeletedAt.is_null())
        };
        let update = warm_spell::Entity::update_many().filter(lasting());
        if !too_warm {
            // Read anew at once, the first reading was a slip: no refrigerator cools down so fast.
            let slip = warm_spell::Column::FromAt.is_null().and(warm_spell::Column::NotedAt.gte(Instant::from(at - A_SLIP)));
            let taken_back = warm_spell::Entity::update_many().filter(lasting().and(slip));
            taken_back.col_expr(warm_spell::Column::DeletedAt, Expr::value(Instant::from(at))).exec(db).await?;
            update.col_expr(warm_spell::Column::ToAt, Expr::value(Instant::from(at))).exec(db).await?;
            return Ok(());
        }
        if warm_spell::Entity::find().filter(lasting()).count(db).await? > 0 {
            update.col_expr(warm_spell::Column::AirC, Expr::value(air_c)).exec(db).await?;
            return Ok(());
        }
        let id = NoteId(Uuid::now_v7());
        let note = WarmNote { id, piece: None, from: None, to: None, air_c: Some(air_c) };
        warm_spell::Entity::insert(self.warm_row(&id.0.to_string(), note, at)).exec_without_returning(db).await?;
        Ok(())
    }

    fn warm_row(&self, form_key: &str, note: WarmNote, now: Timestamp) -> warm_spell::ActiveModel {
        warm_spell::ActiveModel {
            id: Set(note.id.0),
            household_id: Set(self.household.0),
            piece_id: Set(note.piece.map(|piece| piece.0)),
            form_key: Set(form_key.to_owned()),
            from_at: Set(note.from.map(Instant::from)),
            to_at: Set(note.to.map(Instant::from)),
            air_c: Set(note.air_c),
            noted_at: Set(now.into()),
            deleted_at: Set(None),
        }
    }
}

fn read(row: &warm_spell::Model) -> WarmNote {
    WarmNote {
        id: NoteId(row.id),
        piece: row.piece_id.map(PieceId),
        from: row.from_at.map(Instant::timestamp),
        to: row.to_at.map(Instant::timestamp),
        air_c: row.air_c,
    }
}
