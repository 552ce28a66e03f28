//! What cooks call a piece, and what they wrote down about it.

use super::retry::retrying;
use super::{Kitchen, PieceId};
use crate::entity::piece;
use crate::error::StoreError;
use sea_orm::sea_query::Expr;
use sea_orm::{ColumnTrait, EntityTrait, ExprTrait, QueryFilter, TransactionTrait};

impl Kitchen<'_> {
    /// Gives a piece a name and a note. `version` is the one the cook saw: when somebody changed it in between, nothing is
    /// changed and this is a conflict.
    pub async fn call(&self, id: PieceId, version: i32, name: &str, note: &str) -> Result<(), StoreError> {
        let update = || {
            piece::Entity::update_many()
                .col_expr(piece::Column::Name, Expr::value(name))
                .col_expr(piece::Column::Note, Expr::value((!note.is_empty()).then(|| note.to_owned())))
                .col_expr(piece::Column::Version, Expr::col(piece::Column::Version).add(1))
                .filter(piece::Column::HouseholdId.eq(self.household.0))
                .filter(piece::Column::Id.eq(id.0))
                .filter(piece::Column::Version.eq(version))
        };
        let done = retrying(|| async {
            let transaction = self.store.db.begin().await?;
            let done = update().exec(&transaction).await?;
            self.tell(&transaction).await?;
            transaction.commit().await?;
            Ok(done)
        });
        if done.await?.rows_affected > 0 {
            return Ok(());
        }
        let known = self.pieces_query().filter(piece::Column::Id.eq(id.0)).one(&self.store.db).await?;
        Err(if known.is_some() { StoreError::Conflict } else { StoreError::NotFound })
    }
}
