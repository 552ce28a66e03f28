//! A piece's refrigerator rest as it was noted: weighed, felt, salted more or less. Every note can be taken back.

use super::kit::is_duplicate;
use super::retry::retrying;
use super::{Kitchen, NoteId, Piece, PieceId, TrayId, WeighInId};
use crate::Instant;
use crate::entity::{piece, salt_change, touch_check, weigh_in};
use crate::error::StoreError;
use jiff::Timestamp;
use sea_orm::sea_query::Expr;
use sea_orm::{
    ColumnTrait, ConnectionTrait, DatabaseTransaction, DbErr, EntityTrait, PaginatorTrait, QueryFilter, QueryOrder, QuerySelect, Set,
    Statement, TransactionTrait,
};
use std::collections::HashMap;
use uuid::Uuid;

/// A weighing about to be noted.
#[derive(Debug, Clone, PartialEq)]
pub struct NewWeighIn {
    /// The tray it lay on.
    pub tray: Option<TrayId>,
    /// That tray's empty weight; 0 without one.
    pub tare_g: f64,
    /// What the scale showed.
    pub gross_g: f64,
    /// The scale's fineness.
    pub fineness_g: f64,
    /// Whether it was taken from a scale that speaks.
    pub from_scale: bool,
    /// When.
    pub at: Timestamp,
    /// Stable name of what looks wrong with it, and by how many grams.
    pub doubt: Option<(String, f64)>,
}

/// A weighing of piece, rack and tray together.
#[derive(Debug, Clone, PartialEq)]
pub struct WeighIn {
    /// Which.
    pub id: WeighInId,
    /// As it was noted.
    pub noted: NewWeighIn,
    /// What the cook answered when asked about it.
    pub answer: Option<String>,
}

impl WeighIn {
    /// Asked about, and not answered yet.
    pub fn is_open(&self) -> bool {
        self.noted.doubt.is_some() && self.answer.is_none()
    }
}

/// How the skin felt.
#[derive(Debug, Clone, PartialEq)]
pub struct TouchCheck {
    /// Which.
    pub id: NoteId,
    /// Wet, tacky, dry or parchment.
    pub feel: String,
    /// When.
    pub at: Timestamp,
}

/// Salt laid on after the first salting, or brushed off.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SaltChanged {
    /// Which.
    pub id: NoteId,
    /// Sodium chloride; negative came off.
    pub by_g: f64,
    /// When.
    pub at: Timestamp,
}

/// All that was noted of one piece's rest, each list in the order of time.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Rest {
    /// Weighed.
    pub weigh_ins: Vec<WeighIn>,
    /// Felt.
    pub touches: Vec<TouchCheck>,
    /// Salted more, or less.
    pub changes: Vec<SaltChanged>,
    /// Whiles above 4.4 °C that concern it: its own, and the refrigerator's.
    pub warm: Vec<super::WarmNote>,
}

/// What noting did.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Noting<T> {
    /// Noted.
    New(T),
    /// This form was sent before; it stands.
    Before(T),
    /// There is no room for more.
    Full,
    /// Somebody changed the piece after it was looked at: look again.
    Changed,
}

/// Nobody weighs or feels one piece more often than this.
const MOST_NOTES: u64 = 200;
/// Pieces whose weighings teach the refrigerator, the latest ones.
const TAUGHT_BY: u64 = 12;

impl Kitchen<'_> {
    /// What was noted of the rests of several pieces: four queries, however many pieces.
    pub(super) async fn rests_of(&self, pieces: Vec<Uuid>) -> Result<HashMap<Uuid, Rest>, StoreError> {
        let (mine, db) = (self.household.0, &self.store.db);
        let mut found: HashMap<Uuid, Rest> = HashMap::new();
        let warm = self.warm_spells().await?;
        for id in pieces.iter().filter(|_| !warm.is_empty()) {
            let concerns = |note: &&super::WarmNote| note.piece.is_none_or(|piece| piece.0 == *id);
            found.entry(*id).or_default().warm = warm.iter().filter(concerns).copied().collect();
        }
        let weighed = weigh_in::Entity::find()
            .filter(weigh_in::Column::HouseholdId.eq(mine))
            .filter(weigh_in::Column::PieceId.is_in(pieces.clone()))
            .filter(weigh_in::Column::DeletedAt.is_null())
            .order_by_asc(weigh_in::Column::At);
        for row in weighed.all(db).await? {
            found.entry(row.piece_id).or_default().weigh_ins.push(read_weigh_in(row));
        }
        let felt = touch_check::Entity::find()
            .filter(touch_check::Column::HouseholdId.eq(mine))
            .filter(touch_check::Column::PieceId.is_in(pieces.clone()))
            .filter(touch_check::Column::DeletedAt.is_null())
            .order_by_asc(touch_check::Column::At);
        for row in felt.all(db).await? {
            found.entry(row.piece_id).or_default().touches.push(TouchCheck { id: NoteId(row.id), feel: row.feel, at: row.at.timestamp() });
        }
        let changed = salt_change::Entity::find()
            .filter(salt_change::Column::HouseholdId.eq(mine))
            .filter(salt_change::Column::PieceId.is_in(pieces))
            .filter(salt_change::Column::DeletedAt.is_null())
            .order_by_asc(salt_change::Column::At);
        for row in changed.all(db).await? {
            found.entry(row.piece_id).or_default().changes.push(SaltChanged { id: NoteId(row.id), by_g: row.by_g, at: row.at.timestamp() });
        }
        Ok(found)
    }

    /// The latest pieces that were weighed while they rested, those in the Book too, in no order.
    pub async fn weighed_pieces(&self) -> Result<Vec<Piece>, StoreError> {
        let rows: Vec<Uuid> = weigh_in::Entity::find()
            .select_only()
            .column(weigh_in::Column::PieceId)
            .filter(weigh_in::Column::HouseholdId.eq(self.household.0))
            .filter(weigh_in::Column::DeletedAt.is_null())
            .group_by(weigh_in::Column::PieceId)
            .order_by_desc(weigh_in::Column::At.max())
            .limit(TAUGHT_BY)
            .into_tuple()
            .all(&self.store.db)
            .await?;
        let pieces = self.pieces_query().filter(piece::Column::Id.is_in(rows)).filter(piece::Column::DeletedAt.is_null());
        self.fill(pieces.all(&self.store.db).await?).await
    }

    /// Notes a weighing. The same form key never notes two.
    pub async fn weigh_in(&self, id: PieceId, form_key: &str, new: &NewWeighIn) -> Result<Noting<WeighInId>, StoreError> {
        let mine = || weigh_in::Entity::find().filter(weigh_in::Column::HouseholdId.eq(self.household.0));
        let before = || async { mine().filter(weigh_in::Column::FormKey.eq(form_key)).one(&self.store.db).await };
        if let Some(row) = before().await? {
            return Ok(Noting::Before(WeighInId(row.id)));
        }
        self.has_piece(id).await?;
        if mine().filter(weigh_in::Column::PieceId.eq(id.0)).count(&self.store.db).await? >= MOST_NOTES {
            return Ok(Noting::Full);
        }
        let key = Uuid::now_v7();
        let row = || weigh_in::ActiveModel {
            id: Set(key),
            household_id: Set(self.household.0),
            piece_id: Set(id.0),
            form_key: Set(form_key.to_owned()),
            tray_id: Set(new.tray.map(|t| t.0)),
            tare_g: Set(new.tare_g),
            gross_g: Set(new.gross_g),
            fineness_g: Set(new.fineness_g),
            from_scale: Set(new.from_scale),
            at: Set(new.at.into()),
            doubt: Set(new.doubt.as_ref().map(|d| d.0.clone())),
            off_g: Set(new.doubt.as_ref().map(|d| d.1)),
            answer: Set(None),
            deleted_at: Set(None),
        };
        let made = retrying(|| weigh_in::Entity::insert(row()).exec_without_returning(&self.store.db)).await;
        match made {
            Err(error) if is_duplicate(&error) => Ok(before().await?.map_or(Noting::Full, |row| Noting::Before(WeighInId(row.id)))),
            outcome => outcome.map(|_| Noting::New(WeighInId(key))).map_err(StoreError::from),
        }
    }

    /// Answers what was asked about a weighing; `None` asks again.
    pub async fn answer_weigh_in(&self, id: PieceId, which: WeighInId, answer: Option<&str>) -> Result<(), StoreError> {
        let update = weigh_in::Entity::update_many()
            .col_expr(weigh_in::Column::Answer, Expr::value(answer.map(str::to_owned)))
            .filter(weigh_in::Column::HouseholdId.eq(self.household.0))
            .filter(weigh_in::Column::PieceId.eq(id.0))
            .filter(weigh_in::Column::Id.eq(which.0));
        found(retrying(|| update.clone().exec(&self.store.db)).await)
    }

    /// Takes a weighing back, or puts it in again.
    pub async fn set_weigh_in_deleted(&self, id: PieceId, which: WeighInId, at: Option<Timestamp>) -> Result<(), StoreError> {
        let update = weigh_in::Entity::update_many()
            .col_expr(weigh_in::Column::DeletedAt, Expr::value(at.map(Instant::from)))
            .filter(weigh_in::Column::HouseholdId.eq(self.household.0))
            .filter(weigh_in::Column::PieceId.eq(id.0))
            .filter(weigh_in::Column::Id.eq(which.0));
        found(retrying(|| update.clone().exec(&self.store.db)).await)
    }

    /// Notes how the skin feels. The same form key never notes two.
    pub async fn touch(&self, id: PieceId, form_key: &str, feel: &str, at: Timestamp) -> Result<Noting<NoteId>, StoreError> {
        let mine = || touch_check::Entity::find().filter(touch_check::Column::HouseholdId.eq(self.household.0));
        let before = || async { mine().filter(touch_check::Column::FormKey.eq(form_key)).one(&self.store.db).await };
        if let Some(row) = before().await? {
            return Ok(Noting::Before(NoteId(row.id)));
        }
        self.has_piece(id).await?;
        if mine().filter(touch_check::Column::PieceId.eq(id.0)).count(&self.store.db).await? >= MOST_NOTES {
            return Ok(Noting::Full);
        }
        let key = Uuid::now_v7();
        let row = || touch_check::ActiveModel {
            id: Set(key),
            household_id: Set(self.household.0),
            piece_id: Set(id.0),
            form_key: Set(form_key.to_owned()),
            feel: Set(feel.to_owned()),
            at: Set(at.into()),
            deleted_at: Set(None),
        };
        match retrying(|| touch_check::Entity::insert(row()).exec_without_returning(&self.store.db)).await {
            Err(error) if is_duplicate(&error) => Ok(before().await?.map_or(Noting::Full, |row| Noting::Before(NoteId(row.id)))),
            outcome => outcome.map(|_| Noting::New(NoteId(key))).map_err(StoreError::from),
        }
    }

    /// Takes a touch check back, or puts it in again.
    pub async fn set_touch_deleted(&self, id: PieceId, which: NoteId, at: Option<Timestamp>) -> Result<(), StoreError> {
        let update = touch_check::Entity::update_many()
            .col_expr(touch_check::Column::DeletedAt, Expr::value(at.map(Instant::from)))
            .filter(touch_check::Column::HouseholdId.eq(self.household.0))
            .filter(touch_check::Column::PieceId.eq(id.0))
            .filter(touch_check::Column::Id.eq(which.0));
        found(retrying(|| update.clone().exec(&self.store.db)).await)
    }

    /// Notes salt laid on or, negative, brushed off. The same form key never notes two.
    ///
    /// A difference holds only against what it was taken from: `seen` is the version of the piece it was reckoned with. Where
    /// another cook's note came in between, nothing is noted.
    pub async fn change_salt(
        &self,
        id: PieceId,
        form_key: &str,
        seen: i32,
        by_g: f64,
        at: Timestamp,
    ) -> Result<Noting<NoteId>, StoreError> {
        retrying(|| self.change_salt_once(id, form_key, seen, by_g, at)).await?.ok_or(StoreError::NotFound)
    }

    async fn change_salt_once(
        &self,
        id: PieceId,
        form_key: &str,
        seen: i32,
        by_g: f64,
        at: Timestamp,
    ) -> Result<Option<Noting<NoteId>>, DbErr> {
        let transaction = self.store.db.begin().await?;
        let Some(piece) = self.locked(id, &transaction).await? else { return Ok(None) };
        let mine = || salt_change::Entity::find().filter(salt_change::Column::HouseholdId.eq(self.household.0));
        if let Some(row) = mine().filter(salt_change::Column::FormKey.eq(form_key)).one(&transaction).await? {
            return Ok(Some(Noting::Before(NoteId(row.id))));
        }
        if piece.version != seen {
            return Ok(Some(Noting::Changed));
        }
        if mine().filter(salt_change::Column::PieceId.eq(id.0)).count(&transaction).await? >= MOST_NOTES {
            return Ok(Some(Noting::Full));
        }
        let key = Uuid::now_v7();
        let row = salt_change::ActiveModel {
            id: Set(key),
            household_id: Set(self.household.0),
            piece_id: Set(id.0),
            form_key: Set(form_key.to_owned()),
            by_g: Set(by_g),
            at: Set(at.into()),
            deleted_at: Set(None),
        };
        salt_change::Entity::insert(row).exec_without_returning(&transaction).await?;
        self.raise_version(&piece, &transaction).await?;
        transaction.commit().await?;
        Ok(Some(Noting::New(NoteId(key))))
    }

    /// Counts a change of a locked piece.
    async fn raise_version(&self, piece: &piece::Model, transaction: &DatabaseTransaction) -> Result<(), DbErr> {
        piece::Entity::update_many()
            .col_expr(piece::Column::Version, Expr::value(piece.version + 1))
            .filter(piece::Column::Id.eq(piece.id))
            .exec(transaction)
            .await?;
        Ok(())
    }

    /// What the weighings that teach the refrigerator say, in a word: another word, and something was weighed, answered, salted
    /// or taken back meanwhile.
    pub async fn taught(&self) -> Result<String, StoreError> {
        let sql = "SELECT CONCAT_WS(' ', \
            (SELECT CONCAT(COUNT(*), ':', COALESCE(SUM(CRC32(CONCAT_WS('|', id, gross_g, tare_g, answer, deleted_at))), 0)) FROM weigh_ins WHERE household_id = ?), \
            (SELECT CONCAT(COUNT(*), ':', COALESCE(SUM(CRC32(CONCAT_WS('|', id, by_g, deleted_at))), 0)) FROM salt_changes WHERE household_id = ?), \
            (SELECT version FROM refrigerators WHERE household_id = ?)) AS word";
        let mine = || sea_orm::Value::from(self.household.0);
        let statement = Statement::from_sql_and_values(self.store.db.get_database_backend(), sql, [mine(), mine(), mine()]);
        let row = self.store.db.query_one_raw(statement).await?;
        Ok(row.map(|row| row.try_get::<String>("", "word")).transpose()?.unwrap_or_default())
    }

    /// Takes a change of salt back, or puts it in again.
    pub async fn set_salt_change_deleted(&self, id: PieceId, which: NoteId, at: Option<Timestamp>) -> Result<(), StoreError> {
        let done = retrying(|| self.set_salt_change_deleted_once(id, which, at)).await?;
        if done { Ok(()) } else { Err(StoreError::NotFound) }
    }

    async fn set_salt_change_deleted_once(&self, id: PieceId, which: NoteId, at: Option<Timestamp>) -> Result<bool, DbErr> {
        let transaction = self.store.db.begin().await?;
        let Some(piece) = self.locked(id, &transaction).await? else { return Ok(false) };
        let done = salt_change::Entity::update_many()
            .col_expr(salt_change::Column::DeletedAt, Expr::value(at.map(Instant::from)))
            .filter(salt_change::Column::HouseholdId.eq(self.household.0))
            .filter(salt_change::Column::PieceId.eq(id.0))
            .filter(salt_change::Column::Id.eq(which.0))
            .exec(&transaction)
            .await?;
        self.raise_version(&piece, &transaction).await?;
        transaction.commit().await?;
        Ok(done.rows_affected > 0)
    }

    /// Another household's piece is simply not here.
    async fn has_piece(&self, id: PieceId) -> Result<(), StoreError> {
        let here = self.pieces_query().filter(piece::Column::Id.eq(id.0));
        if here.count(&self.store.db).await? == 0 { Err(StoreError::NotFound) } else { Ok(()) }
    }
}

fn found(done: Result<sea_orm::UpdateResult, DbErr>) -> Result<(), StoreError> {
    if done?.rows_affected == 0 { Err(StoreError::NotFound) } else { Ok(()) }
}

fn read_weigh_in(row: weigh_in::Model) -> WeighIn {
    WeighIn {
        id: WeighInId(row.id),
        noted: NewWeighIn {
            tray: row.tray_id.map(TrayId),
            tare_g: row.tare_g,
            gross_g: row.gross_g,
            fineness_g: row.fineness_g,
            from_scale: row.from_scale,
            at: row.at.timestamp(),
            doubt: row.doubt.map(|kind| (kind, row.off_g.unwrap_or(0.0))),
        },
        answer: row.answer,
    }
}
