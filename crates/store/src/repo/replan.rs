//! A kept piece planned anew: its request, plan, steps and bowls change together or not at all.

use super::retry::retrying;
use super::{Kitchen, NewPiece, PieceId};
use crate::Instant;
use crate::entity::{bowl, piece, step};
use crate::error::StoreError;
use sea_orm::sea_query::Expr;
use sea_orm::{ColumnTrait, DbErr, EntityTrait, ExprTrait, QueryFilter, Set, TransactionTrait};
use uuid::Uuid;

/// What planning anew did.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Replanned {
    /// Done.
    Done,
    /// Somebody else's change came first.
    Changed,
    /// A step that is done already has no place in the new plan.
    DoneAlready,
}

/// Positions are unique; what stays is moved out of the way first.
const OUT_OF_THE_WAY: i32 = 10_000;

impl Kitchen<'_> {
    /// Puts a new plan in the place of the old one, if the piece still has the version the cook saw.
    ///
    /// Steps keep their ticks by kind; bowls already weighed stay as they are, the others get their new grams.
    pub async fn replan(&self, id: PieceId, version: i32, new: &NewPiece) -> Result<Replanned, StoreError> {
        let outcome = retrying(|| self.replan_once(id, version, new)).await?;
        outcome.ok_or(StoreError::NotFound)
    }

    async fn replan_once(&self, id: PieceId, version: i32, new: &NewPiece) -> Result<Option<Replanned>, DbErr> {
        let transaction = self.store.db.begin().await?;
        let Some(row) = self.locked(id, &transaction).await? else { return Ok(None) };
        if row.version != version {
            return Ok(Some(Replanned::Changed));
        }
        let steps = || step::Column::HouseholdId.eq(self.household.0).and(step::Column::PieceId.eq(id.0));
        let before = step::Entity::find().filter(steps()).all(&transaction).await?;
        let done: Vec<&step::Model> = before.iter().filter(|s| s.done_at.is_some()).collect();
        if done.iter().any(|s| !new.steps.iter().any(|(kind, ..)| *kind == s.kind)) {
            return Ok(Some(Replanned::DoneAlready));
        }
        step::Entity::delete_many().filter(steps()).filter(step::Column::DoneAt.is_null()).exec(&transaction).await?;
        step::Entity::update_many()
            .col_expr(step::Column::Position, Expr::col(step::Column::Position).add(OUT_OF_THE_WAY))
            .filter(steps())
            .exec(&transaction)
            .await?;
        let mut fresh = Vec::new();
        for ((kind, place, start, end), position) in new.steps.iter().zip(0..) {
            if let Some(kept) = done.iter().find(|s| s.kind == *kind) {
                step::Entity::update_many()
                    .col_expr(step::Column::Position, Expr::value(position))
                    .col_expr(step::Column::PlannedStart, Expr::value(Instant::from(*start)))
                    .col_expr(step::Column::PlannedEnd, Expr::value(Instant::from(*end)))
                    .filter(steps())
                    .filter(step::Column::Id.eq(kept.id))
                    .exec(&transaction)
                    .await?;
                continue;
            }
            // A step of the same kind keeps its id, so that a page still open finds it.
            let known = before.iter().find(|s| s.kind == *kind).map_or_else(Uuid::now_v7, |s| s.id);
            fresh.push(step::ActiveModel {
                id: Set(known),
                household_id: Set(self.household.0),
                piece_id: Set(id.0),
                position: Set(position),
                kind: Set(kind.clone()),
                place: Set(place.clone()),
                planned_start: Set((*start).into()),
                planned_end: Set((*end).into()),
                done_at: Set(None),
            });
        }
        if !fresh.is_empty() {
            step::Entity::insert_many(fresh).exec_without_returning(&transaction).await?;
        }
        for bowl in &new.bowls {
            bowl::Entity::update_many()
                .col_expr(bowl::Column::TargetG, Expr::value(bowl.target_g))
                .filter(bowl::Column::HouseholdId.eq(self.household.0))
                .filter(bowl::Column::PieceId.eq(id.0))
                .filter(bowl::Column::Face.eq(bowl.face.as_str()))
                .filter(bowl::Column::WeighedG.is_null())
                .exec(&transaction)
                .await?;
        }
        piece::Entity::update_many()
            .col_expr(piece::Column::Request, Expr::value(new.request.as_str()))
            .col_expr(piece::Column::Plan, Expr::value(new.plan.as_str()))
            .col_expr(piece::Column::SchemaNo, Expr::value(i32::try_from(new.schema_no).unwrap_or(i32::MAX)))
            .col_expr(piece::Column::ServeAt, Expr::value(Instant::from(new.serve_at)))
            .col_expr(piece::Column::Version, Expr::value(version + 1))
            .filter(piece::Column::Id.eq(id.0))
            .exec(&transaction)
            .await?;
        transaction.commit().await?;
        Ok(Some(Replanned::Done))
    }
}
