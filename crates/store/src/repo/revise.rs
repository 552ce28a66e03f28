//! A kept plan made anew: a version beside the earlier ones, which can be taken back.

use super::kitchen::{NewPlan, number};
use super::line::{Delivery, Line};
use super::retry::retrying;
use super::{Appended, CookId, Kitchen, PieceId};
use crate::entity::{piece, plan_version};
use crate::error::StoreError;
use jiff::Timestamp;
use rauchkeller_core::run::{Event, What};
use sea_orm::sea_query::Expr;
use sea_orm::{ColumnTrait, DatabaseTransaction, DbErr, EntityTrait, QueryFilter, QueryOrder, QuerySelect, Set, TransactionTrait};
use uuid::Uuid;

/// What revising did.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Revised {
    /// Done.
    Done,
    /// Somebody else's change came first.
    Changed,
}

/// One version of a plan.
#[derive(Debug, Clone, PartialEq)]
pub struct PlanVersion {
    /// Which, from 1.
    pub version: i32,
    /// Number of the rules that made it.
    pub rules: i32,
    /// The request with every guess written out.
    pub request: String,
    /// The plan.
    pub plan: String,
    /// When it was made.
    pub made_at: Timestamp,
}

/// A plan to be put over the one that stands.
#[derive(Debug, Clone, Copy)]
pub struct Revision<'a> {
    /// The plan.
    pub plan: &'a NewPlan,
    /// What the piece is called from now on, where that changes with it.
    pub name: Option<&'a str>,
    /// What is noted with it, or not at all.
    pub facts: &'a [Event],
    /// The event it becomes: its id and moment.
    pub event: &'a Event,
    /// Who makes it.
    pub cook: Option<CookId>,
}

impl Kitchen<'_> {
    pub(super) async fn insert_plan(
        &self,
        piece: PieceId,
        version: i32,
        plan: &NewPlan,
        now: Timestamp,
        transaction: &DatabaseTransaction,
    ) -> Result<(), DbErr> {
        let row = plan_version::ActiveModel {
            piece_id: Set(piece.0),
            version: Set(version),
            household_id: Set(self.household.0),
            schema_no: Set(number(plan.schema_no)),
            rules: Set(number(plan.rules)),
            request: Set(plan.request.clone()),
            plan: Set(plan.plan.clone()),
            serve_at: Set(plan.serve_at.into()),
            made_at: Set(now.into()),
        };
        plan_version::Entity::insert(row).exec_without_returning(transaction).await?;
        Ok(())
    }

    /// Every version of a piece's plan, the first first.
    pub async fn plan_versions(&self, id: PieceId) -> Result<Vec<PlanVersion>, StoreError> {
        let rows = plan_version::Entity::find()
            .filter(plan_version::Column::HouseholdId.eq(self.household.0))
            .filter(plan_version::Column::PieceId.eq(id.0))
            .order_by_asc(plan_version::Column::Version)
            .all(&self.store.db)
            .await?;
        let read = |row: plan_version::Model| PlanVersion {
            version: row.version,
            rules: row.rules,
            request: row.request,
            plan: row.plan,
            made_at: row.made_at.timestamp(),
        };
        Ok(rows.into_iter().map(read).collect())
    }

    /// Puts a new plan over the one that stands, if the piece still has the version the cook saw: all of it, or nothing. Ticks and
    /// all other events stay as they are.
    pub async fn revise(&self, id: PieceId, seen: i32, revision: Revision<'_>) -> Result<Revised, StoreError> {
        let _turn = Line::of(&self.store.lines, id).turn().await;
        retrying(|| self.revise_once(id, seen, revision)).await?.ok_or(StoreError::NotFound)
    }

    async fn revise_once(&self, id: PieceId, seen: i32, revision: Revision<'_>) -> Result<Option<Revised>, DbErr> {
        let Revision { plan, name, facts, event: revised, cook } = revision;
        let transaction = self.store.db.begin().await?;
        let Some(mut row) = self.locked(id, &transaction).await? else { return Ok(None) };
        // The same form sent again finds its own event.
        let known = self.events_query().filter(crate::entity::event::Column::Id.eq(Uuid::from_u128(revised.id.0)));
        if known.one(&transaction).await?.is_some() {
            return Ok(Some(Revised::Done));
        }
        if row.version != seen {
            return Ok(Some(Revised::Changed));
        }
        let last: Option<i32> = plan_version::Entity::find()
            .select_only()
            .column_as(plan_version::Column::Version.max(), "last")
            .filter(plan_version::Column::PieceId.eq(id.0))
            .into_tuple()
            .one(&transaction)
            .await?
            .flatten();
        let version = last.unwrap_or(row.plan_version) + 1;
        self.insert_plan(id, version, plan, revised.at, &transaction).await?;
        if let Some(name) = name {
            piece::Entity::update_many()
                .col_expr(piece::Column::Name, Expr::value(name))
                .filter(piece::Column::Id.eq(id.0))
                .exec(&transaction)
                .await?;
        }
        let says = What::PlanRevised { over: row.plan_version.unsigned_abs(), version: version.unsigned_abs() };
        let mut events = facts.to_vec();
        events.push(Event { what: says, ..revised.clone() });
        row.last_task = Some(plan.last_task.clone());
        let delivery = Delivery { events, cook, seen: None };
        match self.append_to(&row, std::slice::from_ref(&delivery), &transaction).await?.first() {
            Some(Appended::Done { .. }) => {
                self.tell(&transaction).await?;
                transaction.commit().await?;
                Ok(Some(Revised::Done))
            }
            _ => Ok(Some(Revised::Changed)),
        }
    }

    /// Makes one of the versions the plan that stands.
    pub(super) async fn stand_by_plan(&self, piece: Uuid, version: i32, transaction: &DatabaseTransaction) -> Result<(), DbErr> {
        let found = plan_version::Entity::find_by_id((piece, version)).filter(plan_version::Column::HouseholdId.eq(self.household.0));
        let Some(row) = found.one(transaction).await? else { return Ok(()) };
        let last = serde_json::from_str::<serde_json::Value>(&row.plan).ok().and_then(|plan| {
            let step = plan["steps"].as_array()?.last()?.clone();
            let named = step["id"].as_str().filter(|id| !id.is_empty()).or_else(|| step["kind"].as_str());
            named.map(str::to_owned)
        });
        piece::Entity::update_many()
            .col_expr(piece::Column::Request, Expr::value(row.request))
            .col_expr(piece::Column::Plan, Expr::value(row.plan))
            .col_expr(piece::Column::SchemaNo, Expr::value(row.schema_no))
            .col_expr(piece::Column::Rules, Expr::value(row.rules))
            .col_expr(piece::Column::ServeAt, Expr::value(row.serve_at))
            .col_expr(piece::Column::PlanVersion, Expr::value(version))
            .col_expr(piece::Column::LastTask, Expr::value(last))
            .filter(piece::Column::Id.eq(piece))
            .exec(transaction)
            .await?;
        Ok(())
    }
}
