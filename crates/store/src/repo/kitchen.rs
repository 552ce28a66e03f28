//! The rows of one household: pieces, kept and found again.

use super::retry::retrying;
use super::{HouseholdId, PieceId};
use crate::connect::Store;
use crate::entity::{event, piece};
use crate::error::StoreError;
use jiff::Timestamp;
use rauchkeller_core::run::{Event, Record};
use sea_orm::sea_query::Expr;
use sea_orm::{
    ColumnTrait, ConnectionTrait, DatabaseTransaction, DbErr, EntityTrait, ExprTrait, PaginatorTrait, QueryFilter, QueryOrder, QueryResult,
    QuerySelect, Set, SqlErr, Statement, TransactionTrait,
};
use std::sync::Arc;
use uuid::Uuid;

/// One household's door. Every query goes through its id.
#[derive(Debug, Clone, Copy)]
pub struct Kitchen<'a> {
    pub(super) store: &'a Store,
    pub(super) household: HouseholdId,
}

/// A plan about to be stored.
#[derive(Debug, Clone)]
pub struct NewPlan {
    /// Shape number of the plan.
    pub schema_no: u32,
    /// Number of the rules that made it.
    pub rules: u32,
    /// The request with every guess written out.
    pub request: String,
    /// The plan, verbatim.
    pub plan: String,
    /// The meal.
    pub serve_at: Timestamp,
    /// The task with which the piece is on the table.
    pub last_task: String,
}

/// A piece to keep.
#[derive(Debug, Clone)]
pub struct NewPiece {
    /// Key of the form: the same key keeps one piece, however often it is sent.
    pub form_key: String,
    /// What it is called on the board.
    pub name: String,
    /// Stable name of the cut.
    pub cut: String,
    /// Its plan.
    pub plan: NewPlan,
    /// What has happened to it already.
    pub events: Vec<Event>,
}

/// What keeping did.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Kept {
    /// A new piece.
    New(PieceId),
    /// The same form came before.
    Before(PieceId),
}

impl Kept {
    /// The piece, either way.
    pub fn id(self) -> PieceId {
        match self {
            Self::New(id) | Self::Before(id) => id,
        }
    }
}

/// A kept piece: its plan as it stands, and what happened.
#[derive(Debug, Clone, PartialEq)]
pub struct Piece {
    /// Which.
    pub id: PieceId,
    /// Its name.
    pub name: String,
    /// Stable name of the cut.
    pub cut: String,
    /// Shape number of the plan.
    pub schema_no: i32,
    /// Number of the rules that made it; 0 for plans of before rules had numbers.
    pub rules: i32,
    /// The request as it was kept.
    pub request: String,
    /// The plan, verbatim.
    pub plan: String,
    /// Raised by every change.
    pub version: i32,
    /// Which of its plans stands, from 1.
    pub plan_version: i32,
    /// The meal.
    pub serve_at: Timestamp,
    /// What the cooks wrote down about it; empty for nothing.
    pub note: String,
    /// When it was kept.
    pub created_at: Timestamp,
    /// When it was eaten.
    pub finished_at: Option<Timestamp>,
    /// When it was taken out of the Cellar.
    pub deleted_at: Option<Timestamp>,
    /// What was noted comes to this.
    pub record: Arc<Record>,
    /// How many were noted.
    pub events: i32,
    /// Whiles above 4.4 °C that concern it: its own, and the refrigerator's.
    pub warm: Vec<super::WarmNote>,
}

/// A dose and how it tasted.
#[derive(Debug, Clone, PartialEq)]
pub struct JudgedDose {
    /// Stable name of the cut.
    pub cut: String,
    /// The dose as planned.
    pub g_per_kg: f64,
    /// −2 … +2.
    pub rim: i32,
    /// −2 … +2.
    pub middle: i32,
}

/// Every column but these, which come empty.
fn without(columns: &[piece::Column], select: sea_orm::Select<piece::Entity>) -> sea_orm::Select<piece::Entity> {
    use sea_orm::{IdenStatic, Iterable};
    let without = |column: &piece::Column| columns.iter().any(|left| left.as_str() == column.as_str());
    let others = select.select_only().columns(piece::Column::iter().filter(|column| !without(column)));
    columns.iter().fold(others, |select, column| select.expr_as(sea_orm::sea_query::Expr::val(""), column.as_str()))
}

impl<'a> Kitchen<'a> {
    pub(crate) fn new(store: &'a Store, household: HouseholdId) -> Self {
        Self { store, household }
    }

    /// Keeps a piece with its steps, all or nothing. The same form key never keeps two.
    pub async fn keep(&self, new: NewPiece, now: Timestamp) -> Result<Kept, StoreError> {
        if let Some(before) = self.kept_before(&new.form_key).await? {
            return Ok(Kept::Before(before));
        }
        let id = Uuid::now_v7();
        match retrying(|| self.insert_piece(id, &new, now)).await {
            Ok(()) => Ok(Kept::New(PieceId(id))),
            Err(error) if matches!(error.sql_err(), Some(SqlErr::UniqueConstraintViolation(_))) => {
                self.kept_before(&new.form_key).await?.map(Kept::Before).ok_or(StoreError::Conflict)
            }
            Err(error) => Err(error.into()),
        }
    }

    /// The piece that was kept by this form, if it was. One row, by its unique key.
    pub async fn kept_before(&self, form_key: &str) -> Result<Option<PieceId>, StoreError> {
        let mine = self.pieces_query().select_only().column(piece::Column::Id).filter(piece::Column::FormKey.eq(form_key));
        Ok(mine.into_tuple::<Uuid>().one(&self.store.db).await?.map(PieceId))
    }

    async fn insert_piece(&self, id: Uuid, new: &NewPiece, now: Timestamp) -> Result<(), DbErr> {
        let transaction = self.store.db.begin().await?;
        let plan = &new.plan;
        let row = piece::ActiveModel {
            id: Set(id),
            household_id: Set(self.household.0),
            form_key: Set(new.form_key.clone()),
            name: Set(new.name.clone()),
            cut: Set(new.cut.clone()),
            schema_no: Set(number(plan.schema_no)),
            request: Set(plan.request.clone()),
            plan: Set(plan.plan.clone()),
            version: Set(1),
            serve_at: Set(plan.serve_at.into()),
            created_at: Set(now.into()),
            finished_at: Set(None),
            deleted_at: Set(None),
            note: Set(None),
            plan_version: Set(1),
            rules: Set(number(plan.rules)),
            last_task: Set(Some(plan.last_task.clone())),
            events: Set(i32::try_from(new.events.len()).unwrap_or(i32::MAX)),
        };
        piece::Entity::insert(row).exec_without_returning(&transaction).await?;
        self.insert_plan(PieceId(id), 1, plan, now, &transaction).await?;
        self.insert_events(PieceId(id), &new.events, &transaction).await?;
        self.tell(&transaction).await?;
        transaction.commit().await
    }

    pub(super) fn pieces_query(&self) -> sea_orm::Select<piece::Entity> {
        piece::Entity::find().filter(piece::Column::HouseholdId.eq(self.household.0))
    }

    /// One piece, taken out or not.
    pub async fn piece(&self, id: PieceId) -> Result<Piece, StoreError> {
        let row = self.pieces_query().filter(piece::Column::Id.eq(id.0)).one(&self.store.db).await?.ok_or(StoreError::NotFound)?;
        self.fill(vec![row]).await?.pop().ok_or(StoreError::NotFound)
    }

    /// One piece without the text of its plan.
    pub async fn piece_without_plan(&self, id: PieceId) -> Result<Piece, StoreError> {
        let one = without(&[piece::Column::Plan], self.pieces_query().filter(piece::Column::Id.eq(id.0)));
        let row = one.one(&self.store.db).await?.ok_or(StoreError::NotFound)?;
        self.fill(vec![row]).await?.pop().ok_or(StoreError::NotFound)
    }

    /// The texts of requests and plans, each with the version of the piece it belongs to.
    pub async fn texts_of(&self, pieces: &[PieceId]) -> Result<Vec<(PieceId, i32, [String; 2])>, StoreError> {
        let wanted = self.pieces_query().filter(piece::Column::Id.is_in(pieces.iter().map(|id| id.0)));
        let columns = [piece::Column::Id, piece::Column::Version, piece::Column::Request, piece::Column::Plan];
        let rows: Vec<(Uuid, i32, String, String)> = wanted.select_only().columns(columns).into_tuple().all(&self.store.db).await?;
        Ok(rows.into_iter().map(|(id, version, request, plan)| (PieceId(id), version, [request, plan])).collect())
    }

    /// Every piece still on its way, by the meal.
    pub async fn in_the_cellar(&self) -> Result<Vec<Piece>, StoreError> {
        let rows = on_their_way(self.pieces_query()).order_by_asc(piece::Column::ServeAt).all(&self.store.db).await?;
        self.fill(rows).await
    }

    /// The pieces on their way that are in sight, by the meal, without the texts of their requests and plans: those with a meal to
    /// come (or just past) first, then the latest of what was never ticked to its end. And how many there are in all.
    pub async fn in_sight(&self, now: Timestamp) -> Result<(Vec<Piece>, u64), StoreError> {
        let texts = [piece::Column::Request, piece::Column::Plan];
        let since = crate::Instant::from(now.checked_sub(JUST_PAST).unwrap_or(now));
        let mine = || on_their_way(without(&texts, self.pieces_query()));
        // Most kitchens have fewer: then these are all there are.
        let mut rows = mine().order_by_desc(piece::Column::ServeAt).limit(IN_SIGHT + 1).all(&self.store.db).await?;
        let mut all = rows.len() as u64;
        if all > IN_SIGHT {
            let to_come = mine().filter(piece::Column::ServeAt.gte(since)).order_by_asc(piece::Column::ServeAt).limit(IN_SIGHT);
            rows = to_come.all(&self.store.db).await?;
            let room = IN_SIGHT - rows.len() as u64;
            if room > 0 {
                let before = mine().filter(piece::Column::ServeAt.lt(since)).order_by_desc(piece::Column::ServeAt).limit(room);
                rows.extend(before.all(&self.store.db).await?);
            }
            all = on_their_way(self.pieces_query()).count(&self.store.db).await?;
        }
        let mut pieces = self.fill(rows).await?;
        pieces.sort_by_key(|p| p.serve_at);
        Ok((pieces, all))
    }

    /// All pieces on their way by name and meal, a page of them, the meals in the order of time.
    pub async fn on_a_list(&self, page: u64) -> Result<Vec<(PieceId, String, Timestamp)>, StoreError> {
        let columns = [piece::Column::Id, piece::Column::Name, piece::Column::ServeAt];
        let rows: Vec<(Uuid, String, crate::Instant)> = on_their_way(self.pieces_query())
            .select_only()
            .columns(columns)
            .order_by_asc(piece::Column::ServeAt)
            .offset(page.clamp(0, 10_000).saturating_mul(ON_A_LIST))
            .limit(ON_A_LIST)
            .into_tuple()
            .all(&self.store.db)
            .await?;
        Ok(rows.into_iter().map(|(id, name, at)| (PieceId(id), name, at.timestamp())).collect())
    }

    /// Pieces that have been eaten, newest first, each with its version and when it was: those eaten before a moment, and whose name
    /// holds some words, where said. Their rows are asked for by [`Kitchen::pieces`].
    pub async fn eaten(&self, most: u64, before: Option<Timestamp>, words: &str) -> Result<Vec<(PieceId, i32, Timestamp)>, StoreError> {
        let mut eaten = self.pieces_query().filter(piece::Column::DeletedAt.is_null()).filter(piece::Column::FinishedAt.is_not_null());
        if let Some(before) = before {
            eaten = eaten.filter(piece::Column::FinishedAt.lt(crate::Instant::from(before)));
        }
        for word in words.split_whitespace().take(8) {
            eaten = eaten.filter(piece::Column::Name.contains(word));
        }
        let columns = [piece::Column::Id, piece::Column::Version, piece::Column::FinishedAt];
        let found = eaten.select_only().columns(columns).order_by_desc(piece::Column::FinishedAt).limit(most);
        let rows: Vec<(Uuid, i32, crate::Instant)> = found.into_tuple().all(&self.store.db).await?;
        Ok(rows.into_iter().map(|(id, version, at)| (PieceId(id), version, at.timestamp())).collect())
    }

    /// Pieces by their ids, in no order.
    pub async fn pieces(&self, ids: &[PieceId]) -> Result<Vec<Piece>, StoreError> {
        if ids.is_empty() {
            return Ok(vec![]);
        }
        let rows = self.pieces_query().filter(piece::Column::Id.is_in(ids.iter().map(|id| id.0))).all(&self.store.db).await?;
        self.fill(rows).await
    }

    /// Pieces that have been eaten, whole, newest first.
    pub async fn book(&self, most: u64, before: Option<Timestamp>, words: &str) -> Result<Vec<Piece>, StoreError> {
        let eaten = self.eaten(most, before, words).await?;
        let mut pieces = self.pieces(&eaten.iter().map(|(id, ..)| *id).collect::<Vec<_>>()).await?;
        pieces.sort_by_key(|p| eaten.iter().position(|(id, ..)| *id == p.id));
        Ok(pieces)
    }

    /// What the latest verdicts say of doses: without the plans themselves, of which only the dose is read.
    pub async fn judged_doses(&self, most: u64) -> Result<Vec<JudgedDose>, StoreError> {
        let sql = "SELECT latest.cut AS cut, latest.dose_g_per_kg AS dose, \
                CAST(JSON_VALUE(e.body, '$.rim') AS INT) AS rim, CAST(JSON_VALUE(e.body, '$.middle') AS INT) AS middle \
            FROM (SELECT id, cut, dose_g_per_kg FROM pieces \
                WHERE household_id = ? AND deleted_at IS NULL AND finished_at IS NOT NULL \
                ORDER BY finished_at DESC LIMIT ?) latest \
            JOIN events e ON e.piece_id = latest.id AND e.kind = 'tasted' AND e.live = 1";
        let values = [self.household.0.into(), most.into()];
        let statement = Statement::from_sql_and_values(self.store.db.get_database_backend(), sql, values);
        let rows = self.store.db.query_all_raw(statement).await?;
        let read = |row: &QueryResult| -> Result<Option<JudgedDose>, DbErr> {
            let Some(g_per_kg) = row.try_get::<Option<f64>>("", "dose")? else { return Ok(None) };
            Ok(Some(JudgedDose {
                cut: row.try_get("", "cut")?,
                g_per_kg,
                rim: row.try_get("", "rim")?,
                middle: row.try_get("", "middle")?,
            }))
        };
        let read: Result<Vec<Option<JudgedDose>>, DbErr> = rows.iter().map(read).collect();
        Ok(read?.into_iter().flatten().collect())
    }

    /// The last eaten piece of a cut that has a verdict on its skin, other than this one: its name and bad patches.
    pub async fn last_patches(&self, cut: &str, other_than: PieceId) -> Result<Option<(String, i32)>, StoreError> {
        let eaten: Vec<(Uuid, String)> = self
            .pieces_query()
            .select_only()
            .columns([piece::Column::Id, piece::Column::Name])
            .filter(piece::Column::Cut.eq(cut))
            .filter(piece::Column::Id.ne(other_than.0))
            .filter(piece::Column::DeletedAt.is_null())
            .filter(piece::Column::FinishedAt.is_not_null())
            .order_by_desc(piece::Column::FinishedAt)
            .limit(20)
            .into_tuple()
            .all(&self.store.db)
            .await?;
        let tasted = event::Entity::find()
            .filter(event::Column::HouseholdId.eq(self.household.0))
            .filter(event::Column::Kind.eq("tasted"))
            .filter(event::Column::Live.eq(true))
            .filter(event::Column::PieceId.is_in(eaten.iter().map(|(id, _)| *id)))
            .all(&self.store.db)
            .await?;
        let patches = |id| {
            let body: serde_json::Value = serde_json::from_str(&tasted.iter().find(|e| e.piece_id == id)?.body).ok()?;
            body["bad_patches"].as_i64().and_then(|bits| i32::try_from(bits).ok())
        };
        Ok(eaten.into_iter().find_map(|(id, name)| Some((name, patches(id)?))))
    }

    /// Joins what happened to pieces: two queries, however many pieces.
    pub(super) async fn fill(&self, rows: Vec<piece::Model>) -> Result<Vec<Piece>, StoreError> {
        if rows.is_empty() {
            return Ok(vec![]);
        }
        let mut records = self.records_of(&rows).await?;
        let warm = self.warm_spells().await?;
        Ok(rows
            .into_iter()
            .map(|row| Piece {
                record: records.remove(&row.id).unwrap_or_default(),
                events: row.events,
                warm: warm.iter().filter(|note| note.piece.is_none_or(|piece| piece.0 == row.id)).copied().collect(),
                id: PieceId(row.id),
                name: row.name,
                note: row.note.unwrap_or_default(),
                cut: row.cut,
                schema_no: row.schema_no,
                rules: row.rules,
                request: row.request,
                plan: row.plan,
                version: row.version,
                plan_version: row.plan_version,
                serve_at: row.serve_at.timestamp(),
                created_at: row.created_at.timestamp(),
                finished_at: row.finished_at.map(crate::Instant::timestamp),
                deleted_at: row.deleted_at.map(crate::Instant::timestamp),
            })
            .collect())
    }

    /// The piece's row as the lock for whatever hangs on it, without the long texts that nobody needs there.
    pub(super) async fn locked(&self, id: PieceId, transaction: &DatabaseTransaction) -> Result<Option<piece::Model>, DbErr> {
        let row = without(&[piece::Column::Request, piece::Column::Plan], self.pieces_query().filter(piece::Column::Id.eq(id.0)));
        row.lock_exclusive().one(transaction).await
    }

    /// Takes a piece out of the Cellar or the Book, or puts it back.
    pub async fn set_deleted(&self, id: PieceId, at: Option<Timestamp>) -> Result<(), StoreError> {
        let found = retrying(|| async {
            let transaction = self.store.db.begin().await?;
            let done = piece::Entity::update_many()
                .col_expr(piece::Column::DeletedAt, Expr::value(at.map(crate::Instant::from)))
                .col_expr(piece::Column::Version, Expr::col(piece::Column::Version).add(1))
                .filter(piece::Column::HouseholdId.eq(self.household.0))
                .filter(piece::Column::Id.eq(id.0))
                .exec(&transaction)
                .await?;
            self.tell(&transaction).await?;
            transaction.commit().await?;
            Ok(done.rows_affected > 0)
        });
        if found.await? { Ok(()) } else { Err(StoreError::NotFound) }
    }
}

/// Those of a choice that are neither eaten nor taken out.
fn on_their_way(of: sea_orm::Select<piece::Entity>) -> sea_orm::Select<piece::Entity> {
    of.filter(piece::Column::DeletedAt.is_null()).filter(piece::Column::FinishedAt.is_null())
}

/// So many pieces are in sight at once: far more than any refrigerator holds.
pub const IN_SIGHT: u64 = 60;
/// So many stand on a page of the list of all.
pub const ON_A_LIST: u64 = 100;
/// A meal so far past is still looked at first: somebody may be about to say how it was.
const JUST_PAST: jiff::SignedDuration = jiff::SignedDuration::from_hours(36);

pub(super) fn number(of: u32) -> i32 {
    i32::try_from(of).unwrap_or(i32::MAX)
}
