//! Bowls of a piece: one a face or portion, weighed before hands are raw, used up one by one. And salting by eye.

use super::retry::retrying;
use super::{BowlId, Kitchen, PieceId};
use crate::entity::{bowl, by_eye, piece};
use crate::error::StoreError;
use jiff::Timestamp;
use sea_orm::sea_query::{Expr, SimpleExpr};
use sea_orm::{ColumnTrait, DbErr, EntityTrait, QueryFilter, QueryOrder, QuerySelect, Set, TransactionTrait};
use std::collections::HashMap;
use uuid::Uuid;

/// A bowl to be weighed.
#[derive(Debug, Clone, PartialEq)]
pub struct NewBowl {
    /// Stable name of the face, or `portion-1`.
    pub face: String,
    /// What a cook calls it.
    pub name: String,
    /// What the scale is to show.
    pub target_g: f64,
}

/// A bowl as it stands.
#[derive(Debug, Clone, PartialEq)]
pub struct Bowl {
    /// Which.
    pub id: BowlId,
    /// Stable name of the face, or `portion-1`.
    pub face: String,
    /// What a cook calls it.
    pub name: String,
    /// What the scale is to show.
    pub target_g: f64,
    /// What the scale showed with the empty bowl on it.
    pub tare_g: Option<f64>,
    /// What was weighed into it.
    pub weighed_g: Option<f64>,
    /// When it was used up.
    pub used_at: Option<Timestamp>,
}

/// What was salted by eye or came back.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct ByEye {
    /// The tub before.
    pub tub_before_g: Option<f64>,
    /// The tub after.
    pub tub_after_g: Option<f64>,
    /// Mix left in its bowl.
    pub mix_left_g: Option<f64>,
    /// Raised by every change; 0 for nothing noted yet.
    pub version: i32,
}

impl ByEye {
    /// Grams that left the tub.
    pub fn from_tub(&self) -> Option<f64> {
        Some(self.tub_before_g? - self.tub_after_g?)
    }
}

/// What noting did.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Noted {
    /// Noted.
    Noted,
    /// Somebody else's came first; this is theirs.
    Theirs(ByEye),
}

impl Kitchen<'_> {
    /// The bowls of several pieces, each list in its order.
    pub(super) async fn bowls_of(&self, pieces: Vec<Uuid>) -> Result<HashMap<Uuid, Vec<Bowl>>, StoreError> {
        let rows = bowl::Entity::find()
            .filter(bowl::Column::HouseholdId.eq(self.household.0))
            .filter(bowl::Column::PieceId.is_in(pieces))
            .order_by_asc(bowl::Column::Position)
            .all(&self.store.db)
            .await?;
        let mut found: HashMap<Uuid, Vec<Bowl>> = HashMap::new();
        for row in &rows {
            found.entry(row.piece_id).or_default().push(read_bowl(row));
        }
        Ok(found)
    }

    /// What was salted by eye on several pieces.
    pub(super) async fn by_eye_of(&self, pieces: Vec<Uuid>) -> Result<HashMap<Uuid, ByEye>, StoreError> {
        let rows = by_eye::Entity::find()
            .filter(by_eye::Column::HouseholdId.eq(self.household.0))
            .filter(by_eye::Column::PieceId.is_in(pieces))
            .all(&self.store.db)
            .await?;
        Ok(rows.iter().map(|row| (row.piece_id, read_by_eye(row))).collect())
    }

    /// Remembers what the scale shows with the empty bowl on it.
    pub async fn tare_bowl(&self, id: PieceId, which: BowlId, tare_g: f64) -> Result<(), StoreError> {
        self.change_bowl(id, which, vec![(bowl::Column::TareG, Expr::value(Some(tare_g)))]).await
    }

    /// Notes what was weighed into a bowl that is not weighed yet; gives what another cook noted first, where it differs.
    pub async fn weigh_bowl(&self, id: PieceId, which: BowlId, g: f64, at: Timestamp) -> Result<Option<f64>, StoreError> {
        let update = bowl::Entity::update_many()
            .col_expr(bowl::Column::WeighedG, Expr::value(Some(g)))
            .col_expr(bowl::Column::WeighedAt, Expr::value(Some(crate::Instant::from(at))))
            .filter(bowl::Column::HouseholdId.eq(self.household.0))
            .filter(bowl::Column::PieceId.eq(id.0))
            .filter(bowl::Column::Id.eq(which.0))
            .filter(bowl::Column::WeighedG.is_null());
        if retrying(|| update.clone().exec(&self.store.db)).await?.rows_affected > 0 {
            return Ok(None);
        }
        let mine = bowl::Entity::find().filter(bowl::Column::HouseholdId.eq(self.household.0));
        let row = mine.filter(bowl::Column::PieceId.eq(id.0)).filter(bowl::Column::Id.eq(which.0)).one(&self.store.db).await?;
        let stands = row.ok_or(StoreError::NotFound)?.weighed_g;
        Ok(stands.filter(|stands| (stands - g).abs() > 1e-9))
    }

    /// Takes back what was weighed into a bowl, with its tare.
    pub async fn empty_bowl(&self, id: PieceId, which: BowlId) -> Result<(), StoreError> {
        let nothing = || Expr::value(None::<f64>);
        let when = Expr::value(None::<crate::Instant>);
        let change = vec![(bowl::Column::WeighedG, nothing()), (bowl::Column::WeighedAt, when), (bowl::Column::TareG, nothing())];
        self.change_bowl(id, which, change).await
    }

    /// Ticks a bowl off as used, or takes that back. Ticking twice keeps the first moment.
    pub async fn use_bowl(&self, id: PieceId, which: BowlId, at: Option<Timestamp>) -> Result<(), StoreError> {
        if at.is_some() {
            let mine = bowl::Entity::find().filter(bowl::Column::HouseholdId.eq(self.household.0));
            let one = mine.filter(bowl::Column::PieceId.eq(id.0)).filter(bowl::Column::Id.eq(which.0)).one(&self.store.db).await?;
            if one.ok_or(StoreError::NotFound)?.used_at.is_some() {
                return Ok(());
            }
        }
        self.change_bowl(id, which, vec![(bowl::Column::UsedAt, Expr::value(at.map(crate::Instant::from)))]).await
    }

    async fn change_bowl(&self, id: PieceId, which: BowlId, change: Vec<(bowl::Column, SimpleExpr)>) -> Result<(), StoreError> {
        let update = change
            .into_iter()
            .fold(bowl::Entity::update_many(), |update, (column, value)| update.col_expr(column, value))
            .filter(bowl::Column::HouseholdId.eq(self.household.0))
            .filter(bowl::Column::PieceId.eq(id.0))
            .filter(bowl::Column::Id.eq(which.0));
        let done = retrying(|| update.clone().exec(&self.store.db)).await?;
        if done.rows_affected == 0 { Err(StoreError::NotFound) } else { Ok(()) }
    }

    /// Notes it. `noted.version` is the one the cook saw: when another came in between, nothing is changed.
    pub async fn note_by_eye(&self, id: PieceId, noted: ByEye, at: Timestamp) -> Result<Noted, StoreError> {
        retrying(|| self.note_by_eye_once(id, noted, at)).await?.ok_or(StoreError::NotFound)
    }

    async fn note_by_eye_once(&self, id: PieceId, noted: ByEye, at: Timestamp) -> Result<Option<Noted>, DbErr> {
        let transaction = self.store.db.begin().await?;
        // The piece's row is the lock: the first note has no row of its own yet.
        let mine = piece::Entity::find().filter(piece::Column::HouseholdId.eq(self.household.0)).filter(piece::Column::Id.eq(id.0));
        if mine.lock_exclusive().one(&transaction).await?.is_none() {
            return Ok(None);
        }
        let stands = by_eye::Entity::find_by_id(id.0).filter(by_eye::Column::HouseholdId.eq(self.household.0)).one(&transaction).await?;
        if let Some(theirs) = stands.as_ref().map(read_by_eye).filter(|t| t.version != noted.version) {
            let same = ByEye { version: noted.version, ..theirs } == noted;
            return Ok(Some(if same { Noted::Noted } else { Noted::Theirs(theirs) }));
        }
        let model = by_eye::ActiveModel {
            piece_id: Set(id.0),
            household_id: Set(self.household.0),
            tub_before_g: Set(noted.tub_before_g),
            tub_after_g: Set(noted.tub_after_g),
            mix_left_g: Set(noted.mix_left_g),
            version: Set(noted.version + 1),
            noted_at: Set(at.into()),
        };
        if stands.is_some() {
            by_eye::Entity::update(model).exec(&transaction).await?;
        } else {
            by_eye::Entity::insert(model).exec_without_returning(&transaction).await?;
        }
        transaction.commit().await?;
        Ok(Some(Noted::Noted))
    }

    /// What the hand took from the tub on the latest pieces, with their plans: (plan as stored, grams). Newest first.
    pub async fn tubs(&self, most: u64) -> Result<Vec<(String, f64)>, StoreError> {
        let rows = by_eye::Entity::find()
            .filter(by_eye::Column::HouseholdId.eq(self.household.0))
            .filter(by_eye::Column::TubBeforeG.is_not_null())
            .filter(by_eye::Column::TubAfterG.is_not_null())
            .order_by_desc(by_eye::Column::NotedAt)
            .limit(most)
            .all(&self.store.db)
            .await?;
        let ids: Vec<_> = rows.iter().map(|row| row.piece_id).collect();
        if ids.is_empty() {
            return Ok(vec![]);
        }
        let pieces = piece::Entity::find()
            .filter(piece::Column::HouseholdId.eq(self.household.0))
            .filter(piece::Column::Id.is_in(ids))
            .filter(piece::Column::DeletedAt.is_null())
            .all(&self.store.db)
            .await?;
        let plan = |id| pieces.iter().find(|p| p.id == id).map(|p| p.plan.clone());
        Ok(rows.iter().filter_map(|row| Some((plan(row.piece_id)?, read_by_eye(row).from_tub()?))).collect())
    }
}

fn read_bowl(row: &bowl::Model) -> Bowl {
    Bowl {
        id: BowlId(row.id),
        face: row.face.clone(),
        name: row.name.clone(),
        target_g: row.target_g,
        tare_g: row.tare_g,
        weighed_g: row.weighed_g,
        used_at: row.used_at.map(crate::Instant::timestamp),
    }
}

fn read_by_eye(row: &by_eye::Model) -> ByEye {
    ByEye { tub_before_g: row.tub_before_g, tub_after_g: row.tub_after_g, mix_left_g: row.mix_left_g, version: row.version }
}
