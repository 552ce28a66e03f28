//! Table `piece_folds`.

use sea_orm::entity::prelude::*;

#[derive(Clone, Debug, PartialEq, Eq, DeriveEntityModel)]
#[sea_orm(table_name = "piece_folds")]
pub struct Model {
    #[sea_orm(primary_key, auto_increment = false)]
    pub piece_id: Uuid,
    pub household_id: Uuid,
    /// Number of the rules it was folded by.
    pub rules: i32,
    /// So many events are in it: all of the piece's, or it is not read.
    pub events: i32,
    #[sea_orm(column_type = "custom(\"longtext\")")]
    pub body: String,
}

#[derive(Copy, Clone, Debug, EnumIter, DeriveRelation)]
pub enum Relation {}

impl ActiveModelBehavior for ActiveModel {}
