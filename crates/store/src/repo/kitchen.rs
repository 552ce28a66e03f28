//! The rows of one household: pieces, steps, verdicts.

use super::retry::retrying;
use super::{HouseholdId, PieceId, StepId};
use crate::connect::Store;
use crate::entity::{bowl, piece, step, verdict};
use crate::error::StoreError;
use jiff::Timestamp;
use sea_orm::sea_query::Expr;
use sea_orm::{
    ColumnTrait, ConnectionTrait, DatabaseTransaction, DbErr, EntityTrait, ExprTrait, QueryFilter, QueryOrder, QueryResult, QuerySelect,
    Set, SqlErr, Statement, TransactionTrait,
};
use uuid::Uuid;

/// One household's door. Every query goes through its id.
#[derive(Debug, Clone, Copy)]
pub struct Kitchen<'a> {
    pub(super) store: &'a Store,
    pub(super) household: HouseholdId,
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
    /// Shape number of the plan.
    pub schema_no: u32,
    /// The request, verbatim.
    pub request: String,
    /// The plan, verbatim.
    pub plan: String,
    /// The meal.
    pub serve_at: Timestamp,
    /// Its steps in order: kind, place, planned start, planned end.
    pub steps: Vec<(String, String, Timestamp, Timestamp)>,
    /// Its bowls in order.
    pub bowls: Vec<super::NewBowl>,
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

/// A kept piece with its steps.
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
    /// The request, verbatim.
    pub request: String,
    /// The plan, verbatim.
    pub plan: String,
    /// Raised by every change.
    pub version: i32,
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
    /// Its steps in order.
    pub steps: Vec<Step>,
    /// Its bowls in order.
    pub bowls: Vec<super::Bowl>,
    /// What was salted by eye, or came back.
    pub by_eye: super::ByEye,
    /// What was noted while it rested.
    pub rest: super::Rest,
    /// Its verdict.
    pub verdict: Option<Verdict>,
}

/// A step of a kept piece.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Step {
    /// Which.
    pub id: StepId,
    /// Place in the order, from 0.
    pub position: i32,
    /// Stable name of the kind.
    pub kind: String,
    /// Where the piece is.
    pub place: String,
    /// Planned start.
    pub planned_start: Timestamp,
    /// Planned end.
    pub planned_end: Timestamp,
    /// When it was really done.
    pub done_at: Option<Timestamp>,
}

/// A verdict.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Verdict {
    /// Bits of the nine fields of the skin that did not blister; `None` without skin.
    pub bad_patches: Option<i32>,
    /// −2 … +2.
    pub rim: i32,
    /// −2 … +2.
    pub middle: i32,
    /// −2 … +2.
    pub juice: i32,
    /// What to change next time.
    pub advice: String,
    /// Raised by every change; 0 for a verdict not yet given.
    pub version: i32,
    /// When.
    pub given_at: Timestamp,
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

/// What saving a verdict did.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum VerdictSaved {
    /// Saved.
    Saved,
    /// Somebody else's came first; this is theirs.
    Theirs(Box<Verdict>),
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

    async fn kept_before(&self, form_key: &str) -> Result<Option<PieceId>, StoreError> {
        let found = self.pieces_query().filter(piece::Column::FormKey.eq(form_key)).one(&self.store.db).await?;
        Ok(found.map(|row| PieceId(row.id)))
    }

    async fn insert_piece(&self, id: Uuid, new: &NewPiece, now: Timestamp) -> Result<(), DbErr> {
        let transaction = self.store.db.begin().await?;
        let row = piece::ActiveModel {
            id: Set(id),
            household_id: Set(self.household.0),
            form_key: Set(new.form_key.clone()),
            name: Set(new.name.clone()),
            cut: Set(new.cut.clone()),
            schema_no: Set(i32::try_from(new.schema_no).unwrap_or(i32::MAX)),
            request: Set(new.request.clone()),
            plan: Set(new.plan.clone()),
            version: Set(1),
            serve_at: Set(new.serve_at.into()),
            created_at: Set(now.into()),
            finished_at: Set(None),
            deleted_at: Set(None),
            note: Set(None),
        };
        piece::Entity::insert(row).exec_without_returning(&transaction).await?;
        let steps = new.steps.iter().zip(0..).map(|((kind, place, start, end), position)| step::ActiveModel {
            id: Set(Uuid::now_v7()),
            household_id: Set(self.household.0),
            piece_id: Set(id),
            position: Set(position),
            kind: Set(kind.clone()),
            place: Set(place.clone()),
            planned_start: Set((*start).into()),
            planned_end: Set((*end).into()),
            done_at: Set(None),
        });
        step::Entity::insert_many(steps).exec_without_returning(&transaction).await?;
        let bowls = new.bowls.iter().zip(0..).map(|(bowl, position)| bowl::ActiveModel {
            id: Set(Uuid::now_v7()),
            household_id: Set(self.household.0),
            piece_id: Set(id),
            position: Set(position),
            face: Set(bowl.face.clone()),
            name: Set(bowl.name.clone()),
            target_g: Set(bowl.target_g),
            tare_g: Set(None),
            weighed_g: Set(None),
            weighed_at: Set(None),
            used_at: Set(None),
        });
        if !new.bowls.is_empty() {
            bowl::Entity::insert_many(bowls).exec_without_returning(&transaction).await?;
        }
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

    /// Pieces still on their way, by the meal.
    pub async fn in_the_cellar(&self) -> Result<Vec<Piece>, StoreError> {
        let rows = self
            .pieces_query()
            .filter(piece::Column::DeletedAt.is_null())
            .filter(piece::Column::FinishedAt.is_null())
            .order_by_asc(piece::Column::ServeAt)
            .limit(60)
            .all(&self.store.db)
            .await?;
        self.fill(rows).await
    }

    /// Pieces that have been eaten, newest first: those eaten before a moment, and whose name holds some words, where said.
    pub async fn book(&self, most: u64, before: Option<Timestamp>, words: &str) -> Result<Vec<Piece>, StoreError> {
        let mut eaten = self.pieces_query().filter(piece::Column::DeletedAt.is_null()).filter(piece::Column::FinishedAt.is_not_null());
        if let Some(before) = before {
            eaten = eaten.filter(piece::Column::FinishedAt.lt(crate::Instant::from(before)));
        }
        for word in words.split_whitespace().take(8) {
            eaten = eaten.filter(piece::Column::Name.contains(word));
        }
        let rows = eaten.order_by_desc(piece::Column::FinishedAt).limit(most).all(&self.store.db).await?;
        self.fill(rows).await
    }

    /// What the latest verdicts say of doses: without the plans themselves, of which only the dose is read.
    pub async fn judged_doses(&self, most: u64) -> Result<Vec<JudgedDose>, StoreError> {
        let sql = "SELECT p.cut AS cut, CAST(JSON_VALUE(p.plan, '$.request.g_per_kg') AS DOUBLE) AS dose, v.rim AS rim, v.middle AS middle \
            FROM (SELECT id FROM pieces WHERE household_id = ? AND deleted_at IS NULL AND finished_at IS NOT NULL \
                ORDER BY finished_at DESC LIMIT ?) latest \
            JOIN pieces p ON p.id = latest.id JOIN verdicts v ON v.piece_id = p.id AND v.household_id = p.household_id";
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
        let verdicts = verdict::Entity::find()
            .filter(verdict::Column::HouseholdId.eq(self.household.0))
            .filter(verdict::Column::PieceId.is_in(eaten.iter().map(|(id, _)| *id)))
            .all(&self.store.db)
            .await?;
        let patches = |id| verdicts.iter().find(|v| v.piece_id == id).and_then(|v| v.bad_patches);
        Ok(eaten.into_iter().find_map(|(id, name)| Some((name, patches(id)?))))
    }

    /// Joins steps, bowls, tubs, notes of the rest and verdicts to pieces: eight queries, however many pieces.
    pub(super) async fn fill(&self, rows: Vec<piece::Model>) -> Result<Vec<Piece>, StoreError> {
        let ids: Vec<Uuid> = rows.iter().map(|row| row.id).collect();
        if ids.is_empty() {
            return Ok(vec![]);
        }
        let steps = step::Entity::find()
            .filter(step::Column::HouseholdId.eq(self.household.0))
            .filter(step::Column::PieceId.is_in(ids.clone()))
            .order_by_asc(step::Column::Position)
            .all(&self.store.db)
            .await?;
        let verdicts = verdict::Entity::find()
            .filter(verdict::Column::HouseholdId.eq(self.household.0))
            .filter(verdict::Column::PieceId.is_in(ids.clone()))
            .all(&self.store.db)
            .await?;
        let mut bowls = self.bowls_of(ids.clone()).await?;
        let mut rests = self.rests_of(ids.clone()).await?;
        let by_eye = self.by_eye_of(ids).await?;
        Ok(rows
            .into_iter()
            .map(|row| Piece {
                bowls: bowls.remove(&row.id).unwrap_or_default(),
                rest: rests.remove(&row.id).unwrap_or_default(),
                by_eye: by_eye.get(&row.id).copied().unwrap_or_default(),
                steps: steps.iter().filter(|s| s.piece_id == row.id).map(read_step).collect(),
                verdict: verdicts.iter().find(|v| v.piece_id == row.id).map(read_verdict),
                id: PieceId(row.id),
                name: row.name,
                note: row.note.unwrap_or_default(),
                cut: row.cut,
                schema_no: row.schema_no,
                request: row.request,
                plan: row.plan,
                version: row.version,
                serve_at: row.serve_at.timestamp(),
                created_at: row.created_at.timestamp(),
                finished_at: row.finished_at.map(crate::Instant::timestamp),
                deleted_at: row.deleted_at.map(crate::Instant::timestamp),
            })
            .collect())
    }

    /// Ticks a step. Ticking twice keeps the first moment. The last step finishes the piece.
    pub async fn tick(&self, id: PieceId, step: StepId, at: Timestamp) -> Result<(), StoreError> {
        self.mark(id, step, Some(at)).await
    }

    /// Takes a tick back.
    pub async fn untick(&self, id: PieceId, step: StepId) -> Result<(), StoreError> {
        self.mark(id, step, None).await
    }

    async fn mark(&self, id: PieceId, step: StepId, done: Option<Timestamp>) -> Result<(), StoreError> {
        let found = retrying(|| self.mark_once(id, step, done)).await?;
        if found { Ok(()) } else { Err(StoreError::NotFound) }
    }

    async fn mark_once(&self, id: PieceId, step: StepId, done: Option<Timestamp>) -> Result<bool, DbErr> {
        let transaction = self.store.db.begin().await?;
        // The piece's row is the lock for its steps: two hands ticking at once go one after the other.
        let Some(row) = self.locked(id, &transaction).await? else { return Ok(false) };
        let mine = || step::Column::HouseholdId.eq(self.household.0).and(step::Column::PieceId.eq(id.0));
        let all = step::Entity::find().filter(mine()).all(&transaction).await?;
        let Some(now_stands) = all.iter().find(|s| s.id == step.0) else { return Ok(false) };
        if now_stands.done_at.is_some() == done.is_some() {
            transaction.commit().await?;
            return Ok(true);
        }
        let moment = done.map(crate::Instant::from);
        step::Entity::update_many()
            .col_expr(step::Column::DoneAt, Expr::value(moment))
            .filter(mine())
            .filter(step::Column::Id.eq(step.0))
            .exec(&transaction)
            .await?;
        let last = all.iter().map(|s| s.position).max();
        let finished = if Some(now_stands.position) == last { moment } else { row.finished_at };
        piece::Entity::update_many()
            .col_expr(piece::Column::Version, Expr::value(row.version + 1))
            .col_expr(piece::Column::FinishedAt, Expr::value(finished))
            .filter(piece::Column::Id.eq(id.0))
            .exec(&transaction)
            .await?;
        transaction.commit().await?;
        Ok(true)
    }

    /// The piece's row as the lock for whatever hangs on it.
    pub(super) async fn locked(&self, id: PieceId, transaction: &DatabaseTransaction) -> Result<Option<piece::Model>, DbErr> {
        self.pieces_query().filter(piece::Column::Id.eq(id.0)).lock_exclusive().one(transaction).await
    }

    /// Takes a piece out of the Cellar or the Book, or puts it back.
    pub async fn set_deleted(&self, id: PieceId, at: Option<Timestamp>) -> Result<(), StoreError> {
        let done = piece::Entity::update_many()
            .col_expr(piece::Column::DeletedAt, Expr::value(at.map(crate::Instant::from)))
            .col_expr(piece::Column::Version, Expr::col(piece::Column::Version).add(1))
            .filter(piece::Column::HouseholdId.eq(self.household.0))
            .filter(piece::Column::Id.eq(id.0))
            .exec(&self.store.db)
            .await?;
        if done.rows_affected == 0 { Err(StoreError::NotFound) } else { Ok(()) }
    }

    /// Saves a verdict. `verdict.version` is the one the cook saw (0 for none): when another has come
    /// in between, nothing is changed and theirs is shown.
    pub async fn give_verdict(&self, id: PieceId, given: Verdict) -> Result<VerdictSaved, StoreError> {
        let outcome = retrying(|| self.give_verdict_once(id, &given)).await?;
        outcome.ok_or(StoreError::NotFound)
    }

    async fn give_verdict_once(&self, id: PieceId, given: &Verdict) -> Result<Option<VerdictSaved>, DbErr> {
        let transaction = self.store.db.begin().await?;
        let Some(row) = self.locked(id, &transaction).await? else { return Ok(None) };
        let stands = verdict::Entity::find_by_id(id.0).filter(verdict::Column::HouseholdId.eq(self.household.0)).one(&transaction).await?;
        if let Some(theirs) = stands.as_ref().filter(|v| v.version != given.version) {
            let same =
                (theirs.bad_patches, theirs.rim, theirs.middle, theirs.juice) == (given.bad_patches, given.rim, given.middle, given.juice);
            return Ok(Some(if same { VerdictSaved::Saved } else { VerdictSaved::Theirs(Box::new(read_verdict(theirs))) }));
        }
        let model = verdict::ActiveModel {
            piece_id: Set(id.0),
            household_id: Set(self.household.0),
            bad_patches: Set(given.bad_patches),
            rim: Set(given.rim),
            middle: Set(given.middle),
            juice: Set(given.juice),
            advice: Set(given.advice.clone()),
            version: Set(given.version + 1),
            given_at: Set(given.given_at.into()),
        };
        if stands.is_some() {
            verdict::Entity::update(model).exec(&transaction).await?;
        } else {
            verdict::Entity::insert(model).exec_without_returning(&transaction).await?;
        }
        if row.finished_at.is_none() {
            piece::Entity::update_many()
                .col_expr(piece::Column::FinishedAt, Expr::value(Some(crate::Instant::from(given.given_at))))
                .filter(piece::Column::Id.eq(id.0))
                .exec(&transaction)
                .await?;
        }
        transaction.commit().await?;
        Ok(Some(VerdictSaved::Saved))
    }
}

fn read_step(row: &step::Model) -> Step {
    Step {
        id: StepId(row.id),
        position: row.position,
        kind: row.kind.clone(),
        place: row.place.clone(),
        planned_start: row.planned_start.timestamp(),
        planned_end: row.planned_end.timestamp(),
        done_at: row.done_at.map(crate::Instant::timestamp),
    }
}

fn read_verdict(row: &verdict::Model) -> Verdict {
    Verdict {
        bad_patches: row.bad_patches,
        rim: row.rim,
        middle: row.middle,
        juice: row.juice,
        advice: row.advice.clone(),
        version: row.version,
        given_at: row.given_at.timestamp(),
    }
}
