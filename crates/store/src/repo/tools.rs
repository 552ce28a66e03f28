//! Tools of a household, and the stretches of work done with them.

use super::kit::{Added, MOST, changed, is_duplicate};
use super::retry::retrying;
use super::{Kitchen, PieceId, ToolId};
use crate::Instant;
use crate::entity::{kit_tool, piece, skin_run};
use crate::error::StoreError;
use jiff::Timestamp;
use sea_orm::sea_query::Expr;
use sea_orm::{
    ActiveModelTrait, ColumnTrait, DbErr, EntityTrait, IntoActiveModel, PaginatorTrait, QueryFilter, QueryOrder, QuerySelect, Set,
    TransactionTrait,
};
use uuid::Uuid;

/// A tool of this household.
#[derive(Debug, Clone, PartialEq)]
pub struct KitTool {
    /// Which.
    pub id: ToolId,
    /// What it is called.
    pub name: String,
    /// How deep it can go.
    pub reach_mm: f64,
    /// What stops it: `set`, `fixed` or `none`.
    pub stop: String,
    /// Pins a press; `None` for a blade.
    pub pins: Option<i32>,
}

/// A stretch of work with knife or pick.
#[derive(Debug, Clone, PartialEq)]
pub struct SkinRun {
    /// Stable name of the tool.
    pub tool_id: String,
    /// Presses, or centimetres of cut.
    pub amount: f64,
    /// When the hands began.
    pub started_at: Timestamp,
    /// Since when they pause, if they do.
    pub held_since: Option<Timestamp>,
    /// Pauses before that, s.
    pub held_s: f64,
    /// How far the light was sent back, s.
    pub back_s: f64,
    /// When they were done.
    pub stopped_at: Option<Timestamp>,
    /// Picks laid out.
    pub picks_out: Option<i32>,
    /// Picks counted back.
    pub picks_in: Option<i32>,
}

impl SkinRun {
    /// Seconds of work until `now`, pauses left out.
    pub fn worked_s(&self, now: Timestamp) -> f64 {
        let end = self.stopped_at.unwrap_or(now);
        let pause = self.held_since.map_or(0.0, |since| end.duration_since(since).as_secs_f64().max(0.0));
        (end.duration_since(self.started_at).as_secs_f64() - self.held_s - pause).max(0.0)
    }
}

/// What a hand does to a running stretch.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Hand {
    /// Pauses; said twice it pauses once.
    Hold,
    /// Goes on after a pause.
    GoOn,
    /// Sends the light back by so many seconds.
    Back(f64),
    /// Misses one pick more; after three it counts from none again.
    Missing,
    /// Is done; picks not missed are back.
    Stop,
    /// Was not done after all.
    GoOnAgain,
}

/// A stretch shorter than this says nothing about a pace, s.
const TOO_SHORT_S: f64 = 20.0;
/// Nobody loses more picks than this in one piece.
const MOST_MISSED: i32 = 3;
/// Earlier stretches that a pace is learned from.
const REMEMBERED: u64 = 10;

impl Kitchen<'_> {
    /// Hangs up a tool; `tool.id` is ignored. The same form key never hangs two.
    pub async fn add_tool(&self, form_key: &str, tool: &KitTool, now: Timestamp) -> Result<Added<ToolId>, StoreError> {
        let mine = || kit_tool::Entity::find().filter(kit_tool::Column::HouseholdId.eq(self.household.0));
        let before = || async { mine().filter(kit_tool::Column::FormKey.eq(form_key)).one(&self.store.db).await };
        if let Some(row) = before().await? {
            return Ok(Added::Before(ToolId(row.id)));
        }
        if mine().filter(kit_tool::Column::DeletedAt.is_null()).count(&self.store.db).await? >= MOST {
            return Ok(Added::Full);
        }
        let id = Uuid::now_v7();
        let row = || kit_tool::ActiveModel {
            id: Set(id),
            household_id: Set(self.household.0),
            form_key: Set(form_key.to_owned()),
            name: Set(tool.name.clone()),
            reach_mm: Set(tool.reach_mm),
            stop: Set(tool.stop.clone()),
            pins: Set(tool.pins),
            created_at: Set(now.into()),
            deleted_at: Set(None),
        };
        match retrying(|| kit_tool::Entity::insert(row()).exec_without_returning(&self.store.db)).await {
            Ok(_) => Ok(Added::New(ToolId(id))),
            Err(error) if is_duplicate(&error) => Ok(before().await?.map_or(Added::NameTaken, |row| Added::Before(ToolId(row.id)))),
            Err(error) => Err(error.into()),
        }
    }

    /// Tools that hang in the Kit, by name.
    pub async fn tools(&self) -> Result<Vec<KitTool>, StoreError> {
        let rows = kit_tool::Entity::find()
            .filter(kit_tool::Column::HouseholdId.eq(self.household.0))
            .filter(kit_tool::Column::DeletedAt.is_null())
            .order_by_asc(kit_tool::Column::Name)
            .all(&self.store.db)
            .await?;
        let read =
            |row: kit_tool::Model| KitTool { id: ToolId(row.id), name: row.name, reach_mm: row.reach_mm, stop: row.stop, pins: row.pins };
        Ok(rows.into_iter().map(read).collect())
    }

    /// Takes a tool out of the Kit, or puts it back; refused as a conflict where its name was given away meanwhile.
    pub async fn set_tool_deleted(&self, id: ToolId, at: Option<Timestamp>) -> Result<(), StoreError> {
        let done = kit_tool::Entity::update_many()
            .col_expr(kit_tool::Column::DeletedAt, Expr::value(at.map(Instant::from)))
            .filter(kit_tool::Column::HouseholdId.eq(self.household.0))
            .filter(kit_tool::Column::Id.eq(id.0))
            .exec(&self.store.db)
            .await;
        changed(done)
    }

    /// The stretch of work on one step of a piece.
    pub async fn skin_run(&self, id: PieceId, step_kind: &str) -> Result<Option<SkinRun>, StoreError> {
        let row = self.run_query(id, step_kind).one(&self.store.db).await?;
        Ok(row.map(|row| read_run(&row)))
    }

    fn run_query(&self, id: PieceId, step_kind: &str) -> sea_orm::Select<skin_run::Entity> {
        skin_run::Entity::find()
            .filter(skin_run::Column::HouseholdId.eq(self.household.0))
            .filter(skin_run::Column::PieceId.eq(id.0))
            .filter(skin_run::Column::StepKind.eq(step_kind))
    }

    /// The hands begin. Beginning twice keeps the first moment.
    pub async fn begin_run(&self, id: PieceId, step_kind: &str, run: &SkinRun) -> Result<(), StoreError> {
        let mine = piece::Entity::find().filter(piece::Column::HouseholdId.eq(self.household.0)).filter(piece::Column::Id.eq(id.0));
        mine.one(&self.store.db).await?.ok_or(StoreError::NotFound)?;
        let row = || skin_run::ActiveModel {
            piece_id: Set(id.0),
            step_kind: Set(step_kind.to_owned()),
            household_id: Set(self.household.0),
            tool_id: Set(run.tool_id.clone()),
            amount: Set(run.amount),
            started_at: Set(run.started_at.into()),
            held_since: Set(None),
            held_s: Set(0.0),
            back_s: Set(0.0),
            stopped_at: Set(None),
            picks_out: Set(run.picks_out),
            picks_in: Set(None),
        };
        match retrying(|| skin_run::Entity::insert(row()).exec_without_returning(&self.store.db)).await {
            Err(error) if !is_duplicate(&error) => Err(error.into()),
            _ => Ok(()),
        }
    }

    /// What a hand does to it.
    pub async fn move_run(&self, id: PieceId, step_kind: &str, hand: Hand, now: Timestamp) -> Result<(), StoreError> {
        let found = retrying(|| self.move_run_once(id, step_kind, hand, now)).await?;
        if found { Ok(()) } else { Err(StoreError::NotFound) }
    }

    async fn move_run_once(&self, id: PieceId, step_kind: &str, hand: Hand, now: Timestamp) -> Result<bool, DbErr> {
        let transaction = self.store.db.begin().await?;
        let Some(row) = self.run_query(id, step_kind).lock_exclusive().one(&transaction).await? else { return Ok(false) };
        let run = read_run(&row);
        let mut change = row.into_active_model();
        // A pause ends with whatever the hand does next.
        let pause = run.held_since.map_or(0.0, |since| now.duration_since(since).as_secs_f64().max(0.0));
        match hand {
            Hand::Hold if run.held_since.is_some() => return Ok(true),
            Hand::Hold => change.held_since = Set(Some(now.into())),
            Hand::Back(seconds) => change.back_s = Set((run.back_s + seconds.clamp(0.0, 3600.0)).min(run.worked_s(now))),
            Hand::Missing => {
                let Some(out) = run.picks_out else { return Ok(true) };
                let lost = out - run.picks_in.unwrap_or(out);
                change.picks_in = Set(Some(out - (lost + 1) % (out.min(MOST_MISSED) + 1)));
            }
            Hand::GoOn | Hand::Stop => {
                change.held_since = Set(None);
                change.held_s = Set(run.held_s + pause);
            }
            Hand::GoOnAgain => {
                // The time between done and not done was no work.
                let gone = run.stopped_at.map_or(0.0, |at| now.duration_since(at).as_secs_f64().max(0.0));
                change.held_s = Set(run.held_s + gone);
                change.stopped_at = Set(None);
                change.picks_in = Set(None);
            }
        }
        if hand == Hand::Stop {
            change.stopped_at = Set(Some(run.stopped_at.unwrap_or(now).into()));
            change.picks_in = Set(run.picks_in.or(run.picks_out));
        }
        change.update(&transaction).await?;
        transaction.commit().await?;
        Ok(true)
    }

    /// Earlier stretches with a tool, newest first: (amount, minutes). Those of a few seconds are left out.
    pub async fn paces(&self, tool_id: &str) -> Result<Vec<(f64, f64)>, StoreError> {
        let rows = skin_run::Entity::find()
            .filter(skin_run::Column::HouseholdId.eq(self.household.0))
            .filter(skin_run::Column::ToolId.eq(tool_id))
            .filter(skin_run::Column::StoppedAt.is_not_null())
            .order_by_desc(skin_run::Column::StoppedAt)
            .limit(REMEMBERED)
            .all(&self.store.db)
            .await?;
        let worked = rows.iter().map(read_run).map(|run| (run.amount, run.worked_s(run.started_at)));
        Ok(worked.filter(|(_, s)| *s >= TOO_SHORT_S).map(|(amount, s)| (amount, s / 60.0)).collect())
    }
}

fn read_run(row: &skin_run::Model) -> SkinRun {
    SkinRun {
        tool_id: row.tool_id.clone(),
        amount: row.amount,
        started_at: row.started_at.timestamp(),
        held_since: row.held_since.map(Instant::timestamp),
        held_s: row.held_s,
        back_s: row.back_s,
        stopped_at: row.stopped_at.map(Instant::timestamp),
        picks_out: row.picks_out,
        picks_in: row.picks_in,
    }
}
