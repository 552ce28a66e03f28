//! Table `dials`.

use crate::instant::Instant;
use sea_orm::entity::prelude::*;

#[derive(Clone, Debug, PartialEq, DeriveEntityModel)]
#[sea_orm(table_name = "dials")]
pub struct Model {
    #[sea_orm(primary_key, auto_increment = false)]
    pub household_id: Uuid,
    #[sea_orm(primary_key, auto_increment = false)]
    pub source: String,
    #[sea_orm(column_type = "Double")]
    pub off_k: f64,
    pub changed_at: Instant,
}

#[derive(Copy, Clone, Debug, EnumIter, DeriveRelation)]
pub enum Relation {}

impl ActiveModelBehavior for ActiveModel {}
