//! Table `pairings`.

use crate::instant::Instant;
use sea_orm::entity::prelude::*;

#[derive(Clone, Debug, PartialEq, DeriveEntityModel)]
#[sea_orm(table_name = "pairings")]
pub struct Model {
    #[sea_orm(primary_key, auto_increment = false)]
    pub id: Uuid,
    pub code: String,
    pub token_hash: String,
    pub name: String,
    #[sea_orm(column_type = "Double")]
    pub step_g: f64,
    #[sea_orm(column_type = "Double")]
    pub capacity_g: f64,
    pub until_at: Instant,
}

#[derive(Copy, Clone, Debug, EnumIter, DeriveRelation)]
pub enum Relation {}

impl ActiveModelBehavior for ActiveModel {}
